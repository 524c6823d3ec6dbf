// Package dxf writes drawings as DXF, release 12 in ASCII, which every CAD
// program, plotter and router reads: a unit is a millimetre, and a line's layer
// tells what it shows.
package dxf

import (
	"bytes"
	"fmt"
	"strconv"
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"

	"nexufix/core/drawing"
	"nexufix/core/quantity"
	"nexufix/render"
)

// The layers, by what is on them.
const (
	Drill   = "DRILL"
	Holes   = "HOLES" // to drill on this wall
	Outline = "OUTLINE"
	Centre  = "CENTRE"
	Level   = "LEVEL"
	Studs   = "STUDS"
	Scale   = "SCALE"
	Text    = "TEXT"
	Other   = "OTHER"
)

// layers in the file, with different colour numbers: the usual first
// ones.
var layers = []struct {
	name   string
	colour int
}{{Drill, 1}, {Holes, 2}, {Outline, 7}, {Centre, 3}, {Level, 5}, {Studs, 6}, {Scale, 4}, {Text, 7}, {Other, 8}}

// layerOf returns the layer of an item, by its tag.
func (w *writer) layerOf(i *drawing.Item) string {
	if _, text := i.Shape.(drawing.Text); text {
		return Text
	}
	if strings.HasPrefix(i.Tag, "hole.") {
		if w.site {
			return Holes
		}
		return Drill
	}
	if strings.HasPrefix(i.Tag, "point.") {
		return Drill
	}
	if strings.HasPrefix(i.Tag, "template.stud") {
		return Studs
	}
	if l, ok := map[string]string{
		"template.plate": Outline, "template.outline": Outline, "template.display": Outline,
		"template.bar": Scale, "template.bars": Scale, "template.scale": Scale, "template.hook": Level, "template.level": Level,
		"template.centre": Centre,
	}[i.Tag]; ok {
		return l
	}
	switch i.Style {
	case drawing.Centre:
		return Centre
	case drawing.Level:
		return Level
	}
	return Other
}

// Options of writing a drawing.
type Options struct {
	Units quantity.Units // of its texts
	// Machine leaves one entity a place on the layer of drill points, which a machine drills once each: on a particular wall a CIRCLE of
	// the drill's diameter, else a POINT in the middle of every hole.
	Machine bool
}

// Write writes a drawing. The layer of drill points
// has a POINT for every place to drill: on a particular wall the marked
// ones, with the plate's holes on a layer of their own; otherwise the middle of
// every hole.
func Write(d *drawing.Drawing, o Options) []byte {
	w := writer{Options: o}
	for i := range d.Items {
		w.site = w.site || strings.HasPrefix(d.Items[i].Tag, "point.")
	}
	w.pair(999, plain(d.Title+", millimetres"))
	w.section("HEADER", func() {
		w.pair(9, "$ACADVER")
		w.pair(1, "AC1009")
		w.pair(9, "$INSUNITS") // millimetres: a program that takes inches draws it 25.4 times as large
		w.pair(70, "4")
		w.pair(9, "$MEASUREMENT")
		w.pair(70, "1")
		w.pair(9, "$EXTMIN")
		w.at(10, d.Min)
		w.pair(9, "$EXTMAX")
		w.at(10, d.Max)
	})
	w.section("TABLES", func() {
		w.pair(0, "TABLE")
		w.pair(2, "LAYER")
		w.pair(70, strconv.Itoa(len(layers)))
		for _, l := range layers {
			w.pair(0, "LAYER")
			w.pair(2, l.name)
			w.pair(70, "0")
			w.pair(62, strconv.Itoa(l.colour))
			w.pair(6, "CONTINUOUS")
		}
		w.pair(0, "ENDTAB")
	})
	w.section("ENTITIES", func() {
		for i := range d.Items {
			w.item(&d.Items[i])
		}
		if !d.Across.Empty() {
			g := drawing.NewWatermark(d.Across, d.Width(), d.Height())
			w.text(&drawing.Text{At: drawing.Point{X: d.Min.X + g.Middle.X, Y: d.Min.Y + g.Middle.Y}, Text: d.Across, Height: g.Height / 0.72,
				Angle: g.Angle, Anchor: drawing.Middle}, Text)
		}
	})
	w.pair(0, "EOF")
	return w.Bytes()
}

type writer struct {
	bytes.Buffer
	Options
	site bool // the drawing is of a particular wall
}

// pair writes a DXF group: its code and its value.
func (w *writer) pair(code int, value string) { fmt.Fprintf(&w.Buffer, "%3d\r\n%s\r\n", code, value) }

func (w *writer) number(code int, f float64) {
	w.pair(code, strconv.FormatFloat(f, 'f', 6, 64))
}

// at writes a point: its x with the given code, its y with ten more.
func (w *writer) at(code int, p drawing.Point) {
	w.number(code, p.X)
	w.number(code+10, p.Y)
}

func (w *writer) section(name string, body func()) {
	w.pair(0, "SECTION")
	w.pair(2, name)
	body()
	w.pair(0, "ENDSEC")
}

func (w *writer) entity(kind, layer string) {
	w.pair(0, kind)
	w.pair(8, layer)
}

func (w *writer) item(i *drawing.Item) {
	layer := w.layerOf(i)
	if layer == Drill && w.Machine {
		w.once(i)
		return
	}
	switch s := i.Shape.(type) {
	case drawing.Line:
		w.polyline(s.Points, layer, false)
	case drawing.Polygon:
		w.polyline(s.Points, layer, true)
		if layer == Drill && !w.site {
			w.entity("POINT", layer)
			w.at(10, middle(s.Points))
		}
	case drawing.Circle:
		w.entity("CIRCLE", layer)
		w.at(10, s.Center)
		w.number(40, s.Radius)
		if layer == Drill && (!w.site || i.Style == drawing.Solid) {
			w.entity("POINT", layer)
			w.at(10, s.Center)
		}
	case drawing.Text:
		w.text(&s, layer)
	}
}

// once writes a place to drill for a machine.
func (w *writer) once(i *drawing.Item) {
	switch s := i.Shape.(type) {
	case drawing.Circle:
		switch {
		case !w.site:
			w.entity("POINT", Drill)
			w.at(10, s.Center)
		case i.Style == drawing.Outline: // the other marks the middle
			w.entity("CIRCLE", Drill)
			w.at(10, s.Center)
			w.number(40, s.Radius)
		}
	case drawing.Polygon:
		w.entity("POINT", Drill)
		w.at(10, middle(s.Points))
	}
}

// middle returns the middle of the extent of points.
func middle(points []drawing.Point) drawing.Point {
	lo, hi := points[0], points[0]
	for _, p := range points {
		lo.X, lo.Y, hi.X, hi.Y = min(lo.X, p.X), min(lo.Y, p.Y), max(hi.X, p.X), max(hi.Y, p.Y)
	}
	return drawing.Point{X: (lo.X + hi.X) / 2, Y: (lo.Y + hi.Y) / 2}
}

// polyline writes two points as a LINE, more as a POLYLINE.
func (w *writer) polyline(points []drawing.Point, layer string, closed bool) {
	if len(points) == 2 {
		w.entity("LINE", layer)
		w.at(10, points[0])
		w.at(11, points[1])
		return
	}
	w.entity("POLYLINE", layer)
	w.pair(66, "1")
	if closed {
		w.pair(70, "1")
	}
	for _, p := range points {
		w.entity("VERTEX", layer)
		w.at(10, p)
	}
	w.entity("SEQEND", layer)
}

func (w *writer) text(s *drawing.Text, layer string) {
	words := plain(s.Text.In(w.Units))
	if words == "" {
		return
	}
	w.entity("TEXT", layer)
	w.at(10, s.At)
	w.number(40, s.Height*0.72)
	w.pair(1, words)
	if s.Angle != 0 {
		w.number(50, s.Angle)
	}
	if how := map[drawing.Anchor]string{drawing.Middle: "1", drawing.End: "2"}[s.Anchor]; how != "" {
		w.pair(72, how)
		w.at(11, s.At)
	}
}

// plain converts a text to release 12: signs by their codes, no
// line ends, other letters as \U+ with their number, which present-day readers accept.
func plain(s string) string {
	s = strings.NewReplacer("×", "x", "°", "%%d", "Ø", "%%c", "⌀", "%%c",
		"–", "-", "—", "-", "−", "-", "’", "'", "‘", "'", "“", `"`, "”",
		`"`, "″", `"`, "…", "...", "·", "-",
		"½", "1/2", "ä", "ae", "ö", "oe", "ü", "ue", "Ä", "Ae", "Ö", "Oe", "Ü", "Ue", "ß", "ss",
		"é", "e", "è", "e", "\r", " ", "\n", " ").Replace(s)
	var out strings.Builder
	for _, r := range norm.NFC.String(s) {
		letter := string(r)
		switch {
		case unicode.In(r, unicode.Cc, unicode.Cf):
			continue
		case r > 0xffff:
			letter = fmt.Sprintf(`\U+%04X`, render.Box)
		case r > '~':
			letter = fmt.Sprintf(`\U+%04X`, r)
		}
		if out.Len()+len(letter) > 250 {
			break
		}
		out.WriteString(letter)
	}
	return out.String()
}
