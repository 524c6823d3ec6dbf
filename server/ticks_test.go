package server

import (
	"fmt"
	"net/http"
	"strings"
	"sync"
	"testing"

	"nexufix/server/sheets"
)

// TestTicksOfMany: twenty telephones tick steps of one job at once; none is lost, and a time that cannot be is
// refused with its path.
func TestTicksOfMany(t *testing.T) {
	d := newDesk(t)
	const at = "/at/mill-lane-counter/ticks"
	var all sync.WaitGroup
	for n := range 20 {
		all.Go(func() {
			step := string(rune('a' + n))
			if a := d.post(at, `{"ticks": [{"step": "`+step+`", "done": true}]}`); a.StatusCode != http.StatusOK {
				t.Errorf("%s: %d %s", step, a.StatusCode, a.body)
			}
		})
	}
	all.Wait()
	if got := read[sheets.Done](t, d.post(at, `{"ticks": [{"step": "a", "done": false}]}`), 200); got.Ticked != 19 {
		t.Errorf("%d are ticked", got.Ticked)
	}
	var many strings.Builder
	for n := range 282 { // with the nineteen: one more than the format has room for
		fmt.Fprintf(&many, `%s{"step": "more-%d", "done": true}`, map[bool]string{true: ", "}[n > 0], n)
	}
	if a := d.post(at, `{"ticks": [`+many.String()+`]}`); a.StatusCode != 400 {
		t.Errorf("301 are ticked: %d", a.StatusCode)
	}
	if got := read[sheets.Done](t, d.post(at, `{"ticks": [{"step": "a", "done": false}]}`), 200); got.Ticked != 19 {
		t.Errorf("after what was refused %d are ticked", got.Ticked)
	}
	for body, status := range map[string]int{`{"ticks": [{"step": "a", "done": true, "at": "tomorrow"}]}`: 400, `{"ticks": []}`: 400,
		`{"ticks": [{"step": "../a", "done": true}]}`: 400, `{"ticks": null}`: 400} {
		if a := d.post(at, body); a.StatusCode != status {
			t.Errorf("%s: %d", body, a.StatusCode)
		}
	}
	if a := d.post("/at/nowhere/ticks", `{"ticks": [{"step": "a", "done": true}]}`); a.StatusCode != http.StatusNotFound {
		t.Errorf("%d", a.StatusCode)
	}
}
