package fit

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/probe"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// StackRule: every hole has a bolt, washers and spacers that hold, do not touch the bottom, and leave the display upright.
const StackRule RuleID = "stack"

var stackRule = pairingRule{About: About{ID: StackRule, Never: map[Status]string{Note: noNote}, Name: "Bolt stack", Severity: 1,
	Blocks: true, Step: "try",
	Marks: []string{"stack"}, Uses: (*Pairing).holeSources}, Judge: judgeStack}

func judgeStack(p *Pairing, c *Check) {
	c.Status, c.Measure = p.stackFound()
	c.words(func() {
		if p.Stack == nil {
			p.unsolved(c)
		} else {
			p.solved(c)
		}
	})
}

// stackFound is the status of the stack, or of its lack, and the figure that decides.
func (p *Pairing) stackFound() (is Status, m Measure) {
	if !p.stacked.Found {
		is = Unknown
		l := p.Layout
		known := p.Pattern != nil && !l.Missing.Thread && len(l.Contradictions) == 0 && l.Missing.ThreadDepth == nil &&
			l.Missing.Doubtful == nil &&
			!l.Missing.Pocket && l.Missing.Bearing == nil && !p.unsaid
		if known && (len(l.Groups) == 0 || !p.GaveUp && wideRecess(p) == nil && l.Missing.Cup == nil) {
			is = Fail
		}
		return is, m
	}
	if p.stacked.Status == stack.Caution || p.stacked.Supplies || p.short() || p.blind {
		is = Caution
	}
	if p.stacked.Status == stack.OK && !p.stacked.Supplies && p.short() {
		m = AtLeast(p.stacked.Slack.Value, recessDoubt)
		return is, m
	}
	if p.Stack == nil {
		return is, m // for a cell, stacks are not written out
	}
	m, _, _ = p.tightest()
	switch s := p.Stack; {
	case p.leans():
		m = atMost(quantity.Angle(math.Round(s.Lean*float64(quantity.Degree))), p.Policy.LeanOK, Deg)
	case p.twists():
		m = atMost(s.Twist, p.Policy.TwistOK, MM)
	}
	return is, m
}

// recessDoubt is how far a recess or a rim that nobody has told of can be off (practice).
const recessDoubt = 3 * quantity.Millimetre

// short reports whether the stack stands on a recess or a rim that nobody has told of, by less than the usual doubt.
func (p *Pairing) short() bool { return p.stacked.Slack.Known && p.stacked.Slack.Value < recessDoubt }

// unsaidHoles returns the holes of which nobody has told the recess or the rim, where that may be off the least.
func (p *Pairing) unsaidHoles() []string {
	for i := range p.Stack.Groups {
		if h := &p.Stack.Groups[i]; h.Slack.Known && h.Slack.Value == p.stacked.Slack.Value {
			return h.Holes
		}
	}
	return nil
}

// leans and twists report whether the display would visibly lean or twist on its stack.
func (p *Pairing) leans() bool {
	return p.Stack.Status == stack.Caution && p.Stack.Lean > p.Policy.LeanOK.Degrees()
}

func (p *Pairing) twists() bool {
	return p.Stack.Status == stack.Caution && !p.leans() && p.Stack.Twist > p.Policy.TwistOK
}

// tightest returns the figure of a stack with the least margin, its hole stack, and its name.
func (p *Pairing) tightest() (least Measure, at *stack.HoleStack, figure string) {
	engagement := p.Policy.EngagementWorstD.Of(p.Pattern.Thread.Standard().Nominal)
	for i := range p.Stack.Groups {
		h := &p.Stack.Groups[i]
		if m := atLeast(h.EngagementWorst, engagement, MM); !least.Given() || m.Margin < least.Margin ||
			m.Margin == least.Margin && figure != "thread engagement" {
			least, at, figure = m, h, "thread engagement"
		}
		if m := atLeast(h.ClearanceWorst, p.Policy.TipClearanceWorst, MM); m.Margin < least.Margin {
			least, at, figure = m, h, "tip clearance"
		}
	}
	return least, at, figure
}

// unsolved says why there is no stack.
func (p *Pairing) unsolved(c *Check) {
	var missing stack.Missing
	if p.Layout != nil {
		missing = p.Layout.Missing
	}
	switch {
	case p.Pattern == nil:
		c.say("Bolts cannot be chosen without the hole pattern.")
	case missing.Thread:
		c.say("Bolts cannot be chosen without the thread.")
	case len(p.Layout.Contradictions) > 0:
		c.say("%v No stack is proposed until one of them is settled.", p.Layout.Contradictions[0].Text)
		c.advise("Measure again what is on record, or ask for the trials again.")
	case missing.ThreadDepth == nil && len(p.Layout.Groups) == 0:
		c.say("The display has no holes where the bracket bolts to it.")
	case missing.ThreadDepth != nil:
		c.say("The usable thread depth is not known at %v.", strings.Join(missing.ThreadDepth, ", "))
		c.advise("Measure it: turn a bolt in by hand until it stops, and measure the gap under its head.")
	case missing.Doubtful != nil:
		c.say("A usable thread depth of more than four diameters is not to be believed unless it was measured: %v.",
			strings.Join(missing.Doubtful, ", "))
		c.advise("Measure it: turn a bolt in by hand until it stops, and measure the gap under its head.")
	case missing.Pocket:
		c.say("The holes are in a pocket of the back, and its depth is not known.")
		c.advise("Measure from its rim to the face around the holes.")
	case p.unsaid:
		c.say("Something under the bracket's %v stands out of the back, and how far is not known: the bolts depend on it.", p.bearing())
		c.advise("Lay a straight edge over the back and measure.")
	case p.GaveUp:
		c.say("There are too many combinations of parts to search: %v holes with figures of their own.", len(p.Layout.Groups))
		c.advise("Give holes that are alike the same figures, or stack fewer spacers.")
	case wideRecess(p) != nil:
		x := wideRecess(p)
		c.say("No bolt is safe for every recess that the trial bolts at %v leave open: %v to %v deep.", x.ID, x.Probed.Recess.Low,
			x.Probed.Recess.High.Value)
		c.advise("Have a bolt pushed in without turning until it rests on the thread, and measure the gap under its head.")
	case missing.Bearing != nil && p.over.Pocket == stack.NoPocket:
		c.say("The recess at %v is wider than what the bracket bears with there: what it bears on is not known.",
			strings.Join(missing.Bearing, ", "))
		c.advise("Measure the recess: give it as a pocket of the back, with its width and height.")
	case missing.Bearing != nil:
		c.say("The bracket neither goes into the pocket around the holes nor reaches past it: what it bears on is not known, and no stack is " +
			"safe both ways.")
		c.advise("Measure the pocket and the bracket, or send spacers that fill the pocket.")
	case missing.Cup != nil:
		c.say("No stack is safe without knowing how wide the recess is at %v.", strings.Join(missing.Cup, ", "))
		c.advise("Measure the recess's diameter: a spacer that drops in pushes the bolt into the panel.")
	default:
		c.Text, c.Remedy = whyNot(p)
	}
}

// solved puts the check of a pairing with a stack into words.
func (p *Pairing) solved(c *Check) {
	s := p.Stack
	_, tight, what := p.tightest()
	holes := strings.Join(tight.Holes, ", ")
	send := SupplyList(s.Supplied, p.Pattern.Thread)
	figure := quantity.AtLeast(c.Measure.Value)
	c.Marks = []string{"stack", "stack." + strconv.Itoa(tight.Group)}
	switch {
	case p.leans():
		c.say("Right on paper, but the display leans by %v: more than %v shows.", Lean(s.Lean), p.Policy.LeanOK)
	case p.twists():
		c.say("Right on paper, but the four corners stand unequally by %v: the arms do not hang parallel. Up to %v does not show.",
			quantity.AtMost(s.Twist), p.Policy.TwistOK)
		c.advise("Measure the rim offset at each corner with a gauge.")
	case s.Status == stack.Caution && c.Measure.Margin < 0:
		c.say("Right on paper, but with the tolerances against it %v at %v is %v and should be at least %v.", what, holes, figure,
			quantity.Length(c.Measure.Limit))
		c.advise("Measure the holes at %v with a gauge.", holes)
	case s.Status == stack.Caution && openInterval(p) != nil:
		x := openInterval(p)
		c.say("Right on paper, but the trial bolts at %v leave open how deep the hole is.", x.ID)
		if n := probe.Solve(x.Trials, p.Bracket.Kit).Next; n != nil {
			c.advise("Ask for a trial with %v×%v.", n.Thread.String(), quantity.FormatDecimal(int64(n.Length), 6))
		}
	case s.Status == stack.Caution:
		c.say("Right on paper, but the tolerances of the recess or the rim offset could undo it.")
		c.advise("Measure the rim offset and the recess with a gauge.")
	case p.blind:
		c.say("The bolts hold, but where the arms lie on the back is not known: what stands out there may ask for spacers.")
		c.advise("Measure the display's height, and from its top to the middle of the pattern.")
	case p.short():
		c.say("The bolts hold, but nobody has said whether the holes at %v lie in a recess or in front of the back: up to %v changes nothing.",
			strings.Join(p.unsaidHoles(), ", "), quantity.AtLeast(p.stacked.Slack.Value))
		c.advise("Look at the holes: measure the recess and the rim offset, 0 where there is none.")
		c.Marks = []string{"stack"}
	default:
		c.say("Every hole is safe; with the tolerances against it, %v at %v is still %v.", what, holes, figure)
	}
	if send != "" {
		c.say("%v The bag lacks %v.", c.Text, send)
		c.advise("Send %v.", send)
	} else if p.Alternative != nil {
		c.advise("Or send %v: safe with all tolerances.", SupplyList(p.Alternative.Supplied, p.Pattern.Thread))
	}
}

// openInterval returns a hole of which trial bolts leave an end of an interval openInterval, or
// nil.
func openInterval(p *Pairing) *catalog.Hole {
	return hole(p, func(h *catalog.Hole) bool {
		return h.Probed != nil && (!h.Probed.Depth.High.Known || !h.Probed.Recess.High.Known)
	})
}

// wideRecess returns a hole whose recess depth trial bolts do not tell to 3 mm,
// or nil.
func wideRecess(p *Pairing) *catalog.Hole {
	return hole(p, func(h *catalog.Hole) bool {
		k := h.Probed
		return k != nil && k.Recess.High.Known && k.Recess.High.Value-k.Recess.Low > 3*quantity.Millimetre
	})
}

func hole(p *Pairing, is func(*catalog.Hole) bool) *catalog.Hole {
	for i := range p.Pattern.Holes {
		if h := &p.Pattern.Holes[i]; is(h) {
			return h
		}
	}
	return nil
}

// list writes names in a sentence.
func list(names []string) string { return strings.Join(names, ", ") }

// Lean writes an angle of lean.
func Lean(degrees float64) string { return fmt.Sprintf("%.2f°", degrees) }

// SupplyList lists exactly what to send: "2 × M8×45, 2 × spacer 20". Fasteners
// are named by their metric sizes in either system of units.
func SupplyList(list []stack.Supply, t fastener.Thread) string {
	all := make([]string, 0, len(list))
	for _, s := range list {
		size, what := quantity.FormatDecimal(int64(s.Length), 6), ""
		switch s.Kind {
		case catalog.Bolt:
			what = t.String() + "×" + size
			if s.Head != "" && s.Head != catalog.PanHead {
				what += " " + s.Head.String() + " head"
			}
		case catalog.Spacer:
			what = "spacer " + size
		case catalog.Washer:
			what = "washer " + t.String() + ", " + quantity.FormatDecimal(int64(s.Outer), 6) + " wide"
		case catalog.ShoulderWasher:
			what = "shoulder washer " + t.String()
		}
		all = append(all, strconv.Itoa(s.Count)+" × "+what)
	}
	return strings.Join(all, ", ")
}

// whyNot explains why there is no stack, and what would help.
func whyNot(p *Pairing) (text, remedy quantity.Phrase) {
	why, t := p.why, p.Pattern.Thread.String()
	if why == nil {
		why = new(stack.Why(p.Problem()))
	}
	switch why.Kind {
	case stack.Shallow:
		return quantity.Say("The thread at %v is too shallow for %v: %v is needed to hold and stay clear of the bottom.",
				strings.Join(why.Holes, ", "), t, why.Figure),
			quantity.Say("Measure the depth again; if it is right, no bolt is safe here.")
	case stack.TightHead:
		return quantity.Say("The bolt's head does not fit behind the plate with the washers it needs."),
			quantity.Say("Take a bracket with more room behind the plate.")
	case stack.TooMuchLean:
		return quantity.Say("The best choice of spacers leaves the display leaning by %v; %v is allowed.", Lean(why.Lean), p.Policy.LeanMax),
			quantity.Say("A spacer of a length between those in stock would help.")
	case stack.TooMuchTwist:
		return quantity.Say("The best choice of spacers leaves the four corners standing unequally by %v; %v is allowed: the arms would not "+
				"hang parallel.", quantity.AtMost(why.Figure), p.Policy.TwistMax),
			quantity.Say("A spacer of a length between those in stock would help.")
	case stack.NarrowDisc:
		return quantity.Say("No washer or spacer for %v is wide enough for a slot of %v.", t, p.Bracket.Slot()),
			quantity.Say("Take a bracket with narrower slots, or supply wide washers.")
	case stack.OddSpacer:
		return quantity.Say("No spacer in the bag or in stock bridges the rim offset and the recess."),
			quantity.Say("A spacer of %v, wider than the slot, would do.", why.Figure)
	}
	return none, quantity.Phrase{}
}

var none = quantity.Say("No bolt, washer and spacer in the bag or in stock make a safe stack.")
