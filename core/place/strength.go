package place

import (
	"math"
	"strings"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// StrengthRule: every fastener holds what the weights ask of it, in every pose.
const StrengthRule fit.RuleID = "strength"

var strengthRule = rule{About: fit.About{ID: StrengthRule, Name: "Strength", Blocks: true, Held: true, Step: "pull"},
	Judge: (*Placement).judgeStrength}

// notKnown says of one thing, or of some, that it is not known.
func notKnown(all ...quantity.Phrase) quantity.Phrase {
	if len(all) > 1 {
		return quantity.Say("%v are not known", quantity.List(", ", all...))
	}
	return quantity.Say("%v is not known", quantity.List(", ", all...))
}

// assessed returns the assessment of fasteners that are sound and whose figures are all known; else what the rule of the strength
// says of that, and nothing else can be said of them.
func (p *Placement) assessed() (*anchorage.Assessment, []fit.Check) {
	if len(p.Points) == 0 {
		return nil, nil
	}
	s := &p.Strength
	if held, why := p.fastenerSound(); !held {
		return nil, []fit.Check{stated(fit.Unknown, quantity.Say("The fasteners' strength is not known. %v", why),
			quantity.Say("Put that right first. Until then, someone licensed to judge the wall decides."), "use")}
	}
	if !s.Known {
		return nil, []fit.Check{stated(fit.Unknown, quantity.Say("The fasteners' strength is not known: %v.", notKnown(s.Missing...)),
			quantity.Say("Ask for it. Until then, someone licensed to judge the wall decides."), "use")}
	}
	a := s.Assessment
	if a.Capacity.BendUnknown && a.Strength.Share <= 1 {
		return nil, []fit.Check{stated(fit.Unknown,
			quantity.Say("%v crosses %v of covering and cavity and bends there; the root diameter of its thread is not known.", label(&p.Choice),
				s.Covering),
			quantity.Say("Ask its maker, or take a fixing with a rigid sleeve."), "use")}
	}
	return a, nil
}

func (p *Placement) judgeStrength() []fit.Check {
	if p.assessment == nil {
		return p.unassessed
	}
	return []fit.Check{p.strength(p.assessment)}
}

// fastenerSound reports whether fastener and embedment are fastenerSound, else what of them is
// not.
func (p *Placement) fastenerSound() (bool, quantity.Phrase) {
	if c := p.fastener(); c.Status == fit.Fail || c.Status == fit.Unknown && p.Choice.Said {
		return false, c.Text
	}
	for _, c := range p.embedment() {
		if c.Status == fit.Fail {
			return false, c.Text
		}
	}
	if c := p.pilot(); c.Status == fit.Fail {
		return false, c.Text
	}
	return true, quantity.Phrase{}
}

// fastenerName names a point's fastener.
func (p *Placement) fastenerName(point int) quantity.Phrase {
	return quantity.Say("The fastener in %v", p.hole(point))
}

// hole names a point's hole.
func (p *Placement) hole(point int) quantity.Phrase {
	pt := &p.Points[point]
	switch pt.Plate {
	case 1:
		return quantity.Say("%v of the left plate", pt.Hole)
	case 2:
		return quantity.Say("%v of the right plate", pt.Hole)
	}
	return quantity.Say("%v", pt.Hole)
}

// poseWords says how the display stands.
func poseWords(o *anchorage.Pose) quantity.Phrase {
	arm, head := int(math.Round(math.Abs(o.Arm))), int(math.Round(math.Abs(o.Head)))
	switch {
	case o.Closed:
		return quantity.Say("closed against the wall")
	case arm == 0 && head == 0:
		return quantity.Say("straight out at full reach")
	case head == 0:
		return quantity.Say("swung %v° aside", arm)
	case arm == 0:
		return quantity.Say("swivelled by %v°", head)
	}
	return quantity.Say("swung %v° aside and swivelled by %v°", arm, head)
}

// newtons rounds a force up, for show.
func newtons(f float64) string {
	if math.IsInf(f, 0) || f > 1e9 {
		return "more than any number of"
	}
	return quantity.FormatDecimal(int64(math.Ceil(f-1e-9)), 0)
}

// hundredths rounds a share up, for show.
func hundredths(share float64) string {
	if share > 1e4 {
		return "more than a million"
	}
	return quantity.FormatDecimal(int64(math.Ceil(share*100-1e-9)), 0)
}

// utilisation is a check of an outcome: over all that may be asked for it has a
// status.
func (p *Placement) utilisation(o *anchorage.Outcome, when string, over fit.Status, remedy quantity.Phrase) fit.Check {
	c := fit.Check{Finding: fit.Finding{Measure: fit.ShareAtMost(o.Share * 100)}, Marks: []string{"use"}}
	c.Text = quantity.Say("%v, %v, the fastener in %v takes %v %% of what it may.", when, poseWords(&o.Pose), p.hole(o.Point),
		hundredths(o.Share))
	if o.Share > 1 {
		c.Status, c.Remedy = over, remedy
	}
	return c
}

// What a pose that is for a while may take before it fails, and not only is a
// caution (practice).
const maxSwung = 1.5

// strength: over what may be asked for straight out or closed fails, above the
// policy's share is a caution; swung aside, for a while, over it is a caution and
// over one and a half times fails. An anchor of which nobody says what its figure
// is is judged both ways: what only passes as rated is not known.
func (p *Placement) strength(a *anchorage.Assessment) fit.Check {
	c := fit.Check{Finding: fit.Finding{Measure: fit.ShareAtMost(a.Strength.Share * 100)}, Marks: []string{"use"}}
	caution := p.Pairing.Policy.LoadCaution.Float()
	o := &a.Strength
	status := strengthStatus(&a.Square, &a.Swung, caution)
	if status == fit.Fail && a.Swung.Share <= maxSwung && a.Square.Share > 1 {
		o = &a.Square // what decides
	}
	if o.Infinite() {
		c.Status = fit.Fail
		c.Text = quantity.Say("%v cannot take a load aside: it is the only one, or nothing of it holds.", p.fastenerName(o.Point))
		c.Remedy = quantity.Say("More fasteners, longer ones, or the plate under the load.")
		return c
	}
	c.Text = quantity.Say("%v, %v, is pulled with %v N and loaded across with %v N: %v %% of what it may hold.", p.fastenerName(o.Point),
		poseWords(&o.Pose), newtons(o.Force.Pull), newtons(o.Force.Shear()), hundredths(o.Share))
	if p.Job.Wall.Vehicle {
		c.Text = quantity.Say("%v It is shaken: three times the weights, or once with one and a half times outward or sideways.", c.Text)
	}
	if mild := p.optimistic(&p.Strength); mild != nil {
		c.Text = quantity.Say("%v What is assumed of %v is milder than what is on record: the record counts.", c.Text, strings.Join(mild, ", "))
	}
	c.Status = status
	unstated := a.SquareRated.Share > 0 || a.SwungRated.Share > 0
	stronger := ""
	if status == fit.Fail {
		stronger = p.blocksThatHold(caution)
	}
	switch {
	case status == fit.Fail && unstated && strengthStatus(&a.SquareRated, &a.SwungRated, caution) != fit.Fail:
		c.Status = fit.Unknown
		c.Text = quantity.Say("%v Whether the pack's figure is for use or what the anchor comes out at is not known; for use it would do.",
			c.Text)
		c.Remedy = quantity.Say("Ask the anchor's maker: rated or ultimate.")
	case stronger != "":
		c.Status = fit.Unknown
		c.Text = quantity.Say("%v The kind of block is not known: the least of the ratings counts; in %v it would do.", c.Text,
			blockNames[stronger])
		c.Remedy = quantity.Say("Find out what the blocks are: by the dust of a first hole, and how the bit goes in.")
	case status == fit.Fail && p.boardUnknown() && strengthStatus(inSpruce(a.Square), inSpruce(a.Swung), caution) != fit.Fail:
		c.Status = fit.Unknown
		c.Text = quantity.Say("%v What the board is made of is not known: counted as particle board; in ply or OSB it would do.", c.Text)
		c.Remedy = quantity.Say("Find out what the board is made of: look at a cut edge, or at the dust of a first hole.")
	case status == fit.Fail:
		c.Remedy = quantity.Say("More or larger fasteners, a shorter reach, less load, or someone licensed to judge the wall.")
	case status == fit.Caution:
		c.Remedy = quantity.Say("Have the wall judged by someone licensed.")
	}
	return p.ratedElsewhere(a, c)
}

// ratedElsewhere adds to the check of the strength that the figures it stands on may be of another base than this wall.
func (p *Placement) ratedElsewhere(a *anchorage.Assessment, c fit.Check) fit.Check {
	if p.Job.Wall.Type == catalog.Block && p.Job.Wall.BlockKind == "" && c.Status <= fit.Caution {
		c.Status = fit.Caution
		c.Text = quantity.Say("%v The kind of block is not known: the least of the ratings counts.", c.Text)
		c.Remedy = quantity.Say("Test on site: set three fixings in the same wall, where the plate will not cover them, and pull each "+
			"straight out to "+
			"%v N (once and a half of what it will hold), for half a minute; none may move.", newtons(siteTest*maxPull(a)))
	}
	if r, ok := p.Choice.Rating(&p.Layers); ok && c.Status <= fit.Note && p.Choice.Item.Kind.Properties().Opens &&
		(p.Job.Wall.Type == catalog.MetalStud && r.Steel == 0 || p.Job.Wall.Type == catalog.HollowBoard && r.Board == 0) {
		c.Status = fit.Caution
		c.Text = quantity.Say("%v How thick the sheet or board was that its figure was found in is not known.", c.Text)
		c.Remedy = quantity.Say("Ask the anchor's maker what it holds in a board or sheet as thick as this one.")
	}
	return c
}

// siteTest is how much more than the design pull fixings in an unknown base are tested to (BS 8539, memory).
const siteTest = 1.5

// maxPull returns the largest pull of the weights, straight out.
func maxPull(a *anchorage.Assessment) (most float64) {
	for i := range a.Straight {
		most = max(most, a.Straight[i].Pull)
	}
	return max(most, a.Strength.Force.Pull)
}

// blockNames name the kinds of block.
var blockNames = map[string]quantity.Phrase{"solid": quantity.Say("solid blocks"), "hollow": quantity.Say("hollow blocks"),
	"aerated": quantity.Say("aerated blocks"), "old_brick": quantity.Say("old brick")}

// blocksThatHold returns a kind of block in which the fasteners hold, where nobody says what kind it is; "" if there is none.
func (p *Placement) blocksThatHold(caution float64) string {
	if p.Job.Wall.Type != catalog.Block || p.Job.Wall.BlockKind != "" {
		return ""
	}
	for _, kind := range catalog.BlockKinds {
		job, one := *p.Job, *p
		job.Wall.BlockKind, one.Job, one.Choice.Blocks = kind, &job, kind
		s := one.assess(&one.Height, &one.Fixing)
		if a := s.Assessment; a != nil && a.Rated && strengthStatus(&a.Square, &a.Swung, caution) != fit.Fail {
			return kind
		}
	}
	return ""
}

// inSpruce returns an outcome in particle board as it would be in sound wood: strengths are in proportion.
func inSpruce(o anchorage.Outcome) *anchorage.Outcome {
	o.Share *= particleShare
	return &o
}

func strengthStatus(square, swung *anchorage.Outcome, caution float64) fit.Status {
	switch {
	case square.Share > 1 || swung.Share > maxSwung:
		return fit.Fail
	case square.Share > caution || swung.Share > 1:
		return fit.Caution
	}
	return fit.Pass
}
