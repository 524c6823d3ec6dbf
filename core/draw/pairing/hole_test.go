package pairing

import (
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/draw/drawtest"
	"nexufix/core/fastener"
	"nexufix/core/probe"
	"nexufix/core/quantity"
)

// TestHoleNarrows: what is open of the drawn hole gets smaller with every
// trial, and stands where the trials put it.
func TestHoleNarrows(t *testing.T) {
	trials := []catalog.Trial{
		{Thread: fastener.M6, Length: quantity.MM(12), Outcome: "seated"},
		{Thread: fastener.M6, Length: quantity.MM(30), Outcome: "stopped", Gap: catalogtest.Length(12)},
		{Thread: fastener.M6, Length: quantity.MM(30), Outcome: "rests", Gap: catalogtest.Length(26)},
	}
	last := 1e9
	for n := range len(trials) + 1 {
		d := Hole(probe.Solve(trials[:n], nil))
		x0, x1, _, _ := drawtest.Extent(d, "hole.bottom")
		c0, c1, _, _ := drawtest.Extent(d, "hole.cup")
		if open := x1 - x0 + c1 - c0; open >= last {
			t.Errorf("after %d trials %g is open, before %g", n, open, last)
		} else {
			last = open
		}
	}
	d := Hole(probe.Solve(trials, nil))
	// 30 − 12 = 18 ± 1 to the bottom; 30 − 26 = 4 ± 1 of cup.
	if x0, x1, _, _ := drawtest.Extent(d, "hole.bottom"); !drawtest.Near(x0, -19) || !drawtest.Near(x1, -17) {
		t.Errorf("bottom from %g to %g", x0, x1)
	}
	if x0, x1, _, _ := drawtest.Extent(d, "hole.cup"); !drawtest.Near(x0, -5) || !drawtest.Near(x1, -3) {
		t.Errorf("cup from %g to %g", x0, x1)
	}
	if got := drawtest.Texts(d, quantity.Metric); !strings.Contains(got, "to the bottom 17 to 19") || !strings.Contains(got, "M6") {
		t.Error(got)
	}
}
