package tabular

import (
	"encoding/json"
	"errors"
	"fmt"
	"regexp"
	"runtime"
	"slices"
	"strings"
	"sync"
	"sync/atomic"

	"nexufix/core/catalog"
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
	LeftOut Outcome = "left_out"
)

// Problem is one thing wrong with a row, in a cell or, with a column of -1, as
// a whole.
type Problem struct {
	Column int
	Text   string
}

// Row is what becomes of one row of a sheet.
type Row struct {
	Sheet    int
	N        int // from 0, in the sheet
	ID, Name string
	Outcome  Outcome
	Problems []Problem
	Notes    []Problem // what is taken, but should be looked at
	Changes  []exchange.Change

	kind  string
	doc   map[string]any
	from  map[string]int // column of a path in the document
	have  []byte         // what is in the catalogue
	item  int            // of a part: its place in the box
	place []int          // where the file's patterns are in the document
}

// Taken is what becomes of a file. Contents is what to put into the catalogue,
// all of it new or changed; it is nil while a row is wrong.
type Taken struct {
	Rows     []Row
	Contents *exchange.Contents
}

// Count counts the rows of an outcome.
func (t *Taken) Count(o Outcome) (n int) {
	for i := range t.Rows {
		if t.Rows[i].Outcome == o {
			n++
		}
	}
	return n
}

// Take reads sheets against a catalogue. What a row says goes over what is
// there: a blank cell changes nothing, and nothing is written.
func Take(sheets []Sheet, have *exchange.Contents) Taken {
	k := taker{have: newShelf(have)}
	for i := range sheets {
		if sheets[i].Layout.Kind != Kits {
			k.sheet(i, &sheets[i])
		}
	}
	for i := range sheets {
		if sheets[i].Layout.Kind == Kits {
			k.kit(i, &sheets[i])
		}
	}
	k.twice()
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

// shelf finds what is in the catalogue, by id and by name.
type shelf struct {
	displays map[string]*catalog.Display
	brackets map[string]*catalog.Bracket
	named    map[string]string // id by kind and name
}

func newShelf(c *exchange.Contents) shelf {
	s := shelf{map[string]*catalog.Display{}, map[string]*catalog.Bracket{}, map[string]string{}}
	for _, d := range c.Displays {
		s.displays[d.ID] = d
		s.named[Displays+squeezed(d.Name())] = d.ID
		for _, a := range d.Aliases {
			s.named[Displays+squeezed(a)] = d.ID
		}
	}
	for _, b := range c.Brackets {
		s.brackets[b.ID] = b
		s.named[Brackets+squeezed(b.Name)] = b.ID
	}
	return s
}

// document is what the catalogue has of an id, nil for nothing.
func (s *shelf) document(kind, id string) []byte {
	var v any
	if kind == Displays && s.displays[id] != nil {
		v = exchange.DisplayOf(s.displays[id])
	} else if kind == Brackets && s.brackets[id] != nil {
		v = exchange.BracketOf(s.brackets[id])
	} else {
		return nil
	}
	raw, _ := json.Marshal(v) // the format's own types
	return raw
}

// squeezed is a name without case, spaces and signs.
func squeezed(s string) string {
	return strings.ToLower(notWord.ReplaceAllString(s, ""))
}

var notWord = regexp.MustCompile(`[^\pL\pN]+`)

// slug makes an id of a name.
func slug(name string) string {
	var b strings.Builder
	for _, r := range strings.ToLower(name) {
		switch {
		case r >= 'a' && r <= 'z', r >= '0' && r <= '9':
			b.WriteRune(r)
		case b.Len() > 0 && !strings.HasSuffix(b.String(), "-"):
			b.WriteByte('-')
		}
	}
	id := strings.Trim(b.String(), "-")
	return strings.Trim(id[:min(len(id), 80)], "-")
}

type taker struct {
	have shelf
	out  Taken
}

// columns are the targets of a layout, in the order their cells are set:
// whole patterns before the figures of one.
type placed struct {
	column int
	at     target
}

func (l *Layout) placed() (whole int, rest []placed) {
	whole = -1
	for i := range l.Columns {
		f := l.Columns[i].Field
		if f == pattern && l.Kind == Displays {
			whole = i
			continue
		}
		if t, ok := places(l.Kind, f); ok {
			rest = append(rest, placed{i, t})
		}
	}
	slices.SortStableFunc(rest, func(a, b placed) int { return strings.Compare(l.Columns[a.column].Field, l.Columns[b.column].Field) })
	return whole, rest
}

// sheet reads displays or brackets, on all cores.
func (k *taker) sheet(index int, s *Sheet) {
	whole, columns := s.Layout.placed()
	first := min(s.Layout.Head+s.Layout.HeadRows, len(s.Table.Rows))
	rows := make([]Row, len(s.Table.Rows)-first)
	each(len(rows), func(i int) {
		cells := s.Table.Rows[first+i]
		if blank(cells) {
			return
		}
		r := &rows[i]
		*r = Row{Sheet: index, N: first + i, kind: s.Layout.Kind, from: map[string]int{}}
		r.name(s, cells, &k.have)
		if r.ID == "" {
			r.Outcome = LeftOut
			return
		}
		r.doc = map[string]any{}
		if r.have = k.have.document(r.kind, r.ID); r.have != nil {
			r.doc = parsed(r.have)
		}
		r.doc["id"] = r.ID
		if whole >= 0 && whole < len(cells) && !unknown(cells[whole]) {
			r.patterns(whole, cells[whole])
		}
		for _, c := range columns {
			if c.column < len(cells) && !unknown(cells[c.column]) {
				r.cell(&s.Layout.Columns[c.column], c, cells[c.column], s.Table.Comma)
			}
		}
	})
	for i := range rows {
		if rows[i].kind != "" {
			k.out.Rows = append(k.out.Rows, rows[i])
		}
	}
}

// each does something n times, on all cores.
func each(n int, do func(int)) {
	var next atomic.Int64
	var all sync.WaitGroup
	for range runtime.GOMAXPROCS(0) {
		all.Go(func() {
			for i := int(next.Add(1)) - 1; i < n; i = int(next.Add(1)) - 1 {
				do(i)
			}
		})
	}
	all.Wait()
}

// name finds what a row is about: by id, else by what it is called.
func (r *Row) name(s *Sheet, cells []string, have *shelf) {
	text := map[string]string{}
	filled := 0
	for i, c := range s.Layout.Columns {
		if i < len(cells) && c.Field != "" && !unknown(cells[i]) {
			text[c.Field] = cells[i]
			filled++
		}
	}
	r.Name = strings.TrimSpace(text["maker"] + " " + text["model"])
	if r.kind == Brackets {
		r.Name = text["name"]
	}
	r.ID = text["id"]
	if r.ID == "" && (text["model"] != "" || text["name"] != "") && filled > 1 {
		if r.ID = have.named[r.kind+squeezed(r.Name)]; r.ID == "" {
			r.ID = slug(r.Name)
		}
	}
	if r.Name == "" {
		r.Name = r.ID
	}
}

// patterns sets whole hole patterns. Those that are there keep what else is
// known of them and their place, and none is taken out; new ones come after.
func (r *Row) patterns(column int, text string) {
	list, err := holePatterns(text)
	if err != nil {
		r.wrong(column, fmt.Sprintf("%q: expected is %v", text, err))
		return
	}
	all, _ := r.doc["patterns"].([]any)
	for _, p := range list {
		at := slices.IndexFunc(all, func(h any) bool {
			old, _ := h.(map[string]any)
			return fmt.Sprint(old["width_mm"], old["height_mm"]) == fmt.Sprint(p["width_mm"], p["height_mm"])
		})
		if at < 0 {
			at = len(all)
			all = append(all, map[string]any{})
		}
		for name, v := range p {
			all[at].(map[string]any)[name] = v
			r.from[fmt.Sprintf("patterns[%d].%s", at, name)] = column
		}
		r.place = append(r.place, at)
	}
	r.doc["patterns"] = all
}

// moved is a place in the document with the n-th pattern of the file where
// that is in the document.
func (r *Row) moved(at []step) []step {
	at = slices.Clone(at)
	if len(at) > 1 && at[0].name == "patterns" && at[1].index < len(r.place) {
		at[1].index = r.place[at[1].index]
	}
	return at
}

// cell sets one cell's figure.
func (r *Row) cell(c *Column, p placed, text string, comma bool) {
	name, value, err := c.value(p.at, text, comma)
	if err != nil {
		r.wrong(p.column, fmt.Sprintf("%q: expected is %v", text, err))
		return
	}
	if note := c.note(text); note != "" {
		r.Notes = append(r.Notes, Problem{p.column, note})
	}
	for _, at := range p.at.steps {
		at = r.moved(at)
		field := at[len(at)-1].name
		if c.rounds(text, valueAt(r.doc, at)) {
			continue
		}
		at[len(at)-1].name = name(field)
		if err := set(r.doc, at, value); err != nil {
			r.wrong(p.column, err.Error())
			return
		}
		// A document has a figure once: with its unit in the name, or without.
		if p.at.suffix != "" {
			other := slices.Clone(at)
			other[len(other)-1].name = field
			if name(field) == field {
				other[len(other)-1].name = strings.TrimSuffix(field, p.at.suffix)
			}
			unset(r.doc, other)
		}
		r.from[pathOf(at)] = p.column
	}
}

// valueAt is what is at a place of a document, nil when nothing is.
func valueAt(doc map[string]any, at []step) any {
	var here any = doc
	for _, s := range at {
		switch v := here.(type) {
		case map[string]any:
			here = v[s.name]
		case []any:
			if s.index < 0 || s.index >= len(v) {
				return nil
			}
			here = v[s.index]
		default:
			return nil
		}
	}
	return here
}

func unset(doc map[string]any, at []step) {
	here := doc
	for i := 0; i < len(at)-1; i++ {
		if i+1 < len(at) && at[i+1].index >= 0 {
			list, _ := here[at[i].name].([]any)
			if at[i+1].index >= len(list) {
				return
			}
			here, _ = list[at[i+1].index].(map[string]any)
			i++
			continue
		}
		here, _ = here[at[i].name].(map[string]any)
	}
	delete(here, at[len(at)-1].name)
}

func (r *Row) wrong(column int, text string) {
	r.Problems = append(r.Problems, Problem{column, text})
	r.Outcome = Wrong
}

// kit reads parts, and puts them into the boxes of their brackets in place of
// what was in them.
func (k *taker) kit(index int, s *Sheet) {
	_, columns := s.Layout.placed()
	boxes := map[string]*Row{} // the row that carries a bracket's document
	for i := range k.out.Rows {
		if r := &k.out.Rows[i]; r.kind == Brackets && r.doc != nil {
			boxes[r.ID] = r
		}
	}
	var rows []Row
	var begun = map[string]bool{}
	for n := min(s.Layout.Head+s.Layout.HeadRows, len(s.Table.Rows)); n < len(s.Table.Rows); n++ {
		cells := s.Table.Rows[n]
		if blank(cells) {
			continue
		}
		r := Row{Sheet: index, N: n, kind: Kits, doc: map[string]any{}, from: map[string]int{}}
		for _, c := range columns {
			if c.column < len(cells) && !unknown(cells[c.column]) {
				r.cell(&s.Layout.Columns[c.column], c, cells[c.column], s.Table.Comma)
			}
		}
		name, _ := r.doc["bracket"].(string)
		delete(r.doc, "bracket")
		id := name
		if boxes[id] == nil && k.have.brackets[id] == nil {
			id = k.have.named[Brackets+squeezed(name)]
		}
		r.ID, r.Name = id, name
		switch {
		case name == "" && len(r.doc) < 2:
			r.Outcome, r.doc = LeftOut, nil
		case boxes[id] == nil && k.have.brackets[id] == nil:
			r.wrong(-1, fmt.Sprintf("no bracket %q is in the catalogue or the file", name))
		}
		if r.Outcome == "" || r.Outcome == Wrong && id != "" {
			box := boxes[id]
			if box == nil {
				box = &Row{Sheet: index, N: -1, ID: id, kind: Brackets, from: map[string]int{}, have: k.have.document(Brackets, id)}
				box.doc = parsed(box.have)
				boxes[id] = box
			}
			if !begun[id] {
				box.doc["kit"] = []any{}
				begun[id] = true
			}
			kit := box.doc["kit"].([]any)
			r.item = len(kit)
			box.doc["kit"] = append(kit, r.doc)
		}
		rows = append(rows, r)
	}
	// Brackets that the file has kits for, and no row of their own.
	for _, id := range slices.Sorted(mapsKeys(boxes)) {
		if b := boxes[id]; b.N < 0 {
			rows = append(rows, *b)
		}
	}
	k.out.Rows = append(k.out.Rows, rows...)
}

func mapsKeys[V any](m map[string]V) func(func(string) bool) {
	return func(yield func(string) bool) {
		for k := range m {
			if !yield(k) {
				return
			}
		}
	}
}

func parsed(raw []byte) map[string]any {
	d := json.NewDecoder(strings.NewReader(string(raw)))
	d.UseNumber()
	var m map[string]any
	_ = d.Decode(&m) // the format's own writing
	return m
}

// twice refuses rows for one id.
func (k *taker) twice() {
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
func (k *taker) judge() {
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
			k.blame(r, kits[r.ID], p)
		}
		if r.Outcome == Wrong {
			wrong = true
			continue
		}
		r.Outcome = New
		if r.have != nil {
			r.Changes = exchange.Compare(r.have, afterOf(one))
			if r.forgets() {
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
	if !wrong {
		k.out.Contents = c
	}
}

// forgets gives figures that the file changes or adds the origin of a data
// sheet, when it says nothing of their origin, and takes away what was noted of
// them: what was measured on the bench was another figure.
func (r *Row) forgets() (some bool) {
	_, whole := r.from["origin"]
	if _, each := r.from["origins"]; each || whole || r.kind != Displays {
		return false
	}
	all, _ := r.doc["origin"].(string)
	origins, _ := r.doc["origins"].(map[string]any)
	notes, _ := r.doc["notes"].(map[string]any)
	for _, c := range r.Changes {
		if c.After == "" || !figurePath.MatchString(c.Path) {
			continue
		}
		was, own := origins[c.Path].(string)
		if !own {
			was = all
		}
		if _, noted := notes[c.Path]; noted {
			delete(notes, c.Path)
			some = true
		}
		if was == "" || was == sheet {
			continue
		}
		some = true
		if all == "" || all == sheet {
			delete(origins, c.Path)
		} else {
			if origins == nil {
				origins = map[string]any{}
				r.doc["origins"] = origins
			}
			origins[c.Path] = sheet
		}
		if c.Before != "" {
			r.Notes = append(r.Notes, Problem{r.columnOf(c.Path), fmt.Sprintf("goes over a figure of origin %v", was)})
		}
	}
	return some
}

// sheet is the origin of a figure of which nothing is said.
const sheet = "sheet"

// figurePath matches the figures that are measured.
var figurePath = regexp.MustCompile(`^((diagonal|width|height|depth|rest_plane_from_front)_mm|mass(_with_stand)?_kg)$|\.(thread_depth|recess|recess_diameter|setback)_mm$`)

// columnOf is the column a figure came from, -1 for none.
func (r *Row) columnOf(path string) int {
	for _, name := range []string{path, strings.TrimSuffix(strings.TrimSuffix(path, "_mm"), "_kg")} {
		if column, ok := r.from[name]; ok {
			return column
		}
	}
	return -1
}

// reading is what came of reading a row's document.
type reading struct {
	contents *exchange.Contents
	problems exchange.Problems
}

// readAll reads the documents of all rows.
func (k *taker) readAll() []reading {
	out := make([]reading, len(k.out.Rows))
	each(len(out), func(i int) {
		if r := &k.out.Rows[i]; r.doc != nil && r.kind != Kits {
			out[i].contents, out[i].problems = r.read()
		}
	})
	return out
}

func afterOf(c *exchange.Contents) []byte {
	var v any
	if len(c.Displays) > 0 {
		v = exchange.DisplayOf(c.Displays[0])
	} else {
		v = exchange.BracketOf(c.Brackets[0])
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

// blame puts a problem of the reader into the cell it came from.
func (k *taker) blame(r *Row, kit []*Row, p exchange.Problem) {
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
	r.wrong(-1, strings.TrimSpace(path+" "+text))
}
