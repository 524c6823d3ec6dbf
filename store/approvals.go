package store

import (
	"context"
	"database/sql"
	"errors"

	"github.com/jmoiron/sqlx"

	"nexufix/core/approval"
)

// approvalLines are approvals without their documents and results.
const approvalLines = `SELECT id, subject, title, state, version, verdict, '' AS document, fingerprint, '' AS result, preparer, prepared_by,
	prepared_at, approver, approved_by, approved_at, superseded_by, seen, stale, family, restored FROM approval`

// Approvals lists those in some states, or in all where none is named, the latest first, without their documents and
// results.
func (s *Store) Approvals(ctx context.Context, states ...approval.State) ([]Approval, error) {
	out := []Approval{}
	if len(states) == 0 {
		err := s.db.SelectContext(ctx, &out, approvalLines+` ORDER BY id DESC`)
		return out, err
	}
	query, args, err := sqlx.In(approvalLines+` WHERE state IN (?) ORDER BY id DESC`, states)
	if err == nil {
		err = s.db.SelectContext(ctx, &out, query, args...)
	}
	return out, err
}

// ApprovalsAbout lists the approvals of a subject, a display or a bracket ("": of any), the latest first, at most so many, without their
// documents and results.
func (s *Store) ApprovalsAbout(ctx context.Context, subject, display, bracket string, most int) ([]Approval, error) {
	out := []Approval{}
	query, args := approvalLines+` WHERE true`, []any{}
	for _, of := range [][2]string{{"subject", subject}, {"subject ->> '$.display'", display}, {"subject ->> '$.bracket'", bracket}} {
		if of[1] != "" {
			query, args = query+` AND `+of[0]+` = ?`, append(args, of[1])
		}
	}
	err := s.db.SelectContext(ctx, &out, query+` ORDER BY id DESC LIMIT ?`, append(args, most)...)
	return out, err
}

// InFamily lists the approvals of a family in review, with their documents and results, at most so many: those that one account sent at the
// end or, own, at the beginning, and otherwise the oldest first; and how many there are in all.
func (s *Store) InFamily(ctx context.Context, family string, account int64, own bool, most int) (out []Approval, all int, err error) {
	if err = s.db.GetContext(ctx, &all, `SELECT count(*) FROM approval WHERE family = ? AND family <> '' AND state = 'in_review'`, family); err != nil {
		return nil, 0, err
	}
	return out, all, s.db.SelectContext(ctx, &out, approvalColumns+` WHERE family = ? AND family <> '' AND state = 'in_review'
		ORDER BY (preparer = ?) = ?, id LIMIT ?`, family, account, !own, most)
}

// AllInFamily reports which of some approvals are of a family and in review.
func (s *Store) AllInFamily(ctx context.Context, family string, ids []int64) (map[int64]bool, error) {
	query, args, err := sqlx.In(`SELECT id FROM approval WHERE id IN (?) AND family = ? AND family <> '' AND state = 'in_review'`, ids, family)
	var found []int64
	if err == nil {
		err = s.db.SelectContext(ctx, &found, query, args...)
	}
	out := map[int64]bool{}
	for _, id := range found {
		out[id] = true
	}
	return out, err
}

// ApprovalsToDo lists drafts, those in review and stale ones, without their documents and results.
func (s *Store) ApprovalsToDo(ctx context.Context) ([]Approval, error) {
	out := []Approval{}
	err := s.db.SelectContext(ctx, &out, approvalLines+` WHERE id IN (SELECT id FROM approval WHERE state IN ('draft', 'in_review')
		UNION ALL SELECT id FROM approval INDEXED BY approval_in_doubt WHERE state = 'approved' AND (stale <> '' OR restored <> '')) ORDER BY id DESC`)
	return out, err
}

// ApprovalResults reads the documents and results of approvals.
func (s *Store) ApprovalResults(ctx context.Context, lines []Approval) (out []Approval, err error) {
	var ids []int64
	for i := range lines {
		ids = append(ids, lines[i].ID)
	}
	query, args, err := sqlx.In(approvalColumns+` WHERE id IN (?)`, ids)
	if err == nil {
		err = s.db.SelectContext(ctx, &out, query, args...)
	}
	return out, err
}

// ApprovedBefore is the approval of the same subject before that one: the one in force, or the last that was; [ErrNotFound] where
// there was none. A subject has one open approval at a time, so that their numbers are in the order of approving.
func (s *Store) ApprovedBefore(ctx context.Context, a *Approval) (before Approval, err error) {
	err = s.db.GetContext(ctx, &before, approvalColumns+` WHERE subject = ? AND id <> ? AND approver IS NOT NULL AND state <> 'withdrawn'
		ORDER BY id DESC LIMIT 1`, a.Subject, a.ID)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	return before, err
}

// ApprovalEvents lists the latest events of an approval, at most so many, in order.
func (s *Store) ApprovalEvents(ctx context.Context, id int64, most int) (out []ApprovalEvent, err error) {
	return out, s.db.SelectContext(ctx, &out, `SELECT * FROM (SELECT seq, approval, at, person, who, what, about, text FROM approval_event
		WHERE approval = ? ORDER BY seq DESC LIMIT ?) ORDER BY seq`, id, most)
}
