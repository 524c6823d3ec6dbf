package place

import (
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// ProjectionRule: it does not stand out into a public way where a cane does not find it.
const ProjectionRule fit.RuleID = "projection"

var projectionRule = rule{About: fit.About{ID: ProjectionRule, Name: "Public walkway", Step: "finish"},
	Judge: (*Placement).projection}

// Limits of public ways (ADA Standards 2010, 307.2, memory; local codes decide).
const (
	caneHeight    = 685 * quantity.Millimetre // 27 in: what a cane finds below this
	maxProjection = 100 * quantity.Millimetre // 4 in
)

// projection: how far the display stands out into public ways, closed and swung out (ADA Standards 2010, 307.2, memory; local codes
// decide).
func (p *Placement) projection() []fit.Check {
	if !p.Job.Place.Public {
		return nil
	}
	lowest := p.lowest()
	b := p.Pairing.Bracket
	inWay := p.Bottom > caneHeight && lowest < headroom
	c := fit.Check{}
	outward, how := p.ToFront, "It stands out"
	if reach, ok := b.Farthest(); ok && reach > b.Profile.Value && p.ToFront.Known {
		outward, how = quantity.Some(p.ToFront.Value+reach-b.Profile.Value), "It can be left standing out"
	} else if b.Swings() && !ok {
		outward.Known = false
	}
	if !outward.Known || !p.Tilt.Known && p.Bottom > caneHeight && p.Bottom >= headroom {
		c.Status = fit.Unknown
		c.Text = quantity.Say("How far the display stands out into a public way, or how low, is not known.")
		c.Remedy = quantity.Say("Measure the bracket's profile and reach, and the display's depth.")
		return []fit.Check{c}
	}
	c.Measure = fit.AtMost(outward.Value, maxProjection)
	c.Text = quantity.Say("%v %v from the wall.", how, outward.Value)
	switch {
	case outward.Value > maxProjection && inWay:
		c.Status = fit.Caution
		c.Text = quantity.Say("%v %v from the wall between %v and %v above the floor, where a cane does not find it; %v is allowed in "+
			"public ways.", how, outward.Value, caneHeight, headroom, maxProjection)
		c.Remedy = quantity.Say("Put something under it that a cane finds, recess it, or hang it higher. Local codes decide.")
	case outward.Value > maxProjection:
		c.Measure = fit.Measure{} // it is not in the way
		c.Text = quantity.Say("%v %v from the wall, where a cane finds it or people walk under it.", how, outward.Value)
	}
	return []fit.Check{c}
}
