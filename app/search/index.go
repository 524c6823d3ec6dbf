// Package search finds displays and brackets by what people type: words in any order
// and abbreviated, with one wrong letter. An [Index] holds a list's names, about 200 bytes a
// name; a new one is made from it when the list changes.
package search

import (
	"math/bits"
	"slices"
	"strings"
	"unicode"

	"nexufix/core/catalog"
)

// Index finds items by name: words in any order and abbreviated, without regard to spaces and
// dashes, and with one wrong letter in a word of three letters or more. It
// does not change; [Index.With] makes a new one from it.
type Index[T comparable] struct {
	name  func(T) string
	items []T
	runs  []string  // of each item, all its words together
	pairs []pairs   // of each item's run
	place []int32   // of each item in the list; none: it is no longer in it
	words []string  // of all items, each once
	heads []uint16  // the first two bytes of each word, where a search for wrong letters looks first
	order []int32   // the words in the order of the alphabet
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
	n.order = slices.Clone(x.order)
	for place, item := range list {
		i, known := n.item[item]
		if !known {
			i = int32(len(n.items))
			n.item[item] = i
			n.add(i, item)
		}
		n.place[i] = int32(place)
	}
	for w := len(x.words); w < len(n.words); w++ {
		n.order = append(n.order, int32(w))
	}
	if len(n.words) > len(x.words) {
		slices.SortFunc(n.order, func(a, b int32) int { return strings.Compare(n.words[a], n.words[b]) })
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
	run := strings.Join(all, "")
	x.items, x.runs, x.pairs, x.place = append(x.items, item), append(x.runs, run), append(x.pairs, pairsOf(run)), append(x.place, none)
	for _, w := range all {
		n, known := x.word[w]
		if !known {
			n = int32(len(x.words))
			x.word[w] = n
			x.words, x.heads, x.at = append(x.words, w), append(x.heads, headOf(w)), append(x.at, nil)
		}
		if at := x.at[n]; len(at) == 0 || at[len(at)-1] != i {
			x.at[n] = append(at, i)
		}
	}
}

// Find picks what comes close to what was typed, the closest first.
func (x *Index[T]) Find(typed string, most int) []T {
	q := query{words: words(typed)}
	q.all = strings.Join(q.words, "")
	q.pairs = pairsOf(q.all)
	// The longest is asked for first, which most names do not have.
	slices.SortStableFunc(q.words, func(a, b string) int { return len(b) - len(a) })
	for _, w := range q.words {
		q.wordPairs = append(q.wordPairs, pairsOf(w))
		q.close = append(q.close, x.begins(w))
	}
	best, found := x.best(&q, most)
	if found < most && q.all != "" { // wrong letters are looked for only where right ones find too little
		q.forgiving = true
		for n, w := range q.words {
			x.wrong(w, q.close[n])
		}
		best, _ = x.best(&q, most)
	}
	out := make([]T, 0, len(best))
	for _, h := range best {
		out = append(out, x.items[h.at])
	}
	return out
}

// query is what was typed.
type query struct {
	words     []string
	all       string // all words together
	wordPairs []pairs
	pairs     pairs     // of all
	close     [][]uint8 // of each word, how close each item has a word to it
	forgiving bool
}

// hit is an item that comes close, and its place in the list.
type hit struct{ at, place, close int }

// before reports whether a is to be shown before b.
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

// begins is how close a word of each item comes to a word by beginning with it.
func (x *Index[T]) begins(typed string) []uint8 {
	close := make([]uint8, len(x.items))
	first, _ := slices.BinarySearchFunc(x.order, typed, func(n int32, typed string) int { return strings.Compare(x.words[n], typed) })
	for _, n := range x.order[first:] {
		word := x.words[n]
		if !strings.HasPrefix(word, typed) {
			break
		}
		c := uint8(beginsWord)
		if len(word) == len(typed) {
			c = equalWord
		}
		for _, i := range x.at[n] {
			close[i] = max(close[i], c)
		}
	}
	return close
}

// wrong adds the items that come close with a wrong letter.
func (x *Index[T]) wrong(typed string, close []uint8) {
	if len(typed) < 3 {
		return
	}
	head := headOf(typed)
	for n, h := range x.heads {
		if !headsAlike(head, h) || !nearly(typed, x.words[n]) {
			continue
		}
		for _, i := range x.at[n] {
			close[i] = max(close[i], nearlyWord)
		}
	}
}

// best are the closest items, at most so many, and how many are close at all.
func (x *Index[T]) best(q *query, most int) (best []hit, found int) {
	for i := range x.items {
		if x.place[i] == none {
			continue
		}
		h := hit{i, int(x.place[i]), x.ofItem(q, i)}
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

// ofItem is how close an item's name is to all that was typed; 0 is not at all.
func (x *Index[T]) ofItem(q *query, i int) int {
	run := x.runs[i]
	if q.all == "" {
		return 1
	}
	if x.pairs[i].has(&q.pairs) && strings.HasPrefix(run, q.all) {
		return max(501, 1000-len(run))
	}
	sum := 0
	for n, w := range q.words {
		c := int(q.close[n][i])
		if c < insideName && x.pairs[i].has(&q.wordPairs[n]) && strings.Contains(run, w) {
			c = insideName
		}
		if c == 0 {
			// One wrong letter, or two that are swapped, change three pairs at the most.
			if q.forgiving && len(q.all) >= 4 && (x.pairs[i].lacks(&q.pairs) <= 3 || !ascii(q.all)) && nearly(q.all, run) {
				return 1
			}
			return 0
		}
		sum += c
	}
	return 500 + sum
}

// pairs are the pairs of neighbours among a text's bytes, each in one of 256 places:
// what lacks one of them does not have the text in it, which is told without reading.
type pairs [4]uint64

func pairsOf(s string) pairs {
	var p pairs
	for i := 1; i < len(s); i++ {
		h := (uint(s[i-1])*31 + uint(s[i])) * 0x9E37 >> 5 & 255 // spreads them
		p[h>>6] |= 1 << (h & 63)
	}
	return p
}

// has reports whether all of another text's pairs are there.
func (p *pairs) has(other *pairs) bool {
	return other[0]&^p[0]|other[1]&^p[1]|other[2]&^p[2]|other[3]&^p[3] == 0
}

// lacks is how many of another text's pairs are not there.
func (p *pairs) lacks(other *pairs) int {
	n := 0
	for i := range p {
		n += bits.OnesCount64(other[i] &^ p[i])
	}
	return n
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

// nearly reports whether a typed word is one letter away from the start of a
// word: one wrong, missing, extra, or two swapped.
func nearly(typed, word string) bool {
	if len(typed) < 3 || len(word) < len(typed)-4 || len(word) < 2 || !headsAlike(headOf(typed), headOf(word)) {
		return false
	}
	if ascii(typed) && ascii(word) {
		return near([]byte(typed), []byte(word))
	}
	return near([]rune(typed), []rune(word))
}

// headOf is a word's first two bytes.
func headOf(word string) uint16 {
	if len(word) < 2 {
		return 0
	}
	return uint16(word[0])<<8 | uint16(word[1])
}

// headsAlike says of most words that are not one letter apart that they are not:
// one of the first two letters of both is then the same.
func headsAlike(a, b uint16) bool {
	if (a|b)&0x8080 != 0 {
		return true // letters of several bytes: it is not told here
	}
	return a>>8 == b>>8 || a&0xff == b&0xff || a>>8 == b&0xff || a&0xff == b>>8
}

// near compares texts of bytes or of runes. What they begin with alike cannot be
// where they differ, so the first letter that differs tells what is left to compare.
func near[E comparable](t, w []E) bool {
	if len(t) < 3 {
		return false
	}
	i := 0
	for i < len(t) && i < len(w) && t[i] == w[i] {
		i++
	}
	if i >= len(t)-1 {
		return true // at the most the last letter is wrong
	}
	// rest reports whether what was typed, from a letter on, is what the word has from another on.
	rest := func(typed, word int) bool {
		n := len(t) - typed
		return word+n <= len(w) && slices.Equal(t[typed:], w[word:word+n])
	}
	return rest(i+1, i+1) || rest(i+1, i) || rest(i, i+1) ||
		i+1 < len(w) && t[i] == w[i+1] && t[i+1] == w[i] && rest(i+2, i+2)
}

func ascii(s string) bool {
	for i := range len(s) {
		if s[i] >= 0x80 {
			return false
		}
	}
	return true
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
