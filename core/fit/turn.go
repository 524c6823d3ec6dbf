package fit

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// TurnRule: the display's maker allows the turn.
const TurnRule RuleID = "turn"

var turnRule = pairingRule{About: About{ID: TurnRule, Never: map[Status]string{Caution: "a maker allows a turn or does not",
	Unknown: "a maker who says nothing is not asked", Note: noNote}, Name: "Turn", Severity: 7, Step: "facedown",
	Marks: []string{"back.outline"}}, Judge: judgeTurn}

func judgeTurn(p *Pairing, c *Check) {
	switch allowed := p.Display.Turns; {
	case len(allowed) == 0:
		c.is(Pass, func() { c.say("The display's maker says nothing of how it may be turned.") })
		return
	case !slices.Contains(allowed, p.Turn):
		c.is(Fail, func() {
			c.say("The display's maker does not allow it to hang %v.", hung(p.Turn))
			c.advise("Hang it as its maker allows.")
		})
		return
	}
	c.is(Pass, func() { c.say("The display's maker allows it to hang %v.", hung(p.Turn)) })
}

// hung describes a turn.
func hung(t catalog.Turn) quantity.Phrase {
	if t == 0 {
		return quantity.Say("upright")
	}
	return quantity.Say("turned by %v°", int(t))
}
