package store

import (
	"context"
	"database/sql"
	"errors"

	"github.com/jmoiron/sqlx"

	"nexufix/exchange"
)

// Saved is a saved pairing: the request and its result.
type Saved struct {
	ID      int64  `db:"id"`
	Display string `db:"display_id"`
	Bracket string `db:"bracket_id"`
	Title   string `db:"title"`
	Verdict string `db:"verdict"`
	Request string `db:"question"` // JSON; the column has the name of the first schema
	Result  string `db:"result"`   // JSON
	SavedAt string `db:"saved_at"`
}

// SavePairing saves a pairing. A display that is not in the catalogue is added
// in the same transaction.
func (s *Store) SavePairing(ctx context.Context, who string, p Saved, display *exchange.Contents) (int64, error) {
	p.SavedAt = now()
	err := s.write(ctx, Author{Who: who, Why: "Typed in on the bench."}, func(w *writing) error {
		for _, d := range display.Displays {
			i, err := DisplayItem(d)
			if err == nil {
				_, err = w.item(i)
			}
			if err != nil {
				return err
			}
		}
		r, err := w.tx.NamedExecContext(ctx, `INSERT INTO pairing (display_id, bracket_id, title, verdict, question, result, saved_at)
			VALUES (:display_id, :bracket_id, :title, :verdict, :question, :result, :saved_at)`, p)
		if err != nil {
			return err
		}
		p.ID, err = r.LastInsertId()
		return err
	})
	return p.ID, err
}

// Pairings lists the saved pairings, the latest first.
func (s *Store) Pairings(ctx context.Context) ([]Saved, error) {
	var out []Saved
	err := s.db.SelectContext(ctx, &out, `SELECT id, display_id, bracket_id, title, verdict, question, result, saved_at
		FROM pairing WHERE removed_at IS NULL ORDER BY saved_at DESC, id DESC`)
	return out, err
}

// Pairing returns a saved pairing.
func (s *Store) Pairing(ctx context.Context, id int64) (Saved, error) {
	var p Saved
	err := s.db.GetContext(ctx, &p, `SELECT id, display_id, bracket_id, title, verdict, question, result, saved_at
		FROM pairing WHERE id = ? AND removed_at IS NULL`, id)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	return p, err
}

// Remove hides a saved pairing from the list.
func (s *Store) Remove(ctx context.Context, id int64) error { return s.setRemoved(ctx, id, true) }

// Restore undoes Remove.
func (s *Store) Restore(ctx context.Context, id int64) error { return s.setRemoved(ctx, id, false) }

func (s *Store) setRemoved(ctx context.Context, id int64, removed bool) error {
	var at any
	if removed {
		at = now()
	}
	return s.change(ctx, func(tx *sqlx.Tx) error {
		r, err := tx.ExecContext(ctx, `UPDATE pairing SET removed_at = ? WHERE id = ? AND (removed_at IS NULL) = ?`, at, id, removed)
		if err != nil {
			return err
		}
		if n, err := r.RowsAffected(); err != nil || n == 0 {
			return errors.Join(err, ErrNotFound)
		}
		return nil
	})
}
