package fit

import (
	"cmp"
	"context"
	"math/bits"
	"slices"
	"sync"
	"sync/atomic"

	"nexufix/core/catalog"
	"nexufix/core/stack"
)

// Row is one display with every bracket, in the order of the brackets.
type Row struct {
	Display int // index
	Cells   []Cell
}

// matrix is one run of [Grid.Matrix].
type matrix struct {
	displays []*catalog.Display
	brackets []*catalog.Bracket
	policy   *catalog.Policy
	cache    *stack.Cache
	known    [][]Cell     // cells that need not be judged, by display and bracket; nil: none
	judged   atomic.Int64 // pairings
	work     *stack.Work
}

// The limit of work of a matrix, in steps of the search: a fixed number, and more for each
// pairing. Twenty million steps take a processor one second.
const (
	matrixSteps = 8_000_000
	cellSteps   = 180
)

// blockSizes are how many displays of a matrix are judged at a time: few at first, so
// that the first rows come soon.
var blockSizes = []int{64, 4096}

func (m *matrix) run(ctx context.Context, done func(Row) error) error {
	ctx, stop := context.WithCancelCause(ctx)
	defer stop(nil)
	m.work = stack.NewWork(ctx, matrixSteps+cellSteps*len(m.displays)*len(m.brackets))
	all := newBatch(m.brackets, 0, Extra{Work: m.work}, m.policy, m.cache)
	all.cells = true
	for from, n := 0, 0; from < len(m.displays) && ctx.Err() == nil; n++ {
		to := min(from+blockSizes[min(n, len(blockSizes)-1)], len(m.displays))
		var lacking func(i, j int) bool
		if m.known != nil {
			lacking = func(i, j int) bool { return m.known[from+i][j] == 0 }
		}
		subjects := all.prepare(m.displays[from:to], lacking)
		m.judge(ctx, all, subjects, from, func(r Row) {
			if err := done(r); err != nil {
				stop(err)
			}
		})
		from = to
	}
	return context.Cause(ctx)
}

// judge judges subjects with all brackets, except for known cells.
// A unit of work is a display with some of the brackets; if there are many displays, with all of them.
func (m *matrix) judge(ctx context.Context, all *batch, subjects []*subject, first int, done func(Row)) {
	part := max(1, len(m.brackets))
	if len(subjects) < 64 {
		part = max(1, (len(m.brackets)+15)/16)
	}
	parts := max(1, (len(m.brackets)+part-1)/part)
	rows := make([]Row, len(subjects))
	left := make([]atomic.Int32, len(subjects))
	for i := range rows {
		rows[i] = Row{first + i, make([]Cell, len(m.brackets))}
		left[i].Store(int32(parts))
	}
	var turn sync.Mutex
	all.share(len(subjects)*parts, func(solver *stack.Solver, room *[2]Pairing, unit int) {
		i, from := unit/parts, unit%parts*part
		for j := from; j < min(from+part, len(m.brackets)); j++ {
			if ctx.Err() != nil {
				return // the receiver has stopped
			}
			cell := &rows[i].Cells[j]
			if m.known != nil && m.known[first+i][j] != 0 {
				*cell = m.known[first+i][j]
				continue
			}
			*cell = subjects[i].cell(&all.targets[j], solver, room)
			if m.known != nil && !m.work.Exhausted() {
				m.known[first+i][j] = *cell
			}
			m.judged.Add(1)
		}
		if left[i].Add(-1) > 0 {
			return
		}
		turn.Lock()
		defer turn.Unlock()
		if ctx.Err() == nil {
			done(rows[i])
			rows[i].Cells = nil // they belong to the receiver now
		}
	})
}

// maxCovering is the largest number of brackets that Cover chooses.
const maxCovering = 3

// Cover finds the brackets, at most three, that together fit the most
// displays: exactly; of equal sets the smallest and first. It returns the brackets'
// indices and the displays that none of them fits, and ends early, with an
// error, when the context does.
func Cover(ctx context.Context, rows []Row, brackets int) (chosen, left []int, err error) {
	c := cover{ctx: ctx, words: (len(rows) + 63) / 64, best: -1}
	for j := range brackets {
		c.takes = append(c.takes, taken{bracket: j, displays: make([]uint64, c.words)})
	}
	for i, r := range rows {
		for j, cell := range r.Cells {
			if v := cell.Verdict(); v == Fits || v == FitsWithConditions {
				c.takes[j].displays[i/64] |= 1 << (i % 64)
				c.takes[j].count++
			}
		}
	}
	for c.most = 1; c.most <= maxCovering; c.most++ { // fewest first: more only if they fit more
		c.try(c.takes, nil, make([]uint64, c.words), 0)
	}
	if err := ctx.Err(); err != nil {
		return nil, nil, err
	}
	for i := range rows {
		is := false
		for _, j := range c.chosen {
			is = is || c.takes[j].displays[i/64]&(1<<(i%64)) != 0
		}
		if !is {
			left = append(left, i)
		}
	}
	return c.chosen, left, nil
}

// taken is the set of displays that a bracket fits, and how many of them count.
type taken struct {
	bracket  int
	displays []uint64
	count    int
}

type cover struct {
	ctx    context.Context
	words  int
	takes  []taken
	most   int   // brackets in a set
	best   int   // displays that fit
	chosen []int // rising
}

// try adds brackets to a set that fits the displays in have, in every way
// that can still be better. A bracket adds at most what it fits alone, so
// the rest is tried from the largest down, and skipped once even the largest
// is not enough.
func (c *cover) try(rest []taken, set []int, have []uint64, count int) {
	if count > c.best {
		c.best, c.chosen = count, slices.Sorted(slices.Values(set))
	}
	if len(set) == c.most || c.ctx.Err() != nil {
		return
	}
	more := make([]taken, 0, len(rest))
	for _, t := range rest {
		t.count = 0
		for w, x := range t.displays {
			t.count += bits.OnesCount64(x &^ have[w])
		}
		if t.count > 0 {
			more = append(more, t)
		}
	}
	slices.SortStableFunc(more, func(a, b taken) int { return cmp.Or(b.count-a.count, a.bracket-b.bracket) })
	with := make([]uint64, c.words)
	for i, t := range more {
		most := count
		for n := i; n < len(more) && n < i+c.most-len(set); n++ {
			most += more[n].count
		}
		if most <= c.best {
			return
		}
		for w := range with {
			with[w] = have[w] | t.displays[w]
		}
		c.try(more[i+1:], append(set, t.bracket), with, count+t.count)
	}
}
