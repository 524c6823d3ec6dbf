package language

import (
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/leonelquinteros/gotext"
)

// slots are the figures and marks of a text of the page: {0}, {name}, <0>; in a plural, also which forms it has.
var slots = regexp.MustCompile(`\{\d+[},]|\{\w+\}|</?\d+/?>`)

// form begins a form of a plural.
var form = regexp.MustCompile(`(one|other|=\d+) \{`)

// TestPagesCatalogue: every text of the page is in every language that the page has, with the same figures and marks. That it has all
// texts of the page is seen by make lint, which extracts them again.
func TestPagesCatalogue(t *testing.T) {
	files, err := filepath.Glob("../web/src/locales/*.po")
	if err != nil || len(files) != len(Codes())-1 {
		t.Fatalf("%v %v: the page has other languages than what it is told", files, err)
	}
	for _, file := range files {
		raw, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		po := gotext.NewPo()
		po.Parse(raw)
		all := po.GetDomain().GetTranslations()
		for _, of := range po.GetDomain().GetCtxTranslations() {
			for id, tr := range of {
				all["in a context: "+id] = tr
			}
		}
		if len(all) < 1300 {
			t.Errorf("%s has %d texts", file, len(all))
		}
		for id, tr := range all {
			text := tr.Trs[0]
			if id = strings.TrimPrefix(id, "in a context: "); id == "" {
				continue
			}
			if strings.TrimSpace(text) == "" {
				t.Errorf("%s lacks %q", file, id)
				continue
			}
			if want, have := slotsOf(id), slotsOf(text); !slices.Equal(want, have) {
				t.Errorf("%s: %q has %v, %q has %v", file, id, want, text, have)
			}
			if strings.HasPrefix(id, " ") != strings.HasPrefix(text, " ") || strings.HasSuffix(id, " ") != strings.HasSuffix(text, " ") {
				t.Errorf("%s: spaces at the ends of %q and %q", file, id, text)
			}
			if strings.Contains(id, ", plural,") && !strings.Contains(text, " other {") {
				t.Errorf("%s: %q has no form for other numbers", file, text)
			}
		}
	}
}

func slotsOf(text string) []string {
	all := slots.FindAllString(form.ReplaceAllString(text, ""), -1)
	slices.Sort(all)
	return slices.Compact(all)
}
