package sheet

import (
	"fmt"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/drawing"
	"nexufix/core/quantity"
)

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
	bar(t.Drawing, "template.bar.mm", drawing.Point{X: x, Y: y}, 100, 10, "100 mm")
	bar(t.Drawing, "template.bar.in", drawing.Point{X: x, Y: y - 10}, 101.6, 4, "4 in")
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
func bar(d *drawing.Drawing, tag string, from drawing.Point, length float64, parts int, name string) {
	x, y := from.X, from.Y
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
