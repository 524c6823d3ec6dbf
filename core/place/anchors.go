package place

import (
	"slices"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/studs"
)

// AnchorsRule: why one stud, and anchors beside it, will not do where the policy would take them.
const AnchorsRule fit.RuleID = "anchors"

var anchorsRule = rule{About: fit.About{ID: AnchorsRule, Name: "Anchors", Step: "prove"},
	Judge: func(p *Placement) []fit.Check { return p.ofAnchors }}

// studAndAnchors fixes a plate to one stud, and to anchors in the board on
// either side of it: for fixed and low brackets, whose table names an item for
// the stud and one for the board that is rated for it (practice). If it is not possible, it returns
// nil and the reason.
func (s *setting) studAndAnchors(plate *studs.Plate, fixing *Fixing) ([]studs.Fixed, []studs.Point, *fit.Check) {
	b := s.Pairing.Bracket
	why := func(text string, args ...any) ([]studs.Fixed, []studs.Point, *fit.Check) {
		c := stated(fit.Caution, quantity.Say("One stud and anchors will not do: "+text, args...), quantity.Phrase{})
		return nil, nil, &c
	}
	switch {
	case !b.Kind.Properties().Flat:
		return why("only for fixed and low brackets.")
	case b.WallPlate.Count > 1:
		return why("the bracket has two wall plates.")
	}
	anchor := fixing.Choice.Beside
	if anchor == nil || !anchor.MadeFor(catalog.HollowBoard) {
		return why("the bracket's table names no second fastener for the board.")
	}
	if rated, ok := anchor.RatingFor(catalog.HollowBoard, ""); !ok || anchorage.WorkingLoad(rated.Pull, anchor.RatingBasis) < minAnchor {
		return why("%v is not rated for %v each in board.", anchor.Label(), quantity.Capacity(minAnchor))
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
	c := stated(fit.Caution,
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
