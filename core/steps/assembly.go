package steps

import (
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// assembly adds the bracket's own steps whose conditions this installation meets.
func (g *generator) assembly() {
	in := installation(g.p, g.p.Bracket, g.wall)
	figures := g.figures()
	for n := range g.p.Bracket.Assembly {
		a := &g.p.Bracket.Assembly[n]
		met, sure := a.When.Holds(in)
		if !met {
			continue
		}
		s := Step{ID: a.ID, Stage: a.Stage, Own: true, Title: a.Title, Figure: ownFigure[a.Stage], Tools: a.Tools,
			Minutes: max(a.Minutes, 2) * g.displays, Text: []quantity.Phrase{figures.in(a.Text)}, Caution: figures.in(a.Caution),
			Check: figures.in(a.Check)}
		if !sure {
			s.Mind = append(s.Mind, say("This is for displays %v only: the display's depth is not known. Measure it first.", depths(a.When)))
		}
		for _, name := range figures.missing(a.Text + a.Caution + a.Check) {
			s.Mind = append(s.Mind, say("Find out first: %v.", catalog.AssemblyFigures[name]))
		}
		for k := range a.Parts {
			n := a.Parts[k].Count * g.displays
			if line := g.p.Bracket.PartLine(&a.Parts[k]); line >= 0 {
				s.Parts = append(s.Parts, g.take(n, g.p.Bracket.Kit[line])...)
			} else {
				s.Parts = append(s.Parts, g.bag.take(n, a.Parts[k].Name, func(*catalog.Item) bool { return false })...)
			}
		}
		s.Parts = merged(s.Parts)
		for _, before := range a.After {
			s.Needs = append(s.Needs, Need{before, "the bracket's maker says so"})
		}
		if s.Stage != catalog.UnpackStage {
			s.Needs = append(s.Needs, Need{"unpack", "the parts are counted first"})
		}
		s.People = 1
		if s.Stage == catalog.HangStage || s.Stage == catalog.FinishStage {
			s.Needs = append(s.Needs, Need{"lift", "it is done on the display as it hangs"})
		}
		g.out.Steps = insert(g.out.Steps, s)
	}
}

// installation is what the conditions of own steps are checked against.
func installation(p *fit.Pairing, b *catalog.Bracket, wall catalog.WallType) catalog.Installation {
	in := catalog.Installation{Wall: wall, Depth: p.Display.Depth, Kind: b.Kind, Turn: p.Turn}
	for i := range p.Stack.Groups {
		in.Spacers = in.Spacers || len(p.Stack.Groups[i].Spacers) > 0
	}
	return in
}

// AssemblySteps returns the steps of a bracket's assembly that apply to a pairing on a wall.
func AssemblySteps(p *fit.Pairing, b *catalog.Bracket, wall catalog.WallType) []catalog.AssemblyStep {
	var out []catalog.AssemblyStep
	in := installation(p, b, wall)
	for i := range b.Assembly {
		if met, _ := b.Assembly[i].When.Holds(in); met {
			out = append(out, b.Assembly[i])
		}
	}
	return out
}

// ownFigure returns the figure of a bracket's own step, by its stage: the state before it.
var ownFigure = map[catalog.Stage]string{catalog.UnpackStage: "bags", catalog.DisplayStage: "arms", catalog.WallStage: "plate",
	catalog.HangStage: "lock", catalog.FinishStage: "lock"}

func depths(w *catalog.When) quantity.Phrase {
	switch {
	case w.Below.Known && w.AtOrAbove.Known:
		return say("of %v up to less than %v deep", w.AtOrAbove.Value, w.Below.Value)
	case w.Below.Known:
		return say("less than %v deep", w.Below.Value)
	}
	return say("of %v or more", w.AtOrAbove.Value)
}

// values returns the known figures of [catalog.AssemblyFigures].
type values map[string]any

func (g *generator) figures() values {
	out := values{}
	give := func(name string, known bool, value any) {
		if known {
			out[name] = value
		}
	}
	b, h := g.p.Bracket, &g.p.Stack.Groups[0]
	give("bolt", true, catalog.BoltLabel(h.Thread, h.Bolt))
	give("gap", true, headGap(g.p, h))
	give("turns", true, turns(h))
	give("spacer", true, h.SpacersLength())
	give("top_holes", true, quantity.Wall(g.p.Hang.TopHoles))
	give("profile", b.Profile.Known, quantity.Wall(b.Profile.Value))
	give("reach", b.Reach.Known, quantity.Wall(b.Reach.Value))
	give("wall_gap", b.Profile.Known, quantity.Wall(b.Profile.Value+g.p.Nearest()))
	give("lift_over", b.LiftOver.Known, quantity.Wall(b.LiftOver.Value))
	give("height_adjust", b.WallPlate.HeightAdjust.Known, quantity.Wall(b.WallPlate.HeightAdjust.Value))
	down, up, swivel := g.moves()
	give("tilt_down", down.Known, down.Value)
	give("tilt_up", up.Known, up.Value)
	give("swivel", swivel.Known, swivel.Value)
	give("mass", g.out.Lift.Known, g.out.Lift.Mass)
	give("people", true, g.out.Lift.People)
	give("depth", g.p.Display.Depth.Known, quantity.Wall(g.p.Display.Depth.Value))
	give("pattern", true, pattern(g.p))
	give("fastener", g.choice.Known(), g.choice.Label())
	return out
}

// moves returns how far the display may tilt and swivel: the bracket's range, or less if the wall is in the way.
func (g *generator) moves() (down, up, swivel quantity.Optional[quantity.Angle]) {
	b := g.p.Bracket
	m := g.p.Motion()
	down, up, swivel = fit.Within(b.TiltDown, m.TiltDown), fit.Within(b.TiltUp, m.TiltUp), fit.Within(b.Swivel, m.Swivel)
	for i := range g.places {
		swivel = fit.Within(swivel, g.places[i].Motion().Swivel)
	}
	return down, up, swivel
}

// in returns a text with its figures; unknown ones are named as unknown.
func (v values) in(text string) quantity.Phrase {
	names, ok := catalog.Figures(text)
	switch {
	case text == "":
		return quantity.Phrase{}
	case !ok || len(names) == 0:
		return say("%v", text)
	}
	format := strings.ReplaceAll(text, "%", "%%")
	var args []any
	for _, name := range names {
		format = strings.Replace(format, "{"+name+"}", "%v", 1)
		if value, known := v[name]; known {
			args = append(args, value)
		} else {
			args = append(args, "(not known)")
		}
	}
	return quantity.Say(format, args...)
}

// missing returns the unknown figures that a text names.
func (v values) missing(text string) []string {
	var out []string
	names, _ := catalog.Figures(text)
	for _, name := range names {
		if _, known := v[name]; !known {
			out = append(out, name)
		}
	}
	return out
}
