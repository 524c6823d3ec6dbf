package main

import (
	"fmt"
	"math/rand/v2"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// scenario is made up: flat displays with four equal holes, and brackets of
// slotted arms with bolts and one kind of washer for each thread.
type scenario struct {
	displays []*catalog.Display
	brackets []*catalog.Bracket
}

func invent(displays, brackets int) *scenario {
	r := rand.New(rand.NewPCG(1, 2))
	s := &scenario{}
	mm := quantity.MM
	for i := range displays {
		d, _ := catalogtest.Pair()
		d.ID = fmt.Sprint("d", i)
		size := []int64{100, 200, 300, 400, 600}
		d.Patterns[0] = catalogtest.Pattern(size[r.IntN(5)], size[r.IntN(4)], fastener.Threads[r.IntN(4)], 6+r.Int64N(30))
		d.Mass = catalogtest.Mass(3000 + r.Int64N(50_000))
		d.Diagonal = catalogtest.Length(500 + r.Int64N(1600))
		s.displays = append(s.displays, d)
	}
	for i := range brackets {
		_, b := catalogtest.Pair()
		b.ID = fmt.Sprint("b", i)
		b.RatedLoad = catalogtest.Mass(10_000 + 1000*r.Int64N(50))
		b.DiagonalMin.Known, b.DiagonalMax = false, catalogtest.Length(700+100*r.Int64N(14))
		b.Interface.WidthMin, b.Interface.WidthMax = quantity.Some(mm(100*(1+r.Int64N(2)))), quantity.Some(mm(200+100*r.Int64N(5)))
		b.Interface.Slots = nil
		at := 10 + r.Int64N(30)
		for range 2 + r.IntN(3) {
			long := 20 + r.Int64N(80)
			b.Interface.Slots = append(b.Interface.Slots, fastener.Interval{Min: mm(at), Max: mm(at + long)})
			at += long + 20 + r.Int64N(40)
		}
		b.Interface.ArmBottom = quantity.Some(mm(at))
		b.Threads = fastener.Threads[r.IntN(2) : 3+r.IntN(2)]
		b.Kit = nil
		for _, t := range fastener.Threads {
			std := t.Standard()
			b.Kit = append(b.Kit, catalog.Item{Kind: "washer", Thread: t, Thickness: std.LargeWasher.Thickness, Outer: std.LargeWasher.Outer,
				Count: 4 * (1 + r.IntN(3))})
			for _, l := range t.SuppliedLengths() {
				if r.IntN(4) == 0 {
					b.Kit = append(b.Kit, catalog.Item{Kind: "bolt", Thread: t, Length: l, Count: 4})
				}
			}
		}
		s.brackets = append(s.brackets, b)
	}
	return s
}
