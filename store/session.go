package store

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/jmoiron/sqlx"
)

// Sessions stores sessions for the session library.
type Sessions struct{ *Store }

// FindCtx finds a session that has not expired.
func (s Sessions) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	var data []byte
	err := s.db.GetContext(ctx, &data, `SELECT data FROM session WHERE token = ? AND expiry > ?`, token, now())
	if errors.Is(err, sql.ErrNoRows) {
		return nil, false, nil
	}
	return data, err == nil, err
}

// Of returns the sessions of an account that have not expired, by their stored tokens.
func (s Sessions) Of(ctx context.Context, person int64) (map[string][]byte, error) {
	var rows []struct {
		Token string `db:"token"`
		Data  []byte `db:"data"`
	}
	err := s.db.SelectContext(ctx, &rows, `SELECT token, data FROM session WHERE person = ? AND expiry > ?`, person, now())
	all := map[string][]byte{}
	for _, r := range rows {
		all[r.Token] = r.Data
	}
	return all, err
}

// maxSessions is how many sessions an account has; the one that would expire first makes room.
const maxSessions = 50

// CommitCtx stores a session, and deletes those that have expired.
func (s Sessions) CommitCtx(ctx context.Context, token string, data []byte, expiry time.Time) error {
	person := int64(0)
	if _, values, err := (scs.GobCodec{}).Decode(data); err == nil {
		person, _ = values["person"].(int64)
	}
	return s.change(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `DELETE FROM session WHERE expiry <= ?`, now()); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `INSERT INTO session (token, data, expiry, person) VALUES (?, ?, ?, ?)
			ON CONFLICT (token) DO UPDATE SET data = excluded.data, expiry = excluded.expiry, person = excluded.person`, token, data,
			Stamp(expiry), person); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, `DELETE FROM session WHERE person = ?1 AND ?1 > 0 AND token NOT IN
			(SELECT token FROM session WHERE person = ?1 ORDER BY expiry DESC LIMIT ?2)`, person, maxSessions)
		return err
	})
}

// DeleteCtx ends a session.
func (s Sessions) DeleteCtx(ctx context.Context, token string) error {
	return s.change(ctx, func(tx *sqlx.Tx) error {
		_, err := tx.ExecContext(ctx, `DELETE FROM session WHERE token = ?`, token)
		return err
	})
}

// Find, Commit and Delete are the same without a context.
func (s Sessions) Find(token string) ([]byte, bool, error) {
	return s.FindCtx(context.Background(), token)
}

// Commit is [Sessions.CommitCtx].
func (s Sessions) Commit(token string, data []byte, expiry time.Time) error {
	return s.CommitCtx(context.Background(), token, data, expiry)
}

// Delete is [Sessions.DeleteCtx].
func (s Sessions) Delete(token string) error { return s.DeleteCtx(context.Background(), token) }
