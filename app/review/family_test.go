package review

import (
	"errors"
	"nexufix/app/people"
	"nexufix/core/approval"
	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"nexufix/exchange"
	"nexufix/store"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/jmoiron/sqlx"
)

var crumb = Range{Bracket: "crumb-15", Wall: catalog.Concrete}

// ranged is the family with some members of what may be sent of a bracket; none: nil.
func (o *office) ranged(r Range, titles ...string) *Family {
	o.Helper()
	all, err := RangeOf(o.Context(), o.st, r)
	if err != nil {
		o.Fatal(err)
	}
	for i := range all {
		var names []string
		for _, m := range all[i].Members {
			names = append(names, strings.TrimSuffix(m.Title, " on Crumb 15, on concrete"))
		}
		if slices.Sort(names); slices.Equal(names, titles) {
			return &all[i]
		}
	}
	return nil
}

func subjectsOf(f *Family) (out []Subject) {
	for _, m := range f.Members {
		out = append(out, m.Subject)
	}
	return out
}

func seenOf(f *Family) (out []store.Seen) {
	for _, m := range f.Members {
		out = append(out, store.Seen{ID: m.ID, Version: m.Version})
	}
	return out
}

// TestFamily: two models of a range with the same bolts and steps are sent, looked at and approved together,
// each as an approval of its own that is signed; the larger one is where the figures are the tightest, of the
// limits the demo's bracket has.
func TestFamily(t *testing.T) {
	o := openOffice(t)
	f := o.ranged(crumb, "Brindle Menu 32", "Brindle Menu 43")
	if f == nil {
		t.Fatal("no family of two")
	}
	sent, err := SubmitFamily(t.Context(), o.st, o.mira, subjectsOf(f), "the Menu range")
	if err != nil || len(sent) != 2 || sent[0].Family != f.Key || sent[1].Family != f.Key {
		t.Fatalf("%+v, %v", sent, err)
	}
	if o.ranged(crumb, "Brindle Menu 32", "Brindle Menu 43") != nil {
		t.Error("what waits for a review may be sent again")
	}
	seen, err := FamilyOf(t.Context(), o.st, o.approver, f.Key)
	if err != nil {
		t.Fatal(err)
	}
	if !slices.Equal(seen.May, []approval.Act{approval.Approve, approval.SendBack, approval.Withdraw}) || len(seen.Bolts) != 1 ||
		seen.Bolts[0] != "TL, TR, BL, BR: M6 × 16 mm, 1 × washer 1.6 mm" || len(seen.Steps) < 8 {
		t.Errorf("%+v", seen)
	}
	for _, want := range []FamilyFigure{{"load", "10.8 kg · at most 22 kg", 1, "6.4 kg · at most 22 kg"},
		{"size", "1079.5 mm · at most 1100 mm", 1, "800.1 mm · at most 1100 mm"}} {
		if !slices.Contains(seen.Figures, want) {
			t.Errorf("%+v is not among %+v", want, seen.Figures)
		}
	}
	if !slices.Contains(seen.Members[1].Tightest, "load") || len(seen.Members[0].Tightest) > 0 {
		t.Errorf("%+v", seen.Members)
	}
	if own, err := FamilyOf(t.Context(), o.st, o.mira, f.Key); err != nil || slices.Contains(own.May, approval.Approve) {
		t.Errorf("who prepared it may approve it: %+v, %v", own, err)
	}
	if _, err := DecideFamily(t.Context(), o.st, o.mira, OfFamily{f.Key, seenOf(seen)}, approval.Approve, ""); err == nil {
		t.Error("who prepared it approves it")
	}
	done, err := DecideFamily(t.Context(), o.st, o.approver, OfFamily{f.Key, seenOf(seen)}, approval.Approve,
		"Samples opened: Brindle Menu 43")
	if err != nil {
		t.Fatal(err)
	}
	for _, a := range done {
		events, err := o.st.ApprovalEvents(t.Context(), a.ID, 100)
		if err != nil || a.State != approval.Approved || a.ApprovedBy.String != "TOMAS" ||
			!strings.Contains(events[len(events)-1].Text, "Menu 43") {
			t.Errorf("%s is %s by %s, %v", a.Title, a.State, a.ApprovedBy.String, err)
		}
	}
	if _, err := FamilyOf(t.Context(), o.st, o.approver, f.Key); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("what is decided is in review: %v", err)
	}
	again := o.ranged(crumb, "Brindle Menu 32", "Brindle Menu 43")
	if again == nil || !again.Members[0].Approved || !again.Members[1].Approved {
		t.Errorf("%+v", again)
	}
}

// TestFamilyIsDecidedWhole: where one of a family may not be approved, none is.
func TestFamilyIsDecidedWhole(t *testing.T) {
	o := openOffice(t)
	f := o.ranged(crumb, "Brindle Menu 32", "Brindle Menu 43")
	if _, err := SubmitFamily(t.Context(), o.st, o.mira, subjectsOf(f), ""); err != nil {
		t.Fatal(err)
	}
	look := func() *Family {
		t.Helper()
		seen, err := FamilyOf(t.Context(), o.st, o.approver, f.Key)
		if err != nil {
			t.Fatal(err)
		}
		return seen
	}
	none := func(what string, err error) {
		t.Helper()
		if err == nil {
			t.Errorf("%s: approved", what)
		}
		for _, m := range look().Members {
			if a, err := o.st.Approval(t.Context(), m.ID); err != nil || a.State != approval.InReview {
				t.Errorf("%s: %s is %s, %v", what, a.Title, a.State, err)
			}
		}
	}
	seen := seenOf(look())
	old := slices.Clone(seen)
	old[1].Version--
	_, err := DecideFamily(t.Context(), o.st, o.approver, OfFamily{f.Key, old}, approval.Approve, "")
	none("one was seen in another version", err)
	_, err = DecideFamily(t.Context(), o.st, o.approver, OfFamily{f.Key, append(seen, seen[0])}, approval.Approve, "")
	none("one is there twice", err)
	other := o.submit(o.mira, counter)
	with := append(slices.Clip(seen), store.Seen{ID: other.ID, Version: other.Version})
	_, err = DecideFamily(t.Context(), o.st, o.approver, OfFamily{f.Key, with}, approval.Approve, "")
	none("one is of another family", err)
	_, err = DecideFamily(t.Context(), o.st, o.approver, OfFamily{f.Key, nil}, approval.Approve, "")
	none("nothing", err)
	o.weigh("brindle-menu-43", func(d *catalog.Display) { d.Mass = quantity.Some(21 * quantity.Kilogram) })
	_, err = DecideFamily(t.Context(), o.st, o.approver, OfFamily{f.Key, seen}, approval.Approve, "")
	none("one went stale a moment ago", err)
	if now := look(); now.Members[0].Stale || !now.Members[1].Stale {
		t.Errorf("%+v", now.Members)
	}
}

// TestFamilyOfMany: an approver decides about what others sent of a family, though they sent more of it themselves, before, than are
// looked at together.
func TestFamilyOfMany(t *testing.T) {
	o := openOffice(t)
	f := o.ranged(crumb, "Brindle Menu 32", "Brindle Menu 43")
	both := subjectsOf(f)
	for i, who := range []people.Person{o.approver, o.mira} {
		if _, err := SubmitFamily(t.Context(), o.st, who, both[i:i+1], ""); err != nil {
			t.Fatal(err)
		}
	}
	db, err := sqlx.Open("sqlite", o.file)
	if err == nil {
		defer db.Close()
		_, err = db.Exec(`WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ?)
			INSERT INTO approval (id, subject, title, state, verdict, document, fingerprint, result, preparer, prepared_by, prepared_at, family)
			SELECT -i, subject || i, title, state, verdict, document, fingerprint, result, preparer, prepared_by, prepared_at, family
			FROM approval, n WHERE id = 1`, maxFamily+5)
	}
	if err != nil {
		t.Fatal(err)
	}
	seen, err := FamilyOf(t.Context(), o.st, o.approver, f.Key)
	if err != nil || len(seen.Members) != 1 || seen.Members[0].ID != 2 || seen.More != maxFamily+6 ||
		!slices.Contains(seen.May, approval.Approve) {
		t.Fatalf("%+v, %v", seen, err)
	}
	all, err := FamilyOf(t.Context(), o.st, o.mira, f.Key)
	if err != nil || all.Members[0].ID != 2 || len(all.Members) != maxFamily || all.More != 7 {
		t.Errorf("%d and %d more, %v", len(all.Members), all.More, err)
	}
	if _, err := DecideFamily(t.Context(), o.st, o.approver, OfFamily{f.Key, seenOf(seen)}, approval.Approve, ""); err != nil {
		t.Error(err)
	}
}

// TestFamilyIsOfOneKind: what has other bolts, steps or findings is not sent along, nor what does not fit, and nothing is sent then.
func TestFamilyIsOfOneKind(t *testing.T) {
	o := openOffice(t)
	f := o.ranged(crumb, "Brindle Menu 32", "Brindle Menu 43")
	on := func(display string) Subject {
		return Subject{Display: display, Bracket: "crumb-15", Wall: catalog.Concrete}
	}
	for what, c := range map[string]struct {
		with []Subject
		path string
	}{"other bolts": {append(subjectsOf(f), on("corvane-loaf-40")), "subjects[2]"},
		"does not fit":    {append(subjectsOf(f), on("skerry-lantern-65")), "subjects[2].display"},
		"no such display": {[]Subject{on("ghost"), on("brindle-menu-43")}, "subjects[0].display"},
		"twice":           {append(subjectsOf(f), subjectsOf(f)[0]), "subjects[2]"}, "none": {nil, "subjects"},
		"too many": {make([]Subject, maxFamily+1), "subjects"}} {
		_, err := SubmitFamily(t.Context(), o.st, o.mira, c.with, "")
		var wrong exchange.Problems
		if !errors.As(err, &wrong) || wrong[0].Path != c.path {
			t.Errorf("%s: %v", what, err)
		}
	}
	if all, err := o.st.Approvals(t.Context()); err != nil || len(all) > 0 {
		t.Errorf("%d were sent, %v", len(all), err)
	}
	// The same bolts, and a finding more.
	o.weigh("brindle-menu-43", func(d *catalog.Display) { d.Origin = catalog.Caller })
	if o.ranged(crumb, "Brindle Menu 32", "Brindle Menu 43") != nil {
		t.Error("one whose figures a caller said is like one that was measured")
	}
}

// TestRangeAfterRevision: what was approved with a bracket and went stale may be sent again together with the range.
func TestRangeAfterRevision(t *testing.T) {
	o := openOffice(t)
	f := o.ranged(crumb, "Brindle Menu 32", "Brindle Menu 43")
	sent, err := SubmitFamily(t.Context(), o.st, o.mira, subjectsOf(f), "")
	if err != nil {
		t.Fatal(err)
	}
	for _, a := range sent {
		o.must(o.approver, a, approval.Approve)
	}
	o.weigh("brindle-menu-43", func(d *catalog.Display) { d.Mass = quantity.Some(11 * quantity.Kilogram) })
	if _, err := RejudgeAll(t.Context(), o.st); err != nil {
		t.Fatal(err)
	}
	again := o.ranged(crumb, "Brindle Menu 32", "Brindle Menu 43")
	if again == nil {
		t.Fatal("no family of two")
	}
	for _, m := range again.Members {
		if is := m.Subject.Display == "brindle-menu-32"; m.Approved != is {
			t.Errorf("%s is approved: %v", m.Title, m.Approved)
		}
	}
	if _, err := RangeOf(t.Context(), o.st, Range{Bracket: "ghost", Wall: catalog.Concrete}); err == nil {
		t.Error("a bracket that is not there")
	}
	narrow := crumb
	narrow.Words = "menu 3"
	if all, err := RangeOf(t.Context(), o.st, narrow); err != nil || len(all) != 1 || len(all[0].Members) != 1 {
		t.Errorf("%+v, %v", all, err)
	}
}

// TestFamilyHasOneReason: the same rule with the same status for another reason is no family: whoever opens a sample would not see it. What
// stands out of the back of the display in testdata/other-reason.json touches the wall before its edge does.
func TestFamilyHasOneReason(t *testing.T) {
	o := openOffice(t)
	raw, err := os.ReadFile("testdata/other-reason.json")
	if err != nil {
		t.Fatal(err)
	}
	c, err := exchange.Read(raw)
	if err == nil {
		_, err = o.st.Import(t.Context(), store.Author{Who: "test"}, "", c, nil, nil)
	}
	if err != nil {
		t.Fatal(err)
	}
	if o.ranged(crumb, "Brindle Menu 32", "Brindle Menu 43") != nil {
		t.Error("what touches with its edge is like what touches with what stands out")
	}
	a, b := o.ranged(crumb, "Brindle Menu 32"), o.ranged(crumb, "Brindle Menu 43")
	if a == nil || b == nil || !slices.Equal(a.Findings, b.Findings) || !slices.Equal(a.Bolts, b.Bolts) {
		t.Errorf("the test shows nothing: they differ otherwise: %+v, %+v", a, b)
	}
}
