package place_test

import (
	"fmt"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fit"
	"nexufix/core/place"
)

// A job puts the displays on their wall: heights, the plate's shift to the studs, the
// points to drill.
func ExamplePlace() {
	display, bracket := catalogtest.Pair()
	bracket.WallPlate.LateralSlide = catalogtest.Length(60)
	pairing := fit.Judge(display, bracket, 0, fit.Extra{}, catalog.DefaultPolicy())
	job := &catalog.Job{
		ID: "counter",
		Wall: catalog.Wall{Type: catalog.WoodStud, Width: catalogtest.Length(3600),
			Studs: &catalog.Studs{First: catalogtest.Length(210), Spacing: catalogtest.Length(406)}},
		Place: catalog.Place{Rule: "center", Center: catalogtest.Length(1500), X: catalogtest.Length(1700)},
	}
	at := place.Place(&pairing, job)[0]
	fmt.Println("shift", at.Shift())
	for _, p := range at.Points {
		fmt.Println(p.Hole, p.X, p.Y)
	}
	// Output:
	// shift -48 mm
	// T1 1432 mm 1683 mm
	// T3 1834 mm 1683 mm
	// B1 1432 mm 1493 mm
	// B3 1834 mm 1493 mm
}
