package pairing

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
	r := rand.New(rand.NewPCG(32, 7))
	var out strings.Builder
	for n := range 16 {
		d, b, job, policy := catalogtest.Drawn(r)
		p := fit.Judge(d, b, job.Turn, fit.ExtraOf(job), policy)
		var all []place.Placement
		if p.Hang != nil && n%4 > 0 { // else no particular wall
			all = place.Place(&p, job)
		}
		fmt.Fprintf(&out, "case %d\n", n)
		out.WriteString(drawtest.List(Section(&p)))
		if n%2 == 0 {
			out.WriteString(drawtest.List(Back(&p)) + drawtest.List(DisplayBack(d)) + drawtest.List(BracketFace(b)))
		}
		var at *place.Placement
		if len(all) > 0 {
			at = &all[0]
		}
		out.WriteString(drawtest.List(Side(&p, float64(n%4*5), at)) + drawtest.List(Above(&p, float64(n%5*15))))
		if n%8 == 0 {
			for _, one := range KitPictures(b.Kit) {
				out.WriteString(drawtest.List(one))
			}
		}
	}
	lots.SameAnswers(t, out.String())
}
