package store

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strconv"
	"testing"
)

// acts are what is tried on a faulty disk: each leaves something by which it is found again, or nothing.
type faultyActs struct {
	s        *Store
	revision int
	done     map[string]bool // acknowledged
	refused  map[string]bool
	last     int // revision of the display that was acknowledged last
}

func (f *faultyActs) act(ctx context.Context, r *rand.Rand, n int) (err error) {
	name := fmt.Sprint(n)
	switch r.IntN(4) {
	case 0:
		name = "display " + name
		d, err := DisplayItem(display("d0", name, 500))
		if err != nil {
			return err
		}
		revision, err := f.s.Save(ctx, Author{Who: name}, d, f.revision)
		if err == nil {
			f.revision, f.last = revision, n
		}
		return f.said(name, err)
	case 1:
		name = "note " + name
		return f.said(name, f.s.Note(ctx, AuditEntry{Who: "test", What: "exported", About: name}))
	case 2:
		name = "person " + name
		_, err := f.s.AddPerson(ctx, Person{Login: "p" + strconv.Itoa(n), Name: name, Role: "reader"}, false, AuditEntry{What: "person added"})
		return f.said(name, err)
	default:
		name = "photo " + name
		return f.said(name, f.s.SavePhoto(ctx, fmt.Sprintf("%032d", n), []byte(name)))
	}
}

func (f *faultyActs) said(name string, err error) error {
	if err == nil {
		f.done[name] = true
	} else {
		f.refused[name] = true
	}
	return err
}

// there lists what is found of the acts.
func (f *faultyActs) there(ctx context.Context, s *Store, n int) (all map[string]bool, err error) {
	all = map[string]bool{}
	history, err := s.History(ctx, "display", "d0", 1000, 0)
	if err != nil {
		return nil, err
	}
	for _, h := range history {
		all[h.Who] = true
	}
	audit, err := s.Audit(ctx, AuditAsk{Most: 1000})
	if err != nil {
		return nil, err
	}
	for _, h := range audit {
		all[h.About] = true
	}
	people, err := s.People(ctx)
	if err != nil {
		return nil, err
	}
	for _, p := range people {
		all[p.Name] = true
	}
	for i := range n {
		raw, err := s.Photo(ctx, fmt.Sprintf("%032d", i))
		if err != nil {
			return nil, err
		}
		if raw != nil {
			all["photo "+fmt.Sprint(i)] = true
		}
	}
	return all, nil
}

// TestFaultyDisk: a call of the disk fails, a write is torn, the disk fills, a sync fails, the power is cut, the disk goes, at any call of
// any act. Afterwards every act that was acknowledged is there and no other, the database is whole, and while nothing can be written
// /readyz says so. NEXUFIX_FAULTS=10000 has the long form, some ten minutes.
func TestFaultyDisk(t *testing.T) {
	times := 40
	if text := os.Getenv("NEXUFIX_FAULTS"); text != "" {
		var err error
		if times, err = strconv.Atoi(text); err != nil {
			t.Fatal(err)
		}
	}
	disk, beneath, mounted := mountFaulty(t)
	ctx := context.Background()
	before := filepath.Join(t.TempDir(), "before.db")
	first, err := Open(ctx, before)
	if err != nil {
		t.Fatal(err)
	}
	many(t, first, 3)
	if err := first.Close(); err != nil {
		t.Fatal(err)
	}
	whole, err := os.ReadFile(before)
	if err != nil {
		t.Fatal(err)
	}
	happened := map[fault]int{}
	acknowledged, refused, back := 0, 0, 0
	for n := range times {
		r := rand.New(rand.NewPCG(uint64(n), 28))
		name := fmt.Sprint("f", n)
		if err := errors.Join(os.Mkdir(filepath.Join(beneath, name), 0o700),
			os.WriteFile(filepath.Join(beneath, name, "nexufix.db"), whole, 0o600)); err != nil {
			t.Fatal(err)
		}
		s, err := Open(ctx, filepath.Join(mounted, name, "nexufix.db"))
		if err != nil {
			t.Fatal(err)
		}
		f := &faultyActs{s: s, done: map[string]bool{}, refused: map[string]bool{}}
		i, err := s.Item(ctx, "display", "d0")
		if err != nil {
			t.Fatal(err)
		}
		f.revision = i.Revision
		kind := fault(n % int(faults))
		disk.tell(order{"begin", filepath.Join(beneath, name), 1 + r.IntN(40), kind})
		failing := false
		for act := range 12 {
			failing = f.act(ctx, r, act) != nil
		}
		now := disk.tell(order{Do: "look"})
		if now.Happened {
			happened[kind]++
		}
		ended := now.Ended
		if ready := s.Ready(ctx); ended && failing && ready.Err() == nil {
			t.Errorf("%d: nothing is written, and it is ready", n)
		} else if !ended && !failing && ready.Err() != nil {
			t.Errorf("%d: everything is written, and it is not ready: %v", n, ready.Err())
		}
		disk.tell(order{Do: "cut"})
		_ = s.Close() // on a disk that is gone
		disk.tell(order{Do: "begin"})

		file := filepath.Join(beneath, name, "nexufix.db")
		_ = os.Remove(file + "-shm") // memory is gone with the power
		again, err := Open(ctx, file)
		if err != nil {
			t.Fatalf("%d (%d): %v", n, kind, err)
		}
		if err := again.Check(ctx); err != nil {
			t.Errorf("%d (%d): %v", n, kind, err)
		}
		all, err := f.there(ctx, again, 12)
		if err != nil {
			t.Fatalf("%d (%d): %v", n, kind, err)
		}
		for act := range f.done {
			if acknowledged++; !all[act] {
				t.Errorf("%d (%d): %s was acknowledged and is lost", n, kind, act)
			}
		}
		for act := range f.refused {
			if refused++; all[act] {
				back++
				t.Errorf("%d (%d): %s was refused and is there", n, kind, act)
			}
		}
		if _, why, err := again.CheckAudit(ctx); err != nil || why != "" {
			t.Errorf("%d (%d): the audit: %s %v", n, kind, why, err)
		}
		if err := errors.Join(again.Close(), os.RemoveAll(filepath.Join(beneath, name))); err != nil {
			t.Fatal(err)
		}
	}
	for kind := range faults {
		if happened[kind] < times/20 {
			t.Errorf("fault %d happened %d times of %d", kind, happened[kind], times)
		}
	}
	t.Logf("%v faults; %d acts acknowledged, %d refused, %d of these there", happened, acknowledged, refused, back)
}
