package stack

import (
	"math/rand/v2"
	"testing"

	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

// The oracle of this file knows no formula of the stack. It puts solids of
// revolution on the bolt's axis one after the other, lets each fall onto what
// is there until something holds it, and then measures where the tip is.

// solid is a ring, or a disc when inner is 0, from z0 to z1 along the axis.
// The display lies at negative z.
type solid struct {
	z0, z1       quantity.Length
	inner, outer quantity.Length // diameters
}

func (a solid) overlaps(b solid) bool {
	return a.z0 < b.z1 && b.z0 < a.z1 && a.inner < b.outer && b.inner < a.outer
}

// held reports whether two solids face each other across the axis at all.
func (a solid) held(b solid) bool { return a.inner < b.outer && b.inner < a.outer }

// fall puts a ring of a length on the pile: as low as it goes.
func fall(pile []solid, length, inner, outer quantity.Length) solid {
	rest := -mm(1000)
	ring := solid{inner: inner, outer: outer}
	for _, s := range pile {
		if ring.held(s) {
			rest = max(rest, s.z1)
		}
	}
	ring.z0, ring.z1 = rest, rest+length
	return ring
}

const wide = 200 * quantity.Millimetre

// hole is a display's back around one hole: the rim, the insert's face with
// its thread, and what a bolt bottoms on.
func holeSolids(b, r, cup, depth, bore quantity.Length) []solid {
	face := -b - r
	return []solid{
		{face - depth - mm(3), face - depth, 0, wide}, // bottom of the hole
		{face - depth, face, bore, wide},              // insert
		{face, -b, cup, wide},                         // wall of the cup, and the rim
	}
}

type erected struct {
	plane, tip, insertFace, bottom quantity.Length
}

// erect builds a hole stack with every size changed by its error.
func erect(t *testing.T, p Problem, g Group, h HoleStack, err func(what string) quantity.Length) erected {
	t.Helper()
	bore := p.Thread.Standard().Nominal
	cup := g.RecessDiameter.Or(bore) // not known: taken to stand on the rim
	if g.Recess == 0 {
		cup = bore
	}
	b := g.Setback
	r := g.Recess + err("recess")
	depth := g.ThreadDepth + err("depth")
	pile := holeSolids(b, r, cup, depth, bore)
	put := func(length, inner, outer quantity.Length) solid {
		ring := fall(pile, length, inner, outer)
		for _, s := range pile {
			if ring.overlaps(s) {
				t.Fatalf("%+v is inside %+v", ring, s)
			}
		}
		pile = append(pile, ring)
		return ring
	}
	for _, s := range h.Spacers {
		put(s.Length+err("spacer"), bore, s.Outer)
	}
	plate := put(p.PlateThickness+err("plate"), p.Slot, wide)
	if len(h.Spacers) > 0 && plate.z0 != pile[len(pile)-2].z1 {
		t.Fatal("the plate does not rest on the spacer")
	}
	if h.Shoulder > 0 {
		put(h.Shoulder+err("shoulder"), bore, wide/2)
	}
	for range h.Washers.Count {
		put(h.Washers.Thickness+err("washer"), bore, h.Washers.Outer)
	}
	head := put(mm(5), 0, bore+mm(4))
	shank := solid{head.z0 - (h.Bolt + err("bolt")), head.z0, 0, bore}
	for _, s := range pile[1 : len(pile)-1] { // all but the hole's bottom and the head
		if shank.overlaps(s) {
			t.Fatalf("the shank is inside %+v", s)
		}
	}
	return erected{plate.z0, shank.z0, -b - r, -b - r - depth}
}

func nominal(string) quantity.Length { return 0 }

func TestStacksStandAsSolids(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	checked := 0
	for range lots.Times(6000) {
		p := randomProblem(r)
		best := Solve(p).Best
		if best == nil {
			continue
		}
		checked++
		for i, h := range best.Groups {
			g := p.Groups[i]
			e := erect(t, p, g, h, nominal)
			if e.plane != h.Plane || e.tip != e.insertFace-h.Engagement || e.tip-e.bottom != h.Clearance {
				t.Fatalf("solids %+v, computed %+v", e, h)
			}
			if e.plane < 0 {
				t.Fatalf("the plate is inside the display: %+v", h)
			}
			worst := worstCases(p, g, h)
			deep := erect(t, p, g, h, worst.deepest)
			if deep.tip-deep.bottom != h.ClearanceWorst {
				t.Fatalf("solids at their worst leave %v, computed %v: %+v", deep.tip-deep.bottom, h.ClearanceWorst, h)
			}
			short := erect(t, p, g, h, worst.shortest)
			if short.insertFace-short.tip != h.EngagementWorst {
				t.Fatalf("solids at their worst hold %v, computed %v: %+v", short.insertFace-short.tip, h.EngagementWorst, h)
			}
			if h.Status == OK && (deep.tip < deep.bottom || short.plane < 0) {
				t.Fatalf("called ok, but the worst solids touch: %+v", h)
			}
		}
	}
	if checked < lots.Times(1500) {
		t.Errorf("only %d stacks were checked", checked)
	}
}

type worstCase struct{ deepest, shortest func(string) quantity.Length }

// worstCases are the errors that bring the tip deepest, and shallowest.
func worstCases(p Problem, g Group, h HoleStack) worstCase {
	std := p.Thread.Standard()
	size := map[string]quantity.Length{
		"bolt": boltTolerance(h.Bolt), "plate": mm(0.2), "spacer": mm(0.2), "shoulder": mm(0.1),
		"washer": std.Washer.Tolerance, "recess": g.RecessTolerance, "depth": g.DepthTolerance,
	}
	if h.Washers.Thickness == std.LargeWasher.Thickness && h.Washers.Thickness != std.Washer.Thickness {
		size["washer"] = std.LargeWasher.Tolerance
	}
	if h.Bearing == Insert {
		size["recess"] = 0 // the tip does not depend on it
	}
	return worstCase{
		deepest: func(what string) quantity.Length {
			if what == "bolt" {
				return size[what]
			}
			return -size[what]
		},
		shortest: func(what string) quantity.Length {
			switch what {
			case "bolt":
				return -size[what]
			case "depth":
				return 0
			}
			return size[what]
		},
	}
}

// boltTolerance is js15 by the table of ISO 286-1 for the lengths in use
// (memory), written here a second time.
func boltTolerance(l quantity.Length) quantity.Length {
	for _, step := range []struct{ to, tol float64 }{{6, 0.24}, {10, 0.29}, {18, 0.35}, {30, 0.42}, {50, 0.5}, {80, 0.6}} {
		if l <= mm(step.to) {
			return mm(step.tol)
		}
	}
	return mm(0.7)
}
