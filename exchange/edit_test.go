package exchange

import (
	"encoding/json"
	"errors"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// edited puts edits, written as a JSON list, on a document around a display and a job.
func edited(t *testing.T, document, edits string, units quantity.Units) (string, Problems) {
	t.Helper()
	type documents struct {
		Display *catalog.Display `json:"display,omitempty"`
		Site    *catalog.Job     `json:"site,omitempty"`
	}
	var of struct {
		Edits []Edit `json:"edits" maxItems:"1000"`
	}
	var value documents
	if err := ReadInto([]byte(document), &value); err != nil {
		t.Fatal(err)
	}
	if err := ReadInto([]byte(`{"edits":`+edits+`}`), &of); err != nil {
		t.Fatal(err)
	}
	before, _ := json.Marshal(value)
	out, _, err := Edited(value, of.Edits, units)
	var problems Problems
	errors.As(err, &problems)
	if after, _ := json.Marshal(value); string(after) != string(before) {
		t.Errorf("%s changed what it was made of: %s", edits, after)
	}
	raw, _ := json.Marshal(out)
	return string(raw), problems
}

const pane = `{"display":{"id":"a","model":"A","mass_kg":12,"width_mm":1000,"patterns":[
	{"width_mm":200,"height_mm":200,"thread":"M6","rows":{"top":{"thread_depth_mm":10},"bottom":{"thread_depth_mm":12,"recess_mm":3}}},
	{"width_mm":400,"height_mm":400}],
	"origins":{"patterns[0].rows.bottom.recess_mm":"bench","patterns[1].width_mm":"caller","mass_kg":"bench"},
	"notes":{"patterns[0].rows.bottom.recess_mm":{"text":"gauge"},"mass_kg":{"text":"scale"}}}}`

func TestEditsAreAsTyped(t *testing.T) {
	for _, test := range []struct{ edits, want string }{
		{`[{"path":"display.mass_kg","to":"13,5"}]`, `"mass_kg":13.5`},
		{`[{"path":"display.mass_kg","to":"30 lb"}]`, `"mass_kg":13.607771`},
		{`[{"path":"display.mass_kg","to":14.25}]`, `"mass_kg":14.25`},
		{`[{"path":"display.width_mm","to":"39 3/8 in"}]`, `"width_mm":1000.125`},
		{`[{"path":"display.model","to":"B 2"}]`, `"model":"B 2"`},
		{`[{"path":"display.patterns[0].rows.top.setback_mm","to":"2"}]`, `"setback_mm":2`},
		{`[{"path":"display.aliases","to":["x","y"]}]`, `"aliases":["x","y"]`},
		{`[{"path":"display.aliases[0]","to":"x"},{"path":"display.aliases[1]","to":"y"}]`, `"aliases":["x","y"]`},
		{`[{"path":"display.zones[0]","to":{"kind":"port","x_mm":"10","y_mm":"20","width_mm":"5 cm","height_mm":"40","depth_mm":""}}]`,
			`"zones":[{"kind":"port","x_mm":10,"y_mm":20,"width_mm":50,"height_mm":40}]`},
	} {
		got, problems := edited(t, pane, test.edits, quantity.Metric)
		if problems != nil || !strings.Contains(got, test.want) {
			t.Errorf("%s: %v, %s; want %s", test.edits, problems, got, test.want)
		}
	}
	// Bare figures are of the system that the page is read in; a bolt's length is metric by its name.
	for edits, want := range map[string]string{
		`[{"path":"display.width_mm","to":"40"}]`:     `"width_mm":1016`,
		`[{"path":"display.width_mm","to":"40 mm"}]`:  `"width_mm":40`,
		`[{"path":"display.mass_kg","to":"10"}]`:      `"mass_kg":4.535924`,
		`[{"path":"display.width_mm","to":1016}]`:     `"width_mm":1016`,
		`[{"path":"display.width_mm","to":"3' 4\""}]`: `"width_mm":1016`,
		`[{"path":"display.patterns[1].rows.top.trials","to":[{"thread":"M6","length_mm":"45","outcome":"stopped","gap_mm":"1/2","turns":"4,5"}]}]`: `"trials":[{"thread":"M6","length_mm":45,"outcome":"stopped","gap_mm":12.7,"turns":4.5}]`,
	} {
		if got, _ := edited(t, pane, edits, quantity.Imperial); !strings.Contains(got, want) {
			t.Errorf("%s in inches: %s, want %s", edits, got, want)
		}
	}
}

// What is taken away leaves nothing that names it: a display that was measured well could not be changed.
func TestEditsForget(t *testing.T) {
	for _, test := range []struct{ edits, want, not string }{
		{`[{"path":"display.patterns[0].rows.bottom.recess_mm","to":""}]`, `"origins":{"mass_kg":"bench","patterns[1].width_mm":"caller"}`, "gauge"},
		{`[{"path":"display.patterns[0].rows.bottom.recess_mm","to":null}]`, `"mass_kg":{"text":"scale"}`, "recess"},
		{`[{"path":"display.patterns[0]","to":null}]`, `"patterns[0].width_mm":"caller"`, "patterns[1]"},
		{`[{"path":"display.patterns[1]","to":null}]`, `"patterns[0].rows.bottom.recess_mm":"bench"`, "patterns[1]"},
		{`[{"path":"display.mass_kg","to":""},{"path":"display.mass_kg","to":"9"}]`, `"mass_kg":9`, "scale"},
		{`[{"path":"display.mass_kg","to":"9"}]`, `"mass_kg":"bench"`, "nothing"},
		{`[{"path":"display.patterns[0].rows.bottom.trials","to":[{"thread":"M6","length_mm":"45","outcome":"loose"}]}]`, `"trials":[`, "recess"},
		{`[{"path":"display.origins.mass_kg","to":null}]`, `"patterns[0].rows.bottom.recess_mm":"bench"`, `"mass_kg":"bench"`},
		{`[{"path":"display.origins.patterns[0].rows.top.thread_depth_mm","to":"bench"}]`, `"patterns[0].rows.top.thread_depth_mm":"bench"`, "nothing"},
		{`[{"path":"display.nothing.there","to":""},{"path":"display.patterns[7]","to":null}]`, `"id":"a"`, "nothing"},
	} {
		got, problems := edited(t, pane, test.edits, quantity.Metric)
		if problems != nil || !strings.Contains(got, test.want) || strings.Contains(got, test.not) {
			t.Errorf("%s: %v, %s; want %s and no %s", test.edits, problems, got, test.want, test.not)
		}
	}
	const wall = `{"site":{"id":"j","display":"a","bracket":"b","wall":{"type":"wood_stud","outlets":[{"x_mm":100,"y_mm":300},
		{"x_mm":500,"y_mm":300,"stud":"left"},{"x_mm":900,"y_mm":300}],"studs":{"outlet":1,"spacing_mm":600}},"place":{"rule":"center","center_mm":1500}}}`
	for edits, want := range map[string]string{
		`[{"path":"site.wall.outlets[0]","to":null}]`:    `"outlet":0`,
		`[{"path":"site.wall.outlets[2]","to":null}]`:    `"outlet":1`,
		`[{"path":"site.wall.outlets[0].stud","to":""}]`: `{"x_mm":100,"y_mm":300}`,
		`[{"path":"site.wall.furniture[0]","to":{"x_mm":1,"width_mm":"2","height_mm":3}},{"path":"site.wall.furniture[0]","to":null}]`: `"type":"wood_stud","studs"`,
		`[{"path":"site.wall.studs","to":{"at_mm":[100],"width_mm":38}},{"path":"site.wall.studs.at_mm[0]","to":null}]`:                `"stud":"left"},{"x_mm":900,"y_mm":300}]}`,
		// What was measured of a wall of another kind is not so of this one; a thickness of the same base is.
		`[{"path":"site.wall.wet","to":true},{"path":"site.wall.backing_mm","to":"89"},{"path":"site.wall.type","to":"metal_stud"}]`: `{"type":"metal_stud","backing_mm":89,`,
		`[{"path":"site.wall.wet","to":true},{"path":"site.wall.backing_mm","to":"89"},{"path":"site.wall.type","to":"concrete"}]`:   `{"type":"concrete","studs"`,
		`[{"path":"site.wall.wet","to":true},{"path":"site.wall.type","to":"wood_stud"}]`:                                            `"wet":true`,
	} {
		if got, problems := edited(t, wall, edits, quantity.Metric); problems != nil || !strings.Contains(got, want) {
			t.Errorf("%s: %v, %s; want %s", edits, problems, got, want)
		}
	}
	if got, problems := edited(t, wall, `[{"path":"site.wall.outlets[1]","to":null}]`, quantity.Metric); problems != nil || strings.Contains(got, "studs") {
		t.Errorf("studs that an outlet told are there without it: %v, %s", problems, got)
	}
}

// What is wrong has the path that the edit has.
func TestEditsThatAreWrong(t *testing.T) {
	for _, test := range []struct{ edits, path, found string }{
		{`[{"path":"display.width_mm","to":"wide"}]`, "display.width_mm", "wide"},
		{`[{"path":"display.width_mm","to":"1,200"}]`, "display.width_mm", "1,200"},
		{`[{"path":"display.mass_kg","to":"-3"}]`, "display.mass_kg", "-3 kg"},
		{`[{"path":"display.patterns[0].rows.top.recess_mm","to":"x"}]`, "display.patterns[0].rows.top.recess_mm", "x"},
		{`[{"path":"display.patterns[5].width_mm","to":"3"}]`, "display.patterns[5].width_mm", "leads nowhere"},
		{`[{"path":"display.width_mm.of","to":"3"}]`, "display.width_mm.of", "leads nowhere"},
		{`[{"path":"display.patterns[-1].width_mm","to":"3"}]`, "display.patterns[-1].width_mm", "leads nowhere"},
		{`[{"path":"display.colour","to":"red"}]`, "display.colour", "not a field"},
		{`[{"path":"display.origins.depth_mm","to":"bench"}]`, "display.origins.depth_mm", "leads nowhere"},
	} {
		_, problems := edited(t, pane, test.edits, quantity.Metric)
		if len(problems) != 1 || problems[0].Path != test.path || !strings.Contains(problems[0].Found, test.found) {
			t.Errorf("%s: %v; want %s: %s", test.edits, problems, test.path, test.found)
		}
	}
}
