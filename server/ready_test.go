package server

import (
	"bytes"
	"database/sql"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"sync/atomic"
	"testing"

	"nexufix/app/bench"
	"nexufix/app/imports"
	"nexufix/app/review"
	"nexufix/core/catalog"
	"nexufix/demo"
	"nexufix/exchange"
	"nexufix/server/catalogue"
)

// TestSetAsideIsShown: a document that cannot be read is listed with its text and
// its reason, and nothing else fails for it; taken out, all is well again.
func TestSetAsideIsShown(t *testing.T) {
	d := newDesk(t)
	whole := d.get("/api/export").body
	if r := read[Ready](t, d.get("/readyz"), 200); !r.Ready || r.SetAside != 0 {
		t.Errorf("%+v", r)
	}
	db, err := sql.Open("sqlite", d.file)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	const doc = `{"id":"old-one","colour":"red"}`
	if _, err := db.Exec(`INSERT INTO item VALUES ('display', 'old-one', '', ?, 4)`, doc); err != nil {
		t.Fatal(err)
	}
	if !bytes.Equal(d.get("/api/export").body, whole) {
		t.Error("the export is another")
	}
	list := read[[]catalogue.SetAside](t, d.get("/api/unreadable"), 200)
	if len(list) != 1 || list[0].Text != doc || !strings.Contains(list[0].Why, "colour") || list[0].Revision != 4 {
		t.Fatalf("%+v", list)
	}
	if r := read[Ready](t, d.get("/readyz"), 200); !r.Ready || r.SetAside != 1 {
		t.Errorf("%+v", r)
	}
	if a := d.get("/api/items/displays/old-one"); a.StatusCode != http.StatusUnprocessableEntity {
		t.Errorf("%d %s", a.StatusCode, a.body)
	}
	if a := d.get("/healthz"); a.StatusCode != 200 || string(a.body) != "ok\n" {
		t.Errorf("%d %s", a.StatusCode, a.body)
	}
	if a := d.request(http.MethodDelete, "/api/items/displays/old-one?revision=4", "", nil); a.StatusCode != http.StatusNoContent {
		t.Errorf("%d %s", a.StatusCode, a.body)
	}
	if list := read[[]catalogue.SetAside](t, d.get("/api/unreadable"), 200); len(list) != 0 {
		t.Errorf("%+v", list)
	}
}

// TestAllMerges: every two displays of the demo can be merged either way, and
// what comes of it can be read.
func TestAllMerges(t *testing.T) {
	c, err := demo.Contents()
	if err != nil {
		t.Fatal(err)
	}
	long := *c.Displays[0]
	long.ID, long.Maker, long.Model = "long", strings.Repeat("m", catalog.MaxName), strings.Repeat("n", catalog.MaxName)
	bare := catalog.Display{ID: "bare", Model: "Bare", Origin: catalog.Bench}
	all := append(c.Displays, &long, &bare)
	for _, a := range all {
		for _, b := range all {
			if a == b {
				continue
			}
			m := exchange.Contents{Displays: nil}
			both, err := imports.Merged(a, b)
			if err != nil {
				t.Fatal(err)
			}
			m.Displays = append(m.Displays, both)
			figures, err := exchange.Figures(b)
			if err != nil {
				t.Fatal(err)
			}
			for _, path := range figures { // what came from b is no better known than it was there
				if strings.HasPrefix(path, "patterns[") && len(a.Patterns) == 0 && both.OriginOf(path) != b.OriginOf(path) {
					t.Errorf("%s with %s: %s is from %v, was from %v", a.ID, b.ID, path, both.OriginOf(path), b.OriginOf(path))
				}
			}
			raw, err := exchange.Write(&m)
			if err != nil {
				t.Fatal(err)
			}
			if _, err := exchange.Read(raw); err != nil {
				t.Errorf("%s with %s: %v", a.ID, b.ID, err)
			}
		}
	}
}

// TestWhoIsRefused: a name that cannot be shown changes nothing, in a document
// least of all.
func TestWhoIsRefused(t *testing.T) {
	d := newDesk(t)
	before := d.get("/api/export").body
	jobs := read[[]review.JobLine](t, d.get("/api/jobs"), 200)
	ask, err := json.Marshal(map[string]any{"job": jobs[0].ID, "bar_mm": 100, "measured_mm": 100, "paper": "a4"})
	if err != nil {
		t.Fatal(err)
	}
	for _, who := range []string{url.QueryEscape("Ada\u0007"), "%zz\u0007", url.QueryEscape(strings.Repeat("x", 81))} {
		r := httptest.NewRequest(http.MethodPost, "http://127.0.0.1:8460/api/prints", bytes.NewReader(ask))
		r.Header.Set("Content-Type", "application/json")
		r.Header["Nexufix-Who"] = []string{who}
		if a := d.send(r); a.StatusCode != 400 {
			t.Errorf("%q: %d %s", who, a.StatusCode, a.body)
		}
	}
	if !bytes.Equal(before, d.get("/api/export").body) {
		t.Error("something was written")
	}
}

// TestTooLittleToWrite: a mass that would be written as 0 is refused, wherever it
// comes from, and nothing is saved.
func TestTooLittleToWrite(t *testing.T) {
	d := newDesk(t)
	before := d.get("/api/export").body
	for name, a := range map[string]answer{
		"a document": d.request(http.MethodPost, "/api/import", "application/json", []byte(`{"format":"nexufix/1",
			"displays":[{"id":"feather","mass_kg":0.0000004}]}`)),
		"as a text": d.request(http.MethodPost, "/api/import", "application/json", []byte(`{"format":"nexufix/1",
			"displays":[{"id":"feather","mass":"0.4 mg"}]}`)),
		"an item": d.request(http.MethodPut, "/api/items/displays/feather", "application/json", []byte(`{"revision":0,
			"display":{"id":"feather","mass_kg":0.0000004}}`)),
	} {
		if a.StatusCode != 400 {
			t.Errorf("%s: %d %s", name, a.StatusCode, a.body)
		}
	}
	f := read[imports.File](t, d.open("feather.csv", []byte("id,model,mass_kg\nfeather,Feather,0.0000004\n")), 200)
	if f.Counts.Wrong != 1 {
		t.Errorf("a table: %+v", f.Counts)
	}
	if !bytes.Equal(before, d.get("/api/export").body) {
		t.Error("something was written")
	}
	// An origin of a figure that was given as a text goes by the figure's name.
	a := d.request(http.MethodPost, "/api/import", "application/json", []byte(`{"format":"nexufix/1","displays":[{"id":"wide",
		"width":"48 in","origins":{"width":"bench"}}]}`))
	if a.StatusCode != 200 {
		t.Fatalf("%d %s", a.StatusCode, a.body)
	}
	if k := read[bench.SavedItem](t, d.get("/api/items/displays/wide"), 200); k.Display.Origins["width_mm"] != catalog.Bench {
		t.Errorf("%+v", k.Display)
	}
}

// TestSearchHasAnEnd: what is searched for is no longer than a name.
func TestSearchHasAnEnd(t *testing.T) {
	d := newDesk(t)
	for _, path := range []string{"/api/displays?q=", "/api/brackets?q="} {
		if a := d.get(path + strings.Repeat("a", 200)); a.StatusCode != 200 {
			t.Errorf("%d %s", a.StatusCode, a.body)
		}
		if a := d.get(path + strings.Repeat("a", 201)); a.StatusCode != 400 || !strings.Contains(string(a.body), "at most 200") {
			t.Errorf("%d %s", a.StatusCode, a.body)
		}
	}
}

// TestTakenOnce: of many who take the same file at once one does, and the others
// are told so; those who look at its columns meanwhile see it whole.
func TestTakenOnce(t *testing.T) {
	d := newDesk(t)
	f := read[imports.File](t, d.open("new.csv", []byte("id,model,mass_kg\nfresh,Fresh,7\n")), 200)
	layout, err := json.Marshal(imports.FileLayout{Sheets: f.Sheets})
	if err != nil {
		t.Fatal(err)
	}
	var all sync.WaitGroup
	var took, refused atomic.Int64
	for n := range 8 {
		all.Go(func() {
			switch a := d.request(http.MethodPost, "/api/files/"+f.ID+"/commit", "application/json", nil); a.StatusCode {
			case 200:
				took.Add(1)
			case http.StatusConflict:
				refused.Add(1)
			}
		})
		if n >= 5 {
			continue // more looks would push the file off the tray
		}
		all.Go(func() {
			if a := d.request(http.MethodPost, "/api/files/"+f.ID+"/layout", "application/json", layout); a.StatusCode != 200 {
				t.Errorf("%d %s", a.StatusCode, a.body)
			}
		})
	}
	all.Wait()
	if took.Load() != 1 || refused.Load() != 7 {
		t.Errorf("%d took it, %d were refused", took.Load(), refused.Load())
	}
}

// TestMetrics: what an operator watches is there, by operation, and hostile
// requests do not make ever more of it.
func TestMetrics(t *testing.T) {
	d := newDesk(t)
	d.get("/api/displays?q=pane")
	d.get("/api/items/displays/nobody")
	for i := range 20 {
		d.get(fmt.Sprintf("/no/such/%d", i))
		r := httptest.NewRequest(http.MethodGet, "http://127.0.0.1:8460/api/displays", nil)
		r.Method = fmt.Sprintf("BREW%d", i)
		d.send(r)
	}
	text := string(d.get("/metrics").body)
	for _, want := range []string{
		`nexufix_requests_total{method="GET",path="/api/displays",status="200"} 1`,
		`nexufix_requests_total{method="GET",path="/api/items/:kind/:id",status="404"} 1`,
		"nexufix_heavy_waiting 0", "nexufix_request_seconds_count", "process_resident_memory_bytes", "go_goroutines",
	} {
		if !strings.Contains(text, want) {
			t.Errorf("there is no %s", want)
		}
	}
	if n := strings.Count(text, "nexufix_requests_total{"); n > 12 {
		t.Errorf("%d series of requests", n)
	}
}
