package steps

import (
	"slices"

	"nexufix/core/catalog"
)

// Need is a step that must come before another, and why.
type Need struct{ Step, Why string }

// after converts pairs of steps and reasons to needs.
func after(pairs ...string) []Need {
	var out []Need
	for i := 0; i+1 < len(pairs); i += 2 {
		out = append(out, Need{pairs[i], pairs[i+1]})
	}
	return out
}

// ordered sorts the steps topologically: each step after those it needs, and of those that could be next
// the one that practitioners take first, which is the given order, by stage. Needs
// for absent steps are ignored. Steps in a cycle come
// last, in the given order; [Sequence.Faults] names them.
func ordered(all []Step) []Step {
	done := make(map[string]bool, len(all))
	left := make([]int, len(all)) // by number: a step is large to move
	for i := range all {
		done[all[i].ID], left[i] = false, i
	}
	for i := range all {
		all[i].Needs = slices.DeleteFunc(all[i].Needs, func(n Need) bool { _, there := done[n.Step]; return !there })
	}
	slices.SortStableFunc(left, func(a, b int) int { return stageOf(&all[a]) - stageOf(&all[b]) })
	out := make([]Step, 0, len(all))
	ready := func(i int) bool {
		return !slices.ContainsFunc(all[i].Needs, func(n Need) bool { return !done[n.Step] })
	}
	for len(left) > 0 {
		next := max(0, slices.IndexFunc(left, ready))
		s := &all[left[next]]
		done[s.ID] = true
		out = append(out, *s)
		left = slices.Delete(left, next, next+1)
	}
	return out
}

func stageOf(s *Step) int { return slices.Index(catalog.Stages, s.Stage) }

// insert inserts one of the bracket's own steps after the last step that it needs within its stage,
// or at the stage's end.
func insert(all []Step, s Step) []Step {
	at := -1
	for i := range all {
		if all[i].Stage == s.Stage && slices.ContainsFunc(s.Needs, func(n Need) bool { return n.Step == all[i].ID }) {
			at = i + 1
		}
	}
	if at >= 0 {
		for at < len(all) && all[at].Own && all[at].Stage == s.Stage { // those that came before it
			at++
		}
		return slices.Insert(all, at, s)
	}
	at = len(all)
	for i := range all {
		if stageOf(&all[i]) > stageOf(&s) {
			at = i
			break
		}
	}
	return slices.Insert(all, at, s)
}
