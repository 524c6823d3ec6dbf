package sheet

import (
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/draw/drawtest"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// TestDrilledHoles: a hole of the plate that is drilled, not its like in the other plate.
func TestDrilledHoles(t *testing.T) {
	d := drill{at: &place.Placement{}}
	d.at.Points = make([]place.Point, 2)
	d.at.Points[0].Hole, d.at.Points[0].Plate = "A", 0
	d.at.Points[1].Hole, d.at.Points[1].Plate = "B", 1
	for _, c := range []struct {
		id    string
		plate int
		want  bool
	}{{"A", 0, true}, {"A", 1, false}, {"B", 0, false}, {"B", 1, true}, {"C", 0, false}} {
		if got := d.drilled(c.id, c.plate); got != c.want {
			t.Errorf("%+v: %v", c, got)
		}
	}
}

// TestLargestOutline: a display of 841 mm, as long as a page of A0 is wide, is drawn on a sheet; of a larger one there are arrows.
func TestLargestOutline(t *testing.T) {
	for size, drawn := range map[quantity.Length]bool{mm(841): true, mm(841) + quantity.Millimetre/10: false} {
		d, b := catalogtest.Pair()
		d.Width, d.Height = quantity.Some(size), quantity.Some(mm(500))
		p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
		x0, x1, _, _ := drawtest.Extent(DrillTemplate(&p, Sheet{}), "template.outline")
		if got := x1-x0 > 840; got != drawn {
			t.Errorf("%v wide: drawn from %g to %g", size, x0, x1)
		}
	}
}

func mm(n int64) quantity.Length { return quantity.MM(n) }
