package tabular

import (
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"

	"nexufix/core/workers"
	"nexufix/exchange"
)

// Sheet is a table with its layout.
type Sheet struct {
	Table  *Table
	Layout Layout
}

// Outcome is what taking a row would do.
type Outcome string

// The outcomes. A row that is left out has nothing to take: a heading, a note,
// a blank line.
const (
	New     Outcome = "new"
	Changed Outcome = "changed"
	Same    Outcome = "same"
	Wrong   Outcome = "wrong"
	Ignored Outcome = "ignored"
)

// Problem is one thing wrong with a row, in a cell or, with a column of -1, as
// a whole.
type Problem struct {
	Column int
	Text   string
}

// Previewed is what becomes of a file. Contents is what to put into the catalogue,
// all of it new or changed; it is nil while a row is wrong. Right is what the other rows come to, whether one is wrong or not.
type Previewed struct {
	Rows     []Row
	Contents *exchange.Contents
	Right    *exchange.Contents
}

// Count counts the rows of an outcome.
func (t *Previewed) Count(o Outcome) (n int) {
	for i := range t.Rows {
		if t.Rows[i].Outcome == o {
			n++
		}
	}
	return n
}

// Preview reads sheets against a catalogue. What a row says goes over what is
// there: a blank cell changes nothing, and nothing is written.
func Preview(sheets []Sheet, have *exchange.Contents) Previewed {
	k := previewer{have: newExisting(have), taken: map[string]string{}}
	for i := range sheets {
		if sheets[i].Layout.Kind != Kits {
			k.sheet(i, &sheets[i])
		}
	}
	k.boxes, k.begun = map[string]*Row{}, map[string]bool{}
	for i := range k.out.Rows {
		if r := &k.out.Rows[i]; r.kind == Brackets && r.doc != nil {
			k.boxes[r.ID] = r
			k.have.named[Brackets+squeezed(r.Name)] = r.ID
		}
	}
	for i := range sheets {
		if sheets[i].Layout.Kind == Kits {
			k.kit(i, &sheets[i])
		}
	}
	for _, id := range slices.Sorted(maps.Keys(k.boxes)) {
		if b := k.boxes[id]; b.N < 0 { // the file has its kit, and no row of its own
			k.out.Rows = append(k.out.Rows, *b)
		}
	}
	k.duplicates()
	k.judge()
	for i := range k.out.Rows {
		r := &k.out.Rows[i] // what it took to read it is not needed any more
		r.doc, r.from, r.have, r.place = nil, nil, nil, nil
	}
	slices.SortStableFunc(k.out.Rows, func(a, b Row) int {
		if a.Sheet != b.Sheet {
			return a.Sheet - b.Sheet
		}
		return a.N - b.N
	})
	return k.out
}

type previewer struct {
	have  existing
	out   Previewed
	taken map[string]string // name, squeezed, by kind and id
	boxes map[string]*Row   // the rows that carry the documents of brackets with kits
	begun map[string]bool   // brackets whose kit is the file's
}

// sheet reads displays or brackets, on all cores.
func (k *previewer) sheet(index int, s *Sheet) {
	whole, columns := s.Layout.placed()
	first := min(s.Layout.Head+s.Layout.HeadRows, len(s.Table.Rows))
	rows, lines, flags := make([]Row, len(s.Table.Rows)-first), s.Table.below(first), s.Table.flagged()
	workers.Each(len(rows), func(i int) {
		if blank(lines[i]) {
			return
		}
		rows[i] = Row{Sheet: index, N: first + i, kind: s.Layout.Kind, from: map[string]int{}}
		lines[i] = rows[i].counting(s, lines[i], flags)
		rows[i].name(s, lines[i])
	})
	k.ids(rows)
	workers.Each(len(rows), func(i int) {
		r, cells := &rows[i], lines[i]
		if r.kind == "" || r.Outcome == Ignored {
			return
		}
		switch {
		case r.ID == "" && r.Outcome == Wrong:
			return
		case r.ID == "" && r.lone:
			r.leftOut("it says nothing but a name")
			return
		case r.ID == "":
			r.leftOut("no model and no id")
			return
		}
		r.doc = map[string]any{}
		if r.have = k.have.document(r.kind, r.ID); r.have != nil {
			r.doc = parsed(r.have)
		}
		r.doc["id"] = r.ID
		for _, column := range whole {
			if column < len(cells) && !unknown(cells[column]) {
				r.patterns(column, &s.Layout.Columns[column], cells[column])
			}
		}
		r.cells(s, columns, cells)
	})
	for i := range rows {
		if rows[i].kind != "" {
			k.out.Rows = append(k.out.Rows, rows[i])
		}
	}
}

// duplicates refuses rows for one id.
func (k *previewer) duplicates() {
	first := map[string]*Row{}
	for i := range k.out.Rows {
		r := &k.out.Rows[i]
		if r.doc == nil || r.kind == Kits {
			continue
		}
		if o := first[r.kind+r.ID]; o != nil {
			for _, x := range []*Row{o, r} {
				x.wrong(-1, fmt.Sprintf("rows %d and %d are both %s", o.N+1, r.N+1, r.ID))
			}
			continue
		}
		first[r.kind+r.ID] = r
	}
}

// judge reads the rows' documents with the format's reader, puts its problems
// into their cells, and says what each row would change.
func (k *previewer) judge() {
	c := &exchange.Contents{}
	wrong := false
	kits := map[string][]*Row{}
	for i := range k.out.Rows {
		if r := &k.out.Rows[i]; r.kind == Kits && r.doc != nil {
			kits[r.ID] = append(kits[r.ID], r)
		}
	}
	read := k.readAll()
	for i := range k.out.Rows {
		r := &k.out.Rows[i]
		if r.doc == nil || r.kind == Kits {
			wrong = wrong || r.Outcome == Wrong
			continue
		}
		one := read[i].contents
		for _, p := range read[i].problems {
			k.locate(r, kits[r.ID], p)
		}
		if r.Outcome == Wrong {
			wrong = true
			continue
		}
		r.Outcome = New
		if r.have != nil {
			r.Changes = exchange.Compare(r.have, afterOf(one))
			if r.resetOrigin() {
				one, _ = r.read()
				r.Changes = exchange.Compare(r.have, afterOf(one))
			}
			if r.Outcome = Changed; len(r.Changes) == 0 {
				r.Outcome = Same
			}
		}
		for _, item := range kits[r.ID] {
			if item.Outcome == "" {
				item.Outcome = r.Outcome
			}
		}
		if r.Outcome != Same {
			c.Displays = append(c.Displays, one.Displays...)
			c.Brackets = append(c.Brackets, one.Brackets...)
		}
	}
	for _, list := range kits {
		for _, r := range list {
			if r.Outcome == "" {
				r.Outcome = Same
			}
			wrong = wrong || r.Outcome == Wrong
		}
	}
	// A box without a row of its own is told by its parts.
	k.out.Rows = slices.DeleteFunc(k.out.Rows, func(r Row) bool { return r.N < 0 })
	k.out.Right = c
	if !wrong {
		k.out.Contents = c
	}
}

// sheet is the origin of a figure of which nothing is said.
const sheet = "sheet"

// reading is what came of reading a row's document.
type reading struct {
	contents *exchange.Contents
	problems exchange.Problems
}

// readAll reads the documents of all rows.
func (k *previewer) readAll() []reading {
	out := make([]reading, len(k.out.Rows))
	workers.Each(len(out), func(i int) {
		if r := &k.out.Rows[i]; r.doc != nil && r.kind != Kits {
			out[i].contents, out[i].problems = r.read()
		}
	})
	return out
}

func afterOf(c *exchange.Contents) []byte {
	var v any
	if len(c.Displays) > 0 {
		v = c.Displays[0]
	} else {
		v = c.Brackets[0]
	}
	raw, _ := json.Marshal(v) // the format's own types
	return raw
}

func (r *Row) read() (*exchange.Contents, exchange.Problems) {
	c, err := exchange.ReadValue(map[string]any{"format": exchange.Format, r.kind: []any{r.doc}})
	var problems exchange.Problems
	if err != nil && !errors.As(err, &problems) {
		problems = exchange.Problems{{Found: err.Error()}}
	}
	return c, problems
}

// locate puts a problem of the reader into the cell it came from.
func (k *previewer) locate(r *Row, kit []*Row, p exchange.Problem) {
	path := strings.TrimPrefix(strings.TrimPrefix(p.Path, r.kind+"[0]"), ".")
	text := p.Found
	if p.Allowed != "" {
		text += "; allowed: " + p.Allowed
	}
	var n int
	if _, err := fmt.Sscanf(path, "kit[%d]", &n); err == nil {
		for _, item := range kit {
			if item.item == n {
				_, field, _ := strings.Cut(path, ".")
				column, ok := item.from[field]
				if !ok || field == "" {
					column, text = -1, field+" "+text
				}
				item.wrong(column, text)
				r.Outcome = Wrong
				return
			}
		}
	}
	if column, ok := r.from[path]; ok {
		r.wrong(column, text)
		return
	}
	if r.N < 0 { // it has no row: its first part tells
		kit[0].wrong(-1, strings.TrimSpace(path+" "+text))
		r.Outcome = Wrong
		return
	}
	r.wrong(-1, strings.TrimSpace(path+" "+text))
}
