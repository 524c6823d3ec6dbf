package fit

import (
	"slices"

	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// LoadRule: the display, with all that hangs on it, is within the rated load and the rated moment, and its own threads carry it.
const LoadRule RuleID = "load"

var loadRule = pairingRule{About: About{ID: LoadRule, Never: map[Status]string{Note: noNote}, Name: "Load", Severity: 2,
	Blocks: true, Step: "lift",
	Marks: []string{"back.outline"}, Uses: usesMass}, Judge: judgeLoad}

func judgeLoad(p *Pairing, c *Check) {
	p.loaded(c)
	if p.Display.MassDoubted {
		c.words(func() { c.say("%v A mass that a caller tells counts for 30 %% more.", c.Text) })
	}
}

func (p *Pairing) loaded(c *Check) {
	if !p.Display.Mass.Known {
		c.is(Unknown, func() {
			c.say("The display's mass without its stand is not known.")
			if with := p.Display.MassWithStand; with.Known {
				c.say("The display's mass without its stand is not known; with it, it is %v.", with.Value)
			}
			c.advise("Weigh it, or ask for the data sheet's figure without stand.")
		})
		return
	}
	if !p.Bracket.RatedLoad.Known {
		c.is(Unknown, func() { c.say("The bracket's rated load is not known.") })
		return
	}
	l, moment := p.load(), p.Bracket.RatedMoment
	c.Measure = atMost(l.mass, l.rated, KG)
	switch most, limited := p.threadsCarry(); {
	case limited && p.Display.Mass.Value > most:
		c.Status, c.Measure = Fail, atMost(p.Display.Mass.Value, most, KG)
		c.words(func() {
			c.say("Displays with these holes and threads weigh up to %v; this one, %v, would weigh half as much again.",
				quantity.Capacity(most*2/3), p.Display.Mass.Value)
			c.advise("Check its mass, its pattern and its thread against the data sheet.")
		})
	case l.mass > l.rated:
		c.is(Fail, func() {
			rated := quantity.Capacity(l.rated)
			if l.moment {
				c.say("%v hangs %v from the wall; the bracket's %v takes %v there.", l.mass, quantity.AtMost(l.lever), moment.Value, rated)
				c.advise("Take a bracket with a shorter reach, or one rated for more.")
				return
			}
			c.say("%v is %v more than the bracket is rated for, %v.", l.mass, l.mass-l.rated, rated)
			c.advise("Take a bracket rated for at least %v.", l.mass)
		})
	case moment.Known && !l.levered:
		c.is(Unknown, func() {
			c.say("The bracket is rated for %v, but how far out the display hangs is not known.", moment.Value)
			c.advise("It takes the display's depth, the bracket's reach and the bolts.")
		})
	case l.mass > p.Policy.LoadCaution.OfMass(l.rated):
		c.is(Caution, func() {
			share, rated := percent(p.Policy.LoadCaution), quantity.Capacity(l.rated)
			c.say("%v is above %v of the rated load, %v.", l.mass, share, rated)
			if l.moment {
				c.say("%v is above %v of what the bracket's %v takes %v from the wall, %v.", l.mass, share, moment.Value, quantity.AtMost(l.lever),
					rated)
			}
			c.advise("Weigh the display with all that hangs on it.")
		})
	default:
		c.words(func() {
			if l.moment {
				c.say("%v hangs %v from the wall, where the bracket's %v takes %v.", l.mass, quantity.AtMost(l.lever), moment.Value,
					quantity.Capacity(l.rated))
				return
			}
			c.say("%v on a bracket rated for %v.", l.mass, quantity.Capacity(l.rated))
		})
	}
}

func percent(r quantity.Ratio) string { return quantity.FormatDecimal(int64(r), 4) + " %" }

// load is the mass on a bracket and its limit: the rated load, or the mass that causes
// the rated moment.
type load struct {
	mass, rated quantity.Mass
	lever       quantity.Length
	moment      bool // the moment is the nearer limit
	levered     bool // the lever is known
}

func (p *Pairing) load() load {
	l := load{mass: p.Display.Mass.Value + p.Extra.Accessories, rated: p.Bracket.RatedLoad.Value}
	if l.lever, l.levered = p.leverArm(); l.levered && p.Bracket.RatedMoment.Known {
		most := quantity.Mass(p.Bracket.RatedMoment.Value.NewtonMetres() / (Gravity * l.lever.MM() / 1000) * float64(quantity.Kilogram))
		if most < l.rated {
			l.rated, l.moment = most, true
		}
	}
	return l
}

// threadsCarry returns what a display with M4, or of the class of 100 × 100, can weigh: half as much again as its class is
// for; more is a wrong figure, or a display that is not meant to hang by these holes (practice).
func (p *Pairing) threadsCarry() (quantity.Mass, bool) {
	if p.Pattern == nil {
		return 0, false
	}
	class, ok := fastener.InterfaceClass(p.Pattern.Width, p.Pattern.Height)
	light := ok && slices.Contains(class.Threads, fastener.M4)
	switch {
	case light && (p.Pattern.Thread == fastener.M4 || class.Width == quantity.MM(100)):
	case p.Pattern.Thread == fastener.M4:
		class.MaxMass = fastener.MostOnM4
	default:
		return 0, false
	}
	return class.MaxMass * 3 / 2, true
}

// leverArm returns the greatest distance of the display's centre of gravity from the wall:
// reach + z + half the depth; false if it is not known, as for a swinging bracket
// without a reach.
func (p *Pairing) leverArm() (quantity.Length, bool) {
	z, stacked := p.nearest()
	reach, known := p.Bracket.Farthest()
	return reach + z + p.cgDepth(), known && stacked && p.Display.Depth.Known
}
