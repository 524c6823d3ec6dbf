package hang

import (
	"math"
	"math/rand/v2"
	"testing"

	"nexufix/core/quantity"
)

// turnedBy rotates by multiplying complex numbers in a hundred thousand small
// steps: it shares neither formula nor library function with what it checks.
func turnedBy(x, y, degrees float64) (float64, float64) {
	const steps = 100_000
	d := degrees * math.Pi / 180 / steps
	c, s := 1-d*d/2, d-d*d*d/6
	for range steps {
		x, y = x*c-y*s, x*s+y*c
	}
	return x, y
}

func TestTiltedAgainstStepwiseRotation(t *testing.T) {
	for _, c := range []struct{ y, front, degrees float64 }{{-300, 58, 12}, {250, 58, 12}, {-300, 20, -5}, {0, 60, 15}, {-400, 0, 90}} {
		y, front := Tilted(c.y, c.front, c.degrees)
		// Looking along the pivot, x to the front and y up, top forward is
		// clockwise.
		wantFront, wantY := turnedBy(c.front, c.y, -c.degrees)
		if math.Abs(y-wantY) > 1e-4 || math.Abs(front-wantFront) > 1e-4 {
			t.Errorf("%+v: %g, %g; by steps %g, %g", c, y, front, wantY, wantFront)
		}
	}
}

// TestTurnUntilWall searches the angle by halving, on the stepwise rotation.
func TestTurnUntilWall(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 10))
	for range 40 {
		distance, c := 10+300*r.Float64(), Corner{Front: 60*r.Float64() - 10, Beside: 20 + 700*r.Float64()}
		got := TurnUntilWall(distance, c)
		lo, hi := 0.0, 90.0
		for range 22 {
			mid := (lo + hi) / 2
			// Turning towards the wall: the corner's front coordinate falls.
			front, _ := turnedBy(c.Front, c.Beside, mid)
			if distance+front >= 0 {
				lo = mid
			} else {
				hi = mid
			}
		}
		if math.Abs(got-lo) > 1e-3 {
			t.Errorf("%g, %+v: %g, by halving %g", distance, c, got, lo)
		}
	}
	for _, c := range []struct {
		distance float64
		corner   Corner
		want     float64
	}{
		{300, Corner{20, 200}, 90}, // never reaches the wall
		{10, Corner{-20, 200}, -1}, // is in it
		{100, Corner{0, -50}, 90},  // turns away from it
		{100, Corner{0, 100}, 90},  // just touches at a right angle
	} {
		if got := TurnUntilWall(c.distance, c.corner); math.Abs(got-c.want) > 1e-9 {
			t.Errorf("%+v: %g", c, got)
		}
	}
}

// TestDropOfPractice: forgotten, the drop of the lower front edge costs about
// an inch (common practice): 600 high, 60 thick, pivot in the middle, 15°.
func TestDropOfPractice(t *testing.T) {
	got := Drop(-300, 60+18, 15)
	if got < quantity.Inch/4 || got > 3*quantity.Inch/2 {
		t.Errorf("%s", got)
	}
	// By hand: the edge at (−300, 78) comes to −300·cos 15° − 78·sin 15° =
	// −289.78 − 20.19 = −309.97: 9.97 lower.
	if math.Abs(got.MM()-9.966) > 0.01 {
		t.Errorf("%g", got.MM())
	}
}
