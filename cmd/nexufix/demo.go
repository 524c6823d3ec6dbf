package main

import (
	"context"
	"fmt"
	"os"

	"nexufix/app"
	"nexufix/core/approval"
	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"nexufix/demo"
	"nexufix/server/people"
	"nexufix/store"
)

type demoCommand struct {
	listen
	Data  string `placeholder:"DIR" help:"Folder of the database. Default: a fresh one, removed at the end."`
	Alone bool   `help:"A desk of one: nobody signs in."`

	WithSimulatedIDP bool `name:"with-simulated-idp" default:"true" negatable:"" help:"Beside one press, sign in at a simulated identity provider."`

	Token map[string]string `placeholder:"NAME=TOKEN" help:"Gives one of its people (ada, tomas, mira, jun) a token for scripts; may be repeated."`
}

// Run serves the demo data until a signal.
func (c *demoCommand) Run(s *streams) error {
	dir := c.Data
	if dir == "" {
		temporary, err := os.MkdirTemp("", "nexufix-demo-")
		if err != nil {
			return err
		}
		defer os.RemoveAll(temporary)
		dir = temporary
	}
	contents, err := demo.Contents()
	if err != nil {
		return err
	}
	what := opening{first: contents, door: people.Options{Demo: true}}
	if !c.Alone {
		what.people, what.tokens, what.idp = demoPeople(), c.Token, c.WithSimulatedIDP
	}
	return serve(s, &c.listen, dir, store.Open, what)
}

// demoPeople are the demo's, one of each role; invented. They have no password, and sign in with one press; one more
// signs in at the simulated identity provider.
func demoPeople() []app.NewPerson {
	return []app.NewPerson{
		{Identity: app.Identity{Login: "ada", Name: "Ada Quillmark"}, Role: app.Administrator, Demo: true},
		{Identity: app.Identity{Login: "tomas", Name: "Tomas Ledgerfield"}, Role: app.Approver, Demo: true},
		{Identity: app.Identity{Login: "mira", Name: "Mira Hookway"}, Role: app.Engineer, Demo: true},
		{Identity: app.Identity{Login: "jun", Name: "Jun Shelvane"}, Role: app.Reader, Demo: true},
		{Identity: app.Identity{Login: "ines", Name: "Ines Batterby"}, Role: app.Engineer, SSO: true},
	}
}

// demoApprovals are approvals of the demo's jobs in each state of their life, with what was issued of them. What they say is
// invented, as everything of the demo's.
// It is long because it tells the lives of seven approvals.
func demoApprovals(ctx context.Context, st *store.Store, on app.Issuer) error {
	who := map[string]app.Person{}
	for _, login := range []string{"mira", "tomas", "ada"} {
		p, err := st.PersonByLogin(ctx, login)
		if err != nil {
			return err
		}
		who[login] = app.PersonOf(&p)
	}
	send := func(job, text string) (store.Approval, error) {
		return app.SubmitReview(ctx, st, who["mira"], app.Subject{Job: job}, text)
	}
	decide := func(a store.Approval, act approval.Act, text string) (store.Approval, error) {
		return app.DecideReview(ctx, st, who["tomas"], a.ID, a.Version, act, text)
	}
	approved := func(job, text string) (store.Approval, error) {
		a, err := send(job, text)
		if err == nil {
			a, err = decide(a, approval.Approve, "Looked at on the drawing.")
		}
		return a, err
	}
	issue := func(a store.Approval, what, receiver string) error {
		_, err := app.IssueDocument(ctx, st, who["mira"], a.ID, app.Issue{What: what, Receiver: receiver}, on)
		return err
	}
	for _, step := range []func() error{
		func() error { // approved, and issued
			a, err := approved("mill-lane-counter", "The bakery's counter, as measured on Monday.")
			if err == nil {
				err = issue(a, "pack", "Mill Lane bakery")
			}
			return err
		},
		func() error { // in review
			a, err := send("signal-box-exhibit", "Two plates: the studs are 450 mm apart.")
			if err == nil {
				err = app.AddComment(ctx, st, who["tomas"], a.ID, "studs", "Was the second stud proved with the fine nail?")
			}
			return err
		},
		func() error { // sent back
			a, err := send("stair-landing-overhead", "")
			if err == nil {
				_, err = decide(a, approval.SendBack, "Ask the bakery whether people walk below the landing at night too.")
			}
			return err
		},
		func() error { // superseded, by one that is approved
			a, err := approved("bakehouse-plastered-wall", "")
			if err == nil {
				err = issue(a, "card", "Museum workshop")
			}
			if err == nil {
				err = raise(ctx, st, "bakehouse-plastered-wall", 20*quantity.Millimetre)
			}
			if err == nil {
				_, err = approved("bakehouse-plastered-wall", "20 mm higher, clear of the new rail.")
			}
			return err
		},
		func() error { // withdrawn
			a, err := approved("carriage-shed-plain-wall", "")
			if err == nil {
				_, err = decide(a, approval.Withdraw, "The shed's wall is to be rebuilt.")
			}
			return err
		},
		func() error { // a range, in review together
			var menus []app.Subject
			for _, id := range []string{"brindle-menu-32", "brindle-menu-43"} {
				menus = append(menus, app.Subject{Display: id, Bracket: "crumb-15", Wall: catalog.Concrete})
			}
			_, err := app.SubmitFamily(ctx, st, who["mira"], menus, "The menu boards of every bakery.")
			return err
		},
		func() error { // stale
			a, err := approved("flour-store-screen", "")
			if err == nil {
				err = issue(a, "template", "Flour store")
			}
			if err == nil {
				err = raise(ctx, st, "flour-store-screen", 35*quantity.Millimetre)
			}
			return err
		},
	} {
		if err := step(); err != nil {
			return fmt.Errorf("the demo's approvals: %w", err)
		}
	}
	_, err := app.RejudgeAll(ctx, st)
	return err
}

// raise hangs the display of a saved job higher.
func raise(ctx context.Context, st *store.Store, id string, by quantity.Length) error {
	all, err := st.Catalogue(ctx)
	if err != nil {
		return err
	}
	job := *all.Job(id)
	job.Place.Center = quantity.Some(job.Place.Center.Value + by)
	now, err := st.Item(ctx, "job", id)
	if err != nil {
		return err
	}
	item, err := store.JobItem(&job)
	if err == nil {
		_, err = st.Save(ctx, store.Author{Who: "Mira Hookway", Why: "Hangs higher."}, item, now.Revision)
	}
	return err
}
