package pdf

import (
	"strings"
	"testing"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"nexufix/core/drawing"
	"nexufix/core/quantity"
)

// TestLongWords: a word that is wider than its column is broken where the next letter would not go on the line, and nothing of it is
// lost; one that just fits is not.
func TestLongWords(t *testing.T) {
	w := beginWith(&drawing.Drawing{Title: "x"}, fpdf.SizeType{Wd: 210, Ht: 297}, quantity.Metric, time.Time{}, []string{"Wäßm"})
	f := &flow{writer: w, p: &Pack{}}
	f.font("", 4)
	const wide = 60.0
	width := func(s string) float64 { return f.GetStringWidth(f.letters(s)) }
	long := strings.Repeat("Wäßm", 50_000)
	lines := f.lines("Wä "+long+" ßm", wide)
	if got := strings.Join(lines, ""); strings.ReplaceAll(got, " ", "") != "Wä"+long+"ßm" {
		t.Errorf("%d letters of %d", len(got), len(long)+6)
	}
	for n, line := range lines {
		if width(line) > wide {
			t.Fatalf("line %d is %g wide", n, width(line))
		}
		if n > 0 && n < len(lines)-2 {
			next := string([]rune(lines[n+1])[:1])
			if width(line+next) <= wide {
				t.Fatalf("line %d has room for another letter", n)
			}
		}
	}
	fits := "W"
	for width(fits+"W") <= wide {
		fits += "W"
	}
	if got := f.lines(fits, wide); len(got) != 1 {
		t.Errorf("what fits is broken: %v", got)
	}
}
