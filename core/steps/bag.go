package steps

import (
	"slices"
	"strconv"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// bag is the parts in the boxes, from which steps take.
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

// newBag returns the parts in the boxes of so many displays and their brackets. An anchor of an
// older document is of the kind that its walls suggest.
func newBag(kit, own []catalog.Item, displays int) *bag {
	b := &bag{lines: make([]line, 0, len(kit)+len(own))}
	for n, i := range kit {
		i, _ = i.Resolved()
		b.lines = append(b.lines, line{i, "kit." + strconv.Itoa(n), false, i.Count * displays})
	}
	for n, i := range own {
		b.lines = append(b.lines, line{i, "own." + strconv.Itoa(n), true, i.Count * displays})
	}
	return b
}

// take takes n pieces that match, and puts what the bags lack on the supply
// list under the given name.
func (b *bag) take(n int, name string, match func(*catalog.Item) bool) []Part {
	var out []Part
	for i := range b.lines {
		l := &b.lines[i]
		if n == 0 || l.left == 0 || !match(&l.item) {
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
func (b *bag) all(match func(*catalog.Item) bool) []Part {
	var out []Part
	for i := range b.lines {
		if l := &b.lines[i]; l.left > 0 && match(&l.item) {
			out = append(out, Part{Name: l.item.Label(), Bag: l.label(), Count: l.left, Tag: l.tag})
			l.left = 0
		}
	}
	return out
}

// leftovers lists the parts that no step took, and why. Tools are not parts.
func (g *generator) leftovers() []Part {
	var out []Part
	for i := range g.bag.lines {
		if l := &g.bag.lines[i]; l.left > 0 && l.item.Kind != catalog.Tool {
			out = append(out, Part{Name: l.item.Label(), Bag: l.label(), Count: l.left, Tag: l.tag, Why: g.whyLeftOver(&l.item)})
		}
	}
	return out
}

// whyLeftOver explains why pieces of an item are left over.
func (g *generator) whyLeftOver(i *catalog.Item) quantity.Phrase {
	thread := g.p.Layout.Thread
	used := func(match func(*stack.HoleStack) bool) bool {
		return slices.ContainsFunc(g.p.Stack.Groups, func(h stack.HoleStack) bool { return match(&h) })
	}
	more := say("more than this display takes")
	switch {
	case i.Kind.Fastens() || i.Kind == catalog.LagWasher:
		if g.choice.Known() && (i.Label() == g.choice.Item.Label() || g.choice.Plug != nil && i.Label() == g.choice.Plug.Label()) {
			return say("more than the holes take")
		}
		if !i.MadeFor(g.wall) {
			return say("for another wall than %v", g.kind.Name)
		}
		return say("another fastener is used on this wall")
	case i.Kind == catalog.Spacer && !i.Passes(thread), i.Kind != catalog.Spacer && i.Thread != 0 && i.Thread != thread:
		its := i.Thread
		if i.Kind == catalog.Spacer {
			its = i.Threads[0]
		}
		return say("the display takes %v; these are for %v", thread, its)
	case i.Kind == catalog.Bolt:
		if used(func(h *stack.HoleStack) bool { return h.Bolt == i.Length }) {
			return more
		}
		return say("another length is used: these would be too short or too long")
	case i.Kind == catalog.Spacer:
		if used(func(h *stack.HoleStack) bool {
			return slices.ContainsFunc(h.Spacers, func(x stack.Spacer) bool { return x.Length == i.Length })
		}) {
			return more
		}
		return say("no spacer of this length is needed")
	case i.Kind == catalog.ShoulderWasher:
		if used(func(h *stack.HoleStack) bool { return h.Shoulder == i.Thickness }) {
			return more
		}
		return say("no shoulder washer of this thickness is needed")
	}
	return more
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
