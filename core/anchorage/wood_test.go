package anchorage

import (
	"math"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

var mm = quantity.MM

// TestLagWithdrawal: the table values of the NDS for design (memory), and the
// USDA Wood Handbook's ultimate, 4.5 times as much.
func TestLagWithdrawal(t *testing.T) {
	const in = quantity.Inch
	for _, c := range []struct {
		d    quantity.Length
		g    float64
		want float64
	}{
		{in * 5 / 16, 0.55, 307}, {in * 5 / 16, 0.50, 266}, {in * 5 / 16, 0.43, 212}, {in * 5 / 16, 0.42, 205},
		{in / 4, 0.50, 225}, {in * 3 / 8, 0.50, 305},
	} {
		if got := LagWithdrawal(c.g, c.d); math.Abs(got-c.want) > 0.6 {
			t.Errorf("%s, G %g: %.1f lb/in, want %g", c.d, c.g, got, c.want)
		}
		ultimate := 8100 * math.Pow(c.g, 1.5) * math.Pow(float64(c.d)/float64(in), 0.75)
		if got := LagUltimate(c.g, c.d); math.Abs(got-ultimate) > 0.01 {
			t.Errorf("ultimate %.1f, want %.1f", got, ultimate)
		}
	}
	for d, tip := range map[quantity.Length]quantity.Length{in / 4: in * 5 / 32, in * 5 / 16: in * 3 / 16, in * 3 / 8: in * 7 / 32} {
		if got := LagTip(d); got != tip {
			t.Errorf("tip of %s: %s, want %s", d, got, tip)
		}
	}
}

// TestPilot: 1/8 to 7/32 for a lag of 5/16 in usual wood, 3/16 to 15/64 for G
// 0.55 (NDS 12.1.4, rounded to drill sizes).
func TestPilot(t *testing.T) {
	const in = quantity.Inch
	for _, c := range []struct {
		g      float64
		lo, hi quantity.Length
	}{{0.5, in / 8, in * 7 / 32}, {0.42, in / 8, in * 7 / 32}, {0.55, in * 3 / 16, in * 15 / 64}} {
		lo, hi := Pilot(c.g, in*5/16)
		if lo.Round(in/64) != c.lo || hi.Round(in/64) != c.hi {
			t.Errorf("G %g: %s to %s", c.g, lo, hi)
		}
	}
}

// TestScrews: by hand. NDS 12.2: 2850 · 0.42² · D lb/in; D 5 mm is 0.19685 in,
// so 98.97 lb/in. USDA Wood Handbook: 15700/2850 times as much, 5.5.
func TestScrews(t *testing.T) {
	near(t, "lb/in", WoodScrewWithdrawal(0.42, mm(5)), 98.97, 0.01)
	near(t, "ultimate", screwUltimate, 15_700.0/2850, 0.01)
}

// TestThreaded: by NDS appendix L (memory) a lag of 4 in has 2 1/2 in of thread,
// one of 1 in is threaded all over, one of 14 in has 6 in.
func TestThreaded(t *testing.T) {
	const in = quantity.Inch
	for length, want := range map[quantity.Length]quantity.Length{4 * in: 5 * in / 2, in: in, 14 * in: 6 * in, 3 * in: 2 * in} {
		if got := Threaded(catalog.Lag, length); got != want {
			t.Errorf("%s: %s, want %s", length, got, want)
		}
	}
	if got := Threaded(catalog.Screw, mm(60)); got != mm(40) {
		t.Error(got)
	}
}

// TestInWood: a lag of 8 × 70, 53.4 mm of it past the covering, has a tip of 8/2
// + 0.79 = 4.79 mm and 35 + 12.7 = 47.7 of thread: 48.61 count across, 42.91 hold
// a pull. Into a stud of 40 mm, 13.4 comes out behind.
func TestInWood(t *testing.T) {
	lag := catalog.Item{Kind: catalog.Lag, Diameter: mm(8), Length: mm(70)}
	in := quantity.FromMM(53.4)
	across, thread := InWood(&lag, in, 0)
	near(t, "across", across.MM(), 53.4-4.79375, 1e-6)
	near(t, "thread", thread.MM(), 47.7-4.79375, 1e-6)
	across, thread = InWood(&lag, in, mm(40))
	near(t, "across, out behind", across.MM(), 40, 1e-6)
	near(t, "thread, out behind", thread.MM(), 47.7-13.4, 1e-6)
	if across, thread = InWood(&lag, -mm(5), 0); across != 0 || thread != 0 {
		t.Error("what is not in the wood holds")
	}
}
