package place

import (
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// CablesRule: a fixed cable is long enough for the bracket's whole movement, and neither the display nor its plate covers an outlet.
const CablesRule fit.RuleID = "cables"

var cablesRule = rule{About: fit.About{ID: CablesRule, Name: "Cables", Step: "cables"},
	Judge: (*Placement).cables}

// cables judges covered outlets and fixed cables.
func (p *Placement) cables() []fit.Check {
	var out []fit.Check
	for i := range p.Job.Wall.Outlets {
		out = append(out, p.covered(i)...)
	}
	for _, c := range p.Cables() {
		if !c.Fixed.Known {
			continue
		}
		tag := fit.ZoneTag(c.Zone)
		if c.Known && c.Connector == "" && c.Fixed.Value >= c.Needed { // of unknown kind: its outlet may not be on record
			c.Known, c.Missing = false, "whether it is of the mains or for data is not on record"
		}
		if !c.Known {
			out = append(out, stated(fit.Unknown, quantity.Say("It is not known whether the %v, which cannot be unplugged and is "+
				"%v long, reaches: %v.", c.Name(), Metres(c.Fixed.Value), c.Missing),
				quantity.Say("Record the outlet it goes to, and what the bracket's drawing says."), tag))
			continue
		}
		out = append(out, measured(fit.AtLeast(c.Fixed.Value, c.Needed),
			quantity.Say("The %v cannot be unplugged; it reaches the outlet through the whole movement.", c.Name()),
			quantity.Say("The %v cannot be unplugged and is too short: through the whole movement it takes %v.", c.Name(), Metres(c.Needed)),
			quantity.Say("Hang the display nearer to the outlet, or have an outlet set near it; that is for licensed people. A moulded plug is "+
				"not cut off."), tag))
	}
	return out
}

// covered reports whether a display or its wall plate would cover an outlet.
func (p *Placement) covered(i int) []fit.Check {
	o := &p.Job.Wall.Outlets[i]
	left, right := p.edges()
	w := p.Pairing.Bracket.WallPlate
	for _, x := range p.Plates {
		if w.Width.Known && w.Height.Known && (o.X-x).Abs() < w.Width.Value/2+outletHalf && (o.Y-p.Datum).Abs() < w.Height.Value/2+outletHalf {
			return []fit.Check{stated(fit.Fail, quantity.Say("The wall plate would cover the outlet at %v, %v up.", quantity.Wall(o.X),
				quantity.Wall(o.Y)), quantity.Say("Move the display, or have the outlet moved; that is for licensed people."), "plate")}
		}
	}
	if o.X < left || o.X > right || o.Y < p.Bottom || o.Y > p.Top || o.Kind == "switch" && p.Pairing.Bracket.Swings() {
		return nil
	}
	where := quantity.Say("The display would cover the outlet at %v, %v up", quantity.Wall(o.X), quantity.Wall(o.Y))
	switch {
	case o.Kind == "switch":
		return []fit.Check{stated(fit.Caution, quantity.Say("%v: a switch cannot be reached there.", where),
			quantity.Say("Move the display, or have the switch moved; that is for licensed people."), "display")}
	case !p.Gap.Known:
		return []fit.Check{stated(fit.Unknown, quantity.Say("%v; whether a plug has room there is not known.", where),
			quantity.Say("It takes the bracket's profile and the bolts."), "display")}
	case p.Gap.Value < plugOut:
		return []fit.Check{stated(fit.Caution, quantity.Say("%v: there is %v behind it, and a usual plug stands out %v.", where,
			quantity.AtLeast(p.Gap.Value), plugOut), quantity.Say("Take a flat plug, or have a recessed outlet set; that is for licensed people."),
			"display")}
	}
	return []fit.Check{stated(fit.Pass, quantity.Say("%v; there is room for its plug, and it is plugged in before the "+
		"display hangs, "+
		"or with it drawn out.", where), quantity.Phrase{}, "display")}
}
