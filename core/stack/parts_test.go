package stack

import (
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// TestWhichPartItIs: a part of a bag is that of a stack where every figure is that one's, and none where one is another.
func TestWhichPartItIs(t *testing.T) {
	h := HoleStack{Thread: fastener.M6, Bolt: mm(20), Head: catalog.PanHead, Threaded: mm(14), Washers: Washers{Count: 1,
		Thickness: mm(1.6), Outer: mm(18)},
		Shoulder: mm(3)}
	bolt := catalog.Item{Kind: catalog.Bolt, Thread: fastener.M6, Length: mm(20), ThreadLength: mm(14)}
	washer := catalog.Item{Kind: catalog.Washer, Thread: fastener.M6, Thickness: mm(1.6), Outer: mm(18)}
	shoulder := catalog.Item{Kind: catalog.ShoulderWasher, Thread: fastener.M6, Thickness: mm(3)}
	spacer := catalog.Item{Kind: catalog.Spacer, Threads: []fastener.Thread{fastener.M6}, Length: mm(10), Outer: mm(18)}
	is := map[string]func(i catalog.Item) bool{
		"bolt": func(i catalog.Item) bool { return h.IsBolt(&i) }, "washer": func(i catalog.Item) bool { return h.IsWasher(&i) },
		"shoulder": func(i catalog.Item) bool { return h.IsShoulder(&i) },
		"spacer":   func(i catalog.Item) bool { return h.IsSpacer(&i, Spacer{mm(10), mm(18)}) }}
	for name, i := range map[string]catalog.Item{"bolt": bolt, "washer": washer, "shoulder": shoulder, "spacer": spacer} {
		for of, matches := range is {
			if matches(i) != (of == name) {
				t.Errorf("a %s is a %s of it: %v", name, of, of != name)
			}
		}
	}
	said := bolt
	said.Head = catalog.PanHead
	if !is["bolt"](said) {
		t.Error("a pan head that is said")
	}
	for _, c := range []struct {
		of     string
		item   catalog.Item
		change func(i *catalog.Item)
	}{
		{"bolt", bolt, func(i *catalog.Item) { i.Thread = fastener.M8 }}, {"bolt", bolt, func(i *catalog.Item) { i.Length++ }},
		{"bolt", bolt, func(i *catalog.Item) { i.Head = catalog.Countersunk }}, {"bolt", bolt, func(i *catalog.Item) { i.ThreadLength++ }},
		{"washer", washer, func(i *catalog.Item) { i.Thread = fastener.M8 }}, {"washer", washer, func(i *catalog.Item) { i.Thickness++ }},
		{"washer", washer, func(i *catalog.Item) { i.Outer++ }},
		{"shoulder", shoulder, func(i *catalog.Item) { i.Thread = fastener.M5 }}, {"shoulder", shoulder, func(i *catalog.Item) { i.Thickness++ }},
		{"spacer", spacer, func(i *catalog.Item) { i.Threads = []fastener.Thread{fastener.M8} }},
		{"spacer", spacer, func(i *catalog.Item) { i.Length++ }}, {"spacer", spacer, func(i *catalog.Item) { i.Outer++ }},
	} {
		other := c.item
		c.change(&other)
		if is[c.of](other) {
			t.Errorf("another %s is taken for it: %+v", c.of, other)
		}
	}
	if h.Engagement = mm(7); h.Turns() != 7 { // M6 has a pitch of 1 mm
		t.Errorf("%v turns", h.Turns())
	}
	if (&HoleStack{Engagement: mm(7)}).Turns() != 0 {
		t.Error("a bolt of no thread turns")
	}
}

// TestPreferredSummaries: a stack before none, ok before a caution, fewer pieces to send, closer to the wall; equal ones are not better.
func TestPreferredSummaries(t *testing.T) {
	order := []Summary{{Found: true, Plane: mm(2)}, {Found: true, Plane: mm(3)}, {Found: true, Supplied: 1}, {Found: true, Supplied: 2},
		{Found: true, Status: Caution}, {}}
	for i := range order {
		for j := range order {
			if got := order[i].Better(&order[j]); got != (i < j) {
				t.Errorf("%+v before %+v: %v", order[i], order[j], got)
			}
		}
	}
	fine, doubtful := &Stack{Status: OK}, &Stack{Status: Caution}
	if !fine.Better(doubtful) || doubtful.Better(fine) || fine.Better(fine) || !fine.Better(nil) || (*Stack)(nil).Better(fine) ||
		(*Stack)(nil).Better(nil) {
		t.Error("a stack that is ok comes before a caution, and any before none")
	}
}

// TestOverAPocket: where nobody has said how far the rims are in front, they are as deep as the pocket that the plate passes over; what is
// on record stays, and so does the layout for other brackets.
func TestOverAPocket(t *testing.T) {
	f := &BoltLayout{Thread: fastener.M6, Groups: []Group{
		{Holes: []catalog.Hole{{ID: "a"}}, ThreadDepth: mm(12), SetbackUnsaid: true},
		{Holes: []catalog.Hole{{ID: "b"}}, ThreadDepth: mm(12), Setback: mm(2), SetbackTolerance: mm(0.2)}}}
	over := f.Over(Under{Pocket: InPocket, Depth: mm(6)}, 0)
	if a, b := over.Groups[0], over.Groups[1]; a.Setback != mm(6) || a.SetbackTolerance != catalog.Sheet.Tolerance() || a.SetbackUnsaid ||
		b.Setback != mm(2) || b.SetbackTolerance != mm(0.2) {
		t.Errorf("%+v, %+v", a, b)
	}
	if f.Groups[0].Setback != 0 || !f.Groups[0].SetbackUnsaid || f.Over(Under{}, 0) != f {
		t.Errorf("the layout itself has changed: %+v", f.Groups[0])
	}
	cup := Group{Recess: mm(3), RecessDiameter: quantity.Some(mm(24))}
	for wide, want := range map[quantity.Length]bool{mm(20): false, mm(20) - 1: true, 0: false} {
		if cup.takesIn(wide) != want {
			t.Errorf("a cup of 24 takes in an arm of %v: %v", wide, !want)
		}
	}
}
