package install

import (
	"fmt"
	"math"
	"slices"

	drawwall "nexufix/core/draw/wall"
	"nexufix/core/drawing"
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
	f.structure(d, state, holes, frame{left, right, top, bottom})
	if state == "marks" || state == "plate" {
		d.Line("level", drawing.Level, left, 0, right, 0)
		text(d, "level", pt(right-0.4*t, 0.4*t), drawing.End, "level line")
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
			strong(d, "plate", pt(x+0.8*t, ph+1.6*t), drawing.Start, "up")
		}
	}
	f.points(d, state, holes)
	return framed(d)
}

// frame is the piece of wall that is drawn.
type frame struct{ left, right, top, bottom float64 }

// structure draws what is behind the surface, as far as it is known, and how it was found.
func (f *figures) structure(d *drawing.Drawing, state string, holes []hole, in frame) {
	left, right, top, bottom := in.left, in.right, in.top, in.bottom
	t := d.TextHeight
	kind := f.seq.Wall.Properties()
	if !kind.Studs {
		if state == "wall" {
			for _, y := range []float64{top - 2*t, bottom + 2*t} {
				arrow(d, "finder", left+t, y, right-t, y)
			}
			text(d, "finder", pt(left+t, top-4*t), drawing.Start, "finder: metal, live cables")
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
			text(d, "finder", pt(x, bottom-1.6*t), drawing.Middle, "edge · edge")
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
			strong(d, "proof", pt(holes[0].x, holes[0].y+1.2*t), drawing.Middle, "second way")
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
	strong(d, "stop", pt(-3, r+3+0.6*t), drawing.Middle, "stop")
	if fix.Depth.Known {
		d.Dimension("hole", pt(0, -28), pt(deep, -28), -1.8*t, drawing.After, quantity.Say("%v deep",
			quantity.Bare{Length: fix.Depth.Value, Bound: quantity.Up}))
	} else {
		text(d, "hole", pt(0, -28-2*t), drawing.Start, "as deep as the fastener says")
	}
	if fix.Drill.Known {
		text(d, "bit", pt(-45, r+0.8*t), drawing.Start, "Ø %v mm", quantity.FormatDecimal(int64(fix.Drill.Value), 6))
	}
	return framed(d)
}
