package store

import (
	"context"

	"github.com/jmoiron/sqlx"
)

// Changed is who wrote a document last, and when.
type Changed struct {
	ID  string `db:"id"`
	Who string `db:"who"`
	At  string `db:"at"`
}

// LastChanges says of every document of a kind who wrote it last, by its id.
func (s *Store) LastChanges(ctx context.Context, kind string) (map[string]Changed, error) {
	var all []Changed
	err := s.db.SelectContext(ctx, &all, `SELECT i.id, r.who, r.at FROM item i
		JOIN revision r ON r.kind = i.kind AND r.id = i.id AND r.number = i.revision WHERE i.kind = ?`, kind)
	out := make(map[string]Changed, len(all))
	for _, c := range all {
		out[c.ID] = c
	}
	return out, err
}

// LatestApprovals are the last approvals of some subjects, by these, without their documents and results.
func (s *Store) LatestApprovals(ctx context.Context, subjects []string) (map[string]Approval, error) {
	out := map[string]Approval{}
	for len(subjects) > 0 {
		some := subjects[:min(len(subjects), 500)]
		subjects = subjects[len(some):]
		query, args, err := sqlx.In(approvalLines+` WHERE id IN (SELECT max(id) FROM approval WHERE subject IN (?) GROUP BY subject)`, some)
		if err != nil {
			return nil, err
		}
		var all []Approval
		if err := s.db.SelectContext(ctx, &all, query, args...); err != nil {
			return nil, err
		}
		for i := range all {
			out[all[i].Subject] = all[i]
		}
	}
	return out, nil
}
