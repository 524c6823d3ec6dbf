package steps

import (
	"fmt"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// bag is what is in the boxes while steps take from it.
type bag struct {
	lines  []line
	supply []Part
}

// DisplayBox stands for the bag of parts that came with the display.
const DisplayBox = "display's box"

type line struct {
	item catalog.Item
	tag  string
	own  bool // came with the display
	left int
}

// newBag is what is in the boxes of so many displays and their brackets. An
// older anchor is what its walls suggest.
func newBag(kit, own []catalog.Item, displays int) *bag {
	b := &bag{}
	for n, i := range kit {
		i, _ = i.Resolved()
		b.lines = append(b.lines, line{i, fmt.Sprintf("kit.%d", n), false, i.Count * displays})
	}
	for n, i := range own {
		b.lines = append(b.lines, line{i, fmt.Sprintf("own.%d", n), true, i.Count * displays})
	}
	return b
}

// take takes n pieces that match, and puts what the bags lack on the supply
// list under the given name.
func (b *bag) take(n int, name string, match func(catalog.Item) bool) []Part {
	var out []Part
	for i := range b.lines {
		l := &b.lines[i]
		if n == 0 || l.left == 0 || !match(l.item) {
			continue
		}
		k := min(n, l.left)
		l.left -= k
		n -= k
		out = append(out, Part{Name: l.item.Label(), Bag: l.label(), Count: k, Tag: l.tag})
	}
	if n > 0 {
		p := Part{Name: name, Count: n, Supplied: true}
		out = append(out, p)
		b.supply = addPart(b.supply, p)
	}
	return out
}

func (l *line) label() string {
	if l.own {
		return DisplayBox
	}
	return l.item.Bag
}

// all takes everything that matches.
func (b *bag) all(match func(catalog.Item) bool) []Part {
	var out []Part
	for i := range b.lines {
		if l := &b.lines[i]; l.left > 0 && match(l.item) {
			out = append(out, Part{Name: l.item.Label(), Bag: l.label(), Count: l.left, Tag: l.tag})
			l.left = 0
		}
	}
	return out
}

// leftovers lists what no step took. Tools are no parts.
func (b *bag) leftovers() []Part {
	var out []Part
	for _, l := range b.lines {
		if l.left > 0 && l.item.Kind != catalog.Tool {
			out = append(out, Part{Name: l.item.Label(), Bag: l.label(), Count: l.left, Tag: l.tag})
		}
	}
	return out
}

// addPart adds a part to a list, to an equal one if there is one.
func addPart(list []Part, p Part) []Part {
	for i := range list {
		if list[i].key() == p.key() {
			list[i].Count += p.Count
			return list
		}
	}
	return append(list, p)
}

func plain(l quantity.Length) string { return quantity.FormatDecimal(int64(l), 6) }

func or(a, b string) string {
	if a == "" {
		return b
	}
	return a
}
