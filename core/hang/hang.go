// Package hang computes the place of a display on its bracket: the position
// of its holes on the arms, and of pattern centre and display top from
// the wall plate's datum.
//
// Front view, x to the right, y up. The hook line is where the display's arms
// rest on the wall plate; positions along an arm are below it. The rules are
// practice.
package hang

import (
	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Hang is the place of one display, as turned, on one bracket.
type Hang struct {
	Width, Height   quantity.Length // pattern as hung
	TopHoles        quantity.Length // top hole row below the hook line
	CenterBelowHook quantity.Length // pattern centre below the hook line
	Slide           quantity.Length // sideways, to either side

	CenterAboveDatum     quantity.Optional[quantity.Length]
	DisplayTopAboveDatum quantity.Optional[quantity.Length]

	// How far the arms' ends are inside the display's outline; negative
	// outside. Missing for a plate, or if the outline is not known.
	RevealTop, RevealBottom quantity.Optional[quantity.Length]
}

// Reveal returns the smaller of the two reveals.
func (h *Hang) Reveal() (quantity.Length, bool) {
	return min(h.RevealTop.Value, h.RevealBottom.Value), h.RevealTop.Known && h.RevealBottom.Known
}

// Heights are the heights of a hung display above the floor.
type Heights struct{ Datum, Top, Bottom quantity.Length }

// CenteredAt returns the heights with a display's centre at a given height;
// height is the display's as hung. False if the distance of the display's top from
// the datum is not known.
func (h *Hang) CenteredAt(center, height quantity.Length) (Heights, bool) {
	top := center + height/2
	return Heights{top - h.DisplayTopAboveDatum.Value, top, top - height}, h.DisplayTopAboveDatum.Known
}

// Wanted is how a display is to hang: its turn, the policy, and the place of its top holes if that is wanted.
type Wanted struct {
	Turn     catalog.Turn
	Policy   *catalog.Policy
	TopHoles quantity.Optional[quantity.Length]
}

// Place hangs a display by one of its patterns, with its top holes at the given place if the
// slots allow it, else by the policy's school. It returns false if the interface
// does not fit the pattern's width ([TakesWidth]), its height ([Positions]) or its turn.
func Place(h *Hang, d *catalog.Display, p *catalog.Pattern, b *catalog.Bracket, on Wanted) bool {
	turn, policy, wanted := on.Turn, on.Policy, on.TopHoles
	w, height := turn.Size(p.Width, p.Height)
	slide, ok := TakesWidth(b, w, height)
	if !ok || !b.AllowsTurn(turn) {
		return false
	}
	*h = Hang{Width: w, Height: height, Slide: slide}
	above, below := Edges(d, p, turn)
	if b.Interface.Type == catalog.Plate {
		h.CenterBelowHook = b.Interface.CenterBelowHook.Value
		h.TopHoles = h.CenterBelowHook - height/2
	} else {
		var room few
		allowed := positions(room[:0], b, height)
		if len(allowed) == 0 {
			return false
		}
		h.TopHoles = choose(allowed, b, height, above, below, policy)
		for _, a := range allowed {
			if wanted.Known && a.Holds(wanted.Value) {
				h.TopHoles = wanted.Value
			}
		}
		h.CenterBelowHook = h.TopHoles + height/2
		if above.Known {
			h.RevealTop = quantity.Some(above.Value - h.TopHoles - height.HalfUp() - b.Interface.ArmTop.Value)
		}
		if below.Known {
			h.RevealBottom = quantity.Some(h.CenterBelowHook + below.Value - b.Interface.ArmBottom.Value)
		}
	}
	if b.WallPlate != nil {
		center := b.WallPlate.HookAboveDatum - h.CenterBelowHook
		h.CenterAboveDatum = quantity.Some(center)
		if above.Known {
			h.DisplayTopAboveDatum = quantity.Some(center + above.Value)
		}
	}
	return true
}

// Choices returns the places of the top hole row below the hook that the slots take, and, with reveal, those of them at which the
// arms' ends are as far inside the display's outline as anywhere.
func Choices(d *catalog.Display, p *catalog.Pattern, b *catalog.Bracket, turn catalog.Turn, policy *catalog.Policy,
	reveal bool) fastener.Intervals {
	_, height := turn.Size(p.Width, p.Height)
	allowed := positions(nil, b, height)
	if above, below := Edges(d, p, turn); reveal && above.Known && below.Known && len(allowed) > 0 {
		allowed = nearestTo(nil, allowed, revealed(b, height, above.Value, below.Value, policy.Reveal))
	}
	return allowed
}

// revealed returns the top row's positions between which both ends of the arms are inside the outline by the reveal. The
// shortage is least between the two, in whichever order they are, and grows linearly outside.
func revealed(b *catalog.Bracket, height, above, below, reveal quantity.Length) fastener.Interval {
	highest := b.Interface.ArmBottom.Value + reveal - below - height/2
	lowest := above - height/2 - b.Interface.ArmTop.Value - reveal
	return fastener.Interval{Min: min(highest, lowest), Max: max(highest, lowest)}
}

// Edges returns how far the display's top is above, and its bottom below, the
// pattern's centre as hung; missing if a figure is.
func Edges(d *catalog.Display, p *catalog.Pattern, turn catalog.Turn) (above, below quantity.Optional[quantity.Length]) {
	if turn == 0 {
		// center_below_top gives the top without the display's height.
		above = p.CenterBelowTop
		if above.Known && d.Height.Known {
			below = quantity.Some(d.Height.Value - above.Value)
		}
		return above, below
	}
	_, y := d.PatternCenter(p, turn)
	if d.Width.Known && y.Known {
		above = quantity.Some(d.Width.Value/2 - y.Value)
		below = quantity.Some(d.Width.Value - above.Value)
	}
	return above, below
}

// TakesWidth reports whether the interface fits a pattern (for arms, its width),
// and how far the display can then slide to either side.
func TakesWidth(b *catalog.Bracket, width, height quantity.Length) (slide quantity.Length, ok bool) {
	i := &b.Interface
	if i.Type == catalog.Plate {
		for _, p := range i.Patterns {
			if p.Width == width && p.Height == height {
				return b.LateralSlide(), true
			}
		}
		return 0, false
	}
	slide = b.LateralSlide()
	if i.ArmWidth > width { // the arms would be in each other
		return slide, false
	}
	if i.RailWidth.Known {
		rail := (i.RailWidth.Value - width - i.ArmWidth) / 2
		if i.RailWidth.Value < width+i.ArmWidth {
			return rail, false
		}
		if b.WallPlate == nil || !b.WallPlate.LateralSlide.Known || rail < slide {
			slide = rail
		}
	}
	return slide, width >= i.WidthMin.Value && width <= i.WidthMax.Value
}

// Positions returns the intervals of the top hole row of a pattern of a height on
// the arms, below the hook line: S ∩ (S − H) for arms that use both rows, with S
// the union of the slots.
func Positions(b *catalog.Bracket, height quantity.Length) fastener.Intervals {
	return positions(nil, b, height)
}

func positions(room fastener.Intervals, b *catalog.Bracket, height quantity.Length) fastener.Intervals {
	if !b.UsesBottom() {
		return fastener.Union(room, b.Interface.Slots)
	}
	var here, there few
	slots := fastener.Union(here[:0], b.Interface.Slots)
	moved := there[:0]
	for _, s := range slots {
		moved = append(moved, fastener.Interval{Min: s.Min - height, Max: s.Max - height})
	}
	if !b.UsesTop() {
		return append(room[:0], moved...)
	}
	return fastener.Intersect(room, slots, moved)
}

// choose picks the top row's position: among those with the reveal
// at both arm ends, or else nearest to it, the one that
// the school prefers; a tie goes to the higher.
func choose(allowed fastener.Intervals, b *catalog.Bracket, height quantity.Length, above, below quantity.Optional[quantity.Length],
	policy *catalog.Policy) quantity.Length {
	var room few
	if above.Known && below.Known {
		allowed = nearestTo(room[:0], allowed, revealed(b, height, above.Value, below.Value, policy.Reveal))
	}
	if policy.ArmSchool == "high" {
		return allowed[0].Min
	}
	want := (b.Interface.ArmBottom.Value-b.Interface.ArmTop.Value)/2 - height/2
	best := allowed[0].Min
	for _, a := range allowed {
		y := min(max(want, a.Min), a.Max)
		if (y - want).Abs() < (best - want).Abs() {
			best = y
		}
	}
	return best
}

// few is memory for the slots of most arms.
type few [16]fastener.Interval

// nearestTo returns the parts of a union inside zone, or, if there are none, the
// points nearest to it.
func nearestTo(room, all fastener.Intervals, zone fastener.Interval) fastener.Intervals {
	zones := [1]fastener.Interval{zone}
	if in := fastener.Intersect(room, all, zones[:]); len(in) > 0 {
		return in
	}
	best := room[:0]
	var least int64
	for _, a := range all {
		at, away := a.Max, int64(zone.Min-a.Max)
		if a.Min > zone.Max {
			at, away = a.Min, int64(a.Min-zone.Max)
		}
		if len(best) == 0 || away < least {
			best, least = best[:0], away
		}
		if away == least {
			best = append(best, fastener.Interval{Min: at, Max: at})
		}
	}
	return best
}
