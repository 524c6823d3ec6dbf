package stack

import (
	"math"

	"nexufix/core/quantity"
)

// solution is a compact answer: the picks and their stock.
type solution struct {
	summary           Summary
	best, alternative *picked
	why               *Obstacle // why there is none; nil: not computed
}

// picked is a compact stack: a pick for each group, and the figures that depend on more
// than one of them.
type picked struct {
	from     *stock
	picks    []pick
	lean     float64 // its tangent
	nearest  quantity.Length
	status   Status
	supplies bool
	slack    quantity.Optional[quantity.Length] // the least of its hole stacks
	supplied int32
	plane    quantity.Length // the largest z
	spacer   quantity.Length // its widest
}

var (
	noSolution  solution
	notSearched = solution{summary: Summary{Incomplete: true}}
)

// solved is the solution of a problem whose search has ended.
func solved(best, alternative *picked, gaveUp bool) *solution {
	switch {
	case best == nil && gaveUp:
		return &notSearched
	case best == nil:
		return &noSolution
	}
	return &solution{Summary{Nearest: best.nearest, Status: best.status, Found: true, Supplies: best.supplies, Incomplete: gaveUp,
		Slack:    best.slack,
		Supplied: int(best.supplied), Plane: best.plane, Spacer: best.spacer}, best,
		alternative, nil}
}

// unsolvable returns the solution of a problem without a stack.
func unsolvable(why Obstacle) *solution { return &solution{why: &why} }

// result returns the stack that a searcher has found.
func (s *searcher) result() *picked {
	x := &picked{from: s.stock, picks: make([]pick, len(s.bestSet)), lean: s.best.lean, nearest: s.best.plane, status: s.status,
		supplies: s.best.supplied > 0,
		supplied: s.best.supplied, plane: s.best.plane}
	lim := s.problem.limits()
	for i := range s.bestSet {
		x.picks[i] = s.bestSet[i].pick
		x.nearest = min(x.nearest, s.bestSet[i].own.plane)
		c, g := &s.bestSet[i], &s.problem.Groups[i]
		spacers := &s.choices[c.choice]
		for _, item := range spacers.items[:spacers.n] {
			x.spacer = max(x.spacer, s.all.spacers[item].outer)
		}
		if g.unsaid(spacers) {
			a, _ := s.problem.arrange(g, spacers)
			head, loose := s.all.underHead(&c.pick)
			bolt := &s.all.bolts[c.bolt]
			m := g.margins(&a, bolt.length-head-s.problem.PlateThickness-spacers.total, bolt.tolerance+loose)
			if slack := lim.slack(g, spacers, &m); !x.slack.Known || slack < x.slack.Value {
				x.slack = quantity.Some(slack)
			}
		}
	}
	return x
}

// of writes the answer to the problem out in full.
func (s *solution) of(p *Problem) Answer {
	return Answer{s.best.of(p), s.alternative.of(p), s.summary.Incomplete, s.why}
}

// of writes a stack out in full; nil for none.
func (x *picked) of(p *Problem) *Stack {
	if x == nil {
		return nil
	}
	all := &x.from.parts
	groups := make([]HoleStack, len(x.picks))
	out := &Stack{Status: x.status, Nearest: x.nearest, Lean: math.Atan(x.lean) * 180 / math.Pi, Groups: groups}
	used := use{}.renew(all)
	lim := p.limits()
	s := searcher{problem: p, all: all, school: schoolOf(p.Policy.BoltSchool)}
	rank := s.start()
	for i := range x.picks {
		c, g, h := &x.picks[i], &p.Groups[i], &groups[i]
		choice, w, bolt := &x.from.choices[c.choice], &all.washers[c.washer], &all.bolts[c.bolt]
		a, _ := p.arrange(g, choice)
		head, loose := all.underHead(c)
		*h = HoleStack{
			Group: i, Holes: g.IDs(), Bearing: a.bearing, Thread: p.Thread, Bolt: bolt.length,
			Head: bolt.head, Threaded: bolt.threaded,
			Washers: Washers{int(c.washers), w.length, w.outer},
			Plane:   a.plane, Entry: bolt.length - head - p.PlateThickness - choice.total,
		}
		m := g.margins(&a, h.Entry, bolt.tolerance+loose)
		h.set(m)
		h.Status = lim.status(g, &a, &m)
		if g.unsaid(choice) {
			h.Slack = quantity.Some(lim.slack(g, choice, &m))
		}
		if c.shoulder >= 0 {
			h.Shoulder = all.shoulders[c.shoulder].length
		}
		for _, item := range choice.items[:choice.n] {
			s := &all.spacers[item]
			h.Spacers = append(h.Spacers, Spacer{s.length, s.outer})
		}
		used.add(c, choice, len(g.Holes), 1)
		own := candidate{pick: *c}
		own.own = s.fixed(&own, g, choice, a.plane, 0)
		s.rate(&own, g, &m, &lim)
		rank = s.plus(&rank, &own.own)
	}
	out.Supplied = used.appendSupplied(nil)
	beyond, _ := used.beyond()
	rank.supplied, rank.lean = int32(beyond), x.lean
	out.Plane, out.rank = rank.plane, rank
	out.Twist = p.Corners.twist(func(group int) quantity.Length { return out.Groups[group].Plane })
	return out
}
