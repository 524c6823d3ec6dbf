package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"slices"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

func example(t testing.TB) []byte {
	t.Helper()
	raw, err := os.ReadFile("testdata/example.json")
	if err != nil {
		t.Fatal(err)
	}
	return raw
}

func matched(t *testing.T, raw []byte) Pairing {
	t.Helper()
	c, err := Read(raw)
	if err != nil {
		t.Fatal(err)
	}
	var out bytes.Buffer
	if err := Match(&out, c, "", "", 0); err != nil {
		t.Fatal(err)
	}
	var all struct{ Pairings []Pairing }
	if err := json.Unmarshal(out.Bytes(), &all); err != nil {
		t.Fatal(err)
	}
	if len(all.Pairings) != 1 {
		t.Fatalf("%d pairings", len(all.Pairings))
	}
	return all.Pairings[0]
}

// figures of a group that the format's documentation names.
type figures struct {
	bolt, shoulder      float64
	spacers             []float64
	bearing             string
	plane, e, ew, k, kw float64
}

func checkGroup(t *testing.T, g StackGroup, want figures) {
	t.Helper()
	f := func(m MM) float64 { return quantity.Length(m).MM() }
	var spacers []float64
	for _, s := range g.Spacers {
		spacers = append(spacers, f(s))
	}
	if f(g.Bolt.Length) != want.bolt || f(g.Shoulder) != want.shoulder || g.Bearing != want.bearing || len(spacers) != len(want.spacers) ||
		len(spacers) > 0 && spacers[0] != want.spacers[0] ||
		f(g.ArmPlane) != want.plane || f(g.Engagement) != want.e || f(g.EngagementWorst) != want.ew || f(g.Clearance) != want.k ||
		f(g.ClearanceWorst) != want.kw {
		t.Errorf("%v: %+v, want %+v", g.Holes, g, want)
	}
}

// TestExampleOfTheFormat is the example of the format's documentation, with
// the results that go with it.
func TestExampleOfTheFormat(t *testing.T) {
	p := matched(t, example(t))
	s := p.Stack
	if p.Verdict != "fits_with_conditions" || s == nil || s.Status != "ok" || s.Alternative != nil {
		t.Fatalf("%s, %+v", p.Verdict, s)
	}
	checkGroup(t, s.Groups[0], figures{bolt: 16, bearing: "rim", plane: 0, e: 11.9, ew: 11.15, k: 2.1, kw: 0.85})
	checkGroup(t, s.Groups[1], figures{bolt: 30, shoulder: 2, spacers: []float64{10}, bearing: "rim", plane: 1, e: 9.9, ew: 8.58, k: 4.1,
		kw: 2.28})
	raw, err := json.Marshal(p)
	if err != nil {
		t.Fatal(err)
	}
	for _, want := range []string{
		`"supplied":[{"kind":"bolt","thread":"M6","length_mm":30,"count":2}]`, `"lean_deg":0.286`, `"arm_plane_mm":1`, `"turns":11.9`,
		`"hang":{"top_hole_below_hook_mm":119,"pattern_center_above_datum_mm":-123,"display_top_above_datum_mm":229}`,
		`"rule":"load","status":"pass","value":14.2,"limit":36,"margin":21.8,"unit":"kg"`, `"origins":{"mass_kg":"sheet"}`,
		`"origins":{"recess_diameter_mm":"sheet","recess_mm":"bench","setback_mm":"sheet","thread_depth_mm":"sheet"}`, `"alternative":null`, `"turn_deg":0`,
		`"washers":{"count":1,"thickness_mm":1.6,"outer_mm":18}`, `"pattern":{"width_mm":200,"height_mm":200}`,
	} {
		if !bytes.Contains(raw, []byte(want)) {
			t.Errorf("the result has no %s\n%s", want, raw)
		}
	}
}

// TestWiderCup: with a cup of 20 the Ø 18 spacer would drop in, and the answer
// changes.
func TestWiderCup(t *testing.T) {
	p := matched(t, bytes.Replace(example(t), []byte(`"recess_diameter_mm": 13`), []byte(`"recess_diameter_mm": 20`), 1))
	s := p.Stack
	if p.Verdict != "fits_with_conditions" || s == nil || s.Status != "caution" || quantity.Length(s.ArmPlane) != quantity.MM(2) ||
		s.Lean != 573_000 {
		t.Fatalf("%s, %+v", p.Verdict, s)
	}
	checkGroup(t, s.Groups[1], figures{bolt: 30, shoulder: 2, spacers: []float64{15}, bearing: "insert", plane: 2, e: 8.9, ew: 7.78, k: 5.1,
		kw: 3.48})
	raw, _ := json.Marshal(s.Supplied)
	const want = `[{"kind":"bolt","thread":"M6","length_mm":30,"count":2},` +
		`{"kind":"spacer","threads":["M6"],"length_mm":15,"outer_mm":18,"count":2}]`
	if string(raw) != want {
		t.Errorf("supplied %s, want %s", raw, want)
	}
}

// TestReadsWhatPeopleWrite: a figure as text goes in the field without its
// unit, and means the same.
func TestReadsWhatPeopleWrite(t *testing.T) {
	raw := string(example(t))
	for from, to := range map[string]string{
		`"width_mm": 1095`:          `"width": "1095 mm"`,
		`"depth_mm": 61`:            `"depth": "6,1 cm"`,
		`"mass_kg": 14.2`:           `"mass": "14200 g"`,
		`"recess_mm": 4`:            `"recess": "4"`,
		`"tilt_down_deg": 12`:       `"tilt_down": "12°"`,
		`"plate_thickness_mm": 2.5`: `"plate_thickness": "2.5mm"`,
	} {
		if !strings.Contains(raw, from) {
			t.Fatalf("the example has no %s", from)
		}
		raw = strings.Replace(raw, from, to, 1)
	}
	// The origin of a figure given as text goes by its name as a number.
	c, err := Read([]byte(raw))
	if err != nil {
		t.Fatal(err)
	}
	plain, err := Read(example(t))
	if err != nil {
		t.Fatal(err)
	}
	a, _ := Write(c)
	b, _ := Write(plain)
	if !bytes.Equal(a, b) {
		t.Errorf("%s\n%s", a, b)
	}
	if got := c.Displays[0].Patterns[0].Holes[2].Recess.Origin; got != catalog.Bench {
		t.Errorf("the recess was measured on the bench, not from a %s", got)
	}
}

// TestRoundTrip: read, written, read and written again, nothing changes.
func TestRoundTrip(t *testing.T) {
	full := []byte(`{"format":"nexufix/1","displays":[
		{"id":"a","maker":"M","model":"N","origin":"caller","diagonal_mm":1228.725,"mass_kg":0.453592,"patterns":[
			{"width_mm":100,"height_mm":50,"thread":"M4","center_right_mm":-3,"holes":[
				{"id":"A","x_mm":-50,"y_mm":25,"setback_mm":1,"thread_depth_mm":8},
				{"id":"B","x_mm":50,"y_mm":-25,"trials":[{"thread":"M4","length_mm":25,"outcome":"stopped","gap_mm":-2,"turns":10.5,"tolerance_mm":0.5}]}]},
			{"width_mm":75,"height_mm":75,"thread":"M4"}],
		 "own_parts":[{"kind":"bolt","thread":"M4","length_mm":10,"count":4}],
		 "zones":[{"kind":"protrusion","x_mm":0,"y_mm":-100,"width_mm":50,"height_mm":20,"out_mm":8}],
		 "origins":{"patterns[0].holes[0].thread_depth_mm":"bench","diagonal_mm":"sheet","mass_kg":"bench"}}],
		"policy":{"bolt_school":"deep","stock_spacers_mm":[7.5]}}`)
	for _, raw := range [][]byte{example(t), full} {
		first, err := Read(raw)
		if err != nil {
			t.Fatal(err)
		}
		once, err := Write(first)
		if err != nil {
			t.Fatal(err)
		}
		second, err := Read(once)
		if err != nil {
			t.Fatalf("%v\n%s", err, once)
		}
		twice, _ := Write(second)
		if !bytes.Equal(once, twice) {
			t.Errorf("%s\n%s", once, twice)
		}
	}
	c, _ := Read(full)
	raw, _ := Write(c)
	for _, want := range []string{`"diagonal_mm": 1228.725`, `"mass_kg": 0.453592`, `"turns": 10.5`,
		`"patterns[0].holes[0].thread_depth_mm": "bench"`, `"gap_mm": -2`} {
		if !bytes.Contains(raw, []byte(want)) {
			t.Errorf("lost: %s\n%s", want, raw)
		}
	}
}

// problemsOf reads what is wrong, and that nothing was taken.
func problemsOf(t *testing.T, raw string) Problems {
	t.Helper()
	c, err := Read([]byte(raw))
	var p Problems
	if !errors.As(err, &p) {
		t.Fatalf("no problems but %v in %.200s", err, raw)
	}
	if c != nil && len(c.Displays)+len(c.Brackets) > 0 && len(p) == 0 {
		t.Fatal("something was taken")
	}
	return p
}

func display(body string) string {
	return `{"format":"nexufix/1","displays":[{"id":"d",` + body + `}]}`
}

func patternWith(body string) string {
	return display(`"patterns":[{"width_mm":200,"height_mm":200,` + body + `}]`)
}

func bracketWith(body string) string {
	return `{"format":"nexufix/1","brackets":[{"id":"b","kind":"fixed","threads":["M6"],"plate_thickness_mm":2,
		"interface":{"type":"plate","patterns_mm":[[100,100]],"center_below_hook_mm":5},` + body + `}]}`
}

// TestErrorsHavePaths: what was found, where, and what is allowed.
func TestErrorsHavePaths(t *testing.T) {
	for _, c := range []struct{ raw, path, found, allowed string }{
		{``, "", "the file is empty", "a JSON document"},
		{`{"format":`, "", "ends too early", "JSON"},
		{`{"format":"nexufix/1"} x`, "", "line 1", "JSON"},
		{"\xff\xfe", "", "not UTF-8", "UTF-8"},
		{`[]`, "", "a list", "an object"},
		{`{}`, "format", "is missing", "nexufix/1"},
		{`{"format":"nexufix/2"}`, "format", `"nexufix/2"`, "nexufix/1"},
		{`{"format":"nexufix/1","display":[]}`, "display", "not a field of the format", "displays"},
		{`{"format":"nexufix/1","format":"nexufix/1"}`, "format", "stands twice", "once"},
		{`{"format":"nexufix/1","displays":{}}`, "displays", "an object", "a list"},
		{strings.Repeat(`[`, 100), "", "nested more than", "JSON"},
		{`{"format":"nexufix/1","displays":[{}]}`, "displays[0].id", "is missing", "letters"},
		{`{"format":"nexufix/1","displays":[{"id":"../etc"}]}`, "displays[0].id", `"../etc"`, "letters, digits"},
		{`{"format":"nexufix/1","displays":[{"id":"<script>"}]}`, "displays[0].id", "script", "letters, digits"},
		{`{"format":"nexufix/1","displays":[{"id":"a..b"}]}`, "displays[0].id", "a..b", "letters, digits"},
		{`{"format":"nexufix/1","displays":[{"id":"a"},{"id":"a"}]}`, "displays[1].id", "stands twice", "once"},
		{display(`"widht_mm":5`), "displays[0].widht_mm", "not a field", "width_mm"},
		{display(`"width_mm":-5`), "displays[0].width_mm", "-5 mm", "more than 0"},
		{display(`"width_mm":0`), "displays[0].width_mm", "0 mm", "more than 0"},
		{display(`"width_mm":1e400`), "displays[0].width_mm", "larger than anything", "at most 10000"},
		{display(`"width_mm":99999`), "displays[0].width_mm", "99999 mm", "at most 10000"},
		{display(`"width_mm":"48 in"`), "displays[0].width_mm", `"48 in"`, "a text goes in width"},
		{display(`"width":48`), "displays[0].width", "48", "width_mm"},
		{display(`"width":"48 kg"`), "displays[0].width", "kg", "mm"},
		{display(`"width":"-3"`), "displays[0].width", "-3 mm", "more than 0"},
		{display(`"width":"5//8"`), "displays[0].width", "lower figure", "number"},
		{display(`"width_mm":5,"width":"5 mm"`), "displays[0].width", "both given", "one"},
		{display(`"mass_kg":null`), "displays[0].mass_kg", "null", "leave the field out"},
		{display(`"mass_kg":true`), "displays[0].mass_kg", "true", "a number of kg"},
		{display(`"mass":"14 mm"`), "displays[0].mass", "mm", "kg"},
		{display(`"model":5`), "displays[0].model", "5", "a text"},
		{display(`"model":"` + strings.Repeat("x", 5000) + `"`), "displays[0].model", "5000 characters", "at most 120"},
		{display(`"model":"a\u0007b"`), "displays[0].model", `a\ab`, "without control"},
		{display(`"origin":"guess"`), "displays[0].origin", `"guess"`, "bench, sheet, caller"},
		{display(`"origins":{"widht_mm":"bench"}`), "displays[0].origins.widht_mm", "leads nowhere", "path"},
		{patternWith(`"thread":"M7"`), "displays[0].patterns[0].thread", `"M7"`, "M4, M5, M6, M8"},
		{patternWith(`"rows":{"top":{"thread_depth_mm":0}}`), "displays[0].patterns[0].rows.top.thread_depth_mm", "0 mm", "more than 0"},
		{patternWith(`"rows":{},"holes":[{"id":"A","x_mm":-100,"y_mm":100},{"id":"B","x_mm":100,"y_mm":-100}]`), "displays[0].patterns[0].holes",
			"both given", "one of them"},
		{patternWith(`"holes":[{"id":"A","x_mm":0,"y_mm":0}]`), "displays[0].patterns[0].holes", "a list of 1", "2 to 8"},
		{patternWith(`"holes":[{"id":"A","x_mm":-90,"y_mm":100},{"id":"B","x_mm":90,"y_mm":-100}]`), "displays[0].patterns[0].width_mm", "200 mm",
			"180 mm"},
		{patternWith(`"thread":"M8","rows":{"top":{"recess_mm":3,"recess_diameter_mm":8}}`),
			"displays[0].patterns[0].rows.top.recess_diameter_mm", "8 mm", "more than"},
		{bracketWith(`"kit":[]`), "brackets[0].kit", "an empty list", "1 to 100"},
		{bracketWith(`"kit":[{"kind":"bolt","count":4}]`), "brackets[0].kit[0].thread", "is missing", "bolt"},
		{bracketWith(`"kit":[{"kind":"spacer","threads":["M6"],"length_mm":5,"outer_mm":5,"count":4}]`), "brackets[0].kit[0].outer_mm",
			"5 mm", "more than"},
		{bracketWith(`"kit":[{"kind":"bolt","thread":"M6","length_mm":16,"count":0}]`), "brackets[0].kit[0].count", "0", "at least 1"},
		{bracketWith(`"kit":[{"kind":"bolt","thread":"M6","length_mm":16,"count":1.5}]`), "brackets[0].kit[0].count", "1.5", "whole number"},
		{bracketWith(`"kit":[{"kind":"nail","count":4}]`), "brackets[0].kit[0].kind", `"nail"`, "bolt"},
		{bracketWith(`"walls":{"tent":{}}`), "brackets[0].walls.tent", "not known", "wood_stud"},
		{bracketWith(`"turns_deg":[45]`), "brackets[0].turns_deg[0]", "45", "0, 90, 270"},
		{bracketWith(`"wall_plate":{"hook_above_datum_mm":0,
			"holes":[{"id":"A","row":"top","x_mm":0,"y_mm":0,"shape":"slot_h","length_mm":-4}]}`),
			"brackets[0].wall_plate.holes[0].length_mm", "-4 mm", "at least 0"},
		{`{"format":"nexufix/1","brackets":[{"id":"b","kind":"fixed","threads":["M6"],"plate_thickness_mm":2,
			"interface":{"type":"arms"}}]}`, "brackets[0].interface.width_min_mm", "is missing", "type arms"},
		{`{"format":"nexufix/1","policy":{"max_washers":9}}`, "policy.max_washers", "9", "at most 6"},
		{`{"format":"nexufix/1","jobs":[{"id":"j","display":"d","bracket":"b",
			"wall":{"type":"wood_stud","studs":{"spacing_mm":0}}}]}`, "jobs[0].wall.studs.spacing_mm", "0 mm", "more than 0"},
	} {
		found := false
		problems := problemsOf(t, c.raw)
		for _, p := range problems {
			found = found || p.Path == c.path && strings.Contains(p.Found, c.found) && strings.Contains(p.Allowed, c.allowed)
		}
		if !found {
			t.Errorf("%.120s:\n%v\nwant %s: %s; allowed: %s", c.raw, problems, c.path, c.found, c.allowed)
		}
	}
}

// TestAllErrorsAtOnce: a document with many faults names each.
func TestAllErrorsAtOnce(t *testing.T) {
	p := problemsOf(t, `{"format":"nexufix/1","displays":[{"id":"a","width_mm":-1,"height":"x","colour":1},
		{"id":"a","patterns":[{"width_mm":1}]}],"brackets":[{"id":"b"}]}`)
	got := p.Error()
	for _, path := range []string{"displays[0].width_mm", "displays[0].height", "displays[0].colour", "displays[1].patterns[0].height_mm",
		"brackets[0].kind", "brackets[0].threads", "brackets[0].plate_thickness_mm", "brackets[0].interface"} {
		if !strings.Contains(got, path+": ") {
			t.Errorf("%s is not named in\n%s", path, got)
		}
	}
	if strings.Count(got, "\n") != len(p)-1 {
		t.Error("one line a problem")
	}
}

func TestMerge(t *testing.T) {
	one, _ := Read([]byte(`{"format":"nexufix/1","displays":[{"id":"a"}],"policy":{}}`))
	two, _ := Read([]byte(`{"format":"nexufix/1","displays":[{"id":"b"}],"jobs":[{"id":"j","display":"a","bracket":"b"}]}`))
	all, err := Merge([]string{"1", "2"}, []*Contents{one, two})
	if err != nil || len(all.Displays) != 2 || all.Job("j") == nil || all.Display("b") == nil || all.Policy == nil {
		t.Error(all, err)
	}
	_, err = Merge([]string{"1", "2", "3"}, []*Contents{one, two, one})
	var p Problems
	if !errors.As(err, &p) || len(p) != 2 || !strings.Contains(p[0].String(), "also in 1") {
		t.Error(err)
	}
}

func FuzzRead(f *testing.F) {
	f.Add(example(f))
	f.Add([]byte(display(`"width":"5⅝″"`)))
	f.Add([]byte(bracketWith(`"kit":[{"kind":"tool","name":"x","count":1}]`)))
	f.Add([]byte(patternWith(`"holes":[{"id":"A","x_mm":-100,"y_mm":100},{"id":"B","x_mm":100,"y_mm":-100}]`)))
	f.Fuzz(func(t *testing.T, raw []byte) {
		c, err := Read(raw)
		if err != nil {
			return
		}
		once, err := Write(c)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := Read(once); err != nil {
			t.Fatalf("what was written cannot be read: %v\n%s", err, once)
		}
		if err := Match(io.Discard, c, "", "", 0); err != nil {
			t.Fatal(err)
		}
	})
}

// TestMatchIsEveryPairing: what is written row by row, on all cores and with equal
// stacks solved once, is what JSON's own encoder writes of the pairings judged one by
// one, in order; and an empty document is whole.
func TestMatchIsEveryPairing(t *testing.T) {
	c, err := Read(example(t))
	if err != nil {
		t.Fatal(err)
	}
	many := &Contents{Policy: c.Policy}
	for n := range 9 {
		for m := range 5 {
			d, b := *c.Displays[0], *c.Brackets[0]
			d.ID, b.ID = fmt.Sprint("d", n), fmt.Sprint("b", m)
			d.Mass.Value += quantity.Mass(n) * 4 * quantity.Kilogram
			b.PlateThickness += quantity.Length(m) * quantity.Millimetre
			if m == 0 {
				many.Displays = append(many.Displays, &d)
			}
			if n == 0 {
				many.Brackets = append(many.Brackets, &b)
			}
		}
	}
	for _, c := range []*Contents{{}, c, many, {Displays: many.Displays}, {Brackets: many.Brackets}} {
		all := []Pairing{}
		for _, d := range c.Displays {
			for _, b := range c.Brackets {
				p := fit.Judge(d, b, 0, fit.Extra{}, c.PolicyOrDefault())
				all = append(all, PairingOf(&p, quantity.Reader{Units: quantity.Metric}, false))
			}
		}
		var want, got bytes.Buffer
		e := json.NewEncoder(&want)
		e.SetEscapeHTML(false)
		e.SetIndent("", "  ")
		err := e.Encode(struct {
			Format   string    `json:"format"`
			Pairings []Pairing `json:"pairings"`
		}{Format, all})
		if err != nil {
			t.Fatal(err)
		}
		if err := Match(&got, c, "", "", 0); err != nil || !bytes.Equal(got.Bytes(), want.Bytes()) {
			t.Errorf("%d displays on %d brackets: %v\n%.300s\n%.300s", len(c.Displays), len(c.Brackets), err, got.Bytes(), want.Bytes())
		}
	}
	// Those that are asked for, and a writer that fails.
	var one bytes.Buffer
	if err := Match(&one, many, "d3", "b2", 0); err != nil || strings.Count(one.String(), `"verdict"`) != 1 ||
		!strings.Contains(one.String(), `"d3"`) {
		t.Errorf("%v %.300s", err, &one)
	}
	if err := Match(full{}, many, "", "", 0); !errors.Is(err, io.ErrShortWrite) {
		t.Errorf("a full disk: %v", err)
	}
}

// full is a writer that takes nothing.
type full struct{}

func (full) Write([]byte) (int, error) { return 0, io.ErrShortWrite }

// TestWrittenInPieces: a document written piece by piece is the one that JSON's own
// encoder writes in one go.
func TestWrittenInPieces(t *testing.T) {
	c, err := Read(example(t))
	if err != nil {
		t.Fatal(err)
	}
	policy := catalog.DefaultPolicy()
	for name, c := range map[string]*Contents{"all": {Displays: c.Displays, Brackets: c.Brackets, Policy: &policy, Jobs: c.Jobs},
		"none": {}, "jobs": {Jobs: c.Jobs},
		"twice": {Displays: append(slices.Clone(c.Displays), c.Displays...)}} {
		d := Document{Format: Format}
		d.Displays, d.Brackets, d.Jobs = c.Displays, c.Brackets, c.Jobs
		if c.Policy != nil {
			p := PolicyOf(*c.Policy)
			d.Policy = &p
		}
		want, err := json.MarshalIndent(d, "", "  ")
		if err != nil {
			t.Fatal(err)
		}
		if got, err := Write(c); err != nil || !bytes.Equal(got, want) {
			t.Errorf("%s: %v\n%s\nwant\n%s", name, err, got, want)
		}
	}
}

// TestEmptyStock: a company without spacers in stock has none after its policy was written
// and read again; the default's stock would promise spacers that nobody has.
func TestEmptyStock(t *testing.T) {
	want := catalog.DefaultPolicy()
	want.StockSpacers = []quantity.Length{}
	raw, err := Write(&Contents{Policy: &want})
	if err != nil {
		t.Fatal(err)
	}
	got, err := Read(raw)
	if err != nil || len(got.Policy.StockSpacers) != 0 {
		t.Errorf("%v %v, want no spacers in stock", got, err)
	}
	for _, given := range []string{`{"stock_spacers_mm":[]}`, `{"reveal_mm":12,"bolt_school":"deep"}`} {
		var in struct {
			Policy *PolicySettings `json:"policy"`
		}
		if err := ReadInto([]byte(`{"policy":`+given+`}`), &in); err != nil {
			t.Fatal(err)
		}
		if raw, err := json.Marshal(in.Policy); err != nil || string(raw) != given {
			t.Errorf("settings %s are written as %s %v", given, raw, err)
		}
		if p := in.Policy.On(want); len(p.StockSpacers) != 0 || p.TwistMax != want.TwistMax {
			t.Errorf("%s on a policy without stock: %v", given, p)
		}
	}
}
