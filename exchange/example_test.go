package exchange_test

import (
	"fmt"

	"nexufix/exchange"
)

// A document is read as a whole or not at all, and says everything that is wrong with
// it, with a path to each.
func ExampleRead() {
	c, err := exchange.Read([]byte(`{"format": "nexufix/1", "displays": [{"id": "pane-49", "model": "Pane 49", "width": "43 1/8 in"}]}`))
	fmt.Println(c.Displays[0].Width.Value, err)

	_, err = exchange.Read([]byte(`{"format": "nexufix/1", "displays": [{"id": "pane 49", "mass_kg": -3}]}`))
	fmt.Println(err)
	// Output:
	// 1095.375 mm <nil>
	// displays[0].id: "pane 49"; allowed: letters, digits, dots, dashes and underscores, starting with a letter or digit
	// displays[0].mass_kg: -3 kg; allowed: a number of kg, more than 0, at most 1000
}
