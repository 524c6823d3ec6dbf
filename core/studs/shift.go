package studs

import (
	"cmp"
	"math"
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Plate is a wall plate to be fixed: its requirements for studs, and its possible
// places.
type Plate struct {
	Holes                         []catalog.PlateHole
	Studs, TopPerStud, BotPerStud int
	Diameter                      quantity.Length // of a fastener
	Find                          quantity.Length // the uncertainty of a stud's centre
	Pattern                       quantity.Length // x of the display's pattern centre
	Slide                         quantity.Length // the datum's greatest distance from it, to either side
	Wanted                        quantity.Length // wanted x of the datum: the display's

	effort int // steps that are left: hostile plates are given up on
}

// Point is a place to drill.
type Point struct {
	Hole catalog.PlateHole
	X    quantity.Length // on the wall
	Stud int             // index, -1 for none

	// The part of the stud that the hole allows, and the stud's centre.
	Lo, Hi, Centre quantity.Length
}

// Fixed is a plate's place.
type Fixed struct {
	Datum  quantity.Length
	Studs  []int // the used studs, nearest to the datum first
	Points []Point
}

// Limits of the search, far more than any real plate has: reachable holes
// of a stud in one row, places of the datum, and steps for all of them.
const (
	maxHoles  = 12
	maxPlaces = 600
	maxEffort = 400_000
)

// Fix finds the place of the plate nearest to the wanted one, ties to the
// right, at which the required number of studs each take the required holes of
// both rows. It is exact: it tries all places where the answer can change. False if there is
// none.
func (p *Plate) Fix(kind catalog.WallType, studs []Stud) (Fixed, bool) {
	lo, hi := p.Pattern-p.Slide, p.Pattern+p.Slide
	if hi < lo || p.Studs > len(studs) {
		return Fixed{}, false
	}
	p.effort = maxEffort
	for _, datum := range p.candidates(kind, studs, lo, hi) {
		if f, ok := p.at(kind, studs, datum); ok {
			return f, true
		}
	}
	return Fixed{}, false
}

// candidates returns the places at which the answer can change: the wanted one,
// the ends of the slide, and the ends of the interval that each hole allows at each
// stud, if enough studs have enough holes there; the nearest to the
// wanted first, of equal ones the right one.
func (p *Plate) candidates(kind catalog.WallType, studs []Stud, lo, hi quantity.Length) []quantity.Length {
	studs = p.within(studs, lo, hi)
	enough := p.enough(kind, studs, lo, hi)
	out := []quantity.Length{min(max(p.Wanted, lo), hi), lo, hi}
	for _, s := range studs {
		good := s.UsableHalfWidth(kind, p.Diameter, p.Find)
		if good < 0 {
			continue
		}
		for i := range p.Holes {
			h := &p.Holes[i]
			half := h.Across() / 2
			out = append(out, s.X-good-h.X-half, s.X+good-h.X+half)
			// Where two fasteners in slots of one row are exactly far enough apart.
			for _, o := range p.sharing(i) {
				away := p.away(h, o)
				out = append(out, s.X-good+away-h.X-half, s.X+good-away-h.X+half)
			}
		}
	}
	slices.Sort(out)
	out = slices.Compact(out)
	n := 0
	out = slices.DeleteFunc(out, func(x quantity.Length) bool {
		for n < len(enough) && enough[n].Max < x {
			n++
		}
		return n == len(enough) || x < enough[n].Min
	})
	slices.SortFunc(out, func(a, b quantity.Length) int {
		return cmp.Or(cmp.Compare((a-p.Wanted).Abs(), (b-p.Wanted).Abs()), cmp.Compare(b, a))
	})
	return out[:min(len(out), maxPlaces)]
}

// sharing returns the other holes of a hole's row that can take a fastener on the
// same stud, if a stud takes more than one of the row.
func (p *Plate) sharing(i int) []*catalog.PlateHole {
	h := &p.Holes[i]
	if h.Row == "top" && p.TopPerStud < 2 || h.Row != "top" && p.BotPerStud < 2 || len(p.Holes) > 2*maxHoles {
		return nil
	}
	var out []*catalog.PlateHole
	for j := range p.Holes {
		if o := &p.Holes[j]; j != i && o.Row == h.Row {
			out = append(out, o)
		}
	}
	return out
}

// away returns how far apart horizontally two fasteners must be, to be four diameters
// apart.
func (p *Plate) away(a, b *catalog.PlateHole) quantity.Length {
	need, dy := (apart * p.Diameter).MM(), (a.Y - b.Y).MM()
	if need <= math.Abs(dy) {
		return 0
	}
	return quantity.FromMM(math.Sqrt(need*need-dy*dy)) + quantity.Nanometre
}

// within returns the studs that a hole can reach from a datum between two places.
func (p *Plate) within(studs []Stud, lo, hi quantity.Length) []Stud {
	left, right := p.span()
	by := func(s Stud, x quantity.Length) int { return cmp.Compare(s.X, x) }
	from, _ := slices.BinarySearchFunc(studs, lo+left, by)
	to, _ := slices.BinarySearchFunc(studs, hi+right+1, by)
	return studs[from:max(from, to)]
}

// enough returns the intervals of the datum, from left to right, in which the required
// number of studs have the required number of holes within reach. [Plate.at] checks
// whether these are far enough apart.
func (p *Plate) enough(kind catalog.WallType, studs []Stud, lo, hi quantity.Length) fastener.Intervals {
	var each fastener.Intervals
	for _, s := range studs {
		good := s.UsableHalfWidth(kind, p.Diameter, p.Find)
		var ways [2]fastener.Intervals
		for i := range p.Holes {
			h := &p.Holes[i]
			w := fastener.Interval{Min: max(lo, s.X-good-h.X-h.Across()/2), Max: min(hi, s.X+good-h.X+h.Across()/2)}
			if good < 0 || w.Min > w.Max {
				continue
			}
			if h.Row == "top" {
				ways[0] = append(ways[0], w)
			} else {
				ways[1] = append(ways[1], w)
			}
		}
		all := fastener.Interval{Min: lo, Max: hi}
		top, bottom := fastener.Intervals{all}, fastener.Intervals{all}
		if p.TopPerStud > 0 {
			top = ways[0].Covered(p.TopPerStud)
		}
		if p.BotPerStud > 0 {
			bottom = ways[1].Covered(p.BotPerStud)
		}
		each = append(each, fastener.Intersect(nil, top, bottom)...)
	}
	return each.Covered(p.Studs)
}

// Places returns the intervals in which the plate's datum finds its studs, from
// left to right.
func (p *Plate) Places(kind catalog.WallType, studs []Stud, lo, hi quantity.Length) fastener.Intervals {
	p.effort = maxEffort
	ends := p.candidates(kind, studs, lo, hi)
	slices.Sort(ends)
	fits := func(x quantity.Length) bool { _, ok := p.at(kind, studs, x); return ok }
	var out fastener.Intervals
	open := false
	for i, x := range ends {
		if !fits(x) {
			open = false
			continue
		}
		if open {
			out[len(out)-1].Max = x
		} else {
			out = append(out, fastener.Interval{Min: x, Max: x})
		}
		open = i+1 < len(ends) && fits(x+(ends[i+1]-x)/2)
	}
	return out
}

// span returns how far to both sides of the datum a reachable stud can be.
func (p *Plate) span() (left, right quantity.Length) {
	for i := range p.Holes {
		h := &p.Holes[i]
		left, right = min(left, h.X-h.Across()/2), max(right, h.X+h.Across()/2)
	}
	const wide = 500 * quantity.Millimetre // more than half of any stud
	return left - wide, right + wide
}

// reach returns the place in a hole, for a datum, that is nearest to a stud's
// centre, and its distance from it.
func reach(h *catalog.PlateHole, datum quantity.Length, s Stud) (x, off quantity.Length) {
	middle, half := datum+h.X, h.Across()/2
	x = min(max(s.X, middle-half), middle+half)
	return x, (x - s.X).Abs()
}

// at tries one place of the datum: the studs nearest to it, each with the holes
// of both rows nearest to its centre, one fastener a hole; others
// if these are not possible.
func (p *Plate) at(kind catalog.WallType, studs []Stud, datum quantity.Length) (Fixed, bool) {
	left, right := p.span()
	from, _ := slices.BinarySearchFunc(studs, datum+left, func(s Stud, x quantity.Length) int { return cmp.Compare(s.X, x) })
	var near []reached
	for i := from; i < len(studs) && studs[i].X <= datum+right; i++ {
		near = append(near, reached{index: i, off: (studs[i].X - datum).Abs()})
	}
	slices.SortStableFunc(near, func(a, b reached) int { return cmp.Compare(a.off, b.off) })
	t := try{plate: p, datum: datum, taken: map[string]bool{}}
	for i := range near {
		if p.effort -= 1 + len(p.Holes)/16; p.effort < 0 {
			break
		}
		r := &near[i]
		s := studs[r.index]
		r.top, r.bottom = p.reaching("top", kind, s, r.index, datum), p.reaching("bottom", kind, s, r.index, datum)
		if len(r.top) < p.TopPerStud || len(r.bottom) < p.BotPerStud {
			continue
		}
		// Once there are enough of the nearest, they are tried: farther ones
		// are only needed if these are too close together.
		if t.studs = append(t.studs, *r); len(t.studs) == p.Studs && t.fill(0, p.Studs) {
			return Fixed{datum, t.used, t.points}, true
		}
	}
	if len(t.studs) <= p.Studs || !t.fill(0, p.Studs) {
		return Fixed{}, false
	}
	return Fixed{datum, t.used, t.points}, true
}

// reached is a stud within reach, and the holes of both rows that reach it.
type reached struct {
	index       int
	off         quantity.Length // from the datum
	top, bottom []Point
}

// reaching returns the holes of a row that reach the usable width of a stud,
// the nearest to its centre first.
func (p *Plate) reaching(name string, kind catalog.WallType, s Stud, index int, datum quantity.Length) []Point {
	good := s.UsableHalfWidth(kind, p.Diameter, p.Find)
	var can []Point
	for i := range p.Holes {
		h := &p.Holes[i]
		if h.Row != name || good < 0 {
			continue
		}
		if x, off := reach(h, datum, s); off <= good {
			middle, half := datum+h.X, h.Across()/2
			can = append(can, Point{*h, x, index, max(middle-half, s.X-good), min(middle+half, s.X+good), s.X})
		}
	}
	slices.SortStableFunc(can, func(a, b Point) int { return cmp.Compare((a.X - s.X).Abs(), (b.X - s.X).Abs()) })
	return can[:min(len(can), maxHoles)]
}

// Anywhere fixes a plate to a wall without studs: as near to the wanted place
// as the slide allows, by the outermost holes of each row, as many as studs
// would need. False if it has too few holes.
func (p *Plate) Anywhere() (Fixed, bool) {
	f := Fixed{Datum: min(max(p.Wanted, p.Pattern-p.Slide), p.Pattern+p.Slide)}
	enough := true
	for _, r := range []struct {
		name string
		n    int
	}{{"top", p.Studs * p.TopPerStud}, {"bottom", p.Studs * p.BotPerStud}} {
		row := make([]catalog.PlateHole, 0, len(p.Holes))
		for _, h := range p.Holes {
			if h.Row == r.name {
				row = append(row, h)
			}
		}
		slices.SortStableFunc(row, func(a, b catalog.PlateHole) int { return cmp.Compare(a.X, b.X) })
		enough = enough && len(row) >= r.n
		for _, h := range outermost(row, r.n) {
			f.Points = append(f.Points, Point{Hole: h, X: f.Datum + h.X, Stud: -1})
		}
	}
	return f, enough && p.Slide >= 0
}

// outermost picks n holes of a row, alike on both sides: pairs from the ends inwards, and for an odd one the hole nearest the
// middle, of two equally near the right one.
func outermost(row []catalog.PlateHole, n int) []catalog.PlateHole {
	out := make([]catalog.PlateHole, 0, n)
	left, right := 0, len(row)-1
	for len(out)+1 < n && left < right {
		out = append(out, row[left], row[right])
		left++
		right--
	}
	if len(out) < n && left <= right {
		middle := left
		for i := left + 1; i <= right; i++ {
			if row[i].X.Abs() <= row[middle].X.Abs() {
				middle = i
			}
		}
		out = append(out, row[middle])
	}
	return out
}
