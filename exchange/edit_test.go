package exchange

import (
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// editable is what the edits here are made on.
type editable struct {
	Display *catalog.Display `json:"display,omitempty"`
	Site    *catalog.Job     `json:"site,omitempty"`
	Policy  *PolicySettings  `json:"policy,omitempty"`
}

const (
	weighed = `{"display":{"id":"a","model":"A","mass_kg":12,"width_mm":1000,"patterns":[
	{"width_mm":200,"height_mm":200,"thread":"M6","rows":{"top":{"thread_depth_mm":10},"bottom":{"thread_depth_mm":12,"recess_mm":3}}},
	{"width_mm":400,"height_mm":400}],
	"origins":{"patterns[0].rows.bottom.recess_mm":"bench","patterns[1].width_mm":"caller","mass_kg":"bench"},
	"notes":{"patterns[0].rows.bottom.recess_mm":{"text":"gauge"},"mass_kg":{"text":"scale"}}}}`
	outlets = `{"site":{"id":"j","display":"a","bracket":"b","wall":{"type":"wood_stud","outlets":[{"x_mm":100,"y_mm":300},
	{"x_mm":500,"y_mm":300,"stud":"left"},{"x_mm":900,"y_mm":300}],"studs":{"outlet":1,"spacing_mm":600}},"place":{"rule":"center"}}}`
)

// edited makes edits, "path = JSON" with "; " between them, of the display where nothing else is said.
func edited(t *testing.T, document, edits string, units quantity.Units) (string, Problems) {
	t.Helper()
	var value editable
	if err := ReadInto([]byte(document), &value); err != nil {
		t.Fatal(err)
	}
	var list []Edit
	for edit := range strings.SplitSeq(edits, "; ") {
		path, to, _ := strings.Cut(edit, " = ")
		if of, _, _ := strings.Cut(path, "."); of != "site" && of != "policy" {
			path = "display." + path
		}
		n := parseJSON([]byte(to), new(Problems))
		if n == nil {
			t.Fatal(edits)
		}
		list = append(list, Edit{path, Anything{n}})
	}
	before, _ := json.Marshal(value)
	out, _, err := Edited(value, list, units)
	var problems Problems
	errors.As(err, &problems)
	if after, _ := json.Marshal(value); string(after) != string(before) {
		t.Errorf("%s changed what it was made of: %s", edits, after)
	}
	raw, _ := json.Marshal(out)
	return string(raw), problems
}

func TestEdits(t *testing.T) {
	for _, test := range []struct {
		document, edits, want string
		units                 quantity.Units
	}{
		// As they are typed: with a unit, with a comma, as a number, in words, whole.
		{weighed, `mass_kg = "13,5"`, `"mass_kg":13.5`, quantity.Metric},
		{weighed, `patterns[0].torque_max_nm = "13 in-lb"`, `"torque_max_nm":1.468803`, quantity.Metric},
		{weighed, `patterns[0].torque_max_nm = "1,5"`, `"torque_max_nm":1.5`, quantity.Imperial},
		{weighed, `mass_kg = "30 lb"`, `"mass_kg":13.607771`, quantity.Metric},
		{weighed, `mass_kg = 14.25`, `"mass_kg":14.25`, quantity.Metric},
		{weighed, `width_mm = "39 3/8 in"`, `"width_mm":1000.125`, quantity.Metric},
		{weighed, `model = "B 2"`, `"model":"B 2"`, quantity.Metric},
		{weighed, `patterns[0].rows.top.setback_mm = "2"`, `"setback_mm":2`, quantity.Metric},
		{weighed, `aliases = ["x","y"]`, `"aliases":["x","y"]`, quantity.Metric},
		{weighed, `aliases[0] = "x"; aliases[1] = "y"`, `"aliases":["x","y"]`, quantity.Metric},
		{weighed, `zones[0] = {"kind":"port","x_mm":"10","y_mm":"20","width_mm":"5 cm","height_mm":"40","depth_mm":""}`,
			`"zones":[{"kind":"port","x_mm":10,"y_mm":20,"width_mm":50,"height_mm":40}]`, quantity.Metric},
		{outlets, `site.wall.outlets.0.x_mm = "12"`, `{"x_mm":12,"y_mm":300}`, quantity.Metric}, // as older links have it
		// Bare figures are of the system that the page is read in; a bolt's length is metric by its name.
		{weighed, `width_mm = "40"`, `"width_mm":1016`, quantity.Imperial},
		{weighed, `width_mm = "40 mm"`, `"width_mm":40`, quantity.Imperial},
		{weighed, `width_mm = 1016`, `"width_mm":1016`, quantity.Imperial},
		{weighed, `mass_kg = "10"`, `"mass_kg":4.535924`, quantity.Imperial},
		{weighed, `patterns[1].rows.top.trials = [{"thread":"M6","length_mm":"45","outcome":"stopped","gap_mm":"1/2","turns":"4,5"}]`,
			`"trials":[{"thread":"M6","length_mm":45,"outcome":"stopped","gap_mm":12.7,"turns":4.5}]`, quantity.Imperial},
		{weighed, `policy.reveal_mm = "1/2"`, `"policy":{"reveal_mm":12.7}`, quantity.Imperial},
		{weighed, `policy.load_caution = "0,8"`, `"policy":{"load_caution":0.8}`, quantity.Imperial},
		// What is taken away leaves nothing that names it, and what is said of later entries is said of the entry before.
		{weighed, `patterns[0].rows.bottom.recess_mm = ""`, `"origins":{"mass_kg":"bench","patterns[1].width_mm":"caller"}`, quantity.Metric},
		{weighed, `patterns[0].rows.bottom.recess_mm = null`, `"notes":{"mass_kg":{"text":"scale"}}`, quantity.Metric},
		{weighed, `patterns[0] = null`, `"origins":{"mass_kg":"bench","patterns[0].width_mm":"caller"}`, quantity.Metric},
		{weighed, `patterns[1] = null`, `"origins":{"mass_kg":"bench","patterns[0].rows.bottom.recess_mm":"bench"}`, quantity.Metric},
		{weighed, `mass_kg = "9"`, `"mass_kg":{"text":"scale"}`, quantity.Metric},
		{weighed, `patterns[0].rows.bottom.trials = [{"thread":"M6","length_mm":"45","outcome":"loose"}]`,
			`"origins":{"mass_kg":"bench","patterns[1].width_mm":"caller"}`, quantity.Metric}, // they stand in for recess and depth
		{weighed, `origins.mass_kg = null`, `"origins":{"patterns[0]`, quantity.Metric},
		{weighed, `origins.patterns[0].width_mm = "bench"`, `"patterns[0].width_mm":"bench"`, quantity.Metric},
		{weighed, `nothing.there = ""; patterns[7] = null`, `"width_mm":400`, quantity.Metric},
		{outlets, `site.wall.outlets[0] = null`, `"outlet":0`, quantity.Metric},
		{outlets, `site.wall.outlets[1] = null`, `"type":"wood_stud","outlets"`, quantity.Metric}, // studs that it told are not known
		{outlets, `site.wall.outlets[2] = null`, `"outlet":1`, quantity.Metric},
		{outlets, `site.wall.furniture[0] = {"x_mm":1,"width_mm":"2","height_mm":3}; site.wall.furniture[0] = null`,
			`"y_mm":300}]},"place"`, quantity.Metric},
		{outlets, `site.wall.studs = {"at_mm":[100]}; site.wall.studs.at_mm[0] = null`, `"type":"wood_stud","outlets"`, quantity.Metric},
		// What was measured of a wall of another kind is not so of this one; a thickness of the same base is.
		{outlets, `site.wall.wet = true; site.wall.backing_mm = "89"; site.wall.type = "metal_stud"`,
			`{"type":"metal_stud","backing_mm":89,"studs"`, quantity.Metric},
		{outlets, `site.wall.wet = true; site.wall.backing_mm = "89"; site.wall.type = "concrete"`, `{"type":"concrete","studs"`, quantity.Metric},
		{outlets, `site.wall.wet = true; site.wall.type = "wood_stud"`, `"wet":true`, quantity.Metric},
	} {
		got, problems := edited(t, test.document, test.edits, test.units)
		if problems != nil || !strings.Contains(got, test.want) {
			t.Errorf("%s: %v, %s; want %s", test.edits, problems, got, test.want)
		}
	}
}

// What is wrong has the path that the edit has.
func TestEditsThatAreWrong(t *testing.T) {
	for _, test := range []struct{ edits, path, found string }{
		{`width_mm = "wide"`, "display.width_mm", "wide"},
		{`width_mm = "1,200"`, "display.width_mm", "could mean"},
		{`mass_kg = "-3"`, "display.mass_kg", "-3 kg"},
		{`policy.load_caution = "0.8 kg"`, "policy.load_caution", "kg"},
		{`policy.handling_n = "1,200"`, "policy.handling_n", "could mean"},
		{`patterns[0].rows.top.recess_mm = "x"`, "display.patterns[0].rows.top.recess_mm", "x"},
		{`patterns[5].width_mm = "3"`, "display.patterns[5].width_mm", "leads nowhere"},
		{`width_mm.of = "3"`, "display.width_mm.of", "leads nowhere"},
		{`patterns[-1].width_mm = "3"`, "display.patterns[-1].width_mm", "leads nowhere"},
		{`colour = "red"`, "display.colour", "not a field"},
		{`origins.depth_mm = "bench"`, "display.origins.depth_mm", "leads nowhere"},
	} {
		_, problems := edited(t, weighed, test.edits, quantity.Metric)
		if len(problems) != 1 || problems[0].Path != test.path || !strings.Contains(problems[0].Found, test.found) {
			t.Errorf("%s: %v; want %s: %s", test.edits, problems, test.path, test.found)
		}
	}
}

// TestHostileEdits: whatever the paths and values, an edit is made or refused.
func TestHostileEdits(t *testing.T) {
	random := rand.New(rand.NewPCG(30, 1))
	parts := []string{"display", "patterns", "[0]", "[1]", "[9]", "0", "rows", "bottom", "recess_mm", "mass_kg", "origins", "notes",
		"wall", "type",
		"outlets", "studs", "at_mm", "trials", "", "[", "]", "[[0]]", "site", "policy", "zones"}
	values := []string{`""`, `null`, `"3"`, `{}`, `[]`, `[null]`, `{"x":{}}`, `true`, `-1`, `"concrete"`, `[[[]]]`}
	for range 20_000 {
		var value editable
		document := weighed
		if random.IntN(2) == 0 {
			document = outlets
		}
		if err := ReadInto([]byte(document), &value); err != nil {
			t.Fatal(err)
		}
		var list []Edit
		for range 1 + random.IntN(4) {
			path := []string{"display", "site", "policy"}[random.IntN(3)]
			for range random.IntN(5) {
				part := parts[random.IntN(len(parts))]
				if !strings.HasPrefix(part, "[") {
					part = "." + part
				}
				path += part
			}
			list = append(list, Edit{path, Anything{parseJSON([]byte(values[random.IntN(len(values))]), new(Problems))}})
		}
		func() {
			defer func() {
				if wrong := recover(); wrong != nil {
					t.Fatal(fmt.Sprint(list, ": ", wrong))
				}
			}()
			_, _, _ = Edited(value, list, quantity.Metric)
		}()
	}
}
