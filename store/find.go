package store

import (
	"cmp"
	"slices"
	"strings"
	"unicode"
)

// Closeness of a name to what was typed: 0 is no match, more is closer. Words
// may come in any order and be cut short, spaces and dashes do not count, and
// one wrong letter is forgiven in a word of three letters or more.
func Closeness(typed, name string) int {
	have := words(name)
	run := strings.Join(have, "")
	all := strings.Join(words(typed), "")
	if all == "" {
		return 1
	}
	if strings.HasPrefix(run, all) {
		return 1000 - len(run)
	}
	score := 500
	for _, w := range words(typed) {
		best := 0
		for _, h := range have {
			switch {
			case h == w:
				best = max(best, 40)
			case strings.HasPrefix(h, w):
				best = max(best, 30)
			case nearly(w, h):
				best = max(best, 5)
			}
		}
		if best == 0 && strings.Contains(run, w) {
			best = 15
		}
		if best == 0 {
			score = 0
			break
		}
		score += best
	}
	if score == 0 && len(all) >= 4 && nearly(all, run) {
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
	t, w := []rune(typed), []rune(word)
	if len(t) < 3 {
		return false
	}
	for _, n := range []int{len(t) - 1, len(t), len(t) + 1} {
		if n <= len(w) && oneEdit(t, w[:n]) {
			return true
		}
	}
	return false
}

func oneEdit(a, b []rune) bool {
	i := 0
	for i < len(a) && i < len(b) && a[i] == b[i] {
		i++
	}
	switch {
	case len(a) == len(b):
		return slices.Equal(a[min(i+1, len(a)):], b[min(i+1, len(b)):]) ||
			i+1 < len(a) && a[i] == b[i+1] && a[i+1] == b[i] && slices.Equal(a[i+2:], b[i+2:])
	case len(a) == len(b)+1:
		return slices.Equal(a[i+1:], b[i:])
	case len(b) == len(a)+1:
		return slices.Equal(a[i:], b[i+1:])
	}
	return false
}

// Find picks from a list what comes close to what was typed, the closest
// first.
func Find[T any](typed string, list []T, name func(T) string, most int) []T {
	type hit struct {
		item  T
		close int
	}
	var hits []hit
	for _, x := range list {
		if c := Closeness(typed, name(x)); c > 0 {
			hits = append(hits, hit{x, c})
		}
	}
	slices.SortStableFunc(hits, func(a, b hit) int { return cmp.Compare(b.close, a.close) })
	out := make([]T, 0, min(len(hits), most))
	for _, h := range hits[:min(len(hits), most)] {
		out = append(out, h.item)
	}
	return out
}
