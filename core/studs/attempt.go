package studs

import (
	"cmp"
	"math"
	"slices"

	"nexufix/core/quantity"
)

// try is the search at one place of the datum.
type try struct {
	plate  *Plate
	datum  quantity.Length
	studs  []reached
	taken  map[string]bool
	used   []int
	points []Point
}

// fill finds the studs that are still needed, from the given one on.
func (t *try) fill(from, need int) bool {
	if need == 0 {
		return true
	}
	for i := from; i <= len(t.studs)-need; i++ {
		s := &t.studs[i]
		if t.row(s.top, t.plate.TopPerStud, nil, func() bool {
			return t.row(s.bottom, t.plate.BotPerStud, nil, func() bool {
				t.used = append(t.used, s.index)
				if t.fill(i+1, need-1) {
					return true
				}
				t.used = t.used[:len(t.used)-1]
				return false
			})
		}) {
			return true
		}
	}
	return false
}

// row tries every choice of n holes that reach a stud and are far enough
// apart.
func (t *try) row(can []Point, n int, chosen []Point, then func() bool) bool {
	if t.plate.effort--; t.plate.effort < 0 {
		return false
	}
	if n == 0 {
		return then()
	}
	for i, pt := range can {
		if t.taken[pt.Hole.ID] {
			continue
		}
		spread, ok := t.spread(append(slices.Clip(chosen), pt))
		if !ok {
			continue
		}
		t.taken[pt.Hole.ID] = true
		row := len(t.points) - len(chosen)
		t.points = append(t.points[:row], spread...)
		if t.row(can[i+1:], n-1, spread, then) {
			return true
		}
		t.points = append(t.points[:row], chosen...)
		delete(t.taken, pt.Hole.ID)
	}
	return false
}

// spread places the fasteners of one row on one stud four diameters apart, each
// in its slot and within the usable width of the stud, as near to its centre as possible;
// false if it is not possible. All points of a slot are tried,
// not only the nearest one.
func (t *try) spread(points []Point) ([]Point, bool) {
	if len(points) == 1 {
		return points, true
	}
	out := slices.Clone(points)
	if len(out) == 2 {
		if sorted, ok := t.inOrder(out); ok {
			return sorted, true
		}
		out[0], out[1] = out[1], out[0]
		return t.inOrder(out)
	}
	slices.SortFunc(out, func(a, b Point) int {
		return cmp.Or(cmp.Compare(a.Lo+a.Hi, b.Lo+b.Hi), cmp.Compare(a.Hole.ID, b.Hole.ID))
	})
	return t.inOrder(out)
}

// inOrder is spread for one order from left to right.
func (t *try) inOrder(points []Point) ([]Point, bool) {
	out := slices.Clone(points)
	// The leftmost and the rightmost places in this order.
	left, right := make([]quantity.Length, len(out)), make([]quantity.Length, len(out))
	for i := range out {
		left[i] = out[i].Lo
		for j := range i {
			left[i] = max(left[i], left[j]+t.plate.away(&out[i].Hole, &out[j].Hole))
		}
		if left[i] > out[i].Hi {
			return nil, false
		}
	}
	for i := len(out) - 1; i >= 0; i-- {
		right[i] = out[i].Hi
		for j := i + 1; j < len(out); j++ {
			right[i] = min(right[i], right[j]-t.plate.away(&out[i].Hole, &out[j].Hole))
		}
	}
	// All steps from the one to the other keep the distances: the best brings the farthest
	// fastener nearest to the centre.
	centre := out[0].Centre
	best, bestOff := 0, quantity.Length(math.MaxInt64)
	const steps = 64
	for n := range steps + 1 {
		off := quantity.Length(0)
		for i := range out {
			off = max(off, (left[i] + (right[i]-left[i])*quantity.Length(n)/steps - centre).Abs())
		}
		if off < bestOff {
			best, bestOff = n, off
		}
	}
	for i := range out {
		out[i].X = left[i] + (right[i]-left[i])*quantity.Length(best)/steps
		for j := range i { // correct the rounding
			out[i].X = max(out[i].X, out[j].X+t.plate.away(&out[i].Hole, &out[j].Hole))
		}
		if out[i].X > out[i].Hi {
			return nil, false
		}
	}
	return out, true
}
