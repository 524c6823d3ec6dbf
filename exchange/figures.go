package exchange

import (
	"encoding/json"

	"nexufix/core/catalog"
)

// Figures returns the paths of the figures and words that a display gives, except for its trial bolts.
func Figures(d *catalog.Display) ([]string, error) {
	raw, err := json.Marshal(d)
	if err != nil {
		return nil, err
	}
	var problems Problems
	n := parseJSON(raw, &problems)
	if n == nil {
		return nil, problems
	}
	var out []string
	n.figures("", &out)
	return out, nil
}

func (n *node) figures(path string, out *[]string) {
	switch n.kind {
	case number, text:
		*out = append(*out, path)
	case list:
		for i := range n.items() {
			n.in.items[i].figures(index(path, i), out)
		}
	case object:
		for i, name := range n.names() {
			if name != "trials" && name != "origins" && name != "notes" {
				n.in.items[i].figures(join(path, name), out)
			}
		}
	}
}
