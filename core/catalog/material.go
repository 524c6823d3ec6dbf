package catalog

import (
	"slices"

	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// BoltHead is the form of a bolt's head, by its name in the exchange format.
type BoltHead string

// The heads.
const (
	PanHead     BoltHead = "pan"
	SocketHead  BoltHead = "socket"
	ButtonHead  BoltHead = "button"
	HexHead     BoltHead = "hex"
	Countersunk BoltHead = "countersunk"
)

// BoltHeads lists the heads; the first is the default.
var BoltHeads = []BoltHead{PanHead, SocketHead, ButtonHead, HexHead, Countersunk}

// Enum lists the names for the format's reader and schema.
func (BoltHead) Enum() []any { return anyOf(BoltHeads) }

// String is the name in the exchange format.
func (h BoltHead) String() string { return string(h) }

// Height returns how far a head stands over what is under it: a countersunk one does not.
// ISO 7045 pan, ISO 4762 socket, ISO 7380-1 button, ISO 4017 hex (memory).
func (h BoltHead) Height(t fastener.Thread) quantity.Length {
	tenths := map[BoltHead][5]int64{
		SocketHead: {0, 400, 500, 600, 800},
		ButtonHead: {0, 220, 275, 330, 440},
		HexHead:    {0, 280, 350, 400, 530},
	}
	switch h {
	case "", PanHead:
		return t.Standard().PanHeadHeight
	case Countersunk:
		return 0
	}
	return quantity.Length(tenths[h][t]) * quantity.Millimetre / 100
}

// Width returns a head's outer diameter, of a hex head across its flats (the same standards, memory).
func (h BoltHead) Width(t fastener.Thread) quantity.Length {
	hundredths := map[BoltHead][5]int64{
		SocketHead: {0, 700, 850, 1000, 1300},
		ButtonHead: {0, 760, 950, 1050, 1400},
		HexHead:    {0, 700, 800, 1000, 1300},
	}
	if of, ok := hundredths[h]; ok {
		return quantity.Length(of[t]) * quantity.Millimetre / 100
	}
	return t.Standard().HeadDiameter
}

// ThreadOf returns how much of a bolt's length is threaded: as given, all of it, or, for socket heads over
// 25, 25, 30 and 35 mm, 20, 22, 24 and 28 mm (ISO 4762, memory).
func (i *Item) ThreadOf() quantity.Length {
	long, threaded := [5]int64{0, 25, 25, 30, 35}, [5]int64{0, 20, 22, 24, 28}
	switch {
	case i.ThreadLength > 0:
		return i.ThreadLength
	case i.Head == SocketHead && i.Length > quantity.MM(long[i.Thread]):
		return quantity.MM(threaded[i.Thread])
	}
	return i.Length
}

// BaseMaterial is what a rating was found in: a type of wall, or one of the kinds of block or board.
type BaseMaterial string

// The kinds of block, and of board.
var (
	BlockKinds = []string{"solid", "hollow", "aerated", "old_brick"}
	BoardKinds = []string{"ply", "osb", "particle"}
)

// BaseMaterials lists them.
var BaseMaterials = func() (out []BaseMaterial) {
	for _, w := range WallTypes {
		out = append(out, BaseMaterial(w))
	}
	for _, k := range BlockKinds {
		out = append(out, BaseMaterial("block."+k))
	}
	return out
}()

// Enum lists the names for the format's reader and schema.
func (BaseMaterial) Enum() []any { return anyOf(BaseMaterials) }

// String is the name in the exchange format.
func (m BaseMaterial) String() string { return string(m) }

// Wall returns the type of wall that a material belongs to.
func (m BaseMaterial) Wall() WallType {
	if !slices.Contains(WallTypes, WallType(m)) {
		return Block
	}
	return WallType(m)
}
