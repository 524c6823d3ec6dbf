package anchorage

import (
	"math"
	"math/rand/v2"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

func near(t *testing.T, what string, got, want, within float64) {
	t.Helper()
	if math.Abs(got-want) > within {
		t.Errorf("%s: %g, want %g", what, got, want)
	}
}

// TestYieldByHand: a lag of 5/16 in through a plate of 0.120 in into 2 in of
// wood of G 0.50, with the grain, by the equations of NDS 12.3.1, by hand.
//
//	F_em = 11200 · 0.50 = 5600 psi, F_es = 61850 psi, F_yb = 60000 psi, D_r = 0.227 in
//	R_e = 5600 / 61850 = 0.09054, R_t = 2 / 0.120 = 16.667
//	Im   = D·l_m·F_em / R_d            = 0.227 · 2 · 5600 / 2.77       = 917.8 lb
//	Is   = D·l_s·F_es / R_d            = 0.227 · 0.120 · 61850 / 2.77  = 608.2 lb
//	k1   = 0.6123: II   = k1·D·l_s·F_es / 2.77                         = 372.5 lb
//	k2   = 0.5132: IIIm = k2·D·l_m·F_em / (1.1811 · 2.77)              = 398.8 lb
//	k3   = −1 + √(2·1.09054/0.09054 + 2·60000·2.09054·0.05153 / (3·5600·0.0144)) = 7.8047
//	IIIs = k3·D·l_s·F_em / (2.09054 · 2.77)                            = 205.6 lb
//	IV   = D²/2.77 · √(2·5600·60000 / (3·1.09054))                     = 266.6 lb
//
// R_d is K_D = 10·0.227 + 0.5 = 2.77, since the root is below 1/4 in (table
// 12.3.1B). The least is IIIs, 205.6 lb.
func TestYieldByHand(t *testing.T) {
	j := Joint{Diameter: 0.3125, Root: 0.227, Side: 0.120, Main: 2, SideFe: 61_850, MainFe: Bearing(0.50, 0.3125, false),
		Bending: BendingYield(catalog.Lag, 0.3125)}
	z, mode := j.Yield()
	near(t, "Z", z, 205.6, 0.1)
	if mode != "IIIs" {
		t.Error(mode)
	}
	// In newtons, with the grain: 205.6 · 4.4482 = 914.6.
	lag := catalog.Item{Kind: catalog.Lag, Diameter: quantity.Inch * 5 / 16}
	l := NewLateral(&lag, 0.50, quantity.Inch*12/100, 0, 2*quantity.Inch, true)
	near(t, "Z", l.Holds(1, 0), 914.6, 1)
	// Across it F_em is 6100·0.5^1.45/√0.3125 = 3994 psi and R_d 2.77 · 1.25 =
	// 3.4625; in between Hankinson, less than with it and more than across.
	across, aslant := l.Holds(0, 1), l.Holds(1, 1)
	j.MainFe, j.Angle = Bearing(0.50, 0.3125, true), 90
	z, _ = j.Yield()
	near(t, "across the grain", across, z*newtonsPerPoundForce, 0.01)
	if !(across < aslant && aslant < l.Holds(1, 0)) {
		t.Errorf("%g across, %g aslant", across, aslant)
	}
}

// TestYieldAgainstTheStandard: over random joints the general form without a
// gap is the closed equations of NDS 12.3.1; a gap only weakens.
func TestYieldAgainstTheStandard(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 5))
	modes := map[string]int{}
	for range 3000 {
		d := 0.25 + r.Float64()*0.25
		j := Joint{Diameter: d, Root: Root(catalog.Lag, d), Side: 0.05 + r.Float64()*0.8, Main: 0.3 + 3*r.Float64(),
			SideFe: 3000 + 60_000*r.Float64(), MainFe: Bearing(0.35+r.Float64()*0.4, d, false), Bending: BendingYield(catalog.Lag, d)}
		z, mode := j.Yield()
		modes[mode]++
		dr, ls, lm, fem, fes, fyb := j.Root, j.Side, j.Main, j.MainFe, j.SideFe, j.Bending
		re, rt := fem/fes, lm/ls
		k1 := (math.Sqrt(re+2*re*re*(1+rt+rt*rt)+rt*rt*re*re*re) - re*(1+rt)) / (1 + re)
		k2 := -1 + math.Sqrt(2*(1+re)+2*fyb*(1+2*re)*dr*dr/(3*fem*lm*lm))
		k3 := -1 + math.Sqrt(2*(1+re)/re+2*fyb*(2+re)*dr*dr/(3*fem*ls*ls))
		r1, r2, r3 := 4.0, 3.6, 3.2
		if dr < 0.25 {
			r1 = 10*dr + 0.5
			if dr <= 0.17 {
				r1 = 2.2
			}
			r2, r3 = r1, r1
		}
		want := min(dr*lm*fem/r1, dr*ls*fes/r1, k1*dr*ls*fes/r2, k2*dr*lm*fem/((1+2*re)*r3), k3*dr*ls*fem/((2+re)*r3),
			dr*dr/r3*math.Sqrt(2*fem*fyb/(3*(1+re))))
		if math.Abs(z-want) > 1e-9*want {
			t.Fatalf("%+v: %g by %s, the standard %g", j, z, mode, want)
		}
		j.Gap = r.Float64()
		if gapped, _ := j.Yield(); gapped > z*(1+1e-12) {
			t.Fatalf("%+v: a gap makes it stronger", j)
		}
	}
	if len(modes) < 4 {
		t.Errorf("only the modes %v were met", modes)
	}
}

// TestCombined: by hand. W'p 1000 N, Z' 500 N, pulled with 300 and across with
// 400: the load is 500 at cos α 0.8, sin α 0.6; Z'α = 1000·500 / (1000·0.64 +
// 500·0.36) = 609.8, so 500/609.8 = 0.82. NDS 12.4.1.
func TestCombined(t *testing.T) {
	near(t, "both", WoodUtilisation(300, 400, 1000, 500), 0.82, 1e-9)
	near(t, "pull alone", WoodUtilisation(300, 0, 1000, 500), 0.3, 1e-9)
	near(t, "across alone", WoodUtilisation(0, 400, 1000, 500), 0.8, 1e-9)
	// Pulled with 5 and across with 50 of 1000 and 100: the formula alone gives 0.4980.
	near(t, "across with a small pull", WoodUtilisation(5, 50, 1000, 100), 0.5, 1e-9)
	near(t, "nothing", WoodUtilisation(0, 0, 0, 0), 0, 0)
	if !math.IsInf(WoodUtilisation(1, 1, 0, 500), 1) || !math.IsInf(AnchorUtilisation(1, 1, 0, 5), 1) {
		t.Error("what holds nothing carries a load")
	}
	// 300/1200 + 400/2000 = 0.45 (practice).
	near(t, "anchor", AnchorUtilisation(300, 400, 1200, 2000), 0.45, 1e-9)
}

// TestFastenerTables: values of the standard's tables (memory); those of single fasteners are in TestTables.
func TestFastenerTables(t *testing.T) {
	near(t, "with the grain", Bearing(0.5, 0.3125, false), 5600, 1e-9)
	near(t, "across the grain", Bearing(0.5, 0.25, true), 4450, 20) // NDS table 12.3.3 gives 4450
	near(t, "small", Bearing(0.5, 0.19, false), 4650, 15)           // and 4650
}

// TestDegreesUp against the library's arc tangent.
func TestDegreesUp(t *testing.T) {
	for i := 1; i < 90_000; i++ {
		angle := float64(i) / 1000
		along, across := math.Cos(angle*math.Pi/180), math.Sin(angle*math.Pi/180)
		got := degreesUp(across, along)
		if want := math.Ceil(angle - 1e-9); float64(got) != want && i%1000 != 0 { // a whole degree is either side of itself
			t.Fatalf("%g° is up to %d°", angle, got)
		}
	}
	if degreesUp(1, 0) != 90 || degreesUp(0, 1) != 0 {
		t.Error(degreesUp(1, 0), degreesUp(0, 1))
	}
}

// TestAcrossTheGrainHoldsLeast: what a lag or screw holds falls from along the
// grain to across it, so that of two whole degrees the upper counts.
func TestAcrossTheGrainHoldsLeast(t *testing.T) {
	for _, kind := range []catalog.ItemKind{catalog.Lag, catalog.Screw} {
		for d := int64(4); d <= 12; d++ {
			for _, in := range []int64{10, 30, 60} {
				for _, gap := range []int64{0, 12, 40} {
					l := NewLateral(&catalog.Item{Kind: kind, Diameter: mm(d), Length: mm(80)}, 0.42, mm(3), mm(gap), mm(in), true)
					for degrees := 1; degrees <= 90; degrees++ {
						if l.at(degrees) > l.at(degrees-1)*(1+1e-12) {
							t.Errorf("%s %d: more at %d° than at %d°", kind, d, degrees, degrees-1)
						}
					}
				}
			}
		}
	}
}
