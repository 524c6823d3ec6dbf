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
)

// kind is the kind of a JSON value.
type kind string

const (
	object  kind = "an object"
	list    kind = "a list"
	text    kind = "a text"
	number  kind = "a number"
	boolean kind = "true or false"
	null    kind = "null"
)

// node is a JSON value that has not been given a meaning yet. Numbers keep
// their digits.
type node struct {
	kind    kind
	text    string // of a text or a number, or "true"
	items   []node
	members []member
}

type member struct {
	name  string
	value node
}

func (n *node) member(name string) *node {
	for i := range n.members {
		if n.members[i].name == name {
			return &n.members[i].value
		}
	}
	return nil
}

// describe says what is there, for an error.
func (n *node) describe() string {
	switch n.kind {
	case text:
		return quote(n.text)
	case number, boolean:
		return n.text
	}
	return string(n.kind)
}

const maxDepth = 32

// parseJSON reads one JSON value and nothing after it. A name that stands
// twice in an object is an error, since one of the two would be lost.
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
	d := json.NewDecoder(bytes.NewReader(raw))
	d.UseNumber()
	n, err := parseValue(d, "", 0, problems)
	if err == nil {
		if _, err = d.Token(); err == nil {
			err = errors.New("there is more after the end of the document")
		} else if errors.Is(err, io.EOF) {
			err = nil
		}
	}
	if err != nil {
		line, column := whereIn(raw, d.InputOffset())
		problems.add("", "one JSON document", "line %d, column %d: %s", line, column, plain(err))
		return nil
	}
	return n
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

func parseValue(d *json.Decoder, path string, depth int, problems *Problems) (*node, error) {
	if depth > maxDepth {
		return nil, fmt.Errorf("lists and objects are nested more than %d deep", maxDepth)
	}
	token, err := d.Token()
	if err != nil {
		return nil, err
	}
	switch v := token.(type) {
	case json.Delim:
		if v == '[' {
			return parseList(d, path, depth, problems)
		}
		return parseObject(d, path, depth, problems)
	case string:
		return &node{kind: text, text: v}, nil
	case json.Number:
		return &node{kind: number, text: v.String()}, nil
	case bool:
		return &node{kind: boolean, text: fmt.Sprint(v)}, nil
	}
	return &node{kind: null}, nil
}

func parseList(d *json.Decoder, path string, depth int, problems *Problems) (*node, error) {
	n := &node{kind: list}
	for d.More() {
		item, err := parseValue(d, index(path, len(n.items)), depth+1, problems)
		if err != nil {
			return nil, err
		}
		n.items = append(n.items, *item)
	}
	_, err := d.Token()
	return n, err
}

func parseObject(d *json.Decoder, path string, depth int, problems *Problems) (*node, error) {
	n := &node{kind: object}
	seen := map[string]bool{}
	for d.More() {
		token, err := d.Token()
		if err != nil {
			return nil, err
		}
		name, _ := token.(string)
		value, err := parseValue(d, join(path, name), depth+1, problems)
		if err != nil {
			return nil, err
		}
		if seen[name] {
			problems.add(join(path, name), "each name once", "stands twice in the same object")
			continue
		}
		seen[name] = true
		n.members = append(n.members, member{name, *value})
	}
	_, err := d.Token()
	return n, err
}

// nodeOf makes a node of JSON's own values.
func nodeOf(value any, depth int) (*node, error) {
	if depth > maxDepth {
		return nil, fmt.Errorf("lists and objects are nested more than %d deep", maxDepth)
	}
	switch v := value.(type) {
	case map[string]any:
		n := &node{kind: object, members: make([]member, 0, len(v))}
		for _, name := range slices.Sorted(maps.Keys(v)) {
			x, err := nodeOf(v[name], depth+1)
			if err != nil {
				return nil, err
			}
			n.members = append(n.members, member{name, *x})
		}
		return n, nil
	case []any:
		n := &node{kind: list, items: make([]node, 0, len(v))}
		for _, item := range v {
			x, err := nodeOf(item, depth+1)
			if err != nil {
				return nil, err
			}
			n.items = append(n.items, *x)
		}
		return n, nil
	case string:
		return &node{kind: text, text: v}, nil
	case json.Number:
		return &node{kind: number, text: v.String()}, nil
	case bool:
		return &node{kind: boolean, text: fmt.Sprint(v)}, nil
	case nil:
		return &node{kind: null}, nil
	}
	return nil, fmt.Errorf("a value of type %T", value)
}
