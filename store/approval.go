package store

import (
	"context"
	"database/sql"
	"errors"

	"github.com/jmoiron/sqlx"

	"nexufix/core/approval"
	"nexufix/core/rights"
	"nexufix/exchange"
)

// Approval is a judgement from its review to its issued documents, see [approval.State].
type Approval struct {
	ID           int64          `db:"id"`
	Subject      string         `db:"subject"` // what it is of: a job, or a pairing on a kind of wall
	Title        string         `db:"title"`
	State        approval.State `db:"state"`
	Version      int64          `db:"version"` // of what changes of it
	Verdict      string         `db:"verdict"`
	Document     string         `db:"document"` // what was judged, in canonical form
	Fingerprint  string         `db:"fingerprint"`
	Result       string         `db:"result"`
	Preparer     int64          `db:"preparer"`
	PreparedBy   string         `db:"prepared_by"`
	PreparedAt   string         `db:"prepared_at"`
	Approver     sql.NullInt64  `db:"approver"`
	ApprovedBy   sql.NullString `db:"approved_by"`
	ApprovedAt   sql.NullString `db:"approved_at"`
	SupersededBy sql.NullInt64  `db:"superseded_by"`
	Seen         string         `db:"seen"`     // the fingerprint of what the catalogue had when it was last judged again
	Stale        string         `db:"stale"`    // how the result differs from that, as JSON; "": it does not
	Family       string         `db:"family"`   // of those with the same bolts and steps
	Restored     string         `db:"restored"` // when a backup gave it back, until that is confirmed; ""
}

// Holds reports whether documents may be issued from it and worked by, as far as it has been judged again.
func (a *Approval) Holds() error {
	switch {
	case a.State != approval.Approved:
		return &approval.NotNow{Act: approval.Issue, State: a.State}
	case a.Stale != "":
		return ErrStale
	case a.Restored != "":
		return ErrRestored
	}
	return nil
}

// ApprovalEvent is an act on an approval, a new result, or a comment.
type ApprovalEvent struct {
	Seq      int64  `db:"seq" json:"seq" required:"true"`
	Approval int64  `db:"approval" json:"-"`
	At       string `db:"at" json:"at" required:"true"`
	Person   int64  `db:"person" json:"-"`
	Who      string `db:"who" json:"who" required:"true"`
	What     string `db:"what" json:"what" required:"true"`
	About    string `db:"about" json:"about,omitempty"`
	Text     string `db:"text" json:"text,omitempty"`
}

// Errors of a change of an approval, beside [approval.NotNow] and [approval.Own].
var (
	ErrInReview = errors.New("it is in review already")
	ErrVersion  = errors.New("somebody else has changed it meanwhile")
	ErrStale    = errors.New("what it rests on has changed, and the result with it")
	ErrShutOut  = errors.New("the account has not, or no longer, the role")
	ErrRestored = errors.New("it came from a backup, and nobody has confirmed that it still holds")
)

// CatalogueVersion identifies a state of the catalogue: a result is valid as long as it is the same.
type CatalogueVersion state

// CatalogueAt is [Store.Catalogue] and its moment.
func (s *Store) CatalogueAt(ctx context.Context) (c *exchange.Contents, at CatalogueVersion, err error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	c, err = s.read(ctx)
	return c, CatalogueVersion(s.state), err
}

// unchanged fails when the catalogue has changed since that moment.
func (m CatalogueVersion) unchanged(ctx context.Context, tx *sqlx.Tx) error {
	var now CatalogueVersion
	if err := tx.GetContext(ctx, &now, stateNow); err != nil {
		return err
	}
	if now != m {
		return ErrMoved
	}
	return nil
}

// By is the account that acts on an approval.
type By struct {
	Person int64
	Name   string
	Most   rights.Role // as a token of theirs limits it; "": as their account is
}

func (b By) event(of int64, what, about, text string) ApprovalEvent {
	return ApprovalEvent{Approval: of, At: now(), Person: b.Person, Who: b.Name, What: what, About: about, Text: text}
}

const putEvent = `INSERT INTO approval_event (approval, at, person, who, what, about, text)
	VALUES (:approval, :at, :person, :who, :what, :about, :text)`

// addEvent stores an event of an approval, and writes acts to the audit.
func addEvent(ctx context.Context, tx *sqlx.Tx, e ApprovalEvent, title string) error {
	if _, err := tx.NamedExecContext(ctx, putEvent, e); err != nil || title == "" {
		return err
	}
	return addAudit(ctx, tx, AuditEntry{Person: sql.NullInt64{Int64: e.Person, Valid: e.Person > 0}, Who: e.Who, What: "approval: " + e.What,
		About: title})
}

const approvalColumns = `SELECT id, subject, title, state, version, verdict, document, fingerprint, result, preparer, prepared_by,
	prepared_at, approver, approved_by, approved_at, superseded_by, seen, stale, family, restored FROM approval`

// Submit sends judgements for review, all or none. Each replaces the draft of the same subject, where there is one.
func (s *Store) Submit(ctx context.Context, all []Approval, by By, at CatalogueVersion, text string) ([]Approval, error) {
	out := make([]Approval, 0, len(all))
	err := s.change(ctx, func(tx *sqlx.Tx) error {
		if err := at.unchanged(ctx, tx); err != nil {
			return err
		}
		if err := mayAct(ctx, tx, by, rights.Submit, nil); err != nil {
			return err
		}
		for _, a := range all {
			a.State, a.Preparer, a.PreparedBy, a.PreparedAt, a.Seen = approval.InReview, by.Person, by.Name, now(), a.Fingerprint
			if err := submit(ctx, tx, &a, by, text); err != nil {
				return err
			}
			out = append(out, a)
		}
		return nil
	})
	return out, err
}

func submit(ctx context.Context, tx *sqlx.Tx, a *Approval, by By, text string) error {
	var open Approval
	switch err := tx.GetContext(ctx, &open, approvalColumns+` WHERE subject = ? AND state IN ('draft', 'in_review')`, a.Subject); {
	case errors.Is(err, sql.ErrNoRows):
		r, err := tx.NamedExecContext(ctx, `INSERT INTO approval (subject, title, state, verdict, document, fingerprint, result, preparer,
			prepared_by, prepared_at, seen, family) VALUES (:subject, :title, :state, :verdict, :document, :fingerprint, :result, :preparer,
			:prepared_by, :prepared_at, :seen, :family)`, a)
		if err != nil {
			return err
		}
		if a.ID, err = r.LastInsertId(); err != nil {
			return err
		}
	case err != nil:
		return err
	case open.State == approval.InReview:
		return ErrInReview
	default:
		a.ID = open.ID
		if _, err := tx.NamedExecContext(ctx, `UPDATE approval SET title = :title, state = :state, version = version + 1, verdict = :verdict,
			document = :document, fingerprint = :fingerprint, result = :result, preparer = :preparer, prepared_by = :prepared_by,
			prepared_at = :prepared_at, seen = :seen, stale = '', family = :family WHERE id = :id`, a); err != nil {
			return err
		}
	}
	if err := addEvent(ctx, tx, by.event(a.ID, string(approval.Submit), "", text), a.Title); err != nil {
		return err
	}
	return tx.GetContext(ctx, a, approvalColumns+` WHERE id = ?`, a.ID)
}

// mayAct asks within the transaction whether an account, as it is now, may do an act; of: on which approval, nil for none.
func mayAct(ctx context.Context, tx *sqlx.Tx, by By, act rights.Act, of *rights.Of) error {
	var role rights.Role
	err := tx.GetContext(ctx, &role, `SELECT role FROM person WHERE id = ? AND NOT disabled`, by.Person)
	if errors.Is(err, sql.ErrNoRows) {
		return ErrShutOut
	}
	if by.Most != rights.Nobody && role.May(by.Most) {
		role = by.Most
	}
	if err == nil {
		err = rights.May(act, rights.Who{ID: by.Person, Role: role}, of)
	}
	var lacks *rights.Lacks
	if errors.As(err, &lacks) {
		return ErrShutOut
	}
	return err
}

// Of is the approval as an act on it sees it: after a restore, who sent it does not confirm it; else the accounts that prepared it.
func (a *Approval) Of(act approval.Act, preparers []int64) *rights.Of {
	if act == approval.Confirm {
		preparers = []int64{a.Preparer}
	}
	return &rights.Of{State: a.State, Prepared: preparers}
}

// Fits reports why an act that its state allows is not to be done now: nothing stale is approved, and only what a backup gave back is
// confirmed.
func (a *Approval) Fits(act approval.Act) error {
	switch {
	case act == approval.Approve && a.Stale != "":
		return ErrStale
	case act == approval.Confirm && a.Restored == "":
		return ErrVersion // somebody has, meanwhile
	}
	return nil
}

// Seen is an approval in the version that a person has seen.
type Seen struct {
	ID      int64 `json:"id" required:"true" minimum:"1"`
	Version int64 `json:"version" required:"true" minimum:"1"`
}

// Decide decides about approvals in the versions that were seen, all or none. Approving takes an account that never sent them for
// review, the catalogue of that moment, and that none is stale.
func (s *Store) Decide(ctx context.Context, all []Seen, act approval.Act, by By, at CatalogueVersion, text string) ([]Approval, error) {
	out := make([]Approval, 0, len(all))
	err := s.change(ctx, func(tx *sqlx.Tx) error {
		for _, seen := range all {
			a, err := decide(ctx, tx, seen, decision{act, by, at, text})
			if err != nil {
				return err
			}
			out = append(out, a)
		}
		return nil
	})
	return out, err
}

// decision is an act by somebody, at what the catalogue was when it was judged.
type decision struct {
	act  approval.Act
	by   By
	at   CatalogueVersion
	text string
}

func decide(ctx context.Context, tx *sqlx.Tx, seen Seen, of decision) (a Approval, err error) {
	act, by, at, text := of.act, of.by, of.at, of.text
	if a, err = oneApproval(ctx, tx, seen.ID); err != nil {
		return a, err
	}
	if a.Version != seen.Version {
		return a, ErrVersion
	}
	preparers, err := preparersOf(ctx, tx, &a)
	if err != nil {
		return a, err
	}
	if err := mayAct(ctx, tx, by, rights.Act(act), a.Of(act, preparers)); err != nil {
		return a, err
	}
	next, err := a.State.After(act)
	if err != nil {
		return a, err
	}
	if err := a.Fits(act); err != nil {
		return a, err
	}
	set := `state = :state, version = version + 1`
	if act == approval.Confirm {
		a.Restored = ""
		set += `, restored = :restored`
	}
	if act == approval.Approve {
		if err := approves(ctx, tx, &a, by, at); err != nil {
			return a, err
		}
		set += `, approver = :approver, approved_by = :approved_by, approved_at = :approved_at,
			rests_on = (SELECT coalesce(max(seq), 0) FROM revision)`
	}
	a.State = next
	if _, err := tx.NamedExecContext(ctx, `UPDATE approval SET `+set+` WHERE id = :id`, a); err != nil {
		return a, err
	}
	if err := addEvent(ctx, tx, by.event(a.ID, string(act), "", text), a.Title); err != nil {
		return a, err
	}
	return oneApproval(ctx, tx, a.ID)
}

// preparersOf are the accounts that prepared it since its subject was last approved: all that ever sent it for review, and all that
// wrote a revision of its display, bracket or job.
func preparersOf(ctx context.Context, q sqlx.QueryerContext, a *Approval) (all []int64, err error) {
	err = sqlx.SelectContext(ctx, q, &all, `WITH this AS MATERIALIZED (SELECT json_extract(document, '$.display.id') AS display,
			json_extract(document, '$.bracket.id') AS bracket, json_extract(document, '$.job.id') AS job,
			(SELECT coalesce(max(rests_on), 0) FROM approval WHERE subject = ?1 AND approver IS NOT NULL AND id <> ?4) AS since
			FROM approval WHERE id = ?4)
		SELECT person FROM approval_event AS e JOIN approval AS o ON o.id = e.approval
			WHERE o.subject = ?1 AND e.what = ?2 AND e.seq > (SELECT coalesce(max(l.seq), 0) FROM approval_event AS l
				JOIN approval AS b ON b.id = l.approval WHERE b.subject = ?1 AND l.what = ?3 AND b.id <> ?4)
		UNION SELECT r.person FROM (SELECT 'display' AS kind, display AS id FROM this UNION ALL SELECT 'bracket', bracket FROM this
				UNION ALL SELECT 'job', job FROM this) AS o
			JOIN revision AS r ON r.kind = o.kind AND r.id = o.id WHERE r.seq > (SELECT since FROM this) AND r.person IS NOT NULL`,
		a.Subject, string(approval.Submit), string(approval.Approve), a.ID)
	return append(all, a.Preparer), err
}

// Preparers are the accounts that may not approve it, since they prepared it.
func (s *Store) Preparers(ctx context.Context, a *Approval) ([]int64, error) {
	return preparersOf(ctx, s.db, a)
}

// approves checks the catalogue, and supersedes the approval before of the same subject.
func approves(ctx context.Context, tx *sqlx.Tx, a *Approval, by By, at CatalogueVersion) error {
	if err := at.unchanged(ctx, tx); err != nil {
		return err
	}
	a.Approver.Int64, a.Approver.Valid = by.Person, true
	a.ApprovedBy.String, a.ApprovedBy.Valid = by.Name, true
	a.ApprovedAt.String, a.ApprovedAt.Valid = now(), true
	var before Approval
	switch err := tx.GetContext(ctx, &before, approvalColumns+` WHERE subject = ? AND state = 'approved'`, a.Subject); {
	case errors.Is(err, sql.ErrNoRows):
		return nil
	case err != nil:
		return err
	}
	if _, err := tx.ExecContext(ctx, `UPDATE approval SET state = 'superseded', superseded_by = ?, version = version + 1 WHERE id = ?`, a.ID,
		before.ID); err != nil {
		return err
	}
	return addEvent(ctx, tx, by.event(before.ID, string(approval.Supersede), "", ""), before.Title)
}

// Comment stores a comment on an approval, or on a finding or step of it.
func (s *Store) Comment(ctx context.Context, id int64, by By, about, text string) error {
	return s.change(ctx, func(tx *sqlx.Tx) error {
		if _, err := oneApproval(ctx, tx, id); err != nil {
			return err
		}
		return addEvent(ctx, tx, by.event(id, "comment", about, text), "")
	})
}

func oneApproval(ctx context.Context, q sqlx.QueryerContext, id int64) (a Approval, err error) {
	err = sqlx.GetContext(ctx, q, &a, approvalColumns+` WHERE id = ?`, id)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	return a, err
}

// Approval finds an approval.
func (s *Store) Approval(ctx context.Context, id int64) (Approval, error) {
	return oneApproval(ctx, s.db, id)
}
