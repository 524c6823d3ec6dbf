package exchange

import (
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// TestWhatIsAssumedChangesNothing: an accessory as heavy, and a weight as far aside, as is said to change nothing is put on record in
// every document: no rule says anything worse, of the pairing by what the bench says, of its wall too by what a job's sheets say. One step
// more, and a rule does.
func TestWhatIsAssumedChangesNothing(t *testing.T) {
	tried := map[string]int{}
	eachDocument(t, func(name string, doc map[string]any, c *Contents) {
		for _, j := range c.Jobs {
			j.Accessories = 0
		}
		was := answerOf(c, 0)
		for _, a := range was.pairing.Assumed() {
			aside, step := a.Path == fit.AsidePath(was.pairing.Turn), fit.MassStep
			switch {
			case aside:
				step = fit.AsideStep
			case a.Path != fit.AccessoriesPath:
				continue
			}
			worse := func(to int64, onWall bool) string {
				for _, side := range []int64{1, -1} {
					if side < 0 && !aside {
						continue
					}
					if rule := was.worsens(withAssumed(c, aside, was.pairing.Turn, side*to), onWall); rule != "" {
						return rule
					}
				}
				return ""
			}
			try := func(a fit.Assumed, onWall bool) {
				tried[a.Path]++
				if rule := worse(a.Holds, onWall); rule != "" {
					t.Errorf("%s, on its wall %t: %q, and %s is worse", name, onWall, a.Text.In(quantity.Metric), rule)
				}
				if worse(a.Holds+step, onWall) == "" {
					t.Errorf("%s, on its wall %t: %q, and no more does", name, onWall, a.Text.In(quantity.Metric))
				}
			}
			try(a, false)
			if len(was.places) > 0 && was.places[0].Known {
				try(place.Narrowed(&was.pairing, was.places, a), true)
			}
		}
	})
	for _, path := range []string{fit.AccessoriesPath, fit.AsidePath(0)} {
		if tried[path] < 500 {
			t.Errorf("%s was assumed only %d times", path, tried[path])
		}
	}
}

// withAssumed answers a document with what is assumed on record.
func withAssumed(c *Contents, aside bool, turn catalog.Turn, to int64) answer {
	out, d := *c, *c.Displays[0]
	out.Displays, out.Jobs = []*catalog.Display{&d}, nil
	for _, j := range c.Jobs[:min(1, len(c.Jobs))] {
		job := *j
		out.Jobs = append(out.Jobs, &job)
	}
	switch {
	case aside:
		fit.SetAside(&d, turn, quantity.Length(to))
	case len(out.Jobs) > 0:
		out.Jobs[0].Accessories = quantity.Mass(to)
	default:
		return answer{pairing: fit.Judge(&d, c.Brackets[0], 0, fit.Extra{Accessories: quantity.Mass(to)}, c.PolicyOrDefault())}
	}
	return answerOf(&out, 0)
}

// worsens names a rule that says something worse in another answer; "" for none. What the display's figures say of each other is left out.
func (a *answer) worsens(is answer, onWall bool) string {
	had := a.statuses()
	for rule, now := range is.statuses() {
		if now > max(had[rule], fit.Note) && rule != string(fit.DataRule) && (onWall || !strings.HasPrefix(rule, "place:")) {
			return rule
		}
	}
	return ""
}

// statuses are the worst of every rule, as outcomes names them.
func (a *answer) statuses() map[string]fit.Status {
	out := map[string]fit.Status{}
	for _, c := range a.pairing.Findings {
		out[string(c.Rule)] = c.Status
	}
	for i := range a.places {
		for _, c := range a.places[i].Checks {
			key := "place:" + string(c.Rule)
			out[key] = max(out[key], c.Status)
		}
	}
	return out
}

// TestUnsaidRecessesHold: a recess, or a rim, that nobody mentioned is put under the parts that were chosen, in every document: as deep as
// is said they still hold, and a nanometre more is not safe.
func TestUnsaidRecessesHold(t *testing.T) {
	tried := 0
	eachDocument(t, func(name string, _ map[string]any, c *Contents) {
		p := answerOf(c, 0).pairing
		if p.Stack == nil {
			return
		}
		for i := range p.Stack.Groups {
			g := &p.Stack.Groups[i]
			if !g.Slack.Known || !p.Layout.Groups[i].RecessUnsaid || len(g.Spacers) > 0 {
				continue
			}
			tried++
			for off, safe := range map[quantity.Length]bool{g.Slack.Value: true, g.Slack.Value + quantity.Nanometre: false} {
				problem := p.Problem()
				group := problem.Groups[i]
				group.Recess, group.RecessUnsaid = off, false
				problem.Groups = []stack.Group{group}
				h, faults, err := problem.JudgeGiven(0, stack.GivenParts{Bolt: g.Bolt, Head: g.Head, Threaded: g.Threaded, Washers: g.Washers,
					Shoulder: g.Shoulder})
				if err != nil || (h.Status <= g.Status) != safe {
					t.Errorf("%s: a recess of %d nm, %s, was %s, %v, %v", name, off, h.Status, g.Status, faults, err)
				}
			}
		}
	})
	if tried < 5 {
		t.Errorf("tried only %d times", tried)
	}
}
