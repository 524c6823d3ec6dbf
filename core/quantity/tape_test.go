package quantity

import "testing"

// TestWaysOnTheTape: a way has a side and no sign, and none has no side.
func TestWaysOnTheTape(t *testing.T) {
	for _, c := range []struct {
		l                         Length
		beside, over, aside, rise string
	}{
		{221 * Millimetre, "221 mm right of", "221 mm above", "221 mm right", "221 mm up"},
		{-47 * Millimetre, "47 mm left of", "47 mm below", "47 mm left", "47 mm down"},
		{0, "on", "on", "0 mm", "0 mm"},
	} {
		for want, got := range map[string]Phrase{c.beside: LeftOrRight(c.l), c.aside: Sideways(c.l), c.over: AboveOrBelow(c.l),
			c.rise: Vertical(c.l)} {
			if got.In(Metric) != want {
				t.Errorf("%v is %q, not %q", c.l, got.In(Metric), want)
			}
		}
	}
}
