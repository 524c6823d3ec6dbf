package dxf

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/place/placetest"
	"nexufix/core/quantity"
	"nexufix/core/sheet"
)

func drill(t *testing.T) (*drawing.Drawing, *catalog.Bracket) {
	t.Helper()
	d, b := catalogtest.Pair()
	b.WallPlate.Holes = append(b.WallPlate.Holes, catalog.PlateHole{ID: "R", Row: "top", Shape: "round", X: 12_345_600, Y: quantity.MM(95),
		Diameter: quantity.MM(9)})
	p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
	out := sheet.DrillTemplate(&p, sheet.Sheet{Date: "2026-11-25"})
	if out == nil {
		t.Fatal("no template")
	}
	return out, b
}

func file(t *testing.T, raw []byte) string {
	t.Helper()
	name := filepath.Join(t.TempDir(), "t.dxf")
	if err := os.WriteFile(name, raw, 0o600); err != nil {
		t.Fatal(err)
	}
	return name
}

// near reports whether every hole of a plate is among points, and no other.
func near(t *testing.T, reader string, b *catalog.Bracket, points [][2]float64) {
	t.Helper()
	if len(points) != len(b.WallPlate.Holes) {
		t.Errorf("%s reads %d drill points, the plate has %d holes", reader, len(points), len(b.WallPlate.Holes))
	}
	for _, h := range b.WallPlate.Holes {
		found := false
		for _, p := range points {
			found = found || math.Hypot(p[0]-h.X.MM(), p[1]-h.Y.MM()) < 0.05
		}
		if !found {
			t.Errorf("%s does not read hole %s at %s, %s: %v", reader, h.ID, h.X, h.Y, points)
		}
	}
}

// TestReadByEzdxf: the Python library ezdxf finds the file without errors, the
// layers, and the drill points within 0.05 mm.
func TestReadByEzdxf(t *testing.T) {
	d, b := drill(t)
	const script = `
import ezdxf, json, sys
doc = ezdxf.readfile(sys.argv[1])
audit = doc.audit()
print(json.dumps({"errors": [str(e) for e in audit.errors], "version": doc.dxfversion, "layers": sorted(l.dxf.name for l in doc.layers),
  "points": [[p.dxf.location.x, p.dxf.location.y] for p in doc.modelspace().query('POINT[layer=="DRILL"]')],
  "texts": [t.dxf.text for t in doc.modelspace().query('TEXT')], "other": len(doc.modelspace().query('*[layer=="OTHER"]'))}))`
	out, err := exec.Command("/usr/bin/python3", "-c", script, file(t, Write(d, Options{Units: quantity.Metric}))).Output()
	if err != nil {
		t.Fatalf("ezdxf (Debian package python3-ezdxf, see make browser-tools): %v", err)
	}
	var read struct {
		Errors, Layers, Texts []string
		Version               string
		Points                [][2]float64
		Other                 int
	}
	if err := json.Unmarshal(out, &read); err != nil {
		t.Fatal(err)
	}
	if read.Version != "AC1009" || len(read.Errors) > 0 {
		t.Errorf("%s %v", read.Version, read.Errors)
	}
	for _, l := range layers {
		if !strings.Contains(strings.Join(read.Layers, " ")+" ", l.name+" ") {
			t.Errorf("no layer %s in %v", l.name, read.Layers)
		}
	}
	near(t, "ezdxf", b, read.Points)
	if all := strings.Join(read.Texts, "|"); !strings.Contains(all, "Crust 49 on Rail 40") || !strings.Contains(all, "T1") ||
		strings.Contains(all, "?") {
		t.Error(all)
	}
}

// TestReadByGDAL: so does GDAL, another reader.
func TestReadByGDAL(t *testing.T) {
	d, b := drill(t)
	out, err := exec.Command("ogr2ogr", "-f", "GeoJSON", "/vsistdout/", file(t, Write(d, Options{Units: quantity.Metric})), "-where",
		"Layer = 'DRILL'").Output()
	if err != nil {
		t.Fatalf("ogr2ogr (Debian package gdal-bin, see make browser-tools): %v", err)
	}
	var read struct {
		Features []struct {
			Geometry struct {
				Type        string
				Coordinates json.RawMessage
			}
		}
	}
	if err := json.Unmarshal(out, &read); err != nil {
		t.Fatal(err)
	}
	var points [][2]float64
	for _, f := range read.Features {
		var at []float64
		if f.Geometry.Type == "Point" && json.Unmarshal(f.Geometry.Coordinates, &at) == nil {
			points = append(points, [2]float64{at[0], at[1]})
		}
	}
	near(t, "GDAL", b, points)
}

// TestSiteReadByBoth: of a particular wall, both readers find the points to
// drill on the layer for them, and no others, within 0.05 mm: of a run, of a
// shifted plate and of two plates.
func TestSiteReadByBoth(t *testing.T) {
	for name, site := range map[string]func() (*fit.Pairing, []place.Placement){"run": placetest.Run, "studs": placetest.Studs,
		"two plates": placetest.TwoPlates} {
		p, all := site()
		f := file(t, Write(sheet.DrillTemplate(p, sheet.Sheet{Places: all}), Options{Units: quantity.Metric}))
		const script = `
import ezdxf, json, sys
doc = ezdxf.readfile(sys.argv[1])
print(json.dumps([[p.dxf.location.x, p.dxf.location.y] for p in doc.modelspace().query('POINT[layer=="DRILL"]')]))`
		byEzdxf, err := exec.Command("/usr/bin/python3", "-c", script, f).Output()
		if err != nil {
			t.Fatalf("ezdxf: %v", err)
		}
		byGDAL, err := exec.Command("ogr2ogr", "-f", "CSV", "/vsistdout/", f, "-lco", "GEOMETRY=AS_XY", "-where",
			"Layer = 'DRILL' and SubClasses is not null", "-sql", "select * from entities where Layer = 'DRILL' and OGR_GEOMETRY = 'POINT'").Output()
		if err != nil {
			t.Fatalf("ogr2ogr: %v", err)
		}
		var points [][2]float64
		if err := json.Unmarshal(byEzdxf, &points); err != nil {
			t.Fatal(err)
		}
		var others [][2]float64
		for n, line := range strings.Split(strings.TrimSpace(string(byGDAL)), "\n") {
			var q [2]float64
			if _, err := fmt.Sscanf(line, "%g,%g,", &q[0], &q[1]); n > 0 && err == nil {
				others = append(others, q)
			}
		}
		var want [][2]float64
		for i := range all {
			for _, pt := range all[i].Points {
				want = append(want, [2]float64{(pt.X - all[0].DatumX).MM(), (pt.Y - all[0].Datum).MM()})
			}
		}
		for reader, got := range map[string][][2]float64{"ezdxf": points, "GDAL": others} {
			if len(got) != len(want) || len(want) < 4 {
				t.Errorf("%s: %s reads %d points of %d", name, reader, len(got), len(want))
			}
			for _, w := range want {
				found := false
				for _, g := range got {
					found = found || math.Hypot(g[0]-w[0], g[1]-w[1]) < 0.05
				}
				if !found {
					t.Errorf("%s: %s does not read %v", name, reader, w)
				}
			}
		}
	}
}

// TestForMachines: where a machine drills every entity of a layer, there is one for each place, as ezdxf reads it: on a wall a circle of
// the drill's diameter, else a point for each hole; the other layers are as they are.
func TestForMachines(t *testing.T) {
	const script = `
import ezdxf, json, sys
doc = ezdxf.readfile(sys.argv[1])
print(json.dumps([[[e.dxftype(), (e.dxf.center if e.dxftype() == "CIRCLE" else e.dxf.location).x, e.dxf.radius if e.dxftype() == "CIRCLE" else 0]
  for e in doc.modelspace().query('*[layer=="DRILL"]')], len(doc.modelspace().query('*[layer!="DRILL"]'))]))`
	read := func(d *drawing.Drawing) (all [][3]any, others float64) {
		out, err := exec.Command("/usr/bin/python3", "-c", script, file(t, Write(d, Options{Units: quantity.Metric, Machine: true}))).Output()
		if err != nil {
			t.Fatalf("ezdxf: %v", err)
		}
		if err := json.Unmarshal(out, &[]any{&all, &others}); err != nil {
			t.Fatal(err)
		}
		return all, others
	}
	d, b := drill(t)
	points, others := read(d)
	if len(points) != len(b.WallPlate.Holes) || points[0][0] != "POINT" || others < 20 {
		t.Errorf("%d entities of %d holes: %v", len(points), len(b.WallPlate.Holes), points)
	}
	p, all := placetest.Run()
	circles, _ := read(sheet.DrillTemplate(p, sheet.Sheet{Places: all}))
	want := 0
	for i := range all {
		for _, pt := range all[i].Points {
			want++
			x, r := (pt.X - all[0].DatumX).MM(), pt.Drill.Diameter.Value.MM()/2
			if !slices.ContainsFunc(circles, func(c [3]any) bool {
				return c[0] == "CIRCLE" && math.Abs(c[1].(float64)-x) < 0.001 && math.Abs(c[2].(float64)-r) < 0.001
			}) {
				t.Errorf("no circle of %v at %v", r, x)
			}
		}
	}
	if len(circles) != want {
		t.Errorf("%d entities of %d places", len(circles), want)
	}
}

// TestPlain: what names may hold never ends a line or a file.
func TestPlain(t *testing.T) {
	for text, want := range map[string]string{"200 × 200": "200 x 200", "5°": "5%%d", "Ø 9": "%%c 9", "a\r\n0\r\nEOF": "a  0  EOF",
		"日本": `\U+65E5\U+672C`, "Ложка": `\U+041B\U+043E\U+0436\U+043A\U+0430`, "😀": `\U+25A1`, "a\u202eb": "ab", strings.Repeat("x",
			5000): strings.Repeat("x", 250)} {
		if got := plain(text); got != want {
			t.Errorf("%q: %q", text, got)
		}
	}
	d := &drawing.Drawing{Title: "x\n0\nEOF", TextHeight: 3}
	d.Label("a", 0, 0, drawing.Middle, "%v", "<b>0\r\nENDSEC</b>")
	raw := string(Write(d, Options{Units: quantity.Metric}))
	if strings.Count(raw, "  0\r\nEOF\r\n") != 1 || strings.Count(raw, "  0\r\nENDSEC\r\n") != 3 {
		t.Errorf("%q", raw)
	}
}
