package tabular

import (
	"reflect"

	"nexufix/exchange"
)

// seldom are the lists of which a table seldom has more than a single table of its own could say: their columns are read, and not offered.
var seldom = map[string]bool{"holes": true, "trials": true, "own_parts": true, "assembly": true, "settings": true}

// Fields lists the columns that a person may choose for a kind of table: every member of the format, and of a list its first.
func Fields(kind string) []string {
	t, ok := types[kind]
	if !ok {
		return nil
	}
	var out []string
	if kind == Kits {
		out = append(out, "bracket")
	}
	return append(out, columnsOf(t, "")...)
}

// columnsOf lists the columns of a type of the format.
func columnsOf(t reflect.Type, prefix string) (out []string) {
	for _, m := range exchange.Members(t) {
		switch {
		case apart[m.Name] || seldom[m.Name] || exchange.Bare(m.Type).Kind() == reflect.Map:
		case m.Name == "rows":
			for _, side := range []string{"", "top.", "bottom."} {
				out = append(out, columnsOf(exchange.Bare(exchange.Members(m.Type)[0].Type), prefix+side)...)
			}
		case objects(m.Type):
			if prefix == "" && m.Name == "patterns" {
				out = append(out, pattern) // its size in words
			}
			out = append(out, columnsOf(exchange.Bare(m.Type.Elem()), prefix+singular[m.Name]+"1.")...)
		case exchange.Object(m.Type):
			out = append(out, columnsOf(m.Type, prefix+m.Name+".")...)
		default:
			out = append(out, prefix+m.Name)
		}
	}
	return out
}
