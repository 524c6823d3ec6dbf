package fit

import (
	"strconv"
	"strings"

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

var zoneWords = map[string]string{"pocket": "pocket", "port": "port", "vent": "vent", "label": "label",
	"protrusion": "part that stands out"}

// ZoneTag returns the tag of a zone in the drawing of the back.
func ZoneTag(i int) string { return "back.zone." + strconv.Itoa(i) }

// about is the part of the back that a check is about: a zone, counted from 1, its place or its
// air; or a wall plate that is not described.
type about struct {
	zone       int
	air, plate bool
	threads    bool // the display's own, and what it weighs
	unsaid     bool // what nobody has told of
	under      bool // the bracket's arm or plate, and not beside it
	stands     bool // a spacer would stand on it
}

// worstZone returns the worst finding of a rule about zones.
func (p *Pairing) worstZone(is func(*catalog.Zone) bool, judge func(*catalog.Zone) Finding) (c Finding) {
	for i := range p.Display.Zones {
		if z := &p.Display.Zones[i]; is(z) {
			one := judge(z)
			if one.about.zone = i + 1; c.about.zone == 0 || worse(c, one) {
				c = one
			}
		}
	}
	return c
}

// zone returns the zone that a check is about and marks it and another part of the drawing;
// nil if there was none to judge and the check is complete.
func (p *Pairing) zone(c *Check, mark, none string) *catalog.Zone {
	i := c.about.zone - 1
	if i < 0 {
		c.say(none)
		return nil
	}
	c.Marks = []string{ZoneTag(i), mark}
	if c.about.plate {
		c.say("The wall plate's size, thickness or place behind the display is not known, nor what it leaves room for.")
		c.advise("Measure the wall plate, and from the display's top to the middle of the pattern.")
		return nil
	}
	return &p.Display.Zones[i]
}

// plateUnknown makes a finding unknown because of a wall plate that is not described.
func (c *Finding) plateUnknown() { c.Status, c.about.plate = Unknown, true }

// portsCheck: no port, vent or label under an arm or plate, and a vent has its
// free space behind it (practice).
func portsCheck(p *Pairing) Finding { return p.ports(&p.side) }

func (p *Pairing) ports(side *WallSide) Finding {
	var covers rects
	known := false
	if len(p.Display.Zones) > 0 {
		covers, known = p.covers()
	}
	return p.worstZone(func(z *catalog.Zone) bool { return z.Kind != "protrusion" && z.Kind != "pocket" }, func(z *catalog.Zone) Finding {
		c := p.port(z, &covers, known)
		if z.Clear.Known {
			if air := p.vent(z, side); worse(c, air) {
				return air
			}
		}
		return c
	})
}

func (p *Pairing) port(z *catalog.Zone, covers *rects, known bool) (c Finding) {
	if !known {
		c.Status = Unknown
		return c
	}
	gap := covers.gap(p.ZonePlace(z))
	c.Measure = atLeast(gap, 0, MM)
	c.Measure.Coarse = true
	switch {
	case gap >= 0 && p.Bracket.Interface.Type == catalog.Arms && p.Bracket.Interface.ArmWidth == 0 && gap < usualArm:
		c.Status, c.about.plate = Unknown, false // as wide as usual it would lie on the zone
	case gap < 0:
		p.underArm(z, &c)
	}
	return c
}

// usualArm is half the width of wide arms, for brackets that do not say how wide theirs are (practice).
const usualArm = 25 * quantity.Millimetre

// underArm judges a zone that an arm, or the plate, lies on: a label is only hidden; a port is reached by nobody
// afterwards, and a vent breathes, if the arm stays clear of them; else they are in the way.
func (p *Pairing) underArm(z *catalog.Zone, c *Finding) {
	c.about.under = true
	plane, stacked := p.nearest()
	need, said := clearanceOf(z)
	switch {
	case z.Kind == "label":
		c.Status, c.Measure = Note, Measure{}
		return
	case !said && z.Kind == "port" && stacked:
		c.Status = Unknown
		return
	case !said || !stacked || plane < need:
		c.Status = Fail
	case z.Kind == "port":
		c.Status = Caution
	}
	if said && stacked {
		c.Measure = atLeast(plane, need, MM)
	}
}

// vent: the gap behind a zone that needs air is at least what it asks.
func (p *Pairing) vent(z *catalog.Zone, side *WallSide) (c Finding) {
	c.about.air = true
	nearest, stacked := p.nearest()
	if !p.Bracket.Profile.Known || !stacked {
		c.Status = Unknown
		return c
	}
	over, _, sure := p.behind(p.ZonePlace(z), side)
	room := p.Bracket.Profile.Value + nearest + z.Setback.Or(0) - over
	c.Measure = atLeast(room, z.Clear.Value, MM)
	if room < z.Clear.Value {
		c.Status = Caution
	} else if !sure {
		c.plateUnknown()
	}
	return c
}

func portsWords(p *Pairing, c *Check) { p.portsWords(c, &p.side) }

func (p *Pairing) portsWords(c *Check, side *WallSide) {
	z := p.zone(c, "back.arms", "No port, vent or label is on record.")
	if z == nil {
		return
	}
	word, gap := zoneWords[z.Kind], quantity.Length(c.Measure.Value)
	if c.about.air {
		_, what, _ := p.behind(p.ZonePlace(z), side)
		switch c.Status {
		case Unknown:
			c.say("It is not known whether the %v has its %v of air behind it: the bracket's profile or the bolts are missing.", word,
				z.Clear.Value)
		case Caution:
			c.say("The %v has %v of air to %v and asks for %v.", word, quantity.AtLeast(gap), what, z.Clear.Value)
			c.advise("Bring the display further out, or ask its maker whether less will do.")
		default:
			c.say("The %v has %v of air to %v.", word, quantity.AtLeast(gap), what)
		}
		return
	}
	what := "the arms"
	if p.Bracket.Interface.Type == catalog.Plate {
		what = "the plate"
	}
	if c.about.under {
		p.underArmWords(z, c, what)
		return
	}
	switch c.Status {
	case Unknown:
		if c.Measure.Given() {
			c.say("The %v lies %v from where the arms' slots are, and how wide the arms are is not on record.", word, quantity.Coarse(gap,
				quantity.Down))
			c.advise("Measure how wide an arm is.")
			return
		}
		c.say("It is not known whether the %v is under the bracket: the bracket's place on the back is missing.", word)
		if p.Hang != nil {
			c.advise("Measure the display's height, and from its top to the middle of the pattern.")
		}
	default:
		c.say("The nearest %v is %v clear of %v.", word, quantity.Coarse(gap, quantity.Down), what)
	}
}

// underArmWords says what becomes of a zone under an arm.
func (p *Pairing) underArmWords(z *catalog.Zone, c *Check, what string) {
	word := zoneWords[z.Kind]
	plane, _ := p.nearest()
	need, said := clearanceOf(z)
	switch {
	case z.Kind == "label":
		c.say("A label is hidden under %v.", what)
	case c.Status == Unknown:
		c.say("The port lies under %v, and how far its plug stands out is not known.", what)
		c.advise("Measure a plugged-in connector; 0 when it points down or aside.")
	case c.Status == Caution:
		c.say("The port lies under %v, with %v free there: plug it in before the bracket goes on, for nobody reaches it afterwards.", what,
			quantity.AtLeast(plane))
	case c.Status == Pass:
		c.say("%v pass over the %v and leave it %v.", capital(what), word, quantity.AtLeast(plane))
	case !said:
		c.say("The %v lies %v under %v.", word, quantity.Coarse(-quantity.Length(c.Measure.Value), quantity.Up), what)
		c.advise("Another arm position, or another bracket, may leave it free.")
	default:
		c.say("The %v lies under %v. It needs %v there, and has %v.", word, what, need, quantity.AtLeast(plane))
		c.advise("Another arm position, longer spacers, or another bracket may leave it free.")
	}
}

// capital begins a sentence with words.
func capital(s string) string { return strings.ToUpper(s[:1]) + s[1:] }

// Again judges the rules that depend on the places of the wall plates, for a display on its
// wall: ports, plugs, protrusions and the swivel.
func (p *Pairing) Again(side WallSide) []Check {
	again := func(rule Rule, found Finding, words func(*Check)) Check {
		found.Rule = rule
		c := Check{Finding: found}
		words(&c)
		return c
	}
	return []Check{
		again(PortsRule, p.ports(&side), func(c *Check) { p.portsWords(c, &side) }),
		again(PlugsRule, p.plugs(&side), func(c *Check) { p.plugsWords(c, &side) }),
		again(ProtrusionRule, p.protrusions(&side), func(c *Check) { p.protrusionWords(c, &side) }),
		again(SwivelRule, p.swivel(p.MotionOn(&side)), func(c *Check) {
			c.Marks = []string{"side.swivel"}
			swivelWords(p, c)
		}),
	}
}
