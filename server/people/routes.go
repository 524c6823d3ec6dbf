package people

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/labstack/echo/v5"

	"nexufix/app/people"
	"nexufix/core/rights"
	"nexufix/server/api"
	"nexufix/store"
)

var background = context.Background()

// Routes are the operations of the door.
func (d *Authenticator) Routes() []api.Route {
	return append(d.ownRoutes(), []api.Route{
		api.Get("/api/me", "Who asks, and whether people sign in here.", nil, Me{}, d.me).Requires(rights.Enter),
		api.Post("/api/sign-in", "Sign in; the session is a cookie.", SignIn{}, Me{}, d.signIn).Requires(rights.Enter),
		api.Post("/api/sign-out", "End the session.", nil, Me{}, d.signOut).Requires(rights.Enter),
		api.Post("/api/setup", "Make the first administrator, with the code in the server's log.", Setup{}, Me{}, d.setup).Requires(rights.Enter),
		api.Get(ssoPath, "To the company's identity provider, to sign in there.", againAsk{}, "",
			d.goSSO).Requires(rights.Enter).Returns(303, "text/html"),
		api.Get(ssoBackPath, "Back from the identity provider.", backAsk{}, "", d.backSSO).Requires(rights.Enter).Returns(303, "text/html"),
		api.Get("/api/people", "Who may sign in.", nil, []Account{}, d.list).Requires(rights.People),
		api.Post("/api/people", "Add somebody.", people.NewPerson{}, Account{}, d.add).Requires(rights.People).Returns(http.StatusCreated, ""),
		api.Post("/api/people/{id}", "Change a role, a password, or whether somebody may sign in; the sessions end.", changed{}, Account{},
			d.change).Requires(rights.Password).OrRequires(rights.People),
		api.Get("/api/audit", "What happened, the latest first.", auditAsk{}, people.AuditPage{}, d.audit).Requires(rights.Audit),
		api.Get("/api/audit/export", "The same, all of it, as CSV or lines of JSON.", auditAsk{}, "", d.exportAudit).Requires(rights.Audit).
			Weighs(api.Heavy).Returns(200, "text/csv"),
	}...)
}

type againAsk struct {
	Again string `query:"again" maxLength:"1"`
	Then  string `query:"then" maxLength:"200"`
}

type backAsk struct {
	State string `query:"state" maxLength:"200"`
	Code  string `query:"code" maxLength:"2000"`
	Error string `query:"error" maxLength:"200"`
}

// Me is the person of a request.
type Me struct {
	ID    int64       `json:"id,omitempty"` // absent: nobody, or the local person of a desk of one
	Login string      `json:"login,omitempty"`
	Name  string      `json:"name,omitempty"`
	Role  people.Role `json:"role,omitempty" enum:"reader,engineer,approver,administrator"`
	// What they may not do, by its name, with the role that it takes.
	Lacks map[rights.Act]people.Role `json:"lacks,omitempty"`
	// A desk without accounts.
	Alone bool `json:"alone"`
	// The account has a password, which a change of it asks for.
	Password bool `json:"password,omitempty"`
	// The password was given by somebody else: nothing else is done before it is changed.
	Given bool `json:"given,omitempty"`
	// A second factor is to be set up: nothing else is done before it is.
	NoSecond bool `json:"noSecond,omitempty"`
	// That they have chosen for the page.
	Language string `json:"language,omitempty"`
	// The account signs in by single sign-on.
	SSO bool `json:"sso,omitempty"`
	// Before sign-in: the name of the identity provider, where there is one.
	Provider string `json:"provider,omitempty"`
	// Of a demo: the accounts that sign in with one press.
	Others []Other `json:"others,omitempty"`
}

// Other is an account of a demo.
type Other struct {
	Login string      `json:"login" required:"true"`
	Name  string      `json:"name" required:"true"`
	Role  people.Role `json:"role" required:"true" enum:"reader,engineer,approver,administrator"`
}

func (d *Authenticator) me(c *echo.Context) error { return d.answer(c, api.Person(c)) }

func (d *Authenticator) answer(c *echo.Context, p people.Person) error {
	out := Me{ID: p.ID, Login: p.Login, Name: p.Name, Role: p.Role, Alone: p.Local}
	if p.Local {
		out.Name = ""
	}
	for _, r := range rights.Table {
		if lacks := (*rights.Lacks)(nil); errors.As(p.May(r.Act, nil), &lacks) {
			if out.Lacks == nil {
				out.Lacks = map[rights.Act]people.Role{}
			}
			out.Lacks[r.Act] = lacks.Need
		}
	}
	if d.Demo && p.ID == 0 {
		all, err := d.store.People(c.Request().Context())
		if err != nil {
			return err
		}
		for _, o := range all {
			if !o.Disabled && o.Password == "" && !o.SSO {
				out.Others = append(out.Others, Other{o.Login, o.Name, people.Role(o.Role)})
			}
		}
	}
	if d.SSO != nil && p.ID == 0 && !p.Local {
		out.Provider = d.SSO.Name
	}
	if p.ID > 0 {
		have, err := d.store.Person(c.Request().Context(), p.ID)
		if err != nil {
			return err
		}
		out.Password, out.SSO, out.Given, out.NoSecond = people.HasPassword(&have), have.SSO, have.Given, p.NoSecond
		out.Language = have.Language
	}
	return c.JSON(http.StatusOK, out)
}

// SignIn is a login with its password; demo accounts need none.
type SignIn struct {
	Login    string `json:"login" required:"true" maxLength:"64"`
	Password string `json:"password,omitempty" maxLength:"400"`
	Code     string `json:"code,omitempty" maxLength:"20" description:"Of the authenticator, where the account has one."`
}

func (d *Authenticator) signIn(c *echo.Context) error {
	in, err := api.Read[SignIn](c)
	if err != nil {
		return err
	}
	ctx, login, address := c.Request().Context(), strings.ToLower(strings.TrimSpace(in.Login)), api.Address(c)
	var p store.Person
	var ok, second bool
	browser, err := d.browser(c, login)
	if err != nil {
		return err
	}
	if d.Demo && in.Password == "" {
		if p, ok, err = people.SignInDemo(ctx, d.store, login); err != nil {
			return err
		}
	} else {
		if wait := d.guesses.wait(address, login, browser); wait > 0 {
			return errTries(wait)
		}
		var entry people.Entry
		given := people.Credentials{Login: login, Password: in.Password, Code: in.Code}
		p, entry, err = people.SignIn(ctx, d.store, given, func(person int64, code string) bool {
			return d.codes.Wait(fmt.Sprint(person, " ", strings.Join(strings.Fields(code), ""))) == 0
		})
		if err != nil {
			return err
		}
		switch {
		case entry == people.WantsCode:
			return errCode()
		case entry == people.Entered && p.TOTP == "" && p.HasSecond() && d.needsSecond(&p):
			return errWantsKey
		}
		second = entry == people.Entered && p.TOTP != ""
		ok = entry == people.Entered
	}
	if !ok {
		return deny(in.Code)
	}
	d.guesses.right(address, login, browser)
	if err := d.begin(c, &p, way{second: second}); err != nil {
		return err
	}
	if err := d.remember(c, &p); err != nil {
		return err
	}
	return d.answer(c, d.personOf(&p, way{second: second}))
}

func (d *Authenticator) signOut(c *echo.Context) error {
	if err := d.end(c); err != nil {
		return err
	}
	return d.answer(c, people.Person{Local: api.Person(c).Local, Role: map[bool]people.Role{true: people.Administrator}[api.Person(c).Local]})
}

// Setup adds the first administrator.
type Setup struct {
	Code string `json:"code" required:"true" maxLength:"40"`
	people.Identity
}

func (d *Authenticator) setup(c *echo.Context) error {
	in, err := api.Read[Setup](c)
	if err != nil {
		return err
	}
	has, err := d.has(c)
	if err != nil {
		return err
	}
	if has {
		return api.New(http.StatusConflict, "There is an administrator already.", "Sign in.")
	}
	if wait := d.setups.Wait(""); wait > 0 {
		return errTries(wait)
	}
	if !d.checkSetupCode(in.Code) {
		return api.New(http.StatusForbidden, "That is not the code.", "It stands in the server's log, where it says that it listens.")
	}
	n := people.NewPerson{Identity: in.Identity, Role: people.Administrator}
	p, err := n.Add(c.Request().Context(), d.store, people.Person{Name: "the first visit"}, true)
	if err != nil {
		return err
	}
	d.code.Store(nil)
	if err := d.begin(c, &p, way{}); err != nil {
		return err
	}
	return d.answer(c, d.personOf(&p, way{}))
}

// Account is an account in the list.
type Account struct {
	ID       int64       `json:"id" required:"true"`
	Login    string      `json:"login" required:"true"`
	Name     string      `json:"name" required:"true"`
	Role     people.Role `json:"role" required:"true" enum:"reader,engineer,approver,administrator"`
	Disabled bool        `json:"disabled"`
	SSO      bool        `json:"sso"`
	Second   bool        `json:"second" description:"Has an authenticator or a passkey."`
	Mail     string      `json:"mail,omitempty"`
	Since    string      `json:"since" required:"true"`
}

func accountOf(p *store.Person) Account {
	return Account{p.ID, p.Login, p.Name, people.Role(p.Role), p.Disabled, p.SSO, p.HasSecond(), p.Mail, p.At}
}

func (d *Authenticator) list(c *echo.Context) error {
	all, err := d.store.People(c.Request().Context())
	if err != nil {
		return err
	}
	out := []Account{}
	for i := range all {
		out = append(out, accountOf(&all[i]))
	}
	return c.JSON(http.StatusOK, out)
}

// known is the person of a request, who has to have an account.
func known(c *echo.Context) (people.Person, error) {
	p := api.Person(c)
	if p.ID == 0 {
		return p, api.New(http.StatusForbidden, "There are no accounts here.", "Make the first administrator with the code in the server's log.")
	}
	return p, nil
}

func (d *Authenticator) add(c *echo.Context) error {
	by, err := known(c)
	if err != nil {
		return err
	}
	in, err := api.Read[people.NewPerson](c)
	if err != nil {
		return err
	}
	in.Given = true
	made, err := in.Add(c.Request().Context(), d.store, by, false)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, accountOf(&made))
}

type changed struct {
	ID int64 `path:"id"`
	people.PersonChange
}

func (d *Authenticator) change(c *echo.Context) error {
	by, err := known(c)
	if err != nil {
		return err
	}
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	in, err := api.Read[people.PersonChange](c)
	if err != nil {
		return err
	}
	switch {
	case by.Script || by.ID == id:
	case by.Given:
		return errGiven
	case by.NoSecond:
		return errSecond
	}
	if in.Mail != nil && by.ID == id {
		if wait := d.mails.Wait(strconv.FormatInt(by.ID, 10)); wait > 0 {
			return errTries(wait)
		}
	}
	var p store.Person
	err = d.tried(c, in.Current, func() (err error) {
		p, err = in.Change(c.Request().Context(), d.store, by, id)
		return err
	})
	if err != nil {
		return err
	}
	if by.ID == id && !by.Script && !p.Disabled { // one's own session goes on: under another token, and anew, only by a password
		goOn := d.goOn
		if in.Password != nil && in.Current != nil {
			goOn = func(c *echo.Context, p *store.Person) error { return d.begin(c, p, way{by.BySSO, by.Second}) }
		}
		if err := goOn(c, &p); err != nil {
			return err
		}
	}
	return c.JSON(http.StatusOK, accountOf(&p))
}

// tried does what asks for one's password, a few times: who found a computer open does not find it out.
func (d *Authenticator) tried(c *echo.Context, current *string, do func() error) error {
	own := "person " + strconv.FormatInt(api.Person(c).ID, 10)
	if current != nil {
		if wait := d.guesses.browsers.Wait(own); wait > 0 {
			return errTries(wait)
		}
	}
	err := do()
	if err == nil && current != nil {
		d.guesses.browsers.Forget(own)
	}
	return err
}
