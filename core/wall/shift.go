package wall

import (
	"cmp"
	"math"
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Plate is a wall plate to be fixed: what it needs of the studs, and where it
// may come.
type Plate struct {
	Holes                         []catalog.PlateHole
	Studs, TopPerStud, BotPerStud int
	Diameter                      quantity.Length // of a fastener
	Find                          quantity.Length // how well a stud's centre is known
	Pattern                       quantity.Length // x of the display's pattern centre
	Slide                         quantity.Length // datum's way from it, to either side
	Wanted                        quantity.Length // x that the datum is wanted at: the display's
}

// Point is a place to drill.
type Point struct {
	Hole catalog.PlateHole
	X    quantity.Length // on the wall
	Stud int             // index, -1 for none
}

// Fixed is a plate's place.
type Fixed struct {
	Datum  quantity.Length
	Studs  []int // that are used, nearest the datum first
	Points []Point
}

// most reachable holes of a stud in one row that are tried: hostile plates
// have thousands.
const mostHoles = 12

// Fix finds the place of the plate nearest to where it is wanted, ties to the
// right, at which the required number of studs each take the required holes of
// both rows; exact, by trying where the answer can change. False when there is
// none.
func (p *Plate) Fix(kind string, studs []Stud) (Fixed, bool) {
	lo, hi := p.Pattern-p.Slide, p.Pattern+p.Slide
	if hi < lo || p.Studs > len(studs) {
		return Fixed{}, false
	}
	for _, datum := range p.candidates(kind, studs, lo, hi) {
		if f, ok := p.at(kind, studs, datum); ok {
			return f, true
		}
	}
	return Fixed{}, false
}

// candidates are the places at which the answer can change: the wanted one,
// the ends of the slide, and the ends of the way each hole allows at each
// stud; the nearest to the wanted first, of equal ones the right one.
func (p *Plate) candidates(kind string, studs []Stud, lo, hi quantity.Length) []quantity.Length {
	out := []quantity.Length{min(max(p.Wanted, lo), hi), lo, hi}
	for _, s := range studs {
		good := s.Good(kind, p.Diameter, p.Find)
		if good < 0 {
			continue
		}
		for i := range p.Holes {
			h := &p.Holes[i]
			half := travel(h) / 2
			for _, x := range []quantity.Length{s.X - good - h.X - half, s.X + good - h.X + half} {
				if x >= lo && x <= hi {
					out = append(out, x)
				}
			}
		}
	}
	slices.SortFunc(out, func(a, b quantity.Length) int {
		return cmp.Or(cmp.Compare((a-p.Wanted).Abs(), (b-p.Wanted).Abs()), cmp.Compare(b, a))
	})
	return slices.Compact(out)
}

// Places are the intervals in which the plate's datum finds its studs, from
// left to right.
func (p *Plate) Places(kind string, studs []Stud, lo, hi quantity.Length) []fastener.Interval {
	ends := p.candidates(kind, studs, lo, hi)
	slices.Sort(ends)
	ends = slices.DeleteFunc(slices.Compact(ends), func(x quantity.Length) bool { return x < lo || x > hi })
	fits := func(x quantity.Length) bool { _, ok := p.at(kind, studs, x); return ok }
	var out []fastener.Interval
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

// travel is how far a fastener's centre can go sideways in a hole.
func travel(h *catalog.PlateHole) quantity.Length {
	if h.Shape == "slot_h" {
		return max(0, h.Travel)
	}
	return 0
}

// reach is where in a hole, at a datum, a fastener comes nearest to a stud's
// centre, and how far it then is from it.
func reach(h *catalog.PlateHole, datum quantity.Length, s Stud) (x, off quantity.Length) {
	middle, half := datum+h.X, travel(h)/2
	x = min(max(s.X, middle-half), middle+half)
	return x, (x - s.X).Abs()
}

// at tries one place of the datum: the studs nearest to it, each with the holes
// of both rows that come nearest to its centre, one fastener a hole; others
// where these leave no way.
func (p *Plate) at(kind string, studs []Stud, datum quantity.Length) (Fixed, bool) {
	t := try{plate: p, datum: datum, taken: map[string]bool{}, effort: 20_000}
	for i, s := range studs {
		top, bottom := p.reaching("top", kind, s, i, datum), p.reaching("bottom", kind, s, i, datum)
		if len(top) >= p.TopPerStud && len(bottom) >= p.BotPerStud {
			t.studs = append(t.studs, reached{i, (s.X - datum).Abs(), top, bottom})
		}
	}
	slices.SortStableFunc(t.studs, func(a, b reached) int { return cmp.Compare(a.off, b.off) })
	if !t.fill(0, p.Studs) {
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

// try is the search for one place of the datum.
type try struct {
	plate  *Plate
	datum  quantity.Length
	studs  []reached
	taken  map[string]bool
	used   []int
	points []Point
	effort int
}

// fill finds the studs from the given one on that are still needed.
func (t *try) fill(from, need int) bool {
	if need == 0 {
		return true
	}
	for i := from; i <= len(t.studs)-need; i++ {
		s := &t.studs[i]
		if t.row(s.top, t.plate.TopPerStud, nil, func() bool {
			return t.row(s.bottom, t.plate.BotPerStud, nil, func() bool {
				t.used = append(t.used, s.index)
				if t.fill(i+1, need-1) {
					return true
				}
				t.used = t.used[:len(t.used)-1]
				return false
			})
		}) {
			return true
		}
	}
	return false
}

// row takes n of the holes that reach a stud, far enough apart, in every way
// that leads on.
func (t *try) row(can []Point, n int, chosen []Point, then func() bool) bool {
	if t.effort--; t.effort < 0 {
		return false
	}
	if n == 0 {
		return then()
	}
	for i, pt := range can {
		if t.taken[pt.Hole.ID] || slices.ContainsFunc(chosen, func(q Point) bool {
			return math.Hypot((q.X-pt.X).MM(), (q.Hole.Y-pt.Hole.Y).MM()) < (apart * t.plate.Diameter).MM()
		}) {
			continue
		}
		t.taken[pt.Hole.ID] = true
		t.points = append(t.points, pt)
		if t.row(can[i+1:], n-1, append(chosen, pt), then) {
			return true
		}
		t.points = t.points[:len(t.points)-1]
		delete(t.taken, pt.Hole.ID)
	}
	return false
}

// reaching are the holes of a row that reach a stud where a fastener is good,
// the one that comes nearest to its centre first.
func (p *Plate) reaching(name, kind string, s Stud, index int, datum quantity.Length) []Point {
	good := s.Good(kind, p.Diameter, p.Find)
	var can []Point
	for i := range p.Holes {
		h := &p.Holes[i]
		if h.Row != name || good < 0 {
			continue
		}
		if x, off := reach(h, datum, s); off <= good {
			can = append(can, Point{*h, x, index})
		}
	}
	slices.SortStableFunc(can, func(a, b Point) int { return cmp.Compare((a.X - s.X).Abs(), (b.X - s.X).Abs()) })
	return can[:min(len(can), mostHoles)]
}

// Anywhere fixes a plate to a wall without studs: as near to where it is wanted
// as the slide allows, by the outermost holes of each row, as many as the
// studs would have taken. False when it has too few holes.
func (p *Plate) Anywhere() (Fixed, bool) {
	f := Fixed{Datum: min(max(p.Wanted, p.Pattern-p.Slide), p.Pattern+p.Slide)}
	enough := true
	for _, r := range []struct {
		name string
		n    int
	}{{"top", p.Studs * p.TopPerStud}, {"bottom", p.Studs * p.BotPerStud}} {
		var row []catalog.PlateHole
		for _, h := range p.Holes {
			if h.Row == r.name {
				row = append(row, h)
			}
		}
		slices.SortStableFunc(row, func(a, b catalog.PlateHole) int { return cmp.Compare(a.X, b.X) })
		enough = enough && len(row) >= r.n
		for _, h := range outermost(row, r.n) {
			f.Points = append(f.Points, Point{h, f.Datum + h.X, -1})
		}
	}
	return f, enough && p.Slide >= 0
}

// outermost picks n of a row, from both ends inwards.
func outermost(row []catalog.PlateHole, n int) []catalog.PlateHole {
	var out []catalog.PlateHole
	for left, right := 0, len(row)-1; len(out) < n && left <= right; {
		out = append(out, row[left])
		left++
		if len(out) < n && left <= right {
			out = append(out, row[right])
			right--
		}
	}
	return out
}
