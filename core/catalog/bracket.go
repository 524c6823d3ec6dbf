package catalog

import (
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Kinds are the kinds of bracket in scope. Ceiling, desk and cart mounts are
// not.
var Kinds = []string{"fixed", "low_profile", "tilt", "full_motion", "ball"}

// Bracket is one bracket at one revision, with the kit in its box.
type Bracket struct {
	ID, Name, Revision, Kind string
	Turns                    []Turn // ways it lets a display hang
	RatedLoad                quantity.Optional[quantity.Mass]
	RatedMoment              quantity.Optional[quantity.Torque]
	TiltHold                 quantity.Optional[quantity.Torque] // of a tilt head, or of a ball before it slips
	ArmSwing                 quantity.Optional[quantity.Angle]  // of the arm, to either side
	HungMass                 quantity.Optional[quantity.Mass]   // the part that is lifted with the display
	DiagonalMin, DiagonalMax quantity.Optional[quantity.Length] // absent: no limit
	Mass                     quantity.Optional[quantity.Mass]
	Threads                  []fastener.Thread // that its slots take
	PlateThickness           quantity.Length   // p, where the bolt passes
	SlotWidth                quantity.Optional[quantity.Length]
	HeadRoom                 quantity.Optional[quantity.Length] // plate's outer face to what is behind it
	UsesTop, UsesBottom      bool                               // rows of the pattern it bolts to
	Interface                Interface
	Profile, Reach           quantity.Optional[quantity.Length]
	LiftOver                 quantity.Optional[quantity.Length]
	Lock                     *Lock
	TiltDown, TiltUp         quantity.Optional[quantity.Angle]
	TiltPivot                *Pivot
	Swivel                   quantity.Optional[quantity.Angle]
	SwivelPivot              *Pivot
	WallPlate                *WallPlate
	Kit                      []Item
	Walls                    map[WallType]WallFixing
	Settings                 []Setting
}

// Interface is how a bracket takes a hole pattern: a plate with fixed
// patterns, or arms with slots on a rail.
type Interface struct {
	Type string // plate or arms

	// Plate.
	Patterns        []PatternSize
	CenterBelowHook quantity.Length
	Width, Height   quantity.Optional[quantity.Length]

	// Arms; positions along the arm are below the hook line.
	WidthMin, WidthMax quantity.Length
	ArmWidth           quantity.Length
	RailWidth          quantity.Optional[quantity.Length]
	ArmTop, ArmBottom  quantity.Length // arm's end above, and below, the hook line
	Slots              []fastener.Interval
}

// PlateSize is a plate's size, no smaller than its patterns; false when it is
// not known.
func (i *Interface) PlateSize() (width, height quantity.Length, known bool) {
	width, height = i.Width.Value, i.Height.Value
	for _, p := range i.Patterns {
		width, height = max(width, p.Width), max(height, p.Height)
	}
	return width, height, i.Width.Known && i.Height.Known
}

// The types of interface.
const (
	Plate = "plate"
	Arms  = "arms"
)

// PatternSize is the width and height of a fixed pattern.
type PatternSize struct{ Width, Height quantity.Length }

// Lock keeps a hung display from being lifted off.
type Lock struct{ Kind, Access string }

// Pivot is an axis of tilt or swivel as it is on record. Neither of its figures
// has a default.
type Pivot struct {
	BelowHook, BehindArm quantity.Optional[quantity.Length]
}

// Axis is where a pivot is: below the hook line and behind the arm plane. A
// swivel's axis is upright and has no height.
type Axis struct{ BelowHook, BehindArm quantity.Length }

// TiltAxis is the axis that the arms tilt about; false when either of its
// figures is missing, or it would be inside the wall.
func (b *Bracket) TiltAxis() (Axis, bool) {
	p := b.TiltPivot
	if p == nil || !p.BelowHook.Known || !p.BehindArm.Known || b.Profile.Known && p.BehindArm.Value > b.Profile.Value {
		return Axis{}, false
	}
	return Axis{p.BelowHook.Value, p.BehindArm.Value}, true
}

// SwivelAxis is the axis of the arms' swivel; false when it is not known how
// far behind the arm plane it is, or it would be inside the wall.
func (b *Bracket) SwivelAxis() (Axis, bool) {
	p := b.SwivelPivot
	if p == nil || !p.BehindArm.Known || b.Reach.Known && p.BehindArm.Value > b.Reach.Value {
		return Axis{}, false
	}
	return Axis{p.BelowHook.Or(0), p.BehindArm.Value}, true
}

// WallPlate is what is fixed to the wall; its origin is the datum, the centre
// of its hole field.
type WallPlate struct {
	Count                    int // 1, or 2 equal plates
	Width, Height, Thickness quantity.Optional[quantity.Length]
	Washer                   quantity.Length // under a lag's head
	HookAboveDatum           quantity.Length
	LateralSlide             quantity.Optional[quantity.Length]
	HeightAdjust             quantity.Optional[quantity.Length]
	SeparationIsPattern      bool
	Separation               *fastener.Interval
	StudsRequired            int
	TopPerStud               int
	BottomPerStud            int
	Holes                    []PlateHole
}

// PlateHole is a hole or slot in the wall plate. A slot's travel is that of
// the fastener's centre.
type PlateHole struct {
	ID, Row, Shape string
	X, Y           quantity.Length
	Travel         quantity.Length
	Diameter       quantity.Length
}

// Across is how far the fastener's centre can go sideways in the hole, from one end of
// its slot to the other; 0 in a round one.
func (h *PlateHole) Across() quantity.Length { return h.slot("slot_h") }

// Up is the same for up and down.
func (h *PlateHole) Up() quantity.Length { return h.slot("slot_v") }

func (h *PlateHole) slot(shape string) quantity.Length {
	if h.Shape != shape {
		return 0
	}
	return max(0, h.Travel)
}

// HoleShapes are the shapes of a wall plate's holes.
var HoleShapes = []string{"round", "slot_h", "slot_v"}

// Uses are the steps that take a plain part.
var Uses = []string{"arms", "lock", "cables"}

// Item is one line of a kit or of a display's own parts. Which fields it has
// depends on its kind.
type Item struct {
	Kind      ItemKind
	Name      string
	Thread    fastener.Thread
	Threads   []fastener.Thread // that pass a spacer
	Length    quantity.Length
	Thickness quantity.Length
	Outer     quantity.Length
	Diameter  quantity.Length
	Count     int
	Bag       string
	Use       string

	// How much of a lag is threaded, its tip included; 0: as lags usually are.
	ThreadLength quantity.Length

	// What a fastener for walls is made for; none: what its kind is.
	For []WallType
	// What an anchor holds: pulled out, and across, in one base material. A
	// rating is for use as it stands; an ultimate figure is what it comes out at.
	Pull, Shear quantity.Mass
	Ratings     map[WallType]Rating // beside or instead of Pull and Shear
	RatingBasis string              // "": not known

	EmbedmentMin quantity.Length // of a masonry fixing; 0: as usual
	Root         quantity.Length // root diameter of its thread; 0: by its size
	Tensile      int64           // f_u of its steel, N/mm²; 0: 400
	Sleeve       quantity.Length // outer diameter of a rigid sleeve's foot; 0: none
}

// A root of nine tenths of the fastener or more, a foot of a sleeve wider than five of it, and
// an embedment of less than any fixing has cannot be right (practice): they do
// not count.
const (
	widestSleeve  = 5 // diameters
	leastEmbedded = 25 * quantity.Millimetre
)

// SoundRoot is the root diameter that counts; 0: by its size.
func (i *Item) SoundRoot() quantity.Length {
	if 10*i.Root >= 9*i.Diameter { // M8 has 0.81, a lag 0.73
		return 0
	}
	return i.Root
}

// SoundSleeve is the foot of a rigid sleeve that counts; 0: none.
func (i *Item) SoundSleeve() quantity.Length {
	if i.Sleeve > widestSleeve*i.Diameter {
		return 0
	}
	return i.Sleeve
}

// SoundEmbedment is the embedment that counts, of a plug its length; 0: not
// said.
func (i *Item) SoundEmbedment() quantity.Length {
	said := i.EmbedmentMin
	if i.Kind == Plug {
		said = i.Length
	}
	if said < leastEmbedded {
		return 0
	}
	return said
}

// Rating is what one anchor holds in one base material, as a mass: pulled out,
// and across.
type Rating struct{ Pull, Shear quantity.Mass }

// RatingBases are what an anchor's figures can be.
var RatingBases = []string{"rated", "ultimate"}

// Passes says whether a spacer lets the thread through.
func (i Item) Passes(t fastener.Thread) bool {
	for _, x := range i.Threads {
		if x == t {
			return true
		}
	}
	return false
}

// WallFixing is the maker's figures for one type of wall.
type WallFixing struct {
	Drill, Depth                quantity.Optional[quantity.Length]
	CoveringMax, PenetrationMin quantity.Optional[quantity.Length]
	Fasteners                   []string // a kind of item or an item's name; two where a school needs two
}

// Setting is an adjustment the bracket needs for some displays: Text applies
// when the display's Field is below (or at and above) a length.
type Setting struct {
	Field     string
	Below     quantity.Optional[quantity.Length]
	AtOrAbove quantity.Optional[quantity.Length]
	Text      string
}

// Applies says whether the setting is due for a figure of the display.
func (s Setting) Applies(d *Display) bool {
	f := map[string]quantity.Optional[quantity.Length]{
		"depth_mm": d.Depth, "diagonal_mm": d.Diagonal, "width_mm": d.Width, "height_mm": d.Height,
	}[s.Field]
	return f.Known &&
		(!s.Below.Known || f.Value < s.Below.Value) &&
		(!s.AtOrAbove.Known || f.Value >= s.AtOrAbove.Value)
}

// SettingFields are the display's figures a setting can depend on.
var SettingFields = []string{"depth_mm", "diagonal_mm", "width_mm", "height_mm"}

// Takes says whether the bracket's slots take the thread.
func (b *Bracket) Takes(t fastener.Thread) bool {
	for _, x := range b.Threads {
		if x == t {
			return true
		}
	}
	return false
}

// Slot is the slot's width where the bolt passes: as given, else the ISO 273
// clearance hole of the largest thread the bracket takes.
func (b *Bracket) Slot() quantity.Length {
	if b.SlotWidth.Known {
		return b.SlotWidth.Value
	}
	var widest quantity.Length
	for _, t := range b.Threads {
		widest = max(widest, t.Standard().ClearanceHole)
	}
	return widest
}

// AllowsTurn says whether the bracket lets a display hang this way.
func (b *Bracket) AllowsTurn(t Turn) bool {
	for _, x := range b.Turns {
		if x == t {
			return true
		}
	}
	return false
}

// Swings says whether the bracket carries a display out from the wall on an
// arm.
func (b *Bracket) Swings() bool { return b.Kind == "full_motion" || b.ArmSwing.Value > 0 }

// Farthest is how far the arm plane comes out from the wall: the reach, or of
// what does not swing the profile where no reach is given; false when it is not
// known, or would be nearer to the wall than the closed profile.
func (b *Bracket) Farthest() (quantity.Length, bool) {
	if b.Reach.Known && b.Profile.Known && b.Reach.Value < b.Profile.Value {
		return 0, false
	}
	if b.Reach.Known || b.Swings() {
		return b.Reach.Value, b.Reach.Known
	}
	return b.Profile.Value, b.Profile.Known
}

// LateralSlide is how far the wall plate lets a display slide to either side;
// 0 when nothing is said.
func (b *Bracket) LateralSlide() quantity.Length {
	if b.WallPlate == nil {
		return 0
	}
	return b.WallPlate.LateralSlide.Or(0)
}

// PlatesAbout are the datums of the bracket's wall plates, from left to right,
// about their middle: of two, as far apart as the pattern as hung is wide, or
// as near to it as they go.
func (b *Bracket) PlatesAbout(middle, pattern quantity.Length) []quantity.Length {
	w := b.WallPlate
	if w == nil || w.Count < 2 {
		return []quantity.Length{middle}
	}
	apart := pattern
	if s := w.Separation; s != nil {
		apart = min(max(apart, s.Min), s.Max)
	}
	return []quantity.Length{middle - apart/2, middle + apart - apart/2}
}
