package quantity

import (
	"fmt"
	"reflect"
)

// Name is what people call a thing, a job or somebody: data, which stays as it is in every language. (An argument that is a string is
// words.)
type Name string

// appendArg appends an argument of a sentence in a system of units, a figure with the decimal sign of a language.
func appendArg(out []byte, x any, u Units, l *Language) []byte {
	switch v := x.(type) {
	case string:
		return append(out, v...)
	case Name:
		return append(out, v...)
	case int:
		return AppendDecimal(out, int64(v), 0)
	case Phrase:
		return v.AppendIn(out, u)
	case Either:
		if u == Imperial {
			return append(out, v.Imperial...)
		}
		return append(out, v.Metric...)
	}
	if l == nil || !l.Comma {
		return appendFigure(out, x, u)
	}
	return append(out, l.Figure(string(appendFigure(nil, x, u)))...)
}

// appendFigure appends a figure; what has another kind of value than a number or a text is written as its type's name: a mistake, in
// plain sight.
func appendFigure(out []byte, x any, u Units) []byte {
	switch v := x.(type) {
	case Length:
		return u.AppendShown(out, Shown{v, Nearest, false})
	case AtLeast:
		return u.AppendShown(out, Shown{Length(v), Down, false})
	case AtMost:
		return u.AppendShown(out, Shown{Length(v), Up, false})
	case Shown:
		return u.AppendShown(out, v)
	case Wall:
		return u.append(out, Length(v), wallStep, 16, Nearest)
	case Bare:
		return u.appendBare(out, v)
	case Mass:
		return u.AppendMass(out, v, Up)
	case Capacity:
		return u.AppendMass(out, Mass(v), Down)
	case Angle:
		return u.AppendAngle(out, v.Degrees())
	case Torque:
		return append(out, v.String()...)
	}
	switch v := reflect.ValueOf(x); {
	case !v.IsValid():
		return append(out, "nil"...)
	case v.CanInt(), v.CanUint(), v.CanFloat(), v.Kind() == reflect.String:
		return fmt.Append(out, x)
	}
	return append(out, reflect.TypeOf(x).String()...)
}

// argIn is an argument in a language.
func argIn(x any, l *Language) any {
	switch v := x.(type) {
	case Phrase:
		return v.For(l)
	case string:
		return l.Words(v)
	case Either:
		return Either{l.Words(v.Metric), l.Words(v.Imperial)}
	}
	return x
}

// sameArg reports whether two arguments are equal.
func sameArg(x, y any) bool {
	p, is := x.(Phrase)
	if q, both := y.(Phrase); is || both {
		return is && both && p.Same(q)
	}
	return reflect.DeepEqual(x, y)
}
