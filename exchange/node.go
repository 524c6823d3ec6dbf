package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"slices"
	"unicode/utf8"

	"github.com/go-json-experiment/json/jsontext"
)

// kind is the kind of a JSON value.
type kind uint8

const (
	null kind = iota
	object
	list
	text
	number
	boolean
)

// String names it for an error.
func (k kind) String() string {
	return [...]string{"null", "an object", "a list", "a text", "a number", "true or false"}[k]
}

// node is a JSON value before it is read into a struct. Numbers keep
// their digits. It is small because a document has one for every value.
type node struct {
	kind kind
	text string  // of a text or a number, or "true"
	in   *inside // of an object or a list
}

// inside is the contents of an object or a list.
type inside struct {
	items []node
	names []string // of an object's items
}

// items are those of a list, or the values of an object.
func (n *node) items() []node {
	if n.in == nil {
		return nil
	}
	return n.in.items
}

// names are those of an object's items.
func (n *node) names() []string {
	if n.in == nil {
		return nil
	}
	return n.in.names
}

func (n *node) member(name string) *node {
	for i, have := range n.names() {
		if have == name {
			return &n.in.items[i]
		}
	}
	return nil
}

// describe describes the value for an error.
func (n *node) describe() string {
	switch n.kind {
	case text:
		return quote(n.text)
	case number, boolean:
		return n.text
	}
	return n.kind.String()
}

// Limits of a document: how deep it is nested, how many values it has in all, in
// one list, and in one object.
const (
	maxDepth   = 32
	maxValues  = 2_000_000
	maxItems   = 100_000
	maxMembers = 10_000
)

// parseJSON reads one JSON value with nothing after it. A name that occurs
// twice in an object is an error, since one of the two values would be lost.
func parseJSON(raw []byte, problems *Problems) *node {
	raw = bytes.TrimPrefix(raw, []byte("\ufeff"))
	if !utf8.Valid(raw) {
		problems.add("", "JSON in UTF-8", "the file is not UTF-8 text")
		return nil
	}
	if len(bytes.TrimSpace(raw)) == 0 {
		problems.add("", "a JSON document", "the file is empty")
		return nil
	}
	// Repeated names are reported below, with their paths.
	d := jsontext.NewDecoder(bytes.NewBuffer(raw), jsontext.AllowDuplicateNames(true))
	p := parser{d: d, problems: problems, names: map[string]string{}}
	n, err := p.value(nil, 0)
	if err == nil {
		if _, err = d.ReadToken(); err == nil {
			err = errors.New("there is more after the end of the document")
		} else if errors.Is(err, io.EOF) {
			err = nil
		}
	}
	if err != nil {
		offset := d.InputOffset()
		var wrong *jsontext.SyntacticError
		if errors.As(err, &wrong) {
			offset, err = wrong.ByteOffset, wrong.Err
		}
		line, column := whereIn(raw, offset)
		problems.add("", "one JSON document", "line %d, column %d: %s", line, column, plain(err))
		return nil
	}
	return &n
}

func plain(err error) string {
	if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
		return "the document ends too early"
	}
	return err.Error()
}

func whereIn(raw []byte, offset int64) (line, column int) {
	before := raw[:min(int64(len(raw)), offset)]
	line = 1 + bytes.Count(before, []byte("\n"))
	column = 1 + utf8.RuneCount(before[bytes.LastIndexByte(before, '\n')+1:])
	return line, column
}

// parser reads a document's values.
type parser struct {
	d        *jsontext.Decoder
	problems *Problems
	values   int
	names    map[string]string // each name once, however often it occurs
}

// where is a value's place: a name or an index in its object or list.
type where struct {
	in    *where
	name  string
	index int
}

// path writes the place.
func (w *where) path() string {
	if w == nil {
		return ""
	}
	if w.name == "" {
		return index(w.in.path(), w.index)
	}
	return join(w.in.path(), w.name)
}

func (p *parser) value(at *where, depth int) (node, error) {
	if depth > maxDepth {
		return node{}, fmt.Errorf("lists and objects are nested more than %d deep", maxDepth)
	}
	if p.values++; p.values > maxValues {
		return node{}, fmt.Errorf("there are more than %d values", maxValues)
	}
	token, err := p.d.ReadToken()
	if err != nil {
		return node{}, err
	}
	switch token.Kind() {
	case '[':
		return p.list(at, depth)
	case '{':
		return p.object(at, depth)
	case '"':
		return node{kind: text, text: token.String()}, nil
	case '0':
		return node{kind: number, text: token.String()}, nil
	case 't', 'f':
		return node{kind: boolean, text: token.String()}, nil
	}
	return node{}, nil
}

func (p *parser) list(at *where, depth int) (node, error) {
	var in inside
	here := where{in: at}
	for p.d.PeekKind() != ']' {
		if len(in.items) == maxItems {
			return node{}, fmt.Errorf("a list has more than %d entries", maxItems)
		}
		here.index = len(in.items)
		item, err := p.value(&here, depth+1)
		if err != nil {
			return node{}, err
		}
		in.items = append(in.items, item)
	}
	_, err := p.d.ReadToken()
	return node{kind: list, in: &in}, err
}

// fewNames is how many names of an object are compared without a map.
const fewNames = 30

func (p *parser) object(at *where, depth int) (node, error) {
	var in inside
	var seen map[string]bool
	for n := 0; p.d.PeekKind() != '}'; n++ {
		if n == maxMembers {
			return node{}, fmt.Errorf("an object has more than %d names", maxMembers)
		}
		name, err := p.name()
		if err != nil {
			return node{}, err
		}
		here := where{in: at, name: name}
		value, err := p.value(&here, depth+1)
		if err != nil {
			return node{}, err
		}
		if seen == nil && len(in.names) == fewNames {
			seen = map[string]bool{}
			for _, name := range in.names {
				seen[name] = true
			}
		}
		if seen[name] || seen == nil && slices.Contains(in.names, name) {
			p.problems.add(here.path(), "each name once", "stands twice in the same object")
			continue
		}
		if seen != nil {
			seen[name] = true
		}
		in.items, in.names = append(in.items, value), append(in.names, name)
	}
	_, err := p.d.ReadToken()
	return node{kind: object, in: &in}, err
}

// name reads the name of an object's member.
func (p *parser) name() (string, error) {
	raw, err := p.d.ReadValue()
	if err != nil {
		return "", err
	}
	if name, known := p.names[string(raw)]; known {
		return name, nil
	}
	name, err := jsontext.AppendUnquote(nil, raw)
	if err != nil {
		return "", err
	}
	p.names[string(raw)] = string(name)
	return string(name), nil
}

// nodeOf converts a value to a node by way of its JSON.
func nodeOf(value any) (*node, error) {
	raw, err := json.Marshal(value)
	if err != nil {
		return nil, err
	}
	var problems Problems
	return parseJSON(raw, &problems), problems.or()
}

// append writes the value as JSON.
func (n *node) append(out []byte) []byte {
	switch {
	case n == nil || n.kind == null:
		return append(out, "null"...)
	case n.kind == text:
		out, _ = jsontext.AppendQuote(out, n.text)
		return out
	case n.kind == number || n.kind == boolean:
		return append(out, n.text...)
	}
	ends := map[kind]string{list: "[]", object: "{}"}[n.kind]
	out = append(out, ends[0])
	for i := range n.items() {
		if i > 0 {
			out = append(out, ',')
		}
		if n.kind == object {
			out, _ = jsontext.AppendQuote(out, n.in.names[i])
			out = append(out, ':')
		}
		out = n.in.items[i].append(out)
	}
	return append(out, ends[1])
}

// nodeOfValue converts decoded JSON to a node.
func nodeOfValue(value any, depth int) (*node, error) {
	if depth > maxDepth {
		return nil, fmt.Errorf("lists and objects are nested more than %d deep", maxDepth)
	}
	switch v := value.(type) {
	case map[string]any:
		n := &node{kind: object, in: &inside{items: make([]node, 0, len(v)), names: make([]string, 0, len(v))}}
		for _, name := range slices.Sorted(maps.Keys(v)) {
			x, err := nodeOfValue(v[name], depth+1)
			if err != nil {
				return nil, err
			}
			n.in.items, n.in.names = append(n.in.items, *x), append(n.in.names, name)
		}
		return n, nil
	case []any:
		n := &node{kind: list, in: &inside{items: make([]node, 0, len(v))}}
		for _, item := range v {
			x, err := nodeOfValue(item, depth+1)
			if err != nil {
				return nil, err
			}
			n.in.items = append(n.in.items, *x)
		}
		return n, nil
	case string:
		return &node{kind: text, text: v}, nil
	case json.Number:
		return &node{kind: number, text: v.String()}, nil
	case bool:
		return &node{kind: boolean, text: fmt.Sprint(v)}, nil
	case nil:
		return &node{}, nil
	}
	return nil, fmt.Errorf("a value of type %T", value)
}
