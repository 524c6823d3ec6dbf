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
	ID                 string                  `json:"id" required:"true" pattern:"^[A-Za-z0-9]([A-Za-z0-9_-]|\\.[A-Za-z0-9_-])*$" maxLength:"80"`
	Maker              string                  `json:"maker,omitempty" maxLength:"120"`
	Model              string                  `json:"model,omitempty" maxLength:"120"`
	Aliases            []string                `json:"aliases,omitempty" maxItems:"16" maxLength:"120"`
	Diagonal           OptMM                   `json:"diagonal_mm,omitzero" exclusiveMinimum:"0" maximum:"10000"`
	Width              OptMM                   `json:"width_mm,omitzero" exclusiveMinimum:"0" maximum:"10000"`
	Height             OptMM                   `json:"height_mm,omitzero" exclusiveMinimum:"0" maximum:"10000"`
	Depth              OptMM                   `json:"depth_mm,omitzero" exclusiveMinimum:"0" maximum:"1000"`
	RestPlaneFromFront OptMM                   `json:"rest_plane_from_front_mm,omitzero" exclusiveMinimum:"0" maximum:"1000"`
	Mass               OptKG                   `json:"mass_kg,omitzero" exclusiveMinimum:"0" maximum:"1000"`
	MassWithStand      OptKG                   `json:"mass_with_stand_kg,omitzero" exclusiveMinimum:"0" maximum:"1000"`
	CGAboveCenter      MM                      `json:"cg_above_center_mm,omitzero" minimum:"-5000" maximum:"5000"`
	CGRight            MM                      `json:"cg_right_mm,omitzero" minimum:"-5000" maximum:"5000"`
	Turns              []catalog.Turn          `json:"turns_deg,omitempty" enum:"0,90,270" minItems:"1" maxItems:"3"`
	Origin             string                  `json:"origin,omitempty" enum:"bench,sheet,caller"`
	Patterns           []Pattern               `json:"patterns,omitempty" maxItems:"8"`
	OwnParts           []catalog.Item          `json:"own_parts,omitempty" maxItems:"64"`
	Zones              []catalog.Zone          `json:"zones,omitempty" maxItems:"64"`
	Origins            map[string]string       `json:"origins,omitempty" enum:"bench,sheet,caller"`
	Notes              map[string]catalog.Note `json:"notes,omitempty"`
}

// Pattern is a hole pattern, its holes given as two rows or one by one.
type Pattern struct {
	Width          MM                                 `json:"width_mm" required:"true" exclusiveMinimum:"0" maximum:"3000"`
	Height         MM                                 `json:"height_mm" required:"true" minimum:"0" maximum:"3000"`
	Thread         fastener.Thread                    `json:"thread,omitzero"`
	CenterBelowTop OptMM                              `json:"center_below_top_mm,omitzero" minimum:"0" maximum:"10000"`
	CenterRight    MM                                 `json:"center_right_mm,omitzero" minimum:"-5000" maximum:"5000"`
	TorqueMax      quantity.Optional[quantity.Torque] `json:"torque_max_nm,omitzero" exclusiveMinimum:"0" maximum:"200"`
	Rows           *Rows                              `json:"rows,omitempty"`
	Holes          []Hole                             `json:"holes,omitempty" minItems:"2" maxItems:"8"`
}

// Rows is the shorthand for four holes TL TR BL BR.
type Rows struct {
	Top    *HoleFigures `json:"top,omitempty"`
	Bottom *HoleFigures `json:"bottom,omitempty"`
}

// HoleFigures are the known figures along a hole's axis.
type HoleFigures struct {
	Setback        OptMM           `json:"setback_mm,omitzero" minimum:"0" maximum:"500"`
	Recess         OptMM           `json:"recess_mm,omitzero" minimum:"0" maximum:"500"`
	RecessDiameter OptMM           `json:"recess_diameter_mm,omitzero" exclusiveMinimum:"0" maximum:"500"`
	ThreadDepth    OptMM           `json:"thread_depth_mm,omitzero" exclusiveMinimum:"0" maximum:"500"`
	Trials         []catalog.Trial `json:"trials,omitempty" minItems:"1" maxItems:"64"`
}

// Hole is one hole with its place from the pattern's centre, front view.
type Hole struct {
	ID string `json:"id" required:"true" pattern:"^[A-Za-z0-9_-]{1,16}$"`
	X  MM     `json:"x_mm" required:"true" minimum:"-3000" maximum:"3000"`
	Y  MM     `json:"y_mm" required:"true" minimum:"-3000" maximum:"3000"`
	HoleFigures
}

func origin(name string, fallback catalog.Origin) catalog.Origin {
	for i, n := range catalog.Origins {
		if n == name {
			return catalog.Origin(i)
		}
	}
	return fallback
}

// core converts it to the catalogue's display. Hole figures take their origins from
// d.Origins.
func (d *Display) core() *catalog.Display {
	out := &catalog.Display{
		ID: d.ID, Maker: d.Maker, Model: d.Model, Aliases: d.Aliases, Diagonal: d.Diagonal, Width: d.Width, Height: d.Height, Depth: d.Depth,
		RestPlaneFromFront: d.RestPlaneFromFront, Mass: d.Mass, MassWithStand: d.MassWithStand,
		CGAboveCenter: d.CGAboveCenter, CGRight: d.CGRight,
		Turns: d.Turns, OwnParts: d.OwnParts, Zones: d.Zones, Notes: d.Notes, Origin: origin(d.Origin, catalog.Sheet),
	}
	used := map[string]bool{}
	for i := range d.Patterns {
		out.Patterns = append(out.Patterns, d.pattern(i, used))
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
		Width: p.Width, Height: p.Height, Thread: p.Thread, CenterBelowTop: p.CenterBelowTop, CenterRight: p.CenterRight, TorqueMax: p.TorqueMax,
	}
	at := index("patterns", i)
	if p.Holes != nil {
		for j := range p.Holes {
			h := &p.Holes[j]
			hole := d.hole(&h.HoleFigures, join(at, index("holes", j)), used)
			hole.ID, hole.X, hole.Y = h.ID, h.X, h.Y
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

// hole reads a hole's figures with their origins. Setback and recess count as 0 where nobody has said them, and are
// not known then; beside trials a depth on record goes with no recess.
func (d *Display) hole(f *HoleFigures, at string, used map[string]bool) catalog.Hole {
	figure := func(m OptMM, name string) catalog.Figure {
		path := join(at, name)
		o := origin(d.Origin, catalog.Sheet)
		if named, ok := d.Origins[path]; ok {
			used[path] = true
			o = origin(named, o)
		}
		return catalog.Figure{Length: m.Value, Known: m.Known, Origin: o}
	}
	h := catalog.Hole{
		Setback: figure(f.Setback, "setback_mm"), Recess: figure(f.Recess, "recess_mm"),
		RecessDiameter: figure(f.RecessDiameter, "recess_diameter_mm"), ThreadDepth: figure(f.ThreadDepth, "thread_depth_mm"),
	}
	h.Recess.Known = h.Recess.Known || f.Trials != nil && f.ThreadDepth.Known
	h.Trials = f.Trials
	return h
}

// shape reports what is wrong with how a display is written, before it is converted to the
// catalogue's display.
func (d *Display) shape() []catalog.Problem {
	var out []catalog.Problem
	for i := range d.Patterns {
		if p := &d.Patterns[i]; p.Rows != nil && p.Holes != nil {
			out = append(out, catalog.Problem{Path: join(index("patterns", i), "holes"), Found: "rows and holes are both given",
				Allowed: "one of them"})
		}
	}
	return out
}
