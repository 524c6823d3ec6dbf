package catalog

import (
	"reflect"
	"slices"
	"strings"
)

// spokenNames are what people call the figures whose names in the format do not say it.
var spokenNames = map[string]string{
	"zones": "ports", "accessories_kg": "accessories", "cg_right_mm": "weight right of the middle",
	"cg_above_center_mm": "weight above the middle", "mass_kg": "mass without stand", "mass_with_stand_kg": "mass with stand",
	"recess_mm": "recess depth", "recess_diameter_mm": "recess Ø", "setback_mm": "rim offset",
	"center_below_top_mm": "centre below the top", "rest_plane_from_front_mm": "rest plane from the front", "center_mm": "centre",
	"center_right_mm": "right of the centre", "profile_mm": "wall to arms, closed", "reach_mm": "wall to arms, drawn out",
	"diagonal_min_mm": "diagonals from", "diagonal_max_mm": "diagonals up to", "width_min_mm": "patterns from, wide",
	"width_max_mm": "patterns up to, wide", "hook_above_datum_mm": "hook line above the datum",
	"center_below_hook_mm": "centre below the hook", "arm_top_mm": "arm above the hook line", "arm_bottom_mm": "arm below the hook line",
	"lift_over_mm": "lift over the hook", "fu_mpa": "strength of its steel", "gravity": "specific gravity of the wood",
	"aside_mm": "load aside", "x_mm": "across", "y_mm": "up", "steel_mm": "thickness of the steel", "cavity_mm": "cavity",
	"covering_mm": "covering", "covering_max_mm": "covering, at most", "edge_min_mm": "distance from an edge, at least",
	"embedment_min_mm": "embedment, at least", "penetration_min_mm": "depth in the wood, at least", "spacing_min_mm": "spacing, at least",
	"screw_min_mm": "screw, at least", "screw_max_mm": "screw, at most", "torque_max_nm": "torque, at most",
	"engagement_min_d": "thread engaged, at least", "engagement_worst_d": "thread engaged, worst case",
	"arm_touch_mm": "arms off the back", "tip_clearance_min_mm": "tip clearance, at least",
	"tip_clearance_worst_mm": "tip clearance, worst case", "twist_max_mm": "twist, at most", "twist_ok_mm": "twist that does not show",
	"max_washers": "washers on one bolt, at most", "max_stacked_spacers": "spacers on one bolt, at most",
	"stock_spacers_mm": "spacers in stock", "stock_spacer_outer_mm": "width of spacers in stock",
	"load_caution": "share of the load that cautions", "stud_find_mm": "how well studs are found",
	"two_people_diagonal_mm": "two people above a diagonal of", "reveal_mm": "arms inside the outline by",
	"handling_n": "people lean on it", "handling_public_n": "people lean on it, in public", "height_adjust_mm": "range of levelling",
	"below_hook_mm": "below the hook", "behind_arm_mm": "behind the arms", "hung_mass_kg": "mass hung on the display",
	"tilt_hold_nm": "tilt joint holds", "slip_nm": "ball slips at", "bottom_per_stud": "bottom holes a stud",
	"top_per_stud": "top holes a stud", "under_head_mm": "length under the head", "root_mm": "Ø of its root", "rule": "height rule",
	"drill_mm": "hole to drill", "plug_mm": "plug stands out", "lean_max_deg": "lean, at most", "lean_ok_deg": "lean that does not show",
	"size_school": "screen size over range", "at_or_above": "at or above", "for": "made for", "of": "English text", "at": "when",
	"out_mm": "stands out", "was": "what it was", "what": "what was changed",
}

// FigureName is what people call a figure or a part of a document, by its name in the format.
func FigureName(field string) string {
	if name, ok := spokenNames[field]; ok {
		return name
	}
	for _, unit := range []string{"_mm", "_kg", "_deg", "_nm", "_n"} {
		field = strings.TrimSuffix(field, unit)
	}
	return strings.ReplaceAll(field, "_", " ")
}

// Fields are the names in the format of everything in a display, a bracket, a job and a policy, in their order.
func Fields() []string {
	found, seen := map[string]bool{}, map[reflect.Type]bool{}
	var walk func(reflect.Type)
	walk = func(t reflect.Type) {
		for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice || t.Kind() == reflect.Array || t.Kind() == reflect.Map {
			t = t.Elem()
		}
		if t.Kind() != reflect.Struct || seen[t] {
			return
		}
		seen[t] = true
		for i := range t.NumField() {
			name, _, _ := strings.Cut(t.Field(i).Tag.Get("json"), ",")
			if name == "-" || name == "" && !t.Field(i).Anonymous {
				continue
			}
			if name != "" {
				found[name] = true
			}
			walk(t.Field(i).Type)
		}
	}
	for _, of := range []any{Display{}, Bracket{}, Job{}, Policy{}} {
		walk(reflect.TypeOf(of))
	}
	out := make([]string, 0, len(found))
	for name := range found {
		out = append(out, name)
	}
	slices.Sort(out)
	return out
}
