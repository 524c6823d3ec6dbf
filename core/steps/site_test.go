package steps

import (
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// atCounter is the steps of a display on a particular wall.
func atCounter(change func(*catalog.Job)) Sequence {
	d, b := catalogtest.Pair()
	b.Profile, b.WallPlate.LateralSlide = catalogtest.Length(52), catalogtest.Length(60)
	job := &catalog.Job{ID: "counter", Wall: catalog.Wall{Type: "wood_stud", Width: catalogtest.Length(3600), Covering: catalogtest.Length(12),
		Studs: &catalog.Studs{First: catalogtest.Length(210), Spacing: catalogtest.Length(406)}},
		Place: catalog.Place{Rule: "center", Center: catalogtest.Length(1500), X: catalogtest.Length(1650)}}
	change(job)
	p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
	return Generate(&p, Site{Wall: job.Wall.Type, Center: job.Place.Center, Places: place.Place(&p, job)})
}

// all is everything a step says.
func all(s *Step) string {
	var out []string
	for _, p := range s.Text {
		out = append(out, p.In(quantity.Metric))
	}
	for _, p := range s.Mind {
		out = append(out, p.In(quantity.Metric))
	}
	return strings.Join(append(out, s.Caution.In(quantity.Metric), s.Check.In(quantity.Metric)), " | ")
}

// TestSiteSteps: on a particular wall the steps say its numbers, the same as
// template and measure card, and its cautions.
func TestSiteSteps(t *testing.T) {
	s := atCounter(func(j *catalog.Job) { j.Wall.Outlets = []catalog.Outlet{{X: quantity.MM(1430), Y: quantity.MM(300)}} })
	for id, want := range map[string][]string{
		"offsets": {"Level line 1588 mm above the floor.", "Middle of the display 1650 mm from the wall's left end.",
			"bottom edge is at 1183 mm"},
		"prove": {"its middle 1428 mm", "its middle 1834 mm", "have the place worked out again"},
		"mark": {"1 (T1): 220 mm left of the middle, 95 mm above the level line.", "4 (B3):", "95 mm below the level line",
			"mark the same points"},
		"drill": {"in line with the outlet at 1430 mm"},
	} {
		said := all(step(&s, id))
		for _, w := range want {
			if !strings.Contains(said, w) {
				t.Errorf("%s does not say %q: %s", id, w, said)
			}
		}
	}
	if step(&s, "tether").ID != "" {
		t.Error("a tether at the height of a counter")
	}
	// Overhead there is a second tether, as a part and in a step.
	s = atCounter(func(j *catalog.Job) {
		j.Place = catalog.Place{Rule: "overhead", Bottom: catalogtest.Length(2100), X: catalogtest.Length(1650)}
	})
	fitted := step(&s, "tether")
	tether := false
	for _, p := range fitted.Parts {
		tether = tether || strings.Contains(p.Name, "tether") && p.Supplied && p.Count == 1
	}
	if !tether || !strings.Contains(all(fitted), "second tether") || !strings.Contains(fitted.Caution.In(quantity.Metric), "over people") {
		t.Errorf("%+v", fitted)
	}
	supplied := false
	for _, p := range s.Supply {
		supplied = supplied || strings.Contains(p.Name, "tether")
	}
	if !supplied {
		t.Errorf("%+v", s.Supply)
	}
	// Where it cannot be placed, the steps are for no particular wall.
	s = atCounter(func(j *catalog.Job) { j.Wall.Studs = nil })
	if said := all(step(&s, "mark")); strings.Contains(said, "(T1)") {
		t.Error(said)
	}
	// A run names its displays.
	s = atCounter(func(j *catalog.Job) {
		j.Wall.Type, j.Run = "concrete", &catalog.Run{Count: 2, Gap: quantity.MM(10)}
	})
	if said := all(step(&s, "offsets")) + all(step(&s, "mark")); !strings.Contains(said, "Middle of the display 2") ||
		!strings.Contains(said, "of the middle of display 2") {
		t.Error(said)
	}
}
