package stack

import (
	"nexufix/core/catalog"
	"nexufix/core/fastener"
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
	// A try is cut short where a search for good would go on.
	with := func(change func(*Problem)) *Stack {
		try := p
		change(&try)
		return try.solve(mostEffort/50, try.stock).best.of(&try)
	}
	if p.HeadRoom.Known && with(func(t *Problem) { t.HeadRoom.Known = false }) != nil {
		return Obstacle{Kind: TightHead}
	}
	if st := with(func(t *Problem) { t.Policy.LeanMax = 45 * quantity.Degree }); st != nil {
		return Obstacle{Kind: TooMuchLean, Lean: st.Lean}
	}
	if st := with(func(t *Problem) { t.Corners.Known = false }); st != nil {
		return Obstacle{Kind: TooMuchTwist, Figure: p.Corners.twist(func(group int) quantity.Length { return st.Groups[group].Plane })}
	}
	if with(func(t *Problem) { t.Slot = p.Thread.Standard().ClearanceHole - p.Policy.WasherOverlap }) != nil {
		return Obstacle{Kind: NarrowDisc}
	}
	// A spacer has to bridge the deepest hole, and little more; none is longer
	// than a bolt.
	wide := max(p.Policy.StockSpacerOuter, p.Slot+p.Policy.WasherOverlap)
	for l := quantity.Millimetre; l <= min(deepest+12*quantity.Millimetre, longestOdd); l += quantity.Millimetre {
		odd := catalog.Item{Kind: catalog.Spacer, Threads: []fastener.Thread{p.Thread}, Length: l, Outer: wide, Count: 1}
		if with(func(t *Problem) { t.Kit = append(p.Kit[:len(p.Kit):len(p.Kit)], odd) }) != nil {
			return Obstacle{Kind: OddSpacer, Figure: l}
		}
	}
	return Obstacle{Kind: Several}
}
