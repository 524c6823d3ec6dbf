package steps

import (
	"fmt"
	"math/rand/v2"
	"strconv"
	"testing"

	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

// TestTurningPoints: where a figure of a document, drawn by lot, changes what is done, by how many, and what they take along.
func TestTurningPoints(t *testing.T) {
	lots.TurnWhereTheyDid(t, 14, func(n int) lots.Case {
		d, b, job, policy := catalogtest.Drawn(rand.New(rand.NewPCG(30, uint64(n))))
		return lots.Case{Documents: map[string]any{"display": d, "bracket": b, "job": job, "policy": &policy}, Judge: func() map[string]string {
			if job.Run != nil && job.Run.Count < 1 {
				return nil // the format has none
			}
			p := fit.Judge(d, b, job.Turn, fit.ExtraOf(job), policy)
			site := Site{Wall: job.Wall.Type, Load: fit.ExtraOf(job), Job: job}
			if p.Hang != nil {
				site.Places = place.Place(&p, job)
			}
			s := Generate(&p, site)
			out := map[string]string{"people": strconv.Itoa(s.People), "tools": strconv.Itoa(len(s.Tools)), "blocked": strconv.Itoa(len(s.Blocked)),
				"lift": strconv.Itoa(len(s.Lift.Text().In(quantity.Metric)))}
			for _, x := range s.Steps {
				out[x.ID] = fmt.Sprint(x.People, " people, ", len(x.Text), " ", len(x.Caution.In(quantity.Metric)))
			}
			return out
		}}
	})
}
