package template

import (
	"math"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/drawing"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

func judged(change func(*catalog.Display, *catalog.Bracket)) fit.Pairing {
	d, b := catalogtest.Pair()
	if change != nil {
		change(d, b)
	}
	return fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
}

// stepped has a bottom row with a step and a cup, and the parts for it.
func stepped(d *catalog.Display, b *catalog.Bracket) {
	for i := 2; i < 4; i++ {
		h := &d.Patterns[0].Holes[i]
		h.Setback, h.Recess, h.RecessDiameter = catalog.Given(quantity.MM(9), catalog.Sheet), catalog.Given(quantity.MM(4), catalog.Sheet), catalog.Given(quantity.MM(13), catalog.Sheet)
	}
	b.Kit = append(b.Kit, catalog.Item{Kind: "spacer", Threads: []fastener.Thread{fastener.M6}, Length: quantity.MM(10), Outer: quantity.MM(18), Count: 2, Bag: "D"},
		catalog.Item{Kind: "bolt", Thread: fastener.M6, Length: quantity.MM(25), Count: 2, Bag: "B"})
}

// extent is the box around all shapes but texts with a tag.
func extent(d *drawing.Drawing, tag string) (x0, x1, y0, y1 float64) {
	x0, x1, y0, y1 = math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
	for _, i := range d.Items {
		if i.Tag != tag || i.Style == drawing.Dim || i.Style == drawing.Solid || i.Style == drawing.Hatch || i.Style == drawing.Hidden && strings.HasPrefix(tag, "side.") {
			continue
		}
		var points []drawing.Point
		switch s := i.Shape.(type) {
		case drawing.Line:
			points = s.Points
		case drawing.Polygon:
			points = s.Points
		case drawing.Circle:
			points = []drawing.Point{{X: s.Center.X - s.Radius, Y: s.Center.Y - s.Radius}, {X: s.Center.X + s.Radius, Y: s.Center.Y + s.Radius}}
		}
		for _, p := range points {
			x0, x1, y0, y1 = min(x0, p.X), max(x1, p.X), min(y0, p.Y), max(y1, p.Y)
		}
	}
	return x0, x1, y0, y1
}

func near(a, b float64) bool { return math.Abs(a-b) < 1e-9 }

// TestSectionIsToScale: the parts stand where the stack's figures say, along
// the bolt, with z = 0 at the rest plane.
func TestSectionIsToScale(t *testing.T) {
	p := judged(stepped)
	s := Section(&p)
	if s == nil || len(p.Stack.Groups) != 2 {
		t.Fatal("no section of two groups")
	}
	for i, g := range p.Stack.Groups {
		group := p.Face.Groups[g.Group]
		tag := func(part string) string { return "stack." + string(rune('0'+i)) + "." + part }
		plane := g.Plane.MM()
		head := p.Face.Thread.Standard().PanHeadHeight.MM()
		under := plane + p.Bracket.PlateThickness.MM() + g.Shoulder.MM() + float64(g.Washers.Count)*g.Washers.Thickness.MM()
		z0, z1, _, _ := extent(s, tag("bolt"))
		if !near(z1, under+head) || !near(z0, under-g.Bolt.MM()) {
			t.Errorf("group %d: the bolt is drawn from %g to %g; its head lies on %g and it is %s long", i, z0, z1, under, g.Bolt)
		}
		face := -(group.Setback + group.Recess).MM()
		if !near(face-z0, g.Engagement.MM()) {
			t.Errorf("group %d: %g of the bolt is drawn past the insert's face, engagement %s", i, face-z0, g.Engagement)
		}
		bottom, _, _, _ := extent(s, tag("insert"))
		if !near(z0-bottom, g.Clearance.MM()) {
			t.Errorf("group %d: %g is drawn free before the tip, clearance %s", i, z0-bottom, g.Clearance)
		}
		if from, to, _, _ := extent(s, tag("plate")); !near(from, plane) || !near(to-from, 2.5) {
			t.Errorf("group %d: plate from %g to %g", i, from, to)
		}
		if len(g.Spacers) > 0 {
			if from, to, low, high := extent(s, tag("spacer")); !near(to-from, 10) || !near(from, -group.Setback.MM()) || !near(high-low, 18) {
				t.Errorf("group %d: spacer from %g to %g, %g wide", i, from, to, high-low)
			}
		}
	}
	for _, i := range s.Items {
		if text, ok := i.Shape.(drawing.Text); ok && text.Anchor == drawing.End && text.At.X-drawing.TextWidth(text.Text, text.Height) < s.Min.X {
			t.Errorf("%q is cut off", text.Text.In(quantity.Imperial))
		}
		for _, q := range pointsOf(i.Shape) {
			if q.X < s.Min.X || q.X > s.Max.X || q.Y < s.Min.Y || q.Y > s.Max.Y {
				t.Fatalf("%s lies outside of the frame: %v", i.Tag, q)
			}
		}
	}
}

func pointsOf(s drawing.Shape) []drawing.Point {
	switch s := s.(type) {
	case drawing.Line:
		return s.Points
	case drawing.Polygon:
		return s.Points
	case drawing.Circle:
		return []drawing.Point{s.Center}
	case drawing.Text:
		return []drawing.Point{s.At}
	}
	return nil
}

// TestBackIsSeenFromBehind: left and right change places, heights do not.
func TestBackIsSeenFromBehind(t *testing.T) {
	p := judged(func(d *catalog.Display, _ *catalog.Bracket) { d.Patterns[0].CenterRight = quantity.MM(30) })
	b := Back(&p)
	for tag, want := range map[string][2]float64{"stack.0.hole.TL": {100, 100}, "stack.0.hole.BR": {-100, -100}} {
		x0, x1, y0, y1 := extent(b, tag)
		if !near((x0+x1)/2, want[0]) || !near((y0+y1)/2, want[1]) {
			t.Errorf("%s at %g, %g; want %v", tag, (x0+x1)/2, (y0+y1)/2, want)
		}
	}
	// The pattern's centre lies 30 right of the display's, seen from the
	// front: from behind the display reaches 30 further to the right.
	x0, x1, y0, y1 := extent(b, "back.outline")
	if !near(x0, 30-547.5) || !near(x1, 30+547.5) || !near(y1, 352) || !near(y0, 352-634) {
		t.Errorf("outline %g to %g, %g to %g", x0, x1, y0, y1)
	}
	// The hook line is 219 above the pattern's centre, the arms reach 14 above.
	if _, _, low, high := extent(b, "back.arms"); !near(high, 219+14) || !near(low, 219-452) {
		t.Errorf("arms from %g to %g", low, high)
	}
	if none := judged(func(d *catalog.Display, _ *catalog.Bracket) { d.Patterns = nil }); Back(&none) != nil || Section(&none) != nil || DrillTemplate(&none, Sheet{}) != nil {
		t.Error("without a pattern nothing can be drawn")
	}
}

func texts(d *drawing.Drawing, u quantity.Units) string {
	var all []string
	for _, i := range d.Items {
		if t, ok := i.Shape.(drawing.Text); ok {
			all = append(all, t.Text.In(u))
		}
	}
	return strings.Join(all, "\n")
}

func TestDrillTemplate(t *testing.T) {
	p := judged(nil)
	d := DrillTemplate(&p, Sheet{Date: "2026-01-02"})
	for _, h := range p.Bracket.WallPlate.Holes {
		x0, x1, y0, y1 := extent(d, "hole."+h.ID)
		if !near((x0+x1)/2, h.X.MM()) || !near((y0+y1)/2, h.Y.MM()) {
			t.Errorf("%s drawn about %g, %g", h.ID, (x0+x1)/2, (y0+y1)/2)
		}
	}
	if x0, x1, _, _ := extent(d, "template.bar.mm"); !near(x1-x0, 100) {
		t.Errorf("the bar of 100 mm is %g", x1-x0)
	}
	if x0, x1, _, _ := extent(d, "template.bar.in"); !near(x1-x0, 101.6) {
		t.Errorf("the bar of 4 in is %g", x1-x0)
	}
	mm, in := texts(d, quantity.Metric), texts(d, quantity.Imperial)
	for _, want := range []string{
		"Crust 49 on Rail 40", "Drawn 2026-01-02. Not approved.",
		"wood stud: lag screw 8 × 70, drill Ø 5.5 mm, 71.5 mm deep from the wall's surface (the maker says 72 mm).", // 70 − 3 − 1.6 + 6 = 71.4
		"concrete: wall plug 10 × 60 with lag screw 8 × 70, drill Ø 10 mm, 70 mm deep from the wall's surface.",     // the covering is not known here
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
	small := judged(func(d *catalog.Display, _ *catalog.Bracket) {
		d.Width, d.Height, d.Patterns[0].CenterBelowTop = catalogtest.Length(700), catalogtest.Length(500), catalogtest.Length(260)
	})
	d = DrillTemplate(&small, Sheet{})
	hang := small.Hang
	if x0, x1, y0, y1 := extent(d, "template.outline"); !near(x1-x0, 700) || !near(y1-y0, 500) || !near(y1, hang.DisplayTopAboveDatum.Value.MM()) {
		t.Errorf("outline %g × %g, top at %g", x1-x0, y1-y0, y1)
	}
	if strings.Contains(texts(d, quantity.Metric), "left edge") {
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
		p := judged(change)
		if DrillTemplate(&p, Sheet{}) != nil || WhyNoDrill(&p) != want {
			t.Errorf("%s: %s", want, WhyNoDrill(&p))
		}
	}
}

func BenchmarkPairingWithDrawings(b *testing.B) {
	d, br := catalogtest.Pair()
	stepped(d, br)
	b.ReportAllocs()
	for b.Loop() {
		p := fit.Judge(d, br, 0, fit.Extra{}, catalog.DefaultPolicy())
		if Section(&p) == nil || Back(&p) == nil || DrillTemplate(&p, Sheet{}) == nil {
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
	job := &catalog.Job{ID: "counter", Wall: catalog.Wall{Type: "wood_stud", Width: catalogtest.Length(3600), Studs: &catalog.Studs{First: catalogtest.Length(210), Spacing: catalogtest.Length(406)}},
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
			if !near(c.Center.X, x.MM()) || !near(c.Center.Y, y.MM()) {
				t.Errorf("%s is drawn at %g, %g; the card says %s, %s", pt.Hole, c.Center.X, c.Center.Y, x, y)
			}
		}
		if !found {
			t.Errorf("%s is not drawn", pt.Hole)
		}
	}
}
