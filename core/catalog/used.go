package catalog

// Used lists the holes a bracket bolts to, with their positions as hung: the
// rows at ± height/2 that it uses, and of these, for arms, the ones at
// ± width/2. Width and height are the pattern's as hung.
func (p *Pattern) Used(b *Bracket, t Turn) []Hole {
	w, h := t.Size(p.Width, p.Height)
	var out []Hole
	for _, hole := range p.Holes {
		at := t.Of(Point{hole.X, hole.Y})
		hole.X, hole.Y = at.X, at.Y
		top := 2*at.Y == h && b.UsesTop
		bottom := 2*at.Y == -h && b.UsesBottom
		side := 2*at.X == w || 2*at.X == -w
		if (top || bottom) && (side || b.Interface.Type == Plate) {
			out = append(out, hole)
		}
	}
	return out
}
