package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

const example = "../../exchange/testdata/example.json"

// call runs the program in this process.
func call(args ...string) (code int, out, err string) { return callWith("", args...) }

// callWith is the same with something to read.
func callWith(stdin string, args ...string) (code int, out, err string) {
	var o, e bytes.Buffer
	code = run(args, strings.NewReader(stdin), &o, &e)
	return code, o.String(), e.String()
}

func written(t *testing.T, text string) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "in.json")
	if err := os.WriteFile(file, []byte(text), 0o600); err != nil {
		t.Fatal(err)
	}
	return file
}

func TestMatch(t *testing.T) {
	code, out, errs := call("match", "--in", example)
	if code != 0 || errs != "" {
		t.Fatal(code, errs)
	}
	var r struct {
		Format   string
		Pairings []struct {
			Display, Bracket, Verdict string
			Turn                      int `json:"turn_deg"`
			Stack                     struct {
				Lean   float64 `json:"lean_deg"`
				Groups []struct {
					Engagement float64 `json:"engagement_mm"`
				}
			}
			Hang map[string]float64
		}
	}
	if err := json.Unmarshal([]byte(out), &r); err != nil {
		t.Fatal(err)
	}
	p := r.Pairings[0]
	if r.Format != "nexufix/1" || len(r.Pairings) != 1 || p.Verdict != "fits_with_conditions" || p.Stack.Groups[0].Engagement != 11.9 ||
		p.Stack.Groups[1].Engagement != 9.9 || p.Stack.Lean != 0.286 || p.Hang["pattern_center_above_datum_mm"] != -123 {
		t.Errorf("%+v", p)
	}
	code, out, _ = call("match", "--in", example, "--turn", "90", "--display", "velmora-pane-49", "--bracket", "sill-40")
	if code != 0 || !strings.Contains(out, `"turn_deg": 90`) {
		t.Error(code, out)
	}
}

func TestMatchMergesFiles(t *testing.T) {
	other := written(t, `{"format":"nexufix/1","displays":[{"id":"other",
		"patterns":[{"width_mm":200,"height_mm":200,"thread":"M6","rows":{"top":{"thread_depth_mm":9},"bottom":{"thread_depth_mm":9}}}]}]}`)
	code, out, errs := call("match", "--in", example, "--in", other)
	if code != 0 || strings.Count(out, `"verdict"`) != 2 {
		t.Error(code, out, errs)
	}
	code, out, errs = call("match", "--in", example, "--in", example)
	if code != 2 || out != "" || !strings.Contains(errs, "display velmora-pane-49") || !strings.Contains(errs, "bracket sill-40") {
		t.Error(code, out, errs)
	}
}

// TestBadInput exits with 2, says what is wrong on standard error, and writes
// nothing on standard output.
func TestBadInput(t *testing.T) {
	bad := written(t, `{"format":"nexufix/1","displays":[{"id":"a","width_mm":-1,"colour":"red"}],"brackets":[{"id":"b"}]}`)
	dir := t.TempDir()
	for _, c := range []struct {
		args []string
		says []string
	}{
		{nil, []string{"expected one of"}},
		{[]string{"dance"}, []string{"dance"}},
		{[]string{"match"}, []string{"--in"}},
		{[]string{"match", "--in", "nowhere.json"}, []string{"nowhere.json"}},
		{[]string{"match", "--in", dir}, []string{dir}},
		{[]string{"match", "--in", bad}, []string{"displays[0].width_mm: -1 mm; allowed: ", "displays[0].colour: is not a field",
			"brackets[0].kind: is missing"}},
		{[]string{"match", "--in", example, "--in", bad}, []string{bad + ": displays[0].width_mm"}},
		{[]string{"match", "--in", example, "--turn", "45"}, []string{"45"}},
		{[]string{"match", "--in", example, "--display", "x"}, []string{`"x" is not in the documents`}},
		{[]string{"match", "--in", example, "--bracket", "x"}, []string{`"x" is not in the documents`}},
		{[]string{"template", "--in", example, "--out", filepath.Join(dir, "t.svg")}, []string{"--display and --bracket"}},
		{[]string{"template", "--in", example, "--job", "none", "--out", filepath.Join(dir, "t.svg")}, []string{`job "none"`}},
		{[]string{"template", "--in", example, "--display", "velmora-pane-49", "--bracket", "sill-40", "--out", filepath.Join(dir, "t.txt")},
			[]string{".svg, .pdf, .dxf, or say --format"}},
		{[]string{"template", "--in", example, "--display", "velmora-pane-49", "--bracket", "sill-40", "--out",
			filepath.Join(dir, "none", "t.svg")}, []string{"no such file"}},
		{[]string{"template", "--in", example, "--display", "velmora-pane-49", "--bracket", "sill-40", "--paper", "napkin", "--out",
			filepath.Join(dir, "t.svg")}, []string{"napkin"}},
		{[]string{"steps", "--in", example, "--display", "velmora-pane-49", "--bracket", "sill-40", "--out", filepath.Join(dir, "s.doc")},
			[]string{".json, .md, .pdf, .html, .zip, or say --format"}},
		{[]string{"steps", "--in", example, "--display", "velmora-pane-49", "--bracket", "sill-40", "--wall", "tent", "--out",
			filepath.Join(dir, "s.md")}, []string{"tent", "wood_stud"}},
		{[]string{"serve", "--addr", "nonsense"}, []string{"nonsense"}},
		{[]string{"serve", "--data", dir, "--second-factor", "king"}, []string{"king", "approver"}},
		{[]string{"thin", "--data", dir, "--days", "89"}, []string{"89", "90 or more"}},
		{[]string{"promote", "--data", dir, "--lease", filepath.Join(dir, "none")}, []string{"--get"}},
		{[]string{"promote", "--data", dir, "--lease", filepath.Join(dir, "none"), "--get", "true"}, []string{"--gone"}},
	} {
		code, out, errs := call(c.args...)
		if code != 2 || out != "" {
			t.Errorf("%q: exit %d, output %.80q", c.args, code, out)
		}
		for _, says := range c.says {
			if !strings.Contains(errs, says) {
				t.Errorf("%q does not say %q but\n%s", c.args, says, errs)
			}
		}
	}
}

const job = `{"format":"nexufix/1","jobs":[{"id":"counter-3","display":"velmora-pane-49","bracket":"sill-40","turn_deg":0,
	"accessories_kg":1.1,
	"wall":{"type":"wood_stud"},"place":{"rule":"center","center_mm":1500}}]}`

func TestTemplateAndSteps(t *testing.T) {
	dir, jobs := t.TempDir(), written(t, job)
	for _, c := range []struct {
		args   []string
		begins string
		says   string
	}{
		{[]string{"template", "--in", example, "--display", "velmora-pane-49", "--bracket", "sill-40", "--out", "t.svg"}, "<svg ",
			"Velmora Pane 49 on Sill 40"},
		{[]string{"template", "--in", example, "--display", "velmora-pane-49", "--bracket", "sill-40", "--paper", "sheet", "--out", "t.PDF"},
			"%PDF-", ""},
		{[]string{"template", "--in", example, "--in", jobs, "--job", "counter-3", "--out", "j.pdf"}, "%PDF-", ""},
		{[]string{"steps", "--in", example, "--in", jobs, "--job", "counter-3", "--out", "s.md"}, "# Velmora Pane 49 on Sill 40",
			"that puts the display's centre at 1500 mm"},
		{[]string{"steps", "--in", example, "--display", "velmora-pane-49", "--bracket", "sill-40", "--out", "s.json"}, "{", `"supplied": true`},
		{[]string{"steps", "--in", example, "--display", "velmora-pane-49", "--bracket", "sill-40", "--wall", "concrete", "--out", "c.json"},
			"{", "says nothing of this type of wall"},
		{[]string{"steps", "--in", example, "--in", jobs, "--job", "counter-3", "--units", "in", "--out", "p.html"}, "<!doctype html>",
			`class="u-in"`},
		{[]string{"steps", "--in", example, "--in", jobs, "--job", "counter-3", "--paper", "letter", "--out", "p.pdf"}, "%PDF-", ""},
		{[]string{"steps", "--in", example, "--in", jobs, "--all", "--out", "p.zip"}, "PK", "counter-3/pack.pdf"},
	} {
		file := filepath.Join(dir, c.args[len(c.args)-1])
		c.args[len(c.args)-1] = file
		if code, out, errs := call(c.args...); code != 0 || out != "" {
			t.Errorf("%q: exit %d %s %s", c.args, code, out, errs)
			continue
		}
		if _, err := os.Stat(file + ".part"); err == nil {
			t.Errorf("%q leaves half a file", c.args)
		}
		raw, err := os.ReadFile(file)
		if err != nil || !strings.HasPrefix(string(raw), c.begins) || !strings.Contains(string(raw), c.says) {
			t.Errorf("%q: %v %.200s", c.args, err, raw)
		}
	}
}

func TestHelpAndOpenAPI(t *testing.T) {
	if code, out, _ := call("--help"); code != 0 || !strings.Contains(out, "match") || !strings.Contains(out, "demo") {
		t.Error(code, out)
	}
	if code, out, _ := call("openapi"); code != 0 || !json.Valid([]byte(out)) {
		t.Error(code)
	}
}

func TestProbe(t *testing.T) {
	trials := written(t, `{ "trials": [ { "thread": "M8", "length_mm": 25, 
		"under_head_mm": 0, "outcome": "stopped", "gap_mm": 9, "turns": 10, "tolerance_mm": 1 } ] }`)
	code, out, errs := call("probe", "--in", trials)
	if code != 0 || errs != "" {
		t.Fatal(code, errs)
	}
	var r map[string]any
	if err := json.Unmarshal([]byte(out), &r); err != nil {
		t.Fatal(err)
	}
	for name, want := range map[string]string{"threads": "[M8]", "depth_mm": "[15 17]", "recess_mm": "[1.25 5.75]",
		"thread_depth_mm": "[11.25 13.75]", "conflicts": "[]"} {
		if got := fmt.Sprint(r[name]); got != want {
			t.Errorf("%s %s, want %s", name, got, want)
		}
	}
	if next, _ := r["next"].(map[string]any); next["thread"] != "M8" || next["length_mm"] != 16.0 || next["why"] == "" {
		t.Errorf("next %v", r["next"])
	}
	// An open end is null; the kit in hand is the bracket's.
	seated := written(t, `{"format":"nexufix/1","bracket":"sill-40","trials":[{"thread":"M6","length":"16 mm","outcome":"seated"}]}`)
	code, out, errs = call("probe", "--in", seated, "--in", example)
	if code != 0 || !strings.Contains(strings.Join(strings.Fields(out), ""), `"depth_mm":[15,null]`) || !strings.Contains(out, "rests") {
		t.Error(code, out, errs)
	}
	for _, c := range []struct{ in, says string }{
		{`{"trials":[{"thread":"M6","length_mm":-1,"outcome":"dances"}]}`, "trials[0].outcome: \"dances\""},
		{`{"trials":[{"thread":"M6","length_mm":-1,"outcome":"dances"}]}`, "trials[0].length_mm: -1 mm"},
		{`{"trials":[],"bracket":"none"}`, "bracket: \"none\" is not among them"},
		{`{"trial":[]}`, "trial: is not a field"},
	} {
		if code, out, errs := call("probe", "--in", written(t, c.in)); code != 2 || out != "" || !strings.Contains(errs, c.says) {
			t.Errorf("%s: %d %s %s", c.in, code, out, errs)
		}
	}
}

// TestPlace: the format's own example of a job, its plate with a hole at each
// end of both rows, on studs that it reaches.
func TestPlace(t *testing.T) {
	raw, err := os.ReadFile(example)
	if err != nil {
		t.Fatal(err)
	}
	holes := `"holes": [ `
	for _, row := range []string{"top", "bottom"} {
		for i, x := range []string{"-203.2", "203.2"} {
			holes += fmt.Sprintf(`{ "id": "%s%d", "row": %q, "x_mm": %s, "y_mm": %d, "shape": "slot_h", "length_mm": 40, "diameter_mm": 9 },`,
				strings.ToUpper(row[:1]), i+1, row, x, map[string]int{"top": 95, "bottom": -95}[row])
		}
	}
	doc := strings.Replace(string(raw),
		`"holes": [ { "id": "T1", "row": "top", "x_mm": -203.2, "y_mm": 95, "shape": "slot_h", "length_mm": 40, "diameter_mm": 9 } ]`,
		strings.TrimSuffix(holes, ",")+" ]", 1)
	doc = strings.TrimSuffix(strings.TrimSpace(doc), "}") + `, "jobs": [ { "id": "counter-3", "display": "velmora-pane-49", 
		"bracket": "sill-40", "accessories_kg": 1.1, "run": { "count": 3, "gap_mm": 12 },
		"wall": { "type": "wood_stud", "covering_mm": 12.5, "width_mm": 3600, 
			"studs": { "first_mm": 210, "spacing_mm": 406.4, "width_mm": 38.1 }, "species": "spruce_pine_fir" },
		"place": { "rule": "center", "center_mm": 1500, "x_mm": 1800, "public": true } },
		{ "id": "one", "display": "velmora-pane-49", "bracket": "sill-40",
			"wall": { "type": "wood_stud", "width_mm": 3600, "studs": { "at_mm": [612, 1018, 1425] } },
			"place": { "rule": "center", "center_mm": 1500, "x_mm": 1220 } } ] }`
	file := written(t, doc)
	code, out, errs := call("place", "--in", file)
	if code != 0 {
		t.Fatal(code, errs)
	}
	var r struct {
		Format     string
		Placements []map[string]any
	}
	if err := json.Unmarshal([]byte(out), &r); err != nil || len(r.Placements) != 4 || r.Placements[0]["run_index"] != 1.0 ||
		r.Placements[3]["job"] != "one" {
		t.Fatalf("%v %.600s", err, out)
	}
	one := r.Placements[3]
	// The pattern hangs −123 from the datum, the display's top 229 above it.
	for name, want := range map[string]float64{"center_height_mm": 1500, "top_height_mm": 1817, "bottom_height_mm": 1183,
		"datum_height_mm": 1588, "display_x_mm": 1220, "datum_x_mm": 1220, "shift_mm": 0} {
		if one[name] != want {
			t.Errorf("%s is %v, want %g", name, one[name], want)
		}
	}
	points := one["points"].([]any)
	if len(points) != 4 {
		t.Fatalf("%v", points)
	}
	first := points[0].(map[string]any)
	for _, name := range []string{"hole", "x_mm", "y_mm", "from_center_line_mm", "below_display_top_mm", "drill_mm", "depth_mm",
		"maker_depth_mm", "fastener"} {
		if _, ok := first[name]; !ok {
			t.Errorf("a point has no %s", name)
		}
	}
	for _, args := range [][]string{{"place", "--in", file, "--job", "none"}, {"place", "--in", example}} {
		if code, _, errs := call(args...); code != 2 || errs == "" {
			t.Errorf("%v: %d %s", args, code, errs)
		}
	}
}
