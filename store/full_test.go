package store

import (
	"bytes"
	"fmt"
	"path/filepath"
	"strings"
	"testing"

	"nexufix/exchange"
)

// TestDiskIsFull: what does not go on the disk any more is refused as a whole, what
// is there can be read, and when there is room again work goes on.
func TestDiskIsFull(t *testing.T) {
	before := maxPages
	maxPages = 120
	defer func() { maxPages = before }()
	s, file := open(t)
	have := many(t, s, 50)
	full := 0
	for n := range 40 {
		c := &exchange.Contents{}
		for k := range 60 {
			c.Displays = append(c.Displays, display(fmt.Sprintf("x%d-%d", n, k), strings.Repeat("long ", 20), 500))
		}
		if _, err := s.Import(t.Context(), me, "more", c, nil, nil); err != nil {
			if !strings.Contains(err.Error(), "full") {
				t.Fatal(err)
			}
			full++
			if now := exported(t, s); !bytes.Equal(now, have) {
				t.Fatal("half of an import is there")
			}
			continue
		}
		have = exported(t, s)
	}
	if full == 0 {
		t.Fatal("the disk never was full")
	}
	if err := s.Check(t.Context()); err != nil {
		t.Error(err)
	}
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	maxPages = before
	s, err := Open(t.Context(), file)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	if !bytes.Equal(exported(t, s), have) {
		t.Error("something was lost")
	}
	many(t, s, 60)
	if err := s.Backup(t.Context(), filepath.Join(t.TempDir(), "b.db")); err != nil {
		t.Error(err)
	}
}
