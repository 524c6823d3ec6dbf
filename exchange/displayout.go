package exchange

import (
	"encoding/json"
	"fmt"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

func mmOf(l quantity.Length) *MM {
	m := MM(l)
	return &m
}

// mmUnless is nil for the length that the format takes an absent field for.
func mmUnless(l, absent quantity.Length) *MM {
	if l == absent {
		return nil
	}
	return mmOf(l)
}

func mmOpt(o quantity.Optional[quantity.Length]) *MM {
	if !o.Known {
		return nil
	}
	return mmOf(o.Value)
}

func kgOpt(o quantity.Optional[quantity.Mass]) *KG {
	if !o.Known {
		return nil
	}
	k := KG(o.Value)
	return &k
}

func degOpt(o quantity.Optional[quantity.Angle]) *Deg {
	if !o.Known {
		return nil
	}
	d := Deg(o.Value)
	return &d
}

// Figures are the paths of the figures and words that a display gives, those of its
// holes aside, which have their origins with them.
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
		ID: d.ID, Maker: d.Maker, Model: d.Model, Aliases: d.Aliases,
		Diagonal: mmOpt(d.Diagonal), Width: mmOpt(d.Width), Height: mmOpt(d.Height), Depth: mmOpt(d.Depth),
		RestPlaneFromFront: mmOpt(d.RestPlaneFromFront), Mass: kgOpt(d.Mass), MassWithStand: kgOpt(d.MassWithStand),
		CGAbove: mmUnless(d.CGAboveCenter, 0), CGRight: mmUnless(d.CGRight, 0),
		OwnParts: itemsOf(d.OwnParts), Origins: map[string]string{},
	}
	for _, t := range d.Turns {
		out.Turns = append(out.Turns, int(t))
	}
	if d.Origin != catalog.Sheet {
		out.Origin = d.Origin.String()
	}
	for path, o := range d.Origins {
		out.Origins[path] = o.String()
	}
	for path, n := range d.Notes {
		if out.Notes == nil {
			out.Notes = map[string]Note{}
		}
		out.Notes[path] = Note(n)
	}
	for i := range d.Patterns {
		out.Patterns = append(out.Patterns, patternOf(d, i, out.Origins))
	}
	for _, z := range d.Zones {
		out.Zones = append(out.Zones, Zone{
			Kind: z.Kind, X: mmOf(z.X), Y: mmOf(z.Y), Width: mmOf(z.Width), Height: mmOf(z.Height),
			Plug: mmOpt(z.Plug), Setback: mmOpt(z.Setback), Out: mmOpt(z.Out),
			Clear: mmOpt(z.Clear), CableBend: mmOpt(z.CableBend), FixedCable: mmOpt(z.FixedCable), Connector: z.Connector,
		})
	}
	return out
}

func patternOf(d *catalog.Display, i int, origins map[string]string) Pattern {
	p := &d.Patterns[i]
	out := Pattern{
		Width: mmOf(p.Width), Height: mmOf(p.Height), Thread: p.Thread.String(),
		CenterBelowTop: mmOpt(p.CenterBelowTop), CenterRight: mmUnless(p.CenterRight, 0), TorqueMax: nmOpt(p.TorqueMax),
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
		out.Holes = append(out.Holes, Hole{h.ID, mmOf(h.X), mmOf(h.Y), f.Setback, f.Recess, f.RecessDiameter, f.ThreadDepth, f.Trials})
	}
	return out
}

// figuresOf writes a hole's figures, nil when there is nothing to write, and
// notes their origins.
func figuresOf(d *catalog.Display, h *catalog.Hole, at string, origins map[string]string) *HoleFigures {
	var f HoleFigures
	some := false
	put := func(to **MM, from catalog.Figure, name string, skipZero bool) {
		if !from.Known || skipZero && from.Length == 0 && from.Origin == d.Origin {
			return // what is not there has no origin
		}
		*to, some = mmOf(from.Length), true
		if from.Origin != d.Origin {
			origins[join(at, name)] = from.Origin.String()
		}
	}
	put(&f.Setback, h.Setback, "setback_mm", true)
	put(&f.Recess, h.Recess, "recess_mm", h.Trials == nil || h.ThreadDepth.Known)
	put(&f.RecessDiameter, h.RecessDiameter, "recess_diameter_mm", false)
	put(&f.ThreadDepth, h.ThreadDepth, "thread_depth_mm", false)
	for _, t := range h.Trials {
		trial := Trial{
			Thread: t.Thread.String(), Length: mmOf(t.Length), UnderHead: mmUnless(t.UnderHead, 0),
			Outcome: t.Outcome, Gap: mmOpt(t.Gap), Tolerance: mmOpt(t.Tolerance),
		}
		if t.Turns.Known {
			n := Num(t.Turns.Value)
			trial.Turns = &n
		}
		f.Trials, some = append(f.Trials, trial), true
	}
	if !some {
		return nil
	}
	return &f
}
