package wall

import (
	"math"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/quantity"
)

// TestFastener: what goes into a wall is what the bracket says, else the usual
// kind of part (practice).
func TestFastener(t *testing.T) {
	kit := []catalog.Item{
		{Kind: "bolt", Name: "bolt"},
		{Kind: "lag", Name: "lag", Diameter: mm(8), Length: mm(70)},
		{Kind: "anchor", Name: "wall plug 10 × 60", Diameter: mm(10)},
		{Kind: "anchor", Name: "Spring Toggle", Diameter: mm(5)},
		{Kind: "screw", Name: "wood screw", Diameter: mm(5), Length: mm(40)},
	}
	for _, c := range []struct {
		kind       catalog.WallType
		said, want string
	}{
		{"wood_stud", "", "lag"}, {"wood_stud", "lag", "lag"}, {"wood_stud", "screw", "wood screw"},
		{"concrete", "", "wall plug 10 × 60"}, {"concrete", "lag", "lag"}, {"block", "anchor", "wall plug 10 × 60"},
		{"metal_stud", "toggle", "Spring Toggle"}, {"hollow_board", "TOGGLE", "Spring Toggle"}, {"metal_stud", "butterfly", "wall plug 10 × 60"},
		{"timber_board", "", "wood screw"}, {"thin_backer", "", "wood screw"}, {"lined_masonry", "", "wall plug 10 × 60"},
	} {
		b := &catalog.Bracket{Kit: kit, Walls: map[catalog.WallType]catalog.WallFixing{c.kind: {Fasteners: []string{c.said}}}}
		if got, ok := Fastener(b, c.kind); !ok || got.Name != c.want {
			t.Errorf("%s, %q: %q, want %q", c.kind, c.said, got.Name, c.want)
		}
	}
	if _, ok := Fastener(&catalog.Bracket{Kit: kit[:1]}, "wood_stud"); ok {
		t.Error("a bolt is no fastener for a wall")
	}
}

// TestRated: an ultimate figure counts for a quarter (practice); an anchor with
// figures goes before one without.
func TestRated(t *testing.T) {
	rated := catalog.Item{Kind: "anchor", Name: "rated", Pull: 80 * quantity.Kilogram, Shear: 100 * quantity.Kilogram}
	ultimate := rated
	ultimate.RatingBasis = "ultimate"
	p, s := Rated(rated)
	near(t, "pull", p, 80*9.80665, 1e-9)
	near(t, "shear", s, 100*9.80665, 1e-9)
	p, s = Rated(ultimate)
	near(t, "a quarter, pulled", p, 20*9.80665, 1e-9)
	near(t, "a quarter, across", s, 25*9.80665, 1e-9)
	if RatedPull(ultimate) != 20*quantity.Kilogram || RatedPull(rated) != 80*quantity.Kilogram {
		t.Error("as masses")
	}
	b := &catalog.Bracket{Kit: []catalog.Item{{Kind: "anchor", Name: "plain"}, rated}}
	if a, ok := Anchor(b); !ok || a.Name != "rated" {
		t.Errorf("%+v", a)
	}
}

// TestGuides: all eight kinds of wall say what they ask; so does every kind
// that a job can have.
func TestGuides(t *testing.T) {
	for _, kind := range catalog.WallTypes {
		g := Guides[kind]
		for _, p := range []quantity.Phrase{g.Fixing, g.Hole, g.Limit} {
			if p.Empty() {
				t.Errorf("%s: %+v", kind, g)
			}
		}
	}
	if len(Guides) != 8 || len(catalog.WallTypes) != 8 {
		t.Error(len(Guides))
	}
	// 5/8 in is 16 mm, to the millimetre.
	if got := Guides["wood_stud"].Limit.In(quantity.Imperial); got != "Covering up to 5/8 in, the middle of the stud, never the board alone." {
		t.Error(got)
	}
}

// TestScrews: by hand. NDS 12.2: 2850 · 0.42² · D lb/in; D 5 mm is 0.19685 in,
// so 98.97 lb/in; 30 mm in the wood under a permanent load is 0.9 · 98.97 ·
// 1.1811 = 105.2 lb, 467.9 N. USDA Wood Handbook: 15700/2850 times as much, 5.5.
func TestScrews(t *testing.T) {
	near(t, "lb/in", WoodScrewWithdrawal(0.42, mm(5)), 98.97, 0.01)
	near(t, "N", ScrewHolds(0.42, mm(5), mm(30)), 467.9, 0.2)
	near(t, "nothing in the wood", ScrewHolds(0.42, mm(5), -mm(1)), 0, 0)
	if ratio := 15_700.0 / 2850; math.Abs(ratio-5.51) > 0.01 {
		t.Error(ratio)
	}
}

// TestThreaded: by NDS appendix L (memory) a lag of 4 in has 2 1/2 in of thread,
// one of 1 in is threaded all over, one of 14 in has 6 in.
func TestThreaded(t *testing.T) {
	const in = quantity.Inch
	for length, want := range map[quantity.Length]quantity.Length{4 * in: 5 * in / 2, in: in, 14 * in: 6 * in, 3 * in: 2 * in} {
		if got := Threaded("lag", length); got != want {
			t.Errorf("%s: %s, want %s", length, got, want)
		}
	}
	if got := Threaded("screw", mm(60)); got != mm(40) {
		t.Error(got)
	}
}

func TestDrilling(t *testing.T) {
	_, b := catalogtest.Pair()
	d, ok := Drilling(b, "wood_stud")
	// 70 − 3 − 1.6 + 6 is 71.4; the maker's 72 is enough.
	if !ok || d.Depth.Value != 71_400_000 || d.Short() || d.Fastener != "lag" {
		t.Errorf("%+v", d)
	}
	w := b.Walls["wood_stud"]
	w.Depth = quantity.Some(mm(60))
	b.Walls["wood_stud"] = w
	if d, _ := Drilling(b, "wood_stud"); !d.Short() {
		t.Error("60 is too shallow for 71.4")
	}
	if _, ok := Drilling(b, "block"); ok {
		t.Error("a wall that the bracket says nothing of")
	}
}
