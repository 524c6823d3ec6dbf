package language

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/place"
)

// sources are the packages that say sentences.
var (
	sources = []string{"core/anchorage", "core/catalog/walltype.go", "core/catalog/itemkind.go", "core/catalog/assembly.go",
		"core/catalog/display.go",
		"core/draw/install", "core/draw/pairing", "core/draw/wall", "core/probe",
		"core/catalog/bracketkind.go", "core/catalog/origin.go", "core/quantity/tape.go", "exchange/steps.go",
		"core/fit", "core/place", "core/sheet",
		"core/steps", "render/html", "render/markdown",
		"render/pdf", "app/bench", "app/review/review.go", "server"}
	// besides are those of whose texts some are words to be looked up, and none a sentence.
	besides = []string{"exchange/limits.go", "exchange/read.go", "core/catalog/valid.go", "app/people"}
)

// formatAt is which argument of a call is a sentence, by the function's name.
var formatAt = map[string]int{"Say": 0, "say": 0, "advise": 0, "do": 0, "list": 0, "words": 0, "text": 4, "strong": 4, "Named": 3,
	"Label":   4,
	"section": 0, "partList": 0, "canvas": 0, "why": 0, "append": 1, "miss": 1, "add": 0, "fail": 0, "parts": 0}

// folded is a string constant, of pieces with + between.
func folded(e ast.Expr) (string, bool) {
	switch v := e.(type) {
	case *ast.BasicLit:
		if v.Kind == token.STRING {
			s, err := strconv.Unquote(v.Value)
			return s, err == nil
		}
	case *ast.BinaryExpr:
		a, ok := folded(v.X)
		b, ok2 := folded(v.Y)
		return a + b, ok && ok2
	case *ast.ParenExpr:
		return folded(v.X)
	}
	return "", false
}

func called(e ast.Expr) string {
	switch v := e.(type) {
	case *ast.Ident:
		return v.Name
	case *ast.SelectorExpr:
		return v.Sel.Name
	}
	return ""
}

// problems are the functions that make problem details: their texts are whole sentences.
var problems = map[string]bool{"New": true, "is": true, "when": true, "turnedAway": true}

var (
	inTemplate = regexp.MustCompile(`\$?\.L\.(?:Say|Plain) "([^"]*)"`)
	verb       = regexp.MustCompile(`%[sdq]`)
	wordy      = regexp.MustCompile(`[A-Za-z]`)
)

func sentence(s string) bool { return wordy.MatchString(strings.ReplaceAll(s, "%v", "")) }

// spoken are the sentences that the sources say, and all their string constants.
func spoken(t *testing.T) (sentences, constants map[string]string) {
	t.Helper()
	sentences, constants = map[string]string{}, map[string]string{}
	files := token.NewFileSet()
	only := false // constants are looked for, no sentences
	read := func(path string) {
		if strings.HasSuffix(path, ".tmpl") {
			raw, err := os.ReadFile(path)
			if err != nil {
				t.Fatal(err)
			}
			for _, m := range inTemplate.FindAllStringSubmatch(string(raw), -1) {
				if sentence(m[1]) {
					sentences[m[1]] = path
				}
			}
			return
		}
		if !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return
		}
		f, err := parser.ParseFile(files, path, nil, 0)
		if err != nil {
			t.Fatal(err)
		}
		ast.Inspect(f, func(n ast.Node) bool {
			if e, ok := n.(ast.Expr); ok {
				if s, ok := folded(e); ok {
					constants[verb.ReplaceAllString(s, "%v")] = path
				}
			}
			call, ok := n.(*ast.CallExpr)
			if !ok || only {
				return true
			}
			if problems[called(call.Fun)] && strings.Contains(path, "server") {
				for _, arg := range call.Args {
					if s, ok := folded(arg); ok && strings.HasSuffix(s, ".") {
						sentences[s] = path
					}
				}
			}
			at, is := formatAt[called(call.Fun)]
			if !is || at >= len(call.Args) {
				return true
			}
			if s, ok := folded(call.Args[at]); ok && sentence(s) {
				if at == 1 { // looked up as a word, with its figures as %v
					s = number.ReplaceAllString(s, "%v")
				}
				sentences[s] = path
			}
			return true
		})
	}
	for _, r := range place.Registry() {
		sentences[r.Name] = "place.Registry"
	}
	for _, w := range catalog.WallTypes {
		sentences[w.Name()] = "catalog.WallTypes"
		if base := w.Properties().Base; base != "" {
			sentences[base] = "catalog.WallTypes"
		}
	}
	for _, k := range catalog.ItemKinds {
		if k.Fastens() {
			sentences[k.Word()] = "catalog.ItemKinds"
		}
	}
	for _, field := range catalog.Fields() { // said in histories
		sentences[catalog.FigureName(field)] = "catalog.FigureName"
	}
	for _, what := range catalog.AssemblyFigures { // said where one is not known
		sentences[what] = "catalog.AssemblyFigures"
	}
	for i, root := range append(slices.Clip(sources), besides...) {
		only = i >= len(sources)
		err := filepath.WalkDir(filepath.Join("..", root), func(path string, _ fs.DirEntry, err error) error {
			if err == nil {
				read(path)
			}
			return err
		})
		if err != nil {
			t.Fatal(err)
		}
	}
	return sentences, constants
}
