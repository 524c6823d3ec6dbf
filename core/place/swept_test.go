package place

import (
	"math"
	"math/cmplx"
	"math/rand/v2"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// TestSweptAgainstEveryPose: the room to the walls at both ends is what it is over every pose in whole degrees, each corner turned as a
// complex number, to a tenth of a millimetre.
func TestSweptAgainstEveryPose(t *testing.T) {
	r := rand.New(rand.NewPCG(1411, 5))
	hit, clear := 0, 0
	for n := range 60 {
		reach, behind, profile := 200+r.Int64N(400), 20+r.Int64N(60), 60+r.Int64N(40)
		arm, head := r.IntN(91), 1+r.IntN(90)
		x := 500 + r.Int64N(900)
		open := r.IntN(5) == 0
		p := one(t, func(_ *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
			b.Kind, b.Profile, b.Reach = "full_motion", some(profile), some(reach)
			b.SwivelPivot, b.Swivel = &catalog.Pivot{BehindArm: some(behind)}, quantity.Some(quantity.Angle(head)*quantity.Degree)
			b.ArmSwing = quantity.Some(quantity.Angle(arm) * quantity.Degree)
			j.Wall.Type, j.Wall.Studs, j.Wall.Width, j.Wall.OpenLeft = catalog.Concrete, nil, some(2600), open
			j.Place.X = some(x)
		})
		got := check(&p, SweptRule)
		left, right := p.edges()
		plane, _ := p.plane()
		front, _ := p.front()
		least := math.Inf(1)
		for side := -1.0; side <= 1; side += 2 {
			half := (right - p.DatumX).MM()
			if side < 0 {
				half = (p.DatumX - left).MM()
			}
			to := (p.Job.Wall.Width.Value - p.DatumX).MM()
			if side < 0 {
				to = p.DatumX.MM()
			}
			if side < 0 && open {
				continue
			}
			for a := 0; a <= arm; a++ {
				for f := -head; f <= head; f++ {
					// Along the wall is real, away from it imaginary; turning to the side is clockwise.
					pivot := cmplx.Rect(float64(reach-behind), math.Pi/2-float64(a)*math.Pi/180)
					turn := cmplx.Rect(1, -float64(a+f)*math.Pi/180)
					back := float64(behind) + plane.MM()
					if imag(pivot+turn*complex(half, back)) < 0 || imag(pivot+turn*complex(-half, back)) < 0 {
						continue // in the wall
					}
					least = min(least, to-real(pivot+turn*complex(half, back)), to-real(pivot+turn*complex(half, back+front.MM())))
				}
			}
		}
		if value := quantity.Length(got.Measure.Value).MM(); math.Abs(value-least) > 0.1 {
			t.Errorf("case %d: %g, every pose %g: %s", n, value, least, got.Text.In(quantity.Metric))
		}
		if (got.Status == fit.Caution) != (quantity.Length(got.Measure.Value) < 0) {
			t.Errorf("case %d: %s with %g", n, got.Status, least)
		}
		if got.Status == fit.Caution {
			hit++
		} else {
			clear++
		}
	}
	if hit < 10 || clear < 10 {
		t.Errorf("%d touch, %d do not", hit, clear)
	}
}

// TestBalanceOfTwoPlates: the lesser of two plates carries what the moments about the other leave it; below nothing it lifts off, below a
// tenth is a caution (statics).
func TestBalanceOfTwoPlates(t *testing.T) {
	for aside := int64(-600); aside <= 600; aside += 5 {
		const apart = 500
		share := 0.5 - math.Abs(float64(aside))/apart // of the plate that is farther away
		want := fit.Pass
		switch {
		case share < -1e-12:
			want = fit.Fail
		case share < 0.1-1e-12:
			want = fit.Caution
		}
		if got := fit.Balance(mm(aside), mm(apart)); got.Status != want {
			t.Errorf("%d of %d aside: %s, want %s", aside, apart, got.Status, want)
		}
	}
}

// TestEdgeShear is a worked example by hand (EN 1992-4, 7.2.2.5, from memory): an anchor of 10 in C20/25, h_ef 50, 100 from the edge:
// α = 0.1·√(50/100) = 0.0707, β = 0.1·(10/100)^0.2 = 0.0631; 1.7·10^0.0707·50^0.0631·√20·100^1.5 / 1.5
// = 1.7·1.1768·1.2800·4.4721·1000 / 1.5 = 7634 N.
func TestEdgeShear(t *testing.T) {
	if got := EdgeShear(mm(10), mm(50), mm(100)); math.Abs(got-7634) > 8 {
		t.Errorf("%.1f N", got)
	}
}
