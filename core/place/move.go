package place

import (
	"fmt"
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/studs"
)

// Move moves something on a wall: X, Y are the new place of its middle, or for furniture, lines
// and the ceiling its height. With Snap it goes to a computed place
// nearby, and to whole millimetres elsewhere.
type Move struct {
	What  string // display, stud, furniture, outlet, niche, surface, line or ceiling
	Index int
	X, Y  quantity.Length
	Snap  bool
}

// How far things snap.
const (
	snapNear   = 12 * quantity.Millimetre
	snapOnto   = 60 * quantity.Millimetre // a display, to where its plate finds studs
	grid       = quantity.Millimetre
	besideStud = studs.BoxWidth / 2
)

// spot is a place to snap to, and the reason.
type spot struct {
	at  quantity.Length
	why quantity.Phrase
}

// snapped returns the nearest spot within reach, else the place on the grid.
func snapped(x quantity.Length, spots []spot, reach quantity.Length) (quantity.Length, quantity.Phrase) {
	best := spot{at: x.Round(grid)}
	found := false
	for _, s := range spots {
		if off := (s.at - x).Abs(); off <= reach && (!found || off < (best.at-x).Abs()) {
			best, found = s, true
		}
	}
	return best.at, best.why
}

// Apply moves something on a job's wall and describes what it snapped to. It returns a changed
// copy of the job.
func (m Move) Apply(p *fit.Pairing, job *catalog.Job) (*catalog.Job, []quantity.Phrase, error) {
	out := *job
	if out.Place.Rule == "" { // the format has no place without a rule: the move would be lost
		out.Place.Rule = "center"
		if !out.Place.Center.Known {
			out.Place.Center = quantity.Some(Seated)
		}
	}
	out.Wall = copyWall(out.Wall)
	w := &out.Wall
	m.X, m.Y = max(0, m.X), max(0, m.Y)
	if end := w.Width; end.Known {
		m.X = min(m.X, end.Value)
	}
	var said []quantity.Phrase
	at := func(x quantity.Length, spots []spot) quantity.Length {
		if !m.Snap {
			return x
		}
		x, why := snapped(x, spots, snapNear)
		if !why.Empty() {
			said = append(said, why)
		}
		return x
	}
	all := placeAll(p, job)
	first := &all[0]
	there, counted := map[string]int{"display": len(all), "stud": len(first.Studs), "furniture": len(w.Furniture),
		"outlet": len(w.Outlets)}[m.What]
	if counted && (m.Index < 0 || m.Index >= there) {
		return nil, nil, fmt.Errorf("there are %d of them on this wall", there)
	}
	middle := func() []spot {
		var out []spot
		if w.Width.Known {
			out = append(out, spot{w.Width.Value / 2, quantity.Say("Middle of the wall.")})
		}
		return append(out, spot{first.runMiddle(len(all)), quantity.Say("Under the display's middle.")})
	}
	switch m.What {
	case "display":
		said = m.display(&out, all)
	case "stud":
		moveStud(w, first.Studs[m.Index].X, at(m.X, besideOutlets(w, first.Studs[m.Index].Width)), m.Index)
	case "furniture":
		w.Furniture[m.Index].X, w.Furniture[m.Index].Height = at(m.X, middle()), max(grid, at(m.Y, nil))
	case "outlet":
		w.Outlets[m.Index].X, w.Outlets[m.Index].Y = at(m.X, besideStuds(first.Studs)), at(m.Y, nil)
	case "niche":
		if w.Niche == nil {
			return nil, nil, fmt.Errorf("there is none on this wall")
		}
		w.Niche.X, w.Niche.Bottom = at(m.X, middle()), max(0, at(m.Y-w.Niche.Height/2, nil))
	case "surface":
		out.Place.Surface = quantity.Some(at(m.Y, nil))
	case "line":
		out.Place.Line = quantity.Some(at(m.Y, nil))
	case "ceiling":
		w.Height = quantity.Some(max(grid, at(m.Y, nil)))
	default:
		return nil, nil, fmt.Errorf("%q cannot be moved", m.What)
	}
	return &out, said, nil
}

// copyWall returns a copy of a wall whose movables can be changed.
func copyWall(w catalog.Wall) catalog.Wall {
	w.Outlets, w.Furniture = slices.Clone(w.Outlets), slices.Clone(w.Furniture)
	if w.Studs != nil {
		s := *w.Studs
		s.At = slices.Sorted(slices.Values(s.At))
		w.Studs = &s
	}
	if w.Niche != nil {
		n := *w.Niche
		w.Niche = &n
	}
	return w
}

// besideOutlets returns the places of a stud beside which an outlet's box would be fixed.
func besideOutlets(w *catalog.Wall, width quantity.Length) (out []spot) {
	for i := range w.Outlets {
		for _, side := range []quantity.Length{-1, 1} {
			out = append(out, spot{w.Outlets[i].X + side*(besideStud+width/2), quantity.Say("Beside the outlet's box.")})
		}
	}
	return out
}

// besideStuds returns the places of an outlet whose box would be fixed to a stud.
func besideStuds(all []studs.Stud) (out []spot) {
	for _, s := range all {
		for _, side := range []quantity.Length{-1, 1} {
			out = append(out, spot{s.X + side*(besideStud+s.Width/2), quantity.Say("Its box beside a stud.")})
		}
	}
	return out
}

// runMiddle returns the middle of the run that begins with this display.
func (p *Placement) runMiddle(count int) quantity.Length {
	if p.Job.Run == nil || count < 2 {
		return p.DisplayX
	}
	width, _, _ := p.Pairing.Display.Outline(p.Pairing.Turn)
	return p.DisplayX + (width+p.Job.Run.Gap)*quantity.Length(count-1)/2
}

// moveStud moves one stud. Studs at a spacing move together, and no longer depend on
// an outlet.
func moveStud(w *catalog.Wall, from, to quantity.Length, index int) {
	s := w.Studs
	if !s.Spacing.Known {
		if s.Outlet.Known { // a single one, located by its outlet
			s.Outlet = quantity.Optional[int]{}
			s.At = []quantity.Length{to}
			return
		}
		if index < len(s.At) {
			s.At[index] = to
		}
		return
	}
	at := slices.Index(s.At, from)
	if at >= 0 { // marked in addition to those at a spacing
		s.At[at] = to
		return
	}
	first := s.First.Or(0) + to - from
	if s.Outlet.Known {
		first = to
		s.Outlet = quantity.Optional[int]{}
	}
	for first < 0 {
		first += s.Spacing.Value
	}
	if first >= s.Spacing.Value && !s.First.Known {
		first %= s.Spacing.Value
	}
	s.First = quantity.Some(first)
}

// display moves a display and its run: horizontally to where its plate
// finds studs, vertically to the heights of the rules and the clearances.
func (m Move) display(job *catalog.Job, all []Placement) []quantity.Phrase {
	p := &all[m.Index]
	old := p.runMiddle(len(all))
	if m.Index > 0 {
		old = all[0].runMiddle(len(all))
	}
	off := p.DisplayX - old // of this display from the run's middle
	var said []quantity.Phrase
	x := m.X
	if m.Snap {
		var spots []spot
		if w := job.Wall.Width; w.Known {
			spots = append(spots, spot{w.Value/2 + off, quantity.Say("Middle of the wall.")})
		}
		if n := job.Wall.Niche; n != nil {
			spots = append(spots, spot{n.X + off, quantity.Say("Middle of the niche.")})
		}
		for i := range job.Wall.Furniture {
			spots = append(spots, spot{job.Wall.Furniture[i].X + off, quantity.Say("Over the furniture's middle.")})
		}
		reach := snapNear
		var within fastener.Intervals
		if p.Known && len(p.Studs) > 0 {
			straight, ok := p.Allowed(x-snapOnto, x+snapOnto, true).Nearest(x)
			if ok {
				spots = append(spots, spot{straight, quantity.Say("The plate finds its studs right under the display.")})
			}
			if within = p.Allowed(x-snapOnto, x+snapOnto, false); len(within) > 0 {
				// Only places where the plate finds its studs are offered.
				spots = slices.DeleteFunc(spots, func(s spot) bool { at, _ := within.Nearest(s.at); return at != s.at })
				if edge, _ := within.Nearest(x); edge != x {
					spots, reach = append(spots, spot{edge, quantity.Say("As far as the plate finds its studs.")}), snapOnto
				}
			}
		}
		var why quantity.Phrase
		if x, why = snapped(x, spots, reach); !why.Empty() {
			said = append(said, why)
		} else if at, ok := within.Nearest(x); ok {
			x = at // rounding to the grid may have left the interval
		}
	}
	job.Place.X = quantity.Some(max(0, x-off))
	if !p.Known {
		return said
	}
	rule, y := "center", m.Y
	if m.Snap {
		y = m.Y.Round(grid)
		best := snapNear + 1
		for _, s := range p.Schools {
			if d := (s.Centre - m.Y).Abs(); s.Known && s.Rule != "center" && d < best {
				best, rule, y = d, s.Rule, s.Centre
			}
		}
		if rule != "center" {
			said = append(said, quantity.Say("The height of the rule: %v.", heightRules[rule]))
		} else if most, ok := p.maxTop(); ok {
			if top := y + (p.Top - p.Centre); (top - most).Abs() <= snapNear {
				y = most - (p.Top - p.Centre)
				said = append(said, quantity.Say("As high as it can be lifted over its hook."))
			}
		}
	}
	if (y - p.Centre).Abs() < grid/2 {
		return said
	}
	job.Place.Rule = rule
	if rule == "center" {
		job.Place.Center = quantity.Some(y)
	}
	return said
}

// heightRules describes the height rules.
var heightRules = map[string]string{
	"center": "a chosen centre", "eye": "eye height", "upper_third": "upper third at eye height",
	"above": "above the furniture", "below": "below a line", "overhead": "overhead",
}
