package fit

import (
	"iter"
	"runtime"

	"nexufix/core/catalog"
	"nexufix/core/stack"
	"nexufix/core/workers"
)

// Rows judges every display with every bracket in one turn, on all cores;
// equal stacks are solved once. For each display, row converts its pairings to a result;
// a pairing is valid until the next one is taken. done gets the results
// in the order of the displays, and ends the work by an error.
func Rows[T any](displays []*catalog.Display, brackets []*catalog.Bracket, turn catalog.Turn, policy catalog.Policy,
	row func(iter.Seq[*Pairing]) (T, error), done func(T) error) error {
	var all *batch
	for from := 0; from < len(displays); {
		if all == nil || all.cache.Full() {
			all = newBatch(brackets, turn, Extra{}, &policy, stack.NewCache(true))
		}
		size := min(max(1, blockPairings/max(1, len(brackets))), blockDisplays)
		block := displays[from:min(from+size, len(displays))]
		if err := inOrder(all.prepare(block, nil), func(s *subject) (T, error) {
			return row(func(yield func(*Pairing) bool) {
				solver, room := all.cache.NewSolver(&policy, nil), new([2]Pairing)
				for j := range all.targets {
					if !yield(s.on(&all.targets[j], solver, room)) {
						return
					}
				}
			})
		}, done); err != nil {
			return err
		}
		from += len(block)
	}
	return nil
}

// How many pairings and displays at most are solved before their results are written:
// a solution takes 150 bytes, a subject a few thousand.
const (
	blockPairings = 200_000
	blockDisplays = 2_000
)

// inOrder converts each item, on all cores, and passes the results on in the order of
// the items; no core is more than a few items ahead. The first error ends the work.
func inOrder[S, T any](items []S, convert func(S) (T, error), done func(T) error) error {
	type made struct {
		value T
		err   error
	}
	type task struct {
		item S
		made chan made
	}
	cores := max(1, runtime.GOMAXPROCS(0))
	tasks, order, stop := make(chan task), make(chan chan made, cores), make(chan struct{})
	var all workers.Group
	all.Go(func() {
		defer close(tasks)
		defer close(order)
		for _, item := range items {
			t := task{item, make(chan made, 1)}
			select {
			case order <- t.made:
			case <-stop:
				return
			}
			select {
			case tasks <- t:
			case <-stop:
				return
			}
		}
	})
	for range cores {
		all.Go(func() {
			for t := range tasks {
				func() {
					defer close(t.made) // also if it panics
					value, err := convert(t.item)
					t.made <- made{value, err}
				}()
			}
		})
	}
	var err error
	for m := range order {
		got, ok := <-m
		if !ok {
			break // it panicked; Wait panics again
		}
		if err = got.err; err == nil {
			err = done(got.value)
		}
		if err != nil {
			break
		}
	}
	close(stop)
	for range order { // so that no sender blocks
	}
	all.Wait()
	return err
}
