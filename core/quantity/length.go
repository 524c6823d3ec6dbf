package quantity

import (
	"math"
	"strconv"
)

// Length is a distance as an integer number of nanometres. The zero value is
// no distance. Lengths are ordered by < and added by +.
type Length int64

// Units of length, each an exact number of nanometres.
const (
	Nanometre  Length = 1
	Micrometre        = 1000 * Nanometre
	Millimetre        = 1000 * Micrometre
	Centimetre        = 10 * Millimetre
	Metre             = 1000 * Millimetre
	Inch              = 25_400_000 * Nanometre
	Foot              = 12 * Inch
)

// MM is a whole number of millimetres as a Length.
func MM(n int64) Length { return Length(n) * Millimetre }

// FromMM rounds a float64 in millimetres to the nearest nanometre. It is for
// the results of trigonometry; figures that people give go through
// [ParseLength] or [Decimal] and are exact.
func FromMM(mm float64) Length { return Length(math.Round(mm * 1e6)) }

// MM is the length in millimetres, for geometry that is drawn.
func (l Length) MM() float64 { return float64(l) / 1e6 }

// Abs is the length without its sign.
func (l Length) Abs() Length {
	if l < 0 {
		return -l
	}
	return l
}

// String gives the exact length in millimetres, "12.5 mm".
func (l Length) String() string { return FormatDecimal(int64(l), 6) + " mm" }

// Round is the multiple of step nearest to l, ties away from zero.
// A step of 0 or less leaves l as it is.
func (l Length) Round(step Length) Length {
	if step <= 0 {
		return l
	}
	if l < 0 {
		return -(-l).Round(step)
	}
	return (l + step/2) / step * step
}

// Floor is the largest multiple of step that is not above l.
func (l Length) Floor(step Length) Length {
	if step <= 0 {
		return l
	}
	r := l % step
	if r < 0 {
		r += step
	}
	return l - r
}

// Ceil is the smallest multiple of step that is not below l.
func (l Length) Ceil(step Length) Length { return -(-l).Floor(step) }

// Mass is a mass as an integer number of micrograms.
type Mass int64

// Units of mass. A pound is an exact number of micrograms; an ounce is not
// (28 349 523.125 µg), so ounces are rounded once, when a text is read.
const (
	Microgram Mass = 1
	Gram           = 1_000_000 * Microgram
	Kilogram       = 1000 * Gram
	Pound          = 453_592_370 * Microgram
)

// Kilograms is the mass in kilograms, for strength and lifting sums.
func (m Mass) Kilograms() float64 { return float64(m) / 1e9 }

// String gives the exact mass in kilograms, "14.2 kg".
func (m Mass) String() string { return FormatDecimal(int64(m), 9) + " kg" }

// Angle is an angle as an integer number of millionths of a degree.
type Angle int64

// Degree is one degree.
const Degree Angle = 1_000_000

// Down is a limit as it is shown: to a hundredth of a degree, and never more than it is.
func (a Angle) Down() Angle { return a - (a%(Degree/100)+Degree/100)%(Degree/100) }

// Degrees is the angle in degrees.
func (a Angle) Degrees() float64 { return float64(a) / 1e6 }

// Radians is the angle in radians.
func (a Angle) Radians() float64 { return a.Degrees() * math.Pi / 180 }

// String gives the exact angle in degrees, "0.3°".
func (a Angle) String() string { return FormatDecimal(int64(a), 6) + "°" }

// Ratio is a plain factor as an integer number of millionths: 0.8 is 800 000.
type Ratio int64

// One is the factor 1.
const One Ratio = 1_000_000

// Of is the ratio of a length, exact where the length is whole millimetres
// and rounded towards zero below a nanometre elsewhere.
func (r Ratio) Of(l Length) Length {
	whole, rest := l/Length(One), l%Length(One)
	return whole*Length(r) + rest*Length(r)/Length(One)
}

// OfMass is the ratio of a mass, rounded towards zero below a microgram.
func (r Ratio) OfMass(m Mass) Mass {
	whole, rest := m/Mass(One), m%Mass(One)
	return whole*Mass(r) + rest*Mass(r)/Mass(One)
}

// Float is the ratio as a float64.
func (r Ratio) Float() float64 { return float64(r) / 1e6 }

// String gives the exact factor, "0.8".
func (r Ratio) String() string { return FormatDecimal(int64(r), 6) }

// FormatDecimal writes n / 10^places without noise: no trailing zeros, no
// point where there is no fraction.
func FormatDecimal(n int64, places int) string {
	var room [24]byte
	return string(AppendDecimal(room[:0], n, places))
}

// AppendDecimal appends what [FormatDecimal] writes.
func AppendDecimal(out []byte, n int64, places int) []byte {
	u := uint64(n)
	if n < 0 {
		out, u = append(out, '-'), -u
	}
	whole, part := u/million, u%million
	if places != 6 { // which nearly all have, and a constant divides quickly
		one := uint64(1) // 10^places
		for range places {
			one *= 10
		}
		whole, part = u/one, u%one
	}
	out = strconv.AppendUint(out, whole, 10)
	if part == 0 {
		return out
	}
	for part%1000 == 0 {
		part /= 1000
		places -= 3
	}
	for part%10 == 0 {
		part /= 10
		places--
	}
	out = append(append(out, '.'), zeros[:places]...)
	for i := len(out) - 1; part > 0; i-- {
		out[i] = byte('0' + part%10)
		part /= 10
	}
	return out
}

const (
	million = 1_000_000
	zeros   = "0000000000000000000" // as many as there are places in a number
)

// Optional is a figure that may be missing. The zero value is missing; a
// missing figure is never read as 0.
type Optional[T any] struct {
	Value T
	Known bool
}

// Some is a figure that is known.
func Some[T any](v T) Optional[T] { return Optional[T]{v, true} }

// Or is the figure, or a fallback where it is missing.
func (o Optional[T]) Or(fallback T) T {
	if o.Known {
		return o.Value
	}
	return fallback
}

// HalfUp is half of a length that is not negative, rounded up below a
// nanometre: room that a thing of this size takes to one side is never taken
// for less.
func (l Length) HalfUp() Length { return (l + 1) / 2 }

// Torque is a moment as an integer number of millionths of a newton metre.
type Torque int64

// NewtonMetre is one newton metre.
const NewtonMetre Torque = 1_000_000

// NewtonMetres is the moment in newton metres.
func (t Torque) NewtonMetres() float64 { return float64(t) / 1e6 }

// String gives the exact moment, "22 N·m".
func (t Torque) String() string { return FormatDecimal(int64(t), 6) + " N·m" }

// Force is a force as an integer number of millionths of a newton.
type Force int64

// Newton is one newton.
const Newton Force = 1_000_000

// Newtons is the force in newtons.
func (f Force) Newtons() float64 { return float64(f) / 1e6 }

// String gives the exact force, "100 N".
func (f Force) String() string { return FormatDecimal(int64(f), 6) + " N" }
