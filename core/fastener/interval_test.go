package fastener

import (
	"math/rand/v2"
	"testing"

	"nexufix/core/quantity"
)

// TestIntervals compares what is computed of intervals with every single point of them.
func TestIntervals(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 7))
	some := func() (all Intervals) {
		for range r.IntN(5) {
			from := quantity.Length(r.IntN(20))
			all = append(all, Interval{from, from + quantity.Length(r.IntN(6))})
		}
		return all
	}
	count := func(all Intervals, x quantity.Length) (n int) {
		for _, i := range all {
			if i.Holds(x) {
				n++
			}
		}
		return n
	}
	for range 3000 {
		a, b := some(), some()
		one, other := Union(nil, a), Union(nil, b)
		shared, twice := Intersect(nil, one, other), a.Covered(2)
		to := quantity.Length(r.IntN(30))
		near, any := a.Nearest(to)
		for x := quantity.Length(-1); x < 30; x++ {
			if got, want := count(one, x) == 1, count(a, x) > 0; got != want || count(one, x) > 1 {
				t.Fatalf("union of %v is %v: %d is in it %d times, want %v", a, one, x, count(one, x), want)
			}
			if got, want := count(shared, x) > 0, count(a, x) > 0 && count(b, x) > 0; got != want {
				t.Fatalf("%v and %v share %v: want %d in it %v", one, other, shared, x, want)
			}
			if got, want := count(twice, x) > 0, count(a, x) > 1; got != want {
				t.Fatalf("%v covers %v twice: want %d in it %v", a, twice, x, want)
			}
			if count(a, x) > 0 && (!any || (x-to).Abs() < (near-to).Abs()) {
				t.Fatalf("nearest to %d in %v is %d, want %d", to, a, near, x)
			}
		}
	}
}
