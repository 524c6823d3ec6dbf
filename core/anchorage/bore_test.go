package anchorage

import (
	"math"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// TestBoreLimits: at every limit a hundredth of a millimetre to either side. A lag of 8 counts as 5/16 in: its root is 0.227 in, 5.766 mm
// (NDS appendix L, memory); a wood screw of 6: between 0.216 and 0.242 in 0.1904 in, 4.837 mm.
func TestBoreLimits(t *testing.T) {
	wood := catalog.Wall{Type: catalog.WoodStud}
	um := func(n int64) quantity.Length { return quantity.Length(n) * quantity.Micrometre }
	lag := catalog.Item{Kind: catalog.Lag, Diameter: mm(8), Length: mm(70)}
	screw := catalog.Item{Kind: catalog.Screw, Diameter: mm(6), Length: mm(70)}
	masonry := func(k catalog.ItemKind, d int64) catalog.Item {
		return catalog.Item{Kind: k, Diameter: mm(d), Length: mm(70)}
	}
	for _, c := range []struct {
		name string
		item catalog.Item
		wall catalog.WallType
		g    float64
		d    int64 // µm; 0: no hole
		want BoreFit
	}{
		{"lag, no drill", lag, wood.Type, 0.42, 0, BoreUndrilled},
		{"lag, 40 %", lag, wood.Type, 0.42, 3200, BoreRight}, {"a hair less", lag, wood.Type, 0.42, 3190, BoreNarrow},
		{"lag, 70 %", lag, wood.Type, 0.42, 5600, BoreRight}, {"a hair more", lag, wood.Type, 0.42, 5610, BoreWide},
		{"lag, just not loose", lag, wood.Type, 0.42, 7490, BoreWide}, {"lag, loose", lag, wood.Type, 0.42, 7500, BoreLoose},
		{"dense, 60 %", lag, wood.Type, 0.55, 4800, BoreRight}, {"dense, a hair less", lag, wood.Type, 0.55, 4790, BoreNarrow},
		{"screw, none needed", screw, wood.Type, 0.50, 0, BoreRight}, {"screw, needed", screw, wood.Type, 0.51, 0, BoreUndrilled},
		{"screw, within its root", screw, wood.Type, 0.42, 4830, BoreWider}, {"screw, past its root", screw, wood.Type, 0.42, 4840, BoreWide},
		{"screw, loose", screw, wood.Type, 0.42, 5500, BoreLoose},
		{"plug, its size", masonry(catalog.Plug, 10), catalog.Concrete, 0, 10000, BoreRight},
		{"plug, half over", masonry(catalog.Plug, 10), catalog.Concrete, 0, 10500, BoreRight},
		{"plug, more", masonry(catalog.Plug, 10), catalog.Concrete, 0, 10510, BoreLoose},
		{"plug, half under", masonry(catalog.Plug, 10), catalog.Concrete, 0, 9500, BoreRight},
		{"plug, less", masonry(catalog.Plug, 10), catalog.Concrete, 0, 9490, BoreNarrow},
		{"concrete screw, eight tenths", masonry(catalog.ConcreteScrew, 10), catalog.Concrete, 0, 8000, BoreRight},
		{"and half a millimetre", masonry(catalog.ConcreteScrew, 10), catalog.Concrete, 0, 8500, BoreRight},
		{"and more", masonry(catalog.ConcreteScrew, 10), catalog.Concrete, 0, 8510, BoreLoose},
		{"and half less", masonry(catalog.ConcreteScrew, 10), catalog.Concrete, 0, 7500, BoreRight},
		{"and less", masonry(catalog.ConcreteScrew, 10), catalog.Concrete, 0, 7490, BoreLoose},
		{"a plug of any size", masonry(catalog.Plug, 0), catalog.Concrete, 0, 10000, BoreUnsized},
		{"toggle, folded", masonry(catalog.Toggle, 5), catalog.HollowBoard, 0, 5000, BoreRight},
		{"toggle, too wide folded", masonry(catalog.Toggle, 5), catalog.HollowBoard, 0, 4990, BoreNarrow},
		{"toggle, open", masonry(catalog.Toggle, 5), catalog.MetalStud, 0, 20000, BoreRight},
		{"toggle, falls through", masonry(catalog.Toggle, 5), catalog.MetalStud, 0, 20010, BoreLoose},
		{"screw in sheet", masonry(catalog.Screw, 5), catalog.MetalStud, 0, 4250, BoreRight},
		{"screw in sheet, loose", masonry(catalog.Screw, 5), catalog.MetalStud, 0, 4260, BoreLoose},
		{"screw in sheet, its own hole", masonry(catalog.Screw, 5), catalog.MetalStud, 0, 0, BoreRight},
		{"toggle, no drill", masonry(catalog.Toggle, 5), catalog.HollowBoard, 0, 0, BoreUndrilled},
	} {
		choice := Choice{Wall: c.wall, Item: c.item}
		h := Hole{Diameter: quantity.Optional[quantity.Length]{Value: um(c.d), Known: c.d > 0}}
		if got := BoreOf(&choice, &h, c.g); got.Fit != c.want {
			t.Errorf("%s: %d, want %d: %+v", c.name, got.Fit, c.want, got)
		}
	}
	// Half way between the root and the diameter half of the strength is left.
	choice := Choice{Wall: wood.Type, Item: lag}
	root := RootOf(&lag)
	half := Hole{Diameter: quantity.Some(root + (lag.Diameter-root)/2)}
	if got := BoreOf(&choice, &half, 0.42).Share; math.Abs(got-0.5) > 1e-6 {
		t.Errorf("%g is left", got)
	}
	// A plug's screw: half of it to eight tenths, or as it says.
	plug := masonry(catalog.Plug, 10)
	for d, want := range map[int64]BoreFit{4990: BoreMisfit, 5000: BoreRight, 8000: BoreRight, 8010: BoreMisfit} {
		with := Choice{Wall: catalog.Concrete, Plug: &plug, Item: catalog.Item{Kind: catalog.Lag, Diameter: um(d), Length: mm(70)}}
		if got := BoreOf(&with, &Hole{Diameter: quantity.Some(mm(10))}, 0); got.Fit != want {
			t.Errorf("a screw of %d µm in a plug of 10: %d", d, got.Fit)
		}
	}
}

// TestSheetScrew is a worked example by hand (AISI S100 J4, from memory): a screw of 4.8 in sheet of 1.0 under a head of 9.6.
// Pull-out 0.85·1·4.8·310/3 = 421.6 N; pull-over 1.5·1·9.6·310/3 = 1488 N; shear 4.2·√(1·4.8)·310/3 = 950.9 N, at the most
// 2.7·1·4.8·310/3 = 1339 N.
func TestSheetScrew(t *testing.T) {
	pull, shear := SheetScrew(mm(1), quantity.FromMM(4.8), quantity.FromMM(9.6))
	if math.Abs(pull-421.6) > 0.1 || math.Abs(shear-950.9) > 0.2 {
		t.Errorf("%.1f N, %.1f N", pull, shear)
	}
	// In thick sheet the screw's own limit counts: t = 3, √(27·4.8)·4.2 = 47.8 against 2.7·3·4.8 = 38.9.
	if _, shear := SheetScrew(mm(3), quantity.FromMM(4.8), quantity.FromMM(9.6)); math.Abs(shear-38.88*310/3) > 0.5 {
		t.Errorf("%.1f N", shear)
	}
}

// TestHeads: widths by DIN 571 (memory), and in proportion between sizes.
func TestHeads(t *testing.T) {
	for d, want := range map[float64]float64{6: 10, 8: 13, 10: 17, 7: 11.5, 12: 20.4, 5: 25.0 / 3} {
		if got := headWidth(&catalog.Item{Kind: catalog.Lag, Diameter: quantity.FromMM(d)}); math.Abs(got.MM()-want) > 1e-5 {
			t.Errorf("lag %g: %s", d, got)
		}
	}
	if got := headWidth(&catalog.Item{Kind: catalog.Screw, Diameter: mm(5)}); got != mm(10) {
		t.Errorf("screw: %s", got)
	}
}

// TestGrainCountsFromAQuarterInch: K_θ is of fasteners of 1/4 in nominal and more (NDS table 12.3.1B, memory): a screw of 6 mm, which the
// wood bears alike in every direction, is as strong across the grain as along it; a lag of 1/4 in is not.
func TestGrainCountsFromAQuarterInch(t *testing.T) {
	of := func(i catalog.Item) (along, across float64) {
		l := NewLateral(&i, 0.42, mm(3), 0, mm(40), true)
		return l.Holds(1, 0), l.Holds(0, 1)
	}
	if along, across := of(catalog.Item{Kind: catalog.Screw, Diameter: mm(6), Length: mm(60)}); along != across {
		t.Errorf("6 mm: %.1f along, %.1f across", along, across)
	}
	if along, across := of(catalog.Item{Kind: catalog.Lag, Diameter: quantity.Inch / 4, Length: mm(60)}); across >= along {
		t.Errorf("1/4 in: %.1f along, %.1f across", along, across)
	}
}
