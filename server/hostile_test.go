package server

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"

	"nexufix/store"
)

// hostile is a client that knows the API's description and keeps to it only now
// and then: wrong types, sizes, letters, nesting, methods, kinds and orders.
type hostile struct {
	*random
	operations []operation
	schemas    map[string]any
	budget     int // of values in the body that is being made
}

type operation struct {
	method, path string
	query        []string
	body         map[string]any // its schema; nil: none
}

// TestHostileClient: whatever it sends is answered, never by a failure of the
// server's; what is in the database can be read, and goes through an empty one
// unchanged; SQLite finds it whole.
func TestHostileClient(t *testing.T) {
	const seed = 43
	h := &hostile{random: &random{newDesk(t), rand.New(rand.NewPCG(seed, seed)), map[string]int{}}}
	h.learn(t)
	answers := map[int]int{}
	for n := range times(1_500, 25_000) {
		r := h.request()
		a := h.send(r)
		answers[a.StatusCode]++
		if a.StatusCode >= 500 && a.StatusCode != http.StatusServiceUnavailable {
			t.Fatalf("request %d: %s %s: %d %.500s", n, r.Method, r.URL, a.StatusCode, a.body)
		}
		if len(a.body) > 8<<20 {
			t.Errorf("request %d: %s %s: an answer of %d MB", n, r.Method, r.URL, len(a.body)>>20)
		}
		if strings.Contains(string(a.body), h.plots) || strings.Contains(string(a.body), h.file) {
			t.Errorf("request %d: %s %s shows where the server keeps things: %.500s", n, r.Method, r.URL, a.body)
		}
	}
	h.comesBack(-1, "the hostile client")
	t.Logf("%d operations, answers by status: %v", len(h.operations), answers)
	for _, status := range []int{200, 400, 404, 405, 415} {
		if answers[status] == 0 {
			t.Errorf("no answer is %d: %v", status, answers)
		}
	}
	s, err := store.Open(t.Context(), h.file)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	if err := s.Check(t.Context()); err != nil {
		t.Error(err)
	}
}

// learn reads the API's own description.
func (h *hostile) learn(t *testing.T) {
	raw, err := OpenAPI()
	if err != nil {
		t.Fatal(err)
	}
	var doc struct {
		Paths map[string]map[string]struct {
			Parameters  []struct{ Name, In string }
			RequestBody struct {
				Content map[string]struct{ Schema map[string]any }
			}
		}
		Components struct{ Schemas map[string]any }
	}
	if err := json.Unmarshal(raw, &doc); err != nil {
		t.Fatal(err)
	}
	h.schemas = doc.Components.Schemas
	for _, path := range slices.Sorted(maps.Keys(doc.Paths)) {
		for _, method := range slices.Sorted(maps.Keys(doc.Paths[path])) {
			o := doc.Paths[path][method]
			op := operation{method: strings.ToUpper(method), path: path}
			for _, p := range o.Parameters {
				if p.In == "query" {
					op.query = append(op.query, p.Name)
				}
			}
			for _, c := range o.RequestBody.Content {
				op.body = c.Schema
			}
			if path != "/api/gauge" && path != "/api/live" { // they have no end
				h.operations = append(h.operations, op)
			}
		}
	}
	if len(h.operations) < 40 {
		t.Fatalf("only %d operations were found", len(h.operations))
	}
}

var inBraces = regexp.MustCompile(`\{[^}]*\}`)

// request makes the next one.
func (h *hostile) request() *http.Request {
	op := pick(h.random, h.operations)
	path := inBraces.ReplaceAllStringFunc(op.path, func(string) string { return url.PathEscape(h.text()) })
	q := url.Values{}
	for _, name := range op.query {
		if h.IntN(3) > 0 {
			q.Add(name, h.text())
		}
	}
	method, kind := op.method, "application/json"
	switch h.IntN(25) {
	case 0:
		method = pick(h.random, []string{"GET", "POST", "PUT", "DELETE", "PATCH", "OPTIONS", "HEAD", "BREW"})
	case 1:
		kind = pick(h.random, []string{"text/plain", "", "application/octet-stream", "multipart/form-data", "application/json; charset=latin1"})
	}
	if op.path == "/api/files" && h.IntN(4) > 0 {
		kind = "application/octet-stream"
	}
	var body bytes.Buffer
	h.budget = 400
	switch {
	case op.body != nil:
		h.value(&body, op.body, 0)
	case h.IntN(6) == 0:
		body.WriteString(pick(h.random, []string{"{", "[]", "null", "\xff\xfe", `{"a":{"a":{}}}`, strings.Repeat("[", 200)}))
	}
	if h.IntN(30) == 0 && body.Len() > 2 { // cut off
		body.Truncate(h.IntN(body.Len()))
	}
	r := httptest.NewRequest("POST", "http://127.0.0.1:8460"+path+"?"+q.Encode(), &body)
	r.Method = method
	r.Header.Set("Content-Type", kind)
	if h.IntN(3) == 0 {
		r.Header["Nexufix-Who"] = []string{url.QueryEscape(pick(h.random, odd))}
	}
	return r
}

// text is a name, or what somebody might take for one.
func (h *hostile) text() string {
	switch h.IntN(5) {
	case 0:
		return pick(h.random, odd)
	case 1:
		return pick(h.random, []string{"1", "-1", "0", "99999999999999999999", "svg", "pdf", "dxf", "a4", "..", "%00", "' OR 1=1 --",
			strings.Repeat("z", 300)})
	case 2:
		return pick(h.random, []string{"displays", "brackets", "jobs", "kit", "sill-40", "ledge-20", "mill-lane-counter"})
	}
	return h.display()
}

// wrong are values of another kind than is asked for.
var wrong = []string{"null", "true", "-1", "0", "1e400", "-1e-400", "123456789012345678901234567890", `""`, `"\u0000"`, `"\ufffe"`, `"😀"`,
	"[]", "{}", "[[[[[[[[]]]]]]]]", `{"a":1}`, `"5//8 in"`, `"48 in"`, "0.0000004"}

// value writes what a schema asks for, more or less.
func (h *hostile) value(out *bytes.Buffer, schema map[string]any, depth int) {
	if h.budget--; h.budget < 0 || depth > 12 || h.IntN(40) == 0 {
		out.WriteString(pick(h.random, wrong))
		return
	}
	if ref, ok := schema["$ref"].(string); ok {
		if to, ok := h.schemas[ref[strings.LastIndexByte(ref, '/')+1:]].(map[string]any); ok {
			h.value(out, to, depth+1)
			return
		}
	}
	if list, ok := schema["enum"].([]any); ok && len(list) > 0 {
		raw, _ := json.Marshal(pick(h.random, list))
		out.Write(raw)
		return
	}
	kind, _ := schema["type"].(string)
	if kinds, ok := schema["type"].([]any); ok && len(kinds) > 0 {
		kind = fmt.Sprint(kinds[0])
	}
	switch kind {
	case "object":
		h.object(out, schema, depth)
	case "array":
		items, _ := schema["items"].(map[string]any)
		out.WriteByte('[')
		for i := range pick(h.random, []int{0, 1, 1, 2, 2, 3, 20}) {
			if i > 0 {
				out.WriteByte(',')
			}
			h.value(out, items, depth+1)
		}
		out.WriteByte(']')
	case "string":
		raw, _ := json.Marshal(h.text())
		out.Write(raw)
	case "boolean":
		out.WriteString(pick(h.random, []string{"true", "false"}))
	default:
		out.WriteString(pick(h.random, []string{"1", "2", "5", "12", "16", "40", "200", "400", "600", "1200", "0.5", "14.2"}))
	}
}

func (h *hostile) object(out *bytes.Buffer, schema map[string]any, depth int) {
	required := map[string]bool{}
	if list, ok := schema["required"].([]any); ok {
		for _, name := range list {
			required[fmt.Sprint(name)] = true
		}
	}
	out.WriteByte('{')
	n := 0
	field := func(name string, write func()) {
		if n++; n > 1 {
			out.WriteByte(',')
		}
		raw, _ := json.Marshal(name)
		out.Write(raw)
		out.WriteByte(':')
		write()
	}
	properties, _ := schema["properties"].(map[string]any)
	for _, name := range slices.Sorted(maps.Keys(properties)) {
		if p, ok := properties[name].(map[string]any); ok && (required[name] && h.IntN(60) > 0 || h.IntN(4) == 0) {
			field(name, func() { h.value(out, p, depth+1) })
		}
	}
	if more, ok := schema["additionalProperties"].(map[string]any); ok {
		for range h.IntN(3) {
			field(h.text(), func() { h.value(out, more, depth+1) })
		}
	}
	if h.IntN(30) == 0 {
		field(pick(h.random, []string{"colour", "id", "__proto__", strings.Repeat("n", 400)}), func() { out.WriteString("1") })
	}
	out.WriteByte('}')
}
