package store

import (
	"context"

	"github.com/jmoiron/sqlx"

	"nexufix/core/catalog"
)

// Ticks are the steps of a job that are done: those of its document, and on them what was ticked since.
func (s *Store) Ticks(ctx context.Context, j *catalog.Job) ([]catalog.Tick, error) {
	rows, err := s.db.QueryxContext(ctx, `SELECT step, at FROM tick WHERE job = ? ORDER BY at, step`, j.ID)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	with := catalog.Job{Ticks: append([]catalog.Tick{}, j.Ticks...)}
	for rows.Next() {
		var t catalog.Tick
		if err := rows.Scan(&t.Step, &t.At); err != nil {
			return nil, err
		}
		with.Tick([]catalog.Tick{t})
	}
	if len(with.Ticks) == 0 {
		with.Ticks = nil
	}
	return with.Ticks, rows.Err()
}

// Tick keeps ticks of a job; one without a time is taken off. It is no revision of the job.
func (s *Store) Tick(ctx context.Context, job string, ticks []catalog.Tick) error {
	return s.change(ctx, func(tx *sqlx.Tx) error {
		for _, t := range ticks {
			if _, err := tx.ExecContext(ctx, `INSERT INTO tick (job, step, at) VALUES (?, ?, ?)
				ON CONFLICT (job, step) DO UPDATE SET at = excluded.at`, job, t.Step, t.At); err != nil {
				return err
			}
		}
		return nil
	})
}
