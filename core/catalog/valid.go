package catalog

import (
	"fmt"

	"nexufix/core/quantity"
)

// Problem is a reason why a noun is invalid. Path is within the noun, with
// the names of the exchange format.
type Problem struct{ Path, Found, Allowed string }

type problems []Problem

func (p *problems) add(path, allowed, found string, args ...any) {
	*p = append(*p, Problem{path, fmt.Sprintf(found, args...), allowed})
}

// Validate returns the figures of the display that contradict each other. Merely
// odd figures are for the data rule, not an error.
func (d *Display) Validate() []Problem {
	var out problems
	for i := range d.Patterns {
		if p := &d.Patterns[i]; p.Rows != nil && p.Given != nil {
			out.add(fmt.Sprintf("patterns[%d].holes", i), "one of them", "rows and holes are both given")
		}
	}
	for i := range d.Patterns {
		d.Patterns[i].validate(&out, fmt.Sprintf("patterns[%d]", i))
	}
	validateItems(&out, "own_parts", d.OwnParts)
	return out
}

func (p *Pattern) validate(out *problems, at string) {
	var wide, high quantity.Length
	seen, places := map[string]bool{}, map[Point]bool{}
	for j, h := range p.Holes {
		path := at + "." + p.HolePath(j)
		if p.ByRows() {
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
	if p.ByRows() {
		if p.Height == 0 {
			out.add(at+".height_mm", "more than 0 for two rows; give single holes otherwise", "0 mm")
		}
		return
	}
	if (wide - p.Width).Abs() > 2*Near {
		out.add(at+".width_mm", fmt.Sprintf("the width of its holes, %s", wide), "%s", p.Width)
	}
	if (high - p.Height).Abs() > 2*Near {
		out.add(at+".height_mm", fmt.Sprintf("the height of its holes, %s", high), "%s", p.Height)
	}
}

// Validate returns the figures of the bracket that contradict each other.
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
	if b.TiltHold.Known && b.Slip.Known {
		out.add("slip_nm", "one of them", "slip_nm and tilt_hold_nm are both given")
	}
	if b.WallPlate != nil {
		b.WallPlate.validate(&out)
	}
	validateItems(&out, "kit", b.Kit)
	b.validateAssembly(&out)
	b.validateTranslations(&out)
	for n, i := range b.Kit {
		widest := quantity.Length(0)
		for _, t := range i.Threads {
			widest = max(widest, t.Standard().Nominal)
		}
		if i.Kind == Spacer && i.Outer != 0 && i.Outer <= widest {
			out.add(fmt.Sprintf("kit[%d].outer_mm", n), "more than the threads it passes", "%s", i.Outer)
		}
	}
	return out
}

// validateItems checks that every line of a kit has the figures of its kind.
func validateItems(out *problems, at string, items []Item) {
	for n := range items {
		i := &items[n]
		need := func(name string, there bool) {
			if !there {
				out.add(fmt.Sprintf("%s[%d].%s", at, n, name), "what a "+i.Kind.String()+" has", "is missing")
			}
		}
		switch i.Kind {
		case Bolt:
			need("thread", i.Thread != 0)
			need("length_mm", i.Length != 0)
		case Washer, ShoulderWasher:
			need("thread", i.Thread != 0)
			need("thickness_mm", i.Thickness != 0)
		case Spacer:
			need("threads", i.Threads != nil)
			need("length_mm", i.Length != 0)
			need("outer_mm", i.Outer != 0)
		case Lag, Screw, Plug, SleeveAnchor, ConcreteScrew, FrameFixing:
			need("diameter_mm", i.Diameter != 0)
			need("length_mm", i.Length != 0)
		case PlainPart, Tool:
			need("name", i.Name != "")
		}
	}
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
	need := func(name string, there bool) {
		if !there {
			out.add("interface."+name, "what an interface of type "+i.Type+" needs", "is missing")
		}
	}
	if i.Type != Arms {
		need("patterns_mm", i.Patterns != nil)
		need("center_below_hook_mm", i.CenterBelowHook.Known)
		return
	}
	need("width_min_mm", i.WidthMin.Known)
	need("width_max_mm", i.WidthMax.Known)
	need("arm_top_mm", i.ArmTop.Known)
	need("arm_bottom_mm", i.ArmBottom.Known)
	need("slots_mm", i.Slots != nil)
	if i.WidthMin.Value > i.WidthMax.Value && i.WidthMax.Known {
		out.add("interface.width_max_mm", "at least width_min_mm", "%s", i.WidthMax.Value)
	}
	if !i.ArmTop.Known || !i.ArmBottom.Known {
		return
	}
	top, bottom := i.ArmTop.Value, i.ArmBottom.Value
	if top+bottom <= 0 {
		out.add("interface.arm_bottom_mm", "below the arm's top end", "%s", bottom)
	}
	for n, s := range i.Slots {
		at := fmt.Sprintf("interface.slots_mm[%d]", n)
		if s.Min > s.Max {
			out.add(at, "[upper end, lower end], not the other way round", "%s to %s", s.Min, s.Max)
		} else if s.Min < -top || s.Max > bottom {
			out.add(at, fmt.Sprintf("within the arm, %s to %s", -top, bottom), "%s to %s", s.Min, s.Max)
		}
	}
}

func (w *WallPlate) validate(out *problems) {
	if w.Separation != "" && w.SeparationRange != nil {
		out.add("wall_plate.separation", "one of them", "separation and separation_mm are both given")
	}
	if s := w.SeparationRange; s != nil && s.Min > s.Max {
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
