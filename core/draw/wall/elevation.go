// Package wall draws where displays come on their wall, in millimetres from the wall's
// left end and the floor: the elevation with its dimensions, what each fastener is asked
// for and may hold, and a fastener in the wall, cut through. What is drawn comes from a
// [place.Placement].
package wall

import (
	"fmt"
	"math"

	"nexufix/core/drawing"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/studs"
)

// Elevation draws the wall of a job as seen facing it, to scale: x from its
// left end, y from the floor, with every dimension that an installer would
// measure. What can be moved is tagged with its name and Number, as
// [place.Move] takes them. It is nil for displays whose places are not known.
func Elevation(all []place.Placement) *drawing.Drawing {
	if len(all) == 0 || !all[0].Known {
		return nil
	}
	e := elevation{Drawing: &drawing.Drawing{Title: "The wall"}, all: all}
	e.width, _, _ = all[0].Pairing.Display.Outline(all[0].Pairing.Turn)
	e.extent()
	e.wall()
	for i := range all {
		e.display(i)
	}
	e.heights()
	e.across()
	e.FrameTexts(e.TextHeight)
	return e.Drawing
}

type elevation struct {
	*drawing.Drawing
	all                      []place.Placement
	width                    quantity.Length // of a display, as hung
	left, right, top, bottom float64         // of the wall that is shown
}

// besideWall is how much of a wall of unknown width is shown beside displays.
const besideWall = 500

func (e *elevation) extent() {
	first, last := &e.all[0], &e.all[len(e.all)-1]
	w := &first.Job.Wall
	e.left, e.right = min(0, (first.DisplayX-e.width/2).MM()-100), (last.DisplayX + e.width/2).MM()
	if w.Width.Known {
		e.right = max(e.right+100, w.Width.Value.MM())
	} else {
		e.right += besideWall
	}
	e.top = first.Top.MM() + 300
	if l := first.Job.Place.Line; l.Known {
		e.top = max(e.top, l.Value.MM()+100)
	}
	for _, f := range w.Furniture {
		e.top, e.right = max(e.top, f.Height.MM()+100), max(e.right, (f.X+f.Width/2).MM())
	}
	for _, o := range w.Outlets {
		e.top, e.right = max(e.top, o.Y.MM()+100), max(e.right, o.X.MM()+100)
	}
	if n := w.Niche; n != nil {
		e.top, e.right = max(e.top, (n.Bottom+n.Height).MM()+100), max(e.right, (n.X+n.Width/2).MM()+50)
	}
	if w.Height.Known {
		e.top = max(w.Height.Value.MM(), first.Top.MM())
	}
	e.bottom = min(0, first.Bottom.MM()-50)
	size := max(e.right-e.left, 1.25*(e.top-e.bottom))
	e.TextHeight, e.Pen = size/78, size/1000
	t := e.TextHeight
	e.Min, e.Max = drawing.Point{X: e.left - 9*t, Y: e.bottom - 8*t}, drawing.Point{X: e.right + 7*t, Y: e.top + 5*t}
}

// wall draws the wall and what is on it.
func (e *elevation) wall() {
	first := &e.all[0]
	w, t := &first.Job.Wall, e.TextHeight
	e.Named("wall", drawing.Ground, drawing.Rect(e.left, 0, e.right, e.top), "%v", w.Type.Name())
	for i, o := range w.Outlets {
		way := 100.0
		tag := fmt.Sprintf("service.%d", i)
		e.Named(tag, drawing.Zone, drawing.Rect(max(e.left, o.X.MM()-way), 0, min(e.right, o.X.MM()+way), e.top),
			"Cables usually run straight up or down from an outlet")
		e.Named(tag, drawing.Zone, drawing.Rect(e.left, max(0, o.Y.MM()-way), e.right, min(e.top, o.Y.MM()+way)), "or level to the next")
	}
	if w.Type.HasStuds() {
		for i, s := range first.Studs {
			tag, half := fmt.Sprintf("stud.%d", i), s.Width.MM()/2
			if s.X.MM()-half > e.right || s.X.MM()+half < e.left {
				continue
			}
			e.Named(tag, drawing.Wood, drawing.Rect(s.X.MM()-half, 0, s.X.MM()+half, e.top), "Stud %v, its middle at %v", i+1, quantity.Wall(s.X))
			e.Line(tag, drawing.Centre, s.X.MM(), 0, s.X.MM(), e.top)
		}
	}
	if n := w.Niche; n != nil {
		e.Named("niche", drawing.Glass, drawing.Rect((n.X-n.Width/2).MM(), n.Bottom.MM(), (n.X+n.Width/2).MM(), (n.Bottom+n.Height).MM()),
			"Niche")
		e.Label("niche", (n.X-n.Width/2).MM()+0.4*t, (n.Bottom+n.Height).MM()-1.4*t, drawing.Start, "niche")
	}
	for i, f := range w.Furniture {
		tag := fmt.Sprintf("furniture.%d", i)
		fits := f.Width.MM() / (t * 0.8)
		var name, short any = quantity.Name(f.Name), drawing.ClipName(f.Name, fits) // what somebody has called it
		if f.Name == "" {
			name, short = "furniture", drawing.Clip("furniture", fits)
		}
		e.Named(tag, drawing.Body, drawing.Rect((f.X-f.Width/2).MM(), 0, (f.X+f.Width/2).MM(), f.Height.MM()), "%v, %v high", name,
			quantity.Wall(f.Height))
		e.Label(tag, f.X.MM(), f.Height.MM()/2-t/2, drawing.Middle, "%v", short)
		e.Dimension(tag, drawing.Point{X: (f.X + f.Width/2).MM() - 1.2*t, Y: 0},
			drawing.Point{X: (f.X + f.Width/2).MM() - 1.2*t, Y: f.Height.MM()}, 0.01, drawing.After, quantity.Say("%v",
				quantity.Bare{Length: f.Height, Wall: true}))
	}
	for i, o := range w.Outlets {
		tag, half := fmt.Sprintf("outlet.%d", i), studs.BoxWidth.MM()/2
		e.Named(tag, drawing.Slot, drawing.Rect(o.X.MM()-half, o.Y.MM()-half*1.4, o.X.MM()+half, o.Y.MM()+half*1.4), "Outlet, %v", o.Kind)
		for _, dx := range []float64{-half * 0.4, half * 0.4} {
			e.Add(tag, drawing.Solid, drawing.Circle{Center: drawing.Point{X: o.X.MM() + dx, Y: o.Y.MM()}, Radius: half * 0.14})
		}
	}
	line := func(tag string, y float64, name string) {
		e.Line(tag, drawing.Hidden, e.left, y, e.right, y)
		e.Label(tag, e.right-0.5*t, y+0.4*t, drawing.End, "%v", name)
	}
	if s := first.Job.Place.Surface; s.Known {
		line("surface", s.Value.MM(), "furniture below")
	}
	if l := first.Job.Place.Line; l.Known {
		line("line", l.Value.MM(), "line above")
	}
	if c := w.Height; c.Known {
		e.Line("ceiling", drawing.Outline, e.left, c.Value.MM(), e.right, c.Value.MM())
	}
	e.Line("floor", drawing.Outline, e.left-2*t, 0, e.right+2*t, 0)
}

// display draws one display as glass, its plate, and the points to drill.
func (e *elevation) display(i int) {
	p, t := &e.all[i], e.TextHeight
	l, r := (p.DisplayX - e.width/2).MM(), (p.DisplayX + e.width/2).MM()
	b := p.Pairing.Bracket.WallPlate
	for _, datum := range p.Plates {
		if b.Width.Known && b.Height.Known {
			x, y, w, h := datum.MM(), p.Datum.MM(), b.Width.Value.MM()/2, b.Height.Value.MM()/2
			e.Named(fmt.Sprintf("plate.%d", i), drawing.Plate, drawing.Rect(x-w, y-h, x+w, y+h), "Wall plate")
		}
	}
	if p.Plates == nil && b.Width.Known && b.Height.Known { // where it would be, were there something to fix it to
		x, y, w, h := p.DatumX.MM(), p.Datum.MM(), b.Width.Value.MM()/2, b.Height.Value.MM()/2
		e.Named(fmt.Sprintf("plate.%d", i), drawing.Hidden,
			drawing.Line{Points: []drawing.Point{{X: x - w, Y: y - h}, {X: x + w, Y: y - h}, {X: x + w, Y: y + h}, {X: x - w, Y: y + h},
				{X: x - w, Y: y - h}}}, "The wall plate is not fixed here")
		for _, hole := range b.Holes {
			e.Line(fmt.Sprintf("plate.%d", i), drawing.Thin, x+hole.X.MM()-hole.Travel.MM()/2-t*0.3, y+hole.Y.MM(),
				x+hole.X.MM()+hole.Travel.MM()/2+t*0.3, y+hole.Y.MM())
		}
	}
	e.Named(fmt.Sprintf("display.%d", i), drawing.Glass, drawing.Rect(l, p.Bottom.MM(), r, p.Top.MM()), "%v, %v above the floor",
		quantity.Name(p.Pairing.Display.Name()), quantity.Wall(p.Bottom))
	e.Line(fmt.Sprintf("display.%d", i), drawing.Centre, p.DisplayX.MM(), p.Bottom.MM(), p.DisplayX.MM(), p.Top.MM())
	e.Line("level", drawing.Level, l, p.Datum.MM(), r, p.Datum.MM())
	for n := range p.Points {
		pt := &p.Points[n]
		tag := fmt.Sprintf("point.%s", PointName(p, pt, len(e.all)))
		style := drawing.Solid
		if pt.Utilisation > 1 {
			style = drawing.Over
		}
		e.Named(tag, style, drawing.Circle{Center: drawing.Point{X: pt.X.MM(), Y: pt.Y.MM()}, Radius: t * 0.32}, "Drill here: %v, %v %%",
			pt.Hole, percent(pt.Utilisation))
		e.Line(tag, drawing.Thin, pt.X.MM()-t*0.9, pt.Y.MM(), pt.X.MM()+t*0.9, pt.Y.MM())
		e.Line(tag, drawing.Thin, pt.X.MM(), pt.Y.MM()-t*0.9, pt.X.MM(), pt.Y.MM()+t*0.9)
		e.Add(tag, drawing.Dim, drawing.Text{At: drawing.Point{X: pt.X.MM() + t*0.5, Y: pt.Y.MM() + t*0.5},
			Text: quantity.Say("%v %v", Number(e.all, i, n), quantity.Name(pt.Hole)), Height: t * 0.9, Anchor: drawing.Start, Strong: true})
	}
	if a := p.Job.Place.Accessory; a.Known && a.Value > 0 && i == 0 {
		low, under := p.Bottom.MM()-a.Value.MM()-p.TiltDrop().MM(), "hangs below"
		if s := p.Job.Place.Surface; s.Known {
			low, under = s.Value.MM(), "stands below"
		}
		x := p.DisplayX.MM()
		e.Named("accessory", drawing.Hidden,
			drawing.Line{Points: []drawing.Point{{X: x - (r-l)*0.35, Y: low}, {X: x + (r-l)*0.35, Y: low},
				{X: x + (r-l)*0.35, Y: low + a.Value.MM()}, {X: x - (r-l)*0.35, Y: low + a.Value.MM()}, {X: x - (r-l)*0.35, Y: low}}},
			"What %v, %v high", under, quantity.Wall(a.Value))
	}
	name := p.Pairing.Display.Name()
	if len(e.all) > 1 {
		name = fmt.Sprint(i + 1)
	}
	e.Label(fmt.Sprintf("display.%d", i), l+0.6*t, p.Bottom.MM()+0.6*t, drawing.Start, "%v", drawing.ClipName(name, (r-l)/(t*0.8)))
}

// percent is a share in whole hundredths, rounded up.
func percent(share float64) string {
	if math.IsInf(share, 1) {
		return "more than 1000"
	}
	return quantity.FormatDecimal(int64(math.Ceil(share*100-1e-9)), 0)
}

// Number is the number of a point: counted over all displays of a job, as the
// measure card has them.
func Number(all []place.Placement, display, point int) int {
	n := point + 1
	for i := range display {
		n += len(all[i].Points)
	}
	return n
}

// PointName is a point's name within a job.
func PointName(p *place.Placement, pt *place.Point, displays int) string {
	name := pt.Hole
	if pt.Plate > 0 {
		name = fmt.Sprintf("p%d-%s", pt.Plate, name)
	}
	if displays > 1 {
		name = fmt.Sprintf("d%d-%s", p.RunIndex, name)
	}
	return name
}

// heights are the dimensions from the floor, left of the wall, and those of
// the display, right of it.
func (e *elevation) heights() {
	p, t := &e.all[0], e.TextHeight
	wallFigure := func(l quantity.Length) quantity.Phrase {
		return quantity.Say("%v", quantity.Bare{Length: l, Wall: true})
	}
	l := (p.DisplayX - e.width/2).MM()
	up := func(tag string, x float64, from, to quantity.Length, off float64) {
		e.Dimension(tag, drawing.Point{X: x, Y: from.MM()}, drawing.Point{X: x, Y: to.MM()}, off, drawing.After, wallFigure(to-from))
	}
	for n, y := range []quantity.Length{p.Bottom, p.Datum, p.Top} {
		if y > 0 {
			up([]string{"height.bottom", "height.level", "height.top"}[n], l, 0, y, l-e.left+(2+2.6*float64(n))*t)
		}
	}
	r := (e.all[len(e.all)-1].DisplayX + e.width/2).MM()
	rows := []quantity.Length{p.Top}
	for _, pt := range p.Points {
		if last := rows[len(rows)-1]; pt.Y < last {
			rows = append(rows, pt.Y)
		}
	}
	for n := 1; n < len(rows); n++ {
		side := drawing.After
		if n > 1 {
			side = drawing.Before
		}
		e.Dimension("height.rows", drawing.Point{X: r, Y: rows[n].MM()}, drawing.Point{X: r, Y: rows[n-1].MM()}, -2*t, side,
			wallFigure(rows[n-1]-rows[n]))
	}
	if c := p.Job.Wall.Height; c.Known && c.Value > p.Top {
		up("height.ceiling", r, p.Top, c.Value, -(e.right - r + 2*t))
	}
}

// across are the dimensions along the wall: below it where displays and plates
// are, above it the studs, and over the first display its holes.
func (e *elevation) across() {
	t := e.TextHeight
	w := &e.all[0].Job.Wall
	chain := func(tag string, y, off float64, xs []quantity.Length) {
		for n := 1; n < len(xs); n++ {
			if xs[n] > xs[n-1] {
				side := drawing.After
				if n == 1 {
					side = drawing.Before
				}
				e.Dimension(tag, drawing.Point{X: xs[n-1].MM(), Y: y}, drawing.Point{X: xs[n].MM(), Y: y}, off, side,
					quantity.Say("%v", quantity.Bare{Length: xs[n] - xs[n-1], Wall: true}))
			}
		}
	}
	plates, edges := []quantity.Length{0}, []quantity.Length{0}
	for i := range e.all {
		p := &e.all[i]
		plates = append(plates, p.DatumX)
		edges = append(edges, p.DisplayX-e.width/2, p.DisplayX+e.width/2)
	}
	if w.Width.Known {
		edges = append(edges, w.Width.Value)
	}
	chain("across.plate", min(0, e.bottom), -2*t, plates)
	chain("across.edges", min(0, e.bottom)-3.4*t, -1.4*t, edges) // clear of the figures above
	if w.Type.HasStuds() && len(e.all[0].Studs) > 0 && len(e.all[0].Studs) <= 16 {
		studs := []quantity.Length{0}
		for _, s := range e.all[0].Studs {
			studs = append(studs, s.X)
		}
		chain("across.studs", e.top, 2*t, studs)
	}
	p := &e.all[0]
	if len(p.Points) == 0 {
		return
	}
	row := p.Points[0].Y
	lo, hi := p.DisplayX, p.DisplayX
	for _, pt := range p.Points {
		if pt.Y == row {
			lo, hi = min(lo, pt.X), max(hi, pt.X)
		}
	}
	over := max(p.Top, row)
	chain("across.points", over.MM(), 1.8*t, []quantity.Length{lo, p.DisplayX, hi})
	for _, x := range []quantity.Length{lo, hi} {
		e.Line("across.points", drawing.Thin, x.MM(), row.MM(), x.MM(), over.MM())
	}
}
