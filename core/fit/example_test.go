package fit_test

import (
	"fmt"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// A pairing is judged by every rule, and each finding explains itself.
func ExampleJudge() {
	display, bracket := catalogtest.Pair()
	p := fit.Judge(display, bracket, 0, fit.Extra{}, catalog.DefaultPolicy())
	fmt.Println(p.Verdict)
	fmt.Println(p.Check(fit.LoadRule).Text.In(quantity.Metric))
	fmt.Println(p.Check(fit.StackRule).Text.In(quantity.Imperial))
	// Output:
	// fits
	// 14.2 kg on a bracket rated for 36 kg.
	// Every hole is safe; with the tolerances against it, thread engagement at TL, TR, BL, BR is still 9/32 in.
}
