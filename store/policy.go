package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/jmoiron/sqlx"

	"nexufix/core/catalog"
	"nexufix/exchange"
)

// PolicyName is a policy that is kept, and whether it is in use.
type PolicyName struct {
	Name  string `db:"name" json:"name" required:"true"`
	InUse bool   `db:"in_use" json:"in_use" required:"true"`
}

// Policies lists the policies that are kept, by name.
func (s *Store) Policies(ctx context.Context) ([]PolicyName, error) {
	out := []PolicyName{}
	err := s.db.SelectContext(ctx, &out, `SELECT name, in_use FROM policy ORDER BY name`)
	return out, err
}

// KeepPolicy keeps a policy under a name, in place of one of that name, and
// puts it in use.
func (s *Store) KeepPolicy(ctx context.Context, name string, p catalog.Policy) error {
	raw, err := json.Marshal(exchange.PolicyOf(p))
	if err != nil {
		return err
	}
	return s.change(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `UPDATE policy SET in_use = 0`); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO policy (name, doc, in_use, changed_at) VALUES (?, ?, 1, ?)
			ON CONFLICT (name) DO UPDATE SET doc = excluded.doc, in_use = 1, changed_at = excluded.changed_at`, name, string(raw), now())
		return err
	})
}

// UsePolicy puts a kept policy in use, or, for "", the product's defaults.
func (s *Store) UsePolicy(ctx context.Context, name string) error {
	return s.change(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `UPDATE policy SET in_use = 0`); err != nil {
			return err
		}
		if name == "" {
			return nil
		}
		r, err := tx.ExecContext(ctx, `UPDATE policy SET in_use = 1 WHERE name = ?`, name)
		if err != nil {
			return err
		}
		if n, err := r.RowsAffected(); err != nil || n == 0 {
			return errors.Join(err, ErrNotFound)
		}
		return nil
	})
}

// inUse is the policy in use as a document, "" when the defaults are.
func (s *Store) inUse(ctx context.Context) (string, error) {
	var doc string
	err := s.db.GetContext(ctx, &doc, `SELECT doc FROM policy WHERE in_use = 1`)
	if errors.Is(err, sql.ErrNoRows) {
		return "", nil
	}
	if err != nil {
		return "", fmt.Errorf("policy in use: %w", err)
	}
	return doc, nil
}
