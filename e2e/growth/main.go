// Command growth builds a database as it is after years (100,000 displays, 10,000 jobs with ten approvals each, a million entries of the
// audit, each a change of its own) in a folder, where it stays, and says how long it takes to work with. It is run by hand: make growth.
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"

	"nexufix/app/people"
	"nexufix/app/review"
	"nexufix/core/approval"
	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"nexufix/demo"
	"nexufix/exchange"
	"nexufix/store"
)

func main() {
	data := flag.String("data", "tmp/growth", "the folder")
	flag.Parse()
	if err := run(context.Background(), *data); err != nil {
		fmt.Fprintln(os.Stderr, "growth:", err)
		os.Exit(1)
	}
}

// grown is the database.
type grown struct {
	st   *store.Store
	file string
	log  int64 // the longest that its log (WAL) was
	who  map[people.Role]people.Person
	jobs []*catalog.Job // of the demo, that may be installed
}

// How much there is of everything.
const (
	displays  = 100_000
	jobs      = 10_000
	approvals = 10 // of each job
	entries   = 1_000_000
)

func run(ctx context.Context, data string) (err error) {
	if err := os.MkdirAll(data, 0o700); err != nil {
		return err
	}
	g := &grown{file: filepath.Join(data, "nexufix.db"), who: map[people.Role]people.Person{}}
	if err := g.step("opened", func() (err error) { g.st, err = store.Open(ctx, g.file); return err }); err != nil {
		return err
	}
	defer func() { err = errors.Join(err, g.st.Close()) }()
	used, err := g.st.Used(ctx)
	if err == nil && !used {
		err = g.fill(ctx)
	}
	if err != nil {
		return err
	}
	return g.measure(ctx)
}

// step does something and says how long it took.
func (g *grown) step(what string, do func() error) error {
	begun := time.Now()
	if err := do(); err != nil {
		return fmt.Errorf("%s: %w", what, err)
	}
	took := time.Since(begun)
	if i, err := os.Stat(g.file + "-wal"); err == nil {
		g.log = max(g.log, i.Size())
	}
	fmt.Printf("%s: %v\n", what, took.Round(took/1000+1))
	return nil
}

// named is a step of several.
type named struct {
	what string
	do   func() error
}

func (g *grown) steps(all []named) error {
	for _, s := range all {
		if err := g.step(s.what, s.do); err != nil {
			return err
		}
	}
	return nil
}

var desk = store.Author{Who: "growth", Policy: true}

// fill makes what there is after years.
func (g *grown) fill(ctx context.Context) error {
	c, err := demo.Contents()
	if err != nil {
		return err
	}
	return g.steps([]named{
		{"100,000 displays imported in ten documents", func() error {
			for from := 0; from < displays; from += displays / 10 {
				all, err := demo.Many(from, displays/10)
				if err != nil {
					return err
				}
				if from == 0 {
					all.Displays, all.Brackets = append(all.Displays, c.Displays...), c.Brackets
				}
				if _, err := g.st.Import(ctx, desk, "many", all, nil, nil); err != nil {
					return err
				}
			}
			return nil
		}},
		{"the demo's jobs sent, of which those that may be installed are taken", func() error { return g.sound(ctx, c) }},
		{"10,000 jobs imported", func() error {
			all := &exchange.Contents{}
			for n := range jobs {
				j := *g.jobs[n%len(g.jobs)]
				j.ID = fmt.Sprintf("job-%05d", n)
				all.Jobs = append(all.Jobs, &j)
			}
			_, err := g.st.Import(ctx, desk, "jobs", all, nil, nil)
			return err
		}},
		{"10,000 jobs sent and approved", func() error { return g.approve(ctx) }},
		{"nine later approvals of each put in", g.again},
		{"1,000,000 entries of the audit, each a change of its own", func() error {
			for n := range entries {
				if err := g.st.Note(ctx, store.AuditEntry{Who: "Mira", What: "exported", About: fmt.Sprint("a list, ", n)}); err != nil {
					return err
				}
			}
			return nil
		}},
	})
}

// sound makes two people, and finds the jobs of the demo that may be sent for review.
func (g *grown) sound(ctx context.Context, c *exchange.Contents) error {
	for _, role := range []people.Role{people.Engineer, people.Approver} {
		n := people.NewPerson{Identity: people.Identity{Login: string(role), Name: string(role), Password: "seven loaves on a rail"}, Role: role}
		p, err := n.Add(ctx, g.st, people.Person{Name: "growth", Role: people.Administrator}, false)
		if err != nil {
			return err
		}
		g.who[role] = people.PersonOf(&p)
	}
	if _, err := g.st.Import(ctx, desk, "the demo's jobs", &exchange.Contents{Jobs: c.Jobs}, nil, nil); err != nil {
		return err
	}
	for _, j := range c.Jobs {
		a, err := review.SubmitReview(ctx, g.st, g.who[people.Engineer], review.Subject{Job: j.ID}, "")
		if errors.As(err, new(exchange.Problems)) {
			continue // it must not be installed
		}
		if err == nil {
			g.jobs = append(g.jobs, j)
			_, err = review.DecideReview(ctx, g.st, g.who[people.Approver], store.Seen{ID: a.ID, Version: a.Version}, approval.Withdraw,
				"it was a trial")
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// approve sends each job, and approves it.
func (g *grown) approve(ctx context.Context) error {
	for n := range jobs {
		a, err := review.SubmitReview(ctx, g.st, g.who[people.Engineer], review.Subject{Job: fmt.Sprintf("job-%05d", n)}, "")
		if err == nil {
			_, err = review.DecideReview(ctx, g.st, g.who[people.Approver], store.Seen{ID: a.ID, Version: a.Version}, approval.Approve, "")
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// again puts nine later approvals after each, beside the store: nine of ten are superseded then.
func (g *grown) again() error {
	db, err := sqlx.Open("sqlite", g.file)
	if err != nil {
		return err
	}
	for range approvals - 1 {
		for _, query := range []string{ // in the order that the database's triggers see to
			`INSERT INTO approval (subject, title, state, verdict, document, fingerprint, result, preparer, prepared_by, prepared_at, seen)
				SELECT subject, title, 'in_review', verdict, document, fingerprint, result, preparer, prepared_by, prepared_at, seen
				FROM approval WHERE state = 'approved'`,
			`UPDATE approval SET state = 'superseded' WHERE state = 'approved'`,
			`UPDATE approval SET state = 'approved', approver = 2, approved_by = 'approver', approved_at = prepared_at WHERE state = 'in_review'`,
		} {
			if _, err := db.Exec(query); err != nil {
				return errors.Join(err, db.Close())
			}
		}
	}
	return db.Close()
}

// measure works with it.
func (g *grown) measure(ctx context.Context) error {
	if i, err := os.Stat(g.file); err == nil {
		fmt.Printf("the file has %d MB, its log had %d at the most\n", i.Size()>>20, g.log>>20)
	}
	note := func() error { return g.st.Note(ctx, store.AuditEntry{Who: "Mira", What: "exported"}) }
	read := func() error { _, err := g.st.Catalogue(ctx); return err }
	backup := g.file + ".backup"
	return g.steps([]named{
		{"the catalogue read", read},
		{"an entry of the audit, and the catalogue after it", func() error { return errors.Join(note(), read()) }},
		{"a display saved, and the catalogue after it", func() error {
			i, err := g.st.Item(ctx, "display", "d00007")
			if err != nil {
				return err
			}
			i.Doc = strings.Replace(i.Doc, `"model":"Model 7`, `"model":"Model 7 `, 1)
			_, err = g.st.Save(ctx, desk, i, i.Revision)
			return errors.Join(err, read())
		}},
		{"a page of the audit", func() error { _, err := g.st.Audit(ctx, store.AuditAsk{Most: 100}); return err }},
		{"a page of it by words that are nowhere", func() error {
			_, err := g.st.Audit(ctx, store.AuditAsk{Words: "no such thing", Most: 100})
			return err
		}},
		{"the chain of the audit checked", func() error {
			_, why, err := g.st.CheckAudit(ctx)
			if why != "" {
				return errors.New(why)
			}
			return err
		}},
		{"the desk", func() error {
			_, err := review.DeskOf(ctx, g.st, people.Person{ID: 2, Role: people.Approver})
			return err
		}},
		{"the approvals of one job", func() error {
			_, err := review.ApprovalsAbout(ctx, g.st, people.Person{ID: 2, Role: people.Approver}, review.About{Job: "job-00007"}, 100)
			return err
		}},
		{"the database checked", func() error { return g.st.Check(ctx) }},
		{"a backup", func() error { return errors.Join(g.st.Backup(ctx, backup), os.Remove(backup)) }},
		{"what is approved judged again, of 100,000", func() error {
			all, err := g.st.Catalogue(ctx)
			if err != nil {
				return err
			}
			p := all.PolicyOrDefault()
			p.TwoPeopleDiagonal -= quantity.Length(time.Now().UnixNano()%1000 + 1) // stricter, by a hair
			if err := g.st.SavePolicy(ctx, desk, fmt.Sprint("policy ", time.Now().UnixNano()), p); err != nil {
				return err
			}
			n, err := review.RejudgeAll(ctx, g.st)
			fmt.Println(n, "were")
			return err
		}},
		{"history thinned", func() error {
			_, err := g.st.Thin(ctx, time.Now().Add(-store.YoungestThinned), store.AuditEntry{Who: "growth", What: "history thinned"})
			return err
		}},
	})
}
