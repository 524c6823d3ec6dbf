package fit

import (
	"strconv"

	"nexufix/core/catalog"
)

// Source is a figure of the display that a rule used, and its
// origin.
type Source struct {
	Figure string // its name in the exchange format
	Origin catalog.Origin
}

// Sources lists the known figures of the display that a rule uses,
// with the least trusted origin if several holes have the figure.
func (p *Pairing) Sources(rule Rule) []Source { return p.AppendSources(nil, rule) }

// AppendSources appends them.
func (p *Pairing) AppendSources(out []Source, rule Rule) []Source {
	d := p.Display
	add := func(figure string, known bool) {
		if known {
			out = append(out, Source{figure, d.OriginOf(figure)})
		}
	}
	switch rule {
	case LoadRule:
		add("mass_kg", d.Mass.Known)
	case SizeRule:
		add("diagonal_mm", d.Diagonal.Known)
	case ArmsRule, TiltRule, PortsRule:
		add("height_mm", d.Height.Known)
	case SwivelRule:
		add("width_mm", d.Width.Known)
	case PlugsRule, ProtrusionRule:
		for i := range d.Zones {
			if z := &d.Zones[i]; rule == PlugsRule && z.Plug.Known {
				add(zoneFigure(i, "plug_mm"), true)
			} else if rule == ProtrusionRule && z.Out.Known {
				add(zoneFigure(i, "out_mm"), true)
			}
		}
	case StackRule:
		return p.holeSources(out)
	}
	return out
}

func zoneFigure(i int, name string) string { return "zones[" + strconv.Itoa(i) + "]." + name }

func (p *Pairing) holeSources(out []Source) []Source {
	if p.Layout == nil {
		return out
	}
	for _, f := range []struct {
		name  string
		field func(*catalog.Hole) *catalog.Figure
	}{
		{"thread_depth_mm", func(h *catalog.Hole) *catalog.Figure { return &h.ThreadDepth }},
		{"setback_mm", func(h *catalog.Hole) *catalog.Figure { return &h.Setback }},
		{"recess_mm", func(h *catalog.Hole) *catalog.Figure { return &h.Recess }},
		{"recess_diameter_mm", func(h *catalog.Hole) *catalog.Figure { return &h.RecessDiameter }},
	} {
		some := false
		var least catalog.Origin
		for _, g := range p.Layout.Groups {
			for i := range g.Holes {
				x := f.field(&g.Holes[i])
				if !x.Known || x.Length == 0 {
					continue
				}
				if !some || x.Origin.Tolerance() > least.Tolerance() {
					least, some = x.Origin, true
				}
			}
		}
		if some {
			out = append(out, Source{f.name, least})
		}
	}
	return out
}
