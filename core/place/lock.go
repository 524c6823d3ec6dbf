package place

import (
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// LockRule: a display over people, or in a public place, has a lock, and hand and tool reach it.
const LockRule fit.RuleID = "lock"

var lockRule = rule{About: fit.About{ID: LockRule, Name: "Room at the lock", Step: "lock"},
	Judge: (*Placement).lock}

// lockClearance is what a lock needs that is reached from below or beside (practice).
const lockClearance = 60 * quantity.Millimetre

// lock: a display over people, or in a public place, has one, and hand and tool reach it.
func (p *Placement) lock() (out []fit.Check) {
	if c, ok := p.lockReached(); ok {
		out = append(out, c)
	}
	switch {
	case p.Pairing.Bracket.Lock != nil:
	case p.Overhead():
		out = append(out, stated(fit.Fail, quantity.Say("It hangs over people, and its bracket has no lock: it can be lifted off."),
			quantity.Say("Take a bracket with a lock."), "lock"))
	case p.Job.Place.Public:
		out = append(out, stated(fit.Caution, quantity.Say("In a public place a display without a lock can be lifted off."),
			quantity.Say("Take a bracket with a lock."), "lock"))
	}
	return out
}

// lockReached: a lock that is reached from below or from the side needs room for a hand and a
// tool; without it the display stays unlocked.
func (p *Placement) lockReached() (fit.Check, bool) {
	l := p.Pairing.Bracket.Lock
	if l == nil {
		return fit.Check{}, false
	}
	room, known := quantity.Length(0), false
	less := func(by quantity.Length) {
		if !known || by < room {
			room, known = by, true
		}
	}
	n := p.Job.Wall.Niche
	left, right := p.edges()
	switch l.Access {
	case "below":
		if surface, ok := p.surface(); ok {
			less(p.Bottom - surface - p.Job.Place.Accessory.Or(0))
		} else if p.Job.Place.Accessory.Value > 0 {
			less(0) // it hangs directly below
		}
		if n != nil {
			less(p.Bottom - n.Bottom)
		}
		less(p.Bottom)
	case "side":
		less(left)
		if w := p.Job.Wall.Width; w.Known {
			less(w.Value - right)
		}
		if n != nil {
			less(min(left-(n.X-n.Width/2), n.X+n.Width/2-right))
		}
		if r := p.Job.Run; r != nil && r.Count > 1 {
			less(r.Gap)
		}
	case "front":
		return stated(fit.Pass, quantity.Say("The lock is reached from the front."), quantity.Phrase{}, "lock"), true
	default:
		return stated(fit.Unknown, quantity.Say("From where the bracket's lock is reached is not known."),
			quantity.Say("Look at the bracket: from below, the side, or the front."), "lock"), true
	}
	if !known {
		return fit.Check{}, false
	}
	c := measured(fit.AtLeast(room, lockClearance), quantity.Say("There is %v for hand and tool at the lock.",
		quantity.Coarse(max(0, room), quantity.Down)),
		quantity.Say("There is %v for hand and tool at the lock, which is reached from the %v; %v is needed: the display will hang unlocked.",
			quantity.Coarse(max(0, room), quantity.Down), map[string]string{"below": "underside", "side": "side"}[l.Access], lockClearance),
		quantity.Say("Leave more room, or take a bracket whose lock is reached from the front. Unlocked, it comes off when it is lifted."),
		"lock")
	if c.Status == fit.Fail {
		c.Status = fit.Caution
	}
	return c, true
}
