package server

import (
	"encoding/json"
	"maps"
	"net/http"
	"path"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode"

	"github.com/labstack/echo/v5"
	"github.com/swaggest/jsonschema-go"
	"github.com/swaggest/openapi-go"
	"github.com/swaggest/openapi-go/openapi31"

	"nexufix/app/people"
	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
	"nexufix/exchange"
	"nexufix/server/api"
)

// echoPath turns {id} into :id.
func echoPath(p string) string {
	return strings.NewReplacer("{", ":", "}", "").Replace(p)
}

// OpenAPI generates the OpenAPI document from the routes and their Go types.
func OpenAPI() ([]byte, error) {
	r := openapi31.NewReflector()
	r.Spec.Info.WithTitle("Nexufix").WithVersion("1").WithDescription("Displays on brackets: judgement, drawings, templates and steps. " +
		"Documents are in the exchange format " + exchange.Format + ".")
	mapTypes(&r.Reflector)
	r.DefaultOptions = append(r.DefaultOptions,
		// Types are named without their packages.
		jsonschema.InterceptDefName(func(t reflect.Type, name string) string {
			if own := ownNames[t]; own != "" {
				return own
			}
			pkg := path.Base(t.PkgPath())
			return strings.TrimPrefix(name, strings.ToUpper(pkg[:1])+pkg[1:])
		}),
		jsonschema.InterceptProp(fixProperty),
	)
	for _, x := range new(Server).features() {
		op, err := r.NewOperationContext(x.Method, x.Path)
		if err != nil {
			return nil, err
		}
		op.SetSummary(x.Summary)
		if x.Needs() == people.Nobody {
			op.SetDescription("For everybody.")
		} else {
			op.SetDescription("Takes the role " + string(x.Needs()) + ".")
		}
		if x.Request != nil {
			op.AddReqStructure(x.Request)
		}
		op.AddRespStructure(x.Answer, func(cu *openapi.ContentUnit) {
			cu.HTTPStatus, cu.ContentType = x.Status, x.Kind
		})
		op.AddRespStructure(api.Problem{}, func(cu *openapi.ContentUnit) {
			cu.IsDefault, cu.ContentType, cu.Description = true, "application/problem+json", "What went wrong."
		})
		if err := r.AddOperation(op); err != nil {
			return nil, err
		}
	}
	raw, err := json.Marshal(r.Spec)
	if err != nil {
		return nil, err
	}
	return completed(raw, new(Server).features())
}

// versioned adds the headers of what has revisions to its operation.
func versioned(op map[string]any, method string) {
	type object = map[string]any
	header := func(words string) object { return object{"description": words, "schema": object{"type": "string"}} }
	answers := op["responses"].(object)
	if is, _ := answers["200"].(object); is != nil {
		is["headers"] = object{"ETag": header("The revision, in quotes.")}
	}
	if method == http.MethodPut {
		answers["201"] = object{"description": "Created", "content": answers["200"].(object)["content"],
			"headers": object{"ETag": header("The revision, in quotes."), "Location": header("Where it is.")}}
	}
	if method != http.MethodGet {
		list, _ := op["parameters"].([]any)
		op["parameters"] = append(list, object{"name": "If-Match", "in": "header", "schema": object{"type": "string"},
			"description": "The ETag that has to be there still; 412 when it is not."})
	}
}

// completed adds to a document what the library does not write: ids and groups of operations, who may ask, bodies that are files,
// and other forms of an answer.
func completed(raw []byte, routes []api.Route) ([]byte, error) {
	type object = map[string]any
	var doc object
	if err := json.Unmarshal(raw, &doc); err != nil {
		return nil, err
	}
	doc["servers"] = []any{object{"url": "/", "description": "Where this document is."}}
	parts, _ := doc["components"].(object)
	parts["securitySchemes"] = object{
		"token":   object{"type": "http", "scheme": "bearer", "description": "A token for scripts: make one on the page People."},
		"session": object{"type": "apiKey", "in": "cookie", "name": "nexufix", "description": "The session of a browser."},
	}
	file := object{"schema": object{"type": "string", "format": "binary"}}
	groups := map[string]bool{}
	for _, x := range routes {
		op := doc["paths"].(object)[x.Path].(object)[strings.ToLower(x.Method)].(object)
		op["operationId"] = operationID(x.Method, x.Path)
		group := strings.Split(strings.TrimPrefix(strings.TrimPrefix(x.Path, "/api"), "/"), "/")[0]
		group, _, _ = strings.Cut(group, ".")
		op["tags"], groups[group] = []string{group}, true
		op["security"] = []any{object{"token": []string{}}, object{"session": []string{}}}
		if x.Needs() == people.Nobody {
			op["security"] = []any{}
		}
		if x.Takes != "" {
			op["requestBody"] = object{"content": object{x.Takes: file}}
		}
		if body, is := op["requestBody"].(object); is {
			body["required"] = true
		}
		if _, text := x.Answer.(string); text && strings.Contains(x.Kind, "json") { // a document of another format
			op["responses"].(object)[strconv.Itoa(x.Status)].(object)["content"] = object{x.Kind: object{"schema": object{}}}
		}
		if x.Versioned {
			versioned(op, x.Method)
		}
		for _, kind := range x.Also {
			op["responses"].(object)[strconv.Itoa(x.Status)].(object)["content"].(object)[kind] = file
		}
	}
	var tags []any
	for _, group := range slices.Sorted(maps.Keys(groups)) {
		tags = append(tags, object{"name": group})
	}
	doc["tags"] = tags
	return json.MarshalIndent(doc, "", "  ")
}

// operationID names an operation: getDisplaysId.
func operationID(method, path string) string {
	out := strings.ToLower(method)
	between := func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) }
	for _, word := range strings.FieldsFunc(strings.TrimPrefix(path, "/api"), between) {
		out += strings.ToUpper(word[:1]) + word[1:]
	}
	return out
}

// ownNames are the names of types that would have that of another one.
var ownNames = map[reflect.Type]string{
	reflect.TypeFor[exchange.Problem]():     "FieldProblem",
	reflect.TypeFor[exchange.ProbeResult](): "HoleResult",
	reflect.TypeFor[exchange.Photo]():       "PhotoFile",
	reflect.TypeFor[anything]():             "AnyJSON",
	reflect.TypeFor[twoEnds]():              "OpenSpan",
}

// mapTypes maps the format's own types to JSON.
func mapTypes(r *jsonschema.Reflector) {
	for _, t := range exchange.Numbers {
		r.AddTypeMapping(t, float64(0))
	}
	for _, t := range exchange.OptionalNumbers {
		r.AddTypeMapping(t, new(float64))
	}
	r.AddTypeMapping(quantity.Optional[int]{}, new(int))
	r.AddTypeMapping(fastener.Interval{}, []float64{})
	r.AddTypeMapping(catalog.PatternSize{}, []float64{})
	r.AddTypeMapping(exchange.PolicySettings{}, catalog.Policy{})
	r.AddTypeMapping(exchange.Anything{}, anything{})
	r.AddTypeMapping(exchange.Span{}, twoEnds{})
}

// twoEnds is the schema of a length's two ends, of which an open one is null.
type twoEnds struct{}

func (twoEnds) JSONSchemaBytes() ([]byte, error) {
	return []byte(`{"type":"array","items":{"type":["number","null"]},"minItems":2,"maxItems":2}`), nil
}

// anything is the schema of any JSON.
type anything struct{}

func (anything) JSONSchemaBytes() ([]byte, error) { return []byte(`{}`), nil }

// fixProperty says what the tags mean here: limits of a list or table are
// those of its entries, and null is only where a field is always present.
func fixProperty(p jsonschema.InterceptPropParams) error {
	schema := p.PropertySchema
	if !p.Processed {
		return nil
	}
	kind := p.Field.Type.Kind()
	switch null := writesNull(p.Field); {
	case null && schema.Ref != nil:
		of, none := jsonschema.Schema{Ref: schema.Ref}, jsonschema.Schema{}
		none.AddType(jsonschema.Null)
		schema.Ref, schema.AnyOf = nil, []jsonschema.SchemaOrBool{of.ToSchemaOrBool(), none.ToSchemaOrBool()}
	case null:
		schema.AddType(jsonschema.Null)
	case schema.Type != nil:
		schema.RemoveType(jsonschema.Null)
	}
	if schema.Type == nil {
		return nil
	}
	var entry *jsonschema.Schema
	switch {
	case kind == reflect.Slice && schema.Items != nil && schema.Items.SchemaOrBool != nil:
		entry = schema.Items.SchemaOrBool.TypeObject
	case kind == reflect.Map && schema.AdditionalProperties != nil:
		entry = schema.AdditionalProperties.TypeObject
	}
	if entry == nil {
		wholeNumbers(schema)
	} else {
		entry.Enum, schema.Enum = schema.Enum, nil
		wholeNumbers(entry)
		entry.Minimum, schema.Minimum = schema.Minimum, nil
		entry.Maximum, schema.Maximum = schema.Maximum, nil
		entry.ExclusiveMinimum, schema.ExclusiveMinimum = schema.ExclusiveMinimum, nil
	}
	return nil
}

// writesNull reports whether a field may be written as null: by what encoding/json makes of it when it is not known, and not by
// what its type looks like.
func writesNull(f reflect.StructField) bool {
	if strings.Contains(f.Tag.Get("json"), ",omit") {
		return false
	}
	kind := f.Type.Kind()
	if kind == reflect.Slice || kind == reflect.Map { // these are written empty
		return false
	}
	if kind == reflect.Pointer || kind == reflect.Interface || f.Type == reflect.TypeFor[exchange.PolicySettings]() {
		return f.Tag.Get("required") != "true"
	}
	raw, err := json.Marshal(reflect.Zero(f.Type).Interface())
	return err == nil && string(raw) == "null"
}

// wholeNumbers converts the choices of an integer to integers.
func wholeNumbers(s *jsonschema.Schema) {
	if !s.HasType(jsonschema.Integer) {
		return
	}
	for i, e := range s.Enum {
		if text, ok := e.(string); ok {
			if n, err := strconv.Atoi(text); err == nil {
				s.Enum[i] = n
			}
		}
	}
}

var openAPIOnce = sync.OnceValues(OpenAPI)

// openapi31JSON answers with the document.
func openapi31JSON(c *echo.Context) error {
	raw, err := openAPIOnce()
	if err != nil {
		return err
	}
	return c.Blob(http.StatusOK, "application/json", raw)
}
