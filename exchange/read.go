package exchange

import (
	"fmt"
	"math"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"nexufix/core/quantity"
)

// reader gives JSON values the meaning of the format's structs and collects
// what is wrong.
type reader struct{ problems *Problems }

// measure is a unit of the format: the suffix of its fields' names, the
// integer units in one, and the parser of what people write.
type measure struct {
	suffix, unit string
	perOne       int64
	parse        func(string) (int64, error)
}

var measures = map[reflect.Type]measure{
	reflect.TypeFor[MM](): {"_mm", " mm", int64(quantity.Millimetre), func(s string) (int64, error) {
		l, err := quantity.ParseLength(s, quantity.Millimetre)
		return int64(l), err
	}},
	reflect.TypeFor[KG](): {"_kg", " kg", int64(quantity.Kilogram), func(s string) (int64, error) {
		m, err := quantity.ParseMass(s, quantity.Kilogram)
		return int64(m), err
	}},
	reflect.TypeFor[Deg](): {"_deg", "°", int64(quantity.Degree), func(s string) (int64, error) {
		a, err := quantity.ParseAngle(s)
		return int64(a), err
	}},
	reflect.TypeFor[Num](): {"", "", int64(quantity.One), nil},
}

// field is one field of a format struct.
type field struct {
	index    int
	name     string
	alias    string // the name without its unit, for text; "" when there is none
	required bool
	tag      reflect.StructTag
}

var fieldsOf sync.Map // reflect.Type → []field: what the tags say, read once

func fields(t reflect.Type) []field {
	if f, ok := fieldsOf.Load(t); ok {
		return f.([]field)
	}
	var out []field
	for i := range t.NumField() {
		f := t.Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		if name == "" || name == "-" {
			continue
		}
		inner := f.Type
		if inner.Kind() == reflect.Pointer {
			inner = inner.Elem()
		}
		alias := ""
		if m, ok := measures[inner]; ok && m.suffix != "" && strings.HasSuffix(name, m.suffix) {
			alias = strings.TrimSuffix(name, m.suffix)
		}
		out = append(out, field{i, name, alias, f.Tag.Get("required") == "true", f.Tag})
	}
	fieldsOf.Store(t, out)
	return out
}

// value reads n into v. The tag holds the limits of the field v is in.
func (r *reader) value(n *node, v reflect.Value, path string, tag reflect.StructTag) {
	if n.kind == null {
		r.problems.add(path, "leave the field out when it is not known", "null")
		return
	}
	if v.Type() == reflect.TypeFor[Names]() && n.kind == text { // one of a list
		n = &node{kind: list, in: &inside{items: []node{*n}}}
	}
	if m, ok := measures[v.Type()]; ok {
		r.measure(n, v, path, tag, m, m.suffix == "" || strings.HasSuffix(path, m.suffix) || strings.HasSuffix(path, "]"))
		return
	}
	switch v.Kind() {
	case reflect.Pointer:
		v.Set(reflect.New(v.Type().Elem()))
		r.value(n, v.Elem(), path, tag)
	case reflect.Struct:
		r.object(n, v, path)
	case reflect.Slice:
		r.list(n, v, path, tag)
	case reflect.Array:
		if n.kind != list || len(n.items()) != v.Len() {
			r.problems.add(path, fmt.Sprintf("a list of %d numbers", v.Len()), "%s", r.count(n))
			return
		}
		for i := range v.Len() {
			r.value(&n.in.items[i], v.Index(i), index(path, i), tag)
		}
	case reflect.Map:
		r.table(n, v, path, tag)
	case reflect.String:
		r.text(n, v, path, tag)
	case reflect.Int:
		r.integer(n, v, path, tag)
	case reflect.Bool:
		if n.kind != boolean {
			r.problems.add(path, "true or false", "%s", n.describe())
			return
		}
		v.SetBool(n.text == "true")
	default:
		panic("exchange: no reader for " + v.Type().String()) // a mistake in the format's structs
	}
}

func (r *reader) count(n *node) string {
	if n.kind == list {
		return fmt.Sprintf("a list of %d", len(n.items()))
	}
	return n.describe()
}

func (r *reader) object(n *node, v reflect.Value, path string) {
	if n.kind != object {
		r.problems.add(path, "an object", "%s", n.describe())
		return
	}
	known := map[string]bool{}
	for _, f := range fields(v.Type()) {
		known[f.name] = true
		got, at := n.member(f.name), join(path, f.name)
		if f.alias != "" {
			known[f.alias] = true
			if alias := n.member(f.alias); alias != nil {
				if got != nil {
					r.problems.add(join(path, f.alias), "only one of them", "%s and %s are both given", f.alias, f.name)
				}
				got, at = alias, join(path, f.alias)
			}
		}
		switch {
		case got != nil:
			r.value(got, v.Field(f.index), at, f.tag)
		case f.required:
			r.problems.add(at, r.allowedOf(v.Field(f.index).Type(), f.tag, ""), "is missing")
		}
	}
	for _, name := range n.names() {
		if !known[name] && !r.problems.full() {
			r.problems.add(join(path, name), strings.Join(names(v.Type()), ", "), "is not a field of the format")
		}
	}
}

func names(t reflect.Type) []string {
	var out []string
	for _, f := range fields(t) {
		out = append(out, f.name)
	}
	return out
}

func (r *reader) list(n *node, v reflect.Value, path string, tag reflect.StructTag) {
	if n.kind != list {
		r.problems.add(path, "a list", "%s", n.describe())
		return
	}
	least, most := limit(tag, "minItems", 0), limit(tag, "maxItems", maxItems)
	if len(n.items()) < least || len(n.items()) > most {
		allowed := fmt.Sprintf("%d to %d entries", least, most)
		found := fmt.Sprintf("a list of %d", len(n.items()))
		if len(n.items()) == 0 {
			found = "an empty list"
		}
		r.problems.add(path, allowed, "%s", found)
		return
	}
	v.Set(reflect.MakeSlice(v.Type(), len(n.items()), len(n.items())))
	for i := range n.items() {
		r.value(&n.in.items[i], v.Index(i), index(path, i), tag)
	}
}

func (r *reader) table(n *node, v reflect.Value, path string, tag reflect.StructTag) {
	if n.kind != object {
		r.problems.add(path, "an object", "%s", n.describe())
		return
	}
	v.Set(reflect.MakeMap(v.Type()))
	keys := choices(v.Type().Key(), "")
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
		r.value(&n.in.items[i], item, at, tag)
		v.SetMapIndex(reflect.ValueOf(name).Convert(v.Type().Key()), item)
	}
}

var patterns sync.Map // pattern text → *regexp.Regexp

func matches(pattern, s string) bool {
	re, ok := patterns.Load(pattern)
	if !ok {
		re, _ = patterns.LoadOrStore(pattern, regexp.MustCompile(pattern))
	}
	return re.(*regexp.Regexp).MatchString(s)
}

func (r *reader) text(n *node, v reflect.Value, path string, tag reflect.StructTag) {
	allowed := func() string { return r.allowedOf(v.Type(), tag, "a text") }
	if n.kind != text {
		r.problems.add(path, allowed(), "%s", n.describe())
		return
	}
	most := limit(tag, "maxLength", 200)
	switch enum := choices(v.Type(), tag); {
	case enum != nil && !slices.Contains(enum, n.text),
		tag.Get("pattern") != "" && !matches(tag.Get("pattern"), n.text):
		r.problems.add(path, allowed(), "%s", quote(n.text))
	case utf8.RuneCountInString(n.text) > most:
		r.problems.add(path, fmt.Sprintf("at most %d characters", most), "%d characters", utf8.RuneCountInString(n.text))
	case strings.ContainsFunc(n.text, noText):
		r.problems.add(path, "text without control characters", "%s", quote(n.text))
	case tag.Get("required") == "true" && tag.Get("empty") != "ok" && strings.TrimSpace(n.text) == "":
		r.problems.add(path, allowed(), "an empty text")
	default:
		v.SetString(n.text)
	}
}

// noText says of a letter that it is none: it could not be kept in XML, or is a
// control character.
func noText(r rune) bool { return unicode.IsControl(r) || r == 0xfffe || r == 0xffff }

func (r *reader) integer(n *node, v reflect.Value, path string, tag reflect.StructTag) {
	allowed := r.allowed(tag, "a whole number")
	i, err := strconv.Atoi(n.text)
	if n.kind != number || err != nil {
		r.problems.add(path, allowed, "%s", n.describe())
		return
	}
	enum := tag.Get("enum")
	if i < limit(tag, "minimum", -1_000_000_000) || i > limit(tag, "maximum", 1_000_000_000) ||
		enum != "" && !slices.Contains(strings.Split(enum, ","), n.text) {
		r.problems.add(path, allowed, "%d", i)
		return
	}
	v.SetInt(int64(i))
}

// measure reads a quantity: a number in the field with the unit in its name,
// a text in the one without.
func (r *reader) measure(n *node, v reflect.Value, path string, tag reflect.StructTag, m measure, named bool) {
	allowed := func() string { return r.allowed(tag, "a number"+map[bool]string{true: " of" + m.unit}[m.unit != ""]) }
	var got int64
	var err error
	switch {
	case n.kind == number:
		if !named && !strings.HasSuffix(path, ".below") && !strings.HasSuffix(path, ".at_or_above") {
			r.problems.add(path, "a text with its unit, or the number in "+last(path)+m.suffix, "%s", n.text)
			return
		}
		got, err = quantity.Decimal(n.text, m.perOne)
	case n.kind == text && !named && m.parse != nil:
		got, err = m.parse(n.text)
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
	if step := m.perOne / 1_000_000; step > 1 { // as it will be written
		got = int64(quantity.Length(got).Round(quantity.Length(step)))
	}
	if lo, hi := bounds(tag, m); got < lo || got > hi {
		r.problems.add(path, allowed(), "%s%s", quantity.FormatDecimal(got, places(m)), m.unit)
		return
	}
	v.SetInt(got)
}

func last(path string) string { return path[strings.LastIndexByte(path, '.')+1:] }

func places(m measure) int { return len(strconv.FormatInt(m.perOne, 10)) - 1 }

// bounds are the least and the most that a tag allows, in integer units.
func bounds(tag reflect.StructTag, m measure) (lo, hi int64) {
	key := boundsKey{tag, m.suffix}
	if known, ok := knownBounds.Load(key); ok {
		b := known.([2]int64)
		return b[0], b[1]
	}
	lo, hi = math.MinInt64, math.MaxInt64
	if n, ok := bound(tag, "minimum", m); ok {
		lo = n
	}
	if n, ok := bound(tag, "exclusiveMinimum", m); ok {
		lo = max(lo, n+1)
	}
	if n, ok := bound(tag, "maximum", m); ok {
		hi = n
	}
	knownBounds.Store(key, [2]int64{lo, hi})
	return lo, hi
}

type boundsKey struct {
	tag    reflect.StructTag
	suffix string
}

var knownBounds sync.Map // boundsKey → [2]int64: what the tags say, read once

// bound is a limit from a tag in integer units.
func bound(tag reflect.StructTag, name string, m measure) (int64, bool) {
	s, ok := tag.Lookup(name)
	if !ok {
		return 0, false
	}
	n, err := quantity.Decimal(s, m.perOne)
	if err != nil {
		panic("exchange: bad tag " + name + ": " + s) // a mistake in the format's structs
	}
	return n, true
}

func limit(tag reflect.StructTag, name string, fallback int) int {
	if n, err := strconv.Atoi(tag.Get(name)); err == nil {
		return n
	}
	return fallback
}

type choicesKey struct {
	t    reflect.Type
	enum string
}

var knownChoices sync.Map // choicesKey → []string

// choices are the texts that a field can have: of its tag, else of its type;
// nil for any.
func choices(t reflect.Type, tag reflect.StructTag) []string {
	key := choicesKey{t, tag.Get("enum")}
	if known, ok := knownChoices.Load(key); ok {
		return known.([]string)
	}
	list := choicesOf(t, tag)
	knownChoices.Store(key, list)
	return list
}

func choicesOf(t reflect.Type, tag reflect.StructTag) []string {
	if e := tag.Get("enum"); e != "" {
		return strings.Split(e, ",")
	}
	named, ok := reflect.Zero(t).Interface().(interface{ Enum() []any })
	if !ok {
		return nil
	}
	var out []string
	for _, x := range named.Enum() {
		out = append(out, fmt.Sprint(x))
	}
	return out
}

// allowedOf says in words what a field of a type allows.
func (r *reader) allowedOf(t reflect.Type, tag reflect.StructTag, what string) string {
	if t.Kind() == reflect.String && tag.Get("enum") == "" {
		if list := choices(t, ""); list != nil {
			return strings.Join(list, ", ")
		}
	}
	return r.allowed(tag, what)
}

// allowed says in words what a field's tag allows.
func (r *reader) allowed(tag reflect.StructTag, what string) string {
	if e := tag.Get("enum"); e != "" {
		return strings.ReplaceAll(e, ",", ", ")
	}
	if d := tag.Get("patternText"); d != "" {
		return d
	}
	var parts []string
	if what != "" {
		parts = append(parts, what)
	}
	if s := tag.Get("exclusiveMinimum"); s != "" {
		parts = append(parts, "more than "+s)
	}
	if s := tag.Get("minimum"); s != "" {
		parts = append(parts, "at least "+s)
	}
	if s := tag.Get("maximum"); s != "" {
		parts = append(parts, "at most "+s)
	}
	return strings.Join(parts, ", ")
}
