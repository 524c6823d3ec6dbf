package pdf

import (
	"strings"

	"codeberg.org/go-pdf/fpdf"

	"nexufix/core/drawing"
	"nexufix/core/quantity"
	"nexufix/core/sheet"
)

// flow writes text down a page and continues on the next one.
type flow struct {
	*writer
	p           *Pack
	wide, high  float64
	y           float64
	left, right float64 // of the column
}

// page begins a page with its header and footer.
func (f *flow) page() {
	f.AddPageFormat("P", fpdf.SizeType{Wd: f.wide, Ht: f.high})
	if f.p.Release == nil {
		f.across(sheet.Draft().For(f.p.Sequence.Language), f.wide, f.high)
	}
	f.foot()
	f.y = above
}

// foot writes title, warning, fingerprint and number of a page.
func (f *flow) foot() {
	f.font("", 2.8)
	f.SetTextColor(96, 96, 104)
	f.at(side, 10, f.clipped(f.say(f.p.Sequence.Title), f.wide-2*side-60))
	standing := sheet.Draft()
	if r := f.p.Release; r != nil {
		standing = quantity.Say("%v, revision %v", r.Number, r.Revision)
	}
	mark := f.say(standing)
	if f.p.Fingerprint != "" {
		mark = f.words("%v · fingerprint %v", standing, f.p.Fingerprint)
	}
	f.at(side, f.high-8, mark)
	f.at(f.wide-side-26, f.high-8, f.words("Page %v of %v", f.PageNo(), "{nb}"))
	if len(f.p.Sequence.Blocked) > 0 {
		f.SetTextColor(160, 20, 20)
		f.font("B", 3.6)
		f.at(f.wide-side-30, 10, f.words("Do not install"))
	}
	f.SetTextColor(34, 34, 38)
}

func (f *flow) font(weight string, size float64) {
	f.SetFont(family, weight, 10)
	f.SetFontUnitSize(size)
}

func (f *flow) at(x, y float64, s string) { f.Text(x, y, f.letters(s)) }

// clipped cuts a text to one line of a width.
func (f *flow) clipped(s string, wide float64) string {
	for n := len([]rune(s)); n > 1 && f.GetStringWidth(f.letters(s)) > wide; n-- {
		s = drawing.Clip(s, float64(n-1))
	}
	return s
}

// room begins a new page if less than a height is left.
func (f *flow) room(high float64) {
	if f.y+high > f.high-below {
		f.page()
	}
}

// lines wraps a text to a width in the current font; a word that is wider
// is broken.
func (f *flow) lines(s string, wide float64) []string {
	var out []string
	line := ""
	for _, word := range strings.Fields(s) {
		for _, part := range f.broken(word, wide) {
			if line != "" {
				out = append(out, line)
			}
			out, line = append(out, part), ""
			word = word[len(part):]
		}
		next := strings.TrimSpace(line + " " + word)
		if line != "" && f.GetStringWidth(f.letters(next)) > wide {
			out, next = append(out, line), word
		}
		line = next
	}
	if line != "" {
		out = append(out, line)
	}
	return out
}

// broken returns the parts of a word, each as much as goes on a line, that are before its last one; none of a word that fits. Every
// letter is measured once.
func (f *flow) broken(word string, wide float64) (parts []string) {
	if f.GetStringWidth(f.letters(word)) <= wide {
		return nil
	}
	from, total := 0, 0.0
	for at, r := range word {
		w := f.GetStringWidth(f.letters(string(r)))
		if total += w; total > wide && at > from {
			parts, from, total = append(parts, word[from:at]), at, w
		}
	}
	return parts
}

// A paragraph is one text of a step with its style.
type paragraph struct {
	text   string
	weight string
	size   float64
	indent float64
	before float64 // space above
	red    bool
}

// height returns the height of paragraphs in a column.
func (f *flow) height(list []paragraph, wide float64) float64 {
	total := 0.0
	for _, p := range list {
		f.font(p.weight, p.size)
		total += p.before + float64(len(f.lines(p.text, wide-p.indent)))*p.size*leading
	}
	return total
}

// write writes paragraphs in a column, on several pages if needed.
func (f *flow) write(list []paragraph, wide float64) {
	for _, p := range list {
		f.font(p.weight, p.size)
		f.y += p.before
		for _, line := range f.lines(p.text, wide-p.indent) {
			if f.y+p.size*leading > f.high-below {
				f.page()
				f.font(p.weight, p.size)
			}
			if p.red {
				f.SetTextColor(160, 20, 20)
			}
			f.y += p.size * leading
			f.at(f.left+p.indent, f.y, line)
			f.SetTextColor(34, 34, 38)
		}
	}
}

// section begins a part of the pack, with its bookmark.
func (f *flow) section(title string, newPage bool) {
	title = f.words(title)
	if newPage || f.y+40 > f.high-below {
		f.page()
	} else {
		f.y += 7
	}
	f.Bookmark(title, 0, f.y)
	f.write([]paragraph{{text: title, weight: "B", size: headSize}}, f.right-f.left)
	f.y += 2
}

func (f *flow) body(s string) paragraph { return paragraph{text: s, size: bodySize, before: 1} }

func (f *flow) bullet(s string) paragraph {
	return paragraph{text: "– " + s, size: bodySize, before: 1, indent: 3}
}

func (f *flow) say(p quantity.Phrase) string { return p.For(f.p.Sequence.Language).In(f.p.Units) }

// words writes a text of the pack itself in its language.
func (f *flow) words(format string, args ...any) string { return f.say(quantity.Say(format, args...)) }

// figureBelow draws a figure below the text, on a new page if there is no room.
func (f *flow) figureBelow(d *drawing.Drawing, wide float64) {
	f.y += 4
	high := min(f.scale(d, wide, f.high-above-below)*d.Height(), f.high-above-below)
	f.room(high)
	f.draw(d, f.left, f.y, wide, high)
	f.y += high
}

// scale returns the factor that fits a drawing into a box.
func (f *flow) scale(d *drawing.Drawing, wide, high float64) float64 {
	return min(wide/d.Width(), high/d.Height())
}

// draw draws a drawing into a box, from its upper left corner, as large as fits.
func (f *flow) draw(d *drawing.Drawing, x, y, wide, high float64) {
	factor := f.scale(d, wide, high)
	small := &drawing.Drawing{Pen: d.Pen * factor}
	small.Embed(d, factor, drawing.Point{X: x - d.Min.X*factor, Y: -y - d.Max.Y*factor})
	was := f.writer.d
	f.writer.d, f.writer.left, f.writer.top = small, 0, 0
	for i := range small.Items {
		f.item(&small.Items[i])
	}
	f.writer.d = was
	f.SetDashPattern(nil, 0)
	f.SetTextColor(34, 34, 38)
}
