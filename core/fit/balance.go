package fit

import (
	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// BalanceRule: the display hangs between its two arms, or on its plate, with weight on both sides. P at e from
// their middle, W apart, leaves the lesser support P·(1/2 − |e|/W): below 0 it lifts off; below a tenth of P is a
// caution. On a single plate the weight is within its width (statics; the tenth is practice).
const BalanceRule RuleID = "balance"

var balanceRule = pairingRule{About: About{ID: BalanceRule, Never: map[Status]string{Note: noNote}, Name: "Balance", Severity: 3,
	Step:  "bolt",
	Marks: []string{"back.outline", "back.arms"}}, Judge: judgeBalance}

func judgeBalance(p *Pairing, c *Check) {
	_, right := p.cgFromPattern()
	if p.Pattern == nil || !right.Known {
		c.is(Unknown, func() {
			c.say("Whether the display hangs in balance depends on the hole pattern, and on where it lies on the display.")
		})
		return
	}
	if p.topples() {
		c.is(Unknown, func() {
			c.say("By its record nothing of the bracket's %v is under the hooks, to lean on the wall plate: the display tips off forward.",
				p.bearing())
			c.advise("Check where the hooks are.")
		})
		return
	}
	i := &p.Bracket.Interface
	if i.Type != catalog.Plate {
		width, _ := p.Turn.Size(p.Pattern.Width, p.Pattern.Height)
		between(c, right.Value, width)
		return
	}
	width, _, known := i.PlateSize()
	aside := right.Value.Abs()
	c.Measure = atMost(aside, width.HalfUp(), MM)
	switch {
	case 2*aside <= width:
		c.words(func() { c.balanced(aside) })
	case known:
		c.is(Fail, func() {
			c.say("The display's weight hangs %v beside the middle of the plate, beyond its edge: it tips off.", quantity.AtMost(aside))
			c.advise("Take a wider bracket, with arms.")
		})
	default:
		c.is(Unknown, func() {
			c.say("The display's weight hangs %v from the middle of its holes, and the plate's width is not known.", quantity.AtMost(aside))
			c.advise("Measure the plate.")
		})
	}
}

// balanced are the words of a weight that both sides carry.
func (c *Check) balanced(aside quantity.Length) {
	if aside == 0 {
		c.say("The display's weight hangs in the middle of its holes.")
		return
	}
	c.say("The display's weight hangs %v beside the middle of its holes, and both sides carry it.", quantity.AtMost(aside))
}

// Balance judges a weight that hangs at a distance from the middle of two supports that are so far apart.
func Balance(aside, apart quantity.Length) Finding {
	c := Check{Finding: Finding{Rule: BalanceRule}}
	between(&c, aside, apart)
	return c.Finding
}

func between(c *Check, aside, apart quantity.Length) {
	aside = aside.Abs()
	c.Measure = atMost(aside, 2*apart/5, MM)
	switch {
	case 2*aside > apart:
		c.Status, c.Measure = Fail, atMost(aside, apart/2, MM)
		c.words(func() {
			c.say("The display's weight hangs %v beside the middle of its arms, outside them: the other arm lifts off.", quantity.AtMost(aside))
			c.advise("Use holes that are farther apart, or hang a weight on the other side.")
		})
	case 5*aside > 2*apart:
		c.is(Caution, func() {
			c.say("The display's weight hangs %v beside the middle of its arms: the other one carries less than a tenth.", quantity.AtMost(aside))
			c.advise("Lock both arms; check that neither lifts when the display is touched.")
		})
	default:
		c.words(func() { c.balanced(aside) })
	}
}

// topples reports whether nothing of what hangs on hooks is under them, to lean on: whatever hangs there tips off forward (statics).
// The plate of a head that is bolted to its joint has no hooks.
func (p *Pairing) topples() bool {
	i := &p.Bracket.Interface
	if i.Type == catalog.Arms {
		return i.ArmBottom.Value <= 0
	}
	_, height, known := i.PlateSize()
	return known && p.Bracket.Kind.Properties().Flat && 2*i.CenterBelowHook.Value+height <= 0
}

// bearing names what of the bracket lies on the display's back.
func (p *Pairing) bearing() string {
	if p.Bracket.Interface.Type == catalog.Plate {
		return "plate"
	}
	return "arms"
}
