package install

import (
	"fmt"

	"nexufix/core/draw/pairing"
	"nexufix/core/drawing"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// cables draws the way of each cable at both ends of the movement: from the front, and from above.
func (f *figures) cables() *drawing.Drawing {
	wide, high, known := f.p.Display.Outline(f.p.Turn)
	if f.at == nil || len(f.seq.Cables) == 0 || !known {
		return pairing.Back(f.p).For(f.language) // with its ports
	}
	x0, x1 := f.at.DisplayX.MM()-wide.MM()/2, f.at.DisplayX.MM()+wide.MM()/2
	lo, hi := x0, x1
	for i := range f.seq.Cables {
		c := &f.seq.Cables[i]
		if c.Outlet >= 0 {
			lo, hi = min(lo, c.From.X), max(hi, c.From.X)
		}
		lo, hi = min(lo, c.Out.X), max(hi, c.Out.X)
	}
	d := f.canvas("Cables at both ends of the movement", (hi-lo)*1.15)
	t := d.TextHeight
	d.Named("display", drawing.Glass, drawing.Rect(x0, f.at.Bottom.MM(), x1, f.at.Bottom.MM()+high.MM()), "Display")
	top := f.at.Bottom.MM()
	for i := range f.seq.Cables {
		top = min(top, f.seq.Cables[i].From.Y)
	}
	above := top - 5*t // the wall in the view from above, which stands below the other
	d.Line("wall", drawing.Outline, lo-t, above, hi+t, above)
	text(d, "wall", pt(lo-t, above+0.5*t), drawing.Start, "from above: wall")
	if depths, ok := pairing.DepthsOf(f.p); ok {
		d.Named("display", drawing.Glass, drawing.Rect(x0, above-depths.ToFront.MM(), x1, above-depths.Gap.MM()), "Display, closed")
	}
	for i := range f.seq.Cables {
		f.cable(d, &f.seq.Cables[i], above)
	}
	return framed(d)
}

func (f *figures) cable(d *drawing.Drawing, c *place.Cable, above float64) {
	t := d.TextHeight
	tag := fmt.Sprintf("cable.%d", c.Zone)
	if c.Outlet < 0 {
		d.Add(tag, drawing.Outline, drawing.Circle{Center: pt(c.Closed.X, c.Closed.Y), Radius: 0.5 * t})
		strong(d, tag, pt(c.Closed.X, c.Closed.Y+t), drawing.Middle, "%v: measure it", c.Name())
		return
	}
	d.Named(tag, drawing.Body, drawing.Rect(c.From.X-t, c.From.Y-t, c.From.X+t, c.From.Y+t), "Outlet")
	for _, way := range []struct {
		to    place.At
		style drawing.Style
	}{{c.Closed, drawing.Outline}, {c.Out, drawing.Hidden}} {
		d.Line(tag, way.style, c.From.X, c.From.Y, way.to.X, way.to.Y)
		d.Add(tag, drawing.Outline, drawing.Circle{Center: pt(way.to.X, way.to.Y), Radius: 0.5 * t})
		d.Line(tag, way.style, c.From.X, above, way.to.X, above-way.to.Z)
		d.Add(tag, drawing.Outline, drawing.Circle{Center: pt(way.to.X, above-way.to.Z), Radius: 0.5 * t})
	}
	words := quantity.Say("%v: measure it", c.Name())
	if c.Known {
		words = quantity.Say("%v: at least %v", c.Name(), place.Metres(c.Needed))
	}
	x, y := f.at.DisplayX.MM(), f.at.Bottom.MM()
	d.Write(tag, drawing.Text{Text: words, Height: t, Strong: true}, drawing.Place{At: pt(x, y+t), Anchor: drawing.Middle},
		drawing.Place{At: pt(x, y-2*t), Anchor: drawing.Middle}, drawing.Place{At: pt(x, y+3*t), Anchor: drawing.Middle},
		drawing.Place{At: pt(x, y+5*t), Anchor: drawing.Middle}, drawing.Place{At: pt(x, y+7*t), Anchor: drawing.Middle})
}

// level draws how the hung display is levelled, not to scale.
func (f *figures) level() *drawing.Drawing {
	d := f.canvas("Level it", 120)
	t := d.TextHeight
	d.Named("display", drawing.Panel, drawing.Rect(0, 0, 100, 56), "Display")
	d.Named("spirit", drawing.Body, drawing.Rect(30, 57, 70, 62), "Spirit level")
	d.Add("spirit", drawing.Clear, drawing.Rect(46, 58, 54, 61))
	d.Add("spirit", drawing.Solid, drawing.Circle{Center: pt(50, 59.5), Radius: 1.1})
	if f.p.Bracket.WallPlate.HeightAdjust.Known {
		for _, x := range []float64{18, 82} {
			arrow(d, "screws", x, 40, x, 52)
			arrow(d, "screws", x, 34, x, 22)
		}
		strong(d, "screws", pt(50, 36), drawing.Middle, "up to %v", quantity.Wall(f.p.Bracket.WallPlate.HeightAdjust.Value))
	} else {
		for n, at := range []drawing.Point{{X: 38, Y: 40}, {X: 62, Y: 40}, {X: 38, Y: 18}, {X: 62, Y: 18}} {
			style := drawing.Outline
			if n == 0 {
				style = drawing.Solid
			}
			d.Add("bolts", style, drawing.Circle{Center: at, Radius: 2})
		}
		strong(d, "bolts", pt(34, 39), drawing.End, "tight")
		text(d, "bolts", pt(66, 17), drawing.Start, "loose")
	}
	text(d, "scale", pt(0, -1.8*t), drawing.Start, "not to scale")
	return framed(d)
}

// hook draws the hook in section, before it engages and after, not to scale but for the lift.
func (f *figures) hook() *drawing.Drawing {
	d := f.canvas("The hook, before and after", 140)
	t := d.TextHeight
	over := 12.0
	for n, x := range []float64{0, 75} {
		up := map[int]float64{0: over, 1: 0}[n]
		d.Named("wall", drawing.Body, drawing.Rect(x+40, -45, x+48, 40), "Wall")
		for _, l := range drawing.Hatching(drawing.Rect(x+40, -45, x+48, 40), t*0.8) {
			d.Add("wall", drawing.Hatch, l)
		}
		d.Named("plate", drawing.Plate, drawing.Polygon{Points: []drawing.Point{{X: x + 40, Y: -35}, {X: x + 37, Y: -35}, {X: x + 37,
			Y: 4}, {X: x + 31, Y: 4},
			{X: x + 31, Y: 14}, {X: x + 33.5, Y: 14}, {X: x + 33.5, Y: 7}, {X: x + 40, Y: 7}}}, "Wall plate")
		d.Named("hook", drawing.Arm, drawing.Polygon{Points: []drawing.Point{{X: x + 24, Y: -40 + up}, {X: x + 27, Y: -40 + up},
			{X: x + 27, Y: 15 + up},
			{X: x + 36.5, Y: 15 + up}, {X: x + 36.5, Y: 8 + up}, {X: x + 34, Y: 8 + up}, {X: x + 34, Y: 12.5 + up}, {X: x + 24,
				Y: 12.5 + up}}}, "Hook of the arm")
		d.Named("display", drawing.Panel, drawing.Rect(x+10, -42+up, x+24, 34+up), "Display")
	}
	arrow(d, "hook", 5, 20, 5, 4)
	if l := f.p.Bracket.LiftOver; l.Known {
		strong(d, "hook", pt(24, 44+over), drawing.Middle, "lift %v over", quantity.Wall(l.Value))
	} else {
		strong(d, "hook", pt(24, 44+over), drawing.Middle, "over the hook")
	}
	strong(d, "hook", pt(105, 44), drawing.Middle, "down: it engages")
	if k := f.p.Bracket.Lock; k != nil && k.Kind != "" {
		d.Named("lock", drawing.Bolt, drawing.Rect(75+28, -34, 75+36, -30), "Lock")
		text(d, "lock", pt(105, -52), drawing.Middle, "%v closes", k.Kind)
	}
	text(d, "scale", pt(0, -60), drawing.Start, "not to scale")
	return framed(d)
}

// lift draws who lifts, and how high their hands come; people are signs.
func (f *figures) lift() *drawing.Drawing {
	l := &f.seq.Lift
	wide, high, known := f.p.Display.Outline(f.p.Turn)
	if !known {
		wide, high = quantity.MM(1000), quantity.MM(560)
	}
	bottom := 1200.0
	if f.at != nil {
		bottom = f.at.Bottom.MM()
	} else if l.Hands.Known {
		bottom = l.Hands.Value.MM() - high.MM()/3
	}
	w, h := wide.MM(), high.MM()
	d := f.canvas("Who lifts, and how high", max(w+1400, 2200))
	t := d.TextHeight
	floor := -w/2 - 750
	d.Line("floor", drawing.Outline, floor, 0, w/2+750, 0)
	d.Named("display", drawing.Panel, drawing.Rect(-w/2, bottom, w/2, bottom+h), "Display")
	hands := bottom + h/3
	people := l.People
	at := []float64{-w/2 - 170, w/2 + 170, 0}
	if people == 1 {
		at = []float64{0}
	}
	step := 0.0
	if l.Platform {
		step = max(0, hands-1400)
	}
	for _, x := range at[:min(people, len(at))] {
		if step > 0 {
			d.Named("platform", drawing.Body, drawing.Rect(x-230, 0, x+230, step), "Platform")
		}
		person(d, x, step, hands, x/max(1, max(x, -x)))
	}
	d.Dimension("hands", pt(w/2+560, 0), pt(w/2+560, hands), -1, drawing.After, quantity.Say("hands %v",
		quantity.Bare{Length: quantity.FromMM(hands), Wall: true}))
	words := quantity.Say("%v people", people)
	if people == 1 {
		words = quantity.Say("one person")
	}
	if l.Known && people == 1 {
		words = quantity.Say("one person lifts %v", l.Mass)
	} else if l.Known {
		words = quantity.Say("%v people lift %v", people, l.Mass)
	}
	if l.Equipment {
		words = quantity.Say("%v, with lifting equipment", words)
	}
	d.Add("people", drawing.Dim, drawing.Text{At: pt(0, bottom+h+0.8*t), Text: words, Height: t, Anchor: drawing.Middle, Strong: true})
	return framed(d)
}

// person is the sign of one, standing at a height with a hand at another.
func person(d *drawing.Drawing, x, floor, hand, side float64) {
	line := func(a, b, c, e float64) { d.Line("people", drawing.Outline, a, b, c, e) }
	d.Add("people", drawing.Body, drawing.Circle{Center: pt(x, floor+1620), Radius: 110})
	line(x, floor+1510, x, floor+850)
	line(x, floor+850, x-140, floor)
	line(x, floor+850, x+140, floor)
	line(x, floor+1400, x-side*170, hand)
	if side == 0 {
		line(x, floor+1400, x-170, hand)
		line(x, floor+1400, x+170, hand)
	}
}
