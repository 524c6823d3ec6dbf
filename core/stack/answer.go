package stack

import (
	"cmp"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// total is what the order of preference compares, after the status. More is better for shoulders
// and school, less for the rest.
type total struct {
	supplied  int32
	spacers   int32
	shoulders int32
	washers   int32
	plane     quantity.Length
	lean      float64 // its tangent
	school    quantity.Length
	length    quantity.Length
}

// compare is negative if t is preferred to o. It is in the innermost loop of the search: it
// stops at the first difference.
func (t *total) compare(o *total) int {
	switch {
	case t.supplied != o.supplied:
		return cmp.Compare(t.supplied, o.supplied)
	case t.plane != o.plane:
		return cmp.Compare(t.plane, o.plane)
	case t.spacers != o.spacers:
		return cmp.Compare(t.spacers, o.spacers)
	case t.lean != o.lean:
		return cmp.Compare(t.lean, o.lean)
	case t.shoulders != o.shoulders:
		return cmp.Compare(o.shoulders, t.shoulders)
	case t.washers != o.washers:
		return cmp.Compare(t.washers, o.washers)
	case t.school != o.school:
		return cmp.Compare(o.school, t.school)
	}
	return cmp.Compare(t.length, o.length)
}

// Supply is a number of equal pieces to send.
type Supply struct {
	Kind          catalog.ItemKind // bolt, washer, shoulder_washer, spacer
	Length, Outer quantity.Length
	Head          catalog.BoltHead // of a bolt
	Count         int
}

// Stack is one hole stack for each group, in the order of the groups.
type Stack struct {
	Status   Status
	Plane    quantity.Length // the largest z
	Nearest  quantity.Length // the smallest z
	Lean     float64         // degrees, the largest between two groups
	Twist    quantity.Length // of the four corner holes
	Groups   []HoleStack
	Supplied []Supply
	rank     total
}

// Better reports whether s comes before o in the order of preference; any stack
// comes before nil.
func (s *Stack) Better(o *Stack) bool {
	if s == nil || o == nil {
		return s != nil
	}
	if s.Status != o.Status {
		return s.Status < o.Status
	}
	return s.rank.compare(&o.rank) < 0
}

// Answer is the best stack, nil if there is none, and, if the kit's best
// is only a caution, the best ok stack with supplied pieces. Incomplete means that
// there were too many combinations to search: then nothing is known.
type Answer struct {
	Best, Alternative *Stack
	Incomplete        bool
	Why               *Obstacle // why there is none, if that was computed
}

// Summary is an answer without its parts.
type Summary struct {
	Nearest    quantity.Length // the stack's smallest z
	Status     Status          // of the stack
	Found      bool            // there is one
	Supplies   bool            // pieces have to be sent
	Incomplete bool
	Slack      quantity.Optional[quantity.Length] // the least of its hole stacks'
	Supplied   int                                // pieces to send
	Plane      quantity.Length                    // the stack's largest z
	Spacer     quantity.Length                    // how wide the widest that it takes is; 0: it takes none
}

// Better reports whether s is preferred to o, as far as the place of the arms decides: ok before caution before none,
// fewer supplied pieces, the display closer to the wall.
func (s *Summary) Better(o *Summary) bool {
	switch {
	case s.Found != o.Found:
		return s.Found
	case s.Status != o.Status:
		return s.Status < o.Status
	case s.Supplied != o.Supplied:
		return s.Supplied < o.Supplied
	}
	return s.Plane < o.Plane
}

// Summary returns the answer's summary.
func (a *Answer) Summary() Summary {
	out := Summary{Incomplete: a.Incomplete}
	if s := a.Best; s != nil {
		out.Found, out.Supplies, out.Status, out.Nearest = true, len(s.Supplied) > 0, s.Status, s.Nearest
		out.Supplied, out.Plane = int(s.rank.supplied), s.Plane
		for i := range s.Groups {
			for _, x := range s.Groups[i].Spacers {
				out.Spacer = max(out.Spacer, x.Outer)
			}
			if x := s.Groups[i].Slack; x.Known && (!out.Slack.Known || x.Value < out.Slack.Value) {
				out.Slack = x
			}
		}
	}
	return out
}
