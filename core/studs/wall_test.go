package studs

import (
	"math/rand/v2"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

var mm = quantity.MM

func TestStuds(t *testing.T) {
	spaced := &catalog.Wall{Width: quantity.Some(mm(1300)), Studs: &catalog.Studs{First: quantity.Some(mm(210)),
		Spacing: quantity.Some(mm(406))}}
	if got := Studs(spaced, 0); len(got) != 3 || got[0].X != mm(210) || got[2].X != mm(1022) || got[0].Width != mm(38) {
		t.Error(got)
	}
	marked := &catalog.Wall{Studs: &catalog.Studs{At: []quantity.Length{mm(900), mm(500), mm(900)}, Width: quantity.Some(mm(45))}}
	if got := Studs(marked, 0); len(got) != 2 || got[0].X != mm(500) || got[0].Width != mm(45) {
		t.Error(got)
	}
	if got := Studs(&catalog.Wall{Studs: &catalog.Studs{Spacing: quantity.Some(quantity.Length(1))}}, 0); len(got) != maxStuds {
		t.Errorf("%d studs a nanometre apart", len(got))
	}
	// 19 − 1.5 × 8 − 3.
	if got := (Stud{Width: mm(38)}).UsableHalfWidth("wood_stud", mm(8), mm(3)); got != mm(4) {
		t.Error(got)
	}
	if got := (Stud{Width: mm(38)}).UsableHalfWidth("metal_stud", mm(8), mm(3)); got != mm(12) {
		t.Error(got)
	}
}

func hole(id, row string, x, y, travel int64) catalog.PlateHole {
	h := catalog.PlateHole{ID: id, Row: row, Shape: "round", X: mm(x), Y: mm(y), Travel: mm(travel), Diameter: mm(9)}
	if travel > 0 {
		h.Shape = "slot_h"
	}
	return h
}

// TestFixAgainstBruteForce: over random walls and plates, double studs among
// them, the place is that of a search in steps of a tenth of a millimetre, or
// nearer; every point is in its slot and on its stud.
func TestFixAgainstBruteForce(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 7))
	found := 0
	for n := range lots.Times(3000) {
		p := Plate{Studs: 1 + r.IntN(2), TopPerStud: 1, BotPerStud: r.IntN(2), Diameter: mm(8), Find: mm(3),
			Slide: mm(r.Int64N(90)), Pattern: mm(1000 + r.Int64N(40)), Wanted: mm(1000)}
		for i := range 2 + r.IntN(4) {
			x := r.Int64N(500) - 250
			travel := []int64{0, 0, 40, 120}[r.IntN(4)]
			p.Holes = append(p.Holes, hole(string(rune('a'+2*i)), "top", x, 90, travel), hole(string(rune('b'+2*i)), "bottom", x, -90, travel))
		}
		var studs []Stud
		for x := r.Int64N(400); x < 2000; x += []int64{406, 406, 600, 38, 300}[r.IntN(5)] {
			studs = append(studs, Stud{mm(x), mm(38)})
		}
		f, ok := p.Fix("wood_stud", studs)
		const step = quantity.Millimetre / 10
		best, some := quantity.Length(0), false
		for d := p.Pattern - p.Slide; d <= p.Pattern+p.Slide; d += step {
			p.effort = maxEffort
			if _, fits := p.at("wood_stud", studs, d); fits && (!some || (d-p.Wanted).Abs() < (best-p.Wanted).Abs()) {
				best, some = d, true
			}
		}
		if some && (!ok || (f.Datum-p.Wanted).Abs() > (best-p.Wanted).Abs()) {
			t.Fatalf("case %d: %s %v, brute force %s", n, f.Datum, ok, best)
		}
		if ok && some && (f.Datum-best).Abs() > step && (f.Datum-p.Wanted).Abs()+step < (best-p.Wanted).Abs() {
			t.Fatalf("case %d: %s is far nearer than %s", n, f.Datum, best)
		}
		if !ok {
			continue
		}
		found++
		if (f.Datum-p.Pattern).Abs() > p.Slide || len(f.Studs) != p.Studs || len(f.Points) != p.Studs*(p.TopPerStud+p.BotPerStud) {
			t.Fatalf("case %d: %+v", n, f)
		}
		seen := map[string]bool{}
		for _, pt := range f.Points {
			s := studs[pt.Stud]
			if (pt.X-f.Datum-pt.Hole.X).Abs() > pt.Hole.Across()/2 || (pt.X-s.X).Abs() > s.UsableHalfWidth("wood_stud", p.Diameter, p.Find) ||
				seen[pt.Hole.ID] {
				t.Fatalf("case %d: %+v on %+v", n, pt, s)
			}
			seen[pt.Hole.ID] = true
		}
	}
	if found < lots.Times(500) || found > lots.Times(2900) {
		t.Errorf("%d of 3000 can be fixed: the cases are too much alike", found)
	}
}

func TestFixHasNoAnswer(t *testing.T) {
	p := Plate{Holes: []catalog.PlateHole{hole("a", "top", 0, 90, 0), hole("b", "bottom", 0, -90, 0)}, Studs: 1, TopPerStud: 1, BotPerStud: 1,
		Diameter: mm(8), Find: mm(3), Slide: mm(5), Pattern: mm(500), Wanted: mm(500)}
	if _, ok := p.Fix("wood_stud", nil); ok {
		t.Error("without studs")
	}
	if _, ok := p.Fix("wood_stud", []Stud{{mm(520), mm(38)}}); ok {
		t.Error("out of reach")
	}
	if f, ok := p.Fix("wood_stud", []Stud{{mm(508), mm(38)}}); !ok || f.Datum != mm(504) {
		t.Error(f, ok)
	}
	if _, ok := p.Fix("wood_stud", []Stud{{mm(500), mm(20)}}); ok {
		t.Error("a stud too narrow for the fastener")
	}
	p.Slide = -1
	if _, ok := p.Fix("wood_stud", []Stud{{mm(500), mm(38)}}); ok {
		t.Error("no slide at all")
	}
	p.Slide = 0
	p.Studs, p.TopPerStud = 2, 1
	p.Holes = []catalog.PlateHole{hole("a", "top", -200, 90, 0), hole("b", "top", 0, 90, 0), hole("c", "top", 200, 90, 0),
		hole("d", "bottom", -200, -90, 0), hole("e", "bottom", 200, -90, 0)}
	if f, ok := p.Anywhere(); !ok || len(f.Points) != 4 || f.Points[0].Hole.ID != "a" || f.Points[1].Hole.ID != "c" {
		t.Errorf("%+v", f)
	}
}

func BenchmarkFix(b *testing.B) {
	p := Plate{Studs: 2, TopPerStud: 1, BotPerStud: 1, Diameter: mm(8), Find: mm(3), Slide: mm(60), Pattern: mm(1650), Wanted: mm(1650)}
	for i := range int64(6) {
		p.Holes = append(p.Holes, hole(string(rune('a'+2*i)), "top", 80*i-200, 90, 40), hole(string(rune('b'+2*i)), "bottom", 80*i-200, -90, 40))
	}
	w := &catalog.Wall{Width: quantity.Some(mm(3600)), Studs: &catalog.Studs{First: quantity.Some(mm(210)),
		Spacing: quantity.Some(quantity.Length(406_400_000))}}
	for b.Loop() {
		if _, ok := p.Fix("wood_stud", Studs(w, mm(1650))); !ok {
			b.Fatal("not fixed")
		}
	}
}
