package catalog

import "nexufix/core/quantity"

// Origin is where a figure came from, and so how far to trust it.
type Origin uint8

// Sheet, the zero value, is what a figure without an origin is taken for.
const (
	Sheet Origin = iota
	Bench
	Caller
)

// Origins lists the origins by name, in the order of the constants.
var Origins = []string{"sheet", "bench", "caller"}

// Word is what people call it.
func (o Origin) Word() string {
	return map[Origin]string{Bench: "measured", Sheet: "data sheet", Caller: "caller"}[o]
}

// String is the origin's name in the exchange format.
func (o Origin) String() string { return Origins[o] }

// Tolerance is how far a figure of this origin may be off, either way:
// bench 0.2 mm, data sheet 0.5 mm, caller 1.5 mm (practice).
func (o Origin) Tolerance() quantity.Length {
	switch o {
	case Bench:
		return quantity.Millimetre / 5
	case Caller:
		return quantity.Millimetre * 3 / 2
	}
	return quantity.Millimetre / 2
}

// Figure is a length at a hole with its origin. The zero value is missing.
type Figure struct {
	Length quantity.Length
	Known  bool
	Origin Origin
}

// Given is a known figure.
func Given(l quantity.Length, o Origin) Figure { return Figure{l, true, o} }

// Tolerance is how far the figure may be off; 0 where it is 0 or missing,
// for a flat back has no step to be wrong about.
func (f Figure) Tolerance() quantity.Length {
	if !f.Known || f.Length == 0 {
		return 0
	}
	return f.Origin.Tolerance()
}
