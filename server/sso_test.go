package server

import (
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"

	"nexufix/app/people"
	peopleroutes "nexufix/server/people"
	"nexufix/standins/idp"
)

// company is a desk with a simulated identity provider beside it, that of OpenID Connect Core 1.0, and two who may sign in there.
type company struct {
	*desk
	provider *idp.Provider
	known    []idp.Person
	sso      *peopleroutes.SSO
}

const deskAt = "http://127.0.0.1:8460"

func newCompany(t *testing.T) *company {
	t.Helper()
	c := &company{desk: withPeople(t)}
	s := httptest.NewUnstartedServer(nil)
	issuer := "http://" + s.Listener.Addr().String()
	var err error
	if c.provider, err = idp.New(issuer, "nexufix", "kept between two", func() []idp.Person { return c.known }); err != nil {
		t.Fatal(err)
	}
	s.Config.Handler = c.provider
	s.Start()
	t.Cleanup(s.Close)
	c.sso = &peopleroutes.SSO{Issuer: issuer, Client: "nexufix", Secret: "kept between two", Claim: "preferred_username", Base: deskAt}
	if err := c.sso.Check(); err != nil {
		t.Fatal(err)
	}
	if c.srv, err = New(c.srv.store, c.srv.log, Hosts{Loopback: true}, c.plots, peopleroutes.Options{Demo: true, SSO: c.sso}); err != nil {
		t.Fatal(err)
	}
	for _, login := range []string{"ines", "olaf@loaves.example"} {
		n := people.NewPerson{Identity: people.Identity{Login: login, Name: "Somebody"}, Role: people.Engineer, SSO: true}
		if _, err := n.Add(t.Context(), c.srv.store, people.Person{Name: "test", Role: people.Administrator}, false); err != nil {
			t.Fatal(err)
		}
	}
	c.known = []idp.Person{{Subject: "s-1", Login: "ines", Name: "Ines"}, {Subject: "s-2", Login: "engineer1", Name: "Somebody else"}}
	return c
}

// way is a browser on the way: where the desk sends it, and the cookie that it was given.
func (c *company) way() (to *url.URL, cookie *http.Cookie) {
	c.t.Helper()
	a := c.as(nil, http.MethodGet, "/sign-in/sso", "")
	if a.StatusCode != http.StatusSeeOther || len(a.Cookies()) != 1 {
		c.t.Fatalf("the way begins with %d, cookies %v: %s", a.StatusCode, a.Cookies(), a.body)
	}
	to, err := url.Parse(a.Header.Get("Location"))
	if err != nil || !strings.HasPrefix(to.String(), c.provider.Issuer+"/authorize?") {
		c.t.Fatalf("the way goes to %v, %v", to, err)
	}
	return to, a.Cookies()[0]
}

// picked is where the provider sends back to.
func (c *company) picked(to *url.URL, subject string) string {
	c.t.Helper()
	there := *to
	there.Path = "/pick"
	q := there.Query()
	q.Set("who", subject)
	there.RawQuery = q.Encode()
	client := http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	r, err := client.Get(there.String())
	if err != nil {
		c.t.Fatal(err)
	}
	r.Body.Close()
	return strings.TrimPrefix(r.Header.Get("Location"), deskAt)
}

// come goes all the way and says who is signed in then, or why nobody is.
func (c *company) come(subject string) string {
	to, cookie := c.way()
	return c.arrive(cookie, c.picked(to, subject))
}

func (c *company) arrive(cookie *http.Cookie, back string) string {
	c.t.Helper()
	a := c.as(cookie, http.MethodGet, back, "")
	if a.StatusCode >= 500 {
		c.t.Errorf("back with %d %s", a.StatusCode, a.body)
	}
	for _, given := range a.Cookies() {
		if given.Name == "nexufix" {
			if !given.HttpOnly || given.SameSite != http.SameSiteLaxMode || a.Header.Get("Location") != "/desk" {
				c.t.Errorf("the session is %v, and on to %s", given, a.Header.Get("Location"))
			}
			return string(c.as(given, http.MethodGet, "/api/me", "").body)
		}
	}
	return a.Header.Get("Location")
}

// TestSingleSignOn is the round trip, and everything by which it could be made to lie: OpenID Connect Core 1.0, 3.1.3.7 (audience,
// issuer, expiry, nonce, key), RFC 6749 10.12 (state), RFC 7636 (PKCE), RFC 9700 4.5 (a code of another sign-in).
func TestSingleSignOn(t *testing.T) {
	c := newCompany(t)
	wants := func(what, got, want string) {
		t.Helper()
		if !strings.Contains(got, want) {
			t.Errorf("%s: got %q, want %q", what, got, want)
		}
	}
	for why, f := range map[string]idp.Faults{"expected audience": {Audience: true}, "nonce is of another": {Nonce: true},
		"token is expired": {Expired: true}, "failed to verify signature": {Key: true}, "issued by a different provider": {Issuer: true},
		"given to another client": {Party: true}, "of another subject": {Told: true}} {
		c.provider.Fail(f)
		c.log.Reset()
		wants(why, c.come("s-1"), "sso=proof")
		wants("the reason in the log", c.log.String(), why)
	}
	c.provider.Fail(idp.Faults{Spare: true})
	wants("told at the userinfo endpoint", c.come("s-1"), `"login":"ines"`)
	c.provider.Fail(idp.Faults{})
	wants("somebody without an account", c.come("s-2"), "sso=unknown") // the login is that of an account with a password
	wants("nobody picked", c.come(""), "sso=no")

	to, _ := c.way()
	back := c.picked(to, "s-1")
	wants("no cookie", c.arrive(nil, back), "sso=late")
	_, other := c.way()
	wants("another browser's way", c.arrive(other, back), "sso=late")
	to, cookie := c.way()
	mine, stolen := c.picked(to, ""), c.picked(to, "s-1")
	forged, err := url.Parse(mine)
	if err != nil {
		t.Fatal(err)
	}
	code, err := url.Parse(stolen)
	if err != nil {
		t.Fatal(err)
	}
	again, fresh := c.way()
	q := url.Values{"state": {again.Query().Get("state")}, "code": {code.Query().Get("code")}}
	forged.RawQuery = q.Encode()
	wants("a code that was given to somebody else", c.arrive(fresh, forged.String()), "sso=proof")
	wants("its owner after that", c.arrive(cookie, stolen), "sso=proof") // a code that was tried is good no more

	to, cookie = c.way()
	back = c.picked(to, "s-1")
	wants("the round trip", c.arrive(cookie, back), `"login":"ines"`)
	wants("once more with the same", c.arrive(cookie, back), "sso=late")

	c.known[0].Login = "ines.married"
	wants("another login, the same subject", c.come("s-1"), `"login":"ines"`)
	c.known[1].Login = "ines"
	wants("the same login, another subject", c.come("s-2"), "sso=unknown")

	p, err := c.srv.store.PersonByLogin(t.Context(), "ines")
	if err != nil {
		t.Fatal(err)
	}
	by, yes, no := people.Person{Name: "test", Role: people.Administrator}, true, false
	change := func(ch people.PersonChange) {
		t.Helper()
		if _, err := ch.Change(t.Context(), c.srv.store, by, p.ID); err != nil {
			t.Fatal(err)
		}
	}
	change(people.PersonChange{Disabled: &yes})
	wants("who is shut out", c.come("s-1"), "sso=unknown")
	change(people.PersonChange{Disabled: &no, SSO: &no})
	wants("who signs in with a password now", c.come("s-1"), "sso=unknown")
	change(people.PersonChange{SSO: &yes})
	wants("whoever has the login, after it was given anew", c.come("s-2"), `"login":"ines"`)

	// In a demo, too, who has no password is not signed in by a press or a guess.
	for _, login := range []string{"ines", "olaf@loaves.example"} {
		for _, password := range []string{"", "-"} {
			if cookie, a := c.signIn(login, password); cookie != nil || a.StatusCode != http.StatusUnauthorized {
				t.Errorf("%s signs in with %q: %d", login, password, a.StatusCode)
			}
		}
	}
	change(people.PersonChange{SSO: &no})
	if cookie, _ := c.signIn("ines", ""); cookie != nil {
		t.Error("who has lost single sign-on signs in with one press")
	}
}

// TestSignOnByMail: a mail address is a login only where the provider says that it is theirs.
func TestSignOnByMail(t *testing.T) {
	c := newCompany(t)
	c.sso.Claim = "email"
	c.known = []idp.Person{{Subject: "s-1", Login: "ines", Mail: "olaf@loaves.example"},
		{Subject: "s-2", Login: "o", Mail: "olaf@loaves.example", Proved: true}, {Subject: "s-3", Login: "ines"}}
	if got := c.come("s-1"); !strings.Contains(got, "sso=proof") {
		t.Errorf("an address that is not verified: %s", got)
	}
	if got := c.come("s-3"); !strings.Contains(got, "sso=proof") {
		t.Errorf("no address: %s", got)
	}
	if got := c.come("s-2"); !strings.Contains(got, `"login":"olaf@loaves.example"`) {
		t.Errorf("a verified address: %s", got)
	}
}

// TestProviderIsAway: who cannot reach the provider is told, and a password goes on working; settings that would send a secret in the
// clear are refused.
func TestProviderIsAway(t *testing.T) {
	c := newCompany(t)
	c.sso.Issuer = "http://127.0.0.1:1"
	for range 2 {
		if a := c.as(nil, http.MethodGet, "/sign-in/sso", ""); a.Header.Get("Location") != "/?sso=away" {
			t.Errorf("%d to %s", a.StatusCode, a.Header.Get("Location"))
		}
	}
	if cookie, a := c.signIn("engineer1", "seven loaves on a rail"); cookie == nil {
		t.Errorf("no password is taken: %d", a.StatusCode)
	}
	for _, issuer := range []string{"", "idp.example", "http://idp.example", "ftp://idp.example", "https://u:p@idp.example",
		"https://idp.example?x"} {
		if err := (&peopleroutes.SSO{Issuer: issuer, Client: "a", Secret: "b", Claim: "email"}).Check(); err == nil {
			t.Errorf("%q is taken for an identity provider", issuer)
		}
	}
	alone := newDesk(t)
	if a := alone.as(nil, http.MethodGet, "/sign-in/sso", ""); a.StatusCode != http.StatusNotFound {
		t.Errorf("a desk without a provider: %d", a.StatusCode)
	}
}
