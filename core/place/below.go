package place

import (
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// BelowRule: there is room below the display, for its tilt and for what stands there.
const BelowRule fit.RuleID = "below"

var belowRule = rule{About: fit.About{ID: BelowRule, Name: "Below it", Blocks: true, Step: "lift"},
	Judge: (*Placement).below}

func (p *Placement) below() (out []fit.Check) {
	if c, _, ok := p.bottomClearance(); ok {
		out = append(out, c)
	}
	return append(out, p.sill()...)
}

// bottomClearance: the lowest of the tilted display's edge, the arms' and the plate's bottom is above
// furniture and what stands on it.
func (p *Placement) bottomClearance() (c fit.Check, move quantity.Optional[quantity.Length], ok bool) {
	surface, under := p.surface()
	if !under {
		return c, move, false
	}
	b := p.Pairing.Bracket
	need := surface + p.Job.Place.Accessory.Or(0)
	lowest, what := p.Bottom-p.Tilt.Drop, "The bottom edge, with the drop of a tilt,"
	if p.Tilt.Drop == 0 {
		what = "The bottom edge"
	}
	_, armBottom, arms := p.arms()
	if end := p.Datum + b.WallPlate.HookAboveDatum - armBottom; arms && end < lowest {
		lowest, what = end, "The bottom of the arms"
	}
	if plate := p.Datum - b.WallPlate.Height.Value.HalfUp(); b.WallPlate.Height.Known && plate < lowest {
		lowest, what = plate, "The wall plate's bottom"
	}
	c = measured(fit.AtLeast(lowest, need),
		quantity.Say("%v is at %v, clear of what is below it.", what, quantity.Coarse(lowest, quantity.Down)),
		quantity.Say("%v is at %v; what is below it needs %v.", what, quantity.Coarse(lowest, quantity.Down), quantity.Coarse(need, quantity.Up)),
		quantity.Say("Hang it %v higher.", shown(need-lowest)), "furniture", "surface")
	switch {
	case c.Status == fit.Fail:
		move = quantity.Some((need - lowest).Ceil(tapeStep))
	case !p.Tilt.Known:
		c.Status, c.Remedy = fit.Unknown, quantity.Say("It takes the bracket's range and pivot, the display's depth and the bolts.")
		c.Text = quantity.Say("It is not known how far the bottom edge sinks when the display tilts, nor whether it clears what is " +
			"below it.")
	}
	return c, move, true
}

// sill: the display stands clear of the niche's bottom.
func (p *Placement) sill() []fit.Check {
	n := p.Job.Wall.Niche
	if n == nil {
		return nil
	}
	room, need := p.Bottom-n.Bottom, p.gapNeeded(&p.Tilt)
	sill := measured(fit.AtLeast(room, need), quantity.Say("The display stands clear of the niche's bottom."),
		quantity.Say("The bottom edge is %v over the niche's bottom; %v is needed.", quantity.Coarse(room, quantity.Down),
			quantity.Coarse(need, quantity.Up)), quantity.Say("Hang it higher."), "niche")
	if room < 0 {
		sill.Text = quantity.Say("The bottom edge is %v under the niche's bottom.", quantity.Coarse(-room, quantity.Up))
	}
	if sill.Status == fit.Pass && !p.Tilt.Known {
		sill.Status, sill.Text = fit.Unknown, quantity.Say("It is not known how far the bottom edge sinks when the display tilts, nor whether "+
			"it clears the niche's bottom.")
	}
	return []fit.Check{sill}
}
