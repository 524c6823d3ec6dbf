package fit

import (
	"cmp"
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/stack"
)

// MeasurementPriority is a figure of a display that is not measured on the bench, and how
// many of its pairings would be judged better if a measurement confirmed it,
// or cannot be judged without it.
type MeasurementPriority struct {
	Figure   string // its path in the exchange format, without the index of a hole
	Holes    []string
	Known    bool
	Pairings int
}

// MeasurementPriorities lists the figures of a display by how many pairings with
// the given brackets a measurement would settle. When the work is used up,
// brackets and figures are left out.
func MeasurementPriorities(d *catalog.Display, brackets []*catalog.Bracket, policy catalog.Policy, work *stack.Work) []MeasurementPriority {
	var before []Pairing
	for _, b := range brackets {
		p := Judge(d, b, 0, Extra{Work: work}, policy)
		if work.Exhausted() {
			break
		}
		before = append(before, p)
	}
	var out []MeasurementPriority
	count := func(w MeasurementPriority, settles func(*Pairing) bool) {
		for i := range before {
			if settles(&before[i]) {
				w.Pairings++
			}
		}
		if w.Pairings > 0 {
			out = append(out, w)
		}
	}
	// Missing figures leave verdicts open.
	for _, f := range []struct {
		name  string
		rule  RuleID
		known bool
	}{{"mass_kg", LoadRule, d.Mass.Known}, {"diagonal_mm", SizeRule, d.Diagonal.Known}} {
		if !f.known {
			count(MeasurementPriority{Figure: f.name}, func(p *Pairing) bool { return p.Check(f.rule).Status == Unknown && p.Bracket.AllowsTurn(0) })
		}
	}
	for _, f := range holeFigures {
		for _, holes := range holesByRow(d) {
			worth, sure := holes.without(d, f)
			if sure == nil {
				continue
			}
			count(worth, func(p *Pairing) bool {
				if p.Check("stack").Status == Unknown {
					return !worth.Known && stackHinges(p, f.name, worth.Holes)
				}
				if p.Stack == nil || !worth.Known {
					return false
				}
				if work.Exhausted() {
					return false
				}
				after := Judge(sure, p.Bracket, 0, Extra{Work: work}, policy)
				return !work.Exhausted() && after.Check("stack").Status < p.Check("stack").Status
			})
		}
	}
	slices.SortStableFunc(out, func(a, b MeasurementPriority) int { return cmp.Compare(b.Pairings, a.Pairings) })
	return out
}

type holeFigure struct {
	name  string
	field func(*catalog.Hole) *catalog.Figure
}

var holeFigures = []holeFigure{
	{"thread_depth_mm", func(h *catalog.Hole) *catalog.Figure { return &h.ThreadDepth }},
	{"recess_mm", func(h *catalog.Hole) *catalog.Figure { return &h.Recess }},
	{"recess_diameter_mm", func(h *catalog.Hole) *catalog.Figure { return &h.RecessDiameter }},
	{"setback_mm", func(h *catalog.Hole) *catalog.Figure { return &h.Setback }},
}

// row is a row of holes that are measured together.
type row struct {
	pattern int
	holes   []int
}

// holesByRow returns the rows of holes of each pattern.
func holesByRow(d *catalog.Display) []row {
	var out []row
	for i := range d.Patterns {
		for j, h := range d.Patterns[i].Holes {
			at := slices.IndexFunc(out, func(r row) bool { return r.pattern == i && d.Patterns[i].Holes[r.holes[0]].Y == h.Y })
			if at < 0 {
				out = append(out, row{i, []int{j}})
				continue
			}
			out[at].holes = append(out[at].holes, j)
		}
	}
	return out
}

// without returns the display as if a figure of the row had been measured on the
// bench; nil if it has been.
func (r row) without(d *catalog.Display, f holeFigure) (MeasurementPriority, *catalog.Display) {
	w := MeasurementPriority{Figure: f.name, Known: true}
	out := *d
	out.Patterns = slices.Clone(d.Patterns)
	p := &out.Patterns[r.pattern]
	p.Holes = slices.Clone(p.Holes)
	better := false
	for _, j := range r.holes {
		h := &p.Holes[j]
		figure := f.field(h)
		if len(h.Trials) > 0 {
			continue
		}
		w.Holes = append(w.Holes, h.ID)
		w.Known = w.Known && figure.Known
		if !figure.Known || figure.Tolerance() > catalog.Bench.Tolerance() {
			figure.Origin, better = catalog.Bench, true
		}
	}
	if !better {
		return w, nil
	}
	return w, &out
}

// stackHinges reports whether an unknown stack depends on a figure of some holes.
func stackHinges(p *Pairing, figure string, holes []string) bool {
	if p.Layout == nil {
		return false
	}
	waits := p.Layout.Missing.ThreadDepth
	if figure == "recess_diameter_mm" && waits == nil {
		waits = p.Layout.Missing.Cup
	} else if figure != "thread_depth_mm" {
		return false
	}
	return slices.ContainsFunc(holes, func(h string) bool { return slices.Contains(waits, h) })
}
