// Package anchorage computes what holds a wall plate: the fasteners of the kit for
// a type of wall, their holes, demand, capacity and utilisation.
//
// It takes a plate's points and how a display hangs from it as given. Forces are in newtons and lever arms in
// millimetres as float64; figures that people give stay exact until they enter a formula. Wood is by the NDS and
// its Technical Report 12, the ultimate of lags by the USDA Wood Handbook,
// edges and stand-off of masonry fixings by EN 1992-4, the type test by IEC
// 62368-1, all from memory; loads, schools and hole depths are practice. A
// doubtful wall is for someone licensed to judge it.
package anchorage
