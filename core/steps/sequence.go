// Package steps generates the sequence of an installation: what to do, in which
// order, with which parts and tools, and how to check that it is right.
//
// A step has a stage, and the steps it needs, each with a reason: the order follows from
// these (see [Need]), and otherwise from practice. A bracket's
// own steps, its assembly, are sorted in. Rules are checked by [Sequence.Faults]: every part that a step
// uses is in a bag or on the supply list, the parts of the bolt stack are used
// exactly once, leftovers are listed, a step's tools are in the tool
// list, and no step comes before one it needs.
package steps

import (
	"fmt"
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// Part is a number of equal pieces from one bag, or from the supply.
type Part struct {
	Name     string
	Bag      string // "" when unmarked
	Count    int
	Supplied bool
	Tag      string          // of the part in figures: its line of the kit; "" for a supplied part
	Why      quantity.Phrase // why it is left over
}

// Line returns the part's line in a list: its number, its bag, and why it is left over.
func (p *Part) Line() quantity.Phrase {
	out := say("%v × %v", p.Count, p.Name)
	switch {
	case p.Supplied:
		out = say("%v (to be supplied)", out)
	case p.Bag == DisplayBox:
		out = say("%v (display's box)", out)
	case p.Bag != "":
		out = say("%v (bag %v)", out, p.Bag)
	}
	if !p.Why.Empty() {
		out = say("%v: %v", out, p.Why)
	}
	return out
}

// Step is one step of the sequence.
type Step struct {
	ID      string
	Stage   catalog.Stage
	Own     bool // of the bracket's assembly
	Changed bool // by an engineer: reworded, added or moved
	Title   string
	Text    []quantity.Phrase // sentences
	Parts   []Part
	Tools   []string
	Caution quantity.Phrase
	Check   quantity.Phrase   // how to check that it is right
	Wrong   quantity.Phrase   // how to tell that it went wrong, and what to do
	Figure  string            // the drawing to look at, of core/draw/install; "" for none
	Mind    []quantity.Phrase // conditions of this pairing and place that concern the step
	People  int
	Minutes int
	Needs   []Need // steps that must come before
	Photos  []Photo
	Done    string // when it was ticked at the wall; "" if it was not

	generated []quantity.Phrase // the text before an engineer reworded it
}

// Effort is the people, the time and the tools of a step.
func (s *Step) Effort() quantity.Phrase {
	who := say("One person")
	if s.People > 1 {
		who = say("%v people", s.People)
	}
	if len(s.Tools) == 0 {
		return say("%v, about %v min.", who, s.Minutes)
	}
	return say("%v, about %v min. Tools: %v.", who, s.Minutes, quantity.List(", ", quantity.Names(s.Tools...)...))
}

// Photo is a photograph that an engineer attached to a step, and what it shows.
type Photo struct {
	ID, Shows string
	Change    int // its number in the job
}

// Sequence is the whole installation of one pairing on one type of wall. If it is
// blocked it must not be installed: every sheet of it says so, with the reasons. It
// has no steps if these cannot be worked out, or the display does not fit.
type Sequence struct {
	Title   quantity.Phrase
	Wall    catalog.WallType
	Blocked []fit.Check // everything that keeps it from being installed
	// What has to be measured at the wall before it is judged; none: it was.
	ToMeasure []quantity.Phrase
	Lift      Lifting
	Steps     []Step
	Parts     []Part // everything the steps use
	Supply    []Part // what has to be sent
	Leftovers []Part // what should be left over
	Tools     []string
	Cautions  []quantity.Phrase
	People    int
	Minutes   int
	Cables    []place.Cable // of the ports in use, on a particular wall
	Symptoms  []Symptom     // for when something is wrong
	Hidden    []Hidden      // steps that an engineer left out
	Conflicts []Conflict    // changes of an engineer that were not applied

	Language *quantity.Language // for reading; nil: English. The texts in it are English
}

// Faults returns the rules that a sequence breaks.
func (s *Sequence) Faults() []string {
	var out []string
	fault := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	done := map[string]bool{}
	stage := 0
	used := map[partKey]int{}
	for _, step := range s.Steps {
		if done[step.ID] {
			fault("step %s stands twice", step.ID)
		}
		for _, before := range step.Needs {
			if !done[before.Step] {
				fault("step %s comes before %s, which it needs", step.ID, before.Step)
			}
			if before.Why == "" {
				fault("nobody says why step %s needs %s", step.ID, before.Step)
			}
		}
		if at := slices.Index(catalog.Stages, step.Stage); at < stage {
			fault("step %s, of the stage %s, comes after a later stage", step.ID, step.Stage)
		} else {
			stage = at
		}
		done[step.ID] = true
		for _, tool := range step.Tools {
			if !slices.Contains(s.Tools, tool) {
				fault("step %s uses a tool that is not listed: %s", step.ID, tool)
			}
		}
		for _, p := range step.Parts {
			used[p.key()] += p.Count
		}
	}
	listed := map[partKey]int{}
	for _, p := range s.Parts {
		listed[p.key()] += p.Count
	}
	for k, n := range used {
		if listed[k] != n {
			fault("%d × %s are used, but %d are listed", n, k.Name, listed[k])
		}
	}
	for k, n := range listed {
		if used[k] == 0 && n > 0 {
			fault("%s is listed but no step uses it", k.Name)
		}
	}
	sent := map[partKey]int{}
	for _, p := range s.Supply {
		sent[p.key()] += p.Count
	}
	for k, n := range used {
		if k.Supplied && sent[k] != n {
			fault("%d × %s are to be supplied, but the supply list has %d", n, k.Name, sent[k])
		}
	}
	return out
}

// partKey identifies a part.
type partKey struct {
	Name, Bag string
	Supplied  bool
}

func (p *Part) key() partKey { return partKey{p.Name, p.Bag, p.Supplied} }
