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

// Drawing requests the drawings of a display or bracket that is being edited: one of the catalogue by its id, or a whole document,
// with what is changed of it.
type Drawing struct {
	DisplayID string           `json:"display_id,omitempty" maxLength:"80"`
	BracketID string           `json:"bracket_id,omitempty" maxLength:"80"`
	Revision  int              `json:"revision,omitempty" minimum:"0"` // that is edited; without one the saved one
	Display   *catalog.Display `json:"display,omitempty"`
	Bracket   *catalog.Bracket `json:"bracket,omitempty"`
	Changes   []exchange.Edit  `json:"changes,omitempty" maxItems:"1000"` // in the order in which they were made: display.mass_kg
	Units     string           `json:"units,omitempty" enum:"mm,in"`      // of figures without a unit, and of texts
	Have      []string         `json:"have,omitempty" maxItems:"40" maxLength:"16"`
}

// Drawn is what an editor shows. While something in it is not right, only the document and the problems are there.
type Drawn struct {
	Document   exchange.Anything  `json:"document" required:"true"` // with its changes; what is not right in it is left out
	Problems   []exchange.Problem `json:"problems" required:"true"`
	Meanwhile  *Meanwhile         `json:"meanwhile,omitempty"`     // what somebody saved since the revision
	Picture    string             `json:"picture" required:"true"` // SVG
	Kit        string             `json:"kit" required:"true"`     // SVGs, one on each line for a line of the kit
	Marks      map[string]string  `json:"marks" required:"true"`   // of the drawings; one whose mark is in have is empty
	Odd        string             `json:"odd" required:"true"`     // which figures disagree, "" if none do
	Changes    []VerdictMoved     `json:"changes" required:"true"` // pairings whose verdict would change
	Priorities []PriorityLine     `json:"priorities" required:"true"`
	Steps      []string           `json:"steps" required:"true"` // displays whose step sequence would change, by the bracket's own steps
	Jobs       []string           `json:"jobs" required:"true"`  // and jobs
	NotTried   string             `json:"not_tried,omitempty"`   // what was not tried because it takes too much work
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
// change. The request has the document that the changes are made in.
func Draw(ctx context.Context, all *exchange.Contents, in Drawing, to quantity.Reader) (*Drawn, error) {
	if (in.Display == nil) == (in.Bracket == nil) {
		return nil, exchange.Problems{{Path: "display", Found: "is missing, or a bracket is there too", Allowed: "one of display and bracket"}}
	}
	edits := in.Changes
	in.Changes = nil
	of := "display"
	if in.Bracket != nil {
		of = "bracket"
	}
	if err := Within(edits, of); err != nil {
		return nil, err
	}
	out := Drawn{Problems: []exchange.Problem{}, Changes: []VerdictMoved{}, Priorities: []PriorityLine{}, Steps: []string{}, Jobs: []string{},
		Marks: map[string]string{}}
	edited, _, wrong := exchange.Edited(in, edits, Units(in.Units))
	doc := exchange.Document{Format: exchange.Format}
	if edited.Display != nil {
		doc.Displays = []*catalog.Display{edited.Display}
	}
	if edited.Bracket != nil {
		doc.Brackets = []*catalog.Bracket{edited.Bracket}
	}
	out.Document = exchange.AnythingOf(edited.Display)
	if edited.Bracket != nil {
		out.Document = exchange.AnythingOf(edited.Bracket)
	}
	var now *exchange.Contents
	if wrong == nil {
		now, wrong = doc.Contents()
		wrong = OwnPaths(wrong)
	}
	var problems exchange.Problems
	if errors.As(wrong, &problems) {
		out.Problems = problems.In(to.Language)
		return &out, nil
	}
	if wrong != nil {
		return nil, wrong
	}
	e := edit{Drawn: out, all: all, policy: all.PolicyOrDefault(), extra: fit.Extra{Work: NewWork(ctx)}, to: to}
	ofRevision := in.DisplayID+in.BracketID != "" // what is changed of it is told; of a whole document, what that changes of the saved one
	switch {
	case len(now.Displays) > 0 && ofRevision:
		e.display(in.Display, now.Displays[0])
	case len(now.Displays) > 0:
		e.display(all.Display(in.Display.ID), now.Displays[0])
	case ofRevision:
		e.bracket(in.Bracket, now.Brackets[0])
	default:
		e.bracket(all.Bracket(in.Bracket.ID), now.Brackets[0])
	}
	if e.extra.Work.Exhausted() {
		e.NotTried = to.Language.Words(notTried)
	}
	e.Marks = unsent(in.Have, map[string]*string{"picture": &e.Picture, "kit": &e.Kit})
	return &e.Drawn, nil
}

// edit compares the catalogue's pairings before and after an edit.
type edit struct {
	Drawn
	all    *exchange.Contents
	policy catalog.Policy
	extra  fit.Extra
	to     quantity.Reader
}

// display draws a display, and judges it on all brackets, beside what it was; nil for one that is new.
func (e *edit) display(old, d *catalog.Display) {
	e.Picture = svg.Picture(pairing.DisplayBack(d).For(e.to.Language))
	if odd := fit.DataCheck(d); odd.Status > fit.Note {
		e.Odd = e.to.Say(odd.Text)
	}
	for _, w := range fit.MeasurementPriorities(d, e.all.Brackets, e.policy, e.extra.Work) {
		e.Priorities = append(e.Priorities, PriorityLine{w.Figure, append([]string{}, w.Holes...), w.Known, w.Pairings})
	}
	if old != nil {
		for _, b := range e.all.Brackets {
			e.compare(b.Name, old, d, b, b)
		}
	}
}

// bracket draws a bracket and its kit, and judges it with the displays, beside what it was; nil for one that is new.
func (e *edit) bracket(old, b *catalog.Bracket) {
	e.Picture = svg.Picture(pairing.BracketFace(b).For(e.to.Language))
	var kit []string
	for _, p := range pairing.KitPictures(b.Kit) {
		kit = append(kit, strings.ReplaceAll(svg.Picture(p.For(e.to.Language)), "\n", " "))
	}
	e.Kit = strings.Join(kit, "\n")
	if old != nil {
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
			e.to.Say(after.Check(after.Cell().Rule()).Text)})
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
