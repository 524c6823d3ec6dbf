package search

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"sync"
	"testing"

	"nexufix/core/catalog"
)

func TestFindForgives(t *testing.T) {
	names := []string{"Velmora Pane 49", "Velmora Pane 49 Rev 2", "Velmora Pane 55", "Velmora Counter 10", "Skerry Lantern 48 300 × 300 M6",
		"Brindle Menu 55", "Orrin Timetable Bar 37"}
	index := NewIndex(names, func(s string) string { return s })
	for _, c := range []struct{ typed, first string }{
		{"velmora pane 49", "Velmora Pane 49"},
		{"pane49", "Velmora Pane 49"},
		{"49 pane", "Velmora Pane 49"},
		{"VELMORA-PANE-55", "Velmora Pane 55"},
		{"velmroa 55", "Velmora Pane 55"},            // two letters swapped
		{"lantrn", "Skerry Lantern 48 300 × 300 M6"}, // one missing
		{"lanterns", "Skerry Lantern 48 300 × 300 M6"},
		{"300 300", "Skerry Lantern 48 300 × 300 M6"},
		{"m6 lant", "Skerry Lantern 48 300 × 300 M6"},
		{"brindel menu", "Brindle Menu 55"},
		{"time 37", "Orrin Timetable Bar 37"},
		{"rev", "Velmora Pane 49 Rev 2"},
	} {
		got := index.Find(c.typed, 5)
		if len(got) == 0 || got[0] != c.first {
			t.Errorf("%q finds %q, want %q first", c.typed, got, c.first)
		}
	}
	for _, typed := range []string{"zzz", "velmora 99", "x"} {
		if got := index.Find(typed, 5); len(got) != 0 {
			t.Errorf("%q finds %q", typed, got)
		}
	}
	if got := index.Find("", 3); len(got) != 3 || got[0] != names[0] {
		t.Errorf("nothing typed gives %q", got)
	}
}

// TestNear: of all words of three letters, those are near whose beginning is one
// letter away, counted by the tables of Wagner and Fischer, with swaps (Lowrance and
// Wagner): both published in J. ACM, 1974 and 1975.
func TestNear(t *testing.T) {
	distance := func(a, b string) int {
		d := make([][]int, len(a)+1)
		for i := range d {
			d[i] = make([]int, len(b)+1)
			for j := range d[i] {
				switch {
				case i == 0 || j == 0:
					d[i][j] = i + j
					continue
				case a[i-1] == b[j-1]:
					d[i][j] = d[i-1][j-1]
				default:
					d[i][j] = 1 + min(d[i-1][j-1], d[i-1][j], d[i][j-1])
				}
				if i > 1 && j > 1 && a[i-1] == b[j-2] && a[i-2] == b[j-1] {
					d[i][j] = min(d[i][j], d[i-2][j-2]+1)
				}
			}
		}
		return d[len(a)][len(b)]
	}
	var of [6][]string // all words of so many letters
	of[0] = []string{""}
	for n := 1; n < len(of); n++ {
		for _, w := range of[n-1] {
			of[n] = append(of[n], w+"a", w+"b", w+"c")
		}
	}
	for _, typed := range slices.Concat(of[3], of[4]) {
		for _, word := range slices.Concat(of[1], of[2], of[3], of[4], of[5]) {
			want := false
			for n := len(typed) - 1; n <= min(len(typed)+1, len(word)); n++ {
				want = want || distance(typed, word[:n]) <= 1
			}
			if got := near([]byte(typed), []byte(word)); got != want {
				t.Fatalf("%s typed for %s: near is %v, want %v", typed, word, got, want)
			}
		}
	}
}

func TestAlike(t *testing.T) {
	var all []*catalog.Display
	for i, name := range []string{"Velmora Pane 49", "velmora pane-49", "Velmora Pane 55", "Velmroa Pane 49 Rev 2", "Velmora Pane 49 Rev 2",
		"Skerry Drum 38", "Skerry Drums 38", "Orrin 7"} {
		all = append(all, &catalog.Display{ID: fmt.Sprint(i), Model: name})
	}
	var got []string
	for _, pair := range Alike(all, 10) {
		got = append(got, pair[0].ID+pair[1].ID)
	}
	if fmt.Sprint(got) != "[01 34 56]" {
		t.Error(got)
	}
}

// TestAlikeIsBounded: names that are one letter over and over again, told apart by
// their numbers, are gone through in no time: it was in the square of them.
func TestAlikeIsBounded(t *testing.T) {
	var all []*catalog.Display
	for i := range 3_000 {
		all = append(all, &catalog.Display{ID: fmt.Sprint(i), Model: strings.Repeat("a", 110) + fmt.Sprint(" ", i)})
	}
	if got := Alike(all, 100); len(got) != 0 {
		t.Errorf("%d are alike", len(got))
	}
	for i := range all {
		all[i].Model = strings.Repeat("ab", 55)
	}
	if got := Alike(all, 100); len(got) != 100 {
		t.Errorf("%d of the most are alike", len(got))
	}
}

// BenchmarkFind20000 types a name with a wrong letter, the slowest case.
func BenchmarkFind20000(b *testing.B) {
	var names []string
	for i := range 20_000 {
		names = append(names, fmt.Sprintf("Maker%d Model %d 400 × 400 M6", i%40, i))
	}
	index := NewIndex(names, func(s string) string { return s })
	for b.Loop() {
		index.Find("mkaer7 mod 19999", 50)
	}
}

// TestIndexGoesOn: an index that is brought up to change after change finds what a
// new one finds, in the same order, and searches in the one before go on.
func TestIndexGoesOn(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 3))
	word := func() string {
		return []string{"pane", "menu", "counter", "49", "55", "wall", "ledge", "rev"}[r.IntN(8)] + strings.Repeat("x", r.IntN(2))
	}
	made := 0
	fresh := func() *catalog.Display {
		made++
		return &catalog.Display{ID: fmt.Sprint("d", made), Model: word() + " " + word() + " " + word()}
	}
	name := func(d *catalog.Display) string { return d.Model + " " + d.ID }
	var list []*catalog.Display
	for range 300 {
		list = append(list, fresh())
	}
	x := NewIndex(list, name)
	var all sync.WaitGroup
	for range 200 {
		before := x
		all.Go(func() { before.Find("pane 4x", 10) })
		list = slices.Clone(list)
		for range 1 + r.IntN(8) {
			switch at := r.IntN(len(list)); r.IntN(3) {
			case 0:
				list[at] = fresh()
			case 1:
				list = slices.Insert(list, at, fresh())
			default:
				list = slices.Delete(list, at, at+1)
			}
		}
		x = x.With(list)
		for range 5 {
			typed := word() + " " + word()[:2]
			if got, want := x.Find(typed, 12), NewIndex(list, name).Find(typed, 12); !slices.Equal(got, want) {
				t.Fatalf("%q: %d and %d found", typed, len(got), len(want))
			}
		}
	}
	all.Wait()
}

// BenchmarkIndexAfterAWrite is the index of 99,000 after one of them was changed.
func BenchmarkIndexAfterAWrite(b *testing.B) {
	var list []*catalog.Display
	for i := range 99_000 {
		list = append(list, &catalog.Display{ID: fmt.Sprint("d", i), Model: fmt.Sprintf("Maker%d Model %d 400 × 400 M6", i%40, i)})
	}
	x := NewIndex(list, func(d *catalog.Display) string { return d.Model + " " + d.ID })
	for b.Loop() {
		list = slices.Clone(list)
		list[500] = &catalog.Display{ID: "new", Model: "New"}
		x = x.With(list)
	}
}

// TestHeadsAlike: words that are one letter apart are never taken for others.
func TestHeadsAlike(t *testing.T) {
	const letters = "abcé"
	r := rand.New(rand.NewPCG(7, 7))
	word := func(n int) string {
		out := ""
		for range n {
			out += string([]rune(letters)[r.IntN(4)])
		}
		return out
	}
	apart := 0
	for range 200_000 {
		a, b := word(3+r.IntN(4)), word(2+r.IntN(6))
		if near([]rune(a), []rune(b)) && len(b) >= len(a)-4 {
			apart++
			if !nearly(a, b) {
				t.Fatalf("%q and %q are one letter apart", a, b)
			}
			typed, run := pairsOf(a), pairsOf(b+word(9))
			if n := run.lacks(&typed); n > 3 && ascii(a) {
				t.Fatalf("%q and %q are one letter apart, and %d pairs differ", a, b, n)
			}
		}
	}
	if apart < 1_000 {
		t.Errorf("only %d pairs are one letter apart", apart)
	}
}
