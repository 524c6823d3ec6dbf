package workers

import (
	"sync/atomic"
	"testing"
)

// TestPanicIsTheWaiters: a part that panics ends the work for who waits for it;
// the other parts are done all the same.
func TestPanicIsTheWaiters(t *testing.T) {
	var g Group
	var done atomic.Int64
	for i := range 8 {
		g.Go(func() {
			if i == 3 {
				panic("part 3")
			}
			done.Add(1)
		})
	}
	defer func() {
		if p := recover(); p != "part 3" || done.Load() != 7 {
			t.Errorf("%v, %d parts are done", p, done.Load())
		}
	}()
	g.Wait()
	t.Error("nothing was said of it")
}
