package fit

import (
	"nexufix/core/catalog"
	"nexufix/core/hang"
	"nexufix/core/quantity"
)

// ArmsRule: the arms' slots take the rows of holes, and their ends do not show past the display's outline.
const ArmsRule RuleID = "arms"

var armsRule = pairingRule{About: About{ID: ArmsRule, Never: map[Status]string{Note: noNote}, Name: "Arms", Severity: 12,
	Step: "bolt", Marks: []string{"back.arms"},
	Uses: usesHeight}, Hung: true, Judge: judgeArms}

func judgeArms(p *Pairing, c *Check) {
	switch {
	case p.Bracket.Interface.Type == catalog.Plate:
		c.is(Pass, func() { c.say("A plate has no arms to place.") })
		return
	case p.Pattern == nil:
		c.is(Unknown, func() { c.say("Where the arms go depends on the hole pattern.") })
		return
	case p.Hang == nil:
		_, height := p.Turn.Size(p.Pattern.Width, p.Pattern.Height)
		c.words(func() {
			c.say("The arms' slots take holes %v apart, one above the other.", quantity.Wall(height))
		})
		if len(hang.Positions(p.Bracket, height)) == 0 {
			c.is(Fail, func() {
				c.say("The arms' slots do not take holes %v apart, one above the other.", quantity.Wall(height))
			})
		}
		return
	}
	reveal, known := p.Hang.Reveal()
	if !known {
		c.is(Unknown, func() {
			c.say("The slots take the holes, but where the display's edges are is not known.")
			c.advise("Measure the display's height, and from its top to the middle of the pattern.")
		})
		return
	}
	c.Measure = atLeast(reveal, p.Policy.Reveal, MM)
	c.Measure.Coarse = true
	if reveal < p.Policy.Reveal {
		c.Status = Caution
	}
	c.words(func() {
		end := "bottom"
		if p.Hang.RevealTop.Value < p.Hang.RevealBottom.Value {
			end = "top"
		}
		switch {
		case reveal < 0:
			c.say("The arms stand out %v past the display's %v edge.", quantity.Coarse(-reveal, quantity.Up), end)
			c.advise("Show the customer, or take a bracket with shorter arms.")
		case reveal < p.Policy.Reveal:
			c.say("The arms end only %v inside the display's %v edge.", quantity.Coarse(reveal, quantity.Down), end)
			c.advise("Check that they do not show from where people stand.")
		default:
			c.say("The arms end %v inside the display's outline.", quantity.Coarse(reveal, quantity.Down))
		}
	})
}
