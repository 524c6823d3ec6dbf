package install

import (
	"fmt"
	"math/rand/v2"
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
	for n := range 96 {
		d, b, job, policy := catalogtest.Drawn(r)
		p := fit.Judge(d, b, job.Turn, fit.ExtraOf(job), policy)
		var all []place.Placement
		if p.Hang != nil && n%4 > 0 { // else no particular wall
			all = place.Place(&p, job)
		}
		fmt.Fprintf(&out, "case %d\n", n)
		seq := steps.Generate(&p, steps.Site{Wall: job.Wall.Type, Load: fit.ExtraOf(job), Job: job, Places: all})
		f := figures{p: &p, seq: &seq, displays: max(1, len(all))}
		if len(all) > 0 && all[0].Known {
			f.at = &all[0]
		}
		for k, name := range Names {
			if n%len(Names) == k || name == "hook" && n%4 == 0 || name == "lift" && n%9 == 0 || name == "wall" && n%9 == 0 {
				out.WriteString(name + "\n" + drawtest.List(f.draw(name)))
			}
		}
	}
	lots.SameAnswers(t, out.String())
}
