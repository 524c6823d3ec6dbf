package tabular

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"nexufix/demo"
	"nexufix/exchange"
)

// take reads a file against a catalogue, its columns recognised.
func take(t *testing.T, name string, raw []byte, have *exchange.Contents) ([]Sheet, Previewed) {
	t.Helper()
	tables, err := Open(name, raw)
	if err != nil {
		t.Fatal(err)
	}
	var sheets []Sheet
	for i := range tables {
		if l := Recognise(&tables[i], nil); l.Kind != "" {
			sheets = append(sheets, Sheet{&tables[i], l})
		}
	}
	return sheets, Preview(sheets, have)
}

func written(t *testing.T, c *exchange.Contents) []byte {
	t.Helper()
	raw, err := exchange.Write(c)
	if err != nil {
		t.Fatal(err)
	}
	return raw
}

func complaints(taken Previewed) string {
	var b strings.Builder
	for _, r := range taken.Rows {
		for _, p := range r.Problems {
			fmt.Fprintf(&b, "row %d column %d: %s\n", r.N+1, p.Column, p.Text)
		}
	}
	return b.String()
}

// full is the demo with everything a document can have.
func full(t *testing.T) *exchange.Contents {
	t.Helper()
	c, err := demo.Contents()
	if err != nil {
		t.Fatal(err)
	}
	extra, err := exchange.Read([]byte(`{"format":"nexufix/1","displays":[{"id":"odd","maker":"=CMD()","model":"-5",
	  "aliases":["a, b","c"],"origin":"caller",
		"patterns":[{"width_mm":200,"height_mm":100.5,"thread":"M6","holes":[{"id":"A","x_mm":-100,"y_mm":50.25,
		  "thread_depth_mm":14.123456},{"id":"B","x_mm":100,"y_mm":-50.25,"trials":[{"thread":"M6","length_mm":25,
		  "outcome":"stopped","gap_mm":9,"turns":10.5}]}]}],
		"own_parts":[{"kind":"bolt","thread":"M6","length_mm":20,"count":4}],
		"zones":[{"kind":"port","x_mm":-10.5,"y_mm":0,"width_mm":3,"height_mm":4,"plug_mm":20}],
		"origins":{"patterns[0].holes[0].thread_depth_mm":"bench","zones[0].plug_mm":"sheet"},
		"notes":{"mass_kg":{"text":"weighed twice, \"dry\"","date":"2026-11-25","who":"Ada"}}},
		{"id":"quoted","model":"'=1","aliases":["=1+1"]}]}`))
	if err != nil {
		t.Fatal(err)
	}
	c.Displays = append(c.Displays, extra.Displays...)
	c.Brackets[0].Kit = append(slices.Clone(c.Brackets[0].Kit), catalog.Item{Kind: "anchor", Name: "toggle", Count: 4,
		ThreadLength: quantity.MM(41), Pull: 80 * quantity.Kilogram, Shear: 90 * quantity.Kilogram, RatingBasis: "ultimate"})
	c.Jobs = nil // tables have none
	return c
}

// inOrder puts new revisions of brackets where the old ones were.
func inOrder(before, now []*catalog.Bracket) []*catalog.Bracket {
	if before == nil {
		return now
	}
	out := slices.Clone(before)
	for _, n := range now {
		out[slices.IndexFunc(out, func(b *catalog.Bracket) bool { return b.ID == n.ID })] = n
	}
	return out
}

// TestRoundTrip: export, import into nothing, export again: the same bytes.
func TestRoundTrip(t *testing.T) {
	c := full(t)
	want := written(t, c)
	var book bytes.Buffer
	if err := WriteXLSX(&book, c, time.Unix(0, 0)); err != nil {
		t.Fatal(err)
	}
	_, got := take(t, "all.xlsx", book.Bytes(), &exchange.Contents{})
	if got.Contents == nil {
		t.Fatal(complaints(got))
	}
	if again := written(t, got.Contents); !bytes.Equal(want, again) {
		t.Errorf("the workbook changes the catalogue: %v", exchange.Compare(want, again))
	}

	have := &exchange.Contents{}
	for _, kind := range []string{Displays, Brackets, Kits} {
		var text bytes.Buffer
		if err := WriteCSV(&text, kind, c); err != nil {
			t.Fatal(err)
		}
		_, got := take(t, kind+".csv", text.Bytes(), have)
		if got.Contents == nil {
			t.Fatal(kind, complaints(got))
		}
		if kind == Displays {
			have.Displays = got.Contents.Displays
		} else {
			have.Brackets = inOrder(have.Brackets, got.Contents.Brackets)
		}
	}
	if again := written(t, have); !bytes.Equal(want, again) {
		t.Errorf("the tables change the catalogue: %v", exchange.Compare(want, again))
	}
	// And into what is there already it changes nothing.
	if _, same := take(t, "all.xlsx", book.Bytes(), c); same.Contents == nil || same.Count(Same) != len(same.Rows) {
		t.Errorf("%s %d new, %d changed", complaints(same), same.Count(New), same.Count(Changed))
	}
}

// TestLibreOffice: what is written opens in LibreOffice Calc without a window,
// no text is a formula there, and what it writes again is the same catalogue.
func TestLibreOffice(t *testing.T) {
	soffice, err := exec.LookPath("soffice")
	if err != nil {
		t.Fatal("LibreOffice Calc (Debian package libreoffice-calc, see make browser-tools):", err)
	}
	c := full(t)
	dir := t.TempDir()
	var book bytes.Buffer
	if err := WriteXLSX(&book, c, time.Unix(0, 0)); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(filepath.Join(dir, "all.xlsx"), book.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	out := filepath.Join(dir, "out")
	run := exec.Command(soffice, "-env:UserInstallation=file://"+dir+"/profile", "--headless", "--convert-to", "xlsx", "--outdir", out,
		filepath.Join(dir, "all.xlsx"))
	if said, err := run.CombinedOutput(); err != nil {
		t.Fatalf("%v: %s", err, said)
	}
	raw, err := os.ReadFile(filepath.Join(out, "all.xlsx"))
	if err != nil {
		t.Fatal(err)
	}
	_, got := take(t, "all.xlsx", raw, &exchange.Contents{})
	if got.Contents == nil {
		t.Fatal(complaints(got))
	}
	if want, again := written(t, c), written(t, got.Contents); !bytes.Equal(want, again) {
		t.Errorf("LibreOffice changes the catalogue: %v", exchange.Compare(want, again))
	}
}

// TestPeoplesFiles: three files as people keep them, written without knowing
// the format: titles, notes between the rows, merged headers, a row of units,
// decimal commas, fractions, units in cells, totals. What has to come out was
// read off them by hand.
func TestPeoplesFiles(t *testing.T) {
	for file, want := range map[string]string{
		"counter-list.csv": `[
  {"id":"ofenholz-brotchen-32","maker":"Ofenholz","model":"Brötchen 32","diagonal_mm":800.1,"depth_mm":61.5,
    "mass_kg":6.4,"patterns":[{"width_mm":200,"height_mm":200,"thread":"M6"}]},
  {"id":"ofenholz-brotchen-43","maker":"Ofenholz","model":"Brötchen 43","diagonal_mm":1079.5,"depth_mm":63,
    "mass_kg":10.85,"patterns":[{"width_mm":400,"height_mm":200,"thread":"M6"}]},
  {"id":"ofenholz-krumel-22","maker":"Ofenholz","model":"Krümel 22","diagonal_mm":548.64,"depth_mm":38.2,
    "patterns":[{"width_mm":100,"height_mm":100,"thread":"M4"}]}]`,
		"exhibits.xlsx": `[
  {"id":"lokwerk-drehscheibe-42","maker":"Lokwerk","model":"Drehscheibe 42","width_mm":949.325,"height_mm":549.275,
    "depth_mm":63.5,"mass_kg":11.566605,"mass_with_stand_kg":14.061363,
   "patterns":[{"width_mm":400,"height_mm":400,"thread":"M6","rows":{"top":{"thread_depth_mm":12},"bottom":{"thread_depth_mm":12}}}]},
  {"id":"lokwerk-drehscheibe-55","maker":"Lokwerk","model":"Drehscheibe 55","width_mm":1250.95,"height_mm":711.2,
    "depth_mm":66,"mass_kg":19.61787,
   "patterns":[{"width_mm":400,"height_mm":400,"thread":"M8","rows":{"top":{"thread_depth_mm":14.5},"bottom":{"thread_depth_mm":14.5}}}]},
  {"id":"lokwerk-signal-24","maker":"Lokwerk","model":"Signal 24","width_mm":546.1,"height_mm":323.85,"depth_mm":47.625,"mass_kg":3.288545,
   "patterns":[{"width_mm":75,"height_mm":75,"thread":"M4","rows":{"top":{"thread_depth_mm":8},
     "bottom":{"thread_depth_mm":8}}},{"width_mm":100,"height_mm":100}]},
  {"id":"lokwerk-bahnsteig-86","maker":"Lokwerk","model":"Bahnsteig 86","width_mm":1945,"height_mm":1092.2,
    "depth_mm":76.2,"mass_kg":49.895161,"mass_with_stand_kg":58.059823,
   "patterns":[{"width_mm":600,"height_mm":400,"thread":"M8","rows":{"top":{"thread_depth_mm":20},"bottom":{"thread_depth_mm":20}}}]}]`,
		"showroom.xlsx": `[
  {"id":"S-1001","model":"Auslage 50","diagonal_mm":1270,"width_mm":1121,"height_mm":645.5,"depth_mm":58,"mass_kg":12.7,
   "patterns":[{"width_mm":200,"height_mm":200,"thread":"M6","rows":{"top":{"recess_mm":4,"recess_diameter_mm":13,
     "thread_depth_mm":14},"bottom":{"recess_mm":4,"recess_diameter_mm":13,"thread_depth_mm":14}}}]},
  {"id":"S-1002","model":"Auslage 65","diagonal_mm":1651,"width_mm":1452,"height_mm":831,"depth_mm":61,"mass_kg":22,
   "patterns":[{"width_mm":400,"height_mm":300,"thread":"M6",
    "rows":{"top":{"recess_mm":0,"thread_depth_mm":15},"bottom":{"recess_mm":0,"thread_depth_mm":15}}}]},
  {"id":"S-1003","model":"Theke 15","diagonal_mm":396.24,"width_mm":372,"height_mm":238,"depth_mm":32,"mass_kg":1.9,
   "patterns":[{"width_mm":75,"height_mm":75,"thread":"M4","rows":{"top":{"recess_mm":0,"thread_depth_mm":7},
     "bottom":{"recess_mm":0,"thread_depth_mm":7}}}]}]`,
	} {
		raw, err := os.ReadFile(filepath.Join("testdata", file))
		if err != nil {
			t.Fatal(err)
		}
		sheets, got := take(t, file, raw, &exchange.Contents{})
		if got.Contents == nil || len(sheets) != 1 {
			t.Errorf("%s: %d sheets\n%s", file, len(sheets), complaints(got))
			continue
		}
		c, err := exchange.Read([]byte(`{"format":"nexufix/1","displays":` + want + `}`))
		if err != nil {
			t.Fatal(err)
		}
		if a, b := written(t, c), written(t, got.Contents); !bytes.Equal(a, b) {
			t.Errorf("%s: %v", file, exchange.Compare(a, b))
			for _, col := range sheets[0].Layout.Columns {
				t.Logf("%+v", col)
			}
		}
	}
}
