package exchange

import (
	"encoding/json"
	"fmt"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Figures returns the paths of the figures and words that a display gives, except for its
// holes, which carry their own origins.
func Figures(d *catalog.Display) ([]string, error) {
	raw, err := json.Marshal(DisplayOf(d))
	if err != nil {
		return nil, err
	}
	var problems Problems
	n := parseJSON(raw, &problems)
	if n == nil {
		return nil, problems
	}
	var out []string
	n.figures("", &out)
	return out, nil
}

func (n *node) figures(path string, out *[]string) {
	switch n.kind {
	case number, text:
		*out = append(*out, path)
	case list:
		for i := range n.items() {
			n.in.items[i].figures(index(path, i), out)
		}
	case object:
		for i, name := range n.names() {
			if name != "rows" && name != "holes" && name != "origins" && name != "notes" {
				n.in.items[i].figures(join(path, name), out)
			}
		}
	}
}

// DisplayOf writes a display in the format.
func DisplayOf(d *catalog.Display) Display {
	out := Display{
		ID: d.ID, Maker: d.Maker, Model: d.Model, Aliases: d.Aliases, Diagonal: d.Diagonal, Width: d.Width, Height: d.Height, Depth: d.Depth,
		RestPlaneFromFront: d.RestPlaneFromFront, Mass: d.Mass, MassWithStand: d.MassWithStand,
		CGAboveCenter: d.CGAboveCenter, CGRight: d.CGRight,
		Turns: d.Turns, OwnParts: d.OwnParts, Zones: d.Zones, Notes: d.Notes, Origins: map[string]string{},
	}
	if d.Origin != catalog.Sheet {
		out.Origin = d.Origin.String()
	}
	for path, o := range d.Origins {
		out.Origins[path] = o.String()
	}
	for i := range d.Patterns {
		out.Patterns = append(out.Patterns, patternOf(d, i, out.Origins))
	}
	return out
}

func patternOf(d *catalog.Display, i int, origins map[string]string) Pattern {
	p := &d.Patterns[i]
	out := Pattern{
		Width: p.Width, Height: p.Height, Thread: p.Thread, CenterBelowTop: p.CenterBelowTop, CenterRight: p.CenterRight, TorqueMax: p.TorqueMax,
	}
	at := index("patterns", i)
	if p.ByRows && len(p.Holes) == 4 {
		top := figuresOf(d, &p.Holes[0], join(at, "rows.top"), origins)
		bottom := figuresOf(d, &p.Holes[2], join(at, "rows.bottom"), origins)
		if top != nil || bottom != nil {
			out.Rows = &Rows{top, bottom}
		}
		return out
	}
	for j := range p.Holes {
		h := &p.Holes[j]
		f := figuresOf(d, h, fmt.Sprintf("%s.holes[%d]", at, j), origins)
		if f == nil {
			f = &HoleFigures{}
		}
		out.Holes = append(out.Holes, Hole{h.ID, h.X, h.Y, *f})
	}
	return out
}

// figuresOf writes a hole's figures (nil if there are none) and
// records their origins.
func figuresOf(d *catalog.Display, h *catalog.Hole, at string, origins map[string]string) *HoleFigures {
	var f HoleFigures
	some := false
	put := func(to *OptMM, from catalog.Figure, name string, skipZero bool) {
		if !from.Known || skipZero && from.Length == 0 && from.Origin == d.Origin {
			return // an absent figure has no origin
		}
		*to, some = quantity.Some(from.Length), true
		if from.Origin != d.Origin {
			origins[join(at, name)] = from.Origin.String()
		}
	}
	put(&f.Setback, h.Setback, "setback_mm", false)
	put(&f.Recess, h.Recess, "recess_mm", h.Trials != nil && h.ThreadDepth.Known)
	put(&f.RecessDiameter, h.RecessDiameter, "recess_diameter_mm", false)
	put(&f.ThreadDepth, h.ThreadDepth, "thread_depth_mm", false)
	f.Trials = h.Trials
	if !some && h.Trials == nil {
		return nil
	}
	return &f
}
