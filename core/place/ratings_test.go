package place

import (
	"fmt"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// rated is a display on a wall with sheet or board, with toggles whose rating was found in so much of it.
func rated(t *testing.T, kind catalog.WallType, r catalog.Rating) Placement {
	t.Helper()
	return one(t, on(func(d *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
		bare(kind, j)
		j.Wall.Covering, j.Wall.Cavity = quantity.Some(quantity.FromMM(12.5)), some(500)
		if kind == catalog.MetalStud {
			j.Wall.Steel, j.Wall.Studs = some(1), &catalog.Studs{At: []quantity.Length{mm(1430), mm(1836)}, Width: some(40)}
		}
		anchored(b, kind, catalog.Toggle, 50, 50, "rated")
		b.Kit[len(b.Kit)-1].Ratings[catalog.BaseMaterial(kind)] = r
		d.Mass = quantity.Some(4 * quantity.Kilogram)
	}))
}

// TestRatedInWhatSheet: a rating of a toggle says how much it holds in a sheet or board of some thickness; without it nobody can lean on
// the figure, in these walls alone, and what is worse already stays so.
func TestRatedInWhatSheet(t *testing.T) {
	const kg = quantity.Kilogram
	for _, c := range []struct {
		wall   catalog.WallType
		rating catalog.Rating
		had    fit.Status
		want   fit.Status
	}{
		{catalog.MetalStud, catalog.Rating{Pull: 50 * kg, Shear: 50 * kg}, ok, wary},
		{catalog.MetalStud, catalog.Rating{Pull: 50 * kg, Shear: 50 * kg}, note, wary},
		{catalog.MetalStud, catalog.Rating{Pull: 50 * kg, Shear: 50 * kg}, wrong, wrong},
		{catalog.MetalStud, catalog.Rating{Pull: 50 * kg, Shear: 50 * kg, Steel: mm(1)}, ok, ok},
		{catalog.HollowBoard, catalog.Rating{Pull: 50 * kg, Shear: 50 * kg}, ok, wary},
		{catalog.HollowBoard, catalog.Rating{Pull: 50 * kg, Shear: 50 * kg, Board: quantity.FromMM(12.5)}, ok, ok},
		{catalog.HollowBoard, catalog.Rating{Pull: 50 * kg, Shear: 50 * kg, Steel: mm(1)}, note, wary},
	} {
		p := rated(t, c.wall, c.rating)
		if got := p.ratedElsewhere(p.Strength.Assessment, fit.Check{Finding: fit.Finding{Status: c.had}}); got.Status != c.want {
			t.Errorf("%+v: %s", c, got.Status)
		}
	}
	// A sleeve anchor in concrete opens nothing behind a sheet.
	p := one(t, concrete(400, 500, "rated", nil))
	if got := p.ratedElsewhere(p.Strength.Assessment, fit.Check{}); got.Status != ok {
		t.Error(got.Status)
	}
}

// TestBlocksAreTried: fixings in blocks of which nobody says what they are are tried to once and a half of the largest pull.
func TestBlocksAreTried(t *testing.T) {
	p := one(t, on(func(_ *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
		bare(catalog.Block, j)
		j.Wall.Backing = some(200)
		anchored(b, catalog.Block, catalog.FrameFixing, 400, 500, "rated")
	}))
	a := *p.Strength.Assessment
	pull := maxPull(&a)
	if pull < 20 {
		t.Fatal(pull)
	}
	for had, want := range map[fit.Status]fit.Status{ok: wary, wary: wary, open: open, wrong: wrong} {
		c := p.ratedElsewhere(&a, fit.Check{Finding: fit.Finding{Status: had}})
		if c.Status != want {
			t.Errorf("%s: %s", had, c.Status)
		}
		if told := strings.Contains(c.Remedy.In(quantity.Metric), fmt.Sprint(newtons(pull*3/2))); told != (want == wary) {
			t.Errorf("%s: %s", had, c.Remedy.In(quantity.Metric))
		}
	}
}

// TestSteelOfWhatIsInWood: a lag's rating is not held against its steel: wood gives way first. A rating that cannot be does not make
// better what is worse.
func TestSteelOfWhatIsInWood(t *testing.T) {
	absurd := catalog.Rating{Pull: 9000 * quantity.Kilogram, Shear: 9000 * quantity.Kilogram}
	p := one(t, on(func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Job) {
		for i := range b.Kit {
			if b.Kit[i].Kind == catalog.Lag {
				b.Kit[i].Ratings = map[catalog.BaseMaterial]catalog.Rating{catalog.BaseMaterial(catalog.WoodStud): absurd}
			}
		}
	}))
	judgedAs(t, "lags", &p, FastenerRule, ok)
	p = one(t, concrete(9000, 9000, "rated", nil))
	for had, want := range map[fit.Status]fit.Status{ok: wary, note: wary, wary: wary, open: open, wrong: wrong} {
		if c := p.believable(fit.Check{Finding: fit.Finding{Status: had}}); c.Status != want {
			t.Errorf("%s: %s", had, c.Status)
		}
	}
	// The board's anchor beside one stud is held against its own steel: 50.27 mm² of 400 N/mm² are 2,050.3 kg.
	for pull, want := range map[int64]bool{2050: false, 2051: true} {
		p := one(t, concrete(100, 100, "rated", nil))
		p.Choice.Beside = &catalog.Item{Kind: catalog.Toggle, Diameter: mm(10), Root: mm(8), RatingBasis: "rated",
			Ratings: map[catalog.BaseMaterial]catalog.Rating{catalog.BaseMaterial(catalog.HollowBoard): {
				Pull: quantity.Mass(pull) * quantity.Kilogram, Shear: quantity.Kilogram}}}
		if c := p.believable(fit.Check{}); (c.Status == wary) != want {
			t.Errorf("%d kg beside the stud: %s %s", pull, c.Status, c.Text.In(quantity.Metric))
		}
	}
}

// TestAnchorsBesideAStud: an anchor of 10 goes no nearer than its edge at the edge of a stud of 38: 24 from its middle; one on either
// side, and no more than the kit has.
func TestAnchorsBesideAStud(t *testing.T) {
	beside := func(change func(b *catalog.Bracket)) int {
		d, b, job := sitePair()
		b.Kind = "fixed"
		job.Wall.Studs = &catalog.Studs{At: []quantity.Length{mm(1650)}, Width: some(38)}
		job.Place.X = some(1650)
		anchored(b, catalog.HollowBoard, catalog.Toggle, 50, 50, "rated")
		b.Walls[catalog.WoodStud] = catalog.WallFixing{Drill: some(5), Fasteners: []string{"lag", "toggle"}}
		b.WallPlate.LateralSlide = some(0)
		b.WallPlate.Holes = nil
		for _, row := range []string{"top", "bottom"} {
			for i, x := range []int64{-150, 0, 150} {
				y := map[string]int64{"top": 95, "bottom": -95}[row]
				b.WallPlate.Holes = append(b.WallPlate.Holes, catalog.PlateHole{ID: fmt.Sprint(row, i), Row: row, X: mm(x), Y: mm(y), Diameter: mm(11)})
			}
		}
		change(b)
		policy := catalog.DefaultPolicy()
		policy.WallSchool = "stud_and_anchors"
		p := fit.Judge(d, b, 0, fit.Extra{}, policy)
		n := 0
		for _, pt := range Place(&p, job)[0].Points {
			if pt.Beside {
				n++
			}
		}
		return n
	}
	move := func(x quantity.Length, of ...int) func(*catalog.Bracket) {
		return func(b *catalog.Bracket) {
			for _, i := range of {
				b.WallPlate.Holes[i].X = x
			}
		}
	}
	for _, c := range []struct {
		name   string
		change func(*catalog.Bracket)
		want   int
	}{
		{"as it is", func(*catalog.Bracket) {}, 4},
		{"a nanometre beside the stud", move(mm(24)+1, 2, 5), 4},
		{"at the stud", move(mm(24), 2, 5), 0},
		{"left, at the stud", move(-mm(24), 0, 3), 0},
		{"left, beside it", move(-mm(24)-1, 0, 3), 4},
		{"as many as the kit has", func(b *catalog.Bracket) { b.Kit[len(b.Kit)-1].Count = 4 }, 4},
		{"one fewer in the kit", func(b *catalog.Bracket) { b.Kit[len(b.Kit)-1].Count = 3 }, 0},
	} {
		if got := beside(c.change); got != c.want {
			t.Errorf("%s: %d anchors, not %d", c.name, got, c.want)
		}
	}
}

// TestAssumedMildly: an assumption that is milder than what is on record by a hair is said, one that is the same is not; what is of wood
// counts in wood alone.
func TestAssumedMildly(t *testing.T) {
	out := Strength{Load: 20 * quantity.Kilogram, Reach: mm(300), Eccentricity: -mm(40), InWood: true, Penetration: mm(38), Gravity: 0.42}
	gravity := quantity.Ratio(0.42 * float64(quantity.One))
	for name, c := range map[string]struct {
		same, milder catalog.Assumptions
		wood         bool
	}{
		"load":       {catalog.Assumptions{Load: quantity.Some(out.Load)}, catalog.Assumptions{Load: quantity.Some(out.Load - 1)}, false},
		"reach":      {catalog.Assumptions{Reach: quantity.Some(out.Reach)}, catalog.Assumptions{Reach: quantity.Some(out.Reach - 1)}, false},
		"load aside": {catalog.Assumptions{Aside: quantity.Some(mm(40))}, catalog.Assumptions{Aside: quantity.Some(1 - mm(40))}, false},
		"depth in the wood": {catalog.Assumptions{Penetration: quantity.Some(mm(38))},
			catalog.Assumptions{Penetration: quantity.Some(mm(38) + 1)}, true},
		"wood": {catalog.Assumptions{Gravity: quantity.Some(gravity)}, catalog.Assumptions{Gravity: quantity.Some(gravity + 1)}, true},
	} {
		said := func(a catalog.Assumptions, wood bool) string {
			s, of := setting{Job: &catalog.Job{Assume: a}}, out
			of.InWood = wood
			return strings.Join(s.optimistic(&of), ", ")
		}
		if got := said(c.same, true); got != "" {
			t.Errorf("the same %s is milder: %s", name, got)
		}
		if got := said(c.milder, true); got != name {
			t.Errorf("a milder %s: %q", name, got)
		}
		if got := said(c.milder, false); (got == "") != c.wood {
			t.Errorf("a milder %s without wood: %q", name, got)
		}
	}
}
