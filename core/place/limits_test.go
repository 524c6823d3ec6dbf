package place

import (
	"math"
	"slices"
	"testing"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// limit is a figure at which a rule's answer changes: up to last it is one thing, and a nanometre (or a microgram) further another.
type limit struct {
	name     string
	rule     fit.RuleID
	last     float64 // millimetres, or kilograms
	is, then fit.Status
	vary     func(v quantity.Length, d *catalog.Display, b *catalog.Bracket, j *catalog.Job)
	policy   func(*catalog.Policy)
}

// worst is the worst that a rule says of placements; a pass without words where it says nothing.
func worst(all []Placement, rule fit.RuleID) (out fit.Check) {
	for i := range all {
		for _, c := range all[i].Checks {
			if c.Rule == rule && (out.Text.Empty() || c.Status > out.Status) {
				out = c
			}
		}
	}
	return out
}

func judgeLimits(t *testing.T, all []limit) {
	t.Helper()
	for _, l := range all {
		at := func(v quantity.Length) fit.Check {
			d, b, job := sitePair()
			job.Place.X = some(1650)
			l.vary(v, d, b, job)
			policy := catalog.DefaultPolicy()
			if l.policy != nil {
				l.policy(&policy)
			}
			p := fit.Judge(d, b, job.Turn, fit.ExtraOf(job), policy)
			return worst(Place(&p, job), l.rule)
		}
		last := quantity.FromMM(l.last)
		if is, then := at(last), at(last+1); is.Status != l.is || then.Status != l.then {
			t.Errorf("%s: %s is %s at %v (%s) and %s a hair further (%s); want %s, then %s", l.name, l.rule, is.Status, last,
				is.Text.In(quantity.Metric), then.Status, then.Text.In(quantity.Metric), l.is, l.then)
		}
	}
}

// What a row varies.
type (
	D = *catalog.Display
	B = *catalog.Bracket
	J = *catalog.Job
)

const (
	hair  = 0.000_001 // a nanometre, in millimetres
	ok    = fit.Pass
	note  = fit.Note
	wary  = fit.Caution
	open  = fit.Unknown
	wrong = fit.Fail
)

// bare is a wall of a kind without covering, 3.6 m wide and 2.6 m high.
func bare(kind catalog.WallType, j *catalog.Job) {
	j.Wall = catalog.Wall{Type: kind, Covering: some(0), Width: some(3600), Height: some(2600)}
}

// inConcrete is the site's wall of it, 200 thick, with a sleeve anchor of 10 × 60: past plate and washer it comes 55.4 in.
func inConcrete(b *catalog.Bracket, j *catalog.Job) *catalog.Item {
	bare(catalog.Concrete, j)
	j.Wall.Backing = some(200)
	anchored(b, catalog.Concrete, catalog.SleeveAnchor, 400, 500, "rated")
	return &b.Kit[len(b.Kit)-1]
}

// TestLimitsOfFasteners: lags of 8 × 70 through a plate of 3 and a washer of 1.6, a covering of 12, in studs.
func TestLimitsOfFasteners(t *testing.T) {
	judgeLimits(t, []limit{
		{name: "the bracket's covering", rule: CoveringRule, last: 16, is: ok, then: wrong, vary: func(v quantity.Length, _ D, _ B, j J) {
			j.Wall.Covering = quantity.Some(v)
		}},
		{name: "the usual covering of a stud wall", rule: CoveringRule, last: 16, is: ok, then: wary,
			vary: func(v quantity.Length, _ D, b B, j J) {
				b.Walls[catalog.WoodStud] = catalog.WallFixing{Drill: some(5), Fasteners: []string{"lag"}}
				j.Wall.Covering = quantity.Some(v)
			}},
		// 70 − 3 − 1.6 − 38 is 27.4; the bracket asks for 38 in the wood.
		{name: "in the wood", rule: FastenerRule, last: 27.4, is: ok, then: wrong, vary: func(v quantity.Length, _ D, b B, j J) {
			b.Walls[catalog.WoodStud] = catalog.WallFixing{Drill: some(5), Fasteners: []string{"lag"}, PenetrationMin: some(38)}
			j.Wall.Covering = quantity.Some(v)
		}},
		{name: "a hole narrower than its shaft", rule: FastenerRule, last: 8 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, _ D, b B, _ J) { holesOf(b, v) }},
		{name: "a hole wider than three diameters", rule: FastenerRule, last: 24 - hair, is: ok, then: wrong,
			vary: func(v quantity.Length, _ D, b B, _ J) { holesOf(b, v) }},
		// The head of a lag of 8 is 12.4 across; the washer under it is 16 wide here.
		{name: "a washer over its hole, 3 mm wider", rule: HeadRule, last: 13, is: ok, then: wrong,
			vary: func(v quantity.Length, _ D, b B, _ J) { holesOf(b, v) }},
		{name: "sheet for a swinging arm", rule: FastenerRule, last: 0.84 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, _ D, b B, j J) { onSheet(v, b, j) }},
		{name: "a backing let in", rule: FastenerRule, last: 18 - hair, is: wrong, then: ok, vary: func(v quantity.Length, _ D, b B, j J) {
			onSheet(mm(1)/2, b, j)
			j.Wall.LetIn = &catalog.Backing{Thickness: v}
		}},
		// Covering 12, sheet of 1 and a diameter of 5 are 18; past plate and washer a screw of 22.6 comes 18.
		{name: "a screw through sheet", rule: FastenerRule, last: 22.6 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, _ D, b B, j J) {
				onSheet(mm(1), b, j)
				b.Swivel, b.Reach = quantity.Optional[quantity.Angle]{}, quantity.Optional[quantity.Length]{}
				b.Kind = "fixed"
				b.Kit[len(b.Kit)-1].Length = v
			}},
		{name: "screws that an arm works loose", rule: FastenerRule, last: 30 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, d D, b B, j J) {
				screwed(catalog.TimberBoard, 60, 0)(d, b, j)
				b.Kind, b.Reach = "full_motion", some(300)
				j.Wall.Backing = quantity.Some(v)
			}},
		// A toggle of 10 through 12.5 of board: past plate and washer it comes 22.5 with 27.1.
		{name: "a toggle through its board", rule: FastenerRule, last: 27.1 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, _ D, b B, j J) {
				bare(catalog.HollowBoard, j)
				j.Wall.Covering, j.Wall.Cavity = quantity.Some(quantity.FromMM(12.5)), some(500)
				anchored(b, catalog.HollowBoard, catalog.Toggle, 50, 50, "rated")
				b.Kit[len(b.Kit)-1].Length = v
			}},
		// 12 + the stud − 3 is how deep a tip may be: 65.4 past the plate.
		{name: "a tip in a stud", rule: DepthRule, last: 56.4 - hair, is: wrong, then: ok, vary: func(v quantity.Length, _ D, b B, j J) {
			b.Walls[catalog.WoodStud] = catalog.WallFixing{Drill: some(5), Fasteners: []string{"lag"}, CoveringMax: some(16)}
			j.Wall.Backing = quantity.Some(v)
		}},
		{name: "a stud deeper than there are", rule: DepthRule, last: 300, is: ok, then: open, vary: func(v quantity.Length, _ D, b B, j J) {
			b.Walls[catalog.WoodStud] = catalog.WallFixing{Drill: some(5), Fasteners: []string{"lag"}, CoveringMax: some(16)}
			j.Wall.Backing = quantity.Some(v)
		}},
		// 65.4 past the plate and 6 beyond the tip.
		{name: "the maker's hole", rule: DepthRule, last: 71.4 - hair, is: wary, then: ok, vary: func(v quantity.Length, _ D, b B, j J) {
			b.Walls[catalog.WoodStud] = catalog.WallFixing{Drill: some(5), Depth: quantity.Some(v), Fasteners: []string{"lag"},
				CoveringMax: some(16)}
		}},
		{name: "masonry too thin for any fixing", rule: DepthRule, last: 80 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, _ D, b B, j J) {
				inConcrete(b, j).Length = mm(30)
				j.Wall.Backing = quantity.Some(v)
			}},
		// The effective depth of 55.4, twice; what stays behind the hole, 55.4 + 10, is 30.
		{name: "masonry too thin for this one", rule: DepthRule, last: 110.8 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, _ D, b B, j J) { inConcrete(b, j); j.Wall.Backing = quantity.Some(v) }},
		{name: "a bit too wide for its anchor", rule: PilotRule, last: 10.5, is: ok, then: wrong,
			vary: func(v quantity.Length, _ D, b B, j J) { inConcrete(b, j); drilled(b, catalog.Concrete, v) }},
		{name: "a bit too narrow for its anchor", rule: PilotRule, last: 9.5 - hair, is: wary, then: ok,
			vary: func(v quantity.Length, _ D, b B, j J) { inConcrete(b, j); drilled(b, catalog.Concrete, v) }},
		// Its root of 5.5 (measured) suits to 0.6 to 0.75 of the diameter; from 7.5 on it does not hold.
		{name: "a pilot that does not hold", rule: PilotRule, last: 7.5 - hair, is: wary, then: wrong,
			vary: func(v quantity.Length, _ D, b B, _ J) { drilled(b, catalog.WoodStud, v) }},
		{name: "an embedment", rule: EmbedmentRule, last: 55.4, is: ok, then: wrong, vary: func(v quantity.Length, _ D, b B, j J) {
			inConcrete(b, j).EmbedmentMin = v
		}},
		{name: "the usual embedment", rule: EmbedmentRule, last: 44.6 - hair, is: wrong, then: ok, vary: func(v quantity.Length, _ D, b B, j J) {
			inConcrete(b, j).Length = v
		}},
		// A plug of 60 behind plate and washer of 4.6; its screw through it, or up to its diameter of 8 less.
		{name: "a plug's screw, short", rule: EmbedmentRule, last: 64.6 - hair, is: wary, then: ok, vary: func(v quantity.Length, _ D, b B, j J) {
			plugged(b, j, v)
		}},
		{name: "a plug's screw, too short", rule: EmbedmentRule, last: 56.6 - hair, is: wrong, then: wary,
			vary: func(v quantity.Length, _ D, b B, j J) { plugged(b, j, v) }},
	})
}

// TestLimitsInMasonry: sleeve anchors of 10 × 60 in concrete of 2.6 × 3.6 m, 55.4 deep. The plate's holes are 190 apart, one over the
// other, at 1683 and 1493, and at 1450 to 1850. Where their maker says nothing five diameters of the hole are the least, and the
// depth, or 1.2 of it between them, is right.
func TestLimitsInMasonry(t *testing.T) {
	beside := func(v quantity.Length, _ D, b B, j J) { // the upper left hole so far from the wall's left end
		inConcrete(b, j)
		j.Place.X, b.WallPlate.Width = quantity.Some(v+mm(200)), some(10)
		for i := range b.WallPlate.Holes {
			b.WallPlate.Holes[i].Shape, b.WallPlate.Holes[i].Travel = "round", 0
		}
	}
	said := func(edge, spacing quantity.Length, b B, j J) {
		i := inConcrete(b, j)
		i.EdgeMin, i.SpacingMin = edge, spacing
	}
	judgeLimits(t, []limit{
		{name: "five diameters from an edge", rule: EdgesRule, last: 50 - hair, is: wrong, then: wary, vary: beside},
		{name: "its depth from an edge", rule: EdgesRule, last: 55.4 - hair, is: wary, then: ok, vary: beside},
		{name: "as far from an edge as its maker says", rule: EdgesRule, last: 917, is: ok, then: wrong, // 2600 − 1683
			vary: func(v quantity.Length, _ D, b B, j J) { said(v, 0, b, j) }},
		{name: "as far apart as their maker says", rule: EdgesRule, last: 190, is: ok, then: wrong,
			vary: func(v quantity.Length, _ D, b B, j J) { said(0, v, b, j) }},
		{name: "five diameters apart", rule: EdgesRule, last: 50 - hair, is: wrong, then: wary,
			vary: func(v quantity.Length, _ D, b B, j J) { inConcrete(b, j); rowsApart(b, v) }},
		{name: "1.2 of their depth apart", rule: EdgesRule, last: 66.48 - hair, is: wary, then: ok,
			vary: func(v quantity.Length, _ D, b B, j J) { inConcrete(b, j); rowsApart(b, v) }},
	})
}

// rowsApart puts the plate's rows so far apart; an odd nanometre is above.
func rowsApart(b *catalog.Bracket, v quantity.Length) {
	for i := range b.WallPlate.Holes {
		if h := &b.WallPlate.Holes[i]; h.Row == "top" {
			h.Y = v - v/2
		} else {
			h.Y = -v / 2
		}
	}
}

// TestEdgeBreaksOut: V = 1.7·d^α·l_f^β·√20·c₁^1.5/1.5 (EN 1992-4, memory): for d 10, l_f 60 and c₁ 100, α = 0.1·√0.6 = 0.07746 and
// β = 0.1·0.1^0.2 = 0.0631: 1.7·1.1953·1.2948·4.4721·1000/1.5 = 7,844 N. The nearest edge towards which a load pushes counts, and none
// farther away than ten depths.
func TestEdgeBreaksOut(t *testing.T) {
	if got := EdgeShear(mm(10), mm(60), mm(100)); math.Abs(got-7844) > 5 {
		t.Errorf("%g N", got)
	}
	p := one(t, concrete(400, 500, "rated", nil))
	a := *p.Strength.Assessment
	a.Straight = make([]anchorage.Force, len(p.Points))
	p.Strength.Assessment = &a
	points := p.points()
	for _, c := range []struct {
		load    anchorage.Force
		x, y    int64
		share   float64
		towards string
	}{
		{anchorage.Force{Down: 7844}, 1000, 100, 1, "down"}, {anchorage.Force{Right: 3922}, 3500, 1000, 0.5, "to the right"},
		{anchorage.Force{Right: -3922}, 100, 1000, 0.5, "to the left"}, {anchorage.Force{Right: 3922}, 100, 1000, 0, ""},
		{anchorage.Force{Down: 7844}, 1000, 601, 0, ""}, {anchorage.Force{Down: -7844}, 1000, 100, 0, ""},
		{anchorage.Force{Down: 784.4, Right: 7844}, 3500, 100, 1, "to the right"},
	} {
		a.Straight[1] = c.load
		points[1].X, points[1].Y = mm(c.x), mm(c.y)
		if share, towards := p.edgeShear(points, mm(60), mm(10)); math.Abs(share-c.share) > 0.001 || towards != c.towards {
			t.Errorf("%+v: %g %s", c, share, towards)
		}
	}
}

// TestUnsoundIsNotStrong: of fasteners whose depth, hole or own check fails nobody says how strong they are.
func TestUnsoundIsNotStrong(t *testing.T) {
	for rule, vary := range map[fit.RuleID]change{
		EmbedmentRule: concrete(400, 500, "rated", func(b *catalog.Bracket, _ *catalog.Job) { b.Kit[len(b.Kit)-1].EmbedmentMin = mm(56) }),
		PilotRule:     concrete(400, 500, "rated", func(b *catalog.Bracket, _ *catalog.Job) { drilled(b, catalog.Concrete, mm(11)) }),
		FastenerRule:  on(func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Job) { holesOf(b, mm(7)) }),
	} {
		p := one(t, vary)
		judgedAs(t, rule, &p, rule, wrong)
		judgedAs(t, rule, &p, StrengthRule, open)
	}
	// Blocks of which nobody says what they are: the rating of solid ones holds in solid ones.
	for kind, want := range map[string]fit.Status{"": wary, "solid": ok} {
		p := one(t, on(func(_ *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
			bare(catalog.Block, j)
			j.Wall.BlockKind, j.Wall.Backing = kind, some(200)
			anchored(b, catalog.Block, catalog.FrameFixing, 400, 500, "rated")
		}))
		judgedAs(t, kind, &p, StrengthRule, want)
	}
}

// holesOf makes the plate's holes so wide.
func holesOf(b *catalog.Bracket, v quantity.Length) {
	for i := range b.WallPlate.Holes {
		b.WallPlate.Holes[i].Diameter = v
	}
}

// drilled is a bracket whose table drills so wide.
func drilled(b *catalog.Bracket, wall catalog.WallType, v quantity.Length) {
	said := b.Walls[wall]
	said.Drill, said.Depth = quantity.Some(v), quantity.Optional[quantity.Length]{}
	b.Walls[wall] = said
}

// onSheet hangs a swinging bracket on metal studs of so much sheet, with screws of 5 × 40.
func onSheet(steel quantity.Length, b *catalog.Bracket, j *catalog.Job) {
	b.Kind, b.Reach = "full_motion", some(300)
	j.Wall.Type, j.Wall.Steel = catalog.MetalStud, quantity.Some(steel)
	b.Walls[catalog.MetalStud] = catalog.WallFixing{Drill: some(3), Fasteners: []string{"screw"}}
	b.Kit = append(b.Kit, catalog.Item{Kind: "screw", Diameter: mm(5), Length: mm(40), Count: 8,
		For: []catalog.WallType{catalog.MetalStud}})
}

// plugged is the site's wall of concrete with the kit's plugs, and its lags so long.
func plugged(b *catalog.Bracket, j *catalog.Job, lag quantity.Length) {
	bare(catalog.Concrete, j)
	j.Wall.Backing = some(200)
	for i := range b.Kit {
		if b.Kit[i].Kind == catalog.Lag {
			b.Kit[i].Length = lag
		}
	}
}

// TestLimitsOfClearances: the display is 1095 × 634, its centre at 1650, 1500: from 1102.5 to 2197.5 and from 1183 to 1817; the datum
// is at 1588, the plate 480 × 230, the hooks 96 over the datum.
func TestLimitsOfClearances(t *testing.T) {
	judgeLimits(t, []limit{
		// 1817 and 22 to lift it over its hook.
		{name: "under a ceiling", rule: AboveRule, last: 1839 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, _ D, _ B, j J) { j.Wall.Height = quantity.Some(v) }},
		{name: "under a line", rule: AboveRule, last: 1839 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, _ D, _ B, j J) { j.Place.Line = quantity.Some(v) }},
		{name: "under a niche's top", rule: AboveRule, last: 839 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, _ D, _ B, j J) {
				j.Wall.Niche = &catalog.Niche{X: mm(1650), Width: mm(2000), Bottom: mm(1000), Height: v}
			}},
		// Arms that reach 300 over the hook hang lower, its datum at 1489: they end at 1885, and 22 to lift them.
		{name: "the arms' ends under a ceiling", rule: AboveRule, last: 1907 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, _ D, b B, j J) {
				b.Interface.ArmTop, j.Wall.Height = some(300), quantity.Some(v)
			}},
		{name: "the plate's top under a ceiling", rule: AboveRule, last: 1888 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, _ D, b B, j J) {
				b.WallPlate.Height, j.Wall.Height = some(600), quantity.Some(v)
			}},
		{name: "over a surface", rule: BelowRule, last: 1183, is: ok, then: wrong,
			vary: func(v quantity.Length, _ D, _ B, j J) { j.Place.Surface = quantity.Some(v) }},
		{name: "over what stands on a surface", rule: BelowRule, last: 1123, is: ok, then: wrong,
			vary: func(v quantity.Length, _ D, _ B, j J) {
				j.Place.Surface, j.Place.Accessory = quantity.Some(v), some(60)
			}},
		{name: "over furniture", rule: BelowRule, last: 1183, is: ok, then: wrong, vary: func(v quantity.Length, _ D, _ B, j J) {
			j.Wall.Furniture = []catalog.Furniture{{X: mm(1650), Width: mm(600), Height: v}}
		}},
		// 300 wide and its middle 697.5 from the display's: they touch in plan.
		{name: "furniture beside it", rule: BelowRule, last: 2347.5 - hair, is: wrong, then: ok, vary: func(v quantity.Length, _ D, _ B, j J) {
			j.Wall.Furniture = []catalog.Furniture{{X: v, Width: mm(300), Height: mm(1300)}}
		}},
		// Arms that reach 700 below the hook hang higher, its datum at 1699: they end at 1095.
		{name: "the arms' ends over a surface", rule: BelowRule, last: 1095, is: ok, then: wrong,
			vary: func(v quantity.Length, _ D, b B, j J) {
				b.Interface.ArmBottom, j.Place.Surface = some(700), quantity.Some(v)
			}},
		{name: "the plate's bottom over a surface", rule: BelowRule, last: 1138, is: ok, then: wrong,
			vary: func(v quantity.Length, _ D, b B, j J) {
				b.WallPlate.Height, j.Place.Surface = some(900), quantity.Some(v)
			}},
		{name: "over a niche's bottom", rule: BelowRule, last: 1183, is: ok, then: wrong, vary: func(v quantity.Length, _ D, _ B, j J) {
			j.Wall.Niche = &catalog.Niche{X: mm(1650), Width: mm(2000), Bottom: v, Height: mm(1000)}
		}},
		{name: "a hand below the lock", rule: LockRule, last: 1123, is: ok, then: wary, vary: func(v quantity.Length, _ D, b B, j J) {
			b.Lock, j.Place.Surface = &catalog.Lock{Access: "below"}, quantity.Some(v)
		}},
		{name: "a hand below the lock, over a niche", rule: LockRule, last: 1123, is: ok, then: wary,
			vary: func(v quantity.Length, _ D, b B, j J) {
				b.Lock = &catalog.Lock{Access: "below"}
				j.Wall.Niche = &catalog.Niche{X: mm(1650), Width: mm(2000), Bottom: v, Height: mm(1000)}
			}},
		{name: "a hand at the lock, left", rule: LockRule, last: 607.5 - hair, is: wary, then: ok, vary: func(v quantity.Length, _ D, b B, j J) {
			b.Lock, j.Place.X = &catalog.Lock{Access: "side"}, quantity.Some(v)
		}},
		{name: "a hand at the lock, right", rule: LockRule, last: 2257.5 - hair, is: wary, then: ok,
			vary: func(v quantity.Length, _ D, b B, j J) {
				b.Lock, j.Wall.Width = &catalog.Lock{Access: "side"}, quantity.Some(v)
			}},
		{name: "a hand at the lock, in a niche", rule: LockRule, last: 1215 - hair, is: wary, then: ok,
			vary: func(v quantity.Length, _ D, b B, j J) {
				b.Lock = &catalog.Lock{Access: "side"}
				j.Wall.Niche = &catalog.Niche{X: mm(1650), Width: v, Bottom: mm(1000), Height: mm(1000)}
			}},
		{name: "a hand between displays of a run", rule: LockRule, last: 60 - hair, is: wary, then: ok,
			vary: func(v quantity.Length, _ D, b B, j J) {
				bare(catalog.Concrete, j)
				j.Wall.Width, j.Place.X = some(9000), some(4500)
				b.Lock, j.Run = &catalog.Lock{Access: "side"}, &catalog.Run{Count: 2, Gap: v}
			}},
	})
}

// TestLimitsOfWhatIsRoundIt: the wall's ends, a niche, outlets, people and the plate, about the same display.
func TestLimitsOfWhatIsRoundIt(t *testing.T) {
	judgeLimits(t, []limit{
		{name: "the wall's right end", rule: WallRule, last: 2197.5 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, _ D, _ B, j J) { j.Wall.Width = quantity.Some(v) }},
		{name: "the wall's left end", rule: WallRule, last: 547.5 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, _ D, _ B, j J) { j.Place.X = quantity.Some(v) }},
		{name: "the floor", rule: FloorRule, last: 317 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, _ D, _ B, j J) { j.Place.Center = quantity.Some(v) }},
		{name: "a niche's sides", rule: NicheRule, last: 1095 - 2*hair, is: wrong, then: wrong,
			vary: func(v quantity.Length, _ D, _ B, j J) {
				j.Wall.Niche = &catalog.Niche{X: mm(1650), Width: v, Bottom: mm(1000), Height: mm(1000)}
			}},
		{name: "a niche's sides, just wide enough", rule: NicheRule, last: 1095 - hair, is: wrong, then: ok,
			vary: func(v quantity.Length, _ D, _ B, j J) {
				j.Wall.Niche = &catalog.Niche{X: mm(1650), Width: v, Bottom: mm(1000), Height: mm(1000)}
			}},
		// The hole T1 is drilled at 1430.
		{name: "right of an outlet", rule: ServicesRule, last: 1330, is: ok, then: wary, vary: func(v quantity.Length, _ D, _ B, j J) {
			j.Wall.Outlets = []catalog.Outlet{{X: v, Y: mm(300)}}
		}},
		{name: "level with an outlet", rule: ServicesRule, last: 1393, is: ok, then: wary, vary: func(v quantity.Length, _ D, _ B, j J) {
			j.Wall.Outlets = []catalog.Outlet{{X: mm(3000), Y: v}} // the lower holes are at 1493
		}},
		// The plate is 480 wide, its middle at 1650, and an outlet's box reaches 35 to either side.
		{name: "an outlet under the plate", rule: CablesRule, last: 1375, is: ok, then: wrong, vary: func(v quantity.Length, _ D, b B, j J) {
			b.Profile = some(100)
			j.Wall.Outlets = []catalog.Outlet{{X: v, Y: mm(1588), Kind: "power"}}
		}},
		{name: "an outlet under the plate, from above", rule: CablesRule, last: 1438, is: ok, then: wrong,
			vary: func(v quantity.Length, _ D, b B, j J) {
				b.Profile = some(100)
				j.Wall.Outlets = []catalog.Outlet{{X: mm(1650), Y: v, Kind: "power"}}
			}},
		// The rest plane is as far from the wall as the bracket's profile: a plug stands 45 out.
		{name: "room for a plug in its outlet", rule: CablesRule, last: 45 - hair, is: wary, then: ok,
			vary: func(v quantity.Length, _ D, b B, j J) {
				b.Profile = quantity.Some(v)
				j.Wall.Outlets = []catalog.Outlet{{X: mm(2100), Y: mm(1300), Kind: "power"}}
			}},
		{name: "a switch at the display's edge", rule: CablesRule, last: 2197.5, is: wary, then: ok,
			vary: func(v quantity.Length, _ D, _ B, j J) {
				j.Wall.Outlets = []catalog.Outlet{{X: v, Y: mm(1300), Kind: "switch"}}
			}},
		{name: "a switch at the display's other edge", rule: CablesRule, last: 1102.5 - hair, is: ok, then: wary,
			vary: func(v quantity.Length, _ D, _ B, j J) {
				j.Wall.Outlets = []catalog.Outlet{{X: v, Y: mm(1300), Kind: "switch"}}
			}},
		{name: "a switch at the display's top", rule: CablesRule, last: 1817, is: wary, then: ok, vary: func(v quantity.Length, _ D, _ B, j J) {
			j.Wall.Outlets = []catalog.Outlet{{X: mm(2100), Y: v, Kind: "switch"}}
		}},
		{name: "a switch at the display's bottom", rule: CablesRule, last: 1183 - hair, is: ok, then: wary,
			vary: func(v quantity.Length, _ D, _ B, j J) {
				j.Wall.Outlets = []catalog.Outlet{{X: mm(2100), Y: v, Kind: "switch"}}
			}},
		{name: "people walk under it", rule: HeadroomRule, last: 2030 - hair, is: wary, then: ok, vary: func(v quantity.Length, _ D, b B, j J) {
			b.Lock = &catalog.Lock{Access: "front"}
			j.Place = catalog.Place{Rule: "overhead", Bottom: quantity.Some(v), X: some(1650)}
		}},
		{name: "high enough that people walk under it", rule: TetherRule, last: 2347 - hair, is: ok, then: wary,
			vary: func(v quantity.Length, _ D, _ B, j J) { j.Place.Center = quantity.Some(v) }},
		// Wall to front is 52 + 61.
		{name: "out into a public way", rule: ProjectionRule, last: 39, is: ok, then: wary, vary: func(v quantity.Length, _ D, b B, j J) {
			b.Profile, j.Place.Public = quantity.Some(v), true
		}},
		{name: "where a cane finds it", rule: ProjectionRule, last: 1002, is: ok, then: wary, vary: func(v quantity.Length, _ D, _ B, j J) {
			j.Place.Center, j.Place.Public = quantity.Some(v), true // its bottom at 685
		}},
		{name: "where people walk under it", rule: ProjectionRule, last: 2347 - hair, is: wary, then: ok,
			vary: func(v quantity.Length, _ D, _ B, j J) { j.Place.Center, j.Place.Public = quantity.Some(v), true }},
		// 115 over its middle and 50 more.
		{name: "hooks beside their plate", rule: PlateRule, last: 165, is: ok, then: open, vary: func(v quantity.Length, _ D, b B, _ J) {
			b.WallPlate.HookAboveDatum = v
		}},
		{name: "hooks below their plate", rule: PlateRule, last: -165 - hair, is: open, then: wary, vary: func(v quantity.Length, _ D, b B, _ J) {
			b.WallPlate.HookAboveDatum = v // so far above its hooks the plate shows
		}},
		// Two displays of 1095 side by side, their plates 1107 wide: 12 between the displays.
		{name: "plates of a run side by side", rule: PlateRule, last: 12 - hair, is: wrong, then: wary,
			vary: func(v quantity.Length, _ D, b B, j J) {
				bare(catalog.Concrete, j)
				j.Wall.Width, j.Place.X = some(9000), some(4500)
				b.WallPlate.Width, j.Run = some(1107), &catalog.Run{Count: 2, Gap: v}
			}},
		{name: "a hole outside its plate", rule: PlateRule, last: 190 - hair, is: open, then: ok, vary: func(v quantity.Length, _ D, b B, _ J) {
			b.WallPlate.Height = quantity.Some(v) // holes 95 from its middle
		}},
		{name: "a plate past the ceiling", rule: PlateRule, last: 1703 - hair, is: wrong, then: ok, vary: func(v quantity.Length, _ D, _ B, j J) {
			j.Wall.Height = quantity.Some(v)
		}},
		{name: "a plate that shows", rule: PlateRule, last: 458, is: ok, then: wary, vary: func(v quantity.Length, _ D, b B, _ J) {
			b.WallPlate.Height = quantity.Some(v) // 229 over the datum is the display's top
		}},
	})
}

// TestLimitsOfStudsAndBoards: what a plate in board alone may carry, and what cannot be right about studs.
func TestLimitsOfStudsAndBoards(t *testing.T) {
	light := func(p *catalog.Policy) { p.WallSchool = "toggles_for_light" }
	board := func(b B, j J) {
		bare(catalog.HollowBoard, j)
		j.Wall.Covering, j.Wall.Cavity = quantity.Some(quantity.FromMM(12.5)), some(500)
		anchored(b, catalog.HollowBoard, catalog.Toggle, 50, 50, "rated")
		b.WallPlate.TopPerStud, b.WallPlate.BottomPerStud = 1, 1
	}
	judgeLimits(t, []limit{
		// In micrograms, as lengths are in nanometres: 12,000 mm for 12 kg.
		{name: "toggles for a light display", rule: StudsRule, last: 12_000 - hair, is: wary, then: wrong, policy: light,
			vary: func(v quantity.Length, d D, b B, j J) {
				board(b, j)
				d.Mass, b.Profile = quantity.Some(quantity.Mass(v)), some(52)
			}},
		{name: "toggles on a flat bracket", rule: StudsRule, last: 60 - hair, is: wary, then: wrong, policy: light,
			vary: func(v quantity.Length, d D, b B, j J) {
				board(b, j)
				d.Mass, b.Profile = quantity.Some(8*quantity.Kilogram), quantity.Some(v)
			}},
		{name: "toggles on a bracket with a short reach", rule: StudsRule, last: 60 - hair, is: wary, then: wrong, policy: light,
			vary: func(v quantity.Length, d D, b B, j J) {
				board(b, j)
				d.Mass, b.Reach = quantity.Some(8*quantity.Kilogram), quantity.Some(v)
			}},
		{name: "studs wider than there are", rule: StudsRule, last: 160, is: ok, then: open, vary: func(v quantity.Length, _ D, _ B, j J) {
			j.Wall.Studs.Width = quantity.Some(v)
		}},
		{name: "studs nearer than there are", rule: StudsRule, last: 150 - hair, is: open, then: ok,
			vary: func(v quantity.Length, _ D, b B, j J) {
				j.Wall.Studs.Spacing, b.WallPlate.StudsRequired = quantity.Some(v), 1
			}},
		// With its lower edge under 1500 people pull at a display in a public place, here at anchors that do not hold that.
		{name: "within people's reach", rule: HandlingRule, last: 1817 - hair, is: wary, then: ok,
			vary: func(v quantity.Length, _ D, b B, j J) {
				inConcrete(b, j).Ratings[catalog.BaseMaterial(catalog.Concrete)] = catalog.Rating{Pull: 20 * quantity.Kilogram,
					Shear: 20 * quantity.Kilogram}
				j.Place.Center, j.Place.Public = quantity.Some(v), true
			}},
		// In micrograms, as lengths are in nanometres.
		{name: "what an anchor beside a stud is rated for", rule: StudsRule, last: 45_000 - hair, is: wrong, then: wary,
			policy: func(p *catalog.Policy) { p.WallSchool = "stud_and_anchors" },
			vary: func(v quantity.Length, _ D, b B, j J) {
				j.Wall.Studs = &catalog.Studs{At: []quantity.Length{mm(1650)}, Width: some(38)}
				anchored(b, catalog.HollowBoard, catalog.Toggle, 50, 50, "rated")
				b.Kit[len(b.Kit)-1].Ratings["hollow_board"] = catalog.Rating{Pull: quantity.Mass(v), Shear: 50 * quantity.Kilogram}
				b.Walls[catalog.WoodStud] = catalog.WallFixing{Drill: some(5), Fasteners: []string{"lag", "toggle"}}
			}},
		{name: "holes as far apart as studs stand", rule: StudsRule, last: 300 - hair, is: ok, then: wary,
			vary: func(v quantity.Length, _ D, b B, j J) {
				b.WallPlate.StudsRequired = 0
				for i := range b.WallPlate.Holes {
					h := &b.WallPlate.Holes[i]
					h.Shape, h.X = "round", map[byte]quantity.Length{'1': -mm(150), '2': 0, '3': v - mm(150)}[h.ID[1]]
				}
				j.Wall.Studs = &catalog.Studs{At: []quantity.Length{mm(1650)}, Width: some(45)}
			}},
		{name: "a stud marked twice", rule: StudsRule, last: 60 - hair, is: open, then: ok, vary: func(v quantity.Length, _ D, b B, j J) {
			b.WallPlate.StudsRequired = 1
			j.Wall.Studs = &catalog.Studs{At: []quantity.Length{mm(1650), mm(1650) + v}, Width: some(60)}
		}},
	})
}

// TestToggles: four of them hold a light display in board alone, three do not.
func TestToggles(t *testing.T) {
	for holes, want := range map[int]fit.Status{6: wary, 4: wrong} { // of four holes three are the outermost of their rows
		d, b, job := sitePair()
		bare(catalog.HollowBoard, job)
		job.Wall.Covering, job.Wall.Cavity = quantity.Some(quantity.FromMM(12.5)), some(500)
		anchored(b, catalog.HollowBoard, catalog.Toggle, 50, 50, "rated")
		b.WallPlate.Holes = b.WallPlate.Holes[:holes]
		d.Mass = quantity.Some(8 * quantity.Kilogram)
		policy := catalog.DefaultPolicy()
		policy.WallSchool = "toggles_for_light"
		p := fit.Judge(d, b, 0, fit.Extra{}, policy)
		if c := worst(Place(&p, job), StudsRule); c.Status != want {
			t.Errorf("%d holes: %s", holes, c.Text.In(quantity.Metric))
		}
	}
}

// TestWhatNobodyMeasured: furniture counts as 600 deep, and a lead bends around 32, more or less than that makes a difference.
func TestWhatNobodyMeasured(t *testing.T) {
	swept := func(depth quantity.Optional[quantity.Length]) fit.Measure {
		p := one(t, concrete(400, 500, "rated", func(b *catalog.Bracket, j *catalog.Job) {
			// It stays straight out: its back 40 in front of where furniture of 600 ends, and 150 over it.
			b.Kind, b.Reach, b.Swivel, b.SwivelPivot = "full_motion", some(560), quantity.Some(5*quantity.Degree),
				&catalog.Pivot{BehindArm: some(40)}
			b.ArmSwing = quantity.Some(5 * quantity.Degree)
			j.Wall.OpenLeft, j.Wall.OpenRight = true, true
			j.Wall.Furniture = []catalog.Furniture{{X: mm(2200), Width: mm(300), Height: mm(1400), Depth: depth}}
		}))
		return check(&p, SweptRule).Measure
	}
	unsaid := swept(quantity.Optional[quantity.Length]{})
	if unsaid != swept(some(600)) || unsaid == swept(some(599)) {
		t.Errorf("%+v; at 600 %+v, at 599 %+v", unsaid, swept(some(600)), swept(some(599)))
	}
	lead := func(bend quantity.Optional[quantity.Length]) quantity.Length {
		p := one(t, concrete(400, 500, "rated", func(b *catalog.Bracket, j *catalog.Job) {
			b.Profile = some(100)
			j.Wall.Outlets = []catalog.Outlet{{X: mm(2400), Y: mm(300), Kind: "power"}}
		}))
		p.Pairing.Display.Zones = []catalog.Zone{{Kind: "port", X: mm(300), Width: mm(40), Height: mm(40), Plug: some(30), CableBend: bend}}
		return p.Cables()[0].Needed
	}
	unbent := lead(quantity.Optional[quantity.Length]{})
	if unbent == 0 || unbent != lead(some(32)) || unbent != lead(some(10)) || unbent >= lead(some(33)) {
		t.Errorf("%v, bent by 32 %v, by 33 %v", unbent, lead(some(32)), lead(some(33)))
	}
}

// TestStrengthsLimits: over all that may be asked for straight out fails, over the policy's share is a caution; aside, for a while,
// half as much again is where it fails.
func TestStrengthsLimits(t *testing.T) {
	share := func(s float64) *anchorage.Outcome { return &anchorage.Outcome{Share: s} }
	const caution = 0.8
	for _, c := range []struct {
		square, swung float64
		want          fit.Status
	}{
		{0.8, 0, ok}, {0.800_001, 0, wary}, {1, 0, wary}, {1.000_001, 0, wrong}, {0, 1, ok}, {0, 1.000_001, wary}, {0, 1.5, wary},
		{0, 1.500_001, wrong}, {0.8, 1, ok},
	} {
		if got := strengthStatus(share(c.square), share(c.swung), caution); got != c.want {
			t.Errorf("%g straight out and %g aside: %s, not %s", c.square, c.swung, got, c.want)
		}
	}
	p := one(t, concrete(80, 80, "rated", nil))
	for _, c := range []struct {
		share float64
		aside bool
		want  fit.Status
	}{{1, false, ok}, {1.000_001, false, wrong}, {1, true, ok}, {1.000_001, true, wary}, {1.5, true, wary}, {1.500_001, true, wrong}} {
		a := *p.Strength.Assessment
		a.Bending = anchorage.Outcome{Share: c.share, Pose: anchorage.Pose{Aside: c.aside}}
		if got := p.bends(&a); got.Status != c.want {
			t.Errorf("bending %g, aside %v: %s, not %s", c.share, c.aside, got.Status, c.want)
		}
		a.TypeTest, a.Handling = *share(c.share), *share(c.share)
		if got := p.utilisation(&a.TypeTest, "", fit.Note, quantity.Phrase{}); (got.Status == fit.Note) != (c.share > 1) {
			t.Errorf("a type test of %g: %s", c.share, got.Status)
		}
	}
}

// TestToggleNeedsRoom: a toggle of 60 through 13 of board and what it clamps needs the rest of it behind the board: with so much room it is
// no failure, with a nanometre less it is. Past plate and washer it comes 55.4, less the board of 13.
func TestToggleNeedsRoom(t *testing.T) {
	judgeLimits(t, []limit{{name: "behind the board", rule: DepthRule, last: 42.4 - hair, is: wrong, then: ok,
		vary: func(v quantity.Length, _ D, b B, j J) {
			b.Kind = "fixed"
			bare(catalog.HollowBoard, j)
			j.Wall.Covering, j.Wall.Cavity = some(13), quantity.Some(v)
			anchored(b, catalog.HollowBoard, catalog.Toggle, 50, 50, "rated")
		}}})
}

// TestLoadedEdge: a fastener of 8 mm that the load pushes across the grain, nearer than four diameters to that edge of its stud: of no
// account up to a quarter of what it may hold, a caution from there, and wrong over half.
func TestLoadedEdge(t *testing.T) {
	for _, c := range []struct {
		share float64
		edge  quantity.Length // from the edge that it is pushed to
		want  fit.Status
	}{
		{0.25, mm(10), ok}, {0.250_001, mm(10), wary}, {0.5, mm(10), wary}, {0.500_001, mm(10), wrong},
		{0.9, mm(32), ok}, {0.9, mm(32) - 1, wrong}, {-0.9, mm(32), ok}, {-0.9, mm(32) - 1, wrong}, {-0.3, mm(10), wary},
	} {
		p := one(t, on(func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
			j.Wall.Studs = &catalog.Studs{At: []quantity.Length{mm(1430), mm(1836)}, Width: some(38)} // the first of them too
		}))
		a := *p.Strength.Assessment
		a.Straight = slices.Clone(a.Straight)
		_, holds := a.Capacity.Design(&anchorage.Permanent)
		for i := range a.Straight {
			a.Straight[i].Right = 0
		}
		a.Straight[0].Right = c.share * holds
		p.Strength.Assessment = &a
		p.Studs = slices.Clone(p.Studs)
		stud := &p.Studs[p.Points[0].Stud]
		stud.Width = mm(100)
		p.Points[0].X = stud.X + stud.Width/2 - c.edge
		if c.share < 0 {
			p.Points[0].X = stud.X - stud.Width/2 + c.edge
		}
		got, found := p.loadedEdge()
		if found != (c.want != ok) || found && got.Status != c.want {
			t.Errorf("%+v: %v, %s", c, found, got.Status)
		}
	}
}
