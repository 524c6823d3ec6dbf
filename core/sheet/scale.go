package sheet

import "nexufix/core/quantity"

// Bars are the lengths of the scale bars on every sheet.
var Bars = []quantity.Length{100 * quantity.Millimetre, 4 * quantity.Inch}

// A print may be off by five thousandths (practice).
const offByMost = 5

// CheckPrint reports whether a print can be used, by the measured length of one of its
// bars, and why not. The limit is exact: 100.5 mm for 100 mm
// is accepted, anything more is not.
func CheckPrint(bar, measured quantity.Length) (bool, quantity.Phrase) {
	off := (measured - bar).Abs()
	percent := quantity.FormatDecimal(int64(measured)*1000/int64(bar), 1)
	if off*1000 <= bar*offByMost {
		return true, quantity.Say("Accepted: the bar of %v measures %v, within 0.5 %%.", bar, quantity.Wall(measured))
	}
	why := quantity.Say("Set the printer to 100 %%, or actual size.")
	for _, other := range Bars {
		if d := (measured - other).Abs(); other != bar && d*1000 <= other*offByMost {
			return false, quantity.Say("Not accepted: %v is the length of the other bar. Measure the one of %v.", measured, bar)
		}
	}
	switch {
	case measured*1000 < bar*900 || measured*1000 > bar*1100:
		why = quantity.Say("That is far off: measure again, and see that the whole bar was measured.")
	case measured < bar:
		why = quantity.Say("The usual reason is “fit to page”: print again at 100 %%, or actual size.")
	}
	return false, quantity.Say("Not accepted: printed at %v %%, and holes would be up to %v out on a metre. %v", percent, shownError(off, bar),
		why)
}

// shownError writes the error of the print over a metre.
func shownError(off, bar quantity.Length) quantity.Length {
	return quantity.FromMM(off.MM() / bar.MM() * 1000).Round(quantity.Millimetre / 2)
}
