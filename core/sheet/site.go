package sheet

import (
	"fmt"

	"nexufix/core/catalog"
	"nexufix/core/draw/wall"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// PointRadius is the radius of the dot at a point to drill, in millimetres.
const PointRadius = 0.6

// site adds what is known of a particular wall for one display of a job: its
// studs, the display's centre line if it is not the plate's, and the
// points to drill, numbered as on the measure card.
func (t *drill) site(all []place.Placement, index int) {
	p := &all[index]
	for n, s := range p.Studs {
		x := (s.X - p.DatumX).MM()
		half := s.Width.MM() / 2
		if !t.shows("studs") || !p.Job.Wall.Type.HasStuds() || x+half < t.left || x-half > t.right {
			continue
		}
		tag := fmt.Sprintf("template.stud.%d", n)
		t.Line(tag, drawing.Centre, x, t.bottom, x, t.top)
		for _, side := range []float64{x - half, x + half} {
			if side > t.left && side < t.right {
				t.Line(tag, drawing.Hidden, side, t.bottom, side, t.top)
			}
		}
		y := t.top - 30
		if t.joined {
			y = 12 // between the points, where there is room
		}
		if nearest(all, s.X) != index {
			continue // it is named by another display
		}
		t.note(help, tag, drawing.Text{Text: quantity.Say("middle of a stud"), Height: drillText * 0.8, Angle: 90},
			t.beside(x, y, drillText*0.8)...)
	}
	if shift := p.Shift(); shift != 0 {
		x := -shift.MM()
		t.Line("template.display", drawing.Centre, x, t.bottom, x, t.top)
		t.note(ofLine, "template.display", drawing.Text{Text: quantity.Say("middle of the display"), Height: drillText, Angle: 90},
			t.beside(x+3.1, t.bottom+4, 0)...)
	}
	for i := range p.Points {
		pt := &p.Points[i]
		x, y := (pt.X - p.DatumX).MM(), (pt.Y - p.Datum).MM()
		tag := "point." + wall.PointName(p, pt, len(all))
		r := pt.Drill.Diameter.Or(6*quantity.Millimetre).MM() / 2
		t.Named(tag, drawing.Solid, drawing.Circle{Center: drawing.Point{X: x, Y: y}, Radius: PointRadius}, "Drill here: %v", pt.Hole)
		t.Named(tag, drawing.Outline, drawing.Circle{Center: drawing.Point{X: x, Y: y}, Radius: r}, "Drill here: %v", pt.Hole)
		for _, l := range [][4]float64{{-9, 0, -r, 0}, {r, 0, 9, 0}, {0, -9, 0, -r}, {0, r, 0, 9}} {
			t.Line(tag, drawing.Outline, x+l[0], y+l[1], x+l[2], y+l[3])
		}
		t.marks = append(t.marks, drawing.Box{Min: drawing.Point{X: x - 9, Y: y - 9}, Max: drawing.Point{X: x + 9, Y: y + 9}})
		// Beside the stud's middle line, not on it.
		t.note(ofPoint, tag, drawing.Text{Text: quantity.Say("drill %v", wall.Number(all, index, i)), Height: pointText, Strong: true},
			at(x-2.5, y-14.6, drawing.End))
		size, depth := drillSize(pt), drillDepth(pt)
		t.note(ofPoint, tag, drawing.Text{Text: size, Height: drillText}, at(x+2.5, y-13.2, drawing.Start))
		if !depth.Empty() {
			t.note(ofPoint, tag, drawing.Text{Text: depth, Height: drillText}, at(x+2.5, y-17.6, drawing.Start))
		}
	}
}

// nearest returns the display of a run whose plate is nearest to a place.
func nearest(all []place.Placement, x quantity.Length) int {
	best := 0
	for i := range all {
		if (all[i].DatumX - x).Abs() < (all[best].DatumX - x).Abs() {
			best = i
		}
	}
	return best
}

// drillFigures writes a point's fastener, diameter and depth on one line.
func drillFigures(pt *place.Point) quantity.Phrase {
	text := drillSize(pt)
	if depth := drillDepth(pt); !depth.Empty() {
		text = quantity.Say("%v, %v", text, depth)
	}
	return text
}

func drillSize(pt *place.Point) quantity.Phrase {
	if !pt.Drill.Diameter.Known {
		return quantity.Say("%v", pt.Drill.Fastener)
	}
	return quantity.Say("%v Ø %v", pt.Drill.Fastener, quantity.Bare{Length: pt.Drill.Diameter.Value})
}

func drillDepth(pt *place.Point) quantity.Phrase {
	if !pt.Drill.Depth.Known {
		return quantity.Phrase{}
	}
	return quantity.Say("%v deep", quantity.Bare{Length: pt.Drill.Depth.Value, Bound: quantity.Up, Wall: true})
}

// maxLines is how many points a title block lists; more are on the card.
const maxLines = 16

// siteLines returns the title block's lines about a job's placements.
func siteLines(all []place.Placement) []quantity.Phrase {
	if len(all) == 0 || !all[0].Known {
		return nil
	}
	p := &all[0]
	out := []quantity.Phrase{quantity.Say("For job %v, on %v: level line %v above the floor, %v from the wall's left end.",
		drawing.ClipName(p.Job.ID, 40), p.Job.Wall.Type.Name(), quantity.Wall(p.Datum), quantity.Wall(p.DatumX))}
	if len(all) > 1 {
		out = append(out, quantity.Say("A run of %v displays, %v apart, all on this level line.", len(all), quantity.Wall(p.Job.Run.Gap)))
	}
	count := 0
	for i := range all {
		count += len(all[i].Points)
	}
	if count > maxLines {
		return append(out, quantity.Say("%v holes, numbered as on the measure card.", count))
	}
	for i := range all {
		for n := range all[i].Points {
			pt := &all[i].Points[n]
			out = append(out, quantity.Say("Drill %v (%v): %v the display's middle, %v its top edge; %v above the floor.",
				wall.Number(all, i, n), pt.Hole, quantity.LeftOrRight(pt.FromCentreLine), quantity.AboveOrBelow(-pt.BelowDisplayTop),
				quantity.Wall(pt.Y)))
		}
	}
	return out
}

// notPlaced returns the note that the displays cannot be placed on the wall.
func notPlaced(job *catalog.Job) quantity.Phrase {
	whose := quantity.Say("The wall of job %v", drawing.ClipName(job.ID, 40))
	if job.ID == "" || job.ID == "site" { // an unsaved one
		whose = quantity.Say("The wall that is set up")
	}
	return quantity.Say("%v, %v, does not take it as it is set up: drill nothing there. What stands below is the plate's.", whose,
		job.Wall.Type.Name())
}

// maxReasons is how many reasons against installing a sheet lists.
const maxReasons = 6

// against lists what keeps a pairing, at the places of a job, from being
// installed: each reason once, the first ones in full.
func against(p *fit.Pairing, sheet *Sheet) []quantity.Phrase {
	var out []quantity.Phrase
	if len(sheet.Places) == 0 && sheet.NotOn == nil {
		out = append(out, place.NotJudged(&catalog.Wall{}))
	}
	all := sheet.blocked(p)
	for i, c := range all {
		if i == maxReasons && len(all) > maxReasons+1 {
			return append(out, quantity.Say("Do not install: and %v more reasons.", len(all)-i))
		}
		out = append(out, quantity.Say("Do not install: %v", c.Text))
	}
	return out
}

// blocked returns every reason against the use of a sheet.
func (s *Sheet) blocked(p *fit.Pairing) []fit.Check {
	if s.Blocked != nil {
		return s.Blocked
	}
	return place.Blocking(p, s.Places)
}

// titled returns a sheet's title, which is on every page, with a warning if there are reasons against
// its use.
func (s *Sheet) titled(p *fit.Pairing, title quantity.Phrase) quantity.Phrase {
	if len(s.blocked(p)) > 0 {
		return quantity.Say("DO NOT INSTALL. %v", title)
	}
	return title
}

// canvas returns an empty sheet in its language.
func (s *Sheet) canvas(p *fit.Pairing, title quantity.Phrase, pen, text float64) *drawing.Drawing {
	d := &drawing.Drawing{Title: s.titled(p, title).For(s.Language).In(quantity.Metric), Pen: pen, TextHeight: text, Language: s.Language}
	if s.Release == nil {
		d.Across = Draft().For(s.Language)
	}
	return d
}
