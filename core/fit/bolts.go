package fit

import (
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// BoltsRule: every arm carries its bolts, one at each end of each row that the
// bracket uses; a fixed plate has four, three are a caution (practice).
const BoltsRule RuleID = "bolts"

var boltsRule = pairingRule{About: About{ID: BoltsRule, Never: map[Status]string{Note: noNote}, Name: "Bolts per arm", Severity: 4,
	Step:  "bolt",
	Marks: []string{"back.pattern"}}, Judge: judgeBolts}

func judgeBolts(p *Pairing, c *Check) {
	if p.Pattern == nil {
		c.is(Unknown, func() { c.say("Whether every arm has its bolts depends on the hole pattern.") })
		return
	}
	plate := p.Bracket.Interface.Type == catalog.Plate
	lacks, want := p.corners()
	have := want - lacks.count()
	c.Measure = atLeast(int64(have)*int64(quantity.One), int64(want)*int64(quantity.One), Holes)
	switch {
	case have == want && plate:
		c.words(func() { c.say("The plate is bolted at all four corners.") })
	case have == want:
		c.words(func() { c.say("Both arms have a bolt in every row that the bracket uses.") })
	case plate:
		c.Status = Fail
		if have == want-1 {
			c.Status = Caution
		}
		c.words(func() {
			c.say("The plate is bolted at %v of its four corners: there is no hole %v.", have, lacks.String())
			c.advise("Take a bracket with arms that reach the other holes, or another pattern of the display.")
		})
	default:
		c.is(Fail, func() {
			c.say("An arm would hang on too few bolts: there is no hole %v.", lacks.String())
			c.advise("Take a bracket that bolts to the holes there are.")
		})
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

// cornerHoles is which corners of a pattern, as hung, have a hole: top and
// bottom, left and right; and whether it is a single row.
type cornerHoles struct {
	hole fourCorners
	flat bool
}

func cornersOf(pattern *catalog.Pattern, turn catalog.Turn) cornerHoles {
	w, h := turn.Size(pattern.Width, pattern.Height)
	out := cornerHoles{flat: h <= 0}
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
