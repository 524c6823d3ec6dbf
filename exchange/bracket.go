package exchange

import (
	"encoding/json"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Bracket is a bracket with its kit in the format.
type Bracket struct {
	ID             string                          `json:"id" required:"true" pattern:"^[A-Za-z0-9]([A-Za-z0-9_-]|\\.[A-Za-z0-9_-])*$" patternText:"letters, digits, dots, dashes and underscores, starting with a letter or digit" maxLength:"80"`
	Name           string                          `json:"name,omitempty" maxLength:"120"`
	Revision       string                          `json:"revision,omitempty" maxLength:"20"`
	Kind           string                          `json:"kind" required:"true" enum:"fixed,low_profile,tilt,full_motion,ball"`
	Turns          []int                           `json:"turns_deg,omitempty" enum:"0,90,270" minItems:"1" maxItems:"3"`
	RatedLoad      *KG                             `json:"rated_load_kg,omitempty" exclusiveMinimum:"0" maximum:"1000"`
	RatedMoment    *Num                            `json:"rated_moment_nm,omitempty" exclusiveMinimum:"0" maximum:"100000"`
	TiltHold       *Num                            `json:"tilt_hold_nm,omitempty" exclusiveMinimum:"0" maximum:"10000"`
	Slip           *Num                            `json:"slip_nm,omitempty" exclusiveMinimum:"0" maximum:"10000"` // of a ball
	ArmSwing       *Deg                            `json:"arm_swing_deg,omitempty" minimum:"0" maximum:"180"`
	HungMass       *KG                             `json:"hung_mass_kg,omitempty" exclusiveMinimum:"0" maximum:"1000"`
	DiagonalMin    *MM                             `json:"diagonal_min_mm,omitempty" minimum:"0" maximum:"10000"`
	DiagonalMax    *MM                             `json:"diagonal_max_mm,omitempty" exclusiveMinimum:"0" maximum:"10000"`
	Mass           *KG                             `json:"mass_kg,omitempty" exclusiveMinimum:"0" maximum:"1000"`
	Threads        []string                        `json:"threads" required:"true" enum:"M4,M5,M6,M8" minItems:"1" maxItems:"4"`
	PlateThickness *MM                             `json:"plate_thickness_mm" required:"true" exclusiveMinimum:"0" maximum:"50"`
	SlotWidth      *MM                             `json:"slot_width_mm,omitempty" exclusiveMinimum:"0" maximum:"100"`
	HeadRoom       *MM                             `json:"head_room_mm,omitempty" minimum:"0" maximum:"500"`
	RowsUsed       []string                        `json:"rows_used,omitempty" enum:"top,bottom" minItems:"1" maxItems:"2"`
	Interface      *Interface                      `json:"interface" required:"true"`
	Profile        *MM                             `json:"profile_mm,omitempty" minimum:"0" maximum:"5000"`
	Reach          *MM                             `json:"reach_mm,omitempty" minimum:"0" maximum:"5000"`
	LiftOver       *MM                             `json:"lift_over_mm,omitempty" minimum:"0" maximum:"500"`
	Lock           *Lock                           `json:"lock,omitempty"`
	TiltDown       *Deg                            `json:"tilt_down_deg,omitempty" minimum:"0" maximum:"90"`
	TiltUp         *Deg                            `json:"tilt_up_deg,omitempty" minimum:"0" maximum:"90"`
	TiltPivot      *Pivot                          `json:"tilt_pivot,omitempty"`
	Swivel         *Deg                            `json:"swivel_deg,omitempty" minimum:"0" maximum:"180"`
	SwivelPivot    *Pivot                          `json:"swivel_pivot,omitempty"`
	WallPlate      *WallPlate                      `json:"wall_plate,omitempty"`
	Kit            []Item                          `json:"kit,omitempty" minItems:"1" maxItems:"100"`
	Walls          map[catalog.WallType]WallFixing `json:"walls,omitempty"`
	Settings       []Setting                       `json:"settings,omitempty" maxItems:"32"`
}

// Interface is how a bracket takes a pattern.
type Interface struct {
	Type            string  `json:"type" required:"true" enum:"plate,arms"`
	Patterns        [][2]MM `json:"patterns_mm,omitempty" minItems:"1" maxItems:"64" exclusiveMinimum:"0" maximum:"3000"`
	CenterBelowHook *MM     `json:"center_below_hook_mm,omitempty" minimum:"-2000" maximum:"2000"`
	Width           *MM     `json:"width_mm,omitempty" exclusiveMinimum:"0" maximum:"3000"`
	Height          *MM     `json:"height_mm,omitempty" exclusiveMinimum:"0" maximum:"3000"`
	WidthMin        *MM     `json:"width_min_mm,omitempty" minimum:"0" maximum:"3000"`
	WidthMax        *MM     `json:"width_max_mm,omitempty" exclusiveMinimum:"0" maximum:"3000"`
	ArmWidth        *MM     `json:"arm_width_mm,omitempty" exclusiveMinimum:"0" maximum:"500"`
	RailWidth       *MM     `json:"rail_width_mm,omitempty" exclusiveMinimum:"0" maximum:"5000"`
	ArmTop          *MM     `json:"arm_top_mm,omitempty" minimum:"-2000" maximum:"2000"`
	ArmBottom       *MM     `json:"arm_bottom_mm,omitempty" minimum:"-2000" maximum:"3000"`
	Slots           [][2]MM `json:"slots_mm,omitempty" minItems:"1" maxItems:"100" minimum:"-2000" maximum:"3000"`
}

// Lock is what keeps a hung display from being lifted off.
type Lock struct {
	Kind   string `json:"kind,omitempty" maxLength:"40"`
	Access string `json:"access,omitempty" enum:"below,side,front"`
}

// Pivot is an axis of tilt or swivel.
type Pivot struct {
	BelowHook *MM `json:"below_hook_mm,omitempty" minimum:"-2000" maximum:"3000"`
	BehindArm *MM `json:"behind_arm_mm,omitempty" minimum:"-2000" maximum:"2000"`
}

// WallPlate is what goes on the wall, its holes from the datum.
type WallPlate struct {
	Count          int         `json:"count,omitempty" minimum:"1" maximum:"2"`
	Width          *MM         `json:"width_mm,omitempty" exclusiveMinimum:"0" maximum:"5000"`
	Height         *MM         `json:"height_mm,omitempty" exclusiveMinimum:"0" maximum:"5000"`
	Thickness      *MM         `json:"thickness_mm,omitempty" exclusiveMinimum:"0" maximum:"100"`
	Washer         *MM         `json:"washer_mm,omitempty" minimum:"0" maximum:"50"`
	HookAboveDatum *MM         `json:"hook_above_datum_mm" required:"true" minimum:"-2000" maximum:"2000"`
	LateralSlide   *MM         `json:"lateral_slide_mm,omitempty" minimum:"0" maximum:"2000"`
	HeightAdjust   *MM         `json:"height_adjust_mm,omitempty" minimum:"0" maximum:"500"`
	Separation     string      `json:"separation,omitempty" enum:"pattern_width"`
	SeparationMM   *[2]MM      `json:"separation_mm,omitempty" minimum:"0" maximum:"5000"`
	StudsRequired  int         `json:"studs_required,omitempty" minimum:"0" maximum:"20"`
	TopPerStud     int         `json:"top_per_stud,omitempty" minimum:"0" maximum:"20"`
	BottomPerStud  int         `json:"bottom_per_stud,omitempty" minimum:"0" maximum:"20"`
	Holes          []PlateHole `json:"holes,omitempty" maxItems:"200"`
}

// PlateHole is a hole or slot in the wall plate.
type PlateHole struct {
	ID       string `json:"id" required:"true" pattern:"^[A-Za-z0-9_-]{1,16}$" patternText:"up to 16 letters and digits"`
	Row      string `json:"row" required:"true" enum:"top,bottom"`
	X        *MM    `json:"x_mm" required:"true" minimum:"-5000" maximum:"5000"`
	Y        *MM    `json:"y_mm" required:"true" minimum:"-5000" maximum:"5000"`
	Shape    string `json:"shape,omitempty" enum:"round,slot_h,slot_v"`
	Length   *MM    `json:"length_mm,omitempty" minimum:"0" maximum:"2000"`
	Diameter *MM    `json:"diameter_mm,omitempty" exclusiveMinimum:"0" maximum:"100"`
}

// Item is one line of a kit.
type Item struct {
	Kind      catalog.ItemKind `json:"kind" required:"true"`
	Name      string           `json:"name,omitempty" maxLength:"120"`
	Thread    string           `json:"thread,omitempty" enum:"M4,M5,M6,M8"`
	Threads   []string         `json:"threads,omitempty" enum:"M4,M5,M6,M8" minItems:"1" maxItems:"4"`
	Length    *MM              `json:"length_mm,omitempty" exclusiveMinimum:"0" maximum:"500"`
	Thickness *MM              `json:"thickness_mm,omitempty" exclusiveMinimum:"0" maximum:"50"`
	Outer     *MM              `json:"outer_mm,omitempty" exclusiveMinimum:"0" maximum:"200"`
	Diameter  *MM              `json:"diameter_mm,omitempty" exclusiveMinimum:"0" maximum:"50"`
	Count     int              `json:"count" required:"true" minimum:"1" maximum:"10000"`
	Bag       string           `json:"bag,omitempty" maxLength:"20"`
	Use       string           `json:"use,omitempty" enum:"arms,lock,cables"`

	// How much of a lag or screw is threaded, its tip included.
	ThreadLength *MM `json:"thread_length_mm,omitempty" exclusiveMinimum:"0" maximum:"500"`

	// The walls that a fastener is made for; absent: what its kind is.
	For []catalog.WallType `json:"for,omitempty" minItems:"1" maxItems:"8"`

	// What one anchor holds, pulled out and across, in one base material, and
	// whether the figures are for use or what it comes out at.
	Pull        *KG                         `json:"pull_kg,omitempty" exclusiveMinimum:"0" maximum:"100000"`
	Shear       *KG                         `json:"shear_kg,omitempty" exclusiveMinimum:"0" maximum:"100000"`
	Ratings     map[catalog.WallType]Rating `json:"ratings,omitempty"`
	RatingBasis string                      `json:"rating_basis,omitempty" enum:"rated,ultimate"`

	// The least that a masonry fixing goes into it, its thread's root, the
	// strength of its steel, and the outer diameter of a rigid sleeve's foot.
	EmbedmentMin *MM  `json:"embedment_min_mm,omitempty" exclusiveMinimum:"0" maximum:"500"`
	Root         *MM  `json:"root_mm,omitempty" exclusiveMinimum:"0" maximum:"50"`
	Tensile      *int `json:"fu_mpa,omitempty" minimum:"100" maximum:"2000"`
	Sleeve       *MM  `json:"sleeve_mm,omitempty" exclusiveMinimum:"0" maximum:"100"`
}

// Rating is what one anchor holds in one base material.
type Rating struct {
	Pull  *KG `json:"pull_kg" required:"true" exclusiveMinimum:"0" maximum:"100000"`
	Shear *KG `json:"shear_kg" required:"true" exclusiveMinimum:"0" maximum:"100000"`
}

// Names is one text, or a list of them.
type Names []string

// MarshalJSON writes a single one as a text.
func (n Names) MarshalJSON() ([]byte, error) {
	if len(n) == 1 {
		return json.Marshal(n[0])
	}
	return json.Marshal([]string(n))
}

// WallFixing is the maker's figures for one type of wall.
type WallFixing struct {
	Drill          *MM   `json:"drill_mm,omitempty" exclusiveMinimum:"0" maximum:"100"`
	Depth          *MM   `json:"depth_mm,omitempty" exclusiveMinimum:"0" maximum:"1000"`
	CoveringMax    *MM   `json:"covering_max_mm,omitempty" minimum:"0" maximum:"500"`
	PenetrationMin *MM   `json:"penetration_min_mm,omitempty" minimum:"0" maximum:"500"`
	Fastener       Names `json:"fastener,omitempty" minItems:"1" maxItems:"2" maxLength:"120"`
}

// Setting is an adjustment some displays need.
type Setting struct {
	Field     string `json:"field" required:"true" enum:"depth_mm,diagonal_mm,width_mm,height_mm"`
	Below     *MM    `json:"below,omitempty" exclusiveMinimum:"0" maximum:"10000"`
	AtOrAbove *MM    `json:"at_or_above,omitempty" minimum:"0" maximum:"10000"`
	Text      string `json:"text" required:"true" maxLength:"500"`
}

func coreItems(items []Item) []catalog.Item {
	var out []catalog.Item
	for _, i := range items {
		c := catalog.Item{
			Kind: i.Kind, Name: i.Name, Thread: thread(i.Thread), Length: or0(i.Length), Thickness: or0(i.Thickness),
			Outer: or0(i.Outer), Diameter: or0(i.Diameter), Count: i.Count, Bag: i.Bag, Use: i.Use,
			Pull: mass(i.Pull).Or(0), Shear: mass(i.Shear).Or(0), RatingBasis: i.RatingBasis, ThreadLength: or0(i.ThreadLength),
			For: i.For, EmbedmentMin: or0(i.EmbedmentMin), Root: or0(i.Root), Sleeve: or0(i.Sleeve),
		}
		if i.Tensile != nil {
			c.Tensile = int64(*i.Tensile)
		}
		for w, r := range i.Ratings {
			if c.Ratings == nil {
				c.Ratings = map[catalog.WallType]catalog.Rating{}
			}
			c.Ratings[w] = catalog.Rating{Pull: mass(r.Pull).Or(0), Shear: mass(r.Shear).Or(0)}
		}
		for _, t := range i.Threads {
			c.Threads = append(c.Threads, thread(t))
		}
		if c.Kind == "washer" && i.Outer == nil {
			c.Outer = c.Thread.Standard().Washer.Outer
		}
		out = append(out, c)
	}
	return out
}

func itemsOf(items []catalog.Item) []Item {
	var out []Item
	for _, c := range items {
		i := Item{
			Kind: c.Kind, Name: c.Name, Thread: c.Thread.String(), Length: mmUnless(c.Length, 0), Thickness: mmUnless(c.Thickness, 0),
			Outer: mmUnless(c.Outer, 0), Diameter: mmUnless(c.Diameter,
				0), Count: c.Count, Bag: c.Bag, Use: c.Use, RatingBasis: c.RatingBasis, ThreadLength: mmUnless(c.ThreadLength, 0),
			For: c.For, EmbedmentMin: mmUnless(c.EmbedmentMin, 0), Root: mmUnless(c.Root, 0), Sleeve: mmUnless(c.Sleeve, 0),
		}
		if c.Tensile != 0 {
			n := int(c.Tensile)
			i.Tensile = &n
		}
		for w, r := range c.Ratings {
			if i.Ratings == nil {
				i.Ratings = map[catalog.WallType]Rating{}
			}
			i.Ratings[w] = Rating{kgOpt(quantity.Some(r.Pull)), kgOpt(quantity.Some(r.Shear))}
		}
		if c.Pull != 0 {
			i.Pull = kgOpt(quantity.Some(c.Pull))
		}
		if c.Shear != 0 {
			i.Shear = kgOpt(quantity.Some(c.Shear))
		}
		for _, t := range c.Threads {
			i.Threads = append(i.Threads, t.String())
		}
		out = append(out, i)
	}
	return out
}

func intervals(pairs [][2]MM) []fastener.Interval {
	var out []fastener.Interval
	for _, p := range pairs {
		out = append(out, fastener.Interval{Min: quantity.Length(p[0]), Max: quantity.Length(p[1])})
	}
	return out
}

func has(list []string, want string) bool {
	for _, s := range list {
		if s == want {
			return true
		}
	}
	return false
}

func (p *Pivot) core() *catalog.Pivot {
	if p == nil {
		return nil
	}
	return &catalog.Pivot{BelowHook: length(p.BelowHook), BehindArm: length(p.BehindArm)}
}

// core makes the catalogue's bracket.
func (b *Bracket) core() *catalog.Bracket {
	out := &catalog.Bracket{
		ID: b.ID, Name: b.Name, Revision: b.Revision, Kind: b.Kind,
		RatedLoad: mass(b.RatedLoad), RatedMoment: torque(b.RatedMoment), TiltHold: torque(b.TiltHold), ArmSwing: angle(b.ArmSwing),
		HungMass:    mass(b.HungMass),
		DiagonalMin: length(b.DiagonalMin), DiagonalMax: length(b.DiagonalMax), Mass: mass(b.Mass),
		PlateThickness: or0(b.PlateThickness), SlotWidth: length(b.SlotWidth), HeadRoom: length(b.HeadRoom),
		UsesTop: b.RowsUsed == nil || has(b.RowsUsed, "top"), UsesBottom: b.RowsUsed == nil || has(b.RowsUsed, "bottom"),
		Profile: length(b.Profile), Reach: length(b.Reach), LiftOver: length(b.LiftOver),
		TiltDown: angle(b.TiltDown), TiltUp: angle(b.TiltUp), TiltPivot: b.TiltPivot.core(),
		Swivel: angle(b.Swivel), SwivelPivot: b.SwivelPivot.core(), Kit: coreItems(b.Kit),
	}
	if b.Slip != nil {
		out.TiltHold = torque(b.Slip)
	}
	if out.Name == "" {
		out.Name = out.ID
	}
	for _, t := range b.Turns {
		out.Turns = append(out.Turns, catalog.Turn(t))
	}
	if out.Turns == nil {
		out.Turns = []catalog.Turn{0}
	}
	for _, t := range b.Threads {
		out.Threads = append(out.Threads, thread(t))
	}
	if b.Lock != nil {
		out.Lock = &catalog.Lock{Kind: b.Lock.Kind, Access: b.Lock.Access}
	}
	if i := b.Interface; i != nil {
		out.Interface = catalog.Interface{
			Type: i.Type, CenterBelowHook: or0(i.CenterBelowHook), Width: length(i.Width), Height: length(i.Height),
			WidthMin: or0(i.WidthMin), WidthMax: or0(i.WidthMax), ArmWidth: or0(i.ArmWidth), RailWidth: length(i.RailWidth),
			ArmTop: or0(i.ArmTop), ArmBottom: or0(i.ArmBottom), Slots: intervals(i.Slots),
		}
		for _, p := range i.Patterns {
			out.Interface.Patterns = append(out.Interface.Patterns, catalog.PatternSize{Width: quantity.Length(p[0]), Height: quantity.Length(p[1])})
		}
	}
	if b.WallPlate != nil {
		out.WallPlate = b.WallPlate.core()
	}
	for name, w := range b.Walls {
		if out.Walls == nil {
			out.Walls = map[catalog.WallType]catalog.WallFixing{}
		}
		out.Walls[name] = catalog.WallFixing{Drill: length(w.Drill), Depth: length(w.Depth), CoveringMax: length(w.CoveringMax),
			PenetrationMin: length(w.PenetrationMin), Fasteners: w.Fastener}
	}
	for _, s := range b.Settings {
		out.Settings = append(out.Settings, catalog.Setting{Field: s.Field, Below: length(s.Below), AtOrAbove: length(s.AtOrAbove), Text: s.Text})
	}
	return out
}

func (w *WallPlate) core() *catalog.WallPlate {
	out := &catalog.WallPlate{
		Count: max(w.Count, 1), Width: length(w.Width), Height: length(w.Height), Thickness: length(w.Thickness),
		Washer: or0(w.Washer), HookAboveDatum: or0(w.HookAboveDatum), LateralSlide: length(w.LateralSlide), HeightAdjust: length(w.HeightAdjust),
		SeparationIsPattern: w.Separation != "", StudsRequired: w.StudsRequired, TopPerStud: w.TopPerStud, BottomPerStud: w.BottomPerStud,
	}
	if s := w.SeparationMM; s != nil {
		out.Separation = &fastener.Interval{Min: quantity.Length(s[0]), Max: quantity.Length(s[1])}
	}
	for _, h := range w.Holes {
		shape := h.Shape
		if shape == "" {
			shape = "round"
		}
		out.Holes = append(out.Holes, catalog.PlateHole{ID: h.ID, Row: h.Row, Shape: shape, X: or0(h.X), Y: or0(h.Y), Travel: or0(h.Length),
			Diameter: or0(h.Diameter)})
	}
	return out
}

// BracketOf writes a bracket in the format.
func BracketOf(b *catalog.Bracket) Bracket {
	out := Bracket{
		ID: b.ID, Name: b.Name, Revision: b.Revision, Kind: b.Kind,
		RatedLoad: kgOpt(b.RatedLoad), RatedMoment: nmOpt(b.RatedMoment), ArmSwing: degOpt(b.ArmSwing), HungMass: kgOpt(b.HungMass),
		DiagonalMin: mmOpt(b.DiagonalMin), DiagonalMax: mmOpt(b.DiagonalMax), Mass: kgOpt(b.Mass),
		PlateThickness: mmOf(b.PlateThickness), SlotWidth: mmOpt(b.SlotWidth), HeadRoom: mmOpt(b.HeadRoom),
		Interface: interfaceOf(&b.Interface), Profile: mmOpt(b.Profile), Reach: mmOpt(b.Reach), LiftOver: mmOpt(b.LiftOver),
		TiltDown: degOpt(b.TiltDown), TiltUp: degOpt(b.TiltUp), TiltPivot: pivotOf(b.TiltPivot),
		Swivel: degOpt(b.Swivel), SwivelPivot: pivotOf(b.SwivelPivot), Kit: itemsOf(b.Kit),
	}
	if hold := nmOpt(b.TiltHold); b.Kind == "ball" {
		out.Slip = hold
	} else {
		out.TiltHold = hold
	}
	for _, t := range b.Turns {
		out.Turns = append(out.Turns, int(t))
	}
	for _, t := range b.Threads {
		out.Threads = append(out.Threads, t.String())
	}
	if b.UsesTop {
		out.RowsUsed = append(out.RowsUsed, "top")
	}
	if b.UsesBottom {
		out.RowsUsed = append(out.RowsUsed, "bottom")
	}
	if b.Lock != nil {
		out.Lock = &Lock{b.Lock.Kind, b.Lock.Access}
	}
	if b.WallPlate != nil {
		out.WallPlate = wallPlateOf(b.WallPlate)
	}
	for name, w := range b.Walls {
		if out.Walls == nil {
			out.Walls = map[catalog.WallType]WallFixing{}
		}
		out.Walls[name] = WallFixing{mmOpt(w.Drill), mmOpt(w.Depth), mmOpt(w.CoveringMax), mmOpt(w.PenetrationMin), w.Fasteners}
	}
	for _, s := range b.Settings {
		out.Settings = append(out.Settings, Setting{s.Field, mmOpt(s.Below), mmOpt(s.AtOrAbove), s.Text})
	}
	return out
}

func pairsOf(all []fastener.Interval) [][2]MM {
	var out [][2]MM
	for _, i := range all {
		out = append(out, [2]MM{MM(i.Min), MM(i.Max)})
	}
	return out
}

func interfaceOf(i *catalog.Interface) *Interface {
	out := &Interface{Type: i.Type}
	if i.Type == catalog.Plate {
		out.CenterBelowHook, out.Width, out.Height = mmOf(i.CenterBelowHook), mmOpt(i.Width), mmOpt(i.Height)
		for _, p := range i.Patterns {
			out.Patterns = append(out.Patterns, [2]MM{MM(p.Width), MM(p.Height)})
		}
		return out
	}
	out.WidthMin, out.WidthMax, out.ArmWidth, out.RailWidth = mmOf(i.WidthMin), mmOf(i.WidthMax), mmUnless(i.ArmWidth, 0), mmOpt(i.RailWidth)
	out.ArmTop, out.ArmBottom, out.Slots = mmOf(i.ArmTop), mmOf(i.ArmBottom), pairsOf(i.Slots)
	return out
}

func pivotOf(p *catalog.Pivot) *Pivot {
	if p == nil {
		return nil
	}
	return &Pivot{mmOpt(p.BelowHook), mmOpt(p.BehindArm)}
}

func wallPlateOf(w *catalog.WallPlate) *WallPlate {
	out := &WallPlate{
		Count: w.Count, Width: mmOpt(w.Width), Height: mmOpt(w.Height), Thickness: mmOpt(w.Thickness), Washer: mmUnless(w.Washer, 0),
		HookAboveDatum: mmOf(w.HookAboveDatum), LateralSlide: mmOpt(w.LateralSlide), HeightAdjust: mmOpt(w.HeightAdjust),
		StudsRequired: w.StudsRequired, TopPerStud: w.TopPerStud, BottomPerStud: w.BottomPerStud,
	}
	if w.SeparationIsPattern {
		out.Separation = "pattern_width"
	}
	if w.Separation != nil {
		out.SeparationMM = &[2]MM{MM(w.Separation.Min), MM(w.Separation.Max)}
	}
	for _, h := range w.Holes {
		out.Holes = append(out.Holes, PlateHole{h.ID, h.Row, mmOf(h.X), mmOf(h.Y), h.Shape, mmUnless(h.Travel, 0), mmUnless(h.Diameter, 0)})
	}
	return out
}

// JSONSchemaBytes says that a single name may stand without a list.
func (Names) JSONSchemaBytes() ([]byte, error) {
	return []byte(`{"anyOf":[{"type":"string","maxLength":120},{"type":"array","items":{"type":"string","maxLength":120},"minItems":1,"maxItems":2}]}`), nil
}
