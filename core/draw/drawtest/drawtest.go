// Package drawtest has what the tests of drawings share: a pairing to draw, and what
// is read off a drawing.
package drawtest

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/drawing"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// Judged is the pair of catalogtest, changed, and judged.
func Judged(change func(*catalog.Display, *catalog.Bracket)) fit.Pairing {
	d, b := catalogtest.Pair()
	if change != nil {
		change(d, b)
	}
	return fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
}

// Stepped has a bottom row with a step and a cup, and the parts for it.
func Stepped(d *catalog.Display, b *catalog.Bracket) {
	for i := 2; i < 4; i++ {
		h := &d.Patterns[0].Holes[i]
		h.Setback, h.Recess, h.RecessDiameter = catalog.Given(quantity.MM(9), catalog.Sheet), catalog.Given(quantity.MM(4),
			catalog.Sheet), catalog.Given(quantity.MM(13), catalog.Sheet)
	}
	b.Kit = append(b.Kit, catalog.Item{Kind: "spacer", Threads: []fastener.Thread{fastener.M6}, Length: quantity.MM(10),
		Outer: quantity.MM(18), Count: 2, Bag: "D"},
		catalog.Item{Kind: "bolt", Thread: fastener.M6, Length: quantity.MM(25), Count: 2, Bag: "B"})
}

// Extent is the box around all shapes but texts with a tag.
func Extent(d *drawing.Drawing, tag string) (x0, x1, y0, y1 float64) {
	x0, x1, y0, y1 = math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
	for _, i := range d.Items {
		if i.Tag != tag || i.Style == drawing.Dim || i.Style == drawing.Solid || i.Style == drawing.Hatch || i.Style == drawing.Hidden &&
			strings.HasPrefix(tag, "side.") {
			continue
		}
		var points []drawing.Point
		switch s := i.Shape.(type) {
		case drawing.Line:
			points = s.Points
		case drawing.Polygon:
			points = s.Points
		case drawing.Circle:
			points = []drawing.Point{{X: s.Center.X - s.Radius, Y: s.Center.Y - s.Radius}, {X: s.Center.X + s.Radius, Y: s.Center.Y + s.Radius}}
		}
		for _, p := range points {
			x0, x1, y0, y1 = min(x0, p.X), max(x1, p.X), min(y0, p.Y), max(y1, p.Y)
		}
	}
	return x0, x1, y0, y1
}

// Near reports whether two lengths are the same but for rounding.
func Near(a, b float64) bool { return math.Abs(a-b) < 1e-9 }

// Points are a shape's points.
func Points(s drawing.Shape) []drawing.Point {
	switch s := s.(type) {
	case drawing.Line:
		return s.Points
	case drawing.Polygon:
		return s.Points
	case drawing.Circle:
		return []drawing.Point{s.Center}
	case drawing.Text:
		return []drawing.Point{s.At}
	}
	return nil
}

// Texts are all texts of a drawing, a line each.
func Texts(d *drawing.Drawing, u quantity.Units) string {
	var all []string
	for _, i := range d.Items {
		if t, ok := i.Shape.(drawing.Text); ok {
			all = append(all, t.Text.In(u))
		}
	}
	return strings.Join(all, "\n")
}

// List is all of a drawing, a line for each of its parts: its frame, and what is drawn where, in hundredths of a millimetre.
func List(d *drawing.Drawing) string {
	if d == nil {
		return " nothing\n"
	}
	var out strings.Builder
	at := func(points ...drawing.Point) {
		for _, p := range points {
			fmt.Fprintf(&out, " %.2f,%.2f", hundredths(p.X), hundredths(p.Y))
		}
	}
	fmt.Fprintf(&out, " %s:", d.Title)
	at(d.Min, d.Max)
	fmt.Fprintf(&out, " pen %.3g, text %.3g; %s; %s\n", d.Pen, d.TextHeight, d.Warning.In(quantity.Metric), d.Across.In(quantity.Metric))
	for _, i := range d.Items {
		fmt.Fprintf(&out, "  %s %s", i.Tag, i.Style)
		switch s := i.Shape.(type) {
		case drawing.Line:
			at(s.Points...)
		case drawing.Polygon:
			out.WriteString(" filled")
			at(s.Points...)
		case drawing.Circle:
			at(s.Center)
			fmt.Fprintf(&out, " r %.2f", hundredths(s.Radius))
		case drawing.Text:
			at(s.At)
			fmt.Fprintf(&out, " %s %.3g, %.4g°, %v: %s", s.Anchor, s.Height, s.Angle, s.Strong, s.Text.In(quantity.Metric))
		}
		if !i.Title.Empty() {
			fmt.Fprintf(&out, " (%s)", i.Title.In(quantity.Metric))
		}
		out.WriteString("\n")
	}
	return out.String()
}

// hundredths rounds so that what lies half-way between two is the same on every machine, and so is nought.
func hundredths(x float64) float64 { return math.Round((x+1e-7)*100)/100 + 0 }

// ByLot judges and places jobs drawn by lot, and lists what is drawn of each, a case a time; each fourth is on no particular wall.
func ByLot(cases int, seed uint64, draw func(n int, p *fit.Pairing, job *catalog.Job, all []place.Placement) string) string {
	r := rand.New(rand.NewPCG(seed, 7))
	var out strings.Builder
	for n := range cases {
		d, b, job, policy := catalogtest.Drawn(r)
		p := fit.Judge(d, b, job.Turn, fit.ExtraOf(job), policy)
		var all []place.Placement
		if p.Hang != nil && n%4 > 0 {
			all = place.Place(&p, job)
		}
		fmt.Fprintf(&out, "case %d\n%s", n, draw(n, &p, job, all))
	}
	return out.String()
}
