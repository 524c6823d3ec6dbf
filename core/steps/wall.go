package steps

import (
	"fmt"
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/wall"
)

// fasteners is how many fasteners hold the wall plates: as many as the studs
// ask for, which without studs is the outermost holes of each row.
func fasteners(w *catalog.WallPlate) int {
	n := w.StudsRequired * (w.TopPerStud + w.BottomPerStud)
	if n == 0 {
		n = len(w.Holes)
	}
	return n * w.Count
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
	return append(out, say("When it hangs, its bottom edge is at %v and its top edge at %v above the floor.", quantity.Wall(first.Bottom), quantity.Wall(first.Top)))
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
			level, across := "above", "right"
			if pt.Y < p.Datum {
				level = "below"
			}
			if pt.FromCentreLine < 0 {
				across = "left"
			}
			whose := ""
			if len(g.places) > 1 {
				whose = fmt.Sprintf(" of display %d", i+1)
			}
			out = append(out, say("%v (%v): %v %v of the middle%v, %v %v the level line.", n, pt.Hole, quantity.Wall(pt.FromCentreLine.Abs()), across, whose, quantity.Wall((pt.Y-p.Datum).Abs()), level))
		}
	}
	return out
}

// siteStuds are the middles of the studs that are used.
func (g *generator) siteStuds() []quantity.Phrase {
	var out []quantity.Phrase
	seen := map[int]bool{}
	for i := range g.places {
		for _, pt := range g.places[i].Points {
			if pt.Stud >= 0 && !seen[pt.Stud] {
				seen[pt.Stud] = true
				out = append(out, say("As measured before, one has its middle %v from the wall's left end.", quantity.Wall(g.places[i].Studs[pt.Stud].X)))
			}
		}
	}
	return out
}

// siteCautions are the cautions of the placement that belong to a step.
func (g *generator) siteCautions(rule fit.Rule) (quantity.Phrase, bool) {
	for i := range g.places {
		for _, c := range g.places[i].Checks {
			if c.Rule == rule && c.Status == fit.Caution {
				return say("%v %v", c.Text, c.Remedy), true
			}
		}
	}
	return quantity.Phrase{}, false
}

// onTheWall measures, finds the structure, drills and puts the plate up.
func (g *generator) onTheWall() {
	g.drill, _ = wall.Drilling(g.p.Bracket, g.wall)
	offsets := Step{ID: "offsets", Title: "Take the measures", Minutes: 5, Figure: "back", Tools: []string{"tape measure", "pencil"}}
	hg := g.p.Hang
	if hg.DisplayTopAboveDatum.Known {
		offsets.Text = append(offsets.Text, say("The display's top comes %v above the plate's level line.", quantity.Wall(hg.DisplayTopAboveDatum.Value)))
		offsets.Check = say("Measured on the display: from its top to the upper hole row %v.", quantity.Wall(hg.DisplayTopAboveDatum.Value-hg.CenterAboveDatum.Value-hg.Height/2))
	} else {
		offsets.Text = append(offsets.Text, say("Measure from the display's top to the upper hole row, and write it on the template."))
		offsets.Check = say("Measured twice, the same figure.")
	}
	_, height, outline := g.p.Display.Outline(g.p.Turn)
	if g.places != nil {
		offsets.Text = append(offsets.Text, g.siteOffsets()...)
	} else if at, ok := hg.CenteredAt(g.center.Value, height); ok && outline && g.center.Known {
		offsets.Text = append(offsets.Text, say("Level line %v above the floor: that puts the display's centre at %v.", quantity.Wall(at.Datum), quantity.Wall(g.center.Value)))
	}
	offsets.Text = append(offsets.Text, say("The holes are %v either side of the centre line.", quantity.Wall(hg.Width/2)))
	g.add(offsets)

	hidden := say("Cables, pipes and metal first. Fixed wiring is for licensed people; local codes decide.")
	if g.wall == catalog.WoodStud {
		studs := max(g.p.Bracket.WallPlate.StudsRequired, 1)
		g.add(Step{
			ID: "find", Title: "Find the studs two ways", Minutes: 15, Tools: []string{"stud and cable finder", "fine nail", "masking tape", "pencil"}, After: []string{"offsets"},
			Text: []quantity.Phrase{
				say("Find %v with the finder, then prove each by a second way: knocking, a magnet on screws, or a fine nail.", counted(studs*g.p.Bracket.WallPlate.Count, "stud")),
				say("Mark both edges and the centre of each stud; use tape where pencil must not show."),
			},
			Caution: hidden,
			Check:   say("The studs are evenly spaced, and the nail meets wood at each centre."),
		})
		if more := g.siteStuds(); more != nil {
			find := &g.out.Steps[len(g.out.Steps)-1]
			find.Text = append(find.Text, more...)
			find.Check = say("The nail meets wood at each centre. A stud that is elsewhere: stop, and have the place worked out again.")
		}
	} else {
		g.add(Step{
			ID: "find", Title: "Check the wall", Minutes: 10, Tools: []string{"stud and cable finder", "pencil"}, After: []string{"offsets"},
			Text:    []quantity.Phrase{say("Go over the place with the finder. Tap it: solid concrete sounds the same everywhere.")},
			Caution: hidden,
			Check:   say("No signal where holes will be. Where the wall sounds hollow, or plaster is thicker than %v: stop.", g.coveringMax()),
		})
	}
	n := fasteners(g.p.Bracket.WallPlate)
	g.add(Step{
		ID: "mark", Title: "Mark the holes", Minutes: 10, Figure: "template", Tools: []string{"drilling template", "spirit level", "masking tape", "pencil"}, After: []string{"find"},
		Text: []quantity.Phrase{
			say("Measure the two bars on the template first; if they are off, do not use the print."),
			say("Tape the template up, arrow up, level line level, and mark %v holes.", n),
		},
		Check: say("Level line level, spacing measured again before drilling."),
	})
	if g.places != nil {
		mark := &g.out.Steps[len(g.out.Steps)-1]
		mark.Text = append(mark.Text, g.siteMarks()...)
		mark.Check = say("The template and the measure card mark the same points. Level line level, spacing measured again before drilling.")
		if caution, ok := g.siteCautions("services"); ok {
			mark.Caution = caution
		}
	}
	g.drillHoles(n)
	g.plateUp(n)
}

func (g *generator) coveringMax() quantity.Length {
	return g.p.Bracket.Walls[g.wall].CoveringMax.Or(quantity.MM(16))
}

func (g *generator) drillHoles(n int) {
	bit := "drill bit"
	if g.drill.Diameter.Known {
		bit = fmt.Sprintf("drill bit Ø %s mm", plain(g.drill.Diameter.Value))
	}
	s := Step{ID: "drill", Minutes: 5 + 3*n, After: []string{"mark"},
		Caution: say("Eye protection and dust mask on. Stand firm on the ladder, do not reach.")}
	if g.drill.Depth.Known {
		s.Text = append(s.Text, say("Drill %v holes, %v deep, measured from the wall's surface: mark the depth on the bit.", n, quantity.AtMost(g.drill.Depth.Value.Ceil(quantity.Millimetre/2))))
		if g.drill.Short() {
			s.Text = append(s.Text, say("The maker says %v, which is too shallow for the fastener in the kit.", g.drill.Maker.Value))
		}
	} else {
		s.Text = append(s.Text, say("Drill %v holes as deep as the fastener is long.", n))
	}
	if g.wall == catalog.WoodStud {
		s.Title, s.Tools = "Drill the pilot holes", []string{"drill", "drill bit Ø 3 mm", bit, "eye protection", "dust mask"}
		s.Text = append(s.Text, say("Start each with the small bit so that it does not wander, then to size."))
		s.Check = say("Wood dust all the way. A hole that goes easily has missed the stud: stop and find it again.")
	} else {
		s.Title, s.Tools = "Drill the holes", []string{"hammer drill", bit, "eye protection", "dust mask", "dust pump or brush", "hammer"}
		s.Parts = g.bag.take(n, "wall plug for the lag screw", func(i catalog.Item) bool { return i.Kind == catalog.Anchor })
		s.Text = append(s.Text, say("Brush and blow the dust out, then push the plugs in flush with the concrete."))
		s.Check = say("Plugs sit flush and do not turn.")
	}
	g.add(s)
}

func (g *generator) plateUp(n int) {
	lagName := "lag screw"
	parts := g.bag.take(n, lagName, func(i catalog.Item) bool { return i.Kind == catalog.Lag })
	washer := func(i catalog.Item) bool { return i.Kind == catalog.LagWasher }
	if slices.ContainsFunc(g.p.Bracket.Kit, washer) { // else the lag comes with its washer
		parts = append(parts, g.bag.take(n, "washer for lag screw", washer)...)
	}
	g.add(Step{
		ID: "plate", Title: "Put the plate up", Minutes: 15, Parts: parts, Tools: []string{"ratchet with socket", "spirit level"}, After: []string{"drill"}, People: min(g.out.People, 2),
		Text: []quantity.Phrase{
			say("Arrow up. First fastener snug, plate level, then the rest, then all of them tight by hand."),
		},
		Caution: say("Over-driving strips the hole: stop when the washer sits hard."),
		Check:   say("The plate is level and does not move at any corner."),
	})
	g.add(Step{
		ID: "pull", Title: "Pull test", Minutes: 3, After: []string{"plate"},
		Text:    []quantity.Phrase{say("Pull steadily on the plate, as the maker says. Never hang your weight on it.")},
		Caution: say("If anything gives, take the plate down. Doubts about the wall go to someone licensed to judge it."),
		Check:   say("Nothing moves, nothing creaks."),
	})
}

// hangIt lifts the display onto the plate, locks it and finishes.
func (g *generator) hangIt() {
	cables := Step{ID: "cables", Title: "Cables", Minutes: 10, After: []string{"bolt"}, Parts: g.bag.all(uses("cables")),
		Text:    []quantity.Phrase{say("Plug in what cannot be reached once the display hangs, with slack for its whole movement.")},
		Caution: say("A flexible mains lead does not go inside a wall, and a moulded plug is not cut off."),
		Check:   say("No plug presses against the plate or the wall.")}
	g.add(cables)
	lift := Step{
		ID: "lift", Title: "Hang the display", Minutes: 5, People: max(g.people, 2), After: []string{"pull", "bolt", "cables"}, Figure: "back",
		Caution: say("A falling display injures. Nobody stands below, and nobody lets go before the check."),
		Check:   say("Seen from the side, both hooks sit on the plate; then let go, hands ready."),
	}
	if g.people != 0 {
		lift.People = g.people
	}
	over := g.p.Bracket.LiftOver
	if over.Known {
		lift.Text = append(lift.Text, say("Lift it %v above its place, hook the top, and let it down until both sides engage.", quantity.Wall(over.Value)))
	} else {
		lift.Text = append(lift.Text, say("Hook the top and let it down until both sides engage."))
	}
	mass := g.p.Display.Mass
	switch {
	case g.people == 0:
		lift.Tools = []string{"lifting equipment"}
		lift.Text = append(lift.Text, say("%v is more than people should lift to this height: use lifting equipment.", mass.Value))
	case mass.Known && g.people == 1:
		lift.Text = append(lift.Text, say("One person can lift it: the display weighs %v.", mass.Value))
	case mass.Known:
		lift.Text = append(lift.Text, say("%v lift together: the display weighs %v.", peopleName(g.people), mass.Value))
	default:
		lift.Text = append(lift.Text, say("The mass is not known: weigh the display first; at least two people lift."))
	}
	g.add(lift)
	lock := Step{ID: "lock", Title: "Lock and level", Minutes: 10, Parts: g.bag.all(uses("lock")), Tools: []string{"spirit level"}, After: []string{"lift"},
		Check: say("Lifted by hand at the bottom edge, the display does not come off.")}
	for _, i := range g.p.Bracket.Kit {
		if i.Kind == catalog.Tool {
			lock.Tools = append(lock.Tools, i.Name)
		}
	}
	if l := g.p.Bracket.Lock; l != nil {
		lock.Text = append(lock.Text, say("Close the %v%v.", or(l.Kind, "lock"), map[string]string{"below": ", from below", "side": ", from the side", "front": ", from the front"}[l.Access]))
	}
	if adjust := g.p.Bracket.WallPlate.HeightAdjust; adjust.Known {
		lock.Text = append(lock.Text, say("Level the display: up to %v up or down.", quantity.Wall(adjust.Value)))
	}
	g.tether(&lock)
	if lock.Text == nil {
		lock.Text = append(lock.Text, say("Check that nothing can lift the display off its hooks."))
	}
	g.add(lock)
	g.add(Step{ID: "finish", Title: "Finish", Minutes: 10, After: []string{"lock"},
		Text: []quantity.Phrase{
			say("Dress the cables, take the film off, and check the level once more."),
			say("Bag what is left over and hand it over with the list: it should be left over."),
		},
		Check: say("The display moves through its whole range and touches nothing.")})
}

// tether adds the second fixing of what hangs over people.
func (g *generator) tether(lock *Step) {
	if len(g.places) == 0 || !g.places[0].Overhead() {
		return
	}
	lock.Parts = append(lock.Parts, g.bag.take(1, "safety tether, rated for the display's mass, with its own fixing", func(i catalog.Item) bool { return i.Kind == "part" && i.Use == "tether" })...)
	lock.Text = append(lock.Text, say("Fit the second tether: from the display to a fixing of its own in the wall's structure, with no slack to fall through."))
	lock.Caution = say("It hangs over people. Nobody walks below until the tether is fast. Local codes decide.")
}

func peopleName(n int) string {
	return map[int]string{2: "Two people", 3: "Three people"}[n]
}

// cautions are what every sheet shows, in plain words.
func cautions(wall catalog.WallType) []quantity.Phrase {
	out := []quantity.Phrase{
		say("A display that falls injures: the wall must hold it, and people must be able to lift it."),
		say("A bolt that is too long cracks the panel. Turn by hand, and stop at resistance."),
		say("Find cables and pipes before drilling. Fixed wiring and cables inside walls are for licensed people."),
		say("Wear eye protection and a dust mask; use a firm ladder."),
	}
	if wall == catalog.WoodStud {
		out = append(out, say("Fasten into the studs, never into the board alone."))
	}
	return append(out, say("These steps advise. The maker's manual, local codes and licensed practice come first; doubts about the wall go to someone licensed to judge it."))
}

// counted writes a number of things: "1 stud", "2 studs".
func counted(n int, thing string) string {
	if n == 1 {
		return "1 " + thing
	}
	return fmt.Sprintf("%d %ss", n, thing)
}
