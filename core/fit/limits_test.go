package fit

import (
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

const (
	hair   = 0.000_001 // a nanometre, in millimetres; a microgram, in grams
	ok     = Pass
	note   = Note
	wary   = Caution
	unsure = Unknown
	wrong  = Fail
)

type (
	theD = *catalog.Display
	theB = *catalog.Bracket
)

// TestLimits: each limit of a rule of a pairing. Up to last, in millimetres (or grams, or degrees), it is one thing, and a nanometre (a
// microgram, a millionth of a degree) further another. The display is 1095 × 634 × 61, 1232 in diagonal, of 14.2 kg, with 200 × 200 and
// M6 × 14; the bracket takes 36 kg, 940 to 1780, and keeps its arms 52 from the wall.
func TestLimits(t *testing.T) {
	type Q = quantity.Length
	guidance := func(p *catalog.Policy) { p.SizeSchool = "guidance" }
	for _, l := range []struct {
		name     string
		rule     RuleID
		last     float64
		is, then Status
		vary     func(v Q, d theD, b theB, e *Extra)
		policy   func(*catalog.Policy)
	}{
		{name: "the smallest", rule: SizeRule, last: 940 - hair, is: wary, then: ok, vary: func(v Q, d theD, _ theB, _ *Extra) {
			d.Diagonal = quantity.Some(v)
		}},
		{name: "the largest", rule: SizeRule, last: 1780, is: ok, then: wrong, vary: func(v Q, d theD, _ theB, _ *Extra) {
			d.Diagonal, d.Width = quantity.Some(v), some(1600)
		}},
		{name: "the largest, as guidance", rule: SizeRule, last: 1780, is: ok, then: wary, policy: guidance,
			vary: func(v Q, d theD, _ theB, _ *Extra) { d.Diagonal, d.Width = quantity.Some(v), some(1600) }},
		// 1300 × 780 has a diagonal of 1516.05, which the record says is 1200: it may have as much.
		{name: "the largest by the outline", rule: SizeRule, last: 1516.047_493 - hair, is: unsure, then: ok,
			vary: func(v Q, d theD, b theB, _ *Extra) {
				d.Width, d.Height, d.Diagonal, b.DiagonalMax = some(1300), some(780), some(1200), quantity.Some(v)
			}},
		{name: "the rated load", rule: LoadRule, last: 36_000, is: wary, then: wrong, vary: mass},
		// 2 kg a square metre, of 0.69423: less is no display's mass.
		{name: "lighter than any display", rule: LoadRule, last: 1_388.46 - hair, is: unsure, then: ok, vary: mass},
		{name: "nine tenths of it", rule: LoadRule, last: 32_400, is: ok, then: wary, vary: mass},
		{name: "with what hangs on it", rule: LoadRule, last: 18_200, is: ok, then: wary, vary: func(v Q, _ theD, _ theB, e *Extra) {
			e.Accessories = quantity.Mass(v)
		}},
		// A class of 100 × 100 is for 14 kg, half as much again 21; any pattern with M4 for 22.7, 34.05.
		{name: "what 100 × 100 carries", rule: LoadRule, last: 21_000, is: ok, then: wrong, vary: func(v Q, d theD, _ theB, _ *Extra) {
			d.Mass, d.Patterns[0] = quantity.Some(quantity.Mass(v)), catalogtest.Pattern(100, 100, fastener.M4, 14)
		}},
		{name: "what M4 carries", rule: LoadRule, last: 34_050, is: wary, then: wrong, vary: func(v Q, d theD, _ theB, _ *Extra) {
			d.Mass, d.Patterns[0] = quantity.Some(quantity.Mass(v)), catalogtest.Pattern(200, 200, fastener.M4, 14)
		}},
		// P at e from the middle of two supports W = 200 apart: a tenth at 80, nothing at 100.
		{name: "weight aside of its arms", rule: BalanceRule, last: 80, is: ok, then: wary, vary: aside},
		{name: "weight outside its arms", rule: BalanceRule, last: 100, is: wary, then: wrong, vary: aside},
		{name: "weight on a plate", rule: BalanceRule, last: 100, is: ok, then: wrong, vary: func(v Q, d theD, b theB, e *Extra) {
			onPlate(b)
			aside(v, d, b, e)
		}},
		{name: "arms with nothing under their hooks", rule: BalanceRule, last: 0, is: unsure, then: ok,
			vary: func(v Q, _ theD, b theB, _ *Extra) {
				b.Interface.ArmBottom = quantity.Some(v)
			}},
		// The arms are 466 long and the display 634: with 84 at either end, as the slots let them slide.
		{name: "arms inside the outline", rule: ArmsRule, last: 84, is: ok, then: wary, vary: func(Q, theD, theB, *Extra) {},
			policy: func(p *catalog.Policy) {}},
		{name: "the widest pattern", rule: PatternRule, last: 610, is: ok, then: wrong, vary: wide},
		{name: "the narrowest pattern", rule: PatternRule, last: 100 - hair, is: wrong, then: ok, vary: wide},
		{name: "as long as the rail", rule: PatternRule, last: 566, is: ok, then: wrong, vary: func(v Q, d theD, b theB, e *Extra) {
			b.Interface.RailWidth = some(600)
			wide(v, d, b, e)
		}},
		// The arm is 34 wide, its middle 100 aside: a port 40 wide touches it at 137.
		{name: "a port beside an arm", rule: PortsRule, last: 137 - hair, is: wrong, then: ok, vary: func(v Q, d theD, _ theB, _ *Extra) {
			d.Zones = []catalog.Zone{{Kind: "vent", X: v, Width: mm(40), Height: mm(40)}}
		}},
		// Slots 9 wide; nobody says how wide the arms are: 25 from the slot's edge at 104.5.
		{name: "a vent near arms of unknown width", rule: PortsRule, last: 149.5 - hair, is: unsure, then: ok,
			vary: func(v Q, d theD, b theB, _ *Extra) {
				b.Interface.ArmWidth = 0
				d.Zones = []catalog.Zone{{Kind: "vent", X: v, Width: mm(40), Height: mm(40)}}
			}},
		{name: "air behind a vent", rule: PortsRule, last: 52, is: ok, then: wary, vary: func(v Q, d theD, _ theB, _ *Extra) {
			d.Zones = []catalog.Zone{{Kind: "vent", X: mm(400), Width: mm(40), Height: mm(40), Clear: quantity.Some(v)}}
		}},
		{name: "air behind a vent in a pocket", rule: PortsRule, last: 62, is: ok, then: wary, vary: func(v Q, d theD, _ theB, _ *Extra) {
			d.Zones = []catalog.Zone{{Kind: "vent", X: mm(400), Width: mm(40), Height: mm(40), Clear: quantity.Some(v), Setback: some(10)}}
		}},
		{name: "a plug before the wall", rule: PlugsRule, last: 52, is: ok, then: wrong, vary: func(v Q, d theD, _ theB, _ *Extra) {
			d.Zones = []catalog.Zone{{Kind: "port", X: mm(400), Width: mm(40), Height: mm(40), Plug: quantity.Some(v)}}
		}},
		{name: "a plug over the wall plate, 3 thick", rule: PlugsRule, last: 49, is: ok, then: wrong, vary: func(v Q, d theD, _ theB, _ *Extra) {
			d.Zones = []catalog.Zone{{Kind: "port", X: 0, Y: mm(60), Width: mm(40), Height: mm(40), Plug: quantity.Some(v)}}
		}},
		{name: "a plug in its socket", rule: PlugsRule, last: 57, is: ok, then: wrong, vary: func(v Q, d theD, _ theB, _ *Extra) {
			d.Zones = []catalog.Zone{{Kind: "port", X: mm(400), Width: mm(40), Height: mm(40), Plug: quantity.Some(v), Setback: some(5)}}
		}},
		{name: "a cable's bend", rule: PlugsRule, last: 12, is: ok, then: wary, vary: func(v Q, d theD, _ theB, _ *Extra) {
			d.Zones = []catalog.Zone{{Kind: "port", X: mm(400), Width: mm(40), Height: mm(40), Plug: some(40), CableBend: quantity.Some(v)}}
		}},
		{name: "plugs nobody has told of", rule: PlugsRule, last: 33 - hair, is: wary, then: ok, vary: func(v Q, _ theD, b theB, _ *Extra) {
			b.Profile = quantity.Some(v) // 30, and the plate of 3
		}},
		{name: "such plugs over a plate of unknown thickness", rule: PlugsRule, last: 36 - hair, is: wary, then: ok,
			vary: func(v Q, _ theD, b theB, _ *Extra) {
				b.Profile, b.WallPlate.Thickness = quantity.Some(v), quantity.Optional[Q]{}
			}},
		{name: "what stands out before the wall", rule: ProtrusionRule, last: 52, is: ok, then: wrong, vary: func(v Q, d theD, _ theB, _ *Extra) {
			d.Zones = []catalog.Zone{{Kind: "protrusion", X: mm(400), Width: mm(40), Height: mm(40), Out: quantity.Some(v)}}
		}},
		{name: "what stands out over the wall plate", rule: ProtrusionRule, last: 49, is: ok, then: wrong,
			vary: func(v Q, d theD, _ theB, _ *Extra) {
				d.Zones = []catalog.Zone{{Kind: "protrusion", X: 0, Y: mm(60), Width: mm(40), Height: mm(40), Out: quantity.Some(v)}}
			}},
		{name: "a depth that nobody explains", rule: ProtrusionRule, last: 3, is: ok, then: unsure, vary: func(v Q, d theD, _ theB, _ *Extra) {
			d.RestPlaneFromFront, d.Depth = some(58), quantity.Some(mm(58)+v)
		}},
		{name: "what stands out explains it", rule: ProtrusionRule, last: 17 - hair, is: unsure, then: ok,
			vary: func(v Q, d theD, _ theB, _ *Extra) {
				d.RestPlaneFromFront, d.Depth = some(41), some(61)
				d.Zones = []catalog.Zone{{Kind: "protrusion", X: mm(400), Width: mm(40), Height: mm(40), Out: quantity.Some(v)}}
			}},
		// The spacer of 18 at the hole at 100, 65 (as hung, from the middle): its edge is at 109.
		// A plate of 200 × 200 goes into a pocket with 1 to spare, and lies on its rim 2 past it; between them the bolts are not sure.
		{name: "a plate in a pocket", rule: StackRule, last: 202 - 2*hair, is: wary, then: ok, vary: inPocket},
		{name: "a plate on a pocket's rim", rule: StackRule, last: 196, is: ok, then: wary, vary: inPocket},
		{name: "what the joint holds", rule: HoldRule, last: 4.247_260, is: wary, then: ok, vary: func(v Q, _ theD, b theB, _ *Extra) {
			b.Kind, b.TiltPivot = "tilt", &catalog.Pivot{BelowHook: some(219), BehindArm: some(0)}
			b.TiltDown, b.TiltUp = quantity.Some(quantity.Angle(0)), quantity.Some(quantity.Angle(0))
			b.TiltHold = quantity.Some(quantity.Torque(v))
		}},
	} {
		at := func(v Q) Check {
			d, b := catalogtest.Pair()
			e, policy := Extra{}, catalog.DefaultPolicy()
			l.vary(v, d, b, &e)
			if l.policy != nil {
				policy.Reveal = v
				l.policy(&policy)
			}
			p := Judge(d, b, 0, e, policy)
			return p.Check(l.rule)
		}
		last := quantity.FromMM(l.last)
		if is, then := at(last), at(last+1); is.Status != l.is || then.Status != l.then {
			t.Errorf("%s: %s is %s at %v (%s) and %s a hair further (%s); want %s, then %s", l.name, l.rule, is.Status, last,
				is.Text.In(quantity.Metric), then.Status, then.Text.In(quantity.Metric), l.is, l.then)
		}
	}
}

func mass(v quantity.Length, d theD, _ theB, _ *Extra) { d.Mass = quantity.Some(quantity.Mass(v)) }

func aside(v quantity.Length, d theD, _ theB, _ *Extra) { d.CGRight = v }

// wide makes the display's pattern so wide.
func wide(v quantity.Length, d theD, b theB, _ *Extra) {
	x := &d.Patterns[0]
	x.Width = v
	for i := range x.Holes {
		if h := &x.Holes[i]; h.X > 0 {
			h.X = v / 2
		} else {
			h.X = -v / 2
		}
	}
}

// inPocket is a plate of 200 × 200 over a pocket so wide and high, 3 deep, with the holes in it 3 in.
func inPocket(v quantity.Length, d theD, b theB, _ *Extra) {
	onPlate(b)
	d.Zones = []catalog.Zone{{Kind: "pocket", Y: -mm(35), Width: v, Height: v, Depth: some(3)}}
	for i := range d.Patterns[0].Holes {
		h := &d.Patterns[0].Holes[i]
		h.X, h.Y, h.Setback = h.X*9/10, h.Y*9/10, catalog.Given(mm(3), catalog.Sheet)
	}
	d.Patterns[0].Width, d.Patterns[0].Height = mm(180), mm(180)
	b.Interface.Patterns = []catalog.PatternSize{{Width: mm(180), Height: mm(180)}}
	b.Interface.Width, b.Interface.Height = some(200), some(200)
	if v <= mm(196)+1 { // on its rim the bolts go 3 farther
		b.Kit[0].Length = mm(18)
	}
}

// onPlate gives the bracket a plate with the pattern 200 × 200 instead of its arms: it is at least as large, whatever is said.
func onPlate(b theB) {
	b.Interface = catalog.Interface{Type: catalog.Plate, Patterns: []catalog.PatternSize{{Width: mm(200), Height: mm(200)}}, Width: some(120),
		Height: some(120)}
}

// TestLimitsOfFigures: what a display's figures say of each other, each at its limit and a hair further.
func TestLimitsOfFigures(t *testing.T) {
	type Q = quantity.Length

	for _, l := range []struct {
		name     string
		last     float64
		is, then Status
		vary     func(v Q, d theD)
	}{
		{"heavier without its stand", 14_200 - hair, wary, ok, func(v Q, d theD) { d.MassWithStand = quantity.Some(quantity.Mass(v)) }},
		{"a stand of two thirds", 42_600, ok, wary, func(v Q, d theD) { d.MassWithStand = quantity.Some(quantity.Mass(v)) }},
		// 0.69423 m²: 12 to 40 kg a square metre from 40 in on, 7 to 60 below.
		{"light for its size", 8_330.76 - hair, wary, ok, func(v Q, d theD) { d.Mass = quantity.Some(quantity.Mass(v)) }},
		{"heavy for its size", 27_769.2, ok, wary, func(v Q, d theD) { d.Mass = quantity.Some(quantity.Mass(v)) }},
		{"small and light", 1_750 - hair, wary, ok, func(v Q, d theD) { small(d); d.Mass = quantity.Some(quantity.Mass(v)) }},
		{"small and heavy", 15_000, ok, wary, func(v Q, d theD) { small(d); d.Mass = quantity.Some(quantity.Mass(v)) }},
		{"light ones have M4", 14_000, note, wary, func(v Q, d theD) {
			d.Patterns[0], d.Mass = catalogtest.Pattern(200, 200, fastener.M4, 14), quantity.Some(quantity.Mass(v))
		}},
		{"large from 40 in on", 1_016 - hair, ok, wary, func(v Q, d theD) {
			d.Width, d.Height, d.Diagonal, d.Mass = some(900), some(500), quantity.Some(v), quantity.Some(4*quantity.Kilogram)
			d.CGRight = 0
		}},
		{"a quarter of its diagonal deep", 308, ok, wary, func(v Q, d theD) { d.Depth = quantity.Some(v) }},
		{"its back behind its depth", 61, ok, wary, func(v Q, d theD) { d.RestPlaneFromFront = quantity.Some(v) }},
		{"weight outside it, aside", 547.5, ok, wary, func(v Q, d theD) { d.CGRight = v }},
		{"weight outside it, the other side", -547.5 - hair, wary, ok, func(v Q, d theD) { d.CGRight = v }},
		{"weight outside it, above", 317, ok, wary, func(v Q, d theD) { d.CGAboveCenter = v }},
		{"a thread depth in inches", 1.5, wary, ok, func(v Q, d theD) { d.Patterns[0].Holes[0].ThreadDepth.Length = v }},
		{"a hole beside its corner", 0, ok, wary, func(v Q, d theD) { d.Patterns[0].Holes[0].X += v }},
		{"a hole as deep as the display", 47, ok, wary, func(v Q, d theD) { d.Patterns[0].Holes[0].Setback.Length = v }},
		{"a pattern as wide as the display", 200 - hair, wary, ok, func(v Q, d theD) {
			d.Width, d.Height, d.Diagonal, d.Mass = quantity.Some(v), quantity.Optional[Q]{}, quantity.Optional[Q]{}, catalogtest.Mass(5000)
		}},
		{"a pattern as high as the display", 200 - hair, wary, ok, func(v Q, d theD) {
			d.Height, d.Width, d.Diagonal, d.Mass = quantity.Some(v), quantity.Optional[Q]{}, quantity.Optional[Q]{}, catalogtest.Mass(5000)
			d.Patterns[0].CenterBelowTop = quantity.Optional[Q]{}
		}},
		{"a port at its edge", 567.5, ok, wary, func(v Q, d theD) {
			d.Zones = []catalog.Zone{{Kind: "port", X: v, Y: mm(-250), Width: mm(40), Height: mm(20)}}
		}},
		{"a port at its bottom", -327 - hair, wary, ok, func(v Q, d theD) {
			d.Zones = []catalog.Zone{{Kind: "port", X: mm(300), Y: v, Width: mm(40), Height: mm(20)}}
		}},
		// The hole is at 100, 65: the pattern's middle is 352 below the top, 35 below the display's.
		{"a port over a hole", 120 - hair, wary, ok, func(v Q, d theD) {
			d.Zones = []catalog.Zone{{Kind: "port", X: v, Y: mm(65), Width: mm(40), Height: mm(40)}}
		}},
		{"a port over a hole, from below", 45, ok, wary, func(v Q, d theD) {
			d.Zones = []catalog.Zone{{Kind: "port", X: mm(100), Y: v, Width: mm(40), Height: mm(40)}}
		}},
		{"a port deeper than the display", 61, ok, wary, func(v Q, d theD) {
			d.Zones = []catalog.Zone{{Kind: "port", X: mm(300), Y: mm(-200), Width: mm(40), Height: mm(40), Setback: quantity.Some(v)}}
		}},
		{"a hole in a deeper pocket", 3, ok, wary, func(v Q, d theD) {
			d.Zones = []catalog.Zone{{Kind: "pocket", X: mm(100), Y: mm(65), Width: mm(40), Height: mm(40), Depth: quantity.Some(v)}}
		}},
	} {
		at := func(v Q) Check {
			d, b := catalogtest.Pair()
			l.vary(v, d)
			p := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy())
			return p.Check(DataRule)
		}
		last := quantity.FromMM(l.last)
		if is, then := at(last), at(last+1); is.Status != l.is || then.Status != l.then {
			t.Errorf("%s: %s at %v (%s) and %s a hair further (%s); want %s, then %s", l.name, is.Status, last, is.Text.In(quantity.Metric),
				then.Status, then.Text.In(quantity.Metric), l.is, l.then)
		}
	}
}

// small is a display of 32 in, a quarter of a square metre.
func small(d theD) {
	d.Width, d.Height, d.Diagonal = some(500), some(500), some(700)
}
