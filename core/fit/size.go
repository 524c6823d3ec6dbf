package fit

import "nexufix/core/quantity"

// SizeRule: the diagonal is within the bracket's range, or its guidance, by the policy's school.
const SizeRule RuleID = "size"

var sizeRule = pairingRule{About: About{ID: SizeRule, Never: map[Status]string{Note: noNote}, Name: "Size", Severity: 8,
	Blocks: true, Step: "unpack",
	Marks: []string{"back.outline"}, Uses: usesDiagonal}, Judge: judgeSize}

func judgeSize(p *Pairing, c *Check) {
	lo, hi, diagonal := p.Bracket.DiagonalMin, p.Bracket.DiagonalMax, p.Display.Diagonal
	if !lo.Known && !hi.Known {
		c.is(Pass, func() { c.say("The bracket has no limits of size.") })
		return
	}
	if !diagonal.Known {
		c.is(Unknown, func() {
			c.say("The display's diagonal is not known.")
			c.advise("Measure the picture from corner to corner.")
		})
		return
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
	switch other := p.Display.OtherDiagonal; {
	case hi.Known && v > hi.Value:
		c.Status = Caution
		if limit {
			c.Status = Fail
		}
		c.words(func() {
			is, most := quantity.Coarse(v, quantity.Up), quantity.Coarse(hi.Value, quantity.Down)
			c.say("A diagonal of %v is above the bracket's guidance, up to %v.", is, most)
			if limit {
				c.say("A diagonal of %v is above the bracket's range, up to %v: a bigger panel levers more.", is, most)
			}
			c.advise("Take a bracket for larger displays.")
		})
	case limit && hi.Known && other.Known && other.Value > hi.Value:
		c.is(Unknown, func() {
			c.say("On record the diagonal is %v, but by its width and height the display may have up to %v: too much for the bracket.", v,
				other.Value)
			c.advise("Measure the picture from corner to corner.")
		})
	case lo.Known && v < lo.Value:
		c.is(Caution, func() {
			c.say("A diagonal of %v is below the bracket's range, from %v: more bracket than display.", quantity.Coarse(v, quantity.Down),
				quantity.Coarse(lo.Value, quantity.Up))
			c.advise("Check that the bracket does not show beside the display.")
		})
	default:
		c.words(func() {
			c.say("A diagonal of %v is within the bracket's range.", quantity.Coarse(v, quantity.Nearest))
		})
	}
}
