// Package placetest has jobs for tests: a run of displays on studs, and a
// bracket with two wall plates.
package placetest

import (
	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// Sites are all of them, by what is particular about each.
var Sites = map[string]func() (*fit.Pairing, []place.Placement){"run": Run, "studs": Studs, "two plates": TwoPlates}

// Run is a run of three displays on concrete, that all find their place.
func Run() (*fit.Pairing, []place.Placement) {
	d, b := catalogtest.Pair()
	b.Profile = catalogtest.Length(52)
	return placed(d, b, &catalog.Job{ID: "run", Run: &catalog.Run{Count: 3, Gap: quantity.MM(12)},
		Wall:  catalog.Wall{Type: catalog.Concrete, Width: catalogtest.Length(4000), Height: catalogtest.Length(2600)},
		Place: catalog.Place{Rule: "center", Center: catalogtest.Length(1500)}})
}

// Studs is one display on studs, its plate shifted to them.
func Studs() (*fit.Pairing, []place.Placement) {
	d, b := catalogtest.Pair()
	b.Profile, b.WallPlate.LateralSlide = catalogtest.Length(52), catalogtest.Length(60)
	return placed(d, b, &catalog.Job{ID: "studs",
		Wall: catalog.Wall{Type: catalog.WoodStud, Width: catalogtest.Length(3600), Covering: catalogtest.Length(12),
			Studs: &catalog.Studs{First: catalogtest.Length(210), Spacing: catalogtest.Length(406)}},
		Place: catalog.Place{Rule: "center", Center: catalogtest.Length(1500), X: catalogtest.Length(1700)}})
}

// TwoPlates is a display on two wall plates, each on a stud of its own.
func TwoPlates() (*fit.Pairing, []place.Placement) {
	d, b := catalogtest.Pair()
	b.Profile = catalogtest.Length(52)
	w := b.WallPlate
	w.Count, w.StudsRequired, w.SeparationRange = 2, 1, &fastener.Interval{Min: quantity.MM(200), Max: quantity.MM(500)}
	return placed(d, b, &catalog.Job{ID: "two",
		Wall: catalog.Wall{Type: catalog.WoodStud, Width: catalogtest.Length(3600), Studs: &catalog.Studs{First: catalogtest.Length(210),
			Spacing: catalogtest.Length(406)}},
		Place: catalog.Place{Rule: "center", Center: catalogtest.Length(1500), X: catalogtest.Length(1632)}})
}

func placed(d *catalog.Display, b *catalog.Bracket, job *catalog.Job) (*fit.Pairing, []place.Placement) {
	d.Depth, b.Mass = catalogtest.Length(61), catalogtest.Mass(2000)
	p := fit.Judge(d, b, job.Turn, fit.Extra{Accessories: job.Accessories}, catalog.DefaultPolicy())
	return &p, place.Place(&p, job)
}
