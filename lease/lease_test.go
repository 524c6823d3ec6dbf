package lease

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"
)

// age moves when a lease was last touched so far back.
func (l *Lease) age(d time.Duration) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.good = clock()
	l.good.boot -= d
	l.good.wall = l.good.wall.Add(-d)
}

func mustElsewhere(t *testing.T, what string, err error) {
	t.Helper()
	if !errors.As(err, new(*Elsewhere)) {
		t.Errorf("%s: %v", what, err)
	}
}

// TestOneWrites: the first server writes and goes on after it starts again; no other begins beside it, nor a copy of its folder; who takes
// over makes it stop for good.
func TestOneWrites(t *testing.T) {
	dir, ctx := t.TempDir(), t.Context()
	first, err := Claim(ctx, dir, "first")
	if err != nil || first.Held() != nil {
		t.Fatal(err)
	}
	_, err = Claim(ctx, dir, "second")
	mustElsewhere(t, "another", err)
	going, stop := context.WithCancel(ctx)
	var all sync.WaitGroup
	all.Go(func() { first.Keep(going) })
	_, err = Claim(ctx, dir, "first")
	mustElsewhere(t, "a copy of the folder", err)
	if err := first.Held(); err != nil {
		t.Errorf("the first: %v", err)
	}
	stop()
	all.Wait()
	again, err := Claim(ctx, dir, "first")
	if err != nil {
		t.Fatal(err)
	}
	first.touch()
	mustElsewhere(t, "the one before it was started again", first.Held())
	if _, err := begin(dir, "second", 1); err != nil {
		t.Fatal(err)
	}
	_, err = begin(dir, "third", 1)
	mustElsewhere(t, "two take over", err)
	again.touch()
	mustElsewhere(t, "who wrote before", again.Held())
	if err := os.Remove(filepath.Join(dir, name(2))); err != nil {
		t.Fatal(err)
	}
	again.touch()
	mustElsewhere(t, "who wrote before, when the term is gone again", again.Held())
}

// TestItEnds: a lease that could not be touched ends after its time, to the nanosecond by either clock, and comes back with the folder; a
// touch that may not have been made, and was, is no other's.
func TestItEnds(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "lease")
	l, err := Claim(t.Context(), dir, "first")
	if err != nil {
		t.Fatal(err)
	}
	if err := os.Rename(dir, dir+"-away"); err != nil {
		t.Fatal(err)
	}
	l.touch()
	if err := l.Held(); err != nil {
		t.Errorf("for a moment without the folder: %v", err)
	}
	l.age(Lasts - time.Second/2)
	if err := l.Held(); err != nil {
		t.Errorf("just in time: %v", err)
	}
	l.age(Lasts)
	mustElsewhere(t, "too long without the folder", l.Held())
	for by, back := range map[string]func(){"the clock of the machine": func() { l.good.wall = clock().wall },
		"the clock on the wall": func() { l.good.boot = clock().boot }} {
		l.age(Lasts)
		back()
		mustElsewhere(t, by, l.Held())
	}
	if err := os.Rename(dir+"-away", dir); err != nil {
		t.Fatal(err)
	}
	l.touch()
	if err := l.Held(); err != nil {
		t.Errorf("with the folder again: %v", err)
	}
	l.next = l.term // a touch that was made, of which the system said that it failed
	l.next.Count++
	if err := l.next.put(dir); err != nil {
		t.Fatal(err)
	}
	if l.touch(); l.Held() != nil {
		t.Errorf("after a touch that was made: %v", l.Held())
	}
	if err := os.WriteFile(filepath.Join(dir, name(1)), []byte("{"), 0o600); err != nil {
		t.Fatal(err)
	}
	l.age(Lasts)
	l.touch()
	mustElsewhere(t, "a damaged term", l.Held())
}

// TestBeside: a command writes in the folder whose server writes, and in one that has no lease.
func TestBeside(t *testing.T) {
	folder, data := t.TempDir(), t.TempDir()
	if err := Beside(data); err != nil {
		t.Errorf("without a lease: %v", err)
	}
	owner, err := OwnerOf(data)
	if err != nil {
		t.Fatal(err)
	}
	if again, err := OwnerOf(data); again != owner || err != nil {
		t.Errorf("%q, then %q: %v", owner, again, err)
	}
	if err := Remember(data, folder); err != nil {
		t.Fatal(err)
	}
	mustElsewhere(t, "before the first term", Beside(data))
	if _, err := Claim(t.Context(), folder, owner); err != nil || Beside(data) != nil {
		t.Errorf("%v, %v", err, Beside(data))
	}
	if _, err := begin(folder, "other", 1); err != nil {
		t.Fatal(err)
	}
	mustElsewhere(t, "after another took over", Beside(data))
}

// TestTakeOver: who takes over waits until the one before may not write, and then writes; whose wait is ended knows it. What is written is
// for its owner alone.
func TestTakeOver(t *testing.T) {
	dir, ctx := filepath.Join(t.TempDir(), "lease"), t.Context()
	first, err := Claim(ctx, dir, "first")
	if err != nil {
		t.Fatal(err)
	}
	begun := time.Now()
	if err := TakeOver(ctx, dir, "second"); err != nil || time.Since(begun) < Lasts {
		t.Errorf("after %v: %v", time.Since(begun), err)
	}
	mustElsewhere(t, "who wrote before, without having looked", first.Held())
	if l, err := Claim(ctx, dir, "second"); err != nil || l.Held() != nil {
		t.Errorf("who took over: %v", err)
	}
	ended, stop := context.WithCancel(ctx)
	stop()
	if err := TakeOver(ended, dir, "third"); !errors.Is(err, context.Canceled) {
		t.Errorf("a wait that was ended: %v", err)
	}
	if now, err := Latest(dir); err != nil || now.Owner != "third" || now.Number != 3 {
		t.Errorf("%+v, %v", now, err)
	}
	for name, want := range map[string]os.FileMode{"": 0o700 | os.ModeDir, "term-000001": 0o600, "term-000003": 0o600} {
		if i, err := os.Stat(filepath.Join(dir, name)); err != nil || i.Mode() != want {
			t.Errorf("%q is %v, %v", name, i.Mode(), err)
		}
	}
	if err := TakeOver(ctx, filepath.Join(dir, "term-000001"), "fourth"); err == nil {
		t.Error("a file is no folder")
	}
}
