package catalog

import (
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Display is a display model, in the format and in the catalogue: lengths are for the display upright, seen from the front.
// [Display.Complete] derives what is judged of it.
type Display struct {
	ID       string    `json:"id" required:"true" pattern:"^[A-Za-z0-9]([A-Za-z0-9_-]|\\.[A-Za-z0-9_-])*$" maxLength:"80"`
	Maker    string    `json:"maker,omitempty" maxLength:"120"`
	Model    string    `json:"model,omitempty" maxLength:"120"`
	Aliases  []string  `json:"aliases,omitempty" maxItems:"16" maxLength:"120"` // other names it goes by
	Diagonal OptLength `json:"diagonal_mm,omitzero" exclusiveMinimum:"0" maximum:"10000"`
	Width    OptLength `json:"width_mm,omitzero" exclusiveMinimum:"0" maximum:"10000"` // of the outline
	Height   OptLength `json:"height_mm,omitzero" exclusiveMinimum:"0" maximum:"10000"`
	Depth    OptLength `json:"depth_mm,omitzero" exclusiveMinimum:"0" maximum:"1000"`
	// absent: the depth
	RestPlaneFromFront OptLength `json:"rest_plane_from_front_mm,omitzero" exclusiveMinimum:"0" maximum:"1000"`
	// without its stand
	Mass          OptMass `json:"mass_kg,omitzero" exclusiveMinimum:"0" maximum:"1000"`
	MassWithStand OptMass `json:"mass_with_stand_kg,omitzero" exclusiveMinimum:"0" maximum:"1000"`
	// centre of gravity, from the outline's middle
	CGAboveCenter quantity.Length `json:"cg_above_center_mm,omitzero" minimum:"-5000" maximum:"5000"`
	CGRight       quantity.Length `json:"cg_right_mm,omitzero" minimum:"-5000" maximum:"5000"`
	// that its maker allows; none: not known
	Turns []Turn `json:"turns_deg,omitempty" enum:"0,90,270" minItems:"1" maxItems:"3" uniqueItems:"true"`
	// of all figures without one of their own
	Origin   Origin    `json:"origin,omitempty"`
	Patterns []Pattern `json:"patterns,omitempty" maxItems:"8"`
	// what the display's maker puts in its box
	OwnParts []Item `json:"own_parts,omitempty" maxItems:"64"`
	Zones    []Zone `json:"zones,omitempty" maxItems:"64"`
	// of single figures, by their path, and notes on them
	Origins map[string]Origin `json:"origins,omitempty"`
	Notes   map[string]Note   `json:"notes,omitempty"`

	OtherDiagonal OptLength `json:"-"` // the outline's, where Diagonal cannot be right with it; filled in by package fit
	MassDoubted   bool      `json:"-"` // Mass has the doubt of a caller's figure added; filled in by package fit
}

// A length or a mass that may not be known.
type (
	OptLength = quantity.Optional[quantity.Length]
	OptMass   = quantity.Optional[quantity.Mass]
)

// MaxName is how many letters a maker, a model or an alias may have.
const MaxName = 120

// Note is a note on a figure: how it was found, when, and by
// whom. The date is a day, 2026-11-25.
type Note struct {
	Text string `json:"text,omitempty" maxLength:"400"`
	Date string `json:"date,omitempty" pattern:"^[0-9]{4}-[0-9]{2}-[0-9]{2}$"`
	Who  string `json:"who,omitempty" maxLength:"80"`
}

// Name returns maker and model.
func (d *Display) Name() string {
	if d.Maker == "" {
		return d.Model
	}
	return d.Maker + " " + d.Model
}

// OriginOf returns the origin of a figure, by its path in the exchange format.
func (d *Display) OriginOf(path string) Origin {
	if o, ok := d.Origins[path]; ok {
		return o
	}
	return d.Origin
}

// Trial is a bolt tried by a caller in place of a measured hole.
type Trial struct {
	Thread    fastener.Thread                    `json:"thread" required:"true"`
	Length    quantity.Length                    `json:"length_mm" required:"true" exclusiveMinimum:"0" maximum:"500" unit:"mm"`
	UnderHead quantity.Length                    `json:"under_head_mm,omitzero" minimum:"0" maximum:"500"`
	Outcome   Outcome                            `json:"outcome" required:"true"`
	Gap       quantity.Optional[quantity.Length] `json:"gap_mm,omitzero" minimum:"-500" maximum:"500"`
	Turns     quantity.Optional[quantity.Ratio]  `json:"turns,omitzero" minimum:"0" maximum:"500"`
	Tolerance quantity.Optional[quantity.Length] `json:"tolerance_mm,omitzero" minimum:"0" maximum:"50"`
}

// Outcome is what can come of a trial bolt, by its name in the exchange format.
type Outcome string

// The outcomes.
const (
	Stopped  Outcome = "stopped"   // went tight short of the rim
	Seated   Outcome = "seated"    // still turned freely when the head came to rest
	Rests    Outcome = "rests"     // pushed in without turning, it rests on the insert
	TooBig   Outcome = "too_big"   // will not enter
	TooSmall Outcome = "too_small" // drops in, no thread
	Loose    Outcome = "loose"     // catches and rocks
)

// Outcomes lists the outcomes.
var Outcomes = []Outcome{Stopped, Seated, Rests, TooBig, TooSmall, Loose}

// String is the name in the exchange format.
func (o Outcome) String() string { return string(o) }

// Enum lists the names for the format's reader and schema.
func (Outcome) Enum() []any { return anyOf(Outcomes) }

// Zone is a part of the back that matters to what is put over it. X and Y
// are its centre from the display's centre, front view.
type Zone struct {
	Kind   string          `json:"kind" required:"true" enum:"port,vent,label,protrusion,pocket"`
	X      quantity.Length `json:"x_mm" required:"true" minimum:"-5000" maximum:"5000"`
	Y      quantity.Length `json:"y_mm" required:"true" minimum:"-5000" maximum:"5000"`
	Width  quantity.Length `json:"width_mm" required:"true" exclusiveMinimum:"0" maximum:"10000"`
	Height quantity.Length `json:"height_mm" required:"true" exclusiveMinimum:"0" maximum:"10000"`
	// plugged-in connector, rearward from its socket
	Plug quantity.Optional[quantity.Length] `json:"plug_mm,omitzero" minimum:"0" maximum:"500"`
	// socket's face in front of the rest plane
	Setback quantity.Optional[quantity.Length] `json:"setback_mm,omitzero" minimum:"0" maximum:"500"`
	Out     quantity.Optional[quantity.Length] `json:"out_mm,omitzero" minimum:"0" maximum:"500"` // protrusion past the rest plane
	// a pocket's floor in front of its rim: one recess around all holes
	Depth quantity.Optional[quantity.Length] `json:"depth_mm,omitzero" exclusiveMinimum:"0" maximum:"500"`

	// a vent's free space behind it
	Clear quantity.Optional[quantity.Length] `json:"clear_mm,omitzero" minimum:"0" maximum:"500"`
	// what the cable needs behind the plug
	CableBend quantity.Optional[quantity.Length] `json:"cable_bend_mm,omitzero" minimum:"0" maximum:"500"`
	// length of a cable that cannot be unplugged
	FixedCable quantity.Optional[quantity.Length] `json:"fixed_cable_mm,omitzero" exclusiveMinimum:"0" maximum:"20000"`
	Connector  string                             `json:"connector,omitempty" maxLength:"80"`
}

// ZoneKinds are the kinds of zone.
var ZoneKinds = []string{"port", "vent", "label", "protrusion", "pocket"}

// Turn is how a display hangs, clockwise seen from the front, in degrees.
type Turn int

// Turns are the ways a display can hang.
var Turns = []Turn{0, 90, 270}

// Point is a place in a front view, x right and y up.
type Point struct{ X, Y quantity.Length }

// Of turns a point about the display's centre: at 90° (x, y) goes to (y, −x).
func (t Turn) Of(p Point) Point {
	switch t {
	case 90:
		return Point{p.Y, -p.X}
	case 270:
		return Point{-p.Y, p.X}
	}
	return p
}

// Swaps reports whether the turn swaps width and height.
func (t Turn) Swaps() bool { return t == 90 || t == 270 }

// Size is a width and height as they are when hung with this turn.
func (t Turn) Size(width, height quantity.Length) (w, h quantity.Length) {
	if t.Swaps() {
		return height, width
	}
	return width, height
}

// Outline is the display's outline as hung, false when it is not known.
func (d *Display) Outline(t Turn) (width, height quantity.Length, known bool) {
	if !d.Width.Known || !d.Height.Known {
		return 0, 0, false
	}
	width, height = t.Size(d.Width.Value, d.Height.Value)
	return width, height, true
}

// PatternCenter is where the pattern's centre lies from the display's centre
// as hung. Either coordinate may be missing: upright the vertical one needs
// the height and center_below_top, turned the horizontal one does.
func (d *Display) PatternCenter(p *Pattern, t Turn) (x, y quantity.Optional[quantity.Length]) {
	right := quantity.Some(p.CenterRight)
	up := quantity.Optional[quantity.Length]{}
	if p.CenterBelowTop.Known && d.Height.Known {
		up = quantity.Some(d.Height.Value/2 - p.CenterBelowTop.Value)
	}
	switch t {
	case 90:
		return up, quantity.Some(-right.Value)
	case 270:
		return quantity.Optional[quantity.Length]{Value: -up.Value, Known: up.Known}, right
	}
	return right, up
}

// Span is what is known of a length: from Low up to High, which may be open.
type Span struct {
	Low  quantity.Length
	High quantity.Optional[quantity.Length]
}

// Middle is the middle of a span, its low end when the high one is open.
func (s Span) Middle() quantity.Length {
	if !s.High.Known {
		return s.Low
	}
	return s.Low + (s.High.Value-s.Low)/2
}
