// Package pdf writes drawings as PDF, to scale: a millimetre of the drawing is a millimetre on paper. A
// sheet that is larger than the paper is written in tiles with joining marks, and every sheet has
// two bars to check its print. The package also writes the pack of an installation: cover,
// parts, steps with their figures, symptoms, template and card in one file.
package pdf

import (
	"time"

	"codeberg.org/go-pdf/fpdf"

	"nexufix/core/drawing"
	"nexufix/core/quantity"
	"nexufix/render"
)

// MostSheet is the greatest length of a PDF page, in millimetres: 14400 points.
const MostSheet = 14400.0 / 72 * 25.4

// Sheet writes a drawing on one sheet of its own size.
func Sheet(d *drawing.Drawing, units quantity.Units, created time.Time) ([]byte, error) {
	size := fpdf.SizeType{Wd: d.Width(), Ht: d.Height()}
	w := begin(d, size, units, created)
	w.AddPageFormat("P", size)
	w.across(d.Across, size.Wd, size.Ht)
	for i := range d.Items {
		w.item(&d.Items[i])
	}
	return w.file(d.Title, codeOf(d.Language))
}

// codeOf is a language's code; "": English.
func codeOf(l *quantity.Language) string {
	if l == nil {
		return ""
	}
	return l.Code
}

// across writes a watermark across a page, behind everything.
func (w *writer) across(text quantity.Phrase, wide, high float64) {
	if text.Empty() {
		return
	}
	g := drawing.NewWatermark(text, wide, high)
	w.SetFont(family, "", 10)
	w.SetFontUnitSize(g.Height / drawing.CapHeight)
	w.SetTextColor(226, 226, 228)
	s := w.letters(text.In(w.units))
	x, y := g.Middle.X, high-g.Middle.Y
	w.TransformBegin()
	w.TransformRotate(g.Angle, x, y)
	w.Text(x-w.GetStringWidth(s)/2, y+g.Height/2, s)
	w.TransformEnd()
	w.SetTextColor(34, 34, 38)
}

// begin begins the document of a drawing.
func begin(d *drawing.Drawing, size fpdf.SizeType, units quantity.Units, created time.Time) *writer {
	return beginWith(d, size, units, created, textsOf(d, units))
}

// beginWith begins a document that contains these texts.
func beginWith(d *drawing.Drawing, size fpdf.SizeType, units quantity.Units, created time.Time, texts []string) *writer {
	doc := fpdf.NewCustom(&fpdf.InitType{UnitStr: "mm", Size: size})
	doc.SetMargins(0, 0, 0)
	doc.SetAutoPageBreak(false, 0)
	w := &writer{Fpdf: doc, d: d, units: units, short: allShort(texts), left: d.Min.X, top: d.Max.Y}
	addFonts(doc, w.short)
	doc.SetCreationDate(created)
	doc.SetModificationDate(created)
	doc.SetCatalogSort(true)
	return w
}

type writer struct {
	*fpdf.Fpdf
	d     *drawing.Drawing
	units quantity.Units
	short bool // one byte a letter
	// The point of the drawing at the page's upper left corner.
	left, top float64
}

func (w *writer) x(x float64) float64 { return x - w.left }

func (w *writer) y(y float64) float64 { return w.top - y }

// pen sets stroke and fill and returns how the shape is painted: "D", "F", "FD"
// or "" for not at all.
func (w *writer) pen(s drawing.Style, filled bool) string {
	p := render.PenFor(s)
	how := ""
	if filled && p.Fill != nil {
		w.SetFillColor(int(p.Fill[0]), int(p.Fill[1]), int(p.Fill[2]))
		how = "F"
	}
	if p.Stroke != nil {
		w.SetDrawColor(int(p.Stroke[0]), int(p.Stroke[1]), int(p.Stroke[2]))
		w.SetLineWidth(p.Width * w.d.Pen)
		how += "D"
	}
	dash := make([]float64, len(p.Dash))
	for i, x := range p.Dash {
		dash[i] = x * w.d.Pen
	}
	w.SetDashPattern(dash, 0)
	return how
}

func (w *writer) item(i *drawing.Item) {
	switch s := i.Shape.(type) {
	case drawing.Text:
		w.text(s)
	case drawing.Circle:
		if how := w.pen(i.Style, true); how != "" {
			w.Circle(w.x(s.Center.X), w.y(s.Center.Y), s.Radius, how)
		}
	case drawing.Line:
		if w.pen(i.Style, false) == "" {
			return
		}
		for n, p := range s.Points {
			if n == 0 {
				w.MoveTo(w.x(p.X), w.y(p.Y))
			} else {
				w.LineTo(w.x(p.X), w.y(p.Y))
			}
		}
		w.DrawPath("D")
	case drawing.Polygon:
		how := w.pen(i.Style, true)
		if how == "" {
			return
		}
		points := make([]fpdf.PointType, len(s.Points))
		for n, p := range s.Points {
			points[n] = fpdf.PointType{X: w.x(p.X), Y: w.y(p.Y)}
		}
		w.Polygon(points, how)
	}
}

func (w *writer) text(t drawing.Text) {
	weight := ""
	if t.Strong {
		weight = "B"
	}
	w.SetFont(family, weight, 10)
	w.SetFontUnitSize(t.Height / drawing.CapHeight)
	w.SetTextColor(34, 34, 38)
	text := w.letters(t.Text.In(w.units))
	x, y := w.x(t.At.X), w.y(t.At.Y)
	shift := 0.0
	switch t.Anchor {
	case drawing.Middle:
		shift = -w.GetStringWidth(text) / 2
	case drawing.End:
		shift = -w.GetStringWidth(text)
	}
	if t.Angle != 0 {
		w.TransformBegin()
		w.TransformRotate(t.Angle, x, y)
		defer w.TransformEnd()
	}
	w.Text(x+shift, y, text)
}
