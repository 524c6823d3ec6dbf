package stack

import (
	"cmp"
	"slices"
	"sort"

	"nexufix/core/quantity"
)

// maxStacked is the largest max_stacked_spacers that a policy can have.
const maxStacked = 4

// choice is a set of spacers, from the display outward: indices into
// parts.spacers.
type choice struct {
	items            [maxStacked]int16
	n                int
	total, tolerance quantity.Length
	widest           quantity.Length
}

// choices lists every set of up to max_stacked_spacers spacers that the
// longest bolt passes with thread to spare, the shortest first; a few more
// than maxChoices when there are too many. The widest goes next to the
// display, the longer first among equals.
func (p *Problem) choices(parts *parts) []choice {
	spacers := parts.spacers
	longest := p.longestSpacers(parts)
	byWidth := make([]int16, len(spacers))
	for i := range byWidth {
		byWidth[i] = int16(i)
	}
	sort.Slice(byWidth, func(i, j int) bool {
		a, b := spacers[byWidth[i]], spacers[byWidth[j]]
		if a.outer != b.outer {
			return a.outer > b.outer
		}
		return a.length > b.length
	})
	all := []choice{{}}
	layer := all
	for range min(p.Policy.MaxStackedSpacers, maxStacked) {
		var next []choice
		for _, c := range layer {
			from := 0
			if c.n > 0 {
				from = position(byWidth, c.items[c.n-1])
			}
			for _, i := range byWidth[from:] {
				s := spacers[i]
				if c.total+s.length > longest {
					continue
				}
				d := c
				d.items[d.n] = i
				d.n++
				d.total += s.length
				d.tolerance += s.tolerance
				d.widest = max(d.widest, s.outer)
				next = append(next, d)
			}
			if len(all)+len(next) > maxChoices {
				return append(all, next...)
			}
		}
		all = append(all, next...)
		layer = next
	}
	slices.SortStableFunc(all, func(a, b choice) int {
		return cmp.Or(cmp.Compare(a.total, b.total), cmp.Compare(a.n, b.n))
	})
	return all
}

// longestSpacers returns the greatest length of spacers on the longest bolt.
func (p *Problem) longestSpacers(parts *parts) quantity.Length {
	return parts.bolts[len(parts.bolts)-1].length - parts.washers[0].length - p.PlateThickness - p.limits().engagementMin
}

func position(list []int16, want int16) int {
	for i, x := range list {
		if x == want {
			return i
		}
	}
	return 0
}

// arrangement is a choice of spacers at a group's hole: what it
// bears on, and the arm plane that follows.
type arrangement struct {
	bearing  Bearing
	unproven bool            // on the rim of a cup whose diameter is not known
	plane    quantity.Length // z
	free     quantity.Length // q
	delta    quantity.Length // Σδs + δr·[rim], against the engagement
	slack    quantity.Length // Σδs + δr·[rim] + δD, against the clearance
	planeOK  bool            // z keeps its clearance with the tolerances against it
	across   quantity.Length // how far engagement may be less, where the plate may lie across a pocket
}

// arrange places a choice of spacers at a group's hole; false if it cannot
// be used there.
func (p *Problem) arrange(g *Group, c *choice) (arrangement, bool) {
	a, jams := p.bear(g, c)
	need := p.need()
	return a, !jams && a.plane >= need && (!a.unproven || a.plane-g.Recess >= need) && !(g.Wide && c.n == 0)
}

// bear returns what a choice of spacers bears on and the arm
// plane; jams means that it fits neither the cup nor its rim.
func (p *Problem) bear(g *Group, c *choice) (a arrangement, jams bool) {
	a.delta = c.tolerance
	if c.n > 0 && g.Recess > 0 {
		switch cup := g.RecessDiameter; {
		case !cup.Known:
			a.unproven = true
		case c.widest <= cup.Value-cupPlay:
			a.bearing = Insert
		case c.widest < cup.Value+rimOverhang:
			jams = true // in the cup, or it tips on its edge
		}
	}
	depth, tolerance := g.Setback, g.SetbackTolerance
	if a.bearing == Insert {
		depth += g.Recess
		tolerance += g.RecessTolerance
	} else {
		a.free = g.Recess
		a.delta += g.RecessTolerance
	}
	a.slack = a.delta + g.DepthTolerance
	if a.bearing == Rim && g.SumTolerance.Known {
		a.slack = c.tolerance + g.SumTolerance.Value
	}
	a.plane = c.total - depth
	if c.n == 0 {
		p.overPocket(g, &a)
	}
	a.planeOK = a.plane-tolerance >= p.need()-p.touches() || p.Under.Pocket == InPocket && c.n == 0
	return a, jams
}

// overPocket places a plate without spacers on a pocket: it goes in and bears on the floor around the holes, or
// lies on the pocket's rim, from where the bolt has farther to go. Where neither is certain, it has to hold
// both ways.
func (p *Problem) overPocket(g *Group, a *arrangement) {
	switch p.Under.Pocket {
	case AcrossPocket:
		a.plane, a.free = 0, a.free+g.Setback
		a.delta += g.SetbackTolerance
		a.slack += g.SetbackTolerance
	case UnclearPocket:
		a.plane, a.across = 0, g.Setback
	}
}

// margins are the figures of a bolt in its hole, nominal and with the tolerances against it:
// e, k, e⁻ and k⁻.
type margins struct{ engagement, clearance, engagementWorst, clearanceWorst quantity.Length }

// margins returns the margins of a bolt with an entry E behind the bearing face, and the tolerance of
// its length and of everything under its head.
func (g *Group) margins(a *arrangement, entry, loose quantity.Length) margins {
	e := entry - a.free
	k := g.ThreadDepth - e
	e -= a.across // it lies on the rim, and the tip is as deep as if it went in
	return margins{e, k, e - loose - a.delta, k - loose - a.slack}
}

// limits are the policy's limits for one thread.
type limits struct {
	engagementMin, engagementWorst quantity.Length
	clearanceMin, clearanceWorst   quantity.Length
}

func (p *Problem) limits() limits {
	d := p.Thread.Standard().Nominal
	return limits{
		p.Policy.EngagementMinD.Of(d), p.Policy.EngagementWorstD.Of(d),
		p.Policy.TipClearanceMin, p.Policy.TipClearanceWorst,
	}
}

// slack returns how much deeper than on record the recess and the rim may be with the same parts, where nobody
// has said how deep they are: without spacers the bolt loses that much; a spacer may drop into a cup that nobody
// told of, and then its tip goes that much farther.
func (l *limits) slack(g *Group, c *choice, m *margins) quantity.Length {
	out := min(m.engagement-l.engagementMin, m.engagementWorst-l.engagementWorst)
	if c.n > 0 {
		out = min(out, m.clearance-l.clearanceMin, m.clearanceWorst-l.clearanceWorst)
	}
	return max(0, out)
}

// unsaid reports whether a stack stands on a recess or a rim that nobody has told of.
func (g *Group) unsaid(c *choice) bool { return g.RecessUnsaid || g.SetbackUnsaid && c.n == 0 }

// status returns the status of a hole stack whose nominal figures are safe.
func (l *limits) status(g *Group, a *arrangement, m *margins) Status {
	if a.unproven || g.Open || !a.planeOK || m.engagementWorst < l.engagementWorst || m.clearanceWorst < l.clearanceWorst {
		return Caution
	}
	return OK
}
