package fit

import (
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// PortsRule: no port, vent or label under an arm or plate, and a vent has its
// free space behind it (practice).
const PortsRule RuleID = "ports"

var portsRule = pairingRule{About: About{ID: PortsRule, Name: "Ports", Severity: 11, Step: "facedown", Uses: usesHeight},
	Hung: true, Judge: func(p *Pairing, c *Check) { p.ports(c, &p.side) }}

var zoneWords = map[string]string{"pocket": "pocket", "port": "port", "vent": "vent", "label": "label",
	"protrusion": "part that stands out"}

func (p *Pairing) ports(c *Check, side *WallSide) {
	var covers rects
	known := false
	if len(p.Display.Zones) > 0 {
		covers, known = p.covers()
	}
	p.worstZone(c, "back.arms", "No port, vent or label is on record.",
		func(z *catalog.Zone) bool { return z.Kind != "protrusion" && z.Kind != "pocket" }, func(z *catalog.Zone, c *Check) {
			if p.port(z, &covers, known, c); !z.Clear.Known {
				return
			}
			air := p.other(2)
			air.inWords, air.Marks = c.inWords, c.Marks
			if p.vent(z, side, air); worse(c.Finding, air.Finding) {
				*c = *air
			}
		})
}

func (p *Pairing) port(z *catalog.Zone, covers *rects, known bool, c *Check) {
	word := zoneWords[z.Kind]
	if !known {
		c.is(Unknown, func() {
			c.say("It is not known whether the %v is under the bracket: the bracket's place on the back is missing.", word)
			if p.Hang != nil {
				c.advise("Measure the display's height, and from its top to the middle of the pattern.")
			}
		})
		return
	}
	gap := covers.gap(p.ZonePlace(z))
	if gap < 0 {
		p.underArm(z, gap, c)
		return
	}
	c.Measure = atLeast(gap, 0, MM)
	c.Measure.Coarse = true
	c.words(func() {
		c.say("The nearest %v is %v clear of %v.", word, quantity.Coarse(gap, quantity.Down), p.theBearing())
	})
	if p.Bracket.Interface.Type == catalog.Arms && p.Bracket.Interface.ArmWidth == 0 && gap < usualArm {
		c.Status = Unknown // as wide as usual it would lie on the zone
		c.words(func() {
			c.say("The %v lies %v from where the arms' slots are, and how wide the arms are is not on record.", word, quantity.Coarse(gap,
				quantity.Down))
			c.advise("Measure how wide an arm is.")
		})
	}
}

// theBearing names what of the bracket lies on the display's back.
func (p *Pairing) theBearing() string {
	if p.Bracket.Interface.Type == catalog.Plate {
		return "the plate"
	}
	return "the arms"
}

// usualArm is half the width of wide arms, for brackets that do not say how wide theirs are (practice).
const usualArm = 25 * quantity.Millimetre

// underArm judges a zone that an arm, or the plate, lies on: a label is only hidden; a port is reached by nobody
// afterwards, and a vent breathes, if the arm stays clear of them; else they are in the way.
func (p *Pairing) underArm(z *catalog.Zone, gap quantity.Length, c *Check) {
	what, word := p.theBearing(), zoneWords[z.Kind]
	plane, stacked := p.nearest()
	need, said := clearanceOf(z)
	switch {
	case z.Kind == "label":
		c.is(Note, func() { c.say("A label is hidden under %v.", what) })
		return
	case !said && z.Kind == "port" && stacked:
		c.Status, c.Measure = Unknown, atLeast(gap, 0, MM)
		c.Measure.Coarse = true
		c.words(func() {
			c.say("The port lies under %v, and how far its plug stands out is not known.", what)
			c.advise("Measure a plugged-in connector; 0 when it points down or aside.")
		})
		return
	case !said:
		c.Status, c.Measure = Fail, atLeast(gap, 0, MM)
		c.Measure.Coarse = true
		c.words(func() {
			c.say("The %v lies %v under %v.", word, quantity.Coarse(-gap, quantity.Up), what)
			c.advise("Another arm position, or another bracket, may leave it free.")
		})
		return
	}
	if c.Measure = atLeast(plane, need, MM); !stacked {
		c.Measure = atLeast(gap, 0, MM)
		c.Measure.Coarse = true
	}
	switch {
	case !stacked || plane < need:
		c.is(Fail, func() {
			c.say("The %v lies under %v. It needs %v there, and has %v.", word, what, need, quantity.AtLeast(plane))
			c.advise("Another arm position, longer spacers, or another bracket may leave it free.")
		})
	case z.Kind == "port":
		c.is(Caution, func() {
			c.say("The port lies under %v, with %v free there: plug it in before the bracket goes on, for nobody reaches it afterwards.", what,
				quantity.AtLeast(plane))
		})
	default:
		c.words(func() {
			c.say("%v pass over the %v and leave it %v.", capital(what), word, quantity.AtLeast(plane))
		})
	}
}

// vent: the gap behind a zone that needs air is at least what it asks.
func (p *Pairing) vent(z *catalog.Zone, side *WallSide, c *Check) {
	word := zoneWords[z.Kind]
	nearest, stacked := p.nearest()
	if !p.Bracket.Profile.Known || !stacked {
		c.is(Unknown, func() {
			c.say("It is not known whether the %v has its %v of air behind it: the bracket's profile or the bolts are missing.", word,
				z.Clear.Value)
		})
		return
	}
	over, what, sure := p.behind(p.ZonePlace(z), side)
	room := p.Bracket.Profile.Value + nearest + z.Setback.Or(0) - over
	c.Measure = atLeast(room, z.Clear.Value, MM)
	switch {
	case room < z.Clear.Value:
		c.is(Caution, func() {
			c.say("The %v has %v of air to %v and asks for %v.", word, quantity.AtLeast(room), what, z.Clear.Value)
			c.advise("Bring the display further out, or ask its maker whether less will do.")
		})
	case !sure:
		c.plateUnknown()
	default:
		c.words(func() { c.say("The %v has %v of air to %v.", word, quantity.AtLeast(room), what) })
	}
}

// capital begins a sentence with words.
func capital(s string) string { return strings.ToUpper(s[:1]) + s[1:] }
