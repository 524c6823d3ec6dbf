package tabular

import (
	"cmp"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"github.com/gosimple/unidecode"
	"golang.org/x/text/unicode/norm"

	"nexufix/exchange"
)

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
	named bool // it has a name that tells it from a heading
	lone  bool // it has a name, and nothing else
	doc   map[string]any
	from  map[string]int // column of a path in the document
	have  []byte         // what is in the catalogue
	item  int            // of a part: its place in the box
	place []int          // where the file's patterns are in the document
}

// squeezed is a name without case, spaces and signs, unless it has nothing else.
// A plus tells models apart.
func squeezed(s string) string {
	s = strings.ToLower(norm.NFKC.String(s))
	return cmp.Or(notWord.ReplaceAllString(s, ""), strings.TrimSpace(s))
}

var notWord = regexp.MustCompile(`[^\pL\pN\pM+]+`)

// slug makes an id of a name, in Latin letters whatever script it is in. A name
// of signs alone is told by their numbers.
func slug(name string) string {
	var b strings.Builder
	for _, r := range strings.ToLower(unidecode.Unidecode(name)) {
		switch {
		case r >= 'a' && r <= 'z', r >= '0' && r <= '9':
			b.WriteRune(r)
		case b.Len() > 0 && !strings.HasSuffix(b.String(), "-"):
			b.WriteByte('-')
		}
	}
	id := strings.Trim(b.String(), "-")
	if id == "" {
		id = fmt.Sprintf("x%x", name)
	}
	return strings.Trim(id[:min(len(id), longestSlug)], "-")
}

// longestSlug leaves room for a number within the 80 letters of an id.
const longestSlug = 72

// ids gives the rows of a sheet their ids where the file has none. What is in
// the catalogue is found by its name, or by its id given as a name; a new name has
// an id of its own, also when it would be another's: nothing is replaced because
// two names sound alike.
func (k *previewer) ids(rows []Row) {
	for i := range rows {
		r := &rows[i]
		if r.ID != "" {
			k.taken[r.kind+r.ID] = squeezed(r.Name)
		}
	}
	for i := range rows {
		r := &rows[i]
		if r.ID != "" || !r.named {
			continue
		}
		name := squeezed(r.Name)
		if r.ID = k.have.named[r.kind+name]; r.ID == "" {
			id := slug(r.Name)
			for n := 2; ; n++ {
				if r.ID = id; n > 2 {
					r.ID = fmt.Sprintf("%s-%d", id, n-1)
				}
				other, used := k.taken[r.kind+r.ID]
				if used && other == name || !used && (k.have.document(r.kind, r.ID) == nil || squeezed(r.ID) == name) {
					break
				}
			}
		}
		k.taken[r.kind+r.ID] = name
	}
}

// columns are the targets of a layout, in the order their cells are set:
// whole patterns before the figures of one.
type placed struct {
	column int
	at     target
}

func (l *Layout) placed() (whole []int, rest []placed) {
	for i := range l.Columns {
		f := l.Columns[i].Field
		if f == pattern && l.Kind == Displays {
			whole = append(whole, i)
			continue
		}
		if t, ok := places(l.Kind, f); ok {
			rest = append(rest, placed{i, t})
		}
	}
	slices.SortStableFunc(rest, func(a, b placed) int {
		return strings.Compare(counted(l.Columns[a.column].Field), counted(l.Columns[b.column].Field))
	})
	return whole, rest
}

var digits = regexp.MustCompile(`\d+`)

// counted is a column's field as columns are ordered: the tenth of a list behind the ninth.
func counted(field string) string {
	return digits.ReplaceAllStringFunc(field, func(n string) string { return strings.Repeat("0", max(0, 6-len(n))) + n })
}

// name finds what a row is about: its id, and what it is called.
func (r *Row) name(s *Sheet, cells []string) {
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
	r.named = r.Outcome != Ignored && (text["model"] != "" || text["name"] != "") && filled > 1
	r.lone = text["model"] != "" || text["name"] != ""
	if r.Name == "" {
		r.Name = r.ID
	}
}

// heightFirst is the head of a column whose patterns have their height first: "VESA (HxW)".
var heightFirst = regexp.MustCompile(`(?i)\b(h|v|height|vertical)\s*[x×*/]\s*(w|h|width|horizontal)\b`)

// patterns sets whole hole patterns. Those that are there keep what else is
// known of them and their place, and none is taken out; new ones come after.
func (r *Row) patterns(column int, c *Column, text string) {
	list, err := holePatterns(text)
	if err == nil && c.Unit != "" && c.Unit != "mm" {
		err = errors.New("a hole pattern in millimetres, under a head that has no other unit")
	}
	if err != nil {
		r.wrong(column, fmt.Sprintf("%q: expected is %v", text, err))
		return
	}
	all, _ := r.doc["patterns"].([]any)
	for _, p := range list {
		if heightFirst.MatchString(c.Head) {
			p["width_mm"], p["height_mm"] = p["height_mm"], p["width_mm"]
		}
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
func (r *Row) cell(c *Column, p placed, text string, d Decimals) {
	name, value, err := c.value(p.at, text, d)
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
	if slices.Contains(r.Problems, Problem{column, text}) { // of a figure that both rows of holes have
		return
	}
	r.Problems = append(r.Problems, Problem{column, text})
	r.Outcome = Wrong
}

// resetOrigin gives figures that the file changes or adds the origin of a data
// sheet, when it says nothing of their origin, and takes away what was noted of
// them: what was measured on the bench was another figure.
func (r *Row) resetOrigin() (some bool) {
	_, whole := r.from["origin"]
	if _, each := r.from["origins"]; each || whole || r.kind != Displays {
		return false
	}
	all, _ := r.doc["origin"].(string)
	origins, _ := r.doc["origins"].(map[string]any)
	notes, _ := r.doc["notes"].(map[string]any)
	for _, c := range r.Changes {
		if c.After == "" || !figure(c.Path) {
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

// figure reports whether a path leads to a length or a mass: what has an origin.
func figure(path string) bool {
	return strings.HasSuffix(path, "_mm") || strings.HasSuffix(path, "_kg")
}

// columnOf is the column a figure came from, -1 for none.
func (r *Row) columnOf(path string) int {
	for _, name := range []string{path, strings.TrimSuffix(strings.TrimSuffix(path, "_mm"), "_kg")} {
		if column, ok := r.from[name]; ok {
			return column
		}
	}
	return -1
}
