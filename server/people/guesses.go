package people

import (
	"net/http"
	"time"

	"github.com/labstack/echo/v5"

	"nexufix/app/people"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/store"
)

// guesses limits guessing of passwords. A login has under a hundred tries an hour, wherever they come from (OWASP ASVS 4.0.3, 2.2.1); an
// address has fewer for one login, so that one alone cannot use them up and keep its person out. A browser that somebody has signed in
// with before has tries of its own, whatever others do.
type guesses struct {
	addresses, logins, pairs, browsers api.RateLimiter
}

func newGuesses() *guesses {
	return &guesses{
		addresses: api.RateLimiter{Some: 20, Every: 20 * time.Second},
		logins:    api.RateLimiter{Some: 24, Every: time.Minute}, // 84 in an hour
		pairs:     api.RateLimiter{Some: 8, Every: 3 * time.Minute},
		browsers:  api.RateLimiter{Some: 8, Every: 40 * time.Second},
	}
}

// wait takes a try at a login; browser: the key of a known browser, "" of any other. The address is the first, so that one that
// is held back fills no table.
func (g *guesses) wait(address, login, browser string) time.Duration {
	if browser != "" {
		return g.browsers.Wait(browser)
	}
	if w := g.addresses.Wait(address); w > 0 {
		return w
	}
	if w := g.pairs.Wait(address + " " + login); w > 0 {
		return w
	}
	return g.logins.Wait(login)
}

// right forgets the tries before a right password.
func (g *guesses) right(address, login, browser string) {
	g.browsers.Forget(browser)
	if browser == "" {
		g.addresses.Forget(address)
		g.pairs.Forget(address + " " + login)
		g.logins.Forget(login)
	}
}

// knownCookie marks a browser that somebody has signed in with before.
const (
	knownCookie = "nexufix-known"
	knownFor    = 180 * 24 * time.Hour
)

// browser is the key of the tries of a known browser for a login; "" for any other.
func (d *Authenticator) browser(c *echo.Context, login string) (string, error) {
	token := sentCookie(c, knownCookie)
	if token == "" {
		return "", nil
	}
	known, err := people.KnownBrowser(c.Request().Context(), d.store, token, login)
	if err != nil || !known {
		return "", err
	}
	return people.TokenHash(token) + login, nil
}

// remember marks the browser as known, or prolongs it.
func (d *Authenticator) remember(c *echo.Context, p *store.Person) error {
	token, err := people.RememberBrowser(c.Request().Context(), d.store, sentCookie(c, knownCookie), p, knownFor)
	if err == nil && token != "" {
		setCookie(c, knownCookie, token, time.Now().Add(knownFor))
	}
	return err
}

// errTries is the answer to too many tries.
func errTries(wait time.Duration) error { return api.TooOften("Too many tries.", wait) }

// deny is the answer to a wrong login, password or code.
func deny(code string) error {
	what := "That is not the login and its password."
	if code != "" {
		what = "That is not the login, its password and a new code."
	}
	return api.New(http.StatusUnauthorized, what,
		"Try again, or ask an administrator for a new password.")
}

// errWantsKey is the answer to a right password where the role takes a second factor, and the account's are passkeys.
var errWantsKey = api.New(http.StatusUnauthorized, "Sign in with your passkey.", "Your role takes a second factor here.")

// errCode is the answer to a right password without the code that belongs to it.
func errCode() error {
	p := api.New(http.StatusUnauthorized, "Now the code of your authenticator.", "")
	p.Problems = exchange.Problems{{Path: "code", Found: "is missing", Allowed: "the six digits that the authenticator shows"}}
	return p
}
