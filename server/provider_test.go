package server

import (
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"

	"github.com/zitadel/oidc/v3/example/server/exampleop"
	"github.com/zitadel/oidc/v3/example/server/storage"

	"nexufix/app/people"
	peopleroutes "nexufix/server/people"
)

// TestAnotherProvider: somebody signs in at a provider that others wrote (zitadel/oidc's example, a certified OpenID provider's library),
// by their login and by their mail address; who has no account here is told so.
func TestAnotherProvider(t *testing.T) {
	before := slog.Default() // which the example replaces
	defer slog.SetDefault(before)
	s := httptest.NewUnstartedServer(nil)
	issuer := strings.Replace("http://"+s.Listener.Addr().String(), "127.0.0.1", "localhost", 1)
	users := storage.NewUserStore(issuer)
	storage.RegisterClients(storage.WebClient("nexufix", "kept between two", deskAt+"/sign-in/sso/back"))
	s.Config.Handler = exampleop.SetupServer(issuer, storage.NewStorage(users), slog.New(slog.DiscardHandler), false)
	s.Start()
	defer s.Close()
	user := users.GetUserByID("id1")

	for _, of := range [][2]string{{"preferred_username", user.Username}, {"email", user.Email}, {"preferred_username", ""}} {
		claim, login := of[0], of[1]
		t.Run(claim+" "+login, func(t *testing.T) {
			d := withPeople(t)
			sso := &peopleroutes.SSO{Issuer: issuer, Client: "nexufix", Secret: "kept between two", Claim: claim, Base: deskAt}
			var err error
			if d.srv, err = New(d.srv.store, d.srv.log, Hosts{Loopback: true}, d.plots, peopleroutes.Options{SSO: sso}); err != nil {
				t.Fatal(err)
			}
			if login != "" {
				n := people.NewPerson{Identity: people.Identity{Login: login, Name: "Somebody"}, Role: people.Engineer, SSO: true}
				if _, err := n.Add(t.Context(), d.srv.store, people.Person{Name: "test", Role: people.Administrator}, false); err != nil {
					t.Fatal(err)
				}
			}
			begun := d.as(nil, http.MethodGet, "/sign-in/sso", "")
			jar, err := cookiejar.New(nil)
			if err != nil {
				t.Fatal(err)
			}
			browser := &http.Client{Jar: jar, CheckRedirect: func(r *http.Request, _ []*http.Request) error {
				if strings.HasPrefix(r.URL.String(), deskAt) {
					return http.ErrUseLastResponse
				}
				return nil
			}}
			form, err := browser.Get(begun.Header.Get("Location"))
			if err != nil {
				t.Fatal(err)
			}
			form.Body.Close()
			back, err := browser.PostForm(issuer+"/login/username", url.Values{"id": {form.Request.URL.Query().Get("authRequestID")},
				"username": {user.Username}, "password": {user.Password}})
			if err != nil {
				t.Fatal(err)
			}
			back.Body.Close()
			a := d.as(begun.Cookies()[0], http.MethodGet, strings.TrimPrefix(back.Header.Get("Location"), deskAt), "")
			if login == "" {
				if a.Header.Get("Location") != "/?sso=unknown" {
					t.Errorf("%d to %s", a.StatusCode, a.Header.Get("Location"))
				}
				return
			}
			if a.Header.Get("Location") != "/desk" {
				t.Fatalf("%d to %s: %s", a.StatusCode, a.Header.Get("Location"), &d.log)
			}
			for _, c := range a.Cookies() {
				if c.Name != "nexufix" {
					continue
				}
				if me := read[peopleroutes.Me](t, d.as(c, http.MethodGet, "/api/me", ""), 200); me.Login != login || !me.SSO {
					t.Errorf("%+v", me)
				}
			}
		})
	}
}
