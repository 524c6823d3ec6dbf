package tabular

import "testing"

// TestEveryFieldIsAColumn: what is offered leads somewhere, and the figures that once had to be put on a list by hand are offered.
func TestEveryFieldIsAColumn(t *testing.T) {
	for _, kind := range []string{Displays, Brackets, Kits} {
		seen := map[string]bool{}
		for _, column := range Fields(kind) {
			if _, ok := places(kind, column); !ok && column != pattern {
				t.Errorf("%s: %s leads nowhere", kind, column)
			}
			if seen[column] {
				t.Errorf("%s: %s is offered twice", kind, column)
			}
			seen[column] = true
		}
		for _, column := range map[string][]string{
			Displays: {"id", "cg_right_mm", "cg_above_center_mm", "turns_deg", "pattern1.torque_max_nm", "pattern1.bottom.recess_mm",
				"zone1.clear_mm", "zone1.cable_bend_mm", "zone1.fixed_cable_mm", "zone1.depth_mm"},
			Brackets: {"rated_moment_nm", "wall_plate.width_mm", "wall_plate.hook_above_datum_mm", "tilt_hold_nm", "lock.access"},
			Kits:     {"bracket", "embedment_min_mm", "edge_min_mm", "spacing_min_mm", "drill_mm"},
		}[kind] {
			if !seen[column] {
				t.Errorf("%s: %s is not offered", kind, column)
			}
		}
	}
}
