package exchange

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"nexufix/core/quantity"
)

// Problem is one thing wrong with a document.
type Problem struct {
	Path    string `json:"path" required:"true"`  // where, e.g. displays[2].patterns[0].width_mm
	Found   string `json:"found" required:"true"` // what is there
	Allowed string `json:"allowed,omitempty"`     // what may be there
}

// String is the problem on one line.
func (p Problem) String() string {
	s := p.Found
	if p.Path != "" {
		s = p.Path + ": " + s
	}
	if p.Allowed != "" {
		s += "; allowed: " + p.Allowed
	}
	return s
}

// Problems is everything wrong with a document. As an error it is one line for
// each.
type Problems []Problem

// Error lists the problems, one a line.
func (p Problems) Error() string {
	lines := make([]string, len(p))
	for i, x := range p {
		lines[i] = x.String()
	}
	return strings.Join(lines, "\n")
}

// Limits of a report: how many problems, and how many letters
// of a path or of what was found.
const (
	maxProblems = 200
	maxLetters  = 300
)

// full reports whether there are more problems than are shown: the reader can stop.
func (p *Problems) full() bool { return len(*p) > maxProblems }

func (p *Problems) add(path, allowed, found string, args ...any) {
	if p.full() {
		return
	}
	if len(args) > 0 {
		found = fmt.Sprintf(found, args...)
	}
	*p = append(*p, Problem{short(path), short(found), allowed})
}

// or returns the problems as an error, nil if there are none; of very many
// the first ones.
func (p Problems) or() error {
	switch {
	case len(p) == 0:
		return nil
	case len(p) > maxProblems:
		return append(p[:maxProblems:maxProblems], Problem{Found: fmt.Sprintf("there are more; these are the first %d", maxProblems)})
	}
	return p
}

// short cuts the middle out of a long text.
func short(s string) string {
	if len(s) <= maxLetters {
		return s
	}
	const end = 60
	return strings.ToValidUTF8(s[:maxLetters-end], "") + " … " + strings.ToValidUTF8(s[len(s)-end:], "")
}

// join appends a name to a path.
func join(path, name string) string {
	if path == "" {
		return name
	}
	return path + "." + name
}

func index(path string, i int) string { return path + "[" + strconv.Itoa(i) + "]" }

// quote shows a piece of the input in a message: short, and on one line.
func quote(s string) string {
	if r := []rune(s); len(r) > 60 {
		s = string(r[:60]) + "…"
	}
	return fmt.Sprintf("%q", s)
}

// In are the problems in a language, as far as that has words for them. What was typed, and the names that the format allows, which have
// no space in them, stay as they are.
func (p Problems) In(l *quantity.Language) Problems {
	if l == nil || p == nil {
		return p
	}
	words := func(text string) string {
		if strings.Contains(strings.ReplaceAll(text, ", ", ""), " ") {
			return l.Words(text)
		}
		return text
	}
	out := slices.Clone(p)
	for i := range out {
		out[i].Found, out[i].Allowed = words(out[i].Found), words(out[i].Allowed)
	}
	return out
}
