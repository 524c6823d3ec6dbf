package install

import (
	"fmt"
	"math"
	"slices"

	"nexufix/core/draw/pairing"
	drawwall "nexufix/core/draw/wall"
	"nexufix/core/drawing"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// A hole is one to drill, from the middle of the plate, or of both.
type hole struct {
	tag, name string
	x, y      float64
}

// holes are the points of the placement; without one the outermost of each row of the plate.
func (f *figures) holes() []hole {
	var out []hole
	w := f.p.Bracket.WallPlate
	if f.at != nil && len(f.at.Points) > 0 {
		for i := range f.at.Points {
			q := &f.at.Points[i]
			out = append(out, hole{fmt.Sprintf("point.%d", i+1), fmt.Sprintf("%d %s", i+1, q.Hole), (q.X - f.at.DatumX).MM(),
				(q.Y - f.at.Datum).MM()})
		}
		return out
	}
	for _, x := range f.p.Bracket.PlatesAbout(0, f.p.Hang.Width) {
		for _, row := range []string{"top", "bottom"} {
			lo, hi := -1, -1
			for n := range w.Holes {
				if w.Holes[n].Row != row {
					continue
				}
				if lo < 0 || w.Holes[n].X < w.Holes[lo].X {
					lo = n
				}
				if hi < 0 || w.Holes[n].X > w.Holes[hi].X {
					hi = n
				}
			}
			for k, n := range []int{lo, hi} {
				if n >= 0 && (k == 0 || n != lo) {
					out = append(out, hole{fmt.Sprintf("point.%d", len(out)+1), w.Holes[n].ID, (x + w.Holes[n].X).MM(), w.Holes[n].Y.MM()})
				}
			}
		}
	}
	return out
}

// wall draws the wall around the plate as far as it is worked on: found, proved, marked, or with
// the plate on it. Studs, points and plate are to scale.
func (f *figures) wall(state string) *drawing.Drawing {
	w := f.p.Bracket.WallPlate
	pw, ph := w.Width.Or(quantity.MM(200)).MM()/2, w.Height.Or(quantity.MM(120)).MM()/2
	holes := f.holes()
	reach, tall := pw, ph
	for _, h := range holes {
		reach, tall = max(reach, math.Abs(h.x)+20), max(tall, math.Abs(h.y)+20)
	}
	plates := []float64{0}
	if f.at != nil && len(f.at.Plates) > 0 {
		plates = nil
		for _, x := range f.at.Plates {
			plates = append(plates, (x - f.at.DatumX).MM())
			reach = max(reach, math.Abs(plates[len(plates)-1])+pw)
		}
	} else if all := f.p.Bracket.PlatesAbout(0, f.p.Hang.Width); len(all) == 2 {
		plates = []float64{all[0].MM(), all[1].MM()}
		reach = max(reach, plates[1]+pw)
	}
	title := map[string]string{"wall": "What the finder shows", "prove": "Proved a second way", "marks": "What is marked",
		"plate": "The plate, arrow up"}
	d := f.canvas(title[state], 2*reach*1.5)
	t := d.TextHeight
	left, right, top, bottom := -reach*1.35, reach*1.35, tall+7*t, -tall-7*t
	d.Named("wall", drawing.Ground, drawing.Rect(left, bottom, right, top), "%v", f.seq.Wall.Name())
	f.structure(d, state, holes, left, right, top, bottom)
	if state == "marks" || state == "plate" {
		d.Line("level", drawing.Level, left, 0, right, 0)
		text(d, "level", right-0.4*t, 0.4*t, drawing.End, false, "level line")
	}
	if state == "plate" {
		for _, x := range plates {
			if w.Width.Known && w.Height.Known {
				d.Named("plate", drawing.Glass, drawing.Rect(x-pw, -ph, x+pw, ph), "Wall plate")
			}
			for n := range w.Holes {
				drawwall.PlateHole(d, "slot."+w.Holes[n].ID, &w.Holes[n], x)
			}
			arrow(d, "plate", x, ph+0.6*t, x, ph+4*t)
			text(d, "plate", x+0.8*t, ph+1.6*t, drawing.Start, true, "up")
		}
	}
	f.points(d, state, holes)
	return framed(d)
}

// structure draws what is behind the surface, as far as it is known, and how it was found.
func (f *figures) structure(d *drawing.Drawing, state string, holes []hole, left, right, top, bottom float64) {
	t := d.TextHeight
	kind := f.seq.Wall.Properties()
	if !kind.Studs {
		if state == "wall" {
			for _, y := range []float64{top - 2*t, bottom + 2*t} {
				arrow(d, "finder", left+t, y, right-t, y)
			}
			text(d, "finder", left+t, top-4*t, drawing.Start, false, "finder: metal, live cables")
		}
		return
	}
	type stud struct{ x, half float64 }
	var studs []stud
	if f.at != nil {
		for _, s := range f.at.Studs {
			x, half := (s.X - f.at.DatumX).MM(), s.Width.MM()/2
			if x-half > left && x+half < right {
				studs = append(studs, stud{x, half})
			}
		}
	} else {
		for _, h := range holes {
			if !slices.ContainsFunc(studs, func(s stud) bool { return s.x == h.x }) {
				studs = append(studs, stud{h.x, 19})
			}
		}
	}
	for _, s := range studs {
		x, half := s.x, s.half
		d.Named("stud", drawing.Wood, drawing.Rect(x-half, bottom, x+half, top), "Stud")
		if state == "plate" {
			continue
		}
		for _, y := range []float64{top - 2*t, bottom + 2*t} {
			for _, edge := range []float64{x - half, x + half} {
				d.Line("finder", drawing.Level, edge, y-t, edge, y+t)
			}
		}
		if state == "wall" {
			text(d, "finder", x, bottom-1.6*t, drawing.Middle, false, "edge · edge")
		}
	}
}

// points draws the holes: as they are proved, marked, or fastened.
func (f *figures) points(d *drawing.Drawing, state string, holes []hole) {
	t := d.TextHeight
	switch state {
	case "wall":
		return
	case "prove":
		for _, h := range holes {
			for _, dx := range []float64{-1.4, 0, 1.4} {
				d.Add("proof", drawing.Solid, drawing.Circle{Center: pt(h.x+dx*t, h.y), Radius: 0.22 * t})
			}
		}
		if len(holes) > 0 {
			text(d, "proof", holes[0].x, holes[0].y+1.2*t, drawing.Middle, true, "second way")
		}
		return
	}
	spots := make([]drawing.Spot, 0, len(holes))
	for n, h := range holes {
		s := drawing.Spot{Tag: h.tag, Center: pt(h.x, h.y), Radius: 0.55 * t, Name: quantity.Say("%v", h.name)}
		if state == "plate" && n > 0 {
			d.Named(h.tag, drawing.Bolt, drawing.Circle{Center: s.Center, Radius: s.Radius}, "%v", h.name)
			continue
		}
		d.Line(h.tag, drawing.Thin, h.x-t, h.y, h.x+t, h.y)
		d.Line(h.tag, drawing.Thin, h.x, h.y-t, h.x, h.y+t)
		style := drawing.Outline
		if state == "plate" {
			style, s.Name = drawing.Solid, quantity.Say("first, snug")
		}
		d.Named(h.tag, style, drawing.Circle{Center: s.Center, Radius: s.Radius}, "%v", h.name)
		spots = append(spots, s)
	}
	if state == "marks" {
		for n, h := range holes {
			if n == 0 || h.y != holes[n-1].y || len(holes) > 12 {
				continue
			}
			d.Dimension("between", pt(holes[n-1].x, h.y), pt(h.x, h.y), math.Copysign(3.2*t, h.y), drawing.After,
				quantity.Say("%v", quantity.Bare{Length: quantity.FromMM(h.x - holes[n-1].x), Wall: true}))
		}
	}
	d.NameSpots(spots)
}

// drill draws the hole in the wall, cut through, with the depth that is marked on the bit; on a
// wall that is not measured as that kind of wall usually is, which it says.
func (f *figures) drill() *drawing.Drawing {
	at := f.at
	if at == nil || len(at.Points) == 0 {
		return f.drillAnywhere()
	}
	d := drawwall.BuildUp(at)
	if d == nil {
		return f.drillAnywhere()
	}
	if d = d.For(f.language); f.language != nil {
		d.FrameTexts(d.TextHeight * 0.6)
	}
	return d
}

// drillAnywhere draws a hole in a wall of no particular build.
func (f *figures) drillAnywhere() *drawing.Drawing {
	fix := f.p.Bracket.Walls[f.seq.Wall]
	d := f.canvas("The hole, cut through", 150)
	t := d.TextHeight
	deep := fix.Depth.Or(quantity.MM(70)).MM()
	r := fix.Drill.Or(quantity.MM(8)).MM() / 2
	body := drawing.Rect(0, -28, deep+25, 28)
	d.Named("wall", drawing.Body, body, "%v", f.seq.Wall.Name())
	for _, l := range drawing.Hatching(body, t) {
		d.Add("wall", drawing.Hatch, l)
	}
	d.Named("hole", drawing.Clear, drawing.Rect(0, -r, deep, r), "The hole")
	d.Named("bit", drawing.Bolt, drawing.Rect(-45, -r*0.9, deep, r*0.9), "Drill bit")
	d.Named("stop", drawing.Solid, drawing.Rect(-6, -r-3, 0, r+3), "Depth stop")
	text(d, "stop", -3, r+3+0.6*t, drawing.Middle, true, "stop")
	if fix.Depth.Known {
		d.Dimension("hole", pt(0, -28), pt(deep, -28), -1.8*t, drawing.After, quantity.Say("%v deep",
			quantity.Bare{Length: fix.Depth.Value, Bound: quantity.Up}))
	} else {
		text(d, "hole", 0, -28-2*t, drawing.Start, false, "as deep as the fastener says")
	}
	if fix.Drill.Known {
		text(d, "bit", -45, r+0.8*t, drawing.Start, false, "Ø %v mm", quantity.FormatDecimal(int64(fix.Drill.Value), 6))
	}
	return framed(d)
}

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
	text(d, "wall", lo-t, above+0.5*t, drawing.Start, false, "from above: wall")
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
		text(d, tag, c.Closed.X, c.Closed.Y+t, drawing.Middle, true, "%v: measure it", c.Name())
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
		text(d, "screws", 50, 36, drawing.Middle, true, "up to %v", quantity.Wall(f.p.Bracket.WallPlate.HeightAdjust.Value))
	} else {
		for n, at := range []drawing.Point{{X: 38, Y: 40}, {X: 62, Y: 40}, {X: 38, Y: 18}, {X: 62, Y: 18}} {
			style := drawing.Outline
			if n == 0 {
				style = drawing.Solid
			}
			d.Add("bolts", style, drawing.Circle{Center: at, Radius: 2})
		}
		text(d, "bolts", 34, 39, drawing.End, true, "tight")
		text(d, "bolts", 66, 17, drawing.Start, false, "loose")
	}
	text(d, "scale", 0, -1.8*t, drawing.Start, false, "not to scale")
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
		text(d, "hook", 24, 44+over, drawing.Middle, true, "lift %v over", quantity.Wall(l.Value))
	} else {
		text(d, "hook", 24, 44+over, drawing.Middle, true, "over the hook")
	}
	text(d, "hook", 105, 44, drawing.Middle, true, "down: it engages")
	if k := f.p.Bracket.Lock; k != nil && k.Kind != "" {
		d.Named("lock", drawing.Bolt, drawing.Rect(75+28, -34, 75+36, -30), "Lock")
		text(d, "lock", 105, -52, drawing.Middle, false, "%v closes", k.Kind)
	}
	text(d, "scale", 0, -60, drawing.Start, false, "not to scale")
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
