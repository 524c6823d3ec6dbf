package place

import (
	"math"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// EdgesRule: fasteners keep their distances from edges and from each other.
const EdgesRule fit.RuleID = "edges"

var edgesRule = rule{About: fit.About{ID: EdgesRule, Name: "Edges, spacing", Step: "mark"},
	Judge: (*Placement).spacing}

// spacing: edges and neighbours.
func (p *Placement) spacing() []fit.Check {
	if len(p.Points) == 0 || !p.fastened() || !p.Choice.Sound() {
		return nil
	}
	c, ok := fit.Check{Marks: []string{"use"}}, false
	switch p.Job.Wall.Type.Holds() {
	case catalog.Wood:
		c, ok = p.alongStud(c)
	case catalog.Masonry:
		c, ok = p.inMasonry(c)
	}
	if !ok {
		return nil
	}
	return []fit.Check{c}
}

// points converts the placement's points for the assessment.
func (p *Placement) points() []anchorage.Point {
	var out []anchorage.Point
	for _, q := range p.Points {
		out = append(out, anchorage.Point{X: q.X, Y: q.Y, Plate: max(0, q.Plate-1), Beside: q.Beside})
	}
	return out
}

// apart is the check of a distance of fixings that is right, or fails.
func apart(c fit.Check, away quantity.Length, what string, least quantity.Length) fit.Check {
	c.Measure = fit.AtLeast(away, least)
	c.Text = quantity.Say("The fixings are %v from %v; %v is right.", quantity.AtLeast(away), what, quantity.AtMost(least))
	if away < least {
		c.Status = fit.Fail
	}
	return c
}

// inMasonry: fixings keep their distances from edges and from each other. What the item gives fails when it is not kept;
// without it, five diameters of the hole fail, and less than h_ef from an edge or 1.2 times that from each other is a caution
// (EN 1992-4 and usual approvals, memory). A pull counts by its cone, and a shear towards an edge by what breaks out there.
func (p *Placement) inMasonry(c fit.Check) (fit.Check, bool) {
	hef := anchorage.Effective(&p.Choice, &p.Layers)
	if hef <= 0 {
		return c, false // its embedment fails, or is not known
	}
	points := p.points()
	spacing, edge := anchorage.Nearest(points, p.bounds())
	carrier := p.Choice.Carrier()
	bore := p.Hole.Diameter.Or(carrier.Diameter)
	worst := c
	judge := func(what string, away quantity.Optional[quantity.Length], said, usual quantity.Length) {
		if !away.Known {
			return
		}
		least, status := said, fit.Fail
		if said == 0 {
			least = fiveBores * bore
			if away.Value >= least {
				least, status = usual, fit.Caution
			}
		}
		one := apart(c, away.Value, what, least)
		if one.Status == fit.Fail {
			one.Status = status
			one.Text = quantity.Say("A fixing is %v from %v; less than %v can break the masonry out.", quantity.AtLeast(max(0, away.Value)), what,
				quantity.AtMost(least))
			one.Remedy = quantity.Say("Move the plate, or have the wall judged.")
		}
		if worst.Text.Empty() || one.Status > worst.Status || one.Status == worst.Status && one.Measure.Margin < worst.Measure.Margin {
			worst = one
		}
	}
	judge("an edge", edge, carrier.EdgeMin, hef)
	judge("the next one", spacing, carrier.SpacingMin, hef*6/5)
	if worst.Status < fit.Fail && (!p.Job.Wall.Width.Known || !p.Job.Wall.Height.Known) {
		c.Status = fit.Unknown
		c.Text = quantity.Say("The fixings' distance from the wall's edges is not known: the wall's width or height is missing.")
		c.Remedy = quantity.Say("Measure from the outermost hole to the wall's ends, floor and ceiling.")
		return c, true
	}
	if worst.Text.Empty() {
		return c, false
	}
	if share, towards := p.edgeShear(points, hef, bore); share > 1 && worst.Status < fit.Fail {
		worst = fit.Check{Finding: fit.Finding{Status: fit.Fail, Measure: fit.ShareAtMost(share * 100)}, Marks: c.Marks,
			Text: quantity.Say("The load pushes a fixing %v, where the masonry's edge is near: it breaks out at %v %% of that load.", towards,
				quantity.FormatDecimal(int64(100/share), 0)),
			Remedy: quantity.Say("Move the plate away from the edge.")}
	}
	if worst.Status == fit.Pass && carrier.Kind.Properties().Cones {
		least := 1.0
		for i := range points {
			least = min(least, anchorage.Cone(points, i, hef, p.bounds()))
		}
		if least < 1 {
			worst.Text = quantity.Say("%v Edges and neighbours leave a fixing %v %% of its pull: it is counted for that.", worst.Text,
				int(least*100))
		}
	}
	return worst, true
}

// fiveBores is the least distance of fixings from edges and each other where their maker gives none, in diameters of the hole
// (practice).
const fiveBores = 5

// edgeShear returns the largest share of what breaks an edge out that the loads towards it take, straight out:
// V = k₉·d^α·l_f^β·√f_ck·c₁^1.5, k₉ 1.7 (cracked), α = 0.1·√(l_f/c₁), β = 0.1·(d/c₁)^0.2, C20/25, γ 1.5 (EN 1992-4, 7.2.2.5,
// memory). Only in concrete; and the way it pushes.
func (p *Placement) edgeShear(points []anchorage.Point, hef, bore quantity.Length) (share float64, towards string) {
	a := p.Strength.Assessment
	if p.Job.Wall.Type != catalog.Concrete || a == nil {
		return 0, ""
	}
	in := p.bounds()
	for i := range points {
		f := a.Straight[i]
		for _, x := range []struct {
			load  float64
			away  quantity.Length
			known bool
			way   string
		}{
			{f.Down, points[i].Y - in.Bottom.Value, in.Bottom.Known, "down"},
			{f.Right, in.Right.Value - points[i].X, in.Right.Known, "to the right"},
			{-f.Right, points[i].X - in.Left.Value, in.Left.Known, "to the left"},
		} {
			if x.load <= 0 || !x.known || x.away > 10*hef || math.IsInf(x.load, 0) {
				continue
			}
			if s := x.load / EdgeShear(bore, hef, max(x.away, quantity.Millimetre)); s > share {
				share, towards = s, x.way
			}
		}
	}
	return share, towards
}

// EdgeShear returns the design shear towards an edge of concrete, in newtons (see edgeShear).
func EdgeShear(bore, hef, away quantity.Length) float64 {
	d, c1 := bore.MM(), away.MM()
	lf := min(hef.MM(), 12*d)
	alpha, beta := 0.1*math.Sqrt(lf/c1), 0.1*math.Pow(d/c1, 0.2)
	return 1.7 * math.Pow(d, alpha) * math.Pow(lf, beta) * math.Sqrt(20) * math.Pow(c1, 1.5) / 1.5
}
