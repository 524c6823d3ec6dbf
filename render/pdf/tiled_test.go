package pdf

import (
	"bytes"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"testing"
	"time"

	"nexufix/core/catalog/catalogtest"
	"nexufix/core/drawing"
	"nexufix/core/quantity"
)

// run is the middle of the dark run nearest to where one is expected, along a
// row (across) or a column of a page's pixels; millimetres from its upper left
// corner.
func (p picture) run(across bool, at, want float64) float64 {
	best, start := math.Inf(1), -1
	for i := int((want - 4) * p.perMM); i <= int((want+4)*p.perMM); i++ {
		x, y := i, int(at*p.perMM)
		if !across {
			x, y = y, x
		}
		dark := x >= 0 && y >= 0 && x < p.w && y < p.h && p.pixels[y*p.w+x] < 160
		if dark && start < 0 {
			start = i
		}
		if !dark && start >= 0 {
			if middle := float64(start+i) / 2 / p.perMM; math.Abs(middle-want) < math.Abs(best-want) {
				best = middle
			}
			start = -1
		}
	}
	return best
}

// TestTilesPutTogether prints a template on each paper, renders the pages,
// joins the pictures at their marks, as they are found in them, and finds every
// hole within 0.2 mm of its place on the first page's paper.
func TestTilesPutTogether(t *testing.T) {
	d := sheet(t)
	_, b := catalogtest.Pair()
	for paper := range Papers {
		raw, err := Tiled(d, paper, quantity.Metric, time.Date(2026, 1, 2, 3, 4, 5, 0, time.UTC))
		if err != nil {
			t.Fatal(err)
		}
		file := filepath.Join(t.TempDir(), "tiles.pdf")
		if err := os.WriteFile(file, raw, 0o600); err != nil {
			t.Fatal(err)
		}
		tiles, err := Tiles(d, paper)
		if err != nil {
			t.Fatal(err)
		}
		if info := poppler(t, "pdfinfo", file); !bytes.Contains(info, fmt.Appendf(nil, "Pages:           %d\n", len(tiles))) {
			t.Errorf("%s: %s", paper, info)
		}
		if text := poppler(t, "pdftotext", "-layout", file, "-"); !bytes.Contains(text, fmt.Appendf(nil, "Page %d of %d", len(tiles), len(tiles))) {
			t.Errorf("%s: the last page has no number", paper)
		}
		for _, m := range Joins(d, tiles) {
			if room := fromHoles(d, m); room < 8 {
				t.Errorf("%s: a joining mark at %v is %.1f from a hole", paper, m, room)
			}
		}
		pages := make([]picture, len(tiles))
		offset := make([][2]float64, len(tiles)) // of each page from the first, found at the marks
		mark := func(i int, m drawing.Point) (x, y float64) {
			x, y = tiles[i].At(m)
			return pages[i].run(true, y+3.7, x), pages[i].run(false, x+3.7, y)
		}
		for i := range tiles {
			pages[i] = rendered(t, file, i+1, 254)
			if i == 0 {
				continue
			}
			joined := false
			for _, m := range Joins(d, tiles) {
				for j := range i {
					if !joined && tiles[i].Shows(m) && tiles[j].Shows(m) {
						x0, y0 := mark(j, m)
						x1, y1 := mark(i, m)
						offset[i] = [2]float64{offset[j][0] + x0 - x1, offset[j][1] + y0 - y1}
						joined = true
					}
				}
			}
			if !joined || math.IsInf(offset[i][0], 0) || math.IsInf(offset[i][1], 0) {
				t.Fatalf("%s: page %d has no mark that an earlier page has", paper, i+1)
			}
		}
		for _, h := range b.WallPlate.Holes {
			at := drawing.Point{X: h.X.MM(), Y: h.Y.MM()}
			wantX, wantY := tiles[0].At(at)
			seen := 0
			for i := range tiles {
				if !tiles[i].Shows(drawing.Point{X: at.X - 9, Y: at.Y - 4}) || !tiles[i].Shows(drawing.Point{X: at.X + 9, Y: at.Y + 4}) {
					continue
				}
				seen++
				x, y := tiles[i].At(at)
				gotX, gotY := pages[i].run(true, y-2.5, x)+offset[i][0], pages[i].run(false, x+8, y)+offset[i][1]
				if math.Abs(gotX-wantX) > 0.2 || math.Abs(gotY-wantY) > 0.2 {
					t.Errorf("%s: %s is at %.2f, %.2f of the joined sheet, want %.2f, %.2f (page %d)", paper, h.ID, gotX, gotY, wantX, wantY, i+1)
				}
			}
			if seen == 0 {
				t.Errorf("%s: %s is on no page whole", paper, h.ID)
			}
		}
	}
}

func TestTiles(t *testing.T) {
	d := &drawing.Drawing{Min: drawing.Point{X: -1100, Y: -600}, Max: drawing.Point{X: 1100, Y: 700}}
	for paper, want := range map[string]int{"a4": 77, "a3": 36, "letter": 77} {
		tiles, err := Tiles(d, paper)
		if err != nil || len(tiles) > want {
			t.Errorf("%s: %d pages, %v", paper, len(tiles), err)
		}
		// Every place of the drawing is on a page.
		for x := d.Min.X; x <= d.Max.X; x += 10 {
			for y := d.Min.Y; y <= d.Max.Y; y += 10 {
				shown := false
				for i := range tiles {
					shown = shown || tiles[i].Shows(drawing.Point{X: x, Y: y})
				}
				if !shown {
					t.Fatalf("%s: %g, %g is on no page", paper, x, y)
				}
			}
		}
	}
	if _, err := Tiles(d, "a5"); err == nil {
		t.Error("a5 is taken")
	}
	if _, err := Tiles(&drawing.Drawing{Max: drawing.Point{X: 3e6, Y: 10}}, "a4"); err == nil {
		t.Error("a drawing of 3 km is tiled")
	}
}

func BenchmarkTiledA4(b *testing.B) {
	d := sheet(b)
	d.Min, d.Max = drawing.Point{X: -1100, Y: -600}, drawing.Point{X: 1100, Y: 700}
	for b.Loop() {
		if _, err := Tiled(d, "a4", quantity.Metric, time.Time{}); err != nil {
			b.Fatal(err)
		}
	}
}
