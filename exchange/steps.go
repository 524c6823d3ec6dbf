package exchange

import (
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/steps"
)

// Sequence is what `steps` writes.
type Sequence struct {
	Format    string     `json:"format" required:"true" enum:"nexufix/1"`
	Title     string     `json:"title" required:"true"`
	Wall      string     `json:"wall" required:"true"`
	Blocked   []Blocked  `json:"blocked" required:"true"`
	Lift      *Lifting   `json:"lift"`
	People    int        `json:"people" required:"true"`
	Minutes   int        `json:"minutes" required:"true"`
	Steps     []Step     `json:"steps" required:"true"`
	Parts     []StepPart `json:"parts" required:"true"`
	Supply    []StepPart `json:"supply" required:"true"`
	Leftovers []StepPart `json:"leftovers" required:"true"`
	Tools     []string   `json:"tools" required:"true"`
	Cautions  []string   `json:"cautions" required:"true"`
}

// Step is one step.
type Step struct {
	ID      string     `json:"id" required:"true"`
	Title   string     `json:"title" required:"true"`
	Text    []string   `json:"text" required:"true"`
	Parts   []StepPart `json:"parts" required:"true"`
	Tools   []string   `json:"tools" required:"true"`
	Caution string     `json:"caution,omitempty"`
	Check   string     `json:"check,omitempty"`
	Figure  string     `json:"figure,omitempty" enum:"section,back,template"`
	Mind    []string   `json:"mind" required:"true"` // conditions that concern the step
	People  int        `json:"people" required:"true"`
	Minutes int        `json:"minutes" required:"true"`
	After   []string   `json:"after" required:"true"`
}

// StepPart is a number of equal pieces.
type StepPart struct {
	Name     string `json:"name" required:"true"`
	Bag      string `json:"bag,omitempty"`
	Count    int    `json:"count" required:"true"`
	Supplied bool   `json:"supplied,omitempty"`
}

// SequenceOf writes a sequence, its sentences in the given units.
func SequenceOf(s *steps.Sequence, units quantity.Units) Sequence {
	out := Sequence{
		Format: Format, Title: s.Title, Wall: s.Wall.String(), Blocked: BlockedOf(s.Blocked, units), Lift: liftOf(s,
			units), People: s.People, Minutes: s.Minutes,
		Steps: []Step{}, Parts: partsOf(s.Parts), Supply: partsOf(s.Supply), Leftovers: partsOf(s.Leftovers),
		Tools: texts(s.Tools), Cautions: sentences(s.Cautions, units),
	}
	for i := range s.Steps {
		x := &s.Steps[i]
		out.Steps = append(out.Steps, Step{
			ID: x.ID, Title: x.Title, Text: sentences(x.Text, units), Parts: partsOf(x.Parts), Tools: texts(x.Tools),
			Caution: x.Caution.In(units), Check: x.Check.In(units), Figure: x.Figure, Mind: sentences(x.Mind,
				units), People: x.People, Minutes: x.Minutes, After: texts(x.After),
		})
	}
	return out
}

func partsOf(list []steps.Part) []StepPart {
	out := []StepPart{}
	for _, p := range list {
		out = append(out, StepPart{p.Name, p.Bag, p.Count, p.Supplied})
	}
	return out
}

func sentences(list []quantity.Phrase, units quantity.Units) []string {
	out := []string{}
	for _, p := range list {
		out = append(out, p.In(units))
	}
	return out
}

func texts(list []string) []string { return append([]string{}, list...) }

// Blocked is a reason why something is not to be installed.
type Blocked struct {
	Rule   string `json:"rule" required:"true"`
	Text   string `json:"text" required:"true"`
	Remedy string `json:"remedy" required:"true"`
}

// BlockedOf writes the reasons why something is not to be installed.
func BlockedOf(list []fit.Check, units quantity.Units) []Blocked {
	out := []Blocked{}
	for _, c := range list {
		out = append(out, Blocked{c.Rule.String(), c.Text.In(units), c.Remedy.In(units)})
	}
	return out
}

// Lifting is who lifts a display to its place.
type Lifting struct {
	People    int    `json:"people" required:"true"`
	Mass      OptKG  `json:"mass_kg"`
	Limit     KG     `json:"limit_kg" required:"true"` // of one person
	Hands     OptMM  `json:"hands_mm"`
	Equipment bool   `json:"equipment" required:"true"`
	Text      string `json:"text" required:"true"`
}

func liftOf(s *steps.Sequence, units quantity.Units) *Lifting {
	l := &s.Lift
	if l.People == 0 {
		return nil
	}
	out := &Lifting{People: l.People, Limit: l.Limit / quantity.Gram * quantity.Gram, Hands: l.Hands, Equipment: l.Equipment,
		Text: l.Text().In(units)}
	if l.Known {
		out.Mass = quantity.Some(l.Mass)
	}
	return out
}
