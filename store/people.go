package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"encoding/json"
	"errors"
	"reflect"

	"github.com/jmoiron/sqlx"

	"nexufix/core/rights"
)

// Person is an account.
type Person struct {
	ID       int64  `db:"id"`
	Login    string `db:"login"`
	Name     string `db:"name"`
	Role     string `db:"role"`
	Password string `db:"password"` // a hash
	Disabled bool   `db:"disabled"`
	Given    bool   `db:"given"` // the password was given by somebody else, and is to be changed first
	Epoch    int    `db:"epoch"` // of sessions that hold
	At       string `db:"at"`
	// The identity provider's address and its subject for the account; empty before the first single sign-on.
	SSO     bool           `db:"sso"`
	Subject sql.NullString `db:"subject"`
	Mail    string         `db:"mail"`     // where changes of the account are told; "": nowhere
	TOTP    string         `db:"totp"`     // the secret of an authenticator; "": none
	Keys    Passkeys       `db:"passkeys"` // with which they sign in without a password
	// That they read the page in; "": as their browser says.
	Language string `db:"language"`
}

// Passkey is a credential of WebAuthn.
type Passkey struct {
	ID   string          `json:"id"` // of the credential, in base64url
	Name string          `json:"name"`
	At   string          `json:"at"`
	Used string          `json:"used,omitempty"`
	Data json.RawMessage `json:"data"` // as the library writes it: the public key and a counter
}

// Passkeys are those of an account, a column of JSON.
type Passkeys []Passkey

// Value writes the column.
func (p Passkeys) Value() (driver.Value, error) {
	raw, err := json.Marshal(append(Passkeys{}, p...))
	return string(raw), err
}

// Scan reads the column, which is a text.
func (p *Passkeys) Scan(from any) error { return json.Unmarshal([]byte(from.(string)), p) }

// HasSecond reports whether the account has a second factor.
func (p *Person) HasSecond() bool { return p.TOTP != "" || len(p.Keys) > 0 }

// ends reports whether a change from before is one that ends sessions and tokens. Telling one's address or adding a second factor does
// not; taking one away does.
func (p Person) ends(before Person) bool {
	less := before.TOTP != "" && before.TOTP != p.TOTP || len(p.Keys) < len(before.Keys)
	for _, who := range []*Person{&before, &p} {
		who.Mail, who.TOTP, who.Keys = "", "", nil
	}
	return less || !reflect.DeepEqual(before, p)
}

// ErrLoginTaken is the error of a login that an account has, in large or small letters.
var ErrLoginTaken = errors.New("somebody has that login")

// ErrLastAdministrator is the error of a change that would leave no administrator.
var ErrLastAdministrator = errors.New("there would be no administrator")

const person = `SELECT id, login, name, role, password, disabled, given, epoch, at, sso, subject, mail, totp, passkeys, language FROM person`

// People lists the accounts by name.
func (s *Store) People(ctx context.Context) ([]Person, error) {
	var out []Person
	err := s.db.SelectContext(ctx, &out, person+` ORDER BY name, login`)
	return out, err
}

// HasPeople reports whether there are accounts.
func (s *Store) HasPeople(ctx context.Context) (bool, error) {
	var n int
	err := s.db.GetContext(ctx, &n, `SELECT EXISTS (SELECT 1 FROM person)`)
	return n > 0, err
}

// Person finds an account by number; [ErrNotFound] where there is none.
func (s *Store) Person(ctx context.Context, id int64) (Person, error) {
	return s.onePerson(ctx, person+` WHERE id = ?`, id)
}

// PersonByLogin finds an account by login, in large or small letters.
func (s *Store) PersonByLogin(ctx context.Context, login string) (Person, error) {
	return s.onePerson(ctx, person+` WHERE login = ?`, login)
}

func (s *Store) onePerson(ctx context.Context, query string, of any) (Person, error) {
	var p Person
	err := s.db.GetContext(ctx, &p, query, of)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	return p, err
}

// mayChange asks within the transaction whether who changes an account may still; on a command line, or for one's own, that is known.
func mayChange(ctx context.Context, tx *sqlx.Tx, by AuditEntry, id int64) error {
	act := rights.People
	if by.Person.Int64 == id {
		act = rights.Password
	}
	if !by.Person.Valid {
		return nil
	}
	return mayAct(ctx, tx, By{Person: by.Person.Int64}, act, nil)
}

// AddPerson adds an account and writes it to the audit; first: only where there is none yet.
func (s *Store) AddPerson(ctx context.Context, p Person, first bool, by AuditEntry) (Person, error) {
	p.At = now()
	err := s.change(ctx, func(tx *sqlx.Tx) error {
		var n int
		if err := tx.GetContext(ctx, &n, `SELECT count(*) FROM person WHERE login = ? OR ?`, p.Login, first); err != nil {
			return err
		}
		if n > 0 {
			return ErrLoginTaken
		}
		if err := mayChange(ctx, tx, by, 0); err != nil {
			return err
		}
		r, err := tx.NamedExecContext(ctx, `INSERT INTO person (login, name, role, password, given, at, sso, mail)
			VALUES (:login, :name, :role, :password, :given, :at, :sso, :mail)`, p)
		if err != nil {
			return err
		}
		if p.ID, err = r.LastInsertId(); err != nil {
			return err
		}
		p.Epoch = 1
		return addAudit(ctx, tx, by)
	})
	return p, err
}

// ChangePerson changes an account as do says, and writes text ("": nothing) to the mail addresses it had and has. It ends the account's
// sessions and tokens, but for what [Person.ends] says, and refuses to leave no administrator.
func (s *Store) ChangePerson(ctx context.Context, id int64, by AuditEntry, text string, do func(*Person)) (Person, error) {
	var p Person
	err := s.change(ctx, func(tx *sqlx.Tx) error {
		err := tx.GetContext(ctx, &p, person+` WHERE id = ?`, id)
		if errors.Is(err, sql.ErrNoRows) {
			return ErrNotFound
		}
		if err != nil {
			return err
		}
		if err := mayChange(ctx, tx, by, id); err != nil {
			return err
		}
		led, before := p.Role == "administrator" && !p.Disabled, p
		do(&p)
		if p.ends(before) {
			p.Epoch++
		}
		if _, err := tx.NamedExecContext(ctx, `UPDATE person SET name = :name, role = :role, password = :password, given = :given, disabled = :disabled,
			epoch = :epoch, sso = :sso, subject = :subject, mail = :mail, totp = :totp, passkeys = :passkeys WHERE id = :id`, p); err != nil {
			return err
		}
		var left int
		if err := tx.GetContext(ctx, &left, `SELECT count(*) FROM person WHERE role = 'administrator' AND NOT disabled`); err != nil {
			return err
		}
		if led && left == 0 { // after a restore there is none until one is enabled
			return ErrLastAdministrator
		}
		if before.Mail != p.Mail {
			if err := addMail(ctx, tx, before.Mail, text); err != nil {
				return err
			}
		}
		if err := addMail(ctx, tx, p.Mail, text); err != nil {
			return err
		}
		return addAudit(ctx, tx, by)
	})
	return p, err
}

// SetLanguage sets the language that a person reads the page in.
func (s *Store) SetLanguage(ctx context.Context, id int64, code string) error {
	return s.change(ctx, func(tx *sqlx.Tx) error {
		_, err := tx.ExecContext(ctx, `UPDATE person SET language = ? WHERE id = ?`, code, id)
		return err
	})
}

// PersonBySubject finds the account of a subject of the identity provider. The first time it finds it by the login, and binds it to the
// subject, which holds also when another person gets the login there. [ErrNotFound] where there is none.
func (s *Store) PersonBySubject(ctx context.Context, subject, login string) (Person, error) {
	p, err := s.onePerson(ctx, person+` WHERE subject = ? AND sso AND NOT disabled`, subject)
	if !errors.Is(err, ErrNotFound) {
		return p, err
	}
	err = s.change(ctx, func(tx *sqlx.Tx) error {
		err := tx.GetContext(ctx, &p, `UPDATE person SET subject = ? WHERE login = ? AND sso AND subject IS NULL AND NOT disabled
			AND NOT EXISTS (SELECT 1 FROM person WHERE subject = ?) RETURNING *`, subject, login, subject)
		if errors.Is(err, sql.ErrNoRows) {
			return ErrNotFound
		}
		return err
	})
	return p, err
}
