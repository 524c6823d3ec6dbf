package place

import (
	"math"

	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// Limits of public ways (ADA Standards 2010, 307.2, memory; local codes
// decide), of what is hidden in a wall, and of what a lock needs (practice).
const (
	caneHeight = 685 * quantity.Millimetre // 27 in: what a cane finds below this
	outInWays  = 100 * quantity.Millimetre // 4 in
	cableWay   = 100 * quantity.Millimetre // to either side of an outlet's middle
	handAndKey = 60 * quantity.Millimetre  // for a lock from below or beside
)

// clearances checks the plate, what is above and below, the lock, the wall's ends and
// the niche; and finds how far up or down the display would have to move for them to pass.
func (p *Placement) clearances() (out []fit.Check, moveY quantity.Optional[quantity.Length]) {
	out = p.plateChecks()
	if c, move, ok := p.topClearance(); ok {
		out = append(out, c)
		moveY = move
	}
	if c, move, ok := p.bottomClearance(); ok {
		out = append(out, c)
		if move.Known {
			moveY = quantity.Optional[quantity.Length]{Value: move.Value, Known: !moveY.Known} // unknown if it is too high as well
		}
	}
	if c, ok := p.lock(); ok {
		out = append(out, c)
	}
	left, right := p.edges()
	room := left
	if w := p.Job.Wall.Width; w.Known {
		room = min(left, w.Value-right)
	}
	if p.Job.Wall.Width.Known || room < 0 {
		out = append(out, measured(WallRule, fit.AtLeast(room, 0), quantity.Say("The display stays %v inside the wall's ends.",
			quantity.Coarse(room, quantity.Down)),
			quantity.Say("The display stands out %v past the wall's end.",
				quantity.Coarse(-room, quantity.Up)), quantity.Say("Move it, or take a narrower one."), "display"))
	}
	if p.Bottom < 0 {
		out = append(out, stated(FloorRule, fit.Fail, quantity.Say("The bottom edge would be %v under the floor.",
			quantity.Coarse(-p.Bottom, quantity.Up)),
			quantity.Say("Hang it higher.")))
	}
	return append(out, p.niche()...), moveY
}

// topClearance: a line, the ceiling or a niche's top is above the highest of the display's and the arms'
// top with the lift over the hook, the plate's top, and the highest
// edge of the tilt.
func (p *Placement) topClearance() (c fit.Check, move quantity.Optional[quantity.Length], ok bool) {
	limit, limited := p.limitAbove()
	if !limited {
		return c, move, false
	}
	b := p.Pairing.Bracket
	hook := p.Datum + b.WallPlate.HookAboveDatum
	armTop, _, arms := p.arms()
	lifted, what := p.Top, "The top edge"
	if arms && hook+armTop > lifted {
		lifted, what = hook+armTop, "The top of the arms"
	}
	highest, why := lifted+b.LiftOver.Or(0), "lifted over its hook"
	if plate := p.Datum + b.WallPlate.Height.Value.HalfUp(); b.WallPlate.Height.Known && plate > highest {
		highest, what, why = plate, "The wall plate's top", "where it is"
	}
	if tilted := p.Top + p.Tilt.Rise; p.Tilt.Known && tilted > highest {
		highest, what, why = tilted, "The front top edge", "tilted up"
	}
	c = measured(AboveRule, fit.AtMost(highest, limit),
		quantity.Say("%v comes to %v at the most, %v: under what is above it.", what, quantity.Coarse(highest, quantity.Up), why),
		quantity.Say("%v comes to %v, %v; it has to stay under %v.", what, quantity.Coarse(highest, quantity.Up), why,
			quantity.Coarse(limit, quantity.Down)),
		quantity.Say("Hang it %v lower.", shown(highest-limit)), "line", "ceiling", "niche")
	switch {
	case c.Status == fit.Fail:
		move = quantity.Some(-(highest - limit).Ceil(tapeStep))
	case !b.LiftOver.Known:
		c.Status, c.Remedy = fit.Unknown, quantity.Say("Measure how far it has to be lifted to come over its hook.")
		c.Text = quantity.Say("It is not known how far the display is lifted over its hook, nor whether there is room for that under %v.",
			quantity.Coarse(limit, quantity.Down))
	case !b.WallPlate.Height.Known || !arms:
		c.Status, c.Remedy = fit.Unknown, quantity.Say("Measure the wall plate and the plate on the display.")
		c.Text = quantity.Say("The height of the bracket's plates is not known, nor whether they stay under %v.", quantity.Coarse(limit,
			quantity.Down))
	case !p.Tilt.Known:
		c.Status, c.Remedy = fit.Unknown, quantity.Say("It takes the bracket's range and pivot, the display's depth and the bolts.")
		c.Text = quantity.Say("It is not known how far the front top edge rises when the display tilts, nor whether it stays under %v.",
			quantity.Coarse(limit, quantity.Down))
	}
	return c, move, true
}

// bottomClearance: the lowest of the tilted display's edge, the arms' and the plate's bottom is above
// furniture and what stands on it.
func (p *Placement) bottomClearance() (c fit.Check, move quantity.Optional[quantity.Length], ok bool) {
	surface, under := p.surface()
	if !under {
		return c, move, false
	}
	b := p.Pairing.Bracket
	need := surface + p.Job.Place.Accessory.Or(0)
	lowest, what := p.Bottom-p.Tilt.Drop, "The bottom edge, with the drop of a tilt,"
	if p.Tilt.Drop == 0 {
		what = "The bottom edge"
	}
	_, armBottom, arms := p.arms()
	if end := p.Datum + b.WallPlate.HookAboveDatum - armBottom; arms && end < lowest {
		lowest, what = end, "The bottom of the arms"
	}
	if plate := p.Datum - b.WallPlate.Height.Value.HalfUp(); b.WallPlate.Height.Known && plate < lowest {
		lowest, what = plate, "The wall plate's bottom"
	}
	c = measured(BelowRule, fit.AtLeast(lowest, need),
		quantity.Say("%v is at %v, clear of what is below it.", what, quantity.Coarse(lowest, quantity.Down)),
		quantity.Say("%v is at %v; what is below it needs %v.", what, quantity.Coarse(lowest, quantity.Down), quantity.Coarse(need, quantity.Up)),
		quantity.Say("Hang it %v higher.", shown(need-lowest)), "furniture", "surface")
	switch {
	case c.Status == fit.Fail:
		move = quantity.Some((need - lowest).Ceil(tapeStep))
	case !p.Tilt.Known:
		c.Status, c.Remedy = fit.Unknown, quantity.Say("It takes the bracket's range and pivot, the display's depth and the bolts.")
		c.Text = quantity.Say("It is not known how far the bottom edge sinks when the display tilts, nor whether it clears what is " +
			"below it.")
	}
	return c, move, true
}

// lock: a lock that is reached from below or from the side needs room for a hand and a
// tool; without it the display stays unlocked.
func (p *Placement) lock() (fit.Check, bool) {
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
		return stated(LockRule, fit.Pass, quantity.Say("The lock is reached from the front."), quantity.Phrase{}, "lock"), true
	default:
		return stated(LockRule, fit.Unknown, quantity.Say("From where the bracket's lock is reached is not known."),
			quantity.Say("Look at the bracket: from below, the side, or the front."), "lock"), true
	}
	if !known {
		return fit.Check{}, false
	}
	c := measured(LockRule, fit.AtLeast(room, handAndKey), quantity.Say("There is %v for hand and tool at the lock.",
		quantity.Coarse(max(0, room), quantity.Down)),
		quantity.Say("There is %v for hand and tool at the lock, which is reached from the %v; %v is needed: the display will hang unlocked.",
			quantity.Coarse(max(0, room), quantity.Down), map[string]string{"below": "underside", "side": "side"}[l.Access], handAndKey),
		quantity.Say("Leave more room, or take a bracket whose lock is reached from the front. Unlocked, it comes off when it is lifted."),
		"lock")
	if c.Status == fit.Fail {
		c.Status = fit.Caution
	}
	return c, true
}

// niche checks a display in a recess or a cabinet: its sides, also when it is
// swung, and the sill below it.
func (p *Placement) niche() []fit.Check {
	n := p.Job.Wall.Niche
	if n == nil {
		return nil
	}
	left, right := p.edges()
	side := min(left-(n.X-n.Width/2), n.X+n.Width/2-right)
	out := []fit.Check{measured(NicheRule, fit.AtLeast(side, 0), quantity.Say("The niche leaves %v at the sides.",
		quantity.Coarse(side, quantity.Down)),
		quantity.Say("The niche is %v too narrow where the display is.",
			quantity.Coarse(-side, quantity.Up)), quantity.Say("Move it to the niche's middle, or take a narrower one."), "niche")}
	room, need := p.Bottom-n.Bottom, p.gapNeeded(&p.Tilt)
	sill := measured(BelowRule, fit.AtLeast(room, need), quantity.Say("The display stands clear of the niche's bottom."),
		quantity.Say("The bottom edge is %v over the niche's bottom; %v is needed.", quantity.Coarse(room, quantity.Down),
			quantity.Coarse(need, quantity.Up)), quantity.Say("Hang it higher."), "niche")
	if room < 0 {
		sill.Text = quantity.Say("The bottom edge is %v under the niche's bottom.", quantity.Coarse(-room, quantity.Up))
	}
	if sill.Status == fit.Pass && !p.Tilt.Known {
		sill.Status, sill.Text = fit.Unknown, quantity.Say("It is not known how far the bottom edge sinks when the display tilts, nor whether "+
			"it clears the niche's bottom.")
	}
	out = append(out, sill)
	b := p.Pairing.Bracket
	if _, placed := b.SwivelAxis(); !b.Swivel.Known && b.Swings() || b.Swivel.Value > 0 && !placed {
		return append(out, stated(NicheRule, fit.Unknown,
			quantity.Say("Whether the display can be swung in the niche is not known: the bracket's swivel is missing."), quantity.Phrase{},
			"niche"))
	}
	if b.Swivel.Value == 0 {
		return out
	}
	front, known := p.front()
	plane, stacked := p.plane()
	if !known || !stacked {
		return append(out, stated(NicheRule, fit.Unknown,
			quantity.Say("Whether the display can be swung in the niche is not known: its depth or its bolts are missing."), quantity.Phrase{},
			"niche"))
	}
	sweepLeft, sweepRight := p.sweep(front + plane)
	space := min(p.DatumX-(n.X-n.Width/2)-sweepLeft, n.X+n.Width/2-p.DatumX-sweepRight)
	c := measured(NicheRule, fit.AtLeast(space, 0), quantity.Say("Swung, its corners stay %v inside the niche.", quantity.Coarse(space,
		quantity.Down)),
		quantity.Say("Swung, its corner would be %v in the niche's side.",
			quantity.Coarse(-space, quantity.Up)), quantity.Say("Pull it out of the niche before swinging it."), "niche")
	if c.Status == fit.Fail {
		c.Status = fit.Caution
	}
	return append(out, c)
}

// sweep returns how far a front corner comes at most to either side of the swivel's axis
// while the display is swung: a corner half a width beside the
// axis and front in front of it comes to half·cos φ + front·sin φ.
func (p *Placement) sweep(beforeArms quantity.Length) (left, right quantity.Length) {
	b := p.Pairing.Bracket
	pivot, _ := b.SwivelAxis()
	front := (pivot.BehindArm + beforeArms).MM()
	most := b.Swivel.Value.Radians()
	far := func(half float64) quantity.Length {
		at := min(most, math.Atan2(front, half))
		return quantity.FromMM(math.Ceil((half*math.Cos(at)+front*math.Sin(at))*1e6-1e-3) / 1e6)
	}
	l, r := p.edges()
	return far((p.DatumX - l).MM()), far((r - p.DatumX).MM())
}

// services warns of cables that may be hidden around an outlet: they usually run
// straight up or down from it, or level to the next (practice). It is a
// warning, not a search. It names the hole and the outlet that are most nearly
// in line.
func (p *Placement) services() []fit.Check {
	hole, outlet, least := -1, -1, cableWay
	for i, o := range p.Job.Wall.Outlets {
		for n := range p.Points {
			pt := &p.Points[n]
			if off := min((pt.X - o.X).Abs(), (pt.Y - o.Y).Abs()); off < least {
				hole, outlet, least = n, i, off
			}
		}
	}
	switch {
	case hole >= 0:
		o := &p.Job.Wall.Outlets[outlet]
		return []fit.Check{stated(ServicesRule, fit.Caution,
			quantity.Say("Hole %v lies in line with the outlet at %v, %v up: cables usually run straight up, down or level from it.",
				p.Points[hole].Hole, quantity.Wall(o.X), quantity.Wall(o.Y)),
			quantity.Say("Switch the circuit off and search before drilling. Fixed wiring is for licensed people; local codes decide."), "service")}
	case len(p.Job.Wall.Outlets) > 0 && len(p.Points) > 0:
		return []fit.Check{stated(ServicesRule, fit.Pass,
			quantity.Say("No hole lies in line with an outlet. Search all the same: pipes and cables are where nobody thought."), quantity.Phrase{})}
	}
	return nil
}

// Overhead reports whether a display hangs where people walk under it, whatever rule its height follows.
func (p *Placement) Overhead() bool {
	return p.Known && (p.Job.Place.Rule == "overhead" || p.Bottom >= headroom && p.peopleBelow())
}

// peopleBelow reports whether people go below: as the wall says, else everywhere but in niches.
func (p *Placement) peopleBelow() bool {
	if said := p.Job.Wall.PeopleBelow; said != nil {
		return *said
	}
	return p.Job.Wall.Niche == nil
}

// public checks headroom, tether, and how far the display protrudes into public ways (ADA
// Standards 2010, 307.2 and 307.4, memory; local codes decide), closed and swung
// out.
func (p *Placement) public() []fit.Check {
	var out []fit.Check
	lowest := p.Bottom - p.Tilt.Drop
	if p.Overhead() {
		out = append(out, stated(TetherRule, fit.Caution, quantity.Say("It hangs over people: if its fixing fails, it falls on them."),
			quantity.Say("Fit a second tether to a fixing of its own. Local codes decide.")))
		if p.Pairing.Bracket.Lock == nil {
			out = append(out, stated(LockRule, fit.Fail, quantity.Say("It hangs over people, and its bracket has no lock: it can be lifted off."),
				quantity.Say("Take a bracket with a lock."), "lock"))
		}
		if p.onBoardAlone() {
			out = append(out, stated(FastenerRule, fit.Fail, quantity.Say("It hangs over people from board alone."),
				quantity.Say("Find studs, or let a backing in behind."), "fastener"))
		}
		c := measured(HeadroomRule, fit.AtLeast(lowest, headroom), quantity.Say("Its lowest edge is at %v, tilted too; people walk under it.",
			quantity.Coarse(lowest, quantity.Down)),
			quantity.Say("Its lowest edge comes to %v at the worst tilt; people walk under it, and %v is the least.", quantity.Coarse(lowest,
				quantity.Down),
				headroom), quantity.Say("Hang it higher. Local codes decide."), "display")
		switch {
		case c.Status == fit.Fail:
			c.Status = fit.Caution
		case !p.Tilt.Known:
			c.Status, c.Text = fit.Unknown, quantity.Say("It is not known how far its lowest edge sinks when it tilts, nor whether people can walk "+
				"under it.")
			c.Remedy = quantity.Say("It takes the bracket's range and pivot, and the display's depth.")
		}
		out = append(out, c)
	}
	if !p.Job.Place.Public {
		return out
	}
	if p.Pairing.Bracket.Lock == nil && !p.Overhead() {
		out = append(out, stated(LockRule, fit.Caution, quantity.Say("In a public place a display without a lock can be lifted off."),
			quantity.Say("Take a bracket with a lock."), "lock"))
	}
	b := p.Pairing.Bracket
	inWay := p.Bottom > caneHeight && lowest < headroom
	c := fit.Check{Finding: fit.Finding{Rule: ProjectionRule}}
	outward, how := p.ToFront, "It stands out"
	if reach, ok := b.Farthest(); ok && reach > b.Profile.Value && p.ToFront.Known {
		outward, how = quantity.Some(p.ToFront.Value+reach-b.Profile.Value), "It can be left standing out"
	} else if b.Swings() && !ok {
		outward.Known = false
	}
	if !outward.Known || !p.Tilt.Known && p.Bottom > caneHeight && p.Bottom >= headroom {
		c.Status = fit.Unknown
		c.Text = quantity.Say("How far the display stands out into a public way, or how low, is not known.")
		c.Remedy = quantity.Say("Measure the bracket's profile and reach, and the display's depth.")
		return append(out, c)
	}
	c.Measure = fit.AtMost(outward.Value, outInWays)
	c.Text = quantity.Say("%v %v from the wall.", how, outward.Value)
	switch {
	case outward.Value > outInWays && inWay:
		c.Status = fit.Caution
		c.Text = quantity.Say("%v %v from the wall between %v and %v above the floor, where a cane does not find it; %v is allowed in "+
			"public ways.", how, outward.Value, caneHeight, headroom, outInWays)
		c.Remedy = quantity.Say("Put something under it that a cane finds, recess it, or hang it higher. Local codes decide.")
	case outward.Value > outInWays:
		c.Measure = fit.Measure{} // it is not in the way
		c.Text = quantity.Say("%v %v from the wall, where a cane finds it or people walk under it.", how, outward.Value)
	}
	return append(out, c)
}
