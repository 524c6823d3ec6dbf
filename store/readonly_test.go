package store

import (
	"errors"
	"os"
	"path/filepath"
	"testing"
)

// TestReadOnly: beside the one that writes, another reads what was written, sees
// each change, and changes nothing.
func TestReadOnly(t *testing.T) {
	s, file := open(t)
	many(t, s, 3)
	follower, err := OpenReadOnly(t.Context(), file)
	if err != nil {
		t.Fatal(err)
	}
	defer follower.Close()
	if string(exported(t, follower)) != string(exported(t, s)) {
		t.Error("it reads something else")
	}
	if _, err := keep(t, s, display("late", "Late", 500), 0); err != nil {
		t.Fatal(err)
	}
	if all, err := follower.Catalogue(t.Context()); err != nil || all.Display("late") == nil {
		t.Errorf("a change is not seen: %v", err)
	}
	if _, err := keep(t, follower, display("x", "X", 500), 0); !errors.Is(err, ErrReadOnly) {
		t.Error(err)
	}
	if err := follower.RestoreFrom(t.Context(), file); !errors.Is(err, ErrReadOnly) {
		t.Error(err)
	}
	if err := follower.Remember(t.Context(), "displays", map[string]string{"W": "width_mm"}); !errors.Is(err, ErrReadOnly) {
		t.Error(err)
	}
	if err := follower.Ready(t.Context()).Err(); err != nil {
		t.Error(err)
	}
	none := filepath.Join(t.TempDir(), "none.db")
	if _, err := OpenReadOnly(t.Context(), none); err == nil {
		t.Error("a file that is not there was opened")
	}
	if _, err := os.Stat(none); err == nil {
		t.Error("and made")
	}
}
