package place

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

// TestAnswersStayAsTheyAre: what is said of places of every kind, drawn by lot from what walls, brackets and jobs have, is what
// testdata/answers.txt has. It is no proof that an answer is right: it shows every answer that a change of the code changes, and a change
// on purpose is written with go test ./core/place -run Answers -update, and read in the difference.
func TestAnswersStayAsTheyAre(t *testing.T) {
	r := rand.New(rand.NewPCG(29, 11))
	var out strings.Builder
	for n := range 300 {
		d, b, job, policy := catalogtest.Drawn(r)
		p := fit.Judge(d, b, job.Turn, fit.ExtraOf(job), policy)
		fmt.Fprintf(&out, "case %d: %s\n", n, p.Verdict)
		for _, kind := range []catalog.WallType{job.Wall.Type} {
			for _, c := range BestCase(&p, kind) {
				fmt.Fprintf(&out, "  at best: %s %s: %s\n", c.Rule, c.Status, c.Text.In(quantity.Metric))
			}
		}
		if p.Hang == nil {
			continue
		}
		all := Place(&p, job)
		for i := range all {
			write(&out, &all[i])
		}
		for _, text := range StandsOn(&p, all) {
			fmt.Fprintf(&out, "  stands on: %s\n", text.In(quantity.Metric))
		}
		fmt.Fprintf(&out, "  %d against it; to measure: %d; by tape: %v\n", len(Blocking(&p, all)), len(ToMeasure(&job.Wall)), ByTape(all))
	}
	lots.SameAnswers(t, out.String())
}

// write writes all that is said of a placement.
func write(out *strings.Builder, p *Placement) {
	fmt.Fprintf(out, " place %d: x %v datum %v %v, top %v, gap %v, front %v, move %v %v, tilt %v %v\n", p.RunIndex, p.DisplayX,
		p.DatumX, p.Datum,
		p.Top, p.Gap, p.ToFront, p.MoveX, p.MoveY, p.Tilt.Drop, p.Tilt.Rise)
	for _, c := range p.Checks {
		fmt.Fprintf(out, "  %s %s %s: %s | %s | %v\n", c.Rule, c.Status, c.Measure.In(quantity.Imperial), c.Text.In(quantity.Metric),
			c.Remedy.In(quantity.Metric), c.Marks)
	}
	for _, pt := range p.Points {
		fmt.Fprintf(out, "  %s %d: %v %v, drill %v × %v of %v, stud %d, %.3f %.3f %.5f\n", pt.Hole, pt.Plate, pt.X, pt.Y, pt.Drill.Diameter,
			pt.Drill.Depth, pt.Drill.Need, pt.Stud, pt.Pull, pt.Shear, pt.Utilisation)
	}
	for _, s := range p.Schools {
		fmt.Fprintf(out, "  school %s %v %v %v %v: %s", s.Rule, s.Centre, s.Known, s.Used, len(s.Against), s.Why.In(quantity.Metric))
		for _, a := range s.Against {
			fmt.Fprintf(out, "; %s", a.In(quantity.Metric))
		}
		out.WriteString("\n")
	}
	for _, c := range p.Cables() {
		fmt.Fprintf(out, "  cable %s: %v %v %s, outlet %d, at %.1f %.1f %.1f\n", c.Name().In(quantity.Metric), c.Known, c.Needed,
			c.Missing, c.Outlet,
			c.Out.X, c.Out.Y, c.Out.Z)
	}
	s := &p.Strength
	fmt.Fprintf(out, "  strength %v: load %v own %v reach %v out %v aside %v, %.4f %.4f %.4f\n", s.Known, s.Load, s.Own, s.Reach, s.Out,
		s.Eccentricity, s.CapacityPull, s.CapacityShear, s.Moment)
	for _, m := range s.Missing {
		fmt.Fprintf(out, "  missing %s\n", m.In(quantity.Metric))
	}
}
