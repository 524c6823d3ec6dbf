package stack

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"nexufix/core/quantity"
)

// TestByHandAgreesWithTheSolver: what the solver chooses, put together by
// hand, has the same figures and the same status; a bolt too many steps longer
// or shorter is unsafe.
func TestByHandAgreesWithTheSolver(t *testing.T) {
	r := rand.New(rand.NewPCG(21, 22))
	checked := 0
	for range 3000 {
		p := randomProblem(r)
		best := Solve(p).Best
		if best == nil {
			continue
		}
		for _, g := range best.Groups {
			checked++
			hand := GivenParts{Bolt: g.Bolt, Head: g.Head, Threaded: g.Threaded, Washers: g.Washers, Shoulder: g.Shoulder, Spacers: g.Spacers}
			h, faults, err := p.JudgeGiven(g.Group, hand)
			if err != nil || h.Status != g.Status || (len(faults) > 0) != (g.Status == Caution) || fmt.Sprint(h) != fmt.Sprint(g) {
				t.Fatalf("%+v, %v, %v\n%+v", h, faults, err, g)
			}
			// Longer by all that is free and a millimetre: it bottoms.
			hand.Bolt = g.Bolt + g.Clearance + mm(1)
			if h, _, _ := p.JudgeGiven(g.Group, hand); h.Status != Unsafe || h.Clearance != -mm(1) {
				t.Fatalf("a bolt of %s in %+v is %s", hand.Bolt, g, h.Status)
			}
			// A longer bolt never gains clearance, a shorter one never
			// engagement.
			for _, by := range []quantity.Length{mm(1), mm(5)} {
				hand.Bolt = g.Bolt + by
				longer, _, _ := p.JudgeGiven(g.Group, hand)
				hand.Bolt = g.Bolt - by
				shorter, _, _ := p.JudgeGiven(g.Group, hand)
				if longer.ClearanceWorst >= g.ClearanceWorst || shorter.EngagementWorst >= g.EngagementWorst {
					t.Fatalf("%+v", g)
				}
			}
		}
	}
	if checked < 1500 {
		t.Errorf("only %d were checked", checked)
	}
}

func TestByHandFaults(t *testing.T) {
	good := GivenParts{Bolt: mm(16), Washers: Washers{1, mm(1.6), mm(18)}}
	with := func(change func(*GivenParts)) GivenParts {
		h := good
		change(&h)
		return h
	}
	for _, c := range []struct {
		name  string
		group Group
		hand  GivenParts
		want  string
	}{
		{"safe", row("T", 0, 0, 0, 0, 14), good, "ok []"},
		{"cracks the panel", row("T", 0, 0, 0, 0, 14), with(func(h *GivenParts) { h.Bolt = mm(20) }), "unsafe [{too_long 2.9 mm}]"}, // 15.9 of 13
		{"strips", row("T", 0, 0, 0, 0, 14), with(func(h *GivenParts) { h.Bolt = mm(10) }), "unsafe [{too_short 0.1 mm}]"},          // 5.9 of 6
		{"rocks", row("T", 0, 9, 0, 0, 14), good, "unsafe [{inside 9 mm}]"},
		{"jams", row("T", 0, 9, 4, 17, 14), with(func(h *GivenParts) { h.Bolt, h.Spacers = mm(30), []Spacer{{mm(10), mm(18)}} }),
			"unsafe [{jams 1 mm}]"},
		{"pulls through", row("T", 0, 0, 0, 0, 14), with(func(h *GivenParts) { h.Washers.Outer = mm(10) }), "unsafe [{pulls_through 2 mm}]"},
		{"drops into the cup", row("B", 0, 9, 4, 20, 14), with(func(h *GivenParts) { h.Bolt, h.Spacers = mm(30), []Spacer{{mm(10), mm(18)}} }),
			"unsafe [{too_long 2.9 mm} {inside 3 mm}]"},
		{"tolerances could undo it", row("T", 0, 0, 0, 0, 13), good, "caution [{free_doubtful 0.15 mm}]"},
		{"cup of unknown width", row("T", 0, 5, 2, 0, 14), with(func(h *GivenParts) { h.Bolt, h.Spacers = mm(25), []Spacer{{mm(10), mm(18)}} }),
			"caution [{cup_doubtful 0 mm}]"},
	} {
		p := benchmarkProblem()
		p.Groups = []Group{c.group}
		h, faults, err := p.JudgeGiven(0, c.hand)
		if got := fmt.Sprintf("%s %v", h.Status, faults); err != nil || got != c.want {
			t.Errorf("%s: %s, %v; want %s", c.name, got, err, c.want)
		}
	}
	p := benchmarkProblem()
	if _, _, err := p.JudgeGiven(7, good); err == nil {
		t.Error("a group that is not there was judged")
	}
	if _, _, err := p.JudgeGiven(0, with(func(h *GivenParts) { h.Spacers = make([]Spacer, 9) })); err == nil {
		t.Error("nine spacers were judged")
	}
}
