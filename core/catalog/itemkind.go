package catalog

import "slices"

// ItemKind is a kind of part in a kit, by its name in the exchange format.
type ItemKind string

// The kinds of part.
const (
	Bolt           ItemKind = "bolt"
	Washer         ItemKind = "washer"
	Spacer         ItemKind = "spacer"
	ShoulderWasher ItemKind = "shoulder_washer"
	Lag            ItemKind = "lag"
	LagWasher      ItemKind = "lag_washer"
	Screw          ItemKind = "screw"
	Plug           ItemKind = "plug" // with its lag or screw
	SleeveAnchor   ItemKind = "sleeve_anchor"
	ConcreteScrew  ItemKind = "concrete_screw"
	FrameFixing    ItemKind = "frame_fixing"
	Toggle         ItemKind = "toggle"
	Anchor         ItemKind = "anchor" // an older word: read as what its walls suggest
	PlainPart      ItemKind = "part"
	Tool           ItemKind = "tool"
)

// ItemProperties are what a kind of part is.
type ItemProperties struct {
	Kind     ItemKind
	Word     string // that people read, where the part has no name of its own
	Short    string // on the template
	InWood   bool   // its thread holds in wood
	OnePiece bool   // a masonry fixing that needs no other part
	Sleeved  bool   // its sleeve may stay behind the plate
	Cones    bool   // a pull breaks a cone of masonry out
	Opens    bool   // it opens behind a board
	Bit      int    // the bit that it takes, in tenths of its diameter (practice); 0: its maker says it
}

// Items are all kinds of part.
var Items = []ItemProperties{
	{Kind: Bolt, Word: "bolt"},
	{Kind: Washer, Word: "washer"},
	{Kind: Spacer, Word: "spacer"},
	{Kind: ShoulderWasher, Word: "shoulder washer"},
	{Kind: Lag, Word: "lag screw", Short: "lag", InWood: true},
	{Kind: LagWasher, Word: "washer for lag screw"},
	{Kind: Screw, Word: "wood screw", Short: "screw", InWood: true},
	{Kind: Plug, Word: "wall plug", Bit: 10},
	{Kind: SleeveAnchor, Word: "sleeve anchor", OnePiece: true, Sleeved: true, Cones: true, Bit: 10},
	{Kind: ConcreteScrew, Word: "concrete screw", OnePiece: true, Cones: true, Bit: 8},
	{Kind: FrameFixing, Word: "frame fixing", OnePiece: true, Sleeved: true, Bit: 10},
	{Kind: Toggle, Word: "toggle", Opens: true},
	{Kind: Anchor, Word: "anchor"},
	{Kind: PlainPart, Word: "part"},
	{Kind: Tool, Word: "tool"},
}

// ItemKinds lists the kinds of part.
var ItemKinds = func() (out []ItemKind) {
	for _, p := range Items {
		out = append(out, p.Kind)
	}
	return out
}()

// Properties are those of the kind; of an unknown one the zero value.
func (k ItemKind) Properties() *ItemProperties {
	for i := range Items {
		if Items[i].Kind == k {
			return &Items[i]
		}
	}
	return new(ItemProperties)
}

// ParseItemKind reads a kind by its name; false for one that is not known.
func ParseItemKind(s string) (ItemKind, bool) {
	k := ItemKind(s)
	return k, slices.Contains(ItemKinds, k)
}

// String is the name in the exchange format.
func (k ItemKind) String() string { return string(k) }

// Enum lists the names for the format's reader and schema.
func (ItemKind) Enum() []any { return anyOf(ItemKinds) }

// Fastens reports whether the kind is one that goes into walls.
func (k ItemKind) Fastens() bool {
	return k == Anchor || slices.ContainsFunc(Walls, func(w WallProperties) bool { return slices.Contains(w.Fasteners, k) })
}

// Word is what people call a part of this kind.
func (k ItemKind) Word() string { return k.Properties().Word }

// Resolved is the item as a kind that is made for something: an older anchor is
// what the walls it is for suggest, false when they do not tell.
func (i Item) Resolved() (Item, bool) {
	if i.Kind != Anchor {
		return i, true
	}
	kind := Anchor
	for _, w := range i.For {
		k := w.row().OldAnchor
		if k == "" || kind != Anchor && k != kind {
			return i, false
		}
		kind = k
	}
	i.Kind = kind
	return i, kind != Anchor
}

// MadeFor reports whether the item is made for a wall: as it says, else as its
// kind is.
func (i Item) MadeFor(w WallType) bool {
	if len(i.For) > 0 {
		return slices.Contains(i.For, w)
	}
	return slices.Contains(w.row().Fasteners, i.Kind)
}

// RatingFor is what the item holds in a wall: of its ratings by wall, else its
// bare figures, which hold for the single wall it is for, or else for solid
// concrete alone. False when there is none for this wall. In blocks of a kind the rating by that kind
// counts, a rating of blocks only for solid ones; of an unknown kind ("") the least of those given.
func (i Item) RatingFor(w WallType, blocks string) (Rating, bool) {
	if w == Block {
		if r, ok := i.ratingInBlocks(blocks); ok {
			return r, r.Pull > 0 && r.Shear > 0
		}
		if blocks != "" && blocks != "solid" {
			return Rating{}, false
		}
	}
	if r, ok := i.Ratings[BaseMaterial(w)]; ok {
		return r, r.Pull > 0 && r.Shear > 0
	}
	only := Concrete
	if len(i.For) == 1 {
		only = i.For[0]
	}
	if w != only || i.Pull <= 0 || i.Shear <= 0 {
		return Rating{}, false
	}
	return Rating{Pull: i.Pull, Shear: i.Shear}, true
}

// ratingInBlocks returns the rating in blocks of a kind; of an unknown kind the least pull and shear of all
// that the item has.
func (i Item) ratingInBlocks(kind string) (least Rating, ok bool) {
	if kind != "" {
		r, ok := i.Ratings[BaseMaterial("block."+kind)]
		return r, ok
	}
	for m, r := range i.Ratings {
		if m.Wall() != Block {
			continue
		}
		if !ok {
			least, ok = r, true
			continue
		}
		least.Pull, least.Shear = min(least.Pull, r.Pull), min(least.Shear, r.Shear)
	}
	return least, ok
}
