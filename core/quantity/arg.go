package quantity

import (
	"encoding/binary"
	"fmt"
	"reflect"
	"slices"
)

// arg is a figure or a word of a [Phrase].
type arg struct {
	kind   kind
	bound  Bound
	wall   bool // coarser, as on a wall
	number int64
	text   string
	inches string  // where the text has been made up in both systems
	phrase *Phrase // a sentence within the sentence
	code   figure
}

// args are the figures and words of a sentence, encoded one after another, because sentences are made by the
// million and most of them are only compared. An argument is a byte with its kind, its bound and whether it is
// coarse, then its number, or its text after the text's length. Sentences within the sentence are beside the
// code, in order.
type args struct {
	code   string
	within []Phrase
}

func argsOf(all []any) (out args) {
	code := make([]byte, 0, 128)
	for _, x := range all {
		if p, is := x.(Phrase); is {
			code, out.within = append(code, byte(within)), append(out.within, p)
		} else {
			code = appendArg(code, x)
		}
	}
	out.code = string(code)
	return out
}

// appendArg encodes an argument that is not a sentence. It copies numbers and texts, so that the arguments of
// [Say] do not escape to the heap.
func appendArg(code []byte, x any) []byte {
	switch v := x.(type) {
	case string:
		return appendText(append(code, byte(name)), v)
	case int:
		return appendFigure(code, count, Nearest, false, int64(v))
	case Length:
		return appendFigure(code, shown, Nearest, false, int64(v))
	case AtLeast:
		return appendFigure(code, shown, Down, false, int64(v))
	case AtMost:
		return appendFigure(code, shown, Up, false, int64(v))
	case Shown:
		return appendFigure(code, shown, v.Bound, v.Coarse, int64(v.Length))
	case Wall:
		return appendFigure(code, onWall, Nearest, true, int64(v))
	case Bare:
		return appendFigure(code, bare, v.Bound, v.Wall, int64(v.Length))
	case Mass:
		return appendFigure(code, mass, Up, false, int64(v))
	case Capacity:
		return appendFigure(code, mass, Down, false, int64(v))
	case Angle:
		return appendFigure(code, angle, Nearest, false, int64(v))
	case Torque:
		return appendFigure(code, torque, Nearest, false, int64(v))
	case Either:
		return appendText(appendText(append(code, byte(made)), v.Metric), v.Imperial)
	case figure: // of another sentence
		return append(code, v...)
	}
	return appendText(append(code, byte(plain)), plainText(x))
}

// coarse marks a figure with the steps of a wall.
const coarse = 1 << 7

func appendFigure(code []byte, k kind, b Bound, isCoarse bool, n int64) []byte {
	flags := byte(k) | byte(b)<<5
	if isCoarse {
		flags |= coarse
	}
	return binary.AppendVarint(append(code, flags), n)
}

func appendText(code []byte, text string) []byte {
	return append(binary.AppendVarint(code, int64(len(text))), text...)
}

// figure is the code of one argument, which [Phrase.Numbered] returns and [Say] takes.
type figure string

// next removes and returns the first argument; ok is false if there is none.
func (l *args) next() (a arg, ok bool) {
	if l.code == "" {
		return a, false
	}
	from, flags := l.code, l.code[0]
	l.code = l.code[1:]
	a.kind, a.bound, a.wall = kind(flags&31), Bound(flags>>5&3), flags&coarse != 0
	switch a.kind {
	case within:
		a.phrase, l.within = &l.within[0], l.within[1:]
	case plain, name:
		a.text = l.nextText()
	case made:
		a.text, a.inches = l.nextText(), l.nextText()
	default:
		a.number = l.nextNumber()
	}
	a.code = figure(from[:len(from)-len(l.code)])
	return a, true
}

func (l *args) nextNumber() int64 {
	n, size := binary.Varint([]byte(l.code[:min(binary.MaxVarintLen64, len(l.code))]))
	l.code = l.code[size:]
	return n
}

func (l *args) nextText() string {
	n := l.nextNumber()
	text := l.code[:n]
	l.code = l.code[n:]
	return text
}

// all returns all arguments.
func (l args) all() (out []arg) {
	for a, ok := l.next(); ok; a, ok = l.next() {
		out = append(out, a)
	}
	return out
}

func (l *args) same(o *args) bool {
	return l.code == o.code && slices.EqualFunc(l.within, o.within, Phrase.Same)
}

type kind uint8

const (
	plain  kind = iota // text that is no word of a language: a thread's name, a number
	count              // a number of things
	name               // a name, or words
	within             // a sentence
	made               // text that has been made up in both systems
	shown              // a length
	onWall             // a length in the steps of a wall
	mass
	angle
	torque
	bare // a length without its unit
)

// Name is what people call a thing, a job or somebody: data, which stays as it is in every language. (An argument that is a string is
// words.)
type Name string

// plainText formats a number or a text of another type as fmt does, from a copy, so that it does not escape
// either. For other kinds of type it returns the type's name: a mistake, in plain sight.
func plainText(a any) string {
	from, of := reflect.ValueOf(a), reflect.TypeOf(a)
	if of == nil {
		return "nil"
	}
	to := reflect.New(of).Elem()
	switch {
	case from.CanInt():
		to.SetInt(from.Int())
	case from.CanUint():
		to.SetUint(from.Uint())
	case from.CanFloat():
		to.SetFloat(from.Float())
	case from.Kind() == reflect.String:
		to.SetString(from.String())
	default:
		return of.String()
	}
	return fmt.Sprint(to.Interface())
}

// appendIn appends the argument in a system of units, a figure with the decimal sign of a language.
func (a *arg) appendIn(out []byte, u Units, l *Language) []byte {
	switch a.kind {
	case plain, name:
		return append(out, a.text...)
	case count:
		return AppendDecimal(out, a.number, 0)
	case within:
		return a.phrase.AppendIn(out, u)
	case made:
		if u == Imperial {
			return append(out, a.inches...)
		}
		return append(out, a.text...)
	}
	if l != nil && l.Comma {
		return append(out, l.figure(string(a.appendFigure(nil, u)))...)
	}
	return a.appendFigure(out, u)
}

func (a *arg) appendFigure(out []byte, u Units) []byte {
	l := Length(a.number)
	switch a.kind {
	case onWall:
		return u.append(out, l, wallStep, 16, Nearest)
	case bare:
		return u.appendBare(out, Bare{l, a.bound, a.wall})
	case mass:
		return u.AppendMass(out, Mass(a.number), a.bound)
	case angle:
		return u.AppendAngle(out, Angle(a.number).Degrees())
	case torque:
		return append(out, Torque(a.number).String()...)
	}
	return u.AppendShown(out, Shown{l, a.bound, a.wall})
}

// again returns the argument for [Say] in another sentence.
func (a *arg) again() any {
	if a.kind == within {
		return *a.phrase
	}
	return a.code
}

// in returns the argument for [Say] in a language.
func (a *arg) in(l *Language) any {
	switch a.kind {
	case within:
		return a.phrase.For(l)
	case name:
		return l.Words(a.text)
	case made:
		return Either{l.Words(a.text), l.Words(a.inches)}
	}
	return a.again()
}
