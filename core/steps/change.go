package steps

import (
	"fmt"
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Conflict is a change that was not applied because the generated sequence has changed: the text
// when the change was made, the text now, and the changed text.
type Conflict struct {
	Change         int // its number in the job
	Step           string
	Was, Now, Mine []string
	Why            string
}

// Hidden is a step that was hidden, and why.
type Hidden struct{ ID, Title, Why string }

// Text returns the text that is printed for it.
func (h *Hidden) Text() quantity.Phrase {
	if h.Why == "" {
		return say("Left out: %v.", h.Title)
	}
	return say("Left out: %v. Reason: %v", h.Title, h.Why)
}

// Safety are the steps that cannot be hidden without a reason.
var Safety = []string{"unpack", "facedown", "try", "find", "prove", "pull", "lift", "lock", "tether"}

// written returns the generated text.
func (s *Step) written() []quantity.Phrase {
	if s.generated != nil {
		return s.generated
	}
	return s.Text
}

// Template returns the generated text of a step for editing: its sentences with figures as {1},
// {2} … in their order.
func (s *Step) Template() []string {
	var lines []string
	n := 0
	for _, p := range s.written() {
		line, _ := p.Numbered(&n)
		lines = append(lines, line)
	}
	return lines
}

// Figures returns what {1}, {2} … stand for, in one system of units.
func (s *Step) Figures(units quantity.Units) []string {
	var out []string
	for _, p := range s.written() {
		out = p.Figures(out, units)
	}
	return out
}

// apply applies the changes of a job to the sequence, if their texts are still the generated ones and
// they break no rule; the others are conflicts.
func (g *generator) apply(changes []catalog.StepChange) {
	for n := range changes {
		c := &changes[n]
		refuse := func(now []string, why string) {
			g.out.Conflicts = append(g.out.Conflicts, Conflict{Change: n, Step: c.Step, Was: c.Was, Now: now, Mine: c.Text, Why: why})
		}
		at := slices.IndexFunc(g.out.Steps, func(s Step) bool { return s.ID == c.Step })
		if c.What == "add" {
			if why := g.added(c, at); why != "" {
				refuse(nil, why)
			}
			continue
		}
		if at < 0 {
			refuse(nil, "there is no such step any more")
			continue
		}
		s := &g.out.Steps[at]
		switch c.What {
		case "reword":
			if now := s.Template(); !sameMessages(now, c.Was, Reworded) {
				refuse(now, "its generated text is another now")
			} else {
				s.reword(c.Text)
			}
		case "figure":
			s.Figure = c.Shows
		case "photo":
			s.Photos = append(s.Photos, Photo{c.Photo, c.Title, n})
		case "hide":
			if why := g.hide(at, c.Why); why != "" {
				refuse(nil, why)
			}
		case "move":
			if why := g.moved(at, c.After); why != "" {
				refuse(nil, why)
			}
		}
	}
}

// reword gives a step another text, with the figures of its generated one.
func (s *Step) reword(text []string) {
	var args []any
	n := 0
	for _, p := range s.written() {
		_, mine := p.Numbered(&n)
		args = append(args, mine...)
	}
	s.generated, s.Text, s.Changed = s.written(), nil, true
	for _, line := range text {
		if line = strings.TrimSpace(line); line == "" {
			continue
		}
		format := strings.ReplaceAll(line, "%", "%%")
		var mine []any
		for _, ref := range catalog.References(line) {
			format = strings.Replace(format, fmt.Sprintf("{%d}", ref), "%v", 1)
			mine = append(mine, args[ref-1])
		}
		s.Text = append(s.Text, say(format, mine...))
	}
}

// added adds a step of the engineer; why is the reason if it cannot.
func (g *generator) added(c *catalog.StepChange, at int) (why string) {
	if _, everyones := catalog.InstallSteps[c.Step]; everyones || at >= 0 {
		return "there is a step of that name already"
	}
	s := Step{ID: c.Step, Stage: c.Stage, Title: c.Title, Changed: true, People: 1, Minutes: 5, Figure: ownFigure[c.Stage]}
	for _, line := range c.Text {
		if line = strings.TrimSpace(line); line != "" {
			s.Text = append(s.Text, say("%v", line))
		}
	}
	if c.After != "" {
		s.Needs = []Need{{c.After, "the engineer says so"}}
	}
	list := insert(slices.Clone(g.out.Steps), s)
	if fault := firstFault(list); fault != "" {
		return fault
	}
	g.out.Steps = list
	return ""
}

// hide hides a step; why is the reason if it cannot. Its caution and its parts stay.
func (g *generator) hide(at int, reason string) (why string) {
	s := g.out.Steps[at]
	if len(s.Parts) > 0 {
		return "it uses parts: they would be left without a place"
	}
	if slices.Contains(Safety, s.ID) && strings.TrimSpace(reason) == "" {
		return "it is for safety: it is left out only with a reason, which is printed"
	}
	g.out.Hidden = append(g.out.Hidden, Hidden{s.ID, s.Title, reason})
	g.out.Steps = slices.Delete(g.out.Steps, at, at+1)
	if len(g.out.Steps) > 0 { // its cautions and conditions go on to the next step: they cannot be hidden
		next := &g.out.Steps[min(at, len(g.out.Steps)-1)]
		next.Mind = append(next.Mind, s.Mind...)
		if !s.Caution.Empty() {
			next.Mind = append(next.Mind, s.Caution)
		}
	}
	for i := range g.out.Steps {
		g.out.Steps[i].Needs = slices.DeleteFunc(g.out.Steps[i].Needs, func(n Need) bool { return n.Step == s.ID })
	}
	return ""
}

// moved moves a step to right after another; why is the rule that this would break.
func (g *generator) moved(at int, after string) (why string) {
	list := slices.Clone(g.out.Steps)
	s := list[at]
	list = slices.Delete(list, at, at+1)
	to := slices.IndexFunc(list, func(x Step) bool { return x.ID == after })
	if to < 0 {
		return "the step it should follow is not there"
	}
	s.Changed = true
	list = slices.Insert(list, to+1, s)
	if fault := firstFault(list); fault != "" {
		return fault
	}
	g.out.Steps = list
	return ""
}

// firstFault returns the first rule of order that a list of steps breaks; "" for none.
func firstFault(list []Step) string {
	names := map[string]string{}
	for i := range list {
		names[list[i].ID] = list[i].Title
	}
	done := map[string]bool{}
	stage := 0
	for i := range list {
		for _, n := range list[i].Needs {
			if !done[n.Step] && names[n.Step] != "" {
				return fmt.Sprintf("%q would come before %q: %s", list[i].Title, names[n.Step], n.Why)
			}
		}
		if of := stageOf(&list[i]); of < stage {
			return fmt.Sprintf("%q would come after a later stage", list[i].Title)
		} else {
			stage = of
		}
		done[list[i].ID] = true
	}
	return ""
}
