package stack

import (
	"slices"

	"nexufix/core/quantity"
)

// Obstacle is the one thing that, were it otherwise, would give a problem
// without a stack one.
type Obstacle struct {
	Kind   string          // one of the constants below
	Holes  []string        // for Shallow
	Figure quantity.Length // Shallow: thread depth needed; Spacer: length that would do; Twist: of the corners
	Lean   float64         // for Lean: degrees
}

// The kinds of obstacle.
const (
	Shallow      = "shallow" // a thread depth below what engagement and clearance need
	TightHead    = "head"    // the head does not fit behind the plate
	TooMuchLean  = "lean"    // the bracket would lean too far
	TooMuchTwist = "twist"   // its arms would not hang parallel
	NarrowDisc   = "narrow"  // no washer or spacer is wide enough for the slot
	OddSpacer    = "spacer"  // one spacer of a length nobody stocks
	Several      = "several" // more than one thing is in the way
)

// longestOdd is the longest spacer that is worth a try.
const longestOdd = 80 * quantity.Millimetre

// Why names what stands in the way of a problem that has no stack, by trying
// each remedy alone.
func Why(p Problem) Obstacle {
	lim := p.limits()
	need := lim.engagementMin + lim.clearanceMin
	var shallow []string
	var deepest quantity.Length
	for i := range p.Groups {
		g := &p.Groups[i]
		if g.ThreadDepth < need {
			shallow = append(shallow, g.IDs()...)
		}
		deepest = max(deepest, g.Setback+g.Recess)
	}
	if shallow != nil {
		return Obstacle{Kind: Shallow, Holes: shallow, Figure: need}
	}
	supply, shared := p.newStock(true), &lists{room: mostCandidates, listed: map[listed]list{}}
	if p.HeadRoom.Known {
		t := p
		t.HeadRoom.Known = false
		if t.possible(supply) {
			return Obstacle{Kind: TightHead}
		}
	}
	if p.reached(supply, shared) {
		if o := p.tooUneven(supply, shared); o.Kind != "" {
			return o
		}
	}
	t := p
	t.Slot = p.Thread.Standard().ClearanceHole - p.Policy.WasherOverlap
	if more := t.newStock(true); len(more.washers)+len(more.spacers) > len(supply.washers)+len(supply.spacers) && t.possible(more) {
		return Obstacle{Kind: NarrowDisc}
	}
	// A spacer has to bridge the deepest hole, and little more; none is longer
	// than a bolt.
	odd := part{outer: max(p.Policy.StockSpacerOuter, p.Slot+p.Policy.WasherOverlap), tolerance: spacerTolerance, suppliable: true,
		each: p.Policy.MaxStackedSpacers}
	with := &stock{parts: supply.parts}
	with.spacers = append(slices.Clone(supply.spacers), odd)
	for l := quantity.Millimetre; l <= min(deepest+12*quantity.Millimetre, longestOdd); l += quantity.Millimetre {
		with.spacers[len(supply.spacers)].length = l
		if p.helps(supply, shared, with) {
			return Obstacle{Kind: OddSpacer, Figure: l}
		}
	}
	return Obstacle{Kind: Several}
}

// possible says whether there is a stack of what can be sent, or, where that is too much to search, of the kit
// alone.
func (p *Problem) possible(supply *stock) bool {
	found, gaveUp := p.search(supply, nil, false, effortToExplain, nil)
	if gaveUp {
		found, _ = p.search(p.newStock(false), nil, false, effortToExplain, nil)
	}
	return found != nil
}

// reached says whether each group has a candidate of a stock.
func (p *Problem) reached(from *stock, known *lists) bool {
	if len(from.choices) == 0 || len(from.choices) > mostChoices {
		return false
	}
	s := searchers.Get().(*searcher)
	defer searchers.Put(s)
	s.begin(p, from, known, effortToExplain)
	for i := range p.Groups {
		if len(s.list(i).all) == 0 {
			return false
		}
	}
	return !s.over()
}

// tooUneven is the obstacle of a problem whose groups have candidates which do not go together.
func (p *Problem) tooUneven(supply *stock, shared *lists) Obstacle {
	var kit *stock
	with := func(change func(*Problem)) *Stack {
		try := *p
		change(&try)
		return try.solve(effortToExplain, func(supplied bool) (*stock, *lists) {
			if supplied {
				return supply, shared
			}
			if kit == nil {
				kit = p.newStock(false)
			}
			return kit, nil
		}, nil).best.of(&try)
	}
	if st := with(func(t *Problem) { t.Policy.LeanMax = 45 * quantity.Degree }); st != nil {
		return Obstacle{Kind: TooMuchLean, Lean: st.Lean}
	}
	if st := with(func(t *Problem) { t.Corners.Known = false }); st != nil {
		return Obstacle{Kind: TooMuchTwist, Figure: p.Corners.twist(func(group int) quantity.Length { return st.Groups[group].Plane })}
	}
	return Obstacle{}
}

// effortToExplain is how much each try may take: it is cut short where a search for good would go on.
const effortToExplain = mostEffort / 50

// helps says whether there is a stack with one spacer more than a stock has, the last one of with;
// the candidates without it are shared. The choices of with are made here.
func (p *Problem) helps(from *stock, shared *lists, with *stock) bool {
	if len(from.choices) == 0 || len(from.choices) > mostChoices {
		return false
	}
	s := searchers.Get().(*searcher)
	defer searchers.Put(s)
	odd := &with.spacers[len(from.spacers)]
	with.choices = append(s.more[:0], from.choices...)
	longest := p.longestSpacers(&from.parts)
	for _, c := range from.choices {
		for c.n < min(p.Policy.MaxStackedSpacers, mostStacked) && c.total+odd.length <= longest {
			c.items[c.n] = int16(len(from.spacers))
			c.n++
			c.total += odd.length
			c.tolerance += odd.tolerance
			c.widest = max(c.widest, odd.outer)
			with.choices = append(with.choices, c)
		}
	}
	s.more = with.choices
	if len(with.choices) > mostChoices {
		return false
	}
	s.begin(p, with, shared, effortToExplain)
	without := make([]list, len(p.Groups))
	s.choices = from.choices
	for i := range p.Groups {
		without[i] = s.list(i)
	}
	s.choices, s.first = with.choices, len(from.choices)
	// The hardest first: a group that nothing fits without the spacer needs it.
	for _, alone := range []bool{true, false} {
		for i := range p.Groups {
			if (len(without[i].all) == 0) != alone {
				continue
			}
			s.room[i].all = s.candidates(append(s.room[i].all[:0], without[i].all...), i)
			if s.over() || len(s.room[i].all) == 0 {
				return false
			}
			s.found[i] = list{all: s.room[i].all}
		}
	}
	s.distances()
	return s.run(false, p.Policy.LeanMax, p.Policy.TwistMax) && !s.over()
}
