// Package probe works out a threaded hole from trial bolts: someone at the
// other end of the telephone has the display, a bag of bolts and a ruler, and
// tells what happened.
//
// For a bolt of length L with parts of thickness u under its head, and a gap g
// left between the lowest of them and the rim (negative when the head sinks
// into the cup), x = L − u − g is how deep the tip went below the rim. With r
// the recess, D the thread depth, τ the trial's tolerance and P the pitch:
//
//	rests     r = x ± τ                 pushed in without turning, on the insert
//	stopped   r + D = x ± τ             went tight short of the rim
//	seated    r + D ≥ x − τ             still turned freely when the head came to rest
//	too_big   that thread and every larger one are out
//	too_small, loose   that thread and every smaller one are out
//	N turns   r = x − N·P ± (P + τ); stopped D = N·P ± P, seated D ≥ N·P − P
//
// Nothing is averaged: every trial narrows the intervals, and trials that
// contradict each other are named (practice; the thread decision follows the
// limits of ISO 965: an M5 bolt of 4.976 mm can catch in an M6 hole of 4.917).
package probe

import (
	"fmt"
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

const (
	tolerance    = quantity.Millimetre     // of a trial, when none is given: a ruler
	crossThread  = 3 * quantity.Millimetre // a stop so much short of another hints at a crossed thread
	enough       = quantity.Millimetre     // a depth known this well needs no other trial
	shortestStep = 4 * quantity.Millimetre // a next trial learns at least this much
)

// Span is what is known of a length: an end that is open is not known. A low
// end is never open, for no depth is below 0.
type Span = catalog.Span

// Result is what all trials together give.
type Result struct {
	Threads     []fastener.Thread // still possible, rising
	Depth       Span              // r + D, rim to where a bolt bottoms
	Recess      Span              // r
	ThreadDepth Span              // D
	Conflicts   []Conflict
	Hints       []quantity.Phrase
	Next        *Next // nil when nothing more is to be learnt
}

// Conflict is trials, by index, that cannot all be right.
type Conflict struct {
	Trials []int
	Text   quantity.Phrase
}

// Next is the trial to make next.
type Next struct {
	Thread  fastener.Thread
	Length  quantity.Length
	Outcome catalog.Outcome // rests, when it is to be pushed in without turning
	Why     quantity.Phrase
}

// known is what one trial, or several, say.
type known struct {
	threads                    []fastener.Thread
	depth, recess, threadDepth Span
}

func nothing() known { return known{threads: fastener.Threads} }

// Solve puts trials together. The kit is what the caller has in hand; without
// bolts in it the next trial is of the lengths the trade stocks. Trials that
// contradict others are left out of the figures until that is settled.
func Solve(trials []catalog.Trial, kit []catalog.Item) Result {
	var out Result
	out.Conflicts = conflicts(trials)
	bad := map[int]bool{}
	for _, c := range out.Conflicts {
		for _, i := range c.Trials {
			bad[i] = true
		}
	}
	var good []catalog.Trial
	for i, t := range trials {
		if !bad[i] {
			good = append(good, t)
		}
	}
	k, _ := together(good)
	out.Threads, out.Depth, out.Recess, out.ThreadDepth = k.threads, k.depth, k.recess, k.threadDepth
	out.Hints = crossed(trials, bad)
	out.Next = next(&out, good, kit)
	return out
}

// said is what one trial says alone.
func said(t catalog.Trial) known {
	k := nothing()
	tau := t.Tolerance.Or(tolerance)
	pitch := t.Thread.Standard().Pitch
	gap := t.Gap
	switch t.Outcome {
	case catalog.TooBig:
		k.threads = keep(func(x fastener.Thread) bool { return x < t.Thread })
		return k
	case catalog.TooSmall, catalog.Loose:
		k.threads = keep(func(x fastener.Thread) bool { return x > t.Thread })
		return k
	case catalog.Stopped, catalog.Seated:
		k.threads = []fastener.Thread{t.Thread}
		if t.Outcome == catalog.Seated && !gap.Known {
			gap = quantity.Some(quantity.Length(0)) // the head came to rest
		}
	}
	x := t.Length - t.UnderHead - gap.Value
	if gap.Known {
		switch t.Outcome {
		case catalog.Rests:
			k.recess = within(x, tau)
		case catalog.Stopped:
			k.depth = within(x, tau)
		case catalog.Seated:
			k.depth = atLeast(x - tau)
		}
	}
	if t.Turns.Known && (t.Outcome == catalog.Stopped || t.Outcome == catalog.Seated) {
		engaged := t.Turns.Value.Of(pitch)
		if gap.Known {
			k.recess = within(x-engaged, pitch+tau)
		}
		if t.Outcome == catalog.Stopped {
			k.threadDepth = within(engaged, pitch)
		} else {
			k.threadDepth = atLeast(engaged - pitch)
		}
	}
	return k
}

func keep(ok func(fastener.Thread) bool) []fastener.Thread {
	return slices.DeleteFunc(slices.Clone(fastener.Threads), func(t fastener.Thread) bool { return !ok(t) })
}

func within(x, by quantity.Length) Span {
	return Span{Low: max(0, x-by), High: quantity.Some(x + by)}
}

func atLeast(x quantity.Length) Span { return Span{Low: max(0, x)} }

func both(a, b Span) Span {
	out := Span{Low: max(a.Low, b.Low), High: a.High}
	if b.High.Known && (!a.High.Known || b.High.Value < a.High.Value) {
		out.High = b.High
	}
	return out
}

func empty(s Span) bool { return s.High.Known && s.High.Value < s.Low }

// together intersects what trials say, and what is on record, and lets the three figures bound each
// other: r, D ≥ 0, r + D ≥ each, D = (r + D) − r. It is false when nothing is
// left.
func together(trials []catalog.Trial, recorded ...known) (known, bool) {
	k := nothing()
	for _, r := range recorded {
		k.depth, k.recess, k.threadDepth = both(k.depth, r.depth), both(k.recess, r.recess), both(k.threadDepth, r.threadDepth)
	}
	for _, t := range trials {
		s := said(t)
		k.threads = slices.DeleteFunc(slices.Clone(k.threads), func(x fastener.Thread) bool { return !slices.Contains(s.threads, x) })
		k.depth, k.recess, k.threadDepth = both(k.depth, s.depth), both(k.recess, s.recess), both(k.threadDepth, s.threadDepth)
	}
	for range 4 { // more changes nothing
		k.depth = both(k.depth, sum(k.recess, k.threadDepth))
		k.recess = both(k.recess, less(k.depth, k.threadDepth))
		k.threadDepth = both(k.threadDepth, less(k.depth, k.recess))
	}
	return k, len(k.threads) > 0 && !empty(k.depth) && !empty(k.recess) && !empty(k.threadDepth)
}

func sum(a, b Span) Span {
	out := Span{Low: a.Low + b.Low}
	if a.High.Known && b.High.Known {
		out.High = quantity.Some(a.High.Value + b.High.Value)
	}
	return out
}

func less(a, b Span) Span {
	var out Span
	if b.High.Known {
		out.Low = max(0, a.Low-b.High.Value)
	}
	if a.High.Known {
		out.High = quantity.Some(a.High.Value - b.Low)
	}
	return out
}

// conflicts finds the smallest sets of trials that cannot all be right:
// single ones, then pairs, then, if still nothing explains it, triples.
func conflicts(trials []catalog.Trial) []Conflict {
	if _, ok := together(trials); ok {
		return nil
	}
	var out []Conflict
	odd := map[int]bool{}
	for i, t := range trials {
		if _, ok := together([]catalog.Trial{t}); !ok {
			odd[i] = true
			text := quantity.Say("Trial %v contradicts itself: that many turns go deeper than it went.", i+1)
			if len(said(t).threads) == 0 {
				text = quantity.Say("Trial %v (%v %v) leaves no thread that displays have.", i+1, t.Thread, words(t.Outcome))
			}
			out = append(out, Conflict{[]int{i}, text})
		}
	}
	for i := range trials {
		for j := range i {
			if odd[i] || odd[j] {
				continue
			}
			if _, ok := together([]catalog.Trial{trials[j], trials[i]}); !ok {
				out = append(out, Conflict{[]int{j, i}, disagree(trials, j, i)})
			}
		}
	}
	for i := range trials {
		for j := range i {
			for l := range j {
				if out != nil || odd[i] || odd[j] || odd[l] {
					continue
				}
				if _, ok := together([]catalog.Trial{trials[l], trials[j], trials[i]}); !ok {
					out = append(out, Conflict{[]int{l, j, i}, quantity.Say("Trials %v, %v and %v cannot all be right.", l+1, j+1, i+1)})
				}
			}
		}
	}
	slices.SortFunc(out, func(a, b Conflict) int { return slices.Compare(a.Trials, b.Trials) })
	return out
}

func disagree(trials []catalog.Trial, i, j int) quantity.Phrase {
	a, b := trials[i], trials[j]
	if text, ok := crossedPair(trials, i, j); ok {
		return text
	}
	sa, sb := said(a), said(b)
	common := slices.ContainsFunc(sa.threads, func(t fastener.Thread) bool { return slices.Contains(sb.threads, t) })
	if !common {
		return quantity.Say("Trial %v (%v %v) and trial %v (%v %v) cannot both be right: no thread is left.", i+1, a.Thread, words(a.Outcome),
			j+1, b.Thread, words(b.Outcome))
	}
	return quantity.Say("Trial %v (%v %v) and trial %v (%v %v) give depths that do not agree.", i+1, a.Thread, words(a.Outcome), j+1,
		b.Thread, words(b.Outcome))
}

func words(o catalog.Outcome) string { return strings.ReplaceAll(o.String(), "_", " ") }

// crossed says which stops hint at a crossed thread without a contradiction.
func crossed(trials []catalog.Trial, bad map[int]bool) []quantity.Phrase {
	var out []quantity.Phrase
	for i := range trials {
		for j := range i {
			if text, ok := crossedPair(trials, j, i); ok && !(bad[i] && bad[j]) {
				out = append(out, text)
			}
		}
	}
	return out
}

// crossedPair: a stop more than 3 mm short of another with the same thread.
func crossedPair(trials []catalog.Trial, i, j int) (quantity.Phrase, bool) {
	a, b := trials[i], trials[j]
	if a.Outcome != catalog.Stopped || b.Outcome != catalog.Stopped || a.Thread != b.Thread || !a.Gap.Known || !b.Gap.Known {
		return quantity.Phrase{}, false
	}
	xa, xb := a.Length-a.UnderHead-a.Gap.Value, b.Length-b.UnderHead-b.Gap.Value
	short, long, by := i, j, xb-xa
	if by < 0 {
		short, long, by = j, i, -by
	}
	if by <= crossThread {
		return quantity.Phrase{}, false
	}
	return quantity.Say("Trial %v stopped %v short of trial %v with the same thread: it may be crossed. Take it out, turn it backwards "+
		"until it drops in, and start again by hand.", short+1, by, long+1), true
}

// next proposes the trial that leaves the narrowest depth whatever comes of
// it; before that, what thread it is; and, when a spacer may be needed, how
// deep the cup is.
func next(r *Result, trials []catalog.Trial, kit []catalog.Item) *Next {
	if len(r.Conflicts) > 0 || len(r.Threads) == 0 {
		return nil
	}
	if len(r.Threads) > 1 {
		t := r.Threads[(len(r.Threads)-1)/2]
		bolts := lengths(kit, t)
		if len(bolts) == 0 {
			return nil
		}
		return &Next{Thread: t, Length: bolts[0],
			Why: quantity.Say("It tells the thread: %v are still possible. Start it by hand; never force it.", threadList(r.Threads))}
	}
	t := r.Threads[0]
	bolts := lengths(kit, t)
	if len(bolts) == 0 {
		return nil
	}
	spacers := slices.ContainsFunc(kit, func(i catalog.Item) bool { return i.Kind == catalog.Spacer && i.Passes(t) })
	gaveRecess := slices.ContainsFunc(trials, func(x catalog.Trial) bool {
		return x.Outcome == catalog.Rests && x.Gap.Known || x.Turns.Known && (x.Outcome == catalog.Stopped || x.Outcome == catalog.Seated)
	})
	if spacers && !gaveRecess {
		return &Next{Thread: t, Length: bolts[len(bolts)-1], Outcome: catalog.Rests,
			Why: quantity.Say("Push it in without turning until it rests on the thread, and measure the gap under its head: the rest of its " +
				"length is how deep the recess is. A spacer may have to go there.")}
	}
	if r.Depth.High.Known && r.Depth.High.Value-r.Depth.Low <= enough {
		return nil
	}
	if !r.Depth.High.Known {
		for _, l := range bolts {
			if l >= r.Depth.Low+shortestStep {
				return &Next{Thread: t, Length: l, Why: quantity.Say("Nothing has stopped yet: turn it in by hand until it stops or its head is down.")}
			}
		}
		return nil
	}
	best, narrowest := quantity.Length(0), r.Depth.High.Value-r.Depth.Low
	for _, l := range bolts {
		if left := max(min(l, r.Depth.High.Value)-r.Depth.Low, r.Depth.High.Value-max(l, r.Depth.Low)); left < narrowest {
			best, narrowest = l, left
		}
	}
	if best == 0 {
		return nil
	}
	return &Next{Thread: t, Length: best, Why: quantity.Say("Whether it stops or its head comes down, the depth is then known within %v.",
		narrowest)}
}

// lengths are the bolts of a thread in the kit, rising, else those of the
// trade.
func lengths(kit []catalog.Item, t fastener.Thread) []quantity.Length {
	var out []quantity.Length
	for _, i := range kit {
		if i.Kind == catalog.Bolt && i.Thread == t && !slices.Contains(out, i.Length) {
			out = append(out, i.Length)
		}
	}
	slices.Sort(out)
	if out == nil {
		return t.SuppliedLengths()
	}
	return out
}

func threadList(all []fastener.Thread) string {
	names := make([]string, len(all))
	for i, t := range all {
		names[i] = fmt.Sprint(t)
	}
	return strings.Join(names, ", ")
}
