package tabular

import (
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"slices"
	"time"

	"github.com/xuri/excelize/v2"

	"nexufix/exchange"
)

// grid is a table to write: headers with their places, and rows of cells that are numbers or texts, given one by one.
type grid struct {
	headers []string
	at      map[string]int
	rows    func(do func(cells []cell) error) error
}

// gridOf lays a kind out, with a column for every figure that anything has. It looks at everything twice, so that no more than a row of a
// large catalogue is in memory.
func gridOf(kind string, c *exchange.Contents) (grid, error) {
	order := map[string][]int{}
	if err := eachRow(kind, c, func(row []cell) error {
		for i := range row {
			order[row[i].column] = row[i].order
		}
		return nil
	}); err != nil {
		return grid{}, err
	}
	g := grid{headers: slices.Collect(maps.Keys(order)), at: map[string]int{}}
	slices.SortFunc(g.headers, func(a, b string) int { return slices.Compare(order[a], order[b]) })
	for i, h := range g.headers {
		g.at[h] = i
	}
	g.rows = func(do func(cells []cell) error) error {
		cells := make([]cell, len(g.headers))
		return eachRow(kind, c, func(row []cell) error {
			clear(cells)
			for i := range row {
				cells[g.at[row[i].column]] = row[i]
			}
			return do(cells)
		})
	}
	return g, nil
}

// eachRow gives the cells of each thing of a kind.
func eachRow(kind string, c *exchange.Contents, do func([]cell) error) error {
	give := func(doc any, before ...cell) error {
		raw, err := json.Marshal(doc)
		if err != nil {
			return err
		}
		return do(append(before, flatten(types[kind], any(parsed(raw)), "", nil)...))
	}
	if kind == Displays {
		for _, d := range c.Displays {
			if err := give(d); err != nil {
				return err
			}
		}
		return nil
	}
	for _, b := range c.Brackets {
		if kind == Brackets {
			if err := give(b); err != nil {
				return err
			}
			continue
		}
		for _, i := range b.Kit {
			if err := give(i, cell{"bracket", []int{-1}, b.ID, false}); err != nil {
				return err
			}
		}
	}
	return nil
}

// safe is the cell's text for a CSV file.
func (c cell) safe() string {
	if c.number {
		return c.text
	}
	return Safe(c.text)
}

// quoted is its text where no text is a formula: only what would be read back as
// another is written as [Safe] does.
func (c cell) quoted() string {
	if c.number || Unsafe(c.text) == c.text {
		return c.text
	}
	return Safe(c.text)
}

// Mark begins a CSV file: offices that do not find it take UTF-8 for another encoding, and "×" for two letters.
const Mark = "\ufeff"

// WriteCSV writes a kind of table.
func WriteCSV(w io.Writer, kind string, c *exchange.Contents) error {
	g, err := gridOf(kind, c)
	if err != nil {
		return err
	}
	if _, err := io.WriteString(w, Mark); err != nil {
		return err
	}
	out := csv.NewWriter(w)
	if err := out.Write(g.headers); err != nil {
		return err
	}
	line := make([]string, len(g.headers))
	if err := g.rows(func(row []cell) error {
		for i := range row {
			line[i] = row[i].safe()
		}
		return out.Write(line)
	}); err != nil {
		return err
	}
	out.Flush()
	return out.Error()
}

// WriteXLSX writes a workbook with a sheet a kind, every text as a text; at is when.
func WriteXLSX(w io.Writer, c *exchange.Contents, at time.Time) error {
	book := excelize.NewFile()
	defer book.Close()
	if err := Sign(book, "Catalogue", at); err != nil {
		return err
	}
	for i, kind := range []string{Displays, Brackets, Kits} {
		g, err := gridOf(kind, c)
		if err != nil {
			return err
		}
		if i == 0 {
			err = book.SetSheetName("Sheet1", kind)
		} else {
			_, err = book.NewSheet(kind)
		}
		if err != nil {
			return err
		}
		if err := writeSheet(book, kind, g); err != nil {
			return err
		}
	}
	return book.Write(w)
}

// Sign says in a workbook who wrote it and when, in place of what the library says of itself.
func Sign(book *excelize.File, title string, at time.Time) error {
	when := at.UTC().Format(time.RFC3339)
	return errors.Join(
		book.SetDocProps(&excelize.DocProperties{Creator: "Nexufix", LastModifiedBy: "Nexufix", Title: title, Created: when, Modified: when}),
		book.SetAppProps(&excelize.AppProperties{Application: "Nexufix"}))
}

func writeSheet(book *excelize.File, name string, g grid) error {
	s, err := book.NewStreamWriter(name)
	if err != nil {
		return err
	}
	if err := s.SetColWidth(1, max(1, len(g.headers)), 16); err != nil {
		return err
	}
	if err := s.SetPanes(&excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"}); err != nil {
		return err
	}
	bold, err := book.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	if err != nil {
		return err
	}
	values := make([]any, len(g.headers))
	for i, h := range g.headers {
		values[i] = excelize.Cell{StyleID: bold, Value: h}
	}
	if err := s.SetRow("A1", values); err != nil {
		return err
	}
	n := 1
	if err := g.rows(func(row []cell) error {
		n++
		for i, c := range row {
			switch {
			case c.text == "":
				values[i] = nil
			case c.number:
				values[i] = json.Number(c.text)
			default:
				values[i] = c.quoted()
			}
		}
		return s.SetRow(fmt.Sprintf("A%d", n), numbers(values))
	}); err != nil {
		return err
	}
	return s.Flush()
}

// numbers turns JSON numbers into what the writer knows.
func numbers(values []any) []any {
	out := make([]any, len(values))
	for i, v := range values {
		out[i] = v
		if n, ok := v.(json.Number); ok {
			if f, err := n.Float64(); err == nil {
				out[i] = f
			}
		}
	}
	return out
}
