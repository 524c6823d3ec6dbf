package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"

	"nexufix/core/catalog"
)

// PolicyName is the name of a saved policy, and whether it is in use.
type PolicyName struct {
	Name  string `db:"name" json:"name" required:"true"`
	InUse bool   `db:"in_use" json:"in_use" required:"true"`
}

// Policies lists the saved policies by name.
func (s *Store) Policies(ctx context.Context) ([]PolicyName, error) {
	out := []PolicyName{}
	err := s.db.SelectContext(ctx, &out, `SELECT p.id AS name, u.id IS NOT NULL AS in_use FROM item p
		LEFT JOIN item u ON u.kind = 'use' AND u.doc = json_quote(p.id) WHERE p.kind = 'policy' ORDER BY p.id`)
	return out, err
}

// SavePolicy saves a policy under a name, replacing one of that name, and
// puts it in use.
func (s *Store) SavePolicy(ctx context.Context, a Author, name string, p catalog.Policy) error {
	i, err := itemOf("policy", name, name, p)
	if err != nil {
		return err
	}
	return s.write(ctx, a, func(w *writing) error {
		if _, err := w.item(i); err != nil {
			return err
		}
		_, err := w.item(useItem(name))
		return err
	})
}

// useItem is the item that records which policy is in use.
func useItem(name string) Item {
	quoted, _ := json.Marshal(name) // a string always encodes
	return Item{Kind: "use", ID: "policy", Doc: string(quoted)}
}

// UsePolicy puts a saved policy in use, or, for "", the product's defaults.
func (s *Store) UsePolicy(ctx context.Context, a Author, name string) error {
	return s.write(ctx, a, func(w *writing) error {
		if name == "" {
			_, err := w.remove("use", "policy")
			return err
		}
		var have Item
		switch err := w.have.GetContext(ctx, &have, "policy", name); {
		case errors.Is(err, sql.ErrNoRows):
			return ErrNotFound
		case err != nil:
			return err
		}
		_, err := w.item(useItem(name))
		return err
	})
}

// Used reports whether anything was ever saved.
func (s *Store) Used(ctx context.Context) (used bool, err error) {
	return used, s.db.GetContext(ctx, &used, `SELECT EXISTS (SELECT 1 FROM revision)`)
}

// inUse returns the document of the policy in use, "" for the defaults.
func (s *Store) inUse(ctx context.Context) (string, error) {
	var doc string
	err := s.db.GetContext(ctx, &doc,
		`SELECT p.doc FROM item u JOIN item p ON p.kind = 'policy' AND json_quote(p.id) = u.doc WHERE u.kind = 'use'`)
	if errors.Is(err, sql.ErrNoRows) {
		return "", nil
	}
	if err != nil {
		return "", fmt.Errorf("policy in use: %w", err)
	}
	return doc, nil
}
