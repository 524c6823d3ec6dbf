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
func (p *Pairing) Sources(rule RuleID) []Source { return p.AppendSources(nil, rule) }

// AppendSources appends them.
func (p *Pairing) AppendSources(out []Source, rule RuleID) []Source {
	if uses := aboutOf(rule).Uses; uses != nil {
		return uses(p, out)
	}
	return out
}

func usesMass(p *Pairing, out []Source) []Source {
	return p.source(out, "mass_kg", p.Display.Mass.Known)
}
func usesDiagonal(p *Pairing, out []Source) []Source {
	return p.source(out, "diagonal_mm", p.Display.Diagonal.Known)
}
func usesHeight(p *Pairing, out []Source) []Source {
	return p.source(out, "height_mm", p.Display.Height.Known)
}
func usesWidth(p *Pairing, out []Source) []Source {
	return p.source(out, "width_mm", p.Display.Width.Known)
}

func (p *Pairing) source(out []Source, figure string, known bool) []Source {
	if known {
		out = append(out, Source{figure, p.Display.OriginOf(figure)})
	}
	return out
}

// zoneSources appends a figure of the zones that have it.
func (p *Pairing) zoneSources(out []Source, figure string, known func(*catalog.Zone) bool) []Source {
	for i := range p.Display.Zones {
		out = p.source(out, "zones["+strconv.Itoa(i)+"]."+figure, known(&p.Display.Zones[i]))
	}
	return out
}

// holeSources appends the figures of the holes that are bolted to.
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
