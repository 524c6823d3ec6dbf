package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"os"
	"strings"

	"nexufix/app/people"
	"nexufix/core/rights"
	"nexufix/exchange"
	"nexufix/store"

	"golang.org/x/term"
)

type userCommand struct {
	Add      userAdd      `cmd:"" help:"Add somebody; the password is read from standard input."`
	Role     userRole     `cmd:"" help:"Give somebody another role; the sessions end."`
	Password userPassword `cmd:"" help:"Give somebody another password, read from standard input; the sessions end."`
	Disable  userDisable  `cmd:"" help:"Let somebody sign in no more; the sessions end."`
	Enable   userEnable   `cmd:"" help:"Let somebody sign in again."`
	SSO      userSSO      `cmd:"" name:"sso" help:"Let somebody sign in by single sign-on, or no more; the sessions end."`
	Mail     userMail     `cmd:"" help:"Tell changes of an account to a mail address, or to none."`
	NoSecond userNoSecond `cmd:"" name:"no-second" help:"Take somebody's authenticator and passkeys away, as of a lost telephone; the sessions end."`
	Token    userToken    `cmd:"" help:"Give somebody a token for scripts, which is written to standard output."`
	List     userList     `cmd:"" help:"Who may sign in."`
}

// atDesk is who works on the command line: whoever reaches the database's file is its administrator.
var atDesk = people.Person{Name: "command line", Role: people.Administrator}

type userAdd struct {
	database
	Login string `arg:"" help:"What is typed to sign in."`
	Name  string `required:"" help:"As it stands in the history."`
	Role  string `default:"engineer" enum:"reader,engineer,approver,administrator" help:"What they may do."`
	SSO   bool   `name:"sso" help:"They sign in by single sign-on, and have no password."`
	Mail  string `help:"Where changes of the account are told."`
}

// Run adds somebody.
func (c *userAdd) Run(s *streams) error {
	return c.with(func(ctx context.Context, st *store.Store) error {
		n := people.NewPerson{Identity: people.Identity{Login: c.Login, Name: c.Name}, Role: people.Role(c.Role), SSO: c.SSO, Mail: c.Mail}
		if !c.SSO {
			var err error
			if n.Password, err = s.password(); err != nil {
				return err
			}
			// The first is whoever sits here; the others are given theirs.
			if n.Given, err = st.HasPeople(ctx); err != nil {
				return err
			}
		}
		if _, err := n.Add(ctx, st, atDesk, false); err != nil {
			return badInput{err}
		}
		fmt.Fprintf(s.out, "%s may sign in, as %s.\n", c.Login, c.Role)
		return nil
	})
}

// password is a line of standard input.
func (s *streams) password() (string, error) {
	line, err := s.secret()
	if line = strings.TrimRight(line, "\r\n"); line == "" {
		return "", badInput{errors.Join(errors.New("a password is expected on standard input"), err)}
	}
	return line, nil
}

// secret reads a line: of a terminal without showing it.
func (s *streams) secret() (string, error) {
	f, ok := s.in.(*os.File)
	if !ok || !term.IsTerminal(int(f.Fd())) {
		return bufio.NewReader(s.in).ReadString('\n')
	}
	fmt.Fprint(s.err, "Password: ")
	line, err := term.ReadPassword(int(f.Fd()))
	fmt.Fprintln(s.err)
	return string(line), err
}

// with opens the database for a change.
func (d *database) with(do func(context.Context, *store.Store) error) (err error) {
	ctx := context.Background()
	st, err := d.open(ctx)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, st.Close()) }()
	return do(ctx, st)
}

type someone struct {
	database
	Login string `arg:"" help:"Who."`
}

// change changes somebody who is known by login.
func (o *someone) change(c people.PersonChange) error {
	return o.with(func(ctx context.Context, st *store.Store) error {
		p, err := st.PersonByLogin(ctx, o.Login)
		if errors.Is(err, store.ErrNotFound) {
			return badInput{fmt.Errorf("nobody has the login %q", o.Login)}
		}
		if err != nil {
			return err
		}
		if _, err := c.Change(ctx, st, atDesk, p.ID); err != nil {
			return badInput{err}
		}
		return nil
	})
}

type userRole struct {
	someone
	Role string `arg:"" enum:"reader,engineer,approver,administrator" help:"reader, engineer, approver or administrator."`
}

// Run gives somebody a role.
func (c *userRole) Run() error {
	role := people.Role(c.Role)
	return c.change(people.PersonChange{Role: &role})
}

type userPassword struct{ someone }

// Run gives somebody a password.
func (c *userPassword) Run(s *streams) error {
	password, err := s.password()
	if err != nil {
		return err
	}
	return c.change(people.PersonChange{Password: &password})
}

type userDisable struct{ someone }

// Run shuts somebody out.
func (c *userDisable) Run() error { is := true; return c.change(people.PersonChange{Disabled: &is}) }

type userEnable struct{ someone }

// Run lets somebody in again.
func (c *userEnable) Run() error { is := false; return c.change(people.PersonChange{Disabled: &is}) }

type userSSO struct {
	someone
	Off bool `help:"No more."`
}

// Run lets somebody sign in by single sign-on; whoever has the login there next is who it is.
func (c *userSSO) Run() error { is := !c.Off; return c.change(people.PersonChange{SSO: &is}) }

type userMail struct {
	someone
	Mail string `arg:"" optional:"" help:"The address; none: nothing is told."`
}

// Run sets where changes of an account are told.
func (c *userMail) Run() error { return c.change(people.PersonChange{Mail: &c.Mail}) }

type userNoSecond struct{ someone }

// Run takes somebody's second factor away.
func (c *userNoSecond) Run() error { return c.change(people.PersonChange{NoSecond: true}) }

type userToken struct {
	someone
	Name string   `help:"What it is for, in words."`
	For  []string `placeholder:"ACT" help:"What may be done with it, as look,edit. Default: all that its role may."`
	Days int      `default:"90" help:"How long it holds; it ends before when the account is changed."`
	Role string   `default:"reader" enum:"reader,engineer,approver,administrator" help:"The most that may be done with it."`
}

// Run makes a token.
func (c *userToken) Run(s *streams) error {
	return c.with(func(ctx context.Context, st *store.Store) error {
		t := people.Token{Login: c.Login, Name: c.Name, Role: people.Role(c.Role), Days: max(1, c.Days)}
		for _, act := range c.For {
			t.Acts = append(t.Acts, rights.Act(act))
		}
		token, err := t.Add(ctx, st, atDesk)
		if errors.Is(err, store.ErrNotFound) {
			return badInput{fmt.Errorf("nobody has the login %q", c.Login)}
		}
		if wrong := (exchange.Problems)(nil); errors.As(err, &wrong) {
			return badInput{err}
		}
		if err == nil {
			fmt.Fprintln(s.out, token)
		}
		return err
	})
}

type userList struct{ database }

// Run lists who may sign in.
func (c *userList) Run(s *streams) error {
	return c.with(func(ctx context.Context, st *store.Store) error {
		all, err := st.People(ctx)
		if err != nil {
			return err
		}
		out := struct {
			People []account `json:"people"`
		}{[]account{}}
		for _, p := range all {
			out.People = append(out.People, account{p.Login, p.Name, p.Role, p.Disabled, p.SSO, p.HasSecond()})
		}
		return writeJSON(s.out, out)
	})
}

// account is one of those who may sign in.
type account struct {
	Login    string `json:"login"`
	Name     string `json:"name"`
	Role     string `json:"role"`
	Disabled bool   `json:"disabled"`
	SSO      bool   `json:"single_sign_on"`
	Second   bool   `json:"second_factor"`
}
