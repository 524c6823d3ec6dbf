package fit

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// plugsCheck: a plugged-in connector stays off what is behind it:
// plug ≤ profile + z + the socket's setback, less the wall plate's thickness
// where it is over one; behind the plug, what the cable needs to bend.
func plugsCheck(p *Pairing) Finding { return p.plugs(&p.side) }

func (p *Pairing) plugs(side *WallSide) Finding {
	isPort := func(z catalog.Zone) bool { return z.Kind == "port" }
	c := p.worstZone(func(z *catalog.Zone) bool { return z.Plug.Known || z.Kind == "port" },
		func(z *catalog.Zone) Finding { return p.plug(z, side) })
	if c.Status >= Caution || slices.ContainsFunc(p.Display.Zones, isPort) {
		return c
	}
	switch room, known := p.roomForPlugs(); {
	case !known:
		c = Finding{Status: Unknown}
		c.about.unsaid = true
	case room < plugDoubt:
		c = Finding{Status: Caution, Measure: atLeast(room, plugDoubt, MM)}
		c.about.unsaid = true
	}
	return c
}

// plugDoubt is how far plugs stand out that nobody has told of (practice).
const plugDoubt = 30 * quantity.Millimetre

// roomForPlugs returns how far a plug could stand out of the back wherever its port is: over a wall plate too.
func (p *Pairing) roomForPlugs() (quantity.Length, bool) {
	z, _ := p.nearest()
	return p.Bracket.Profile.Value + z - p.platesThickness(), p.Bracket.Profile.Known
}

// thickPlate is how thick a wall plate is at the most of which nobody says it (practice).
const thickPlate = 6 * quantity.Millimetre

func (p *Pairing) platesThickness() quantity.Length {
	if w := p.Bracket.WallPlate; w != nil {
		return w.Thickness.Or(thickPlate)
	}
	return 0
}

func (p *Pairing) plug(zone *catalog.Zone, side *WallSide) (c Finding) {
	z, stacked := p.nearest()
	if !zone.Plug.Known || !p.Bracket.Profile.Known || !stacked {
		c.Status = Unknown
		return c
	}
	plug := zone.Plug.Value
	if plug == 0 {
		return c
	}
	over, _, sure := p.behind(p.ZonePlace(zone), side)
	room := p.Bracket.Profile.Value + z + zone.Setback.Or(0) - over
	c.Measure = atMost(plug, room, MM)
	switch bend := zone.CableBend.Or(0); {
	case room < plug:
		c.Status = Fail
	case !sure:
		c.plateUnknown()
	case room < plug+bend:
		c.Status, c.Measure = Caution, atMost(plug+bend, room, MM)
	}
	return c
}

func plugsWords(p *Pairing, c *Check) { p.plugsWords(c, &p.side) }

func (p *Pairing) plugsWords(c *Check, side *WallSide) {
	if c.about.unsaid && c.Status == Unknown {
		c.say("No port is on record, nor how far the bracket keeps the display from the wall.")
		c.advise("Measure from the wall to the arms with the bracket closed, and look at the display's ports.")
		return
	}
	if c.about.unsaid {
		c.say("No port is on record; there is %v of room for plugs that point to the wall.", quantity.AtLeast(max(0,
			quantity.Length(c.Measure.Value))))
		c.advise("Look at the display's ports: put them on record, with 0 for a plug that points down or aside.")
		c.Marks = []string{"side.plug"}
		return
	}
	z := p.zone(c, "side.plug", "No plug that points to the wall is on record.")
	if z == nil {
		return
	}
	name := quantity.Say("A plug")
	if z.Connector != "" {
		name = quantity.Say("A plug (%v)", z.Connector)
	}
	_, what, _ := p.behind(p.ZonePlace(z), side)
	plug, room := z.Plug.Value, quantity.Length(c.Measure.Limit)
	switch {
	case !z.Plug.Known:
		c.say("How far a plug stands out of the back at a port is not known.")
		c.advise("Measure a plugged-in connector; 0 when it points down or aside.")
	case c.Status == Unknown && !p.Bracket.Profile.Known:
		c.say("The bracket's profile is not known, nor whether a plug of %v touches the wall.", plug)
		c.advise("Measure from the wall to the arms with the bracket closed.")
	case c.Status == Unknown:
		c.say("Whether the plug touches the wall depends on the bolts, which are not chosen.")
	case plug == 0:
		c.say("Its plug does not point to the wall.")
	case c.Status == Fail:
		c.say("%v stands out %v and has %v to %v.", name, plug, quantity.AtLeast(max(0, room)), what)
		c.advise("Use an angled plug of at most %v, or spacers that bring the display further out.", quantity.AtLeast(max(0, room)))
	case c.Status == Caution:
		c.say("%v stands out %v and its cable needs %v to bend; there is %v to %v.", name, plug, z.CableBend.Value, quantity.AtLeast(room), what)
		c.advise("Use an angled plug, or a cable that bends tighter.")
	default:
		c.say("%v that stands out %v has %v to %v.", name, plug, quantity.AtLeast(room), what)
	}
}
