package catalog

import (
	"strings"
	"testing"

	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// TestLimitsOfValidity: what may just be, and a nanometre further. Arms reach from 10 above the hook to 400 below it.
func TestLimitsOfValidity(t *testing.T) {
	bracket := func(change func(*Bracket)) []Problem {
		b := &Bracket{Threads: []fastener.Thread{fastener.M6}, Interface: Interface{Type: Arms, WidthMin: quantity.Some(mm(100)),
			WidthMax: quantity.Some(mm(600)), ArmTop: quantity.Some(mm(10)), ArmBottom: quantity.Some(mm(400)),
			Slots: []fastener.Interval{{Min: mm(20), Max: mm(70)}}}}
		change(b)
		return b.Validate()
	}
	slot := func(lo, hi quantity.Length) func(b *Bracket) {
		return func(b *Bracket) { b.Interface.Slots = []fastener.Interval{{Min: lo, Max: hi}} }
	}
	display := func(change func(p *Pattern)) []Problem {
		d := Display{Patterns: []Pattern{{Width: mm(200), Height: mm(200), Thread: fastener.M6,
			Rows: &Rows{Top: &HoleFigures{}, Bottom: &HoleFigures{}}}}}
		change(&d.Patterns[0])
		d.Complete()
		return d.Validate()
	}
	cup := func(bottom bool, wide quantity.Length) func(p *Pattern) {
		return func(p *Pattern) { p.Rows.of(bottom).RecessDiameter = quantity.Some(wide) }
	}
	for _, c := range []struct {
		name, path string
		got        []Problem
	}{
		{"equal diagonals", "", bracket(func(b *Bracket) { b.DiagonalMin, b.DiagonalMax = quantity.Some(mm(900)), quantity.Some(mm(900)) })},
		{"diagonals crossed", "diagonal_max_mm", bracket(func(b *Bracket) {
			b.DiagonalMin, b.DiagonalMax = quantity.Some(mm(900)+1),
				quantity.Some(mm(900))
		})},
		{"no largest", "", bracket(func(b *Bracket) { b.DiagonalMin = quantity.Some(mm(900)) })},
		{"a slot that just takes the bolt", "", bracket(func(b *Bracket) { b.SlotWidth = quantity.Some(mm(6)) })},
		{"a slot that does not", "slot_width_mm", bracket(func(b *Bracket) { b.SlotWidth = quantity.Some(mm(6) - 1) })},
		{"a slot of one place", "", bracket(slot(mm(30), mm(30)))},
		{"a slot turned round", "interface.slots_mm[0]", bracket(slot(mm(30)+1, mm(30)))},
		{"a slot from end to end", "", bracket(slot(-mm(10), mm(400)))},
		{"a slot above the arm", "interface.slots_mm[0]", bracket(slot(-mm(10)-1, mm(400)))},
		{"a slot below the arm", "interface.slots_mm[0]", bracket(slot(-mm(10), mm(400)+1))},
		{"an arm", "", bracket(func(b *Bracket) { slot(-mm(10), -mm(10))(b); b.Interface.ArmBottom = quantity.Some(-mm(10) + 1) })},
		{"no arm", "interface.arm_bottom_mm", bracket(func(b *Bracket) {
			slot(-mm(10),
				-mm(10))(b)
			b.Interface.ArmBottom = quantity.Some(-mm(10))
		})},
		{"a cup wider than the bolt", "", display(cup(true, mm(6)+1))},
		{"a cup of the bolt", "patterns[0].rows.bottom.recess_diameter_mm", display(cup(true, mm(6)))},
		{"the same above", "patterns[0].rows.top.recess_diameter_mm", display(cup(false, mm(6)))},
		{"both rows and holes", "patterns[0].holes", display(func(p *Pattern) {
			p.Given = []GivenHole{{ID: "a", X: mm(100), Y: mm(100)}, {ID: "b", X: -mm(100), Y: -mm(100)}}
		})},
	} {
		var paths []string
		for _, p := range c.got {
			paths = append(paths, p.Path)
		}
		if got := strings.Join(paths, " "); got != c.path {
			t.Errorf("%s: problems at %q, want %q", c.name, got, c.path)
		}
	}
	for at, want := range map[quantity.Length]bool{mm(100): true, mm(100) + Near: true, mm(100) + Near + 1: false, mm(100) - Near: true,
		mm(100) - Near - 1: false} {
		if Half(at, mm(200)) != want {
			t.Errorf("%v is half of 200 mm: %v", at, !want)
		}
	}
}
