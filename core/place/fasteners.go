package place

import (
	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// fasteners checks covering, fastener, hole, depth, edges
// and spacing.
func (p *Placement) fasteners() []fit.Check {
	kind := p.Job.Wall.Type.Properties()
	if kind.Type == catalog.NoWall {
		return nil
	}
	out := p.covering(&kind)
	fastener := p.fastener(&kind)
	out = append(out, fastener)
	if !p.Choice.Known() {
		return out
	}
	out = append(out, p.depth(&kind)...)
	out = append(out, p.pilot())
	if c, ok := p.head(); ok {
		out = append(out, c)
	}
	if c, ok := p.embedment(); ok {
		out = append(out, c)
	}
	if c, ok := p.spacing(); ok {
		out = append(out, c)
	}
	return out
}

// covering: at most what the bracket allows; where its maker says nothing, more than is usual on that wall is a caution, and
// what the fasteners allow is for their own rules.
func (p *Placement) covering(kind *catalog.WallProperties) []fit.Check {
	w := &p.Job.Wall
	said := p.Pairing.Bracket.Walls[w.Type].CoveringMax
	most := said.Or(kind.CoveringMax)
	limited := most > 0 || said.Known
	switch {
	case !w.Covering.Known && (limited || kind.CoveringCounts):
		text := quantity.Say("The covering's thickness is not known, and the fastener has to go through it.")
		if limited {
			text = quantity.Say("The covering's thickness is not known; up to %v is allowed, and the fastener has to go through it.", most)
		}
		return []fit.Check{stated(CoveringRule, fit.Unknown, text,
			quantity.Say("Measure it at an outlet or a first small hole. A bare wall has 0."))}
	case !w.Covering.Known || !limited:
		return nil
	}
	c := fit.Check{Finding: fit.Finding{Rule: CoveringRule, Measure: fit.AtMost(w.Covering.Value, most)},
		Text: quantity.Say("%v of covering; up to %v is allowed.", quantity.AtMost(w.Covering.Value), quantity.AtLeast(most))}
	if w.Covering.Value > most && !said.Known {
		c.Status = fit.Caution
		c.Text = quantity.Say("%v of covering is more than the usual %v, and the bracket's maker gives no limit: what its fasteners allow "+
			"counts.",
			quantity.AtMost(w.Covering.Value), most)
		c.Remedy = quantity.Say("Ask the bracket's maker, or take the covering away under the plate.")
		return []fit.Check{c}
	}
	if w.Covering.Value > most {
		c.Status, c.Remedy = fit.Fail, quantity.Say("Take longer fasteners that the maker allows, or take the covering away under the plate.")
	}
	return []fit.Check{c}
}

// fastener: made for the wall, deep enough in wood, thin enough for the plate's
// holes and long enough for a board.
func (p *Placement) fastener(kind *catalog.WallProperties) fit.Check {
	return p.inBag(p.believable(p.onSwinging(p.throughBoard(p.throughPlate(p.madeFor(kind))))))
}

// madeFor: made for the wall, and deep enough in wood.
func (p *Placement) madeFor(kind *catalog.WallProperties) fit.Check {
	c := fit.Check{Finding: fit.Finding{Rule: FastenerRule}, Marks: []string{"fastener"}}
	choice := &p.Choice
	switch {
	case !choice.Said:
		c.Status = fit.Unknown
		c.Text = quantity.Say("The bracket says nothing of this type of wall.")
		c.Remedy = quantity.Say("Ask the maker before drilling. Common practice: %v %v %v", kind.Fixing, kind.Hole, kind.Limit)
		return c
	case !choice.Unclear.Empty():
		c.Status, c.Text = fit.Unknown, choice.Unclear
		c.Remedy = quantity.Say("Ask the bracket's maker which fastener goes into this wall. Common practice: %v", kind.Fixing)
		return c
	case !choice.Wrong.Empty():
		c.Status, c.Text = fit.Fail, choice.Wrong
		c.Remedy = quantity.Say("Take what is made for it. Common practice: %v", kind.Fixing)
		return c
	case kind.Holds != catalog.Wood:
		c.Text = quantity.Say("%v is made for %v.", label(choice), kind.Name)
		if least := p.Pairing.Bracket.Walls[kind.Type].PenetrationMin; least.Known && kind.Holds == catalog.Masonry {
			return p.deepEnough(c, masonryDepth(p), least.Value, "the wall")
		}
		return c
	}
	r := anchorage.Penetration(p.Pairing.Bracket, choice, &p.Layers)
	if a := p.Job.Assume.Penetration; a.Known { // without its tip
		if choice.Item.Kind == catalog.Lag {
			a.Value += anchorage.LagTip(choice.Item.Diameter)
		}
		if !r.Value.Known || a.Value < r.Value.Value {
			r.Value = a
		}
	}
	what := kind.Into
	c = p.deepEnough(c, r.Value, r.Need.Value, what)
	if c.Status == fit.Fail && r.Soft {
		c.Status = fit.Caution
		c.Text = quantity.Say("%v goes %v into %v, which is too thin for the %v that it should have.", label(choice),
			quantity.AtLeast(r.Value.Value), what, r.Need.Value)
		c.Remedy = quantity.Say("More screws, and have the wall judged.")
	}
	return c
}

// masonryDepth returns how far a masonry fixing goes past covering and cavity.
func masonryDepth(p *Placement) quantity.Optional[quantity.Length] {
	in, known := p.Layers.In(p.Choice.Item.Length)
	return quantity.Optional[quantity.Length]{Value: in, Known: known}
}

// deepEnough compares a fastener's penetration with what is
// needed.
func (p *Placement) deepEnough(c fit.Check, in quantity.Optional[quantity.Length], need quantity.Length, what string) fit.Check {
	if !in.Known {
		c.Status = fit.Unknown
		c.Text = quantity.Say("The fastener's depth in %v is not known: %v.", what, p.missingLayer())
		c.Remedy = quantity.Say("Measure the plate where the fastener goes through, and what is on the wall.")
		return c
	}
	c.Measure = fit.AtLeast(in.Value, need)
	c.Text = quantity.Say("%v goes %v into %v; %v is needed.", label(&p.Choice), quantity.AtLeast(max(0, in.Value)), what, need)
	if in.Value < need {
		c.Status, c.Remedy = fit.Fail, p.lengthThatFits(need)
	}
	return c
}

// missingLayer names an unknown figure of the layers that a fastener goes through.
func (p *Placement) missingLayer() quantity.Phrase {
	var out []string
	if !p.Layers.Plate.Known {
		out = append(out, "the wall plate's thickness")
	}
	if !p.Layers.Covering.Known {
		out = append(out, "the covering's thickness")
	}
	if !p.Layers.Cavity.Known {
		out = append(out, "the cavity's depth")
	}
	if p.Choice.Item.Length == 0 {
		out = append(out, "the fastener's length")
	}
	if plug := p.Choice.Plug; plug != nil && (plug.SoundEmbedment() == 0 || plug.Length == 0) {
		out = append(out, "the plug's length")
	}
	return notKnown(quantity.Names(out...)...)
}

// label returns the choice's name for the beginning of a sentence.
func label(c *anchorage.Choice) string { return capital(c.Label()) }

// depth: the tip stays inside its base material, and the maker's hole is not
// too short for the fastener.
func (p *Placement) depth(kind *catalog.WallProperties) []fit.Check {
	var out []fit.Check
	i := &p.Choice.Item
	past, known := p.Layers.Past(i.Length)
	inside, limited := p.Layers.Inside()
	wrong := func(c fit.Check) { out = append(out, c) }
	switch given := p.Job.Wall.Backing; {
	case kind.BackingMost > 0 && given.Value > kind.BackingMost:
		wrong(stated(DepthRule, fit.Unknown, quantity.Say("A %v is not %v deep: the most is %v.", kind.Name, given.Value, kind.BackingMost),
			quantity.Say("Measure it at an edge, an outlet or a first small hole.")))
	case kind.Backed && (!known || !limited):
		what := quantity.Say("the depth of what it goes into is not known")
		if limited || p.Layers.Backing.Known {
			what = p.missingLayer()
		}
		wrong(stated(DepthRule, fit.Unknown, quantity.Say("It is not known whether the fastener's tip comes through: %v.", what),
			quantity.Say("Measure it at an edge, an outlet or a first small hole.")))
	case kind.Holds == catalog.Masonry:
		out = append(out, p.masonry(kind)...)
	case known && limited && kind.Backed:
		c := fit.Check{Finding: fit.Finding{Rule: DepthRule, Measure: fit.AtMost(past, inside)},
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
	if i.Kind == catalog.Toggle && known && room.Known && p.Layers.Covering.Known {
		room := room.Value
		behind := past - p.Layers.Covering.Value
		c := fit.Check{Finding: fit.Finding{Rule: DepthRule, Measure: fit.AtMost(behind, room)},
			Text: quantity.Say("The toggle needs %v behind the board; there is %v.", quantity.AtMost(behind), room)}
		if behind > room {
			c.Status, c.Remedy = fit.Fail, quantity.Say("Take a shorter toggle.")
		}
		wrong(c)
	}
	if h := p.Hole; h.Short() {
		wrong(fit.Check{Finding: fit.Finding{Rule: DepthRule, Status: fit.Caution, Measure: fit.AtLeast(h.Maker.Value, h.Need.Value)},
			Text:   quantity.Say("The maker's hole, %v, is shorter than the fastener needs, %v.", h.Maker.Value, h.Need.Value),
			Remedy: quantity.Say("Ask the maker; a fastener that meets the end of its hole cannot be driven home.")})
	}
	return out
}

// embedment: a masonry fixing is at least as deep as required.
func (p *Placement) embedment() (fit.Check, bool) {
	if p.Job.Wall.Type.Holds() != catalog.Masonry || !p.Choice.Sound() {
		return fit.Check{}, false
	}
	r := anchorage.Embedment(&p.Choice, &p.Layers)
	c := fit.Check{Finding: fit.Finding{Rule: EmbedmentRule}, Marks: []string{"fastener"}}
	if !r.Value.Known {
		c.Status = fit.Unknown
		c.Text = quantity.Say("The fixing's depth in the wall is not known: %v.", p.missingLayer())
		c.Remedy = quantity.Say("Measure the plate, and what is on the wall, through a first hole.")
		return c, true
	}
	c.Measure = fit.AtLeast(r.Value.Value, r.Need.Value)
	what := quantity.Say("%v goes %v into the wall", label(&p.Choice), quantity.AtLeast(max(0, r.Value.Value)))
	if p.Choice.Plug != nil {
		what = quantity.Say("Behind covering and cavity the %v goes %v into its plug", p.Choice.Item.Kind.Word(),
			quantity.AtLeast(max(0, r.Value.Value)))
	}
	switch {
	case r.Soft:
		c.Status = fit.Caution
		c.Text = quantity.Say("%v; all of it, %v, is right.", what, r.Need.Value)
		c.Remedy = quantity.Say("Take one that is %v longer.", quantity.AtMost(r.Short))
	case r.Short > 0:
		c.Status = fit.Fail
		c.Text = quantity.Say("%v; %v is needed.", what, r.Need.Value)
		c.Remedy = quantity.Say("Take one that is %v longer.", quantity.AtMost(r.Short))
	default:
		c.Text = quantity.Say("%v; %v is needed.", what, r.Need.Value)
	}
	return c, true
}

// fourDiameters is the least distance of lags along one stud (NDS, memory).
const fourDiameters = 4

// throughBoard adds to the check of the fastener whether a toggle is long enough for plate
// and board, and one diameter more to open behind it
// (practice).
func (p *Placement) throughBoard(c fit.Check) fit.Check {
	for _, i := range []*catalog.Item{&p.Choice.Item, p.Choice.Beside} {
		if c.Status == fit.Fail || i == nil || i.Kind != catalog.Toggle {
			continue
		}
		past, known := p.Layers.Past(i.Length)
		if !known || !p.Layers.Covering.Known {
			c.Status = fit.Unknown
			c.Text = quantity.Say("It is not known whether %v comes through the board: %v.", i.Label(), p.missingLayer())
			c.Remedy = quantity.Say("Measure the plate where the fastener goes through, and the board.")
			continue
		}
		if least := p.Layers.Covering.Value + i.Diameter; past < least {
			c.Status = fit.Fail
			c.Measure = fit.AtLeast(past, least)
			c.Text = quantity.Say("%v comes %v past the wall plate; %v of board and what opens behind it need %v.",
				label(&anchorage.Choice{Item: *i}), quantity.AtLeast(max(0, past)), p.Layers.Covering.Value, least)
			c.Remedy = quantity.Say("Take toggles that are %v longer.", quantity.AtMost(least-past))
		}
	}
	return c
}

// widestHole is the width of a hole, in diameters of the fastener, that a large washer
// does not cover (ISO 7093-1: three diameters).
const widestHole = 3

// throughPlate adds to the check of the fastener whether its shaft goes through
// the holes of the plate, and its head does not.
func (p *Placement) throughPlate(c fit.Check) fit.Check {
	i := &p.Choice.Item
	wide := widestHole * i.Diameter
	shaft := i.Diameter
	if i.Kind == catalog.SleeveAnchor || i.Kind == catalog.FrameFixing {
		shaft = i.SoundRoot() // its sleeve may stay behind the plate; its bolt is wider than its root
	}
	if c.Status == fit.Fail || i.Kind == catalog.Toggle {
		return c
	}
	for n := range p.Points {
		for _, h := range p.Pairing.Bracket.WallPlate.Holes {
			if h.ID != p.Points[n].Hole || p.Points[n].Beside {
				continue
			}
			if wide > 0 && h.Diameter >= wide {
				return stated(FastenerRule, fit.Fail, quantity.Say("%v is %v wide: %v pulls through it, with its washer.", h.ID, h.Diameter, i.Label()),
					quantity.Say("Check both sizes."), "fastener", "plate")
			}
			if h.Diameter > 0 && h.Diameter < shaft {
				return stated(FastenerRule, fit.Fail, quantity.Say("%v does not go through %v of the wall plate, which is %v wide.", i.Label(), h.ID,
					h.Diameter), quantity.Say("Check both sizes; take thinner fasteners that the maker allows."), "fastener", "plate")
			}
		}
	}
	return c
}
