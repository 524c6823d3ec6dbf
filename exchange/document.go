package exchange

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"nexufix/core/catalog"
)

// Document is a file of the format: any subset of its parts.
type Document struct {
	Format   string             `json:"format" required:"true" enum:"nexufix/1"`
	Displays []*catalog.Display `json:"displays,omitempty"`
	Brackets []*catalog.Bracket `json:"brackets,omitempty"`
	Policy   *PolicySettings    `json:"policy,omitempty"`
	Jobs     []*catalog.Job     `json:"jobs,omitempty"`
	Photos   []Photo            `json:"photos,omitempty" maxItems:"1000"` // that steps of the jobs show
}

// Read reads one document. An error is a [Problems] that lists everything wrong
// with it; then no part of the document is returned.
func Read(raw []byte) (*Contents, error) {
	var d Document
	if err := readInto(raw, &d); err != nil {
		return nil, err
	}
	return d.contents()
}

// ReadValue is [Read] for a document that has been decoded already:
// map[string]any, []any, string, json.Number, bool and nil.
func ReadValue(document map[string]any) (*Contents, error) {
	var d Document
	var problems Problems
	n, err := nodeOfValue(document, 0)
	if err != nil {
		problems.add("", "one JSON document", "%s", err)
		return nil, problems
	}
	r := reader{problems: &problems}
	r.origins(n)
	r.value(n, reflect.ValueOf(&d).Elem(), "", noLimits)
	if err := problems.or(); err != nil {
		return nil, err
	}
	return d.contents()
}

// readInto reads JSON into a struct of the format, by its tags.
func readInto(raw []byte, to any) error {
	var problems Problems
	n := parseJSON(raw, &problems)
	if n == nil {
		return problems
	}
	r := reader{problems: &problems}
	r.origins(n)
	r.value(n, reflect.ValueOf(to).Elem(), "", noLimits)
	return problems.or()
}

// ReadInto reads a request of another shape that is made of the format's
// structs, with the same strictness and errors. Paths of origins are checked
// for displays in a list named displays or in a member named display.
func ReadInto(raw []byte, to any) error { return readInto(raw, to) }

// origins checks that every path in a display's origins leads to a figure, and
// replaces it by the figure's name in the format: a figure given as text is named
// without the unit. Paths of notes are replaced where they lead to a figure.
func (r *reader) origins(n *node) {
	check := func(d *node, at string) {
		for _, by := range [...]string{"origins", "notes"} {
			table := d.member(by)
			if table == nil {
				continue
			}
			seen := map[string]bool{}
			for i, given := range table.names() {
				name, ok := d.figure(reflect.TypeFor[catalog.Display](), given)
				path := join(join(at, by), given)
				switch {
				case ok && seen[name]:
					r.problems.add(path, "each figure once", "%s stands there twice", name)
				case ok:
					table.in.names[i] = name
				case by == "origins":
					r.problems.add(path, "the path of a figure this display gives", "leads nowhere")
				}
				seen[table.in.names[i]] = true
			}
		}
	}
	if list := n.member("displays"); list != nil {
		for i := range list.items() {
			check(&list.in.items[i], index("displays", i))
		}
	}
	if d := n.member("display"); d != nil && d.kind == object {
		check(d, "display")
	}
}

// figure returns the path of a figure with the names of the format; false if
// n, a value of type t, has no figure there.
func (n *node) figure(t reflect.Type, path string) (string, bool) {
	out := ""
	for _, step := range strings.Split(strings.ReplaceAll(path, "[", ".["), ".") {
		if t.Kind() == reflect.Pointer {
			t = t.Elem()
		}
		if strings.HasPrefix(step, "[") {
			i, err := strconv.Atoi(strings.TrimSuffix(step[1:], "]"))
			if err != nil || i < 0 || i >= len(n.items()) || t.Kind() != reflect.Slice || step != fmt.Sprintf("[%d]", i) {
				return "", false
			}
			n, t, out = &n.in.items[i], t.Elem(), out+step
			continue
		}
		if t.Kind() != reflect.Struct {
			return "", false
		}
		of := shapeOf(t).fields
		at := slices.IndexFunc(of, func(f field) bool { return step == f.name })
		if at < 0 {
			at = slices.IndexFunc(of, func(f field) bool { return f.alias != "" && step == f.alias })
		}
		if at < 0 {
			return "", false
		}
		next := n.member(of[at].name)
		if next == nil && of[at].alias != "" {
			next = n.member(of[at].alias)
		}
		if next == nil {
			return "", false
		}
		n, t, out = next, of[at].typ, join(out, of[at].name)
	}
	return out, n.kind == number || n.kind == text
}

// Contents converts a document to the catalogue's nouns and validates them.
func (d *Document) Contents() (*Contents, error) { return d.contents() }

// contents converts and validates.
func (d *Document) contents() (*Contents, error) {
	var problems Problems
	out := &Contents{}
	seen := map[string]bool{}
	once := func(kind, id, at string) {
		if seen[kind+id] {
			problems.add(at+".id", "each id once", "%s stands twice", quote(id))
		}
		seen[kind+id] = true
	}
	for i, x := range d.Displays {
		at := index("displays", i)
		problems = append(problems, Complete(at, x)...)
		once("display ", x.ID, at)
	}
	for i, x := range d.Brackets {
		at := index("brackets", i)
		problems = append(problems, Complete(at, x)...)
		once("bracket ", x.ID, at)
	}
	if d.Policy != nil {
		p := d.Policy.Core()
		out.Policy = &p
	}
	for i, x := range d.Jobs {
		at := index("jobs", i)
		problems = append(problems, Complete(at, x)...)
		once("job ", x.ID, at)
	}
	for i := range d.Photos {
		p, at := &d.Photos[i], index("photos", i)
		once("photo ", p.ID, at)
		raw, wrong := p.picture()
		if wrong != "" {
			problems.add(at+".jpeg", fmt.Sprintf("a JPEG in base64, no side over %d pixels, at most %d bytes, by the id of its content",
				MostPhotoSide, MostPhotoBytes), "%s", wrong)
			continue
		}
		if out.Photos == nil {
			out.Photos = map[string][]byte{}
		}
		out.Photos[p.ID] = raw
	}
	out.Displays, out.Brackets, out.Jobs = d.Displays, d.Brackets, d.Jobs
	return out, problems.or()
}

// Complete fills in the defaults of a display, a bracket or a job that was read, and returns what is wrong with it,
// each at a path.
func Complete(at string, x interface {
	Complete()
	Validate() []catalog.Problem
}) Problems {
	x.Complete()
	return prefixed(at, x.Validate())
}

func prefixed(at string, found []catalog.Problem) Problems {
	var out Problems
	for _, p := range found {
		out = append(out, Problem{join(at, p.Path), p.Found, p.Allowed})
	}
	return out
}

// Merge combines documents. A repeated id, or a second policy, is an
// error that names the files it came from.
func Merge(files []string, all []*Contents) (*Contents, error) {
	var problems Problems
	out := &Contents{}
	from := map[string]string{}
	once := func(kind, id, file string) {
		key := kind + " " + id
		if first, ok := from[key]; ok {
			problems.add(file+": "+key, "each id once over all files", "is also in %s", first)
		}
		from[key] = file
	}
	for i, c := range all {
		for _, d := range c.Displays {
			once("display", d.ID, files[i])
		}
		for _, b := range c.Brackets {
			once("bracket", b.ID, files[i])
		}
		for _, j := range c.Jobs {
			once("job", j.ID, files[i])
		}
		if c.Policy != nil {
			once("policy", "", files[i])
			out.Policy = c.Policy
		}
		out.Displays = append(out.Displays, c.Displays...)
		out.Brackets = append(out.Brackets, c.Brackets...)
		out.Jobs = append(out.Jobs, c.Jobs...)
	}
	return out, problems.or()
}

// Write writes a document, indented, ready for a file.
func Write(c *Contents) ([]byte, error) {
	var out bytes.Buffer
	if err := WriteTo(&out, c); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}

// WriteTo is [Write] in pieces: at most one display, bracket or job
// is in memory as text.
func WriteTo(w io.Writer, c *Contents) error {
	d := documentWriter{w: w}
	d.text(fmt.Sprintf("{\n  \"format\": %q", Format))
	each(&d, "displays", c.Displays)
	each(&d, "brackets", c.Brackets)
	if c.Policy != nil {
		d.text(",\n  \"policy\": ")
		d.value(c.Policy, "  ")
	}
	each(&d, "jobs", c.Jobs)
	each(&d, "photos", photosOf(c.Photos))
	d.text("\n}")
	return d.err
}

// documentWriter writes the pieces of a document up to the first error.
type documentWriter struct {
	w   io.Writer
	err error
}

func (d *documentWriter) text(s string) {
	if d.err == nil {
		_, d.err = io.WriteString(d.w, s)
	}
}

// value writes a value; its lines after the first are indented.
func (d *documentWriter) value(v any, indent string) {
	if d.err != nil {
		return
	}
	raw, err := json.MarshalIndent(v, indent, "  ")
	if err != nil {
		d.err = err
		return
	}
	_, d.err = d.w.Write(raw)
}

func each[T any](d *documentWriter, name string, list []T) {
	for i, x := range list {
		before := ",\n    "
		if i == 0 {
			before = fmt.Sprintf(",\n  %q: [\n    ", name)
		}
		d.text(before)
		d.value(x, "    ")
	}
	if len(list) > 0 {
		d.text("\n  ]")
	}
}
