package server

import (
	"encoding/json"
	"net/http/httptest"
	"os"
	"regexp"
	"strings"
	"testing"
)

// TestListsInPages: a program that walks a list by the links of its answers gets every entry, each once.
func TestListsInPages(t *testing.T) {
	d := newDesk(t)
	for _, list := range []string{"/api/displays", "/api/brackets"} {
		seen := map[string]bool{}
		total, pages := "", 0
		for at := list + "?limit=4"; at != ""; pages++ {
			a := d.get(at)
			var page []struct{ ID string }
			if err := json.Unmarshal(a.body, &page); err != nil || len(page) == 0 || len(page) > 4 || pages > 100 {
				t.Fatalf("%s: %v, %d entries", at, err, len(page))
			}
			for _, e := range page {
				if seen[e.ID] {
					t.Errorf("%s has %s again", at, e.ID)
				}
				seen[e.ID] = true
			}
			total, at = a.Header.Get("Total-Count"), ""
			if link := regexp.MustCompile(`^<(.+)>; rel="next"$`).FindStringSubmatch(a.Header.Get("Link")); link != nil {
				at = link[1]
			}
		}
		raw, _ := json.Marshal(len(seen))
		if total != string(raw) || pages < 2 {
			t.Errorf("%s says %s entries, and has %s on %d pages", list, total, raw, pages)
		}
	}
	for limit, want := range map[string]int{"0": 400, "1": 200, "1000": 200, "1001": 400} {
		if a := d.get("/api/displays?limit=" + limit); a.StatusCode != want {
			t.Errorf("pages of %s: %d, want %d", limit, a.StatusCode, want)
		}
	}
	if a := d.get("/api/displays?offset=999"); a.StatusCode != 200 || strings.TrimSpace(string(a.body)) != "[]" {
		t.Errorf("behind the end: %d %s", a.StatusCode, a.body)
	}
}

// TestWhatIsNotThere: an address that is no view is not found, for monitors and crawlers too; one that is a view is.
func TestWhatIsNotThere(t *testing.T) {
	d := newDesk(t)
	for _, path := range []string{"/livez", "/robots.txt", "/docs", "/help", "/api", "/LICENSE", "/favicon.ico", "/wallx"} {
		if a := d.get(path); a.StatusCode != 404 {
			t.Errorf("%s: %d", path, a.StatusCode)
		}
	}
	routes, err := os.ReadFile("../web/src/shell/App.tsx")
	if err != nil {
		t.Fatal(err)
	}
	found := regexp.MustCompile(`<Route path="(/[^"]*)"`).FindAllSubmatch(routes, -1)
	if len(found) < 10 {
		t.Fatalf("%d routes of the page were found", len(found))
	}
	for _, route := range found {
		path := strings.NewReplacer("/*", "", ":id", "1", ":key", "k").Replace(string(route[1]))
		if a := d.get(path); a.StatusCode != 200 {
			t.Errorf("%s is a view: %d", path, a.StatusCode)
		}
	}
}

// TestTablesAreMarked: an office that opens a table as CSV knows that it is UTF-8 by its mark.
func TestTablesAreMarked(t *testing.T) {
	d := newDesk(t)
	for _, path := range []string{"/api/export/displays", "/api/export/brackets", "/api/matrix.csv"} {
		if a := d.send(httptest.NewRequest("GET", "http://127.0.0.1:8460"+path, nil)); !strings.HasPrefix(string(a.body), "\ufeff") {
			t.Errorf("%s begins with %.10q", path, a.body)
		}
	}
}

// TestExamplesOfThePage: what docs/api.md asks, it gets.
func TestExamplesOfThePage(t *testing.T) {
	page, err := os.ReadFile("../docs/api.md")
	if err != nil {
		t.Fatal(err)
	}
	d := newDesk(t)
	example := regexp.MustCompile(`(?s)curl (?:-X (\w+) )?[^\n]*?http://127\.0\.0\.1:8460([^ \n]+)(?: -d '(.*?)')?\n`)
	examples := example.FindAllStringSubmatch(string(page), -1)
	if len(examples) != 5 {
		t.Fatalf("%d examples", len(examples))
	}
	for _, e := range examples {
		method := e[1]
		switch {
		case method == "" && e[3] != "":
			method = "POST"
		case method == "":
			method = "GET"
		}
		if a := d.request(method, e[2], "application/json", []byte(e[3])); a.StatusCode != 200 {
			t.Errorf("%s %s: %d %s", method, e[2], a.StatusCode, a.body)
		}
	}
}
