package sheet

import (
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/draw/drawtest"
	"nexufix/core/fit"
	"nexufix/core/place/placetest"
	"nexufix/core/quantity"
)

// TestTwoPlatesSiteFree: without a wall both plates are drawn, as far apart as
// the pattern is wide if the bracket allows it, else as near as it does.
func TestTwoPlatesSiteFree(t *testing.T) {
	p, _ := placetest.TwoPlates()
	d := DrillTemplate(p, Sheet{})
	x0, x1, _, _ := drawtest.Extent(d, "hole.p1-T1")
	x2, x3, _, _ := drawtest.Extent(d, "hole.p2-T1")
	if apart := (x2+x3)/2 - (x0+x1)/2; !drawtest.Near(apart, p.Hang.Width.MM()) {
		t.Errorf("%g apart, the pattern is %s wide", apart, p.Hang.Width)
	}
	p.Bracket.WallPlate.SeparationRange.Min = quantity.MM(330)
	d = DrillTemplate(p, Sheet{})
	x0, x1, _, _ = drawtest.Extent(d, "hole.p1-T1")
	x2, x3, _, _ = drawtest.Extent(d, "hole.p2-T1")
	if apart := (x2+x3)/2 - (x0+x1)/2; !drawtest.Near(apart, 330) {
		t.Errorf("%g apart", apart)
	}
	var free fit.Pairing
	dd, b := catalogtest.Pair()
	b.WallPlate.Holes = nil
	free = fit.Judge(dd, b, 0, fit.Extra{}, catalog.DefaultPolicy())
	if MeasureCard(&free, Sheet{}) != nil || DrillTemplate(&free, Sheet{}) != nil {
		t.Error("a plate without holes is drawn")
	}
}
