package main

import (
	_ "embed"
	"path/filepath"
	"strings"
)

// equivalents are the mutants of which somebody found that they change no answer, and why: a line each, with tabs between the file, the
// function, a part of the changed line, what it is changed to, and the reason. A star stands for any.
//
//go:embed equivalent.txt
var equivalents string

// equivalent is a line of the list.
type equivalent struct{ file, fn, line, is, why string }

func readEquivalents() (out []equivalent) {
	for line := range strings.Lines(equivalents) {
		if f := strings.Split(strings.TrimSpace(line), "\t"); len(f) == 5 {
			out = append(out, equivalent{f[0], f[1], f[2], f[3], f[4]})
		}
	}
	return out
}

// covers reports whether a mutant of a package's folder is the listed one.
func (e *equivalent) covers(dir string, m *mutant) bool {
	fits := func(pattern, s string) bool { return pattern == "*" || pattern == s }
	return fits(e.file, filepath.ToSlash(filepath.Join(dir, m.file))) && fits(e.fn, m.fn) && fits(e.is, m.is) &&
		(e.line == "*" || strings.Contains(m.text, e.line))
}
