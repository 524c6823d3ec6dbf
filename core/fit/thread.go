package fit

import (
	"fmt"
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
)

// ThreadRule: the slots take the display's thread, and the bags have bolts of it.
const ThreadRule RuleID = "thread"

var threadRule = pairingRule{About: About{ID: ThreadRule, Never: map[Status]string{Note: noNote}, Name: "Thread", Severity: 5,
	Blocks: true, Step: "try",
	Marks: []string{"stack.*.bolt"}}, Judge: judgeThread}

func judgeThread(p *Pairing, c *Check) {
	if p.Pattern == nil || p.Pattern.Thread == 0 {
		c.is(Unknown, func() {
			c.say("The display's thread is not known.")
			c.advise("Try bolts by hand: start with M4 and go up.")
		})
		return
	}
	thread := p.Pattern.Thread
	if x := p.threadContradicted(); x != nil {
		c.is(Unknown, func() {
			c.Text = x.Text
			c.advise("Ask for these trials again, or look at the threads.")
		})
		return
	}
	switch takes := p.Bracket.Takes(thread); {
	case p.onlyCountersunk():
		c.is(Fail, func() {
			c.say("The bag's %v bolts have countersunk heads, and the slots are not dimpled for them.", thread.String())
			c.advise("Send %v bolts with pan heads.", thread.String())
		})
		return
	case !takes && p.smaller() && p.stacked.Found:
		c.is(Caution, func() {
			c.say("The bracket does not list %v (%v), but its slots are wider, and the washers bear on them.", thread.String(),
				threadList(p.Bracket.Threads, ", "))
			c.advise("Use the washers that are given, and centre each bolt in its slot.")
		})
		return
	case !takes:
		c.is(Fail, func() {
			c.say("The slots are not made for %v bolts: they take %v.", thread.String(), threadList(p.Bracket.Threads, ", "))
			c.advise("Take a bracket for %v bolts.", thread.String())
		})
		return
	case !hasBolts(p.Bracket.Kit, thread) && !hasBolts(p.Display.OwnParts, thread):
		c.is(Caution, func() {
			c.say("The slots take %v, but the bag has no %v bolts.", thread.String(), thread.String())
			c.advise("Supply %v bolts.", thread.String())
		})
		return
	}
	c.is(Pass, func() {
		c.say("The slots take %v, and the bag has %v bolts.", thread.String(), thread.String())
	})
}

// threadContradicted returns what contradicts the pattern's thread, or nil.
func (p *Pairing) threadContradicted() *catalog.Contradiction {
	for i := range p.Pattern.Contradictions {
		if x := &p.Pattern.Contradictions[i]; x.Thread {
			return x
		}
	}
	return nil
}

// smaller reports whether the thread is not listed, but thinner than one that is, and than the slots.
func (p *Pairing) smaller() bool {
	d := p.Pattern.Thread.Standard().Nominal
	return d < p.Bracket.Slot() && slices.ContainsFunc(p.Bracket.Threads, func(t fastener.Thread) bool { return t > p.Pattern.Thread })
}

// onlyCountersunk reports whether the bags have no bolts of the thread but ones that need a dimple, which the slots lack.
func (p *Pairing) onlyCountersunk() bool {
	if p.stacked.Found && !p.stacked.Supplies {
		return false // its bolts are in the bags
	}
	some := false
	for _, bag := range [2][]catalog.Item{p.Bracket.Kit, p.Display.OwnParts} {
		for i := range bag {
			if bag[i].Thread == p.Pattern.Thread && bag[i].Kind == catalog.Bolt {
				if bag[i].Head != catalog.Countersunk {
					return false
				}
				some = true
			}
		}
	}
	return some && !p.Bracket.Dimpled
}

func hasBolts(items []catalog.Item, t fastener.Thread) bool {
	for i := range items {
		if items[i].Thread == t && items[i].Kind == catalog.Bolt {
			return true
		}
	}
	return false
}

func threadList(all []fastener.Thread, between string) string {
	var names []string
	for _, t := range all {
		names = append(names, fmt.Sprint(t))
	}
	return strings.Join(names, between)
}
