// Package svg writes drawings as SVG, to scale: a millimetre of the drawing is a millimetre of the
// picture. Each item has its tag in data-tag and its style as a class, so that the page highlights
// what a finding is about with plain CSS.
package svg

import (
	"bytes"
	"encoding/hex"
	"html"
	"strconv"

	"nexufix/core/drawing"
	"nexufix/core/quantity"
	"nexufix/render"
)

// Options of writing a drawing.
type Options struct {
	Units quantity.Units
	// Both writes every text in both systems, with the classes u-mm and
	// u-in, for a page that shows one of them.
	Both bool
	// File is for a file of its own: with a white ground, as ink is dark whatever shows it.
	File bool
}

// Write writes a drawing. Every item has its tag in data-tag and its
// style as class s-…, and presentation attributes for use as a file
// without a style sheet.
func Write(d *drawing.Drawing, o Options) []byte {
	w := writer{out: make([]byte, 0, 16<<10), d: d, o: o}
	w.raw(`<svg xmlns="http://www.w3.org/2000/svg" width="`, num(d.Width()), `mm" height="`, num(d.Height()), `mm" viewBox="0 0 `,
		num(d.Width()), " ", num(d.Height()),
		`" role="img" lang="`, w.language(), `" font-family="'Source Sans 3', 'DejaVu Sans', Arial, sans-serif">`)
	w.element("title", d.Title)
	if o.File {
		w.raw(`<rect width="100%" height="100%" fill="#fff"/>`)
	}
	w.across()
	for i := range d.Items {
		w.item(&d.Items[i])
	}
	w.raw("</svg>\n")
	return w.out
}

// language is the code of what is written.
func (w *writer) language() string {
	if w.d.Language == nil {
		return "en"
	}
	return w.d.Language.Code
}

// across writes the watermark across the sheet, behind everything.
func (w *writer) across() {
	if w.d.Across.Empty() {
		return
	}
	g := drawing.NewWatermark(w.d.Across, w.d.Width(), w.d.Height())
	x, y := num(g.Middle.X), num(w.d.Height()-g.Middle.Y)
	w.raw(`<text x="`, x, `" y="`, y, `" font-size="`, num(g.Height/drawing.CapHeight), `" text-anchor="middle" dominant-baseline="central" `,
		`fill="#222226" fill-opacity="0.1" transform="rotate(`, num(-g.Angle), " ", x, " ", y, `)" class="s-text" data-tag="draft">`,
		html.EscapeString(w.d.Across.In(w.o.Units)), "</text>")
}

// writer appends to a buffer: a page has some thousand figures.
type writer struct {
	out []byte
	d   *drawing.Drawing
	o   Options
}

// num is a coordinate, written to 0.001 mm.
type num float64

// raw writes texts without escapes, and coordinates.
func (w *writer) raw(parts ...any) {
	for _, p := range parts {
		switch p := p.(type) {
		case string:
			w.out = append(w.out, p...)
		case num:
			w.num(p)
		}
	}
}

func (w *writer) num(f num) {
	begin := len(w.out)
	w.out = strconv.AppendFloat(w.out, float64(f), 'f', 3, 64)
	w.out = bytes.TrimRight(w.out, "0")
	w.out = bytes.TrimSuffix(w.out, []byte("."))
	if string(w.out[begin:]) == "-0" {
		w.out = append(w.out[:begin], '0')
	}
}

func (w *writer) element(name, text string) {
	w.raw("<", name, ">", html.EscapeString(text), "</", name, ">")
}

func (w *writer) x(x float64) num { return num(x - w.d.Min.X) }
func (w *writer) y(y float64) num { return num(w.d.Max.Y - y) }

// colour writes an ink for SVG.
func colour(i render.Ink) string {
	if i == nil {
		return "none"
	}
	return "#" + hex.EncodeToString(i[:])
}

func (w *writer) item(i *drawing.Item) {
	switch s := i.Shape.(type) {
	case drawing.Text:
		w.text(i, s)
	case drawing.Circle:
		w.raw(`<circle cx="`, w.x(s.Center.X), `" cy="`, w.y(s.Center.Y), `" r="`, num(s.Radius), `"`)
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
	w.raw("<", name, ` points="`)
	for n, p := range points {
		if n > 0 {
			w.raw(" ")
		}
		w.num(w.x(p.X))
		w.out = append(w.out, ',')
		w.num(w.y(p.Y))
	}
	w.raw(`"`)
}

// close writes an element's pen, tag and title.
func (w *writer) close(i *drawing.Item, name string, filled bool) {
	pen := render.PenFor(i.Style)
	fill := "none"
	if filled {
		fill = colour(pen.Fill)
	}
	w.raw(` fill="`, fill, `" stroke="`, colour(pen.Stroke), `" stroke-width="`, num(pen.Width*w.d.Pen), `"`)
	if pen.Dash != nil {
		w.raw(` stroke-dasharray="`)
		for n, x := range pen.Dash {
			if n > 0 {
				w.raw(" ")
			}
			w.num(num(x * w.d.Pen))
		}
		w.raw(`"`)
	}
	w.raw(` class="s-`, string(i.Style), `" data-tag="`, html.EscapeString(i.Tag), `"`)
	if i.Title.Empty() {
		w.raw("/>")
		return
	}
	w.raw(">")
	w.element("title", i.Title.In(w.o.Units))
	w.raw("</", name, ">")
}

// text writes a line of text; capitals are about 0.7 of the font's size.
func (w *writer) text(i *drawing.Item, t drawing.Text) {
	one := func(u quantity.Units, class string) {
		x, y := w.x(t.At.X), w.y(t.At.Y)
		w.raw(`<text x="`, x, `" y="`, y, `" font-size="`, num(t.Height/drawing.CapHeight), `" text-anchor="`, string(t.Anchor), `" fill="#222226"`)
		if t.Strong {
			w.raw(` font-weight="600"`)
		}
		if t.Angle != 0 {
			w.raw(` transform="rotate(`, num(-t.Angle), " ", x, " ", y, `)"`)
		}
		w.raw(` class="s-text`, class, `" data-tag="`, html.EscapeString(i.Tag), `">`, html.EscapeString(t.Text.In(u)), "</text>")
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

// Picture is a drawing for a page, in both systems of units; "" for none.
func Picture(d *drawing.Drawing) string {
	if d == nil {
		return ""
	}
	return string(Write(d, Options{Both: true}))
}
