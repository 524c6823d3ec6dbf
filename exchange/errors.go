package exchange

import (
	"fmt"
	"strings"
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

// Problems is everything wrong with a document. As an error it has a line for
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

func (p *Problems) add(path, allowed, found string, args ...any) {
	if len(args) > 0 {
		found = fmt.Sprintf(found, args...)
	}
	*p = append(*p, Problem{path, found, allowed})
}

// or is the problems as an error, nil when there are none.
func (p Problems) or() error {
	if len(p) == 0 {
		return nil
	}
	return p
}

// join appends a name to a path.
func join(path, name string) string {
	if path == "" {
		return name
	}
	return path + "." + name
}

func index(path string, i int) string { return fmt.Sprintf("%s[%d]", path, i) }

// quote shows a piece of the input in a message: short, and on one line.
func quote(s string) string {
	if r := []rune(s); len(r) > 60 {
		s = string(r[:60]) + "…"
	}
	return fmt.Sprintf("%q", s)
}
