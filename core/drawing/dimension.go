package drawing

import (
	"math"
	"slices"

	"nexufix/core/quantity"
)

// Side is the place of a dimension's figure that does not fit between the
// arrows: beside the start or beside the end.
type Side int

// The two sides.
const (
	Before Side = iota + 1
	After
)

const inside Side = 0

// FrameTexts widens the frame so that it contains every text, in either
// system of units.
func (d *Drawing) FrameTexts(margin float64) {
	for i := range d.Items {
		if t, ok := d.Items[i].Shape.(Text); ok {
			b := t.Box()
			d.Min.X, d.Max.X = min(d.Min.X, b.Min.X-margin), max(d.Max.X, b.Max.X+margin)
			d.Min.Y, d.Max.Y = min(d.Min.Y, b.Min.Y-margin), max(d.Max.Y, b.Max.Y+margin)
		}
	}
}

// Dimension draws a dimension line between two points, at a distance to
// the left of the direction from one to the other, with extension lines, arrows and
// the figure, which goes to the other side if it would cover other lettering.
func (d *Drawing) Dimension(tag string, from, to Point, off float64, side Side, figure quantity.Phrase) {
	length := math.Hypot(to.X-from.X, to.Y-from.Y)
	if length == 0 {
		return
	}
	figure = figure.For(d.Language)
	if length > TextWidth(figure, d.TextHeight)+d.TextHeight*1.6 {
		side = inside
	}
	way := direction{(to.X - from.X) / length, (to.Y - from.Y) / length}
	at, h := way.at, d.TextHeight
	arrow := h * 0.7
	a, b := d.dimensionLines(tag, way, from, to, off, side)

	// The figure reads from below or from the right.
	angle := math.Atan2(way.y, way.x) * 180 / math.Pi
	up := 1.0
	if angle > 90 || angle <= -90 {
		angle -= math.Copysign(180, angle)
		up = -1
	}
	text := Text{Text: figure, Height: h, Anchor: Middle, Angle: angle}
	lift := h * 0.35
	before, after := Place{at(a, -arrow*2.4, -h*0.35*up), End}, Place{at(b, arrow*2.4, -h*0.35*up), Start}
	if up < 0 {
		before.Anchor, after.Anchor = Start, End
	}
	// Where both sides are taken, beside the line's ends, or further out.
	near := func(p Place, end Point, along, across float64) Place {
		return Place{at(end, along, (across-0.35)*h*up), p.Anchor}
	}
	further := arrow*2.4 + TextWidth(figure, h) + h*0.6
	if side == Before {
		before, after, a, b = after, before, b, a
		arrow, further = -arrow, -further
	}
	switch side {
	case Before, After:
		d.Write(tag, text, after, before, near(after, b, arrow*1.2, 0.9), near(after, b, arrow*1.2, -0.9), near(before, a, -arrow*1.2, 0.9),
			near(before, a, -arrow*1.2, -0.9), near(after, b, further, 0), near(before, a, -further, 0))
	default:
		middle, room := Point{(a.X + b.X) / 2, (a.Y + b.Y) / 2}, (length-TextWidth(figure, h))*0.4
		d.Write(tag, text, Place{at(middle, 0, lift*up), Middle}, Place{at(middle, room, lift*up), Middle},
			Place{at(middle, -room, lift*up), Middle},
			Place{at(middle, 0, (-0.35-1)*h*up), Middle})
	}
}

// direction returns the unit vector from one point to another.
type direction struct{ x, y float64 }

// at returns the point at a distance along the direction from p, and one to its left.
func (v direction) at(p Point, along, across float64) Point {
	return Point{p.X + v.x*along - v.y*across, p.Y + v.y*along + v.x*across}
}

// dimensionLines draws the extension lines and the dimension line with its arrows, which are outside
// unless the figure is inside; and returns its ends.
func (d *Drawing) dimensionLines(tag string, way direction, from, to Point, off float64, side Side) (a, b Point) {
	arrow := d.TextHeight * 0.7
	past, gap := math.Copysign(d.TextHeight*0.5, off), math.Copysign(d.TextHeight*0.3, off)
	for _, p := range []Point{from, to} {
		if math.Abs(off) > math.Abs(gap) {
			d.Add(tag, Dim, Line{[]Point{way.at(p, 0, gap), way.at(p, 0, off+past)}})
		}
	}
	a, b = way.at(from, 0, off), way.at(to, 0, off)
	inward, tail := 1.0, 0.0
	if side != inside {
		inward, tail = -1, arrow*2
	}
	d.Add(tag, Dim, Line{[]Point{way.at(a, -tail, 0), way.at(b, tail, 0)}})
	d.Add(tag, Solid, Polygon{[]Point{a, way.at(a, inward*arrow, arrow*0.22), way.at(a, inward*arrow, -arrow*0.22)}})
	d.Add(tag, Solid, Polygon{[]Point{b, way.at(b, -inward*arrow, arrow*0.22), way.at(b, -inward*arrow, -arrow*0.22)}})
	return a, b
}

// Hatching fills a polygon with parallel lines at 45°, a spacing apart.
func Hatching(p Polygon, spacing float64) []Line {
	const s = math.Sqrt2 / 2
	lo, hi := math.Inf(1), math.Inf(-1)
	for _, q := range p.Points {
		v := (q.Y - q.X) * s
		lo, hi = min(lo, v), max(hi, v)
	}
	var out []Line
	for v := math.Ceil(lo/spacing) * spacing; v <= hi; v += spacing {
		var along []float64
		for i, a := range p.Points {
			b := p.Points[(i+1)%len(p.Points)]
			va, vb := (a.Y-a.X)*s, (b.Y-b.X)*s
			if (va <= v) != (vb <= v) {
				t := (v - va) / (vb - va)
				along = append(along, ((a.X+t*(b.X-a.X))+(a.Y+t*(b.Y-a.Y)))*s)
			}
		}
		slices.Sort(along)
		for i := 0; i+1 < len(along); i += 2 {
			u0, u1 := along[i], along[i+1]
			out = append(out, Line{[]Point{{(u0 - v) * s, (u0 + v) * s}, {(u1 - v) * s, (u1 + v) * s}}})
		}
	}
	return out
}
