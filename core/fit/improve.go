package fit

import (
	"cmp"
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/hang"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// Change is one change to a pairing. Exactly
// one of its fields is set besides the kind.
type Change struct {
	Kind    string // one of Changes; "" when nothing was found
	Setting string // schools: the policy's field, bolt_school, size_school
	School  string
	Arms    quantity.Length // arms: top hole row below the hook
	Turn    catalog.Turn
	Spacers quantity.Length // spacers: how far the arms stay behind the back
	Send    []stack.Supply  // bolts, parts: what to send
	Figure  string          // measure: thread depth, recess depth or rim offset
	Holes   []string        // measure: at these holes
	Within  quantity.Length
	Bracket *catalog.Bracket
	Verdict Verdict // of the changed pairing
	Text    quantity.Phrase
}

// Changes are the kinds of change, in the order they are tried.
var Changes = []string{"school", "arms", "turn", "spacers", "bolts", "parts", "measure", "bracket"}

// Improve finds a change that makes a failing or cautious pairing better, by
// trying a finite list in the order of [Changes], each judged by every
// rule. It returns the zero Change if none of them helps, or
// nothing is wrong. Parts that have to be sent do not count as a fault: a
// pairing that lacks nothing else is improved by sending them. When the pairing's
// work is used up, the remaining changes are not tried.
func Improve(p *Pairing, brackets []*catalog.Bracket) Change {
	before := p.trouble()
	if before == (trouble{}) && (p.Stack == nil || len(p.Stack.Supplied) == 0) {
		return Change{}
	}
	again := func(change func(*inputs)) Pairing {
		q := inputs{p.Display, p.Bracket, p.Turn, p.Extra, *p.Policy}
		if p.Extra.Work.Exhausted() {
			return *p // no gain: the work is used up
		}
		change(&q)
		after := Judge(q.display, q.bracket, q.turn, q.extra, q.policy)
		if p.Extra.Work.Exhausted() {
			return *p
		}
		return after
	}
	for _, try := range []func(*Pairing, func(func(*inputs)) Pairing, trouble) Change{otherSchool, otherArms, otherTurn, withSpacers} {
		if c := try(p, again, before); c.Kind != "" {
			return c
		}
	}
	if c := sending(p, again, before); c.Kind != "" {
		return c
	}
	if c := measuring(p, again, before); c.Kind != "" {
		return c
	}
	return otherBracket(p, again, before, brackets)
}

// inputs are the inputs of a judgement.
type inputs struct {
	display *catalog.Display
	bracket *catalog.Bracket
	turn    catalog.Turn
	extra   Extra
	policy  catalog.Policy
}

// trouble counts what is wrong with a pairing, except for parts to be sent: open are
// unknowns that are only a condition.
type trouble struct{ fails, unknowns, cautions, open int }

func (p *Pairing) trouble() trouble {
	var t trouble
	for _, c := range p.Findings {
		switch {
		case c.Status == Fail:
			t.fails++
		case c.Status == Unknown && c.Blocks():
			t.unknowns++
		case c.Status == Unknown:
			t.open++
		case c.Status == Caution && !onlyParts(p, c):
			t.cautions++
		}
	}
	return t
}

// onlyParts reports whether a check is a caution only because of parts to be
// sent.
func onlyParts(p *Pairing, c Finding) bool {
	sent := p.Stack != nil && p.Stack.Status == stack.OK && len(p.Stack.Supplied) > 0
	return sent && (c.Rule == StackRule || c.Rule == ThreadRule)
}

// less reports whether t is less trouble than o: fewer fails, then fewer unknowns,
// then fewer cautions.
func (t trouble) less(o trouble) bool {
	return cmp.Or(cmp.Compare(t.fails, o.fails), cmp.Compare(t.unknowns, o.unknowns), cmp.Compare(t.cautions, o.cautions),
		cmp.Compare(t.open, o.open)) < 0
}

// gains reports whether a change is worth naming: a fail, an unknown or a caution
// is gone.
func gains(after *Pairing, before trouble) bool {
	t := after.trouble()
	switch {
	case before.fails > 0:
		return t.fails == 0
	case before.unknowns > 0:
		return t.fails == 0 && t.unknowns == 0
	}
	return before.cautions > 0 && t.fails+t.unknowns+t.cautions == 0 && t.open <= before.open
}

func otherSchool(p *Pairing, again func(func(*inputs)) Pairing, before trouble) Change {
	for _, s := range []struct {
		setting string
		schools []string
		field   func(*catalog.Policy) *string
	}{
		{"bolt_school", catalog.BoltSchools, func(x *catalog.Policy) *string { return &x.BoltSchool }},
		{"arm_school", catalog.ArmSchools, func(x *catalog.Policy) *string { return &x.ArmSchool }},
		{"size_school", catalog.SizeSchools, func(x *catalog.Policy) *string { return &x.SizeSchool }},
	} {
		for _, school := range s.schools {
			if school == *s.field(p.Policy) {
				continue
			}
			if after := again(func(q *inputs) { *s.field(&q.policy) = school }); gains(&after, before) {
				text := quantity.Say("Under the school %v it %v.", school, becomes(after.Verdict))
				if school == "guidance" {
					text = quantity.Say("If the size range is taken as guidance it %v; but a bigger panel levers more.", becomes(after.Verdict))
				}
				return Change{Kind: "school", Setting: s.setting, School: school, Verdict: after.Verdict, Text: text}
			}
		}
	}
	return Change{}
}

func becomes(v Verdict) string {
	switch v {
	case Fits:
		return "fits"
	case FitsWithConditions:
		return "fits with conditions"
	case MissingData:
		return "still lacks figures"
	}
	return "still does not fit"
}

// otherArms tries the ends of every slot, and the places where an arm's end
// just clears a zone.
func otherArms(p *Pairing, again func(func(*inputs)) Pairing, before trouble) Change {
	if p.Pattern == nil || p.Hang == nil || p.Bracket.Interface.Type != catalog.Arms {
		return Change{}
	}
	_, height := p.Turn.Size(p.Pattern.Width, p.Pattern.Height)
	var tries []quantity.Length
	for _, s := range hang.Positions(p.Bracket, height) {
		tries = append(tries, s.Min, s.Max)
	}
	if c, known := p.center(); known {
		i := &p.Bracket.Interface
		for _, z := range p.Display.Zones {
			at := p.ZonePlace(&z)
			tries = append(tries, at.Bottom-c.Y-i.ArmTop.Value-height/2, at.Top-c.Y+i.ArmBottom.Value-height/2)
		}
	}
	slices.Sort(tries)
	for _, y := range slices.Compact(tries) {
		after := again(func(q *inputs) { q.extra.TopHoles = quantity.Some(y) })
		if after.Hang != nil && after.Hang.TopHoles == y && gains(&after, before) {
			return Change{Kind: "arms", Arms: y, Verdict: after.Verdict,
				Text: quantity.Say("With the top hole row %v below the hook line it %v.", quantity.Wall(y), becomes(after.Verdict))}
		}
	}
	return Change{}
}

func otherTurn(p *Pairing, again func(func(*inputs)) Pairing, before trouble) Change {
	for _, turn := range p.Bracket.Turns {
		if turn == p.Turn {
			continue
		}
		if after := again(func(q *inputs) { q.turn, q.extra.TopHoles.Known = turn, false }); gains(&after, before) {
			return Change{Kind: "turn", Turn: turn, Verdict: after.Verdict, Text: quantity.Say("Hung %v it %v.", hung(turn), becomes(after.Verdict))}
		}
	}
	return Change{}
}

// maxClearance is more than any stack of spacers brings.
const maxClearance = 200 * quantity.Millimetre

// sending improves a pairing that lacks nothing but parts, or whose best stack from the bag is
// a caution that parts would cure: it is judged again with them in the bag.
func sending(p *Pairing, again func(func(*inputs)) Pairing, before trouble) Change {
	if p.Pattern == nil {
		return Change{}
	}
	var send []stack.Supply
	switch {
	case before.fails == 0 && p.Stack != nil && p.Stack.Status == stack.OK:
		send = p.Stack.Supplied
	case before.fails == 0 && p.Alternative != nil:
		send = p.Alternative.Supplied
	}
	if len(send) == 0 {
		return Change{}
	}
	kind := "bolts"
	for _, s := range send {
		if s.Kind != catalog.Bolt {
			kind = "parts"
		}
	}
	after := again(func(q *inputs) {
		d := *q.display
		d.OwnParts = slices.Concat(d.OwnParts, itemsOf(send, p.Pattern.Thread))
		q.display = &d
	})
	if after.Stack == nil || after.Stack.Status != stack.OK || len(after.Stack.Supplied) > 0 || before != (trouble{}) &&
		!gains(&after, before) {
		return Change{}
	}
	verdict := after.Verdict
	if verdict == Fits {
		verdict = FitsWithConditions // they have to be sent
	}
	return Change{Kind: kind, Send: send, Verdict: verdict,
		Text: quantity.Say("Send %v: every hole is then safe with all tolerances, and it %v.", SupplyList(send, p.Pattern.Thread),
			becomes(verdict))}
}

// itemsOf converts pieces to send to lines of a bag.
func itemsOf(send []stack.Supply, t fastener.Thread) []catalog.Item {
	var out []catalog.Item
	for _, s := range send {
		i := catalog.Item{Kind: s.Kind, Thread: t, Outer: s.Outer, Count: s.Count}
		switch s.Kind {
		case catalog.Spacer:
			i.Thread, i.Threads, i.Length = 0, []fastener.Thread{t}, s.Length
		case catalog.Bolt:
			i.Length = s.Length
		default:
			i.Thickness = s.Length
		}
		out = append(out, i)
	}
	return out
}

// measuring tries each figure of each group of holes as if it had been
// measured on the bench.
func measuring(p *Pairing, again func(func(*inputs)) Pairing, before trouble) Change {
	if p.Pattern == nil || p.Stack == nil {
		return Change{}
	}
	for _, f := range []struct {
		name  string
		field func(*catalog.Hole) *catalog.Figure
	}{
		{"thread depth", func(h *catalog.Hole) *catalog.Figure { return &h.ThreadDepth }},
		{"recess depth", func(h *catalog.Hole) *catalog.Figure { return &h.Recess }},
		{"rim offset", func(h *catalog.Hole) *catalog.Figure { return &h.Setback }},
	} {
		for _, g := range p.Layout.Groups {
			ids := g.IDs()
			d := *p.Display
			d.Patterns = slices.Clone(p.Display.Patterns)
			better := false
			for i := range d.Patterns {
				if &p.Display.Patterns[i] != p.Pattern {
					continue
				}
				d.Patterns[i].Holes = slices.Clone(p.Pattern.Holes)
				for j := range d.Patterns[i].Holes {
					h := &d.Patterns[i].Holes[j]
					if figure := f.field(h); slices.Contains(ids, h.ID) && h.Probed == nil && figure.Tolerance() > catalog.Bench.Tolerance() {
						figure.Origin, better = catalog.Bench, true
					}
				}
			}
			if !better {
				continue
			}
			if after := again(func(q *inputs) { q.display = &d }); gains(&after, before) {
				return Change{Kind: "measure", Figure: f.name, Holes: ids, Within: catalog.Bench.Tolerance(), Verdict: after.Verdict,
					Text: quantity.Say("If the %v at %v is measured to %v and stays what it is, it %v.", f.name, list(ids), catalog.Bench.Tolerance(),
						becomes(after.Verdict))}
			}
		}
	}
	return Change{}
}

func otherBracket(p *Pairing, again func(func(*inputs)) Pairing, before trouble, brackets []*catalog.Bracket) Change {
	var best *Pairing
	for _, b := range brackets {
		if b.ID == p.Bracket.ID {
			continue
		}
		after := again(func(q *inputs) { q.bracket, q.extra.TopHoles.Known = b, false })
		if gains(&after, before) && (best == nil || after.trouble().less(best.trouble()) || !best.trouble().less(after.trouble()) &&
			after.Better(best)) {
			best = &after
		}
	}
	if best == nil {
		return Change{}
	}
	return Change{Kind: "bracket", Bracket: best.Bracket, Verdict: best.Verdict,
		Text: quantity.Say("On %v it %v.", quantity.Name(best.Bracket.Name), becomes(best.Verdict))}
}
