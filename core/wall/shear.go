package wall

import (
	"math"

	"nexufix/core/quantity"
)

// Joint is a fastener through a thin side plate into wood, across which a load
// acts: single shear. Lengths in inches, strengths in pounds per square inch.
type Joint struct {
	Diameter   float64 // nominal, for the bearing of wood across the grain and the reduction
	Root       float64 // of the thread, which is in the shear plane
	Side, Main float64 // thickness of the side plate; length in the wood, the tip not counted
	Gap        float64 // between them: the wall's covering, which holds nothing
	SideFe     float64 // bearing strength of the side plate
	MainFe     float64 // and of the wood
	Bending    float64 // yield strength of the fastener, F_yb
	Across     bool    // the load acts across the grain
}

// Strengths that are assumed unless told otherwise (NDS tables 12.3.3 and 12K,
// memory).
const (
	SteelBearing = 61_850 // thin sheet steel, ASTM A653 grade 33
	leastDepth   = 4      // diameters in the wood before a lag counts across (NDS 12.1.4.6, memory)
)

// Bearing is the dowel bearing strength F_e of a wood, psi: 11200·G with the
// grain and 6100·G^1.45/√D across it, and 16600·G^1.84 for fasteners under 1/4
// in (NDS table 12.3.3, memory).
func Bearing(g, d float64, across bool) float64 {
	switch {
	case d < 0.25:
		return 16_600 * math.Pow(g, 1.84)
	case across:
		return 6_100 * math.Pow(g, 1.45) / math.Sqrt(d)
	}
	return 11_200 * g
}

// BendingYield is F_yb of a lag or wood screw by its diameter in inches, psi
// (NDS tables 12K and 12M, notes, memory).
func BendingYield(d float64) float64 {
	for _, x := range []struct{ upTo, psi float64 }{{0.142, 100_000}, {0.177, 90_000}, {0.236, 80_000}, {0.273, 70_000}, {0.344, 60_000}} {
		if d <= x.upTo {
			return x.psi
		}
	}
	return 45_000
}

// Root is the thread's root diameter of a lag, in inches: 0.173 for 1/4, 0.227
// for 5/16, 0.265 for 3/8 (NDS appendix L, memory), in between and beyond in
// proportion.
func Root(d float64) float64 {
	table := [][2]float64{{0, 0}, {0.25, 0.173}, {0.3125, 0.227}, {0.375, 0.265}, {0.5, 0.371}}
	for i := 1; i < len(table); i++ {
		if a, b := table[i-1], table[i]; d <= b[0] {
			return a[1] + (d-a[0])*(b[1]-a[1])/(b[0]-a[0])
		}
	}
	return d * 0.742
}

// Modes are the ways a joint can yield, in the order of [Joint.Yield].
var Modes = []string{"Im", "Is", "II", "IIIm", "IIIs", "IV"}

// Yield is the reference lateral design value in pounds, the least over the
// ways a joint can yield, and that way's name. It is the yield limit equations
// (NDS 12.3) in the general form that allows a gap (AWC Technical Report 12,
// memory); without a gap the two are the same.
func (j Joint) Yield() (z float64, mode string) {
	qs, qm := j.SideFe*j.Root, j.MainFe*j.Root
	m := j.Bending * math.Pow(j.Root, 3) / 6
	quadratic := func(a, b, c float64) float64 { return (-b + math.Sqrt(b*b-4*a*c)) / (2 * a) }
	all := []float64{
		qm * j.Main,
		qs * j.Side,
		quadratic(1/(4*qs)+1/(4*qm), j.Side/2+j.Gap+j.Main/2, -qs*j.Side*j.Side/4-qm*j.Main*j.Main/4),
		quadratic(1/(2*qs)+1/(4*qm), j.Gap+j.Main/2, -m-qm*j.Main*j.Main/4),
		quadratic(1/(4*qs)+1/(2*qm), j.Side/2+j.Gap, -qs*j.Side*j.Side/4-m),
		quadratic(1/(2*qs)+1/(2*qm), j.Gap, -2*m),
	}
	z = math.Inf(1)
	for i, p := range all {
		if v := p / j.reduction(i); v < z {
			z, mode = v, Modes[i]
		}
	}
	return z, mode
}

// reduction is R_d of a mode (NDS table 12.3.1B, memory).
func (j Joint) reduction(mode int) float64 {
	switch {
	case j.Diameter <= 0.17:
		return 2.2
	case j.Diameter < 0.25:
		return 10*j.Diameter + 0.5
	}
	k := 1.0
	if j.Across {
		k = 1.25
	}
	return []float64{4, 4, 3.6, 3.2, 3.2, 3.2}[mode] * k
}

// Shear is the design value across a lag or screw under a permanent load, in
// newtons: 0 when too little of it is in the wood.
func Shear(g float64, d, side, gap, inWood quantity.Length, across bool) float64 {
	in := func(l quantity.Length) float64 { return float64(l) / float64(quantity.Inch) }
	if inWood < leastDepth*d || side <= 0 {
		return 0
	}
	j := Joint{Diameter: in(d), Root: Root(in(d)), Side: in(side), Main: in(inWood), Gap: in(gap),
		SideFe: SteelBearing, MainFe: Bearing(g, in(d), across), Bending: BendingYield(in(d)), Across: across}
	z, _ := j.Yield()
	return Permanent * z * newton
}

// Combined is the share of its strength that a fastener in wood is asked for
// by a pull and a load across it: Z'α = W'p·Z' / (W'p·cos²α + Z'·sin²α), with α
// the load's angle from the surface (NDS 12.4.1); never less than either alone,
// which that formula can give where the pull is small.
func Combined(pull, across, holds, shear float64) float64 {
	load := math.Hypot(pull, across)
	if load == 0 {
		return 0
	}
	if holds <= 0 || shear <= 0 {
		return math.Inf(1)
	}
	cos, sin := across/load, pull/load
	return max(load*(holds*cos*cos+shear*sin*sin)/(holds*shear), pull/holds, across/shear)
}

// Anchored is the share of its rating that an anchor is asked for: N/N_r +
// V/V_r (practice).
func Anchored(pull, across, ratedPull, ratedShear float64) float64 {
	if ratedPull <= 0 || ratedShear <= 0 {
		return math.Inf(1)
	}
	return pull/ratedPull + across/ratedShear
}

// Ultimate is what an anchor's ultimate figure is divided by for use
// (practice).
const Ultimate = 4

// Newtons is the weight of a mass.
func Newtons(m quantity.Mass) float64 { return m.Kilograms() * 9.80665 }

// Across is what a weight, its middle aside from the fasteners' middle, asks of
// each fastener across it, in newtons: its share P/n, and P·x·r_i/Σr_i² about
// the middle, at right angles to the way there.
func Across(weight float64, aside quantity.Length, x, y []quantity.Length) []float64 {
	n := float64(len(x))
	out := make([]float64, len(x))
	mx, my := 0.0, 0.0
	for i := range x {
		mx, my = mx+x[i].MM()/n, my+y[i].MM()/n
	}
	sum := 0.0
	for i := range x {
		sum += (x[i].MM()-mx)*(x[i].MM()-mx) + (y[i].MM()-my)*(y[i].MM()-my)
	}
	for i := range x {
		rx, ry := x[i].MM()-mx, y[i].MM()-my
		turn := 0.0
		if sum > 0 {
			turn = weight * aside.MM() / sum
		}
		out[i] = math.Hypot(turn*ry, weight/n+turn*rx)
	}
	return out
}
