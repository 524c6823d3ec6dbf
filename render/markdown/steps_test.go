package markdown

import (
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/steps"
)

func TestSteps(t *testing.T) {
	d, b := catalogtest.Pair()
	d.Model = "Crust *49* [x](http://y) <b>"
	p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
	s := steps.Generate(&p, steps.Site{Wall: "wood_stud"})
	got := string(Steps(&s, quantity.Metric))
	for _, want := range []string{"## Cautions", "## Parts", "## Tools", "### 1. Unpack and check", "- 4 × bolt M6×12 (bag B)", "*Check:*",
		"**Caution:**", "## Left over", "local codes"} {
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
		!strings.Contains(got, "gives no fixing for hollow board") {
		t.Error(got)
	}
	blocked = steps.Generate(&p, steps.Site{})
	if got := string(Steps(&blocked, quantity.Metric)); !strings.Contains(got, "Do not install") || strings.Contains(got, "## Tools") {
		t.Error(got)
	}
}
