package fit

import (
	"runtime"
	"slices"
	"sync/atomic"

	"nexufix/core/catalog"
	"nexufix/core/stack"
	"nexufix/core/workers"
)

// batch judges many displays on many brackets. Their stacks are solved before they are judged, one
// bracket after another, so that the searches with its kit share what they find; then they are judged
// one display after another.
type batch struct {
	cells   bool // only cells are wanted, no findings
	targets []target
	turn    catalog.Turn
	extra   Extra
	policy  *catalog.Policy
	cache   *stack.Cache // nil: nothing is cached or solved in advance
}

// target is a bracket that subjects are judged on.
type target struct {
	bracket *catalog.Bracket
	number  int              // its index in the batch
	used    int              // the rows of a pattern that it uses ([usedBy])
	kits    stack.KitNumbers // in the cache
}

func newTarget(number int, b *catalog.Bracket, cache *stack.Cache) target {
	return target{b, number, usedBy(b), cache.KitNumbers(b)}
}

func newBatch(brackets []*catalog.Bracket, turn catalog.Turn, extra Extra, policy *catalog.Policy, cache *stack.Cache) *batch {
	b := &batch{targets: make([]target, len(brackets)), turn: turn, extra: extra, policy: policy, cache: cache}
	for j, x := range brackets {
		b.targets[j] = newTarget(j, x, cache)
	}
	return b
}

// prepare makes the subjects of displays and solves their stacks. Lacking, if given, selects pairings by display
// and bracket; a display without any has no subject.
func (b *batch) prepare(displays []*catalog.Display, lacking func(i, j int) bool) []*subject {
	subjects := make([]*subject, len(displays))
	workers.Each(len(displays), func(i int) {
		for j := range b.targets {
			if lacking != nil && !lacking(i, j) {
				continue
			}
			if subjects[i] == nil {
				subjects[i] = newSubject(displays[i], b.turn, b.extra, b.policy, b.cache)
			}
			for pattern := range subjects[i].display.Patterns {
				subjects[i].layout(pattern, &b.targets[j]) // from here on it is only read
			}
		}
	})
	if b.cache == nil {
		return subjects
	}
	offers := b.offersOf(subjects)
	b.share(len(b.targets), func(solver *stack.Solver, _ *[2]Pairing, j int) {
		x := &b.targets[j]
		for i := range offers[x.used] {
			o := &offers[x.used][i]
			wanted := func(i int) bool { return lacking == nil || lacking(i, j) }
			if !b.extra.Work.Gone() && slices.ContainsFunc(o.subjects, wanted) {
				stacked := solver.Summary(o.layout, o.known, x.bracket, x.kits)
				if b.cells {
					o.stacked[j] = stacked
				}
			}
		}
	})
	return subjects
}

// offer is a bolt layout that some subjects have in common for brackets that use the same rows, and, for cells,
// the summaries of its stacks, by target.
type offer struct {
	layout   *stack.BoltLayout
	known    *stack.Entry
	subjects []int
	stacked  []stack.Summary
}

// offersOf returns the offers of subjects, by the rows that brackets use.
func (b *batch) offersOf(subjects []*subject) (out [uses][]offer) {
	for used := range out {
		at := map[*stack.Entry]int{}
		for i, s := range subjects {
			if s == nil {
				continue
			}
			for pattern := range s.layouts {
				layout, known := s.layouts[pattern].layout[used], s.layouts[pattern].entry[used]
				if layout == nil || !layout.Solvable() {
					continue
				}
				n, is := at[known]
				if !is {
					n = len(out[used])
					at[known] = n
					o := offer{layout: layout, known: known}
					if b.cells {
						o.stacked = slices.Repeat([]stack.Summary{{Incomplete: true}}, len(b.targets)) // until solved
					}
					out[used] = append(out[used], o)
				}
				out[used][n].subjects = append(out[used][n].subjects, i)
				s.layouts[pattern].stacked[used] = out[used][n].stacked
			}
		}
	}
	return out
}

// share calls do for 0 … n−1 on all cores, each with its own solver and room.
func (b *batch) share(n int, do func(solver *stack.Solver, room *[2]Pairing, i int)) {
	var next atomic.Int64
	var all workers.Group
	for range min(n, runtime.GOMAXPROCS(0)) {
		all.Go(func() {
			solver, room := b.cache.NewSolver(b.policy, b.extra.Work), new([2]Pairing)
			for i := int(next.Add(1)) - 1; i < n; i = int(next.Add(1)) - 1 {
				do(solver, room, i)
			}
		})
	}
	all.Wait()
}
