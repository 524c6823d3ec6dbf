package exchange

import (
	"nexufix/core/catalog"
)

// shape is what is wrong with a display's way of writing, before it has
// become the catalogue's noun.
func (d *Display) shape() []catalog.Problem {
	var out []catalog.Problem
	for i := range d.Patterns {
		p := &d.Patterns[i]
		at := index("patterns", i)
		if p.Rows != nil && p.Holes != nil {
			out = append(out, catalog.Problem{Path: join(at, "holes"), Found: "rows and holes are both given", Allowed: "one of them"})
		}
	}
	return append(out, itemShapes("own_parts", d.OwnParts)...)
}

// shape is what is wrong with a bracket's way of writing.
func (b *Bracket) shape() []catalog.Problem {
	out := itemShapes("kit", b.Kit)
	if i := b.Interface; i != nil {
		missing := func(name string, is bool) {
			if is {
				out = append(out, catalog.Problem{Path: "interface." + name, Found: "is missing", Allowed: "what an interface of type " + i.Type +
					" needs"})
			}
		}
		if i.Type == catalog.Plate {
			missing("patterns_mm", i.Patterns == nil)
			missing("center_below_hook_mm", i.CenterBelowHook == nil)
		} else {
			missing("width_min_mm", i.WidthMin == nil)
			missing("width_max_mm", i.WidthMax == nil)
			missing("arm_top_mm", i.ArmTop == nil)
			missing("arm_bottom_mm", i.ArmBottom == nil)
			missing("slots_mm", i.Slots == nil)
		}
	}
	if b.TiltHold != nil && b.Slip != nil {
		out = append(out, catalog.Problem{Path: "slip_nm", Found: "slip_nm and tilt_hold_nm are both given", Allowed: "one of them"})
	}
	if w := b.WallPlate; w != nil && w.Separation != "" && w.SeparationMM != nil {
		out = append(out, catalog.Problem{Path: "wall_plate.separation", Found: "separation and separation_mm are both given",
			Allowed: "one of them"})
	}
	return out
}

// itemShapes checks that every line of a kit has the figures of its kind.
func itemShapes(at string, items []Item) []catalog.Problem {
	var out []catalog.Problem
	for n, i := range items {
		need := func(name string, missing bool) {
			if missing {
				out = append(out, catalog.Problem{Path: join(index(at, n), name), Found: "is missing", Allowed: "what a " + i.Kind.String() + " has"})
			}
		}
		switch i.Kind {
		case "bolt":
			need("thread", i.Thread == "")
			need("length_mm", i.Length == nil)
		case "washer":
			need("thread", i.Thread == "")
			need("thickness_mm", i.Thickness == nil)
		case "spacer":
			need("threads", i.Threads == nil)
			need("length_mm", i.Length == nil)
			need("outer_mm", i.Outer == nil)
		case "shoulder_washer":
			need("thread", i.Thread == "")
			need("thickness_mm", i.Thickness == nil)
		case catalog.Lag, catalog.Screw, catalog.Plug, catalog.SleeveAnchor, catalog.ConcreteScrew, catalog.FrameFixing:
			need("diameter_mm", i.Diameter == nil)
			need("length_mm", i.Length == nil)
		case "part", "tool":
			need("name", i.Name == "")
		}
	}
	return out
}
