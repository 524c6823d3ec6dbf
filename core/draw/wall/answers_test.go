package wall

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"nexufix/core/catalog/catalogtest"
	"nexufix/core/draw/drawtest"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/e2e/lots"
)

// TestDrawingsStayAsTheyAre: what is drawn of jobs drawn by lot is that of testdata/answers.txt (see [lots.SameAnswers]).
func TestDrawingsStayAsTheyAre(t *testing.T) {
	r := rand.New(rand.NewPCG(33, 7))
	var out strings.Builder
	for n := range 24 {
		d, b, job, policy := catalogtest.Drawn(r)
		p := fit.Judge(d, b, job.Turn, fit.ExtraOf(job), policy)
		var all []place.Placement
		if p.Hang != nil && n%4 > 0 { // else no particular wall
			all = place.Place(&p, job)
		}
		fmt.Fprintf(&out, "case %d\n", n)
		if len(all) > 0 {
			out.WriteString(drawtest.List(Elevation(all)) + drawtest.List(Holding(&all[0])) + drawtest.List(BuildUp(&all[0])))
		}
	}
	lots.SameAnswers(t, out.String())
}
