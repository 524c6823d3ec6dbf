package steps

import (
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// changed is the pair's steps with changes of an engineer on them.
func changed(c change, changes ...catalog.StepChange) Sequence {
	d, b := catalogtest.Pair()
	if c != nil {
		c(d, b)
	}
	p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
	return Generate(&p, Site{Wall: "wood_stud", Job: &catalog.Job{StepChanges: changes}})
}

// TestRewordedFiguresFollow: a text of the engineer's has the figures that are computed, also when they
// are others later; when the generated text itself is another, it stands, and the change is a conflict.
func TestRewordedFiguresFollow(t *testing.T) {
	plain := changed(nil)
	was := step(&plain, "try").Template()
	reword := catalog.StepChange{Step: "try", What: "reword", Was: was, Text: []string{"Turn it in to {3}, 100 % by hand.", "",
		"That is {4}; {3} again.", "No power, 0 %."}}
	s := changed(nil, reword)
	try := step(&s, "try")
	if got := said(try.Text); got != "Turn it in to 4.1 mm, 100 % by hand. That is about seven full turns; 4.1 mm again. No "+
		"power, 0 %." || !try.Changed {
		t.Error(got)
	}
	if got := try.Text[0].In(quantity.Imperial); !strings.Contains(got, "5/32 in") {
		t.Error(got)
	}
	if strings.Join(try.Template(), "\n") != strings.Join(was, "\n") || len(try.Figures(quantity.Metric)) != 4 {
		t.Errorf("it is edited on %q, not on what was generated", try.Template())
	}
	// A thicker plate: the same sentence with another figure.
	s = changed(func(_ *catalog.Display, b *catalog.Bracket) { b.PlateThickness = quantity.MM(3) }, reword)
	if got := said(step(&s, "try").Text); !strings.Contains(got, "Turn it in to 4.6 mm") || s.Conflicts != nil {
		t.Error(got, s.Conflicts)
	}
	// A second group of holes has a sentence of its own.
	stepped := func(d *catalog.Display, b *catalog.Bracket) {
		for i := 2; i < 4; i++ {
			d.Patterns[0].Holes[i].Setback = catalog.Given(quantity.MM(1), catalog.Sheet)
		}
		b.Kit[0].Count = 8
	}
	s = changed(stepped, reword)
	if try := step(&s, "try"); try.Changed || len(s.Conflicts) != 1 || len(s.Conflicts[0].Now) <= len(was) || s.Conflicts[0].Mine == nil {
		t.Errorf("%v: %+v", try.Changed, s.Conflicts)
	}
}

// TestRewordedByTheProgram: a change made on an earlier wording holds where that says the same, with its figures; also where it was worded
// anew twice. Another sentence, or one more, is another.
func TestRewordedByTheProgram(t *testing.T) {
	table := map[string]string{"Put the %v in by hand.": "Turn the %v in by hand.",
		"Turn the %v in by hand.": "Turn it in %v by hand, %v turns."}
	for _, c := range []struct {
		now, was []string
		want     bool
	}{
		{[]string{"Turn the {1} in by hand."}, []string{"Turn the {1} in by hand."}, true},
		{[]string{"Turn it in {1} by hand, {2} turns.", "Stop."}, []string{"Put the {1} in by hand.", "Stop."}, true},
		{[]string{"Turn it in {3} by hand, {4} turns."}, []string{"Turn the {1} in by hand."}, true},
		{[]string{"Turn it in {1} by hand, {2} turns."}, []string{"Push the {1} in by hand."}, false},
		{[]string{"Turn it in {1} by hand, {2} turns.", "Stop."}, []string{"Put the {1} in by hand."}, false},
		{[]string{"Put the {1} in by hand."}, []string{"Put the {1} in by hand, twice."}, false},
	} {
		if got := sameMessages(c.now, c.was, table); got != c.want {
			t.Errorf("%q, made on %q: the same is %v", c.now, c.was, got)
		}
	}
	if circle := map[string]string{"a %v": "b %v", "b %v": "a %v"}; message("a {1}", circle) == "" {
		t.Error("a circle has no end")
	}
}

// TestHiding: what uses parts cannot be left out; what is for safety takes a reason; a caution stays, and so
// does every rule.
func TestHiding(t *testing.T) {
	hide := func(step, why string) catalog.StepChange {
		return catalog.StepChange{Step: step, What: "hide", Why: why}
	}
	s := changed(nil, hide("bolt", "no"), hide("pull", ""), hide("level", ""), hide("ghost", "x"))
	if len(s.Conflicts) != 3 || len(s.Hidden) != 1 || step(&s, "pull").ID == "" || step(&s, "level").ID != "" {
		t.Errorf("%+v %+v", s.Conflicts, s.Hidden)
	}
	s = changed(nil, hide("pull", "the maker forbids it"))
	if f := s.Faults(); f != nil || len(s.Hidden) != 1 ||
		s.Hidden[0].Text().In(quantity.Metric) != "Left out: Pull test. Reason: the maker forbids it" {
		t.Error(f, s.Hidden)
	}
	found := false
	for i := range s.Steps {
		found = found || strings.Contains(said(s.Steps[i].Mind), "If anything gives, take the plate down.")
	}
	if !found {
		t.Error("the caution went with its step")
	}
}

// TestMovingAndAdding: within the rules, and with the reason where a rule speaks against it.
func TestMovingAndAdding(t *testing.T) {
	s := changed(nil, catalog.StepChange{Step: "offsets", What: "move", After: "facedown"},
		catalog.StepChange{Step: "sweep", What: "add", Stage: "wall", Title: "Sweep", Text: []string{"Sweep, 100 %."}, After: "drill"},
		catalog.StepChange{Step: "try", What: "figure", Shows: "stack"})
	if got := ids(s.Steps); !strings.Contains(got, "facedown offsets try") || !strings.Contains(got, "drill sweep plate") {
		t.Error(got)
	}
	if f := s.Faults(); f != nil || s.Conflicts != nil || step(&s, "try").Figure != "stack" || said(step(&s,
		"sweep").Text) != "Sweep, 100 %." {
		t.Error(f, s.Conflicts)
	}
	for name, c := range map[string]catalog.StepChange{
		"bolts before they are tried":   {Step: "try", What: "move", After: "bolt"},
		"a stage before another":        {Step: "lift", What: "move", After: "facedown"},
		"after nothing":                 {Step: "try", What: "move", After: "ghost"},
		"a name that is taken":          {Step: "bolt", What: "add", Stage: "wall", Title: "T", Text: []string{"x"}},
		"after a step of a later stage": {Step: "early", What: "add", Stage: "display", Title: "T", Text: []string{"x"}, After: "lift"},
	} {
		plain, s := changed(nil), changed(nil, c)
		if len(s.Conflicts) != 1 || s.Conflicts[0].Why == "" || ids(s.Steps) != ids(plain.Steps) {
			t.Errorf("%s: %+v %s", name, s.Conflicts, ids(s.Steps))
		}
		if f := s.Faults(); f != nil {
			t.Errorf("%s: %v", name, f)
		}
	}
}
