package stack

import (
	"slices"

	"nexufix/core/quantity"
)

// pick is a hole stack for one group, by index into the parts of a stock.
type pick struct {
	choice          int16
	washer, washers int16
	shoulder        int16 // -1 for none
	bolt            int16
}

// candidate is a safe one, with what it adds to the order of preference.
type candidate struct {
	pick
	status Status
	own    total // the order's terms for this group alone
}

// list is a group's candidates, the preferred first.
type list struct {
	all    []candidate
	ok     int // how many of them are
	effort int // that it took
}

// lists are a stock's lists that a worker remembers, by all that they follow from beside it.
type lists struct {
	room   []candidate // what is remembered, one list after another
	listed map[listed]list
}

// mostCandidates is how many candidates are remembered of a stock, of 72 bytes each.
const mostCandidates = 50_000

// forget empties the lists; their room stays.
func (m *lists) forget() {
	if m.listed == nil {
		m.listed = map[listed]list{}
	}
	clear(m.listed)
	m.room = m.room[:0]
}

// listed is what a list follows from beside its stock: the group's figures, how many holes
// it has, and how many all groups have.
type listed struct {
	figures    figures
	holes, all int
}

func (s *searcher) listed(group int) listed {
	g := &s.problem.Groups[group]
	return listed{g.figures(), len(g.Holes), s.holes}
}

// list makes the candidates of a group, or remembers them. Either way it takes the same
// effort, so that an answer does not depend on what was asked before.
func (s *searcher) list(index int) list {
	key := s.listed(index)
	if s.lists != nil {
		if l, known := s.lists.listed[key]; known {
			s.effort -= l.effort
			return l
		}
	}
	l, before := &s.room[index], s.effort
	l.all, l.ok = s.sort(s.candidates(l.all[:0], index)), 0
	for i := range l.all {
		if l.all[i].status == OK {
			l.ok++
		}
	}
	l.effort = before - s.effort
	if m := s.lists; m != nil && !s.over() && len(m.room) < mostCandidates {
		from := len(m.room)
		m.room = append(m.room, l.all...)
		m.listed[key] = list{m.room[from:len(m.room):len(m.room)], l.ok, l.effort}
	}
	return *l
}

// sort puts candidates into the order of preference. It sorts their numbers, which are smaller to move,
// and gives them in the room of those it has sorted before.
func (s *searcher) sort(all []candidate) []candidate {
	s.numbers = s.numbers[:0]
	for i := range all {
		s.numbers = append(s.numbers, int32(i))
	}
	slices.SortFunc(s.numbers, func(a, b int32) int { return all[a].own.compare(&all[b].own) })
	sorted := s.sorted[:0]
	for _, i := range s.numbers {
		sorted = append(sorted, all[i])
	}
	s.sorted = all
	return sorted
}

// candidates appends the hole stacks of a group that are at least a caution,
// that the kit (or the supply) allows, and that no other makes pointless.
func (s *searcher) candidates(out []candidate, index int) []candidate {
	p, all := s.problem, s.all
	g := &p.Groups[index]
	lim := p.limits()
	holes := len(g.Holes)
	s.settled = append(s.settled[:0], make([]int, len(all.washers))...)
	settled := s.settled
	var best *total // where the group is the only one
	for ci := s.first; ci < len(s.choices); ci++ {
		if s.spent() {
			return out
		}
		c := &s.choices[ci]
		a, ok := p.arrange(g, c)
		if !ok || !s.stocked(c, holes) {
			continue
		}
		spacers := s.bought(c, holes)
		if best != nil && a.plane > best.plane && spacers >= best.supplied {
			continue // nothing with it is preferred to the best
		}
		from := len(out)
		firstShoulder := -1
		if c.n > 0 {
			firstShoulder = len(all.shoulders) - 1
		}
		for wi := range settled {
			settled[wi] = p.Policy.MaxWashers + 1
		}
		// The preferred come first, so that they spare the rest a place.
		for si := firstShoulder; si >= -1; si-- {
			if si >= 0 && !all.shoulders[si].enough(holes) {
				continue
			}
			for wi := range all.washers {
				most := settled[wi]
				if si == -1 {
					most-- // as many washers and no shoulder washer: pointless
				}
				for n := 1; n <= min(most, p.Policy.MaxWashers) && all.washers[wi].enough(holes*n); n++ {
					s.effort--
					x := candidate{pick: pick{choice: int16(ci), washer: int16(wi), washers: int16(n), shoulder: int16(si)}}
					before := len(out)
					out = s.bolted(out, x, g, c, &a, spacers, &lim)
					if s.settles(out[before:]) {
						settled[wi] = min(settled[wi], n)
						break
					}
				}
			}
		}
		if holes == s.holes {
			best = bestOf(best, out[from:])
		}
	}
	return out
}

// spent takes a step, and says whether there are none left; now and then it looks
// whether anybody still waits for the answer.
func (s *searcher) spent() bool {
	const now = 1 << 12
	before := s.effort
	if s.effort--; before/now != s.looked {
		s.looked = before / now
		s.gone = s.gone || s.problem.Work.Gone()
	}
	return s.over()
}

// over says that the search is at its end before it is done.
func (s *searcher) over() bool { return s.effort < 0 || s.gone }

// settles says whether one of the candidates is ok and takes nothing but its
// spacers and washers that could run out: with the same spacers, more washers
// or no shoulder washer can only be worse (see dominates).
func (s *searcher) settles(found []candidate) bool {
	plenty := func(x *part) bool { return x.count > 0 && !s.tight(x) }
	for i := range found {
		x := &found[i]
		if x.status == OK && plenty(&s.all.bolts[x.bolt]) && (x.shoulder < 0 || plenty(&s.all.shoulders[x.shoulder])) {
			return true
		}
	}
	return false
}

// bolted adds the candidates that the bolts make of a choice of washers and
// spacers, so many of which the kit lacks.
func (s *searcher) bolted(out []candidate, x candidate, g *Group, c *choice, a *arrangement, spacers int32, lim *limits) []candidate {
	p, all := s.problem, s.all
	head, loose := all.underHead(&x.pick)
	if p.HeadRoom.Known && head+p.Thread.Standard().PanHeadHeight > p.HeadRoom.Value {
		return out
	}
	under := head + p.PlateThickness + c.total
	shortest := under + a.free + lim.engagementMin
	longest := under + a.free + g.ThreadDepth - lim.clearanceMin
	if a.unproven {
		longest -= g.Recess // also safe had the spacer dropped in
	}
	first := s.longEnough // near where the last search ended
	for first > 0 && all.bolts[first-1].length >= shortest {
		first--
	}
	for first < len(all.bolts) && all.bolts[first].length < shortest {
		first++
	}
	s.longEnough = first
	if first == len(all.bolts) || all.bolts[first].length > longest {
		return out
	}
	base := s.fixed(&x, g, c, a.plane, spacers)
	for bi := first; bi < len(all.bolts) && all.bolts[bi].length <= longest; bi++ {
		b := &all.bolts[bi]
		if !b.enough(len(g.Holes)) {
			continue
		}
		x.bolt = int16(bi)
		m := g.margins(a, b.length-under, b.tolerance+loose)
		x.status = lim.status(g, a, &m)
		x.own = base
		s.rate(&x, g, &m, lim)
		if !s.pointless(out, &x) {
			out = append(out, x)
		}
	}
	return out
}

// underHead is what a pick's washers and shoulder washer take between the head and the plate, and how
// far they and the plate may be off.
func (a *parts) underHead(x *pick) (head, loose quantity.Length) {
	w := &a.washers[x.washer]
	head = quantity.Length(x.washers) * w.length
	loose = quantity.Length(x.washers)*w.tolerance + plateTolerance
	if x.shoulder >= 0 {
		head += a.shoulders[x.shoulder].length
		loose += shoulderTolerance
	}
	return head, loose
}

// enough says whether n pieces can be had.
func (x *part) enough(n int) bool { return x.suppliable || x.count >= n }

// tight says whether the kit can run out of a part.
func (s *searcher) tight(x *part) bool { return x.count < s.holes*x.each }

// stocked says whether a choice's spacers can be had for so many holes.
func (s *searcher) stocked(c *choice, holes int) bool {
	for _, item := range c.items[:c.n] {
		if !s.all.spacers[item].enough(holes * c.times(item)) {
			return false
		}
	}
	return true
}

// times is how often a spacer is in the choice.
func (c *choice) times(item int16) (n int) {
	for _, x := range c.items[:c.n] {
		if x == item {
			n++
		}
	}
	return n
}

// bought is how many of a choice's spacers the kit lacks for so many holes.
func (s *searcher) bought(c *choice, holes int) (n int32) {
	for i, item := range c.items[:c.n] {
		before := choice{items: c.items, n: i}
		spacer, taken := &s.all.spacers[item], before.times(item)
		n += int32(spacer.beyond(holes*(taken+1)) - spacer.beyond(holes*taken))
	}
	return n
}

// bestOf is the preferred of an ok one that is known, or none, and of those in a list.
func bestOf(known *total, list []candidate) *total {
	for i := range list {
		if x := &list[i]; x.status == OK && (known == nil || x.own.compare(known) < 0) {
			best := x.own // the list may move
			known = &best
		}
	}
	return known
}

// fixed is what a candidate adds to the order of preference whatever its
// bolt.
func (s *searcher) fixed(x *candidate, g *Group, c *choice, plane quantity.Length, spacers int32) total {
	holes := len(g.Holes)
	own := total{
		supplied: int32(s.all.washers[x.washer].beyond(holes*int(x.washers))) + spacers,
		plane:    plane,
		spacers:  int32(holes * c.n),
		washers:  int32(holes) * int32(x.washers),
	}
	if x.shoulder >= 0 {
		own.shoulders = int32(holes)
		own.supplied += int32(s.all.shoulders[x.shoulder].beyond(holes))
	}
	return own
}

// beyond is how many of n pieces the kit lacks.
func (x *part) beyond(n int) int { return max(0, n-x.count) }

// rate adds what the bolt brings to the order of preference.
func (s *searcher) rate(x *candidate, g *Group, m *margins, lim *limits) {
	holes := quantity.Length(len(g.Holes))
	bolt := &s.all.bolts[x.bolt]
	x.own.supplied += int32(bolt.beyond(len(g.Holes)))
	x.own.length = holes * bolt.length
	switch s.school {
	case deep:
		x.own.school = holes * m.engagement
	case shallow:
		x.own.school = holes * m.clearance
	default:
		x.own.school = min(m.engagementWorst-lim.engagementWorst, m.clearanceWorst)
	}
}

// pointless says whether a candidate already listed at the same arm plane
// dominates x. The list runs by arm plane, near enough for this to see them.
func (s *searcher) pointless(list []candidate, x *candidate) bool {
	for i := len(list) - 1; i >= 0 && list[i].own.plane == x.own.plane; i-- {
		s.effort--
		if s.dominates(&list[i], x) {
			return true
		}
	}
	return false
}

// dominates says whether b can be left out beside a, which has the same arm
// plane: a takes no more of anything that can run out, and is before b
// whatever the other groups take.
func (s *searcher) dominates(a, b *candidate) bool {
	if a.status > b.status {
		return false
	}
	boughtA, boughtB, ok := s.takesNoMore(a, b)
	if !ok || boughtA != boughtB {
		return ok && boughtA < boughtB
	}
	x, y := &a.own, &b.own
	switch {
	case x.spacers != y.spacers:
		return x.spacers < y.spacers
	case x.shoulders != y.shoulders:
		return x.shoulders > y.shoulders
	case x.washers != y.washers:
		return x.washers < y.washers
	}
	if s.additive() && a.own.school != b.own.school {
		return a.own.school > b.own.school
	}
	// The smallest margin of another group may hide this one's, so length
	// decides too.
	return a.own.school >= b.own.school && a.own.length <= b.own.length
}

// takesNoMore says whether a takes no more than b, per hole, of the parts the
// kit holds but can run out of. What is only to be had from the supply is
// counted in boughtA and boughtB.
func (s *searcher) takesNoMore(a, b *candidate) (boughtA, boughtB int, ok bool) {
	ok = true
	kind := func(list []part, ia, na, ib, nb int16) {
		if na > 0 && list[ia].count == 0 {
			boughtA += int(na)
		} else if na > 0 && s.tight(&list[ia]) && (ia != ib || na > nb) {
			ok = false
		}
		if nb > 0 && list[ib].count == 0 {
			boughtB += int(nb)
		}
	}
	one := func(i int16) int16 { return min(i, 0) + 1 } // 0 for no shoulder washer
	kind(s.all.bolts, a.bolt, 1, b.bolt, 1)
	kind(s.all.washers, a.washer, a.washers, b.washer, b.washers)
	kind(s.all.shoulders, a.shoulder, one(a.shoulder), b.shoulder, one(b.shoulder))
	if a.choice == b.choice || !ok {
		return boughtA, boughtB, ok // equal spacers cancel out
	}
	ca, cb := &s.choices[a.choice], &s.choices[b.choice]
	for _, item := range ca.items[:ca.n] {
		if x := &s.all.spacers[item]; x.count == 0 {
			boughtA++
		} else if s.tight(x) && ca.times(item) > cb.times(item) {
			ok = false
		}
	}
	for _, item := range cb.items[:cb.n] {
		if s.all.spacers[item].count == 0 {
			boughtB++
		}
	}
	return boughtA, boughtB, ok
}
