package sheet

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
	lots.SameAnswers(t, drawtest.ByLot(18, 31, func(n int, p *fit.Pairing, _ *catalog.Job, all []place.Placement) string {
		var out strings.Builder
		s := Sheet{Date: "2026-12-01", Mark: "0123456789abcdef", Walls: []catalog.WallType{catalog.WoodStud, catalog.Concrete}, Places: all,
			Joined: n%5 == 0}
		if n%3 == 0 {
			s.Release = &Release{Number: "JOB-1", Revision: "B", Date: "2026-11-30", Approver: "Ida Kell", Address: "https://desk.example/v/ABCD",
				Mark: "0123", Audit: "17 89ab", QR: checkered(33)}
		}
		if n%7 == 0 {
			s.Hide = []string{Shows[n/7%len(Shows)]}
		}
		out.WriteString(drawtest.List(DrillTemplate(p, s)))
		if n%3 == 0 { // they are long
			out.WriteString(drawtest.List(MeasureCard(p, s)))
		}
		return out.String()
	}))
}

// checkered is a code whose dark modules differ from line to line.
func checkered(size int) (out [][]bool) {
	for y := range size {
		line := make([]bool, size)
		for x := range line {
			line[x] = (x*x+3*y)%5 < 2
		}
		out = append(out, line)
	}
	return out
}
