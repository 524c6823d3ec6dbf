package place

import (
	"math"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Strength is the third stage: demand and capacity of the fasteners,
// with everything they are computed from. Forces are in newtons.
type Strength struct {
	Known   bool
	Missing []quantity.Phrase // what is not known

	Load, Own     quantity.Mass   // display with accessories; the bracket
	Reach         quantity.Length // wall to arm plane, at its longest
	Out, OwnOut   quantity.Length // centres of gravity, from the wall, straight out
	Eccentricity  quantity.Length // of the load, from the middle of the fasteners; left is negative
	InWood        bool            // else the anchors' ratings count
	Gravity       float64         // of the wood
	Penetration   quantity.Length // in the wood, without the tip
	Thread        quantity.Length // the threaded part of that
	Covering      quantity.Length // with the cavity: without strength
	CapacityPull  float64         // of one fastener, under a permanent load
	CapacityShear float64         // straight down
	Ultimate      float64         // at which a lag comes out (USDA Wood Handbook)
	Moment        float64         // N·m, about the plate's lower edge, straight out
	Worst         int             // of the points

	Assessment *anchorage.Assessment // nil when it is not known
}

// Utilisation is the largest utilisation of all poses.
func (s *Strength) Utilisation() float64 { return s.Assessment.Strength.Share }

// specificGravity returns G of the wall's wood: assumed, else its species', else
// that of spruce-pine-fir. A denser wood cannot be assumed.
func (s *setting) specificGravity() float64 {
	recorded := anchorage.SpecificGravity(s.Job.Wall.Species)
	g := s.Job.Assume.Gravity
	if !g.Known {
		return recorded
	}
	return min(float64(g.Value)/float64(quantity.One), recorded)
}

// assumed returns the load or reach to compute with: the assumed one if
// none is on record, else the larger. An assumption may make an answer
// worse, or possible; it never improves one.
func assumed[T quantity.Length | quantity.Mass](instead, recorded quantity.Optional[T]) quantity.Optional[T] {
	if !instead.Known || recorded.Known && recorded.Value > instead.Value {
		return recorded
	}
	return instead
}

// optimistic lists the assumptions that are more favourable than the record, and are therefore
// ignored.
func (s *setting) optimistic(out *Strength) (said []string) {
	a := &s.Job.Assume
	add := func(mild bool, what string) {
		if mild {
			said = append(said, what)
		}
	}
	add(a.Load.Known && a.Load.Value < out.Load, "load")
	add(a.Reach.Known && a.Reach.Value < out.Reach, "reach")
	add(a.Aside.Known && a.Aside.Value.Abs() < out.Eccentricity.Abs(), "load aside")
	add(out.InWood && a.Penetration.Known && a.Penetration.Value > out.Penetration, "depth in the wood")
	add(out.InWood && a.Gravity.Known && float64(a.Gravity.Value)/float64(quantity.One) > out.Gravity, "wood")
	return said
}

// assess computes the third stage.
func (s *setting) assess(h *Height, f *Fixing) Strength {
	var out Strength
	if len(f.Points) == 0 {
		return out
	}
	pair, assume := s.Pairing, &s.Job.Assume
	b, d := pair.Bracket, pair.Display
	z, stacked := s.plane()
	recorded, known := b.Farthest()
	far := assumed(assume.Reach, quantity.Optional[quantity.Length]{Value: recorded, Known: known})
	reach := far.Value
	out.Missing = s.missingForStrength(f, far.Known, stacked)
	out.Load = assumed(assume.Load, quantity.Optional[quantity.Mass]{Value: d.Mass.Value + s.Job.Accessories, Known: d.Mass.Known}).Value
	out.Own = max(b.Mass.Or(0), b.HungMass.Or(0)) // a part is not heavier than the whole: the larger counts
	out.Reach = reach
	half := d.Depth.Value.HalfUp()
	out.Out, out.OwnOut = reach+z+half, reach/2
	out.Gravity = s.specificGravity()
	out.Covering = f.Layers.Covering.Value + f.Layers.Cavity.Value
	out.InWood = f.Choice.Wall.Holds() == catalog.Wood
	if out.Missing != nil {
		return out
	}
	out.Known = true
	one := s.assessmentCase(h, f, &out, z+half)
	a := one.Assess()
	out.Assessment = &a
	out.Penetration, out.Thread = a.Capacity.Across, a.Capacity.Threaded
	out.CapacityPull, out.CapacityShear = a.Capacity.Design(&anchorage.Permanent)
	if out.InWood {
		out.Ultimate = a.Capacity.Pull * a.Capacity.PullUltimate
	}
	out.Moment, out.Worst = a.Moment, a.Strength.Point
	out.Eccentricity = quantity.FromMM(one.Hanging.CGX - anchorage.NewBolted(one.Points, one.LowerEdge).Middle())
	return out
}

// missingForStrength names the missing figures.
func (s *setting) missingForStrength(f *Fixing, farthest, stacked bool) (missing []quantity.Phrase) {
	assume, b, d := &s.Job.Assume, s.Pairing.Bracket, s.Pairing.Display
	need := func(known bool, what string, args ...any) {
		if !known {
			missing = append(missing, quantity.Say(what, args...))
		}
	}
	need(d.Mass.Known || assume.Load.Known, "the display's mass")
	if b.Swings() {
		need(farthest, "how far the bracket reaches out")
	} else {
		need(farthest, "the bracket's reach or profile")
	}
	need(b.Mass.Known, "the bracket's mass")
	need(d.Depth.Known, "the display's depth")
	need(stacked, "the bolts and their spacers")
	need(b.WallPlate.Height.Known, "the wall plate's height")
	need(f.offPlate(b.WallPlate) == "", "where the wall plate's holes are")
	swivel := b.Swivel.Value
	if b.Swings() && !b.Swivel.Known {
		need(false, "how far the bracket swivels")
	}
	if swivel > 0 {
		_, placed := b.SwivelAxis()
		need(placed, "the swivel's pivot")
		need(b.Profile.Known, "the bracket's profile")
	}
	w := &s.Job.Wall
	need(w.Type != catalog.Concrete || w.BlockKind == "" || w.BlockKind == "solid", "whether the wall is concrete or of blocks")
	carrier := f.Choice.Carrier()
	switch {
	case !f.Choice.Known():
		need(false, "the fastener")
	case f.Choice.Wall.Holds() == catalog.Wood:
		need(f.Choice.Item.Diameter > 0 && f.Choice.Item.Length > 0, "the fastener's size")
		need(f.Layers.Plate.Known, "the wall plate's thickness")
		need(f.Layers.Covering.Known, "the covering's thickness")
		need(f.Layers.Cavity.Known, "the cavity behind it")
		need(f.Layers.Backing.Known || assume.Penetration.Known, "the board's thickness")
	default:
		_, rated := f.Choice.Rating(&f.Layers)
		inSheet := f.Choice.Wall == catalog.MetalStud && f.Choice.Item.Kind == catalog.Screw
		need(rated || inSheet, "what %v holds in %v, pulled and across", carrier.Label(), f.wallName(w))
		if f.Choice.Wall.Holds() == catalog.Masonry {
			need(f.Layers.Covering.Known, "the covering's thickness")
			need(f.Layers.Cavity.Known, "the cavity behind it")
			need(f.Layers.Plate.Known, "the wall plate's thickness")
			need(f.Choice.Item.Length > 0, "the fastener's length")
			need(f.Choice.Item.Diameter > 0, "the fastener's diameter")
			need(f.Choice.Plug == nil || f.Choice.Plug.SoundEmbedment() > 0, "the plug's length")
		}
	}
	if len(f.Points) > 0 && f.Choice.Beside != nil {
		for i := range f.Points {
			if f.Points[i].Beside {
				_, rated := f.Choice.Beside.RatingFor(catalog.HollowBoard, "")
				need(rated, "what %v holds in board", f.Choice.Beside.Label())
				break
			}
		}
	}
	return missing
}

// assessmentCase returns the input of the assessment. armToCG is z and half the depth.
func (s *setting) assessmentCase(h *Height, f *Fixing, out *Strength, armToCG quantity.Length) anchorage.Case {
	pair, b := s.Pairing, s.Pairing.Bracket
	one := anchorage.Case{
		Choice: f.Choice, Layers: f.Layers, LowerEdge: h.Datum - b.WallPlate.Height.Value.HalfUp(), Bounds: s.bounds(),
		Gravity: out.Gravity, Penetration: s.Job.Assume.Penetration, Vehicle: s.Job.Wall.Vehicle,
		Left: s.bore(f).Share * s.woodShare(),
	}
	for _, p := range f.Points {
		one.Points = append(one.Points, anchorage.Point{X: p.X, Y: p.Y, Plate: max(0, p.Plate-1), Beside: p.Beside})
	}
	cg := pair.Turn.Of(catalog.Point{X: pair.Display.CGRight, Y: pair.Display.CGAboveCenter})
	left, right := s.edges()
	x := (s.DisplayX + cg.X).MM()
	if a := s.Job.Assume.Aside; a.Known {
		if middle := anchorage.NewBolted(one.Points, one.LowerEdge).Middle(); math.Abs(x-middle) < a.Value.Abs().MM() {
			x = middle + a.Value.MM()
		}
	}
	one.Hanging = anchorage.Hanging{
		Display: anchorage.Newtons(out.Load), Own: anchorage.Newtons(out.Own), DatumX: f.DatumX.MM(), CGX: x,
		Profile: b.Profile.Or(out.Reach).MM(), Reach: out.Reach.MM(), ZHalf: armToCG.MM(),
		Head: b.Swivel.Value.Degrees(), Left: left.MM(), Right: right.MM(),
		Leans: b.Swings() && !b.Kind.Properties().Joint,
	}
	if pivot, placed := b.SwivelAxis(); placed {
		one.Hanging.Behind = pivot.BehindArm.MM()
	}
	switch {
	case b.ArmSwing.Known:
		one.Hanging.Arm = b.ArmSwing.Value.Degrees()
	case b.Kind.Properties().Swings:
		one.Hanging.Arm = 90 // practice, if not given
	}
	one.Hanging.Handling = pair.Policy.Handling.Newtons()
	if s.Job.Place.Public {
		one.Hanging.Handling = pair.Policy.HandlingPublic.Newtons()
		// What people reach from the floor they pull at.
		one.Hanging.Pulled = h.Bottom < withinReach
		one.Hanging.PulledAt = (h.Bottom - one.LowerEdge).MM()
		one.Hanging.PlateHeight = b.WallPlate.Height.Value.MM()
	}
	return one
}

// withinReach is the height of a lower edge that people reach from the floor (practice).
const withinReach = 1500 * quantity.Millimetre

// Shares of a fastener's strength in sound spruce: what wet or treated wood leaves (NDS C_M, memory), and what particle board
// does, 900 N for a No. 10 screw 17 mm in where spruce holds 1,560 (ANSI A208.1, M-2, and USDA Wood Handbook, memory).
const (
	dampShare     = 0.7
	particleShare = 0.55
)

// woodShare returns the share of a fastener's strength that the wood of this wall leaves. A board of which nobody says what it is
// counts as the weakest.
func (s *setting) woodShare() float64 {
	w, share := &s.Job.Wall, 1.0
	if w.Wet || w.Treated {
		share = dampShare
	}
	if w.BoardKind == "particle" || s.boardUnknown() {
		share *= particleShare
	}
	return share
}

// boardUnknown reports whether the fasteners go into a board, and nobody says of what.
func (s *setting) boardUnknown() bool {
	return s.Job.Wall.Type.OfBoard() && s.Job.Wall.BoardKind == ""
}

// wallName names the wall for a rating: with the kind of its blocks, or the sheet or the board that is too thin for it.
func (f *Fixing) wallName(w *catalog.Wall) quantity.Phrase {
	name := w.Type.Name()
	switch r, ok := f.Choice.Carrier().RatingFor(w.Type, w.BlockKind); {
	case ok && r.Steel > 0:
		return quantity.Say("%v of %v sheet (its figure was found in %v)", name, sheet(f.Choice.Steel.Or(anchorage.UsualSteel)), sheet(r.Steel))
	case ok && r.Board > 0:
		return quantity.Say("a board thinner than %v, in which its figure was found", r.Board)
	case w.BlockKind != "":
		return quantity.Say("%v (%v)", name, w.BlockKind)
	}
	return quantity.Say("%v", name)
}

// bounds returns the edges of the base material: the wall's ends, the floor
// and the ceiling.
func (s *setting) bounds() anchorage.Bounds {
	w := &s.Job.Wall
	zero := quantity.Some(quantity.Length(0))
	return anchorage.Bounds{Left: zero, Bottom: zero, Right: w.Width, Top: w.Height}
}
