package catalog

import (
	"fmt"

	"nexufix/core/quantity"
)

// Problem is one thing that makes a noun invalid. Path is within the noun, in
// the names of the exchange format.
type Problem struct{ Path, Found, Allowed string }

type problems []Problem

func (p *problems) add(path, allowed, found string, args ...any) {
	*p = append(*p, Problem{path, fmt.Sprintf(found, args...), allowed})
}

// Validate says what figures of the display contradict each other. What is
// merely odd is for the data rule, not an error.
func (d *Display) Validate() []Problem {
	var out problems
	for i := range d.Patterns {
		d.Patterns[i].validate(&out, fmt.Sprintf("patterns[%d]", i))
	}
	return out
}

func (p *Pattern) validate(out *problems, at string) {
	var wide, high quantity.Length
	seen, places := map[string]bool{}, map[Point]bool{}
	for j, h := range p.Holes {
		path := fmt.Sprintf("%s.holes[%d]", at, j)
		if p.ByRows {
			path = at + ".rows." + map[bool]string{true: "top", false: "bottom"}[j < 2]
			if j%2 == 1 {
				continue // the row's other hole has the same figures
			}
		} else {
			if seen[h.ID] {
				out.add(path+".id", "each id once in a pattern", "%q stands twice", h.ID)
			}
			if places[Point{h.X, h.Y}] {
				out.add(path, "each hole in its own place", "another hole is at the same place")
			}
			seen[h.ID], places[Point{h.X, h.Y}] = true, true
		}
		if d := p.Thread.Standard().Nominal; h.RecessDiameter.Known && h.RecessDiameter.Length <= d {
			out.add(path+".recess_diameter_mm", "more than the thread's diameter", "%s", h.RecessDiameter.Length)
		}
		wide, high = max(wide, 2*h.X.Abs()), max(high, 2*h.Y.Abs())
	}
	if p.ByRows {
		if p.Height == 0 {
			out.add(at+".height_mm", "more than 0 for two rows; give single holes otherwise", "0 mm")
		}
		return
	}
	if (wide - p.Width).Abs() > quantity.Nanometre {
		out.add(at+".width_mm", fmt.Sprintf("the width of its holes, %s", wide), "%s", p.Width)
	}
	if (high - p.Height).Abs() > quantity.Nanometre {
		out.add(at+".height_mm", fmt.Sprintf("the height of its holes, %s", high), "%s", p.Height)
	}
}

// Validate says what figures of the bracket contradict each other.
func (b *Bracket) Validate() []Problem {
	var out problems
	if b.DiagonalMin.Known && b.DiagonalMax.Known && b.DiagonalMin.Value > b.DiagonalMax.Value {
		out.add("diagonal_max_mm", "at least diagonal_min_mm", "%s", b.DiagonalMax.Value)
	}
	for _, t := range b.Threads {
		if d := t.Standard().Nominal; b.SlotWidth.Known && b.SlotWidth.Value < d {
			out.add("slot_width_mm", fmt.Sprintf("at least %s, for %s", d, t), "%s", b.SlotWidth.Value)
			break
		}
	}
	unique(&out, "turns_deg", b.Turns)
	unique(&out, "threads", b.Threads)
	b.Interface.validate(&out)
	if b.WallPlate != nil {
		b.WallPlate.validate(&out)
	}
	for i, item := range b.Kit {
		if item.Kind == Spacer {
			d := quantity.Length(0)
			for _, t := range item.Threads {
				d = max(d, t.Standard().Nominal)
			}
			if item.Outer <= d {
				out.add(fmt.Sprintf("kit[%d].outer_mm", i), "more than the threads it passes", "%s", item.Outer)
			}
		}
	}
	return out
}

func unique[T comparable](out *problems, at string, list []T) {
	seen := map[T]bool{}
	for i, x := range list {
		if seen[x] {
			out.add(fmt.Sprintf("%s[%d]", at, i), "each once", "%v stands twice", x)
		}
		seen[x] = true
	}
}

func (i *Interface) validate(out *problems) {
	if i.Type != Arms {
		return
	}
	if i.WidthMin > i.WidthMax {
		out.add("interface.width_max_mm", "at least width_min_mm", "%s", i.WidthMax)
	}
	if i.ArmTop+i.ArmBottom <= 0 {
		out.add("interface.arm_bottom_mm", "below the arm's top end", "%s", i.ArmBottom)
	}
	for n, s := range i.Slots {
		at := fmt.Sprintf("interface.slots_mm[%d]", n)
		if s.Min > s.Max {
			out.add(at, "[upper end, lower end], not the other way round", "%s to %s", s.Min, s.Max)
		} else if s.Min < -i.ArmTop || s.Max > i.ArmBottom {
			out.add(at, fmt.Sprintf("within the arm, %s to %s", -i.ArmTop, i.ArmBottom), "%s to %s", s.Min, s.Max)
		}
	}
}

func (w *WallPlate) validate(out *problems) {
	if s := w.Separation; s != nil && s.Min > s.Max {
		out.add("wall_plate.separation_mm", "[smallest, largest]", "%s to %s", s.Min, s.Max)
	}
	ids, places := map[string]bool{}, map[Point]bool{}
	for n, h := range w.Holes {
		at := fmt.Sprintf("wall_plate.holes[%d]", n)
		if ids[h.ID] {
			out.add(at+".id", "each id once", "%q stands twice", h.ID)
		}
		if places[Point{h.X, h.Y}] {
			out.add(at, "each hole in its own place", "another hole is at the same place")
		}
		if h.Shape == "round" && h.Travel != 0 {
			out.add(at+".length_mm", "0 for a round hole", "%s", h.Travel)
		}
		ids[h.ID], places[Point{h.X, h.Y}] = true, true
	}
}
