package anchorage

import (
	"math"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// SpecificGravity returns G of a wood (NDS table 12.3.3A, memory); that of spruce-pine-fir
// for none, 0 for an unknown one.
func SpecificGravity(species string) float64 {
	return map[string]float64{"": 0.42, "spruce_pine_fir": 0.42, "hem_fir": 0.43, "douglas_fir_larch": 0.50, "southern_pine": 0.55}[species]
}

// newtonsPerPoundForce is a pound-force, in newtons.
const newtonsPerPoundForce = 4.4482216152605

func inches(l quantity.Length) float64 { return float64(l) / float64(quantity.Inch) }

// LagWithdrawal returns the reference withdrawal design value of a lag screw in
// side grain, in pounds for an inch of thread: W = 1800·G^1.5·D^0.75, D in
// inches (NDS 12.2-1).
func LagWithdrawal(g float64, d quantity.Length) float64 {
	return 1800 * math.Pow(g, 1.5) * math.Pow(inches(d), 0.75)
}

// Ultimates of lags and screws, as multiples of their design values:
// 8100·G^1.5·D^0.75 and 15,700·G²·D (USDA Wood Handbook); in shear four times
// (practice).
const (
	lagUltimate   = 4.5
	screwUltimate = 5.5
	shearUltimate = 4
)

// LagUltimate returns the ultimate withdrawal of a lag screw, in pounds for an inch of thread.
func LagUltimate(g float64, d quantity.Length) float64 { return lagUltimate * LagWithdrawal(g, d) }

// WoodScrewWithdrawal returns the design value of a wood screw, in pounds for an
// inch of thread: W = 2850·G²·D (NDS 12.2-2).
func WoodScrewWithdrawal(g float64, d quantity.Length) float64 {
	return 2850 * g * g * inches(d)
}

// LagTip returns the length of a lag's tapered tip, which does not count: 5/32 in for
// 1/4, 3/16 for 5/16, 7/32 for 3/8 (NDS appendix L, memory), in between and
// beyond in proportion.
func LagTip(d quantity.Length) quantity.Length {
	return d/2 + quantity.Inch/32
}

// Threaded returns the length of the thread of a lag or screw, with its
// tip, if it is not given: half its length and 1/2 in, up to 6 in (NDS
// appendix L, memory); of a wood screw two thirds (practice).
func Threaded(kind catalog.ItemKind, length quantity.Length) quantity.Length {
	if kind == catalog.Screw {
		return length * 2 / 3
	}
	return min(length, length/2+quantity.Inch/2, 6*quantity.Inch)
}

// Pilot returns the range of the pilot hole for the threaded part of a lag: 40 to 70
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

// InWood returns the length of a lag or screw in wood of a depth (0: not limited):
// all of it, which counts for shear, and its threaded part, which counts for
// pull. in is the length past covering and cavity, with the tip.
// A lag's tip does not count, nor does what comes out behind.
func InWood(i *catalog.Item, in, wood quantity.Length) (across, threaded quantity.Length) {
	thread := i.ThreadLength
	if thread == 0 {
		thread = Threaded(i.Kind, i.Length)
	}
	smooth := max(0, i.Length-thread) // from the head
	tip := quantity.Length(0)
	if i.Kind == catalog.Lag {
		tip = LagTip(i.Diameter)
	}
	out := quantity.Length(0)
	if wood > 0 {
		out = max(0, in-wood)
	}
	across = max(0, in-max(tip, out))
	// The thread begins at the smooth part's end; this is its part in the wood.
	outside := i.Length - in // plate, washer, covering, cavity
	return across, max(0, min(across, i.Length-max(outside, smooth)-max(tip, out)))
}
