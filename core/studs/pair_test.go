package studs

import (
	"math/rand/v2"
	"testing"

	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// TestPairAgainstBruteForce: over random walls, the middle of two plates is as
// near as a search in steps of half a millimetre finds it, or nearer; each is
// on its own studs, and they stand apart within their range.
func TestPairAgainstBruteForce(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 3))
	found := 0
	for n := range 250 {
		p := Pair{Plate: Plate{Studs: 1, TopPerStud: 1, BotPerStud: 1, Diameter: mm(8), Find: mm(3), Slide: mm(r.Int64N(80)),
			Pattern: mm(1000 + r.Int64N(30)), Wanted: mm(1000)},
			Width: mm(300 + 100*r.Int64N(3))}
		p.Separation = fastener.Interval{Min: p.Width - mm(2*r.Int64N(40)), Max: p.Width + mm(2*r.Int64N(60))}
		for _, x := range []int64{-r.Int64N(60), r.Int64N(60)} {
			travel := []int64{0, 20}[r.IntN(2)]
			p.Holes = append(p.Holes, hole(string(rune('a'+len(p.Holes))), "top", x, 90, travel),
				hole(string(rune('b'+len(p.Holes))), "bottom", x, -90, travel))
		}
		var studs []Stud
		for x := r.Int64N(300); x < 2000; x += []int64{406, 300, 250}[r.IntN(3)] {
			studs = append(studs, Stud{mm(x), mm(38)})
		}
		f, ok := p.Fix("wood_stud", studs)
		const step = quantity.Millimetre / 2
		fits := map[quantity.Length]bool{}
		at := func(d quantity.Length) bool {
			v, known := fits[d]
			if !known {
				p.effort = maxEffort
				_, v = p.at("wood_stud", studs, d)
				fits[d] = v
			}
			return v
		}
		best, some := quantity.Length(0), false
		for m := p.Pattern - p.Slide; m <= p.Pattern+p.Slide; m += step {
			if some && (m-p.Wanted).Abs() >= (best-p.Wanted).Abs() {
				continue
			}
			for s := p.Separation.Min; s <= p.Separation.Max; s += 2 * step {
				if at(m-s/2) && at(m+s/2) {
					best, some = m, true
					break
				}
			}
		}
		if some && (!ok || (f.Middle-p.Wanted).Abs() > (best-p.Wanted).Abs()) {
			t.Fatalf("case %d: %s %v, brute force %s", n, f.Middle, ok, best)
		}
		if !ok {
			continue
		}
		found++
		gap := f.Plates[1].Datum - f.Plates[0].Datum
		if !p.Separation.Holds(gap) || (f.Middle-p.Pattern).Abs() > p.Slide || gap != f.Separation || len(f.Plates[0].Points) != 2 ||
			len(f.Plates[1].Points) != 2 {
			t.Fatalf("case %d: %+v", n, f)
		}
		for _, plate := range f.Plates {
			for _, pt := range plate.Points {
				if (pt.X-plate.Datum-pt.Hole.X).Abs() > pt.Hole.Across()/2 ||
					(pt.X-studs[pt.Stud].X).Abs() > studs[pt.Stud].UsableHalfWidth("wood_stud", p.Diameter, p.Find) {
					t.Fatalf("case %d: %+v", n, pt)
				}
			}
		}
	}
	if found < 30 || found > 245 {
		t.Errorf("%d of 250 can be fixed: the cases are too much alike", found)
	}
}
