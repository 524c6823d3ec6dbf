package server

import (
	"encoding/json"
	"net/http"
	"path"
	"reflect"
	"strconv"
	"strings"
	"sync"

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
	return json.MarshalIndent(r.Spec, "", "  ")
}

// ownNames are the names of types that would have that of another one.
var ownNames = map[reflect.Type]string{
	reflect.TypeFor[exchange.Problem]():     "FieldProblem",
	reflect.TypeFor[exchange.ProbeResult](): "HoleResult",
	reflect.TypeFor[exchange.Photo]():       "PhotoFile",
	reflect.TypeFor[anything]():             "AnyJSON",
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
}

// anything is the schema of any JSON.
type anything struct{}

func (anything) JSONSchemaBytes() ([]byte, error) { return []byte(`{}`), nil }

// fixProperty says what the tags mean here: limits of a list or table are
// those of its entries, and null is only where a field is always present.
func fixProperty(p jsonschema.InterceptPropParams) error {
	schema := p.PropertySchema
	if !p.Processed || schema.Type == nil {
		return nil
	}
	kind := p.Field.Type.Kind()
	if kind == reflect.Slice || kind == reflect.Map || p.Field.Tag.Get("required") == "true" ||
		strings.Contains(p.Field.Tag.Get("json"), ",omit") {
		schema.RemoveType(jsonschema.Null)
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
