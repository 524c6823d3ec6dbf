package server

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"nexufix/app/review"
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

func (d *desk) review(cookie *http.Cookie) review.Review {
	d.t.Helper()
	a := d.as(cookie, http.MethodGet, "/api/approvals/1", "")
	var out review.Review
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

// TestManyDecide: of many who approve, withdraw and issue at once, each on what they saw, one is done at a time; one approval is in
// force, nothing is approved twice, and every document has a number of its own.
func TestManyDecide(t *testing.T) {
	d, engineer, approver := reviewed(t)
	if a := d.as(engineer, http.MethodPost, "/api/approvals", `{"subject": {"job": "mill-lane-counter"}}`); a.StatusCode != http.StatusCreated {
		t.Fatalf("%d %s", a.StatusCode, a.body)
	}
	admin, _ := d.signIn("administrator1", "seven loaves on a rail")
	var all sync.WaitGroup
	var mu sync.Mutex
	done := map[int]int{}
	for n := range 8 {
		all.Go(func() {
			who := []*http.Cookie{approver, admin}[n%2]
			a := d.as(who, http.MethodPost, "/api/approvals/2/decide", `{"version": 1, "act": "approve"}`)
			mu.Lock()
			done[a.StatusCode]++
			mu.Unlock()
		})
	}
	all.Wait()
	if done[http.StatusOK] != 1 || done[http.StatusConflict] != 7 {
		t.Errorf("approved by eight at once: %v", done)
	}
	clear(done)
	numbers := map[string]bool{}
	for range 6 {
		all.Go(func() {
			a := d.as(engineer, http.MethodPost, "/api/approvals/2/issue", `{"what": "card", "receiver": "the bakery"}`)
			var i review.IssuedLine
			if err := json.Unmarshal(a.body, &i); err != nil {
				t.Error(err)
			}
			mu.Lock()
			defer mu.Unlock()
			done[a.StatusCode]++
			if a.StatusCode == http.StatusCreated {
				if numbers[i.Number+i.Revision] || numbers[i.Number] {
					t.Errorf("%s was issued twice", i.Number)
				}
				numbers[i.Number], numbers[i.Number+i.Revision] = true, true
			}
		})
	}
	all.Wait()
	if done[http.StatusCreated]+done[http.StatusConflict]+done[http.StatusServiceUnavailable] != 6 || done[http.StatusCreated] == 0 {
		t.Errorf("issued by six at once: %v", done)
	}
	states := map[string]int{}
	var lines []review.ApprovalLine
	if err := json.Unmarshal(d.as(engineer, http.MethodGet, "/api/approvals", "").body, &lines); err != nil {
		t.Fatal(err)
	}
	for _, l := range lines {
		states[l.State]++
	}
	if len(lines) != 2 || states["approved"] != 1 || states["superseded"] != 1 {
		t.Errorf("the states are %v", states)
	}
}

// TestReviewsOfOthers: what is not there, and what somebody may not, is refused with nothing changed; a desk of one sends nothing.
func TestReviewsOfOthers(t *testing.T) {
	d, engineer, approver := reviewed(t)
	reader, _ := d.signIn("reader1", "seven loaves on a rail")
	for _, c := range []struct {
		who        *http.Cookie
		path, body string
		want       int
	}{
		{reader, "", `{"subject": {"job": "signal-box-exhibit"}}`, 403}, {nil, "", `{"subject": {"job": "signal-box-exhibit"}}`, 401},
		{engineer, "", `{"subject": {"job": "../x"}}`, 400}, {engineer, "", `{"subject": {"job": 5}}`, 400}, {engineer, "", `{"subject": null}`, 400},
		{engineer, "", `{"subject": {"job": "arched-vault-heavy-board"}}`, 400}, {engineer, "/1/decide", `{"version": 2, "act": "withdraw"}`, 403},
		{approver, "/1/decide", `{"version": 1, "act": "withdraw"}`, 409}, {approver, "/1/decide", `{"version": 2, "act": "approve"}`, 409},
		{approver, "/1/decide", `{"version": 2, "act": "supersede"}`, 400}, {approver, "/99/decide", `{"version": 1, "act": "approve"}`, 404},
		{approver, "/1/decide", `{"version": "2", "act": "withdraw"}`, 400}, {reader, "/1/issue", `{"what": "card", "receiver": "x"}`, 403},
		{engineer, "/1/issue", `{"what": "everything", "receiver": "x"}`, 400}, {engineer, "/1/issue", `{"what": "card", "receiver": " "}`, 400},
		{engineer, "/1/issue", `{"what": "card", "lang": "xx", "receiver": "x"}`, 400}, {engineer, "/99/issue", `{"what": "card", "receiver": "x"}`, 404},
	} {
		if a := d.as(c.who, http.MethodPost, "/api/approvals"+c.path, c.body); a.StatusCode != c.want {
			t.Errorf("%s with %s: %d, wanted %d: %s", c.path, c.body, a.StatusCode, c.want, a.body)
		}
	}
	if r := d.review(engineer); r.State != "approved" || r.Version != 2 || len(r.Issued) != 0 {
		t.Errorf("%+v", r.ApprovalLine)
	}
	alone := newDesk(t)
	a := alone.post("/api/approvals", `{"subject": {"job": "mill-lane-counter"}}`)
	if a.StatusCode != http.StatusForbidden || !strings.Contains(string(a.body), "Nobody signs in here") {
		t.Errorf("%d %s", a.StatusCode, a.body)
	}
}
