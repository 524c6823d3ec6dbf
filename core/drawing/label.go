package drawing

import (
	"math"
	"slices"

	"nexufix/core/quantity"
)

// Box is an upright rectangle: what lettering covers, or what is to be kept clear.
type Box struct {
	Min, Max Point
}

// Meets reports whether two boxes have more than an edge in common.
func (b Box) Meets(o Box) bool {
	return b.Min.X < o.Max.X && o.Min.X < b.Max.X && b.Min.Y < o.Max.Y && o.Min.Y < b.Max.Y
}

// Box is what a text covers, in the system of units in which it is wider.
func (t Text) Box() Box {
	width, x0 := widthOf(t.Measured().advance, t.Height), 0.0
	switch t.Anchor {
	case Middle:
		x0 = -width / 2
	case End:
		x0 = -width
	}
	sin, cos := math.Sincos(t.Angle * math.Pi / 180)
	b := Box{Point{math.Inf(1), math.Inf(1)}, Point{math.Inf(-1), math.Inf(-1)}}
	for _, p := range []Point{{x0, 0}, {x0 + width, 0}, {x0, t.Height}, {x0 + width, t.Height}} {
		x, y := t.At.X+p.X*cos-p.Y*sin, t.At.Y+p.X*sin+p.Y*cos
		b.Min, b.Max = Point{min(b.Min.X, x), min(b.Min.Y, y)}, Point{max(b.Max.X, x), max(b.Max.Y, y)}
	}
	return b
}

// Measured is a text that has found out once how wide its words are, for whoever tries it in many places.
func (t Text) Measured() Text {
	if t.advance == 0 {
		t.advance = max(advance(t.Text.In(quantity.Metric), t.Strong), advance(t.Text.In(quantity.Imperial), t.Strong))
	}
	return t
}

// Spot is a round thing that has a name.
type Spot struct {
	Tag    string
	Center Point
	Radius float64
	Name   quantity.Phrase
}

func (s Spot) box() Box {
	return Box{Point{s.Center.X - s.Radius, s.Center.Y - s.Radius}, Point{s.Center.X + s.Radius, s.Center.Y + s.Radius}}
}

// name is the spot's name on one of its sides: towards x = 0, away from it, above, below.
func (s Spot) name(side int, height float64) Text {
	t := Text{Text: s.Name, Height: height, Strong: true, Anchor: Middle, At: Point{s.Center.X, s.Center.Y + s.Radius + height*0.5}}
	switch side {
	case 0, 1:
		right := (s.Center.X < 0) == (side == 0)
		t.At = Point{s.Center.X + s.Radius + height*0.6, s.Center.Y - height*0.35}
		t.Anchor = Start
		if !right {
			t.At.X, t.Anchor = s.Center.X-s.Radius-height*0.6, End
		}
	case 3:
		t.At.Y = s.Center.Y - s.Radius - height*1.5
	}
	return t
}

// lettering is what texts cover already.
func (d *Drawing) lettering() []Box {
	var out []Box
	for i := range d.Items {
		if t, ok := d.Items[i].Shape.(Text); ok {
			if t.advance == 0 {
				t = t.Measured()
				d.Items[i].Shape = t
			}
			out = append(out, t.Box())
		}
	}
	return out
}

// Write writes a text at the first of some places where it covers no lettering that is there; at
// the first of all where each does.
func (d *Drawing) Write(tag string, t Text, places ...Place) {
	if !d.WriteIfFree(tag, t, places...) {
		t.At, t.Anchor = places[0].At, places[0].Anchor
		d.Add(tag, Dim, t)
	}
}

// WriteIfFree writes a text at the first of some places where it covers no lettering that is there, and
// not where each does.
func (d *Drawing) WriteIfFree(tag string, t Text, places ...Place) bool {
	t.Text, t.advance = t.Text.For(d.Language), 0
	t = t.Measured()
	taken := d.lettering()
	for _, p := range places {
		t.At, t.Anchor = p.At, p.Anchor
		if !slices.ContainsFunc(taken, t.Box().Meets) {
			d.Add(tag, Dim, t)
			return true
		}
	}
	return false
}

// Place is where a text may stand.
type Place struct {
	At     Point
	Anchor Anchor
}

// NameSpots writes the names of round things beside them, where they cover no lettering that is
// there already and none of the things: all on the same side, where there is one, else each on
// the first side that is free; towards the middle, away from it, above, below.
func (d *Drawing) NameSpots(spots []Spot) {
	for i := range spots {
		spots[i].Name = spots[i].Name.For(d.Language)
	}
	taken := d.lettering()
	for _, s := range spots {
		taken = append(taken, s.box())
	}
	free := func(b Box, more []Box) bool {
		for _, list := range [][]Box{taken, more} {
			for _, o := range list {
				if b.Meets(o) {
					return false
				}
			}
		}
		return true
	}
	put := func(sideOf func(Spot, []Box) int) bool {
		var names []Text
		var boxes []Box
		for _, s := range spots {
			t := s.name(max(0, sideOf(s, boxes)), d.TextHeight)
			if sideOf(s, boxes) < 0 {
				return false
			}
			names, boxes = append(names, t), append(boxes, t.Box())
		}
		for i, t := range names {
			d.Add(spots[i].Tag, Dim, t)
		}
		return true
	}
	for side := range 4 {
		if put(func(s Spot, boxes []Box) int {
			if free(s.name(side, d.TextHeight).Box(), boxes) {
				return side
			}
			return -1
		}) {
			return
		}
	}
	put(func(s Spot, boxes []Box) int {
		for side := range 4 {
			if free(s.name(side, d.TextHeight).Box(), boxes) {
				return side
			}
		}
		return 1
	})
}
