package steps

import (
	"fmt"
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// fasteners returns how many fasteners hold the wall plates of one display: as many
// as the studs require; without studs those in the outermost holes of each row.
func fasteners(w *catalog.WallPlate) int {
	top, bottom := w.TopPerStud, w.BottomPerStud
	if top+bottom == 0 {
		top, bottom = 1, 1
	}
	return max(1, w.StudsRequired) * (top + bottom) * max(1, w.Count)
}

// placed returns the placements of a job if all of them can be drilled.
func placed(all []place.Placement) []place.Placement {
	for i := range all {
		if len(all[i].Points) == 0 {
			return nil
		}
	}
	return all
}

// points returns how many holes are drilled, and how many of
// them are beside the studs.
func (g *generator) points() (n, beside int) {
	if g.places == nil {
		return fasteners(g.p.Bracket.WallPlate) * g.displays, 0
	}
	for i := range g.places {
		for _, pt := range g.places[i].Points {
			n++
			if pt.Beside {
				beside++
			}
		}
	}
	return n, beside
}

// siteOffsets returns the measures of a particular wall.
func (g *generator) siteOffsets() []quantity.Phrase {
	first := &g.places[0]
	out := []quantity.Phrase{say("Level line %v above the floor.", quantity.Wall(first.Datum))}
	for i := range g.places {
		whose := "display"
		if len(g.places) > 1 {
			whose = fmt.Sprintf("display %d", i+1)
		}
		out = append(out, say("Middle of the %v %v from the wall's left end.", whose, quantity.Wall(g.places[i].DisplayX)))
	}
	return append(out, say("When it hangs, its bottom edge is at %v and its top edge at %v above the floor.", quantity.Wall(first.Bottom),
		quantity.Wall(first.Top)))
}

// siteMarks returns the points of a particular wall, with the numbers of the template
// and the measure card.
func (g *generator) siteMarks() []quantity.Phrase {
	var out []quantity.Phrase
	n := 0
	for i := range g.places {
		p := &g.places[i]
		for _, pt := range p.Points {
			n++
			whose := ""
			if len(g.places) > 1 {
				whose = fmt.Sprintf(" of display %d", i+1)
			}
			out = append(out, say("%v (%v): %v the middle%v, %v the level line.", n, pt.Hole, quantity.LeftOrRight(pt.FromCentreLine), whose,
				quantity.AboveOrBelow(pt.Y-p.Datum)))
		}
	}
	return out
}

// siteStuds returns the middles of the studs that are used.
func (g *generator) siteStuds() (out []quantity.Phrase) {
	seen := map[int]bool{}
	for i := range g.places {
		for _, pt := range g.places[i].Points {
			if pt.Stud >= 0 && !seen[pt.Stud] {
				seen[pt.Stud] = true
				out = append(out, say("As measured before, one has its middle %v from the wall's left end.",
					quantity.Wall(g.places[i].Studs[pt.Stud].X)))
			}
		}
	}
	return out
}

// onTheWall adds the steps that measure, find the structure, drill and put the plate up.
func (g *generator) onTheWall() {
	g.offsets()
	g.findAndProve()
	n, beside := g.points()
	g.mark(n)
	g.drillHoles(n, beside)
	g.plateUp(n, beside)
}

func (g *generator) offsets() {
	s := Step{ID: "offsets", Title: "Take the measures", Minutes: 5, Figure: "back", Tools: []string{"tape measure", "pencil"},
		Needs: after("facedown", "they are measured on the display's back")}
	hg := g.p.Hang
	if hg.DisplayTopAboveDatum.Known {
		s.Text = append(s.Text, say("The display's top comes %v the plate's level line.", quantity.AboveOrBelow(hg.DisplayTopAboveDatum.Value)))
		row := hg.DisplayTopAboveDatum.Value - hg.CenterAboveDatum.Value - hg.Height/2
		s.Check = say("Measured on the display: the upper hole row is %v its top.", quantity.AboveOrBelow(-row))
		s.Wrong = say("It is not: this is another display, or it lies the other way up. Do not mark the wall with these figures.")
	} else {
		s.Text = append(s.Text, say("Measure from the display's top to the upper hole row, and write it on the template."))
		s.Check = say("Measured twice, the same figure.")
	}
	_, height, outline := g.p.Display.Outline(g.p.Turn)
	if g.places != nil {
		s.Text = append(s.Text, g.siteOffsets()...)
	} else if at, ok := hg.CenteredAt(g.center.Value, height); ok && outline && g.center.Known {
		s.Text = append(s.Text, say("Level line %v above the floor: that puts the display's centre at %v.", quantity.Wall(at.Datum),
			quantity.Wall(g.center.Value)))
	}
	s.Text = append(s.Text, say("The holes are %v either side of the centre line.", quantity.Wall(hg.Width/2)))
	g.add(s)
}

// findAndProve adds the steps that find the structure behind the covering, and prove it in a second way that
// does not depend on the first.
func (g *generator) findAndProve() {
	find := Step{
		ID: "find", Title: "Find what is behind the wall", Minutes: 10, Tools: []string{"stud and cable finder", "pencil"}, Figure: "wall",
		Needs: after("offsets", "they say where on the wall to look"),
		Text: []quantity.Phrase{
			say("Metal, pipes and live cables first, over the whole place and a hand's width around it."),
			g.kind.Find,
		},
		Caution: say("Cables, pipes and metal first. Fixed wiring is for licensed people; local codes decide."),
		Check:   g.kind.Sound,
	}
	prove := Step{
		ID: "prove", Title: "Prove it a second way", Minutes: 10, Tools: slices.Clone(g.kind.ProveTools), Figure: "prove",
		Needs: after("find", "what is proved has to be found first, and by another way"),
		Text:  []quantity.Phrase{g.kind.Prove}, Check: g.kind.Proved,
		Wrong: say("The two ways do not agree: believe neither, and look again. What is not proved is not drilled into."),
	}
	if g.kind.Studs {
		find.Title, find.Tools = "Find the studs", append(find.Tools, "masking tape")
		prove.Title = "Prove the studs a second way"
		if g.places == nil {
			w := g.p.Bracket.WallPlate
			find.Text = append(find.Text, studsNeeded(max(w.StudsRequired, 1)*max(1, w.Count)*g.displays))
		}
		find.Text = append(find.Text, say("Mark both edges and the centre of each stud; use tape where pencil must not show."))
		if more := g.siteStuds(); more != nil {
			prove.Text = append(prove.Text, more...)
			prove.Check = say("%v A stud that is elsewhere: stop, and have the place worked out again.", prove.Check)
		}
	}
	if most := g.coveringMax(); most > 0 {
		prove.Text = append(prove.Text, say("Where plaster or board is thicker than %v: stop.", most))
	}
	g.add(find)
	g.add(prove)
}

// mark adds the step that marks the holes, with template or tape, by spirit level or laser.
func (g *generator) mark(n int) {
	s := Step{
		ID: "mark", Title: "Mark the holes", Minutes: 10, Figure: "marks",
		Needs: after("prove", "no hole is marked where the wall is not proved", "offsets", "the heights come from there"),
		Check: say("Level line level, spacing measured again before drilling."),
		Wrong: say("A point is off by more than the drill's half width: rub it out and mark it again. Never drill to see."),
	}
	level := "spirit level"
	lineUp := say("Draw the level line with the spirit level, and turn the level end for end: both readings must agree.")
	if g.schools.Level == "laser" {
		level = "line laser"
		lineUp = say("Set the line laser to the level line and check it at both ends from the floor's own mark; stand where it does " +
			"not meet eyes.")
	}
	tape := g.schools.Marking == "tape" || place.ByTape(g.places)
	if tape {
		s.Tools = []string{"tape measure", "measure card", level, "masking tape", "pencil"}
		s.Text = []quantity.Phrase{lineUp, say("Measure the %v holes from the level line and the middle, as the measure card lists "+
			"them, each from the "+
			"same end of the tape.", n), say("In all, mark %v holes.", n)}
	} else {
		s.Tools = []string{"drilling template", level, "masking tape", "pencil"}
		s.Text = []quantity.Phrase{say("Measure the two bars on the template first; if they are off, do not use the print."), lineUp,
			say("Tape the template up, arrow up, level line level, and mark %v holes.", n)}
	}
	if g.places != nil {
		s.Text = append(s.Text, g.siteMarks()...)
	}
	if g.places != nil && !tape {
		s.Check = say("The template and the measure card mark the same points. Level line level, spacing measured again before drilling.")
	}
	g.add(s)
}

func (g *generator) coveringMax() quantity.Length {
	return g.p.Bracket.Walls[g.wall].CoveringMax.Or(g.kind.CoveringMax)
}

// bit names the drill bit of a hole.
func bit(d quantity.Optional[quantity.Length]) string {
	if !d.Known {
		return "drill bit to the fastener's size"
	}
	return fmt.Sprintf("drill bit Ø %s mm", plain(d.Value))
}

// drillHoles adds the steps that drill: first the holes in the board beside a stud, because toggles are drawn
// tight against a loose plate; then the rest.
func (g *generator) drillHoles(n, beside int) {
	safe := []string{"eye protection", "dust mask"}
	caution := say("Eye protection and dust mask on. Stand firm on the ladder, do not reach. In old buildings paint may hold " +
		"lead, and boards asbestos: where that may be so, no dust is made before it was tested.")
	if beside > 0 {
		board := catalog.HollowBoard.Properties()
		g.add(Step{ID: "drill_board", Title: "Drill the holes in the board", Minutes: 3 + 3*beside, Figure: "drill", Caution: caution,
			Needs: after("mark", "there is nothing to drill before"), Tools: append([]string{"drill", "drill bit to the toggle's size"}, safe...),
			Text: []quantity.Phrase{say("Drill %v holes in the board beside the stud for %v. %v %v", beside,
				g.choice.Beside.Label(), board.Start, board.Drill)},
			Check: board.Right, Wrong: say("%v %v", board.Wrong, board.Then)})
	}
	s := Step{ID: "drill", Title: "Drill the holes", Minutes: 5 + 3*n, Figure: "drill",
		Needs: after("mark", "there is nothing to drill before", "drill_board", "toggles go through their holes while the plate can "+
			"still be moved"),
		Tools: append([]string{"drill", bit(g.hole.Diameter)}, safe...), Caution: caution, Check: g.kind.Right,
		Wrong: say("%v %v", g.kind.Wrong, g.kind.Then)}
	if g.kind.Holds == catalog.Wood {
		s.Title = "Drill the pilot holes"
	}
	first := g.kind.Starter
	// A toggle's hole is wider than any pilot bit, even if its diameter is not known.
	wide := !g.hole.Diameter.Known && g.kind.Holds == catalog.Hollow
	starts := first > 0 && (g.hole.Diameter.Value > first || wide)
	if starts {
		s.Tools = append(s.Tools, bit(quantity.Some(first)))
	}
	if g.kind.Holds != catalog.Hollow { // a hole through the board needs none
		s.Tools = append(s.Tools, "depth stop")
	}
	if g.kind.Hammer {
		s.Tools[0] = "hammer drill"
	}
	if g.kind.Holds == catalog.Masonry {
		s.Tools = append(s.Tools, "dust pump and brush")
	}
	s.Text = g.drillText(n - beside)
	if starts {
		s.Text = append(s.Text, g.kind.Start)
	}
	if !g.kind.Drill.Empty() {
		s.Text = append(s.Text, g.kind.Drill)
	}
	if !g.kind.Caution.Empty() {
		s.Mind = append(s.Mind, g.kind.Caution)
	}
	g.add(s)
	if g.choice.Plug != nil {
		g.setPlugs(n, n-beside)
	}
}

// drillText writes how many holes are drilled, and how deep.
func (g *generator) drillText(n int) []quantity.Phrase {
	h := g.hole
	switch {
	case h.Depth.Known:
		out := []quantity.Phrase{say("Drill %v holes, %v deep, measured from the wall's surface: mark the depth on the bit.", n,
			quantity.AtMost(h.Depth.Value))}
		if h.Short() {
			out = append(out, say("The maker says %v; the fastener in the kit needs %v.", h.Maker.Value, h.Need.Value))
		}
		return out
	case g.kind.Holds == catalog.Hollow:
		return []quantity.Phrase{say("Drill %v holes right through: behind each the toggle must have room to open.", n)}
	}
	return []quantity.Phrase{say("Drill %v holes, as deep as the fastener's own instructions say.", n)}
}

// setPlugs adds the step that sets so many plugs, in a wall of so many holes.
func (g *generator) setPlugs(holes, n int) {
	g.add(Step{ID: "plugs", Title: "Set the plugs", Minutes: 2 + holes, Figure: "drill", Parts: g.take(n, *g.choice.Plug),
		Tools: []string{"hammer"}, Needs: after("drill", "the holes have to be clean"),
		Text:  []quantity.Phrase{say("Push the plugs in behind the covering, flush with the wall itself; they do not turn.")},
		Check: say("Each plug sits at the hole's mouth in the wall itself, and does not turn by hand."),
		Wrong: say("A plug that drops in or turns: the hole is too wide or the wall crumbles. Do not fill it up: have the place " +
			"worked out anew.")})
}

// take takes pieces of an item from the bags.
func (g *generator) take(n int, item catalog.Item) []Part {
	if n == 0 {
		return nil
	}
	return g.bag.take(n, item.Label(), func(i *catalog.Item) bool { return i.Same(&item) })
}

// howFixed returns how the fastener is fixed: by its kind, else as the wall's usual fastener.
func (g *generator) howFixed() quantity.Phrase {
	switch {
	case g.choice.Plug != nil:
		return say("Drive each screw into its plug by hand until its washer sits hard; a plug that turns with it holds nothing.")
	case g.choice.Known() && g.choice.Item.Kind.Properties().Opens:
		return say("Toggles with wings: put each screw with its washer through the plate and thread its wings on before the plate "+
			"goes up, then push "+
			"them folded through their holes, all together. Toggles with a strap are set in their holes first. %v", g.kind.Fix)
	}
	return g.kind.Fix
}

// socket names the tool for a fastener's head: for a lag by its width across flats (DIN 571, memory; 1/2 in
// for 5/16 in, common practice).
func socket(i *catalog.Item) string {
	flats := map[quantity.Length]string{quantity.MM(5): "8 mm", quantity.MM(6): "10 mm", quantity.MM(8): "13 mm", quantity.MM(10): "17 mm",
		quantity.MM(12): "19 mm", 5 * quantity.Inch / 16: "1/2 in", quantity.Inch / 4: "7/16 in", 3 * quantity.Inch / 8: "9/16 in"}
	if size := flats[i.Diameter]; i.Kind == catalog.Lag && size != "" {
		return "ratchet with a socket of " + size
	}
	return "ratchet or driver for the fastener's head"
}

func (g *generator) plateUp(n, beside int) {
	s := Step{
		ID: "plate", Title: "Put the plate up", Minutes: 15 * g.displays, Figure: "plate", Tools: []string{socket(&g.choice.Item),
			"spirit level"},
		Needs: after("drill", "the fasteners go into its holes", "plugs", "the fasteners go into them",
			"snap", "the plate is needed loose for it"), People: min(max(1, g.out.Lift.People), 2),
		Text: []quantity.Phrase{
			say("Arrow up. First fastener snug, plate level, then the rest, then all of them tight by hand."),
			g.howFixed(),
		},
		Caution: say("Over-driving strips the hole: stop when the washer sits hard."),
		Check:   say("The plate is level and does not move at any corner."),
		Wrong: say("A fastener turns on without getting tight: its hole is stripped and holds nothing. Take the plate down, and have the place " +
			"worked out anew; a longer or thicker fastener is another pairing."),
	}
	if g.kind.Holds == catalog.Hollow {
		s.Caution = say("Tightened too far, a toggle crushes what it is drawn against: stop when the plate sits flat.")
	}
	if g.choice.Known() {
		s.Text = append([]quantity.Phrase{say("Fastener: %v.", g.choice.Label())}, s.Text...)
		s.Parts = g.take(n-beside, g.choice.Item)
		if k := g.choice.Item.Kind; k == catalog.Lag || g.p.Bracket.WallPlate.Washer > 0 && (k == catalog.Screw || k == catalog.Toggle) {
			for _, i := range g.p.Bracket.Kit {
				if i.Kind == catalog.LagWasher { // else the lag comes with its washer
					s.Parts = append(s.Parts, g.take(n-beside, i)...)
					break
				}
			}
		}
	} else {
		s.Parts = g.bag.take(n-beside, "fastener for "+g.kind.Name, func(*catalog.Item) bool { return false })
	}
	if beside > 0 {
		s.Parts = append(s.Parts, g.take(beside, *g.choice.Beside)...)
		s.Text = append(s.Text, say("Beside the stud: %v. They are set first, and drawn tight last.", g.choice.Beside.Label()))
	}
	g.add(s)
	g.add(Step{
		ID: "pull", Title: "Pull test", Minutes: 3, Figure: "plate", Needs: after("plate", "it is the plate that is pulled"),
		Text:    []quantity.Phrase{say("Pull steadily on the plate, as the maker says. Never hang your weight on it.")},
		Caution: say("If anything gives, take the plate down. Doubts about the wall go to someone licensed to judge it."),
		Check:   say("Nothing moves, nothing creaks."),
		Wrong:   say("It gives or creaks: the display does not go up. Take the plate down and look at every hole."),
	})
}

// cautions are the cautions of every sheet.
func cautions(kind *catalog.WallProperties) []quantity.Phrase {
	out := []quantity.Phrase{
		say("A display that falls injures: the wall must hold it, and people must be able to lift it."),
		say("A bolt that is too long cracks the panel. Turn by hand, and stop at resistance."),
		say("Find cables and pipes before drilling. Fixed wiring and cables inside walls are for licensed people."),
		say("Wear eye protection and a dust mask; use a firm ladder."),
	}
	if !kind.Caution.Empty() {
		out = append(out, kind.Caution)
	}
	return append(out, say("These steps advise. The maker's manual, local codes and licensed practice come first; doubts about the wall "+
		"go to someone licensed to judge it."))
}

func studsNeeded(n int) quantity.Phrase {
	if n == 1 {
		return say("1 stud is needed.")
	}
	return say("%v studs are needed.", n)
}
