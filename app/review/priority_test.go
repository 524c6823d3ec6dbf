package review

import (
	"nexufix/app/bench"
	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"nexufix/exchange"
	"slices"
	"strings"
	"testing"
)

// TestWorthMeasuring: a display is listed that fits nothing for want of a figure, with how it is found; one that fits a bracket is not,
// unless a job rests on what a caller said of it, and then with that figure; the one that jobs wait for comes first.
func TestWorthMeasuring(t *testing.T) {
	o := openOffice(t)
	look := func() []bench.MeasurementPriority {
		t.Helper()
		all, err := o.st.Catalogue(t.Context())
		if err != nil {
			t.Fatal(err)
		}
		out, err := bench.MeasurementPriorities(t.Context(), all, quantity.Reader{})
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	first := look()
	if len(first) != 5 || first[0].Brackets == 0 || len(first[0].Jobs) > 0 {
		t.Errorf("%+v", first)
	}
	for _, w := range first {
		if len(w.Missing) == 0 || !strings.HasSuffix(w.Missing[0], ".") || len(w.Told) > 0 {
			t.Errorf("%+v", w)
		}
	}
	o.weigh("velmora-pane-49", func(d *catalog.Display) { d.Origins = map[string]catalog.Origin{"mass_kg": catalog.Caller} })
	now := look()
	if w := now[0]; w.Display != "velmora-pane-49" || len(w.Missing) > 0 || !slices.Equal(w.Told, []string{"mass_kg"}) ||
		!slices.Contains(w.Jobs, counter.Job) {
		t.Errorf("%+v", now)
	}
	o.weigh("velmora-pane-49", func(d *catalog.Display) {
		d.Patterns = slices.Clone(d.Patterns)
		for i := range d.Patterns {
			d.Patterns[i].Rows = nil
		}
	})
	if w := look()[0]; w.Display != "velmora-pane-49" || w.Brackets == 0 || len(w.Missing) == 0 {
		t.Errorf("without what the holes are like: %+v", w)
	}
	all, err := bench.MeasurementPriorities(t.Context(), &exchange.Contents{Displays: []*catalog.Display{{ID: "x"}}}, quantity.Reader{})
	if err != nil || len(all) > 0 {
		t.Errorf("without brackets: %+v, %v", all, err)
	}
}
