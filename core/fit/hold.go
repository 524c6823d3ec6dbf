package fit

import (
	"math"

	"nexufix/core/catalog"
	"nexufix/core/hang"
	"nexufix/core/quantity"
)

// Gravity is the standard acceleration, m/s² (3rd CGPM, 1901).
const Gravity = 9.80665

// HoldRule: the tilt head, or the ball, holds the display's moment about its
// pivot over its whole range, else it droops (practice).
const HoldRule RuleID = "hold"

var holdRule = pairingRule{About: About{ID: HoldRule, Never: map[Status]string{Fail: "a display that droops still hangs",
	Note: noNote}, Name: "Joint holds", Severity: 13, Step: "tension",
	Marks: []string{"side.hold"}}, Hung: true, Judge: judgeHold}

func judgeHold(p *Pairing, c *Check) {
	b, d := p.Bracket, p.Display
	if !b.Hold().Known {
		c.is(Pass, func() { c.say("What the bracket's joint holds is not on record.") })
		return
	}
	z, stacked := p.nearest()
	ball := b.Kind.Properties().Joint
	above, _ := p.cgFromPattern()
	pivot, placed := b.TiltAxis()
	if !d.Mass.Known || !d.Depth.Known || !stacked || p.Hang == nil || !placed || !above.Known || !b.TiltDown.Known || !b.TiltUp.Known ||
		ball && !p.side.Shift.Known {
		c.is(Unknown, func() {
			c.say("It is not known whether the bracket's joint holds the display: that takes the display's " +
				"mass, depth and edges, the bolts, the pivot and its range.")
		})
		return
	}
	y := (pivot.BelowHook - p.Hang.CenterBelowHook + above.Value).MM() // of the centre of gravity over the pivot
	front := (pivot.BehindArm + z).MM() + p.cgDepth().MM()
	aside := 0.0
	if ball {
		cg := p.Turn.Of(catalog.Point{X: d.CGRight, Y: d.CGAboveCenter})
		aside = (cg.X - p.side.Shift.Value).MM()
	}
	lever := func(degrees float64) float64 {
		_, out := hang.Tilted(y, front, degrees)
		return math.Hypot(out, aside)
	}
	lo, hi := -b.TiltUp.Value.Degrees(), b.TiltDown.Value.Degrees()
	most := max(lever(lo), lever(hi), lever(0))
	for _, turn := range []float64{0, 180} { // where the lever is longest
		if at := math.Atan2(y, front)*180/math.Pi + turn; at > lo && at < hi {
			most = max(most, lever(at))
		}
	}
	moment := quantity.Torque(math.Ceil((d.Mass.Value +
		p.Extra.Accessories).Kilograms() * Gravity * most / 1000 * float64(quantity.NewtonMetre)))
	c.Measure = atMost(moment, b.Hold().Value, NM)
	c.words(func() {
		c.say("The display turns its joint with %v at the most; it holds %v.", tenths(moment), b.Hold().Value)
	})
	if moment > b.Hold().Value {
		c.is(Caution, func() {
			c.say("The display turns its joint with %v; it holds %v: it will droop.", tenths(moment), b.Hold().Value)
			c.advise("Tighten the joint as its maker says, or take a bracket that holds more.")
		})
	}
}

// tenths writes a moment rounded up to a tenth of a newton metre.
func tenths(t quantity.Torque) string {
	const step = quantity.NewtonMetre / 10
	return ((t + step - 1) / step * step).String()
}

// cgFromPattern returns the display's centre of gravity as hung, above and right of
// the pattern's centre; unknown if the display's edges are.
func (p *Pairing) cgFromPattern() (above, right quantity.Optional[quantity.Length]) {
	if p.Pattern == nil {
		return above, right
	}
	x, y := p.Display.PatternCenter(p.Pattern, p.Turn)
	cg := p.Turn.Of(catalog.Point{X: p.Display.CGRight, Y: p.Display.CGAboveCenter})
	if y.Known {
		above = quantity.Some(cg.Y - y.Value)
	}
	if x.Known {
		right = quantity.Some(cg.X - x.Value)
	}
	return above, right
}

// cgDepth returns how far the centre of gravity is in front of the rest plane: half
// the depth (practice).
func (p *Pairing) cgDepth() quantity.Length { return p.Display.Depth.Value.HalfUp() }
