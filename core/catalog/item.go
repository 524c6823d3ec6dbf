package catalog

import (
	"cmp"

	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Item is one line of a kit or of a display's own parts. Which figures it has
// depends on its kind; 0 is none.
type Item struct {
	Kind      ItemKind          `json:"kind" required:"true"`
	Name      string            `json:"name,omitempty" maxLength:"120"`
	Thread    fastener.Thread   `json:"thread,omitzero"`
	Threads   []fastener.Thread `json:"threads,omitempty" minItems:"1" maxItems:"4"` // that pass a spacer
	Length    quantity.Length   `json:"length_mm,omitzero" exclusiveMinimum:"0" maximum:"500"`
	Thickness quantity.Length   `json:"thickness_mm,omitzero" exclusiveMinimum:"0" maximum:"50"`
	Outer     quantity.Length   `json:"outer_mm,omitzero" exclusiveMinimum:"0" maximum:"200"`
	Diameter  quantity.Length   `json:"diameter_mm,omitzero" exclusiveMinimum:"0" maximum:"50"`
	Count     int               `json:"count" required:"true" minimum:"1" maximum:"10000"`
	Bag       string            `json:"bag,omitempty" maxLength:"20"`
	Use       string            `json:"use,omitempty" enum:"arms,lock,cables"`

	// A bolt's head; "": a pan head.
	Head BoltHead `json:"head,omitempty"`

	// The length of the thread of a lag or screw, with its tip, or of a bolt; 0: the usual one.
	ThreadLength quantity.Length `json:"thread_length_mm,omitzero" exclusiveMinimum:"0" maximum:"500"`

	// The types of wall that a fastener is made for; none: those of its kind.
	For []WallType `json:"for,omitempty" minItems:"1" maxItems:"8"`

	// The capacity of one anchor in pull and shear, in one base material: rated,
	// or ultimate.
	Pull        quantity.Mass           `json:"pull_kg,omitzero" exclusiveMinimum:"0" maximum:"100000"`
	Shear       quantity.Mass           `json:"shear_kg,omitzero" exclusiveMinimum:"0" maximum:"100000"`
	Ratings     map[BaseMaterial]Rating `json:"ratings,omitempty"`                            // besides or instead of Pull and Shear
	RatingBasis string                  `json:"rating_basis,omitempty" enum:"rated,ultimate"` // "": not known

	EmbedmentMin quantity.Length `json:"embedment_min_mm,omitzero" exclusiveMinimum:"0" maximum:"500"` // in masonry or wood; 0: as usual
	// root diameter of its thread; 0: by its size
	Root    quantity.Length `json:"root_mm,omitzero" exclusiveMinimum:"0" maximum:"50"`
	Tensile int             `json:"fu_mpa,omitzero" minimum:"100" maximum:"2000"` // f_u of its steel, N/mm²; 0: 400
	// outer diameter of a rigid sleeve's foot; 0: none
	Sleeve quantity.Length `json:"sleeve_mm,omitzero" exclusiveMinimum:"0" maximum:"100"`

	Drill quantity.Length `json:"drill_mm,omitzero" exclusiveMinimum:"0" maximum:"100"` // its own bit; 0: by its kind
	// the screws that a plug takes; 0: half of its diameter, and eight tenths of it
	ScrewMin quantity.Length `json:"screw_min_mm,omitzero" exclusiveMinimum:"0" maximum:"50"`
	ScrewMax quantity.Length `json:"screw_max_mm,omitzero" exclusiveMinimum:"0" maximum:"50"`
	// c_min and s_min, from the base's edges and each other; 0: not given
	EdgeMin    quantity.Length `json:"edge_min_mm,omitzero" exclusiveMinimum:"0" maximum:"1000"`
	SpacingMin quantity.Length `json:"spacing_min_mm,omitzero" exclusiveMinimum:"0" maximum:"1000"`
}

// A root of nine tenths of the fastener's diameter or more, a sleeve's foot wider than five diameters, and
// an embedment smaller than that of any fixing cannot be right (practice): they are
// ignored.
const (
	widestSleeve = 5 // diameters
	minEmbedded  = 25 * quantity.Millimetre
)

// SoundRoot returns the root diameter if it is plausible; 0: by its size.
func (i *Item) SoundRoot() quantity.Length {
	if 10*i.Root >= 9*i.Diameter { // M8 has 0.81, a lag 0.73
		return 0
	}
	return i.Root
}

// Same reports whether another item is the same on lists: its kind, name and sizes.
func (i *Item) Same(o *Item) bool { return i.Kind == o.Kind && i.Label() == o.Label() }

// usualTensile is the tensile strength of steel of which nothing is said, N/mm² (practice).
const usualTensile = 400

// TensileStrength returns the tensile strength of the item's steel, in N/mm².
func (i *Item) TensileStrength() int { return cmp.Or(i.Tensile, usualTensile) }

// SoundSleeve returns the foot of a rigid sleeve if it is plausible; 0: none.
func (i *Item) SoundSleeve() quantity.Length {
	if i.Sleeve > widestSleeve*i.Diameter {
		return 0
	}
	return i.Sleeve
}

// SoundEmbedment returns the embedment if it is plausible, for a plug its length; 0: not
// given.
func (i *Item) SoundEmbedment() quantity.Length {
	said := i.EmbedmentMin
	if i.Kind == Plug {
		said = i.Length
	}
	if said < minEmbedded {
		return 0
	}
	return said
}

// Rating is the capacity of one anchor in one base material, as masses: pull
// and shear.
type Rating struct {
	Pull  quantity.Mass `json:"pull_kg" required:"true" exclusiveMinimum:"0" maximum:"100000"`
	Shear quantity.Mass `json:"shear_kg" required:"true" exclusiveMinimum:"0" maximum:"100000"`

	// The sheet, or the board, that it was found in; 0: not given.
	Steel quantity.Length `json:"steel_mm,omitzero" exclusiveMinimum:"0" maximum:"20"`
	Board quantity.Length `json:"board_mm,omitzero" exclusiveMinimum:"0" maximum:"200"`
}

// RatingBases are the kinds of figure that an anchor's ratings can be.
var RatingBases = []string{"rated", "ultimate"}

// Passes reports whether a spacer lets the thread through.
func (i Item) Passes(t fastener.Thread) bool {
	for _, x := range i.Threads {
		if x == t {
			return true
		}
	}
	return false
}

// completeItems sets the standard width of washers without one.
func completeItems(items []Item) {
	for n := range items {
		if i := &items[n]; i.Kind == Washer && i.Outer == 0 {
			i.Outer = i.Thread.Standard().Washer.Outer
		}
	}
}
