package render

import (
	"strings"
	"sync"
	"unicode"

	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/text/unicode/norm"
)

// Box replaces a letter that none of the embedded fonts has.
const Box = '□'

// fonts are the embedded ones: Latin, Greek and Cyrillic.
var fonts = sync.OnceValue(func() []*sfnt.Font {
	var out []*sfnt.Font
	for _, raw := range [][]byte{goregular.TTF, gobold.TTF} {
		f, err := sfnt.Parse(raw)
		if err != nil {
			panic("render: a font that ships cannot be read: " + err.Error())
		}
		out = append(out, f)
	}
	return out
})

// drawn says which letters all embedded fonts have; of those beyond U+FFFF they have none.
var drawn = sync.OnceValue(func() *[1 << 16]bool {
	var has [1 << 16]bool
	var b sfnt.Buffer // a large one: made anew for each letter it takes more time than the page
	for r := range has {
		has[r] = true
		for _, f := range fonts() {
			index, err := f.GlyphIndex(&b, rune(r))
			has[r] = has[r] && err == nil && index != 0
		}
	}
	return &has
})

// draws reports whether the embedded fonts have a letter.
func draws(r rune) bool { return r <= 0xffff && drawn()[r] }

// Letters converts a text to what can be drawn on paper, on one line: letters are composed
// (Unicode NFC), invisible ones are left out, and a [Box] replaces each letter
// that no font has. Right-to-left text stays in the order it is saved.
func Letters(s string) string {
	plain := true
	for i := range len(s) {
		plain = plain && s[i] >= ' ' && s[i] < 0x7f
	}
	if plain {
		return s
	}
	return strings.Map(func(r rune) rune {
		switch {
		case draws(r):
			return r
		case unicode.In(r, unicode.Cf, unicode.Mn, unicode.Me, unicode.Cc):
			return -1 // a sign for the direction of writing, or a lone accent
		case unicode.IsSpace(r):
			return ' '
		}
		return Box
	}, norm.NFC.String(s))
}
