// Package people authenticates: sessions, sign-in and sign-out, accounts and their roles, single sign-on, and the desk
// without accounts.
package people

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/subtle"
	"errors"
	"log/slog"
	"net/http"
	"strings"
	"sync/atomic"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/go-webauthn/webauthn/webauthn"
	"github.com/hashicorp/golang-lru/v2/expirable"
	"github.com/labstack/echo/v5"

	"nexufix/app/people"
	"nexufix/core/rights"
	"nexufix/server/api"
	"nexufix/store"
)

// The longest life of a session, and how exactly the time of its last request is stored.
const (
	longest = 12 * time.Hour
	seenBy  = 5 * time.Minute
)

// Idle is the default time after which an idle session ends.
const Idle = 2 * time.Hour

// Options are the ways to sign in.
type Options struct {
	Demo bool          // people without a password sign in with one press
	SSO  *SSO          // the company's identity provider; nil: none
	Idle time.Duration // an idle session ends after it; 0: [Idle]
	// The least role of who needs a second factor, unless they come by the identity provider; [app.Nobody]: nobody does.
	Second people.Role
}

// Authenticator authenticates requests and checks roles.
type Authenticator struct {
	store    *store.Store
	sessions *scs.SessionManager
	// Of sign-ins by passkey, by their cookies.
	challenges       *expirable.LRU[string, *webauthn.SessionData]
	providerSessions *scs.SessionManager // to the identity provider and back: state, nonce, PKCE's verifier
	people           atomic.Bool         // there are accounts; none is ever removed
	code             atomic.Pointer[string]
	guesses          *guesses        // of passwords
	setups           api.RateLimiter // of the setup code
	codes            api.RateLimiter // of authenticators: each is good once
	mails            api.RateLimiter // mail addresses that a person gives, to each of which is written: ten, and then one in ten minutes
	asked            api.RateLimiter // ways to the identity provider: each address has thirty, and then one in two seconds
	Options
	log *slog.Logger
}

// NewDoor makes the door of a server.
func NewDoor(st *store.Store, log *slog.Logger, o Options) *Authenticator {
	o.Idle = cmp.Or(o.Idle, Idle)
	d := &Authenticator{store: st, sessions: scs.New(), Options: o, guesses: newGuesses(), setups: api.RateLimiter{Some: 8,
		Every: 40 * time.Second},
		codes: api.RateLimiter{Some: 1, Every: people.CodeLives},
		mails: api.RateLimiter{Some: 10, Every: 10 * time.Minute}, asked: api.RateLimiter{Some: 30, Every: 2 * time.Second}, log: log}
	d.challenges = expirable.NewLRU[string, *webauthn.SessionData](maxChallenges, nil, signsInFor)
	d.providerSessions = scs.New()
	d.sessions.Lifetime, d.providerSessions.Lifetime = longest, signsInFor
	for _, m := range []*scs.SessionManager{d.sessions, d.providerSessions} {
		m.Store = store.Sessions{Store: st}
		if st != nil && st.OnlyReads() {
			m.Store = newOwnSessions(st)
		}
		m.HashTokenInStore = true
	}
	if st == nil || log == nil {
		return d
	}
	code := rand.Text()[:12]
	d.code.Store(&code)
	if has, err := d.has(nil); err == nil && !has {
		log.Info("a desk of one: nobody signs in; to make accounts, open /people with this code", "code", code)
	}
	return d
}

// has reports whether there are accounts.
func (d *Authenticator) has(c *echo.Context) (bool, error) {
	if d.people.Load() {
		return true, nil
	}
	ctx := background
	if c != nil {
		ctx = c.Request().Context()
	}
	has, err := d.store.HasPeople(ctx)
	if has {
		d.people.Store(true)
	}
	return has, err
}

// Enter finds the person of a request.
func (d *Authenticator) Enter(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		has, err := d.has(c)
		if err != nil {
			return err
		}
		if !has {
			api.Asks(c, people.Person{Name: "local", Role: people.Administrator, Local: true})
			api.Checks(c, func(context.Context) bool { return !d.people.Load() }) // until there are accounts
			return next(c)
		}
		r := c.Request()
		if token, ok := strings.CutPrefix(r.Header.Get("Authorization"), "Bearer "); ok {
			if err := d.byToken(c, strings.TrimSpace(token)); err != nil {
				return err
			}
			return next(c)
		}
		token := sentCookie(c, cookie)
		ctx, err := d.sessions.Load(r.Context(), token)
		if err != nil {
			return err
		}
		c.SetRequest(r.WithContext(ctx))
		id := d.sessions.GetInt64(ctx, "person")
		if id == 0 {
			return next(c)
		}
		p, in, err := d.letIn(ctx)
		if err != nil {
			return err
		}
		if !in {
			if err := d.sessions.Destroy(ctx); err != nil {
				d.log.Warn("a session that ended is still stored", "err", err)
			}
			return next(c)
		}
		d.works(ctx, r)
		api.Asks(c, d.personOf(&p, way{d.sessions.GetBool(ctx, "sso"), d.sessions.GetBool(ctx, "second")}))
		api.Checks(c, func(context.Context) bool {
			ctx, err := d.sessions.Load(background, token) // a request's context has the session as it was
			if err != nil {
				return false
			}
			again, in, err := d.letIn(ctx)
			return err == nil && in && again.ID == p.ID
		})
		return next(c)
	}
}

// works notes that the person of a session works; looking goes on where nothing can be written. A page that listens by itself is nobody who
// works.
func (d *Authenticator) works(ctx context.Context, r *http.Request) {
	ago := time.Since(d.seen(ctx))
	if r.Header.Get("Accept") == "text/event-stream" || ago <= min(seenBy, d.Idle/10) && ago >= 0 { // the clock may have been put back
		return
	}
	d.sessions.Put(ctx, "seen", time.Now().Unix())
	if _, _, err := d.sessions.Commit(ctx); err != nil {
		d.log.Warn("that somebody works was not noted", "err", err)
	}
}

// needsSecond reports whether a person needs a second factor here; whom the identity provider knows, it asks for one.
func (d *Authenticator) needsSecond(p *store.Person) bool {
	return d.Second != people.Nobody && people.Role(p.Role).May(d.Second)
}

// byToken finds the person of a request with a token.
func (d *Authenticator) byToken(c *echo.Context, token string) error {
	p, ok, err := people.ByToken(c.Request().Context(), d.store, token)
	if err != nil {
		return err
	}
	if !ok {
		return api.New(http.StatusUnauthorized, "That token is not good, or no more.", "Ask an administrator for another.")
	}
	api.Asks(c, p)
	api.Checks(c, func(ctx context.Context) bool {
		again, ok, err := people.ByToken(ctx, d.store, token)
		return err == nil && ok && again.ID == p.ID
	})
	return nil
}

// seen is when a session's last request was, as it was stored.
func (d *Authenticator) seen(ctx context.Context) time.Time {
	return time.Unix(d.sessions.GetInt64(ctx, "seen"), 0)
}

// letIn finds the person of a loaded session, and whether they are let in still.
func (d *Authenticator) letIn(ctx context.Context) (p store.Person, in bool, err error) {
	p, err = d.store.Person(ctx, d.sessions.GetInt64(ctx, "person"))
	if errors.Is(err, store.ErrNotFound) {
		return p, false, nil
	}
	return p, err == nil && !p.Disabled && p.Epoch == d.sessions.GetInt(ctx, "epoch") && time.Since(d.seen(ctx)) <= d.Idle, err
}

// errGiven and errSecond are the answers to who has not chosen a password, or a second factor, yet.
var (
	errGiven = api.New(http.StatusForbidden, "Choose a password of your own first.", "The one that you signed in with was given to you.")

	errSecond = api.New(http.StatusForbidden, "Set up a second factor first.", "Your role takes an authenticator or a passkey here.")
)

// RequireRight refuses requests of people, and of tokens, that may never do what is done by a route, nor the other thing ("": none).
func RequireRight(act, other rights.Act) echo.MiddlewareFunc {
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			p := api.Person(c)
			if need := rights.Least(act); !p.Role.May(need) && p.ID == 0 {
				if c.Request().Method == http.MethodGet && strings.HasPrefix(c.Request().URL.Path, "/at/") {
					return c.Redirect(http.StatusSeeOther, api.At(c, "/?then="+c.Request().URL.EscapedPath()))
				}
				return api.New(http.StatusUnauthorized, "Sign in first.", "")
			}
			switch {
			case act == rights.Enter, p.Script, act == rights.Password: // by which either is set right
			case p.Given:
				return errGiven
			case p.NoSecond:
				return errSecond
			}
			if err := p.May(act, nil); err != nil && (other == "" || p.May(other, nil) != nil) {
				return err
			}
			return next(c)
		}
	}
}

// way is how somebody has signed in.
type way struct {
	sso    bool // the identity provider knows them
	second bool // they have shown a second factor
}

// personOf is the person of an account who has signed in in a way.
func (d *Authenticator) personOf(p *store.Person, by way) people.Person {
	who := people.PersonOf(p)
	who.BySSO, who.Second = by.sso, by.second
	who.NoSecond = d.needsSecond(p) && !by.sso && !by.second
	return who
}

// begin signs a person in under a new session token, against session fixation.
func (d *Authenticator) begin(c *echo.Context, p *store.Person, by way) error {
	ctx, err := d.sessions.Load(c.Request().Context(), "") // a desk of one had none to load
	if err != nil {
		return err
	}
	if err := d.sessions.RenewToken(ctx); err != nil {
		return err
	}
	d.sessions.Put(ctx, "person", p.ID)
	d.sessions.Put(ctx, "epoch", p.Epoch)
	d.sessions.Put(ctx, "seen", time.Now().Unix())
	d.sessions.Put(ctx, "began", time.Now().Unix())
	d.sessions.Put(ctx, "by", browserName(c.Request().UserAgent()))
	d.sessions.Put(ctx, "from", api.Address(c))
	d.sessions.Put(ctx, "sso", by.sso)
	d.sessions.Put(ctx, "second", by.second)
	token, until, err := d.sessions.Commit(ctx)
	if err != nil {
		return err
	}
	setCookie(c, cookie, token, until)
	return nil
}

// goOn lets a session go on, to the end that it had, though the account was changed.
func (d *Authenticator) goOn(c *echo.Context, p *store.Person) error {
	ctx := c.Request().Context()
	d.sessions.Put(ctx, "epoch", p.Epoch)
	_, _, err := d.sessions.Commit(ctx)
	return err
}

// cookie holds the session, ssoCookie the way to the identity provider: a person who turns back there keeps the session
// they had.
const (
	cookie    = "nexufix"
	ssoCookie = "nexufix-sso"
)

// cookieName is the name of a cookie: where the browser encrypts, one that no other host can set; below a path, where a browser takes
// that name for no cookie, one that can be set through HTTPS alone (RFC 6265bis 4.1.3).
func cookieName(c *echo.Context, name string) string {
	switch {
	case !api.Encrypted(c):
		return name
	case api.At(c, "") != "":
		return "__Secure-" + name
	}
	return "__Host-" + name
}

// sentCookie is the value of a cookie; "" where there is none.
func sentCookie(c *echo.Context, name string) string {
	sent, err := c.Request().Cookie(cookieName(c, name))
	if err != nil {
		return ""
	}
	return sent.Value
}

// setCookie sets a cookie, or removes it.
func setCookie(c *echo.Context, name, token string, until time.Time) {
	out := &http.Cookie{Name: cookieName(c, name), Value: token, Path: api.At(c, "/"), HttpOnly: true, SameSite: http.SameSiteLaxMode,
		Expires: until, Secure: api.Encrypted(c)}
	if token == "" {
		out.MaxAge = -1
	}
	c.SetCookie(out)
}

// end signs a person out.
func (d *Authenticator) end(c *echo.Context) error {
	ctx := c.Request().Context()
	if p := api.Person(c); p.ID == 0 || p.Script { // who has no session
		return nil
	}
	setCookie(c, cookie, "", time.Time{}) // the browser forgets it also where the disk is full
	return d.sessions.Destroy(ctx)
}

// checkSetupCode reports whether a setup code is the one in the log. It can be used once, and tried a few times.
func (d *Authenticator) checkSetupCode(code string) bool {
	want := d.code.Load()
	return want != nil && subtle.ConstantTimeCompare([]byte(*want), []byte(strings.TrimSpace(strings.ToUpper(code)))) == 1
}
