package bench

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"nexufix/core/quantity"
	"nexufix/core/steps"
	"nexufix/demo/demotest"
)

// runPrefix finds the displays that a caution of a run names: "Display 2: ", "Displays 1–3, 5: ".
var runPrefix = regexp.MustCompile(`^Displays? ([0-9–, ]+): `)

// namedIn are the displays that a text names; nil: none, so all of them.
func namedIn(t *testing.T, text string) (out []int) {
	t.Helper()
	m := runPrefix.FindStringSubmatch(text)
	if m == nil {
		return nil
	}
	for part := range strings.SplitSeq(m[1], ", ") {
		from, to, is := strings.Cut(part, "–")
		if !is {
			to = from
		}
		a, err := strconv.Atoi(from)
		b, err2 := strconv.Atoi(to)
		if err != nil || err2 != nil {
			t.Fatalf("%q names no displays", text)
		}
		for n := a; n <= b; n++ {
			out = append(out, n)
		}
	}
	return out
}

// TestCautionsOfARun: what is a caution of a display of a run stands at its step for that display, and for none of which it is not said.
func TestCautionsOfARun(t *testing.T) {
	all, seen := demotest.Contents(t), 0
	for _, job := range all.Jobs {
		a, err := Open(t.Context(), all, Request{DisplayID: job.Display, BracketID: job.Bracket, Turn: int(job.Turn), Site: job})
		if err != nil {
			t.Fatal(err)
		}
		p := a.Judge()
		site, err := a.StepsSite(&p)
		if places := site.Places; err != nil || len(places) < 2 {
			continue
		}
		places, seq := site.Places, steps.Generate(&p, site)
		told := map[string][]int{} // by the sentence
		for _, s := range seq.Steps {
			for _, c := range s.Mind {
				text := c.In(quantity.Metric)
				of := namedIn(t, text)
				if of == nil {
					for n := range places {
						of = append(of, n+1)
					}
				}
				sentence := runPrefix.ReplaceAllString(text, "")
				told[sentence] = append(told[sentence], of...)
			}
		}
		for n := range places {
			for _, c := range places[n].Checks {
				if !c.Printed() {
					continue
				}
				found := false
				for sentence, of := range told {
					if strings.Contains(sentence, c.Text.In(quantity.Metric)) && slices.Contains(of, n+1) {
						found = true
					}
				}
				if !found {
					t.Errorf("%s: nobody is told of display %d: %s", job.ID, n+1, c.Text.In(quantity.Metric))
				}
				seen++
			}
		}
	}
	if seen < 6 {
		t.Errorf("only %d cautions were looked for", seen)
	}
}
