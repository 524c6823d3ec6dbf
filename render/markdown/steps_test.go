package markdown

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/ast"
	"github.com/yuin/goldmark/text"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/steps"
)

// TestSecondParser: another parser of Markdown (goldmark, CommonMark) finds each step under a heading
// of its own, in order, and no markup in names.
func TestSecondParser(t *testing.T) {
	d, b := catalogtest.Pair()
	d.Model = "Crust *49* [x](http://y) `z` <b>"
	p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
	s := steps.Generate(&p, steps.Site{Wall: "wood_stud"})
	source := Steps(&s, quantity.Metric)
	var heads []string
	links := 0
	err := ast.Walk(goldmark.DefaultParser().Parse(text.NewReader(source)), func(n ast.Node, entering bool) (ast.WalkStatus, error) {
		switch n := n.(type) {
		case *ast.Heading:
			if entering {
				heads = append(heads, strings.Repeat("#", n.Level)+" "+string(n.Lines().Value(source)))
			}
		case *ast.Link, *ast.RawHTML, *ast.CodeSpan:
			links++
		}
		return ast.WalkContinue, nil
	})
	if err != nil || links > 0 {
		t.Fatalf("%v; %d links, HTML or code in names", err, links)
	}
	at := slices.Index(heads, "## Steps")
	for i, step := range s.Steps {
		if want := fmt.Sprintf("### %d. %s", i+1, step.Title); heads[at+1+i] != want {
			t.Errorf("%q, want %q", heads[at+1+i], want)
		}
	}
	if strings.Contains(string(source), "**Caution:** \n") {
		t.Error("a caution of nothing")
	}
	if symptoms := slices.Index(heads, "## When something is wrong"); symptoms < 0 || len(heads)-symptoms-1 != len(s.Symptoms) {
		t.Errorf("%d symptoms: %v", len(s.Symptoms), heads)
	}
}

func TestSteps(t *testing.T) {
	d, b := catalogtest.Pair()
	d.Model = "Crust *49* [x](http://y) <b>"
	p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
	s := steps.Generate(&p, steps.Site{Wall: "wood_stud"})
	got := string(Steps(&s, quantity.Metric))
	for _, want := range []string{"## Cautions", "## Parts", "## Tools", "### 1. Unpack and check", "- 4 × bolt M6×12 (bag B)",
		"*Right when:*",
		"**Caution: ", "## What is left over", "local codes"} {
		if !strings.Contains(got, want) {
			t.Errorf("no %q in\n%s", want, got)
		}
	}
	if strings.Contains(got, "[x](") || strings.Contains(got, "<b>") || strings.Contains(got, " *49*") {
		t.Errorf("a name became markup: %.80s", got)
	}
	if inches := string(Steps(&s, quantity.Imperial)); !strings.Contains(inches, "9 15/16 in") {
		t.Error("inches are missing")
	}
	blocked := steps.Generate(&p, steps.Site{Wall: "hollow_board"})
	if got := string(Steps(&blocked, quantity.Metric)); strings.Count(got, "Do not install") < len(blocked.Steps)+1 ||
		!strings.Contains(got, "The board's thickness is not known") {
		t.Error(got)
	}
	blocked = steps.Generate(&p, steps.Site{})
	if got := string(Steps(&blocked, quantity.Metric)); !strings.Contains(got, "Do not install") || strings.Contains(got, "## Tools") {
		t.Error(got)
	}
}
