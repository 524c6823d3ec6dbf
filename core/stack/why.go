package stack

import (
	"slices"

	"nexufix/core/quantity"
)

// Obstacle is the one reason why a problem has no stack: without it there would
// be one.
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

// longestOdd is the longest spacer that is worth a try, in whole millimetres.
const longestOdd = 80

// Why finds the obstacle of a problem without a stack, by trying
// each remedy alone.
func Why(p Problem) Obstacle { return p.why(p.newStock(true)) }

func (p *Problem) why(supply *stock) Obstacle {
	x := explainer{supply: supply, lists: &lists{listed: map[listed]list{}}}
	return x.why(p)
}

// explainer finds the obstacle of one problem, with what its remedies share.
type explainer struct {
	supply *stock
	lists  *lists // of the supply
	wider  *stock // the supply with discs that are too narrow for the slot; nil: not yet made
	odd    *stock // the supply with one more spacer, at the end; nil: not yet made
	search searcher
}

func (x *explainer) why(p *Problem) Obstacle {
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
	if p.HeadRoom.Known {
		t := *p
		t.HeadRoom.Known = false
		if t.possible(x.supply) {
			return Obstacle{Kind: TightHead}
		}
	}
	hopeless, over := x.hopeless(p)
	if hopeless == nil && !over {
		if o := x.tooUneven(p); o.Kind != "" {
			return o
		}
	}
	t := *p
	t.Slot = p.Thread.Standard().ClearanceHole - p.Policy.WasherOverlap
	if x.wider == nil {
		x.wider = t.newStock(true)
	}
	if len(x.wider.washers)+len(x.wider.spacers) > len(x.supply.washers)+len(x.supply.spacers) && t.possible(x.wider) {
		return Obstacle{Kind: NarrowDisc}
	}
	// The spacer has to bridge the deepest hole and little more, and is not longer
	// than a bolt.
	for mm := 1; mm <= longestOdd && quantity.MM(int64(mm)) <= deepest+12*quantity.Millimetre; mm++ {
		unhelped := func(group int) bool { return !x.reaches(p, group, mm) }
		if !slices.ContainsFunc(hopeless, unhelped) && x.helps(p, mm) {
			return Obstacle{Kind: OddSpacer, Figure: quantity.MM(int64(mm))}
		}
	}
	return Obstacle{Kind: Several}
}

// possible reports whether there is a stack with supplied parts, or, if that is too much to search, from the kit
// alone.
func (p *Problem) possible(supply *stock) bool {
	s := new(searcher)
	found, gaveUp := p.search(supply, nil, false, effortToExplain, s)
	if gaveUp {
		found, _ = p.search(p.newStock(false), nil, false, effortToExplain, s)
	}
	return found != nil
}

// hopeless returns the groups without a candidate of the supply; over means that it was too much to search.
func (x *explainer) hopeless(p *Problem) (groups []int, over bool) {
	if len(x.supply.choices) > maxChoices {
		return nil, true
	}
	s := &x.search
	s.begin(p, x.supply, x.lists, effortToExplain)
	for i := range p.Groups {
		if len(s.list(i).all) == 0 {
			groups = append(groups, i)
		}
	}
	if s.over() {
		return nil, true
	}
	return groups, false
}

// tooUneven returns the obstacle of a problem whose groups have candidates that cannot be combined.
func (x *explainer) tooUneven(p *Problem) Obstacle {
	var kit *stock
	with := func(change func(*Problem)) *Stack {
		try := *p
		change(&try)
		return try.solve(effortToExplain, func(supplied bool) (*stock, *lists) {
			if supplied {
				return x.supply, x.lists
			}
			if kit == nil {
				kit = p.newStock(false)
			}
			return kit, nil
		}, &x.search).best.of(&try)
	}
	if st := with(func(t *Problem) { t.Policy.LeanMax = 45 * quantity.Degree }); st != nil {
		return Obstacle{Kind: TooMuchLean, Lean: st.Lean}
	}
	if st := with(func(t *Problem) { t.Corners.Known = false }); st != nil {
		return Obstacle{Kind: TooMuchTwist, Figure: p.Corners.twist(func(group int) quantity.Length { return st.Groups[group].Plane })}
	}
	return Obstacle{}
}

// effortToExplain is the effort of each try, less than that of a real search.
const effortToExplain = maxEffort / 50

// withOdd prepares a searcher for the supply and an odd spacer of so many millimetres: the choices with it
// come last. It returns false if there are none, or too many.
func (x *explainer) withOdd(s *searcher, p *Problem, mm int) bool {
	from := x.supply
	if len(from.choices) == 0 || len(from.choices) > maxChoices {
		return false
	}
	if x.odd == nil {
		odd := part{outer: max(p.Policy.StockSpacerOuter, p.Slot+p.Policy.WasherOverlap), tolerance: spacerTolerance, suppliable: true,
			each: p.Policy.MaxStackedSpacers}
		x.odd = &stock{parts: from.parts}
		x.odd.spacers = append(slices.Clone(from.spacers), odd)
	}
	odd := &x.odd.spacers[len(from.spacers)]
	if odd.length != quantity.MM(int64(mm)) {
		odd.length = quantity.MM(int64(mm))
		x.odd.choices = append(x.odd.choices[:0], from.choices...)
		longest := p.longestSpacers(&from.parts)
		for _, c := range from.choices {
			for c.n < min(p.Policy.MaxStackedSpacers, maxStacked) && c.total+odd.length <= longest {
				c.items[c.n] = int16(len(from.spacers))
				c.n++
				c.total += odd.length
				c.tolerance += odd.tolerance
				c.widest = max(c.widest, odd.outer)
				x.odd.choices = append(x.odd.choices, c)
			}
		}
	}
	if len(x.odd.choices) > maxChoices {
		return false
	}
	s.begin(p, x.odd, x.lists, effortToExplain)
	s.first = len(from.choices)
	return true
}

// reaches reports whether a group without a candidate of the supply has one with an odd spacer.
func (x *explainer) reaches(p *Problem, group, mm int) bool {
	s := &x.search
	if !x.withOdd(s, p, mm) {
		return false
	}
	s.room[group].all = s.candidates(s.room[group].all[:0], group)
	return len(s.room[group].all) > 0
}

// helps reports whether there is a stack with an odd spacer.
func (x *explainer) helps(p *Problem, mm int) bool {
	s := &x.search
	s.begin(p, x.supply, x.lists, effortToExplain)
	without, effort := make([]list, len(p.Groups)), s.effort
	for i := range p.Groups {
		without[i] = s.list(i)
	}
	effort -= s.effort
	if !x.withOdd(s, p, mm) {
		return false
	}
	s.effort -= effort
	for i := range p.Groups {
		s.room[i].all = s.candidates(append(s.room[i].all[:0], without[i].all...), i)
		if s.over() || len(s.room[i].all) == 0 {
			return false
		}
		s.found[i] = list{all: s.room[i].all}
	}
	s.distances()
	return s.run(false, p.Policy.LeanMax, p.Policy.TwistMax) && !s.over()
}
