package tabular

import (
	"encoding/json"
	"strings"

	"nexufix/core/catalog"
	"nexufix/exchange"
)

// existing finds what is in the catalogue, by id and by name.
type existing struct {
	displays map[string]*catalog.Display
	brackets map[string]*catalog.Bracket
	named    map[string]string // id by kind and name
}

func newExisting(c *exchange.Contents) existing {
	s := existing{map[string]*catalog.Display{}, map[string]*catalog.Bracket{}, map[string]string{}}
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
func (s *existing) document(kind, id string) []byte {
	var v any
	if kind == Displays && s.displays[id] != nil {
		v = s.displays[id]
	} else if kind == Brackets && s.brackets[id] != nil {
		v = s.brackets[id]
	} else {
		return nil
	}
	raw, _ := json.Marshal(v) // the format's own types
	return raw
}

func parsed(raw []byte) map[string]any {
	d := json.NewDecoder(strings.NewReader(string(raw)))
	d.UseNumber()
	var m map[string]any
	_ = d.Decode(&m) // the format's own writing
	return m
}
