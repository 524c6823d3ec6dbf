package drawing

import (
	"math"
	"testing"

	"nexufix/core/quantity"
)

func TestDimension(t *testing.T) {
	for _, c := range []struct {
		name       string
		from, to   Point
		angle      float64
		inside     bool
		wantAnchor Anchor
	}{
		{"along", Point{0, 0}, Point{100, 0}, 0, true, Middle},
		{"backwards reads the same way up", Point{100, 0}, Point{0, 0}, 0, true, Middle},
		{"up reads from the right", Point{0, 0}, Point{0, 100}, 90, true, Middle},
		{"down reads from the right too", Point{0, 100}, Point{0, 0}, 90, true, Middle},
		{"too short for its figure", Point{0, 0}, Point{1, 0}, 0, false, Start},
	} {
		d := Drawing{TextHeight: 2}
		d.Dimension("x", c.from, c.to, 5, After, quantity.Say("%v", quantity.Bare{Length: quantity.MM(100)}))
		var text *Text
		longest := 0.0
		for _, i := range d.Items {
			switch s := i.Shape.(type) {
			case Text:
				text = &s
			case Line:
				a, b := s.Points[0], s.Points[1]
				longest = max(longest, math.Hypot(a.X-b.X, a.Y-b.Y))
			}
			if i.Tag != "x" {
				t.Errorf("%s: an item is tagged %q", c.name, i.Tag)
			}
		}
		if text == nil || text.Angle != c.angle || text.Anchor != c.wantAnchor {
			t.Errorf("%s: %+v", c.name, text)
		}
		if length := math.Hypot(c.to.X-c.from.X, c.to.Y-c.from.Y); c.inside && math.Abs(longest-max(length, 6)) > 1e-9 {
			t.Errorf("%s: the line is %g long", c.name, longest)
		}
	}
	var none Drawing
	none.Dimension("x", Point{1, 1}, Point{1, 1}, 5, After, quantity.Say("0"))
	if len(none.Items) != 0 {
		t.Error("a dimension of nothing is not drawn")
	}
}

// TestHatchingStaysInside: every hatch line lies in the polygon, at 45°.
func TestHatchingStaysInside(t *testing.T) {
	lines := Hatching(Rect(2, 3, 10, 8), 1)
	if len(lines) < 8 {
		t.Fatalf("only %d lines", len(lines))
	}
	for _, l := range lines {
		a, b := l.Points[0], l.Points[1]
		if math.Abs((b.Y-a.Y)-(b.X-a.X)) > 1e-9 {
			t.Errorf("%v is not at 45°", l)
		}
		for _, p := range l.Points {
			if p.X < 2-1e-9 || p.X > 10+1e-9 || p.Y < 3-1e-9 || p.Y > 8+1e-9 {
				t.Errorf("%v lies outside", p)
			}
		}
	}
}

func TestRoundSlot(t *testing.T) {
	s := RoundSlot(-20, 5, 20, 5, 4.5)
	for _, p := range s.Points {
		nearest := math.Hypot(p.X-min(max(p.X, -20), 20), p.Y-5)
		if math.Abs(nearest-4.5) > 1e-9 {
			t.Errorf("%v is %g from the slot's line", p, nearest)
		}
	}
}
