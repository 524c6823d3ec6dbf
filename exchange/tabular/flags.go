package tabular

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"fmt"
	"io"
	"path"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/xuri/excelize/v2"
)

// Flag is what a workbook says of a cell, or of a whole row, beside its text.
type Flag string

// The flags. Hidden is of rows.
const (
	Struck Flag = "struck out"
	Hidden Flag = "hidden"
	Date   Flag = "a date"
	Fault  Flag = "an error"
)

// Flagged is a cell with a mark, or a row with a column of -1.
type Flagged struct {
	Row, Column int
	Is          Flag
}

// sheetParts are the workbook's sheets: the part of the archive that each is in, by name.
func sheetParts(book *zip.Reader) map[string]string {
	var names struct {
		Sheets []struct {
			Name string     `xml:"name,attr"`
			Rest []xml.Attr `xml:",any,attr"`
		} `xml:"sheets>sheet"`
	}
	var targets struct {
		All []struct {
			ID     string `xml:"Id,attr"`
			Target string `xml:"Target,attr"`
		} `xml:"Relationship"`
	}
	out := map[string]string{}
	if partOf(book, "xl/workbook.xml", &names) != nil || partOf(book, "xl/_rels/workbook.xml.rels", &targets) != nil {
		return out
	}
	for _, s := range names.Sheets {
		for _, a := range s.Rest {
			for _, t := range targets.All {
				if a.Name.Local == "id" && a.Value == t.ID {
					out[s.Name] = strings.TrimPrefix(path.Join("xl", t.Target), "xl/xl/")
					if strings.HasPrefix(t.Target, "/") {
						out[s.Name] = strings.TrimPrefix(t.Target, "/")
					}
				}
			}
		}
	}
	return out
}

func partOf(book *zip.Reader, name string, into any) error {
	f, err := book.Open(name)
	if err != nil {
		return err
	}
	defer f.Close()
	return xml.NewDecoder(io.LimitReader(f, unpacked)).Decode(into)
}

// styled tells what a style of a workbook marks.
type styled struct {
	book *excelize.File
	seen map[int][]Flag
}

func (s *styled) flags(id int) []Flag {
	if got, ok := s.seen[id]; ok {
		return got
	}
	var out []Flag
	if style, err := s.book.GetStyle(id); err == nil && style != nil {
		if style.Font != nil && style.Font.Strike {
			out = append(out, Struck)
		}
		custom := ""
		if style.CustomNumFmt != nil {
			custom = *style.CustomNumFmt
		}
		if dated(style.NumFmt, custom) {
			out = append(out, Date)
		}
	}
	s.seen[id] = out
	return out
}

// dated reports whether a number format shows a number as a date or a time (ECMA-376, 18.8.30).
func dated(builtIn int, custom string) bool {
	if custom == "" {
		return builtIn >= 14 && builtIn <= 22 || builtIn >= 27 && builtIn <= 36 || builtIn >= 45 && builtIn <= 47 ||
			builtIn >= 50 && builtIn <= 58
	}
	var plain strings.Builder
	quoted, skip := false, false
	for _, r := range strings.ToLower(custom) {
		switch {
		case skip:
			skip = false
		case r == '\\' || r == '_' || r == '*':
			skip = true
		case r == '"' || r == '[' || r == ']':
			quoted = !quoted
		case !quoted:
			plain.WriteRune(r)
		}
	}
	return strings.ContainsAny(strings.ReplaceAll(plain.String(), "general", ""), "ymdhs")
}

// mark notes what a sheet's XML says beside the texts of its cells: of those that have one.
func (t *Table) flag(sheet []byte, styles *styled) {
	row, column := -1, -1
	for {
		i := bytes.IndexByte(sheet, '<')
		if i < 0 {
			return
		}
		sheet = sheet[i+1:]
		end := bytes.IndexByte(sheet, '>')
		if end < 0 {
			return
		}
		tag := sheet[:end]
		name, rest, _ := bytes.Cut(tag, []byte(" "))
		if _, own, ok := bytes.Cut(name, []byte(":")); ok {
			name = own
		}
		switch string(bytes.TrimSuffix(name, []byte("/"))) {
		case "row":
			row, column = row+1, -1
			if n, err := strconv.Atoi(attribute(rest, "r")); err == nil {
				row = n - 1
			}
			if h := attribute(rest, "hidden"); (h == "1" || h == "true") && row < len(t.Rows) && !blank(t.Rows[row]) {
				t.Flags = append(t.Flags, Flagged{row, -1, Hidden})
			}
		case "c":
			column++
			if c, r, err := excelize.CellNameToCoordinates(attribute(rest, "r")); err == nil {
				row, column = r-1, c-1
			}
			t.flagCell(row, column, attribute(rest, "t"), attribute(rest, "s"), styles)
		}
	}
}

func (t *Table) flagCell(row, column int, kind, style string, styles *styled) {
	if row < 0 || row >= len(t.Rows) || column >= len(t.Rows[row]) || t.Rows[row][column] == "" {
		return
	}
	text := &t.Rows[row][column]
	switch kind {
	case "b":
		*text = map[string]string{"1": "TRUE", "0": "FALSE"}[*text]
	case "e":
		t.Flags = append(t.Flags, Flagged{row, column, Fault})
	case "d":
		t.Flags = append(t.Flags, Flagged{row, column, Date})
	}
	id, err := strconv.Atoi(style)
	if err != nil {
		return
	}
	for _, m := range styles.flags(id) {
		if m == Date && kind != "" && kind != "n" {
			continue // a text in a column of dates
		}
		if m == Date {
			*text = shownDate(*text)
		}
		t.Flags = append(t.Flags, Flagged{row, column, m})
	}
}

// shownDate is the day of a number that a workbook shows as a date, which is counted from 1900.
func shownDate(text string) string {
	n, err := strconv.ParseFloat(text, 64)
	if err != nil || n < 0 || n > 2_958_465 { // the year 9999
		return text
	}
	at, err := excelize.ExcelDateToTime(n, false)
	if err != nil {
		return text
	}
	return at.Format(time.DateOnly)
}

// attribute is the value of an attribute of a tag; "" for none.
func attribute(tag []byte, name string) string {
	for _, quote := range []string{`"`, `'`} {
		for rest := tag; ; {
			i := bytes.Index(rest, []byte(name+"="+quote))
			if i < 0 {
				break
			}
			before := i == 0 || rest[i-1] == ' ' || rest[i-1] == '\n' || rest[i-1] == '\t' || rest[i-1] == '\r'
			rest = rest[i+len(name)+2:]
			if value, _, ok := bytes.Cut(rest, []byte(quote)); ok && before {
				return string(value)
			}
		}
	}
	return ""
}

// marked are the marks of a table by row and column.
func (t *Table) flagged() map[[2]int]Flag {
	out := make(map[[2]int]Flag, len(t.Flags))
	for _, m := range t.Flags {
		if _, is := out[[2]int{m.Row, m.Column}]; !is { // what is struck out is no date
			out[[2]int{m.Row, m.Column}] = m.Is
		}
	}
	return out
}

// below are a table's rows from one on, with what stands in a cell that is merged downwards in each row that it is for.
func (t *Table) below(first int) [][]string {
	out := slices.Clone(t.Rows[min(first, len(t.Rows)):])
	for _, m := range t.Merged {
		if m.Row < first || m.Row >= len(t.Rows) || m.From != m.To || m.From >= len(t.Rows[m.Row]) {
			continue
		}
		for row := m.Row + 1; row <= m.Last && row < len(t.Rows); row++ {
			if blank(t.Rows[row]) {
				continue
			}
			cells := slices.Clone(t.Rows[row])
			for len(cells) <= m.From {
				cells = append(cells, "")
			}
			cells[m.From] = t.Rows[m.Row][m.From]
			out[row-first] = cells
		}
	}
	return out
}

// Note is what is to be said of a sheet as a whole: that it is not read, and why. "" for nothing.
func (t *Table) Note() string {
	switch {
	case t.Hidden:
		return fmt.Sprintf("The sheet %q is hidden in the workbook, and is not read.", t.Name)
	case t.Sideways:
		return "The table lies on its side: exchange its rows and columns, so that a display has a row. " +
			"In a spreadsheet: copy, then paste transposed."
	}
	return ""
}

// turned is the beginning of a table with its rows and columns exchanged.
func (t *Table) turned() *Table {
	out := &Table{Name: t.Name}
	wide := 0
	for _, r := range t.Rows[:min(len(t.Rows), 60)] {
		wide = max(wide, len(r))
	}
	for c := range min(wide, 60) {
		row := make([]string, min(len(t.Rows), 60))
		for i := range row {
			if c < len(t.Rows[i]) {
				row[i] = t.Rows[i][c]
			}
		}
		out.Rows = append(out.Rows, row)
	}
	return out
}
