package fit

import (
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/hang"
	"nexufix/core/quantity"
)

// rules are the rules of a pairing, in the order of [Rules]: the parts of the drawing that each is
// about, whether it depends on where the display hangs, its judgement, and its words. The data rule depends on the
// display alone and is judged once.
var rules = [...]struct {
	rule  Rule
	marks []string
	hung  bool
	judge func(*Pairing) Finding
	words func(*Pairing, *Check)
}{
	{PatternRule, []string{"back.pattern"}, false, patternCheck, patternWords},
	{BoltsRule, []string{"back.pattern"}, false, boltsCheck, boltsWords},
	{ThreadRule, []string{"stack.*.bolt"}, false, threadCheck, threadWords},
	{StackRule, []string{"stack"}, false, stackCheck, stackWords},
	{LoadRule, []string{"back.outline"}, false, loadCheck, loadWords},
	{BalanceRule, []string{"back.outline", "back.arms"}, false, balanceCheck, balanceWords},
	{SizeRule, []string{"back.outline"}, false, sizeCheck, sizeWords},
	{TurnRule, []string{"back.outline"}, false, turnCheck, turnWords},
	{ArmsRule, []string{"back.arms"}, true, armsCheck, armsWords},
	{PortsRule, nil, true, portsCheck, portsWords},
	{PlugsRule, nil, true, plugsCheck, plugsWords},
	{ProtrusionRule, nil, true, protrusionCheck, protrusionWords},
	{TiltRule, []string{"side.tilt"}, true, tiltCheck, tiltWords},
	{SwivelRule, []string{"side.swivel"}, true, swivelCheck, swivelWords},
	{HoldRule, []string{"side.hold"}, true, holdCheck, holdWords},
	{DataRule, nil, false, nil, nil},
}

// say and advise put a check into words.
func (c *Check) say(format string, args ...any)    { c.Text = quantity.Say(format, args...) }
func (c *Check) advise(format string, args ...any) { c.Remedy = quantity.Say(format, args...) }

// patternName writes a pattern as the trade names it, in millimetres
// in either system of units.
func patternName(w, h quantity.Length) string {
	return quantity.FormatDecimal(int64(w), 6) + " × " + quantity.FormatDecimal(int64(h), 6)
}

// A rule's function that ends in Check returns status and measure; the one that ends in Words
// puts these into words, when somebody reads them.

func patternCheck(p *Pairing) (c Finding) {
	if p.Pattern == nil {
		c.Status = Unknown
		return c
	}
	w, h := p.Turn.Size(p.Pattern.Width, p.Pattern.Height)
	i := &p.Bracket.Interface
	slide, takes := hang.TakesWidth(p.Bracket, w, h)
	turns := p.Bracket.AllowsTurn(p.Turn)
	if i.Type == catalog.Arms && turns {
		c.Measure = atLeast(w, i.WidthMin.Value, MM)
		if i.WidthMax.Value-w < w-i.WidthMin.Value {
			c.Measure = atMost(w, i.WidthMax.Value, MM)
		}
		switch {
		case i.ArmWidth > w:
			c.Measure = atLeast(w, i.ArmWidth, MM)
		case slide < 0:
			c.Measure = atMost(w, i.RailWidth.Value-i.ArmWidth, MM)
		}
		c.Measure.Coarse = true
	}
	if !turns || !takes {
		c.Status = Fail
	}
	return c
}

func patternWords(p *Pairing, c *Check) {
	if p.Pattern == nil {
		c.say("The display's hole pattern is not known.")
		c.advise("Ask for the distance between the holes, across and down.")
		return
	}
	w, h := p.Turn.Size(p.Pattern.Width, p.Pattern.Height)
	i, name := &p.Bracket.Interface, patternName(w, h)
	slide, _ := hang.TakesWidth(p.Bracket, w, h)
	least, most := quantity.Wall(i.WidthMin.Value), quantity.Wall(i.WidthMax.Value)
	switch takes := c.Status == Pass; {
	case !p.Bracket.AllowsTurn(p.Turn):
		c.say("%v does not let a display hang %v.", quantity.Name(p.Bracket.Name), hung(p.Turn))
		c.advise("Hang the display upright, or take a bracket that turns.")
	case takes && i.Type == catalog.Plate:
		c.say("%v is one of the plate's patterns.", name)
	case takes:
		c.say("%v is within the arms' range, %v to %v wide.", name, least, most)
	case i.Type == catalog.Plate:
		var all []string
		for _, x := range i.Patterns {
			all = append(all, patternName(x.Width, x.Height))
		}
		c.say("%v is not one of the plate's patterns (%v).", name, strings.Join(all, ", "))
	case i.ArmWidth > w:
		c.say("The arms, %v wide, would be in each other at %v.", i.ArmWidth, name)
		c.advise("Check how wide an arm is.")
	case slide < 0:
		c.say("%v does not go on the rail: with the arms it would be %v too wide.", name, quantity.Coarse(-2*slide, quantity.Up))
	default:
		c.say("%v is outside the arms' range, %v to %v wide.", name, least, most)
	}
}

func threadCheck(p *Pairing) (c Finding) {
	switch {
	case p.Pattern == nil || p.Pattern.Thread == 0 || p.threadContradicted() != nil:
		c.Status = Unknown
	case p.onlyCountersunk():
		c.Status = Fail
	case !p.Bracket.Takes(p.Pattern.Thread) && p.smaller() && p.stacked.Found:
		c.Status = Caution
	case !p.Bracket.Takes(p.Pattern.Thread):
		c.Status = Fail
	case !hasBolts(p.Bracket.Kit, p.Pattern.Thread) && !hasBolts(p.Display.OwnParts, p.Pattern.Thread):
		c.Status = Caution
	}
	return c
}

// threadContradicted returns what contradicts the pattern's thread, or nil.
func (p *Pairing) threadContradicted() *catalog.Contradiction {
	for i := range p.Pattern.Contradictions {
		if x := &p.Pattern.Contradictions[i]; x.Thread {
			return x
		}
	}
	return nil
}

func threadWords(p *Pairing, c *Check) {
	if p.Pattern == nil || p.Pattern.Thread == 0 {
		c.say("The display's thread is not known.")
		c.advise("Try bolts by hand: start with M4 and go up.")
		return
	}
	switch t := p.Pattern.Thread.String(); c.Status {
	case Unknown:
		c.Text = p.threadContradicted().Text
		c.advise("Ask for these trials again, or look at the threads.")
	case Fail:
		if p.onlyCountersunk() {
			c.say("The bag's %v bolts have countersunk heads, and the slots are not dimpled for them.", t)
			c.advise("Send %v bolts with pan heads.", t)
			return
		}
		c.say("The slots are not made for %v bolts: they take %v.", t, threadList(p.Bracket.Threads, ", "))
		c.advise("Take a bracket for %v bolts.", t)
	case Caution:
		if !p.Bracket.Takes(p.Pattern.Thread) {
			c.say("The bracket does not list %v (%v), but its slots are wider, and the washers bear on them.", t,
				threadList(p.Bracket.Threads, ", "))
			c.advise("Use the washers that are given, and centre each bolt in its slot.")
			return
		}
		c.say("The slots take %v, but the bag has no %v bolts.", t, t)
		c.advise("Supply %v bolts.", t)
	default:
		c.say("The slots take %v, and the bag has %v bolts.", t, t)
	}
}

// smaller reports whether the thread is not listed, but thinner than one that is, and than the slots.
func (p *Pairing) smaller() bool {
	d := p.Pattern.Thread.Standard().Nominal
	return d < p.Bracket.Slot() && slices.ContainsFunc(p.Bracket.Threads, func(t fastener.Thread) bool { return t > p.Pattern.Thread })
}

// onlyCountersunk reports whether the bags have no bolts of the thread but ones that need a dimple, which the slots lack.
func (p *Pairing) onlyCountersunk() bool {
	if p.stacked.Found && !p.stacked.Supplies {
		return false // its bolts are in the bags
	}
	some := false
	for _, bag := range [2][]catalog.Item{p.Bracket.Kit, p.Display.OwnParts} {
		for i := range bag {
			if bag[i].Thread == p.Pattern.Thread && bag[i].Kind == catalog.Bolt {
				if bag[i].Head != catalog.Countersunk {
					return false
				}
				some = true
			}
		}
	}
	return some && !p.Bracket.Dimpled
}

func hasBolts(items []catalog.Item, t fastener.Thread) bool {
	for i := range items {
		if items[i].Thread == t && items[i].Kind == catalog.Bolt {
			return true
		}
	}
	return false
}

func percent(r quantity.Ratio) string { return quantity.FormatDecimal(int64(r), 4) + " %" }

func sizeCheck(p *Pairing) (c Finding) {
	lo, hi, diagonal := p.Bracket.DiagonalMin, p.Bracket.DiagonalMax, p.Display.Diagonal
	if !lo.Known && !hi.Known {
		return c
	}
	if !diagonal.Known {
		c.Status = Unknown
		return c
	}
	v := diagonal.Value
	if lo.Known {
		c.Measure = atLeast(v, lo.Value, MM)
	}
	if hi.Known && (!lo.Known || hi.Value-v < v-lo.Value) {
		c.Measure = atMost(v, hi.Value, MM)
	}
	c.Measure.Coarse = true
	limit := p.Policy.SizeSchool != "guidance"
	switch above, other := hi.Known && v > hi.Value, p.Display.OtherDiagonal; {
	case above && limit:
		c.Status = Fail
	case !above && limit && hi.Known && other.Known && other.Value > hi.Value:
		c.Status = Unknown
	case above || lo.Known && v < lo.Value:
		c.Status = Caution
	}
	return c
}

func sizeWords(p *Pairing, c *Check) {
	lo, hi, v := p.Bracket.DiagonalMin, p.Bracket.DiagonalMax, p.Display.Diagonal.Value
	switch above := hi.Known && v > hi.Value; {
	case !lo.Known && !hi.Known:
		c.say("The bracket has no limits of size.")
	case !p.Display.Diagonal.Known:
		c.say("The display's diagonal is not known.")
		c.advise("Measure the picture from corner to corner.")
	case c.Status == Unknown:
		c.say("On record the diagonal is %v, but by its width and height the display may have up to %v: too much for the bracket.", v,
			p.Display.OtherDiagonal.Value)
		c.advise("Measure the picture from corner to corner.")
	case above:
		c.say("A diagonal of %v is above the bracket's range, up to %v: a bigger panel levers more.", quantity.Coarse(v, quantity.Up),
			quantity.Coarse(hi.Value, quantity.Down))
		if c.Status == Caution {
			c.say("A diagonal of %v is above the bracket's guidance, up to %v.", quantity.Coarse(v, quantity.Up),
				quantity.Coarse(hi.Value, quantity.Down))
		}
		c.advise("Take a bracket for larger displays.")
	case c.Status == Caution:
		c.say("A diagonal of %v is below the bracket's range, from %v: more bracket than display.", quantity.Coarse(v, quantity.Down),
			quantity.Coarse(lo.Value, quantity.Up))
		c.advise("Check that the bracket does not show beside the display.")
	default:
		c.say("A diagonal of %v is within the bracket's range.", quantity.Coarse(v, quantity.Nearest))
	}
}

func armsCheck(p *Pairing) (c Finding) {
	if p.Bracket.Interface.Type == catalog.Plate {
		return c
	}
	if p.Pattern == nil {
		c.Status = Unknown
		return c
	}
	if p.Hang == nil {
		if _, height := p.Turn.Size(p.Pattern.Width, p.Pattern.Height); len(hang.Positions(p.Bracket, height)) == 0 {
			c.Status = Fail
		}
		return c
	}
	reveal, known := p.Hang.Reveal()
	if !known {
		c.Status = Unknown
		return c
	}
	c.Measure = atLeast(reveal, p.Policy.Reveal, MM)
	c.Measure.Coarse = true
	if reveal < p.Policy.Reveal {
		c.Status = Caution
	}
	return c
}

func armsWords(p *Pairing, c *Check) {
	switch {
	case p.Bracket.Interface.Type == catalog.Plate:
		c.say("A plate has no arms to place.")
		return
	case p.Pattern == nil:
		c.say("Where the arms go depends on the hole pattern.")
		return
	case p.Hang == nil:
		_, height := p.Turn.Size(p.Pattern.Width, p.Pattern.Height)
		c.say("The arms' slots take holes %v apart, one above the other.", quantity.Wall(height))
		if c.Status == Fail {
			c.say("The arms' slots do not take holes %v apart, one above the other.", quantity.Wall(height))
		}
		return
	}
	reveal, _ := p.Hang.Reveal()
	end := "bottom"
	if p.Hang.RevealTop.Value < p.Hang.RevealBottom.Value {
		end = "top"
	}
	switch {
	case c.Status == Unknown:
		c.say("The slots take the holes, but where the display's edges are is not known.")
		c.advise("Measure the display's height, and from its top to the middle of the pattern.")
	case reveal < 0:
		c.say("The arms stand out %v past the display's %v edge.", quantity.Coarse(-reveal, quantity.Up), end)
		c.advise("Show the customer, or take a bracket with shorter arms.")
	case c.Status == Caution:
		c.say("The arms end only %v inside the display's %v edge.", quantity.Coarse(reveal, quantity.Down), end)
		c.advise("Check that they do not show from where people stand.")
	default:
		c.say("The arms end %v inside the display's outline.", quantity.Coarse(reveal, quantity.Down))
	}
}
