package probe

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

func mm(f float64) quantity.Length { return quantity.FromMM(f) }

type opt func(*catalog.Trial)

func gap(g float64) opt { return func(t *catalog.Trial) { t.Gap = quantity.Some(mm(g)) } }
func turns(n float64) opt {
	return func(t *catalog.Trial) { t.Turns = quantity.Some(quantity.Ratio(n * 1e6)) }
}
func caliper(t *catalog.Trial) { t.Tolerance = quantity.Some(mm(0.5)) }
func under(u float64) opt      { return func(t *catalog.Trial) { t.UnderHead = mm(u) } }

func trial(t fastener.Thread, l float64, outcome catalog.Outcome, more ...opt) catalog.Trial {
	x := catalog.Trial{Thread: t, Length: mm(l), Outcome: outcome}
	for _, o := range more {
		o(&x)
	}
	return x
}

func text(s Span) string {
	if !s.High.Known {
		return fmt.Sprintf("%g…", s.Low.MM())
	}
	return fmt.Sprintf("%g…%g", s.Low.MM(), s.High.Value.MM())
}

// TestWorked are done by hand from the package comment.
func TestWorked(t *testing.T) {
	const m4, m5, m6, m8 = fastener.M4, fastener.M5, fastener.M6, fastener.M8
	for _, c := range []struct {
		name                               string
		trials                             []catalog.Trial
		threads, depth, recess, threadDeep string
	}{
		{"nothing", nil, "M4, M5, M6, M8", "0…", "0…", "0…"},
		// The example of the format: 25 − 9 = 16 ± 1; ten turns of 1.25 are
		// 12.5 ± 1.25: r = 16 − 12.5 ± 2.25 = 1.25 … 5.75; D = 11.25 … 13.75,
		// and r ≤ 17 − 11.25 = 5.75, r ≥ 15 − 13.75 = 1.25.
		{"stopped, with turns", []catalog.Trial{trial(m8, 25, "stopped", gap(9), turns(10))}, "M8", "15…17", "1.25…5.75", "11.25…13.75"},
		{"rests", []catalog.Trial{trial(m6, 30, "rests", gap(26))}, "M4, M5, M6, M8", "3…", "3…5", "0…"},
		{"rests and stopped", []catalog.Trial{trial(m6, 30, "rests", gap(26)), trial(m6, 30, "stopped", gap(12), caliper)}, "M6", "17.5…18.5",
			"3…5", "12.5…15.5"},
		{"seated", []catalog.Trial{trial(m6, 16, "seated")}, "M6", "15…", "0…", "0…"},
		{"seated over two washers", []catalog.Trial{trial(m6, 16, "seated", under(3.2), caliper)}, "M6", "12.3…", "0…", "0…"},
		{"the head sinks into the cup", []catalog.Trial{trial(m6, 12, "stopped", gap(-2))}, "M6", "13…15", "0…15", "0…15"},
		{"seated with turns", []catalog.Trial{trial(m6, 16, "seated", turns(12))}, "M6", "15…", "2…6", "11…"},
		{"too big", []catalog.Trial{trial(m6, 12, "too_big")}, "M4, M5", "0…", "0…", "0…"},
		{"too small", []catalog.Trial{trial(m5, 12, "too_small")}, "M6, M8", "0…", "0…", "0…"},
		// An M5 can catch in an M6 hole and rock: 4.976 against 4.917.
		{"loose", []catalog.Trial{trial(m5, 12, "loose"), trial(m8, 12, "too_big")}, "M6", "0…", "0…", "0…"},
		{"a stop without a gap tells only the thread", []catalog.Trial{trial(m4, 12, "stopped")}, "M4", "0…", "0…", "0…"},
	} {
		r := Solve(c.trials, nil)
		if got := threadList(r.Threads); got != c.threads {
			t.Errorf("%s: threads %s, want %s", c.name, got, c.threads)
		}
		if text(r.Depth) != c.depth || text(r.Recess) != c.recess || text(r.ThreadDepth) != c.threadDeep || r.Conflicts != nil {
			t.Errorf("%s: r+D %s, r %s, D %s, %v; want %s, %s, %s", c.name, text(r.Depth), text(r.Recess), text(r.ThreadDepth), r.Conflicts,
				c.depth, c.recess, c.threadDeep)
		}
	}
}

func TestConflicts(t *testing.T) {
	const m5, m6, m8 = fastener.M5, fastener.M6, fastener.M8
	for _, c := range []struct {
		name   string
		trials []catalog.Trial
		want   string
		says   string
	}{
		{"two threads", []catalog.Trial{trial(m6, 16, "seated"), trial(m8, 12, "rests", gap(9)), trial(m8, 16, "seated")}, "[0 2]",
			"no thread is left"},
		{"stops apart", []catalog.Trial{trial(m6, 30, "stopped", gap(14)), trial(m6, 30, "stopped", gap(20))}, "[0 1]",
			"Trial 2 stopped 6 mm short of trial 1 with the same thread: it may be crossed"},
		{"seated past a stop", []catalog.Trial{trial(m6, 30, "stopped", gap(14)), trial(m6, 12, "rests", gap(8)), trial(m6, 20, "seated")},
			"[0 2]", "do not agree"},
		{"loose and stopped", []catalog.Trial{trial(m5, 16, "stopped", gap(2)), trial(m5, 16, "loose")}, "[0 1]", "no thread is left"},
		{"more turns than it went deep", []catalog.Trial{trial(m6, 12, "stopped", gap(8), turns(9))}, "[0]", "contradicts itself"},
	} {
		r := Solve(c.trials, nil)
		if len(r.Conflicts) != 1 || fmt.Sprint(r.Conflicts[0].Trials) != c.want || !strings.Contains(r.Conflicts[0].Text.In(quantity.Metric),
			c.says) || r.Next != nil {
			t.Errorf("%s: %+v", c.name, r.Conflicts)
			for _, x := range r.Conflicts {
				t.Log(x.Trials, x.Text.In(quantity.Metric))
			}
		}
	}
	// Coarse rulers agree, but the stops are far enough apart to be told.
	wide := func(x *catalog.Trial) { x.Tolerance = quantity.Some(mm(3)) }
	r := Solve([]catalog.Trial{trial(m6, 30, "stopped", gap(14), wide), trial(m6, 30, "stopped", gap(18), wide)}, nil)
	if len(r.Conflicts) != 0 || len(r.Hints) != 1 {
		t.Errorf("%+v", r)
	}
}

func TestNext(t *testing.T) {
	const m5, m6, m8 = fastener.M5, fastener.M6, fastener.M8
	bolt := func(t fastener.Thread, l float64) catalog.Item {
		return catalog.Item{Kind: "bolt", Thread: t, Length: mm(l), Count: 4}
	}
	spacer := catalog.Item{Kind: "spacer", Threads: []fastener.Thread{m6, m8}, Length: mm(10), Count: 4}
	for _, c := range []struct {
		name   string
		trials []catalog.Trial
		kit    []catalog.Item
		want   string
	}{
		{"first the thread, in the middle, with the shortest", nil, nil, "M5×8 "},
		{"of two the smaller", []catalog.Trial{trial(m5, 8, "too_small")}, nil, "M6×10 "},
		{"from the kit", nil, []catalog.Item{bolt(m5, 20), bolt(m5, 12)}, "M5×12 "},
		// The example of the format: 15 … 17 is halved by 16.
		{"halves the depth", []catalog.Trial{trial(m8, 25, "stopped", gap(9), turns(10))}, nil, "M8×16 "},
		{"by what is in the bag", []catalog.Trial{trial(m8, 40, "seated", turns(5)), trial(m8, 60, "stopped", gap(14))},
			[]catalog.Item{bolt(m8, 12), bolt(m8, 46), bolt(m8, 30)}, "M8×46 "},
		{"the cup first, when a spacer is about", []catalog.Trial{trial(m8, 25, "stopped", gap(9))},
			[]catalog.Item{bolt(m8, 16), bolt(m8, 25), spacer}, "M8×25 rests"},
		{"longer, while nothing has stopped", []catalog.Trial{trial(m6, 12, "seated")}, nil, "M6×16 "},
		{"nothing more to learn", []catalog.Trial{trial(m6, 25, "stopped", gap(9), caliper)}, nil, ""},
		{"no bolt in the bag would tell more", []catalog.Trial{trial(m6, 25, "stopped", gap(9))}, []catalog.Item{bolt(m6, 40)}, ""},
	} {
		got := ""
		if n := Solve(c.trials, c.kit).Next; n != nil {
			got = fmt.Sprintf("%s×%s %s", n.Thread, quantity.FormatDecimal(int64(n.Length), 6), n.Outcome)
			if n.Why.Empty() {
				t.Errorf("%s: without a reason", c.name)
			}
		}
		if got != c.want {
			t.Errorf("%s: %q, want %q", c.name, got, c.want)
		}
	}
}

// tell makes up a true trial of a hole: what would happen, read with an error.
func tell(r *rand.Rand, hole fastener.Thread, recess, depth float64) catalog.Trial {
	t := fastener.Threads[r.IntN(4)]
	l := float64(6 + 2*r.IntN(30))
	read := func(x float64) opt { return gap(x + (2*r.Float64()-1)*0.99) }
	switch {
	case r.IntN(4) == 0 && l > recess:
		return trial(t, l, "rests", read(l-recess))
	case t > hole:
		return trial(t, l, "too_big")
	case t < hole:
		return trial(t, l, []catalog.Outcome{"too_small", "loose"}[r.IntN(2)])
	case l > recess+depth:
		x := trial(t, l, "stopped", read(l-recess-depth))
		if r.IntN(2) == 0 {
			turns(depth/t.Standard().Pitch.MM() + (2*r.Float64()-1)*0.99)(&x)
		}
		return x
	}
	return trial(t, l, "seated")
}

// TestTruthIsNeverLost: trials told truly, within their tolerance, never
// exclude the hole they were made in, never contradict each other, and never
// widen an interval.
func TestTruthIsNeverLost(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 12))
	inside := func(s Span, x float64) bool {
		return s.Low.MM() <= x+1e-6 && (!s.High.Known || s.High.Value.MM() >= x-1e-6)
	}
	narrower := func(a, b Span) bool {
		return a.Low >= b.Low && (!b.High.Known || a.High.Known && a.High.Value <= b.High.Value)
	}
	for range 3000 {
		hole, recess, depth := fastener.Threads[r.IntN(4)], float64(r.IntN(3))*4*r.Float64(), 4+20*r.Float64()
		var trials []catalog.Trial
		before := Solve(nil, nil)
		for range 1 + r.IntN(6) {
			trials = append(trials, tell(r, hole, recess, depth))
			got := Solve(trials, nil)
			if got.Conflicts != nil || !slices.Contains(got.Threads, hole) || !inside(got.Depth, recess+depth) || !inside(got.Recess, recess) ||
				!inside(got.ThreadDepth, depth) {
				t.Fatalf("hole %s %g + %g: %+v from %+v", hole, recess, depth, got, trials)
			}
			if !narrower(got.Depth, before.Depth) || !narrower(got.Recess, before.Recess) || !narrower(got.ThreadDepth, before.ThreadDepth) ||
				len(got.Threads) > len(before.Threads) {
				t.Fatalf("a trial widened %+v to %+v", before, got)
			}
			before = got
		}
	}
}

// TestUnderTenTrials: following the proposals, a hole is known well enough for
// a bolt in fewer than ten trials.
func TestUnderTenTrials(t *testing.T) {
	r := rand.New(rand.NewPCG(13, 14))
	kit := []catalog.Item{{Kind: "spacer", Threads: fastener.Threads, Length: mm(10)}}
	for range 500 {
		hole, recess, depth := fastener.Threads[r.IntN(4)], float64(r.IntN(2))*5, 8+14*r.Float64()
		var trials []catalog.Trial
		for {
			n := Solve(trials, kit).Next
			if n == nil {
				break
			}
			if len(trials) == 9 {
				t.Fatalf("hole %s %g + %g: still asking after %+v", hole, recess, depth, trials)
			}
			l := n.Length.MM()
			switch {
			case n.Outcome == "rests":
				trials = append(trials, trial(n.Thread, l, "rests", gap(l-recess), caliper))
			case n.Thread > hole:
				trials = append(trials, trial(n.Thread, l, "too_big"))
			case n.Thread < hole:
				trials = append(trials, trial(n.Thread, l, "too_small"))
			case l > recess+depth:
				trials = append(trials, trial(n.Thread, l, "stopped", gap(l-recess-depth), caliper))
			default:
				trials = append(trials, trial(n.Thread, l, "seated", caliper))
			}
		}
		if got := Solve(trials, kit); !got.Depth.High.Known || got.Depth.High.Value-got.Depth.Low > mm(1) {
			t.Fatalf("hole %s %g + %g: left with %s after %+v", hole, recess, depth, text(got.Depth), trials)
		}
	}
}

func FuzzSolve(f *testing.F) {
	f.Add(uint8(3), int64(25e6), int64(9e6), int64(10e6), uint8(0), uint8(3), int64(16e6))
	f.Fuzz(func(t *testing.T, thread uint8, l, g, n int64, outcome, thread2 uint8, l2 int64) {
		bound := func(x int64) quantity.Length { return quantity.Length(x % int64(500*quantity.Millimetre)) }
		trials := []catalog.Trial{
			{Thread: fastener.Threads[thread%4], Length: bound(l).Abs(), Outcome: catalog.Outcomes[int(outcome)%6], Gap: quantity.Some(bound(g)),
				Turns: quantity.Some(quantity.Ratio(n % 500e6))},
			{Thread: fastener.Threads[thread2%4], Length: bound(l2).Abs(), Outcome: "stopped", Gap: quantity.Some(bound(g))},
		}
		r := Solve(trials, nil)
		if len(r.Conflicts) == 0 && (empty(r.Depth) || empty(r.Recess) || empty(r.ThreadDepth) || len(r.Threads) == 0) {
			t.Errorf("nothing is left and nothing contradicts: %+v", r)
		}
	})
}
