package place

import (
	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"slices"
)

// DepthRule: the tip stays inside its base material, and the maker's hole is not too short.
const DepthRule fit.RuleID = "depth"

var depthRule = rule{About: fit.About{ID: DepthRule, Name: "Hole depth", Blocks: true, Held: true, Step: "drill"},
	Judge: (*Placement).depth}

// depth: the tip stays inside its base material, and the maker's hole is not
// too short for the fastener.
func (p *Placement) depth() (out []fit.Check) {
	if !p.fastened() {
		return nil
	}
	kind := p.Job.Wall.Type.Properties()
	i := &p.Choice.Item
	past, known := p.Layers.Past(i.Length)
	inside, limited := p.Layers.Inside()
	wrong := func(c fit.Check) { out = append(out, c) }
	switch given := p.Job.Wall.Backing; {
	case kind.BackingMost > 0 && given.Value > kind.BackingMost:
		wrong(stated(fit.Unknown, quantity.Say("A %v is not %v deep: the most is %v.", kind.Name, given.Value, kind.BackingMost),
			quantity.Say("Measure it at an edge, an outlet or a first small hole.")))
	case kind.Backed && (!known || !limited):
		what := quantity.Say("the depth of what it goes into is not known")
		if limited || p.Layers.Backing.Known {
			what = p.missingLayer()
		}
		wrong(stated(fit.Unknown, quantity.Say("It is not known whether the fastener's tip comes through: %v.", what),
			quantity.Say("Measure it at an edge, an outlet or a first small hole.")))
	case kind.Holds == catalog.Masonry:
		out = append(out, p.masonry(&kind)...)
	case known && limited && kind.Backed:
		c := fit.Check{Finding: fit.Finding{Measure: fit.AtMost(past, inside)},
			Text: quantity.Say("The tip stays inside: %v of %v from the wall's surface.", quantity.AtMost(past),
				quantity.AtLeast(max(0, inside))), Marks: []string{"fastener"}}
		if p.Layers.Assumed {
			c.Text = quantity.Say("%v The depth of the stud is taken for %v.", c.Text, p.Layers.Backing.Value)
		}
		if past > inside && p.Layers.Assumed {
			c.Status = fit.Unknown
			c.Text = quantity.Say("The fastener goes in %v. The stud's depth is not known: in the shallowest, %v, its tip would come through.",
				quantity.AtMost(past), p.Layers.Backing.Value)
			c.Remedy = quantity.Say("Measure the stud's depth at an outlet or from the other side.")
		} else if past > inside {
			c.Status = fit.Fail
			c.Text = quantity.Say("The fastener goes in %v; there is %v less 3 mm: its tip would come through.", quantity.AtMost(past),
				quantity.AtLeast(max(0, inside+3*quantity.Millimetre)))
			need := quantity.Length(0)
			if kind.Holds == catalog.Wood {
				need = anchorage.Penetration(p.Pairing.Bracket, &p.Choice, &p.Layers).Need.Value
			}
			c.Remedy = p.lengthThatFits(need)
		}
		wrong(c)
	}
	room := p.Job.Wall.Cavity
	if !room.Known {
		room = p.Job.Wall.Backing
	}
	if i.Kind.Properties().Opens && known && room.Known && p.Layers.Covering.Known {
		room := room.Value
		behind := past - p.Layers.Covering.Value
		c := fit.Check{Finding: fit.Finding{Measure: fit.AtMost(behind, room)},
			Text: quantity.Say("The toggle needs %v behind the board; there is %v.", quantity.AtMost(behind), room)}
		if behind > room {
			c.Status, c.Remedy = fit.Fail, quantity.Say("Take a shorter toggle.")
		}
		wrong(c)
	}
	if h := p.Hole; h.Short() {
		wrong(fit.Check{Finding: fit.Finding{Status: fit.Caution, Measure: fit.AtLeast(h.Maker.Value, h.Need.Value)},
			Text:   quantity.Say("The maker's hole, %v, is shorter than the fastener needs, %v.", h.Maker.Value, h.Need.Value),
			Remedy: quantity.Say("Ask the maker; a fastener that meets the end of its hole cannot be driven home.")})
	}
	return out
}

// masonry: the wall is thick enough for the fixing, and enough of it stays behind the hole (EN 1992-4 and usual approvals,
// memory).
func (p *Placement) masonry(kind *catalog.WallProperties) []fit.Check {
	hef := anchorage.Effective(&p.Choice, &p.Layers)
	thick := p.Job.Wall.Backing
	if !thick.Known {
		status := fit.Unknown
		if kind.Type == catalog.Concrete {
			status = fit.Caution
		}
		return []fit.Check{stated(status, quantity.Say("The thickness of the %v is not known, nor how much of it stays behind the "+
			"hole.", kind.Name),
			quantity.Say("Measure it at a window or a door; at least %v is needed.", p.thickEnough(hef)))}
	}
	if least := anchorage.ThinnestMasonry(hef); hef > 0 && thick.Value < least {
		c := fit.Check{Finding: fit.Finding{Status: fit.Fail, Measure: fit.AtLeast(thick.Value, least)},
			Text:   quantity.Say("The wall is %v thick; this fixing needs %v.", thick.Value, quantity.AtMost(least)),
			Remedy: quantity.Say("Take a shorter fixing that its maker allows there.")}
		if thick.Value < anchorage.ThinnestMasonry(0) {
			c.Remedy = quantity.Say("No fixing is right for so thin a wall: bolt through it onto a plate behind, or have it judged.")
		}
		return []fit.Check{c}
	}
	if !p.Hole.Need.Known || !p.Hole.Most.Known {
		return nil // its embedment says what is not known
	}
	c := fit.Check{Finding: fit.Finding{Measure: fit.AtMost(p.Hole.Need.Value, p.Hole.Most.Value)},
		Text: quantity.Say("The hole, %v, leaves enough of the wall behind it.", quantity.AtMost(p.Hole.Need.Value)), Marks: []string{"fastener"}}
	if p.Hole.Need.Value > p.Hole.Most.Value {
		c.Status = fit.Fail
		c.Text = quantity.Say("The hole would have to be %v deep, and %v is the deepest that leaves enough of the wall behind it.",
			quantity.AtMost(p.Hole.Need.Value), quantity.AtLeast(max(0, p.Hole.Most.Value)))
		c.Remedy = quantity.Say("Take a shorter fixing, or have the wall judged.")
	}
	return []fit.Check{c}
}

// thickEnough returns how thick a masonry wall has to be for the fixing.
func (p *Placement) thickEnough(hef quantity.Length) quantity.Length {
	least := anchorage.ThinnestMasonry(hef)
	if before, told := p.Layers.Before(); told && p.Hole.Need.Known {
		least = max(least, p.Hole.Need.Value-before+max(30*quantity.Millimetre, 2*p.Hole.Diameter.Value))
	}
	return least.Ceil(5 * quantity.Millimetre)
}

// Lags and screws in trade, in millimetres (practice).
var (
	soldLags   = []int64{38, 50, 60, 70, 80, 90, 100, 120}
	soldScrews = []int64{12, 16, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 120}
)

// lengthThatFits says which fasteners fit a wall of wood, of which so much is needed in it: from below what has to be in
// the wood decides, from above its depth. Where nothing fits it says what would instead. It is the remedy of both, so that
// they do not contradict each other.
func (p *Placement) lengthThatFits(need quantity.Length) quantity.Phrase {
	before, told := p.Layers.Before()
	inside, limited := p.Layers.Inside()
	outside := p.Layers.Plate.Value + p.Layers.Washer
	switch {
	case !told:
		return quantity.Say("Measure what is on the wall first.")
	case p.Job.Assume.Penetration.Known:
		return quantity.Say("The depth that is assumed decides: measure it.")
	}
	sold := soldLags
	if i := &p.Choice.Item; i.Kind == catalog.Screw {
		sold = soldScrews
		if thin := p.Layers.Backing; limited && p.Choice.Wall != catalog.WoodStud && need > thin.Value-3*quantity.Millimetre {
			least := p.Pairing.Bracket.Walls[p.Choice.Wall].PenetrationMin.Or(0)
			need = max(least, i.EmbedmentMin, thin.Value*2/3) // what is a caution in a thin board
		}
	}
	least, most := before+outside+need, inside+outside
	at := slices.IndexFunc(sold, func(mm int64) bool { return quantity.MM(mm) >= least })
	switch {
	case at >= 0 && (!limited || quantity.MM(sold[at]) <= most):
		return quantity.Say("Take fasteners of %v.", quantity.MM(sold[at]))
	case !limited || at < 0 && least <= most:
		return quantity.Say("Take fasteners of at least %v, or take the covering away under the plate.", quantity.AtMost(least))
	case least <= most: // and none in trade between them
		backing := (quantity.MM(sold[at]) - outside - before + 3*quantity.Millimetre).Ceil(5 * quantity.Millimetre)
		return quantity.Say("No %v in trade is as long as this wall takes, %v to %v. Let a backing of %v in behind, or take another bracket.",
			p.Choice.Item.Kind.Word(), quantity.AtMost(least), quantity.AtLeast(most), backing)
	}
	backing := (need + 3*quantity.Millimetre).Ceil(5 * quantity.Millimetre)
	return quantity.Say("No %v fits this wall: %v would be needed and %v fits. Take thinner ones in number, let a backing of %v in "+
		"behind, or take "+
		"another bracket.", p.Choice.Item.Kind.Word(), quantity.AtMost(least), quantity.AtLeast(max(0, most)), backing)
}
