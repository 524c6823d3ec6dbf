package pairing

import (
	"fmt"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/drawing"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// DisplayBack draws a display's back to scale, from behind, with its holes,
// cups and zones: what the catalogue knows of it. Its origin is the display's
// centre, or the first pattern's where the outline is not known; x is
// mirrored. Parts are tagged outline, hole.P.ID and zone.N; dimensions outline.width,
// outline.height, pattern.0.width and pattern.0.height.
func DisplayBack(d *catalog.Display) *drawing.Drawing {
	w, h, known := d.Outline(0)
	if !known {
		w, h = quantity.MM(300), quantity.MM(200)
		for _, p := range d.Patterns {
			w, h = max(w, p.Width+quantity.MM(120)), max(h, p.Height+quantity.MM(120))
		}
	}
	size := max(w.MM(), h.MM())
	p := &drawing.Drawing{Title: "Back of the display, from behind", TextHeight: size / 42, Pen: size / 900}
	t := p.TextHeight
	left, right, top, bottom := -w.MM()/2, w.MM()/2, h.MM()/2, -h.MM()/2
	p.Min, p.Max = drawing.Point{X: left - 4*t, Y: bottom - 4*t}, drawing.Point{X: right + 4*t, Y: top + 3*t}
	at := func(x, y float64) drawing.Point { return drawing.Point{X: x, Y: y} }
	if known {
		p.Named("outline", drawing.Body, drawing.Rect(left, bottom, right, top), "Outline, %v × %v", w, h)
		p.Dimension("outline.width", at(left, bottom), at(right, bottom), -1.8*t, drawing.After, bareWall(w.MM()))
		p.Dimension("outline.height", at(left, bottom), at(left, top), 1.6*t, drawing.After, bareWall(h.MM()))
	} else {
		p.Named("outline", drawing.Hidden, drawing.Rect(left, bottom, right, top), "The outline is not known")
		p.Label("outline", 0, bottom-1.6*t, drawing.Middle, "width and height are not known")
	}
	var later []func() // what is written where there is room left
	for i := range d.Zones {
		z := &d.Zones[i]
		x, y := -z.X.MM(), z.Y.MM()
		tag := fmt.Sprintf("zone.%d", i)
		p.Named(tag, drawing.Zone, drawing.Rect(x-z.Width.MM()/2, y-z.Height.MM()/2, x+z.Width.MM()/2, y+z.Height.MM()/2), "%v", zoneName(*z))
		later = append(later, func() { writeKind(p, tag, quantity.Say(z.Kind), x, y, z.Height.MM()/2) })
	}
	for i := range d.Patterns {
		patternOn(p, d, i)
	}
	for _, write := range later {
		write()
	}
	p.FrameTexts(t * 0.3)
	return p
}

// writeKind writes of what kind a zone is into it, or beside it where there is other lettering.
func writeKind(p *drawing.Drawing, tag string, kind quantity.Phrase, x, y, half float64) {
	t := p.TextHeight * 0.8
	p.Write(tag, drawing.Text{Text: kind, Height: t}, spot(x, y-t*0.4, drawing.Middle), spot(x, y+half-t*1.3, drawing.Middle),
		spot(x, y-half+t*0.3, drawing.Middle), spot(x, y+half+t*0.4, drawing.Middle), spot(x, y-half-t*1.4, drawing.Middle))
}

// patternOn draws one hole pattern of a display on its back.
func patternOn(p *drawing.Drawing, d *catalog.Display, index int) {
	pattern := &d.Patterns[index]
	x, y := d.PatternCenter(pattern, 0)
	cx, cy := -x.Value.MM(), y.Value.MM() // 0 where it is not known
	t := p.TextHeight
	at := func(x, y float64) drawing.Point { return drawing.Point{X: x, Y: y} }
	r := max(pattern.Thread.Standard().Nominal.MM()/2, t*0.3)
	for i := range pattern.Holes {
		h := &pattern.Holes[i]
		hx, hy := cx-h.X.MM(), cy+h.Y.MM()
		tag := fmt.Sprintf("hole.%d.%s", index, h.ID)
		if h.Recess.Length > 0 && h.RecessDiameter.Known {
			p.Add(tag, drawing.Thin, drawing.Circle{Center: at(hx, hy), Radius: max(h.RecessDiameter.Length.MM()/2, r*1.3)})
		}
		p.Named(tag, drawing.Bolt, drawing.Circle{Center: at(hx, hy), Radius: r}, "Hole %v: %v", h.ID, holeWords(pattern, h))
	}
	if index > 0 {
		return
	}
	w, h := pattern.Width.MM(), pattern.Height.MM()
	p.Dimension("pattern.0.width", at(cx-w/2, cy+h/2), at(cx+w/2, cy+h/2), 1.1*t, drawing.After, bareWall(w))
	if h > 0 {
		p.Dimension("pattern.0.height", at(cx+w/2, cy-h/2), at(cx+w/2, cy+h/2), -2*t, drawing.After, bareWall(h))
	}
	// Rows of equal holes are told once, outside of the pattern, as near as there is room.
	told := map[string]bool{}
	for i := range pattern.Holes {
		hole := &pattern.Holes[i]
		words := holeWords(pattern, hole)
		key := fmt.Sprint(hole.Y, words)
		if told[key] {
			continue
		}
		told[key] = true
		var places []drawing.Place
		for n := range 12 {
			if y := 1.4 * t * float64(n); hole.Y < 0 {
				places = append(places, spot(cx, cy+hole.Y.MM()-2.6*t-y, drawing.Middle))
			} else {
				places = append(places, spot(cx, cy+hole.Y.MM()+3.3*t+y, drawing.Middle))
			}
		}
		p.Write(fmt.Sprintf("hole.%d.%s", index, hole.ID), drawing.Text{Text: words, Height: t}, places...)
	}
}

// holeWords says in short what is known along a hole's axis.
func holeWords(p *catalog.Pattern, h *catalog.Hole) quantity.Phrase {
	name := p.Thread.String()
	if p.Thread == fastener.NoThread {
		name = "thread not known"
	}
	out := quantity.Say("%v", name)
	switch {
	case len(h.Trials) > 0:
		out = quantity.Say("%v, %v trial bolts", out, len(h.Trials))
	case h.ThreadDepth.Known:
		out = quantity.Say("%v, %v deep (%v)", out, h.ThreadDepth.Length, h.ThreadDepth.Origin.Word())
	default:
		out = quantity.Say("%v, depth not known", out)
	}
	if h.Recess.Length > 0 {
		out = quantity.Say("%v, in a recess of %v", out, h.Recess.Length)
	}
	if h.Setback.Length > 0 {
		out = quantity.Say("%v, rim offset %v", out, h.Setback.Length)
	}
	return out
}

// BracketFace draws what of a bracket holds the display, and its wall plate
// behind it, to scale and from the front: the arms at their widest with their
// slots, or the plate with its patterns; the hook line is the origin's height.
// Parts are tagged arm.N, slot.N.I, plate, pattern.N, wall and wall.ID; dimensions arms.width
// and arms.length.
func BracketFace(b *catalog.Bracket) *drawing.Drawing {
	p := &drawing.Drawing{Title: "Arms and wall plate, from the front"}
	i := &b.Interface
	var parts []func()
	lo, hi, half := -60.0, 30.0, 120.0
	if w := b.WallPlate; w != nil {
		datum := -w.HookAboveDatum.MM()
		pw, ph := w.Width.Or(quantity.MM(200)).MM()/2, w.Height.Or(quantity.MM(100)).MM()/2
		lo, hi, half = min(lo, datum-ph), max(hi, datum+ph), max(half, pw)
		parts = append(parts, func() {
			p.Named("wall", drawing.Plate, drawing.Rect(-pw, datum-ph, pw, datum+ph), "Wall plate")
			for _, h := range w.Holes {
				x, y, r := h.X.MM(), datum+h.Y.MM(), h.Diameter.MM()/2
				tag := "wall." + h.ID
				dx, dy := h.Across().MM()/2, h.Up().MM()/2
				p.Named(tag, drawing.Slot, drawing.RoundSlot(x-dx, y-dy, x+dx, y+dy, r), "Hole %v", h.ID)
			}
		})
	}
	if i.Type == catalog.Arms {
		out, thick := i.WidthMax.Value.MM()/2, max(i.ArmWidth.MM(), 12)/2
		lo, hi, half = min(lo, -i.ArmBottom.Value.MM()), max(hi, i.ArmTop.Value.MM()), max(half, out+thick)
		parts = append(parts, func() {
			for n, x := range []float64{-out, out} {
				p.Named(fmt.Sprintf("arm.%d", n), drawing.Arm, drawing.Rect(x-thick, -i.ArmBottom.Value.MM(), x+thick, i.ArmTop.Value.MM()), "Arm")
				for k, s := range i.Slots {
					p.Named(fmt.Sprintf("slot.%d", k), drawing.Slot, drawing.RoundSlot(x, -s.Max.MM(), x, -s.Min.MM(), b.Slot().MM()/2),
						"Slot, %v to %v below the hook line", s.Min, s.Max)
				}
			}
		})
	} else {
		w, h := i.Width.Or(quantity.MM(120)).MM()/2, i.Height.Or(quantity.MM(120)).MM()/2
		cy := -i.CenterBelowHook.Value.MM()
		lo, hi, half = min(lo, cy-h), max(hi, cy+h), max(half, w)
		parts = append(parts, func() {
			p.Named("plate", drawing.Arm, drawing.Rect(-w, cy-h, w, cy+h), "Plate")
			for k, s := range i.Patterns {
				for _, sx := range []float64{-1, 1} {
					for _, sy := range []float64{-1, 1} {
						p.Named(fmt.Sprintf("pattern.%d", k), drawing.Slot,
							drawing.Circle{Center: drawing.Point{X: sx * s.Width.MM() / 2, Y: cy + sy*s.Height.MM()/2},
								Radius: b.Slot().MM() / 2}, "%v × %v", s.Width, s.Height)
					}
				}
			}
		})
	}
	size := max(2*half, hi-lo)
	p.TextHeight, p.Pen = size/36, size/900
	t := p.TextHeight
	p.Min, p.Max = drawing.Point{X: -half - 4*t, Y: lo - 3*t}, drawing.Point{X: half + 4*t, Y: hi + 3*t}
	for _, draw := range parts {
		draw()
	}
	p.Line("hook", drawing.Level, -half-2*t, 0, half+2*t, 0)
	p.Label("hook", half+2.2*t, -0.3*t, drawing.Start, "hook line")
	if i.Type == catalog.Arms {
		out := i.WidthMax.Value.MM() / 2
		p.Dimension("arms.width", drawing.Point{X: -out, Y: -i.ArmBottom.Value.MM()}, drawing.Point{X: out, Y: -i.ArmBottom.Value.MM()}, -1.6*t,
			drawing.After,
			quantity.Say("%v to %v", quantity.Bare{Length: i.WidthMin.Value, Wall: true}, quantity.Bare{Length: i.WidthMax.Value, Wall: true}))
		p.Dimension("arms.length", drawing.Point{X: out + max(i.ArmWidth.MM(), 12)/2, Y: -i.ArmBottom.Value.MM()},
			drawing.Point{X: out + max(i.ArmWidth.MM(), 12)/2, Y: i.ArmTop.Value.MM()}, -1.4*t, drawing.After,
			bareWall(i.ArmBottom.Value.MM()+i.ArmTop.Value.MM()))
	}
	p.FrameTexts(t * 0.3)
	return p
}

// KitPictures draws the parts of a kit, one for each of its lines, all at one scale: bolts,
// washers and spacers from the side, their middle at the height of the origin.
func KitPictures(kit []catalog.Item) []*drawing.Drawing {
	out := make([]*drawing.Drawing, len(kit))
	for n := range kit {
		out[n] = partPicture(&kit[n])
	}
	return out
}

// partPicture draws one part.
func partPicture(i *catalog.Item) *drawing.Drawing {
	const half = 12.5 // of every picture's height, so that they share a scale; mm
	p := &drawing.Drawing{Title: partName(i).In(quantity.Metric), TextHeight: 6, Pen: 0.35}
	end := 12.0
	rect := func(style drawing.Style, x0, x1, r float64) {
		r = min(r, half-0.5)
		p.Add("part", style, drawing.Rect(x0, -r, x1, r))
		end = max(end, x1)
	}
	std := i.Thread.Standard()
	switch i.Kind {
	case "bolt":
		rect(drawing.Bolt, 0, std.PanHeadHeight.MM(), std.HeadDiameter.MM()/2)
		rect(drawing.Bolt, std.PanHeadHeight.MM(), std.PanHeadHeight.MM()+i.Length.MM(), std.Nominal.MM()/2)
	case "washer", "lag_washer":
		rect(drawing.Washer, 0, max(i.Thickness.MM(), 0.8), i.Outer.MM()/2)
	case "shoulder_washer":
		rect(drawing.Washer, 0, max(i.Thickness.MM(), 0.8), std.Nominal.MM())
	case "spacer":
		rect(drawing.Spacer, 0, i.Length.MM(), i.Outer.MM()/2)
	default:
		if !i.Kind.Fastens() {
			rect(drawing.Outline, 0, 12, 5)
			break
		}
		rect(drawing.Bolt, 0, 5, min(i.Diameter.MM(), 12))
		rect(drawing.Bolt, 5, 5+i.Length.MM(), i.Diameter.MM()/2)
	}
	p.Min, p.Max = drawing.Point{X: -1, Y: -half}, drawing.Point{X: end + 1, Y: half}
	return p
}

// partName names a kit line as people read it on the bag.
func partName(i *catalog.Item) quantity.Phrase {
	size := func(l quantity.Length) string { return quantity.FormatDecimal(int64(l), 6) }
	switch i.Kind {
	case "bolt":
		return quantity.Say("%v", i.Thread.String()+"×"+size(i.Length))
	case "washer":
		return quantity.Say("washer %v, %v wide", i.Thread.String(), size(i.Outer))
	case "shoulder_washer":
		return quantity.Say("shoulder washer %v", i.Thread.String())
	case "spacer":
		return quantity.Say("spacer %v, %v wide", size(i.Length), size(i.Outer))
	case "lag_washer":
		return quantity.Say("washer for a lag")
	}
	if i.Kind.Fastens() {
		return quantity.Say("%v", i.Label())
	}
	return quantity.Say("%v", strings.TrimSpace(i.Name))
}
