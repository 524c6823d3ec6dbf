package exchange

import (
	"maps"
	"math/rand/v2"
	"path/filepath"
	"slices"
	"strings"
	"testing"
)

// eachMixed calls do with documents that are two of the made ones at once, picked at random: what two rules do to each other.
func eachMixed(t *testing.T, n int, do func(name string, doc map[string]any, c *Contents)) {
	t.Helper()
	r := rand.New(rand.NewPCG(3, 27))
	var cases []adversarial
	files, _ := filepath.Glob("testdata/second/*.json")
	for _, path := range files {
		cases = append(cases, family(t, path)...)
	}
	for mixed := 0; mixed < n; {
		a, b := &cases[r.IntN(len(cases))], &cases[r.IntN(len(cases))]
		if clash(a.Set, b.Set) {
			continue
		}
		doc := soundDocument(t)
		for _, set := range []map[string]any{a.Set, b.Set} {
			for _, p := range slices.Sorted(maps.Keys(set)) {
				put(t, doc, p, set[p])
			}
		}
		if c, err := Read(encode(t, doc)); err == nil {
			mixed++
			do(a.Name+" and "+b.Name, doc, c)
		}
	}
}

// clash reports whether two sets change the same part of a document, or the length of the same list.
func clash(a, b map[string]any) bool {
	for p := range a {
		for q := range b {
			list, _, _ := strings.Cut(p, "[0].kit[")
			other, _, _ := strings.Cut(q, "[0].kit[")
			if strings.HasPrefix(p, q) || strings.HasPrefix(q, p) || list == other && list != p ||
				strings.Contains(p, ".zones") && strings.Contains(q, ".zones") {
				return true
			}
		}
	}
	return false
}
