package stack

import (
	"context"
	"sync/atomic"
)

// Work limits the work of one request, counted in steps of the search and not
// in time, so that the answer is the same on every machine; it ends when the client
// leaves. It is safe for concurrent use. The nil Work has no limit.
type Work struct {
	ctx    context.Context
	most   int64
	left   atomic.Int64
	cut    atomic.Bool
	solved *Answers // nil: nothing is cached
}

// NewWork returns a request's work of so many steps.
func NewWork(ctx context.Context, steps int) *Work {
	w := &Work{ctx: ctx, most: int64(steps)}
	w.left.Store(w.most)
	return w
}

// Remembering makes it store its answers in a cache and use those in it: a
// request that judges the same bolts again, with the arms elsewhere, solves them once.
func (w *Work) Remembering(answers *Answers) *Work {
	w.solved = answers
	return w
}

// Spend takes steps away; false if none are left, or the client has
// left: then the caller leaves the rest out.
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

// Gone reports whether the client has left.
func (w *Work) Gone() bool { return w != nil && w.ctx.Err() != nil }

// Exhausted reports whether something was left out.
func (w *Work) Exhausted() bool { return w != nil && w.cut.Load() }

// Spent returns how many steps were taken.
func (w *Work) Spent() int {
	if w == nil {
		return 0
	}
	return int(w.most - w.left.Load())
}

// limit returns the limit of a search that also has its own.
func (w *Work) limit(own int) int {
	if w == nil {
		return own
	}
	return int(max(0, min(int64(own), w.left.Load())))
}

// solve solves a problem, or returns the cached answer.
func (w *Work) solve(p *Problem) Answer {
	if w == nil || w.solved == nil {
		return p.solve(maxEffort, p.stock, new(searcher)).of(p)
	}
	key := p.key()
	if a, known := w.solved.get(key); known {
		return a
	}
	a := p.solve(maxEffort, p.stock, new(searcher)).of(p)
	if !w.Exhausted() { // else it may be incomplete
		w.solved.put(key, a)
	}
	return a
}
