package place

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// TestWhatWouldHelpOnTheWall: each help is named where it is of use, and what it
// names does it.
// named makes a bracket's table name a fastener for a wall.
func named(b *catalog.Bracket, w catalog.WallType, name string) {
	said := b.Walls[w]
	said.Fasteners = []string{name}
	b.Walls[w] = said
}

func TestWhatWouldHelpOnTheWall(t *testing.T) {
	lag := func(length int64) catalog.Item {
		return catalog.Item{Kind: catalog.Lag, Name: fmt.Sprint("lag ", length), Diameter: mm(8), Length: mm(length), Count: 4, Bag: "W"}
	}
	frame := func(length int64, sleeve quantity.Length) catalog.Item {
		return catalog.Item{Kind: catalog.FrameFixing, Name: fmt.Sprint("frame ", length), Diameter: mm(10), Length: mm(length),
			Root: quantity.FromMM(5.77), Sleeve: sleeve,
			Count: 4, RatingBasis: "rated",
			Ratings: map[catalog.BaseMaterial]catalog.Rating{"lined_masonry": {Pull: 200 * quantity.Kilogram, Shear: 200 * quantity.Kilogram}}}
	}
	none := func(*catalog.Display, *catalog.Bracket, *catalog.Job) {}
	for name, c := range map[string]struct {
		rule         fit.RuleID
		says         string
		setUp, doing func(*catalog.Display, *catalog.Bracket, *catalog.Job)
	}{
		"a longer one": {FastenerRule, "Lag screw 8 × 70 of the kit would do.", func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Job) {
			b.Kit = append([]catalog.Item{lag(45)}, b.Kit...)
			named(b, catalog.WoodStud, "lag 45")
		}, func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Job) { named(b, catalog.WoodStud, "lag") }},
		"a shorter one": {DepthRule, "Lag 60 of the kit would do.", func(_ *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
			b.Kit, j.Wall.Backing = append([]catalog.Item{lag(120), lag(60)}, slices.Concat(b.Kit[:2], b.Kit[5:6])...), some(63)
			named(b, catalog.WoodStud, "lag 120")
		}, func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Job) { named(b, catalog.WoodStud, "lag") }},
		"one with a sleeve": {StrengthRule, "Frame 200 of the kit would do.",
			func(_ *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
				j.Wall.Type, j.Wall.Studs, j.Wall.Covering, j.Wall.Cavity = catalog.LinedMasonry, nil, some(12), some(100)
				j.Wall.Height = some(2600)
				b.Kit = append([]catalog.Item{frame(190, 0), frame(200, mm(30))}, slices.Concat(b.Kit[:2], b.Kit[5:6])...)
				b.Walls[catalog.LinedMasonry] = catalog.WallFixing{Fasteners: []string{"frame 190"}}
				j.Wall.Backing = some(240)
			}, func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Job) {
				named(b, catalog.LinedMasonry, "frame_fixing")
			}},
		"the plate under the load": {StrengthRule, "with what holds it behind it, it would do",
			func(d *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
				// 30 kg on a single stud, 60 mm beside the display's middle, on thin lags.
				d.Mass, b.RatedLoad = catalogtest.Mass(30_000), catalogtest.Mass(60_000)
				b.WallPlate.StudsRequired, b.WallPlate.LateralSlide = 1, some(120)
				b.Kit[2].Diameter, b.Kit[2].Length = mm(6), mm(65)
				said := b.Walls[catalog.WoodStud]
				said.Drill = some(4)
				b.Walls[catalog.WoodStud] = said
				j.Place.X = some(1732)
			}, none},
	} {
		before := one(t, func(d *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
			j.Place.X = some(1650)
			c.setUp(d, b, j)
		})
		got := check(&before, c.rule)
		if got.Status == fit.Pass || !strings.Contains(got.Remedy.In(quantity.Metric), c.says) {
			t.Errorf("%s: %s is %s: %s %s", name, c.rule, got.Status, got.Text.In(quantity.Metric), got.Remedy.In(quantity.Metric))
			continue
		}
		after := one(t, func(d *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
			j.Place.X = some(1650)
			c.setUp(d, b, j)
			c.doing(d, b, j)
			if before.MoveX.Known {
				j.Place.X = quantity.Some(j.Place.X.Value + before.MoveX.Value)
			}
		})
		if got := check(&after, c.rule); got.Status == fit.Fail || got.Status == fit.Unknown {
			t.Errorf("%s does not help: %s", name, got.Text.In(quantity.Metric))
		}
	}
}
