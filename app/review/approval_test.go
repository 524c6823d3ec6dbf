package review

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"nexufix/app/people"
	"nexufix/core/approval"
	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"nexufix/demo/demotest"
	"nexufix/exchange"
	"nexufix/store"

	"github.com/jmoiron/sqlx"
)

func TestMain(m *testing.M) {
	people.HashQuickly()
	os.Exit(m.Run())
}

// office is a database with the demo's catalogue and four people.
type office struct {
	testing.TB
	st                              *store.Store
	file                            string
	admin, approver, mira, ivor, us people.Person
}

func openOffice(t testing.TB) *office {
	t.Helper()
	st, file := demotest.Store(t)
	o := &office{TB: t, st: st, file: file, us: people.Person{Local: true, Role: people.Administrator}}
	for _, p := range []struct {
		to    *people.Person
		login string
		role  people.Role
	}{{&o.admin, "ada", people.Administrator}, {&o.approver, "tomas", people.Approver}, {&o.mira, "mira", people.Engineer},
		{&o.ivor, "ivor", people.Approver}} {
		n := people.NewPerson{Identity: people.Identity{Login: p.login, Name: strings.ToUpper(p.login),
			Password: "seven loaves on a rail"}, Role: p.role}
		made, err := n.Add(t.Context(), st, people.Person{Name: "test", Role: people.Administrator}, false)
		if err != nil {
			t.Fatal(err)
		}
		*p.to = people.PersonOf(&made)
	}
	return o
}

func (o *office) submit(by people.Person, s Subject) store.Approval {
	o.Helper()
	a, err := SubmitReview(o.Context(), o.st, by, s, "please")
	if err != nil {
		o.Fatal(err)
	}
	return a
}

func (o *office) decide(by people.Person, a store.Approval, act approval.Act) (store.Approval, error) {
	return DecideReview(o.Context(), o.st, by, store.Seen{ID: a.ID, Version: a.Version}, act, "because")
}

func (o *office) must(by people.Person, a store.Approval, act approval.Act) store.Approval {
	o.Helper()
	a, err := o.decide(by, a, act)
	if err != nil {
		o.Fatal(err)
	}
	return a
}

// weigh changes a display of the catalogue.
func (o *office) weigh(id string, change func(d *catalog.Display)) {
	o.Helper()
	all, err := o.st.Catalogue(o.Context())
	if err != nil {
		o.Fatal(err)
	}
	d := *all.Display(id)
	change(&d)
	if wrong := exchange.Complete("display", &d); wrong != nil {
		o.Fatal(wrong)
	}
	item, err := store.DisplayItem(&d)
	if err != nil {
		o.Fatal(err)
	}
	now, err := o.st.Item(o.Context(), "display", id)
	if err != nil {
		o.Fatal(err)
	}
	if _, err := o.st.Save(o.Context(), store.Author{Who: "test"}, item, now.Revision); err != nil {
		o.Fatal(err)
	}
}

var counter = Subject{Job: "mill-lane-counter"}

// TestApprovalsLife: a judgement is sent, sent back, sent again, approved by another, superseded by a later one, and withdrawn.
func TestApprovalsLife(t *testing.T) {
	o := openOffice(t)
	a := o.submit(o.mira, counter)
	if a.State != approval.InReview || a.PreparedBy != "MIRA" || len(a.Fingerprint) != 64 || a.Verdict != "fits_with_conditions" {
		t.Errorf("%+v", a)
	}
	if _, err := SubmitReview(t.Context(), o.st, o.ivor, counter, ""); !errors.Is(err, store.ErrInReview) {
		t.Error("two reviews of one job:", err)
	}
	back := o.must(o.approver, a, approval.SendBack)
	if back.State != approval.Draft {
		t.Error(back.State)
	}
	again := o.submit(o.mira, counter)
	if again.ID != a.ID || again.State != approval.InReview {
		t.Errorf("%+v", again)
	}
	first := o.must(o.approver, again, approval.Approve)
	if first.State != approval.Approved || first.ApprovedBy.String != "TOMAS" {
		t.Errorf("%+v", first)
	}
	o.weigh("velmora-pane-49", func(d *catalog.Display) { d.Mass = quantity.Some(exchange.KG(15 * quantity.Kilogram)) })
	later := o.must(o.approver, o.submit(o.mira, counter), approval.Approve)
	old, err := o.st.Approval(t.Context(), first.ID)
	if err != nil || old.State != approval.Superseded || old.SupersededBy.Int64 != later.ID {
		t.Errorf("%+v, %v", old, err)
	}
	if got := o.must(o.admin, later, approval.Withdraw); got.State != approval.Withdrawn {
		t.Error(got.State)
	}
	events, err := o.st.ApprovalEvents(t.Context(), a.ID, 100)
	var said []string
	for _, e := range events {
		said = append(said, e.Who+" "+e.What)
	}
	if want := "MIRA submit, TOMAS send_back, MIRA submit, TOMAS approve, TOMAS supersede"; err != nil || strings.Join(said, ", ") != want {
		t.Errorf("%s, %v", said, err)
	}
}

// TestNobodyApprovesTheirOwn: by no way does a judgement get approved by who has sent it for review.
func TestNobodyApprovesTheirOwn(t *testing.T) {
	o := openOffice(t)
	a := o.submit(o.ivor, counter)
	refused := func(by people.Person, why string) {
		t.Helper()
		if _, err := o.decide(by, a, approval.Approve); err == nil {
			t.Errorf("approved by %s", why)
		}
		if now, err := o.st.Approval(t.Context(), a.ID); err != nil || now.State != approval.InReview {
			t.Fatalf("%s: %+v, %v", why, now, err)
		}
	}
	refused(o.ivor, "who prepared it")
	refused(o.mira, "an engineer")
	refused(o.us, "nobody with an account")
	refused(people.Person{ID: 99, Role: people.Administrator}, "an account that is not there")
	script := o.approver
	script.Script = true
	refused(script, "a script")
	renamed := o.ivor
	renamed.Name, renamed.Login = "Somebody Else", "else"
	refused(renamed, "a renamed account")
	forged := o.mira
	forged.Role = people.Administrator
	refused(forged, "a role that the account has not")

	// Sent back, and sent again by somebody else: who sent it first has prepared it too.
	back := o.must(o.approver, a, approval.SendBack)
	a = o.submit(o.mira, counter)
	if a.ID != back.ID {
		t.Fatal("it is another one")
	}
	refused(o.ivor, "who prepared it first")
	// The database itself keeps who approved from being who prepared it.
	o.must(o.approver, a, approval.Approve)
	a.Version++
	if _, err := o.decide(o.approver, a, approval.Approve); err == nil {
		t.Error("approved twice")
	}
}

// TestNothingUnsafeIsSent: what must not be installed, does not fit or has no wall is not sent for review.
func TestNothingUnsafeIsSent(t *testing.T) {
	o := openOffice(t)
	for _, s := range []Subject{{Job: "arched-vault-heavy-board"}, {Job: "ticket-office-unmeasured-wall"}, {Job: "guard-van-screen"},
		{Job: "no-such"}, {}, {Job: "mill-lane-counter", Turn: 90}, {Display: "velmora-pane-49", Bracket: "sill-40"},
		{Display: "x", Bracket: "y", Wall: "concrete"},
		{Display: "halden-exhibit-75", Bracket: "gantry-25", Wall: "concrete"}} {
		var wrong exchange.Problems
		if a, err := SubmitReview(t.Context(), o.st, o.mira, s, ""); !errors.As(err, &wrong) {
			t.Errorf("%+v is sent: %+v, %v", s, a, err)
		}
	}
	if _, err := SubmitReview(t.Context(), o.st, people.Person{ID: o.mira.ID, Role: people.Reader}, counter, ""); err == nil {
		t.Error("a reader sends for review")
	}
	o.submit(o.mira, Subject{Display: "velmora-pane-49", Bracket: "sill-40", Wall: "wood_stud"})
}

// TestKeptTrue: a change that changes no result keeps an approval, and says so; one that changes a result makes it stale, with what
// differs; when it is taken back, it holds again. What has gone from the catalogue makes it stale too.
func TestKeptTrue(t *testing.T) {
	o := openOffice(t)
	ctx := t.Context()
	a := o.must(o.approver, o.submit(o.mira, counter), approval.Approve)
	judged := func() store.Approval {
		t.Helper()
		if _, err := RejudgeAll(ctx, o.st); err != nil {
			t.Fatal(err)
		}
		now, err := o.st.Approval(ctx, a.ID)
		if err != nil {
			t.Fatal(err)
		}
		return now
	}
	if got := judged(); got.Version != a.Version {
		t.Error("nothing has changed, and something was written")
	}
	o.weigh("velmora-pane-49", func(d *catalog.Display) { d.Aliases = []string{"Pane Forty-Nine"} })
	same := judged()
	if same.Stale != "" || same.Seen == a.Seen || same.Fingerprint != a.Fingerprint {
		t.Errorf("%+v", same)
	}
	events, err := o.st.ApprovalEvents(ctx, a.ID, 100)
	if err != nil || !strings.Contains(events[len(events)-1].Text, approval.Short(same.Seen)) ||
		!strings.Contains(events[len(events)-1].Text, approval.Short(a.Fingerprint)) {
		t.Errorf("it does not say with which fingerprints: %v, %v", events[len(events)-1], err)
	}
	mass := exchange.KG(0)
	o.weigh("velmora-pane-49", func(d *catalog.Display) {
		mass, d.Mass = d.Mass.Value, quantity.Some(exchange.KG(29*quantity.Kilogram))
	})
	if got := judged(); got.State != approval.Approved || !strings.Contains(got.Stale, "people") {
		t.Errorf("a display that weighs more is not stale: %+v", got.Stale)
	}
	o.weigh("velmora-pane-49", func(d *catalog.Display) { d.Mass = quantity.Some(mass) })
	if got := judged(); got.Stale != "" {
		t.Errorf("it is as it was, and stale: %s", got.Stale)
	}
	job, err := o.st.Item(ctx, "job", "mill-lane-counter")
	if err == nil {
		err = o.st.Delete(ctx, store.Author{Who: "test"}, "job", "mill-lane-counter", job.Revision)
	}
	if err != nil {
		t.Fatal(err)
	}
	if got := judged(); got.Stale == "" {
		t.Error("its job is gone, and it holds")
	}
}

// TestApproveWhatMoved: what changed a moment ago is not approved unseen.
func TestApproveWhatMoved(t *testing.T) {
	o := openOffice(t)
	a := o.submit(o.mira, counter)
	o.weigh("velmora-pane-49", func(d *catalog.Display) { d.Mass = quantity.Some(exchange.KG(29 * quantity.Kilogram)) })
	if _, err := o.decide(o.approver, a, approval.Approve); !errors.Is(err, store.ErrStale) {
		t.Errorf("approved what had changed: %v", err)
	}
	now, err := o.st.Approval(t.Context(), a.ID)
	if err != nil || now.State != approval.InReview || now.Stale == "" {
		t.Errorf("%+v, %v", now, err)
	}
	if _, err := o.decide(o.approver, a, approval.Approve); err == nil {
		t.Error("and the second time it is")
	}
}

// TestForgedDocumentIsWithdrawn: a document that has not its fingerprint stands for nothing.
func TestForgedDocumentIsWithdrawn(t *testing.T) {
	o := openOffice(t)
	all, at, err := o.st.CatalogueAt(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	f, err := new(documents).source(all, counter)
	if err != nil {
		t.Fatal(err)
	}
	j, err := f.Judge(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	document, fingerprint, err := new(documents).of(f)
	forged := strings.Replace(document, `"mass_kg":14.2`, `"mass_kg":1.2`, 1)
	if forged == document || err != nil {
		t.Fatal("nothing is forged", err)
	}
	who, err := recorded(o.mira)
	if err != nil {
		t.Fatal(err)
	}
	sent, err := o.st.Submit(t.Context(), []store.Approval{{Subject: counter.key(), Title: "x", Verdict: "fits", Document: forged,
		Fingerprint: fingerprint, Result: string(j.Result)}}, who, at, "")
	if err != nil {
		t.Fatal(err)
	}
	a := sent[0]
	if _, err := o.decide(o.approver, a, approval.Approve); err == nil {
		t.Error("it is approved")
	}
	if now, err := o.st.Approval(t.Context(), a.ID); err != nil || now.State != approval.Withdrawn {
		t.Errorf("%+v, %v", now, err)
	}
}

// TestDocumentIsCanonical: a document, written in parts, is in the one form of which its fingerprint is taken, and is read back as what
// it was made of.
func TestDocumentIsCanonical(t *testing.T) {
	all := demotest.Contents(t)
	var w documents
	for _, j := range all.Jobs {
		f, err := new(documents).source(all, Subject{Job: j.ID})
		if err != nil {
			t.Fatal(err)
		}
		document, fingerprint, err := w.of(f)
		if err != nil {
			t.Fatal(err)
		}
		canonical, err := approval.Canonical([]byte(document))
		if err != nil || string(canonical) != document {
			t.Errorf("%s: it is\n%s\nand not canonical, %v", j.ID, document, err)
		}
		back, err := readFrozen(document)
		if err != nil {
			t.Fatal(j.ID, err)
		}
		if _, again, err := new(documents).of(back); err != nil || again != fingerprint {
			t.Errorf("%s: read back it has another fingerprint: %v", j.ID, err)
		}
		was, err := f.Judge(t.Context())
		now, err2 := back.Judge(t.Context())
		if err != nil || err2 != nil || string(was.Result) != string(now.Result) {
			t.Errorf("%s: read back it is judged otherwise: %v, %v", j.ID, err, err2)
		}
	}
}

// BenchmarkRejudge judges an approved job again on another policy.
func BenchmarkRejudge(b *testing.B) {
	all := demotest.Contents(b)
	f, err := new(documents).source(all, counter)
	if err != nil {
		b.Fatal(err)
	}
	j, err := f.Judge(b.Context())
	if err != nil {
		b.Fatal(err)
	}
	var w documents
	a := store.Approval{Subject: counter.key(), Result: string(j.Result), Seen: "another"}
	if a.Document, a.Fingerprint, err = w.of(f); err != nil {
		b.Fatal(err)
	}
	b.ReportAllocs()
	for b.Loop() {
		if again, changed, err := rejudge(b.Context(), all, &a, &w); err != nil || !changed || again.Stale != "" {
			b.Fatal(again, err)
		}
	}
}

// BenchmarkRejudgeAll judges 10,000 approved jobs again after the policy was changed.
func BenchmarkRejudgeAll(b *testing.B) {
	const many = 10_000
	file := filepath.Join(b.TempDir(), "nexufix.db")
	st, err := store.Open(b.Context(), file)
	if err != nil {
		b.Fatal(err)
	}
	defer st.Close()
	all := demotest.Contents(b)
	var sound []*catalog.Job
	for _, j := range all.Jobs {
		f, err := new(documents).source(all, Subject{Job: j.ID})
		if err != nil {
			b.Fatal(err)
		}
		if judged, err := f.Judge(b.Context()); err == nil && judged.against() == nil {
			sound = append(sound, j)
		}
	}
	all.Jobs = nil
	for n := range many {
		j := *sound[n%len(sound)]
		j.ID = fmt.Sprintf("job-%05d", n)
		all.Jobs = append(all.Jobs, &j)
	}
	if _, err := st.Import(b.Context(), store.Author{Who: "test", Policy: true}, "many", all, nil, nil); err != nil {
		b.Fatal(err)
	}
	if all, err = st.Catalogue(b.Context()); err != nil {
		b.Fatal(err)
	}
	db, err := sqlx.Open("sqlite", file)
	if err != nil {
		b.Fatal(err)
	}
	defer db.Close()
	tx := db.MustBegin()
	var w documents
	for _, j := range all.Jobs {
		f, err := w.source(all, Subject{Job: j.ID})
		if err != nil {
			b.Fatal(err)
		}
		judged, err := f.Judge(b.Context())
		if err != nil {
			b.Fatal(err)
		}
		document, sum, err := w.of(f)
		if err != nil {
			b.Fatal(err)
		}
		tx.MustExec(`INSERT INTO approval (subject, title, state, verdict, document, fingerprint, result, preparer, prepared_by, prepared_at, seen)
			VALUES (?, ?, 'in_review', ?, ?, ?, ?, 1, 'Mira', '2026-11-27T06:00:00Z', ?)`, f.key(), judged.Title, judged.Verdict, document, sum,
			string(judged.Result), sum)
	}
	tx.MustExec(`UPDATE approval SET state = 'approved', approver = 2, approved_by = 'Tomas', approved_at = '2026-11-27T06:00:00Z'`)
	if err := tx.Commit(); err != nil {
		b.Fatal(err)
	}
	for n := 0; b.Loop(); n++ {
		b.StopTimer()
		p := all.PolicyOrDefault()
		p.TwoPeopleDiagonal -= quantity.Length(n + 1) // stricter, by a hair
		if err := st.SavePolicy(b.Context(), store.Author{Who: "test", Policy: true}, fmt.Sprintf("policy-%d", n), p); err != nil {
			b.Fatal(err)
		}
		b.StartTimer()
		changed, err := RejudgeAll(b.Context(), st)
		if err != nil || changed != many {
			b.Fatal(changed, err)
		}
	}
}

// TestTokenIsNotItsPerson: a token that was given to an approver for an engineer's work withdraws and sends back nothing of others'.
func TestTokenIsNotItsPerson(t *testing.T) {
	o := openOffice(t)
	a := o.submit(o.mira, counter)
	script := o.approver
	script.Role, script.Script = people.Engineer, true
	for _, act := range []approval.Act{approval.SendBack, approval.Withdraw} {
		if _, err := o.decide(script, a, act); !errors.Is(err, store.ErrShutOut) {
			t.Errorf("%s: %v", act, err)
		}
	}
	a = o.must(o.approver, a, approval.Approve)
	if _, err := o.decide(script, a, approval.Withdraw); err == nil {
		t.Error("what is approved is withdrawn")
	}
}

// TestSubjectKeysAreFrozen: approvals are found by these texts, in databases that are there.
func TestSubjectKeysAreFrozen(t *testing.T) {
	for want, s := range map[string]Subject{
		`{"job":"mill-lane-counter"}`: {Job: "mill-lane-counter"},
		`{"display":"velmora-pane-49","bracket":"sill-40","turn_deg":90,"wall":"concrete"}`: {Display: "velmora-pane-49", Bracket: "sill-40",
			Turn: 90, Wall: "concrete"},
	} {
		if got := s.key(); got != want {
			t.Errorf("%s, want %s", got, want)
		}
	}
}

// TestApprovalsAbout: the approvals of a job, of a display, of a bracket, and of none, the latest first and no more than are wanted.
func TestApprovalsAbout(t *testing.T) {
	o := openOffice(t)
	pairing := Subject{Display: "velmora-pane-49", Bracket: "sill-40", Wall: "concrete"}
	o.submit(o.mira, counter)
	o.submit(o.mira, pairing)
	for _, of := range []struct {
		job, display, bracket string
		most                  int
		want                  []Subject
	}{
		{"", "", "", 10, []Subject{pairing, counter}}, {"", "", "", 1, []Subject{pairing}}, {counter.Job, "", "", 10, []Subject{counter}},
		{"", pairing.Display, "", 10, []Subject{pairing}}, {"", "", pairing.Bracket, 10, []Subject{pairing}},
		{counter.Job, pairing.Display, "", 10, nil}, {"mill", "", "", 10, nil}, {"", "", "sill", 10, nil},
	} {
		all, err := ApprovalsAbout(t.Context(), o.st, o.mira, About{of.job, of.display, of.bracket}, of.most)
		if err != nil {
			t.Fatal(err)
		}
		var got []Subject
		for _, a := range all {
			got = append(got, a.Subject)
		}
		if !slices.Equal(got, of.want) {
			t.Errorf("%+v: %+v", of, got)
		}
	}
}
