package server

import (
	"encoding/json"
	"strings"
	"testing"
)

// TestDocumentSaysWhatEverythingIs: every property has a description, every number its size, and every operation a group that says what it
// is and an answer for what goes wrong. Redocly and Spectral hold the rest (make lint).
func TestDocumentSaysWhatEverythingIs(t *testing.T) {
	raw, err := OpenAPI()
	if err != nil {
		t.Fatal(err)
	}
	var doc struct {
		Tags  []struct{ Name, Description string }
		Paths map[string]map[string]struct {
			Tags      []string
			Responses map[string]any
		}
		Components struct {
			Schemas map[string]struct {
				Properties map[string]struct {
					Description, Format string
					Type                any
					Enum                []any
					Items               struct{ Enum []any }
				}
			}
		}
	}
	if err := json.Unmarshal(raw, &doc); err != nil {
		t.Fatal(err)
	}
	// Generated clients name the choices of a property by both names: it must not be that of another type.
	for name, s := range doc.Components.Schemas {
		for property, of := range s.Properties {
			if of.Enum == nil && of.Items.Enum == nil {
				continue // the type of another name
			}
			both := name
			for _, word := range strings.Split(property, "_") {
				both += strings.ToUpper(word[:min(1, len(word))]) + word[min(1, len(word)):]
			}
			if _, taken := doc.Components.Schemas[both]; taken {
				t.Errorf("%s is a type, and what clients call %s of %s", both, property, name)
			}
		}
	}
	said := map[string]bool{}
	for _, tag := range doc.Tags {
		said[tag.Name] = len(tag.Description) > 10
	}
	for path, ops := range doc.Paths {
		for method, op := range ops {
			if len(op.Tags) != 1 || !said[op.Tags[0]] || op.Responses["4XX"] == nil {
				t.Errorf("%s %s: %v", method, path, op.Tags)
			}
		}
	}
	n := 0
	for name, s := range doc.Components.Schemas {
		for property, p := range s.Properties {
			n++
			if len(p.Description) < 4 {
				t.Errorf("%s.%s says %q of itself", name, property, p.Description)
			}
			if p.Type == "number" && p.Format != "double" {
				t.Errorf("%s.%s is a number of no size", name, property)
			}
		}
	}
	if n < 1000 {
		t.Errorf("%d properties", n)
	}
}
