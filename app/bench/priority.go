package bench

import (
	"cmp"
	"context"
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/stack"
	"nexufix/core/workers"
	"nexufix/exchange"
)

// MeasurementPriority is a display that should be measured: it fits no bracket because a figure is missing, or a job
// depends on a caller's figures.
type MeasurementPriority struct {
	Display  string   `json:"display" required:"true"`
	Name     string   `json:"name" required:"true"`
	Missing  []string `json:"missing" required:"true"`  // missing figures, and how to find them
	Brackets int      `json:"brackets" required:"true"` // that it might fit
	Told     []string `json:"told" required:"true"`     // names of the caller's figures
	Jobs     []string `json:"jobs" required:"true"`     // that need it, or depend on it
}

// maxWorth is how many are listed, and maxPairs how many pairings are judged for it.
const (
	maxWorth = 20
	maxPairs = 50_000
)

// MeasurementPriorities lists them, those that most jobs need first. Of a large catalogue, only displays with a job
// and as many of the
// others as [maxPairs] allows are judged.
func MeasurementPriorities(ctx context.Context, all *exchange.Contents, to quantity.Reader) ([]MeasurementPriority, error) {
	jobs := map[string][]*catalog.Job{}
	for _, j := range all.Jobs {
		jobs[j.Display] = append(jobs[j.Display], j)
	}
	displays := slices.Clone(all.Displays)
	slices.SortStableFunc(displays, func(a, b *catalog.Display) int { return cmp.Compare(len(jobs[b.ID]), len(jobs[a.ID])) })
	displays = displays[:min(len(displays), maxPairs/max(1, len(all.Brackets)))]
	found := make([]*MeasurementPriority, len(displays))
	policy := all.PolicyOrDefault()
	workers.Each(len(displays), func(n int) {
		if ctx.Err() == nil {
			found[n] = priorityOf(ctx, displays[n], all, policy, jobs[displays[n].ID], to)
		}
	})
	if ctx.Err() != nil {
		return nil, ctx.Err()
	}
	out := []MeasurementPriority{}
	for _, w := range found {
		if w != nil {
			out = append(out, *w)
		}
	}
	slices.SortStableFunc(out, func(a, b MeasurementPriority) int {
		return cmp.Or(cmp.Compare(len(b.Jobs), len(a.Jobs)), cmp.Compare(b.Brackets, a.Brackets))
	})
	return out[:min(len(out), maxWorth)], nil
}

// priorityOf judges a display on all brackets; nil: it need not be measured.
func priorityOf(ctx context.Context, d *catalog.Display, all *exchange.Contents, policy catalog.Policy,
	jobs []*catalog.Job, to quantity.Reader) *MeasurementPriority {
	w := &MeasurementPriority{Display: d.ID, Name: d.Name(), Missing: []string{}, Told: []string{}, Jobs: []string{}}
	fits, work := false, NewWork(ctx)
	for _, b := range all.Brackets {
		p := fit.Judge(d, b, 0, fit.Extra{Work: work}, policy)
		if fits = p.Verdict == fit.Fits || p.Verdict == fit.FitsWithConditions; fits {
			break
		}
		if p.Verdict != fit.MissingData {
			continue
		}
		w.Brackets++
		var missing []string
		for _, c := range p.Words() {
			if c.Status == fit.Unknown && !c.Remedy.Empty() {
				missing = append(missing, to.Say(c.Text)+" "+to.Say(c.Remedy))
			}
		}
		if len(missing) > 0 && (len(w.Missing) == 0 || len(missing) < len(w.Missing)) {
			w.Missing = missing
		}
	}
	if fits {
		w.Missing, w.Brackets = []string{}, 0
	}
	for _, j := range jobs {
		told := toldIn(d, all.Bracket(j.Bracket), j, policy, work)
		if len(told) > 0 || w.Brackets > 0 {
			w.Jobs = append(w.Jobs, j.ID)
		}
		for _, name := range told {
			if !slices.Contains(w.Told, name) {
				w.Told = append(w.Told, name)
			}
		}
	}
	if len(w.Missing) == 0 && len(w.Told) == 0 {
		return nil
	}
	slices.Sort(w.Jobs)
	return w
}

// toldIn returns the caller's figures that a job's pairing depends on.
func toldIn(d *catalog.Display, b *catalog.Bracket, j *catalog.Job, policy catalog.Policy, work *stack.Work) (out []string) {
	if b == nil {
		return nil
	}
	extra := fit.ExtraOf(j)
	extra.Work = work
	p := fit.Judge(d, b, j.Turn, extra, policy)
	for i := range p.Findings {
		for _, s := range p.Sources(p.Findings[i].Rule) {
			if s.Origin == catalog.Caller && !slices.Contains(out, s.Figure) {
				out = append(out, s.Figure)
			}
		}
	}
	return out
}
