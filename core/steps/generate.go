package steps

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// Site is what is known of the place.
type Site struct {
	Wall   catalog.WallType
	Load   fit.Extra
	Center quantity.Optional[quantity.Length] // display's centre above the floor
	Places []place.Placement                  // of the displays of a job on their wall; none: no particular wall
}

// Generate writes the sequence of a pairing at a site. What keeps it from being
// installed is listed with it; a pairing that does not fit, or of which the
// bolts or the hanging are not known, has no steps.
func Generate(p *fit.Pairing, site Site) Sequence {
	g := generator{p: p, wall: site.Wall, kind: site.Wall.Properties(), center: site.Center, places: placed(site.Places),
		displays: max(1, len(site.Places))}
	g.bag = newBag(p.Bracket.Kit, p.Display.OwnParts, g.displays)
	g.out = Sequence{Title: p.Display.Name() + " on " + p.Bracket.Name, Wall: site.Wall, Cautions: cautions(&g.kind)}
	if g.displays > 1 {
		g.out.Title = fmt.Sprintf("%d × %s", g.displays, g.out.Title)
	}
	g.choice = anchorage.Choose(p.Bracket, site.Wall)
	layers := anchorage.LayersOf(p.Bracket, &catalog.Wall{Type: site.Wall})
	g.hole = anchorage.HoleFor(p.Bracket, &g.choice, &layers)
	if len(site.Places) > 0 && site.Places[0].Known {
		g.choice, g.hole = site.Places[0].Choice, site.Places[0].Hole
	}
	g.out.Blocked = g.blocked(site.Places)
	g.conditions(site.Places)
	if p.Verdict == fit.DoesNotFit || p.Stack == nil || p.Hang == nil || p.Bracket.WallPlate == nil || g.kind.Type == catalog.NoWall {
		return g.out
	}
	g.out.Lift = lifting(p, site.Load.Accessories, site.Places)
	g.out.People = g.out.Lift.People
	g.prepare()
	g.boltOn()
	g.onTheWall()
	g.hangIt()
	g.mind()
	g.sum()
	return g.out
}

type generator struct {
	p        *fit.Pairing
	wall     catalog.WallType
	kind     catalog.WallProperties
	choice   anchorage.Choice
	hole     anchorage.Hole
	center   quantity.Optional[quantity.Length]
	places   []place.Placement // whose points are known; none: no particular wall
	displays int
	bag      *bag
	conds    map[string][]quantity.Phrase // by step
	out      Sequence
}

// blocked is everything that keeps the display from being installed.
func (g *generator) blocked(places []place.Placement) []fit.Check {
	out := place.Against(g.p, places)
	say := func(rule fit.Rule, text quantity.Phrase, remedy quantity.Phrase) {
		out = append(out, fit.Check{Rule: rule, Status: fit.Unknown, Text: text, Remedy: remedy})
	}
	switch {
	case g.kind.Type == catalog.NoWall:
		say(place.StudsRule, quantity.Say("What kind of wall it is is not known."), quantity.Say("Say what the wall is made of."))
	case g.p.Bracket.WallPlate == nil:
		say(place.PlateRule, quantity.Say("The bracket's wall plate is not described."), quantity.Say("Take it from the bracket's drawing."))
	case len(places) > 0:
	case !g.choice.Said:
		say(place.FastenerRule, quantity.Say("The bracket's maker gives no fixing for %v.", g.kind.Name),
			quantity.Say("Ask the maker before drilling. Common practice: %v", g.kind.Fixing))
	case !g.choice.Unclear.Empty():
		say(place.FastenerRule, g.choice.Unclear, quantity.Say("Common practice: %v", g.kind.Fixing))
	case !g.choice.Wrong.Empty():
		out = append(out, fit.Check{Rule: place.FastenerRule, Status: fit.Fail, Text: g.choice.Wrong,
			Remedy: quantity.Say("Common practice: %v", g.kind.Fixing)})
	}
	return out
}

// concerns is the step that a rule's condition belongs to.
var concerns = map[fit.Rule]string{
	fit.PatternRule: "facedown", fit.BoltsRule: "bolt", fit.ThreadRule: "try", fit.StackRule: "try", fit.LoadRule: "lift",
	fit.SizeRule: "unpack",
	fit.TurnRule: "facedown", fit.ArmsRule: "bolt", fit.PortsRule: "facedown", fit.PlugsRule: "cables", fit.ProtrusionRule: "facedown",
	fit.TiltRule: "finish", fit.SwivelRule: "finish", fit.HoldRule: "lock", fit.DataRule: "unpack",

	place.PlaceRule: "offsets", place.StudsRule: "find", place.AnchorsRule: "find", place.CoveringRule: "drill", place.FastenerRule: "plate",
	place.DepthRule: "drill", place.PilotRule: "drill", place.EmbedmentRule: "plate", place.EdgesRule: "mark", place.StrengthRule: "pull",
	place.BendingRule: "plate", place.TypeTestRule: "pull", place.HandlingRule: "finish", place.VehicleRule: "lock", place.PlateRule: "mark",
	place.AboveRule: "lift", place.BelowRule: "lift", place.LockRule: "lock", place.WallRule: "offsets", place.FloorRule: "offsets",
	place.NicheRule: "lift", place.ServicesRule: "drill", place.TetherRule: "lock", place.HeadroomRule: "offsets",
	place.ProjectionRule: "finish",
}

// conditions sorts what is a caution, or could not be told and does not block,
// to the steps it concerns. Nothing of it goes silent.
func (g *generator) conditions(places []place.Placement) {
	g.conds = map[string][]quantity.Phrase{}
	seen := map[string]bool{}
	add := func(c fit.Check, whose string) {
		if c.Status == fit.Pass {
			return
		}
		text := quantity.Say("%v%v", whose, c.Text)
		if !c.Remedy.Empty() {
			text = quantity.Say("%v %v", text, c.Remedy)
		}
		step := concerns[c.Rule]
		if key := step + c.Text.In(quantity.Metric); !seen[key] {
			seen[key] = true
			g.conds[step] = append(g.conds[step], text)
		}
	}
	for _, c := range g.p.Words() {
		add(c, "")
	}
	for i := range places {
		whose := ""
		if len(places) > 1 {
			whose = fmt.Sprintf("Display %d: ", i+1)
		}
		for _, c := range places[i].Checks {
			add(c, whose)
		}
	}
}

// mind puts the conditions into their steps; what concerns a step that is not
// there stands in the first.
func (g *generator) mind() {
	for step, texts := range g.conds {
		at := slices.IndexFunc(g.out.Steps, func(s Step) bool { return s.ID == step })
		g.out.Steps[max(0, at)].Mind = append(g.out.Steps[max(0, at)].Mind, texts...)
	}
	for i := range g.out.Steps { // the map has no order
		slices.SortStableFunc(g.out.Steps[i].Mind, func(a, b quantity.Phrase) int {
			return strings.Compare(a.In(quantity.Metric), b.In(quantity.Metric))
		})
	}
}

func (g *generator) add(s Step) {
	if n := len(g.out.Steps); n > 0 && s.After == nil {
		s.After = []string{g.out.Steps[n-1].ID}
	}
	s.People = max(s.People, 1)
	g.out.Steps = append(g.out.Steps, s)
}

func say(format string, args ...any) quantity.Phrase { return quantity.Say(format, args...) }

// handled adds to a step in which the display is moved how many people that
// takes, and lifting equipment where people should not.
func (g *generator) handled(s Step) Step {
	l := &g.out.Lift
	s.People = max(s.People, l.People)
	if l.Equipment {
		s.Tools = append(s.Tools, "lifting equipment")
		s.Text = append(s.Text, say("Move the display with lifting equipment: it is more than three people should lift."))
	}
	return s
}

func (g *generator) prepare() {
	unpack := Step{
		ID: "unpack", Title: "Unpack and check", Minutes: 10 * g.displays,
		Text: []quantity.Phrase{
			say("Lay the parts out by bag and count them against the parts list."),
			say("Read the maker's manual: where it differs from these steps, the manual counts."),
		},
		Check: say("Everything on the parts list is there, and what has to be supplied too."),
	}
	if g.p.Display.MassWithStand.Known {
		unpack.Text = append(unpack.Text, say("Take the stand off the display; feet may stay until it is hung."))
	}
	g.add(g.handled(unpack))
	facedown := Step{
		ID: "facedown", Title: "Lay the display face down", Minutes: 5 * g.displays, Figure: "back",
		Text: []quantity.Phrase{
			say("Lay the display on something soft and flat, larger than the panel, its hanging top away from you."),
			say("Find the %v holes of the %v pattern: %v.", g.holes(), pattern(g.p), g.everyHole()),
		},
		Caution: say("Never press on the panel: carry the display by its frame."),
		Check:   say("The holes measure %v across and %v down, centre to centre.", g.p.Hang.Width, g.p.Hang.Height),
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
		g.add(Step{ID: "settings", Title: "Settings for this display", Minutes: 5, Text: settings,
			Check: say("Both sides are set alike.")})
	}
	try := Step{
		ID: "try", Title: "Try the bolts by hand", Minutes: 5 * g.displays, Figure: "section", After: []string{"facedown"},
		Caution: say("At resistance stop. Never force a bolt, never use a power driver: a bolt that is too long cracks the panel."),
	}
	for i := range g.p.Stack.Groups {
		h := &g.p.Stack.Groups[i]
		try.Text = append(try.Text, say("%v: turn the %v in by hand, without washer or bracket, until its head stands %v off the rim: %v.",
			g.where(h), catalog.BoltLabel(h.Thread, h.Bolt), headGap(g, h), turns(h)))
	}
	try.Check = say("Every bolt turns freely for that long. Fewer than four turns, or a bolt that rocks: stop and call.")
	g.add(try)
}

// where names a group's holes and says where they are for who stands behind the
// display as it lies face down, its hanging top away from them: left and right
// are the other way round than in front.
func (g *generator) where(h *stack.HoleStack) string {
	var all []string
	for _, hole := range g.p.Layout.Groups[h.Group].Holes {
		all = append(all, hole.ID+" (from behind: "+fromBehind(hole)+")")
	}
	return strings.Join(all, ", ")
}

func (g *generator) everyHole() string {
	var all []string
	for i := range g.p.Stack.Groups {
		all = append(all, g.where(&g.p.Stack.Groups[i]))
	}
	return strings.Join(all, ", ")
}

// fromBehind is where a hole as hung is, seen from behind.
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

// headGap is how far the head of a bare bolt stands off the rim when it has
// turned in as far as it will go with everything under it.
func headGap(g *generator, h *stack.HoleStack) quantity.Length {
	if h.Bearing == stack.Insert {
		return h.UnderHead() - g.p.Layout.Groups[h.Group].Recess
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
	screwdriver := driver(g.p.Layout.Thread.String())
	s := Step{
		ID: "bolt", Title: "Bolt the " + what +
			" on", Minutes: 15 * g.displays, Figure: "section", Tools: []string{screwdriver}, After: []string{"try"},
		Caution: say("By hand only. A bolt that goes tight before its head is down has met the bottom: stop and call."),
	}
	if what == "arms" {
		s.Text = append(s.Text, say("Arms the right way up, left and right not swapped: the top hole row sits %v the hook line.",
			besideLine(-g.p.Hang.TopHoles)))
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
		g.add(Step{ID: "caps", Title: "Caps and sliders", Minutes: 3, Parts: parts,
			Text:  []quantity.Phrase{say("Put on the caps and sliders of the arms.")},
			Check: say("They move where they should, and do not come off.")})
	}
}

// besideLine says how far above or below a line something is.
func besideLine(up quantity.Length) quantity.Phrase {
	switch {
	case up > 0:
		return say("%v above", quantity.Wall(up))
	case up < 0:
		return say("%v below", quantity.Wall(-up))
	}
	return say("on")
}

func uses(step string) func(catalog.Item) bool {
	return func(i catalog.Item) bool { return i.Kind == catalog.PlainPart && i.Use == step }
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
		where = "which goes down into the recess onto the insert"
	}
	return ", then " + strings.Join(all, " and ") + ", " + where
}

// stackParts takes what one group's stack needs, on all displays.
func (g *generator) stackParts(h *stack.HoleStack) []Part {
	n := len(h.Holes) * g.displays
	parts := g.bag.take(n, catalog.BoltLabel(h.Thread, h.Bolt), func(i catalog.Item) bool {
		return i.Kind == catalog.Bolt && i.Thread == h.Thread && i.Length == h.Bolt
	})
	parts = append(parts, g.bag.take(n*h.Washers.Count, catalog.WasherLabel(h.Thread, h.Washers.Thickness, h.Washers.Outer),
		func(i catalog.Item) bool {
			return i.Kind == catalog.Washer && i.Thread == h.Thread && i.Thickness == h.Washers.Thickness && i.Outer == h.Washers.Outer
		})...)
	if h.Shoulder > 0 {
		parts = append(parts, g.bag.take(n, catalog.ShoulderLabel(h.Thread, h.Shoulder), func(i catalog.Item) bool {
			return i.Kind == catalog.ShoulderWasher && i.Thread == h.Thread && i.Thickness == h.Shoulder
		})...)
	}
	for _, x := range h.Spacers {
		parts = append(parts, g.bag.take(n, catalog.SpacerLabel(x.Length, x.Outer), func(i catalog.Item) bool {
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
		g.out.People = max(g.out.People, s.People)
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
