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

	"nexufix/core/anchorage"
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

// note is lettering with its possible places, the best first.
type note struct {
	rank   rank
	tag    string
	text   drawing.Text
	places []drawing.Place
}

// rank is the priority of lettering. Names of lines and hints are left out
// if there is no room.
type rank int

func (r rank) spare() bool { return r == ofLine || r == help }

const (
	ofPoint rank = iota // fastener and drill
	ofHole
	ofEdge
	ofLine // a line that is measured from
	help
)

func (t *drill) note(r rank, tag string, text drawing.Text, places ...drawing.Place) {
	t.notes = append(t.notes, note{r, tag, text, places})
}

// write writes the lettering without overlaps.
func (t *drill) write() {
	slices.SortStableFunc(t.notes, func(a, b note) int { return int(a.rank - b.rank) })
	for _, n := range t.notes {
		n.text.Text = n.text.Text.For(t.Language)
		n.text = n.text.Measured()
		if places := slices.DeleteFunc(slices.Clone(n.places), func(p drawing.Place) bool {
			return !t.holds(n.text, p) || n.rank.spare() && t.covers(n.text, p) > 0
		}); len(places) > 0 {
			n.places = places
		} else if n.rank.spare() {
			continue
		}
		slices.SortStableFunc(n.places, func(a, b drawing.Place) int { return t.covers(n.text, a) - t.covers(n.text, b) })
		if n.rank.spare() {
			t.WriteIfFree(n.tag, n.text, n.places...)
		} else {
			t.Write(n.tag, n.text, n.places...)
		}
	}
}

// covers counts the marks that a text at a place would cover.
func (t *drill) covers(text drawing.Text, p drawing.Place) (n int) {
	text.At, text.Anchor = p.At, p.Anchor
	b := text.Box()
	for _, m := range t.marks {
		if m.Meets(b) {
			n++
		}
	}
	return n
}

// holds reports whether a text at a place fits on the sheet.
func (t *drill) holds(text drawing.Text, p drawing.Place) bool {
	text.At, text.Anchor = p.At, p.Anchor
	b := text.Box()
	return b.Min.X >= t.left && b.Max.X <= t.right && b.Min.Y >= t.bottom && b.Max.Y <= t.top
}

func at(x, y float64, a drawing.Anchor) drawing.Place {
	return drawing.Place{At: drawing.Point{X: x, Y: y}, Anchor: a}
}

// beside returns places on both sides of a vertical line, up and down from a height.
func (t *drill) beside(x, y, height float64) []drawing.Place {
	var out []drawing.Place
	for step := 0.0; step < t.top-t.bottom; step += 9 {
		for _, up := range []float64{y + step, y - step} {
			if up > t.bottom+2 && up < t.top-2 {
				out = append(out, at(x-1.4, up, drawing.Start), at(x+1.4+height, up, drawing.Start))
			}
		}
	}
	return append(out, at(x-1.4, y, drawing.Start))
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
		t.edge("left", l, t.left+16, -8, -1, 0, drawing.Start)
		t.edge("right", r, t.right-16, -8, 1, 0, drawing.End)
		t.edge("top", u, 12, t.top-16, 0, 1, drawing.Start)
		t.edge("bottom", d, 12, t.bottom+14, 0, -1, drawing.Start)
	}
}

// edge draws an arrow towards an edge of the display with its distance; none if that is not
// known.
func (t *drill) edge(edge string, distance, x, y, dx, dy float64, a drawing.Anchor) {
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

// titleBlock writes what the sheet is, how to drill, and the two bars that
// check the print, below the drawing.
func (t *drill) titleBlock(sheet Sheet) {
	y := t.bottom - 4
	x := t.left + 4
	t.Line("template.block", drawing.Outline, t.left, y, t.right, y)
	spacing := 1.75
	if sheet.Joined {
		spacing = 1.5 // a row of pages less
	}
	code := sheet.Release.CodeSize()
	sheet.Release.Code(t.Drawing, t.right-4-code, y-2, code)
	line := func(strong bool, height float64, text quantity.Phrase) {
		for _, one := range drawing.Wrap(text.For(sheet.Language), t.right-x-4-code, height, strong) {
			y -= height * spacing
			t.Add("template.block", drawing.Dim, drawing.Text{At: drawing.Point{X: x, Y: y}, Text: one, Height: height, Anchor: drawing.Start,
				Strong: strong})
		}
	}
	p := t.p
	line(true, 4.6, quantity.Say("%v on %v", drawing.ClipName(p.Display.Name(), 70), drawing.ClipName(p.Bracket.Name, 50)))
	revision := p.Bracket.Revision
	if revision == "" {
		revision = "not given"
	}
	w, h := p.Turn.Size(p.Pattern.Width, p.Pattern.Height)
	turned := ""
	if p.Turn != 0 {
		turned = fmt.Sprintf(", turned %d°", p.Turn)
	}
	line(false, drillText, quantity.Say("Bracket revision %v. Pattern %v, %v%v. Seen facing the wall, scale 1:1.", revision,
		patternSize(w, h), p.Pattern.Thread, turned))
	if sheet.NotOn != nil {
		line(true, drillText, notPlaced(sheet.NotOn))
	}
	whose := "Not for a particular wall: find the studs first."
	if sheet.Places != nil {
		whose = "Check the studs two independent ways before drilling."
	}
	if sheet.Date != "" {
		line(false, drillText, quantity.Say("Drawn %v%v. %v %v", sheet.Date, computedFrom(sheet.Mark), sheet.Release.Standing(), whose))
	}
	for _, text := range against(p, &sheet) {
		line(true, drillText*1.1, text)
		t.Warning = quantity.Say("Do not install: the reasons stand with the title.").For(sheet.Language)
	}
	for _, text := range siteLines(sheet.Places) {
		line(false, drillText, text)
	}
	walls := sheet.Walls
	if len(sheet.Places) > 0 {
		walls = []catalog.WallType{sheet.Places[0].Job.Wall.Type}
	}
	if walls == nil {
		walls = wallOrder(p.Bracket)
	}
	for _, kind := range walls {
		if d, ok := holeIn(p.Bracket, kind); ok {
			line(false, drillText, drillLine(d))
		}
	}
	if n := t.plate.StudsRequired; n > 0 && (len(sheet.Places) == 0 || walls[0].HasStuds()) {
		studs := "1 stud"
		if n > 1 {
			studs = fmt.Sprintf("%d studs", n)
		}
		line(false, drillText, quantity.Say("On studs, use %v: in each, %v of the top holes and %v of the bottom holes.", studs,
			t.plate.TopPerStud, t.plate.BottomPerStud))
	}
	if code > 0 {
		y = min(y, t.bottom-4-2-code+drillText)
	}
	top, below := t.tape()
	line(false, drillText, quantity.Say("With a tape: %v. Holes %v either side of the centre line.", top, below))
	line(false, drillText*0.9, quantity.Say("Find cables and pipes before drilling. Local codes and licensed practice decide."))
	if sheet.Joined { // every page has the bars
		t.frame(y-4, 0)
		return
	}
	t.bars(x, y-11)
}

// bars draws the two that check the print, and ends the sheet.
func (t *drill) bars(x, y float64) {
	bar(t.Drawing, "template.bar.mm", x, y, 100, 10, "100 mm")
	bar(t.Drawing, "template.bar.in", x, y-10, 101.6, 4, "4 in")
	low := y - 14
	for _, text := range []quantity.Phrase{quantity.Say("Measure these bars before use."),
		quantity.Say("If they are off, print again at full size, not fitted to the page.")} {
		for _, one := range drawing.Wrap(text.For(t.Language), t.right-x-110, drillText, false) {
			t.Add("template.bar", drawing.Dim, drawing.Text{At: drawing.Point{X: x + 108, Y: y}, Text: one, Height: drillText,
				Anchor: drawing.Start})
			y -= 5
		}
	}
	t.frame(min(y, low)-2, sheetMargin)
}

// frame ends the sheet below y, with a margin around.
func (t *drill) frame(y, margin float64) {
	t.Min = drawing.Point{X: t.left - margin, Y: y - margin}
	t.Max = drawing.Point{X: t.right + margin, Y: t.top + margin}
	t.Add("template.frame", drawing.Outline, drawing.Line{Points: []drawing.Point{
		{X: t.left, Y: y}, {X: t.right, Y: y}, {X: t.right, Y: t.top}, {X: t.left, Y: t.top}, {X: t.left, Y: y}}})
}

// computedFrom writes the fingerprint of a sheet.
func computedFrom(mark string) quantity.Phrase {
	if mark == "" {
		return quantity.Phrase{}
	}
	return quantity.Say(" from %v", mark)
}

// wallOrder are the types of wall that a bracket has figures for.
func wallOrder(b *catalog.Bracket) []catalog.WallType {
	var out []catalog.WallType
	for _, kind := range catalog.WallTypes {
		if _, ok := b.Walls[kind]; ok {
			out = append(out, kind)
		}
	}
	return out
}

func patternSize(w, h quantity.Length) string {
	return quantity.FormatDecimal(int64(w), 6) + " × " + quantity.FormatDecimal(int64(h), 6)
}

// tape writes the two tape-measure numbers.
func (t *drill) tape() (top, half quantity.Phrase) {
	top = quantity.Say("display top to hole row not known")
	hg := t.p.Hang
	if hg.DisplayTopAboveDatum.Known && hg.CenterAboveDatum.Known {
		row := hg.DisplayTopAboveDatum.Value - hg.CenterAboveDatum.Value - hg.Height/2
		top = quantity.Say("display top to hole row %v", quantity.Wall(row))
	}
	return top, quantity.Say("%v", quantity.Wall(hg.Width/2))
}

// holeIn returns the hole for a bracket's plate in a type of wall;
// false if the bracket has no figures for it.
func holeIn(b *catalog.Bracket, kind catalog.WallType) (anchorage.Hole, bool) {
	c, l := anchorage.Choose(b, &catalog.Wall{Type: kind}), anchorage.LayersOf(b, &catalog.Wall{Type: kind})
	return anchorage.HoleFor(b, &c, &l), c.Said
}

// drillLine writes how to drill in one type of wall.
func drillLine(d anchorage.Hole) quantity.Phrase {
	text := drillFacts(d)
	if note := makersDepth(d); !note.Empty() {
		text = quantity.Say("%v (%v)", text, note)
	}
	return quantity.Say("%v.", text)
}

// drillFacts writes fastener, drill and depth.
func drillFacts(d anchorage.Hole) quantity.Phrase {
	text := quantity.Say("%v:", d.Wall.Name())
	if d.Item != "" {
		text = quantity.Say("%v %v,", text, d.Item)
	}
	if d.Diameter.Known {
		text = quantity.Say("%v drill Ø %v", text, d.Diameter.Value)
	}
	if d.Depth.Known {
		text = quantity.Say("%v, %v deep from the wall's surface", text, quantity.AtMost(d.Depth.Value.Ceil(quantity.Millimetre/2)))
	}
	return text
}

// makersDepth writes the maker's depth if it is different.
func makersDepth(d anchorage.Hole) quantity.Phrase {
	switch {
	case d.Short():
		return quantity.Say("the maker says %v, and the fastener needs %v", d.Maker.Value, d.Need.Value)
	case d.Maker.Known && d.Maker.Value != d.Depth.Value:
		return quantity.Say("the maker says %v", d.Maker.Value)
	}
	return quantity.Phrase{}
}

// bar draws a scale bar of a length in millimetres with ticks.
func bar(d *drawing.Drawing, tag string, x, y, length float64, parts int, name string) {
	d.Line(tag, drawing.Outline, x, y, x+length, y)
	for i := range parts + 1 {
		tick := 2.0
		if i == 0 || i == parts || i*2 == parts {
			tick = 4
		}
		at := x + length*float64(i)/float64(parts)
		d.Line(tag, drawing.Outline, at, y, at, y+tick)
	}
	d.Add(tag, drawing.Dim, drawing.Text{At: drawing.Point{X: x + length/2, Y: y - 4.2}, Text: quantity.Say(name), Height: drillText,
		Anchor: drawing.Middle})
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
