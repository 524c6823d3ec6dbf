package fastener

import (
	"cmp"
	"encoding/json"
	"slices"

	"nexufix/core/quantity"
)

// Interval is a closed range of lengths.
type Interval struct{ Min, Max quantity.Length }

// MarshalJSON writes [min, max].
func (i Interval) MarshalJSON() ([]byte, error) {
	return json.Marshal([2]quantity.Length{i.Min, i.Max})
}

// Holds reports whether l lies in the interval.
func (i Interval) Holds(l quantity.Length) bool { return i.Min <= l && l <= i.Max }

// And is what two intervals share, a single point included; false when they share nothing.
func (i Interval) And(o Interval) (Interval, bool) {
	both := Interval{max(i.Min, o.Min), min(i.Max, o.Max)}
	return both, both.Min <= both.Max
}

// Intervals are closed ranges, rising and apart from each other where a function says so.
// Those that build others append to room[:0]: a caller that judges millions of pairings has
// it on its stack; nil will do. What they are given must lie elsewhere.
type Intervals []Interval

// Union sorts intervals and joins those that touch.
func Union(room, all Intervals) Intervals {
	sorted := append(room[:0], all...)
	slices.SortFunc(sorted, func(a, b Interval) int { return cmp.Compare(a.Min, b.Min) })
	out := sorted[:0]
	for _, i := range sorted {
		if n := len(out); n > 0 && i.Min <= out[n-1].Max {
			out[n-1].Max = max(out[n-1].Max, i.Max)
			continue
		}
		out = append(out, i)
	}
	return out
}

// Intersect gives what two unions share, rising, single points included.
func Intersect(room, a, b Intervals) Intervals {
	out := room[:0]
	for len(a) > 0 && len(b) > 0 {
		if both, some := a[0].And(b[0]); some {
			out = append(out, both)
		}
		if a[0].Max < b[0].Max {
			a = a[1:]
		} else {
			b = b[1:]
		}
	}
	return out
}

// Nearest is the place in the intervals that is nearest to another; false when there are
// none. Ties go to the right.
func (all Intervals) Nearest(to quantity.Length) (at quantity.Length, ok bool) {
	for _, i := range all {
		x := min(max(to, i.Min), i.Max)
		if !ok || (x-to).Abs() < (at-to).Abs() || (x-to).Abs() == (at-to).Abs() && x > at {
			at, ok = x, true
		}
	}
	return at, ok
}

// Covered are the places, rising, that at least n of the intervals cover.
func (all Intervals) Covered(n int) Intervals {
	type end struct {
		at   quantity.Length
		step int
	}
	ends := make([]end, 0, 2*len(all))
	for _, i := range all {
		ends = append(ends, end{i.Min, 1}, end{i.Max, -1})
	}
	slices.SortFunc(ends, func(a, b end) int { return cmp.Or(cmp.Compare(a.at, b.at), cmp.Compare(b.step, a.step)) })
	var out Intervals
	depth := 0
	for _, e := range ends {
		depth += e.step
		switch {
		case e.step > 0 && depth == n:
			out = append(out, Interval{e.at, e.at})
		case e.step < 0 && depth == n-1:
			out[len(out)-1].Max = e.at
		}
	}
	return out
}
