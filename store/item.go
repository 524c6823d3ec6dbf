package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"github.com/jmoiron/sqlx"

	"nexufix/core/catalog"
	"nexufix/core/rights"
	"nexufix/exchange"
)

// Author is who changes something, and why.
type Author struct {
	Who, Why string
	Person   int64 // the account's number; 0: none
	Policy   bool  // they may set the policy in any way, also by a document, an undo or an earlier revision
}

// maySet refuses a change of the policy by an author who may not set it.
func (w *writing) maySet(kind string) error {
	if kind != "policy" && kind != "use" {
		return nil
	}
	if w.author.Policy {
		if w.author.Person == 0 {
			return nil
		}
		if err := mayAct(w.ctx, w.tx, By{Person: w.author.Person}, rights.Policy, nil); !errors.Is(err, ErrShutOut) {
			return err
		}
	}
	return exchange.Problems{{Path: "policy", Found: "would be another than the one in use", Allowed: "the one in use: an approver sets it"}}
}

// Item is something saved as a document of the exchange format.
type Item struct {
	Kind     string `db:"kind"` // display, bracket, policy, job; use: which policy is in use
	ID       string `db:"id"`
	Sort     string `db:"sort"`
	Doc      string `db:"doc"`
	Revision int    `db:"revision"`
}

// Revision is an earlier or the present state of an item.
type Revision struct {
	Seq    int64          `db:"seq"`
	Kind   string         `db:"kind"`
	ID     string         `db:"id"`
	Number int            `db:"number"`
	Doc    sql.NullString `db:"doc"` // not valid: deleted
	Who    string         `db:"who"`
	Person sql.NullInt64  `db:"person"` // the account's number
	Why    string         `db:"why"`
	At     string         `db:"at"`
	Batch  sql.NullInt64  `db:"batch"`
}

// Conflict is the error of a change to an item that someone else has changed meanwhile.
type Conflict struct{ Theirs Revision }

// Error says what happened.
func (c *Conflict) Error() string {
	return fmt.Sprintf("%s %s was changed meanwhile", c.Theirs.Kind, c.Theirs.ID)
}

// DisplayItem converts a display to an item.
func DisplayItem(d *catalog.Display) (Item, error) {
	return itemOf("display", d.ID, d.Maker+"\t"+d.Model, d)
}

// BracketItem converts a bracket to an item.
func BracketItem(b *catalog.Bracket) (Item, error) {
	return itemOf("bracket", b.ID, b.Name, b)
}

// JobItem converts a job to an item.
func JobItem(j *catalog.Job) (Item, error) { return itemOf("job", j.ID, j.ID, j) }

func itemOf(kind, id, sort string, doc any) (Item, error) {
	raw, err := json.Marshal(doc)
	return Item{Kind: kind, ID: id, Sort: sort, Doc: string(raw)}, err
}

// outcome is what saving an item did.
type outcome int

const (
	same outcome = iota
	created
	changed
)

// writing is a transaction that writes items; each change becomes a
// revision.
type writing struct {
	ctx    context.Context
	tx     *sqlx.Tx
	author Author
	batch  sql.NullInt64
	at     string

	have, last, put, keep *sqlx.Stmt

	written   []itemKey // the items that were saved
	documents           // read back
}

type itemKey struct{ kind, id string }

// write is the only way to change items: what was saved is read back
// before the transaction is committed.
func (s *Store) write(ctx context.Context, a Author, do func(*writing) error) error {
	return s.writeRead(ctx, a, noDocuments(), do)
}

// writeRead is [Store.write] for documents some of which have been read already:
// for these it only checks that the database has exactly their text, so
// that other writers wait less.
func (s *Store) writeRead(ctx context.Context, a Author, read documents, do func(*writing) error) error {
	if err := a.check(); err != nil {
		return err
	}
	w := &writing{ctx: ctx, author: a, at: now(), documents: read}
	err := s.change(ctx, func(tx *sqlx.Tx) (err error) {
		w.tx = tx
		if a.Person > 0 { // as their account is now; without one it is a desk of one, a command or the program
			if err := mayAct(ctx, tx, By{Person: a.Person}, rights.Edit, nil); err != nil {
				return err
			}
		}
		for _, x := range []struct {
			to  **sqlx.Stmt
			sql string
		}{
			{&w.have, `SELECT doc, revision FROM item WHERE kind = ? AND id = ?`},
			{&w.last, `SELECT coalesce(max(number), 0) FROM revision WHERE kind = ? AND id = ?`},
			{&w.put, `INSERT INTO item (kind, id, sort, doc, revision) VALUES (?, ?, ?, ?, ?)
				ON CONFLICT (kind, id) DO UPDATE SET sort = excluded.sort, doc = excluded.doc, revision = excluded.revision`},
			{&w.keep, `INSERT INTO revision (kind, id, number, doc, who, person, why, at, batch) VALUES (?, ?, ?, ?, ?, nullif(?, 0), ?, ?, ?)`},
		} {
			if *x.to, err = tx.PreparexContext(ctx, x.sql); err != nil {
				return err
			}
			defer (*x.to).Close()
		}
		if err := do(w); err != nil {
			return err
		}
		if err := w.author.check(); err != nil { // do may have set its reason
			return err
		}
		return w.readBack()
	})
	if err == nil {
		s.mu.Lock()
		defer s.mu.Unlock()
		s.documents.add(&w.documents) // so that they are not read a second time
	}
	return err
}

// begin starts a batch, which can be undone as a whole.
func (w *writing) begin(what string) error {
	r, err := w.tx.ExecContext(w.ctx, `INSERT INTO batch (what, who, at) VALUES (?, ?, ?)`, what, w.author.Who, w.at)
	if err != nil {
		return err
	}
	w.batch.Valid = true
	w.batch.Int64, err = r.LastInsertId()
	return err
}

// item saves an item as a new revision, unless it equals the
// latest.
func (w *writing) item(i Item) (outcome, error) {
	var have Item
	o := changed
	switch err := w.have.GetContext(w.ctx, &have, i.Kind, i.ID); {
	case errors.Is(err, sql.ErrNoRows):
		o = created
		if err := w.last.GetContext(w.ctx, &have.Revision, i.Kind, i.ID); err != nil {
			return o, err
		}
	case err != nil:
		return o, err
	case have.Doc == i.Doc:
		return same, nil
	}
	if err := w.maySet(i.Kind); err != nil {
		return o, err
	}
	number := have.Revision + 1
	w.written = append(w.written, itemKey{i.Kind, i.ID})
	if _, err := w.put.ExecContext(w.ctx, i.Kind, i.ID, i.Sort, i.Doc, number); err != nil {
		return o, err
	}
	if _, err := w.keep.ExecContext(w.ctx, i.Kind, i.ID, number, i.Doc, w.author.Who, w.author.Person, w.author.Why, w.at,
		w.batch); err != nil {
		return o, err
	}
	return o, w.notePolicy(i.Kind, i.ID, i.Doc)
}

// notePolicy writes a change of the policy to the audit, where there are accounts.
func (w *writing) notePolicy(kind, id, doc string) error {
	h := AuditEntry{Person: sql.NullInt64{Int64: w.author.Person, Valid: w.author.Person > 0}, Who: w.author.Who, What: "policy set",
		About: id}
	switch {
	case kind == "use" && doc == "":
		h.What, h.About = "policy in use", "the defaults"
	case kind == "use":
		h.What = "policy in use"
		if err := json.Unmarshal([]byte(doc), &h.About); err != nil {
			return err
		}
	case kind != "policy":
		return nil
	}
	return noteWithPeople(w.ctx, w.tx, h)
}

// remove deletes an item; false if there is none.
func (w *writing) remove(kind, id string) (bool, error) {
	var have Item
	switch err := w.have.GetContext(w.ctx, &have, kind, id); {
	case errors.Is(err, sql.ErrNoRows):
		return false, nil
	case err != nil:
		return false, err
	}
	if err := w.maySet(kind); err != nil {
		return false, err
	}
	if _, err := w.tx.ExecContext(w.ctx, `DELETE FROM item WHERE kind = ? AND id = ?`, kind, id); err != nil {
		return false, err
	}
	if _, err := w.keep.ExecContext(w.ctx, kind, id, have.Revision+1, nil, w.author.Who, w.author.Person, w.author.Why, w.at,
		w.batch); err != nil {
		return false, err
	}
	return true, w.notePolicy(kind, id, "")
}

// Save saves an item. Base is the revision that its author began with, 0
// for a new item. If that is not the latest, nothing is written and the error
// is a [Conflict] with the latest.
func (s *Store) Save(ctx context.Context, a Author, i Item, base int) (revision int, err error) {
	err = s.write(ctx, a, func(w *writing) error {
		if err := w.checkBaseRevision(i.Kind, i.ID, base); err != nil {
			return err
		}
		if _, err := w.item(i); err != nil {
			return err
		}
		var have Item
		if err := w.have.GetContext(ctx, &have, i.Kind, i.ID); err != nil {
			return err
		}
		revision = have.Revision
		return nil
	})
	return revision, err
}

// Delete deletes an item. Base is as for
// [Store.Save].
func (s *Store) Delete(ctx context.Context, a Author, kind, id string, base int) error {
	return s.write(ctx, a, func(w *writing) error {
		if err := w.checkBaseRevision(kind, id, base); err != nil {
			return err
		}
		switch ok, err := w.remove(kind, id); {
		case err != nil:
			return err
		case !ok:
			return ErrNotFound
		}
		return nil
	})
}

// checkBaseRevision returns an error unless base is the item's latest revision.
func (w *writing) checkBaseRevision(kind, id string, base int) error {
	var have Item
	err := w.have.GetContext(w.ctx, &have, kind, id)
	if err != nil && !errors.Is(err, sql.ErrNoRows) {
		return err
	}
	if have.Revision == base {
		return nil
	}
	var c Conflict
	err = w.tx.GetContext(w.ctx, &c.Theirs, `SELECT * FROM revision WHERE kind = ? AND id = ? ORDER BY number DESC LIMIT 1`, kind, id)
	if errors.Is(err, sql.ErrNoRows) {
		return ErrNotFound
	}
	return errors.Join(err, &c)
}

// Item returns an item.
func (s *Store) Item(ctx context.Context, kind, id string) (Item, error) {
	var i Item
	err := s.db.GetContext(ctx, &i, `SELECT * FROM item WHERE kind = ? AND id = ?`, kind, id)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	return i, err
}

// History lists the revisions of an item, the latest first: as many as are asked for, after so many.
func (s *Store) History(ctx context.Context, kind, id string, most, after int) ([]Revision, error) {
	out := []Revision{}
	err := s.db.SelectContext(ctx, &out, `SELECT * FROM revision WHERE kind = ? AND id = ? ORDER BY number DESC LIMIT ? OFFSET ?`,
		kind, id, most, after)
	return out, err
}

// Revisions counts the revisions of an item.
func (s *Store) Revisions(ctx context.Context, kind, id string) (int, error) {
	var n int
	return n, s.db.GetContext(ctx, &n, `SELECT count(*) FROM revision WHERE kind = ? AND id = ?`, kind, id)
}

// AllHistory lists the revisions of everything, the latest first, without their documents: those in whose id,
// author or reason all the words stand; as many as are asked for, after so many. It says how many there are in all.
func (s *Store) AllHistory(ctx context.Context, words []string, most, after int) ([]Revision, int, error) {
	where, of := `TRUE`, []any{}
	for _, w := range words {
		where += ` AND instr(folded(id || ' ' || who || ' ' || why), ?)`
		of = append(of, strings.ToLower(w))
	}
	var n int
	if err := s.db.GetContext(ctx, &n, `SELECT count(*) FROM revision WHERE `+where, of...); err != nil {
		return nil, 0, err
	}
	out := []Revision{}
	err := s.db.SelectContext(ctx, &out,
		`SELECT seq, kind, id, number, iif(doc IS NULL, NULL, '') AS doc, who, why, at, batch FROM revision WHERE `+where+
			` ORDER BY seq DESC LIMIT ? OFFSET ?`, append(of, most, after)...)
	return out, n, err
}

// Revision returns a revision.
func (s *Store) Revision(ctx context.Context, seq int64) (Revision, error) {
	return s.oneRevision(ctx, `seq = ?`, seq)
}

// Numbered returns the revision of an item that has a number; [ErrNotFound] if its history does not have it.
func (s *Store) Numbered(ctx context.Context, kind, id string, number int) (Revision, error) {
	return s.oneRevision(ctx, `kind = ? AND id = ? AND number = ?`, kind, id, number)
}

func (s *Store) oneRevision(ctx context.Context, where string, of ...any) (Revision, error) {
	var r Revision
	err := s.db.GetContext(ctx, &r, `SELECT * FROM revision WHERE `+where, of...)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	return r, err
}
