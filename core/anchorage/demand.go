package anchorage

import (
	"math"

	"nexufix/core/quantity"
)

// Point is a drilled point: its place on the wall, its plate, and
// whether it is beside the studs.
type Point struct {
	X, Y   quantity.Length
	Plate  int // from 0
	Beside bool
}

// Force is the demand of a fastener: a pull out of the wall, and a shear
// downwards and to the right.
type Force struct{ Pull, Down, Right float64 }

// Shear returns the total shear.
func (f Force) Shear() float64 { return math.Sqrt(f.Down*f.Down + f.Right*f.Right) }

// Weight is a force downwards on the plates, in newtons, and where it acts: along
// the wall and out from it, in millimetres.
type Weight struct{ Force, X, Out float64 }

// Bolted is a display's wall plates with the fasteners that are drilled.
type Bolted struct {
	points []Point
	plates []bolted
	dx, dy []float64 // of each point from its plate's middle of fasteners
	y      []float64 // of each above its plate's lower edge
}

type bolted struct {
	n, cx, sumR, sumY float64
}

// NewBolted sets up plates whose lower edge is at a height. Sideways moments are taken
// about the middle of the drilled fasteners.
func NewBolted(points []Point, lowerEdge quantity.Length) *Bolted {
	b := &Bolted{points: points, dx: make([]float64, len(points)), dy: make([]float64, len(points)), y: make([]float64, len(points))}
	for _, p := range points {
		for len(b.plates) <= p.Plate {
			b.plates = append(b.plates, bolted{})
		}
	}
	cy := make([]float64, len(b.plates))
	for _, p := range points {
		g := &b.plates[p.Plate]
		g.n++
		g.cx += p.X.MM()
		cy[p.Plate] += p.Y.MM()
	}
	for i := range b.plates {
		b.plates[i].cx /= b.plates[i].n
		cy[i] /= b.plates[i].n
	}
	for i, p := range points {
		g := &b.plates[p.Plate]
		b.dx[i], b.dy[i] = p.X.MM()-g.cx, p.Y.MM()-cy[p.Plate]
		b.y[i] = max(0, (p.Y - lowerEdge).MM())
		g.sumR += b.dx[i]*b.dx[i] + b.dy[i]*b.dy[i]
		g.sumY += b.y[i] * b.y[i]
	}
	return b
}

// outward returns the pull of every fastener by a force away from the wall, at a height above the plates' lower edge.
func (b *Bolted) outward(force, at, height float64) []float64 {
	out := make([]float64, len(b.points))
	var down, up []float64 // squares of the distances from the upper and the lower edge
	down, up = make([]float64, len(b.plates)), make([]float64, len(b.plates))
	for i, p := range b.points {
		y := b.y[i]
		down[p.Plate] += (height - y) * (height - y)
		up[p.Plate] += y * y
	}
	share := force / float64(len(b.plates))
	for i, p := range b.points {
		g, y := &b.plates[p.Plate], b.y[i]
		out[i] = share / g.n
		if at < height && down[p.Plate] > 0 {
			out[i] = max(out[i], share*(height-at)*(height-y)/down[p.Plate])
		}
		if at > 0 && up[p.Plate] > 0 {
			out[i] = max(out[i], share*at*y/up[p.Plate])
		}
	}
	return out
}

// Middle returns the x of the fasteners' middle; for two plates the middle between
// theirs.
func (b *Bolted) Middle() float64 {
	sum := 0.0
	for i := range b.plates {
		sum += b.plates[i].cx / float64(len(b.plates))
	}
	return sum
}

// Forces returns the demand of every fastener under weights. A plate turns about its lower
// edge: T_i = M·y_i / Σy_i². In shear, each takes ΣP/n downwards, and ΣP·x·r_i/Σr_j²
// at right angles to its distance r_i from the fasteners' middle; a single fastener
// cannot take the latter. Two plates share the load by the lever between them
// and take no other torsion. out is memory for all points.
func (b *Bolted) Forces(weights []Weight, out []Force) {
	var load, moment, torque [2]float64
	if len(b.plates) == 1 {
		for _, w := range weights {
			load[0] += w.Force
			moment[0] += w.Force * w.Out
			torque[0] += w.Force * (w.X - b.plates[0].cx)
		}
	} else {
		apart := b.plates[1].cx - b.plates[0].cx
		for _, w := range weights {
			share := (w.X - b.plates[0].cx) / apart
			for k, s := range [2]float64{1 - share, share} {
				load[k] += s * w.Force
				moment[k] += s * w.Force * w.Out
			}
		}
	}
	for i := range out {
		k := b.points[i].Plate
		g := &b.plates[k]
		f := Force{Down: load[k] / g.n}
		if m := moment[k]; m > 0 {
			if g.sumY > 0 {
				f.Pull = m * b.y[i] / g.sumY
			} else {
				f.Pull = math.Inf(1)
			}
		}
		if t := torque[k]; math.Abs(t) > 1e-9*(1+math.Abs(load[k])) {
			if g.sumR > 0 {
				f.Down += t * b.dx[i] / g.sumR
				f.Right = t * b.dy[i] / g.sumR
			} else {
				f.Down = math.Inf(1)
			}
		}
		out[i] = f
	}
}
