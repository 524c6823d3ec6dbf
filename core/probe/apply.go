package probe

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
)

// Apply is the display with the figures that its holes' trials give in place
// of those it lacks: nominal ones at the middle of what is known, and the
// thread where only one is left. Trials that contradict each other give no
// figures. A display without trials is returned as it is.
func Apply(d *catalog.Display) *catalog.Display {
	tried := func(p catalog.Pattern) bool {
		return slices.ContainsFunc(p.Holes, func(h catalog.Hole) bool { return len(h.Trials) > 0 })
	}
	if !slices.ContainsFunc(d.Patterns, tried) {
		return d
	}
	out := *d
	out.Patterns = slices.Clone(d.Patterns)
	for i := range out.Patterns {
		p := &out.Patterns[i]
		if !tried(*p) {
			continue
		}
		p.Holes = slices.Clone(p.Holes)
		threads := fastener.Threads
		for j := range p.Holes {
			h := &p.Holes[j]
			if len(h.Trials) == 0 {
				continue
			}
			r := Solve(h.Trials, nil)
			if len(r.Conflicts) > 0 {
				continue
			}
			threads = slices.DeleteFunc(slices.Clone(threads), func(t fastener.Thread) bool { return !slices.Contains(r.Threads, t) })
			apply(h, r)
		}
		if p.Thread == fastener.NoThread && len(threads) == 1 {
			p.Thread = threads[0]
		}
	}
	return &out
}

func apply(h *catalog.Hole, r Result) {
	h.Probed = &catalog.Probed{Depth: r.Depth, Recess: r.Recess, ThreadDepth: r.ThreadDepth}
	recess := r.Recess.Middle()
	h.Recess = catalog.Given(recess, catalog.Caller)
	if depth := r.Depth.Middle() - recess; depth > 0 {
		h.ThreadDepth = catalog.Given(depth, catalog.Caller)
	}
}
