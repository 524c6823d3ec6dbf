package stack

import (
	"math"
	"math/rand/v2"
	"sort"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

// The oracle of this file tries every choice of parts for every group, one
// after the other, straight from the rules, and keeps the preferred one. It
// shares no code with the solver but the tables of package fastener.

type piece struct {
	kind          catalog.ItemKind
	length, outer quantity.Length
}

type plainBag struct {
	have      map[piece]int
	unlimited map[piece]bool
}

func (b *plainBag) add(t fastener.Thread, i catalog.Item, n int, unlimited bool) {
	k := piece{kind: i.Kind}
	switch i.Kind {
	case "bolt":
		k.length = i.Length
	case "washer":
		k.length, k.outer = i.Thickness, i.Outer
	case "shoulder_washer":
		k.length = i.Thickness
	case "spacer":
		k.length, k.outer = i.Length, i.Outer
	}
	b.have[k] += n
	b.unlimited[k] = b.unlimited[k] || unlimited
}

func (b *plainBag) kind(kind catalog.ItemKind) (out []piece) {
	for k := range b.have {
		if k.kind == kind {
			out = append(out, k)
		}
	}
	sort.Slice(out, func(i, j int) bool {
		return out[i].length < out[j].length || out[i].length == out[j].length && out[i].outer < out[j].outer
	})
	return out
}

type plainHole struct {
	taken           []piece // per hole
	z, e, k, ew, kw quantity.Length
	length          quantity.Length
	spacers, washer int
	shoulder        bool
	ok              bool
}

// plainHoles are all hole stacks of a group that are right on paper.
func plainHoles(p Problem, g Group, b plainBag) (out []plainHole) {
	std := p.Thread.Standard()
	d := std.Nominal
	var sets [][]piece
	var grow func(set []piece, rest []piece)
	grow = func(set, rest []piece) {
		sets = append(sets, append([]piece(nil), set...))
		if len(set) == p.Policy.MaxStackedSpacers {
			return
		}
		for i := range rest {
			grow(append(set, rest[i]), rest[i:])
		}
	}
	grow(nil, b.kind("spacer"))
	for _, set := range sets {
		var s, widest quantity.Length
		fits := true
		for _, x := range set {
			s += x.length
			widest = max(widest, x.outer)
			fits = fits && x.outer >= p.Slot+p.Policy.WasherOverlap
		}
		insert, doubtful := false, false
		if len(set) > 0 && g.Recess > 0 {
			if !g.RecessDiameter.Known {
				doubtful = true
			} else if widest <= g.RecessDiameter.Value-mm(0.5) {
				insert = true
			} else if widest < g.RecessDiameter.Value+mm(2) {
				fits = false
			}
		}
		if !fits {
			continue
		}
		c, q, dr, dz := g.Setback, g.Recess, g.RecessTolerance, g.SetbackTolerance
		if insert {
			c, q, dr, dz = g.Setback+g.Recess, 0, 0, g.SetbackTolerance+g.RecessTolerance
		}
		z := s - c
		shoulders := []piece{{}}
		if len(set) > 0 {
			shoulders = append(shoulders, b.kind("shoulder_washer")...)
		}
		for _, w := range b.kind("washer") {
			if w.outer < p.Slot+p.Policy.WasherOverlap {
				continue
			}
			dt := std.Washer.Tolerance
			if w.length == std.LargeWasher.Thickness && w.length != std.Washer.Thickness {
				dt = std.LargeWasher.Tolerance
			}
			for n := 1; n <= p.Policy.MaxWashers; n++ {
				for _, h := range shoulders {
					for _, l := range b.kind("bolt") {
						x := plainHole{z: z, length: l.length, spacers: len(set), washer: n, shoulder: h.kind != ""}
						E := l.length - (quantity.Length(n)*w.length + h.length + p.PlateThickness + s)
						x.e = E - q
						x.k = g.ThreadDepth - x.e
						dE := fastener.LengthTolerance(l.length) + quantity.Length(n)*dt + mm(0.2) + quantity.Length(len(set))*mm(0.2)
						if x.shoulder {
							dE += mm(0.1)
						}
						x.ew = x.e - dE - dr
						x.kw = x.k - dE - dr - g.DepthTolerance
						if x.e < p.Policy.EngagementMinD.Of(d) || x.k < p.Policy.TipClearanceMin || z < p.Policy.ArmClearance {
							continue
						}
						if doubtful && (x.k-g.Recess < p.Policy.TipClearanceMin || z-g.Recess < p.Policy.ArmClearance) {
							continue
						}
						if p.HeadRoom.Known && quantity.Length(n)*w.length+h.length+std.PanHeadHeight > p.HeadRoom.Value {
							continue
						}
						least := p.Policy.ArmClearance
						if least == 0 {
							least = -p.Policy.ArmTouch // a touch of the flat back does no harm
						}
						x.ok = !doubtful && x.ew >= p.Policy.EngagementWorstD.Of(d) && x.kw >= p.Policy.TipClearanceWorst && z-dz >= least
						x.taken = append([]piece{l}, set...)
						for range n {
							x.taken = append(x.taken, w)
						}
						if x.shoulder {
							x.taken = append(x.taken, h)
						}
						out = append(out, x)
					}
				}
			}
		}
	}
	return out
}

// plainRank lists the terms of the order of preference; smaller first.
type plainRank [9]float64

func (r plainRank) before(o plainRank) bool {
	for i := range r {
		if r[i] != o[i] {
			return r[i] < o[i]
		}
	}
	return false
}

func plainSolve(p Problem) (best *plainRank, supplied bool) {
	bag := func(supply bool) plainBag {
		b := plainBag{map[piece]int{}, map[piece]bool{}}
		for _, i := range p.Kit {
			b.add(p.Thread, i, i.Count, supply)
		}
		for _, i := range p.OwnParts {
			b.add(p.Thread, i, i.Count, false)
		}
		if supply {
			for _, l := range p.Thread.SuppliedLengths() {
				b.add(p.Thread, catalog.Item{Kind: "bolt", Length: l}, 0, true)
			}
			for _, w := range []fastener.Disc{p.Thread.Standard().Washer, p.Thread.Standard().LargeWasher} {
				b.add(p.Thread, catalog.Item{Kind: "washer", Thickness: w.Thickness, Outer: w.Outer}, 0, true)
			}
			for _, l := range p.Policy.StockSpacers {
				b.add(p.Thread, catalog.Item{Kind: "spacer", Length: l, Outer: p.Policy.StockSpacerOuter}, 0, true)
			}
		}
		return b
	}
	if best = plainSearch(p, bag(false)); best != nil {
		return best, false
	}
	return plainSearch(p, bag(true)), true
}

// plainSize is how many combinations the enumeration would go through.
func plainSize(p Problem) int {
	b := plainBag{map[piece]int{}, map[piece]bool{}}
	for _, i := range append(p.Kit, p.OwnParts...) {
		b.add(p.Thread, i, i.Count, true)
	}
	for _, l := range p.Thread.SuppliedLengths() {
		b.add(p.Thread, catalog.Item{Kind: "bolt", Length: l}, 0, true)
	}
	for _, w := range []fastener.Disc{p.Thread.Standard().Washer, p.Thread.Standard().LargeWasher} {
		b.add(p.Thread, catalog.Item{Kind: "washer", Thickness: w.Thickness, Outer: w.Outer}, 0, true)
	}
	for _, l := range p.Policy.StockSpacers {
		b.add(p.Thread, catalog.Item{Kind: "spacer", Length: l, Outer: p.Policy.StockSpacerOuter}, 0, true)
	}
	size := 1
	for _, g := range p.Groups {
		size *= len(plainHoles(p, g, b))
	}
	return size
}

func plainSearch(p Problem, b plainBag) (best *plainRank) {
	lists := make([][]plainHole, len(p.Groups))
	for i, g := range p.Groups {
		lists[i] = plainHoles(p, g, b)
	}
	chosen := make([]plainHole, len(p.Groups))
	var try func(i int)
	try = func(i int) {
		if i == len(lists) {
			if r, ok := plainRate(p, b, chosen); ok && (best == nil || r.before(*best)) {
				best = &r
			}
			return
		}
		for _, x := range lists[i] {
			chosen[i] = x
			try(i + 1)
		}
	}
	try(0)
	return best
}

// plainRate is where a choice of hole stacks comes in the order of preference; false when it is not allowed.
func plainRate(p Problem, b plainBag, chosen []plainHole) (plainRank, bool) {
	taken := map[piece]int{}
	ok, maxZ, spacers, shoulders, washers := true, quantity.Length(math.MinInt64), 0, 0, 0
	var sum, length quantity.Length
	margin := quantity.Length(math.MaxInt64)
	worst := p.Policy.EngagementWorstD.Of(p.Thread.Standard().Nominal)
	for i, x := range chosen {
		n := len(p.Groups[i].Holes)
		for _, t := range x.taken {
			taken[t] += n
		}
		ok = ok && x.ok
		maxZ = max(maxZ, x.z)
		spacers += n * x.spacers
		washers += n * x.washer
		if x.shoulder {
			shoulders += n
		}
		margin = min(margin, x.ew-worst, x.kw)
		if p.Policy.BoltSchool == "deep" {
			sum += quantity.Length(n) * x.e
		} else {
			sum += quantity.Length(n) * x.k
		}
		length += quantity.Length(n) * x.length
	}
	missing := 0
	for t, n := range taken {
		if n > b.have[t] {
			if !b.unlimited[t] {
				return plainRank{}, false
			}
			missing += n - b.have[t]
		}
	}
	lean := 0.0
	for i := range chosen {
		for j := range i {
			near := math.Inf(1)
			for _, a := range p.Groups[i].Holes {
				for _, c := range p.Groups[j].Holes {
					near = min(near, math.Hypot((a.X-c.X).MM(), (a.Y-c.Y).MM()))
				}
			}
			lean = max(lean, math.Atan((chosen[i].z-chosen[j].z).Abs().MM()/near)*180/math.Pi)
		}
	}
	if lean > 1.0 {
		return plainRank{}, false
	}
	twist := quantity.Length(0)
	if p.Corners.Known {
		z := func(corner int) quantity.Length { return chosen[p.Corners.Groups[corner]].z }
		twist = (z(0) - z(1) - z(2) + z(3)).Abs()
	}
	if twist > p.Policy.TwistMax {
		return plainRank{}, false
	}
	status := 0.0
	if !ok || lean > 0.3 || twist > mm(1) {
		status = 1
	}
	school := -float64(sum)
	if p.Policy.BoltSchool == "balanced" {
		school = -float64(margin)
	}
	// The lean is rounded to a billionth of a degree: two ways to write the
	// same arithmetic differ below that.
	lean = math.Round(lean * 1e9)
	return plainRank{status, float64(missing), float64(maxZ), float64(spacers), lean, -float64(shoulders), float64(washers), school,
		float64(length)}, true
}

func TestSolverAgreesWithPlainEnumeration(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	none, fromBag, sent, cautious, twisted, tried := 0, 0, 0, 0, 0, 0
	for n := 0; tried < lots.Times(4000); n++ {
		p := randomProblem(r)
		if plainSize(p) > 4000 {
			continue // the enumeration would take minutes
		}
		tried++
		want, supplied := plainSolve(p)
		got := Solve(p).Best
		if (got == nil) != (want == nil) {
			t.Fatalf("case %d: solver %v, enumeration %v\n%+v", n, got, want, p)
		}
		if got == nil {
			none++
			continue
		}
		k := got.rank
		rank := plainRank{float64(got.Status), float64(k.supplied), float64(k.plane), float64(k.spacers), math.Round(got.Lean * 1e9),
			-float64(k.shoulders), float64(k.washers), -float64(k.school), float64(k.length)}
		if rank != *want {
			t.Fatalf("case %d: solver %v, enumeration %v\n%+v\n%+v", n, rank, *want, got, p)
		}
		pieces := 0
		for _, s := range got.Supplied {
			pieces += s.Count
		}
		if pieces != int(k.supplied) || (pieces > 0) != (supplied && want[1] > 0) {
			t.Fatalf("case %d: supply list %v does not count %d", n, got.Supplied, k.supplied)
		}
		if got.Twist > 0 {
			twisted++
		}
		switch {
		case got.Status == Caution:
			cautious++
		case supplied:
			sent++
		default:
			fromBag++
		}
	}
	t.Logf("%d cases: %d ok from the bag, %d ok with supply, %d caution, %d none", tried, fromBag, sent, cautious, none)
	if none == 0 || fromBag == 0 || sent == 0 || cautious == 0 || twisted == 0 {
		t.Error("the random cases miss a kind of answer")
	}
}
