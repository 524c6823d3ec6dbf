package review

import (
	"context"
	"encoding/json"
	"fmt"
	"nexufix/app/people"
	"nexufix/core/approval"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/steps"
	"nexufix/exchange"
	"nexufix/store"
	"slices"
	"strings"
)

// A family are judgements with the same bolts and spacers in the same holes, the same steps by as many people with the same parts and
// tools, and the same findings that are to be minded: displays of a range on a bracket, or jobs after a
// bracket's revision. They are looked at and approved together, each as an approval of its own. Figures differ:
// the review shows where each is the tightest.

// common is what the members of a family share. Its fingerprint is the family's name.
type common struct {
	Bracket  string                  `json:"bracket"`
	Turn     int                     `json:"turn_deg"`
	Wall     catalog.WallType        `json:"wall"`
	Displays int                     `json:"displays"`
	Bolts    []hardware              `json:"bolts"`
	Sent     []exchange.SuppliedItem `json:"sent"`
	Steps    []stepResult            `json:"steps"`
	Parts    []partResult            `json:"parts"`
	Supply   []partResult            `json:"supply"`
	Findings []FamilyFinding         `json:"findings"`
	Reasons  []string                `json:"reasons"`
	Hidden   []string                `json:"hidden"`
}

// hardware is the parts at the holes of a group.
type hardware struct {
	Holes    []string         `json:"holes"`
	Bearing  string           `json:"bearing"`
	Bolt     exchange.Bolt    `json:"bolt"`
	Washers  exchange.Washers `json:"washers"`
	Shoulder exchange.MM      `json:"shoulder"`
	Spacers  []exchange.MM    `json:"spacers"`
}

// FamilyFinding is a finding other than pass that all members share.
type FamilyFinding struct {
	Rule   string `json:"rule" required:"true"`
	Status string `json:"status" required:"true" enum:"caution,unknown,fail"`
}

// commonOf is what a judgement can share with others.
func commonOf(p *fit.Pairing, site *steps.Site, seq *steps.Sequence) common {
	r := resultOf(p, site.Places, seq)
	c := common{Bracket: p.Bracket.ID, Turn: int(p.Turn), Wall: site.Wall, Displays: len(site.Places), Parts: r.Parts, Supply: r.Supply}
	if s := r.Pairing.Stack; s != nil {
		c.Sent = s.Supplied
		for _, g := range s.Groups {
			c.Bolts = append(c.Bolts, hardware{g.Holes, g.Bearing, g.Bolt, g.Washers, g.Shoulder, g.Spacers})
		}
	}
	for i := range r.Steps {
		s, from := r.Steps[i], &seq.Steps[i]
		s.Minutes, s.Values = 0, nil
		if n := 0; s.Words != nil { // without their figures
			s.Words = []string{from.Title}
			for _, text := range append(slices.Clip(from.Text), from.Caution, from.Check, from.Wrong) {
				words, _ := text.Numbered(&n)
				s.Words = append(s.Words, words)
			}
		}
		c.Steps = append(c.Steps, s)
	}
	for i := range seq.Hidden {
		c.Hidden = append(c.Hidden, seq.Hidden[i].ID)
	}
	for _, f := range findings(p, site, false, quantity.Reader{}) {
		if mind := (FamilyFinding{f.Rule, f.Status}); f.Status != fit.Pass.String() && f.Status != fit.Note.String() &&
			!slices.Contains(c.Findings, mind) {
			c.Findings = append(c.Findings, mind)
		}
	}
	for _, check := range p.Words() {
		c.Reasons = append(c.Reasons, reason(&check)...)
	}
	for i := range site.Places {
		for n := range site.Places[i].Checks {
			c.Reasons = append(c.Reasons, reason(&site.Places[i].Checks[n])...)
		}
	}
	return c
}

// reason is the sentence of a caution with the names in it and without its figures: one sample shows it for
// all members.
func reason(c *fit.Check) []string {
	if !c.Printed() {
		return nil
	}
	n := 0
	text, _ := c.Text.Numbered(&n)
	return append([]string{c.Rule.String() + ": " + text}, c.Text.Named()...)
}

// key is the family's name.
func (c *common) key() (string, error) {
	raw, err := json.Marshal(c)
	if err != nil {
		return "", err
	}
	return approval.Fingerprint(raw)
}

// findings are those of a pairing and of its places, the worst first, each text once; with their words, or without.
func findings(p *fit.Pairing, site *steps.Site, words bool, to quantity.Reader) []exchange.Check {
	out := exchange.PairingOf(p, to, words).Checks
	seen := map[string]bool{}
	for i := range site.Places {
		for _, c := range exchange.PlacementOf(&site.Places[i], to).Checks {
			if key := c.Rule + c.Text; !seen[key] {
				seen[key] = true
				out = append(out, c)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b exchange.Check) int { return slices.Index(worst, a.Status) - slices.Index(worst, b.Status) })
	return out
}

// Member is a member of a family: an approval in review, or a subject that may be sent.
type Member struct {
	ID       int64    `json:"id,omitempty"` // absent: it is not in review
	Version  int64    `json:"version,omitempty"`
	Title    string   `json:"title" required:"true"`
	Verdict  string   `json:"verdict" required:"true" enum:"fits,fits_with_conditions"`
	Stale    bool     `json:"stale"`
	Approved bool     `json:"approved"`                // what may be sent is approved, and that still holds
	Pattern  string   `json:"pattern" required:"true"` // the holes used, as hung
	Weight   string   `json:"weight" required:"true"`
	Tightest []string `json:"tightest" required:"true"`
	Subject  Subject  `json:"subject" required:"true"`
}

// FamilyFigure is a figure in which the members differ.
type FamilyFigure struct {
	Rule     string `json:"rule" required:"true"`
	Tightest string `json:"tightest" required:"true"`
	Of       int    `json:"of" required:"true"` // its place among the members
	Roomiest string `json:"roomiest" required:"true"`
}

// Family is several judgements that are reviewed together.
type Family struct {
	Key      string          `json:"key" required:"true"`
	Title    string          `json:"title" required:"true"`
	Bolts    []string        `json:"bolts" required:"true"`
	Steps    []exchange.Need `json:"steps" required:"true"`
	Findings []FamilyFinding `json:"findings" required:"true"`
	Members  []Member        `json:"members" required:"true"`
	More     int             `json:"more,omitempty"` // in review beside these: prepared by who asks, or to be looked at after these
	Figures  []FamilyFigure  `json:"figures" required:"true"`
	May      []approval.Act  `json:"may" required:"true" enum:"approve,send_back,withdraw"`

	margins map[string]*span
}

// span is the least and the most room of a rule among members.
type span struct {
	least, most exchange.Check
	of          int
}

// judged is a judgement with what a family compares.
type judged struct {
	key    string
	common common
	title  string // of the family

	pattern, weight string
	steps           []exchange.Need
	checks          []exchange.Check
}

// familyKey works out what a judgement can share with others.
func (f *source) familyKey(ctx context.Context) (*judged, *Judgement, error) {
	j, err := f.Judge(ctx)
	if err != nil || j.against() != nil {
		return nil, j, err
	}
	p, site, seq := j.parts()
	out := &judged{common: commonOf(p, site, seq), checks: findings(p, site, true, quantity.Reader{}),
		title: fmt.Sprintf("%s, %s", f.bracket.Name, site.Wall.Name()), weight: "not known"}
	if p.Pattern != nil {
		wide, high := p.Turn.Size(p.Pattern.Width, p.Pattern.Height)
		out.pattern = quantity.Metric.Stack(wide, quantity.Nearest) + " × " + quantity.Metric.Stack(high, quantity.Nearest)
	}
	if m := f.display.Mass; m.Known {
		out.weight = quantity.Metric.Mass(m.Value, quantity.Up)
	}
	for i := range seq.Steps {
		out.steps = append(out.steps, exchange.Need{Step: seq.Steps[i].ID, Why: seq.Steps[i].Title})
	}
	out.key, err = out.common.key()
	return out, j, err
}

// boltWords list the parts at the holes in words.
func boltWords(all []hardware) []string {
	out := []string{}
	mm := func(l exchange.MM) string { return quantity.Metric.Stack(l, quantity.Nearest) }
	for _, h := range all {
		said := fmt.Sprintf("%s: %s × %s", strings.Join(h.Holes, ", "), h.Bolt.Thread, mm(h.Bolt.Length))
		if h.Washers.Count > 0 {
			said += fmt.Sprintf(", %d × washer %s", h.Washers.Count, mm(h.Washers.Thickness))
		}
		if h.Shoulder > 0 {
			said += ", shoulder washer " + mm(h.Shoulder)
		}
		for _, s := range h.Spacers {
			said += ", spacer " + mm(s)
		}
		out = append(out, said)
	}
	return out
}

// take adds a member.
func (f *Family) take(m Member, l *judged) {
	if f.Key == "" {
		*f = Family{Key: l.key, Title: l.title, Bolts: boltWords(l.common.Bolts), Steps: l.steps, Findings: l.common.Findings,
			margins: map[string]*span{}, May: []approval.Act{}}
		if f.Findings == nil {
			f.Findings = []FamilyFinding{}
		}
	}
	m.Pattern, m.Weight, m.Tightest = l.pattern, l.weight, []string{}
	for _, c := range l.checks {
		if !c.Margin.Known {
			continue
		}
		s := f.margins[c.Rule]
		if s == nil {
			f.margins[c.Rule] = &span{c, c, len(f.Members)}
			continue
		}
		if c.Margin.Value < s.least.Margin.Value {
			s.least, s.of = c, len(f.Members)
		}
		if c.Margin.Value > s.most.Margin.Value {
			s.most = c
		}
	}
	f.Members = append(f.Members, m)
}

// compare says where the members differ, and which is the tightest.
func (f *Family) compare() {
	f.Figures = []FamilyFigure{}
	for rule, s := range f.margins {
		if s.least.Margin.Value != s.most.Margin.Value {
			f.Figures = append(f.Figures, FamilyFigure{rule, s.least.Figure, s.of, s.most.Figure})
			f.Members[s.of].Tightest = append(f.Members[s.of].Tightest, rule)
		}
	}
	slices.SortFunc(f.Figures, func(a, b FamilyFigure) int { return strings.Compare(a.Rule, b.Rule) })
	for i := range f.Members {
		slices.Sort(f.Members[i].Tightest)
	}
}

// maxFamily is how many are sent or decided together, and maxRange how many displays are judged for a range.
const (
	maxFamily = 200
	maxRange  = 2000
)

// FamilyOf is the members of a family that are in review, from their frozen inputs, at most [maxFamily] of them: of who may approve,
// those that they may decide; where there is none, all.
func FamilyOf(ctx context.Context, st *store.Store, by people.Person, key string) (*Family, error) {
	list, all, err := st.InFamily(ctx, key, by.ID, !by.Role.May(people.Approver), maxFamily)
	if err != nil {
		return nil, err
	}
	may := make([][]approval.Act, len(list))
	some := false
	for i := range list {
		preparers, err := st.Preparers(ctx, &list[i])
		if err != nil {
			return nil, err
		}
		may[i] = May(by, &list[i], preparers)
		some = some || slices.Contains(may[i], approval.Approve)
	}
	var out Family
	for i := range list {
		a := &list[i]
		if some && !slices.Contains(may[i], approval.Approve) && a.Stale == "" {
			continue
		}
		f, err := readFrozen(a.Document)
		if err != nil {
			return nil, err
		}
		l, _, err := f.familyKey(ctx)
		if err != nil {
			return nil, err
		}
		if l == nil { // another version of the program judges otherwise: it is stale
			continue
		}
		line := LineOf(a, by)
		out.take(Member{ID: a.ID, Version: a.Version, Title: a.Title, Verdict: a.Verdict, Stale: line.Stale, Subject: line.Subject}, l)
		if len(out.Members) == 1 {
			out.May = may[i]
		} else {
			out.May = slices.DeleteFunc(out.May, func(act approval.Act) bool { return !slices.Contains(may[i], act) })
		}
	}
	if out.May == nil {
		out.May = []approval.Act{}
	}
	if len(out.Members) == 0 {
		return nil, store.ErrNotFound
	}
	out.More = all - len(out.Members)
	out.compare()
	return &out, nil
}

// OfFamily are members of a family, as they were seen.
type OfFamily struct {
	Key     string
	Members []store.Seen
}

// DecideFamily approves, sends back or withdraws members of a family, all or none; each gets an approval of its own.
func DecideFamily(ctx context.Context, st *store.Store, by people.Person, of OfFamily, act approval.Act, text string) (out []store.Approval,
	err error) {
	members := of.Members
	if len(members) == 0 || len(members) > maxFamily {
		return nil, exchange.Problems{{Path: "members", Found: fmt.Sprintf("are %d", len(members)), Allowed: fmt.Sprintf("1 to %d", maxFamily)}}
	}
	var ids []int64
	for _, m := range members {
		ids = append(ids, m.ID)
	}
	is, err := st.AllInFamily(ctx, of.Key, ids)
	if err != nil {
		return nil, err
	}
	for i, m := range members {
		if !is[m.ID] || slices.ContainsFunc(members[:i], func(o store.Seen) bool { return o.ID == m.ID }) {
			return nil, exchange.Problems{{Path: fmt.Sprintf("members[%d]", i), Found: "is not of this family and in review, or is there twice",
				Allowed: "its members, each once"}}
		}
	}
	return decideAll(ctx, st, by, members, act, text)
}
