package anchorage

import (
	"math"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Bounds are the edges of a wall's base material; unknown ones are far away.
type Bounds struct{ Left, Right, Bottom, Top optional }

// sameRow is the greatest difference in height of fixings in the same row.
const sameRow = 20 * quantity.Millimetre

// Cone returns the share of one fixing's pull that edges and neighbours leave: horizontally and
// vertically k = (b₁ + b₂) / (3·h_ef), with b to each side the least of 1.5·h_ef, half the
// distance of the next fixing, and the distance of the edge; horizontally the next in the same
// row, vertically the next row (EN 1992-4 cone, memory).
func Cone(points []Point, index int, hef quantity.Length, in Bounds) float64 {
	p := points[index]
	full := hef * 3 / 2
	left, right, down, up := full, full, full, full
	edge := func(b *quantity.Length, way quantity.Length, known bool) {
		if known {
			*b = min(*b, max(0, way))
		}
	}
	edge(&left, p.X-in.Left.Value, in.Left.Known)
	edge(&right, in.Right.Value-p.X, in.Right.Known)
	edge(&down, p.Y-in.Bottom.Value, in.Bottom.Known)
	edge(&up, in.Top.Value-p.Y, in.Top.Known)
	for i, q := range points {
		if i == index {
			continue
		}
		dx, dy := q.X-p.X, q.Y-p.Y
		switch {
		case dy.Abs() <= sameRow && dx < 0:
			left = min(left, -dx/2)
		case dy.Abs() <= sameRow:
			right = min(right, dx/2)
		case dy < 0:
			down = min(down, -dy/2)
		default:
			up = min(up, dy/2)
		}
	}
	if hef <= 0 {
		return 0
	}
	k := func(a, b quantity.Length) float64 { return float64(a+b) / float64(3*hef) }
	return k(left, right) * k(down, up)
}

// Nearest returns the least distance of the fixings from each other and from the
// edges.
func Nearest(points []Point, in Bounds) (spacing, edge optional) {
	less := func(o *optional, l quantity.Length) {
		if !o.Known || l < o.Value {
			*o = quantity.Some(l)
		}
	}
	for i, p := range points {
		for _, q := range points[:i] {
			less(&spacing, quantity.FromMM(math.Hypot((p.X-q.X).MM(), (p.Y-q.Y).MM())))
		}
		if in.Left.Known {
			less(&edge, p.X-in.Left.Value)
		}
		if in.Right.Known {
			less(&edge, in.Right.Value-p.X)
		}
		if in.Bottom.Known {
			less(&edge, p.Y-in.Bottom.Value)
		}
		if in.Top.Known {
			less(&edge, in.Top.Value-p.Y)
		}
	}
	return spacing, edge
}

// Effective returns h_ef of a masonry fixing: the depth that it requires, else its embedment; of
// a plug its length.
func Effective(c *Choice, l *Layers) quantity.Length {
	if said := c.Carrier().SoundEmbedment(); said > 0 || c.Plug != nil {
		return said
	}
	in, _ := l.In(c.Item.Length)
	return max(0, in)
}

// coned reports whether a fixing's pull counts by its cone: sleeve anchors and
// concrete screws.
func coned(k catalog.ItemKind) bool { return k.Properties().Cones }
