package stack

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

type workedCase struct {
	Name, Thread, School, Status, Supplied, Alternative string
	Plate, Slot, Plane, Lean                            float64
	RecessTolerance                                     *float64 `json:"recess_tolerance"`
	Bolts, Washers, Shoulders, Spacers                  [][]float64
	Holes                                               []struct {
		Name                string
		Y, B, R, Cup, Depth float64
		Count               int
	}
	Groups []struct {
		Bearing        string
		Bolt, Shoulder float64
		Washers        int
		Spacers        []float64
		E, Ew, K, Kw   float64
	}
}

// TestWorkedCases are the cases of testdata/worked.json, done by hand and
// written out there.
func TestWorkedCases(t *testing.T) {
	raw, err := os.ReadFile("testdata/worked.json")
	if err != nil {
		t.Fatal(err)
	}
	var file struct{ Cases []workedCase }
	if err := json.Unmarshal(raw, &file); err != nil {
		t.Fatal(err)
	}
	if len(file.Cases) < 10 {
		t.Fatalf("only %d cases", len(file.Cases))
	}
	for _, c := range file.Cases {
		t.Run(c.Name, func(t *testing.T) { c.check(t) })
	}
}

func (c *workedCase) problem() Problem {
	thread, _ := fastener.ParseThread(c.Thread)
	p := Problem{Thread: thread, PlateThickness: mm(c.Plate), Slot: mm(c.Slot), Policy: catalog.DefaultPolicy()}
	if c.School != "" {
		p.Policy.BoltSchool = c.School
	}
	for _, b := range c.Bolts {
		p.Kit = append(p.Kit, bolt(thread, b[0], int(b[1])))
	}
	for _, w := range c.Washers {
		p.Kit = append(p.Kit, washer(thread, w[0], w[1], int(w[2])))
	}
	for _, s := range c.Shoulders {
		p.Kit = append(p.Kit, shoulder(thread, s[0], int(s[1])))
	}
	for _, s := range c.Spacers {
		p.Kit = append(p.Kit, spacer(s[0], s[1], int(s[2]), thread))
	}
	for _, h := range c.Holes {
		g := row(h.Name, h.Y, h.B, h.R, h.Cup, h.Depth)
		for i := 2; i < h.Count; i++ {
			g.Holes = append(g.Holes, catalog.Hole{ID: fmt.Sprint(h.Name, i), X: mm(float64(i)), Y: mm(h.Y - 50)})
		}
		if c.RecessTolerance != nil && h.R > 0 {
			g.RecessTolerance = mm(*c.RecessTolerance)
		}
		p.Groups = append(p.Groups, g)
	}
	return p
}

func supplyText(list []Supply) string {
	var all []string
	for _, s := range list {
		all = append(all, fmt.Sprintf("%d %s %s", s.Count, s.Kind, quantity.FormatDecimal(int64(s.Length), 6)))
	}
	return strings.Join(all, ", ")
}

func (c *workedCase) check(t *testing.T) {
	got := Solve(c.problem())
	if c.Status == "none" {
		if got.Best != nil {
			t.Fatalf("there is a stack: %+v", got.Best)
		}
		return
	}
	if got.Best == nil {
		t.Fatal("there is no stack")
	}
	best := got.Best
	if best.Status.String() != c.Status || best.Plane != mm(c.Plane) || supplyText(best.Supplied) != c.Supplied {
		t.Errorf("%s, plane %s, send %q; want %s, %g, %q", best.Status, best.Plane, supplyText(best.Supplied), c.Status, c.Plane, c.Supplied)
	}
	if math.Abs(best.Lean-c.Lean) > 0.0005 {
		t.Errorf("lean %g, want %g", best.Lean, c.Lean)
	}
	alternative := ""
	if got.Alternative != nil {
		alternative = supplyText(got.Alternative.Supplied)
	}
	if alternative != c.Alternative {
		t.Errorf("alternative %q, want %q", alternative, c.Alternative)
	}
	for i, want := range c.Groups {
		g := best.Groups[i]
		var spacers []quantity.Length
		for _, s := range want.Spacers {
			spacers = append(spacers, mm(s))
		}
		var have []quantity.Length
		for _, s := range g.Spacers {
			have = append(have, s.Length)
		}
		if g.Bearing.String() != want.Bearing || g.Bolt != mm(want.Bolt) || g.Washers.Count != want.Washers || g.Shoulder != mm(want.Shoulder) ||
			fmt.Sprint(have) != fmt.Sprint(spacers) {
			t.Errorf("group %d: %+v, want %+v", i, g, want)
		}
		if g.Engagement != mm(want.E) || g.EngagementWorst != mm(want.Ew) || g.Clearance != mm(want.K) || g.ClearanceWorst != mm(want.Kw) {
			t.Errorf("group %d: e %s, e- %s, k %s, k- %s; want %+v", i, g.Engagement, g.EngagementWorst, g.Clearance, g.ClearanceWorst, want)
		}
	}
}

// TestWhy: what stands in the way of a problem without a stack.
func TestWhy(t *testing.T) {
	base := func(change func(*Problem)) Problem {
		p := benchmarkProblem()
		change(&p)
		return p
	}
	for _, c := range []struct {
		want string
		p    Problem
	}{
		{Shallow, base(func(p *Problem) { p.Groups[0].ThreadDepth = mm(6.9) })},
		{TightHead, base(func(p *Problem) { p.HeadRoom = quantity.Some(mm(5)) })},
		{OddSpacer, base(func(p *Problem) { p.Kit, p.Policy.StockSpacers = p.Kit[:16], nil })},
		{NarrowDisc, base(func(p *Problem) { p.Slot = mm(30) })},
		{TooMuchLean, base(func(p *Problem) {
			p.Groups[0].Holes[0].Y, p.Groups[0].Holes[1].Y = mm(-60), mm(-60)
			p.Groups[1].Setback = mm(7.5)
			p.Policy.StockSpacers = []quantity.Length{mm(20)}
			p.Kit = p.Kit[:16]
			p.Kit = append(p.Kit, washer(fastener.M6, 1.6, 18, 8))
		})},
	} {
		if got := Solve(c.p).Best; got != nil {
			t.Errorf("%s: there is a stack", c.want)
		} else if why := Why(c.p); why.Kind != c.want {
			t.Errorf("%s: said to be %+v", c.want, why)
		}
	}
}

// TestSameAnswerEveryTime: the answer does not depend on the order of the bag.
func TestSameAnswerEveryTime(t *testing.T) {
	p := benchmarkProblem()
	first := fmt.Sprintf("%+v", Solve(p).Best)
	for range 20 {
		if again := fmt.Sprintf("%+v", Solve(p).Best); again != first {
			t.Fatalf("%s\n%s", first, again)
		}
	}
	for i, j := 0, len(p.Kit)-1; i < j; i, j = i+1, j-1 {
		p.Kit[i], p.Kit[j] = p.Kit[j], p.Kit[i]
	}
	if turned := fmt.Sprintf("%+v", Solve(p).Best); turned != first {
		t.Errorf("the bag the other way round: %s\n%s", first, turned)
	}
}

// TestOddSpacerHelps: over random problems without a stack, the spacer that is named is the shortest
// with which [Solve] finds one, and where none is named there is none.
func TestOddSpacerHelps(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 12))
	named := 0
	for n := 0; n < lots.Times(4000) || named < lots.Times(20); n++ {
		p := randomProblem(r)
		if Solve(p).Best != nil {
			continue
		}
		why := Why(p)
		if why.Kind != OddSpacer && why.Kind != Several {
			continue
		}
		wide := max(p.Policy.StockSpacerOuter, p.Slot+p.Policy.WasherOverlap)
		shortest := quantity.Length(0)
		var deepest quantity.Length
		for _, g := range p.Groups {
			deepest = max(deepest, g.Setback+g.Recess)
		}
		for l := mm(1); l <= min(deepest+mm(12), mm(longestOdd)) && shortest == 0; l += mm(1) {
			q := p
			q.Kit = append(slices.Clone(p.Kit),
				catalog.Item{Kind: catalog.Spacer, Threads: []fastener.Thread{p.Thread}, Length: l, Outer: wide, Count: 1})
			if Solve(q).Best != nil {
				shortest = l
			}
		}
		if why.Figure != shortest {
			t.Fatalf("case %d: a spacer of %v is named, %v would do\n%+v", n, why.Figure, shortest, p)
		}
		if shortest > 0 {
			named++
		}
	}
}
