package anchorage

import (
	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

type optional = quantity.Optional[quantity.Length]

// Layers are the layers of a fastener, from its head: the wall
// plate with its washer, the covering, a cavity, and the base material.
type Layers struct {
	Plate, Covering, Cavity optional
	Washer                  quantity.Length
	Backing                 optional // depth of the stud, board, backer or masonry
	Assumed                 bool     // Backing is the usual one
}

// LayersOf returns the layers of a bracket's plate on a wall. An absent cavity is
// 0, except in walls that have one.
func LayersOf(b *catalog.Bracket, w *catalog.Wall) Layers {
	kind := w.Type.Properties()
	l := Layers{Covering: w.Covering, Cavity: w.Cavity, Backing: w.Backing}
	if p := b.WallPlate; p != nil {
		l.Plate, l.Washer = p.Thickness, p.Washer
	}
	if !l.Cavity.Known && !kind.Cavity {
		l.Cavity = quantity.Some(quantity.Length(0))
	}
	if kind.BackingMost > 0 && l.Backing.Value > kind.BackingMost {
		l.Backing = optional{} // implausibly deep
	}
	if !l.Backing.Known && kind.Backing > 0 {
		l.Backing, l.Assumed = quantity.Some(kind.Backing), true
	}
	return l
}

// Past returns how far a fastener of a length comes past plate and washer; false
// if the plate is not known.
func (l *Layers) Past(length quantity.Length) (quantity.Length, bool) {
	return length - l.Plate.Value - l.Washer, l.Plate.Known && length > 0
}

// Before returns the distance from the wall's surface to the base material:
// covering and cavity; false if one is not known.
func (l *Layers) Before() (quantity.Length, bool) {
	return l.Covering.Value + l.Cavity.Value, l.Covering.Known && l.Cavity.Known
}

// In returns how far a fastener of a length goes into the base material, with its
// tip; false if a layer is not known.
func (l *Layers) In(length quantity.Length) (quantity.Length, bool) {
	past, known := l.Past(length)
	before, told := l.Before()
	return past - before, known && told
}

// Inside returns how deep a tip or a hole may be from the wall's surface: 3 mm less
// than the base material (practice); false if that is not known.
func (l *Layers) Inside() (quantity.Length, bool) {
	before, told := l.Before()
	return before + l.Backing.Value - tipInside, told && l.Backing.Known
}

// What holes and tips need (practice).
const (
	tipInside    = 3 * quantity.Millimetre  // between a tip and the back of the base material
	beyondTip    = 6 * quantity.Millimetre  // of a pilot, beyond the tip
	beyondAnchor = 10 * quantity.Millimetre // of a hole in masonry
)

// Hole is the hole for one of a plate's points, measured from the finished wall's
// surface.
type Hole struct {
	Wall     catalog.WallType
	Fastener string // a short name of its kind
	Item     string // the item, as on lists
	Diameter optional
	Depth    optional
	Most     optional // the deepest that leaves enough behind it
	Maker    optional // the depth that the bracket's table gives
	Need     optional // the depth that the fastener needs
}

// Short reports whether the maker's hole is shorter than the fastener needs.
func (h Hole) Short() bool { return h.Maker.Known && h.Need.Known && h.Maker.Value < h.Need.Value }

// HoleFor returns the hole for an item of a bracket's kit, or for its plug, in a type
// of wall. In a stud, board or thin backer it is limited to 3 mm less than the material,
// and to a maker's smaller figure; in masonry to what leaves enough behind it. It is given in half millimetres, never beyond
// a limit. If a figure is missing it has the maker's depth.
func HoleFor(b *catalog.Bracket, c *Choice, l *Layers) Hole {
	said := b.Walls[c.Wall]
	h := Hole{Wall: c.Wall, Fastener: c.Word(), Item: c.Label(), Diameter: said.Drill, Depth: said.Depth, Maker: said.Depth}
	if !c.Known() {
		return h
	}
	carrier := c.Carrier()
	if own, has := BitFor(carrier); has && !h.Diameter.Known {
		h.Diameter = quantity.Some(own)
	}
	past, known := l.Past(c.Item.Length)
	before, told := l.Before()
	switch {
	case c.Plug != nil:
		if told && c.Plug.Length > 0 {
			deep := c.Plug.Length + beyondAnchor
			if known { // the screw comes through its plug
				deep = max(deep, past-before+c.Item.Diameter)
			}
			h.Need = quantity.Some(before + deep)
		}
	case carrier.Kind.Properties().OnePiece:
		if known {
			h.Need = quantity.Some(past + beyondAnchor)
		}
	case carrier.Kind.Properties().InWood:
		if known {
			h.Need = quantity.Some(past + beyondTip)
		}
	}
	if !h.Need.Known {
		return h
	}
	depth := h.Need.Value.Ceil(halfMillimetre)
	down := func(most quantity.Length) quantity.Length { return max(0, min(depth, most.Floor(halfMillimetre))) }
	if c.Wall.Properties().Backed {
		if most, ok := l.Inside(); ok {
			h.Most = quantity.Some(most)
			depth = down(most)
		}
		if h.Maker.Known {
			depth = down(h.Maker.Value)
		}
	}
	if c.Wall.Holds() == catalog.Masonry && told && l.Backing.Known {
		most := before + l.Backing.Value - behindMasonry(h.Diameter.Value)
		h.Most, depth = quantity.Some(most), down(most)
	}
	h.Depth = quantity.Some(depth)
	return h
}

// halfMillimetre is how exactly a hole's depth is given.
const halfMillimetre = quantity.Millimetre / 2

// behindMasonry returns how much of a masonry wall stays behind a hole of a diameter: 30 mm, or two diameters (usual approvals,
// memory).
func behindMasonry(diameter quantity.Length) quantity.Length {
	return max(30*quantity.Millimetre, 2*diameter)
}

// ThinnestMasonry returns the least thickness of a masonry wall for an embedment: twice that, or 80 mm (EN 1992-4, memory).
func ThinnestMasonry(hef quantity.Length) quantity.Length { return max(2*hef, 80*quantity.Millimetre) }

// Reach compares a fastener's depth in the wall with the needed
// depth.
type Reach struct {
	Value, Need optional // Value unknown: a layer is not known; Need unknown: none
	Short       quantity.Length
	Soft        bool // it is short, but only as far as is a caution
}

// Embedment returns the depth of a masonry fixing. A plug must be wholly behind covering
// and cavity and its screw go through it; up to one diameter less
// is a caution. A fixing of one piece needs the depth that it requires, or 40 mm, 50 mm in
// lined masonry (practice).
func Embedment(c *Choice, l *Layers) Reach {
	in, known := l.In(c.Item.Length)
	out := Reach{Value: optional{Value: in, Known: known}}
	soft := quantity.Length(0)
	switch said := c.Carrier().SoundEmbedment(); {
	case c.Plug != nil:
		out.Need = optional{Value: said, Known: said > 0}
		soft = c.Item.Diameter
	case said > 0:
		out.Need = quantity.Some(said)
	default:
		out.Need = quantity.Some(c.Wall.Properties().Embedment)
	}
	out.Value.Known = out.Value.Known && out.Need.Known
	out.Short = max(0, out.Need.Value-in)
	out.Soft = out.Short > 0 && out.Short <= soft
	return out
}

// Needed depth in wood (NDS, memory; the 38 mm practice).
const (
	lagDiameters   = 4
	screwDiameters = 6
	usualLag       = 38 * quantity.Millimetre
)

// Penetration returns the depth of a lag or screw in wood. It needs past covering and cavity
// what the bracket's table requires, or 38 mm for a lag; what its maker requires; four diameters of a lag
// without its tip, six of a screw. In boards and backers too thin for that a
// screw through two thirds of them is a caution.
func Penetration(b *catalog.Bracket, c *Choice, l *Layers) Reach {
	in, known := l.In(c.Item.Length)
	i := &c.Item
	out := Reach{Value: optional{Value: in, Known: known}}
	need := max(b.Walls[c.Wall].PenetrationMin.Or(0), i.EmbedmentMin)
	most := in
	if l.Backing.Known {
		most = min(in, l.Backing.Value)
	}
	thin := false
	if i.Kind == catalog.Lag {
		if !b.Walls[c.Wall].PenetrationMin.Known {
			need = max(usualLag, i.EmbedmentMin)
		}
		need = max(need, lagDiameters*i.Diameter+LagTip(i.Diameter))
	} else {
		own := screwDiameters * i.Diameter
		if l.Backing.Known && c.Wall != catalog.WoodStud && l.Backing.Value < own+tipInside {
			thin = need <= most && 3*most >= 2*l.Backing.Value
		}
		need = max(need, own)
	}
	out.Need = quantity.Some(need)
	out.Value.Value = most
	out.Short = max(0, need-most)
	out.Soft = out.Short > 0 && thin
	return out
}
