package stack

import (
	"cmp"
	"fmt"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// GivenParts are the parts that somebody has in hand for one hole.
type GivenParts struct {
	Bolt     quantity.Length
	Head     catalog.BoltHead // "": pan
	Threaded quantity.Length  // of the bolt's length; 0: as such bolts are
	Washers  Washers
	Shoulder quantity.Length // 0 for none
	Spacers  []Spacer        // the widest next to the display
}

// Fault is a reason why a hole stack is unsafe or doubtful, and by how
// much.
type Fault struct {
	Kind string          // one of the constants below
	By   quantity.Length // what is lacking
}

// The kinds of fault. The first ones make a stack unsafe, those that end in
// Doubtful make it a caution.
const (
	TooShort           = "too_short"      // engagement
	TooLong            = "too_long"       // tip clearance
	Inside             = "inside"         // the arm would be inside the display
	Jams               = "jams"           // the spacer neither drops into the cup nor stands on its rim
	ShankJams          = "shank"          // the bolt's shank meets the thread
	PullsThrough       = "pulls_through"  // washer or spacer narrower than the slot and its overlap
	HeadStandsOut      = "head"           // the head does not fit behind the plate
	EngagementDoubtful = "holds_doubtful" // worst engagement
	ClearanceDoubtful  = "free_doubtful"  // worst tip clearance
	CupDoubtful        = "cup_doubtful"   // cup of unknown width, or a hole not measured to its end
	PlaneDoubtful      = "rest_doubtful"  // worst arm plane
)

// JudgeGiven judges given parts at a group of holes, by the same figures and
// limits as [Solve]: it returns their hole stack, and what is wrong with it. The
// bag does not matter. An error says what cannot be judged.
func (p *Problem) JudgeGiven(group int, hand GivenParts) (HoleStack, []Fault, error) {
	if group < 0 || group >= len(p.Groups) {
		return HoleStack{}, nil, fmt.Errorf("group %d of %d", group, len(p.Groups))
	}
	if len(hand.Spacers) > maxStacked {
		return HoleStack{}, nil, fmt.Errorf("%d spacers on one bolt; at most %d are judged", len(hand.Spacers), maxStacked)
	}
	g, lim := &p.Groups[group], p.limits()
	c := choice{n: len(hand.Spacers)}
	narrowest := hand.Washers.Outer
	for _, s := range hand.Spacers {
		c.total += s.Length
		c.tolerance += spacerTolerance
		c.widest = max(c.widest, s.Outer)
		narrowest = min(narrowest, s.Outer)
	}
	var faults []Fault
	lacks := func(kind string, have, want quantity.Length) {
		if have < want {
			faults = append(faults, Fault{kind, want - have})
		}
	}
	a, jams := p.bear(g, &c)
	if jams {
		faults = append(faults, Fault{Jams, g.RecessDiameter.Value + rimOverhang - c.widest})
	}
	under := quantity.Length(hand.Washers.Count)*hand.Washers.Thickness + hand.Shoulder
	if p.HeadRoom.Known {
		lacks(HeadStandsOut, p.HeadRoom.Value, under+hand.Head.Height(p.Thread))
	}
	lacks(PullsThrough, narrowest, p.Slot+p.Policy.WasherOverlap)
	loose := quantity.Length(hand.Washers.Count)*p.Thread.WasherTolerance(hand.Washers.Thickness) + plateTolerance +
		fastener.LengthTolerance(hand.Bolt)
	if hand.Shoulder > 0 {
		loose += shoulderTolerance
	}
	h := HoleStack{
		Group: group, Holes: g.IDs(), Bearing: a.bearing, Thread: p.Thread, Bolt: hand.Bolt, Washers: hand.Washers, Shoulder: hand.Shoulder,
		Spacers: hand.Spacers,
		Plane:   a.plane, Entry: hand.Bolt - under - p.PlateThickness - c.total,
	}
	bolt := catalog.Item{Thread: p.Thread, Length: hand.Bolt, Head: hand.Head, ThreadLength: hand.Threaded}
	h.Head, h.Threaded = cmp.Or(hand.Head, catalog.PanHead), bolt.ThreadOf()
	m := g.margins(&a, h.Entry, loose)
	h.set(m)
	if g.unsaid(&c) {
		h.Slack = quantity.Some(lim.slack(g, &c, &m))
	}
	droppedIn := quantity.Length(0)
	if a.unproven {
		droppedIn = g.Recess
	}
	lacks(TooShort, h.Engagement, lim.engagementMin)
	lacks(TooLong, h.Clearance-droppedIn, lim.clearanceMin)
	lacks(Inside, a.plane-droppedIn, p.need())
	lacks(ShankJams, h.Threaded, h.Entry-a.free)
	if len(faults) > 0 {
		h.Status = Unsafe
		return h, faults, nil
	}
	lacks(EngagementDoubtful, h.EngagementWorst, lim.engagementWorst)
	lacks(ClearanceDoubtful, h.ClearanceWorst, lim.clearanceWorst)
	if a.unproven || g.Open || g.Wide && c.n == 0 {
		faults = append(faults, Fault{Kind: CupDoubtful})
	}
	if !a.planeOK {
		faults = append(faults, Fault{Kind: PlaneDoubtful})
	}
	if len(faults) > 0 {
		h.Status = Caution
	}
	return h, faults, nil
}
