package fit

import (
	"fmt"
	"slices"

	"nexufix/core/stack"
)

// Cell is one pairing of a matrix in two bytes; 0 is a pairing that was not judged.
type Cell uint16

// The bits of a cell: its verdict in three and the rule in five, each from 1 on; then two flags.
const (
	cellRule    = 3
	cellSole    = 1 << 8
	cellParts   = 1 << 9
	cellSpacers = 1 << 10
)

// Verdict returns the pairing's verdict.
func (c Cell) Verdict() Verdict { return Verdicts[c&(1<<cellRule-1)-1] }

// Rule returns the rule that decided it, "" if every rule passes.
func (c Cell) Rule() RuleID {
	if rule := c >> cellRule & 31; rule > 0 {
		return Rules[rule-1].ID
	}
	return ""
}

// SoleBlocker reports whether the rule is the only one that keeps it from fitting.
func (c Cell) SoleBlocker() bool { return c&cellSole != 0 }

// NeedsParts reports whether parts have to be sent.
func (c Cell) NeedsParts() bool { return c&cellParts != 0 }

// Spacers reports whether it takes spacers to pass over what stands out of the display's back.
func (c Cell) Spacers() bool { return c&cellSpacers != 0 }

// String describes the cell, for tests.
func (c Cell) String() string {
	return fmt.Sprintf("%s by %q, sole %v, needs parts %v", c.Verdict(), c.Rule(), c.SoleBlocker(), c.NeedsParts())
}

// Cell sums a pairing up.
func (p *Pairing) Cell() Cell {
	var t tally
	for _, i := range bySeverity {
		t.add(i, p.Findings[i].Status)
	}
	return t.cell(p)
}

// cell judges the subject on a bracket to a cell. Rules that can no longer change it are skipped.
func (s *subject) cell(on *target, solver *stack.Solver, room *[2]Pairing) Cell {
	if len(s.display.Patterns) > 1 {
		return s.on(on, solver, room).Cell() // the choice of a pattern takes every rule
	}
	p, t := &room[0], tally{}
	if f := s.begin(p, len(s.display.Patterns)-1, on); f != nil {
		if known := f.stacked[on.used]; s.passes {
			p.put()
			solve := func(layout *stack.BoltLayout, entry *stack.Entry) stack.Summary {
				return solver.Summary(layout, entry, on.bracket, on.kits)
			}
			if p.Hang != nil {
				p.stacked = s.solveOver(p, len(s.display.Patterns)-1, on, solve)
			} else {
				p.stacked = solve(p.Layout, f.entry[on.used])
			}
		} else if known != nil {
			p.stacked = known[on.number]
		} else {
			p.stacked = solver.Summary(p.Layout, f.entry[on.used], on.bracket, on.kits)
		}
		p.GaveUp = p.stacked.Incomplete
	}
	hung := false
	for _, i := range bySeverity {
		if Rules[i].Hung && !hung {
			p.hang()
			hung = true
		}
		if t.add(i, p.find(i).Status); t.settled() {
			break
		}
	}
	return t.cell(p)
}

// tally counts findings for a cell. They are added with the worst consequence first.
type tally struct {
	worst   Status
	decided int // the deciding rule's index in Rules, from 1 on; 0: none
	against int // how many rules keep it from fitting
}

func (t *tally) add(rule int, status Status) {
	if status == Unknown && !Rules[rule].Blocks {
		status = Caution // a condition, and no more
	}
	if status > Caution {
		t.against++
	}
	if status > t.worst {
		t.worst, t.decided = status, rule+1
	}
}

// settled reports whether no further finding can change the cell.
func (t *tally) settled() bool { return t.worst == Fail && t.against > 1 }

func (t *tally) cell(p *Pairing) Cell {
	v := Fits
	switch {
	case t.worst == Fail:
		v = DoesNotFit
	case t.worst == Unknown:
		v = MissingData
	case t.worst == Caution || p.stacked.Supplies:
		v = FitsWithConditions
	}
	c := Cell(slices.Index(Verdicts, v)+1) | Cell(t.decided)<<cellRule
	if t.against == 1 {
		c |= cellSole
	}
	if p.stacked.Supplies {
		c |= cellParts
	}
	if p.over.StandsOut > 0 && p.stacked.Spacer > 0 {
		c |= cellSpacers
	}
	return c
}

// bySeverity has the indices in Rules of the rules, the worst to be wrong about first.
var bySeverity = func() (order []int) {
	for i := range Rules {
		order = append(order, i)
	}
	slices.SortFunc(order, func(a, b int) int { return Rules[a].Severity - Rules[b].Severity })
	return order
}()
