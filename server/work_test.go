package server

import (
	"fmt"
	"testing"

	"nexufix/app/bench"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/stack"
	"nexufix/demo"
)

// TestWorkOfRealCatalogues: what people ask stays far below what a request may
// take: each display of the demo on each bracket, with what would help and every
// other bracket looked at; and on two hundred brackets with bags of their own.
func TestWorkOfRealCatalogues(t *testing.T) {
	c, err := demo.Contents()
	if err != nil {
		t.Fatal(err)
	}
	spent := func(d *catalog.Display, b *catalog.Bracket, all []*catalog.Bracket) int {
		extra := fit.Extra{Work: stack.NewWork(t.Context(), bench.MostWork).Remembering(stack.NewAnswers(1 << 20))}
		p := fit.Judge(d, b, 0, extra, c.PolicyOrDefault())
		fit.Improve(&p, all)
		for _, other := range all {
			fit.Judge(d, other, 0, extra, c.PolicyOrDefault())
		}
		fit.MeasurementPriorities(d, all, c.PolicyOrDefault(), extra.Work)
		if extra.Work.Exhausted() {
			t.Errorf("%s on %s is too much work", d.ID, b.ID)
		}
		return extra.Work.Spent()
	}
	worst := 0
	for _, d := range c.Displays {
		for _, b := range c.Brackets {
			worst = max(worst, spent(d, b, c.Brackets))
		}
	}
	var many []*catalog.Bracket
	for i := range 200 {
		b := *c.Brackets[i%len(c.Brackets)]
		b.ID = fmt.Sprint(b.ID, i)
		b.PlateThickness += quantity.Length(i) * quantity.Millimetre / 100 // every stack is another
		many = append(many, &b)
	}
	large := 0
	for _, d := range c.Displays {
		large = max(large, spent(d, many[0], many))
	}
	t.Logf("of %d steps the demo's displays take at the most %d, on 200 brackets %d", bench.MostWork, worst, large)
	if worst > bench.MostWork/20 || large > bench.MostWork/4 {
		t.Errorf("the most is %d steps, on 200 brackets %d, of %d", worst, large, bench.MostWork)
	}
}
