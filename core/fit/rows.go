package fit

import (
	"iter"
	"runtime"

	"nexufix/core/catalog"
	"nexufix/core/stack"
	"nexufix/core/workers"
)

// Rows judges every display with every bracket in one way of hanging, on all cores;
// equal stacks are solved once. Of each display row makes something of its pairings,
// which it must not keep: a pairing holds until the next one is taken. done gets what
// was made, display by display in their order, and ends the work with an error.
func Rows[T any](displays []*catalog.Display, brackets []*catalog.Bracket, turn catalog.Turn, policy catalog.Policy,
	row func(iter.Seq[*Pairing]) (T, error), done func(T) error) error {
	memory := stack.NewCache(policy)
	bags := make([]stack.KitNumbers, len(brackets))
	for j, b := range brackets {
		bags[j] = memory.KitNumbers(b)
	}
	type made struct {
		value T
		err   error
	}
	type task struct {
		display *catalog.Display
		made    chan made
	}
	cores := max(1, runtime.GOMAXPROCS(0))
	tasks := make(chan task)
	order := make(chan chan made, 2*cores) // how far the quickest is ahead
	stop := make(chan struct{})
	var all workers.Group
	all.Go(func() {
		defer close(tasks)
		defer close(order)
		for _, d := range displays {
			t := task{d, make(chan made, 1)}
			select {
			case order <- t.made:
			case <-stop:
				return
			}
			tasks <- t
		}
	})
	for range cores {
		all.Go(func() {
			for t := range tasks {
				func() {
					defer close(t.made) // also of one that panics
					s := newSubject(t.display, turn, Extra{}, &policy)
					s.cache = memory
					value, err := row(func(yield func(*Pairing) bool) {
						for j, b := range brackets {
							if !yield(s.on(b, bags[j])) {
								return
							}
						}
					})
					t.made <- made{value, err}
				}()
			}
		})
	}
	var err error
	for m := range order {
		got, ok := <-m
		if !ok {
			break // it panicked, and so does Wait
		}
		if err = got.err; err == nil {
			err = done(got.value)
		}
		if err != nil {
			break
		}
	}
	close(stop)
	for range order { // so that nobody waits to hand something over
	}
	all.Wait()
	return err
}
