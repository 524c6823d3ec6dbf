package place

import (
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// CoveringRule: what lies on the wall is no thicker than the bracket allows.
const CoveringRule fit.RuleID = "covering"

var coveringRule = rule{About: fit.About{ID: CoveringRule, Name: "Covering", Blocks: true, Step: "drill"},
	Judge: (*Placement).covering}

// covering: at most what the bracket allows; where its maker says nothing, more than is usual on that wall is a caution, and
// what the fasteners allow is for their own rules.
func (p *Placement) covering() []fit.Check {
	w, kind := &p.Job.Wall, p.Job.Wall.Type.Properties()
	if kind.Type == catalog.NoWall {
		return nil
	}
	said := p.Pairing.Bracket.Walls[w.Type].CoveringMax
	most := said.Or(kind.CoveringMax)
	limited := most > 0 || said.Known
	switch {
	case !w.Covering.Known && (limited || kind.CoveringCounts):
		text := quantity.Say("The covering's thickness is not known, and the fastener has to go through it.")
		if limited {
			text = quantity.Say("The covering's thickness is not known; up to %v is allowed, and the fastener has to go through it.", most)
		}
		return []fit.Check{stated(fit.Unknown, text,
			quantity.Say("Measure it at an outlet or a first small hole. A bare wall has 0."))}
	case !w.Covering.Known || !limited:
		return nil
	}
	c := fit.Check{Finding: fit.Finding{Measure: fit.AtMost(w.Covering.Value, most)},
		Text: quantity.Say("%v of covering; up to %v is allowed.", quantity.AtMost(w.Covering.Value), quantity.AtLeast(most))}
	if w.Covering.Value > most && !said.Known {
		c.Status = fit.Caution
		c.Text = quantity.Say("%v of covering is more than the usual %v, and the bracket's maker gives no limit: what its fasteners allow "+
			"counts.",
			quantity.AtMost(w.Covering.Value), most)
		c.Remedy = quantity.Say("Ask the bracket's maker, or take the covering away under the plate.")
		return []fit.Check{c}
	}
	if w.Covering.Value > most {
		c.Status, c.Remedy = fit.Fail, quantity.Say("Take longer fasteners that the maker allows, or take the covering away under the plate.")
	}
	return []fit.Check{c}
}
