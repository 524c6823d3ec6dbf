package place

import (
	"slices"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// bore compares the hole with its fastener.
func (s *setting) bore(f *Fixing) anchorage.Bore {
	return anchorage.BoreOf(&f.Choice, &f.Hole, s.specificGravity())
}

// pilot: every hole suits its fastener, on the studs and beside them.
func (p *Placement) pilot() fit.Check {
	b := p.bore(&p.Fixing)
	c := p.pilotOf(&p.Choice, &b)
	i := slices.IndexFunc(p.Points, func(pt Point) bool { return pt.Beside }) // they are all alike
	if i < 0 || c.Status > fit.Note {
		return c
	}
	choice := anchorage.Choice{Wall: catalog.HollowBoard, Item: *p.Choice.Beside}
	b = anchorage.BoreOf(&choice, &p.Points[i].Drill, 0)
	if beside := p.pilotOf(&choice, &b); beside.Status > c.Status {
		return beside
	}
	return c
}

// pilotOf: a hole suits its fastener, in every wall (NDS 12.1.4 and 12.1.5, memory; masonry and plugs are practice).
func (p *Placement) pilotOf(choice *anchorage.Choice, b *anchorage.Bore) fit.Check {
	d, carrier := b.Diameter.Value, choice.Carrier()
	c := fit.Check{Finding: fit.Finding{Rule: PilotRule}, Marks: []string{"fastener"}}
	if b.Diameter.Known && b.High > 0 {
		c.Measure = fit.AtMost(d, b.High)
		if d < b.Low {
			c.Measure = fit.AtLeast(d, b.Low)
		}
	}
	inWood := choice.Wall.Holds() == catalog.Wood
	name := label(&anchorage.Choice{Item: *carrier})
	switch b.Fit {
	case anchorage.BoreUndrilled:
		c.Status = fit.Unknown
		c.Text = quantity.Say("The bracket's table has no drill for %v in %v.", carrier.Label(), choice.Wall.Name())
		c.Remedy = quantity.Say("Ask the maker of the fastener for its bit.")
		if b.High > 0 {
			c.Remedy = quantity.Say("%v to %v suits it: put one that is sold into the bracket's table.", b.Low.Ceil(soldBit), b.High.Floor(soldBit))
		}
	case anchorage.BoreUnsized:
		c.Status = fit.Unknown
		c.Text = quantity.Say("The diameter of %v is not known, nor whether it suits its hole.", carrier.Label())
		c.Remedy = quantity.Say("Measure it, or read its size off the pack.")
	case anchorage.BoreDisputed:
		c.Status = fit.Unknown
		c.Text = quantity.Say("The bracket's table drills %v, and %v is made for %v: only one can be right.", d, carrier.Label(), carrier.Drill)
		c.Remedy = quantity.Say("An engineer settles it before anybody drills: correct the table, or the item.")
	case anchorage.BoreLoose:
		c.Status = fit.Fail
		c.Text = quantity.Say("%v does not hold in a hole of %v.", name, d)
		c.Remedy = p.drillInstead(b)
	case anchorage.BoreMisfit:
		c.Status = fit.Fail
		c.Measure = fit.AtMost(choice.Item.Diameter, b.High)
		if choice.Item.Diameter < b.Low {
			c.Measure = fit.AtLeast(choice.Item.Diameter, b.Low)
		}
		c.Text = quantity.Say("%v takes screws of %v to %v; the kit's is %v.", name, b.Low, b.High, choice.Item.Diameter)
		c.Remedy = quantity.Say("Take a plug and a screw that belong together.")
	case anchorage.BoreWide:
		c.Status = fit.Caution
		c.Text = quantity.Say("A hole of %v is wide for %v in this wood; %v to %v is right.", d, carrier.Label(), b.Low, b.High)
		if b.Share < 1 {
			c.Text = quantity.Say("A hole of %v is wider than the root of %v: %v %% of its strength counts.", d, carrier.Label(), int(b.Share*100))
		}
		c.Remedy = p.drillInstead(b)
	case anchorage.BoreNarrow:
		c.Status = fit.Caution
		c.Text = quantity.Say("%v does not go into a hole of %v.", name, d)
		if inWood {
			c.Text = quantity.Say("A hole of %v is narrow for %v in this wood, and can split it; %v to %v is right.", d, carrier.Label(), b.Low,
				b.High)
		}
		c.Remedy = p.drillInstead(b)
	case anchorage.BoreWider:
		c.Status = fit.Note
		c.Text = quantity.Say("A hole of %v is within the root of %v: it holds as without one.", d, carrier.Label())
	default:
		switch {
		case !b.Diameter.Known && inWood:
			c.Text = quantity.Say("%v needs no hole in this wood.", name)
		case inWood:
			c.Text = quantity.Say("A hole of %v suits %v in this wood: %v to %v.", d, carrier.Label(), b.Low, b.High)
		case !b.Diameter.Known:
			c.Text = quantity.Say("%v is driven without a hole.", name)
		default:
			c.Text = quantity.Say("%v suits its hole, %v.", name, d)
		}
	}
	return c
}

// soldBit is the step of the bits that are sold (practice).
const soldBit = quantity.Millimetre / 2

// drillInstead names a bit that suits and is sold.
func (p *Placement) drillInstead(b *anchorage.Bore) quantity.Phrase {
	instead := b.High.Floor(soldBit)
	switch {
	case b.Fit == anchorage.BoreNarrow:
		instead = b.Low.Ceil(soldBit)
	case b.High-b.Low == 2*soldBit: // a fixing's own size, half a millimetre either way
		instead = b.Low + soldBit
	}
	return quantity.Say("Drill %v; ask the bracket's maker which of the two figures is right.", instead)
}

// headOver is how much wider than its hole a head, or the washer under it, bears (practice).
const headOver = 3 * quantity.Millimetre

// head: a fastener's head, or its washer, bears on the wall plate and is not pulled through its hole or slot.
func (p *Placement) head() (fit.Check, bool) {
	b := anchorage.BearingOf(p.Pairing.Bracket, &p.Choice)
	widest, id, unsaid := quantity.Length(0), "", ""
	for n := range p.Points {
		for _, h := range p.Pairing.Bracket.WallPlate.Holes {
			if h.ID != p.Points[n].Hole {
				continue
			}
			if h.Diameter == 0 {
				unsaid = h.ID
			} else if h.Diameter > widest {
				widest, id = h.Diameter, h.ID
			}
		}
	}
	if p.Choice.Item.Diameter == 0 || widest == 0 && unsaid == "" {
		return fit.Check{}, false
	}
	need := widest + headOver
	c := fit.Check{Finding: fit.Finding{Rule: HeadRule, Measure: fit.AtLeast(b.Width, need)}, Marks: []string{"fastener", "plate"}}
	what := quantity.Say("The head of %v", p.Choice.Item.Label())
	if b.Washer && b.Known {
		what = quantity.Say("The washer under %v", p.Choice.Item.Label())
	}
	switch {
	case b.Washer && !b.Known:
		c.Status, c.Measure = fit.Unknown, fit.Measure{}
		c.Text = quantity.Say("The wall plate takes washers under its fasteners, and the kit says nothing of their width.")
		c.Remedy = quantity.Say("Put the washers into the kit, with their outer diameter: at least %v over %v.", need, id)
	case b.Width < need:
		c.Status = fit.Fail
		c.Text = quantity.Say("%v is %v wide, and %v of the wall plate %v: it pulls through.", what, quantity.AtLeast(b.Width), id, widest)
		c.Remedy = quantity.Say("Send washers of at least %v.", need)
	case unsaid != "":
		c.Status, c.Measure = fit.Caution, fit.Measure{}
		c.Text = quantity.Say("The width of hole %v in the wall plate is not known: nobody can say whether %v pulls through.", unsaid,
			p.Choice.Item.Label())
		c.Remedy = quantity.Say("Measure the hole, or put washers of three diameters under the fasteners.")
	default:
		c.Text = quantity.Say("%v is %v wide over %v of the wall plate, %v.", what, quantity.AtLeast(b.Width), id, widest)
	}
	return c, true
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
	for _, mm := range sold {
		if l := quantity.MM(mm); l >= least && (!limited || l <= most) {
			return quantity.Say("Take fasteners of %v.", l)
		}
	}
	if !limited {
		return quantity.Say("Take fasteners of at least %v, or take the covering away under the plate.", quantity.AtMost(least))
	}
	backing := (need + 3*quantity.Millimetre).Ceil(5 * quantity.Millimetre)
	return quantity.Say("No %v fits this wall: %v would be needed and %v fits. Take thinner ones in number, let a backing of %v in "+
		"behind, or take "+
		"another bracket.", p.Choice.Item.Kind.Word(), quantity.AtMost(least), quantity.AtLeast(max(0, most)), backing)
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
		return []fit.Check{stated(DepthRule, status, quantity.Say("The thickness of the %v is not known, nor how much of it stays behind the "+
			"hole.", kind.Name),
			quantity.Say("Measure it at a window or a door; at least %v is needed.", p.thickEnough(hef)))}
	}
	if least := anchorage.ThinnestMasonry(hef); hef > 0 && thick.Value < least {
		c := fit.Check{Finding: fit.Finding{Rule: DepthRule, Status: fit.Fail, Measure: fit.AtLeast(thick.Value, least)},
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
	c := fit.Check{Finding: fit.Finding{Rule: DepthRule, Measure: fit.AtMost(p.Hole.Need.Value, p.Hole.Most.Value)},
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
			c = stated(FastenerRule, fit.Unknown,
				quantity.Say("It is not known whether %v comes through the board: %v.", i.Label(), p.missingLayer()),
				quantity.Say("Measure the plate where the fastener goes through, and the board."), "fastener")
		case past < least:
			return fit.Check{Finding: fit.Finding{Rule: FastenerRule, Status: fit.Fail, Measure: fit.AtLeast(past, least)},
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
		c = stated(FastenerRule, fit.Fail, quantity.Say("A swinging arm on studs of %v sheet bends them; %v is the least.", sheet(steel),
			sheet(anchorage.SwingingSteel)),
			quantity.Say("Let a backing of %v in behind the board, or measure the sheet if it is thicker.", letIn), "fastener")
		if !w.Steel.Known {
			c.Text = quantity.Say("%v Nobody has measured the sheet: the thinnest counts.", c.Text)
		}
	case w.Type.OfBoard() && known && p.Layers.Backing.Known &&
		min(in, p.Layers.Backing.Value) < bite*i.Diameter:
		c = stated(FastenerRule, fit.Fail, quantity.Say("A swinging arm works its screws loose: they bite %v, and %v is the least.",
			quantity.AtLeast(max(0, min(in, p.Layers.Backing.Value))), bite*i.Diameter),
			quantity.Say("Let a backing of %v in behind, or take a bracket that does not swing.", letIn), "fastener")
	}
	return c
}
