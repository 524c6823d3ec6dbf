package anchorage

import (
	"cmp"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// BoreFit is how a fastener fits its hole.
type BoreFit uint8

// From right to wrong. Wider is wider than is needed and harmless; Narrow and Wide are cautions; a fastener that is Loose does
// not hold. Undrilled means that no size is given where one is needed; Disputed that table and item differ.
const (
	BoreRight BoreFit = iota
	BoreWider
	BoreNarrow
	BoreWide
	BoreUndrilled
	BoreDisputed
	BoreLoose
	BoreMisfit  // the screw does not suit its plug
	BoreUnsized // nobody says how thick the fastener is
)

// Bore is a fastener's hole: its diameter, what suits, and the share of the fastener's strength in wood that a hole
// wider than the thread's root leaves.
type Bore struct {
	Fit       BoreFit
	Diameter  optional
	Low, High quantity.Length // what suits; both 0: no hole is needed
	Share     float64
}

// bitOff is how far a masonry bit may differ from the size of its fixing (practice).
const bitOff = quantity.Millimetre / 2

// soldBits are in steps of half a millimetre (practice).
const soldBits = quantity.Millimetre / 2

// RootOf returns the root diameter of a lag's or a screw's thread: as given, else by its size (NDS appendix L, memory).
func RootOf(i *catalog.Item) quantity.Length {
	if said := i.SoundRoot(); said > 0 {
		return said
	}
	return quantity.FromMM(Root(i.Kind, inches(i.Diameter)) * 25.4)
}

// BitFor returns the bit that a fastener takes by its kind: its own, the size of a plug, sleeve or frame fixing, eight tenths of
// a concrete screw (practice); false for lags, screws and toggles, whose maker says it.
func BitFor(i *catalog.Item) (quantity.Length, bool) {
	switch share := i.Kind.Properties().Bit; {
	case i.Drill > 0:
		return i.Drill, true
	case i.Diameter == 0 || share == 0:
		return 0, false
	case share == 10:
		return i.Diameter, true
	default:
		return (i.Diameter * quantity.Length(share) / 10).Round(soldBits), true
	}
}

// BoreOf compares the hole of a choice with its fastener, in wood of specific gravity g. Lags: NDS 12.1.4; wood screws: none to
// G 0.5, 0.7 of the root to 0.6, 0.9 above (NDS 12.1.5, memory); a hole wider than the root leaves
// (D − d)/(D − D_r) of the strength, and from D − 0.5 mm on nothing. Masonry to half a millimetre; a plug's screw is half to eight
// tenths of it unless the plug says otherwise (practice). A screw in sheet has a hole of at the most 0.85 D (DIN 7975, memory: 4.0
// for 4.8); a toggle one of D to 4 D (practice: 1/2 in for 3/16).
func BoreOf(c *Choice, h *Hole, g float64) Bore {
	carrier := c.Carrier()
	out := Bore{Diameter: h.Diameter, Share: 1}
	own, has := BitFor(carrier)
	d := h.Diameter.Value
	if carrier.Drill > 0 && h.Diameter.Known && (d-own).Abs() > bitOff {
		out.Fit, out.Low, out.High = BoreDisputed, min(d, own), max(d, own)
		return out
	}
	switch {
	case carrier.Diameter == 0 && !has:
		out.Fit = BoreUnsized
	case c.Wall.Holds() == catalog.Wood && carrier.Kind.Properties().InWood:
		out.inWood(carrier, g)
	case has:
		out.Low, out.High = own-bitOff, own+bitOff
		switch {
		case !h.Diameter.Known:
			out.Fit = BoreUndrilled
		case d > out.High || carrier.Kind == catalog.ConcreteScrew && d < out.Low:
			out.Fit = BoreLoose
		case d < out.Low:
			out.Fit = BoreNarrow
		case c.Plug != nil && !suitsPlug(c.Plug, &c.Item):
			out.Fit = BoreMisfit
			out.Low, out.High = PlugTakes(c.Plug)
		}
	case carrier.Kind.Properties().Opens:
		out.folded(carrier)
	case !h.Diameter.Known && !carrier.Kind.Properties().InWood:
		out.Fit = BoreUndrilled
	case carrier.Kind == catalog.Screw: // in sheet
		if out.High = carrier.Diameter * 85 / 100; d > out.High {
			out.Fit = BoreLoose
		}
	}
	return out
}

// folded: a toggle's hole takes it folded, and not when it is open. Makers give its bolt or its body.
func (b *Bore) folded(i *catalog.Item) {
	b.Low, b.High = i.Diameter, 4*i.Diameter
	switch d := b.Diameter.Value; {
	case !b.Diameter.Known:
		b.Fit = BoreUndrilled
	case d > b.High:
		b.Fit = BoreLoose
	case d < b.Low:
		b.Fit = BoreNarrow
	}
}

func (b *Bore) inWood(i *catalog.Item, g float64) {
	root, d := RootOf(i), b.Diameter.Value
	lag := i.Kind == catalog.Lag
	switch {
	case lag:
		b.Low, b.High = Pilot(g, i.Diameter)
	case g > 0.6:
		b.Low, b.High = root*9/10, root
	case g > 0.5:
		b.Low, b.High = root*7/10, root
	default:
		b.High = root
	}
	switch {
	case !b.Diameter.Known:
		if b.Low > 0 {
			b.Fit = BoreUndrilled
		}
	case d >= i.Diameter-bitOff:
		b.Fit, b.Share = BoreLoose, 0
	case d > root:
		b.Fit, b.Share = BoreWide, float64(i.Diameter-d)/float64(i.Diameter-root)
	case d > b.High:
		b.Fit = BoreWide
	case d < b.Low:
		b.Fit = BoreNarrow
	case !lag && d > b.Low:
		b.Fit = BoreWider
	}
}

// PlugTakes returns the diameters of the screws that a plug takes.
func PlugTakes(plug *catalog.Item) (least, most quantity.Length) {
	return cmp.Or(plug.ScrewMin, plug.Diameter/2), cmp.Or(plug.ScrewMax, plug.Diameter*8/10)
}

func suitsPlug(plug, screw *catalog.Item) bool {
	least, most := PlugTakes(plug)
	return screw.Diameter == 0 || screw.Diameter >= least && screw.Diameter <= most
}

// HeadBearing is how wide a fastener's head, or the washer under it, bears on the wall plate.
type HeadBearing struct {
	Width  quantity.Length
	Washer bool // a washer is under it
	Known  bool // false: a washer is asked for, and the kit does not say how wide it is
}

// hexFlats are the widths across flats of hexagon heads by diameter, in millimetres (DIN 571, memory); between and beyond in
// proportion.
var hexFlats = [][2]float64{{0, 0}, {6, 10}, {8, 13}, {10, 17}}

// BearingOf returns the bearing width of a fastener: that of the kit's washer where the wall plate has one under lags, screws and
// toggles, else of its head, a
// wood screw's twice its diameter, others across the flats of a hexagon.
func BearingOf(b *catalog.Bracket, c *Choice) HeadBearing {
	kind := c.Item.Kind.Properties()
	loose := kind.InWood || kind.Opens
	if w := b.WallPlate; w != nil && w.Washer > 0 && loose {
		out := HeadBearing{Washer: true, Width: headWidth(&c.Item)}
		for i := range b.Kit {
			if x := &b.Kit[i]; x.Kind == catalog.LagWasher && x.Outer > 0 && (x.Diameter == 0 || c.Item.Diameter == 0 ||
				x.Diameter >= c.Item.Diameter) {
				out.Known, out.Width = true, max(out.Width, x.Outer)
			}
		}
		return out
	}
	return HeadBearing{Width: headWidth(&c.Item), Known: true}
}

func headWidth(i *catalog.Item) quantity.Length {
	if i.Kind == catalog.Screw {
		return 2 * i.Diameter
	}
	d := i.Diameter.MM()
	for n := 1; n < len(hexFlats); n++ {
		if a, b := hexFlats[n-1], hexFlats[n]; d <= b[0] {
			return quantity.FromMM(a[1] + (d-a[0])*(b[1]-a[1])/(b[0]-a[0]))
		}
	}
	last := hexFlats[len(hexFlats)-1]
	return quantity.FromMM(d * last[1] / last[0])
}
