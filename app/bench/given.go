package bench

import (
	"nexufix/core/quantity"
	"nexufix/core/stack"
	"nexufix/exchange"
)

// JudgeGiven is a request with a pairing and the parts that somebody has in hand for a hole.
type GivenStack struct {
	Request Request    `json:"request" required:"true"`
	Hand    GivenParts `json:"hand" required:"true"`
}

// GivenParts are the parts on one bolt. A washer without a width has the standard
// one; spacers without a width have that of the company's stock.
type GivenParts struct {
	Bolt      exchange.MM    `json:"bolt_mm" required:"true" exclusiveMinimum:"0" maximum:"500"`
	Washers   int            `json:"washers" required:"true" minimum:"0" maximum:"6"` // 0 has to be given: it is another stack
	Thickness exchange.OptMM `json:"thickness_mm,omitzero" exclusiveMinimum:"0" maximum:"50"`
	Outer     exchange.OptMM `json:"outer_mm,omitzero" exclusiveMinimum:"0" maximum:"200"`
	Shoulder  exchange.OptMM `json:"shoulder_washer_mm,omitzero" minimum:"0" maximum:"50"`
	Spacers   []exchange.MM  `json:"spacers_mm,omitempty" exclusiveMinimum:"0" maximum:"500" maxItems:"4"`
	SpacerOut exchange.OptMM `json:"spacer_outer_mm,omitzero" exclusiveMinimum:"0" maximum:"200"`
}

// GivenJudged is the judgement of the parts at one group of holes.
type GivenJudged struct {
	Holes  []string `json:"holes" required:"true"`
	Status string   `json:"status" required:"true" enum:"ok,caution,unsafe"`
	Text   string   `json:"text" required:"true"`
}

// JudgeGiven judges parts at each group of holes.
func (a *Workspace) JudgeGiven(in GivenParts) ([]GivenJudged, error) {
	p := a.Judge()
	out := []GivenJudged{}
	if p.Pattern == nil || p.Pattern.Thread == 0 {
		return out, nil
	}
	problem := p.Problem()
	hand := in.core(&problem)
	for i := range problem.Groups {
		if problem.Groups[i].ThreadDepth == 0 {
			continue // not known: it cannot be judged
		}
		h, faults, err := problem.JudgeGiven(i, hand)
		if err != nil {
			return nil, exchange.Problems{{Path: "hand", Found: err.Error(), Allowed: "parts for one bolt"}}
		}
		out = append(out, GivenJudged{h.Holes, h.Status.String(), a.reader().Say(handText(&h, faults))})
	}
	return out, nil
}

func (h *GivenParts) core(p *stack.Problem) stack.GivenParts {
	std := p.Thread.Standard()
	out := stack.GivenParts{Bolt: h.Bolt, Shoulder: h.Shoulder.Or(0),
		Washers: stack.Washers{Count: h.Washers, Thickness: h.Thickness.Or(std.Washer.Thickness), Outer: h.Outer.Or(std.Washer.Outer)}}
	if out.Washers.Count == 0 {
		out.Washers.Outer = std.HeadDiameter // the head alone is on the slot
	}
	for _, s := range h.Spacers {
		out.Spacers = append(out.Spacers, stack.Spacer{Length: s, Outer: h.SpacerOut.Or(p.Policy.StockSpacerOuter)})
	}
	return out
}

var faultSays = map[string]string{
	stack.TooShort:           "It is %v too short: the threads would strip.",
	stack.TooLong:            "It is %v too long: it would press on the panel from behind and crack it.",
	stack.Inside:             "The arm would lie %v inside the display: spacers are needed.",
	stack.Jams:               "The spacer neither drops into the recess nor stands on its rim: %v wider and it would stand.",
	stack.PullsThrough:       "A washer, or the head, or a spacer is %v too narrow for the slot and would pull through.",
	stack.HeadStandsOut:      "The head stands out %v too far for the room behind the plate.",
	stack.EngagementDoubtful: "With the tolerances against it, %v too little thread could be engaged.",
	stack.ClearanceDoubtful:  "With the tolerances against it, its tip could go %v too deep.",
	stack.CupDoubtful:        "How deep or wide the recess is, is not known well enough.",
	stack.PlaneDoubtful:      "With the tolerances against it, the arm could touch the back.",
}

func handText(h *stack.HoleStack, faults []stack.Fault) quantity.Phrase {
	text := quantity.Say("Safe: %v of thread engaged, tip clearance %v.", quantity.AtLeast(h.Engagement), quantity.AtLeast(h.Clearance))
	switch h.Status {
	case stack.Unsafe:
		text = quantity.Say("Not safe.")
	case stack.Caution:
		text = quantity.Say("Right on paper: %v of thread engaged, tip clearance %v.", quantity.AtLeast(h.Engagement),
			quantity.AtLeast(h.Clearance))
	}
	for _, f := range faults {
		says := quantity.Say(faultSays[f.Kind])
		if f.By != 0 {
			says = quantity.Say(faultSays[f.Kind], quantity.AtMost(f.By))
		}
		text = quantity.Say("%v %v", text, says)
	}
	return text
}
