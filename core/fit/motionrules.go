package fit

import (
	"math"

	"nexufix/core/hang"
	"nexufix/core/quantity"
)

// Motion is what a bracket's tilt and swivel do with a display hung on it,
// closed against the wall: angles in degrees, as far as the wall allows.
type Motion struct {
	TiltDown, TiltUp, Swivel quantity.Optional[float64]
}

// Motion computes how far the display could tilt and swivel before it touches
// the wall; an angle is missing where a figure is.
func (p *Pairing) Motion() Motion {
	var m Motion
	b := p.Bracket
	z, stacked := p.nearest()
	if !stacked || p.Hang == nil {
		return m
	}
	above, below := hang.Edges(p.Display, p.Pattern, p.Turn)
	if pivot := b.TiltPivot; pivot != nil && b.Profile.Known && above.Known && below.Known {
		distance := (b.Profile.Value - pivot.BehindArm).MM()
		front := (pivot.BehindArm + z).MM()
		// Heights from the pivot; the pattern's centre is below the hook.
		centre := pivot.BelowHook - p.Hang.CenterBelowHook
		top, bottom := (centre + above.Value).MM(), (centre - below.Value).MM()
		down := hang.TurnUntilWall(distance, hang.Corner{Front: front, Beside: -bottom})
		up := hang.TurnUntilWall(distance, hang.Corner{Front: front, Beside: top})
		for _, zone := range p.Display.Zones {
			c, known := p.center()
			if zone.Kind != "protrusion" || !zone.Out.Known || !known {
				continue
			}
			at := p.ZonePlace(zone)
			out := front - zone.Out.Value.MM()
			down = min(down, hang.TurnUntilWall(distance, hang.Corner{Front: out, Beside: -(centre + at.Bottom - c.Y).MM()}))
			up = min(up, hang.TurnUntilWall(distance, hang.Corner{Front: out, Beside: (centre + at.Top - c.Y).MM()}))
		}
		m.TiltDown, m.TiltUp = quantity.Some(down), quantity.Some(up)
	}
	w, _, outlined := p.Display.Outline(p.Turn)
	x, _ := p.Display.PatternCenter(p.Pattern, p.Turn)
	if pivot := b.SwivelPivot; pivot != nil && b.Reach.Known && outlined && x.Known {
		half := w/2 + x.Value.Abs()
		m.Swivel = quantity.Some(hang.TurnUntilWall((b.Reach.Value - pivot.BehindArm).MM(), hang.Corner{Front: (pivot.BehindArm + z).MM(), Beside: half.MM()}))
	}
	return m
}

// motionCheck compares an angle the wall allows with the bracket's range.
func motionCheck(rule, verb, edge string, has quantity.Angle, allows quantity.Optional[float64]) Check {
	c := Check{Rule: rule, Marks: []string{"side." + rule}}
	if has == 0 {
		c.Text = quantity.Say("The bracket does not %v.", verb)
		return c
	}
	if !allows.Known {
		c.Status = Unknown
		c.Text = quantity.Say("Whether the display can %v by the bracket's whole %v cannot be told: a figure is missing.", verb, has)
		c.Remedy = quantity.Say("It takes the bolts, the display's edges, and the bracket's pivot and profile.")
		return c
	}
	able := quantity.Angle(math.Floor(max(0, allows.Value) * float64(quantity.Degree)))
	c.Measure = atLeast(able, has, Deg)
	if able < has {
		c.Status = Caution
		c.Text = quantity.Say("The %v touches the wall at %v; the bracket could %v by %v.", edge, able, verb, has)
		c.Remedy = quantity.Say("Tell the installer where to stop, or bring the display further out.")
	} else {
		c.Text = quantity.Say("The display can %v by the bracket's whole %v.", verb, has)
	}
	return c
}

func tiltCheck(p *Pairing) Check {
	m := p.Motion()
	down := motionCheck("tilt", "tilt down", "rear bottom edge", p.Bracket.TiltDown.Value, m.TiltDown)
	up := motionCheck("tilt", "tilt up", "rear top edge", p.Bracket.TiltUp.Value, m.TiltUp)
	if p.Bracket.TiltDown.Value == 0 && p.Bracket.TiltUp.Value == 0 {
		down.Text = quantity.Say("The bracket does not tilt.")
		return down
	}
	if p.Bracket.TiltDown.Value == 0 {
		return up
	}
	if p.Bracket.TiltUp.Value == 0 {
		return down
	}
	return worst(down, up)
}

func swivelCheck(p *Pairing) Check {
	return motionCheck("swivel", "swivel", "rear edge", p.Bracket.Swivel.Value, p.Motion().Swivel)
}
