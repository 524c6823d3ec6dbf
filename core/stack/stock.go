package stack

import (
	"cmp"
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// part is one kind of piece that can be used: how many the kit holds, and
// whether more can be supplied.
type part struct {
	length     quantity.Length // of a bolt or spacer; thickness of a washer
	outer      quantity.Length
	tolerance  quantity.Length
	head       catalog.BoltHead // of a bolt; its height, and how much of it is threaded
	height     quantity.Length
	threaded   quantity.Length
	count      int
	suppliable bool
	each       int // the most that one hole takes
}

// parts are all pieces of the display's thread, equal ones counted together.
type parts struct{ bolts, washers, shoulders, spacers []part }

// stock has what a problem's stacks are made of: all parts, and the sets of
// spacers. It is the same for all displays of a thread on a bracket.
type stock struct {
	parts
	choices []choice
}

// stock returns the parts in the boxes; with supply also those that can
// be sent: bolts of the supplied lengths, standard washers, stock spacers, and
// more of the kit. A stock without bolts or washers has no choices.
func (p *Problem) stock(supply bool) (*stock, *lists) { return p.newStock(supply), nil }

func (p *Problem) newStock(supply bool) *stock {
	var all stock
	for i := range p.Kit {
		all.put(&p.Kit[i], p.Thread, p.Kit[i].Count, supply)
	}
	for i := range p.OwnParts {
		all.put(&p.OwnParts[i], p.Thread, p.OwnParts[i].Count, false)
	}
	if supply {
		std := p.Thread.Standard()
		for _, l := range p.Thread.SuppliedLengths() {
			all.put(&catalog.Item{Kind: catalog.Bolt, Thread: p.Thread, Length: l, Head: SuppliedHead(l)}, p.Thread, 0, true)
		}
		for _, d := range []fastener.Disc{std.Washer, std.LargeWasher} {
			all.put(&catalog.Item{Kind: catalog.Washer, Thread: p.Thread, Thickness: d.Thickness, Outer: d.Outer}, p.Thread, 0, true)
		}
		threads := []fastener.Thread{p.Thread}
		for _, l := range p.Policy.StockSpacers {
			all.put(&catalog.Item{Kind: catalog.Spacer, Threads: threads, Length: l, Outer: p.Policy.StockSpacerOuter}, p.Thread, 0, true)
		}
	}
	all.finish(p)
	if len(all.bolts) > 0 && len(all.washers) > 0 {
		all.choices = p.choices(&all.parts)
	}
	return &all
}

// longestPan is the longest bolt with a pan head in trade; longer ones have a socket head (practice).
const longestPan = 60 * quantity.Millimetre

// SuppliedHead returns the head of the bolts of a length in trade.
func SuppliedHead(l quantity.Length) catalog.BoltHead {
	if l > longestPan {
		return catalog.SocketHead
	}
	return catalog.PanHead
}

// isWasher reports whether an item's figures are those of a washer: at least a quarter as thick as
// a standard one, and at most ten bolts wide (practice).
func isWasher(std fastener.Standard, i *catalog.Item) bool {
	return 4*i.Thickness >= std.Washer.Thickness && i.Outer <= 10*std.Nominal
}

// put adds a kit line to the part it equals, or as a new part.
func (a *parts) put(i *catalog.Item, t fastener.Thread, count int, suppliable bool) {
	var list *[]part
	n := part{count: count, suppliable: suppliable, each: 1}
	switch {
	case i.Kind == catalog.Bolt && i.Thread == t:
		list, n.length, n.tolerance = &a.bolts, i.Length, fastener.LengthTolerance(i.Length)
		n.head, n.height, n.threaded = cmp.Or(i.Head, catalog.PanHead), i.Head.Height(t), i.ThreadOf()
	case i.Kind == catalog.Washer && i.Thread == t && isWasher(t.Standard(), i):
		list, n.length, n.outer, n.tolerance = &a.washers, i.Thickness, i.Outer, t.WasherTolerance(i.Thickness)
	case i.Kind == catalog.ShoulderWasher && i.Thread == t:
		list, n.length, n.tolerance = &a.shoulders, i.Thickness, shoulderTolerance
	case i.Kind == catalog.Spacer && i.Passes(t):
		list, n.length, n.outer, n.tolerance = &a.spacers, i.Length, i.Outer, spacerTolerance
	default:
		return
	}
	for j := range *list {
		if have := &(*list)[j]; have.length == n.length && have.outer == n.outer && have.head == n.head && have.threaded == n.threaded {
			have.count += count
			have.suppliable = have.suppliable || suppliable
			return
		}
	}
	*list = append(*list, n)
}

// finish removes parts that cannot be used, and sorts the rest.
func (a *parts) finish(p *Problem) {
	least := p.Slot + p.Policy.WasherOverlap
	if !p.Dimpled { // a countersunk head bears in a dimple alone
		a.bolts = slices.DeleteFunc(a.bolts, func(x part) bool { return x.head == catalog.Countersunk })
	}
	narrow := func(x part) bool { return x.outer < least }
	a.washers = slices.DeleteFunc(a.washers, narrow)
	a.spacers = slices.DeleteFunc(a.spacers, narrow)
	for i := range a.washers {
		a.washers[i].each = p.Policy.MaxWashers
	}
	for i := range a.spacers {
		a.spacers[i].each = p.Policy.MaxStackedSpacers
	}
	for _, list := range [][]part{a.bolts, a.washers, a.shoulders, a.spacers} {
		slices.SortFunc(list, func(a, b part) int {
			return cmp.Or(cmp.Compare(a.length, b.length), cmp.Compare(a.outer, b.outer), cmp.Compare(a.height, b.height),
				cmp.Compare(b.threaded, a.threaded), cmp.Compare(a.head, b.head))
		})
	}
}
