package review

import (
	"errors"
	"nexufix/app/people"
	"nexufix/core/approval"
	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"nexufix/exchange"
	"nexufix/store"
	"slices"
	"strings"
	"testing"
)

// write saves a changed bracket and job of the catalogue, each by an author; nil changes nothing.
func (o *office) write(by people.Person, bracket string, change func(*catalog.Bracket), job string, move func(*catalog.Job)) {
	o.Helper()
	all, err := o.st.Catalogue(o.Context())
	if err != nil {
		o.Fatal(err)
	}
	save := func(kind, id string, item store.Item, err error) {
		o.Helper()
		if err != nil {
			o.Fatal(err)
		}
		now, err := o.st.Item(o.Context(), kind, id)
		if err == nil {
			_, err = o.st.Save(o.Context(), store.Author{Who: by.Name, Person: by.ID}, item, now.Revision)
		}
		if err != nil {
			o.Fatal(err)
		}
	}
	if change != nil {
		b := *all.Bracket(bracket)
		plate := *b.WallPlate
		plate.Holes = slices.Clone(plate.Holes)
		b.WallPlate = &plate
		change(&b)
		item, err := store.BracketItem(&b)
		save("bracket", bracket, item, err)
	}
	if move != nil {
		for _, j := range all.Jobs {
			if j.ID == job {
				changed := *j
				move(&changed)
				item, err := store.JobItem(&changed)
				save("job", job, item, err)
			}
		}
	}
}

// again sends a subject once more, with what it rests on now.
func (o *office) again(a store.Approval) store.Approval {
	o.Helper()
	o.must(o.mira, a, approval.Withdraw)
	return o.submit(o.mira, counter)
}

// onConcrete is a display on a bracket for any wall of concrete.
var onConcrete = Subject{Display: "brindle-menu-43", Bracket: "crumb-15", Wall: catalog.Concrete}

// TestMovedHolesAreInDoubtAtOnce: all holes of an approved wall plate are moved by 30 mm. Before anybody judges again its template's
// code says so, and no other is issued; put back, it holds. What nothing rests on changes nothing.
func TestMovedHolesAreInDoubtAtOnce(t *testing.T) {
	o := openOffice(t)
	a := o.must(o.approver, o.submit(o.mira, onConcrete), approval.Approve)
	template, err := o.issue(o.mira, a, "template")
	if err != nil {
		t.Fatal(err)
	}
	move := func(by quantity.Length) {
		o.write(people.Person{}, "crumb-15", func(b *catalog.Bracket) {
			for i := range b.WallPlate.Holes {
				b.WallPlate.Holes[i].X += by
			}
		}, "", nil)
	}
	o.standing(template, Current, "")
	move(30 * quantity.Millimetre)
	o.standing(template, InDoubt, "")
	if _, err := o.issue(o.mira, a, "template"); !errors.Is(err, store.ErrStale) {
		t.Errorf("another is issued: %v", err)
	}
	if _, err := RejudgeAll(t.Context(), o.st); err != nil {
		t.Fatal(err)
	}
	o.standing(template, InDoubt, "")
	if now, err := o.st.Approval(t.Context(), a.ID); err != nil || !strings.Contains(now.Stale, `holes[T1].x_mm`) ||
		!strings.Contains(now.Stale, "printed.template") || strings.Contains(now.Stale, `"policy`) {
		t.Errorf("it does not say in what: %s, %v", now.Stale, err)
	}
	move(-30 * quantity.Millimetre)
	o.standing(template, Current, "") // whatever was judged last
	if _, err := RejudgeAll(t.Context(), o.st); err != nil {
		t.Fatal(err)
	}
	o.standing(template, Current, "")
	o.weigh("velmora-pane-49", func(d *catalog.Display) { d.Mass.Value += exchange.KG(quantity.Kilogram) })
	o.standing(template, Current, "")
}

// TestRejudgeGoesOn: while one approval is judged again, something that it does not rest on is saved: what was found is kept. What it
// rests on keeps it back, and is judged the next time, and nothing else is.
func TestRejudgeGoesOn(t *testing.T) {
	o := openOffice(t)
	ctx := t.Context()
	a := o.must(o.approver, o.submit(o.mira, onConcrete), approval.Approve)
	other := o.must(o.approver, o.submit(o.mira, counter), approval.Approve)
	_, begun, err := o.st.CatalogueAt(ctx)
	if err != nil {
		t.Fatal(err)
	}
	version := func(id int64) int64 {
		now, err := o.st.Approval(ctx, id)
		if err != nil {
			t.Fatal(err)
		}
		return now.Version
	}
	found := store.Rejudged{ID: a.ID, Version: a.Version, Was: a.Seen, Seen: "another", Stale: `[]`,
		RestsOn: onConcrete.restsOn(func(string) *catalog.Job { return nil })}
	o.weigh("velmora-pane-49", func(d *catalog.Display) { d.Aliases = []string{"The pane"} })
	if err := o.st.Rejudge(ctx, []store.Rejudged{found}, begun); err != nil || version(a.ID) != a.Version+1 {
		t.Errorf("what nothing rests on keeps it back: %v", err)
	}
	o.write(people.Person{}, "crumb-15", func(b *catalog.Bracket) { b.Name += " II" }, "", nil)
	found.Version++
	if err := o.st.Rejudge(ctx, []store.Rejudged{found}, begun); err != nil || version(a.ID) != a.Version+1 {
		t.Errorf("what it rests on has changed, and it is written: %v", err)
	}
	n, at, err := RejudgeSince(ctx, o.st, &begun, nil)
	if err != nil || n != 2 { // the display's other name, and the bracket's
		t.Errorf("%d judged again, %v", n, err)
	}
	if version(other.ID) != other.Version+1 {
		t.Error("what has another display by name was not looked at")
	}
	if n, _, err := RejudgeSince(ctx, o.st, &at, nil); err != nil || n != 0 {
		t.Errorf("nothing has changed, and %d are judged again: %v", n, err)
	}
}

// TestTwoPeopleAreTwo: who ever sent the subject since it was approved last, and who wrote what it rests on since then, does not
// approve it, by account and not by name.
func TestTwoPeopleAreTwo(t *testing.T) {
	o := openOffice(t)
	own := func(by people.Person, a store.Approval) bool {
		t.Helper()
		_, err := o.decide(by, a, approval.Approve)
		preparers, fault := o.st.Preparers(t.Context(), &a)
		if fault != nil {
			t.Fatal(fault)
		}
		offered := slices.Contains(May(by, &a, preparers), approval.Approve)
		if errors.As(err, new(approval.Own)) == offered {
			t.Errorf("offered: %v; asked: %v", offered, err)
		}
		return !offered
	}
	// Sent, taken back, and sent by somebody else.
	a := o.submit(o.ivor, counter)
	o.must(o.ivor, a, approval.Withdraw)
	a = o.submit(o.mira, counter)
	if !own(o.ivor, a) {
		t.Error("who sent it before approves it")
	}
	o.must(o.approver, a, approval.Approve)
	// That is over with the approval; what is written since is not.
	further := func(j *catalog.Job) { j.Accessories += quantity.Kilogram / 10 }
	o.write(o.approver, "", nil, "mill-lane-counter", further)
	b := o.submit(o.mira, counter)
	if !own(o.approver, b) {
		t.Error("who wrote the job approves it")
	}
	o.write(o.ivor, "crumb-15", func(b *catalog.Bracket) { b.Revision += "x" }, "", nil) // nothing rests on that
	o.write(o.admin, "sill-40", func(b *catalog.Bracket) { b.Revision += "x" }, "", nil)
	b = o.again(b)
	if !own(o.admin, b) {
		t.Error("who wrote the bracket approves it")
	}
	same := o.ivor
	same.Name = o.approver.Name // another account by the same name
	if own(same, b) {
		t.Error("a name is taken for an account, or another bracket for this one")
	}
}

// TestPhotographNowhere: a job whose step shows a photograph that nobody has is not sent.
func TestPhotographNowhere(t *testing.T) {
	o := openOffice(t)
	o.write(people.Person{}, "", nil, "mill-lane-counter", func(j *catalog.Job) {
		j.StepChanges = append(slices.Clone(j.StepChanges), catalog.StepChange{Step: "level", What: "photo",
			Photo: "0123456789abcdef0123456789abcdef"})
	})
	var wrong exchange.Problems
	if _, err := SubmitReview(t.Context(), o.st, o.mira, counter, ""); !errors.As(err, &wrong) {
		t.Errorf("it is sent: %v", err)
	}
}

// TestOneSubjectHasOneKey: the arms where they would be anyway, accessories of nothing, said or not: it is in review already. The arms
// elsewhere are another subject.
func TestOneSubjectHasOneKey(t *testing.T) {
	o := openOffice(t)
	s := Subject{Display: "velmora-pane-49", Bracket: "sill-40", Wall: catalog.Concrete}
	all, err := o.st.Catalogue(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	f, err := new(documents).source(all, s)
	if err != nil {
		t.Fatal(err)
	}
	anyway := f.placeOfArms(exchange.OptMM{})
	o.submit(o.mira, s)
	for what, same := range map[string]Subject{
		"arms as they are":     {TopHoles: quantity.Some(exchange.MM(anyway.Value))},
		"arms nowhere":         {TopHoles: quantity.Some(exchange.MM(3 * quantity.Metre))},
		"no accessories, said": {Accessories: quantity.Some(exchange.KG(0))},
	} {
		same.Display, same.Bracket, same.Wall = s.Display, s.Bracket, s.Wall
		if _, err := SubmitReview(t.Context(), o.st, o.mira, same, ""); !errors.Is(err, store.ErrInReview) {
			t.Errorf("%s: %v", what, err)
		}
	}
	moved := s
	for _, by := range []quantity.Length{10 * quantity.Millimetre, -10 * quantity.Millimetre} {
		moved.TopHoles = quantity.Some(exchange.MM(anyway.Value + by))
		if f.placeOfArms(moved.TopHoles) != anyway {
			break
		}
	}
	if _, err := SubmitReview(t.Context(), o.st, o.mira, moved, ""); err != nil {
		t.Errorf("arms elsewhere: %v", err)
	}
}
