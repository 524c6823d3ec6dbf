package stack

import (
	"encoding/binary"
	"sync"
)

// Memory remembers answers by what they follow from: the holes' figures and
// places, the thread, the bag and the policy. It is safe for concurrent use.
// Answers are shared and must not be changed. The nil Memory remembers nothing
// and gives the same answers.
type Memory struct {
	mu     sync.RWMutex
	known  map[string]Answer
	asked  int
	solved int
}

// NewMemory is an empty memory.
func NewMemory() *Memory { return &Memory{known: map[string]Answer{}} }

// Solve is [Solve], remembered. The bag, the plate and the policy go by a
// number of the caller's: within one memory, equal numbers must stand for
// equal ones. Problems with parts of the display's own are solved anew.
func (m *Memory) Solve(p Problem, bag int) Answer {
	if m == nil || len(p.OwnParts) > 0 {
		return Solve(p)
	}
	var room [512]byte
	key := p.key(room[:0], bag)
	m.mu.RLock()
	a, ok := m.known[string(key)]
	m.mu.RUnlock()
	if !ok {
		a = Solve(p)
	}
	m.mu.Lock()
	m.asked++
	if !ok {
		m.solved++
		m.known[string(key)] = a
	}
	m.mu.Unlock()
	return a
}

// Share is how many problems were asked, and how many of them were distinct.
func (m *Memory) Share() (asked, solved int) {
	m.mu.RLock()
	defer m.mu.RUnlock()
	return m.asked, m.solved
}

func (p *Problem) key(b []byte, bag int) []byte {
	put := func(n int64) { b = binary.AppendVarint(b, n) }
	put(int64(bag))
	put(int64(p.Thread))
	for i := range p.Groups {
		g := &p.Groups[i]
		put(int64(g.Setback))
		put(int64(g.Recess))
		put(int64(g.RecessDiameter.Value))
		put(int64(g.ThreadDepth))
		put(int64(g.SetbackTolerance))
		put(int64(g.RecessTolerance))
		put(int64(g.DepthTolerance))
		put(int64(g.SumTolerance.Value))
		flags := int64(len(g.Holes)) << 3
		for bit, set := range []bool{g.RecessDiameter.Known, g.SumTolerance.Known, g.Open} {
			if set {
				flags |= 1 << bit
			}
		}
		put(flags)
		for j := range g.Holes {
			put(int64(g.Holes[j].X))
			put(int64(g.Holes[j].Y))
			b = append(b, g.Holes[j].ID...)
			b = append(b, 0)
		}
	}
	return b
}
