package pdf

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"nexufix/core/drawing"
	"nexufix/core/quantity"
)

// Papers are the sizes a drawing is tiled on, in millimetres, upright.
var Papers = map[string][2]float64{"a4": {210, 297}, "letter": {215.9, 279.4}, "a3": {297, 420}}

const (
	margin  = 10.0 // that printers cannot print on
	footer  = 17.0 // scale bars, page number and sheet map
	overlap = 12.0 // of neighbouring pages
)

// Tile is a page of a tiled drawing: its row and column, and the part of the
// drawing that it shows, in the drawing's millimetres.
type Tile struct {
	Row, Column            int
	Left, Top, Wide, High  float64
	PaperWidth, PaperLong  float64
	Rows, Columns, Of, Num int
}

// At returns the place of a point of the drawing on the tile's paper, from the upper
// left corner.
func (t *Tile) At(p drawing.Point) (x, y float64) { return p.X - t.Left + margin, t.Top - p.Y + margin }

// Shows reports whether a point is on the tile.
func (t *Tile) Shows(p drawing.Point) bool {
	return p.X >= t.Left && p.X <= t.Left+t.Wide && p.Y <= t.Top && p.Y >= t.Top-t.High
}

// mayShow reports whether a shape may be on the tile.
func (t *Tile) mayShow(s drawing.Shape) bool {
	var points []drawing.Point
	room := 1.0 // for pens
	switch v := s.(type) {
	case drawing.Line:
		points = v.Points
	case drawing.Polygon:
		points = v.Points
	case drawing.Circle:
		points, room = []drawing.Point{v.Center}, v.Radius+1
	case drawing.Text: // at any angle, and in either system of units
		points, room = []drawing.Point{v.At}, 1+drawing.TextWidth(v.Text, v.Height)
	default:
		return true
	}
	left, right, low, high := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
	for _, p := range points {
		left, right, low, high = min(left, p.X), max(right, p.X), min(low, p.Y), max(high, p.Y)
	}
	return left-room <= t.Left+t.Wide && right+room >= t.Left && low-room <= t.Top && high+room >= t.Top-t.High
}

// Tiles divides a drawing into pages of a paper, portrait or landscape, whichever takes fewer. The
// pages are shifted so that no place to drill, nor its label, is cut by an edge or lies
// on a joint, if that is possible; pages that show nothing are left out.
func Tiles(d *drawing.Drawing, paper string) ([]Tile, error) {
	size, ok := Papers[paper]
	if !ok {
		return nil, fmt.Errorf("paper %q is not known; allowed: a4, letter, a3", paper)
	}
	across, down := toDrill(d)
	var best []Tile
	fewest := math.Inf(1)
	for _, p := range [][2]float64{size, {size[1], size[0]}} {
		wide, high := p[0]-2*margin, p[1]-2*margin-footer
		columns, rows := count(d.Width(), wide), count(d.Height(), high)
		if rows*columns > 400 {
			return nil, fmt.Errorf("the drawing would take %d pages of %s; take one sheet at its size", rows*columns, paper)
		}
		left, cutX := shifted(across, d.Min.X, d.Max.X, wide, columns)
		below, cutY := shifted(down, d.Min.Y, d.Max.Y, high, rows)
		top := below + float64(rows)*(high-overlap) + overlap
		var tiles []Tile
		for r := range rows {
			for c := range columns {
				tiles = append(tiles, Tile{
					Row: r, Column: c, Left: left + float64(c)*(wide-overlap), Top: top - float64(r)*(high-overlap),
					Wide: wide, High: high, PaperWidth: p[0], PaperLong: p[1], Rows: rows, Columns: columns,
				})
			}
		}
		tiles = shown(d, tiles)
		if badness := float64(len(tiles)) + float64(cutX+cutY)/100; badness < fewest {
			best, fewest = tiles, badness
		}
	}
	for i := range best {
		best[i].Of, best[i].Num = len(best), i+1
	}
	return best, nil
}

// span is an interval in millimetres.
type span struct{ from, to float64 }

// toDrill returns the horizontal and vertical spans of every place to drill with its label.
func toDrill(d *drawing.Drawing) (across, down []span) {
	boxes := map[string]*[2]span{}
	for i := range d.Items {
		tag := d.Items[i].Tag
		if !strings.HasPrefix(tag, "hole.") && !strings.HasPrefix(tag, "point.") && tag != "release.code" {
			continue
		}
		box := boxes[tag]
		if box == nil {
			box = &[2]span{{math.Inf(1), math.Inf(-1)}, {math.Inf(1), math.Inf(-1)}}
			boxes[tag] = box
		}
		reaches := func(x0, x1, y0, y1 float64) {
			box[0], box[1] = span{min(box[0].from, x0), max(box[0].to, x1)}, span{min(box[1].from, y0), max(box[1].to, y1)}
		}
		switch s := d.Items[i].Shape.(type) {
		case drawing.Circle:
			reaches(s.Center.X-s.Radius, s.Center.X+s.Radius, s.Center.Y-s.Radius, s.Center.Y+s.Radius)
		case drawing.Polygon:
			for _, q := range s.Points {
				reaches(q.X, q.X, q.Y, q.Y)
			}
		case drawing.Text:
			wide, left := drawing.TextWidth(s.Text, s.Height), s.At.X
			switch s.Anchor {
			case drawing.Middle:
				left -= wide / 2
			case drawing.End:
				left -= wide
			}
			reaches(left, left+wide, s.At.Y, s.At.Y+s.Height)
		}
	}
	for _, box := range boxes {
		across, down = append(across, box[0]), append(down, box[1])
	}
	return across, down
}

// shifted returns where a row of pages begins so that its joints cut the fewest spans, and
// how many they cut. Room to spare is divided equally between both ends if
// that cuts no more.
func shifted(spans []span, from, to, page float64, pages int) (start float64, cut int) {
	spare := float64(pages)*(page-overlap) + overlap - (to - from)
	cuts := func(start float64) (n int) {
		for _, s := range spans {
			for joint := range pages - 1 {
				at := start + float64(joint+1)*(page-overlap)
				if s.from < at+overlap && s.to > at {
					n++
				}
			}
		}
		return n
	}
	start, cut = from-spare/2, cuts(from-spare/2)
	for step := 1.0; cut > 0 && step <= spare/2; step++ {
		for _, x := range []float64{from - spare/2 - step, from - spare/2 + step} {
			if n := cuts(x); n < cut {
				start, cut = x, n
			}
		}
	}
	return start, cut
}

// shown returns the tiles that show something besides the frame; all of them if the rest could not
// be joined.
func shown(d *drawing.Drawing, tiles []Tile) []Tile {
	var out []Tile
	for i := range tiles {
		if slices.ContainsFunc(d.Items, func(item drawing.Item) bool {
			return item.Tag != "template.frame" && tiles[i].mayShow(item.Shape) && !tiles[i].inside(item.Shape)
		}) {
			out = append(out, tiles[i])
		}
	}
	joined := map[[2]int]bool{}
	var join func(row, column int)
	join = func(row, column int) {
		if joined[[2]int{row, column}] || !slices.ContainsFunc(out, func(t Tile) bool { return t.Row == row && t.Column == column }) {
			return
		}
		joined[[2]int{row, column}] = true
		for _, by := range [][2]int{{0, 1}, {1, 0}, {0, -1}, {-1, 0}} {
			join(row+by[0], column+by[1])
		}
	}
	if len(out) > 0 {
		join(out[0].Row, out[0].Column)
	}
	if len(out) == 0 || len(joined) < len(out) {
		return tiles
	}
	return out
}

// inside reports whether the tile lies within a rectangular outline and shows none of it.
func (t *Tile) inside(s drawing.Shape) bool {
	line, ok := s.(drawing.Line)
	if !ok {
		return false
	}
	for n := 1; n < len(line.Points); n++ {
		if t.mayShow(drawing.Line{Points: line.Points[n-1 : n+1]}) {
			return false
		}
	}
	return true
}

// count returns how many overlapping pages cover a length.
func count(length, page float64) int {
	return max(1, int(math.Ceil((length-overlap)/(page-overlap)-1e-9)))
}

// Tiled writes a drawing on pages with joining marks. Every page
// has both scale bars, its number, and a map of the sheets.
func Tiled(d *drawing.Drawing, paper string, units quantity.Units, created time.Time) ([]byte, error) {
	tiles, err := Tiles(d, paper)
	if err != nil {
		return nil, err
	}
	w := begin(d, fpdf.SizeType{Wd: tiles[0].PaperWidth, Ht: tiles[0].PaperLong}, units, created)
	w.tiles(tiles, func(bool) {})
	return w.file(d.Title, codeOf(d.Language))
}

// tiles writes the pages of the writer's drawing; begun is called for each, with whether it is the
// first.
func (w *writer) tiles(tiles []Tile, begun func(first bool)) {
	marks := Joins(w.d, tiles)
	for i := range tiles {
		t := &tiles[i]
		w.AddPageFormat("P", fpdf.SizeType{Wd: t.PaperWidth, Ht: t.PaperLong})
		begun(i == 0)
		w.across(w.d.Across, t.PaperWidth, t.PaperLong)
		w.left, w.top = t.Left-margin, t.Top+margin
		w.ClipRect(margin, margin, t.Wide, t.High, false)
		for j := range w.d.Items {
			if t.mayShow(w.d.Items[j].Shape) {
				w.item(&w.d.Items[j])
			}
		}
		w.joins(marks, t)
		w.ClipEnd()
		w.foot(t)
	}
}

// Joins returns the joining marks, in the drawing's millimetres:
// each is on all pages that meet there, and none is near a place to drill.
func Joins(d *drawing.Drawing, tiles []Tile) []drawing.Point {
	var out []drawing.Point
	for i := range tiles {
		t := &tiles[i]
		if t.Column+1 < t.Columns {
			x := t.Left + t.Wide - overlap/2
			out = append(out, clear(d, func(share float64) drawing.Point { return drawing.Point{X: x, Y: t.Top - t.High*share} })...)
		}
		if t.Row+1 < t.Rows {
			y := t.Top - t.High + overlap/2
			out = append(out, clear(d, func(share float64) drawing.Point { return drawing.Point{X: t.Left + t.Wide*share, Y: y} })...)
		}
	}
	return out
}

// clear picks two places along a joint away from every hole.
func clear(d *drawing.Drawing, at func(share float64) drawing.Point) []drawing.Point {
	var out []drawing.Point
	for _, half := range [][]float64{{0.3, 0.2, 0.4, 0.12, 0.25, 0.35, 0.45}, {0.7, 0.8, 0.6, 0.88, 0.75, 0.65, 0.55}} {
		best, room := drawing.Point{}, -1.0
		for _, share := range half {
			if p := at(share); fromHoles(d, p) > room {
				best, room = p, fromHoles(d, p)
			}
			if room > 20 {
				break
			}
		}
		out = append(out, best)
	}
	return out
}

// fromHoles returns the distance of a place from the nearest outline of a hole, up to
// 100 mm.
func fromHoles(d *drawing.Drawing, p drawing.Point) float64 {
	room := 100.0
	for i := range d.Items {
		if !strings.HasPrefix(d.Items[i].Tag, "hole.") {
			continue
		}
		switch s := d.Items[i].Shape.(type) {
		case drawing.Circle:
			room = min(room, math.Hypot(p.X-s.Center.X, p.Y-s.Center.Y)-s.Radius)
		case drawing.Polygon:
			for _, q := range s.Points {
				room = min(room, math.Hypot(p.X-q.X, p.Y-q.Y))
			}
		case drawing.Text:
			room = min(room, math.Hypot(p.X-s.At.X, p.Y-s.At.Y)-10)
		}
	}
	return room
}

// joins draws the joining marks of a page.
func (w *writer) joins(marks []drawing.Point, t *Tile) {
	w.SetDrawColor(34, 34, 38)
	w.SetLineWidth(0.15)
	w.SetDashPattern(nil, 0)
	for n, p := range marks {
		if !t.Shows(p) {
			continue
		}
		x, y := t.At(p)
		w.Line(x-5, y, x+5, y)
		w.Line(x, y-5, x, y+5)
		w.Circle(x, y, 2.5, "D")
		w.SetTextColor(34, 34, 38)
		w.SetFont(family, "", 10)
		w.SetFontUnitSize(2.4)
		w.Text(x+3, y-1, fmt.Sprint(n+1)) // the same on every page that shows it
	}
}

// words writes a text of the page itself in the language of its drawing.
func (w *writer) words(format string, args ...any) string {
	return w.letters(quantity.Say(format, args...).For(w.d.Language).In(w.units))
}

// foot draws the footer of a page.
func (w *writer) foot(t *Tile) {
	w.SetDrawColor(34, 34, 38)
	w.SetLineWidth(0.2)
	w.SetDashPattern(nil, 0)
	w.Rect(margin, margin, t.Wide, t.High, "D")
	if !w.d.Warning.Empty() {
		w.SetTextColor(160, 20, 20)
		w.SetFont(family, "B", 10)
		w.SetFontUnitSize(4)
		w.Text(margin, margin-1.5, w.letters(w.d.Warning.In(w.units)))
	}
	top := margin + t.High
	w.SetTextColor(34, 34, 38)
	w.SetFont(family, "", 10)
	w.SetFontUnitSize(3)
	bar := func(y, long float64, name string) {
		w.Line(margin, y, margin+long, y)
		w.Line(margin, y-1.2, margin, y+1.2)
		w.Line(margin+long, y-1.2, margin+long, y+1.2)
		w.Text(margin+long+2, y+1, name)
	}
	bar(top+4, 100, w.words("100 mm: measure it"))
	bar(top+8.5, 101.6, w.words("4 in: print at 100 %%, not fitted to the page"))
	w.Text(margin, top+12.6, w.words("Page %v of %v, row %v, column %v. Lay crosses of the same number on each other, and tape.",
		t.Num, t.Of, t.Row+1, t.Column+1))
	w.SetFontUnitSize(2.5)
	w.Text(margin, top+16, w.letters(w.d.Title)+". "+w.words("Local codes and licensed practice decide."))
	// The sheet map.
	cell := min(4.0, 12.0/float64(t.Rows), 30.0/float64(t.Columns))
	x0 := margin + t.Wide - cell*float64(t.Columns)
	w.SetFillColor(90, 90, 96)
	for r := range t.Rows {
		for c := range t.Columns {
			how := "D"
			if r == t.Row && c == t.Column {
				how = "FD"
			}
			w.Rect(x0+cell*float64(c), top+2+cell*float64(r)*0.8, cell, cell*0.8, how)
		}
	}
}
