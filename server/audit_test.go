package server

import (
	"encoding/csv"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"nexufix/app/people"
)

// TestAuditByPages: an administrator reads all of it a page at a time, of the kind that is looked for, and takes it away as a table or as
// lines; nobody else does. What a reader does hides nothing.
func TestAuditByPages(t *testing.T) {
	d := withPeople(t)
	admin, _ := d.signIn("administrator1", "seven loaves on a rail")
	reader, _ := d.signIn("reader1", "seven loaves on a rail")
	d.as(admin, http.MethodPost, "/api/people/2", `{"role": "reader"}`)
	for range 300 {
		if err := people.RecordExport(t.Context(), d.srv.store, people.Person{ID: 1, Name: "=cmd()"}, "a lot"); err != nil {
			t.Fatal(err)
		}
	}
	var all, pages int
	for before := int64(0); ; pages++ {
		p := read[people.AuditPage](t, d.as(admin, http.MethodGet, fmt.Sprintf("/api/audit?before=%d", before), ""), 200)
		all += len(p.Entries)
		if before = p.Entries[len(p.Entries)-1].Seq; !p.More {
			break
		}
	}
	if all != 307 || pages != 1 { // four added, two signed in, one changed
		t.Errorf("%d entries on %d pages", all, pages+1)
	}
	changed := read[people.AuditPage](t, d.as(admin, http.MethodGet, "/api/audit?kind=people&words=engineer1", ""), 200)
	if len(changed.Entries) != 2 || changed.Entries[0].About != "engineer1: role reader" {
		t.Errorf("%+v", changed)
	}
	table := d.as(admin, http.MethodGet, "/api/audit/export?kind=exports&format=csv", "")
	rows, err := csv.NewReader(strings.NewReader(string(table.body))).ReadAll()
	if err != nil || len(rows) != 302 || rows[2][2] != "'=cmd()" || rows[1][4] != "the audit" {
		t.Errorf("%d rows, %v", len(rows), err)
	}
	lines := strings.Split(strings.TrimSpace(string(d.as(admin, http.MethodGet, "/api/audit/export", "").body)), "\n")
	var last people.AuditEntry
	if err := json.Unmarshal([]byte(lines[len(lines)-1]), &last); err != nil || last.Seq != 1 || len(last.Hash) != 64 {
		t.Errorf("%d lines, the last %+v, %v", len(lines), last, err)
	}
	for _, path := range []string{"/api/audit", "/api/audit/export"} {
		if a := d.as(reader, http.MethodGet, path, ""); a.StatusCode != http.StatusForbidden {
			t.Errorf("a reader gets %s: %d", path, a.StatusCode)
		}
		if a := d.as(admin, http.MethodGet, path+"?kind=x&before=-1&format=xml", ""); a.StatusCode != 400 ||
			strings.Count(string(a.body), `"path"`) != 3 {
			t.Errorf("%d %s", a.StatusCode, a.body)
		}
	}
}

// TestNobodySaysEndlessly: what is kept for ever is taken from one person at a pace at which people write.
func TestNobodySaysEndlessly(t *testing.T) {
	d := withPeople(t)
	engineer, _ := d.signIn("engineer1", "seven loaves on a rail")
	d.as(engineer, http.MethodPost, "/api/approvals", `{"subject": {"job": "mill-lane-counter"}}`)
	taken := 0
	for range 120 {
		if d.as(engineer, http.MethodPost, "/api/approvals/1/comments", `{"text": "well"}`).StatusCode == http.StatusNoContent {
			taken++
		}
	}
	if taken != 100 {
		t.Errorf("%d remarks at once", taken)
	}
	if other, _ := d.signIn("approver1", "seven loaves on a rail"); d.as(other, http.MethodPost, "/api/approvals/1/comments",
		`{"text": "well"}`).StatusCode != http.StatusNoContent {
		t.Error("another says nothing")
	}
}
