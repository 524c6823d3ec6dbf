package store

import (
	"slices"
	"strconv"
	"testing"
	"time"

	"nexufix/core/approval"
)

// TestClockJumpsBack: each thing that is done is an hour before the one that was done before it, by the clock; or years before or after
// it, over a leap day. What is in force, what was before it, and in which order things happened goes by what was done, not by the clock.
func TestClockJumpsBack(t *testing.T) {
	at := time.Date(2026, 11, 27, 12, 0, 0, 0, time.UTC)
	t.Run("by an hour", func(t *testing.T) {
		clockJumps(t, func() time.Time { at = at.Add(-time.Hour); return at })
	})
	n := 0
	t.Run("by years", func(t *testing.T) {
		clockJumps(t, func() time.Time { n++; return at.AddDate(n*n*5%11-5, 0, n%3) })
	})
}

// clockJumps does what is ordered by what was done, under a clock.
func clockJumps(t *testing.T, jumping func() time.Time) {
	t.Helper()
	clock = jumping
	t.Cleanup(func() { clock = time.Now })
	s, _ := open(t)
	var by []By
	for _, role := range []string{"engineer", "approver"} {
		p, err := s.AddPerson(t.Context(), Person{Login: role, Name: role, Role: role}, false, AuditEntry{Who: "test", What: "added"})
		if err != nil {
			t.Fatal(err)
		}
		by = append(by, By{Person: p.ID, Name: p.Name})
	}
	_, moment, err := s.CatalogueAt(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	var done []Approval
	for n := range 3 {
		a := Approval{Subject: "one", Title: strconv.Itoa(n), Verdict: "fits", Document: "{}", Fingerprint: approval.Sum("{}"), Result: "{}"}
		sent, err := s.Submit(t.Context(), []Approval{a}, by[0], moment, "")
		if err != nil {
			t.Fatal(err)
		}
		approved, err := s.Decide(t.Context(), []Seen{{sent[0].ID, sent[0].Version}}, approval.Approve, by[1], moment, "")
		if err != nil {
			t.Fatal(err)
		}
		done = append(done, approved[0])
	}
	if done[0].ApprovedAt.String <= done[1].ApprovedAt.String && done[1].ApprovedAt.String <= done[2].ApprovedAt.String {
		t.Fatal("the clock does not jump")
	}
	before, err := s.ApprovedBefore(t.Context(), &done[2])
	if err != nil || before.ID != done[1].ID || before.SupersededBy.Int64 != done[2].ID {
		t.Errorf("before the third was %s, %v", before.Title, err)
	}
	inForce, err := s.Approvals(t.Context(), approval.Approved)
	if err != nil || len(inForce) != 1 || inForce[0].ID != done[2].ID {
		t.Errorf("%+v, %v", inForce, err)
	}
	events, err := s.ApprovalEvents(t.Context(), done[1].ID, 100)
	var what []string
	for _, e := range events {
		what = append(what, e.What)
	}
	if err != nil || !slices.Equal(what, []string{"submit", "approve", "supersede"}) {
		t.Errorf("%v, %v", what, err)
	}
	all, err := s.Audit(t.Context(), AuditAsk{Most: 2})
	if err != nil || all[0].What != "approval: approve" || all[1].What != "approval: supersede" {
		t.Errorf("%+v, %v", all, err)
	}
}
