package fit

import (
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// TestSeverities: every rule has a place of its own in the order of what it costs to be wrong about it, from 1 without a gap.
func TestSeverities(t *testing.T) {
	has := map[int]RuleID{}
	for i := range Rules {
		about := &Rules[i].About
		if other, taken := has[about.Severity]; taken || about.Severity < 1 || about.Severity > len(Rules) {
			t.Errorf("%s has the severity %d, as %q has", about.ID, about.Severity, other)
		}
		has[about.Severity] = about.ID
	}
}

// TestPatternsInUse: patterns that the standard has, or displays have, are no odd figures; one a millimetre beside them is.
func TestPatternsInUse(t *testing.T) {
	for _, c := range []struct {
		w, h   int64
		thread fastener.Thread
		want   Status
	}{
		{200, 200, fastener.M6, ok}, {300, 200, fastener.M6, note}, {300, 300, fastener.M6, note}, {400, 300, fastener.M6, note},
		{500, 400, fastener.M8, note}, {301, 200, fastener.M6, wary}, {300, 201, fastener.M6, wary}, {501, 400, fastener.M8, wary},
		{500, 401, fastener.M8, wary}, {400, 299, fastener.M6, wary},
	} {
		d, _ := catalogtest.Pair()
		d.Width, d.Height = catalogtest.Length(1095), catalogtest.Length(634)
		d.Patterns = []catalog.Pattern{catalogtest.Pattern(c.w, c.h, c.thread, 14)}
		if got := DataCheck(d); got.Status != c.want {
			t.Errorf("%d × %d %s: %s, not %s: %s", c.w, c.h, c.thread, got.Status, c.want, got.Text.In(quantity.Metric))
		}
	}
}

// TestHolesUnderWhatIsThere: a port of 60 × 40 lies over a hole as far as its edges, and not a nanometre further, to every side. The
// hole is 100 right of the middle and 65 above it: 317 − 352 + 100.
func TestHolesUnderWhatIsThere(t *testing.T) {
	for _, c := range []struct {
		dx, dy quantity.Length
		kind   string
		want   bool
	}{
		{0, 0, "port", true}, {mm(30) - 1, 0, "port", true}, {mm(30), 0, "port", false}, {1 - mm(30), 0, "port", true},
		{-mm(30), 0, "port", false},
		{0, mm(20) - 1, "port", true}, {0, mm(20), "port", false}, {0, 1 - mm(20), "port", true}, {0, -mm(20), "port", false},
		{mm(29), mm(19), "protrusion", true}, {mm(29), mm(21), "protrusion", false}, {mm(31), mm(19), "protrusion", false},
		{0, 0, "label", false}, {0, 0, "vent", false},
	} {
		d, _ := catalogtest.Pair()
		z := catalog.Zone{Kind: c.kind, X: mm(100) + c.dx, Y: mm(65) + c.dy, Width: mm(60), Height: mm(40)}
		if got := holeUnder(d, &z); (got == "TR") != c.want || got != "" && got != "TR" {
			t.Errorf("%+v: %q", c, got)
		}
		d.Patterns[0].CenterBelowTop.Known = false
		if got := holeUnder(d, &z); got != "" {
			t.Errorf("%+v, nobody knows where the pattern is: %q", c, got)
		}
	}
}

// TestDiagonals: a diagonal as long as the outline's, 1265.3 mm of 1095 × 634, down to 85 % of that, 1075.5, agrees.
func TestDiagonals(t *testing.T) {
	for _, c := range []struct {
		diagonal quantity.Length
		want     Status
	}{
		{mm(1265), ok}, {mm(1268), wary}, {mm(1076), ok}, {mm(1075), wary}, {mm(49), wary}, {mm(43), wary}, {mm(1300), wary},
	} {
		d, _ := catalogtest.Pair()
		d.Diagonal = quantity.Some(c.diagonal)
		if got := DataCheck(d); got.Status != c.want {
			t.Errorf("%v: %s: %s", c.diagonal, got.Status, got.Text.In(quantity.Metric))
		}
	}
}
