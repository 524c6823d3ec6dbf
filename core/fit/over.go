package fit

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/hang"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// Arms, or a plate, pass over what they cannot avoid (practice): the stack is solved for the arm plane that this
// takes, at the position of the arms where the least is asked for.

// How far inside a pocket a plate is that goes in, and how far past it one is that lies on its rim (practice).
const (
	pocketSpare = quantity.Millimetre
	pocketReach = 2 * quantity.Millimetre
)

// StandsOut returns what stands out of the back under the arms and how far the arms clear it; 0 for nothing.
func (p *Pairing) StandsOut() (out, clear quantity.Length) {
	if p.standsOut <= 0 || !p.stacked.Found {
		return 0, 0
	}
	return p.standsOut, p.stacked.Nearest - p.standsOut
}

// passesOver reports whether what a display's arms pass over can matter.
func passesOver(d *catalog.Display) bool {
	for i := range d.Zones {
		if d.Zones[i].Kind != "label" {
			return true
		}
	}
	for i := range d.Patterns {
		for j := range d.Patterns[i].Holes {
			if h := &d.Patterns[i].Holes[j]; h.Recess.Length > 0 && h.RecessDiameter.Known {
				return true
			}
		}
	}
	return false
}

// clearanceOf returns the arm plane that a zone under an arm takes; false if that is not known.
func clearanceOf(z *catalog.Zone) (quantity.Length, bool) {
	switch z.Kind {
	case "protrusion":
		return z.Out.Value, z.Out.Known
	case "port":
		return max(0, z.Plug.Value+z.CableBend.Or(0)-z.Setback.Or(0)), z.Plug.Known
	case "vent":
		return z.Clear.Value, z.Clear.Known
	}
	return 0, true
}

// mayAskForRoom reports whether arms need room over a zone, or whether that is not known.
func mayAskForRoom(z catalog.Zone) bool {
	need, said := clearanceOf(&z)
	return z.Kind != "pocket" && (need > 0 || !said)
}

// position is a place of the arms, and what they pass over there.
type position struct {
	topHoles quantity.Length
	under    stack.Under
	zones    quantity.Length // what lies under them asks for
	open     int             // zones under them of which nobody knows how much room they take
	stands   bool            // one of those stands out for sure
}

// at returns what the arms, or the plate, pass over where the pairing hangs.
func (p *Pairing) at() (out position, wide quantity.Length) {
	out.topHoles = p.place.TopHoles
	out.under.StandsOut = max(0, p.Extra.Clearance)
	covers, known := p.covers()
	for i := range p.Display.Zones {
		z := &p.Display.Zones[i]
		switch {
		case z.Kind == "pocket":
			p.inPocket(z, &covers, known, &out.under)
		case z.Kind == "label" || !known || covers.gap(p.ZonePlace(z)) >= 0:
		default:
			if need, said := clearanceOf(z); said {
				out.under.StandsOut, out.zones = max(out.under.StandsOut, need), max(out.zones, need)
			} else {
				out.open++
				out.stands = out.stands || z.Kind == "protrusion"
			}
		}
	}
	i := &p.Bracket.Interface
	wide = i.ArmWidth
	if i.Type == catalog.Plate {
		if width, height, measured := i.PlateSize(); measured {
			wide = min(width, height)
		}
	}
	return out, wide
}

// inPocket finds how the arms, or the plate, lie on a pocket that has all the holes that are bolted to in it.
func (p *Pairing) inPocket(z *catalog.Zone, covers *rects, known bool, under *stack.Under) {
	pocket := p.ZonePlace(z)
	if c, placed := p.center(); placed {
		for i := range p.Layout.Groups {
			for _, h := range p.Layout.Groups[i].Holes {
				if at := (Rect{c.X + h.X, c.X + h.X, c.Y + h.Y, c.Y + h.Y}); pocket.gap(at) > 0 {
					return // a pocket beside a hole is passed over
				}
			}
		}
	}
	under.Depth = z.Depth.Value
	under.Pocket = stack.UnclearPocket
	if !z.Depth.Known || covers.n == 0 {
		return
	}
	inside, across := known, true
	for _, r := range covers.rect[:covers.n] {
		inside = inside && min(r.Left-pocket.Left, pocket.Right-r.Right, r.Bottom-pocket.Bottom, pocket.Top-r.Top) >= pocketSpare
		across = across && (min(pocket.Left-r.Left, r.Right-pocket.Right) >= pocketReach ||
			min(pocket.Bottom-r.Bottom, r.Top-pocket.Top) >= pocketReach)
	}
	if p.Bracket.Interface.Type == catalog.Arms && p.Bracket.Interface.ArmWidth == 0 {
		inside = false
	}
	switch {
	case inside:
		under.Pocket = stack.InPocket
	case across && p.centred():
		under.Pocket = stack.AcrossPocket
	}
}

func (p *Pairing) centred() bool { _, known := p.center(); return known }

// positions returns the places of the arms that are tried: the one that the school chooses, and of the
// same preference those at the ends, and those at which a zone comes under an arm or leaves it.
func (p *Pairing) positions(reveal bool) []quantity.Length {
	out := []quantity.Length{p.place.TopHoles}
	c, known := p.center()
	i := &p.Bracket.Interface
	if !known || i.Type != catalog.Arms || p.Extra.TopHoles.Known {
		return out
	}
	height := p.place.Height
	choices := hang.Choices(p.Display, p.Pattern, p.Bracket, p.Turn, p.Policy, reveal)
	try := func(y quantity.Length) {
		holds := func(a fastener.Interval) bool { return a.Holds(y) }
		if slices.ContainsFunc(choices, holds) && !slices.Contains(out, y) {
			out = append(out, y)
		}
	}
	for _, a := range choices {
		try(a.Min)
		try(a.Max)
	}
	for n := range p.Display.Zones {
		z := &p.Display.Zones[n]
		at := p.ZonePlace(z)
		switch z.Kind {
		case "label":
		case "pocket": // the arms reach just past its edges
			try(at.Top + pocketReach - c.Y - i.ArmTop.Value - height/2)
			try(at.Bottom - pocketReach - c.Y + i.ArmBottom.Value - height/2)
		default:
			try(at.Bottom - c.Y - i.ArmTop.Value - height/2)
			try(at.Top - c.Y + i.ArmBottom.Value - height/2)
		}
	}
	return out
}

// nearer reports whether the school prefers one place of the arms to another.
func (p *Pairing) nearer(a, b quantity.Length) bool {
	if p.Policy.ArmSchool != "high" {
		i := &p.Bracket.Interface
		want := (i.ArmBottom.Value-i.ArmTop.Value)/2 - p.place.Height/2
		if x, y := (a - want).Abs(), (b - want).Abs(); x != y {
			return x < y
		}
	}
	return a < b
}

// variant is a bolt layout over what some brackets' arms pass over, and its cache entry.
type variant struct {
	used   int
	under  stack.Under
	wide   quantity.Length
	layout *stack.BoltLayout
	entry  *stack.Entry
}

// over returns the layout of a pattern over what arms pass over, made once for all brackets.
func (s *subject) over(pattern int, on *target, under stack.Under, wide quantity.Length) (*stack.BoltLayout, *stack.Entry) {
	f := &s.layouts[pattern]
	base := f.layout[on.used]
	if base.Same(under, wide) {
		return base, f.entry[on.used]
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	for i := range f.variants {
		if v := &f.variants[i]; v.used == on.used && v.under == under && v.wide == wide {
			return v.layout, v.entry
		}
	}
	layout := base.Over(under, wide)
	if layout == base {
		return base, f.entry[on.used]
	}
	v := variant{on.used, under, wide, layout, s.cache.Entry(layout)}
	f.variants = append(f.variants, v)
	return v.layout, v.entry
}

// maxPositions is how many different clearances are tried: displays have few zones.
const maxPositions = 12

// solveOver solves the stack at the place of the arms where it is best: ok before caution before none, fewer supplied
// pieces, the display closer to the wall, and then as the school prefers. If no stack clears what stands out,
// it is solved as if nothing did, and the rules about the back say what is in the way.
func (s *subject) solveOver(p *Pairing, pattern int, on *target, solve func(*stack.BoltLayout, *stack.Entry) stack.Summary) stack.Summary {
	school, wide := p.at()
	tried := []position{school}
	consider := func(reveal bool) {
		for _, y := range p.positions(reveal) {
			hang.Place(&p.place, p.Display, p.Pattern, p.Bracket, p.wanted(quantity.Some(y)))
			var at position
			at, wide = p.at()
			tried = append(tried, at)
		}
		hang.Place(&p.place, p.Display, p.Pattern, p.Bracket, p.wanted(p.Extra.TopHoles))
	}
	_, placed := p.covers()
	p.blind = !placed && slices.ContainsFunc(p.Display.Zones, mayAskForRoom)
	if school.under.StandsOut != max(0, p.Extra.Clearance) || school.open > 0 || school.under.Pocket == stack.UnclearPocket {
		// Something is in the way of the school's choice, or nobody can say how it lies there.
		tried = tried[:0]
		consider(true)
	}
	best, found := stack.Summary{}, false
	var chosen position
	try := func() {
		slices.SortStableFunc(tried, func(a, b position) int {
			switch {
			case a.open != b.open:
				return a.open - b.open
			case a.under.Pocket != b.under.Pocket:
				return int(a.under.Pocket) - int(b.under.Pocket) // what is not clear comes last
			case a.under.StandsOut != b.under.StandsOut:
				return int(min(1, max(-1, a.under.StandsOut-b.under.StandsOut)))
			case a.topHoles == b.topHoles:
				return 0
			case p.nearer(a.topHoles, b.topHoles):
				return -1
			}
			return 1
		})
		for n, at := range tried[:min(len(tried), maxPositions)] {
			if n > 0 && at.under == tried[n-1].under && at.open == tried[n-1].open {
				continue // the school likes it less
			}
			if found && at.open > chosen.open {
				break
			}
			layout, entry := s.over(pattern, on, at.under, wide)
			if !layout.Solvable() {
				continue
			}
			now := solve(layout, entry)
			switch {
			case !now.Found:
			case !found || now.Better(&best), !best.Better(&now) && p.nearer(at.topHoles, chosen.topHoles):
				best, chosen, found = now, at, true
				continue
			}
			if next := min(n+1, len(tried)-1); tried[next].under.Pocket == at.under.Pocket {
				break // what takes more room is no better
			}
		}
	}
	try()
	if !found && len(tried) > 1 {
		consider(false) // where an arm shows past the display
		try()
	}
	if !found {
		chosen = school
		chosen.under.StandsOut, chosen.zones = 0, 0
	}
	if chosen.topHoles != p.place.TopHoles {
		hang.Place(&p.place, p.Display, p.Pattern, p.Bracket, p.wanted(quantity.Some(chosen.topHoles)))
	}
	layout, entry := s.over(pattern, on, chosen.under, wide)
	if p.Layout, p.unsaid = layout, found && chosen.stands; p.unsaid || !layout.Solvable() {
		p.Stack, p.Alternative = nil, nil
		return stack.Summary{}
	}
	p.over, p.standsOut = chosen.under, chosen.zones
	return solve(layout, entry)
}
