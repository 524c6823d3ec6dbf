package fit

import (
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// TestWhatIsBelieved: which figures of a display are judged where they cannot all be right, at each limit and the smallest step further.
// An outline of 1000 × 500 weighs 1 kg at the least (2 kg a square metre, practice); of 300 × 400 the diagonal is 500, and a screen's
// from 425 on.
func TestWhatIsBelieved(t *testing.T) {
	length, mass := quantity.Some[quantity.Length], quantity.Some[quantity.Mass]
	const kg = quantity.Kilogram
	none := quantity.Optional[quantity.Mass]{}
	outline := func(w, h int64) catalog.Display {
		return catalog.Display{Width: length(mm(w)), Height: length(mm(h))}
	}
	for _, c := range []struct {
		name          string
		weighs, stand quantity.Optional[quantity.Mass]
		wide          bool // its outline is known
		caller        bool
		want          quantity.Optional[quantity.Mass]
	}{
		{"the lightest", mass(kg), none, true, false, mass(kg)},
		{"lighter than any", mass(kg - 1), none, true, false, none},
		{"of no known size", mass(kg - 1), none, false, false, mass(kg - 1)},
		{"lighter than any, with its stand not", mass(kg - 1), mass(kg), true, false, mass(kg)},
		{"both too light", mass(kg - 2), mass(kg - 1), true, false, none},
		{"a third without its stand", mass(5 * kg), mass(15 * kg), true, false, mass(5 * kg)},
		{"less than a third", mass(5*kg - 1), mass(15 * kg), true, false, mass(15 * kg)},
		{"heavier without its stand", mass(kg - 1), mass(kg), false, false, mass(kg - 1)},
		{"what a caller told, three tenths more (practice)", mass(10 * kg), none, true, true, mass(13 * kg)},
		{"not known", none, mass(15 * kg), true, true, none},
	} {
		d := outline(1000, 500)
		d.Height.Known = c.wide
		d.Mass, d.MassWithStand = c.weighs, c.stand
		if c.caller {
			d.Origin = catalog.Caller
		}
		if got := conservative(&d).Mass; got != c.want {
			t.Errorf("%s: %v, want %v", c.name, got, c.want)
		}
		if again := conservative(conservative(&d)).Mass; again != c.want {
			t.Errorf("%s, twice: %v, want %v", c.name, again, c.want)
		}
	}
	for screen, agrees := range map[quantity.Length]bool{mm(500): true, mm(500) + 1: false, mm(425): true, mm(425) - 1: false} {
		d := outline(300, 400)
		d.Diagonal = length(screen)
		if other := conservative(&d).OtherDiagonal; other.Known == agrees || other.Known && other.Value != mm(500) {
			t.Errorf("a screen of %v: %v", screen, other)
		}
		d.Width.Known = false
		if conservative(&d).OtherDiagonal.Known {
			t.Errorf("a screen of %v in no known outline", screen)
		}
	}
	for _, c := range []struct {
		rest, depth quantity.Optional[quantity.Length]
		want        quantity.Optional[quantity.Length]
	}{
		{length(mm(30)), length(mm(50)), length(mm(30))}, {length(mm(50)), length(mm(30)), length(mm(30))},
		{length(mm(30)), length(mm(30)), length(mm(30))}, {length(mm(30)), quantity.Optional[quantity.Length]{}, length(mm(30))},
		{quantity.Optional[quantity.Length]{}, length(mm(50)), length(mm(50))},
	} {
		if got := behindFront(&catalog.Display{RestPlaneFromFront: c.rest, Depth: c.depth}); got != c.want {
			t.Errorf("rest plane %v, depth %v: %v", c.rest, c.depth, got)
		}
	}
	for share, margin := range map[float64]int64{100: 0, 100.000001: -1, 99.999999: 1, 1e6: 100_000_000 - 1e12, 1e9: 100_000_000 - 1e12} {
		if m := ShareAtMost(share); m.Margin != margin || m.Limit != 100_000_000 {
			t.Errorf("%v %%: %+v", share, m)
		}
	}
}
