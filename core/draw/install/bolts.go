package install

import (
	"fmt"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/draw/pairing"
	"nexufix/core/drawing"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// bags draws what is in the bags, all to one scale, with what is used ringed.
func (f *figures) bags() *drawing.Drawing {
	const columns, wide, high = 2, 92.0, 29.0
	d := f.canvas("What is in the bags", columns*wide)
	kit := f.p.Bracket.Kit
	used := map[string]int{}
	for _, p := range f.seq.Parts {
		used[p.Tag] += p.Count
	}
	pictures := pairing.KitPictures(kit)
	longest := 1.0
	for _, p := range pictures {
		longest = max(longest, p.Width())
	}
	factor := min(0.5, (wide-12)/longest)
	t := d.TextHeight * 0.8
	for n := range kit {
		x, y := float64(n%columns)*wide, -float64(n/columns)*high
		tag := fmt.Sprintf("kit.%d", n)
		says := "stays in the bag"
		if take := used[tag]; take > 0 {
			says = fmt.Sprintf("take %d", take)
			d.Add(tag, drawing.Glass, drawing.Rect(x+1, y-high+1, x+wide-1, y-1))
		} else if kit[n].Kind == catalog.Tool {
			says = "tool"
		}
		part := *pictures[n]
		part.Items = nil
		for _, i := range pictures[n].Items {
			i.Tag = tag
			part.Items = append(part.Items, i)
		}
		d.Embed(&part, factor, pt(x+4-part.Min.X*factor, y-8))
		bag := kit[n].Bag
		if bag == "" {
			bag = "–"
		}
		name := drawing.Clip(fmt.Sprintf("%d × %s", kit[n].Count*f.displays, f.language.Words(kit[n].Label())), (wide-8)/(t*0.62))
		d.Add(tag, drawing.Dim, drawing.Text{At: pt(x+4, y-high+2.9*t), Text: f.language.Said(name), Height: t, Anchor: drawing.Start})
		d.Add(tag, drawing.Dim, drawing.Text{At: pt(x+4, y-high+1.1*t), Text: quantity.Say("bag %v: %v", bag, says), Height: t,
			Anchor: drawing.Start, Strong: used[tag] > 0})
	}
	return framed(d)
}

// kitTag is the tag of a part of the stack: its line of the kit, or of the display's own parts.
func (f *figures) kitTag(match func(*catalog.Item) bool) string {
	for n := range f.p.Bracket.Kit {
		if match(&f.p.Bracket.Kit[n]) {
			return fmt.Sprintf("kit.%d", n)
		}
	}
	for n := range f.p.Display.OwnParts {
		if match(&f.p.Display.OwnParts[n]) {
			return fmt.Sprintf("own.%d", n)
		}
	}
	return "supply"
}

// A piece is one part on the bolt's axis.
type piece struct {
	tag   string
	style drawing.Style
	long  float64 // along the axis
	half  float64 // its half height
	bore  float64 // half of its bore; 0: solid
	name  quantity.Phrase
}

// pieces are what goes onto the bolt of a group, in the order that the fingers need: from the
// bolt's head on.
func (f *figures) pieces(h *stack.HoleStack) []piece {
	std := h.Thread.Standard()
	bore := std.Nominal.MM() / 2
	out := []piece{}
	for range h.Washers.Count {
		out = append(out, piece{f.kitTag(h.IsWasher), drawing.Washer, h.Washers.Thickness.MM(), h.Washers.Outer.MM() / 2, bore,
			quantity.Say("washer")})
	}
	if h.Shoulder > 0 {
		out = append(out, piece{f.kitTag(h.IsShoulder), drawing.Washer, h.Shoulder.MM(), h.Washers.Outer.MM()/2 - 1, bore,
			quantity.Say("shoulder washer")})
	}
	what := "arm"
	if f.p.Bracket.Interface.Type == catalog.Plate {
		what = "plate"
	}
	out = append(out, piece{"arms", drawing.Plate, f.p.Bracket.PlateThickness.MM(), max(h.Washers.Outer.MM()*0.8, 12),
		f.p.Bracket.Slot().MM() / 2,
		quantity.Say("%v", what)})
	for n := range h.Spacers {
		x := h.Spacers[len(h.Spacers)-1-n]
		out = append(out, piece{f.kitTag(func(i *catalog.Item) bool { return h.IsSpacer(i, x) }), drawing.Spacer, x.Length.MM(),
			x.Outer.MM() / 2, bore + 0.3, quantity.Say("spacer %v", quantity.FormatDecimal(int64(x.Length), 6))})
	}
	return out
}

// exploded draws each group's bolt with its parts one behind the other, to scale: the bolt on the
// left, the display on the right.
func (f *figures) exploded() *drawing.Drawing {
	if f.p.Stack == nil {
		return nil
	}
	d := f.canvas("What goes on the bolt, in this order", 150)
	t := d.TextHeight
	y := 0.0
	for i := range f.p.Stack.Groups {
		h := &f.p.Stack.Groups[i]
		std := h.Thread.Standard()
		const gap = 9.0
		half := max(h.Washers.Outer.MM()*0.8, 12)
		strong(d, fmt.Sprintf("stack.%d.name", i), pt(0, y), drawing.Start, "%v", strings.Join(h.Holes, ", "))
		axis := y - half - 2.2*t
		bolt := f.kitTag(h.IsBolt)
		head := std.PanHeadHeight.MM()
		d.Named(bolt, drawing.Bolt, drawing.Rect(0, axis-std.HeadDiameter.MM()/2, head, axis+std.HeadDiameter.MM()/2), "Bolt")
		d.Named(bolt, drawing.Bolt, drawing.Rect(head, axis-std.Nominal.MM()/2, head+h.Bolt.MM(), axis+std.Nominal.MM()/2), "Bolt")
		number := func(tag string, n int, x float64) { strong(d, tag, pt(x, axis+half+0.5*t), drawing.Middle, "%v", n) }
		number(bolt, 1, head+h.Bolt.MM()/2)
		size := quantity.FormatDecimal(int64(h.Bolt), 6)
		lines := []piece{{tag: bolt, name: quantity.Say("%v", fmt.Sprintf("bolt %s×%s", h.Thread, size))}}
		x := head + h.Bolt.MM() + gap
		for n, part := range f.pieces(h) {
			bore := min(part.bore, part.half*0.7)
			d.Add(part.tag, part.style, drawing.Rect(x, axis+bore, x+part.long, axis+part.half))
			d.Add(part.tag, part.style, drawing.Rect(x, axis-part.half, x+part.long, axis-bore))
			number(part.tag, n+2, x+part.long/2)
			lines = append(lines, part)
			x += part.long + gap
		}
		low := axis - half
		for n, part := range lines {
			if n%2 == 0 {
				low -= 1.6 * t
			}
			text(d, part.tag, pt(float64(n%2)*62, low), drawing.Start, "%v: %v", n+1, part.name)
		}
		tag := fmt.Sprintf("stack.%d.hole", i)
		bottom := f.hole(d, tag, h, bore{x, 1, axis, half})
		text(d, tag, pt((x+bottom)/2+3, axis+half+0.5*t), drawing.Middle, "display")
		d.Line("stack.axis", drawing.Centre, -4, axis, bottom, axis)
		y = low - 3*t
	}
	return framed(d)
}

// bore is where a hole is drawn: its rim, which way it goes in, its axis, and half of what is drawn about it.
type bore struct{ x, into, axis, half float64 }

// hole draws the hole of a group in section, its rim at x, into the display to the right or, with into
// -1, to the left; it answers where its bottom is.
func (f *figures) hole(d *drawing.Drawing, tag string, h *stack.HoleStack, at bore) float64 {
	x, into, axis, half := at.x, at.into, at.axis, at.half
	g := &f.p.Layout.Groups[h.Group]
	recess, deep := into*g.Recess.MM(), into*(g.Recess+g.ThreadDepth).MM()
	r := h.Thread.Standard().Nominal.MM() / 2
	for _, side := range []float64{1, -1} {
		if g.Recess > 0 {
			d.Add(tag, drawing.Body, drawing.Rect(x, axis+side*(r+3), x+recess, axis+side*half))
		}
		d.Named(tag, drawing.Body, drawing.Rect(x+recess, axis+side*r, x+deep, axis+side*half), "Hole in the display's back")
	}
	d.Add(tag, drawing.Panel, drawing.Rect(x+deep, axis-half, x+deep+3*into, axis+half))
	return x + deep
}

// tryBolts draws the bare bolt turned in as far as it goes with everything under it, and the gap
// to expect under its head.
func (f *figures) tryBolts() *drawing.Drawing {
	if f.p.Stack == nil {
		return nil
	}
	d := f.canvas("Gap to expect under the head", 90)
	t := d.TextHeight
	y := 0.0
	for i := range f.p.Stack.Groups {
		h := &f.p.Stack.Groups[i]
		std := h.Thread.Standard()
		r, half := std.Nominal.MM()/2, 11.0
		tag := fmt.Sprintf("try.%d", i)
		strong(d, tag, pt(-28, y), drawing.Start, "%v", strings.Join(h.Holes, ", "))
		axis := y - half - 3.4*t
		bottom := f.hole(d, tag, h, bore{0, -1, axis, half})
		// The tip is where it is in the stack; the head stands off the rim by what will be under it.
		under := h.HeadGap(f.p.Layout.Groups[h.Group].Recess).MM()
		d.Named("stack."+fmt.Sprint(i)+".bolt", drawing.Bolt, drawing.Rect(under-h.Bolt.MM(), axis-r, under, axis+r), "Bolt")
		d.Add("stack."+fmt.Sprint(i)+".bolt", drawing.Bolt,
			drawing.Rect(under, axis-std.HeadDiameter.MM()/2, under+std.PanHeadHeight.MM(), axis+std.HeadDiameter.MM()/2))
		d.Dimension(tag, pt(0, axis-half), pt(under, axis-half), -1.8*t, drawing.After, quantity.Say("gap %v",
			quantity.Bare{Length: quantity.FromMM(under)}))
		d.Line(tag, drawing.Centre, bottom-5, axis, under+std.PanHeadHeight.MM()+4, axis)
		y = axis - half - 5*t
	}
	return framed(d)
}
