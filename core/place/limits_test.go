package place

import (
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// TestToggleNeedsRoom: a toggle of 60 through 13 of board and what it clamps needs the rest of it behind the board: with so much room it is
// no failure, with a nanometre less it is.
func TestToggleNeedsRoom(t *testing.T) {
	fails := func(room quantity.Length) bool {
		d, b, job := sitePair()
		b.Kind = "fixed"
		job.Wall.Type, job.Wall.Studs, job.Wall.Covering = "hollow_board", nil, some(13)
		job.Wall.Cavity = quantity.Some(room)
		anchored(b, "hollow_board", catalog.Toggle, 50, 50, "rated")
		p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
		for _, c := range Place(&p, job)[0].Checks {
			if c.Rule == DepthRule && c.Status == fit.Fail {
				return true
			}
		}
		return false
	}
	none, enough := quantity.Length(0), mm(200) // where it begins to be enough is between
	if !fails(none) || fails(enough) {
		t.Fatalf("without room it fails: %v; with 200 mm: %v", fails(none), fails(enough))
	}
	for enough-none > 1 {
		if middle := none + (enough-none)/2; fails(middle) {
			none = middle
		} else {
			enough = middle
		}
	}
	// Of its 60 the board takes 13, and the wall plate and a washer up to 10.
	if enough < mm(60-13-10) || enough > mm(60-13) {
		t.Errorf("it begins to be enough at %v", enough)
	}
}
