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
}

// args are those of a sentence, one after another: sentences are made by the million and most of them only compared.
// Of each there is a byte of its kind, its bound and whether it is coarse; then its number in eight bytes, or its
// text after the text's length. Sentences within it stand beside it, in their order.
type args struct {
	code   string
	within []Phrase
}

func argsOf(all []any) (out args) {
	code := make([]byte, 0, 128)
	for _, x := range all {
		a := argOf(x)
		flags := byte(a.kind) | byte(a.bound)<<5
		if a.wall {
			flags |= 1 << 7
		}
		code = append(code, flags)
		switch a.kind {
		case within:
			out.within = append(out.within, *a.phrase)
		case plain, name:
			code = appendText(code, a.text)
		case made:
			code = appendText(appendText(code, a.text), a.inches)
		default:
			code = binary.LittleEndian.AppendUint64(code, uint64(a.number))
		}
	}
	out.code = string(code)
	return out
}

func appendText(code []byte, text string) []byte {
	return append(binary.LittleEndian.AppendUint64(code, uint64(len(text))), text...)
}

// next takes the first one off; ok is false when there is none.
func (l *args) next() (a arg, ok bool) {
	if l.code == "" {
		return a, false
	}
	flags := l.code[0]
	l.code = l.code[1:]
	a.kind, a.bound, a.wall = kind(flags&31), Bound(flags>>5&3), flags>>7 == 1
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
	return a, true
}

func (l *args) nextNumber() int64 {
	n := binary.LittleEndian.Uint64([]byte(l.code[:8]))
	l.code = l.code[8:]
	return int64(n)
}

func (l *args) nextText() string {
	n := l.nextNumber()
	text := l.code[:n]
	l.code = l.code[n:]
	return text
}

// all are they all.
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

// argOf takes the value of an argument. It keeps nothing of what it is given but numbers
// and texts, so that the arguments of [Say] need no memory of their own.
func argOf(a any) arg {
	switch v := a.(type) {
	case arg: // of another sentence
		return v
	case string:
		return arg{kind: name, text: v}
	case int:
		return arg{kind: count, number: int64(v)}
	case Phrase:
		return arg{kind: within, phrase: &v}
	case Either:
		return arg{kind: made, text: v.Metric, inches: v.Imperial}
	case Length:
		return arg{kind: shown, number: int64(v)}
	case AtLeast:
		return arg{kind: shown, number: int64(v), bound: Down}
	case AtMost:
		return arg{kind: shown, number: int64(v), bound: Up}
	case Shown:
		return arg{kind: shown, number: int64(v.Length), bound: v.Bound, wall: v.Coarse}
	case Wall:
		return arg{kind: onWall, number: int64(v)}
	case Bare:
		return arg{kind: bare, number: int64(v.Length), bound: v.Bound, wall: v.Wall}
	case Mass:
		return arg{kind: mass, number: int64(v), bound: Up}
	case Capacity:
		return arg{kind: mass, number: int64(v), bound: Down}
	case Angle:
		return arg{kind: angle, number: int64(v)}
	case Torque:
		return arg{kind: torque, number: int64(v)}
	}
	return arg{text: plainText(a)}
}

// plainText is what fmt makes of a value that is a number or a text, whatever its type's methods; of any other
// the name of its type, which is a mistake that is seen.
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

// appendIn appends it in a system of units, and, if it is a figure, as a language writes it.
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

// in is the figure or word in a language, as [Say] takes it.
func (a arg) in(l *Language) any {
	switch a.kind {
	case within:
		return a.phrase.For(l)
	case name:
		return l.Words(a.text)
	case made:
		return Either{l.Words(a.text), l.Words(a.inches)}
	}
	return a
}
