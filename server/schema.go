package server

import (
	"bytes"
	"encoding/json"
	"net/http"
	"reflect"
	"strings"

	"github.com/labstack/echo/v5"
	"github.com/swaggest/jsonschema-go"

	"nexufix/core/catalog"
	"nexufix/exchange"
	"nexufix/store"
)

// schemaTypes are the kinds of item in the exchange format.
var schemaTypes = map[string]any{
	"document": exchange.Document{}, "display": catalog.Display{}, "bracket": catalog.Bracket{}, "policy": exchange.PolicySettings{},
	"job": catalog.Job{},
}

// SchemaKinds lists the kinds that have a schema.
var SchemaKinds = []string{"document", "display", "bracket", "policy", "job"}

// Schema returns the JSON Schema of a kind. A figure can also be given as a text, with a name without its
// unit: "width": "48 3/8 in".
func Schema(kind string) ([]byte, error) {
	r := jsonschema.Reflector{}
	mapTypes(&r)
	s, err := r.Reflect(schemaTypes[kind], jsonschema.InterceptProp(fixProperty), jsonschema.InterceptSchema(strict),
		jsonschema.InterceptDefName(func(_ reflect.Type, name string) string { return strings.TrimPrefix(name, "Exchange") }))
	if err != nil {
		return nil, err
	}
	s.WithSchema("https://json-schema.org/draft/2020-12/schema").WithTitle("Nexufix " + kind + ", " + exchange.Format)
	s.WithID("urn:" + strings.ReplaceAll(exchange.Format, "/", ":") + ":" + kind)
	raw, err := json.MarshalIndent(s, "", "  ")
	// The library writes the name that drafts before 2019 had for them.
	raw = bytes.ReplaceAll(raw, []byte(`"#/definitions/`), []byte(`"#/$defs/`))
	return bytes.Replace(raw, []byte(`"definitions": {`), []byte(`"$defs": {`), 1), err
}

// strict allows no other fields, and for each figure a text with a name without the
// unit.
func strict(p jsonschema.InterceptSchemaParams) (bool, error) {
	if !p.Processed || !p.Value.IsValid() || p.Schema.Properties == nil {
		return false, nil
	}
	if t := p.Value.Type(); t.Kind() != reflect.Struct && (t.Kind() != reflect.Pointer || t.Elem().Kind() != reflect.Struct) {
		return false, nil
	}
	no := false
	p.Schema.WithAdditionalProperties(jsonschema.SchemaOrBool{TypeBoolean: &no})
	text := jsonschema.String.ToSchemaOrBool()
	text.TypeObject.WithDescription("The same with a unit: 48 3/8 in, 12.5 kg.")
	var required []string
	for name := range p.Schema.Properties {
		for _, suffix := range []string{"_mm", "_kg", "_deg"} {
			bare := strings.TrimSuffix(name, suffix)
			if _, there := p.Schema.Properties[bare]; bare != name && !there && p.Schema.Properties[name].TypeObject != nil &&
				p.Schema.Properties[name].TypeObject.HasType(jsonschema.Number) {
				p.Schema.Properties[bare] = text
			}
		}
	}
	for _, name := range p.Schema.Required {
		bare := strings.TrimSuffix(strings.TrimSuffix(strings.TrimSuffix(name, "_mm"), "_kg"), "_deg")
		if _, either := p.Schema.Properties[bare]; bare != name && either {
			continue // one of the two is required: the reader reports it
		}
		required = append(required, name)
	}
	p.Schema.Required = required
	return false, nil
}

type schemaOf struct {
	Kind string `path:"kind" enum:"document,display,bracket,policy,job"`
}

// schema answers with the JSON Schema of a kind.
func (s *Server) schema(c *echo.Context) error {
	kind := strings.TrimSuffix(c.Param("kind"), ".json")
	if schemaTypes[kind] == nil {
		return store.ErrNotFound
	}
	raw, err := Schema(kind)
	if err != nil {
		return err
	}
	return c.Blob(http.StatusOK, "application/schema+json", raw)
}
