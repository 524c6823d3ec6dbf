package fit

import "nexufix/core/quantity"

// RuleID is a rule's name in the exchange format.
type RuleID string

// String is the name.
func (r RuleID) String() string { return string(r) }

// About is what is said of a rule, whatever it judges.
type About struct {
	ID       RuleID
	Name     string // that people read
	Severity int    // what it costs to be wrong about it, 1 is the worst: a cracked panel, a fall, then what comes out on the wall
	Blocks   bool   // its unknown leaves the verdict open, and keeps a display from being hung; every fail does
	Held     bool   // it could pass with another fastener, or with the plate nearer the load
	Step     string // the step of an installation that its conditions belong to
	Marks    []string
	Never    map[Status]string                 // outcomes that it does not have, and why; the others have a case each
	Uses     func(*Pairing, []Source) []Source // appends the figures of the display that it used; nil: none
}

// noNote is why most rules never note.
const noNote = "nothing to read that changes nothing"

// Rule is a rule by which a case is judged: one value says all of it.
type Rule[Judge any] struct {
	About
	Hung  bool // it depends on where the display hangs
	Judge Judge
}

// pairingRule judges a pairing into a check that passes until it says otherwise.
type pairingRule = Rule[func(*Pairing, *Check)]

// Rules are the rules of a pairing, in the order in which they are judged. The data rule looks at the display alone and is judged once.
var Rules = []pairingRule{patternRule, boltsRule, threadRule, stackRule, loadRule, balanceRule, sizeRule, turnRule, armsRule,
	portsRule, plugsRule, protrusionRule, tiltRule, swivelRule, holdRule, dataRule}

// aboutOf is what is said of a rule of a pairing by its name; the zero About of another.
func aboutOf(id RuleID) About {
	for i := range Rules {
		if Rules[i].ID == id {
			return Rules[i].About
		}
	}
	return About{}
}

// say and advise put a check into words.
func (c *Check) say(format string, args ...any)    { c.Text = quantity.Say(format, args...) }
func (c *Check) advise(format string, args ...any) { c.Remedy = quantity.Say(format, args...) }

// words puts a check into words, if they are wanted.
func (c *Check) words(say func()) {
	if c.inWords {
		say()
	}
}

// is gives a check its status, and its words.
func (c *Check) is(s Status, say func()) {
	c.Status = s
	c.words(say)
}
