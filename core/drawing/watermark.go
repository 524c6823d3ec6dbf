package drawing

import (
	"math"

	"nexufix/core/quantity"
)

// Watermark is a text across a page: its middle, how it is turned, counter-clockwise in degrees, and how high its
// capitals are, all in the page's millimetres, y upwards from its lower left corner.
type Watermark struct {
	Middle Point
	Angle  float64
	Height float64
}

// NewWatermark lays a text from the lower left of a page to its upper right, over about two thirds of the way.
func NewWatermark(text quantity.Phrase, wide, high float64) Watermark {
	g := Watermark{Middle: Point{wide / 2, high / 2}, Angle: math.Atan2(high, wide) * 180 / math.Pi}
	g.Height = min(0.66*math.Hypot(wide, high)/max(1, TextWidth(text, 1)), high/6)
	return g
}
