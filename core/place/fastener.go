package place

import (
	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// FastenerRule: what is driven in is made for the wall, goes through the plate, and is long enough; and the bag has it.
const FastenerRule fit.RuleID = "fastener"

var fastenerRule = rule{About: fit.About{ID: FastenerRule, Name: "Fastener", Blocks: true, Held: true, Step: "plate"},
	Judge: (*Placement).judgeFastener}

// fastener: made for the wall, deep enough in wood, thin enough for the plate's
// holes and long enough for a board.
func (p *Placement) fastener() fit.Check {
	return p.inBag(p.believable(p.onSwinging(p.throughBoard(p.throughPlate(p.madeFor())))))
}

func (p *Placement) judgeFastener() (out []fit.Check) {
	if p.Job.Wall.Type != catalog.NoWall {
		out = append(out, p.fastener())
	}
	if p.Overhead() && p.onBoardAlone() {
		out = append(out, stated(fit.Fail, quantity.Say("It hangs over people from board alone."),
			quantity.Say("Find studs, or let a backing in behind."), "fastener"))
	}
	return out
}

// fastened reports whether it is known what goes into the wall.
func (p *Placement) fastened() bool { return p.Job.Wall.Type != catalog.NoWall && p.Choice.Known() }

// madeFor: made for the wall, and deep enough in wood.
func (p *Placement) madeFor() fit.Check {
	kind := p.Job.Wall.Type.Properties()
	c := fit.Check{Marks: []string{"fastener"}}
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

// throughBoard adds to the check of the fastener whether a toggle is long enough for plate
// and board, and one diameter more to open behind it
// (practice).
func (p *Placement) throughBoard(c fit.Check) fit.Check {
	for _, i := range []*catalog.Item{&p.Choice.Item, p.Choice.Beside} {
		if c.Status == fit.Fail || i == nil || !i.Kind.Properties().Opens {
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
	if i.Kind.Properties().Sleeved {
		shaft = i.SoundRoot() // its sleeve may stay behind the plate; its bolt is wider than its root
	}
	if c.Status == fit.Fail || i.Kind.Properties().Opens {
		return c
	}
	for n := range p.Points {
		for _, h := range p.Pairing.Bracket.WallPlate.Holes {
			if h.ID != p.Points[n].Hole || p.Points[n].Beside {
				continue
			}
			if wide > 0 && h.Diameter >= wide {
				return stated(fit.Fail, quantity.Say("%v is %v wide: %v pulls through it, with its washer.", h.ID, h.Diameter, i.Label()),
					quantity.Say("Check both sizes."), "fastener", "plate")
			}
			if h.Diameter > 0 && h.Diameter < shaft {
				return stated(fit.Fail, quantity.Say("%v does not go through %v of the wall plate, which is %v wide.", i.Label(), h.ID,
					h.Diameter), quantity.Say("Check both sizes; take thinner fasteners that the maker allows."), "fastener", "plate")
			}
		}
	}
	return c
}

// sheet writes how thick a sheet is as it is sold: to a hundredth of a millimetre, or to a thousandth of an inch.
func sheet(l quantity.Length) quantity.Either {
	const thousandth = quantity.Inch / 1000
	return quantity.Either{Metric: quantity.FormatDecimal(int64(l.Round(quantity.Millimetre/100)), 6) + " mm",
		Imperial: quantity.FormatDecimal(int64(l.Round(thousandth)/thousandth), 3) + " in"}
}

// letIn is how thick a backing behind the board is at the least that takes a swinging arm (practice: a sheet of ply of 3/4 in).
const letIn = 18 * quantity.Millimetre

// bite is what a swinging arm asks of a board or backer, in diameters of its screws (practice).
const bite = 6

// onSwinging adds to the check of the fastener what a swinging arm asks: no thin sheet, no thin backer, unless a backing is let
// in behind (practice); and whether a screw comes through the sheet.
func (p *Placement) onSwinging(c fit.Check) fit.Check {
	w, i := &p.Job.Wall, &p.Choice.Item
	if c.Status == fit.Fail {
		return c
	}
	if w.Type == catalog.MetalStud && i.Kind == catalog.Screw {
		steel := w.Steel.Or(anchorage.UsualSteel)
		least := w.Covering.Value + steel + i.Diameter // three threads are about a diameter
		switch past, known := p.Layers.Past(i.Length); {
		case !known || !w.Covering.Known:
			c = stated(fit.Unknown,
				quantity.Say("It is not known whether %v comes through the board: %v.", i.Label(), p.missingLayer()),
				quantity.Say("Measure the plate where the fastener goes through, and the board."), "fastener")
		case past < least:
			return fit.Check{Finding: fit.Finding{Status: fit.Fail, Measure: fit.AtLeast(past, least)},
				Marks: []string{"fastener"},
				Text: quantity.Say("%v comes %v past the wall plate; covering, sheet and three threads need %v.", label(&p.Choice),
					quantity.AtLeast(max(0, past)), quantity.AtMost(least)), Remedy: quantity.Say("Take longer screws.")}
		}
	}
	if !p.Pairing.Bracket.Swings() || w.LetIn != nil && w.LetIn.Thickness >= letIn {
		return c
	}
	steel := w.Steel.Or(anchorage.UsualSteel)
	switch in, known := p.Layers.In(i.Length); {
	case w.Type == catalog.MetalStud && steel < anchorage.SwingingSteel:
		c = stated(fit.Fail, quantity.Say("A swinging arm on studs of %v sheet bends them; %v is the least.", sheet(steel),
			sheet(anchorage.SwingingSteel)),
			quantity.Say("Let a backing of %v in behind the board, or measure the sheet if it is thicker.", letIn), "fastener")
		if !w.Steel.Known {
			c.Text = quantity.Say("%v Nobody has measured the sheet: the thinnest counts.", c.Text)
		}
	case w.Type.OfBoard() && known && p.Layers.Backing.Known &&
		min(in, p.Layers.Backing.Value) < bite*i.Diameter:
		c = stated(fit.Fail, quantity.Say("A swinging arm works its screws loose: they bite %v, and %v is the least.",
			quantity.AtLeast(max(0, min(in, p.Layers.Backing.Value))), bite*i.Diameter),
			quantity.Say("Let a backing of %v in behind, or take a bracket that does not swing.", letIn), "fastener")
	}
	return c
}

// onBoardAlone reports whether nothing but board holds a fastener.
func (p *Placement) onBoardAlone() bool {
	if p.Job.Wall.Type == catalog.HollowBoard {
		return true
	}
	for i := range p.Points {
		if p.Points[i].Beside {
			return true
		}
	}
	return false
}
