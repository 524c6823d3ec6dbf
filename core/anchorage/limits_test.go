package anchorage

import (
	"math"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// TestConesOfARow: fixings up to 20 mm apart in height are a row. Embedment 100: to each side 150 count at most. The neighbour is 100 away:
// in the row 50 of 150 are left to one side, (150 + 50) / 300; in the next row 10 of 150 below, (150 + 10) / 300.
func TestConesOfARow(t *testing.T) {
	mm := quantity.MM
	for _, c := range []struct {
		up   quantity.Length
		want float64
	}{{mm(20), 2. / 3}, {-mm(20), 2. / 3}, {mm(20) + 1, 160. / 300}, {-mm(20) - 1, 160. / 300}} {
		for _, side := range []quantity.Length{1, -1} {
			got := Cone([]Point{{}, {X: side * mm(100), Y: c.up}}, 0, mm(100), Bounds{})
			if math.Abs(got-c.want) > 1e-6 {
				t.Errorf("a neighbour %v higher: %v, want %v", c.up, got, c.want)
			}
		}
	}
	one := []Point{{}}
	for _, c := range []struct {
		in   Bounds
		want float64
	}{
		{Bounds{}, 1}, {Bounds{Left: quantity.Some(-mm(150))}, 1}, {Bounds{Left: quantity.Some(-mm(75))}, 225. / 300},
		{Bounds{Right: quantity.Some(mm(75))}, 225. / 300}, {Bounds{Bottom: quantity.Some(-mm(75))}, 225. / 300},
		{Bounds{Top: quantity.Some(mm(75)), Right: quantity.Some(mm(30))}, 225. / 300 * 180 / 300}, {Bounds{Top: quantity.Some(-mm(1))}, 0.5},
	} {
		if got := Cone(one, 0, mm(100), c.in); math.Abs(got-c.want) > 1e-9 {
			t.Errorf("%+v: %v, want %v", c.in, got, c.want)
		}
	}
	if Cone(one, 0, 0, Bounds{}) != 0 {
		t.Error("what is in nothing has a cone")
	}
}

// TestBehindMasonry: 30 mm stay behind a hole, or two diameters (usual approvals, memory).
func TestBehindMasonry(t *testing.T) {
	mm := quantity.MM
	for d, want := range map[quantity.Length]quantity.Length{mm(6): mm(30), mm(15): mm(30), mm(15) + 1: mm(30) + 2, mm(20): mm(40)} {
		if got := behindMasonry(d); got != want {
			t.Errorf("behind %v: %v, want %v", d, got, want)
		}
	}
}

// TestWidthsOfHeads: a wood screw's head is twice its diameter wide; a lag's across the flats of its hexagon: 10, 13 and 17 mm for 6, 8 and
// 10 (DIN 571, memory), in proportion between and beyond.
func TestWidthsOfHeads(t *testing.T) {
	mm := quantity.MM
	for _, c := range []struct {
		kind  catalog.ItemKind
		d     quantity.Length
		width quantity.Length
	}{{catalog.Screw, mm(5), mm(10)}, {catalog.Lag, mm(6), mm(10)}, {catalog.Lag, mm(7), mm(23) / 2}, {catalog.Lag, mm(8), mm(13)},
		{catalog.Lag, mm(9), mm(15)}, {catalog.Lag, mm(10), mm(17)}, {catalog.Lag, mm(3), mm(5)}, {catalog.Lag, mm(20), mm(34)}} {
		if got := headWidth(&catalog.Item{Kind: c.kind, Diameter: c.d}); got != c.width {
			t.Errorf("%s %v: %v wide, want %v", c.kind, c.d, got, c.width)
		}
	}
}

// TestBitsByKind: a fastener's own bit; of a plug, a sleeve or a frame fixing its size, as it is; of a concrete screw eight tenths of
// it, in half millimetres (practice); none for what its maker says.
func TestBitsByKind(t *testing.T) {
	mm := quantity.MM
	for _, c := range []struct {
		item  catalog.Item
		bit   quantity.Length
		known bool
	}{
		{catalog.Item{Kind: catalog.Plug, Diameter: mm(10), Drill: mm(9)}, mm(9), true},
		{catalog.Item{Kind: catalog.Lag, Drill: mm(5)}, mm(5), true},
		{catalog.Item{Kind: catalog.Plug, Diameter: mm(31) / 5}, mm(31) / 5, true},
		{catalog.Item{Kind: catalog.SleeveAnchor, Diameter: mm(12)}, mm(12), true},
		{catalog.Item{Kind: catalog.FrameFixing, Diameter: mm(10)}, mm(10), true},
		{catalog.Item{Kind: catalog.ConcreteScrew, Diameter: mm(8)}, mm(13) / 2, true}, // 6.4
		{catalog.Item{Kind: catalog.ConcreteScrew, Diameter: mm(10)}, mm(8), true},
		{catalog.Item{Kind: catalog.Plug}, 0, false}, {catalog.Item{Kind: catalog.Lag, Diameter: mm(8)}, 0, false},
		{catalog.Item{Kind: catalog.Toggle, Diameter: mm(5)}, 0, false},
	} {
		if bit, known := BitFor(&c.item); bit != c.bit || known != c.known {
			t.Errorf("%+v: %v, %v; want %v", c.item, bit, known, c.bit)
		}
	}
}
