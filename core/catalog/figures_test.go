package catalog

import (
	"slices"
	"testing"

	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

func given(mm int64) quantity.Optional[quantity.Length] { return quantity.Some(quantity.MM(mm)) }

// TestConditionsOfSteps: each given figure has to be met; a depth is below the one and not below the other; of an unknown depth nobody is
// sure.
func TestConditionsOfSteps(t *testing.T) {
	yes, no := true, false
	in := Installation{Wall: WoodStud, Spacers: true, Depth: given(100), Kind: "tilt", Turn: 90}
	unknown := in
	unknown.Depth.Known = false
	just := in
	just.Depth.Value--
	for n, c := range []struct {
		when      *When
		in        Installation
		met, sure bool
	}{
		{nil, in, true, true}, {&When{}, in, true, true}, {&When{}, unknown, true, true},
		{&When{Walls: []WallType{Concrete, WoodStud}}, in, true, true}, {&When{Walls: []WallType{Concrete}}, in, false, true},
		{&When{Spacers: &yes}, in, true, true}, {&When{Spacers: &no}, in, false, true},
		{&When{Kinds: []BracketKind{"tilt"}}, in, true, true}, {&When{Kinds: []BracketKind{"fixed"}}, in, false, true},
		{&When{Turns: []Turn{0, 90}}, in, true, true}, {&When{Turns: []Turn{0}}, in, false, true},
		{&When{Below: given(100)}, in, false, true}, {&When{Below: given(100)}, just, true, true},
		{&When{AtOrAbove: given(100)}, in, true, true}, {&When{AtOrAbove: given(100)}, just, false, true},
		{&When{Below: given(101), AtOrAbove: given(100)}, in, true, true}, {&When{Below: given(90), AtOrAbove: given(80)}, in, false, true},
		{&When{Below: given(100)}, unknown, true, false}, {&When{AtOrAbove: given(100)}, unknown, true, false},
		{&When{Below: given(100), Walls: []WallType{Concrete}}, unknown, false, true},
	} {
		if met, sure := c.when.Holds(c.in); met != c.met || sure != c.sure {
			t.Errorf("%d: met %v, sure %v", n, met, sure)
		}
	}
}

// TestLaxerThanUsual: the usual settings are not laxer, nor are more careful ones; the smallest step the other way is.
func TestLaxerThanUsual(t *testing.T) {
	usual := DefaultPolicy()
	if got := usual.Laxer(); got != nil {
		t.Error(got)
	}
	for name, change := range map[string]func(p *Policy, by int64){
		"engagement_min_d":       func(p *Policy, by int64) { p.EngagementMinD -= quantity.Ratio(by) },
		"engagement_worst_d":     func(p *Policy, by int64) { p.EngagementWorstD -= quantity.Ratio(by) },
		"tip_clearance_min_mm":   func(p *Policy, by int64) { p.TipClearanceMin -= quantity.Length(by) },
		"max_washers":            func(p *Policy, by int64) { p.MaxWashers += int(by) },
		"washer_overlap_mm":      func(p *Policy, by int64) { p.WasherOverlap -= quantity.Length(by) },
		"max_stacked_spacers":    func(p *Policy, by int64) { p.MaxStackedSpacers += int(by) },
		"lean_ok_deg":            func(p *Policy, by int64) { p.LeanOK += quantity.Angle(by) },
		"lean_max_deg":           func(p *Policy, by int64) { p.LeanMax += quantity.Angle(by) },
		"twist_ok_mm":            func(p *Policy, by int64) { p.TwistOK += quantity.Length(by) },
		"twist_max_mm":           func(p *Policy, by int64) { p.TwistMax += quantity.Length(by) },
		"arm_touch_mm":           func(p *Policy, by int64) { p.ArmTouch += quantity.Length(by) },
		"load_caution":           func(p *Policy, by int64) { p.LoadCaution += quantity.Ratio(by) },
		"stud_find_mm":           func(p *Policy, by int64) { p.StudFind -= quantity.Length(by) },
		"two_people_diagonal_mm": func(p *Policy, by int64) { p.TwoPeopleDiagonal += quantity.Length(by) },
		"handling_n":             func(p *Policy, by int64) { p.Handling -= quantity.Force(by) },
		"handling_public_n":      func(p *Policy, by int64) { p.HandlingPublic -= quantity.Force(by) },
	} {
		for by, want := range map[int64][]string{1: {name}, -1: nil} {
			p := DefaultPolicy()
			change(&p, by)
			if got := p.Laxer(); !slices.Equal(got, want) {
				t.Errorf("%s by %d: %v", name, by, got)
			}
		}
	}
}

// TestRatingsByWall: a rating by the wall; a bare one for the single wall it is for, else for concrete; in blocks of another kind none, of
// an unknown kind the least of each.
func TestRatingsByWall(t *testing.T) {
	const kg = quantity.Kilogram
	bare := Item{Pull: 3 * kg, Shear: 4 * kg}
	forBoard := bare
	forBoard.For = []WallType{HollowBoard}
	two := bare
	two.For = []WallType{HollowBoard, Block}
	by := Item{Ratings: map[BaseMaterial]Rating{"block": {Pull: 5 * kg, Shear: 1 * kg}, "block.hollow": {Pull: 2 * kg, Shear: 6 * kg},
		"concrete": {Pull: 9 * kg, Shear: 9 * kg}, "hollow_board": {Pull: kg}, "metal_stud": {Shear: kg}}}
	for n, c := range []struct {
		item        Item
		wall        WallType
		blocks      string
		pull, shear quantity.Mass
		ok          bool
	}{
		{bare, Concrete, "", 3 * kg, 4 * kg, true}, {bare, Block, "", 0, 0, false}, {forBoard, HollowBoard, "", 3 * kg, 4 * kg, true},
		{forBoard, Concrete, "", 0, 0, false}, {two, Concrete, "", 3 * kg, 4 * kg, true}, {two, HollowBoard, "", 0, 0, false},
		{Item{Pull: kg}, Concrete, "", 0, 0, false}, {Item{Shear: kg}, Concrete, "", 0, 0, false},
		{by, Concrete, "", 9 * kg, 9 * kg, true}, {by, Block, "solid", 5 * kg, 1 * kg, true}, {by, Block, "hollow", 2 * kg, 6 * kg, true},
		{by, Block, "aerated", 0, 0, false}, {by, Block, "", 2 * kg, 1 * kg, true}, {by, HollowBoard, "", 0, 0, false},
		{by, MetalStud, "", 0, 0, false},
	} {
		r, ok := c.item.RatingFor(c.wall, c.blocks)
		if ok != c.ok || ok && (r.Pull != c.pull || r.Shear != c.shear) {
			t.Errorf("%d: in %s %s %v and %v, %v", n, c.wall, c.blocks, r.Pull, r.Shear, ok)
		}
	}
}

// TestOldAnchors: what an older document calls an anchor is what all the walls it is for suggest.
func TestOldAnchors(t *testing.T) {
	for n, c := range []struct {
		item Item
		kind ItemKind
		ok   bool
	}{
		{Item{Kind: Lag}, Lag, true}, {Item{Kind: Anchor}, Anchor, false},
		{Item{Kind: Anchor, For: []WallType{Concrete}}, Concrete.row().OldAnchor, true},
		{Item{Kind: Anchor, For: []WallType{HollowBoard}}, HollowBoard.row().OldAnchor, true},
		{Item{Kind: Anchor, For: []WallType{Concrete, HollowBoard}}, Anchor, false},
		{Item{Kind: Anchor, For: []WallType{WoodStud}}, Anchor, false},
		{Item{Kind: Anchor, For: []WallType{Concrete, WoodStud}}, Anchor, false},
	} {
		if got, ok := c.item.Resolved(); got.Kind != c.kind || ok != c.ok {
			t.Errorf("%d: %s, %v", n, got.Kind, ok)
		}
	}
	if Concrete.row().OldAnchor == "" || HollowBoard.row().OldAnchor == "" || WoodStud.row().OldAnchor != "" {
		t.Error("the walls of this test are others")
	}
}

// TestThreadsOfBolts: of socket heads beyond a length a part (ISO 4762, memory), of others all, or as given.
func TestThreadsOfBolts(t *testing.T) {
	mm := quantity.MM
	for _, c := range []struct {
		thread         fastener.Thread
		long, threaded int64
	}{{fastener.M4, 25, 20}, {fastener.M5, 25, 22}, {fastener.M6, 30, 24}, {fastener.M8, 35, 28}} {
		i := Item{Kind: Bolt, Thread: c.thread, Length: mm(c.long), Head: SocketHead}
		if got := i.ThreadOf(); got != mm(c.long) {
			t.Errorf("%s × %d: %v", c.thread, c.long, got)
		}
		i.Length++
		if got := i.ThreadOf(); got != mm(c.threaded) {
			t.Errorf("%s longer than %d: %v", c.thread, c.long, got)
		}
		i.ThreadLength = mm(7)
		if got := i.ThreadOf(); got != mm(7) {
			t.Errorf("as given: %v", got)
		}
		other := Item{Kind: Bolt, Thread: c.thread, Length: mm(60)}
		if got := other.ThreadOf(); got != mm(60) {
			t.Errorf("%s of another head: %v", c.thread, got)
		}
	}
}

// TestReachOfBrackets: how far out, about what axis, and with which plates.
func TestReachOfBrackets(t *testing.T) {
	none := quantity.Optional[quantity.Length]{}
	for n, c := range []struct {
		b    Bracket
		far  quantity.Length
		ok   bool
		arms bool // it swings
	}{
		{Bracket{Kind: "fixed", Profile: given(30)}, quantity.MM(30), true, false}, {Bracket{Kind: "fixed"}, 0, false, false},
		{Bracket{Kind: "fixed", Profile: given(30), Reach: given(30)}, quantity.MM(30), true, false},
		{Bracket{Kind: "full_motion", Profile: given(30), Reach: given(29)}, 0, false, true},
		{Bracket{Kind: "full_motion", Profile: given(30), Reach: given(300)}, quantity.MM(300), true, true},
		{Bracket{Kind: "full_motion", Profile: given(30)}, 0, false, true},
		{Bracket{Kind: "full_motion", Reach: given(300)}, quantity.MM(300), true, true},
		{Bracket{Kind: "fixed", Profile: given(30), ArmSwing: quantity.Some(quantity.Angle(1))}, 0, false, true},
		{Bracket{Kind: "fixed", Profile: given(30), ArmSwing: quantity.Some(quantity.Angle(0))}, quantity.MM(30), true, false},
	} {
		if far, ok := c.b.Farthest(); ok != c.ok || ok && far != c.far || c.b.Swings() != c.arms {
			t.Errorf("%d: %v, %v, swings %v", n, far, ok, c.b.Swings())
		}
	}
	for behind, want := range map[quantity.Length]bool{quantity.MM(30): true, quantity.MM(30) + 1: false} {
		p := &Pivot{BelowHook: given(5), BehindArm: quantity.Some(behind)}
		tilts, swivels := Bracket{Profile: given(30), TiltPivot: p}, Bracket{Reach: given(30), SwivelPivot: p}
		if _, ok := tilts.TiltAxis(); ok != want {
			t.Errorf("a tilt's axis %v behind: %v", behind, ok)
		}
		if _, ok := swivels.SwivelAxis(); ok != want {
			t.Errorf("a swivel's axis %v behind: %v", behind, ok)
		}
	}
	lower := &Pivot{BehindArm: given(30)}
	tilts, swivels := Bracket{TiltPivot: lower}, Bracket{SwivelPivot: lower}
	if _, ok := tilts.TiltAxis(); ok {
		t.Error("how far below the hook it tilts is not known")
	}
	if at, ok := swivels.SwivelAxis(); !ok || at.BelowHook != 0 {
		t.Errorf("%+v %v", at, ok)
	}
	if _, ok := (&Bracket{}).SwivelAxis(); ok {
		t.Error("no axis")
	}
	pair := Bracket{WallPlate: &WallPlate{Count: 2, LateralSlide: given(8)}}
	if pair.LateralSlide() != quantity.MM(8) || (&Bracket{}).LateralSlide() != 0 ||
		(&Bracket{WallPlate: &WallPlate{LateralSlide: none}}).LateralSlide() != 0 {
		t.Error("the slide")
	}
	plates := func(b *Bracket, pattern int64) []quantity.Length {
		return b.PlatesAbout(quantity.MM(1000), quantity.MM(pattern))
	}
	if got := plates(&pair, 401); !slices.Equal(got, []quantity.Length{799_500_000, 1_200_500_000}) {
		t.Error(got)
	}
	pair.WallPlate.SeparationRange = &fastener.Interval{Min: quantity.MM(300), Max: quantity.MM(400)}
	for pattern, want := range map[int64]int64{299: 300, 350: 350, 401: 400} {
		if got := plates(&pair, pattern); got[1]-got[0] != quantity.MM(want) {
			t.Errorf("%d: %v", pattern, got)
		}
	}
	pair.WallPlate.Count = 1
	if got := plates(&pair, 400); len(got) != 1 || len(plates(&Bracket{}, 400)) != 1 {
		t.Error(got)
	}
}

// TestDefaultsOfTheFormat: what is left out is there, what is given stays.
func TestDefaultsOfTheFormat(t *testing.T) {
	b := Bracket{ID: "x-1", WallPlate: &WallPlate{Holes: []PlateHole{{}, {Shape: "slot_h", Travel: quantity.MM(9)}}},
		Kit: []Item{{Kind: Washer, Thread: fastener.M6}, {Kind: Washer, Thread: fastener.M6, Outer: quantity.MM(99)}}}
	b.Complete()
	if b.Name != "x-1" || !b.AllowsTurn(0) || b.AllowsTurn(90) || !b.UsesTop() || !b.UsesBottom() || b.WallPlate.Count != 1 ||
		b.WallPlate.Holes[0].Shape != "round" || b.WallPlate.Holes[1].Shape != "slot_h" || b.Kit[0].Outer == 0 ||
		b.Kit[1].Outer != quantity.MM(99) {
		t.Errorf("%+v", b)
	}
	if h := b.WallPlate.Holes[1]; h.Across() != quantity.MM(9) || h.Up() != 0 {
		t.Errorf("%v across, %v up", h.Across(), h.Up())
	}
	said := Bracket{Name: "X", Turns: []Turn{90}, RowsUsed: []string{"top"}}
	said.Complete()
	if said.Name != "X" || said.AllowsTurn(0) || !said.AllowsTurn(90) || !said.UsesTop() || said.UsesBottom() {
		t.Errorf("%+v", said)
	}
	spacer := Item{Kind: Spacer, Threads: []fastener.Thread{fastener.M6}}
	if !spacer.Passes(fastener.M6) || spacer.Passes(fastener.M8) {
		t.Error("what a spacer lets through")
	}
	for want, i := range map[string]Item{"lag screw 8 × 70": {Kind: Lag, Diameter: quantity.MM(8), Length: quantity.MM(70)},
		"lag screw 8": {Kind: Lag, Diameter: quantity.MM(8)}, "lag screw": {Kind: Lag, Length: quantity.MM(70)}, "Own": {Kind: Lag, Name: "Own"},
		"lag screw 6.3 × 70.5": {Kind: Lag, Diameter: 6_349_000, Length: 70_500_000}} {
		if got := i.Label(); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
	a := Item{Kind: Lag, Diameter: quantity.MM(8)}
	if !a.Same(&Item{Kind: Lag, Diameter: quantity.MM(8)}) || a.Same(&Item{Kind: Lag}) || a.Same(&Item{Kind: Screw, Name: "lag screw 8"}) {
		t.Error("the same")
	}
}

// TestTicksOfAJob: the last that is said of a step counts, and none takes it off.
func TestTicksOfAJob(t *testing.T) {
	var j Job
	j.Tick([]Tick{{"a", "1"}, {"b", ""}, {"b", "2"}, {"a", "3"}})
	if !slices.Equal(j.Ticks, []Tick{{"a", "3"}, {"b", "2"}}) {
		t.Error(j.Ticks)
	}
	if j.Tick([]Tick{{"a", ""}, {"c", ""}}); !slices.Equal(j.Ticks, []Tick{{"b", "2"}}) {
		t.Error(j.Ticks)
	}
	if !(Wall{}).IsZero() || (Wall{Type: Concrete}).IsZero() || HollowBoard.OfBoard() && HollowBoard.Holds() != Wood || WoodStud.OfBoard() {
		t.Error("walls")
	}
}

// TestNamesSizesSchools: small things of displays, policies and jobs.
func TestNamesSizesSchools(t *testing.T) {
	if (&Display{Model: "M"}).Name() != "M" || (&Display{Maker: "K", Model: "M"}).Name() != "K M" {
		t.Error("a display's name")
	}
	for n, d := range []Display{{Width: given(10)}, {Height: given(10)}, {}} {
		if _, _, known := d.Outline(0); known {
			t.Errorf("outline %d", n)
		}
	}
	if w, h, known := (&Display{Width: given(10), Height: given(5)}).Outline(90); !known || w != quantity.MM(5) || h != quantity.MM(10) {
		t.Error(w, h, known)
	}
	if (Span{Low: 4}).Middle() != 4 || (Span{Low: 4, High: quantity.Some(quantity.Length(12))}).Middle() != 8 {
		t.Error("the middle of a span")
	}
	p := DefaultPolicy()
	own := Job{Schools: Schools{Level: "laser"}}
	if got := p.Schools(&own); got.Level != "laser" || got.Marking != p.MarkingSchool || p.Schools(nil).Level != p.LevelSchool {
		t.Errorf("%+v", got)
	}
	b := Bracket{Threads: []fastener.Thread{fastener.M6}}
	if !b.Takes(fastener.M6) || b.Takes(fastener.M8) {
		t.Error("what the slots take")
	}
	if MaxName != 120 || MostTicks != 300 { // as the format says, and the database
		t.Error(MaxName, MostTicks)
	}
	if figureNames(false) == figureNames(true) {
		t.Error("which figures a text may name")
	}
	hollow := Item{Ratings: map[BaseMaterial]Rating{"block.hollow": {Pull: 1}}}
	if _, ok := hollow.RatingFor(Block, "hollow"); ok {
		t.Error("a pull without a shear")
	}
}

// TestRowsOfAPattern: what one row alone says stays, and of two equal holes of a row one is looked at.
func TestRowsOfAPattern(t *testing.T) {
	for _, rows := range []*Rows{{Top: &HoleFigures{Recess: given(3)}}, {Bottom: &HoleFigures{Recess: given(3)}}} {
		d := Display{Patterns: []Pattern{{Width: quantity.MM(200), Height: quantity.MM(200), Thread: fastener.M6, Rows: rows}}}
		d.Complete()
		got := d.Patterns[0].Rows
		if got == nil || (got.Top != nil && got.Top.Recess.Known) != (rows.Top != nil) ||
			(got.Bottom != nil && got.Bottom.Recess.Known) != (rows.Bottom != nil) {
			t.Errorf("%+v of %+v", got, rows)
		}
		narrow := HoleFigures{RecessDiameter: given(6)}
		d.Patterns[0].Rows = &Rows{Top: &narrow}
		d.Complete()
		if all := paths(d.Validate()); len(all) != 1 {
			t.Error(all)
		}
	}
}
