package place

import (
	"math"

	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// Limits of public ways (ADA Standards 2010, 307.2, memory; local codes
// decide), and of what is hidden in a wall (practice).
const (
	caneHeight = 685 * quantity.Millimetre // 27 in: what a cane finds below this
	outInWays  = 100 * quantity.Millimetre // 4 in
	cableWay   = 100 * quantity.Millimetre // to either side of an outlet's middle
)

// measured adds a check of a length against a limit; a wrong one fails.
func (p *Placement) measured(rule fit.Rule, m fit.Measure, good, bad, remedy quantity.Phrase, marks ...string) {
	c := fit.Check{Rule: rule, Measure: m, Text: good, Marks: marks}
	c.Measure.Coarse = true
	if m.Margin < 0 {
		c.Status, c.Text, c.Remedy = fit.Fail, bad, remedy
	}
	p.Checks = append(p.Checks, c)
}

// clearances checks what is above and below, and the wall's ends.
func (p *Placement) clearances() {
	if surface, ok := p.surface(); ok {
		need := surface + p.gapNeeded()
		if p.Bottom < need {
			p.MoveY = quantity.Some((need - p.Bottom).Ceil(tapeStep))
		}
		p.measured("below", fit.AtLeast(p.Bottom, need),
			quantity.Say("The bottom edge is at %v, clear of what is below it.", quantity.Wall(p.Bottom)),
			quantity.Say("The bottom edge is at %v; what is below it, with the drop of a tilt of %v, needs %v.", quantity.Wall(p.Bottom), quantity.Wall(p.tiltDrop), quantity.Wall(need)),
			quantity.Say("Hang it %v higher.", shown(need-p.Bottom)), "furniture", "surface")
	}
	if need, ok := p.lid(); ok {
		if p.Top > need {
			p.MoveY = quantity.Optional[quantity.Length]{Value: -(p.Top - need).Ceil(tapeStep), Known: !p.MoveY.Known} // not when it is too low too
		}
		p.measured("above", fit.AtMost(p.Top, need),
			quantity.Say("The top edge is at %v, with room to lift the display over its hook.", quantity.Wall(p.Top)),
			quantity.Say("The top edge is at %v; to lift it over its hook by %v it has to stay under %v.", quantity.Wall(p.Top), p.Pairing.Bracket.LiftOver.Or(0), quantity.Wall(need)),
			quantity.Say("Hang it %v lower.", shown(p.Top-need)), "line", "ceiling", "niche")
	}
	width, _, _ := p.Pairing.Display.Outline(p.Pairing.Turn)
	if w := p.Job.Wall.Width; w.Known {
		left, right := p.DisplayX-width/2, w.Value-(p.DisplayX+width/2)
		room := min(left, right)
		p.measured("wall", fit.AtLeast(room, 0), quantity.Say("The display stays %v inside the wall's ends.", quantity.Wall(room)),
			quantity.Say("The display stands out %v past the wall's end.", quantity.Wall(-room)), quantity.Say("Move it, or take a narrower one."), "display")
	}
	if p.Bottom < 0 {
		p.say("floor", fit.Fail, quantity.Say("The bottom edge would be %v under the floor.", quantity.Wall(-p.Bottom)), quantity.Say("Hang it higher."))
	}
	p.niche(width)
	p.plateShows(width)
}

// plateShows says how far a wall plate stands out past the display's edges,
// where it will be seen.
func (p *Placement) plateShows(width quantity.Length) {
	w := p.Pairing.Bracket.WallPlate
	if !w.Width.Known || !w.Height.Known || len(p.Plates) == 0 {
		return
	}
	out, edge := quantity.Length(0), ""
	past := func(by quantity.Length, name string) {
		if by > out {
			out, edge = by, name
		}
	}
	past(p.Datum+w.Height.Value/2-p.Top, "above its top edge")
	past(p.Bottom-(p.Datum-w.Height.Value/2), "below its bottom edge")
	for _, datum := range p.Plates {
		past(p.DisplayX-width/2-(datum-w.Width.Value/2), "past its left edge")
		past(datum+w.Width.Value/2-(p.DisplayX+width/2), "past its right edge")
	}
	if out > 0 {
		p.Checks = append(p.Checks, fit.Check{Rule: "plate", Status: fit.Caution, Marks: []string{"plate"},
			Text: quantity.Say("The wall plate shows %v %v.", shown(out), edge), Remedy: quantity.Say("Say so before it hangs, or take another bracket.")})
	}
}

// niche checks a display in a recess or a cabinet: its sides, also when it is
// swung, and the sill below it.
func (p *Placement) niche(width quantity.Length) {
	n := p.Job.Wall.Niche
	if n == nil {
		return
	}
	side := min(p.DisplayX-width/2-(n.X-n.Width/2), n.X+n.Width/2-(p.DisplayX+width/2))
	p.measured("niche", fit.AtLeast(side, 0), quantity.Say("The niche leaves %v at the sides.", quantity.Wall(side)),
		quantity.Say("The niche is %v too narrow where the display is.", quantity.Wall(-side)), quantity.Say("Move it to the niche's middle, or take a narrower one."), "niche")
	p.measured("niche", fit.AtLeast(p.Bottom-n.Bottom, p.gapNeeded()), quantity.Say("The display stands clear of the niche's bottom."),
		quantity.Say("The bottom edge is %v over the niche's bottom; %v is needed.", quantity.Wall(p.Bottom-n.Bottom), quantity.Wall(p.gapNeeded())), quantity.Say("Hang it higher."), "niche")
	b := p.Pairing.Bracket
	if b.SwivelPivot == nil || !b.Swivel.Known || b.Swivel.Value == 0 {
		return
	}
	front := p.Pairing.Display.RestPlaneFromFront
	if !front.Known {
		front = p.Pairing.Display.Depth
	}
	if !front.Known {
		p.say("niche", fit.Unknown, quantity.Say("Whether the display can be swung in the niche is not known: its depth is missing."), quantity.Phrase{})
		return
	}
	sweep := p.sweep(width, front.Value)
	room := min(p.DisplayX-(n.X-n.Width/2), n.X+n.Width/2-p.DisplayX)
	c := fit.Check{Rule: "niche", Measure: fit.AtLeast(room, sweep), Text: quantity.Say("Swung, its corner reaches %v from the middle; the niche's side is %v away.", quantity.Wall(sweep), quantity.Wall(room)), Marks: []string{"niche"}}
	c.Measure.Coarse = true
	if room < sweep {
		c.Status, c.Remedy = fit.Caution, quantity.Say("Pull it out of the niche before swinging it.")
	}
	p.Checks = append(p.Checks, c)
}

// sweep is how far to the side of its middle a corner comes at the most while
// the display is swung through the bracket's swivel: a corner that is half a
// width beside the pivot and a depth in front of it comes to half·cos φ +
// depth·sin φ.
func (p *Placement) sweep(width, depth quantity.Length) quantity.Length {
	b := p.Pairing.Bracket
	half, front := width.MM()/2, (b.SwivelPivot.BehindArm + p.Pairing.Nearest() + depth).MM()
	at := min(b.Swivel.Value.Radians(), math.Atan2(front, half))
	return quantity.FromMM(half*math.Cos(at) + front*math.Sin(at))
}

// services warns of what may be hidden around an outlet: cables usually run
// straight up or down from it, or level to the next (practice). It is a
// warning, not a search.
func (p *Placement) services() {
	var near []string
	at := -1
	for i, o := range p.Job.Wall.Outlets {
		for _, pt := range p.Points {
			if (pt.X-o.X).Abs() < cableWay || (pt.Y-o.Y).Abs() < cableWay {
				near = append(near, pt.Hole)
				at = i
			}
		}
	}
	switch {
	case len(near) > 0:
		p.Checks = append(p.Checks, fit.Check{Rule: "services", Status: fit.Caution, Marks: []string{"service"},
			Text:   quantity.Say("%v lies in line with an outlet at %v: cables usually run straight up, down or level from it.", "Hole "+near[0], quantity.Wall(p.Job.Wall.Outlets[at].X)),
			Remedy: quantity.Say("Switch the circuit off and search before drilling. Fixed wiring is for licensed people; local codes decide.")})
	case len(p.Job.Wall.Outlets) > 0 && len(p.Points) > 0:
		p.say("services", fit.Pass, quantity.Say("No hole lies in line with an outlet. Search all the same: pipes and cables are where nobody thought."), quantity.Phrase{})
	}
}

// Overhead says whether a display hangs where people walk under it.
func (p *Placement) Overhead() bool {
	return p.Known && (p.Job.Place.Rule == "overhead" || p.Job.Place.Public && p.Bottom >= headroom)
}

// reach checks public ways: headroom and how far it stands out (ADA Standards
// 2010, 307.2, memory; local codes decide).
func (p *Placement) reach() {
	if p.Overhead() {
		p.say("tether", fit.Caution, quantity.Say("It hangs over people: if its fixing fails, it falls on them."), quantity.Say("Fit a second tether to a fixing of its own. Local codes decide."))
	}
	if !p.Job.Place.Public {
		return
	}
	if p.Job.Place.Rule == "overhead" && p.Bottom < headroom {
		p.say("projection", fit.Caution, quantity.Say("The bottom edge is at %v; people walk under it, and %v is the least.", quantity.Wall(p.Bottom), headroom), quantity.Say("Hang it higher. Local codes decide."))
		return
	}
	if !p.ToFront.Known {
		p.say("projection", fit.Unknown, quantity.Say("How far the display stands out into a public way is not known."), quantity.Say("Measure the bracket's profile and the display's depth."))
		return
	}
	c := fit.Check{Rule: "projection", Measure: fit.AtMost(p.ToFront.Value, outInWays), Text: quantity.Say("It stands out %v from the wall.", p.ToFront.Value)}
	if p.ToFront.Value > outInWays && p.Bottom > caneHeight && p.Bottom < headroom {
		c.Status = fit.Caution
		c.Text = quantity.Say("It stands out %v from the wall between %v and %v above the floor, where a cane does not find it; %v is allowed in public ways.", p.ToFront.Value, caneHeight, headroom, outInWays)
		c.Remedy = quantity.Say("Put something under it that a cane finds, recess it, or hang it higher. Local codes decide.")
	}
	p.Checks = append(p.Checks, c)
}
