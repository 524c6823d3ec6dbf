// Package svg writes drawings as SVG, to scale: a millimetre of the drawing
// is a millimetre of the picture.
package svg

import (
	"bytes"
	"fmt"
	"html"
	"strconv"

	"nexufix/core/drawing"
	"nexufix/core/quantity"
	"nexufix/render"
)

// Options say how a drawing is written.
type Options struct {
	Units quantity.Units
	// Both writes every text in both systems, with the classes u-mm and
	// u-in, for a page that shows one of them.
	Both bool
}

// Write writes a drawing. Every item carries its tag in data-tag and its
// style as class s-…, over plain presentation attributes that make the file
// stand alone.
func Write(d *drawing.Drawing, o Options) []byte {
	w := writer{d: d, o: o}
	fmt.Fprintf(&w.Buffer, `<svg xmlns="http://www.w3.org/2000/svg" width="%smm" height="%smm" viewBox="0 0 %s %s" role="img" font-family="Barlow, 'DejaVu Sans', Arial, sans-serif">`,
		num(d.Width()), num(d.Height()), num(d.Width()), num(d.Height()))
	w.element("title", d.Title)
	for i := range d.Items {
		w.item(&d.Items[i])
	}
	w.WriteString("</svg>\n")
	return w.Bytes()
}

type writer struct {
	bytes.Buffer
	d *drawing.Drawing
	o Options
}

func (w *writer) element(name, text string) {
	fmt.Fprintf(&w.Buffer, "<%s>%s</%s>", name, html.EscapeString(text), name)
}

// num writes a coordinate to a thousandth of a millimetre.
func num(f float64) string {
	s := strconv.FormatFloat(f, 'f', 3, 64)
	for s[len(s)-1] == '0' {
		s = s[:len(s)-1]
	}
	if s[len(s)-1] == '.' {
		s = s[:len(s)-1]
	}
	if s == "-0" {
		return "0"
	}
	return s
}

func (w *writer) x(x float64) float64 { return x - w.d.Min.X }
func (w *writer) y(y float64) float64 { return w.d.Max.Y - y }

func colour(i render.Ink) string {
	if i == nil {
		return "none"
	}
	return fmt.Sprintf("#%02x%02x%02x", i[0], i[1], i[2])
}

func (w *writer) item(i *drawing.Item) {
	switch s := i.Shape.(type) {
	case drawing.Text:
		w.text(i, s)
	case drawing.Circle:
		fmt.Fprintf(&w.Buffer, `<circle cx="%s" cy="%s" r="%s"`, num(w.x(s.Center.X)), num(w.y(s.Center.Y)), num(s.Radius))
		w.close(i, "circle", true)
	case drawing.Line:
		w.points("polyline", s.Points)
		w.close(i, "polyline", false)
	case drawing.Polygon:
		w.points("polygon", s.Points)
		w.close(i, "polygon", true)
	}
}

func (w *writer) points(name string, points []drawing.Point) {
	fmt.Fprintf(&w.Buffer, `<%s points="`, name)
	for n, p := range points {
		if n > 0 {
			w.WriteByte(' ')
		}
		w.WriteString(num(w.x(p.X)))
		w.WriteByte(',')
		w.WriteString(num(w.y(p.Y)))
	}
	w.WriteByte('"')
}

// close writes an element's pen, tag and title.
func (w *writer) close(i *drawing.Item, name string, filled bool) {
	pen := render.PenFor(i.Style)
	fill := "none"
	if filled {
		fill = colour(pen.Fill)
	}
	fmt.Fprintf(&w.Buffer, ` fill="%s" stroke="%s" stroke-width="%s"`, fill, colour(pen.Stroke), num(pen.Width*w.d.Pen))
	if pen.Dash != nil {
		w.WriteString(` stroke-dasharray="`)
		for n, x := range pen.Dash {
			if n > 0 {
				w.WriteByte(' ')
			}
			w.WriteString(num(x * w.d.Pen))
		}
		w.WriteByte('"')
	}
	w.mark(i)
	if i.Title.Empty() {
		w.WriteString("/>")
		return
	}
	w.WriteByte('>')
	w.element("title", i.Title.In(w.o.Units))
	fmt.Fprintf(&w.Buffer, "</%s>", name)
}

func (w *writer) mark(i *drawing.Item) {
	fmt.Fprintf(&w.Buffer, ` class="s-%s" data-tag="%s"`, i.Style, html.EscapeString(i.Tag))
}

// text writes a line of text; capitals are about 0.7 of the font's size.
func (w *writer) text(i *drawing.Item, t drawing.Text) {
	one := func(u quantity.Units, class string) {
		x, y := num(w.x(t.At.X)), num(w.y(t.At.Y))
		fmt.Fprintf(&w.Buffer, `<text x="%s" y="%s" font-size="%s" text-anchor="%s" fill="#222226"`, x, y, num(t.Height/0.7), t.Anchor)
		if t.Strong {
			w.WriteString(` font-weight="600"`)
		}
		if t.Angle != 0 {
			fmt.Fprintf(&w.Buffer, ` transform="rotate(%s %s %s)"`, num(-t.Angle), x, y)
		}
		fmt.Fprintf(&w.Buffer, ` class="s-text%s" data-tag="%s">%s</text>`, class, html.EscapeString(i.Tag), html.EscapeString(t.Text.In(u)))
	}
	if !w.o.Both {
		one(w.o.Units, "")
		return
	}
	mm, in := t.Text.In(quantity.Metric), t.Text.In(quantity.Imperial)
	if mm == in {
		one(quantity.Metric, "")
		return
	}
	one(quantity.Metric, " u-mm")
	one(quantity.Imperial, " u-in")
}
