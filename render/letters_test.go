package render

import (
	"strings"
	"testing"
)

// TestLetters: whatever people call a display can be drawn.
func TestLetters(t *testing.T) {
	for in, want := range map[string]string{
		"Pane 49":            "Pane 49",
		"Ложка 7, Ψ, ä½×Ø":   "Ложка 7, Ψ, ä½×Ø",
		"e\u0301cran":        "écran",
		"😀 43":               "□ 43",
		"書見 42":              "□□ 42",
		"a\u202eright\u202c": "aright",
		"\ufeffx\u200dy":     "xy",
		"مرحبا":              strings.Repeat("□", 5),
		"\U000e0041":         "",
		"x\u20ddy":           "xy",
		"a\u2003b":           "a b",
	} {
		if got := Letters(in); got != want {
			t.Errorf("%q: %q, want %q", in, got, want)
		}
	}
}
