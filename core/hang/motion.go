package hang

import (
	"math"

	"nexufix/core/quantity"
)

// Corner is a point of a display seen from the side or from above: how far in
// front of a pivot it is, and how far to one side of it (below a tilt pivot,
// beside a swivel pivot).
type Corner struct{ Front, Beside float64 } // mm

// TurnUntilWall returns the largest angle, in degrees up to 90, by which a corner
// can turn towards the wall about a pivot at a distance from it in
// millimetres, before it touches: the largest φ with
//
//	distance + Front·cos φ − Beside·sin φ ≥ 0
//
// It is negative when the corner is in the wall already.
func TurnUntilWall(distance float64, c Corner) float64 {
	if distance+c.Front < 0 {
		return -1
	}
	reach := math.Sqrt(c.Front*c.Front + c.Beside*c.Beside)
	if reach <= distance || c.Beside <= 0 {
		return 90
	}
	// distance + reach·cos(φ + α) = 0, with α the angle of the corner.
	angle := math.Acos(-distance/reach) - math.Atan2(c.Beside, c.Front)
	return min(90, angle*180/math.Pi)
}

// Tilted returns the place of a point when the display tilts by an angle in degrees,
// top forward: y above the pivot, front before it, both in millimetres
// (rotation about the pivot; y' = y·cos θ − dz·sin θ, dz' = dz·cos θ +
// y·sin θ).
func Tilted(y, front, degrees float64) (y2, front2 float64) {
	s, c := math.Sincos(degrees * math.Pi / 180)
	return y*c - front*s, front*c + y*s
}

// Drop returns how far the front bottom edge sinks when the display tilts: the gap
// that an accessory below it needs. Lengths are as in [Tilted].
func Drop(y, front, degrees float64) quantity.Length {
	lower, _ := Tilted(y, front, degrees)
	return quantity.FromMM(y - lower)
}
