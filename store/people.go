package store

import (
	"context"
	"database/sql"
	"errors"
	"time"

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
}

// ErrLoginTaken is the error of a login that an account has, in large or small letters.
var ErrLoginTaken = errors.New("somebody has that login")

// ErrTokenTaken is the error of a token that another account has.
var ErrTokenTaken = errors.New("that token is somebody else's")

// ErrLastAdministrator is the error of a change that would leave no administrator.
var ErrLastAdministrator = errors.New("there would be no administrator")

const person = `SELECT id, login, name, role, password, disabled, given, epoch, at, sso, subject FROM person`

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
func mayChange(ctx context.Context, tx *sqlx.Tx, by Happened, id int64) error {
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
func (s *Store) AddPerson(ctx context.Context, p Person, first bool, by Happened) (Person, error) {
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
		r, err := tx.NamedExecContext(ctx, `INSERT INTO person (login, name, role, password, given, at, sso)
			VALUES (:login, :name, :role, :password, :given, :at, :sso)`, p)
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

// ChangePerson changes an account as do says. It ends the account's sessions, and refuses to leave no administrator.
func (s *Store) ChangePerson(ctx context.Context, id int64, by Happened, do func(*Person)) (Person, error) {
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
		led := p.Role == "administrator" && !p.Disabled
		do(&p)
		p.Epoch++
		if _, err := tx.NamedExecContext(ctx, `UPDATE person SET name = :name, role = :role, password = :password, given = :given, disabled = :disabled,
			epoch = :epoch, sso = :sso, subject = :subject WHERE id = :id`, p); err != nil {
			return err
		}
		var left int
		if err := tx.GetContext(ctx, &left, `SELECT count(*) FROM person WHERE role = 'administrator' AND NOT disabled`); err != nil {
			return err
		}
		if led && left == 0 { // after a restore there is none until one is enabled
			return ErrLastAdministrator
		}
		return addAudit(ctx, tx, by)
	})
	return p, err
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

// AddToken stores the hash of an account's token with the highest role it can have, or prolongs it.
func (s *Store) AddToken(ctx context.Context, hash string, of Person, role string, until time.Time, by Happened) error {
	return s.change(ctx, func(tx *sqlx.Tx) error {
		r, err := tx.ExecContext(ctx, `INSERT INTO token (hash, person, role, epoch, until) VALUES (?, ?, ?, ?, ?)
			ON CONFLICT (hash) DO UPDATE SET role = excluded.role, epoch = excluded.epoch, until = excluded.until WHERE person = excluded.person`,
			hash, of.ID, role, of.Epoch, until.UTC().Format(time.RFC3339Nano))
		if err != nil {
			return err
		}
		if n, err := r.RowsAffected(); n == 0 {
			return errors.Join(ErrTokenTaken, err)
		}
		return addAudit(ctx, tx, by)
	})
}

// PersonByToken finds the account and role of a token that has not expired; [ErrNotFound] where there is none.
func (s *Store) PersonByToken(ctx context.Context, hash string) (p Person, role string, err error) {
	var found struct {
		Person
		Most string `db:"most"`
	}
	err = s.db.GetContext(ctx, &found, `SELECT person.*, token.role AS most FROM token JOIN person ON person.id = token.person
		AND person.epoch = token.epoch WHERE hash = ? AND until > ? AND NOT disabled`, hash, now())
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	return found.Person, found.Most, err
}

// Sessions stores sessions for the session library.
type Sessions struct{ *Store }

// FindCtx finds a session that has not expired.
func (s Sessions) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	var data []byte
	err := s.db.GetContext(ctx, &data, `SELECT data FROM session WHERE token = ? AND expiry > ?`, token, now())
	if errors.Is(err, sql.ErrNoRows) {
		return nil, false, nil
	}
	return data, err == nil, err
}

// CommitCtx stores a session, and deletes those that have expired.
func (s Sessions) CommitCtx(ctx context.Context, token string, data []byte, expiry time.Time) error {
	return s.change(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `DELETE FROM session WHERE expiry <= ?`, now()); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO session (token, data, expiry) VALUES (?, ?, ?)
			ON CONFLICT (token) DO UPDATE SET data = excluded.data, expiry = excluded.expiry`, token, data, expiry.UTC().Format(time.RFC3339Nano))
		return err
	})
}

// DeleteCtx ends a session.
func (s Sessions) DeleteCtx(ctx context.Context, token string) error {
	return s.change(ctx, func(tx *sqlx.Tx) error {
		_, err := tx.ExecContext(ctx, `DELETE FROM session WHERE token = ?`, token)
		return err
	})
}

// Find, Commit and Delete are the same without a context.
func (s Sessions) Find(token string) ([]byte, bool, error) {
	return s.FindCtx(context.Background(), token)
}

// Commit is [Sessions.CommitCtx].
func (s Sessions) Commit(token string, data []byte, expiry time.Time) error {
	return s.CommitCtx(context.Background(), token, data, expiry)
}

// Delete is [Sessions.DeleteCtx].
func (s Sessions) Delete(token string) error { return s.DeleteCtx(context.Background(), token) }
