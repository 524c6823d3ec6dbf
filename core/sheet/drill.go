// Package sheet draws the sheets for the wall: the drilling template at 1:1, and the
// measure card with tape-measure numbers; and checks prints. Both
// take their points from the same [place.Placement], and both show the reasons against
// drilling, the fingerprint of their input, and that local codes and licensed practice
// decide.
package sheet

import (
	"fmt"
	"math"
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/draw/wall"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// Sheet is what the title block of a template shows besides the pairing.
type Sheet struct {
	Date  string // of the print; "" for none
	Mark  string // fingerprint of what it was computed from; "" for none
	Walls []catalog.WallType
	// The displays of a job on a particular wall; none: site-free.
	Places []place.Placement
	// The job, if its displays cannot be placed on its wall; nil for none.
	NotOn *catalog.Job
	Hide  []string // of Shows
	// For pages that are joined: only the points, the plate and the lines that they are measured
	// from; arrows show the distances of the display's edges.
	Joined bool
	// What keeps it from being installed, for a
	// job without a placement. None: the reasons of the pairing and of Places.
	Blocked  []fit.Check
	Language *quantity.Language // nil: English
	Release  *Release           // nil: it is a draft
}

// Shows are the parts of a template that can be left out: the display's
// outline, the studs, the wall plate, holes that are not drilled on this wall,
// the hook line, and the holes' coordinates.
var Shows = []string{"outline", "studs", "plate", "holes", "hook", "figures"}

const (
	sheetMargin = 12.0
	drillText   = 3.5   // notes, read at arm's length
	pointText   = 7.0   // points, read from a ladder
	joinedRoom  = 9.0   // around the points
	largestOut  = 841.0 // a larger outline is replaced by arrows
)

// HasTemplate reports whether there is a drilling template: not for a bracket without a
// wall plate, nor for a display without a place on the plate.
func HasTemplate(p *fit.Pairing) bool {
	plate := p.Bracket.WallPlate
	return plate != nil && p.Hang != nil && len(plate.Holes) > 0
}

// DrillTemplate draws the drilling template at 1:1, as seen facing the wall:
// the origin is the wall plate's datum, for a run the first one's. It is nil if
// there is none, see [HasTemplate] and [place.ByTape].
func DrillTemplate(p *fit.Pairing, sheet Sheet) *drawing.Drawing {
	if !HasTemplate(p) || place.ByTape(sheet.Places) {
		return nil
	}
	plate := p.Bracket.WallPlate
	whole := drill{Drawing: sheet.canvas(p, quantity.Say("Drilling template: %v on %v", drawing.ClipName(p.Display.Name(), 40),
		drawing.ClipName(p.Bracket.Name, 24)), 0.25, drillText), p: p, plate: plate}
	parts := []*place.Placement{nil}
	if len(sheet.Places) > 0 && sheet.Places[0].Known {
		parts = nil
		for i := range sheet.Places {
			parts = append(parts, &sheet.Places[i])
		}
	}
	whole.left, whole.bottom, whole.right, whole.top = math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for i, at := range parts {
		t := drill{Drawing: &drawing.Drawing{Pen: 0.25, TextHeight: drillText, Language: sheet.Language}, p: p, plate: plate, at: at,
			hide:   sheet.Hide,
			joined: sheet.Joined}
		if len(parts) > 1 {
			t.name, t.number = fmt.Sprintf("d%d-", i+1), i+1
		}
		t.extent()
		t.display()
		t.plateHoles()
		x := 0.0
		if at != nil {
			t.site(sheet.Places, i)
			x = (at.DatumX - parts[0].DatumX).MM()
		}
		t.write()
		whole.Embed(t.Drawing, 1, drawing.Point{X: x})
		whole.left, whole.right = min(whole.left, t.left+x), max(whole.right, t.right+x)
		whole.bottom, whole.top = min(whole.bottom, t.bottom), max(whole.top, t.top)
	}
	whole.titleBlock(sheet)
	return whole.Drawing
}

type drill struct {
	*drawing.Drawing
	p                        *fit.Pairing
	plate                    *catalog.WallPlate
	left, right, top, bottom float64          // what is drawn to scale
	outline                  bool             // the display's outline is on the sheet
	at                       *place.Placement // nil: site-free
	name                     string           // before the names of holes and points
	number                   int              // of the display in a run, from 1; 0 for a single one
	hide                     []string
	joined                   bool
	notes                    []note
	marks                    []drawing.Box // drilled places, which lettering avoids if it can
}

func (t *drill) shows(part string) bool { return !slices.Contains(t.hide, part) }

// plates returns the wall plates' datums, from their middle.
func (t *drill) plates() []float64 {
	if t.at != nil && len(t.at.Plates) > 0 {
		var out []float64
		for _, x := range t.at.Plates {
			out = append(out, (x - t.at.DatumX).MM())
		}
		return out
	}
	if t.plate.Count < 2 {
		return []float64{0}
	}
	apart := t.p.Hang.Width
	if s := t.plate.SeparationRange; s != nil {
		apart = min(max(apart, s.Min), s.Max)
	}
	return []float64{-apart.MM() / 2, apart.MM() / 2}
}

// edges returns the display's edges from the datum, NaN if not known.
func (t *drill) edges() (left, right, top, bottom float64) {
	left, right, top, bottom = math.NaN(), math.NaN(), math.NaN(), math.NaN()
	w, h, ok := t.p.Display.Outline(t.p.Turn)
	x, _ := t.p.Display.PatternCenter(t.p.Pattern, t.p.Turn)
	if a := t.p.Hang.DisplayTopAboveDatum; a.Known {
		top = a.Value.MM()
		if ok {
			bottom = top - h.MM()
		}
	}
	if ok && x.Known {
		middle := -x.Value.MM()
		if t.at != nil && t.at.Known {
			middle = -t.at.Shift().MM()
		}
		left, right = middle-w.MM()/2, middle+w.MM()/2
	}
	return left, right, top, bottom
}

func (t *drill) extent() {
	hook := t.plate.HookAboveDatum.MM()
	plates := t.plates()
	first, last := plates[0], plates[len(plates)-1]
	t.left, t.right = first-t.plate.Width.Or(0).MM()/2, last+t.plate.Width.Or(0).MM()/2
	t.top, t.bottom = max(t.plate.Height.Or(0).MM()/2, hook), min(-t.plate.Height.Or(0).MM()/2, hook)
	for _, h := range t.plate.Holes {
		r := h.Diameter.MM()/2 + 10
		x, y := r+h.Across().MM()/2, r+h.Up().MM()/2
		t.left, t.right = min(t.left, first+h.X.MM()-x), max(t.right, last+h.X.MM()+x)
		t.bottom, t.top = min(t.bottom, h.Y.MM()-y), max(t.top, h.Y.MM()+y)
	}
	room := 28.0
	if t.joined {
		room = joinedRoom
	}
	if t.at != nil { // the points' numbers stand on their left, what they are drilled for on their right
		for i := range t.at.Points {
			pt := &t.at.Points[i]
			x := (pt.X - t.at.DatumX).MM()
			size := drawing.TextWidth(drillSize(pt).For(t.Language), drillText)
			number := drawing.Text{Text: quantity.Say("drill %v", 88).For(t.Language), Height: pointText, Strong: true}.Box()
			t.left = min(t.left, x-4-(number.Max.X-number.Min.X)+room)
			t.right = max(t.right, x+4+size-room)
		}
	}
	l, r, u, d := t.edges()
	if !t.joined && t.shows("outline") && (t.at != nil || r-l <= largestOut) && u-d <= largestOut { // false when one is not known
		t.outline = true
		t.left, t.right, t.top, t.bottom = min(t.left, l), max(t.right, r), max(t.top, u), min(t.bottom, d)
	}
	t.left, t.right = t.left-room, t.right+room
	if t.joined {
		t.top, t.bottom = t.top+room, t.bottom-room
		return
	}
	t.top, t.bottom = t.top+18, t.bottom-14
	if need := 190.0; t.right-t.left < need {
		more := (need - (t.right - t.left)) / 2
		t.left, t.right = t.left-more, t.right+more
	}
}

// display draws the lines that are measured from, and the display's place.
func (t *drill) display() {
	hook := t.plate.HookAboveDatum.MM()
	t.Line("template.level", drawing.Level, t.left+4, 0, t.right-4, 0)
	t.Line("template.centre", drawing.Centre, 0, t.bottom+4, 0, t.top-4)
	first := t.number < 2 // of a run, the lines go on
	if first {
		t.levelLine("template.level", 0, quantity.Say("level line"))
	}
	if t.shows("hook") {
		t.Line("template.hook", drawing.Hidden, t.left+4, hook, t.right-4, hook)
		if first {
			t.levelLine("template.hook", hook, quantity.Say("hook line"))
		}
	}
	whose := "centre of the display"
	if t.at != nil && t.at.Known && t.at.Shift() != 0 {
		whose = "middle of the plate"
	}
	low := t.bottom + 6
	if t.joined {
		low = 8 // between the rows of holes
	}
	t.note(ofLine, "template.centre", drawing.Text{Text: quantity.Say("%v", whose), Height: drillText, Angle: 90},
		t.beside(0, low, drillText)...)
	t.edgesShown()
}

// edgesShown draws which way is up, and the display's outline or arrows with the distances to its edges.
func (t *drill) edgesShown() {
	l, r, u, d := t.edges()
	up := drawing.Point{X: t.right - 12, Y: t.top - 6}
	if t.number > 0 && t.outline {
		up = drawing.Point{X: r - 12, Y: u - 4} // clear of the next display
	}
	t.Add("template.up", drawing.Solid,
		drawing.Polygon{Points: []drawing.Point{up, {X: up.X - 4, Y: up.Y - 7}, {X: up.X - 1.3, Y: up.Y - 7}, {X: up.X - 1.3, Y: up.Y - 15},
			{X: up.X + 1.3, Y: up.Y - 15}, {X: up.X + 1.3, Y: up.Y - 7}, {X: up.X + 4, Y: up.Y - 7}}})
	t.note(ofPoint, "template.up", drawing.Text{Text: quantity.Say("UP"), Height: 4, Strong: true}, at(up.X, up.Y-20, drawing.Middle))
	if t.outline {
		t.Add("template.outline", drawing.Hidden,
			drawing.Line{Points: []drawing.Point{{X: l, Y: d}, {X: r, Y: d}, {X: r, Y: u}, {X: l, Y: u}, {X: l, Y: d}}})
		whose := "outline of the display"
		if t.number > 0 {
			whose = fmt.Sprintf("display %d", t.number)
		}
		t.note(help, "template.outline", drawing.Text{Text: quantity.Say("%v", whose), Height: drillText}, at(l+2, u-drillText-1, drawing.Start),
			at(r-2, u-drillText-1, drawing.End), at(l+2, d+1.5, drawing.Start), at(r-2, d+1.5, drawing.End))
	}
	if !t.outline && t.shows("outline") {
		t.edge("left", l, drawing.Point{X: t.left + 16, Y: -8}, drawing.Point{X: -1}, drawing.Start)
		t.edge("right", r, drawing.Point{X: t.right - 16, Y: -8}, drawing.Point{X: 1}, drawing.End)
		t.edge("top", u, drawing.Point{X: 12, Y: t.top - 16}, drawing.Point{Y: 1}, drawing.Start)
		t.edge("bottom", d, drawing.Point{X: 12, Y: t.bottom + 14}, drawing.Point{Y: -1}, drawing.Start)
	}
}

// edge draws an arrow towards an edge of the display with its distance; none if that is not
// known.
func (t *drill) edge(edge string, distance float64, from, way drawing.Point, a drawing.Anchor) {
	x, y, dx, dy := from.X, from.Y, way.X, way.Y
	if math.IsNaN(distance) {
		return
	}
	tag := "template.edge." + edge
	t.Line(tag, drawing.Thin, x, y, x+dx*10, y+dy*10)
	t.Add(tag, drawing.Solid, drawing.Polygon{Points: []drawing.Point{{X: x + dx*10, Y: y + dy*10}, {X: x + dx*7 + dy, Y: y + dy*7 + dx},
		{X: x + dx*7 - dy, Y: y + dy*7 - dx}}})
	var places []drawing.Place
	for _, off := range []float64{0, -5, 5, -10, 10, -15, 15, -20, 20, -25, 25, -30, 30} {
		if dx != 0 {
			places = append(places, at(x, y+1.6+off, a), at(x+dx*10, y+1.6+off, a))
		} else {
			places = append(places, at(x+1.5, y+off, a), at(x-1.5, y+off, drawing.End), at((t.left+t.right)/2, y+off, drawing.Middle))
		}
	}
	far := quantity.Bare{Length: quantity.FromMM(math.Abs(distance)), Wall: true}
	text := quantity.Say("display's %v edge %v from %v", edge, far,
		map[bool]string{true: "the centre line", false: "the level line"}[dx != 0])
	if drawing.TextWidth(text.For(t.Language), drillText) > (t.right-t.left)/2-22 {
		text = quantity.Say("display's edge %v", far) // the arrow says which
	}
	t.note(ofEdge, tag, drawing.Text{Height: drillText, Text: text}, places...)
}

// levelLine names a level line, over it or under it, at its left end or its right one.
func (t *drill) levelLine(tag string, y float64, name quantity.Phrase) {
	t.note(ofLine, tag, drawing.Text{Text: name, Height: drillText}, at(t.left+5, y+1.2, drawing.Start), at(t.right-5, y+1.2, drawing.End),
		at(t.left+5, y-1.2-drillText, drawing.Start), at(t.right-5, y-1.2-drillText, drawing.End))
}

// plateHoles draws the wall plates and every drilling point with cross-hairs.
func (t *drill) plateHoles() {
	plates := t.plates()
	for n, datum := range plates {
		if t.shows("plate") && t.plate.Width.Known && t.plate.Height.Known {
			w, h := t.plate.Width.Value.MM()/2, t.plate.Height.Value.MM()/2
			t.Add("template.plate", drawing.Outline,
				drawing.Line{Points: []drawing.Point{{X: datum - w, Y: -h}, {X: datum + w, Y: -h}, {X: datum + w, Y: h}, {X: datum - w, Y: h},
					{X: datum - w, Y: -h}}})
		}
		for i := range t.plate.Holes {
			h := &t.plate.Holes[i]
			name, number := h.ID, 0
			if len(plates) > 1 {
				number = n + 1
				name = fmt.Sprintf("p%d-%s", number, h.ID)
			}
			if t.at != nil && !t.shows("holes") && !t.drilled(h.ID, number) {
				continue
			}
			t.hole(h, t.name+name, datum)
		}
	}
}

// drilled reports whether a hole of a plate is drilled on this wall.
func (t *drill) drilled(id string, plate int) bool {
	return slices.ContainsFunc(t.at.Points, func(p place.Point) bool { return p.Hole == id && p.Plate == plate })
}

// hole draws one hole of a plate whose datum is at x.
func (t *drill) hole(h *catalog.PlateHole, name string, datum float64) {
	tag := "hole." + name
	x, y, r := datum+h.X.MM(), h.Y.MM(), wall.HoleRadius(h)
	hx, hy := h.Across().MM()/2, h.Up().MM()/2
	wall.PlateHole(t.Drawing, tag, h, datum)
	t.Line(tag, drawing.Thin, x-hx-r-3, y, x+hx+r+3, y)
	t.Line(tag, drawing.Thin, x, y-hy-r-3, x, y+hy+r+3)
	above, below := y+hy+r+1.2, y-hy-r-drillText-0.6
	t.note(ofHole, tag, drawing.Text{Text: quantity.Say("%v", h.ID), Height: drillText, Strong: true}, at(x+1.2, above, drawing.Start),
		at(x-1.2, above, drawing.End), at(x+1.2, below, drawing.Start), at(x-1.2, below, drawing.End))
	if t.shows("figures") {
		const next = drillText * 1.4
		t.note(help, tag, drawing.Text{Height: drillText * 0.8,
			Text: quantity.Say("x %v  y %v", quantity.Bare{Length: h.X, Wall: true}, quantity.Bare{Length: h.Y, Wall: true})},
			at(x+1.2, below, drawing.Start), at(x+1.2, above+next, drawing.Start), at(x-1.2, above, drawing.End),
			at(x-1.2, below, drawing.End), at(x-1.2, above+next, drawing.End), at(x+1.2, below-next, drawing.Start))
	}
}

// WhyNoDrill returns why a pairing has no drilling template.
func WhyNoDrill(p *fit.Pairing) string {
	switch {
	case HasTemplate(p):
		return "the run is wider than 10 m: its holes are marked with the tape, as the measure card lists them"
	case p.Pattern == nil:
		return "the display's hole pattern is not known"
	case p.Hang == nil:
		return "the display does not hang on this bracket"
	}
	return "the bracket's wall plate is not described"
}
