package app

import (
	"testing"

	"nexufix/core/draw/pairing"
	"nexufix/core/drawing"
	"nexufix/core/fit"
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
