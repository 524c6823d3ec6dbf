package catalog

import (
	"fmt"
	"slices"
	"strings"

	"nexufix/core/quantity"
)

// Stage is a part of an installation, by its name in the exchange format.
type Stage string

// The stages, in the order they are gone through.
const (
	UnpackStage  Stage = "unpack"
	DisplayStage Stage = "display" // what is done on the display while it lies face down
	WallStage    Stage = "wall"
	HangStage    Stage = "hang"
	FinishStage  Stage = "finish"
)

// Stages lists the stages in order.
var Stages = []Stage{UnpackStage, DisplayStage, WallStage, HangStage, FinishStage}

// Enum lists the names for the format's reader and schema.
func (Stage) Enum() []any { return anyOf(Stages) }

// InstallSteps are the steps that every installation can have, by their ids, with their
// stages: a step of a bracket's assembly can come after these and after the bracket's own.
var InstallSteps = map[string]Stage{
	"unpack": UnpackStage, "stand": UnpackStage,
	"facedown": DisplayStage, "settings": DisplayStage, "try": DisplayStage, "bolt": DisplayStage, "caps": DisplayStage,
	"offsets": DisplayStage, "snap": DisplayStage,
	"find": WallStage, "prove": WallStage, "mark": WallStage, "drill_board": WallStage, "drill": WallStage, "plugs": WallStage,
	"plate": WallStage, "pull": WallStage,
	"cables": HangStage, "lift": HangStage, "cables_after": HangStage, "lock": HangStage, "tether": HangStage, "level": HangStage,
	"tension": FinishStage, "travel": FinishStage, "finish": FinishStage,
}

// AssemblyStep is a step that only this bracket has: a slide lock, a cable channel, a stand
// that clicks out. Its text may name figures of the pairing in braces, see [AssemblyFigures].
type AssemblyStep struct {
	ID      string         `json:"id" required:"true" pattern:"^[a-z][a-z0-9_-]{0,39}$"`
	Stage   Stage          `json:"stage" required:"true"`
	Title   string         `json:"title" required:"true" maxLength:"80"`
	Text    string         `json:"text" required:"true" maxLength:"1000"`
	Parts   []AssemblyPart `json:"parts,omitempty" minItems:"1" maxItems:"20"`
	Tools   []string       `json:"tools,omitempty" minItems:"1" maxItems:"10" maxLength:"80"`
	Caution string         `json:"caution,omitempty" maxLength:"500"`
	Check   string         `json:"check,omitempty" maxLength:"500"`
	After   []string       `json:"after,omitempty" minItems:"1" maxItems:"20" maxLength:"40"` // steps that must come before
	When    *When          `json:"when,omitempty"`                                            // absent: always
	Minutes int            `json:"minutes,omitempty" minimum:"1" maximum:"240"`
}

// AssemblyPart is a number of equal pieces of the kit that a step takes.
type AssemblyPart struct {
	Name  string `json:"name" required:"true" maxLength:"120"`
	Bag   string `json:"bag,omitempty" maxLength:"20"`
	Count int    `json:"count" required:"true" minimum:"1" maximum:"10000"`
}

// When is the condition of a step: each given figure has to be met.
type When struct {
	Walls     []WallType                         `json:"wall,omitempty" minItems:"1" maxItems:"8"`
	Spacers   *bool                              `json:"spacers,omitempty"` // the bolt stack has some, or none
	Below     quantity.Optional[quantity.Length] `json:"depth_below_mm,omitzero" exclusiveMinimum:"0" maximum:"10000"`
	AtOrAbove quantity.Optional[quantity.Length] `json:"depth_at_or_above_mm,omitzero" minimum:"0" maximum:"10000"`
	Kinds     []BracketKind                      `json:"kind,omitempty" minItems:"1" maxItems:"5"`
	Turns     []Turn                             `json:"turn_deg,omitempty" enum:"0,90,270" minItems:"1" maxItems:"3"`
}

// Installation is what a step's condition is checked against.
type Installation struct {
	Wall    WallType
	Spacers bool
	Depth   quantity.Optional[quantity.Length] // of the display
	Kind    BracketKind                        // of the bracket
	Turn    Turn
}

// Holds reports whether a condition is met. One on an unknown depth counts
// as met, but not sure: the step is shown with its condition.
func (w *When) Holds(in Installation) (met, sure bool) {
	if w == nil {
		return true, true
	}
	met = (w.Walls == nil || slices.Contains(w.Walls, in.Wall)) && (w.Spacers == nil || *w.Spacers == in.Spacers) &&
		(w.Kinds == nil || slices.Contains(w.Kinds, in.Kind)) && (w.Turns == nil || slices.Contains(w.Turns, in.Turn))
	if !met || !w.Below.Known && !w.AtOrAbove.Known {
		return met, true
	}
	if !in.Depth.Known {
		return true, false
	}
	return (!w.Below.Known || in.Depth.Value < w.Below.Value) && (!w.AtOrAbove.Known || in.Depth.Value >= w.AtOrAbove.Value), true
}

// AssemblyFigures describes the figures of a pairing that the text of an assembly step can name in
// braces.
var AssemblyFigures = map[string]string{
	"bolt": "the bolt of the top row", "gap": "under the head of the bare bolt of the top row, turned in as far as it goes in the stack",
	"turns": "turns of that bolt", "spacer": "length of the spacers of the top row", "top_holes": "top hole row, below the hook line",
	"profile": "wall to arm plane, closed", "reach": "wall to arm plane, drawn out", "wall_gap": "wall to the display's back, closed",
	"lift_over": "how far it is lifted over its hook", "height_adjust": "how far it can be levelled",
	"tilt_down": "tilt down, by the bracket or as far as the wall allows",
	"tilt_up":   "tilt up, by the bracket or as far as the wall allows",
	"swivel":    "swivel to either side, by the bracket or as far as the wall allows",
	"mass":      "what is lifted", "people": "how many people lift",
	"depth": "the display's depth", "pattern": "the hole pattern", "fastener": "what goes into the wall",
}

// Figures lists the names in braces in a text; ok is false if braces do not
// match.
func Figures(text string) (names []string, ok bool) {
	for {
		open := strings.IndexAny(text, "{}")
		if open < 0 {
			return names, true
		}
		end := strings.IndexAny(text[open+1:], "{}")
		if text[open] == '}' || end < 0 || text[open+1+end] == '{' {
			return names, false
		}
		names = append(names, text[open+1:open+1+end])
		text = text[open+end+2:]
	}
}

// validateAssembly checks each step against the kit and the other steps: its parts are in the kit in
// sufficient number, its figures exist, and its order is possible.
func (b *Bracket) validateAssembly(out *problems) {
	byID := map[string]*AssemblyStep{}
	for n := range b.Assembly {
		s := &b.Assembly[n]
		at := fmt.Sprintf("assembly[%d]", n)
		if _, is := InstallSteps[s.ID]; is {
			out.add(at+".id", "an id of its own", "%q is a step that every installation has", s.ID)
		} else if byID[s.ID] != nil {
			out.add(at+".id", "each id once", "%q stands twice", s.ID)
		}
		byID[s.ID] = s
	}
	for n := range b.Assembly {
		s := &b.Assembly[n]
		at := fmt.Sprintf("assembly[%d]", n)
		validateFigures(out, at+".title", s.Title, false)
		validateFigures(out, at+".text", s.Text, true)
		validateFigures(out, at+".caution", s.Caution, true)
		validateFigures(out, at+".check", s.Check, true)
		for k, before := range s.After {
			b.validateAfter(out, fmt.Sprintf("%s.after[%d]", at, k), s, before, byID)
		}
		for k := range s.Parts {
			if b.Kit == nil {
				break // a kit that is not described yet: the parts are to be supplied
			}
			b.validatePart(out, fmt.Sprintf("%s.parts[%d]", at, k), &s.Parts[k])
		}
		if w := s.When; w != nil && w.Below.Known && w.AtOrAbove.Known && w.AtOrAbove.Value >= w.Below.Value {
			out.add(at+".when.depth_below_mm", "more than depth_at_or_above_mm", "%s", w.Below.Value)
		}
	}
	b.validateCounts(out)
}

func validateFigures(out *problems, at, text string, allowed bool) {
	names, ok := Figures(text)
	if !ok {
		out.add(at, "{ and } in pairs, around the name of a figure", "braces that do not match")
	}
	for _, name := range names {
		if AssemblyFigures[name] == "" || !allowed {
			out.add(at, figureNames(allowed), "{%s}", name)
		}
	}
}

func figureNames(allowed bool) string {
	if !allowed {
		return "no figures: they stand in the text"
	}
	names := make([]string, 0, len(AssemblyFigures))
	for name := range AssemblyFigures {
		names = append(names, "{"+name+"}")
	}
	slices.Sort(names)
	return strings.Join(names, ", ")
}

// validateAfter: the steps before a step exist, are not of a later stage, and do not depend on
// the step itself.
func (b *Bracket) validateAfter(out *problems, at string, s *AssemblyStep, before string, byID map[string]*AssemblyStep) {
	stage, is := InstallSteps[before]
	if other := byID[before]; other != nil {
		stage, is = other.Stage, true
	}
	switch {
	case !is:
		out.add(at, "a step of the assembly, or one that every installation has", "%q is no step", before)
	case slices.Index(Stages, stage) > slices.Index(Stages, s.Stage):
		out.add(at, "a step of the same stage or an earlier one", "%q is of the stage %s, this step of %s", before, stage, s.Stage)
	case waits(byID, before, s.ID, map[string]bool{}):
		out.add(at, "steps that do not wait for this one", "%q waits for %q: a circle", before, s.ID)
	}
}

// waits reports whether a step comes after another, directly or through others.
func waits(byID map[string]*AssemblyStep, id, other string, seen map[string]bool) bool {
	if id == other {
		return true
	}
	if seen[id] || byID[id] == nil {
		return false
	}
	seen[id] = true
	return slices.ContainsFunc(byID[id].After, func(before string) bool { return waits(byID, before, other, seen) })
}

// PartLine returns the line of the kit for a part of the assembly; -1 for none.
func (b *Bracket) PartLine(p *AssemblyPart) int {
	return slices.IndexFunc(b.Kit, func(i Item) bool { return i.Label() == p.Name && (p.Bag == "" || i.Bag == p.Bag) })
}

func (b *Bracket) validatePart(out *problems, at string, p *AssemblyPart) {
	n := b.PartLine(p)
	switch {
	case n < 0:
		out.add(at+".name", "a part of the kit, in its bag", "there is no %q in the kit", strings.TrimSpace(p.Name+" "+p.Bag))
	case b.Kit[n].Kind == Tool:
		out.add(at+".name", "a part; tools stand under tools", "%q is a tool", p.Name)
	case b.Kit[n].Kind != PlainPart:
		out.add(at+".name", "a part that neither the bolt stack nor the wall takes", "%q is a %s", p.Name, b.Kit[n].Kind.Word())
	case b.Kit[n].Use != "":
		out.add(at+".name", "a part without use: else it is counted twice", "%q is used by the step for its use, %s, too", p.Name, b.Kit[n].Use)
	}
}

// validateCounts: no installation takes more of a part than the kit has.
func (b *Bracket) validateCounts(out *problems) {
	most := make([]int, len(b.Kit))
	last := make([]string, len(b.Kit))
	for _, in := range b.installations() {
		used := make([]int, len(b.Kit))
		for n := range b.Assembly {
			s := &b.Assembly[n]
			if met, _ := s.When.Holds(in); !met {
				continue
			}
			for k := range s.Parts {
				line := b.PartLine(&s.Parts[k])
				if line < 0 {
					continue
				}
				if used[line] += s.Parts[k].Count; used[line] > b.Kit[line].Count && used[line] > most[line] {
					most[line], last[line] = used[line], fmt.Sprintf("assembly[%d].parts[%d].count", n, k)
				}
			}
		}
	}
	for line, n := range most {
		if n > 0 {
			out.add(last[line], fmt.Sprintf("%d in all, as many as are in the kit", b.Kit[line].Count), "%d × %q in all", n, b.Kit[line].Label())
		}
	}
}

// installations returns one installation for each case that the conditions of the assembly distinguish.
func (b *Bracket) installations() []Installation {
	depths := []quantity.Optional[quantity.Length]{{}, quantity.Some(quantity.Length(0))}
	seen := map[quantity.Length]bool{0: true}
	for n := range b.Assembly {
		if w := b.Assembly[n].When; w != nil {
			for _, d := range []quantity.Optional[quantity.Length]{w.Below, w.AtOrAbove} {
				if d.Known && !seen[d.Value] {
					seen[d.Value] = true
					depths = append(depths, d)
				}
			}
		}
	}
	var out []Installation
	for _, wall := range WallTypes {
		for _, turn := range b.Turns {
			for _, depth := range depths {
				for _, spacers := range []bool{false, true} {
					out = append(out, Installation{wall, spacers, depth, b.Kind, turn})
				}
			}
		}
	}
	return out
}
