package api

import "testing"

// TestStreamsHaveAnEnd: answers without an end are counted.
func TestStreamsHaveAnEnd(t *testing.T) {
	s := Streams{Most: 32}
	for range 32 {
		if !s.Enter() {
			t.Fatal("too few")
		}
	}
	if s.Enter() {
		t.Error("one too many")
	}
	s.Leave()
	if !s.Enter() {
		t.Error("no room where one has left")
	}
}
