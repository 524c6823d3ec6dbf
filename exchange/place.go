package exchange

import (
	"math"

	"nexufix/core/place"
	"nexufix/core/quantity"
)

// Placement is one display of a job on its wall.
type Placement struct {
	Job          string       `json:"job" required:"true"`
	RunIndex     int          `json:"run_index,omitempty"`
	CenterHeight *MM          `json:"center_height_mm"`
	TopHeight    *MM          `json:"top_height_mm"`
	BottomHeight *MM          `json:"bottom_height_mm"`
	DatumHeight  *MM          `json:"datum_height_mm"`
	DisplayX     *MM          `json:"display_x_mm"`
	DatumX       *MM          `json:"datum_x_mm"`
	Shift        *MM          `json:"shift_mm"`
	Points       []PlacePoint `json:"points" required:"true"`
	WallToFront  *MM          `json:"wall_to_front_mm"`
	Gap          *MM          `json:"gap_mm"`
	Checks       []Check      `json:"checks" required:"true"`

	// What the other height rules would give, how it is seen, and what the
	// fasteners hold.
	Schools  []HeightSchool `json:"schools,omitempty"`
	Viewing  *Viewing       `json:"viewing,omitempty"`
	Strength *Strength      `json:"strength,omitempty"`

	// What keeps it from being installed: every fail, and every unknown that what
	// holds it hangs on.
	Blocked []Blocked `json:"blocked" required:"true"`

	// The way it would have to move to put right what fails, where there is one.
	MoveX *MM `json:"move_x_mm,omitempty"`
	MoveY *MM `json:"move_y_mm,omitempty"`
}

// HeightSchool is what one height rule gives.
type HeightSchool struct {
	Rule    string   `json:"rule" required:"true"`
	Center  *MM      `json:"center_height_mm"`
	Top     *MM      `json:"top_height_mm"`
	Bottom  *MM      `json:"bottom_height_mm"`
	Used    bool     `json:"used" required:"true"`
	Why     string   `json:"why" required:"true"`
	Against []string `json:"against" required:"true"`
}

// Viewing is how a display is seen: the distances at which it fills 40° and
// 30° of the view, and how much it fills, and how far up it is, from the job's.
type Viewing struct {
	Wide   MM   `json:"fills_40_deg_mm" required:"true"`
	Narrow MM   `json:"fills_30_deg_mm" required:"true"`
	Fills  *Num `json:"fills_deg,omitempty"`
	Up     *Num `json:"up_deg,omitempty"`
}

// Strength is what the fasteners may be asked for, with what it is worked out
// from. Forces are in newtons, of one fastener under a permanent load.
type Strength struct {
	Known       bool     `json:"known" required:"true"`
	Missing     []string `json:"missing" required:"true"`
	Load        KG       `json:"load_kg" required:"true"`
	Own         KG       `json:"bracket_kg" required:"true"`
	Reach       MM       `json:"reach_mm" required:"true"`
	Out         MM       `json:"load_out_mm" required:"true"`
	Aside       MM       `json:"load_aside_mm" required:"true"`
	Moment      Num      `json:"moment_nm" required:"true"`
	InWood      bool     `json:"in_wood" required:"true"`
	Gravity     Num      `json:"gravity" required:"true"`
	Penetration MM       `json:"penetration_mm" required:"true"`
	Thread      MM       `json:"thread_mm" required:"true"` // of it
	Covering    MM       `json:"covering_mm" required:"true"`
	Pull        Num      `json:"holds_pull_n" required:"true"`
	Across      Num      `json:"holds_across_n" required:"true"`
	Ultimate    *Num     `json:"ultimate_pull_n,omitempty"`
	Worst       string   `json:"worst_hole,omitempty"`
	Use         *Num     `json:"use,omitempty"`        // of the worst: 1 is all it may hold
	Item        string   `json:"item" required:"true"` // the fastener that is counted with
	Arm         *Num     `json:"arm_deg,omitempty"`    // how the display stands then
	Head        *Num     `json:"head_deg,omitempty"`
	TypeTest    *Num     `json:"type_test,omitempty"`
	Handling    *Num     `json:"handling,omitempty"`
	Bending     *Num     `json:"bending,omitempty"`
}

// PlacePoint is a place to drill.
type PlacePoint struct {
	Hole            string `json:"hole" required:"true"`
	Plate           int    `json:"plate,omitempty"`
	X               MM     `json:"x_mm" required:"true"`
	Y               MM     `json:"y_mm" required:"true"`
	FromCenterLine  MM     `json:"from_center_line_mm" required:"true"`
	BelowDisplayTop MM     `json:"below_display_top_mm" required:"true"`
	Drill           *MM    `json:"drill_mm"`
	Depth           *MM    `json:"depth_mm"`
	MakerDepth      *MM    `json:"maker_depth_mm"`
	Fastener        string `json:"fastener"`
	Item            string `json:"item"` // as on lists

	// What it is asked for, in newtons, and the share of what it may hold.
	Pull   *Num `json:"pull_n,omitempty"`
	Across *Num `json:"across_n,omitempty"`
	Use    *Num `json:"use,omitempty"`
}

// PlacementOf writes a placement in the format, its sentences in the given
// units. What is not known is null.
func PlacementOf(p *place.Placement, u quantity.Units) Placement {
	out := Placement{Job: p.Job.ID, RunIndex: p.RunIndex, Points: []PlacePoint{},
		Blocked: BlockedOf(place.Against(p.Pairing, []place.Placement{*p}),
			u), WallToFront: mmOpt(p.ToFront), Gap: mmOpt(p.Gap), Checks: []Check{}}
	if p.Known {
		out.CenterHeight, out.TopHeight, out.BottomHeight, out.DatumHeight = mmOf(p.Centre), mmOf(p.Top), mmOf(p.Bottom), mmOf(p.Datum)
		out.DisplayX, out.DatumX, out.Shift = mmOf(p.DisplayX), mmOf(p.DatumX), mmOf(p.Shift())
	}
	for i := range p.Points {
		out.Points = append(out.Points, placePoint(&p.Points[i], p.Strength.Known))
	}
	for _, c := range p.Checks {
		out.Checks = append(out.Checks, checkOf(c, u))
	}
	if !p.Known {
		return out
	}
	for _, s := range p.Schools {
		one := HeightSchool{Rule: s.Rule, Used: s.Used, Why: s.Why.In(u), Against: []string{}}
		if s.Known {
			one.Center, one.Top, one.Bottom = mmOf(s.Centre), mmOf(s.Top), mmOf(s.Bottom)
		}
		for _, a := range s.Against {
			one.Against = append(one.Against, a.In(u))
		}
		out.Schools = append(out.Schools, one)
	}
	v := p.Viewing
	out.Viewing = &Viewing{Wide: MM(v.Wide), Narrow: MM(v.Narrow), Fills: degrees(v.Fills), Up: degrees(v.Up)}
	out.Strength = strengthOf(p)
	out.MoveX, out.MoveY = mmOpt(p.MoveX), mmOpt(p.MoveY)
	return out
}

func degrees(a quantity.Optional[quantity.Angle]) *Num {
	if !a.Known {
		return nil
	}
	return num(a.Value.Degrees(), 3)
}

// num is a float for the format; what has no bound is absent.
func num(f float64, places int) *Num {
	if math.IsInf(f, 0) || math.IsNaN(f) {
		return nil
	}
	n := decimals(f, places)
	return &n
}

func placePoint(pt *place.Point, strong bool) PlacePoint {
	out := PlacePoint{Hole: pt.Hole, Plate: pt.Plate, X: MM(pt.X), Y: MM(pt.Y), FromCenterLine: MM(pt.FromCentreLine),
		BelowDisplayTop: MM(pt.BelowDisplayTop),
		Drill:           mmOpt(pt.Drill.Diameter), Depth: mmOpt(pt.Drill.Depth), MakerDepth: mmOpt(pt.Drill.Maker), Fastener: pt.Drill.Fastener,
		Item: pt.Drill.Item}
	if strong {
		out.Pull, out.Across, out.Use = num(pt.Pull, 1), num(pt.Shear, 1), num(pt.Utilisation, 4)
	}
	return out
}

func strengthOf(p *place.Placement) *Strength {
	s := &p.Strength
	if len(p.Points) == 0 {
		return nil
	}
	out := &Strength{Known: s.Known, Missing: append([]string{}, s.Missing...), Load: KG(s.Load), Own: KG(s.Own), Reach: MM(s.Reach),
		Out: MM(s.Out), Aside: MM(s.Eccentricity),
		Moment: decimals(s.Moment, 2), InWood: s.InWood, Gravity: decimals(s.Gravity,
			3), Penetration: MM(s.Penetration), Thread: MM(s.Thread), Covering: MM(s.Covering),
		Pull: decimals(s.CapacityPull, 0), Across: decimals(s.CapacityShear, 0), Item: p.Choice.Label()}
	if s.Ultimate > 0 {
		out.Ultimate = num(s.Ultimate, 0)
	}
	if s.Known {
		a := s.Assessment
		out.Worst, out.Use = p.Points[s.Worst].Hole, num(s.Utilisation(), 4)
		out.Arm, out.Head, out.TypeTest = num(a.Strength.Pose.Arm, 1), num(a.Strength.Pose.Head, 1), num(a.TypeTest.Share, 4)
		if a.Leaned {
			out.Handling = num(a.Handling.Share, 4)
		}
		if a.Capacity.Bends {
			out.Bending = num(a.Bending.Share, 4)
		}
	}
	return out
}
