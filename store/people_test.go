package store

import (
	"errors"
	"path/filepath"
	"testing"
	"time"
)

// TestBackupsAndPeople: on a new machine a backup brings the people and the audit, and no token; where somebody may
// sign in already it changes nothing of that.
func TestBackupsAndPeople(t *testing.T) {
	ctx := t.Context()
	s, _ := open(t)
	by := AuditEntry{Who: "test", What: "person added", About: "ada"}
	ada, err := s.AddPerson(ctx, Person{Login: "ada", Name: "Ada", Role: "administrator", Password: "a hash"}, true, by)
	if err != nil {
		t.Fatal(err)
	}
	bert, err := s.AddPerson(ctx, Person{Login: "bert", Name: "Bert", Role: "administrator", Password: "a hash"}, false, by)
	if err != nil {
		t.Fatal(err)
	}
	token := Token{Person: ada.ID, Role: "administrator", Until: time.Now().Add(time.Hour).UTC().Format(time.RFC3339Nano)}
	if err := s.AddToken(ctx, "the hash of a token", token, ada.Epoch, by, ""); err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(t.TempDir(), "backup.db")
	if err := s.Backup(ctx, file); err != nil {
		t.Fatal(err)
	}

	if _, err := s.ChangePerson(ctx, bert.ID, by, "", func(p *Person) { p.Disabled = true }); err != nil {
		t.Fatal(err)
	}
	if err := (Sessions{s}).CommitCtx(ctx, "session", []byte("ada's"), time.Now().Add(time.Hour)); err != nil {
		t.Fatal(err)
	}
	if err := s.RestoreFrom(ctx, file); err != nil {
		t.Fatal(err)
	}
	if _, there, err := (Sessions{s}).FindCtx(ctx, "session"); there || err != nil {
		t.Errorf("a session goes on over a restore: %v", err)
	}
	if p, err := s.Person(ctx, bert.ID); err != nil || !p.Disabled {
		t.Errorf("who was shut out is back by a backup: %v, %v", p, err)
	}
	if all, err := s.Audit(ctx, AuditAsk{Most: 10}); err != nil || len(all) != 5 || all[0].What != "backup restored" {
		t.Errorf("the audit has %v, %v", all, err)
	}

	other, _ := open(t) // what happened to the accounts after the backup is not known there
	if err := other.RestoreFrom(ctx, file); err != nil {
		t.Fatal(err)
	}
	if p, err := other.PersonByLogin(ctx, "ADA"); err != nil || p.Password != "a hash" || !p.Disabled {
		t.Errorf("on the new machine she is %v, %v", p, err)
	}
	if _, _, err := other.PersonByToken(ctx, "the hash of a token"); !errors.Is(err, ErrNotFound) {
		t.Errorf("a token came along: %v", err)
	}
	if all, err := other.Audit(ctx, AuditAsk{Most: 10}); err != nil || len(all) != 4 || all[0].What != "backup restored" {
		t.Errorf("the audit has %v, %v", all, err)
	}
}
