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
	return out
}

// PolicyOf writes a policy in the format, every setting of it.
func PolicyOf(p catalog.Policy) Policy {
	num := func(r quantity.Ratio) *Num { n := Num(r); return &n }
	deg := func(a quantity.Angle) *Deg { d := Deg(a); return &d }
	out := Policy{
		EngagementMinD: num(p.EngagementMinD), EngagementWorstD: num(p.EngagementWorstD),
		TipClearanceMin: mmOf(p.TipClearanceMin), TipClearanceWorst: mmOf(p.TipClearanceWorst),
		MaxWashers: &p.MaxWashers, WasherOverlap: mmOf(p.WasherOverlap), MaxStackedSpacers: &p.MaxStackedSpacers,
		LeanOK: deg(p.LeanOK), LeanMax: deg(p.LeanMax), StockSpacers: []MM{}, StockSpacerOuter: mmOf(p.StockSpacerOuter),
		ArmClearance: mmOf(p.ArmClearance), BoltSchool: p.BoltSchool, ArmSchool: p.ArmSchool, SizeSchool: p.SizeSchool, WallSchool: p.WallSchool,
		LoadCaution: num(p.LoadCaution), Reveal: mmOf(p.Reveal), StudFind: mmOf(p.StudFind), TwoPeopleDiagonal: mmOf(p.TwoPeopleDiagonal),
	}
	for _, l := range p.StockSpacers {
		out.StockSpacers = append(out.StockSpacers, MM(l))
	}
	return out
}

// Job is one site.
type Job struct {
	ID          string `json:"id" required:"true" pattern:"^[A-Za-z0-9]([A-Za-z0-9_-]|\\.[A-Za-z0-9_-])*$" patternText:"letters, digits, dots, dashes and underscores, starting with a letter or digit" maxLength:"80"`
	Display     string `json:"display" required:"true" maxLength:"80"`
	Bracket     string `json:"bracket" required:"true" maxLength:"80"`
	Turn        int    `json:"turn_deg,omitempty" enum:"0,90,270"`
	Accessories *KG    `json:"accessories_kg,omitempty" minimum:"0" maximum:"1000"`
	Run         *Run   `json:"run,omitempty"`
	Wall        *Wall  `json:"wall,omitempty"`
	Place       *Place `json:"place,omitempty"`
}

// Run is several equal displays side by side.
type Run struct {
	Count int `json:"count" required:"true" minimum:"1" maximum:"100"`
	Gap   *MM `json:"gap_mm,omitempty" minimum:"0" maximum:"10000"`
}

// Wall is a job's wall.
type Wall struct {
	Type     string `json:"type" required:"true" enum:"wood_stud,metal_stud,concrete,block,lined_masonry,timber_board,thin_backer,hollow_board"`
	Covering *MM    `json:"covering_mm,omitempty" minimum:"0" maximum:"500"`
	Width    *MM    `json:"width_mm,omitempty" exclusiveMinimum:"0" maximum:"100000"`
	Studs    *Studs `json:"studs,omitempty"`
	Species  string `json:"species,omitempty" enum:"spruce_pine_fir,hem_fir,douglas_fir_larch,southern_pine"`
}

// Studs are where a wall's studs are.
type Studs struct {
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
		out.Wall = catalog.Wall{Type: w.Type, Covering: length(w.Covering), Width: length(w.Width), Species: w.Species}
		if s := w.Studs; s != nil {
			out.Wall.Studs = &catalog.Studs{First: length(s.First), Spacing: length(s.Spacing), Width: length(s.Width)}
			for _, at := range s.At {
				out.Wall.Studs.At = append(out.Wall.Studs.At, quantity.Length(at))
			}
		}
	}
	if p := j.Place; p != nil {
		out.Place = catalog.Place{
			Rule: p.Rule, Center: length(p.Center), Eye: length(p.Eye), Distance: length(p.Distance), Angle: angle(p.Angle),
			Surface: length(p.Surface), Line: length(p.Line), Gap: length(p.Gap), Bottom: length(p.Bottom),
			Accessory: length(p.Accessory), X: length(p.X), Public: p.Public,
		}
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
		out.Wall = &Wall{Type: w.Type, Covering: mmOpt(w.Covering), Width: mmOpt(w.Width), Species: w.Species}
		if s := w.Studs; s != nil {
			out.Wall.Studs = &Studs{First: mmOpt(s.First), Spacing: mmOpt(s.Spacing), Width: mmOpt(s.Width)}
			for _, at := range s.At {
				out.Wall.Studs.At = append(out.Wall.Studs.At, MM(at))
			}
		}
	}
	if p := j.Place; p.Rule != "" {
		out.Place = &Place{
			Rule: p.Rule, Center: mmOpt(p.Center), Eye: mmOpt(p.Eye), Distance: mmOpt(p.Distance), Angle: degOpt(p.Angle),
			Surface: mmOpt(p.Surface), Line: mmOpt(p.Line), Gap: mmOpt(p.Gap), Bottom: mmOpt(p.Bottom),
			Accessory: mmOpt(p.Accessory), X: mmOpt(p.X), Public: p.Public,
		}
	}
	return out
}
