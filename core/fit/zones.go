package fit

import (
	"fmt"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Rect is an upright rectangle in front view, from the display's centre as
// hung. What is half a nanometre wide counts as a whole one.
type Rect struct{ Left, Right, Bottom, Top quantity.Length }

func around(at catalog.Point, w, h quantity.Length) Rect {
	w, h = w.HalfUp(), h.HalfUp()
	return Rect{at.X - w, at.X + w, at.Y - h, at.Y + h}
}

// gap is the room between two rectangles; negative, how far they overlap.
func (r Rect) gap(o Rect) quantity.Length {
	across := max(o.Left-r.Right, r.Left-o.Right)
	down := max(o.Bottom-r.Top, r.Bottom-o.Top)
	return max(across, down)
}

// ZonePlace is where a zone of the back lies as hung.
func (p *Pairing) ZonePlace(z *catalog.Zone) Rect {
	w, h := p.Turn.Size(z.Width, z.Height)
	return around(p.Turn.Of(catalog.Point{X: z.X, Y: z.Y}), w, h)
}

// center is the pattern's centre from the display's as hung, false when it is
// not known.
func (p *Pairing) center() (catalog.Point, bool) {
	x, y := p.Display.PatternCenter(p.Pattern, p.Turn)
	return catalog.Point{X: x.Value, Y: y.Value}, x.Known && y.Known
}

// rects are up to two rectangles: the arms, or the plate, or the wall plates.
type rects struct {
	rect [2]Rect
	n    int
}

// gap is the room between a place on the back and the nearest of them.
func (c *rects) gap(at Rect) quantity.Length {
	gap := c.rect[0].gap(at)
	for i := 1; i < c.n; i++ {
		gap = min(gap, c.rect[i].gap(at))
	}
	return gap
}

// covers are the places of the arms, or of the plate, on the display's back;
// false when they cannot be told.
func (p *Pairing) covers() (rects, bool) {
	var out rects
	if p.Pattern == nil || p.Hang == nil {
		return out, false
	}
	c, known := p.center()
	i := &p.Bracket.Interface
	if i.Type == catalog.Plate {
		width, height, measured := i.PlateSize()
		out = rects{[2]Rect{around(c, width, height)}, 1}
		return out, known && measured
	}
	hook := c.Y + p.Hang.CenterBelowHook
	half := max(i.ArmWidth, p.Bracket.Slot()).HalfUp()
	for _, x := range [...]quantity.Length{c.X - p.Hang.Width.HalfUp(), c.X + p.Hang.Width.HalfUp()} {
		out.rect[out.n] = Rect{x - half, x + half, hook - i.ArmBottom.Value, hook + i.ArmTop.Value}
		out.n++
	}
	return out, known
}

// WallSide is what is behind a hung display: its wall plates, and how far the
// middle of them is from the display's.
type WallSide struct {
	Shift  quantity.Optional[quantity.Length]
	plates rects
	known  bool // where the plates are, and how large
}

// nominal is the wall side where no wall is known: the datum as near to the
// display's middle as the slide allows, the plates of two as far apart as the
// pattern is wide, or as near to it as they go.
func (p *Pairing) nominal() WallSide {
	if p.Pattern == nil || p.Hang == nil {
		return WallSide{}
	}
	x, _ := p.Display.PatternCenter(p.Pattern, p.Turn)
	if !x.Known {
		return WallSide{}
	}
	shift := min(max(0, x.Value-p.Hang.Slide), x.Value+p.Hang.Slide)
	return p.wallSide(shift, p.Bracket.PlatesAbout(shift, p.Hang.Width))
}

// OnWall is the wall side of a display whose wall plates are at given places,
// from the display's middle; shift is the middle of them.
func (p *Pairing) OnWall(shift quantity.Length, plates []quantity.Length) WallSide {
	return p.wallSide(shift, plates)
}

func (p *Pairing) wallSide(shift quantity.Length, plates []quantity.Length) WallSide {
	out := WallSide{Shift: quantity.Some(shift)}
	w := p.Bracket.WallPlate
	c, known := p.center()
	if w == nil || !w.Width.Known || !w.Height.Known || !known || !p.Hang.CenterAboveDatum.Known {
		return out
	}
	out.known = true
	for _, x := range plates {
		if out.plates.n < len(out.plates.rect) {
			out.plates.rect[out.plates.n] = around(catalog.Point{X: x, Y: c.Y - p.Hang.CenterAboveDatum.Value}, w.Width.Value, w.Height.Value)
			out.plates.n++
		}
	}
	return out
}

// behind says what is behind a place on the back: over is how much thicker than
// the bare wall it is there. It is not sure where the wall plate could be in
// the way and is not described; over is then the most it can be, as far as that
// is known.
func (p *Pairing) behind(at Rect, side *WallSide) (over quantity.Length, what string, sure bool) {
	w := p.Bracket.WallPlate
	switch {
	case w == nil:
		return 0, "the wall", false
	case !side.known:
		return w.Thickness.Or(0), "the wall plate", false
	case side.plates.n == 0 || side.plates.gap(at) >= 0:
		return 0, "the wall", true
	}
	return w.Thickness.Or(0), "the wall plate", w.Thickness.Known
}

// nearest is the smallest arm plane of a stack: where the display comes
// nearest to the wall. The rules of what is behind the display go by it.
func (p *Pairing) nearest() (quantity.Length, bool) { return p.Nearest(), p.Stack != nil }

// Nearest is the smallest arm plane of a pairing's stack, 0 without one.
func (p *Pairing) Nearest() quantity.Length {
	if p.Stack == nil {
		return 0
	}
	return p.Stack.Nearest
}

// worst keeps the check of several that is worst, and of equals the one with
// the least margin.
func worst(a, b Check) Check {
	switch {
	case a.Status != b.Status:
		if a.Status > b.Status {
			return a
		}
		return b
	case a.Measure.Given() && (!b.Measure.Given() || a.Measure.Margin <= b.Measure.Margin):
		return a
	case b.Measure.Given():
		return b
	}
	return a
}

var zoneWords = map[string]string{"port": "port", "vent": "vent", "label": "label", "protrusion": "part that stands out"}

// ZoneTag is the tag of a zone in the drawing of the back.
func ZoneTag(i int) string { return fmt.Sprintf("back.zone.%d", i) }

// worstZone judges the zones that a rule is about, and keeps the worst; none
// is what to say when there is no such zone.
func (p *Pairing) worstZone(none Check, about func(*catalog.Zone) bool, judge func(*catalog.Zone) Check, mark string) Check {
	c, first := none, true
	for i := range p.Display.Zones {
		z := &p.Display.Zones[i]
		if !about(z) {
			continue
		}
		one := judge(z)
		one.Rule = none.Rule
		if !p.brief {
			one.Marks = []string{ZoneTag(i), mark}
		}
		if first {
			c, first = one, false
		} else {
			c = worst(c, one)
		}
	}
	return c
}

// portsCheck: no port, vent or label under an arm or plate, and a vent has its
// free space behind it (practice).
func portsCheck(p *Pairing) Check { return p.ports(&p.side) }

func (p *Pairing) ports(side *WallSide) Check {
	var covers rects
	known := false
	if len(p.Display.Zones) > 0 {
		covers, known = p.covers()
	}
	return p.worstZone(Check{Rule: PortsRule, Text: quantity.Say("No port, vent or label is on record.")},
		func(z *catalog.Zone) bool { return z.Kind != "protrusion" },
		func(z *catalog.Zone) Check {
			c := p.port(z, &covers, known)
			if z.Clear.Known {
				c = worst(c, p.vent(z, side))
			}
			return c
		}, "back.arms")
}

func (p *Pairing) port(z *catalog.Zone, covers *rects, known bool) (c Check) {
	if !known {
		c.Status = Unknown
		if !p.brief {
			c.Text = quantity.Say("Whether the %v lies under the bracket cannot be told: where the bracket comes on the back is not known.",
				zoneWords[z.Kind])
		}
		if p.Hang != nil {
			c.Remedy = quantity.Say("Measure the display's height, and from its top to the middle of the pattern.")
		}
		return c
	}
	gap := covers.gap(p.ZonePlace(z))
	c.Measure = atLeast(gap, 0, MM)
	c.Measure.Coarse = true
	if gap < 0 {
		c.Status = Fail
	}
	if p.brief {
		return c
	}
	word, what := zoneWords[z.Kind], "the arms"
	if p.Bracket.Interface.Type == catalog.Plate {
		what = "the plate"
	}
	if gap < 0 {
		c.Text = quantity.Say("The %v lies %v under %v.", word, quantity.Shown{Length: -gap, Bound: quantity.Up, Coarse: true}, what)
		c.Remedy = quantity.Say("Another arm position, or another bracket, may leave it free.")
	} else {
		c.Text = quantity.Say("The nearest %v is %v clear of %v.", word, quantity.Shown{Length: gap, Bound: quantity.Down, Coarse: true}, what)
	}
	return c
}

// vent: the gap behind a zone that needs air is at least what it asks.
func (p *Pairing) vent(z *catalog.Zone, side *WallSide) (c Check) {
	nearest, stacked := p.nearest()
	profile := p.Bracket.Profile
	if !profile.Known || !stacked {
		c.Status = Unknown
		if !p.brief {
			c.Text = quantity.Say("Whether the %v has its %v of air behind it cannot be told: the bracket's profile or the bolts are not known.",
				zoneWords[z.Kind], z.Clear.Value)
		}
		return c
	}
	over, what, sure := p.behind(p.ZonePlace(z), side)
	room := profile.Value + nearest + z.Setback.Or(0) - over
	c.Measure = atLeast(room, z.Clear.Value, MM)
	switch {
	case room < z.Clear.Value:
		c.Status = Caution
		if !p.brief {
			c.Text = quantity.Say("The %v has %v of air to %v and asks for %v.", zoneWords[z.Kind], quantity.AtLeast(room), what, z.Clear.Value)
			c.Remedy = quantity.Say("Bring the display further out, or ask its maker whether less will do.")
		}
	case !sure:
		c = p.plateUnknown(c)
	case !p.brief:
		c.Text = quantity.Say("The %v has %v of air to %v.", zoneWords[z.Kind], quantity.AtLeast(room), what)
	}
	return c
}

// plateUnknown is a check that hangs on a wall plate which is not described.
func (p *Pairing) plateUnknown(c Check) Check {
	c.Status = Unknown
	if !p.brief {
		c.Text = quantity.Say("The wall plate's size, thickness or place behind the display is not known: what it leaves room for cannot be " +
			"told.")
		c.Remedy = quantity.Say("Measure the wall plate, and from the display's top to the middle of the pattern.")
	}
	return c
}

// plugsCheck: a plugged-in connector stays off what is behind it:
// plug ≤ profile + z + the socket's setback, less the wall plate's thickness
// where it is over one; behind the plug, what the cable needs to bend.
func plugsCheck(p *Pairing) Check { return p.plugs(&p.side) }

func (p *Pairing) plugs(side *WallSide) Check {
	return p.worstZone(Check{Rule: PlugsRule, Text: quantity.Say("No plug that points to the wall is on record.")},
		func(z *catalog.Zone) bool { return z.Plug.Known || z.Kind == "port" },
		func(z *catalog.Zone) Check { return p.plug(z, side) }, "side.plug")
}

func (p *Pairing) plug(zone *catalog.Zone, side *WallSide) (c Check) {
	z, stacked := p.nearest()
	profile := p.Bracket.Profile
	if !zone.Plug.Known || !profile.Known || !stacked {
		c.Status = Unknown
		switch {
		case p.brief:
		case !zone.Plug.Known:
			c.Text = quantity.Say("How far a plug stands out of the back at a port is not known.")
			c.Remedy = quantity.Say("Measure a plugged-in connector; 0 when it points down or aside.")
		case !profile.Known:
			c.Text = quantity.Say("The bracket's profile is not known: whether a plug of %v touches the wall cannot be told.", zone.Plug.Value)
			c.Remedy = quantity.Say("Measure from the wall to the arms with the bracket closed.")
		default:
			c.Text = quantity.Say("Whether the plug touches the wall depends on the bolts, which are not chosen.")
		}
		return c
	}
	if zone.Plug.Value == 0 {
		c.Text = quantity.Say("Its plug does not point to the wall.")
		return c
	}
	over, what, sure := p.behind(p.ZonePlace(zone), side)
	room := profile.Value + z + zone.Setback.Or(0) - over
	bend := zone.CableBend.Or(0)
	c.Measure = atMost(zone.Plug.Value, room, MM)
	switch {
	case room < zone.Plug.Value:
		c.Status = Fail
	case !sure:
		return p.plateUnknown(c)
	case room < zone.Plug.Value+bend:
		c.Status, c.Measure = Caution, atMost(zone.Plug.Value+bend, room, MM)
	}
	if p.brief {
		return c
	}
	name := "A plug"
	if zone.Connector != "" {
		name = "A plug (" + zone.Connector + ")"
	}
	switch c.Status {
	case Fail:
		c.Text = quantity.Say("%v stands out %v and has %v to %v.", name, zone.Plug.Value, quantity.AtLeast(max(0, room)), what)
		c.Remedy = quantity.Say("Use an angled plug of at most %v, or spacers that bring the display further out.",
			quantity.AtLeast(max(0, room)))
	case Caution:
		c.Text = quantity.Say("%v stands out %v and its cable needs %v to bend; there is %v to %v.", name, zone.Plug.Value, bend,
			quantity.AtLeast(room), what)
		c.Remedy = quantity.Say("Use an angled plug, or a cable that bends tighter.")
	default:
		c.Text = quantity.Say("%v that stands out %v has %v to %v.", name, zone.Plug.Value, quantity.AtLeast(room), what)
	}
	return c
}

// protrusionCheck: nothing on the back hits wall plate or wall when closed,
// and under an arm it stands out no further than z.
func protrusionCheck(p *Pairing) Check { return p.protrusions(&p.side) }

func (p *Pairing) protrusions(side *WallSide) Check {
	return p.worstZone(Check{Rule: ProtrusionRule, Text: quantity.Say("Nothing that stands out of the back is on record.")},
		func(z *catalog.Zone) bool { return z.Kind == "protrusion" },
		func(z *catalog.Zone) Check { return p.protrusion(z, side) }, "side.protrusion")
}

func (p *Pairing) protrusion(zone *catalog.Zone, side *WallSide) Check {
	z, stacked := p.nearest()
	profile := p.Bracket.Profile
	covers, placed := p.covers()
	var c Check
	switch {
	case !zone.Out.Known:
		c.Status = Unknown
		c.Text = quantity.Say("How far a part stands out of the back is not known.")
		c.Remedy = quantity.Say("Lay a straight edge over the back and measure.")
		return c
	case !stacked || !profile.Known || !placed:
		c.Status = Unknown
		if !p.brief {
			c.Text = quantity.Say("Whether a part that stands out %v touches bracket or wall cannot be told yet.", zone.Out.Value)
		}
		return c
	}
	at := p.ZonePlace(zone)
	over, what, sure := p.behind(at, side)
	room := profile.Value + z - over
	if covers.gap(at) < 0 {
		room, what = min(room, z), "the bracket over it"
	}
	c.Measure = atMost(zone.Out.Value, room, MM)
	switch {
	case zone.Out.Value > room:
		c.Status = Fail
	case !sure:
		return p.plateUnknown(c)
	}
	switch {
	case p.brief:
	case c.Status == Fail:
		c.Text = quantity.Say("A part stands out %v and has %v to %v.", zone.Out.Value, quantity.AtLeast(max(0, room)), what)
		c.Remedy = quantity.Say("Spacers that bring the display %v further out would clear it.", quantity.AtMost(zone.Out.Value-room))
	default:
		c.Text = quantity.Say("A part that stands out %v has %v to %v.", zone.Out.Value, quantity.AtLeast(room), what)
	}
	return c
}

// Again judges what hangs on where the wall plates are, for a display on its
// wall: ports, plugs, protrusions and the swivel.
func (p *Pairing) Again(side WallSide) []Check {
	return []Check{p.ports(&side), p.plugs(&side), p.protrusions(&side), p.swivel(p.MotionOn(&side))}
}
