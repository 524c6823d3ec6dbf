package main

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/cookiejar"
	"path/filepath"
	"sync"
	"testing"

	"nexufix/app/people"
	"nexufix/app/review"
	"nexufix/core/approval"
	"nexufix/store"
)

// done is what a server said that it did, before it was killed.
type done struct {
	mu       sync.Mutex
	approved map[int64]bool
	issued   map[string]bool // numbers
	count    int
	enough   chan struct{}
	after    int
	browsers map[string]*http.Client // by login: a session outlives the server, whichever port the next one has
}

func (d *done) note(what func()) {
	d.mu.Lock()
	defer d.mu.Unlock()
	what()
	if d.count++; d.count == d.after {
		close(d.enough)
	}
}

// TestKilledWhileApproving kills the server while jobs are sent, approved and issued: what it said that it did is there, whole, and
// nothing is approved or issued that was not meant to be.
func TestKilledWhileApproving(t *testing.T) {
	dir := demoFolder(t)
	file := filepath.Join(dir, "nexufix.db")
	st, err := store.Open(t.Context(), file)
	if err != nil {
		t.Fatal(err)
	}
	for login, role := range map[string]people.Role{"mira": people.Engineer, "tomas": people.Approver, "ada": people.Administrator} {
		n := people.NewPerson{Identity: people.Identity{Login: login, Name: "Somebody", Password: "seven loaves on a rail"}, Role: role}
		if _, err := n.Add(t.Context(), st, people.Person{Name: "test", Role: people.Administrator}, false); err != nil {
			t.Fatal(err)
		}
	}
	if err := st.Close(); err != nil {
		t.Fatal(err)
	}
	d := &done{approved: map[int64]bool{}, issued: map[string]bool{}, browsers: map[string]*http.Client{}}
	for round := range kills() {
		d.enough, d.count, d.after = make(chan struct{}), 0, 2+round%8
		killApproving(t, dir, d)
		checkApprovals(t, file, d)
		if t.Failed() {
			return
		}
	}
	if len(d.approved) < 25 || len(d.issued) < 10 {
		t.Errorf("only %d approvals and %d documents were acknowledged: the test kills too early", len(d.approved), len(d.issued))
	}
}

// asks sends as somebody who is signed in; false when the server is gone, or refuses.
func asks(c *http.Client, url, body string, into any) bool {
	a, err := c.Post(url, "application/json", bytes.NewReader([]byte(body)))
	if err != nil {
		return false
	}
	defer a.Body.Close()
	return a.StatusCode < 300 && json.NewDecoder(a.Body).Decode(into) == nil
}

// killApproving sends, approves and issues until the program is killed, and says what it was told.
func killApproving(t *testing.T, dir string, d *done) {
	t.Helper()
	c, url := serving(t, dir, 0)
	in := func(login string) *http.Client {
		if have := d.browsers[login]; have != nil {
			return have
		}
		jar, err := cookiejar.New(nil)
		if err != nil {
			t.Fatal(err)
		}
		client := &http.Client{Jar: jar}
		if !asks(client, url+"/api/sign-in", `{"login": "`+login+`", "password": "seven loaves on a rail"}`, &struct{}{}) {
			t.Errorf("%s is not signed in", login)
		}
		d.browsers[login] = client
		return client
	}
	mira, tomas := in("mira"), in("tomas")
	var workers sync.WaitGroup
	for _, job := range []string{"mill-lane-counter", "signal-box-exhibit", "bakehouse-plastered-wall"} {
		workers.Go(func() {
			for {
				var a review.ApprovalLine
				if !asks(mira, url+"/api/approvals", `{"subject": {"job": "`+job+`"}}`, &a) {
					// In review since an earlier round: it is decided below.
					var open []review.ApprovalLine
					got, err := mira.Get(url + "/api/approvals?job=" + job)
					if err != nil {
						return
					}
					err = json.NewDecoder(got.Body).Decode(&open)
					got.Body.Close()
					if err != nil || len(open) == 0 || open[0].State != "in_review" {
						return
					}
					a = open[0]
				}
				d.note(func() {})
				if !asks(tomas, fmt.Sprintf("%s/api/approvals/%d/decide", url, a.ID), fmt.Sprintf(`{"version": %d, "act": "approve"}`, a.Version), &a) {
					return
				}
				d.note(func() { d.approved[a.ID] = true })
				var i review.IssuedLine
				if !asks(mira, fmt.Sprintf("%s/api/approvals/%d/issue", url, a.ID), `{"what": "card", "receiver": "somebody"}`, &i) {
					return
				}
				d.note(func() { d.issued[i.Number] = true })
			}
		})
	}
	ended := make(chan struct{})
	go func() { workers.Wait(); close(ended) }()
	select {
	case <-d.enough:
	case <-ended:
		t.Error("nothing more is done, and the server was not killed")
	}
	if err := c.Process.Kill(); err != nil {
		t.Fatal(err)
	}
	workers.Wait()
	c.Wait() // it was killed
}

func checkApprovals(t *testing.T, file string, d *done) {
	t.Helper()
	st, err := store.Open(t.Context(), file)
	if err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	if err := st.Check(t.Context()); err != nil {
		t.Error(err)
	}
	all, err := st.Approvals(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	state := map[int64]approval.State{}
	for _, a := range all {
		state[a.ID] = a.State
		decided := a.State == approval.Approved || a.State == approval.Superseded
		if decided && (!a.Approver.Valid || a.Approver.Int64 == a.Preparer) {
			t.Errorf("%d is %s by nobody else", a.ID, a.State)
		}
	}
	for id := range d.approved {
		if state[id] != approval.Approved && state[id] != approval.Superseded {
			t.Errorf("%d was approved, and is %s", id, state[id])
		}
	}
	issued, err := st.IssuedOf(t.Context(), 0, 10_000)
	if err != nil {
		t.Fatal(err)
	}
	numbers := map[string]bool{}
	for _, i := range issued {
		numbers[i.Number] = true
		whole, err := st.IssuedFile(t.Context(), i.ID)
		if err != nil {
			t.Fatal(err)
		}
		if sum := sha256.Sum256(whole.File); hex.EncodeToString(sum[:]) != i.Sum {
			t.Errorf("%s is not whole", i.Number)
		}
		if state[i.Approval] != approval.Approved && state[i.Approval] != approval.Superseded {
			t.Errorf("%s was issued of what is %s", i.Number, state[i.Approval])
		}
	}
	for n := range d.issued {
		if !numbers[n] {
			t.Errorf("%s was issued, and is gone", n)
		}
	}
}
