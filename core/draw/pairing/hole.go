package pairing

import (
	"nexufix/core/catalog"
	"nexufix/core/drawing"
	"nexufix/core/fastener"
	"nexufix/core/probe"
	"nexufix/core/quantity"
)

// Hole draws what trial bolts tell of a hole, in section, the rim at x = 0 and
// the depth to the left: what is certain is solid, what is still open is
// shaded. It is to scale along the axis.
func Hole(r probe.Result) *drawing.Drawing {
	d := &drawing.Drawing{Title: "What is known of the hole", Pen: 0.14, TextHeight: 1.9}
	width := 6.0
	if len(r.Threads) > 0 {
		width = r.Threads[len(r.Threads)-1].Standard().Nominal.MM()
	}
	reach := width/2 + 7
	end := 34.0 // drawn as far as this while nothing stops it
	if r.Depth.High.Known {
		end = r.Depth.High.Value.MM() + 5
	} else if low := r.Depth.Low.MM() + 12; low > end {
		end = low
	}
	body := func(x0, x1, r0 float64) {
		for _, side := range []float64{1, -1} {
			p := drawing.Rect(x0, side*r0, x1, side*reach)
			d.Named("hole.body", drawing.Body, p, "Back of the display")
			for _, l := range drawing.Hatching(p, 1.6) {
				d.Add("hole.body", drawing.Hatch, l)
			}
		}
	}
	recessLow, recessHigh := r.Recess.Low.MM(), min(r.Recess.High.Or(quantity.FromMM(end)).MM(), end)
	if r.Recess.Low > 0 {
		body(-recessLow, 0, width/2+3)
	}
	bottom := end
	if r.Depth.High.Known {
		bottom = r.Depth.High.Value.MM()
	}
	body(-bottom, -recessLow, width/2)
	bottomLow, bottomHigh := r.Depth.Low.MM(), min(r.Depth.High.Or(quantity.FromMM(end)).MM(), end)
	d.Named("hole.free", drawing.Clear, drawing.Rect(-bottomLow, -width/2, 0, width/2), "Free at least this deep, %v", r.Depth.Low)
	d.Named("hole.bottom", drawing.Zone, drawing.Rect(-bottomHigh, -width/2, -bottomLow, width/2), "It ends somewhere in here")
	if r.Depth.High.Known {
		d.Named("hole.panel", drawing.Panel, drawing.Rect(-bottomHigh-3, -reach, -bottomHigh, reach),
			"What the bolt must not reach, at the latest here")
	}
	for _, side := range []float64{1, -1} {
		d.Named("hole.cup", drawing.Zone, drawing.Rect(-recessHigh, side*width/2, -recessLow, side*(width/2+3)),
			"The thread begins somewhere in here")
	}
	d.Line("hole.axis", drawing.Centre, -end-2, 0, 4, 0)
	d.Line("hole.rim", drawing.Outline, 0, -reach, 0, reach)
	row := d.TextHeight * 2.3
	at := func(x, y float64) drawing.Point { return drawing.Point{X: x, Y: y} }
	dimension := func(tag string, s catalog.Span, y, off float64, between, least string) {
		switch {
		case s.High.Known:
			d.Dimension(tag, at(-s.High.Value.MM(), y), at(0, y), off, drawing.Before, quantity.Say(between, quantity.Bare{Length: s.Low},
				quantity.Bare{Length: s.High.Value}))
		case s.Low > 0:
			d.Dimension(tag, at(-s.Low.MM(), y), at(0, y), off, drawing.Before,
				quantity.Say(least, quantity.Bare{Length: s.Low, Bound: quantity.Down}))
		}
	}
	dimension("hole.cup", r.Recess, reach, 0.7*row, "recess %v to %v", "recess at least %v")
	dimension("hole.depth", r.Depth, -reach, -0.8*row, "to the bottom %v to %v", "to the bottom at least %v")
	text := "no thread is left"
	if len(r.Threads) == len(fastener.Threads) {
		text = "any thread"
	} else if len(r.Threads) > 0 {
		text = ""
		for i, t := range r.Threads {
			if i > 0 {
				text += " or "
			}
			text += t.String()
		}
	}
	d.Add("hole.thread", drawing.Dim, drawing.Text{At: at(1.5, -d.TextHeight/2), Text: quantity.Say("%v", text), Height: d.TextHeight * 1.2,
		Anchor: drawing.Start, Strong: true})
	d.Min, d.Max = at(-end-4, -reach-2*row), at(6, reach+2*row)
	d.FrameTexts(0.6)
	return d
}
