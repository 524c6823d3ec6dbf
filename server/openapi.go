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
		group := tagOf(x.Path)
		op["tags"], groups[group] = []string{group}, true
		answers := op["responses"].(object)
		answers["4XX"] = answers["default"]
		if x.Path == "/v/{code}" { // is for people, who are told there that it is none
			answers["404"] = object{"description": "A page: there is no such document.",
				"content": object{"text/html": object{"schema": object{"type": "string"}}}}
		}
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
		if x.Method != http.MethodGet && x.Needs().May(people.Engineer) {
			given, _ := op["parameters"].([]any)
			op["parameters"] = append(given, object{"name": idempotencyKey, "in": "header", "schema": object{"type": "string", "maxLength": mostKey},
				"description": "Made anew for everything that is to be done: asked again under the same one, it is not done twice."})
		}
		for _, kind := range x.Also {
			op["responses"].(object)[strconv.Itoa(x.Status)].(object)["content"].(object)[kind] = file
		}
	}
	var list []any
	for _, group := range slices.Sorted(maps.Keys(groups)) {
		list = append(list, object{"name": group, "description": tagWords[group]})
	}
	doc["tags"] = list
	doc["info"].(object)["license"] = object{"name": "Apache-2.0", "identifier": "Apache-2.0"}
	doc["info"].(object)["contact"] = object{"name": "Who runs this server"}
	doubles(doc)
	return json.MarshalIndent(doc, "", "  ")
}

// tags group the operations by the first part of their path; what is not here is Catalogue's.
var tags = map[string][]string{
	"Bench":     {"bench", "probe", "stack", "draw", "pairings"},
	"Wall":      {"wall"},
	"Documents": {"steps", "template", "prints", "plotter", "photos", "at"},
	"Matrix":    {"matrix", "measurement-priorities", "duplicates"},
	"Policy":    {"policies"},
	"Jobs":      {"jobs"},
	"Review":    {"approvals", "families", "issued", "desk", "unreadable", "v", "live"},
	"Files":     {"files", "export", "import", "schema"},
	"People":    {"people", "me", "own", "setup", "sign-in", "sign-out", "tokens", "audit"},
	"Gauge":     {"gauge"},
}

var tagWords = map[string]string{
	"Bench": "One pairing: judged, drawn, its stack, a hole by trial bolts.", "Wall": "A job on its wall.",
	"Documents": "What an installer gets: steps, template, card, pack, the page at the wall.", "Matrix": "All displays with all brackets.",
	"Policy": "How careful the company is.", "Jobs": "What was saved, and how it stands.", "Review": "Approvals, and what is issued of them.",
	"Files": "Documents and tables, in and out.", "People": "Who may sign in and do what; the audit.", "Gauge": "The bench gauge, simulated.",
	"Catalogue": "Displays, brackets and jobs, with their history.",
}

func tagOf(path string) string {
	part := strings.FieldsFunc(strings.TrimPrefix(path, "/api"), func(r rune) bool { return r == '/' || r == '.' })[0]
	for tag, parts := range tags {
		if slices.Contains(parts, part) {
			return tag
		}
	}
	return "Catalogue"
}

// doubles says of every number that it takes 64 bits: a client that is made of the document would have some in half.
func doubles(v any) {
	switch v := v.(type) {
	case map[string]any:
		kind, list := v["type"].(string)
		kinds, _ := v["type"].([]any)
		if list && kind == "number" || slices.Contains(kinds, any("number")) {
			v["format"] = "double"
		}
		for _, x := range v {
			doubles(x)
		}
	case []any:
		for _, x := range v {
			doubles(x)
		}
	}
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
	reflect.TypeFor[catalog.BoltHead]():     "HeadForm", // clients name that of a Bolt's head so
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
	if schema.Description == nil && p.ParentSchema != nil {
		schema.WithDescription(describedAs(p.ParentSchema.ReflectType, p.Name))
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
		if schema.Ref != nil { // it has them itself
			schema.MaxLength, schema.MaxItems, schema.MinItems = nil, nil, 0
		}
		return nil
	}
	var entry *jsonschema.Schema
	switch {
	case schema.Items != nil && schema.Items.SchemaOrBool != nil:
		entry = schema.Items.SchemaOrBool.TypeObject
	case kind == reflect.Map && schema.AdditionalProperties != nil:
		entry = schema.AdditionalProperties.TypeObject
	}
	if entry == nil {
		wholeNumbers(schema)
	} else {
		two := int64(2)
		if pair(p.Field.Type) {
			schema.MinItems, schema.MaxItems = two, &two
		} else if pair(p.Field.Type.Elem()) {
			entry.MinItems, entry.MaxItems = two, &two
		}
		for entry.Items != nil && entry.Items.SchemaOrBool != nil && entry.Items.SchemaOrBool.TypeObject != nil {
			entry = entry.Items.SchemaOrBool.TypeObject // limits of a list of pairs are those of their figures
		}
		entry.Enum, schema.Enum = schema.Enum, nil
		wholeNumbers(entry)
		entry.Minimum, schema.Minimum = schema.Minimum, nil
		entry.Maximum, schema.Maximum = schema.Maximum, nil
		entry.ExclusiveMinimum, schema.ExclusiveMinimum = schema.ExclusiveMinimum, nil
		entry.MaxLength, schema.MaxLength = schema.MaxLength, nil
		entry.Pattern, schema.Pattern = schema.Pattern, nil
	}
	return nil
}

// pair reports whether a type is written as two numbers.
func pair(t reflect.Type) bool {
	if t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	return t == reflect.TypeFor[catalog.PatternSize]() || t == reflect.TypeFor[fastener.Interval]()
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
