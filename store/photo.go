package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/jmoiron/sqlx"

	"nexufix/exchange"
)

// maxPhotos is how many photographs are stored; those that no revision of a job shows are deleted after a day.
const maxPhotos = 5000

// ErrManyPhotos is returned when there is no room for another photograph.
var ErrManyPhotos = fmt.Errorf("there are %d photographs already", maxPhotos)

// SavePhoto saves a photograph by its id.
func (s *Store) SavePhoto(ctx context.Context, id string, jpeg []byte) error {
	return s.change(ctx, func(tx *sqlx.Tx) error { return savePhotos(ctx, tx, map[string][]byte{id: jpeg}) })
}

func savePhotos(ctx context.Context, tx *sqlx.Tx, all map[string][]byte) error {
	if len(all) == 0 {
		return nil
	}
	var n int
	if err := tx.GetContext(ctx, &n, `SELECT count(*) FROM photo`); err != nil {
		return err
	}
	if n+len(all) > maxPhotos {
		yesterday := Stamp(clock().Add(-24 * time.Hour))
		r, err := tx.ExecContext(ctx, `DELETE FROM photo WHERE at < ? AND NOT EXISTS
			(SELECT 1 FROM revision WHERE kind = 'job' AND instr(doc, photo.id) > 0)`, yesterday)
		if err != nil {
			return err
		}
		gone, err := r.RowsAffected()
		if err != nil {
			return err
		}
		if n+len(all)-int(gone) > maxPhotos {
			return ErrManyPhotos
		}
	}
	for id, jpeg := range all {
		if _, err := tx.ExecContext(ctx, `INSERT INTO photo (id, jpeg, at) VALUES (?, ?, ?) ON CONFLICT (id) DO UPDATE SET at = excluded.at`,
			id, jpeg, now()); err != nil {
			return err
		}
	}
	return nil
}

// Photo returns a photograph, nil if there is none.
func (s *Store) Photo(ctx context.Context, id string) ([]byte, error) {
	var out []byte
	err := s.db.GetContext(ctx, &out, `SELECT jpeg FROM photo WHERE id = ?`, id)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	return out, err
}

// Whole returns a catalogue with the photographs that its jobs show and the
// steps that were ticked at the wall.
func (s *Store) Whole(ctx context.Context, c *exchange.Contents) (*exchange.Contents, error) {
	out := *c
	out.Photos, out.Jobs = map[string][]byte{}, slices.Clone(c.Jobs)
	for _, id := range exchange.Photographs(c.Jobs...) {
		raw, err := s.Photo(ctx, id)
		if err != nil {
			return nil, err
		}
		if raw != nil {
			out.Photos[id] = raw
		}
	}
	for i, j := range out.Jobs {
		ticks, err := s.Ticks(ctx, j)
		if err != nil {
			return nil, err
		}
		with := *j
		with.Ticks, out.Jobs[i] = ticks, &with
	}
	return &out, nil
}
