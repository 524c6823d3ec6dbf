package quantity

import (
	"fmt"
	"math/big"
	"slices"
	"strconv"
	"strings"
)

// Units is the system people read in. The zero value is millimetres and
// kilograms.
type Units uint8

// The two systems.
const (
	Metric Units = iota
	Imperial
)

// Bound says to which side a figure is rounded for show.
type Bound uint8

// Nearest for plain figures; Down for a figure that must reach a limit, so
// that what is shown is never more than what is there; Up for one that must
// stay under a limit.
const (
	Nearest Bound = iota
	Down
	Up
)

// AtLeast marks a length in a [Phrase] that must reach a limit: it is shown
// rounded down.
type AtLeast Length

// AtMost marks a length in a [Phrase] that must stay under a limit: it is
// shown rounded up.
type AtMost Length

// Wall marks a length in a [Phrase] that is measured on a wall: steps of
// 0.5 mm or 1/16 in instead of 0.1 mm or 1/64 in.
type Wall Length

// Shown marks a length in a [Phrase] with the side it is rounded to. Coarse
// inches are those of a wall, 16ths; millimetres are tenths either way.
type Shown struct {
	Length Length
	Bound  Bound
	Coarse bool
}

// Coarse is a length on a wall or an outline, rounded to a side.
func Coarse(l Length, b Bound) Shown { return Shown{l, b, true} }

// Capacity marks a mass in a [Phrase] that is a limit not to be passed: it is
// shown rounded down. A plain Mass is a load and is shown rounded up.
type Capacity Mass

const (
	stackStep = Millimetre / 10
	wallStep  = Millimetre / 2
)

// Stack shows a length as stacks are shown: 0.1 mm steps, or inches as a
// reduced fraction in 64ths.
func (u Units) Stack(l Length, b Bound) string { return string(u.append(nil, l, stackStep, 64, b)) }

// Wall shows a length as walls are measured: 0.5 mm steps, or 16ths.
func (u Units) Wall(l Length, b Bound) string { return string(u.append(nil, l, wallStep, 16, b)) }

// Shown writes a length rounded as it demands.
func (u Units) Shown(s Shown) string { return string(u.AppendShown(nil, s)) }

// AppendShown appends it.
func (u Units) AppendShown(out []byte, s Shown) []byte {
	if s.Coarse && u == Imperial {
		return u.append(out, s.Length, wallStep, 16, s.Bound)
	}
	return u.append(out, s.Length, stackStep, 64, s.Bound)
}

func (u Units) append(out []byte, l, step Length, denominator int64, b Bound) []byte {
	if u == Imperial {
		return append(append(out, Fraction(l, denominator, b)...), " in"...)
	}
	return append(AppendDecimal(out, int64(roundTo(l, step, b)), 6), " mm"...)
}

func roundTo(l, step Length, b Bound) Length {
	switch b {
	case Down:
		return l.Floor(step)
	case Up:
		return l.Ceil(step)
	}
	return l.Round(step)
}

// Fraction writes a length in inches as a reduced fraction, "39 3/4", rounded
// to 1/denominator; denominator is one of 1, 2, 4 … 64.
func Fraction(l Length, denominator int64, b Bound) string {
	if denominator <= 0 || int64(Inch)%denominator != 0 {
		denominator = 64
	}
	n := int64(roundTo(l, Inch/Length(denominator), b) / (Inch / Length(denominator)))
	sign := ""
	if n < 0 {
		sign, n = "-", -n
	}
	inches, rest := n/denominator, big.NewRat(n%denominator, denominator)
	switch {
	case rest.Sign() == 0:
		return sign + strconv.FormatInt(inches, 10)
	case inches == 0:
		return sign + rest.String()
	}
	return fmt.Sprintf("%s%d %s", sign, inches, rest)
}

// Mass shows a mass to a hundredth of a kilogram or a tenth of a pound.
func (u Units) Mass(m Mass, b Bound) string { return string(u.AppendMass(nil, m, b)) }

// AppendMass appends it.
func (u Units) AppendMass(out []byte, m Mass, b Bound) []byte {
	unit, places, name := Kilogram, 2, " kg"
	if u == Imperial {
		unit, places, name = Pound, 1, " lb"
	}
	parts := Mass(10)
	if places == 2 {
		parts = 100
	}
	n, rest := m*parts/unit, m*parts%unit
	switch {
	case b == Up && rest > 0, b == Nearest && rest*2 >= unit:
		n++
	case rest < 0 && (b == Down || b == Nearest && -rest*2 >= unit):
		n--
	}
	return append(AppendDecimal(out, int64(n), places), name...)
}

// Angle shows an angle to a hundredth of a degree.
func (u Units) Angle(degrees float64) string { return string(u.AppendAngle(nil, degrees)) }

// AppendAngle appends it.
func (u Units) AppendAngle(out []byte, degrees float64) []byte {
	return append(AppendDecimal(out, int64(FromMM(degrees).Round(Millimetre/100)), 6), "°"...)
}

// Phrase is a sentence with figures in it, kept apart from the system they
// will be read in. The zero value is the empty sentence.
type Phrase struct {
	format   string
	args     []any
	language *Language // that it is in; nil: English
}

// Say makes a Phrase from a format with %v where a figure or word goes.
// Figures are Length, AtLeast, AtMost, Wall, Shown, Mass, Capacity, Angle or Torque; a string is a
// name, or words that have a translation of their own (see [Language]). What else has a number or a text
// for its value is written as fmt writes it.
func Say(format string, args ...any) Phrase { return Phrase{format: format, args: args} }

// Same reports whether two sentences are equal in either system of units. It does not recognise all that are.
func (p Phrase) Same(o Phrase) bool {
	return p.format == o.format && p.language == o.language && slices.EqualFunc(p.args, o.args, sameArg)
}

// In is the sentence in one system of units.
func (p Phrase) In(u Units) string {
	if p.format == "" {
		return ""
	}
	return string(p.AppendIn(make([]byte, 0, 160), u))
}

// AppendIn appends the sentence.
func (p *Phrase) AppendIn(out []byte, u Units) []byte {
	format, rest, start := p.format, p.args, len(out)
	if len(rest) == 0 {
		return append(out, strings.ReplaceAll(format, "%%", "%")...)
	}
	for {
		at := strings.IndexByte(format, '%')
		if at < 0 || at+1 == len(format) {
			return append(out, format...)
		}
		out = append(out, format[:at]...)
		if format[at+1] == '%' {
			out = append(out, '%')
		} else if len(rest) > 0 && format[at+1] == 'v' {
			out, rest = appendArg(out, rest[0], u, p.language), rest[1:]
		} else { // in another order, or quoted
			var words []any
			for _, x := range p.args {
				words = append(words, string(appendArg(nil, x, u, p.language)))
			}
			return fmt.Appendf(out[:start], p.format, words...)
		}
		format = format[at+2:]
	}
}

// Figures appends the figures and words of the sentence in one system of units, in English.
func (p Phrase) Figures(to []string, u Units) []string {
	for _, x := range p.args {
		to = append(to, string(appendArg(nil, x, u, nil)))
	}
	return to
}

// Numbered is the sentence with its figures as {1}, {2} …, counted on from n, and the figures as [Say] takes
// them: what a sentence that is reworded can refer to. A sentence within it counts as one.
func (p Phrase) Numbered(n *int) (text string, figures []any) {
	if len(p.args) == 0 {
		return p.In(Metric), nil
	}
	var words []any
	for range p.args {
		*n++
		words = append(words, fmt.Sprintf("{%d}", *n))
	}
	return fmt.Sprintf(p.format, words...), p.args
}

// Named are the names and words in the sentence, those aside that are in a sentence within it.
func (p Phrase) Named() (names []string) {
	for _, x := range p.args {
		if words, is := x.(string); is {
			names = append(names, words)
		}
	}
	return names
}

// Either is text that has been made up in both systems already, as lines of a
// wrapped [Phrase] are.
type Either struct{ Metric, Imperial string }

// Wrap breaks a sentence between words into lines that fit, in both systems: where one
// takes fewer lines, its last ones are empty.
func (p Phrase) Wrap(fits func(line string) bool) []Phrase {
	mm, in := wrapped(p.In(Metric), fits), wrapped(p.In(Imperial), fits)
	if len(mm) <= 1 && len(in) <= 1 {
		return []Phrase{p}
	}
	var out []Phrase
	for i := range max(len(mm), len(in)) {
		var e Either
		if i < len(mm) {
			e.Metric = mm[i]
		}
		if i < len(in) {
			e.Imperial = in[i]
		}
		out = append(out, Phrase{format: "%v", args: []any{e}, language: p.language})
	}
	return out
}

// wrapped breaks a text between words; a word that is too long has a line of
// its own.
func wrapped(text string, fits func(line string) bool) []string {
	var out []string
	line := ""
	for i, word := range strings.Split(text, " ") {
		switch longer := line + " " + word; {
		case i == 0:
			line = word
		case isUnit(word) && !fits(longer) && strings.Contains(line, " "): // a figure takes its unit along
			at := strings.LastIndexByte(line, ' ')
			out, line = append(out, line[:at]), longer[at+1:]
		case line != "" && !fits(longer):
			out, line = append(out, line), word
		default:
			line = longer
		}
	}
	return append(out, line)
}

// isUnit reports whether a word belongs to the figure before it.
func isUnit(word string) bool {
	switch strings.TrimRight(word, ".,;:") {
	case "mm", "in", "kg", "lb", "deep", "%":
		return true
	}
	return false
}

// Empty reports whether there is nothing to say.
func (p Phrase) Empty() bool { return p.format == "" }

// Bare marks a length in a [Phrase] that stands at a dimension line: a bare
// number in millimetres, inches with their mark.
type Bare struct {
	Length Length
	Bound  Bound
	Wall   bool // coarser, as on a wall
}

func (u Units) appendBare(out []byte, b Bare) []byte {
	step, denominator := stackStep, int64(64)
	if b.Wall {
		step, denominator = wallStep, 16
	}
	if u == Imperial {
		return append(append(out, Fraction(b.Length, denominator, b.Bound)...), "″"...)
	}
	return AppendDecimal(out, int64(roundTo(b.Length, step, b.Bound)), 6)
}
