package anchorage

import (
	"math"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// UsualSteel is the sheet of a metal stud that is counted with where nobody has said it: the thinnest in trade (practice).
const UsualSteel = 46 * quantity.Millimetre / 100

// SwingingSteel is the thinnest sheet that a swinging arm is hung from without a backing (practice).
const SwingingSteel = 84 * quantity.Millimetre / 100

// Strength of sheet steel, N/mm², and the safety of screws in it (AISI S100 J4, memory).
const (
	sheetTensile = 310
	sheetSafety  = 3
)

// SheetScrew returns the allowable pull and shear, in newtons, of a screw of a diameter in sheet so thick, with a head that
// bears so wide: pull-out 0.85·t·D·F_u, pull-over 1.5·t·d_w·F_u, shear 4.2·√(t³·D)·F_u and at the most 2.7·t·D·F_u, each
// over 3 (AISI S100 J4, memory).
func SheetScrew(steel, diameter, head quantity.Length) (pull, shear float64) {
	t, d, dw := steel.MM(), diameter.MM(), head.MM()
	pull = min(0.85*t*d, 1.5*t*dw) * sheetTensile / sheetSafety
	shear = min(4.2*math.Sqrt(t*t*t*d), 2.7*t*d) * sheetTensile / sheetSafety
	return pull, shear
}

// Rating returns what the choice's carrier holds in its wall; false if there is none for it, or if it was found in thicker sheet
// or board.
func (c *Choice) Rating(l *Layers) (catalog.Rating, bool) {
	r, ok := c.Carrier().RatingFor(c.Wall, c.Blocks)
	switch {
	case c.Wall == catalog.MetalStud && r.Steel > c.Steel.Or(UsualSteel):
		return catalog.Rating{}, false
	case c.Wall == catalog.HollowBoard && r.Board > 0 && (!l.Covering.Known || l.Covering.Value < r.Board):
		return catalog.Rating{}, false
	}
	return r, ok
}

// inSheet reports whether the choice is a plain screw in a metal stud, whose strength follows from the sheet.
func (c *Choice) inSheet() bool { return c.Wall == catalog.MetalStud && c.Item.Kind == catalog.Screw }
