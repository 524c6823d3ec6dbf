// Package place computes the exact points of a pairing on a particular wall, in four
// stages that do not change each other's results: the height of the display, the place of its
// plate, demand and capacity of its fasteners, and the checks
// of all that.
//
// x runs right from the wall's left end, y up from the floor. The height rules
// and the limits are practice unless a source is named; local codes decide, and
// a doubtful wall is for someone licensed to judge it.
package place

import (
	"slices"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// tapeStep is the resolution of a tape measure.
const tapeStep = quantity.Millimetre / 2

// Point is a place to drill, with the numbers a tape measure needs.
type Point struct {
	Hole            string
	Plate           int // 1 or 2 of two wall plates; 0 for a single one
	X, Y            quantity.Length
	FromCentreLine  quantity.Length // of the display; left is negative
	BelowDisplayTop quantity.Length
	Drill           anchorage.Hole
	Stud            int  // of the wall's studs, from 0; -1 for none
	Beside          bool // in the board beside the studs

	// The demand of the weights, straight out, in newtons, and the largest
	// utilisation in any pose. Zero if the strength is
	// not known.
	Pull, Shear float64
	Utilisation float64
}

// Placement is one display on its wall.
type Placement struct {
	setting
	Height
	Fixing
	Strength Strength
	ToFront  quantity.Optional[quantity.Length] // wall to the display's front, closed
	Gap      quantity.Optional[quantity.Length] // wall to the rest plane
	Checks   []fit.Check

	// How far the display, or its whole run, would have to move for failed
	// checks to pass.
	MoveX, MoveY quantity.Optional[quantity.Length]

	assessment *anchorage.Assessment // of fasteners that are sound and whose figures are known; else nil
	unassessed []fit.Check           // why there is none
}

// Shift returns how far the datum is from the display's middle.
func (p *Placement) Shift() quantity.Length { return p.DatumX - p.DisplayX }

// WidestTemplate is how far apart the first and the last plate of a run may be for one drilling template: of A4, that is more than a
// hundred pages. A wider one is marked with the tape.
const WidestTemplate = 10 * quantity.Metre

// ByTape reports whether a run is too wide for a drilling template.
func ByTape(all []Placement) bool {
	return len(all) > 0 && all[len(all)-1].DatumX-all[0].DatumX > WidestTemplate
}

// TiltDrop returns how far the display's lowest edge sinks over the bracket's tilt; 0
// if that is not known.
func (p *Placement) TiltDrop() quantity.Length { return p.Tilt.Drop }

// Place places every display of a job.
func Place(p *fit.Pairing, job *catalog.Job) []Placement {
	out := placeAll(p, job)
	for i := range out {
		out[i].help()
	}
	return out
}

// placeAll is Place without searching for help.
func placeAll(p *fit.Pairing, job *catalog.Job) []Placement {
	count, gap := 1, quantity.Length(0)
	if job.Run != nil {
		count, gap = job.Run.Count, job.Run.Gap
	}
	width, _, _ := p.Display.Outline(p.Turn)
	middle := job.Place.X.Or(job.Wall.Width.Or(0) / 2)
	first := middle - (width+gap)*quantity.Length(count-1)/2
	out := make([]Placement, count)
	for i := range out {
		s := setting{Job: job, Pairing: p, DisplayX: first + (width+gap)*quantity.Length(i)}
		if job.Run != nil {
			s.RunIndex = i + 1
		}
		out[i] = s.place()
	}
	if count > 1 {
		moveRun(out)
		neighbours(out)
	}
	return out
}

// neighbours: the plates of a run do not overlap.
func neighbours(all []Placement) {
	wide := all[0].Pairing.Bracket.WallPlate
	if wide == nil || !wide.Width.Known {
		return // reported for each plate
	}
	for i := 1; i < len(all); i++ {
		for _, left := range all[i-1].Plates {
			for _, right := range all[i].Plates {
				if right-left >= wide.Width.Value {
					continue
				}
				c := stated(fit.Fail, quantity.Say("The wall plates of displays %v and %v, %v wide, would be %v apart: they are in each other.", i,
					i+1, wide.Width.Value,
					quantity.Wall(max(0, right-left))),
					quantity.Say("Leave a larger gap, or take a bracket with a smaller plate."), "plate")
				c.Rule = PlateRule
				for _, p := range []*Placement{&all[i-1], &all[i]} {
					p.Checks = slices.DeleteFunc(p.Checks, func(o fit.Check) bool { return o.Rule == PlateRule && o.Status != fit.Fail })
					p.Checks = append(p.Checks, c)
				}
			}
		}
	}
}

// place goes through the stages.
func (s setting) place() Placement {
	p := Placement{setting: s}
	pair := s.Pairing
	if pair.Hang == nil || pair.Bracket.WallPlate == nil {
		p.Checks = []fit.Check{unplaced(
			quantity.Say("The pairing does not hang, or the bracket has no wall plate: there is nothing to place."), quantity.Phrase{})}
		return p
	}
	if profile := pair.Bracket.Profile; profile.Known && pair.Stack != nil {
		p.Gap = quantity.Some(profile.Value + pair.Nearest())
		if front, ok := s.front(); ok {
			p.ToFront = quantity.Some(profile.Value + pair.Stack.Plane + front)
		}
	}
	p.Height = s.heights()
	if !p.Known {
		p.Checks = []fit.Check{unplaced(p.missing,
			quantity.Say("Give the figure, or take another rule. It takes the display's width and height, and from its top to the middle of "+
				"the pattern."))}
		return p
	}
	p.Fixing = s.fix(&p.Height)
	p.MoveX = p.moveX
	p.Strength = s.assess(&p.Height, &p.Fixing)
	for i := range p.Points {
		if a := p.Strength.Assessment; p.Strength.Known {
			p.Points[i].Pull, p.Points[i].Shear, p.Points[i].Utilisation = a.Straight[i].Pull, a.Straight[i].Shear(), a.Shares[i]
		}
	}
	p.assessment, p.unassessed = p.assessed()
	p.Checks, p.MoveY = p.judge(), p.moveY()
	return p
}

// judge computes the last stage: every check, in the order of Rules.
func (p *Placement) judge() (out []fit.Check) {
	for i := range Rules {
		for _, c := range Rules[i].Judge(p) {
			c.Rule = Rules[i].ID
			out = append(out, c)
		}
	}
	return append(out, p.rejudge()...)
}

// side returns the pairing's wall side with the plates at their places.
func (p *Placement) side() fit.WallSide {
	var plates []quantity.Length
	for _, x := range p.Plates {
		plates = append(plates, x-p.DisplayX)
	}
	return p.Pairing.OnWall(p.Shift(), plates)
}

// Motion returns how far the display moves there before it touches the wall.
func (p *Placement) Motion() fit.Motion {
	side := p.side()
	return p.Pairing.MotionOn(&side)
}

// rejudge judges the rules that the pairing was judged by with its plate in the middle again,
// with the plate at its place: it returns the checks that are worse.
func (p *Placement) rejudge() []fit.Check {
	if len(p.Plates) == 0 {
		return nil
	}
	var out []fit.Check
	if c, ok := p.balance(); ok {
		out = append(out, c)
	}
	for _, c := range p.Pairing.JudgeAtPlates(p.side()) {
		if c.Status > p.Pairing.Check(c.Rule).Status {
			c.Text = quantity.Say("With the plate where it is fixed: %v", c.Text)
			out = append(out, c)
		}
	}
	return out
}

// moveRun sets how far a whole run would have to move if one of its
// displays does not find its studs: displays of a run cannot move alone.
func moveRun(all []Placement) {
	const far = 400 * quantity.Millimetre
	way := fastener.Intervals{{Min: -far, Max: far}}
	failed := false
	for i := range all {
		p := &all[i]
		failed = failed || len(p.Points) == 0
	}
	if !failed || !all[0].Job.Wall.Type.HasStuds() || len(all[0].Studs) == 0 {
		return
	}
	for i := range all {
		p := &all[i]
		var allowed fastener.Intervals
		for _, a := range p.Allowed(p.DisplayX-far, p.DisplayX+far, false) {
			allowed = append(allowed, fastener.Interval{Min: a.Min - p.DisplayX, Max: a.Max - p.DisplayX})
		}
		way = fastener.Intersect(nil, way, allowed)
	}
	remedy := quantity.Say("No place of the run within %v suits all of its displays: change the gap, or take another bracket or a "+
		"backing board.", quantity.Wall(far))
	by, ok := way.Nearest(0)
	if ok {
		remedy = quantity.Say("Move the whole run %v to the %v: then all of its displays find their studs.", shown(by.Abs().Ceil(tapeStep)),
			quantity.Side(by))
	}
	for i := range all {
		all[i].MoveX = quantity.Optional[quantity.Length]{Value: by, Known: ok}
		for n := range all[i].Checks {
			if c := &all[i].Checks[n]; c.Rule == StudsRule && c.Status == fit.Fail {
				c.Remedy = remedy
			}
		}
	}
}

// balance judges a display whose weight hangs between two wall plates: as between its arms.
func (p *Placement) balance() (fit.Check, bool) {
	if len(p.Plates) != 2 {
		return fit.Check{}, false
	}
	d := p.Pairing.Display
	cg := p.Pairing.Turn.Of(catalog.Point{X: d.CGRight, Y: d.CGAboveCenter})
	middle := p.Plates[0] + (p.Plates[1]-p.Plates[0])/2
	c := fit.Check{Finding: fit.Balance(p.DisplayX+cg.X-middle, p.Plates[1]-p.Plates[0]), Marks: []string{"plate"}}
	aside := quantity.AtMost(c.Measure.Value)
	switch c.Status {
	case fit.Fail:
		c.Text = quantity.Say("The display's weight hangs %v beside the middle of its two wall plates, outside them: the other one lifts "+
			"off.", aside)
		c.Remedy = quantity.Say("Set the plates farther apart, or move the display over them.")
	case fit.Caution:
		c.Text = quantity.Say("The display's weight hangs %v beside the middle of its two wall plates: the other one carries less than a "+
			"tenth.", aside)
		c.Remedy = quantity.Say("Set the plates farther apart, or move the display over them.")
	default:
		c.Text = quantity.Say("The display's weight hangs %v beside the middle of its two wall plates, and both carry it.", aside)
	}
	return c, true
}
