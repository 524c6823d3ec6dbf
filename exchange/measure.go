package exchange

import (
	"reflect"

	"nexufix/core/quantity"
)

// measure is a unit of the format: the suffix of its fields' names, the
// integer units in one, and the parser of what people write.
type measure struct {
	suffix, unit string
	perOne       int64
	parse        func(text string, bare quantity.Units) (int64, error)
	typed        func(text string) (int64, error) // a text that was typed into a field of a number
}

// plainNumber is one without a unit in its field's name.
var plainNumber = measure{"", "", int64(quantity.One), nil, typedAs(quantity.ParseNumber)}

func typedAs[T ~int64](parse func(string) (T, error)) func(string) (int64, error) {
	return func(s string) (int64, error) {
		n, err := parse(s)
		return int64(n), err
	}
}

// system is one of the two values, by the system of units.
func system[T any](u quantity.Units, metric, imperial T) T {
	if u == quantity.Imperial {
		return imperial
	}
	return metric
}

var measures = map[reflect.Type]measure{
	reflect.TypeFor[MM](): {"_mm", " mm", int64(quantity.Millimetre), func(s string, u quantity.Units) (int64, error) {
		l, err := quantity.ParseLength(s, system(u, quantity.Millimetre, quantity.Inch))
		return int64(l), err
	}, nil},
	reflect.TypeFor[KG](): {"_kg", " kg", int64(quantity.Kilogram), func(s string, u quantity.Units) (int64, error) {
		m, err := quantity.ParseMass(s, system(u, quantity.Kilogram, quantity.Pound))
		return int64(m), err
	}, nil},
	reflect.TypeFor[Deg](): {"_deg", "°", int64(quantity.Degree), func(s string, _ quantity.Units) (int64, error) {
		a, err := quantity.ParseAngle(s)
		return int64(a), err
	}, nil},
	reflect.TypeFor[Num]():             plainNumber,
	reflect.TypeFor[quantity.Torque](): {"", "", int64(quantity.NewtonMetre), nil, typedAs(quantity.ParseTorque)},
	reflect.TypeFor[quantity.Force]():  {"", "", int64(quantity.Newton), nil, typedAs(quantity.ParseForce)},
}
