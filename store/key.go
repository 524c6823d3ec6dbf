package store

import (
	"context"

	"github.com/jmoiron/sqlx"
)

// SigningKeys are the public keys by which documents of this database were signed, as PEM, by their names.
func (s *Store) SigningKeys(ctx context.Context) (map[string]string, error) {
	var all []struct {
		ID     string `db:"id"`
		Public string `db:"public"`
	}
	err := s.db.SelectContext(ctx, &all, `SELECT id, public FROM signing_key`)
	out := map[string]string{}
	for _, k := range all {
		out[k.ID] = k.Public
	}
	return out, err
}

// AddSigningKey stores a public key that is not known yet, with an entry in the audit where there are accounts.
func (s *Store) AddSigningKey(ctx context.Context, id, public string, by AuditEntry) error {
	return s.change(ctx, func(tx *sqlx.Tx) error {
		did, err := tx.ExecContext(ctx, `INSERT INTO signing_key (id, public, at) VALUES (?, ?, ?) ON CONFLICT DO NOTHING`, id, public, now())
		if err != nil {
			return err
		}
		if n, err := did.RowsAffected(); err != nil || n == 0 {
			return err
		}
		return noteWithPeople(ctx, tx, by)
	})
}
