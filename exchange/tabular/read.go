package tabular

import (
	"archive/zip"
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
)

// Limits of a file. What is larger is refused with a message, not read.
const (
	MostRows   = 100_000
	maxColumns = 1_000
	maxCell    = 4_000
	maxCells   = 2_000_000 // of a file, empty ones too
	maxSheets  = 20
	unpacked   = 200 << 20 // of a workbook
)

// Table is a sheet of a workbook, or a CSV file.
type Table struct {
	Name     string
	Rows     [][]string
	Decimals Decimals
	Merged   []Merged  // cells that stand for several
	Flags    []Flagged // what a workbook says of cells and rows beside their texts
	Hidden   bool      // the workbook hides the sheet
	// Sideways is a table whose heads stand in its first column; set by [Recognise].
	Sideways bool
	cells    int
}

// Merged is a merged cell: its first row and column, and its last ones.
type Merged struct{ Row, From, To, Last int }

// Open reads a file as tables: a workbook by its sheets, anything else as CSV.
// The error says what is wrong and what can be done.
func Open(name string, raw []byte) ([]Table, error) {
	switch {
	case len(raw) == 0:
		return nil, errors.New("the file is empty")
	case bytes.HasPrefix(raw, []byte("PK\x03\x04")) && bytes.Contains(raw[:min(len(raw), 200)], []byte("application/vnd.oasis.opendocument")):
		return nil, errors.New("the file is an OpenDocument table; save it as .xlsx or .csv")
	case bytes.HasPrefix(raw, []byte("PK\x03\x04")):
		return openWorkbook(raw)
	case bytes.HasPrefix(raw, []byte{0xd0, 0xcf, 0x11, 0xe0}):
		return nil, errors.New("the file is a workbook of an old kind, or locked with a password; save it as .xlsx without one")
	case bytes.HasPrefix(raw, []byte("%PDF")):
		return nil, errors.New("the file is a PDF; a table is needed: .xlsx or .csv")
	}
	t, err := openCSV(raw)
	if err != nil {
		return nil, err
	}
	t.Name = name
	return []Table{t}, nil
}

func openWorkbook(raw []byte) ([]Table, error) {
	if err := weigh(raw); err != nil {
		return nil, err
	}
	book, err := excelize.OpenReader(bytes.NewReader(raw), excelize.Options{RawCellValue: true, UnzipSizeLimit: unpacked,
		UnzipXMLSizeLimit: unpacked}) // nothing of it is written to a file
	if err != nil {
		if strings.Contains(err.Error(), "unzip size exceeds") {
			return nil, fmt.Errorf("the workbook is more than %d MB when it is unpacked; take out what is not needed", unpacked>>20)
		}
		return nil, errDamaged
	}
	defer book.Close()
	names := book.GetSheetList()
	if len(names) > maxSheets {
		return nil, fmt.Errorf("the workbook has %d sheets; at most %d are read", len(names), maxSheets)
	}
	packed, err := zip.NewReader(bytes.NewReader(raw), int64(len(raw)))
	if err != nil {
		return nil, errDamaged
	}
	parts, styles := sheetParts(packed), &styled{book, map[int][]Flag{}}
	var out []Table
	for _, name := range names {
		t, err := openSheet(book, name)
		if err != nil {
			return nil, fmt.Errorf("sheet %q: %w", name, err)
		}
		if visible, err := book.GetSheetVisible(name); err == nil {
			t.Hidden = !visible
		}
		if f, err := packed.Open(parts[name]); err == nil {
			sheet, err := io.ReadAll(io.LimitReader(f, unpacked))
			if err = errors.Join(err, f.Close()); err != nil {
				return nil, errDamaged
			}
			t.flag(sheet, styles)
		}
		if len(t.Rows) > 0 {
			out = append(out, t)
		}
	}
	if len(out) == 0 {
		return nil, errors.New("the workbook has no filled cells")
	}
	return out, nil
}

func openSheet(book *excelize.File, name string) (Table, error) {
	t := Table{Name: name}
	rows, err := book.Rows(name)
	if err != nil {
		return t, errors.New("it cannot be read: it is damaged or cut short; open it in a spreadsheet program and save it again")
	}
	defer rows.Close()
	last := 0
	for rows.Next() {
		cells, err := rows.Columns()
		if err != nil {
			return t, errors.New("it is damaged or cut short; open it in a spreadsheet program and save it again")
		}
		if err := t.add(cells); err != nil {
			return t, err
		}
		if !blank(cells) {
			last = len(t.Rows)
		}
	}
	if err := rows.Error(); err != nil {
		return t, errors.New("it is damaged or cut short; open it in a spreadsheet program and save it again")
	}
	t.Rows = t.Rows[:last]
	if len(t.Rows) > 2_000 {
		return t, nil // nothing is merged in a long table that a program wrote
	}
	merged, err := book.GetMergeCells(name)
	if err != nil {
		return t, errors.New("its merged cells cannot be read; save it again without them")
	}
	for _, m := range merged {
		from, row, err1 := excelize.CellNameToCoordinates(m.GetStartAxis())
		to, last, err2 := excelize.CellNameToCoordinates(m.GetEndAxis())
		if err1 == nil && err2 == nil && to <= maxColumns {
			t.Merged = append(t.Merged, Merged{row - 1, from - 1, to - 1, last - 1})
		}
	}
	return t, nil
}

// add takes a row, within the limits.
func (t *Table) add(cells []string) error {
	switch {
	case len(t.Rows) >= MostRows:
		return fmt.Errorf("more than %d rows; split the file", MostRows)
	case t.cells+len(cells) > maxCells:
		return fmt.Errorf("more than %d cells, empty ones too; split the file", maxCells)
	case len(cells) > maxColumns:
		return fmt.Errorf("row %d has %d columns; at most %d are read", len(t.Rows)+1, len(cells), maxColumns)
	}
	for i, c := range cells {
		if len(c) > maxCell {
			return fmt.Errorf("a cell of row %d has more than %d letters", len(t.Rows)+1, maxCell)
		}
		cells[i] = strings.TrimSpace(strings.ReplaceAll(c, "\u00a0", " "))
	}
	t.Rows = append(t.Rows, cells)
	t.cells += len(cells)
	return nil
}

func blank(cells []string) bool {
	for _, c := range cells {
		if strings.TrimSpace(c) != "" {
			return false
		}
	}
	return true
}

// openCSV reads text with commas, semicolons, bars or tabs between its cells, in
// UTF-8, UTF-16, or else Windows-1252, which holds Latin-1.
func openCSV(raw []byte) (Table, error) {
	var t Table
	if order, is := unmarked(raw); is {
		raw = append(order, raw...)
	}
	switch {
	case bytes.HasPrefix(raw, []byte{0xff, 0xfe}), bytes.HasPrefix(raw, []byte{0xfe, 0xff}):
		text, err := unicode.UTF16(unicode.LittleEndian, unicode.ExpectBOM).NewDecoder().Bytes(raw)
		if err != nil {
			return t, errors.New("the text is damaged: it begins as UTF-16 and does not go on so")
		}
		raw = text
	case !utf8.Valid(raw):
		text, err := charmap.Windows1252.NewDecoder().Bytes(raw)
		if err != nil {
			return t, errors.New("the text is in an encoding that is not known; save it as UTF-8")
		}
		raw = text
	}
	raw = bytes.TrimPrefix(raw, []byte("\ufeff"))
	if !bytes.Contains(raw, []byte("\n")) { // lines as a Mac of the last century ended them
		raw = bytes.ReplaceAll(raw, []byte("\r"), []byte("\n"))
	}
	if bytes.IndexByte(raw, 0) >= 0 {
		return t, errors.New("the file is no text and no workbook; save the table as .xlsx or .csv")
	}
	r := csv.NewReader(bytes.NewReader(raw))
	r.Comma = separator(raw)
	r.FieldsPerRecord = -1
	r.LazyQuotes = true
	if bytes.Count(raw, []byte(string(r.Comma))) > maxCells { // before they are cut up
		return t, fmt.Errorf("more than %d cells, empty ones too; split the file", maxCells)
	}
	last := 0
	for {
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return t, fmt.Errorf("the text is no table: %w", err)
		}
		// Blank lines are skipped by the reader: keep the file's line numbers.
		line, _ := r.FieldPos(0)
		for len(t.Rows) < line-1 && len(t.Rows) < MostRows {
			t.Rows = append(t.Rows, nil)
		}
		if err := t.add(cells); err != nil {
			return t, err
		}
		if !blank(cells) {
			last = len(t.Rows)
		}
	}
	t.Rows = t.Rows[:last]
	if last == 0 {
		return t, errors.New("the file has no filled cells")
	}
	if r.Comma != ',' {
		t.Decimals = decimalsOf(t.Rows)
	}
	return t, nil
}

// unmarked finds UTF-16 that has no mark, by the half of its bytes that is nought in Latin letters, and gives the mark it would have.
func unmarked(raw []byte) (mark []byte, is bool) {
	var nought [2]int
	n := min(len(raw)&^1, 1000)
	for i := range n {
		if raw[i] == 0 {
			nought[i%2]++
		}
	}
	switch {
	case n < 8 || len(raw)%2 != 0:
	case nought[0] > n/4 && nought[1] == 0:
		return []byte{0xfe, 0xff}, true
	case nought[1] > n/4 && nought[0] == 0:
		return []byte{0xff, 0xfe}, true
	}
	return nil, false
}

// separator is the one of tab, semicolon, bar and comma that most lines have
// equally often outside of quotes; of equal ones the first, for decimals have commas too.
func separator(raw []byte) rune {
	counts := map[rune]map[int]int{'\t': {}, ';': {}, '|': {}, ',': {}} // how many lines have it how often
	line, lines, quoted := map[rune]int{}, 0, false
	for _, c := range string(raw[:min(len(raw), 20_000)]) + "\n" {
		switch {
		case c == '"':
			quoted = !quoted
		case quoted:
		case c == '\n':
			for sep, n := range line {
				counts[sep][n]++
			}
			line = map[rune]int{}
			lines++
		case counts[c] != nil:
			line[c]++
		}
		if lines == 40 {
			break
		}
	}
	best, most := ',', 0
	for _, c := range "\t;|," {
		for _, n := range counts[c] {
			if n > most {
				best, most = c, n
			}
		}
	}
	return best
}
