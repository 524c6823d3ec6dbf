package fit

import (
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

var mm = quantity.MM

var (
	some    = catalogtest.Length
	kg      = catalogtest.Mass
	pair    = catalogtest.Pair
	many    = catalogtest.Many
	pattern = catalogtest.Pattern
)

func TestVerdict(t *testing.T) {
	check := func(rule RuleID, s Status) Finding { return Finding{Rule: rule, Status: s} }
	for _, c := range []struct {
		want     Verdict
		supplied bool
		checks   []Finding
	}{
		{Fits, false, []Finding{check("load", Pass)}},
		{FitsWithConditions, true, []Finding{check("load", Pass)}},
		{FitsWithConditions, false, []Finding{check("load", Caution)}},
		{MissingData, false, []Finding{check("load", Caution), check("stack", Unknown)}},
		{FitsWithConditions, false, []Finding{check("arms", Unknown)}},
		{DoesNotFit, true, []Finding{check("stack", Unknown), check("arms", Fail), check("load", Caution)}},
	} {
		if got := verdict(c.checks, c.supplied); got != c.want {
			t.Errorf("%v: %s, want %s", c.checks, got, c.want)
		}
	}
}

// TestSeveralPatterns: fewest fails, then the better stack, then the larger.
func TestSeveralPatterns(t *testing.T) {
	for _, c := range []struct {
		name          string
		first, second catalog.Pattern
		want          int64
	}{
		{"the one that does not fail", pattern(700, 400, fastener.M6, 14), pattern(200, 200, fastener.M6, 14), 200},
		{"the one with the better stack", pattern(400, 200, fastener.M6, 10), pattern(200, 200, fastener.M6, 14), 200},
		{"with equal stacks the larger", pattern(200, 200, fastener.M6, 14), pattern(400, 200, fastener.M6, 14), 400},
	} {
		for _, order := range [][]catalog.Pattern{{c.first, c.second}, {c.second, c.first}} {
			d, b := pair()
			d.Patterns = order
			if p := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy()); p.Pattern.Width != mm(c.want) {
				t.Errorf("%s: took %s", c.name, p.Pattern.Width)
			}
		}
	}
}

// TestMeasureIsShownSafely: a value never looks better than it is, a limit
// never looser.
func TestMeasureIsShownSafely(t *testing.T) {
	for _, c := range []struct {
		m    Measure
		u    quantity.Units
		want string
	}{
		{atMost(14_201*quantity.Gram, 45*quantity.Kilogram, KG), quantity.Metric, "14.21 kg · at most 45 kg"},
		{atMost(quantity.Kilogram, 45*quantity.Kilogram, KG), quantity.Imperial, "2.3 lb · at most 99.2 lb"},
		{atLeast(quantity.Length(849_999), 0, MM), quantity.Metric, "0.8 mm · at least 0 mm"},
		{atMost(quantity.Angle(286_000), quantity.Degree, Deg), quantity.Metric, "0.29° · at most 1°"},
		{Measure{Value: int64(mm(1000)), Limit: int64(mm(900)), Unit: MM, AtLeast: true, Coarse: true}, quantity.Imperial,
			"39 5/16 in · at least 35 7/16 in"},
	} {
		if got := c.m.In(c.u); got != c.want {
			t.Errorf("%q, want %q", got, c.want)
		}
	}
}

// TestMirrored: a display mirrored left to right is judged the same.
func TestMirrored(t *testing.T) {
	d, b := pair()
	d.Patterns[0].CenterRight = mm(30)
	d.Patterns[0].Holes[1].ThreadDepth = catalog.Given(mm(10), catalog.Bench)
	m := *d
	m.Patterns = []catalog.Pattern{d.Patterns[0]}
	m.Patterns[0].CenterRight = -mm(30)
	m.Patterns[0].Holes = nil
	for _, h := range d.Patterns[0].Holes {
		h.X = -h.X
		m.Patterns[0].Holes = append(m.Patterns[0].Holes, h)
	}
	one, other := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy()), Judge(&m, b, 0, Extra{}, catalog.DefaultPolicy())
	mirrored := other.Words()
	for i, c := range one.Words() {
		if want, got := c.Text.In(quantity.Metric), mirrored[i].Text.In(quantity.Metric); want == "" || got != want {
			t.Errorf("%s, mirrored: %s\nwant %s", c.Rule, got, want)
		}
	}
}

func TestBetter(t *testing.T) {
	d, b := pair()
	good := Judge(d, b, 0, Extra{}, catalog.DefaultPolicy())
	caution := Judge(d, b, 0, Extra{Accessories: 20 * quantity.Kilogram}, catalog.DefaultPolicy())
	bad := Judge(d, b, 270, Extra{}, catalog.DefaultPolicy())
	worse := Judge(d, b, 270, Extra{Accessories: 40 * quantity.Kilogram}, catalog.DefaultPolicy())
	all := []*Pairing{&good, &caution, &bad, &worse}
	for i := range all {
		for j := range all {
			if all[i].Better(all[j]) != (i < j) {
				t.Errorf("%d before %d: %v", i, j, all[i].Better(all[j]))
			}
		}
	}
}

func BenchmarkJudge(b *testing.B) {
	d, br := pair()
	b.ReportAllocs()
	for b.Loop() {
		p := Judge(d, br, 0, Extra{}, catalog.DefaultPolicy())
		if p.Verdict != Fits {
			b.Fatal(p.Verdict)
		}
	}
}
