package place

import (
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// AboveRule: there is room above the display, to lift it over its hook and to tilt it.
const AboveRule fit.RuleID = "above"

var aboveRule = rule{About: fit.About{ID: AboveRule, Name: "Above it", Blocks: true, Step: "lift"},
	Judge: (*Placement).above}

func (p *Placement) above() []fit.Check {
	if c, _, ok := p.topClearance(); ok {
		return []fit.Check{c}
	}
	return nil
}

// topClearance: a line, the ceiling or a niche's top is above the highest of the display's and the arms'
// top with the lift over the hook, the plate's top, and the highest
// edge of the tilt.
func (p *Placement) topClearance() (c fit.Check, move quantity.Optional[quantity.Length], ok bool) {
	limit, limited := p.limitAbove()
	if !limited {
		return c, move, false
	}
	b := p.Pairing.Bracket
	hook := p.Datum + b.WallPlate.HookAboveDatum
	armTop, _, arms := p.arms()
	lifted, what := p.Top, "The top edge"
	if arms && hook+armTop > lifted {
		lifted, what = hook+armTop, "The top of the arms"
	}
	highest, why := lifted+b.LiftOver.Or(0), "lifted over its hook"
	if plate := p.Datum + b.WallPlate.Height.Value.HalfUp(); b.WallPlate.Height.Known && plate > highest {
		highest, what, why = plate, "The wall plate's top", "where it is"
	}
	if tilted := p.Top + p.Tilt.Rise; p.Tilt.Known && tilted > highest {
		highest, what, why = tilted, "The front top edge", "tilted up"
	}
	c = measured(fit.AtMost(highest, limit),
		quantity.Say("%v comes to %v at the most, %v: under what is above it.", what, quantity.Coarse(highest, quantity.Up), why),
		quantity.Say("%v comes to %v, %v; it has to stay under %v.", what, quantity.Coarse(highest, quantity.Up), why,
			quantity.Coarse(limit, quantity.Down)),
		quantity.Say("Hang it %v lower.", shown(highest-limit)), "line", "ceiling", "niche")
	switch {
	case c.Status == fit.Fail:
		move = quantity.Some(-(highest - limit).Ceil(tapeStep))
	case !b.LiftOver.Known:
		c.Status, c.Remedy = fit.Unknown, quantity.Say("Measure how far it has to be lifted to come over its hook.")
		c.Text = quantity.Say("It is not known how far the display is lifted over its hook, nor whether there is room for that under %v.",
			quantity.Coarse(limit, quantity.Down))
	case !b.WallPlate.Height.Known || !arms:
		c.Status, c.Remedy = fit.Unknown, quantity.Say("Measure the wall plate and the plate on the display.")
		c.Text = quantity.Say("The height of the bracket's plates is not known, nor whether they stay under %v.", quantity.Coarse(limit,
			quantity.Down))
	case !p.Tilt.Known:
		c.Status, c.Remedy = fit.Unknown, quantity.Say("It takes the bracket's range and pivot, the display's depth and the bolts.")
		c.Text = quantity.Say("It is not known how far the front top edge rises when the display tilts, nor whether it stays under %v.",
			quantity.Coarse(limit, quantity.Down))
	}
	return c, move, true
}

// moveY is how far up or down the display would have to move to clear what is above and below it; unknown if it is too high as well
// as too low.
func (p *Placement) moveY() quantity.Optional[quantity.Length] {
	_, down, _ := p.topClearance()
	_, up, _ := p.bottomClearance()
	if !up.Known {
		return down
	}
	return quantity.Optional[quantity.Length]{Value: up.Value, Known: !down.Known}
}
