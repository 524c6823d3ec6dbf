package place

import (
	"math/rand/v2"
	"strconv"
	"testing"

	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fit"
	"nexufix/e2e/lots"
)

// TestTurningPoints: where a figure of a document, drawn by lot, changes what is said of a place.
func TestTurningPoints(t *testing.T) {
	lots.TurnWhereTheyDid(t, 60, func(n int) lots.Case {
		d, b, job, policy := catalogtest.Drawn(rand.New(rand.NewPCG(30, uint64(n))))
		if n%2 == 0 { // a policy of its own, where all can be told apart
			policy.WallSchool = "studs_only"
		}
		return lots.Case{Documents: map[string]any{"display": d, "bracket": b, "job": job, "policy": &policy}, Judge: func() map[string]string {
			p := fit.Judge(d, b, job.Turn, fit.ExtraOf(job), policy)
			if p.Hang == nil {
				return nil
			}
			out := map[string]string{}
			for _, x := range Place(&p, job) {
				place := strconv.Itoa(x.RunIndex) + " "
				for _, c := range x.Checks {
					out[place+string(c.Rule)] = c.Status.String()
				}
				for _, pt := range x.Points {
					out[place+pt.Hole] = "stud " + strconv.Itoa(pt.Stud)
				}
			}
			return out
		}}
	})
}
