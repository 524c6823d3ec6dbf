// Package place takes a pairing to exact points on a particular wall: at what
// height, how far to the side, which holes, how deep.
//
// x runs right from the wall's left end, y up from the floor. The height rules
// and the limits are practice unless a source is named; local codes decide, and
// a doubtful wall is for someone licensed to judge it.
package place

import (
	"cmp"
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/wall"
)

// tapeStep is what a tape measure can be read to.
const tapeStep = quantity.Millimetre / 2

// Point is a place to drill, with the numbers a tape measure needs.
type Point struct {
	Hole            string
	Plate           int // 1 or 2 of two wall plates; 0 for a single one
	X, Y            quantity.Length
	FromCentreLine  quantity.Length // of the display; left is negative
	BelowDisplayTop quantity.Length
	Drill           wall.Drill
	Stud            int  // of the wall's studs, from 0; -1 for none
	Anchor          bool // by an anchor where the others are in a stud

	// What it is asked for, and may be, in newtons; Use is the share of its
	// strength. Zero where the strength is not known.
	Pull, Across float64
	Use          float64
}

// Placement is one display on its wall. Heights are known when the display's
// edges are.
type Placement struct {
	Job      *catalog.Job
	RunIndex int // from 1 in a run; 0 for a single display
	Pairing  *fit.Pairing
	Known    bool // heights and places could be told
	Centre   quantity.Length
	Top      quantity.Length
	Bottom   quantity.Length
	Datum    quantity.Length
	DisplayX quantity.Length
	DatumX   quantity.Length
	Points   []Point
	Plates   []quantity.Length // datum of each wall plate, from left to right
	Studs    []wall.Stud       // of the wall
	Schools  []School
	Viewing  Viewing
	Strength Strength
	ToFront  quantity.Optional[quantity.Length] // wall to the display's front, closed
	Gap      quantity.Optional[quantity.Length] // wall to the rest plane
	Checks   []fit.Check

	// What would put right what fails: the way the display, or its whole run,
	// would have to move.
	MoveX, MoveY quantity.Optional[quantity.Length]

	tiltDrop quantity.Length
}

// Shift is how far the datum is from the display's middle.
func (p *Placement) Shift() quantity.Length { return p.DatumX - p.DisplayX }

// Place places every display of a job.
func Place(p *fit.Pairing, job *catalog.Job) []Placement {
	count, gap := 1, quantity.Length(0)
	if job.Run != nil {
		count, gap = job.Run.Count, job.Run.Gap
	}
	width, _, _ := p.Display.Outline(p.Turn)
	middle := job.Place.X.Or(job.Wall.Width.Or(0) / 2)
	first := middle - (width+gap)*quantity.Length(count-1)/2
	var out []Placement
	for i := range count {
		one := Placement{Job: job, Pairing: p, DisplayX: first + (width+gap)*quantity.Length(i)}
		if job.Run != nil {
			one.RunIndex = i + 1
		}
		one.place()
		out = append(out, one)
	}
	if count > 1 {
		moveRun(out)
	}
	return out
}

// moveRun says how far a whole run would have to move where one of its
// displays does not find its studs: its displays cannot move alone.
func moveRun(all []Placement) {
	const far = 400 * quantity.Millimetre
	way := []fastener.Interval{{Min: -far, Max: far}}
	failed := false
	for i := range all {
		p := &all[i]
		failed = failed || len(p.Points) == 0
	}
	if !failed || !wall.HasStuds(all[0].Job.Wall.Type) || len(all[0].Studs) == 0 {
		return
	}
	for i := range all {
		p := &all[i]
		var both []fastener.Interval
		for _, a := range p.Allowed(p.DisplayX-far, p.DisplayX+far, false) {
			for _, w := range way {
				if one := (fastener.Interval{Min: max(w.Min, a.Min-p.DisplayX), Max: min(w.Max, a.Max-p.DisplayX)}); one.Min <= one.Max {
					both = append(both, one)
				}
			}
		}
		way = both
	}
	remedy := quantity.Say("No place of the run within %v suits all of its displays: change the gap, or take another bracket or a backing board.", quantity.Wall(far))
	by, ok := nearest(way, 0)
	if ok {
		side := "right"
		if by < 0 {
			side = "left"
		}
		remedy = quantity.Say("Move the whole run %v to the %v: then all of its displays find their studs.", shown(by.Abs().Ceil(quantity.Millimetre/2)), side)
	}
	for i := range all {
		all[i].MoveX = quantity.Optional[quantity.Length]{Value: by, Known: ok}
		for n := range all[i].Checks {
			if c := &all[i].Checks[n]; c.Rule == "studs" && c.Status == fit.Fail {
				c.Remedy = remedy
			}
		}
	}
}

func (p *Placement) place() {
	pair := p.Pairing
	if pair.Hang == nil || pair.Bracket.WallPlate == nil {
		p.say("place", fit.Unknown, quantity.Say("The pairing does not hang, or the bracket has no wall plate: there is nothing to place."), quantity.Phrase{})
		return
	}
	z := pair.Nearest()
	if profile := pair.Bracket.Profile; profile.Known && pair.Stack != nil {
		p.Gap = quantity.Some(profile.Value + z)
		if rest := pair.Display.RestPlaneFromFront; rest.Known || pair.Display.Depth.Known {
			p.ToFront = quantity.Some(p.Gap.Value + rest.Or(pair.Display.Depth.Value))
		}
	}
	_, height, outlined := pair.Display.Outline(pair.Turn)
	x, _ := pair.Display.PatternCenter(pair.Pattern, pair.Turn)
	if !outlined || !x.Known || !pair.Hang.DisplayTopAboveDatum.Known {
		p.say("place", fit.Unknown, quantity.Say("Where the display's edges are from its holes is not known."), quantity.Say("Measure the display's width and height, and from its top to the middle of the pattern."))
		return
	}
	p.tiltDrop = p.dropOfTilt()
	centre, known, why := p.heightBy(p.Job.Place.Rule, height)
	if !known {
		p.say("place", fit.Unknown, quantity.Say("The height rule lacks a figure. %v", why), quantity.Say("Give the figure, or take another rule."))
		return
	}
	p.Known = true
	p.Centre = centre
	at, _ := pair.Hang.CenteredAt(p.Centre, height)
	p.Top, p.Bottom, p.Datum = at.Top, at.Bottom, at.Datum
	p.Schools, p.Viewing = p.schools(height), p.viewing()
	p.Studs = wall.Studs(&p.Job.Wall, p.DisplayX)
	p.fix(p.DisplayX + x.Value)
	p.strength()
	p.clearances()
	p.services()
	p.reach()
}

// plate is the bracket's wall plate as this display needs it.
func (p *Placement) plate(pattern quantity.Length) wall.Plate {
	b := p.Pairing.Bracket
	w := b.WallPlate
	diameter := 8 * quantity.Millimetre // the usual lag
	if f, ok := wall.Fastener(b, p.Job.Wall.Type); ok && f.Diameter > 0 {
		diameter = f.Diameter
	}
	plate := wall.Plate{
		Holes: w.Holes, Studs: max(1, w.StudsRequired), TopPerStud: w.TopPerStud, BotPerStud: w.BottomPerStud,
		Diameter: diameter, Find: p.Pairing.Policy.StudFind, Pattern: pattern, Slide: p.Pairing.Hang.Slide, Wanted: p.DisplayX,
	}
	if plate.TopPerStud+plate.BotPerStud == 0 {
		plate.TopPerStud, plate.BotPerStud = 1, 1
	}
	return plate
}

// fix finds the plate's place and the points.
func (p *Placement) fix(pattern quantity.Length) {
	b, kind := p.Pairing.Bracket, p.Job.Wall.Type
	plate := p.plate(pattern)
	p.DatumX = min(max(p.DisplayX, pattern-plate.Slide), pattern+plate.Slide)
	if kind == "" {
		p.say("studs", fit.Unknown, quantity.Say("The job says nothing of its wall."), quantity.Say("Say what kind of wall it is, and where its studs are."))
		return
	}
	datum, plates := p.on(&plate, kind)
	var anchored []wall.Point
	switch {
	case wall.HasStuds(kind) && plates == nil && p.Pairing.Policy.WallSchool == "stud_and_anchors":
		if plates, anchored = p.studAndAnchors(&plate, kind); plates != nil {
			datum = plates[0].Datum
			break
		}
		fallthrough
	case wall.HasStuds(kind):
		p.studs(&plate, kind, datum, plates)
	default:
		p.hollow(&plate, kind, plates)
	}
	drill, told := wall.Drilling(b, kind)
	if plates != nil {
		p.DatumX = datum
		for i, fixed := range plates {
			number := 0
			if len(plates) > 1 {
				number = i + 1
			}
			p.Plates = append(p.Plates, fixed.Datum)
			for _, pt := range fixed.Points {
				p.Points = append(p.Points, p.point(pt, number, drill))
			}
		}
		for _, pt := range anchored {
			one := p.point(pt, 0, anchorDrill(b))
			one.Anchor = true
			p.Points = append(p.Points, one)
		}
	}
	// In the order they are marked: the top row from left to right, then the
	// bottom row.
	slices.SortStableFunc(p.Points, func(a, b Point) int {
		return cmp.Or(cmp.Compare(a.Plate, b.Plate), cmp.Compare(b.Y, a.Y), cmp.Compare(a.X, b.X))
	})
	p.fixing(drill, told)
}

func (p *Placement) point(pt wall.Point, plate int, drill wall.Drill) Point {
	y := p.Datum + pt.Hole.Y
	return Point{Hole: pt.Hole.ID, Plate: plate, X: pt.X, Y: y, FromCentreLine: pt.X - p.DisplayX, BelowDisplayTop: p.Top - y, Drill: drill, Stud: pt.Stud}
}

// on fixes the plate, or the two plates, to the wall: their middle, and each
// one's place, nil when there is none.
func (p *Placement) on(plate *wall.Plate, kind catalog.WallType) (datum quantity.Length, plates []wall.Fixed) {
	if p.Pairing.Bracket.WallPlate.Count < 2 {
		f, ok := plate.Anywhere()
		if wall.HasStuds(kind) {
			f, ok = plate.Fix(kind, p.Studs)
		}
		if !ok {
			return 0, nil
		}
		return f.Datum, []wall.Fixed{f}
	}
	pair := p.pair(plate)
	if wall.HasStuds(kind) {
		if f, ok := pair.Fix(kind, p.Studs); ok {
			return f.Middle, f.Plates[:]
		}
		return 0, nil
	}
	apart := min(max(pair.Width, pair.Separation.Min), pair.Separation.Max) / 2
	left, right := pair.Plate, pair.Plate
	middle := min(max(plate.Wanted, plate.Pattern-plate.Slide), plate.Pattern+plate.Slide)
	left.Pattern, left.Wanted, left.Slide = middle-apart, middle-apart, 0
	right.Pattern, right.Wanted, right.Slide = middle+apart, middle+apart, 0
	a, ok1 := left.Anywhere()
	b, ok2 := right.Anywhere()
	if !ok1 || !ok2 {
		return 0, nil
	}
	return middle, []wall.Fixed{a, b}
}

// pair is the bracket's two wall plates.
func (p *Placement) pair(plate *wall.Plate) *wall.Pair {
	pair := wall.Pair{Plate: *plate, Width: p.Pairing.Hang.Width}
	pair.Separation = fastener.Interval{Min: pair.Width, Max: pair.Width}
	if s := p.Pairing.Bracket.WallPlate.Separation; s != nil {
		pair.Separation = *s
	}
	return &pair
}

// Allowed are the places, from left to right between two, that the display's
// middle can have so that the plate finds its studs: with the datum under it
// where straight is set, else as far from it as the slide allows. It is for
// walls with studs.
func (p *Placement) Allowed(lo, hi quantity.Length, straight bool) []fastener.Interval {
	x, _ := p.Pairing.Display.PatternCenter(p.Pairing.Pattern, p.Pairing.Turn)
	if !p.Known || !wall.HasStuds(p.Job.Wall.Type) || p.Pairing.Hang.Slide < 0 {
		return nil
	}
	plate := p.plate(p.DisplayX + x.Value)
	slide := plate.Slide
	var data []fastener.Interval
	if p.Pairing.Bracket.WallPlate.Count < 2 {
		data = plate.Places(p.Job.Wall.Type, p.Studs, lo-slide, hi+slide+x.Value.Abs())
	} else {
		data = p.pair(&plate).Places(p.Job.Wall.Type, p.Studs, lo-slide, hi+slide+x.Value.Abs())
	}
	if straight {
		return data
	}
	var out []fastener.Interval
	for _, d := range data {
		one := fastener.Interval{Min: max(lo, d.Min-x.Value-slide), Max: min(hi, d.Max-x.Value+slide)}
		switch {
		case one.Min > one.Max:
		case len(out) > 0 && one.Min <= out[len(out)-1].Max:
			out[len(out)-1].Max = max(out[len(out)-1].Max, one.Max)
		default:
			out = append(out, one)
		}
	}
	return out
}

// nearest is the place of some intervals that is nearest to another; false
// when there are none. Ties go to the right.
func nearest(all []fastener.Interval, to quantity.Length) (at quantity.Length, ok bool) {
	for _, i := range all {
		x := min(max(to, i.Min), i.Max)
		if !ok || (x-to).Abs() < (at-to).Abs() || (x-to).Abs() == (at-to).Abs() && x > at {
			at, ok = x, true
		}
	}
	return at, ok
}

func (p *Placement) say(rule fit.Rule, status fit.Status, text, remedy quantity.Phrase) {
	p.Checks = append(p.Checks, fit.Check{Rule: rule, Status: status, Text: text, Remedy: remedy})
}
