package store

import (
	"fmt"
	"testing"

	"nexufix/core/catalog"
)

// TestTicksTakenOff: of steps that are not done nothing is kept, however many are taken off, but where the job's document says that
// they are.
func TestTicksTakenOff(t *testing.T) {
	s, _ := open(t)
	j := &catalog.Job{ID: "site", Ticks: []catalog.Tick{{Step: "level", At: "2026-11-30T08:00:00Z"}}}
	off := []catalog.Tick{{Step: "level"}}
	for n := range 500 {
		off = append(off, catalog.Tick{Step: fmt.Sprintf("step-%d", n)})
	}
	if all, err := s.Tick(t.Context(), j, append(off, catalog.Tick{Step: "lock", At: "2026-11-30T09:00:00Z"})); err != nil || len(all) != 1 {
		t.Fatal(all, err)
	}
	if all, err := s.Tick(t.Context(), j, []catalog.Tick{{Step: "lock"}}); err != nil || len(all) != 0 {
		t.Error(all, err)
	}
	var rows int
	if err := s.db.Get(&rows, `SELECT count(*) FROM tick`); err != nil || rows != 1 {
		t.Errorf("%d are kept, %v", rows, err)
	}
}
