// Package imports has the use cases of what comes from elsewhere: files as tables and documents, previewed before they are written,
// photographs, and two displays that are one. Strangers' workbooks and pictures are opened in a child process.
package imports

import (
	"bytes"
	"context"
	"fmt"
	"slices"
	"strconv"
	"sync"

	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/exchange"
	"nexufix/exchange/tabular"
	"nexufix/store"
)

// File is the preview of a file to import: what its
// columns mean, and the outcome of its rows. Nothing is written before it is
// committed.
type File struct {
	ID     string      `json:"id" required:"true"`
	Name   string      `json:"name" required:"true"`
	Sheets []FileSheet `json:"sheets" required:"true"`
	Counts FileCounts  `json:"counts" required:"true"`
	Rows   []FileRow   `json:"rows" required:"true"` // the first of each outcome, wrong rows first
	Fields FieldNames  `json:"fields" required:"true"`
}

// FieldNames are the fields that a column can have, by kind.
type FieldNames struct {
	Displays []string `json:"displays" required:"true"`
	Brackets []string `json:"brackets" required:"true"`
	Kit      []string `json:"kit" required:"true"`
}

// FileCounts counts rows by outcome.
type FileCounts struct {
	New     int `json:"new" required:"true"`
	Changed int `json:"changed" required:"true"`
	Same    int `json:"same" required:"true"`
	Wrong   int `json:"wrong" required:"true"`
	Ignored int `json:"ignored" required:"true"`
}

// FileSheet is a sheet with its layout. A sheet without a kind is ignored.
type FileSheet struct {
	Name     string       `json:"name" required:"true" empty:"ok" maxLength:"400"`
	Kind     string       `json:"kind" required:"true" empty:"ok" pattern:"^(displays|brackets|kit|document|)$"`
	Head     int          `json:"head" required:"true" minimum:"1" maximum:"100000"` // the row of the headers
	HeadRows int          `json:"head_rows" required:"true" minimum:"1" maximum:"2"`
	Rows     int          `json:"rows" required:"true" minimum:"0"`
	Columns  []FileColumn `json:"columns" required:"true" maxItems:"1000"`
	// Note says of the whole sheet that it is not read, and why.
	Note string `json:"note,omitempty" maxLength:"1000"`
}

// FileColumn is what a column means; without a field it is ignored.
type FileColumn struct {
	Head  string `json:"head" required:"true" empty:"ok" maxLength:"8000"`
	Field string `json:"field" required:"true" empty:"ok" maxLength:"120"`
	Unit  string `json:"unit" required:"true" empty:"ok" maxLength:"8"`
}

// FileRow is the outcome of a row.
type FileRow struct {
	Sheet    int               `json:"sheet" required:"true"`
	Row      int               `json:"row" required:"true"` // as the spreadsheet counts, from 1
	ID       string            `json:"id" required:"true"`
	Name     string            `json:"name" required:"true"`
	Outcome  string            `json:"outcome" required:"true" enum:"new,changed,same,wrong,ignored"`
	Cells    []string          `json:"cells" required:"true"`
	Problems []FileProblem     `json:"problems" required:"true"`
	Notes    []FileProblem     `json:"notes" required:"true"`
	Changes  []exchange.Change `json:"changes" required:"true"`
}

// FileProblem is a problem of a cell, or with a column of -1 of the row.
type FileProblem struct {
	Column int    `json:"column" required:"true"`
	Text   string `json:"text" required:"true"`
}

// FileLayout changes what a file's columns mean.
type FileLayout struct {
	Sheets []FileSheet `json:"sheets" required:"true" maxItems:"20"`
}

// maxShown is how many rows of each outcome a preview shows.
const maxShown = 200

// Incoming is a file that is being imported. Its outcome depends on the
// catalogue and is guarded by a lock; the rest does not change.
type Incoming struct {
	ID, Name string
	Size     int // of the file as it came, in bytes
	tables   []tabular.Table
	layouts  []tabular.Layout
	document *exchange.Contents // in place of tables

	mu      sync.Mutex
	taken   tabular.Previewed
	against *exchange.Contents // the catalogue that taken was computed for
	done    bool               // it was committed
}

// OpenFile reads a document, a workbook or a table. The meaning of columns is guessed from
// their headers and from what such headers were chosen to mean before. The error is a [BadFile] for a file that cannot be
// read, [exchange.Problems] for an invalid document.
func OpenFile(ctx context.Context, name string, raw []byte, meanings map[string]map[string]string) (*Incoming, error) {
	f := &Incoming{Name: store.OneLine(name), Size: len(raw)}
	var err error
	if bytes.HasPrefix(bytes.TrimLeft(raw[:min(len(raw), 100)], "\ufeff \t\r\n"), []byte("{")) {
		f.document, err = exchange.Read(raw)
		return f, err
	}
	if f.tables, err = openTables(ctx, f.Name, raw); err != nil {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		return nil, &BadFile{err}
	}
	for i := range f.tables {
		f.layouts = append(f.layouts, tabular.Recognise(&f.tables[i], meanings))
	}
	return f, nil
}

// As reads the rows of all tables as items of a kind, whatever their columns are.
// It returns false if no table has a column with a known meaning.
func (f *Incoming) As(kind string, meanings map[string]map[string]string) bool {
	known := f.document != nil
	for i := range f.tables {
		if kind != "" && f.layouts[i].Kind != kind {
			f.layouts[i] = tabular.Laid(&f.tables[i], kind, 0, 1, meanings[kind])
		}
		known = known || f.layouts[i].Kind != ""
	}
	return known
}

// Relaid returns the same file with another layout.
func (f *Incoming) Relaid(in FileLayout, remembered map[string]map[string]string) (*Incoming, error) {
	old := f
	if len(in.Sheets) != len(old.layouts) {
		return nil, exchange.Problems{{Path: "sheets", Found: strconv.Itoa(len(in.Sheets)) + " sheets",
			Allowed: "all " + strconv.Itoa(len(old.layouts)) + " of the file"}}
	}
	f = &Incoming{Name: old.Name, Size: old.Size, tables: old.tables}
	for i, sheet := range in.Sheets {
		was := old.layouts[i]
		head := min(sheet.Head-1, max(0, len(f.tables[i].Rows)-sheet.HeadRows))
		if sheet.Kind != was.Kind || head != was.Head || sheet.HeadRows != was.HeadRows {
			// Other headers: their meanings are guessed again.
			l := tabular.Layout{}
			if sheet.Kind != "" {
				l = tabular.Laid(&f.tables[i], sheet.Kind, head, min(sheet.HeadRows, max(1, len(f.tables[i].Rows))), remembered[sheet.Kind])
			}
			f.layouts = append(f.layouts, l)
			continue
		}
		l := was
		l.Columns = slices.Clone(was.Columns)
		for j := range min(len(l.Columns), len(sheet.Columns)) {
			if now := sheet.Columns[j]; now.Field != l.Columns[j].Field || now.Unit != l.Columns[j].Unit {
				l.Columns[j].Field, l.Columns[j].Unit, l.Columns[j].Named = now.Field, now.Unit, false
			}
		}
		f.layouts = append(f.layouts, l)
	}
	return f, nil
}

// Preview returns the outcome of the file's rows for a catalogue.
func (f *Incoming) Preview(have *exchange.Contents) {
	f.mu.Lock()
	defer f.mu.Unlock()
	f.look(have)
}

func (f *Incoming) look(have *exchange.Contents) {
	if f.against == have {
		return
	}
	f.against = have
	defer f.doubt()
	if f.document != nil {
		f.taken = tabular.PreviewDocument(f.document, have)
		return
	}
	var sheets []tabular.Sheet
	for i := range f.tables {
		sheets = append(sheets, tabular.Sheet{Table: &f.tables[i], Layout: f.layouts[i]})
	}
	f.taken = tabular.Preview(sheets, have)
}

// doubt notes beside each display which of its figures do not go together, as the catalogue would say once it is there.
func (f *Incoming) doubt() {
	for i := range f.taken.Rows {
		r := &f.taken.Rows[i]
		d := f.taken.Right.Display(r.ID)
		if d == nil || r.Outcome != tabular.New && r.Outcome != tabular.Changed {
			continue
		}
		if odd := fit.DataCheck(d); odd.Status > fit.Note {
			r.Notes = append(r.Notes, tabular.Problem{Column: -1, Text: odd.Text.In(quantity.Metric)})
		}
	}
}

// place is a row's place as in the spreadsheet, and the head of a column; -1 for the row.
func (f *Incoming) place(r *tabular.Row, column int) string {
	several := 0
	for _, l := range f.layouts {
		if l.Kind != "" {
			several++
		}
	}
	at := fmt.Sprintf("row %d", r.N+1)
	if f.document != nil {
		at = r.ID
	}
	if several > 1 {
		at = f.tables[r.Sheet].Name + " " + at
	}
	if column >= 0 {
		at += ", " + f.layouts[r.Sheet].Columns[column].Head
	}
	return at
}

// Notes are what should be looked at in what is taken, and why rows are left out, with places as in the spreadsheet; Unread are
// the heads of the columns that are not read.
func (f *Incoming) Notes() (notes, unread []string) {
	for i := range f.layouts {
		if note := f.note(i); note != "" {
			notes = append(notes, note)
		}
	}
	for i := range f.taken.Rows {
		r := &f.taken.Rows[i]
		for _, p := range r.Notes {
			notes = append(notes, f.place(r, p.Column)+": "+p.Text)
		}
	}
	for _, l := range f.layouts {
		for _, c := range l.Columns {
			if c.Field == "" && c.Head != "" {
				unread = append(unread, c.Head)
			}
		}
	}
	return notes, unread
}

// note says of a sheet that is not read why it is not.
func (f *Incoming) note(sheet int) string {
	if f.layouts[sheet].Kind != "" {
		return ""
	}
	return f.tables[sheet].Note()
}

// Table reports whether the file is one, and no document of the format, which may have a policy alone.
func (f *Incoming) Table() bool { return f.document == nil }

// Counts counts the rows by outcome.
func (f *Incoming) Counts() FileCounts {
	return FileCounts{f.taken.Count(tabular.New), f.taken.Count(tabular.Changed), f.taken.Count(tabular.Same), f.taken.Count(tabular.Wrong),
		f.taken.Count(tabular.Ignored)}
}

// Problems returns what is wrong with the rows, with places as in the spreadsheet.
func (f *Incoming) Problems() error {
	if f.taken.Contents != nil {
		return nil
	}
	var problems exchange.Problems
	for i := range f.taken.Rows {
		r := &f.taken.Rows[i]
		for _, p := range r.Problems {
			problems = append(problems, exchange.Problem{Path: f.place(r, p.Column), Found: p.Text})
		}
	}
	return problems
}

// Commit imports the file: all of it, or nothing, and only once. The meanings of its
// columns are saved. begin is called with the number of rows before the first is
// written; progress, if not nil, while they are written.
func (f *Incoming) Commit(ctx context.Context, st *store.Store, by store.Author, begin func(rows int),
	progress func(done, of int)) (n store.Imported, err error) {
	f.mu.Lock()
	defer f.mu.Unlock()
	if f.done {
		return n, &AlreadyImported{}
	}
	have, err := st.Catalogue(ctx)
	if err != nil {
		return n, err
	}
	f.look(have) // the catalogue may have changed since the preview
	if f.taken.Contents == nil {
		return n, &WrongRows{f.taken.Count(tabular.Wrong)}
	}
	for _, l := range f.layouts {
		fields := map[string]string{}
		for _, col := range l.Columns {
			if col.Head != "" && !col.Named {
				fields[col.Head] = col.Field
			}
		}
		if err := st.Remember(ctx, l.Kind, fields); err != nil {
			return n, err
		}
	}
	if f.document != nil {
		f.taken.Contents.Photos = f.document.Photos
	}
	begin(len(f.taken.Contents.Displays) + len(f.taken.Contents.Brackets))
	by.Why = "From " + f.Name
	n, err = st.Import(ctx, by, "Import of "+f.Name, f.taken.Contents, f.against, progress)
	if err == nil {
		f.done, f.taken = true, tabular.Previewed{}
	}
	return n, err
}

// View returns the file as the page shows it.
func (f *Incoming) View() File {
	out := File{ID: f.ID, Name: f.Name, Sheets: []FileSheet{}, Rows: []FileRow{},
		Fields: FieldNames{tabular.Fields(tabular.Displays), tabular.Fields(tabular.Brackets), tabular.Fields(tabular.Kits)},
		Counts: f.Counts()}
	if f.document != nil {
		out.Sheets = append(out.Sheets, FileSheet{Name: f.Name, Kind: "document", Head: 1, HeadRows: 1, Rows: len(f.taken.Rows),
			Columns: []FileColumn{}})
	}
	for i, l := range f.layouts {
		s := FileSheet{Name: f.tables[i].Name, Kind: l.Kind, Head: l.Head + 1, HeadRows: max(1, l.HeadRows), Rows: len(f.tables[i].Rows),
			Columns: []FileColumn{}, Note: f.note(i)}
		for _, c := range l.Columns {
			s.Columns = append(s.Columns, FileColumn{c.Head, c.Field, c.Unit})
		}
		out.Sheets = append(out.Sheets, s)
	}
	for _, outcome := range []tabular.Outcome{tabular.Wrong, tabular.Changed, tabular.New, tabular.Ignored, tabular.Same} {
		n := 0
		for i := range f.taken.Rows {
			r := &f.taken.Rows[i]
			if r.Outcome != outcome || n == maxShown {
				continue
			}
			n++
			row := FileRow{Sheet: r.Sheet, Row: r.N + 1, ID: r.ID, Name: r.Name, Outcome: string(r.Outcome), Cells: []string{},
				Problems: []FileProblem{}, Notes: []FileProblem{}, Changes: []exchange.Change{}}
			if f.document == nil {
				row.Cells = append(row.Cells, f.tables[r.Sheet].Rows[r.N]...)
			}
			for _, p := range r.Problems {
				row.Problems = append(row.Problems, FileProblem(p))
			}
			for _, p := range r.Notes {
				row.Notes = append(row.Notes, FileProblem(p))
			}
			row.Changes = append(row.Changes, r.Changes...)
			out.Rows = append(out.Rows, row)
		}
	}
	return out
}

// BadFile is the error for a file that cannot be read as a table or document.
type BadFile struct{ Why error }

// Error gives the reason.
func (e *BadFile) Error() string { return e.Why.Error() }

// Unwrap returns the reason.
func (e *BadFile) Unwrap() error { return e.Why }

// AlreadyImported is the error for a file that was imported before.
type AlreadyImported struct{}

// Error describes it.
func (*AlreadyImported) Error() string { return "the file is in the catalogue already" }

// WrongRows is the error for a file with wrong rows: their number.
type WrongRows struct{ Count int }

// Error gives their number.
func (e *WrongRows) Error() string { return fmt.Sprintf("%d rows are wrong", e.Count) }
