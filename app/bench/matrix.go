package bench

import (
	"context"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strings"
	"time"

	"github.com/xuri/excelize/v2"

	"nexufix/core/fit"
	"nexufix/exchange"
	"nexufix/exchange/tabular"
)

// MatrixHead is the first line of a matrix: its rows and columns.
type MatrixHead struct {
	Displays []Name   `json:"displays" required:"true"`
	Brackets []Name   `json:"brackets" required:"true"`
	Verdicts []string `json:"verdicts" required:"true"` // by a cell's first letter: a, b, c, d
	Rules    []string `json:"rules" required:"true"`    // by its second: a is none
}

// Name is an id with the name that people read.
type Name struct {
	ID   string `json:"id" required:"true"`
	Name string `json:"name" required:"true"`
}

// MatrixRow is a display's line: three letters a bracket, the first in upper
// case if parts have to be sent, the second if its rule is the only one
// that fails; the third is s if it takes spacers to pass over what stands out, else a dash.
type MatrixRow struct {
	Display int    `json:"display" required:"true"`
	Cells   string `json:"cells" required:"true"`
}

// MatrixEnd is the last line: the brackets, at most three, that together fit the most
// displays, and the displays that none of them fits.
type MatrixEnd struct {
	Cover    []int  `json:"cover" required:"true"`
	Left     []int  `json:"left" required:"true"`
	NotTried string `json:"not_tried,omitempty"` // what was not tried because it takes too much work
	// How many pairings had to be judged; the others were cached.
	Judged int `json:"judged" required:"true"`
}

// MatrixLines are the kinds of line, for the API's description.
type MatrixLines struct {
	Head MatrixHead `json:"head"`
	Row  MatrixRow  `json:"row"`
	End  MatrixEnd  `json:"end"`
}

func matrixHead(all *exchange.Contents) MatrixHead {
	h := MatrixHead{Displays: []Name{}, Brackets: []Name{}, Rules: []string{""}}
	for _, r := range fit.Rules {
		h.Rules = append(h.Rules, r.ID.String())
	}
	for _, d := range all.Displays {
		h.Displays = append(h.Displays, Name{d.ID, d.Name()})
	}
	for _, b := range all.Brackets {
		h.Brackets = append(h.Brackets, Name{b.ID, b.Name})
	}
	for _, v := range fit.Verdicts {
		h.Verdicts = append(h.Verdicts, string(v))
	}
	return h
}

// Matrix judges a whole catalogue and passes it on line by line: a [MatrixHead], a
// [MatrixRow] for each display when it is done, a [MatrixEnd]. It ends early when the context
// does or a line returns an error.
func Matrix(ctx context.Context, grid *fit.Grid, all *exchange.Contents, line func(any) error) error {
	if err := line(matrixHead(all)); err != nil {
		return err
	}
	rows := make([]fit.Row, len(all.Displays))
	judged, cut, err := grid.Matrix(ctx, all.Displays, all.Brackets, all.PolicyOrDefault(), func(r fit.Row) error {
		rows[r.Display] = r
		return line(MatrixRow{r.Display, cellLetters(r.Cells)})
	})
	if err != nil {
		return err
	}
	end := MatrixEnd{Cover: []int{}, Left: []int{}, Judged: judged}
	cover, left, err := fit.Cover(ctx, rows, len(all.Brackets))
	if err != nil {
		return err
	}
	if cut {
		end.NotTried = "Some stacks have more combinations of parts than a matrix may try: they are not known here. The bench says more."
	}
	end.Cover, end.Left = append(end.Cover, cover...), append(end.Left, left...)
	return line(end)
}

func cellLetters(cells []fit.Cell) string {
	var b strings.Builder
	for _, c := range cells {
		verdict, rule := byte('a'), byte('a')
		for i, v := range fit.Verdicts {
			if v == c.Verdict() {
				verdict += byte(i)
			}
		}
		for i, r := range fit.Rules {
			if r.ID == c.Rule() {
				rule += byte(i + 1)
			}
		}
		if c.NeedsParts() {
			verdict -= 'a' - 'A'
		}
		if c.SoleBlocker() {
			rule -= 'a' - 'A'
		}
		b.WriteByte(verdict)
		b.WriteByte(rule)
		spacers := byte('-')
		if c.Spacers() {
			spacers = 's'
		}
		b.WriteByte(spacers)
	}
	return b.String()
}

// matrixTable judges a whole catalogue and passes it on as texts: a line for each display, a
// column for each bracket.
func matrixTable(ctx context.Context, grid *fit.Grid, all *exchange.Contents, line func([]string) error) error {
	rows := make([]fit.Row, len(all.Displays))
	_, _, err := grid.Matrix(ctx, all.Displays, all.Brackets, all.PolicyOrDefault(), func(r fit.Row) error {
		rows[r.Display] = r
		return nil
	})
	if err != nil {
		return err
	}
	cells := []string{"id", "display"}
	for _, b := range all.Brackets {
		cells = append(cells, b.Name)
	}
	if err := line(cells); err != nil {
		return err
	}
	for i, d := range all.Displays {
		cells = append(cells[:0], d.ID, d.Name())
		for _, cell := range rows[i].Cells {
			cells = append(cells, cellWords(cell))
		}
		if err := line(cells); err != nil {
			return err
		}
	}
	return nil
}

// MatrixCSV writes the matrix as a table.
func MatrixCSV(ctx context.Context, grid *fit.Grid, all *exchange.Contents, out io.Writer) error {
	if _, err := io.WriteString(out, tabular.Mark); err != nil {
		return err
	}
	w := csv.NewWriter(out)
	err := matrixTable(ctx, grid, all, func(cells []string) error {
		for i := range cells {
			cells[i] = tabular.Safe(cells[i])
		}
		return w.Write(cells)
	})
	if err != nil {
		return err
	}
	w.Flush()
	return w.Error()
}

// MatrixXLSX writes the matrix as a workbook, every cell a text, its heads standing while the rest moves.
func MatrixXLSX(ctx context.Context, grid *fit.Grid, all *exchange.Contents, out io.Writer) error {
	book := excelize.NewFile()
	defer book.Close()
	if err := errors.Join(tabular.Sign(book, "Matrix", time.Now()), book.SetSheetName("Sheet1", "Matrix")); err != nil {
		return err
	}
	bold, err := book.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	if err != nil {
		return err
	}
	sheet, err := book.NewStreamWriter("Matrix")
	if err != nil {
		return err
	}
	panes := &excelize.Panes{Freeze: true, XSplit: 1, YSplit: 1, TopLeftCell: "B2", ActivePane: "bottomRight"}
	if err := errors.Join(sheet.SetColWidth(1, 200, 22), sheet.SetPanes(panes)); err != nil {
		return err
	}
	row := 0
	err = matrixTable(ctx, grid, all, func(cells []string) error {
		row++
		values := make([]any, len(cells))
		for i, text := range cells {
			if values[i] = text; row == 1 || i == 0 {
				values[i] = excelize.Cell{StyleID: bold, Value: text}
			}
		}
		return sheet.SetRow(fmt.Sprintf("A%d", row), values)
	})
	if err != nil {
		return err
	}
	if err := sheet.Flush(); err != nil {
		return err
	}
	_, err = book.WriteTo(out)
	return err
}

func cellWords(c fit.Cell) string {
	text := strings.ReplaceAll(string(c.Verdict()), "_", " ")
	if r := c.Rule(); r != "" {
		text += ": " + r.String()
	}
	if c.Spacers() && c.Verdict() != fit.DoesNotFit {
		text += ", with spacers"
	}
	return text
}
