package place

import (
	"slices"
	"strings"
	"testing"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// Parts of rules by themselves, at what they turn on.

// TestOuterHole: the hole that is farthest to a side, of its own row.
func TestOuterHole(t *testing.T) {
	holes := []catalog.PlateHole{{ID: "a", X: mm(-200), Row: "bottom"}, {ID: "b", X: mm(-100), Row: "top"}, {ID: "c", X: mm(100), Row: "top"},
		{ID: "d", X: mm(300), Row: "bottom"}}
	for side, want := range map[quantity.Length]string{-1: "b", 1: "c"} {
		if h := outerHole(holes, "top", side); h == nil || h.ID != want {
			t.Errorf("%v: %+v", side, h)
		}
	}
	if h := outerHole(holes, "middle", 1); h != nil {
		t.Error(h)
	}
}

// TestThroughBoard: what fails for one of two fasteners stays failed, whatever is not known of the other. A toggle of 8 has to come past
// 12 of board and 8 more; of 50, through 20 of plate and washer, comes 30.
func TestThroughBoard(t *testing.T) {
	toggle := func(length int64) catalog.Item {
		return catalog.Item{Kind: catalog.Toggle, Diameter: mm(8), Length: mm(length)}
	}
	for _, c := range []struct {
		first, second int64
		covering      quantity.Optional[quantity.Length]
		want          fit.Status
	}{{50, 50, some(12), ok}, {50, 40, some(12), ok}, {50, 39, some(12), wrong}, {39, 50, some(12), wrong}, {39, 0, some(12), wrong},
		{50, 50, quantity.Optional[quantity.Length]{}, open}, {40, 40, quantity.Some(mm(12) + 1), wrong}} {
		second := toggle(c.second)
		var p Placement
		p.Job = &catalog.Job{}
		p.Choice = anchorage.Choice{Item: toggle(c.first), Beside: &second}
		p.Layers = anchorage.Layers{Plate: some(18), Washer: mm(2), Covering: c.covering}
		if got := p.throughBoard(fit.Check{}); got.Status != c.want {
			t.Errorf("%d and %d: %s, %s", c.first, c.second, got.Status, got.Text.In(quantity.Metric))
		}
	}
}

// TestMadeForTheWall: nothing said, said unclearly, and what is made for something else.
func TestMadeForTheWall(t *testing.T) {
	for want, choice := range map[fit.Status]anchorage.Choice{
		open:  {Said: true, Unclear: quantity.Say("Which?")},
		wrong: {Said: true, Wrong: quantity.Say("Not that.")},
		ok:    {Said: true, Item: catalog.Item{Kind: catalog.SleeveAnchor}},
	} {
		var p Placement
		p.Job = &catalog.Job{Wall: catalog.Wall{Type: catalog.Concrete}}
		p.Pairing = &fit.Pairing{Bracket: &catalog.Bracket{}}
		p.Choice = choice
		if got := p.madeFor(); got.Status != want {
			t.Errorf("%s for %s", got.Status, want)
		}
	}
}

// TestWhatIsMissing of a fastener through a layer: of a plug, its length or how much of it is sound.
func TestWhatIsMissing(t *testing.T) {
	for length, want := range map[quantity.Length]bool{0: true, mm(50): false} {
		var p Placement
		p.Layers = anchorage.Layers{Plate: some(2), Covering: some(2), Cavity: some(0), Backing: some(100)}
		p.Choice = anchorage.Choice{Item: catalog.Item{Length: mm(60)}, Plug: &catalog.Item{Kind: catalog.Plug, Length: length}}
		if got := p.missingLayer().In(quantity.Metric); strings.Contains(got, "plug") != want {
			t.Errorf("a plug of %v: %s", length, got)
		}
	}
}

// TestScrewThroughSheet: of a wall plate or a covering of unknown thickness nobody knows whether a screw comes through the sheet.
func TestScrewThroughSheet(t *testing.T) {
	screw := func(change func(*catalog.Bracket, *catalog.Job)) change {
		return on(func(_ *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
			onSheet(mm(2), b, j)
			change(b, j)
		})
	}
	for name, c := range map[string]struct {
		vary change
		want fit.Status
	}{
		"the covering": {screw(func(_ *catalog.Bracket, j *catalog.Job) { j.Wall.Covering = quantity.Optional[quantity.Length]{} }), open},
		"the plate": {screw(func(b *catalog.Bracket, _ *catalog.Job) {
			b.WallPlate.Thickness = quantity.Optional[quantity.Length]{}
		}), open},
	} {
		p := one(t, c.vary)
		judgedAs(t, name, &p, FastenerRule, c.want)
	}
}

// TestWhatStrengthNeeds: a screw in sheet is judged by the sheet, a toggle in it by what it is said to hold, and so is a screw elsewhere.
func TestWhatStrengthNeeds(t *testing.T) {
	for _, c := range []struct {
		wall  catalog.WallType
		kind  catalog.ItemKind
		needs bool
	}{{catalog.MetalStud, catalog.Screw, false}, {catalog.MetalStud, catalog.Toggle, true}, {catalog.HollowBoard, catalog.Screw, true},
		{catalog.HollowBoard, catalog.Toggle, true}} {
		p := one(t, on(func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Wall.Type = c.wall }))
		f := p.Fixing
		f.Choice = anchorage.Choice{Wall: c.wall, Said: true, Item: catalog.Item{Kind: c.kind, Diameter: mm(5), Length: mm(40), Count: 4}}
		asked := slices.ContainsFunc(p.setting.missingForStrength(&f, true, true), func(what quantity.Phrase) bool {
			return strings.Contains(what.In(quantity.Metric), "holds in")
		})
		if asked != c.needs {
			t.Errorf("%s in %s: %v", c.kind, c.wall, asked)
		}
	}
}

// TestLagsInTheFirstStud are apart as in any other.
func TestLagsInTheFirstStud(t *testing.T) {
	for stud, want := range []fit.Status{wary, wary} {
		p := one(t, on(func(*catalog.Display, *catalog.Bracket, *catalog.Job) {}))
		for i := range p.Points {
			p.Points[i].Stud, p.Points[i].X, p.Points[i].Y = stud, mm(1000), mm(int64(1000+20*i))
		}
		p.Choice.Item.Diameter = mm(8)
		c, _ := p.usualInWood(fit.Check{})
		if c.Status != want {
			t.Errorf("stud %d: %s", stud, c.Status)
		}
	}
}

// TestMasonryIsThickEnough: behind the hole are 30 mm, or two of its diameters, whichever is more; in steps of 5.
func TestMasonryIsThickEnough(t *testing.T) {
	for bore, want := range map[quantity.Length]quantity.Length{mm(14): mm(130), mm(15): mm(130), mm(15) + 1: mm(135), mm(20): mm(140)} {
		var p Placement
		p.Layers = anchorage.Layers{Covering: some(10), Cavity: some(0)}
		p.Hole.Need, p.Hole.Diameter = some(110), quantity.Some(bore)
		if got := p.thickEnough(mm(40)); got != want {
			t.Errorf("a hole of %v: %v", bore, got)
		}
	}
}

// TestEdgeFails: the load that breaks an edge of concrete out fails, and a newton less does not. 100 from the floor, d 10, h_ef 55.4: see
// TestEdgeBreaksOut for the formula.
func TestEdgeFails(t *testing.T) {
	p := one(t, func() change {
		return concrete(400, 500, "rated", func(b *catalog.Bracket, _ *catalog.Job) {
			i := &b.Kit[len(b.Kit)-1]
			i.EdgeMin, i.SpacingMin = mm(50), mm(50)
		})
	}())
	a := *p.Strength.Assessment
	p.Strength.Assessment = &a
	for i := range p.Points {
		p.Points[i].Y -= p.Points[0].Y - mm(100)
	}
	hef := anchorage.Effective(&p.Choice, &p.Layers)
	least := EdgeShear(p.Hole.Diameter.Or(p.Choice.Carrier().Diameter), hef, p.points()[0].Y-p.bounds().Bottom.Value)
	for off, want := range map[float64]fit.Status{0: ok, -1: ok, 1: wrong} {
		a.Straight = make([]anchorage.Force, len(p.Points))
		a.Straight[0].Down = least + off
		c, _ := p.inMasonry(fit.Check{})
		if c.Status != want || want == wrong && !strings.Contains(c.Text.In(quantity.Metric), "breaks out at 99 %") {
			t.Errorf("%g N beyond %g: %s, %s", off, least, c.Status, c.Text.In(quantity.Metric))
		}
	}
	// Twelve diameters of an anchor are the most that count: of 6, no more than 72 of 100.
	if short, long := EdgeShear(mm(6), mm(72), mm(100)), EdgeShear(mm(6), mm(100), mm(100)); short != long {
		t.Errorf("%g and %g N", short, long)
	}
	if short, long := EdgeShear(mm(6), mm(71), mm(100)), EdgeShear(mm(6), mm(72), mm(100)); short >= long {
		t.Errorf("%g and %g N", short, long)
	}
}

// TestStandsOnNoWall: what a pairing stands on is said without a place as well.
func TestStandsOnNoWall(t *testing.T) {
	d, b, job := sitePair()
	p := fit.Judge(d, b, job.Turn, fit.ExtraOf(job), catalog.DefaultPolicy())
	if got := StandsOn(&p, nil); len(got) != len(p.Assumed()) {
		t.Error(len(got))
	}
}

// TestImproves: no fails and nothing unknown for a fail; for cautions, none at all.
func TestImproves(t *testing.T) {
	with := func(all ...fit.Status) *Placement {
		p := &Placement{}
		p.Points = append(p.Points, p.Points[:0]...)
		held := one(t, on(func(*catalog.Display, *catalog.Bracket, *catalog.Job) {}))
		p.Points = held.Points
		for _, s := range all {
			p.Checks = append(p.Checks, fit.Check{Finding: fit.Finding{Rule: StrengthRule, Status: s}})
		}
		return p
	}
	for _, c := range []struct {
		is   *Placement
		bad  tally
		want bool
	}{
		{with(wary), tally{cautions: 1}, false}, {with(), tally{cautions: 1}, true}, {with(wary), tally{fails: 1}, true},
		{with(wrong), tally{fails: 2}, false}, {with(open), tally{fails: 1}, false}, {with(), tally{}, false},
	} {
		if got := c.is.improves(c.bad); got != c.want {
			t.Errorf("%v for %+v", got, c.bad)
		}
	}
}

// TestSnap: the nearest spot within reach, its end included; half a millimetre is the grid.
func TestSnap(t *testing.T) {
	spots := []spot{{at: mm(100)}, {at: mm(106)}}
	for x, want := range map[quantity.Length]quantity.Length{mm(88): mm(100), mm(88) - 1: mm(88), mm(102): mm(100), mm(104): mm(106),
		mm(118): mm(106), mm(118) + 1: mm(118)} {
		if got, _ := snapped(x, spots, mm(12)); got != want {
			t.Errorf("%v: %v", x, got)
		}
	}
	w := catalog.Wall{Outlets: []catalog.Outlet{{X: mm(1000)}}}
	if got := besideOutlets(&w, mm(40)); len(got) != 2 || got[0].at != mm(1000)-besideStud-mm(20) || got[1].at != mm(1000)+besideStud+mm(20) {
		t.Error(got)
	}
}

// TestNoStudsToFind: of a wall without studs nobody says where a plate finds them.
func TestNoStudsToFind(t *testing.T) {
	p := one(t, concrete(400, 500, "rated", nil))
	if got := p.Allowed(0, mm(3600), false); got != nil {
		t.Error(got)
	}
}

// TestTwoPlatesWithoutARail: a rail that is not on record is not too short.
func TestTwoPlatesWithoutARail(t *testing.T) {
	p := one(t, on(func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Job) {
		b.Interface.RailWidth = quantity.Optional[quantity.Length]{}
		b.WallPlate.Count, b.WallPlate.SeparationRange = 2, &fastener.Interval{Min: mm(1500), Max: mm(1500)}
	}))
	if _, onRecord := p.rail(); onRecord {
		t.Fatal("it is on record")
	}
	if c := check(&p, PlateRule); strings.Contains(c.Text.In(quantity.Metric), "rail") {
		t.Errorf("%s: %s", c.Status, c.Text.In(quantity.Metric))
	}
}

// TestLowestUnknown: of a display whose tilt nobody knows, above head height, nobody knows how low it hangs.
func TestLowestUnknown(t *testing.T) {
	for bottom, want := range map[quantity.Length]fit.Status{headroom: open, headroom - 1: wary, caneHeight: ok, caneHeight + 1: wary} {
		p := one(t, on(func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Place.Public = true }))
		p.Tilt, p.Bottom = TiltReach{}, bottom
		p.ToFront = some(120)
		if c := p.projection()[0]; c.Status != want {
			t.Errorf("at %v: %s, %s", bottom, c.Status, c.Text.In(quantity.Metric))
		}
	}
}

// TestSheetAsSold: to a hundredth of a millimetre, and to a thousandth of an inch.
func TestSheetAsSold(t *testing.T) {
	for l, want := range map[quantity.Length][2]string{1_500_000: {"1.5 mm", "0.059 in"}, 454_999: {"0.45 mm", "0.018 in"},
		455_000: {"0.46 mm", "0.018 in"}, 838_200: {"0.84 mm", "0.033 in"}} {
		if got := sheet(l); got.Metric != want[0] || got.Imperial != want[1] {
			t.Errorf("%v: %+v", l, got)
		}
	}
}

// TestAnchorBesideIsAskedFor: of an anchor beside the stud it has to be known what it holds in board; of one that is nowhere, not.
func TestAnchorBesideIsAskedFor(t *testing.T) {
	p := one(t, on(func(*catalog.Display, *catalog.Bracket, *catalog.Job) {}))
	for _, beside := range []bool{true, false} {
		f := p.Fixing
		f.Points = slices.Clone(f.Points)
		f.Points[len(f.Points)-1].Beside = beside
		f.Choice.Beside = &catalog.Item{Kind: catalog.Toggle, Name: "wing"}
		asked := slices.ContainsFunc(p.setting.missingForStrength(&f, true, true), func(what quantity.Phrase) bool {
			return strings.Contains(what.In(quantity.Metric), "holds in board")
		})
		if asked != beside {
			t.Errorf("beside %v: %v", beside, asked)
		}
	}
}
