package hang

import (
	"math/rand/v2"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

var mm = quantity.MM

var anywhere quantity.Optional[quantity.Length]

func slots(pairs ...int64) (out []fastener.Interval) {
	for i := 0; i < len(pairs); i += 2 {
		out = append(out, fastener.Interval{Min: mm(pairs[i]), Max: mm(pairs[i+1])})
	}
	return out
}

// arms is a bracket with five slots of 50, its hook 96 above the datum.
func arms() *catalog.Bracket {
	return &catalog.Bracket{
		Turns: []catalog.Turn{0, 90}, RowsUsed: []string{"top", "bottom"},
		Interface: catalog.Interface{Type: catalog.Arms, WidthMin: quantity.Some(mm(100)), WidthMax: quantity.Some(mm(610)), ArmWidth: mm(34),
			RailWidth: quantity.Some(mm(680)),
			ArmTop:    quantity.Some(mm(14)), ArmBottom: quantity.Some(mm(452)), Slots: slots(20, 70, 110, 160, 200, 250, 290, 340, 380, 430)},
		WallPlate: &catalog.WallPlate{HookAboveDatum: mm(96), LateralSlide: quantity.Some(mm(60))},
	}
}

func display(width, height, centerBelowTop int64, p catalog.Pattern) (*catalog.Display, *catalog.Pattern) {
	p.CenterBelowTop = quantity.Some(mm(centerBelowTop))
	d := &catalog.Display{Width: quantity.Some(mm(width)), Height: quantity.Some(mm(height)), Patterns: []catalog.Pattern{p}}
	return d, &d.Patterns[0]
}

// TestWorkedCases are computed by hand from the geometry; each says how.
func TestWorkedCases(t *testing.T) {
	square := catalog.Pattern{Width: mm(200), Height: mm(200)}
	for _, c := range []struct {
		name            string
		height, below   int64 // display, pattern centre below its top
		turn            catalog.Turn
		school          string
		change          func(*catalog.Bracket)
		top, centre     int64 // hole row below hook, centre above datum
		displayTop      int64
		revealT, reveal int64
	}{
		// The arm's middle is (452 − 14)/2 = 219 below the hook; the centre
		// nearest to it has its rows at 119 and 319, both in slots. Centre
		// 96 − 219 = −123; top −123 + 352. Reveals 352 − 219 − 14 and
		// 219 + (634 − 352) − 452.
		{"centred", 634, 352, 0, "centred", nil, 119, -123, 229, 119, 49},
		// High takes the smallest y that keeps 10 inside at the bottom:
		// y + 100 + 282 − 452 ≥ 10 gives y ≥ 80, the next slot begins at 110
		// and 310 is in one too.
		{"high", 634, 352, 0, "high", nil, 110, -114, 238, 128, 40},
		// A low pattern on a low display: nothing leaves the reveal at the
		// bottom (y ≥ 452 + 10 − 120 − 100 = 242) and at the top (y ≤ 300 −
		// 100 − 14 − 10 = 176). Between them the total shortage is the same,
		// so the centred one of 200 … 242 is the least: rows 200 and 400.
		{"least shortage", 420, 300, 0, "centred", nil, 200, -204, 96, -14, -32},
		// Turned by 90° the display's left edge is on top.
		{"turned", 634, 352, 90, "centred", nil, 119, -123, 0, 0, 0},
		// A plate hangs the pattern's centre where it is made to.
		{"plate", 634, 352, 0, "centred", func(b *catalog.Bracket) {
			b.Interface = catalog.Interface{Type: catalog.Plate, Patterns: []catalog.PatternSize{{Width: mm(200), Height: mm(200)}},
				CenterBelowHook: quantity.Some(mm(60))}
		}, -40, 36, 388, 0, 0},
		// Only the top row: any place in a slot, the centre's preferred one is
		// 119.
		{"top row", 634, 352, 0, "centred", func(b *catalog.Bracket) { b.RowsUsed = []string{"top"} }, 119, -123, 229, 119, 49},
	} {
		b := arms()
		if c.change != nil {
			c.change(b)
		}
		d, p := display(1095, c.height, c.below, square)
		policy := catalog.DefaultPolicy()
		policy.ArmSchool = c.school
		h := On(d, p, b, c.turn, &policy, anywhere)
		if h == nil {
			t.Errorf("%s: does not hang", c.name)
			continue
		}
		if c.turn == 90 { // 1095 / 2 is 547.5 above the centre
			if h.DisplayTopAboveDatum.Value != -mm(123)+mm(1095)/2 {
				t.Errorf("turned: top at %s", h.DisplayTopAboveDatum.Value)
			}
		} else if h.DisplayTopAboveDatum.Value != mm(c.displayTop) {
			t.Errorf("%s: display top %s, want %d", c.name, h.DisplayTopAboveDatum.Value, c.displayTop)
		}
		if h.TopHoles != mm(c.top) || h.CenterAboveDatum.Value != mm(c.centre) {
			t.Errorf("%s: rows at %s, centre %s; want %d, %d", c.name, h.TopHoles, h.CenterAboveDatum.Value, c.top, c.centre)
		}
		if c.turn == 0 && b.Interface.Type == catalog.Arms && (h.RevealTop.Value != mm(c.revealT) || h.RevealBottom.Value != mm(c.reveal)) {
			t.Errorf("%s: reveals %s %s, want %d %d", c.name, h.RevealTop.Value, h.RevealBottom.Value, c.revealT, c.reveal)
		}
	}
}

func TestDoesNotHang(t *testing.T) {
	for _, c := range []struct {
		name string
		w, h int64
		turn catalog.Turn
	}{
		{"too wide for the arms", 650, 200, 0},
		{"too narrow", 75, 75, 0},
		{"no two slots that far apart", 200, 600, 0},
		{"a turn the bracket does not allow", 200, 200, 270},
	} {
		d, p := display(1500, 1000, 500, catalog.Pattern{Width: mm(c.w), Height: mm(c.h)})
		if On(d, p, arms(), c.turn, new(catalog.DefaultPolicy()), anywhere) != nil {
			t.Errorf("%s: hangs", c.name)
		}
	}
}

// TestWanted: a position that is asked for is taken when the slots allow it.
func TestWanted(t *testing.T) {
	d, p := display(1095, 634, 352, catalog.Pattern{Width: mm(200), Height: mm(200)})
	for wanted, want := range map[int64]int64{25: 25, 140: 140, 90: 119} { // 90 is between two slots
		if h := On(d, p, arms(), 0, new(catalog.DefaultPolicy()), quantity.Some(mm(wanted))); h.TopHoles != mm(want) {
			t.Errorf("wanted at %d: %s", wanted, h.TopHoles)
		}
	}
}

func TestSlide(t *testing.T) {
	b := arms()
	for _, c := range []struct {
		width, slide int64
		ok           bool
	}{
		{200, 60, true}, // (680 − 200 − 34)/2 = 223 is more than the plate's own 60
		{600, 23, true}, // (680 − 600 − 34)/2
	} {
		if slide, ok := TakesWidth(b, mm(c.width), mm(200)); slide != mm(c.slide) || ok != c.ok {
			t.Errorf("%d: %s %v", c.width, slide, ok)
		}
	}
	b.Interface.WidthMax = quantity.Some(mm(700))
	if slide, ok := TakesWidth(b, mm(700), mm(200)); ok || slide != -mm(27) {
		t.Errorf("wider than the rail: %s %v", slide, ok)
	}
}

func TestCenteredAt(t *testing.T) {
	d, p := display(1095, 634, 352, catalog.Pattern{Width: mm(200), Height: mm(200)})
	h := On(d, p, arms(), 0, new(catalog.DefaultPolicy()), anywhere)
	// Top 1500 + 317; the datum is 229 below it.
	if at, ok := h.CenteredAt(mm(1500), mm(634)); !ok || at != (Heights{mm(1588), mm(1817), mm(1183)}) {
		t.Errorf("%+v %v", at, ok)
	}
	if _, ok := (&Hang{}).CenteredAt(mm(1500), mm(634)); ok {
		t.Error("without the display's top there are no heights")
	}
}

// TestChoiceAgainstBruteForce tries every whole millimetre, knowing nothing of
// intervals: both rows in a slot; least shortage of reveal; nearest to the
// arm's middle, or highest.
func TestChoiceAgainstBruteForce(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 8))
	hung := 0
	for range 3000 {
		b := arms()
		b.Interface.Slots = nil
		at := r.Int64N(30)
		for range 1 + r.IntN(6) {
			length := r.Int64N(60)
			b.Interface.Slots = append(b.Interface.Slots, fastener.Interval{Min: mm(at), Max: mm(at + length)})
			at += length + r.Int64N(40)
		}
		b.Interface.ArmTop, b.Interface.ArmBottom = quantity.Some(mm(2*r.Int64N(20))), quantity.Some(mm(at+2*r.Int64N(20)+at%2))
		if r.IntN(4) == 0 {
			b.RowsUsed = []string{"top"}
		}
		policy := catalog.DefaultPolicy()
		policy.ArmSchool = catalog.ArmSchools[r.IntN(2)]
		height := 2 * r.Int64N(100)
		tall := height + 2*r.Int64N(200)
		below := tall/2 + r.Int64N(21) - 10
		d, p := display(1000, tall, below, catalog.Pattern{Width: mm(200), Height: mm(height)})
		got := On(d, p, b, 0, &policy, anywhere)

		in := func(y int64) bool {
			for _, s := range b.Interface.Slots {
				if s.Holds(mm(y)) {
					return true
				}
			}
			return false
		}
		const none = int64(1) << 40
		best, bestShort, bestAway := none, none, none
		armTop, armBottom := int64(b.Interface.ArmTop.Value/mm(1)), int64(b.Interface.ArmBottom.Value/mm(1))
		for y := int64(-10); y < 700; y++ {
			if !in(y) || b.UsesBottom() && !in(y+height) {
				continue
			}
			c := y + height/2
			short := max(0, 10-(below-c-armTop)) + max(0, 10-(c+tall-below-armBottom))
			away := 2*c - (armBottom - armTop)
			if away < 0 {
				away = -away
			}
			if policy.ArmSchool == "high" {
				away = 0
			}
			if short < bestShort || short == bestShort && away < bestAway {
				best, bestShort, bestAway = y, short, away
			}
		}
		if (got == nil) != (best == none) {
			t.Fatalf("hangs: %v, by trying: %v; slots %v, height %d", got != nil, best != none, b.Interface.Slots, height)
		}
		if got == nil {
			continue
		}
		hung++
		// The exact place may lie between two whole millimetres.
		if diff := (got.TopHoles - mm(best)).Abs(); diff >= mm(1) {
			t.Fatalf("top row at %s, by trying %d; slots %v, height %d, school %s", got.TopHoles, best, b.Interface.Slots, height, policy.ArmSchool)
		}
	}
	if hung < 1000 {
		t.Errorf("only %d hung", hung)
	}
}

func TestTurnsGiveTheSameAsATurnedDisplay(t *testing.T) {
	// A display described as it stands after the turn, hung upright, hangs as
	// the original hung turned.
	d, p := display(1000, 600, 280, catalog.Pattern{Width: mm(400), Height: mm(200), CenterRight: mm(30)})
	turned, tp := display(600, 1000, 500+30, catalog.Pattern{Width: mm(200), Height: mm(400), CenterRight: mm(20)})
	a := On(d, p, arms(), 90, new(catalog.DefaultPolicy()), anywhere)
	b := On(turned, tp, arms(), 0, new(catalog.DefaultPolicy()), anywhere)
	if a == nil || b == nil || *a != *b {
		t.Errorf("%+v\n%+v", a, b)
	}
}

// On is Place; nil when it hangs not.
func On(d *catalog.Display, p *catalog.Pattern, b *catalog.Bracket, turn catalog.Turn, policy *catalog.Policy,
	wanted quantity.Optional[quantity.Length]) *Hang {
	h := new(Hang)
	if !Place(h, d, p, b, Wanted{turn, policy, wanted}) {
		return nil
	}
	return h
}
