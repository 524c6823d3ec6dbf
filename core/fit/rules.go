package fit

import (
	"fmt"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/hang"
	"nexufix/core/quantity"
)

// Tags of the drawing's parts, by the rules that are about them.
var (
	patternMarks = []string{"back.pattern"}
	threadMarks  = []string{"stack.*.bolt"}
	outlineMarks = []string{"back.outline"}
	armsMarks    = []string{"back.arms"}
)

// patternName writes a pattern as the trade names it, in whole millimetres
// whatever the units.
func patternName(w, h quantity.Length) string {
	return fmt.Sprintf("%s × %s", quantity.FormatDecimal(int64(w), 6), quantity.FormatDecimal(int64(h), 6))
}

func patternCheck(p *Pairing) Check {
	c := Check{Rule: PatternRule, Marks: patternMarks}
	if p.Pattern == nil {
		c.Status = Unknown
		c.Text = quantity.Say("The display's hole pattern is not known.")
		c.Remedy = quantity.Say("Ask for the distance between the holes, across and down.")
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
		if slide < 0 {
			c.Measure = atMost(w, i.RailWidth.Value-i.ArmWidth, MM)
		}
		c.Measure.Coarse = true
	}
	if !turns || !takes {
		c.Status = Fail
	}
	if p.brief {
		return c
	}
	name := patternName(w, h)
	switch {
	case !turns:
		c.Text = quantity.Say("%v does not let a display hang %v.", p.Bracket.Name, hung(p.Turn))
		c.Remedy = quantity.Say("Hang the display upright, or take a bracket that turns.")
	case takes && i.Type == catalog.Plate:
		c.Text = quantity.Say("%v is one of the plate's patterns.", name)
	case takes:
		c.Text = quantity.Say("%v is within the arms' range, %v to %v wide.", name, quantity.Wall(i.WidthMin.Value), quantity.Wall(i.WidthMax.Value))
	case i.Type == catalog.Plate:
		var all []string
		for _, x := range i.Patterns {
			all = append(all, patternName(x.Width, x.Height))
		}
		c.Text = quantity.Say("%v is not one of the plate's patterns (%v).", name, strings.Join(all, ", "))
	case slide < 0:
		c.Text = quantity.Say("%v does not go on the rail: with the arms it would be %v too wide.", name,
			quantity.Shown{Length: -2 * slide, Bound: quantity.Up, Coarse: true})
	default:
		c.Text = quantity.Say("%v is outside the arms' range, %v to %v wide.", name, quantity.Wall(i.WidthMin.Value), quantity.Wall(i.WidthMax.Value))
	}
	return c
}

func threadCheck(p *Pairing) Check {
	c := Check{Rule: ThreadRule, Marks: threadMarks}
	if p.Pattern == nil || p.Pattern.Thread == 0 {
		c.Status = Unknown
		c.Text = quantity.Say("The display's thread is not known.")
		c.Remedy = quantity.Say("Try bolts by hand: start with M4 and go up.")
		return c
	}
	t := p.Pattern.Thread
	for i := range p.Pattern.Contradictions {
		if x := &p.Pattern.Contradictions[i]; x.Thread {
			c.Status, c.Text = Unknown, x.Text
			c.Remedy = quantity.Say("Ask for these trials again, or look at the threads.")
			return c
		}
	}
	takes := p.Bracket.Takes(t)
	switch {
	case !takes:
		c.Status = Fail
	case !hasBolts(p.Bracket.Kit, t) && !hasBolts(p.Display.OwnParts, t):
		c.Status = Caution
	}
	if p.brief {
		return c
	}
	switch c.Status {
	case Fail:
		c.Text = quantity.Say("%v bolts do not pass the slots, which take %v.", t, threadList(p.Bracket.Threads, ", "))
	case Caution:
		c.Text = quantity.Say("The slots take %v, but the bag has no %v bolts.", t, t)
		c.Remedy = quantity.Say("Supply %v bolts.", t)
	default:
		c.Text = quantity.Say("The slots take %v, and the bag has %v bolts.", t, t)
	}
	return c
}

func hasBolts(items []catalog.Item, t fastener.Thread) bool {
	for i := range items {
		if items[i].Kind == catalog.Bolt && items[i].Thread == t {
			return true
		}
	}
	return false
}

func loadCheck(p *Pairing) Check {
	c := Check{Rule: LoadRule, Marks: outlineMarks}
	d, b := p.Display, p.Bracket
	switch {
	case !d.Mass.Known:
		c.Status = Unknown
		c.Text = quantity.Say("The display's mass without its stand is not known.")
		c.Remedy = quantity.Say("Weigh it, or ask for the data sheet's figure without stand.")
		if d.MassWithStand.Known && !p.brief {
			c.Text = quantity.Say("The display's mass without its stand is not known; with it, it is %v.", d.MassWithStand.Value)
		}
		return c
	case !b.RatedLoad.Known:
		c.Status = Unknown
		c.Text = quantity.Say("The bracket's rated load is not known.")
		return c
	}
	mass, rated := d.Mass.Value+p.Extra.Accessories, b.RatedLoad.Value
	lever, levered := p.lever()
	moment := false
	if b.RatedMoment.Known && levered {
		if most := quantity.Mass(b.RatedMoment.Value.NewtonMetres() / (Gravity * lever.MM() / 1000) * float64(quantity.Kilogram)); most < rated {
			rated, moment = most, true
		}
	}
	c.Measure = atMost(mass, rated, KG)
	switch {
	case mass > rated:
		c.Status = Fail
	case b.RatedMoment.Known && !levered:
		c.Status = Unknown
		c.Text = quantity.Say("The bracket is rated for %v, but how far out the display hangs is not known.", b.RatedMoment.Value)
		c.Remedy = quantity.Say("It takes the display's depth, the bracket's reach and the bolts.")
		return c
	case mass > p.Policy.LoadCaution.OfMass(rated):
		c.Status = Caution
	}
	if p.brief {
		return c
	}
	if moment {
		return momentText(c, p, mass, rated, lever)
	}
	switch c.Status {
	case Fail:
		c.Text = quantity.Say("%v is %v more than the bracket is rated for, %v.", mass, mass-rated, quantity.Capacity(rated))
		c.Remedy = quantity.Say("Take a bracket rated for at least %v.", mass)
	case Caution:
		c.Text = quantity.Say("%v is above %v of the rated load, %v.", mass, percent(p.Policy.LoadCaution), quantity.Capacity(rated))
		c.Remedy = quantity.Say("Weigh the display with all that hangs on it.")
	default:
		c.Text = quantity.Say("%v on a bracket rated for %v.", mass, quantity.Capacity(rated))
	}
	return c
}

// lever is how far the display's centre of gravity is from the wall at its
// farthest: reach + z + half the depth; false when it is not known. What swings
// out without a reach has none.
func (p *Pairing) lever() (quantity.Length, bool) {
	z, stacked := p.nearest()
	reach, known := p.Bracket.Farthest()
	return reach + z + p.cgDepth(), known && stacked && p.Display.Depth.Known
}

// momentText is the load's check in words where the moment is nearer than the
// mass.
func momentText(c Check, p *Pairing, mass, most quantity.Mass, lever quantity.Length) Check {
	moment := p.Bracket.RatedMoment.Value
	switch c.Status {
	case Fail:
		c.Text = quantity.Say("%v hangs %v from the wall; the bracket's %v takes %v there.", mass, quantity.AtMost(lever), moment,
			quantity.Capacity(most))
		c.Remedy = quantity.Say("Take a bracket with a shorter reach, or one rated for more.")
	case Caution:
		c.Text = quantity.Say("%v is above %v of what the bracket's %v takes %v from the wall, %v.", mass, percent(p.Policy.LoadCaution), moment,
			quantity.AtMost(lever), quantity.Capacity(most))
		c.Remedy = quantity.Say("Weigh the display with all that hangs on it.")
	default:
		c.Text = quantity.Say("%v hangs %v from the wall, where the bracket's %v takes %v.", mass, quantity.AtMost(lever), moment,
			quantity.Capacity(most))
	}
	return c
}

func percent(r quantity.Ratio) string { return quantity.FormatDecimal(int64(r), 4) + " %" }

func sizeCheck(p *Pairing) Check {
	c := Check{Rule: SizeRule, Marks: outlineMarks}
	lo, hi, diagonal := p.Bracket.DiagonalMin, p.Bracket.DiagonalMax, p.Display.Diagonal
	if !lo.Known && !hi.Known {
		c.Text = quantity.Say("The bracket has no limits of size.")
		return c
	}
	if !diagonal.Known {
		c.Status = Unknown
		c.Text = quantity.Say("The display's diagonal is not known.")
		c.Remedy = quantity.Say("Measure the picture from corner to corner.")
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
	above, below := hi.Known && v > hi.Value, lo.Known && v < lo.Value
	switch {
	case above && p.Policy.SizeSchool != "guidance":
		c.Status = Fail
	case above || below:
		c.Status = Caution
	}
	if other := p.Display.OtherDiagonal; other.Known && hi.Known && other.Value > hi.Value && !above && p.Policy.SizeSchool != "guidance" {
		c.Status = Unknown
		if p.brief {
			return c
		}
		c.Text = quantity.Say("On record the diagonal is %v, but by its width and height the display may have up to %v: too much for the "+
			"bracket.", v, other.Value)
		c.Remedy = quantity.Say("Measure the picture from corner to corner.")
		return c
	}
	if p.brief {
		return c
	}
	shown := func(l quantity.Length, b quantity.Bound) quantity.Shown {
		return quantity.Shown{Length: l, Bound: b, Coarse: true}
	}
	switch {
	case above:
		c.Text = quantity.Say("A diagonal of %v is above the bracket's range, up to %v: a bigger panel levers more.", shown(v, quantity.Up),
			shown(hi.Value, quantity.Down))
		if c.Status == Caution {
			c.Text = quantity.Say("A diagonal of %v is above the bracket's guidance, up to %v.", shown(v, quantity.Up),
				shown(hi.Value, quantity.Down))
		}
		c.Remedy = quantity.Say("Take a bracket for larger displays.")
	case below:
		c.Text = quantity.Say("A diagonal of %v is below the bracket's range, from %v: more bracket than display.", shown(v, quantity.Down),
			shown(lo.Value, quantity.Up))
		c.Remedy = quantity.Say("Check that the bracket does not show beside the display.")
	default:
		c.Text = quantity.Say("A diagonal of %v is within the bracket's range.", shown(v, quantity.Nearest))
	}
	return c
}

func armsCheck(p *Pairing) Check {
	c := Check{Rule: ArmsRule, Marks: armsMarks}
	b := p.Bracket
	if b.Interface.Type == catalog.Plate {
		c.Text = quantity.Say("A plate has no arms to place.")
		return c
	}
	if p.Pattern == nil {
		c.Status = Unknown
		c.Text = quantity.Say("Where the arms go depends on the hole pattern.")
		return c
	}
	_, height := p.Turn.Size(p.Pattern.Width, p.Pattern.Height)
	if p.Hang == nil {
		if len(hang.Positions(b, height)) == 0 {
			c.Status = Fail
		}
		if p.brief {
			return c
		}
		if c.Status == Fail {
			c.Text = quantity.Say("The arms' slots do not take holes %v apart, one above the other.", quantity.Wall(height))
		} else {
			c.Text = quantity.Say("The arms' slots take holes %v apart, one above the other.", quantity.Wall(height))
		}
		return c
	}
	reveal, known := p.Hang.Reveal()
	if !known {
		c.Status = Unknown
		c.Text = quantity.Say("The slots take the holes, but where the display's edges are is not known.")
		c.Remedy = quantity.Say("Measure the display's height, and from its top to the middle of the pattern.")
		return c
	}
	c.Measure = atLeast(reveal, p.Policy.Reveal, MM)
	c.Measure.Coarse = true
	if reveal < p.Policy.Reveal {
		c.Status = Caution
	}
	if p.brief {
		return c
	}
	least := quantity.Shown{Length: reveal, Bound: quantity.Down, Coarse: true}
	end := "bottom"
	if p.Hang.RevealTop.Value < p.Hang.RevealBottom.Value {
		end = "top"
	}
	switch {
	case reveal < 0:
		c.Text = quantity.Say("The arms stand out %v past the display's %v edge.", quantity.Shown{Length: -reveal, Bound: quantity.Up,
			Coarse: true}, end)
		c.Remedy = quantity.Say("Show the customer, or take a bracket with shorter arms.")
	case c.Status == Caution:
		c.Text = quantity.Say("The arms end only %v inside the display's %v edge.", least, end)
		c.Remedy = quantity.Say("Check that they do not show from where people stand.")
	default:
		c.Text = quantity.Say("The arms end %v inside the display's outline.", least)
	}
	return c
}
