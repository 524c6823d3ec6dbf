package exchange

import (
	"nexufix/core/quantity"
)

// Format is the name and version that a document carries.
const Format = "nexufix/1"

// MM is a length in the format: a JSON number of millimetres with at most six
// decimals.
type MM quantity.Length

// MarshalJSON writes the number without noise digits.
func (m MM) MarshalJSON() ([]byte, error) {
	return []byte(quantity.FormatDecimal(int64(m), 6)), nil
}

// KG is a mass in the format: a JSON number of kilograms, rounded to six
// decimals.
type KG quantity.Mass

// MarshalJSON writes the number without noise digits.
func (k KG) MarshalJSON() ([]byte, error) {
	return []byte(quantity.FormatDecimal(int64(quantity.Length(k).Round(1000)), 9)), nil
}

// Deg is an angle in the format: a JSON number of degrees.
type Deg quantity.Angle

// MarshalJSON writes the number without noise digits.
func (d Deg) MarshalJSON() ([]byte, error) {
	return []byte(quantity.FormatDecimal(int64(d), 6)), nil
}

// Num is a plain number with at most six decimals.
type Num quantity.Ratio

// MarshalJSON writes the number without noise digits.
func (n Num) MarshalJSON() ([]byte, error) {
	return []byte(quantity.FormatDecimal(int64(n), 6)), nil
}

// Plain writes a length in millimetres without a unit, as in "M6×16".
func Plain(l quantity.Length) string { return quantity.FormatDecimal(int64(l), 6) }
