package store

import (
	"cmp"
	"runtime"
	"slices"
	"strings"
	"unicode"

	"nexufix/core/catalog"
	"nexufix/core/workers"
)

// Index finds things by name: words in any order and cut short, spaces and
// dashes aside, one wrong letter forgiven in a word of three letters or more.
type Index[T any] struct{ entries []entry[T] }

type entry[T any] struct {
	item  T
	words []string
	run   string // all of them together
}

// NewIndex reads the names of a list once.
func NewIndex[T any](list []T, name func(T) string) *Index[T] {
	x := &Index[T]{entries: make([]entry[T], 0, len(list))}
	for _, item := range list {
		w := words(name(item))
		x.entries = append(x.entries, entry[T]{item, w, strings.Join(w, "")})
	}
	return x
}

// Find picks what comes close to what was typed, the closest first.
func (x *Index[T]) Find(typed string, most int) []T {
	var hits []hit
	want := words(typed)
	all := strings.Join(want, "")
	for _, forgiving := range []bool{false, true} {
		hits = x.hits(want, all, forgiving)
		if len(hits) >= most || all == "" {
			break // wrong letters are looked for only where right ones find too little
		}
	}
	slices.SortStableFunc(hits, func(a, b hit) int { return cmp.Compare(b.close, a.close) })
	out := make([]T, 0, min(len(hits), most))
	for _, h := range hits[:min(len(hits), most)] {
		out = append(out, x.entries[h.at].item)
	}
	return out
}

// hit is an entry that comes close.
type hit struct{ at, close int }

// hits looks through all entries, on all cores when they are many.
func (x *Index[T]) hits(want []string, all string, forgiving bool) []hit {
	parts := 1
	if len(x.entries) > 2_000 {
		parts = runtime.GOMAXPROCS(0)
	}
	found := make([][]hit, parts)
	workers.Each(parts, func(p int) {
		for i := p * len(x.entries) / parts; i < (p+1)*len(x.entries)/parts; i++ {
			e := &x.entries[i]
			if c := closeness(want, all, e.words, e.run, forgiving); c > 0 {
				found[p] = append(found[p], hit{i, c})
			}
		}
	})
	return slices.Concat(found...)
}

// Closeness of a name to what was typed: 0 is no match, more is closer.
func Closeness(typed, name string) int {
	want, have := words(typed), words(name)
	return closeness(want, strings.Join(want, ""), have, strings.Join(have, ""), true)
}

func closeness(want []string, all string, have []string, run string, forgiving bool) int {
	if all == "" {
		return 1
	}
	if strings.HasPrefix(run, all) {
		return 1000 - len(run)
	}
	score := 500
	for _, w := range want {
		best := 0
		for _, h := range have {
			switch {
			case h == w:
				best = max(best, 40)
			case strings.HasPrefix(h, w):
				best = max(best, 30)
			case forgiving && best < 5 && nearly(w, h):
				best = 5
			}
		}
		if best < 15 && strings.Contains(run, w) {
			best = 15
		}
		if best == 0 {
			score = 0
			break
		}
		score += best
	}
	if score == 0 && forgiving && len(all) >= 4 && nearly(all, run) {
		return 1
	}
	return score
}

// words splits a name into runs of letters and runs of digits, folded to
// lower case.
func words(s string) []string {
	var out []string
	var last rune
	start := -1
	lower := strings.ToLower(s)
	flush := func(end int) {
		if start >= 0 {
			out = append(out, lower[start:end])
			start = -1
		}
	}
	for i, r := range lower {
		word := unicode.IsLetter(r) || unicode.IsDigit(r)
		if !word || (start >= 0 && unicode.IsDigit(r) != unicode.IsDigit(last)) {
			flush(i)
		}
		if word && start < 0 {
			start = i
		}
		last = r
	}
	flush(len(lower))
	return out
}

// nearly says whether a typed word is one letter away from the start of a
// word: one wrong, missing, extra, or two swapped.
func nearly(typed, word string) bool {
	if len(typed) < 3 || len(word) < len(typed)-4 {
		return false
	}
	if ascii(typed) && ascii(word) {
		return near([]byte(typed), []byte(word))
	}
	return near([]rune(typed), []rune(word))
}

func near[E comparable](t, w []E) bool {
	if len(t) < 3 {
		return false
	}
	for n := len(t) - 1; n <= len(t)+1; n++ {
		if n <= len(w) && oneEdit(t, w[:n]) {
			return true
		}
	}
	return false
}

func ascii(s string) bool {
	for i := range len(s) {
		if s[i] >= 0x80 {
			return false
		}
	}
	return true
}

// oneEdit compares texts of bytes or of runes.
func oneEdit[E comparable](a, b []E) bool {
	i := 0
	for i < len(a) && i < len(b) && a[i] == b[i] {
		i++
	}
	switch {
	case len(a) == len(b):
		j := min(i+1, len(a))
		return slices.Equal(a[j:], b[j:]) ||
			i+1 < len(a) && a[i] == b[i+1] && a[i+1] == b[i] && slices.Equal(a[i+2:], b[i+2:])
	case len(a) == len(b)+1:
		return slices.Equal(a[i+1:], b[i:])
	case len(b) == len(a)+1:
		return slices.Equal(a[i:], b[i+1:])
	}
	return false
}

// Alike finds displays that could be one and the same: their names are one
// letter apart, or equal but for spaces, dashes and case, and their numbers
// are the same. The first of each pair comes first in the list.
func Alike(displays []*catalog.Display, most int) [][2]*catalog.Display {
	seen := map[string][]int{} // by numbers, and a name with a letter less
	var out [][2]*catalog.Display
	told := map[[2]int]bool{}
	for i, d := range displays {
		run := strings.Join(words(d.Name()), "")
		if len(run) < 5 {
			continue
		}
		numbers := digits(d.Name())
		for k := -1; k < len(run); k++ {
			if k > 0 && run[k] == run[k-1] {
				continue // the same again
			}
			shorter := run
			if k >= 0 {
				shorter = run[:k] + run[k+1:]
			}
			key := numbers + "\x00" + shorter
			for _, j := range seen[key] { // each of them is told, once
				pair := [2]int{j, i}
				if j == i || told[pair] {
					continue
				}
				told[pair] = true
				out = append(out, [2]*catalog.Display{displays[j], d})
				if len(out) == most {
					return out
				}
			}
			seen[key] = append(seen[key], i)
		}
	}
	return out
}

// digits are a name's numbers: models that differ in them differ.
func digits(name string) string {
	return strings.Join(strings.FieldsFunc(name, func(r rune) bool { return !unicode.IsDigit(r) }), " ")
}
