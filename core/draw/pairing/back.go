package pairing

import (
	"math"

	"nexufix/core/catalog"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/hang"
	"nexufix/core/quantity"
)

// Back draws the display's back as the installer sees it, from behind, with
// the bracket's arms or plate on it. Its origin is the pattern's centre; x is
// mirrored. It is nil for a display without a pattern.
func Back(p *fit.Pairing) *drawing.Drawing {
	if p.Pattern == nil {
		return nil
	}
	w, h := p.Turn.Size(p.Pattern.Width, p.Pattern.Height)
	b := back{Drawing: &drawing.Drawing{Title: "Back of the display, from behind"}, p: p, w: w.MM(), h: h.MM()}
	b.frame()
	b.outline()
	b.zones()
	if p.Hang != nil {
		b.interfaceOnIt()
	}
	b.pattern()
	b.names()
	b.FrameTexts(b.TextHeight * 0.3)
	return b.Drawing
}

type back struct {
	*drawing.Drawing
	p                        *fit.Pairing
	w, h                     float64 // pattern as hung
	left, right, top, bottom float64 // outline; a box around the pattern when it is not known
	known                    bool
	later                    []func() // what is written where there is room left
}

// frame finds the extent and from it the size of text and pen.
func (b *back) frame() {
	above, below := hang.Edges(b.p.Display, b.p.Pattern, b.p.Turn)
	x, _ := b.p.Display.PatternCenter(b.p.Pattern, b.p.Turn)
	width, _, ok := b.p.Display.Outline(b.p.Turn)
	b.known = ok && x.Known && above.Known && below.Known
	b.left, b.right, b.top, b.bottom = -b.w/2-60, b.w/2+60, b.h/2+60, -b.h/2-60
	if b.known {
		// From behind, what is right of the centre is left of it.
		b.left, b.right = x.Value.MM()-width.MM()/2, x.Value.MM()+width.MM()/2
		b.top, b.bottom = above.Value.MM(), -below.Value.MM()
	}
	lo, hi := b.bottom, b.top
	if hg := b.p.Hang; hg != nil && b.p.Bracket.Interface.Type == catalog.Arms {
		lo = min(lo, hg.CenterBelowHook.MM()-b.p.Bracket.Interface.ArmBottom.Value.MM())
		hi = max(hi, hg.CenterBelowHook.MM()+b.p.Bracket.Interface.ArmTop.Value.MM())
	}
	size := max(b.right-b.left, hi-lo)
	b.TextHeight = size / 42
	b.Pen = size / 900
	room := b.TextHeight
	b.Min = drawing.Point{X: min(b.left, -b.w/2) - 5*room, Y: lo - 4.5*room}
	b.Max = drawing.Point{X: max(b.right, b.w/2) + 5*room, Y: hi + 4.5*room}
}

func (b *back) outline() {
	if !b.known {
		b.Label("back.outline", 0, b.Min.Y+b.TextHeight, drawing.Middle, "outline not known")
		return
	}
	b.Named("back.outline", drawing.Body, drawing.Rect(b.left, b.bottom, b.right, b.top), "Display, %v × %v", mmLen(b.right-b.left),
		mmLen(b.top-b.bottom))
	t := b.TextHeight
	at := func(x, y float64) drawing.Point { return drawing.Point{X: x, Y: y} }
	b.Dimension("back.outline", at(b.left, b.bottom), at(b.right, b.bottom), -1.8*t, drawing.After, bareWall(b.right-b.left))
	b.Dimension("back.outline", at(b.left, b.bottom), at(b.left, b.top), 1.6*t, drawing.After, bareWall(b.top-b.bottom))
	if b.top > b.h/2 {
		b.Dimension("back.top", at(b.right, b.h/2), at(b.right, b.top), -1.6*t, drawing.After, bareWall(b.top-b.h/2))
		b.Line("back.top", drawing.Thin, b.w/2, b.h/2, b.right, b.h/2)
	}
	b.Line("back.centre", drawing.Centre, 0, b.bottom, 0, b.top)
}

func mmLen(f float64) quantity.Length { return quantity.FromMM(f) }

func bareWall(f float64) quantity.Phrase {
	return quantity.Say("%v", quantity.Bare{Length: quantity.FromMM(f), Wall: true})
}

func (b *back) zones() {
	x, y := b.p.Display.PatternCenter(b.p.Pattern, b.p.Turn)
	if !x.Known || !y.Known {
		return
	}
	for i, z := range b.p.Display.Zones {
		at := b.p.Turn.Of(catalog.Point{X: z.X, Y: z.Y})
		w, h := b.p.Turn.Size(z.Width, z.Height)
		cx, cy := -(at.X - x.Value).MM(), (at.Y - y.Value).MM()
		tag := fit.ZoneTag(i)
		b.Named(tag, drawing.Zone, drawing.Rect(cx-w.MM()/2, cy-h.MM()/2, cx+w.MM()/2, cy+h.MM()/2), "%v", zoneName(z))
		b.later = append(b.later, func() { writeKind(b.Drawing, tag, quantity.Say(z.Kind), cx, cy, h.MM()/2) })
	}
}

func zoneName(z catalog.Zone) quantity.Phrase {
	name := map[string]string{"port": "Port", "vent": "Vent", "label": "Label", "protrusion": "Stands out"}[z.Kind]
	if z.Plug.Known {
		return quantity.Say(name+", a plug stands out %v from it", z.Plug.Value)
	}
	return quantity.Say(name)
}

func (b *back) interfaceOnIt() {
	i := &b.p.Bracket.Interface
	hook := b.p.Hang.CenterBelowHook.MM()
	reach := max(b.w/2+i.ArmWidth.MM(), i.Width.Or(0).MM()/2) + 2*b.TextHeight
	if i.Type == catalog.Plate {
		w, h := i.Width.Or(quantity.FromMM(b.w+40)).MM(), i.Height.Or(quantity.FromMM(b.h+40)).MM()
		b.Named("back.arms", drawing.Arm, drawing.Rect(-w/2, -h/2, w/2, h/2), "Plate of the bracket")
	} else {
		half := max(i.ArmWidth.MM(), 16) / 2
		slot := b.p.Bracket.Slot().MM() / 2
		for _, x := range []float64{-b.w / 2, b.w / 2} {
			b.Named("back.arms", drawing.Arm, drawing.Rect(x-half, hook-i.ArmBottom.Value.MM(), x+half, hook+i.ArmTop.Value.MM()),
				"Arm of the bracket")
			for _, s := range i.Slots {
				b.Add("back.arms", drawing.Slot, drawing.RoundSlot(x, hook-s.Max.MM(), x, hook-s.Min.MM(), slot))
			}
		}
	}
	b.Line("back.hook", drawing.Level, -reach, hook, reach, hook)
	b.later = append(b.later, func() {
		t := b.TextHeight
		b.Write("back.hook", drawing.Text{Text: quantity.Say("hook line"), Height: t}, spot(reach+t*0.3, hook-t*0.3, drawing.Start),
			spot(-reach-t*0.3, hook-t*0.3, drawing.End), spot(reach-t*0.2, hook+t*0.4, drawing.End), spot(reach-t*0.2, hook-t*1.4, drawing.End))
	})
}

// names writes what can stand in more than one place, last of all.
func (b *back) names() {
	for _, write := range b.later {
		write()
	}
}

func spot(x, y float64, a drawing.Anchor) drawing.Place {
	return drawing.Place{At: drawing.Point{X: x, Y: y}, Anchor: a}
}

// pattern draws the holes, in their groups' places, with their names and the dimensions between
// them; of a small pattern these are in a detail beside the display.
func (b *back) pattern() {
	t := b.TextHeight
	if size := max(b.w, b.h); size > 0 && size < 7*t {
		factor := 10 * t / size
		reach := math.Hypot(b.w, b.h)/2 + 0.9*t
		b.holes(b.Drawing, false)
		b.Add("back.pattern", drawing.Thin, drawing.Circle{Radius: reach})
		detail := &drawing.Drawing{TextHeight: t / factor}
		b.holes(detail, true)
		b.between(detail, 2.2*detail.TextHeight, 2.2*detail.TextHeight)
		radius := math.Hypot(b.w, b.h)/2*factor + 3.6*t
		at := drawing.Point{X: b.Max.X + radius, Y: (b.Min.Y + b.Max.Y) / 2}
		b.Embed(detail, factor, at)
		b.Add("back.pattern", drawing.Thin, drawing.Circle{Center: at, Radius: radius})
		b.Line("back.pattern", drawing.Thin, reach, 0, at.X-radius, at.Y)
		b.Max.X = at.X + radius + 0.5*t
		b.Min.Y, b.Max.Y = min(b.Min.Y, at.Y-radius-0.5*t), max(b.Max.Y, at.Y+radius+0.5*t)
		return
	}
	above, beside := 2.2*t, 2.2*t
	if b.p.Hang != nil {
		above = max(above, b.p.Hang.TopHoles.MM()+b.p.Bracket.Interface.ArmTop.Value.MM()+1.4*t)
		beside += max(b.p.Bracket.Interface.ArmWidth.MM(), 16) / 2
	}
	b.between(b.Drawing, above, beside)
	b.holes(b.Drawing, true)
}

// holes draws the holes of the pattern into a drawing that has its centre as the origin, with
// their names or without.
func (b *back) holes(into *drawing.Drawing, named bool) {
	group := map[string]int{}
	if b.p.Stack != nil {
		for i, g := range b.p.Stack.Groups {
			for _, id := range g.Holes {
				group[id] = i
			}
		}
	}
	r := max(b.p.Pattern.Thread.Standard().Nominal.MM()/2, into.TextHeight*0.42)
	spots := make([]drawing.Spot, 0, len(b.p.Pattern.Holes))
	for _, hole := range b.p.Pattern.Holes {
		at := b.p.Turn.Of(catalog.Point{X: hole.X, Y: hole.Y})
		s := drawing.Spot{Tag: "back.hole." + hole.ID, Center: drawing.Point{X: -at.X.MM(), Y: at.Y.MM()}, Radius: r,
			Name: quantity.Say("%v", hole.ID)}
		style := drawing.Outline
		if g, ok := group[hole.ID]; ok {
			s.Tag = "stack." + string(rune('0'+g%10)) + ".hole." + hole.ID
			style = drawing.Bolt
		}
		into.Named(s.Tag, style, drawing.Circle{Center: s.Center, Radius: r}, "Hole %v, %v", hole.ID, b.p.Pattern.Thread)
		spots = append(spots, s)
	}
	if named {
		into.NameSpots(spots)
	}
}

// between draws how far the holes are apart, above the pattern and beside it.
func (b *back) between(into *drawing.Drawing, above, beside float64) {
	at := func(x, y float64) drawing.Point { return drawing.Point{X: x, Y: y} }
	into.Dimension("back.pattern", at(-b.w/2, b.h/2), at(b.w/2, b.h/2), above, drawing.After, bareWall(b.w))
	into.Dimension("back.pattern", at(b.w/2, -b.h/2), at(b.w/2, b.h/2), -beside, drawing.After, bareWall(b.h))
}
