// Package gauge is a small stand-in for a bench gauge that is plugged into the
// computer: a depth gauge and a scale. It settles, it is noisy, it has a sign
// and a unit, as the real ones have.
//
// What comes from a gauge is a line protocol, a reading a line, that a real
// gauge's reader can produce as well:
//
//	D +14.23 mm S
//
// which is the kind (D depth, W weight), the value with its sign, the unit (mm,
// in, kg or lb), and S when the reading is steady, else M. Lines that are not
// like that are to be skipped.
package gauge

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"sync"
	"time"

	"nexufix/core/quantity"
)

// Kind is what a gauge measures.
type Kind byte

// The kinds.
const (
	Depth  Kind = 'D'
	Weight Kind = 'W'
)

// Reading is one line of a gauge.
type Reading struct {
	Kind   Kind
	Value  float64
	Unit   string
	Steady bool
}

// String is the reading's line.
func (r Reading) String() string {
	state := byte('M')
	if r.Steady {
		state = 'S'
	}
	return fmt.Sprintf("%c %+.2f %s %c", r.Kind, r.Value, r.Unit, state)
}

// Parse reads a line; false for one that is no reading.
func Parse(line string) (Reading, bool) {
	var r Reading
	var kind, state string
	n, err := fmt.Sscanf(line, "%s %f %s %s", &kind, &r.Value, &r.Unit, &state)
	if err != nil || n != 4 || (kind != "D" && kind != "W") || (state != "S" && state != "M") || math.IsNaN(r.Value) ||
		math.IsInf(r.Value, 0) {
		return r, false
	}
	r.Kind, r.Steady = Kind(kind[0]), state == "S"
	lengths, masses := []string{"mm", "in"}, []string{"kg", "lb"}
	return r, r.Kind == Depth && slices.Contains(lengths, r.Unit) || r.Kind == Weight && slices.Contains(masses, r.Unit)
}

// Text is the value with its unit, as a figure is typed.
func (r Reading) Text() string {
	return quantity.FormatDecimal(int64(math.Round(r.Value*100)), 2) + " " + r.Unit
}

// Source is where readings come from: the simulated gauge, or a real one's
// reader. Lines ends when the context does.
type Source interface {
	Lines(ctx context.Context, send func(line string) error) error
}

// Simulated is a gauge that measures what it is told to. The zero value is at
// rest, at nought.
type Simulated struct {
	mu     sync.Mutex
	kind   Kind
	unit   string
	target float64
	from   float64
	since  int // lines since it was put on
	random *rand.Rand
}

// The state machine's two times, in lines: the needle moves, then it trembles
// less and less, then it is steady.
const (
	moving   = 6
	settling = 14
	noise    = 0.012 // of a steady reading
)

// Every is the time between two lines.
const Every = 100 * time.Millisecond

// Put lays the gauge on something of a true size.
func (s *Simulated) Put(kind Kind, unit string, size float64) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.random == nil {
		s.random = rand.New(rand.NewPCG(uint64(time.Now().UnixNano()), 1))
	}
	if s.kind != kind || s.unit != unit {
		s.target = 0
	}
	s.kind, s.unit, s.from, s.target, s.since = kind, unit, s.target, size, 0
}

// next is the reading of the next line.
func (s *Simulated) next() Reading {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.random == nil {
		return Reading{Kind: Depth, Unit: "mm", Steady: true}
	}
	s.since++
	r := Reading{Kind: s.kind, Unit: s.unit, Steady: s.since > settling}
	tremble := noise
	at := 1.0
	if s.since <= settling {
		tremble = noise * float64(1+4*(settling-s.since))
	}
	if s.since <= moving {
		at = float64(s.since) / moving
	}
	r.Value = s.from + (s.target-s.from)*at + tremble*(2*s.random.Float64()-1)
	return r
}

// Lines sends a reading a tick.
func (s *Simulated) Lines(ctx context.Context, send func(string) error) error {
	tick := time.NewTicker(Every)
	defer tick.Stop()
	for {
		if err := send(s.next().String()); err != nil {
			return err
		}
		select {
		case <-ctx.Done():
			return nil
		case <-tick.C:
		}
	}
}

// Steady takes the median of the last steady readings of a kind; false while
// there are too few, or they spread too far to be one figure.
func Steady(last []Reading) (Reading, bool) {
	const enough, spread = 5, 0.1
	if len(last) < enough {
		return Reading{}, false
	}
	last = slices.Clone(last[len(last)-enough:])
	for _, r := range last {
		if !r.Steady || r.Kind != last[0].Kind || r.Unit != last[0].Unit {
			return Reading{}, false
		}
	}
	slices.SortFunc(last, func(a, b Reading) int {
		if a.Value < b.Value {
			return -1
		}
		if a.Value > b.Value {
			return 1
		}
		return 0
	})
	if last[enough-1].Value-last[0].Value > spread {
		return Reading{}, false
	}
	return last[enough/2], true
}
