package place

import (
	"math"

	"nexufix/core/catalog"
	"nexufix/core/hang"
	"nexufix/core/quantity"
)

// Usual heights, where the job gives none (practice; the headroom of public
// ways from the ADA Standards 2010, 307.4, memory).
const (
	Seated   = 1070 * quantity.Millimetre // of a display's centre, for people who sit: 42 in
	headroom = 2030 * quantity.Millimetre // 80 in
)

// School is what one height rule gives for the same display and wall.
type School struct {
	Rule                string
	Centre, Top, Bottom quantity.Length
	Known               bool
	Used                bool            // the job's own
	Why                 quantity.Phrase // what it stands for; or what is missing
	Against             []quantity.Phrase
}

// heightBy is the display centre's height above the floor by a rule, and what
// the rule stands for. Not known: a figure that the rule needs is missing, and
// the phrase says which.
func (p *Placement) heightBy(rule string, h quantity.Length) (quantity.Length, bool, quantity.Phrase) {
	at := &p.Job.Place
	need := func(what string) (quantity.Length, bool, quantity.Phrase) {
		return 0, false, quantity.Say("%v is needed.", what)
	}
	switch rule {
	case "eye":
		if !at.Eye.Known {
			return need("The eye height")
		}
		angle := at.Angle.Or(0)
		if angle == 0 {
			return at.Eye.Value, true, quantity.Say("The centre at eye height, %v.", quantity.Wall(at.Eye.Value))
		}
		if !at.Distance.Known {
			return need("The viewing distance")
		}
		rise := quantity.FromMM(at.Distance.Value.MM() * math.Tan(angle.Radians()))
		return at.Eye.Value + rise, true, quantity.Say("Seen at %v from eye height, from %v away.", angle, quantity.Wall(at.Distance.Value))
	case "upper_third":
		if !at.Eye.Known {
			return need("The eye height")
		}
		return at.Eye.Value - h/6, true, quantity.Say("The line a third down at eye height, as pictures are hung.")
	case "above":
		surface, ok := p.surface()
		if !ok {
			return need("The height of the furniture below")
		}
		return surface + at.Gap.Or(p.gapNeeded()) + h/2, true, quantity.Say("The bottom edge %v over the furniture.", quantity.Wall(at.Gap.Or(p.gapNeeded())))
	case "below":
		if !at.Line.Known {
			return need("The line above")
		}
		gap := at.Gap.Or(p.Pairing.Bracket.LiftOver.Or(0))
		return at.Line.Value - gap - h/2, true, quantity.Say("The top edge %v under the line.", quantity.Wall(gap))
	case "overhead":
		return at.Bottom.Or(headroom) + h/2, true, quantity.Say("The bottom edge high enough for people to walk under it.")
	}
	if !at.Center.Known {
		return Seated, true, quantity.Say("The usual height for people who sit: the default, since most look at it from a chair.")
	}
	return at.Center.Value, true, quantity.Say("A chosen height.")
}

// surface is the top of what is under the display: as the job says, else the
// highest furniture under it.
func (p *Placement) surface() (quantity.Length, bool) {
	if s := p.Job.Place.Surface; s.Known {
		return s.Value, true
	}
	top, ok := quantity.Length(0), false
	for i := range p.Job.Wall.Furniture {
		if f := &p.Job.Wall.Furniture[i]; p.over(f) {
			top, ok = max(top, f.Height), true
		}
	}
	return top, ok
}

// over says whether the display hangs over a piece of furniture.
func (p *Placement) over(f *catalog.Furniture) bool {
	width, _, _ := p.Pairing.Display.Outline(p.Pairing.Turn)
	return (f.X - p.DisplayX).Abs() < (f.Width+width)/2
}

// gapNeeded is the room under the bottom edge: what stands or hangs there, and
// what a tilt takes.
func (p *Placement) gapNeeded() quantity.Length { return p.Job.Place.Accessory.Or(0) + p.tiltDrop }

// schools is what every height rule gives, the job's own among them.
func (p *Placement) schools(h quantity.Length) []School {
	var out []School
	for _, rule := range catalog.PlaceRules {
		s := School{Rule: rule, Used: rule == p.Job.Place.Rule || p.Job.Place.Rule == "" && rule == "center"}
		s.Centre, s.Known, s.Why = p.heightBy(rule, h)
		if s.Known {
			s.Top, s.Bottom = s.Centre+h/2, s.Centre-h/2
			s.Against = p.against(s.Top, s.Bottom)
		}
		out = append(out, s)
	}
	return out
}

// against lists what speaks against a height.
func (p *Placement) against(top, bottom quantity.Length) []quantity.Phrase {
	var out []quantity.Phrase
	if surface, ok := p.surface(); ok && bottom < surface+p.gapNeeded() {
		out = append(out, quantity.Say("%v too low over the furniture", shown(surface+p.gapNeeded()-bottom)))
	}
	if limit, ok := p.lid(); ok && top > limit {
		out = append(out, quantity.Say("%v too high to lift it over its hook", shown(top-limit)))
	}
	if bottom < 0 {
		out = append(out, quantity.Say("%v under the floor", shown(-bottom)))
	}
	if n := p.Job.Wall.Niche; n != nil && (bottom < n.Bottom || top > n.Bottom+n.Height) {
		out = append(out, quantity.Say("not in the niche"))
	}
	return out
}

// lid is the height that the top edge has to stay under, to be lifted over its
// hook: under the line above, the ceiling and the niche's top.
func (p *Placement) lid() (quantity.Length, bool) {
	lift := p.Pairing.Bracket.LiftOver.Or(0)
	out, ok := quantity.Length(0), false
	under := func(l quantity.Length) {
		if !ok || l-lift < out {
			out, ok = l-lift, true
		}
	}
	if l := p.Job.Place.Line; l.Known {
		under(l.Value)
	}
	if c := p.Job.Wall.Height; c.Known {
		under(c.Value)
	}
	if n := p.Job.Wall.Niche; n != nil {
		under(n.Bottom + n.Height)
	}
	return out, ok
}

func shown(l quantity.Length) quantity.Shown {
	return quantity.Shown{Length: l, Bound: quantity.Up, Coarse: true}
}

// dropOfTilt is how far the front bottom edge sinks at the bracket's full tilt.
func (p *Placement) dropOfTilt() quantity.Length {
	pair := p.Pairing
	pivot := pair.Bracket.TiltPivot
	tilt := pair.Bracket.TiltDown.Value
	if pivot == nil || tilt == 0 || !pair.Hang.DisplayTopAboveDatum.Known {
		return 0
	}
	_, below := hang.Edges(pair.Display, pair.Pattern, pair.Turn)
	y := (pivot.BelowHook - pair.Hang.CenterBelowHook - below.Value).MM()
	front := (pivot.BehindArm + pair.Nearest() + pair.Display.RestPlaneFromFront.Or(pair.Display.Depth.Value)).MM()
	return max(0, hang.Drop(y, front, tilt.Degrees()))
}

// TiltDrop is how far the front bottom edge sinks at the bracket's full tilt.
func (p *Placement) TiltDrop() quantity.Length { return p.tiltDrop }

// Viewing is how a display is seen.
type Viewing struct {
	Wide, Narrow quantity.Length                    // distances at which it fills 40° and 30° of the view
	Fills        quantity.Optional[quantity.Angle]  // of the view, from the job's distance
	Up           quantity.Optional[quantity.Angle]  // from the eye to the centre, at that distance
	Distance     quantity.Optional[quantity.Length] // the job's
}

// viewing gives the distances by width / (2·tan(θ/2)), θ 30° (SMPTE EG 18,
// memory) and 40°.
func (p *Placement) viewing() Viewing {
	width, _, _ := p.Pairing.Display.Outline(p.Pairing.Turn)
	at := func(degrees float64) quantity.Length {
		return quantity.FromMM(width.MM() / (2 * math.Tan(degrees*math.Pi/360)))
	}
	v := Viewing{Wide: at(40), Narrow: at(30), Distance: p.Job.Place.Distance}
	if d := v.Distance; d.Known && d.Value > 0 {
		angle := func(radians float64) quantity.Optional[quantity.Angle] {
			return quantity.Some(quantity.Angle(radians * 180 / math.Pi * float64(quantity.Degree)))
		}
		v.Fills = angle(2 * math.Atan(width.MM()/2/d.Value.MM()))
		if eye := p.Job.Place.Eye; eye.Known {
			v.Up = angle(math.Atan((p.Centre - eye.Value).MM() / d.Value.MM()))
		}
	}
	return v
}
