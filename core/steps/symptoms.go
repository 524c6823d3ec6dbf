package steps

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// Symptom is something that went wrong, and its possible causes, sorted by how likely they are and how
// quickly they are checked. Order and causes are practice; the figures
// are those of the pairing.
type Symptom struct {
	ID     string
	Name   string
	Stop   quantity.Phrase // what to do at once; empty if nobody is in danger
	Causes []Cause
}

// Cause is a possible cause of a symptom: what it is, how to check it, and what to do.
type Cause struct{ What, Look, Do quantity.Phrase }

// SymptomNames lists the symptoms, by id.
var SymptomNames = []struct{ ID, Name string }{
	{"leans", "It hangs askew"},
	{"droops", "It droops forward by itself"},
	{"push_back", "It is hard to push back"},
	{"falls_forward", "It falls or pulls forward"},
	{"level", "It will not level"},
	{"rocks", "It rocks"},
	{"not_tight", "A bolt will not get tight"},
	{"stops_early", "A bolt stops early"},
	{"hooks", "The hooks do not catch"},
	{"plate", "The wall plate moves"},
	{"plug", "A plug cannot be reached"},
	{"height", "It hangs too high or too low"},
	{"gap", "The gap to the wall is not as expected"},
}

// symptoms returns what may go wrong with this installation.
func (g *generator) symptoms() []Symptom {
	d := diagnosis{g}
	causes := map[string]func() []Cause{"leans": d.leans, "droops": d.droops, "push_back": d.pushBack, "falls_forward": d.fallsForward,
		"level": d.level, "rocks": d.rocks, "not_tight": d.notTight, "stops_early": d.stopsEarly, "hooks": d.hooks, "plate": d.plate,
		"plug": d.plug, "height": d.height, "gap": d.gap}
	stop := map[string]quantity.Phrase{
		"falls_forward": say("Hold it and take it down, with %v. Nobody stands below.", say("%v people", max(2, g.out.Lift.People))),
		"plate":         say("Take the display down before anything else, with %v.", say("%v people", max(2, g.out.Lift.People))),
		"stops_early":   say("Do not turn it on by force: a bolt that is too long cracks the panel."),
	}
	var out []Symptom
	for _, s := range SymptomNames {
		if list := causes[s.ID](); len(list) > 0 {
			out = append(out, Symptom{s.ID, s.Name, stop[s.ID], list})
		}
	}
	return out
}

type diagnosis struct{ *generator }

func (d diagnosis) arms() bool { return d.p.Bracket.Interface.Type == catalog.Arms }

// rowName names the row of a group's holes.
func (d diagnosis) rowName(h *stack.HoleStack) quantity.Phrase {
	return quantity.And(quantity.Names(h.Holes...)...)
}

func (d diagnosis) engaged() Cause {
	look := say("From the side, both hooks sit down on the plate.")
	if over := d.p.Bracket.LiftOver; over.Value > 0 {
		look = say("From the side, both hooks sit down on the plate; one that is up stands off by up to %v.", quantity.Wall(over.Value))
	}
	return Cause{say("One hook is not engaged."), look, say("Lift it off, all together, and hook it again.")}
}

func (d diagnosis) armsAlike() Cause {
	return Cause{say("The two arms are bolted at different heights."),
		say("On the back, the top holes are %v the hook line on both sides.", quantity.AboveOrBelow(-d.p.Hang.TopHoles)),
		say("Take it down and set both arms alike.")}
}

func (d diagnosis) leans() []Cause {
	out := []Cause{d.engaged()}
	if d.arms() {
		out = append(out, d.armsAlike())
	}
	if adjust := d.p.Bracket.WallPlate.HeightAdjust; adjust.Known {
		out = append(out, Cause{say("The height screws stand unequally."), say("Both sides stand alike; they reach %v up or down.",
			quantity.Wall(adjust.Value)), say("Even them out, a turn at a time.")})
	}
	return append(out, Cause{say("The wall plate is not level."), say("The spirit level on the plate's top edge reads level, " +
		"turned end for end."),
		say("Take the display down and fix the plate anew; a spoilt hole is not used again.")})
}

func (d diagnosis) droops() []Cause {
	b := d.p.Bracket
	var out []Cause
	if b.TiltDown.Value > 0 || b.Kind.Properties().Joint {
		look := say("It stays where it is left after the screws are tightened a quarter turn on both sides.")
		if hold := b.Hold(); hold.Known {
			look = say("%v The head holds up to %v.", look, hold.Value)
		}
		out = append(out, Cause{say("The tilt's tension is too low for this display."), look,
			say("Tighten both sides alike; at their end, call.")})
	}
	if lean := d.p.Stack.Lean; lean != 0 {
		out = append(out, Cause{say("The two rows do not stand alike."), say("With these bolts it leans by %v; more means that "+
			"spacers of top and "+
			"bottom are exchanged or one is missing: %v.", d.lean(lean), d.spacers()), say("Take it down and lay the parts out as in the figure.")})
	} else {
		out = append(out, Cause{say("Spacers of top and bottom are exchanged, or one is missing."), say("%v.", d.spacers()),
			say("Take it down and lay the parts out as in the figure.")})
	}
	if b.RatedLoad.Known && d.out.Lift.Known {
		out = append(out, Cause{say("Something heavier hangs on it."), say("The display with what hangs on it is %v; the bracket is "+
			"rated for %v.",
			d.p.Display.Mass.Value+d.p.Extra.Accessories, quantity.Capacity(b.RatedLoad.Value)), say("Take off what was added, or call.")})
	}
	return out
}

// spacers describes which spacers belong to which holes.
func (d diagnosis) spacers() quantity.Phrase {
	out := quantity.Phrase{}
	for i := range d.p.Stack.Groups {
		h := &d.p.Stack.Groups[i]
		one := say("%v: no spacer", d.rowName(h))
		if s := h.SpacersLength(); s > 0 {
			one = say("%v: spacer of %v", d.rowName(h), s)
		}
		if i == 0 {
			out = one
		} else {
			out = say("%v; %v", out, one)
		}
	}
	return say("%v", out)
}

func (d diagnosis) pushBack() []Cause {
	out := []Cause{{say("A plug or cable is between display and wall."), d.behind(),
		say("Draw it out, and lead the cable beside the bracket; take a flat or " +
			"angled plug.")}}
	for i := range d.out.Cables {
		if c := &d.out.Cables[i]; c.Known {
			out = append(out, Cause{say("A cable is too short or caught."), say("%v: at least %v, and free.", c.Begins(),
				place.Metres(c.Needed)),
				say("Take a longer one, and dress it with slack.")})
		}
	}
	if d.p.Bracket.Swings() {
		out = append(out, Cause{say("The arm's joints are too tight."), say("They move with one hand when the display is off."),
			say("Loosen them by a quarter turn, and try again.")})
	}
	return out
}

// behind describes how much room there is behind the display.
func (d diagnosis) behind() quantity.Phrase {
	if b := d.p.Bracket; b.Profile.Known {
		return say("Closed, there is %v between the display's back and the wall.", quantity.AtLeast(b.Profile.Value+d.p.Nearest()))
	}
	return say("How much room there is behind it is not known: measure it at the top and at the bottom.")
}

func (d diagnosis) fallsForward() []Cause {
	out := []Cause{d.engaged()}
	if k := d.p.Bracket.Lock; k != nil {
		out = append(out, Cause{say("The %v is open.", or(k.Kind, "lock")), say("Lifted by hand at the bottom edge, it does not come off."),
			say("Hook it again and close it.")})
	}
	return append(out, d.plate()...)
}

func (d diagnosis) level() []Cause {
	var out []Cause
	if adjust := d.p.Bracket.WallPlate.HeightAdjust; adjust.Known {
		out = append(out, Cause{say("The height screws are at their end."), say("They reach %v up or down; both start in the middle.",
			quantity.Wall(adjust.Value)), say("Set both to the middle, hang it, and level from there.")})
	}
	out = append(out, Cause{say("The wall plate is not level."), say("The spirit level on the plate's top edge reads level, " +
		"turned end for end."),
		say("Take the display down and fix the plate anew.")})
	if d.arms() {
		out = append(out, d.armsAlike())
	}
	return out
}

func (d diagnosis) rocks() []Cause {
	return []Cause{
		{say("A bolt is loose, or its head is not down."), say("All %v heads are down on their washers.", d.holes()),
			say("Tighten them by hand, in turn.")},
		{say("A spacer or washer is missing at one hole."), say("%v.", d.spacers()),
			say("Take it apart and lay the parts out as in the figure.")},
		d.engaged(),
	}
}

func (d diagnosis) notTight() []Cause {
	var out []Cause
	for i := range d.p.Stack.Groups {
		h := &d.p.Stack.Groups[i]
		std := h.Thread.Standard()
		out = append(out, Cause{say("%v: the bolt is too short or too thin.", d.rowName(h)),
			say("It is %v; %v of it is in the thread, %v. A bolt that rocks, or drops in, has another thread.", catalog.BoltLabel(h.Thread, h.Bolt),
				quantity.AtLeast(h.Engagement), turns(h)), say("Take the one that is listed; call when it is not in the bag.")},
			Cause{say("%v: the thread in the display is stripped.", d.rowName(h)), say("It turns on and on; whole, it catches within "+
				"one turn, %v.", std.Pitch),
				say("Do not hang the display by it: call.")})
	}
	return out
}

// stopsEarly describes, for each bolt, the gap under its head if it is right, and the cause
// if the gap is larger.
func (d diagnosis) stopsEarly() []Cause {
	var out []Cause
	for i := range d.p.Stack.Groups {
		h := &d.p.Stack.Groups[i]
		expected := headGap(d.p, h)
		look := say("Bare, and turned in %v, %v stands under its head at %v.", turns(h), expected, d.rowName(h))
		if longer, ok := d.longer(h); ok {
			look = say("%v With %v under it, it is the %v of bag %v.", look, expected+longer.Length-h.Bolt, longer.Label(), or(longer.Bag, "–"))
		}
		out = append(out, Cause{say("%v: it is a longer bolt.", d.rowName(h)), look, say("Take the %v.", catalog.BoltLabel(h.Thread, h.Bolt))})
		if s := h.SpacersLength(); s > 0 {
			out = append(out, Cause{say("%v: the spacer is missing.", d.rowName(h)), say("With everything on, the head is down on its "+
				"washer; %v too much "+
				"means the spacer of %v is missing, and the bolt meets the bottom.", s, s), say("Put the spacer in before the bolt is turned.")})
		}
		out = append(out, Cause{say("%v: the hole is shallower than on record, or blocked.", d.rowName(h)),
			say("At least %v is left before the bolt's tip.", quantity.AtLeast(h.ClearanceWorst)),
			say("Blow it out and try a second hole; if it is the same, measure it with trial bolts and call.")})
	}
	return out
}

// longer returns the next longer bolt of the same thread in the kit.
func (d diagnosis) longer(h *stack.HoleStack) (catalog.Item, bool) {
	var best catalog.Item
	for _, i := range slices.Concat(d.p.Bracket.Kit, d.p.Display.OwnParts) {
		if i.Kind == catalog.Bolt && i.Thread == h.Thread && i.Length > h.Bolt && (best.Length == 0 || i.Length < best.Length) {
			best = i
		}
	}
	return best, best.Length > 0
}

func (d diagnosis) hooks() []Cause {
	var out []Cause
	if over := d.p.Bracket.LiftOver; over.Value > 0 {
		out = append(out, Cause{say("It is not lifted high enough."), say("It has to come %v above its place before it is let down.",
			quantity.Wall(over.Value)), say("Lift it all together, from platforms where hands would be above %v.", quantity.Wall(highest))})
	}
	if d.arms() {
		out = append(out, Cause{say("An arm is upside down, or left and right are exchanged."), say("The top holes are %v the hook line.",
			quantity.AboveOrBelow(-d.p.Hang.TopHoles)), say("Take them off and put them on as in the figure.")}, d.armsAlike())
	} else {
		out = append(out, Cause{say("The plate is upside down."), say("Its hook is at the top."), say("Take it off and turn it.")})
	}
	return append(out, Cause{say("The wall plate is upside down."), say("Its arrow points up: the hook line is %v the level line.",
		quantity.AboveOrBelow(d.p.Bracket.WallPlate.HookAboveDatum)), say("Take the plate down and turn it; its holes may then be others.")})
}

func (d diagnosis) plate() []Cause {
	depth := say("The holes are as deep as the fastener's instructions say.")
	if h := d.hole; d.kind.Holds == catalog.Hollow {
		depth = say("The holes go right through, as wide as the toggle's instructions say, and the toggle is open behind them.")
	} else if h.Depth.Known {
		depth = say("The holes are %v deep, and the fastener is a %v.", quantity.AtMost(h.Depth.Value), d.choice.Label())
	}
	return []Cause{
		{say("A fastener is loose or stripped."), say("Each is tight by hand, and none turns on."),
			say("A stripped hole holds nothing: fix the plate anew, " +
				"elsewhere.")},
		{say("A fastener missed what it should hold in."), d.kind.Right, d.kind.Then},
		{say("The hole is too short, too wide, or full of dust."), depth, say("Fix the plate anew; doubts about the wall go to " +
			"someone licensed to judge it.")},
	}
}

func (d diagnosis) plug() []Cause {
	out := []Cause{{say("It was to be plugged in at another time."), say("The cables are a step of their own, %v.", d.whenCables()),
		say("Take the display down or draw it out, as that step says.")}}
	return append(out, Cause{say("There is not enough room behind it."), d.behind(), say("Take a flat or angled plug.")})
}

func (d diagnosis) whenCables() string {
	if d.cablesBefore() {
		return "before it is hung"
	}
	return "after it is hung and locked"
}

func (d diagnosis) height() []Cause {
	out := []Cause{}
	if top := d.p.Hang.DisplayTopAboveDatum; top.Known {
		out = append(out, Cause{say("The level line is at another height."), d.datum(top.Value),
			say("Measure from the floor where the display hangs, and fix " +
				"the plate anew.")})
	}
	out = append(out, Cause{say("The %v sit in other holes.", d.what()), say("The top holes are %v the hook line; what it hangs "+
		"too low or too high is the "+
		"difference.", quantity.AboveOrBelow(-d.p.Hang.TopHoles)), say("Take it down and move the %v.", d.what())})
	return append(out, Cause{say("The wall plate is upside down."), say("Turned, it hangs %v off.",
		quantity.Wall(2*d.p.Bracket.WallPlate.HookAboveDatum.Abs())), say("Its arrow points up: take it down and turn it.")})
}

func (d diagnosis) datum(top quantity.Length) quantity.Phrase {
	if d.places != nil {
		return say("It is %v above the floor; the display's top is %v it.", quantity.Wall(d.places[0].Datum), quantity.AboveOrBelow(top))
	}
	return say("The display's top is %v the level line.", quantity.AboveOrBelow(top))
}

func (d diagnosis) gap() []Cause {
	return []Cause{
		{say("A cable or plug is behind it."), d.behind(), say("Lead it beside the bracket.")},
		{say("Spacers are too many, or in the wrong row."), say("%v.", d.spacers()), say("Take it down and lay the parts out as in the figure.")},
		d.engaged(),
	}
}

// lean writes the angle between two rows, without its sign.
func (d diagnosis) lean(degrees float64) string { return quantity.Metric.Angle(max(degrees, -degrees)) }
