package place

import (
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/wall"
)

// Limits that hold where nothing else is given.
const (
	coveringMax   = 16 * quantity.Millimetre   // 5/8 in of board over studs or masonry (practice)
	headroom      = 2030 * quantity.Millimetre // 80 in, in public ways
	caneHeight    = 685 * quantity.Millimetre  // 27 in: what a cane finds below this
	outInWays     = 100 * quantity.Millimetre  // 4 in (ADA Standards 2010, 307.2, memory)
	lightest      = 12 * quantity.Kilogram     // for toggles in board alone
	flattest      = 60 * quantity.Millimetre
	enoughToggles = 4
)

// studs says how the plate sits on its studs, or what would help.
func (p *Placement) studs(plate *wall.Plate, kind string, studs []wall.Stud, datum quantity.Length, plates []wall.Fixed, again func(quantity.Length) bool) {
	if plates != nil {
		shift := datum - p.DisplayX
		used := 0
		for _, f := range plates {
			used += len(f.Studs)
		}
		text := quantity.Say("The plate takes %v studs with its middle under the display's.", used)
		if shift != 0 {
			side := "right"
			if shift < 0 {
				side = "left"
			}
			text = quantity.Say("The plate takes %v studs, %v to the %v of the display's middle: the load hangs that far off centre.", used, quantity.Wall(shift.Abs()), side)
		}
		p.say("studs", fit.Pass, text, quantity.Phrase{})
		return
	}
	if len(studs) == 0 {
		p.say("studs", fit.Fail, quantity.Say("No studs are known on this wall, and the bracket needs %v.", plate.Studs), quantity.Say("Find the studs two independent ways, and mark them."))
		return
	}
	if good := studs[0].Good(kind, plate.Diameter, plate.Find); good < 0 {
		p.say("studs", fit.Fail, quantity.Say("A stud of %v is too narrow for a fastener of %v.", studs[0].Width, plate.Diameter), quantity.Say("Use a backing board, or another fastener."))
		return
	}
	// What would help: the least way the display would have to move.
	for step := quantity.Millimetre; step <= 400*quantity.Millimetre; step += quantity.Millimetre {
		for _, way := range []quantity.Length{step, -step} {
			if again(way) {
				side := "right"
				if way < 0 {
					side = "left"
				}
				p.say("studs", fit.Fail, quantity.Say("No place of the plate puts its holes on %v studs.", plate.Studs), quantity.Say("Move the display %v to the %v, or take another bracket or a backing board.", quantity.Wall(step), side))
				return
			}
		}
	}
	p.say("studs", fit.Fail, quantity.Say("No place of the plate puts its holes on %v studs.", plate.Studs), quantity.Say("Take another bracket, or a backing board."))
}

// hollow judges walls without studs, and the schools of those that lean on
// board alone.
func (p *Placement) hollow(plate *wall.Plate, kind string, plates []wall.Fixed) {
	points := 0
	for _, f := range plates {
		points += len(f.Points)
	}
	switch {
	case plates == nil:
		p.say("studs", fit.Fail, quantity.Say("The plate has too few holes for the fasteners it needs."), quantity.Phrase{})
	case kind != "hollow_board":
		p.say("studs", fit.Pass, quantity.Say("The wall takes fasteners where the holes are: the outermost of each row."), quantity.Phrase{})
	case p.Pairing.Policy.WallSchool == "toggles_for_light":
		mass := p.Pairing.Display.Mass.Or(0) + p.Job.Accessories
		light := p.Pairing.Display.Mass.Known && mass < lightest && p.Pairing.Bracket.Profile.Known && p.Pairing.Bracket.Profile.Value < flattest && points >= enoughToggles
		if light {
			p.say("studs", fit.Caution, quantity.Say("Toggles in board alone: light and flat enough for %v of them.", points), quantity.Say("A stud is better. Have the board judged."))
		} else {
			p.say("studs", fit.Fail, quantity.Say("Board alone takes only displays under %v on a flat bracket with four toggles or more.", lightest), quantity.Say("Find studs, or use a backing board."))
		}
	default:
		p.say("studs", fit.Fail, quantity.Say("Board alone does not hold a display: the bracket needs %v studs.", plate.Studs), quantity.Say("Find studs, or use a backing board."))
	}
}

// fasteners checks covering and length, and what the fasteners hold.
func (p *Placement) fasteners(drill wall.Drill) {
	b, w := p.Pairing.Bracket, &p.Job.Wall
	fixing, told := b.Walls[w.Type]
	covering := w.Covering.Or(0)
	if most := fixing.CoveringMax.Or(coveringMax); w.Type != "lined_masonry" && w.Covering.Known {
		c := fit.Check{Rule: "covering", Measure: fit.AtMost(covering, most), Text: quantity.Say("%v of covering; up to %v is allowed.", covering, most)}
		if covering > most {
			c.Status, c.Remedy = fit.Fail, quantity.Say("Take longer fasteners that the maker allows, or take the covering away under the plate.")
		}
		p.Checks = append(p.Checks, c)
	}
	if !told {
		p.say("fastener", fit.Unknown, quantity.Say("The bracket says nothing of this type of wall."), quantity.Say("Ask the maker before drilling."))
		return
	}
	if drill.Short() {
		p.say("depth", fit.Caution, quantity.Say("The maker's depth, %v, is less than the fastener needs, %v.", drill.Maker.Value, drill.Depth.Value), quantity.Say("Drill to the computed depth."))
	}
	if fixing.Fastener != "lag" || w.Type != "wood_stud" {
		return
	}
	for _, i := range b.Kit {
		if i.Kind != "lag" {
			continue
		}
		in := i.Length - b.WallPlate.Thickness.Or(0) - b.WallPlate.Washer - covering
		if need := fixing.PenetrationMin; need.Known {
			c := fit.Check{Rule: "fastener", Measure: fit.AtLeast(in, need.Value), Text: quantity.Say("The lag goes %v into the stud; %v is needed.", quantity.AtLeast(in), need.Value)}
			if in < need.Value {
				c.Status, c.Remedy = fit.Fail, quantity.Say("Take lags that are %v longer.", quantity.AtMost(need.Value-in))
			}
			p.Checks = append(p.Checks, c)
		}
		p.strength(i.Diameter, in-wall.LagTip(i.Diameter))
		return
	}
}

// strength compares what the plate pulls with what the lags hold in the wood:
// withdrawal under a permanent load, shear left aside.
func (p *Placement) strength(d, thread quantity.Length) {
	pair := p.Pairing
	g := wall.Gravity(p.Job.Wall.Species)
	out := pair.Bracket.Reach.Or(pair.Bracket.Profile.Or(0))
	if !pair.Display.Mass.Known || out == 0 || g == 0 {
		p.say("strength", fit.Unknown, quantity.Say("What the fasteners have to hold cannot be told: mass, reach or species is missing."), quantity.Phrase{})
		return
	}
	loads := []wall.Load{{Mass: pair.Display.Mass.Value + p.Job.Accessories, Out: out + pair.Nearest() + pair.Display.Depth.Or(0)/2}}
	if pair.Bracket.Mass.Known {
		loads = append(loads, wall.Load{Mass: pair.Bracket.Mass.Value, Out: out / 2})
	}
	edge := -pair.Bracket.WallPlate.Height.Or(0) / 2
	var heights []quantity.Length
	for _, pt := range p.Points {
		heights = append(heights, pt.Y-p.Datum-edge)
	}
	most := 0.0
	for _, pull := range wall.Pull(loads, heights) {
		most = max(most, pull)
	}
	holds := wall.LagHolds(g, d, thread)
	percent := quantity.FormatDecimal(int64(most/max(holds, 1e-9)*100+0.5), 0)
	text := quantity.Say("The uppermost lag is pulled with %v N of the %v N it may hold (%v %%), at full reach, in wood of G %v; shear is not in this.", int(most+0.5), int(holds), percent, quantity.FormatDecimal(int64(g*100+0.5), 2))
	switch {
	case most > holds:
		p.say("strength", fit.Fail, text, quantity.Say("More or larger fasteners, a shorter reach, or someone licensed to judge the wall."))
	case most > 0.9*holds:
		p.say("strength", fit.Caution, text, quantity.Say("Have the wall judged."))
	default:
		p.say("strength", fit.Pass, text, quantity.Phrase{})
	}
}

// clearances checks what is above and below, and the wall's ends.
func (p *Placement) clearances() {
	at := p.Job.Place
	lift := p.Pairing.Bracket.LiftOver.Or(0)
	wallLength := func(rule string, value, limit quantity.Length, least bool, good, bad, remedy quantity.Phrase) {
		c := fit.Check{Rule: rule, Measure: fit.AtMost(value, limit), Text: good}
		wrong := value > limit
		if least {
			c.Measure, wrong = fit.AtLeast(value, limit), value < limit
		}
		c.Measure.Coarse = true
		if wrong {
			c.Status, c.Text, c.Remedy = fit.Fail, bad, remedy
		}
		p.Checks = append(p.Checks, c)
	}
	if at.Surface.Known {
		need := at.Surface.Value + at.Accessory.Or(0) + p.tiltDrop
		wallLength("below", p.Bottom, need, true,
			quantity.Say("The bottom edge is at %v, clear of what is below it.", quantity.Wall(p.Bottom)),
			quantity.Say("The bottom edge is at %v; what is below it, with the drop of a tilt of %v, needs %v.", quantity.Wall(p.Bottom), quantity.Wall(p.tiltDrop), quantity.Wall(need)),
			quantity.Say("Hang it %v higher.", quantity.Shown{Length: need - p.Bottom, Bound: quantity.Up, Coarse: true}))
	}
	if at.Line.Known {
		need := at.Line.Value - lift
		wallLength("above", p.Top, need, false,
			quantity.Say("The top edge is at %v, with room to lift the display over its hook.", quantity.Wall(p.Top)),
			quantity.Say("The top edge is at %v; to lift it over its hook by %v it has to stay under %v.", quantity.Wall(p.Top), lift, quantity.Wall(need)),
			quantity.Say("Hang it %v lower.", quantity.Shown{Length: p.Top - need, Bound: quantity.Up, Coarse: true}))
	}
	if w := p.Job.Wall.Width; w.Known {
		width, _, _ := p.Pairing.Display.Outline(p.Pairing.Turn)
		left, right := p.DisplayX-width/2, w.Value-(p.DisplayX+width/2)
		room := min(left, right)
		wallLength("wall", room, 0, true, quantity.Say("The display stays %v inside the wall's ends.", quantity.Wall(room)),
			quantity.Say("The display stands out %v past the wall's end.", quantity.Wall(-room)), quantity.Say("Move it, or take a narrower one."))
	}
	if p.Bottom < 0 {
		p.say("floor", fit.Fail, quantity.Say("The bottom edge would be %v under the floor.", quantity.Wall(-p.Bottom)), quantity.Say("Hang it higher."))
	}
}

// reach checks public ways: headroom and how far it stands out (ADA Standards
// 2010, 307.2, memory; local codes decide).
func (p *Placement) reach() {
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
