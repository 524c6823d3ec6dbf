// Package quantity holds the exact numbers of the trade: lengths, masses,
// angles and plain ratios.
//
// A [Length] is an integer number of nanometres and a [Mass] an integer number
// of micrograms. One inch is 25.4 mm exactly, so 1/64 in is 396 875 nm: every
// workshop fraction and every tenth of a millimetre is an integer, sums are
// exact, and a limit is compared without a tolerance. Only trigonometry and
// strength use float64, and they round once, at the end.
//
// The package also reads what people type ([ParseLength], [ParseMass],
// [ParseAngle]) and prints what they read ([Units]). Rounding is for show
// alone; [AtLeast] and [AtMost] make it fall on the safe side of a limit.
//
// Source of the conversions: international yard and pound agreement, 1959
// (1 yd = 0.9144 m, 1 lb = 0.45359237 kg, both exact).
package quantity
