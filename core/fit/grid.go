package fit

import (
	"context"
	"reflect"
	"sync"

	"nexufix/core/catalog"
	"nexufix/core/stack"
)

// Grid stores the cells of the last matrix, so that the next one judges only what is new. Displays
// and brackets are compared by pointer: a changed one has another. It takes two bytes a cell and the memory of
// its [stack.Cache]; another policy empties it. It is safe for concurrent use; the zero Grid is
// empty.
type Grid struct {
	mu       sync.Mutex
	policy   catalog.Policy
	cache    *stack.Cache
	brackets map[*catalog.Bracket]int
	rows     map[*catalog.Display][]Cell
}

// Matrix judges every display with every bracket by every rule, on all cores,
// and passes on each row when it is done, in any order, from one goroutine at a
// time. It ends early when the context does, or when a row returns an error. It returns how many
// pairings had to be judged, and whether some of their stacks were too much work.
func (g *Grid) Matrix(ctx context.Context, displays []*catalog.Display, brackets []*catalog.Bracket, policy catalog.Policy,
	done func(Row) error) (judged int, cut bool, err error) {
	m := matrix{displays: displays, brackets: brackets, policy: &policy}
	m.cache, m.known = g.before(displays, brackets, policy)
	err = m.run(ctx, done)
	g.save(&m)
	return int(m.judged.Load()), m.work.Exhausted(), err
}

// before returns the stored cells of a requested matrix.
func (g *Grid) before(displays []*catalog.Display, brackets []*catalog.Bracket, policy catalog.Policy) (*stack.Cache, [][]Cell) {
	g.mu.Lock()
	defer g.mu.Unlock()
	if g.cache == nil || !reflect.DeepEqual(g.policy, policy) {
		g.policy, g.cache, g.rows = policy, stack.NewCache(false), nil
	}
	known := make([][]Cell, len(displays))
	for i, d := range displays {
		known[i] = make([]Cell, len(brackets))
		row := g.rows[d]
		if row == nil {
			continue
		}
		for j, b := range brackets {
			if at, ok := g.brackets[b]; ok {
				known[i][j] = row[at]
			}
		}
	}
	return g.cache, known
}

// save stores what a run has judged, also if it was stopped.
func (g *Grid) save(m *matrix) {
	g.mu.Lock()
	defer g.mu.Unlock()
	if m.cache != g.cache {
		return // the policy was changed meanwhile
	}
	g.brackets = map[*catalog.Bracket]int{}
	for j, b := range m.brackets {
		g.brackets[b] = j
	}
	g.rows = map[*catalog.Display][]Cell{}
	for i, d := range m.displays {
		g.rows[d] = m.known[i]
	}
}
