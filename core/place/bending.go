package place

import (
	"math"

	"nexufix/core/anchorage"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// BendingRule: a fixing that crosses covering and cavity takes its load across in bending.
const BendingRule fit.RuleID = "bending"

var bendingRule = rule{About: fit.About{ID: BendingRule, Name: "Stand-off bending", Held: true, Step: "plate"},
	Judge: (*Placement).judgeBending}

func (p *Placement) judgeBending() []fit.Check {
	if a := p.assessment; a != nil && a.Capacity.Bends && !a.Capacity.BendUnknown {
		return []fit.Check{p.bends(a)}
	}
	return nil
}

// bends: a fixing that crosses covering and cavity.
func (p *Placement) bends(a *anchorage.Assessment) fit.Check {
	o := &a.Bending
	c := fit.Check{Finding: fit.Finding{Measure: fit.ShareAtMost(o.Share * 100)}, Marks: []string{"fastener"}}
	c.Text = quantity.Say("%v crosses %v of covering and cavity, where %v N across is all that its thread of %v mm takes in bending: %v %%.",
		p.fastenerName(o.Point), p.Strength.Covering,
		int(a.Capacity.BendMoment), quantity.FormatDecimal(int64(math.Round(a.Capacity.RootDiameter*100)), 2), hundredths(o.Share))
	limit := 1.0
	if o.Pose.Aside {
		limit = maxSwung
	}
	switch {
	case o.Share > limit:
		c.Status, c.Remedy = fit.Fail, quantity.Say("Take a fixing with a rigid sleeve, or take the covering away under the plate.")
	case o.Share > 1:
		c.Status, c.Remedy = fit.Caution, quantity.Say("Take a fixing with a rigid sleeve.")
	}
	return c
}
