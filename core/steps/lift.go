package steps

import (
	"math"

	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// Lift is one lift of the revised NIOSH equation: where the hands are and how
// far they travel.
type Lift struct {
	Horizontal quantity.Length // hands in front of the ankles
	Vertical   quantity.Length // hands above the floor
	Travel     quantity.Length // vertical distance moved
	Asymmetry  quantity.Angle  // turn of the body
	Frequency  float64         // FM; 1 for a lift now and then
	Coupling   float64         // CM: 1 good, 0.95 or 1 fair, 0.90 poor
}

const loadConstant = 23 * quantity.Kilogram

// Limit returns the recommended weight limit for one person:
// RWL = 23 kg · HM · VM · DM · AM · FM · CM (Waters et al. 1993; NIOSH
// 94-110).
func (l Lift) Limit() quantity.Mass {
	return quantity.Mass(loadConstant.Kilograms() * l.hm() * l.vm() * l.dm() * l.am() * l.Frequency * l.Coupling * 1e9)
}

func (l Lift) hm() float64 {
	cm := l.Horizontal.MM() / 10
	if cm > 63 {
		return 0
	}
	return 25 / max(cm, 25)
}

func (l Lift) vm() float64 {
	cm := l.Vertical.MM() / 10
	if cm > 175 {
		return 0
	}
	return 1 - 0.003*math.Abs(cm-75)
}

func (l Lift) dm() float64 { return 0.82 + 4.5/max(l.Travel.MM()/10, 25) }

func (l Lift) am() float64 {
	if l.Asymmetry.Degrees() > 135 {
		return 0
	}
	return 1 - 0.0032*l.Asymmetry.Degrees()
}

// Heights of a lift (practice, but for the highest hands: NIOSH 94-110).
const (
	table      = 750 * quantity.Millimetre  // on which the display lies
	freeHeight = 1400 * quantity.Millimetre // of the hands when no site is known
	highest    = 1750 * quantity.Millimetre // nothing is lifted with hands above it
	onPlatform = 1400 * quantity.Millimetre // hands, from a platform
	handsIn    = 200 * quantity.Millimetre  // of a display's rest plane in front of the ankles, and half its depth
	minReach   = 250 * quantity.Millimetre
)

// Lifting is who lifts a display to its place.
type Lifting struct {
	People    int
	Mass      quantity.Mass                      // display, what hangs on it, the bracket's part
	Known     bool                               // all masses are known
	Limit     quantity.Mass                      // of one person
	Hands     quantity.Optional[quantity.Length] // above the floor, at the highest
	Platform  bool                               // hands above 175 cm: from a platform
	Equipment bool                               // more than four people can lift
	Over      bool                               // above one and a half times the people's limit
	Missing   []string
}

// People who lift together: two count for two thirds of their sum, three and four for
// half (HSE L23, memory).
func shareOf(n int, limit quantity.Mass) quantity.Mass {
	switch n {
	case 1:
		return limit
	case 2:
		return limit * 4 / 3
	}
	return limit * quantity.Mass(n) / 2
}

const maxPeople = 4

// tooMuch reports whether a mass is too much for n people: one lift is not a shift, so one and a half times the limit is lifted by one or
// two, and by three or four, who can rest and change hands, up to twice it (practice).
func tooMuch(n int, mass, limit quantity.Mass) bool {
	if n > 2 {
		return mass > 2*limit
	}
	return 2*mass > 3*limit
}

// lifting works out who lifts the display with its accessories and the
// bracket's part, from a table to a third up the display at its place plus
// the lift over the hook; the worse of origin and destination decides. Above 175 cm a
// platform brings the hands under 140 cm. With missing figures at least
// two people lift, and the figures are asked for.
func lifting(p *fit.Pairing, accessories quantity.Mass, places []place.Placement) Lifting {
	d, b := p.Display, p.Bracket
	out := Lifting{People: 1, Known: d.Mass.Known}
	miss := func(known bool, what string) {
		if !known {
			out.Missing = append(out.Missing, what)
		}
	}
	miss(d.Mass.Known, "the display's mass")
	miss(d.Height.Known, "its height")
	miss(d.Width.Known, "its width")
	miss(d.Diagonal.Known, "its diagonal")
	miss(d.Depth.Known, "its depth")
	hung := b.HungMass
	if !hung.Known && b.Mass.Known {
		hung = quantity.Some(b.Mass.Value / 2)
	}
	if !hung.Known {
		miss(false, "the bracket's mass")
		out.Known = false
	}
	least := 1
	if len(out.Missing) > 0 || max(d.Diagonal.Value, d.OtherDiagonal.Value) > p.Policy.TwoPeopleDiagonal {
		least = 2
	}
	out.Mass = d.Mass.Value + accessories + hung.Value
	hands := quantity.Optional[quantity.Length]{}
	_, height, outlined := d.Outline(p.Turn)
	for i := range places {
		if places[i].Known && outlined {
			up := places[i].Bottom + height/3 + b.LiftOver.Or(0)
			hands = quantity.Some(max(hands.Value, up))
		}
	}
	miss(b.LiftOver.Known, "how far it is lifted over its hook")
	out.Hands = hands
	at := hands.Or(freeHeight)
	if at > highest {
		out.Platform, at = true, onPlatform
	}
	one := Lift{Horizontal: max(minReach, handsIn+d.Depth.Value.HalfUp()), Travel: (at - table).Abs(), Frequency: 1, Coupling: 0.90}
	one.Vertical = table
	out.Limit = one.Limit()
	one.Vertical = at
	out.Limit = min(out.Limit, one.Limit())
	out.People = 0
	for n := least; n <= maxPeople; n++ {
		if limit := shareOf(n, out.Limit); !tooMuch(n, out.Mass, limit) {
			out.People, out.Over = n, 2*out.Mass > 3*limit
			break
		}
	}
	if out.People == 0 {
		out.People, out.Equipment = maxPeople, true
	}
	return out
}

// Text describes the lift.
func (l *Lifting) Text() quantity.Phrase {
	who := map[int]string{1: "One person lifts", 2: "Two people lift", 3: "Three people lift", 4: "Four people lift"}[l.People]
	mass := quantity.Say("%v", l.Mass)
	if !l.Known {
		mass = quantity.Say("a mass that is not known")
	}
	out := quantity.Say("%v %v.", who, mass)
	switch {
	case l.Equipment:
		out = quantity.Say("%v is more than four people should lift to this height: use lifting equipment, with at least %v people.", mass,
			l.People)
	case l.Over:
		out = quantity.Say("%v That is over what is recommended for them, %v: rest it on the way, or use lifting equipment.", out,
			quantity.Capacity(shareOf(l.People, l.Limit)))
	}
	if l.Platform {
		out = quantity.Say("%v The hands would be above %v: stand on platforms that bring them under %v.", out, quantity.Wall(highest),
			quantity.Wall(onPlatform))
	}
	if len(l.Missing) > 0 {
		out = quantity.Say("%v Find out first: %v.", out, quantity.And(quantity.Names(l.Missing...)...))
	}
	return out
}
