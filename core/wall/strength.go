package wall

import (
	"math"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Gravity is the specific gravity G of a wood (NDS table 12.3.3A, memory); 0
// for one that is not known.
func Gravity(species string) float64 {
	return map[string]float64{"": 0.42, "spruce_pine_fir": 0.42, "hem_fir": 0.43, "douglas_fir_larch": 0.50, "southern_pine": 0.55}[species]
}

// Permanent is the factor of a permanent load (NDS table 2.3.2, memory).
const Permanent = 0.9

// newton is a pound-force, in newtons.
const newton = 4.4482216152605

// LagWithdrawal is the reference withdrawal design value of a lag screw in
// side grain, in pounds for an inch of thread: W = 1800·G^1.5·D^0.75, D in
// inches (NDS 12.2-1).
func LagWithdrawal(g float64, d quantity.Length) float64 {
	return 1800 * math.Pow(g, 1.5) * math.Pow(float64(d)/float64(quantity.Inch), 0.75)
}

// LagUltimate is what a lag screw comes out at, in pounds for an inch of
// thread: 8100·G^1.5·D^0.75 (USDA Wood Handbook), 4.5 times the design value.
func LagUltimate(g float64, d quantity.Length) float64 { return 4.5 * LagWithdrawal(g, d) }

// WoodScrewWithdrawal is the design value of a wood screw, in pounds for an
// inch of thread: W = 2850·G²·D (NDS 12.2-2).
func WoodScrewWithdrawal(g float64, d quantity.Length) float64 {
	return 2850 * g * g * float64(d) / float64(quantity.Inch)
}

// LagTip is the length of a lag's tapered tip, which does not hold: 5/32 in for
// 1/4, 3/16 for 5/16, 7/32 for 3/8 (NDS appendix L, memory), in between and
// beyond in proportion.
func LagTip(d quantity.Length) quantity.Length {
	return d/2 + quantity.Inch/32
}

// Threaded is how much of a lag or screw of a length is threaded, its tip
// included, where nobody says: half its length and 1/2 in, up to 6 in (NDS
// appendix L, memory); of a wood screw two thirds (practice).
func Threaded(kind catalog.ItemKind, length quantity.Length) quantity.Length {
	if kind == "screw" {
		return length * 2 / 3
	}
	return min(length, length/2+quantity.Inch/2, 6*quantity.Inch)
}

// Pilot is the range of the pilot hole for the threaded part of a lag: 40 to 70
// hundredths of its diameter for G up to 0.5, 60 to 75 up to 0.6, 65 to 85 above
// (NDS 12.1.4, memory).
func Pilot(g float64, d quantity.Length) (lo, hi quantity.Length) {
	share := func(percent quantity.Length) quantity.Length { return d * percent / 100 }
	switch {
	case g <= 0.5:
		return share(40), share(70)
	case g <= 0.6:
		return share(60), share(75)
	}
	return share(65), share(85)
}

// Load is a weight on the plate: its mass, and how far its centre of gravity
// is from the wall.
type Load struct {
	Mass quantity.Mass
	Out  quantity.Length
}

// Pull is what a plate turning about its lower edge asks of a fastener, in
// newtons: T_i = M·y_i / Σy_i², with M the loads' moment about the wall and y
// the fasteners' heights above the edge.
func Pull(loads []Load, heights []quantity.Length) []float64 {
	moment, sum := 0.0, 0.0
	for _, l := range loads {
		moment += Newtons(l.Mass) * l.Out.MM()
	}
	for _, y := range heights {
		sum += max(0, y.MM()) * max(0, y.MM())
	}
	out := make([]float64, len(heights))
	for i, y := range heights {
		if sum > 0 {
			out[i] = moment * max(0, y.MM()) / sum
		}
	}
	return out
}

// LagHolds is the design withdrawal of one lag under a permanent load, in
// newtons, with a length of thread in the wood.
func LagHolds(g float64, d, thread quantity.Length) float64 {
	return Permanent * LagWithdrawal(g, d) * max(0, float64(thread)/float64(quantity.Inch)) * newton
}

// ScrewHolds is the design withdrawal of one wood screw under a permanent
// load, in newtons, with a length of thread in the wood.
func ScrewHolds(g float64, d, thread quantity.Length) float64 {
	return Permanent * WoodScrewWithdrawal(g, d) * max(0, float64(thread)/float64(quantity.Inch)) * newton
}
