package tabular

import (
	"archive/zip"
	"bytes"
	"flag"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/xuri/excelize/v2"

	"nexufix/exchange"
)

var update = flag.Bool("update", false, "write the previews of messy tables anew")

// TestMessyTables: tables as colleagues keep them (practice), each with the only right preview of it. A file says in its first line what it
// is about, in its second how it is written, then the table, and below a line of dashes the preview.
//
// A workbook's cells stand between bars: a number is a number, ~text~ is struck out, =date, =true, =#N/A and ="007" (a number as text) are
// what they say; lines with an exclamation mark are of the sheet.
func TestMessyTables(t *testing.T) {
	files, err := filepath.Glob("testdata/messy/*.txt")
	if err != nil || len(files) < 40 {
		t.Fatalf("%d tables: %v", len(files), err)
	}
	for _, file := range files {
		raw, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		text, want, _ := strings.Cut(string(raw), "\n----\n")
		lines := strings.SplitN(text, "\n", 3)
		table := asBytes(t, lines[1], lines[2])
		got := previewOf(table)
		if *update {
			if err := os.WriteFile(file, []byte(text+"\n----\n"+got), 0o600); err != nil {
				t.Fatal(err)
			}
			continue
		}
		if got != want {
			t.Errorf("%s, %s:\n%s\nwanted is\n%s", filepath.Base(file), lines[0], got, want)
		}
	}
}

// asBytes is a table as bytes.
func asBytes(t *testing.T, how, text string) []byte {
	t.Helper()
	switch how {
	case "text":
		return []byte(text)
	case "lines end with CR":
		return []byte(strings.ReplaceAll(text, "\n", "\r"))
	case "UTF-16 without a mark":
		var out []byte
		for _, r := range text {
			out = append(out, byte(r), byte(r>>8))
		}
		return out
	case "workbook":
		return bookOf(t, text)
	}
	t.Fatalf("%q is no way to write a table", how)
	return nil
}

func bookOf(t *testing.T, text string) []byte {
	t.Helper()
	book := excelize.NewFile()
	sheet, row := "Sheet1", 0
	do := func(err error) {
		if err != nil {
			t.Fatal(err)
		}
	}
	struck, err := book.NewStyle(&excelize.Style{Font: &excelize.Font{Strike: true}})
	do(err)
	day, err := book.NewStyle(&excelize.Style{NumFmt: 14})
	do(err)
	for line := range strings.SplitSeq(text, "\n") {
		if order, is := strings.CutPrefix(line, "!"); is {
			word, rest, _ := strings.Cut(order, " ")
			switch word {
			case "sheet":
				if row == 0 {
					do(book.SetSheetName(sheet, rest))
				} else {
					_, err := book.NewSheet(rest)
					do(err)
				}
				sheet, row = rest, 0
			case "hide":
				do(book.SetSheetVisible(sheet, false))
			case "hiderow":
				n, err := strconv.Atoi(rest)
				do(err)
				do(book.SetRowVisible(sheet, n, false))
			case "merge":
				from, to, _ := strings.Cut(rest, ":")
				do(book.MergeCell(sheet, from, to))
			}
			continue
		}
		row++
		for i, cell := range strings.Split(line, "|") {
			at, err := excelize.CoordinatesToCellName(i+1, row)
			do(err)
			cell = strings.TrimSpace(cell)
			var value any = cell
			if n, err := strconv.ParseFloat(cell, 64); err == nil {
				value = n
			}
			switch {
			case cell == "":
				continue
			case strings.HasPrefix(cell, "~"):
				value = strings.Trim(cell, "~")
				do(book.SetCellStyle(sheet, at, at, struck))
			case cell == "=true":
				value = true
			case cell == "=date":
				value = 45352 // 1 March 2024
				do(book.SetCellStyle(sheet, at, at, day))
			case strings.HasPrefix(cell, "=#"):
				value = faulty
			case strings.HasPrefix(cell, `="`):
				value = strings.Trim(cell[1:], `"`)
			}
			do(book.SetCellValue(sheet, at, value))
		}
	}
	var out bytes.Buffer
	do(book.Write(&out))
	return withFaults(t, out.Bytes())
}

// faulty stands for a cell with an error, which the library does not write.
const faulty = 987654321

func withFaults(t *testing.T, raw []byte) []byte {
	t.Helper()
	in, err := zip.NewReader(bytes.NewReader(raw), int64(len(raw)))
	if err != nil {
		t.Fatal(err)
	}
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for _, f := range in.File {
		r, err := f.Open()
		if err != nil {
			t.Fatal(err)
		}
		part, err := io.ReadAll(r)
		if err != nil {
			t.Fatal(err)
		}
		part = bytes.ReplaceAll(part, []byte("><v>"+strconv.Itoa(faulty)), []byte(` t="e"><v>#N/A`))
		w, err := z.Create(f.Name)
		if err == nil {
			_, err = w.Write(part)
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

// previewOf is what becomes of a table, in lines: what its columns mean, and each row with what is taken, wrong and noted.
func previewOf(raw []byte) string {
	var out strings.Builder
	tables, err := Open("table", raw)
	if err != nil {
		return "refused: " + err.Error() + "\n"
	}
	var sheets []Sheet
	for i := range tables {
		l := Recognise(&tables[i], nil)
		if l.Kind == "" {
			fmt.Fprintf(&out, "not read: %s\n", tables[i].Note())
		} else {
			fmt.Fprintf(&out, "%s:", l.Kind)
			for _, c := range l.Columns {
				fmt.Fprintf(&out, " %s", strings.TrimSpace(c.Field+" "+c.Unit)+",")
			}
			out.WriteString("\n")
		}
		sheets = append(sheets, Sheet{&tables[i], l})
	}
	p := Preview(sheets, &exchange.Contents{})
	for _, r := range p.Rows {
		fmt.Fprintf(&out, "row %d %s %s", r.N+1, r.Outcome, r.ID)
		if d := p.Right.Display(r.ID); d != nil && r.Outcome == New {
			raw, err := exchange.Write(&exchange.Contents{Displays: p.Right.Displays[indexOf(p.Right, r.ID):][:1]})
			if err != nil {
				return err.Error()
			}
			said := strings.Join(strings.Fields(string(raw)), " ")
			_, said, _ = strings.Cut(said, `"displays": [ `)
			fmt.Fprintf(&out, " %s", strings.TrimSuffix(said, " ] }"))
		}
		out.WriteString("\n")
		for _, x := range r.Problems {
			fmt.Fprintf(&out, "  wrong, column %d: %s\n", x.Column+1, x.Text)
		}
		for _, x := range r.Notes {
			fmt.Fprintf(&out, "  note, column %d: %s\n", x.Column+1, x.Text)
		}
	}
	return out.String()
}

func indexOf(c *exchange.Contents, id string) int {
	for i, d := range c.Displays {
		if d.ID == id {
			return i
		}
	}
	return -1
}
