package stack

import (
	"context"
	"sync/atomic"
)

// Work is what one request may still do, counted in steps of the search and not
// in time, so that it comes to the same on every machine; a client that leaves
// ends it. It is safe for concurrent use. The nil Work has no end.
type Work struct {
	ctx    context.Context
	most   int64
	left   atomic.Int64
	cut    atomic.Bool
	solved *Answers // nil: nothing is remembered
}

// NewWork is a request's work, of so many steps.
func NewWork(ctx context.Context, steps int) *Work {
	w := &Work{ctx: ctx, most: int64(steps)}
	w.left.Store(w.most)
	return w
}

// Remembering makes it remember what it has solved, and take what others have: a
// request that judges the same bolts again, with the arms elsewhere, solves them once.
func (w *Work) Remembering(answers *Answers) *Work {
	w.solved = answers
	return w
}

// Spend takes steps away; false when there are none left, or nobody waits for the
// answer any more. What would come next is to be left out then.
func (w *Work) Spend(steps int) bool {
	if w == nil {
		return true
	}
	if w.left.Add(-int64(steps)) < 0 || w.ctx.Err() != nil {
		w.cut.Store(true)
		return false
	}
	return true
}

// Gone says that nobody waits for the answer any more.
func (w *Work) Gone() bool { return w != nil && w.ctx.Err() != nil }

// Exhausted says whether something was left out.
func (w *Work) Exhausted() bool { return w != nil && w.cut.Load() }

// Spent is how many steps were taken.
func (w *Work) Spent() int {
	if w == nil {
		return 0
	}
	return int(w.most - w.left.Load())
}

// limit is how many steps a search may take that has its own limit.
func (w *Work) limit(own int) int {
	if w == nil {
		return own
	}
	return int(max(0, min(int64(own), w.left.Load())))
}

// solve solves a problem, unless it has been solved before.
func (w *Work) solve(p *Problem) Answer {
	if w == nil || w.solved == nil {
		return p.solve(mostEffort, p.stock, nil).of(p, nil)
	}
	key := p.key()
	if a, known := w.solved.get(key); known {
		return a
	}
	a := p.solve(mostEffort, p.stock, nil).of(p, nil)
	if !w.Exhausted() { // else it may not be all of it
		w.solved.put(key, a)
	}
	return a
}
