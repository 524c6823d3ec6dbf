package fit

import (
	"nexufix/core/catalog"
	"nexufix/core/hang"
	"nexufix/core/probe"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// Pairing is the judgement of one display on one bracket.
type Pairing struct {
	Display     *catalog.Display
	Bracket     *catalog.Bracket
	Turn        catalog.Turn
	Extra       Extra
	Policy      catalog.Policy
	Verdict     Verdict
	Pattern     *catalog.Pattern // the one used; nil when the display has none
	Checks      []Check          // in the order of Rules
	Problem     stack.Problem    // what the stack was solved for
	Stack       *stack.Stack     // nil when there is none
	Alternative *stack.Stack
	GaveUp      bool       // too many combinations of parts to choose from
	Hang        *hang.Hang // nil when the pattern does not fit the interface

	brief bool // for a cell: why there is no stack, which takes many tries, is not asked
}

// Extra is what a question adds to display and bracket.
type Extra struct {
	Accessories quantity.Mass                      // what hangs with the display
	TopHoles    quantity.Optional[quantity.Length] // where the top hole row is wanted, below the hook; else where the school puts it
}

// Judge judges a pairing by every rule. A display with several patterns is
// tried with each: fewest fails, then the better stack, then the larger
// pattern. It neither changes nor keeps what it is given. Where holes carry
// trial bolts, the pairing's display has the figures these give.
func Judge(d *catalog.Display, b *catalog.Bracket, turn catalog.Turn, extra Extra, policy catalog.Policy) Pairing {
	return judgeWith(d, b, turn, extra, policy, nil, 0, false)
}

// judgeWith remembers stacks; bag is the bracket's number in the memory.
func judgeWith(d *catalog.Display, b *catalog.Bracket, turn catalog.Turn, extra Extra, policy catalog.Policy, memory *stack.Memory, bag int, brief bool) Pairing {
	d = probe.Apply(d)
	if len(d.Patterns) == 0 {
		return judge(d, nil, b, turn, extra, policy, memory, bag, brief)
	}
	best := judge(d, &d.Patterns[0], b, turn, extra, policy, memory, bag, brief)
	for i := range d.Patterns[1:] {
		if p := judge(d, &d.Patterns[i+1], b, turn, extra, policy, memory, bag, brief); p.before(&best) {
			best = p
		}
	}
	return best
}

func judge(d *catalog.Display, p *catalog.Pattern, b *catalog.Bracket, turn catalog.Turn, extra Extra, policy catalog.Policy, memory *stack.Memory, bag int, brief bool) Pairing {
	out := Pairing{Display: d, Bracket: b, Turn: turn, Extra: extra, Policy: policy, Pattern: p, brief: brief}
	var missing stack.Missing
	solved := false
	if p != nil {
		out.Hang = hang.On(d, p, b, turn, policy, extra.TopHoles)
		out.Problem, missing = stack.New(d, p, b, turn, policy)
		if solved = !missing.Thread && missing.ThreadDepth == nil && len(out.Problem.Groups) > 0; solved {
			answer := memory.Solve(out.Problem, bag)
			out.Stack, out.Alternative, out.GaveUp = answer.Best, answer.Alternative, answer.GaveUp
		}
	}
	out.Checks = []Check{
		patternCheck(&out),
		threadCheck(&out),
		stackCheck(&out, missing, solved),
		loadCheck(d, b, extra, policy),
		sizeCheck(d, b, policy),
		armsCheck(&out),
		portsCheck(&out),
		plugsCheck(&out),
		protrusionCheck(&out),
		tiltCheck(&out),
		swivelCheck(&out),
		dataCheck(&out),
	}
	out.Verdict = verdict(out.Checks, out.Stack != nil && len(out.Stack.Supplied) > 0)
	return out
}

// before says whether p's pattern is to be preferred to o's.
func (p *Pairing) before(o *Pairing) bool {
	if a, b := p.fails(), o.fails(); a != b {
		return a < b
	}
	if p.Stack.Better(o.Stack) != o.Stack.Better(p.Stack) {
		return p.Stack.Better(o.Stack)
	}
	return area(p.Pattern) > area(o.Pattern)
}

func area(p *catalog.Pattern) float64 { return p.Width.MM() * p.Height.MM() }

func (p *Pairing) fails() (n int) {
	for _, c := range p.Checks {
		if c.Status == Fail {
			n++
		}
	}
	return n
}

// Better orders pairings for a ranked list: verdict, then fewest fails, then
// the better stack.
func (p *Pairing) Better(o *Pairing) bool {
	for _, v := range Verdicts {
		if (p.Verdict == v) != (o.Verdict == v) {
			return p.Verdict == v
		}
	}
	if a, b := p.fails(), o.fails(); a != b {
		return a < b
	}
	if p.Stack.Better(o.Stack) != o.Stack.Better(p.Stack) {
		return p.Stack.Better(o.Stack)
	}
	return false
}

// Check is the outcome of a rule; the zero Check for one that was not judged.
func (p *Pairing) Check(rule string) Check {
	for _, c := range p.Checks {
		if c.Rule == rule {
			return c
		}
	}
	return Check{}
}
