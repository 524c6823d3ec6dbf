package steps

import (
	"fmt"
	"slices"
	"strings"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// Site is what is known about the installation site.
type Site struct {
	Wall   catalog.WallType
	Load   fit.Extra
	Center quantity.Optional[quantity.Length] // display's centre above the floor
	Places []place.Placement                  // of the displays of a job on their wall; none: no particular wall
	Job    *catalog.Job                       // for its schools, if they differ from the policy's; nil: none
	Brief  bool                               // without the symptoms, which only people read
}

// Generate generates the sequence of a pairing at a site, with everything that keeps it from being
// installed. A pairing that does not fit, or whose
// bolts or place on the plate are not known, has no steps.
func Generate(p *fit.Pairing, site Site) Sequence {
	g := generator{p: p, wall: site.Wall, kind: site.Wall.Properties(), center: site.Center, places: placed(site.Places),
		displays: max(1, len(site.Places)), schools: p.Policy.Schools(site.Job)}
	g.bag = newBag(p.Bracket.Kit, p.Display.OwnParts, g.displays)
	g.out = Sequence{Title: say("%v on %v", quantity.Name(p.Display.Name()), quantity.Name(p.Bracket.Name)), Wall: site.Wall,
		Cautions: cautions(&g.kind)}
	if g.displays > 1 {
		g.out.Title = say("%v × %v", g.displays, g.out.Title)
	}
	unmeasured := catalog.Wall{Type: site.Wall}
	g.choice = anchorage.Choose(p.Bracket, &unmeasured)
	layers := anchorage.LayersOf(p.Bracket, &unmeasured)
	g.hole = anchorage.HoleFor(p.Bracket, &g.choice, &layers)
	if len(site.Places) > 0 && site.Places[0].Known {
		g.choice, g.hole = site.Places[0].Choice, site.Places[0].Hole
	}
	g.out.Blocked = g.blocked(site.Places)
	if len(site.Places) == 0 {
		g.out.ToMeasure = place.ToMeasure(&unmeasured)
		g.out.Cautions = slices.Insert(g.out.Cautions, 0, place.NotJudged(&unmeasured))
	}
	g.conditions(site.Places)
	if p.Verdict == fit.DoesNotFit || p.Stack == nil || p.Hang == nil || p.Bracket.WallPlate == nil || g.kind.Type == catalog.NoWall {
		return g.out
	}
	g.out.Lift = lifting(p, site.Load.Accessories, site.Places)
	g.out.People = g.out.Lift.People
	g.all = site.Places
	for i := range site.Places {
		g.out.Cables = append(g.out.Cables, site.Places[i].Cables()...)
	}
	g.prepare()
	g.boltOn()
	g.onTheWall()
	g.hangIt()
	g.finish()
	g.assembly()
	g.out.Steps = ordered(g.out.Steps)
	g.sayNotJudged()
	g.placeCautions()
	if site.Job != nil {
		g.apply(site.Job.StepChanges)
		for _, t := range site.Job.Ticks {
			if at := slices.IndexFunc(g.out.Steps, func(s Step) bool { return s.ID == t.Step }); at >= 0 {
				g.out.Steps[at].Done = t.At
			}
		}
	}
	g.sum()
	if !site.Brief {
		g.out.Symptoms = g.symptoms()
	}
	return g.out
}

// sayNotJudged adds to every step at the wall that it was not judged.
func (g *generator) sayNotJudged() {
	if g.out.ToMeasure == nil {
		return
	}
	for i := range g.out.Steps {
		if s := &g.out.Steps[i]; s.Stage == catalog.WallStage {
			s.Mind = append(s.Mind, place.NotJudged(&catalog.Wall{Type: g.wall}))
		}
	}
}

type generator struct {
	p        *fit.Pairing
	wall     catalog.WallType
	kind     catalog.WallProperties
	choice   anchorage.Choice
	hole     anchorage.Hole
	center   quantity.Optional[quantity.Length]
	places   []place.Placement // whose points are known; none: no particular wall
	all      []place.Placement // of the job's displays, known or not
	schools  catalog.Schools
	displays int
	bag      *bag
	conds    map[string][]quantity.Phrase // by step
	out      Sequence
}

// blocked returns everything that keeps the display from being installed.
func (g *generator) blocked(places []place.Placement) []fit.Check {
	out := place.Blocking(g.p, places)
	say := func(rule fit.RuleID, text quantity.Phrase, remedy quantity.Phrase) {
		out = append(out, fit.Check{Finding: fit.Finding{Rule: rule, Status: fit.Unknown}, Text: text, Remedy: remedy})
	}
	switch {
	case g.kind.Type == catalog.NoWall:
		say(place.StudsRule, quantity.Say("The kind of wall is not known."), quantity.Say("Say what the wall is made of."))
	case g.p.Bracket.WallPlate == nil:
		say(place.PlateRule, quantity.Say("The bracket's wall plate is not described."), quantity.Say("Take it from the bracket's drawing."))
	case len(places) == 0:
		out = append(out, place.BestCase(g.p, g.wall)...)
	}
	return out
}

// concerns is the step that each rule's condition belongs to.
var concerns = func() map[fit.RuleID]string {
	out := map[fit.RuleID]string{}
	for _, r := range place.Registry() {
		out[r.ID] = r.Step
	}
	return out
}()

// conditions assigns every caution, and every unknown that does not block,
// to the step it concerns. None is dropped. Of the notes, how far the display moves is for the installer.
func (g *generator) conditions(places []place.Placement) {
	g.conds = map[string][]quantity.Phrase{}
	type said struct {
		step     string
		check    fit.Check
		displays []int // of a run; nil: the pairing's, of all of them
	}
	var all []*said
	by := map[string]*said{}
	add := func(c fit.Check, display int) {
		if !c.Printed() {
			return
		}
		step := concerns[c.Rule]
		key := step + c.Text.In(quantity.Metric)
		if by[key] == nil {
			by[key] = &said{step: step, check: c}
			all = append(all, by[key])
			if display > 0 {
				by[key].displays = []int{display}
			}
			return
		}
		if have := by[key]; have.displays != nil && display > 0 && !slices.Contains(have.displays, display) {
			have.displays = append(have.displays, display)
		}
	}
	for _, c := range g.p.Words() {
		add(c, 0)
	}
	for i := range places {
		for _, c := range places[i].Checks {
			add(c, i+1)
		}
	}
	for _, one := range all {
		g.conds[one.step] = append(g.conds[one.step], quantity.Say("%v%v", ofRun(one.displays, len(places)), one.check.Sentences()))
	}
}

// ofRun says which displays of a run a condition is of; of all of them, nothing.
func ofRun(displays []int, of int) quantity.Phrase {
	switch {
	case len(displays) == 0 || len(displays) == of:
		return quantity.Phrase{}
	case len(displays) == 1:
		return quantity.Say("Display %v: ", displays[0])
	}
	var list strings.Builder
	for i, n := range displays {
		last := i+1 == len(displays) || displays[i+1] != n+1
		switch {
		case i > 0 && displays[i-1] == n-1 && !last:
		case i > 0 && displays[i-1] == n-1:
			fmt.Fprintf(&list, "–%d", n)
		default:
			fmt.Fprintf(&list, "%s%d", map[bool]string{true: ", "}[i > 0], n)
		}
	}
	return quantity.Say("Displays %v: ", list.String())
}

// instead names another step for the conditions of a step that an installation does not have.
var instead = map[string]string{"cables": "cables_after", "tension": "lock", "tether": "lock", "try": "bolt"}

// placeCautions adds the conditions to their steps; a condition without its step and
// without one instead of it goes to the first.
func (g *generator) placeCautions() {
	for step, texts := range g.conds {
		is := func(id string) int { return slices.IndexFunc(g.out.Steps, func(s Step) bool { return s.ID == id }) }
		at := is(step)
		if at < 0 {
			at = is(instead[step])
		}
		g.out.Steps[max(0, at)].Mind = append(g.out.Steps[max(0, at)].Mind, texts...)
	}
	for i := range g.out.Steps { // the map has no order
		slices.SortStableFunc(g.out.Steps[i].Mind, func(a, b quantity.Phrase) int {
			return strings.Compare(a.In(quantity.Metric), b.In(quantity.Metric))
		})
	}
}

// add adds a step; what it needs has reasons.
func (g *generator) add(s Step) {
	s.People = max(s.People, 1)
	if s.Stage == "" {
		s.Stage = catalog.InstallSteps[s.ID]
	}
	if g.out.Steps == nil {
		g.out.Steps = make([]Step, 0, 40) // what most take: a step is large to move
	}
	g.out.Steps = append(g.out.Steps, s)
}

func say(format string, args ...any) quantity.Phrase { return quantity.Say(format, args...) }

// handled adds to a step that moves the display how many people it
// takes, and lifting equipment if people should not lift.
func (g *generator) handled(s Step) Step {
	l := &g.out.Lift
	s.People = max(s.People, l.People)
	if l.Equipment {
		s.Tools = append(s.Tools, "lifting equipment")
		s.Text = append(s.Text, say("Move the display with lifting equipment: it is more than four people should lift."))
	}
	return s
}

// sum lists the parts that the steps use, that are to be sent, and that are left over.
func (g *generator) sum() {
	for i := range g.out.Steps {
		s := &g.out.Steps[i]
		g.out.Minutes += s.Minutes
		g.out.People = max(g.out.People, s.People)
		for _, p := range s.Parts {
			g.out.Parts = addPart(g.out.Parts, p)
		}
		for _, t := range s.Tools {
			if !slices.Contains(g.out.Tools, t) {
				g.out.Tools = append(g.out.Tools, t)
			}
		}
	}
	g.out.Supply = g.bag.supply
	g.out.Leftovers = g.leftovers()
}
