package install

import (
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"nexufix/core/catalog/catalogtest"
	"nexufix/core/draw/drawtest"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/steps"
	"nexufix/e2e/lots"
)

// TestDrawingsStayAsTheyAre: what is drawn of jobs drawn by lot is that of testdata/answers.txt (see [lots.SameAnswers]).
func TestDrawingsStayAsTheyAre(t *testing.T) {
	r := rand.New(rand.NewPCG(34, 7))
	var out strings.Builder
	drawn := map[string]int{} // of each figure three are enough
	for n := range 120 {
		d, b, job, policy := catalogtest.Drawn(r)
		p := fit.Judge(d, b, job.Turn, fit.ExtraOf(job), policy)
		var all []place.Placement
		if p.Hang != nil && n%4 > 0 { // else no particular wall
			all = place.Place(&p, job)
		}
		fmt.Fprintf(&out, "case %d\n", n)
		seq := steps.Generate(&p, steps.Site{Wall: job.Wall.Type, Load: fit.ExtraOf(job), Job: job, Places: all})
		figures := Figures(&p, &seq, all, nil)
		for _, name := range slices.Sorted(maps.Keys(figures)) {
			if drawn[name]++; drawn[name] <= 3 || name == "hook" && n%10 == 0 || name == "lift" && n%15 == 0 || name == "wall" && n%15 == 0 {
				out.WriteString(name + "\n" + drawtest.List(figures[name]))
			}
		}
	}
	lots.SameAnswers(t, out.String())
}
