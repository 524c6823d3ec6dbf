package fit

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"nexufix/core/catalog/catalogtest"
	"nexufix/e2e/lots"
)

// TestTurningPoints: where a figure of a document, drawn by lot, changes what is said of a pairing.
func TestTurningPoints(t *testing.T) {
	lots.TurnWhereTheyDid(t, 70, func(n int) lots.Case {
		r := rand.New(rand.NewPCG(30, uint64(n)))
		d, b, job, policy := catalogtest.Drawn(r)
		catalogtest.Holes(r, d, b)
		return lots.Case{Documents: map[string]any{"display": d, "bracket": b, "job": job, "policy": &policy}, Judge: func() map[string]string {
			p := Judge(d, b, job.Turn, ExtraOf(job), policy)
			out := map[string]string{"verdict": string(p.Verdict)}
			for _, c := range p.Findings {
				out[string(c.Rule)] = c.Status.String()
			}
			if p.Stack != nil {
				for i, h := range p.Stack.Groups {
					out[fmt.Sprint("bolts ", i)] = fmt.Sprint(h.Thread, " × ", h.Bolt, ", ", len(h.Spacers), " + ", h.Washers.Count)
				}
			}
			return out
		}}
	})
}
