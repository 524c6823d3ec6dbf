package catalog

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexufix/core/quantity"
)

// Job is one site: a display on a bracket on a wall.
type Job struct {
	ID          string        `json:"id" required:"true" pattern:"^[A-Za-z0-9]([A-Za-z0-9_-]|\\.[A-Za-z0-9_-])*$" maxLength:"80"`
	Title       string        `json:"title,omitempty" maxLength:"120"`    // what people call it; its id stays
	Location    string        `json:"location,omitempty" maxLength:"120"` // where it is to hang
	Reference   string        `json:"reference,omitempty" maxLength:"60"` // the customer's
	Display     string        `json:"display" required:"true" maxLength:"80"`
	Bracket     string        `json:"bracket" required:"true" maxLength:"80"`
	Turn        Turn          `json:"turn_deg,omitempty" enum:"0,90,270"`
	Accessories quantity.Mass `json:"accessories_kg,omitzero" minimum:"0" maximum:"1000"`
	Run         *Run          `json:"run,omitempty"`
	Wall        Wall          `json:"wall,omitzero"`
	Place       Place         `json:"place,omitzero"`
	// how far the arms stay behind the display's back at least, by spacers; absent: as what stands out asks
	ArmClearance quantity.Optional[quantity.Length] `json:"arm_clearance_mm,omitzero" minimum:"0" maximum:"200"`
	// what the customer wants of its movement; absent: what the bracket can
	WantedTilt   quantity.Optional[quantity.Angle] `json:"wanted_tilt_deg,omitzero" minimum:"0" maximum:"90"`
	WantedSwivel quantity.Optional[quantity.Angle] `json:"wanted_swivel_deg,omitzero" minimum:"0" maximum:"180"`
	Assume       Assumptions                       `json:"assume,omitzero"`
	Prints       []Print                           `json:"prints,omitempty" maxItems:"200"`
	Schools      Schools                           `json:"schools,omitzero"`
	StepChanges  []StepChange                      `json:"step_changes,omitempty" maxItems:"200"` // of its step sequence
	Ticks        []Tick                            `json:"ticks,omitempty" maxItems:"300"`        // steps that are done at the wall
}

// Name is what people call the job: its title, or its id.
func (j *Job) Name() string {
	if title := strings.TrimSpace(j.Title); title != "" {
		return title
	}
	return j.ID
}

// Judged is the job without what no judgement stands on: what people call it, its prints and its ticks.
func (j *Job) Judged() *Job {
	out := *j
	out.Title, out.Location, out.Reference, out.Prints, out.Ticks = "", "", "", nil, nil
	return &out
}

// Tick says that a step is done, and when.
type Tick struct {
	Step string `json:"step" required:"true" pattern:"^[a-z][a-z0-9_-]{0,39}$"`
	At   string `json:"at" required:"true" maxLength:"40"` // RFC 3339
}

// MostTicks is how many steps of a job can be ticked, as the format has it.
const MostTicks = 300

// Tick puts ticks on a job's: of each step the last that is said of it; none takes one off again.
func (j *Job) Tick(ticks []Tick) {
	for _, t := range ticks {
		at := slices.IndexFunc(j.Ticks, func(o Tick) bool { return o.Step == t.Step })
		switch {
		case at < 0 && t.At != "":
			j.Ticks = append(j.Ticks, t)
		case at >= 0 && t.At == "":
			j.Ticks = slices.Delete(j.Ticks, at, at+1)
		case at >= 0:
			j.Ticks[at] = t
		}
	}
}

// Schools are how the work is done on one site, where that differs from the policy; "" is as
// the policy says.
type Schools struct {
	Marking string `json:"marking_school,omitempty" enum:"template,tape"`
	Level   string `json:"level_school,omitempty" enum:"spirit_level,laser"`
	Stand   string `json:"stand_school,omitempty" enum:"before,after"`
	Cables  string `json:"cables_school,omitempty" enum:"by_outlet,before,after"`
}

// Schools are those of the policy, and of the job where it has its own.
func (p *Policy) Schools(j *Job) Schools {
	var own Schools
	if j != nil {
		own = j.Schools
	}
	return Schools{cmp.Or(own.Marking, p.MarkingSchool), cmp.Or(own.Level, p.LevelSchool), cmp.Or(own.Stand, p.StandSchool),
		cmp.Or(own.Cables, p.CablesSchool)}
}

// Assumptions are what the strength of a place is worked out with instead of
// what follows from the pairing and the wall.
type Assumptions struct {
	Load quantity.Optional[quantity.Mass] `json:"load_kg,omitzero" minimum:"0" maximum:"1000"` // display with accessories
	// wall to arm plane, at its longest
	Reach quantity.Optional[quantity.Length] `json:"reach_mm,omitzero" minimum:"0" maximum:"5000"`
	// load's way from the plate's middle
	Aside quantity.Optional[quantity.Length] `json:"aside_mm,omitzero" minimum:"-5000" maximum:"5000"`
	// of a fastener, its tip not counted
	Penetration quantity.Optional[quantity.Length] `json:"penetration_mm,omitzero" minimum:"0" maximum:"500"`
	Gravity     quantity.Optional[quantity.Ratio]  `json:"gravity,omitzero" minimum:"0.2" maximum:"1"` // of the wood
}

// Print is a printed template's scale bar as it was measured.
type Print struct {
	Bar      quantity.Length `json:"bar_mm" required:"true" exclusiveMinimum:"0" maximum:"1000"`
	Measured quantity.Length `json:"measured_mm" required:"true" exclusiveMinimum:"0" maximum:"1000"`
	Accepted bool            `json:"accepted"`
	Paper    string          `json:"paper,omitempty" enum:"sheet,a4,letter,a3"`
	Who      string          `json:"who,omitempty" maxLength:"80"`
	At       string          `json:"at,omitempty" maxLength:"40"`
}

// Run is several equal displays side by side.
type Run struct {
	Count int             `json:"count" required:"true" minimum:"1" maximum:"100"`
	Gap   quantity.Length `json:"gap_mm,omitzero" minimum:"0" maximum:"10000"`
}

// Wall is the wall of a job.
type Wall struct {
	Type     WallType                           `json:"type" required:"true"`
	Vehicle  bool                               `json:"vehicle,omitempty"`
	Covering quantity.Optional[quantity.Length] `json:"covering_mm,omitzero" minimum:"0" maximum:"500"`
	Width    quantity.Optional[quantity.Length] `json:"width_mm,omitzero" exclusiveMinimum:"0" maximum:"100000"`
	Height   quantity.Optional[quantity.Length] `json:"height_mm,omitzero" exclusiveMinimum:"0" maximum:"20000"` // floor to ceiling
	// between lining and masonry
	Cavity quantity.Optional[quantity.Length] `json:"cavity_mm,omitzero" minimum:"0" maximum:"500"`
	// depth of what the fastener goes into: stud, board, backer
	Backing quantity.Optional[quantity.Length] `json:"backing_mm,omitzero" exclusiveMinimum:"0" maximum:"1000"`
	Studs   *Studs                             `json:"studs,omitempty"`
	// sheet of a metal stud
	Steel     quantity.Optional[quantity.Length] `json:"steel_mm,omitzero" exclusiveMinimum:"0" maximum:"20"`
	BlockKind string                             `json:"block_kind,omitempty" enum:"solid,hollow,aerated,old_brick"`
	BoardKind string                             `json:"board_kind,omitempty" enum:"ply,osb,particle"`
	Treated   bool                               `json:"treated,omitempty"` // the wood, with fire retardant or preservative
	Wet       bool                               `json:"wet,omitempty"`     // the wood
	LetIn     *Backing                           `json:"backing,omitempty"`
	OpenLeft  bool                               `json:"open_left,omitempty"` // no wall returns at its left end
	OpenRight bool                               `json:"open_right,omitempty"`
	// people go below; absent: they do, outside niches
	PeopleBelow *bool  `json:"people_below,omitempty"`
	Species     string `json:"species,omitempty" enum:"spruce_pine_fir,hem_fir,douglas_fir_larch,southern_pine"`

	Outlets   []Outlet    `json:"outlets,omitempty" maxItems:"100"`
	Furniture []Furniture `json:"furniture,omitempty" maxItems:"100"`
	Niche     *Niche      `json:"niche,omitempty"`
}

// Backing is a piece of board or wood let in behind the covering, that fasteners can go into.
type Backing struct {
	Thickness quantity.Length `json:"thickness_mm" required:"true" exclusiveMinimum:"0" maximum:"300"`
	Kind      string          `json:"kind,omitempty" enum:"ply,osb,particle,timber"`
}

// IsZero reports whether there is no wall.
func (w Wall) IsZero() bool { return w.Type == "" }

// Outlet is a box in the wall, by its middle: cables lead to it, and it usually hangs
// on a stud (practice), on the side that Stud says.
type Outlet struct {
	X    quantity.Length `json:"x_mm" required:"true" minimum:"0" maximum:"100000"`
	Y    quantity.Length `json:"y_mm" required:"true" minimum:"0" maximum:"20000"`
	Kind string          `json:"kind,omitempty" enum:"power,data,switch"`
	Stud string          `json:"stud,omitempty" enum:"left,right"` // "" when not known
}

// The kinds of outlet, the first of which is the default.
var OutletKinds = []string{"power", "data", "switch"}

// Furniture is what stands against the wall: its middle, and its top above the floor.
type Furniture struct {
	Name   string                             `json:"name,omitempty" maxLength:"80"`
	X      quantity.Length                    `json:"x_mm" required:"true" minimum:"0" maximum:"100000"`
	Width  quantity.Length                    `json:"width_mm" required:"true" exclusiveMinimum:"0" maximum:"100000"`
	Height quantity.Length                    `json:"height_mm" required:"true" exclusiveMinimum:"0" maximum:"20000"`
	Depth  quantity.Optional[quantity.Length] `json:"depth_mm,omitzero" exclusiveMinimum:"0" maximum:"20000"`
}

// Niche is a recess, or a cabinet, that the display goes in: its middle; its bottom
// above the floor.
type Niche struct {
	X      quantity.Length                    `json:"x_mm" required:"true" minimum:"0" maximum:"100000"`
	Width  quantity.Length                    `json:"width_mm" required:"true" exclusiveMinimum:"0" maximum:"100000"`
	Bottom quantity.Length                    `json:"bottom_mm" required:"true" minimum:"0" maximum:"20000"`
	Height quantity.Length                    `json:"height_mm" required:"true" exclusiveMinimum:"0" maximum:"20000"`
	Depth  quantity.Optional[quantity.Length] `json:"depth_mm,omitzero" exclusiveMinimum:"0" maximum:"5000"`
}

// Studs are where a wall's studs are: from the first at a spacing, marked one
// by one, or from an outlet that hangs on one, at a spacing to both sides.
type Studs struct {
	Outlet  quantity.Optional[int]             `json:"outlet,omitzero" minimum:"0" maximum:"99"` // of the wall's outlets
	First   quantity.Optional[quantity.Length] `json:"first_mm,omitzero" minimum:"0" maximum:"100000"`
	Spacing quantity.Optional[quantity.Length] `json:"spacing_mm,omitzero" exclusiveMinimum:"0" maximum:"10000"`
	At      []quantity.Length                  `json:"at_mm,omitempty" minItems:"1" maxItems:"1000" minimum:"0" maximum:"100000"`
	Width   quantity.Optional[quantity.Length] `json:"width_mm,omitzero" exclusiveMinimum:"0" maximum:"500"`
}

// Species are the woods whose strength is known.
var Species = []string{"spruce_pine_fir", "hem_fir", "douglas_fir_larch", "southern_pine"}

// PlaceRules are the height schools.
var PlaceRules = []string{"center", "eye", "upper_third", "above", "below", "overhead", "bottom", "top"}

// Place is where a display goes on its wall. Which figures it has depends on
// the rule.
type Place struct {
	Rule      string                             `json:"rule" required:"true" enum:"center,eye,upper_third,above,below,overhead,bottom,top"`
	Center    quantity.Optional[quantity.Length] `json:"center_mm,omitzero" minimum:"0" maximum:"20000"`
	Eye       quantity.Optional[quantity.Length] `json:"eye_mm,omitzero" minimum:"0" maximum:"20000"`
	Distance  quantity.Optional[quantity.Length] `json:"distance_mm,omitzero" minimum:"0" maximum:"100000"`
	Angle     quantity.Optional[quantity.Angle]  `json:"angle_deg,omitzero" minimum:"-89" maximum:"89"`
	Surface   quantity.Optional[quantity.Length] `json:"surface_mm,omitzero" minimum:"0" maximum:"20000"`
	Line      quantity.Optional[quantity.Length] `json:"line_mm,omitzero" minimum:"0" maximum:"20000"`
	Gap       quantity.Optional[quantity.Length] `json:"gap_mm,omitzero" minimum:"0" maximum:"20000"`
	Bottom    quantity.Optional[quantity.Length] `json:"bottom_mm,omitzero" minimum:"0" maximum:"20000"`
	Top       quantity.Optional[quantity.Length] `json:"top_mm,omitzero" minimum:"0" maximum:"20000"`
	Accessory quantity.Optional[quantity.Length] `json:"accessory_mm,omitzero" minimum:"0" maximum:"20000"`
	X         quantity.Optional[quantity.Length] `json:"x_mm,omitzero" minimum:"0" maximum:"100000"`
	Public    bool                               `json:"public,omitempty"`
}

// Complete fills in what the format leaves to a default.
func (j *Job) Complete() {
	for i := range j.Wall.Outlets {
		j.Wall.Outlets[i].Kind = cmp.Or(j.Wall.Outlets[i].Kind, OutletKinds[0])
	}
}

// Validate returns the figures of the job that contradict each other.
func (j *Job) Validate() []Problem {
	var out problems
	validateChanges(&out, j.StepChanges)
	s := j.Wall.Studs
	if s == nil || !s.Outlet.Known {
		return out
	}
	switch n := s.Outlet.Value; {
	case n >= len(j.Wall.Outlets):
		out.add("wall.studs.outlet", "the number of one of the wall's outlets, from 0", "no outlet has this number")
	case j.Wall.Outlets[n].Stud == "":
		out.add(fmt.Sprintf("wall.outlets[%d].stud", n), "left or right, since the studs are told by this outlet", "is missing")
	}
	if s.First.Known {
		out.add("wall.studs.first_mm", "one of them", "first_mm and outlet are both given")
	}
	return out
}
