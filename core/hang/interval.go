package hang

import (
	"cmp"
	"slices"

	"nexufix/core/fastener"
)

// union sorts intervals and joins those that touch.
func union(all []fastener.Interval) []fastener.Interval {
	sorted := slices.Clone(all)
	slices.SortFunc(sorted, func(a, b fastener.Interval) int { return cmp.Compare(a.Min, b.Min) })
	var out []fastener.Interval
	for _, i := range sorted {
		if n := len(out); n > 0 && i.Min <= out[n-1].Max {
			out[n-1].Max = max(out[n-1].Max, i.Max)
			continue
		}
		out = append(out, i)
	}
	return out
}

// intersect gives what two sets of intervals share, rising, single points
// included.
func intersect(a, b []fastener.Interval) []fastener.Interval {
	var out []fastener.Interval
	for _, x := range a {
		for _, y := range b {
			i := fastener.Interval{Min: max(x.Min, y.Min), Max: min(x.Max, y.Max)}
			if i.Min <= i.Max {
				out = append(out, i)
			}
		}
	}
	return union(out)
}
