package store

import (
	"context"

	"github.com/jmoiron/sqlx"
)

// Meanings returns the fields that people chose for the headers of their files, by
// kind of table.
func (s *Store) Meanings(ctx context.Context) (map[string]map[string]string, error) {
	var rows []struct {
		Kind  string `db:"kind"`
		Head  string `db:"head"`
		Field string `db:"field"`
	}
	if err := s.db.SelectContext(ctx, &rows, `SELECT kind, head, field FROM column_meaning`); err != nil {
		return nil, err
	}
	out := map[string]map[string]string{}
	for _, r := range rows {
		if out[r.Kind] == nil {
			out[r.Kind] = map[string]string{}
		}
		out[r.Kind][r.Head] = r.Field
	}
	return out, nil
}

// Remember saves what headers mean in a kind of table.
func (s *Store) Remember(ctx context.Context, kind string, fields map[string]string) error {
	if len(fields) == 0 {
		return nil
	}
	return s.change(ctx, func(tx *sqlx.Tx) error {
		for head, field := range fields {
			if _, err := tx.ExecContext(ctx, `INSERT INTO column_meaning (kind, head, field) VALUES (?, ?, ?)
				ON CONFLICT (kind, head) DO UPDATE SET field = excluded.field`, kind, head, field); err != nil {
				return err
			}
		}
		return nil
	})
}
