package catalog

import "nexufix/core/quantity"

// Policy is how careful the house is, and which schools it follows where
// practitioners disagree. [DefaultPolicy] gives the defaults and why.
type Policy struct {
	EngagementMinD    quantity.Ratio  // nominal engagement, in thread diameters
	EngagementWorstD  quantity.Ratio  // worst-case engagement, in thread diameters
	TipClearanceMin   quantity.Length // nominal
	TipClearanceWorst quantity.Length
	MaxWashers        int
	WasherOverlap     quantity.Length // outer diameter beyond the slot's width
	MaxStackedSpacers int
	LeanOK, LeanMax   quantity.Angle
	TwistOK, TwistMax quantity.Length   // of the four corner holes
	StockSpacers      []quantity.Length // the maker's stock list
	StockSpacerOuter  quantity.Length
	ArmClearance      quantity.Length // arm plane behind the rest plane
	BoltSchool        string
	ArmSchool         string
	SizeSchool        string
	WallSchool        string
	LoadCaution       quantity.Ratio
	Reveal            quantity.Length // arm end inside the outline
	StudFind          quantity.Length
	TwoPeopleDiagonal quantity.Length
	Handling          quantity.Force // that people lean on an arm with; 0: not looked at
	HandlingPublic    quantity.Force // the same in public places
}

// The schools, by setting; the first of each is the default.
var (
	BoltSchools = []string{"balanced", "deep", "shallow"}
	ArmSchools  = []string{"centred", "high"}
	SizeSchools = []string{"limit", "guidance"}
	WallSchools = []string{"studs_only", "stud_and_anchors", "toggles_for_light"}
)

// DefaultPolicy is the policy of a house that has not chosen otherwise
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
		BoltSchool:        BoltSchools[0],
		ArmSchool:         ArmSchools[0],
		SizeSchool:        SizeSchools[0],
		WallSchool:        WallSchools[0],
		LoadCaution:       quantity.One * 9 / 10,
		Reveal:            quantity.MM(10),
		StudFind:          quantity.MM(3),
		TwoPeopleDiagonal: 43 * quantity.Inch,
		Handling:          100 * quantity.Newton,
		HandlingPublic:    250 * quantity.Newton,
	}
}
