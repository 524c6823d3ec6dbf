package app

import (
	"context"
	"errors"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/draw/pairing"
	"nexufix/core/fit"
	"nexufix/exchange"
)

// Drawing asks for the drawings of a display or bracket as it is being edited.
type Drawing struct {
	Display *exchange.Display `json:"display,omitempty"`
	Bracket *catalog.Bracket  `json:"bracket,omitempty"`
	Units   string            `json:"units,omitempty" enum:"mm,in"`
}

// Drawn is what an editor shows beside the fields.
type Drawn struct {
	Picture string         `json:"picture" required:"true"` // SVG
	Kit     string         `json:"kit,omitempty"`           // SVG
	Odd     string         `json:"odd" required:"true"`     // what does not agree, "" when all does
	Changes []VerdictMoved `json:"changes" required:"true"` // pairings that would be judged otherwise
	Worth   []WorthLine    `json:"worth" required:"true"`
	LeftOut string         `json:"left_out,omitempty"` // what was not tried, where it takes too much work
}

// VerdictMoved is a pairing that an edit changes.
type VerdictMoved struct {
	Name   string `json:"name" required:"true"`
	Before string `json:"before" required:"true"`
	After  string `json:"after" required:"true"`
	Why    string `json:"why" required:"true"` // of the worst finding after
}

// WorthLine is a figure that is worth measuring.
type WorthLine struct {
	Figure   string   `json:"figure" required:"true"`
	Holes    []string `json:"holes" required:"true"`
	Known    bool     `json:"known" required:"true"`
	Pairings int      `json:"pairings" required:"true"`
}

// Draw draws a display or bracket as it would be after an edit, and says what it would
// change.
func Draw(ctx context.Context, all *exchange.Contents, in Drawing) (*Drawn, error) {
	u := Units(in.Units)
	out := Drawn{Changes: []VerdictMoved{}, Worth: []WorthLine{}}
	doc := exchange.Document{Format: exchange.Format}
	switch {
	case in.Display != nil && in.Bracket == nil:
		doc.Displays = []exchange.Display{*in.Display}
	case in.Bracket != nil && in.Display == nil:
		doc.Brackets = []*catalog.Bracket{in.Bracket}
	default:
		return nil, exchange.Problems{{Path: "display", Found: "is missing, or a bracket is there too", Allowed: "one of display and bracket"}}
	}
	now, err := doc.Contents()
	if err != nil {
		return nil, OneThing(err)
	}
	policy := all.PolicyOrDefault()
	extra := fit.Extra{Work: NewWork(ctx)}
	moved := func(name string, before, after *fit.Pairing) {
		if before.Verdict != after.Verdict {
			worst := after.Cell().Rule
			out.Changes = append(out.Changes, VerdictMoved{name, string(before.Verdict), string(after.Verdict), after.Check(worst).Text.In(u)})
		}
	}
	if len(now.Displays) > 0 {
		d := now.Displays[0]
		out.Picture = picture(pairing.DisplayBack(d))
		if odd := fit.Odd(d); odd.Status != fit.Pass {
			out.Odd = odd.Text.In(u)
		}
		for _, w := range fit.MeasurementPriorities(d, all.Brackets, policy, extra.Work) {
			out.Worth = append(out.Worth, WorthLine{w.Figure, append([]string{}, w.Holes...), w.Known, w.Pairings})
		}
		if old := all.Display(d.ID); old != nil {
			for _, b := range all.Brackets {
				before, after := fit.Judge(old, b, 0, extra, policy), fit.Judge(d, b, 0, extra, policy)
				if extra.Work.Exhausted() {
					break
				}
				moved(b.Name, &before, &after)
			}
		}
		if extra.Work.Exhausted() {
			out.LeftOut = leftOut
		}
		return &out, nil
	}
	b := now.Brackets[0]
	out.Picture, out.Kit = picture(pairing.BracketFace(b)), picture(pairing.KitLaidOut(b.Kit))
	if old := all.Bracket(b.ID); old != nil {
		for _, d := range near(all.Displays) {
			before, after := fit.Judge(d, old, 0, extra, policy), fit.Judge(d, b, 0, extra, policy)
			if extra.Work.Exhausted() {
				break
			}
			moved(d.Name(), &before, &after)
		}
	}
	if extra.Work.Exhausted() {
		out.LeftOut = leftOut
	}
	return &out, nil
}

// near are the displays that an edit of a bracket is tried on: all of a
// catalogue of usual size, and the first of one that is larger.
func near(all []*catalog.Display) []*catalog.Display { return all[:min(len(all), 500)] }

// OneThing gives problems of a document with one thing in it the paths of that
// thing alone.
func OneThing(err error) error {
	var problems exchange.Problems
	if !errors.As(err, &problems) {
		return err
	}
	for n := range problems {
		problems[n].Path = strings.NewReplacer("displays[0]", "display", "brackets[0]", "bracket", "jobs[0]", "job").Replace(problems[n].Path)
	}
	return problems
}
