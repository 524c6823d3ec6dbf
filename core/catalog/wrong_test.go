package catalog

import (
	"slices"
	"testing"

	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// paths are where something is wrong.
func paths(all []Problem) (out []string) {
	for _, p := range all {
		out = append(out, p.Path)
	}
	slices.Sort(out)
	return out
}

// TestWhatIsWrongWithSteps: of a bracket's own steps, one thing at a time.
func TestWhatIsWrongWithSteps(t *testing.T) {
	part := func(name string, count int) []AssemblyPart { return []AssemblyPart{{Name: name, Count: count}} }
	for _, c := range []struct {
		name   string
		change func(b *Bracket)
		at     []string
	}{
		{"nothing", func(*Bracket) {}, nil},
		{"everybody's id", func(b *Bracket) { b.Assembly[0].ID = "lift" }, []string{"assembly[0].id"}},
		{"an id twice", func(b *Bracket) { b.Assembly[1].ID = "one" }, []string{"assembly[1].id"}},
		{"braces", func(b *Bracket) { b.Assembly[0].Text = "{" }, []string{"assembly[0].text"}},
		{"no such figure", func(b *Bracket) { b.Assembly[0].Caution = "{moon}" }, []string{"assembly[0].caution"}},
		{"a figure in the title", func(b *Bracket) { b.Assembly[0].Title = "{" + anyFigure() + "}" }, []string{"assembly[0].title"}},
		{"a figure in the check", func(b *Bracket) { b.Assembly[0].Check = "{" + anyFigure() + "}" }, nil},
		{"after nothing", func(b *Bracket) { b.Assembly[0].After = []string{"moon"} }, []string{"assembly[0].after[0]"}},
		{"after itself", func(b *Bracket) { b.Assembly[0].After = []string{"one"} }, []string{"assembly[0].after[0]"}},
		{"in a circle", func(b *Bracket) { b.Assembly[0].After, b.Assembly[1].After = []string{"two"}, []string{"one"} },
			[]string{"assembly[0].after[0]", "assembly[1].after[0]"}},
		{"after one of its stage", func(b *Bracket) { b.Assembly[1].After = []string{"one"} }, nil},
		{"after a later stage", func(b *Bracket) { b.Assembly[0].After, b.Assembly[1].Stage = []string{"two"}, HangStage },
			[]string{"assembly[0].after[0]"}},
		{"after an earlier one", func(b *Bracket) { b.Assembly[1].After, b.Assembly[1].Stage = []string{"one"}, HangStage }, nil},
		{"after everybody's", func(b *Bracket) { b.Assembly[1].After, b.Assembly[1].Stage = []string{"lift"}, HangStage }, nil},
		{"after everybody's later", func(b *Bracket) { b.Assembly[1].After = []string{"lift"} }, []string{"assembly[1].after[0]"}},
		{"a part", func(b *Bracket) { b.Assembly[0].Parts = part("clip", 2) }, nil},
		{"too many of it", func(b *Bracket) { b.Assembly[0].Parts = part("clip", 3) }, []string{"assembly[0].parts[0].count"}},
		{"too many of it in two", func(b *Bracket) { b.Assembly[0].Parts, b.Assembly[1].Parts = part("clip", 1), part("clip", 2) },
			[]string{"assembly[1].parts[0].count"}},
		{"never both", func(b *Bracket) {
			b.Assembly[0].Parts, b.Assembly[1].Parts = part("clip", 2), part("clip", 2)
			b.Assembly[0].When, b.Assembly[1].When = &When{Walls: []WallType{Concrete}}, &When{Walls: []WallType{WoodStud}}
		}, nil},
		{"too many of it in deep ones", func(b *Bracket) {
			b.Assembly[0].Parts, b.Assembly[0].When = part("clip", 3), &When{AtOrAbove: given(100)}
		}, []string{"assembly[0].parts[0].count"}},
		{"never both, by depth", func(b *Bracket) {
			b.Assembly[0].Parts, b.Assembly[0].When = part("clip", 1), &When{AtOrAbove: given(100), Below: given(110)}
			b.Assembly[1].Parts, b.Assembly[1].When = part("clip", 2), &When{AtOrAbove: given(105)}
		}, []string{"assembly[1].parts[0].count"}},
		{"no such part", func(b *Bracket) { b.Assembly[0].Parts = part("moon", 1) }, []string{"assembly[0].parts[0].name"}},
		{"a kit that nobody described", func(b *Bracket) { b.Kit, b.Assembly[0].Parts = nil, part("moon", 1) }, nil},
		{"a tool", func(b *Bracket) { b.Assembly[0].Parts = part("key", 1) }, []string{"assembly[0].parts[0].name"}},
		{"a bolt", func(b *Bracket) { b.Assembly[0].Parts = part("M6×20", 1) }, []string{"assembly[0].parts[0].name"}},
		{"a part with a use", func(b *Bracket) { b.Kit[0].Use, b.Assembly[0].Parts = "lock", part("clip", 1) },
			[]string{"assembly[0].parts[0].name"}},
		{"depths", func(b *Bracket) { b.Assembly[0].When = &When{Below: given(2), AtOrAbove: given(1)} }, nil},
		{"no depth between", func(b *Bracket) { b.Assembly[0].When = &When{Below: given(2), AtOrAbove: given(2)} },
			[]string{"assembly[0].when.depth_below_mm"}},
		{"one depth", func(b *Bracket) { b.Assembly[0].When = &When{AtOrAbove: given(2)} }, nil},
	} {
		b := Bracket{Turns: []Turn{0}, Kit: []Item{{Kind: PlainPart, Name: "clip", Count: 2}, {Kind: Tool, Name: "key", Count: 1},
			{Kind: Bolt, Thread: fastener.M6, Length: quantity.MM(20), Count: 4}},
			Assembly: []AssemblyStep{{ID: "one", Stage: UnpackStage, Title: "One", Text: "Do."},
				{ID: "two", Stage: UnpackStage, Title: "Two", Text: "Do."}}}
		c.change(&b)
		var out problems
		b.validateAssembly(&out)
		if got := paths(out); !slices.Equal(got, c.at) {
			t.Errorf("%s: %v, want %v", c.name, got, c.at)
		}
	}
}

func anyFigure() string {
	for name := range AssemblyFigures {
		return name
	}
	return ""
}

// TestWhatIsWrongWithChanges: what a change of a step takes.
func TestWhatIsWrongWithChanges(t *testing.T) {
	for n, c := range []struct {
		change StepChange
		at     []string
	}{
		{StepChange{What: "reword", Text: []string{"Do {1}."}, Was: []string{"Done {1}."}}, nil},
		{StepChange{What: "reword", Text: []string{"Do {2}."}, Was: []string{"Done {1}."}}, []string{"step_changes[0].text"}},
		{StepChange{What: "reword"}, []string{"step_changes[0].text", "step_changes[0].was"}},
		{StepChange{What: "add", Title: "Own", Text: []string{"Do."}, Stage: HangStage}, nil},
		{StepChange{What: "add"}, []string{"step_changes[0].stage", "step_changes[0].text", "step_changes[0].title"}},
		{StepChange{What: "add", Title: "Own", Text: []string{"Do {1}."}, Stage: HangStage}, []string{"step_changes[0].text"}},
		{StepChange{What: "move", After: "lift"}, nil}, {StepChange{What: "move"}, []string{"step_changes[0].after"}},
		{StepChange{What: "figure", Shows: "hook"}, nil}, {StepChange{What: "figure"}, []string{"step_changes[0].figure"}},
		{StepChange{What: "photo", Photo: "1"}, nil}, {StepChange{What: "photo"}, []string{"step_changes[0].photo"}},
		{StepChange{What: "drop"}, nil},
	} {
		j := Job{StepChanges: []StepChange{c.change}}
		if got := paths(j.Validate()); !slices.Equal(got, c.at) {
			t.Errorf("%d: %v, want %v", n, got, c.at)
		}
	}
	studs := func(first quantity.Optional[quantity.Length], outlet int, outlets ...Outlet) Job {
		return Job{Wall: Wall{Studs: &Studs{First: first, Outlet: quantity.Some(outlet)}, Outlets: outlets}}
	}
	none := quantity.Optional[quantity.Length]{}
	for n, c := range []struct {
		job Job
		at  []string
	}{
		{studs(none, 0, Outlet{Stud: "left"}), nil}, {studs(none, 0, Outlet{}), []string{"wall.outlets[0].stud"}},
		{studs(none, 1, Outlet{Stud: "left"}), []string{"wall.studs.outlet"}},
		{studs(given(1), 0, Outlet{Stud: "left"}), []string{"wall.studs.first_mm"}},
		{Job{Wall: Wall{Studs: &Studs{First: given(1)}}}, nil},
	} {
		if got := paths(c.job.Validate()); !slices.Equal(got, c.at) {
			t.Errorf("studs %d: %v, want %v", n, got, c.at)
		}
	}
}

// TestWhatItemsNeed: each kind of item with what it has, and with each of it missing.
func TestWhatItemsNeed(t *testing.T) {
	full := Item{Thread: fastener.M6, Threads: []fastener.Thread{fastener.M6}, Length: quantity.MM(20), Thickness: quantity.MM(2),
		Outer: quantity.MM(18), Diameter: quantity.MM(8), Name: "thing", Count: 1}
	without := map[string]func(i *Item){"thread": func(i *Item) { i.Thread = 0 }, "threads": func(i *Item) { i.Threads = nil },
		"length_mm": func(i *Item) { i.Length = 0 }, "thickness_mm": func(i *Item) { i.Thickness = 0 },
		"outer_mm":    func(i *Item) { i.Outer = 0 },
		"diameter_mm": func(i *Item) { i.Diameter = 0 }, "name": func(i *Item) { i.Name = "" }}
	for kind, needs := range map[ItemKind][]string{Bolt: {"thread", "length_mm"}, Washer: {"thread", "thickness_mm"},
		ShoulderWasher: {"thread", "thickness_mm"}, Spacer: {"threads", "length_mm", "outer_mm"}, Lag: {"diameter_mm", "length_mm"},
		Screw: {"diameter_mm", "length_mm"}, Plug: {"diameter_mm", "length_mm"}, SleeveAnchor: {"diameter_mm", "length_mm"},
		ConcreteScrew: {"diameter_mm", "length_mm"}, FrameFixing: {"diameter_mm", "length_mm"}, PlainPart: {"name"}, Tool: {"name"},
		Toggle: nil} {
		for name, take := range without {
			i := full
			i.Kind = kind
			take(&i)
			var out problems
			validateItems(&out, "kit", []Item{i})
			if got := slices.Contains(paths(out), "kit[0]."+name); got != slices.Contains(needs, name) || len(out) > 1 {
				t.Errorf("a %s without %s: %v", kind, name, paths(out))
			}
		}
	}
}

// TestWhatIsWrongWithPlates of a bracket, and with what it bolts to.
func TestWhatIsWrongWithPlates(t *testing.T) {
	interval := func(lo, hi int64) *fastener.Interval {
		return &fastener.Interval{Min: quantity.MM(lo), Max: quantity.MM(hi)}
	}
	hole := func(id string, x int64) PlateHole { return PlateHole{ID: id, X: quantity.MM(x), Shape: "round"} }
	for n, c := range []struct {
		plate WallPlate
		at    []string
	}{
		{WallPlate{Holes: []PlateHole{hole("a", 0), hole("b", 1)}}, nil},
		{WallPlate{Holes: []PlateHole{hole("a", 0), hole("a", 1)}}, []string{"wall_plate.holes[1].id"}},
		{WallPlate{Holes: []PlateHole{hole("a", 0), hole("b", 0)}}, []string{"wall_plate.holes[1]"}},
		{WallPlate{Holes: []PlateHole{{ID: "a", Shape: "round", Travel: 1}}}, []string{"wall_plate.holes[0].length_mm"}},
		{WallPlate{Holes: []PlateHole{{ID: "a", Shape: "slot_h", Travel: 1}}}, nil},
		{WallPlate{SeparationRange: interval(1, 1)}, nil}, {WallPlate{SeparationRange: interval(2, 1)}, []string{"wall_plate.separation_mm"}},
		{WallPlate{SeparationRange: interval(1, 2), Separation: "pattern"}, []string{"wall_plate.separation"}},
		{WallPlate{Separation: "pattern"}, nil},
	} {
		var out problems
		c.plate.validate(&out)
		if got := paths(out); !slices.Equal(got, c.at) {
			t.Errorf("%d: %v, want %v", n, got, c.at)
		}
	}
	var out problems
	(&Interface{Type: Plate}).validate(&out)
	if got := paths(out); !slices.Equal(got, []string{"interface.center_below_hook_mm", "interface.patterns_mm"}) {
		t.Error(got)
	}
	out = nil
	(&Interface{Type: Arms}).validate(&out)
	if got := paths(out); !slices.Equal(got, []string{"interface.arm_bottom_mm", "interface.arm_top_mm", "interface.slots_mm",
		"interface.width_max_mm", "interface.width_min_mm"}) {
		t.Error(got)
	}
	out = nil
	narrow := Interface{Type: Arms, WidthMin: given(600), WidthMax: given(600), ArmTop: given(10), ArmBottom: given(100),
		Slots: []fastener.Interval{{Min: quantity.MM(50), Max: quantity.MM(60)}}}
	if narrow.validate(&out); len(out) > 0 { // of one width
		t.Error(paths(out))
	}
	narrow.WidthMin.Value++
	if narrow.validate(&out); !slices.Equal(paths(out), []string{"interface.width_max_mm"}) {
		t.Error(paths(out))
	}
	out = nil
	arms := Interface{Type: Arms, WidthMin: given(100), WidthMax: given(600), ArmBottom: given(10),
		Slots: []fastener.Interval{{Min: quantity.MM(50), Max: quantity.MM(60)}}}
	if arms.validate(&out); !slices.Equal(paths(out), []string{"interface.arm_top_mm"}) { // of an arm without a top nobody says what is in it
		t.Error(paths(out))
	}
}
