package place

import (
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// TetherRule: what hangs over people has a second fixing.
const TetherRule fit.RuleID = "tether"

var tetherRule = rule{About: fit.About{ID: TetherRule, Name: "Tether", Step: "tether"},
	Judge: (*Placement).tether}

// HeadroomRule: people can walk under it.
const HeadroomRule fit.RuleID = "headroom"

var headroomRule = rule{About: fit.About{ID: HeadroomRule, Name: "Headroom", Step: "offsets"},
	Judge: (*Placement).headroom}

// Overhead reports whether a display hangs where people walk under it, whatever rule its height follows.
func (p *Placement) Overhead() bool {
	return p.Known && (p.Job.Place.Rule == "overhead" || p.Bottom >= headroom && p.peopleBelow())
}

// peopleBelow reports whether people go below: as the wall says, else everywhere but in niches.
func (p *Placement) peopleBelow() bool {
	if said := p.Job.Wall.PeopleBelow; said != nil {
		return *said
	}
	return p.Job.Wall.Niche == nil
}

// lowest is the display's lowest edge over its tilt.
func (p *Placement) lowest() quantity.Length { return p.Bottom - p.Tilt.Drop }

// tether: what hangs over people has a second fixing.
func (p *Placement) tether() []fit.Check {
	if !p.Overhead() {
		return nil
	}
	return []fit.Check{stated(fit.Caution, quantity.Say("It hangs over people: if its fixing fails, it falls on them."),
		quantity.Say("Fit a second tether to a fixing of its own. Local codes decide."))}
}

// headroom: people walk under it (ADA Standards 2010, 307.4, memory; local codes decide).
func (p *Placement) headroom() []fit.Check {
	if !p.Overhead() {
		return nil
	}
	lowest := p.lowest()
	c := measured(fit.AtLeast(lowest, headroom), quantity.Say("Its lowest edge is at %v, tilted too; people walk under it.",
		quantity.Coarse(lowest, quantity.Down)),
		quantity.Say("Its lowest edge comes to %v at the worst tilt; people walk under it, and %v is the least.", quantity.Coarse(lowest,
			quantity.Down),
			headroom), quantity.Say("Hang it higher. Local codes decide."), "display")
	switch {
	case c.Status == fit.Fail:
		c.Status = fit.Caution
	case !p.Tilt.Known:
		c.Status, c.Text = fit.Unknown, quantity.Say("It is not known how far its lowest edge sinks when it tilts, nor whether people can walk "+
			"under it.")
		c.Remedy = quantity.Say("It takes the bracket's range and pivot, and the display's depth.")
	}
	return []fit.Check{c}
}
