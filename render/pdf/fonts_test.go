package pdf

import (
	"bytes"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"golang.org/x/image/font"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"

	"nexufix/core/drawing"
	"nexufix/core/quantity"
	"nexufix/render"
)

// TestBothWaysOfLetters: a text comes back out of the file as it went in, as
// poppler reads it, and looks alike on paper whichever way its letters are written.
func TestBothWaysOfLetters(t *testing.T) {
	for _, weight := range []bool{false, true} {
		for i := 0; i < len(upper); i += 16 {
			line := strings.NewReplacer("\u00ad", "", "\u00a0", "").Replace(string(upper[i : i+16]))
			line = render.Letters(strings.Join(strings.Split(line, ""), "x") + "x (Drill \\ 8)")
			widths, drawn := map[bool]string{}, map[bool][]byte{}
			for _, long := range []bool{false, true} {
				d := &drawing.Drawing{Max: drawing.Point{X: 300, Y: 40}, Pen: 1}
				d.Add("", drawing.Dim, drawing.Text{At: drawing.Point{X: 10, Y: 20}, Height: 5, Strong: weight, Text: quantity.Say("%s", line)})
				if long {
					d.Add("", drawing.Dim, drawing.Text{At: drawing.Point{X: 10, Y: 5}, Height: 5, Text: quantity.Say("%s", "Ложка")})
				}
				if allShort(textsOf(d, quantity.Metric)) == long {
					t.Fatalf("%q: one byte a letter is %v", line, !long)
				}
				file := written(t, d, quantity.Metric)
				text := string(poppler(t, "pdftotext", "-layout", file, "-"))
				if !strings.Contains(text, line) {
					t.Errorf("strong %v, long %v: %q is read as %q", weight, long, line, text)
				}
				box := string(poppler(t, "pdftotext", "-bbox-layout", file, "-"))
				m := regexp.MustCompile(`<line xMin="(\S+)" yMin="\S+" xMax="(\S+)"`).FindStringSubmatch(box)
				if m == nil {
					t.Fatalf("%q: no line in %s", line, box)
				}
				widths[long] = m[1] + " to " + m[2]
				p := rendered(t, file, 1, 72)
				drawn[long] = p.pixels[:p.w*p.h*3/4] // without the other line
			}
			if widths[false] != widths[true] {
				t.Errorf("strong %v: %q lies from %s points, and from %s", weight, line, widths[false], widths[true])
			}
			// A dot here and there is otherwise, since the library drops the hints of a
			// font that it cuts. A letter has twenty dots at the least.
			dark, other := 0, 0
			for i, x := range drawn[false] {
				if x < 255 {
					dark++
				}
				if x != drawn[true][i] {
					other++
				}
			}
			if dark < 1000 || other > dark/20 {
				t.Errorf("strong %v: %q: of %d dots %d are otherwise", weight, line, dark, other)
			}
		}
	}
}

// TestFontsAreInTheFile: a reader needs no font of its own.
func TestFontsAreInTheFile(t *testing.T) {
	d := drilling(t)
	if !allShort(textsOf(d, quantity.Metric)) || !allShort(textsOf(d, quantity.Imperial)) {
		t.Error("an ordinary sheet has a letter that takes two bytes")
	}
	out := string(poppler(t, "pdffonts", written(t, d, quantity.Metric)))
	if strings.Count(out, "yes no") != 2 {
		t.Errorf("wanted two fonts embedded whole:\n%s", out)
	}
}

// TestSheetOfStrangeLetters: one letter beyond those of one byte is enough for
// the slow way, wherever on a sheet it stands.
func TestSheetOfStrangeLetters(t *testing.T) {
	for _, where := range []func(*drawing.Drawing){
		func(d *drawing.Drawing) { d.Title = "Ψωμί" },
		func(d *drawing.Drawing) { d.Warning = quantity.Say("%s", "Ψωμί") },
	} {
		d := drilling(t)
		where(d)
		raw, err := Tiled(d, "a4", quantity.Metric, time.Time{})
		if err != nil {
			t.Fatal(err)
		}
		file := filepath.Join(t.TempDir(), "tiled.pdf")
		if err := os.WriteFile(file, raw, 0o600); err != nil {
			t.Fatal(err)
		}
		if out := poppler(t, "pdftotext", file, "-"); !bytes.Contains(out, []byte("Ψωμί")) {
			t.Errorf("no Ψωμί in\n%s", out)
		}
	}
}

// TestTextWidths compares the widths that drawings are laid out by with the fonts that ship.
func TestTextWidths(t *testing.T) {
	for style, strong := range map[string]bool{"": false, "B": true} {
		f, err := sfnt.Parse(faces[style])
		if err != nil {
			t.Fatal(err)
		}
		var b sfnt.Buffer
		letters := append([]rune{}, upper...)
		for r := ' '; r <= '~'; r++ {
			letters = append(letters, r)
		}
		for _, r := range letters {
			i, err := f.GlyphIndex(&b, r)
			if err != nil {
				t.Fatal(err)
			}
			advance, err := f.GlyphAdvance(&b, i, fixed.I(1000), font.HintingNone)
			if err != nil {
				t.Fatal(err)
			}
			want := float64(advance) / 64
			got := drawing.LineWidth(string(r), 1000*drawing.CapHeight, strong)
			if got < want-1e-6 || r < 0x7f && got > want+1 {
				t.Errorf("%q, strong %v: %g thousandths of an em, the font has %g", r, strong, got, want)
			}
		}
	}
}
