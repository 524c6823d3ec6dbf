package place

import (
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/wall"
)

// Limits of fasteners where nothing else is given (practice).
const (
	coveringMax = 16 * quantity.Millimetre // 5/8 in of board over studs or masonry
	inMasonry   = 50 * quantity.Millimetre // of a long fixing, behind lining and cavity
	tipInside   = 3 * quantity.Millimetre  // of a screw in a thin backer
	studDepth   = 89 * quantity.Millimetre // 3 1/2 in
)

// fixing checks covering, hole and length of what goes into the wall.
func (p *Placement) fixing(drill wall.Drill, told bool) {
	b, w := p.Pairing.Bracket, &p.Job.Wall
	said := b.Walls[w.Type]
	covering := w.Covering.Or(0)
	if most := said.CoveringMax.Or(coveringMax); w.Type != catalog.LinedMasonry && w.Covering.Known {
		c := fit.Check{Rule: "covering", Measure: fit.AtMost(covering, most), Text: quantity.Say("%v of covering; up to %v is allowed.", covering, most)}
		if covering > most {
			c.Status, c.Remedy = fit.Fail, quantity.Say("Take longer fasteners that the maker allows, or take the covering away under the plate.")
		}
		p.Checks = append(p.Checks, c)
	}
	if p.coveringMissing() {
		p.say("covering", fit.Unknown, quantity.Say("How thick the covering is is not known; up to %v is allowed, and the fastener has to go through it.", said.CoveringMax.Or(coveringMax)), quantity.Say("Measure it at an outlet or a first small hole. A bare wall has 0."))
	}
	if !told {
		g := wall.Guides[w.Type]
		p.say("fastener", fit.Unknown, quantity.Say("The bracket says nothing of this type of wall."), quantity.Say("Ask the maker before drilling. Common practice: %v %v %v", g.Fixing, g.Hole, g.Limit))
	}
	if drill.Short() {
		p.say("depth", fit.Caution, quantity.Say("The maker's depth, %v, is less than the fastener needs, %v.", drill.Maker.Value, drill.Depth.Value), quantity.Say("Drill to the computed depth."))
	}
	item, has := wall.Fastener(b, w.Type)
	if !has || item.Length == 0 || b.WallPlate == nil || p.coveringMissing() {
		return
	}
	if !b.WallPlate.Thickness.Known {
		p.say("fastener", fit.Unknown, quantity.Say("How thick the wall plate is is not known: how far the fastener goes in cannot be told."), quantity.Say("Measure the plate where the fastener goes through."))
		return
	}
	in := p.behindCovering(item.Length)
	p.pilot(drill, item.Kind, item.Diameter)
	least := func(value, need quantity.Length, text quantity.Phrase) {
		c := fit.Check{Rule: "fastener", Measure: fit.AtLeast(value, need), Text: text}
		if value < need {
			c.Status, c.Remedy = fit.Fail, quantity.Say("Take fasteners that are %v longer.", quantity.AtMost(need-value))
		}
		p.Checks = append(p.Checks, c)
	}
	inside := func(value, room quantity.Length, what string) {
		if value > room {
			p.Checks = append(p.Checks, fit.Check{Rule: "tip", Status: fit.Fail, Measure: fit.AtMost(value, room),
				Text: quantity.Say("The fastener goes in %v; its tip would come through %v.", quantity.AtMost(value), what), Remedy: quantity.Say("Take fasteners that are %v shorter.", quantity.AtMost(value-room))})
		} else {
			p.Checks = append(p.Checks, fit.Check{Rule: "tip", Measure: fit.AtMost(value, room), Text: quantity.Say("The tip stays inside %v.", what)})
		}
	}
	switch w.Type {
	case catalog.WoodStud:
		if need := said.PenetrationMin; need.Known {
			least(in, need.Value, quantity.Say("The lag goes %v into the stud; %v is needed.", quantity.AtLeast(in), need.Value))
		} else if in < 4*item.Diameter {
			least(in, 4*item.Diameter, quantity.Say("The lag goes %v into the stud; four diameters are the least.", quantity.AtLeast(in)))
		}
		inside(in, w.Backing.Or(studDepth), "the stud")
	case catalog.LinedMasonry:
		if !w.Covering.Known || !w.Cavity.Known {
			p.say("fastener", fit.Unknown, quantity.Say("How thick the lining and how wide the cavity behind it are is not known: the fixing has to go through both and %v into the masonry.", inMasonry), quantity.Say("Measure both through a first hole."))
			return
		}
		masonry := in - w.Cavity.Value
		least(masonry, said.PenetrationMin.Or(inMasonry), quantity.Say("Behind lining and cavity, %v is in the masonry; %v is needed.", quantity.AtLeast(max(0, masonry)), said.PenetrationMin.Or(inMasonry)))
	case catalog.ThinBacker:
		if !w.Backing.Known {
			p.say("tip", fit.Unknown, quantity.Say("How thick the backer is is not known: the screw's tip must not come through."), quantity.Say("Measure the backer's thickness."))
			return
		}
		inside(in, w.Backing.Value-tipInside, "the backer")
	case catalog.TimberBoard:
		if !w.Backing.Known {
			p.say("tip", fit.Unknown, quantity.Say("How thick the board is is not known."), quantity.Say("Measure the board's thickness."))
			return
		}
		inside(in, w.Backing.Value, "the board")
	default:
		if need := said.PenetrationMin; need.Known {
			least(in, need.Value, quantity.Say("The fastener goes %v into the wall; %v is needed.", quantity.AtLeast(in), need.Value))
		}
	}
}

// coveringMissing says whether the wall's covering matters and is not known:
// none is 0.
func (p *Placement) coveringMissing() bool {
	w := &p.Job.Wall
	return !w.Covering.Known && (w.Type == catalog.WoodStud || w.Type == catalog.Concrete || w.Type == catalog.Block)
}

// behindCovering is how far a fastener of a length goes into what holds it:
// the wall plate, its washer and the covering taken off.
func (p *Placement) behindCovering(length quantity.Length) quantity.Length {
	plate := p.Pairing.Bracket.WallPlate
	return length - plate.Thickness.Or(0) - plate.Washer - p.Job.Wall.Covering.Or(0)
}

// pilot compares the bracket's drill with what the wood wants (NDS 12.1.4,
// memory).
func (p *Placement) pilot(drill wall.Drill, kind catalog.ItemKind, diameter quantity.Length) {
	if p.Job.Wall.Type != catalog.WoodStud || kind != "lag" || !drill.Diameter.Known || diameter == 0 {
		return
	}
	lo, hi := wall.Pilot(p.gravity(), diameter)
	d := drill.Diameter.Value
	switch {
	case d > hi:
		p.Checks = append(p.Checks, fit.Check{Rule: "pilot", Status: fit.Caution, Measure: fit.AtMost(d, hi),
			Text: quantity.Say("A pilot of %v is wide for this lag in this wood: %v to %v holds.", d, lo, hi), Remedy: quantity.Say("Drill %v, unless the maker insists.", quantity.AtLeast(hi))})
	case d < lo:
		p.Checks = append(p.Checks, fit.Check{Rule: "pilot", Status: fit.Caution, Measure: fit.AtLeast(d, lo),
			Text: quantity.Say("A pilot of %v is narrow for this lag in this wood, and can split the stud: %v to %v is right.", d, lo, hi), Remedy: quantity.Say("Drill %v, unless the maker insists.", quantity.AtMost(lo))})
	default:
		p.Checks = append(p.Checks, fit.Check{Rule: "pilot", Measure: fit.AtMost(d, hi), Text: quantity.Say("A pilot of %v suits this lag in this wood: %v to %v.", d, lo, hi)})
	}
}
