package store

import (
	"context"
	"time"

	"github.com/jmoiron/sqlx"
)

// KnownBrowser reports whether the person of a login has signed in with a browser, as their account is now.
func (s *Store) KnownBrowser(ctx context.Context, hash, login string) (known bool, err error) {
	return known, s.db.GetContext(ctx, &known, `SELECT EXISTS (SELECT 1 FROM browser JOIN person ON person.id = browser.person
		AND person.epoch = browser.epoch WHERE hash = ? AND login = ? AND until > ?)`, hash, login, now())
}

// RememberBrowser stores for a person the hash of a browser's next cookie, under which goes on whom the one before knew; "": none. Those
// that have expired are deleted.
func (s *Store) RememberBrowser(ctx context.Context, before, hash string, p *Person, until time.Time) error {
	return s.change(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `DELETE FROM browser WHERE until <= ?`, now()); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `UPDATE browser SET hash = ? WHERE hash = ?`, hash, before); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO browser (hash, person, epoch, until) VALUES (?, ?, ?, ?)
			ON CONFLICT (hash, person) DO UPDATE SET epoch = excluded.epoch, until = excluded.until`, hash, p.ID, p.Epoch,
			Stamp(until))
		return err
	})
}
