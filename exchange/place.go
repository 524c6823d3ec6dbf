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
	CenterHeight OptMM        `json:"center_height_mm"`
	TopHeight    OptMM        `json:"top_height_mm"`
	BottomHeight OptMM        `json:"bottom_height_mm"`
	DatumHeight  OptMM        `json:"datum_height_mm"`
	DisplayX     OptMM        `json:"display_x_mm"`
	DatumX       OptMM        `json:"datum_x_mm"`
	Shift        OptMM        `json:"shift_mm"`
	Points       []PlacePoint `json:"points" required:"true"`
	WallToFront  OptMM        `json:"wall_to_front_mm"`
	Gap          OptMM        `json:"gap_mm"`
	Checks       []Check      `json:"checks" required:"true"`

	// What the other height rules would give, how it is seen, and what the
	// fasteners hold.
	Schools  []HeightSchool `json:"schools,omitempty"`
	Viewing  *Viewing       `json:"viewing,omitempty"`
	Strength *Strength      `json:"strength,omitempty"`

	// What keeps it from being installed: every fail, and every unknown of a rule
	// about what holds it.
	Blocked []Blocked `json:"blocked" required:"true"`

	// How far it would have to move for what fails to pass, where that is possible.
	MoveX OptMM `json:"move_x_mm,omitzero"`
	MoveY OptMM `json:"move_y_mm,omitzero"`
}

// HeightSchool is what one height rule gives.
type HeightSchool struct {
	Rule    string   `json:"rule" required:"true"`
	Center  OptMM    `json:"center_height_mm"`
	Top     OptMM    `json:"top_height_mm"`
	Bottom  OptMM    `json:"bottom_height_mm"`
	Used    bool     `json:"used" required:"true"`
	Why     string   `json:"why" required:"true"`
	Against []string `json:"against" required:"true"`
}

// Viewing is how a display is seen: the distances at which it fills 40° and
// 30° of the view; and from the job's distance, how much it fills and how far up it is.
type Viewing struct {
	Wide   MM     `json:"fills_40_deg_mm" required:"true"`
	Narrow MM     `json:"fills_30_deg_mm" required:"true"`
	Fills  OptNum `json:"fills_deg,omitzero"`
	Up     OptNum `json:"up_deg,omitzero"`
}

// Strength is the capacity of the fasteners and what it was computed
// from. Forces are in newtons, for one fastener under a permanent load.
type Strength struct {
	Known         bool     `json:"known" required:"true"`
	Missing       []string `json:"missing" required:"true"`
	Load          KG       `json:"load_kg" required:"true"`
	Own           KG       `json:"bracket_kg" required:"true"`
	Reach         MM       `json:"reach_mm" required:"true"`
	Out           MM       `json:"load_out_mm" required:"true"`
	Eccentricity  MM       `json:"eccentricity_mm" required:"true"`
	Moment        Num      `json:"moment_nm" required:"true"`
	InWood        bool     `json:"in_wood" required:"true"`
	Gravity       Num      `json:"gravity" required:"true"`
	Penetration   MM       `json:"penetration_mm" required:"true"`
	Thread        MM       `json:"thread_mm" required:"true"` // of it
	Covering      MM       `json:"covering_mm" required:"true"`
	CapacityPull  Num      `json:"capacity_pull_n" required:"true"`
	CapacityShear Num      `json:"capacity_shear_n" required:"true"`
	Ultimate      OptNum   `json:"ultimate_pull_n,omitzero"`
	Worst         string   `json:"worst_hole,omitempty"`
	Utilisation   OptNum   `json:"utilisation,omitzero"` // of the worst: 1 is its capacity
	Item          string   `json:"item" required:"true"` // the fastener it was computed for
	Arm           OptNum   `json:"arm_deg,omitzero"`     // the pose that decides
	Head          OptNum   `json:"head_deg,omitzero"`
	TypeTest      OptNum   `json:"type_test,omitzero"`
	Handling      OptNum   `json:"handling,omitzero"`
	Bending       OptNum   `json:"bending,omitzero"`
}

// PlacePoint is a place to drill.
type PlacePoint struct {
	Hole            string `json:"hole" required:"true"`
	Plate           int    `json:"plate,omitempty"`
	X               MM     `json:"x_mm" required:"true"`
	Y               MM     `json:"y_mm" required:"true"`
	FromCenterLine  MM     `json:"from_center_line_mm" required:"true"`
	BelowDisplayTop MM     `json:"below_display_top_mm" required:"true"`
	Drill           OptMM  `json:"drill_mm"`
	Depth           OptMM  `json:"depth_mm"`
	MakerDepth      OptMM  `json:"maker_depth_mm"`
	Fastener        string `json:"fastener"`
	Item            string `json:"item"` // as on lists

	// Its demand in newtons, and its utilisation.
	Pull        OptNum `json:"pull_n,omitzero"`
	Shear       OptNum `json:"shear_n,omitzero"`
	Utilisation OptNum `json:"utilisation,omitzero"`
}

// PlacementOf converts a placement to the format, with its sentences as they are read. Unknown figures are null.
func PlacementOf(p *place.Placement, r quantity.Reader) Placement {
	out := placementOf(p, r)
	out.Blocked = BlockedOf(place.Blocking(p.Pairing, []place.Placement{*p}), r)
	for _, c := range p.Checks {
		out.Checks = append(out.Checks, checkOf(&c, r))
	}
	for i := 0; p.Known && i < len(p.Schools); i++ {
		s := &p.Schools[i]
		one := HeightSchool{Rule: s.Rule, Used: s.Used, Why: r.Say(s.Why), Against: []string{}}
		if s.Known {
			one.Center, one.Top, one.Bottom = quantity.Some(s.Centre), quantity.Some(s.Top), quantity.Some(s.Bottom)
		}
		for _, a := range s.Against {
			one.Against = append(one.Against, r.Say(a))
		}
		out.Schools = append(out.Schools, one)
	}
	return out
}

// PlacementFigures writes a placement without its sentences.
func PlacementFigures(p *place.Placement) Placement {
	out := placementOf(p, quantity.Reader{})
	for i := range p.Checks {
		out.Checks = append(out.Checks, findingOf(&p.Checks[i].Finding))
	}
	return out
}

func placementOf(p *place.Placement, r quantity.Reader) Placement {
	out := Placement{Job: p.Job.ID, RunIndex: p.RunIndex, Points: []PlacePoint{}, Checks: []Check{}, WallToFront: p.ToFront, Gap: p.Gap}
	for i := range p.Points {
		out.Points = append(out.Points, placePoint(&p.Points[i], p.Strength.Known, r))
	}
	if !p.Known {
		return out
	}
	some := quantity.Some[quantity.Length]
	out.CenterHeight, out.TopHeight, out.BottomHeight, out.DatumHeight = some(p.Centre), some(p.Top), some(p.Bottom), some(p.Datum)
	out.DisplayX, out.DatumX, out.Shift = some(p.DisplayX), some(p.DatumX), some(p.Shift())
	v := p.Viewing
	out.Viewing = &Viewing{Wide: v.Wide, Narrow: v.Narrow, Fills: degrees(v.Fills), Up: degrees(v.Up)}
	out.Strength = strengthOf(p, r)
	out.MoveX, out.MoveY = p.MoveX, p.MoveY
	return out
}

func degrees(a quantity.Optional[quantity.Angle]) OptNum {
	if !a.Known {
		return OptNum{}
	}
	return num(a.Value.Degrees(), 3)
}

// num converts a float to the format; an infinite one is absent.
func num(f float64, places int) OptNum {
	if math.IsInf(f, 0) || math.IsNaN(f) {
		return OptNum{}
	}
	return quantity.Some(decimals(f, places))
}

func placePoint(pt *place.Point, strong bool, r quantity.Reader) PlacePoint {
	out := PlacePoint{Hole: pt.Hole, Plate: pt.Plate, X: pt.X, Y: pt.Y, FromCenterLine: pt.FromCentreLine, BelowDisplayTop: pt.BelowDisplayTop,
		Drill: pt.Drill.Diameter, Depth: pt.Drill.Depth, MakerDepth: pt.Drill.Maker,
		Fastener: r.Language.Words(pt.Drill.Fastener), Item: r.Language.Words(pt.Drill.Item)}
	if strong {
		out.Pull, out.Shear, out.Utilisation = num(pt.Pull, 1), num(pt.Shear, 1), num(pt.Utilisation, 4)
	}
	return out
}

func strengthOf(p *place.Placement, r quantity.Reader) *Strength {
	s := &p.Strength
	if len(p.Points) == 0 {
		return nil
	}
	out := &Strength{Known: s.Known, Missing: r.All(s.Missing), Load: s.Load, Own: s.Own, Reach: s.Reach,
		Out: s.Out, Eccentricity: s.Eccentricity, Moment: decimals(s.Moment, 2), InWood: s.InWood, Gravity: decimals(s.Gravity, 3),
		Penetration: s.Penetration, Thread: s.Thread, Covering: s.Covering,
		CapacityPull: decimals(s.CapacityPull, 0), CapacityShear: decimals(s.CapacityShear, 0), Item: r.Language.Words(p.Choice.Label())}
	if s.Ultimate > 0 {
		out.Ultimate = num(s.Ultimate, 0)
	}
	if s.Known {
		a := s.Assessment
		out.Worst, out.Utilisation = p.Points[s.Worst].Hole, num(s.Utilisation(), 4)
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
