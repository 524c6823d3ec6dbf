package fit

import (
	"context"
	"reflect"
	"sync"

	"nexufix/core/catalog"
	"nexufix/core/stack"
)

// Grid keeps the cells of the last matrix, so that the next one judges only what is new. Displays
// and brackets go by identity: one that was changed is another. It takes two bytes a cell, and what
// its [stack.Cache] takes; another policy empties it. It is safe for concurrent use; the zero Grid is
// empty.
type Grid struct {
	mu       sync.Mutex
	policy   catalog.Policy
	cache    *stack.Cache
	brackets map[*catalog.Bracket]int
	rows     map[*catalog.Display][]Cell
}

// Matrix judges every display with every bracket by every rule, on all cores,
// and hands over each row as it is done, in any order, from one goroutine at a
// time. It ends early when the context does, or when a row is refused. It says how many
// pairings had to be judged, and whether some of their stacks were too much work.
func (g *Grid) Matrix(ctx context.Context, displays []*catalog.Display, brackets []*catalog.Bracket, policy catalog.Policy,
	done func(Row) error) (judged int, cut bool, err error) {
	m := matrix{displays: displays, brackets: brackets, policy: &policy}
	m.cache, m.known = g.before(displays, brackets, policy)
	err = m.run(ctx, done)
	g.save(&m)
	return int(m.judged.Load()), m.work.Exhausted(), err
}

// before lays out what is known of a matrix that is asked for.
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

// save takes over what a run has judged, also one that was stopped.
func (g *Grid) save(m *matrix) {
	g.mu.Lock()
	defer g.mu.Unlock()
	if m.cache != g.cache {
		return // another policy has come meanwhile
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
