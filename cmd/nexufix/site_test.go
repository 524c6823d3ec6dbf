package main

import (
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

// site are the arguments for the demo's documents.
var site = []string{"--in", "../../demo/brackets.json", "--in", "../../demo/bakeries.json", "--in", "../../demo/museum.json", "--in",
	"../../demo/jobs.json"}

// TestSiteFiles: template and measure card of the demo's jobs, in every format;
// a run is one template and one card.
func TestSiteFiles(t *testing.T) {
	dir := t.TempDir()
	for _, c := range []struct {
		args []string
		file string
		says []string
		not  string
	}{
		{[]string{"--job", "mill-lane-menu-boards"}, "run.svg", []string{"point.d1-T1", "point.d3-B2", "display 3", "A run of 3 displays",
			"drill 12"}, "not in the documents"},
		{[]string{"--job", "mill-lane-menu-boards", "--card"}, "run-card.svg", []string{"Measure card", "Middles of the displays", "B2 of 3",
			"local codes"}, ""},
		{[]string{"--job", "mill-lane-counter", "--hide", "studs,outline"}, "less.svg", []string{"point.T1"}, "template.stud"},
		{[]string{"--job", "signal-box-exhibit"}, "two.svg", []string{"hole.p1-T1", "hole.p2-B1", "point.p2-T1"}, ""},
		{[]string{"--job", "signal-box-exhibit"}, "two.dxf", []string{"DRILL", "HOLES"}, ""},
		{[]string{"--job", "engine-hall-timetable", "--paper", "a3"}, "tiles.pdf", []string{"%PDF-"}, ""},
		{[]string{"--job", "mill-lane-counter", "--card"}, "card.pdf", []string{"%PDF-"}, ""},
		{[]string{"--display", "velmora-pane-49", "--bracket", "sill-40", "--card"}, "free.svg", []string{"For no particular wall", "Its holes"},
			"point."},
	} {
		file := filepath.Join(dir, c.file)
		args := append(append([]string{"template"}, site...), append(c.args, "--out", file)...)
		if code, out, errs := call(args...); code != 0 || out != "" {
			t.Errorf("%v: exit %d %s %s", c.args, code, out, errs)
			continue
		}
		raw, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		for _, want := range c.says {
			if !strings.Contains(string(raw), want) {
				t.Errorf("%s lacks %q", c.file, want)
			}
		}
		if c.not != "" && strings.Contains(string(raw), c.not) {
			t.Errorf("%s has %q", c.file, c.not)
		}
	}
	for _, args := range [][]string{
		{"--job", "mill-lane-counter", "--hide", "points", "--out", "x.svg"},
		{"--job", "mill-lane-counter", "--out", "x.png"},
		{"--job", "mill-lane-counter", "--paper", "a4", "--out", "x.dxf"},
	} {
		if code, _, errs := call(append(append([]string{"template"}, site...), args...)...); code != 2 || errs == "" {
			t.Errorf("%v: exit %d %s", args, code, errs)
		}
	}
}

// TestCardOnEveryPaper: a measure card is one page of whatever paper there is (by pdfinfo of poppler),
// and that of a job whose wall does not take it says so, and not that there is no wall.
func TestCardOnEveryPaper(t *testing.T) {
	dir := t.TempDir()
	for paper, size := range map[string]string{"a4": "595.28 x 841.89", "letter": "612 x 792", "a3": "841.89 x 1190.55"} {
		for _, job := range []string{"mill-lane-counter", "mill-lane-menu-boards"} {
			file := filepath.Join(dir, job+paper+".pdf")
			if code, _, errs := call(append(append([]string{"template"}, site...), "--job", job, "--card", "--paper", paper, "--out",
				file)...); code != 0 {
				t.Fatal(code, errs)
			}
			out, err := exec.Command("pdfinfo", file).CombinedOutput()
			if err != nil || !regexp.MustCompile(`Pages: +1\n`).Match(out) || !strings.Contains(string(out), size) {
				t.Errorf("%s on %s: %v %s", job, paper, err, out)
			}
		}
	}
	doc := written(t, `{"format":"nexufix/1","jobs":[{"id":"too-narrow","display":"velmora-pane-49","bracket":"sill-40",
		"wall":{"type":"wood_stud","width_mm":600,"covering_mm":12.5,"studs":{"first_mm":200,"spacing_mm":600}},"place":{"rule":"center"}}]}`)
	for _, more := range [][]string{{}, {"--card"}} {
		file := filepath.Join(dir, "not.svg")
		args := append([]string{"template", "--in", doc, "--in", "../../demo/brackets.json", "--in", "../../demo/bakeries.json", "--job",
			"too-narrow", "--out",
			file}, more...)
		if code, _, errs := call(args...); code != 0 {
			t.Fatal(code, errs)
		}
		raw, err := os.ReadFile(file)
		if err != nil || !strings.Contains(string(raw), "does not take it as it is set up") ||
			strings.Contains(string(raw), "no particular wall") {
			t.Errorf("%v %v: the wall of job too-narrow does not take it, and the sheet does not say so", more, err)
		}
	}
}

// TestPlaceByEveryRule: each height rule, with the figures of practice, and
// what is said when one is missing: no heights, and which figure.
func TestPlaceByEveryRule(t *testing.T) {
	for rule, c := range map[string]struct {
		figures string
		centre  any
	}{
		"center":      {`"center_mm": 1500`, 1500.0},
		"eye":         {`"eye": "63 in"`, 1600.2},
		"upper_third": {`"eye_mm": 1600`, 1600 - 634.0/6},
		"above":       {`"surface_mm": 350, "gap_mm": 150`, 500 + 317.0},
		"below":       {`"line_mm": 2400, "gap_mm": 50`, 2350 - 317.0},
		"overhead":    {`"bottom_mm": 2100`, 2100 + 317.0},
	} {
		for _, figures := range []string{", " + c.figures, ""} {
			doc := written(t, `{"format":"nexufix/1","jobs":[{"id":"j","display":"velmora-pane-49","bracket":"sill-40",
				"wall":{"type":"concrete","width_mm":3000},"place":{"rule":"`+rule+`"`+figures+`}}]}`)
			code, out, errs := call("place", "--in", doc, "--in", "../../demo/brackets.json", "--in", "../../demo/bakeries.json", "--job", "j")
			if code != 0 {
				t.Fatal(rule, code, errs)
			}
			var r struct {
				Placements []struct {
					Centre *float64 `json:"center_height_mm"`
					X      *float64 `json:"display_x_mm"`
					Points []any
					Checks []struct{ Rule, Status, Text string }
				}
			}
			if err := json.Unmarshal([]byte(out), &r); err != nil || len(r.Placements) != 1 {
				t.Fatal(rule, err)
			}
			p := r.Placements[0]
			if figures == "" {
				usual := rule == "center" || rule == "overhead" // have a usual height
				if usual != (p.Centre != nil) || !usual && (len(p.Checks) != 1 || p.Checks[0].Status != "unknown" || len(p.Points) != 0) {
					t.Errorf("%s without its figure: %+v", rule, p)
				}
				continue
			}
			if p.Centre == nil || *p.Centre-c.centre.(float64) > 1e-5 || c.centre.(float64)-*p.Centre > 1e-5 || *p.X != 1500 || len(p.Points) != 4 {
				t.Errorf("%s: %+v, want the centre at %v", rule, p, c.centre)
			}
		}
	}
}
