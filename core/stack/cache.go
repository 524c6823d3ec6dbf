package stack

import (
	"encoding/binary"
	"sync"
	"sync/atomic"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Cache remembers, for one policy, what has been solved for many displays on many brackets, each by
// all that it follows from: the holes' figures and places and the thread (a layout), and what of that
// thread is in the kit and how thick the plate is (a kit). It is safe for concurrent use, and asked
// through a [Solver]. It holds at most [mostSolutions], of 150 to 300 bytes each. Nothing empties it: another
// policy wants another cache.
type Cache struct {
	explain bool // of problems without a stack, why
	mu      sync.RWMutex
	layouts map[string]*Entry
	kits    map[string]int32
	stocks  map[stockKey]*stock
	solved  atomic.Int64
}

// Entry are the solutions that are remembered for a layout, by the number of the
// kit. Only kits numbered before it are remembered.
type Entry struct{ solutions []atomic.Pointer[solution] }

type stockKey struct {
	kit    int32
	thread fastener.Thread
	supply bool
}

// mostSolutions are enough for ten thousand displays on two hundred brackets of which no two have the
// same kit.
const mostSolutions = 400_000

// NewCache is an empty cache. It can remember of problems without a stack why they have none as well.
func NewCache(explain bool) *Cache {
	return &Cache{explain: explain, layouts: map[string]*Entry{}, kits: map[string]int32{}, stocks: map[stockKey]*stock{}}
}

// Full says that it is nearly so.
func (m *Cache) Full() bool { return m != nil && m.solved.Load() > mostSolutions/2 }

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
		k = &Entry{solutions: make([]atomic.Pointer[solution], len(m.kits))}
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

// Solver solves for one worker. It is best asked for all displays on a bracket before the next: as
// long as the kit stays the same it keeps what the searches share, the candidates of equal holes, at
// most [mostCandidates] of them for each thread.
type Solver struct {
	cache  *Cache
	policy *catalog.Policy
	work   *Work
	shelf  shelf
	kits   [fastener.M8 + 1]struct {
		kit   int32
		lists [2]lists // from the kit alone, and with what can be sent
		why   explainer
	}
}

// NewSolver returns a worker's solver for the cache's policy. With the nil Cache it remembers nothing, and
// its answers are the same.
func (m *Cache) NewSolver(policy *catalog.Policy, w *Work) *Solver {
	s := &Solver{cache: m, policy: policy, work: w}
	for t := range s.kits {
		s.kits[t].kit = -1
	}
	return s
}

// Solve solves the problem of a layout on a bracket; known and kits are what the cache has for them. The answer
// is written out in the room, or, if that is nil, for good.
func (s *Solver) Solve(f *BoltLayout, known *Entry, b *catalog.Bracket, kits KitNumbers, room *Room) Answer {
	p := s.problem(f, b)
	if !s.remembers(f, known, kits) {
		return Solve(p)
	}
	return s.solution(f, known, b, kits).of(&p, room)
}

// Summary returns the answer's summary.
func (s *Solver) Summary(f *BoltLayout, known *Entry, b *catalog.Bracket, kits KitNumbers) Summary {
	if !s.remembers(f, known, kits) {
		answer := s.Solve(f, known, b, kits, nil)
		return answer.Summary()
	}
	return s.solution(f, known, b, kits).summary
}

func (s *Solver) problem(f *BoltLayout, b *catalog.Bracket) Problem {
	p := f.On(b, *s.policy)
	p.Work = s.work
	return p
}

func (s *Solver) remembers(f *BoltLayout, known *Entry, kits KitNumbers) bool {
	return s.cache != nil && int(kits[f.Thread]) < len(known.solutions)
}

// solution looks a solution up, or searches for it.
func (s *Solver) solution(f *BoltLayout, known *Entry, b *catalog.Bracket, kits KitNumbers) *solution {
	m, kit := s.cache, kits[f.Thread]
	if x := known.solutions[kit].Load(); x != nil {
		return x
	}
	p := s.problem(f, b)
	k := &s.kits[f.Thread]
	if k.kit != kit {
		k.kit = kit
		for i := range k.lists {
			k.lists[i].forget()
		}
		k.why = explainer{lists: &k.lists[1]}
	}
	x := p.solve(mostEffort, func(supply bool) (*stock, *lists) {
		if len(p.OwnParts) > 0 {
			return p.stock(supply) // the display brings parts of its own
		}
		known := &k.lists[0]
		if supply {
			known = &k.lists[1]
		}
		return m.stock(&p, kit, supply), known
	}, &s.shelf)
	if m.explain && x == &noSolution && len(p.OwnParts) == 0 {
		k.why.supply = m.stock(&p, kit, true)
		x = s.shelf.unsolvable(k.why.why(&p))
	}
	if s.work.Exhausted() || m.solved.Load() >= mostSolutions {
		return x // perhaps not all of it, or there is no room: it is not remembered
	}
	size := int64(1)
	if len(p.OwnParts) > 0 {
		size = 40 // its stock is its own
	}
	if known.solutions[kit].Swap(x) == nil {
		m.solved.Add(size)
	}
	return x
}

// stock is the kit's, laid out once a thread.
func (m *Cache) stock(p *Problem, kit int32, supply bool) *stock {
	key := stockKey{kit, p.Thread, supply}
	m.mu.RLock()
	known := m.stocks[key]
	m.mu.RUnlock()
	if known == nil {
		known = p.newStock(supply)
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
