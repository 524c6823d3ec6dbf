package server

import (
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"nexufix/app/bench"
	"nexufix/app/review"
	"nexufix/demo"
	"nexufix/server/api"
	"nexufix/server/catalogue"
	"nexufix/server/sheets"
	"nexufix/store"
)

// counter is a request on a stud wall.
const counter = `{"display_id":"velmora-pane-49","bracket_id":"sill-40","site":{"id":"s","display":"x","bracket":"x",
	"wall":{"type":"wood_stud","covering_mm":12.5,"backing_mm":89,"width_mm":3600,"height_mm":2600,
	"studs":{"first_mm":210,"spacing_mm":406.4,"width_mm":38.1}},
	"place":{"rule":"center","center_mm":1500,"x_mm":1650}}}`

func TestWall(t *testing.T) {
	d := newDesk(t)
	v := read[bench.WallView](t, d.post("/api/wall", `{"request":`+counter+`}`), 200)
	// Two bolts of the pairing have to be sent.
	if len(v.Placements) != 1 || len(v.Placements[0].Points) != 4 || v.Said.Verdict != "fits_with_conditions" || !v.Said.OnWall {
		t.Fatalf("%+v", v)
	}
	for name, svg := range map[string]string{"wall": v.Wall, "holding": v.Holding, "build-up": v.BuildUp, "side": v.Side} {
		if !strings.HasPrefix(svg, "<svg") {
			t.Errorf("%s: %.60q", name, svg)
		}
	}
	if !strings.Contains(v.Wall, `data-tag="display.0"`) || !strings.Contains(v.Wall, `data-tag="stud.3"`) || len(v.Movable) < 10 ||
		v.Guide == nil {
		t.Errorf("%d things, %+v", len(v.Movable), v.Guide)
	}
	// Moved with snapping, the answer is the site after it; in inches.
	inches := strings.Replace(counter, `"site"`, `"units":"in","site"`, 1)
	v = read[bench.WallView](t, d.post("/api/wall", `{"request":`+inches+`,"move":{"what":"display","x_mm":1734,"y_mm":1500,"snap":true}}`), 200)
	if len(v.Snapped) != 1 || len(v.Placements[0].Points) != 4 || v.Site.Place.X.Value == 1_734_000_000 || v.Placements[0].Schools == nil ||
		v.Placements[0].Strength == nil {
		t.Errorf("%v %v", v.Snapped, v.Site.Place.X.Value)
	}
	if text := v.Placements[0].Checks[0].Text; strings.Contains(text, " mm") {
		t.Errorf("in inches: %q", text)
	}
}

// TestWallRefuses: what no wall is like is refused with its path, or is a
// finding; never a wrong drawing, never a failure of the server.
func TestWallRefuses(t *testing.T) {
	d := newDesk(t)
	ask := func(from, to string) string { return `{"request":` + strings.Replace(counter, from, to, 1) + `}` }
	for name, c := range map[string]struct{ body, path string }{
		"no site":            {`{"request":{"display_id":"velmora-pane-49","bracket_id":"sill-40"}}`, "request.site.wall"},
		"a wall of 3 km":     {ask(`"width_mm":3600`, `"width_mm":3000000`), "request.site.wall.width_mm"},
		"a spacing of 0":     {ask(`"spacing_mm":406.4`, `"spacing_mm":0`), "request.site.wall.studs.spacing_mm"},
		"no number":          {ask(`"spacing_mm":406.4`, `"spacing":"5//8"`), "request.site.wall.studs.spacing"},
		"NaN":                {ask(`"first_mm":210`, `"first_mm":NaN`), ""},
		"1e400":              {ask(`"first_mm":210`, `"first_mm":1e400`), "request.site.wall.studs.first_mm"},
		"another rule":       {ask(`"rule":"center"`, `"rule":"centre"`), "request.site.place.rule"},
		"an outlet missing":  {ask(`"first_mm":210`, `"outlet":4`), "request.site.wall.studs.outlet"},
		"5,000 letters":      {ask(`"id":"s"`, `"id":"`+strings.Repeat("<b>", 1700)+`"`), "request.site.id"},
		"a thing not there":  {strings.TrimSuffix(ask("", ""), "}") + `,"move":{"what":"stud","index":77,"x_mm":1,"y_mm":1}}`, "move.index"},
		"a move of anything": {strings.TrimSuffix(ask("", ""), "}") + `,"move":{"what":"wall","x_mm":1,"y_mm":1}}`, "move.what"},
	} {
		r := d.post("/api/wall", c.body)
		var p api.Problem
		if err := json.Unmarshal(r.body, &p); r.StatusCode != 400 && r.StatusCode != 422 || err != nil {
			t.Errorf("%s: %d %s", name, r.StatusCode, r.body)
			continue
		}
		if c.path != "" && (len(p.Problems) != 1 || p.Problems[0].Path != c.path) {
			t.Errorf("%s: %+v", name, p.Problems)
		}
	}
	for name, body := range map[string]string{
		"no place":        strings.Replace(ask("velmora-pane-49", "velmora-pane-43"), `"x_mm":1650`, `"x_mm":1500`, 1),
		"no studs":        ask(`"studs":{"first_mm":210,"spacing_mm":406.4,"width_mm":38.1}`, `"species":"hem_fir"`),
		"studs 5 mm":      ask(`"spacing_mm":406.4`, `"spacing_mm":5`),
		"a narrow wall":   ask(`"width_mm":3600`, `"width_mm":700`),
		"a rule's figure": ask(`"rule":"center","center_mm":1500`, `"rule":"upper_third"`),
	} {
		v := read[bench.WallView](t, d.post("/api/wall", body), 200)
		if name == "studs 5 mm" {
			continue // it hangs on them
		}
		if v.Said.Verdict == "fits" || v.Said.Verdict == "fits_with_conditions" {
			t.Errorf("%s: %s", name, v.Said.Verdict)
		}
		// Another bracket is named only when it goes there.
		for _, o := range v.Others {
			other := strings.Replace(body, `"bracket_id":"sill-40"`, `"bracket_id":"`+o.ID+`"`, 1)
			if again := read[bench.WallView](t, d.post("/api/wall", other), 200); again.Said.Verdict == "does_not_fit" {
				t.Errorf("%s: %s does not go there either", name, o.ID)
			}
		}
		if name == "no place" && len(v.Others) == 0 {
			t.Error("no other bracket is named, though one goes there")
		}
	}
}

func TestJobsAndPrints(t *testing.T) {
	d := newDesk(t)
	jobs := read[[]review.JobLine](t, d.get("/api/jobs"), 200)
	at := slices.IndexFunc(jobs, func(j review.JobLine) bool { return j.ID == "mill-lane-counter" })
	if len(jobs) != demoJobs(t) || jobs[at].ID != "mill-lane-counter" || jobs[at].Title != "Velmora Pane 49 on Sill 40" {
		t.Fatalf("%+v", jobs)
	}
	k := read[bench.SavedItem](t, d.get("/api/items/jobs/mill-lane-counter"), 200)
	for _, c := range []struct {
		body   string
		ok     bool
		saved  int
		status int
	}{
		{`{"bar_mm":100,"measured_mm":100.5}`, true, 0, 200},
		{`{"job":"mill-lane-counter","bar_mm":100,"measured":"97 mm","paper":"a4"}`, false, 1, 200},
		{`{"job":"mill-lane-counter","bar_mm":101.6,"measured":"4 in"}`, true, 2, 200},
		{`{"job":"nobody","bar_mm":100,"measured_mm":100}`, false, 0, 404},
		{`{"bar_mm":50,"measured_mm":50}`, false, 0, 400},
		{`{"bar_mm":100,"measured":"x"}`, false, 0, 400},
	} {
		r := d.post("/api/prints", c.body)
		if c.status != 200 {
			if r.StatusCode != c.status {
				t.Errorf("%s: %d %s", c.body, r.StatusCode, r.body)
			}
			continue
		}
		a := read[sheets.PrintAnswer](t, r, 200)
		if a.Accepted != c.ok || a.Text == "" || (a.Saved != nil) != (c.saved > 0) || a.Saved != nil && len(a.Saved.Job.Prints) != c.saved {
			t.Errorf("%s: %+v", c.body, a)
		}
	}
	// The answers are saved with the job, beside what was there, as revisions.
	now := read[bench.SavedItem](t, d.get("/api/items/jobs/mill-lane-counter"), 200)
	if len(now.Job.Prints) != 2 || now.Revision != k.Revision+2 || now.Job.Prints[0].Accepted || now.Job.Prints[0].At == "" ||
		now.Job.Wall.Width.Value != k.Job.Wall.Width.Value {
		t.Errorf("%+v", now.Job)
	}
	if list := read[[]review.JobLine](t, d.get("/api/jobs"), 200); list[at].Prints != 2 {
		t.Errorf("%+v", list[at])
	}
	// A job that somebody else has changed meanwhile is refused, with theirs.
	raw, _ := json.Marshal(k.Job)
	r := d.request(http.MethodPut, "/api/items/jobs/mill-lane-counter", "application/json",
		fmt.Appendf(nil, `{"revision":%d,"job":%s}`, k.Revision, raw))
	if r.StatusCode != 409 || !strings.Contains(string(r.body), `"theirs"`) {
		t.Errorf("%d %s", r.StatusCode, r.body)
	}
	if r := d.request(http.MethodPut, "/api/items/jobs/other", "application/json",
		fmt.Appendf(nil, `{"revision":0,"job":%s}`, raw)); r.StatusCode != 400 {
		t.Errorf("%d %s", r.StatusCode, r.body)
	}
	if list := read[[]catalogue.Edition](t, d.get("/api/history?kind=jobs&id=mill-lane-counter"), 200); len(list) != 3 ||
		list[0].Why != "Print checked." {
		t.Errorf("%+v", list)
	}
}

// TestSiteSheets: template and card of a site, in every format, and what can be
// left out.
func TestSiteSheets(t *testing.T) {
	d := newDesk(t)
	for format, begins := range map[string]string{"page": "<svg", "svg": "<svg", "pdf": "%PDF-", "dxf": "999"} {
		for _, what := range []string{"template", "card"} {
			r := d.post("/api/template?format="+format+"&what="+what, counter)
			if r.StatusCode != 200 || !strings.HasPrefix(strings.TrimSpace(string(r.body)), begins) {
				t.Errorf("%s %s: %d %.60s", what, format, r.StatusCode, r.body)
			}
			if name := r.Header.Get("Content-Disposition"); format != "page" && (!strings.Contains(name, "s-velmora-pane-49-on-sill-40") ||
				strings.Contains(name, "measures") != (what == "card")) {
				t.Error(name)
			}
		}
	}
	whole, less := d.post("/api/template?format=svg", counter).body, d.post("/api/template?format=svg&hide=outline,studs", counter).body
	if !strings.Contains(string(whole), "template.stud") || strings.Contains(string(less), "template.stud") ||
		!strings.Contains(string(less), "point.T1") {
		t.Error("studs are hidden, points are not")
	}
	for _, query := range []string{"format=svg&hide=points", "format=svg&what=poster", "format=pdf&paper=a5", "format=png"} {
		if r := d.post("/api/template?"+query, counter); r.StatusCode != 400 {
			t.Errorf("%s: %d", query, r.StatusCode)
		}
	}
	long := strings.Replace(counter, `"place":`, `"run":{"count":8,"gap_mm":12},"place":`, 1)
	long = strings.Replace(long, `"type":"wood_stud","covering_mm":12.5,"backing_mm":89,"width_mm":3600`, `"type":"concrete","width_mm":12000`, 1)
	if r := d.post("/api/template?format=pdf", long); r.StatusCode != 400 || !strings.Contains(string(r.body), "longer than a PDF") {
		t.Errorf("%d %.200s", r.StatusCode, r.body)
	}
	steps := string(d.post("/api/steps?format=md", counter).body)
	for _, want := range []string{"Level line 1588 mm above the floor.", "1 (T1): 221 mm left of the middle, 95 mm above the level line.",
		"one has its middle 1835.5 mm from the wall's left end"} {
		if !strings.Contains(steps, want) {
			t.Errorf("steps lack %q", want)
		}
	}
}

func TestPlotter(t *testing.T) {
	d := newDesk(t)
	done := make(chan struct{})
	go func() { d.srv.queue.Run(t.Context()); close(done) }()
	read[sheets.PlotQueue](t, d.post("/api/plotter/jam", `{"jammed":true}`), 200)
	p := read[sheets.PlotLine](t, d.post("/api/plotter?what=card", counter), 202)
	if q := read[sheets.PlotQueue](t, d.get("/api/plotter"), 200); !q.Jammed || len(q.Plots) != 1 || q.Plots[0].ID != p.ID {
		t.Errorf("%+v", q)
	}
	b := read[sheets.PlotLine](t, d.post("/api/plotter?paper=a3", counter), 202)
	if b.Steps <= p.Steps {
		t.Errorf("pages take longer than one sheet: %+v %+v", p, b)
	}
	q := read[sheets.PlotQueue](t, d.post(fmt.Sprintf("/api/plotter/%d/cancel", b.ID), `{}`), 200)
	if q.Plots[1].State != "cancelled" {
		t.Errorf("%+v", q)
	}
	if r := d.post(fmt.Sprintf("/api/plotter/%d/cancel", b.ID), `{}`); r.StatusCode != 404 {
		t.Errorf("%d", r.StatusCode)
	}
	read[sheets.PlotQueue](t, d.post("/api/plotter/jam", `{"jammed":false}`), 200)
	for q.Plots[0].State != "done" {
		q = read[sheets.PlotQueue](t, d.get("/api/plotter"), 200)
		if q.Plots[0].State == "failed" || t.Context().Err() != nil {
			t.Fatalf("%+v", q)
		}
	}
	raw, err := os.ReadFile(filepath.Join(d.plots, q.Plots[0].File))
	if err != nil || !strings.HasPrefix(string(raw), "%PDF-") {
		t.Errorf("%v %.20q", err, raw)
	}
	if r := d.post("/api/plotter", `{"display_id":"nobody"}`); r.StatusCode != 400 {
		t.Errorf("%d", r.StatusCode)
	}
}

func BenchmarkWallDrag(b *testing.B) {
	srv := emptyServer(b)
	c, err := demo.Contents()
	if err != nil {
		b.Fatal(err)
	}
	if _, err := srv.store.Import(b.Context(), store.Author{}, "", c, nil, nil); err != nil {
		b.Fatal(err)
	}
	body := []byte(`{"request":` + counter + `,"move":{"what":"display","x_mm":1734,"y_mm":1500,"snap":true}}`)
	for b.Loop() {
		call(b, srv, http.MethodPost, "/api/wall", "application/json", body)
	}
}
