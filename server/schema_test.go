package server

import (
	"bytes"
	"net/url"
	"os"
	"reflect"
	"strconv"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"nexufix/demo"
	"nexufix/exchange"
)

// TestSchemas: the schemas in docs are those of the format, they are served,
// and a validator that knows nothing else takes what the format takes and
// refuses what it refuses.
func TestSchemas(t *testing.T) {
	d := newDesk(t)
	for _, kind := range SchemaKinds {
		raw, err := Schema(kind)
		if err != nil {
			t.Fatal(err)
		}
		saved, err := os.ReadFile("../docs/schema/" + kind + ".json")
		if err != nil || !bytes.Equal(bytes.TrimSpace(saved), raw) {
			t.Errorf("docs/schema/%s.json is stale: run make types (%v)", kind, err)
		}
		if a := d.get("/api/schema/" + kind + ".json"); a.StatusCode != 200 || !bytes.Equal(a.body, raw) {
			t.Errorf("%s is not served: %d", kind, a.StatusCode)
		}
	}
	c := jsonschema.NewCompiler()
	raw, err := Schema("document")
	if err != nil {
		t.Fatal(err)
	}
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(raw))
	if err != nil {
		t.Fatal(err)
	}
	if err := c.AddResource("document.json", doc); err != nil {
		t.Fatal(err)
	}
	schema, err := c.Compile("document.json")
	if err != nil {
		t.Fatal(err)
	}
	valid := func(raw []byte) error {
		v, err := jsonschema.UnmarshalJSON(bytes.NewReader(raw))
		if err != nil {
			t.Fatal(err)
		}
		return schema.Validate(v)
	}
	example, err := os.ReadFile("../exchange/testdata/example.json")
	if err != nil {
		t.Fatal(err)
	}
	all, err := demo.Contents()
	if err != nil {
		t.Fatal(err)
	}
	written, err := exchange.Write(all)
	if err != nil {
		t.Fatal(err)
	}
	for name, raw := range map[string][]byte{"the example": example, "the demo": written,
		"a figure as text": []byte(`{"format":"nexufix/1","displays":[{"id":"a","width":"48 3/8 in"}]}`)} {
		if err := valid(raw); err != nil {
			t.Errorf("%s: %v", name, err)
		}
	}
	for _, bad := range []string{
		`{"displays":[{"id":"a","width_mm":-1}]}`, `{"displays":[{"id":"a","colour":"red"}]}`, `{"displays":[{"model":"no id"}]}`,
		`{"displays":[{"id":"a","patterns":[{"width_mm":100,"height_mm":100,"thread":"M7"}]}]}`, `{"displays":[{"id":"a b"}]}`,
		`{"brackets":[{"id":"a","name":"A","interface":{"type":"arms"},"colour":"red"}]}`, `{"jobs":[{"id":"a","colour":"red"}]}`,
	} {
		bad = `{"format":"nexufix/1",` + strings.TrimPrefix(bad, "{")
		if _, err := exchange.Read([]byte(bad)); err == nil {
			t.Errorf("the format takes %s", bad)
		}
		if err := valid([]byte(bad)); err == nil {
			t.Errorf("the schema takes %s", bad)
		}
	}
}

// TestEveryWordIsThere: each kind of wall, fastener, rule and language has a word on the page.
func TestEveryWordIsThere(t *testing.T) {
	for _, line := range strings.Split(Words(nil), "\n") {
		if strings.HasSuffix(line, `: "",`) {
			t.Errorf("no word: %s", strings.TrimSpace(line))
		}
	}
}

// TestQueriesAreChecked: in every operation, a member of the query that has a list of what it may be is nothing else, and one that has a
// length is not longer, said at its path before anything is done.
func TestQueriesAreChecked(t *testing.T) {
	d := newDesk(t)
	tried := 0
	for _, r := range d.srv.features() {
		of := reflect.TypeOf(r.Request)
		for i := 0; of != nil && of.Kind() == reflect.Struct && i < of.NumField(); i++ {
			f := of.Field(i)
			name := f.Tag.Get("query")
			for _, bad := range badQueries(t, f) {
				path := strings.NewReplacer("{id}", "1", "{kind}", "displays", "{code}", "X", "{key}", "k").Replace(r.Path)
				a := d.request(r.Method, path+"?"+name+"="+url.QueryEscape(bad), "application/json", []byte("{}"))
				if a.StatusCode != 400 || !strings.Contains(string(a.body), `"path":"`+name+`"`) {
					t.Errorf("%s %s with %s=%.20s: %d %.200s", r.Method, path, name, bad, a.StatusCode, a.body)
				}
				tried++
			}
		}
	}
	if tried < 25 {
		t.Errorf("only %d were tried", tried)
	}
}

// badQueries are what a member of a query may not be, by its tags.
func badQueries(t *testing.T, f reflect.StructField) (out []string) {
	t.Helper()
	if f.Tag.Get("query") == "" {
		return nil
	}
	if f.Tag.Get("enum") != "" {
		out = append(out, "nonsense")
	}
	if most := f.Tag.Get("maxLength"); most != "" {
		n, err := strconv.Atoi(most)
		if err != nil {
			t.Fatal(err)
		}
		out = append(out, strings.Repeat("é", n+1))
	}
	if f.Tag.Get("format") == "date" {
		out = append(out, "2026-02-30", "yesterday")
	}
	if least := f.Tag.Get("minimum"); least == "0" && f.Type.Kind() == reflect.Int64 {
		out = append(out, "-1", "1x")
	}
	return out
}
