// Package drawing is a picture made of geometry: lines, polygons, circles,
// text and dimensions in millimetres, x to the right and y up. Every item is
// tagged with what it shows ("stack.0.bolt", "hole.T1"), so that whoever
// renders it can point at it. A drawing knows nothing of files or screens.
package drawing

import (
	"math"
	"strings"

	"nexufix/core/quantity"
)

// Point is a place in millimetres.
type Point struct{ X, Y float64 }

// Style is the role of an item; renderers give it a pen and a fill.
type Style string

// The styles.
const (
	Outline   Style = "outline"
	Thin      Style = "thin"
	Hidden    Style = "hidden"
	Centre    Style = "centre"
	Dim       Style = "dim"
	Level     Style = "level"
	Solid     Style = "solid" // filled with ink
	Body      Style = "body"
	Panel     Style = "panel"
	InsertFil Style = "insert"
	Bolt      Style = "bolt"
	Washer    Style = "washer"
	Spacer    Style = "spacer"
	Plate     Style = "plate"
	Clear     Style = "clear"
	Arm       Style = "arm"
	Slot      Style = "slot"
	Zone      Style = "zone"
	Hatch     Style = "hatch"
	Glass     Style = "glass" // a transparent outline
	Ground    Style = "ground"
	Wood      Style = "wood"
	Over      Style = "over" // a utilisation above 1
)

// Anchor is the place of a text relative to its point.
type Anchor string

// The anchors.
const (
	Start  Anchor = "start"
	Middle Anchor = "middle"
	End    Anchor = "end"
)

// Shape is one of Line, Polygon, Circle and Text.
type Shape interface{ shape() }

// Line is a polyline.
type Line struct{ Points []Point }

// Polygon is a closed, filled outline.
type Polygon struct{ Points []Point }

// Circle is a circle, filled as its style says.
type Circle struct {
	Center Point
	Radius float64
}

// Text is one line of text; Height is that of its capitals, about.
type Text struct {
	At     Point
	Text   quantity.Phrase
	Height float64
	Anchor Anchor
	Angle  float64 // degrees, counter-clockwise
	Strong bool

	advance int // its width in thousandths of an em, once measured: see [Text.Measured]
}

func (Line) shape()    {}
func (Polygon) shape() {}
func (Circle) shape()  {}
func (Text) shape()    {}

// Item is one shape with its role and what it shows.
type Item struct {
	Shape Shape
	Style Style
	Tag   string
	Title quantity.Phrase // a description
}

// Drawing is a picture within a frame.
type Drawing struct {
	Title      string
	Min, Max   Point   // frame
	Pen        float64 // width of a thin line
	TextHeight float64
	Items      []Item
	Warning    quantity.Phrase // on every page of the drawing; empty: none
	Across     quantity.Phrase // the watermark of every page; empty: none

	Language *quantity.Language // of its lettering, for measuring its width; nil: English
}

// For returns the drawing with its lettering in a language, unless it has one.
func (d *Drawing) For(l *quantity.Language) *Drawing {
	if d == nil || l == nil {
		return d
	}
	out := *d
	out.Title, out.Warning, out.Across, out.Language = l.Words(d.Title), d.Warning.For(l), d.Across.For(l), l
	out.Items = make([]Item, len(d.Items))
	for n, i := range d.Items {
		out.Items[n] = i.in(l)
	}
	return &out
}

func (i Item) in(l *quantity.Language) Item {
	i.Title = i.Title.For(l)
	if t, ok := i.Shape.(Text); ok {
		t.Text, t.advance = t.Text.For(l), 0
		i.Shape = t
	}
	return i
}

// Width returns the frame's width in millimetres.
func (d *Drawing) Width() float64 { return d.Max.X - d.Min.X }

// Height is the frame's height in millimetres.
func (d *Drawing) Height() float64 { return d.Max.Y - d.Min.Y }

// Add puts a shape into the drawing.
func (d *Drawing) Add(tag string, style Style, s Shape) {
	d.add(Item{Shape: s, Style: style, Tag: tag})
}

func (d *Drawing) add(i Item) {
	if d.Language != nil {
		i = i.in(d.Language)
	}
	d.Items = append(d.Items, i)
}

// Named puts a shape with a title into the drawing.
func (d *Drawing) Named(tag string, style Style, s Shape, format string, args ...any) {
	d.add(Item{Shape: s, Style: style, Tag: tag, Title: quantity.Say(format, args...)})
}

// Line draws a line between two points.
func (d *Drawing) Line(tag string, style Style, x0, y0, x1, y1 float64) {
	d.Add(tag, style, Line{[]Point{{x0, y0}, {x1, y1}}})
}

// Label writes text.
func (d *Drawing) Label(tag string, x, y float64, a Anchor, format string, args ...any) {
	d.Add(tag, Dim, Text{At: Point{x, y}, Text: quantity.Say(format, args...), Height: d.TextHeight, Anchor: a})
}

// Embed puts another drawing into this one, its origin at a point, smaller or
// larger by a factor.
func (d *Drawing) Embed(other *Drawing, factor float64, at Point) {
	move := func(p Point) Point { return Point{at.X + p.X*factor, at.Y + p.Y*factor} }
	all := func(points []Point) []Point {
		out := make([]Point, len(points))
		for i, p := range points {
			out[i] = move(p)
		}
		return out
	}
	for _, i := range other.Items {
		switch s := i.Shape.(type) {
		case Line:
			i.Shape = Line{all(s.Points)}
		case Polygon:
			i.Shape = Polygon{all(s.Points)}
		case Circle:
			i.Shape = Circle{move(s.Center), s.Radius * factor}
		case Text:
			s.At, s.Height = move(s.At), s.Height*factor
			i.Shape = s
		}
		d.add(i)
	}
}

// FittedIn is the drawing on a page of a size, as large as it goes and no larger than it is, from
// the page's top and in its middle.
func (d *Drawing) FittedIn(width, height float64) *Drawing {
	factor := min(1, width/d.Width(), height/d.Height())
	page := &Drawing{Title: d.Title, Min: Point{0, -height}, Max: Point{width, 0}, Pen: d.Pen * factor, TextHeight: d.TextHeight * factor,
		Warning: d.Warning, Across: d.Across, Language: d.Language}
	page.Embed(d, factor, Point{(width-d.Width()*factor)/2 - d.Min.X*factor, -d.Max.Y * factor})
	return page
}

// Rect is the polygon of a rectangle.
func Rect(x0, y0, x1, y1 float64) Polygon {
	return Polygon{[]Point{{x0, y0}, {x1, y0}, {x1, y1}, {x0, y1}}}
}

// RoundSlot is the outline of a slot between two centres on a line along x or
// y.
func RoundSlot(x0, y0, x1, y1, radius float64) Polygon {
	var p Polygon
	along := math.Atan2(y1-y0, x1-x0)
	for i := range 17 {
		a := along - math.Pi/2 + math.Pi*float64(i)/16
		p.Points = append(p.Points, Point{x1 + radius*math.Cos(a), y1 + radius*math.Sin(a)})
	}
	for i := range 17 {
		a := along + math.Pi/2 + math.Pi*float64(i)/16
		p.Points = append(p.Points, Point{x0 + radius*math.Cos(a), y0 + radius*math.Sin(a)})
	}
	return p
}

// ClipName is [Clip] of a name, which no language translates.
func ClipName(name string, letters float64) quantity.Name { return quantity.Name(Clip(name, letters)) }

// Clip makes a text one line of at most a number of letters.
func Clip(name string, letters float64) string {
	name = strings.Join(strings.Fields(name), " ")
	r := []rune(name)
	n := max(1, int(letters))
	if len(r) <= n {
		return name
	}
	return string(r[:max(1, n-1)]) + "…"
}
