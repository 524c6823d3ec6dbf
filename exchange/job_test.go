package exchange

import (
	"bytes"
	"errors"
	"strings"
	"testing"
)

// everything is a job with every field of the format.
const everything = `{"format":"nexufix/1","jobs":[{"id":"j-1","display":"d","bracket":"b","turn_deg":90,"accessories_kg":1.5,
	"run":{"count":3,"gap_mm":12},
	"wall":{"type":"lined_masonry","covering":"1/2 in","width_mm":3600,"height":"8 ft","cavity_mm":25,"backing_mm":110,"species":"hem_fir",
		"studs":{"outlet":1,"spacing_mm":406.4,"width_mm":38.1},
		"outlets":[{"x_mm":100,"y_mm":300},{"x_mm":900,"y_mm":300,"kind":"data","stud":"left"}],
		"furniture":[{"name":"counter","x_mm":1800,"width_mm":2000,"height_mm":900,"depth_mm":600}],
		"niche":{"x_mm":1800,"width_mm":1500,"bottom_mm":900,"height_mm":1000,"depth_mm":120}},
	"place":{"rule":"eye","eye_mm":1600,"distance_mm":2400,"angle_deg":-3.5,"surface_mm":900,"line_mm":2400,"gap_mm":20,
		"bottom_mm":2050,"accessory_mm":60,"x_mm":1800,"public":true},
	"assume":{"load_kg":30,"reach_mm":500,"aside_mm":40,"penetration_mm":45,"gravity":0.46},
	"prints":[{"bar_mm":100,"measured_mm":97,"accepted":false,"paper":"a4","who":"Ada","at":"2026-11-25T10:00:00Z"}]}]}`

// TestJobRoundTrip: every field of a job is read, and written again as it was.
func TestJobRoundTrip(t *testing.T) {
	c, err := Read([]byte(everything))
	if err != nil {
		t.Fatal(err)
	}
	first, err := Write(c)
	if err != nil {
		t.Fatal(err)
	}
	again, err := Read(first)
	if err != nil {
		t.Fatal(err)
	}
	second, _ := Write(again)
	if !bytes.Equal(first, second) {
		t.Errorf("%v", Compare(first, second))
	}
	for _, want := range []string{`"covering_mm": 12.7`, `"height_mm": 2438.4`, `"outlet": 1`, `"kind": "power"`, `"stud": "left"`,
		`"angle_deg": -3.5`, `"gravity": 0.46`, `"depth_mm": 120`, `"measured_mm": 97`, `"accepted": false`, `"who": "Ada"`, `"public": true`,
		`"turn_deg": 90`} {
		if !strings.Contains(string(first), want) {
			t.Errorf("no %s in\n%s", want, first)
		}
	}
}

// TestJobErrors: what a job cannot be is refused by its path.
func TestJobErrors(t *testing.T) {
	for name, c := range map[string]struct{ from, to, path string }{
		"a wall of 3 km":           {`"width_mm":3600,"height"`, `"width_mm":3000000,"height"`, "jobs[0].wall.width_mm"},
		"a spacing of nothing":     {`"spacing_mm":406.4`, `"spacing_mm":0`, "jobs[0].wall.studs.spacing_mm"},
		"a negative place":         {`"x_mm":100`, `"x_mm":-1`, "jobs[0].wall.outlets[0].x_mm"},
		"no such outlet":           {`"outlet":1`, `"outlet":2`, "jobs[0].wall.studs.outlet"},
		"an outlet without a side": {`"outlet":1`, `"outlet":0`, "jobs[0].wall.outlets[0].stud"},
		"two ways at once":         {`"outlet":1`, `"outlet":1,"first_mm":20`, "jobs[0].wall.studs.first_mm"},
		"both ways of a figure":    {`"covering":"1/2 in"`, `"covering":"1/2 in","covering_mm":12`, "jobs[0].wall.covering"},
		"an unknown field":         {`"cavity_mm":25`, `"void_mm":25`, "jobs[0].wall.void_mm"},
		"a wood nobody knows":      {`"species":"hem_fir"`, `"species":"balsa"`, "jobs[0].wall.species"},
		"a density of lead":        {`"gravity":0.46`, `"gravity":11.3`, "jobs[0].assume.gravity"},
		"a run of a thousand":      {`"count":3`, `"count":1000`, "jobs[0].run.count"},
		"an angle straight up":     {`"angle_deg":-3.5`, `"angle_deg":90`, "jobs[0].place.angle_deg"},
		"a name of 5,000 letters":  {`"name":"counter"`, `"name":"` + strings.Repeat("<b>", 1667) + `"`, "jobs[0].wall.furniture[0].name"},
		"a number that is none":    {`"depth_mm":120`, `"depth":"wide"`, "jobs[0].wall.niche.depth"},
		"a bar of no length":       {`"bar_mm":100`, `"bar_mm":0`, "jobs[0].prints[0].bar_mm"},
	} {
		_, err := Read([]byte(strings.Replace(everything, c.from, c.to, 1)))
		var problems Problems
		errors.As(err, &problems)
		found := false
		for _, p := range problems {
			found = found || p.Path == c.path && p.Found != "" && p.Allowed != ""
		}
		if !found {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// TestFingerprint: it changes with whatever a sheet is computed from, and with
// nothing else.
func TestFingerprint(t *testing.T) {
	read := func(from, to string) string {
		t.Helper()
		text := `{"displays":[{"id":"d","width_mm":1000}],"brackets":[{"id":"b","kind":"fixed","threads":["M6"],
			"plate_thickness_mm":2,"interface":{"type":"plate","patterns_mm":[[200,200]],"center_below_hook_mm":100},
			"kit":[{"kind":"lag","diameter_mm":8,"length_mm":70,"count":4,"bag":"W"}]}],"policy":{"stud_find_mm":3},` + everything[1:]
		c, err := Read([]byte(strings.Replace(text, from, to, 1)))
		if err != nil {
			t.Fatal(err)
		}
		return Fingerprint(c.Displays[0], c.Brackets[0], c.PolicyOrDefault(), 0, c.Jobs[0])
	}
	base := read("", "")
	if len(base) != 14 || base != read("", "") {
		t.Errorf("%q", base)
	}
	seen := map[string]string{base: "as it was"}
	for name, c := range map[string][2]string{
		"display": {`"width_mm":1000`, `"width_mm":1000.1`}, "kit": {`"length_mm":70`, `"length_mm":60`}, "policy": {`"stud_find_mm":3`,
			`"stud_find_mm":4`}, "job": {`"eye_mm":1600`, `"eye_mm":1601`},
	} {
		mark := read(c[0], c[1])
		if other, ok := seen[mark]; ok {
			t.Errorf("%s: as %s", name, other)
		}
		seen[mark] = name
	}
	if got := read(`"measured_mm":97`, `"measured_mm":100`); got != base {
		t.Error("a print that is measured changes nothing that is computed")
	}
}
