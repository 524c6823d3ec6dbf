package quantity_test

import (
	"fmt"

	"nexufix/core/quantity"
)

func ExampleParseLength() {
	for _, s := range []string{`39 3/4"`, "1.12 m", "6-1/8 in", "7/0"} {
		l, err := quantity.ParseLength(s, quantity.Millimetre)
		fmt.Println(l, err)
	}
	// Output:
	// 1009.65 mm <nil>
	// 1120 mm <nil>
	// 155.575 mm <nil>
	// 0 mm "7/0" divides by zero
}

func ExampleSay() {
	p := quantity.Say("The bolt holds %v.", quantity.AtLeast(11_990*quantity.Micrometre))
	fmt.Println(p.In(quantity.Metric))
	fmt.Println(p.In(quantity.Imperial))
	// Output:
	// The bolt holds 11.9 mm.
	// The bolt holds 15/32 in.
}
