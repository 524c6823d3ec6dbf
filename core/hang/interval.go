package hang

import (
	"cmp"
	"slices"

	"nexufix/core/fastener"
)

// The functions of this file append to room[:0] and return it: a caller that
// judges millions of pairings keeps the room on its stack. What they are given
// must lie elsewhere.

// few is room for the slots of most arms.
type few [16]fastener.Interval

// union sorts intervals and joins those that touch.
func union(room, all []fastener.Interval) []fastener.Interval {
	sorted := append(room[:0], all...)
	slices.SortFunc(sorted, func(a, b fastener.Interval) int { return cmp.Compare(a.Min, b.Min) })
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

// intersect gives what two unions share, rising, single points included.
func intersect(room, a, b []fastener.Interval) []fastener.Interval {
	out := room[:0]
	for len(a) > 0 && len(b) > 0 {
		i := fastener.Interval{Min: max(a[0].Min, b[0].Min), Max: min(a[0].Max, b[0].Max)}
		if i.Min <= i.Max {
			out = append(out, i)
		}
		if a[0].Max < b[0].Max {
			a = a[1:]
		} else {
			b = b[1:]
		}
	}
	return out
}

// nearestTo are the parts of a union that lie in zone, or, if none do, the
// points that come nearest to it.
func nearestTo(room, all []fastener.Interval, zone fastener.Interval) []fastener.Interval {
	zones := [1]fastener.Interval{zone}
	if in := intersect(room, all, zones[:]); len(in) > 0 {
		return in
	}
	best := room[:0]
	var least int64
	for _, a := range all {
		at, away := a.Max, int64(zone.Min-a.Max)
		if a.Min > zone.Max {
			at, away = a.Min, int64(a.Min-zone.Max)
		}
		if len(best) == 0 || away < least {
			best, least = best[:0], away
		}
		if away == least {
			best = append(best, fastener.Interval{Min: at, Max: at})
		}
	}
	return best
}
