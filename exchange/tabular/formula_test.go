package tabular

import (
	"strings"
	"testing"
)

// TestSafe: what could begin a formula has a quote before it, wherever a program
// may split a cell, and comes back as it was.
func TestSafe(t *testing.T) {
	for in, want := range map[string]string{
		"Pane 49": "Pane 49", "": "", "'": "'", "'49": "'49", "=1+1": "'=1+1", "-5": "'-5", "@x": "'@x", "＝1+1": "'＝1+1",
		"a;=1+1": "a;'=1+1", "a; =1+1": "a; '=1+1", `a;"=1+1`: `a;"'=1+1`, "a;＋1": "a;'＋1", "a,=1": "a,=1", "1+1=2": "1+1=2",
		"'=1": "''=1", "''=1": "'''=1", "a;'=1": "a;''=1", ";;=": ";;'=", "x;'": "x;'", " =1": " '=1",
	} {
		if got := Safe(in); got != want {
			t.Errorf("%q: %q, want %q", in, got, want)
		}
	}
}

func FuzzSafe(f *testing.F) {
	for _, s := range []string{"=1", "a;'=1", "'", ";;＝", "' =\t-", "' \"=1"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		s = strings.ToValidUTF8(s, "")
		safe := Safe(s)
		if Unsafe(safe) != s {
			t.Errorf("%q came back from %q as %q", s, safe, Unsafe(safe))
		}
		for _, cell := range strings.FieldsFunc(safe, func(r rune) bool { return r == ';' || r == '\t' }) {
			if cell = strings.TrimLeft(cell, " \"\u00a0"); cell != "" && strings.ContainsRune("=+-@＝＋－＠", []rune(cell)[0]) {
				t.Errorf("%q is a formula in %q", cell, safe)
			}
		}
	})
}
