package server

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"regexp"
	"strings"
	"testing"
	"time"

	"nexufix/app"
)

// reviewed is a desk with people, with an approved job; approvals are judged again as in a server that runs.
func reviewed(t *testing.T) (d *desk, engineer, approver *http.Cookie) {
	t.Helper()
	d = withPeople(t)
	engineer, _ = d.signIn("engineer1", "seven loaves on a rail")
	approver, _ = d.signIn("approver1", "seven loaves on a rail")
	if a := d.as(engineer, http.MethodPost, "/api/approvals", `{"subject": {"job": "mill-lane-counter"}}`); a.StatusCode != http.StatusCreated {
		t.Fatalf("%d %s", a.StatusCode, a.body)
	}
	if a := d.as(approver, http.MethodPost, "/api/approvals/1/decide", `{"version": 1, "act": "approve"}`); a.StatusCode != http.StatusOK {
		t.Fatalf("%d %s", a.StatusCode, a.body)
	}
	ctx, stop := context.WithCancel(t.Context())
	ended := make(chan struct{})
	go func() {
		defer close(ended)
		d.srv.reviews.Run(ctx)
	}()
	t.Cleanup(func() { stop(); <-ended })
	return d, engineer, approver
}

func (d *desk) review(cookie *http.Cookie) app.Review {
	d.t.Helper()
	a := d.as(cookie, http.MethodGet, "/api/approvals/1", "")
	var out app.Review
	if err := json.Unmarshal(a.body, &out); err != nil {
		d.t.Fatalf("%s: %v", a.body, err)
	}
	return out
}

// until waits for something to become true.
func until(t *testing.T, what string, is func() bool) {
	t.Helper()
	ctx, cancel := context.WithTimeout(t.Context(), 30*time.Second)
	defer cancel()
	for tick := time.NewTicker(5 * time.Millisecond); !is(); {
		select {
		case <-tick.C:
		case <-ctx.Done():
			t.Fatal("not yet: " + what)
		}
	}
}

var mass = regexp.MustCompile(`"mass_kg":[\d.]+`)

// TestChangesAreJudgedAgain: a display that is weighed anew makes what is approved with it stale, and weighed as before it holds
// again, each time within moments.
func TestChangesAreJudgedAgain(t *testing.T) {
	d, engineer, _ := reviewed(t)
	for n := range 12 {
		a := d.as(engineer, http.MethodGet, "/api/items/displays/velmora-pane-49", "")
		kg := map[bool]string{true: "29", false: "14.2"}[n%2 == 0]
		var have struct {
			Revision int             `json:"revision"`
			Display  json.RawMessage `json:"display"`
		}
		if err := json.Unmarshal(a.body, &have); err != nil {
			t.Fatal(err)
		}
		body := fmt.Sprintf(`{"revision": %d, "display": %s}`, have.Revision, mass.ReplaceAll(have.Display, []byte(`"mass_kg":`+kg)))
		if a := d.as(engineer, http.MethodPut, "/api/items/displays/velmora-pane-49", body); a.StatusCode != http.StatusOK {
			t.Fatalf("%d %s", a.StatusCode, a.body)
		}
		until(t, "judged with "+kg+" kg", func() bool {
			r := d.review(engineer)
			return (len(r.Stale) > 0) == (n%2 == 0) && (strings.Contains(fmt.Sprint(r.Stale), "people") || n%2 == 1)
		})
	}
}

// TestWordsOfSeveralLines: what is said of a review, and a letter, may have several lines; other control characters not.
func TestWordsOfSeveralLines(t *testing.T) {
	d, engineer, _ := reviewed(t)
	for text, want := range map[string]int{`one\ntwo`: 204, `one\u0000`: 400, `one\u001b[2J`: 400, ``: 400} {
		if a := d.as(engineer, http.MethodPost, "/api/approvals/1/comments", `{"text": "`+text+`"}`); a.StatusCode != want {
			t.Errorf("%s: %d %s", text, a.StatusCode, a.body)
		}
	}
	if events := d.review(engineer).Events; events[len(events)-1].Text != "one\ntwo" {
		t.Errorf("%+v", events)
	}
}
