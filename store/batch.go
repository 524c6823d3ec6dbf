package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"

	"nexufix/exchange"
)

// Imported counts what an import did.
type Imported struct {
	New     int `json:"new" required:"true"`
	Changed int `json:"changed" required:"true"`
	Same    int `json:"same" required:"true"`
	// Batch is the number to undo it by; 0 if nothing was changed.
	Batch int64 `json:"batch" required:"true"`
}

// Batch is a number of changes made together.
type Batch struct {
	ID       int64         `db:"id"`
	What     string        `db:"what"`
	Who      string        `db:"who"`
	At       string        `db:"at"`
	UndoneBy sql.NullInt64 `db:"undone_by"`
	Items    int           `db:"items"`
}

// Import saves a document's items in the catalogue, in one transaction: all of them, or
// none. What is its name in the history; progress is called now and then with the number of items
// written. A policy in it is saved by the name Imported and put in use, unless it equals
// the one in use. Basis is the catalogue from which the document was worked out, if any:
// if anything was changed since it was read, nothing is
// written and the error is [ErrMoved].
func (s *Store) Import(ctx context.Context, a Author, what string, c, basis *exchange.Contents, progress func(done, of int)) (Imported,
	error) {
	items, err := s.itemsOf(ctx, c)
	if err != nil {
		return Imported{}, err
	}
	read := noDocuments()
	if err := read.all(ctx, items); err != nil {
		return Imported{}, err
	}
	var n Imported
	err = s.writeRead(ctx, a, read, func(w *writing) error {
		if basis != nil {
			if err := w.checkBasis(s, basis); err != nil {
				return err
			}
		}
		if err := w.begin(what); err != nil {
			return err
		}
		n = Imported{Batch: w.batch.Int64}
		if err := savePhotos(ctx, w.tx, c.Photos); err != nil {
			return err
		}
		for done, i := range items {
			o, err := w.item(i)
			if err != nil {
				return err
			}
			switch o {
			case created:
				n.New++
			case changed:
				n.Changed++
			default:
				n.Same++
			}
			if progress != nil && done%500 == 499 {
				progress(done+1, len(items))
			}
		}
		if n.New+n.Changed == 0 {
			_, err := w.tx.ExecContext(ctx, `DELETE FROM batch WHERE id = ?`, n.Batch)
			n.Batch = 0
			return err
		}
		return nil
	})
	if err != nil {
		return Imported{}, err
	}
	return n, nil
}

func (s *Store) itemsOf(ctx context.Context, c *exchange.Contents) ([]Item, error) {
	var out []Item
	var all error
	add := func(i Item, err error) { out, all = append(out, i), errors.Join(all, err) }
	for _, d := range c.Displays {
		add(DisplayItem(d))
	}
	for _, b := range c.Brackets {
		add(BracketItem(b))
	}
	for _, j := range c.Jobs {
		add(JobItem(j))
	}
	if c.Policy != nil {
		raw, err := json.Marshal(c.Policy)
		all = errors.Join(all, err)
		have, err := s.Catalogue(ctx)
		if err != nil {
			return nil, err
		}
		if !reflect.DeepEqual(have.PolicyOrDefault(), *c.Policy) {
			out = append(out, Item{Kind: "policy", ID: imported, Sort: imported, Doc: string(raw)}, useItem(imported))
		}
	}
	return out, all
}

// imported is the name of a policy that came with a document.
const imported = "Imported"

// Batches lists the batches, the latest first.
func (s *Store) Batches(ctx context.Context, most int) ([]Batch, error) {
	out := []Batch{}
	err := s.db.SelectContext(ctx, &out,
		`SELECT b.*, (SELECT count(*) FROM revision r WHERE r.batch = b.id) AS items FROM batch b ORDER BY b.id DESC LIMIT ?`, most)
	return out, err
}

// Undo restores the revisions before a batch, in one transaction, as a batch of
// its own. It is refused if an item of the batch was changed since: the
// problems name these items.
func (s *Store) Undo(ctx context.Context, by Author, batch int64) (int64, error) {
	var id int64
	err := s.write(ctx, by, func(w *writing) error {
		var b Batch
		switch err := w.tx.GetContext(ctx, &b, `SELECT *, 0 AS items FROM batch WHERE id = ?`, batch); {
		case errors.Is(err, sql.ErrNoRows):
			return ErrNotFound
		case err != nil:
			return err
		case b.UndoneBy.Valid:
			return exchange.Problems{{Path: "batch", Found: "it is undone already", Allowed: "a batch that is not"}}
		}
		w.author.Why = OneLine("Undone: " + b.What)
		if err := w.begin(w.author.Why); err != nil {
			return err
		}
		id = w.batch.Int64
		var since []string
		if err := w.tx.SelectContext(ctx, &since, `SELECT r.kind || ' ' || r.id FROM revision r JOIN revision later
			ON later.kind = r.kind AND later.id = r.id AND later.number = r.number + 1 WHERE r.batch = ? ORDER BY r.seq LIMIT 20`, batch); err != nil {
			return err
		}
		var problems exchange.Problems
		for _, x := range since {
			problems = append(problems, exchange.Problem{Path: x, Found: "was changed since", Allowed: "restore it by hand, from its history"})
		}
		if problems != nil {
			return problems
		}
		if err := w.goBack(batch); err != nil {
			return err
		}
		_, err := w.tx.ExecContext(ctx, `UPDATE batch SET undone_by = ? WHERE id = ?`, id, batch)
		return err
	})
	return id, err
}

// goBack restores every item of a batch to its revision before.
func (w *writing) goBack(batch int64) error {
	var before []struct {
		Kind string         `db:"kind"`
		ID   string         `db:"id"`
		Doc  sql.NullString `db:"doc"`
	}
	if err := w.tx.SelectContext(w.ctx, &before, `SELECT r.kind, r.id, p.doc FROM revision r
		LEFT JOIN revision p ON p.kind = r.kind AND p.id = r.id AND p.number = r.number - 1 WHERE r.batch = ? ORDER BY r.seq DESC`, batch); err != nil {
		return err
	}
	for _, b := range before {
		if !b.Doc.Valid {
			if _, err := w.remove(b.Kind, b.ID); err != nil {
				return err
			}
			continue
		}
		i, err := withListPlace(Item{Kind: b.Kind, ID: b.ID, Doc: b.Doc.String})
		if err != nil {
			return err
		}
		if _, err := w.item(i); err != nil {
			return err
		}
	}
	return nil
}

// withListPlace sets an item's place in lists from its document.
func withListPlace(i Item) (Item, error) {
	var names struct{ Maker, Model, Name string }
	switch i.Kind {
	case "display", "bracket":
		if err := json.Unmarshal([]byte(i.Doc), &names); err != nil {
			return i, fmt.Errorf("%s %s: %w", i.Kind, i.ID, err)
		}
		i.Sort = names.Name
		if i.Kind == "display" {
			i.Sort = names.Maker + "\t" + names.Model
		}
	case "policy", "job":
		i.Sort = i.ID
	}
	return i, nil
}

// RestoreRevision saves an earlier revision of an item as the latest.
func (s *Store) RestoreRevision(ctx context.Context, by Author, seq int64) (Item, error) {
	var out Item
	err := s.write(ctx, by, func(w *writing) error {
		var r Revision
		switch err := w.tx.GetContext(ctx, &r, `SELECT * FROM revision WHERE seq = ?`, seq); {
		case errors.Is(err, sql.ErrNoRows):
			return ErrNotFound
		case err != nil:
			return err
		case r.Thinned():
			return exchange.Problems{{Path: "seq", Found: "its figures are no longer kept", Allowed: "a revision with a document"}}
		case !r.Doc.Valid:
			return exchange.Problems{{Path: "seq", Found: "at this revision it was taken out", Allowed: "a revision with a document"}}
		}
		w.author.Why = fmt.Sprintf("Restored revision %d.", r.Number)
		i, err := withListPlace(Item{Kind: r.Kind, ID: r.ID, Doc: r.Doc.String})
		if err != nil {
			return err
		}
		if _, err := w.item(i); err != nil {
			return err
		}
		out = i
		return w.have.GetContext(ctx, &out, r.Kind, r.ID)
	})
	return out, err
}

// Merge saves an item and deletes another of its kind, as one batch.
// Basis is as for [Store.Import].
func (s *Store) Merge(ctx context.Context, a Author, keep Item, gone string, basis *exchange.Contents) (batch int64, err error) {
	err = s.write(ctx, a, func(w *writing) error {
		if err := w.checkBasis(s, basis); err != nil {
			return err
		}
		if err := w.begin(a.Why); err != nil {
			return err
		}
		batch = w.batch.Int64
		if _, err := w.item(keep); err != nil {
			return err
		}
		switch ok, err := w.remove(keep.Kind, gone); {
		case err != nil:
			return err
		case !ok:
			return ErrNotFound
		}
		return nil
	})
	return batch, err
}
