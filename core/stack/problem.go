package stack

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Tolerances of the bracket's own parts (practice).
const (
	plateTolerance    = quantity.Millimetre / 5
	spacerTolerance   = quantity.Millimetre / 5
	shoulderTolerance = quantity.Millimetre / 10

	cupPlay     = quantity.Millimetre / 2 // a spacer this much narrower than the cup drops in
	rimOverhang = 2 * quantity.Millimetre // and this much wider than it stands on the rim
)

// Group is a set of holes with equal figures, which all get the same stack.
type Group struct {
	Holes          []catalog.Hole // positions as hung
	Setback        quantity.Length
	Recess         quantity.Length
	RecessDiameter quantity.Optional[quantity.Length]
	ThreadDepth    quantity.Length

	// The larger of the holes' tolerances.
	SetbackTolerance, RecessTolerance, DepthTolerance quantity.Length

	// Where trial bolts gave the figures: how far r + D may fall short, in
	// place of the recess's and the depth's own tolerances on the rim; and
	// whether an end is open, which is a caution at best.
	SumTolerance quantity.Optional[quantity.Length]
	Open         bool

	// Whether nobody has said how deep the recess is, or how far the rim lies in front of the rest plane: they count
	// as 0, and [HoleStack.Slack] says how far that may be off.
	RecessUnsaid, SetbackUnsaid bool
	// What the plate bears on without a spacer is not known: the hole's cup is wider than it is.
	Wide bool
}

// figures are all figures of the group, without its holes.
type figures struct {
	lengths       [6]quantity.Length
	diameter, sum quantity.Optional[quantity.Length]
	flags         [4]bool
}

func (g *Group) figures() figures {
	return figures{[6]quantity.Length{g.Setback, g.Recess, g.ThreadDepth, g.SetbackTolerance, g.RecessTolerance, g.DepthTolerance},
		g.RecessDiameter, g.SumTolerance, [4]bool{g.Open, g.RecessUnsaid, g.SetbackUnsaid, g.Wide}}
}

// IDs returns the names of the group's holes.
func (g *Group) IDs() []string { return g.appendIDs(make([]string, 0, len(g.Holes))) }

func (g *Group) appendIDs(ids []string) []string {
	for i := range g.Holes {
		ids = append(ids, g.Holes[i].ID)
	}
	return ids
}

// Problem is one display pattern on one bracket: the groups of holes, what
// the bolts pass through, and the kit.
type Problem struct {
	Thread         fastener.Thread
	Groups         []Group
	PlateThickness quantity.Length
	Slot           quantity.Length
	HeadRoom       quantity.Optional[quantity.Length]
	Dimpled        bool
	Under          Under
	Corners        Corners
	Kit            []catalog.Item // in the bracket's box
	OwnParts       []catalog.Item // in the display's box
	Policy         catalog.Policy
	Work           *Work // of the request
}

// Under is what the arms, or the plate, pass over on the display's back.
type Under struct {
	StandsOut quantity.Length // past the rest plane: the arm plane stays clear of it
	Pocket    Pocket
	Depth     quantity.Length // of the pocket around the holes
}

// Pocket is how a plate or an arm lies on a pocket around all holes.
type Pocket uint8

// A plate inside the pocket bears on its floor; one that reaches past it bears on its rim. In between neither
// is certain.
const (
	NoPocket Pocket = iota
	InPocket
	AcrossPocket
	UnclearPocket
)

// need returns the least arm plane.
func (p *Problem) need() quantity.Length {
	need := max(p.Policy.ArmClearance, p.Under.StandsOut)
	if p.Under.Pocket == InPocket && p.Under.StandsOut <= 0 {
		return p.Policy.ArmClearance - p.Under.Depth
	}
	return need
}

// touches returns how far an arm may be inside the need at the worst: a touch of a flat back does no harm
// (practice), of what stands out it does.
func (p *Problem) touches() quantity.Length {
	if p.Policy.ArmClearance > 0 || p.Under.StandsOut > 0 {
		return 0
	}
	return p.Policy.ArmTouch
}

// Corners are the groups of the pattern's four corner holes as hung: top left,
// top right, bottom left, bottom right. Without a hole at each of them nothing
// is twisted.
type Corners struct {
	Known  bool
	Groups [4]int
}

// twist returns how far the four corners are from lying in one plane, where plane
// returns a group's arm plane: |z_TL − z_TR − z_BL + z_BR|. Arms whose feet stand
// unequally do not hang parallel on the rail.
func (c *Corners) twist(plane func(group int) quantity.Length) quantity.Length {
	if !c.Known {
		return 0
	}
	g := &c.Groups
	return (plane(g[0]) - plane(g[1]) - plane(g[2]) + plane(g[3])).Abs()
}

// Missing names the figures a problem cannot be set up without, by hole.
type Missing struct {
	Thread      bool
	ThreadDepth []string // holes whose thread depth is not known
	Cup         []string // holes with a recess whose diameter is not known
	Doubtful    []string // holes with a thread depth that is not to be believed unless it was measured
	Pocket      bool     // how deep the pocket around the holes is
	Bearing     []string // holes at which it is not known what the plate bears on
}

// BoltLayout is the holes of a display's pattern that a bracket bolts to, as hung
// with a turn, in groups. Brackets that bolt to
// the same rows share it.
type BoltLayout struct {
	Thread   fastener.Thread
	Groups   []Group
	Corners  Corners
	OwnParts []catalog.Item
	Missing  Missing
	Under    Under // of the bracket where its arms are

	// Contradictions between recorded figures and a caller's trial bolts: no stack
	// is searched for until they are settled.
	Contradictions []catalog.Contradiction
}

// NewBoltLayout returns a pattern's layout for a bracket.
func NewBoltLayout(d *catalog.Display, p *catalog.Pattern, b *catalog.Bracket, turn catalog.Turn) *BoltLayout {
	f := &BoltLayout{Thread: p.Thread, OwnParts: d.OwnParts, Missing: Missing{Thread: p.Thread == fastener.NoThread},
		Contradictions: p.Contradictions}
	w, height := turn.Size(p.Width, p.Height)
	found := [4]bool{}
	for _, h := range p.Used(b, turn) {
		if !h.ThreadDepth.Known {
			f.Missing.ThreadDepth = append(f.Missing.ThreadDepth, h.ID)
		}
		// No insert is usable deeper than four diameters (practice).
		if h.Probed == nil && h.ThreadDepth.Length > deepest*p.Thread.Standard().Nominal && h.ThreadDepth.Origin != catalog.Bench {
			f.Missing.Doubtful = append(f.Missing.Doubtful, h.ID)
		}
		if h.Recess.Length > 0 && !h.RecessDiameter.Known {
			f.Missing.Cup = append(f.Missing.Cup, h.ID)
		}
		group := f.add(h)
		for i, corner := range [4]catalog.Point{{X: -w, Y: height}, {X: w, Y: height}, {X: -w, Y: -height}, {X: w, Y: -height}} {
			if catalog.Half(h.X, corner.X) && catalog.Half(h.Y, corner.Y) && !found[i] {
				found[i], f.Corners.Groups[i] = true, group
			}
		}
	}
	f.Corners.Known = found == [4]bool{true, true, true, true}
	return f
}

// deepest is the deepest usable thread that is believed without a measurement, in diameters.
const deepest = 4

// Same reports whether what the arms pass over there is nothing, and no recess takes them in: the layout as it is.
func (f *BoltLayout) Same(under Under, wide quantity.Length) bool {
	return (under == Under{}) && !slices.ContainsFunc(f.Groups, func(g Group) bool { return g.takesIn(wide) || g.Wide })
}

// Over returns the layout for arms, or a plate, that pass over something, so wide on the display: f itself where
// nothing differs.
func (f *BoltLayout) Over(under Under, wide quantity.Length) *BoltLayout {
	if f.Same(under, wide) {
		return f
	}
	out := *f
	out.Under = under
	changed := under != Under{}
	for i := range f.Groups {
		g := f.Groups[i]
		if under.Pocket != NoPocket && g.SetbackUnsaid {
			g.Setback, g.SetbackTolerance, g.SetbackUnsaid = under.Depth, catalog.Sheet.Tolerance(), false
		}
		g.Wide = under.Pocket == NoPocket && g.takesIn(wide)
		if g.Wide {
			out.Missing.Bearing = append(slices.Clip(out.Missing.Bearing), g.IDs()...)
		}
		if same := f.Groups[i].figures(); g.figures() != same {
			if &out.Groups[0] == &f.Groups[0] {
				out.Groups = slices.Clone(f.Groups)
			}
			out.Groups[i], changed = g, true
		}
	}
	if under.Pocket == UnclearPocket {
		out.Missing.Bearing, out.Missing.Pocket = nil, under.Depth == 0
		for i := range out.Groups {
			out.Missing.Bearing = out.Groups[i].appendIDs(out.Missing.Bearing)
		}
	}
	if !changed {
		return f
	}
	return &out
}

// takesIn reports whether the cups of a group take in an arm or a plate so wide.
func (g *Group) takesIn(wide quantity.Length) bool {
	return g.Recess > 0 && wide > 0 && g.RecessDiameter.Known && g.RecessDiameter.Value > wide+cupBeyondPlate
}

// cupBeyondPlate is how much wider than the plate or the arm a cup is that takes it in (practice).
const cupBeyondPlate = 4 * quantity.Millimetre

// Solvable reports whether a stack can be searched for: there are holes,
// neither the thread nor a thread depth is missing or doubtful, and there is no contradiction.
func (f *BoltLayout) Solvable() bool {
	return !f.Missing.Thread && f.Missing.ThreadDepth == nil && f.Missing.Doubtful == nil && !f.Missing.Pocket && len(f.Groups) > 0 &&
		len(f.Contradictions) == 0
}

// On returns the problem of the layout on a bracket.
func (f *BoltLayout) On(b *catalog.Bracket, policy catalog.Policy) Problem {
	return Problem{
		Thread:         f.Thread,
		Groups:         f.Groups,
		PlateThickness: b.PlateThickness,
		Slot:           b.Slot(),
		HeadRoom:       b.HeadRoom,
		Dimpled:        b.Dimpled,
		Under:          f.Under,
		Corners:        f.Corners,
		Kit:            b.Kit,
		OwnParts:       f.OwnParts,
		Policy:         policy,
	}
}

// add adds a hole to the group with its figures, or to a new one, and returns
// the group's index.
func (f *BoltLayout) add(h catalog.Hole) int {
	n := groupOf(h)
	for i := range f.Groups {
		g := &f.Groups[i]
		if g.Setback == n.Setback && g.Recess == n.Recess && g.RecessDiameter == n.RecessDiameter && g.ThreadDepth == n.ThreadDepth &&
			g.SumTolerance == n.SumTolerance && g.Open == n.Open && g.RecessUnsaid == n.RecessUnsaid && g.SetbackUnsaid == n.SetbackUnsaid {
			g.Holes = append(g.Holes, h)
			g.SetbackTolerance = max(g.SetbackTolerance, n.SetbackTolerance)
			g.RecessTolerance = max(g.RecessTolerance, n.RecessTolerance)
			g.DepthTolerance = max(g.DepthTolerance, n.DepthTolerance)
			return i
		}
	}
	f.Groups = append(f.Groups, n)
	return len(f.Groups) - 1
}

// groupOf returns the group of one hole, with tolerances by origin, or by the intervals of
// trial bolts.
func groupOf(h catalog.Hole) Group {
	g := Group{
		Holes: []catalog.Hole{h}, Setback: h.Setback.Length, Recess: h.Recess.Length, ThreadDepth: h.ThreadDepth.Length,
		RecessDiameter:   quantity.Optional[quantity.Length]{Value: h.RecessDiameter.Length, Known: h.RecessDiameter.Known},
		SetbackTolerance: h.Setback.Tolerance(), RecessTolerance: h.Recess.Tolerance(), DepthTolerance: h.ThreadDepth.Tolerance(),
	}
	g.RecessUnsaid, g.SetbackUnsaid = !h.Recess.Known && h.Probed == nil, !h.Setback.Known
	if k := h.Probed; k != nil {
		g.RecessTolerance = k.Recess.High.Or(h.Recess.Length) - h.Recess.Length
		g.DepthTolerance = max(0, h.ThreadDepth.Length-k.ThreadDepth.Low)
		g.SumTolerance = quantity.Some(k.Depth.Middle() - k.Depth.Low)
		g.Open = !k.Depth.High.Known || !k.Recess.High.Known
	}
	return g
}
