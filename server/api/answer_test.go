package api

import (
	"errors"
	"testing"
)

// TestStreamsHaveAnEnd: answers without an end are counted, all of them and those of each.
func TestStreamsHaveAnEnd(t *testing.T) {
	s := Streams{Most: 32, OfOne: 3}
	for n := range 29 {
		if err := s.Enter(""); err != nil {
			t.Fatal(n, err)
		}
	}
	for n, want := range []error{nil, nil, nil, TooMuch} {
		if err := s.Enter("ada"); !errors.Is(err, want) {
			t.Errorf("%d: %v", n, err)
		}
	}
	s.Leave("")
	if err := s.Enter("ada"); !errors.Is(err, error(TooMuchOfOne)) {
		t.Errorf("one has too many: %v", err)
	}
	if err := s.Enter("mira"); err != nil {
		t.Errorf("and another none: %v", err)
	}
	s.Leave("ada")
	if err := s.Enter("ada"); err != nil || len(s.of) != 3 {
		t.Errorf("no room where one has left: %v", err)
	}
	s.Leave("mira")
	if len(s.of) != 2 {
		t.Error("who has left is remembered")
	}
}
