package exchange

import (
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/steps"
)

// Sequence is what `steps` writes.
type Sequence struct {
	Format  string    `json:"format" required:"true" enum:"nexufix/1"`
	Title   string    `json:"title" required:"true"`
	Wall    string    `json:"wall" required:"true"`
	Blocked []Blocked `json:"blocked" required:"true"`
	// Whether a measured wall was judged; if not, what has to be measured.
	WallJudged bool       `json:"wall_judged" required:"true"`
	ToMeasure  []string   `json:"to_measure,omitempty"`
	Lift       *Lifting   `json:"lift"`
	People     int        `json:"people" required:"true"`
	Minutes    int        `json:"minutes" required:"true"`
	Steps      []Step     `json:"steps" required:"true"`
	Parts      []StepPart `json:"parts" required:"true"`
	Supply     []StepPart `json:"supply" required:"true"`
	Leftovers  []StepPart `json:"leftovers" required:"true"`
	Tools      []string   `json:"tools" required:"true"`
	Cautions   []string   `json:"cautions" required:"true"`
	Cables     []Cable    `json:"cables" required:"true"`
	Symptoms   []Symptom  `json:"symptoms" required:"true"`
	Hidden     []Hidden   `json:"hidden" required:"true"`    // steps that an engineer left out
	Conflicts  []Conflict `json:"conflicts" required:"true"` // changes of an engineer that were not applied
	// Untranslated are texts of the bracket and of an engineer that have no translation and are printed in English.
	Untranslated []string `json:"untranslated,omitempty"`
	// Figures are the drawings of the steps by name, as SVG, if requested.
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
	Wrong   string     `json:"wrong,omitempty"` // how to tell that it went wrong, and what to do
	Figure  string     `json:"figure,omitempty"`
	Mind    []string   `json:"mind" required:"true"` // conditions of the pairing that concern the step
	People  int        `json:"people" required:"true"`
	Minutes int        `json:"minutes" required:"true"`
	After   []string   `json:"after" required:"true"`
	Needs   []Need     `json:"needs" required:"true"` // the same, with reasons
	Photos  []Shown    `json:"photos,omitempty"`
	Done    string     `json:"done,omitempty"` // at the wall: when

	// The text as it is edited, with its figures as {1}, {2} …, and those figures.
	Template []string `json:"template" required:"true"`
	Values   []string `json:"values" required:"true"`
}

// Shown is a photograph of a step, by its id in the job's document or on the server.
type Shown struct {
	ID    string `json:"id" required:"true"`
	Shows string `json:"shows,omitempty"`
}

// Hidden is a step that was left out, and why.
type Hidden struct {
	ID    string `json:"id" required:"true"`
	Title string `json:"title" required:"true"`
	Why   string `json:"why,omitempty"`
	Text  string `json:"text" required:"true"`
}

// Conflict is a change that was not applied: the text it was made on, the text now, and the changed text.
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

// Cable is the length that a cable needs.
type Cable struct {
	Name    string `json:"name" required:"true"`
	Zone    int    `json:"zone" required:"true"` // of the display's
	Outlet  *int   `json:"outlet,omitempty"`     // of the wall's
	Needed  OptMM  `json:"needed_mm,omitzero"`   // at least; absent: not known
	Fixed   OptMM  `json:"fixed_mm,omitzero"`    // it cannot be unplugged, and is this long
	Missing string `json:"missing,omitempty"`    // why it is not known
	Text    string `json:"text" required:"true"`
}

// Symptom is something that went wrong, and its possible causes.
type Symptom struct {
	ID     string  `json:"id" required:"true"`
	Name   string  `json:"name" required:"true"`
	Stop   string  `json:"stop,omitempty"` // what to do at once
	Causes []Cause `json:"causes" required:"true"`
}

// Cause is a possible cause of a symptom.
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
	Tag      string `json:"tag,omitempty"` // of the part in the figures
	Why      string `json:"why,omitempty"` // why it is left over
}

// SequenceOf converts a sequence to the format, with its sentences in its language and the given units.
func SequenceOf(s *steps.Sequence, units quantity.Units) Sequence {
	r := stepWriter{quantity.Reader{Units: units, Language: s.Language}}
	out := Sequence{
		Format: Format, Title: r.Say(s.Title), Wall: s.Wall.String(), Blocked: r.blocked(s.Blocked), Lift: r.lift(&s.Lift), People: s.People,
		Minutes: s.Minutes, Steps: []Step{}, Parts: r.parts(s.Parts), Supply: r.parts(s.Supply), Leftovers: r.parts(s.Leftovers),
		Tools: r.Words(s.Tools), Cautions: r.All(s.Cautions), Cables: []Cable{}, Symptoms: []Symptom{}, Hidden: []Hidden{},
		Conflicts: []Conflict{}, WallJudged: s.ToMeasure == nil, ToMeasure: r.All(s.ToMeasure),
	}
	for i := range s.Steps {
		x := &s.Steps[i]
		step := Step{
			ID: x.ID, Stage: string(x.Stage), Own: x.Own, Title: r.Language.Words(x.Title), Text: r.All(x.Text), Parts: r.parts(x.Parts),
			Tools: r.Words(x.Tools), Caution: r.Say(x.Caution), Check: r.Say(x.Check), Wrong: r.Say(x.Wrong), Figure: x.Figure,
			Mind: r.All(x.Mind), People: x.People, Minutes: x.Minutes, After: []string{}, Needs: []Need{},
			Done: x.Done, Changed: x.Changed, Template: texts(x.Template()), Values: texts(x.Figures(units)),
		}
		for _, n := range x.Needs {
			step.After, step.Needs = append(step.After, n.Step), append(step.Needs, Need{n.Step, r.Language.Words(n.Why)})
		}
		for _, p := range x.Photos {
			step.Photos = append(step.Photos, Shown{p.ID, p.Shows})
		}
		out.Steps = append(out.Steps, step)
	}
	for i := range s.Hidden {
		h := &s.Hidden[i]
		out.Hidden = append(out.Hidden, Hidden{h.ID, r.Language.Words(h.Title), h.Why, r.Say(h.Text())})
	}
	for _, c := range s.Conflicts {
		out.Conflicts = append(out.Conflicts, Conflict(c))
	}
	for i := range s.Cables {
		out.Cables = append(out.Cables, r.cable(&s.Cables[i]))
	}
	for _, x := range s.Symptoms {
		symptom := Symptom{ID: x.ID, Name: r.Language.Words(x.Name), Stop: r.Say(x.Stop)}
		for _, c := range x.Causes {
			symptom.Causes = append(symptom.Causes, Cause{r.Say(c.What), r.Say(c.Look), r.Say(c.Do)})
		}
		out.Symptoms = append(out.Symptoms, symptom)
	}
	return out
}

// stepWriter is who a sequence is written for.
type stepWriter struct{ quantity.Reader }

func (r stepWriter) cable(c *place.Cable) Cable {
	out := Cable{Name: r.Say(c.Name()), Zone: c.Zone, Fixed: c.Fixed, Missing: r.Language.Words(c.Missing)}
	out.Text = out.Missing
	if c.Outlet >= 0 {
		out.Outlet = &c.Outlet
	}
	if c.Known {
		out.Needed = quantity.Some(c.Needed)
		out.Text = r.Say(quantity.Say("at least %v", place.Metres(c.Needed)))
	}
	return out
}

func (r stepWriter) parts(list []steps.Part) []StepPart {
	out := []StepPart{}
	for _, p := range list {
		out = append(out, StepPart{r.Language.Words(p.Name), p.Bag, p.Count, p.Supplied, p.Tag, r.Say(p.Why)})
	}
	return out
}

func (r stepWriter) blocked(list []fit.Check) []Blocked {
	out := []Blocked{}
	for _, c := range list {
		out = append(out, Blocked{c.Rule.String(), r.Say(c.Text), r.Say(c.Remedy)})
	}
	return out
}

func (r stepWriter) lift(l *steps.Lifting) *Lifting {
	if l.People == 0 {
		return nil
	}
	out := &Lifting{People: l.People, Limit: l.Limit / quantity.Gram * quantity.Gram, Hands: l.Hands, Equipment: l.Equipment,
		Text: r.Say(l.Text())}
	if l.Known {
		out.Mass = quantity.Some(l.Mass)
	}
	return out
}

func texts(list []string) []string { return append([]string{}, list...) }

// Blocked is a reason why a display must not be installed.
type Blocked struct {
	Rule   string `json:"rule" required:"true"`
	Text   string `json:"text" required:"true"`
	Remedy string `json:"remedy" required:"true"`
}

// BlockedOf converts such reasons to the format.
func BlockedOf(list []fit.Check, r quantity.Reader) []Blocked {
	return stepWriter{r}.blocked(list)
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
