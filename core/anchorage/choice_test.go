package anchorage

import (
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

func kitBracket(said map[catalog.WallType][]string, kit ...catalog.Item) *catalog.Bracket {
	b := &catalog.Bracket{Kit: kit, Walls: map[catalog.WallType]catalog.WallFixing{},
		WallPlate: &catalog.WallPlate{Thickness: quantity.Some(mm(3)), Washer: quantity.FromMM(1.6)}}
	for w, names := range said {
		b.Walls[w] = catalog.WallFixing{Fasteners: names}
	}
	return b
}

var (
	lag   = catalog.Item{Kind: catalog.Lag, Diameter: mm(8), Length: mm(70), Count: 4}
	screw = catalog.Item{Kind: catalog.Screw, Diameter: mm(5), Length: mm(40), Count: 8}
	plug  = catalog.Item{Kind: catalog.Plug, Diameter: mm(10), Length: mm(60), Count: 4, Pull: 90 * quantity.Kilogram,
		Shear: 120 * quantity.Kilogram, RatingBasis: "rated"}
	toggle = catalog.Item{Kind: catalog.Toggle, Name: "Spring toggle", Diameter: mm(5), Length: mm(80), Count: 4,
		For: []catalog.WallType{catalog.HollowBoard}, Pull: 20 * quantity.Kilogram, Shear: 25 * quantity.Kilogram}
	sleeve = catalog.Item{Kind: catalog.SleeveAnchor, Diameter: mm(10), Length: mm(65), Count: 4, Pull: 200 * quantity.Kilogram,
		Shear: 300 * quantity.Kilogram}
	oldPlug = catalog.Item{Kind: catalog.Anchor, Diameter: mm(10), Length: mm(60), Count: 4,
		For: []catalog.WallType{catalog.Concrete, catalog.Block}}
	oldBoth = catalog.Item{Kind: catalog.Anchor, Name: "odd anchor", For: []catalog.WallType{catalog.Concrete, catalog.HollowBoard}}
)

// TestChoose: what goes into a wall is what the bracket's table names by kind or
// name, else the usual kind; never what is not made for it, and never a rating
// of another item.
func TestChoose(t *testing.T) {
	for name, c := range map[string]struct {
		wall catalog.WallType
		said []string
		kit  []catalog.Item
		want string // label; with "!" what is wrong, with "?" what is unclear
	}{
		"a lag in a stud": {catalog.WoodStud, []string{"lag"}, []catalog.Item{plug, lag}, "lag screw 8 × 70"},
		"a lag in concrete with its plug": {catalog.Concrete, []string{"lag"}, []catalog.Item{lag, plug},
			"wall plug 10 × 60 with lag screw 8 × 70"},
		"a plug with its lag": {catalog.Block, []string{"plug"}, []catalog.Item{lag, plug},
			"wall plug 10 × 60 with lag screw 8 × 70"},
		"a lag in concrete, no plug":  {catalog.Concrete, []string{"lag"}, []catalog.Item{lag}, "!alone does not hold"},
		"a lag in board":              {catalog.HollowBoard, []string{"lag"}, []catalog.Item{lag}, "!alone does not hold in board"},
		"a plug in board":             {catalog.HollowBoard, []string{"plug"}, []catalog.Item{lag, plug}, "!not made for hollow board"},
		"a toggle by its name":        {catalog.HollowBoard, []string{"spring  TOGGLE"}, []catalog.Item{plug, toggle}, "Spring toggle"},
		"a toggle in concrete":        {catalog.Concrete, []string{"toggle"}, []catalog.Item{toggle}, "!not made for concrete"},
		"a name that the kit has not": {catalog.Concrete, []string{"butterfly"}, []catalog.Item{plug, lag}, "?names \"butterfly\""},
		"an older anchor of masonry": {catalog.Concrete, []string{"anchor"}, []catalog.Item{oldPlug, lag},
			"wall plug 10 × 60 with lag screw 8 × 70"},
		"an older anchor of anything": {catalog.Concrete, []string{"anchor"}, []catalog.Item{oldBoth, lag}, "?for which walls, is not known"},
		"nothing named, concrete":     {catalog.Concrete, nil, []catalog.Item{plug, lag, sleeve}, "sleeve anchor 10 × 65"},
		"nothing named, board":        {catalog.HollowBoard, nil, []catalog.Item{plug, lag}, "?has no fastener for hollow board"},
		"two, the stud's first":       {catalog.WoodStud, []string{"Spring toggle", "lag"}, []catalog.Item{lag, toggle}, "lag screw 8 × 70"},
		"a screw in a board":          {catalog.TimberBoard, []string{"screw"}, []catalog.Item{lag, screw}, "wood screw 5 × 40"},
	} {
		got := Choose(kitBracket(map[catalog.WallType][]string{c.wall: c.said}, c.kit...), &catalog.Wall{Type: c.wall})
		switch {
		case strings.HasPrefix(c.want, "!"):
			if text := got.Wrong.In(quantity.Metric); !strings.Contains(text, c.want[1:]) || got.Sound() {
				t.Errorf("%s: %q", name, text)
			}
		case strings.HasPrefix(c.want, "?"):
			if text := got.Unclear.In(quantity.Metric); !strings.Contains(text, c.want[1:]) || got.Sound() {
				t.Errorf("%s: %q", name, text)
			}
		case got.Label() != c.want || !got.Sound():
			t.Errorf("%s: %q, wrong %q, unclear %q", name, got.Label(), got.Wrong.In(quantity.Metric), got.Unclear.In(quantity.Metric))
		}
	}
	c := Choose(kitBracket(map[catalog.WallType][]string{catalog.WoodStud: {"lag", "Spring toggle"}}, lag, toggle, plug),
		&catalog.Wall{Type: catalog.WoodStud})
	if c.Beside == nil || c.Beside.Kind != catalog.Toggle {
		t.Errorf("beside the stud: %+v", c.Beside)
	}
	if Choose(kitBracket(nil, lag), &catalog.Wall{Type: catalog.WoodStud}).Said {
		t.Error("the table says nothing of studs")
	}
}

// TestRatings: a figure is of one item in one base material.
func TestRatings(t *testing.T) {
	if _, ok := plug.RatingFor(catalog.Block, ""); ok {
		t.Error("a bare figure holds for solid concrete alone")
	}
	if r, ok := plug.RatingFor(catalog.Concrete, ""); !ok || r.Pull != 90*quantity.Kilogram {
		t.Error("and there it does")
	}
	if r, ok := toggle.RatingFor(catalog.HollowBoard, ""); !ok || r.Pull != 20*quantity.Kilogram {
		t.Error("or for the single wall it is for")
	}
	if _, ok := toggle.RatingFor(catalog.Concrete, ""); ok {
		t.Error("and then not for concrete")
	}
	both := plug
	both.Ratings = map[catalog.BaseMaterial]catalog.Rating{"block": {Pull: 30 * quantity.Kilogram, Shear: 40 * quantity.Kilogram}}
	if r, ok := both.RatingFor(catalog.Block, ""); !ok || r.Pull != 30*quantity.Kilogram {
		t.Error("by wall, beside a bare one")
	}
	if WorkingLoad(80*quantity.Kilogram, "rated") != 80*quantity.Kilogram ||
		WorkingLoad(80*quantity.Kilogram, "ultimate") != 20*quantity.Kilogram ||
		WorkingLoad(80*quantity.Kilogram, "") != 20*quantity.Kilogram {
		t.Error("an ultimate figure, and one of which nobody says, counts for a quarter")
	}
}

// TestHoles: by hand, from the wall's surface. Plate 3 and washer 1.6.
func TestHoles(t *testing.T) {
	concrete := catalog.Wall{Type: catalog.Concrete, Covering: quantity.Some(mm(12))}
	stud := catalog.Wall{Type: catalog.WoodStud, Covering: quantity.Some(mm(12))}
	backer := catalog.Wall{Type: catalog.ThinBacker, Covering: quantity.Some(mm(4)), Backing: quantity.Some(mm(18))}
	for name, c := range map[string]struct {
		wall  catalog.Wall
		said  string
		maker quantity.Length
		kit   []catalog.Item
		want  float64
		short bool
	}{
		"a lag: 70 − 4.6 + 6, in half millimetres":        {stud, "lag", 0, []catalog.Item{lag}, 71.5, false},
		"held to the maker's smaller figure":              {stud, "lag", mm(60), []catalog.Item{lag}, 60, true},
		"a stud of 63.5 and 12 of board less 3: no limit": {stud, "lag", mm(80), []catalog.Item{lag}, 71.5, false},
		"a plug: 12 + 60 + 10":                            {concrete, "lag", 0, []catalog.Item{lag, plug}, 82, false},
		"and the maker's 70 is flagged":                   {concrete, "lag", mm(70), []catalog.Item{lag, plug}, 82, true},
		"a sleeve anchor: 65 − 4.6 + 10":                  {concrete, "sleeve_anchor", 0, []catalog.Item{sleeve}, 70.5, false},
		"a screw in a backer: no deeper than 4 + 18 − 3":  {backer, "screw", mm(60), []catalog.Item{screw}, 19, false},
	} {
		b := kitBracket(map[catalog.WallType][]string{c.wall.Type: {c.said}}, c.kit...)
		w := b.Walls[c.wall.Type]
		if c.maker > 0 {
			w.Depth = quantity.Some(c.maker)
		}
		b.Walls[c.wall.Type] = w
		choice, layers := Choose(b, &c.wall), LayersOf(b, &c.wall)
		h := HoleFor(b, &choice, &layers)
		if !h.Depth.Known || h.Depth.Value != quantity.FromMM(c.want) || h.Short() != c.short {
			t.Errorf("%s: %s, short %v", name, h.Depth.Value, h.Short())
		}
	}
}

// TestDepths: embedment and penetration by hand.
func TestDepths(t *testing.T) {
	reach := func(wall catalog.Wall, said string, kit ...catalog.Item) Reach {
		b := kitBracket(map[catalog.WallType][]string{wall.Type: {said}}, kit...)
		c, l := Choose(b, &wall), LayersOf(b, &wall)
		if wall.Type.Holds() == catalog.Masonry {
			return Embedment(&c, &l)
		}
		return Penetration(b, &c, &l)
	}
	some := func(l int64) optional { return quantity.Some(mm(l)) }
	// 70 − 4.6 − 0 = 65.4 through a plug of 60.
	if r := reach(catalog.Wall{Type: catalog.Concrete, Covering: some(0)}, "lag", lag, plug); r.Short != 0 || r.Need.Value != mm(60) {
		t.Errorf("%+v", r)
	}
	// Behind 10 mm of plaster 55.4: 4.6 short of it, within one diameter.
	if r := reach(catalog.Wall{Type: catalog.Concrete, Covering: some(10)}, "lag", lag, plug); !r.Soft {
		t.Errorf("%+v", r)
	}
	if r := reach(catalog.Wall{Type: catalog.Concrete, Covering: some(16)}, "lag", lag, plug); r.Soft || r.Short == 0 {
		t.Errorf("%+v", r)
	}
	// A one-piece fixing: 65 − 4.6 = 60.4; 4 mm of one behind 56 of covering.
	if r := reach(catalog.Wall{Type: catalog.Concrete, Covering: some(56)}, "sleeve_anchor", sleeve); r.Short == 0 || r.Need.Value != mm(40) {
		t.Errorf("%+v", r)
	}
	if r := reach(catalog.Wall{Type: catalog.LinedMasonry, Covering: some(12)}, "concrete_screw",
		catalog.Item{Kind: catalog.ConcreteScrew, Diameter: mm(8), Length: mm(120)}); r.Value.Known {
		t.Error("a cavity that is not known")
	}
	// A lag of 8: 38 mm, or four diameters and its tip, 32 + 4.79 = 36.79.
	if r := reach(catalog.Wall{Type: catalog.WoodStud, Covering: some(12)}, "lag", lag); r.Short != 0 || r.Need.Value != mm(38) {
		t.Errorf("%+v", r)
	}
	// A screw of 5 in 18 mm of board: six diameters are 30; two thirds of 18 are 12.
	if r := reach(catalog.Wall{Type: catalog.TimberBoard, Covering: some(0), Backing: some(18)}, "screw", screw); !r.Soft {
		t.Errorf("%+v", r)
	}
	if r := reach(catalog.Wall{Type: catalog.TimberBoard, Covering: some(25), Backing: some(18)}, "screw", screw); r.Soft || r.Short == 0 {
		t.Errorf("%+v", r)
	}
}

// TestStandOff: EN 1992-4 by hand, the handbook value. A root of 5.77 in a fixing
// of 8 that crosses 118 mm: l_a = 122, V_M = 1.2·(π·5.77³/32)·400 / 244 = 37 N.
func TestStandOff(t *testing.T) {
	wall := catalog.Wall{Type: catalog.LinedMasonry, Covering: quantity.Some(mm(18)), Cavity: quantity.Some(mm(100))}
	i := catalog.Item{Kind: catalog.FrameFixing, Diameter: mm(8), Length: mm(200), Root: quantity.FromMM(5.77),
		Ratings: map[catalog.BaseMaterial]catalog.Rating{"lined_masonry": {Pull: 100 * quantity.Kilogram,
			Shear: 100 * quantity.Kilogram}}, RatingBasis: "rated"}
	b := kitBracket(map[catalog.WallType][]string{wall.Type: {"frame_fixing"}}, i)
	c, l := Choose(b, &wall), LayersOf(b, &wall)
	got, ok := anchorCapacity(&c, &l)
	if !ok || !got.Bends {
		t.Fatalf("%+v", got)
	}
	near(t, "V_M", got.BendMoment, 37, 0.2)
	near(t, "N_s", got.BendTension, 3.14159265*5.77*5.77/4*200, 1)
	f := Force{Pull: 100, Down: 20}
	near(t, "bending decides", got.Utilisation(f, &Permanent, 1, Ultimate), 20/got.BendMoment+100/got.BendTension, 1e-9)
	// A rigid sleeve with a foot of 20 does not bend, but pulls: 20·118/20 more.
	c.Item.Sleeve = mm(20)
	got, _ = anchorCapacity(&c, &l)
	near(t, "with a sleeve", got.Utilisation(f, &Permanent, 1, Ultimate), (100+20*118.0/20)/980.665+20/980.665, 1e-9)
	// Without a root nothing can be said; thin layers do not count.
	c.Item.Sleeve, c.Item.Root = 0, 0
	if got, _ = anchorCapacity(&c, &l); !got.BendUnknown {
		t.Error("the root is not known")
	}
	l.Covering, l.Cavity = quantity.Some(mm(4)), quantity.Some(quantity.Length(0))
	if got, _ = anchorCapacity(&c, &l); got.Bends {
		t.Error("4 mm are no more than half of 8")
	}
	// A plug's lag takes its root from its size.
	if r := Root(catalog.Lag, 8/25.4) * 25.4; r < 5.76 || r > 5.78 {
		t.Error(r)
	}
}

// TestCone: EN 1992-4 by hand. h_ef 40: full 60 to each side. Two 80 apart in a
// row, 30 from the wall's end: (30 + 40)/120 = 0.583 sideways; one row, 25 under
// the ceiling: (60 + 25)/120 = 0.708 upwards.
func TestCone(t *testing.T) {
	points := []Point{{X: mm(30), Y: mm(1975)}, {X: mm(110), Y: mm(1980)}}
	in := Bounds{Left: quantity.Some(mm(0)), Right: quantity.Some(mm(2000)), Bottom: quantity.Some(mm(0)), Top: quantity.Some(mm(2000))}
	near(t, "corner", Cone(points, 0, mm(40), in), 70.0/120*85/120, 1e-9)
	near(t, "alone", Cone([]Point{{X: mm(1000), Y: mm(1000)}}, 0, mm(40), in), 1, 1e-9)
	// The next row, 50 lower: 25 half way.
	near(t, "two rows", Cone([]Point{{X: mm(1000), Y: mm(1000)}, {X: mm(1000), Y: mm(950)}}, 0, mm(40), in), 85.0/120, 1e-9)
	near(t, "at the edge", Cone([]Point{{X: mm(-5), Y: mm(1000)}}, 0, mm(40), in), 0.5, 1e-9)
	spacing, edge := Nearest(points, in)
	near(t, "spacing", spacing.Value.MM(), 80.16, 0.01)
	near(t, "edge", edge.Value.MM(), 20, 1e-9)
}
