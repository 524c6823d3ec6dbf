package server

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"net/url"
	"path/filepath"
	"strings"
	"testing"

	"nexufix/app/imports"
	"nexufix/app/review"
	"nexufix/exchange"
	"nexufix/server/catalogue"
	"nexufix/store"
)

var long = flag.Bool("long", false, "the long form of the tests that try many things: make soak")

// times is how often something is tried: in short, and in the long form.
func times(short, whole int) int {
	if *long {
		return whole
	}
	return short
}

// random is a desk at which anything is done in any order.
type random struct {
	*desk
	*rand.Rand
	done map[string]int // by what was done and how it was answered
}

func pick[T any](r *random, list []T) T { return list[r.IntN(len(list))] }

// odd are texts that people and programs come up with.
var odd = []string{"Pane", "  ", "Ложка 7", "書見 42", "a\u0007b", "=1+1", "😀 43", strings.Repeat("long ", 40), "\u202eright", "e\u0301",
	"0", "<b>&amp;", `"quoted"`, "\ufffe"}

// figures are numbers at the edges of what is allowed, and beyond.
var figures = []string{"0", "-1", "0.0000004", "0.000001", "500", "1e400", "99999", "null", "1.5e2", "12.3456789", `"48 in"`, "true"}

// TestRandomOperations: whatever is done, in whatever order, the state can be
// exported, imported into an empty database, and is equal; nothing fails on the
// server's side.
func TestRandomOperations(t *testing.T) {
	const seed = 11
	r := &random{newDesk(t), rand.New(rand.NewPCG(seed, seed)), map[string]int{}}
	all := times(600, 20_000)
	for n := range all {
		what, a := r.operate(n)
		r.done[fmt.Sprintf("%s %d", what, a.StatusCode)]++
		if a.StatusCode >= 500 {
			t.Fatalf("operation %d, %s: %d %s", n, what, a.StatusCode, a.body)
		}
		if n%times(20, 50) == 0 || n == all-1 {
			r.comesBack(n, what)
		}
	}
	for what, least := range map[string]int{"edit 200": all / 50, "import 200": all / 100, "merge 200": all / 100, "undo 200": all / 200,
		"print 200": all / 50, "policy 200": all / 50, "rename 200": all / 100, "edit 400": all / 50, "take 200": all / 100,
		"restore 200": all / 200} {
		if r.done[what] < least {
			t.Errorf("%s only %d times: %v", what, r.done[what], r.done)
		}
	}
}

// comesBack: the catalogue as it is goes through an empty database unchanged.
func (r *random) comesBack(n int, what string) {
	r.t.Helper()
	raw := r.get("/api/export").body
	c, err := exchange.Read(raw)
	if err != nil {
		r.t.Fatalf("operation %d, %s: what is exported cannot be read: %v", n, what, err)
	}
	if list := read[[]catalogue.SetAside](r.t, r.get("/api/unreadable"), 200); len(list) > 0 {
		r.t.Fatalf("operation %d, %s: set aside: %+v", n, what, list)
	}
	s, err := store.Open(r.t.Context(), filepath.Join(r.t.TempDir(), "empty.db"))
	if err != nil {
		r.t.Fatal(err)
	}
	defer s.Close()
	if _, err := s.Import(r.t.Context(), store.Author{Policy: true}, "", c, nil, nil); err != nil {
		r.t.Fatalf("operation %d, %s: what is exported cannot be imported: %v", n, what, err)
	}
	back, err := s.Catalogue(r.t.Context())
	if err != nil {
		r.t.Fatal(err)
	}
	again, err := exchange.Write(back)
	if err != nil {
		r.t.Fatal(err)
	}
	if back.Policy == nil { // the defaults are none
		if c.Policy != nil {
			r.t.Fatalf("operation %d, %s: the policy is gone", n, what)
		}
	}
	if !bytes.Equal(again, raw) {
		r.t.Fatalf("operation %d, %s: what was imported is not what was exported", n, what)
	}
}

// as sends JSON in somebody's name, a strange one now and then.
func (r *random) as(method, path string, body any) answer {
	raw, ok := body.([]byte)
	if !ok && body != nil {
		var err error
		if raw, err = json.Marshal(body); err != nil {
			r.t.Fatal(err)
		}
	}
	q := httptest.NewRequest(method, "http://127.0.0.1:8460"+path, bytes.NewReader(raw))
	q.Header.Set("Content-Type", "application/json")
	who := "Ada"
	if r.IntN(20) == 0 {
		who = pick(r, odd)
	}
	q.Header.Set("Nexufix-Who", url.QueryEscape(who))
	return r.send(q)
}

// operate does one thing at random, and says what.
func (r *random) operate(n int) (string, answer) {
	switch r.IntN(10) {
	case 0, 1:
		return "edit", r.edit(r.display(), func(d map[string]any) { r.spoil(d) })
	case 2:
		id := fmt.Sprintf("new-%d", r.IntN(40))
		figure := func(name string) string {
			return fmt.Sprintf("%q:%s", name, pick(r, append(figures, "500", "40", "7")))
		}
		width := pick(r, []string{"width_mm", "width", "height_mm"})
		doc := fmt.Sprintf(`{"format":"nexufix/1","displays":[{"id":%q,"model":%q,%s,%s,
			"origins":{%q:"bench"}}]}`, id, pick(r, odd[:4]), figure(width), figure("mass_kg"), width)
		return "import", r.as(http.MethodPost, "/api/import", []byte(doc))
	case 3:
		return "merge", r.as(http.MethodPost, "/api/merge", catalogue.Merging{Keep: r.display(), Gone: r.display()})
	case 4:
		batches := read[[]catalogue.BatchLine](r.t, r.get("/api/batches"), 200)
		return "undo", r.as(http.MethodPost, fmt.Sprintf("/api/batches/%d/undo", batches[r.IntN(min(4, len(batches)))].ID), nil)
	case 5:
		return "rename", r.edit(r.display(), func(d map[string]any) {
			d["model"], d["maker"] = pick(r, odd), pick(r, odd)
			d["aliases"] = []string{pick(r, odd)}
		})
	case 6:
		jobs := read[[]review.JobLine](r.t, r.get("/api/jobs"), 200)
		return "print", r.as(http.MethodPost, "/api/prints", map[string]any{"job": pick(r, jobs).ID, "bar_mm": 100,
			"measured_mm": 99 + r.Float64()*2, "paper": "a4"})
	case 7:
		return "policy", r.as(http.MethodPut, "/api/policies",
			map[string]any{"name": pick(r, odd), "policy": map[string]any{"max_washers": r.IntN(8), "reveal_mm": r.IntN(30)}})
	case 8:
		name := pick(r, odd[:6]) + ".csv"
		rows := fmt.Sprintf("id,model,mass_kg,width_mm\nnew-%d,%s,%s,%d\n", r.IntN(40), pick(r, odd[:4]),
			pick(r, []string{"3", "0.0000004", "4 lb", "n/a"}), 300+r.IntN(900))
		a := r.open(url.QueryEscape(name), []byte(rows))
		if a.StatusCode != 200 {
			return "open", a
		}
		return "take", r.as(http.MethodPost, "/api/files/"+read[imports.File](r.t, a, 200).ID+"/commit", nil)
	}
	list := read[[]catalogue.Edition](r.t, r.get("/api/history"), 200)
	return "restore", r.as(http.MethodPost, fmt.Sprintf("/api/history/%d/restore", pick(r, list).Seq), nil)
}

// display is the id of one of the catalogue.
func (r *random) display() string {
	all, err := r.srv.store.Catalogue(r.t.Context())
	if err != nil {
		r.t.Fatal(err)
	}
	if len(all.Displays) == 0 { // all were deleted
		return "none"
	}
	return pick(r, all.Displays).ID
}

// edit keeps a display with something changed.
func (r *random) edit(id string, change func(map[string]any)) answer {
	var k struct {
		Revision int            `json:"revision"`
		Display  map[string]any `json:"display"`
	}
	if err := json.Unmarshal(r.get("/api/items/displays/"+id).body, &k); err != nil {
		r.t.Fatal(err)
	}
	change(k.Display)
	return r.as(http.MethodPut, "/api/items/displays/"+id, map[string]any{"revision": k.Revision, "display": k.Display})
}

// spoil changes a figure to another, takes one away, or says where one is from.
func (r *random) spoil(d map[string]any) {
	name := pick(r, []string{"width_mm", "height_mm", "depth_mm", "mass_kg", "mass_with_stand_kg", "diagonal_mm", "cg_right_mm"})
	switch r.IntN(4) {
	case 0:
		d[name] = json.RawMessage(pick(r, figures))
	case 1:
		delete(d, name)
	case 2:
		origins, _ := d["origins"].(map[string]any)
		if origins == nil {
			origins = map[string]any{}
		}
		origins[name] = pick(r, []string{"bench", "sheet", "caller"})
		d["origins"] = origins
	default:
		d[name] = 1 + r.IntN(900)
	}
}
