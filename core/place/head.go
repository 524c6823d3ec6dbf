package place

import (
	"nexufix/core/anchorage"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// HeadRule: head or washer is wider than the hole of the plate under it.
const HeadRule fit.RuleID = "head"

var headRule = rule{About: fit.About{ID: HeadRule, Name: "Head on the plate", Blocks: true, Held: true, Step: "plate"},
	Judge: (*Placement).head}

// headOver is how much wider than its hole a head, or the washer under it, bears (practice).
const headOver = 3 * quantity.Millimetre

// head: a fastener's head, or its washer, bears on the wall plate and is not pulled through its hole or slot.
func (p *Placement) head() []fit.Check {
	if !p.fastened() {
		return nil
	}
	b := anchorage.BearingOf(p.Pairing.Bracket, &p.Choice)
	widest, id, unsaid := quantity.Length(0), "", ""
	for n := range p.Points {
		for _, h := range p.Pairing.Bracket.WallPlate.Holes {
			if h.ID != p.Points[n].Hole {
				continue
			}
			if h.Diameter == 0 {
				unsaid = h.ID
			} else if h.Diameter > widest {
				widest, id = h.Diameter, h.ID
			}
		}
	}
	if p.Choice.Item.Diameter == 0 || widest == 0 && unsaid == "" {
		return nil
	}
	need := widest + headOver
	c := fit.Check{Finding: fit.Finding{Measure: fit.AtLeast(b.Width, need)}, Marks: []string{"fastener", "plate"}}
	what := quantity.Say("The head of %v", p.Choice.Item.Label())
	if b.Washer && b.Known {
		what = quantity.Say("The washer under %v", p.Choice.Item.Label())
	}
	switch {
	case b.Washer && !b.Known:
		c.Status, c.Measure = fit.Unknown, fit.Measure{}
		c.Text = quantity.Say("The wall plate takes washers under its fasteners, and the kit says nothing of their width.")
		c.Remedy = quantity.Say("Put the washers into the kit, with their outer diameter: at least %v over %v.", need, id)
	case b.Width < need:
		c.Status = fit.Fail
		c.Text = quantity.Say("%v is %v wide, and %v of the wall plate %v: it pulls through.", what, quantity.AtLeast(b.Width), id, widest)
		c.Remedy = quantity.Say("Send washers of at least %v.", need)
	case unsaid != "":
		c.Status, c.Measure = fit.Caution, fit.Measure{}
		c.Text = quantity.Say("The width of hole %v in the wall plate is not known: nobody can say whether %v pulls through.", unsaid,
			p.Choice.Item.Label())
		c.Remedy = quantity.Say("Measure the hole, or put washers of three diameters under the fasteners.")
	default:
		c.Text = quantity.Say("%v is %v wide over %v of the wall plate, %v.", what, quantity.AtLeast(b.Width), id, widest)
	}
	return []fit.Check{c}
}
