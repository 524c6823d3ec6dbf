package wall

import (
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/draw/drawtest"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/e2e/lots"
)

// TestDrawingsStayAsTheyAre: what is drawn of jobs drawn by lot is that of testdata/answers.txt (see [lots.SameAnswers]).
func TestDrawingsStayAsTheyAre(t *testing.T) {
	lots.SameAnswers(t, drawtest.ByLot(24, 33, func(_ int, _ *fit.Pairing, _ *catalog.Job, all []place.Placement) string {
		var out strings.Builder
		if len(all) > 0 {
			out.WriteString(drawtest.List(Elevation(all)) + drawtest.List(Holding(&all[0])) + drawtest.List(BuildUp(&all[0])))
		}
		return out.String()
	}))
}
