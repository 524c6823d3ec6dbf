package place

import (
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// setting is one display of a job, and what all stages read: nothing writes to it
// once it is made.
type setting struct {
	Job      *catalog.Job
	RunIndex int // from 1 in a run; 0 for a single display
	Pairing  *fit.Pairing
	DisplayX quantity.Length
}

// outline is the display's outline as hung.
func (s *setting) outline() (width, height quantity.Length, known bool) {
	return s.Pairing.Display.Outline(s.Pairing.Turn)
}

// edges are the display's left and right edges on the wall.
func (s *setting) edges() (left, right quantity.Length) {
	width, _, _ := s.outline()
	return s.DisplayX - width.HalfUp(), s.DisplayX + width.HalfUp()
}

// front is how far the display's front is from its rest plane.
func (s *setting) front() (quantity.Length, bool) {
	d := s.Pairing.Display
	if d.RestPlaneFromFront.Known {
		return d.RestPlaneFromFront.Value, true
	}
	return d.Depth.Value, d.Depth.Known
}

// plane is the largest arm plane of the pairing's stack: where the display is
// farthest from the wall.
func (s *setting) plane() (quantity.Length, bool) {
	if s.Pairing.Stack == nil {
		return 0, false
	}
	return s.Pairing.Stack.Plane, true
}

// arms are how far the arms', or the plate's, ends are above and below the hook
// line; false for a plate of which they are not known.
func (s *setting) arms() (above, below quantity.Length, known bool) {
	i := &s.Pairing.Bracket.Interface
	if i.Type == catalog.Arms {
		return i.ArmTop.Value, i.ArmBottom.Value, true
	}
	_, height, _ := i.PlateSize()
	half := height.HalfUp()
	return half - i.CenterBelowHook.Value, i.CenterBelowHook.Value + half, i.Height.Known
}

// limitAbove reports whether something limits how high a display can hang: a line,
// the ceiling, a niche's top; the lowest of them.
func (s *setting) limitAbove() (quantity.Length, bool) {
	out, ok := quantity.Length(0), false
	under := func(l quantity.Length) {
		if !ok || l < out {
			out, ok = l, true
		}
	}
	if l := s.Job.Place.Line; l.Known {
		under(l.Value)
	}
	if c := s.Job.Wall.Height; c.Known {
		under(c.Value)
	}
	if n := s.Job.Wall.Niche; n != nil {
		under(n.Bottom + n.Height)
	}
	return out, ok
}

// surface is the top of what is under the display: the highest of what the job
// says and of the furniture under it.
func (s *setting) surface() (quantity.Length, bool) {
	top, ok := s.Job.Place.Surface.Value, s.Job.Place.Surface.Known
	for i := range s.Job.Wall.Furniture {
		if f := &s.Job.Wall.Furniture[i]; s.hangsOver(f) {
			top, ok = max(top, f.Height), true
		}
	}
	return top, ok
}

// hangsOver reports whether the display hangs over a piece of furniture.
func (s *setting) hangsOver(f *catalog.Furniture) bool {
	width, _, _ := s.outline()
	return 2*(f.X-s.DisplayX).Abs() < f.Width+width
}

func shown(l quantity.Length) quantity.Shown {
	return quantity.Shown{Length: l, Bound: quantity.Up, Coarse: true}
}
