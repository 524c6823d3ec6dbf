package fit

import (
	"slices"

	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

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

func loadCheck(p *Pairing) (c Finding) {
	if !p.Display.Mass.Known || !p.Bracket.RatedLoad.Known {
		c.Status = Unknown
		return c
	}
	l := p.load()
	c.Measure = atMost(l.mass, l.rated, KG)
	switch most, limited := p.threadsCarry(); {
	case limited && p.Display.Mass.Value > most:
		c.Status, c.Measure = Fail, atMost(p.Display.Mass.Value, most, KG)
		c.about.threads = true
	case l.mass > l.rated:
		c.Status = Fail
	case p.Bracket.RatedMoment.Known && !l.levered:
		c.Status = Unknown
	case l.mass > p.Policy.LoadCaution.OfMass(l.rated):
		c.Status = Caution
	}
	return c
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

func loadWords(p *Pairing, c *Check) {
	defer p.doubted(c)
	l, moment := p.load(), p.Bracket.RatedMoment.Value
	mass, rated, lever := l.mass, quantity.Capacity(l.rated), quantity.AtMost(l.lever)
	switch {
	case !p.Display.Mass.Known:
		c.say("The display's mass without its stand is not known.")
		if with := p.Display.MassWithStand; with.Known {
			c.say("The display's mass without its stand is not known; with it, it is %v.", with.Value)
		}
		c.advise("Weigh it, or ask for the data sheet's figure without stand.")
	case !p.Bracket.RatedLoad.Known:
		c.say("The bracket's rated load is not known.")
	case c.Status == Unknown:
		c.say("The bracket is rated for %v, but how far out the display hangs is not known.", moment)
		c.advise("It takes the display's depth, the bracket's reach and the bolts.")
	case c.about.threads:
		c.say("Displays with these holes and threads weigh up to %v; this one, %v, would weigh half as much again.",
			quantity.Capacity(quantity.Mass(c.Measure.Limit)*2/3), p.Display.Mass.Value)
		c.advise("Check its mass, its pattern and its thread against the data sheet.")
	case c.Status == Fail && l.moment:
		c.say("%v hangs %v from the wall; the bracket's %v takes %v there.", mass, lever, moment, rated)
		c.advise("Take a bracket with a shorter reach, or one rated for more.")
	case c.Status == Fail:
		c.say("%v is %v more than the bracket is rated for, %v.", mass, mass-l.rated, rated)
		c.advise("Take a bracket rated for at least %v.", mass)
	case c.Status == Caution:
		c.say("%v is above %v of the rated load, %v.", mass, percent(p.Policy.LoadCaution), rated)
		if l.moment {
			c.say("%v is above %v of what the bracket's %v takes %v from the wall, %v.", mass, percent(p.Policy.LoadCaution), moment, lever, rated)
		}
		c.advise("Weigh the display with all that hangs on it.")
	case l.moment:
		c.say("%v hangs %v from the wall, where the bracket's %v takes %v.", mass, lever, moment, rated)
	default:
		c.say("%v on a bracket rated for %v.", mass, rated)
	}
}

// doubted adds that the mass of a caller counts for more.
func (p *Pairing) doubted(c *Check) {
	if p.Display.MassDoubted {
		c.say("%v A mass that a caller tells counts for 30 %% more.", c.Text)
	}
}
