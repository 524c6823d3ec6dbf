package fit

import (
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// boltsCheck: every arm carries its bolts, one at each end of each row that the
// bracket uses; a fixed plate has four, three are a caution (practice).
func boltsCheck(p *Pairing) (c Finding) {
	if p.Pattern == nil {
		c.Status = Unknown
		return c
	}
	lacks, want := p.corners()
	have := want - lacks.count()
	c.Measure = atLeast(int64(have)*int64(quantity.One), int64(want)*int64(quantity.One), Holes)
	switch {
	case have == want:
	case p.Bracket.Interface.Type == catalog.Plate && have == want-1:
		c.Status = Caution
	default:
		c.Status = Fail
	}
	return c
}

func boltsWords(p *Pairing, c *Check) {
	plate := p.Bracket.Interface.Type == catalog.Plate
	switch {
	case p.Pattern == nil:
		c.say("Whether every arm has its bolts depends on the hole pattern.")
	case c.Status == Pass && plate:
		c.say("The plate is bolted at all four corners.")
	case c.Status == Pass:
		c.say("Both arms have a bolt in every row that the bracket uses.")
	case plate:
		lacks, want := p.corners()
		c.say("The plate is bolted at %v of its four corners: there is no hole %v.", want-lacks.count(), lacks.String())
		c.advise("Take a bracket with arms that reach the other holes, or another pattern of the display.")
	default:
		lacks, _ := p.corners()
		c.say("An arm would hang on too few bolts: there is no hole %v.", lacks.String())
		c.advise("Take a bracket that bolts to the holes there are.")
	}
}

// fourCorners marks some of the corners of a pattern: top and bottom, left and right.
type fourCorners [2][2]bool

func (f fourCorners) count() (n int) {
	for _, row := range f {
		for _, is := range row {
			if is {
				n++
			}
		}
	}
	return n
}

// String lists them: "at the top left, at the bottom left".
func (f fourCorners) String() string {
	var all []string
	for row, sides := range f {
		for side, is := range sides {
			if is {
				all = append(all, "at the "+[2]string{"top", "bottom"}[row]+" "+[2]string{"left", "right"}[side])
			}
		}
	}
	return strings.Join(all, ", ")
}

// corners returns the corner holes that a bracket bolts to and the display lacks, and how many
// it bolts to.
func (p *Pairing) corners() (lacks fourCorners, want int) {
	plate := p.Bracket.Interface.Type == catalog.Plate
	for row, used := range [2]bool{p.Bracket.UsesTop(), p.Bracket.UsesBottom()} {
		if !used && !plate {
			continue
		}
		bolted := used && (row == 0 || !p.corner.flat) // a single row has no other
		for side := range 2 {
			want++
			lacks[row][side] = !p.corner.hole[row][side] || !bolted
		}
	}
	return lacks, want
}

// cornered is which corners of a pattern, as hung, have a hole: top and
// bottom, left and right; and whether it is a single row.
type cornered struct {
	hole fourCorners
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

// turnCheck: the display's maker allows the turn.
func turnCheck(p *Pairing) (c Finding) {
	if len(p.Display.Turns) > 0 && !slices.Contains(p.Display.Turns, p.Turn) {
		c.Status = Fail
	}
	return c
}

func turnWords(p *Pairing, c *Check) {
	switch {
	case c.Status == Fail:
		c.say("The display's maker does not allow it to hang %v.", hung(p.Turn))
		c.advise("Hang it as its maker allows.")
	case len(p.Display.Turns) == 0:
		c.say("The display's maker says nothing of how it may be turned.")
	default:
		c.say("The display's maker allows it to hang %v.", hung(p.Turn))
	}
}

// hung describes a turn.
func hung(t catalog.Turn) quantity.Phrase {
	if t == 0 {
		return quantity.Say("upright")
	}
	return quantity.Say("turned by %v°", int(t))
}
