package place

import (
	"nexufix/core/anchorage"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// HandlingRule: the fasteners hold people who lean on the display, or pull at it.
const HandlingRule fit.RuleID = "handling"

var handlingRule = rule{About: fit.About{ID: HandlingRule, Name: "People lean on it", Held: true, Step: "finish"},
	Judge: (*Placement).judgeHandling}

func (p *Placement) judgeHandling() []fit.Check {
	if a := p.assessment; a != nil && a.Leaned {
		return []fit.Check{p.handling(a)}
	}
	return nil
}

// handling judges people who lean on a swung-out display, or pull at one that they reach. A single fastener fails: the plate
// turns about it.
func (p *Placement) handling(a *anchorage.Assessment) fit.Check {
	when := "When people lean on the swung-out display's edge"
	if !p.Pairing.Bracket.Swings() || a.Handling.Pose.Closed {
		when = "When people pull at the display's lower edge"
	}
	c := p.utilisation(&a.Handling, when, fit.Caution,
		quantity.Say("Stronger fasteners, a shorter reach, or a place where nobody reaches it."))
	if len(p.Points) == 1 && p.Job.Place.Public && a.Handling.Infinite() {
		c.Status = fit.Fail
		c.Text = quantity.Say("One fastener alone holds the plate: whoever pulls at the display turns it about it.")
		c.Remedy = quantity.Say("Take a plate with two fasteners, one above the other at least.")
	}
	return c
}
