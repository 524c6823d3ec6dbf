package place

import (
	"slices"

	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// rule is a rule of a place on a wall. What it finds has the rule's name when it has been judged.
type rule = fit.Rule[func(*Placement) []fit.Check]

// Rules are the rules of a place on a wall, beside those of the pairing, in the order in which they are judged.
var Rules = []rule{placeRule, studsRule, anchorsRule, coveringRule, fastenerRule, depthRule, pilotRule, headRule, embedmentRule, edgesRule,
	strengthRule, bendingRule, typeTestRule, handlingRule, vehicleRule, plateRule, aboveRule, belowRule, lockRule, wallRule, floorRule,
	nicheRule, sweptRule, servicesRule, cablesRule, tetherRule, headroomRule, projectionRule}

// Registry is what is said of every rule: those of a pairing, then those of its place on a wall.
func Registry() (out []fit.About) {
	for i := range fit.Rules {
		out = append(out, fit.Rules[i].About)
	}
	for i := range Rules {
		out = append(out, Rules[i].About)
	}
	return out
}

// about is what is said of a rule by its name; the zero About of none.
func about(id fit.RuleID) fit.About {
	for i := range Rules {
		if Rules[i].ID == id {
			return Rules[i].About
		}
	}
	return fit.About{}
}

// blocks reports whether a check keeps a display from being hung: every fail, and every unknown of what holds it, or of whether it
// can be put there.
func blocks(c *fit.Check) bool {
	return c.Status == fit.Fail || c.Status == fit.Unknown && about(c.Rule).Blocks
}

// Blocked are the checks that keep a placement from being installed. With those of the pairing
// (see [fit.Pairing.Blocked]) they are all that is against it.
func (p *Placement) Blocked() (out []fit.Check) {
	for i := range p.Checks {
		if blocks(&p.Checks[i]) {
			out = append(out, p.Checks[i])
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
			if !slices.ContainsFunc(out, func(o fit.Check) bool { return o.Rule == c.Rule && o.Text.Same(c.Text) }) {
				out = append(out, c)
			}
		}
	}
	return out
}

// measured is a check of a length on a wall, inches as on a wall; a wrong one
// fails.
func measured(m fit.Measure, good, bad, remedy quantity.Phrase, marks ...string) fit.Check {
	c := fit.Check{Finding: fit.Finding{Measure: m}, Text: good, Marks: marks}
	c.Measure.Coarse = true
	if m.Margin < 0 {
		c.Status, c.Text, c.Remedy = fit.Fail, bad, remedy
	}
	return c
}

// stated is a check without a figure.
func stated(status fit.Status, text, remedy quantity.Phrase, marks ...string) fit.Check {
	return fit.Check{Finding: fit.Finding{Status: status}, Text: text, Remedy: remedy, Marks: marks}
}

// PlaceRule: there is something to hang, and the height's rule has its figures. Without that nothing else is judged.
const PlaceRule fit.RuleID = "place"

var placeRule = rule{About: fit.About{ID: PlaceRule, Name: "Place", Blocks: true, Step: "offsets"},
	Judge: func(*Placement) []fit.Check { return nil }}

// unplaced is the check of a display that cannot be placed.
func unplaced(text, remedy quantity.Phrase) fit.Check {
	c := stated(fit.Unknown, text, remedy)
	c.Rule = PlaceRule
	return c
}
