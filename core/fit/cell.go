package fit

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/stack"
)

// Cell is one pairing of a matrix: its verdict, the rule that decided it,
// whether that rule is the only one that keeps it from fitting, and whether
// parts have to be sent.
type Cell struct {
	Verdict     Verdict
	Rule        Rule // "" when every rule passes
	SoleBlocker bool // but for Rule, it would fit
	NeedsParts  bool
}

// Cell sums a pairing up.
func (p *Pairing) Cell() Cell {
	var t tally
	for _, i := range byConsequence {
		t.add(i, p.Findings[i].Status)
	}
	return t.cell(p)
}

// cell is the cell of the subject on a bracket. Rules that can no longer change it are not judged.
func (s *subject) cell(b *catalog.Bracket, kits stack.KitNumbers, solver *stack.Solver, room *[2]Pairing) Cell {
	if len(s.display.Patterns) > 1 {
		return s.on(b, kits, solver, room).Cell() // which pattern it is takes every rule
	}
	p, t := &room[0], tally{}
	if layout, known := s.begin(p, len(s.display.Patterns)-1, b); layout != nil {
		p.stacked = solver.Summary(layout, known, b, kits, s.policy, s.extra.Work)
		p.GaveUp = p.stacked.Incomplete
	}
	hung := false
	for _, i := range byConsequence {
		if rules[i].hung && !hung {
			p.hang()
			hung = true
		}
		if t.add(i, s.finding(p, i).Status); t.settled() {
			break
		}
	}
	return t.cell(p)
}

// tally counts findings as a cell does. They are added with the worst consequence first.
type tally struct {
	worst   Status
	decided Rule
	against int // what keeps it from fitting
}

func (t *tally) add(rule int, status Status) {
	if status == Unknown && !neededAt[rule] {
		status = Caution // a condition, and no more
	}
	if status > Caution {
		t.against++
	}
	if status > t.worst {
		t.worst, t.decided = status, Rules[rule]
	}
}

// settled says that no other finding can change the cell.
func (t *tally) settled() bool { return t.worst == Fail && t.against > 1 }

func (t *tally) cell(p *Pairing) Cell {
	c := Cell{Rule: t.decided, SoleBlocker: t.against == 1, NeedsParts: p.stacked.Supplies}
	switch {
	case t.worst == Fail:
		c.Verdict = DoesNotFit
	case t.worst == Unknown:
		c.Verdict = MissingData
	case t.worst == Caution || c.NeedsParts:
		c.Verdict = FitsWithConditions
	default:
		c.Verdict = Fits
	}
	return c
}

// byConsequence are the places in Rules of the rules in the order of Consequence, and neededAt tells of
// each of Rules whether its unknown leaves the verdict open.
var byConsequence, neededAt = func() (order []int, open []bool) {
	for _, r := range Consequence {
		order = append(order, slices.Index(Rules, r))
	}
	for _, r := range Rules {
		open = append(open, needed(r))
	}
	return order, open
}()
