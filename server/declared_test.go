package server

import (
	"bytes"
	"fmt"
	"net/http"
	"regexp"
	"strings"
	"sync"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
)

// declared is the OpenAPI document as a validator reads it that knows nothing else (JSON Schema 2020-12, as OpenAPI 3.1 has it).
var declared = sync.OnceValues(func() (*declaration, error) {
	raw, err := OpenAPI()
	if err != nil {
		return nil, err
	}
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(raw))
	if err != nil {
		return nil, err
	}
	d := &declaration{compiler: jsonschema.NewCompiler(),
		paths: doc.(map[string]any)["paths"].(map[string]any), known: map[string]*jsonschema.Schema{}}
	d.compiler.DefaultDraft(jsonschema.Draft2020)
	if err := d.compiler.AddResource("openapi.json", doc); err != nil {
		return nil, err
	}
	for path := range d.paths {
		d.templates = append(d.templates, path)
	}
	return d, nil
})

type declaration struct {
	mu        sync.Mutex
	compiler  *jsonschema.Compiler
	paths     map[string]any
	templates []string
	known     map[string]*jsonschema.Schema
}

var parameter = regexp.MustCompile(`\{[^}]+\}`)

// operation is the template of a request's path; "" for what is not in the document.
func (d *declaration) operation(method, path string) string {
	best := ""
	for _, t := range d.templates {
		if _, is := d.paths[t].(map[string]any)[strings.ToLower(method)]; !is {
			continue
		}
		of := "^" + parameter.ReplaceAllString(strings.NewReplacer(".", `\.`).Replace(t), `[^/]+`) + "$"
		if regexp.MustCompile(of).MatchString(path) && (best == "" || strings.Count(t, "{") < strings.Count(best, "{")) {
			best = t
		}
	}
	return best
}

// schema is that of an answer in JSON; nil for one of another type.
func (d *declaration) schema(method, path string, status int, kind string) (*jsonschema.Schema, error) {
	op, is := d.paths[path].(map[string]any)[strings.ToLower(method)].(map[string]any)
	if !is {
		return nil, nil
	}
	answers := op["responses"].(map[string]any)
	code := fmt.Sprint(status)
	if answers[code] == nil {
		code = "default"
	}
	content, _ := answers[code].(map[string]any)["content"].(map[string]any)
	of, _ := content[kind].(map[string]any)
	if of == nil {
		return nil, fmt.Errorf("%d with %s is not declared: %v", status, kind, content)
	}
	if of["schema"] == nil {
		return nil, nil
	}
	escape := strings.NewReplacer("~", "~0", "/", "~1", "{", "%7B", "}", "%7D")
	at := "openapi.json#/paths/" + escape.Replace(path) + "/" + strings.ToLower(method) + "/responses/" + code +
		"/content/" + escape.Replace(kind) + "/schema"
	d.mu.Lock()
	defer d.mu.Unlock()
	if s := d.known[at]; s != nil {
		return s, nil
	}
	s, err := d.compiler.Compile(at)
	d.known[at] = s
	return s, err
}

// asDeclared holds an answer against the document.
func asDeclared(t testing.TB, r *http.Request, status int, kind string, body []byte) {
	t.Helper()
	kind, _, _ = strings.Cut(kind, ";")
	if len(body) == 0 || bytes.HasPrefix(body, []byte("\x1f\x8b")) || kind != "application/json" && kind != "application/problem+json" {
		return
	}
	d, err := declared()
	if err != nil {
		t.Fatal(err)
	}
	path := d.operation(r.Method, r.URL.Path)
	if path == "" {
		return
	}
	schema, err := d.schema(r.Method, path, status, kind)
	if err != nil {
		t.Errorf("%s %s: %v", r.Method, path, err)
		return
	}
	if schema == nil {
		return
	}
	v, err := jsonschema.UnmarshalJSON(bytes.NewReader(body))
	if err != nil {
		t.Errorf("%s %s answers no JSON: %v", r.Method, path, err)
		return
	}
	if err := schema.Validate(v); err != nil {
		t.Errorf("%s %s answers %d, which its document does not declare: %.600v", r.Method, path, status, err)
	}
}
