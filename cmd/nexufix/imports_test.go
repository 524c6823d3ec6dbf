package main

import (
	"bytes"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"unicode/utf8"
)

// layers are the floors of the layout, the lowest first. A package may import
// from its own floor, as far as [sideways] allows, and from those below.
var layers = [][]string{{"core"}, {"store", "render", "exchange", "language", "standins", "cage", "lease", "seal", "version"},
	{"app/bench", "app/imports", "app/people", "app/search"}, {"app/review"}, {"demo", "web"}, {"server"}, {"cmd"}, {"e2e"}}

// sideways are the arrows allowed among the packages of a floor: the store reads and
// writes documents of the exchange format.
var sideways = map[string][]string{"store": {"exchange"}, "render": {"version"}, "exchange": {}, "language": {}, "standins": {}, "cage": {},
	"lease": {},
	"seal":  {}, "version": {}}

// wing is the first part of a package's path.
func wing(pkg string) string {
	name, _, _ := strings.Cut(strings.TrimPrefix(pkg, "nexufix/"), "/")
	return name
}

func floor(pkg string) int {
	for i, names := range layers {
		for _, n := range names {
			if pkg == "nexufix/"+n || strings.HasPrefix(pkg, "nexufix/"+n+"/") {
				return i
			}
		}
	}
	return -1
}

// list gives go list's lines.
func list(t *testing.T, args ...string) []string {
	t.Helper()
	c := exec.Command("go", append([]string{"list"}, args...)...)
	c.Dir = "../.."
	out, err := c.Output()
	if err != nil {
		t.Fatal(err)
	}
	return strings.Split(strings.TrimSpace(string(out)), "\n")
}

// TestImportsPointOneWay walks go list and fails on an arrow to a higher
// floor, and on anything but the standard library in core.
func TestImportsPointOneWay(t *testing.T) {
	deps := map[string][]string{}
	for _, line := range list(t, "-f", "{{.ImportPath}} {{join .Deps \" \"}}", "./...") {
		deps[strings.Fields(line)[0]] = strings.Fields(line)[1:]
	}
	if len(deps) < 15 {
		t.Fatalf("only %d packages", len(deps))
	}
	for p, deps := range deps {
		own := floor(p)
		if own < 0 {
			t.Errorf("%s is on no floor of the layout", p)
			continue
		}
		for _, dep := range deps {
			switch {
			case strings.HasPrefix(dep, "nexufix/") && floor(dep) > own:
				t.Errorf("%s imports %s, which is above it", p, dep)
			case strings.HasPrefix(dep, "nexufix/") && sideways[wing(p)] != nil && floor(dep) == own && wing(dep) != wing(p) &&
				!slices.Contains(sideways[wing(p)], wing(dep)):
				t.Errorf("%s imports %s, which is on the same floor", p, dep)
			case wing(p) == "app" && wing(dep) == "app" && dep != p && floor(dep) == own:
				t.Errorf("%s imports %s, which is beside it", p, dep)
			case own == 0 && !strings.HasPrefix(dep, "nexufix/core/") && strings.Contains(strings.Split(dep, "/")[0], "."):
				t.Errorf("%s imports %s, which is not in the standard library", p, dep)
			}
		}
	}
}

// TestCoreTouchesNothing: no files, no network, no clock, no SQL.
func TestCoreTouchesNothing(t *testing.T) {
	for _, line := range list(t, "-f", "{{.ImportPath}} {{join .Imports \" \"}}", "./core/...") {
		p, deps, _ := strings.Cut(line, " ")
		for dep := range strings.FieldsSeq(deps) {
			for _, no := range []string{"os", "io/fs", "net", "net/http", "time", "database/sql", "log", "log/slog", "embed"} {
				if dep == no {
					t.Errorf("%s imports %s", p, dep)
				}
			}
		}
	}
}

// TestOnlyTestsHashQuickly: passwords of people are hashed at full cost.
func TestOnlyTestsHashQuickly(t *testing.T) {
	sources(t, func(file string, raw []byte) {
		if bytes.Contains(raw, []byte("HashQuickly()")) && !strings.HasSuffix(file, "_test.go") &&
			!strings.HasSuffix(file, "app/people/signin.go") {
			t.Errorf("%s hashes passwords quickly", file)
		}
	})
}

// sources gives every Go file of the project to a check.
func sources(t *testing.T, check func(file string, raw []byte)) {
	t.Helper()
	err := filepath.WalkDir("../..", func(file string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		if d.IsDir() && (d.Name() == "node_modules" || d.Name() == ".git") {
			return filepath.SkipDir
		}
		if filepath.Ext(file) != ".go" {
			return nil
		}
		raw, err := os.ReadFile(file)
		if err == nil {
			check(file, raw)
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
}

// TestLinesCanBeRead: no line of Go is wider than 140 letters, those aside that have a
// raw text in them: a struct's tags, a document, a query. Scripts of the browser's tests can be broken, and count.
func TestLinesCanBeRead(t *testing.T) {
	sources(t, func(file string, raw []byte) {
		inRaw, script := false, strings.Contains(filepath.ToSlash(file), "/e2e/")
		for n, line := range strings.Split(string(raw), "\n") {
			ticks := strings.Count(line, "`")
			if width := utf8.RuneCountInString(line); width > 140 && (ticks == 0 && !inRaw || script) {
				t.Errorf("%s:%d: %d letters, at most 140 wanted", file, n+1, width)
			}
			inRaw = inRaw != (ticks%2 == 1)
		}
	})
}

// TestFunctionsAreShort: no function has more than 80 lines, and no test, which may be a story, more than 160.
func TestFunctionsAreShort(t *testing.T) {
	sources(t, func(file string, raw []byte) {
		set := token.NewFileSet()
		f, err := parser.ParseFile(set, file, raw, 0)
		if err != nil {
			t.Fatal(err)
		}
		if lines := bytes.Count(raw, []byte("\n")); lines > 400 && !strings.HasSuffix(file, "_test.go") {
			t.Errorf("%s has %d lines, at most 400 wanted", file, lines)
		}
		most := 80
		if strings.HasSuffix(file, "_test.go") {
			most = 160
		}
		for _, d := range f.Decls {
			fn, ok := d.(*ast.FuncDecl)
			if !ok {
				continue
			}
			from, to := set.Position(fn.Pos()), set.Position(fn.End())
			if takes := fn.Type.Params.NumFields(); takes > 6 {
				t.Errorf("%s: %s has %d parameters, at most 6 wanted", from, fn.Name, takes)
			}
			if lines := to.Line - from.Line + 1; lines > most {
				t.Errorf("%s: %s has %d lines, at most %d wanted", from, fn.Name, lines, most)
			}
		}
	})
}

// TestDocumentsNameTests: a test that a document names is there.
func TestDocumentsNameTests(t *testing.T) {
	there, named := map[string]bool{}, regexp.MustCompile(`\b(Test|Fuzz|Benchmark)[A-Z][A-Za-z0-9]+`)
	sources(t, func(file string, raw []byte) {
		if !strings.HasSuffix(file, "_test.go") {
			return
		}
		for _, m := range regexp.MustCompile(`(?m)^func ((?:Test|Fuzz|Benchmark)\w+)`).FindAllSubmatch(raw, -1) {
			there[string(m[1])] = true
		}
	})
	docs, err := filepath.Glob("../../docs/*.md")
	if err != nil || len(docs) < 5 {
		t.Fatal(docs, err)
	}
	for _, file := range docs {
		raw, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		for _, name := range named.FindAllString(string(raw), -1) {
			if !there[name] {
				t.Errorf("%s names %s, which is not there", file, name)
			}
		}
	}
}

// TestWhereItIs: what docs/architecture.md says where it is, is there.
func TestWhereItIs(t *testing.T) {
	raw, err := os.ReadFile("../../docs/architecture.md")
	if err != nil {
		t.Fatal(err)
	}
	rows := regexp.MustCompile("(?m)^\\| [^|]+ \\| `([^`]+\\.go)` \\| `(\\w+)` \\|$").FindAllStringSubmatch(string(raw), -1)
	if len(rows) < 15 {
		t.Fatalf("only %d rows", len(rows))
	}
	for _, row := range rows {
		file, name := row[1], row[2]
		text, err := os.ReadFile(filepath.Join("../..", file))
		if err != nil || !regexp.MustCompile(`(?m)^(func (\([^)]*\) )?|var |type )`+name+`\b`).Match(text) {
			t.Errorf("%s has no %s: %v", file, name, err)
		}
	}
}
