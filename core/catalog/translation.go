package catalog

import (
	"fmt"
	"slices"
	"strings"
)

// Translation is one of a bracket's own texts in another language: the name of a part, a lock, a
// setting, or a text of its assembly, with the same figures in braces.
type Translation struct {
	Language string `json:"language" required:"true" pattern:"^[a-z]{2,3}$"`
	Of       string `json:"of" required:"true" maxLength:"1000"` // the text as it stands in the bracket
	Text     string `json:"text" required:"true" maxLength:"1500"`
}

// texts are those of a bracket's own that are read by who installs it.
func (b *Bracket) texts() []string {
	var out []string
	for i := range b.Kit {
		out = append(out, b.Kit[i].Name)
	}
	for i := range b.Settings {
		out = append(out, b.Settings[i].Text)
	}
	if b.Lock != nil {
		out = append(out, b.Lock.Kind)
	}
	for i := range b.Assembly {
		s := &b.Assembly[i]
		out = append(out, s.Title, s.Text, s.Caution, s.Check)
		out = append(out, s.Tools...)
	}
	return slices.DeleteFunc(out, func(s string) bool { return s == "" })
}

// Untranslated are the texts that a bracket lacks in a language.
func (b *Bracket) Untranslated(code string) []string {
	var out []string
	for _, text := range b.texts() {
		has := func(t Translation) bool { return t.Language == code && t.Of == text }
		if !slices.ContainsFunc(b.Translations, has) && !slices.Contains(out, text) {
			out = append(out, text)
		}
	}
	return out
}

// Translated are a bracket's own texts in a language, by their English ones, with figures as a
// message catalogue has them.
func (b *Bracket) Translated(code string) map[string]string {
	out := map[string]string{}
	for _, t := range b.Translations {
		if t.Language == code {
			names, _ := Figures(t.Of)
			out[numbered(t.Of, names)] = numbered(t.Text, names)
		}
	}
	return out
}

// numbered is a text with the figures in braces as %v, or, where they stand in another order than
// names, as %[2]v.
func numbered(text string, names []string) string {
	if len(names) == 0 {
		return text
	}
	own, _ := Figures(text)
	text = strings.ReplaceAll(text, "%", "%%")
	for _, name := range own {
		verb := "%v"
		if !slices.Equal(own, names) {
			verb = fmt.Sprintf("%%[%d]v", slices.Index(names, name)+1)
		}
		text = strings.Replace(text, "{"+name+"}", verb, 1)
	}
	return text
}

// validateTranslations checks that each has the figures of its text, and stands once. One of a text that
// the bracket does not have, or no more, is not printed; it is no fault, since parts and steps come in
// tables of their own.
func (b *Bracket) validateTranslations(out *problems) {
	seen := map[[2]string]bool{}
	for i, t := range b.Translations {
		at := fmt.Sprintf("translations[%d]", i)
		if seen[[2]string{t.Language, t.Of}] {
			out.add(at+".of", "each text once a language", "%q stands twice", t.Of)
		}
		seen[[2]string{t.Language, t.Of}] = true
		want, _ := Figures(t.Of)
		have, ok := Figures(t.Text)
		slices.Sort(want)
		slices.Sort(have)
		if !ok || !slices.Equal(slices.Compact(want), slices.Compact(have)) {
			out.add(at+".text", "the same figures in braces as in the text itself", "has other figures")
		}
	}
}
