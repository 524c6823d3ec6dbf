package sheet

import (
	"slices"

	"nexufix/core/drawing"
)

// note is lettering with its possible places, the best first.
type note struct {
	rank   rank
	tag    string
	text   drawing.Text
	places []drawing.Place
}

// rank is the priority of lettering. Names of lines and hints are left out
// if there is no room.
type rank int

const (
	ofPoint rank = iota // fastener and drill
	ofHole
	ofEdge
	ofLine // a line that is measured from
	help
)

func (r rank) spare() bool { return r == ofLine || r == help }

func (t *drill) note(r rank, tag string, text drawing.Text, places ...drawing.Place) {
	t.notes = append(t.notes, note{r, tag, text, places})
}

// write writes the lettering without overlaps.
func (t *drill) write() {
	slices.SortStableFunc(t.notes, func(a, b note) int { return int(a.rank - b.rank) })
	for _, n := range t.notes {
		n.text.Text = n.text.Text.For(t.Language)
		n.text = n.text.Measured()
		if places := slices.DeleteFunc(slices.Clone(n.places), func(p drawing.Place) bool {
			return !t.holds(n.text, p) || n.rank.spare() && t.covers(n.text, p) > 0
		}); len(places) > 0 {
			n.places = places
		} else if n.rank.spare() {
			continue
		}
		slices.SortStableFunc(n.places, func(a, b drawing.Place) int { return t.covers(n.text, a) - t.covers(n.text, b) })
		if n.rank.spare() {
			t.WriteIfFree(n.tag, n.text, n.places...)
		} else {
			t.Write(n.tag, n.text, n.places...)
		}
	}
}

// covers counts the marks that a text at a place would cover.
func (t *drill) covers(text drawing.Text, p drawing.Place) (n int) {
	text.At, text.Anchor = p.At, p.Anchor
	b := text.Box()
	for _, m := range t.marks {
		if m.Meets(b) {
			n++
		}
	}
	return n
}

// holds reports whether a text at a place fits on the sheet.
func (t *drill) holds(text drawing.Text, p drawing.Place) bool {
	text.At, text.Anchor = p.At, p.Anchor
	b := text.Box()
	return b.Min.X >= t.left && b.Max.X <= t.right && b.Min.Y >= t.bottom && b.Max.Y <= t.top
}

func at(x, y float64, a drawing.Anchor) drawing.Place {
	return drawing.Place{At: drawing.Point{X: x, Y: y}, Anchor: a}
}

// beside returns places on both sides of a vertical line, up and down from a height.
func (t *drill) beside(x, y, height float64) []drawing.Place {
	var out []drawing.Place
	for step := 0.0; step < t.top-t.bottom; step += 9 {
		for _, up := range []float64{y + step, y - step} {
			if up > t.bottom+2 && up < t.top-2 {
				out = append(out, at(x-1.4, up, drawing.Start), at(x+1.4+height, up, drawing.Start))
			}
		}
	}
	return append(out, at(x-1.4, y, drawing.Start))
}
