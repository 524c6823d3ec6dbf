package store

import (
	"fmt"
	"slices"
	"testing"
	"time"
)

// TestThin: of the revisions of a display over a year, two a month, those are emptied that are from before the time and neither the first,
// nor one of the two latest, nor the last of their month; to the nanosecond. Who, when and why stay, the rest can be restored, and a second
// time nothing is left to do.
func TestThin(t *testing.T) {
	at := time.Date(2025, 1, 10, 0, 0, 0, 0, time.UTC)
	clock = func() time.Time { return at }
	t.Cleanup(func() { clock = time.Now })
	s, _ := open(t)
	for n := range 24 {
		if _, err := keep(t, s, display("d", fmt.Sprint("Pane ", n+1), int64(500+n)), n); err != nil {
			t.Fatal(err)
		}
		if at = at.AddDate(0, 0, 10); n%2 == 1 {
			at = time.Date(2025, time.Month(n/2+2), 10, 0, 0, 0, 0, time.UTC)
		}
	}
	emptied := func(before time.Time) (numbers []int) {
		t.Helper()
		if _, err := s.Thin(t.Context(), before, AuditEntry{Who: "test", What: "history thinned", About: "before then"}); err != nil {
			t.Fatal(err)
		}
		all, err := s.History(t.Context(), "display", "d", 100, 0)
		if err != nil || len(all) != 24 {
			t.Fatal(len(all), err)
		}
		for _, r := range slices.Backward(all) {
			if r.Thinned() {
				numbers = append(numbers, r.Number)
			}
			if r.Who == "" || r.At == "" {
				t.Errorf("%+v", r)
			}
		}
		return numbers
	}
	july := time.Date(2025, 7, 10, 0, 0, 0, 0, time.UTC) // of the thirteenth
	if got := emptied(july); !slices.Equal(got, []int{3, 5, 7, 9, 11}) {
		t.Errorf("until July: %v", got)
	}
	if got := emptied(july.Add(time.Nanosecond)); !slices.Equal(got, []int{3, 5, 7, 9, 11, 13}) {
		t.Errorf("a nanosecond later: %v", got)
	}
	if got := emptied(at.AddDate(1, 0, 0)); !slices.Equal(got, []int{3, 5, 7, 9, 11, 13, 15, 17, 19, 21}) {
		t.Errorf("all of it: %v", got) // the 23rd is the one before the latest
	}
	n, err := s.Thin(t.Context(), at.AddDate(1, 0, 0), AuditEntry{Who: "test", What: "history thinned", About: "before then"})
	if n != 0 || err != nil {
		t.Errorf("a second time: %d, %v", n, err)
	}
	all, err := s.History(t.Context(), "display", "d", 100, 0)
	if err != nil {
		t.Fatal(err)
	}
	for _, r := range all {
		if r.Number == 3 {
			if _, err := s.RestoreRevision(t.Context(), me, r.Seq); err == nil {
				t.Error("an emptied one is restored")
			}
		}
	}
	for _, r := range all {
		if r.Number == 4 {
			if i, err := s.RestoreRevision(t.Context(), me, r.Seq); err != nil || i.Revision != 25 {
				t.Errorf("%+v, %v", i, err)
			}
		}
	}
	audit, err := s.Audit(t.Context(), AuditAsk{Words: "before then", Most: 10})
	if err != nil || len(audit) != 3 {
		t.Errorf("%+v, %v", audit, err)
	}
}
