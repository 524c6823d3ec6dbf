package fit

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// PlugsRule: a plugged-in connector stays off what is behind it:
// plug ≤ profile + z + the socket's setback, less the wall plate's thickness
// where it is over one; behind the plug, what the cable needs to bend.
const PlugsRule RuleID = "plugs"

var plugsRule = pairingRule{About: About{ID: PlugsRule, Never: map[Status]string{Note: noNote}, Name: "Plugs", Severity: 10, Step: "cables",
	Uses: func(p *Pairing, out []Source) []Source {
		return p.zoneSources(out, "plug_mm", func(z *catalog.Zone) bool { return z.Plug.Known })
	}}, Hung: true, Judge: func(p *Pairing, c *Check) { p.plugs(c, &p.side) }}

func (p *Pairing) plugs(c *Check, side *WallSide) {
	isPort := func(z catalog.Zone) bool { return z.Kind == "port" }
	p.worstZone(c, "side.plug", "No plug that points to the wall is on record.",
		func(z *catalog.Zone) bool { return z.Plug.Known || z.Kind == "port" },
		func(z *catalog.Zone, c *Check) { p.plug(z, side, c) })
	if c.Status >= Caution || slices.ContainsFunc(p.Display.Zones, isPort) {
		return
	}
	switch room, known := p.roomForPlugs(); {
	case !known:
		c.is(Unknown, func() {
			c.say("No port is on record, nor how far the bracket keeps the display from the wall.")
			c.advise("Measure from the wall to the arms with the bracket closed, and look at the display's ports.")
		})
		return
	case room < plugDoubt:
		c.Measure = atLeast(room, plugDoubt, MM)
		c.is(Caution, func() {
			c.say("No port is on record; there is %v of room for plugs that point to the wall.", quantity.AtLeast(max(0, room)))
			c.advise("Look at the display's ports: put them on record, with 0 for a plug that points down or aside.")
			c.Marks = []string{"side.plug"}
		})
		return
	}
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

func (p *Pairing) plug(zone *catalog.Zone, side *WallSide, c *Check) {
	z, stacked := p.nearest()
	plug := zone.Plug.Value
	switch {
	case !zone.Plug.Known:
		c.is(Unknown, func() {
			c.say("How far a plug stands out of the back at a port is not known.")
			c.advise("Measure a plugged-in connector; 0 when it points down or aside.")
		})
		return
	case !p.Bracket.Profile.Known:
		c.is(Unknown, func() {
			c.say("The bracket's profile is not known, nor whether a plug of %v touches the wall.", plug)
			c.advise("Measure from the wall to the arms with the bracket closed.")
		})
		return
	case !stacked:
		c.is(Unknown, func() { c.say("Whether the plug touches the wall depends on the bolts, which are not chosen.") })
		return
	case plug == 0:
		c.is(Pass, func() { c.say("Its plug does not point to the wall.") })
		return
	}
	over, what, sure := p.behind(p.ZonePlace(zone), side)
	room := p.Bracket.Profile.Value + z + zone.Setback.Or(0) - over
	c.Measure = atMost(plug, room, MM)
	name := func() quantity.Phrase {
		if zone.Connector != "" {
			return quantity.Say("A plug (%v)", zone.Connector)
		}
		return quantity.Say("A plug")
	}
	switch bend := zone.CableBend.Or(0); {
	case room < plug:
		c.is(Fail, func() {
			c.say("%v stands out %v and has %v to %v.", name(), plug, quantity.AtLeast(max(0, room)), what)
			c.advise("Use an angled plug of at most %v, or spacers that bring the display further out.", quantity.AtLeast(max(0, room)))
		})
	case !sure:
		c.plateUnknown()
	case room < plug+bend:
		c.Status, c.Measure = Caution, atMost(plug+bend, room, MM)
		c.words(func() {
			c.say("%v stands out %v and its cable needs %v to bend; there is %v to %v.", name(), plug, bend, quantity.AtLeast(room), what)
			c.advise("Use an angled plug, or a cable that bends tighter.")
		})
	default:
		c.words(func() {
			c.say("%v that stands out %v has %v to %v.", name(), plug, quantity.AtLeast(room), what)
		})
	}
}
