package template

import (
	"fmt"

	"nexufix/core/drawing"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/wall"
)

// site adds what a particular wall says to the template: where its studs are,
// the display's centre line where it is not the plate's, and the points to
// drill, numbered in the order of the measure card.
func (t *drill) site(p *place.Placement) {
	if p == nil || !p.Known {
		return
	}
	for _, s := range wall.Studs(&p.Job.Wall, p.DisplayX) {
		x := (s.X - p.DatumX).MM()
		half := s.Width.MM() / 2
		if x+half < t.left || x-half > t.right {
			continue
		}
		t.Line("template.stud", drawing.Centre, x, t.bottom, x, t.top)
		for _, side := range []float64{x - half, x + half} {
			if side > t.left && side < t.right {
				t.Line("template.stud", drawing.Hidden, side, t.bottom, side, t.top)
			}
		}
	}
	if shift := p.Shift(); shift != 0 {
		x := -shift.MM()
		t.Line("template.display", drawing.Centre, x, t.bottom, x, t.top)
		t.Add("template.display", drawing.Dim, drawing.Text{At: drawing.Point{X: x + 4.5, Y: t.bottom + 4}, Text: quantity.Say("middle of the display"), Height: drillText, Anchor: drawing.Start, Angle: 90})
	}
	for i, pt := range p.Points {
		x, y := (pt.X - p.DatumX).MM(), (pt.Y - p.Datum).MM()
		tag := fmt.Sprintf("point.%s", pt.Hole)
		r := pt.Drill.Diameter.Or(6*quantity.Millimetre).MM() / 2
		t.Named(tag, drawing.Solid, drawing.Circle{Center: drawing.Point{X: x, Y: y}, Radius: 0.6}, "Drill here: %v", pt.Hole)
		t.Named(tag, drawing.Outline, drawing.Circle{Center: drawing.Point{X: x, Y: y}, Radius: r}, "Drill here: %v", pt.Hole)
		for _, l := range [][4]float64{{-9, 0, -r, 0}, {r, 0, 9, 0}, {0, -9, 0, -r}, {0, r, 0, 9}} {
			t.Line(tag, drawing.Outline, x+l[0], y+l[1], x+l[2], y+l[3])
		}
		t.Add(tag, drawing.Dim, drawing.Text{At: drawing.Point{X: x - 3, Y: y - 14}, Text: quantity.Say("drill %v", i+1), Height: drillText * 1.2, Anchor: drawing.Middle, Strong: true})
	}
}

// siteLines are what the title block says of a place.
func siteLines(p *place.Placement) []quantity.Phrase {
	if p == nil || !p.Known {
		return nil
	}
	out := []quantity.Phrase{quantity.Say("For job %v, on %v: level line %v above the floor, %v from the wall's left end.", p.Job.ID, WallNames[p.Job.Wall.Type], quantity.Wall(p.Datum), quantity.Wall(p.DatumX))}
	for i, pt := range p.Points {
		side := "right"
		if pt.FromCentreLine < 0 {
			side = "left"
		}
		out = append(out, quantity.Say("Drill %v (%v): %v %v of the display's middle, %v below its top; %v above the floor.", i+1, pt.Hole, quantity.Wall(pt.FromCentreLine.Abs()), side, quantity.Wall(pt.BelowDisplayTop), quantity.Wall(pt.Y)))
	}
	return out
}
