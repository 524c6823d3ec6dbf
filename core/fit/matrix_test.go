package fit

import (
	"context"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// matrixOf is a matrix that nothing is known of; equal stacks are solved once where it may remember.
func matrixOf(ctx context.Context, ds []*catalog.Display, bs []*catalog.Bracket, policy catalog.Policy, remember bool,
	done func(Row) error) error {
	m := matrix{displays: ds, brackets: bs, policy: &policy}
	if remember {
		m.cache = stack.NewCache(false)
	}
	return m.run(ctx, done)
}

func rowsOf(t testing.TB, ds []*catalog.Display, bs []*catalog.Bracket, remember bool) []Row {
	t.Helper()
	rows := make([]Row, len(ds))
	if err := matrixOf(context.Background(), ds, bs, catalog.DefaultPolicy(), remember, func(r Row) error {
		rows[r.Display] = r
		return nil
	}); err != nil {
		t.Fatal(err)
	}
	return rows
}

// TestMatrixIsEveryPairing: remembered or not, each cell is what the pairing
// judged alone is, also where figures are missing and a rule is left out since it cannot change the cell.
func TestMatrixIsEveryPairing(t *testing.T) {
	ds, bs := many(60, 12)
	ds[0].Patterns = nil
	ds[1].Mass.Known, ds[2].Diagonal.Known, ds[3].Height.Known = false, false, false
	ds[4].Patterns = append(ds[4].Patterns, ds[5].Patterns[0], ds[6].Patterns[0])
	ds[7].Patterns[0].Holes[1].ThreadDepth.Known = false
	ds[8].Patterns[0].Thread = fastener.NoThread
	ds[9].Zones = append(ds[9].Zones, catalog.Zone{Kind: "protrusion", Width: mm(40), Height: mm(40), Out: some(30)},
		catalog.Zone{Kind: "port"})
	ds[10].Patterns[0].Holes[0].Recess = catalog.Given(mm(9), catalog.Caller)
	ds[11].Patterns[0].Contradictions = []catalog.Contradiction{{Holes: []string{"TL"}, Thread: true}}
	ds[12].Turns = []catalog.Turn{90}
	bs[1].RatedLoad.Known, bs[2].WallPlate, bs[3].RowsUsed = false, nil, []string{"top"}
	bs[4].Interface = catalog.Interface{Type: catalog.Plate, Patterns: []catalog.PatternSize{{Width: mm(200), Height: mm(200)}}}
	bs[5].Kit, bs[6].Kind, bs[7].Threads = nil, "ball", fastener.Threads[:1]
	with, without := rowsOf(t, ds, bs, true), rowsOf(t, ds, bs, false)
	if !reflect.DeepEqual(with, without) {
		t.Error("remembering stacks changed a cell")
	}
	seen := map[Verdict]int{}
	for i, d := range ds {
		for j, b := range bs {
			p := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy())
			if with[i].Cells[j] != p.Cell() {
				t.Fatalf("%s on %s: %s, alone %s", d.ID, b.ID, with[i].Cells[j], p.Cell())
			}
			seen[p.Verdict]++
		}
	}
	if seen[FitsWithConditions] == 0 || seen[DoesNotFit] == 0 || seen[MissingData] == 0 {
		t.Errorf("the displays are too much alike: %v", seen)
	}
}

// TestRulesThatDoNotAskWhereItHangs find the same before the display is placed: a cell may end there.
func TestRulesThatDoNotAskWhereItHangs(t *testing.T) {
	ds, bs := many(60, 12)
	policy := catalog.DefaultPolicy()
	for _, d := range ds {
		s := newSubject(d, 0, Extra{}, &policy, nil)
		for _, b := range bs {
			on := newTarget(0, b, nil)
			var p Pairing
			if s.begin(&p, 0, &on) != nil {
				p.stacked = new(stack.Solve(p.Problem())).Summary()
			}
			before := make([]Finding, len(Rules))
			for i := range Rules {
				if !Rules[i].Hung {
					before[i] = p.find(i)
				}
			}
			p.hang()
			for i, x := range Rules {
				if after := p.find(i); !x.Hung && after != before[i] {
					t.Errorf("%s on %s: %s asks where the display hangs: %+v, then %+v", d.ID, b.ID, x.ID, before[i], after)
				}
			}
		}
	}
}

func TestMatrixStops(t *testing.T) {
	ds, bs := many(400, 20)
	ctx, cancel := context.WithCancel(context.Background())
	rows := 0
	err := matrixOf(ctx, ds, bs, catalog.DefaultPolicy(), true, func(Row) error {
		if rows++; rows == 10 {
			cancel()
		}
		return nil
	})
	if !errors.Is(err, context.Canceled) || rows != 10 {
		t.Errorf("%d rows, %v", rows, err)
	}
	full := errors.New("full")
	if err := matrixOf(context.Background(), ds, bs, catalog.DefaultPolicy(), true, func(Row) error { return full }); !errors.Is(err, full) {
		t.Error(err)
	}
}

// TestGrid: only what is new is judged, and the cells are those of a matrix
// made afresh.
func TestGrid(t *testing.T) {
	ds, bs := many(70, 9)
	policy := catalog.DefaultPolicy()
	var g Grid
	step := func(what string, judged int) {
		t.Helper()
		rows := make([]Row, len(ds))
		n, _, err := g.Matrix(context.Background(), ds, bs, policy, func(r Row) error { rows[r.Display] = r; return nil })
		if err != nil || n != judged {
			t.Errorf("%s: %d judged, want %d; %v", what, n, judged, err)
		}
		fresh := make([]Row, len(ds))
		if err := matrixOf(context.Background(), ds, bs, policy, false, func(r Row) error { fresh[r.Display] = r; return nil }); err != nil {
			t.Fatal(err)
		}
		if !reflect.DeepEqual(rows, fresh) {
			t.Errorf("%s: other cells than afresh", what)
		}
	}
	step("first", 70*9)
	step("again", 0)
	heavy := *ds[3]
	heavy.Mass = kg(70_000)
	ds[3] = &heavy
	step("one display changed", 9)
	wide := *bs[4]
	wide.DiagonalMax = some(600)
	bs[4] = &wide
	step("one bracket changed", 70)
	ds, bs = ds[1:], append(bs[1:], bs[0])
	step("one display gone, brackets in another order", 0)
	policy.SizeSchool = "guidance"
	step("another policy", 69*9)
	ctx, cancel := context.WithCancel(context.Background())
	ds[0] = &heavy
	ds[1] = new(*ds[1])
	if _, _, err := g.Matrix(ctx, ds, bs, policy, func(Row) error { cancel(); return nil }); !errors.Is(err, context.Canceled) {
		t.Error(err)
	}
	rows := 0
	if _, _, err := g.Matrix(context.Background(), ds, bs, policy, func(Row) error { rows++; return nil }); err != nil || rows != len(ds) {
		t.Errorf("after one that was stopped: %d rows, %v", rows, err)
	}
}

func TestCell(t *testing.T) {
	d, b := pair()
	good := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy())
	if c := good.Cell(); c != cellOf(Fits) {
		t.Errorf("%+v", c)
	}
	// Of two that fail, the one that costs more to be wrong about.
	bad := Judge(d, b, 270, Extra{Accessories: 50 * quantity.Kilogram}, catalog.DefaultPolicy())
	if c := bad.Cell(); c.Verdict() != DoesNotFit || c.Rule() != "load" || c.SoleBlocker() {
		t.Errorf("%+v", c)
	}
	heavy := Judge(d, b, 0, Extra{Accessories: 50 * quantity.Kilogram}, catalog.DefaultPolicy())
	if c := heavy.Cell(); c.Rule() != "load" || !c.SoleBlocker() {
		t.Errorf("%+v", c)
	}
	b.Kit = b.Kit[1:]
	sends := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy())
	if c := sends.Cell(); !c.NeedsParts() || c.Rule() != "stack" {
		t.Errorf("%+v", c)
	}
}

// cellOf is a cell with a verdict and no more.
func cellOf(v Verdict) Cell { return Cell(slices.Index(Verdicts, v) + 1) }

func TestCover(t *testing.T) {
	rows := func(takes ...string) (out []Row) {
		for i, s := range takes {
			r := Row{Display: i}
			for _, x := range s {
				r.Cells = append(r.Cells, cellOf(map[rune]Verdict{'x': Fits, 'c': FitsWithConditions, '.': DoesNotFit, '?': MissingData}[x]))
			}
			out = append(out, r)
		}
		return out
	}
	for _, c := range []struct {
		rows         []Row
		chosen, left string
	}{
		{rows("x...", ".x..", "..c.", "...x", "x..x"), "[0 1 2]", "[3]"}, // four of five, however one chooses
		{rows("xx", "xx"), "[0]", "[]"},                                  // one is enough
		{rows("..", "?."), "[]", "[0 1]"},
		// The widest one is no help here: 1, 2 and 3 take all six.
		{rows("xx...", "xx...", "x.x..", "x.x..", "...x.", "...x."), "[0 3]", "[]"},
	} {
		chosen, left, err := Cover(t.Context(), c.rows, len(c.rows[0].Cells))
		if err != nil {
			t.Fatal(err)
		}
		if fmt.Sprint(chosen) != c.chosen || fmt.Sprint(left) != c.left {
			t.Errorf("%v, left %v; want %s, %s", chosen, left, c.chosen, c.left)
		}
	}
}

// TestMatrixIsFarFromItsLimit: two thousand displays on sixty brackets, one stack in
// seven another, take half of what a matrix may; displays of which no two
// are alike, on brackets of which none is, are cut off, and the matrix says so.
func TestMatrixIsFarFromItsLimit(t *testing.T) {
	spent := func(displays, brackets int, change func([]*catalog.Display, []*catalog.Bracket)) float64 {
		ds, bs := many(displays, brackets)
		change(ds, bs)
		policy := catalog.DefaultPolicy()
		m := matrix{displays: ds, brackets: bs, policy: &policy, cache: stack.NewCache(false)}
		if err := m.run(t.Context(), func(Row) error { return nil }); err != nil {
			t.Fatal(err)
		}
		share := float64(m.work.Spent()) / float64(matrixSteps+cellSteps*displays*brackets)
		if m.work.Exhausted() != (share > 1) {
			t.Errorf("%.2f of the work was spent, and cut is %v", share, m.work.Exhausted())
		}
		return share
	}
	if share := spent(2000, 60, func([]*catalog.Display, []*catalog.Bracket) {}); share > 0.6 {
		t.Errorf("2,000 × 60 takes %.2f of what a matrix may", share)
	}
	unlike := func(ds []*catalog.Display, bs []*catalog.Bracket) {
		for i, d := range ds {
			for h := range d.Patterns[0].Holes {
				d.Patterns[0].Holes[h].ThreadDepth.Length += quantity.Length(i) * quantity.Micrometre
			}
		}
		for i, b := range bs {
			for n := range 30 {
				b.Kit = append(b.Kit, catalog.Item{Kind: "washer", Thread: fastener.M6, Thickness: mm(1) + quantity.Length(60*n+i)*quantity.Micrometre,
					Outer: mm(18), Count: 40})
			}
		}
	}
	if share := spent(120, 60, unlike); share <= 1 {
		t.Errorf("with nothing alike and thirty washers a bag it takes %.2f", share)
	}
}

// benchmarkMatrix judges all pairings cold, with an empty memory; warm, when
// all stacks are known; or with no memory at all.
func benchmarkMatrix(b *testing.B, displays, brackets int, how string) {
	ds, bs := many(displays, brackets)
	if how == "unlike" {
		catalogtest.Unlike(bs)
	}
	policy := catalog.DefaultPolicy()
	memory := stack.NewCache(false)
	run := func() {
		m := matrix{displays: ds, brackets: bs, policy: &policy, cache: memory}
		if err := m.run(context.Background(), func(Row) error { return nil }); err != nil {
			b.Fatal(err)
		}
	}
	if how == "warm" {
		run()
	}
	b.ReportAllocs()
	for b.Loop() {
		switch how {
		case "cold", "unlike":
			memory = stack.NewCache(false)
		case "afresh":
			memory = nil
		}
		run()
	}
	pairs := float64(displays * brackets)
	b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/pairs, "ns/pair")
	if memory != nil {
		b.ReportMetric(100*float64(memory.Distinct())/pairs, "%distinct")
	}
}

func BenchmarkMatrix1000x200(b *testing.B)        { benchmarkMatrix(b, 1000, 200, "cold") }
func BenchmarkMatrix2000x60(b *testing.B)         { benchmarkMatrix(b, 2000, 60, "cold") }
func BenchmarkMatrix2000x60Afresh(b *testing.B)   { benchmarkMatrix(b, 2000, 60, "afresh") }
func BenchmarkMatrix10000x200(b *testing.B)       { benchmarkMatrix(b, 10000, 200, "cold") }
func BenchmarkMatrix10000x200Warm(b *testing.B)   { benchmarkMatrix(b, 10000, 200, "warm") }
func BenchmarkMatrix10000x200Unlike(b *testing.B) { benchmarkMatrix(b, 10000, 200, "unlike") }
func BenchmarkOneDisplay200Brackets(b *testing.B) { benchmarkMatrix(b, 1, 200, "cold") }
