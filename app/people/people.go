// Package people has the use cases of accounts: who may sign in, by which factors, tokens, sessions, and the audit log.
package people

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"net/mail"
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
	Acts   []rights.Act // that the script's token is for; nil: all that its role may
	// Given marks a person whose password somebody else gave them: they change it before they do anything else.
	Given  bool
	BySSO  bool // the identity provider knows them
	Second bool // they have shown a second factor
	// NoSecond marks a person who needs a second factor and has shown none: they set one up before they do anything else.
	NoSecond bool
}

// May reports why the person may not do an act, see [rights.May].
func (p Person) May(act rights.Act, of *rights.Of) error {
	return rights.May(act, rights.Who{ID: p.ID, Role: p.Role, Token: p.Script, Acts: p.Acts}, of)
}

// auditEntry is an entry of the audit: what the person did.
func (p Person) auditEntry(what, about string) store.AuditEntry {
	h := store.AuditEntry{Who: p.Name, What: what, About: about}
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
	Role Role   `json:"role" required:"true" enum:"reader,engineer,approver,administrator"`
	SSO  bool   `json:"sso,omitempty" description:"Signs in by single sign-on: the identity provider knows them by this login."`
	Mail string `json:"mail,omitempty" maxLength:"200" description:"Where changes of the account are told."`
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
	if p := mailAddress(&n.Mail); p != nil {
		wrong = append(wrong, *p)
	}
	if wrong == nil {
		return nil
	}
	return wrong
}

// mailAddress reports what is wrong with a mail address that is not empty, and writes it as it is stored: without a name.
func mailAddress(address *string) *exchange.Problem {
	if *address == "" {
		return nil
	}
	to, err := mail.ParseAddress(*address)
	if err != nil {
		return &exchange.Problem{Path: "mail", Found: "is no mail address", Allowed: "one address, as ada@desk.example, or nothing"}
	}
	*address = to.Address
	return nil
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
	p := store.Person{Login: n.Login, Name: n.Name, Role: string(n.Role), SSO: n.SSO, Mail: n.Mail,
		Given: n.Given && n.Password != "" && !n.SSO}
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
	Mail     *string `json:"mail,omitempty" maxLength:"200" description:"Where changes of the account are told; empty: nowhere."`
	NoSecond bool    `json:"noSecond,omitempty" description:"Takes the authenticator and the passkeys away, as of a lost telephone."`
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
	if c.Mail != nil {
		said = append(said, "mail address")
	}
	if c.NoSecond {
		said = append(said, "second factor removed")
	}
	return said
}

// told is what the person of an account is written of a change.
func told(p *store.Person, by Person, said string) string {
	return fmt.Sprintf("Your account %s was changed on %s by %s:\n\n%s\n\nIf you do not know of it, ask an administrator to disable the "+
		"account at once.\n", p.Login, time.Now().UTC().Format("2006-01-02 15:04 MST"), by.Name, said)
}

// proves reports whether a person who changes their own account gave the password that they have. Those of a demo are not asked; whom the
// identity provider knows has none to give, and gets no way to sign in that leads round it.
func proves(p *store.Person, current *string) *exchange.Problem {
	if p.Password != "" && (current == nil || !PasswordIs(p.Password, *current)) {
		return &exchange.Problem{Path: "current", Found: "is not your password", Allowed: "the one that you signed in with"}
	}
	return nil
}

// wrong reports every fault of a change of an account, own: by its person.
func (c *PersonChange) wrong(have *store.Person, own bool) (wrong exchange.Problems) {
	if own && (c.Password != nil || c.NoSecond || c.Mail != nil && have.Password != noPassword) {
		if p := proves(have, c.Current); p != nil {
			wrong = append(wrong, *p)
		}
	}
	if c.Mail != nil {
		if p := mailAddress(c.Mail); p != nil {
			wrong = append(wrong, *p)
		}
	}
	if own && c.Password != nil && c.Current != nil && *c.Password == *c.Current {
		wrong = append(wrong, exchange.Problem{Path: "password", Found: "is the one that you have", Allowed: "another"})
	}
	if c.Password != nil {
		if p := checkPassword("password", *c.Password, have.Login, have.Name); p != nil {
			wrong = append(wrong, *p)
		}
	}
	return wrong
}

// Change changes an account and ends its sessions, but for a mail address, and writes to its mail address. People may change their own
// password and mail address by giving the present password; a script, which has none, may not.
func (c *PersonChange) Change(ctx context.Context, st *store.Store, by Person, id int64) (store.Person, error) {
	own := by.ID == id && id > 0
	err := by.May(rights.People, nil)
	if err != nil && own && c.Role == nil && c.Disabled == nil && c.SSO == nil && !c.NoSecond {
		err = by.May(rights.Password, nil)
	}
	if err != nil {
		return store.Person{}, err
	}
	have, err := st.Person(ctx, id)
	if err != nil {
		return store.Person{}, err
	}
	if wrong := c.wrong(&have, own); wrong != nil {
		return store.Person{}, wrong
	}
	said := c.words()
	if said == nil {
		return have, nil
	}
	out, err := st.ChangePerson(ctx, id, by.auditEntry("person changed", have.Login+": "+strings.Join(said, ", ")),
		told(&have, by, strings.Join(said, "\n")), func(p *store.Person) {
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
			if c.Mail != nil {
				p.Mail = *c.Mail
			}
			if c.NoSecond {
				p.TOTP, p.Keys = "", nil
			}
		})
	if errors.Is(err, store.ErrLastAdministrator) {
		return out, exchange.Problems{{Path: "role", Found: "is the last administrator's", Allowed: "make another one first"}}
	}
	return out, err
}
