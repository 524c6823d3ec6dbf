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

// TestShortHole: the maker's hole is shorter than what the fastener needs, not as deep.
func TestShortHole(t *testing.T) {
	mm := quantity.MM
	for maker, want := range map[quantity.Length]bool{mm(60): false, mm(60) - 1: true, mm(61): false} {
		if got := (Hole{Maker: quantity.Some(maker), Need: quantity.Some(mm(60))}).Short(); got != want {
			t.Errorf("%v for 60 mm: %v", maker, got)
		}
	}
	if (Hole{Maker: quantity.Some(mm(1))}).Short() || (Hole{Need: quantity.Some(mm(1))}).Short() {
		t.Error("short of what nobody knows")
	}
}

// TestScrewsInThinBoards: a screw of 5 asks for 30 (six diameters, practice). In a board that is thinner than 33 two thirds of it are a
// caution, a nanometre less is not enough.
func TestScrewsInThinBoards(t *testing.T) {
	mm := quantity.MM
	for _, c := range []struct {
		board, in   quantity.Length
		short, soft bool
	}{
		{mm(33), mm(30), false, false}, {mm(33), mm(30) - 1, true, false}, {mm(33) - 1, mm(30) - 1, true, true},
		{mm(18), mm(12), true, true}, {mm(18), mm(12) - 1, true, false}, {mm(18), mm(18), true, true},
	} {
		b := kitBracket(map[catalog.WallType][]string{catalog.HollowBoard: {"screw"}})
		choice := Choice{Wall: catalog.HollowBoard, Said: true, Item: catalog.Item{Kind: catalog.Screw, Diameter: mm(5), Length: c.in}}
		none := quantity.Some(quantity.Length(0))
		r := Penetration(b, &choice, &Layers{Plate: none, Covering: none, Cavity: none, Backing: quantity.Some(c.board)})
		if r.Short > 0 != c.short || r.Soft != c.soft {
			t.Errorf("%v in a board of %v: short by %v, soft %v", c.in, c.board, r.Short, r.Soft)
		}
	}
}

// TestRatingsOfSheetsAndBoards: what was found in thicker sheet or board does not hold in thinner.
func TestRatingsOfSheetsAndBoards(t *testing.T) {
	mm := quantity.MM
	rated := func(r catalog.Rating, wall catalog.WallType) Choice {
		return Choice{Wall: wall, Said: true, Item: catalog.Item{Kind: catalog.Toggle, Ratings: map[catalog.BaseMaterial]catalog.Rating{
			catalog.BaseMaterial(wall): r}}}
	}
	board := catalog.Rating{Pull: quantity.Kilogram, Shear: quantity.Kilogram, Board: mm(12)}
	for thick, want := range map[quantity.Length]bool{mm(12): true, mm(12) - 1: false, mm(13): true} {
		c := rated(board, catalog.HollowBoard)
		if _, ok := c.Rating(&Layers{Covering: quantity.Some(thick)}); ok != want {
			t.Errorf("in a board of %v: %v", thick, ok)
		}
	}
	c := rated(board, catalog.HollowBoard)
	if _, ok := c.Rating(&Layers{}); ok {
		t.Error("in a board of which nobody knows how thick it is")
	}
	for thick, want := range map[quantity.Length]bool{mm(2): true, mm(2) - 1: false} {
		c := rated(catalog.Rating{Pull: quantity.Kilogram, Shear: quantity.Kilogram, Steel: mm(2)}, catalog.MetalStud)
		c.Steel = quantity.Some(thick)
		if _, ok := c.Rating(&Layers{}); ok != want {
			t.Errorf("in sheet of %v: %v", thick, ok)
		}
	}
}

// TestBitsThatDisagree: the bracket's table and the fastener's own bit, half a millimetre apart and a nanometre more.
func TestBitsThatDisagree(t *testing.T) {
	mm := quantity.MM
	for d, want := range map[quantity.Length]bool{mm(10): false,
		mm(21) / 2: false, mm(21)/2 + 1: true, mm(19) / 2: false, mm(19)/2 - 1: true} {
		c := Choice{Wall: catalog.Concrete, Item: catalog.Item{Kind: catalog.SleeveAnchor, Diameter: mm(10), Drill: mm(10)}}
		if got := BoreOf(&c, &Hole{Diameter: quantity.Some(d)}, 0); (got.Fit == BoreDisputed) != want {
			t.Errorf("%v for a bit of 10: %v", d, got.Fit)
		}
	}
}

// TestBesideTheStud: what stands beside a stud is judged by what it holds in the board, and the others are not.
func TestBesideTheStud(t *testing.T) {
	toggle := catalog.Item{Kind: catalog.Toggle, RatingBasis: "rated", Ratings: map[catalog.BaseMaterial]catalog.Rating{
		"hollow_board": {Pull: 20 * quantity.Kilogram, Shear: 10 * quantity.Kilogram}}}
	c := Case{Choice: Choice{Wall: catalog.WoodStud, Said: true, Beside: &toggle}, Points: []Point{{}, {Beside: true}}}
	a := Assessment{Rated: true}
	c.beside(&a)
	if a.Beside == nil || !a.Rated {
		t.Fatalf("%+v", a)
	}
	if a.capacityOf(&c.Points[0]) != &a.Capacity || a.capacityOf(&c.Points[1]) != a.Beside {
		t.Error("the other's")
	}
	unrated := toggle
	unrated.Ratings = nil
	c.Choice.Beside = &unrated
	a = Assessment{Rated: true}
	if c.beside(&a); a.Rated {
		t.Error("rated")
	}
	a = Assessment{}
	c.Choice.Beside = &toggle
	if c.beside(&a); a.Rated {
		t.Error("rated, where the stud's is not")
	}
	a = Assessment{Rated: true}
	c.Points = c.Points[:1]
	if c.beside(&a); a.Beside != nil {
		t.Error("none is beside")
	}
}

// TestOneRow: fasteners at the plate's lower edge take no pull by turning about it: it is without an end.
func TestOneRow(t *testing.T) {
	mm := quantity.MM
	points := []Point{{X: 0, Y: mm(1000)}, {X: mm(400), Y: mm(1000)}}
	for edge, want := range map[quantity.Length]bool{mm(1000): true, mm(999): false} {
		out := make([]Force, 2)
		NewBolted(points, edge).Forces([]Weight{{Force: 100, Out: 50, X: 200}}, out)
		if got := math.IsInf(out[0].Pull, 1); got != want {
			t.Errorf("from %v: %g N", edge, out[0].Pull)
		}
	}
	// A force straight out, at the height of one of two rows, or beyond one.
	rows := []Point{{Y: mm(100)}, {Y: mm(300)}}
	b := NewBolted(rows, 0)
	for _, c := range []struct{ at, low, high float64 }{
		{400, 500, 1200}, // 1000·400·y/(100² + 300²) of the lower edge
		{0, 1200, 500},   // 1000·400·(400 − y)/(300² + 100²) of the upper
		{200, 600, 600},
	} {
		out := b.outward(1000, c.at, 400)
		if math.Abs(out[0]-c.low) > 1e-9 || math.Abs(out[1]-c.high) > 1e-9 {
			t.Errorf("at %g: %g", c.at, out)
		}
	}
	if out := NewBolted(points, mm(1000)).outward(1000, 0, 0); out[0] != 500 || out[1] != 500 {
		t.Errorf("one row in a plate of no height: %g", out)
	}
}

// TestNearestEdges: the next fastener, and the nearest of the edges that are known.
func TestNearestEdges(t *testing.T) {
	mm := quantity.MM
	points := []Point{{X: mm(100), Y: mm(200)}, {X: mm(400), Y: mm(600)}}
	at := func(v int64) optional { return quantity.Some(mm(v)) }
	for name, c := range map[string]struct {
		in   Bounds
		edge quantity.Optional[quantity.Length]
	}{
		"none": {}, "left": {Bounds{Left: at(10)}, at(90)}, "right": {Bounds{Right: at(450)}, at(50)},
		"below": {Bounds{Bottom: at(30)}, at(170)}, "above": {Bounds{Top: at(640)}, at(40)},
		"all": {Bounds{at(10), at(450), at(30), at(640)}, at(40)}, "beyond one": {Bounds{Right: at(399), Left: at(10)}, at(-1)},
	} {
		if spacing, edge := Nearest(points, c.in); edge != c.edge || spacing != at(500) { // 300 and 400
			t.Errorf("%s: %v from an edge, %v apart", name, edge, spacing)
		}
	}
}

// TestDepthsInMasonry: what is short by a screw's diameter behind a plug is a caution, a nanometre more is not; of one piece nothing is.
func TestDepthsInMasonry(t *testing.T) {
	mm := quantity.MM
	none := quantity.Some(quantity.Length(0))
	plug := catalog.Item{Kind: catalog.Plug, Diameter: mm(10), Length: mm(50)}
	for _, c := range []struct {
		in          quantity.Length
		plug        *catalog.Item
		said        quantity.Length
		short, soft bool
	}{
		{mm(50), &plug, 0, false, false}, {mm(50) - 1, &plug, 0, true, true}, {mm(42), &plug, 0, true, true}, {mm(42) - 1, &plug, 0, true, false},
		{mm(60), nil, mm(60), false, false}, {mm(60) - 1, nil, mm(60), true, false},
	} {
		choice := Choice{Wall: catalog.Concrete, Said: true, Plug: c.plug, Item: catalog.Item{Kind: catalog.SleeveAnchor, Diameter: mm(8),
			Length: c.in, EmbedmentMin: c.said}}
		r := Embedment(&choice, &Layers{Plate: none, Covering: none, Cavity: none, Backing: quantity.Some(mm(200))})
		if !r.Value.Known || r.Short > 0 != c.short || r.Soft != c.soft {
			t.Errorf("%v: short by %v, soft %v", c.in, r.Short, r.Soft)
		}
	}
	if lo, hi := Pilot(0.61, mm(10)); lo != mm(65)/10 || hi != mm(85)/10 {
		t.Errorf("%v to %v in dense wood", lo, hi)
	}
	sheet := Choice{Wall: catalog.MetalStud, Said: true, Item: catalog.Item{Kind: catalog.Screw}}
	if _, ok := anchorCapacity(&sheet, &Layers{}); ok {
		t.Error("a screw of no known size holds")
	}
	sheet.Item.Diameter = mm(5)
	if _, ok := anchorCapacity(&sheet, &Layers{}); !ok {
		t.Error("a screw of 5 does not")
	}
}
