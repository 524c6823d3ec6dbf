package place

import (
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

var (
	mm   = quantity.MM
	some = catalogtest.Length
)

// site is a display on a bracket, on a stud wall 3.6 m wide with studs 406.4
// apart from 210, its centre at 1500.
func site(change func(*catalog.Display, *catalog.Bracket, *catalog.Job)) (*fit.Pairing, *catalog.Job) {
	d, b, job := sitePair()
	if change != nil {
		change(d, b, job)
	}
	p := fit.Judge(d, b, job.Turn, fit.Extra{}, catalog.DefaultPolicy())
	return &p, job
}

func sitePair() (*catalog.Display, *catalog.Bracket, *catalog.Job) { return catalogtest.Site() }

func one(t *testing.T, change func(*catalog.Display, *catalog.Bracket, *catalog.Job)) Placement {
	t.Helper()
	p, job := site(change)
	all := Place(p, job)
	if len(all) != 1 {
		t.Fatal(len(all))
	}
	return all[0]
}

func check(p *Placement, rule fit.RuleID) fit.Check {
	for _, c := range p.Checks {
		if c.Rule == rule {
			return c
		}
	}
	return fit.Check{}
}

func inch(n, numerator, denominator int64) quantity.Length {
	return quantity.Inch*quantity.Length(n) + quantity.Inch*quantity.Length(numerator)/quantity.Length(denominator)
}

// TestHeights: every rule, with the worked numbers of practice; the display is
// 634 high.
func TestHeights(t *testing.T) {
	for name, c := range map[string]struct {
		place  catalog.Place
		centre quantity.Length
	}{
		"a chosen centre":  {catalog.Place{Rule: "center", Center: some(1500)}, mm(1500)},
		"the usual centre": {catalog.Place{Rule: "center"}, mm(1070)},
		"eye height":       {catalog.Place{Rule: "eye", Eye: some(1600)}, mm(1600)},
		"looking up": {catalog.Place{Rule: "eye", Eye: some(1200), Distance: some(2000), Angle: quantity.Some(5 * quantity.Degree)},
			1_374_977_327}, // 2000 · tan 5° = 174.977
		"the upper third":  {catalog.Place{Rule: "upper_third", Eye: some(1600)}, mm(1600) - mm(634)/6},
		"370 + 145 is 515": {catalog.Place{Rule: "above", Surface: some(370), Gap: some(145)}, mm(515) + mm(317)},
		"under a line":     {catalog.Place{Rule: "below", Line: some(2400), Gap: some(50)}, mm(2350) - mm(317)},
		"over people":      {catalog.Place{Rule: "overhead", Bottom: some(2100)}, mm(2100) + mm(317)},
		"39 3/4 + 6 1/8, 45 7/8": {catalog.Place{Rule: "above", Surface: quantity.Some(inch(39, 3, 4)), Gap: quantity.Some(inch(6, 1, 8))},
			inch(45, 7, 8) + mm(317)},
	} {
		p := one(t, func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Place = c.place })
		if (p.Centre-c.centre).Abs() > 1 || p.Top-p.Bottom != mm(634) || p.Top-p.Centre != mm(317) {
			t.Errorf("%s: %s, want %s", name, p.Centre, c.centre)
		}
	}
	// The usual height is 42 in, to the centimetre.
	if got := (42 * quantity.Inch).Round(10 * quantity.Millimetre); got != Seated {
		t.Error(got)
	}
	// A wall of 158 cm has its middle at 79.
	if p := one(t, func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Wall.Width = some(1580) }); p.DisplayX != mm(790) {
		t.Error(p.DisplayX)
	}
}

// TestPoints: worked by hand. The pattern's centre hangs 219 below the hook
// (rows 119 and 319), 96 − 219 = −123 from the datum; the display's top is 352
// above it, 229 above the datum: 1500 + 317 − 229 = 1588. Studs at 1429.2 and
// 1835.6; the plate's holes are at −200, 0 and 200, and travel 20 to either
// side. Good is 38.1/2 − 1.5 × 8 − 3 = 4.05 from a stud's centre. The display
// is at 1650: the left holes reach 1430 … 1470, the right ones 1830 … 1870.
func TestPoints(t *testing.T) {
	p := one(t, func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Place.X = some(1650) })
	if p.Datum != mm(1588) || p.Shift() != 0 || len(p.Points) != 4 {
		t.Fatalf("%+v", p)
	}
	for _, pt := range p.Points {
		want := map[string][4]quantity.Length{ // x, y, from the centre line, below the top
			"T1": {1_430_000_000, mm(1683), -220_000_000, mm(134)}, "B1": {1_430_000_000, mm(1493), -220_000_000, mm(324)},
			"T3": {1_835_600_000, mm(1683), 185_600_000, mm(134)}, "B3": {1_835_600_000, mm(1493), 185_600_000, mm(324)},
		}[pt.Hole]
		if got := [4]quantity.Length{pt.X, pt.Y, pt.FromCentreLine, pt.BelowDisplayTop}; got != want {
			t.Errorf("%s: %v, want %v", pt.Hole, got, want)
		}
		// 70 − 3 − 1.6 + 6, in half millimetres.
		if pt.Drill.Depth.Value != 71_500_000 || pt.Drill.Fastener != "lag" {
			t.Errorf("%+v", pt.Drill)
		}
	}
	// 52 + 0 + 61; the gap 52.
	if p.ToFront.Value != mm(113) || p.Gap.Value != mm(52) {
		t.Error(p.ToFront, p.Gap)
	}
}

// TestChecks: what a wall says against a place.
func TestChecks(t *testing.T) {
	for name, c := range map[string]struct {
		rule   fit.RuleID
		status fit.Status
		says   string
		change func(*catalog.Display, *catalog.Bracket, *catalog.Job)
	}{
		// D − 220 ≤ 1429.2 + 4.05, so D ≤ 1653.25, and the display ≤ 1713.25
		"in the middle": {"studs", fit.Fail, "Move the display 87 mm to the left", nil},
		"where studs are": {"studs", fit.Pass, "under the display's",
			func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Place.X = some(1650) }},
		"no studs": {"studs", fit.Unknown, "No studs are known",
			func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Wall.Studs = nil }},
		"thin studs": {"studs", fit.Fail, "too narrow", func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
			j.Wall.Studs.Width = some(25)
		}},
		"board alone": {"studs", fit.Fail, "Board alone does not hold",
			func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Wall.Type = "hollow_board" }},
		"concrete": {"studs", fit.Pass, "outermost",
			func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Wall.Type = "concrete" }},
		"a slab too thin for its fixing": {"depth", fit.Fail, "Take a shorter fixing",
			func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
				j.Wall.Type, j.Wall.Backing = "concrete", some(80)
			}},
		"a slab too thin for any": {"depth", fit.Fail, "No fixing is right for so thin a wall",
			func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
				j.Wall.Type, j.Wall.Backing = "concrete", some(79)
			}},
		"thick covering": {"covering", fit.Fail, "Take longer fasteners", func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
			j.Place.X, j.Wall.Covering = some(1650), some(17)
		}},
		"16 mm, 5/8 in": {"covering", fit.Pass, "", func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
			j.Place.X, j.Wall.Covering = some(1650), some(16)
		}},
		"a short lag": {"fastener", fit.Fail, "Take fasteners of 60 mm", func(_ *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
			j.Place.X = some(1650)
			b.Kit[2].Length = mm(50)
		}},
		"held": {"strength", fit.Pass, "is pulled with", func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Place.X = some(1650) }},
		"too far out": {"strength", fit.Fail, "licensed", func(_ *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
			j.Place.X = some(1650)
			b.Reach = some(5000)
		}},
		"over a counter": {"below", fit.Fail, "higher",
			func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Place.Surface = some(1200) }},
		"clear of it": {"below", fit.Pass, "", func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Place.Surface = some(1100) }},
		"under a shelf": {"above", fit.Fail, "lifted over its hook", func(_ *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
			b.LiftOver, j.Place.Line = some(22), some(1830)
		}},
		"a narrow wall": {"wall", fit.Fail, "past the wall's end",
			func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Wall.Width = some(1000) }},
		"a public way": {"projection", fit.Caution, "cane",
			func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Place.Public = true }},
		"low overhead": {"headroom", fit.Caution, "people walk under it", func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
			j.Place = catalog.Place{Rule: "overhead", Bottom: some(2000), Public: true}
		}},
		"edges not known": {"place", fit.Unknown, "the display's width",
			func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Job) { d.Height.Known = false }},
		// Each on one stud: 406.4 apart, where the pattern is 200 wide and 500 allowed.
		"two plates": {"studs", fit.Pass, "2 studs", func(_ *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
			b.WallPlate.Count, b.WallPlate.StudsRequired, b.WallPlate.SeparationRange = 2, 1, &fastener.Interval{Min: mm(200), Max: mm(500)}
			j.Place.X = some(1632)
		}},
	} {
		p := one(t, c.change)
		got := check(&p, c.rule)
		said := got.Text.In(quantity.Metric) + " " + got.Remedy.In(quantity.Metric)
		if got.Status != c.status || !strings.Contains(said, c.says) {
			t.Errorf("%s: %s %q", name, got.Status, said)
		}
		if c.rule == StudsRule && strings.Contains(said, "Move the display") != p.MoveX.Known {
			t.Errorf("%s: the move is %v", name, p.MoveX)
		}
	}
}

// TestRun: three displays with even gaps around the middle, on one level.
func TestRun(t *testing.T) {
	p, job := site(func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
		j.Wall.Type, j.Run = "concrete", &catalog.Run{Count: 3, Gap: mm(12)}
	})
	all := Place(p, job)
	if len(all) != 3 || all[1].DisplayX != mm(1800) || all[0].DisplayX != mm(1800-1107) || all[2].DisplayX != mm(1800+1107) {
		t.Fatalf("%+v", all)
	}
	for i := range all {
		if all[i].RunIndex != i+1 || all[i].Datum != all[0].Datum || len(all[i].Points) != 4 {
			t.Errorf("%+v", all[i])
		}
	}
}

func BenchmarkPlace(b *testing.B) {
	for name, swing := range map[string]bool{"fixed": false, "swinging": true} {
		p, job := site(func(_ *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
			j.Place.X = some(1650)
			if swing {
				b.Kind, b.Reach, b.Swivel, b.SwivelPivot = "full_motion", some(480), quantity.Some(60*quantity.Degree),
					&catalog.Pivot{BehindArm: some(40)}
				b.TiltDown, b.TiltUp, b.TiltPivot = quantity.Some(12*quantity.Degree), quantity.Some(5*quantity.Degree),
					&catalog.Pivot{BelowHook: some(219), BehindArm: some(18)}
			}
		})
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if all := Place(p, job); len(all[0].Points) != 4 {
					b.Fatal("not placed")
				}
			}
		})
	}
}

// TestByTape: a run is marked with the tape where its plates are more than 10 m apart, by a hair.
func TestByTape(t *testing.T) {
	at := func(x ...quantity.Length) (all []Placement) {
		for _, x := range x {
			all = append(all, Placement{Fixing: Fixing{DatumX: x}})
		}
		return all
	}
	if ByTape(nil) || ByTape(at(0)) || ByTape(at(quantity.Metre, 11*quantity.Metre)) || !ByTape(at(quantity.Metre, 11*quantity.Metre+1)) {
		t.Error("the limit is another than 10 m from the first plate to the last")
	}
}
