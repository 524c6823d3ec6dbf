package fit

import (
	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Rect is an upright rectangle in front view, from the display's centre as
// hung.
type Rect struct{ Left, Right, Bottom, Top quantity.Length }

func around(at catalog.Point, w, h quantity.Length) Rect {
	return Rect{at.X - w/2, at.X + w/2, at.Y - h/2, at.Y + h/2}
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

// covers are the places of the arms, or of the plate, on the display's back;
// false when they cannot be told.
func (p *Pairing) covers() (covers, bool) {
	var out covers
	if p.Pattern == nil || p.Hang == nil {
		return out, false
	}
	c, known := p.center()
	i := &p.Bracket.Interface
	if i.Type == catalog.Plate {
		out = covers{[2]Rect{around(c, i.Width.Value, i.Height.Value)}, 1}
		return out, known && i.Width.Known && i.Height.Known
	}
	hook := c.Y + p.Hang.CenterBelowHook
	half := max(i.ArmWidth, p.Bracket.Slot()) / 2
	for _, x := range [...]quantity.Length{c.X - p.Hang.Width/2, c.X + p.Hang.Width/2} {
		out.rect[out.n] = Rect{x - half, x + half, hook - i.ArmBottom, hook + i.ArmTop}
		out.n++
	}
	return out, known
}

// covers are two arms, or one plate.
type covers struct {
	rect [2]Rect
	n    int
}

// gap is the room between a place on the back and the nearest of the covers.
func (c *covers) gap(at Rect) quantity.Length {
	gap := c.rect[0].gap(at)
	for i := 1; i < c.n; i++ {
		gap = min(gap, c.rect[i].gap(at))
	}
	return gap
}

// wallPlate is the place of the wall plate behind the display; false when it
// is not known.
func (p *Pairing) wallPlate() (Rect, bool) {
	w := p.Bracket.WallPlate
	if w == nil || p.Hang == nil || !w.Width.Known || !w.Height.Known || !p.Hang.CenterAboveDatum.Known {
		return Rect{}, false
	}
	c, known := p.center()
	return around(catalog.Point{X: c.X, Y: c.Y - p.Hang.CenterAboveDatum.Value}, w.Width.Value, w.Height.Value), known
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

func zoneTag(i int) string { return "back.zone." + string(rune('0'+i%10)) }

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
			one.Marks = []string{zoneTag(i), mark}
		}
		if first {
			c, first = one, false
		} else {
			c = worst(c, one)
		}
	}
	return c
}

// portsCheck: no port, vent or label under an arm or plate (practice).
func portsCheck(p *Pairing) Check {
	var covers covers
	known := false
	if len(p.Display.Zones) > 0 {
		covers, known = p.covers()
	}
	return p.worstZone(Check{Rule: "ports", Text: quantity.Say("No port, vent or label is on record.")},
		func(z *catalog.Zone) bool { return z.Kind != "protrusion" },
		func(z *catalog.Zone) Check { return p.port(z, &covers, known) }, "back.arms")
}

func (p *Pairing) port(z *catalog.Zone, covers *covers, known bool) (c Check) {
	if !known {
		c.Status = Unknown
		if !p.brief {
			c.Text = quantity.Say("Whether the %v lies under the bracket cannot be told: where the bracket comes on the back is not known.", zoneWords[z.Kind])
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

// plugsCheck: a plugged-in connector stays off the wall:
// plug ≤ profile + z + the socket's setback.
func plugsCheck(p *Pairing) Check {
	return p.worstZone(Check{Rule: "plugs", Text: quantity.Say("No plug that points to the wall is on record.")},
		func(z *catalog.Zone) bool { return z.Plug.Known }, p.plug, "side.plug")
}

func (p *Pairing) plug(zone *catalog.Zone) (c Check) {
	z, stacked := p.nearest()
	profile := p.Bracket.Profile
	if !profile.Known || !stacked {
		c.Status = Unknown
		switch {
		case p.brief:
		case !profile.Known:
			c.Text = quantity.Say("The bracket's profile is not known: whether a plug of %v touches the wall cannot be told.", zone.Plug.Value)
			c.Remedy = quantity.Say("Measure from the wall to the arms with the bracket closed.")
		default:
			c.Text = quantity.Say("Whether the plug touches the wall depends on the bolts, which are not chosen.")
		}
		return c
	}
	room := profile.Value + z + zone.Setback.Or(0)
	c.Measure = atMost(zone.Plug.Value, room, MM)
	if room < zone.Plug.Value {
		c.Status = Fail
	}
	switch {
	case p.brief:
	case c.Status == Fail:
		c.Text = quantity.Say("A plug stands out %v and has %v to the wall.", zone.Plug.Value, quantity.AtLeast(room))
		c.Remedy = quantity.Say("Use an angled plug of at most %v, or spacers that bring the display further out.", quantity.AtLeast(room))
	default:
		c.Text = quantity.Say("A plug that stands out %v has %v to the wall.", zone.Plug.Value, quantity.AtLeast(room))
	}
	return c
}

// protrusionCheck: nothing on the back hits wall plate or wall when closed,
// and under an arm it stands out no further than z.
func protrusionCheck(p *Pairing) Check {
	return p.worstZone(Check{Rule: "protrusion", Text: quantity.Say("Nothing that stands out of the back is on record.")},
		func(z *catalog.Zone) bool { return z.Kind == "protrusion" }, p.protrusion, "side.protrusion")
}

func (p *Pairing) protrusion(zone *catalog.Zone) Check {
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
	room, what := profile.Value+z, "the wall"
	if w := p.Bracket.WallPlate; w != nil && w.Thickness.Known {
		if plate, known := p.wallPlate(); !known || plate.gap(at) < 0 {
			room, what = room-w.Thickness.Value, "the wall plate"
		}
	}
	if covers.gap(at) < 0 {
		room, what = min(room, z), "the bracket over it"
	}
	c.Measure = atMost(zone.Out.Value, room, MM)
	if zone.Out.Value > room {
		c.Status = Fail
	}
	switch {
	case p.brief:
	case c.Status == Fail:
		c.Text = quantity.Say("A part stands out %v and has %v to %v.", zone.Out.Value, quantity.AtLeast(room), what)
		c.Remedy = quantity.Say("Spacers that bring the display %v further out would clear it.", quantity.AtMost(zone.Out.Value-room))
	default:
		c.Text = quantity.Say("A part that stands out %v has %v to %v.", zone.Out.Value, quantity.AtLeast(room), what)
	}
	return c
}
