package exchange

import "nexufix/core/quantity"

// Format is the name and version that a document carries.
const Format = "nexufix/1"

// The numbers of the format, by the unit in their fields' names: millimetres, kilograms,
// degrees, and plain numbers.
type (
	MM  = quantity.Length
	KG  = quantity.Mass
	Deg = quantity.Angle
	Num = quantity.Ratio
)

// The same where a figure may be missing.
type (
	OptMM  = quantity.Optional[MM]
	OptKG  = quantity.Optional[KG]
	OptDeg = quantity.Optional[Deg]
	OptNum = quantity.Optional[Num]
)

// Numbers has a value of each type that is a plain number in the format, OptionalNumbers of
// each that may also be null.
var (
	Numbers         = []any{MM(0), KG(0), Deg(0), Num(0), quantity.Torque(0), quantity.Force(0)}
	OptionalNumbers = []any{OptMM{}, OptKG{}, OptDeg{}, OptNum{}, quantity.Optional[quantity.Torque]{}}
)

// Plain writes a length in millimetres without a unit, as in "M6×16".
func Plain(l quantity.Length) string { return quantity.FormatDecimal(int64(l), 6) }
