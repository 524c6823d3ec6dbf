package pdf

import (
	"bytes"
	"fmt"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/sheet"
)

// The promise of 1:1 is checked by reading the PDF back with poppler (Debian
// package poppler-utils), which shares nothing with this program.

func drilling(t testing.TB) *drawing.Drawing {
	t.Helper()
	d, b := catalogtest.Pair()
	p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
	s := sheet.DrillTemplate(&p, sheet.Sheet{Date: "2026-01-02"})
	if s == nil {
		t.Fatal("no template")
	}
	return s
}

func poppler(t *testing.T, name string, args ...string) []byte {
	t.Helper()
	out, err := exec.Command(name, args...).CombinedOutput()
	if err != nil || bytes.Contains(out, []byte("Syntax ")) { // of which it complains, and goes on
		t.Fatalf("%s (Debian package poppler-utils, see make browser-tools): %v %s", name, err, out)
	}
	return out
}

func written(t *testing.T, d *drawing.Drawing, u quantity.Units) string {
	t.Helper()
	raw, err := Sheet(d, u, time.Date(2026, 1, 2, 3, 4, 5, 0, time.UTC))
	if err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(t.TempDir(), "sheet.pdf")
	if err := os.WriteFile(file, raw, 0o600); err != nil {
		t.Fatal(err)
	}
	return file
}

func TestPageIsTheDrawingsSize(t *testing.T) {
	d := drilling(t)
	out := poppler(t, "pdfinfo", written(t, d, quantity.Metric))
	m := regexp.MustCompile(`Page size:\s+([\d.]+) x ([\d.]+) pts`).FindSubmatch(out)
	if m == nil || !bytes.Contains(out, []byte("Pages:           1")) {
		t.Fatalf("%s", out)
	}
	for i, mm := range []float64{d.Width(), d.Height()} {
		points, _ := strconv.ParseFloat(string(m[i+1]), 64)
		if got := points * 25.4 / 72; math.Abs(got-mm) > 0.05 {
			t.Errorf("side %d is %.3f mm, want %.3f", i, got, mm)
		}
	}
}

// picture is a page rendered in grey.
type picture struct {
	w, h   int
	pixels []byte
	perMM  float64
}

// rendered renders one page of a file.
func rendered(t *testing.T, file string, page, dpi int) picture {
	t.Helper()
	out, n := filepath.Join(t.TempDir(), "page"), fmt.Sprint(page)
	poppler(t, "pdftoppm", "-r", fmt.Sprint(dpi), "-gray", "-aa", "no", "-aaVector", "no", "-f", n, "-l", n, "-singlefile", file, out)
	raw, err := os.ReadFile(out + ".pgm")
	if err != nil {
		t.Fatal(err)
	}
	p := picture{perMM: float64(dpi) / 25.4}
	var depth int
	if _, err := fmt.Fscanf(bytes.NewReader(raw), "P5\n%d %d\n%d\n", &p.w, &p.h, &depth); err != nil {
		t.Fatal(err)
	}
	p.pixels = raw[len(raw)-p.w*p.h:]
	return p
}

// lines are the middles of dark runs along a row or a column of pixels, in mm
// of the drawing.
func (p picture) lines(d *drawing.Drawing, across bool, at, from, to float64) (out []float64) {
	start := -1
	n := int((to - from) * p.perMM)
	for i := range n + 1 {
		var x, y int
		if across {
			x, y = int((from-d.Min.X)*p.perMM)+i, int((d.Max.Y-at)*p.perMM)
		} else {
			x, y = int((at-d.Min.X)*p.perMM), int((d.Max.Y-from)*p.perMM)-i
		}
		dark := x >= 0 && y >= 0 && x < p.w && y < p.h && p.pixels[y*p.w+x] < 160
		if dark && start < 0 {
			start = i
		}
		if !dark && start >= 0 {
			middle := float64(start+i) / 2 / p.perMM
			if across {
				out = append(out, d.Min.X+float64(int((from-d.Min.X)*p.perMM))/p.perMM+middle)
			} else {
				out = append(out, d.Max.Y-float64(int((d.Max.Y-from)*p.perMM)+1)/p.perMM+middle)
			}
			start = -1
		}
	}
	return out
}

func has(all []float64, want float64) bool {
	for _, x := range all {
		if math.Abs(x-want) < 0.06 {
			return true
		}
	}
	return false
}

// TestDrillPointsAreWhereTheyShouldBe: at 508 dots an inch a pixel is 0.05 mm.
// The cross-hairs of every hole are found within 0.06 mm.
func TestDrillPointsAreWhereTheyShouldBe(t *testing.T) {
	d := drilling(t)
	p := rendered(t, written(t, d, quantity.Metric), 1, 508)
	_, b := catalogtest.Pair()
	for _, h := range b.WallPlate.Holes {
		x, y := h.X.MM(), h.Y.MM()
		// The upright hair, cut above the middle but inside the slot.
		if got := p.lines(d, true, y+2.5, x-8, x+8); !has(got, x) {
			t.Errorf("%s: upright lines at %v, want %g", h.ID, got, x)
		}
		// The level hair, cut beside the middle.
		if got := p.lines(d, false, x+8, y-3.5, y+3.5); !has(got, y) {
			t.Errorf("%s: level lines at %v, want %g", h.ID, got, y)
		}
	}
}

// TestScaleBars: the bars that check a print are 100 mm and 4 in long.
func TestScaleBars(t *testing.T) {
	d := drilling(t)
	p := rendered(t, written(t, d, quantity.Imperial), 1, 508)
	for tag, want := range map[string]float64{"template.bar.mm": 100, "template.bar.in": 101.6} {
		x0, y := math.Inf(1), 0.0
		for _, i := range d.Items {
			if l, ok := i.Shape.(drawing.Line); ok && i.Tag == tag {
				x0, y = min(x0, l.Points[0].X), l.Points[0].Y
			}
		}
		// The ticks, cut at half their height.
		got := p.lines(d, true, y+1, x0-2, x0+want+2)
		if len(got) < 3 || math.Abs(got[len(got)-1]-got[0]-want) > 0.06 {
			t.Errorf("%s: ticks at %v, want them %g apart", tag, got, want)
		}
	}
}

func TestTextCanBeRead(t *testing.T) {
	d := drilling(t)
	mm := string(poppler(t, "pdftotext", "-layout", written(t, d, quantity.Metric), "-"))
	in := string(poppler(t, "pdftotext", "-layout", written(t, d, quantity.Imperial), "-"))
	for _, want := range []string{"Crust 49 on Rail 40", "drill Ø 5.5 mm, 71.5 mm deep", "100 mm", "4 in", "Local codes"} {
		if !strings.Contains(mm, want) {
			t.Errorf("no %q in\n%s", want, mm)
		}
	}
	if !strings.Contains(in, "9 15/16 in") {
		t.Error(in)
	}
}

func TestSameBytesEveryTime(t *testing.T) {
	d := drilling(t)
	at := time.Date(2026, 1, 2, 3, 4, 5, 0, time.UTC)
	a, err := Sheet(d, quantity.Metric, at)
	if err != nil {
		t.Fatal(err)
	}
	if b, _ := Sheet(d, quantity.Metric, at); !bytes.Equal(a, b) {
		t.Error("the same sheet gives another file")
	}
}

func BenchmarkSheet(b *testing.B) {
	d := drilling(b)
	for b.Loop() {
		if _, err := Sheet(d, quantity.Metric, time.Time{}); err != nil {
			b.Fatal(err)
		}
	}
}
