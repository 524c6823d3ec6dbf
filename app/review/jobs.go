package review

import (
	"cmp"
	"context"
	"encoding/json"
	"slices"
	"strconv"
	"strings"

	"nexufix/app/bench"
	"nexufix/core/catalog"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/workers"
	"nexufix/exchange"
	"nexufix/store"
)

// JobLine is a job, or a saved pairing, on the list of jobs: what people call it, how it stands, and what leads on.
type JobLine struct {
	Kind      string `json:"kind" required:"true" enum:"job,pairing"`
	ID        string `json:"id" required:"true"`
	Name      string `json:"name" required:"true"` // its title, or else its id
	Location  string `json:"location,omitempty"`
	Reference string `json:"reference,omitempty"` // the customer's
	Display   string `json:"display" required:"true"`
	Bracket   string `json:"bracket" required:"true"`
	Title     string `json:"title" required:"true"` // of the pairing
	Wall      string `json:"wall" required:"true"`
	Prints    int    `json:"prints" required:"true"`
	// Of a pairing as it was saved; absent of a job that is not judged yet: ask again.
	Verdict  string `json:"verdict,omitempty" enum:"fits,fits_with_conditions,missing_data,does_not_fit"`
	State    string `json:"state" required:"true" enum:"none,draft,in_review,approved,superseded,withdrawn"` // of its last approval
	Stale    bool   `json:"stale" required:"true"`                                                           // what was approved is in doubt
	Approval int64  `json:"approval,omitempty"`
	Who      string `json:"who,omitempty"` // changed it last
	At       string `json:"at,omitempty"`
}

// Wanted is which jobs, and in which order.
type Wanted struct {
	Q       string // words of its names
	Kind    string
	State   string
	Verdict string
	Sort    string // changed, name, verdict, state; by default by name
}

// Verdicts are those of the jobs, kept as long as nothing that they stand on changes. One request judges at a time: the next finds them.
type Verdicts struct {
	turn   chan struct{} // who waits for it may leave
	policy string
	of     map[judgedOf]string // never changed: another one is put in its place
}

// NewVerdicts returns none.
func NewVerdicts() *Verdicts { return &Verdicts{turn: make(chan struct{}, 1)} }

type judgedOf struct {
	job     *catalog.Job
	display *catalog.Display
	bracket *catalog.Bracket
}

// mostJudged is how many jobs one request judges. Whoever asks again has the next.
const mostJudged = 400

// judge judges the jobs that are not judged yet, the first of them.
func (v *Verdicts) judge(ctx context.Context, all *exchange.Contents) (map[judgedOf]string, error) {
	policy := all.PolicyOrDefault()
	raw, err := json.Marshal(policy)
	if err != nil {
		return nil, err
	}
	select {
	case v.turn <- struct{}{}:
		defer func() { <-v.turn }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	was := v.of
	if v.policy != string(raw) {
		was = nil
	}
	now, wanting := map[judgedOf]string{}, []judgedOf{}
	for _, j := range all.Jobs {
		k := judgedOf{j, all.Display(j.Display), all.Bracket(j.Bracket)}
		switch verdict, known := was[k]; {
		case known:
			now[k] = verdict
		case k.display == nil || k.bracket == nil:
			now[k] = "missing_data"
		case len(wanting) < mostJudged:
			wanting = append(wanting, k)
		}
	}
	verdicts := make([]string, len(wanting))
	workers.Each(len(wanting), func(n int) {
		if k := wanting[n]; ctx.Err() == nil {
			w := bench.OpenDocuments(ctx, bench.Documents{Display: k.display, Bracket: k.bracket, Policy: policy, Job: k.job})
			p := w.Judge()
			verdicts[n] = string(place.Verdict(&p, w.Placed(&p)))
		}
	})
	for n, k := range wanting {
		if verdicts[n] != "" {
			now[k] = verdicts[n]
		}
	}
	v.policy, v.of = string(raw), now // of one who has left, too: the next goes on from there
	return now, ctx.Err()
}

// Jobs lists jobs and saved pairings, those that are wanted.
func (v *Verdicts) Jobs(ctx context.Context, st *store.Store, wanted Wanted, to quantity.Reader) ([]JobLine, error) {
	all, err := st.Catalogue(ctx)
	if err != nil {
		return nil, err
	}
	verdicts, err := v.judge(ctx, all)
	if err != nil {
		return nil, err
	}
	out, err := jobsOf(ctx, st, all, verdicts, to)
	if err != nil {
		return nil, err
	}
	saved, err := st.Pairings(ctx)
	if err != nil {
		return nil, err
	}
	for i := range saved {
		p := &saved[i]
		out = append(out, JobLine{Kind: "pairing", ID: strconv.FormatInt(p.ID, 10), Name: p.Title, Display: p.Display, Bracket: p.Bracket,
			Title: p.Title, Verdict: p.Verdict, State: "none", At: p.SavedAt})
	}
	words := strings.Fields(strings.ToLower(wanted.Q))
	out = slices.DeleteFunc(out, func(l JobLine) bool { return !l.meets(&wanted, words) })
	slices.SortStableFunc(out, func(a, b JobLine) int { return a.compare(&b, wanted.Sort) })
	return out, nil
}

// jobsOf are the lines of the catalogue's jobs.
func jobsOf(ctx context.Context, st *store.Store, all *exchange.Contents, verdicts map[judgedOf]string,
	to quantity.Reader) ([]JobLine, error) {
	changed, err := st.LastChanges(ctx, "job")
	if err != nil {
		return nil, err
	}
	subjects := make([]string, len(all.Jobs))
	for i, j := range all.Jobs {
		subjects[i] = (&source{Subject: Subject{Job: j.ID}}).key()
	}
	approvals, err := st.LatestApprovals(ctx, subjects)
	if err != nil {
		return nil, err
	}
	out := []JobLine{}
	for i, j := range all.Jobs {
		d, b := all.Display(j.Display), all.Bracket(j.Bracket)
		line := JobLine{Kind: "job", ID: j.ID, Name: j.Name(), Location: j.Location, Reference: j.Reference,
			Display: j.Display, Bracket: j.Bracket,
			Title: to.Say(quantity.Say("%v on %v", quantity.Name(j.Display), quantity.Name(j.Bracket))), Wall: to.Language.Words(j.Wall.Type.Name()),
			Prints: len(j.Prints), Verdict: verdicts[judgedOf{j, d, b}], State: "none", Who: changed[j.ID].Who, At: changed[j.ID].At}
		if d != nil && b != nil {
			line.Title = to.Say(quantity.Say("%v on %v", quantity.Name(d.Name()), quantity.Name(b.Name)))
		}
		if a, is := approvals[subjects[i]]; is {
			line.State, line.Approval, line.Stale = string(a.State), a.ID, a.State == "approved" && a.Stale+a.Restored != ""
		}
		out = append(out, line)
	}
	return out, nil
}

func (l *JobLine) meets(w *Wanted, words []string) bool {
	if w.Kind != "" && l.Kind != w.Kind || w.State != "" && l.State != w.State || w.Verdict != "" && l.Verdict != w.Verdict {
		return false
	}
	names := strings.ToLower(strings.Join([]string{l.ID, l.Name, l.Location, l.Reference, l.Title, l.Display, l.Bracket, l.Wall, l.Who}, " "))
	return !slices.ContainsFunc(words, func(word string) bool { return !strings.Contains(names, word) })
}

var (
	worstFirst = []string{"does_not_fit", "missing_data", "fits_with_conditions", "fits", ""}
	openFirst  = []string{"in_review", "draft", "none", "approved", "superseded", "withdrawn"}
)

// open is how far a job is from being done with: what is in doubt is decided first.
func (l *JobLine) open() int {
	if l.Stale {
		return -1
	}
	return slices.Index(openFirst, l.State)
}

// compare orders two lines; those alike by their names.
func (l *JobLine) compare(o *JobLine, by string) int {
	order := 0
	switch by {
	case "changed":
		order = strings.Compare(o.At, l.At)
	case "verdict":
		order = slices.Index(worstFirst, l.Verdict) - slices.Index(worstFirst, o.Verdict)
	case "state":
		order = cmp.Or(l.open()-o.open(), strings.Compare(o.At, l.At))
	}
	return cmp.Or(order, strings.Compare(strings.ToLower(l.Name), strings.ToLower(o.Name)), strings.Compare(l.ID, o.ID))
}
