package fit

import (
	"errors"
	"fmt"
	"iter"
	"slices"
	"sync"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
)

// TestRowsEnd: the first error ends the work, whoever has it, and so does a panic,
// for who waits.
func TestRowsEnd(t *testing.T) {
	ds, bs := many(40, 6)
	count := func(pairings iter.Seq[*Pairing]) (int, error) {
		n := 0
		for range pairings {
			n++
		}
		return n, nil
	}
	bad := errors.New("bad")
	rows := 0
	err := Rows(ds, bs, 0, catalog.DefaultPolicy(), count, func(n int) error {
		if rows++; n != len(bs) || rows == 7 {
			return bad
		}
		return nil
	})
	if err != bad || rows != 7 {
		t.Errorf("%v after %d rows", err, rows)
	}
	fails := func(iter.Seq[*Pairing]) (int, error) { return 0, bad }
	if err := Rows(ds, bs, 0, catalog.DefaultPolicy(), fails, func(int) error { return nil }); err != bad {
		t.Error(err)
	}
	defer func() {
		if p := recover(); p != "of a row" {
			t.Errorf("panicked with %v", p)
		}
	}()
	panics := func(iter.Seq[*Pairing]) (int, error) { panic("of a row") }
	err = Rows(ds, bs, 0, catalog.DefaultPolicy(), panics, func(int) error { return nil })
	t.Errorf("no panic, %v", err)
}

// TestRowsAreEveryPairing: what kits and layouts share changes no stack and no sentence, also not where
// there is no stack.
func TestRowsAreEveryPairing(t *testing.T) {
	ds, bs := many(70, 12)
	catalogtest.Unlike(bs)
	bs[3].HeadRoom = some(4)
	bs[4].SlotWidth = some(26)
	bs[5].Kit, bs[6].Kit = nil, bs[6].Kit[:2]
	byID := map[string]*catalog.Display{}
	for i, d := range ds {
		byID[d.ID] = d
		for h := range d.Patterns[0].Holes {
			x := &d.Patterns[0].Holes[h]
			if i%4 == 1 {
				x.Recess, x.RecessDiameter = catalog.Given(mm(int64(10+i%9)), catalog.Sheet), catalog.Given(mm(19), catalog.Sheet)
			}
			if i%4 == 2 && h == 0 {
				x.Setback = catalog.Given(mm(int64(i%23)), catalog.Sheet)
			}
		}
	}
	policy := catalog.DefaultPolicy()
	policy.StockSpacers = policy.StockSpacers[:1]
	var counted sync.Mutex
	why := map[string]int{}
	err := Rows(ds, bs, 0, policy, func(pairings iter.Seq[*Pairing]) (bool, error) {
		for p := range pairings {
			alone := Judge(byID[p.Display.ID], p.Bracket, 0, Extra{}, policy)
			stacks := func(p *Pairing) string { return fmt.Sprintf("%+v %+v", p.Stack, p.Alternative) } // an empty list is none
			if stacks(p) != stacks(&alone) || !slices.EqualFunc(p.Words(), alone.Words(), func(a, b Check) bool { return a.Same(&b) }) {
				return false, fmt.Errorf("%s on %s:\n%s %+v\nalone\n%s %+v",
					p.Display.ID, p.Bracket.ID, stacks(p), p.Words(), stacks(&alone), alone.Words())
			}
			if p.why != nil {
				counted.Lock()
				why[p.why.Kind]++
				counted.Unlock()
			}
		}
		return true, nil
	}, func(bool) error { return nil })
	if err != nil || len(why) < 4 {
		t.Errorf("%v; why there is no stack: %v, want at least four reasons", err, why)
	}
}
