package tabular

import (
	"encoding/csv"
	"encoding/json"
	"fmt"
	"io"
	"slices"

	"github.com/xuri/excelize/v2"

	"nexufix/exchange"
)

// grid is a table to write: headers, and cells that are numbers or texts.
type grid struct {
	headers []string
	rows    [][]cell
}

// gridOf lays a kind out, with a column for every figure that anything has.
func gridOf(kind string, c *exchange.Contents) (grid, error) {
	var all [][]cell
	add := func(doc any, before ...cell) error {
		raw, err := json.Marshal(doc)
		if err != nil {
			return err
		}
		all = append(all, append(before, flatten(types[kind], any(parsed(raw)), "", nil)...))
		return nil
	}
	for _, d := range c.Displays {
		if kind == Displays {
			if err := add(exchange.DisplayOf(d)); err != nil {
				return grid{}, err
			}
		}
	}
	for _, b := range c.Brackets {
		if kind == Brackets {
			if err := add(b); err != nil {
				return grid{}, err
			}
		}
		for _, i := range b.Kit {
			if kind == Kits {
				if err := add(i, cell{"bracket", []int{-1}, b.ID, false}); err != nil {
					return grid{}, err
				}
			}
		}
	}
	return laidOut(all), nil
}

func laidOut(all [][]cell) grid {
	order := map[string][]int{}
	for _, row := range all {
		for _, c := range row {
			order[c.column] = c.order
		}
	}
	var g grid
	for column := range order {
		g.headers = append(g.headers, column)
	}
	slices.SortFunc(g.headers, func(a, b string) int { return slices.Compare(order[a], order[b]) })
	at := map[string]int{}
	for i, h := range g.headers {
		at[h] = i
	}
	for _, row := range all {
		cells := make([]cell, len(g.headers))
		for _, c := range row {
			cells[at[c.column]] = c
		}
		g.rows = append(g.rows, cells)
	}
	return g
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

// WriteCSV writes a kind of table.
func WriteCSV(w io.Writer, kind string, c *exchange.Contents) error {
	g, err := gridOf(kind, c)
	if err != nil {
		return err
	}
	out := csv.NewWriter(w)
	if err := out.Write(g.headers); err != nil {
		return err
	}
	line := make([]string, len(g.headers))
	for _, row := range g.rows {
		for i := range row {
			line[i] = row[i].safe()
		}
		if err := out.Write(line); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

// WriteXLSX writes a workbook with a sheet a kind, every text as a text.
func WriteXLSX(w io.Writer, c *exchange.Contents) error {
	book := excelize.NewFile()
	defer book.Close()
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
	values := make([]any, len(g.headers))
	for i, h := range g.headers {
		values[i] = h
	}
	if err := s.SetRow("A1", values); err != nil {
		return err
	}
	for n, row := range g.rows {
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
		if err := s.SetRow(fmt.Sprintf("A%d", n+2), numbers(values)); err != nil {
			return err
		}
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
