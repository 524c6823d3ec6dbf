package review

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"nexufix/app/bench"
	"nexufix/core/approval"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/steps"
	"nexufix/exchange"
	"nexufix/store"
	"slices"
	"strconv"
	"strings"
	"sync"
)

// Subject is what is approved: a saved job, or a display on a bracket for any wall of a kind.
type Subject struct {
	Job         string           `json:"job,omitempty" maxLength:"80"`
	Display     string           `json:"display,omitempty" maxLength:"80"`
	Bracket     string           `json:"bracket,omitempty" maxLength:"80"`
	Turn        int              `json:"turn_deg,omitempty" enum:"0,90,270"`
	Wall        catalog.WallType `json:"wall,omitempty"`
	Accessories exchange.OptKG   `json:"accessories_kg,omitzero" minimum:"0" maximum:"1000"`
	TopHoles    exchange.OptMM   `json:"top_holes_mm,omitzero" minimum:"-2000" maximum:"3000"` // the arms' position
}

// key tells subjects apart.
func (s Subject) key() string {
	raw, err := json.Marshal(s)
	if err != nil {
		return "" // it always can be written
	}
	return string(raw)
}

// restsOn are the items of the catalogue that a subject is judged by, besides the policy.
func (s Subject) restsOn(job func(id string) *catalog.Job) []store.Ref {
	display, bracket := s.Display, s.Bracket
	var out []store.Ref
	if s.Job != "" {
		out = append(out, store.Ref{Kind: "job", ID: s.Job})
		j := job(s.Job)
		if j == nil {
			return out
		}
		display, bracket = j.Display, j.Bracket
	}
	return append(out, store.Ref{Kind: "display", ID: display}, store.Ref{Kind: "bracket", ID: bracket})
}

// Frozen is every input of a judgement, as an approval's document stores it.
type Frozen struct {
	Format  string                  `json:"format" required:"true" enum:"nexufix-approval/1"`
	Engine  int                     `json:"engine" required:"true" minimum:"1"`
	Display *catalog.Display        `json:"display" required:"true"`
	Bracket *catalog.Bracket        `json:"bracket" required:"true"`
	Policy  exchange.PolicySettings `json:"policy" required:"true"`
	Subject Subject                 `json:"subject" required:"true"`
	Job     *catalog.Job            `json:"job,omitempty"` // without its ticks and prints
}

// source is a subject with its display, bracket, policy and job.
type source struct {
	Subject
	name    string // of the job, where it is not frozen
	display *catalog.Display
	bracket *catalog.Bracket
	policy  catalog.Policy
	job     *catalog.Job
}

// source finds the inputs of a subject.
func (w *documents) source(all *exchange.Contents, s Subject) (*source, error) {
	if s.Accessories.Value == 0 {
		s.Accessories = exchange.OptKG{} // nothing, said or not: one subject
	}
	f := &source{Subject: s, policy: all.PolicyOrDefault()}
	display, bracket := s.Display, s.Bracket
	if s.Job != "" {
		j := w.job(all, s.Job)
		if j == nil {
			return nil, exchange.Problems{{Path: "job", Found: strconv.Quote(s.Job) + " is not among the saved jobs",
				Allowed: "the id of a saved job"}}
		}
		if s != (Subject{Job: s.Job}) {
			return nil, exchange.Problems{{Path: "job", Found: "is given beside what the job says itself", Allowed: "the job alone"}}
		}
		f.job, f.name, display, bracket = j.Judged(), j.Name(), j.Display, j.Bracket
	} else if s.Wall == "" {
		return nil, exchange.Problems{{Path: "wall", Found: "is missing", Allowed: "a kind of wall, or a job: " + catalog.WallNames()}}
	}
	var wrong exchange.Problems
	if f.display = all.Display(display); f.display == nil {
		wrong = append(wrong, notThere("display", display))
	}
	if f.bracket = all.Bracket(bracket); f.bracket == nil {
		wrong = append(wrong, notThere("bracket", bracket))
	}
	if wrong != nil {
		return nil, wrong
	}
	if f.TopHoles.Known && f.placeOfArms(f.TopHoles) == f.placeOfArms(exchange.OptMM{}) {
		f.TopHoles = exchange.OptMM{} // where they would be anyway, or cannot be: one subject
	}
	return f, nil
}

// placeOfArms is where the top hole row comes when somebody says where, or nobody does.
func (f *source) placeOfArms(said exchange.OptMM) (place quantity.Optional[quantity.Length]) {
	w := f.open(context.Background())
	w.TopHoles = said
	if p := w.Judge(); p.Hang != nil {
		return quantity.Some(p.Hang.TopHoles)
	}
	return place
}

// notThere is the problem of a subject whose display or bracket is not in the catalogue.
func notThere(kind, id string) exchange.Problem {
	p := bench.Missing(kind, id)
	p.Path = kind
	return p
}

// readFrozen reads an approval's document. It takes nothing from the catalogue.
func readFrozen(document string) (*source, error) {
	var f Frozen
	if err := exchange.ReadInto([]byte(document), &f); err != nil {
		return nil, err
	}
	if wrong := append(exchange.Complete("display", f.Display), exchange.Complete("bracket", f.Bracket)...); wrong != nil {
		return nil, wrong
	}
	return &source{f.Subject, "", f.Display, f.Bracket, f.Policy.On(catalog.DefaultPolicy()), f.Job}, nil
}

// open makes a [Workspace] of the inputs.
func (f *source) open(ctx context.Context) *bench.Workspace {
	a := bench.OpenDocuments(ctx, bench.Documents{Display: f.display, Bracket: f.bracket, Policy: f.policy, Job: f.job})
	if f.job == nil {
		a.Turn, a.Accessories, a.Request.Wall = f.Turn, f.Accessories, f.Wall
	}
	a.TopHoles = f.TopHoles
	return a
}

// Judgement is a frozen document and its result.
type Judgement struct {
	of        *source
	Title     string
	Verdict   fit.Verdict
	Blocked   []fit.Check
	Conflicts int // changes of its steps that were not applied
	Result    []byte

	p         *fit.Pairing
	StepsSite *steps.Site
	seq       *steps.Sequence
}

// parts are the pairing, site and steps it was judged by.
func (j *Judgement) parts() (*fit.Pairing, *steps.Site, *steps.Sequence) {
	return j.p, j.StepsSite, j.seq
}

// documents encodes frozen documents under one policy; what several share is encoded once. It is safe for concurrent use.
type documents struct {
	parts sync.Map // canonical forms of displays, brackets and policies
	index sync.Once
	jobs  map[string]*catalog.Job
}

// job finds a job of the catalogue, whose jobs are indexed once.
func (w *documents) job(all *exchange.Contents, id string) *catalog.Job {
	w.index.Do(func() {
		w.jobs = make(map[string]*catalog.Job, len(all.Jobs))
		for _, j := range all.Jobs {
			w.jobs[j.ID] = j
		}
	})
	return w.jobs[id]
}

// of is the canonical JSON of a [Frozen], and its fingerprint.
func (w *documents) of(f *source) (document, fingerprint string, err error) {
	part := func(key any, make func() any) string {
		if have, ok := w.parts.Load(key); ok && key != nil {
			return have.(string)
		}
		raw, fault := json.Marshal(make())
		if fault == nil {
			raw, fault = approval.Canonical(raw)
		}
		if err = cmp.Or(err, fault); key != nil && fault == nil {
			w.parts.Store(key, string(raw))
		}
		return string(raw)
	}
	var out strings.Builder // the members in the order of their names
	fmt.Fprintf(&out, `{"bracket":%s,"display":%s,"engine":%d,"format":"nexufix-approval/1"`,
		part(f.bracket, func() any { return f.bracket }), part(f.display, func() any { return f.display }), exchange.Engine)
	if f.job != nil {
		fmt.Fprintf(&out, `,"job":%s`, part(nil, func() any { return f.job }))
	}
	fmt.Fprintf(&out, `,"policy":%s,"subject":%s}`, part("policy", func() any { return exchange.PolicyOf(f.policy) }),
		part(nil, func() any { return f.Subject }))
	document = out.String()
	return document, approval.Sum(document), err
}

// judge works out everything that an approval's documents show.
func (f *source) Judge(ctx context.Context) (*Judgement, error) {
	a := f.open(ctx)
	p := a.Judge()
	site, err := a.StepsSite(&p)
	if err != nil {
		return nil, err
	}
	site.Brief = true
	seq := steps.Generate(&p, site)
	j := &Judgement{of: f, Title: f.display.Name() + " on " + f.bracket.Name, Verdict: place.Verdict(&p, site.Places),
		Blocked:   place.Blocking(&p, site.Places),
		Conflicts: len(seq.Conflicts), p: &p, StepsSite: &site, seq: &seq}
	if f.job != nil {
		j.Title = cmp.Or(f.name, f.job.ID) + ": " + j.Title
	} else {
		j.Title += ", on " + site.Wall.Name()
	}
	if ctx.Err() != nil {
		return nil, ctx.Err()
	}
	if a.Exhausted() {
		return nil, exchange.Problems{{Path: "bracket", Found: "takes more work than a judgement may", Allowed: "fewer parts in the kit"}}
	}
	j.Result, err = json.Marshal(resultOf(&p, site.Places, &seq))
	return j, err
}

// result is what has to stay the same for an approval to stay valid: every figure, status, part, point and tool, and the
// texts of engineers and bracket makers; not the program's own sentences.
type result struct {
	Pairing exchange.Pairing     `json:"pairing"`
	Places  []exchange.Placement `json:"places,omitempty"`
	Lift    lifting              `json:"lift"`
	Steps   []stepResult         `json:"steps"`
	Parts   []partResult         `json:"parts"`
	Supply  []partResult         `json:"supply,omitempty"`
	Cables  []cableResult        `json:"cables,omitempty"`
	Hidden  []string             `json:"hidden,omitempty"`

	// What is drawn or printed but not judged: the wall and what is on it, the display's back, and the bracket's own
	// texts in other languages.
	Wall         *catalog.Wall         `json:"wall,omitempty"`
	Zones        []catalog.Zone        `json:"zones,omitempty"`
	Translations []catalog.Translation `json:"translations,omitempty"`
}

type lifting struct {
	People    int           `json:"people"`
	Mass      quantity.Mass `json:"mass_ug"`
	Known     bool          `json:"known"`
	Platform  bool          `json:"platform"`
	Equipment bool          `json:"equipment"`
	Over      bool          `json:"over"` // what is recommended
}

type stepResult struct {
	ID      string       `json:"id"`
	At      int          `json:"at"` // its place in the sequence
	Own     bool         `json:"own,omitempty"`
	Changed bool         `json:"changed,omitempty"`
	People  int          `json:"people"`
	Minutes int          `json:"minutes"`
	Figure  string       `json:"figure,omitempty"`
	Tools   []string     `json:"tools,omitempty"`
	Parts   []partResult `json:"parts,omitempty"`
	Values  []string     `json:"values,omitempty"` // the figures in its text
	Words   []string     `json:"words,omitempty"`  // of the bracket's maker or an engineer
	Photos  []string     `json:"photos,omitempty"`
}

type partResult struct {
	Name     string `json:"id"`
	Bag      string `json:"bag,omitempty"`
	Count    int    `json:"count"`
	Supplied bool   `json:"supplied,omitempty"`
}

type cableResult struct {
	Zone   int             `json:"zone"`
	Outlet int             `json:"outlet"`
	Known  bool            `json:"known"`
	Needed quantity.Length `json:"needed_nm"`
}

func resultOf(p *fit.Pairing, places []place.Placement, seq *steps.Sequence) result {
	l := &seq.Lift
	out := result{Pairing: exchange.PairingFigures(p), Lift: lifting{l.People, l.Mass, l.Known, l.Platform,
		l.Equipment, l.Over}, Parts: partsOf(seq.Parts),
		Supply: partsOf(seq.Supply)}
	out.Zones, out.Translations = p.Display.Zones, p.Bracket.Translations
	if len(places) > 0 {
		out.Wall = &places[0].Job.Wall
	}
	for i := range places {
		out.Places = append(out.Places, exchange.PlacementFigures(&places[i]))
	}
	if len(seq.Steps) > 0 { // without steps it stays nil, as it is written
		out.Steps = make([]stepResult, 0, len(seq.Steps))
	}
	for i := range seq.Steps {
		x := &seq.Steps[i]
		r := stepResult{ID: x.ID, At: i + 1, Own: x.Own, Changed: x.Changed, People: x.People, Minutes: x.Minutes,
			Figure: x.Figure, Tools: x.Tools,
			Parts: partsOf(x.Parts), Values: x.Figures(quantity.Metric)}
		if x.Own || x.Changed {
			r.Words = append(r.Words, x.Title)
			for _, t := range append(slices.Clip(x.Text), x.Caution, x.Check, x.Wrong) {
				r.Words = append(r.Words, t.In(quantity.Metric))
			}
		}
		for _, photo := range x.Photos {
			r.Photos = append(r.Photos, photo.ID+" "+photo.Shows)
		}
		out.Steps = append(out.Steps, r)
	}
	for i := range seq.Cables {
		c := &seq.Cables[i]
		out.Cables = append(out.Cables, cableResult{c.Zone, c.Outlet, c.Known, c.Needed})
	}
	for i := range seq.Hidden {
		out.Hidden = append(out.Hidden, seq.Hidden[i].ID+": "+seq.Hidden[i].Why)
	}
	return out
}

func partsOf(all []steps.Part) (out []partResult) {
	for i := range all {
		out = append(out, partResult{all[i].Name, all[i].Bag, all[i].Count, all[i].Supplied})
	}
	return out
}

// against lists the reasons why a judgement cannot be approved.
func (j *Judgement) against() error {
	var wrong exchange.Problems
	path := "job"
	if j.of.job == nil {
		path = "display"
	}
	if j.Verdict != fit.Fits && j.Verdict != fit.FitsWithConditions {
		wrong = append(wrong, exchange.Problem{Path: path, Found: "is judged: " + strings.ToLower(bench.VerdictTexts[j.Verdict]),
			Allowed: "what fits"})
	}
	for _, c := range j.Blocked {
		wrong = append(wrong, exchange.Problem{Path: path, Found: "must not be installed: " + c.Text.In(quantity.Metric),
			Allowed: "what can be installed"})
	}
	if j.of.job != nil && j.of.job.Wall.Type == "" {
		wrong = append(wrong, exchange.Problem{Path: path, Found: "has no wall", Allowed: "a job with its wall"})
	}
	if j.Conflicts > 0 {
		wrong = append(wrong, exchange.Problem{Path: path, Found: fmt.Sprintf("has %d changes of its steps that were not applied", j.Conflicts),
			Allowed: "a job whose conflicts are settled"})
	}
	if wrong == nil {
		return nil
	}
	return wrong
}
