package stack

import (
	"math/rand/v2"
	"testing"

	"nexufix/e2e/lots"
)

// TestSolutionInShort: a stack that is written out from its picks comes to what the search found, and so does
// the summary.
func TestSolutionInShort(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 12))
	for found := 0; found < lots.Times(2000); {
		p := randomProblem(r)
		s := new(searcher)
		s.begin(&p, p.newStock(true), nil, maxEffort)
		if ok, _ := s.search(false); !ok {
			continue
		}
		found++
		x := solved(s.result(), nil, false)
		answer := x.of(&p)
		if answer.Best.rank != s.best || answer.Best.Status != s.status {
			t.Fatalf("%+v, found %+v", answer.Best.rank, s.best)
		}
		if got := answer.Summary(); got != x.summary {
			t.Fatalf("%+v, in short %+v", got, x.summary)
		}
	}
}
