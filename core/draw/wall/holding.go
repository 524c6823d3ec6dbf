package wall

import (
	"fmt"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/drawing"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// Holding draws the wall plate with what each fastener is asked for, and the
// share of what it may hold as a bar beside it. The origin is the datum. It is
// nil where nothing is drilled.
func Holding(p *place.Placement) *drawing.Drawing {
	w := p.Pairing.Bracket.WallPlate
	if len(p.Points) == 0 || w == nil {
		return nil
	}
	d := &drawing.Drawing{Title: "What the fasteners hold"}
	at := func(x, y quantity.Length) drawing.Point {
		return drawing.Point{X: (x - p.DatumX).MM(), Y: (y - p.Datum).MM()}
	}
	left, right := -w.Width.Or(0).MM()/2, w.Width.Or(0).MM()/2
	bottom, top := -w.Height.Or(100).MM()/2, w.Height.Or(100).MM()/2
	for i := range p.Points {
		q := at(p.Points[i].X, p.Points[i].Y)
		left, right, bottom, top = min(left, q.X-20), max(right, q.X+20), min(bottom, q.Y-20), max(top, q.Y+20)
	}
	for _, x := range p.Plates {
		m := (x - p.DatumX).MM()
		left, right = min(left, m-w.Width.Or(0).MM()/2), max(right, m+w.Width.Or(0).MM()/2)
	}
	size := max(right-left, 1.4*(top-bottom), 300)
	t := size / 52
	d.TextHeight, d.Pen = t, size/900
	for _, s := range p.Studs {
		x, half := (s.X - p.DatumX).MM(), s.Width.MM()/2
		if x+half < left-2*t || x-half > right+2*t || !p.Job.Wall.Type.HasStuds() {
			continue
		}
		d.Named("stud", drawing.Wood, drawing.Rect(x-half, bottom-4*t, x+half, top+4*t), "Stud")
		d.Line("stud", drawing.Centre, x, bottom-4*t, x, top+4*t)
	}
	plates := p.Plates
	if plates == nil {
		plates = []quantity.Length{p.DatumX}
	}
	for _, x := range plates {
		m := (x - p.DatumX).MM()
		if w.Width.Known && w.Height.Known {
			d.Named("plate", drawing.Glass, drawing.Rect(m-w.Width.Value.MM()/2, -w.Height.Value.MM()/2, m+w.Width.Value.MM()/2,
				w.Height.Value.MM()/2), "Wall plate")
		}
		for _, h := range w.Holes {
			PlateHole(d, "slot."+h.ID, &h, m)
		}
	}
	if h := w.Height; h.Known {
		d.Line("edge", drawing.Level, left-2*t, -h.Value.MM()/2, right+2*t, -h.Value.MM()/2)
		d.Label("edge", left-2*t, -h.Value.MM()/2-1.3*t, drawing.Start, "it turns about this edge")
	}
	for i := range p.Points {
		q := at(p.Points[i].X, p.Points[i].Y)
		use(d, p, i, q, label(p, i, q, frame{left, right, bottom, top}, t), t)
	}
	d.Min, d.Max = drawing.Point{X: left - 4*t, Y: bottom - 5*t}, drawing.Point{X: right + 4*t, Y: top + 5*t}
	d.FrameTexts(t)
	return d
}

// frame is the piece of wall that is drawn; beside is a place beside a point, and on which side.
type (
	frame  struct{ left, right, bottom, top float64 }
	beside struct {
		at   drawing.Point
		side float64
	}
)

// use draws what a fastener at q is asked for, and says it at a place beside it; t is the height of letters.
func use(d *drawing.Drawing, p *place.Placement, i int, q drawing.Point, by beside, t float64) {
	at, side := by.at, by.side
	pt := &p.Points[i]
	tag := "use." + PointName(p, pt, 1)
	style := drawing.Solid
	if pt.Utilisation > 1 {
		style = drawing.Over
	}
	d.Named(tag, style, drawing.Circle{Center: q, Radius: t * 0.45}, "%v: pulled with %v N, across %v N", pt.Hole, int(pt.Pull+0.5),
		int(pt.Shear+0.5))
	anchor, long := anchorFor(side), 7*t
	d.Line(tag, drawing.Thin, q.X, q.Y, at.X-side*0.4*t, at.Y)
	if !p.Strength.Known {
		d.Add(tag, drawing.Dim, drawing.Text{At: drawing.Point{X: at.X, Y: at.Y - 0.4*t}, Text: quantity.Say("%v %v", i+1, pt.Hole), Height: t,
			Anchor: anchor, Strong: true})
		return
	}
	// A bar as long as the share of what it may hold.
	bar := func(style drawing.Style, share float64, format string, args ...any) {
		end := at.X + side*long*share
		d.Named(tag, style, drawing.Rect(min(at.X, end), at.Y-0.35*t, max(at.X, end), at.Y+0.35*t), format, args...)
	}
	bar(drawing.Clear, 1, "All it may hold")
	bar(style, min(pt.Utilisation, 1), "%v %% of it", percent(pt.Utilisation))
	d.Add(tag, drawing.Dim, drawing.Text{At: drawing.Point{X: at.X, Y: at.Y + 0.8*t},
		Text: quantity.Say("%v %v · %v %%", i+1, pt.Hole, percent(pt.Utilisation)), Height: t, Anchor: anchor, Strong: true})
	d.Add(tag, drawing.Dim, drawing.Text{At: drawing.Point{X: at.X, Y: at.Y - 1.5*t},
		Text: quantity.Say("%v N out, %v N across", int(pt.Pull+0.999), int(pt.Shear+0.999)), Height: t * 0.8, Anchor: anchor})
}

// label is where what is said of a point stands: beside the plate for the
// outermost of a row, else above or below it.
func label(p *place.Placement, i int, q drawing.Point, in frame, t float64) beside {
	left, right, bottom, top := in.left, in.right, in.bottom, in.top
	by := func(x, y, side float64) beside { return beside{drawing.Point{X: x, Y: y}, side} }
	pt := &p.Points[i]
	lo, hi := pt.X, pt.X
	between := 0
	for n := range p.Points {
		o := &p.Points[n]
		if o.Y != pt.Y {
			continue
		}
		lo, hi = min(lo, o.X), max(hi, o.X)
		if o.X < pt.X {
			between++
		}
	}
	switch {
	case pt.X == lo && (lo < hi || q.X < 0):
		return by(left-2*t, q.Y, -1)
	case pt.X == hi:
		return by(right+2*t, q.Y, 1)
	case q.Y > (top+bottom)/2:
		return by(q.X+t, top+(2.5+3.4*float64(between-1))*t, 1)
	}
	return by(q.X+t, bottom-(2.5+3.4*float64(between-1))*t, 1)
}

func anchorFor(side float64) drawing.Anchor {
	if side < 0 {
		return drawing.End
	}
	return drawing.Start
}

// HoleRadius is a plate hole's radius as it is drawn.
func HoleRadius(h *catalog.PlateHole) float64 { return max(h.Diameter.MM()/2, 1.5) }

// PlateHole draws a hole or slot of a wall plate whose datum is at x.
func PlateHole(d *drawing.Drawing, tag string, h *catalog.PlateHole, x float64) {
	cx, cy, r := x+h.X.MM(), h.Y.MM(), HoleRadius(h)
	if dx, dy := h.Across().MM()/2, h.Up().MM()/2; dx+dy > 0 {
		d.Named(tag, drawing.Slot, drawing.RoundSlot(cx-dx, cy-dy, cx+dx, cy+dy, r), "Slot %v, the fastener moves %v", h.ID, h.Travel)
		return
	}
	d.Named(tag, drawing.Slot, drawing.Circle{Center: drawing.Point{X: cx, Y: cy}, Radius: r}, "Hole %v", h.ID)
}

// Layer is a part of the wall behind its surface.
type Layer struct {
	Thick   float64
	Style   drawing.Style
	Name    quantity.Phrase
	Hatched bool
	Guessed bool // nobody has said how thick it is
}

// behindStyles are how what is behind a covering is drawn, by what holds in it.
var behindStyles = map[catalog.Material]drawing.Style{
	catalog.Wood: drawing.Wood, catalog.Masonry: drawing.Body, catalog.Hollow: drawing.Plate,
}

// Layers are what the wall is made of, from its surface inwards.
func Layers(p *place.Placement) []Layer {
	w := &p.Job.Wall
	var out []Layer
	add := func(l quantity.Optional[quantity.Length], usual float64, style drawing.Style, name string, hatched bool) {
		thick := usual
		text := quantity.Say(name+", %v", "not measured")
		if l.Known {
			thick, text = l.Value.MM(), quantity.Say(name+" %v", l.Value)
		}
		if thick > 0 {
			out = append(out, Layer{thick, style, text, hatched, !l.Known})
		}
	}
	if w.Covering.Known && w.Covering.Value > 0 || w.Type.Properties().Cavity {
		add(w.Covering, 12.5, drawing.Body, "covering", false)
	}
	kind := w.Type.Properties()
	if kind.DrawnCavity > 0 {
		add(w.Cavity, kind.DrawnCavity.MM(), drawing.Clear, "cavity", false)
	}
	if kind.Behind != "" {
		style := behindStyles[kind.Holds]
		add(w.Backing, kind.DrawnDepth.MM(), style, kind.Behind, style != drawing.Plate)
	}
	return out
}

// BuildUp draws a fastener in the real wall, cut through: plate, washer,
// covering and what is behind it, hole and tip, to scale. x is 0 at the wall's
// surface and grows into it. It is nil when the kit has nothing of a known size
// for this wall.
func BuildUp(p *place.Placement) *drawing.Drawing {
	b := p.Pairing.Bracket
	item := p.Choice.Item
	if item.Length == 0 || item.Diameter == 0 || b.WallPlate == nil {
		return nil
	}
	d := &drawing.Drawing{Title: "Fastener in the wall"}
	plate, washer := b.WallPlate.Thickness.Or(0).MM(), b.WallPlate.Washer.MM()
	r, in := item.Diameter.MM()/2, item.Length.MM()-plate-washer
	all := Layers(p)
	deep := 0.0
	for _, l := range all {
		deep += l.Thick
	}
	deep = max(deep, in+12)
	half := max(28, 5*r)
	size := deep + 60
	t := size / 60
	d.TextHeight, d.Pen = t, size/700
	x := 0.0
	for i, l := range all {
		thick := l.Thick
		if i == len(all)-1 && p.Job.Wall.Type != catalog.ThinBacker && l.Guessed {
			thick = max(thick, deep-x)
		}
		tag := fmt.Sprintf("layer.%d", i)
		shape := drawing.Rect(x, -half, x+thick, half)
		d.Add(tag, l.Style, shape)
		if l.Hatched {
			for _, h := range drawing.Hatching(shape, t*1.1) {
				d.Add(tag, drawing.Hatch, h)
			}
		}
		y := -half - (1.6+1.6*float64(i%2))*t
		d.Line(tag, drawing.Thin, x+thick/2, -half, x+thick/2, y+1.1*t)
		d.Add(tag, drawing.Dim, drawing.Text{At: drawing.Point{X: x + thick/2, Y: y}, Text: l.Name, Height: t, Anchor: drawing.Middle})
		x += thick
	}
	drill := p.Hole
	if drill.Depth.Known {
		hole := drill.Diameter.Or(item.Diameter).MM() / 2
		d.Named("hole", drawing.Clear, drawing.Rect(0, -hole, drill.Depth.Value.MM(), hole), "The hole")
		d.Dimension("hole", drawing.Point{X: 0, Y: half}, drawing.Point{X: drill.Depth.Value.MM(), Y: half}, 4.4*t, drawing.After,
			quantity.Say("hole %v", quantity.Bare{Length: drill.Depth.Value, Bound: quantity.Up}))
	}
	d.Named("plate", drawing.Plate, drawing.Rect(-plate, -half*0.9, 0, half*0.9), "Wall plate")
	d.Named("washer", drawing.Washer, drawing.Rect(-plate-washer, -r*2, -plate, r*2), "Washer")
	head := -plate - washer
	d.Named("fastener", drawing.Bolt, drawing.Rect(head-r*1.3, -r*1.7, head, r*1.7), "Head")
	tip := 0.0
	if item.Kind.Properties().InWood {
		tip = min(anchorage.LagTip(item.Diameter).MM(), in)
	}
	d.Named("fastener", drawing.Bolt,
		drawing.Polygon{Points: []drawing.Point{{X: head, Y: -r}, {X: in - tip, Y: -r}, {X: in, Y: 0}, {X: in - tip, Y: r}, {X: head, Y: r}}},
		"%v %v × %v", item.Kind.Word(), item.Diameter, item.Length)
	covering := p.Job.Wall.Covering.Or(0).MM()
	if in > covering {
		d.Dimension("penetration", drawing.Point{X: covering, Y: half}, drawing.Point{X: in, Y: half}, 1.8*t, drawing.After,
			quantity.Say("behind the covering %v", quantity.Bare{Length: quantity.FromMM(in - covering), Bound: quantity.Down}))
	}
	d.Dimension("fastener", drawing.Point{X: head, Y: half}, drawing.Point{X: in, Y: half}, 7*t, drawing.After,
		quantity.Say("%v %v", item.Kind.Word(), quantity.Bare{Length: item.Length}))
	d.Min, d.Max = drawing.Point{X: head - 4*r - t, Y: -half - 5*t}, drawing.Point{X: max(deep, x) + 2*t, Y: half + 9*t}
	d.FrameTexts(t * 0.6)
	return d
}
