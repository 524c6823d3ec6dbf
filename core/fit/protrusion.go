package fit

import (
	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// ProtrusionRule: nothing on the back hits wall plate or wall when closed,
// and under an arm it stands out no further than z.
const ProtrusionRule RuleID = "protrusion"

var protrusionRule = pairingRule{About: About{ID: ProtrusionRule, Never: map[Status]string{Note: noNote}, Name: "Stands out",
	Severity: 9, Step: "facedown",
	Uses: func(p *Pairing, out []Source) []Source {
		return p.zoneSources(out, "out_mm", func(z *catalog.Zone) bool { return z.Out.Known })
	}}, Hung: true, Judge: func(p *Pairing, c *Check) { p.protrusions(c, &p.side) }}

func (p *Pairing) protrusions(c *Check, side *WallSide) {
	p.worstZone(c, "side.protrusion", "Nothing that stands out of the back is on record.",
		func(z *catalog.Zone) bool { return z.Kind == "protrusion" }, func(z *catalog.Zone, c *Check) { p.protrusion(z, side, c) })
	if bulk := p.unsaidBulk(); bulk > 0 && worse(c.Finding, Finding{Status: Unknown}) {
		c.Measure, c.Marks = Measure{}, nil
		c.is(Unknown, func() {
			c.say("By its depth a part stands out %v behind what the bracket bears on, and where is not on record.", bulk)
			c.advise("Lay a straight edge over the back, and measure where it stands out, and how far.")
		})
	}
}

func (p *Pairing) protrusion(z *catalog.Zone, side *WallSide, c *Check) {
	room, what, sure, known := p.roomFor(z, side)
	out := z.Out.Value
	switch {
	case !z.Out.Known:
		c.is(Unknown, func() {
			c.say("How far a part stands out of the back is not known.")
			c.advise("Lay a straight edge over the back and measure.")
		})
		return
	case !known:
		c.is(Unknown, func() {
			c.say("It is not yet known whether a part that stands out %v touches bracket or wall.", out)
		})
		return
	}
	c.Measure = atMost(out, room, MM)
	switch {
	case out > room:
		c.is(Fail, func() {
			c.say("A part stands out %v and has %v to %v.", out, quantity.AtLeast(max(0, room)), what)
			c.advise("Spacers that bring the display %v further out would clear it.", quantity.AtMost(out-room))
			if what == underBracket {
				c.advise("No bolts and spacers in the bag or in stock bring the arms that far out: take a bracket that leaves it free.")
			}
		})
	case !sure:
		c.plateUnknown()
	case p.spacerOn(z):
		c.is(Caution, func() {
			c.say("A part that stands out %v is so near a hole that a spacer of %v stands on it.", out, p.stacked.Spacer)
			c.advise("Send narrower spacers, or see on the display that they stand on its back.")
		})
	default:
		c.words(func() { c.say("A part that stands out %v has %v to %v.", out, quantity.AtLeast(room), what) })
	}
}

// unsaidBulk returns how far a display stands out behind its rest plane, by its depth, where nobody has said what of it does; 0
// for less than the doubt that is usual for such figures.
func (p *Pairing) unsaidBulk() quantity.Length {
	d := p.Display
	if !d.RestPlaneFromFront.Known || !d.Depth.Known {
		return 0
	}
	bulk := d.Depth.Value - d.RestPlaneFromFront.Value
	for i := range d.Zones {
		z := &d.Zones[i]
		if z.Kind == "protrusion" && (!z.Out.Known || z.Out.Value+recessDoubt >= bulk) ||
			z.Kind == "pocket" && z.Depth.Value+recessDoubt >= bulk {
			return 0
		}
	}
	if bulk <= recessDoubt {
		return 0
	}
	return bulk
}

// spacerOn reports whether a spacer at a bolted hole would stand on what is in a zone.
func (p *Pairing) spacerOn(z *catalog.Zone) bool {
	c, placed := p.center()
	if p.stacked.Spacer == 0 || !placed {
		return false
	}
	at := p.ZonePlace(z)
	for i := range p.Layout.Groups {
		for _, h := range p.Layout.Groups[i].Holes {
			x, y := c.X+h.X, c.Y+h.Y
			across, down := max(0, at.Left-x, x-at.Right), max(0, at.Bottom-y, y-at.Top)
			if wide := p.stacked.Spacer; 2*max(across, down) < wide && 4*(across*across+down*down) < wide*wide {
				return true
			}
		}
	}
	return false
}

const underBracket = "the bracket over it"

// roomFor returns how far a part may stand out of the back, and what it would hit; not sure if
// the wall plate is not described, not known without bolts or profile.
func (p *Pairing) roomFor(zone *catalog.Zone, side *WallSide) (room quantity.Length, what string, sure, known bool) {
	z, stacked := p.nearest()
	covers, placed := p.covers()
	if !stacked || !p.Bracket.Profile.Known || !placed {
		return 0, "", false, false
	}
	at := p.ZonePlace(zone)
	over, what, sure := p.behind(at, side)
	room = p.Bracket.Profile.Value + z - over
	if covers.gap(at) < 0 {
		room, what = min(room, z), underBracket
	}
	return room, what, sure, true
}
