package review

import (
	"errors"
	"nexufix/app/people"
	"nexufix/core/approval"
	"nexufix/store"
	"path/filepath"
	"strings"
	"testing"
)

// TestRestoreIsAnEvent: Monday's backup on a new machine does not know what happened on Tuesday. What was withdrawn then is not said to
// be current and nothing is issued of it, until an approver who did not prepare it confirms that it holds; who was shut out then does
// not sign in; and Wednesday's document has not the number of Tuesday's.
func TestRestoreIsAnEvent(t *testing.T) {
	o := openOffice(t)
	ctx := t.Context()
	a := o.must(o.approver, o.submit(o.mira, counter), approval.Approve)
	monday, err := o.issue(o.mira, a, "card")
	if err != nil {
		t.Fatal(err)
	}
	nowhere := Issuer{"", testKey(t)}
	if _, err := IssueDocument(ctx, o.st, o.mira, a.ID, Issue{What: "card", Receiver: "us"}, nowhere); !errors.Is(err, ErrNoAddress) {
		t.Errorf("a code leads nowhere: %v", err)
	}
	key := testKey(t)
	if err := KnowKey(ctx, o.st, key); err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(t.TempDir(), "monday.db")
	if err := o.st.Backup(ctx, file); err != nil {
		t.Fatal(err)
	}
	tuesday, err := o.issue(o.mira, a, "template")
	if err != nil {
		t.Fatal(err)
	}
	o.must(o.admin, a, approval.Withdraw)

	var later []store.Issued
	for range 2 { // the backup may be restored twice
		n := *o
		if n.st, err = store.Open(ctx, filepath.Join(t.TempDir(), "nexufix.db")); err != nil {
			t.Fatal(err)
		}
		t.Cleanup(func() { n.st.Close() })
		if err := KnowKey(ctx, n.st, key); err != nil { // which was brought first
			t.Fatal(err)
		}
		if err := n.st.RestoreFrom(ctx, file); err != nil {
			t.Fatal(err)
		}
		mira := people.Credentials{Login: "mira", Password: "seven loaves on a rail"}
		if _, entry, err := people.SignIn(ctx, n.st, mira, nil); entry != people.Refused || err != nil {
			t.Errorf("somebody signs in whom nobody has let in since: %v", err)
		}
		if a, err = n.st.Approval(ctx, a.ID); err != nil || a.State != approval.Approved {
			t.Fatalf("%s, %v", a.State, err)
		}
		n.standing(monday, InDoubt, "")
		is := false
		for _, who := range []people.Person{o.mira, o.approver} { // an engineer first, then an administrator last: in any order
			if _, err := (&people.PersonChange{Disabled: &is}).Change(ctx, n.st, o.us, who.ID); err != nil {
				t.Fatal(err)
			}
		}
		if _, err := n.issue(o.mira, a, "template"); !errors.Is(err, store.ErrRestored) {
			t.Errorf("a document is issued in doubt: %v", err)
		}
		for _, who := range []people.Person{o.mira, {ID: o.mira.ID, Role: people.Approver}, {ID: o.approver.ID, Role: people.Approver,
			Script: true}} {
			if _, err := n.decide(who, a, approval.Confirm); err == nil {
				t.Errorf("%v confirms", who)
			}
		}
		d, err := DeskOf(ctx, n.st, o.approver)
		if err != nil || len(d.Restored) != 1 || len(May(o.approver, &a, nil)) != 2 {
			t.Errorf("the desk has %v, %v", d.Restored, err)
		}
		all, err := ConfirmReviews(ctx, n.st, o.approver, []store.Seen{{ID: a.ID, Version: a.Version}}, "asked around")
		if err != nil {
			t.Fatal(err)
		}
		n.standing(monday, Current, "")
		if _, err := n.decide(o.approver, all[0], approval.Confirm); !errors.Is(err, store.ErrVersion) {
			t.Errorf("it is confirmed twice: %v", err)
		}
		i, err := n.issue(o.mira, all[0], "template")
		if err != nil {
			t.Fatal(err)
		}
		later = append(later, i)
	}
	if tuesday.Number != later[0].Number[:8]+"00002" || later[0].Number == later[1].Number || !strings.HasSuffix(later[0].Number, "-00002") ||
		len(later[0].Number) != len("NX-2026-K7QD-00002") {
		t.Errorf("numbers %s, %s, %s", tuesday.Number, later[0].Number, later[1].Number)
	}
}
