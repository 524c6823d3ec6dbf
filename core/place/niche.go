package place

import (
	"math"

	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// NicheRule: a niche is wide enough, also when the display is swung.
const NicheRule fit.RuleID = "niche"

var nicheRule = rule{About: fit.About{ID: NicheRule, Name: "Niche", Step: "lift"},
	Judge: (*Placement).niche}

// niche checks a display in a recess or a cabinet: its sides, also when it is
// swung.
func (p *Placement) niche() []fit.Check {
	n := p.Job.Wall.Niche
	if n == nil {
		return nil
	}
	left, right := p.edges()
	side := min(left-(n.X-n.Width/2), n.X+n.Width/2-right)
	out := []fit.Check{measured(fit.AtLeast(side, 0), quantity.Say("The niche leaves %v at the sides.",
		quantity.Coarse(side, quantity.Down)),
		quantity.Say("The niche is %v too narrow where the display is.",
			quantity.Coarse(-side, quantity.Up)), quantity.Say("Move it to the niche's middle, or take a narrower one."), "niche")}
	b := p.Pairing.Bracket
	if _, placed := b.SwivelAxis(); !b.Swivel.Known && b.Swings() || b.Swivel.Value > 0 && !placed {
		return append(out, stated(fit.Unknown,
			quantity.Say("Whether the display can be swung in the niche is not known: the bracket's swivel is missing."), quantity.Phrase{},
			"niche"))
	}
	if b.Swivel.Value == 0 {
		return out
	}
	front, known := p.front()
	plane, stacked := p.plane()
	if !known || !stacked {
		return append(out, stated(fit.Unknown,
			quantity.Say("Whether the display can be swung in the niche is not known: its depth or its bolts are missing."), quantity.Phrase{},
			"niche"))
	}
	sweepLeft, sweepRight := p.sweep(front + plane)
	space := min(p.DatumX-(n.X-n.Width/2)-sweepLeft, n.X+n.Width/2-p.DatumX-sweepRight)
	c := measured(fit.AtLeast(space, 0), quantity.Say("Swung, its corners stay %v inside the niche.", quantity.Coarse(space,
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
