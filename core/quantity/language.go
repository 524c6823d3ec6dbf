package quantity

import (
	"fmt"
	"maps"
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Language is a language that sentences are read in beside English, in which they are written: its
// message catalogue. A nil Language is English.
type Language struct {
	Code  string            // as in HTML, "de"
	Name  string            // as its speakers call it
	Comma bool              // stands before the decimals
	Texts map[string]string // by the English text; figures as %v or, in another order, %[2]v

	// Missing is told of what has no translation and is left in English: sentences, and strings that
	// may be words or a name. nil: nobody is.
	Missing func(english string, sentence bool)
}

// With is the language with more texts, which come first.
func (l *Language) With(texts map[string]string) *Language {
	if l == nil || len(texts) == 0 {
		return l
	}
	out := *l
	out.Texts = maps.Clone(l.Texts)
	maps.Copy(out.Texts, texts)
	return &out
}

// sentence is a format in the language; the English one where it is not translated.
func (l *Language) sentence(format string) string {
	if !hasWords(format) {
		return format
	}
	if text, ok := l.Texts[format]; ok {
		return text
	}
	if l.Missing != nil {
		l.Missing(format, true)
	}
	return format
}

// hasWords reports whether there is anything to translate besides figures and signs.
func hasWords(format string) bool {
	return strings.ContainsFunc(strings.ReplaceAll(format, "%v", ""),
		func(r rune) bool { return r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' })
}

var (
	number     = regexp.MustCompile(`\d+(\.\d+)?`)
	sizeName   = regexp.MustCompile(`^([\d.]+ × )?M\d+(×[\d.]+)?$|^[A-Z]{1,2}\d?$|^M\d+ or M\d+$`) // of threads, bolts and holes
	figureOnly = regexp.MustCompile(`^[\d\s./×″°%Ø–·-]*(mm|cm|in|m|kg|lb|N·m)?$`)
)

// joints are what stands between the words of a list.
var joints = []string{", ", " with ", " and "}

// Words are words in the language, with the figures in them: "bolt M8×45" is looked up as
// "bolt M%v×%v", and of a list each of its words. What is not in the catalogue is a name, and
// stays.
func (l *Language) Words(english string) string {
	if l == nil {
		return english
	}
	if text, ok := l.words(english); ok {
		return text
	}
	if text, ok := l.list(english); ok {
		return text
	}
	if l.Missing != nil {
		l.Missing(english, false)
	}
	return english
}

// list is a list of words, of which the catalogue has each: where it lacks one it is a name, which stays whole.
func (l *Language) list(english string) (string, bool) {
	for _, joint := range joints {
		parts := strings.Split(english, joint)
		if len(parts) < 2 {
			continue
		}
		for i := range parts {
			text, ok := l.words(parts[i])
			if !ok && sizeName.MatchString(parts[i]) {
				text, ok = l.Figure(parts[i]), true
			}
			if !ok {
				text, ok = l.list(parts[i])
			}
			if !ok {
				return "", false
			}
			parts[i] = text
		}
		sign := joint
		if text, ok := l.Texts[joint]; ok {
			sign = text
		}
		return strings.Join(parts, sign), true
	}
	return "", false
}

// words are those that the catalogue has as they are, or but for the figures in them and for
// their first letter.
func (l *Language) words(english string) (string, bool) {
	if text, ok := l.Texts[english]; ok {
		return text, true
	}
	if figureOnly.MatchString(english) {
		return l.Figure(english), true
	}
	var figures []any
	for _, f := range number.FindAllString(english, -1) {
		figures = append(figures, l.Figure(f))
	}
	format := number.ReplaceAllString(strings.ReplaceAll(english, "%", "%%"), "%v")
	if text, ok := l.Texts[format]; ok && figures != nil {
		return fmt.Sprintf(text, figures...), true
	}
	if r := english[0]; r >= 'A' && r <= 'Z' {
		text, ok := l.words(string(r-'A'+'a') + english[1:])
		first, size := utf8.DecodeRuneInString(text)
		return string(unicode.ToUpper(first)) + text[size:], ok
	}
	return english, false
}

// Figure is a figure as the language writes it.
func (l *Language) Figure(text string) string {
	if l != nil && l.Comma {
		return number.ReplaceAllStringFunc(text, func(n string) string { return strings.Replace(n, ".", ",", 1) })
	}
	return text
}

// For is the sentence in a language, still apart from the system of units. Its strings are
// [Language.Words]. What is in a language already stays as it is.
func (p Phrase) For(l *Language) Phrase {
	if l == nil || p.language != nil {
		return p
	}
	var figures []any
	for _, x := range p.args {
		figures = append(figures, argIn(x, l))
	}
	return Phrase{l.sentence(p.format), figures, l}
}

// Said is text that is in the language already.
func (l *Language) Said(text string) Phrase {
	return Phrase{"%v", []any{text}, l}
}

// List is a list of words or sentences with a sign between them.
func List(between string, all ...Phrase) Phrase { return listed(between, between, all) }

// And is a list of words with "and" before the last.
func And(all ...Phrase) Phrase { return listed(", ", " and ", all) }

func listed(between, last string, all []Phrase) Phrase {
	var args []any
	for i, p := range all {
		if i > 0 {
			sign := between
			if i == len(all)-1 {
				sign = last
			}
			args = append(args, Say(sign))
		}
		args = append(args, p)
	}
	return Say(strings.Repeat("%v", len(args)), args...)
}

// Names are names as a list of sentences takes them.
func Names(all ...string) []Phrase {
	out := make([]Phrase, len(all))
	for i, name := range all {
		out[i] = Say("%v", name)
	}
	return out
}
