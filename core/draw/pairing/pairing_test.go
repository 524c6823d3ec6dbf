package pairing

import (
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/draw/drawtest"
	"nexufix/core/drawing"
	"nexufix/core/quantity"
)

// TestSectionIsToScale: the parts stand where the stack's figures say, along
// the bolt, with z = 0 at the rest plane.
func TestSectionIsToScale(t *testing.T) {
	p := drawtest.Judged(drawtest.Stepped)
	s := Section(&p)
	if s == nil || len(p.Stack.Groups) != 2 {
		t.Fatal("no section of two groups")
	}
	for i, g := range p.Stack.Groups {
		group := p.Layout.Groups[g.Group]
		tag := func(part string) string { return "stack." + string(rune('0'+i)) + "." + part }
		plane := g.Plane.MM()
		head := p.Layout.Thread.Standard().PanHeadHeight.MM()
		under := plane + p.Bracket.PlateThickness.MM() + g.Shoulder.MM() + float64(g.Washers.Count)*g.Washers.Thickness.MM()
		z0, z1, _, _ := drawtest.Extent(s, tag("bolt"))
		if !drawtest.Near(z1, under+head) || !drawtest.Near(z0, under-g.Bolt.MM()) {
			t.Errorf("group %d: the bolt is drawn from %g to %g; its head lies on %g and it is %s long", i, z0, z1, under, g.Bolt)
		}
		face := -(group.Setback + group.Recess).MM()
		if !drawtest.Near(face-z0, g.Engagement.MM()) {
			t.Errorf("group %d: %g of the bolt is drawn past the insert's face, engagement %s", i, face-z0, g.Engagement)
		}
		bottom, _, _, _ := drawtest.Extent(s, tag("insert"))
		if !drawtest.Near(z0-bottom, g.Clearance.MM()) {
			t.Errorf("group %d: %g is drawn free before the tip, clearance %s", i, z0-bottom, g.Clearance)
		}
		if from, to, _, _ := drawtest.Extent(s, tag("plate")); !drawtest.Near(from, plane) || !drawtest.Near(to-from, 2.5) {
			t.Errorf("group %d: plate from %g to %g", i, from, to)
		}
		if len(g.Spacers) > 0 {
			if from, to, low, high := drawtest.Extent(s, tag("spacer")); !drawtest.Near(to-from, 10) || !drawtest.Near(from, -group.Setback.MM()) ||
				!drawtest.Near(high-low, 18) {
				t.Errorf("group %d: spacer from %g to %g, %g wide", i, from, to, high-low)
			}
		}
	}
	for _, i := range s.Items {
		if text, ok := i.Shape.(drawing.Text); ok && text.Anchor == drawing.End && text.At.X-drawing.TextWidth(text.Text, text.Height) < s.Min.X {
			t.Errorf("%q is cut off", text.Text.In(quantity.Imperial))
		}
		for _, q := range drawtest.Points(i.Shape) {
			if q.X < s.Min.X || q.X > s.Max.X || q.Y < s.Min.Y || q.Y > s.Max.Y {
				t.Fatalf("%s lies outside of the frame: %v", i.Tag, q)
			}
		}
	}
}

// TestBackIsSeenFromBehind: left and right change places, heights do not.
func TestBackIsSeenFromBehind(t *testing.T) {
	p := drawtest.Judged(func(d *catalog.Display, _ *catalog.Bracket) { d.Patterns[0].CenterRight = quantity.MM(30) })
	b := Back(&p)
	for tag, want := range map[string][2]float64{"stack.0.hole.TL": {100, 100}, "stack.0.hole.BR": {-100, -100}} {
		x0, x1, y0, y1 := drawtest.Extent(b, tag)
		if !drawtest.Near((x0+x1)/2, want[0]) || !drawtest.Near((y0+y1)/2, want[1]) {
			t.Errorf("%s at %g, %g; want %v", tag, (x0+x1)/2, (y0+y1)/2, want)
		}
	}
	// The pattern's centre lies 30 right of the display's, seen from the
	// front: from behind the display reaches 30 further to the right.
	x0, x1, y0, y1 := drawtest.Extent(b, "back.outline")
	if !drawtest.Near(x0, 30-547.5) || !drawtest.Near(x1, 30+547.5) || !drawtest.Near(y1, 352) || !drawtest.Near(y0, 352-634) {
		t.Errorf("outline %g to %g, %g to %g", x0, x1, y0, y1)
	}
	// The hook line is 219 above the pattern's centre, the arms reach 14 above.
	if _, _, low, high := drawtest.Extent(b, "back.arms"); !drawtest.Near(high, 219+14) || !drawtest.Near(low, 219-452) {
		t.Errorf("arms from %g to %g", low, high)
	}
	if none := drawtest.Judged(func(d *catalog.Display, _ *catalog.Bracket) { d.Patterns = nil }); Back(&none) != nil ||
		Section(&none) != nil {
		t.Error("without a pattern nothing can be drawn")
	}
}
