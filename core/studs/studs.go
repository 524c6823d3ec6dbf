// Package studs computes the studs behind a wall plate and their usable width, and
// the places of the plate that its holes and the studs allow.
//
// x runs right from the wall's left end, y up from the floor.
package studs

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Sizes of a usual stud wall (practice).
const (
	StudWidth   = 38 * quantity.Millimetre // 1 1/2 in, to the millimetre
	edge        = 3                        // edge distance 1.5 D: in halves of a diameter (NDS table 12.5.1C, memory)
	apart       = 4                        // two fasteners in one row of one stud: 4 D apart
	maxStuds    = 1000
	beyondPlace = 5000 * quantity.Millimetre // how far studs are continued if the wall's width is not known
)

// Stud is one stud of a wall.
type Stud struct {
	X, Width quantity.Length // its centre
}

// Studs lists the studs of a wall, from left to right, each place once. The
// first of a spacing is at its given place, and none is assumed to its left;
// without the wall's width they continue past x.
func Studs(w *catalog.Wall, x quantity.Length) []Stud {
	s := w.Studs
	if s == nil {
		return nil
	}
	width := s.Width.Or(StudWidth)
	var out []Stud
	for _, at := range s.At {
		out = append(out, Stud{at, width})
	}
	first := s.First.Or(0)
	if o, ok := outletOf(w); ok {
		first = besideOutlet(o, width)
		out = append(out, Stud{first, width})
		if s.Spacing.Known && s.Spacing.Value > 0 {
			first %= s.Spacing.Value // to both sides of it
		}
	}
	if s.Spacing.Known && s.Spacing.Value > 0 {
		end := w.Width.Or(x + beyondPlace)
		for at := first; at <= end && len(out) < maxStuds; at += s.Spacing.Value {
			out = append(out, Stud{at, width})
		}
	}
	slices.SortFunc(out, func(a, b Stud) int { return int(min(1, max(-1, a.X-b.X))) })
	return slices.CompactFunc(out, func(a, b Stud) bool { return a.X == b.X })
}

// BoxWidth is the width of an outlet's box beside its stud (practice:
// a single box is 2 1/4 in or about 57 mm wide).
const BoxWidth = 57 * quantity.Millimetre

// outletOf returns the outlet by which a wall's studs are located.
func outletOf(w *catalog.Wall) (catalog.Outlet, bool) {
	n := w.Studs.Outlet
	if !n.Known || n.Value < 0 || n.Value >= len(w.Outlets) || w.Outlets[n.Value].Stud == "" {
		return catalog.Outlet{}, false
	}
	return w.Outlets[n.Value], true
}

// besideOutlet returns the middle of the stud that an outlet's box is fixed to.
func besideOutlet(o catalog.Outlet, width quantity.Length) quantity.Length {
	if o.Stud == "left" {
		return max(0, o.X-BoxWidth/2-width/2)
	}
	return o.X + BoxWidth/2 + width/2
}

// UsableHalfWidth returns how far from a stud's centre a fastener of a diameter can be:
// half the width less the edge distance and the uncertainty of the centre.
// In a metal stud, toggles need only half their own width.
// Negative: nowhere.
func (s Stud) UsableHalfWidth(kind catalog.WallType, diameter, find quantity.Length) quantity.Length {
	if kind == catalog.MetalStud {
		return s.Width/2 - diameter/2 - find
	}
	return s.Width/2 - edge*diameter/2 - find
}
