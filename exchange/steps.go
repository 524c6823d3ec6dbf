package exchange

import (
	"nexufix/core/fit"
	"nexufix/core/place"
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
	Cables    []Cable    `json:"cables" required:"true"`
	Symptoms  []Symptom  `json:"symptoms" required:"true"`
	Hidden    []Hidden   `json:"hidden" required:"true"`    // steps that an engineer left out
	Conflicts []Conflict `json:"conflicts" required:"true"` // changes of an engineer that were not applied
	// Figures are the drawings of the steps by their names, as SVG; only where they are asked for.
	Figures map[string]string `json:"figures,omitempty"`
}

// Step is one step.
type Step struct {
	ID      string     `json:"id" required:"true"`
	Stage   string     `json:"stage" required:"true" enum:"unpack,display,wall,hang,finish"`
	Own     bool       `json:"own,omitempty"`     // of the bracket's assembly
	Changed bool       `json:"changed,omitempty"` // by an engineer
	Title   string     `json:"title" required:"true"`
	Text    []string   `json:"text" required:"true"`
	Parts   []StepPart `json:"parts" required:"true"`
	Tools   []string   `json:"tools" required:"true"`
	Caution string     `json:"caution,omitempty"`
	Check   string     `json:"check,omitempty"`
	Wrong   string     `json:"wrong,omitempty"` // what tells that it went wrong, and what to do then
	Figure  string     `json:"figure,omitempty"`
	Mind    []string   `json:"mind" required:"true"` // conditions that concern the step
	People  int        `json:"people" required:"true"`
	Minutes int        `json:"minutes" required:"true"`
	After   []string   `json:"after" required:"true"`
	Needs   []Need     `json:"needs" required:"true"` // the same, with reasons

	// The text as it is edited, its figures as {1}, {2} …, and what these are.
	Template []string `json:"template" required:"true"`
	Values   []string `json:"values" required:"true"`
}

// Hidden is a step that was left out, and why.
type Hidden struct {
	ID    string `json:"id" required:"true"`
	Title string `json:"title" required:"true"`
	Why   string `json:"why,omitempty"`
	Text  string `json:"text" required:"true"`
}

// Conflict is a change that was not applied: the text it was made on, as it is now, and the change's.
type Conflict struct {
	Change int      `json:"change" required:"true"` // of the job's step_changes
	Step   string   `json:"step" required:"true"`
	Was    []string `json:"was,omitempty"`
	Now    []string `json:"now,omitempty"`
	Mine   []string `json:"mine,omitempty"`
	Why    string   `json:"why" required:"true"`
}

// Need is a step that must come before, and why.
type Need struct {
	Step string `json:"step" required:"true"`
	Why  string `json:"why" required:"true"`
}

// Cable is how long a cable has to be.
type Cable struct {
	Name    string `json:"name" required:"true"`
	Zone    int    `json:"zone" required:"true"` // of the display's
	Outlet  *int   `json:"outlet,omitempty"`     // of the wall's
	Needed  OptMM  `json:"needed_mm,omitzero"`   // at least; absent: not known
	Fixed   OptMM  `json:"fixed_mm,omitzero"`    // it cannot be unplugged, and is this long
	Missing string `json:"missing,omitempty"`    // why it is not known
	Text    string `json:"text" required:"true"`
}

// Symptom is something that is wrong, and what may be behind it.
type Symptom struct {
	ID     string  `json:"id" required:"true"`
	Name   string  `json:"name" required:"true"`
	Stop   string  `json:"stop,omitempty"` // what is done at once
	Causes []Cause `json:"causes" required:"true"`
}

// Cause is one thing that may be behind a symptom.
type Cause struct {
	What string `json:"what" required:"true"`
	Look string `json:"look" required:"true"`
	Do   string `json:"do" required:"true"`
}

// StepPart is a number of equal pieces.
type StepPart struct {
	Name     string `json:"name" required:"true"`
	Bag      string `json:"bag,omitempty"`
	Count    int    `json:"count" required:"true"`
	Supplied bool   `json:"supplied,omitempty"`
	Tag      string `json:"tag,omitempty"` // of what shows it in figures
	Why      string `json:"why,omitempty"` // of what is left over: why
}

// SequenceOf writes a sequence, its sentences in the given units.
func SequenceOf(s *steps.Sequence, units quantity.Units) Sequence {
	out := Sequence{
		Format: Format, Title: s.Title, Wall: s.Wall.String(), Blocked: BlockedOf(s.Blocked, units), Lift: liftOf(s,
			units), People: s.People, Minutes: s.Minutes,
		Steps: []Step{}, Parts: partsOf(s.Parts), Supply: partsOf(s.Supply), Leftovers: partsOf(s.Leftovers),
		Tools: texts(s.Tools), Cautions: sentences(s.Cautions, units), Cables: []Cable{}, Symptoms: []Symptom{}, Hidden: []Hidden{},
		Conflicts: []Conflict{},
	}
	for i := range s.Steps {
		x := &s.Steps[i]
		step := Step{
			ID: x.ID, Stage: string(x.Stage), Own: x.Own, Title: x.Title, Text: sentences(x.Text, units), Parts: partsOf(x.Parts),
			Tools: texts(x.Tools), Caution: x.Caution.In(units), Check: x.Check.In(units), Wrong: x.Wrong.In(units), Figure: x.Figure,
			Mind: sentences(x.Mind, units), People: x.People, Minutes: x.Minutes, After: []string{}, Needs: []Need{},
			Changed: x.Changed, Template: texts(x.Template()), Values: texts(x.Figures(units)),
		}
		for _, n := range x.Needs {
			step.After, step.Needs = append(step.After, n.Step), append(step.Needs, Need(n))
		}
		out.Steps = append(out.Steps, step)
	}
	for _, h := range s.Hidden {
		out.Hidden = append(out.Hidden, Hidden{h.ID, h.Title, h.Why, h.Text()})
	}
	for _, c := range s.Conflicts {
		out.Conflicts = append(out.Conflicts, Conflict(c))
	}
	for i := range s.Cables {
		out.Cables = append(out.Cables, cableOf(&s.Cables[i], units))
	}
	for _, x := range s.Symptoms {
		symptom := Symptom{ID: x.ID, Name: x.Name, Stop: x.Stop.In(units)}
		for _, c := range x.Causes {
			symptom.Causes = append(symptom.Causes, Cause{c.What.In(units), c.Look.In(units), c.Do.In(units)})
		}
		out.Symptoms = append(out.Symptoms, symptom)
	}
	return out
}

func cableOf(c *place.Cable, units quantity.Units) Cable {
	out := Cable{Name: c.Name(), Zone: c.Zone, Fixed: c.Fixed, Missing: c.Missing, Text: c.Missing}
	if c.Outlet >= 0 {
		out.Outlet = &c.Outlet
	}
	if c.Known {
		out.Needed = quantity.Some(c.Needed)
		out.Text = quantity.Say("at least %v", place.Metres(c.Needed)).In(units)
	}
	return out
}

func partsOf(list []steps.Part) []StepPart {
	out := []StepPart{}
	for _, p := range list {
		out = append(out, StepPart{p.Name, p.Bag, p.Count, p.Supplied, p.Tag, p.Why})
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
