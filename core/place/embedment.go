package place

import (
	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// EmbedmentRule: a masonry fixing is at least as deep as required.
const EmbedmentRule fit.RuleID = "embedment"

var embedmentRule = rule{About: fit.About{ID: EmbedmentRule, Name: "Embedment", Blocks: true, Held: true, Step: "plate"},
	Judge: func(p *Placement) []fit.Check {
		if !p.fastened() {
			return nil
		}
		return p.embedment()
	}}

// embedment: a masonry fixing is at least as deep as required.
func (p *Placement) embedment() []fit.Check {
	if p.Job.Wall.Type.Holds() != catalog.Masonry || !p.Choice.Sound() {
		return nil
	}
	r := anchorage.Embedment(&p.Choice, &p.Layers)
	c := fit.Check{Marks: []string{"fastener"}}
	if !r.Value.Known {
		c.Status = fit.Unknown
		c.Text = quantity.Say("The fixing's depth in the wall is not known: %v.", p.missingLayer())
		c.Remedy = quantity.Say("Measure the plate, and what is on the wall, through a first hole.")
		return []fit.Check{c}
	}
	c.Measure = fit.AtLeast(r.Value.Value, r.Need.Value)
	what := quantity.Say("%v goes %v into the wall", label(&p.Choice), quantity.AtLeast(max(0, r.Value.Value)))
	if p.Choice.Plug != nil {
		what = quantity.Say("Behind covering and cavity the %v goes %v into its plug", p.Choice.Item.Kind.Word(),
			quantity.AtLeast(max(0, r.Value.Value)))
	}
	switch {
	case r.Soft:
		c.Status = fit.Caution
		c.Text = quantity.Say("%v; all of it, %v, is right.", what, r.Need.Value)
		c.Remedy = quantity.Say("Take one that is %v longer.", quantity.AtMost(r.Short))
	case r.Short > 0:
		c.Status = fit.Fail
		c.Text = quantity.Say("%v; %v is needed.", what, r.Need.Value)
		c.Remedy = quantity.Say("Take one that is %v longer.", quantity.AtMost(r.Short))
	default:
		c.Text = quantity.Say("%v; %v is needed.", what, r.Need.Value)
	}
	return []fit.Check{c}
}
