package store

import (
	"context"

	"github.com/jmoiron/sqlx"
)

// Mail is a mail about an account that is to be sent.
type Mail struct {
	ID      int64  `db:"id"`
	At      string `db:"at"`
	To      string `db:"mail"`
	Subject string `db:"subject"`
	Text    string `db:"text"`
}

// accountChanged is the subject of a mail about an account.
const accountChanged = "Your Nexufix account was changed"

// addMail writes a mail within the transaction of what it tells of; without an address or a text there is none.
func addMail(ctx context.Context, tx *sqlx.Tx, to, text string) error {
	if to == "" || text == "" {
		return nil
	}
	_, err := tx.ExecContext(ctx, `INSERT INTO outbox (at, mail, subject, text) VALUES (?, ?, ?, ?)`, now(), to, accountChanged, text)
	return err
}

// mailPerson is addMail to the address of an account.
func mailPerson(ctx context.Context, tx *sqlx.Tx, person int64, text string) error {
	var to string
	if err := tx.GetContext(ctx, &to, `SELECT mail FROM person WHERE id = ?`, person); err != nil {
		return err
	}
	return addMail(ctx, tx, to, text)
}

// Outbox lists the mails that are to be sent, the oldest first, a hundred at the most.
func (s *Store) Outbox(ctx context.Context) ([]Mail, error) {
	var out []Mail
	err := s.db.SelectContext(ctx, &out, `SELECT id, at, mail, subject, text FROM outbox ORDER BY id LIMIT 100`)
	return out, err
}

// Mailed takes a mail out that was sent.
func (s *Store) Mailed(ctx context.Context, id int64) error {
	return s.change(ctx, func(tx *sqlx.Tx) error {
		_, err := tx.ExecContext(ctx, `DELETE FROM outbox WHERE id = ?`, id)
		return err
	})
}
