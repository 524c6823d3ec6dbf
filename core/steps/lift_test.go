package steps

import (
	"math"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// TestMultipliers: those of the revised NIOSH equation at their limits and a nanometre or a millionth of a degree beyond, and the values of
// its tables (NIOSH 94-110, memory): HM 0.63 at 40 cm and 0.40 at 63; VM 0.78 at the floor, 0.70 at 175 cm; DM 0.88 at 70 cm, 0.85 at
// 175; AM 0.86 at 45°, 0.71 at 90°, 0.57 at 135°.
func TestMultipliers(t *testing.T) {
	l := func(mm int64) Lift {
		return Lift{Horizontal: quantity.MM(mm), Vertical: quantity.MM(mm), Travel: quantity.MM(mm)}
	}
	beyond := func(mm int64) Lift {
		return Lift{Horizontal: quantity.MM(mm) + 1, Vertical: quantity.MM(mm) + 1, Travel: quantity.MM(mm) + 1}
	}
	turned := func(a quantity.Angle) Lift { return Lift{Asymmetry: a} }
	for name, of := range map[string]struct{ got, want float64 }{
		"HM close": {l(100).hm(), 1}, "HM 25": {l(250).hm(), 1}, "HM 40": {l(400).hm(), 0.625}, "HM 63": {l(630).hm(), 25.0 / 63},
		"HM beyond": {beyond(630).hm(), 0}, "VM floor": {l(0).vm(), 0.775}, "VM 75": {l(750).vm(), 1}, "VM 175": {l(1750).vm(), 0.7},
		"VM beyond": {beyond(1750).vm(), 0}, "DM short": {l(100).dm(), 1}, "DM 25": {l(250).dm(), 1}, "DM 70": {l(700).dm(), 0.82 + 4.5/70},
		"DM 175": {l(1750).dm(), 0.82 + 4.5/175}, "AM 0": {turned(0).am(), 1}, "AM 45": {turned(45 * quantity.Degree).am(), 0.856},
		"AM 90": {turned(90 * quantity.Degree).am(), 0.712}, "AM 135": {turned(135 * quantity.Degree).am(), 0.568},
		"AM beyond": {turned(135*quantity.Degree + 1).am(), 0},
	} {
		if math.Abs(of.got-of.want) > 1e-9 {
			t.Errorf("%s: %g, want %g", name, of.got, of.want)
		}
	}
	for table, of := range map[float64]float64{0.63: l(400).hm(), 0.40: l(630).hm(), 0.78: l(0).vm(), 0.88: l(700).dm(), 0.85: l(1750).dm(),
		0.57: turned(135 * quantity.Degree).am()} {
		if math.Abs(of-table) > 0.0051 {
			t.Errorf("%g, and %g in the table", of, table)
		}
	}
}

// TestTooMuch: one and a half times the limit for one and two people, twice it for three and four; not a nanogram more.
func TestTooMuch(t *testing.T) {
	for n, most := range map[int]quantity.Mass{1: 15, 2: 15, 3: 20, 4: 20} {
		if tooMuch(n, most, 10) || !tooMuch(n, most+1, 10) {
			t.Errorf("%d people lift up to %d of 10", n, most)
		}
	}
}

// placedAt is a display whose lower edge is so high.
func placedAt(bottom quantity.Length) (out place.Placement) {
	out.Known, out.Bottom = true, bottom
	return out
}

// TestPlatform: with the hands at 175 cm people stand on the floor, a nanometre higher on a platform; the highest of a run decides.
func TestPlatform(t *testing.T) {
	d, b := catalogtest.Pair()
	p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
	_, height, ok := d.Outline(0)
	if !ok {
		t.Fatal("the display has no outline")
	}
	at := quantity.MM(1750) - height/3 - b.LiftOver.Or(0)
	for over, want := range map[quantity.Length]bool{0: false, 1: true} {
		for _, bottoms := range [][]quantity.Length{{at + over}, {at - 100, at + over}, {at + over, at - 100}} {
			var places []place.Placement
			for _, x := range bottoms {
				places = append(places, placedAt(x))
			}
			if l := lifting(&p, 0, places); l.Platform != want || l.Hands.Value != quantity.MM(1750)+over {
				t.Errorf("%v over: platform %v, hands %d", over, l.Platform, l.Hands.Value)
			}
		}
	}
}
