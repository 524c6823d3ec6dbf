package catalog

import "nexufix/core/quantity"

// Used lists the holes a bracket bolts to, with their positions as hung: the
// rows at ± height/2 that it uses, and of these, for arms, the ones at
// ± width/2. Width and height are the pattern's as hung.
func (p *Pattern) Used(b *Bracket, t Turn) []Hole {
	w, h := t.Size(p.Width, p.Height)
	var out []Hole
	for _, hole := range p.Holes {
		at := t.Of(Point{hole.X, hole.Y})
		hole.X, hole.Y = at.X, at.Y
		top := Half(at.Y, h) && b.UsesTop()
		bottom := Half(at.Y, -h) && b.UsesBottom()
		side := Half(at.X, w) || Half(at.X, -w)
		if (top || bottom) && (side || b.Interface.Type == Plate) {
			out = append(out, hole)
		}
	}
	return out
}

// Near is how far a hole may lie beside the corner of its pattern and still be the one that is meant: what a caller's tape is off.
// The data rule says so.
const Near = 3 * quantity.Millimetre / 2

// Half reports whether a hole's place is half a pattern's size.
func Half(at, size quantity.Length) bool { return (2*at - size).Abs() <= 2*Near }
