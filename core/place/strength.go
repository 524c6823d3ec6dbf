package place

import (
	"math"
	"nexufix/core/catalog"
	"strings"

	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/wall"
)

// Strength is what the fasteners are asked for and may be, with everything it
// is worked out from. Forces are in newtons.
type Strength struct {
	Known   bool
	Missing []string // what is not known, in words

	Load, Own   quantity.Mass   // display with accessories; the bracket
	Reach       quantity.Length // wall to arm plane, at its longest
	Out, OwnOut quantity.Length // centres of gravity, from the wall
	Aside       quantity.Length // of the load, from the plate's middle
	InWood      bool            // else the anchors' ratings count
	Gravity     float64         // of the wood
	Penetration quantity.Length // in the wood, the tip not counted
	Thread      quantity.Length // of it
	Covering    quantity.Length // which holds nothing
	HoldsPull   float64         // of one fastener
	HoldsAcross float64
	Ultimate    float64 // at which a lag comes out (USDA Wood Handbook)
	Moment      float64 // N·m, about the plate's lower edge
	Worst       int     // of the points
}

// gravity is the specific gravity of the wall's wood: assumed, else its
// species', else that of spruce-pine-fir.
func (p *Placement) gravity() float64 {
	if g := p.Job.Assume.Gravity; g.Known {
		return float64(g.Value) / float64(quantity.One)
	}
	return wall.Gravity(p.Job.Wall.Species)
}

// strength works out what each fastener is asked for: pulled by the plate
// turning about its lower edge, and across by its share of the weight and by
// what a load aside turns; and compares it with what it holds.
func (p *Placement) strength() {
	if len(p.Points) == 0 {
		return
	}
	s := &p.Strength
	pair, assume := p.Pairing, &p.Job.Assume
	b := pair.Bracket
	need := func(known bool, what string) {
		if !known {
			s.Missing = append(s.Missing, what)
		}
	}
	need(pair.Display.Mass.Known || assume.Load.Known, "the display's mass")
	need(assume.Reach.Known || b.Reach.Known || b.Profile.Known, "the bracket's reach or profile")
	need(b.Mass.Known || assume.Load.Known, "the bracket's mass")
	need(pair.Display.Depth.Known, "the display's depth")
	need(b.WallPlate.Height.Known, "the wall plate's height")
	need(!p.coveringMissing(), "the covering's thickness")
	s.Load = assume.Load.Or(pair.Display.Mass.Or(0) + p.Job.Accessories)
	s.Own = b.Mass.Or(0)
	s.Reach = assume.Reach.Or(b.Reach.Or(b.Profile.Or(0)))
	half := pair.Display.Depth.Or(0) / 2
	s.Out, s.OwnOut = s.Reach+pair.Nearest()+half, s.Reach/2
	s.Aside = assume.Aside.Or(p.aside(half))
	s.Gravity, s.Covering = p.gravity(), p.Job.Wall.Covering.Or(0)
	p.holds(s)
	if s.Missing != nil {
		p.say("strength", fit.Unknown, quantity.Say("What the fasteners hold cannot be told: %v not known.", listed(s.Missing)), quantity.Say("Ask for it. Until then, someone licensed to judge the wall decides."))
		return
	}
	s.Known = true
	loads := []wall.Load{{Mass: s.Load, Out: s.Out}, {Mass: s.Own, Out: s.OwnOut}}
	for _, l := range loads {
		s.Moment += wall.Newtons(l.Mass) * l.Out.MM() / 1000
	}
	edge := p.Datum - b.WallPlate.Height.Or(0)/2
	var x, y, heights []quantity.Length
	for i := range p.Points {
		x, y, heights = append(x, p.Points[i].X), append(y, p.Points[i].Y), append(heights, p.Points[i].Y-edge)
	}
	weight, aside := wall.Newtons(s.Load+s.Own), quantity.Length(0)
	if total := s.Load + s.Own; total > 0 {
		aside = quantity.FromMM(s.Aside.MM() * s.Load.Kilograms() / total.Kilograms())
	}
	pulls, across := wall.Pull(loads, heights), wall.Across(weight, aside, x, y)
	anchor, _ := wall.Anchor(b)
	ratedPull, ratedAcross := wall.Rated(anchor)
	for i := range p.Points {
		pt := &p.Points[i]
		pt.Pull, pt.Across = pulls[i], across[i]
		switch {
		case pt.Anchor:
			pt.Use = wall.Anchored(pt.Pull, pt.Across, ratedPull, ratedAcross)
		case s.InWood:
			pt.Use = wall.Combined(pt.Pull, pt.Across, s.HoldsPull, s.HoldsAcross)
		default:
			pt.Use = wall.Anchored(pt.Pull, pt.Across, s.HoldsPull, s.HoldsAcross)
		}
		if pt.Use > p.Points[s.Worst].Use {
			s.Worst = i
		}
	}
	p.judgeStrength(s)
}

// aside is how far the load's middle can be from the plate's: by the shift,
// and swung by the whole swivel.
func (p *Placement) aside(halfDepth quantity.Length) quantity.Length {
	out := p.Shift().Abs()
	b := p.Pairing.Bracket
	if pivot := b.SwivelPivot; pivot != nil && b.Swivel.Known {
		turn := min(b.Swivel.Value.Radians(), math.Pi/2)
		out += quantity.FromMM((pivot.BehindArm + p.Pairing.Nearest() + halfDepth).MM() * math.Sin(turn))
	}
	return out
}

// holds works out what one fastener may be asked for.
func (p *Placement) holds(s *Strength) {
	b, w := p.Pairing.Bracket, &p.Job.Wall
	item, has := wall.Fastener(b, w.Type)
	switch w.Type {
	case catalog.WoodStud, catalog.TimberBoard, catalog.ThinBacker:
		s.InWood = true
		if !has || item.Diameter == 0 || item.Length == 0 {
			s.Missing = append(s.Missing, "the fastener's size")
			return
		}
		in := p.behindCovering(item.Length)
		if w.Type != catalog.WoodStud {
			if !w.Backing.Known && !p.Job.Assume.Penetration.Known {
				s.Missing = append(s.Missing, "the board's thickness")
				return
			}
			in = min(in, w.Backing.Or(in))
		}
		thread := item.ThreadLength
		if thread == 0 {
			thread = wall.Threaded(item.Kind, item.Length)
		}
		if item.Kind == catalog.Lag {
			in -= wall.LagTip(item.Diameter)
			thread -= wall.LagTip(item.Diameter)
		}
		s.Penetration = p.Job.Assume.Penetration.Or(max(0, in))
		s.Thread = min(s.Penetration, max(0, thread)) // the rest is smooth, and holds nothing when pulled
		if item.Kind == catalog.Lag {
			s.HoldsPull = wall.LagHolds(s.Gravity, item.Diameter, s.Thread)
			s.Ultimate = wall.LagUltimate(s.Gravity, item.Diameter) / wall.LagWithdrawal(s.Gravity, item.Diameter) * s.HoldsPull / wall.Permanent
		} else {
			s.HoldsPull = wall.ScrewHolds(s.Gravity, item.Diameter, s.Thread)
		}
		s.HoldsAcross = wall.Shear(s.Gravity, item.Diameter, b.WallPlate.Thickness.Or(0), s.Covering, s.Penetration, w.Type != catalog.WoodStud)
		if !b.WallPlate.Thickness.Known {
			s.Missing = append(s.Missing, "the wall plate's thickness")
		}
	default:
		anchor, has := wall.Anchor(b)
		if has {
			s.HoldsPull, s.HoldsAcross = wall.Rated(anchor)
		}
		if s.HoldsPull == 0 || s.HoldsAcross == 0 {
			s.Missing = append(s.Missing, "the anchor's rating, pulled and across")
		}
	}
}

func listed(words []string) string {
	out := strings.Join(words, ", ")
	if len(words) > 1 {
		return out + " are"
	}
	return out + " is"
}

func (p *Placement) judgeStrength(s *Strength) {
	worst := &p.Points[s.Worst]
	percent := worst.Use * 100
	name := "The fastener in " + worst.Hole
	if worst.Plate > 0 {
		name += map[int]string{1: " of the left plate", 2: " of the right plate"}[worst.Plate]
	}
	if math.IsInf(percent, 1) {
		p.Checks = append(p.Checks, fit.Check{Rule: "strength", Status: fit.Fail, Measure: fit.ShareAtMost(percent), Marks: []string{"use"},
			Text:   quantity.Say("%v has too little in what holds it to carry a load across: four diameters are the least, and %v is in.", name, quantity.AtLeast(s.Penetration)),
			Remedy: quantity.Say("Take longer fasteners.")})
		return
	}
	whole := quantity.FormatDecimal(int64(math.Ceil(percent-1e-9)), 0)
	text := quantity.Say("%v is pulled with %v N and loaded across with %v N: %v %% of what it may hold, at full reach, under a permanent load.", name, int(math.Ceil(worst.Pull)), int(math.Ceil(worst.Across)), whole)
	c := fit.Check{Rule: "strength", Measure: fit.ShareAtMost(percent), Text: text, Marks: []string{"use"}}
	switch {
	case percent > 100:
		c.Status, c.Remedy = fit.Fail, quantity.Say("More or larger fasteners, a shorter reach, less load, or someone licensed to judge the wall.")
	case percent > 90:
		c.Status, c.Remedy = fit.Caution, quantity.Say("Have the wall judged by someone licensed.")
	}
	p.Checks = append(p.Checks, c)
}
