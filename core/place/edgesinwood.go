package place

import (
	"math"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// alongStud: lags and screws keep what their maker gives; in one stud they are four diameters apart along it.
func (p *Placement) alongStud(c fit.Check) (fit.Check, bool) {
	own, given := p.makersEdges(c)
	if own.Status == fit.Fail {
		return own, true
	}
	usual, some := p.usualInWood(c)
	if some && usual.Status > fit.Pass || !given {
		return usual, some
	}
	return own, true
}

// makersEdges judges what the maker of a lag or screw gives for its distance from the edges of the wood and from the next one.
func (p *Placement) makersEdges(c fit.Check) (worst fit.Check, given bool) {
	i := &p.Choice.Item
	spacing, edge := anchorage.Nearest(p.points(), p.bounds())
	for n := range p.Points {
		if pt := &p.Points[n]; pt.Stud >= 0 && !pt.Beside {
			stud := &p.Studs[pt.Stud]
			if in := stud.Width/2 - (pt.X - stud.X).Abs(); !edge.Known || in < edge.Value {
				edge = quantity.Some(in)
			}
		}
	}
	for _, x := range []struct {
		what  string
		away  quantity.Optional[quantity.Length]
		least quantity.Length
	}{{"the edge of the wood", edge, i.EdgeMin}, {"the next one", spacing, i.SpacingMin}} {
		if !x.away.Known || x.least == 0 {
			continue
		}
		one := apart(c, x.away.Value, x.what, x.least)
		if one.Status == fit.Fail {
			one.Text = quantity.Say("A fixing is %v from %v; its maker asks for %v.", quantity.AtLeast(max(0, x.away.Value)), x.what,
				quantity.AtMost(x.least))
			one.Remedy = quantity.Say("Take holes that are farther apart, or another fastener.")
		}
		if !given || one.Status > worst.Status || one.Status == worst.Status && one.Measure.Margin < worst.Measure.Margin {
			worst, given = one, true
		}
	}
	return worst, given
}

// fourDiameters is the least distance of lags along one stud (NDS, memory).
const fourDiameters = 4

// usualInWood: a load towards a stud's edge, and lags in one stud.
func (p *Placement) usualInWood(c fit.Check) (fit.Check, bool) {
	if loaded, ok := p.loadedEdge(); ok {
		return loaded, true
	}
	i := &p.Choice.Item
	if p.Job.Wall.Type != catalog.WoodStud || i.Diameter == 0 {
		return c, false
	}
	need := fourDiameters * i.Diameter
	least, some := quantity.Length(0), false
	for n, a := range p.Points {
		for _, b := range p.Points[:n] {
			if a.Stud < 0 || a.Stud != b.Stud {
				continue
			}
			away := max((a.Y - b.Y).Abs(), (a.X - b.X).Abs())
			if !some || away < least {
				least, some = away, true
			}
		}
	}
	if !some {
		return c, false
	}
	c.Measure = fit.AtLeast(least, need)
	c.Text = quantity.Say("Fasteners in one stud are %v apart; four diameters, %v, is right.", quantity.AtLeast(least), need)
	if least < need {
		c.Status = fit.Caution
		c.Text = quantity.Say("Fasteners in one stud are %v apart; less than four diameters, %v, can split it.", quantity.AtLeast(least), need)
		c.Remedy = quantity.Say("Take holes that are farther apart.")
	}
	return c, true
}

// loadedEdge is the distance of a stud's edge that a load across the grain pushes a fastener towards, in diameters (NDS 12.5.1C,
// memory).
const loadedEdge = 4

// loadedEdge judges fasteners that are pushed across the grain towards a stud's edge: nearer than four diameters is a caution from a
// quarter of what the fastener may hold on, and fails from half (half: NDS; a quarter: practice, less is of no account).
func (p *Placement) loadedEdge() (fit.Check, bool) {
	a := p.Strength.Assessment
	if a == nil || p.Job.Wall.Type != catalog.WoodStud {
		return fit.Check{}, false
	}
	need := loadedEdge * p.Choice.Item.Diameter
	for i := range p.Points {
		pt := &p.Points[i]
		if pt.Stud < 0 || pt.Beside {
			continue
		}
		stud, f := &p.Studs[pt.Stud], a.Straight[i]
		_, holds := a.Capacity.Design(&anchorage.Permanent)
		share := math.Abs(f.Right) / holds
		edge := stud.Width/2 + stud.X - pt.X
		if f.Right < 0 {
			edge = stud.Width/2 - stud.X + pt.X
		}
		if edge >= need || share <= 0.25 || holds <= 0 {
			continue
		}
		c := fit.Check{Finding: fit.Finding{Status: fit.Caution, Measure: fit.AtLeast(edge, need)}, Marks: []string{"use"},
			Text: quantity.Say("The load pushes the fastener in %v across the grain, %v from the stud's edge; four diameters, %v, are "+
				"right.", p.hole(i),
				quantity.AtLeast(edge), need),
			Remedy: quantity.Say("Bring the plate under the load.")}
		if share > 0.5 {
			c.Status = fit.Fail
		}
		return c, true
	}
	return fit.Check{}, false
}
