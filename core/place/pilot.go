package place

import (
	"slices"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// PilotRule: every hole suits its fastener.
const PilotRule fit.RuleID = "pilot"

var pilotRule = rule{About: fit.About{ID: PilotRule, Name: "Pilot hole", Blocks: true, Held: true, Step: "drill"},
	Judge: (*Placement).judgePilot}

// bore compares the hole with its fastener.
func (s *setting) bore(f *Fixing) anchorage.Bore {
	return anchorage.BoreOf(&f.Choice, &f.Hole, s.specificGravity())
}

// pilot: every hole suits its fastener, on the studs and beside them.
func (p *Placement) pilot() fit.Check {
	b := p.bore(&p.Fixing)
	c := p.pilotOf(&p.Choice, &b)
	i := slices.IndexFunc(p.Points, func(pt Point) bool { return pt.Beside }) // they are all alike
	if i < 0 || c.Status > fit.Note {
		return c
	}
	choice := anchorage.Choice{Wall: catalog.HollowBoard, Item: *p.Choice.Beside}
	b = anchorage.BoreOf(&choice, &p.Points[i].Drill, 0)
	if beside := p.pilotOf(&choice, &b); beside.Status > c.Status {
		return beside
	}
	return c
}

func (p *Placement) judgePilot() []fit.Check {
	if !p.fastened() {
		return nil
	}
	return []fit.Check{p.pilot()}
}

// pilotOf: a hole suits its fastener, in every wall (NDS 12.1.4 and 12.1.5, memory; masonry and plugs are practice).
func (p *Placement) pilotOf(choice *anchorage.Choice, b *anchorage.Bore) fit.Check {
	d, carrier := b.Diameter.Value, choice.Carrier()
	c := fit.Check{Marks: []string{"fastener"}}
	if b.Diameter.Known && b.High > 0 {
		c.Measure = fit.AtMost(d, b.High)
		if d < b.Low {
			c.Measure = fit.AtLeast(d, b.Low)
		}
	}
	inWood := choice.Wall.Holds() == catalog.Wood
	name := label(&anchorage.Choice{Item: *carrier})
	switch b.Fit {
	case anchorage.BoreUndrilled:
		c.Status = fit.Unknown
		c.Text = quantity.Say("The bracket's table has no drill for %v in %v.", carrier.Label(), choice.Wall.Name())
		c.Remedy = quantity.Say("Ask the maker of the fastener for its bit.")
		if b.High > 0 {
			c.Remedy = quantity.Say("%v to %v suits it: put one that is sold into the bracket's table.", b.Low.Ceil(soldBit), b.High.Floor(soldBit))
		}
	case anchorage.BoreUnsized:
		c.Status = fit.Unknown
		c.Text = quantity.Say("The diameter of %v is not known, nor whether it suits its hole.", carrier.Label())
		c.Remedy = quantity.Say("Measure it, or read its size off the pack.")
	case anchorage.BoreDisputed:
		c.Status = fit.Unknown
		c.Text = quantity.Say("The bracket's table drills %v, and %v is made for %v: only one can be right.", d, carrier.Label(), carrier.Drill)
		c.Remedy = quantity.Say("An engineer settles it before anybody drills: correct the table, or the item.")
	case anchorage.BoreLoose:
		c.Status = fit.Fail
		c.Text = quantity.Say("%v does not hold in a hole of %v.", name, d)
		c.Remedy = p.drillInstead(b)
	case anchorage.BoreMisfit:
		c.Status = fit.Fail
		c.Measure = fit.AtMost(choice.Item.Diameter, b.High)
		if choice.Item.Diameter < b.Low {
			c.Measure = fit.AtLeast(choice.Item.Diameter, b.Low)
		}
		c.Text = quantity.Say("%v takes screws of %v to %v; the kit's is %v.", name, b.Low, b.High, choice.Item.Diameter)
		c.Remedy = quantity.Say("Take a plug and a screw that belong together.")
	case anchorage.BoreWide:
		c.Status = fit.Caution
		c.Text = quantity.Say("A hole of %v is wide for %v in this wood; %v to %v is right.", d, carrier.Label(), b.Low, b.High)
		if b.Share < 1 {
			c.Text = quantity.Say("A hole of %v is wider than the root of %v: %v %% of its strength counts.", d, carrier.Label(), int(b.Share*100))
		}
		c.Remedy = p.drillInstead(b)
	case anchorage.BoreNarrow:
		c.Status = fit.Caution
		c.Text = quantity.Say("%v does not go into a hole of %v.", name, d)
		if inWood {
			c.Text = quantity.Say("A hole of %v is narrow for %v in this wood, and can split it; %v to %v is right.", d, carrier.Label(), b.Low,
				b.High)
		}
		c.Remedy = p.drillInstead(b)
	case anchorage.BoreWider:
		c.Status = fit.Note
		c.Text = quantity.Say("A hole of %v is within the root of %v: it holds as without one.", d, carrier.Label())
	default:
		switch {
		case !b.Diameter.Known && inWood:
			c.Text = quantity.Say("%v needs no hole in this wood.", name)
		case inWood:
			c.Text = quantity.Say("A hole of %v suits %v in this wood: %v to %v.", d, carrier.Label(), b.Low, b.High)
		case !b.Diameter.Known:
			c.Text = quantity.Say("%v is driven without a hole.", name)
		default:
			c.Text = quantity.Say("%v suits its hole, %v.", name, d)
		}
	}
	return c
}

// soldBit is the step of the bits that are sold (practice).
const soldBit = quantity.Millimetre / 2

// drillInstead names a bit that suits and is sold.
func (p *Placement) drillInstead(b *anchorage.Bore) quantity.Phrase {
	instead := b.High.Floor(soldBit)
	switch {
	case b.Fit == anchorage.BoreNarrow:
		instead = b.Low.Ceil(soldBit)
	case b.High-b.Low == 2*soldBit: // a fixing's own size, half a millimetre either way
		instead = b.Low + soldBit
	}
	return quantity.Say("Drill %v; ask the bracket's maker which of the two figures is right.", instead)
}
