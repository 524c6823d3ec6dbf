package sheet

import (
	"nexufix/core/draw/wall"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// The card's page, in millimetres: A4 across its width, and as long as A4 or,
// for long runs, longer.
const (
	cardWidth  = 210.0
	cardLength = 297.0
	cardMargin = 14.0
	cardText   = 2.9
	cardLeast  = 1.9
)

// MeasureCard draws the tape-measure numbers on one
// page, in the order they are used, with a drawing: of the wall for a job,
// else of the plate. They agree with the template: both come from the
// placement. It is nil for a pairing without a plate with holes.
func MeasureCard(p *fit.Pairing, sheet Sheet) *drawing.Drawing {
	plate := p.Bracket.WallPlate
	if plate == nil || p.Hang == nil || len(plate.Holes) == 0 {
		return nil
	}
	all := sheet.Places
	if len(all) > 0 && !all[0].Known {
		all = nil
	}
	// On one page: if it does not fit, the text is made smaller, as long as it can
	// be read at arm's length; then the page grows.
	var c card
	standsOn := place.StandsOn(p, all)
	for _, text := range []float64{cardText, cardText * 0.88, cardText * 0.77, cardLeast} {
		c = card{Drawing: sheet.canvas(p, quantity.Say("Measure card"), 0.2, text), p: p, y: -cardMargin, standsOn: standsOn}
		c.head(sheet, all)
		c.rule()
		if all != nil {
			c.picture(wall.Elevation(all), 112*text/cardText)
			c.site(all)
		} else {
			c.picture(DrillTemplate(p, Sheet{Hide: []string{"figures", "outline"}, Language: sheet.Language}), 80)
			c.withoutWall()
		}
		c.cautions()
		if c.y >= -cardLength+cardMargin {
			break
		}
	}
	c.Min = drawing.Point{X: 0, Y: min(-cardLength, c.y-cardMargin)}
	c.Max = drawing.Point{X: cardWidth, Y: 0}
	return c.Drawing
}

type card struct {
	*drawing.Drawing
	p        *fit.Pairing
	standsOn []quantity.Phrase // what nobody has said
	y        float64           // the next line is below this
	code     float64           // how wide the code beside the lines is
	step     int
}

// line writes a text on one line, or more if needed.
func (c *card) line(x, height float64, strong bool, text quantity.Phrase) {
	for i, one := range drawing.Wrap(text.For(c.Language), cardWidth-cardMargin-x-7-c.code, height, strong) {
		c.y -= height * 1.9
		c.Add("card", drawing.Dim, drawing.Text{At: drawing.Point{X: x + 7*float64(min(i, 1)), Y: c.y}, Text: one, Height: height,
			Anchor: drawing.Start, Strong: strong})
	}
}

func (c *card) rule() {
	c.y -= 2
	c.Line("card", drawing.Thin, cardMargin, c.y, cardWidth-cardMargin, c.y)
}

func (c *card) head(sheet Sheet, all []place.Placement) {
	p := c.p
	if sheet.Release != nil {
		c.code = sheet.Release.CodeSize()
		sheet.Release.Code(c.Drawing, cardWidth-cardMargin-c.code, c.y, c.code)
		defer func() { c.code, c.y = 0, min(c.y, -cardMargin-sheet.Release.CodeSize()) }()
	}
	c.line(cardMargin, 4.2, true, quantity.Say("Measure card: %v on %v", drawing.ClipName(p.Display.Name(), 40),
		drawing.ClipName(p.Bracket.Name, 24)))
	revision := p.Bracket.Revision
	if revision == "" {
		revision = "not given"
	}
	drawn := quantity.Phrase{}
	if sheet.Date != "" {
		drawn = quantity.Say(" Drawn %v%v.", sheet.Date, computedFrom(sheet.Mark))
	}
	c.line(cardMargin, c.TextHeight, false, quantity.Say("Bracket revision %v. Seen facing the wall.%v %v",
		drawing.Clip(revision, 20), drawn, sheet.Release.Standing()))
	if all != nil {
		w := &all[0].Job.Wall
		text := quantity.Say("Job %v, on %v", drawing.ClipName(all[0].Job.ID, 40), w.Type.Name())
		if w.Covering.Known {
			text = quantity.Say("%v behind %v of covering", text, w.Covering.Value)
		}
		c.line(cardMargin, c.TextHeight, false, quantity.Say("%v.", text))
		if len(all) > 1 {
			c.line(cardMargin, c.TextHeight, false, quantity.Say("A run of %v displays, %v apart.", len(all), quantity.Wall(all[0].Job.Run.Gap)))
		}
	} else if sheet.NotOn != nil {
		c.line(cardMargin, c.TextHeight, true, notPlaced(sheet.NotOn))
	} else {
		c.line(cardMargin, c.TextHeight, false, quantity.Say("For no particular wall: find what is behind it first."))
	}
	for _, text := range against(p, &sheet) {
		c.line(cardMargin, c.TextHeight, true, text)
	}
}

// picture fits a drawing into the card's width and at most a height.
func (c *card) picture(d *drawing.Drawing, most float64) {
	if d == nil {
		return
	}
	width := cardWidth - 2*cardMargin
	factor := min(width/d.Width(), most/d.Height())
	left := cardMargin + (width-d.Width()*factor)/2
	c.y -= 3
	c.Embed(d, factor, drawing.Point{X: left - d.Min.X*factor, Y: c.y - d.Max.Y*factor})
	c.y -= d.Height() * factor
	c.rule()
}

// do writes a numbered task.
func (c *card) do(format string, args ...any) {
	c.step++
	c.line(cardMargin, c.TextHeight*1.15, false, quantity.Say("%v.  %v", c.step, quantity.Say(format, args...)))
}

// list writes a numbered task with a list after it.
func (c *card) list(format string, figures []quantity.Phrase, between string) {
	if len(figures) == 0 {
		return
	}
	c.do(format, quantity.List(between, figures...))
}

// cardColumns is the table of points: where each ends, or begins for the first
// ones.
var cardColumns = []struct {
	head string
	x    float64
	a    drawing.Anchor
}{
	{"no.", cardMargin + 2, drawing.Start}, {"hole", cardMargin + 9, drawing.Start}, {"from the middle", 76, drawing.End},
	{"from the level line", 109, drawing.End}, {"above the floor", 134, drawing.End}, {"fastener and hole", 138, drawing.Start},
}

func (c *card) row(height float64, strong bool, cells ...quantity.Phrase) {
	c.y -= height * 2
	for i, text := range cells {
		t := drawing.Text{At: drawing.Point{X: cardColumns[i].x, Y: c.y}, Text: text.For(c.Language), Height: height,
			Anchor: cardColumns[i].a, Strong: strong}
		if over := t.Box().Max.X - (cardWidth - cardMargin/2); over > 0 { // the last column is smaller where it is long
			t.Height *= 1 - over/(t.Box().Max.X-t.Box().Min.X)
		}
		c.Add("card.row", drawing.Dim, t)
	}
}

func (c *card) tableHead() {
	var cells []quantity.Phrase
	for _, col := range cardColumns {
		cells = append(cells, quantity.Say("%v", col.head))
	}
	c.row(c.TextHeight*0.85, false, cells...)
}

// site writes the numbers of a job, in the order they are used.
func (c *card) site(all []place.Placement) {
	first := &all[0]
	w := &first.Job.Wall
	c.do("Level line: %v above the floor. Draw it level, all the way.", quantity.Wall(first.Datum))
	if len(all) == 1 {
		c.do("Middle of the display: %v from the wall's left end. Draw it plumb.", quantity.Wall(first.DisplayX))
	} else {
		var middles []quantity.Phrase
		for i := range all {
			middles = append(middles, quantity.Say("%v", quantity.Wall(all[i].DisplayX)))
		}
		c.list("Middles of the displays, from the wall's left end: %v", middles, ", ")
	}
	if w.Type.HasStuds() {
		var used []quantity.Phrase
		seen := map[int]bool{}
		for i := range all {
			for _, pt := range all[i].Points {
				if pt.Stud >= 0 && !seen[pt.Stud] {
					seen[pt.Stud] = true
					used = append(used, quantity.Say("%v", quantity.Wall(all[i].Studs[pt.Stud].X)))
				}
			}
		}
		c.list("Studs to meet, from the wall's left end to their middles: %v", used, ", ")
	}
	points := 0
	for i := range all {
		points += len(all[i].Points)
	}
	if points > 0 {
		c.do("Mark the holes, from the display's middle and from the level line:")
		c.tableHead()
		for i := range all {
			p := &all[i]
			for n := range p.Points {
				pt := &p.Points[n]
				name := quantity.Say("%v", pt.Hole)
				if pt.Plate > 0 {
					name = quantity.Say("%v, plate %v", name, pt.Plate)
				}
				if len(all) > 1 {
					name = quantity.Say("%v of %v", name, i+1)
				}
				c.row(c.TextHeight*1.1, true, quantity.Say("%v", wall.Number(all, i, n)), name,
					quantity.Sideways(pt.FromCentreLine), quantity.Vertical(pt.Y-p.Datum), quantity.Say("%v", quantity.Wall(pt.Y)), drillFigures(pt))
			}
		}
		c.y -= 1.5
		c.holeSpacing(all)
	}
	c.do("When it hangs: bottom edge %v, top edge %v above the floor.", quantity.Wall(first.Bottom), quantity.Wall(first.Top))
	if first.ToFront.Known {
		c.do("From the wall to its front: %v.", quantity.Shown{Length: first.ToFront.Value, Bound: quantity.Up, Coarse: true})
	}
	if shift := first.Shift(); shift != 0 && len(all) == 1 {
		c.do("The plate's middle is %v to the %v of the display's: the load hangs that far off.", quantity.Wall(shift.Abs()),
			quantity.Side(shift))
	}
	c.offsets()
}

// holeSpacing writes the distances of the holes of one row, to be checked
// before drilling.
func (c *card) holeSpacing(all []place.Placement) {
	var said []quantity.Phrase
	for i := range all {
		p := &all[i]
		for n := 1; n < len(p.Points) && len(said) < 12; n++ {
			a, b := &p.Points[n-1], &p.Points[n]
			for m := n; m < len(p.Points) && b.Y != a.Y; m++ {
				b = &p.Points[m]
			}
			if a.Y == b.Y {
				said = append(said, quantity.Say("%v to %v: %v", wall.Number(all, i, n-1), wall.Number(all, i, indexOf(p, b)),
					quantity.Wall((a.X-b.X).Abs())))
			}
		}
	}
	c.list("Before drilling, measure again: %v", said, ";  ")
}

func indexOf(p *place.Placement, pt *place.Point) int {
	for i := range p.Points {
		if &p.Points[i] == pt {
			return i
		}
	}
	return -1
}

// withoutWall writes the numbers that need no particular wall.
func (c *card) withoutWall() {
	plate := c.p.Bracket.WallPlate
	hg := c.p.Hang
	if hg.DisplayTopAboveDatum.Known {
		c.do("Level line: %v under where the display's top will be.", quantity.Wall(hg.DisplayTopAboveDatum.Value))
	}
	c.do("The plate's holes, from its middle and from the level line:")
	var text []quantity.Phrase
	for _, h := range plate.Holes {
		text = append(text, quantity.Say("%v: %v, %v", h.ID, quantity.Sideways(h.X), quantity.Vertical(h.Y)))
	}
	for i := 0; i < len(text); i += 2 {
		c.y -= c.TextHeight * 2
		for n, x := range []float64{cardMargin + 6, cardWidth/2 + 2} {
			if i+n < len(text) {
				c.Add("card.row", drawing.Dim, drawing.Text{At: drawing.Point{X: x, Y: c.y}, Text: text[i+n], Height: c.TextHeight,
					Anchor: drawing.Start})
			}
		}
	}
	c.y -= 1.5
	for _, kind := range wallOrder(c.p.Bracket) {
		if d, ok := holeIn(c.p.Bracket, kind); ok {
			parts := []quantity.Phrase{drillFacts(d)}
			if note := makersDepth(d); !note.Empty() {
				parts = append(parts, note)
			}
			c.list("%v", parts, "; ")
		}
	}
	c.offsets()
}

func (c *card) offsets() {
	hg := c.p.Hang
	if hg.DisplayTopAboveDatum.Known && hg.CenterAboveDatum.Known {
		row := hg.DisplayTopAboveDatum.Value - hg.CenterAboveDatum.Value - hg.Height/2
		c.do("On the display: from its top edge to its upper hole row %v.", quantity.Wall(row))
		c.do("Its holes: %v either side of the pattern's middle.", quantity.Wall(hg.Width/2))
	}
}

// cautions writes the cautions.
func (c *card) cautions() {
	c.rule()
	for _, text := range []string{
		"Find cables and pipes before drilling, two independent ways. Fixed wiring is for licensed people.",
		"Eye protection and dust mask on. Stand firm on the ladder. Nobody under a display that is being hung.",
		"This card advises. The maker's manual, local codes and licensed practice decide.",
		"A doubtful wall is for someone licensed to judge it.",
	} {
		c.line(cardMargin, c.TextHeight*0.95, false, quantity.Say("%v", text))
	}
	if on := c.standsOn; len(on) > 0 {
		c.line(cardMargin, c.TextHeight*0.95, false, quantity.Say("Stands on what nobody has said: %v", quantity.List(" ", on...)))
	}
}
