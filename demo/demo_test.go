package demo

import (
	"slices"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/draw/pairing"
	"nexufix/core/draw/wall"
	"nexufix/core/drawing"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/sheet"
	"nexufix/core/stack"
	"nexufix/core/steps"
	"nexufix/core/steps/stepstest"
	"nexufix/exchange"
	"nexufix/render/svg"
)

func contents(t testing.TB) *exchange.Contents {
	t.Helper()
	c, err := Contents()
	if err != nil {
		t.Fatal(err)
	}
	return c
}

func judged(c *exchange.Contents, display, bracket string) fit.Pairing {
	return fit.Judge(c.Display(display), c.Bracket(bracket), 0, fit.Extra{}, catalog.DefaultPolicy())
}

// TestEveryInterestingCaseIsThere: the demo shows each kind of back, thread
// and answer.
func TestEveryInterestingCaseIsThere(t *testing.T) {
	c := contents(t)
	if len(c.Displays) < 40 || len(c.Brackets) < 8 {
		t.Fatalf("%d displays, %d brackets", len(c.Displays), len(c.Brackets))
	}
	seen := map[string]string{}
	see := func(what string, is bool, d *catalog.Display) {
		if is && seen[what] == "" {
			seen[what] = d.ID
		}
	}
	for _, d := range c.Displays {
		see("two patterns", len(d.Patterns) > 1, d)
		see("tiny", d.Diagonal.Known && d.Diagonal.Value < 8*quantity.Inch, d)
		see("huge", d.Diagonal.Known && d.Diagonal.Value > 95*quantity.Inch, d)
		see("mass not known", !d.Mass.Known, d)
		see("a long name", len(d.Name()) > 50, d)
		for _, p := range d.Patterns {
			for _, t := range []fastener.Thread{fastener.M4, fastener.M5, fastener.M6, fastener.M8} {
				see(t.String(), p.Thread == t, d)
			}
			setbacks := map[quantity.Length]bool{}
			for _, h := range p.Holes {
				setbacks[h.Setback.Length] = true
				see("deep cup", h.Recess.Length >= quantity.MM(6), d)
				see("thread depth not known", !h.ThreadDepth.Known, d)
				see("cup of unknown width", h.Recess.Length > 0 && !h.RecessDiameter.Known, d)
			}
			see("flat", len(setbacks) == 1 && setbacks[0], d)
			see("stepped", len(setbacks) == 2, d)
			see("curved or crooked", len(setbacks) > 2, d)
		}
	}
	verdicts := map[fit.Verdict]int{}
	said := map[fit.RuleID]map[fit.Status]int{}
	for _, d := range c.Displays {
		fits := 0
		for _, b := range c.Brackets {
			p := judged(c, d.ID, b.ID)
			verdicts[p.Verdict]++
			if p.Verdict == fit.Fits || p.Verdict == fit.FitsWithConditions {
				fits++
			}
			for _, x := range p.Findings {
				if said[x.Rule] == nil {
					said[x.Rule] = map[fit.Status]int{}
				}
				said[x.Rule][x.Status]++
			}
			see("a kit lacking one length", p.Stack != nil && len(p.Stack.Supplied) == 1 && p.Stack.Supplied[0].Kind == "bolt", d)
			see("a caution from tolerances", p.Stack != nil && p.Stack.Status == stack.Caution && p.Stack.Lean < 0.3 && len(p.Stack.Supplied) == 0,
				d)
			see("a caution from lean", p.Stack != nil && p.Stack.Lean > 0.3, d)
			see("spacer in the cup", p.Stack != nil && bears(p.Stack, stack.Insert), d)
			see("an alternative", p.Alternative != nil, d)
		}
		see("nothing fits", fits == 0, d)
	}
	for _, what := range []string{"two patterns", "tiny", "huge", "mass not known", "a long name", "M4", "M5", "M6", "M8", "deep cup",
		"thread depth not known", "flat", "stepped", "curved or crooked",
		"a kit lacking one length", "a caution from tolerances", "a caution from lean", "spacer in the cup", "an alternative", "nothing fits"} {
		if seen[what] == "" {
			t.Errorf("no display of the demo is a case of: %s", what)
		}
	}
	for _, v := range fit.Verdicts {
		if verdicts[v] < 5 {
			t.Errorf("only %d pairings: %s", verdicts[v], v)
		}
	}
	unseen := map[fit.RuleID][]fit.Status{ // a caution of these is for jobs that want more; the rest nobody needs a picture of
		"tilt": {fit.Caution}, "swivel": {fit.Caution}, "protrusion": {fit.Caution}, "balance": {fit.Unknown},
	}
	for _, rule := range fit.Rules {
		for _, status := range []fit.Status{fit.Pass, fit.Caution, fit.Unknown, fit.Fail} {
			if rule.Never[status] != "" || slices.Contains(unseen[rule.ID], status) {
				continue
			}
			if said[rule.ID][status] == 0 {
				t.Errorf("%s is never %s in the demo", rule.ID, status)
			}
		}
	}
}

func bears(s *stack.Stack, on stack.Bearing) bool {
	for _, g := range s.Groups {
		if g.Bearing == on {
			return true
		}
	}
	return false
}

// TestEverythingCanBeDrawnAndDone: every pairing of the demo, either way up,
// is judged, drawn and written as steps without a fault.
func TestEverythingCanBeDrawnAndDone(t *testing.T) {
	c := contents(t)
	sequences := 0
	for _, d := range c.Displays {
		for _, b := range c.Brackets {
			for _, turn := range catalog.Turns {
				p := fit.Judge(d, b, turn, fit.Extra{}, catalog.DefaultPolicy())
				name := d.ID + " on " + b.ID
				if section := pairing.Section(&p); section != nil {
					if (p.Stack == nil) || !strings.Contains(string(svg.Write(section, svg.Options{Both: true})), "×") {
						t.Errorf("%s: section", name)
					}
				}
				if back := pairing.Back(&p); back == nil && len(d.Patterns) > 0 {
					t.Errorf("%s: no back", name)
				}
				drill := sheet.DrillTemplate(&p, sheet.Sheet{})
				if fits := p.Verdict != fit.DoesNotFit && p.Hang != nil; fits && drill == nil {
					t.Errorf("%s: no template", name)
				}
				for _, wall := range catalog.WallTypes {
					s := steps.Generate(&p, steps.Site{Wall: wall})
					if f := s.Faults(); f != nil {
						t.Errorf("%s on %s: %v", name, wall, f)
					}
					if len(s.Steps) == 0 && len(s.Blocked) == 0 {
						t.Errorf("%s on %s: no steps, and no word of why", name, wall)
					}
					if len(s.Steps) > 0 {
						sequences++
					}
				}
			}
		}
	}
	if sequences < 200 {
		t.Errorf("only %d sequences", sequences)
	}
}

// TestDemoSurvivesWriting: written and read again, nothing changes.
func TestDemoSurvivesWriting(t *testing.T) {
	c := contents(t)
	raw, err := exchange.Write(c)
	if err != nil {
		t.Fatal(err)
	}
	again, err := exchange.Read(raw)
	if err != nil || len(again.Displays) != len(c.Displays) {
		t.Fatal(err)
	}
	twice, _ := exchange.Write(again)
	if string(raw) != string(twice) {
		t.Error("the demo does not survive being written")
	}
}

// TestHelpIsTrue: for every pairing of the demo, what is said to help is
// judged again by itself and does what was said.
func TestHelpIsTrue(t *testing.T) {
	c := contents(t)
	kinds := map[string]int{}
	for _, d := range c.Displays {
		for _, b := range c.Brackets {
			p := judged(c, d.ID, b.ID)
			x := fit.Improve(&p, c.Brackets)
			kinds[x.Kind]++
			policy, extra, turn, bracket := catalog.DefaultPolicy(), fit.Extra{}, catalog.Turn(0), b
			switch x.Kind {
			case "":
				continue
			case "school":
				*map[string]*string{"bolt_school": &policy.BoltSchool, "arm_school": &policy.ArmSchool,
					"size_school": &policy.SizeSchool}[x.Setting] = x.School
			case "arms":
				extra.TopHoles = quantity.Some(x.Arms)
			case "turn":
				turn = x.Turn
			case "spacers":
				extra.Clearance = x.Spacers
			case "bolts", "parts":
				if len(x.Send) == 0 {
					t.Errorf("%s on %s: nothing to send", d.ID, b.ID)
				}
				continue
			case "measure":
				if len(x.Holes) == 0 || x.Within == 0 {
					t.Errorf("%s on %s: nothing to measure", d.ID, b.ID)
				}
				continue
			case "bracket":
				bracket = x.Bracket
			}
			after := fit.Judge(d, bracket, turn, extra, policy)
			if after.Verdict != x.Verdict || p.Verdict == fit.DoesNotFit && after.Verdict == fit.DoesNotFit {
				t.Errorf("%s on %s: %s was to make it %s, but it is %s", d.ID, b.ID, x.Kind, x.Verdict, after.Verdict)
			}
		}
	}
	t.Log(kinds)
	for _, k := range append([]string{""}, fit.Changes...) {
		if kinds[k] == 0 && k != "parts" {
			t.Errorf("the demo has no pairing that is helped by %q", k)
		}
	}
}

// TestTighteningNeverImproves: a stricter policy never makes the answer of a
// rule better, and one more part in the kit never takes a stack away.
func TestTighteningNeverImproves(t *testing.T) {
	c := contents(t)
	tighter := map[string]func(*catalog.Policy){
		"engagement":       func(p *catalog.Policy) { p.EngagementMinD = quantity.One * 13 / 10 },
		"worst engagement": func(p *catalog.Policy) { p.EngagementWorstD = quantity.One * 11 / 10 },
		"clearance":        func(p *catalog.Policy) { p.TipClearanceMin = quantity.MM(3) },
		"load":             func(p *catalog.Policy) { p.LoadCaution = quantity.One / 2 },
		"reveal":           func(p *catalog.Policy) { p.Reveal = quantity.MM(40) },
		"washers":          func(p *catalog.Policy) { p.WasherOverlap = quantity.MM(8) },
	}
	added := []catalog.Item{
		{Kind: "bolt", Thread: fastener.M6, Length: quantity.MM(22), Count: 4},
		{Kind: "spacer", Threads: fastener.Threads, Length: quantity.MM(7), Outer: quantity.MM(18), Count: 4},
		{Kind: "washer", Thread: fastener.M4, Thickness: quantity.MM(2), Outer: quantity.MM(20), Count: 8},
	}
	for _, d := range c.Displays {
		for _, b := range c.Brackets {
			before := judged(c, d.ID, b.ID)
			for name, tighten := range tighter {
				policy := catalog.DefaultPolicy()
				tighten(&policy)
				after := fit.Judge(d, b, 0, fit.Extra{}, policy)
				// Where the bolts change, the display may hang further out, and
				// a plug that touched no longer does: only rules by themselves.
				for i, x := range after.Findings {
					if x.Rule == "stack" || x.Rule == "load" || x.Rule == "size" || x.Rule == "thread" || x.Rule == "pattern" {
						if x.Status < before.Findings[i].Status {
							t.Errorf("%s on %s: a stricter %s makes %s %s, before %s", d.ID, b.ID, name, x.Rule, x.Status, before.Findings[i].Status)
						}
					}
				}
				if after.Stack.Better(before.Stack) && before.Stack == nil {
					t.Errorf("%s on %s: a stricter %s finds a stack", d.ID, b.ID, name)
				}
			}
			for _, item := range added {
				more := *b
				more.Kit = append(slices.Clone(b.Kit), item)
				after := fit.Judge(d, &more, 0, fit.Extra{}, catalog.DefaultPolicy())
				if before.Stack != nil && after.Stack == nil || after.Check("stack").Status == fit.Fail && before.Check("stack").Status != fit.Fail {
					t.Errorf("%s on %s: a %s more in the kit takes the stack away", d.ID, b.ID, item.Kind)
				}
			}
		}
	}
}

// TestEveryOutcomeOnAWall: the demo's jobs show each rule of what holds a display
// in each of its outcomes.
func TestEveryOutcomeOnAWall(t *testing.T) {
	c := contents(t)
	seen := map[fit.RuleID]map[fit.Status]bool{}
	blocked, free := 0, 0
	for _, job := range c.Jobs {
		d, b := c.Display(job.Display), c.Bracket(job.Bracket)
		if d == nil || b == nil {
			t.Errorf("%s: no %s or %s", job.ID, job.Display, job.Bracket)
			continue
		}
		p := fit.Judge(d, b, job.Turn, fit.ExtraOf(job), c.PolicyOrDefault())
		all := place.Place(&p, job)
		if len(place.Blocking(&p, all)) > 0 {
			blocked++
		} else {
			free++
		}
		for i := range all {
			for _, x := range all[i].Checks {
				if seen[x.Rule] == nil {
					seen[x.Rule] = map[fit.Status]bool{}
				}
				seen[x.Rule][x.Status] = true
			}
		}
	}
	const pass, caution, unknown, fail = fit.Pass, fit.Caution, fit.Unknown, fit.Fail
	for rule, want := range map[fit.RuleID][]fit.Status{
		place.FastenerRule: {pass, caution, fail}, place.DepthRule: {pass, caution, unknown, fail}, place.EmbedmentRule: {pass, caution, unknown,
			fail},
		place.PilotRule: {pass, fit.Note}, place.HeadRule: {pass}, place.SweptRule: {pass, caution},
		place.EdgesRule: {pass, caution, unknown}, place.StrengthRule: {pass, caution, unknown, fail}, place.BendingRule: {pass, caution},
		place.TypeTestRule: {pass, fit.Note}, place.HandlingRule: {pass, caution}, place.VehicleRule: {pass, fail}, place.PlateRule: {pass,
			caution},
		place.AboveRule: {pass, fail}, place.BelowRule: {pass}, place.LockRule: {pass, caution}, place.HeadroomRule: {pass,
			caution}, place.ProjectionRule: {caution},
		place.StudsRule: {pass, fail}, place.TetherRule: {caution},
	} {
		for _, s := range want {
			if !seen[rule][s] {
				t.Errorf("%s is never %s in the demo's jobs", rule, s)
			}
		}
	}
	if blocked < 4 || free < 4 {
		t.Errorf("%d jobs are blocked, %d are not", blocked, free)
	}
}

// TestSheetsAgreeWithPlacement: for every job of the demo, points, holes, drills,
// parts and counts are the same in placement, steps, template and measure card.
func TestSheetsAgreeWithPlacement(t *testing.T) {
	c := contents(t)
	for _, job := range c.Jobs {
		extra := fit.ExtraOf(job)
		p := fit.Judge(c.Display(job.Display), c.Bracket(job.Bracket), job.Turn, extra, c.PolicyOrDefault())
		all := place.Place(&p, job)
		seq := steps.Generate(&p, steps.Site{Wall: job.Wall.Type, Load: extra, Places: all})
		for _, s := range stepstest.Disagreements(&p, all, &seq) {
			t.Errorf("%s: %s", job.ID, s)
		}
	}
}

// TestMarksAreDrawn: what a finding on the wall points at is in a drawing.
func TestMarksAreDrawn(t *testing.T) {
	c := contents(t)
	drawn, marked := map[string]bool{}, map[string]fit.RuleID{}
	for _, job := range c.Jobs {
		p := fit.Judge(c.Display(job.Display), c.Bracket(job.Bracket), job.Turn, fit.ExtraOf(job), c.PolicyOrDefault())
		all := place.Place(&p, job)
		for _, d := range []*drawing.Drawing{wall.Elevation(all), wall.Holding(&all[0]), wall.BuildUp(&all[0]), pairing.Side(&p, 0, &all[0])} {
			if d == nil {
				continue
			}
			for _, i := range d.Items {
				name, _, _ := strings.Cut(i.Tag, ".")
				drawn[i.Tag], drawn[name] = true, true
			}
		}
		for i := range all {
			for _, check := range all[i].Checks {
				for _, m := range check.Marks {
					marked[m] = check.Rule
				}
			}
		}
	}
	for m, rule := range marked {
		if !drawn[m] {
			t.Errorf("%s points at %s, which is in no drawing", rule, m)
		}
	}
	if len(marked) < 10 {
		t.Errorf("only %d marks", len(marked))
	}
}
