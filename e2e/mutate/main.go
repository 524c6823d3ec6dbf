// Command mutate changes the program by a hair, in one place at a time, and looks whether the tests of the changed package see it:
// comparisons are turned or moved by their boundary, numbers changed by a tenth, conditions negated, statuses taken for the next. It is
// run by hand: make mutate. What survives is a limit that nothing holds, or a change that changes nothing; which, is for a person to say.
package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
)

func main() {
	sample := flag.Int("sample", 0, "how many mutants of each package, drawn by lot; 0: all")
	seed := flag.Uint64("seed", 1, "of the lot")
	workers := flag.Int("workers", runtime.GOMAXPROCS(0), "how many are tried at once")
	flag.Parse()
	if err := run(flag.Args(), *sample, *seed, *workers); err != nil {
		fmt.Fprintln(os.Stderr, "mutate:", err)
		os.Exit(1)
	}
}

// mutant is a change of some bytes of a file.
type mutant struct {
	file     string
	from, to int // bytes that are replaced
	line     int
	was, is  string
	kind     string
	what     outcome
}

type outcome int

const (
	killed outcome = iota
	survived
	invalid // it does not compile
)

// longest is how long a package's tests may take; a mutant that never ends is killed.
const longest = 2 * time.Minute

func run(dirs []string, sample int, seed uint64, workers int) error {
	if len(dirs) == 0 {
		return errors.New("which packages? their folders, as core/place")
	}
	lot := rand.New(rand.NewPCG(seed, 0))
	tmp, err := os.MkdirTemp("", "nexufix-mutate-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(tmp)
	for _, dir := range dirs {
		all, err := mutantsOf(dir)
		if err != nil {
			return err
		}
		if sample > 0 && len(all) > sample {
			lot.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
			all = all[:sample]
		}
		var next, group = make(chan *mutant), sync.WaitGroup{}
		for w := range workers {
			group.Go(func() {
				for m := range next {
					m.what = try(dir, filepath.Join(tmp, strconv.Itoa(w)), m)
				}
			})
		}
		for _, m := range all {
			next <- m
		}
		close(next)
		group.Wait()
		report(dir, all)
	}
	return nil
}

// mutantsOf are all mutants of a package, but those of its tests.
func mutantsOf(dir string) (out []*mutant, err error) {
	files, err := filepath.Glob(filepath.Join(dir, "*.go"))
	if err != nil {
		return nil, err
	}
	for _, file := range files {
		if strings.HasSuffix(file, "_test.go") {
			continue
		}
		raw, err := os.ReadFile(file)
		if err != nil {
			return nil, err
		}
		set := token.NewFileSet()
		tree, err := parser.ParseFile(set, file, raw, 0)
		if err != nil {
			return nil, err
		}
		add := func(kind string, from, to token.Pos, is string) {
			a, b := set.Position(from), set.Position(to)
			out = append(out, &mutant{file: file, from: a.Offset, to: b.Offset, line: a.Line, was: string(raw[a.Offset:b.Offset]), is: is,
				kind: kind})
		}
		ast.Inspect(tree, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.GenDecl:
				return n.Tok != token.IMPORT
			case *ast.Field: // tags
				return n.Tag == nil
			case *ast.BinaryExpr:
				for _, other := range turned[n.Op] {
					add("comparison", n.OpPos, n.OpPos+token.Pos(len(n.Op.String())), other.String())
				}
			case *ast.BasicLit:
				for _, text := range byATenth(n) {
					add("number", n.Pos(), n.End(), text)
				}
			case *ast.IfStmt:
				from, to := set.Position(n.Cond.Pos()).Offset, set.Position(n.Cond.End()).Offset
				add("condition", n.Cond.Pos(), n.Cond.End(), "!("+string(raw[from:to])+")")
			case *ast.Ident:
				if other := statuses[n.Name]; other != "" {
					add("status", n.Pos(), n.End(), other)
				}
			}
			return true
		})
	}
	return out, nil
}

// turned are what a comparison is taken for: with the boundary or without it, and the other way round.
var turned = map[token.Token][]token.Token{
	token.LSS: {token.LEQ, token.GEQ}, token.LEQ: {token.LSS, token.GTR}, token.GTR: {token.GEQ, token.LEQ}, token.GEQ: {token.GTR, token.LSS},
	token.EQL: {token.NEQ}, token.NEQ: {token.EQL}, token.LAND: {token.LOR}, token.LOR: {token.LAND},
}

// statuses are the next to each.
var statuses = map[string]string{"Fail": "Caution", "Caution": "Pass", "Unknown": "Pass"}

// byATenth is a number a tenth more and less; small whole ones by one. Of 0 and 1 there is no tenth.
func byATenth(n *ast.BasicLit) []string {
	switch n.Kind {
	case token.INT:
		x, err := strconv.ParseInt(strings.ReplaceAll(n.Value, "_", ""), 0, 64)
		if err != nil || x < 2 {
			return nil
		}
		by := max(1, x/10)
		return []string{strconv.FormatInt(x+by, 10), strconv.FormatInt(x-by, 10)}
	case token.FLOAT:
		x, err := strconv.ParseFloat(n.Value, 64)
		if err != nil || x == 0 {
			return nil
		}
		return []string{strconv.FormatFloat(x*1.1, 'g', -1, 64), strconv.FormatFloat(x*0.9, 'g', -1, 64)}
	}
	return nil
}

// try runs the tests of a package with a mutant in the place of its file.
func try(dir, tmp string, m *mutant) outcome {
	raw, err := os.ReadFile(m.file)
	if err != nil {
		return invalid
	}
	whole, err := filepath.Abs(m.file)
	if err != nil {
		return invalid
	}
	changed := filepath.Join(tmp, "changed.go")
	overlay, err := json.Marshal(map[string]map[string]string{"Replace": {whole: changed}})
	if err != nil {
		return invalid
	}
	if err := errors.Join(os.MkdirAll(tmp, 0o700), os.WriteFile(changed, slices.Concat(raw[:m.from], []byte(m.is), raw[m.to:]), 0o600),
		os.WriteFile(filepath.Join(tmp, "overlay.json"), overlay, 0o600)); err != nil {
		return invalid
	}
	if out := test(dir, tmp, "-short", "-skip", "Hostile|TooMany"); out != survived { // those take seconds each
		return out
	}
	return test(dir, tmp) // what only many tries find
}

// test runs the tests of a package with the mutant in its folder.
func test(dir, tmp string, flags ...string) outcome {
	ctx, stop := context.WithTimeout(context.Background(), longest)
	defer stop()
	c := exec.CommandContext(ctx, "go", slices.Concat([]string{"test", "-overlay", filepath.Join(tmp, "overlay.json"), "-count=1", "-failfast",
		"-vet=off", "-timeout", longest.String()}, flags, []string{"./" + dir})...)
	var out bytes.Buffer
	c.Stdout, c.Stderr = &out, &out
	switch err := c.Run(); {
	case err == nil:
		return survived
	case strings.Contains(out.String(), "[build failed]"):
		return invalid
	}
	return killed
}

func report(dir string, all []*mutant) {
	n := map[outcome]int{}
	for _, m := range all {
		n[m.what]++
	}
	tried := n[killed] + n[survived]
	fmt.Printf("%s: %d of %d killed (%.1f %%), %d do not compile\n", dir, n[killed], tried, 100*float64(n[killed])/float64(max(1, tried)),
		n[invalid])
	slices.SortFunc(all, func(a, b *mutant) int {
		return strings.Compare(fmt.Sprintf("%s:%06d", a.file, a.line), fmt.Sprintf("%s:%06d", b.file, b.line))
	})
	for _, m := range all {
		if m.what == survived {
			fmt.Printf("  %s:%d %s: %s -> %s\n", m.file, m.line, m.kind, m.was, m.is)
		}
	}
}
