package place

import (
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// ServicesRule: no hole is where cables usually run.
const ServicesRule fit.RuleID = "services"

var servicesRule = rule{About: fit.About{ID: ServicesRule, Name: "Hidden services", Step: "drill"},
	Judge: (*Placement).services}

// cableWay is how far to either side of an outlet's middle cables may be hidden (practice).
const cableWay = 100 * quantity.Millimetre

// services warns of cables that may be hidden around an outlet: they usually run
// straight up or down from it, or level to the next (practice). It is a
// warning, not a search. It names the hole and the outlet that are most nearly
// in line.
func (p *Placement) services() []fit.Check {
	hole, outlet, least := -1, -1, cableWay
	for i, o := range p.Job.Wall.Outlets {
		for n := range p.Points {
			pt := &p.Points[n]
			if off := min((pt.X - o.X).Abs(), (pt.Y - o.Y).Abs()); off < least {
				hole, outlet, least = n, i, off
			}
		}
	}
	switch {
	case hole >= 0:
		o := &p.Job.Wall.Outlets[outlet]
		return []fit.Check{stated(fit.Caution,
			quantity.Say("Hole %v lies in line with the outlet at %v, %v up: cables usually run straight up, down or level from it.",
				p.Points[hole].Hole, quantity.Wall(o.X), quantity.Wall(o.Y)),
			quantity.Say("Switch the circuit off and search before drilling. Fixed wiring is for licensed people; local codes decide."), "service")}
	case len(p.Job.Wall.Outlets) > 0 && len(p.Points) > 0:
		return []fit.Check{stated(fit.Pass,
			quantity.Say("No hole lies in line with an outlet. Search all the same: pipes and cables are where nobody thought."), quantity.Phrase{})}
	}
	return nil
}
