package stack

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

// problemByLot is a display on a bracket with a policy, drawn by lot, with what the arms pass over.
type problemByLot struct {
	Display *catalog.Display
	Bracket *catalog.Bracket
	Policy  *catalog.Policy
	Under   Under
	Wide    quantity.Length
	turn    catalog.Turn
}

func drawProblem(n int) *problemByLot {
	r := rand.New(rand.NewPCG(41, uint64(n)))
	d, b, _, policy := catalogtest.Drawn(r)
	catalogtest.Holes(r, d, b)
	some := func(all ...int64) quantity.Length { return mm(float64(all[r.IntN(len(all))])) }
	out := &problemByLot{Display: d, Bracket: b, Policy: &policy, Wide: some(0, 0, 10, 18, 26)}
	out.turn = catalog.Turns[r.IntN(len(catalog.Turns))]
	if r.IntN(3) == 0 {
		out.Under = Under{StandsOut: some(0, 2, 9), Pocket: Pocket(r.IntN(4)), Depth: some(0, 3, 6)}
	}
	if r.IntN(3) == 0 {
		b.HeadRoom = quantity.Some(some(3, 4, 6, 9))
	}
	b.Dimpled = r.IntN(3) == 0
	if r.IntN(2) == 0 {
		b.Kit = append(b.Kit, catalog.Item{Kind: catalog.Bolt, Thread: fastener.Threads[1+r.IntN(3)], Length: some(12, 16, 20, 30), Count: 4,
			Head: catalog.BoltHeads[r.IntN(len(catalog.BoltHeads))], ThreadLength: some(0, 0, 8, 14)},
			catalog.Item{Kind: catalog.ShoulderWasher, Thread: fastener.Threads[1+r.IntN(3)], Length: some(2, 4), Outer: some(14, 20), Count: 4})
	}
	for i := range d.Patterns {
		for j := range d.Patterns[i].Holes {
			h := &d.Patterns[i].Holes[j]
			if r.IntN(12) == 0 {
				h.Probed = &catalog.Probed{Depth: catalog.Span{Low: some(8, 12), High: quantity.Some(some(14, 20))},
					Recess: catalog.Span{High: quantity.Some(some(0, 4))}, ThreadDepth: catalog.Span{Low: some(6, 8), High: quantity.Some(some(12, 16))}}
			}
			h.ThreadDepth.Known = h.ThreadDepth.Known && r.IntN(40) > 0
		}
	}
	return out
}

// answer is everything that is said of the problem, by what it is said of.
func (q *problemByLot) answer() map[string]string {
	out := map[string]string{}
	for i := range q.Display.Patterns {
		f := NewBoltLayout(q.Display, &q.Display.Patterns[i], q.Bracket, q.turn).Over(q.Under, q.Wide)
		out["solvable"], out["missing"] = fmt.Sprint(f.Solvable()), fmt.Sprint(f.Missing)
		if !f.Solvable() {
			continue
		}
		p := f.On(q.Bracket, *q.Policy)
		a := Solve(p)
		summary := a.Summary()
		out["slack"] = fmt.Sprint(summary.Slack.Known)
		out["found"] = fmt.Sprint(summary.Found, summary.Status, summary.Supplies, summary.Supplied, a.Incomplete, summary.Spacer)
		if a.Best == nil {
			why := Why(p)
			out["why"] = fmt.Sprint(why.Kind, why.Holes)
			continue
		}
		for which, s := range map[string]*Stack{"best": a.Best, "other": a.Alternative} {
			for g := 0; s != nil && g < len(s.Groups); g++ {
				h := &s.Groups[g]
				at := fmt.Sprint(which, " ", g)
				out[at] = fmt.Sprint(h.Bearing, " ", h.Thread, " × ", h.Bolt, " ", h.Head, " ", h.Washers.Count, " ", h.Shoulder, " ", h.Spacers,
					" ", h.Holes)
				out[at+" is"] = h.Status.String()
				out[at+" slack"] = fmt.Sprint(h.Slack.Known)
			}
			if s != nil {
				out[which+" supplied"] = fmt.Sprint(s.Supplied)
			}
		}
	}
	return out
}

// TestTurningPoints: where a figure of a display, a bracket or a policy drawn by lot changes the bolts.
func TestTurningPoints(t *testing.T) {
	lots.TurnWhereTheyDid(t, 70, func(n int) lots.Case {
		q := drawProblem(n)
		return lots.Case{Judge: q.answer, Documents: map[string]any{
			"display": q.Display, "bracket": q.Bracket, "policy": q.Policy, "under": &q.Under, "wide": &q.Wide}}
	})
}
