package catalog

import (
	"cmp"
	"encoding/json"
	"slices"

	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Bracket is one bracket at one revision, with the kit in its box.
type Bracket struct {
	ID       string      `json:"id" required:"true" pattern:"^[A-Za-z0-9]([A-Za-z0-9_-]|\\.[A-Za-z0-9_-])*$" maxLength:"80"`
	Name     string      `json:"name,omitempty" maxLength:"120"`
	Revision string      `json:"revision,omitempty" maxLength:"20"`
	Kind     BracketKind `json:"kind" required:"true"`
	// ways it lets a display hang
	Turns       []Turn                             `json:"turns_deg,omitempty" enum:"0,90,270" minItems:"1" maxItems:"3" uniqueItems:"true"`
	RatedLoad   quantity.Optional[quantity.Mass]   `json:"rated_load_kg,omitzero" exclusiveMinimum:"0" maximum:"1000"`
	RatedMoment quantity.Optional[quantity.Torque] `json:"rated_moment_nm,omitzero" exclusiveMinimum:"0" maximum:"100000"`
	TiltHold    quantity.Optional[quantity.Torque] `json:"tilt_hold_nm,omitzero" exclusiveMinimum:"0" maximum:"10000"` // of a tilt head
	Slip        quantity.Optional[quantity.Torque] `json:"slip_nm,omitzero" exclusiveMinimum:"0" maximum:"10000"`      // of a ball
	ArmSwing    quantity.Optional[quantity.Angle]  `json:"arm_swing_deg,omitzero" minimum:"0" maximum:"180"`           // to either side
	// the part that is lifted with the display
	HungMass quantity.Optional[quantity.Mass] `json:"hung_mass_kg,omitzero" exclusiveMinimum:"0" maximum:"1000"`
	// absent: no limit
	DiagonalMin quantity.Optional[quantity.Length] `json:"diagonal_min_mm,omitzero" minimum:"0" maximum:"10000"`
	DiagonalMax quantity.Optional[quantity.Length] `json:"diagonal_max_mm,omitzero" exclusiveMinimum:"0" maximum:"10000"`
	Mass        quantity.Optional[quantity.Mass]   `json:"mass_kg,omitzero" exclusiveMinimum:"0" maximum:"1000"`
	// that its slots take
	Threads []fastener.Thread `json:"threads" required:"true" minItems:"1" maxItems:"4"`
	// p, where the bolt passes
	PlateThickness quantity.Length                    `json:"plate_thickness_mm" required:"true" exclusiveMinimum:"0" maximum:"50"`
	SlotWidth      quantity.Optional[quantity.Length] `json:"slot_width_mm,omitzero" exclusiveMinimum:"0" maximum:"100"`
	// its slots take the heads of countersunk bolts
	Dimpled bool `json:"dimpled,omitempty"`
	// plate's outer face to what is behind it
	HeadRoom quantity.Optional[quantity.Length] `json:"head_room_mm,omitzero" minimum:"0" maximum:"500"`
	// of the pattern, that it bolts to
	RowsUsed     []string                           `json:"rows_used,omitempty" enum:"top,bottom" minItems:"1" maxItems:"2"`
	Interface    Interface                          `json:"interface" required:"true"`
	Profile      quantity.Optional[quantity.Length] `json:"profile_mm,omitzero" minimum:"0" maximum:"5000"`
	Reach        quantity.Optional[quantity.Length] `json:"reach_mm,omitzero" minimum:"0" maximum:"5000"`
	LiftOver     quantity.Optional[quantity.Length] `json:"lift_over_mm,omitzero" minimum:"0" maximum:"500"`
	Lock         *Lock                              `json:"lock,omitempty"`
	TiltDown     quantity.Optional[quantity.Angle]  `json:"tilt_down_deg,omitzero" minimum:"0" maximum:"90"`
	TiltUp       quantity.Optional[quantity.Angle]  `json:"tilt_up_deg,omitzero" minimum:"0" maximum:"90"`
	TiltPivot    *Pivot                             `json:"tilt_pivot,omitempty"`
	Swivel       quantity.Optional[quantity.Angle]  `json:"swivel_deg,omitzero" minimum:"0" maximum:"180"`
	SwivelPivot  *Pivot                             `json:"swivel_pivot,omitempty"`
	WallPlate    *WallPlate                         `json:"wall_plate,omitempty"`
	Kit          []Item                             `json:"kit,omitempty" minItems:"1" maxItems:"100"`
	Walls        map[WallType]WallFixing            `json:"walls,omitempty"`
	Settings     []Setting                          `json:"settings,omitempty" maxItems:"32"`
	Assembly     []AssemblyStep                     `json:"assembly,omitempty" minItems:"1" maxItems:"40"` // what only this bracket has
	Translations []Translation                      `json:"translations,omitempty" minItems:"1" maxItems:"400"`
}

// Interface is the bracket's side of the hole pattern: a plate with fixed
// patterns, or arms with slots on a rail.
type Interface struct {
	Type string `json:"type" required:"true" enum:"plate,arms"`

	// Plate.
	Patterns        []PatternSize                      `json:"patterns_mm,omitempty" minItems:"1" maxItems:"64" exclusiveMinimum:"0" maximum:"3000"`
	CenterBelowHook quantity.Optional[quantity.Length] `json:"center_below_hook_mm,omitzero" minimum:"-2000" maximum:"2000"`
	Width           quantity.Optional[quantity.Length] `json:"width_mm,omitzero" exclusiveMinimum:"0" maximum:"3000"`
	Height          quantity.Optional[quantity.Length] `json:"height_mm,omitzero" exclusiveMinimum:"0" maximum:"3000"`

	// Arms; positions along the arm are below the hook line.
	WidthMin  quantity.Optional[quantity.Length] `json:"width_min_mm,omitzero" minimum:"0" maximum:"3000"`
	WidthMax  quantity.Optional[quantity.Length] `json:"width_max_mm,omitzero" exclusiveMinimum:"0" maximum:"3000"`
	ArmWidth  quantity.Length                    `json:"arm_width_mm,omitzero" exclusiveMinimum:"0" maximum:"500"`
	RailWidth quantity.Optional[quantity.Length] `json:"rail_width_mm,omitzero" exclusiveMinimum:"0" maximum:"5000"`
	// arm's end above the hook line
	ArmTop    quantity.Optional[quantity.Length] `json:"arm_top_mm,omitzero" minimum:"-2000" maximum:"2000"`
	ArmBottom quantity.Optional[quantity.Length] `json:"arm_bottom_mm,omitzero" minimum:"-2000" maximum:"3000"` // the other end, below it
	Slots     []fastener.Interval                `json:"slots_mm,omitempty" minItems:"1" maxItems:"100" minimum:"-2000" maximum:"3000"`
}

// PlateSize returns a plate's size, not smaller than its patterns; false if it is
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

// PatternSize is the width and height of a fixed pattern; in the format a list of the two.
type PatternSize struct{ Width, Height quantity.Length }

// MarshalJSON writes [width, height].
func (p PatternSize) MarshalJSON() ([]byte, error) {
	return json.Marshal([2]quantity.Length{p.Width, p.Height})
}

// Lock keeps a hung display from being lifted off.
type Lock struct {
	Kind   string `json:"kind,omitempty" maxLength:"40"`
	Access string `json:"access,omitempty" enum:"below,side,front"`
}

// Pivot is an axis of tilt or swivel. Neither of its figures
// has a default.
type Pivot struct {
	BelowHook quantity.Optional[quantity.Length] `json:"below_hook_mm,omitzero" minimum:"-2000" maximum:"3000"`
	BehindArm quantity.Optional[quantity.Length] `json:"behind_arm_mm,omitzero" minimum:"-2000" maximum:"2000"`
}

// Axis is where a pivot is: below the hook line and behind the arm plane. A
// swivel's axis is upright and has no height.
type Axis struct{ BelowHook, BehindArm quantity.Length }

// TiltAxis returns the axis that the arms tilt about; false if either of its
// figures is missing, or it would be inside the wall.
func (b *Bracket) TiltAxis() (Axis, bool) {
	p := b.TiltPivot
	if p == nil || !p.BelowHook.Known || !p.BehindArm.Known || b.Profile.Known && p.BehindArm.Value > b.Profile.Value {
		return Axis{}, false
	}
	return Axis{p.BelowHook.Value, p.BehindArm.Value}, true
}

// SwivelAxis returns the axis of the arms' swivel; false if its distance from
// the arm plane is not known, or it would be inside the wall.
func (b *Bracket) SwivelAxis() (Axis, bool) {
	p := b.SwivelPivot
	if p == nil || !p.BehindArm.Known || b.Reach.Known && p.BehindArm.Value > b.Reach.Value {
		return Axis{}, false
	}
	return Axis{p.BelowHook.Or(0), p.BehindArm.Value}, true
}

// WallPlate is the plate that is fixed to the wall; its origin is the datum, the centre
// of its hole field.
type WallPlate struct {
	Count           int                                `json:"count,omitempty" minimum:"1" maximum:"2"` // of equal plates
	Width           quantity.Optional[quantity.Length] `json:"width_mm,omitzero" exclusiveMinimum:"0" maximum:"5000"`
	Height          quantity.Optional[quantity.Length] `json:"height_mm,omitzero" exclusiveMinimum:"0" maximum:"5000"`
	Thickness       quantity.Optional[quantity.Length] `json:"thickness_mm,omitzero" exclusiveMinimum:"0" maximum:"100"`
	Washer          quantity.Length                    `json:"washer_mm,omitzero" minimum:"0" maximum:"50"` // under a lag's head
	HookAboveDatum  quantity.Length                    `json:"hook_above_datum_mm" required:"true" minimum:"-2000" maximum:"2000"`
	LateralSlide    quantity.Optional[quantity.Length] `json:"lateral_slide_mm,omitzero" minimum:"0" maximum:"2000"`
	HeightAdjust    quantity.Optional[quantity.Length] `json:"height_adjust_mm,omitzero" minimum:"0" maximum:"500"`
	Separation      string                             `json:"separation,omitempty" enum:"pattern_width"`
	SeparationRange *fastener.Interval                 `json:"separation_mm,omitempty" minimum:"0" maximum:"5000"`
	StudsRequired   int                                `json:"studs_required,omitempty" minimum:"0" maximum:"20"`
	TopPerStud      int                                `json:"top_per_stud,omitempty" minimum:"0" maximum:"20"`
	BottomPerStud   int                                `json:"bottom_per_stud,omitempty" minimum:"0" maximum:"20"`
	Holes           []PlateHole                        `json:"holes,omitempty" maxItems:"200"`
}

// PlateHole is a hole or slot in the wall plate. A slot's travel is that of
// the fastener's centre.
type PlateHole struct {
	ID       string          `json:"id" required:"true" pattern:"^[A-Za-z0-9_-]{1,16}$"`
	Row      string          `json:"row" required:"true" enum:"top,bottom"`
	X        quantity.Length `json:"x_mm" required:"true" minimum:"-5000" maximum:"5000"`
	Y        quantity.Length `json:"y_mm" required:"true" minimum:"-5000" maximum:"5000"`
	Shape    string          `json:"shape,omitempty" enum:"round,slot_h,slot_v"`
	Travel   quantity.Length `json:"length_mm,omitzero" minimum:"0" maximum:"2000"`
	Diameter quantity.Length `json:"diameter_mm,omitzero" exclusiveMinimum:"0" maximum:"100"`
}

// Across returns how far the fastener's centre can move sideways in the hole, from one end of
// its slot to the other; 0 in a round one.
func (h *PlateHole) Across() quantity.Length { return h.slot("slot_h") }

// Up returns the same for up and down.
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

// WallFixing is the maker's figures for one type of wall.
type WallFixing struct {
	Drill          quantity.Optional[quantity.Length] `json:"drill_mm,omitzero" exclusiveMinimum:"0" maximum:"100"`
	Depth          quantity.Optional[quantity.Length] `json:"depth_mm,omitzero" exclusiveMinimum:"0" maximum:"1000"`
	CoveringMax    quantity.Optional[quantity.Length] `json:"covering_max_mm,omitzero" minimum:"0" maximum:"500"`
	PenetrationMin quantity.Optional[quantity.Length] `json:"penetration_min_mm,omitzero" minimum:"0" maximum:"500"`
	// a kind of item or an item's name; two where a school needs two
	Fasteners Names `json:"fastener,omitempty" minItems:"1" maxItems:"2" maxLength:"120"`
}

// Names is one text, or a list of them.
type Names []string

// MarshalJSON writes a single name as a text.
func (n Names) MarshalJSON() ([]byte, error) {
	if len(n) == 1 {
		return json.Marshal(n[0])
	}
	return json.Marshal([]string(n))
}

// JSONSchemaBytes allows a single name without a list.
func (Names) JSONSchemaBytes() ([]byte, error) {
	return []byte(`{"anyOf":[{"type":"string","maxLength":120},` +
		`{"type":"array","items":{"type":"string","maxLength":120},"minItems":1,"maxItems":2}]}`), nil
}

// Setting is an adjustment the bracket needs for some displays: Text applies
// when the display's Field is below (or at and above) a length.
type Setting struct {
	Field     string                             `json:"field" required:"true" enum:"depth_mm,diagonal_mm,width_mm,height_mm"`
	Below     quantity.Optional[quantity.Length] `json:"below,omitzero" exclusiveMinimum:"0" maximum:"10000"`
	AtOrAbove quantity.Optional[quantity.Length] `json:"at_or_above,omitzero" minimum:"0" maximum:"10000"`
	Text      string                             `json:"text" required:"true" maxLength:"500"`
}

// Applies reports whether the setting is due for a figure of the display.
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

// UsesTop reports whether it bolts to the pattern's top row.
func (b *Bracket) UsesTop() bool { return slices.Contains(b.RowsUsed, "top") }

// UsesBottom reports whether it bolts to the pattern's bottom row.
func (b *Bracket) UsesBottom() bool { return slices.Contains(b.RowsUsed, "bottom") }

// Hold returns the moment that a tilt head holds, or a ball before it slips.
func (b *Bracket) Hold() quantity.Optional[quantity.Torque] {
	if b.Slip.Known {
		return b.Slip
	}
	return b.TiltHold
}

// Complete fills in the defaults of the format.
func (b *Bracket) Complete() {
	b.Name = cmp.Or(b.Name, b.ID)
	if b.Turns == nil {
		b.Turns = []Turn{0}
	}
	if b.RowsUsed == nil {
		b.RowsUsed = []string{"top", "bottom"}
	}
	if w := b.WallPlate; w != nil {
		w.Count = max(w.Count, 1)
		for i := range w.Holes {
			w.Holes[i].Shape = cmp.Or(w.Holes[i].Shape, HoleShapes[0])
		}
	}
	completeItems(b.Kit)
}

// Takes reports whether the bracket's slots take the thread.
func (b *Bracket) Takes(t fastener.Thread) bool {
	for _, x := range b.Threads {
		if x == t {
			return true
		}
	}
	return false
}

// Slot returns the slot's width where the bolt passes: as given, else the ISO 273
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

// AllowsTurn reports whether the bracket allows the turn of a display.
func (b *Bracket) AllowsTurn(t Turn) bool {
	for _, x := range b.Turns {
		if x == t {
			return true
		}
	}
	return false
}

// Swings reports whether the bracket carries a display out from the wall on an
// arm.
func (b *Bracket) Swings() bool { return b.Kind.Properties().Swings || b.ArmSwing.Value > 0 }

// Farthest returns the greatest distance of the arm plane from the wall: the reach, or for
// a bracket that does not swing the profile if no reach is given; false if it is not
// known, or would be less than the closed profile.
func (b *Bracket) Farthest() (quantity.Length, bool) {
	if b.Reach.Known && b.Profile.Known && b.Reach.Value < b.Profile.Value {
		return 0, false
	}
	if b.Reach.Known || b.Swings() {
		return b.Reach.Value, b.Reach.Known
	}
	return b.Profile.Value, b.Profile.Known
}

// LateralSlide returns how far the wall plate lets a display slide to either side;
// 0 if not given.
func (b *Bracket) LateralSlide() quantity.Length {
	if b.WallPlate == nil {
		return 0
	}
	return b.WallPlate.LateralSlide.Or(0)
}

// PlatesAbout returns the datums of the bracket's wall plates, from left to right,
// about their middle: two are as far apart as the pattern as hung is wide, or
// as near to that as possible.
func (b *Bracket) PlatesAbout(middle, pattern quantity.Length) []quantity.Length {
	w := b.WallPlate
	if w == nil || w.Count < 2 {
		return []quantity.Length{middle}
	}
	apart := pattern
	if s := w.SeparationRange; s != nil {
		apart = min(max(apart, s.Min), s.Max)
	}
	return []quantity.Length{middle - apart/2, middle + apart - apart/2}
}
