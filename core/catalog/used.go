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

// Half reports whether a hole's place is half a pattern's size. Half of an odd
// number of nanometres (an odd number of 1/64 in) cannot be written, so one
// that is off by half a nanometre is it.
func Half(at, size quantity.Length) bool { return (2*at - size).Abs() <= quantity.Nanometre }
