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

// Height is the first stage: the display's height by the job's rule, and
// by all others.
type Height struct {
	Known   bool // the heights are known
	Centre  quantity.Length
	Top     quantity.Length
	Bottom  quantity.Length
	Datum   quantity.Length
	Schools []School
	Viewing Viewing
	Tilt    TiltReach

	missing quantity.Phrase // why heights are not known
}

// School is what one height rule gives for the same display and wall.
type School struct {
	Rule                string
	Centre, Top, Bottom quantity.Length
	Known               bool
	Used                bool            // the job's own
	Why                 quantity.Phrase // its reason; or what is missing
	Against             []quantity.Phrase
}

// TiltReach is how far a display's edges come below its bottom and above its top
// over the bracket's whole tilt.
type TiltReach struct {
	Known      bool
	Drop, Rise quantity.Length
}

// heights computes the first stage.
func (s *setting) heights() Height {
	var out Height
	pair := s.Pairing
	_, height, outlined := s.outline()
	x, _ := pair.Display.PatternCenter(pair.Pattern, pair.Turn)
	if !outlined || !x.Known || !pair.Hang.DisplayTopAboveDatum.Known {
		out.missing = quantity.Say("Where the display's edges are from its holes is not known.")
		return out
	}
	out.Tilt = s.tiltReach()
	centre, known, why := s.heightBy(s.Job.Place.Rule, height, &out.Tilt)
	if !known {
		out.missing = quantity.Say("The height rule lacks a figure. %v", why)
		return out
	}
	out.Known, out.Centre = true, centre
	at, _ := pair.Hang.CenteredAt(centre, height)
	out.Top, out.Bottom, out.Datum = at.Top, at.Bottom, at.Datum
	out.Schools, out.Viewing = s.schools(height, &out.Tilt), s.viewing(centre)
	return out
}

// tiltReach returns how far the display's corners sink and rise over the bracket's
// tilt, for its largest arm plane: y' = y·cos θ − dz·sin θ about the pivot. It is unknown
// if the range of a tilting bracket, the pivot or the depth is.
func (s *setting) tiltReach() TiltReach {
	pair := s.Pairing
	b := pair.Bracket
	tilting := b.Kind.Properties().Tilts
	if b.TiltDown.Value == 0 && b.TiltUp.Value == 0 {
		return TiltReach{Known: !tilting || b.TiltDown.Known && b.TiltUp.Known}
	}
	z, stacked := s.plane()
	deep, told := s.front()
	above, below := hang.Edges(pair.Display, pair.Pattern, pair.Turn)
	pivot, placed := b.TiltAxis()
	if !placed || !stacked || !told || !above.Known || !below.Known || tilting && !(b.TiltDown.Known && b.TiltUp.Known) {
		return TiltReach{}
	}
	centre := pivot.BelowHook - pair.Hang.CenterBelowHook
	top, bottom := (centre + above.Value).MM(), (centre - below.Value).MM()
	back := (pivot.BehindArm + z).MM()
	lowest, highest := bottom, top
	turn := func(degrees float64) {
		for _, front := range []float64{back, back + deep.MM()} {
			for _, y := range []float64{top, bottom} {
				at, _ := hang.Tilted(y, front, degrees)
				lowest, highest = min(lowest, at), max(highest, at)
			}
		}
	}
	lo, hi := -b.TiltUp.Value.Degrees(), b.TiltDown.Value.Degrees()
	turn(lo)
	turn(hi)
	for _, front := range []float64{back, back + deep.MM()} { // where a corner is highest or lowest
		for _, y := range []float64{top, bottom} {
			for _, at := range []float64{-math.Atan2(front, y) * 180 / math.Pi, 180 - math.Atan2(front, y)*180/math.Pi} {
				if at > lo && at < hi {
					turn(at)
				}
			}
		}
	}
	up := func(mm float64) quantity.Length { return quantity.Length(math.Ceil(max(0, mm)*1e6 - 1e-3)) }
	return TiltReach{Known: true, Drop: up(bottom - lowest), Rise: up(highest - top)}
}

// heightBy returns the display centre's height above the floor by a rule, and the reason
// of the rule. If a figure that the rule needs is missing, it is unknown, and
// the phrase names the figure.
func (s *setting) heightBy(rule string, h quantity.Length, tilt *TiltReach) (quantity.Length, bool, quantity.Phrase) {
	at := &s.Job.Place
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
		surface, ok := s.surface()
		if !ok {
			return need("The height of the furniture below")
		}
		gap := at.Gap
		if !gap.Known {
			if !tilt.Known {
				return need("The gap, or what the tilt takes (pivot, range, depth),")
			}
			gap = quantity.Some(s.gapNeeded(tilt))
		}
		return surface + gap.Value + h.HalfUp(), true, quantity.Say("The bottom edge %v over the furniture.", quantity.Wall(gap.Value))
	case "below":
		if !at.Line.Known {
			return need("The line above")
		}
		gap := at.Gap
		if !gap.Known {
			if !s.Pairing.Bracket.LiftOver.Known {
				return need("The gap, or how far the display is lifted over its hook,")
			}
			gap = s.Pairing.Bracket.LiftOver
		}
		return at.Line.Value - gap.Value - h.HalfUp(), true, quantity.Say("The top edge %v under the line.", quantity.Wall(gap.Value))
	case "bottom":
		if !at.Bottom.Known {
			return need("The height of the bottom edge")
		}
		return at.Bottom.Value + h.HalfUp(), true, quantity.Say("The bottom edge at a chosen height, %v.", quantity.Wall(at.Bottom.Value))
	case "top":
		if !at.Top.Known {
			return need("The height of the top edge")
		}
		return at.Top.Value - h.HalfUp(), true, quantity.Say("The top edge at a chosen height, %v.", quantity.Wall(at.Top.Value))
	case "overhead":
		return at.Bottom.Or(headroom) + h.HalfUp(), true, quantity.Say("The bottom edge high enough for people to walk under it.")
	}
	if !at.Center.Known {
		return Seated, true, quantity.Say("The usual height for people who sit: the default, since most look at it from a chair.")
	}
	return at.Center.Value, true, quantity.Say("A chosen height.")
}

// gapNeeded returns the room needed under the bottom edge: for accessories there, and
// for the tilt.
func (s *setting) gapNeeded(tilt *TiltReach) quantity.Length {
	return s.Job.Place.Accessory.Or(0) + tilt.Drop
}

// maxTop returns the greatest height of the top edge with which the display can be lifted over
// its hook.
func (s *setting) maxTop() (quantity.Length, bool) {
	limit, ok := s.limitAbove()
	return limit - s.Pairing.Bracket.LiftOver.Or(0), ok
}

// schools returns the heights by every rule, including the job's own.
func (s *setting) schools(h quantity.Length, tilt *TiltReach) []School {
	var out []School
	for _, rule := range catalog.PlaceRules {
		one := School{Rule: rule, Used: rule == s.Job.Place.Rule || s.Job.Place.Rule == "" && rule == "center"}
		one.Centre, one.Known, one.Why = s.heightBy(rule, h, tilt)
		if one.Known {
			one.Top, one.Bottom = one.Centre+h/2, one.Centre-h/2
			one.Against = s.against(one.Top, one.Bottom, tilt)
		}
		out = append(out, one)
	}
	return out
}

// against lists the obstacles to a height.
func (s *setting) against(top, bottom quantity.Length, tilt *TiltReach) []quantity.Phrase {
	var out []quantity.Phrase
	if surface, ok := s.surface(); ok && bottom < surface+s.gapNeeded(tilt) {
		out = append(out, quantity.Say("%v too low over the furniture", shown(surface+s.gapNeeded(tilt)-bottom)))
	}
	if limit, ok := s.maxTop(); ok && top > limit {
		out = append(out, quantity.Say("%v too high to lift it over its hook", shown(top-limit)))
	}
	if bottom < 0 {
		out = append(out, quantity.Say("%v under the floor", shown(-bottom)))
	}
	if n := s.Job.Wall.Niche; n != nil && (bottom < n.Bottom || top > n.Bottom+n.Height) {
		out = append(out, quantity.Say("not in the niche"))
	}
	return out
}

// Viewing is how a display is seen.
type Viewing struct {
	Wide, Narrow quantity.Length                    // distances at which it fills 40° and 30° of the view
	Fills        quantity.Optional[quantity.Angle]  // of the view, from the job's distance
	Up           quantity.Optional[quantity.Angle]  // from the eye to the centre, at that distance
	Distance     quantity.Optional[quantity.Length] // the job's
}

// viewing gives the distances by width / (2·tan(θ/2)), θ 30° (SMPTE EG 18,
// memory) and 40°.
func (s *setting) viewing(centre quantity.Length) Viewing {
	width, _, _ := s.outline()
	at := func(degrees float64) quantity.Length {
		return quantity.FromMM(width.MM() / (2 * math.Tan(degrees*math.Pi/360)))
	}
	v := Viewing{Wide: at(40), Narrow: at(30), Distance: s.Job.Place.Distance}
	if d := v.Distance; d.Known && d.Value > 0 {
		angle := func(radians float64) quantity.Optional[quantity.Angle] {
			return quantity.Some(quantity.Angle(radians * 180 / math.Pi * float64(quantity.Degree)))
		}
		v.Fills = angle(2 * math.Atan(width.MM()/2/d.Value.MM()))
		if eye := s.Job.Place.Eye; eye.Known {
			v.Up = angle(math.Atan((centre - eye.Value).MM() / d.Value.MM()))
		}
	}
	return v
}
