package bench

import (
	"slices"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/draw/pairing"
	"nexufix/core/draw/wall"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/demo"
)

// TestLetteringApart: on the back of every display of the demo, on every bracket, no lettering lies on
// other lettering.
func TestLetteringApart(t *testing.T) {
	all, err := demo.Contents()
	if err != nil {
		t.Fatal(err)
	}
	policy := all.PolicyOrDefault()
	drawn := 0
	for _, d := range all.Displays {
		apart(t, d.Name(), pairing.DisplayBack(d))
		for _, b := range all.Brackets {
			p := fit.Judge(d, b, 0, fit.Extra{}, policy)
			if back := pairing.Back(&p); back != nil {
				drawn++
				apart(t, d.Name()+" on "+b.Name, back)
			}
		}
	}
	if drawn < 300 {
		t.Fatalf("only %d backs were drawn", drawn)
	}
}

// apart reports lettering of a drawing that lies on other lettering.
func apart(t *testing.T, name string, d *drawing.Drawing) {
	t.Helper()
	var texts []drawing.Text
	for _, i := range d.Items {
		if text, ok := i.Shape.(drawing.Text); ok {
			for _, other := range texts {
				if text.Box().Meets(other.Box()) {
					t.Errorf("%s: %q lies on %q", name, text.Text.In(quantity.Metric), other.Text.In(quantity.Metric))
				}
			}
			texts = append(texts, text)
		}
	}
}

// TestWallLetteringApart: nor on the wall of any job of the demo.
func TestWallLetteringApart(t *testing.T) {
	all, err := demo.Contents()
	if err != nil {
		t.Fatal(err)
	}
	drawn := 0
	try := func(name string, p *fit.Pairing, job *catalog.Job) {
		if d := wall.Elevation(place.Place(p, job)); d != nil {
			drawn++
			apart(t, name, d)
		}
	}
	for _, job := range all.Jobs {
		p := fit.Judge(all.Display(job.Display), all.Bracket(job.Bracket), job.Turn, fit.Extra{}, all.PolicyOrDefault())
		try(job.ID, &p, job)
	}
	// And on a wall to begin with, of each display on each bracket that takes it.
	studs := all.Jobs[slices.IndexFunc(all.Jobs, func(j *catalog.Job) bool { return j.ID == "mill-lane-counter" })]
	for _, d := range all.Displays {
		for _, b := range all.Brackets {
			if p := fit.Judge(d, b, 0, fit.Extra{}, all.PolicyOrDefault()); p.Verdict != fit.DoesNotFit {
				job := *studs
				job.Wall.Furniture, job.Wall.Outlets = nil, nil
				try(d.Name()+" on "+b.Name, &p, &job)
			}
		}
	}
	if drawn < 100 {
		t.Fatalf("only %d walls were drawn", drawn)
	}
}
