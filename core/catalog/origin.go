package catalog

import (
	"fmt"
	"slices"

	"nexufix/core/quantity"
)

// Origin is the origin of a figure, which decides its tolerance.
type Origin uint8

// Sheet, the zero value, is the origin of a figure without one.
const (
	Sheet Origin = iota
	Bench
	Caller
)

// Origins lists the origins by name, in the order of the constants.
var Origins = []string{"sheet", "bench", "caller"}

// Word returns the word that people read.
func (o Origin) Word() string {
	return map[Origin]string{Bench: "measured", Sheet: "data sheet", Caller: "caller"}[o]
}

// String is the origin's name in the exchange format.
func (o Origin) String() string { return Origins[o] }

// MarshalText writes the name.
func (o Origin) MarshalText() ([]byte, error) { return []byte(o.String()), nil }

// UnmarshalText reads a name.
func (o *Origin) UnmarshalText(text []byte) error {
	i := slices.Index(Origins, string(text))
	if i < 0 {
		return fmt.Errorf("%q is none of %v", text, Origins)
	}
	*o = Origin(i)
	return nil
}

// Enum lists the names for the format's reader and schema.
func (Origin) Enum() []any { return []any{Bench, Sheet, Caller} }

// Tolerance returns how far a figure of this origin may be off, either way:
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

// Given returns a known figure.
func Given(l quantity.Length, o Origin) Figure { return Figure{l, true, o} }

// Tolerance returns how far the figure may be off; 0 if it is 0 or missing,
// because a flat back has no rim offset to measure.
func (f Figure) Tolerance() quantity.Length {
	if !f.Known || f.Length == 0 {
		return 0
	}
	return f.Origin.Tolerance()
}
