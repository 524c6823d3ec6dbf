package server

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"testing"

	"nexufix/app/bench"
	"nexufix/app/review"
	"nexufix/core/catalog"
	"nexufix/exchange"
	"nexufix/server/catalogue"
	"nexufix/store"
)

// TestJobsAreListed: the list says of every job what the bench says of it, with its wall, who wrote it last and when; it is searched,
// narrowed and sorted, a page at a time, and saved pairings are on it.
func TestJobsAreListed(t *testing.T) {
	d := newDesk(t)
	read[SavedPairing](t, d.post("/api/pairings", `{`+pane+`}`), 201)
	list := func(query string) []review.JobLine {
		return read[[]review.JobLine](t, d.get("/api/jobs?limit=1000&"+query), 200)
	}
	all := list("")
	noWall := read[bench.SavedItem](t, d.request("PUT", "/api/items/jobs/no-wall-yet", "application/json",
		[]byte(`{"revision":0,"job":{"id":"no-wall-yet","display":"velmora-pane-49","bracket":"sill-40","accessories_kg":30}}`)), 201)
	all = append(all, list("q="+noWall.Job.ID)...)
	verdicts := map[string]int{}
	for _, j := range all {
		verdicts[j.Verdict]++
		if j.Kind == "pairing" {
			continue
		}
		said := read[struct{ Said bench.Said }](t, d.post("/api/bench", fmt.Sprintf(`{"job_id":%q}`, j.ID)), 200).Said
		if j.Verdict != said.Verdict || said.OnWall == (j.ID == noWall.Job.ID) {
			t.Errorf("%s: %s, the bench says %+v", j.ID, j.Verdict, said)
		}
		if j.State != "none" || j.At == "" {
			t.Errorf("%+v", j)
		}
	}
	if len(verdicts) < 3 || verdicts[""] > 0 {
		t.Errorf("verdicts %v", verdicts)
	}
	for verdict, n := range verdicts {
		if got := list("verdict=" + verdict); len(got) != n {
			t.Errorf("%s: %d, not %d", verdict, len(got), n)
		}
	}
	if got := list("kind=pairing"); len(got) != 1 || got[0].Name != "Velmora Pane 49 on Sill 40" {
		t.Errorf("pairings: %+v", got)
	}
	for words, want := range map[string]string{"ML-114": "mill-lane-counter", "MENU boards": "mill-lane-menu-boards",
		"signal box RM-2026-7":             "signal-box-exhibit",
		"skerry lantern 65 trestle museum": "signal-box-exhibit"} {
		if got := list("kind=job&q=" + url.QueryEscape(words)); len(got) != 1 || got[0].ID != want {
			t.Errorf("%q: %+v", words, got)
		}
	}
	if got := list("state=in_review"); len(got) != 0 {
		t.Errorf("in review: %+v", got)
	}
	// A title changes what it is called, and nothing that was judged or printed.
	before := read[bench.SavedItem](t, d.get("/api/items/jobs/till-wanted-tilt"), 200)
	mark := exchange.Fingerprint(nil, nil, catalog.DefaultPolicy(), 0, before.Job)
	named := read[bench.SavedItem](t, d.request("PUT", "/api/items/jobs/till-wanted-tilt", "application/json",
		[]byte(`{"revision":1,"changes":[{"path":"job.title","to":"Till by the door"},{"path":"job.reference","to":"WS-3"}]}`)), 200)
	if named.Job.Title != "Till by the door" || exchange.Fingerprint(nil, nil, catalog.DefaultPolicy(), 0, named.Job) != mark {
		t.Errorf("named: %+v", named.Job)
	}
	latest := list("sort=changed&kind=job")
	if latest[0].ID != "till-wanted-tilt" || latest[0].Name != "Till by the door" || latest[0].Reference != "WS-3" {
		t.Errorf("changed last: %+v", latest[0])
	}
	names := []string{}
	for _, j := range list("sort=name") {
		names = append(names, strings.ToLower(j.Name))
	}
	if !slices.IsSorted(names) {
		t.Errorf("by name: %v", names)
	}
	worst := list("sort=verdict")
	if worst[0].Verdict != "does_not_fit" || worst[len(worst)-1].Verdict != "fits" {
		t.Errorf("the worst first: %s … %s", worst[0].Verdict, worst[len(worst)-1].Verdict)
	}
	page := d.get("/api/jobs?limit=3&offset=3&sort=name&kind=job")
	if h := page.Header; h.Get("Total-Count") != fmt.Sprint(len(all)-1) ||
		!strings.Contains(h.Get("Link"), "kind=job&limit=3&offset=6&sort=name") {
		t.Errorf("a page: %v", page.Header)
	}
	if got := read[[]review.JobLine](t, page, 200); len(got) != 3 {
		t.Errorf("a page has %d", len(got))
	}
}

// TestHistoryByPages: a history is read a page at a time, each revision beside the one before it also at the edge of
// a page, and that of everything is found by words.
func TestHistoryByPages(t *testing.T) {
	d := newDesk(t)
	put := func(id string, mass, revision int, why string) {
		body := fmt.Sprintf(`{"revision":%d,"why":%q,"display":{"id":%q,"maker":"Velmora","model":"Pane","mass_kg":%d}}`, revision, why, id, mass)
		if a := d.request(http.MethodPut, "/api/items/displays/"+id, "application/json", []byte(body)); a.StatusCode/100 != 2 {
			t.Fatalf("%d %s", a.StatusCode, a.body)
		}
	}
	for n := range 3 {
		put("paged", 10+n, n, fmt.Sprintf("weighed %d", n))
	}
	page := func(query, total string) []catalogue.Edition {
		t.Helper()
		a := d.get("/api/history?" + query)
		if got := a.Header.Get("Total-Count"); got != total {
			t.Errorf("%s: %s in all, %s expected", query, got, total)
		}
		return read[[]catalogue.Edition](t, a, 200)
	}
	for n := range 3 {
		got := page(fmt.Sprintf("kind=displays&id=paged&limit=1&offset=%d", n), "3")
		if len(got) != 1 || got[0].Number != 3-n || (len(got[0].Changes) == 1) != (n < 2) {
			t.Errorf("page %d: %+v", n, got)
		}
	}
	if got := page("q=paged+WEIGHED&limit=2", "3"); len(got) != 2 || got[0].Why != "weighed 2" || got[1].Why != "weighed 1" {
		t.Errorf("by words: %+v", got)
	}
	if got := page("q=paged+weighed&limit=2&offset=2", "3"); len(got) != 1 || got[0].Why != "weighed 0" {
		t.Errorf("by words, the rest: %+v", got)
	}
	page("q=paged+wayed", "0")
	// In any letters, not those of ASCII alone.
	put("paged", 20, 3, "Überprüft")
	page("q=ÜBERPRÜFT", "1")
	page("q=überprüft", "1")
	// If nothing is said there are 200 of it, and the next are told.
	displays := make([]string, 200)
	for n := range displays {
		displays[n] = fmt.Sprintf(`{"id":"many-%d","maker":"Velmora","model":"Many %d"}`, n, n)
	}
	read[store.Imported](t, d.post("/api/import", `{"format":"nexufix/1","displays":[`+strings.Join(displays, ",")+`]}`), 200)
	a := d.get("/api/history")
	if got := read[[]catalogue.Edition](t, a, 200); len(got) != 200 || !strings.Contains(a.Header.Get("Link"), "limit=200&offset=200") {
		t.Errorf("%d of a history, %s", len(got), a.Header.Get("Link"))
	}
	for limit, want := range map[string]int{"0": 400, "1": 200, "1000": 200, "1001": 400} {
		if a := d.get("/api/history?limit=" + limit); a.StatusCode != want {
			t.Errorf("limit %s: %d", limit, a.StatusCode)
		}
	}
}
