package place

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// A pairing without a job is judged on the best wall of its type: no covering, no shift, dense wood, a solid and thick
// base. What fails there fails on every wall of the type, and what is not known there is missing of the bracket. It is no word
// about a wall: that has to be measured, and says so (see [NotJudged]).

// BestCase returns what keeps a pairing from every wall of a type.
func BestCase(p *fit.Pairing, kind catalog.WallType) []fit.Check {
	if p.Hang == nil || p.Bracket.WallPlate == nil || kind == catalog.NoWall {
		return nil
	}
	var out []fit.Check
	if kind == catalog.HollowBoard || kind.OfBoard() {
		c := stated(fit.Unknown, quantity.Say("The board's thickness is not known, and without it no fastener can be chosen."),
			quantity.Say("Measure it at an edge, an outlet or a first small hole, and give it as a job."))
		c.Rule = DepthRule
		out = append(out, c)
	}
	job := bestJob(p, kind)
	s := setting{Job: &job, Pairing: p, DisplayX: job.Place.X.Value}
	best := s.place()
	for _, c := range best.Checks {
		if c.Rule == StrengthRule && !best.Choice.Known() {
			continue // that it has no fastener is said
		}
		if about(c.Rule).Held && blocks(&c) && !(len(out) > 0 &&
			c.Rule == DepthRule) {
			out = append(out, c)
		}
	}
	return out
}

// bestJob is a place on the best wall of a type.
func bestJob(p *fit.Pairing, kind catalog.WallType) catalog.Job {
	props := kind.Properties()
	far := func(mm int64) quantity.Optional[quantity.Length] { return quantity.Some(quantity.MM(mm)) }
	w := catalog.Wall{Type: kind, Covering: far(0), Cavity: far(0), Width: far(10_000), Height: far(5_000), Steel: far(2), BlockKind: "solid",
		Species: "southern_pine", Backing: far(1000)}
	if props.BackingMost > 0 {
		w.Backing = quantity.Some(props.BackingMost)
	}
	if kind.OfBoard() {
		w.BoardKind = "ply"
	}
	if kind == catalog.HollowBoard {
		w.Covering, w.Cavity = far(25), far(500)
	}
	if kind != catalog.Block {
		w.BlockKind = ""
	}
	if kind == catalog.MetalStud {
		w.Covering, w.Backing = far(12), far(500)
	}
	job := catalog.Job{Display: p.Display.ID, Bracket: p.Bracket.ID, Turn: p.Turn, Accessories: p.Extra.Accessories, Wall: w,
		Place: catalog.Place{Rule: "center", Center: far(1400), X: far(5_000)}}
	if props.Studs { // a stud behind every hole, as wide as two
		const wide = 80 * quantity.Millimetre
		var at []quantity.Length
		x, _ := p.Display.PatternCenter(p.Pattern, p.Turn)
		datum := job.Place.X.Value
		if slide := p.Hang.Slide; x.Value.Abs() > slide { // as near to the display's middle as the plate goes
			datum += x.Value - min(max(x.Value, -slide), slide)
		}
		for _, plate := range p.Bracket.PlatesAbout(datum, p.Hang.Width) {
			for _, h := range p.Bracket.WallPlate.Holes {
				at = append(at, plate+h.X)
			}
		}
		slices.Sort(at)
		var apart []quantity.Length
		for _, x := range at {
			if len(apart) == 0 || x-apart[len(apart)-1] >= wide {
				apart = append(apart, x)
			}
		}
		job.Wall.Studs = &catalog.Studs{At: apart, Width: quantity.Some(wide)}
	}
	return job
}

// NotJudged is what documents without a measured wall say of it.
func NotJudged(w *catalog.Wall) quantity.Phrase {
	return quantity.Say("Wall not judged: measure %v.", quantity.List("; ", ToMeasure(w)...))
}
