package fit

import (
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/hang"
	"nexufix/core/quantity"
)

// PatternRule: the plate, or the arms, take the display's hole pattern as it is turned.
const PatternRule RuleID = "pattern"

var patternRule = pairingRule{About: About{ID: PatternRule, Never: map[Status]string{Caution: "a pattern goes on the bracket or it " +
	"does not", Note: noNote}, Name: "Hole pattern", Severity: 6, Blocks: true, Step: "facedown",
	Marks: []string{"back.pattern"}}, Judge: judgePattern}

// patternName writes a pattern as the trade names it, in millimetres
// in either system of units.
func patternName(w, h quantity.Length) string {
	return quantity.FormatDecimal(int64(w), 6) + " × " + quantity.FormatDecimal(int64(h), 6)
}

func judgePattern(p *Pairing, c *Check) {
	if p.Pattern == nil {
		c.is(Unknown, func() {
			c.say("The display's hole pattern is not known.")
			c.advise("Ask for the distance between the holes, across and down.")
		})
		return
	}
	w, h := p.Turn.Size(p.Pattern.Width, p.Pattern.Height)
	i := &p.Bracket.Interface
	slide, takes := hang.TakesWidth(p.Bracket, w, h)
	if !p.Bracket.AllowsTurn(p.Turn) {
		c.is(Fail, func() {
			c.say("%v does not let a display hang %v.", quantity.Name(p.Bracket.Name), hung(p.Turn))
			c.advise("Hang the display upright, or take a bracket that turns.")
		})
		return
	}
	if !takes {
		c.Status = Fail
	}
	if i.Type == catalog.Plate {
		c.words(func() {
			name := patternName(w, h)
			if takes {
				c.say("%v is one of the plate's patterns.", name)
				return
			}
			var all []string
			for _, x := range i.Patterns {
				all = append(all, patternName(x.Width, x.Height))
			}
			c.say("%v is not one of the plate's patterns (%v).", name, strings.Join(all, ", "))
		})
		return
	}
	switch {
	case i.ArmWidth > w:
		c.Measure = atLeast(w, i.ArmWidth, MM)
	case slide < 0:
		c.Measure = atMost(w, i.RailWidth.Value-i.ArmWidth, MM)
	case i.WidthMax.Value-w < w-i.WidthMin.Value:
		c.Measure = atMost(w, i.WidthMax.Value, MM)
	default:
		c.Measure = atLeast(w, i.WidthMin.Value, MM)
	}
	c.Measure.Coarse = true
	c.words(func() {
		name, least, most := patternName(w, h), quantity.Wall(i.WidthMin.Value), quantity.Wall(i.WidthMax.Value)
		switch {
		case takes:
			c.say("%v is within the arms' range, %v to %v wide.", name, least, most)
		case i.ArmWidth > w:
			c.say("The arms, %v wide, would be in each other at %v.", i.ArmWidth, name)
			c.advise("Check how wide an arm is.")
		case slide < 0:
			c.say("%v does not go on the rail: with the arms it would be %v too wide.", name, quantity.Coarse(-2*slide, quantity.Up))
		default:
			c.say("%v is outside the arms' range, %v to %v wide.", name, least, most)
		}
	})
}
