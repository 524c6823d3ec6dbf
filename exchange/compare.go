package exchange

import (
	"bytes"
	"encoding/json"
	"slices"
	"strings"
)

// Change is a figure that differs between two documents: where, and its
// value before and after, as JSON without quotes around texts. Empty means absent.
type Change struct {
	Path   string `json:"path" required:"true"`
	Before string `json:"before" required:"true"`
	After  string `json:"after" required:"true"`
}

// Compare lists what differs between two documents of one kind, by path.
func Compare(before, after []byte) []Change {
	a, b := leaves(before), leaves(after)
	var out []Change
	for path, was := range a {
		if is := b[path]; is != was {
			out = append(out, Change{path, was, is})
		}
	}
	for path, is := range b {
		if _, had := a[path]; !had {
			out = append(out, Change{path, "", is})
		}
	}
	slices.SortFunc(out, func(x, y Change) int { return strings.Compare(x.Path, y.Path) })
	return out
}

// leaves returns the figures of a document by path; none of what is not a document.
func leaves(raw []byte) map[string]string {
	d := json.NewDecoder(bytes.NewReader(raw))
	d.UseNumber()
	var v any
	out := map[string]string{}
	if d.Decode(&v) == nil {
		leaf(out, "", v)
	}
	return out
}

func leaf(out map[string]string, path string, v any) {
	switch v := v.(type) {
	case map[string]any:
		for name, x := range v {
			leaf(out, join(path, name), x)
		}
	case []any:
		for i, x := range v {
			leaf(out, index(path, i), x)
		}
	case string:
		out[path] = v
	case nil:
	default:
		raw, _ := json.Marshal(v) // it came from JSON
		out[path] = string(raw)
	}
}
