// Package pairing draws a display on its bracket, in millimetres: the section through
// the bolts, the back with the arms on it, from the side and from above, a hole that
// was probed; and a display, a bracket and a kit by themselves, for the editors. What is
// drawn comes from the figures of a [fit.Pairing]; nothing is judged here. Items carry
// the tags that the findings name.
package pairing

import (
	"fmt"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

const (
	panelThick   = 3.0 // drawn thickness of the panel behind the hole
	insertThick  = 2.0 // drawn wall of the threaded insert
	sectionText  = 1.9
	sectionGap   = 7.0
	sectionTitle = 7.0
)

// bare writes a figure at a dimension line, after its name.
func bare(name string, l quantity.Length, b quantity.Bound) quantity.Phrase {
	if name == "" {
		return quantity.Say("%v", quantity.Bare{Length: l, Bound: b})
	}
	return quantity.Say(name+" %v", quantity.Bare{Length: l, Bound: b})
}

// byName writes the size that a part is sold by: millimetres in either system.
func byName(name string, l quantity.Length) quantity.Phrase {
	size := quantity.FormatDecimal(int64(l), 6)
	return quantity.Say("%v", quantity.Either{Metric: name + " " + size, Imperial: name + " " + size + " mm"})
}

// Section draws every group's bolt to scale in one picture: the display on
// the left, the wall on the right, all groups on the same rest plane. It is
// nil when the pairing has no stack.
func Section(p *fit.Pairing) *drawing.Drawing {
	if p.Stack == nil {
		return nil
	}
	s := section{pairing: p, Drawing: &drawing.Drawing{Title: "Section through the bolts", Pen: 0.14, TextHeight: sectionText}}
	left, right := 0.0, 0.0
	for i := range p.Stack.Groups {
		h := &p.Stack.Groups[i]
		g := &p.Layout.Groups[h.Group]
		left = min(left, -(g.Setback+g.Recess+g.ThreadDepth).MM()-panelThick)
		right = max(right, (h.Plane+p.Bracket.PlateThickness).MM()+headEnd(h))
	}
	s.left, s.right = left-14, right+12
	y := 0.0
	for i := range p.Stack.Groups {
		y = s.group(i, y) - sectionGap
	}
	s.Min, s.Max = drawing.Point{X: s.left, Y: y + sectionGap - 3.6}, drawing.Point{X: s.right, Y: 1}
	s.Line("stack.rest", drawing.Centre, 0, s.Min.Y+0.4, 0, -sectionTitle+1.5)
	s.Label("stack.rest", 0.6, s.Min.Y+0.4, drawing.Start, "rest plane")
	s.FrameTexts(0.4)
	return s.Drawing
}

// headEnd is how far a bolt's head stands out from the plate's outer face.
func headEnd(h *stack.HoleStack) float64 {
	std := h.Thread.Standard()
	return (quantity.Length(h.Washers.Count)*h.Washers.Thickness + h.Shoulder + std.PanHeadHeight).MM()
}

type section struct {
	*drawing.Drawing
	pairing     *fit.Pairing
	left, right float64
}

// ring is what is turned about a bolt's axis: from where to where along it, and its radii.
type ring struct{ from, to, inner, outer float64 }

// mirrored draws a rectangle and its image on the other side of the bolt's
// axis.
func (s *section) mirrored(tag string, style drawing.Style, axis float64, of ring, title string, args ...any) {
	z0, z1, r0, r1 := of.from, of.to, of.inner, of.outer
	for _, side := range []float64{1, -1} {
		r := drawing.Rect(z0, axis+side*r0, z1, axis+side*r1)
		s.Named(tag, style, r, title, args...)
		switch style {
		case drawing.Body:
			s.hatch(tag, r, 1.6)
		case drawing.Plate:
			s.hatch(tag, r, 0.9)
		}
	}
}

func (s *section) hatch(tag string, r drawing.Polygon, spacing float64) {
	for _, l := range drawing.Hatching(r, spacing) {
		s.Add(tag, drawing.Hatch, l)
	}
}

// reach is how far to either side of a bolt its section is drawn.
func (s *section) reach(h *stack.HoleStack, g *stack.Group, cup float64) float64 {
	bore := h.Thread.Standard().Nominal.MM() / 2
	reach := max(bore+insertThick+3, h.Washers.Outer.MM()/2+2, s.pairing.Bracket.Slot().MM()/2+4)
	if g.Recess > 0 {
		reach = max(reach, cup+3)
	}
	for _, x := range h.Spacers {
		reach = max(reach, x.Outer.MM()/2+2)
	}
	return reach
}

// group draws one group below y and returns where it ends.
func (s *section) group(i int, y float64) float64 {
	p := s.pairing
	h := &p.Stack.Groups[i]
	g := &p.Layout.Groups[h.Group]
	std := h.Thread.Standard()
	tag := func(part string) string { return fmt.Sprintf("stack.%d.%s", i, part) }

	bore := std.Nominal.MM() / 2
	cup := g.RecessDiameter.Or(std.HeadDiameter).MM() / 2
	reach := s.reach(h, g, cup)
	rim := -g.Setback.MM()
	face := rim - g.Recess.MM()
	bottom := face - g.ThreadDepth.MM()
	plane := h.Plane.MM()
	outer := plane + p.Bracket.PlateThickness.MM()
	underHead := outer + h.Shoulder.MM() + float64(h.Washers.Count)*h.Washers.Thickness.MM()
	tip := underHead - h.Bolt.MM()

	y -= sectionTitle
	axis := y - 2*sectionText*2.3 - reach
	s.Add(tag("title"), drawing.Dim, drawing.Text{At: drawing.Point{X: s.left + 1, Y: y + 2.6}, Height: sectionText * 1.2,
		Anchor: drawing.Start, Strong: true,
		Text: quantity.Say("%v   %v×%v", strings.Join(h.Holes, " "), h.Thread, quantity.FormatDecimal(int64(h.Bolt), 6))})

	// The display.
	s.Named(tag("panel"), drawing.Panel, drawing.Rect(bottom-panelThick, axis-reach, bottom, axis+reach), "What the bolt must not reach")
	s.mirrored(tag("insert"), drawing.InsertFil, axis, ring{bottom, face, bore, bore + insertThick},
		"Threaded insert, %v, usable depth %v", h.Thread,
		g.ThreadDepth)
	s.mirrored(tag("display"), drawing.Body, axis, ring{bottom, face, bore + insertThick, reach}, "Back of the display")
	if g.Recess > 0 {
		s.mirrored(tag("cup"), drawing.Body, axis, ring{face, rim, cup, reach}, "Rim of the recess, %v deep", g.Recess)
	}

	// What the bolt passes.
	z := rim
	if h.Bearing == stack.Insert {
		z = face
	}
	for n, x := range h.Spacers {
		s.mirrored(tag("spacer"), drawing.Spacer, axis, ring{z, z + x.Length.MM(), bore + 0.4, x.Outer.MM() / 2},
			"Spacer %v, %v wide, number %v", x.Length,
			x.Outer, n+1)
		z += x.Length.MM()
	}
	s.mirrored(tag("plate"), drawing.Plate, axis, ring{plane, outer, p.Bracket.Slot().MM() / 2, reach}, "Bracket's plate, %v",
		p.Bracket.PlateThickness)
	z = outer
	if h.Shoulder > 0 {
		s.mirrored(tag("shoulder"), drawing.Washer, axis, ring{z, z + h.Shoulder.MM(), bore + 0.2, h.Washers.Outer.MM()/2 - 1},
			"Shoulder washer, %v",
			h.Shoulder)
		z += h.Shoulder.MM()
	}
	for range h.Washers.Count {
		s.mirrored(tag("washer"), drawing.Washer, axis, ring{z, z + h.Washers.Thickness.MM(), bore + 0.2, h.Washers.Outer.MM() / 2},
			"Washer %v, %v wide",
			h.Washers.Thickness, h.Washers.Outer)
		z += h.Washers.Thickness.MM()
	}

	if out, clear := p.StandsOut(); out > 0 { // beside the bolt, where the arm passes over it
		inner := std.HeadDiameter.MM() / 2
		for _, x := range h.Spacers {
			inner = max(inner, x.Outer.MM()/2)
		}
		s.Named(tag("over"), drawing.Body, drawing.Rect(0, axis-reach, out.MM(), axis-min(inner+1, reach-1)),
			"Stands out %v under the arm, which clears it by %v", out, quantity.AtLeast(clear))
	}

	s.bolt(tag, h, axis, bottom, tip, underHead)
	s.dimensions(tag, h, g, &depths{axis, reach, rim, face, bottom, tip, underHead, plane})
	lines := 2.0
	if out, _ := p.StandsOut(); out > 0 {
		lines = 3
	}
	return axis - reach - lines*sectionText*2.3 - 1
}

// bolt draws the bolt of a group, and the room before its tip.
func (s *section) bolt(tag func(string) string, h *stack.HoleStack, axis, bottom, tip, underHead float64) {
	std := h.Thread.Standard()
	bore := std.Nominal.MM() / 2
	s.Named(tag("clearance"), drawing.Clear, drawing.Rect(bottom, axis-bore, tip, axis+bore), "Tip clearance: %v",
		quantity.AtLeast(h.Clearance))
	chamfer := min(std.Pitch.MM(), h.Bolt.MM()/4)
	s.Named(tag("bolt"), drawing.Bolt, drawing.Polygon{Points: []drawing.Point{
		{X: underHead, Y: axis + bore}, {X: tip + chamfer, Y: axis + bore}, {X: tip, Y: axis + bore - chamfer},
		{X: tip, Y: axis - bore + chamfer}, {X: tip + chamfer, Y: axis - bore}, {X: underHead, Y: axis - bore},
	}}, "Bolt %v×%v", h.Thread, quantity.FormatDecimal(int64(h.Bolt), 6))
	head, high := h.Head.Width(h.Thread).MM()/2, h.Head.Height(h.Thread).MM()
	round := 0.7 // of a pan or a button head
	if h.Head == catalog.SocketHead || h.Head == catalog.HexHead {
		round = 1
	}
	points := []drawing.Point{
		{X: underHead, Y: axis - head}, {X: underHead + high*round, Y: axis - head}, {X: underHead + high, Y: axis - head*round},
		{X: underHead + high, Y: axis + head*round}, {X: underHead + high*round, Y: axis + head}, {X: underHead, Y: axis + head},
	}
	if h.Head == catalog.Countersunk { // in its dimple
		points = []drawing.Point{{X: underHead - head + bore, Y: axis - bore}, {X: underHead, Y: axis - head}, {X: underHead, Y: axis + head},
			{X: underHead - head + bore, Y: axis + bore}}
	}
	s.Named(tag("bolt"), drawing.Bolt, drawing.Polygon{Points: points}, "Head of the bolt")
	root := bore * 0.82
	for _, side := range []float64{1, -1} {
		s.Line(tag("bolt"), drawing.Thin, tip+chamfer, axis+side*root, underHead-0.5, axis+side*root)
	}
	s.Line(tag("axis"), drawing.Centre, bottom-panelThick-1.5, axis, underHead+high+2, axis)
}

// depths are the places of a hole's section along the bolt, from the rest plane; its axis, and how far to either side is drawn.
type depths struct{ axis, reach, rim, face, bottom, tip, underHead, plane float64 }

// dimensions puts what the display gives above a group, and what the bolt
// does below it.
func (s *section) dimensions(tag func(string) string, h *stack.HoleStack, g *stack.Group, of *depths) {
	row := sectionText * 2.3
	axis, reach, rim, face, bottom, tip, underHead, plane := of.axis, of.reach, of.rim, of.face, of.bottom, of.tip, of.underHead, of.plane
	top, low := axis+reach, axis-reach
	at := func(x, y float64) drawing.Point { return drawing.Point{X: x, Y: y} }
	s.Dimension(tag("depth"), at(bottom, top), at(face, top), 0.6*row, drawing.Before, bare("thread", g.ThreadDepth, quantity.Nearest))
	if g.Recess > 0 {
		s.Dimension(tag("recess"), at(face, top), at(rim, top), 1.6*row, drawing.Before, bare("recess", g.Recess, quantity.Nearest))
	}
	if g.Setback > 0 {
		s.Dimension(tag("setback"), at(rim, top), at(0, top), 0.6*row, drawing.After, bare("rim offset", g.Setback, quantity.Nearest))
	}
	if total := h.SpacersLength(); total > 0 {
		s.Dimension(tag("spacer"), at(plane-total.MM(), top), at(plane, top), 1.6*row, drawing.After, byName("spacer", total))
	}
	if out, clear := s.pairing.StandsOut(); out > 0 {
		s.Dimension(tag("over"), at(0, low), at(out.MM(), low), -3*row, drawing.Before, bare("stands out", out, quantity.Up))
		s.Dimension(tag("over"), at(out.MM(), low), at(plane, low), -3*row, drawing.After, bare("clear by", clear, quantity.Down))
	}
	s.Dimension(tag("clearance"), at(bottom, low), at(tip, low), -0.8*row, drawing.Before, bare("tip clearance", h.Clearance, quantity.Down))
	s.Dimension(tag("engagement"), at(tip, low), at(face, low), -0.8*row, drawing.After, bare("engaged", h.Engagement, quantity.Down))
	s.Dimension(tag("bolt"), at(tip, low), at(underHead, low), -1.9*row, drawing.After, byName("bolt", h.Bolt))
}
