package server

import (
	"bytes"
	"encoding/json"
	"errors"
	"io"
	"mime"
	"net/http"
	"slices"
	"strconv"

	"github.com/labstack/echo/v5"

	"nexufix/exchange"
	"nexufix/exchange/tabular"
	"nexufix/store"
)

// File is a file that somebody wants to put into the catalogue: what its
// columns mean, and what becomes of its rows. Nothing is written before it is
// taken.
type File struct {
	ID     string      `json:"id" required:"true"`
	Name   string      `json:"name" required:"true"`
	Sheets []FileSheet `json:"sheets" required:"true"`
	Counts FileCounts  `json:"counts" required:"true"`
	Rows   []FileRow   `json:"rows" required:"true"` // the first of each outcome, what is wrong before the rest
	Fields FieldNames  `json:"fields" required:"true"`
}

// FieldNames are the fields that a column can be put in, by kind.
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
	LeftOut int `json:"left_out" required:"true"`
}

// FileSheet is a sheet with its layout. A sheet without a kind is left out.
type FileSheet struct {
	Name     string       `json:"name" required:"true" empty:"ok" maxLength:"400"`
	Kind     string       `json:"kind" required:"true" empty:"ok" pattern:"^(displays|brackets|kit|document|)$" patternText:"displays, brackets, kit, or nothing"`
	Head     int          `json:"head" required:"true" minimum:"1" maximum:"100000"` // the row of the heads
	HeadRows int          `json:"head_rows" required:"true" minimum:"1" maximum:"2"`
	Rows     int          `json:"rows" required:"true" minimum:"0"`
	Columns  []FileColumn `json:"columns" required:"true" maxItems:"1000"`
}

// FileColumn is what a column means; without a field it is left out.
type FileColumn struct {
	Head  string `json:"head" required:"true" empty:"ok" maxLength:"8000"`
	Field string `json:"field" required:"true" empty:"ok" maxLength:"120"`
	Unit  string `json:"unit" required:"true" empty:"ok" maxLength:"8"`
}

// FileRow is what becomes of a row.
type FileRow struct {
	Sheet    int               `json:"sheet" required:"true"`
	Row      int               `json:"row" required:"true"` // as the spreadsheet counts, from 1
	ID       string            `json:"id" required:"true"`
	Name     string            `json:"name" required:"true"`
	Outcome  string            `json:"outcome" required:"true" enum:"new,changed,same,wrong,left_out"`
	Cells    []string          `json:"cells" required:"true"`
	Problems []FileProblem     `json:"problems" required:"true"`
	Notes    []FileProblem     `json:"notes" required:"true"`
	Changes  []exchange.Change `json:"changes" required:"true"`
}

// FileProblem is something about a cell, or with a column of -1 about the row.
type FileProblem struct {
	Column int    `json:"column" required:"true"`
	Text   string `json:"text" required:"true"`
}

// FileLayout says what a file's columns mean instead.
type FileLayout struct {
	Sheets []FileSheet `json:"sheets" required:"true" maxItems:"20"`
}

// FileStep is a line of taking a file: how far it is, and at last what it did.
type FileStep struct {
	Done     int             `json:"done" required:"true"`
	Of       int             `json:"of" required:"true"`
	Imported *store.Imported `json:"imported,omitempty"`
	Failed   *Problem        `json:"failed,omitempty"`
}

// mostShown is how many rows of each outcome a preview shows.
const mostShown = 200

// openFile reads a file and shows what would become of it.
func (s *Server) openFile(c *echo.Context) error {
	if kind, _, err := mime.ParseMediaType(c.Request().Header.Get("Content-Type")); err != nil || kind != "application/octet-stream" {
		return problem(http.StatusUnsupportedMediaType, "Only a file is taken here.", "Send it as the body, with Content-Type: application/octet-stream.")
	}
	raw, err := io.ReadAll(c.Request().Body)
	if err != nil {
		return err
	}
	f := &opened{name: store.OneLine(c.QueryParam("name")), size: len(raw)}
	if trimmed := bytes.TrimLeft(raw, "\ufeff \t\r\n"); bytes.HasPrefix(trimmed, []byte("{")) {
		if f.document, err = exchange.Read(raw); err != nil {
			return err
		}
	} else if f.tables, err = tabular.Open(f.name, raw); err != nil {
		return problem(http.StatusBadRequest, "The file cannot be read.", capital(err.Error())+".")
	} else {
		remembered, err := s.store.Meanings(c.Request().Context())
		if err != nil {
			return err
		}
		for i := range f.tables {
			f.layouts = append(f.layouts, tabular.Recognise(&f.tables[i], remembered))
		}
	}
	if err := s.look(c, f); err != nil {
		return err
	}
	s.tray.put(f)
	return c.JSON(http.StatusOK, f.shown())
}

func capital(s string) string {
	if s != "" && s[0] >= 'a' && s[0] <= 'z' {
		return string(s[0]-'a'+'A') + s[1:]
	}
	return s
}

// layFile takes what a person says the columns mean.
func (s *Server) layFile(c *echo.Context) error {
	old, err := s.tray.get(c.Param("id"))
	if err != nil {
		return err
	}
	in, err := request[FileLayout](c)
	if err != nil {
		return err
	}
	if len(in.Sheets) != len(old.layouts) {
		return exchange.Problems{{Path: "sheets", Found: strconv.Itoa(len(in.Sheets)) + " sheets", Allowed: "all " + strconv.Itoa(len(old.layouts)) + " of the file"}}
	}
	remembered, err := s.store.Meanings(c.Request().Context())
	if err != nil {
		return err
	}
	f := &opened{name: old.name, size: old.size, tables: old.tables}
	for i, sheet := range in.Sheets {
		was := old.layouts[i]
		head := min(sheet.Head-1, max(0, len(f.tables[i].Rows)-sheet.HeadRows))
		if sheet.Kind != was.Kind || head != was.Head || sheet.HeadRows != was.HeadRows {
			// Other heads: they are understood anew.
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
	if err := s.look(c, f); err != nil {
		return err
	}
	s.tray.put(f)
	return c.JSON(http.StatusOK, f.shown())
}

// look says what would become of a file's rows in the catalogue as it is.
func (s *Server) look(c *echo.Context, f *opened) error {
	have, err := s.store.Catalogue(c.Request().Context())
	if err != nil || f.against == have {
		return err
	}
	f.against = have
	if f.document != nil {
		f.taken = tabular.TakeDocument(f.document, have)
		return nil
	}
	var sheets []tabular.Sheet
	for i := range f.tables {
		sheets = append(sheets, tabular.Sheet{Table: &f.tables[i], Layout: f.layouts[i]})
	}
	f.taken = tabular.Take(sheets, have)
	return nil
}

// shown is a file as the page gets it.
func (f *opened) shown() File {
	out := File{ID: f.id, Name: f.name, Sheets: []FileSheet{}, Rows: []FileRow{},
		Fields: FieldNames{tabular.Fields(tabular.Displays), tabular.Fields(tabular.Brackets), tabular.Fields(tabular.Kits)},
		Counts: FileCounts{f.taken.Count(tabular.New), f.taken.Count(tabular.Changed), f.taken.Count(tabular.Same), f.taken.Count(tabular.Wrong), f.taken.Count(tabular.LeftOut)}}
	if f.document != nil {
		out.Sheets = append(out.Sheets, FileSheet{Name: f.name, Kind: "document", Head: 1, HeadRows: 1, Rows: len(f.taken.Rows), Columns: []FileColumn{}})
	}
	for i, l := range f.layouts {
		s := FileSheet{Name: f.tables[i].Name, Kind: l.Kind, Head: l.Head + 1, HeadRows: max(1, l.HeadRows), Rows: len(f.tables[i].Rows), Columns: []FileColumn{}}
		for _, c := range l.Columns {
			s.Columns = append(s.Columns, FileColumn{c.Head, c.Field, c.Unit})
		}
		out.Sheets = append(out.Sheets, s)
	}
	for _, outcome := range []tabular.Outcome{tabular.Wrong, tabular.Changed, tabular.New, tabular.LeftOut, tabular.Same} {
		n := 0
		for i := range f.taken.Rows {
			r := &f.taken.Rows[i]
			if r.Outcome != outcome || n == mostShown {
				continue
			}
			n++
			row := FileRow{Sheet: r.Sheet, Row: r.N + 1, ID: r.ID, Name: r.Name, Outcome: string(r.Outcome), Cells: []string{}, Problems: []FileProblem{}, Notes: []FileProblem{}, Changes: []exchange.Change{}}
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

// takeFile puts a file into the catalogue, and tells how far it is, a line of
// JSON at a time. What its columns mean is remembered.
func (s *Server) takeFile(c *echo.Context) error {
	f, err := s.tray.get(c.Param("id"))
	if err != nil {
		return err
	}
	f.Lock()
	defer f.Unlock()
	if f.done {
		return problem(http.StatusConflict, "The file is in the catalogue already.", "Undo that first, or open the file again.")
	}
	// The catalogue may be another than the preview's by now.
	if err := s.look(c, f); err != nil {
		return err
	}
	if f.taken.Contents == nil {
		return problem(http.StatusConflict, "Nothing was taken.", strconv.Itoa(f.taken.Count(tabular.Wrong))+" rows are wrong: mend the file, or leave their columns out.")
	}
	for i, l := range f.layouts {
		fields := map[string]string{}
		for _, col := range l.Columns {
			if col.Head != "" && !col.Named {
				fields[col.Head] = col.Field
			}
		}
		if err := s.store.Remember(c.Request().Context(), f.layouts[i].Kind, fields); err != nil {
			return err
		}
	}
	lines, flush := s.lines(c)
	say := func(step FileStep) {
		if err := errors.Join(lines.Encode(step), flush.Flush()); err != nil {
			s.log.Debug("progress not sent", "err", err) // the work goes on, or its context ends it
		}
	}
	all := len(f.taken.Contents.Displays) + len(f.taken.Contents.Brackets)
	n, err := s.store.Import(c.Request().Context(), author(c, "From "+f.name), "Import of "+f.name, f.taken.Contents, f.against, func(done, of int) { say(FileStep{Done: done, Of: of}) })
	if err != nil {
		s.log.Error("import failed", "err", err)
		say(FileStep{Of: all, Failed: describe(err)})
		return nil
	}
	f.done, f.taken = true, tabular.Taken{}
	say(FileStep{Done: all, Of: all, Imported: &n})
	return nil
}

// lines begins an answer of JSON, a line at a time, for work that takes a
// while.
func (s *Server) lines(c *echo.Context) (*json.Encoder, *http.ResponseController) {
	w := c.Response()
	w.Header().Set("Content-Type", "application/x-ndjson")
	w.Header().Set("Cache-Control", "no-store")
	flush := http.NewResponseController(w)
	return json.NewEncoder(newPatient(w, flush)), flush
}

// Undone says what undid a batch.
type Undone struct {
	Batch int64 `json:"batch" required:"true"`
}

// undoBatch brings back what was before a batch.
func (s *Server) undoBatch(c *echo.Context) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	n, err := s.store.Undo(c.Request().Context(), author(c, "").Who, id)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, Undone{n})
}
