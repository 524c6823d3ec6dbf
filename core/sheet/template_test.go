package sheet

import (
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/draw/drawtest"
	"nexufix/core/draw/pairing"
	"nexufix/core/drawing"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

func TestDrillTemplate(t *testing.T) {
	p := drawtest.Judged(nil)
	d := DrillTemplate(&p, Sheet{Date: "2026-01-02"})
	for _, h := range p.Bracket.WallPlate.Holes {
		x0, x1, y0, y1 := drawtest.Extent(d, "hole."+h.ID)
		if !drawtest.Near((x0+x1)/2, h.X.MM()) || !drawtest.Near((y0+y1)/2, h.Y.MM()) {
			t.Errorf("%s drawn about %g, %g", h.ID, (x0+x1)/2, (y0+y1)/2)
		}
	}
	if x0, x1, _, _ := drawtest.Extent(d, "template.bar.mm"); !drawtest.Near(x1-x0, 100) {
		t.Errorf("the bar of 100 mm is %g", x1-x0)
	}
	if x0, x1, _, _ := drawtest.Extent(d, "template.bar.in"); !drawtest.Near(x1-x0, 101.6) {
		t.Errorf("the bar of 4 in is %g", x1-x0)
	}
	mm, in := drawtest.Texts(d, quantity.Metric), drawtest.Texts(d, quantity.Imperial)
	for _, want := range []string{
		"Crust 49 on Rail 40", "Drawn 2026-01-02. Not approved.",
		"wood stud: lag screw 8 × 70, drill Ø 5.5 mm, 71.5 mm deep from the wall's surface (the maker says 72 mm).", // 70 − 3 − 1.6 + 6 = 71.4
		// the covering is not known here
		"concrete: wall plug 10 × 60 with lag screw 8 × 70, drill Ø 10 mm, 70 mm deep from the wall's surface.",
		"On studs, use 2 studs: in each, 1 of the top holes and 1 of the bottom holes.",
		"display top to hole row 252 mm. Holes 100 mm either side of the centre line.",
		"display's top edge 229 from the level line", "display's left edge 547.5 from the centre line", "UP",
		"Local codes and licensed practice decide.",
	} {
		if !strings.Contains(mm, want) {
			t.Errorf("the template does not say %q:\n%s", want, mm)
		}
	}
	if !strings.Contains(in, "display top to hole row 9 15/16 in") {
		t.Errorf("in inches:\n%s", in)
	}
	// A small display's outline is drawn.
	small := drawtest.Judged(func(d *catalog.Display, _ *catalog.Bracket) {
		d.Width, d.Height, d.Patterns[0].CenterBelowTop = catalogtest.Length(700), catalogtest.Length(500), catalogtest.Length(260)
	})
	d = DrillTemplate(&small, Sheet{})
	hang := small.Hang
	if x0, x1, y0, y1 := drawtest.Extent(d, "template.outline"); !drawtest.Near(x1-x0, 700) || !drawtest.Near(y1-y0, 500) ||
		!drawtest.Near(y1, hang.DisplayTopAboveDatum.Value.MM()) {
		t.Errorf("outline %g × %g, top at %g", x1-x0, y1-y0, y1)
	}
	if strings.Contains(drawtest.Texts(d, quantity.Metric), "left edge") {
		t.Error("with an outline there are no arrows")
	}
}

func TestWhyNoDrill(t *testing.T) {
	for want, change := range map[string]func(*catalog.Display, *catalog.Bracket){
		"the display's hole pattern is not known": func(d *catalog.Display, _ *catalog.Bracket) { d.Patterns = nil },
		"the display does not hang on this bracket": func(d *catalog.Display, _ *catalog.Bracket) {
			d.Patterns[0] = catalogtest.Pattern(900, 200, fastener.M6, 14)
		},
		"the bracket's wall plate is not described": func(_ *catalog.Display, b *catalog.Bracket) { b.WallPlate = nil },
	} {
		p := drawtest.Judged(change)
		if DrillTemplate(&p, Sheet{}) != nil || WhyNoDrill(&p) != want {
			t.Errorf("%s: %s", want, WhyNoDrill(&p))
		}
	}
}

func BenchmarkPairingWithDrawings(b *testing.B) {
	d, br := catalogtest.Pair()
	drawtest.Stepped(d, br)
	b.ReportAllocs()
	for b.Loop() {
		p := fit.Judge(d, br, 0, fit.Extra{}, catalog.DefaultPolicy())
		if pairing.Section(&p) == nil || pairing.Back(&p) == nil || DrillTemplate(&p, Sheet{}) == nil {
			b.Fatal("not drawn")
		}
	}
}

// TestSiteTemplate: the points of a template for a wall are those of the
// placement, which the measure card's numbers come from too: who has only the
// one and who has only the other mark the same places.
func TestSiteTemplate(t *testing.T) {
	d, b := catalogtest.Pair()
	b.WallPlate.LateralSlide = catalogtest.Length(60)
	b.Profile = catalogtest.Length(52)
	job := &catalog.Job{ID: "counter", Wall: catalog.Wall{Type: "wood_stud", Width: catalogtest.Length(3600),
		Studs: &catalog.Studs{First: catalogtest.Length(210), Spacing: catalogtest.Length(406)}},
		Place: catalog.Place{Rule: "center", Center: catalogtest.Length(1500), X: catalogtest.Length(1700)}}
	p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
	at := place.Place(&p, job)[0]
	if len(at.Points) != 4 || at.Shift() == 0 {
		t.Fatalf("%+v", at)
	}
	s := DrillTemplate(&p, Sheet{Places: []place.Placement{at}})
	studs := 0
	for _, i := range s.Items {
		if strings.HasPrefix(i.Tag, "template.stud") {
			studs++
		}
	}
	if studs < 2 {
		t.Errorf("%d stud lines", studs)
	}
	for _, pt := range at.Points {
		found := false
		for _, i := range s.Items {
			c, is := i.Shape.(drawing.Circle)
			if !is || i.Tag != "point."+pt.Hole || i.Style != drawing.Solid {
				continue
			}
			found = true
			// From the tape: off the display's middle, and below its top.
			x := at.DisplayX + pt.FromCentreLine - at.DatumX
			y := at.Top - pt.BelowDisplayTop - at.Datum
			if !drawtest.Near(c.Center.X, x.MM()) || !drawtest.Near(c.Center.Y, y.MM()) {
				t.Errorf("%s is drawn at %g, %g; the card says %s, %s", pt.Hole, c.Center.X, c.Center.Y, x, y)
			}
		}
		if !found {
			t.Errorf("%s is not drawn", pt.Hole)
		}
	}
}
