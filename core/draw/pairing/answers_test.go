package pairing

import (
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/draw/drawtest"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/probe"
	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

// TestDrawingsStayAsTheyAre: what is drawn of jobs drawn by lot is that of testdata/answers.txt (see [lots.SameAnswers]).
func TestDrawingsStayAsTheyAre(t *testing.T) {
	lots.SameAnswers(t, drawtest.ByLot(112, 32, func(n int, p *fit.Pairing, _ *catalog.Job, all []place.Placement) string {
		var out strings.Builder
		var at *place.Placement
		if len(all) > 0 {
			at = &all[0]
		}
		switch n % 8 {
		case 0:
			out.WriteString(drawtest.List(Section(p)))
		case 1:
			out.WriteString(drawtest.List(Back(p)))
		case 2:
			out.WriteString(drawtest.List(BracketFace(p.Bracket)))
		case 3:
			p.Display.Width.Known = n%16 == 3 // without it, what is bolted to gives the size
			out.WriteString(drawtest.List(DisplayBack(p.Display)))
		case 4, 5:
			out.WriteString(drawtest.List(Side(p, float64(n%4*5), at)))
		case 6:
			out.WriteString(drawtest.List(Above(p, float64(n%5*15))))
		case 7:
			for _, one := range KitPictures(p.Bracket.Kit) {
				out.WriteString(drawtest.List(one))
			}
			trials := []catalog.Trial{{Thread: fastener.M6, Length: quantity.MM(8 + int64(n%5)), Outcome: "seated"},
				{Thread: fastener.M6, Length: quantity.MM(30), Outcome: "stopped", Gap: quantity.Some(quantity.MM(10 + int64(n%7)))},
				{Thread: fastener.M6, Length: quantity.MM(30), Outcome: "rests", Gap: quantity.Some(quantity.MM(26 + int64(n%3)))}}
			out.WriteString(drawtest.List(Hole(probe.Solve(trials[:n/8%4], nil))))
		}
		return out.String()
	}))
}
