package probe

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Apply is the display with the figures that its holes' trials give beside
// those on record: nominal ones at the middle of what both leave, and the
// thread where only one is left. Trials that contradict each other, or what is
// on record, give no figures: the pattern says so. A display without trials is
// returned as it is.
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
		if tried(out.Patterns[i]) {
			applyPattern(&out.Patterns[i])
		}
	}
	return &out
}

func applyPattern(p *catalog.Pattern) {
	p.Holes = slices.Clone(p.Holes)
	p.Contradictions = nil
	against := func(h *catalog.Hole, thread bool, format string, args ...any) {
		p.Contradictions = append(p.Contradictions, catalog.Contradiction{Holes: []string{h.ID}, Thread: thread,
			Text: quantity.Say(format, args...)})
	}
	threads := fastener.Threads
	for j := range p.Holes {
		h := &p.Holes[j]
		if len(h.Trials) == 0 {
			continue
		}
		r := Solve(h.Trials, nil)
		if len(r.Conflicts) > 0 {
			all, _ := together(h.Trials)
			against(h, len(all.threads) == 0, "The trial bolts at %v contradict each other: %v", h.ID, r.Conflicts[0].Text)
			continue
		}
		left := slices.DeleteFunc(slices.Clone(threads), func(t fastener.Thread) bool { return !slices.Contains(r.Threads, t) })
		switch {
		case p.Thread != fastener.NoThread && !slices.Contains(r.Threads, p.Thread):
			against(h, true, "On record the thread is %v, but the trial bolts at %v leave %v.", p.Thread, h.ID, threadList(r.Threads))
		case len(left) == 0:
			against(h, true, "The trial bolts at %v leave %v, those at other holes %v.", h.ID, threadList(r.Threads), threadList(threads))
		default:
			threads = left
		}
		if text, ok := apply(h, &r); !ok {
			against(h, false, "%v", text)
		}
	}
	if p.Thread == fastener.NoThread && len(threads) == 1 {
		p.Thread = threads[0]
	}
}

// apply puts what trials give, held together with what is on record, into a
// hole; false and both in words when these exclude each other.
func apply(h *catalog.Hole, r *Result) (quantity.Phrase, bool) {
	var recorded known
	if h.Recess.Known {
		recorded.recess = within(h.Recess.Length, h.Recess.Tolerance())
	}
	if h.ThreadDepth.Known {
		recorded.threadDepth = within(h.ThreadDepth.Length, h.ThreadDepth.Tolerance())
	}
	k, ok := together(h.Trials, recorded)
	if !ok {
		text := quantity.Say("On record at %v", h.ID)
		if h.Recess.Known {
			text = quantity.Say("%v the recess is %v deep,", text, h.Recess.Length)
		}
		if h.ThreadDepth.Known {
			text = quantity.Say("%v the thread %v,", text, h.ThreadDepth.Length)
		}
		return quantity.Say("%v but the trial bolts give a recess of %v and from the rim to the bottom %v.", text, span(r.Recess),
			span(r.Depth)), false
	}
	h.Probed = &catalog.Probed{Depth: k.depth, Recess: k.recess, ThreadDepth: k.threadDepth}
	recess := k.recess.Middle()
	h.Recess = catalog.Given(recess, catalog.Caller)
	if depth := k.depth.Middle() - recess; depth > 0 {
		h.ThreadDepth = catalog.Given(depth, catalog.Caller)
	}
	return quantity.Phrase{}, true
}

// span writes what is known of a length.
func span(s Span) quantity.Phrase {
	if !s.High.Known {
		return quantity.Say("%v or more", s.Low)
	}
	return quantity.Say("%v to %v", s.Low, s.High.Value)
}
