package fit

import "nexufix/core/quantity"

// TiltRule and SwivelRule: the display moves by the bracket's whole range, or by what is wanted, before it touches the wall.
const (
	TiltRule   RuleID = "tilt"
	SwivelRule RuleID = "swivel"
)

var tiltRule = pairingRule{About: About{ID: TiltRule, Never: map[Status]string{Fail: "a display that cannot tilt all the way still " +
	"hangs"}, Name: "Tilt", Severity: 15, Step: "finish", Marks: []string{"side.tilt"},
	Uses: usesHeight}, Hung: true, Judge: judgeTilt}

var swivelRule = pairingRule{About: About{ID: SwivelRule, Never: map[Status]string{Fail: "a display that cannot swivel all the way " +
	"still hangs"}, Name: "Swivel", Severity: 14, Step: "finish",
	Marks: []string{"side.swivel"}, Uses: usesWidth}, Hung: true, Judge: func(p *Pairing, c *Check) { p.swivel(c, p.motion) }}

// judgeTilt judges tilting down and tilting up: the worse of both.
func judgeTilt(p *Pairing, c *Check) {
	b, moves, up := p.Bracket, p.Bracket.Kind.Properties().Tilts, p.other(1)
	*up = *c
	p.moves(c, movement{"tilt down", "rear bottom edge", "The bracket does not tilt."}, b.TiltDown, moves, p.motion.TiltDown,
		p.Extra.WantedTilt)
	p.moves(up, movement{"tilt up", "rear top edge", "The bracket does not tilt."}, b.TiltUp, moves, p.motion.TiltUp,
		quantity.Optional[quantity.Angle]{})
	if worse(c.Finding, up.Finding) {
		*c = *up
	}
}

func (p *Pairing) swivel(c *Check, m Motion) {
	p.moves(c, movement{"swivel", "rear edge", "The bracket does not swivel."}, p.Bracket.Swivel,
		p.Bracket.Kind.Properties().Swivels, m.Swivel, p.Extra.WantedSwivel)
}

// movement names a movement, the edge that stops it, and a bracket that has none.
type movement struct{ verb, edge, none string }

// moves compares an angle that the wall allows with the bracket's range; for a kind of bracket that
// moves, an absent range is unknown. A stop short of the range is a note, with the stop in whole degrees, unless more is
// wanted than is left.
func (p *Pairing) moves(c *Check, m movement, has quantity.Optional[quantity.Angle], moves bool, allowed quantity.Optional[float64],
	wanted quantity.Optional[quantity.Angle]) {
	switch {
	case !has.Known && moves:
		c.is(Unknown, func() {
			c.say("How far the bracket can %v is not on record.", m.verb)
			c.advise("Take the range from its drawing; 0 where it cannot.")
		})
		return
	case has.Value == 0 && wanted.Value > 0:
		c.Measure = atLeast(0, wanted.Value, Deg)
		c.is(Caution, func() {
			c.say("The bracket can %v by %v, and %v is wanted.", m.verb, has.Value, wanted.Value)
			c.advise("Take a bracket that moves farther.")
		})
		return
	case has.Value == 0:
		c.is(Pass, func() { c.say(m.none) })
		return
	case !allowed.Known:
		c.is(Unknown, func() {
			c.say("It is not known whether the display can %v by the bracket's whole %v: a figure is missing.", m.verb, has.Value)
			c.advise("It takes the bolts, the display's edges, what stands out of its back, and the bracket's pivot, profile and reach.")
		})
		return
	}
	within := min(has.Value, stop(allowed, has.Value))
	c.Measure = atLeast(within, has.Value, Deg)
	touches := func() {
		c.say("The %v touches the wall at %v; the bracket could %v by %v.", p.alsoZones(m.edge), within, m.verb, has.Value)
	}
	switch {
	case wanted.Known && within < wanted.Value:
		c.Status, c.Measure = Caution, atLeast(within, wanted.Value, Deg)
		c.words(func() {
			if has.Value <= within {
				c.say("The bracket can %v by %v, and %v is wanted.", m.verb, has.Value, wanted.Value)
				c.advise("Take a bracket that moves farther.")
				return
			}
			touches()
			c.say("%v %v is wanted.", c.Text, wanted.Value)
			c.advise("Bring the display further out, or take a bracket that moves farther.")
		})
	case within < has.Value:
		c.is(Note, touches)
	default:
		c.words(func() { c.say("The display can %v by the bracket's whole %v.", m.verb, has.Value) })
	}
}

// alsoZones adds to an edge what stands out of the back, if something does.
func (p *Pairing) alsoZones(edge string) string {
	for i := range p.Display.Zones {
		if out, _ := standsOut(&p.Display.Zones[i]); out > 0 {
			return edge + ", or what stands out there,"
		}
	}
	return edge
}
