package stack

import (
	"math"
	"slices"

	"nexufix/core/quantity"
)

// Limits of a search, counted and not timed, so that the answer is the same
// on every machine. Real displays stay far below: four different holes and
// twenty lengths of spacer need a thousandth.
const (
	maxChoices = 20_000
	maxEffort  = 5_000_000
)

// Solve finds the best stack: from the kit alone if that has any, else with
// supplied pieces. It is deterministic and exact. A problem without groups
// has no stack.
func Solve(p Problem) Answer { return p.Work.solve(&p) }

// solve searches with a searcher, whose memory is reused.
func (p *Problem) solve(effort int, stockFor func(supply bool) (*stock, *lists), s *searcher) *solution {
	if len(p.Groups) == 0 {
		return &noSolution
	}
	if p.Work.Exhausted() {
		return &notSearched
	}
	search := func(supply, okOnly bool) (*picked, bool) {
		from, known := stockFor(supply)
		return p.search(from, known, okOnly, effort, s)
	}
	best, gaveUp := search(false, false)
	switch {
	case gaveUp:
		return &notSearched
	case best == nil:
		best, gaveUp = search(true, false)
		return solved(best, nil, gaveUp)
	case best.status == Caution:
		alternative, _ := search(true, true) // one that was not found within the limits is not offered
		return solved(best, alternative, false)
	}
	return solved(best, nil, false)
}

// search finds the best stack from a stock: an ok one if there is any, else,
// unless okOnly, a caution.
func (p *Problem) search(from *stock, known *lists, okOnly bool, effort int, s *searcher) (best *picked, gaveUp bool) {
	if len(from.choices) == 0 {
		return nil, false
	}
	if len(from.choices) > maxChoices {
		return nil, true
	}
	effort = p.Work.limit(effort)
	s.begin(p, from, known, effort)
	found, gaveUp := s.search(okOnly)
	p.Work.Spend(effort - s.effort)
	if !found {
		return nil, gaveUp
	}
	return s.result(), false
}

func (s *searcher) search(okOnly bool) (found, gaveUp bool) {
	p := s.problem
	for i := range p.Groups {
		s.found[i] = s.list(i)
		if s.over() {
			return false, true
		}
		if len(s.found[i].all) == 0 {
			return false, false
		}
	}
	if len(p.Groups) > 1 {
		s.distances()
	}
	s.status = OK
	found = s.run(true, min(p.Policy.LeanOK, p.Policy.LeanMax), min(p.Policy.TwistOK, p.Policy.TwistMax))
	if !found && !okOnly && !s.over() {
		s.status = Caution
		found = s.run(false, p.Policy.LeanMax, p.Policy.TwistMax)
	}
	return found && !s.over(), s.over()
}

// begin prepares a searcher for a problem; the memory of its lists is reused.
func (s *searcher) begin(p *Problem, from *stock, known *lists, effort int) {
	s.problem, s.stock, s.all, s.choices, s.lists = p, from, &from.parts, from.choices, known
	s.first, s.longEnough, s.effort, s.looked, s.gone = 0, 0, effort, -1, false
	s.school, s.limits = schoolOf(p.Policy.BoltSchool), p.limits()
	s.holes = 0
	for i := range p.Groups {
		s.holes += len(p.Groups[i].Holes)
	}
	for len(s.found) < len(p.Groups) {
		s.room, s.found, s.apart = append(s.room, list{}), append(s.found, list{}), append(s.apart, nil)
	}
	s.used = s.used.renew(s.all)
}

// school is the policy's school of bolt length, as a number for the inner loop.
type school uint8

const (
	balanced school = iota
	deep
	shallow
)

func schoolOf(name string) school {
	switch name {
	case "deep":
		return deep
	case "shallow":
		return shallow
	}
	return balanced
}

// searcher is a branch-and-bound search over the groups. A node is cut if its
// optimistic bound, term by term, is not before the best stack found.
type searcher struct {
	problem    *Problem
	stock      *stock
	all        *parts
	choices    []choice
	first      int // index of the first choice that is tried
	holes      int // of all groups
	school     school
	limits     limits      // the policy's
	lists      *lists      // cached for the stock; nil: none
	room       []list      // by group, for lists that are not cached
	found      []list      // by group, at least this many; shared if cached
	settled    []int       // for candidates
	longEnough int         // index of the first bolt that is long enough
	numbers    []int32     // for sort
	sorted     []candidate // the same
	apart      [][]float64 // mm between the nearest holes of two groups
	effort     int         // steps that are left
	looked     int         // when the client was last checked
	gone       bool        // the client has left

	status   Status // of the stack found
	okOnly   bool   // only ok candidates are tried
	leanMax  float64
	twistMax quantity.Length
	cornered int     // depth at which all corners are picked; -1: nothing can twist
	order    []int   // groups in the order they are walked
	bounds   []total // optimistic terms of the groups from here on
	picked   []*candidate
	used     use
	best     total
	bestSet  []candidate // empty: none found
}

func (s *searcher) distances() {
	groups := s.problem.Groups
	for i := range groups {
		s.apart[i] = s.apart[i][:0]
		for j := range groups {
			nearest := math.Inf(1)
			for _, a := range groups[i].Holes {
				for _, b := range groups[j].Holes {
					dx, dy := (a.X - b.X).MM(), (a.Y - b.Y).MM()
					nearest = min(nearest, math.Sqrt(dx*dx+dy*dy))
				}
			}
			s.apart[i] = append(s.apart[i], nearest)
		}
	}
}

// lean is the tangent of the lean between two groups.
func (s *searcher) lean(i, j int, zi, zj quantity.Length) float64 {
	return (zi - zj).Abs().MM() / s.apart[i][j]
}

func (s *searcher) run(okOnly bool, leanMax quantity.Angle, twistMax quantity.Length) bool {
	lists := s.found[:len(s.problem.Groups)]
	s.okOnly, s.leanMax, s.bestSet = okOnly, math.Tan(leanMax.Degrees()*math.Pi/180), s.bestSet[:0]
	s.order = s.order[:0]
	for i := range lists {
		if s.length(i) == 0 {
			return false
		}
		s.order = append(s.order, i)
	}
	slices.SortStableFunc(s.order, func(a, b int) int { return s.length(a) - s.length(b) })
	s.twistMax, s.cornered = twistMax, -1
	if c := &s.problem.Corners; c.Known && len(lists) > 1 {
		for depth, g := range s.order {
			if slices.Contains(c.Groups[:], g) {
				s.cornered = depth
			}
		}
	}
	s.setBounds()
	s.picked = append(s.picked[:0], make([]*candidate, len(lists))...)
	s.walk(0, s.start())
	return len(s.bestSet) > 0
}

// length returns how many candidates of a group are tried.
func (s *searcher) length(group int) int {
	if s.okOnly {
		return s.found[group].ok
	}
	return len(s.found[group].all)
}

// start returns the total of no groups.
func (s *searcher) start() total { return total{school: s.schoolStart(), plane: math.MinInt64} }

func (s *searcher) schoolStart() quantity.Length {
	if s.additive() {
		return 0
	}
	return math.MaxInt64
}

func (s *searcher) additive() bool {
	return s.school != balanced
}

// plus adds a group's own terms to a total, except for the supplied pieces and
// the lean, which depend on the other groups.
func (s *searcher) plus(t, own *total) total {
	sum := total{
		supplied: t.supplied, lean: t.lean,
		plane:     max(t.plane, own.plane),
		spacers:   t.spacers + own.spacers,
		shoulders: t.shoulders + own.shoulders,
		washers:   t.washers + own.washers,
		length:    t.length + own.length,
	}
	if s.additive() {
		sum.school = t.school + own.school
	} else {
		sum.school = min(t.school, own.school)
	}
	return sum
}

// setBounds computes, for every depth, the best of each term over the groups that
// are still to come.
func (s *searcher) setBounds() {
	s.bounds = append(s.bounds[:0], make([]total, len(s.order)+1)...)
	s.bounds[len(s.order)] = s.start()
	for depth := len(s.order) - 1; depth >= 0; depth-- {
		list := s.found[s.order[depth]].all
		first := 0
		for s.okOnly && list[first].status != OK {
			first++
		}
		optimistic := list[first].own
		for i := first; i < len(list); i++ {
			o := &list[i].own
			if s.okOnly && list[i].status != OK {
				continue
			}
			optimistic.supplied = min(optimistic.supplied, o.supplied)
			optimistic.plane = min(optimistic.plane, o.plane)
			optimistic.spacers = min(optimistic.spacers, o.spacers)
			optimistic.shoulders = max(optimistic.shoulders, o.shoulders)
			optimistic.washers = min(optimistic.washers, o.washers)
			optimistic.school = max(optimistic.school, o.school)
			optimistic.length = min(optimistic.length, o.length)
		}
		s.bounds[depth] = s.plus(&s.bounds[depth+1], &optimistic)
		// Together with others a group needs at least as many supplied pieces as
		// alone, so the sum is a lower bound.
		s.bounds[depth].supplied = s.bounds[depth+1].supplied + optimistic.supplied
	}
}

func (s *searcher) walk(depth int, sofar total) {
	if depth == len(s.order) {
		s.best = sofar
		s.bestSet = s.bestSet[:0]
		for _, c := range s.picked {
			s.bestSet = append(s.bestSet, *c)
		}
		return
	}
	group := s.order[depth]
	holes := len(s.problem.Groups[group].Holes)
	list := s.found[group].all
next:
	for i := range list {
		c := &list[i]
		if s.okOnly && c.status != OK {
			continue
		}
		if len(s.bestSet) > 0 && sofar.supplied+c.own.supplied+s.bounds[depth+1].supplied > s.best.supplied {
			return // as do the rest, which are sorted by supplied pieces
		}
		if s.spent() {
			return
		}
		t := s.plus(&sofar, &c.own)
		for _, other := range s.order[:depth] {
			if z := s.picked[other].own.plane; z != c.own.plane {
				t.lean = max(t.lean, s.lean(group, other, c.own.plane, z))
			}
			if t.lean > s.leanMax {
				continue next
			}
		}
		if depth == s.cornered {
			s.picked[group] = c
			if s.problem.Corners.twist(s.plane) > s.twistMax {
				continue
			}
		}
		t.supplied = sofar.supplied + c.own.supplied
		if s.cut(&t, depth) {
			continue
		}
		spacers := &s.choices[c.choice]
		s.used.add(&c.pick, spacers, holes, 1)
		beyond, ok := s.used.beyond()
		t.supplied = int32(beyond)
		if ok && !s.cut(&t, depth) {
			s.picked[group] = c
			s.walk(depth+1, t)
		}
		s.used.add(&c.pick, spacers, holes, -1)
	}
}

// plane returns the arm plane of a group's picked candidate.
func (s *searcher) plane(group int) quantity.Length { return s.picked[group].own.plane }

// cut reports whether the optimistic bound of t is not before the
// best stack found.
func (s *searcher) cut(t *total, depth int) bool {
	if len(s.bestSet) == 0 {
		return false
	}
	bound := s.plus(t, &s.bounds[depth+1])
	bound.supplied += s.bounds[depth+1].supplied
	return bound.compare(&s.best) >= 0
}
