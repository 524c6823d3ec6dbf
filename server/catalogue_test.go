package server

import (
	"bytes"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"testing"

	"nexufix/app/bench"
	"nexufix/app/imports"
	"nexufix/server/api"
	"nexufix/server/catalogue"
	"nexufix/server/files"
)

func (d *desk) request(method, path, kind string, body []byte) answer {
	r := httptest.NewRequest(method, "http://127.0.0.1:8460"+path, bytes.NewReader(body))
	r.Header.Set("Content-Type", kind)
	r.Header.Set("Nexufix-Who", "Ada%20Rung")
	return d.send(r)
}

func (d *desk) open(name string, raw []byte) answer {
	return d.request(http.MethodPost, "/api/files?name="+name, "application/octet-stream", raw)
}

// TestOddRowsAreNoted: figures that do not go together are noted in the preview, while another row is still wrong, too.
func TestOddRowsAreNoted(t *testing.T) {
	d := newDesk(t)
	for text, want := range map[string]int{"": 1, "Tarn,Heavy,heavy,200 x 200\n": 1} {
		list := "Maker,Model,Width,Pattern\nTarn,Metres,1.095,200 x 200\nTarn,Right,1095,200 x 200\n" + text
		f := read[imports.File](t, d.open("list.csv", []byte(list)), 200)
		noted := 0
		for _, r := range f.Rows {
			for _, n := range r.Notes {
				if r.Name != "Tarn Metres" || n.Column != -1 || !strings.Contains(n.Text, "larger than the display") {
					t.Errorf("%s: %+v", r.Name, n)
				}
				noted++
			}
		}
		if noted != want {
			t.Errorf("%d notes: %+v", noted, f.Rows)
		}
	}
}

// TestFileIsTaken: a file is looked at, its columns are put right, taken, and
// undone; what the columns mean is remembered.
func TestFileIsTaken(t *testing.T) {
	d := newDesk(t)
	before := d.get("/api/export").body
	raw, err := os.ReadFile("../exchange/tabular/testdata/exhibits.xlsx")
	if err != nil {
		t.Fatal(err)
	}
	f := read[imports.File](t, d.open("exhibits.xlsx", raw), 200)
	if f.Counts.New != 4 || f.Counts.Wrong != 0 || len(f.Sheets) != 1 || f.Sheets[0].Kind != "displays" || f.Sheets[0].Head != 3 ||
		f.Sheets[0].HeadRows != 2 {
		t.Fatalf("%+v", f)
	}
	if !bytes.Equal(before, d.get("/api/export").body) {
		t.Fatal("opening a file wrote something")
	}
	// The weights are not to be trusted: their columns are left out.
	f.Sheets[0].Columns[8].Field, f.Sheets[0].Columns[9].Field = "", ""
	layout, err := json.Marshal(imports.FileLayout{Sheets: f.Sheets})
	if err != nil {
		t.Fatal(err)
	}
	g := read[imports.File](t, d.request(http.MethodPost, "/api/files/"+f.ID+"/layout", "application/json", layout), 200)
	if g.Counts.New != 4 || g.Sheets[0].Columns[8].Field != "" || g.ID == f.ID {
		t.Fatalf("%+v", g.Sheets)
	}
	taken := d.request(http.MethodPost, "/api/files/"+g.ID+"/commit", "application/json", nil)
	lines := strings.Split(strings.TrimSpace(string(taken.body)), "\n")
	var last files.FileStep
	if err := json.Unmarshal([]byte(lines[len(lines)-1]), &last); err != nil || last.Imported == nil || last.Imported.New != 4 ||
		last.Imported.Batch == 0 {
		t.Fatalf("%s %v", taken.body, err)
	}
	k := read[bench.SavedItem](t, d.get("/api/items/displays/lokwerk-signal-24"), 200)
	if k.Revision != 1 || k.Display.Mass.Known || len(k.Display.Patterns) != 2 {
		t.Errorf("%+v", k)
	}
	again := read[imports.File](t, d.open("exhibits.xlsx", raw), 200)
	if again.Counts.Same != 4 || again.Sheets[0].Columns[8].Field != "" {
		t.Errorf("what was said of the columns is forgotten: %+v", again.Counts)
	}
	batches := read[[]catalogue.BatchLine](t, d.get("/api/batches"), 200)
	if batches[0].What != "Import of exhibits.xlsx" || batches[0].Who != "Ada Rung" || batches[0].Items != 4 {
		t.Errorf("%+v", batches[0])
	}
	read[catalogue.Undone](t, d.request(http.MethodPost, "/api/batches/"+idOf(batches[0].ID)+"/undo", "application/json", nil), 200)
	if !bytes.Equal(before, d.get("/api/export").body) {
		t.Error("undoing did not bring back what was there")
	}
	d.request(http.MethodPost, "/api/batches/"+idOf(batches[0].ID)+"/undo", "application/json", nil)
}

func idOf(n int64) string { raw, _ := json.Marshal(n); return string(raw) }

// TestFilesThatAreNotTaken: each bad file gets a message, and nothing is
// written.
func TestFilesThatAreNotTaken(t *testing.T) {
	d := newDesk(t)
	before := d.get("/api/export").body
	for name, c := range map[string]struct {
		raw    string
		status int
		says   string
	}{
		"half.xlsx": {"PK\x03\x04 and no more", 400, "damaged or cut short"},
		"x.pdf":     {"%PDF-1.7", 400, "PDF"},
		"x.json":    {`{"format":"nexufix/1","displays":[{"id":"a","width_mm":-3}]}`, 400, "displays[0].width_mm"},
		"empty.csv": {"", 400, "empty"},
	} {
		if a := d.open(name, []byte(c.raw)); a.StatusCode != c.status || !strings.Contains(string(a.body), c.says) {
			t.Errorf("%s: %d %s", name, a.StatusCode, a.body)
		}
	}
	f := read[imports.File](t, d.open("x.csv", []byte("Maker,Model,Weight (kg)\nTarn,View,heavy\nTarn,Door,3\n")), 200)
	if f.Counts.Wrong != 1 || f.Counts.New != 1 || f.Rows[0].Outcome != "wrong" || f.Rows[0].Row != 2 || f.Rows[0].Problems[0].Column != 2 {
		t.Errorf("%+v", f)
	}
	if a := d.request(http.MethodPost, "/api/files/"+f.ID+"/commit", "application/json", nil); a.StatusCode != 409 {
		t.Errorf("%d %s", a.StatusCode, a.body)
	}
	for _, path := range []string{"/api/files/99/commit", "/api/batches/99/undo", "/api/batches/x/undo", "/api/history/9999/restore"} {
		if a := d.request(http.MethodPost, path, "application/json", nil); a.StatusCode != 404 {
			t.Errorf("%s: %d", path, a.StatusCode)
		}
	}
	if a := d.request(http.MethodPost, "/api/files?name=x", "text/plain", []byte("id\nx")); a.StatusCode != 415 {
		t.Errorf("a form could send a file: %d", a.StatusCode)
	}
	if !bytes.Equal(before, d.get("/api/export").body) {
		t.Error("something was written")
	}
}

// TestKeepingAnItem: two people change one display; the second is told, and
// sees both.
func TestKeepingAnItem(t *testing.T) {
	d := newDesk(t)
	const path = "/api/items/displays/velmora-pane-49"
	k := read[bench.SavedItem](t, d.get(path), 200)
	keep := func(why string, revision int, mass string) answer {
		doc, err := json.Marshal(k.Display)
		if err != nil {
			t.Fatal(err)
		}
		doc = bytes.Replace(doc, []byte(`"mass_kg":14.2`), []byte(`"mass_kg":`+mass), 1)
		return d.request(http.MethodPut, path, "application/json",
			[]byte(`{"revision":`+idOf(int64(revision))+`,"why":"`+why+`","display":`+string(doc)+`}`))
	}
	if first := read[bench.SavedItem](t, keep("weighed", k.Revision, "14.6"), 200); first.Revision != k.Revision+1 {
		t.Errorf("%+v", first)
	}
	p := read[api.Problem](t, keep("guessed", k.Revision, "99"), 409)
	if p.Theirs == nil || p.Theirs.Who != "Ada Rung" || p.Theirs.Saved == nil || p.Theirs.Saved.Display.Mass.Value != 14_600_000_000 {
		t.Errorf("%+v", p)
	}
	bad := read[api.Problem](t, keep("wrong", k.Revision+1, "-4"), 400)
	if len(bad.Problems) != 1 || bad.Problems[0].Path != "display.mass_kg" {
		t.Errorf("%+v", bad)
	}
	history := read[[]catalogue.Edition](t, d.get("/api/history?kind=displays&id=velmora-pane-49"), 200)
	if len(history) != 2 || history[0].Why != "weighed" || len(history[0].Changes) != 1 || history[0].Changes[0].After != "14.6" {
		t.Fatalf("%+v", history)
	}
	changes := read[[]map[string]string](t, d.get("/api/compare?a="+idOf(history[1].Seq)+"&b="+idOf(history[0].Seq)), 200)
	if len(changes) != 1 || changes[0]["path"] != "mass_kg" || changes[0]["before"] != "14.2" {
		t.Errorf("%v", changes)
	}
	if r := read[bench.SavedItem](t, d.request(http.MethodPost, "/api/history/"+idOf(history[1].Seq)+"/restore", "application/json", nil),
		200); r.Revision != 3 || r.Display.Mass.Value != 14_200_000_000 {
		t.Errorf("%+v", r)
	}
	if a := d.request(http.MethodDelete, path+"?revision=1", "application/json", nil); a.StatusCode != 409 {
		t.Errorf("%d %s", a.StatusCode, a.body)
	}
	if a := d.request(http.MethodDelete, path+"?revision=3", "application/json", nil); a.StatusCode != 204 {
		t.Errorf("%d %s", a.StatusCode, a.body)
	}
	if a := d.get(path); a.StatusCode != 404 {
		t.Errorf("%d", a.StatusCode)
	}
	if r := d.get("/api/history?kind=nonsense"); r.StatusCode != 400 && r.StatusCode != 422 {
		t.Errorf("a history of nonsense: %d", r.StatusCode)
	}
	all := read[[]catalogue.Edition](t, d.get("/api/history"), 200)
	if !all[0].Removed || all[0].Kind != "display" {
		t.Errorf("%+v", all[0])
	}
	for _, path := range []string{"/api/items/jobs/x", "/api/items/displays/nope", "/api/export/jobs"} {
		if a := d.get(path); a.StatusCode != 404 {
			t.Errorf("%s: %d", path, a.StatusCode)
		}
	}
}

// TestTablesOfTheCatalogue: grid, tables and twins.
func TestTablesOfTheCatalogue(t *testing.T) {
	d := newDesk(t)
	s := read[bench.Items](t, d.get("/api/catalogue"), 200)
	if len(s.Displays) != demoDisplays(t) || len(s.Brackets) != 9 || s.Brackets[0].Parts == 0 {
		t.Errorf("%d, %d", len(s.Displays), len(s.Brackets))
	}
	for path, want := range map[string]string{"/api/export/displays": "velmora-pane-49", "/api/export/kit": "sill-40,bolt",
		"/api/export.xlsx": "PK\x03\x04"} {
		if a := d.get(path); a.StatusCode != 200 || !strings.Contains(string(a.body), want) ||
			!strings.Contains(a.Header.Get("Content-Disposition"), "attachment") {
			t.Errorf("%s: %d %.60s", path, a.StatusCode, a.body)
		}
	}
	if twins := read[[]catalogue.Alike](t, d.get("/api/duplicates"), 200); len(twins) != 0 {
		t.Errorf("%+v", twins)
	}
	// Several at once, as one batch; all of them or none.
	n := read[map[string]int](t, d.request(http.MethodPost, "/api/together", "application/json",
		[]byte(`{"ids":["velmora-pane-49","velmora-pane-55"],"maker":"Velmora Works"}`)), 200)
	if n["changed"] != 2 || n["batch"] == 0 {
		t.Errorf("%v", n)
	}
	if p := read[api.Problem](t, d.request(http.MethodPost, "/api/together", "application/json",
		[]byte(`{"ids":["velmora-pane-49","ghost"],"maker":"X"}`)), 400); p.Problems[0].Path != "ids[1]" {
		t.Errorf("%+v", p)
	}
	read[catalogue.Undone](t, d.request(http.MethodPost, "/api/batches/"+idOf(int64(n["batch"]))+"/undo", "application/json", nil), 200)
	if k := read[bench.SavedItem](t, d.get("/api/items/displays/velmora-pane-49"), 200); k.Display.Maker != "Velmora" {
		t.Errorf("%s", k.Display.Maker)
	}
	// Two that are one.
	d.post("/api/import", `{"format":"nexufix/1","displays":[{"id":"twin","maker":"Velmora","model":"Pane  49","height_mm":1,
		"origin":"caller","aliases":["VP49"]}]}`)
	if twins := read[[]catalogue.Alike](t, d.get("/api/duplicates"), 200); len(twins) != 1 {
		t.Errorf("%+v", twins)
	}
	u := read[catalogue.Undone](t, d.request(http.MethodPost, "/api/merge", "application/json",
		[]byte(`{"keep":"velmora-pane-49","gone":"twin"}`)), 200)
	if k := read[bench.SavedItem](t, d.get("/api/items/displays/velmora-pane-49"), 200); len(k.Display.Aliases) != 2 ||
		k.Display.Height.Value != 634_000_000 {
		t.Errorf("%+v", k.Display)
	}
	read[catalogue.Undone](t, d.request(http.MethodPost, "/api/batches/"+idOf(u.Batch)+"/undo", "application/json", nil), 200)
	if a := d.request(http.MethodPost, "/api/merge", "application/json",
		[]byte(`{"keep":"velmora-pane-49","gone":"velmora-pane-49"}`)); a.StatusCode != 400 {
		t.Errorf("%d", a.StatusCode)
	}
	if k := read[bench.SavedItem](t, d.get("/api/items/displays/twin"), 200); k.Display.Model != "Pane  49" {
		t.Errorf("%+v", k)
	}
	d.request(http.MethodDelete, "/api/items/displays/twin?revision=3", "application/json", nil)
	// The catalogue's workbook back into it changes nothing.
	if f := read[imports.File](t, d.open("nexufix.xlsx", d.get("/api/export.xlsx").body),
		200); f.Counts.New+f.Counts.Changed+f.Counts.Wrong != 0 {
		t.Errorf("%+v", f.Counts)
	}
	if f := read[imports.File](t, d.open("nexufix.json", d.get("/api/export").body), 200); f.Counts.Same != demoDisplays(t)+9+demoJobs(t) ||
		f.Sheets[0].Kind != "document" {
		t.Errorf("%+v", f.Counts)
	}
}
