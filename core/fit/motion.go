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
