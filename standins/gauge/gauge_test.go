package gauge

import (
	"context"
	"errors"
	"math"
	"testing"
)

// TestSettles: it moves, it trembles, it is steady at what it was put on, and
// the median of five steady readings is within five hundredths.
func TestSettles(t *testing.T) {
	var s Simulated
	if r := s.next(); r.Value != 0 || !r.Steady {
		t.Error(r)
	}
	for _, size := range []float64{14.23, -3.5, 0} {
		s.Put(Depth, "mm", size)
		var seen []Reading
		for range settling + 5 {
			r, ok := Parse(s.next().String())
			if !ok {
				t.Fatal(r)
			}
			if seen = append(seen, r); len(seen) <= settling {
				if _, ok := Steady(seen); ok || r.Steady {
					t.Errorf("steady after %d lines", len(seen))
				}
			}
		}
		got, ok := Steady(seen)
		if !ok || math.Abs(got.Value-size) > 0.05 {
			t.Errorf("%v, want %v; %v", got, size, ok)
		}
	}
}

func TestParse(t *testing.T) {
	for line, text := range map[string]string{
		"D +14.23 mm S": "14.23 mm", "W +6.40 kg M": "6.4 kg", "D -0.50 in S": "-0.5 in",
		"": "", "D 14": "", "X +1 mm S": "", "D +1 kg S": "", "W +1 mm S": "", "D NaN mm S": "", "D +1 mm Q": "", "\x00\xff": "",
	} {
		r, ok := Parse(line)
		if ok != (text != "") || ok && (r.Text() != text) {
			t.Errorf("%q: %+v %v %q", line, r, ok, r.Text())
		}
	}
}

func TestLinesEnd(t *testing.T) {
	var s Simulated
	full := errors.New("full")
	if err := s.Lines(t.Context(), func(string) error { return full }); !errors.Is(err, full) {
		t.Error(err)
	}
	ctx, cancel := context.WithCancel(t.Context())
	if err := s.Lines(ctx, func(string) error { cancel(); return nil }); err != nil {
		t.Error(err)
	}
}
