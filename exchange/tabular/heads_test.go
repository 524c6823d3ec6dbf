package tabular

import (
	"fmt"
	"strings"
	"testing"
)

// TestUnitsInHeads: what a head says of its column's unit. One that is not known is never taken for the format's own: 2.2 stone are 14 kg.
func TestUnitsInHeads(t *testing.T) {
	for head, want := range map[string][2]string{ // field, unit
		"Weight": {"mass_kg", ""}, "Weight (kg)": {"mass_kg", "kg"}, "Weight lbs": {"mass_kg", "lb"}, "Weight in lb": {"mass_kg", "lb"},
		"Weight [lb.]": {"mass_kg", "lb"}, "Weight (kg, net)": {"mass_kg", "kg"}, "Weight (net)": {"mass_kg", ""},
		"Weight (in kg)": {"mass_kg", "kg"}, "Weight (w/o stand)": {"mass_kg", ""}, "Weight (2024 list)": {"mass_kg", ""},
		"Weight (st)": {"mass_kg", "?"}, "Weight (st.)": {"mass_kg", "?"}, "Weight in hundredweight": {"mass_kg", "?"},
		"Weight (Pfund)": {"mass_kg", "?"}, "Weight st": {"mass_kg", "?"}, "Weight, t": {"mass_kg", "?"}, "Weight in catties": {"mass_kg", "?"},
		"Weight (kg/lb)": {"mass_kg", "?"}, "Weight (N)": {"mass_kg", "?"}, "Weight (catty)": {"mass_kg", "?"},
		"Width (dm)": {"width_mm", "?"}, "Width dm": {"width_mm", "?"}, "Width (px)": {"width_mm", "?"}, "Width (W)": {"width_mm", ""},
		"Width (A)": {"width_mm", ""}, "Width (cm)": {"width_mm", "cm"}, "Height (\")": {"height_mm", "in"}, "Depth″": {"depth_mm", "in"},
		`Depth"`: {"depth_mm", "in"}, "Depth''": {"depth_mm", "in"}, "Depth'": {"depth_mm", "ft"}, "Depth (max)": {"depth_mm", ""},
		"Depth (mm/in)": {"depth_mm", "?"}, "Depth [thou]": {"depth_mm", "?"}, "Mounting depth": {"", ""}, "Wall depth": {"", ""},
		"Box width": {"", ""}, "Shipping height": {"", ""}, "Carton depth": {"", ""}, "Recess (mm)": {"pattern1.recess_mm", "mm"},
		`Depth "max"`: {"depth_mm", ""}, `"Depth"`: {"depth_mm", ""}, "Depth ‘max’": {"depth_mm", ""}, "Weight (100 g)": {"mass_kg", "?"},
		"Width (1/10 mm)": {"width_mm", "?"}, "Weight 100 g": {"mass_kg", "?"}, "Weight (*)": {"mass_kg", ""}, "Depth (rear)": {"depth_mm", ""},
		"Weight (TV)": {"mass_kg", ""}, "Thread depth (mil)": {"pattern1.thread_depth_mm", "?"},
	} {
		if c := recognise(Displays, head, nil); c.Field != want[0] || want[0] != "" && c.Unit != want[1] {
			t.Errorf("%q is %q in %q, want %q", head, c.Field, c.Unit, want)
		}
	}
	// A field that somebody chose for a head before has its unit no more than the head has.
	if c := recognise(Displays, "Gewicht (st)", map[string]string{"Gewicht (st)": "mass_kg"}); c.Unit != UnknownUnit {
		t.Errorf("%+v", c)
	}
}

// TestUnknownUnitsStop: a bare figure under such a head stops its row, and one that says its unit does not.
func TestUnknownUnitsStop(t *testing.T) {
	at, ok := places(Displays, "mass_kg")
	if !ok {
		t.Fatal("no place")
	}
	c := Column{Head: "Weight (st)", Field: "mass_kg", Unit: UnknownUnit}
	for text, want := range map[string]string{"2.2": "", "2 1/2": "", "2,2": "", "2.2 st": "", "14 kg": "14 kg", "30.9 lb": "30.9 lb"} {
		_, v, err := c.value(at, text, Points)
		if want == "" != (err != nil) || want != "" && v != want {
			t.Errorf("%q: %v, %v", text, v, err)
		}
		if err != nil && !strings.Contains(err.Error(), "unit") {
			t.Errorf("%q: %v", text, err)
		}
		if note := c.note(text); note != "" {
			t.Errorf("%q: %s", text, note)
		}
	}
}

// TestPatternsUnderHeads: which side comes first is as the head has it; in another unit than millimetres it is nothing.
func TestPatternsUnderHeads(t *testing.T) {
	for head, want := range map[string][2]string{"VESA": {"400", "300"}, "VESA (WxH)": {"400", "300"}, "VESA (HxW)": {"300", "400"},
		"VESA (H × W)": {"300", "400"}, "Pattern height x width": {"300", "400"}, "Pattern V/H": {"300", "400"}, "VESA (mm)": {"400", "300"},
		"VESA (cm)": {}, "VESA in inches": {}, "VESA (dm)": {}} {
		c := recognise(Displays, head, nil)
		r := Row{doc: map[string]any{}, from: map[string]int{}}
		r.patterns(0, &c, "400x300")
		if c.Field != pattern || len(r.Problems) > 0 != (want[0] == "") {
			t.Errorf("%q: %q, %v", head, c.Field, r.Problems)
			continue
		}
		if want[0] == "" {
			continue
		}
		p := r.doc["patterns"].([]any)[0].(map[string]any)
		if fmt.Sprint(p["width_mm"]) != want[0] || fmt.Sprint(p["height_mm"]) != want[1] {
			t.Errorf("%q: %v", head, p)
		}
	}
}

// TestUnitsBelowHeads: a row of units under the heads.
func TestUnitsBelowHeads(t *testing.T) {
	for own, want := range map[string]string{"kg": "kg", "lb": "lb", "st": "?", "catty": "?", "net": "", "": ""} {
		table := Table{Rows: [][]string{{"Maker", "Model", "Weight"}, {"", "", own}, {"Larch", "A1", "2.2"}}}
		if c := Laid(&table, Displays, 0, 2, nil).Columns[2]; c.Field != "mass_kg" || c.Unit != want {
			t.Errorf("%q below Weight: %+v", own, c)
		}
	}
}
