package install

import (
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/draw/drawtest"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/steps"
	"nexufix/e2e/lots"
)

// TestDrawingsStayAsTheyAre: what is drawn of jobs drawn by lot is that of testdata/answers.txt (see [lots.SameAnswers]).
func TestDrawingsStayAsTheyAre(t *testing.T) {
	lots.SameAnswers(t, drawtest.ByLot(96, 34, func(n int, p *fit.Pairing, job *catalog.Job, all []place.Placement) string {
		var out strings.Builder
		seq := steps.Generate(p, steps.Site{Wall: job.Wall.Type, Load: fit.ExtraOf(job), Job: job, Places: all})
		f := figures{p: p, seq: &seq, displays: max(1, len(all))}
		if len(all) > 0 && all[0].Known {
			f.at = &all[0]
		}
		for k, name := range Names {
			if n%len(Names) == k || name == "hook" && n%4 == 0 || name == "lift" && n%9 == 0 || name == "wall" && n%9 == 0 {
				out.WriteString(name + "\n" + drawtest.List(f.draw(name)))
			}
		}
		return out.String()
	}))
}
