package server

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"
	"time"

	"nexufix/server/api"
)

// TestAdmission: so many heavy works go in as there is room, the next wait in a
// short queue, and beyond that the answer is to come again; nobody has more than
// a few; who leaves the queue makes room in it.
func TestAdmission(t *testing.T) {
	a := newAdmission(2, maxQueued, maxOfOne)
	var leaves []func()
	for range 2 {
		leave, err := a.enter(t.Context(), "")
		if err != nil {
			t.Fatal(err)
		}
		leaves = append(leaves, leave)
	}
	ctx, stop := context.WithCancel(t.Context())
	came := make(chan error, maxQueued)
	for range maxQueued {
		go func() {
			leave, err := a.enter(ctx, "")
			if err == nil {
				defer leave()
			}
			came <- err
		}()
	}
	for queued := 0; queued < maxQueued; { // until they all wait
		a.mu.Lock()
		queued = a.queued
		a.mu.Unlock()
	}
	if _, err := a.enter(t.Context(), ""); !errors.Is(err, error(api.TooMuch)) {
		t.Errorf("one too many: %v", err)
	}
	leaves[0]()
	if err := <-came; err != nil {
		t.Errorf("one who waited was not let in: %v", err)
	}
	leaves[1]()
	stop()
	for range maxQueued - 1 {
		if err := <-came; err != nil && !errors.Is(err, context.Canceled) {
			t.Error(err)
		}
	}
	if a.queued != 0 || len(a.slots) != 0 || len(a.byClient) != 0 {
		t.Errorf("%d wait, %d work, %v", a.queued, len(a.slots), a.byClient)
	}
	// One client, many slots.
	a = newAdmission(100, maxQueued, maxOfOne)
	for range maxOfOne {
		if _, err := a.enter(t.Context(), "10.0.0.7"); err != nil {
			t.Fatal(err)
		}
	}
	if _, err := a.enter(t.Context(), "10.0.0.7"); !errors.Is(err, error(api.TooMuchOfOne)) {
		t.Errorf("a client has one too many: %v", err)
	}
	if _, err := a.enter(t.Context(), "10.0.0.8"); err != nil {
		t.Errorf("another client: %v", err)
	}
	// Nobody waits for ever.
	a = newAdmission(1, maxQueued, maxOfOne)
	a.queueIn = time.Millisecond
	if _, err := a.enter(t.Context(), ""); err != nil {
		t.Fatal(err)
	}
	if _, err := a.enter(t.Context(), ""); !errors.Is(err, error(api.TooMuch)) {
		t.Errorf("who waited too long: %v", err)
	}
	if p := api.Describe(api.TooMuch); p.Status != http.StatusServiceUnavailable {
		t.Errorf("%+v", p)
	}
}

// TestSlowSenders: clients that send a request byte by byte keep nobody else from
// an answer, however many they are.
func TestSlowSenders(t *testing.T) {
	d := newDesk(t)
	var all sync.WaitGroup
	var sending []*io.PipeWriter
	for range 20 {
		out, in := io.Pipe()
		sending = append(sending, in)
		r := httptest.NewRequest(http.MethodPost, "http://127.0.0.1:8460/api/bench", out)
		r.Header.Set("Content-Type", "application/json")
		r.RemoteAddr = "203.0.113.7:1"
		all.Go(func() { d.srv.ServeHTTP(httptest.NewRecorder(), r) })
		if _, err := in.Write([]byte("{")); err != nil { // it is being read
			t.Fatal(err)
		}
	}
	a := d.request(http.MethodPost, "/api/bench", "application/json", []byte(`{"display_id":"velmora-pane-49","bracket_id":"sill-40"}`))
	if a.StatusCode != 200 {
		t.Errorf("%d %s", a.StatusCode, a.body)
	}
	for _, in := range sending {
		in.Close()
	}
	all.Wait()
}

// TestSlowNobody: whoever has no account and sends the beginning of a sign-in from everywhere takes no place from people who have one,
// one address has a few, and each body is waited for some seconds only.
func TestSlowNobody(t *testing.T) {
	d := withPeople(t)
	engineer, _ := d.signIn("engineer1", "seven loaves on a rail")
	var all sync.WaitGroup
	var sending []*io.PipeWriter
	begin := func(from string) *httptest.ResponseRecorder {
		out, in := io.Pipe()
		sending = append(sending, in)
		r := httptest.NewRequest(http.MethodPost, "http://127.0.0.1:8460/api/sign-in", out)
		r.Header.Set("Content-Type", "application/json")
		r.RemoteAddr = from
		w := httptest.NewRecorder()
		done := make(chan struct{})
		all.Go(func() { d.srv.ServeHTTP(w, r); out.CloseWithError(io.ErrClosedPipe); close(done) })
		if _, err := in.Write([]byte("{")); err != nil { // it was refused before it was read
			<-done
			return w
		}
		return nil
	}
	for n := range maxComing {
		if w := begin(fmt.Sprintf("[2001:db8:%x::1]:1", n/comingOf)); w != nil {
			t.Fatalf("the %dth was refused: %d", n, w.Code)
		}
	}
	if w := begin("198.51.100.9:1"); w == nil || w.Code != http.StatusServiceUnavailable {
		t.Errorf("one too many of nobody: %v", w)
	}
	if a := d.as(engineer, http.MethodPost, "/api/bench", `{"display_id":"velmora-pane-49","bracket_id":"sill-40"}`); a.StatusCode != 200 {
		t.Errorf("an engineer is kept from the bench: %d %s", a.StatusCode, a.body)
	}
	end := func() {
		for _, in := range sending {
			in.Close()
		}
		all.Wait()
		sending = nil
	}
	end()
	for range comingOf {
		begin("[2001:db8:1::7]:1")
	}
	if w := begin("[2001:db8:1::8]:1"); w == nil || w.Code != http.StatusTooManyRequests {
		t.Errorf("one network has more than a few: %v", w)
	}
	end()
	// An office behind one address comes in the morning.
	for range 3 * maxOfOne {
		all.Go(func() {
			if c, a := d.signIn("reader1", "seven loaves on a rail"); c == nil {
				t.Errorf("one of an office is kept out: %d %s", a.StatusCode, a.body)
			}
		})
	}
	end()

	d.srv.signIns.bodyIn = 50 * time.Millisecond
	real := httptest.NewServer(d.srv)
	defer real.Close()
	conn, err := net.Dial("tcp", real.Listener.Addr().String())
	if err != nil {
		t.Fatal(err)
	}
	defer conn.Close()
	fmt.Fprintf(conn, "POST /api/sign-in HTTP/1.1\r\nHost: 127.0.0.1:8460\r\nContent-Type: application/json\r\nContent-Length: 50\r\n\r\n{")
	line, err := bufio.NewReader(conn).ReadString('\n')
	if err != nil || !strings.Contains(line, " 408 ") {
		t.Errorf("a body that does not come is answered %q, %v", line, err)
	}
}
