package anchorage

import (
	"math"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// TestTables: the tables as their sources have them, once more (NDS appendix L, the notes of tables 12K and 12M, table 12.3.3A; EN 1992-4;
// memory), each step at its diameter and a hair over it.
func TestTables(t *testing.T) {
	for name, want := range map[string]float64{"": 0.42, "spruce_pine_fir": 0.42, "hem_fir": 0.43, "douglas_fir_larch": 0.5,
		"southern_pine": 0.55, "balsa": 0} {
		if got := SpecificGravity(name); got != want {
			t.Errorf("%s: %g", name, got)
		}
	}
	for _, c := range []struct {
		kind catalog.ItemKind
		d    float64
		want float64
	}{
		{catalog.Lag, 0.2799, 70_000}, {catalog.Lag, 0.28, 60_000}, {catalog.Lag, 0.3439, 60_000}, {catalog.Lag, 0.344, 45_000},
		{catalog.Screw, 0.142, 100_000}, {catalog.Screw, 0.1421, 90_000}, {catalog.Screw, 0.177, 90_000}, {catalog.Screw, 0.1771, 80_000},
		{catalog.Screw, 0.236, 80_000}, {catalog.Screw, 0.2361, 70_000}, {catalog.Screw, 0.273, 70_000}, {catalog.Screw, 0.2731, 60_000},
		{catalog.Screw, 0.344, 60_000}, {catalog.Screw, 0.3441, 45_000},
	} {
		if got := BendingYield(c.kind, c.d); got != c.want {
			t.Errorf("a %s of %g in bends at %g psi, not %g", c.kind, c.d, got, c.want)
		}
	}
	for kind, roots := range map[catalog.ItemKind][][2]float64{
		catalog.Lag: {{0.25, 0.173}, {0.3125, 0.227}, {0.375, 0.265}, {0.5, 0.371}, {8 / 25.4, 0.227}},
		catalog.Screw: {{0.138, 0.113}, {0.164, 0.131}, {0.19, 0.152}, {0.216, 0.171}, {0.242, 0.196}, {0.268, 0.209}, {0.294, 0.232},
			{0.32, 0.255}, {0.372, 0.298}},
	} {
		for _, r := range roots {
			if got := Root(kind, r[0]); math.Abs(got-r[1]) > 1e-9 {
				t.Errorf("a %s of %g in has a root of %g, not %g", kind, r[0], got, r[1])
			}
		}
	}
	for hef, want := range map[int64]int64{0: 80, 40: 80, 41: 82, 60: 120} {
		if got := ThinnestMasonry(quantity.MM(hef)); got != quantity.MM(want) {
			t.Errorf("%d deep: %v", hef, got)
		}
	}
	if UsualSteel != 460_000 || SwingingSteel != 840_000 { // common practice: 0.46 and 0.84 mm
		t.Errorf("%v, %v", UsualSteel, SwingingSteel)
	}
}

// TestScrewPilots: a hole for a screw in wood is as wide as its root, in wood of more than 0.5 no less than seven tenths of it, of more
// than 0.6 nine tenths (NDS 12.1.5.3, memory).
func TestScrewPilots(t *testing.T) {
	i := catalog.Item{Kind: catalog.Screw, Diameter: quantity.MM(5), Length: quantity.MM(60), Root: quantity.MM(3)}
	for g, low := range map[float64]quantity.Length{0.42: 0, 0.5: 0, 0.500_001: 2_100_000, 0.6: 2_100_000, 0.600_001: 2_700_000} {
		b := Bore{Diameter: quantity.Some(quantity.MM(3))}
		b.inWood(&i, g)
		if b.Low != low || b.High != quantity.MM(3) {
			t.Errorf("in wood of %g: %v to %v", g, b.Low, b.High)
		}
	}
}

// TestAngleOfAWay: up to whole degrees, by the tangents: a hair over one is the next.
func TestAngleOfAWay(t *testing.T) {
	for n := range 90 {
		at := math.Tan(float64(n) * math.Pi / 180)
		if got := degreesUp(at*(1-1e-9), 1); got != n {
			t.Errorf("just under %d°: %d", n, got)
		}
		if got := degreesUp(at+1e-9, 1); got != n+1 {
			t.Errorf("just over %d°: %d", n, got)
		}
	}
}
