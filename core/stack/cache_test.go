package stack

import (
	"context"
	"fmt"
	"math/rand/v2"
	"reflect"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// alike are brackets and displays that differ from the drawn ones in one figure each that an answer depends on: a cache that leaves one
// out gives one the other's answer.
func alike(r *rand.Rand, q *problemByLot) (displays []*catalog.Display, brackets []*catalog.Bracket) {
	displays, brackets = append(displays, q.Display), append(brackets, q.Bracket)
	for _, change := range []func(b *catalog.Bracket){
		func(b *catalog.Bracket) { b.PlateThickness += mm(3) },
		func(b *catalog.Bracket) { b.SlotWidth = quantity.Some(b.Slot() + mm(4)) },
		func(b *catalog.Bracket) { b.HeadRoom = quantity.Some(mm(2.5)) },
		func(b *catalog.Bracket) { b.HeadRoom = quantity.Optional[quantity.Length]{} },
		func(b *catalog.Bracket) { b.Dimpled = !b.Dimpled },
		func(b *catalog.Bracket) { b.Kit = b.Kit[:r.IntN(len(b.Kit))] },
		func(b *catalog.Bracket) {
			i := &b.Kit[r.IntN(len(b.Kit))]
			i.Length, i.Thickness, i.Outer = i.Length+mm(2), i.Thickness+mm(0.4), i.Outer+mm(3)
		},
		func(b *catalog.Bracket) { b.Kit[r.IntN(len(b.Kit))].Count = 2 },
		func(b *catalog.Bracket) {
			i := &b.Kit[r.IntN(len(b.Kit))]
			i.ThreadLength, i.Head = mm(8), "countersunk"
		},
	} {
		b := *q.Bracket
		b.Kit = append([]catalog.Item(nil), b.Kit...)
		change(&b)
		brackets = append(brackets, &b)
	}
	for _, change := range []func(d *catalog.Display, h *catalog.Hole){
		func(_ *catalog.Display, h *catalog.Hole) { h.Setback.Length += mm(2) },
		func(_ *catalog.Display, h *catalog.Hole) { h.Recess.Length += mm(2) },
		func(_ *catalog.Display, h *catalog.Hole) { h.RecessDiameter = catalog.Given(mm(17), catalog.Sheet) },
		func(_ *catalog.Display, h *catalog.Hole) { h.RecessDiameter = catalog.Figure{} },
		func(_ *catalog.Display, h *catalog.Hole) { h.ThreadDepth.Length += mm(2) },
		func(_ *catalog.Display, h *catalog.Hole) { h.ThreadDepth.Origin = catalog.Caller },
		func(_ *catalog.Display, h *catalog.Hole) { h.Recess.Known, h.Recess.Length = false, 0 },
		func(_ *catalog.Display, h *catalog.Hole) { h.Setback.Known, h.Setback.Length = false, 0 },
		func(_ *catalog.Display, h *catalog.Hole) { h.X += mm(1) },
		func(d *catalog.Display, _ *catalog.Hole) {
			d.OwnParts = []catalog.Item{{Kind: catalog.Spacer, Threads: fastener.Threads, Length: mm(4), Outer: mm(18), Count: 4}}
		},
		func(d *catalog.Display, _ *catalog.Hole) { d.Patterns[0].Thread = fastener.M8 },
	} {
		d := *q.Display
		d.Patterns = append([]catalog.Pattern(nil), d.Patterns...)
		if len(d.Patterns) == 0 {
			continue
		}
		d.Patterns[0].Holes = append([]catalog.Hole(nil), d.Patterns[0].Holes...)
		change(&d, &d.Patterns[0].Holes[r.IntN(len(d.Patterns[0].Holes))])
		displays = append(displays, &d)
	}
	return displays, brackets
}

// plainSummary is an answer's summary, worked out of the answer alone.
func plainSummary(a *Answer) Summary {
	out := Summary{Incomplete: a.Incomplete}
	s := a.Best
	if s == nil {
		return out
	}
	out.Found, out.Status, out.Nearest, out.Plane, out.Supplies = true, s.Status, s.Groups[0].Plane, s.Groups[0].Plane, len(s.Supplied) > 0
	for _, x := range s.Supplied {
		out.Supplied += x.Count
	}
	slack := quantity.Metre
	for _, h := range s.Groups {
		out.Nearest, out.Plane = min(out.Nearest, h.Plane), max(out.Plane, h.Plane)
		for _, x := range h.Spacers {
			out.Spacer = max(out.Spacer, x.Outer)
		}
		if h.Slack.Known {
			slack = min(slack, h.Slack.Value)
		}
	}
	if slack < quantity.Metre {
		out.Slack = quantity.Some(slack)
	}
	return out
}

// TestRememberedAnswers: out of a cache, out of what a request remembers, or worked out anew, an answer and its summary are the same, for
// problems that are alike but for one figure, in any order and twice.
func TestRememberedAnswers(t *testing.T) {
	found := 0
	for n := range 24 {
		q := drawProblem(n)
		r := rand.New(rand.NewPCG(5, uint64(n)))
		displays, brackets := alike(r, q)
		cache, none, answers := NewCache(true), (*Cache)(nil), NewAnswers(1<<20)
		kits := make([]KitNumbers, len(brackets))
		for i, b := range brackets {
			kits[i] = cache.KitNumbers(b)
		}
		solver, plain := cache.NewSolver(q.Policy, nil), none.NewSolver(q.Policy, nil)
		for range 2 {
			for at := range 3 * len(displays) {
				d, i := displays[at%len(displays)], r.IntN(len(brackets))
				if len(d.Patterns) == 0 {
					continue
				}
				b := brackets[i]
				f := NewBoltLayout(d, &d.Patterns[0], b, q.turn).Over(q.Under, q.Wide)
				if !f.Solvable() {
					continue
				}
				p := f.On(b, *q.Policy)
				want := Solve(p)
				if want.Best != nil {
					found++
				} else if !want.Incomplete && len(p.OwnParts) == 0 {
					why := Why(p)
					want.Why = &why
				}
				name := fmt.Sprintf("problem %d, bracket %d", n, i)
				entry := cache.Entry(f)
				same(t, name+", cached", solver.Solve(f, entry, b, kits[i]), want)
				if got := solver.Summary(f, entry, b, kits[i]); got != plainSummary(&want) {
					t.Errorf("%s: summary %+v, want %+v", name, got, plainSummary(&want))
				}
				if got := plain.Summary(f, nil, b, KitNumbers{}); got != plainSummary(&want) || want.Summary() != got {
					t.Errorf("%s: summary of a plain one %+v, want %+v", name, got, plainSummary(&want))
				}
				p.Work = NewWork(context.Background(), 1<<30).Remembering(answers)
				again := Solve(p)
				again.Why = want.Why
				same(t, name+", remembered", again, want)
			}
		}
		if cache.Distinct() == 0 && found > 0 && n == 0 {
			t.Error("nothing is cached")
		}
	}
	if found < 200 {
		t.Errorf("only %d stacks", found)
	}
}

func same(t *testing.T, name string, got, want Answer) {
	t.Helper()
	if !reflect.DeepEqual(got, want) {
		t.Errorf("%s: %+v, want %+v", name, got, want)
	}
}
