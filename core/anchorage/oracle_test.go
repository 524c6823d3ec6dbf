package anchorage

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

// The oracle of this file knows no formula of the package: it works with vectors
// in space (x right, y up, z out of the wall) and asks only that forces and
// moments of the fasteners' reactions and of the weights add up to nothing.

type vector struct{ x, y, z float64 }

func (a vector) plus(b vector) vector { return vector{a.x + b.x, a.y + b.y, a.z + b.z} }
func (a vector) cross(b vector) vector {
	return vector{a.y*b.z - a.z*b.y, a.z*b.x - a.x*b.z, a.x*b.y - a.y*b.x}
}

// TestForcesBalance: over 6,000 random plates and loads the reactions at the
// fasteners, with the plate's lower edge pressing on the wall, are in
// equilibrium with the weights: no force left across the wall, no moment about
// the lower edge, none about an axis out of the wall.
func TestForcesBalance(t *testing.T) {
	r := rand.New(rand.NewPCG(10, 10))
	for n := range 6000 {
		edge := 500 + 1000*r.Float64()
		var points []Point
		count := 1 + r.IntN(8)
		plates := 1
		if count >= 4 && r.IntN(3) == 0 {
			plates = 2
		}
		for i := range count {
			plate := i % plates
			points = append(points, Point{X: quantity.FromMM(1000 + 600*float64(plate) + 400*r.Float64()),
				Y: quantity.FromMM(edge + 5 + 250*r.Float64()), Plate: plate})
		}
		var weights []Weight
		for range 1 + r.IntN(3) {
			weights = append(weights, Weight{50 + 500*r.Float64(), 1100 + 700*r.Float64(), 40 + 600*r.Float64()})
		}
		if plates == 1 && count == 1 {
			for i := range weights {
				weights[i].X = points[0].X.MM() // one fastener takes no load aside
			}
		}
		out := make([]Force, count)
		NewBolted(points, quantity.FromMM(edge)).Forces(weights, out)
		var force, moment vector
		total := 0.0
		for _, w := range weights {
			at, f := vector{w.X, 0, w.Out}, vector{0, -w.Force, 0}
			force, moment = force.plus(f), moment.plus(at.cross(f))
			total += w.Force
		}
		pull := 0.0
		for i, p := range points {
			f := vector{-out[i].Right, out[i].Down, -out[i].Pull} // what the wall gives
			force = force.plus(f)
			moment = moment.plus(vector{p.X.MM(), p.Y.MM() - edge, 0}.cross(f))
			pull += out[i].Pull
			if out[i].Pull < 0 {
				t.Fatalf("case %d: a fastener pushes", n)
			}
		}
		// The lower edge (y 0 here) presses back what is pulled: it has no moment
		// about itself, and none out of the wall.
		force.z += pull
		if math.Abs(force.x) > 1e-6*total || math.Abs(force.y) > 1e-6*total || math.Abs(force.z) > 1e-6*total {
			t.Fatalf("case %d: a force is left: %+v", n, force)
		}
		if plates == 1 && (math.Abs(moment.x) > 1e-6*total*1000 || math.Abs(moment.z) > 1e-6*total*1000) {
			t.Fatalf("case %d: a moment is left: %+v\n%+v\n%+v\n%+v", n, moment, points, weights, out)
		}
		if plates == 2 && math.Abs(moment.z) > 1e-6*total*1000 { // the lever between the plates
			t.Fatalf("case %d: two plates leave a moment about the axis out of the wall: %+v", n, moment)
		}
	}
}

// TestLoadAside: the audit's wall. 30 kg on the fasteners of a single stud, 203
// mm aside of them: each of two, 190 apart, takes 147 N down and 30·9.80665·203/190
// = 314 N sideways.
func TestLoadAside(t *testing.T) {
	points := []Point{{X: mm(1000), Y: mm(1595)}, {X: mm(1000), Y: mm(1405)}}
	out := make([]Force, 2)
	w := 30 * 9.80665
	NewBolted(points, mm(1385)).Forces([]Weight{{w, 1203, 100}}, out)
	for _, f := range out {
		near(t, "down", f.Down, w/2, 1e-9)
		near(t, "aside", math.Abs(f.Right), w*203/190, 1e-6)
	}
	NewBolted(points[:1], mm(1385)).Forces([]Weight{{w, 1203, 100}}, out[:1])
	if !math.IsInf(out[0].Shear(), 1) {
		t.Error("a single fastener carries a load aside")
	}
}

// every pose in whole degrees, and where the head just clears the wall.
func (h *Hanging) every() []Pose {
	var out []Pose
	for _, s := range h.worstPoses() {
		out = append(out, h.pose(s))
	}
	for a := -h.Arm; a <= h.Arm; a++ {
		for f := -h.Head; f <= h.Head; f++ {
			if p := h.at(a, f); p.Display.Out >= h.Profile+h.ZHalf {
				out = append(out, p)
			}
		}
	}
	return out
}

// TestWorstPose: over random arms the poses that are judged are as bad as any in whole degrees; in wood, whose strength bulges with the
// angle to its grain, to two thousandths (of 20,000 arms the worst was 0.13 % short).
func TestWorstPose(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 3))
	for n := range lots.Times(300) {
		reach := 200 + 500*r.Float64()
		h := Hanging{Display: 50 + 400*r.Float64(), Own: 20 + 100*r.Float64(), DatumX: 1000, CGX: 1000 + 100*r.NormFloat64(),
			Profile: 40 + 60*r.Float64(), Reach: reach,
			ZHalf: 20 + 60*r.Float64(), Behind: 20 + 60*r.Float64(), Arm: float64([]int{0, 45, 90, 90}[r.IntN(4)]), Head: float64([]int{0, 30, 60,
				90}[r.IntN(4)])}
		var points []Point
		for i := range 2 + r.IntN(4) {
			points = append(points, Point{X: quantity.FromMM(900 + 200*r.Float64()), Y: quantity.FromMM(1420 + 180*float64(i%2) + 20*r.Float64())})
		}
		capacity := Capacity{RatedPull: 500 + 2000*r.Float64(), RatedShear: 500 + 2000*r.Float64()}
		if n%2 == 0 {
			capacity = Capacity{Wood: true, Pull: 500 + 2000*r.Float64(),
				Lateral: NewLateral(&lag, 0.42, mm(3), quantity.FromMM(12.5*float64(r.IntN(2))), mm(45), true)}
		}
		on := NewBolted(points, mm(1385))
		room := make([]Force, len(points))
		worst := func(poses []Pose) float64 {
			out := 0.0
			for _, p := range poses {
				on.Forces([]Weight{p.Display, p.Own}, room)
				for i := range room {
					out = max(out, capacity.Utilisation(room[i], &Aside, 1, Ultimate))
				}
			}
			return out
		}
		// The type test, of other weights.
		c := Case{Points: points, Choice: Choice{}, Hanging: h}
		a := Assessment{Capacity: capacity, Shares: make([]float64, len(points)), Cones: slices.Repeat([]float64{1}, len(points))}
		c.strength(&a, on)
		tested := 0.0
		for _, p := range h.every() {
			p.Display.Force += min(3*p.Display.Force, p.Display.Force+maxOnTop)
			on.Forces([]Weight{p.Display, p.Own}, room)
			for i := range room {
				tested = max(tested, capacity.Utilisation(room[i], &TypeTest, 1, Ultimate))
			}
		}
		short := 1e-9 // of what is worst
		if capacity.Wood {
			short = 2e-3 // whose strength bulges with the angle to its grain: a pose between may be worse
		}
		if a.TypeTest.Share < tested*(1-short) {
			t.Fatalf("case %d: type test %g of %g: %+v", n, a.TypeTest.Share, tested, h)
		}
		some, all := 0.0, worst(h.every())
		for _, s := range h.worstPoses() {
			some = max(some, worst([]Pose{h.pose(s)}))
		}
		if some < all*(1-short) {
			t.Fatalf("case %d: %g of %g: %+v", n, some, all, h)
		}
		for _, p := range h.every() {
			if !p.Closed && p.Aside && p.Display.Out < h.Profile+h.ZHalf-1e-6 {
				t.Fatalf("case %d: a pose in the wall: %+v", n, p)
			}
		}
	}
}

// TestAssessByHand: a display of 20 kg and a bracket of 5 kg, 300 out, on four
// lags of two studs. M about the lower edge = 196.13·330 + 49.03·150 = 72,078
// N·mm; Σy² = 2·(205² + 15²) = 84,500; the upper ones are pulled with 174.9 N.
// Down each takes 61.29 N.
func TestAssessByHand(t *testing.T) {
	c := Case{Choice: Choice{Wall: "wood_stud", Item: lag}, Layers: Layers{Plate: quantity.Some(mm(3)), Washer: quantity.FromMM(1.6),
		Covering: quantity.Some(mm(12)), Cavity: quantity.Some(mm(0)), Backing: quantity.Some(mm(89))},
		LowerEdge: mm(1385), Gravity: 0.42,
		Points:  []Point{{X: mm(800), Y: mm(1590)}, {X: mm(1200), Y: mm(1590)}, {X: mm(800), Y: mm(1400)}, {X: mm(1200), Y: mm(1400)}},
		Hanging: Hanging{Display: 20 * 9.80665, Own: 5 * 9.80665, DatumX: 1000, CGX: 1000, Profile: 300, Reach: 300, ZHalf: 30}}
	a := c.Assess()
	near(t, "moment", a.Moment, 72.078, 0.01)
	near(t, "pull", a.Straight[0].Pull, 174.9, 0.1)
	near(t, "down", a.Straight[0].Down, 61.29, 0.01)
	// W = 205 lb/in of 42.9 mm (1.689 in): 346 lb, × 0.9: 1387 N.
	pull, shear := a.Capacity.Design(&Permanent)
	near(t, "holds", pull, 0.9*LagWithdrawal(0.42, mm(8))*(47.7-4.79375)/25.4*newtonsPerPoundForce, 0.5)
	near(t, "share", a.Strength.Share, WoodUtilisation(a.Straight[0].Pull, a.Straight[0].Shear(), pull, shear), 1e-9)
	// The type test: 20 kg and on top of it min(3 W, W + 880) = 588.4: four times.
	w := 4 * 20 * 9.80665
	near(t, "type test", a.TypeTest.Share, WoodUtilisation((w*330+5*9.80665*150)*205/84_500, (w+5*9.80665)/4, 4.5*pull/0.9, 4*shear/0.9), 1e-6)
	// In a vehicle three times all weights.
	c.Vehicle = true
	if b := c.Assess(); b.Strength.Share < 2.9*a.Strength.Share {
		t.Errorf("shaken: %g of %g", b.Strength.Share, a.Strength.Share)
	}
}

// TestLeaning: by hand. 100 N at the edge of a display 1000 wide, straight out at
// 500: 500·100/(Σr²) more across. Balls slip, and are left out by the caller.
func TestLeaning(t *testing.T) {
	h := Hanging{Display: 100, DatumX: 0, CGX: 0, Profile: 50, Reach: 470, ZHalf: 30, Behind: 40, Left: -500, Right: 500, Handling: 100}
	poses, push := h.leaning()
	if len(poses) != 2 || push[0].X != -500 || push[1].X != 500 || push[0].Out != 500 {
		t.Errorf("%+v", push)
	}
	h.Head = 90
	_, push = h.leaning()
	// Turned by 90° the far edge is 500 in front of the pivot, which is 430 out.
	far := push[len(push)-1]
	near(t, "out", far.Out, 430+500, 1e-9)
	near(t, "aside", far.X, 70, 1e-9)
}

func BenchmarkAssess(b *testing.B) {
	c := Case{Choice: Choice{Wall: "wood_stud", Item: lag}, Layers: Layers{Plate: quantity.Some(mm(3)), Washer: quantity.FromMM(1.6),
		Covering: quantity.Some(mm(12)), Cavity: quantity.Some(mm(0)), Backing: quantity.Some(mm(89))},
		LowerEdge: mm(1385), Gravity: 0.42,
		Points: []Point{{X: mm(800), Y: mm(1590)}, {X: mm(1200), Y: mm(1590)}, {X: mm(800), Y: mm(1400)}, {X: mm(1200), Y: mm(1400)}},
		Hanging: Hanging{Display: 140, Own: 70, DatumX: 1000, CGX: 1000, Profile: 52, Reach: 480, ZHalf: 30, Behind: 40, Arm: 90, Head: 60,
			Left: 500, Right: 1500, Leans: true, Handling: 100}}
	for b.Loop() {
		c.Assess()
	}
}
