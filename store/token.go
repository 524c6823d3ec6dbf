package store

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"github.com/jmoiron/sqlx"
)

// Token is what a script sends in place of a session, but for its text, of which the hash alone is stored.
type Token struct {
	ID     int64  `db:"id"`
	Person int64  `db:"person"`
	Login  string `db:"login"`
	Name   string `db:"name"`
	Role   string `db:"role"` // the highest that it can have
	Acts   string `db:"acts"` // that it is for, with commas between them; "": all
	At     string `db:"at"`   // "": before that was written
	Until  string `db:"until"`
	Used   string `db:"used"` // "": never
}

// ErrTokenTaken is the error of a token that another account has.
var ErrTokenTaken = errors.New("that token is somebody else's")

// AddToken stores the hash of an account's token, or prolongs it, and writes text to the account's mail address.
func (s *Store) AddToken(ctx context.Context, hash string, t Token, epoch int, by AuditEntry, text string) error {
	return s.change(ctx, func(tx *sqlx.Tx) error {
		if err := mayChange(ctx, tx, by, 0); err != nil {
			return err
		}
		r, err := tx.ExecContext(ctx, `INSERT INTO token (hash, person, name, role, acts, epoch, at, until) VALUES (?, ?, ?, ?, ?, ?, ?, ?)
			ON CONFLICT (hash) DO UPDATE SET name = excluded.name, role = excluded.role, acts = excluded.acts, epoch = excluded.epoch,
			until = excluded.until WHERE person = excluded.person`, hash, t.Person, t.Name, t.Role, t.Acts, epoch, now(), t.Until)
		if err != nil {
			return err
		}
		if n, err := r.RowsAffected(); n == 0 {
			return errors.Join(ErrTokenTaken, err)
		}
		if err := mailPerson(ctx, tx, t.Person, text); err != nil {
			return err
		}
		return addAudit(ctx, tx, by)
	})
}

// Tokens lists the tokens of an account that are good, 0: of all.
func (s *Store) Tokens(ctx context.Context, person int64) ([]Token, error) {
	out := []Token{}
	err := s.db.SelectContext(ctx, &out, `SELECT token.id, token.person, person.login, token.name, token.role, acts, token.at, until, used
		FROM token JOIN person ON person.id = token.person AND person.epoch = token.epoch
		WHERE until > ? AND NOT disabled AND (? = 0 OR person = ?) ORDER BY token.id`, now(), person, person)
	return out, err
}

// EndToken deletes a token: one's own, or an administrator any; [ErrNotFound] where there is none of theirs.
func (s *Store) EndToken(ctx context.Context, id int64, by AuditEntry, others bool) error {
	return s.change(ctx, func(tx *sqlx.Tx) error {
		if others {
			if err := mayChange(ctx, tx, by, 0); err != nil {
				return err
			}
		}
		r, err := tx.ExecContext(ctx, `DELETE FROM token WHERE id = ? AND (? OR person = ?)`, id, others, by.Person.Int64)
		if err != nil {
			return err
		}
		if n, err := r.RowsAffected(); n == 0 {
			return errors.Join(ErrNotFound, err)
		}
		return addAudit(ctx, tx, by)
	})
}

// PersonByToken finds the account of a token that is good, and the token; [ErrNotFound] where there is none.
func (s *Store) PersonByToken(ctx context.Context, hash string) (Person, Token, error) {
	var found struct {
		Person
		Number int64  `db:"number"`
		Most   string `db:"most"`
		Acts   string `db:"acts"`
		Used   string `db:"used"`
	}
	err := s.db.GetContext(ctx, &found, `SELECT person.*, token.id AS number, token.role AS most, token.acts, token.used FROM token
		JOIN person ON person.id = token.person AND person.epoch = token.epoch WHERE hash = ? AND until > ? AND NOT disabled`, hash, now())
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	return found.Person, Token{ID: found.Number, Role: found.Most, Acts: found.Acts, Used: found.Used}, err
}

// TokenUsed writes that a token was used.
func (s *Store) TokenUsed(ctx context.Context, id int64, at time.Time) error {
	return s.change(ctx, func(tx *sqlx.Tx) error {
		_, err := tx.ExecContext(ctx, `UPDATE token SET used = ? WHERE id = ?`, Stamp(at), id)
		return err
	})
}

// PasskeyUsed replaces a passkey of an account by what it is after it was used; it is no change of the account.
func (s *Store) PasskeyUsed(ctx context.Context, of int64, key Passkey) error {
	return s.change(ctx, func(tx *sqlx.Tx) error {
		var p Person
		if err := tx.GetContext(ctx, &p, person+` WHERE id = ?`, of); err != nil {
			return err
		}
		for i := range p.Keys {
			if p.Keys[i].ID == key.ID {
				p.Keys[i] = key
			}
		}
		_, err := tx.ExecContext(ctx, `UPDATE person SET passkeys = ? WHERE id = ?`, p.Keys, of)
		return err
	})
}
