package fit

import (
	"errors"
	"iter"
	"testing"

	"nexufix/core/catalog"
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
