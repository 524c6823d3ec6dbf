package exchange

import (
	"encoding/json"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/steps"
)

// everyday returns the displays and brackets of a support desk's ordinary days, by id. They are invented; sizes, masses, patterns and
// threads are the usual ones (common practice).
func everyday(t *testing.T, more []json.RawMessage) *Contents {
	t.Helper()
	raw, err := os.ReadFile("testdata/everyday/catalogue.json")
	if err != nil {
		t.Fatal(err)
	}
	var doc map[string]any
	if err := json.Unmarshal(raw, &doc); err != nil {
		t.Fatal(err)
	}
	if more != nil {
		doc["jobs"] = more
	}
	if raw, err = json.Marshal(doc); err != nil {
		t.Fatal(err)
	}
	c, err := Read(raw)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

func readCases(t *testing.T, name string, into any) {
	t.Helper()
	raw, err := os.ReadFile(filepath.Join("testdata/everyday", name))
	if err == nil {
		err = json.Unmarshal(raw, into)
	}
	if err != nil {
		t.Fatalf("%s: %v", name, err)
	}
}

// TestEverydayPairings: what is asked every day is answered as a practitioner would, and most of it without a condition: conditions
// that are always there are not read.
func TestEverydayPairings(t *testing.T) {
	c := everyday(t, nil)
	var file struct {
		Expect []struct{ Display, Bracket, Verdict, Why string }
	}
	readCases(t, "pairings.json", &file)
	if len(file.Expect) != 60 {
		t.Fatalf("%d pairings", len(file.Expect))
	}
	clean := 0
	for _, x := range file.Expect {
		d, b := find(c, x.Display, x.Bracket)
		if d < 0 || b < 0 {
			t.Fatalf("%s on %s is not in the catalogue", x.Display, x.Bracket)
		}
		p := fit.Judge(c.Displays[d], c.Brackets[b], 0, fit.Extra{}, c.PolicyOrDefault())
		if string(p.Verdict) != x.Verdict {
			t.Errorf("%s on %s: %s, not %s (%s)", x.Display, x.Bracket, p.Verdict, x.Verdict, x.Why)
			for _, one := range p.Words() {
				if one.Status > fit.Note {
					t.Logf("  %s %s: %s", one.Rule, one.Status, one.Text.In(quantity.Metric))
				}
			}
		}
		if p.Verdict == fit.Fits {
			clean++
		}
	}
	if clean < 45 {
		t.Errorf("only %d of them fit without a condition", clean)
	}
}

func find(c *Contents, display, bracket string) (d, b int) {
	d, b = -1, -1
	for i := range c.Displays {
		if c.Displays[i].ID == display {
			d = i
		}
	}
	for i := range c.Brackets {
		if c.Brackets[i].ID == bracket {
			b = i
		}
	}
	return d, b
}

// TestEverydayWalls: of ordinary walls exactly that is said which a practitioner would say, and only that keeps a display from being
// hung.
func TestEverydayWalls(t *testing.T) {
	var file struct {
		Cases []struct {
			Why     string
			Blocked bool
			Expect  map[string]string // all that is neither a pass nor a note
			Job     json.RawMessage
		}
	}
	readCases(t, "walls.json", &file)
	if len(file.Cases) != 30 {
		t.Fatalf("%d walls", len(file.Cases))
	}
	var all []json.RawMessage
	for _, x := range file.Cases {
		all = append(all, x.Job)
	}
	c := everyday(t, all)
	kinds := map[string]bool{}
	for i, x := range file.Cases {
		job := c.Jobs[i]
		kinds[string(job.Wall.Type)] = true
		d, b := find(c, job.Display, job.Bracket)
		p := fit.Judge(c.Displays[d], c.Brackets[b], job.Turn, fit.ExtraOf(job), c.PolicyOrDefault())
		if p.Verdict == fit.DoesNotFit {
			t.Fatalf("%s does not fit, whatever the wall", job.ID)
		}
		places := place.Place(&p, job)
		said := map[string]string{}
		worst := map[string]fit.Status{}
		for k := range places {
			for _, one := range places[k].Checks {
				if one.Status > fit.Note && one.Status >= worst[string(one.Rule)] {
					worst[string(one.Rule)], said[string(one.Rule)] = one.Status, one.Status.String()
				}
			}
		}
		if !maps.Equal(said, x.Expect) {
			t.Errorf("%s (%s): %v, not %v", job.ID, x.Why, said, x.Expect)
		}
		if blocked := place.Blocking(&p, places); (len(blocked) > 0) != x.Blocked {
			t.Errorf("%s (%s): blocked by %v", job.ID, x.Why, BlockedOf(blocked, quantity.Reader{Units: quantity.Metric}))
		}
		sequence := steps.Generate(&p, steps.Site{Wall: job.Wall.Type, Load: fit.Extra{Accessories: job.Accessories}, Places: places})
		if (len(sequence.Blocked) > 0) != x.Blocked {
			t.Errorf("%s (%s): its steps are blocked by %v", job.ID, x.Why, BlockedOf(sequence.Blocked, quantity.Reader{Units: quantity.Metric}))
		}
	}
	if got := slices.Sorted(maps.Keys(kinds)); len(got) != 8 {
		t.Errorf("only the walls %v", got)
	}
}
