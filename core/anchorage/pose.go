package anchorage

import (
	"math"
)

// Hanging is how a display hangs from its wall plates, in newtons and
// millimetres.
type Hanging struct {
	Display, Own float64 // weights: display with what hangs on it; bracket
	DatumX       float64 // of the plates' middle
	CGX          float64 // of the display's centre of gravity when it hangs square
	Profile      float64 // wall to arm plane, closed
	Reach        float64 // and at its farthest
	ZHalf        float64 // arm plane to the centre of gravity: z and half the depth
	Behind       float64 // swivel pivot behind the arm plane
	Arm, Head    float64 // degrees to either side
	Left, Right  float64 // display's edges, for people who lean on it
	Handling     float64 // with this force
	Leans        bool
}

// Pose is one way a display can stand on its arm.
type Pose struct {
	Arm, Head float64 // degrees, to the right
	Closed    bool
	Aside     bool // for a while, not for good
	Display   Weight
	Own       Weight
}

// at is the pose at an angle of the arm, and of the head beyond it.
func (h *Hanging) at(arm, head float64) Pose {
	s1, c1 := math.Sincos(arm * math.Pi / 180)
	s2, c2 := math.Sincos((arm + head) * math.Pi / 180)
	l1, l2 := h.Reach-h.Behind, h.Behind+h.ZHalf
	return Pose{
		Arm: arm, Head: head, Aside: arm != 0 || head != 0,
		Display: Weight{h.Display, h.CGX + l1*s1 + l2*s2, l1*c1 + l2*c2},
		Own:     Weight{h.Own, h.DatumX + h.Reach/2*s1, h.Reach / 2 * c1},
	}
}

// Straight is the pose straight out.
func (h *Hanging) Straight() Pose { return h.at(0, 0) }

// closed is the pose against the wall.
func (h *Hanging) closed() Pose {
	return Pose{Closed: true, Display: Weight{h.Display, h.CGX, h.Profile + h.ZHalf}, Own: Weight{h.Own, h.DatumX, h.Profile / 2}}
}

// Poses are those among which the worst one is, in families along which it
// rises and falls smoothly: closed and straight out; to each side swung aside with
// the arm stretched, the head alone, the arm as far as it goes with the head
// beyond it, and where the head just clears the wall. What would be in the wall is
// left out.
//
// Moments add up like arms: a pose whose head is bent asks for no more than the
// stretched arm in the direction of its moments, as far as the arm goes there. So
// the head alone matters only where it turns farther than the arm. Tests hold this
// against all poses in whole degrees.
func (h *Hanging) Poses() [][]Pose {
	out := [][]Pose{{h.Straight()}, {h.closed()}}
	if h.Arm == 0 && h.Head == 0 {
		return out
	}
	least := h.Profile + h.ZHalf - 1e-9
	l1, l2 := h.Reach-h.Behind, h.Behind+h.ZHalf
	for _, side := range []float64{-1, 1} {
		family := func(n float64, at func(float64) Pose, more ...Pose) {
			poses := make([]Pose, 0, int(n)+len(more))
			for x := 1.0; x <= n; x++ {
				if p := at(x); p.Display.Out >= least {
					poses = append(poses, p)
				}
			}
			if poses = append(poses, more...); len(poses) > 0 {
				out = append(out, poses)
			}
		}
		var clears []Pose // the stretched arm
		if c := (h.Profile + h.ZHalf) / (l1 + l2); h.Arm > 0 && c <= 1 {
			if a := math.Acos(c) * 180 / math.Pi; a <= h.Arm {
				clears = append(clears, h.at(side*a, 0))
			}
		}
		family(h.Arm, func(a float64) Pose { return h.at(side*a, 0) }, clears...)
		if h.Head > h.Arm {
			family(h.Head, func(f float64) Pose { return h.at(0, side*f) })
		}
		if h.Arm > 0 && h.Arm < 90 {
			family(h.Head, func(f float64) Pose { return h.at(side*h.Arm, side*f) })
		}
		// l1·cos α + l2·cos β = profile + z + half.
		var bent []Pose
		for a := 0.0; a <= h.Arm; a++ {
			c := (h.Profile + h.ZHalf - l1*math.Cos(a*math.Pi/180)) / l2
			if math.Abs(c) > 1 {
				continue
			}
			if b := math.Acos(c) * 180 / math.Pi; math.Abs(b-a) <= h.Head {
				bent = append(bent, h.at(side*a, side*(b-a)))
			}
		}
		if bent != nil {
			out = append(out, bent)
		}
	}
	return out
}

// Along a family poses are looked at so far apart, and then all around the worst
// of these.
const coarse = 6

// walk judges a family: every coarse pose, the last, and those between the worst
// and its neighbours. judge gives what is to be the largest.
func walk(family []Pose, judge func(*Pose) float64) {
	last := len(family) - 1
	worst, at := -1.0, 0
	look := func(i int) {
		if x := judge(&family[i]); x > worst {
			worst, at = x, i
		}
	}
	for i := 0; i < last; i += coarse {
		look(i)
	}
	look(last)
	from, to := max(0, at-coarse+1), min(last, at+coarse-1)
	for i := from; i <= to; i++ {
		if i%coarse != 0 && i != last {
			look(i)
		}
	}
}

// leaning are the poses of people who lean on a display straight out, with
// where they do: at a side edge, of a swivelled one at that which is farther
// from the wall.
func (h *Hanging) leaning() (poses []Pose, push []Weight) {
	for _, f := range []float64{-h.Head, 0, h.Head} {
		s, c := math.Sincos(f * math.Pi / 180)
		t := h.Behind + h.ZHalf
		for _, edge := range []float64{h.Left - h.DatumX, h.Right - h.DatumX} {
			if f > 0 && edge > 0 || f < 0 && edge < 0 {
				continue // the edge that is nearer to the wall
			}
			poses = append(poses, h.at(0, f))
			push = append(push, Weight{h.Handling, h.DatumX + t*s + edge*c, h.Reach - h.Behind + t*c - edge*s})
		}
		if h.Head == 0 {
			break
		}
	}
	return poses, push
}
