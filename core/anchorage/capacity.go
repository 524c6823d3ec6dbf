package anchorage

import (
	"math"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Situation is the duration of a load, and the strength it is compared with: factors on
// a fastener's design values in wood, on an anchor's rating and on bending.
type Situation struct {
	Name                        string
	wood, shear, anchor, bend   float64
	ultimatePull, ultimateShear bool // of wood, compared with the ultimate
}

// Durations are by NDS table 2.3.2 (memory) in wood; the others practice.
var (
	Permanent = Situation{Name: "permanent", wood: 0.9, shear: 0.9, anchor: 1, bend: 1}
	Aside     = Situation{Name: "aside", wood: 1.25, shear: 1.25, anchor: 1.25, bend: 1.25}  // seven days
	Leaning   = Situation{Name: "handling", wood: 1.6, shear: 1.6, anchor: 1.25, bend: 1.25} // ten minutes
	TypeTest  = Situation{Name: "type test", wood: 1, shear: 1, anchor: 1, bend: 2, ultimatePull: true, ultimateShear: true}
)

// Basis is what kind of figure an anchor's ratings are.
type Basis uint8

// A figure is rated, or ultimate; if its
// basis is not given it is judged both ways.
const (
	Rated Basis = iota
	Ultimate
	Unstated
)

func basisOf(s string) Basis {
	switch s {
	case "rated":
		return Rated
	case "ultimate":
		return Ultimate
	}
	return Unstated
}

// The divisor from an ultimate to a rated figure, and the factor from a rated one
// to the ultimate (practice).
const (
	ultimateBy = 4
	ratedTo    = 2.5
)

// Capacity is the capacity of one fastener.
type Capacity struct {
	Wood bool

	// In wood: reference values in newtons, and the penetration that counts for shear and
	// for pull.
	Pull             float64
	Lateral          *Lateral
	PullUltimate     float64 // times Pull
	Across, Threaded quantity.Length

	// Anchors: the pack's figures in newtons, and their basis.
	RatedPull, RatedShear float64
	Basis                 Basis

	// A fixing that crosses covering and cavity bends; a rigid sleeve does not,
	// but adds a pull.
	Bends        bool
	BendUnknown  bool    // its root diameter is not known
	BendMoment   float64 // V_M, N
	BendTension  float64 // N_s, N
	SleeveLever  float64 // pull caused by one newton of shear
	RootDiameter float64 // d_r, mm
	Lever        float64 // l_a, mm
}

// Design returns the allowable pull and shear in a situation, the
// shear straight down; a figure without a basis is taken as ultimate.
func (c *Capacity) Design(s *Situation) (pull, shear float64) {
	if c.Wood {
		return c.Pull * s.wood, c.Lateral.Holds(1, 0) * s.shear
	}
	f := c.figure(s, Ultimate)
	return c.RatedPull * f, c.RatedShear * f
}

// figure returns the factor on a pack's figure in a situation, with one without a
// basis taken as the given basis.
func (c *Capacity) figure(s *Situation, unstated Basis) float64 {
	basis := c.Basis
	if basis == Unstated {
		basis = unstated
	}
	switch {
	case s.ultimatePull && basis == Rated:
		return ratedTo
	case s.ultimatePull:
		return 1
	case basis == Ultimate:
		return s.anchor / ultimateBy
	}
	return s.anchor
}

// Utilisation returns the utilisation of the fastener by a force; edge
// is the share of its pull that edges and neighbours leave.
func (c *Capacity) Utilisation(f Force, s *Situation, edge float64, unstated Basis) float64 {
	if math.IsInf(f.Pull, 1) || math.IsInf(f.Down, 0) || math.IsInf(f.Right, 0) {
		return math.Inf(1) // no capacity; a formula would give NaN, which compares as less than anything
	}
	if c.Wood {
		pull, shear := c.Pull*s.wood, c.Lateral.Holds(f.Down, f.Right)*s.shear
		if s.ultimatePull {
			pull, shear = c.Pull*c.PullUltimate, shear*shearUltimate
		}
		return WoodUtilisation(f.Pull, f.Shear(), pull, shear)
	}
	shear := f.Shear()
	pull := f.Pull + shear*c.SleeveLever
	by := c.figure(s, unstated)
	own := AnchorUtilisation(pull, shear, c.RatedPull*edge*by, c.RatedShear*by)
	if c.Bends && !c.BendUnknown {
		own = max(own, c.bending(pull, shear, s))
	}
	return own
}

// bending returns the utilisation in bending of a fixing that crosses a cavity:
// V/V_M + N/N_s.
func (c *Capacity) bending(pull, shear float64, s *Situation) float64 {
	if math.IsInf(pull, 1) || math.IsInf(shear, 1) {
		return math.Inf(1)
	}
	return shear/(c.BendMoment*s.bend) + pull/(c.BendTension*s.bend)
}

// woodCapacity returns the capacity of a lag or screw in wood of specific gravity g, of which a share is left: by a wide hole,
// or because the wood is wet or treated.
func woodCapacity(c *Choice, l *Layers, g float64, assumed optional, left float64) Capacity {
	i := &c.Item
	in, _ := l.In(i.Length)
	wood := l.Backing.Value
	across, threaded := InWood(i, in, wood)
	if assumed.Known && assumed.Value < across {
		across = assumed.Value
		_, all := InWood(i, i.Length, 0)
		threaded = min(across, all)
	}
	out := Capacity{Wood: true, Across: across, Threaded: threaded, PullUltimate: lagUltimate}
	perInch := LagWithdrawal(g, i.Diameter)
	if i.Kind == catalog.Screw {
		perInch, out.PullUltimate = WoodScrewWithdrawal(g, i.Diameter), screwUltimate
	}
	out.Pull = perInch * inches(threaded) * newtonsPerPoundForce * left
	before, _ := l.Before()
	out.Lateral = NewLateral(i, g, l.Plate.Value, before, across, c.Wall == catalog.WoodStud)
	out.Lateral.left = left
	out.Lateral.weakest *= left
	return out
}

// anchorCapacity returns an item's capacity by its ratings for a wall; false if it
// has none.
func anchorCapacity(c *Choice, l *Layers) (Capacity, bool) {
	carrier := c.Carrier()
	if c.inSheet() {
		pull, shear := SheetScrew(c.Steel.Or(UsualSteel), c.Item.Diameter, headWidth(&c.Item))
		return Capacity{RatedPull: pull, RatedShear: shear, Basis: Rated}, c.Item.Diameter > 0
	}
	r, ok := c.Rating(l)
	out := Capacity{RatedPull: Newtons(r.Pull), RatedShear: Newtons(r.Shear), Basis: basisOf(carrier.RatingBasis)}
	out.standOff(c, l)
	return out, ok
}

// standOff works out the bending of a fixing in masonry that crosses covering
// and cavity (EN 1992-4, 6.2.2.3 and 7.2.2.3.2, memory; fixture free to turn,
// safety 2): l_a = covering + cavity + d/2, V_M = 1.2·(π·d_r³/32)·f_u / (2·l_a),
// N_s = π·d_r²/4·f_u/2. Layers up to half a diameter do not count.
func (c *Capacity) standOff(choice *Choice, l *Layers) {
	before, _ := l.Before()
	i := &choice.Item
	if choice.Wall.Holds() != catalog.Masonry || 2*before <= i.Diameter {
		return
	}
	if sleeve := max(choice.Carrier().SoundSleeve(), i.SoundSleeve()); sleeve > 0 {
		c.SleeveLever = before.MM() / sleeve.MM()
		return
	}
	c.Bends = true
	switch {
	case i.SoundRoot() > 0:
		c.RootDiameter = i.SoundRoot().MM()
	case i.Kind.Properties().InWood:
		c.RootDiameter = Root(i.Kind, inches(i.Diameter)) * 25.4
	default:
		c.BendUnknown = true
		return
	}
	fu := float64(i.TensileStrength())
	d := c.RootDiameter
	c.Lever = before.MM() + i.Diameter.MM()/2
	c.BendMoment = 1.2 * math.Pi * d * d * d / 32 * fu / (2 * c.Lever)
	c.BendTension = math.Pi * d * d / 4 * fu / 2
}

// WorkingLoad converts a pack's figure to a rated one: any figure that is not rated is
// divided by four.
func WorkingLoad(m quantity.Mass, basis string) quantity.Mass {
	if basisOf(basis) == Rated {
		return m
	}
	return m / ultimateBy
}
