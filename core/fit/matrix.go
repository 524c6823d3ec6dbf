package fit

import (
	"context"
	"math/bits"
	"runtime"
	"slices"
	"sync"
	"sync/atomic"

	"nexufix/core/catalog"
	"nexufix/core/stack"
)

// Cell is one pairing of a matrix: its verdict, the rule that decided it, and
// whether parts have to be sent.
type Cell struct {
	Verdict Verdict
	Rule    string // "" when every rule passes
	Sends   bool
}

// Row is one display with every bracket, in the order of the brackets.
type Row struct {
	Display int // index
	Cells   []Cell
}

// Matrix judges every display with every bracket by every rule, on all cores,
// and hands over each row as it is done, in any order, from one goroutine at a
// time. It ends early when the context does, or when a row is refused. With
// remember, equal stacks are solved once; the cells are the same without.
func Matrix(ctx context.Context, displays []*catalog.Display, brackets []*catalog.Bracket, policy catalog.Policy, remember bool, done func(Row) error) error {
	var memory *stack.Memory
	if remember {
		memory = stack.NewMemory(policy)
	}
	return matrixWith(ctx, displays, brackets, policy, memory, done)
}

func matrixWith(ctx context.Context, displays []*catalog.Display, brackets []*catalog.Bracket, policy catalog.Policy, memory *stack.Memory, done func(Row) error) error {
	bags := make([]stack.Bags, len(brackets))
	for j, b := range brackets {
		bags[j] = memory.Bags(b)
	}
	ctx, stop := context.WithCancelCause(ctx)
	defer stop(nil)
	// A unit of work is a display with a block of brackets; with many displays
	// a block is all brackets.
	block := max(1, len(brackets))
	if len(displays) < 64 {
		block = max(1, (len(brackets)+15)/16)
	}
	blocks := max(1, (len(brackets)+block-1)/block)
	rows := make([]Row, len(displays))
	left := make([]atomic.Int32, len(displays))
	for i := range rows {
		rows[i].Display = i
		left[i].Store(int32(blocks))
	}
	var next atomic.Int64
	var turn sync.Mutex
	var all sync.WaitGroup
	for range max(1, runtime.GOMAXPROCS(0)) {
		all.Go(func() {
			var room [2]Pairing
			for ctx.Err() == nil {
				unit := int(next.Add(1)) - 1
				i, from := unit/blocks, unit%blocks*block
				if i >= len(displays) {
					return
				}
				s := newSubject(displays[i], 0, Extra{}, &policy)
				s.memory, s.brief, s.pairing = memory, true, room
				cells := make([]Cell, 0, block)
				for j := from; j < min(from+block, len(brackets)); j++ {
					cells = append(cells, s.on(brackets[j], bags[j]).Cell())
				}
				room = s.pairing
				turn.Lock()
				switch {
				case blocks == 1:
					rows[i].Cells = cells
				case rows[i].Cells == nil:
					rows[i].Cells = make([]Cell, len(brackets))
					fallthrough
				default:
					copy(rows[i].Cells[from:], cells)
				}
				if left[i].Add(-1) == 0 && ctx.Err() == nil {
					if err := done(rows[i]); err != nil {
						stop(err)
					}
					rows[i].Cells = nil // the taker's now
				}
				turn.Unlock()
			}
		})
	}
	all.Wait()
	return context.Cause(ctx)
}

// Cell sums a pairing up.
func (p *Pairing) Cell() Cell {
	c := Cell{Verdict: p.Verdict, Sends: p.Stack != nil && len(p.Stack.Supplied) > 0}
	worst, place := Pass, len(Consequence)
	for i := range p.Checks {
		x := &p.Checks[i]
		if x.Status == Pass || x.Status == Unknown && !needed[x.Rule] {
			continue
		}
		if at := consequenceOf[i]; x.Status > worst || x.Status == worst && at < place {
			worst, place, c.Rule = x.Status, at, x.Rule
		}
	}
	return c
}

// Cover finds the brackets, at most three, that between them take the most
// displays: exact, by trying all sets; of equal ones the fewest and first. It
// gives the brackets' indices and the displays that none of them takes.
func Cover(rows []Row, brackets int) (chosen, left []int) {
	words := (len(rows) + 63) / 64
	takes := make([][]uint64, brackets)
	for j := range takes {
		takes[j] = make([]uint64, words)
	}
	for i, r := range rows {
		for j, c := range r.Cells {
			if c.Verdict == Fits || c.Verdict == FitsWithConditions {
				takes[j][i/64] |= 1 << (i % 64)
			}
		}
	}
	best := -1
	var try func(from int, set []int, have []uint64)
	try = func(from int, set []int, have []uint64) {
		n := 0
		for _, w := range have {
			n += bits.OnesCount64(w)
		}
		if n > best || n == best && len(set) < len(chosen) {
			best, chosen = n, slices.Clone(set)
		}
		if len(set) == 3 {
			return
		}
		for j := from; j < brackets; j++ {
			with := make([]uint64, words)
			for w := range with {
				with[w] = have[w] | takes[j][w]
			}
			try(j+1, append(set, j), with)
		}
	}
	try(0, nil, make([]uint64, words))
	for i := range rows {
		taken := false
		for _, j := range chosen {
			taken = taken || takes[j][i/64]&(1<<(i%64)) != 0
		}
		if !taken {
			left = append(left, i)
		}
	}
	return chosen, left
}
