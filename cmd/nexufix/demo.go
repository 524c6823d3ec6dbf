package main

import (
	"context"
	"fmt"
	"os"

	"nexufix/app/people"
	"nexufix/app/review"
	"nexufix/core/approval"
	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"nexufix/demo"
	peopleroutes "nexufix/server/people"
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
	what := opening{first: contents, door: peopleroutes.Options{Demo: true}}
	if !c.Alone {
		what.people, what.tokens, what.idp = demoPeople(), c.Token, c.WithSimulatedIDP
	}
	return serve(s, &c.listen, dir, store.Open, what)
}

// demoPeople are the demo's, one of each role; invented. They have no password, and sign in with one press; one more
// signs in at the simulated identity provider.
func demoPeople() []people.NewPerson {
	return []people.NewPerson{
		{Identity: people.Identity{Login: "ada", Name: "Ada Quillmark"}, Role: people.Administrator, Demo: true},
		{Identity: people.Identity{Login: "tomas", Name: "Tomas Ledgerfield"}, Role: people.Approver, Demo: true},
		{Identity: people.Identity{Login: "mira", Name: "Mira Hookway"}, Role: people.Engineer, Demo: true},
		{Identity: people.Identity{Login: "jun", Name: "Jun Shelvane"}, Role: people.Reader, Demo: true},
		{Identity: people.Identity{Login: "ines", Name: "Ines Batterby"}, Role: people.Engineer, SSO: true},
	}
}

// demoApprovals are approvals of the demo's jobs in each state of their life, with what was issued of them. What they say is
// invented, as everything of the demo's.
func demoApprovals(ctx context.Context, st *store.Store, on review.Issuer) error {
	d := demoDesk{ctx: ctx, st: st, on: on, who: map[string]people.Person{}}
	for _, login := range []string{"mira", "tomas", "ada"} {
		p, err := st.PersonByLogin(ctx, login)
		if err != nil {
			return err
		}
		d.who[login] = people.PersonOf(&p)
	}
	for _, step := range []func() error{d.issued, d.inReview, d.sentBack, d.superseded, d.withdrawn, d.aRange, d.stale} {
		if err := step(); err != nil {
			return fmt.Errorf("the demo's approvals: %w", err)
		}
	}
	_, err := review.RejudgeAll(ctx, st)
	return err
}

// demoDesk is what the demo's people do.
type demoDesk struct {
	ctx context.Context
	st  *store.Store
	on  review.Issuer
	who map[string]people.Person
}

func (d *demoDesk) send(job, text string) (store.Approval, error) {
	return review.SubmitReview(d.ctx, d.st, d.who["mira"], review.Subject{Job: job}, text)
}

func (d *demoDesk) decide(a store.Approval, act approval.Act, text string) (store.Approval, error) {
	return review.DecideReview(d.ctx, d.st, d.who["tomas"], store.Seen{ID: a.ID, Version: a.Version}, act, text)
}

func (d *demoDesk) approved(job, text string) (store.Approval, error) {
	a, err := d.send(job, text)
	if err == nil {
		a, err = d.decide(a, approval.Approve, "Looked at on the drawing.")
	}
	return a, err
}

func (d *demoDesk) issue(a store.Approval, what, receiver string) error {
	_, err := review.IssueDocument(d.ctx, d.st, d.who["mira"], a.ID, review.Issue{What: what, Receiver: receiver}, d.on)
	return err
}

func (d *demoDesk) issued() error {
	a, err := d.approved("mill-lane-counter", "The bakery's counter, as measured on Monday.")
	if err == nil {
		err = d.issue(a, "pack", "Mill Lane bakery")
	}
	return err
}

func (d *demoDesk) inReview() error {
	a, err := d.send("signal-box-exhibit", "Two plates: the studs are 450 mm apart.")
	if err == nil {
		err = review.AddComment(d.ctx, d.st, d.who["tomas"], a.ID, "rule:studs", "Was the second stud proved with the fine nail?")
	}
	return err
}

func (d *demoDesk) sentBack() error {
	a, err := d.send("stair-landing-overhead", "")
	if err == nil {
		_, err = d.decide(a, approval.SendBack, "Ask the bakery whether people walk below the landing at night too.")
	}
	return err
}

// superseded is one, by another that is approved.
func (d *demoDesk) superseded() error {
	a, err := d.approved("bakehouse-plastered-wall", "")
	if err == nil {
		err = d.issue(a, "card", "Museum workshop")
	}
	if err == nil {
		err = raise(d.ctx, d.st, "bakehouse-plastered-wall", 20*quantity.Millimetre)
	}
	if err == nil {
		_, err = d.approved("bakehouse-plastered-wall", "20 mm higher, clear of the new rail.")
	}
	return err
}

func (d *demoDesk) withdrawn() error {
	a, err := d.approved("carriage-shed-plain-wall", "")
	if err == nil {
		_, err = d.decide(a, approval.Withdraw, "The shed's wall is to be rebuilt.")
	}
	return err
}

// aRange is in review together.
func (d *demoDesk) aRange() error {
	var menus []review.Subject
	for _, id := range []string{"brindle-menu-32", "brindle-menu-43"} {
		menus = append(menus, review.Subject{Display: id, Bracket: "crumb-15", Wall: catalog.Concrete})
	}
	_, err := review.SubmitFamily(d.ctx, d.st, d.who["mira"], menus, "The menu boards of every bakery.")
	return err
}

func (d *demoDesk) stale() error {
	a, err := d.approved("flour-store-screen", "")
	if err == nil {
		err = d.issue(a, "template", "Flour store")
	}
	if err == nil {
		err = raise(d.ctx, d.st, "flour-store-screen", 35*quantity.Millimetre)
	}
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
