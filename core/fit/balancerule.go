package fit

import (
	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// balanceCheck: the display hangs between its two arms, or on its plate, with weight on both sides. P at e from
// their middle, W apart, leaves the lesser support P·(1/2 − |e|/W): below 0 it lifts off; below a tenth of P is a
// caution. On a single plate the weight is within its width (statics; the tenth is practice).
func balanceCheck(p *Pairing) (c Finding) {
	_, right := p.cgFromPattern()
	if p.Pattern == nil || !right.Known {
		c.Status = Unknown
		return c
	}
	if p.topples() {
		c.Status, c.about.unsaid = Unknown, true
		return c
	}
	i := &p.Bracket.Interface
	if i.Type != catalog.Plate {
		width, _ := p.Turn.Size(p.Pattern.Width, p.Pattern.Height)
		return balance(right.Value, width)
	}
	width, _, known := i.PlateSize()
	c.Measure = atMost(right.Value.Abs(), width.HalfUp(), MM)
	switch {
	case 2*right.Value.Abs() <= width:
	case known:
		c.Status = Fail
	default:
		c.Status = Unknown
	}
	return c
}

// topples reports whether nothing of what hangs on hooks is under them, to lean on: whatever hangs there tips off forward (statics).
// The plate of a head that is bolted to its joint has no hooks.
func (p *Pairing) topples() bool {
	i := &p.Bracket.Interface
	if i.Type == catalog.Arms {
		return i.ArmBottom.Value <= 0
	}
	_, height, known := i.PlateSize()
	return known && (p.Bracket.Kind == "fixed" || p.Bracket.Kind == "low_profile") && 2*i.CenterBelowHook.Value+height <= 0
}

// balance judges a weight at a distance from the middle of two supports.
func balance(aside, apart quantity.Length) (c Finding) {
	aside = aside.Abs()
	c.Measure = atMost(aside, 2*apart/5, MM)
	switch {
	case 2*aside > apart:
		c.Status, c.Measure = Fail, atMost(aside, apart/2, MM)
	case 5*aside > 2*apart:
		c.Status = Caution
	}
	return c
}

// Balance judges a weight that hangs at a distance from the middle of two supports that are so far apart.
func Balance(aside, apart quantity.Length) Finding {
	c := balance(aside, apart)
	c.Rule = BalanceRule
	return c
}

// bearing names what of the bracket lies on the display's back.
func (p *Pairing) bearing() string {
	if p.Bracket.Interface.Type == catalog.Plate {
		return "plate"
	}
	return "arms"
}

func balanceWords(p *Pairing, c *Check) {
	on := p.bearing()
	switch aside := quantity.AtMost(c.Measure.Value); {
	case c.about.unsaid:
		c.say("By its record nothing of the bracket's %v is under the hooks, to lean on the wall plate: the display tips off forward.", on)
		c.advise("Check where the hooks are.")
	case c.Status == Unknown && !c.Measure.Given():
		c.say("Whether the display hangs in balance depends on the hole pattern, and on where it lies on the display.")
	case c.Status == Unknown:
		c.say("The display's weight hangs %v from the middle of its holes, and the plate's width is not known.", aside)
		c.advise("Measure the plate.")
	case c.Status == Fail && on == "plate":
		c.say("The display's weight hangs %v beside the middle of the plate, beyond its edge: it tips off.", aside)
		c.advise("Take a wider bracket, with arms.")
	case c.Status == Fail:
		c.say("The display's weight hangs %v beside the middle of its arms, outside them: the other arm lifts off.", aside)
		c.advise("Use holes that are farther apart, or hang a weight on the other side.")
	case c.Status == Caution:
		c.say("The display's weight hangs %v beside the middle of its arms: the other one carries less than a tenth.", aside)
		c.advise("Lock both arms; check that neither lifts when the display is touched.")
	case c.Measure.Value == 0:
		c.say("The display's weight hangs in the middle of its holes.")
	default:
		c.say("The display's weight hangs %v beside the middle of its holes, and both sides carry it.", aside)
	}
}
