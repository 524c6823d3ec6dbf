package exchange

import (
	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Policy is a house's policy; what is absent is as in
// [catalog.DefaultPolicy].
type Policy struct {
	EngagementMinD    *Num   `json:"engagement_min_d,omitempty" minimum:"0.1" maximum:"10"`
	EngagementWorstD  *Num   `json:"engagement_worst_d,omitempty" minimum:"0" maximum:"10"`
	TipClearanceMin   *MM    `json:"tip_clearance_min_mm,omitempty" minimum:"0" maximum:"50"`
	TipClearanceWorst *MM    `json:"tip_clearance_worst_mm,omitempty" minimum:"0" maximum:"50"`
	MaxWashers        *int   `json:"max_washers,omitempty" minimum:"1" maximum:"6"`
	WasherOverlap     *MM    `json:"washer_overlap_mm,omitempty" minimum:"0" maximum:"50"`
	MaxStackedSpacers *int   `json:"max_stacked_spacers,omitempty" minimum:"0" maximum:"4"`
	LeanOK            *Deg   `json:"lean_ok_deg,omitempty" minimum:"0" maximum:"45"`
	LeanMax           *Deg   `json:"lean_max_deg,omitempty" minimum:"0" maximum:"45"`
	TwistOK           *MM    `json:"twist_ok_mm,omitempty" minimum:"0" maximum:"100"`
	TwistMax          *MM    `json:"twist_max_mm,omitempty" minimum:"0" maximum:"100"`
	StockSpacers      []MM   `json:"stock_spacers_mm,omitempty" exclusiveMinimum:"0" maximum:"500" maxItems:"40"`
	StockSpacerOuter  *MM    `json:"stock_spacer_outer_mm,omitempty" exclusiveMinimum:"0" maximum:"200"`
	ArmClearance      *MM    `json:"arm_clearance_mm,omitempty" minimum:"0" maximum:"200"`
	BoltSchool        string `json:"bolt_school,omitempty" enum:"balanced,deep,shallow"`
	ArmSchool         string `json:"arm_school,omitempty" enum:"centred,high"`
	SizeSchool        string `json:"size_school,omitempty" enum:"limit,guidance"`
	WallSchool        string `json:"wall_school,omitempty" enum:"studs_only,stud_and_anchors,toggles_for_light"`
	LoadCaution       *Num   `json:"load_caution,omitempty" exclusiveMinimum:"0" maximum:"1"`
	Reveal            *MM    `json:"reveal_mm,omitempty" minimum:"0" maximum:"500"`
	StudFind          *MM    `json:"stud_find_mm,omitempty" minimum:"0" maximum:"50"`
	TwoPeopleDiagonal *MM    `json:"two_people_diagonal_mm,omitempty" minimum:"0" maximum:"10000"`
	Handling          *Num   `json:"handling_n,omitempty" minimum:"0" maximum:"5000"`
	HandlingPublic    *Num   `json:"handling_public_n,omitempty" minimum:"0" maximum:"5000"`
}

func set[T any, F any](to *T, from *F, as func(F) T) {
	if from != nil {
		*to = as(*from)
	}
}

func setText(to *string, from string) {
	if from != "" {
		*to = from
	}
}

// core makes the catalogue's policy on top of the defaults.
func (p *Policy) core() catalog.Policy { return p.On(catalog.DefaultPolicy()) }

// On makes the catalogue's policy: what is given, and the rest as in base.
func (p *Policy) On(base catalog.Policy) catalog.Policy {
	out := base
	if p == nil {
		return out
	}
	toLength := func(m MM) quantity.Length { return quantity.Length(m) }
	toRatio := func(n Num) quantity.Ratio { return quantity.Ratio(n) }
	toAngle := func(d Deg) quantity.Angle { return quantity.Angle(d) }
	toForce := func(n Num) quantity.Force { return quantity.Force(n) }
	same := func(n int) int { return n }
	set(&out.EngagementMinD, p.EngagementMinD, toRatio)
	set(&out.EngagementWorstD, p.EngagementWorstD, toRatio)
	set(&out.TipClearanceMin, p.TipClearanceMin, toLength)
	set(&out.TipClearanceWorst, p.TipClearanceWorst, toLength)
	set(&out.MaxWashers, p.MaxWashers, same)
	set(&out.WasherOverlap, p.WasherOverlap, toLength)
	set(&out.MaxStackedSpacers, p.MaxStackedSpacers, same)
	set(&out.LeanOK, p.LeanOK, toAngle)
	set(&out.LeanMax, p.LeanMax, toAngle)
	set(&out.TwistOK, p.TwistOK, toLength)
	set(&out.TwistMax, p.TwistMax, toLength)
	if p.StockSpacers != nil {
		out.StockSpacers = nil
		for _, l := range p.StockSpacers {
			out.StockSpacers = append(out.StockSpacers, quantity.Length(l))
		}
	}
	set(&out.StockSpacerOuter, p.StockSpacerOuter, toLength)
	set(&out.ArmClearance, p.ArmClearance, toLength)
	setText(&out.BoltSchool, p.BoltSchool)
	setText(&out.ArmSchool, p.ArmSchool)
	setText(&out.SizeSchool, p.SizeSchool)
	setText(&out.WallSchool, p.WallSchool)
	set(&out.LoadCaution, p.LoadCaution, toRatio)
	set(&out.Reveal, p.Reveal, toLength)
	set(&out.StudFind, p.StudFind, toLength)
	set(&out.TwoPeopleDiagonal, p.TwoPeopleDiagonal, toLength)
	set(&out.Handling, p.Handling, toForce)
	set(&out.HandlingPublic, p.HandlingPublic, toForce)
	return out
}

// PolicyOf writes a policy in the format, every setting of it.
func PolicyOf(p catalog.Policy) Policy {
	num := func(r quantity.Ratio) *Num { n := Num(r); return &n }
	newtons := func(f quantity.Force) *Num { n := Num(f); return &n }
	deg := func(a quantity.Angle) *Deg { d := Deg(a); return &d }
	out := Policy{
		EngagementMinD: num(p.EngagementMinD), EngagementWorstD: num(p.EngagementWorstD),
		TipClearanceMin: mmOf(p.TipClearanceMin), TipClearanceWorst: mmOf(p.TipClearanceWorst),
		MaxWashers: &p.MaxWashers, WasherOverlap: mmOf(p.WasherOverlap), MaxStackedSpacers: &p.MaxStackedSpacers,
		LeanOK: deg(p.LeanOK), LeanMax: deg(p.LeanMax), TwistOK: mmOf(p.TwistOK), TwistMax: mmOf(p.TwistMax), StockSpacers: []MM{},
		StockSpacerOuter: mmOf(p.StockSpacerOuter),
		ArmClearance:     mmOf(p.ArmClearance), BoltSchool: p.BoltSchool, ArmSchool: p.ArmSchool,
		SizeSchool: p.SizeSchool, WallSchool: p.WallSchool,
		LoadCaution: num(p.LoadCaution), Reveal: mmOf(p.Reveal), StudFind: mmOf(p.StudFind), TwoPeopleDiagonal: mmOf(p.TwoPeopleDiagonal),
		Handling: newtons(p.Handling), HandlingPublic: newtons(p.HandlingPublic),
	}
	for _, l := range p.StockSpacers {
		out.StockSpacers = append(out.StockSpacers, MM(l))
	}
	return out
}
