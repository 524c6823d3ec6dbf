package exchange

import (
	"encoding"
	"fmt"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// reader reads JSON values into the format's structs and collects
// what is wrong.
type reader struct {
	problems *Problems
	typed    *quantity.Units // figures may be texts as they were typed, and are of this system where they name no unit
}

// filler is a [quantity.Optional] or another type for a value that may be missing.
type filler interface{ Fill() any }

// Bare returns the type of a field's value, without the pointer or the optional around it.
func Bare(t reflect.Type) reflect.Type {
	switch {
	case t.Kind() == reflect.Pointer:
		return t.Elem()
	case reflect.PointerTo(t).Implements(reflect.TypeFor[filler]()):
		return t.Field(0).Type
	}
	return t
}

// Object reports whether values of a type are objects in the format. A struct whose
// fields have no names there is a list: [min, max].
func Object(t reflect.Type) bool { return t.Kind() == reflect.Struct && len(shapeOf(t).fields) > 0 }

// Member is a field of a struct of the format: its name, its type, and its place
// among the fields.
type Member struct {
	Name  string
	Type  reflect.Type
	Place int
}

// Members are the fields of a struct of the format.
func Members(t reflect.Type) []Member {
	var out []Member
	for i, f := range shapeOf(t).fields {
		out = append(out, Member{f.name, f.typ, i})
	}
	return out
}

// field is one field of a format struct.
type field struct {
	index    []int
	typ      reflect.Type // of the value, see [Bare]
	name     string
	alias    string // the name without its unit, for text; "" when there is none
	required bool
	limits   *limits
}

// shape is what a format struct's tags say, read once.
type shape struct {
	fields []field
	known  map[string]bool // names and aliases
}

var shapes sync.Map // reflect.Type → *shape

func shapeOf(t reflect.Type) *shape {
	if s, ok := shapes.Load(t); ok {
		return s.(*shape)
	}
	s := &shape{fields: fieldsOf(t), known: map[string]bool{}}
	for _, f := range s.fields {
		s.known[f.name] = true
		if f.alias != "" {
			s.known[f.alias] = true
		}
	}
	shapes.Store(t, s)
	return s
}

func fieldsOf(t reflect.Type) []field {
	var out []field
	for _, f := range reflect.VisibleFields(t) {
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		if name == "" || name == "-" {
			continue
		}
		inner, alias := Bare(f.Type), ""
		if m, ok := measures[inner]; ok && m.suffix != "" && strings.HasSuffix(name, m.suffix) {
			alias = strings.TrimSuffix(name, m.suffix)
		}
		out = append(out, field{f.Index, inner, name, alias, f.Tag.Get("required") == "true", limitsOf(f.Tag, f.Type)})
	}
	return out
}

// value reads n into v, within the limits of the field v is in.
func (r *reader) value(n *node, v reflect.Value, path string, of *limits) {
	if n.kind == null && v.Type() != reflect.TypeFor[Anything]() {
		r.problems.add(path, "leave the field out when it is not known", "null")
		return
	}
	if v.Type() == reflect.TypeFor[catalog.Names]() && n.kind == text { // one of a list
		n = &node{kind: list, in: &inside{items: []node{*n}}}
	}
	if m, ok := measures[v.Type()]; ok {
		r.measure(n, v, path, of, m, m.suffix == "" || strings.HasSuffix(path, m.suffix) || strings.HasSuffix(path, "]"))
		return
	}
	switch own := v.Addr().Interface().(type) {
	case filler:
		r.value(n, reflect.ValueOf(own.Fill()).Elem(), path, of)
		return
	case *Anything:
		own.given = n
		return
	case *PolicySettings:
		own.read(r, n, path)
		return
	}
	switch v.Kind() {
	case reflect.Pointer:
		v.Set(reflect.New(v.Type().Elem()))
		r.value(n, v.Elem(), path, of)
	case reflect.Struct:
		if Object(v.Type()) {
			r.object(n, v, path)
		} else {
			r.tuple(n, v, path, of)
		}
	case reflect.Slice:
		r.list(n, v, path, of)
	case reflect.Map:
		r.table(n, v, path, of)
	case reflect.String, reflect.Uint8:
		r.text(n, v, path, of)
	case reflect.Int:
		r.integer(n, v, path, of)
	case reflect.Bool:
		if n.kind != boolean {
			r.problems.add(path, "true or false", "%s", n.describe())
			return
		}
		v.SetBool(n.text == "true")
	default:
		if v.Type() == reflect.TypeFor[int64]() { // and no figure with a unit
			r.integer(n, v, path, of)
			return
		}
		panic("exchange: no reader for " + v.Type().String()) // a mistake in the format's structs
	}
}

func (r *reader) count(n *node) string {
	if n.kind == list {
		return fmt.Sprintf("a list of %d", len(n.items()))
	}
	return n.describe()
}

// tuple reads the fields of a struct out of a list.
func (r *reader) tuple(n *node, v reflect.Value, path string, of *limits) {
	if n.kind != list || len(n.items()) != v.NumField() {
		r.problems.add(path, fmt.Sprintf("a list of %d numbers", v.NumField()), "%s", r.count(n))
		return
	}
	for i := range v.NumField() {
		r.value(&n.in.items[i], v.Field(i), index(path, i), of)
	}
}

func (r *reader) object(n *node, v reflect.Value, path string) {
	if n.kind != object {
		r.problems.add(path, "an object", "%s", n.describe())
		return
	}
	shape := shapeOf(v.Type())
	for _, f := range shape.fields {
		got, name := n.member(f.name), f.name
		if f.alias != "" {
			if alias := n.member(f.alias); alias != nil && (alias.kind != object || !shape.has(f.alias)) {
				if got != nil {
					r.problems.add(join(path, f.alias), "only one of them", "%s and %s are both given", f.alias, f.name)
				}
				got, name = alias, f.alias
			}
		}
		if got != nil && got.kind != object && Object(f.typ) && shape.has(f.name+"_mm") {
			got = nil // a length without its unit in the name
		}
		switch {
		case got != nil:
			r.value(got, v.FieldByIndex(f.index), join(path, name), f.limits)
		case f.required:
			r.problems.add(join(path, name), r.allowed(f.limits, ""), "is missing")
		}
	}
	for _, name := range n.names() {
		if !shape.known[name] && !r.problems.full() {
			r.problems.add(join(path, name), strings.Join(names(v.Type()), ", "), "is not a field of the format")
		}
	}
}

// has reports whether a field has this name.
func (s *shape) has(name string) bool {
	return slices.ContainsFunc(s.fields, func(f field) bool { return f.name == name })
}

func names(t reflect.Type) []string {
	var out []string
	for _, f := range shapeOf(t).fields {
		out = append(out, f.name)
	}
	return out
}

func (r *reader) list(n *node, v reflect.Value, path string, of *limits) {
	if n.kind != list {
		r.problems.add(path, "a list", "%s", n.describe())
		return
	}
	if len(n.items()) < of.minItems || len(n.items()) > of.maxItems {
		allowed := fmt.Sprintf("%d to %d entries", of.minItems, of.maxItems)
		found := fmt.Sprintf("a list of %d", len(n.items()))
		if len(n.items()) == 0 {
			found = "an empty list"
		}
		r.problems.add(path, allowed, "%s", found)
		return
	}
	v.Set(reflect.MakeSlice(v.Type(), len(n.items()), len(n.items())))
	for i := range n.items() {
		r.value(&n.in.items[i], v.Index(i), index(path, i), of)
	}
}

func (r *reader) table(n *node, v reflect.Value, path string, of *limits) {
	if n.kind != object {
		r.problems.add(path, "an object", "%s", n.describe())
		return
	}
	v.Set(reflect.MakeMap(v.Type()))
	keys := choices(v.Type().Key())
	for i, name := range n.names() {
		at := join(path, name)
		if keys != nil && !slices.Contains(keys, name) {
			r.problems.add(at, strings.Join(keys, ", "), "is not known")
			continue
		}
		if len(name) > 200 || strings.ContainsFunc(name, noText) {
			r.problems.add(join(path, quote(name)), "a name of at most 200 characters without control characters", "%s", quote(name))
			continue
		}
		item := reflect.New(v.Type().Elem()).Elem()
		r.value(&n.in.items[i], item, at, of)
		v.SetMapIndex(reflect.ValueOf(name).Convert(v.Type().Key()), item)
	}
}

func (r *reader) text(n *node, v reflect.Value, path string, of *limits) {
	allowed := func() string { return r.allowed(of, "a text") }
	if n.kind != text {
		r.problems.add(path, allowed(), "%s", n.describe())
		return
	}
	switch enum := of.enum; {
	case enum != nil && !slices.Contains(enum, n.text), of.pattern != nil && !of.pattern.MatchString(n.text):
		r.problems.add(path, allowed(), "%s", quote(n.text))
	case utf8.RuneCountInString(n.text) > of.maxLength:
		r.problems.add(path, fmt.Sprintf("at most %d characters", of.maxLength), "%d characters", utf8.RuneCountInString(n.text))
	case strings.ContainsFunc(n.text, func(c rune) bool { return noText(c) && (c != '\n' || !of.lines) }):
		r.problems.add(path, "text without control characters", "%s", quote(n.text))
	case of.filled && strings.TrimSpace(n.text) == "":
		r.problems.add(path, allowed(), "an empty text")
	default:
		if own, ok := v.Addr().Interface().(encoding.TextUnmarshaler); ok {
			_ = own.UnmarshalText([]byte(n.text)) // one of the choices
			return
		}
		v.SetString(n.text)
	}
}

// noText reports whether a letter is not allowed in a text: it could not be saved in XML, or is a
// control character.
func noText(r rune) bool { return unicode.IsControl(r) || r == 0xfffe || r == 0xffff }

func (r *reader) integer(n *node, v reflect.Value, path string, of *limits) {
	allowed := func() string { return r.allowed(of, "a whole number") }
	i, err := strconv.Atoi(strings.TrimSpace(n.text))
	if n.kind != number && (n.kind != text || r.typed == nil) || err != nil {
		r.problems.add(path, allowed(), "%s", n.describe())
		return
	}
	if i < of.least || i > of.most || of.enum != nil && !slices.Contains(of.enum, n.text) {
		r.problems.add(path, allowed(), "%d", i)
		return
	}
	v.SetInt(int64(i))
}

// measure reads a quantity: a number in the field with the unit in its name,
// a text in the one without.
func (r *reader) measure(n *node, v reflect.Value, path string, of *limits, m measure, named bool) {
	allowed := func() string { return r.allowed(of, "a number"+map[bool]string{true: " of" + m.unit}[m.unit != ""]) }
	var got int64
	var err error
	switch {
	case n.kind == number:
		if !named && !strings.HasSuffix(path, ".below") && !strings.HasSuffix(path, ".at_or_above") {
			r.problems.add(path, "a text with its unit, or the number in "+last(path)+m.suffix, "%s", n.text)
			return
		}
		got, err = quantity.Decimal(n.text, m.perOne)
	case n.kind == text && m.parse != nil && (!named || strings.HasSuffix(path, "]")): // in a list, whose name has the unit
		got, err = m.parse(n.text, r.bare(of))
	case n.kind == text && r.typed != nil && m.parse != nil:
		got, err = m.parse(n.text, r.bare(of))
	case n.kind == text && r.typed != nil:
		got, err = m.typed(n.text)
	case n.kind == text && m.suffix != "":
		r.problems.add(path, allowed()+"; a text goes in "+strings.TrimSuffix(last(path), m.suffix), "%s", n.describe())
		return
	default:
		r.problems.add(path, allowed(), "%s", n.describe())
		return
	}
	if err != nil {
		r.problems.add(path, allowed(), "%s", err)
		return
	}
	if step := m.perOne / 1_000_000; step > 1 { // to the precision that is written
		got = int64(quantity.Length(got).Round(quantity.Length(step)))
	}
	if got < of.lo || got > of.hi {
		r.problems.add(path, allowed(), "%s%s", quantity.FormatDecimal(got, places(m)), m.unit)
		return
	}
	v.SetInt(got)
}

func last(path string) string { return path[strings.LastIndexByte(path, '.')+1:] }

func places(m measure) int { return len(strconv.FormatInt(m.perOne, 10)) - 1 }
