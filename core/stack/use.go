package stack

import (
	"slices"

	"nexufix/core/catalog"
)

// use counts the pieces taken of every part: bolts, then washers, shoulder
// washers and spacers, each in the order of parts.
type use struct {
	all                         *parts
	taken                       []int
	washers, shoulders, spacers int // where each kind starts
}

// renew returns a count of no pieces for the given parts, in the same memory.
func (u use) renew(all *parts) use {
	u.all, u.washers = all, len(all.bolts)
	u.shoulders = u.washers + len(all.washers)
	u.spacers = u.shoulders + len(all.shoulders)
	u.taken = slices.Grow(u.taken[:0], u.spacers+len(all.spacers))[:u.spacers+len(all.spacers)]
	clear(u.taken)
	return u
}

// add takes (sign 1) or gives back (sign -1) a candidate's pieces for a
// number of holes.
func (u *use) add(c *pick, spacers *choice, holes, sign int) {
	n := holes * sign
	u.taken[c.bolt] += n
	u.taken[u.washers+int(c.washer)] += n * int(c.washers)
	if c.shoulder >= 0 {
		u.taken[u.shoulders+int(c.shoulder)] += n
	}
	for _, item := range spacers.items[:spacers.n] {
		u.taken[u.spacers+int(item)] += n
	}
}

// part returns the part and its kind for an index of taken.
func (u *use) part(i int) (catalog.ItemKind, *part) {
	switch {
	case i >= u.spacers:
		return catalog.Spacer, &u.all.spacers[i-u.spacers]
	case i >= u.shoulders:
		return catalog.ShoulderWasher, &u.all.shoulders[i-u.shoulders]
	case i >= u.washers:
		return catalog.Washer, &u.all.washers[i-u.washers]
	}
	return catalog.Bolt, &u.all.bolts[i]
}

// beyond returns the number of pieces taken beyond the kit's counts, false if
// some of them cannot be supplied.
func (u *use) beyond() (n int, ok bool) {
	ok = true
	for i, taken := range u.taken {
		if taken == 0 {
			continue
		}
		if _, x := u.part(i); taken > x.count {
			n += taken - x.count
			ok = ok && x.suppliable
		}
	}
	return n, ok
}

// appendSupplied appends the pieces beyond the kit's counts.
func (u *use) appendSupplied(out []Supply) []Supply {
	for i, taken := range u.taken {
		if kind, x := u.part(i); taken > x.count {
			out = append(out, Supply{kind, x.length, x.outer, x.head, taken - x.count})
		}
	}
	return out
}
