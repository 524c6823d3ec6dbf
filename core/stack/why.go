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
	Figure quantity.Length // Shallow: thread depth needed; Spacer: length that would do
	Lean   float64         // for Lean: degrees
}

// The kinds of obstacle.
const (
	Shallow     = "shallow" // a thread depth below what engagement and clearance need
	TightHead   = "head"    // the head does not fit behind the plate
	TooMuchLean = "lean"    // the bracket would lean too far
	NarrowDisc  = "narrow"  // no washer or spacer is wide enough for the slot
	OddSpacer   = "spacer"  // one spacer of a length nobody stocks
	Several     = "several" // more than one thing is in the way
)

// Why names what stands in the way of a problem that has no stack, by trying
// each remedy alone.
func Why(p Problem) Obstacle {
	lim := p.limits()
	need := lim.engagementMin + lim.clearanceMin
	var shallow []string
	for i := range p.Groups {
		if p.Groups[i].ThreadDepth < need {
			shallow = append(shallow, p.Groups[i].IDs()...)
		}
	}
	if shallow != nil {
		return Obstacle{Kind: Shallow, Holes: shallow, Figure: need}
	}
	try := p
	try.HeadRoom = quantity.Optional[quantity.Length]{}
	if p.HeadRoom.Known && Solve(try).Best != nil {
		return Obstacle{Kind: TightHead}
	}
	try = p
	try.Policy.LeanMax = 45 * quantity.Degree
	if st := Solve(try).Best; st != nil {
		return Obstacle{Kind: TooMuchLean, Lean: st.Lean}
	}
	try = p
	try.Slot = p.Thread.Standard().ClearanceHole - try.Policy.WasherOverlap
	if Solve(try).Best != nil {
		return Obstacle{Kind: NarrowDisc}
	}
	try = p
	wide := max(p.Policy.StockSpacerOuter, p.Slot+p.Policy.WasherOverlap)
	for mm := int64(1); mm <= 60; mm++ {
		try.Kit = append(p.Kit[:len(p.Kit):len(p.Kit)], catalog.Item{
			Kind: "spacer", Threads: []fastener.Thread{p.Thread}, Length: quantity.MM(mm), Outer: wide, Count: 1})
		if Solve(try).Best != nil {
			return Obstacle{Kind: OddSpacer, Figure: quantity.MM(mm)}
		}
	}
	return Obstacle{Kind: Several}
}
