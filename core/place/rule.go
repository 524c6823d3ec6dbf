package place

import (
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// The rules of a place on a wall, beside those of the pairing.
const (
	PlaceRule      fit.Rule = "place"
	StudsRule      fit.Rule = "studs"
	AnchorsRule    fit.Rule = "anchors"
	CoveringRule   fit.Rule = "covering"
	FastenerRule   fit.Rule = "fastener"
	DepthRule      fit.Rule = "depth"
	PilotRule      fit.Rule = "pilot"
	EmbedmentRule  fit.Rule = "embedment"
	EdgesRule      fit.Rule = "edges"
	StrengthRule   fit.Rule = "strength"
	BendingRule    fit.Rule = "bending"
	TypeTestRule   fit.Rule = "type_test"
	HandlingRule   fit.Rule = "handling"
	HeadRule       fit.Rule = "head"
	SweptRule      fit.Rule = "swept"
	VehicleRule    fit.Rule = "vehicle"
	PlateRule      fit.Rule = "plate"
	AboveRule      fit.Rule = "above"
	BelowRule      fit.Rule = "below"
	LockRule       fit.Rule = "lock"
	WallRule       fit.Rule = "wall"
	FloorRule      fit.Rule = "floor"
	NicheRule      fit.Rule = "niche"
	ServicesRule   fit.Rule = "services"
	TetherRule     fit.Rule = "tether"
	HeadroomRule   fit.Rule = "headroom"
	ProjectionRule fit.Rule = "projection"
)

// RuleNames are the names that people read.
var RuleNames = map[fit.Rule]string{
	PlaceRule: "Place", StudsRule: "Studs", AnchorsRule: "Anchors", CoveringRule: "Covering", FastenerRule: "Fastener",
	DepthRule: "Hole depth", HeadRule: "Head on the plate", SweptRule: "Swept room", PilotRule: "Pilot hole",
	EmbedmentRule: "Embedment", EdgesRule: "Edges, spacing", StrengthRule: "Strength",
	BendingRule: "Stand-off bending", TypeTestRule: "Type test", HandlingRule: "People lean on it", VehicleRule: "Vehicle",
	PlateRule: "Wall plate", AboveRule: "Above it", BelowRule: "Below it", LockRule: "Room at the lock", WallRule: "Wall’s ends",
	FloorRule: "Floor", NicheRule: "Niche", ServicesRule: "Hidden services", CablesRule: "Cables", TetherRule: "Tether",
	HeadroomRule: "Headroom", ProjectionRule: "Public walkway",
}

// Rules lists them in the order they are judged.
var Rules = []fit.Rule{PlaceRule, StudsRule, AnchorsRule, CoveringRule, FastenerRule, DepthRule, PilotRule, HeadRule, EmbedmentRule,
	EdgesRule,
	StrengthRule, BendingRule, TypeTestRule, HandlingRule, VehicleRule, PlateRule, AboveRule, BelowRule, LockRule, WallRule, FloorRule,
	NicheRule, SweptRule, ServicesRule, CablesRule, TetherRule, HeadroomRule, ProjectionRule}

// blocking are the rules whose unknown keeps a display from being hung: what
// holds it, and whether it can be put there. Every fail does.
func blocking(r fit.Rule) bool {
	switch r {
	case PlaceRule, StudsRule, CoveringRule, FastenerRule, DepthRule, PilotRule, HeadRule, EmbedmentRule, StrengthRule, PlateRule,
		VehicleRule, AboveRule,
		BelowRule:
		return true
	}
	return false
}

// Blocked are the checks that keep a placement from being installed: every
// fail, and every unknown that what holds it hangs on. With those of the pairing
// (see [fit.Pairing.Blocked]) they are all that is against it.
func (p *Placement) Blocked() []fit.Check {
	var out []fit.Check
	for _, c := range p.Checks {
		if c.Status == fit.Fail || c.Status == fit.Unknown && blocking(c.Rule) {
			out = append(out, c)
		}
	}
	return out
}

// Blocking is everything that keeps a pairing, at the places of a job, from being
// installed: each reason once. Empty: nothing does.
func Blocking(p *fit.Pairing, all []Placement) []fit.Check {
	out := p.Blocked()
	for i := range all {
		for _, c := range all[i].Blocked() {
			same := false
			for n := range out {
				same = same || out[n].Rule == c.Rule && out[n].Text.In(quantity.Metric) == c.Text.In(quantity.Metric)
			}
			if !same {
				out = append(out, c)
			}
		}
	}
	return out
}
