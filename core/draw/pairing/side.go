package pairing

import (
	"fmt"
	"math"

	"nexufix/core/draw/wall"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/hang"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// Depths are how far things stand off the wall, closed.
type Depths struct {
	Gap     quantity.Length // behind the rest plane: profile + z
	ToFront quantity.Length // wall to front
}

// DepthsOf gives the depths of a pairing; false when the profile, the stack or
// the display's depth is not known.
func DepthsOf(p *fit.Pairing) (Depths, bool) {
	front := p.Display.RestPlaneFromFront
	if !front.Known {
		front = p.Display.Depth
	}
	if p.Stack == nil || !p.Bracket.Profile.Known || !front.Known {
		return Depths{}, false
	}
	gap := p.Bracket.Profile.Value + p.Nearest()
	return Depths{gap, gap + front.Value}, true
}

// Sinks is how far the front bottom edge sinks when the display tilts; false
// when it cannot be told.
func Sinks(p *fit.Pairing, tilt float64) (quantity.Length, bool) {
	depths, known := DepthsOf(p)
	pivot, placed := p.Bracket.TiltAxis()
	if !known || !placed || p.Hang == nil {
		return 0, false
	}
	_, below := hang.Edges(p.Display, p.Pattern, p.Turn)
	y := pivot.BelowHook - p.Hang.CenterBelowHook - below.Value
	front := depths.ToFront - p.Bracket.Profile.Value + pivot.BehindArm
	return hang.Drop(y.MM(), front.MM(), tilt), below.Known
}

// Side draws the pairing from the side, the wall on the right, to scale, tilted
// by an angle in degrees (top forward). X runs to the right and is 0 at the
// wall; y is 0 at the hook line. It is nil when something it stands on is not
// known. On a particular wall it is drawn as the wall is made.
func Side(p *fit.Pairing, tilt float64, at *place.Placement) *drawing.Drawing {
	depths, known := DepthsOf(p)
	if !known || p.Hang == nil {
		return nil
	}
	above, below := hang.Edges(p.Display, p.Pattern, p.Turn)
	if !above.Known || !below.Known {
		return nil
	}
	centre := -p.Hang.CenterBelowHook.MM()
	s := side{Drawing: &drawing.Drawing{Title: "From the side"}, p: p, depths: depths,
		profile: p.Bracket.Profile.Value.MM(), centre: centre, top: centre + above.Value.MM(), bottom: centre - below.Value.MM(), tilt: tilt}
	if pivot, placed := p.Bracket.TiltAxis(); placed {
		s.pivot = drawing.Point{X: -(s.profile - pivot.BehindArm.MM()), Y: -pivot.BelowHook.MM()}
	} else {
		s.tilt = 0
	}
	size := max(s.top-s.bottom, 2.2*depths.ToFront.MM())
	s.TextHeight, s.Pen = size/34, size/800
	if at != nil {
		s.layers = wall.Layers(at)
	}
	s.wall()
	s.bracket()
	s.display()
	s.dimensions()
	s.frame()
	return s.Drawing
}

type side struct {
	*drawing.Drawing
	p                   *fit.Pairing
	depths              Depths
	profile             float64
	centre, top, bottom float64 // of pattern and display, closed
	tilt                float64
	pivot               drawing.Point
	layers              []wall.Layer
}

// moved is where a point of what tilts comes. In front of the pivot is to the
// left.
func (s *side) moved(x, y float64) drawing.Point {
	if s.tilt == 0 {
		return drawing.Point{X: x, Y: y}
	}
	y2, front := hang.Tilted(y-s.pivot.Y, s.pivot.X-x, s.tilt)
	return drawing.Point{X: s.pivot.X - front, Y: s.pivot.Y + y2}
}

// tilting is a rectangle of what tilts.
func (s *side) tilting(x0, y0, x1, y1 float64) drawing.Polygon {
	return drawing.Polygon{Points: []drawing.Point{s.moved(x0, y0), s.moved(x1, y0), s.moved(x1, y1), s.moved(x0, y1)}}
}

func (s *side) wall() {
	x := 0.0
	for i, l := range s.layers {
		tag := fmt.Sprintf("side.layer.%d", i)
		shape := drawing.Rect(x, s.bottom-2*s.TextHeight, x+l.Thick, s.top+2*s.TextHeight)
		s.Add(tag, l.Style, shape)
		if l.Hatched {
			for _, h := range drawing.Hatching(shape, s.TextHeight*0.9) {
				s.Add(tag, drawing.Hatch, h)
			}
		}
		x += l.Thick
	}
	if x > 0 {
		from := 0.0
		for i, l := range s.layers {
			y := s.top - 1.7*float64(i)*s.TextHeight
			tag := fmt.Sprintf("side.layer.%d", i)
			s.Line(tag, drawing.Thin, from+l.Thick/2, y, x+s.TextHeight, y)
			s.Add(tag, drawing.Dim, drawing.Text{At: drawing.Point{X: x + 1.3*s.TextHeight, Y: y - 0.4*s.TextHeight}, Text: l.Name,
				Height: s.TextHeight, Anchor: drawing.Start})
			from += l.Thick
		}
		return
	}
	w := drawing.Rect(0, s.bottom-2*s.TextHeight, 1.5*s.TextHeight, s.top+2*s.TextHeight)
	s.Named("side.wall", drawing.Body, w, "Wall")
	for _, l := range drawing.Hatching(w, s.TextHeight*0.7) {
		s.Add("side.wall", drawing.Hatch, l)
	}
}

func (s *side) bracket() {
	b := s.p.Bracket
	thick := 0.0
	if w := b.WallPlate; w != nil {
		thick = w.Thickness.Or(quantity.MM(3)).MM()
		datum, half := -w.HookAboveDatum.MM(), w.Height.Or(quantity.MM(100)).MM()/2
		s.Named("side.plate", drawing.Plate, drawing.Rect(-thick, datum-half, 0, datum+half), "Wall plate")
	}
	// What joins plate and arms is not described; a band stands for it.
	reach := 0.12 * (s.top - s.bottom)
	s.Named("side.link", drawing.Slot, drawing.Polygon{Points: []drawing.Point{
		{X: -thick, Y: -reach * 0.4}, {X: -thick, Y: -reach * 1.6}, s.moved(-s.profile+b.PlateThickness.MM(),
			-reach*1.6), s.moved(-s.profile+b.PlateThickness.MM(), -reach*0.4)}}, "What joins plate and arms, not to scale")
	low, high := s.centre-s.p.Hang.Height.MM()/2-20, s.centre+s.p.Hang.Height.MM()/2+20
	if i := b.Interface; i.Type == "arms" {
		low, high = -i.ArmBottom.Value.MM(), i.ArmTop.Value.MM()
	}
	s.Named("side.arm", drawing.Arm, s.tilting(-s.profile, low, -s.profile+b.PlateThickness.MM(), high), "Arm of the bracket")
	if l := b.Lock; l != nil {
		size, at, from := s.TextHeight*0.5, low, "from where is not known"
		switch l.Access {
		case "below":
			from = "reached from below"
		case "side", "front":
			at, from = (low+high)/2, "reached from the "+l.Access
		}
		s.Named("lock", drawing.Outline, s.tilting(-s.profile+b.PlateThickness.MM(), at, -s.profile+b.PlateThickness.MM()+2*size, at+size),
			"Lock, %v", from)
	}
	if _, placed := b.TiltAxis(); placed {
		s.Named("side.tilt", drawing.Outline, drawing.Circle{Center: s.pivot, Radius: s.TextHeight * 0.35}, "Tilt pivot")
	}
}

func (s *side) display() {
	p := s.p
	rest, front := -s.depths.Gap.MM(), -s.depths.ToFront.MM()
	s.Named("side.display", drawing.Panel, s.tilting(front, s.bottom, rest, s.top), "Display")
	for i := range p.Stack.Groups {
		g := &p.Stack.Groups[i]
		total := g.SpacersLength().MM()
		if total == 0 {
			continue
		}
		for _, h := range p.Layout.Groups[g.Group].Holes {
			y, half := s.centre+h.Y.MM(), g.Spacers[0].Outer.MM()/2
			s.Named("side.spacer", drawing.Spacer, s.tilting(-s.profile-total, y-half, -s.profile, y+half), "Spacer %v", g.SpacersLength())
		}
	}
	_, cy := p.Display.PatternCenter(p.Pattern, p.Turn)
	if !cy.Known {
		return
	}
	for i, z := range p.Display.Zones {
		at := p.ZonePlace(&z)
		y0, y1 := s.centre+(at.Bottom-cy.Value).MM(), s.centre+(at.Top-cy.Value).MM()
		if z.Plug.Known {
			socket := rest - z.Setback.Or(0).MM()
			s.Named("side.plug", drawing.Zone, s.tilting(socket, y0, socket+z.Plug.Value.MM(), y1), "Plug, stands out %v", z.Plug.Value)
		}
		if z.Kind == "protrusion" && z.Out.Known {
			s.Named("side.protrusion", drawing.Body, s.tilting(rest, y0, rest+z.Out.Value.MM(), y1), "Stands out %v, zone %v", z.Out.Value, i+1)
		}
	}
}

func (s *side) dimensions() {
	t := s.TextHeight
	at := func(x, y float64) drawing.Point { return drawing.Point{X: x, Y: y} }
	rest, front := -s.depths.Gap.MM(), -s.depths.ToFront.MM()
	if s.tilt == 0 {
		s.Dimension("side.depth", at(rest, s.bottom), at(0, s.bottom), -1.6*t, drawing.After, bare("gap", s.depths.Gap, quantity.Down))
		s.Dimension("side.depth", at(front, s.bottom), at(0, s.bottom), -3.6*t, drawing.After, bare("to front", s.depths.ToFront, quantity.Up))
		s.Dimension("side.profile", at(-s.profile, s.top), at(0, s.top), 1.6*t, drawing.Before,
			bare("profile", s.p.Bracket.Profile.Value, quantity.Nearest))
		return
	}
	// The way of the corners, and how far the front bottom edge sinks.
	for _, c := range []drawing.Point{{X: rest, Y: s.bottom}, {X: front, Y: s.bottom}, {X: rest, Y: s.top}, {X: front, Y: s.top}} {
		var way drawing.Line
		final := s.tilt
		for i := range 25 {
			s.tilt = final * float64(i) / 24
			way.Points = append(way.Points, s.moved(c.X, c.Y))
		}
		s.tilt = final
		s.Add("side.tilt", drawing.Hidden, way)
	}
	if edge := s.moved(front, s.bottom); edge.Y < s.bottom {
		s.Line("side.tilt", drawing.Thin, edge.X-2*t, s.bottom, front, s.bottom)
		s.Line("side.tilt", drawing.Thin, edge.X-2*t, edge.Y, edge.X, edge.Y)
		s.Add("side.tilt", drawing.Dim, drawing.Text{At: at(edge.X-2.4*t, edge.Y-0.2*t), Height: t, Anchor: drawing.End,
			Text: bare("sinks", quantity.FromMM(s.bottom-edge.Y), quantity.Up)})
	}
}

// frame goes around all there is.
func (s *side) frame() {
	s.Min, s.Max = drawing.Point{X: math.Inf(1), Y: math.Inf(1)}, drawing.Point{X: math.Inf(-1), Y: math.Inf(-1)}
	include := func(all ...drawing.Point) {
		for _, q := range all {
			s.Min.X, s.Max.X = min(s.Min.X, q.X), max(s.Max.X, q.X)
			s.Min.Y, s.Max.Y = min(s.Min.Y, q.Y), max(s.Max.Y, q.Y)
		}
	}
	for _, i := range s.Items {
		switch v := i.Shape.(type) {
		case drawing.Line:
			include(v.Points...)
		case drawing.Polygon:
			include(v.Points...)
		case drawing.Circle:
			include(v.Center)
		}
	}
	m := s.TextHeight * 0.6
	s.Min, s.Max = drawing.Point{X: s.Min.X - m, Y: s.Min.Y - m}, drawing.Point{X: s.Max.X + m, Y: s.Max.Y + m}
	s.FrameTexts(m)
}

// Above draws the pairing from above, the wall at the top, swung by an angle
// in degrees about the swivel pivot, its arm at full reach. It is nil for a
// bracket without a swivel, or when a figure is missing.
func Above(p *fit.Pairing, swivel float64) *drawing.Drawing {
	pivot, placed := p.Bracket.SwivelAxis()
	depths, known := DepthsOf(p)
	w, _, outlined := p.Display.Outline(p.Turn)
	if !placed || !known || !outlined || !p.Bracket.Reach.Known {
		return nil
	}
	x, _ := p.Display.PatternCenter(p.Pattern, p.Turn)
	if !x.Known {
		return nil
	}
	s := side{Drawing: &drawing.Drawing{Title: "From above"}, p: p, depths: depths}
	stand := (p.Bracket.Reach.Value - pivot.BehindArm).MM() // pivot off the wall
	back := (pivot.BehindArm + p.Nearest()).MM()            // rest plane in front of the pivot
	front := back + (depths.ToFront - depths.Gap).MM()
	left, right := -x.Value.MM()-w.MM()/2, -x.Value.MM()+w.MM()/2
	size := max(w.MM(), stand+front)
	s.TextHeight, s.Pen = size/36, size/900
	// Swung, x and distance from the pivot turn together.
	swung := func(px, pz, degrees float64) drawing.Point {
		sin, cos := math.Sincos(degrees * math.Pi / 180)
		return drawing.Point{X: px*cos + pz*sin, Y: -(stand + pz*cos - px*sin)}
	}
	wall := drawing.Rect(min(left, -w.MM()*0.6), 0, max(right, w.MM()*0.6), 1.5*s.TextHeight)
	s.Named("side.wall", drawing.Body, wall, "Wall")
	for _, l := range drawing.Hatching(wall, s.TextHeight*0.7) {
		s.Add("side.wall", drawing.Hatch, l)
	}
	s.Line("side.link", drawing.Outline, 0, 0, 0, -stand)
	s.Named("side.swivel", drawing.Outline, drawing.Circle{Center: drawing.Point{Y: -stand}, Radius: s.TextHeight * 0.4}, "Swivel pivot")
	corners := []drawing.Point{{X: left, Y: back}, {X: right, Y: back}, {X: right, Y: front}, {X: left, Y: front}}
	var body drawing.Polygon
	for _, c := range corners {
		body.Points = append(body.Points, swung(c.X, c.Y, swivel))
	}
	s.Named("side.display", drawing.Panel, body, "Display")
	if swivel != 0 {
		for _, c := range corners {
			var way drawing.Line
			for i := range 25 {
				way.Points = append(way.Points, swung(c.X, c.Y, swivel*float64(i)/24))
			}
			s.Add("side.swivel", drawing.Hidden, way)
		}
	}
	nearest := math.Inf(-1)
	at := drawing.Point{}
	for _, c := range body.Points {
		if c.Y > nearest {
			nearest, at = c.Y, c
		}
	}
	if nearest < 0 {
		s.Line("side.swivel", drawing.Thin, at.X, at.Y, at.X, 0)
		text := drawing.Text{At: drawing.Point{X: at.X - s.TextHeight*0.5, Y: at.Y/2 - s.TextHeight/2}, Height: s.TextHeight,
			Anchor: drawing.End, Text: bare("clear", quantity.FromMM(-nearest), quantity.Down)}
		s.Add("side.swivel", drawing.Dim, text)
	}
	s.frame()
	return s.Drawing
}
