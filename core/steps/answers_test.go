package steps

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

// TestStepsStayAsTheyAre: the sequences of jobs drawn by lot are those of testdata/answers.txt (see [lots.SameAnswers]).
func TestStepsStayAsTheyAre(t *testing.T) {
	r := rand.New(rand.NewPCG(29, 7))
	var out strings.Builder
	for n := range 90 {
		d, b, job, policy := catalogtest.Drawn(r)
		p := fit.Judge(d, b, job.Turn, fit.ExtraOf(job), policy)
		site := Site{Wall: job.Wall.Type, Load: fit.ExtraOf(job), Job: job}
		if p.Hang != nil && n%4 > 0 { // else no particular wall
			site.Places = place.Place(&p, job)
		}
		s := Generate(&p, site)
		fmt.Fprintf(&out, "case %d: %d people, %d min, %d blocked, %d symptoms, tools %v\n", n, s.People, s.Minutes, len(s.Blocked),
			len(s.Symptoms),
			s.Tools)
		fmt.Fprintf(&out, " lift %+v\n", s.Lift.Text().In(quantity.Metric))
		say := func(what string, all ...quantity.Phrase) {
			for _, text := range all {
				if !text.Empty() {
					fmt.Fprintf(&out, "  %s: %s\n", what, text.In(quantity.Metric))
				}
			}
		}
		for i := range s.Steps {
			x := &s.Steps[i]
			fmt.Fprintf(&out, " %s %s: %s, %d people, %d min, tools %v, figure %s, needs", x.Stage, x.ID, x.Title, x.People, x.Minutes,
				x.Tools, x.Figure)
			for _, need := range x.Needs {
				fmt.Fprintf(&out, " %+v", need)
			}
			out.WriteString("\n")
			say("text", x.Text...)
			say("caution", x.Caution)
			say("check", x.Check)
			say("wrong", x.Wrong)
			say("mind", x.Mind...)
			for k := range x.Parts {
				say("part "+x.Parts[k].Tag, x.Parts[k].Line())
			}
		}
		for k := range s.Leftovers {
			say("left over", s.Leftovers[k].Line())
		}
		for k := range s.Supply {
			say("supply", s.Supply[k].Line())
		}
		if n%6 == 0 { // they are much alike
			for _, x := range s.Symptoms {
				say("symptom "+x.ID, x.Stop)
				for _, cause := range x.Causes {
					say("because", cause.What, cause.Look, cause.Do)
				}
			}
		}
	}
	lots.SameAnswers(t, out.String())
}
