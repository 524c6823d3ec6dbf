package catalogtest

import (
	"fmt"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Many makes displays and brackets that differ in what matters.
func Many(displays, brackets int) ([]*catalog.Display, []*catalog.Bracket) {
	var ds []*catalog.Display
	var bs []*catalog.Bracket
	for i := range displays {
		d, _ := Pair()
		d.ID, d.Model = fmt.Sprint("d", i), fmt.Sprint("Display ", i)
		d.Mass = Mass(int64(4000 + 1700*(i%23)))
		d.Diagonal = Length(int64(600 + 61*(i%29)))
		size := []int64{100, 200, 300, 400}[i%4]
		d.Patterns[0] = Pattern(size, size, []fastener.Thread{fastener.M4, fastener.M6, fastener.M8}[i%3], int64(7+i%11))
		for j := 2; j < 4; j++ {
			d.Patterns[0].Holes[j].Setback = catalog.Given(mm(int64(i%5)*3), catalog.Sheet)
		}
		d.Zones = []catalog.Zone{{Kind: "port", X: mm(300), Width: mm(50), Height: mm(40),
			Plug: Length(int64(20 + i%40)), Setback: Length(int64(i % 20))}}
		ds = append(ds, d)
	}
	for i := range brackets {
		_, b := Pair()
		b.ID, b.Name = fmt.Sprint("b", i), fmt.Sprint("Bracket ", i)
		b.RatedLoad, b.DiagonalMin, b.DiagonalMax = Mass(int64(10000+3000*(i%15))), Length(850), Length(int64(900+90*(i%17)))
		b.Profile, b.TiltPivot = Length(52), &catalog.Pivot{BelowHook: Length(219), BehindArm: Length(18)}
		b.TiltDown, b.TiltUp = quantity.Some(quantity.Degree*quantity.Angle(i%15)), quantity.Some(quantity.Angle(0))
		b.Threads = fastener.Threads
		b.Kit = append(b.Kit, catalog.Item{Kind: "spacer", Threads: fastener.Threads, Length: mm(int64(5 + i%12)), Outer: mm(18), Count: 4},
			catalog.Item{Kind: "bolt", Thread: fastener.M6, Length: mm(int64(14 + i%20)), Count: 4})
		bs = append(bs, b)
	}
	return ds, bs
}

// Unlike gives each bracket a spacer of its own, so that no kit is like another.
func Unlike(brackets []*catalog.Bracket) {
	for i, b := range brackets {
		b.Kit = append(b.Kit, catalog.Item{Kind: "spacer", Threads: []fastener.Thread{fastener.M6, fastener.M8}, Outer: mm(18),
			Length: mm(3) + quantity.Length(i)*quantity.Millimetre/10, Count: 4})
	}
}

// Recessed gives each seventh display recessed holes, some without the recess's diameter, and rim offsets that a
// caller told.
func Recessed(displays []*catalog.Display) {
	for i := 3; i < len(displays); i += 7 {
		holes := displays[i].Patterns[0].Holes
		for j := range holes {
			holes[j].Recess = catalog.Given(mm(int64(3+i%8)), catalog.Sheet)
			holes[j].Setback.Origin = catalog.Caller
			if i%2 == 0 {
				holes[j].RecessDiameter = catalog.Given(mm(22), catalog.Sheet)
			}
		}
	}
}
