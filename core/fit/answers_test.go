package fit

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

// TestPairingsStayAsTheyAre: what is said of pairings drawn by lot is what testdata/answers.txt has (see [lots.SameAnswers]).
func TestPairingsStayAsTheyAre(t *testing.T) {
	r := rand.New(rand.NewPCG(29, 3))
	var out strings.Builder
	_, others := catalogtest.Many(1, 4)
	for n := range 250 {
		d, b, job, policy := catalogtest.Drawn(r)
		anyHoles(r, d, b)
		extra := ExtraOf(job)
		turn := []catalog.Turn{0, 0, 0, 90}[r.IntN(4)]
		p := Judge(d, b, turn, extra, policy)
		fmt.Fprintf(&out, "case %d: %s, %v, gave up %v\n", n, p.Verdict, p.Cell(), p.GaveUp)
		for _, c := range p.Words() {
			fmt.Fprintf(&out, "  %s %s %s: %s | %s | %v %v\n", c.Rule, c.Status, c.Measure.In(quantity.Imperial), c.Text.In(quantity.Metric),
				c.Remedy.In(quantity.Metric), c.Marks, p.Sources(c.Rule))
		}
		for _, a := range p.Assumed() {
			fmt.Fprintf(&out, "  assumed %s %d %d: %s\n", a.Path, a.Value, a.Holds, a.Text.In(quantity.Metric))
		}
		x := Improve(&p, others)
		fmt.Fprintf(&out, "  would help: %s %s: %s\n", x.Kind, x.Verdict, x.Text.In(quantity.Metric))
		m := p.Motion()
		fmt.Fprintf(&out, "  moves %.3f %.3f %.3f; blocked by %d\n", m.TiltDown.Value, m.TiltUp.Value, m.Swivel.Value, len(p.Blocked()))
		if n%10 == 0 {
			for _, w := range MeasurementPriorities(d, append(others, b), policy, nil) {
				fmt.Fprintf(&out, "  to measure: %+v\n", w)
			}
		}
	}
	lots.SameAnswers(t, out.String())
}

// anyHoles draws what a display's holes are, and what is on its back.
func anyHoles(r *rand.Rand, d *catalog.Display, b *catalog.Bracket) {
	now := func(share float64) bool { return r.Float64() < share }
	of := func(all ...int64) int64 { return all[r.IntN(len(all))] }
	w, h, thread := of(100, 200, 200, 300, 400), of(100, 200, 200), []fastener.Thread{fastener.M4, fastener.M6, fastener.M6,
		fastener.M8}[r.IntN(4)]
	d.Patterns = []catalog.Pattern{catalogtest.Pattern(w, h, thread, of(6, 9, 12, 14, 20))}
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
			Height: mm(100)}}, Width: catalogtest.Length(of(120, 240)), Height: catalogtest.Length(220)}
	}
	b.Threads = [][]fastener.Thread{{fastener.M4, fastener.M6}, {fastener.M8}, fastener.Threads}[r.IntN(3)]
	b.RatedLoad = catalogtest.Mass(of(8000, 15000, 36000))
	if now(0.3) {
		b.RatedMoment = quantity.Some(quantity.Torque(of(5, 20, 60)) * quantity.NewtonMetre)
	}
	if now(0.3) {
		b.TiltHold = quantity.Some(quantity.Torque(of(2, 6)) * quantity.NewtonMetre)
	}
	d.Diagonal = catalogtest.Length(of(800, 1100, 1232, 1900))
	if now(0.2) {
		d.Turns = []catalog.Turn{0}
	}
}
