package place

import (
	"testing"

	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// The worst of pairing and wall counts, whichever of them it is.
func TestVerdictIsTheWorst(t *testing.T) {
	check := func(rule fit.RuleID, s fit.Status) fit.Check {
		return fit.Check{Finding: fit.Finding{Rule: rule, Status: s}, Text: quantity.Say("of the wall")}
	}
	for _, test := range []struct {
		of   fit.Verdict
		wall []fit.Check
		want fit.Verdict
	}{
		{fit.Fits, nil, fit.Fits},
		{fit.Fits, []fit.Check{check("studs", fit.Pass), check("strength", fit.Note)}, fit.Fits},
		{fit.Fits, []fit.Check{check("studs", fit.Pass), check("cables", fit.Caution)}, fit.FitsWithConditions},
		{fit.Fits, []fit.Check{check("strength", fit.Unknown)}, fit.MissingData},
		{fit.Fits, []fit.Check{check("services", fit.Unknown)}, fit.FitsWithConditions}, // nothing hangs on it
		{fit.Fits, []fit.Check{check("services", fit.Fail), check("cables", fit.Caution)}, fit.DoesNotFit},
		{fit.FitsWithConditions, []fit.Check{check("studs", fit.Pass)}, fit.FitsWithConditions},
		{fit.FitsWithConditions, []fit.Check{check("strength", fit.Unknown)}, fit.MissingData},
		{fit.MissingData, []fit.Check{check("cables", fit.Caution)}, fit.MissingData},
		{fit.MissingData, []fit.Check{check("studs", fit.Fail)}, fit.DoesNotFit},
		{fit.DoesNotFit, []fit.Check{check("strength", fit.Unknown)}, fit.DoesNotFit},
	} {
		p := &fit.Pairing{Verdict: test.of, Findings: make([]fit.Finding, len(fit.Rules))}
		places := []Placement{{}, {Checks: test.wall}} // of a run the second counts as well
		if got := Verdict(p, places); got != test.want {
			t.Errorf("%s with %v is %s, want %s", test.of, test.wall, got, test.want)
		}
		decides, ofWall := Deciding(p, places)
		if ofWall != (test.want != test.of) {
			t.Errorf("%s with %v: the wall decides: %v", test.of, test.wall, ofWall)
		}
		if ofWall && ofCheck(&decides) != test.want {
			t.Errorf("%s with %v is decided by %v", test.of, test.wall, decides)
		}
	}
}
