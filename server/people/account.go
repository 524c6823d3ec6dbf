package people

import (
	"context"
	"crypto/sha256"
	"encoding/base64"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/labstack/echo/v5"
	"github.com/mileusna/useragent"

	"nexufix/app/people"
	"nexufix/core/rights"
	"nexufix/exchange"
	"nexufix/language"
	"nexufix/server/api"
	"nexufix/store"
)

// ownRoutes are what people do with their own account beside their password. All but signing in and giving a token takes a session.
func (d *Authenticator) ownRoutes() []api.Route {
	post := func(path, summary string, request, answer any, h echo.HandlerFunc) api.Route {
		return api.Post(path, summary, request, answer, func(c *echo.Context) error {
			if _, err := known(c); err != nil {
				return err
			}
			return h(c)
		}).Requires(rights.Password)
	}
	return []api.Route{
		api.Get("/api/own", "One's own account: second factor, sessions, tokens.", nil, Own{}, d.own).Requires(rights.Password),
		post("/api/own/authenticator", "A secret for an authenticator; nothing is kept yet.", byPassword{}, people.Authenticator{},
			d.newAuthenticator),
		post("/api/own/authenticator/keep", "Keep that authenticator, by a code of it.", code{}, Own{}, d.keepAuthenticator),
		post("/api/own/authenticator/remove", "Ask for no code any more.", byPassword{}, Own{}, d.dropAuthenticator),
		post("/api/own/passkey", "What navigator.credentials.create() takes, to make a passkey.", byPassword{}, map[string]any{}, d.newPasskey),
		post("/api/own/passkey/keep", "Keep that passkey.", PasskeyAnswer{}, Own{}, d.addPasskey),
		post("/api/own/passkey/remove", "Take a passkey away.", passkeyAsk{}, Own{}, d.dropPasskey),
		post("/api/own/language", "Choose the language that one reads the page in.", languageAsk{}, nil, d.setLanguage).Returns(204, ""),
		post("/api/own/sessions/end", "End a session, or all but this one.", sessionAsk{}, Own{}, d.endSession),
		post("/api/tokens/{id}/end", "End a token: one's own, or an administrator any.", api.ByNumber{}, Own{}, d.endToken),
		api.Get("/api/tokens", "The tokens that are good.", nil, []people.GivenToken{}, d.tokens).Requires(rights.People),
		api.Post("/api/tokens", "Give somebody a token for scripts; it is shown once.", people.Token{}, Text{},
			d.addToken).Requires(rights.People),
		api.Post("/api/sign-in/passkey", "What navigator.credentials.get() takes, to sign in.", nil, map[string]any{},
			d.askPasskey).Requires(rights.Enter),
		api.Post("/api/sign-in/passkey/shown", "Sign in by passkey.", PasskeyAnswer{}, Me{}, d.signInByPasskey).Requires(rights.Enter),
	}
}

type languageAsk struct {
	Language string `json:"language" required:"true" pattern:"^[a-z]{2,3}$" description:"One of those that there are: en, de."`
}

func (d *Authenticator) setLanguage(c *echo.Context) error {
	in, err := api.Read[languageAsk](c)
	if err != nil {
		return err
	}
	if !slices.Contains(language.Codes(), in.Language) {
		return exchange.Problems{{Path: "language", Found: strconv.Quote(in.Language) + " is not known",
			Allowed: strings.Join(language.Codes(), ", ")}}
	}
	if err := d.store.SetLanguage(c.Request().Context(), api.Person(c).ID, in.Language); err != nil {
		return err
	}
	return c.NoContent(http.StatusNoContent)
}

type byPassword struct {
	Current *string `json:"current,omitempty" maxLength:"400" description:"One's password, where there is one."`
}

type code struct {
	Code string `json:"code" required:"true" maxLength:"20"`
}

type passkeyAsk struct {
	ID string `json:"id" required:"true" maxLength:"2000"`
	byPassword
}

type sessionAsk struct {
	ID string `json:"id,omitempty" maxLength:"100" description:"Absent: all but this one."`
}

// Text is the text of a token.
type Text struct {
	Text string `json:"text" required:"true"`
}

// Own is one's own account.
type Own struct {
	Mail          string              `json:"mail,omitempty"`
	Authenticator bool                `json:"authenticator"`
	Passkeys      []Passkey           `json:"passkeys" required:"true"`
	Named         bool                `json:"named" description:"The server was asked by a name, to which a passkey can belong."`
	Sessions      []Session           `json:"sessions" required:"true"`
	Tokens        []people.GivenToken `json:"tokens" required:"true"`
}

// Passkey is a passkey as its person sees it.
type Passkey struct {
	ID   string `json:"id" required:"true"`
	Name string `json:"name" required:"true"`
	At   string `json:"at" required:"true"`
	Used string `json:"used,omitempty"`
}

// Session is a session as its person sees it.
type Session struct {
	ID    string `json:"id" required:"true"`
	By    string `json:"by,omitempty" description:"The browser."`
	From  string `json:"from,omitempty" description:"The address."`
	Began string `json:"began,omitempty"`
	Seen  string `json:"seen" required:"true" description:"Its last request, within five minutes."`
	This  bool   `json:"this"`
}

// browserName is a browser as people call it, of its User-Agent.
func browserName(agent string) string {
	a := useragent.Parse(agent[:min(len(agent), 400)])
	name := store.OneLine(strings.TrimSpace(a.Name + " on " + a.OS))
	if a.Name == "" || a.OS == "" {
		return "a program"
	}
	return name[:min(len(name), 60)]
}

// mayOwn asks for the password of who changes how they sign in, a few times.
func (d *Authenticator) mayOwn(c *echo.Context, current *string) error {
	return d.tried(c, current, func() error { return people.MayOwn(c.Request().Context(), d.store, api.Person(c), current) })
}

// ownChanged answers with the account after a change of it: the session in which it was made goes on.
func (d *Authenticator) ownChanged(c *echo.Context) func(store.Person, error) error {
	return func(p store.Person, err error) error {
		if err != nil {
			return err
		}
		d.sessions.Put(c.Request().Context(), "second", p.HasSecond()) // which was shown just now, or is no more
		if err := d.goOn(c, &p); err != nil {
			return err
		}
		return d.own(c)
	}
}

func (d *Authenticator) own(c *echo.Context) error {
	ctx, by := c.Request().Context(), api.Person(c)
	if _, err := known(c); err != nil {
		return err
	}
	p, err := d.store.Person(ctx, by.ID)
	if err != nil {
		return err
	}
	out := Own{Mail: p.Mail, Authenticator: p.TOTP != "", Passkeys: []Passkey{}}
	for _, k := range p.Keys {
		out.Passkeys = append(out.Passkeys, Passkey{k.ID, k.Name, k.At, k.Used})
	}
	_, err = relying(c)
	out.Named = err == nil
	if out.Sessions, err = d.sessionsOf(ctx, &p); err != nil {
		return err
	}
	if out.Tokens, err = people.Tokens(ctx, d.store, by.ID); err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

// storedName is a session's token as it is stored, its name for its person.
func storedName(token string) string {
	sum := sha256.Sum256([]byte(token)) // as scs does with HashTokenInStore
	return base64.RawURLEncoding.EncodeToString(sum[:])
}

// sessionsOf lists the sessions of an account that hold, the latest first.
func (d *Authenticator) sessionsOf(ctx context.Context, p *store.Person) ([]Session, error) {
	all, err := d.sessions.Store.(interface {
		Of(ctx context.Context, person int64) (map[string][]byte, error)
	}).Of(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	this, out := storedName(d.sessions.Token(ctx)), []Session{}
	for id, raw := range all {
		_, values, err := d.sessions.Codec.Decode(raw)
		if err != nil {
			continue
		}
		number := func(key string) int64 { n, _ := values[key].(int64); return n }
		text := func(key string) string { s, _ := values[key].(string); return s }
		epoch, _ := values["epoch"].(int)
		seen := time.Unix(number("seen"), 0)
		if number("person") != p.ID || epoch != p.Epoch || time.Since(seen) > d.Idle {
			continue
		}
		s := Session{ID: id, By: text("by"), From: text("from"), Seen: seen.UTC().Format(time.RFC3339), This: id == this}
		if began := number("began"); began > 0 {
			s.Began = time.Unix(began, 0).UTC().Format(time.RFC3339)
		}
		out = append(out, s)
	}
	slices.SortFunc(out, func(a, b Session) int { return strings.Compare(b.Seen+b.ID, a.Seen+a.ID) })
	return out, nil
}

func (d *Authenticator) endSession(c *echo.Context) error {
	in, err := api.Read[sessionAsk](c)
	if err != nil {
		return err
	}
	ctx, by := c.Request().Context(), api.Person(c)
	p, err := d.store.Person(ctx, by.ID)
	if err != nil {
		return err
	}
	all, err := d.sessionsOf(ctx, &p)
	if err != nil {
		return err
	}
	ended := 0
	for _, s := range all {
		if in.ID == s.ID || in.ID == "" && !s.This {
			if err := d.sessions.Store.(scs.CtxStore).DeleteCtx(ctx, s.ID); err != nil {
				return err
			}
			ended++
		}
	}
	if in.ID != "" && ended == 0 {
		return store.ErrNotFound
	}
	if err := people.NoteSessions(ctx, d.store, by, ended); err != nil {
		return err
	}
	return d.own(c)
}

func (d *Authenticator) newAuthenticator(c *echo.Context) error {
	in, err := api.Read[byPassword](c)
	if err != nil {
		return err
	}
	if err := d.mayOwn(c, in.Current); err != nil {
		return err
	}
	out, err := people.NewAuthenticator(api.Person(c).Login)
	if err != nil {
		return err
	}
	if err := d.keepWay(c, "authenticator", out.Secret); err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

func (d *Authenticator) keepAuthenticator(c *echo.Context) error {
	in, err := api.Read[code](c)
	if err != nil {
		return err
	}
	var secret string
	if err := d.kept(c, "authenticator", &secret); err != nil {
		return err
	}
	p, err := people.KeepAuthenticator(c.Request().Context(), d.store, api.Person(c), secret, in.Code)
	if err == nil {
		err = d.drop(c, "authenticator")
	}
	return d.ownChanged(c)(p, err)
}

func (d *Authenticator) dropAuthenticator(c *echo.Context) error {
	in, err := api.Read[byPassword](c)
	if err != nil {
		return err
	}
	if err := d.mayOwn(c, in.Current); err != nil {
		return err
	}
	return d.ownChanged(c)(people.DropAuthenticator(c.Request().Context(), d.store, api.Person(c)))
}

func (d *Authenticator) dropPasskey(c *echo.Context) error {
	in, err := api.Read[passkeyAsk](c)
	if err != nil {
		return err
	}
	if err := d.mayOwn(c, in.Current); err != nil {
		return err
	}
	return d.ownChanged(c)(people.DropPasskey(c.Request().Context(), d.store, api.Person(c), in.ID))
}

func (d *Authenticator) tokens(c *echo.Context) error {
	out, err := people.Tokens(c.Request().Context(), d.store, 0)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

func (d *Authenticator) addToken(c *echo.Context) error {
	by, err := known(c)
	if err != nil {
		return err
	}
	if by.Script { // a token would make itself another that lasts longer
		return rights.ByToken{}
	}
	in, err := api.Read[people.Token](c)
	if err != nil {
		return err
	}
	text, err := in.Add(c.Request().Context(), d.store, by)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, Text{text})
}

func (d *Authenticator) endToken(c *echo.Context) error {
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	if err := people.EndToken(c.Request().Context(), d.store, api.Person(c), id); err != nil {
		return err
	}
	return d.own(c)
}
