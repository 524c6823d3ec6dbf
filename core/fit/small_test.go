package fit

import (
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Parts of rules by themselves, at what they turn on.

// TestSizeWithOneLimit: one limit of size is a limit.
func TestSizeWithOneLimit(t *testing.T) {
	some, none := quantity.Some[quantity.Length], quantity.Optional[quantity.Length]{}
	for _, c := range []struct {
		lo, hi, diagonal quantity.Optional[quantity.Length]
		want             Status
	}{
		{none, some(mm(1000)), some(mm(1000)), Pass}, {none, some(mm(1000)), some(mm(1000) + 1), Fail}, {none, some(mm(1000)), none, Unknown},
		{some(mm(1000)), none, some(mm(1000)), Pass}, {some(mm(1000)), none, some(mm(1000) - 1), Caution}, {some(mm(1000)), none, none, Unknown},
		{none, none, none, Pass},
	} {
		d, b := catalogtest.Pair()
		d.Diagonal, d.Width, d.Height = c.diagonal, none, none
		b.DiagonalMin, b.DiagonalMax = c.lo, c.hi
		p := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy())
		if got := p.Check(SizeRule); got.Status != c.want {
			t.Errorf("%+v: %s, %s", c, got.Status, got.Text.In(quantity.Metric))
		}
	}
}

// TestConservativeChangesNothing of what it is given: what is on record stays, whatever is believed of it.
func TestConservativeChangesNothing(t *testing.T) {
	d, _ := catalogtest.Pair()
	d.Depth = quantity.Some(mm(20))
	for i := range d.Patterns[0].Holes {
		d.Patterns[0].Holes[i].Setback = catalog.Given(mm(30), catalog.Sheet)
	}
	d.Zones = []catalog.Zone{{Kind: "port", Setback: quantity.Some(mm(30))}}
	out := conservative(d)
	if len(d.Patterns[0].Contradictions) > 0 || d.Zones[0].Setback.Value != mm(30) {
		t.Errorf("%+v, %+v", d.Patterns[0].Contradictions, d.Zones[0])
	}
	if len(out.Patterns[0].Contradictions) == 0 || out.Zones[0].Setback.Value != 0 {
		t.Errorf("%+v, %+v", out.Patterns[0].Contradictions, out.Zones[0])
	}
}

// TestBoltsOfAThread: a bolt of it, and nothing else.
func TestBoltsOfAThread(t *testing.T) {
	for _, c := range []struct {
		item catalog.Item
		want bool
	}{{catalog.Item{Kind: catalog.Bolt, Thread: fastener.M6}, true}, {catalog.Item{Kind: catalog.Bolt, Thread: fastener.M8}, false},
		{catalog.Item{Kind: catalog.Washer, Thread: fastener.M6}, false}} {
		if got := hasBolts([]catalog.Item{c.item}, fastener.M6); got != c.want {
			t.Errorf("%+v: %v", c.item, got)
		}
	}
}

// TestWeightAside: of a display that hangs upright its right is aside, of one that is turned its top.
func TestWeightAside(t *testing.T) {
	for turn, turned := range map[catalog.Turn]bool{0: false, 90: true, 180: false, 270: true} {
		var d catalog.Display
		SetAside(&d, turn, mm(7))
		if want := mm(7); turned && d.CGAboveCenter != want || !turned && d.CGRight != want || turned && d.CGRight != 0 {
			t.Errorf("at %d: %v right, %v above", turn, d.CGRight, d.CGAboveCenter)
		}
	}
	for _, path := range []string{AccessoriesPath, cgRight} {
		a := Assumed{Path: path}
		if none, some := a.UpTo(0).Text, a.UpTo(1).Text; none.Same(some) || !none.Same(a.UpTo(-1).Text) {
			t.Errorf("%s: %s, %s", path, none.In(quantity.Metric), some.In(quantity.Metric))
		}
	}
}

// TestRoomOverZones: what stands out, and of which nobody knows how far; never a pocket.
func TestRoomOverZones(t *testing.T) {
	some := quantity.Some[quantity.Length]
	for _, c := range []struct {
		zone catalog.Zone
		want bool
	}{
		{catalog.Zone{Kind: "protrusion", Out: some(1)}, true}, {catalog.Zone{Kind: "protrusion", Out: some(0)}, false},
		{catalog.Zone{Kind: "protrusion"}, true}, {catalog.Zone{Kind: "port", Plug: some(mm(20)), Setback: some(mm(20))}, false},
		{catalog.Zone{Kind: "port", Plug: some(mm(20)), Setback: some(mm(20) - 1)}, true}, {catalog.Zone{Kind: "vent"}, true},
		{catalog.Zone{Kind: "label"}, false}, {catalog.Zone{Kind: "pocket"}, false},
	} {
		if got := mayAskForRoom(c.zone); got != c.want {
			t.Errorf("%+v: %v", c.zone, got)
		}
	}
	for recess, want := range map[quantity.Length]bool{0: false, 1: true} {
		d := catalog.Display{Patterns: []catalog.Pattern{{Holes: []catalog.Hole{{Recess: catalog.Given(recess, catalog.Sheet),
			RecessDiameter: catalog.Given(mm(13), catalog.Sheet)}}}}}
		if got := passesOver(&d); got != want {
			t.Errorf("a recess of %v: %v", recess, got)
		}
	}
}

// TestShallowInAPocket: a hole that is in it, both ways, and more than 3 mm less deep than it.
func TestShallowInAPocket(t *testing.T) {
	some := quantity.Some[quantity.Length]
	d, _ := catalogtest.Pair()
	h := &d.Patterns[0].Holes[0]
	h.Setback = catalog.Given(mm(10), catalog.Sheet)
	x, y := d.PatternCenter(&d.Patterns[0], 0)
	at := catalog.Zone{Kind: "pocket", X: x.Value + h.X, Y: y.Value + h.Y, Width: mm(40), Height: mm(40), Depth: some(mm(13) + 1)}
	for name, c := range map[string]struct {
		change func(*catalog.Zone)
		want   bool
	}{
		"it is":               {func(*catalog.Zone) {}, true},
		"as deep":             {func(z *catalog.Zone) { z.Depth = some(mm(13)) }, false},
		"beside it":           {func(z *catalog.Zone) { z.X += mm(20) }, false},
		"beside it, a hair":   {func(z *catalog.Zone) { z.X += mm(20) - 1 }, true},
		"above it":            {func(z *catalog.Zone) { z.Y += mm(20) }, false},
		"above it, a hair":    {func(z *catalog.Zone) { z.Y += mm(20) - 1 }, true},
		"of no known depth":   {func(z *catalog.Zone) { z.Depth.Known = false }, false},
		"something else's":    {func(z *catalog.Zone) { z.Kind = "vent" }, false},
		"of no known setback": {func(*catalog.Zone) { h.Setback = catalog.Figure{} }, false},
	} {
		z := at
		h.Setback = catalog.Given(mm(10), catalog.Sheet)
		for i := range d.Patterns[0].Holes[1:] {
			d.Patterns[0].Holes[i+1].Setback = catalog.Figure{}
		}
		c.change(&z)
		if got := shallowIn(d, &z); (got != nil) != c.want {
			t.Errorf("%s: %+v", name, got)
		}
	}
}

// TestPortUnderTheArm: how far its plug stands out is not known, and nothing passes.
func TestPortUnderTheArm(t *testing.T) {
	for kind, want := range map[string]Status{"port": Unknown, "vent": Fail, "label": Note} {
		d, b := catalogtest.Pair()
		p := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy())
		var c Check
		p.underArm(&catalog.Zone{Kind: kind}, -1, &c)
		if c.Status != want {
			t.Errorf("a %s: %s", kind, c.Status)
		}
	}
}

// TestAnglesWithinTheWall: a bracket without a tilt has none, whatever is not known of the wall.
func TestAnglesWithinTheWall(t *testing.T) {
	some := quantity.Some[quantity.Angle]
	for _, c := range []struct {
		has  quantity.Optional[quantity.Angle]
		wall quantity.Optional[float64]
		want quantity.Optional[quantity.Angle]
	}{
		{some(0), quantity.Optional[float64]{}, some(0)},
		{quantity.Optional[quantity.Angle]{}, quantity.Some(5.0), quantity.Optional[quantity.Angle]{}},
		{some(10 * quantity.Degree), quantity.Some(90.0), some(10 * quantity.Degree)},
	} {
		if got := Within(c.has, c.wall); got != c.want {
			t.Errorf("%v within %v: %v", c.has, c.wall, got)
		}
	}
}

// TestRowsInUse: what bolts to other holes has another number.
func TestRowsInUse(t *testing.T) {
	_, arms := catalogtest.Pair()
	plate := *arms
	plate.Interface.Type = catalog.Plate
	if a, b := usedBy(arms), usedBy(&plate); a == b || a >= 8 || b >= 8 || b&4 == 0 || a&4 != 0 {
		t.Errorf("arms %b, a plate %b", a, b)
	}
}

// TestWideRecess: trial bolts tell a recess to 3 mm, or do not.
func TestWideRecess(t *testing.T) {
	for high, want := range map[quantity.Length]bool{mm(8): false, mm(8) + 1: true} {
		p := Pairing{Pattern: &catalog.Pattern{Holes: []catalog.Hole{{}, {Probed: &catalog.Probed{}}}}}
		p.Pattern.Holes[1].Probed.Recess.Low, p.Pattern.Holes[1].Probed.Recess.High = mm(5), quantity.Some(high)
		if got := wideRecess(&p); (got != nil) != want {
			t.Errorf("%v: %v", high, got)
		}
	}
}

// TestVerdicts: what each status makes of a pairing, by itself and after a worse one.
func TestVerdicts(t *testing.T) {
	with := func(rule RuleID, all ...Status) (out []Finding) {
		for _, s := range all {
			out = append(out, Finding{Rule: rule, Status: s})
		}
		return out
	}
	for n, c := range []struct {
		findings []Finding
		supplied bool
		want     Verdict
	}{
		{with(LoadRule, Pass, Note), false, Fits}, {with(LoadRule, Pass), true, FitsWithConditions},
		{with(LoadRule, Caution, Pass), false, FitsWithConditions}, {with(LoadRule, Unknown, Caution), false, MissingData},
		{with(PlugsRule, Unknown), false, FitsWithConditions}, {with(LoadRule, Unknown, Fail), true, DoesNotFit}, {nil, false, Fits},
	} {
		if got := verdict(c.findings, c.supplied); got != c.want {
			t.Errorf("%d: %s, want %s", n, got, c.want)
		}
	}
	for status, printed := range map[Status]bool{Pass: false, Note: false, Caution: true, Unknown: true, Fail: true} {
		c := Check{Finding: Finding{Rule: LoadRule, Status: status}}
		if c.Printed() != printed {
			t.Errorf("%s is printed: %v", status, c.Printed())
		}
	}
	for _, rule := range []RuleID{TiltRule, SwivelRule} { // how far it moves is for the installer
		for status, printed := range map[Status]bool{Pass: false, Note: true} {
			c := Check{Finding: Finding{Rule: rule, Status: status}}
			if c.Printed() != printed {
				t.Errorf("%s of %s is printed: %v", status, rule, c.Printed())
			}
		}
	}
	c := Check{Text: quantity.Say("So."), Remedy: quantity.Say("Do.")}
	if got := c.Sentences().In(quantity.Metric); got != "So. Do." {
		t.Error(got)
	}
	c.Remedy = quantity.Phrase{}
	if got := c.Sentences().In(quantity.Metric); got != "So." {
		t.Error(got)
	}
}
