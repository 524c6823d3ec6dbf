package stack_test

import (
	"fmt"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/stack"
)

// The best parts for every hole of a display, from a bracket's kit.
func ExampleSolve() {
	display, bracket := catalogtest.Pair()
	layout := stack.NewBoltLayout(display, &display.Patterns[0], bracket, 0)
	answer := stack.Solve(layout.On(bracket, catalog.DefaultPolicy()))
	for _, g := range answer.Best.Groups {
		fmt.Printf("%v: %s×%s with %d × washer, %s engaged\n", g.Holes, g.Thread, g.Bolt, g.Washers.Count, g.Engagement)
	}
	// Output:
	// [TL TR BL BR]: M6×12 mm with 1 × washer, 7.9 mm engaged
}
