package place

import (
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// TypeTestRule: the mount would pass the type test of wall mounts on this wall.
const TypeTestRule fit.RuleID = "type_test"

var typeTestRule = rule{About: fit.About{ID: TypeTestRule, Name: "Type test", Held: true, Step: "pull"},
	Judge: (*Placement).judgeTypeTest}

func (p *Placement) judgeTypeTest() []fit.Check {
	a := p.assessment
	if a == nil {
		return nil
	}
	c := p.utilisation(&a.TypeTest, "In the type test of wall mounts (four times the weight, at the most 880 N more than twice)",
		fit.Note, quantity.Say("The mount may pass it on another wall; on this one more or stronger fasteners would."))
	if c.Status == fit.Note && a.TypeTestRated.Share > 0 && a.TypeTestRated.Share <= 1 {
		c.Status = fit.Unknown
		c.Text = quantity.Say("%v Whether the pack's figure is for use or what the anchor comes out at is not known; for use it would "+
			"do.", c.Text)
		c.Remedy = quantity.Say("Ask the anchor's maker: rated or ultimate.")
	}
	return []fit.Check{c}
}
