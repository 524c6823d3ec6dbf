package steps

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/stack"
	"nexufix/core/wall"
)

// Walls are the types of wall that sequences are written for.
var Walls = []catalog.WallType{catalog.WoodStud, catalog.Concrete}

// Site is what is known of the place.
type Site struct {
	Wall   catalog.WallType
	Load   fit.Extra
	Center quantity.Optional[quantity.Length] // display's centre above the floor
	Places []place.Placement                  // of the displays of a job on their wall; none: no particular wall
}

// Generate writes the sequence of a pairing at a site. A pairing that
// does not fit, or a wall that is not covered, gives a sequence without steps
// that says why.
func Generate(p *fit.Pairing, site Site) Sequence {
	wall := site.Wall
	g := generator{p: p, wall: wall, center: site.Center, places: placed(site.Places), bag: newBag(p.Bracket.Kit, p.Display.OwnParts)}
	g.out = Sequence{Title: p.Display.Name() + " on " + p.Bracket.Name, Wall: wall, Cautions: cautions(wall)}
	if g.out.Blocked = g.blocked(); !g.out.Blocked.Empty() {
		return g.out
	}
	g.people = g.lifters(site.Load)
	g.out.People = max(g.people, 1)
	g.prepare()
	g.boltOn()
	g.onTheWall()
	g.hangIt()
	g.sum()
	return g.out
}

type generator struct {
	p      *fit.Pairing
	wall   catalog.WallType
	center quantity.Optional[quantity.Length]
	places []place.Placement // whose points are known; none: no particular wall
	bag    *bag
	people int // 0: more than people should lift
	drill  wall.Drill
	out    Sequence
}

func (g *generator) blocked() quantity.Phrase {
	_, drilled := wall.Drilling(g.p.Bracket, g.wall)
	switch {
	case !slices.Contains(Walls, g.wall):
		return quantity.Say("Steps are written for wood stud and concrete walls; %v is not covered.", g.wall.Name())
	case g.p.Verdict == fit.DoesNotFit:
		return quantity.Say("The display does not fit this bracket.")
	case g.p.Stack == nil || g.p.Hang == nil:
		return quantity.Say("Figures are missing: the bolts cannot be chosen yet.")
	case g.p.Bracket.WallPlate == nil:
		return quantity.Say("The bracket's wall plate is not described.")
	case !drilled:
		return quantity.Say("The bracket's maker gives no fixing for %v.", g.wall.Name())
	}
	return quantity.Phrase{}
}

// lifters is how many people lift the display: by the lifting equation, and
// never fewer than two above the policy's diagonal.
func (g *generator) lifters(load fit.Extra) int {
	d := g.p.Display
	n := 2 // the mass is not known
	if d.Mass.Known {
		n = People(d.Mass.Value+load.Accessories, hangingLift().Limit())
	}
	if n == 1 && d.Diagonal.Known && d.Diagonal.Value > g.p.Policy.TwoPeopleDiagonal {
		return 2
	}
	return n
}

func (g *generator) add(s Step) {
	if n := len(g.out.Steps); n > 0 && s.After == nil {
		s.After = []string{g.out.Steps[n-1].ID}
	}
	s.People = max(s.People, 1)
	g.out.Steps = append(g.out.Steps, s)
}

func say(format string, args ...any) quantity.Phrase { return quantity.Say(format, args...) }

func (g *generator) prepare() {
	unpack := Step{
		ID: "unpack", Title: "Unpack and check", Minutes: 10, People: g.out.People,
		Text: []quantity.Phrase{
			say("Lay the parts out by bag and count them against the parts list."),
			say("Read the maker's manual: where it differs from these steps, the manual counts."),
		},
		Check: say("Everything on the parts list is there, and what has to be supplied too."),
	}
	if g.p.Display.MassWithStand.Known {
		unpack.Text = append(unpack.Text, say("Take the stand off the display; feet may stay until it is hung."))
	}
	g.add(unpack)
	facedown := Step{
		ID: "facedown", Title: "Lay the display face down", Minutes: 5, People: g.out.People, Figure: "back",
		Text: []quantity.Phrase{
			say("Lay the display on something soft and flat, larger than the panel."),
			say("Find the %v holes of the %v pattern.", g.holes(), pattern(g.p)),
		},
		Caution: say("Never press on the panel: carry the display by its frame."),
		Check:   say("The holes measure %v across and %v down, centre to centre.", g.p.Hang.Width, g.p.Hang.Height),
	}
	if g.p.Turn != 0 {
		facedown.Text = append(facedown.Text, say("The display hangs turned %v° clockwise, seen from the front: mark its new top.", int(g.p.Turn)))
	}
	g.add(facedown)
	var settings []quantity.Phrase
	for _, s := range g.p.Bracket.Settings {
		if s.Applies(g.p.Display) {
			settings = append(settings, say("%v", s.Text))
		}
	}
	if settings != nil {
		g.add(Step{ID: "settings", Title: "Settings for this display", Minutes: 5, Text: settings,
			Check: say("Both sides are set alike.")})
	}
	try := Step{
		ID: "try", Title: "Try the bolts by hand", Minutes: 5, Figure: "section", After: []string{"facedown"},
		Caution: say("At resistance stop. Never force a bolt, never use a power driver: a bolt that is too long cracks the panel."),
	}
	for i := range g.p.Stack.Groups {
		h := &g.p.Stack.Groups[i]
		try.Text = append(try.Text, say("%v: turn the %v in by hand, without washer or bracket, until its head stands %v off the rim: %v.", strings.Join(h.Holes, ", "), boltName(h.Thread, h.Bolt), headGap(g, h), turns(h)))
	}
	try.Check = say("Every bolt turns freely for that long. Fewer than four turns, or a bolt that rocks: stop and call.")
	g.add(try)
}

// headGap is how far the head of a bare bolt stands off the rim when it has
// turned in as far as it will go with everything under it.
func headGap(g *generator, h *stack.HoleStack) quantity.Length {
	if h.Bearing == stack.Insert {
		return h.UnderHead() - g.p.Face.Groups[h.Group].Recess
	}
	return h.UnderHead()
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

// boltOn puts arms or plate on the display with the parts of the stack.
func (g *generator) boltOn() {
	what := "arms"
	if g.p.Bracket.Interface.Type == catalog.Plate {
		what = "plate"
	}
	screwdriver := driver(g.p.Face.Thread.String())
	s := Step{
		ID: "bolt", Title: "Bolt the " + what + " on", Minutes: 15, Figure: "section", Tools: []string{screwdriver}, After: []string{"try"},
		Caution: say("By hand only. A bolt that goes tight before its head is down has met the bottom: stop and call."),
	}
	if what == "arms" {
		s.Text = append(s.Text, say("Arms the right way up, left and right not swapped: the top hole row sits %v below the hook line.", quantity.Wall(g.p.Hang.TopHoles)))
	} else {
		s.Text = append(s.Text, say("Plate the right way up: its hook is at the top."))
	}
	for i := range g.p.Stack.Groups {
		h := &g.p.Stack.Groups[i]
		s.Text = append(s.Text, say("%v: on the bolt first %v, then the %v%v.", strings.Join(h.Holes, ", "), underHead(h), what, spacersText(h)))
		s.Parts = append(s.Parts, g.stackParts(h)...)
	}
	s.Parts = merged(s.Parts)
	s.Text = append(s.Text, say("Start all %v bolts, centre the %v, then tighten them in turn.", g.holes(), what))
	s.Check = say("All heads are down, and nothing moves or rocks.")
	g.add(s)
	if parts := g.bag.all(uses("arms")); parts != nil {
		g.add(Step{ID: "caps", Title: "Caps and sliders", Minutes: 3, Parts: parts,
			Text: []quantity.Phrase{say("Put on the caps and sliders of the arms.")}, Check: say("They move where they should, and do not come off.")})
	}
}

func uses(step string) func(catalog.Item) bool {
	return func(i catalog.Item) bool { return i.Kind == "part" && i.Use == step }
}

// driver is the screwdriver for a pan head's cross recess (ISO 7045, memory).
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

func spacersText(h *stack.HoleStack) string {
	if len(h.Spacers) == 0 {
		return ""
	}
	var all []string
	for _, x := range slices.Backward(h.Spacers) {
		all = append(all, "spacer "+plain(x.Length))
	}
	where := "which stands on the rim of the hole"
	if h.Bearing == stack.Insert {
		where = "which goes down into the cup onto the insert"
	}
	return ", then " + strings.Join(all, " and ") + ", " + where
}

// stackParts takes what one group's stack needs.
func (g *generator) stackParts(h *stack.HoleStack) []Part {
	n := len(h.Holes)
	parts := g.bag.take(n, boltName(h.Thread, h.Bolt), func(i catalog.Item) bool {
		return i.Kind == catalog.Bolt && i.Thread == h.Thread && i.Length == h.Bolt
	})
	parts = append(parts, g.bag.take(n*h.Washers.Count, washerName(h.Thread, h.Washers.Thickness, h.Washers.Outer), func(i catalog.Item) bool {
		return i.Kind == catalog.Washer && i.Thread == h.Thread && i.Thickness == h.Washers.Thickness && i.Outer == h.Washers.Outer
	})...)
	if h.Shoulder > 0 {
		parts = append(parts, g.bag.take(n, shoulderName(h.Thread, h.Shoulder), func(i catalog.Item) bool {
			return i.Kind == catalog.ShoulderWasher && i.Thread == h.Thread && i.Thickness == h.Shoulder
		})...)
	}
	for _, x := range h.Spacers {
		parts = append(parts, g.bag.take(n, spacerName(x.Length, x.Outer), func(i catalog.Item) bool {
			return i.Kind == catalog.Spacer && i.Passes(h.Thread) && i.Length == x.Length && i.Outer == x.Outer
		})...)
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

// sum lists what the steps use, what is to be sent and what is left.
func (g *generator) sum() {
	for i := range g.out.Steps {
		s := &g.out.Steps[i]
		g.out.Minutes += s.Minutes
		for _, p := range s.Parts {
			g.out.Parts = addPart(g.out.Parts, p)
		}
		for _, t := range s.Tools {
			if !slices.Contains(g.out.Tools, t) {
				g.out.Tools = append(g.out.Tools, t)
			}
		}
	}
	g.out.Supply = g.bag.supply
	g.out.Leftovers = g.bag.leftovers()
}
