package server

import (
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"
)

// TestOnceUnderAKey: what is asked again under a key is done once, and answered the same; another thing under it is refused, what failed is
// done when it is asked again, and another person's key is another.
func TestOnceUnderAKey(t *testing.T) {
	d := withPeople(t)
	engineer, _ := d.signIn("engineer1", "seven loaves on a rail")
	approver, _ := d.signIn("approver1", "seven loaves on a rail")
	ask := func(who *http.Cookie, key, body string) answer {
		r := httptest.NewRequest(http.MethodPost, "http://127.0.0.1:8460/api/pairings", strings.NewReader(body))
		r.Header.Set("Content-Type", "application/json")
		r.AddCookie(who)
		if key != "-" {
			r.Header.Set(idempotencyKey, key)
		}
		return d.send(r)
	}
	saved := func() string {
		return d.as(engineer, http.MethodGet, "/api/jobs?kind=pairing&limit=1", "").Header.Get("Total-Count")
	}
	one, other := `{`+pane+`}`, `{`+pane+`,"turn_deg":90}`
	first := ask(engineer, "k1", one)
	if first.StatusCode >= 300 || saved() != "1" {
		t.Fatalf("%d %s: %s saved", first.StatusCode, first.body, saved())
	}
	again := ask(engineer, "k1", one)
	if again.StatusCode != first.StatusCode || string(again.body) != string(first.body) ||
		again.Header.Get("Idempotency-Replayed") != "true" ||
		again.Header.Get("Content-Type") != first.Header.Get("Content-Type") || saved() != "1" {
		t.Errorf("again it is %d %s: %s saved", again.StatusCode, again.body, saved())
	}
	for key, body := range map[string]string{"k1": other, "": one, strings.Repeat("k", mostKey+1): one} {
		a := ask(engineer, key, body)
		if a.StatusCode != http.StatusUnprocessableEntity && a.StatusCode != http.StatusBadRequest || saved() != "1" {
			t.Errorf("%q: %d %s", key, a.StatusCode, a.body)
		}
	}
	if a := ask(engineer, "k2", `{"display_id":"none","bracket_id":"sill-40"}`); a.StatusCode < 400 {
		t.Fatal(a.StatusCode)
	}
	if a := ask(engineer, "k2", one); a.StatusCode != first.StatusCode || saved() != "2" { // what failed holds no key
		t.Errorf("%d %s: %s saved", a.StatusCode, a.body, saved())
	}
	if a := ask(approver, "k1", one); a.StatusCode != first.StatusCode || a.Header.Get("Idempotency-Replayed") != "" || saved() != "3" {
		t.Errorf("somebody else's key is the same: %d, %s saved", a.StatusCode, saved())
	}
}

// TestKeysHoldADay: a key is forgotten after a day, and the oldest where there are too many; while it is being done, it is not begun again.
func TestKeysHoldADay(t *testing.T) {
	o, now := newOnce(), time.Now()
	is := func(key string, at time.Time, want bool) {
		t.Helper()
		if _, mine := o.begin(key, [32]byte{}, at); mine != want {
			t.Errorf("%s at %v is begun: %v", key, at.Sub(now), mine)
		}
	}
	is("a", now, true)
	is("a", now.Add(keyHolds), false)
	is("a", now.Add(keyHolds+1), true)
	for i := range mostRemember {
		is(time.Duration(i).String(), now.Add(keyHolds+1), true)
	}
	if n := o.done.Len(); n != mostRemember {
		t.Errorf("%d keys", n)
	}
	is("a", now.Add(keyHolds+1), true) // it was the oldest
}
