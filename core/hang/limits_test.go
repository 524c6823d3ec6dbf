package hang

import (
	"slices"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// TestWidthLimits: patterns that the interface just takes, and a nanometre more or less. Arms 34 wide on a rail of 680, patterns of 100 to
// 610: between the arms are 680 − 34 − w, half of it to either side.
func TestWidthLimits(t *testing.T) {
	wide := func(change func(b *catalog.Bracket)) *catalog.Bracket {
		b := arms()
		change(b)
		return b
	}
	plain := arms()
	noLimits := wide(func(b *catalog.Bracket) { b.Interface.WidthMin.Value = 0 })
	for _, c := range []struct {
		name  string
		b     *catalog.Bracket
		width quantity.Length
		slide quantity.Length
		ok    bool
	}{
		{"narrowest", plain, mm(100), mm(60), true},
		{"narrower", plain, mm(100) - 1, mm(60), false},
		{"widest: 18 mm are left on the rail", plain, mm(610), mm(18), true},
		{"wider", plain, mm(610) + 1, mm(18) - 1, false},
		{"its arms touch", noLimits, mm(34), mm(60), true},
		{"its arms are in each other", noLimits, mm(34) - 1, mm(60), false},
		{"the rail's end: (680 − 34 − w)/2 = 60", plain, mm(526), mm(60), true},
		{"the rail's end comes first", plain, mm(526) + 2, mm(60) - 1, true},
		{"the plate's end comes first", plain, mm(526) - 2, mm(60), true},
		{"fills the rail", wide(func(b *catalog.Bracket) { b.Interface.RailWidth = quantity.Some(mm(644)) }), mm(610), 0, true},
		{"longer than the rail", wide(func(b *catalog.Bracket) { b.Interface.RailWidth = quantity.Some(mm(644) - 2) }), mm(610), -1, false},
		{"nobody says how far the plate slides", wide(func(b *catalog.Bracket) {
			b.WallPlate.LateralSlide = quantity.Optional[quantity.Length]{}
		}), mm(200), mm(223), true},
		{"no wall plate", wide(func(b *catalog.Bracket) { b.WallPlate = nil }), mm(200), mm(223), true},
		{"no rail", wide(func(b *catalog.Bracket) { b.Interface.RailWidth = quantity.Optional[quantity.Length]{} }), mm(610), mm(60), true},
	} {
		if slide, ok := TakesWidth(c.b, c.width, mm(200)); ok != c.ok || slide != c.slide {
			t.Errorf("%s: %v, slides %v; want %v, %v", c.name, ok, int64(slide), c.ok, int64(c.slide))
		}
	}
	plate := arms()
	plate.Interface = catalog.Interface{Type: catalog.Plate, Patterns: []catalog.PatternSize{{Width: mm(200), Height: mm(100)}}}
	for _, c := range []struct {
		w, h quantity.Length
		ok   bool
	}{{mm(200), mm(100), true}, {mm(200), mm(200), false}, {mm(100), mm(100), false}, {mm(200) + 1, mm(100), false},
		{mm(200), mm(100) - 1, false}} {
		if _, ok := TakesWidth(plate, c.w, c.h); ok != c.ok {
			t.Errorf("a plate takes %v × %v: %v", c.w, c.h, ok)
		}
	}
}

// TestEdgesKnown: an edge is known where the figures that give it are. Upright the top needs the pattern's middle alone; turned both need
// the width, and how far the middle is beside the display's.
func TestEdgesKnown(t *testing.T) {
	for _, c := range []struct {
		name          string
		change        func(d *catalog.Display, p *catalog.Pattern)
		turn          catalog.Turn
		above, bottom bool
	}{
		{"all", func(*catalog.Display, *catalog.Pattern) {}, 0, true, true},
		{"no height", func(d *catalog.Display, _ *catalog.Pattern) { d.Height.Known = false }, 0, true, false},
		{"no middle", func(_ *catalog.Display, p *catalog.Pattern) { p.CenterBelowTop.Known = false }, 0, false, false},
		{"turned, all", func(*catalog.Display, *catalog.Pattern) {}, 90, true, true},
		{"turned, no width", func(d *catalog.Display, _ *catalog.Pattern) { d.Width.Known = false }, 90, false, false},
		{"turned, neither", func(d *catalog.Display, p *catalog.Pattern) { d.Width.Known, p.CenterBelowTop.Known = false, false }, 90,
			false, false},
		{"turned, no height: the side is known", func(d *catalog.Display, _ *catalog.Pattern) { d.Height.Known = false }, 90, true, true},
	} {
		d, p := display(1000, 600, 320, catalog.Pattern{Width: mm(200), Height: mm(200)})
		c.change(d, p)
		if above, below := Edges(d, p, c.turn); above.Known != c.above || below.Known != c.bottom {
			t.Errorf("%s: %v, %v", c.name, above.Known, below.Known)
		}
	}
}

// TestRevealChoices: the places of the top row that the slots take, and those of them with both arm ends inside the display. By the slots
// a pattern of 200 has its top row at 20–50, 110–140 (then 90 or 180 further down the next slot is met), and so on; the display of 634
// with its middle at 352 covers the arms from 24 + 10 to where the rows are 80 below the hook at the least (TestWorkedCases).
func TestRevealChoices(t *testing.T) {
	b, policy := arms(), catalog.DefaultPolicy()
	d, p := display(1000, 634, 352, catalog.Pattern{Width: mm(200), Height: mm(200)})
	all := Choices(d, p, b, 0, &policy, false)
	if want := Positions(b, mm(200)); !slices.Equal(all, want) || len(all) < 2 {
		t.Fatalf("%v, want %v", all, want)
	}
	some := Choices(d, p, b, 0, &policy, true)
	if len(some) == 0 || some[0].Min < mm(80) || slices.Equal(some, all) {
		t.Errorf("with the reveal %v of %v", some, all)
	}
	for name, change := range map[string]func(){
		"no top": func() { p.CenterBelowTop.Known = false }, "no bottom": func() { p.CenterBelowTop.Known, d.Height.Known = true, false }} {
		change()
		if got := Choices(d, p, b, 0, &policy, true); !slices.Equal(got, all) {
			t.Errorf("%s: %v", name, got)
		}
	}
	d.Height.Known = true
	tall := *p
	tall.Height = mm(420)
	if got := Choices(d, &tall, b, 0, &policy, true); len(got) > 0 {
		t.Errorf("no slots for it, and it has %v", got)
	}
}

// TestTies: of two places equally far from the middle of the arms the higher is taken; what is nearest to a zone is all that is nearest.
func TestTies(t *testing.T) {
	b, policy := arms(), catalog.DefaultPolicy()
	b.RowsUsed, b.Interface.Slots = []string{"top"}, slots(100, 109, 129, 140) // the middle for a pattern of 200: 219 − 100 = 119
	_, p := display(1000, 634, 352, catalog.Pattern{Width: mm(200), Height: mm(200)})
	p.CenterBelowTop.Known = false
	var h Hang
	if ok := Place(&h, &catalog.Display{}, p, b, Wanted{Policy: &policy}); !ok || h.TopHoles != mm(109) {
		t.Errorf("%v, %v below the hook", ok, h.TopHoles)
	}
	two := slots(10, 20, 40, 50)
	for _, c := range []struct {
		zone fastener.Interval
		want fastener.Intervals
	}{
		{fastener.Interval{Min: mm(30), Max: mm(30)}, slots(20, 20, 40, 40)},
		{fastener.Interval{Min: mm(29), Max: mm(29)}, slots(20, 20)},
		{fastener.Interval{Min: mm(31), Max: mm(31)}, slots(40, 40)},
		{fastener.Interval{Min: mm(50), Max: mm(60)}, slots(50, 50)},
		{fastener.Interval{Min: mm(0), Max: mm(10)}, slots(10, 10)},
		{fastener.Interval{Min: mm(60), Max: mm(70)}, slots(50, 50)},
		{fastener.Interval{Min: mm(15), Max: mm(45)}, slots(15, 20, 40, 45)},
	} {
		if got := nearestTo(nil, two, c.zone); !slices.Equal(got, c.want) {
			t.Errorf("nearest to %v: %v, want %v", c.zone, got, c.want)
		}
	}
	many := append(slots(0, 1, 20, 21, 40, 41, 60, 61, 80, 81, 100, 101, 120, 121, 140, 141, 160, 161), slots(180, 181, 200, 201, 220, 221,
		240, 241, 260, 261, 280, 281, 300, 301, 320, 321)...) // more than most arms have
	b.Interface.Slots = many
	if got := Positions(b, mm(200)); !slices.Equal(got, fastener.Intervals(many)) {
		t.Errorf("%d of %d slots", len(got), len(many))
	}
}

// TestTouchesAtOnce: at the limits of turning about a pivot: a corner on the wall turns no further; one that reaches just to it, or that
// is beside the pivot on the other side, turns freely.
func TestTouchesAtOnce(t *testing.T) {
	for _, c := range []struct {
		distance float64
		corner   Corner
		want     float64
	}{
		{10, Corner{-10, 30}, 0}, {10, Corner{-10.001, 30}, -1}, {5, Corner{3, 4}, 90}, {50, Corner{30, 0}, 90}, {10, Corner{30, 0}, 90},
		{10, Corner{30, -40}, 90}, {-10, Corner{10, 0}, 90},
	} {
		if got := TurnUntilWall(c.distance, c.corner); got < c.want-1e-9 || got > c.want+1e-9 {
			t.Errorf("%v, %v: %v, want %v", c.distance, c.corner, got, c.want)
		}
	}
}
