package app

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"
	"unicode"

	"nexufix/core/rights"
	"nexufix/exchange"
	"nexufix/store"
)

// Role is a set of permissions, see [rights.Table].
type Role = rights.Role

// The roles.
const (
	Nobody        = rights.Nobody
	Reader        = rights.Reader
	Engineer      = rights.Engineer
	Approver      = rights.Approver
	Administrator = rights.Administrator
)

// Person is who makes a request: signed in with an account, or the local user of a desk without accounts.
type Person struct {
	ID    int64 // 0: the local person, or nobody
	Login string
	Name  string
	Role  Role
	Local bool
	// Script marks a request with a token in place of a session: it changes accounts only with an administrator's token.
	Script bool
	// Given marks a person whose password somebody else gave them: they change it before they do anything else.
	Given bool
}

// May reports why the person may not do an act, see [rights.May].
func (p Person) May(act rights.Act, of *rights.Of) error {
	return rights.May(act, rights.Who{ID: p.ID, Role: p.Role, Token: p.Script}, of)
}

// auditEntry is an entry of the audit: what the person did.
func (p Person) auditEntry(what, about string) store.Happened {
	h := store.Happened{Who: p.Name, What: what, About: about}
	if p.ID > 0 {
		h.Person.Int64, h.Person.Valid = p.ID, true
	}
	return h
}

// Identity is an account's name and its ways to sign in.
type Identity struct {
	Login    string `json:"login" required:"true" pattern:"^[A-Za-z0-9][A-Za-z0-9._@-]{1,63}$"`
	Name     string `json:"name" required:"true" minLength:"1" maxLength:"80"`
	Password string `json:"password,omitempty" maxLength:"400" description:"Of who signs in by single sign-on, none is needed."`
}

// NewPerson is an account to be added.
type NewPerson struct {
	Identity
	Role Role `json:"role" required:"true" enum:"reader,engineer,approver,administrator"`
	SSO  bool `json:"sso,omitempty" description:"Signs in by single sign-on: the identity provider knows them by this login."`
	// The password is given to them: they choose another at their first sign-in.
	Given bool `json:"-"`
	Demo  bool `json:"-"` // has no password, and signs in to a demo with one press
}

// check reports every fault of a new account, however it is added.
func (n *NewPerson) check() error {
	raw, err := json.Marshal(n)
	if err != nil {
		return err
	}
	var wrong exchange.Problems
	if err := exchange.ReadInto(raw, new(NewPerson)); err != nil && !errors.As(err, &wrong) {
		return err
	}
	if strings.TrimSpace(n.Name) == "" || store.OneLine(n.Name) != n.Name || misleads(n.Name) {
		wrong = append(wrong, exchange.Problem{Path: "name", Found: "is empty or has odd letters", Allowed: "a name on one line"})
	}
	if p := checkPassword("password", n.Password, n.Login, n.Name); p != nil && !n.Demo && (!n.SSO || n.Password != "") {
		wrong = append(wrong, *p)
	}
	if wrong == nil {
		return nil
	}
	return wrong
}

// misleads reports whether a name could pass for another: by letters that are not seen or turn the line round, or by words of letters from
// several of the alphabets that have the same forms.
func misleads(name string) bool {
	if strings.ContainsFunc(name, func(r rune) bool { return unicode.In(r, unicode.Cf, unicode.Co, unicode.Zl, unicode.Zp) }) {
		return true
	}
	for _, word := range strings.Fields(name) {
		alphabets := map[*unicode.RangeTable]bool{}
		for _, r := range word {
			for _, a := range []*unicode.RangeTable{unicode.Latin, unicode.Cyrillic, unicode.Greek, unicode.Armenian, unicode.Cherokee} {
				if unicode.Is(a, r) {
					alphabets[a] = true
				}
			}
		}
		if len(alphabets) > 1 {
			return true
		}
	}
	return false
}

// Add adds an account. It takes an administrator; the first account takes the setup code instead.
func (n *NewPerson) Add(ctx context.Context, st *store.Store, by Person, first bool) (store.Person, error) {
	if !first {
		if err := by.May(rights.People, nil); err != nil {
			return store.Person{}, err
		}
	}
	if err := n.check(); err != nil {
		return store.Person{}, err
	}
	p := store.Person{Login: n.Login, Name: n.Name, Role: string(n.Role), SSO: n.SSO, Given: n.Given && n.Password != "" && !n.SSO}
	switch {
	case n.Password != "":
		p.Password = HashPassword(n.Password)
	case n.SSO:
		p.Password = noPassword
	}
	p, err := st.AddPerson(ctx, p, first, by.auditEntry("person added", n.Login+" as "+string(n.Role)))
	if errors.Is(err, store.ErrLoginTaken) {
		err = exchange.Problems{{Path: "login", Found: "is taken", Allowed: "one that nobody has"}}
	}
	return p, err
}

// PersonOf makes a Person of a stored account.
func PersonOf(p *store.Person) Person {
	return Person{ID: p.ID, Login: p.Login, Name: p.Name, Role: Role(p.Role), Given: p.Given}
}

// PersonChange is a change to an account; what is nil stays as it is.
type PersonChange struct {
	Role     *Role   `json:"role,omitempty" enum:"reader,engineer,approver,administrator"`
	Disabled *bool   `json:"disabled,omitempty"`
	Password *string `json:"password,omitempty" maxLength:"400"`
	SSO      *bool   `json:"sso,omitempty" description:"Single sign-on; whoever has the login there next is who it is."`
	Current  *string `json:"current,omitempty" maxLength:"400" description:"One's password as it is, for another of one's own."`
}

// words say what is changed.
func (c *PersonChange) words() (said []string) {
	if c.Role != nil {
		said = append(said, "role "+string(*c.Role))
	}
	if c.Disabled != nil {
		said = append(said, map[bool]string{true: "disabled", false: "enabled"}[*c.Disabled])
	}
	if c.SSO != nil {
		said = append(said, map[bool]string{true: "single sign-on", false: "no single sign-on"}[*c.SSO])
	}
	if c.Password != nil {
		said = append(said, "password")
	}
	return said
}

// Change changes an account and ends its sessions. People may change their own password by giving the present one; a script, which has
// none, may not.
func (c *PersonChange) Change(ctx context.Context, st *store.Store, by Person, id int64) (store.Person, error) {
	own := by.ID == id && id > 0
	err := by.May(rights.People, nil)
	if err != nil && own && c.Role == nil && c.Disabled == nil && c.SSO == nil {
		err = by.May(rights.Password, nil)
	}
	if err != nil {
		return store.Person{}, err
	}
	have, err := st.Person(ctx, id)
	if err != nil {
		return store.Person{}, err
	}
	var wrong exchange.Problems
	if own && c.Password != nil && have.Password != "" && (c.Current == nil || !PasswordIs(have.Password, *c.Current)) {
		wrong = append(wrong, exchange.Problem{Path: "current", Found: "is not your password", Allowed: "the one that you signed in with"})
	}
	if own && c.Password != nil && c.Current != nil && *c.Password == *c.Current {
		wrong = append(wrong, exchange.Problem{Path: "password", Found: "is the one that you have", Allowed: "another"})
	}
	if c.Password != nil {
		if p := checkPassword("password", *c.Password, have.Login, have.Name); p != nil {
			wrong = append(wrong, *p)
		}
	}
	if wrong != nil {
		return store.Person{}, wrong
	}
	said := c.words()
	if said == nil {
		return have, nil
	}
	out, err := st.ChangePerson(ctx, id, by.auditEntry("person changed", have.Login+": "+strings.Join(said, ", ")), func(p *store.Person) {
		if c.Role != nil {
			p.Role = string(*c.Role)
		}
		if c.Disabled != nil {
			p.Disabled = *c.Disabled
		}
		if c.SSO != nil {
			p.SSO, p.Subject = *c.SSO, sql.NullString{}
			if *c.SSO && p.Password == "" {
				p.Password = noPassword
			}
		}
		if c.Password != nil {
			p.Password, p.Given = HashPassword(*c.Password), !own && !p.SSO // who comes by the provider has no need of it
		}
	})
	if errors.Is(err, store.ErrLastAdministrator) {
		return out, exchange.Problems{{Path: "role", Found: "is the last administrator's", Allowed: "make another one first"}}
	}
	return out, err
}

// leastToken is the least length of a token that a person chose. Generated ones are longer.
const leastToken = 16

// TokenHash is a token as it is stored.
func TokenHash(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
}

// Token is what a script sends in place of a session.
type Token struct {
	Login string
	Text  string // "": one is generated
	Role  Role   // the highest it can have
	Days  int    // it is valid; a change of the account ends it earlier
}

// Add stores the token for its person and returns its text.
func (t *Token) Add(ctx context.Context, st *store.Store, by Person) (string, error) {
	if err := by.May(rights.People, nil); err != nil {
		return "", err
	}
	text := cmp.Or(t.Text, rand.Text())
	if len(text) < leastToken || len(text) > 200 || strings.ContainsFunc(text, func(r rune) bool { return r <= ' ' || r > '~' }) {
		return "", exchange.Problems{{Path: "token", Found: fmt.Sprintf("has %d letters, or odd ones", len(text)),
			Allowed: fmt.Sprintf("%d to 200 letters, digits and signs without a space", leastToken)}}
	}
	p, err := st.PersonByLogin(ctx, t.Login)
	if err != nil {
		return "", err
	}
	return text, st.AddToken(ctx, TokenHash(text), p, string(t.Role), time.Now().AddDate(0, 0, t.Days), by.auditEntry("token given", t.Login))
}

// ByToken finds the person of a token, with the lower of its role and theirs; false where it is unknown or has expired.
func ByToken(ctx context.Context, st *store.Store, token string) (Person, bool, error) {
	p, most, err := st.PersonByToken(ctx, TokenHash(token))
	if errors.Is(err, store.ErrNotFound) {
		return Person{}, false, nil
	}
	out := PersonOf(&p)
	out.Script = true
	if !Role(most).May(out.Role) {
		out.Role = Role(most)
	}
	return out, err == nil, err
}
