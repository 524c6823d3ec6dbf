package fit

import (
	"slices"
	"sync"

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
	Policy      *catalog.Policy
	Verdict     Verdict
	Pattern     *catalog.Pattern  // the pattern used; nil if the display has none
	Findings    []Finding         // in the order of Rules; see [Pairing.Words]
	Layout      *stack.BoltLayout // the holes that are bolted to; nil without a pattern
	Stack       *stack.Stack      // nil when there is none
	Alternative *stack.Stack
	GaveUp      bool       // too many combinations of parts to choose from
	Hang        *hang.Hang // nil when the pattern does not fit the interface

	stacked stack.Summary   // of the stack
	why     *stack.Obstacle // why there is none; nil: not yet computed

	corner    *cornerHoles    // of the pattern
	over      stack.Under     // what the arms pass over
	standsOut quantity.Length // of that, what zones ask for
	blind     bool            // what they pass over is not known, and may ask for spacers
	unsaid    bool            // how far something under them stands out is not known
	side      WallSide
	motion    Motion
	place     hang.Hang // what Hang points to
	data      *Check    // of the rule that looks at the display alone
	checks    *[3]Check // for the rule that is being judged, and others that it compares it with
}

// Extra is further input of a request.
type Extra struct {
	Accessories quantity.Mass                      // what hangs with the display
	TopHoles    quantity.Optional[quantity.Length] // the chosen place of the top hole row, below the hook; else the school's
	Clearance   quantity.Length                    // at least how far the arms stay behind the display's back, by spacers
	// what is wanted of the movement; else the bracket's whole range
	WantedTilt, WantedSwivel quantity.Optional[quantity.Angle]
	Work                     *stack.Work // the limit of work; nil: none
}

// Judge judges a pairing by every rule. A display with several patterns is
// tried with each: fewest fails, then the better stack, then the larger
// pattern. It does not change its arguments. The pairing's display has the figures that
// trial bolts give, and figures that
// contradict each other do not improve its answer.
func Judge(d *catalog.Display, b *catalog.Bracket, turn catalog.Turn, extra Extra, policy catalog.Policy) Pairing {
	slots := len(b.Interface.Slots)
	extra.Work.Spend(judgeSteps + slots*slots/4)
	var none *stack.Cache
	return *newSubject(d, turn, extra, &policy, none).on(new(newTarget(0, b, none)), none.NewSolver(&policy, extra.Work), new([2]Pairing))
}

// judgeSteps is the work of judging a pairing without its stack, in steps of the
// search.
const judgeSteps = 100

// subject is a display that is judged on one bracket after another, with what
// the judgements share.
type subject struct {
	display *catalog.Display // with the figures that trials give, and without contradicted ones
	turn    catalog.Turn
	extra   Extra
	policy  *catalog.Policy
	layouts []layouts // by pattern
	corners []cornerHoles
	cache   *stack.Cache // nil: nothing is cached
	data    Check        // of the rule that looks at the display alone
	passes  bool         // what the arms pass over can matter
	mu      sync.Mutex   // for the layouts' variants
}

// layouts are a pattern's bolt layouts, by the rows that brackets use ([usedBy]), made when needed;
// with their cache entries, and the summaries of their stacks, by target, if these were solved
// in advance.
type layouts struct {
	layout   [uses]*stack.BoltLayout
	entry    [uses]*stack.Entry
	stacked  [uses][]stack.Summary
	variants []variant // over what arms pass over
}

func newSubject(d *catalog.Display, turn catalog.Turn, extra Extra, policy *catalog.Policy, cache *stack.Cache) *subject {
	probed := probe.Apply(d)
	s := &subject{display: conservative(probed), turn: turn, extra: extra, policy: policy, data: dataCheck(probed), cache: cache}
	policyCheck(policy, &s.data)
	s.passes = extra.Clearance > 0 || passesOver(s.display)
	s.layouts = make([]layouts, len(s.display.Patterns))
	s.corners = make([]cornerHoles, len(s.display.Patterns))
	for i := range s.corners {
		s.corners[i] = cornersOf(&s.display.Patterns[i], turn)
	}
	return s
}

// on judges the subject on a bracket with the worker's solver. Room has space for the pairing and another to compare
// it with: the result is valid until the next one is judged in the same room.
func (s *subject) on(on *target, solver *stack.Solver, room *[2]Pairing) *Pairing {
	best, other := &room[0], &room[1]
	if len(s.display.Patterns) == 0 {
		s.judge(best, -1, on, solver)
		return best
	}
	s.judge(best, 0, on, solver)
	for i := 1; i < len(s.display.Patterns); i++ {
		s.judge(other, i, on, solver)
		if other.preferredTo(best) {
			best, other = other, best
		}
	}
	return best
}

// judge judges one pattern of the subject, or none, on a bracket.
func (s *subject) judge(p *Pairing, pattern int, on *target, solver *stack.Solver) {
	if f := s.begin(p, pattern, on); f != nil {
		solve := func(layout *stack.BoltLayout, entry *stack.Entry) stack.Summary {
			answer := solver.Solve(layout, entry, on.bracket, on.kits)
			p.Stack, p.Alternative, p.GaveUp, p.why = answer.Best, answer.Alternative, answer.Incomplete, answer.Why
			return answer.Summary()
		}
		p.put()
		if p.stacked = (stack.Summary{}); s.passes && p.Hang != nil {
			p.stacked = s.solveOver(p, pattern, on, solve)
		} else {
			p.stacked = solve(p.Layout, f.entry[on.used])
		}
	}
	p.hang()
	p.Findings = slices.Grow(p.Findings, len(Rules))[:len(Rules)]
	for i := range Rules {
		p.Findings[i] = p.find(i)
	}
	p.Verdict = verdict(p.Findings, p.stacked.Supplies)
}

// begin sets a pairing up; it returns nil if no stack can be searched for.
func (s *subject) begin(p *Pairing, pattern int, on *target) *layouts {
	*p = Pairing{Display: s.display, Bracket: on.bracket, Turn: s.turn, Extra: s.extra, Policy: s.policy, Findings: p.Findings[:0],
		data: &s.data, checks: p.checks}
	if pattern < 0 {
		return nil
	}
	p.Pattern, p.corner = &s.display.Patterns[pattern], &s.corners[pattern]
	f := s.layout(pattern, on)
	p.Layout = f.layout[on.used]
	if !p.Layout.Solvable() {
		return nil
	}
	return f
}

// put places the display on its bracket.
func (p *Pairing) put() {
	if p.Hang == nil && p.Pattern != nil && hang.Place(&p.place, p.Display, p.Pattern, p.Bracket, p.wanted(p.Extra.TopHoles)) {
		p.Hang = &p.place
	}
}

// wanted is how the display is to hang, with its top holes at a place if that is known.
func (p *Pairing) wanted(topHoles quantity.Optional[quantity.Length]) hang.Wanted {
	return hang.Wanted{Turn: p.Turn, Policy: p.Policy, TopHoles: topHoles}
}

// hang places the display on its bracket, and finds how far it moves there.
func (p *Pairing) hang() {
	p.put()
	p.side = p.defaultWallSide()
	p.motion = p.motionOn(&p.side, p.Bracket.TiltDown.Value > 0, p.Bracket.TiltUp.Value > 0, p.Bracket.Swivel.Value > 0)
}

// layout returns a pattern's bolt layout for a bracket, made once for all brackets that bolt to
// the same holes.
func (s *subject) layout(pattern int, on *target) *layouts {
	f := &s.layouts[pattern]
	if f.layout[on.used] == nil {
		f.layout[on.used] = stack.NewBoltLayout(s.display, &s.display.Patterns[pattern], on.bracket, s.turn)
		f.entry[on.used] = s.cache.Entry(f.layout[on.used])
	}
	return f
}

// usedBy encodes which rows of a pattern a bracket uses, as a number below uses.
func usedBy(b *catalog.Bracket) (used int) {
	for bit, is := range [...]bool{b.UsesTop(), b.UsesBottom(), b.Interface.Type == catalog.Plate} {
		if is {
			used |= 1 << bit
		}
	}
	return used
}

const uses = 8

// Problem returns the problem that the pairing's stack solves.
func (p *Pairing) Problem() stack.Problem { return p.Layout.On(p.Bracket, *p.Policy) }

// preferredTo reports whether p's pattern is preferred to o's.
func (p *Pairing) preferredTo(o *Pairing) bool {
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
	for _, c := range p.Findings {
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

// find judges a rule, by its index in Rules, to a finding.
func (p *Pairing) find(rule int) Finding {
	c := p.other(0)
	c.Rule = Rules[rule].ID
	Rules[rule].Judge(p, c)
	return c.Finding
}

// other is an empty check: 0 is that of the rule, 1 and 2 are for comparing it.
func (p *Pairing) other(n int) *Check {
	if p.checks == nil {
		p.checks = new([3]Check)
	}
	p.checks[n] = Check{}
	return &p.checks[n]
}

// inWords judges it once more, in words.
func (p *Pairing) inWords(rule int) Check {
	c := Check{Finding: Finding{Rule: Rules[rule].ID}, Marks: Rules[rule].Marks, inWords: true}
	Rules[rule].Judge(p, &c)
	return c
}

// Words returns the checks in words, in the order of Rules.
func (p *Pairing) Words() []Check { return p.AppendWords(nil) }

// AppendWords appends them.
func (p *Pairing) AppendWords(out []Check) []Check {
	out = slices.Grow(out, len(p.Findings))
	for i := range p.Findings {
		out = append(out, p.inWords(i))
	}
	return out
}

// Check returns the outcome of a rule in words; the zero Check if it was not judged.
func (p *Pairing) Check(rule RuleID) Check {
	for i := range p.Findings {
		if p.Findings[i].Rule == rule {
			return p.inWords(i)
		}
	}
	return Check{}
}

// Blocked returns the checks that keep a pairing from being installed, in words: every fail,
// and every unknown that leaves the verdict open.
func (p *Pairing) Blocked() []Check {
	var out []Check
	for i := range p.Findings {
		if s := p.Findings[i].Status; s == Fail || s == Unknown && Rules[i].Blocks {
			out = append(out, p.inWords(i))
		}
	}
	return out
}
