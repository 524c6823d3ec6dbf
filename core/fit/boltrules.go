package fit

import (
	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// boltsCheck: every arm carries its bolts, one at each end of each row that the
// bracket uses; a fixed plate has four, three are a caution (practice).
func boltsCheck(p *Pairing) Check {
	c := Check{Rule: BoltsRule, Marks: patternMarks}
	if p.Pattern == nil {
		c.Status = Unknown
		c.Text = quantity.Say("Whether every arm has its bolts depends on the hole pattern.")
		return c
	}
	have, want, lacks := p.corners()
	c.Measure = atLeast(int64(have)*int64(quantity.One), int64(want)*int64(quantity.One), Holes)
	plate := p.Bracket.Interface.Type == catalog.Plate
	switch {
	case have == want:
	case plate && have == want-1:
		c.Status = Caution
	default:
		c.Status = Fail
	}
	switch {
	case p.brief:
	case c.Status == Pass && plate:
		c.Text = quantity.Say("The plate is bolted at all four corners.")
	case c.Status == Pass:
		c.Text = quantity.Say("Both arms have a bolt in every row that the bracket uses.")
	case plate:
		c.Text = quantity.Say("The plate is bolted at %v of its four corners: there is no hole %v.", have, list(lacks))
		c.Remedy = quantity.Say("Take a bracket with arms that reach the other holes, or another pattern of the display.")
	default:
		c.Text = quantity.Say("An arm would hang on too few bolts: there is no hole %v.", list(lacks))
		c.Remedy = quantity.Say("Take a bracket that bolts to the holes there are.")
	}
	return c
}

// corners counts the corner holes that a bracket bolts to, and names those that
// lack.
func (p *Pairing) corners() (have, want int, lacks []string) {
	plate := p.Bracket.Interface.Type == catalog.Plate
	for row, used := range [2]bool{p.Bracket.UsesTop(), p.Bracket.UsesBottom()} {
		if !used && !plate {
			continue
		}
		bolted := used && (row == 0 || !p.corner.flat) // of one row, the other is not there
		for side := range 2 {
			want++
			if p.corner.hole[row][side] && bolted {
				have++
			} else if !p.brief {
				lacks = append(lacks, "at the "+[2]string{"top", "bottom"}[row]+" "+[2]string{"left", "right"}[side])
			}
		}
	}
	return have, want, lacks
}

// cornered says which corners of a pattern, as it hangs, have a hole: top and
// bottom, left and right; and whether it is a single row.
type cornered struct {
	hole [2][2]bool
	flat bool
}

func cornersOf(pattern *catalog.Pattern, turn catalog.Turn) cornered {
	w, h := turn.Size(pattern.Width, pattern.Height)
	out := cornered{flat: h <= 0}
	for i := range pattern.Holes {
		at := turn.Of(catalog.Point{X: pattern.Holes[i].X, Y: pattern.Holes[i].Y})
		for row, y := range [2]quantity.Length{h, -h} {
			for side, x := range [2]quantity.Length{-w, w} {
				out.hole[row][side] = out.hole[row][side] || catalog.Half(at.X, x) && catalog.Half(at.Y, y)
			}
		}
	}
	return out
}

// turnCheck: the display's maker allows the way it hangs.
func turnCheck(p *Pairing) Check {
	c := Check{Rule: TurnRule, Marks: outlineMarks}
	allowed := len(p.Display.Turns) == 0
	for _, t := range p.Display.Turns {
		allowed = allowed || t == p.Turn
	}
	if !allowed {
		c.Status = Fail
	}
	switch {
	case p.brief:
	case !allowed:
		c.Text = quantity.Say("The display's maker does not allow it to hang %v.", hung(p.Turn))
		c.Remedy = quantity.Say("Hang it as its maker allows.")
	case len(p.Display.Turns) == 0:
		c.Text = quantity.Say("The display's maker says nothing of how it may be turned.")
	default:
		c.Text = quantity.Say("The display's maker allows it to hang %v.", hung(p.Turn))
	}
	return c
}

// hung is a turn in words.
func hung(t catalog.Turn) quantity.Phrase {
	if t == 0 {
		return quantity.Say("upright")
	}
	return quantity.Say("turned by %v°", int(t))
}
