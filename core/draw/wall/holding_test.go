package wall

import (
	"math"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/draw/drawtest"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/place/placetest"
	"nexufix/core/quantity"
)

// span is how far the polygons of a tag and style reach, across.
func span(d *drawing.Drawing, tag string, style drawing.Style) float64 {
	for _, i := range d.Items {
		if p, ok := i.Shape.(drawing.Polygon); ok && i.Tag == tag && i.Style == style {
			return math.Abs(p.Points[1].X - p.Points[0].X)
		}
	}
	return math.NaN()
}

// TestHolding: every fastener has a bar as long as the share of what it may
// hold; what is asked for too much is told apart, and says so.
func TestHolding(t *testing.T) {
	_, all := placetest.Studs()
	d := Holding(&all[0])
	for i := range all[0].Points {
		pt := &all[0].Points[i]
		tag := "use." + pt.Hole
		whole, used := span(d, tag, drawing.Clear), span(d, tag, drawing.Solid)
		if pt.Utilisation <= 0 || math.Abs(used/whole-pt.Utilisation) > 1e-9 {
			t.Errorf("%s: a bar of %g of %g for %g", pt.Hole, used, whole, pt.Utilisation)
		}
	}
	heavy := *all[0].Job
	heavy.Assume.Load = quantity.Some(2000 * quantity.Kilogram)
	p, _ := placetest.Studs()
	over := place.Place(p, &heavy)[0]
	d = Holding(&over)
	if used, whole := span(d, "use.T1", drawing.Over), span(d, "use.T1", drawing.Clear); used != whole {
		t.Errorf("a bar of %g of %g", used, whole)
	}
	if said := drawtest.Texts(d, quantity.Metric); !strings.Contains(said, percent(over.Points[0].Utilisation)+" %") ||
		over.Points[0].Utilisation < 1 {
		t.Error(said)
	}
	// What is not known has a name and no bar.
	unknown := *all[0].Job
	unknown.Wall.Type, unknown.Wall.Covering = "concrete", quantity.Optional[quantity.Length]{}
	plain := place.Place(p, &unknown)[0]
	if d := Holding(&plain); plain.Strength.Known || !math.IsNaN(span(d, "use.T1", drawing.Clear)) ||
		!strings.Contains(drawtest.Texts(d, quantity.Metric), "1 T1") {
		t.Error("a strength that is not known is drawn")
	}
	if Holding(nothing(p)) != nil {
		t.Error("nothing is drilled")
	}
}

// TestBuildUp: the fastener in the wall is to scale: what is in front of the
// covering, what is behind it, the hole and each layer.
func TestBuildUp(t *testing.T) {
	_, all := placetest.Studs()
	d := BuildUp(&all[0]) // 3 of plate, 1.6 of washer, 12 of covering, a lag of 70
	x0, x1, _, _ := drawtest.Extent(d, "layer.0")
	if !drawtest.Near(x0, 0) || !drawtest.Near(x1, 12) {
		t.Errorf("covering from %g to %g", x0, x1)
	}
	if x0, _, _, _ := drawtest.Extent(d, "layer.1"); !drawtest.Near(x0, 12) {
		t.Errorf("the stud begins at %g", x0)
	}
	tip := math.Inf(-1)
	for _, i := range d.Items {
		if p, ok := i.Shape.(drawing.Polygon); ok && i.Tag == "fastener" {
			for _, q := range p.Points {
				tip = max(tip, q.X)
			}
		}
	}
	if !drawtest.Near(tip, 70-3-1.6) {
		t.Errorf("the tip is at %g", tip)
	}
	said := drawtest.Texts(d, quantity.Metric)
	for _, want := range []string{"lag screw 70", "hole 71.5", "behind the covering 53.4", "covering 12 mm", "stud, not measured"} {
		if !strings.Contains(said, want) {
			t.Errorf("it does not say %q: %s", want, said)
		}
	}
	for kind, want := range map[catalog.WallType]string{"lined_masonry": "cavity", "thin_backer": "backer", "timber_board": "board",
		"metal_stud": "metal stud", "concrete": "concrete", "hollow_board": "cavity"} {
		job := *all[0].Job
		job.Wall.Type = kind
		p, _ := placetest.Studs()
		one := place.Place(p, &job)[0]
		var names []string
		for _, l := range Layers(&one) {
			names = append(names, l.Name.In(quantity.Metric))
		}
		if all := strings.Join(names, "; "); !strings.Contains(all, want) {
			t.Errorf("%s is made of %s", kind, all)
		}
	}
}

// TestElevationsDimensions: every figure on the wall is the length of the line
// that it stands at, in millimetres.
func TestElevationsDimensions(t *testing.T) {
	for name, site := range placetest.Sites {
		_, all := site()
		d := Elevation(all)
		said := drawtest.Texts(d, quantity.Metric)
		first := &all[0]
		for what, l := range map[string]quantity.Length{"bottom": first.Bottom, "level line": first.Datum, "top": first.Top,
			"plate": first.DatumX} {
			if text := quantity.Say("%v", quantity.Bare{Length: l, Wall: true}).In(quantity.Metric); !strings.Contains(said, text) {
				t.Errorf("%s: the %s, %s, is not on the wall", name, what, text)
			}
		}
		// Arrow heads of one dimension are its figure apart.
		var heads []drawing.Point
		checked := 0
		for _, i := range d.Items {
			switch s := i.Shape.(type) {
			case drawing.Polygon:
				if i.Style == drawing.Solid && (strings.HasPrefix(i.Tag, "across.") || strings.HasPrefix(i.Tag, "height.")) {
					heads = append(heads, s.Points[0])
				}
			case drawing.Text:
				if len(heads) == 2 && (strings.HasPrefix(i.Tag, "across.") || strings.HasPrefix(i.Tag, "height.")) {
					long := quantity.FromMM(math.Hypot(heads[0].X-heads[1].X, heads[0].Y-heads[1].Y))
					if want := quantity.Say("%v",
						quantity.Bare{Length: long.Round(1000), Wall: true}).In(quantity.Metric); s.Text.In(quantity.Metric) != want {
						t.Errorf("%s: %s says %s at a line of %s", name, i.Tag, s.Text.In(quantity.Metric), want)
					}
					checked++
				}
				heads = nil
			}
		}
		if checked < 8 {
			t.Errorf("%s: only %d dimensions", name, checked)
		}
	}
}

// TestEmbed: a drawing in another is the same, smaller and elsewhere.
func TestEmbed(t *testing.T) {
	inner := drawing.Drawing{TextHeight: 4}
	inner.Line("l", drawing.Thin, 0, 0, 10, 20)
	inner.Add("c", drawing.Solid, drawing.Circle{Center: drawing.Point{X: 4, Y: 6}, Radius: 2})
	inner.Add("p", drawing.Body, drawing.Rect(0, 0, 2, 2))
	inner.Label("t", 8, 8, drawing.Start, "x")
	var outer drawing.Drawing
	outer.Embed(&inner, 0.5, drawing.Point{X: 100, Y: -50})
	if len(outer.Items) != 4 {
		t.Fatal(len(outer.Items))
	}
	if l := outer.Items[0].Shape.(drawing.Line); l.Points[1] != (drawing.Point{X: 105, Y: -40}) {
		t.Error(l)
	}
	if c := outer.Items[1].Shape.(drawing.Circle); c.Center != (drawing.Point{X: 102, Y: -47}) || c.Radius != 1 {
		t.Error(c)
	}
	if p := outer.Items[2].Shape.(drawing.Polygon); p.Points[2] != (drawing.Point{X: 101, Y: -49}) {
		t.Error(p)
	}
	if x := outer.Items[3].Shape.(drawing.Text); x.Height != 2 || x.At != (drawing.Point{X: 104, Y: -46}) ||
		inner.Items[3].Shape.(drawing.Text).Height != 4 {
		t.Error(x)
	}
}

// nothing is a placement at which nothing is drilled.
func nothing(p *fit.Pairing) *place.Placement {
	all := place.Place(p, &catalog.Job{ID: "nothing"})
	return &all[0]
}

// TestNoKeysInDrawings: what people read are words, not the format's names.
func TestNoKeysInDrawings(t *testing.T) {
	_, places := placetest.Run()
	for _, kind := range []catalog.ItemKind{catalog.FrameFixing, catalog.SleeveAnchor, catalog.ConcreteScrew} {
		one := places[0]
		one.Choice.Item.Kind, one.Choice.Plug = kind, nil
		d := BuildUp(&one)
		if d == nil {
			t.Fatal("nothing is drawn")
		}
		for _, i := range d.Items {
			words := i.Title.In(quantity.Metric)
			if text, ok := i.Shape.(drawing.Text); ok {
				words += text.Text.In(quantity.Metric)
			}
			if strings.Contains(words, "_") {
				t.Errorf("%s: %q", kind, words)
			}
		}
	}
}

// TestWholeIsNotTooMuch: a fastener that is asked for all that it holds is drawn as one that holds; a hair more, and it is not.
func TestWholeIsNotTooMuch(t *testing.T) {
	for use, want := range map[float64]drawing.Style{1: drawing.Solid, 1.0001: drawing.Over} {
		_, all := placetest.Studs()
		all[0].Points[0].Utilisation = use
		name := PointName(&all[0], &all[0].Points[0], 1)
		for tag, d := range map[string]*drawing.Drawing{"point." + name: Elevation(all), "use." + name: Holding(&all[0])} {
			seen := false
			for _, i := range d.Items {
				if _, circle := i.Shape.(drawing.Circle); circle && i.Tag == tag {
					if seen = true; i.Style != want {
						t.Errorf("%s at %g is %s", tag, use, i.Style)
					}
				}
			}
			if !seen {
				t.Errorf("%s is not drawn", tag)
			}
		}
	}
}
