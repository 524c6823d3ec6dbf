package exchange

import (
	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// MostName is how many letters a maker, a model or an alias may have.
const MostName = 120

// Display is a display model in the format.
type Display struct {
	ID                 string            `json:"id" required:"true" pattern:"^[A-Za-z0-9]([A-Za-z0-9_-]|\\.[A-Za-z0-9_-])*$" patternText:"letters, digits, dots, dashes and underscores, starting with a letter or digit" maxLength:"80"`
	Maker              string            `json:"maker,omitempty" maxLength:"120"`
	Model              string            `json:"model,omitempty" maxLength:"120"`
	Aliases            []string          `json:"aliases,omitempty" maxItems:"16" maxLength:"120"`
	Diagonal           *MM               `json:"diagonal_mm,omitempty" exclusiveMinimum:"0" maximum:"10000"`
	Width              *MM               `json:"width_mm,omitempty" exclusiveMinimum:"0" maximum:"10000"`
	Height             *MM               `json:"height_mm,omitempty" exclusiveMinimum:"0" maximum:"10000"`
	Depth              *MM               `json:"depth_mm,omitempty" exclusiveMinimum:"0" maximum:"1000"`
	RestPlaneFromFront *MM               `json:"rest_plane_from_front_mm,omitempty" exclusiveMinimum:"0" maximum:"1000"`
	Mass               *KG               `json:"mass_kg,omitempty" exclusiveMinimum:"0" maximum:"1000"`
	MassWithStand      *KG               `json:"mass_with_stand_kg,omitempty" exclusiveMinimum:"0" maximum:"1000"`
	CGAbove            *MM               `json:"cg_above_center_mm,omitempty" minimum:"-5000" maximum:"5000"`
	CGRight            *MM               `json:"cg_right_mm,omitempty" minimum:"-5000" maximum:"5000"`
	Turns              []int             `json:"turns_deg,omitempty" enum:"0,90,270" minItems:"1" maxItems:"3"`
	Origin             string            `json:"origin,omitempty" enum:"bench,sheet,caller"`
	Patterns           []Pattern         `json:"patterns,omitempty" maxItems:"8"`
	OwnParts           []Item            `json:"own_parts,omitempty" maxItems:"64"`
	Zones              []Zone            `json:"zones,omitempty" maxItems:"64"`
	Origins            map[string]string `json:"origins,omitempty" enum:"bench,sheet,caller"`
	Notes              map[string]Note   `json:"notes,omitempty"`
}

// Note is how a figure was come by. The date is a day, 2026-11-25.
type Note struct {
	Text string `json:"text,omitempty" maxLength:"400"`
	Date string `json:"date,omitempty" pattern:"^[0-9]{4}-[0-9]{2}-[0-9]{2}$" patternText:"a day, as 2026-11-25"`
	Who  string `json:"who,omitempty" maxLength:"80"`
}

// Pattern is a hole pattern, its holes given as two rows or one by one.
type Pattern struct {
	Width          *MM    `json:"width_mm" required:"true" exclusiveMinimum:"0" maximum:"3000"`
	Height         *MM    `json:"height_mm" required:"true" minimum:"0" maximum:"3000"`
	Thread         string `json:"thread,omitempty" enum:"M4,M5,M6,M8"`
	CenterBelowTop *MM    `json:"center_below_top_mm,omitempty" minimum:"0" maximum:"10000"`
	CenterRight    *MM    `json:"center_right_mm,omitempty" minimum:"-5000" maximum:"5000"`
	TorqueMax      *Num   `json:"torque_max_nm,omitempty" exclusiveMinimum:"0" maximum:"200"`
	Rows           *Rows  `json:"rows,omitempty"`
	Holes          []Hole `json:"holes,omitempty" minItems:"2" maxItems:"8"`
}

// Rows is the shorthand for four holes TL TR BL BR.
type Rows struct {
	Top    *HoleFigures `json:"top,omitempty"`
	Bottom *HoleFigures `json:"bottom,omitempty"`
}

// HoleFigures are what is known along a hole's axis.
type HoleFigures struct {
	Setback        *MM     `json:"setback_mm,omitempty" minimum:"0" maximum:"500"`
	Recess         *MM     `json:"recess_mm,omitempty" minimum:"0" maximum:"500"`
	RecessDiameter *MM     `json:"recess_diameter_mm,omitempty" exclusiveMinimum:"0" maximum:"500"`
	ThreadDepth    *MM     `json:"thread_depth_mm,omitempty" exclusiveMinimum:"0" maximum:"500"`
	Trials         []Trial `json:"trials,omitempty" minItems:"1" maxItems:"64"`
}

// Hole is one hole with its place from the pattern's centre, front view.
type Hole struct {
	ID             string  `json:"id" required:"true" pattern:"^[A-Za-z0-9_-]{1,16}$" patternText:"up to 16 letters and digits"`
	X              *MM     `json:"x_mm" required:"true" minimum:"-3000" maximum:"3000"`
	Y              *MM     `json:"y_mm" required:"true" minimum:"-3000" maximum:"3000"`
	Setback        *MM     `json:"setback_mm,omitempty" minimum:"0" maximum:"500"`
	Recess         *MM     `json:"recess_mm,omitempty" minimum:"0" maximum:"500"`
	RecessDiameter *MM     `json:"recess_diameter_mm,omitempty" exclusiveMinimum:"0" maximum:"500"`
	ThreadDepth    *MM     `json:"thread_depth_mm,omitempty" exclusiveMinimum:"0" maximum:"500"`
	Trials         []Trial `json:"trials,omitempty" minItems:"1" maxItems:"64"`
}

// Trial is a bolt tried in a hole.
type Trial struct {
	Thread    string          `json:"thread" required:"true" enum:"M4,M5,M6,M8"`
	Length    *MM             `json:"length_mm" required:"true" exclusiveMinimum:"0" maximum:"500"`
	UnderHead *MM             `json:"under_head_mm,omitempty" minimum:"0" maximum:"500"`
	Outcome   catalog.Outcome `json:"outcome" required:"true"`
	Gap       *MM             `json:"gap_mm,omitempty" minimum:"-500" maximum:"500"`
	Turns     *Num            `json:"turns,omitempty" minimum:"0" maximum:"500"`
	Tolerance *MM             `json:"tolerance_mm,omitempty" minimum:"0" maximum:"50"`
}

// Zone is a part of the back, its centre from the display's centre, front
// view.
type Zone struct {
	Kind    string `json:"kind" required:"true" enum:"port,vent,label,protrusion"`
	X       *MM    `json:"x_mm" required:"true" minimum:"-5000" maximum:"5000"`
	Y       *MM    `json:"y_mm" required:"true" minimum:"-5000" maximum:"5000"`
	Width   *MM    `json:"width_mm" required:"true" exclusiveMinimum:"0" maximum:"10000"`
	Height  *MM    `json:"height_mm" required:"true" exclusiveMinimum:"0" maximum:"10000"`
	Plug    *MM    `json:"plug_mm,omitempty" minimum:"0" maximum:"500"`
	Setback *MM    `json:"setback_mm,omitempty" minimum:"0" maximum:"500"`
	Out     *MM    `json:"out_mm,omitempty" minimum:"0" maximum:"500"`

	Clear      *MM    `json:"clear_mm,omitempty" minimum:"0" maximum:"500"`
	CableBend  *MM    `json:"cable_bend_mm,omitempty" minimum:"0" maximum:"500"`
	FixedCable *MM    `json:"fixed_cable_mm,omitempty" exclusiveMinimum:"0" maximum:"20000"`
	Connector  string `json:"connector,omitempty" maxLength:"80"`
}

func origin(name string, fallback catalog.Origin) catalog.Origin {
	for i, n := range catalog.Origins {
		if n == name {
			return catalog.Origin(i)
		}
	}
	return fallback
}

func thread(name string) fastener.Thread {
	t, _ := fastener.ParseThread(name) // the reader has checked it; "" is not known
	return t
}

func length(m *MM) quantity.Optional[quantity.Length] {
	if m == nil {
		return quantity.Optional[quantity.Length]{}
	}
	return quantity.Some(quantity.Length(*m))
}

func mass(k *KG) quantity.Optional[quantity.Mass] {
	if k == nil {
		return quantity.Optional[quantity.Mass]{}
	}
	return quantity.Some(quantity.Mass(*k))
}

func torque(n *Num) quantity.Optional[quantity.Torque] {
	if n == nil {
		return quantity.Optional[quantity.Torque]{}
	}
	return quantity.Some(quantity.Torque(*n))
}

func nmOpt(o quantity.Optional[quantity.Torque]) *Num {
	if !o.Known {
		return nil
	}
	n := Num(o.Value)
	return &n
}

func angle(d *Deg) quantity.Optional[quantity.Angle] {
	if d == nil {
		return quantity.Optional[quantity.Angle]{}
	}
	return quantity.Some(quantity.Angle(*d))
}

// or0 is the length, 0 where it is missing or was refused by the reader.
func or0(m *MM) quantity.Length { return length(m).Or(0) }

// core makes the catalogue's display. Hole figures take their origins from
// d.Origins.
func (d *Display) core() *catalog.Display {
	out := &catalog.Display{
		ID: d.ID, Maker: d.Maker, Model: d.Model, Aliases: d.Aliases,
		Diagonal: length(d.Diagonal), Width: length(d.Width), Height: length(d.Height), Depth: length(d.Depth),
		RestPlaneFromFront: length(d.RestPlaneFromFront), Mass: mass(d.Mass), MassWithStand: mass(d.MassWithStand),
		CGAboveCenter: or0(d.CGAbove), CGRight: or0(d.CGRight),
		OwnParts: coreItems(d.OwnParts), Origin: origin(d.Origin, catalog.Sheet),
	}
	for _, t := range d.Turns {
		out.Turns = append(out.Turns, catalog.Turn(t))
	}
	for path, n := range d.Notes {
		if out.Notes == nil {
			out.Notes = map[string]catalog.Note{}
		}
		out.Notes[path] = catalog.Note(n)
	}
	used := map[string]bool{}
	for i := range d.Patterns {
		out.Patterns = append(out.Patterns, d.pattern(i, used))
	}
	for _, z := range d.Zones {
		out.Zones = append(out.Zones, catalog.Zone{
			Kind: z.Kind, X: or0(z.X), Y: or0(z.Y), Width: or0(z.Width), Height: or0(z.Height),
			Plug: length(z.Plug), Setback: length(z.Setback), Out: length(z.Out),
			Clear: length(z.Clear), CableBend: length(z.CableBend), FixedCable: length(z.FixedCable), Connector: z.Connector,
		})
	}
	for path, name := range d.Origins {
		if !used[path] {
			if out.Origins == nil {
				out.Origins = map[string]catalog.Origin{}
			}
			out.Origins[path] = origin(name, catalog.Sheet)
		}
	}
	return out
}

func (d *Display) pattern(i int, used map[string]bool) catalog.Pattern {
	p := &d.Patterns[i]
	out := catalog.Pattern{
		Width: or0(p.Width), Height: or0(p.Height), Thread: thread(p.Thread),
		CenterBelowTop: length(p.CenterBelowTop), CenterRight: or0(p.CenterRight), TorqueMax: torque(p.TorqueMax),
	}
	at := index("patterns", i)
	if p.Holes != nil {
		for j, h := range p.Holes {
			f := HoleFigures{h.Setback, h.Recess, h.RecessDiameter, h.ThreadDepth, h.Trials}
			hole := d.hole(&f, join(at, index("holes", j)), used)
			hole.ID, hole.X, hole.Y = h.ID, or0(h.X), or0(h.Y)
			out.Holes = append(out.Holes, hole)
		}
		return out
	}
	out.ByRows = true
	rows := p.Rows
	if rows == nil {
		rows = &Rows{}
	}
	for _, r := range []struct {
		name    string
		figures *HoleFigures
		up      quantity.Length
	}{{"top", rows.Top, 1}, {"bottom", rows.Bottom, -1}} {
		f := r.figures
		if f == nil {
			f = &HoleFigures{}
		}
		hole := d.hole(f, join(at, "rows."+r.name), used)
		for _, side := range []quantity.Length{-1, 1} {
			hole.ID = rowHoleID(r.up, side)
			hole.X, hole.Y = side*out.Width/2, r.up*out.Height/2
			out.Holes = append(out.Holes, hole)
		}
	}
	return out
}

func rowHoleID(up, right quantity.Length) string {
	return map[bool]string{true: "T", false: "B"}[up > 0] + map[bool]string{true: "R", false: "L"}[right > 0]
}

// hole reads a hole's figures with their origins. Setback and recess default
// to 0, unless trials stand in for recess and thread depth.
func (d *Display) hole(f *HoleFigures, at string, used map[string]bool) catalog.Hole {
	figure := func(m *MM, name string) catalog.Figure {
		path := join(at, name)
		o := origin(d.Origin, catalog.Sheet)
		if named, ok := d.Origins[path]; ok {
			used[path] = true
			o = origin(named, o)
		}
		if m == nil {
			return catalog.Figure{Origin: o}
		}
		return catalog.Given(quantity.Length(*m), o)
	}
	h := catalog.Hole{
		Setback: figure(f.Setback, "setback_mm"), Recess: figure(f.Recess, "recess_mm"),
		RecessDiameter: figure(f.RecessDiameter, "recess_diameter_mm"), ThreadDepth: figure(f.ThreadDepth, "thread_depth_mm"),
	}
	h.Setback.Known = true
	h.Recess.Known = h.Recess.Known || f.Trials == nil || f.ThreadDepth != nil
	h.Trials = coreTrials(f.Trials)
	return h
}

func coreTrials(list []Trial) []catalog.Trial {
	var out []catalog.Trial
	for _, t := range list {
		trial := catalog.Trial{
			Thread: thread(t.Thread), Length: or0(t.Length), UnderHead: or0(t.UnderHead),
			Outcome: t.Outcome, Gap: length(t.Gap), Tolerance: length(t.Tolerance),
		}
		if t.Turns != nil {
			trial.Turns = quantity.Some(quantity.Ratio(*t.Turns))
		}
		out = append(out, trial)
	}
	return out
}
