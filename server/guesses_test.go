package server

import (
	"bufio"
	"context"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"strconv"
	"strings"
	"testing"
	"time"

	"nexufix/app/people"
	peopleroutes "nexufix/server/people"
	"nexufix/store"
)

// from asks to be signed in from an address, with the cookies of a browser.
func (d *desk) from(address, login, password string, cookies ...*http.Cookie) answer {
	r := httptest.NewRequest(http.MethodPost, deskAt+"/api/sign-in", strings.NewReader(`{"login": "`+login+`", "password": "`+password+`"}`))
	r.Header.Set("Content-Type", "application/json")
	r.Header.Set("X-Forwarded-For", address)
	for _, c := range cookies {
		r.AddCookie(c)
	}
	return d.send(r)
}

// TestGuessing: one address guesses a login a few times an hour and keeps its person from signing in nowhere else; all addresses together
// have under a hundred tries an hour at it (OWASP ASVS 4.0.3, 2.2.1), and then the person gets in with a browser that is known; who has
// to wait is told how long. An address that guesses many logins is held back as one.
func TestGuessing(t *testing.T) {
	d := withPeople(t)
	const right = "seven loaves on a rail"
	at := d.from("198.51.100.20", "administrator1", right)
	tried := func(address, login string) bool {
		a := d.from(address, login, "not this one")
		wait, err := strconv.Atoi(a.Header.Get("Retry-After"))
		if a.StatusCode == http.StatusTooManyRequests && (err != nil || wait < 1 || wait > 180) {
			t.Errorf("to be tried again after %q", a.Header.Get("Retry-After"))
		}
		return a.StatusCode == http.StatusUnauthorized
	}
	wrong, unknown := d.from("198.51.100.1", "reader1", "not this one"), d.from("198.51.100.2", "ghost", "not this one")
	if string(wrong.body) != string(unknown.body) || wrong.StatusCode != unknown.StatusCode {
		t.Errorf("a login that nobody has is told otherwise: %s and %s", wrong.body, unknown.body)
	}
	n := 0
	for range 60 {
		if tried("203.0.113.7", "administrator1") {
			n++
		}
		if a := d.from("198.51.100.20", "administrator1", right); a.StatusCode != 200 {
			t.Fatalf("kept out by another address: %d %s", a.StatusCode, a.body)
		}
	}
	if n != 8 {
		t.Errorf("one address has %d tries", n)
	}
	n = 0
	for i := range 60 {
		if tried(fmt.Sprintf("2001:db8:%x:1::%x", i, i), "administrator1") {
			n++
		}
	}
	if n != 24 {
		t.Errorf("all addresses have %d tries", n)
	}
	if a := d.from("198.51.100.20", "administrator1", right); a.StatusCode != http.StatusTooManyRequests {
		t.Errorf("an unknown browser: %d", a.StatusCode)
	}
	known := at.Cookies()
	for range 30 { // the cookie is another after each
		a := d.from("198.51.100.21", "administrator1", right, known...)
		if a.StatusCode != 200 {
			t.Fatalf("a known browser: %d %s", a.StatusCode, a.body)
		}
		known = a.Cookies()
	}
	if a := d.from("198.51.100.21", "administrator1", right, at.Cookies()...); a.StatusCode != http.StatusTooManyRequests {
		t.Errorf("a cookie of before: %d", a.StatusCode)
	}
	n = 0
	for range 30 {
		if d.from("198.51.100.21", "administrator1", "not this one", known...).StatusCode == http.StatusUnauthorized {
			n++
		}
	}
	if n != 8 {
		t.Errorf("a known browser has %d tries", n)
	}
	n = 0
	for i := range 60 {
		if tried("203.0.113.8", fmt.Sprintf("somebody%d", i)) {
			n++
		}
	}
	if n != 20 {
		t.Errorf("one address has %d tries of many logins", n)
	}
}

// TestOnlyAProxyForwards: what a request says of who sends it, and how, is believed of this computer and of named proxies.
func TestOnlyAProxyForwards(t *testing.T) {
	d := newDesk(t)
	hosts := Hosts{Proxies: []netip.Prefix{netip.MustParsePrefix("10.7.0.0/16")}}
	proxied, err := New(d.srv.store, d.srv.log, hosts, d.plots, peopleroutes.Options{})
	if err != nil {
		t.Fatal(err)
	}
	for from, believed := range map[string]bool{"127.0.0.1:1": true, "[::1]:1": true, "10.7.255.9:1": true, "10.8.0.1:1": false,
		"192.0.2.1:1": false} {
		r := httptest.NewRequest(http.MethodGet, deskAt+"/", nil)
		r.Header.Set("X-Forwarded-Proto", "https")
		r.RemoteAddr = from
		w := httptest.NewRecorder()
		proxied.ServeHTTP(w, r)
		if got := w.Header().Get("Strict-Transport-Security") != ""; got != believed {
			t.Errorf("%s is believed: %v", from, got)
		}
	}
}

// TestAddressOfDocuments: where nobody has said under which name it is reached, there is no address to be printed.
func TestAddressOfDocuments(t *testing.T) {
	any4, here := &net.TCPAddr{IP: net.IPv4zero, Port: 80}, &net.TCPAddr{IP: net.IPv4(127, 0, 0, 1), Port: 8460}
	for want, got := range map[string]Hosts{"": HostsOf(any4, nil, ""), "https://desk.example": HostsOf(any4, []string{"desk.example"}, ""),
		"http://127.0.0.1:8460":             HostsOf(here, nil, ""),
		"https://desk.example:8443/nexufix": HostsOf(here, []string{"desk.example:8443"}, "/nexufix")} {
		if got.Base != want {
			t.Errorf("%q, expected %q", got.Base, want)
		}
	}
	h := HostsOf(here, []string{"desk.example:8443"}, "")
	if !h.allow("desk.example:8443") || !h.allow("desk.example") || h.allow("other.example") {
		t.Error("a name with a port is not answered under it")
	}
	if got := HostsOf(&net.TCPAddr{IP: net.IPv6unspecified, Port: 80}, nil, "").Base; got != "" {
		t.Error(got)
	}
}

// TestCookiesBelowAPath: below a path the session goes to no other program of the host; and the path, which a browser takes for no
// cookie of a name with __Host-, is not in it at the root (RFC 6265bis 4.1.3).
func TestCookiesBelowAPath(t *testing.T) {
	for below, want := range map[string]string{"": "__Host-nexufix /", "/nexufix": "__Secure-nexufix /nexufix/"} {
		d := withPeople(t)
		var err error
		if d.srv, err = New(d.srv.store, d.srv.log, Hosts{Loopback: true, Path: below}, d.plots, peopleroutes.Options{}); err != nil {
			t.Fatal(err)
		}
		r := httptest.NewRequest(http.MethodPost, "http://127.0.0.1:8460"+below+"/api/sign-in",
			strings.NewReader(`{"login": "engineer1", "password": "seven loaves on a rail"}`))
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set("X-Forwarded-Proto", "https")
		a := d.send(r)
		if len(a.Cookies()) == 0 || a.Cookies()[0].Name+" "+a.Cookies()[0].Path != want || !a.Cookies()[0].Secure {
			t.Errorf("below %q: %v", below, a.Cookies())
		}
	}
}

// TestStreamsEndWithTheirPerson: whoever is let in no more hears nothing more, on a stream that is open too.
func TestStreamsEndWithTheirPerson(t *testing.T) {
	d := withPeople(t)
	real := httptest.NewServer(d.srv)
	defer real.Close()
	admin, _ := d.signIn("administrator1", "seven loaves on a rail")
	for n, path := range []string{"/api/live?path=/desk", "/api/gauge"} {
		cookie, _ := d.signIn("engineer1", "seven loaves on a rail")
		ctx, cancel := context.WithTimeout(t.Context(), 20*time.Second)
		defer cancel()
		r, err := http.NewRequestWithContext(ctx, http.MethodGet, real.URL+path, nil)
		if err != nil {
			t.Fatal(err)
		}
		r.AddCookie(cookie)
		a, err := http.DefaultClient.Do(r)
		if err != nil || a.StatusCode != 200 {
			t.Fatal(path, a, err)
		}
		defer a.Body.Close()
		if a.Uncompressed { // which Go asked for and undid
			t.Errorf("%s is compressed, which takes a megabyte for as long as it is listened to", path)
		}
		lines := bufio.NewScanner(a.Body)
		if !lines.Scan() {
			t.Fatal(path, "says nothing")
		}
		if n == 0 {
			d.as(cookie, http.MethodPost, "/api/sign-out", "")
		} else {
			d.as(admin, http.MethodPost, "/api/people/2", `{"disabled": true}`)
		}
		for lines.Scan() {
		}
		if ctx.Err() != nil {
			t.Errorf("%s goes on", path)
		}
	}
}

// TestReadingServerWithAccounts: beside a server that writes, one that only reads lets the same people in, knows the sessions of both,
// shuts out who is shut out there, and changes nothing.
func TestReadingServerWithAccounts(t *testing.T) {
	d := withPeople(t)
	writing, _ := d.signIn("administrator1", "seven loaves on a rail")
	st, err := store.OpenReadOnly(t.Context(), d.file)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { st.Close() })
	reading := *d
	if reading.srv, err = New(st, slog.New(slog.DiscardHandler), Hosts{Loopback: true}, d.plots, peopleroutes.Options{}); err != nil {
		t.Fatal(err)
	}
	own, a := reading.signIn("engineer1", "seven loaves on a rail")
	if own == nil {
		t.Fatalf("nobody signs in: %d %s", a.StatusCode, a.body)
	}
	if _, a := reading.signIn("engineer1", "another one"); a.StatusCode != http.StatusUnauthorized {
		t.Errorf("with any password: %d", a.StatusCode)
	}
	for _, c := range []*http.Cookie{own, writing} {
		if a := reading.as(c, http.MethodGet, "/api/displays", ""); a.StatusCode != 200 {
			t.Errorf("%d %s", a.StatusCode, a.body)
		}
	}
	if a := reading.as(own, http.MethodPost, "/api/approvals", `{"subject": {"job": "mill-lane-counter"}}`); a.StatusCode != http.StatusConflict {
		t.Errorf("it writes: %d %s", a.StatusCode, a.body)
	}
	reading.as(writing, http.MethodPost, "/api/sign-out", "")
	if a := reading.as(writing, http.MethodGet, "/api/displays", ""); a.StatusCode != http.StatusUnauthorized {
		t.Errorf("signed out, and still there: %d", a.StatusCode)
	}
	is := true
	if _, err := (&people.PersonChange{Disabled: &is}).Change(t.Context(), d.srv.store, people.Person{Role: people.Administrator},
		2); err != nil {
		t.Fatal(err)
	}
	if a := reading.as(own, http.MethodGet, "/api/displays", ""); a.StatusCode != http.StatusUnauthorized {
		t.Errorf("shut out, and still there: %d", a.StatusCode)
	}
}
