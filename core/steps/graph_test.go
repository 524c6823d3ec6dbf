package steps

import (
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

func ids(list []Step) string {
	var out []string
	for i := range list {
		out = append(out, list[i].ID)
	}
	return strings.Join(out, " ")
}

// TestOrder: a step comes after what it needs, else where it is given; a need of a step that is not
// there holds nothing up; a circle is kept, and named.
func TestOrder(t *testing.T) {
	needs := func(id string, stage catalog.Stage, of ...string) Step {
		s := Step{ID: id, Stage: stage, People: 1}
		for _, x := range of {
			s.Needs = append(s.Needs, Need{x, "because"})
		}
		return s
	}
	for name, c := range map[string]struct {
		given []Step
		want  string
	}{
		"as given":            {[]Step{needs("a", "wall"), needs("b", "wall"), needs("c", "wall")}, "a b c"},
		"by stage":            {[]Step{needs("c", "hang"), needs("b", "wall"), needs("a", "unpack")}, "a b c"},
		"by need":             {[]Step{needs("c", "wall", "b"), needs("a", "wall"), needs("b", "wall")}, "a b c"},
		"need of nothing":     {[]Step{needs("a", "wall", "ghost"), needs("b", "wall")}, "a b"},
		"a chain":             {[]Step{needs("d", "wall", "c"), needs("c", "wall", "b"), needs("b", "wall", "a"), needs("a", "wall")}, "a b c d"},
		"a circle comes last": {[]Step{needs("b", "wall", "c"), needs("c", "wall", "b"), needs("a", "wall")}, "a b c"},
	} {
		got := ordered(c.given)
		if ids(got) != c.want {
			t.Errorf("%s: %s, want %s", name, ids(got), c.want)
		}
		s := Sequence{Steps: got}
		if circle := strings.Contains(strings.Join(s.Faults(), " "), "which it needs"); circle != strings.HasPrefix(name, "a circle") {
			t.Errorf("%s: %v", name, s.Faults())
		}
	}
}

// own gives the pair's bracket steps of its own.
func own(list ...catalog.AssemblyStep) change {
	return func(_ *catalog.Display, b *catalog.Bracket) {
		b.Kit = append(b.Kit, catalog.Item{Kind: catalog.PlainPart, Name: "slide lock", Count: 3, Bag: "E"})
		b.Assembly = list
	}
}

// TestOwnSteps: a bracket's own steps take their place, their parts are counted, what is left of them is
// left over, and figures in their text are the pairing's.
func TestOwnSteps(t *testing.T) {
	s := generate("wood_stud", own(
		catalog.AssemblyStep{ID: "slides", Stage: "display", Title: "Slides", Text: "{turns}: the top holes are {top_holes} below, 100 % sure.",
			Parts: []catalog.AssemblyPart{{Name: "slide lock", Bag: "E", Count: 2}}, After: []string{"try"}},
		catalog.AssemblyStep{ID: "before_that", Stage: "display", Title: "B", Text: "Reach is {reach}.", After: []string{"try"}},
		catalog.AssemblyStep{ID: "cover", Stage: "finish", Title: "Cover", Text: "Close it."}))
	if f := s.Faults(); f != nil {
		t.Fatal(f)
	}
	if got := ids(s.Steps); !strings.Contains(got, "try slides before_that bolt") || !strings.HasSuffix(got, "cover finish") {
		t.Error(got)
	}
	slides := step(&s, "slides")
	if n := count(slides.Parts, "slide lock"); n != 2 || count(s.Leftovers, "slide lock") != 1 {
		t.Errorf("%d are used, %+v left over", n, s.Leftovers)
	}
	if got := said(slides.Text); got != "about seven full turns: the top holes are 119 mm below, 100 % sure." {
		t.Error(got)
	}
	// A figure that is not known is not made up: the step says so, and asks for it.
	if b := step(&s, "before_that"); said(b.Text) != "Reach is (not known)." || !strings.Contains(said(b.Mind),
		"Find out first: wall to arm plane, drawn out") {
		t.Error(said(b.Text), said(b.Mind))
	}
	if lift := step(&s, "lift"); lift.ID == "" {
		t.Error("no lift")
	}
}

// TestOwnFigureOfMovement: a step says how far this display tilts before it touches the wall, not how far the bracket could; the angle
// is worked out by hand in ../fit/testdata/rules.json.
func TestOwnFigureOfMovement(t *testing.T) {
	for able, want := range map[int]string{12: "Down 10°, up 0°.", 10: "Down 10°, up 0°."} {
		s := generate("wood_stud", func(d *catalog.Display, b *catalog.Bracket) {
			b.Kind, b.Profile = "tilt", catalogtest.Length(52)
			b.TiltDown = quantity.Some(quantity.Angle(able) * quantity.Degree)
			b.TiltUp = quantity.Some(quantity.Angle(0))
			b.TiltPivot = &catalog.Pivot{BehindArm: catalogtest.Length(18), BelowHook: catalogtest.Length(219)}
			b.Assembly = []catalog.AssemblyStep{{ID: "stop", Stage: "display", Title: "Stop", Text: "Down {tilt_down}, up {tilt_up}."}}
		})
		if got := said(step(&s, "stop").Text); got != want {
			t.Errorf("%d°: %q, wanted %q", able, got, want)
		}
	}
}

// TestWhen: a condition that is met, is not met, or hangs on a depth that nobody knows: that step is
// shown with its condition, since a step that is left out by mistake is worse than one too many.
func TestWhen(t *testing.T) {
	yes := true
	for name, c := range map[string]struct {
		when  catalog.When
		depth quantity.Optional[quantity.Length]
		there bool
		asks  bool
	}{
		"this wall":       {catalog.When{Walls: []catalog.WallType{"wood_stud"}}, catalogtest.Length(60), true, false},
		"another wall":    {catalog.When{Walls: []catalog.WallType{"concrete"}}, catalogtest.Length(60), false, false},
		"with spacers":    {catalog.When{Spacers: &yes}, catalogtest.Length(60), false, false},
		"another turn":    {catalog.When{Turns: []catalog.Turn{90}}, catalogtest.Length(60), false, false},
		"another kind":    {catalog.When{Kinds: []catalog.BracketKind{"ball"}}, catalogtest.Length(60), false, false},
		"shallow enough":  {catalog.When{Below: catalogtest.Length(61)}, catalogtest.Length(60), true, false},
		"just not":        {catalog.When{Below: catalogtest.Length(60)}, catalogtest.Length(60), false, false},
		"deep enough":     {catalog.When{AtOrAbove: catalogtest.Length(60)}, catalogtest.Length(60), true, false},
		"depth not known": {catalog.When{Below: catalogtest.Length(60)}, quantity.Optional[quantity.Length]{}, true, true},
		"not on this wall,": {catalog.When{Below: catalogtest.Length(60), Walls: []catalog.WallType{"block"}},
			quantity.Optional[quantity.Length]{}, false, false},
	} {
		s := generate("wood_stud", func(d *catalog.Display, b *catalog.Bracket) {
			d.Depth, d.RestPlaneFromFront = c.depth, catalogtest.Length(60)
			b.Assembly = []catalog.AssemblyStep{{ID: "mine", Stage: "display", Title: "T", Text: "x", When: &c.when}}
		})
		mine := step(&s, "mine")
		if (mine.ID != "") != c.there || strings.Contains(said(mine.Mind), "depth is not known") != c.asks {
			t.Errorf("%s: there %v, minds %q", name, mine.ID != "", said(mine.Mind))
		}
	}
}

// atWall is the pair's steps by some schools, on a wall with an outlet or without.
func atWall(s catalog.Schools, outlets []catalog.Outlet, c change) Sequence {
	d, b := catalogtest.Pair()
	d.MassWithStand = quantity.Some(d.Mass.Value + quantity.Kilogram)
	if c != nil {
		c(d, b)
	}
	p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
	j := &catalog.Job{Wall: catalog.Wall{Type: "wood_stud", Covering: catalogtest.Length(12), Outlets: outlets,
		Studs: &catalog.Studs{First: catalogtest.Length(210), Spacing: catalogtest.Length(406)}}, Schools: s,
		Place: catalog.Place{Rule: "center", Center: catalogtest.Length(1500), X: catalogtest.Length(1650)}}
	return Generate(&p, Site{Wall: "wood_stud", Places: place.Place(&p, j), Job: j})
}

// TestSchools: each school of the trade is followed where the job says so, whatever the policy.
func TestSchools(t *testing.T) {
	swings := func(d *catalog.Display, b *catalog.Bracket) {
		b.Kind, b.Reach, b.Profile = "full_motion", catalogtest.Length(480), catalogtest.Length(52)
		d.Zones = []catalog.Zone{{Kind: "port", Width: quantity.MM(40), Height: quantity.MM(40), Plug: catalogtest.Length(20)}}
	}
	outlet := []catalog.Outlet{{X: quantity.MM(600), Y: quantity.MM(300), Kind: "power"}}
	for name, c := range map[string]struct {
		schools catalog.Schools
		outlets []catalog.Outlet
		change  change
		is, not []string // steps
		says    [2]string
	}{
		"template": {catalog.Schools{}, nil, nil, []string{"stand", "cables"}, []string{"feet", "cables_after"},
			[2]string{"mark", "Tape the template up"}},
		"tape and laser": {catalog.Schools{Marking: "tape", Level: "laser"}, nil, nil, nil, nil, [2]string{"mark",
			"as the measure card lists them"}},
		"laser": {catalog.Schools{Level: "laser"}, nil, nil, nil, nil, [2]string{"mark", "line laser"}},
		"feet stay": {catalog.Schools{Stand: "after"}, nil, nil, []string{"feet"}, []string{"stand"},
			[2]string{"feet", "feet off the hung display"}},
		"from the wall": {catalog.Schools{}, outlet, swings, []string{"cables_after"}, []string{"cables"},
			[2]string{"cables_after", "Draw the locked display out"}},
		"from the room": {catalog.Schools{}, nil, swings, []string{"cables"}, []string{"cables_after"},
			[2]string{"cables", "before the display hangs"}},
		"before, says the job": {catalog.Schools{Cables: "before"}, outlet, swings, []string{"cables"},
			[]string{"cables_after"}, [2]string{"cables", "before"}},
		"after, but it does not come out": {catalog.Schools{Cables: "after"}, outlet, nil, []string{"cables"}, []string{"cables_after"},
			[2]string{"cables", "before"}},
	} {
		s := atWall(c.schools, c.outlets, c.change)
		if f := s.Faults(); f != nil || len(s.Steps) == 0 {
			t.Fatal(name, f)
		}
		for _, id := range c.is {
			if step(&s, id).ID == "" {
				t.Errorf("%s: no step %s in %s", name, id, ids(s.Steps))
			}
		}
		for _, id := range c.not {
			if step(&s, id).ID != "" {
				t.Errorf("%s: there is a step %s", name, id)
			}
		}
		if got := said(step(&s, c.says[0]).Text); !strings.Contains(got, c.says[1]) {
			t.Errorf("%s: %s says %q", name, c.says[0], got)
		}
	}
}

// TestEveryWall: each kind of wall has its own way of finding what is behind, a second way, and what
// tells that it went wrong, with what to do then (common practice).
func TestEveryWall(t *testing.T) {
	seen := map[string]bool{}
	for _, kind := range catalog.WallTypes {
		w := kind.Properties()
		for _, p := range []quantity.Phrase{w.Find, w.Sound, w.Prove, w.Proved, w.Drill, w.Right, w.Wrong, w.Then, w.Fix, w.Caution} {
			if p.Empty() {
				t.Errorf("%s lacks a sentence", kind)
			}
		}
		if seen[w.Prove.In(quantity.Metric)] || w.ProveTools == nil {
			t.Errorf("%s is proved as another", kind)
		}
		seen[w.Prove.In(quantity.Metric)] = true
		s := generate(kind, nil)
		prove, drill := step(&s, "prove"), step(&s, "drill")
		if !strings.Contains(said(prove.Text), w.Prove.In(quantity.Metric)) || !strings.Contains(drill.Wrong.In(quantity.Metric),
			w.Then.In(quantity.Metric)) {
			t.Errorf("%s: %s; %s", kind, said(prove.Text), drill.Wrong.In(quantity.Metric))
		}
	}
}

// TestSymptoms: every symptom has causes with this pairing's own figures: what stands under a bolt's
// head, and what it is when more does.
func TestSymptoms(t *testing.T) {
	s := generate("wood_stud", nil)
	if len(s.Symptoms) != len(SymptomNames) {
		t.Fatalf("%d of %d symptoms", len(s.Symptoms), len(SymptomNames))
	}
	find := func(id string) string {
		var out []string
		for _, x := range s.Symptoms {
			if x.ID == id {
				out = append(out, x.Stop.In(quantity.Metric))
				for _, c := range x.Causes {
					out = append(out, c.What.In(quantity.Metric), c.Look.In(quantity.Metric), c.Do.In(quantity.Metric))
				}
			}
		}
		return strings.Join(out, " ")
	}
	// M6×12 with 7.9 mm engaged stands 4.1 mm under the head; M6×16 of the bag stands 4 mm more.
	for id, want := range map[string]string{
		"stops_early": "4.1 mm stands under its head", "hooks": "119 mm below the hook line",
		"plate":     "Take the display down before anything else",
		"not_tight": "7.9 mm of it is in the thread", "rocks": "no spacer",
	} {
		if got := find(id); !strings.Contains(got, want) {
			t.Errorf("%s does not say %q: %s", id, want, got)
		}
	}
	for _, x := range s.Symptoms {
		for _, c := range x.Causes {
			if c.What.Empty() || c.Look.Empty() || c.Do.Empty() {
				t.Errorf("%s has a cause without %+v", x.ID, c)
			}
		}
	}
}

// TestOfRun: the displays that a condition is of, with those in a row together; of all of them nothing is said.
func TestOfRun(t *testing.T) {
	for _, of := range []struct {
		displays []int
		of       int
		want     string
	}{
		{nil, 1, ""}, {[]int{1}, 1, ""}, {[]int{1, 2, 3}, 3, ""}, {[]int{2}, 3, "Display 2: "}, {[]int{1, 3}, 3, "Displays 1, 3: "},
		{[]int{1, 2}, 3, "Displays 1–2: "}, {[]int{1, 2, 3, 5, 7, 8}, 9, "Displays 1–3, 5, 7–8: "},
	} {
		if got := ofRun(of.displays, of.of).In(quantity.Metric); got != of.want {
			t.Errorf("%v of %d: %q, want %q", of.displays, of.of, got, of.want)
		}
	}
}
