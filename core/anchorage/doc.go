// Package anchorage is what holds a wall plate: which fasteners of the kit go
// into a kind of wall and how deep their holes are, what they are asked for
// (demand), what they may hold (capacity), and the share of it that is used.
//
// It knows a plate's points and how a display hangs from it, not how these came
// about. Forces are in newtons and lever arms in millimetres as float64; figures
// that people give stay exact until they enter a formula. Wood is by the NDS and
// its Technical Report 12, the ultimate of lags by the USDA Wood Handbook,
// edges and stand-off of masonry fixings by EN 1992-4, the type test by IEC
// 62368-1, all from memory; loads, schools and hole depths are practice. A
// doubtful wall is for someone licensed to judge it.
package anchorage
