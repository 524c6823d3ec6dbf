package steps

import (
	"math"

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

// Limit is the recommended weight limit for one person:
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

// People is how many lift a mass together: two count for two thirds of their
// sum, three for half (HSE L23, memory); 0 is more than people should lift.
func People(m, limit quantity.Mass) int {
	switch {
	case m <= limit:
		return 1
	case m*3 <= limit*4: // 2/3 of two
		return 2
	case m*2 <= limit*3: // 1/2 of three
		return 3
	}
	return 0
}

// hangingLift is the lift of a display from a table to the wall when no site
// is known (practice): hands 30 cm in front of the ankles, from 75 cm up to
// 140 cm, no twist, a fair hold on the frame.
func hangingLift() Lift {
	return Lift{
		Horizontal: quantity.MM(300), Vertical: quantity.MM(1400), Travel: quantity.MM(650),
		Frequency: 1, Coupling: 1,
	}
}
