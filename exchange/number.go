package exchange

import (
	"github.com/go-json-experiment/json/jsontext"

	"nexufix/core/quantity"
)

// Format is the name and version that a document carries.
const Format = "nexufix/1"

// MM is a length in the format: a JSON number of millimetres with at most six
// decimals.
type MM quantity.Length

// MarshalJSON writes the number without noise digits.
func (m MM) MarshalJSON() ([]byte, error) {
	return quantity.AppendDecimal(nil, int64(m), 6), nil
}

// MarshalJSONTo writes the same where there is no need of a copy.
func (m MM) MarshalJSONTo(e *jsontext.Encoder) error {
	return e.WriteValue(quantity.AppendDecimal(e.AvailableBuffer(), int64(m), 6))
}

// UnmarshalJSON reads what MarshalJSON writes. People's files go through
// [Read], which says where what is wrong.
func (m *MM) UnmarshalJSON(raw []byte) error {
	n, err := quantity.Decimal(string(raw), int64(quantity.Millimetre))
	*m = MM(n)
	return err
}

// KG is a mass in the format: a JSON number of kilograms, rounded to six
// decimals.
type KG quantity.Mass

// MarshalJSON writes the number without noise digits.
func (k KG) MarshalJSON() ([]byte, error) {
	return quantity.AppendDecimal(nil, int64(quantity.Length(k).Round(1000)), 9), nil
}

// MarshalJSONTo writes the same where there is no need of a copy.
func (k KG) MarshalJSONTo(e *jsontext.Encoder) error {
	return e.WriteValue(quantity.AppendDecimal(e.AvailableBuffer(), int64(quantity.Length(k).Round(1000)), 9))
}

// UnmarshalJSON reads what MarshalJSON writes. People's files go through
// [Read], which says where what is wrong.
func (k *KG) UnmarshalJSON(raw []byte) error {
	n, err := quantity.Decimal(string(raw), int64(quantity.Kilogram))
	*k = KG(n)
	return err
}

// Deg is an angle in the format: a JSON number of degrees.
type Deg quantity.Angle

// MarshalJSON writes the number without noise digits.
func (d Deg) MarshalJSON() ([]byte, error) {
	return quantity.AppendDecimal(nil, int64(d), 6), nil
}

// MarshalJSONTo writes the same where there is no need of a copy.
func (d Deg) MarshalJSONTo(e *jsontext.Encoder) error {
	return e.WriteValue(quantity.AppendDecimal(e.AvailableBuffer(), int64(d), 6))
}

// UnmarshalJSON reads what MarshalJSON writes. People's files go through
// [Read], which says where what is wrong.
func (d *Deg) UnmarshalJSON(raw []byte) error {
	n, err := quantity.Decimal(string(raw), int64(quantity.Degree))
	*d = Deg(n)
	return err
}

// Num is a plain number with at most six decimals.
type Num quantity.Ratio

// MarshalJSON writes the number without noise digits.
func (n Num) MarshalJSON() ([]byte, error) {
	return quantity.AppendDecimal(nil, int64(n), 6), nil
}

// MarshalJSONTo writes the same where there is no need of a copy.
func (n Num) MarshalJSONTo(e *jsontext.Encoder) error {
	return e.WriteValue(quantity.AppendDecimal(e.AvailableBuffer(), int64(n), 6))
}

// UnmarshalJSON reads what MarshalJSON writes. People's files go through
// [Read], which says where what is wrong.
func (n *Num) UnmarshalJSON(raw []byte) error {
	v, err := quantity.Decimal(string(raw), int64(quantity.One))
	*n = Num(v)
	return err
}

// Plain writes a length in millimetres without a unit, as in "M6×16".
func Plain(l quantity.Length) string { return quantity.FormatDecimal(int64(l), 6) }
