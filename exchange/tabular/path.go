// Package tabular reads and writes the catalogue as tables: CSV files and
// workbooks, with one row a display, a bracket or a part of a kit.
//
// A column is named by where its figures go in the exchange format, flattened:
// "mass_kg", "pattern1.width_mm", "pattern1.top.thread_depth_mm". Files that
// never saw the format are read by recognising what people call these things.
package tabular

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"nexufix/core/catalog"
	"nexufix/exchange"
)

// The kinds of table.
const (
	Displays = "displays"
	Brackets = "brackets"
	Kits     = "kit"
)

// KitItem is a row of a kit table: a part, and the bracket whose box it is in.
type KitItem struct {
	Bracket string `json:"bracket" required:"true"`
	catalog.Item
}

var types = map[string]reflect.Type{
	Displays: reflect.TypeFor[catalog.Display](),
	Brackets: reflect.TypeFor[catalog.Bracket](),
	Kits:     reflect.TypeFor[catalog.Item](),
}

// singular names one of a list.
var singular = map[string]string{
	"patterns": "pattern", "holes": "hole", "zones": "zone", "own_parts": "own_part", "trials": "trial", "settings": "setting",
	"assembly": "own_step", "parts": "part",
}

// apart are the lists that have a table of their own.
var apart = map[string]bool{"kit": true}

// objects says of a type that its values are lists of objects.
func objects(t reflect.Type) bool {
	return t.Kind() == reflect.Slice && exchange.Object(exchange.Bare(t.Elem()))
}

// step is a piece of a place in a document: a field, or an index.
type step struct {
	name  string
	index int // -1 for a field
}

// target is where a column's cells go: one place, or two where a column
// stands for both rows of holes.
type target struct {
	steps  [][]step
	typ    reflect.Type // of the value
	suffix string       // unit of the field's name, "" when it has none
}

var suffixes = map[reflect.Type]string{
	reflect.TypeFor[exchange.MM](): "_mm", reflect.TypeFor[exchange.KG](): "_kg", reflect.TypeFor[exchange.Deg](): "_deg",
}

// places finds where a column's name leads in a kind of document; false when
// it leads nowhere.
func places(kind, column string) (target, bool) {
	t, ok := types[kind]
	if !ok {
		return target{}, false
	}
	if kind == Kits && column == "bracket" {
		return target{steps: [][]step{{{"bracket", -1}}}, typ: reflect.TypeFor[string]()}, true
	}
	return lead(t, strings.Split(column, "."), nil)
}

func lead(t reflect.Type, words []string, at []step) (target, bool) {
	for _, m := range exchange.Members(t) {
		if apart[m.Name] {
			continue
		}
		if objects(m.Type) {
			number, is := strings.CutPrefix(words[0], singular[m.Name])
			n, err := strconv.Atoi(number)
			if !is || err != nil || n < 1 || n > 99 || len(words) < 2 {
				continue
			}
			return lead(exchange.Bare(m.Type.Elem()), words[1:], append(slices.Clone(at), step{m.Name, -1}, step{"", n - 1}))
		}
		if m.Name == "rows" {
			if got, ok := leadRows(m, words, at); ok {
				return got, true
			}
			continue
		}
		suffix := suffixes[m.Type]
		switch {
		case words[0] != m.Name && (suffix == "" || words[0] != strings.TrimSuffix(m.Name, suffix)):
			continue
		case exchange.Object(m.Type) && len(words) > 1:
			return lead(m.Type, words[1:], append(slices.Clone(at), step{m.Name, -1}))
		case exchange.Object(m.Type) || len(words) > 1:
			return target{}, false
		}
		if !strings.HasSuffix(m.Name, suffix) {
			suffix = ""
		}
		return target{steps: [][]step{append(slices.Clone(at), step{m.Name, -1})}, typ: m.Type, suffix: suffix}, true
	}
	return target{}, false
}

// leadRows goes through the rows of a pattern: "top.x", "bottom.x", or "x" for
// both.
func leadRows(m exchange.Member, words []string, at []step) (target, bool) {
	rows := append(slices.Clone(at), step{m.Name, -1})
	if words[0] == "top" || words[0] == "bottom" {
		if len(words) < 2 {
			return target{}, false
		}
		return lead(exchange.Bare(exchange.Members(m.Type)[0].Type), words[1:], append(rows, step{words[0], -1}))
	}
	top, ok := lead(exchange.Bare(exchange.Members(m.Type)[0].Type), words, append(slices.Clone(rows), step{"top", -1}))
	bottom, _ := lead(exchange.Bare(exchange.Members(m.Type)[0].Type), words, append(slices.Clone(rows), step{"bottom", -1}))
	top.steps = append(top.steps, bottom.steps...)
	return top, ok
}

// cell is one figure of a document with its column.
type cell struct {
	column string
	order  []int // for the order of columns
	text   string
	number bool
}

// flatten lists the cells of a document of a kind, except what has a table of
// its own.
func flatten(t reflect.Type, doc any, prefix string, order []int) []cell {
	var out []cell
	object, _ := doc.(map[string]any)
	for _, m := range exchange.Members(t) {
		value, ok := object[m.Name]
		if !ok || apart[m.Name] {
			continue
		}
		at := append(slices.Clone(order), m.Place)
		name := prefix + m.Name
		switch {
		case m.Name == "rows":
			out = append(out, flatten(m.Type, value, prefix, at)...)
		case objects(m.Type):
			for i, one := range value.([]any) {
				out = append(out, flatten(exchange.Bare(m.Type.Elem()), one, fmt.Sprintf("%s%s%d.", prefix, singular[m.Name], i+1),
					append(slices.Clone(at), i))...)
			}
		case exchange.Object(m.Type):
			out = append(out, flatten(m.Type, value, name+".", at)...)
		default:
			text, number := textOf(value)
			out = append(out, cell{name, at, text, number})
		}
	}
	return out
}

// textOf writes a value into a cell: a list of plain words with commas between
// them, anything else that is not plain as JSON.
func textOf(value any) (text string, number bool) {
	switch v := value.(type) {
	case string:
		return v, false
	case json.Number:
		return v.String(), true
	case bool:
		return strconv.FormatBool(v), false
	case []any:
		var words []string
		for _, x := range v {
			w, ok := x.(string)
			if !ok || w != strings.TrimSpace(w) || w == "" || strings.ContainsAny(w, `,"[`) {
				words = nil
				break
			}
			words = append(words, w)
		}
		if words != nil {
			return strings.Join(words, ", "), false
		}
	}
	raw, _ := json.Marshal(value) // it came from JSON
	return string(raw), false
}

// set puts a value at a place of a document, making what is missing on the
// way. It fails where a list would have a gap.
func set(doc map[string]any, at []step, value any) error {
	here := doc
	for i := 0; i < len(at)-1; i++ {
		name := at[i].name
		if i+1 < len(at) && at[i+1].index >= 0 {
			list, _ := here[name].([]any)
			n := at[i+1].index
			if n > len(list) {
				return fmt.Errorf("there is no %s%d before it", singular[name], n)
			}
			if n == len(list) {
				list = append(list, map[string]any{})
				here[name] = list
			}
			here, _ = list[n].(map[string]any)
			i++
			continue
		}
		next, ok := here[name].(map[string]any)
		if !ok {
			next = map[string]any{}
			here[name] = next
		}
		here = next
	}
	here[at[len(at)-1].name] = value
	return nil
}

// pathOf writes a place as the reader's problems do.
func pathOf(at []step) string {
	var b strings.Builder
	for _, s := range at {
		if s.index >= 0 {
			fmt.Fprintf(&b, "[%d]", s.index)
			continue
		}
		if b.Len() > 0 {
			b.WriteByte('.')
		}
		b.WriteString(s.name)
	}
	return b.String()
}
