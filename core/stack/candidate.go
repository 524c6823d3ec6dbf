package stack

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// pick is a hole stack for one group, by index into the parts of a stock.
type pick struct {
	choice          int16
	washer, washers int16
	shoulder        int16 // -1 for none
	bolt            int16
}

// candidate is a safe pick, with its terms of the order of preference.
type candidate struct {
	pick
	status Status
	own    total // the terms of this group alone
}

// sort sorts candidates by preference. It sorts their indices, which are cheaper to move,
// and returns them in the memory of those it sorted before.
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
// that the kit (or the supply) allows, and that no other one dominates.
func (s *searcher) candidates(out []candidate, index int) []candidate {
	p, all := s.problem, s.all
	g := &p.Groups[index]
	holes := len(g.Holes)
	s.settled = append(s.settled[:0], make([]int, len(all.washers))...)
	settled := s.settled
	var best *total // if this is the only group
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
			continue // no stack with it is preferred to the best
		}
		from := len(out)
		firstShoulder := -1
		if c.n > 0 {
			firstShoulder = len(all.shoulders) - 1
		}
		for wi := range settled {
			settled[wi] = p.Policy.MaxWashers + 1
		}
		// The preferred come first, and dominate many of the rest.
		for si := firstShoulder; si >= -1; si-- {
			if si >= 0 && !all.shoulders[si].enough(holes) {
				continue
			}
			if si < 0 { // a countersunk head takes no washer
				out = s.bolted(out, candidate{pick: pick{choice: int16(ci), shoulder: -1}}, g, c, &a, spacers)
			}
			for wi := range all.washers {
				most := settled[wi]
				if si == -1 {
					most-- // as many washers without a shoulder washer: dominated
				}
				for n := 1; n <= min(most, p.Policy.MaxWashers) && all.washers[wi].enough(holes*n); n++ {
					s.effort--
					x := candidate{pick: pick{choice: int16(ci), washer: int16(wi), washers: int16(n), shoulder: int16(si)}}
					before := len(out)
					out = s.bolted(out, x, g, c, &a, spacers)
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

// spent takes a step, and reports whether none are left; now and then it checks
// whether the client still waits.
func (s *searcher) spent() bool {
	const now = 1 << 12
	before := s.effort
	if s.effort--; before/now != s.looked {
		s.looked = before / now
		s.gone = s.gone || s.problem.Work.Gone()
	}
	return s.over()
}

// over reports whether the search has to stop before it is done.
func (s *searcher) over() bool { return s.effort < 0 || s.gone }

// settles reports whether one of the candidates is ok and, apart from its
// spacers and washers, takes nothing that could run out: with the same spacers, more washers
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

// bolted appends the candidates of a choice of washers and
// spacers with each bolt; spacers is how many of these the kit lacks.
func (s *searcher) bolted(out []candidate, x candidate, g *Group, c *choice, a *arrangement, spacers int32) []candidate {
	p, all := s.problem, s.all
	lim := &s.limits
	head, loose := all.underHead(&x.pick)
	under := head + p.PlateThickness + c.total
	shortest := under + a.free + a.across + lim.engagementMin
	longest := under + a.free + g.ThreadDepth - lim.clearanceMin
	if a.unproven {
		longest -= g.Recess // also safe if the spacer drops in
	}
	first := s.longEnough // the last result is usually near
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
		if !b.enough(len(g.Holes)) || p.HeadRoom.Known && head+b.height > p.HeadRoom.Value || b.length-under-a.free > b.threaded ||
			(b.head == catalog.Countersunk) != (x.washers == 0) {
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

// underHead returns the thickness of a pick's washers and shoulder washer, and the
// tolerance of these and the plate.
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

// enough reports whether n pieces are available.
func (x *part) enough(n int) bool { return x.suppliable || x.count >= n }

// tight reports whether the kit can run out of a part.
func (s *searcher) tight(x *part) bool { return x.count < s.holes*x.each }

// stocked reports whether a choice's spacers are available for so many holes.
func (s *searcher) stocked(c *choice, holes int) bool {
	for _, item := range c.items[:c.n] {
		if !s.all.spacers[item].enough(holes * c.times(item)) {
			return false
		}
	}
	return true
}

// times returns how often a spacer is in the choice.
func (c *choice) times(item int16) (n int) {
	for _, x := range c.items[:c.n] {
		if x == item {
			n++
		}
	}
	return n
}

// bought returns how many of a choice's spacers the kit lacks for so many holes.
func (s *searcher) bought(c *choice, holes int) (n int32) {
	for i, item := range c.items[:c.n] {
		before := choice{items: c.items, n: i}
		spacer, taken := &s.all.spacers[item], before.times(item)
		n += int32(spacer.beyond(holes*(taken+1)) - spacer.beyond(holes*taken))
	}
	return n
}

// bestOf returns the best of the ok candidates in a list and of one found before, if any.
func bestOf(known *total, list []candidate) *total {
	for i := range list {
		if x := &list[i]; x.status == OK && (known == nil || x.own.compare(known) < 0) {
			best := x.own // the list may move
			known = &best
		}
	}
	return known
}

// fixed returns a candidate's terms that do not depend on its
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

// beyond returns how many of n pieces the kit lacks.
func (x *part) beyond(n int) int { return max(0, n-x.count) }

// rate adds the bolt's terms.
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

// pointless reports whether a candidate already listed at the same arm plane
// dominates x. It looks only at the last ones, which have the same choice of spacers or one of the
// same length.
func (s *searcher) pointless(list []candidate, x *candidate) bool {
	for i := len(list) - 1; i >= 0 && list[i].own.plane == x.own.plane; i-- {
		s.effort--
		if s.dominates(&list[i], x) {
			return true
		}
	}
	return false
}

// dominates reports whether b, with the same arm plane as a, can be left out:
// a takes no more of anything that can run out, and is preferred to b
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

// takesNoMore reports whether a takes no more than b, per hole, of the parts that the
// kit holds but can run out of. Parts that only the supply has are
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
