package main

import (
	"errors"
	"fmt"
	"go/ast"
	"go/constant"
	"go/token"
	"go/types"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/tools/go/packages"
)

// source is a package with its mutants.
type source struct {
	dir     string
	name    string
	files   []*file
	mutants []*mutant
}

// file is a file of it, and where it is edited.
type file struct {
	path  string
	raw   []byte
	edits []edit
}

// edit is text in the place of bytes; of two at one place, what ends comes before what begins, and what is further out begins first and
// ends last.
type edit struct {
	from, to int
	text     string
	depth    int
	ends     bool
	of       *mutant // nil: an import
	name     string  // of an import
}

// load reads a package, typed.
func load(dir string) (*source, error) {
	c := &packages.Config{Mode: packages.NeedName | packages.NeedFiles | packages.NeedSyntax | packages.NeedTypes | packages.NeedTypesInfo |
		packages.NeedImports, Dir: dir}
	list, err := packages.Load(c, ".")
	if err != nil {
		return nil, err
	}
	if len(list) != 1 || len(list[0].Errors) > 0 {
		return nil, fmt.Errorf("cannot be read: %v", errors.Join(errsOf(list)...))
	}
	p := list[0]
	s := &source{dir: dir, name: p.Name}
	for _, tree := range p.Syntax {
		path := p.Fset.Position(tree.Pos()).Filename
		raw, err := os.ReadFile(path)
		if err != nil {
			return nil, err
		}
		w := &walker{source: s, file: &file{path: path, raw: raw}, set: p.Fset, info: p.TypesInfo, own: p.Types}
		w.imports = w.set.Position(tree.Name.End()).Offset
		s.files = append(s.files, w.file)
		w.walk(tree)
	}
	return s, nil
}

func errsOf(list []*packages.Package) (out []error) {
	for _, p := range list {
		for _, e := range p.Errors {
			out = append(out, e)
		}
	}
	return out
}

// walker finds the mutants of a file.
type walker struct {
	*source
	*file
	set     *token.FileSet
	info    *types.Info
	own     *types.Package
	fn      string // the function it is in
	imports int    // where an import can be added: after the name of the package
	added   map[string]string
	ties    map[*ast.BinaryExpr]bool // comparisons that keep the larger or smaller of two
}

// turned are what a comparison is taken for: with the boundary or without it, and the other way round.
var turned = map[token.Token][]token.Token{
	token.LSS: {token.LEQ, token.GEQ}, token.LEQ: {token.LSS, token.GTR}, token.GTR: {token.GEQ, token.LEQ}, token.GEQ: {token.GTR, token.LSS},
	token.EQL: {token.NEQ}, token.NEQ: {token.EQL}, token.LAND: {token.LOR}, token.LOR: {token.LAND},
}

// statuses are the next to each.
var statuses = map[string]string{"Fail": "Caution", "Caution": "Pass", "Unknown": "Pass"}

func (w *walker) walk(tree *ast.File) {
	var path []ast.Node
	ast.Inspect(tree, func(n ast.Node) bool {
		if n == nil {
			path = path[:len(path)-1]
			return true
		}
		if len(path) == 1 {
			w.fn = ""
		}
		switch n := n.(type) {
		case *ast.FuncDecl:
			w.fn = n.Name.Name
		case *ast.GenDecl:
			if n.Tok == token.IMPORT {
				return false
			}
		case *ast.Field:
			if n.Tag != nil {
				return false
			}
		case *ast.BinaryExpr:
			w.binary(n, len(path))
		case *ast.BasicLit:
			w.number(n, path)
		case *ast.IfStmt:
			w.keeps(n)
			m := w.add(n.Cond, "!("+w.text(n.Cond)+")")
			w.wrap(n.Cond, len(path), fmt.Sprintf("mutNot(%d, ", m.id), ")", m)
		case *ast.SelectorExpr:
			if w.status(n, n.Sel, len(path)) {
				return false
			}
		case *ast.Ident:
			w.status(n, n, len(path))
		}
		path = append(path, n)
		return true
	})
}

func (w *walker) offset(p token.Pos) int { return w.set.Position(p).Offset }

func (w *walker) text(n ast.Node) string { return string(w.raw[w.offset(n.Pos()):w.offset(n.End())]) }

// add is one more mutant: n is taken for another text.
func (w *walker) add(n ast.Node, is string) *mutant {
	from, to := w.offset(n.Pos()), w.offset(n.End())
	return w.at(from, to, is)
}

func (w *walker) at(from, to int, is string) *mutant {
	before, after := string(w.raw[:from]), string(w.raw[from:])
	start, end := strings.LastIndex(before, "\n")+1, strings.Index(after, "\n")
	m := &mutant{id: len(w.mutants) + 1, file: filepath.Base(w.path), fn: w.fn, line: 1 + strings.Count(before, "\n"),
		text: strings.TrimSpace(before[start:] + after[:max(0, end)]), was: string(w.raw[from:to]), is: is, from: from, to: to}
	w.mutants = append(w.mutants, m)
	return m
}

// wrap puts text before and after n.
func (w *walker) wrap(n ast.Node, depth int, before, after string, m *mutant) {
	from, to := w.offset(n.Pos()), w.offset(n.End())
	w.edits = append(w.edits, edit{from: from, to: from, text: before, depth: depth, of: m},
		edit{from: to, to: to, text: after, depth: depth, ends: true, of: m})
}

func (w *walker) binary(n *ast.BinaryExpr, depth int) {
	others := turned[n.Op]
	if others == nil {
		return
	}
	from := w.offset(n.OpPos)
	to := from + len(n.Op.String())
	var first *mutant
	for _, other := range others {
		m := w.at(from, to, other.String())
		m.slow = w.info.Types[n].Value != nil
		if first == nil {
			first = m
		}
	}
	first.tie = w.ties[n]
	if first.slow {
		return
	}
	switch n.Op {
	case token.EQL, token.NEQ:
		w.wrap(n, depth, fmt.Sprintf("mutNot(%d, ", first.id), ")", first)
	case token.LAND, token.LOR:
		name := map[token.Token]string{token.LAND: "And", token.LOR: "Or"}[n.Op]
		w.wrap(n, depth, fmt.Sprintf("mut%s(%d, ", name, first.id), "; return })", first)
		w.edits = append(w.edits, edit{from: from, to: to, text: ", func() (mutR bool) { mutR = ", depth: depth, of: first})
	default:
		name := map[token.Token]string{token.LSS: "LSS", token.LEQ: "LEQ", token.GTR: "GTR", token.GEQ: "GEQ"}[n.Op]
		w.wrap(n, depth, fmt.Sprintf("mut%s(%d, ", name, first.id), ")", first)
		w.edits = append(w.edits, edit{from: from, to: to, text: ",", depth: depth, of: first})
	}
}

// keeps finds comparisons by which one of two is kept, as in if x > most { most = x }: with >= nothing would be another.
func (w *walker) keeps(n *ast.IfStmt) {
	if len(n.Body.List) != 1 || n.Else != nil {
		return
	}
	set, ok := n.Body.List[0].(*ast.AssignStmt)
	if !ok || len(set.Lhs) != 1 || len(set.Rhs) != 1 {
		return
	}
	to, from := w.text(set.Lhs[0]), w.text(set.Rhs[0])
	ast.Inspect(n.Cond, func(x ast.Node) bool {
		c, ok := x.(*ast.BinaryExpr)
		if !ok || len(turned[c.Op]) != 2 {
			return true
		}
		if a, b := w.text(c.X), w.text(c.Y); a == to && b == from || a == from && b == to {
			if w.ties == nil {
				w.ties = map[*ast.BinaryExpr]bool{}
			}
			w.ties[c] = true
		}
		return true
	})
}

// number is a literal a tenth more and less; small whole ones by one. Of 0 and 1 there is no tenth.
func (w *walker) number(n *ast.BasicLit, path []ast.Node) {
	others := byATenth(n)
	if others == nil {
		return
	}
	var all []*mutant
	for _, other := range others {
		all = append(all, w.add(n, other))
	}
	typed, ok := w.typeOf(n)
	if !ok || slices.ContainsFunc(path, constant_) {
		for _, m := range all {
			m.slow = true
		}
		return
	}
	w.wrap(n, len(path), fmt.Sprintf("mutNum[%s](%d, ", typed, all[0].id), ", "+others[0]+", "+others[1]+")", all[0])
}

// constant_ is whether a node is where only constants may be.
func constant_(n ast.Node) bool {
	switch n := n.(type) {
	case *ast.GenDecl:
		return n.Tok == token.CONST
	case *ast.ArrayType:
		return true
	}
	return false
}

// typeOf is the name of a literal's type, as this file can say it.
func (w *walker) typeOf(n ast.Expr) (string, bool) {
	t := w.info.Types[n]
	if t.Type == nil || t.Value == nil {
		return "", false
	}
	typed := types.Default(t.Type)
	basic, ok := typed.Underlying().(*types.Basic)
	if !ok || basic.Info()&types.IsInteger != 0 && constant.ToInt(t.Value).Kind() != constant.Int {
		return "", false
	}
	return types.TypeString(typed, func(p *types.Package) string {
		if p == w.own {
			return ""
		}
		if w.added == nil {
			w.added = map[string]string{}
		}
		if w.added[p.Path()] == "" {
			w.added[p.Path()] = "mutP" + strconv.Itoa(len(w.added))
			w.edits = append(w.edits, edit{from: w.imports, to: w.imports, name: w.added[p.Path()],
				text: fmt.Sprintf("; import %s %q", w.added[p.Path()], p.Path())})
		}
		return w.added[p.Path()]
	}), true
}

// status is a constant that is taken for the next; whole is it with its package.
func (w *walker) status(whole ast.Expr, name *ast.Ident, depth int) bool {
	other := statuses[name.Name]
	if _, ok := w.info.Uses[name].(*types.Const); !ok || other == "" {
		return false
	}
	is := strings.TrimSuffix(w.text(whole), name.Name) + other
	m := w.add(whole, is)
	w.wrap(whole, depth, fmt.Sprintf("mutPick(%d, ", m.id), ", "+is+")", m)
	return true
}

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
