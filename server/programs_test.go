package server

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"regexp"
	"strings"
	"testing"

	"nexufix/app/review"
	"nexufix/core/catalog"
	"nexufix/server/api"
	"nexufix/store"
	"nexufix/version"
)

// TestRevisionsByTag: a script that knows only HTTP sees what revision it has, and changes nothing that is not that one any more
// (RFC 9110, 13.1.1).
func TestRevisionsByTag(t *testing.T) {
	d := newDesk(t)
	const at = "/api/items/displays/of-a-script"
	send := func(method, path, match, body string) answer {
		r := httptest.NewRequest(method, path, strings.NewReader(body))
		r.Host = "127.0.0.1"
		r.Header.Set("Content-Type", "application/json")
		if match != "" {
			r.Header.Set("If-Match", match)
		}
		return d.send(r)
	}
	new := `{"revision":0,"display":{"id":"of-a-script","model":"Of a script"}}`
	if a := send("PUT", at, `*`, new); a.StatusCode != 412 {
		t.Errorf("something has to be there: %d", a.StatusCode)
	}
	if a := send("PUT", at, "", new); a.StatusCode != 201 || a.Header.Get("Location") != at || a.Header.Get("ETag") != `"1"` {
		t.Errorf("made: %d %v", a.StatusCode, a.Header)
	}
	if a := d.get(at); a.Header.Get("ETag") != `"1"` {
		t.Errorf("it is revision %s", a.Header.Get("ETag"))
	}
	change := `{"revision":1,"changes":[{"path":"display.mass_kg","to":"3"}]}`
	for _, c := range []struct {
		method, path, match, body string
		status                    int
		kind                      string
	}{
		{"PUT", at, `"2"`, change, 412, "changed-meanwhile"},
		{"PUT", at, `x`, change, 412, "changed-meanwhile"},
		{"DELETE", at + "?revision=1", `"2"`, "", 412, "changed-meanwhile"},
		{"PUT", at, `"7", "1"`, change, 200, ""},
		{"PUT", at, `"1"`, change, 412, "changed-meanwhile"}, // it is revision 2 now
		{"PUT", at, "", change, 409, "changed-meanwhile"},
		{"DELETE", at + "?revision=1", `"1"`, "", 412, "changed-meanwhile"},
		{"DELETE", at + "?revision=2", `*`, "", 204, ""},
		{"PUT", at, "", `{"revision":0,"display":{}}`, 400, "invalid"},
		{"GET", "/api/items/displays/no-such", "", "", 404, "not-found"},
	} {
		a := send(c.method, c.path, c.match, c.body)
		if a.StatusCode != c.status || c.kind != "" && !strings.Contains(string(a.body), `"type":"urn:nexufix:problem:`+c.kind+`"`) {
			t.Errorf("%s %s with %s: %d %s", c.method, c.path, c.match, a.StatusCode, a.body)
		}
	}
}

// TestMetricsNameTheProgram: who looks at the figures sees which program they are of.
func TestMetricsNameTheProgram(t *testing.T) {
	if a := newDesk(t).get("/metrics"); !strings.Contains(string(a.body), `nexufix_build_info{version="`+version.Of()+`"} 1`) {
		t.Errorf("%d %.300s", a.StatusCode, a.body)
	}
}

// TestTelephonePageCanBeInstalled: the page names a manifest that is fetched with the session, and that one an icon that is there.
func TestTelephonePageCanBeInstalled(t *testing.T) {
	d := newDesk(t)
	page := d.get("/at/mill-lane-counter")
	if !strings.Contains(string(page.body), `href="manifest.webmanifest" crossorigin="use-credentials"`) ||
		!strings.Contains(page.Header.Get("Content-Security-Policy"), "img-src data: 'self'") {
		t.Errorf("%s, %.400s", page.Header, page.body)
	}
	of := read[struct {
		Start *string `json:"start_url"`
		Icons []struct{ Src, Type string }
	}](t, d.get("/at/manifest.webmanifest"), 200)
	if of.Start != nil || len(of.Icons) == 0 {
		t.Fatalf("%+v", of)
	}
	src, err := url.Parse(of.Icons[0].Src)
	if err != nil {
		t.Fatal(err)
	}
	at := (&url.URL{Path: "/at/manifest.webmanifest"}).ResolveReference(src).Path // as a browser does
	if icon := d.get(at); icon.StatusCode != 200 || icon.Header.Get("Content-Type") != of.Icons[0].Type {
		t.Errorf("its icon: %d %s", icon.StatusCode, icon.Header.Get("Content-Type"))
	}
}

// TestQueriesAreKnown: what is misspelt after the path is refused, as it is in a body.
func TestQueriesAreKnown(t *testing.T) {
	d := newDesk(t)
	for path, want := range map[string]int{"/api/displays?q=pane&limit=3": 200, "/api/displays?query=pane": 400, "/api/jobs?x=1": 400,
		"/api/displays?Limit=3": 400, "/api/jobs?": 200} {
		if a := d.get(path); a.StatusCode != want || want == 400 && !strings.Contains(string(a.body), "is not known") {
			t.Errorf("%s: %d %s", path, a.StatusCode, a.body)
		}
	}
}

// TestHead: HEAD is answered as GET is, without the body (RFC 9110, 9.3.2).
func TestHead(t *testing.T) {
	d := newDesk(t)
	srv := httptest.NewServer(d.srv)
	defer srv.Close()
	for _, path := range []string{"/api/jobs", "/api/openapi.json", "/healthz", "/"} {
		got, err := srv.Client().Get(srv.URL + path)
		if err != nil {
			t.Fatal(err)
		}
		got.Body.Close()
		head, err := srv.Client().Head(srv.URL + path)
		if err != nil {
			t.Fatal(err)
		}
		head.Body.Close()
		if head.StatusCode != got.StatusCode || head.Header.Get("Content-Type") != got.Header.Get("Content-Type") {
			t.Errorf("%s: %d %s, GET %d %s", path, head.StatusCode, head.Header, got.StatusCode, got.Header)
		}
	}
}

// TestProblemsAreTold: the kinds of problems that programs tell apart are all in the page for them, and no others.
func TestProblemsAreTold(t *testing.T) {
	source, err := os.ReadFile("api/problem.go")
	if err != nil {
		t.Fatal(err)
	}
	page, err := os.ReadFile("../docs/api.md")
	if err != nil {
		t.Fatal(err)
	}
	kinds := map[string]bool{}
	named := regexp.MustCompile(`(?:Of\(|is\([\w.{}]+, |\}, |when\([\w.]+, |:\s+|\t\t)"([a-z][a-z-]+)"`)
	for _, m := range named.FindAllStringSubmatch(string(source), -1) {
		kinds[m[1]] = true
	}
	told := regexp.MustCompile("(?m)^\\| `([a-z-]+)` ").FindAllStringSubmatch(string(page), -1)
	for _, m := range told {
		if !kinds[m[1]] {
			t.Errorf("docs/api.md has %s, which nothing answers", m[1])
		}
		delete(kinds, m[1])
	}
	for kind := range kinds {
		t.Errorf("docs/api.md lacks %s", kind)
	}
	if got := api.Describe(store.ErrBusy).Type; got != "urn:nexufix:problem:busy" || api.New(http.StatusTeapot, "", "").Type != "about:blank" {
		t.Error(got)
	}
}

// TestJobByItsID: a job's id alone asks what the job with all that it says asks, of every job of the demo, and of one that is turned, with
// something hung on it and a clearance.
func TestJobByItsID(t *testing.T) {
	d := newDesk(t)
	turned := `{"id":"turned","display":"velmora-pane-43","bracket":"crumb-15","turn_deg":90,"accessories_kg":2,"arm_clearance_mm":5,` +
		`"wall":{"type":"concrete","backing_mm":200,"width_mm":2400,"height_mm":2600},"place":{"rule":"center","center_mm":1500}}`
	read[any](t, d.request("PUT", "/api/items/jobs/turned", "application/json", []byte(`{"revision":0,"job":`+turned+`}`)), 201)
	seen := 0
	for _, j := range read[[]review.JobLine](t, d.get("/api/jobs"), 200) {
		item := read[struct{ Job json.RawMessage }](t, d.get("/api/items/jobs/"+j.ID), 200)
		of := read[struct{ Job catalog.Job }](t, d.get("/api/items/jobs/"+j.ID), 200).Job
		whole := fmt.Sprintf(`{"display_id":%q,"bracket_id":%q,"turn_deg":%d,"site":%s}`, of.Display, of.Bracket, of.Turn, item.Job)
		asked := map[string]string{"/api/bench": `%s`, "/api/wall": `{"request":%s}`}
		if j.ID == "turned" {
			asked["/api/steps?format=json"] = `%s`
		}
		for path, ask := range asked {
			seen++
			want, got := d.post(path, fmt.Sprintf(ask, whole)), d.post(path, fmt.Sprintf(ask, `{"job_id":"`+j.ID+`"}`))
			if got.StatusCode != 200 || string(want.body) != string(got.body) {
				t.Errorf("%s of %s: %d, %.300s and %.300s", path, j.ID, got.StatusCode, want.body, got.body)
			}
		}
	}
	if seen < 60 {
		t.Errorf("only %d were compared", seen)
	}
	for _, wrong := range []string{`{"job_id":"no-such"}`, `{"job_id":"turned","site":` + turned + `}`} {
		if a := d.post("/api/bench", wrong); a.StatusCode != 400 {
			t.Errorf("%.60s: %d", wrong, a.StatusCode)
		}
	}
}
