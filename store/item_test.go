package store

import (
	"bytes"
	"errors"
	"fmt"
	"math/rand/v2"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"nexufix/exchange"
)

func display(id, model string, width int64) *catalog.Display {
	return &catalog.Display{ID: id, Model: model, Width: quantity.Some(quantity.MM(width))}
}

func keep(t *testing.T, s *Store, d *catalog.Display, base int) (int, error) {
	t.Helper()
	i, err := DisplayItem(d)
	if err != nil {
		t.Fatal(err)
	}
	return s.Save(t.Context(), me, i, base)
}

func exported(t *testing.T, s *Store) []byte {
	t.Helper()
	all, err := s.Catalogue(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	raw, err := exchange.Write(all)
	if err != nil {
		t.Fatal(err)
	}
	return raw
}

// TestRevisions: every change is saved with who and why, a stale one is
// refused with what is there now, and any revision comes back.
func TestRevisions(t *testing.T) {
	s, _ := open(t)
	for i, width := range []int64{500, 510, 520} {
		if n, err := keep(t, s, display("d", "Pane", width), i); err != nil || n != i+1 {
			t.Fatal(n, err)
		}
	}
	var c *Conflict
	if _, err := keep(t, s, display("d", "Pane", 999), 2); !errors.As(err, &c) || c.Theirs.Number != 3 ||
		!strings.Contains(c.Theirs.Doc.String, "520") || c.Theirs.Who != "Ada" {
		t.Errorf("a stale save: %v", err)
	}
	if _, err := keep(t, s, display("new", "New", 1), 1); !errors.Is(err, ErrNotFound) {
		t.Error(err)
	}
	if n, err := keep(t, s, display("d", "Pane", 520), 3); err != nil || n != 3 {
		t.Errorf("the same again is no revision: %d, %v", n, err)
	}
	list, err := s.History(t.Context(), "display", "d", 10, 0)
	if err != nil || len(list) != 3 || list[0].Number != 3 || list[2].Why != "for a test" || list[2].At == "" {
		t.Fatalf("%+v %v", list, err)
	}
	if i, err := s.RestoreRevision(t.Context(), Author{Who: "Bo", Policy: true}, list[2].Seq); err != nil || i.Revision != 4 {
		t.Error(i, err)
	}
	if all, _ := s.Catalogue(t.Context()); all.Display("d").Width.Value != quantity.MM(500) {
		t.Error("the first revision did not come back")
	}
	if err := s.Delete(t.Context(), me, "display", "d", 3); !errors.As(err, &c) {
		t.Error(err)
	}
	if err := s.Delete(t.Context(), me, "display", "d", 4); err != nil {
		t.Error(err)
	}
	if all, _ := s.Catalogue(t.Context()); len(all.Displays) != 0 {
		t.Error("what was taken out is still there")
	}
	if n, err := keep(t, s, display("d", "Pane", 530), 0); err != nil || n != 6 {
		t.Errorf("after it was taken out it goes on at %d, %v", n, err)
	}
	all, total, err := s.AllHistory(t.Context(), nil, 3, 0)
	if err != nil || total != 6 || len(all) != 3 || all[1].Doc.Valid || !all[0].Doc.Valid {
		t.Errorf("%+v %v", all, err)
	}
	if _, err := s.RestoreRevision(t.Context(), Author{Who: "Bo", Policy: true}, all[1].Seq); err == nil {
		t.Error("a revision without a document was restored")
	}
}

// TestUndoOfAnImport: a thousand rows, new and changed, with a policy, and the
// catalogue is to the byte what it was.
func TestUndoOfAnImport(t *testing.T) {
	s, _ := open(t)
	many := func(from, to int, width int64) *exchange.Contents {
		c := &exchange.Contents{}
		for i := from; i < to; i++ {
			c.Displays = append(c.Displays, display(fmt.Sprintf("d%04d", i), fmt.Sprint("Model ", i), width))
		}
		return c
	}
	if _, err := s.Import(t.Context(), me, "first", many(0, 600, 500), nil, nil); err != nil {
		t.Fatal(err)
	}
	before := exported(t, s)
	second := many(300, 1300, 501)
	deep := catalog.DefaultPolicy()
	deep.BoltSchool = "deep"
	second.Policy = &deep
	steps := 0
	n, err := s.Import(t.Context(), me, "second", second, nil, func(int, int) { steps++ })
	if err != nil || n.New != 702 || n.Changed != 300 || n.Same != 0 || steps != 2 {
		t.Fatal(n, steps, err)
	}
	if all, _ := s.Catalogue(t.Context()); len(all.Displays) != 1300 || all.PolicyOrDefault().BoltSchool != "deep" {
		t.Fatal("the import is not there")
	}
	if _, err := s.Undo(t.Context(), Author{Who: "Bo", Policy: true}, n.Batch); err != nil {
		t.Fatal(err)
	}
	if !bytes.Equal(before, exported(t, s)) {
		t.Error("not what it was")
	}
	if _, err := s.Undo(t.Context(), Author{Who: "Bo", Policy: true}, n.Batch); err == nil {
		t.Error("undone twice")
	}
	batches, err := s.Batches(t.Context(), 10)
	if err != nil || len(batches) != 3 || batches[0].What != "Undone: second" || batches[0].Items != 1002 || !batches[1].UndoneBy.Valid {
		t.Errorf("%+v %v", batches, err)
	}
	// Undoing the undoing is doing it again.
	if _, err := s.Undo(t.Context(), Author{Who: "Bo", Policy: true}, batches[0].ID); err != nil {
		t.Fatal(err)
	}
	if all, _ := s.Catalogue(t.Context()); len(all.Displays) != 1300 {
		t.Error("the import did not come again")
	}
	// What was changed since stays, and all of the batch with it.
	if _, err := keep(t, s, display("d0001", "Changed", 7), 1); err != nil {
		t.Fatal(err)
	}
	now := exported(t, s)
	var p exchange.Problems
	if _, err := s.Undo(t.Context(), Author{Who: "Bo", Policy: true}, batches[2].ID); !errors.As(err, &p) || p[0].Path != "display d0001" {
		t.Error(err)
	}
	if !bytes.Equal(now, exported(t, s)) {
		t.Error("half undone")
	}
}

// TestDiskFull: an import that the disk has no room for is refused as a whole,
// and the database is whole and works on.
func TestDiskFull(t *testing.T) {
	s, _ := open(t)
	if _, err := keep(t, s, display("first", "First", 1), 0); err != nil {
		t.Fatal(err)
	}
	before := exported(t, s)
	s.db.SetMaxOpenConns(2) // the watch, and the one that has the limit
	var pages int
	if err := s.db.Get(&pages, `PRAGMA page_count`); err != nil {
		t.Fatal(err)
	}
	if err := s.db.Get(&pages, fmt.Sprintf(`PRAGMA max_page_count = %d`, pages+20)); err != nil {
		t.Fatal(err)
	}
	c := &exchange.Contents{}
	for i := range 2000 {
		c.Displays = append(c.Displays, display(fmt.Sprint("d", i), strings.Repeat("long name ", 10), 5))
	}
	if _, err := s.Import(t.Context(), me, "too much", c, nil, nil); err == nil || !strings.Contains(err.Error(), "full") {
		t.Fatal(err)
	}
	if err := s.Check(t.Context()); err != nil {
		t.Error(err)
	}
	if !bytes.Equal(before, exported(t, s)) {
		t.Error("something of it was taken")
	}
	if _, err := keep(t, s, display("second", "Second", 1), 0); err != nil {
		t.Errorf("it does not work on: %v", err)
	}
}

// TestImportOnAnotherCatalogue: what was worked out from a catalogue is not
// written over what somebody has changed since.
func TestImportOnAnotherCatalogue(t *testing.T) {
	s, _ := open(t)
	if _, err := keep(t, s, display("d", "Pane", 500), 0); err != nil {
		t.Fatal(err)
	}
	basis, err := s.Catalogue(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	mine := &exchange.Contents{Displays: []*catalog.Display{display("d", "Pane", 510)}}
	if _, err := keep(t, s, display("d", "Pane", 777), 1); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Import(t.Context(), me, "late", mine, basis, nil); !errors.Is(err, ErrMoved) {
		t.Error(err)
	}
	now, err := s.Catalogue(t.Context())
	if err != nil || now.Display("d").Width.Value != quantity.MM(777) {
		t.Error("what the other wrote is gone")
	}
	if n, err := s.Import(t.Context(), me, "again", mine, now, nil); err != nil || n.Changed != 1 {
		t.Error(n, err)
	}
}

// TestReadingByTheHistory: a catalogue that is read change by change is what it
// would be if it were read as a whole, in the same order, and what did not change
// stays the same display.
func TestReadingByTheHistory(t *testing.T) {
	s, file := open(t)
	many(t, s, 60)
	r := rand.New(rand.NewPCG(5, 5))
	for n := range 80 {
		before, err := s.Catalogue(t.Context())
		if err != nil {
			t.Fatal(err)
		}
		id := fmt.Sprintf("d%d", r.IntN(90))
		switch i, err := s.Item(t.Context(), "display", id); {
		case r.IntN(4) == 0 && err == nil:
			if err := s.Delete(t.Context(), me, "display", id, i.Revision); err != nil {
				t.Fatal(err)
			}
		case r.IntN(6) == 0:
			c := &exchange.Contents{}
			for k := range r.IntN(12) {
				c.Displays = append(c.Displays, display(fmt.Sprintf("i%d-%d", n, k), fmt.Sprintf("Pane %c", 'A'+r.IntN(26)), 400))
			}
			if _, err := s.Import(t.Context(), me, "some", c, nil, nil); err != nil {
				t.Fatal(err)
			}
		default:
			if _, err := keep(t, s, display(id, fmt.Sprintf("Pane %d", r.IntN(100)), int64(300+r.IntN(300))), i.Revision); err != nil &&
				!errors.Is(err, ErrNotFound) {
				var c *Conflict
				if !errors.As(err, &c) {
					t.Fatal(err)
				}
			}
		}
		after, err := s.Catalogue(t.Context())
		if err != nil {
			t.Fatal(err)
		}
		whole, err := OpenReadOnly(t.Context(), file)
		if err != nil {
			t.Fatal(err)
		}
		if a, b := string(exported(t, s)), string(exported(t, whole)); a != b {
			t.Fatalf("change %d: read change by change it is another", n)
		}
		if err := whole.Close(); err != nil {
			t.Fatal(err)
		}
		same := 0
		for _, d := range after.Displays {
			if slices.Contains(before.Displays, d) {
				same++
			}
		}
		if same < len(after.Displays)-13 {
			t.Fatalf("change %d: only %d of %d displays stayed what they were", n, same, len(after.Displays))
		}
	}
}

// BenchmarkReadAfterAWrite is the catalogue of 99,000 displays after one of them was
// saved.
func BenchmarkReadAfterAWrite(b *testing.B) {
	s, err := Open(b.Context(), filepath.Join(b.TempDir(), "nexufix.db"))
	if err != nil {
		b.Fatal(err)
	}
	defer s.Close()
	c := &exchange.Contents{}
	for i := range 99_000 {
		c.Displays = append(c.Displays, display(fmt.Sprint("d", i), fmt.Sprint("Model ", i), 500))
	}
	if _, err := s.Import(b.Context(), me, "all", c, nil, nil); err != nil {
		b.Fatal(err)
	}
	if _, err := s.Catalogue(b.Context()); err != nil {
		b.Fatal(err)
	}
	revision := 1
	for b.Loop() {
		b.StopTimer()
		i, err := DisplayItem(display("d500", fmt.Sprint("Model x", revision), 500))
		if err != nil {
			b.Fatal(err)
		}
		if revision, err = s.Save(b.Context(), me, i, revision); err != nil {
			b.Fatal(err)
		}
		b.StartTimer()
		if _, err := s.Catalogue(b.Context()); err != nil {
			b.Fatal(err)
		}
	}
}

// TestPolicyAsItIs: a document that has every setting as it is in use, as an export has, changes no policy: also where these are the
// defaults and no policy is saved. With a hair of difference it takes an approver.
func TestPolicyAsItIs(t *testing.T) {
	s, _ := open(t)
	p := catalog.DefaultPolicy()
	if n, err := s.Import(t.Context(), Author{Who: "an engineer"}, "", &exchange.Contents{Policy: &p}, nil, nil); err != nil {
		t.Errorf("the policy in use is another: %+v, %v", n, err)
	}
	p.TwistMax++
	if _, err := s.Import(t.Context(), Author{Who: "an engineer"}, "", &exchange.Contents{Policy: &p}, nil, nil); err == nil {
		t.Error("an engineer sets the policy")
	}
}
