package anchorage

import (
	"math"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Case is the complete input of an assessment. The caller reports what is missing for
// it.
type Case struct {
	Choice      Choice
	Layers      Layers
	Points      []Point
	LowerEdge   quantity.Length // of the wall plates, above the floor
	Bounds      Bounds
	Hanging     Hanging
	Gravity     float64  // specific, of the wood
	Left        float64  // the share of a fastener's strength in wood that hole and moisture leave
	Penetration optional // of a lag or screw, if assumed
	Vehicle     bool
}

// Assessment is demand, capacity and utilisation of the fasteners.
type Assessment struct {
	Capacity Capacity
	Beside   *Capacity // of those beside the studs
	Rated    bool      // there is a rating for the wall, or none is needed
	Cones    []float64 // by point, the cone's share of its pull; 1 if the cone does not count

	Straight []Force   // of the weights, straight out
	Moment   float64   // N·m about the plates' lower edge, straight out
	Shares   []float64 // by point, the largest utilisation of all poses

	Strength Outcome // of the worst pose
	Square   Outcome // of the permanent poses
	Swung    Outcome // of the temporary ones
	// The same with figures without a basis taken as rated.
	SquareRated, SwungRated Outcome

	Bending  Outcome // straight out, if a fixing bends
	TypeTest Outcome
	// The same with figures without a basis taken as rated.
	TypeTestRated Outcome
	Handling      Outcome // if people can lean on it
	Leaned        bool
}

// Outcome is a utilisation, its point and its pose. 1 is the
// capacity.
type Outcome struct {
	Share float64
	Point int
	Pose  Pose
	Force Force
}

func (o *Outcome) take(share float64, point int, pose *Pose, f Force) {
	if share > o.Share || math.IsNaN(share) {
		if math.IsNaN(share) { // not a number never passes
			share = math.Inf(1)
		}
		*o = Outcome{share, point, *pose, f}
	}
}

// Assess works out demand, capacity and utilisation. There is at least one
// point, and the choice's sizes and layers are known.
func (c *Case) Assess() Assessment {
	a := Assessment{Rated: true, Shares: make([]float64, len(c.Points)), Straight: make([]Force, len(c.Points)),
		Cones: make([]float64, len(c.Points))}
	if c.Left == 0 {
		c.Left = 1
	}
	if c.Choice.Wall.Holds() == catalog.Wood {
		a.Capacity = woodCapacity(&c.Choice, &c.Layers, c.Gravity, c.Penetration, c.Left)
	} else {
		a.Capacity, a.Rated = anchorCapacity(&c.Choice, &c.Layers)
	}
	c.beside(&a)
	hef := quantity.Length(0)
	cone := c.Choice.Wall.Holds() == catalog.Masonry && coned(c.Choice.Carrier().Kind)
	if cone {
		hef = Effective(&c.Choice, &c.Layers)
	}
	for i := range c.Points {
		a.Cones[i] = 1
		if cone {
			a.Cones[i] = Cone(c.Points, i, hef, c.Bounds)
		}
	}
	on := NewBolted(c.Points, c.LowerEdge)
	straight := c.Hanging.Straight()
	on.Forces([]Weight{straight.Display, straight.Own}, a.Straight)
	a.Moment = (straight.Display.Force*straight.Display.Out + straight.Own.Force*straight.Own.Out) / 1000
	c.strength(&a, on)
	c.handling(&a, on)
	return a
}

func (c *Case) beside(a *Assessment) {
	if c.Choice.Beside == nil {
		return
	}
	for _, p := range c.Points {
		if p.Beside {
			choice := Choice{Wall: catalog.HollowBoard, Item: *c.Choice.Beside}
			one, ok := anchorCapacity(&choice, &c.Layers)
			a.Beside, a.Rated = &one, a.Rated && ok
			return
		}
	}
}

// capacityOf returns the capacity of a point's fastener.
func (a *Assessment) capacityOf(p *Point) *Capacity {
	if p.Beside && a.Beside != nil {
		return a.Beside
	}
	return &a.Capacity
}

// Loads in a vehicle: all weights three times down; and once with 1.5
// times the weight outward, or sideways, shared evenly (practice).
const (
	shakenDown  = 3
	shakenAside = 1.5
)

// strength judges all poses.
func (c *Case) strength(a *Assessment, on *Bolted) {
	room := make([]Force, len(c.Points))
	bends := a.Capacity.Bends && !a.Capacity.BendUnknown
	unstated := a.Capacity.Basis == Unstated || a.Beside != nil && a.Beside.Basis == Unstated
	judge := func(p *Pose, s *Situation) {
		square, rated := &a.Square, &a.SquareRated
		if p.Aside {
			square, rated = &a.Swung, &a.SwungRated
		}
		for i := range room {
			capacity := a.capacityOf(&c.Points[i])
			share := capacity.Utilisation(room[i], s, a.Cones[i], Ultimate)
			a.Shares[i] = max(a.Shares[i], share)
			square.take(share, i, p, room[i])
			a.Strength.take(share, i, p, room[i])
			if unstated {
				rated.take(capacity.Utilisation(room[i], s, a.Cones[i], Rated), i, p, room[i])
			}
			if bends {
				shear := room[i].Shear()
				a.Bending.take(capacity.bending(room[i].Pull, shear, s), i, p, room[i])
			}
		}
	}
	pose := func(at armAngles) {
		one := c.Hanging.pose(at)
		p, s := &one, &Permanent
		if p.Aside {
			s = &Aside
		}
		once := [2]Weight{p.Display, p.Own}
		if !c.Vehicle {
			on.Forces(once[:], room)
			judge(p, s)
			return
		}
		times := once
		for i := range times {
			times[i].Force *= shakenDown
		}
		on.Forces(times[:], room)
		judge(p, s)
		more := shakenAside * (p.Display.Force + p.Own.Force) / float64(len(room))
		for _, push := range [...]Force{{Pull: more}, {Right: more}, {Right: -more}} {
			on.Forces(once[:], room)
			for i := range room {
				room[i].Pull += push.Pull
				room[i].Right += push.Right
			}
			judge(p, s)
		}
	}
	for _, at := range c.Hanging.worstPoses() {
		pose(at)
		c.typeTest(a, on, at, room)
	}
}

// The type test's load on top of the weight (IEC 62368-1, 8.7.2, memory): three
// times the weight, at the most 880 N more than it.
const maxOnTop = 880

func (c *Case) typeTest(a *Assessment, on *Bolted, at armAngles, room []Force) {
	p := c.Hanging.pose(at)
	w := p.Display
	w.Force += min(3*w.Force, w.Force+maxOnTop)
	both := [2]Weight{w, p.Own}
	on.Forces(both[:], room)
	for i := range room {
		share := a.capacityOf(&c.Points[i]).Utilisation(room[i], &TypeTest, a.Cones[i], Ultimate)
		a.TypeTest.take(share, i, &p, room[i])
		if capacity := a.capacityOf(&c.Points[i]); capacity.Basis == Unstated {
			a.TypeTestRated.take(capacity.Utilisation(room[i], &TypeTest, a.Cones[i], Rated), i, &p, room[i])
		}
	}
}

// handling judges people who lean on a display that is swung out.
func (c *Case) handling(a *Assessment, on *Bolted) {
	if c.Hanging.Handling <= 0 {
		return
	}
	if c.Hanging.Pulled {
		c.pulling(a, on)
	}
	if !c.Hanging.Leans {
		return
	}
	a.Leaned = true
	room := make([]Force, len(c.Points))
	poses, push := c.Hanging.leaning()
	for n := range poses {
		on.Forces([]Weight{poses[n].Display, poses[n].Own, push[n]}, room)
		for i := range room {
			a.Handling.take(a.capacityOf(&c.Points[i]).Utilisation(room[i], &Leaning, a.Cones[i], Ultimate), i, &poses[n], room[i])
		}
	}
}

// pulling judges hands that pull a display at its lower edge, away from the wall and down. Pulled away below the plate it
// turns the plate about its upper edge; at the plate it is shared, and turns it about its lower one.
func (c *Case) pulling(a *Assessment, on *Bolted) {
	a.Leaned = true
	h := &c.Hanging
	room := make([]Force, len(c.Points))
	closed := h.closedPose()
	weights := []Weight{closed.Display, closed.Own}
	on.Forces(append(weights, Weight{h.Handling, h.CGX, h.Profile + 2*h.ZHalf}), room)
	for i := range room {
		a.Handling.take(a.capacityOf(&c.Points[i]).Utilisation(room[i], &Leaning, a.Cones[i], Ultimate), i, &closed, room[i])
	}
	on.Forces(weights, room)
	outward := on.outward(h.Handling, h.PulledAt, h.PlateHeight)
	for i := range room {
		room[i].Pull += outward[i]
		if len(room) == 1 {
			room[i].Pull = math.Inf(1) // one fastener alone: the plate turns about it
		}
		a.Handling.take(a.capacityOf(&c.Points[i]).Utilisation(room[i], &Leaning, a.Cones[i], Ultimate), i, &closed, room[i])
	}
}

// Infinite reports whether an outcome is infinite: a fastener has no capacity.
func (o *Outcome) Infinite() bool { return math.IsInf(o.Share, 1) }
