package catalogtest

import (
	"math/rand/v2"
	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Holes draws what a display's holes are, what is on its back, and what the bracket has for them.
func Holes(r *rand.Rand, d *catalog.Display, b *catalog.Bracket) {
	now := func(share float64) bool { return r.Float64() < share }
	of := func(all ...int64) int64 { return all[r.IntN(len(all))] }
	w, h, thread := of(100, 200, 200, 300, 400), of(100, 200, 200), []fastener.Thread{fastener.M4, fastener.M6, fastener.M6,
		fastener.M8}[r.IntN(4)]
	d.Patterns = []catalog.Pattern{Pattern(w, h, thread, of(6, 9, 12, 14, 20))}
	d.Origin = []catalog.Origin{catalog.Bench, catalog.Sheet, catalog.Caller}[r.IntN(3)]
	p := &d.Patterns[0]
	for i := range p.Holes {
		x := &p.Holes[i]
		if i == 0 || i == 2 { // a row is alike
			x.Setback = catalog.Given(mm(of(0, 0, 1, 4)), d.Origin)
			x.Recess = catalog.Given(mm(of(0, 0, 3, 8)), d.Origin)
			x.ThreadDepth.Origin = d.Origin
			if x.Recess.Length > 0 && now(0.8) {
				x.RecessDiameter = catalog.Given(mm(of(12, 20, 30)), d.Origin)
			}
			x.Recess.Known, x.Setback.Known = now(0.8), now(0.8)
			continue
		}
		x.Setback, x.Recess, x.RecessDiameter = p.Holes[i-1].Setback, p.Holes[i-1].Recess, p.Holes[i-1].RecessDiameter
	}
	if now(0.1) {
		p.Thread = 0
	}
	if now(0.1) {
		p.Holes = p.Holes[:3]
	}
	if now(0.05) {
		d.Patterns = nil
	}
	if now(0.3) {
		d.Zones = append(d.Zones, catalog.Zone{Kind: []string{"vent", "label", "protrusion", "pocket"}[r.IntN(4)], X: mm(of(0, 100, 130, 300)),
			Y: mm(of(-200, -35, 40, 65)), Width: mm(of(40, 300)), Height: mm(of(40, 280)), Out: quantity.Some(mm(of(3, 12, 30))),
			Clear: quantity.Some(mm(of(5, 20))), Depth: quantity.Some(mm(of(2, 6)))})
	}
	if now(0.5) {
		b.Kit = append(b.Kit, catalog.Item{Kind: catalog.Bolt, Thread: thread, Length: mm(of(10, 16, 25, 40)), Count: int(of(2, 4, 8))},
			catalog.Item{Kind: catalog.Washer, Thread: thread, Thickness: mm(1), Outer: mm(of(12, 18, 24)), Count: 8})
	}
	if now(0.3) {
		b.Kit = append(b.Kit, catalog.Item{Kind: catalog.Spacer, Threads: fastener.Threads, Length: mm(of(5, 12, 20)), Outer: mm(18), Count: 4})
	}
	if now(0.2) {
		b.Interface = catalog.Interface{Type: catalog.Plate, Patterns: []catalog.PatternSize{{Width: mm(200), Height: mm(200)}, {Width: mm(100),
			Height: mm(100)}}, Width: Length(of(120, 240)), Height: Length(220)}
	}
	b.Threads = [][]fastener.Thread{{fastener.M4, fastener.M6}, {fastener.M8}, fastener.Threads}[r.IntN(3)]
	b.RatedLoad = Mass(of(8000, 15000, 36000))
	if now(0.3) {
		b.RatedMoment = quantity.Some(quantity.Torque(of(5, 20, 60)) * quantity.NewtonMetre)
	}
	if now(0.3) {
		b.TiltHold = quantity.Some(quantity.Torque(of(2, 6)) * quantity.NewtonMetre)
	}
	d.Diagonal = Length(of(800, 1100, 1232, 1900))
	if now(0.2) {
		d.Turns = []catalog.Turn{0}
	}
}
