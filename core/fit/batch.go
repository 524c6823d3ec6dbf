package fit

import (
	"runtime"
	"sync/atomic"

	"nexufix/core/catalog"
	"nexufix/core/stack"
	"nexufix/core/workers"
)

// batch judges many displays on many brackets. Their stacks are solved before they are judged, one
// bracket after another, so that the searches with its kit share what they find; then they are judged
// one display after another.
type batch struct {
	brackets []*catalog.Bracket
	turn     catalog.Turn
	extra    Extra
	policy   *catalog.Policy
	cache    *stack.Cache       // nil: nothing is remembered, and nothing solved before
	kits     []stack.KitNumbers // by bracket
}

func newBatch(brackets []*catalog.Bracket, turn catalog.Turn, extra Extra, policy *catalog.Policy, cache *stack.Cache) *batch {
	b := &batch{brackets, turn, extra, policy, cache, make([]stack.KitNumbers, len(brackets))}
	for j, x := range brackets {
		b.kits[j] = cache.KitNumbers(x)
	}
	return b
}

// prepare makes subjects of displays and solves their stacks. Where lacking is given, by display and
// bracket, it is of those pairings only, and a display without any has no subject.
func (b *batch) prepare(displays []*catalog.Display, lacking func(i, j int) bool) []*subject {
	subjects := make([]*subject, len(displays))
	workers.Each(len(displays), func(i int) {
		for j, x := range b.brackets {
			if lacking != nil && !lacking(i, j) {
				continue
			}
			if subjects[i] == nil {
				subjects[i] = newSubject(displays[i], b.turn, b.extra, b.policy, b.cache)
			}
			for pattern := range subjects[i].display.Patterns {
				subjects[i].layout(pattern, x) // from here on it is only read
			}
		}
	})
	if b.cache != nil {
		b.share(len(b.brackets), func(solver *stack.Solver, _ *[2]Pairing, j int) {
			for i, s := range subjects {
				if !b.extra.Work.Gone() && (lacking == nil || lacking(i, j)) {
					s.prepare(b.brackets[j], b.kits[j], solver)
				}
			}
		})
	}
	return subjects
}

// share does something for 0 … n−1 on all cores, each with a solver and a room of its own.
func (b *batch) share(n int, do func(solver *stack.Solver, room *[2]Pairing, i int)) {
	var next atomic.Int64
	var all workers.Group
	for range min(n, runtime.GOMAXPROCS(0)) {
		all.Go(func() {
			solver, room := b.cache.NewSolver(), new([2]Pairing)
			for i := int(next.Add(1)) - 1; i < n; i = int(next.Add(1)) - 1 {
				do(solver, room, i)
			}
		})
	}
	all.Wait()
}
