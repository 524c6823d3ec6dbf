package wall

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
//	Im   = D·l_m·F_em / 4              = 0.227 · 2 · 5600 / 4          = 635.6 lb
//	Is   = D·l_s·F_es / 4              = 0.227 · 0.120 · 61850 / 4     = 421.2 lb
//	k1   = 0.6123: II   = k1·D·l_s·F_es / 3.6                          = 286.6 lb
//	k2   = 0.5132: IIIm = k2·D·l_m·F_em / (1.1811 · 3.2)               = 345.2 lb
//	k3   = −1 + √(2·1.09054/0.09054 + 2·60000·2.09054·0.05153 / (3·5600·0.0144)) = 7.8047
//	IIIs = k3·D·l_s·F_em / (2.09054 · 3.2)                             = 178.0 lb
//	IV   = D²/3.2 · √(2·5600·60000 / (3·1.09054))                      = 230.8 lb
//
// The least is IIIs, 178.0 lb.
func TestYieldByHand(t *testing.T) {
	j := Joint{Diameter: 0.3125, Root: 0.227, Side: 0.120, Main: 2, SideFe: 61_850, MainFe: Bearing(0.50, 0.3125, false), Bending: BendingYield(0.3125)}
	z, mode := j.Yield()
	near(t, "Z", z, 178.0, 0.1)
	if mode != "IIIs" {
		t.Error(mode)
	}
	// Under a permanent load, in newtons: 178.0 · 0.9 · 4.4482 = 712.5.
	near(t, "Z'", Shear(0.50, quantity.Inch*5/16, quantity.Inch*12/100, 0, 2*quantity.Inch, false), 712.5, 1)
}

// TestYieldAgainstTheStandard: over random joints the general form without a
// gap is the closed equations of NDS 12.3.1; a gap only weakens.
func TestYieldAgainstTheStandard(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 5))
	modes := map[string]int{}
	for range 3000 {
		d := 0.25 + r.Float64()*0.25
		j := Joint{Diameter: d, Root: Root(d), Side: 0.05 + r.Float64()*0.8, Main: 0.3 + 3*r.Float64(), SideFe: 3000 + 60_000*r.Float64(), MainFe: Bearing(0.35+r.Float64()*0.4, d, false), Bending: BendingYield(d)}
		z, mode := j.Yield()
		modes[mode]++
		dr, ls, lm, fem, fes, fyb := j.Root, j.Side, j.Main, j.MainFe, j.SideFe, j.Bending
		re, rt := fem/fes, lm/ls
		k1 := (math.Sqrt(re+2*re*re*(1+rt+rt*rt)+rt*rt*re*re*re) - re*(1+rt)) / (1 + re)
		k2 := -1 + math.Sqrt(2*(1+re)+2*fyb*(1+2*re)*dr*dr/(3*fem*lm*lm))
		k3 := -1 + math.Sqrt(2*(1+re)/re+2*fyb*(2+re)*dr*dr/(3*fem*ls*ls))
		want := min(dr*lm*fem/4, dr*ls*fes/4, k1*dr*ls*fes/3.6, k2*dr*lm*fem/((1+2*re)*3.2), k3*dr*ls*fem/((2+re)*3.2), dr*dr/3.2*math.Sqrt(2*fem*fyb/(3*(1+re))))
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
	near(t, "both", Combined(300, 400, 1000, 500), 0.82, 1e-9)
	near(t, "pull alone", Combined(300, 0, 1000, 500), 0.3, 1e-9)
	near(t, "across alone", Combined(0, 400, 1000, 500), 0.8, 1e-9)
	// Pulled with 5 and across with 50 of 1000 and 100: the formula alone gives 0.4980.
	near(t, "across with a small pull", Combined(5, 50, 1000, 100), 0.5, 1e-9)
	near(t, "nothing", Combined(0, 0, 0, 0), 0, 0)
	if !math.IsInf(Combined(1, 1, 0, 500), 1) || !math.IsInf(Anchored(1, 1, 0, 5), 1) {
		t.Error("what holds nothing carries a load")
	}
	// 300/1200 + 400/2000 = 0.45 (practice).
	near(t, "anchor", Anchored(300, 400, 1200, 2000), 0.45, 1e-9)
}

// TestAcross: by hand. 200 N on four fasteners 400 apart across and 200 down is
// 50 N each; 100 aside of their middle turns them: Σr² = 4·(200² + 100²) =
// 200000, so 200·100/200000 = 0.1 N a mm. On the load's side 50 + 20 = 70 down
// and 10 across: 70.71; on the other 30 and 10: 31.62.
func TestAcross(t *testing.T) {
	x := []quantity.Length{mm(-200), mm(200), mm(-200), mm(200)}
	y := []quantity.Length{mm(100), mm(100), mm(-100), mm(-100)}
	for i, got := range Across(200, 0, x, y) {
		near(t, "straight", got, 50, 1e-9)
		_ = i
	}
	got := Across(200, mm(100), x, y)
	near(t, "far", got[0], math.Hypot(30, 10), 1e-9)
	near(t, "near", got[1], math.Hypot(70, 10), 1e-9)
	near(t, "one fastener", Across(200, mm(100), x[:1], y[:1])[0], 200, 1e-9)
}

// TestFastenerTables: values of the standard's tables (memory).
func TestFastenerTables(t *testing.T) {
	for d, want := range map[float64]float64{0.25: 0.173, 0.3125: 0.227, 0.375: 0.265} {
		near(t, "root", Root(d), want, 1e-9)
	}
	for d, want := range map[float64]float64{0.138: 100_000, 0.164: 90_000, 0.19: 80_000, 0.25: 70_000, 0.3125: 60_000, 0.375: 45_000} {
		near(t, "bending", BendingYield(d), want, 0)
	}
	near(t, "with the grain", Bearing(0.5, 0.3125, false), 5600, 1e-9)
	near(t, "across the grain", Bearing(0.5, 0.25, true), 4450, 20) // NDS table 12.3.3 gives 4450
	near(t, "small", Bearing(0.5, 0.19, false), 4650, 15)           // and 4650
	if Shear(0.42, mm(8), mm(3), 0, mm(31), false) != 0 || Shear(0.42, mm(8), mm(3), 0, mm(33), false) == 0 {
		t.Error("a lag counts across from four diameters in the wood")
	}
}

func TestStudsFromOutlet(t *testing.T) {
	w := &catalog.Wall{Width: quantity.Some(mm(2000)), Outlets: []catalog.Outlet{{X: mm(900), Y: mm(300), Stud: "left"}},
		Studs: &catalog.Studs{Outlet: quantity.Some(0), Spacing: quantity.Some(mm(400)), Width: quantity.Some(mm(38))}}
	// 900 − 28.5 − 19 = 852.5, and every 400 to both sides.
	got := Studs(w, 0)
	if len(got) != 5 || got[0].X != 52_500_000 || got[2].X != 852_500_000 {
		t.Errorf("%+v", got)
	}
	w.Studs.Spacing = quantity.Optional[quantity.Length]{}
	w.Outlets[0].Stud = "right"
	if got := Studs(w, 0); len(got) != 1 || got[0].X != 947_500_000 {
		t.Errorf("%+v", got)
	}
	w.Outlets[0].Stud = ""
	if got := Studs(w, 0); len(got) != 0 {
		t.Errorf("an outlet that does not say where its stud is tells %v", got)
	}
}
