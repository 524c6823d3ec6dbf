package app

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"database/sql"
	"encoding/base64"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"sync"
	"time"
	"unicode/utf8"

	"github.com/trustelem/zxcvbn"
	"golang.org/x/crypto/argon2"

	"nexufix/exchange"
	"nexufix/store"
)

// Role is what somebody may do; each may do what those before it may.
type Role string

// The roles.
const (
	Nobody        Role = "" // who has not signed in
	Reader        Role = "reader"
	Engineer      Role = "engineer"
	Approver      Role = "approver"
	Administrator Role = "administrator"
)

// Roles lists them, the least first.
var Roles = []Role{Reader, Engineer, Approver, Administrator}

// May says whether a role is enough where another is needed.
func (r Role) May(need Role) bool {
	return need == Nobody || slices.Index(Roles, r) >= slices.Index(Roles, need) && slices.Contains(Roles, r)
}

// Person is who asks: signed in, or the local person of a desk of one, who has no account.
type Person struct {
	ID    int64 // 0: the local person, or nobody
	Login string
	Name  string
	Role  Role
	Local bool
	// Script says that a token was shown in place of a session: what it may do to accounts is an administrator's alone.
	Script bool
}

// Forbidden says that something takes another role.
type Forbidden struct{ Need, Have Role }

func (f *Forbidden) Error() string { return fmt.Sprintf("it takes the role %s", f.Need) }

// Check says whether a person may do what takes a role.
func (p Person) Check(need Role) error {
	if p.Role.May(need) {
		return nil
	}
	return &Forbidden{need, p.Role}
}

// auditEntry is what a person did, for the audit.
func (p Person) auditEntry(what, about string) store.Happened {
	h := store.Happened{Who: p.Name, What: what, About: about}
	if p.ID > 0 {
		h.Person.Int64, h.Person.Valid = p.ID, true
	}
	return h
}

// RecordExport says in the audit that somebody has taken the catalogue away, or a part of it.
func RecordExport(ctx context.Context, st *store.Store, by Person, what string) error {
	if by.ID == 0 {
		return nil // a desk of one has no audit
	}
	return st.Note(ctx, by.auditEntry("exported", what))
}

// Cost of a hash: OWASP's second choice of argon2id for 2024 (19 MiB, two passes, one lane).
const (
	hashMemory = 19 * 1024
	hashPasses = 2
	hashLanes  = 1
	hashLength = 32
	saltLength = 16
)

// HashPassword is the hash that is kept of a password, in the PHC format.
func HashPassword(password string) string {
	salt := make([]byte, saltLength)
	rand.Read(salt) // never fails
	key := argon2.IDKey([]byte(password), salt, hashPasses, hashMemory, hashLanes, hashLength)
	b := base64.RawStdEncoding.EncodeToString
	return fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, hashMemory, hashPasses, hashLanes, b(salt), b(key))
}

// PasswordIs says whether a hash is that of a password. A hash that cannot be read is of none.
func PasswordIs(hash, password string) bool {
	var version int
	var memory, passes uint32
	var lanes uint8
	parts := strings.Split(hash, "$")
	if len(parts) != 6 || parts[1] != "argon2id" {
		return false
	}
	if _, err := fmt.Sscanf(parts[2], "v=%d", &version); err != nil || version != argon2.Version {
		return false
	}
	if _, err := fmt.Sscanf(parts[3], "m=%d,t=%d,p=%d", &memory, &passes, &lanes); err != nil || memory > 1<<20 || passes > 20 ||
		passes == 0 || lanes == 0 {
		return false
	}
	salt, err := base64.RawStdEncoding.DecodeString(parts[4])
	key, err2 := base64.RawStdEncoding.DecodeString(parts[5])
	if err != nil || err2 != nil || len(key) == 0 {
		return false
	}
	return subtle.ConstantTimeCompare(key, argon2.IDKey([]byte(password), salt, passes, memory, lanes, uint32(len(key)))) == 1
}

// Limits of a password, in letters; how hard it has to be to guess, of four, by what zxcvbn knows of the passwords, names, words and rows
// of keys that people take; and of how many letters that is found out, which takes longer the more there are.
const (
	leastPassword = 12
	mostPassword  = 200
	hardEnough    = 3
	guessedBy     = 64
)

// checkPassword says what is wrong with a password of somebody.
func checkPassword(path, password, login, name string) *exchange.Problem {
	wrong := func(found string) *exchange.Problem {
		return &exchange.Problem{Path: path, Found: found,
			Allowed: fmt.Sprintf("%d to %d letters that are hard to guess, as some words that have nothing to do "+
				"with each other; not one's name", leastPassword, mostPassword)}
	}
	low := strings.ToLower(password)
	switch n := utf8.RuneCountInString(password); {
	case !utf8.ValidString(password):
		return wrong("is no text")
	case n < leastPassword || n > mostPassword:
		return wrong(fmt.Sprintf("has %d letters", n))
	case len(login) > 2 && strings.Contains(low, strings.ToLower(login)), len(name) > 2 && strings.Contains(low, strings.ToLower(name)):
		return wrong("has the login or the name in it")
	}
	letters := []rune(password)
	hard := zxcvbn.PasswordStrength(string(letters[:min(len(letters), guessedBy)]), []string{login, name, "nexufix", "bracket", "display"})
	if hard.Score < hardEnough {
		return wrong("is a common one, or easily guessed")
	}
	return nil
}

// Identity is who somebody is, and how they show it.
type Identity struct {
	Login    string `json:"login" required:"true" pattern:"^[A-Za-z0-9][A-Za-z0-9._@-]{1,63}$"`
	Name     string `json:"name" required:"true" minLength:"1" maxLength:"80"`
	Password string `json:"password,omitempty" maxLength:"400" description:"Of who signs in by single sign-on, none is needed."`
}

// NewPerson is somebody who is to be added.
type NewPerson struct {
	Identity
	Role Role `json:"role" required:"true" enum:"reader,engineer,approver,administrator"`
	SSO  bool `json:"sso,omitempty" description:"Signs in by single sign-on: the identity provider knows them by this login."`
	Demo bool `json:"-"` // has no password, and signs in to a demo with one press
}

// check says everything that is wrong with somebody new, whichever way they came.
func (n *NewPerson) check() error {
	raw, err := json.Marshal(n)
	if err != nil {
		return err
	}
	var wrong exchange.Problems
	if err := exchange.ReadInto(raw, new(NewPerson)); err != nil && !errors.As(err, &wrong) {
		return err
	}
	if strings.TrimSpace(n.Name) == "" || store.OneLine(n.Name) != n.Name {
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

// Add adds somebody; by has to be an administrator, or, for the first one, knows the code.
func (n *NewPerson) Add(ctx context.Context, st *store.Store, by Person, first bool) (store.Person, error) {
	if !first {
		if err := by.Check(Administrator); err != nil {
			return store.Person{}, err
		}
	}
	if err := n.check(); err != nil {
		return store.Person{}, err
	}
	p := store.Person{Login: n.Login, Name: n.Name, Role: string(n.Role), SSO: n.SSO}
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

// PersonOf is who is kept.
func PersonOf(p *store.Person) Person {
	return Person{ID: p.ID, Login: p.Login, Name: p.Name, Role: Role(p.Role)}
}

// PersonChange is what is changed of somebody; nil: not that.
type PersonChange struct {
	Role     *Role   `json:"role,omitempty" enum:"reader,engineer,approver,administrator"`
	Disabled *bool   `json:"disabled,omitempty"`
	Password *string `json:"password,omitempty" maxLength:"400"`
	SSO      *bool   `json:"sso,omitempty" description:"Single sign-on; whoever has the login there next is who it is."`
	Current  *string `json:"current,omitempty" maxLength:"400" description:"One's password as it is, for another of one's own."`
}

// Change changes somebody, whose sessions end. Everybody may change a password of their own who knows the one that it has; a script,
// which does not, may not.
func (c *PersonChange) Change(ctx context.Context, st *store.Store, by Person, id int64) (store.Person, error) {
	own := by.ID == id && id > 0
	if err := by.Check(Administrator); err != nil && (!own || by.Script || c.Role != nil || c.Disabled != nil || c.SSO != nil) {
		return store.Person{}, err
	}
	have, err := st.Person(ctx, id)
	if err != nil {
		return store.Person{}, err
	}
	var said []string
	var wrong exchange.Problems
	if own && c.Password != nil && have.Password != "" && (c.Current == nil || !PasswordIs(have.Password, *c.Current)) {
		wrong = append(wrong, exchange.Problem{Path: "current", Found: "is not your password", Allowed: "the one that you signed in with"})
	}
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
		if p := checkPassword("password", *c.Password, have.Login, have.Name); p != nil {
			wrong = append(wrong, *p)
		}
		said = append(said, "password")
	}
	if wrong != nil {
		return store.Person{}, wrong
	}
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
			p.Password = HashPassword(*c.Password)
		}
	})
	if errors.Is(err, store.ErrLastAdministrator) {
		return out, exchange.Problems{{Path: "role", Found: "is the last administrator's", Allowed: "make another one first"}}
	}
	return out, err
}

// nobodys is a hash that is compared with where there is no such login, or no password, so that it takes as long.
// It is made when somebody first signs in: it takes 19 MB.
var nobodys = sync.OnceValue(func() string { return HashPassword(rand.Text()) })

// leastToken is how long a token is that somebody chose; those that are made are longer.
const leastToken = 16

func tokenHash(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
}

// Token is what a script shows in place of a session.
type Token struct {
	Login string
	Text  string // "": one is made up
	Role  Role   // the most that may be done with it
	Days  int    // how long it holds; it ends before when the account is changed
}

// Add gives the token to the person and says what it is.
func (t *Token) Add(ctx context.Context, st *store.Store, by Person) (string, error) {
	if err := by.Check(Administrator); err != nil {
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
	return text, st.AddToken(ctx, tokenHash(text), p, string(t.Role), time.Now().AddDate(0, 0, t.Days), by.auditEntry("token given", t.Login))
}

// ByToken finds whose token that is, with what they may by it; false where it is nobody's, or holds no more.
func ByToken(ctx context.Context, st *store.Store, token string) (Person, bool, error) {
	p, most, err := st.PersonByToken(ctx, tokenHash(token))
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

// noPassword stands in place of a hash of who signs in by single sign-on alone. It is no demo's empty one.
const noPassword = "-"

// HasPassword says whether somebody has one.
func HasPassword(p *store.Person) bool { return p.Password != "" && p.Password != noPassword }

// SingleSignOn finds who signs in whom the company's identity provider (issuer) has proved, by its subject and, at the first time, by
// the login that it knows them by.
func SingleSignOn(ctx context.Context, st *store.Store, issuer, subject, login string) (store.Person, bool, error) {
	p, err := st.PersonBySubject(ctx, issuer+" "+subject, strings.TrimSpace(login))
	switch {
	case errors.Is(err, store.ErrNotFound):
		return p, false, RecordRefusal(ctx, st, login)
	case err != nil:
		return p, false, err
	}
	return p, true, st.Note(ctx, PersonOf(&p).auditEntry("signed in", "single sign-on"))
}

// RecordRefusal says in the audit that somebody came from the identity provider who is not let in; "": who, is not proved.
func RecordRefusal(ctx context.Context, st *store.Store, login string) error {
	return st.Note(ctx, Person{}.auditEntry("sign-in refused", strings.TrimSpace("single sign-on "+login)))
}

// SignInDemo is who of a demo signs in with one press: one of those who have no password. Whoever has one is asked for it, in a demo too.
func SignInDemo(ctx context.Context, st *store.Store, login string) (p store.Person, ok bool, err error) {
	p, err = st.PersonByLogin(ctx, login)
	if errors.Is(err, store.ErrNotFound) || err == nil && (p.Disabled || p.Password != "") {
		return p, false, nil
	}
	if err != nil {
		return p, false, err
	}
	who := PersonOf(&p)
	return p, true, st.Note(ctx, who.auditEntry("signed in", "with one press"))
}

// SignIn finds who signs in. A wrong password, a login that nobody has and one that is disabled are
// alike to who asks.
func SignIn(ctx context.Context, st *store.Store, login, password string) (p store.Person, ok bool, err error) {
	p, err = st.PersonByLogin(ctx, strings.TrimSpace(login))
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return p, false, err
	}
	hash := nobodys()
	if HasPassword(&p) {
		hash = p.Password
	}
	is := PasswordIs(hash, password) && HasPassword(&p) && !p.Disabled
	what := map[bool]string{true: "signed in", false: "sign-in refused"}[is]
	var who Person // of one that is refused it is not known
	if is {
		who = PersonOf(&p)
	}
	return p, is, st.Note(ctx, who.auditEntry(what, login))
}
