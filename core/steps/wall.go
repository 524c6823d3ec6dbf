package steps

import (
	"fmt"

	"nexufix/core/catalog"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// fasteners is how many fasteners hold the wall plates of one display: as many
// as the studs ask for, which without studs is the outermost holes of each row.
func fasteners(w *catalog.WallPlate) int {
	top, bottom := w.TopPerStud, w.BottomPerStud
	if top+bottom == 0 {
		top, bottom = 1, 1
	}
	return max(1, w.StudsRequired) * (top + bottom) * max(1, w.Count)
}

// placed are the places of a job when all of them can be drilled.
func placed(all []place.Placement) []place.Placement {
	for i := range all {
		if len(all[i].Points) == 0 {
			return nil
		}
	}
	return all
}

// points is how many holes are drilled: those of the placement, and how many of
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

// siteOffsets are the measures of a particular wall.
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

// siteMarks are the points of a particular wall, by the numbers of the template
// and the measure card.
func (g *generator) siteMarks() []quantity.Phrase {
	var out []quantity.Phrase
	n := 0
	for i := range g.places {
		p := &g.places[i]
		for _, pt := range p.Points {
			n++
			across := "right"
			if pt.FromCentreLine < 0 {
				across = "left"
			}
			whose := ""
			if len(g.places) > 1 {
				whose = fmt.Sprintf(" of display %d", i+1)
			}
			out = append(out, say("%v (%v): %v %v of the middle%v, %v the level line.", n, pt.Hole, quantity.Wall(pt.FromCentreLine.Abs()), across,
				whose, besideLine(pt.Y-p.Datum)))
		}
	}
	return out
}

// siteStuds are the middles of the studs that are used.
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

// onTheWall measures, finds the structure, drills and puts the plate up.
// It is as long as what it lists: each sentence stands once, in the order it is read.
func (g *generator) onTheWall() {
	offsets := Step{ID: "offsets", Title: "Take the measures", Minutes: 5, Figure: "back", Tools: []string{"tape measure", "pencil"}}
	hg := g.p.Hang
	if hg.DisplayTopAboveDatum.Known {
		offsets.Text = append(offsets.Text, say("The display's top comes %v the plate's level line.", besideLine(hg.DisplayTopAboveDatum.Value)))
		row := hg.DisplayTopAboveDatum.Value - hg.CenterAboveDatum.Value - hg.Height/2
		offsets.Check = say("Measured on the display: the upper hole row is %v its top.", besideLine(-row))
	} else {
		offsets.Text = append(offsets.Text, say("Measure from the display's top to the upper hole row, and write it on the template."))
		offsets.Check = say("Measured twice, the same figure.")
	}
	_, height, outline := g.p.Display.Outline(g.p.Turn)
	if g.places != nil {
		offsets.Text = append(offsets.Text, g.siteOffsets()...)
	} else if at, ok := hg.CenteredAt(g.center.Value, height); ok && outline && g.center.Known {
		offsets.Text = append(offsets.Text, say("Level line %v above the floor: that puts the display's centre at %v.", quantity.Wall(at.Datum),
			quantity.Wall(g.center.Value)))
	}
	offsets.Text = append(offsets.Text, say("The holes are %v either side of the centre line.", quantity.Wall(hg.Width/2)))
	g.add(offsets)

	find := Step{
		ID: "find", Title: "Check the wall two ways", Minutes: 10, Tools: []string{"stud and cable finder", "fine nail",
			"pencil"}, After: []string{"offsets"},
		Text:    []quantity.Phrase{g.kind.Find},
		Caution: say("Cables, pipes and metal first. Fixed wiring is for licensed people; local codes decide."),
		Check:   g.kind.Sound,
	}
	if g.kind.Studs {
		find.Title, find.Minutes = "Find the studs two ways", 15
		find.Tools = append(find.Tools, "masking tape")
		if g.places == nil {
			w := g.p.Bracket.WallPlate
			find.Text = append(find.Text, say("%v are needed.", counted(max(w.StudsRequired, 1)*max(1, w.Count)*g.displays, "stud")))
		}
		find.Text = append(find.Text, say("Mark both edges and the centre of each stud; use tape where pencil must not show."))
		if more := g.siteStuds(); more != nil {
			find.Text = append(find.Text, more...)
			find.Check = say("%v A stud that is elsewhere: stop, and have the place worked out again.", find.Check)
		}
	}
	if most := g.coveringMax(); most > 0 {
		find.Text = append(find.Text, say("Where plaster or board is thicker than %v: stop.", most))
	}
	g.add(find)
	n, beside := g.points()
	mark := Step{
		ID: "mark", Title: "Mark the holes", Minutes: 10, Figure: "template", Tools: []string{"drilling template", "spirit level",
			"masking tape", "pencil"}, After: []string{"find"},
		Text: []quantity.Phrase{
			say("Measure the two bars on the template first; if they are off, do not use the print."),
			say("Tape the template up, arrow up, level line level, and mark %v holes.", n),
		},
		Check: say("Level line level, spacing measured again before drilling."),
	}
	if g.places != nil {
		mark.Text = append(mark.Text, g.siteMarks()...)
		mark.Check = say("The template and the measure card mark the same points. Level line level, spacing measured again before drilling.")
	}
	g.add(mark)
	g.drillHoles(n, beside)
	g.plateUp(n, beside)
}

func (g *generator) coveringMax() quantity.Length {
	return g.p.Bracket.Walls[g.wall].CoveringMax.Or(g.kind.CoveringMax)
}

// bit names the drill of a hole.
func bit(d quantity.Optional[quantity.Length]) string {
	if !d.Known {
		return "drill bit to the fastener's size"
	}
	return fmt.Sprintf("drill bit Ø %s mm", plain(d.Value))
}

func (g *generator) drillHoles(n, beside int) {
	s := Step{ID: "drill", Title: "Drill the holes", Minutes: 5 + 3*n, After: []string{"mark"},
		Tools:   []string{"drill", bit(g.hole.Diameter), "eye protection", "dust mask"},
		Caution: say("Eye protection and dust mask on. Stand firm on the ladder, do not reach."), Check: g.kind.Right}
	if g.kind.Holds == catalog.Wood {
		s.Title = "Drill the pilot holes"
		s.Tools = append(s.Tools, "drill bit Ø 3 mm")
	}
	if g.kind.Hammer {
		s.Tools[0] = "hammer drill"
	}
	if g.kind.Holds == catalog.Masonry {
		s.Tools = append(s.Tools, "dust pump or brush")
	}
	if h := g.hole; h.Depth.Known {
		s.Text = append(s.Text, say("Drill %v holes, %v deep, measured from the wall's surface: mark the depth on the bit.", n-beside,
			quantity.AtMost(h.Depth.Value)))
		if h.Short() {
			s.Text = append(s.Text, say("The maker says %v; the fastener in the kit needs %v.", h.Maker.Value, h.Need.Value))
		}
	} else {
		s.Text = append(s.Text, say("Drill %v holes, as deep as the fastener's own instructions say.", n-beside))
	}
	s.Text = append(s.Text, g.kind.Drill)
	if beside > 0 {
		board := catalog.HollowBoard.Properties()
		s.Text = append(s.Text, say("Drill %v holes in the board beside the stud for %v. %v", beside, g.choice.Beside.Label(), board.Drill))
	}
	if g.choice.Plug != nil {
		s.Parts = g.take(n-beside, *g.choice.Plug)
		s.Tools = append(s.Tools, "hammer")
		s.Text = append(s.Text, say("Push the plugs in behind the covering, flush with the wall itself; they do not turn."))
	}
	if !g.kind.Caution.Empty() {
		s.Mind = append(s.Mind, g.kind.Caution)
	}
	g.add(s)
}

// take takes pieces of an item from the bags.
func (g *generator) take(n int, item catalog.Item) []Part {
	if n == 0 {
		return nil
	}
	name := item.Label()
	return g.bag.take(n, name, func(i catalog.Item) bool { return i.Kind == item.Kind && i.Label() == name })
}

func (g *generator) plateUp(n, beside int) {
	s := Step{
		ID: "plate", Title: "Put the plate up", Minutes: 15 * g.displays, Tools: []string{"ratchet with socket",
			"spirit level"}, After: []string{"drill"}, People: min(max(1, g.out.People), 2),
		Text: []quantity.Phrase{
			say("Arrow up. First fastener snug, plate level, then the rest, then all of them tight by hand."),
		},
		Caution: say("Over-driving strips the hole: stop when the washer sits hard."),
		Check:   say("The plate is level and does not move at any corner."),
	}
	if g.choice.Known() {
		s.Text = append([]quantity.Phrase{say("Fastener: %v.", g.choice.Label())}, s.Text...)
		s.Parts = g.take(n-beside, g.choice.Item)
		if g.choice.Item.Kind == catalog.Lag {
			for _, i := range g.p.Bracket.Kit {
				if i.Kind == catalog.LagWasher { // else the lag comes with its washer
					s.Parts = append(s.Parts, g.take(n-beside, i)...)
					break
				}
			}
		}
	} else {
		s.Parts = g.bag.take(n-beside, "fastener for "+g.kind.Name, func(catalog.Item) bool { return false })
	}
	if beside > 0 {
		s.Parts = append(s.Parts, g.take(beside, *g.choice.Beside)...)
		s.Text = append(s.Text, say("Beside the stud: %v.", g.choice.Beside.Label()))
	}
	g.add(s)
	g.add(Step{
		ID: "pull", Title: "Pull test", Minutes: 3, After: []string{"plate"},
		Text:    []quantity.Phrase{say("Pull steadily on the plate, as the maker says. Never hang your weight on it.")},
		Caution: say("If anything gives, take the plate down. Doubts about the wall go to someone licensed to judge it."),
		Check:   say("Nothing moves, nothing creaks."),
	})
}

// hangIt lifts the display onto the plate, locks it and finishes.
// It is as long as what it lists: each sentence stands once, in the order it is read.
func (g *generator) hangIt() {
	g.add(Step{ID: "cables", Title: "Cables", Minutes: 10, After: []string{"bolt"}, Parts: g.bag.all(uses("cables")),
		Text:    []quantity.Phrase{say("Plug in what cannot be reached once the display hangs, with slack for its whole movement.")},
		Caution: say("A flexible mains lead does not go inside a wall, and a moulded plug is not cut off."),
		Check:   say("No plug presses against the plate or the wall.")})
	l := &g.out.Lift
	lift := Step{
		ID: "lift", Title: "Hang the display", Minutes: 5 * g.displays, People: l.People, After: []string{"pull", "bolt",
			"cables"}, Figure: "back",
		Caution: say("A falling display injures. Nobody stands below, and nobody lets go before the check."),
		Check:   say("Seen from the side, both hooks sit on the plate; then let go, hands ready."),
	}
	if g.displays > 1 {
		lift.Text = append(lift.Text, say("%v displays, one after the other.", g.displays))
	}
	if over := g.p.Bracket.LiftOver; over.Known {
		lift.Text = append(lift.Text, say("Lift it %v above its place, hook the top, and let it down until both sides engage.",
			quantity.Wall(over.Value)))
	} else {
		lift.Text = append(lift.Text, say("Hook the top and let it down until both sides engage."))
	}
	lift.Text = append(lift.Text, l.Text())
	if l.Equipment {
		lift.Tools = append(lift.Tools, "lifting equipment")
	}
	if l.Platform {
		lift.Tools = append(lift.Tools, "platform for each person, hands under 140 cm")
	}
	g.add(lift)
	lock := Step{ID: "lock", Title: "Lock and level", Minutes: 10 * g.displays, Parts: g.bag.all(uses("lock")),
		Tools: []string{"spirit level"}, After: []string{"lift"},
		Check: say("Lifted by hand at the bottom edge, the display does not come off.")}
	for _, i := range g.p.Bracket.Kit {
		if i.Kind == catalog.Tool {
			lock.Tools = append(lock.Tools, i.Name)
		}
	}
	if k := g.p.Bracket.Lock; k != nil {
		lock.Text = append(lock.Text,
			say("Close the %v%v.", or(k.Kind, "lock"), map[string]string{"below": ", from below", "side": ", from the side",
				"front": ", from the front"}[k.Access]))
	}
	if adjust := g.p.Bracket.WallPlate.HeightAdjust; adjust.Known {
		lock.Text = append(lock.Text, say("Level the display: up to %v up or down.", quantity.Wall(adjust.Value)))
	}
	g.tether(&lock)
	if g.vehicle() {
		lock.Text = append(lock.Text, say("Set the travel position, closed and locked: so it stays while the vehicle moves."))
	}
	if lock.Text == nil {
		lock.Text = append(lock.Text, say("Check that nothing can lift the display off its hooks."))
	}
	g.add(lock)
	finish := Step{ID: "finish", Title: "Finish", Minutes: 10, After: []string{"lock"},
		Text: []quantity.Phrase{
			say("Dress the cables, take the film off, and check the level once more."),
			say("Bag what is left over and hand it over with the list: it should be left over."),
		},
		Check: g.movement()}
	if g.vehicle() {
		finish.Text = append(finish.Text, say("Hand over: recheck every bolt and fastener each season."))
	}
	g.add(finish)
}

func (g *generator) vehicle() bool { return len(g.places) > 0 && g.places[0].Job.Wall.Vehicle }

// movement is how the finished display is checked: through its whole range, or
// as far as the wall lets it.
func (g *generator) movement() quantity.Phrase {
	if len(g.conds["finish"]) > 0 {
		return say("The display moves as far as said above, no farther, and touches nothing.")
	}
	return say("The display moves through its whole range and touches nothing.")
}

// tether adds the second fixing of what hangs over people, one for each display.
func (g *generator) tether(lock *Step) {
	if len(g.places) == 0 || !g.places[0].Overhead() {
		return
	}
	lock.Parts = append(lock.Parts, g.bag.take(g.displays, "safety tether, rated for the display's mass, with its own fixing",
		uses("tether"))...)
	lock.Text = append(lock.Text,
		say("Fit the second tether: from the display to a fixing of its own in the wall's structure, with no slack to fall through."))
	lock.Caution = say("It hangs over people. Nobody walks below until the tether is fast. Local codes decide.")
}

// cautions are what every sheet shows, in plain words.
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

// counted writes a number of things: "1 stud", "2 studs".
func counted(n int, thing string) string {
	if n == 1 {
		return "1 " + thing
	}
	return fmt.Sprintf("%d %ss", n, thing)
}
