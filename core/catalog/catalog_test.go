package catalog

import (
	"strings"
	"testing"

	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

var mm = quantity.MM

func TestTurn(t *testing.T) {
	p := Point{mm(3), mm(5)}
	if got := Turn(90).Of(p); got != (Point{mm(5), -mm(3)}) {
		t.Errorf("at 90° (x, y) goes to (y, −x), not %v", got)
	}
	if got := Turn(270).Of(Turn(90).Of(p)); got != p {
		t.Errorf("a quarter turn there and back gives %v", got)
	}
	four := p
	for range 4 {
		four = Turn(90).Of(four)
	}
	if four != p {
		t.Errorf("four quarter turns give %v", four)
	}
}

// eight is a pattern of eight holes, and a display 1000 × 600 with the
// pattern 50 right of and 20 below its middle.
func eight() (*Display, *Pattern) {
	d := &Display{Width: quantity.Some(mm(1000)), Height: quantity.Some(mm(600))}
	p := Pattern{Width: mm(400), Height: mm(200), CenterRight: mm(50), CenterBelowTop: quantity.Some(mm(320))}
	for i, x := range []int64{-200, -100, 100, 200} {
		for _, y := range []int64{100, -100} {
			p.Holes = append(p.Holes, Hole{ID: string(rune('a'+i)) + map[bool]string{true: "t", false: "b"}[y > 0], X: mm(x), Y: mm(y)})
		}
	}
	d.Patterns = []Pattern{p}
	return d, &d.Patterns[0]
}

func ids(holes []Hole) string {
	var all []string
	for _, h := range holes {
		all = append(all, h.ID)
	}
	return strings.Join(all, " ")
}

func TestUsedHoles(t *testing.T) {
	_, p := eight()
	arms := &Bracket{RowsUsed: []string{"top", "bottom"}, Interface: Interface{Type: Arms}}
	for _, c := range []struct {
		name string
		b    *Bracket
		turn Turn
		want string
	}{
		{"arms use the holes at ± width/2", arms, 0, "at ab dt db"},
		{"a plate uses all of the rows", &Bracket{RowsUsed: []string{"top", "bottom"}, Interface: Interface{Type: Plate}}, 0,
			"at ab bt bb ct cb dt db"},
		{"only the top row", &Bracket{RowsUsed: []string{"top"}, Interface: Interface{Type: Arms}}, 0, "at dt"},
		// Turned clockwise, what was left is at the top.
		{"turned, the left column is the top row", &Bracket{RowsUsed: []string{"top"}, Interface: Interface{Type: Arms}}, 90, "at ab"},
		{"turned the other way, the right column is", &Bracket{RowsUsed: []string{"top"}, Interface: Interface{Type: Arms}}, 270, "dt db"},
	} {
		if got := ids(p.Used(c.b, c.turn)); got != c.want {
			t.Errorf("%s: %q, want %q", c.name, got, c.want)
		}
	}
}

func TestPatternCenter(t *testing.T) {
	d, p := eight()
	for _, c := range []struct {
		turn Turn
		x, y int64
	}{{0, 50, -20}, {90, -20, -50}, {270, 20, 50}} {
		x, y := d.PatternCenter(p, c.turn)
		if !x.Known || !y.Known || x.Value != mm(c.x) || y.Value != mm(c.y) {
			t.Errorf("turned %d°: %v %v, want %d %d", c.turn, x, y, c.x, c.y)
		}
	}
	p.CenterBelowTop.Known = false
	if x, y := d.PatternCenter(p, 0); !x.Known || y.Known {
		t.Error("upright, only the vertical place is unknown")
	}
	if x, y := d.PatternCenter(p, 90); x.Known || !y.Known {
		t.Error("turned, only the horizontal place is unknown")
	}
	if w, h, ok := d.Outline(90); !ok || w != mm(600) || h != mm(1000) {
		t.Error(w, h, ok)
	}
}

func TestOriginTolerance(t *testing.T) {
	for o, want := range map[Origin]quantity.Length{Bench: mm(1) / 5, Sheet: mm(1) / 2, Caller: mm(3) / 2} {
		if got := Given(mm(4), o).Tolerance(); got != want {
			t.Errorf("%s: %s, want %s", o, got, want)
		}
		if Given(0, o).Tolerance() != 0 || (Figure{Origin: o}).Tolerance() != 0 {
			t.Errorf("%s: a flat back has no step to be wrong about", o)
		}
	}
}

func TestSlotWidth(t *testing.T) {
	b := &Bracket{Threads: []fastener.Thread{fastener.M4, fastener.M6}}
	if got := b.Slot(); got != 6_600_000 {
		t.Errorf("the clearance hole of M6 is 6.6 mm, not %s", got)
	}
	b.SlotWidth = quantity.Some(mm(9))
	if b.Slot() != mm(9) {
		t.Error("a given slot width counts")
	}
}

func TestSettings(t *testing.T) {
	s := Setting{Field: "depth_mm", Below: quantity.Some(quantity.Inch * 2)}
	thin := &Display{Depth: quantity.Some(2*quantity.Inch - 1)}
	if !s.Applies(thin) || s.Applies(&Display{Depth: quantity.Some(2 * quantity.Inch)}) || s.Applies(&Display{}) {
		t.Error("a setting is due below its limit, and not when the figure is missing")
	}
	s = Setting{Field: "diagonal_mm", AtOrAbove: quantity.Some(mm(1000))}
	if !s.Applies(&Display{Diagonal: quantity.Some(mm(1000))}) || s.Applies(thin) {
		t.Error("at or above")
	}
}

// TestValidate: what is refused of each noun, and with which path.
func TestValidate(t *testing.T) {
	square := func(change func(*Pattern)) *Display {
		p := Pattern{Width: mm(200), Height: mm(200), Thread: fastener.M6, Holes: []Hole{
			{ID: "TL", X: -mm(100), Y: mm(100)}, {ID: "BR", X: mm(100), Y: -mm(100)}}}
		p.Given = make([]GivenHole, 2)
		change(&p)
		return &Display{Patterns: []Pattern{p}}
	}
	bracket := func(change func(*Bracket)) *Bracket {
		b := &Bracket{Turns: []Turn{0}, Threads: []fastener.Thread{fastener.M6},
			Interface: Interface{Type: Arms, WidthMin: quantity.Some(mm(100)),
				WidthMax: quantity.Some(mm(600)), ArmTop: quantity.Some(mm(10)), ArmBottom: quantity.Some(mm(400)),
				Slots: []fastener.Interval{{Min: mm(20), Max: mm(70)}}},
			WallPlate: &WallPlate{Holes: []PlateHole{{ID: "T1", Shape: "slot_h", Travel: mm(40)}, {ID: "T2", Shape: "round", X: mm(5)}}}}
		change(b)
		return b
	}
	for _, c := range []struct {
		path string
		got  []Problem
	}{
		{"", square(func(*Pattern) {}).Validate()},
		{"patterns[0].width_mm", square(func(p *Pattern) { p.Width = mm(300) }).Validate()},
		{"patterns[0].height_mm", square(func(p *Pattern) { p.Height = mm(100) }).Validate()},
		// Holes of ±100: 3 mm is what two callers' figures are off, 1.5 each.
		{"", square(func(p *Pattern) { p.Width, p.Height = mm(203), mm(197) }).Validate()},
		{"patterns[0].width_mm", square(func(p *Pattern) { p.Width = mm(203) + 1 }).Validate()},
		{"patterns[0].height_mm", square(func(p *Pattern) { p.Height = mm(197) - 1 }).Validate()},
		{"patterns[0].holes[1].id", square(func(p *Pattern) { p.Holes[1].ID = "TL" }).Validate()},
		{"patterns[0].holes[2]", square(func(p *Pattern) { p.Holes = append(p.Holes, Hole{ID: "X", X: mm(100), Y: -mm(100)}) }).Validate()},
		{"patterns[0].holes[0].recess_diameter_mm", square(func(p *Pattern) { p.Holes[0].RecessDiameter = Given(mm(6), Sheet) }).Validate()},
		{"patterns[0].height_mm", square(func(p *Pattern) { p.Given, p.Height = nil, 0 }).Validate()},
		{"", bracket(func(*Bracket) {}).Validate()},
		{"diagonal_max_mm", bracket(func(b *Bracket) {
			b.DiagonalMin, b.DiagonalMax = quantity.Some(mm(900)), quantity.Some(mm(800))
		}).Validate()},
		{"slot_width_mm", bracket(func(b *Bracket) { b.SlotWidth = quantity.Some(mm(5)) }).Validate()},
		{"turns_deg[1]", bracket(func(b *Bracket) { b.Turns = []Turn{0, 0} }).Validate()},
		{"threads[1]", bracket(func(b *Bracket) { b.Threads = append(b.Threads, fastener.M6) }).Validate()},
		{"interface.width_max_mm", bracket(func(b *Bracket) { b.Interface.WidthMin = quantity.Some(mm(700)) }).Validate()},
		{"interface.slots_mm[0]", bracket(func(b *Bracket) { b.Interface.Slots[0] = fastener.Interval{Min: mm(70), Max: mm(20)} }).Validate()},
		{"interface.slots_mm[0]", bracket(func(b *Bracket) { b.Interface.Slots[0].Max = mm(500) }).Validate()},
		{"interface.arm_bottom_mm", bracket(func(b *Bracket) {
			b.Interface.Slots, b.Interface.ArmBottom = []fastener.Interval{}, quantity.Some(-mm(20))
		}).Validate()},
		{"wall_plate.holes[1].id", bracket(func(b *Bracket) { b.WallPlate.Holes[1].ID = "T1" }).Validate()},
		{"wall_plate.holes[1]", bracket(func(b *Bracket) { b.WallPlate.Holes[1].X = 0 }).Validate()},
		{"wall_plate.holes[1].length_mm", bracket(func(b *Bracket) { b.WallPlate.Holes[1].Travel = mm(3) }).Validate()},
		{"wall_plate.separation_mm",
			bracket(func(b *Bracket) { b.WallPlate.SeparationRange = &fastener.Interval{Min: mm(2), Max: mm(1)} }).Validate()},
		{"kit[0].outer_mm", bracket(func(b *Bracket) {
			b.Kit = []Item{{Kind: "spacer", Threads: []fastener.Thread{fastener.M8}, Length: mm(10), Outer: mm(8)}}
		}).Validate()},
	} {
		var paths []string
		for _, p := range c.got {
			paths = append(paths, p.Path)
			if p.Found == "" || p.Allowed == "" {
				t.Errorf("%s does not say what was found or is allowed: %+v", c.path, p)
			}
		}
		if got := strings.Join(paths, " "); got != c.path {
			t.Errorf("problems at %q, want %q", got, c.path)
		}
	}
}
