package quantity

import (
	"bytes"
	"encoding/json"
)

// In the exchange format a quantity is a plain JSON number of millimetres, kilograms,
// degrees, newtons, newton metres or ones, with at most six decimals; what is missing is
// null, or absent where its field says omitzero. People's files go through the strict
// reader in package exchange, which says where what is wrong.

// scaled are the quantities of which the unit is a million parts.
type scaled interface {
	Length | Angle | Ratio | Torque | Force
}

func write[Q scaled](q Q) ([]byte, error) { return AppendDecimal(nil, int64(q), 6), nil }

func read[Q scaled](q *Q, raw []byte) error {
	n, err := Decimal(string(raw), 1_000_000)
	*q = Q(n)
	return err
}

// MarshalJSON writes millimetres.
func (l Length) MarshalJSON() ([]byte, error) { return write(l) }

// UnmarshalJSON reads millimetres.
func (l *Length) UnmarshalJSON(raw []byte) error { return read(l, raw) }

// MarshalJSON writes degrees.
func (a Angle) MarshalJSON() ([]byte, error) { return write(a) }

// UnmarshalJSON reads degrees.
func (a *Angle) UnmarshalJSON(raw []byte) error { return read(a, raw) }

// MarshalJSON writes the plain number.
func (r Ratio) MarshalJSON() ([]byte, error) { return write(r) }

// UnmarshalJSON reads a plain number.
func (r *Ratio) UnmarshalJSON(raw []byte) error { return read(r, raw) }

// MarshalJSON writes newton metres.
func (t Torque) MarshalJSON() ([]byte, error) { return write(t) }

// UnmarshalJSON reads newton metres.
func (t *Torque) UnmarshalJSON(raw []byte) error { return read(t, raw) }

// MarshalJSON writes newtons.
func (f Force) MarshalJSON() ([]byte, error) { return write(f) }

// UnmarshalJSON reads newtons.
func (f *Force) UnmarshalJSON(raw []byte) error { return read(f, raw) }

// MarshalJSON writes kilograms, rounded to milligrams.
func (m Mass) MarshalJSON() ([]byte, error) {
	return AppendDecimal(nil, int64(Length(m).Round(1000)), 9), nil
}

// UnmarshalJSON reads kilograms.
func (m *Mass) UnmarshalJSON(raw []byte) error {
	n, err := Decimal(string(raw), int64(Kilogram))
	*m = Mass(n)
	return err
}

// MarshalJSON writes the figure, or null.
func (o Optional[T]) MarshalJSON() ([]byte, error) {
	if !o.Known {
		return []byte("null"), nil
	}
	if v, ok := any(o.Value).(json.Marshaler); ok {
		return v.MarshalJSON()
	}
	return json.Marshal(o.Value)
}

// UnmarshalJSON reads a figure, or null.
func (o *Optional[T]) UnmarshalJSON(raw []byte) error {
	if *o = (Optional[T]{}); bytes.Equal(raw, []byte("null")) {
		return nil
	}
	o.Known = true
	return json.Unmarshal(raw, &o.Value)
}

// IsZero says that it is missing, for omitzero.
func (o Optional[T]) IsZero() bool { return !o.Known }

// Fill marks the figure as known and is where a reader puts its value.
func (o *Optional[T]) Fill() any {
	o.Known = true
	return &o.Value
}
