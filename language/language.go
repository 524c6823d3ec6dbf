// Package language has the message catalogues of the languages that steps and sheets are written in
// beside English: one gettext file (PO) a language. A third language takes one more file: its header
// says what it is called, and its decimal sign. What English text is looked up how says
// [quantity.Language].
package language

import (
	"embed"
	"fmt"
	"path"
	"slices"
	"strings"
	"sync"

	"github.com/leonelquinteros/gotext"

	"nexufix/core/quantity"
)

//go:embed *.po
var files embed.FS

// all are read when the first is asked for: most commands never do.
var all = sync.OnceValue(load)

// Codes are the languages that can be asked for, English first.
func Codes() []string {
	out := []string{"en"}
	for _, l := range all() {
		out = append(out, l.Code)
	}
	return out
}

// Names are what the languages are called by those who speak them, in the order of [Codes].
func Names() []string {
	out := []string{"English"}
	for _, l := range all() {
		out = append(out, l.Name)
	}
	return out
}

// Of is the language of a code; "" and "en" are English, which is nil.
func Of(code string) (*quantity.Language, error) {
	if code == "" || code == "en" {
		return nil, nil
	}
	for _, l := range all() {
		if l.Code == code {
			return l, nil
		}
	}
	return nil, fmt.Errorf("language %q is not known; allowed: %s", code, strings.Join(Codes(), ", "))
}

// load reads the catalogues that ship; a test reads them first, so that a fault in one is found there.
func load() []*quantity.Language {
	names, err := files.ReadDir(".")
	if err != nil {
		panic("language: " + err.Error()) // they are in the program
	}
	var out []*quantity.Language
	for _, f := range names {
		raw, err := files.ReadFile(f.Name())
		if err != nil {
			panic("language: " + err.Error())
		}
		out = append(out, parse(strings.TrimSuffix(f.Name(), path.Ext(f.Name())), raw))
	}
	slices.SortFunc(out, func(a, b *quantity.Language) int { return strings.Compare(a.Code, b.Code) })
	return out
}

// parse reads one catalogue. Entries without a translation are left out.
func parse(code string, raw []byte) *quantity.Language {
	po := gotext.NewPo()
	po.Parse(raw)
	l := &quantity.Language{Code: code, Name: po.Headers.Get("Language-Team"), Comma: po.Headers.Get("X-Decimal") == "comma",
		Texts: map[string]string{}}
	for id, t := range po.GetDomain().GetTranslations() {
		if text := t.Trs[0]; id != "" && text != "" {
			l.Texts[id] = text
		}
	}
	return l
}
