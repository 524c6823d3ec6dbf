package fit

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

// TestPairingsStayAsTheyAre: what is said of pairings drawn by lot is what testdata/answers.txt has (see [lots.SameAnswers]).
func TestPairingsStayAsTheyAre(t *testing.T) {
	r := rand.New(rand.NewPCG(29, 3))
	var out strings.Builder
	_, others := catalogtest.Many(1, 4)
	for n := range 250 {
		d, b, job, policy := catalogtest.Drawn(r)
		catalogtest.Holes(r, d, b)
		extra := ExtraOf(job)
		turn := []catalog.Turn{0, 0, 0, 90}[r.IntN(4)]
		p := Judge(d, b, turn, extra, policy)
		fmt.Fprintf(&out, "case %d: %s, %v, gave up %v\n", n, p.Verdict, p.Cell(), p.GaveUp)
		for _, c := range p.Words() {
			fmt.Fprintf(&out, "  %s %s %s: %s | %s | %v %v\n", c.Rule, c.Status, c.Measure.In(quantity.Imperial), c.Text.In(quantity.Metric),
				c.Remedy.In(quantity.Metric), c.Marks, p.Sources(c.Rule))
		}
		for _, a := range p.Assumed() {
			fmt.Fprintf(&out, "  assumed %s %d %d: %s\n", a.Path, a.Value, a.Holds, a.Text.In(quantity.Metric))
		}
		x := Improve(&p, others)
		fmt.Fprintf(&out, "  would help: %s %s: %s\n", x.Kind, x.Verdict, x.Text.In(quantity.Metric))
		m := p.Motion()
		fmt.Fprintf(&out, "  moves %.3f %.3f %.3f; blocked by %d\n", m.TiltDown.Value, m.TiltUp.Value, m.Swivel.Value, len(p.Blocked()))
		if n%10 == 0 {
			for _, w := range MeasurementPriorities(d, append(others, b), policy, nil) {
				fmt.Fprintf(&out, "  to measure: %+v\n", w)
			}
		}
	}
	lots.SameAnswers(t, out.String())
}
