package place

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// PlateRule: every point and the whole wall plate are on the wall, and the plate is behind the display.
const PlateRule fit.RuleID = "plate"

var plateRule = rule{About: fit.About{ID: PlateRule, Name: "Wall plate", Blocks: true, Step: "mark"},
	Judge: (*Placement).plateChecks}

// hookBeyond is how far hooks stand out over the edge of a wall plate at the most (practice).
const hookBeyond = 50 * quantity.Millimetre

// plateChecks: every point and the whole wall plate are on the wall, inside a
// niche; and whether it is visible beside the display.
func (p *Placement) plateChecks() []fit.Check {
	w := p.Pairing.Bracket.WallPlate
	if len(p.Plates) == 0 {
		return nil
	}
	off := p.offPlate(w)
	out, edge := p.plateOut(w)
	where := "the wall"
	if p.Job.Wall.Niche != nil {
		where = "the niche"
	}
	apart, two := quantity.Length(0), len(p.Plates) == 2
	rail, onRecord := p.rail()
	arms := p.Pairing.Bracket.Interface.Type == catalog.Arms
	if two {
		apart = (p.Plates[1] - p.Plates[0]).Abs()
	}
	switch {
	case two && w.Width.Known && apart < w.Width.Value:
		return []fit.Check{stated(fit.Fail, quantity.Say("The two wall plates, %v wide, would be %v apart: they are in each other.",
			w.Width.Value, quantity.Wall(apart)), quantity.Say("Check their width and how far apart the bracket lets them be."), "plate")}
	case two && onRecord && w.Width.Known && apart-w.Width.Value > rail:
		return []fit.Check{stated(fit.Fail,
			quantity.Say("The two wall plates would be %v apart: the bracket's rail, %v, does not reach both.", quantity.Wall(apart),
				rail), quantity.Say("Check how far apart the bracket lets them be."), "plate")}
	case out > 0:
		return []fit.Check{stated(fit.Fail,
			quantity.Say("The wall plate or one of its holes is %v past the end of %v, %v.", shown(out),
				where, edge), quantity.Say("Move the display, or take a bracket with a smaller plate."), "plate")}
	case off != "":
		return []fit.Check{stated(fit.Unknown,
			quantity.Say("Hole %v reaches outside the wall plate: where it is and how large the plate is cannot both be right.",
				off), quantity.Say("Measure the wall plate and its holes."), "plate")}
	case w.Height.Known && w.HookAboveDatum.Abs() > w.Height.Value.HalfUp()+hookBeyond:
		return []fit.Check{stated(fit.Unknown,
			quantity.Say("The hooks would be %v from the middle of a wall plate %v high: both cannot be right.", w.HookAboveDatum.Abs(),
				w.Height.Value),
			quantity.Say("Measure the wall plate, and where its hooks are."), "plate")}
	case !w.Width.Known || !w.Height.Known:
		return []fit.Check{stated(fit.Unknown,
			quantity.Say("The wall plate's size is not known, nor whether all of it is on the wall."),
			quantity.Say("Measure the wall plate."), "plate")}
	case !onRecord && arms && (two && apart-w.Width.Value > rail || p.alongRail() > rail):
		return []fit.Check{stated(fit.Unknown,
			quantity.Say("The length of the bracket's rail is not known, nor whether it reaches so far aside: %v is all that is sure.",
				quantity.Coarse(rail, quantity.Down)),
			quantity.Say("Measure the rail that the arms hang on."), "plate")}
	case p.shows() != nil:
		return p.shows()
	}
	return []fit.Check{stated(fit.Pass, quantity.Say("The wall plate lies on the wall and behind the display."), quantity.Phrase{},
		"plate")}
}

// rail returns how long the rail is that arms hang on, and whether that is on record; else what is sure: the widest pattern that its
// maker lets on it is on it.
func (p *Placement) rail() (long quantity.Length, onRecord bool) {
	i := &p.Pairing.Bracket.Interface
	if i.RailWidth.Known {
		return i.RailWidth.Value, true
	}
	return i.WidthMax.Value + i.ArmWidth, false
}

// alongRail returns how long a rail about the plate's middle has to be for arms that hang beside it.
func (p *Placement) alongRail() quantity.Length {
	x, _ := p.Pairing.Display.PatternCenter(p.Pairing.Pattern, p.Pairing.Turn)
	aside := (p.DatumX - p.DisplayX - x.Value).Abs()
	return p.Pairing.Hang.Width + p.Pairing.Bracket.Interface.ArmWidth + 2*aside
}

// plateOut returns how far the wall plate, or a hole in it, is past an end of the wall or the
// niche, and which end.
func (p *Placement) plateOut(w *catalog.WallPlate) (out quantity.Length, edge string) {
	left, bottom := quantity.Length(0), quantity.Length(0)
	right, top := p.Job.Wall.Width, p.Job.Wall.Height
	if n := p.Job.Wall.Niche; n != nil {
		left, bottom = max(left, n.X-n.Width/2), max(bottom, n.Bottom)
		least := func(o *quantity.Optional[quantity.Length], l quantity.Length) {
			if !o.Known || l < o.Value {
				*o = quantity.Some(l)
			}
		}
		least(&right, n.X+n.Width/2)
		least(&top, n.Bottom+n.Height)
	}
	past := func(by quantity.Length, name string) {
		if by > out {
			out, edge = by, name
		}
	}
	all := func(x0, x1, y0, y1 quantity.Length) {
		past(left-x0, "to the left")
		past(bottom-y0, "below")
		if right.Known {
			past(x1-right.Value, "to the right")
		}
		if top.Known {
			past(y1-top.Value, "above")
		}
	}
	for i := range p.Points {
		r := p.Points[i].Drill.Diameter.Or(0).HalfUp()
		all(p.Points[i].X-r, p.Points[i].X+r, p.Points[i].Y-r, p.Points[i].Y+r)
	}
	if w.Width.Known && w.Height.Known {
		for _, x := range p.Plates {
			all(x-w.Width.Value.HalfUp(), x+w.Width.Value.HalfUp(), p.Datum-w.Height.Value.HalfUp(), p.Datum+w.Height.Value.HalfUp())
		}
	}
	return out, edge
}

// offPlate names a used hole that is not within its plate, or whose slot is
// not; "" if there is none.
func (f *Fixing) offPlate(w *catalog.WallPlate) string {
	for i := range w.Holes {
		h := &w.Holes[i]
		if !slices.ContainsFunc(f.Points, func(q Point) bool { return q.Hole == h.ID }) {
			continue
		}
		x, y := 2*h.X.Abs()+h.Across(), 2*h.Y.Abs()+h.Up()
		if w.Width.Known && x > w.Width.Value || w.Height.Known && y > w.Height.Value {
			return h.ID
		}
	}
	return ""
}

// shows returns how far a wall plate is visible past the display's edges.
func (p *Placement) shows() []fit.Check {
	w := p.Pairing.Bracket.WallPlate
	left, right := p.edges()
	out, edge := quantity.Length(0), ""
	past := func(by quantity.Length, name string) {
		if by > out {
			out, edge = by, name
		}
	}
	past(p.Datum+w.Height.Value.HalfUp()-p.Top, "above its top edge")
	past(p.Bottom-(p.Datum-w.Height.Value.HalfUp()), "below its bottom edge")
	for _, datum := range p.Plates {
		past(left-(datum-w.Width.Value.HalfUp()), "past its left edge")
		past(datum+w.Width.Value.HalfUp()-right, "past its right edge")
	}
	if out <= 0 {
		return nil
	}
	return []fit.Check{stated(fit.Caution, quantity.Say("The wall plate shows %v %v.", shown(out), edge),
		quantity.Say("Say so before it hangs, or take another bracket."), "plate")}
}
