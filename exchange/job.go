package exchange

import (
	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Job is one site.
type Job struct {
	ID          string  `json:"id" required:"true" pattern:"^[A-Za-z0-9]([A-Za-z0-9_-]|\\.[A-Za-z0-9_-])*$" patternText:"letters, digits, dots, dashes and underscores, starting with a letter or digit" maxLength:"80"`
	Display     string  `json:"display" required:"true" maxLength:"80"`
	Bracket     string  `json:"bracket" required:"true" maxLength:"80"`
	Turn        int     `json:"turn_deg,omitempty" enum:"0,90,270"`
	Accessories *KG     `json:"accessories_kg,omitempty" minimum:"0" maximum:"1000"`
	Run         *Run    `json:"run,omitempty"`
	Wall        *Wall   `json:"wall,omitempty"`
	Place       *Place  `json:"place,omitempty"`
	Assume      *Assume `json:"assume,omitempty"`
	Prints      []Print `json:"prints,omitempty" maxItems:"200"`
}

// Assume is what the strength of a place is worked out with instead of what
// follows from the pairing and the wall.
type Assume struct {
	Load        *KG  `json:"load_kg,omitempty" minimum:"0" maximum:"1000"`
	Reach       *MM  `json:"reach_mm,omitempty" minimum:"0" maximum:"5000"`
	Aside       *MM  `json:"aside_mm,omitempty" minimum:"-5000" maximum:"5000"`
	Penetration *MM  `json:"penetration_mm,omitempty" minimum:"0" maximum:"500"`
	Gravity     *Num `json:"gravity,omitempty" minimum:"0.2" maximum:"1"`
}

// Print is a printed template's scale bar as it was measured.
type Print struct {
	Bar      *MM    `json:"bar_mm" required:"true" exclusiveMinimum:"0" maximum:"1000"`
	Measured *MM    `json:"measured_mm" required:"true" exclusiveMinimum:"0" maximum:"1000"`
	Accepted bool   `json:"accepted"`
	Paper    string `json:"paper,omitempty" enum:"sheet,a4,letter,a3"`
	Who      string `json:"who,omitempty" maxLength:"80"`
	At       string `json:"at,omitempty" maxLength:"40"`
}

// Run is several equal displays side by side.
type Run struct {
	Count int `json:"count" required:"true" minimum:"1" maximum:"100"`
	Gap   *MM `json:"gap_mm,omitempty" minimum:"0" maximum:"10000"`
}

// Wall is a job's wall.
type Wall struct {
	Type     catalog.WallType `json:"type" required:"true"`
	Vehicle  bool             `json:"vehicle,omitempty"`
	Covering *MM              `json:"covering_mm,omitempty" minimum:"0" maximum:"500"`
	Width    *MM              `json:"width_mm,omitempty" exclusiveMinimum:"0" maximum:"100000"`
	Height   *MM              `json:"height_mm,omitempty" exclusiveMinimum:"0" maximum:"20000"`
	Cavity   *MM              `json:"cavity_mm,omitempty" minimum:"0" maximum:"500"`
	Backing  *MM              `json:"backing_mm,omitempty" exclusiveMinimum:"0" maximum:"1000"`
	Studs    *Studs           `json:"studs,omitempty"`
	Species  string           `json:"species,omitempty" enum:"spruce_pine_fir,hem_fir,douglas_fir_larch,southern_pine"`

	Outlets   []Outlet    `json:"outlets,omitempty" maxItems:"100"`
	Furniture []Furniture `json:"furniture,omitempty" maxItems:"100"`
	Niche     *Niche      `json:"niche,omitempty"`
}

// Outlet is a box in the wall, by its middle; stud is the side that its stud
// is on.
type Outlet struct {
	X    *MM    `json:"x_mm" required:"true" minimum:"0" maximum:"100000"`
	Y    *MM    `json:"y_mm" required:"true" minimum:"0" maximum:"20000"`
	Kind string `json:"kind,omitempty" enum:"power,data,switch"`
	Stud string `json:"stud,omitempty" enum:"left,right"`
}

// Furniture is what stands against the wall: its middle, and its top above the
// floor.
type Furniture struct {
	Name   string `json:"name,omitempty" maxLength:"80"`
	X      *MM    `json:"x_mm" required:"true" minimum:"0" maximum:"100000"`
	Width  *MM    `json:"width_mm" required:"true" exclusiveMinimum:"0" maximum:"100000"`
	Height *MM    `json:"height_mm" required:"true" exclusiveMinimum:"0" maximum:"20000"`
	Depth  *MM    `json:"depth_mm,omitempty" exclusiveMinimum:"0" maximum:"20000"`
}

// Niche is a recess or a cabinet that the display goes in, by its middle.
type Niche struct {
	X      *MM `json:"x_mm" required:"true" minimum:"0" maximum:"100000"`
	Width  *MM `json:"width_mm" required:"true" exclusiveMinimum:"0" maximum:"100000"`
	Bottom *MM `json:"bottom_mm" required:"true" minimum:"0" maximum:"20000"`
	Height *MM `json:"height_mm" required:"true" exclusiveMinimum:"0" maximum:"20000"`
	Depth  *MM `json:"depth_mm,omitempty" exclusiveMinimum:"0" maximum:"5000"`
}

// Studs are where a wall's studs are.
type Studs struct {
	Outlet  *int `json:"outlet,omitempty" minimum:"0" maximum:"99"`
	First   *MM  `json:"first_mm,omitempty" minimum:"0" maximum:"100000"`
	Spacing *MM  `json:"spacing_mm,omitempty" exclusiveMinimum:"0" maximum:"10000"`
	At      []MM `json:"at_mm,omitempty" minItems:"1" maxItems:"1000" minimum:"0" maximum:"100000"`
	Width   *MM  `json:"width_mm,omitempty" exclusiveMinimum:"0" maximum:"500"`
}

// Place is where a display goes on its wall.
type Place struct {
	Rule      string `json:"rule" required:"true" enum:"center,eye,upper_third,above,below,overhead"`
	Center    *MM    `json:"center_mm,omitempty" minimum:"0" maximum:"20000"`
	Eye       *MM    `json:"eye_mm,omitempty" minimum:"0" maximum:"20000"`
	Distance  *MM    `json:"distance_mm,omitempty" minimum:"0" maximum:"100000"`
	Angle     *Deg   `json:"angle_deg,omitempty" minimum:"-89" maximum:"89"`
	Surface   *MM    `json:"surface_mm,omitempty" minimum:"0" maximum:"20000"`
	Line      *MM    `json:"line_mm,omitempty" minimum:"0" maximum:"20000"`
	Gap       *MM    `json:"gap_mm,omitempty" minimum:"0" maximum:"20000"`
	Bottom    *MM    `json:"bottom_mm,omitempty" minimum:"0" maximum:"20000"`
	Accessory *MM    `json:"accessory_mm,omitempty" minimum:"0" maximum:"20000"`
	X         *MM    `json:"x_mm,omitempty" minimum:"0" maximum:"100000"`
	Public    bool   `json:"public,omitempty"`
}

func (j *Job) core() *catalog.Job {
	out := &catalog.Job{
		ID: j.ID, Display: j.Display, Bracket: j.Bracket, Turn: catalog.Turn(j.Turn), Accessories: mass(j.Accessories).Or(0),
	}
	if j.Run != nil {
		out.Run = &catalog.Run{Count: j.Run.Count, Gap: or0(j.Run.Gap)}
	}
	if w := j.Wall; w != nil {
		out.Wall = w.core()
	}
	if p := j.Place; p != nil {
		out.Place = catalog.Place{
			Rule: p.Rule, Center: length(p.Center), Eye: length(p.Eye), Distance: length(p.Distance), Angle: angle(p.Angle),
			Surface: length(p.Surface), Line: length(p.Line), Gap: length(p.Gap), Bottom: length(p.Bottom),
			Accessory: length(p.Accessory), X: length(p.X), Public: p.Public,
		}
	}
	if a := j.Assume; a != nil {
		out.Assume = catalog.Assumptions{Load: mass(a.Load), Reach: length(a.Reach), Aside: length(a.Aside), Penetration: length(a.Penetration)}
		if a.Gravity != nil {
			out.Assume.Gravity = quantity.Some(quantity.Ratio(*a.Gravity))
		}
	}
	for _, p := range j.Prints {
		out.Prints = append(out.Prints, catalog.Print{Bar: or0(p.Bar), Measured: or0(p.Measured), Accepted: p.Accepted, Paper: p.Paper,
			Who: p.Who, At: p.At})
	}
	return out
}

func (w *Wall) core() catalog.Wall {
	out := catalog.Wall{Type: w.Type, Vehicle: w.Vehicle, Covering: length(w.Covering), Width: length(w.Width), Height: length(w.Height),
		Cavity: length(w.Cavity), Backing: length(w.Backing), Species: w.Species}
	if s := w.Studs; s != nil {
		out.Studs = &catalog.Studs{First: length(s.First), Spacing: length(s.Spacing), Width: length(s.Width)}
		if s.Outlet != nil {
			out.Studs.Outlet = quantity.Some(*s.Outlet)
		}
		for _, at := range s.At {
			out.Studs.At = append(out.Studs.At, quantity.Length(at))
		}
	}
	for _, o := range w.Outlets {
		kind := o.Kind
		if kind == "" {
			kind = catalog.OutletKinds[0]
		}
		out.Outlets = append(out.Outlets, catalog.Outlet{X: or0(o.X), Y: or0(o.Y), Kind: kind, Stud: o.Stud})
	}
	for _, f := range w.Furniture {
		out.Furniture = append(out.Furniture, catalog.Furniture{Name: f.Name, X: or0(f.X), Width: or0(f.Width), Height: or0(f.Height),
			Depth: length(f.Depth)})
	}
	if n := w.Niche; n != nil {
		out.Niche = &catalog.Niche{X: or0(n.X), Width: or0(n.Width), Bottom: or0(n.Bottom), Height: or0(n.Height), Depth: length(n.Depth)}
	}
	return out
}

func wallOf(w *catalog.Wall) *Wall {
	out := &Wall{Type: w.Type, Vehicle: w.Vehicle, Covering: mmOpt(w.Covering), Width: mmOpt(w.Width), Height: mmOpt(w.Height),
		Cavity: mmOpt(w.Cavity), Backing: mmOpt(w.Backing), Species: w.Species}
	if s := w.Studs; s != nil {
		out.Studs = &Studs{First: mmOpt(s.First), Spacing: mmOpt(s.Spacing), Width: mmOpt(s.Width)}
		if s.Outlet.Known {
			out.Studs.Outlet = &s.Outlet.Value
		}
		for _, at := range s.At {
			out.Studs.At = append(out.Studs.At, MM(at))
		}
	}
	for _, o := range w.Outlets {
		out.Outlets = append(out.Outlets, Outlet{mmOf(o.X), mmOf(o.Y), o.Kind, o.Stud})
	}
	for _, f := range w.Furniture {
		out.Furniture = append(out.Furniture, Furniture{f.Name, mmOf(f.X), mmOf(f.Width), mmOf(f.Height), mmOpt(f.Depth)})
	}
	if n := w.Niche; n != nil {
		out.Niche = &Niche{mmOf(n.X), mmOf(n.Width), mmOf(n.Bottom), mmOf(n.Height), mmOpt(n.Depth)}
	}
	return out
}

// shape is what is wrong with a job's way of writing.
func (j *Job) shape() []catalog.Problem {
	var out []catalog.Problem
	w := j.Wall
	if w == nil || w.Studs == nil {
		return nil
	}
	s := w.Studs
	switch {
	case s.Outlet != nil && *s.Outlet >= len(w.Outlets):
		out = append(out, catalog.Problem{Path: "wall.studs.outlet", Found: "no outlet has this number",
			Allowed: "the number of one of the wall's outlets, from 0"})
	case s.Outlet != nil && w.Outlets[*s.Outlet].Stud == "":
		out = append(out, catalog.Problem{Path: join(join("wall", index("outlets", *s.Outlet)), "stud"), Found: "is missing",
			Allowed: "left or right, since the studs are told by this outlet"})
	}
	if s.Outlet != nil && s.First != nil {
		out = append(out, catalog.Problem{Path: "wall.studs.first_mm", Found: "first_mm and outlet are both given", Allowed: "one of them"})
	}
	return out
}

// JobOf writes a job in the format.
func JobOf(j *catalog.Job) Job {
	out := Job{ID: j.ID, Display: j.Display, Bracket: j.Bracket, Turn: int(j.Turn)}
	if j.Accessories != 0 {
		out.Accessories = kgOpt(quantity.Some(j.Accessories))
	}
	if j.Run != nil {
		out.Run = &Run{Count: j.Run.Count, Gap: mmUnless(j.Run.Gap, 0)}
	}
	if w := j.Wall; w.Type != "" {
		out.Wall = wallOf(&j.Wall)
	}
	if p := j.Place; p.Rule != "" {
		out.Place = &Place{
			Rule: p.Rule, Center: mmOpt(p.Center), Eye: mmOpt(p.Eye), Distance: mmOpt(p.Distance), Angle: degOpt(p.Angle),
			Surface: mmOpt(p.Surface), Line: mmOpt(p.Line), Gap: mmOpt(p.Gap), Bottom: mmOpt(p.Bottom),
			Accessory: mmOpt(p.Accessory), X: mmOpt(p.X), Public: p.Public,
		}
	}
	if a := j.Assume; a != (catalog.Assumptions{}) {
		out.Assume = &Assume{Load: kgOpt(a.Load), Reach: mmOpt(a.Reach), Aside: mmOpt(a.Aside), Penetration: mmOpt(a.Penetration)}
		if a.Gravity.Known {
			n := Num(a.Gravity.Value)
			out.Assume.Gravity = &n
		}
	}
	for _, p := range j.Prints {
		out.Prints = append(out.Prints, Print{mmOf(p.Bar), mmOf(p.Measured), p.Accepted, p.Paper, p.Who, p.At})
	}
	return out
}
