package catalog

import "nexufix/core/quantity"

// Policy is how careful the company is, and which schools it follows where
// practitioners disagree. [DefaultPolicy] gives the defaults and why.
type Policy struct {
	EngagementMinD quantity.Ratio `json:"engagement_min_d" minimum:"0.1" maximum:"10"` // nominal engagement, in thread diameters
	// worst-case engagement, in thread diameters
	EngagementWorstD  quantity.Ratio  `json:"engagement_worst_d" minimum:"0" maximum:"10"`
	TipClearanceMin   quantity.Length `json:"tip_clearance_min_mm" minimum:"0" maximum:"50"` // nominal
	TipClearanceWorst quantity.Length `json:"tip_clearance_worst_mm" minimum:"0" maximum:"50"`
	MaxWashers        int             `json:"max_washers" minimum:"1" maximum:"6"`
	WasherOverlap     quantity.Length `json:"washer_overlap_mm" minimum:"0" maximum:"50"` // outer diameter beyond the slot's width
	MaxStackedSpacers int             `json:"max_stacked_spacers" minimum:"0" maximum:"4"`
	LeanOK            quantity.Angle  `json:"lean_ok_deg" minimum:"0" maximum:"45"`
	LeanMax           quantity.Angle  `json:"lean_max_deg" minimum:"0" maximum:"45"`
	TwistOK           quantity.Length `json:"twist_ok_mm" minimum:"0" maximum:"100"` // of the four corner holes
	TwistMax          quantity.Length `json:"twist_max_mm" minimum:"0" maximum:"100"`
	// the maker's stock list
	StockSpacers     []quantity.Length `json:"stock_spacers_mm,omitzero" exclusiveMinimum:"0" maximum:"500" maxItems:"40"`
	StockSpacerOuter quantity.Length   `json:"stock_spacer_outer_mm" exclusiveMinimum:"0" maximum:"200"`
	ArmClearance     quantity.Length   `json:"arm_clearance_mm" minimum:"0" maximum:"200"` // arm plane behind the rest plane
	// an arm that touches a flat back by no more than this does no harm
	ArmTouch      quantity.Length `json:"arm_touch_mm" minimum:"0" maximum:"5"`
	BoltSchool    string          `json:"bolt_school" enum:"balanced,deep,shallow"`
	ArmSchool     string          `json:"arm_school" enum:"centred,high"`
	SizeSchool    string          `json:"size_school" enum:"limit,guidance"`
	WallSchool    string          `json:"wall_school" enum:"studs_only,stud_and_anchors,toggles_for_light"`
	MarkingSchool string          `json:"marking_school" enum:"template,tape"`
	LevelSchool   string          `json:"level_school" enum:"spirit_level,laser"`
	// the display's stand or feet, off before or after it hangs
	StandSchool       string          `json:"stand_school" enum:"before,after"`
	CablesSchool      string          `json:"cables_school" enum:"by_outlet,before,after"`
	LoadCaution       quantity.Ratio  `json:"load_caution" exclusiveMinimum:"0" maximum:"1"`
	Reveal            quantity.Length `json:"reveal_mm" minimum:"0" maximum:"500"` // arm end inside the outline
	StudFind          quantity.Length `json:"stud_find_mm" minimum:"0" maximum:"50"`
	TwoPeopleDiagonal quantity.Length `json:"two_people_diagonal_mm" minimum:"0" maximum:"10000"`
	// that people lean on an arm with; 0: not looked at
	Handling       quantity.Force `json:"handling_n" minimum:"0" maximum:"5000"`
	HandlingPublic quantity.Force `json:"handling_public_n" minimum:"0" maximum:"5000"` // the same in public places
}

// The schools, by setting; the first of each is the default.
var (
	BoltSchools = []string{"balanced", "deep", "shallow"}
	ArmSchools  = []string{"centred", "high"}
	SizeSchools = []string{"limit", "guidance"}
	WallSchools = []string{"studs_only", "stud_and_anchors", "toggles_for_light"}

	MarkingSchools = []string{"template", "tape"}
	LevelSchools   = []string{"spirit_level", "laser"}
	StandSchools   = []string{"before", "after"}
	CablesSchools  = []string{"by_outlet", "before", "after"}
)

// DefaultPolicy is the policy of a company that has not chosen otherwise
// (practice). Balanced keeps as far from a stripped thread as from a cracked
// panel; centred keeps the arms' ends equally far inside the outline; limit
// respects the rated size, for a bigger panel levers more; studs only leans
// on nothing but wood.
func DefaultPolicy() Policy {
	return Policy{
		EngagementMinD:    quantity.One,
		EngagementWorstD:  quantity.One * 8 / 10,
		TipClearanceMin:   quantity.MM(1),
		MaxWashers:        3,
		WasherOverlap:     quantity.MM(3),
		MaxStackedSpacers: 2,
		LeanOK:            quantity.Degree * 3 / 10,
		LeanMax:           quantity.Degree,
		TwistOK:           quantity.MM(1),
		TwistMax:          quantity.MM(5),
		StockSpacers: []quantity.Length{quantity.MM(5), quantity.MM(10), quantity.MM(15),
			quantity.MM(20), quantity.MM(25), quantity.MM(30)},
		StockSpacerOuter:  quantity.MM(18),
		ArmTouch:          quantity.MM(1),
		BoltSchool:        BoltSchools[0],
		ArmSchool:         ArmSchools[0],
		SizeSchool:        SizeSchools[0],
		WallSchool:        WallSchools[0],
		MarkingSchool:     MarkingSchools[0],
		LevelSchool:       LevelSchools[0],
		StandSchool:       StandSchools[0],
		CablesSchool:      CablesSchools[0],
		LoadCaution:       quantity.One * 9 / 10,
		Reveal:            quantity.MM(10),
		StudFind:          quantity.MM(3),
		TwoPeopleDiagonal: 43 * quantity.Inch,
		Handling:          100 * quantity.Newton,
		HandlingPublic:    250 * quantity.Newton,
	}
}

// Laxer lists the settings that are less careful than the defaults, by their names in the exchange format. Schools
// are a choice, and none is laxer.
func (p *Policy) Laxer() (out []string) {
	usual := DefaultPolicy()
	for _, x := range []struct {
		name string
		lax  bool
	}{
		{"engagement_min_d", p.EngagementMinD < usual.EngagementMinD},
		{"engagement_worst_d", p.EngagementWorstD < usual.EngagementWorstD},
		{"tip_clearance_min_mm", p.TipClearanceMin < usual.TipClearanceMin},
		{"max_washers", p.MaxWashers > usual.MaxWashers},
		{"washer_overlap_mm", p.WasherOverlap < usual.WasherOverlap},
		{"max_stacked_spacers", p.MaxStackedSpacers > usual.MaxStackedSpacers},
		{"lean_ok_deg", p.LeanOK > usual.LeanOK},
		{"lean_max_deg", p.LeanMax > usual.LeanMax},
		{"twist_ok_mm", p.TwistOK > usual.TwistOK},
		{"twist_max_mm", p.TwistMax > usual.TwistMax},
		{"arm_touch_mm", p.ArmTouch > usual.ArmTouch},
		{"load_caution", p.LoadCaution > usual.LoadCaution},
		{"stud_find_mm", p.StudFind < usual.StudFind},
		{"two_people_diagonal_mm", p.TwoPeopleDiagonal > usual.TwoPeopleDiagonal},
		{"handling_n", p.Handling < usual.Handling},
		{"handling_public_n", p.HandlingPublic < usual.HandlingPublic},
	} {
		if x.lax {
			out = append(out, x.name)
		}
	}
	return out
}
