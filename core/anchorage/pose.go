package anchorage

import (
	"math"
)

// Hanging is how a display hangs from its wall plates, in newtons and
// millimetres.
type Hanging struct {
	Display, Own float64 // weights: display with accessories; bracket
	DatumX       float64 // of the plates' middle
	CGX          float64 // of the display's centre of gravity, straight out
	Profile      float64 // wall to arm plane, closed
	Reach        float64 // wall to arm plane, straight out
	ZHalf        float64 // arm plane to the centre of gravity: z and half the depth
	Behind       float64 // swivel pivot behind the arm plane
	Arm, Head    float64 // degrees to either side
	Left, Right  float64 // display's edges, for people who lean on it
	Handling     float64 // their force
	Leans        bool

	// People who pull at the lower edge: whether they can, how far that is above the plates' lower edge, and how high the
	// plates are.
	Pulled                bool
	PulledAt, PlateHeight float64
}

// Pose is a position of a display on its arm.
type Pose struct {
	Arm, Head float64 // degrees, to the right
	Closed    bool
	Aside     bool // temporary, not permanent
	Display   Weight
	Own       Weight
}

// at returns the pose at an angle of the arm and one of the head relative to it.
func (h *Hanging) at(arm, head float64) Pose {
	s1, c1 := sincos(arm)
	s2, c2 := sincos(arm + head)
	l1, l2 := h.Reach-h.Behind, h.Behind+h.ZHalf
	return Pose{
		Arm: arm, Head: head, Aside: arm != 0 || head != 0,
		Display: Weight{h.Display, h.CGX + l1*s1 + l2*s2, l1*c1 + l2*c2},
		Own:     Weight{h.Own, h.DatumX + h.Reach/2*s1, h.Reach / 2 * c1},
	}
}

// Straight returns the pose straight out.
func (h *Hanging) Straight() Pose { return h.at(0, 0) }

// closedPose returns the pose against the wall.
func (h *Hanging) closedPose() Pose {
	return Pose{Closed: true, Display: Weight{h.Display, h.CGX, h.Profile + h.ZHalf}, Own: Weight{h.Own, h.DatumX, h.Profile / 2}}
}

// armAngles is a pose by its angles, in degrees to the right.
type armAngles struct {
	arm, head float64
	closed    bool
}

func (h *Hanging) pose(s armAngles) Pose {
	if s.closed {
		return h.closedPose()
	}
	return h.at(s.arm, s.head)
}

// sines and cosines are those of whole degrees.
var sines, cosines = func() (s, c [361]float64) {
	for i := range c {
		s[i], c[i] = math.Sincos(float64(i) * math.Pi / 180)
	}
	return s, c
}()

// sincos returns sine and cosine of an angle in degrees; most angles are whole ones.
func sincos(degrees float64) (sin, cos float64) {
	if i := int(degrees); float64(i) == degrees && -360 <= i && i <= 360 {
		if i < 0 {
			return -sines[-i], cosines[-i]
		}
		return sines[i], cosines[i]
	}
	return math.Sincos(degrees * math.Pi / 180)
}

// worstPoses returns the poses that can be the worst, each of which is judged: closed and straight out; to each side swung aside with
// the arm stretched, the head alone, the arm at its limit with the head
// turned further, and where the head just clears the wall. Poses inside the wall are
// left out.
//
// Moments add up like arms: the demand of a pose with a bent head is not more than that of the
// stretched arm in the direction of its moments, as far as the arm goes there. So
// the head alone matters only if it turns farther than the arm. Tests compare this
// with all poses in whole degrees.
func (h *Hanging) worstPoses() []armAngles {
	if h.Arm == 0 && h.Head == 0 {
		return []armAngles{{}, {closed: true}}
	}
	most := 2*h.Arm + 2
	if h.Head > h.Arm {
		most += h.Head
	}
	if h.Arm > 0 && h.Arm < 90 {
		most += h.Head
	}
	all := append(make([]armAngles, 0, 2+2*int(most)), armAngles{}, armAngles{closed: true})
	gap := h.Profile + h.ZHalf
	least := gap - 1e-9
	l1, l2 := h.Reach-h.Behind, h.Behind+h.ZHalf
	for _, side := range [2]float64{-1, 1} {
		for a := 1; float64(a) <= h.Arm && a <= 180; a++ { // the stretched arm
			if (l1+l2)*cosines[a] >= least {
				all = append(all, armAngles{arm: side * float64(a)})
			}
		}
		if c := gap / (l1 + l2); h.Arm > 0 && math.Abs(c) <= 1 {
			if a := math.Acos(c) * 180 / math.Pi; a <= h.Arm {
				all = append(all, armAngles{arm: side * a})
			}
		}
		if h.Head > h.Arm {
			for f := 1; float64(f) <= h.Head && f <= 180; f++ {
				if l1+l2*cosines[f] >= least {
					all = append(all, armAngles{head: side * float64(f)})
				}
			}
		}
		if h.Arm > 0 && h.Arm < 90 {
			for f := 1.0; f <= h.Head; f++ {
				if s := (armAngles{arm: side * h.Arm, head: side * f}); h.at(s.arm, s.head).Display.Out >= least {
					all = append(all, s)
				}
			}
		}
		// l1·cos α + l2·cos β = profile + z + half.
		for a := 0; float64(a) <= h.Arm && a <= 180; a++ {
			c := (gap - l1*cosines[a]) / l2
			if math.Abs(c) > 1 {
				continue
			}
			if b := math.Acos(c)*180/math.Pi - float64(a); math.Abs(b) <= h.Head {
				all = append(all, armAngles{arm: side * float64(a), head: side * b})
			}
		}
	}
	return all
}

// leaning returns the poses in which people lean on a display straight out, with
// the place of their force: a side edge; of a swivelled display the edge farther
// from the wall.
func (h *Hanging) leaning() (poses []Pose, push []Weight) {
	for _, f := range []float64{-h.Head, 0, h.Head} {
		s, c := sincos(f)
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
