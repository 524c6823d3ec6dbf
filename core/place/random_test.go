package place

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

// TestPointsAlwaysHold: over random brackets, walls and places, of one plate
// and of two, alone and in runs, turned and upright, no point to drill lies
// outside its slot, off its stud's allowed width, or where another is; what the
// tape measures agrees with where it is; and the plate is within its slide.
func TestPointsAlwaysHold(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 11))
	placed, failed, twice := 0, 0, 0
	for n := range lots.Times(4000) {
		d, b, job := sitePair()
		w := b.WallPlate
		w.LateralSlide = some(r.Int64N(120))
		w.StudsRequired, w.TopPerStud, w.BottomPerStud = 1+r.IntN(3), 1+r.IntN(2), r.IntN(3)
		w.Holes = nil
		for i := range 2 + r.IntN(6) {
			for row, y := range map[string]int64{"top": 60, "bottom": -60} {
				h := catalog.PlateHole{ID: fmt.Sprint(row[:1], i), Row: row, Shape: "round", X: mm(r.Int64N(700) - 350), Y: mm(y), Diameter: mm(9)}
				if r.IntN(2) == 0 {
					h.Shape, h.Travel = "slot_h", mm(r.Int64N(150))
				}
				w.Holes = append(w.Holes, h)
			}
		}
		if r.IntN(4) == 0 {
			w.Count, w.StudsRequired = 2, 1
			w.SeparationRange = &fastener.Interval{Min: mm(150 + r.Int64N(100)), Max: mm(260 + r.Int64N(400))}
		}
		if r.IntN(3) == 0 {
			job.Run = &catalog.Run{Count: 1 + r.IntN(4), Gap: mm(r.Int64N(40))}
		}
		b.Turns = []catalog.Turn{0, 90}
		if r.IntN(4) == 0 {
			job.Turn = 90
		}
		job.Wall.Type = []catalog.WallType{"wood_stud", "metal_stud", "concrete"}[r.IntN(3)]
		job.Wall.Studs = &catalog.Studs{First: some(r.Int64N(400)), Spacing: some([]int64{400, 406, 450, 600}[r.IntN(4)]),
			Width: some(30 + r.Int64N(30))}
		if r.IntN(5) == 0 {
			var at []quantity.Length
			for x := r.Int64N(300); x < 3600; x += []int64{38, 300, 406, 600}[r.IntN(4)] {
				at = append(at, mm(x))
			}
			job.Wall.Studs = &catalog.Studs{At: at, Width: some(38)}
		}
		job.Place.X = some(r.Int64N(3600))
		p := fit.Judge(d, b, job.Turn, fit.Extra{}, catalog.DefaultPolicy())
		if p.Hang == nil {
			continue
		}
		for _, one := range Place(&p, job) {
			if len(one.Points) == 0 {
				failed++
				continue
			}
			placed++
			if w.Count == 2 {
				twice++
			}
			sane(t, n, &one)
		}
	}
	if placed < lots.Times(800) || failed < lots.Times(800) || twice < lots.Times(100) {
		t.Errorf("%d placed, %d not, %d of two plates: the cases are too much alike", placed, failed, twice)
	}
}

// sane is what holds of every placement, whatever the job.
func sane(t *testing.T, n int, p *Placement) {
	t.Helper()
	b := p.Pairing.Bracket
	w := b.WallPlate
	x, _ := p.Pairing.Display.PatternCenter(p.Pairing.Pattern, p.Pairing.Turn)
	if off := (p.DatumX - (p.DisplayX + x.Value)).Abs(); off > p.Pairing.Hang.Slide {
		t.Errorf("case %d: the datum is %s from the pattern, the slide %s", n, off, p.Pairing.Hang.Slide)
	}
	plate := p.plate(0, &p.Choice)
	seen := map[string]bool{}
	perStud := map[string]int{}
	for i := range p.Points {
		pt := &p.Points[i]
		datum := p.Plates[0]
		if pt.Plate == 2 {
			datum = p.Plates[1]
		}
		var h *catalog.PlateHole
		for k := range w.Holes {
			if w.Holes[k].ID == pt.Hole {
				h = &w.Holes[k]
			}
		}
		name := fmt.Sprint(pt.Plate, pt.Hole)
		travel := quantity.Length(0)
		if h.Shape == "slot_h" {
			travel = h.Travel
		}
		switch {
		case seen[name]:
			t.Errorf("case %d: %s is drilled twice", n, name)
		case (pt.X - datum - h.X).Abs() > travel/2:
			t.Errorf("case %d: %s lies %s outside its slot", n, name, (pt.X-datum-h.X).Abs()-travel/2)
		case pt.Y != p.Datum+h.Y:
			t.Errorf("case %d: %s is at %s, its hole at %s", n, name, pt.Y, p.Datum+h.Y)
		case pt.FromCentreLine != pt.X-p.DisplayX || pt.BelowDisplayTop != p.Top-pt.Y:
			t.Errorf("case %d: %s is measured otherwise than it lies", n, name)
		}
		seen[name] = true
		if !p.Job.Wall.Type.HasStuds() {
			if pt.Stud != -1 {
				t.Errorf("case %d: a stud in %s", n, p.Job.Wall.Type)
			}
			continue
		}
		s := p.Studs[pt.Stud]
		if off := (pt.X - s.X).Abs(); off > s.UsableHalfWidth(p.Job.Wall.Type, plate.Diameter, p.Pairing.Policy.StudFind) {
			t.Errorf("case %d: %s is %s off its stud's middle", n, name, off)
		}
		perStud[fmt.Sprint(pt.Plate, pt.Stud, h.Row)]++
	}
	if p.Job.Wall.Type.HasStuds() {
		for key, got := range perStud {
			if want := map[byte]int{'p': w.TopPerStud, 'm': w.BottomPerStud}[key[len(key)-1]]; got != want {
				t.Errorf("case %d: %s has %d fasteners, want %d", n, key, got, want)
			}
		}
	}
	if c := w.Count; c == 2 {
		if apart := p.Plates[1] - p.Plates[0]; !w.SeparationRange.Holds(apart) {
			t.Errorf("case %d: the plates are %s apart", n, apart)
		}
	}
}
