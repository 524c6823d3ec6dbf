// Package review has the use cases of approvals and of what is issued by them: sending, deciding, judging again, families, documents with
// number and seal, letters, and checking a document that somebody has. Each takes a [store.Store] and the [people.Person] who asks; rights
// are checked here, and again in the transaction.
package review

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"maps"
	"nexufix/app/bench"
	"nexufix/app/people"
	"nexufix/core/approval"
	"nexufix/core/draw/pairing"
	"nexufix/core/draw/wall"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/steps"
	"nexufix/exchange"
	"nexufix/render/svg"
	"nexufix/store"
	"slices"
	"time"
)

// ApprovalLine is an approval in a list.
type ApprovalLine struct {
	ID           int64   `json:"id" required:"true"`
	Title        string  `json:"title" required:"true"`
	State        string  `json:"state" required:"true" enum:"draft,in_review,approved,superseded,withdrawn"`
	Version      int64   `json:"version" required:"true"`
	Verdict      string  `json:"verdict" required:"true" enum:"fits,fits_with_conditions,missing_data,does_not_fit"`
	Fingerprint  string  `json:"fingerprint" required:"true"`
	PreparedBy   string  `json:"prepared_by" required:"true"`
	PreparedAt   string  `json:"prepared_at" required:"true"`
	ApprovedBy   string  `json:"approved_by,omitempty"`
	ApprovedAt   string  `json:"approved_at,omitempty"`
	SupersededBy int64   `json:"superseded_by,omitempty"`
	Holds        bool    `json:"holds" required:"true"` // documents may be issued from it, as far as it has been judged again
	Stale        bool    `json:"stale"`                 // what it rests on has changed, and the result with it
	Restored     bool    `json:"restored"`              // a backup gave it back, and nobody has confirmed that it still holds
	Mine         bool    `json:"mine"`                  // who asks has prepared it
	Family       string  `json:"family,omitempty"`      // in review: of those with the same bolts and steps
	Subject      Subject `json:"subject" required:"true"`
}

// LineOf is an approval in the list of a person.
func LineOf(a *store.Approval, by people.Person) ApprovalLine {
	out := ApprovalLine{ID: a.ID, Title: a.Title, State: string(a.State), Version: a.Version, Verdict: a.Verdict, Fingerprint: a.Fingerprint,
		PreparedBy: a.PreparedBy, PreparedAt: a.PreparedAt, ApprovedBy: a.ApprovedBy.String, ApprovedAt: a.ApprovedAt.String,
		SupersededBy: a.SupersededBy.Int64, Holds: a.Holds() == nil, Stale: a.Stale != "", Restored: a.Restored != "",
		Mine: by.ID > 0 && by.ID == a.Preparer}
	if a.State == approval.InReview {
		out.Family = a.Family
	}
	if err := exchange.ReadInto([]byte(a.Subject), &out.Subject); err != nil {
		out.Subject = Subject{} // judging it again withdraws it
	}
	return out
}

// CallerFigure is a figure that only a caller has given.
type CallerFigure struct {
	Rule   string `json:"rule" required:"true"`
	Figure string `json:"figure" required:"true"`
}

// EarlierApproval is the approval of the same subject before this one, and what has changed since.
type EarlierApproval struct {
	ID         int64                 `json:"id" required:"true"`
	ApprovedBy string                `json:"approved_by" required:"true"`
	ApprovedAt string                `json:"approved_at" required:"true"`
	Figures    []approval.Difference `json:"figures" required:"true"` // what it is computed from
	Results    []approval.Difference `json:"results" required:"true"`
	Section    string                `json:"section,omitempty"`
	Wall       string                `json:"wall,omitempty"`
}

// IssuedLine is a document that was issued.
type IssuedLine struct {
	ID       int64  `json:"id" required:"true"`
	Approval int64  `json:"approval" required:"true"`
	Number   string `json:"number" required:"true"`
	Revision string `json:"revision" required:"true"`
	Code     string `json:"code" required:"true"`
	What     string `json:"what" required:"true" enum:"pack,template,card"`
	Name     string `json:"name" required:"true"`
	Sum      string `json:"sum" required:"true"`
	At       string `json:"at" required:"true"`
	Who      string `json:"who" required:"true"`
	Receiver string `json:"receiver" required:"true"`
}

// About is what approvals are looked for by: a job, or a display or bracket for itself; "": any.
type About struct{ Job, Display, Bracket string }

// ApprovalsAbout lists the approvals of a job, or of a display or bracket for itself ("": of any), the latest first, at most so many.
func ApprovalsAbout(ctx context.Context, st *store.Store, by people.Person, of About, most int) ([]ApprovalLine, error) {
	subject := ""
	if of.Job != "" {
		subject = Subject{Job: of.Job}.key()
	}
	all, err := st.ApprovalsAbout(ctx, subject, of.Display, of.Bracket, most)
	out := []ApprovalLine{}
	for i := range all {
		out = append(out, LineOf(&all[i], by))
	}
	return out, err
}

// IssuedLineOf is a document in a list.
func IssuedLineOf(i *store.Issued) IssuedLine {
	return IssuedLine{i.ID, i.Approval, i.Number, revisionName(i.Revision), i.Code, i.What, i.Name, i.Sum, i.At, i.Who, i.Receiver}
}

// Review is everything to look at before approving.
type Review struct {
	ApprovalLine
	Findings []exchange.Check      `json:"findings" required:"true"` // of pairing and wall, the worst first
	Assumed  []string              `json:"assumed" required:"true"`
	StandsOn []string              `json:"stands_on" required:"true"` // what nobody has said of the pairing, and how far it may be off
	Told     []CallerFigure        `json:"told" required:"true"`
	Before   *EarlierApproval      `json:"before,omitempty"`
	Stale    []approval.Difference `json:"differences" required:"true"` // of what the catalogue has now
	Events   []store.ApprovalEvent `json:"events" required:"true"`
	Earlier  bool                  `json:"earlier"` // there are events before these
	Issued   []IssuedLine          `json:"issued" required:"true"`
	Letters  []Letter              `json:"letters" required:"true"`
	May      []approval.Act        `json:"may" required:"true" enum:"approve,confirm,send_back,withdraw"`
	Section  string                `json:"section,omitempty"` // SVG
	Wall     string                `json:"wall,omitempty"`    // SVG; of a job
	Steps    []exchange.Need       `json:"steps" required:"true"`
}

// maxEvents is how many events a review shows, the latest.
const maxEvents = 300

// ReviewOf gathers the review of an approval.
func ReviewOf(ctx context.Context, st *store.Store, by people.Person, id int64, to quantity.Reader) (*Review, error) {
	a, err := st.Approval(ctx, id)
	if err != nil {
		return nil, err
	}
	out := &Review{ApprovalLine: LineOf(&a, by), Stale: []approval.Difference{}, Told: []CallerFigure{}, StandsOn: []string{},
		Issued:   []IssuedLine{},
		Findings: []exchange.Check{}}
	if out.Events, err = st.ApprovalEvents(ctx, id, maxEvents+1); err != nil {
		return nil, err
	}
	if out.Earlier = len(out.Events) > maxEvents; out.Earlier {
		out.Events = out.Events[1:]
	}
	preparers, err := st.Preparers(ctx, &a)
	if err != nil {
		return nil, err
	}
	if out.May = May(by, &a, preparers); out.May == nil {
		out.May = []approval.Act{}
	}
	if a.Stale != "" {
		if err := json.Unmarshal([]byte(a.Stale), &out.Stale); err != nil {
			return nil, err
		}
	}
	issued, err := st.IssuedOf(ctx, id, 200)
	if err != nil {
		return nil, err
	}
	for n := range issued {
		out.Issued = append(out.Issued, IssuedLineOf(&issued[n]))
	}
	if out.Letters, err = LettersOf(ctx, st, id); err != nil {
		return nil, err
	}
	f, err := readFrozen(a.Document)
	if err != nil {
		return nil, err
	}
	if err := out.look(ctx, f, to); err != nil {
		return nil, err
	}
	before, err := st.ApprovedBefore(ctx, &a)
	if errors.Is(err, store.ErrNotFound) {
		return out, nil
	}
	if err != nil {
		return nil, err
	}
	out.Before, err = beforeOf(ctx, &before, &a)
	return out, err
}

// look works out the findings, figures and drawings of a review.
func (r *Review) look(ctx context.Context, f *source, to quantity.Reader) error {
	w := f.open(ctx)
	w.Language = to.Language
	p := w.Judge()
	site, err := w.StepsSite(&p)
	if err != nil {
		return err
	}
	r.Findings = findings(&p, &site, true, to)
	for _, c := range p.Words() {
		for _, s := range p.Sources(c.Rule) {
			if s.Origin.String() == "caller" {
				r.Told = append(r.Told, CallerFigure{c.Rule.String(), s.Figure})
			}
		}
	}
	r.Assumed, r.StandsOn = assumed(f, to), []string{}
	for _, text := range place.StandsOn(&p, site.Places) {
		r.StandsOn = append(r.StandsOn, to.Say(text))
	}
	r.Section, r.Wall = drawn(&p, w)
	r.Steps = []exchange.Need{}
	site.Brief = true
	seq := steps.Generate(&p, site)
	for i := range seq.Steps {
		r.Steps = append(r.Steps, exchange.Need{Step: seq.Steps[i].ID, Why: to.Language.Words(seq.Steps[i].Title)})
	}
	return nil
}

// worst are the statuses, the worst first.
var worst = []string{fit.Fail.String(), fit.Unknown.String(), fit.Caution.String(), fit.Note.String(), fit.Pass.String()}

// drawn are the drawings: the bolts in section, and the wall with its displays.
func drawn(p *fit.Pairing, w *bench.Workspace) (section, onWall string) {
	if d := pairing.Section(p); d != nil {
		section = svg.Picture(d.For(w.Language))
	}
	if places := w.Placed(p); len(places) > 0 && places[0].Known {
		onWall = svg.Picture(wall.Elevation(places).For(w.Language))
	}
	return section, onWall
}

// assumed lists what a job assumes where a figure is not known.
func assumed(f *source, to quantity.Reader) []string {
	out := []string{}
	if f.job == nil {
		return append(out, to.Say(quantity.Say(
			"For any wall of this kind: where the studs are, and what is behind the wall, is found at the wall.")))
	}
	raw, err := json.Marshal(f.job.Assume)
	var all map[string]any
	if err != nil || json.Unmarshal(raw, &all) != nil {
		return out
	}
	names := map[string]string{"load_kg": "The load is taken as %v kg.", "reach_mm": "The reach is taken as %v mm.",
		"aside_mm":       "The load is taken as %v mm beside the plate's middle.",
		"penetration_mm": "The fasteners are taken to go %v mm into what holds.",
		"gravity":        "The wood's specific gravity is taken as %v."}
	for _, name := range slices.Sorted(maps.Keys(all)) {
		if text := names[name]; text != "" {
			out = append(out, to.Say(quantity.Say(text, all[name])))
		}
	}
	return out
}

// beforeOf compares with the approval before.
func beforeOf(ctx context.Context, before, now *store.Approval) (*EarlierApproval, error) {
	out := &EarlierApproval{ID: before.ID, ApprovedBy: before.ApprovedBy.String, ApprovedAt: before.ApprovedAt.String}
	var err error
	if out.Figures, err = approval.Differences([]byte(before.Document), []byte(now.Document)); err != nil {
		return nil, err
	}
	if out.Results, err = approval.Differences([]byte(before.Result), []byte(now.Result)); err != nil {
		return nil, err
	}
	f, err := readFrozen(before.Document)
	if err != nil {
		return nil, err
	}
	w := f.open(ctx)
	p := w.Judge()
	out.Section, out.Wall = drawn(&p, w)
	return out, nil
}

// ReviewSheet is a draft of a document of an approval, from its frozen inputs. What is pack, template or card.
func ReviewSheet(ctx context.Context, st *store.Store, id int64, what, lang string, now time.Time) (name string, file []byte, err error) {
	a, err := st.Approval(ctx, id)
	if err != nil {
		return "", nil, err
	}
	f, err := readFrozen(a.Document)
	if err != nil {
		return "", nil, err
	}
	l, err := bench.Language(lang)
	if err != nil {
		return "", nil, err
	}
	w := f.open(ctx)
	if what == "pack" {
		pack, err := w.Install(bench.InstallOptions{Now: now, Language: l, Photos: func(id string) ([]byte, error) { return st.Photo(ctx, id) }})
		if err != nil {
			return "", nil, err
		}
		file, err = pack.File("pdf")
		return "draft-pack.pdf", file, err
	}
	s, err := w.Sheet(bench.SheetOptions{Card: what == "card", Paper: "a4", Now: now, Language: l})
	if err != nil {
		return "", nil, err
	}
	file, err = s.File("pdf", "a4")
	return "draft-" + what + ".pdf", file, err
}

// Desk is what waits for a person.
type Desk struct {
	Waiting  []ApprovalLine `json:"waiting" required:"true"`   // reviews that they may decide
	SentBack []ApprovalLine `json:"sent_back" required:"true"` // theirs
	Stale    []ApprovalLine `json:"stale" required:"true"`     // theirs first
	Restored []ApprovalLine `json:"restored" required:"true"`  // to be confirmed
	Sent     []ApprovalLine `json:"sent" required:"true"`      // theirs, with others
	Issued   []IssuedLine   `json:"issued" required:"true"`    // lately
	Judging  string         `json:"judging,omitempty"`         // "120 of 10000" while approvals are judged again
}

// maxLines is how many lines of each kind a desk shows.
const maxLines = 50

// DeskOf gathers the desk of a person.
func DeskOf(ctx context.Context, st *store.Store, by people.Person) (*Desk, error) {
	all, err := st.ApprovalsToDo(ctx)
	if err != nil {
		return nil, err
	}
	out := &Desk{Waiting: []ApprovalLine{}, SentBack: []ApprovalLine{}, Stale: []ApprovalLine{}, Restored: []ApprovalLine{},
		Sent: []ApprovalLine{}, Issued: []IssuedLine{}}
	put := func(to *[]ApprovalLine, a *store.Approval) {
		if len(*to) < maxLines {
			*to = append(*to, LineOf(a, by))
		}
	}
	for i := range all {
		a := &all[i]
		mine := by.ID > 0 && a.Preparer == by.ID
		switch {
		case a.State == approval.InReview && mine:
			put(&out.Sent, a)
		case a.State == approval.InReview && by.Role.May(people.Approver):
			put(&out.Waiting, a)
		case a.State == approval.Draft && mine:
			put(&out.SentBack, a)
		case a.State == approval.Approved && a.Stale != "":
			put(&out.Stale, a)
		case a.State == approval.Approved && a.Restored != "":
			put(&out.Restored, a)
		}
	}
	slices.SortStableFunc(out.Stale, func(a, b ApprovalLine) int {
		return cmp.Compare(map[bool]int{true: 0, false: 1}[a.Mine], map[bool]int{true: 0, false: 1}[b.Mine])
	})
	issued, err := st.IssuedOf(ctx, 0, 10)
	for n := range issued {
		out.Issued = append(out.Issued, IssuedLineOf(&issued[n]))
	}
	return out, err
}
