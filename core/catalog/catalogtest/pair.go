// Package catalogtest has a display and a bracket for tests to change.
package catalogtest

import (
	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

var mm = quantity.MM

// Length is a known length of whole millimetres.
func Length(l int64) quantity.Optional[quantity.Length] { return quantity.Some(mm(l)) }

// Mass is a known mass of whole grams.
func Mass(grams int64) quantity.Optional[quantity.Mass] {
	return quantity.Some(quantity.Mass(grams) * quantity.Gram)
}

// Pair is a display and a bracket of which every rule passes, made anew each
// time. The bracket has slotted arms, a wall plate of six slots, a kit, and
// fixings for wood studs and concrete.
func Pair() (*catalog.Display, *catalog.Bracket) {
	d := &catalog.Display{ID: "crust-49", Model: "Crust 49", Diagonal: Length(1232), Width: Length(1095), Height: Length(634),
		Depth: Length(61), Mass: Mass(14200)}
	d.Patterns = []catalog.Pattern{Pattern(200, 200, fastener.M6, 14)}
	b := &catalog.Bracket{
		ID: "rail-40", Name: "Rail 40", Kind: "fixed", Turns: []catalog.Turn{0,
			90}, RowsUsed: []string{"top", "bottom"}, RatedLoad: Mass(36000), Mass: Mass(2000), LiftOver: Length(22),
		DiagonalMin: Length(940), DiagonalMax: Length(1780), Threads: []fastener.Thread{fastener.M4, fastener.M6},
		PlateThickness: 2_500_000, SlotWidth: Length(9),
		Interface: catalog.Interface{Type: catalog.Arms, WidthMin: quantity.Some(mm(100)), WidthMax: quantity.Some(mm(610)), ArmWidth: mm(34),
			RailWidth: Length(680),
			ArmTop:    quantity.Some(mm(14)), ArmBottom: quantity.Some(mm(452)), Slots: []fastener.Interval{{Min: mm(20), Max: mm(160)},
				{Min: mm(200), Max: mm(430)}}},
		WallPlate: &catalog.WallPlate{Count: 1, Width: Length(480), Height: Length(230), Thickness: Length(3), Washer: 1_600_000,
			HookAboveDatum: mm(96),
			StudsRequired:  2, TopPerStud: 1, BottomPerStud: 1},
		Kit: []catalog.Item{
			{Kind: catalog.Bolt, Thread: fastener.M6, Length: mm(12), Count: 4, Bag: "B"},
			{Kind: catalog.Washer, Thread: fastener.M6, Thickness: 1_600_000, Outer: mm(18), Count: 4, Bag: "B"},
			{Kind: catalog.Lag, Diameter: mm(8), Length: mm(70), Count: 6, Bag: "W"},
			{Kind: catalog.Plug, Diameter: mm(10), Length: mm(60), Count: 4, Bag: "W", Pull: 90 * quantity.Kilogram, Shear: 120 * quantity.Kilogram,
				RatingBasis: "rated"},
			{Kind: catalog.Tool, Name: "hex key 5 mm", Count: 1, Bag: "T"},
			{Kind: catalog.LagWasher, Diameter: mm(8), Outer: mm(16), Thickness: 1_600_000, Count: 6, Bag: "W"},
		},
		Profile: Length(52),
		Walls: map[catalog.WallType]catalog.WallFixing{
			catalog.WoodStud: {Drill: quantity.Some(mm(11) / 2), Depth: Length(72), CoveringMax: Length(16), Fasteners: []string{"lag"}},
			catalog.Concrete: {Drill: Length(10), Depth: Length(70), Fasteners: []string{"lag"}},
		},
	}
	for _, y := range []int64{95, -95} {
		for i, x := range []int64{-200, 0, 200} {
			b.WallPlate.Holes = append(b.WallPlate.Holes, catalog.PlateHole{
				ID: map[bool]string{true: "T", false: "B"}[y > 0] + string(rune('1'+i)), Row: map[bool]string{true: "top", false: "bottom"}[y > 0],
				Shape: "slot_h", X: mm(x), Y: mm(y), Travel: mm(40), Diameter: mm(9)})
		}
	}
	return d, b
}

// Pattern is a pattern of two equal rows, its centre 352 below the top.
func Pattern(w, h int64, t fastener.Thread, depth int64) catalog.Pattern {
	row := &catalog.HoleFigures{Setback: Length(0), Recess: Length(0), ThreadDepth: Length(depth)}
	d := catalog.Display{Patterns: []catalog.Pattern{{Width: mm(w), Height: mm(h), Thread: t, CenterBelowTop: Length(352),
		Rows: &catalog.Rows{Top: row, Bottom: row}}}}
	d.Complete()
	return d.Patterns[0]
}
