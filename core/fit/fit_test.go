package fit

import (
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

var mm = quantity.MM

var (
	some    = catalogtest.Length
	kg      = catalogtest.Mass
	pair    = catalogtest.Pair
	pattern = catalogtest.Pattern
)

type change func(*catalog.Display, *catalog.Bracket, *catalog.Policy, *Extra) catalog.Turn

// tried has trial bolts in place of the bottom row's figures.
func tried(trials ...catalog.Trial) change {
	return func(d *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
		for i := 2; i < 4; i++ {
			h := &d.Patterns[0].Holes[i]
			h.Recess, h.ThreadDepth, h.Trials = catalog.Figure{}, catalog.Figure{}, trials
		}
		b.Kit = append(b.Kit, catalog.Item{Kind: "bolt", Thread: fastener.M6, Length: mm(30), Count: 4})
		return 0
	}
}

func stopped(length, gap int64) catalog.Trial {
	return catalog.Trial{Thread: fastener.M6, Length: mm(length), Outcome: "stopped", Gap: some(gap)}
}

// zones gives the display zones, and the bracket a profile of 52 and its wall
// plate.
func zones(all ...catalog.Zone) change {
	return func(d *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
		d.Zones, b.Profile = all, some(52)
		return 0
	}
}

func plug(out, setback int64) catalog.Zone {
	return catalog.Zone{Kind: "port", X: mm(300), Width: mm(50), Height: mm(40), Plug: some(out), Setback: some(setback)}
}

func bump(out, x, y int64) catalog.Zone {
	return catalog.Zone{Kind: "protrusion", X: mm(x), Y: mm(y), Width: mm(40), Height: mm(40), Out: some(out)}
}

func tilting(down, up int64) change {
	return func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
		b.Profile, b.TiltPivot = some(52), &catalog.Pivot{BelowHook: mm(219), BehindArm: mm(18)}
		b.TiltDown, b.TiltUp = quantity.Some(quantity.Degree*quantity.Angle(down)), quantity.Some(quantity.Degree*quantity.Angle(up))
		return 0
	}
}

func swivelling(by int64) change {
	return func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
		b.Reach, b.SwivelPivot, b.Swivel = some(480), &catalog.Pivot{BehindArm: mm(40)}, quantity.Some(quantity.Degree*quantity.Angle(by))
		return 0
	}
}

func diagonal(mm int64) change {
	return func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
		d.Diagonal = some(mm)
		return 0
	}
}

// TestRules has for every rule what passes, is a caution, fails and cannot be
// said, each with the sentence that a person reads.
func TestRules(t *testing.T) {
	bottom := func(d *catalog.Display, set func(*catalog.Hole)) {
		for i := 2; i < 4; i++ {
			set(&d.Patterns[0].Holes[i])
		}
	}
	for _, c := range []struct {
		rule   string
		status Status
		says   string
		remedy string
		change change
	}{
		{"pattern", Pass, "200 × 200 is within the arms' range, 100 mm to 610 mm wide.", "", nil},
		{"pattern", Pass, "200 × 200 is one of the plate's patterns.", "", func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			b.Interface = catalog.Interface{Type: catalog.Plate, Patterns: []catalog.PatternSize{{Width: mm(200), Height: mm(200)}}}
			return 0
		}},
		{"pattern", Fail, "200 × 200 is not one of the plate's patterns (100 × 100, 75 × 75).", "", func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			b.Interface = catalog.Interface{Type: catalog.Plate, Patterns: []catalog.PatternSize{{Width: mm(100), Height: mm(100)}, {Width: mm(75), Height: mm(75)}}}
			return 0
		}},
		{"pattern", Fail, "700 × 200 is outside the arms' range, 100 mm to 610 mm wide.", "", func(d *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Patterns[0], b.Interface.RailWidth = pattern(700, 200, fastener.M6, 14), some(900)
			return 0
		}},
		{"pattern", Fail, "600 × 200 does not go on the rail: with the arms it would be 34 mm too wide.", "", func(d *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Patterns[0], b.Interface.RailWidth = pattern(600, 200, fastener.M6, 14), some(600)
			return 0
		}},
		{"pattern", Fail, "Rail 40 does not let a display hang turned by 270°.", "Hang the display upright", func(*catalog.Display, *catalog.Bracket, *catalog.Policy, *Extra) catalog.Turn { return 270 }},
		{"pattern", Unknown, "The display's hole pattern is not known.", "Ask for the distance", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Patterns = nil
			return 0
		}},

		{"thread", Pass, "The slots take M6, and the bag has M6 bolts.", "", nil},
		{"thread", Pass, "The slots take M6, and the bag has M6 bolts.", "", func(d *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.OwnParts, b.Kit = b.Kit[:1], b.Kit[1:] // the display's own box counts
			return 0
		}},
		{"thread", Caution, "The slots take M4, but the bag has no M4 bolts.", "Supply M4 bolts.", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Patterns[0].Thread = fastener.M4
			return 0
		}},
		{"thread", Fail, "M8 bolts do not pass the slots, which take M4, M6.", "", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Patterns[0].Thread = fastener.M8
			return 0
		}},
		{"thread", Unknown, "The display's thread is not known.", "Try bolts by hand", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Patterns[0].Thread = 0
			return 0
		}},

		{"stack", Pass, "Every hole is safe; with the tolerances against it, thread engagement at TL, TR, BL, BR is still 7.1 mm.", "", nil},
		{"stack", Caution, "The bag lacks 4 × M6×16.", "Send 4 × M6×16.", func(_ *catalog.Display, b *catalog.Bracket, p *catalog.Policy, _ *Extra) catalog.Turn {
			b.Kit, p.BoltSchool = b.Kit[1:], "deep"
			return 0
		}},
		{"stack", Caution, "Right on paper, but with the tolerances against it tip clearance at TL, TR, BL, BR is -0.2 mm and should be at least 0 mm.", "Or send 4 × M6×12", func(d *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			b.Kit[0].Length = mm(16)
			for i := range d.Patterns[0].Holes {
				d.Patterns[0].Holes[i].ThreadDepth = catalog.Given(mm(13), catalog.Sheet)
			}
			return 0
		}},
		{"stack", Caution, "Right on paper, but the display leans by 0.57°: more than 0.3° shows.", "", func(d *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			bottom(d, func(h *catalog.Hole) { h.Setback = catalog.Given(mm(8), catalog.Sheet) })
			b.Kit = append(b.Kit, catalog.Item{Kind: "spacer", Threads: []fastener.Thread{fastener.M6}, Length: mm(10), Outer: mm(18), Count: 4},
				catalog.Item{Kind: "bolt", Thread: fastener.M6, Length: mm(25), Count: 4})
			return 0
		}},
		{"stack", Fail, "The thread at BL, BR is too shallow for M6: 7 mm is needed to hold and stay clear of the bottom.", "Measure the depth again", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			bottom(d, func(h *catalog.Hole) { h.ThreadDepth = catalog.Given(mm(6), catalog.Sheet) })
			return 0
		}},
		{"stack", Fail, "The bolt's head does not fit behind the plate with the washers it needs.", "more room", func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			b.HeadRoom = some(5)
			return 0
		}},
		{"stack", Fail, "No washer or spacer for M6 is wide enough for a slot of 20 mm.", "narrower slots", func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			b.SlotWidth = some(20)
			return 0
		}},
		{"stack", Fail, "The display has no holes where the bracket bolts to it.", "", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			for i := range d.Patterns[0].Holes {
				d.Patterns[0].Holes[i].Y = mm(int64(i))
			}
			return 0
		}},
		{"stack", Unknown, "The usable thread depth is not known at BL, BR.", "Measure it", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			bottom(d, func(h *catalog.Hole) { h.ThreadDepth = catalog.Figure{} })
			return 0
		}},
		{"stack", Unknown, "No stack is safe without knowing how wide the cup is at BL, BR.", "Measure the cup's diameter", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			bottom(d, func(h *catalog.Hole) {
				h.Setback, h.Recess = catalog.Given(mm(9), catalog.Sheet), catalog.Given(mm(12), catalog.Sheet)
			})
			return 0
		}},
		{"stack", Unknown, "The trial bolts at BL contradict each other: Trial 2 stopped 6 mm short", "Ask for these trials again.", tried(stopped(25, 9), stopped(25, 15))},
		// 16 ± 1 deep, no word of a cup: it could be half of it.
		{"stack", Unknown, "No bolt is safe for every cup that the trial bolts at BL leave open: 0 mm to 17 mm deep.", "pushed in without turning", tried(stopped(25, 9))},
		{"stack", Pass, "Every hole is safe", "", tried(stopped(25, 9), catalog.Trial{Thread: fastener.M6, Length: mm(25), Outcome: "rests", Gap: some(25)})},
		{"stack", Caution, "Right on paper, but the trial bolts at BL leave open how deep the hole is.", "Ask for a trial with M6×", tried(catalog.Trial{Thread: fastener.M6, Length: mm(16), Outcome: "seated"}, catalog.Trial{Thread: fastener.M6, Length: mm(25), Outcome: "rests", Gap: some(25)})},
		{"stack", Unknown, "Bolts cannot be chosen without the thread.", "", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Patterns[0].Thread = 0
			return 0
		}},

		{"load", Pass, "14.2 kg on a bracket rated for 36 kg.", "", nil},
		{"load", Pass, "32.4 kg on a bracket rated for 36 kg.", "", func(_ *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, l *Extra) catalog.Turn {
			l.Accessories = 18200 * quantity.Gram // nine tenths exactly
			return 0
		}},
		{"load", Caution, "32.41 kg is above 90 % of the rated load, 36 kg.", "Weigh the display", func(_ *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, l *Extra) catalog.Turn {
			l.Accessories = 18200*quantity.Gram + 1
			return 0
		}},
		{"load", Fail, "36.2 kg is 0.2 kg more than the bracket is rated for, 36 kg.", "rated for at least 36.2 kg", func(_ *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, l *Extra) catalog.Turn {
			l.Accessories = 22 * quantity.Kilogram
			return 0
		}},
		{"load", Unknown, "The display's mass without its stand is not known; with it, it is 16.9 kg.", "Weigh it", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Mass, d.MassWithStand = quantity.Optional[quantity.Mass]{}, kg(16900)
			return 0
		}},
		{"load", Unknown, "The bracket's rated load is not known.", "", func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			b.RatedLoad.Known = false
			return 0
		}},

		{"size", Pass, "A diagonal of 1232 mm is within the bracket's range.", "", nil},
		{"size", Pass, "The bracket has no limits of size.", "", func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			b.DiagonalMin.Known, b.DiagonalMax.Known = false, false
			return 0
		}},
		{"size", Caution, "A diagonal of 900 mm is below the bracket's range, from 940 mm: more bracket than display.", "", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Diagonal = some(900)
			return 0
		}},
		{"size", Caution, "A diagonal of 1900 mm is above the bracket's guidance, up to 1780 mm.", "", func(d *catalog.Display, _ *catalog.Bracket, p *catalog.Policy, _ *Extra) catalog.Turn {
			d.Diagonal, p.SizeSchool = some(1900), "guidance"
			return 0
		}},
		{"size", Fail, "A diagonal of 1900 mm is above the bracket's range, up to 1780 mm: a bigger panel levers more.", "Take a bracket for larger displays.", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Diagonal = some(1900)
			return 0
		}},
		{"size", Unknown, "The display's diagonal is not known.", "Measure the picture", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Diagonal.Known = false
			return 0
		}},

		{"arms", Pass, "The arms end 49 mm inside the display's outline.", "", nil},
		{"arms", Pass, "A plate has no arms to place.", "", func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			b.Interface.Type = catalog.Plate
			return 0
		}},
		{"arms", Caution, "The arms end only 4 mm inside the display's bottom edge.", "Check that they do not show", func(d *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Height, b.Interface.Slots = some(589), []fastener.Interval{{Min: mm(119), Max: mm(119)}, {Min: mm(319), Max: mm(319)}}
			return 0
		}},
		{"arms", Caution, "The arms stand out 20 mm past the display's bottom edge.", "shorter arms", func(d *catalog.Display, b *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Height, b.Interface.Slots = some(565), []fastener.Interval{{Min: mm(119), Max: mm(119)}, {Min: mm(319), Max: mm(319)}}
			return 0
		}},
		{"arms", Fail, "The arms' slots do not take holes 500 mm apart, one above the other.", "", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Patterns[0] = pattern(200, 500, fastener.M6, 14)
			return 0
		}},
		{"arms", Unknown, "The slots take the holes, but where the display's edges are is not known.", "Measure the display's height", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Height.Known = false
			return 0
		}},

		{"ports", Pass, "No port, vent or label is on record.", "", nil},
		// The arms' inner edges are 100 − 17 = 83 from the middle.
		{"ports", Pass, "The nearest port is 3 mm clear of the arms.", "", zones(catalog.Zone{Kind: "port", X: 0, Y: 0, Width: mm(160), Height: mm(40)}, catalog.Zone{Kind: "label", X: mm(400), Width: mm(60), Height: mm(40)})},
		{"ports", Fail, "The vent lies 7 mm under the arms.", "Another arm position", zones(catalog.Zone{Kind: "port", Width: mm(100), Height: mm(40)}, catalog.Zone{Kind: "vent", X: 0, Y: 0, Width: mm(180), Height: mm(40)})},
		{"ports", Unknown, "cannot be told", "Measure the display's height", func(d *catalog.Display, b *catalog.Bracket, p *catalog.Policy, l *Extra) catalog.Turn {
			d.Height.Known = false
			return zones(catalog.Zone{Kind: "port", Width: mm(100), Height: mm(40)})(d, b, p, l)
		}},

		{"plugs", Pass, "No plug that points to the wall is on record.", "", zones(catalog.Zone{Kind: "port", Width: mm(50), Height: mm(40)})},
		{"plugs", Pass, "A plug that stands out 64 mm has 64 mm to the wall.", "", zones(plug(64, 12))}, // 52 + 0 + 12
		{"plugs", Fail, "A plug stands out 65 mm and has 64 mm to the wall.", "an angled plug of at most 64 mm", zones(plug(30, 12), plug(65, 12))},
		{"plugs", Unknown, "The bracket's profile is not known", "Measure from the wall", func(d *catalog.Display, b *catalog.Bracket, p *catalog.Policy, l *Extra) catalog.Turn {
			zones(plug(10, 0))(d, b, p, l)
			b.Profile.Known = false
			return 0
		}},

		{"protrusion", Pass, "Nothing that stands out of the back is on record.", "", nil},
		{"protrusion", Pass, "A part that stands out 52 mm has 52 mm to the wall.", "", zones(bump(52, 0, -300))},
		{"protrusion", Pass, "A part that stands out 49 mm has 49 mm to the wall plate.", "", zones(bump(49, 0, 50))}, // less 3 of the plate
		{"protrusion", Fail, "A part stands out 50 mm and has 49 mm to the wall plate.", "Spacers that bring the display 1 mm further out", zones(bump(50, 0, 50))},
		{"protrusion", Fail, "A part stands out 2 mm and has 0 mm to the bracket over it.", "2 mm further out", zones(bump(2, 100, 0))},
		{"protrusion", Unknown, "How far a part stands out of the back is not known.", "straight edge", zones(catalog.Zone{Kind: "protrusion", Width: mm(40), Height: mm(40)})},

		{"tilt", Pass, "The bracket does not tilt.", "", nil},
		{"tilt", Pass, "The display can tilt down by the bracket's whole 5°.", "", tilting(5, 0)},
		// Pivot 219 below the hook, where the pattern's centre hangs, 18 behind
		// the arms: 52 − 18 = 34 off the wall. The bottom edge is 634 − 352 =
		// 282 lower: acos(−34 / hypot(18, 282)) − atan(282 / 18) = 96.911° − 86.348° = 10.563°.
		{"tilt", Caution, "The rear bottom edge touches the wall at 10.56°; the bracket could tilt down by 12°.", "where to stop", tilting(12, 0)},
		// The top edge is 352 higher: acos(−34 / hypot(18, 352)) − atan(352 / 18)
		// = 95.536° − 87.073° = 8.463°.
		{"tilt", Caution, "The rear top edge touches the wall at 8.46°; the bracket could tilt up by 20°.", "", tilting(5, 20)},
		{"tilt", Caution, "touches the wall at 6.94°", "", func(d *catalog.Display, b *catalog.Bracket, p *catalog.Policy, l *Extra) catalog.Turn {
			// A box at the bottom gets there first: its lower edge is 265 under
			// the pattern's centre and 2 behind the pivot: acos(−34 / 265.01) −
			// atan2(265, −2) = 97.372° − 90.432°.
			zones(bump(20, 0, -280))(d, b, p, l)
			return tilting(12, 0)(d, b, p, l)
		}},
		{"tilt", Unknown, "cannot be told: a figure is missing", "pivot", func(d *catalog.Display, b *catalog.Bracket, p *catalog.Policy, l *Extra) catalog.Turn {
			b.TiltDown, b.Profile.Known = quantity.Some(5*quantity.Degree), false
			return 0
		}},

		{"swivel", Pass, "The bracket does not swivel.", "", nil},
		{"swivel", Pass, "The display can swivel by the bracket's whole 40°.", "", swivelling(40)},
		// Pivot 480 − 40 = 440 off the wall, half the width 547.5, the back 40
		// in front: acos(−440 / hypot(40, 547.5)) − atan(547.5 / 40) = 57.4°.
		{"swivel", Caution, "The rear edge touches the wall at 57.4", "", swivelling(60)},
		{"swivel", Unknown, "cannot be told", "", func(d *catalog.Display, b *catalog.Bracket, p *catalog.Policy, l *Extra) catalog.Turn {
			d.Width.Known = false
			return swivelling(60)(d, b, p, l)
		}},

		{"data", Pass, "The display's figures agree with each other.", "", nil},
		{"data", Caution, "Without its stand it is heavier, 14.2 kg, than with it, 12 kg: swapped?", "Check this", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.MassWithStand = kg(12000)
			return 0
		}},
		{"data", Caution, "The diagonal, 1300 mm, is longer than the outline's, 1265.3 mm.", "", diagonal(1300)},
		{"data", Caution, "The diagonal, 1000 mm, is below 85 % of the outline's, 1265.3 mm.", "", diagonal(1000)},
		{"data", Caution, "A diagonal of 49 mm looks like inches typed as millimetres.", "", diagonal(49)},
		{"data", Caution, "The pattern 1200 × 200 is larger than the display.", "", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Patterns[0] = pattern(1200, 200, fastener.M6, 14)
			return 0
		}},
		{"data", Caution, "At TL the thread is deeper, 14 mm, than the display, 10 mm.", "", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Depth = some(10)
			return 0
		}},
		{"data", Caution, "At TL a thread depth of 1 mm looks like inches typed as millimetres.", "", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Patterns[0] = pattern(200, 200, fastener.M6, 1)
			return 0
		}},
		{"data", Caution, "300 × 300 is no pattern of the mounting-interface standard.", "", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Patterns[0] = pattern(300, 300, fastener.M6, 14)
			return 0
		}},
		{"data", Caution, "200 × 200 displays have M6 or M8, this one M4.", "", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Patterns[0].Thread = fastener.M4
			return 0
		}},
		{"data", Caution, "100 × 100 displays weigh up to 14 kg, this one 14.2 kg.", "", func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Policy, _ *Extra) catalog.Turn {
			d.Patterns[0] = pattern(100, 100, fastener.M4, 14)
			return 0
		}},
	} {
		d, b := pair()
		policy, load, turn := catalog.DefaultPolicy(), Extra{}, catalog.Turn(0)
		if c.change != nil {
			turn = c.change(d, b, &policy, &load)
		}
		p := Judge(d, b, turn, load, policy)
		got := p.Check(c.rule)
		text, remedy := got.Text.In(quantity.Metric), got.Remedy.In(quantity.Metric)
		if got.Status != c.status || !strings.Contains(text, c.says) || !strings.Contains(remedy, c.remedy) {
			t.Errorf("%s: %s %q remedy %q\nwant %s %q remedy %q", c.rule, got.Status, text, remedy, c.status, c.says, c.remedy)
		}
		if m := got.Measure; m.Given() && m.Margin < 0 != (got.Status == Fail || got.Status == Caution) && got.Status == Pass {
			t.Errorf("%s passes with a margin of %d", c.rule, m.Margin)
		}
	}
}

func TestVerdict(t *testing.T) {
	check := func(rule string, s Status) Check { return Check{Rule: rule, Status: s} }
	for _, c := range []struct {
		want     Verdict
		supplied bool
		checks   []Check
	}{
		{Fits, false, []Check{check("load", Pass)}},
		{FitsWithConditions, true, []Check{check("load", Pass)}},
		{FitsWithConditions, false, []Check{check("load", Caution)}},
		{MissingData, false, []Check{check("load", Caution), check("stack", Unknown)}},
		{Fits, false, []Check{check("arms", Unknown)}},
		{DoesNotFit, true, []Check{check("stack", Unknown), check("arms", Fail), check("load", Caution)}},
	} {
		if got := verdict(c.checks, c.supplied); got != c.want {
			t.Errorf("%v: %s, want %s", c.checks, got, c.want)
		}
	}
}

// TestSeveralPatterns: fewest fails, then the better stack, then the larger.
func TestSeveralPatterns(t *testing.T) {
	for _, c := range []struct {
		name          string
		first, second catalog.Pattern
		want          int64
	}{
		{"the one that does not fail", pattern(700, 400, fastener.M6, 14), pattern(200, 200, fastener.M6, 14), 200},
		{"the one with the better stack", pattern(400, 200, fastener.M6, 10), pattern(200, 200, fastener.M6, 14), 200},
		{"with equal stacks the larger", pattern(200, 200, fastener.M6, 14), pattern(400, 200, fastener.M6, 14), 400},
	} {
		for _, order := range [][]catalog.Pattern{{c.first, c.second}, {c.second, c.first}} {
			d, b := pair()
			d.Patterns = order
			if p := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy()); p.Pattern.Width != mm(c.want) {
				t.Errorf("%s: took %s", c.name, p.Pattern.Width)
			}
		}
	}
}

// TestMeasureIsShownSafely: a value never looks better than it is, a limit
// never looser.
func TestMeasureIsShownSafely(t *testing.T) {
	for _, c := range []struct {
		m    Measure
		u    quantity.Units
		want string
	}{
		{atMost(14_201*quantity.Gram, 45*quantity.Kilogram, KG), quantity.Metric, "14.21 kg · at most 45 kg"},
		{atMost(quantity.Kilogram, 45*quantity.Kilogram, KG), quantity.Imperial, "2.3 lb · at most 99.2 lb"},
		{atLeast(quantity.Length(849_999), 0, MM), quantity.Metric, "0.8 mm · at least 0 mm"},
		{atMost(quantity.Angle(286_000), quantity.Degree, Deg), quantity.Metric, "0.29° · at most 1°"},
		{Measure{Value: int64(mm(1000)), Limit: int64(mm(900)), Unit: MM, AtLeast: true, Coarse: true}, quantity.Imperial, "39 5/16 in · at least 35 7/16 in"},
	} {
		if got := c.m.In(c.u); got != c.want {
			t.Errorf("%q, want %q", got, c.want)
		}
	}
}

// TestMirrored: a display mirrored left to right is judged the same.
func TestMirrored(t *testing.T) {
	d, b := pair()
	d.Patterns[0].CenterRight = mm(30)
	d.Patterns[0].Holes[1].ThreadDepth = catalog.Given(mm(10), catalog.Bench)
	m := *d
	m.Patterns = []catalog.Pattern{d.Patterns[0]}
	m.Patterns[0].CenterRight = -mm(30)
	m.Patterns[0].Holes = nil
	for _, h := range d.Patterns[0].Holes {
		h.X = -h.X
		m.Patterns[0].Holes = append(m.Patterns[0].Holes, h)
	}
	one, other := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy()), Judge(&m, b, 0, Extra{}, catalog.DefaultPolicy())
	for i := range one.Checks {
		if one.Checks[i].Text.In(quantity.Metric) != other.Checks[i].Text.In(quantity.Metric) {
			t.Errorf("%s\n%s", one.Checks[i].Text.In(quantity.Metric), other.Checks[i].Text.In(quantity.Metric))
		}
	}
}

func TestBetter(t *testing.T) {
	d, b := pair()
	good := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy())
	caution := Judge(d, b, 0, Extra{Accessories: 20 * quantity.Kilogram}, catalog.DefaultPolicy())
	bad := Judge(d, b, 270, Extra{}, catalog.DefaultPolicy())
	worse := Judge(d, b, 270, Extra{Accessories: 40 * quantity.Kilogram}, catalog.DefaultPolicy())
	all := []*Pairing{&good, &caution, &bad, &worse}
	for i := range all {
		for j := range all {
			if all[i].Better(all[j]) != (i < j) {
				t.Errorf("%d before %d: %v", i, j, all[i].Better(all[j]))
			}
		}
	}
}

func BenchmarkJudge(b *testing.B) {
	d, br := pair()
	b.ReportAllocs()
	for b.Loop() {
		p := Judge(d, br, 0, Extra{}, catalog.DefaultPolicy())
		if p.Verdict != Fits {
			b.Fatal(p.Verdict)
		}
	}
}
