package exchange

import (
	"bytes"
	"encoding/json"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode/utf8"

	"nexufix/core/quantity"
)

// An encoder appends a value as indented JSON, as encoding/json writes it with two spaces and
// without escapes for HTML. It is made once from a type and its json tags. `nexufix match`
// writes a gigabyte and a half; the library took more than three times as long for it.
// [TestEncoderAgreesWithLibrary] holds the two beside each other.
type encoder func(out []byte, v reflect.Value, indent int) []byte

// encoders are those that are made, by type. Whoever makes one holds the lock until all that it is made
// of is there: nobody meets one that is half made.
var encoders = struct {
	sync.Mutex
	of map[reflect.Type]*encoder
}{of: map[reflect.Type]*encoder{}}

// appendIndented appends a value, its lines after the first indented by so many steps.
func appendIndented(out []byte, v any, indent int) []byte {
	x := reflect.ValueOf(v)
	encoders.Lock()
	made := encoderOf(x.Type())
	encoders.Unlock()
	return (*made)(out, x, indent)
}

// encoderOf is called with the lock held. What it gives for a type that holds itself is filled in later.
func encoderOf(t reflect.Type) *encoder {
	made := encoders.of[t]
	if made == nil {
		made = new(encoder)
		encoders.of[t] = made
		*made = newEncoder(t)
	}
	return made
}

func newEncoder(t reflect.Type) encoder {
	if of, ok := reflect.Zero(t).Interface().(interface{ IsZero() bool }); ok && t.Kind() == reflect.Struct && of.IsZero() {
		return optionalEncoder(t)
	}
	switch t {
	case reflect.TypeFor[map[string]string]():
		return appendTexts
	case reflect.TypeFor[MM](), reflect.TypeFor[Deg](), reflect.TypeFor[Num](), reflect.TypeFor[quantity.Torque](),
		reflect.TypeFor[quantity.Force]():
		return func(out []byte, v reflect.Value, _ int) []byte { return quantity.AppendDecimal(out, v.Int(), 6) }
	}
	if t.Implements(reflect.TypeFor[json.Marshaler]()) {
		panic("exchange: no encoder of a " + t.String()) // a mistake in the format's structs
	}
	switch t.Kind() {
	case reflect.String:
		return func(out []byte, v reflect.Value, _ int) []byte { return appendText(out, v.String()) }
	case reflect.Int:
		return func(out []byte, v reflect.Value, _ int) []byte { return strconv.AppendInt(out, v.Int(), 10) }
	case reflect.Pointer:
		elem := encoderOf(t.Elem())
		return func(out []byte, v reflect.Value, indent int) []byte {
			if v.IsNil() {
				return append(out, "null"...)
			}
			return (*elem)(out, v.Elem(), indent)
		}
	case reflect.Slice:
		return sliceEncoder(t)
	case reflect.Struct:
		return structEncoder(t)
	}
	panic("exchange: no encoder of a " + t.String()) // a mistake in the format's structs
}

// optionalEncoder writes a figure, or null.
func optionalEncoder(t reflect.Type) encoder {
	value, _ := t.FieldByName("Value")
	known, _ := t.FieldByName("Known")
	elem := encoderOf(value.Type)
	return func(out []byte, v reflect.Value, indent int) []byte {
		if !v.Field(known.Index[0]).Bool() {
			return append(out, "null"...)
		}
		return (*elem)(out, v.Field(value.Index[0]), indent)
	}
}

func sliceEncoder(t reflect.Type) encoder {
	elem := encoderOf(t.Elem())
	return func(out []byte, v reflect.Value, indent int) []byte {
		if v.IsNil() {
			return append(out, "null"...)
		}
		n := v.Len()
		if n == 0 {
			return append(out, "[]"...)
		}
		out = append(out, '[')
		for i := range n {
			if i > 0 {
				out = append(out, ',')
			}
			out = (*elem)(appendLine(out, indent+1), v.Index(i), indent+1)
		}
		return append(appendLine(out, indent), ']')
	}
}

// appendTexts writes texts by name.
func appendTexts(out []byte, v reflect.Value, indent int) []byte {
	texts := v.Interface().(map[string]string)
	if texts == nil {
		return append(out, "null"...)
	}
	if len(texts) == 0 {
		return append(out, "{}"...)
	}
	var room [8]string
	names := room[:0]
	for name := range texts {
		names = append(names, name)
	}
	slices.Sort(names)
	out = append(out, '{')
	for i, name := range names {
		if i > 0 {
			out = append(out, ',')
		}
		out = append(appendText(appendLine(out, indent+1), name), ": "...)
		out = appendText(out, texts[name])
	}
	return append(appendLine(out, indent), '}')
}

// member is a field of a struct as it is written.
type member struct {
	index     int
	value     *encoder
	omitZero  bool
	omitEmpty bool
	start     [8]string // its line up to the value, by indent
}

func structEncoder(t reflect.Type) encoder {
	var members []member
	var names []string
	for i := range t.NumField() {
		f := t.Field(i)
		name, options, _ := strings.Cut(f.Tag.Get("json"), ",")
		m := member{index: i, value: encoderOf(f.Type), omitZero: options == "omitzero", omitEmpty: options == "omitempty"}
		for indent := range m.start {
			m.start[indent] = m.line(indent, name)
		}
		members = append(members, m)
		names = append(names, name)
	}
	return func(out []byte, v reflect.Value, indent int) []byte {
		out = append(out, '{')
		none := len(out)
		for i := range members {
			m := &members[i]
			x := v.Field(m.index)
			if m.omitZero && x.IsZero() || m.omitEmpty && isEmpty(x) {
				continue
			}
			if len(out) > none {
				out = append(out, ',')
			}
			if indent < len(m.start) {
				out = append(out, m.start[indent]...)
			} else {
				out = append(out, m.line(indent, names[i])...)
			}
			out = (*m.value)(out, x, indent+1)
		}
		if len(out) > none {
			out = appendLine(out, indent)
		}
		return append(out, '}')
	}
}

// line starts the member's line.
func (m *member) line(indent int, name string) string {
	return string(append(appendText(appendLine(nil, indent+1), name), ": "...))
}

// isEmpty is what omitempty leaves out.
func isEmpty(v reflect.Value) bool {
	switch v.Kind() {
	case reflect.String, reflect.Slice, reflect.Map:
		return v.Len() == 0
	case reflect.Struct:
		return false
	}
	return v.IsZero()
}

// appendLine starts a line.
func appendLine(out []byte, indent int) []byte {
	const blank = "\n                                "
	if n := 1 + 2*indent; n <= len(blank) {
		return append(out, blank[:n]...)
	}
	return append(append(out, '\n'), bytes.Repeat([]byte("  "), indent)...)
}

// What a byte of a text may ask for when it is quoted.
const (
	escaped  = 1 << iota // by itself
	foreign              // to be looked at: it is not ASCII
	breaking             // it may begin U+2028 or U+2029
)

var classes = func() (of [256]uint8) {
	for c := range of {
		switch {
		case c < ' ' || c == '"' || c == '\\':
			of[c] = escaped
		case c == '\u2028'>>12|0xE0:
			of[c] = foreign | breaking
		case c >= utf8.RuneSelf:
			of[c] = foreign
		}
	}
	return of
}()

// appendText quotes a text: as it stands where nothing in it has to be escaped.
func appendText(out []byte, text string) []byte {
	var asks uint8
	for i := range len(text) {
		asks |= classes[text[i]]
	}
	plain := asks&escaped == 0 && (asks&foreign == 0 || utf8.ValidString(text))
	if plain && asks&breaking != 0 {
		plain = !strings.Contains(text, "\u2028") && !strings.Contains(text, "\u2029")
	}
	if plain {
		return append(append(append(out, '"'), text...), '"')
	}
	var quoted bytes.Buffer
	e := json.NewEncoder(&quoted)
	e.SetEscapeHTML(false)
	_ = e.Encode(text) // a text can always be written
	return append(out, bytes.TrimSuffix(quoted.Bytes(), []byte("\n"))...)
}
