package fit

import (
	"strconv"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Rect is an upright rectangle in front view, from the display's centre as
// hung. Half nanometres are rounded outward.
type Rect struct{ Left, Right, Bottom, Top quantity.Length }

func rectAround(at catalog.Point, w, h quantity.Length) Rect {
	w, h = w.HalfUp(), h.HalfUp()
	return Rect{at.X - w, at.X + w, at.Y - h, at.Y + h}
}

// gap returns the distance between two rectangles; negative if they overlap.
func (r Rect) gap(o Rect) quantity.Length {
	across := max(o.Left-r.Right, r.Left-o.Right)
	down := max(o.Bottom-r.Top, r.Bottom-o.Top)
	return max(across, down)
}

// ZonePlace returns the place of a zone of the back as hung.
func (p *Pairing) ZonePlace(z *catalog.Zone) Rect {
	w, h := p.Turn.Size(z.Width, z.Height)
	return rectAround(p.Turn.Of(catalog.Point{X: z.X, Y: z.Y}), w, h)
}

// center returns the pattern's centre from the display's as hung, false if it is
// not known.
func (p *Pairing) center() (catalog.Point, bool) {
	x, y := p.Display.PatternCenter(p.Pattern, p.Turn)
	return catalog.Point{X: x.Value, Y: y.Value}, x.Known && y.Known
}

// rects are up to two rectangles: the arms, the plate, or the wall plates.
type rects struct {
	rect [2]Rect
	n    int
}

// gap returns the distance of a place on the back from the nearest of them.
func (c *rects) gap(at Rect) quantity.Length {
	gap := c.rect[0].gap(at)
	for i := 1; i < c.n; i++ {
		gap = min(gap, c.rect[i].gap(at))
	}
	return gap
}

// covers returns the places of the arms, or of the plate, on the display's back;
// false if they are not known.
func (p *Pairing) covers() (rects, bool) {
	var out rects
	if p.Pattern == nil || p.Hang == nil {
		return out, false
	}
	c, known := p.center()
	i := &p.Bracket.Interface
	if i.Type == catalog.Plate {
		width, height, measured := i.PlateSize()
		out = rects{[2]Rect{rectAround(c, width, height)}, 1}
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

// WallSide is what is behind a hung display: its wall plates, and the distance of
// their middle from the display's.
type WallSide struct {
	Shift  quantity.Optional[quantity.Length]
	plates rects
	known  bool // the plates' places and sizes are known
}

// defaultWallSide returns the wall side if the wall is not known: the datum as near to the
// display's middle as the slide allows, two plates as far apart as the
// pattern is wide, or as near to it as possible.
func (p *Pairing) defaultWallSide() WallSide {
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

// OnWall returns the wall side of a display whose wall plates are at given places,
// from the display's middle; shift is their middle.
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
			out.plates.rect[out.plates.n] = rectAround(catalog.Point{X: x, Y: c.Y - p.Hang.CenterAboveDatum.Value}, w.Width.Value, w.Height.Value)
			out.plates.n++
		}
	}
	return out
}

// behind returns what is behind a place on the back: over is its thickness on
// the wall. It is not sure if a wall plate that is not described could be in
// the way; over is then the largest known
// value.
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

// nearest returns the smallest arm plane of a stack: where the display is
// nearest to the wall. The rules about what is behind the display use it.
func (p *Pairing) nearest() (quantity.Length, bool) { return p.stacked.Nearest, p.stacked.Found }

// Nearest returns the smallest arm plane of a pairing's stack, 0 without one.
func (p *Pairing) Nearest() quantity.Length { return p.stacked.Nearest }

// worse reports whether the second of two findings is worse: by status, then by margin.
func worse(a, b Finding) bool {
	if a.Status != b.Status {
		return b.Status > a.Status
	}
	return b.Measure.Given() && (!a.Measure.Given() || b.Measure.Margin < a.Measure.Margin)
}

// ZoneTag returns the tag of a zone in the drawing of the back.
func ZoneTag(i int) string { return "back.zone." + strconv.Itoa(i) }

// worstZone judges every zone that a rule is about, and keeps the worst finding, which marks its zone and another part of the drawing.
func (p *Pairing) worstZone(c *Check, mark, none string, is func(*catalog.Zone) bool, judge func(*catalog.Zone, *Check)) {
	id, found := c.Rule, false
	for i := range p.Display.Zones {
		z := &p.Display.Zones[i]
		if !is(z) {
			continue
		}
		one := p.other(1)
		one.inWords = c.inWords
		c.words(func() { one.Marks = []string{ZoneTag(i), mark} })
		if judge(z, one); !found || worse(c.Finding, one.Finding) {
			*c, found = *one, true
		}
	}
	if c.Rule = id; !found {
		c.words(func() { c.say(none) })
	}
}

// plateUnknown makes a check unknown because of a wall plate that is not described.
func (c *Check) plateUnknown() {
	c.is(Unknown, func() {
		c.say("The wall plate's size, thickness or place behind the display is not known, nor what it leaves room for.")
		c.advise("Measure the wall plate, and from the display's top to the middle of the pattern.")
	})
}

// JudgeAtPlates judges the rules that depend on the places of the wall plates, for a display on its
// wall: ports, plugs, protrusions and the swivel.
func (p *Pairing) JudgeAtPlates(side WallSide) []Check {
	var out []Check
	for _, x := range []struct {
		rule  *pairingRule
		judge func(*Check)
	}{
		{&portsRule, func(c *Check) { p.ports(c, &side) }}, {&plugsRule, func(c *Check) { p.plugs(c, &side) }},
		{&protrusionRule, func(c *Check) { p.protrusions(c, &side) }}, {&swivelRule, func(c *Check) { p.swivel(c, p.MotionOn(&side)) }},
	} {
		c := Check{Finding: Finding{Rule: x.rule.ID}, Marks: x.rule.Marks, inWords: true}
		x.judge(&c)
		out = append(out, c)
	}
	return out
}
