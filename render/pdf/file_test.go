package pdf

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"os"
	"os/exec"
	"strings"
	"testing"

	"golang.org/x/image/font"
	"golang.org/x/image/font/sfnt"

	"nexufix/core/drawing"
	"nexufix/core/quantity"
)

// TestReadersAreTold: a file asks to be printed at its size, and says its title, language and maker, as qpdf and poppler read it. A title
// is no markup, and the same sheet is the same bytes.
func TestReadersAreTold(t *testing.T) {
	d := &drawing.Drawing{Max: drawing.Point{X: 300, Y: 40}, Pen: 1, Title: `Lath & <Plinth> "5"`, Language: &quantity.Language{Code: "de"}}
	d.Add("", drawing.Dim, drawing.Text{At: drawing.Point{X: 10, Y: 20}, Height: 5, Text: quantity.Say("%s", "Drill")})
	file := written(t, d, quantity.Metric)
	if out, err := exec.Command("qpdf", "--check", file).CombinedOutput(); err != nil ||
		!bytes.Contains(out, []byte("No syntax or stream encoding errors")) {
		t.Fatalf("%v: %s", err, out)
	}
	open, err := exec.Command("qpdf", "--qdf", "--object-streams=disable", file, "-").Output()
	if err != nil {
		t.Fatal(err)
	}
	for _, says := range []string{"/PrintScaling /None", "/DisplayDocTitle true", "/Lang (de)", "/ID ["} {
		if !bytes.Contains(open, []byte(says)) {
			t.Errorf("it does not say %s", says)
		}
	}
	info := string(poppler(t, "pdfinfo", file))
	for _, says := range []string{`Lath & <Plinth> "5"`, producer(), "PDF version:     1.6"} {
		if !strings.Contains(info, says) {
			t.Errorf("pdfinfo does not say %q:\n%s", says, info)
		}
	}
	meta := poppler(t, "pdfinfo", "-meta", file)
	var x struct {
		Title    string `xml:"RDF>Description>title>Alt>li"`
		Language string `xml:"RDF>Description>language>Bag>li"`
		Producer string `xml:"RDF>Description>Producer"`
	}
	if err := xml.Unmarshal(meta, &x); err != nil || x.Title != d.Title || x.Language != "de" || x.Producer != producer() {
		t.Errorf("%v: %+v of %s", err, x, meta)
	}
	once, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	again, err := os.ReadFile(written(t, d, quantity.Metric))
	if err != nil || !bytes.Equal(once, again) {
		t.Error("the same sheet is written otherwise")
	}
	if len(once) > 40_000 {
		t.Errorf("a page with a word on it has %d bytes", len(once))
	}
}

// TestShortFontsAreTheFonts: the parts of the fonts that ship draw every letter as the fonts do that they were made of.
func TestShortFontsAreTheFonts(t *testing.T) {
	for style, raw := range shorter {
		part, err := sfnt.Parse(raw)
		if err != nil {
			t.Fatal(err)
		}
		whole, err := sfnt.Parse(faces[style])
		if err != nil {
			t.Fatal(err)
		}
		var b sfnt.Buffer
		drawn := func(f *sfnt.Font, r rune) (string, string) {
			i, err := f.GlyphIndex(&b, r)
			if err != nil || i == 0 {
				t.Fatalf("%q is not in it: %v", r, err)
			}
			lines, err := f.LoadGlyph(&b, i, em, nil)
			if err != nil {
				t.Fatal(err)
			}
			wide, err := f.GlyphAdvance(&b, i, em, font.HintingNone)
			if err != nil {
				t.Fatal(err)
			}
			return wide.String(), fmt.Sprint(lines)
		}
		for _, r := range append([]rune(" AZaz09~\\|"), upper...) {
			if r == '\u00ad' { // no letter: where a word may be cut
				continue
			}
			if wide, lines := drawn(part, r); wide == "" {
				t.Error(r)
			} else if w, l := drawn(whole, r); w != wide || l != lines {
				t.Errorf("%q is %s wide, of %s", r, wide, w)
			}
		}
	}
}
