package people

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"nexufix/core/rights"
	"nexufix/exchange"
	"nexufix/store"
)

// minToken is the least length of a token that a person chose. Generated ones are longer.
const minToken = 16

// TokenHash is a token as it is stored.
func TokenHash(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
}

// Token is what a script sends in place of a session.
type Token struct {
	Login string       `json:"login" required:"true" maxLength:"64"`
	Name  string       `json:"name,omitempty" maxLength:"80" description:"What it is for, in words."`
	Text  string       `json:"-"` // "": one is generated
	Role  Role         `json:"role" required:"true" enum:"reader,engineer,approver,administrator" description:"The highest it can have."`
	Acts  []rights.Act `json:"acts,omitempty" maxItems:"20" description:"What it may do, as look, edit; absent: all that its role may."`
	Days  int          `json:"days" required:"true" minimum:"1" maximum:"366" description:"It is valid; a change of the account ends it earlier."`
}

// Add stores the token for its person, tells them, and returns its text.
func (t *Token) Add(ctx context.Context, st *store.Store, by Person) (string, error) {
	if err := by.May(rights.People, nil); err != nil {
		return "", err
	}
	var wrong exchange.Problems
	text := cmp.Or(t.Text, rand.Text())
	if len(text) < minToken || len(text) > 200 || strings.ContainsFunc(text, func(r rune) bool { return r <= ' ' || r > '~' }) {
		wrong = append(wrong, exchange.Problem{Path: "token", Found: fmt.Sprintf("has %d letters, or odd ones", len(text)),
			Allowed: fmt.Sprintf("%d to 200 letters, digits and signs without a space", minToken)})
	}
	for i, a := range t.Acts {
		if can := rights.ForTokens(); !slices.Contains(can, a) {
			wrong = append(wrong, exchange.Problem{Path: fmt.Sprintf("acts[%d]", i), Found: fmt.Sprintf("is %q", a), Allowed: rights.List(can)})
		}
	}
	if store.OneLine(t.Name) != t.Name {
		wrong = append(wrong, exchange.Problem{Path: "name", Found: "has odd letters", Allowed: "a name on one line"})
	}
	if wrong != nil {
		return "", wrong
	}
	p, err := st.PersonByLogin(ctx, t.Login)
	if err != nil {
		return "", err
	}
	said := fmt.Sprintf("token given, %s, until %s", t.words(), time.Now().AddDate(0, 0, t.Days).Format(time.DateOnly))
	return text, st.AddToken(ctx, TokenHash(text), store.Token{Person: p.ID, Name: t.Name, Role: string(t.Role), Acts: joined(t.Acts),
		Until: store.Stamp(time.Now().AddDate(0, 0, t.Days))}, p.Epoch, by.auditEntry("token given", t.Login+": "+t.words()),
		told(&p, by, said))
}

// words say what a token is.
func (t *Token) words() string {
	out := "as " + string(t.Role)
	if t.Name != "" {
		out = t.Name + ", " + out
	}
	if t.Acts != nil {
		out += ", to " + rights.List(t.Acts)
	}
	return out
}

// joined and split are acts as they are stored.
func joined(acts []rights.Act) string { return strings.ReplaceAll(rights.List(acts), " ", "") }

func split(acts string) (out []rights.Act) {
	for a := range strings.SplitSeq(acts, ",") {
		if a != "" {
			out = append(out, rights.Act(a))
		}
	}
	return out
}

// GivenToken is a token that is good, without its text.
type GivenToken struct {
	ID    int64        `json:"id" required:"true"`
	Login string       `json:"login" required:"true"`
	Name  string       `json:"name,omitempty"`
	Role  Role         `json:"role" required:"true"`
	Acts  []rights.Act `json:"acts,omitempty"`
	At    string       `json:"at,omitempty"`
	Until string       `json:"until" required:"true"`
	Used  string       `json:"used,omitempty" description:"When it was used last, within five minutes; absent: never."`
}

// Tokens lists the tokens of an account, 0: of all.
func Tokens(ctx context.Context, st *store.Store, person int64) ([]GivenToken, error) {
	all, err := st.Tokens(ctx, person)
	out := []GivenToken{}
	for i := range all {
		t := &all[i]
		out = append(out, GivenToken{t.ID, t.Login, t.Name, Role(t.Role), split(t.Acts), t.At, t.Until, t.Used})
	}
	return out, err
}

// EndToken ends a token: one's own, or an administrator any.
func EndToken(ctx context.Context, st *store.Store, by Person, id int64) error {
	if err := by.May(rights.Password, nil); err != nil {
		return err
	}
	return st.EndToken(ctx, id, by.auditEntry("token ended", fmt.Sprintf("number %d", id)), by.May(rights.People, nil) == nil)
}

// tokenUsedBy is how exactly the last use of a token is stored.
const tokenUsedBy = 5 * time.Minute

// ByToken finds the person of a token, with the lower of its role and theirs; false where it is unknown or has expired.
func ByToken(ctx context.Context, st *store.Store, token string) (Person, bool, error) {
	p, t, err := st.PersonByToken(ctx, TokenHash(token))
	if errors.Is(err, store.ErrNotFound) {
		return Person{}, false, nil
	}
	if err != nil {
		return Person{}, false, err
	}
	out := PersonOf(&p)
	out.Script, out.Acts = true, split(t.Acts)
	if !Role(t.Role).May(out.Role) {
		out.Role = Role(t.Role)
	}
	used, _ := time.Parse(time.RFC3339Nano, t.Used) // "": long ago
	if ago := time.Since(used); !st.OnlyReads() && (ago > tokenUsedBy || ago < 0) {
		_ = st.TokenUsed(ctx, t.ID, time.Now()) // looking goes on where nothing can be written
	}
	return out, true, nil
}
