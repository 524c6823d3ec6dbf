package place

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// StandsOn says what a pairing stands on though nobody has said it, and how far each may be off before the answer changes: that of the
// pairing (see [fit.Pairing.Assumed]), and of its places on a wall, if it has any.
func StandsOn(p *fit.Pairing, all []Placement) (out []quantity.Phrase) {
	for _, a := range p.Assumed() {
		if len(all) > 0 && all[0].Known {
			a = Narrowed(p, all, a)
		}
		out = append(out, a.Text)
	}
	return out
}

// Narrowed returns how far an assumption of a pairing holds at its places on a wall.
func Narrowed(p *fit.Pairing, all []Placement, a fit.Assumed) fit.Assumed {
	var change func(d *catalog.Display, job *catalog.Job, to int64)
	var step int64
	switch a.Path {
	case fit.AccessoriesPath:
		step, change = fit.MassStep, func(_ *catalog.Display, job *catalog.Job, to int64) { job.Accessories = quantity.Mass(to) }
	case fit.AsidePath(p.Turn):
		step, change = fit.AsideStep, func(d *catalog.Display, _ *catalog.Job, to int64) { fit.SetAside(d, p.Turn, quantity.Length(to)) }
	default:
		return a // of the bracket alone
	}
	sides := []int64{1}
	if a.Path == fit.AsidePath(p.Turn) {
		sides = []int64{1, -1}
	}
	was := worstOf(all)
	return a.UpTo(fit.Margin(a.Holds, step, func(to int64) bool {
		return !slices.ContainsFunc(sides, func(side int64) bool {
			d, job := *p.Display, *all[0].Job
			change(&d, &job, side*to)
			extra := p.Extra
			extra.Accessories, extra.Work = job.Accessories, nil
			again := fit.Judge(&d, p.Bracket, p.Turn, extra, *p.Policy)
			now := worstOf(placeAll(&again, &job))
			for rule, status := range now {
				if status > max(was[rule], fit.Note) {
					return true
				}
			}
			return false
		})
	}))
}

// worstOf returns the worst of every rule over the displays of a job.
func worstOf(all []Placement) map[fit.RuleID]fit.Status {
	out := map[fit.RuleID]fit.Status{}
	for i := range all {
		for _, c := range all[i].Checks {
			out[c.Rule] = max(out[c.Rule], c.Status)
		}
	}
	return out
}
