package fit

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// withSpacers tries the least clearance of the arms, by spacers, that clears what fails or limits: something that stands
// out, a plug, a vent, a tilt or a swivel. What zones lack is known; else every length of spacer is tried.
func withSpacers(p *Pairing, again func(func(*inputs)) Pairing, before trouble) Change {
	if p.Pattern == nil || p.Hang == nil || !p.stacked.Found {
		return Change{}
	}
	plane, _ := p.nearest()
	var tries []quantity.Length
	for i := range p.Display.Zones {
		z := &p.Display.Zones[i]
		room, _, _, known := p.roomFor(z, &p.side)
		if need, said := clearanceOf(z); known && said && need > 0 {
			tries = append(tries, need, plane+need-room)
		}
		if z.Plug.Known && known {
			over, _, _ := p.behind(p.ZonePlace(z), &p.side)
			need := z.Plug.Value + over - p.Bracket.Profile.Value - z.Setback.Or(0)
			tries = append(tries, need, need+z.CableBend.Or(0))
		}
		if z.Clear.Known && known {
			over, _, _ := p.behind(p.ZonePlace(z), &p.side)
			tries = append(tries, z.Clear.Value+over-p.Bracket.Profile.Value-z.Setback.Or(0))
		}
	}
	tries = append(tries, plugDoubt+p.platesThickness()-p.Bracket.Profile.Value)
	for _, bag := range [][]catalog.Item{p.Bracket.Kit, p.Display.OwnParts} {
		for i := range bag {
			if bag[i].Kind == catalog.Spacer && bag[i].Passes(p.Pattern.Thread) {
				tries = append(tries, bag[i].Length)
			}
		}
	}
	tries = append(tries, p.Policy.StockSpacers...)
	slices.Sort(tries)
	for _, z := range slices.Compact(tries) {
		if z <= plane || z <= p.Extra.Clearance || z > maxClearance {
			continue
		}
		after := again(func(q *inputs) { q.extra.Clearance = z })
		if after.Stack == nil || after.Stack.Nearest < z || !gains(&after, before) {
			continue
		}
		further := after.Stack.Plane - p.Stack.Plane
		return Change{Kind: "spacers", Spacers: z, Verdict: after.Verdict, Text: quantity.Say("With spacers it %v: %v further out, with %v.",
			becomes(after.Verdict), quantity.AtMost(further), SpacersOf(&after))}
	}
	return Change{}
}

// SpacersOf lists the bolts and spacers of a pairing's stack, and from where they come: "4 × M6×30 and 4 × spacer 15 from the
// bag".
func SpacersOf(p *Pairing) quantity.Phrase {
	var takes []stack.Supply
	take := func(x stack.Supply) {
		for i := range takes {
			if y := &takes[i]; y.Kind == x.Kind && y.Length == x.Length && y.Outer == x.Outer && y.Head == x.Head {
				y.Count += x.Count
				return
			}
		}
		takes = append(takes, x)
	}
	for i := range p.Stack.Groups {
		g := &p.Stack.Groups[i]
		n := len(g.Holes)
		take(stack.Supply{Kind: catalog.Bolt, Length: g.Bolt, Head: g.Head, Count: n})
		for _, s := range g.Spacers {
			take(stack.Supply{Kind: catalog.Spacer, Length: s.Length, Outer: s.Outer, Count: n})
		}
	}
	list := SupplyList(takes, p.Pattern.Thread)
	if send := SupplyList(p.Stack.Supplied, p.Pattern.Thread); send != "" {
		return quantity.Say("%v; to be sent: %v", list, send)
	}
	return quantity.Say("%v from the bag", list)
}
