package store

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"github.com/jmoiron/sqlx"

	"nexufix/exchange"
)

// Imported counts what an import did.
type Imported struct {
	New     int `json:"new" required:"true"`
	Changed int `json:"changed" required:"true"`
	Same    int `json:"same" required:"true"`
}

// Import puts the displays and brackets of a document into the catalogue, in
// one transaction: all of them, or none.
func (s *Store) Import(ctx context.Context, c *exchange.Contents) (Imported, error) {
	var n Imported
	err := s.change(ctx, func(tx *sqlx.Tx) error {
		for _, d := range c.Displays {
			if err := n.put(ctx, tx, "display", exchange.DisplayOf(d), map[string]any{"id": d.ID, "a": d.Maker, "b": d.Model}); err != nil {
				return err
			}
		}
		for _, b := range c.Brackets {
			if err := n.put(ctx, tx, "bracket", exchange.BracketOf(b), map[string]any{"id": b.ID, "a": b.Name, "b": b.Revision}); err != nil {
				return err
			}
		}
		return nil
	})
	return n, err
}

var puts = map[string]string{
	"display": `INSERT INTO display (id, maker, model, doc, changed_at) VALUES (:id, :a, :b, :doc, :at)
		ON CONFLICT (id) DO UPDATE SET maker = :a, model = :b, doc = :doc, changed_at = :at`,
	"bracket": `INSERT INTO bracket (id, name, revision, doc, changed_at) VALUES (:id, :a, :b, :doc, :at)
		ON CONFLICT (id) DO UPDATE SET name = :a, revision = :b, doc = :doc, changed_at = :at`,
}

var docs = map[string]string{
	"display": `SELECT doc FROM display WHERE id = ?`,
	"bracket": `SELECT doc FROM bracket WHERE id = ?`,
}

func (n *Imported) put(ctx context.Context, tx *sqlx.Tx, kind string, doc any, row map[string]any) error {
	raw, err := json.Marshal(doc)
	if err != nil {
		return err
	}
	var have string
	switch err := tx.GetContext(ctx, &have, docs[kind], row["id"]); {
	case errors.Is(err, sql.ErrNoRows):
		n.New++
	case err != nil:
		return err
	case have == string(raw):
		n.Same++
		return nil
	default:
		n.Changed++
	}
	row["doc"], row["at"] = string(raw), now()
	_, err = tx.NamedExecContext(ctx, puts[kind], row)
	return err
}

// Catalogue is all displays and brackets, by name, and the policy in use. It
// must not be changed: it is shared by everyone who asks until the next change.
// What that does not touch stays the same display or bracket, so that work done
// on it can be kept.
func (s *Store) Catalogue(ctx context.Context) (*exchange.Contents, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.catalogue != nil {
		return s.catalogue, nil
	}
	var displays, brackets []string
	if err := s.db.SelectContext(ctx, &displays, `SELECT doc FROM display ORDER BY maker, model, id`); err != nil {
		return nil, err
	}
	if err := s.db.SelectContext(ctx, &brackets, `SELECT doc FROM bracket ORDER BY name, id`); err != nil {
		return nil, err
	}
	policy, err := s.inUse(ctx)
	if err != nil {
		return nil, err
	}
	fresh, err := readDocuments(unread(displays, s.displays), unread(brackets, s.brackets), policy)
	if err != nil {
		return nil, fmt.Errorf("the catalogue in the database is damaged: %w", errors.New(err.Error()))
	}
	c := &exchange.Contents{Policy: fresh.Policy}
	c.Displays, s.displays = together(displays, s.displays, fresh.Displays)
	c.Brackets, s.brackets = together(brackets, s.brackets, fresh.Brackets)
	s.catalogue = c
	return c, nil
}

// unread are the documents that have not been read before.
func unread[T any](docs []string, read map[string]T) []string {
	var out []string
	for _, d := range docs {
		if _, ok := read[d]; !ok {
			out = append(out, d)
		}
	}
	return out
}

// together puts what was read before and what was read now in the order of
// the documents, and keeps it by document.
func together[T any](docs []string, before map[string]T, now []T) ([]T, map[string]T) {
	all := make([]T, 0, len(docs))
	kept := make(map[string]T, len(docs))
	for _, d := range docs {
		x, ok := before[d]
		if !ok {
			x, now = now[0], now[1:]
		}
		all = append(all, x)
		kept[d] = x
	}
	return all, kept
}

func readDocuments(displays, brackets []string, policy string) (*exchange.Contents, error) {
	var raw bytes.Buffer
	fmt.Fprintf(&raw, `{"format":%q,"displays":[%s],"brackets":[%s]`, exchange.Format, strings.Join(displays, ","), strings.Join(brackets, ","))
	if policy != "" {
		raw.WriteString(`,"policy":` + policy)
	}
	raw.WriteString(`}`)
	return exchange.Read(raw.Bytes())
}
