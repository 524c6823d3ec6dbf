// Package workers runs parts of one work at the same time. A part that panics
// ends the whole work, where somebody waits for it, and not the process.
package workers

import (
	"runtime"
	"sync"
	"sync/atomic"
)

// Group is a work of several parts. The zero Group is ready.
type Group struct {
	all      sync.WaitGroup
	panicked atomic.Pointer[any]
}

// Go begins a part.
func (g *Group) Go(part func()) {
	g.all.Go(func() {
		defer func() {
			if p := recover(); p != nil {
				g.panicked.CompareAndSwap(nil, &p)
			}
		}()
		part()
	})
}

// Wait waits for all parts, and panics as the first of them did.
func (g *Group) Wait() {
	g.all.Wait()
	if p := g.panicked.Load(); p != nil {
		panic(*p)
	}
}

// Each does something for 0 … n−1, on all cores.
func Each(n int, do func(int)) {
	var next atomic.Int64
	var all Group
	for range min(n, runtime.GOMAXPROCS(0)) {
		all.Go(func() {
			for i := int(next.Add(1)) - 1; i < n; i = int(next.Add(1)) - 1 {
				do(i)
			}
		})
	}
	all.Wait()
}
