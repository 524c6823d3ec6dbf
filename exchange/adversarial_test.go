package exchange

import (
	"encoding/json"
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/steps"
)

// adversarial is one file of testdata/adversarial: a sound document with
// something odd, missing or contradictory in it, and the only safe answer.
type adversarial struct {
	Name string // in a family of cases
	Why  string
	Set  map[string]any
	Turn int `json:"turn_deg"`
	// Figures without which there is no contradiction any more.
	SettledWithout []string `json:"settled_without"`
	Expect         struct {
		Error      string
		Verdict    []string
		NotVerdict []string       `json:"not_verdict"`
		Checks     map[string]any // of the pairing: a status, or one of several
		Place      map[string]any // the worst of all displays; "" for none
		Blocked    *bool
		NoStack    bool `json:"no_stack"`
		NoSteps    bool `json:"no_steps"`
		Marks      map[string]string
		Says       map[string]string // of a rule of the place
		StepsSay   string            `json:"steps_say"`
		StepsNot   string            `json:"steps_not"`
		Parts      map[string]int
		NotParts   []string `json:"not_parts"`
		People     int
		Equipment  bool
		PointDepth float64 `json:"point_depth"`
		MinAcross  float64 `json:"min_across"`
	}
}

var pathPart = regexp.MustCompile(`[A-Za-z_0-9]+`)

// put sets a path of a JSON value, as "displays[0].zones[1].x_mm"; nil takes it
// away, out of lists too.
func put(t *testing.T, root map[string]any, path string, value any) {
	t.Helper()
	parts := pathPart.FindAllString(path, -1)
	var at any = root
	var store func(any)
	for i, part := range parts {
		last := i == len(parts)-1
		switch x := at.(type) {
		case map[string]any:
			if last {
				if value == nil {
					delete(x, part)
				} else {
					x[part] = value
				}
				return
			}
			if x[part] == nil {
				x[part] = map[string]any{}
			}
			store = func(v any) { x[part] = v }
			at = x[part]
		case []any:
			n, err := strconv.Atoi(part)
			if err != nil || n > len(x) {
				t.Fatalf("%s leads nowhere at %s", path, part)
			}
			if last {
				switch {
				case value == nil:
					store(slices.Delete(x, n, n+1))
				case n == len(x):
					store(append(x, value))
				default:
					x[n] = value
				}
				return
			}
			store = func(v any) { x[n] = v }
			at = x[n]
		default:
			t.Fatalf("%s leads nowhere at %s", path, part)
		}
	}
}

// soundDocument is the base that cases are made from.
func soundDocument(t testing.TB) map[string]any { return document(t, "base.json") }

// fullDocument has every figure of the format.
func fullDocument(t testing.TB) map[string]any { return document(t, "full.json") }

func document(t testing.TB, name string) map[string]any {
	t.Helper()
	raw, err := os.ReadFile(filepath.Join("testdata/adversarial", name))
	if err != nil {
		t.Fatal(err)
	}
	var doc map[string]any
	if err := json.Unmarshal(raw, &doc); err != nil {
		t.Fatal(err)
	}
	return doc
}

// answer is everything the product says of a document's first job, or of its
// first pairing without one.
type answer struct {
	pairing  fit.Pairing
	places   []place.Placement
	sequence steps.Sequence
}

func answerOf(c *Contents, turn catalog.Turn) answer {
	d, b := c.Displays[0], c.Brackets[0]
	site := steps.Site{Wall: catalog.WoodStud}
	var out answer
	if len(c.Jobs) > 0 {
		job := *c.Jobs[0]
		if turn != 0 {
			job.Turn = turn
		}
		out.pairing = fit.Judge(d, b, job.Turn, fit.ExtraOf(&job), c.PolicyOrDefault())
		out.places = place.Place(&out.pairing, &job)
		site = steps.Site{Wall: job.Wall.Type, Load: fit.Extra{Accessories: job.Accessories}, Places: out.places}
	} else {
		out.pairing = fit.Judge(d, b, turn, fit.Extra{}, c.PolicyOrDefault())
	}
	out.sequence = steps.Generate(&out.pairing, site)
	return out
}

// contradicts says how an answer contradicts itself; "" for a sound one.
func (a *answer) contradicts() string {
	p := &a.pairing
	for _, c := range p.Words() {
		if p.Verdict == fit.Fits && c.Status > fit.Note {
			return fmt.Sprintf("it fits, but %s is %s", c.Rule, c.Status)
		}
		if c.Status == fit.Fail && p.Verdict != fit.DoesNotFit {
			return fmt.Sprintf("%s fails, and the verdict is %s", c.Rule, p.Verdict)
		}
		if c.Status == fit.Pass && c.Measure.Given() && c.Measure.Margin < 0 {
			return fmt.Sprintf("%s passes with a margin of %d", c.Rule, c.Measure.Margin)
		}
		if c.Text.Empty() {
			return fmt.Sprintf("%s says nothing", c.Rule)
		}
		if c.Status == fit.Fail && len(a.sequence.Blocked) == 0 {
			return fmt.Sprintf("%s fails, and the steps carry no word of it", c.Rule)
		}
	}
	if p.Stack != nil && len(p.Layout.Contradictions) > 0 {
		return "a stack is proposed though figures contradict each other"
	}
	drilled := 0
	for i := range a.places {
		one := &a.places[i]
		for _, c := range one.Checks {
			if c.Status == fit.Fail && (len(one.Blocked()) == 0 || len(a.sequence.Blocked) == 0) {
				return fmt.Sprintf("%s fails at a place that is not blocked", c.Rule)
			}
			if c.Status == fit.Pass && c.Measure.Given() && c.Measure.Margin < 0 {
				return fmt.Sprintf("%s passes with a margin of %d", c.Rule, c.Measure.Margin)
			}
			if c.Text.Empty() {
				return fmt.Sprintf("%s says nothing", c.Rule)
			}
		}
		drilled += len(one.Points)
	}
	if f := a.sequence.Faults(); f != nil {
		return "the steps: " + strings.Join(f, "; ")
	}
	for _, s := range a.sequence.Steps {
		if s.ID == "lift" && s.People < a.sequence.Lift.People {
			return "fewer people than the lift takes"
		}
	}
	return ""
}

// said is everything the steps say.
func (a *answer) said() string {
	var out []string
	for _, s := range a.sequence.Steps {
		for _, list := range [][]quantity.Phrase{s.Text, s.Mind, {s.Check, s.Caution}} {
			for _, p := range list {
				out = append(out, p.In(quantity.Metric))
			}
		}
		out = append(out, s.Tools...)
	}
	return strings.Join(out, "\n")
}

// allowed reports whether a status is one of those a case allows.
func allowed(want any, got string) bool {
	switch w := want.(type) {
	case string:
		return w == got
	case []any:
		return slices.ContainsFunc(w, func(x any) bool { return x == got })
	}
	return false
}

// TestAdversarial: of every document in testdata/adversarial the only safe answer
// is given, and no answer contradicts itself.
func TestAdversarial(t *testing.T) {
	count := 0
	err := filepath.WalkDir("testdata/adversarial", func(path string, e fs.DirEntry, err error) error {
		if err != nil || e.IsDir() || filepath.Base(path) == "base.json" || filepath.Base(path) == "full.json" {
			return err
		}
		count++
		name := strings.TrimSuffix(strings.TrimPrefix(filepath.ToSlash(path), "testdata/adversarial/"), ".json")
		t.Run(name, func(t *testing.T) { adversarialCase(t, path) })
		return nil
	})
	if err != nil || count < 120 {
		t.Errorf("%d cases, %v", count, err)
	}
}

// adversarialCase is one document that tries to get a false answer, against the safe one.
func adversarialCase(t *testing.T, path string) {
	raw, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	var c adversarial
	if err := json.Unmarshal(raw, &c); err != nil {
		t.Fatal(err)
	}
	c.try(t)
}

// try holds a document against the safe answer.
func (c *adversarial) try(t *testing.T) {
	t.Helper()
	doc := soundDocument(t)
	for _, path := range slices.Sorted(maps.Keys(c.Set)) {
		put(t, doc, path, c.Set[path])
	}
	text, err := json.Marshal(doc)
	if err != nil {
		t.Fatal(err)
	}
	got, err := Read(text)
	if c.Expect.Error != "" {
		problems, _ := err.(Problems)
		if !slices.ContainsFunc(problems, func(p Problem) bool { return p.Path == c.Expect.Error }) {
			t.Fatalf("%s: it is not refused at %s: %v", c.Why, c.Expect.Error, err)
		}
		return
	}
	if err != nil {
		t.Fatalf("%s: %v", c.Why, err)
	}
	manyAgree(t, got, catalog.Turn(c.Turn))
	a := answerOf(got, catalog.Turn(c.Turn))
	if s := a.contradicts(); s != "" {
		t.Errorf("%s: %s", c.Why, s)
	}
	fail := func(format string, args ...any) {
		t.Errorf("%s: %s", c.Why, fmt.Sprintf(format, args...))
	}
	x, p := &c.Expect, &a.pairing
	if x.Verdict != nil && !slices.Contains(x.Verdict, string(p.Verdict)) || slices.Contains(x.NotVerdict, string(p.Verdict)) {
		fail("verdict %s", p.Verdict)
	}
	for rule, want := range x.Checks {
		if got := p.Check(fit.RuleID(rule)); !allowed(want, got.Status.String()) {
			fail("%s is %s, not %v: %s", rule, got.Status, want, got.Text.In(quantity.Metric))
		}
	}
	for rule, mark := range x.Marks {
		if got := p.Check(fit.RuleID(rule)); !slices.Contains(got.Marks, mark) {
			fail("%s marks %v, not %s", rule, got.Marks, mark)
		}
	}
	if x.NoStack && p.Stack != nil {
		fail("a stack is proposed: %+v", p.Stack)
	}
	for rule, want := range x.Place {
		got, text := "", ""
		worst := fit.Pass
		for i := range a.places {
			for _, one := range a.places[i].Checks {
				if one.Rule == fit.RuleID(rule) && (got == "" || one.Status > worst) {
					worst, got, text = one.Status, one.Status.String(), one.Text.In(quantity.Metric)
				}
			}
		}
		if !allowed(want, got) {
			fail("%s is %q, not %v: %s", rule, got, want, text)
		}
		if says := x.Says[rule]; !strings.Contains(text, says) {
			fail("%s does not say %q: %s", rule, says, text)
		}
	}
	if x.Blocked != nil && (len(a.sequence.Blocked) > 0) != *x.Blocked {
		fail("blocked: %v", BlockedOf(a.sequence.Blocked, quantity.Reader{Units: quantity.Metric}))
	}
	if x.NoSteps && len(a.sequence.Steps) > 0 {
		fail("it has steps")
	}
	if said := a.said(); !strings.Contains(said, x.StepsSay) || x.StepsNot != "" && strings.Contains(said, x.StepsNot) {
		fail("the steps do not say %q, or say %q: %s", x.StepsSay, x.StepsNot, said)
	}
	count := func(name string) (n int) {
		for _, part := range a.sequence.Parts {
			if strings.HasPrefix(part.Name, name) {
				n += part.Count
			}
		}
		return n
	}
	for name, n := range x.Parts {
		if count(name) != n {
			fail("%d × %s, not %d: %v", count(name), name, n, a.sequence.Parts)
		}
	}
	for _, name := range x.NotParts {
		if count(name) > 0 {
			fail("%d × %s are used", count(name), name)
		}
	}
	if l := a.sequence.Lift; x.People > 0 && (l.People != x.People || l.Equipment != x.Equipment) {
		fail("%d people, equipment %v", l.People, l.Equipment)
	}
	if x.PointDepth > 0 || x.MinAcross > 0 {
		if len(a.places) == 0 || len(a.places[0].Points) == 0 {
			t.Fatal("nothing is drilled")
		}
		most := 0.0
		for _, pt := range a.places[0].Points {
			if x.PointDepth > 0 && pt.Drill.Depth.Value != quantity.FromMM(x.PointDepth) {
				fail("a hole %s deep", pt.Drill.Depth.Value)
			}
			most = max(most, pt.Shear)
		}
		if most < x.MinAcross {
			fail("loaded across with %.0f N", most)
		}
	}
}
