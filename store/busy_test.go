package store

import (
	"context"
	"errors"
	"sync"
	"testing"
	"time"
)

// TestAnotherProgramHoldsIt: a change waits for another program, and when it has
// waited long enough nothing is written and the error says why. Readers do not
// wait.
func TestAnotherProgramHoldsIt(t *testing.T) {
	before := busyTimeout
	busyTimeout = 100 * time.Millisecond
	defer func() { busyTimeout = before }()
	s, file := open(t)
	other, err := Open(t.Context(), file)
	if err != nil {
		t.Fatal(err)
	}
	defer other.Close()
	held, let := make(chan bool), make(chan bool)
	var all sync.WaitGroup
	all.Go(func() {
		if err := other.write(t.Context(), me, func(*writing) error { close(held); <-let; return nil }); err != nil {
			t.Error(err)
		}
	})
	<-held
	if _, err := keep(t, s, display("d", "Pane", 500), 0); !errors.Is(err, ErrBusy) {
		t.Errorf("%v", err)
	}
	if _, err := s.Catalogue(t.Context()); err != nil {
		t.Error(err)
	}
	close(let)
	all.Wait()
	if _, err := keep(t, s, display("d", "Pane", 500), 0); err != nil {
		t.Error(err)
	}
}

// TestWaitingEnds: who waits for another change of this process, and leaves, waits
// no longer.
func TestWaitingEnds(t *testing.T) {
	s, _ := open(t)
	held, let := make(chan bool), make(chan bool)
	var all sync.WaitGroup
	all.Go(func() {
		if err := s.write(t.Context(), me, func(*writing) error { close(held); <-let; return nil }); err != nil {
			t.Error(err)
		}
	})
	<-held
	ctx, leave := context.WithCancel(t.Context())
	leave()
	if err := s.write(ctx, me, func(*writing) error { return nil }); !errors.Is(err, context.Canceled) {
		t.Error(err)
	}
	close(let)
	all.Wait()
}
