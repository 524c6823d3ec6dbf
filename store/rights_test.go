package store

import (
	"errors"
	"testing"

	"nexufix/core/catalog"
	"nexufix/exchange"
)

// TestWriterHasTheRole: what is written for an account is asked of the account as it is in that transaction, whichever way it is written:
// one that was shut out, or is a reader now, saves, imports, undoes, merges, restores and sets nothing, and makes no account.
func TestWriterHasTheRole(t *testing.T) {
	s, _ := open(t)
	ctx := t.Context()
	ids := map[string]int64{}
	for _, p := range []Person{{Login: "ada", Role: "administrator"}, {Login: "eve", Role: "engineer"}, {Login: "rita", Role: "reader"},
		{Login: "dora", Role: "approver", Disabled: true}} {
		p.Name = p.Login
		made, err := s.AddPerson(ctx, p, false, AuditEntry{Who: "test", What: "person added"})
		if err == nil && p.Disabled {
			_, err = s.ChangePerson(ctx, made.ID, AuditEntry{Who: "test", What: "person changed"}, "", func(p *Person) { p.Disabled = true })
		}
		if err != nil {
			t.Fatal(err)
		}
		ids[p.Login] = made.ID
	}
	many(t, s, 3)
	all, err := s.Catalogue(ctx)
	if err != nil {
		t.Fatal(err)
	}
	old, gone := all.Displays[0], all.Displays[1]
	history, err := s.History(ctx, "display", old.ID, 10, 0)
	if err != nil {
		t.Fatal(err)
	}
	batches, err := s.Batches(ctx, 10)
	if err != nil || len(batches) == 0 {
		t.Fatal(batches, err)
	}
	item, err := DisplayItem(display("new", "New", 500))
	if err != nil {
		t.Fatal(err)
	}
	kept, err := DisplayItem(old)
	if err != nil {
		t.Fatal(err)
	}
	p := catalog.DefaultPolicy()
	ways := func(a Author) map[string]func() error {
		return map[string]func() error{
			"save":   func() error { _, err := s.Save(ctx, a, item, 0); return err },
			"delete": func() error { return s.Delete(ctx, a, "display", old.ID, 1) },
			"import": func() error {
				_, err := s.Import(ctx, a, "x", &exchange.Contents{Displays: []*catalog.Display{old}}, nil, nil)
				return err
			},
			"undo":    func() error { _, err := s.Undo(ctx, a, batches[0].ID); return err },
			"merge":   func() error { _, err := s.Merge(ctx, a, kept, gone.ID, all); return err },
			"restore": func() error { _, err := s.RestoreRevision(ctx, a, history[0].Seq); return err },
			"policy":  func() error { return s.SavePolicy(ctx, a, "ours", p) },
			"use":     func() error { return s.UsePolicy(ctx, a, "") },
		}
	}
	before := string(exported(t, s))
	for _, login := range []string{"rita", "dora"} {
		for what, do := range ways(Author{Who: login, Person: ids[login], Policy: true}) {
			if err := do(); !errors.Is(err, ErrShutOut) {
				t.Errorf("%s by %s: %v", what, login, err)
			}
		}
	}
	if string(exported(t, s)) != before {
		t.Error("something is written all the same")
	}
	var no exchange.Problems
	if err := ways(Author{Who: "eve", Person: ids["eve"], Policy: true})["policy"](); !errors.As(err, &no) {
		t.Errorf("an engineer sets the policy: %v", err)
	}
	for _, login := range []string{"eve", "rita", "dora"} {
		by := AuditEntry{Who: login, What: "person changed"}
		by.Person.Int64, by.Person.Valid = ids[login], true
		if _, err := s.AddPerson(ctx, Person{Login: "zed", Name: "Zed", Role: "administrator"}, false, by); !errors.Is(err, ErrShutOut) {
			t.Errorf("%s adds somebody: %v", login, err)
		}
		if _, err := s.ChangePerson(ctx, ids["ada"], by, "", func(p *Person) { p.Role = "reader" }); !errors.Is(err, ErrShutOut) {
			t.Errorf("%s changes another: %v", login, err)
		}
	}
	if err := ways(Author{Who: "ada", Person: ids["ada"], Policy: true})["save"](); err != nil {
		t.Error(err)
	}
}
