// Package install draws the steps of an installation, each in its own state: what is in the bags,
// the bolt's parts one behind the other, the wall as far as it is worked on, the lift, the hook
// before and after it engages, the cables at both ends of the movement. Everything that has a
// size on record is drawn from it, to one scale in a figure; what has none (people, a hook's
// shape) is a sign, and the figure says "not to scale". Parts carry the tags of a sequence's
// parts, points those of the placement, so that text and figure light each other up.
package install

import (
	"nexufix/core/draw/pairing"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/steps"
)

// Names are the figures that a step can have.
var Names = []string{"bags", "back", "try", "stack", "arms", "hook", "wall", "prove", "marks", "drill", "plate", "cables", "lift", "lock",
	"level", "tension"}

// Figures draws the figures that the steps of a sequence name: on a particular wall where its
// displays have a place there. A figure that cannot be drawn, since a size is missing, is left out.
func Figures(p *fit.Pairing, seq *steps.Sequence, places []place.Placement, l *quantity.Language) map[string]*drawing.Drawing {
	out := map[string]*drawing.Drawing{}
	f := figures{p: p, seq: seq, displays: max(1, len(places)), language: l}
	if len(places) > 0 && places[0].Known {
		f.at = &places[0]
	}
	for i := range seq.Steps {
		name := seq.Steps[i].Figure
		if out[name] != nil {
			continue
		}
		if d := f.draw(name); d != nil {
			out[name] = d
		}
	}
	return out
}

type figures struct {
	p   *fit.Pairing
	seq *steps.Sequence
	at  *place.Placement // the first display's; nil without a place

	displays int
	language *quantity.Language
}

// draw draws a figure by its name; nil for one that cannot be drawn.
func (f *figures) draw(name string) *drawing.Drawing {
	switch name {
	case "bags":
		return f.bags()
	case "back":
		return pairing.Back(f.p).For(f.language)
	case "try":
		return f.tryBolts()
	case "stack":
		return f.exploded()
	case "arms":
		return f.arms()
	case "hook":
		return f.hook()
	case "wall", "prove", "marks", "plate":
		return f.wall(name)
	case "drill":
		return f.drill()
	case "cables":
		return f.cables()
	case "lift":
		return f.lift()
	case "lock":
		return f.side(0, "lock")
	case "tension":
		tilt := fit.Within(f.p.Bracket.TiltDown, f.p.Motion().TiltDown)
		return f.side(tilt.Or(0).Degrees(), "side.tilt")
	case "level":
		return f.level()
	}
	return nil
}

// canvas is a figure of a width, with lettering that can be read when it is shown 80 mm wide.
func (f *figures) canvas(title string, width float64) *drawing.Drawing {
	return &drawing.Drawing{Title: f.language.Words(title), TextHeight: width / 38, Pen: width / 550, Language: f.language}
}

// framed puts the frame around everything.
func framed(d *drawing.Drawing) *drawing.Drawing {
	first := true
	grow := func(p drawing.Point) {
		if first {
			d.Min, d.Max, first = p, p, false
		}
		d.Min = drawing.Point{X: min(d.Min.X, p.X), Y: min(d.Min.Y, p.Y)}
		d.Max = drawing.Point{X: max(d.Max.X, p.X), Y: max(d.Max.Y, p.Y)}
	}
	for i := range d.Items {
		switch s := d.Items[i].Shape.(type) {
		case drawing.Line:
			for _, p := range s.Points {
				grow(p)
			}
		case drawing.Polygon:
			for _, p := range s.Points {
				grow(p)
			}
		case drawing.Circle:
			grow(drawing.Point{X: s.Center.X - s.Radius, Y: s.Center.Y - s.Radius})
			grow(drawing.Point{X: s.Center.X + s.Radius, Y: s.Center.Y + s.Radius})
		case drawing.Text:
			grow(s.At)
		}
	}
	m := d.TextHeight * 0.6
	d.Min, d.Max = drawing.Point{X: d.Min.X - m, Y: d.Min.Y - m}, drawing.Point{X: d.Max.X + m, Y: d.Max.Y + m}
	d.FrameTexts(m)
	return d
}

func pt(x, y float64) drawing.Point { return drawing.Point{X: x, Y: y} }

// text writes a line of text.
func text(d *drawing.Drawing, tag string, at drawing.Point, a drawing.Anchor, format string, args ...any) {
	d.Add(tag, drawing.Dim, drawing.Text{At: at, Text: quantity.Say(format, args...), Height: d.TextHeight, Anchor: a})
}

// strong writes a name or a number.
func strong(d *drawing.Drawing, tag string, at drawing.Point, a drawing.Anchor, format string, args ...any) {
	d.Add(tag, drawing.Dim, drawing.Text{At: at, Text: quantity.Say(format, args...), Height: d.TextHeight, Anchor: a, Strong: true})
}

// arrow is one from a point to another.
func arrow(d *drawing.Drawing, tag string, x0, y0, x1, y1 float64) {
	t := d.TextHeight
	d.Line(tag, drawing.Level, x0, y0, x1, y1)
	dx, dy := x1-x0, y1-y0
	long := max(1e-9, max(dx, -dx)+max(dy, -dy))
	ux, uy := dx/long, dy/long
	d.Add(tag, drawing.Solid, drawing.Polygon{Points: []drawing.Point{{X: x1, Y: y1}, {X: x1 - 0.9*t*ux + 0.35*t*uy,
		Y: y1 - 0.9*t*uy - 0.35*t*ux},
		{X: x1 - 0.9*t*ux - 0.35*t*uy, Y: y1 - 0.9*t*uy + 0.35*t*ux}}})
}

// side is the pairing from the side, with a word on what is looked at.
func (f *figures) side(tilt float64, tag string) *drawing.Drawing {
	d := pairing.Side(f.p, tilt, f.at).For(f.language)
	if d == nil { // a depth is missing
		return f.hook()
	}
	if tag == "lock" && f.p.Bracket.Lock != nil {
		for i := range d.Items {
			if d.Items[i].Tag != "lock" {
				continue
			}
			if s, ok := d.Items[i].Shape.(drawing.Polygon); ok {
				c := s.Points[0]
				d.Add("lock", drawing.Thin, drawing.Circle{Center: c, Radius: 1.6 * d.TextHeight})
				strong(d, "lock", pt(c.X-2*d.TextHeight, c.Y-2.6*d.TextHeight), drawing.End, "lock")
				break
			}
		}
	}
	d.FrameTexts(d.TextHeight * 0.6)
	return d
}

// arms is the back, with up, left and right as the installer has them.
func (f *figures) arms() *drawing.Drawing {
	d := pairing.Back(f.p).For(f.language)
	if d == nil {
		return nil
	}
	t := d.TextHeight * 1.2
	x, y := d.Max.X+2*t, (d.Min.Y+d.Max.Y)/2
	arrow(d, "up", x, y-4*t, x, y+4*t)
	d.Add("up", drawing.Dim, drawing.Text{At: pt(x+t*0.7, y), Text: quantity.Say("up"), Height: t, Anchor: drawing.Start, Strong: true})
	bottom := d.Min.Y - 1.6*t
	for _, side := range []float64{-1, 1} {
		name := map[float64]string{-1: "left, from behind", 1: "right, from behind"}[side]
		d.Add("up", drawing.Dim, drawing.Text{At: pt(side*0.25*(d.Max.X-d.Min.X), bottom), Text: quantity.Say(name), Height: t,
			Anchor: drawing.Middle, Strong: true})
	}
	d.Max.X += 3 * t
	d.Min.Y = bottom - t
	d.FrameTexts(t * 0.4)
	return d
}
