package server

import (
	"fmt"
	"net"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"
)

// TestWhatStrangersMayKnow: how the server works is for the computer it runs on and for administrators, also through a proxy; everybody
// else is told whether it is ready, and where people sign in nobody reads its interface without.
func TestWhatStrangersMayKnow(t *testing.T) {
	d := withPeople(t)
	admin, _ := d.signIn("administrator1", "seven loaves on a rail")
	reader, _ := d.signIn("reader1", "seven loaves on a rail")
	ask := func(path, from string, cookie *http.Cookie) answer {
		r := httptest.NewRequest(http.MethodGet, deskAt+path, nil)
		if from != "" {
			r.Header.Set("X-Forwarded-For", from)
		}
		if cookie != nil {
			r.AddCookie(cookie)
		}
		return d.send(r)
	}
	const away = "203.0.113.9"
	for _, c := range []struct {
		path, from string
		cookie     *http.Cookie
		want       int
		details    bool
	}{
		{"/readyz", "", nil, 200, true}, {"/readyz", away, nil, 200, false}, {"/readyz", away, reader, 200, false},
		{"/readyz", away, admin, 200, true},
		{"/metrics", "", nil, 200, true}, {"/metrics", away, nil, 403, false}, {"/metrics", away, reader, 403, false},
		{"/metrics", away, admin, 200, true}, {"/api/openapi.json", "", nil, 401, false}, {"/api/openapi.json", away, reader, 200, false},
	} {
		a := ask(c.path, c.from, c.cookie)
		details := strings.Contains(string(a.body), "set_aside") || strings.Contains(string(a.body), "go_goroutines")
		if a.StatusCode != c.want || details != c.details {
			t.Errorf("%s from %q: %d %.200s", c.path, c.from, a.StatusCode, a.body)
		}
	}
}

// TestClientBreaksOff: who goes away in the middle of a body is no failure of the server's.
func TestClientBreaksOff(t *testing.T) {
	d := newDesk(t)
	real := httptest.NewServer(d.srv)
	defer real.Close()
	for _, line := range []string{"POST /api/bench", "PUT /api/items/displays/velmora-pane-49", "POST /api/import"} {
		conn, err := net.Dial("tcp", real.Listener.Addr().String())
		if err != nil {
			t.Fatal(err)
		}
		fmt.Fprintf(conn, "%s HTTP/1.1\r\nHost: 127.0.0.1:8460\r\nContent-Type: application/json\r\nContent-Length: 500\r\n\r\n{", line)
		if err := conn.Close(); err != nil {
			t.Fatal(err)
		}
	}
	counted := func() string { return string(d.get("/metrics").body) }
	for range 200 {
		if strings.Count(counted(), `status="499"`) == 3 {
			break
		}
		time.Sleep(10 * time.Millisecond)
	}
	if text := counted(); strings.Count(text, `status="499"`) != 3 || strings.Contains(text, `status="500"`) {
		t.Errorf("they are counted otherwise: %v", strings.Count(text, `status="499"`))
	}
	if strings.Contains(d.log.String(), "ERROR") {
		t.Error(d.log.String())
	}
}

// TestHeadIsAnswered: as GET is, without the body (RFC 9110, 9.3.2); who has to sign in is told how a script does (15.5.2). Each answer has
// a name, which is in the log where it fails.
func TestHeadIsAnswered(t *testing.T) {
	d := withPeople(t)
	real := httptest.NewServer(d.srv)
	defer real.Close()
	for path, want := range map[string]int{"/": 200, "/healthz": 200, "/readyz": 200, "/api/displays": 401, "/api/none": 404} {
		r, err := http.NewRequest(http.MethodHead, real.URL+path, nil)
		if err != nil {
			t.Fatal(err)
		}
		r.Host = "127.0.0.1:8460"
		a, err := http.DefaultClient.Do(r)
		if err != nil {
			t.Fatal(err)
		}
		a.Body.Close()
		if a.StatusCode != want || len(a.Header.Get("X-Request-Id")) != 16 || (want == 401) != (a.Header.Get("WWW-Authenticate") != "") {
			t.Errorf("%s: %d %v", path, a.StatusCode, a.Header)
		}
	}
	d.srv.Access = true
	d.as(nil, http.MethodGet, "/v/SECRETCODE?x=typed", "")
	d.signIn("reader1", "seven loaves on a rail")
	if said := d.log.String(); !strings.Contains(said, `route=/v/:code status=404`) || strings.Contains(said, "SECRETCODE") ||
		strings.Contains(said, "typed") || strings.Contains(said, "loaves") || !strings.Contains(said, "route=/api/sign-in status=200") {
		t.Error(said)
	}
}
