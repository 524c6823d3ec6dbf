package server

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"sync/atomic"
	"testing"

	"nexufix/app/imports"
	"nexufix/core/catalog"
	"nexufix/server/api"
	"nexufix/server/catalogue"
	"nexufix/store"
)

// TestManyWriters: fifty people save at once, while a large file is taken and
// others read. Nobody gets an error of the server's, and all that was acknowledged
// is there.
func TestManyWriters(t *testing.T) {
	d := newDesk(t)
	var doc strings.Builder
	doc.WriteString("id,model,mass_kg\n")
	for i := range times(500, 20_000) {
		fmt.Fprintf(&doc, "mass-%d,Mass %d,%d\n", i, i, 1+i%40)
	}
	file := read[imports.File](t, d.open("large.csv", []byte(doc.String())), 200)
	var all sync.WaitGroup
	var saved atomic.Int64
	failed := func(what string, a answer) {
		if a.StatusCode >= 500 {
			t.Errorf("%s: %d %s", what, a.StatusCode, a.body)
		}
	}
	all.Go(func() {
		failed("take", d.request(http.MethodPost, "/api/files/"+file.ID+"/commit", "application/json", nil))
	})
	for person := range 50 {
		all.Go(func() {
			for n := range 4 {
				id := fmt.Sprintf("p%d-%d", person, n)
				raw, err := json.Marshal(catalogue.ItemToSave{Display: &catalog.Display{ID: id, Model: "Of " + id}})
				if err != nil {
					t.Error(err)
				}
				a := d.request(http.MethodPut, "/api/items/displays/"+id, "application/json", raw)
				failed("save", a)
				if a.StatusCode == 201 {
					saved.Add(1)
				}
				failed("read", d.get("/api/displays?q="+id))
			}
		})
	}
	all.Wait()
	if saved.Load() != 200 {
		t.Errorf("%d of 200 were saved", saved.Load())
	}
	c, err := d.srv.store.Catalogue(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	for person := range 50 {
		for n := range 4 {
			if c.Display(fmt.Sprintf("p%d-%d", person, n)) == nil {
				t.Fatalf("p%d-%d was acknowledged and is not there", person, n)
			}
		}
	}
}

// TestBusyComesAgain: what another program holds for too long is no failure.
func TestBusyComesAgain(t *testing.T) {
	if p := api.Describe(fmt.Errorf("saving: %w", store.ErrBusy)); p.Status != http.StatusServiceUnavailable {
		t.Errorf("%+v", p)
	}
	if p := api.Describe(fmt.Errorf("reading: %w", context.Canceled)); p.Status >= 500 {
		t.Errorf("a client that has left is %+v", p)
	}
}

// TestHosts: a server answers under what its socket is bound to and the names it
// was given, and not under any other, however its address was written.
func TestHosts(t *testing.T) {
	for _, c := range []struct {
		hosts Hosts
		host  string
		ok    bool
	}{
		{Hosts{Loopback: true}, "127.0.0.1:8460", true}, {Hosts{Loopback: true}, "localhost", true}, {Hosts{Loopback: true}, "[::1]:8460", true},
		{Hosts{Loopback: true}, "evil.example", false}, {Hosts{Loopback: true}, "192.168.1.7:8460", false}, {Hosts{Loopback: true},
			"localhost.evil.example", false}, {Hosts{Loopback: true}, "", false},
		{Hosts{Loopback: true, Names: []string{"desk.example"}}, "DESK.example:8460", true},
		{Hosts{}, "192.168.1.7:8460", true}, {Hosts{}, "evil.example", false}, {Hosts{Names: []string{"desk.example"}}, "desk.example", true},
	} {
		if got := c.hosts.allow(c.host); got != c.ok {
			t.Errorf("%+v, %q: %v", c.hosts, c.host, got)
		}
	}
	d := newDesk(t)
	for site, status := range map[string]int{"cross-site": 403, "same-origin": 200, "none": 200, "": 200} {
		r := httptest.NewRequest(http.MethodGet, "http://127.0.0.1:8460/api/export", nil)
		if site != "" {
			r.Header.Set("Sec-Fetch-Site", site)
		}
		if a := d.send(r); a.StatusCode != status {
			t.Errorf("from %q: %d", site, a.StatusCode)
		}
	}
}
