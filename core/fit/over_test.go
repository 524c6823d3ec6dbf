package fit

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fastener"
	"nexufix/core/hang"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// boxed is a display with a few things on its back, and a bracket whose arms can be moved, with some spacers and bolts in its bag.
func boxed(r *rand.Rand) (*catalog.Display, *catalog.Bracket) {
	d, b := catalogtest.Pair()
	mm := quantity.MM
	b.Interface.Slots = []fastener.Interval{{Min: mm(20), Max: mm(430)}}
	b.Interface.ArmBottom = quantity.Some(mm(300 + r.Int64N(150)))
	for range 1 + r.IntN(3) {
		z := catalog.Zone{Kind: []string{"protrusion", "port", "vent", "label"}[r.IntN(4)], X: mm(r.Int64N(400) - 200),
			Y:     mm(r.Int64N(560) - 280),
			Width: mm(20 + r.Int64N(160)), Height: mm(20 + r.Int64N(200))}
		some := quantity.Some(mm(r.Int64N(90)))
		switch z.Kind {
		case "protrusion":
			z.Out = some
		case "port":
			z.Plug, z.CableBend, z.Setback = some, quantity.Some(mm(r.Int64N(12))), quantity.Some(mm(r.Int64N(20)))
		case "vent":
			z.Clear = some
		}
		d.Zones = append(d.Zones, z)
	}
	for range r.IntN(3) {
		b.Kit = append(b.Kit, catalog.Item{Kind: catalog.Spacer, Threads: []fastener.Thread{fastener.M6}, Length: mm(5 * (1 + r.Int64N(6))),
			Outer: mm(18), Count: 4},
			catalog.Item{Kind: catalog.Bolt, Thread: fastener.M6, Length: mm([]int64{20, 25, 30, 35, 40}[r.IntN(5)]), Count: 4})
	}
	return d, b
}

// TestOverAgainstEnumeration: at every place of the arms in half millimetres, and at every one where a zone comes under an arm or leaves
// it, the stack is solved by itself for what lies under the arms there, worked out anew; no place among those that leave the reveal, or
// else among all, has a better stack than the answer, and the answer's own clearance is kept.
func TestOverAgainstEnumeration(t *testing.T) {
	r := rand.New(rand.NewPCG(141, 1))
	found, none, moved, spaced := 0, 0, 0, 0
	for n := range 400 {
		d, b := boxed(r)
		policy := catalog.DefaultPolicy()
		p := Judge(d, b, 0, Extra{}, policy)
		if p.Hang == nil {
			continue
		}
		best, some := oracle(d, b, &p, &policy, true)
		if !some {
			best, some = oracle(d, b, &p, &policy, false)
		}
		clear := true // what lies under an arm is cleared
		for i := range d.Zones {
			z := &d.Zones[i]
			if need := needOf(z); z.Kind != "label" && p.Stack != nil && p.Stack.Nearest < need &&
				under(d, b, &p.Display.Patterns[0], z, p.Hang.TopHoles) {
				clear = false
			}
		}
		switch {
		case !some:
			none++
			if p.Stack != nil && clear {
				t.Errorf("case %d: a stack clears everything, and enumeration finds none", n)
			}
			continue
		case p.Stack == nil || !clear:
			t.Errorf("case %d: enumeration clears everything: %s", n, best)
			continue
		}
		found++
		if got := describe(p.Stack); got != best {
			t.Errorf("case %d: %s, enumeration %s", n, got, best)
		}
		if p.over.StandsOut > 0 {
			spaced++
		}
		if base := Judge(bare(d), b, 0, Extra{}, policy); base.Hang.TopHoles != p.Hang.TopHoles {
			moved++
		}
	}
	t.Logf("%d found, %d none, %d moved, %d over something", found, none, moved, spaced)
	if found < 60 || none < 3 || moved < 10 || spaced < 10 {
		t.Error("the cases are too much alike")
	}
}

func bare(d *catalog.Display) *catalog.Display {
	out := *d
	out.Zones = nil
	return &out
}

// needOf is what a zone under an arm asks for, from the handbook's words.
func needOf(z *catalog.Zone) quantity.Length {
	switch z.Kind {
	case "protrusion":
		return z.Out.Value
	case "port":
		return max(0, z.Plug.Value+z.CableBend.Value-z.Setback.Value)
	case "vent":
		return z.Clear.Value
	}
	return 0
}

// under reports whether a zone lies under an arm with the top holes at a place; everything by hand, from the display's middle.
func under(d *catalog.Display, b *catalog.Bracket, pattern *catalog.Pattern, z *catalog.Zone, topHoles quantity.Length) bool {
	cy := d.Height.Value/2 - pattern.CenterBelowTop.Value
	hook := cy + pattern.Height/2 + topHoles
	top, bottom := hook+b.Interface.ArmTop.Value, hook-b.Interface.ArmBottom.Value
	if z.Y-z.Height/2 >= top || z.Y+z.Height/2 <= bottom {
		return false
	}
	for _, x := range [2]quantity.Length{-pattern.Width / 2, pattern.Width / 2} {
		if z.X-z.Width/2 < x+b.Interface.ArmWidth/2 && z.X+z.Width/2 > x-b.Interface.ArmWidth/2 {
			return true
		}
	}
	return false
}

func describe(s *stack.Stack) string {
	pieces := 0
	for _, x := range s.Supplied {
		pieces += x.Count
	}
	return fmt.Sprint(s.Status, pieces, s.Plane)
}

// oracle enumerates places of the arms.
func oracle(d *catalog.Display, b *catalog.Bracket, p *Pairing, policy *catalog.Policy, reveal bool) (best string, some bool) {
	pattern := &d.Patterns[0]
	var tries []quantity.Length
	for _, a := range hang.Positions(b, pattern.Height) {
		for y := a.Min; y <= a.Max; y += 500 * quantity.Micrometre {
			tries = append(tries, y)
		}
		tries = append(tries, a.Max)
	}
	tries = append(tries, Judge(bare(d), b, 0, Extra{}, *policy).Hang.TopHoles)
	solved := map[quantity.Length]*stack.Stack{}
	var chosen *stack.Stack
	for _, y := range tries {
		holds := func(a fastener.Interval) bool { return a.Holds(y) }
		if !slices.ContainsFunc(hang.Choices(d, pattern, b, 0, policy, reveal), holds) {
			continue
		}
		need := quantity.Length(0)
		for i := range d.Zones {
			if under(d, b, pattern, &d.Zones[i], y) {
				need = max(need, needOf(&d.Zones[i]))
			}
		}
		s, known := solved[need]
		if !known {
			layout := stack.NewBoltLayout(d, pattern, b, 0)
			problem := layout.Over(stack.Under{StandsOut: need}, b.Interface.ArmWidth).On(b, *policy)
			s = stack.Solve(problem).Best
			solved[need] = s
		}
		switch {
		case s == nil:
		case chosen == nil || s.Status < chosen.Status, s.Status == chosen.Status && less(s, chosen):
			chosen = s
		}
	}
	if chosen == nil {
		return "", false
	}
	return describe(chosen), true
}

func less(a, b *stack.Stack) bool {
	n, m := 0, 0
	for _, x := range a.Supplied {
		n += x.Count
	}
	for _, x := range b.Supplied {
		m += x.Count
	}
	return n < m || n == m && a.Plane < b.Plane
}

// TestAssumedHolds: what is assumed may be off as far as is said, and by a hair more the answer is another: each of them is put on record
// with the parts that were chosen, and judged by the same rules.
func TestAssumedHolds(t *testing.T) {
	d, b := catalogtest.Pair()
	for i := range d.Patterns[0].Holes {
		d.Patterns[0].Holes[i].Recess.Known = false
	}
	p := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy())
	found := map[string]Assumed{}
	for _, a := range p.Assumed() {
		found[a.Path] = a
	}
	recess := found["patterns[0].rows.top.recess_mm"]
	if recess.Holds != int64(quantity.MM(19)/10) {
		t.Fatalf("%+v", found)
	}
	g := p.Stack.Groups[0]
	for off, want := range map[quantity.Length]stack.Status{quantity.Length(recess.Holds): stack.OK,
		quantity.Length(recess.Holds) + quantity.Nanometre: stack.Unsafe} {
		problem := p.Problem()
		group := problem.Groups[0]
		group.Recess, group.RecessUnsaid = off, false
		problem.Groups = []stack.Group{group}
		h, faults, err := problem.JudgeGiven(0, stack.GivenParts{Bolt: g.Bolt, Washers: g.Washers, Spacers: g.Spacers})
		if err != nil || h.Status != want {
			t.Errorf("%s: %s, %v, %v", off, h.Status, faults, err)
		}
	}
	// Accessories: at the margin it still passes, a gram more is a caution.
	room := quantity.Mass(found["accessories_kg"].Holds)
	for extra, want := range map[quantity.Mass]Status{room: Pass, room + quantity.Gram: Caution} {
		again := Judge(d, b, 0, Extra{Accessories: extra}, catalog.DefaultPolicy())
		if got := again.Check(LoadRule).Status; got != want {
			t.Errorf("%s more: %s", extra, got)
		}
	}
	// The weight aside.
	aside := quantity.Length(found["cg_right_mm"].Holds)
	for off, want := range map[quantity.Length]Status{aside: Pass, aside + quantity.Micrometre: Caution} {
		other := *d
		other.CGRight = off
		again := Judge(&other, b, 0, Extra{}, catalog.DefaultPolicy())
		if got := again.Check(BalanceRule).Status; got != want {
			t.Errorf("%s aside: %s", off, got)
		}
	}
	// A plug in the middle of the wall plate, which is the worst place.
	plug := quantity.Length(found["zones"].Holds)
	for out, want := range map[quantity.Length]Status{plug: Pass, plug + quantity.Micrometre: Fail} {
		other := *d
		other.Zones = []catalog.Zone{{Kind: "port", Width: quantity.MM(20), Height: quantity.MM(20), Plug: quantity.Some(out)}}
		again := Judge(&other, b, 0, Extra{}, catalog.DefaultPolicy())
		if got := again.Check(PlugsRule).Status; got != want {
			t.Errorf("a plug of %s: %s", out, got)
		}
	}
}
