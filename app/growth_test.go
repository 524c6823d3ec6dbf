package app

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"

	"nexufix/core/quantity"
	"nexufix/exchange"
	"nexufix/store"
)

// grown is a database after years: in a folder that NEXUFIX_GROWTH names, where it stays.
type grown struct {
	t    *testing.T
	st   *store.Store
	file string
	wal  int64 // the largest that the log was
}

// step does something and says how long it took.
func (g *grown) step(what string, do func() error) {
	g.t.Helper()
	begun := time.Now()
	if err := do(); err != nil {
		g.t.Fatalf("%s: %v", what, err)
	}
	took := time.Since(begun)
	if i, err := os.Stat(g.file + "-wal"); err == nil {
		g.wal = max(g.wal, i.Size())
	}
	g.t.Logf("%s: %v", what, took.Round(took/1000+1))
}

// TestGrowth builds a database of 100,000 displays, 100,000 approvals of 10,000 jobs, a million entries of the audit, and says how long it
// takes to work with. By hand: NEXUFIX_GROWTH=DIR go test ./app -run Growth -v -timeout 3h
func TestGrowth(t *testing.T) {
	dir := os.Getenv("NEXUFIX_GROWTH")
	if dir == "" {
		t.Skip("by hand: NEXUFIX_GROWTH=DIR")
	}
	g := &grown{t: t, file: filepath.Join(dir, "nexufix.db")}
	ctx := t.Context()
	g.step("opened", func() (err error) {
		g.st, err = store.Open(ctx, g.file)
		return err
	})
	defer func() { g.st.Close() }()
	used, err := g.st.Used(ctx)
	if err != nil {
		t.Fatal(err)
	}
	if !used {
		g.fill(ctx)
	}
	g.measure(ctx)
}

// fill makes what there is after years.
func (g *grown) fill(ctx context.Context) {
	c := demoData(g.t)
	for part := range 10 {
		g.step(fmt.Sprint("10,000 displays imported, part ", part+1), func() error {
			all := manyDisplays(g.t, part*10_000, 10_000)
			if part == 0 {
				all.Displays, all.Brackets = append(all.Displays, c.Displays...), c.Brackets
			}
			_, err := g.st.Import(ctx, store.Author{Who: "test", Policy: true}, "many", all, nil, nil)
			return err
		})
	}
	g.step("10,000 jobs imported", func() error {
		jobs := &exchange.Contents{}
		for n := range 10_000 {
			j := *c.Jobs[n%len(c.Jobs)]
			j.ID = fmt.Sprintf("job-%05d", n)
			jobs.Jobs = append(jobs.Jobs, &j)
		}
		_, err := g.st.Import(ctx, store.Author{Who: "test", Policy: true}, "jobs", jobs, nil, nil)
		return err
	})
	g.step("100,000 approvals put in, ten of each job", func() error { return g.approve(ctx) })
	g.step("1,000,000 entries of the audit, each a change of its own", func() error {
		for n := range 1_000_000 {
			if err := g.st.Note(ctx, store.Happened{Who: "Mira", What: "exported", About: fmt.Sprint("a list, ", n)}); err != nil {
				return err
			}
			if i, err := os.Stat(g.file + "-wal"); n%10_000 == 0 && err == nil {
				g.wal = max(g.wal, i.Size())
			}
		}
		return nil
	})
}

// approve puts approvals beside the store, nine of ten superseded.
func (g *grown) approve(ctx context.Context) error {
	all, err := g.st.Catalogue(ctx)
	if err != nil {
		return err
	}
	db, err := sqlx.Open("sqlite", g.file)
	if err != nil {
		return err
	}
	defer db.Close()
	tx := db.MustBegin()
	var w documents
	for _, j := range all.Jobs {
		f, err := w.source(all, Subject{Job: j.ID})
		if err != nil {
			return err
		}
		judged, err := f.judge(ctx)
		if err != nil {
			return err
		}
		document, sum, err := w.of(f)
		if err != nil {
			return err
		}
		for range 10 {
			tx.MustExec(`INSERT INTO approval (subject, title, state, verdict, document, fingerprint, result, preparer, prepared_by, prepared_at, seen)
				VALUES (?, ?, 'in_review', ?, ?, ?, ?, 1, 'Mira', '2026-11-27T06:00:00Z', ?)`, f.key(), judged.Title, judged.Verdict, document, sum,
				string(judged.Result), sum)
			tx.MustExec(`UPDATE approval SET state = 'superseded' WHERE subject = ? AND state = 'approved'`, f.key())
			tx.MustExec(`UPDATE approval SET state = 'approved', approver = 2, approved_by = 'Tomas', approved_at = '2026-11-27T06:00:00Z'
				WHERE subject = ? AND state = 'in_review'`, f.key())
		}
	}
	return tx.Commit()
}

// measure works with it.
func (g *grown) measure(ctx context.Context) {
	if i, err := os.Stat(g.file); err == nil {
		g.t.Logf("the file has %d MB, its log had %d at the most", i.Size()>>20, g.wal>>20)
	}
	var all *exchange.Contents
	g.step("the catalogue read, cold", func() (err error) { all, err = g.st.Catalogue(ctx); return err })
	g.step("an entry of the audit, and the catalogue after it", func() error {
		if err := g.st.Note(ctx, store.Happened{Who: "Mira", What: "exported"}); err != nil {
			return err
		}
		_, err := g.st.Catalogue(ctx)
		return err
	})
	g.step("a display saved, and the catalogue after it", func() error {
		i, err := g.st.Item(ctx, "display", "d00007")
		if err != nil {
			return err
		}
		i.Doc = strings.Replace(i.Doc, `"model":"Model 7`, `"model":"Model 7 `, 1)
		if _, err := g.st.Save(ctx, store.Author{Who: "Mira"}, i, i.Revision); err != nil {
			return err
		}
		_, err = g.st.Catalogue(ctx)
		return err
	})
	g.step("a page of the audit", func() error { _, err := g.st.Audit(ctx, store.AuditAsk{Most: 100}); return err })
	g.step("a page of it by words that are nowhere", func() error {
		_, err := g.st.Audit(ctx, store.AuditAsk{Words: "no such thing", Most: 100})
		return err
	})
	g.step("the chain of the audit checked", func() error {
		_, why, err := g.st.CheckAudit(ctx)
		if why != "" {
			return fmt.Errorf("%s", why)
		}
		return err
	})
	g.step("the desk", func() error { _, err := DeskOf(ctx, g.st, Person{ID: 2, Name: "Tomas", Role: Approver}); return err })
	g.step("the database checked", func() error { return g.st.Check(ctx) })
	backup := g.file + ".backup"
	g.step("a backup", func() error { return g.st.Backup(ctx, backup) })
	if err := os.Remove(backup); err != nil {
		g.t.Error(err)
	}
	g.step("10,000 approvals of 100,000 judged again", func() error {
		p := all.PolicyOrDefault()
		p.TwoPeopleDiagonal -= quantity.Length(time.Now().UnixNano() % 1000)
		if err := g.st.SavePolicy(ctx, store.Author{Who: "test", Policy: true}, fmt.Sprint("policy ", time.Now().UnixNano()), p); err != nil {
			return err
		}
		n, err := RejudgeAll(ctx, g.st)
		g.t.Logf("%d of them", n)
		return err
	})
	g.step("history thinned", func() error {
		_, err := g.st.Thin(ctx, time.Now().Add(-store.YoungestThinned), store.Happened{Who: "test", What: "history thinned"})
		return err
	})
}

// manyDisplays are so many displays of a catalogue, from a number on.
func manyDisplays(t *testing.T, from, many int) *exchange.Contents {
	t.Helper()
	var doc strings.Builder
	doc.WriteString(`{"format":"nexufix/1","displays":[`)
	for i := from; i < from+many; i++ {
		if i > from {
			doc.WriteByte(',')
		}
		fmt.Fprintf(&doc, `{"id":"d%05d","maker":"Maker %d","model":"Model %d","diagonal_mm":%d,"width_mm":%d.5,"height_mm":%d,
			"depth_mm":%d,"mass_kg":%d.25,"patterns":[{"width_mm":200,"height_mm":200,"thread":"M6","center_below_top_mm":300,
			"rows":{"top":{"thread_depth_mm":14},"bottom":{"setback_mm":%d,"thread_depth_mm":14}}}],
			"zones":[{"kind":"port","x_mm":100,"y_mm":-50,"width_mm":90,"height_mm":40,"plug_mm":45}]}`,
			i, i%40, i, 600+i%1500, 500+i%1300, 300+i%800, 30+i%60, 3+i%50, i%12)
	}
	doc.WriteString(`]}`)
	c, err := exchange.Read([]byte(doc.String()))
	if err != nil {
		t.Fatal(err)
	}
	return c
}
