package store

import (
	"context"
	"database/sql"
	"errors"

	"github.com/jmoiron/sqlx"

	"nexufix/core/approval"
	"nexufix/core/rights"
)

// Issued is a document that was issued from an approval.
type Issued struct {
	ID       int64  `db:"id"`
	Approval int64  `db:"approval"`
	Number   string `db:"number"`
	Revision int    `db:"revision"`
	Code     string `db:"code"`
	What     string `db:"what"`
	Options  string `db:"options"`
	Name     string `db:"name"`
	Sum      string `db:"sum"`
	File     []byte `db:"file"`
	At       string `db:"at"`
	Person   int64  `db:"person"`
	Who      string `db:"who"`
	Receiver string `db:"receiver"`
}

// IssuedSoFar is how many documents were issued in all, and how many of a kind for a subject; and the series of the last restore, ""
// where there was none.
type IssuedSoFar struct {
	All    int    `db:"everything"`
	Kind   int    `db:"kind"`
	Series string `db:"series"`
}

const issuedSoFar = `SELECT (SELECT count(*) FROM issued) AS everything, (SELECT count(*) FROM issued
	JOIN approval ON approval.id = issued.approval WHERE subject = ? AND what = ?) AS kind,
	coalesce((SELECT series FROM restored ORDER BY seq DESC LIMIT 1), '') AS series`

// IssuedSoFar counts the issued documents.
func (s *Store) IssuedSoFar(ctx context.Context, subject, what string) (n IssuedSoFar, err error) {
	return n, s.db.GetContext(ctx, &n, issuedSoFar, subject, what)
}

// Issue stores a document that was made for a version of an approval, at a moment of the catalogue, and after so
// many issued documents; [ErrMoved] when one of these has changed.
func (s *Store) Issue(ctx context.Context, i Issued, version int64, at CatalogueVersion, when IssuedSoFar) (Issued, error) {
	err := s.change(ctx, func(tx *sqlx.Tx) error {
		a, err := oneApproval(ctx, tx, i.Approval)
		if err != nil {
			return err
		}
		if err := at.unchanged(ctx, tx); err != nil {
			return err
		}
		var now IssuedSoFar
		if err := tx.GetContext(ctx, &now, issuedSoFar, a.Subject, i.What); err != nil {
			return err
		}
		switch {
		case now != when || a.Version != version:
			return ErrMoved
		}
		if err := a.Holds(); err != nil {
			return err
		}
		if err := mayAct(ctx, tx, By{Person: i.Person}, rights.Issue, a.Of(approval.Issue, nil)); err != nil {
			return err
		}
		r, err := tx.NamedExecContext(ctx, `INSERT INTO issued (approval, number, revision, code, what, options, name, sum, file, at, person,
			who, receiver) VALUES (:approval, :number, :revision, :code, :what, :options, :name, :sum, :file, :at, :person, :who, :receiver)`, i)
		if err != nil {
			return err
		}
		if i.ID, err = r.LastInsertId(); err != nil {
			return err
		}
		by := By{Person: i.Person, Name: i.Who}
		return addEvent(ctx, tx, by.event(a.ID, string(approval.Issue), i.Number, i.Receiver), i.Number+" of "+a.Title)
	})
	return i, err
}

// IssuedFrom are the approvals of which something was issued.
func (s *Store) IssuedFrom(ctx context.Context) (map[int64]bool, error) {
	var all []int64
	err := s.db.SelectContext(ctx, &all, `SELECT DISTINCT approval FROM issued`)
	out := make(map[int64]bool, len(all))
	for _, id := range all {
		out[id] = true
	}
	return out, err
}

const issuedColumns = `SELECT id, approval, number, revision, code, what, options, name, sum, at, person, who, receiver`

// IssuedOf are the documents that were issued from an approval, 0 for all, the latest first, without their files.
func (s *Store) IssuedOf(ctx context.Context, id int64, most int) (out []Issued, err error) {
	return out, s.db.SelectContext(ctx, &out, issuedColumns+` FROM issued WHERE approval = ? OR ? = 0 ORDER BY id DESC LIMIT ?`, id, id, most)
}

// IssuedFile is a document that was issued, with its file.
func (s *Store) IssuedFile(ctx context.Context, id int64) (i Issued, err error) {
	return s.issued(ctx, issuedColumns+`, file FROM issued WHERE id = ?`, id)
}

// IssuedByCode finds a document by the code that is printed on it, without its file.
func (s *Store) IssuedByCode(ctx context.Context, code string) (i Issued, err error) {
	return s.issued(ctx, issuedColumns+` FROM issued WHERE code = ?`, code)
}

func (s *Store) issued(ctx context.Context, query string, by any) (i Issued, err error) {
	err = s.db.GetContext(ctx, &i, query, by)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	return i, err
}
