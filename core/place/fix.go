package place

import (
	"cmp"
	"fmt"
	"slices"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/studs"
)

// Limits of the schools that use the board alone (practice).
const (
	lightest      = 12 * quantity.Kilogram // for toggles in board alone
	flattest      = 60 * quantity.Millimetre
	enoughToggles = 4
	leastAnchor   = 45 * quantity.Kilogram // rating of an anchor beside a stud, 100 lb
)

// Fixing is the second stage: the fasteners, their places on the wall, and their
// depth. Points are in the order they are marked: by plate, the top row from left to
// right, then the bottom row.
type Fixing struct {
	DatumX quantity.Length
	Points []Point
	Plates []quantity.Length // datum of each wall plate, from left to right
	Studs  []studs.Stud      // of the wall
	Choice anchorage.Choice
	Layers anchorage.Layers
	Hole   anchorage.Hole // for the points in studs

	checks []fit.Check
	moveX  quantity.Optional[quantity.Length]
}

// fix computes the second stage.
// It is long because it lists every case, in the order they are read.
func (s *setting) fix(h *Height) Fixing {
	b, kind := s.Pairing.Bracket, s.Job.Wall.Type
	x, _ := s.Pairing.Display.PatternCenter(s.Pairing.Pattern, s.Pairing.Turn)
	pattern := s.DisplayX + x.Value
	f := Fixing{Studs: studs.Studs(&s.Job.Wall, s.DisplayX), Choice: anchorage.Choose(b, &s.Job.Wall), Layers: anchorage.LayersOf(b,
		&s.Job.Wall)}
	f.Hole = anchorage.HoleFor(b, &f.Choice, &f.Layers)
	plate := s.plate(pattern, &f.Choice)
	f.DatumX = min(max(s.DisplayX, pattern-plate.Slide), pattern+plate.Slide)
	say := func(rule fit.Rule, status fit.Status, text, remedy quantity.Phrase) {
		f.checks = append(f.checks, stated(rule, status, text, remedy))
	}
	if kind == catalog.NoWall {
		say(StudsRule, fit.Unknown, quantity.Say("The job says nothing of its wall."),
			quantity.Say("Say what kind of wall it is, and where its studs are."))
		return f
	}
	datum, plates := s.fixPlates(&plate, kind, f.Studs)
	var beside []studs.Point
	if kind.HasStuds() && plates == nil && s.Pairing.Policy.WallSchool == "stud_and_anchors" {
		var c *fit.Check
		plates, beside, c = s.studAndAnchors(&plate, &f)
		if plates != nil {
			datum = plates[0].Datum
		}
		if c != nil {
			f.checks = append(f.checks, *c)
		}
	}
	switch {
	case beside != nil:
	case kind.HasStuds():
		c, move := s.onStuds(&plate, &f, h, datum, plates)
		f.checks, f.moveX = append(f.checks, c), move
	default:
		f.checks = append(f.checks, s.withoutStuds(&plate, kind, plates))
	}
	if plates == nil {
		return f
	}
	f.DatumX = datum
	for i, fixed := range plates {
		number := 0
		if len(plates) > 1 {
			number = i + 1
		}
		f.Plates = append(f.Plates, fixed.Datum)
		for _, pt := range fixed.Points {
			f.Points = append(f.Points, s.point(h, pt, number, f.Hole))
		}
	}
	for _, pt := range beside {
		one := s.point(h, pt, 0, s.besideHole(&f))
		one.Beside = true
		f.Points = append(f.Points, one)
	}
	slices.SortStableFunc(f.Points, func(a, b Point) int {
		return cmp.Or(cmp.Compare(a.Plate, b.Plate), cmp.Compare(b.Y, a.Y), cmp.Compare(a.X, b.X))
	})
	return f
}

func (s *setting) point(h *Height, pt studs.Point, plate int, drill anchorage.Hole) Point {
	y := h.Datum + pt.Hole.Y
	return Point{Hole: pt.Hole.ID, Plate: plate, X: pt.X, Y: y, FromCentreLine: pt.X - s.DisplayX, BelowDisplayTop: h.Top - y, Drill: drill,
		Stud: pt.Stud}
}

// besideHole returns the hole for a fastener in the board beside the studs.
func (s *setting) besideHole(f *Fixing) anchorage.Hole {
	c := anchorage.Choice{Wall: catalog.HollowBoard, Item: *f.Choice.Beside}
	return anchorage.HoleFor(s.Pairing.Bracket, &c, &f.Layers)
}

// plate returns the bracket's wall plate for this display.
func (s *setting) plate(pattern quantity.Length, c *anchorage.Choice) studs.Plate {
	w := s.Pairing.Bracket.WallPlate
	diameter := 8 * quantity.Millimetre // the usual lag
	if c.Known() && c.Item.Diameter > 0 {
		diameter = c.Item.Diameter
	}
	plate := studs.Plate{
		Holes: w.Holes, Studs: max(1, w.StudsRequired), TopPerStud: w.TopPerStud, BotPerStud: w.BottomPerStud,
		Diameter: diameter, Find: s.Pairing.Policy.StudFind, Pattern: pattern, Slide: s.Pairing.Hang.Slide, Wanted: s.DisplayX,
	}
	if plate.TopPerStud+plate.BotPerStud == 0 {
		plate.TopPerStud, plate.BotPerStud = 1, 1
	}
	return plate
}

// fixPlates fixes the plate, or the two plates, to the wall: it returns their middle, and each
// one's place, nil if there is none.
func (s *setting) fixPlates(plate *studs.Plate, kind catalog.WallType, all []studs.Stud) (datum quantity.Length, plates []studs.Fixed) {
	if s.Pairing.Bracket.WallPlate.Count < 2 {
		f, ok := plate.Anywhere()
		if kind.HasStuds() {
			f, ok = plate.Fix(kind, all)
		}
		if !ok {
			return 0, nil
		}
		return f.Datum, []studs.Fixed{f}
	}
	pair := s.platePair(plate)
	if kind.HasStuds() {
		if f, ok := pair.Fix(kind, all); ok {
			return f.Middle, f.Plates[:]
		}
		return 0, nil
	}
	middle := min(max(plate.Wanted, plate.Pattern-plate.Slide), plate.Pattern+plate.Slide)
	for _, x := range s.Pairing.Bracket.PlatesAbout(middle, s.Pairing.Hang.Width) {
		one := pair.Plate
		one.Pattern, one.Wanted, one.Slide = x, x, 0
		f, ok := one.Anywhere()
		if !ok {
			return 0, nil
		}
		plates = append(plates, f)
	}
	return middle, plates
}

// platePair returns the bracket's two wall plates.
func (s *setting) platePair(plate *studs.Plate) *studs.Pair {
	pair := studs.Pair{Plate: *plate, Width: s.Pairing.Hang.Width}
	pair.Separation = fastener.Interval{Min: pair.Width, Max: pair.Width}
	if apart := s.Pairing.Bracket.WallPlate.SeparationRange; apart != nil {
		pair.Separation = *apart
	}
	return &pair
}

// Allowed returns the places of the display's middle, between two and from left to right, at which
// the plate finds its studs: with the datum under the middle
// if straight is set, else within the slide. It is for
// walls with studs.
func (p *Placement) Allowed(lo, hi quantity.Length, straight bool) fastener.Intervals {
	if !p.Known {
		return nil
	}
	return p.setting.allowed(&p.Fixing, lo, hi, straight)
}

func (s *setting) allowed(f *Fixing, lo, hi quantity.Length, straight bool) fastener.Intervals {
	kind := s.Job.Wall.Type
	if !kind.HasStuds() || s.Pairing.Hang.Slide < 0 {
		return nil
	}
	center, _ := s.Pairing.Display.PatternCenter(s.Pairing.Pattern, s.Pairing.Turn)
	x := center.Value
	plate := s.plate(s.DisplayX+x, &f.Choice)
	// The datum is within the slide of the pattern's middle, which is x from the
	// display's.
	slide := plate.Slide
	from, to := x-slide, x+slide
	if straight {
		if from > 0 || to < 0 {
			return nil // the datum cannot be under the display's middle
		}
		from, to = 0, 0
	}
	var data fastener.Intervals
	if s.Pairing.Bracket.WallPlate.Count < 2 {
		data = plate.Places(kind, f.Studs, lo+from, hi+to)
	} else {
		data = s.platePair(&plate).Places(kind, f.Studs, lo+from, hi+to)
	}
	var out fastener.Intervals
	for _, d := range data {
		if one, some := (fastener.Interval{Min: d.Min - to, Max: d.Max - from}).And(fastener.Interval{Min: lo, Max: hi}); some {
			out = append(out, one)
		}
	}
	return fastener.Union(nil, out)
}

// needs describes the number of studs that the bracket needs.
func (s *setting) needs(plate *studs.Plate) string {
	words := "1 stud"
	if plate.Studs > 1 {
		words = fmt.Sprintf("%d studs", plate.Studs)
	}
	if s.Pairing.Bracket.WallPlate.Count > 1 {
		words += " for each of its plates"
	}
	return words
}

// studsApart is how far apart studs are at the least (practice): a plate whose holes are nearer is made for one.
const studsApart = 300 * quantity.Millimetre

// acrossHoles returns how far apart the outermost holes of a plate are.
func acrossHoles(w *catalog.WallPlate) quantity.Length {
	var left, right quantity.Length
	for i := range w.Holes {
		left, right = min(left, w.Holes[i].X), max(right, w.Holes[i].X)
	}
	return right - left
}

// onStuds describes the plate's place on its studs, or what would help.
func (s *setting) onStuds(plate *studs.Plate, f *Fixing, h *Height, datum quantity.Length, plates []studs.Fixed) (c fit.Check,
	move quantity.Optional[quantity.Length]) {
	if plates != nil {
		shift := datum - s.DisplayX
		used := 0
		for _, x := range plates {
			used += len(x.Studs)
		}
		counted := fmt.Sprintf("%d studs", used)
		if used == 1 {
			counted = "1 stud"
		}
		text := quantity.Say("The plate takes %v with its middle under the display's.", counted)
		if shift != 0 {
			text = quantity.Say("The plate takes %v, %v to the %v of the display's middle: the load hangs that far off centre.", counted,
				quantity.Wall(shift.Abs()), quantity.Side(shift))
		}
		if odd := contradictoryStuds(s.Job.Wall.Studs, f.Studs); !odd.Empty() {
			return stated(StudsRule, fit.Unknown, odd, quantity.Say("Find the studs two independent ways, and measure them again.")), move
		}
		if w := s.Pairing.Bracket.WallPlate; w.StudsRequired == 0 && acrossHoles(w) >= studsApart {
			return stated(StudsRule, fit.Caution, quantity.Say("%v How many the bracket asks for is not on record: one is counted.", text),
				quantity.Say("Ask the bracket's maker how many studs it needs.")), move
		}
		return stated(StudsRule, fit.Pass, text, quantity.Phrase{}), move
	}
	fail := func(text, remedy quantity.Phrase) fit.Check { return stated(StudsRule, fit.Fail, text, remedy) }
	if len(f.Studs) == 0 {
		return stated(StudsRule, fit.Unknown, quantity.Say("No studs are known on this wall, and the bracket needs %v.", s.needs(plate)),
			quantity.Say("Find the studs two independent ways, and mark them.")), move
	}
	if good := f.Studs[0].UsableHalfWidth(s.Job.Wall.Type, plate.Diameter, plate.Find); good < 0 {
		return fail(quantity.Say("A stud of %v is too narrow for a fastener of %v.", f.Studs[0].Width, plate.Diameter),
			quantity.Say("Use a backing board, or another fastener.")), move
	}
	none := quantity.Say("No place of the plate puts its holes on %v.", s.needs(plate))
	if s.Job.Run != nil && s.Job.Run.Count > 1 {
		return fail(none, quantity.Phrase{}), move // the run moves as a whole
	}
	// What would help: the shortest move of the display, rounded up
	// to what can be measured.
	const far = 400 * quantity.Millimetre
	if x, ok := s.allowed(f, s.DisplayX-far, s.DisplayX+far, false).Nearest(s.DisplayX); ok {
		by := x - s.DisplayX
		return fail(none, quantity.Say("Move the display %v to the %v, or take another bracket or a backing board.",
			shown(by.Abs().Ceil(tapeStep)), quantity.Side(by))), quantity.Some(by)
	}
	return fail(none, quantity.Say("Take another bracket, or a backing board.")), move
}

// Studs wider than four of 38 mm side by side, or nearer to each other than any
// frame has them, cannot be right (practice).
const (
	widestStud   = 160 * quantity.Millimetre
	leastSpacing = 150 * quantity.Millimetre
)

// contradictoryStuds describes what cannot be right about studs; empty if nothing is.
func contradictoryStuds(given *catalog.Studs, all []studs.Stud) quantity.Phrase {
	for i := range all {
		if all[i].Width > widestStud {
			return quantity.Say("A stud is not %v wide.", all[i].Width)
		}
	}
	for i := 1; i < len(all); i++ {
		if apart := all[i].X - all[i-1].X; apart < all[i].Width {
			return quantity.Say("Two studs are marked %v apart, and each is %v wide: one of them is marked twice.", apart, all[i].Width)
		}
	}
	if given != nil && given.Spacing.Known && given.Spacing.Value < leastSpacing {
		return quantity.Say("Studs do not stand %v apart.", given.Spacing.Value)
	}
	return quantity.Phrase{}
}

// withoutStuds judges walls without studs, and the schools that use
// the board alone.
func (s *setting) withoutStuds(plate *studs.Plate, kind catalog.WallType, plates []studs.Fixed) fit.Check {
	points := 0
	for _, f := range plates {
		points += len(f.Points)
	}
	say := func(status fit.Status, text, remedy quantity.Phrase) fit.Check {
		return stated(StudsRule, status, text, remedy)
	}
	b := s.Pairing.Bracket
	switch {
	case plates == nil:
		return say(fit.Fail, quantity.Say("The plate has too few holes for the fasteners it needs."), quantity.Phrase{})
	case kind != catalog.HollowBoard:
		return say(fit.Pass, quantity.Say("The wall takes fasteners where the holes are: the outermost of each row."), quantity.Phrase{})
	case s.Pairing.Policy.WallSchool != "toggles_for_light":
		return say(fit.Fail, quantity.Say("Board alone does not hold a display: the bracket needs %v.", s.needs(plate)),
			quantity.Say("Find studs, or use a backing board."))
	}
	mass := s.Pairing.Display.Mass.Or(0) + s.Job.Accessories
	flat := b.Profile.Known && b.Profile.Value < flattest && !b.Swings() && (!b.Reach.Known || b.Reach.Value < flattest)
	if s.Pairing.Display.Mass.Known && mass < lightest && flat && points >= enoughToggles {
		return say(fit.Caution, quantity.Say("Toggles in board alone: light and flat enough for %v of them.", points),
			quantity.Say("A stud is better. Have the board judged."))
	}
	return say(fit.Fail, quantity.Say("Board alone takes only displays under %v on a flat bracket with four toggles or more.", lightest),
		quantity.Say("Find studs, or use a backing board."))
}

// studAndAnchors fixes a plate to one stud, and to anchors in the board on
// either side of it: for fixed and low brackets, whose table names an item for
// the stud and one for the board that is rated for it (practice). If it is not possible, it returns
// nil and the reason.
func (s *setting) studAndAnchors(plate *studs.Plate, fixing *Fixing) ([]studs.Fixed, []studs.Point, *fit.Check) {
	b := s.Pairing.Bracket
	why := func(text string, args ...any) ([]studs.Fixed, []studs.Point, *fit.Check) {
		c := stated(AnchorsRule, fit.Caution, quantity.Say("One stud and anchors will not do: "+text, args...), quantity.Phrase{})
		return nil, nil, &c
	}
	switch {
	case b.Kind != "fixed" && b.Kind != "low_profile":
		return why("only for fixed and low brackets.")
	case b.WallPlate.Count > 1:
		return why("the bracket has two wall plates.")
	}
	anchor := fixing.Choice.Beside
	if anchor == nil || !anchor.MadeFor(catalog.HollowBoard) {
		return why("the bracket's table names no second fastener for the board.")
	}
	if rated, ok := anchor.RatingFor(catalog.HollowBoard, ""); !ok || anchorage.WorkingLoad(rated.Pull, anchor.RatingBasis) < leastAnchor {
		return why("%v is not rated for %v each in board.", anchor.Label(), quantity.Capacity(leastAnchor))
	}
	one := *plate
	one.Studs = 1
	f, ok := one.Fix(s.Job.Wall.Type, fixing.Studs)
	if !ok {
		return nil, nil, nil
	}
	stud := fixing.Studs[f.Studs[0]]
	var out []studs.Point
	left, right := false, false
	for _, row := range []string{"top", "bottom"} {
		outer := []*catalog.PlateHole{outerHole(plate.Holes, row, -1), outerHole(plate.Holes, row, 1)}
		for i, h := range outer {
			if h == nil || i == 1 && h == outer[0] || usedBy(&f, h.ID) {
				continue
			}
			if x := f.Datum + h.X; 2*(x-stud.X).Abs() > stud.Width+anchor.Diameter {
				out = append(out, studs.Point{Hole: *h, X: x, Stud: -1})
				left, right = left || x < stud.X, right || x > stud.X
			}
		}
	}
	if !left || !right || len(out) > anchor.Count {
		return why("the plate and the kit do not give an anchor on either side of the stud.")
	}
	c := stated(StudsRule, fit.Caution,
		quantity.Say("The plate takes one stud, and %v anchors beside it: the board carries a part.", len(out)),
		quantity.Say("More studs, or a backing board, are better. Have the board judged."))
	return []studs.Fixed{f}, out, &c
}

func usedBy(f *studs.Fixed, id string) bool {
	return slices.ContainsFunc(f.Points, func(pt studs.Point) bool { return pt.Hole.ID == id })
}

// outerHole returns the hole of a row that is farthest to a side; nil if the row
// has none.
func outerHole(holes []catalog.PlateHole, row string, side quantity.Length) *catalog.PlateHole {
	var out *catalog.PlateHole
	for i := range holes {
		if h := &holes[i]; h.Row == row && (out == nil || h.X*side > out.X*side) {
			out = h
		}
	}
	return out
}
