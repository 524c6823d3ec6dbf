package place

import (
	"cmp"
	"fmt"
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/studs"
)

// StudsRule: the plate finds its studs, or takes holes where there are none to find.
const StudsRule fit.RuleID = "studs"

var studsRule = rule{About: fit.About{ID: StudsRule, Name: "Studs", Blocks: true, Step: "prove"},
	Judge: func(p *Placement) []fit.Check { return p.ofStuds }}

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
	if len(w.Holes) == 0 {
		return 0
	}
	byX := func(a, b catalog.PlateHole) int { return cmp.Compare(a.X, b.X) }
	return slices.MaxFunc(w.Holes, byX).X - slices.MinFunc(w.Holes, byX).X
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
			return stated(fit.Unknown, odd, quantity.Say("Find the studs two independent ways, and measure them again.")), move
		}
		if w := s.Pairing.Bracket.WallPlate; w.StudsRequired == 0 && acrossHoles(w) >= studsApart {
			return stated(fit.Caution, quantity.Say("%v How many the bracket asks for is not on record: one is counted.", text),
				quantity.Say("Ask the bracket's maker how many studs it needs.")), move
		}
		return stated(fit.Pass, text, quantity.Phrase{}), move
	}
	fail := func(text, remedy quantity.Phrase) fit.Check { return stated(fit.Fail, text, remedy) }
	if len(f.Studs) == 0 {
		return stated(fit.Unknown, quantity.Say("No studs are known on this wall, and the bracket needs %v.", s.needs(plate)),
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
	widestStud = 160 * quantity.Millimetre
	minSpacing = 150 * quantity.Millimetre
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
	if given != nil && given.Spacing.Known && given.Spacing.Value < minSpacing {
		return quantity.Say("Studs do not stand %v apart.", given.Spacing.Value)
	}
	return quantity.Phrase{}
}

// Limits of the schools that use the board alone (practice).
const (
	lightest      = 12 * quantity.Kilogram // for toggles in board alone
	flattest      = 60 * quantity.Millimetre
	enoughToggles = 4
	minAnchor     = 45 * quantity.Kilogram // rating of an anchor beside a stud, 100 lb
)

// withoutStuds judges walls without studs, and the schools that use
// the board alone.
func (s *setting) withoutStuds(plate *studs.Plate, kind catalog.WallType, plates []studs.Fixed) fit.Check {
	points := 0
	for _, f := range plates {
		points += len(f.Points)
	}
	say := func(status fit.Status, text, remedy quantity.Phrase) fit.Check {
		return stated(status, text, remedy)
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
