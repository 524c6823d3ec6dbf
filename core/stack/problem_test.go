package stack

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

func mm(f float64) quantity.Length { return quantity.FromMM(f) }

func bolt(t fastener.Thread, l float64, n int) catalog.Item {
	return catalog.Item{Kind: "bolt", Thread: t, Length: mm(l), Count: n}
}

func washer(t fastener.Thread, thick, outer float64, n int) catalog.Item {
	return catalog.Item{Kind: "washer", Thread: t, Thickness: mm(thick), Outer: mm(outer), Count: n}
}

func spacer(l, outer float64, n int, t ...fastener.Thread) catalog.Item {
	return catalog.Item{Kind: "spacer", Threads: t, Length: mm(l), Outer: mm(outer), Count: n}
}

func shoulder(t fastener.Thread, thick float64, n int) catalog.Item {
	return catalog.Item{Kind: "shoulder_washer", Thread: t, Thickness: mm(thick), Count: n}
}

// row is two holes at a height with equal figures, tolerances of a data sheet.
func row(name string, y, b, r, cup, depth float64) Group {
	g := Group{Setback: mm(b), Recess: mm(r), ThreadDepth: mm(depth), DepthTolerance: mm(0.5)}
	if cup > 0 {
		g.RecessDiameter = quantity.Some(mm(cup))
	}
	if b > 0 {
		g.SetbackTolerance = mm(0.5)
	}
	if r > 0 {
		g.RecessTolerance = mm(0.5)
	}
	for i, side := range []string{"L", "R"} {
		g.Holes = append(g.Holes, catalog.Hole{ID: name + side, X: mm(float64(200*i - 100)), Y: mm(y)})
	}
	return g
}

// randomProblem is a small problem with anything in it that a real one has.
func randomProblem(r *rand.Rand) Problem {
	pick := func(of ...float64) float64 { return of[r.IntN(len(of))] }
	t := fastener.Threads[r.IntN(len(fastener.Threads))]
	p := Problem{
		Thread: t, PlateThickness: mm(pick(1.5, 2, 2.5, 3)), Slot: max(mm(pick(4.5, 6.6, 9)), t.Standard().ClearanceHole),
		Policy: catalog.DefaultPolicy(),
	}
	p.Policy.BoltSchool = catalog.BoltSchools[r.IntN(3)]
	p.Policy.MaxWashers = 1 + r.IntN(3)
	p.Policy.MaxStackedSpacers = r.IntN(3)
	p.Policy.StockSpacers = p.Policy.StockSpacers[:r.IntN(4)]
	p.Policy.ArmClearance = mm(pick(0, 0, 0, 2))
	if r.IntN(4) == 0 {
		p.HeadRoom = quantity.Some(mm(pick(6, 8, 10)))
	}
	groups := 1 + r.IntN(3)
	for i := range groups {
		g := row(fmt.Sprint(i), pick(-200, -100, 100, 200)+float64(i), pick(0, 0, 0, 3, 9, 12), pick(0, 0, 4, 8), pick(0, 13, 16, 18.5, 20, 25),
			pick(8, 10, 12, 14, 20))
		if r.IntN(3) == 0 {
			g.Holes = g.Holes[:1]
		}
		p.Groups = append(p.Groups, g)
	}
	if r.IntN(3) == 0 { // four corners with figures of their own
		p.Groups, p.Corners = nil, Corners{Known: true}
		for i := range 4 {
			b := pick(0, 0, 0.5, 1, 5)
			g := row(fmt.Sprint(i), float64(100-200*(i/2)), b, 0, 0, pick(10, 12, 14, 20))
			g.Holes = g.Holes[i%2 : i%2+1]
			at := len(p.Groups)
			for j := range p.Groups {
				if o := &p.Groups[j]; o.Setback == g.Setback && o.ThreadDepth == g.ThreadDepth {
					o.Holes, at = append(o.Holes, g.Holes...), j
				}
			}
			if at == len(p.Groups) {
				p.Groups = append(p.Groups, g)
			}
			p.Corners.Groups[i] = at
		}
		p.Policy.TwistMax = mm(pick(0.8, 5, 5))
	}
	for range 1 + r.IntN(5) {
		p.Kit = append(p.Kit, bolt(t, pick(10, 12, 16, 20, 25, 30, 40), 1+r.IntN(6)))
	}
	for range r.IntN(3) {
		p.Kit = append(p.Kit, washer(t, pick(0.8, 1, 1.6, 2), pick(9, 12, 18, 24), 1+r.IntN(9)))
	}
	for range r.IntN(4) {
		p.Kit = append(p.Kit, spacer(pick(3, 5, 10, 12.5, 20), pick(12, 15, 18, 22), 1+r.IntN(8), t))
	}
	if r.IntN(2) == 0 {
		p.Kit = append(p.Kit, shoulder(t, 2, 1+r.IntN(4)))
	}
	if r.IntN(3) == 0 {
		p.OwnParts = append(p.OwnParts, spacer(pick(5, 10, 7), 18, 1+r.IntN(4), t), bolt(t, pick(16, 22, 25), 2))
	}
	return p
}

// benchmarkProblem is the figure of the requirements: a kit of 16 bolts and 4
// spacers, two rows.
func benchmarkProblem() Problem {
	p := Problem{Thread: fastener.M6, PlateThickness: mm(2.5), Slot: mm(9), Policy: catalog.DefaultPolicy()}
	for i := range 16 {
		p.Kit = append(p.Kit, bolt(fastener.M6, float64(10+2*i), 4))
	}
	for _, l := range []float64{5, 10, 15, 20} {
		p.Kit = append(p.Kit, spacer(l, 18, 4, fastener.M6, fastener.M8))
	}
	p.Kit = append(p.Kit, washer(fastener.M6, 1.6, 18, 8), shoulder(fastener.M6, 2, 4))
	p.Groups = []Group{row("T", 100, 0, 0, 0, 14), row("B", -100, 9, 4, 13, 14)}
	return p
}

func BenchmarkSolve(b *testing.B) {
	p := benchmarkProblem()
	b.ReportAllocs()
	for b.Loop() {
		if Solve(p).Best == nil {
			b.Fatal("no stack")
		}
	}
}

// BenchmarkSolveSupplied has to go to the supply: the bag lacks every length.
func BenchmarkSolveSupplied(b *testing.B) {
	p := benchmarkProblem()
	p.Kit = p.Kit[12:]
	b.ReportAllocs()
	for b.Loop() {
		if Solve(p).Best == nil {
			b.Fatal("no stack")
		}
	}
}

// BenchmarkSolveFourGroups has four holes that all differ, and an empty bag.
func BenchmarkSolveFourGroups(b *testing.B) {
	p := benchmarkProblem()
	p.Kit = nil
	p.Groups = []Group{row("A", 100, 0, 0, 0, 14), row("B", -100, 9, 4, 13, 14), row("C", 300, 0, 4, 20, 15), row("D", -300, 8, 0, 0, 16)}
	b.ReportAllocs()
	for b.Loop() {
		if Solve(p).Best == nil {
			b.Fatal("no stack")
		}
	}
}
