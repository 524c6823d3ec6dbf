package fit

import (
	"context"
	"testing"
	"time"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// TestOddImperialPattern: half of 11 13/64 in cannot be written in whole
// nanometres; its holes are found all the same.
func TestOddImperialPattern(t *testing.T) {
	d, b := catalogtest.Pair()
	odd := 11*quantity.Inch + 13*quantity.Inch/64
	if odd%2 == 0 {
		t.Fatal("not an odd number of nanometres")
	}
	x := &d.Patterns[0]
	x.Width, x.Height = odd, odd
	for i := range x.Holes {
		h := &x.Holes[i]
		h.X, h.Y = odd/2*sign(h.X), odd/2*sign(h.Y)
	}
	b.Interface.Slots[0].Min, b.Interface.Slots[0].Max = 0, mm(450)
	p := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy())
	for _, rule := range []RuleID{PatternRule, BoltsRule, ArmsRule} {
		if c := p.Check(rule); c.Status != Pass {
			t.Errorf("%s: %s %s", rule, c.Status, c.Text.In(quantity.Metric))
		}
	}
	if p.Stack == nil || len(p.Stack.Groups[0].Holes) != 4 {
		t.Errorf("%+v", p.Stack)
	}
}

func sign(l quantity.Length) quantity.Length {
	if l < 0 {
		return -1
	}
	return 1
}

// TestFitsIsEveryRule: what cannot be told of ports or protrusions is a
// condition.
func TestFitsIsEveryRule(t *testing.T) {
	d, b := catalogtest.Pair()
	b.Profile = some(52)
	if p := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy()); p.Verdict != Fits {
		t.Fatalf("%s: %v", p.Verdict, p.Findings)
	}
	d.Zones = []catalog.Zone{{Kind: "protrusion", X: mm(300), Width: mm(40), Height: mm(40)}} // how far it stands out is missing
	p := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy())
	if p.Verdict != FitsWithConditions || p.Check(ProtrusionRule).Status != Unknown || p.Cell().Rule() != ProtrusionRule {
		t.Errorf("%s, %v, %v", p.Verdict, p.Check(ProtrusionRule).Status, p.Cell())
	}
}

// TestTwoWallPlates: a plug between two plates has the wall behind it, one over
// the left plate has the plate's thickness less room.
func TestTwoWallPlates(t *testing.T) {
	d, b := catalogtest.Pair()
	b.Profile = some(52)
	b.WallPlate.Count, b.WallPlate.Width, b.WallPlate.Thickness = 2, some(100), some(3)
	for x, want := range map[int64]Status{0: Pass, -100: Fail, 100: Fail, 200: Pass} {
		d.Zones = []catalog.Zone{{Kind: "protrusion", X: mm(x), Y: mm(60), Width: mm(20), Height: mm(20), Plug: some(50)}}
		d.Zones[0].Kind = "port"
		b.Interface.ArmWidth = 1
		if c := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy()).plugsOver(); c != want {
			t.Errorf("at %d: %s, want %s", x, c, want)
		}
	}
	// A plate that was moved for its studs is where it was moved to.
	d.Zones = []catalog.Zone{{Kind: "port", X: mm(200), Y: mm(60), Width: mm(20), Height: mm(20), Plug: some(50)}}
	p := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy())
	for _, c := range p.JudgeAtPlates(p.OnWall(mm(100), []quantity.Length{mm(0), mm(200)})) {
		if c.Rule == PlugsRule && c.Status != Fail {
			t.Errorf("moved: %s", c.Text.In(quantity.Metric))
		}
	}
}

// plugsOver is the outcome for a plug of which the wall leaves 50 and a plate 49.
func (p Pairing) plugsOver() Status { return p.Check(PlugsRule).Status }

// TestHelpIsJudgedAgain: sending parts promises nothing while the mass is
// missing, and what is promised comes true.
func TestHelpIsJudgedAgain(t *testing.T) {
	d, b := catalogtest.Pair()
	b.Kit = b.Kit[1:] // no bolts
	p := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy())
	c := Improve(&p, nil)
	if c.Kind != "bolts" || c.Verdict != FitsWithConditions || len(c.Send) == 0 {
		t.Fatalf("%+v", c)
	}
	d.Mass.Known = false
	p = Judge(d, b, 0, Extra{}, catalog.DefaultPolicy())
	if c := Improve(&p, nil); c.Kind == "bolts" && c.Verdict != MissingData {
		t.Errorf("promises %s without a mass", c.Verdict)
	}
}

func TestZoneTags(t *testing.T) {
	if ZoneTag(11) == ZoneTag(1) {
		t.Error("the twelfth zone lights up the second")
	}
}

// TestTurnedTrapezoid: upright both arms have their holes, turned one has none.
func TestTurnedTrapezoid(t *testing.T) {
	d, b := catalogtest.Pair()
	x := &d.Patterns[0]
	for i := range x.Holes {
		if x.Holes[i].Y < 0 {
			x.Holes[i].X = x.Holes[i].X * 3 / 4
		}
	}
	b.RowsUsed = []string{"top"}
	if p := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy()); p.Check(BoltsRule).Status != Pass {
		t.Errorf("upright: %s", p.Check(BoltsRule).Text.In(quantity.Metric))
	}
	if p := Judge(d, b, 90, Extra{}, catalog.DefaultPolicy()); p.Check(BoltsRule).Status != Fail {
		t.Errorf("turned: %s", p.Check(BoltsRule).Text.In(quantity.Metric))
	}
}

// TestCoverStops: the choice ends when its context does, and many equal
// brackets are no work.
func TestCoverStops(t *testing.T) {
	rows := make([]Row, 2000)
	for i := range rows {
		rows[i] = Row{i, make([]Cell, 400)}
		for j := range rows[i].Cells {
			rows[i].Cells[j] = cellOf(DoesNotFit)
			if (i*7+j*13)%11 < 2 {
				rows[i].Cells[j] = cellOf(Fits)
			}
		}
	}
	ctx, stop := context.WithTimeout(t.Context(), time.Nanosecond)
	defer stop()
	<-ctx.Done()
	if _, _, err := Cover(ctx, rows, 400); err == nil {
		t.Error("it went on after its context had ended")
	}
	if chosen, _, err := Cover(t.Context(), rows, 400); err != nil || len(chosen) != 3 {
		t.Error(chosen, err)
	}
}

// BenchmarkCover is the coverage of 2,000 displays by 400 brackets.
func BenchmarkCover(b *testing.B) {
	rows := make([]Row, 2000)
	seed := uint32(1)
	for i := range rows {
		rows[i] = Row{i, make([]Cell, 400)}
		for j := range rows[i].Cells {
			seed = seed*1664525 + 1013904223
			rows[i].Cells[j] = cellOf(DoesNotFit)
			if seed>>24 < uint32(20+j%60) {
				rows[i].Cells[j] = cellOf(Fits)
			}
		}
	}
	for b.Loop() {
		if _, _, err := Cover(b.Context(), rows, 400); err != nil {
			b.Fatal(err)
		}
	}
}

// TestTwistedCorners: no two holes lean, but the four do not lie in one plane.
func TestTwistedCorners(t *testing.T) {
	d, b := catalogtest.Pair()
	d.Patterns[0].Holes[3].Setback = catalog.Given(mm(6), catalog.Bench)
	b.Kit = append(b.Kit, catalog.Item{Kind: catalog.Spacer, Threads: b.Threads, Length: mm(6), Outer: mm(18), Count: 4},
		catalog.Item{Kind: catalog.Bolt, Thread: d.Patterns[0].Thread, Length: mm(20), Count: 4})
	p := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy())
	if p.Stack == nil || p.Stack.Twist != 0 {
		t.Fatalf("with a spacer that levels it: %+v", p.Stack)
	}
	b.Kit[len(b.Kit)-2].Length = mm(8) // 2 mm too long
	b.Kit = b.Kit[:len(b.Kit):len(b.Kit)]
	policy := catalog.DefaultPolicy()
	policy.StockSpacers, policy.LeanOK = nil, 45*quantity.Degree
	p = Judge(d, b, 0, Extra{}, policy)
	if p.Stack == nil || p.Stack.Twist != mm(2) || p.Stack.Status != stack.Caution || p.Check(StackRule).Status != Caution {
		t.Errorf("twisted by 2 mm: %+v", p.Stack)
	}
	policy.TwistMax = mm(1)
	if p = Judge(d, b, 0, Extra{}, policy); p.Stack != nil || p.Check(StackRule).Status != Fail {
		t.Errorf("more than the policy allows: %+v", p.Stack)
	}
}
