package tabular

import (
	"fmt"
	"math"
	"slices"
)

// counting is what of a row's cells counts: one that is struck out says nothing, and neither does a row that is hidden, or struck out where
// its name is. What is shown as a date, or as an error, is no figure and no name.
func (r *Row) counting(s *Sheet, cells []string, flags map[[2]int]Flag) []string {
	if flags[[2]int{r.N, -1}] == Hidden {
		r.leftOut("the row is hidden in the workbook")
		return cells
	}
	own := false
	for i := range cells {
		flag := flags[[2]int{r.N, i}]
		if flag == "" {
			continue
		}
		if !own {
			cells, own = slices.Clone(cells), true
		}
		column := Column{}
		if i < len(s.Layout.Columns) {
			column = s.Layout.Columns[i]
		}
		switch {
		case flag == Struck && slices.Contains([]string{"id", "model", "name", "bracket"}, column.Field):
			r.leftOut("it is struck out")
			return cells
		case column.Field == "":
			continue
		case flag == Struck:
			r.Notes = append(r.Notes, Problem{i, fmt.Sprintf("%q is struck out, and not read", cells[i])})
		case flag == Fault:
			r.Notes = append(r.Notes, Problem{i, fmt.Sprintf("%s is an error in the workbook, and not read", cells[i])})
		default:
			r.wrong(i, fmt.Sprintf("%q is a date in the workbook; write it there as text", cells[i]))
		}
		cells[i] = ""
	}
	return cells
}

func (r *Row) leftOut(why string) {
	r.Outcome = Ignored
	r.Notes = append(r.Notes, Problem{-1, "left out: " + why})
}

// cells sets a row's figures. Where two columns say one, the first that says something counts, and the other is held against it.
func (r *Row) cells(s *Sheet, columns []placed, cells []string) {
	counts := map[string]placed{}
	for _, c := range columns {
		if c.column >= len(cells) || unknown(cells[c.column]) {
			continue
		}
		column := &s.Layout.Columns[c.column]
		first, twice := counts[column.Field]
		if !twice {
			counts[column.Field] = c
			r.cell(column, c, cells[c.column], s.Table.Decimals)
			continue
		}
		said, other := &s.Layout.Columns[first.column], cells[first.column]
		a, near, ok := said.amount(c.at, other, s.Table.Decimals)
		b, nearly, also := column.amount(c.at, cells[c.column], s.Table.Decimals)
		if !ok || !also || math.Abs(a-b) > near+nearly+1e-9 {
			r.wrong(c.column, fmt.Sprintf("%q, where %s says %q; where the column is something else, say what it is", cells[c.column], said.Head,
				other))
		}
	}
}
