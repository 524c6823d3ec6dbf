package store

import (
	"context"
	"fmt"
	"slices"

	"github.com/jmoiron/sqlx"

	"nexufix/core/catalog"
)

// ErrManyTicks is returned when a job has no room for another ticked step: its document could not be read with it.
var ErrManyTicks = fmt.Errorf("more than %d steps would be ticked", catalog.MostTicks)

// Ticks returns the steps of a job that are done: those of its document, and those ticked since.
func (s *Store) Ticks(ctx context.Context, j *catalog.Job) ([]catalog.Tick, error) {
	return ticks(ctx, s.db, j)
}

func ticks(ctx context.Context, q sqlx.QueryerContext, j *catalog.Job) ([]catalog.Tick, error) {
	var since []catalog.Tick
	if err := sqlx.SelectContext(ctx, q, &since, `SELECT step, at FROM tick WHERE job = ? ORDER BY at, step`, j.ID); err != nil {
		return nil, err
	}
	with := catalog.Job{Ticks: append([]catalog.Tick(nil), j.Ticks...)}
	with.Tick(since)
	return with.Ticks, nil
}

// Tick saves ticks of a job; one without a time is removed. It makes no revision of the job. It returns all steps that are done then.
func (s *Store) Tick(ctx context.Context, j *catalog.Job, now []catalog.Tick) (all []catalog.Tick, err error) {
	err = s.change(ctx, func(tx *sqlx.Tx) error {
		for _, t := range now {
			if t.At == "" && !slices.ContainsFunc(j.Ticks, func(o catalog.Tick) bool { return o.Step == t.Step }) {
				// Nothing is kept of a step that is not done, but where the job's document says that it is.
				if _, err := tx.ExecContext(ctx, `DELETE FROM tick WHERE job = ? AND step = ?`, j.ID, t.Step); err != nil {
					return err
				}
				continue
			}
			if _, err := tx.ExecContext(ctx, `INSERT INTO tick (job, step, at) VALUES (?, ?, ?)
				ON CONFLICT (job, step) DO UPDATE SET at = excluded.at`, j.ID, t.Step, t.At); err != nil {
				return err
			}
		}
		all, err = ticks(ctx, tx, j)
		if len(all) > catalog.MostTicks {
			return ErrManyTicks
		}
		return err
	})
	return all, err
}
