package place

import (
	"fmt"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/wall"
)

// Limits of the schools that lean on board (practice).
const (
	lightest      = 12 * quantity.Kilogram // for toggles in board alone
	flattest      = 60 * quantity.Millimetre
	enoughToggles = 4
	leastAnchor   = 45 * quantity.Kilogram // rating of an anchor beside a stud, 100 lb
)

// needs is the number of studs that the bracket needs, in words.
func (p *Placement) needs(plate *wall.Plate) string {
	words := "1 stud"
	if plate.Studs > 1 {
		words = fmt.Sprintf("%d studs", plate.Studs)
	}
	if p.Pairing.Bracket.WallPlate.Count > 1 {
		words += " for each of its plates"
	}
	return words
}

// studs says how the plate sits on its studs, or what would help.
func (p *Placement) studs(plate *wall.Plate, kind catalog.WallType, datum quantity.Length, plates []wall.Fixed) {
	if plates != nil {
		shift := datum - p.DisplayX
		used := 0
		for _, f := range plates {
			used += len(f.Studs)
		}
		counted := fmt.Sprintf("%d studs", used)
		if used == 1 {
			counted = "1 stud"
		}
		text := quantity.Say("The plate takes %v with its middle under the display's.", counted)
		if shift != 0 {
			side := "right"
			if shift < 0 {
				side = "left"
			}
			text = quantity.Say("The plate takes %v, %v to the %v of the display's middle: the load hangs that far off centre.", counted, quantity.Wall(shift.Abs()), side)
		}
		p.say("studs", fit.Pass, text, quantity.Phrase{})
		return
	}
	if len(p.Studs) == 0 {
		p.say("studs", fit.Fail, quantity.Say("No studs are known on this wall, and the bracket needs %v.", p.needs(plate)), quantity.Say("Find the studs two independent ways, and mark them."))
		return
	}
	if good := p.Studs[0].Good(kind, plate.Diameter, plate.Find); good < 0 {
		p.say("studs", fit.Fail, quantity.Say("A stud of %v is too narrow for a fastener of %v.", p.Studs[0].Width, plate.Diameter), quantity.Say("Use a backing board, or another fastener."))
		return
	}
	// What would help: the least way the display would have to move, rounded up
	// to what can be measured.
	const far = 400 * quantity.Millimetre
	if p.Job.Run != nil && p.Job.Run.Count > 1 {
		p.say("studs", fit.Fail, quantity.Say("No place of the plate puts its holes on %v.", p.needs(plate)), quantity.Phrase{}) // the run moves as a whole
		return
	}
	if x, ok := nearest(p.Allowed(p.DisplayX-far, p.DisplayX+far, false), p.DisplayX); ok {
		side := "right"
		if x < p.DisplayX {
			side = "left"
		}
		p.MoveX = quantity.Some(x - p.DisplayX)
		by := quantity.Shown{Length: (x - p.DisplayX).Abs().Ceil(quantity.Millimetre / 2), Bound: quantity.Up, Coarse: true}
		p.say("studs", fit.Fail, quantity.Say("No place of the plate puts its holes on %v.", p.needs(plate)), quantity.Say("Move the display %v to the %v, or take another bracket or a backing board.", by, side))
		return
	}
	p.say("studs", fit.Fail, quantity.Say("No place of the plate puts its holes on %v.", p.needs(plate)), quantity.Say("Take another bracket, or a backing board."))
}

// hollow judges walls without studs, and the schools of those that lean on
// board alone.
func (p *Placement) hollow(plate *wall.Plate, kind catalog.WallType, plates []wall.Fixed) {
	points := 0
	for _, f := range plates {
		points += len(f.Points)
	}
	switch {
	case plates == nil:
		p.say("studs", fit.Fail, quantity.Say("The plate has too few holes for the fasteners it needs."), quantity.Phrase{})
	case kind != catalog.HollowBoard:
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
		p.say("studs", fit.Fail, quantity.Say("Board alone does not hold a display: the bracket needs %v.", p.needs(plate)), quantity.Say("Find studs, or use a backing board."))
	}
}

// studAndAnchors fixes a plate to one stud, and to anchors in the board on
// either side of it: for fixed and low brackets, where the kit has anchors that
// are rated for it (practice). Nil when it does not go, and says why.
func (p *Placement) studAndAnchors(plate *wall.Plate, kind catalog.WallType) ([]wall.Fixed, []wall.Point) {
	b := p.Pairing.Bracket
	why := func(text string, args ...any) ([]wall.Fixed, []wall.Point) {
		p.say("anchors", fit.Caution, quantity.Say("One stud and anchors will not do: "+text, args...), quantity.Phrase{})
		return nil, nil
	}
	anchor, has := wall.Anchor(b)
	switch {
	case b.Kind != "fixed" && b.Kind != "low_profile":
		return why("only for fixed and low brackets.")
	case b.WallPlate.Count > 1:
		return why("the bracket has two wall plates.")
	case !has || wall.RatedPull(anchor) < leastAnchor:
		return why("the kit has no anchors that are rated for %v each.", quantity.Capacity(leastAnchor))
	}
	one := *plate
	one.Studs = 1
	f, ok := one.Fix(kind, p.Studs)
	if !ok {
		return nil, nil
	}
	var out []wall.Point
	for _, row := range []string{"top", "bottom"} {
		left, right := outerHole(plate.Holes, row, -1), outerHole(plate.Holes, row, 1)
		for _, h := range []*catalog.PlateHole{left, right} {
			if h == nil || usedBy(&f, h.ID) || h == right && h == left {
				continue
			}
			x := f.Datum + h.X
			if stud := p.Studs[f.Studs[0]]; (x - stud.X).Abs() > stud.Width/2 {
				out = append(out, wall.Point{Hole: *h, X: x, Stud: -1})
			}
		}
	}
	left, right := false, false
	for _, pt := range out {
		left, right = left || pt.X < p.Studs[f.Studs[0]].X, right || pt.X > p.Studs[f.Studs[0]].X
	}
	if !left || !right || len(out) > anchor.Count {
		return why("the plate and the kit do not give an anchor on either side of the stud.")
	}
	p.say("studs", fit.Caution, quantity.Say("The plate takes one stud, and %v anchors beside it: the board carries a part.", len(out)), quantity.Say("More studs, or a backing board, are better. Have the board judged."))
	return []wall.Fixed{f}, out
}

func usedBy(f *wall.Fixed, id string) bool {
	for _, pt := range f.Points {
		if pt.Hole.ID == id {
			return true
		}
	}
	return false
}

// outerHole is the hole of a row that is farthest to a side; nil when the row
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

// anchorDrill is how an anchor beside a stud is drilled for: as the bracket
// says for board, else the anchor's own diameter.
func anchorDrill(b *catalog.Bracket) wall.Drill {
	d, _ := wall.Drilling(b, catalog.HollowBoard)
	d.Wall, d.Fastener = catalog.HollowBoard, "anchor"
	if a, ok := wall.Anchor(b); ok && !d.Diameter.Known && a.Diameter > 0 {
		d.Diameter = quantity.Some(a.Diameter)
	}
	return d
}
