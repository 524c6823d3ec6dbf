package place

import (
	"math"

	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// SweptRule: what swings stays clear of the wall's ends, neighbours and furniture.
const SweptRule fit.RuleID = "swept"

var sweptRule = rule{About: fit.About{ID: SweptRule, Name: "Swept room", Step: "finish"},
	Judge: (*Placement).swept}

// reachAside is how a display's corners come to one side, seen from above: the farthest from the swing's axis, and the
// farthest within a depth of the wall.
type reachAside struct {
	l1, half, front, back float64 // mm; the back in front of the head's axis
	arm, head             int     // degrees, up to 90
}

// degrees are the sines and cosines of whole degrees, from −180 on.
var degrees = func() (all [361]struct{ sin, cos float64 }) {
	for i := range all {
		all[i].sin, all[i].cos = math.Sincos(float64(i-180) * math.Pi / 180)
	}
	return all
}()

// corners calls see with the place of both corners of the leading edge, to the right of the arm's axis and out from the wall, for
// every pose in whole degrees in which the rear edges stay off the wall, from the arm's farthest swing on. Poses of the arm in
// which no corner comes as far as is worth it are left out.
func (r *reachAside) corners(worth func(far float64) bool, see func(x, out float64)) {
	corner := math.Hypot(r.half, max(r.front, r.back))
	for a := r.arm; a >= 0; a-- {
		sa, ca := degrees[a+180].sin, degrees[a+180].cos
		if !worth(r.l1*sa + corner) {
			continue
		}
		for f := -r.head; f <= r.head; f++ {
			sb, cb := degrees[a+f+180].sin, degrees[a+f+180].cos
			rear := r.l1*ca + r.back*cb
			if rear-r.half*math.Abs(sb) < 0 {
				continue // in the wall
			}
			// The leading edge at +half: turned by β it comes nearer to the wall.
			see(r.l1*sa+r.half*cb+r.front*sb, r.l1*ca+r.front*cb-r.half*sb)
			see(r.l1*sa+r.half*cb+r.back*sb, r.l1*ca+r.back*cb-r.half*sb)
		}
	}
}

// swept: what swings sweeps past the wall's ends, unless they are open, its neighbours in a run and furniture of a known depth. It
// is a caution: the display can be kept from swinging so far.
func (p *Placement) swept() []fit.Check {
	b := p.Pairing.Bracket
	if b.Swivel.Value == 0 && !b.Swings() || p.Job.Wall.Niche != nil {
		return nil
	}
	front, deep := p.front()
	plane, stacked := p.plane()
	pivot, placed := b.SwivelAxis()
	reach, far := b.Farthest()
	if !deep || !stacked || !placed && b.Swivel.Value > 0 || !far || b.Swings() && !b.Swivel.Known {
		return []fit.Check{stated(fit.Unknown, quantity.Say("How far the display sweeps when it is swung is not known: the bracket's "+
			"reach, swivel or "+
			"pivot, the display's depth or its bolts are missing."), quantity.Say("Take them from the drawing of the bracket."), "display")}
	}
	arm := 0.0
	switch {
	case b.ArmSwing.Known:
		arm = b.ArmSwing.Value.Degrees()
	case b.Kind.Properties().Swings:
		arm = 90
	}
	left, right := p.edges()
	worst := fit.Check{}
	judge := func(side float64, half quantity.Length) {
		r := reachAside{l1: (reach - pivot.BehindArm).MM(), half: half.MM(), front: (pivot.BehindArm + plane + front).MM(),
			back: (pivot.BehindArm + plane).MM(), arm: int(min(90, arm)), head: int(min(90, b.Swivel.Value.Degrees()))}
		r.against(p, side, func(room float64, what quantity.Phrase) {
			l := quantity.FromMM(math.Floor(room*10) / 10)
			c := fit.Check{Finding: fit.Finding{Measure: fit.AtLeast(l, 0)}, Marks: []string{"display", "furniture"},
				Text: quantity.Say("Swung, it stays %v clear of %v.", quantity.Coarse(l, quantity.Down), what)}
			c.Measure.Coarse = true
			if l < 0 {
				c.Status = fit.Caution
				c.Text = quantity.Say("Swung as far as the bracket goes, a corner comes %v into %v.", quantity.Coarse(-l, quantity.Up), what)
				c.Remedy = quantity.Say("Stop the swing before it, or move the display away.")
			}
			if worst.Text.Empty() || c.Measure.Margin < worst.Measure.Margin {
				worst = c
			}
		})
	}
	judge(1, right-p.DatumX)
	judge(-1, p.DatumX-left)
	if worst.Text.Empty() {
		return nil
	}
	return []fit.Check{worst}
}

// usualFurniture is how deep furniture is taken for that nobody measured: a cabinet's or a counter's usual depth (common practice).
const usualFurniture = 600 * quantity.Millimetre

// against measures the room to what is on one side: 1 to the right, −1 to the left.
func (r *reachAside) against(p *Placement, side float64, say func(room float64, what quantity.Phrase)) {
	w := &p.Job.Wall
	type obstacle struct {
		from, to float64 // from the axis, to that side
		deep     float64 // from the wall; infinite for a wall that returns
		what     quantity.Phrase
	}
	var all []obstacle
	ahead := func(x quantity.Length) float64 { return side * (x - p.DatumX).MM() }
	switch {
	case side > 0 && w.Width.Known && !w.OpenRight:
		all = append(all, obstacle{ahead(w.Width.Value), math.Inf(1), math.Inf(1), quantity.Say("the wall at the right end")})
	case side < 0 && !w.OpenLeft:
		all = append(all, obstacle{ahead(0), math.Inf(1), math.Inf(1), quantity.Say("the wall at the left end")})
	}
	for i := range w.Furniture {
		f := &w.Furniture[i]
		if f.Height <= p.Bottom {
			continue
		}
		a, b := ahead(f.X-f.Width/2), ahead(f.X+f.Width/2)
		name := quantity.Say("%v", or(f.Name, "the furniture"))
		if !f.Depth.Known {
			name = quantity.Say("%v, which is taken for %v deep because nobody measured it", name, usualFurniture)
		}
		all = append(all, obstacle{min(a, b), max(a, b), f.Depth.Or(usualFurniture).MM(), name})
	}
	if run := p.Job.Run; run != nil && run.Count > 1 && (side > 0 && p.RunIndex < run.Count || side < 0 && p.RunIndex > 1) {
		width, _, _ := p.outline()
		next := ahead(p.DisplayX + quantity.Length(side)*(width/2+run.Gap))
		all = append(all, obstacle{next, next + width.MM(), p.ToFront.Value.MM(), quantity.Say("the display beside it")})
	}
	if len(all) == 0 {
		return
	}
	room := make([]float64, len(all))
	for i := range room {
		room[i] = math.Inf(1)
	}
	worth := func(far float64) bool { // a corner there would come nearer to one of them than any before
		for i := range all {
			if all[i].to > 0 && all[i].from-far < room[i] {
				return true
			}
		}
		return false
	}
	r.corners(worth, func(x, out float64) {
		for i := range all {
			o := &all[i]
			if x > o.to || o.to <= 0 {
				continue
			}
			if deep := o.deep - out; deep > 0 { // beside it: the room is what is left sideways, or in front of it
				room[i] = min(room[i], max(o.from-x, -deep))
			}
		}
	})
	for i := range all {
		if !math.IsInf(room[i], 0) {
			say(room[i], all[i].what)
		}
	}
}
