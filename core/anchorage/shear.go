package anchorage

import (
	"math"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Joint is a fastener through a thin side plate into wood, in single
// shear. Lengths are in inches, strengths in pounds per square inch.
type Joint struct {
	Diameter   float64 // nominal, for the bearing of wood across the grain
	Root       float64 // of the thread, which is in the shear plane
	Side, Main float64 // thickness of the side plate; length in the wood without the tip
	Gap        float64 // between them: the wall's covering, without strength
	SideFe     float64 // bearing strength of the side plate
	MainFe     float64 // and of the wood
	Bending    float64 // yield strength of the fastener, F_yb
	Angle      float64 // of the load to the grain, degrees
}

// SteelBearing is F_es of thin sheet steel, ASTM A653 grade 33, psi (NDS table
// 12K, memory).
const SteelBearing = 61_850

// quarterInch is the nominal diameter from which the grain's direction counts.
const quarterInch = 0.25

// Bearing returns the dowel bearing strength F_e of a wood, psi: 11200·G with the
// grain and 6100·G^1.45/√D across it, and 16600·G^1.84 for fasteners under 1/4
// in (NDS table 12.3.3, memory).
func Bearing(g, d float64, across bool) float64 {
	switch {
	case d < quarterInch:
		return 16_600 * math.Pow(g, 1.84)
	case across:
		return 6_100 * math.Pow(g, 1.45) / math.Sqrt(d)
	}
	return 11_200 * g
}

// BendingYield returns F_yb of a lag or a wood screw by its diameter in inches, psi
// (NDS tables 12K and 12M, notes, memory).
func BendingYield(kind catalog.ItemKind, d float64) float64 {
	if kind == catalog.Lag {
		switch {
		case d < 0.28:
			return 70_000
		case d < 0.344:
			return 60_000
		}
		return 45_000
	}
	for _, x := range []struct{ upTo, psi float64 }{{0.142, 100_000}, {0.177, 90_000}, {0.236, 80_000}, {0.273, 70_000}, {0.344, 60_000}} {
		if d <= x.upTo {
			return x.psi
		}
	}
	return 45_000
}

// Root diameters by nominal ones, in inches, of lags and of wood screws (NDS
// appendix L, memory); between sizes and beyond them in proportion.
var (
	lagRoots   = [][2]float64{{0, 0}, {0.25, 0.173}, {0.3125, 0.227}, {0.375, 0.265}, {0.5, 0.371}}
	screwRoots = [][2]float64{{0, 0}, {0.138, 0.113}, {0.164, 0.131}, {0.19, 0.152}, {0.216, 0.171}, {0.242, 0.196}, {0.268, 0.209},
		{0.294, 0.232}, {0.32, 0.255}, {0.372, 0.298}}
)

// Root returns the thread's root diameter of a lag or a wood screw, in inches. A
// lag of 8 mm counts as one of 5/16 in.
func Root(kind catalog.ItemKind, d float64) float64 {
	table := lagRoots
	if kind == catalog.Screw {
		table = screwRoots
	} else if math.Abs(d-8/25.4) < 1e-9 {
		d = 0.3125
	}
	for i := 1; i < len(table); i++ {
		if a, b := table[i-1], table[i]; d <= b[0] {
			return a[1] + (d-a[0])*(b[1]-a[1])/(b[0]-a[0])
		}
	}
	last := table[len(table)-1]
	return d * last[1] / last[0]
}

// Modes are the ways a joint can yield, in the order of [Joint.Yield].
var Modes = []string{"Im", "Is", "II", "IIIm", "IIIs", "IV"}

// Yield returns the reference lateral design value in pounds, the least over the
// yield modes, and the name of that mode. It uses the yield limit equations
// (NDS 12.3) in the general form that allows a gap (AWC Technical Report 12,
// memory); without a gap the two are the same.
func (j Joint) Yield() (z float64, mode string) {
	qs, qm := j.SideFe*j.Root, j.MainFe*j.Root
	m := j.Bending * math.Pow(j.Root, 3) / 6
	quadratic := func(a, b, c float64) float64 { return (-b + math.Sqrt(b*b-4*a*c)) / (2 * a) }
	all := [...]float64{
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

// reduction returns R_d of a mode (NDS table 12.3.1B, memory): below 1/4 in of root
// K_D·K_θ, with K_D 2.2 to 0.17 in and 10·D_r + 0.5 above; else 4, 3.6 or 3.2
// times K_θ = 1 + θ/360°. Fasteners under 1/4 in nominal have no K_θ: the wood bears them the same in
// every direction.
func (j Joint) reduction(mode int) float64 {
	k := 1.0
	if j.Diameter >= quarterInch {
		k += j.Angle / 360
	}
	switch {
	case j.Root <= 0.17:
		return 2.2 * k
	case j.Root < 0.25:
		return (10*j.Root + 0.5) * k
	}
	return [...]float64{4, 4, 3.6, 3.2, 3.2, 3.2}[mode] * k
}

// Lateral is the reference lateral design value of one lag or screw, in newtons,
// by the angle of the load to the grain: the wood's bearing strength at an
// angle by Hankinson's formula (NDS 12.3-11). Values are computed when needed,
// for whole degrees; between these the lesser counts.
type Lateral struct {
	joint         Joint
	along, across float64 // the wood's bearing strength with the grain, and across it
	least         bool    // the grain's direction is not known: the weakest angle
	known         [91]bool
	reference     [91]float64
	weakest       float64
	left          float64 // the share of the strength that hole and wood leave
}

// NewLateral returns the lateral strength of a lag or screw through a side plate and
// a gap without strength into wood of specific gravity g; 0 if nothing is
// in the wood.
func NewLateral(i *catalog.Item, g float64, side, gap, inWood quantity.Length, grain bool) *Lateral {
	d := inches(i.Diameter)
	root := Root(i.Kind, d)
	if said := i.SoundRoot(); said > 0 {
		root = inches(said)
	}
	l := &Lateral{left: 1, along: Bearing(g, d, false), across: Bearing(g, d, true), least: !grain,
		joint: Joint{Diameter: d, Root: root, Side: inches(side), Main: inches(inWood), Gap: inches(gap), SideFe: SteelBearing,
			Bending: BendingYield(i.Kind, d)}}
	if side <= 0 || inWood <= 0 {
		l.joint.Main = 0
	}
	if l.least {
		l.weakest = math.Inf(1)
		for degrees := range l.reference {
			l.weakest = min(l.weakest, l.at(degrees))
		}
	}
	return l
}

func (l *Lateral) at(degrees int) float64 {
	if l.joint.Main <= 0 {
		return 0
	}
	if !l.known[degrees] {
		j := l.joint
		j.Angle = float64(degrees)
		sin, cos := math.Sincos(j.Angle * math.Pi / 180)
		j.MainFe = l.along * l.across / (l.along*sin*sin + l.across*cos*cos)
		z, _ := j.Yield()
		l.known[degrees], l.reference[degrees] = true, z*newtonsPerPoundForce*l.left
	}
	return l.reference[degrees]
}

// Holds returns the reference value under a load with components along the grain of
// a stud and across it.
func (l *Lateral) Holds(along, across float64) float64 {
	if l.least {
		return l.weakest
	}
	if along == 0 && across == 0 {
		return l.at(0)
	}
	if across == 0 {
		return l.at(0)
	}
	along, across = math.Abs(along), math.Abs(across)
	return l.at(degreesUp(across, along)) // the strength decreases with the angle
}

// degreesUp is the angle of a way, up to whole degrees; exactly, by the tangents.
func degreesUp(across, along float64) int {
	ratio := across / along
	n := int(math.Atan(ratio) * 180 / math.Pi)
	for n < 90 && tangents[n] < ratio {
		n++
	}
	for n > 0 && tangents[n-1] >= ratio {
		n--
	}
	return n
}

// tangents are those of whole degrees, 90 being beyond any.
var tangents = func() (t [91]float64) {
	for i := range t {
		t[i] = math.Tan(float64(i) * math.Pi / 180)
	}
	t[90] = math.Inf(1)
	return t
}()

// WoodUtilisation returns the utilisation of a fastener in wood by a pull and
// a shear: Z'α = W'p·Z' / (W'p·cos²α + Z'·sin²α), with α the load's
// angle from the surface (NDS 12.4.1); never less than that of either alone, which the
// formula can give for a small pull.
func WoodUtilisation(pull, shear, holdsPull, holdsShear float64) float64 {
	load := math.Sqrt(pull*pull + shear*shear)
	if load == 0 {
		return 0
	}
	if holdsPull <= 0 || holdsShear <= 0 {
		return math.Inf(1)
	}
	ofPull, ofShear := pull/holdsPull, shear/holdsShear
	return max((ofPull*pull+ofShear*shear)/load, ofPull, ofShear)
}

// AnchorUtilisation returns the utilisation of an anchor: N/N_r +
// V/V_r (practice).
func AnchorUtilisation(pull, shear, ratedPull, ratedShear float64) float64 {
	if pull == 0 && shear == 0 {
		return 0
	}
	if ratedPull <= 0 || ratedShear <= 0 {
		return math.Inf(1)
	}
	return pull/ratedPull + shear/ratedShear
}

// Newtons returns the weight of a mass at standard gravity, 9.80665 m/s².
func Newtons(m quantity.Mass) float64 { return m.Kilograms() * 9.80665 }
