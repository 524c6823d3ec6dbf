package server

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/xuri/excelize/v2"

	"nexufix/app/bench"
	"nexufix/app/people"
	"nexufix/app/review"
	"nexufix/demo"
	"nexufix/demo/demotest"
	"nexufix/seal"
	"nexufix/server/api"
	peopleroutes "nexufix/server/people"
	"nexufix/store"
)

func TestMain(m *testing.M) {
	people.HashQuickly()
	os.Exit(m.Run())
}

// answer is what came back, with its body read.
type answer struct {
	*http.Response
	body []byte
}

// desk is a server on a database of its own, with the demo's catalogue.
type desk struct {
	t   testing.TB
	srv *Server
	log bytes.Buffer

	plots string // where plots land
	file  string // the database
}

func newDesk(t testing.TB) *desk {
	t.Helper()
	st, file := demotest.Store(t)
	d := &desk{t: t, plots: t.TempDir(), file: file}
	log := slog.New(slog.NewTextHandler(&d.log, nil))
	key, err := seal.Load(t.TempDir())
	if err == nil {
		err = review.KnowKey(t.Context(), st, key)
	}
	if err != nil {
		t.Fatal(err)
	}
	if d.srv, err = New(st, log, Hosts{Loopback: true, Base: deskAt, Key: key}, d.plots, peopleroutes.Options{}); err != nil {
		t.Fatal(err)
	}
	return d
}

func (d *desk) send(r *http.Request) answer {
	d.t.Helper()
	w := httptest.NewRecorder()
	r.RemoteAddr = "127.0.0.1:40000"
	d.srv.ServeHTTP(w, r)
	res := w.Result()
	body, err := io.ReadAll(res.Body)
	if err != nil {
		d.t.Fatal(err)
	}
	if res.StatusCode >= 500 {
		d.t.Errorf("%s %s answers %d: %s\n%s", r.Method, r.URL, res.StatusCode, body, d.log.String())
	}
	asDeclared(d.t, r, res.StatusCode, res.Header.Get("Content-Type"), body)
	return answer{res, body}
}

func (d *desk) get(path string) answer {
	return d.send(httptest.NewRequest(http.MethodGet, "http://127.0.0.1:8460"+path, nil))
}

func (d *desk) post(path, body string) answer {
	r := httptest.NewRequest(http.MethodPost, "http://127.0.0.1:8460"+path, strings.NewReader(body))
	r.Header.Set("Content-Type", "application/json")
	return d.send(r)
}

// read reads a JSON answer.
func read[T any](t testing.TB, a answer, status int) T {
	t.Helper()
	var v T
	if a.StatusCode != status {
		t.Fatalf("%d, want %d: %s", a.StatusCode, status, a.body)
	}
	if err := json.Unmarshal(a.body, &v); err != nil {
		t.Fatalf("%v: %s", err, a.body)
	}
	return v
}

const pane = `"display_id":"velmora-pane-49","bracket_id":"sill-40"`

func TestBench(t *testing.T) {
	d := newDesk(t)
	b := read[map[string]any](t, d.post("/api/bench", `{`+pane+`}`), 200)
	pairing := b["pairing"].(map[string]any)
	if b["title"] != "Velmora Pane 49 on Sill 40" || pairing["verdict"] != "fits_with_conditions" || b["send"] != "2 × M6×30" {
		t.Errorf("%v %v %v", b["title"], pairing["verdict"], b["send"])
	}
	if others := b["others"].([]any); len(others) != 9 || others[0].(map[string]any)["verdict"] != "fits" {
		t.Errorf("%v", b["others"])
	}
	for _, picture := range []string{"section", "back"} {
		if svg := b[picture].(string); !strings.HasPrefix(svg, "<svg ") || !strings.Contains(svg, "data-tag=") {
			t.Errorf("%s: %.80s", picture, svg)
		}
	}
	// What the asker has is not sent again; what has changed is.
	marks := b["marks"].(map[string]any)
	again := read[map[string]any](t,
		d.post("/api/bench", fmt.Sprintf(`{%s,"tilt_deg":3,"have":[%q,%q,%q]}`, pane, marks["section"], marks["back"],
			marks["side"])), 200)
	if again["section"] != "" || again["back"] != "" || again["side"] == "" ||
		fmt.Sprint(again["marks"].(map[string]any)["section"]) != marks["section"] {
		t.Errorf("of section, back and side, tilted, only the side has changed: %v", again["marks"])
	}
	if got := fmt.Sprint(b["schools"]); got != "map[balanced:M6×12, M6×30 deep:M6×16, M6×30 shallow:M6×12, M6×30]" {
		t.Error(got)
	}
	// The worst comes first.
	if first := pairing["checks"].([]any)[0].(map[string]any); first["rule"] != "stack" || first["status"] != "caution" {
		t.Errorf("%v", first)
	}
	// Without a bracket the best one is taken.
	b = read[map[string]any](t, d.post("/api/bench", `{"display_id":"velmora-pane-49"}`), 200)
	if v := b["pairing"].(map[string]any)["bracket"]; v != b["others"].([]any)[0].(map[string]any)["id"] {
		t.Errorf("took %v, which is not the best", v)
	}
}

// TestWhatIf: a figure changed, as typed, changes the answer and nothing else.
func TestWhatIf(t *testing.T) {
	d := newDesk(t)
	before := d.get("/api/export").body
	typed := `{"display":{"id":"unheard-of-50","model":"Unheard of 50","diagonal":"50 in","mass":"35 lb 4 oz","patterns":[
		{"width_mm":300,"height_mm":300,"thread":"M6","rows":{"top":{"thread_depth":"1/2 in"},
		"bottom":{"thread_depth":"13"}}}]},"center":"42 in","units":"in"}`
	b := read[map[string]any](t, d.post("/api/bench", typed), 200)
	if b["in_catalogue"] != false || b["pairing"].(map[string]any)["stack"] == nil {
		t.Errorf("%v", b["pairing"])
	}
	// What is missing is asked for.
	b = read[map[string]any](t, d.post("/api/bench", `{"display":{"id":"x","model":"X"}}`), 200)
	if v := b["pairing"].(map[string]any)["verdict"]; v != "missing_data" || b["section"] != "" || b["pattern_index"] != float64(-1) {
		t.Errorf("%v", v)
	}
	if after := d.get("/api/export").body; !bytes.Equal(before, after) {
		t.Error("the bench changed the catalogue")
	}
}

func TestHeights(t *testing.T) {
	d := newDesk(t)
	raw := read[map[string]any](t, d.post("/api/bench", `{`+pane+`,"center":"1500 mm"}`), 200)
	h, ok := raw["heights"].(map[string]any)
	if !ok || h["top_height_mm"] != 1817.0 || h["bottom_height_mm"] != 1183.0 {
		t.Errorf("%v", raw["heights"])
	}
	if raw := read[map[string]any](t, d.post("/api/bench", `{`+pane+`}`), 200); raw["heights"] != nil {
		t.Error("heights that nobody asked for")
	}
}

func TestFiles(t *testing.T) {
	d := newDesk(t)
	for _, c := range []struct{ path, kind, begins, name string }{
		{"/api/template?format=pdf", "application/pdf", "%PDF-", `attachment; filename="velmora-pane-49-on-sill-40.pdf"`},
		{"/api/template?format=pdf&paper=a4", "application/pdf", "%PDF-", `attachment; filename="velmora-pane-49-on-sill-40.pdf"`},
		{"/api/template?format=dxf", "image/vnd.dxf", "999", `attachment; filename="velmora-pane-49-on-sill-40.dxf"`},
		{"/api/template?format=svg", "image/svg+xml", "<svg ", `attachment; filename="velmora-pane-49-on-sill-40.svg"`},
		{"/api/template?format=page", "image/svg+xml", "<svg ", ""},
		{"/api/steps?format=md", "text/markdown; charset=utf-8", "# Velmora Pane 49 on Sill 40",
			`attachment; filename="velmora-pane-49-on-sill-40-wood_stud.md"`},
		{"/api/steps?format=json", "application/json", "{", ""},
	} {
		a := d.post(c.path, `{`+pane+`}`)
		if a.StatusCode != 200 || a.Header.Get("Content-Type") != c.kind || !strings.HasPrefix(string(a.body), c.begins) ||
			a.Header.Get("Content-Disposition") != c.name {
			t.Errorf("%s: %d %s %q %.60s", c.path, a.StatusCode, a.Header.Get("Content-Type"), a.Header.Get("Content-Disposition"), a.body)
		}
	}
	for _, path := range []string{"/api/template", "/api/template?format=exe", "/api/template?format=pdf&paper=a5", "/api/steps?format=../x"} {
		if a := d.post(path, `{`+pane+`}`); a.StatusCode != 400 {
			t.Errorf("%s: %d", path, a.StatusCode)
		}
	}
	if a := d.post("/api/template?format=pdf",
		`{"display_id":"halden-wall-105","bracket_id":"pantry-10"}`); a.StatusCode != 422 ||
		!strings.Contains(string(a.body), "does not hang on this bracket") {
		t.Errorf("%d %s", a.StatusCode, a.body)
	}
}

func TestSaveOpenRemoveRestore(t *testing.T) {
	d := newDesk(t)
	saved := read[SavedPairing](t, d.post("/api/pairings", `{`+pane+`,"turn_deg":90,"policy":{"bolt_school":"deep"}}`), 201)
	if saved.Title != "Velmora Pane 49 on Sill 40" {
		t.Errorf("%+v", saved)
	}
	opened := read[map[string]any](t, d.get("/api/pairings/1"), 200)
	request := opened["request"].(map[string]any)
	if request["turn_deg"] != 90.0 || request["display"].(map[string]any)["id"] != "velmora-pane-49" || request["bracket"] == nil ||
		opened["result"] == nil {
		t.Errorf("%v", request)
	}
	// Asked again, what was saved gives the same answer.
	raw, _ := json.Marshal(request)
	again := read[map[string]any](t, d.post("/api/bench", string(raw)), 200)
	if again["pairing"].(map[string]any)["verdict"] != saved.Verdict {
		t.Errorf("%v", again["pairing"])
	}
	remove := httptest.NewRequest(http.MethodDelete, "http://localhost/api/pairings/1", nil)
	if a := d.send(remove); a.StatusCode != 204 {
		t.Error(a.StatusCode)
	}
	if list := read[[]SavedPairing](t, d.get("/api/pairings"), 200); len(list) != 0 {
		t.Error(list)
	}
	if a := d.get("/api/pairings/1"); a.StatusCode != 404 {
		t.Error(a.StatusCode)
	}
	if a := d.post("/api/pairings/1/restore", ""); a.StatusCode != 204 {
		t.Error(a.StatusCode, string(a.body))
	}
	if list := read[[]SavedPairing](t, d.get("/api/pairings"), 200); len(list) != 1 {
		t.Error(list)
	}
	// A display typed in is saved with its pairing.
	read[SavedPairing](t, d.post("/api/pairings", `{"display":{"id":"typed-in","model":"Typed in"},"bracket_id":"sill-40"}`), 201)
	if a := d.get("/api/displays/typed-in"); a.StatusCode != 200 {
		t.Error(a.StatusCode)
	}
	// A bracket that is nowhere cannot be saved on.
	if a := d.post("/api/pairings", `{"display_id":"velmora-pane-49","bracket":{"id":"ghost","kind":"fixed",
		"threads":["M6"],"plate_thickness_mm":2,
		"interface":{"type":"plate","patterns_mm":[[200,200]],"center_below_hook_mm":5}}}`); a.StatusCode != 400 {
		t.Error(a.StatusCode, string(a.body))
	}
}

// TestBadInput: a clear error with its path, nothing stored, no 500 (which
// send reports).
func TestBadInput(t *testing.T) {
	d := newDesk(t)
	before := d.get("/api/export").body
	for _, c := range []struct {
		path, body string
		status     int
		says       string
	}{
		{"/api/bench", ``, 400, "empty"},
		{"/api/bench", `{`, 400, "ends too early"},
		{"/api/bench", `[]`, 400, "an object"},
		{"/api/bench", `{}`, 400, "display_id"},
		{"/api/bench", `{"display_id":"nope","bracket_id":"nope"}`, 400, `\"nope\" is not in the catalogue`},
		{"/api/bench", `{"display_id":"../../etc/passwd","bracket_id":"sill-40"}`, 400, "not in the catalogue"},
		{"/api/bench", `{` + pane + `,"colour":"red"}`, 400, "colour"},
		{"/api/bench", `{` + pane + `,"turn_deg":45}`, 400, "0, 90, 270"},
		{"/api/bench", `{` + pane + `,"wall":"tent"}`, 400, "wood_stud"},
		{"/api/bench", `{` + pane + `,"center":"high up"}`, 400, `"path":"center"`},
		{"/api/bench", `{` + pane + `,"accessories_kg":-1}`, 400, "at least 0"},
		{"/api/bench", `{"display":{"id":"a","patterns":[{"width_mm":200,"height_mm":200,"rows":
			{"top":{"thread_depth":"14 kg"}}}]},"bracket_id":"sill-40"}`, 400,
			"display.patterns[0].rows.top.thread_depth"},
		{"/api/bench", `{"display":{"id":"<img src=x onerror=alert(1)>"},"bracket_id":"sill-40"}`, 400, "letters, digits"},
		{"/api/import", `{"format":"nexufix/1","displays":[{"id":"good"},{"id":"bad","width_mm":-4}]}`, 400, "displays[1].width_mm"},
		{"/api/import", `{"format":"nexufix/1","brackets":[{"id":"x","kit":[]}]}`, 400, "brackets[0].kit"},
		{"/api/import", `{"format":"nexufix/1","displays":[{"id":"a'; DROP TABLE display; --"}]}`, 400, "displays[0].id"},
		{"/api/pairings", `{}`, 400, "display_id"},
		{"/api/nothing", `{}`, 405, ""},
		{"/healthz", `{}`, 405, ""},
	} {
		a := d.post(c.path, c.body)
		if a.StatusCode != c.status || !strings.Contains(string(a.body), c.says) || a.Header.Get("Content-Type") != "application/problem+json" {
			t.Errorf("%s %.80s: %d %s %s; want %d %q", c.path, c.body, a.StatusCode, a.Header.Get("Content-Type"), a.body, c.status, c.says)
		}
	}
	for path, status := range map[string]int{"/api/displays/none": 404, "/api/brackets/..%2f..": 404, "/api/pairings/x": 404,
		"/api/pairings/9999": 404, "/api/none": 404, "/assets/none.js": 404, "/assets/../../go.mod": 404} {
		if a := d.get(path); a.StatusCode != status {
			t.Errorf("%s: %d, want %d", path, a.StatusCode, status)
		}
	}
	text := httptest.NewRequest(http.MethodPost, "http://localhost/api/bench", strings.NewReader(`{`+pane+`}`))
	text.Header.Set("Content-Type", "text/plain")
	if a := d.send(text); a.StatusCode != 415 {
		t.Errorf("text/plain: %d", a.StatusCode)
	}
	if after := d.get("/api/export").body; !bytes.Equal(before, after) {
		t.Error("bad input changed the catalogue")
	}
}

// endless is a body of spaces without end.
type endless struct{ left int64 }

func (e *endless) Read(p []byte) (int, error) {
	n := min(int64(len(p)), e.left)
	if n == 0 {
		return 0, io.EOF
	}
	for i := range p[:n] {
		p[i] = ' '
	}
	e.left -= n
	return int(n), nil
}

func TestUploadOf100MB(t *testing.T) {
	d := newDesk(t)
	for _, announced := range []bool{true, false} {
		for _, path := range []string{"/api/import", "/api/bench"} {
			body := &endless{100 << 20}
			r := httptest.NewRequest(http.MethodPost, "http://localhost"+path, body)
			r.Header.Set("Content-Type", "application/json")
			r.ContentLength = -1
			if announced {
				r.ContentLength = 100 << 20
			}
			a := d.send(r)
			if a.StatusCode != http.StatusRequestEntityTooLarge || !strings.Contains(string(a.body), "Too large") {
				t.Errorf("%s: %d %s", path, a.StatusCode, a.body)
			}
			if read := 100<<20 - body.left; read > api.MostFile+1<<20 {
				t.Errorf("%s: %d bytes were read", path, read)
			}
		}
	}
}

func TestImportAndExport(t *testing.T) {
	d := newDesk(t)
	all := d.get("/api/export")
	if n := read[store.Imported](t, d.post("/api/import", string(all.body)), 200); n.New+n.Changed != 0 || n.Same < 48 {
		t.Errorf("what was exported comes back changed: %+v", n)
	}
	if n := read[store.Imported](t, d.post("/api/import", `{"format":"nexufix/1","displays":[{"id":"fresh","model":"Fresh"}]}`), 200); n.New != 1 {
		t.Errorf("%+v", n)
	}
}

func TestSecurityHeaders(t *testing.T) {
	d := newDesk(t)
	first, second := d.get("/"), d.get("/saved?x=1")
	csp := first.Header.Get("Content-Security-Policy")
	for _, want := range []string{"default-src 'self'", "object-src 'none'", "frame-ancestors 'none'", "script-src 'self' 'nonce-"} {
		if !strings.Contains(csp, want) {
			t.Errorf("%q has no %s", csp, want)
		}
	}
	if strings.Contains(csp, "unsafe") || csp == second.Header.Get("Content-Security-Policy") {
		t.Error("the nonce must be new each time, and nothing unsafe")
	}
	if strings.Contains(string(first.body), nonceMark) {
		t.Error("the nonce's mark is left in the page")
	}
	for _, a := range []answer{first, d.get("/api/displays"), d.get("/api/none")} {
		for header, want := range map[string]string{"X-Content-Type-Options": "nosniff", "X-Frame-Options": "DENY",
			"Referrer-Policy": "no-referrer", "Cross-Origin-Opener-Policy": "same-origin",
			"Cache-Control": "no-store", "Strict-Transport-Security": ""} {
			if got := a.Header.Get(header); got != want {
				t.Errorf("%d: %s %q", a.StatusCode, header, got)
			}
		}
	}
	r := httptest.NewRequest(http.MethodGet, "http://127.0.0.1:8460/", nil)
	r.Header.Set("X-Forwarded-Proto", "https") // of a proxy that encrypts
	if got := d.send(r).Header.Get("Strict-Transport-Security"); got != "max-age=31536000" {
		t.Errorf("encrypted, it is not asked to stay so: %q", got)
	}
	code := d.get("/v/none")
	csp = code.Header.Get("Content-Security-Policy")
	nonce := regexp.MustCompile(`nonce-([A-Z0-9]+)'`).FindStringSubmatch(csp)
	if strings.Contains(csp, "unsafe") || nonce == nil || !strings.Contains(string(code.body), `<style nonce="`+nonce[1]+`">`) {
		t.Errorf("the page of a code may have styles of anybody's: %q", csp)
	}
}

func TestOnlyFromHere(t *testing.T) {
	d := newDesk(t)
	elsewhere := httptest.NewRequest(http.MethodGet, "http://bakery.example/api/displays", nil)
	if a := d.send(elsewhere); a.StatusCode != 403 {
		t.Errorf("a request under another name: %d", a.StatusCode)
	}
	for _, origin := range []string{"https://bakery.example", "http://localhost:1"} {
		r := httptest.NewRequest(http.MethodPost, "http://127.0.0.1:8460/api/pairings", strings.NewReader(`{`+pane+`}`))
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set("Origin", origin)
		r.Header.Set("Sec-Fetch-Site", "cross-site")
		if a := d.send(r); a.StatusCode != 403 {
			t.Errorf("a change asked for by %s: %d", origin, a.StatusCode)
		}
	}
	for _, host := range []string{"localhost", "127.0.0.1:9", "[::1]:9"} {
		if a := d.send(httptest.NewRequest(http.MethodGet, "http://"+host+"/healthz", nil)); a.StatusCode != 200 || string(a.body) != "ok\n" {
			t.Errorf("%s: %d", host, a.StatusCode)
		}
	}
}

func TestAnswersAreCompressed(t *testing.T) {
	d := newDesk(t)
	r := httptest.NewRequest(http.MethodPost, "http://localhost/api/bench", strings.NewReader(`{`+pane+`}`))
	r.Header.Set("Content-Type", "application/json")
	r.Header.Set("Accept-Encoding", "gzip")
	a := d.send(r)
	z, err := gzip.NewReader(bytes.NewReader(a.body))
	if err != nil || a.Header.Get("Content-Encoding") != "gzip" {
		t.Fatal(err, a.Header)
	}
	if raw, err := io.ReadAll(z); err != nil || !bytes.Contains(raw, []byte(`"verdict"`)) {
		t.Error(err)
	}
}

func TestPickers(t *testing.T) {
	d := newDesk(t)
	type entry struct{ ID, Name, Note string }
	for q, want := range map[string]string{"lantrn 48": "skerry-lantern-48", "pane49": "velmora-pane-49", "": "brindle-menu-32",
		"600%20400": "halden-exhibit-75"} {
		if list := read[[]entry](t, d.get("/api/displays?q="+strings.ReplaceAll(q, " ", "%20")), 200); len(list) == 0 || list[0].ID != want {
			t.Errorf("%q finds %+v, want %s", q, list, want)
		}
	}
	if list := read[[]entry](t, d.get("/api/brackets?q=sil"), 200); len(list) == 0 || list[0].ID != "sill-40" {
		t.Errorf("%+v", list)
	}
	if list := read[[]entry](t, d.get("/api/displays?q="+strings.Repeat("z", 200)), 200); len(list) != 0 {
		t.Error(list)
	}
}

func TestOpenAPIDocument(t *testing.T) {
	d := newDesk(t)
	doc := read[struct {
		OpenAPI string
		Paths   map[string]map[string]any
	}](t, d.get("/api/openapi.json"), 200)
	if !strings.HasPrefix(doc.OpenAPI, "3.1") {
		t.Error(doc.OpenAPI)
	}
	for _, r := range d.srv.features() {
		if doc.Paths[r.Path][strings.ToLower(r.Method)] == nil {
			t.Errorf("%s %s is not described", r.Method, r.Path)
		}
	}
}

func BenchmarkBench(b *testing.B) {
	d := newDesk(b)
	b.ReportAllocs()
	for b.Loop() {
		if a := d.post("/api/bench", `{`+pane+`}`); a.StatusCode != 200 {
			b.Fatal(a.StatusCode)
		}
	}
}

func TestProbe(t *testing.T) {
	d := newDesk(t)
	r := read[struct {
		Drawing string
		Result  struct {
			Threads []string
			Depth   []*float64 `json:"depth_mm"`
			Next    struct{ Thread, Outcome string }
		}
	}](t, d.post("/api/probe", `{"trials":[{"thread":"M6","length":"25","outcome":"stopped","gap":"9 mm"}],"bracket_id":"sill-40"}`), 200)
	if fmt.Sprint(r.Result.Threads) != "[M6]" || *r.Result.Depth[0] != 15 || *r.Result.Depth[1] != 17 || r.Result.Next.Outcome != "rests" {
		t.Errorf("%+v", r.Result)
	}
	if !strings.Contains(r.Drawing, `data-tag="hole.bottom"`) || !strings.Contains(r.Drawing, "to the bottom 15 to 17") {
		t.Error(r.Drawing)
	}
	for body, says := range map[string]string{
		`{"trials":[{"thread":"M6","length":"long","outcome":"seated"}]}`: "trials[0].length",
		`{"trials":[{"thread":"M6","outcome":"seated"}]}`:                 "trials[0].length_mm",
		`{"trials":[],"bracket_id":"none"}`:                               "bracket_id",
		`{}`:                                                              `\"path\":\"trials\"`,
	} {
		if a := d.post("/api/probe", body); a.StatusCode != 400 || !strings.Contains(string(a.body), strings.ReplaceAll(says, `\"`, `"`)) {
			t.Errorf("%s: %d %s", body, a.StatusCode, a.body)
		}
	}
}

func TestMatrix(t *testing.T) {
	d := newDesk(t)
	a := d.get("/api/matrix")
	lines := strings.Split(strings.TrimSpace(string(a.body)), "\n")
	if a.StatusCode != 200 || len(lines) != demoDisplays(t)+2 {
		t.Fatalf("%d, %d lines", a.StatusCode, len(lines))
	}
	var head bench.MatrixHead
	var end bench.MatrixEnd
	if err := json.Unmarshal([]byte(lines[0]), &head); err != nil || len(head.Displays) != demoDisplays(t) || len(head.Brackets) != 9 {
		t.Fatal(err, lines[0])
	}
	if err := json.Unmarshal([]byte(lines[len(lines)-1]), &end); err != nil || len(end.Cover) != 3 || len(end.Left) == 0 {
		t.Fatal(err, lines[len(lines)-1])
	}
	seen := map[int]bool{}
	for _, line := range lines[1 : len(lines)-1] {
		var row bench.MatrixRow
		if err := json.Unmarshal([]byte(line), &row); err != nil || len(row.Cells) != 27 || seen[row.Display] {
			t.Fatal(err, line)
		}
		seen[row.Display] = true
		// A cell says what the bench says.
		if row.Display%9 == 0 {
			for j, b := range head.Brackets {
				p := read[map[string]any](t,
					d.post("/api/bench", `{"display_id":"`+head.Displays[row.Display].ID+`","bracket_id":"`+b.ID+`"}`), 200)["pairing"].(map[string]any)
				if got := head.Verdicts[strings.ToLower(row.Cells)[3*j]-'a']; got != p["verdict"] {
					t.Errorf("%s on %s: %s in the matrix, %s on the bench", head.Displays[row.Display].ID, b.ID, got, p["verdict"])
				}
			}
		}
	}
	table := d.get("/api/matrix.csv")
	if text := string(table.body); table.StatusCode != 200 || strings.Count(text, "\n") != demoDisplays(t)+1 ||
		!strings.Contains(text, "does not fit: load") {
		t.Errorf("%.400s", text)
	}
}

// TestTablesAreNotExecuted: a name that begins like a formula stays a name.
func TestTablesAreNotExecuted(t *testing.T) {
	d := newDesk(t)
	read[store.Imported](t, d.post("/api/import", `{"format":"nexufix/1","displays":[{"id":"evil","model":"=HYPERLINK(1)"}]}`), 200)
	if text := string(d.get("/api/matrix.csv").body); !strings.Contains(text, "evil,'=HYPERLINK(1)") {
		t.Error("a formula went out live")
	}
	book, err := excelize.OpenReader(bytes.NewReader(d.get("/api/matrix.xlsx").body))
	if err != nil {
		t.Fatal(err)
	}
	defer book.Close()
	rows, err := book.GetRows("matrix")
	if err != nil || len(rows) != demoDisplays(t)+2 || len(rows[0]) != 11 {
		t.Fatal(len(rows), err)
	}
	for i, r := range rows {
		if r[0] == "evil" {
			at := fmt.Sprintf("B%d", i+1)
			kind, _ := book.GetCellType("matrix", at)
			if formula, _ := book.GetCellFormula("matrix", at); formula != "" || kind != excelize.CellTypeInlineString || r[1] != "=HYPERLINK(1)" {
				t.Errorf("%v %v %q", r, kind, formula)
			}
		}
	}
}

func TestByHand(t *testing.T) {
	d := newDesk(t)
	ask := func(hand string) string {
		var all []string
		for _, g := range read[[]bench.GivenJudged](t, d.post("/api/stack", `{"request":{`+pane+`},"hand":`+hand+`}`), 200) {
			all = append(all, fmt.Sprint(g.Holes, g.Status, " ", g.Text))
		}
		return strings.Join(all, "\n")
	}
	got := ask(`{"bolt":"16 mm","washers":1,"outer_mm":18}`)
	for _, want := range []string{
		"[TL TR]ok Safe: 11.9 mm of thread engaged, tip clearance 2.1 mm.",
		"[BL BR]unsafe Not safe. The arm would lie 9 mm inside the display: spacers are needed.",
	} {
		if !strings.Contains(got, want) {
			t.Errorf("%s\nwant %s", got, want)
		}
	}
	if got := ask(`{"bolt_mm":25,"washers":1,"outer_mm":18}`); !strings.Contains(got,
		"It is 7.9 mm too long: it would press on the panel") { // holds 20.9 of 13
		t.Error(got)
	}
	// The standard washer, 12 wide, just does for a slot of 9; a head alone does too.
	if got := ask(`{"bolt_mm":16,"washers":1}`); !strings.Contains(got, "[TL TR]ok") {
		t.Error(got)
	}
	if got := ask(`{"bolt_mm":16,"washers":1,"outer_mm":11}`); !strings.Contains(got, "is 1 mm too narrow for the slot") {
		t.Error(got)
	}
	for body, path := range map[string]string{
		`{"request":{` + pane + `}}`:                                                                 "hand",
		`{"request":{` + pane + `},"hand":{"bolt":"long"}}`:                                          "hand.bolt",
		`{"request":{` + pane + `},"hand":{"bolt_mm":16,"washers":9}}`:                               "hand.washers",
		`{"request":{"display_id":"none","bracket_id":"sill-40"},"hand":{"bolt_mm":16,"washers":1}}`: "display_id",
		// How many washers is said, or nothing is judged: without them another bolt may look safe.
		`{"request":{` + pane + `},"hand":{"bolt_mm":16}}`:                          "hand.washers",
		`{"request":{` + pane + `},"hand":{"bolt_mm":16,"spacers_mm":[1,2,3,4,5]}}`: "hand.spacers_mm",
	} {
		if a := d.post("/api/stack", body); a.StatusCode != 400 || !strings.Contains(string(a.body), `"path":"`+path+`"`) {
			t.Errorf("%s: %d %s", body, a.StatusCode, a.body)
		}
	}
}

// TestPolicies: a policy is saved under a name, counts on the bench and in the
// matrix, and the defaults come back.
func TestPolicies(t *testing.T) {
	d := newDesk(t)
	type companyPolicy struct {
		Name   string
		Policy map[string]any
		Saved  []store.PolicyName
	}
	put := func(body string) answer {
		r := httptest.NewRequest(http.MethodPut, "http://localhost/api/policies", strings.NewReader(body))
		r.Header.Set("Content-Type", "application/json")
		return d.send(r)
	}
	bolts := func() string {
		return fmt.Sprint(read[map[string]any](t, d.post("/api/bench", `{`+pane+`}`), 200)["others"].([]any)[2].(map[string]any)["bolts"])
	}
	if h := read[companyPolicy](t, d.get("/api/policies"), 200); h.Name != "" || h.Policy["bolt_school"] != "balanced" || len(h.Saved) != 0 {
		t.Errorf("%+v", h)
	}
	before := bolts()
	if h := read[companyPolicy](t, put(`{"name":"Deep ones","policy":{"bolt_school":"deep","reveal":"1/2 in"}}`), 200); h.Name != "Deep ones" ||
		h.Policy["bolt_school"] != "deep" || h.Policy["reveal_mm"] != 12.7 || h.Policy["max_washers"] != 3.0 {
		t.Errorf("%+v", h)
	}
	if after := bolts(); after == before || after != "M6×16, M6×30" {
		t.Errorf("under deep %s, before %s", after, before)
	}
	// what the request says counts more.
	b := read[map[string]any](t, d.post("/api/bench", `{`+pane+`,"policy":{"bolt_school":"shallow"}}`), 200)
	stack := b["pairing"].(map[string]any)["stack"].(map[string]any)
	if got := stack["groups"].([]any)[0].(map[string]any)["bolt"].(map[string]any)["length_mm"]; got != 12.0 {
		t.Error(got)
	}
	// A saved pairing keeps the policy it was judged by.
	read[SavedPairing](t, d.post("/api/pairings", `{`+pane+`}`), 201)
	read[companyPolicy](t, put(`{"name":"Shallow ones","policy":{"bolt_school":"shallow"}}`), 200)
	if q := read[map[string]any](t, d.get("/api/pairings/1"),
		200)["request"].(map[string]any)["policy"].(map[string]any); q["bolt_school"] != "deep" {
		t.Error(q)
	}
	if h := read[companyPolicy](t, d.post("/api/policies/use", `{"name":"Deep ones"}`), 200); h.Name != "Deep ones" || len(h.Saved) != 2 {
		t.Errorf("%+v", h)
	}
	if h := read[companyPolicy](t, d.post("/api/policies/use", `{"name":""}`), 200); h.Name != "" || bolts() != before {
		t.Errorf("%+v", h)
	}
	// Changes are of the one that is in use.
	read[companyPolicy](t, d.post("/api/policies/use", `{"name":"Deep ones"}`), 200)
	changes := `{"name":"Deeper","units":"in","changes":[{"path":"policy.reveal_mm","to":"1/4"},{"path":"policy.max_washers","to":"2"}]}`
	if h := read[companyPolicy](t, put(changes), 200); h.Policy["bolt_school"] != "deep" || h.Policy["reveal_mm"] != 6.35 ||
		h.Policy["max_washers"] != 2.0 {
		t.Errorf("%+v", h)
	}
	if h := read[companyPolicy](t, put(`{"name":"The same","changes":[]}`), 200); h.Name != "The same" || h.Policy["reveal_mm"] != 6.35 {
		t.Errorf("%+v", h)
	}
	if h := read[companyPolicy](t, put(`{"name":"One more","changes":[{"path":"policy.max_washers","to":null}]}`), 200); h.Policy["max_washers"] != 3.0 {
		t.Errorf("%+v", h)
	}
	read[companyPolicy](t, d.post("/api/policies/use", `{"name":""}`), 200)
	for body, path := range map[string]string{`{"name":"x"}`: "policy",
		`{"name":"x","changes":[{"path":"policy.max_washers","to":"many"}]}`: "policy.max_washers",
		`{"name":"x","changes":[{"path":"policy.max_washers","to":" "}]}`:    "policy.max_washers",
		`{"name":"x","changes":[{"path":"name","to":"y"}]}`:                  "name",
		`{"name":" ","policy":{}}`:                                           "name",
		`{"name":"x","policy":{"max_washers":0}}`:                            "policy.max_washers",
		`{"name":"x","policy":{"reveal":"5//8"}}`:                            "policy.reveal"} {
		if a := put(body); a.StatusCode != 400 || !strings.Contains(string(a.body), `"path":"`+path+`"`) {
			t.Errorf("%s: %d %s", body, a.StatusCode, a.body)
		}
	}
	if a := d.post("/api/policies/use", `{"name":"none"}`); a.StatusCode != 404 {
		t.Error(a.StatusCode)
	}
	if h := read[companyPolicy](t, d.get("/api/policies"), 200); h.Name != "" {
		t.Error("a name that is not there took the policy away")
	}
}

// demoJobs is how many jobs the demo has.
func demoJobs(t *testing.T) int {
	t.Helper()
	c, err := demo.Contents()
	if err != nil {
		t.Fatal(err)
	}
	return len(c.Jobs)
}

// demoDisplays is how many displays the demo has.
func demoDisplays(t *testing.T) int {
	t.Helper()
	c, err := demo.Contents()
	if err != nil {
		t.Fatal(err)
	}
	return len(c.Displays)
}
