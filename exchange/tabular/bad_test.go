package tabular

import (
	"archive/zip"
	"bufio"
	"bytes"
	"errors"
	"fmt"
	"io"
	"maps"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/xuri/excelize/v2"

	"nexufix/core/catalog"
	"nexufix/exchange"
)

// zipped is a zip of one part.
func zipped(t testing.TB, name string, size int) []byte {
	t.Helper()
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	w, err := z.Create(name)
	if err != nil {
		t.Fatal(err)
	}
	chunk := bytes.Repeat([]byte(" "), 1<<20)
	for n := 0; n < size; n += len(chunk) {
		if _, err := w.Write(chunk[:min(len(chunk), size-n)]); err != nil {
			t.Fatal(err)
		}
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// TestFilesThatAreNone: each gets a message that says what to do, and none a
// panic or a half.
func TestFilesThatAreNone(t *testing.T) {
	good, err := os.ReadFile("testdata/exhibits.xlsx")
	if err != nil {
		t.Fatal(err)
	}
	long := "id,model\n" + strings.Repeat("x,y\n", MostRows+1)
	for name, c := range map[string]struct {
		raw  []byte
		says string
	}{
		"nothing":            {nil, "empty"},
		"blanks":             {[]byte(" \n\n"), "no filled cells"},
		"a picture":          {[]byte("\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR"), "no text and no workbook"},
		"a PDF":              {[]byte("%PDF-1.7"), "a PDF"},
		"an old workbook":    {[]byte("\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1"), "save it as .xlsx"},
		"cut in half":        {good[:len(good)/2], "damaged or cut short"},
		"a letter less":      {good[:len(good)-30], "damaged or cut short"},
		"a zip of nothing":   {zipped(t, "x.txt", 10), ""},
		"a bomb":             {zipped(t, "xl/workbook.xml", unpacked+1<<20), "MB when it is unpacked"},
		"ten million rows":   {[]byte(long), fmt.Sprint("more than ", MostRows, " rows")},
		"a very wide row":    {[]byte("id" + strings.Repeat(",x", maxColumns)), "columns"},
		"a very long cell":   {[]byte("id,model\nx," + strings.Repeat("y", maxCell+1)), "letters"},
		"UTF-16 and no more": {[]byte("\xff\xfeI"), ""},
	} {
		tables, err := Open("file", c.raw)
		if c.says == "" && err == nil {
			if l := Recognise(&tables[0], nil); l.Kind != "" {
				t.Errorf("%s: taken for %s", name, l.Kind)
			}
			continue
		}
		if err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// TestCells: what people write into cells, and what is refused in which.
func TestCells(t *testing.T) {
	have, err := exchange.Read([]byte(`{"format":"nexufix/1","displays":[{"id":"old",
		"maker":"Tarn","model":"View 9","mass_kg":3,"depth_mm":40,"origins":{"mass_kg":"bench"}}]}`))
	if err != nil {
		t.Fatal(err)
	}
	const head = "Maker;Model;Weight (lb);Width;VESA;Thread depth\n"
	for line, want := range map[string]string{
		"Tarn;A 1;2;500;100x100;9":                "new",
		"Tarn;A 1;two;500;100x100;9":              `wrong 2 a number is expected at "two lb"`,
		"Tarn;A 1;2;500 kg;100x100;9":             `wrong 3`,
		"Tarn;A 1;=1+1;500;100x100;9":             `wrong 2`,
		"Tarn;A 1;2;99999;100x100;9":              "wrong 3 99999 mm; allowed: a number of mm, more than 0, at most 10000",
		"Tarn;A 1;2;1.234,5;100x100;9":            "new", // semicolons: decimal commas
		"Tarn;A 1;2;500;100 by 100;9":             `wrong 4 "100 by 100": expected is a hole pattern as 400x300`,
		"Tarn;A 1;-2;500;100x100;9":               "wrong 2",
		"Tarn;A 1;1e400;500;100x100;9":            "wrong 2",
		"Tarn;A 1;NaN;500;100x100;9":              "wrong 2",
		"Tarn;A 1;2;500;;9":                       "wrong", // a depth without a pattern
		"Tarn;View 9;;;;":                         "same",
		"Tarn;view-9;;;;":                         "changed model View 9 view-9",
		"Tarn;View 9;8;;;":                        "changed mass_kg 3 3.628739",
		"Nobody knows who put this here;;;;;":     "ignored",
		";;;;;":                                   "",
		"Tarn;A 1;2;500;100x100;9\nTarn;a-1;;7;;": "wrong -1 rows 2 and 3 are both tarn-a-1",
	} {
		sheets, got := take(t, "x.csv", []byte(head+line+"\n"), have)
		if len(sheets) != 1 {
			t.Errorf("%q: not recognised", line)
			continue
		}
		said := ""
		if len(got.Rows) > 0 {
			r := got.Rows[0]
			said = string(r.Outcome)
			for _, p := range r.Problems {
				said += fmt.Sprintf(" %d %s", p.Column, p.Text)
			}
			for _, c := range r.Changes {
				said += " " + c.Path + " " + c.Before + " " + c.After
			}
		}
		if !strings.HasPrefix(said, want) || want == "" && said != "" {
			t.Errorf("%q: %s, want %s", line, said, want)
		}
		if (got.Contents == nil) != strings.HasPrefix(want, "wrong") {
			t.Errorf("%q: to be taken: %+v", line, got.Contents)
		}
	}
	// With commas between cells, a comma in a number is not guessed at.
	if _, got := take(t, "x.csv", []byte("Maker,Model,Width\nTarn,A 1,\"1,234\"\n"), have); !strings.Contains(complaints(got),
		"1.234 or 1234: the table") {
		t.Error(complaints(got))
	}
	// What is not in the file stays, with its origin.
	_, got := take(t, "x.csv", []byte("id,width_mm\nold,48 3/8 in\n"), have)
	// A figure that changes loses its origin, and says so.
	if _, over := take(t, "x.csv", []byte("id,mass_kg\nold,3.1\n"), have); over.Contents.Displays[0].OriginOf("mass_kg") != catalog.Sheet ||
		len(over.Rows[0].Notes) != 1 || over.Rows[0].Notes[0] != (Problem{1, "goes over a figure of origin bench"}) {
		t.Errorf("%+v", over.Rows)
	}
	// So it does whatever figure it is: of a zone, or where the weight is.
	placed, err := exchange.Read([]byte(`{"format":"nexufix/1","displays":[{"id":"old",
		"cg_right_mm":5,"zones":[{"kind":"port","x_mm":100,"y_mm":0,"width_mm":40,"height_mm":40,"plug_mm":30}],
		"origins":{"cg_right_mm":"bench","zones[0].plug_mm":"bench"}}]}`))
	if err != nil {
		t.Fatal(err)
	}
	if _, over := take(t, "x.csv", []byte("id,cg_right_mm,zone1.plug_mm\nold,6,31\n"), placed); len(over.Contents.Displays[0].Origins) != 0 {
		t.Errorf("%+v", over.Contents.Displays[0].Origins)
	}
	// So it does when all of a display was measured, and the rest stays so.
	measured, err := exchange.Read([]byte(`{"format":"nexufix/1","displays":[{"id":"old",
		"origin":"bench","mass_kg":3,"width_mm":500,"patterns":[{"width_mm":100,"height_mm":100,
		"rows":{"top":{"thread_depth_mm":9},"bottom":{"thread_depth_mm":9}}}]}]}`))
	if err != nil {
		t.Fatal(err)
	}
	_, over := take(t, "x.csv", []byte("id,mass_kg,depth_mm,pattern1.top.thread_depth_mm\nold,3.1,40,10\n"), measured)
	if d := over.Contents.Displays[0]; d.OriginOf("mass_kg").String() != "sheet" || d.OriginOf("depth_mm").String() != "sheet" ||
		d.OriginOf("width_mm").String() != "bench" ||
		d.Patterns[0].Holes[0].ThreadDepth.Origin.String() != "sheet" || d.Patterns[0].Holes[2].ThreadDepth.Origin.String() != "bench" {
		t.Errorf("%+v", d)
	}
	// A figure that is near is not the same: 14 mm for 14.4, 2 in for 55 mm.
	near, err := exchange.Read([]byte(`{"format":"nexufix/1","displays":[{"id":"old","depth_mm":55,"width_mm":500.4}]}`))
	if err != nil {
		t.Fatal(err)
	}
	if _, over := take(t, "x.csv", []byte("Item no,Width (mm),Depth (in)\nold,500,2\n"), near); len(over.Rows[0].Changes) != 2 {
		t.Errorf("%+v", over.Rows[0])
	}
	if d := got.Contents.Displays[0]; d.Width.Value.MM() != 1228.725 || !d.Mass.Known || d.Origins["mass_kg"].String() != "bench" {
		t.Errorf("%+v", d)
	}
}

// TestNothingIsLost: a file that knows one pattern of a display's two, or its
// mass in rounded pounds, changes neither.
func TestNothingIsLost(t *testing.T) {
	c := full(t)
	_, got := take(t, "x.csv", []byte("Brand;Type;Weight (lb);VESA;Thread\nBrindle;Menu 43;23,81;400x200;M6\n"), c)
	if got.Count(Same) != 1 {
		t.Errorf("%s %+v", complaints(got), got.Rows[0].Changes)
	}
	_, got = take(t, "x.csv", []byte("Brand;Type;VESA;Thread\nBrindle;Menu 43;400x200, 600x400;M8\n"), c)
	if said := fmt.Sprint(got.Rows[0].Changes); got.Contents == nil ||
		said != "[{patterns[1].thread M6 M8} {patterns[2].height_mm  400} {patterns[2].width_mm  600}]" {
		t.Error(complaints(got), said)
	}
}

// TestHeads: the first row of figures is no head, whatever units it has.
func TestHeads(t *testing.T) {
	_, got := take(t, "x.csv", []byte("Maker,Model,W,H\nTarn,A,48 in,27 in\nTarn,B,20 in,12 in\n"), &exchange.Contents{})
	if got.Count(New) != 2 {
		t.Errorf("%d rows, %s", got.Count(New), complaints(got))
	}
}

// TestSeparatorIsNotInQuotes: what stands in a quoted cell does not tell what is between cells, nor
// does an inch mark that is alone in its line.
func TestSeparatorIsNotInQuotes(t *testing.T) {
	for text, want := range map[string]rune{
		"id,name,text\na,b,\"one; two; three\"\nc,d,\"four; five; six\"\n": ',',
		"id;name;text\na;b;\"one, two, three\"\nc;d;\"four, five, six\"\n": ';',
		"id\tname\na\tb\n":                        '\t',
		"id;size;mass\na;43\";6,5\nb;49\";7,25\n": ';',
	} {
		if got := separator([]byte(text)); got != want {
			t.Errorf("%q is separated by %q, want %q", text, got, want)
		}
	}
}

// TestKitList: parts go into the boxes of brackets that are there.
func TestKitList(t *testing.T) {
	c := full(t)
	c.Brackets[0].Assembly = nil // it names parts that this list has not
	_, got := take(t, "kit.csv", []byte("Bracket,Part,Thread,Length,Qty,Bag\nSill 40,bolt,M6,16,8,B\nSill 40,bolt,6,25 mm,4,B\n"), c)
	if got.Contents == nil || len(got.Contents.Brackets) != 1 || len(got.Contents.Brackets[0].Kit) != 2 ||
		got.Contents.Brackets[0].Kit[0].Count != 8 || got.Count(Changed) != 2 {
		t.Fatal(complaints(got), got.Rows)
	}
	_, got = take(t, "kit.csv", []byte("Bracket,Part,Thread,Length,Qty,Bag\nSill 40,bolt,M7,16,8,B\nGhost 1,bolt,M6,25,4,B\n"), c)
	if said := complaints(got); got.Contents != nil || !strings.Contains(said, "row 2 column 2") ||
		!strings.Contains(said, `no bracket "Ghost 1"`) {
		t.Error(said)
	}
}

// TestFormulasAreNotExported: a text that begins like a formula is a text in
// both kinds of file.
func TestFormulasAreNotExported(t *testing.T) {
	c := full(t)
	var text, book bytes.Buffer
	if err := WriteCSV(&text, Displays, c); err != nil || !strings.Contains(text.String(), "odd,'=CMD(),'-5") {
		t.Error(err)
	}
	if err := WriteXLSX(&book, c, time.Unix(0, 0)); err != nil {
		t.Fatal(err)
	}
	f, err := excelize.OpenReader(&book)
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	row := len(c.Displays)
	at := fmt.Sprintf("B%d", row)
	kind, _ := f.GetCellType(Displays, at)
	if formula, _ := f.GetCellFormula(Displays, at); formula != "" || kind != excelize.CellTypeInlineString {
		t.Errorf("%s: %q, %v", at, formula, kind)
	}
}

func FuzzOpen(f *testing.F) {
	for _, name := range []string{"exhibits.xlsx", "counter-list.csv"} {
		raw, err := os.ReadFile("testdata/" + name)
		if err != nil {
			f.Fatal(err)
		}
		f.Add(raw)
	}
	f.Add([]byte("id;pattern1.hole1.x_mm;zone2.kind\na;1;port"))
	f.Fuzz(func(t *testing.T, raw []byte) {
		tables, err := Open("x", raw)
		if err != nil {
			return
		}
		var sheets []Sheet
		for i := range tables {
			sheets = append(sheets, Sheet{&tables[i], Recognise(&tables[i], nil)})
		}
		if got := Preview(sheets, &exchange.Contents{}); got.Contents != nil {
			if _, err := exchange.Write(got.Contents); err != nil {
				t.Fatal(err)
			}
		}
	})
}

// workbook makes a workbook of one sheet, its parts as they are given.
func workbook(t *testing.T, parts map[string]func(io.Writer)) []byte {
	t.Helper()
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	text := func(s string) func(io.Writer) { return func(w io.Writer) { io.WriteString(w, s) } }
	all := map[string]func(io.Writer){
		"[Content_Types].xml": text(`<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">
<Default Extension="rels" 
	ContentType="application/vnd.openxmlformats-package.relationships+xml"/>
<Default Extension="xml" ContentType="application/xml"/>
<Override PartName="/xl/workbook.xml" 
	ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/>
<Override PartName="/xl/worksheets/sheet1.xml" 
	ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>`),
		"_rels/.rels": text(`<?xml version="1.0"?>
			<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">
			<Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/>
			</Relationships>`),
		"xl/workbook.xml": text(`<?xml version="1.0"?>
			<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"
			xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships">
			<sheets><sheet name="S" sheetId="1" r:id="r1"/></sheets></workbook>`),
		"xl/_rels/workbook.xml.rels": text(`<?xml version="1.0"?>
			<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">
			<Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/>
			<Relationship Id="r2" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/sharedStrings" Target="sharedStrings.xml"/>
			<Relationship Id="r3" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/styles" Target="styles.xml"/>
			</Relationships>`),
		"xl/worksheets/sheet1.xml": text(`<?xml version="1.0"?>
			<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData><row r="1"><c r="A1" t="inlineStr"><is>
			<t>Model</t></is></c></row></sheetData></worksheet>`),
	}
	maps.Copy(all, parts)
	for _, name := range slices.Sorted(maps.Keys(all)) {
		w, err := z.Create(name)
		if err != nil {
			t.Fatal(err)
		}
		buffered := bufio.NewWriterSize(w, 1<<20)
		all[name](buffered)
		if err := buffered.Flush(); err != nil {
			t.Fatal(err)
		}
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

// TestWeighedBeforeItIsRead: workbooks that are small as files and large inside
// are refused while they are unpacked, and tables that are all commas early.
func TestWeighedBeforeItIsRead(t *testing.T) {
	times := func(before string, n int, each, after string) func(io.Writer) {
		return func(w io.Writer) {
			io.WriteString(w, before)
			for range n {
				io.WriteString(w, each)
			}
			io.WriteString(w, after)
		}
	}
	const sheet = "xl/worksheets/sheet1.xml"
	for name, c := range map[string]struct {
		raw  []byte
		says string
	}{
		"cells under another name": {workbook(t, map[string]func(io.Writer){sheet: times(`<x:worksheet><x:sheetData>`, maxElements,
			`<x:c/>`, ``)}),
			"elements"},
		"in a part that none is": {workbook(t, map[string]func(io.Writer){"a.bin": times(``, maxElements+1, `<`, ``)}), "elements"},
		"noughts": {workbook(t, map[string]func(io.Writer){"xl/media/image1.png": times("", 210, strings.Repeat("\x00", 1<<20), "")}),
			"unpacked"},
		"commas":   {bytes.Repeat([]byte(strings.Repeat(",", 999)+"\n"), 20_000), "cells"},
		"one line": {bytes.Repeat([]byte(","), 20<<20), "cells"},
	} {
		if _, err := Open("x", c.raw); err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s (%d kB): %v", name, len(c.raw)>>10, err)
		}
	}
	for n, want := range map[int]bool{maxElements: true, maxElements + 1: false} {
		var raw bytes.Buffer
		z := zip.NewWriter(&raw)
		w, err := z.Create("any.part")
		if err == nil {
			_, err = w.Write(bytes.Repeat([]byte("<"), n))
		}
		if err = errors.Join(err, z.Close()); err != nil {
			t.Fatal(err)
		}
		if err := weigh(raw.Bytes()); (err == nil) != want {
			t.Errorf("%d elements: %v", n, err)
		}
	}
	if tables, err := Open("x", workbook(t, nil)); err != nil || len(tables) != 1 || tables[0].Rows[0][0] != "Model" {
		t.Errorf("%v %v", tables, err)
	}
}
