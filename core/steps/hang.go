package steps

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// hangIt adds the steps that lift the display onto the plate and lock it.
func (g *generator) hangIt() {
	before := g.cablesBefore()
	if before {
		how := say("Plug in every cable before the display hangs: nobody reaches behind it afterwards.")
		if g.p.Bracket.Swings() {
			how = say("Plug in every cable before the display hangs, with slack for the whole movement.")
		}
		g.add(g.cables("cables", how,
			after("bolt", "the bracket hides what it hides", "facedown", "the sockets have to be seen")))
	}
	g.add(g.lift())
	g.add(g.lock())
	if !before {
		g.add(g.cables("cables_after", say("Draw the locked display out as far as it comes, hold it there, and plug the cables in "+
			"that come from "+
			"the wall."), after("lift", "the outlets are behind it", "lock", "nobody draws out what can come off")))
	}
	g.tether()
	g.level()
}

// cablesBefore reports whether the cables are plugged in before the display hangs: by the school;
// by outlet, if they come from the room, as they do if no outlet is recorded. On a bracket that does
// not come away from the wall, cables cannot be plugged in afterwards.
func (g *generator) cablesBefore() bool {
	if !g.p.Bracket.Swings() || g.schools.Cables == "before" {
		return true
	}
	if g.schools.Cables == "after" {
		return false
	}
	return !slices.ContainsFunc(g.out.Cables, func(c place.Cable) bool { return c.Outlet >= 0 })
}

func (g *generator) cables(id string, how quantity.Phrase, needs []Need) Step {
	s := Step{ID: id, Title: "Cables", Minutes: 10 * g.displays, Figure: "cables", Needs: needs, Parts: g.bag.all(uses("cables")),
		Text:    []quantity.Phrase{how},
		Caution: say("A flexible mains lead does not go inside a wall, and a moulded plug is not cut off. Fixed wiring is for licensed people."),
		Check:   say("No plug presses against the plate or the wall, and no cable is tight in any position."),
		Wrong: say("A cable comes tight: it will be pulled out, or will pull the display. Take a longer one; do not lead it " +
			"through what moves."),
	}
	for i := range g.out.Cables {
		c := &g.out.Cables[i]
		if c.Known {
			s.Text = append(s.Text, say("%v: at least %v, from the outlet to the socket through the whole movement.", c.Begins(),
				place.Metres(c.Needed)))
		} else {
			s.Text = append(s.Text, say("%v: measure how long it has to be with the display in every position, and a tenth more; %v.",
				c.Begins(), c.Missing))
		}
	}
	return s
}

func (g *generator) lift() Step {
	l := &g.out.Lift
	s := Step{
		ID: "lift", Title: "Hang the display", Minutes: 5 * g.displays, People: l.People, Figure: "lift",
		Needs: after("pull", "nothing is hung on what was not pulled", "bolt", "it hangs by what is bolted on", "caps",
			"they cannot be reached later",
			"cables", "they cannot be reached later", "offsets", "they are taken while it lies"),
		Caution: say("A falling display injures. Nobody stands below, and nobody lets go before the check."),
		Check:   say("Seen from the side, both hooks sit on the plate; then let go, hands ready."),
		Wrong:   say("Only one side engages: lift it off again, all together, and lay it down. Do not push it on."),
	}
	for i := range g.p.Bracket.Assembly { // the bracket's own of the stages before
		if a := &g.p.Bracket.Assembly[i]; a.Stage == catalog.DisplayStage || a.Stage == catalog.WallStage || a.Stage == catalog.UnpackStage {
			s.Needs = append(s.Needs, Need{a.ID, "it cannot be reached once the display hangs"})
		}
	}
	if g.displays > 1 {
		s.Text = append(s.Text, say("%v displays, one after the other.", g.displays))
	}
	if over := g.p.Bracket.LiftOver; over.Value > 0 {
		s.Text = append(s.Text, say("Lift it %v above its place, hook the top, and let it down until both sides engage.",
			quantity.Wall(over.Value)))
	} else {
		s.Text = append(s.Text, say("Hook the top and let it down until both sides engage."))
	}
	s.Text = append(s.Text, l.Text())
	if g.p.Bracket.Interface.Type == catalog.Arms && s.People < 2 { // the check needs eyes at the side while somebody holds
		s.People = 2
		s.Text = append(s.Text, say("A second person looks from the side while the first one holds."))
	}
	if l.Equipment {
		s.Tools = append(s.Tools, "lifting equipment")
	}
	if l.Platform {
		s.Tools = append(s.Tools, "platform for each person, hands under 140 cm")
	}
	return s
}

func (g *generator) lock() Step {
	s := Step{ID: "lock", Title: "Lock it", Minutes: 5 * g.displays, Figure: "lock", Parts: g.bag.all(uses("lock")),
		Needs: after("lift", "there is nothing to lock before"),
		Check: say("Lifted by hand at the bottom edge, the display does not come off."),
		Wrong: say("It comes off, or the lock does not close: the hooks do not sit. Take the display down before anybody walks away."),
	}
	for _, i := range g.p.Bracket.Kit {
		if i.Kind == catalog.Tool {
			s.Tools = append(s.Tools, i.Name)
		}
	}
	k := g.p.Bracket.Lock
	if k == nil {
		s.Text = append(s.Text, say("Check that nothing can lift the display off its hooks."))
		return s
	}
	s.Text = append(s.Text, say("Close the %v%v.", or(k.Kind, "lock"), map[string]string{"below": ", from below", "side": ", from the side",
		"front": ", from the front"}[k.Access]))
	for i := range g.all {
		if slices.ContainsFunc(g.all[i].Checks, func(c fit.Check) bool { return c.Rule == place.LockRule && c.Status != fit.Pass }) {
			s.Text = append(s.Text, say("Where it cannot be reached, the display hangs unlocked: whoever lifts it lifts it off, and it "+
				"falls. Tell the "+
				"customer so in writing, or do not hang it here."))
			break
		}
	}
	return s
}

// tether adds the second fixing of displays over people, one for each.
func (g *generator) tether() {
	if len(g.places) == 0 || !g.places[0].Overhead() {
		return
	}
	g.add(Step{ID: "tether", Title: "Fit the second tether", Minutes: 10 * g.displays, Figure: "lock",
		Needs: after("lift", "it leads to the hung display", "lock", "the first hold comes first"),
		Parts: g.bag.take(g.displays, "safety tether, rated for the display's mass, with its own fixing", uses("tether")),
		Text: []quantity.Phrase{say("Fit the second tether: from the display to a fixing of its own in the wall's structure, with no slack to " +
			"fall through.")},
		Caution: say("It hangs over people. Nobody walks below until the tether is fast. Local codes decide."),
		Check:   say("The tether bears nothing while the display hangs, and has no slack to fall through."),
	})
}

// level adds the step that levels the hung display: by its height screws, else with three of the bolts loose and
// one tight.
func (g *generator) level() {
	s := Step{ID: "level", Title: "Level it", Minutes: 5 * g.displays, Figure: "level", Tools: []string{"spirit level"},
		Needs: after("lock", "what is locked is levelled, not the other way round")}
	if adjust := g.p.Bracket.WallPlate.HeightAdjust; adjust.Known {
		s.Text = append(s.Text, say("Level the display by the height screws: up to %v up or down, a turn at a time on each side.",
			quantity.Wall(adjust.Value)))
		s.Wrong = say("The screws come to their end: the plate is not level, or the two sides are bolted at different heights. Do " +
			"not force them.")
	} else {
		s.Text = append(s.Text, say("If it hangs askew: take it down, loosen three of its bolts and leave one tight, turn the %v "+
			"about that one, "+
			"tighten the three, and hang it again.", g.what()))
		s.Wrong = say("It is still askew: the plate itself is not level. Measure it before anything is loosened again.")
		s.People = g.out.Lift.People
	}
	s.Check = say("The spirit level reads level on the display's top edge, turned end for end.")
	g.add(s)
}

// finish adds the steps that set tilt and travel, dress the cables, and hand over.
func (g *generator) finish() {
	b := g.p.Bracket
	if b.TiltDown.Value > 0 || b.TiltUp.Value > 0 || b.Kind.Properties().Joint {
		s := Step{ID: "tension", Title: "Set the tension", Minutes: 5 * g.displays, Figure: "tension",
			Needs: after("lock", "it is moved to try it", "lift", "it is set with the display's weight on it"),
			Text: []quantity.Phrase{say("Tighten both sides alike, a quarter turn at a time, until the display stays at every angle " +
				"it is left at.")},
			Check: say("Moved to either end and let go, it neither sinks nor springs back."),
			Wrong: say("It sinks with the screws fully tight: the head does not hold this display. Leave it upright, and call."),
		}
		if hold := b.Hold(); hold.Known {
			s.Text = append(s.Text, say("The head holds up to %v.", hold.Value))
		}
		g.add(s)
	}
	g.detachStand("after", Step{ID: "feet", Stage: catalog.FinishStage, Title: "Take the feet off", Minutes: 5 * g.displays,
		Needs: after("lock", "nobody works under what is not locked"),
		Text:  []quantity.Phrase{say("Take the stand's feet off the hung display, and keep their screws apart.")}})
	if g.vehicle() {
		g.add(Step{ID: "travel", Title: "Set the travel position", Minutes: 5, Figure: "lock",
			Needs: after("lock", "it travels locked", "tension", "it is tried through its movement first"),
			Text: []quantity.Phrase{say("Set the travel position, closed and locked: so it stays while the vehicle moves."),
				say("Hand over: recheck every bolt and fastener each season, and after the first journey.")},
			Check: say("Shaken by hand, nothing rattles and nothing opens.")})
	}
	s := Step{ID: "finish", Title: "Finish", Minutes: 10, Figure: "lock",
		Text: []quantity.Phrase{
			say("Dress the cables with slack for the whole movement, and put pads where metal meets."),
			say("Take the film off, and check the level once more."),
			say("Bag what is left over and hand it over with the list: it should be left over."),
		},
		Check: g.movement(),
		Wrong: say("It touches something, or a cable pulls: find out which figure is off before it is left.")}
	for i := range g.out.Steps {
		s.Needs = append(s.Needs, Need{g.out.Steps[i].ID, "it is the last look at everything"})
	}
	for i := range b.Assembly {
		s.Needs = append(s.Needs, Need{b.Assembly[i].ID, "it is the last look at everything"})
	}
	g.add(s)
}

func (g *generator) vehicle() bool {
	return slices.ContainsFunc(g.all, func(p place.Placement) bool { return p.Job.Wall.Vehicle })
}

// movement describes how the finished display is checked: through its whole range, as
// far as the wall allows, or without moving it if the bracket does not move.
func (g *generator) movement() quantity.Phrase {
	if len(g.conds["finish"]) > 0 {
		return say("The display moves as far as said above, no farther, and touches nothing.")
	}
	if still := quantity.Some(quantity.Angle(0)); g.p.Bracket.TiltDown == still && g.p.Bracket.TiltUp == still &&
		g.p.Bracket.Swivel == still && g.p.Bracket.Reach.Value == 0 {
		return say("The display hangs level, and touches nothing but its bracket.")
	}
	return say("The display moves through its whole range and touches nothing.")
}
