package stack

import (
	"encoding/binary"
	"sync"
	"sync/atomic"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Cache remembers answers by what they follow from: the holes' figures and
// places and the thread (the layout), and what is in the kit and how thick the plate is (the kit), under
// one policy. It is safe for concurrent use. Answers are shared and must not be
// changed. The nil Cache remembers nothing and gives the same answers.
type Cache struct {
	policy  catalog.Policy
	mu      sync.RWMutex
	layouts map[string]*Entry
	kits    map[string]int32
	stocks  map[stockKey]*stock
	solved  atomic.Int64
	room    atomic.Int64 // for candidates
}

// Entry are the answers that are remembered for a layout, by the number of the
// kit. Only kits numbered before it are remembered.
type Entry struct{ answers []atomic.Pointer[Answer] }

type stockKey struct {
	kit    int32
	thread fastener.Thread
	supply bool
}

// mostRemembered is how many answers are remembered, of 1 or 2 kB each. Catalogues of
// ten thousand displays on two hundred brackets have half as many that differ.
const mostRemembered = 40_000

// mostCandidates is how many candidates of single groups are remembered, of 120 bytes each:
// a group of another layout, with the same figures and kit, has the same.
const mostCandidates = 700_000

// Remembering makes it remember no more than so many candidates, for who has little memory.
func (m *Cache) Remembering(candidates int) *Cache {
	m.room.Store(int64(candidates))
	return m
}

// NewCache is an empty cache for a policy.
func NewCache(policy catalog.Policy) *Cache {
	m := &Cache{policy: policy, layouts: map[string]*Entry{}, kits: map[string]int32{}, stocks: map[stockKey]*stock{}}
	m.room.Store(mostCandidates)
	return m
}

// Entry is what is remembered of a layout, and of all that equal it; nil of the
// nil Cache.
func (m *Cache) Entry(f *BoltLayout) *Entry {
	if m == nil {
		return nil
	}
	key := f.key()
	m.mu.Lock()
	defer m.mu.Unlock()
	k := m.layouts[string(key)]
	if k == nil {
		k = &Entry{answers: make([]atomic.Pointer[Answer], len(m.kits))}
		m.layouts[string(key)] = k
	}
	return k
}

// KitNumbers are the numbers of what a bracket's kit holds of each thread.
type KitNumbers [fastener.M8 + 1]int32

// KitNumbers are the numbers of a bracket's kit and plate by thread: equal ones
// have the same.
func (m *Cache) KitNumbers(b *catalog.Bracket) (kits KitNumbers) {
	if m == nil {
		return kits
	}
	room := quantity.Length(-1)
	if b.HeadRoom.Known {
		room = b.HeadRoom.Value
	}
	key := appendLengths(make([]byte, 0, 256), b.PlateThickness, b.Slot(), room)
	for _, t := range fastener.Threads {
		kits[t] = m.number(appendItems(append(key, byte(t)), b.Kit, t))
	}
	return kits
}

func (m *Cache) number(key []byte) int32 {
	m.mu.Lock()
	defer m.mu.Unlock()
	n, ok := m.kits[string(key)]
	if !ok {
		n = int32(len(m.kits))
		m.kits[string(key)] = n
	}
	return n
}

// Solve solves the problem of a layout on a bracket, of which known and kits
// are what the cache has.
func (m *Cache) Solve(f *BoltLayout, known *Entry, b *catalog.Bracket, kits KitNumbers, policy *catalog.Policy, w *Work) Answer {
	kit := kits[f.Thread]
	if m == nil || int(kit) >= len(known.answers) {
		p := f.On(b, *policy)
		p.Work = w
		return Solve(p)
	}
	if a := known.answers[kit].Load(); a != nil {
		return *a
	}
	p := f.On(b, *policy)
	p.Work = w
	a := p.solve(mostEffort, func(supply bool) *stock { return m.stock(&p, kit, supply) })
	if w.Exhausted() || m.solved.Load() >= mostRemembered {
		return a // perhaps not all of it, or there is no room: it is not remembered
	}
	if known.answers[kit].Swap(&a) == nil {
		m.solved.Add(1)
	}
	return a
}

// stock is the kit's, laid out once a thread, unless the display brings parts
// of its own.
func (m *Cache) stock(p *Problem, kit int32, supply bool) *stock {
	if len(p.OwnParts) > 0 {
		return p.stock(supply)
	}
	key := stockKey{kit, p.Thread, supply}
	m.mu.RLock()
	known := m.stocks[key]
	m.mu.RUnlock()
	if known == nil {
		known = p.stock(supply)
		known.lists = &lists{room: &m.room, listed: map[listed]list{}}
		m.mu.Lock()
		m.stocks[key] = known
		m.mu.Unlock()
	}
	return known
}

// Distinct is how many different problems were solved.
func (m *Cache) Distinct() int { return int(m.solved.Load()) }

// key holds everything an answer takes from a layout.
func (f *BoltLayout) key() []byte {
	var b []byte
	b = append(b, byte(f.Thread))
	for i := range f.Groups {
		g := &f.Groups[i]
		b = appendLengths(b, g.Setback, g.Recess, g.RecessDiameter.Value, g.ThreadDepth,
			g.SetbackTolerance, g.RecessTolerance, g.DepthTolerance, g.SumTolerance.Value)
		flags := int64(len(g.Holes)) << 3
		for bit, set := range []bool{g.RecessDiameter.Known, g.SumTolerance.Known, g.Open} {
			if set {
				flags |= 1 << bit
			}
		}
		b = binary.AppendVarint(b, flags)
		for j := range g.Holes {
			b = appendLengths(b, g.Holes[j].X, g.Holes[j].Y)
			b = append(b, g.Holes[j].ID...)
			b = append(b, 0)
		}
	}
	b = append(b, byte(len(f.Contradictions)))
	if f.Corners.Known {
		for _, g := range f.Corners.Groups {
			b = append(b, byte(g+1))
		}
	}
	return appendItems(b, f.OwnParts, f.Thread)
}

// appendItems writes what a stack of a thread takes from kit lines.
func appendItems(b []byte, items []catalog.Item, t fastener.Thread) []byte {
	for n := range items {
		i := &items[n]
		switch i.Kind {
		case "bolt", "washer", "shoulder_washer":
			if i.Thread != t {
				continue
			}
		case "spacer":
			if !i.Passes(t) {
				continue
			}
		default:
			continue
		}
		b = append(append(b, i.Kind...), 0)
		b = appendLengths(b, i.Length, i.Thickness, i.Outer, quantity.Length(i.Count))
	}
	return b
}

func appendLengths(b []byte, all ...quantity.Length) []byte {
	for _, l := range all {
		b = binary.AppendVarint(b, int64(l))
	}
	return b
}
