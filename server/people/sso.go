package people

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"sync"
	"time"

	"github.com/coreos/go-oidc/v3/oidc"
	"github.com/labstack/echo/v5"
	"golang.org/x/oauth2"

	"nexufix/app/people"
	"nexufix/server/api"
)

// SSO is the company's identity provider (OpenID Connect), beside passwords.
type SSO struct {
	Issuer, Client, Secret string
	Name                   string // of it, for people
	Claim                  string // preferred_username or email: what is the login here
	Base                   string // of this server, as https://desk.example

	mu       sync.Mutex
	provider *oidc.Provider
	away     error // it did not answer
	since    time.Time
}

// Claims are the claims that can give the login.
var Claims = []string{"preferred_username", "email"}

// Time limits of a person at the provider and of the provider's answers, and the paths where the way there begins and ends.
const (
	signsInFor  = 10 * time.Minute
	answersFor  = 10 * time.Second
	awayFor     = 5 * time.Second // it is not asked again sooner
	ssoPath     = "/sign-in/sso"
	ssoBackPath = "/sign-in/sso/back"
)

// Check reports what is wrong with the settings: a provider on another machine needs HTTPS.
func (s *SSO) Check() error {
	issuer, err := url.Parse(s.Issuer)
	switch {
	case err != nil || issuer.Host == "" || issuer.RawQuery != "" || issuer.User != nil:
		return fmt.Errorf("the identity provider's address %q is none", s.Issuer)
	case issuer.Scheme != "https" && (issuer.Scheme != "http" || issuer.Hostname() != "127.0.0.1" && issuer.Hostname() != "::1"):
		return fmt.Errorf("the identity provider's address %q does not begin with https://", s.Issuer)
	case s.Client == "" || s.Secret == "":
		return errors.New("the identity provider knows this server by a client id and a secret: give both")
	case s.Claim != Claims[0] && s.Claim != Claims[1]:
		return fmt.Errorf("the login is the claim %s or %s, not %q", Claims[0], Claims[1], s.Claim)
	}
	return nil
}

// ask is a context with the time limit of the provider's answers.
func (s *SSO) ask(ctx context.Context) (context.Context, context.CancelFunc) {
	return context.WithTimeout(oidc.ClientContext(ctx, &http.Client{Timeout: answersFor}), answersFor)
}

// client discovers the provider's endpoints once; it tries again when the provider did not answer.
func (s *SSO) client(ctx context.Context) (*oauth2.Config, *oidc.Provider, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.provider == nil {
		// The keys are fetched with this context later too: it must not end with the request.
		if s.away != nil && time.Since(s.since) < awayFor {
			return nil, nil, s.away
		}
		p, err := oidc.NewProvider(oidc.ClientContext(context.WithoutCancel(ctx), &http.Client{Timeout: answersFor}), s.Issuer)
		if err != nil {
			s.away, s.since = err, time.Now()
			return nil, nil, err
		}
		s.provider = p
	}
	return &oauth2.Config{ClientID: s.Client, ClientSecret: s.Secret, Endpoint: s.provider.Endpoint(), RedirectURL: s.Base + ssoBackPath,
		Scopes: []string{oidc.ScopeOpenID, "profile", "email"}}, s.provider, nil
}

// atWall are the pages for installers, to which the sign-in returns.
var atWall = regexp.MustCompile(`^/at/[A-Za-z0-9_.-]+$`)

// what goes wrong on the way; the sign-in page has the words.
func refusedSSO(c *echo.Context, why string) error {
	return c.Redirect(http.StatusSeeOther, api.At(c, "/?sso="+why))
}

// goSSO sends the browser to the provider. State, nonce and verifier are kept in a session of their own.
func (d *Authenticator) goSSO(c *echo.Context) error {
	if has, err := d.has(c); err != nil {
		return err
	} else if d.SSO == nil || !has {
		return echo.ErrNotFound
	}
	if wait := d.asked.Wait(api.Address(c)); wait > 0 {
		return errTries(wait)
	}
	// The cookie has to be there for the address that the provider sends back to.
	if base, err := url.Parse(d.SSO.Base); err == nil && base.Host != c.Request().Host && c.QueryParam("again") == "" {
		return c.Redirect(http.StatusSeeOther, d.SSO.Base+ssoPath+"?again=1&then="+url.QueryEscape(c.QueryParam("then")))
	}
	ctx, end := d.SSO.ask(c.Request().Context())
	defer end()
	config, _, err := d.SSO.client(ctx)
	if err != nil {
		d.log.Warn("the identity provider does not answer", "err", err)
		return refusedSSO(c, "away")
	}
	session, err := d.providerSessions.Load(c.Request().Context(), "")
	if err != nil {
		return err
	}
	state, nonce, verifier := rand.Text(), rand.Text(), oauth2.GenerateVerifier()
	for key, value := range map[string]string{"state": state, "nonce": nonce, "verifier": verifier, "then": c.QueryParam("then")} {
		d.providerSessions.Put(session, key, value)
	}
	token, until, err := d.providerSessions.Commit(session)
	if err != nil {
		return err
	}
	setCookie(c, ssoCookie, token, until)
	return c.Redirect(http.StatusSeeOther, config.AuthCodeURL(state, oidc.Nonce(nonce), oauth2.S256ChallengeOption(verifier)))
}

// backSSO signs in a person who comes back from the provider. It takes the state that was given, once, and an ID token that the
// provider signed for this client and nonce and that has not expired.
func (d *Authenticator) backSSO(c *echo.Context) error {
	if d.SSO == nil {
		return echo.ErrNotFound
	}
	session, err := d.providerSessions.Load(c.Request().Context(), sentCookie(c, ssoCookie))
	if err != nil {
		return err
	}
	kept := func(key string) string { return d.providerSessions.GetString(session, key) }
	state, nonce, verifier, then := kept("state"), kept("nonce"), kept("verifier"), kept("then")
	if err := d.providerSessions.Destroy(session); err != nil {
		return err
	}
	setCookie(c, ssoCookie, "", time.Time{})
	if state == "" || subtle.ConstantTimeCompare([]byte(state), []byte(c.QueryParam("state"))) != 1 {
		return refusedSSO(c, "late")
	}
	if c.QueryParam("error") != "" {
		return refusedSSO(c, "no")
	}
	ctx, end := d.SSO.ask(c.Request().Context())
	defer end()
	who, err := d.SSO.prove(ctx, c.QueryParam("code"), verifier, nonce)
	if err != nil {
		d.log.Warn("a single sign-on was refused", "err", err)
		if err := people.RecordRefusal(c.Request().Context(), d.store, ""); err != nil {
			return err
		}
		return refusedSSO(c, "proof")
	}
	p, ok, err := people.SingleSignOn(c.Request().Context(), d.store, d.SSO.Issuer, who.subject, who.login)
	if err != nil {
		return err
	}
	if !ok {
		return refusedSSO(c, "unknown")
	}
	if err := d.begin(c, &p, way{sso: true}); err != nil {
		return err
	}
	if !atWall.MatchString(then) {
		then = "/desk"
	}
	return c.Redirect(http.StatusSeeOther, api.At(c, then))
}

type proved struct{ subject, login string }

// claims are what a provider says of a person.
type claims struct {
	Login  string `json:"preferred_username"`
	Mail   string `json:"email"`
	Proved bool   `json:"email_verified"`
}

// lacks reports whether what the login is taken from is not said.
func (c *claims) lacks(claim string) bool {
	if claim == "email" {
		return c.Mail == ""
	}
	return c.Login == ""
}

// prove exchanges the code at the provider and verifies the ID token.
func (s *SSO) prove(ctx context.Context, code, verifier, nonce string) (proved, error) {
	config, provider, err := s.client(ctx)
	if err != nil {
		return proved{}, err
	}
	token, err := config.Exchange(ctx, code, oauth2.VerifierOption(verifier))
	if err != nil {
		return proved{}, err
	}
	raw, _ := token.Extra("id_token").(string)
	id, err := provider.Verifier(&oidc.Config{ClientID: s.Client}).Verify(ctx, raw)
	if err != nil {
		return proved{}, err
	}
	if azp := struct {
		Party string `json:"azp"`
	}{}; id.Claims(&azp) != nil || azp.Party != s.Client && (azp.Party != "" || len(id.Audience) > 1) { // OpenID Connect Core 3.1.3.7
		return proved{}, errors.New("the token was given to another client")
	}
	if nonce == "" || subtle.ConstantTimeCompare([]byte(id.Nonce), []byte(nonce)) != 1 {
		return proved{}, errors.New("the token's nonce is of another sign-in")
	}
	var claims claims
	if err := id.Claims(&claims); err != nil {
		return proved{}, err
	}
	// A provider may keep them from the ID token and tell them to who has the access token (OpenID Connect Core 5.4).
	if claims.lacks(s.Claim) && provider.UserInfoEndpoint() != "" {
		info, err := provider.UserInfo(ctx, oauth2.StaticTokenSource(token))
		if err != nil {
			return proved{}, err
		}
		if info.Subject != id.Subject { // 5.3.2
			return proved{}, errors.New("what the provider tells is of another subject than the token")
		}
		if err := info.Claims(&claims); err != nil {
			return proved{}, err
		}
	}
	login := claims.Login
	if s.Claim == "email" {
		if login = claims.Mail; !claims.Proved {
			return proved{}, errors.New("the provider has not verified the mail address")
		}
	}
	if login == "" || id.Subject == "" {
		return proved{}, fmt.Errorf("the token has no %s or no subject", s.Claim)
	}
	return proved{id.Subject, login}, nil
}
