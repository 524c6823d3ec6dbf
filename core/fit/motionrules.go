package fit

import (
	"math"

	"nexufix/core/catalog"
	"nexufix/core/hang"
	"nexufix/core/quantity"
)

// Motion is how far a display can tilt and swivel on a bracket:
// angles in degrees that the wall allows, tilted while closed, swung at
// full reach.
type Motion struct {
	TiltDown, TiltUp, Swivel quantity.Optional[float64]
}

// Motion computes how far the display could tilt and swivel before it, or
// something that stands out of its back, touches the wall; an angle is missing
// if a figure is.
func (p *Pairing) Motion() Motion { return p.MotionOn(&p.side) }

// MotionOn is Motion with wall plates at other places.
func (p *Pairing) MotionOn(side *WallSide) Motion { return p.motionOn(side, true, true, true) }

// motionOn computes only what is wanted of MotionOn.
func (p *Pairing) motionOn(side *WallSide, tiltsDown, tiltsUp, swings bool) (m Motion) {
	z, stacked := p.nearest()
	if !stacked || p.Hang == nil {
		return m
	}
	if tiltsDown || tiltsUp {
		m.TiltDown, m.TiltUp = p.tiltsUntilWall(z, tiltsDown, tiltsUp)
	}
	if swings {
		m.Swivel = p.swivelsUntilWall(z, side)
	}
	return m
}

// tiltsUntilWall returns how far the display, z off its arms, tilts before it touches the wall.
func (p *Pairing) tiltsUntilWall(z quantity.Length, tiltsDown, tiltsUp bool) (down, up quantity.Optional[float64]) {
	b := p.Bracket
	above, below := hang.Edges(p.Display, p.Pattern, p.Turn)
	c, centred := p.center()
	pivot, placed := b.TiltAxis()
	if !placed || !b.Profile.Known || !above.Known || !below.Known {
		return down, up
	}
	distance := (b.Profile.Value - pivot.BehindArm).MM()
	front := (pivot.BehindArm + z).MM()
	// Heights from the pivot; the pattern's centre is below the hook.
	centre := pivot.BelowHook - p.Hang.CenterBelowHook
	down.Value, up.Value = 90, 90
	until := func(low, high quantity.Length, front float64) {
		if tiltsDown {
			down.Value = min(down.Value, hang.TurnUntilWall(distance, hang.Corner{Front: front, Beside: -low.MM()}))
		}
		if tiltsUp {
			up.Value = min(up.Value, hang.TurnUntilWall(distance, hang.Corner{Front: front, Beside: high.MM()}))
		}
	}
	until(centre-below.Value, centre+above.Value, front)
	sure := true
	for i := range p.Display.Zones {
		zone := &p.Display.Zones[i]
		out, known := standsOut(zone)
		sure = sure && known
		if out > 0 {
			sure = sure && centred
			at := p.ZonePlace(zone)
			until(centre+at.Bottom-c.Y, centre+at.Top-c.Y, front-out.MM())
		}
	}
	down.Known, up.Known = sure && tiltsDown, sure && tiltsUp
	return down, up
}

// swivelsUntilWall returns how far the display, z off its arms, swivels before it touches the wall.
func (p *Pairing) swivelsUntilWall(z quantity.Length, side *WallSide) (turn quantity.Optional[float64]) {
	b := p.Bracket
	w, _, outlined := p.Display.Outline(p.Turn)
	pivot, placed := b.SwivelAxis()
	if !placed || !b.Reach.Known || !outlined || !side.Shift.Known {
		return turn
	}
	distance, front := (b.Reach.Value - pivot.BehindArm).MM(), (pivot.BehindArm + z).MM()
	shift := side.Shift.Value
	turn.Value, turn.Known = hang.TurnUntilWall(distance, hang.Corner{Front: front, Beside: (w.HalfUp() + shift.Abs()).MM()}), true
	for i := range p.Display.Zones {
		zone := &p.Display.Zones[i]
		out, known := standsOut(zone)
		turn.Known = turn.Known && known
		if out > 0 {
			at := p.ZonePlace(zone)
			beside := max((at.Left - shift).Abs(), (at.Right - shift).Abs())
			turn.Value = min(turn.Value, hang.TurnUntilWall(distance, hang.Corner{Front: front - out.MM(), Beside: beside.MM()}))
		}
	}
	return turn
}

// standsOut returns how far a zone stands out past the rest plane: a protrusion, or
// a plug in its socket; false if it is not known.
func standsOut(z *catalog.Zone) (quantity.Length, bool) {
	if z.Kind == "protrusion" {
		return max(z.Out.Value, z.Plug.Value-z.Setback.Or(0)), z.Out.Known
	}
	return z.Plug.Value - z.Setback.Or(0), z.Plug.Known || z.Kind != "port"
}

// allows compares an angle that the wall allows with the bracket's range; for a kind of bracket that
// moves, an absent range is unknown. A stop short of the range is a note, with the stop in whole degrees, unless more is
// wanted than is left.
func allows(has quantity.Optional[quantity.Angle], moves bool, allowed quantity.Optional[float64],
	wanted quantity.Optional[quantity.Angle]) (c Finding) {
	switch {
	case !has.Known && moves:
		c.Status = Unknown
	case has.Value == 0 && wanted.Value > 0:
		c.Status, c.Measure = Caution, atLeast(0, wanted.Value, Deg)
	case has.Value == 0:
	case !allowed.Known:
		c.Status = Unknown
	default:
		within := min(has.Value, stop(allowed, has.Value))
		c.Measure = atLeast(within, has.Value, Deg)
		switch {
		case wanted.Known && within < wanted.Value:
			c.Status, c.Measure = Caution, atLeast(within, wanted.Value, Deg)
		case within < has.Value:
			c.Status = Note
		}
	}
	return c
}

// Within returns an angle of the bracket limited by the wall, as it is shown; unknown if either is.
func Within(has quantity.Optional[quantity.Angle], wall quantity.Optional[float64]) quantity.Optional[quantity.Angle] {
	if has.Value == 0 || !has.Known {
		return has
	}
	has.Known = wall.Known
	has.Value = min(has.Value, stop(wall, has.Value))
	return has
}

// stop returns where the wall stops a movement: in whole degrees, where that is short of the bracket's range.
func stop(wall quantity.Optional[float64], has quantity.Angle) quantity.Angle {
	if at := allowedAngle(wall); at >= has {
		return at
	}
	return allowedAngle(wall) / quantity.Degree * quantity.Degree
}

// allowedAngle rounds down an angle that the wall allows.
func allowedAngle(allowed quantity.Optional[float64]) quantity.Angle {
	return quantity.Angle(math.Floor(max(0, allowed.Value) * float64(quantity.Degree)))
}

// motionWords puts such a comparison into words.
func (p *Pairing) motionWords(c *Check, verb, edge string, has quantity.Optional[quantity.Angle]) {
	switch {
	case c.Status == Unknown && !has.Known:
		c.say("How far the bracket can %v is not on record.", verb)
		c.advise("Take the range from its drawing; 0 where it cannot.")
	case c.Status == Unknown:
		c.say("It is not known whether the display can %v by the bracket's whole %v: a figure is missing.", verb, has.Value)
		c.advise("It takes the bolts, the display's edges, what stands out of its back, and the bracket's pivot, profile and reach.")
	case c.Status == Caution && has.Value <= quantity.Angle(c.Measure.Value):
		c.say("The bracket can %v by %v, and %v is wanted.", verb, has.Value, quantity.Angle(c.Measure.Limit))
		c.advise("Take a bracket that moves farther.")
	case c.Status == Caution || c.Status == Note:
		for i := range p.Display.Zones {
			if out, _ := standsOut(&p.Display.Zones[i]); out > 0 {
				edge += ", or what stands out there,"
				break
			}
		}
		c.say("The %v touches the wall at %v; the bracket could %v by %v.", edge, quantity.Angle(c.Measure.Value), verb, has.Value)
		if c.Status == Caution {
			c.say("%v %v is wanted.", c.Text, quantity.Angle(c.Measure.Limit))
			c.advise("Bring the display further out, or take a bracket that moves farther.")
		}
	default:
		c.say("The display can %v by the bracket's whole %v.", verb, has.Value)
	}
}

// moves reports whether a kind of bracket tilts, or swivels: if it does, an absent range
// is unknown, not zero.
func tilts(kind string) bool   { return kind == "tilt" || kind == "full_motion" || kind == "ball" }
func swivels(kind string) bool { return kind == "full_motion" || kind == "ball" }

// tiltingUp reports whether tilting up is worse than tilting down.
func (p *Pairing) tiltingUp() (c Finding, up bool) {
	b, moves := p.Bracket, tilts(p.Bracket.Kind)
	down := allows(b.TiltDown, moves, p.motion.TiltDown, p.Extra.WantedTilt)
	other := allows(b.TiltUp, moves, p.motion.TiltUp, quantity.Optional[quantity.Angle]{})
	if worse(down, other) {
		return other, true
	}
	return down, false
}

func tiltCheck(p *Pairing) Finding {
	c, _ := p.tiltingUp()
	return c
}

func tiltWords(p *Pairing, c *Check) {
	has, verb, edge := p.Bracket.TiltDown, "tilt down", "rear bottom edge"
	if _, up := p.tiltingUp(); up {
		has, verb, edge = p.Bracket.TiltUp, "tilt up", "rear top edge"
	}
	if c.Status == Pass && !c.Measure.Given() {
		c.say("The bracket does not tilt.")
		return
	}
	p.motionWords(c, verb, edge, has)
}

func swivelCheck(p *Pairing) Finding { return p.swivel(p.motion) }

func (p *Pairing) swivel(m Motion) Finding {
	return allows(p.Bracket.Swivel, swivels(p.Bracket.Kind), m.Swivel, p.Extra.WantedSwivel)
}

func swivelWords(p *Pairing, c *Check) {
	if c.Status == Pass && !c.Measure.Given() {
		c.say("The bracket does not swivel.")
		return
	}
	p.motionWords(c, "swivel", "rear edge", p.Bracket.Swivel)
}

// Gravity is the standard acceleration, m/s² (3rd CGPM, 1901).
const Gravity = 9.80665

// holdCheck: the tilt head, or the ball, holds the display's moment about its
// pivot over its whole range, else it droops (practice).
func holdCheck(p *Pairing) (c Finding) {
	b, d := p.Bracket, p.Display
	if !b.Hold().Known {
		return c
	}
	z, stacked := p.nearest()
	ball := b.Kind == "ball"
	above, _ := p.cgFromPattern()
	pivot, placed := b.TiltAxis()
	if !d.Mass.Known || !d.Depth.Known || !stacked || p.Hang == nil || !placed || !above.Known || !b.TiltDown.Known || !b.TiltUp.Known ||
		ball && !p.side.Shift.Known {
		c.Status = Unknown
		return c
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
	if moment > b.Hold().Value {
		c.Status = Caution
	}
	return c
}

func holdWords(p *Pairing, c *Check) {
	hold := p.Bracket.Hold()
	switch moment := tenths(quantity.Torque(c.Measure.Value)); {
	case !hold.Known:
		c.say("What the bracket's joint holds is not on record.")
	case c.Status == Unknown:
		c.say("It is not known whether the bracket's joint holds the display: that takes the display's mass, depth and edges, the bolts, the " +
			"pivot and its range.")
	case c.Status == Caution:
		c.say("The display turns its joint with %v; it holds %v: it will droop.", moment, hold.Value)
		c.advise("Tighten the joint as its maker says, or take a bracket that holds more.")
	default:
		c.say("The display turns its joint with %v at the most; it holds %v.", moment, hold.Value)
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
