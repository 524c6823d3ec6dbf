package steps

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/stack"
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

// TestLiftsFigures: the display is lifted from a table of 750 with the hands 200 and half its depth before the ankles, 250 at the least;
// to 1400 where no site is known, and from a platform; one person lifts 23 kg at the best.
func TestLiftsFigures(t *testing.T) {
	if best := (Lift{Horizontal: quantity.MM(250), Vertical: quantity.MM(750), Travel: quantity.MM(250), Frequency: 1,
		Coupling: 1}).Limit(); best !=
		23*quantity.Kilogram {
		t.Errorf("%s", best)
	}
	for _, c := range []struct{ depth, at, horizontal, vertical int64 }{
		{101, 0, 250_500, 1400}, {100, 0, 250_000, 1400}, {40, 0, 250_000, 1400}, {101, 1600, 250_500, 1600}, {101, 1751, 250_500, 1400},
	} {
		d, b := catalogtest.Pair()
		d.Depth = catalogtest.Length(c.depth)
		p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
		_, height, _ := d.Outline(0)
		var places []place.Placement
		if c.at > 0 {
			places = append(places, placedAt(quantity.MM(c.at)-height/3-b.LiftOver.Or(0)))
		}
		from := Lift{Horizontal: quantity.Length(c.horizontal) * 1000, Vertical: quantity.MM(750), Travel: quantity.MM(c.vertical - 750),
			Frequency: 1,
			Coupling:  0.9}
		to := from
		to.Vertical = quantity.MM(c.vertical)
		if got := lifting(&p, 0, places).Limit; got != min(from.Limit(), to.Limit()) {
			t.Errorf("%+v: %s, not %s or %s", c, got, from.Limit(), to.Limit())
		}
	}
}

// TestHungPartIsLifted: what hangs of the bracket is lifted with the display: its own mass, else half of the bracket's.
func TestHungPartIsLifted(t *testing.T) {
	for _, c := range []struct {
		whole, hung quantity.Optional[quantity.Mass]
		want        quantity.Mass
	}{
		{catalogtest.Mass(4000), catalogtest.Mass(3000), 3 * quantity.Kilogram}, {catalogtest.Mass(4000), quantity.Optional[quantity.Mass]{},
			2 * quantity.Kilogram}, {quantity.Optional[quantity.Mass]{}, catalogtest.Mass(3000), 3 * quantity.Kilogram},
	} {
		d, b := catalogtest.Pair()
		b.Mass, b.HungMass = c.whole, c.hung
		p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
		if l := lifting(&p, 0, nil); l.Mass != d.Mass.Value+c.want {
			t.Errorf("%+v: %s", c, l.Mass)
		}
	}
}

// TestNextLongerBolt: of the bag's bolts the shortest of the thread that is longer than the one that is in, and nothing else.
func TestNextLongerBolt(t *testing.T) {
	d, b := catalogtest.Pair()
	bolt := func(thread fastener.Thread, mm int64) catalog.Item {
		return catalog.Item{Kind: catalog.Bolt, Thread: thread, Length: quantity.MM(mm), Count: 4}
	}
	b.Kit = []catalog.Item{bolt(fastener.M6, 30), bolt(fastener.M8, 14), {Kind: catalog.Spacer, Thread: fastener.M6, Length: quantity.MM(13)},
		bolt(fastener.M6, 16), bolt(fastener.M6, 12), bolt(fastener.M6, 20)}
	p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
	for in, want := range map[int64]int64{12: 16, 16: 20, 20: 30, 30: 0} {
		got, found := diagnosis{generator: &generator{p: &p}}.longer(&stack.HoleStack{Thread: fastener.M6, Bolt: quantity.MM(in)})
		if got.Length != quantity.MM(want) || found != (want > 0) {
			t.Errorf("longer than %d: %v", in, got.Length)
		}
	}
}

// TestNoKindOfWall: how a bracket is fixed to a wall of which nobody says what it is made of, or without a plate, is not known:
// nothing is installed until it is.
func TestNoKindOfWall(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 1))
	d, b, _, policy := catalogtest.Drawn(r)
	for name, site := range map[string]Site{"no wall": {}, "no plate": {Wall: catalog.WoodStud}} {
		bare := *b
		if name == "no plate" {
			bare.WallPlate = nil
		}
		p := fit.Judge(d, &bare, 0, fit.Extra{}, policy)
		s := Generate(&p, site)
		i := slices.IndexFunc(s.Blocked, func(c fit.Check) bool { return c.Rule == place.StudsRule || c.Rule == place.PlateRule })
		if i < 0 || s.Blocked[i].Status != fit.Unknown {
			t.Errorf("%s: %v", name, s.Blocked)
		}
	}
}
