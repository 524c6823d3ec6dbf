package studs

import (
	"cmp"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Pair is two equal plates at the same height, a separation
// apart: the middle of their datums is where a single plate's datum would be.
type Pair struct {
	Plate
	Separation fastener.Interval
	Width      quantity.Length // the preferred separation: the pattern's width
}

// FixedPair is the place of both plates, the left one first.
type FixedPair struct {
	Middle, Separation quantity.Length
	Plates             [2]Fixed
}

// Fix finds the places of both plates: their middle nearest to the wanted
// place, ties to the right, then the separation nearest to the pattern's
// width. It is exact: the places of one plate are intervals, and two intervals give
// an interval of middles.
func (p *Pair) Fix(kind catalog.WallType, studs []Stud) (FixedPair, bool) {
	reach := p.Slide + p.Separation.Max/2
	if p.Slide < 0 || p.Separation.Max < p.Separation.Min || p.Studs > len(studs) {
		return FixedPair{}, false
	}
	where := p.Plate.Places(kind, studs, p.Pattern-reach, p.Pattern+reach)
	best, found := FixedPair{}, false
	for _, left := range where {
		for _, right := range where {
			lo := max((left.Min+right.Min+1)/2, left.Min+p.Separation.Min/2, right.Min-p.Separation.Max/2, p.Pattern-p.Slide)
			hi := min((left.Max+right.Max)/2, left.Max+p.Separation.Max/2, right.Max-p.Separation.Min/2, p.Pattern+p.Slide)
			if lo > hi {
				continue
			}
			m := min(max(p.Wanted, lo), hi)
			s := min(max(p.Width, p.Separation.Min, 2*(m-left.Max), 2*(right.Min-m)), p.Separation.Max, 2*(m-left.Min), 2*(right.Max-m))
			s -= s % 2 // so that both datums are whole
			if one := (FixedPair{Middle: m, Separation: s}); !found || p.nearer(one, best) {
				best, found = one, true
			}
		}
	}
	if !found {
		return FixedPair{}, false
	}
	p.effort = maxEffort
	for i, datum := range []quantity.Length{best.Middle - best.Separation/2, best.Middle + best.Separation/2} {
		f, ok := p.at(kind, studs, datum)
		if !ok {
			return FixedPair{}, false
		}
		best.Plates[i] = f
	}
	return best, true
}

func (p *Pair) nearer(a, b FixedPair) bool {
	return cmp.Or(
		cmp.Compare((a.Middle-p.Wanted).Abs(), (b.Middle-p.Wanted).Abs()),
		cmp.Compare(b.Middle, a.Middle),
		cmp.Compare((a.Separation-p.Width).Abs(), (b.Separation-p.Width).Abs()),
	) < 0
}

// Places returns the intervals in which the middle of both plates can be, from left
// to right.
func (p *Pair) Places(kind catalog.WallType, studs []Stud, lo, hi quantity.Length) fastener.Intervals {
	where := p.Plate.Places(kind, studs, lo-p.Separation.Max/2, hi+p.Separation.Max/2)
	var all fastener.Intervals
	for _, left := range where {
		for _, right := range where {
			m := fastener.Interval{
				Min: max((left.Min+right.Min+1)/2, left.Min+p.Separation.Min/2, right.Min-p.Separation.Max/2, lo),
				Max: min((left.Max+right.Max)/2, left.Max+p.Separation.Max/2, right.Max-p.Separation.Min/2, hi),
			}
			if m.Min <= m.Max {
				all = append(all, m)
			}
		}
	}
	return all.Covered(1)
}
