package store

import (
	"context"

	"github.com/jmoiron/sqlx"

	"nexufix/core/rights"
)

// Letter is a letter that was sent, with a document or to withdraw one.
type Letter struct {
	ID      int64  `db:"id"`
	Issued  int64  `db:"issued"`
	Number  string `db:"number"` // of the document
	Recall  bool   `db:"recall"`
	Mail    string `db:"mail"`
	Subject string `db:"subject"`
	Text    string `db:"text"`
	At      string `db:"at"`
	Person  int64  `db:"person"`
	Who     string `db:"who"`
}

// Send records a letter once send has delivered it; send is called with the letter's number, and if it fails
// the letter is not recorded as sent. The approval of its document must be at the given version.
func (s *Store) Send(ctx context.Context, l Letter, approval, version int64, send func(l *Letter) error) (Letter, error) {
	l.At = now()
	err := s.change(ctx, func(tx *sqlx.Tx) error {
		a, err := oneApproval(ctx, tx, approval)
		if err != nil {
			return err
		}
		if a.Version != version {
			return ErrVersion
		}
		if err := mayAct(ctx, tx, By{Person: l.Person}, rights.Write, nil); err != nil {
			return err
		}
		r, err := tx.NamedExecContext(ctx, `INSERT INTO letter (issued, recall, mail, subject, text, at, person, who)
			VALUES (:issued, :recall, :mail, :subject, :text, :at, :person, :who)`, l)
		if err != nil {
			return err
		}
		if l.ID, err = r.LastInsertId(); err != nil {
			return err
		}
		what := "send"
		if l.Recall {
			what = "recall"
		}
		by := By{Person: l.Person, Name: l.Who}
		if err := addEvent(ctx, tx, by.event(approval, what, l.Number, l.Mail), l.Number+" to "+l.Mail); err != nil {
			return err
		}
		return send(&l)
	})
	return l, err
}

const letterColumns = `SELECT letter.id, letter.issued, issued.number, letter.recall, letter.mail, letter.subject, letter.text, letter.at,
	letter.person, letter.who FROM letter JOIN issued ON issued.id = letter.issued`

// LettersOf returns the letters about the documents of an approval, the latest first.
func (s *Store) LettersOf(ctx context.Context, approval int64) ([]Letter, error) {
	out := []Letter{}
	err := s.db.SelectContext(ctx, &out, letterColumns+` WHERE issued.approval = ? ORDER BY letter.id DESC`, approval)
	return out, err
}
