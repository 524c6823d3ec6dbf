package steps

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// prepare adds the steps of unpacking and of trying the bolts on the display, face down.
func (g *generator) prepare() {
	unpack := Step{
		ID: "unpack", Title: "Unpack and check", Minutes: 10 * g.displays, Figure: "bags",
		Text: []quantity.Phrase{
			say("Lay the parts out by bag and count them against the parts list; lay the tools out."),
			say("Read the maker's manual: where it differs from these steps, the manual counts."),
		},
		Check: say("Everything on the parts list is there, and what has to be supplied too."),
		Wrong: say("A part is missing or other than listed: stop before anything is bolted, and call. No part stands in for another."),
	}
	g.add(g.handled(unpack))
	g.detachStand("before", Step{ID: "stand", Title: "Take the stand off", Minutes: 5 * g.displays, Needs: after("unpack",
		"the parts are counted first"),
		Text:    []quantity.Phrase{say("Take the stand off the display, and keep its screws apart: they are not for the bracket.")},
		Caution: say("Hold the display by its frame while its stand is off: it stands on nothing.")})
	facedown := Step{
		ID: "facedown", Title: "Lay the display face down", Minutes: 5 * g.displays, Figure: "back",
		Needs: after("unpack", "the parts are counted before anything is bolted", "stand", "the stand would hold it off the table"),
		Text: []quantity.Phrase{
			say("Lay the display on something soft and flat, larger than the panel, its hanging top away from you."),
			say("Find the %v holes of the %v pattern: %v.", g.holes(), pattern(g.p), g.everyHole()),
		},
		Caution: say("Never press on the panel: carry the display by its frame."),
		Check:   say("The holes measure %v across and %v down, centre to centre.", g.p.Hang.Width, g.p.Hang.Height),
		Wrong:   say("The holes are elsewhere: this is another display, or another pattern. Stop and call."),
	}
	if g.displays > 1 {
		facedown.Text = append(facedown.Text, say("This, and all that follows on the display, for each of the %v displays.", g.displays))
	}
	if g.p.Turn != 0 {
		facedown.Text = append(facedown.Text, say("The display hangs turned %v° clockwise, seen from the front: mark its new top.",
			int(g.p.Turn)))
	}
	g.add(g.handled(facedown))
	var settings []quantity.Phrase
	for _, s := range g.p.Bracket.Settings {
		if s.Applies(g.p.Display) {
			settings = append(settings, say("%v", s.Text))
		}
	}
	if settings != nil {
		g.add(Step{ID: "settings", Title: "Settings for this display", Minutes: 5, Text: settings, Figure: "arms",
			Needs: after("facedown", "the display is identified first"), Check: say("Both sides are set alike.")})
	}
	g.tryBolts()
}

// detachStand adds the step that takes the stand off, if there is one, at the school's place.
func (g *generator) detachStand(school string, s Step) {
	if g.p.Display.MassWithStand.Known && g.schools.Stand == school {
		s.Figure = "back"
		s.Check = say("Nothing of the stand reaches behind the display's back or below its edge.")
		g.add(g.handled(s))
	}
}

func (g *generator) tryBolts() {
	try := Step{
		ID: "try", Title: "Try the bolts by hand", Minutes: 5 * g.displays, Figure: "try",
		Needs:   after("facedown", "the holes have to be seen"),
		Caution: say("At resistance stop. Never force a bolt, never use a power driver: a bolt that is too long cracks the panel."),
		Wrong: say("Fewer than four turns, or a bolt that rocks: the thread is another, or the bolt too short. Resistance before " +
			"that: the bolt is " +
			"too long, or the hole is blocked. Stop and call."),
	}
	for i := range g.p.Stack.Groups {
		h := &g.p.Stack.Groups[i]
		try.Text = append(try.Text, say("%v: turn the %v in by hand, without washer or bracket, until its head stands %v off the rim: %v.",
			g.where(h), catalog.BoltLabel(h.Thread, h.Bolt), headGap(g.p, h), turns(h)))
	}
	try.Text = append(try.Text, say("Take the bolts out again."))
	try.Check = say("Every bolt turns freely for that long.")
	g.add(try)
}

// where names a group's holes and their places as seen from behind, with the
// display face down and its top edge away from the installer: left and right
// are swapped against the front view.
func (g *generator) where(h *stack.HoleStack) quantity.Phrase {
	var all []quantity.Phrase
	for _, hole := range g.p.Layout.Groups[h.Group].Holes {
		all = append(all, say("%v (from behind: %v)", hole.ID, fromBehind(hole)))
	}
	return quantity.List(", ", all...)
}

func (g *generator) everyHole() quantity.Phrase {
	var all []quantity.Phrase
	for i := range g.p.Stack.Groups {
		all = append(all, g.where(&g.p.Stack.Groups[i]))
	}
	return quantity.List(", ", all...)
}

// fromBehind describes the place of a hole as hung, seen from behind.
func fromBehind(h catalog.Hole) string {
	row := "middle"
	if h.Y > 0 {
		row = "top"
	} else if h.Y < 0 {
		row = "bottom"
	}
	switch {
	case h.X > 0:
		return row + " left"
	case h.X < 0:
		return row + " right"
	}
	return row + " centre"
}

// headGap returns [stack.HoleStack.HeadGap] for the pairing's hole.
func headGap(p *fit.Pairing, h *stack.HoleStack) quantity.Length {
	return h.HeadGap(p.Layout.Groups[h.Group].Recess)
}

func (g *generator) holes() (n int) {
	for _, h := range g.p.Stack.Groups {
		n += len(h.Holes)
	}
	return n
}

func pattern(p *fit.Pairing) string {
	return plain(p.Hang.Width) + " × " + plain(p.Hang.Height)
}

// turns writes how many turns to expect, in whole turns.
func turns(h *stack.HoleStack) string {
	n := int(math.Floor(h.Turns()))
	words := []string{"no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"}
	name := fmt.Sprint(n)
	if n < len(words) {
		name = words[n]
	}
	return "about " + name + " full turns"
}

// what is bolted to the display.
func (g *generator) what() string {
	if g.p.Bracket.Interface.Type == catalog.Plate {
		return "plate"
	}
	return "arms"
}

// boltOn adds the steps that bolt arms or plate to the display with the parts of the stack, and those
// that are tried on the floor.
func (g *generator) boltOn() {
	what := g.what()
	s := Step{
		ID: "bolt", Title: "Bolt the " + what + " on", Minutes: 15 * g.displays, Figure: "stack",
		Tools: []string{driver(g.p.Layout.Thread.String())},
		Needs: after("try", "a bolt that meets resistance is found before the bracket hides the hole",
			"settings", "they cannot be reached once the bracket is on", "facedown", "the holes have to be seen"),
		Caution: say("By hand only. A bolt that goes tight before its head is down has met the bottom: stop and call."),
		Wrong: say("A head stays off its washer, or a part is left loose: a spacer or washer is missing or too many. Take it apart " +
			"and lay it out " +
			"as in the figure."),
	}
	if what == "arms" {
		s.Text = append(s.Text, say("Arms the right way up, left and right not swapped: the top hole row sits %v the hook line.",
			quantity.AboveOrBelow(-g.p.Hang.TopHoles)))
	} else {
		s.Text = append(s.Text, say("Plate the right way up: its hook is at the top."))
	}
	for i := range g.p.Stack.Groups {
		h := &g.p.Stack.Groups[i]
		s.Text = append(s.Text, say("%v: on the bolt first %v, then the %v%v.", g.where(h), underHead(h), what, spacersText(h)))
		s.Parts = append(s.Parts, g.stackParts(h)...)
	}
	s.Parts = merged(s.Parts)
	s.Text = append(s.Text, say("Start all %v bolts, centre the %v, then tighten them in turn.", g.holes(), what))
	if torque := g.p.Pattern.TorqueMax; torque.Known {
		s.Text = append(s.Text, say("No tighter than %v: the display's maker says so.", torque.Value))
		s.Tools = append(s.Tools, "torque screwdriver")
	}
	s.Check = say("All heads are down, and nothing moves or rocks.")
	g.add(s)
	if parts := g.bag.all(uses("arms")); parts != nil {
		g.add(Step{ID: "caps", Title: "Caps and sliders", Minutes: 3, Parts: parts, Figure: "arms",
			Needs: after("bolt", "they go on arms that are bolted on"),
			Text:  []quantity.Phrase{say("Put on the caps and sliders of the arms.")},
			Check: say("They move where they should, and do not come off.")})
	}
	if l := g.p.Bracket.Lock; l != nil && snaps(l.Kind) && g.p.Bracket.Interface.Type == catalog.Arms {
		g.add(Step{ID: "snap", Title: "Snap the catch in once, on the floor", Minutes: 5, Figure: "hook",
			Needs: after("bolt", "the arms have to be on"),
			Text: []quantity.Phrase{
				say("With the display face down, hook the wall plate onto the arms and press until the %v closes; then open it again and take "+
					"the plate off.", l.Kind),
				say("A new %v is stiff: the first time is done here, where both hands are free, and not on the wall.", l.Kind),
			},
			Check: say("Both sides close with a click, and open again."),
			Wrong: say("One side does not close: the arms are not parallel or not at the same height. Loosen them, and set both alike.")})
	}
}

func snaps(lock string) bool {
	return slices.ContainsFunc([]string{"catch", "click", "clip", "snap", "latch"}, func(word string) bool {
		return strings.Contains(strings.ToLower(lock), word)
	})
}

func uses(step string) func(*catalog.Item) bool {
	return func(i *catalog.Item) bool { return i.Kind == catalog.PlainPart && i.Use == step }
}

// driver returns the screwdriver for a pan head's cross recess (ISO 7045, memory).
func driver(thread string) string {
	size := map[string]string{"M4": "2", "M5": "2", "M6": "3", "M8": "4"}[thread]
	return "hand screwdriver, cross recess " + size
}

func underHead(h *stack.HoleStack) string {
	washers := "one washer"
	if h.Washers.Count > 1 {
		washers = fmt.Sprintf("%d washers", h.Washers.Count)
	}
	if h.Shoulder > 0 {
		return washers + ", then the shoulder washer"
	}
	return washers
}

func spacersText(h *stack.HoleStack) quantity.Phrase {
	if len(h.Spacers) == 0 {
		return quantity.Phrase{}
	}
	var all []quantity.Phrase
	for _, x := range slices.Backward(h.Spacers) {
		all = append(all, say("spacer %v", plain(x.Length)))
	}
	if h.Bearing == stack.Insert {
		return say(", then %v, which goes down into the recess onto the insert", quantity.List(" and ", all...))
	}
	return say(", then %v, which stands on the rim of the hole", quantity.List(" and ", all...))
}

// stackParts takes what one group's stack needs, on all displays.
func (g *generator) stackParts(h *stack.HoleStack) []Part {
	n := len(h.Holes) * g.displays
	parts := g.bag.take(n, catalog.BoltLabel(h.Thread, h.Bolt), h.IsBolt)
	parts = append(parts, g.bag.take(n*h.Washers.Count, catalog.WasherLabel(h.Thread, h.Washers.Thickness, h.Washers.Outer), h.IsWasher)...)
	if h.Shoulder > 0 {
		parts = append(parts, g.bag.take(n, catalog.ShoulderLabel(h.Thread, h.Shoulder), h.IsShoulder)...)
	}
	for _, x := range h.Spacers {
		parts = append(parts, g.bag.take(n, catalog.SpacerLabel(x.Length, x.Outer), func(i *catalog.Item) bool { return h.IsSpacer(i, x) })...)
	}
	return parts
}

func merged(parts []Part) []Part {
	var out []Part
	for _, p := range parts {
		out = addPart(out, p)
	}
	return out
}
