package stack

import (
	"encoding/binary"
	"sync"
	"sync/atomic"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Cache stores, for one policy, the solutions of many displays on many brackets, each by
// everything that it depends on: the holes' figures and places and the thread (a layout), and the parts of that
// thread in the kit and the plate's thickness (a kit). It is safe for concurrent use through a
// [Solver] for each worker. It holds at most [maxSolutions], of 150 to 300 bytes each, and is never emptied:
// another policy needs another cache.
type Cache struct {
	explain bool // also why problems have no stack
	mu      sync.RWMutex
	layouts map[string]*Entry
	kits    map[string]int32
	stocks  map[stockKey]*stock
	solved  atomic.Int64
}

// Entry has the solutions of a layout, by the number of the
// kit. It has room only for kits that were numbered before it was made.
type Entry struct{ solutions []atomic.Pointer[solution] }

type stockKey struct {
	kit    int32
	thread fastener.Thread
	supply bool
}

// maxSolutions is enough for ten thousand displays on two hundred brackets of which no two have the
// same kit.
const maxSolutions = 400_000

// NewCache returns an empty cache. With explain it also stores why problems have no stack.
func NewCache(explain bool) *Cache {
	return &Cache{explain: explain, layouts: map[string]*Entry{}, kits: map[string]int32{}, stocks: map[stockKey]*stock{}}
}

// Full reports whether half of its room is used.
func (m *Cache) Full() bool { return m != nil && m.solved.Load() > maxSolutions/2 }

// Entry returns the entry of a layout and all that equal it; nil for the
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

// KitNumbers are the numbers of a kit's parts for each thread.
type KitNumbers [fastener.M8 + 1]int32

// KitNumbers returns the numbers of a bracket's kit and plate by thread: equal ones
// have the same number.
func (m *Cache) KitNumbers(b *catalog.Bracket) (kits KitNumbers) {
	if m == nil {
		return kits
	}
	room := quantity.Length(-1)
	if b.HeadRoom.Known {
		room = b.HeadRoom.Value
	}
	key := appendLengths(make([]byte, 0, 256), b.PlateThickness, b.Slot(), room)
	if b.Dimpled {
		key = append(key, 1)
	}
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

// Solver solves for one worker. It is fastest for all displays on one bracket after another: until
// the kit changes it stores what the searches share, the candidates of equal holes, at
// most [maxCandidates] of them for each thread.
type Solver struct {
	cache  *Cache
	policy *catalog.Policy
	work   *Work
	search searcher // its memory is reused: allocating it takes as long as a search
	kits   [fastener.M8 + 1]struct {
		kit   int32
		lists [2]lists // from the kit alone, and with what can be sent
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

// Solve solves the problem of a layout on a bracket; known and kits are what the cache has for them.
func (s *Solver) Solve(f *BoltLayout, known *Entry, b *catalog.Bracket, kits KitNumbers) Answer {
	p := s.problem(f, b)
	if !s.remembers(f, known, kits) {
		return Solve(p)
	}
	return s.solution(f, known, b, kits).of(&p)
}

// Summary returns the answer's summary.
func (s *Solver) Summary(f *BoltLayout, known *Entry, b *catalog.Bracket, kits KitNumbers) Summary {
	if !s.remembers(f, known, kits) {
		answer := s.Solve(f, known, b, kits)
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
	}
	x := p.solve(maxEffort, func(supply bool) (*stock, *lists) {
		if len(p.OwnParts) > 0 {
			return p.stock(supply) // the display brings parts of its own
		}
		known := &k.lists[0]
		if supply {
			known = &k.lists[1]
		}
		return m.stock(&p, kit, supply), known
	}, &s.search)
	if m.explain && x == &noSolution && len(p.OwnParts) == 0 {
		x = unsolvable(p.why(m.stock(&p, kit, true)))
	}
	if s.work.Exhausted() || m.solved.Load() >= maxSolutions {
		return x // it may be incomplete, or there is no room: it is not stored
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

// stock returns the kit's stock for a thread, made once.
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

// Distinct returns how many different problems were solved.
func (m *Cache) Distinct() int { return int(m.solved.Load()) }

// key encodes everything an answer takes from a layout.
func (f *BoltLayout) key() []byte {
	var b []byte
	b = append(b, byte(f.Thread))
	for i := range f.Groups {
		g := &f.Groups[i]
		b = appendLengths(b, g.Setback, g.Recess, g.RecessDiameter.Value, g.ThreadDepth,
			g.SetbackTolerance, g.RecessTolerance, g.DepthTolerance, g.SumTolerance.Value)
		flags := int64(len(g.Holes)) << 6
		for bit, set := range []bool{g.RecessDiameter.Known, g.SumTolerance.Known, g.Open, g.RecessUnsaid, g.SetbackUnsaid, g.Wide} {
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
	b = append(b, byte(len(f.Contradictions)), byte(f.Under.Pocket))
	b = appendLengths(b, f.Under.StandsOut, f.Under.Depth)
	if f.Corners.Known {
		for _, g := range f.Corners.Groups {
			b = append(b, byte(g+1))
		}
	}
	return appendItems(b, f.OwnParts, f.Thread)
}

// appendItems encodes the kit lines that a stack of a thread can use.
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
		b = appendLengths(b, i.Length, i.Thickness, i.Outer, quantity.Length(i.Count), i.ThreadLength)
		b = append(append(b, i.Head...), 0)
	}
	return b
}

func appendLengths(b []byte, all ...quantity.Length) []byte {
	for _, l := range all {
		b = binary.AppendVarint(b, int64(l))
	}
	return b
}
