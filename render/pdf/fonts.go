package pdf

import (
	"bytes"
	"compress/zlib"
	_ "embed"
	"encoding/json"
	"errors"
	"math"
	"strings"
	"sync"

	"codeberg.org/go-pdf/fpdf"
	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"

	"nexufix/core/drawing"
	"nexufix/core/quantity"
	"nexufix/render"
)

const family = "Go"

// faces are the embedded fonts, by the library's name of the style; shorter are these with the letters of one byte alone and without
// hints, which are for screens of another time: 12 kB packed, not 68. They are made by HarfBuzz, of the letters in [upper] and ASCII:
//
//	hb-subset Go-Regular.ttf --glyph-names --no-hinting --text-file=LETTERS --output-file=go-regular.ttf
var faces = map[string][]byte{"": goregular.TTF, "B": gobold.TTF}

//go:embed fonts/go-regular.ttf
var shortRegular []byte

//go:embed fonts/go-bold.ttf
var shortBold []byte

var shorter = map[string][]byte{"": shortRegular, "B": shortBold}

// A font can be embedded in a PDF in two ways. With one byte a letter it has
// 224 letters and is prepared once; with two it has all of
// its letters, and takes the library 10 ms for each document.
// Nearly every sheet needs only the letters of the first way: ASCII, those of
// western Europe, and the signs of measures. upper are those above ASCII, from 0x80.
var upper = []rune("−≥≤≈′″□→⅛⅜⅝⅞…–—‘’“”„•™€ŠšŽžŒœŸ‹›" +
	"\u00a0¡¢£¤¥¦§¨©ª«¬\u00ad®¯°±²³´µ¶·¸¹º»¼½¾¿" +
	"ÀÁÂÃÄÅÆÇÈÉÊËÌÍÎÏÐÑÒÓÔÕÖ×ØÙÚÛÜÝÞßàáâãäåæçèéêëìíîïðñòóôõö÷øùúûüýþÿ")

var byteOf = sync.OnceValue(func() map[rune]byte {
	m := make(map[rune]byte, len(upper))
	for i, r := range upper {
		m[r] = byte(0x80 + i)
	}
	return m
})

// short encodes a text in one byte a letter; not ok if a letter has no code.
func short(s string) (text string, ok bool) {
	out := make([]byte, 0, len(s))
	for _, r := range s {
		b, has := byteOf()[r]
		if r < 0x7f {
			b, has = byte(r), true
		}
		if !has {
			return "", false
		}
		out = append(out, b)
	}
	return string(out), true
}

// textsOf returns the texts of a drawing's sheets.
func textsOf(d *drawing.Drawing, units quantity.Units) []string {
	texts := []string{d.Title, d.Warning.In(units), d.Across.In(units)}
	for i := range d.Items {
		if t, ok := d.Items[i].Shape.(drawing.Text); ok {
			texts = append(texts, t.Text.In(units))
		}
	}
	return texts
}

// allShort reports whether every text can be written in one byte a letter.
func allShort(texts []string) bool {
	for _, s := range texts {
		if _, ok := short(render.Letters(s)); !ok {
			return false
		}
	}
	return true
}

// letters encodes a text for the document's fonts.
func (w *writer) letters(s string) string {
	s = render.Letters(s)
	if w.short {
		s, _ = short(s)
	}
	return s
}

// prepared is a face with one byte a letter for the library: its
// definition (ISO 32000-1, 9.6.3 and 9.8) as JSON, and the compressed font file.
type prepared struct{ definition, file []byte }

var shortFaces = sync.OnceValue(func() map[string]prepared {
	out := map[string]prepared{}
	for style, raw := range shorter {
		p, err := prepare(style, raw)
		if err != nil {
			panic("pdf: a font that ships cannot be used: " + err.Error())
		}
		out[style] = p
	}
	return out
})

func prepare(style string, raw []byte) (prepared, error) {
	f, err := sfnt.Parse(raw)
	if err != nil {
		return prepared{}, err
	}
	m := measured{font: f}
	widths := make([]int, 256)
	names := []string{"128"}
	for r := ' '; r < 0x7f; r++ {
		widths[r], _ = m.glyph(r)
	}
	for i, r := range upper {
		w, name := m.glyph(r)
		widths[0x80+i], names = w, append(names, "/"+name)
	}
	desc, name := m.descriptor()
	name = "NXFXAA+" + name                              // a part of the font (ISO 32000-1, 9.6.4)
	desc.StemV = map[string]int{"": 70, "B": 120}[style] // the values of the library's own tool
	if m.err != nil {
		return prepared{}, m.err
	}
	definition, err := json.Marshal(map[string]any{
		"Tp": "TrueType", "Name": name, "Desc": desc, "Cw": widths, "Enc": "nexufix", "Diff": strings.Join(names, " "),
		"File": name + ".z", "OriginalSize": len(raw),
	})
	if err != nil {
		return prepared{}, err
	}
	file, err := packed(raw)
	return prepared{definition, file}, err
}

// measured reads a font's figures in thousandths of its size, the unit of PDF; it keeps the
// first error.
type measured struct {
	font *sfnt.Font
	b    sfnt.Buffer
	err  error
}

var em = fixed.I(1000)

func thousandths(x fixed.Int26_6) int { return int(math.Round(float64(x) / 64)) }

// glyph returns a letter's width and its name in the font; of a letter that the font lacks
// those of .notdef.
func (m *measured) glyph(r rune) (width int, name string) {
	index, err := m.font.GlyphIndex(&m.b, r)
	w, advErr := m.font.GlyphAdvance(&m.b, index, em, font.HintingNone)
	name, nameErr := m.font.GlyphName(&m.b, index)
	m.err = errors.Join(m.err, err, advErr, nameErr)
	return thousandths(w), name
}

// descriptor returns a font's descriptor (ISO 32000-1, 9.8) and its name. Up is
// positive there; in the font down is.
func (m *measured) descriptor() (fpdf.FontDescType, string) {
	missing, _ := m.glyph(0xffff)
	metrics, err := m.font.Metrics(&m.b, em, font.HintingNone)
	box, boxErr := m.font.Bounds(&m.b, em, font.HintingNone)
	name, nameErr := m.font.Name(&m.b, sfnt.NameIDPostScript)
	m.err = errors.Join(m.err, err, boxErr, nameErr)
	desc := fpdf.FontDescType{
		Ascent: thousandths(metrics.Ascent), Descent: -thousandths(metrics.Descent), CapHeight: thousandths(metrics.CapHeight),
		Flags: fpdf.FontFlagNonsymbolic, MissingWidth: missing,
	}
	desc.FontBBox.Xmin, desc.FontBBox.Ymin = thousandths(box.Min.X), -thousandths(box.Max.Y)
	desc.FontBBox.Xmax, desc.FontBBox.Ymax = thousandths(box.Max.X), -thousandths(box.Min.Y)
	return desc, name
}

// packed compresses a font's file for a PDF.
func packed(raw []byte) ([]byte, error) {
	var file bytes.Buffer
	z, err := zlib.NewWriterLevel(&file, zlib.BestCompression)
	if err != nil {
		return nil, err
	}
	if _, err := z.Write(raw); err != nil {
		return nil, err
	}
	err = z.Close() // flushes the rest
	return file.Bytes(), err
}

// addFonts adds the embedded fonts to a document.
func addFonts(doc *fpdf.Fpdf, inShort bool) {
	for _, style := range []string{"", "B"} {
		if inShort {
			p := shortFaces()[style]
			doc.AddFontFromBytes(family, style, p.definition, p.file)
		} else {
			doc.AddUTF8FontFromBytes(family, style, faces[style])
		}
	}
}
