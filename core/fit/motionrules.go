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
			at := p.ZonePlace(&zone)
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

var (
	tiltMarks   = []string{"side.tilt"}
	swivelMarks = []string{"side.swivel"}
)

// motionCheck compares an angle the wall allows with the bracket's range.
func (p *Pairing) motionCheck(c Check, verb, edge string, has quantity.Angle, allows quantity.Optional[float64]) Check {
	if !allows.Known {
		c.Status = Unknown
		if !p.brief {
			c.Text = quantity.Say("Whether the display can %v by the bracket's whole %v cannot be told: a figure is missing.", verb, has)
			c.Remedy = quantity.Say("It takes the bolts, the display's edges, and the bracket's pivot and profile.")
		}
		return c
	}
	able := quantity.Angle(math.Floor(max(0, allows.Value) * float64(quantity.Degree)))
	c.Measure = atLeast(able, has, Deg)
	if able < has {
		c.Status = Caution
	}
	switch {
	case p.brief:
	case c.Status == Caution:
		c.Text = quantity.Say("The %v touches the wall at %v; the bracket could %v by %v.", edge, able, verb, has)
		c.Remedy = quantity.Say("Tell the installer where to stop, or bring the display further out.")
	default:
		c.Text = quantity.Say("The display can %v by the bracket's whole %v.", verb, has)
	}
	return c
}

func tiltCheck(p *Pairing) Check {
	m := p.motion
	c := Check{Rule: "tilt", Marks: tiltMarks}
	hasDown, hasUp := p.Bracket.TiltDown.Value, p.Bracket.TiltUp.Value
	if hasDown == 0 && hasUp == 0 {
		c.Text = quantity.Say("The bracket does not tilt.")
		return c
	}
	if hasDown == 0 {
		return p.motionCheck(c, "tilt up", "rear top edge", hasUp, m.TiltUp)
	}
	down := p.motionCheck(c, "tilt down", "rear bottom edge", hasDown, m.TiltDown)
	if hasUp == 0 {
		return down
	}
	return worst(down, p.motionCheck(c, "tilt up", "rear top edge", hasUp, m.TiltUp))
}

func swivelCheck(p *Pairing) Check {
	c := Check{Rule: "swivel", Marks: swivelMarks}
	if p.Bracket.Swivel.Value == 0 {
		c.Text = quantity.Say("The bracket does not swivel.")
		return c
	}
	return p.motionCheck(c, "swivel", "rear edge", p.Bracket.Swivel.Value, p.motion.Swivel)
}
