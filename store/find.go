package store

import (
	"slices"
	"strings"
	"unicode"

	"nexufix/core/catalog"
)

// Index finds things by name: words in any order and cut short, spaces and
// dashes aside, one wrong letter forgiven in a word of three letters or more. It
// does not change; [Index.With] makes the next one of it.
type Index[T comparable] struct {
	name  func(T) string
	items []T
	runs  []string  // of each item, all its words together
	place []int32   // of each item in the list; none: it is no longer in it
	words []string  // of all items, each once
	at    [][]int32 // of each word, the items that have it
	gone  int       // items that are no longer in the list

	// What the next index is made with; no search looks at them.
	word map[string]int32
	item map[T]int32
}

// none is the place of what is not in the list.
const none = -1

// NewIndex reads the names of a list once.
func NewIndex[T comparable](list []T, name func(T) string) *Index[T] {
	x := &Index[T]{name: name, word: map[string]int32{}, item: make(map[T]int32, len(list))}
	return x.With(list)
}

// With is the index of another list, which has most of its items from this one's:
// only the names of new ones are read. It is called on the latest index, by one
// at a time; searches in this one go on.
func (x *Index[T]) With(list []T) *Index[T] {
	if x.gone > len(list)/4+100 {
		return NewIndex(list, x.name)
	}
	n := *x
	n.place = make([]int32, len(x.items), len(x.items)+len(list)/8)
	for i := range n.place {
		n.place[i] = none
	}
	n.at = slices.Clone(x.at)
	for place, item := range list {
		i, known := n.item[item]
		if !known {
			i = int32(len(n.items))
			n.item[item] = i
			n.add(i, item)
		}
		n.place[i] = int32(place)
	}
	n.gone = 0
	for i, place := range n.place {
		if place == none {
			n.gone++
			delete(n.item, n.items[i])
		}
	}
	return &n
}

// add reads the name of a new item.
func (x *Index[T]) add(i int32, item T) {
	all := words(x.name(item))
	x.items, x.runs, x.place = append(x.items, item), append(x.runs, strings.Join(all, "")), append(x.place, none)
	for _, w := range all {
		n, known := x.word[w]
		if !known {
			n = int32(len(x.words))
			x.word[w] = n
			x.words, x.at = append(x.words, w), append(x.at, nil)
		}
		if at := x.at[n]; len(at) == 0 || at[len(at)-1] != i {
			x.at[n] = append(at, i)
		}
	}
}

// Find picks what comes close to what was typed, the closest first.
func (x *Index[T]) Find(typed string, most int) []T {
	want := words(typed)
	all := strings.Join(want, "")
	close := make([][]uint8, len(want)) // of each word that was typed, to each item
	for n, w := range want {
		close[n] = x.right(w)
	}
	best, found := x.best(all, close, false, most)
	if found < most && all != "" { // wrong letters are looked for only where right ones find too little
		for n, w := range want {
			x.wrong(w, close[n])
		}
		best, _ = x.best(all, close, true, most)
	}
	out := make([]T, 0, len(best))
	for _, h := range best {
		out = append(out, x.items[h.at])
	}
	return out
}

// hit is an item that comes close, and its place in the list.
type hit struct{ at, place, close int }

// before says whether a is to be shown before b.
func (a hit) before(b hit) bool {
	return a.close > b.close || a.close == b.close && a.place < b.place
}

// How close a word of a name is to a word that was typed; 0 is not at all.
const (
	equalWord  = 40
	beginsWord = 30
	insideName = 15
	nearlyWord = 5
)

// right is how close each item comes to a word, letter by letter. The word is held
// against each word of the index once.
func (x *Index[T]) right(typed string) []uint8 {
	close := make([]uint8, len(x.items))
	for n, word := range x.words {
		if !strings.HasPrefix(word, typed) {
			continue
		}
		c := uint8(beginsWord)
		if len(word) == len(typed) {
			c = equalWord
		}
		for _, i := range x.at[n] {
			close[i] = max(close[i], c)
		}
	}
	for i, c := range close {
		if c < insideName && strings.Contains(x.runs[i], typed) {
			close[i] = insideName
		}
	}
	return close
}

// wrong adds the items that come close with a wrong letter.
func (x *Index[T]) wrong(typed string, close []uint8) {
	for n, word := range x.words {
		if !nearly(typed, word) {
			continue
		}
		for _, i := range x.at[n] {
			close[i] = max(close[i], nearlyWord)
		}
	}
}

// best are the closest items, at most so many, and how many are close at all.
func (x *Index[T]) best(all string, close [][]uint8, forgiving bool, most int) (best []hit, found int) {
	for i := range x.items {
		if x.place[i] == none {
			continue
		}
		sum, lacks := 0, false
		for _, c := range close {
			sum, lacks = sum+int(c[i]), lacks || c[i] == 0
		}
		h := hit{i, int(x.place[i]), ofName(all, x.runs[i], sum, lacks, forgiving)}
		if h.close == 0 {
			continue
		}
		found++
		if len(best) == most && !h.before(best[most-1]) {
			continue
		}
		at, _ := slices.BinarySearchFunc(best, h, func(have, h hit) int {
			if have.before(h) {
				return -1
			}
			return 1
		})
		if best = slices.Insert(best, at, h); len(best) > most {
			best = best[:most]
		}
	}
	return best, found
}

// ofName is how close a name is to all that was typed, of which its words come to a
// sum, or it lacks one.
func ofName(all, run string, sum int, lacks, forgiving bool) int {
	switch {
	case all == "":
		return 1
	case strings.HasPrefix(run, all):
		return max(501, 1000-len(run))
	case !lacks:
		return 500 + sum
	case forgiving && len(all) >= 4 && nearly(all, run):
		return 1
	}
	return 0
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
	if len(typed) < 3 || len(word) < len(typed)-4 || len(word) < 2 || !beginAlike(typed, word) {
		return false
	}
	if ascii(typed) && ascii(word) {
		return near([]byte(typed), []byte(word))
	}
	return near([]rune(typed), []rune(word))
}

// beginAlike says of most words that are not one letter apart that they are not:
// one of the first two letters of both is then the same.
func beginAlike(a, b string) bool {
	if a[0]|a[1]|b[0]|b[1] >= 0x80 {
		return true // letters of several bytes: it is not told here
	}
	return a[0] == b[0] || a[1] == b[1] || a[0] == b[1] || a[1] == b[0]
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
