package fit_test

import (
	"encoding/json"
	"maps"
	"os"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/exchange"
)

// object is a display, bracket or policy by field.
type object map[string]json.RawMessage

// with is the object with fields replaced, or taken away where they are null.
func (o object) with(fields object) object {
	out := maps.Clone(o)
	for k, v := range fields {
		out[k] = v
		if string(v) == "null" {
			delete(out, k)
		}
	}
	return out
}

type ruleCase struct {
	Rule                     fit.RuleID
	Status, Text, Remedy     string
	Display, Bracket, Policy object
	Turn                     int         `json:"turn_deg"`
	Accessories              json.Number `json:"accessories_kg"`
	Tilt                     *float64    `json:"wanted_tilt_deg"`
	Swivel                   *float64    `json:"wanted_swivel_deg"`
}

// TestRules are the cases of testdata/rules.json: what passes, is a caution,
// fails and cannot be said, each with the sentence that a person reads. For
// every rule there is each outcome, or a reason why there is none.
func TestRules(t *testing.T) {
	raw, err := os.ReadFile("testdata/rules.json")
	if err != nil {
		t.Fatal(err)
	}
	var file struct {
		Base  ruleCase
		Cases []ruleCase
	}
	if err := json.Unmarshal(raw, &file); err != nil {
		t.Fatal(err)
	}
	seen := map[fit.RuleID]map[string]bool{}
	for _, c := range file.Cases {
		p := c.judge(t, &file.Base)
		got := p.Check(c.Rule)
		text, remedy := got.Text.In(quantity.Metric), got.Remedy.In(quantity.Metric)
		if got.Status.String() != c.Status || text != c.Text || remedy != c.Remedy {
			t.Errorf("%s: %s %q remedy %q\nwant %s %q remedy %q", c.Rule, got.Status, text, remedy, c.Status, c.Text, c.Remedy)
		}
		if m := got.Measure; m.Given() && m.Margin < 0 && got.Status == fit.Pass {
			t.Errorf("%s passes with a margin of %d", c.Rule, m.Margin)
		}
		if seen[c.Rule] == nil {
			seen[c.Rule] = map[string]bool{}
		}
		seen[c.Rule][c.Status] = true
	}
	for _, r := range fit.Rules {
		rule := r.ID
		for i, status := range fit.Statuses {
			if why := r.Never[fit.Status(i)]; seen[rule][status] == (why != "") {
				t.Errorf("%s: %s: there is a case: %v; there is a reason for none: %q", rule, status, seen[rule][status], why)
			}
		}
	}
}

func (c *ruleCase) judge(t *testing.T, base *ruleCase) fit.Pairing {
	t.Helper()
	doc, err := json.Marshal(map[string]any{
		"format": exchange.Format, "policy": base.Policy.with(c.Policy),
		"displays": []any{base.Display.with(c.Display)}, "brackets": []any{base.Bracket.with(c.Bracket)},
	})
	if err != nil {
		t.Fatal(err)
	}
	all, problems := exchange.Read(doc)
	if problems != nil {
		t.Fatalf("%s, %q: %v", c.Rule, c.Text, problems)
	}
	extra := fit.Extra{}
	for wanted, degrees := range map[*quantity.Optional[quantity.Angle]]*float64{&extra.WantedTilt: c.Tilt, &extra.WantedSwivel: c.Swivel} {
		if degrees != nil {
			*wanted = quantity.Some(quantity.Angle(*degrees * float64(quantity.Degree)))
		}
	}
	if c.Accessories != "" {
		kg, err := quantity.ParseMass(c.Accessories.String(), quantity.Kilogram)
		if err != nil {
			t.Fatal(err)
		}
		extra.Accessories = kg
	}
	return fit.Judge(all.Displays[0], all.Brackets[0], catalog.Turn(c.Turn), extra, all.PolicyOrDefault())
}
