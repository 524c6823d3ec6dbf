package bench

import (
	"context"
	"errors"
	"reflect"
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/draw/pairing"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/steps"
	"nexufix/exchange"
	"nexufix/render/svg"
)

// Drawing requests the drawings of a display or bracket that is being edited.
type Drawing struct {
	Display *catalog.Display `json:"display,omitempty"`
	Bracket *catalog.Bracket `json:"bracket,omitempty"`
	Units   string           `json:"units,omitempty" enum:"mm,in"`
}

// Drawn is what an editor shows beside the fields.
type Drawn struct {
	Picture    string         `json:"picture" required:"true"` // SVG
	Kit        []string       `json:"kit,omitempty"`           // SVG, one for each line of the kit
	Odd        string         `json:"odd" required:"true"`     // which figures disagree, "" if none do
	Changes    []VerdictMoved `json:"changes" required:"true"` // pairings whose verdict would change
	Priorities []PriorityLine `json:"priorities" required:"true"`
	Steps      []string       `json:"steps" required:"true"` // displays whose step sequence would change, by the bracket's own steps
	Jobs       []string       `json:"jobs" required:"true"`  // and jobs
	NotTried   string         `json:"not_tried,omitempty"`   // what was not tried because it takes too much work
}

// VerdictMoved is a pairing that an edit changes.
type VerdictMoved struct {
	Name   string `json:"name" required:"true"`
	Before string `json:"before" required:"true"`
	After  string `json:"after" required:"true"`
	Why    string `json:"why" required:"true"` // of the worst finding after
}

// PriorityLine is a figure that is worth measuring.
type PriorityLine struct {
	Figure   string   `json:"figure" required:"true"`
	Holes    []string `json:"holes" required:"true"`
	Known    bool     `json:"known" required:"true"`
	Pairings int      `json:"pairings" required:"true"`
}

// Draw draws a display or bracket as it would be after an edit, and lists what the edit would
// change.
func Draw(ctx context.Context, all *exchange.Contents, in Drawing) (*Drawn, error) {
	doc := exchange.Document{Format: exchange.Format}
	switch {
	case in.Display != nil && in.Bracket == nil:
		doc.Displays = []*catalog.Display{in.Display}
	case in.Bracket != nil && in.Display == nil:
		doc.Brackets = []*catalog.Bracket{in.Bracket}
	default:
		return nil, exchange.Problems{{Path: "display", Found: "is missing, or a bracket is there too", Allowed: "one of display and bracket"}}
	}
	now, err := doc.Contents()
	if err != nil {
		return nil, OwnPaths(err)
	}
	e := edit{Drawn: Drawn{Changes: []VerdictMoved{}, Priorities: []PriorityLine{}, Steps: []string{}, Jobs: []string{}}, all: all,
		policy: all.PolicyOrDefault(),
		extra:  fit.Extra{Work: NewWork(ctx)}, units: Units(in.Units)}
	if len(now.Displays) > 0 {
		e.display(now.Displays[0])
	} else {
		e.bracket(now.Brackets[0])
	}
	if e.extra.Work.Exhausted() {
		e.NotTried = notTried
	}
	return &e.Drawn, nil
}

// edit compares the catalogue's pairings before and after an edit.
type edit struct {
	Drawn
	all    *exchange.Contents
	policy catalog.Policy
	extra  fit.Extra
	units  quantity.Units
}

// display draws a display, and judges it on all brackets.
func (e *edit) display(d *catalog.Display) {
	e.Picture = svg.Picture(pairing.DisplayBack(d))
	if odd := fit.DataCheck(d); odd.Status > fit.Note {
		e.Odd = odd.Text.In(e.units)
	}
	for _, w := range fit.MeasurementPriorities(d, e.all.Brackets, e.policy, e.extra.Work) {
		e.Priorities = append(e.Priorities, PriorityLine{w.Figure, append([]string{}, w.Holes...), w.Known, w.Pairings})
	}
	if old := e.all.Display(d.ID); old != nil {
		for _, b := range e.all.Brackets {
			e.compare(b.Name, old, d, b, b)
		}
	}
}

// bracket draws a bracket and its kit, and judges it with the displays.
func (e *edit) bracket(b *catalog.Bracket) {
	e.Picture = svg.Picture(pairing.BracketFace(b))
	for _, p := range pairing.KitPictures(b.Kit) {
		e.Kit = append(e.Kit, svg.Picture(p))
	}
	if old := e.all.Bracket(b.ID); old != nil {
		for _, d := range sample(e.all.Displays) {
			e.compare(d.Name(), d, d, old, b)
		}
		if !reflect.DeepEqual(old.Assembly, b.Assembly) {
			e.ownSteps(old, b)
		}
	}
}

// compare records a pairing whose verdict changes, while there is work left.
func (e *edit) compare(name string, d, newDisplay *catalog.Display, b, newBracket *catalog.Bracket) {
	before, after := fit.Judge(d, b, 0, e.extra, e.policy), fit.Judge(newDisplay, newBracket, 0, e.extra, e.policy)
	if before.Verdict != after.Verdict && !e.extra.Work.Exhausted() {
		e.Changes = append(e.Changes, VerdictMoved{name, string(before.Verdict), string(after.Verdict),
			after.Check(after.Cell().Rule()).Text.In(e.units)})
	}
}

// ownSteps lists the displays and jobs whose steps change with a bracket's own steps: those for
// which, on some wall, other steps apply.
func (e *edit) ownSteps(old, b *catalog.Bracket) {
	touched := map[string]bool{}
	for _, d := range sample(e.all.Displays) {
		for _, turn := range b.Turns {
			p := fit.Judge(d, b, turn, e.extra, e.policy)
			if p.Stack == nil || p.Hang == nil || e.extra.Work.Exhausted() {
				continue
			}
			if slices.ContainsFunc(catalog.WallTypes, func(w catalog.WallType) bool {
				return !reflect.DeepEqual(steps.AssemblySteps(&p, old, w), steps.AssemblySteps(&p, b, w))
			}) && !touched[d.ID] {
				touched[d.ID] = true
				e.Steps = append(e.Steps, d.Name())
			}
		}
	}
	for _, j := range e.all.Jobs {
		if j.Bracket == b.ID && touched[j.Display] {
			e.Jobs = append(e.Jobs, j.ID)
		}
	}
}

// sample returns the displays that an edited bracket is judged with: all of a
// catalogue of usual size, the first ones of a larger one.
func sample(all []*catalog.Display) []*catalog.Display { return all[:min(len(all), 500)] }

// OwnPaths shortens the paths of problems in a document with one item to paths within that
// item.
func OwnPaths(err error) error {
	var problems exchange.Problems
	if !errors.As(err, &problems) {
		return err
	}
	for n := range problems {
		problems[n].Path = strings.NewReplacer("displays[0]", "display", "brackets[0]", "bracket", "jobs[0]", "job").Replace(problems[n].Path)
	}
	return problems
}
