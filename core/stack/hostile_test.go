package stack

import (
	"testing"

	"nexufix/core/fastener"
)

// TestTooManyCombinations: eight holes that all differ, or spacers without
// end, are given up on and never answered wrongly; what a real display could
// be is searched through.
func TestTooManyCombinations(t *testing.T) {
	for _, c := range []struct {
		stacked, spacers, groups int
		gaveUp                   bool
	}{
		{2, 8, 4, false}, {2, 20, 4, false}, {3, 8, 4, false}, {2, 8, 8, true}, {4, 100, 8, true},
	} {
		p := benchmarkProblem()
		p.Policy.MaxStackedSpacers, p.Policy.StockSpacers = c.stacked, nil
		p.Kit = p.Kit[:16]
		for i := range c.spacers {
			p.Kit = append(p.Kit, spacer(1+float64(i)*0.73, 18, 4, fastener.M6))
		}
		p.Kit = append(p.Kit, washer(fastener.M6, 1.6, 18, 8), shoulder(fastener.M6, 2, 4))
		p.Groups = nil
		for i := range c.groups {
			p.Groups = append(p.Groups, row(string(rune('A'+i)), float64(i)*100, float64(i), float64(i)/3, 0, 14+float64(i)/7))
		}
		if got := Solve(p); got.Incomplete != c.gaveUp || got.Incomplete && got.Best != nil {
			t.Errorf("%+v: gave up %v, best %v", c, got.Incomplete, got.Best != nil)
		}
	}
}
