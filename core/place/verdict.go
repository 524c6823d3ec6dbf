package place

import (
	"slices"

	"nexufix/core/fit"
)

// Verdict is the one answer about a pairing at its places on a wall, if it has any: the worst of all of them, by the rule of
// [fit.Pairing.Verdict].
func Verdict(p *fit.Pairing, all []Placement) fit.Verdict {
	v := p.Verdict
	for i := range all {
		for n := range all[i].Checks {
			v = worse(v, ofCheck(&all[i].Checks[n]))
		}
	}
	return v
}

// ofCheck is the best verdict that a check on a wall leaves.
func ofCheck(c *fit.Check) fit.Verdict {
	switch {
	case c.Status == fit.Fail:
		return fit.DoesNotFit
	case blocks(c):
		return fit.MissingData
	case c.Status > fit.Note:
		return fit.FitsWithConditions
	}
	return fit.Fits
}

func worse(a, b fit.Verdict) fit.Verdict {
	if slices.Index(fit.Verdicts, b) > slices.Index(fit.Verdicts, a) {
		return b
	}
	return a
}

// Deciding is the check that decides the verdict: of the pairing, or where its places are worse, of the wall. The zero Check where
// everything passes.
func Deciding(p *fit.Pairing, all []Placement) (c fit.Check, ofWall bool) {
	if v := Verdict(p, all); v != p.Verdict {
		for i := range all {
			for n := range all[i].Checks {
				if ofCheck(&all[i].Checks[n]) == v {
					return all[i].Checks[n], true
				}
			}
		}
	}
	if p.Verdict == fit.Fits {
		return fit.Check{}, false
	}
	return p.Check(p.Cell().Rule()), false
}
