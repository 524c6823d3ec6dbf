package pdf

import (
	"bytes"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"nexufix/core/catalog/catalogtest"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/place/placetest"
	"nexufix/core/quantity"
	"nexufix/core/sheet"
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

// joined is a tile set as it comes out of a printer, its pages' pictures joined
// at their marks as they are found in them.
type joined struct {
	tiles  []Tile
	pages  []picture
	offset [][2]float64 // of each page from the first
}

func join(t *testing.T, d *drawing.Drawing, paper string) joined {
	t.Helper()
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
	if text := poppler(t, "pdftotext", "-layout", file, "-"); !bytes.Contains(text,
		fmt.Appendf(nil, "Page %d of %d", len(tiles), len(tiles))) {
		t.Errorf("%s: the last page has no number", paper)
	}
	out := joined{tiles, make([]picture, len(tiles)), make([][2]float64, len(tiles))}
	mark := func(i int, m drawing.Point) (x, y float64) {
		x, y = tiles[i].At(m)
		return out.pages[i].run(true, y+3.7, x), out.pages[i].run(false, x+3.7, y)
	}
	marks := Joins(d, tiles)
	for i := range tiles {
		out.pages[i] = rendered(t, file, i+1, 254)
		if i == 0 {
			continue
		}
		found := false
		for _, m := range marks {
			for j := range i {
				if !found && tiles[i].Shows(m) && tiles[j].Shows(m) {
					x0, y0 := mark(j, m)
					x1, y1 := mark(i, m)
					out.offset[i] = [2]float64{out.offset[j][0] + x0 - x1, out.offset[j][1] + y0 - y1}
					found = true
				}
			}
		}
		if !found || math.IsInf(out.offset[i][0], 0) || math.IsInf(out.offset[i][1], 0) {
			t.Fatalf("%s: page %d has no mark that an earlier page has", paper, i+1)
		}
	}
	return out
}

// finds reports whether a place is where it should be on the joined sheet, within
// 0.2 mm, on every page that shows it. Its upright hair is looked for above and
// below the middle, its level one on both sides.
func (j *joined) finds(t *testing.T, name string, at drawing.Point, below, beside float64) {
	t.Helper()
	wantX, wantY := j.tiles[0].At(at)
	seen := 0
	for i := range j.tiles {
		shows := func(dx, dy float64) bool { return j.tiles[i].Shows(drawing.Point{X: at.X + dx, Y: at.Y + dy}) }
		for _, side := range []float64{1, -1} {
			down, across := side*below, side*beside
			if !shows(-4, -down) || !shows(4, -down) || !shows(across, 4) || !shows(across, -4) {
				continue
			}
			seen++
			x, y := j.tiles[i].At(at)
			gotX, gotY := j.pages[i].run(true, y+down, x)+j.offset[i][0], j.pages[i].run(false, x+across, y)+j.offset[i][1]
			if math.Abs(gotX-wantX) > 0.2 || math.Abs(gotY-wantY) > 0.2 {
				t.Errorf("%s is at %.2f, %.2f of the joined sheet, want %.2f, %.2f (page %d)", name, gotX, gotY, wantX, wantY, i+1)
			}
		}
	}
	if seen == 0 {
		t.Errorf("%s is on no page whole", name)
	}
}

// TestTilesPutTogether prints a template on each paper, renders the pages,
// joins the pictures at their marks, and finds every hole within 0.2 mm of its
// place on the first page's paper.
func TestTilesPutTogether(t *testing.T) {
	d := drilling(t)
	_, b := catalogtest.Pair()
	for paper := range Papers {
		j := join(t, d, paper)
		for _, m := range Joins(d, j.tiles) {
			if room := fromHoles(d, m); room < 8 {
				t.Errorf("%s: a joining mark at %v is %.1f from a hole", paper, m, room)
			}
		}
		for _, h := range b.WallPlate.Holes {
			j.finds(t, paper+" "+h.ID, drawing.Point{X: h.X.MM(), Y: h.Y.MM()}, 2.5, 8)
		}
	}
}

// TestSiteTilesPutTogether: the same of particular walls, for the points to
// drill: a shifted plate, and two plates.
func TestSiteTilesPutTogether(t *testing.T) {
	for paper, site := range map[string]func() (*fit.Pairing, []place.Placement){"a4": placetest.Studs, "letter": placetest.TwoPlates} {
		p, all := site()
		d := sheet.DrillTemplate(p, sheet.Sheet{Places: all, Hide: []string{"holes", "figures"}})
		j := join(t, d, paper)
		for _, pt := range all[0].Points {
			at := drawing.Point{X: (pt.X - all[0].DatumX).MM(), Y: (pt.Y - all[0].Datum).MM()}
			j.finds(t, paper+" "+pt.Hole, at, 5, 5)
		}
	}
}

// TestBlockedOnEveryPage: every page of a template of what is not to be installed
// says so, and no page of another.
func TestBlockedOnEveryPage(t *testing.T) {
	for name, blocked := range map[string][]fit.Check{
		"blocked": {{Finding: fit.Finding{Rule: place.StudsRule, Status: fit.Fail}, Text: quantity.Say("No studs.")}},
		"sound":   {}} {
		p, all := placetest.Studs()
		d := sheet.DrillTemplate(p, sheet.Sheet{Places: all, Blocked: blocked})
		raw, err := Tiled(d, "a4", quantity.Metric, time.Time{})
		if err != nil {
			t.Fatal(err)
		}
		file := filepath.Join(t.TempDir(), "tiles.pdf")
		if err := os.WriteFile(file, raw, 0o600); err != nil {
			t.Fatal(err)
		}
		pages := bytes.Split(bytes.TrimSuffix(poppler(t, "pdftotext", "-raw", file, "-"), []byte("\f")), []byte("\f"))
		if len(pages) < 4 {
			t.Fatalf("only %d pages", len(pages))
		}
		for i, page := range pages {
			if says := bytes.Contains(page, []byte("Do not install")); says != (len(blocked) > 0) {
				t.Errorf("%s: page %d of %d says so: %v: %q", name, i+1, len(pages), says, page)
			}
		}
	}
}

// TestSitePoints: on one sheet of its size, a run's points are within 0.06 mm.
func TestSitePoints(t *testing.T) {
	p, all := placetest.Run()
	d := sheet.DrillTemplate(p, sheet.Sheet{Places: all[:1], Hide: []string{"outline"}})
	page := rendered(t, written(t, d, quantity.Metric), 1, 508)
	for _, pt := range all[0].Points {
		x, y := (pt.X - all[0].DatumX).MM(), (pt.Y - all[0].Datum).MM()
		if got := page.lines(d, true, y+8, x-8, x+8); !has(got, x) {
			t.Errorf("%s: upright lines at %v, want %g", pt.Hole, got, x)
		}
		if got := page.lines(d, false, x-8, y-3.5, y+3.5); !has(got, y) {
			t.Errorf("%s: level lines at %v, want %g", pt.Hole, got, y)
		}
	}
}

// TestCardIsOnePage: the measure card of a job is one page of A4, and no word
// of it sticks out of the margins, in either system of units.
func TestCardIsOnePage(t *testing.T) {
	for name, site := range map[string]func() (*fit.Pairing, []place.Placement){"run": placetest.Run, "studs": placetest.Studs,
		"two plates": placetest.TwoPlates} {
		p, all := site()
		for _, places := range [][]place.Placement{all, nil} {
			for _, u := range []quantity.Units{quantity.Metric, quantity.Imperial} {
				file := written(t, sheet.MeasureCard(p, sheet.Sheet{Places: places}), u)
				out := poppler(t, "pdftotext", "-bbox", file, "-")
				pages := regexp.MustCompile(`<page width="([\d.]+)" height="([\d.]+)"`).FindAllSubmatch(out, -1)
				if len(pages) != 1 || !bytes.HasPrefix(pages[0][1], []byte("595.")) || !bytes.HasPrefix(pages[0][2], []byte("841.")) {
					t.Fatalf("%s: %q", name, pages)
				}
				words := regexp.MustCompile(`<word xMin="([\d.-]+)" yMin="([\d.-]+)" xMax="([\d.-]+)" yMax="([\d.-]+)">([^<]*)`).FindAllSubmatch(out,
					-1)
				if len(words) < 80 {
					t.Errorf("%s: only %d words", name, len(words))
				}
				for _, w := range words {
					x0, _ := strconv.ParseFloat(string(w[1]), 64)
					x1, _ := strconv.ParseFloat(string(w[3]), 64)
					if x0 < 8/25.4*72 || x1 > 202/25.4*72 {
						t.Errorf("%s, %d: %q reaches from %.0f to %.0f points", name, u, w[5], x0, x1)
					}
				}
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
	d := drilling(b)
	d.Min, d.Max = drawing.Point{X: -1100, Y: -600}, drawing.Point{X: 1100, Y: 700}
	for b.Loop() {
		if _, err := Tiled(d, "a4", quantity.Metric, time.Time{}); err != nil {
			b.Fatal(err)
		}
	}
}

// TestJoinedTemplate: what is drilled for a 49 in display on its plate takes at most four pages
// of A4, and no place to drill, nor its label, lies where pages are joined.
func TestJoinedTemplate(t *testing.T) {
	p, all := placetest.Studs()
	d := sheet.DrillTemplate(p, sheet.Sheet{Places: all, Joined: true, Date: "2026-11-26"})
	for _, paper := range []string{"a4", "letter", "a3"} {
		tiles, err := Tiles(d, paper)
		if err != nil || len(tiles) > 4 {
			t.Fatalf("%s: %d pages, want at most 4; %v", paper, len(tiles), err)
		}
		for _, item := range d.Items {
			point, ok := item.Shape.(drawing.Circle)
			if !ok || !strings.HasPrefix(item.Tag, "point.") {
				continue
			}
			whole := 0 // pages that show it whole
			for i := range tiles {
				x, y, r := point.Center.X, point.Center.Y, point.Radius
				if tiles[i].Shows(drawing.Point{X: x - r, Y: y - r}) && tiles[i].Shows(drawing.Point{X: x + r, Y: y + r}) {
					whole++
				}
			}
			if whole != 1 {
				t.Errorf("%s: %s is whole on %d pages, want one", paper, item.Tag, whole)
			}
		}
	}
}

// TestEmptyPages: pages within a large outline on which there is nothing are left out, and
// those that are left can be joined.
func TestEmptyPages(t *testing.T) {
	d := &drawing.Drawing{Max: drawing.Point{X: 1500, Y: 1500}}
	d.Add("template.outline", drawing.Hidden, drawing.Line{Points: []drawing.Point{{X: 5, Y: 5}, {X: 1495, Y: 5}, {X: 1495, Y: 1495},
		{X: 5, Y: 1495}, {X: 5, Y: 5}}})
	tiles, err := Tiles(d, "a4")
	if err != nil {
		t.Fatal(err)
	}
	if all := tiles[0].Rows * tiles[0].Columns; len(tiles) >= all || len(tiles) < 20 {
		t.Errorf("%d of %d pages are printed, want the ones on the outline alone", len(tiles), all)
	}
	for i, tile := range tiles {
		if tile.Num != i+1 || tile.Of != len(tiles) {
			t.Errorf("page %d of %d is numbered %d of %d", i+1, len(tiles), tile.Num, tile.Of)
		}
	}
}
