package store

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/jmoiron/sqlx"

	"nexufix/core/catalog"
)

// outside computes the hashes as docs/security.md tells, with Python's own JSON and SHA-256: for these entries, of which all texts are
// plain, sorted members without spaces are the form of RFC 8785.
const outside = `
import hashlib, json, sqlite3, sys
prev = ""
for seq, at, person, who, what, about, stored in sqlite3.connect(sys.argv[1]).execute("SELECT seq, at, person, who, what, about, " +
	"hash FROM audit ORDER BY seq"):
    entry = {"about": about, "at": at, "person": person, "prev": prev, "seq": seq, "what": what, "who": who}
    prev = hashlib.sha256(json.dumps(entry, sort_keys=True, separators=(",", ":"), ensure_ascii=False).encode()).hexdigest()
    assert stored in ("", prev), seq
print(prev)
`

// TestAuditIsAChain: an entry that is changed, taken out, put in or moved is found, by the hashes, also among those that are older than
// these; an end that is cut off, or a chain that is written anew, by what was printed of it. A program that knows nothing of ours finds
// the same hashes.
func TestAuditIsAChain(t *testing.T) {
	s, file := open(t)
	ctx := t.Context()
	for n := range 3 { // as before there were hashes
		if _, err := s.db.Exec(`INSERT INTO audit (at, person, who, what, about) VALUES (?, ?, 'Ada', 'signed in', 'ada')`, now(),
			n); err != nil {
			t.Fatal(err)
		}
	}
	for n := range 5 {
		if err := s.Note(ctx, AuditEntry{Who: "Bërt \u2713", What: "exported", About: fmt.Sprintf("<x> \"%d\" \\", n)}); err != nil {
			t.Fatal(err)
		}
	}
	head, why, err := s.CheckAudit(ctx)
	if err != nil || why != "" || head.Seq != 8 {
		t.Fatalf("%v %q %v", head, why, err)
	}
	if now, err := s.AuditHead(ctx); err != nil || now != head {
		t.Errorf("the head is %v, %v", now, err)
	}
	if read, err := ParseHead(head.String()); err != nil || read != head {
		t.Errorf("%v, %v", read, err)
	}
	python := filepath.Join(t.TempDir(), "outside.py")
	if err := os.WriteFile(python, []byte(outside), 0o600); err != nil {
		t.Fatal(err)
	}
	if got, err := exec.Command("python3", python, file).CombinedOutput(); err != nil || strings.TrimSpace(string(got)) != head.Hash {
		t.Errorf("from outside it is %s, %v", got, err)
	}

	whole := filepath.Join(t.TempDir(), "whole.db")
	if err := s.Backup(ctx, whole); err != nil {
		t.Fatal(err)
	}
	for what, c := range map[string]struct{ do, want string }{
		"changed":            {`UPDATE audit SET about = about || '.' WHERE seq = 6`, "entry 6, or one before it"},
		"an old one changed": {`UPDATE audit SET who = 'Bert' WHERE seq = 2`, "entry 4, or one before it"},
		"whose is changed":   {`UPDATE audit SET person = 7 WHERE seq = 2`, "entry 4, or one before it"},
		"taken out":          {`DELETE FROM audit WHERE seq = 5`, "after entry 4 comes 6"},
		"the first":          {`DELETE FROM audit WHERE seq = 1`, "after entry 0 comes 2"},
		"two moved": {`UPDATE audit SET seq = -1 WHERE seq = 6; UPDATE audit SET seq = 6 WHERE seq = 7; UPDATE audit SET seq = 7 WHERE seq = -1`,
			"entry 6, or one before it"},
		"cut off":                    {`DELETE FROM audit WHERE seq >= 8`, "it ends with entry 7"},
		"its hash taken with it":     {`UPDATE audit SET about = '', hash = '' WHERE seq = 8`, "entry 8 is not the one"},
		"all hashes taken with them": {`UPDATE audit SET hash = ''; UPDATE audit SET about = '' WHERE seq = 5`, "entry 8 is not the one"},
	} {
		copied := filepath.Join(t.TempDir(), "copy.db")
		raw, err := os.ReadFile(whole)
		if err == nil {
			err = os.WriteFile(copied, raw, 0o600)
		}
		if err != nil {
			t.Fatal(err)
		}
		db, err := sqlx.Open("sqlite", copied)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := db.Exec(`DROP TRIGGER audit_only_grows; DROP TRIGGER audit_keeps; ` + c.do); err != nil {
			t.Fatal(what, err)
		}
		if err := db.Close(); err != nil {
			t.Fatal(err)
		}
		forged, err := Open(ctx, copied)
		if err != nil {
			t.Fatal(err)
		}
		if _, why, err := forged.CheckAudit(ctx, head); err != nil || !strings.Contains(why, c.want) {
			t.Errorf("%s: %q, %v", what, why, err)
		}
		if err := forged.Close(); err != nil {
			t.Fatal(err)
		}
	}
}

// TestAuditIsFound: by kind, words, time and number, the latest first; whatever is set of the policy is in it where there are accounts.
func TestAuditIsFound(t *testing.T) {
	s, _ := open(t)
	ctx := t.Context()
	a := Author{Who: "Tomas", Policy: true}
	if err := s.UsePolicy(ctx, a, ""); err != nil {
		t.Fatal(err)
	}
	ada, added := Person{Login: "ada", Name: "Ada", Role: "administrator"}, AuditEntry{Who: "Ada", What: "person added", About: "ada"}
	if _, err := s.AddPerson(ctx, ada, true, added); err != nil {
		t.Fatal(err)
	}
	for _, do := range []func() error{
		func() error { return s.SavePolicy(ctx, a, "ours", catalog.DefaultPolicy()) },
		func() error { return s.UsePolicy(ctx, a, "") },
		func() error { return s.Note(ctx, AuditEntry{Who: "Ada", What: "exported", About: "kits"}) },
		func() error { return s.Note(ctx, AuditEntry{What: "sign-in refused", About: "ADA"}) },
	} {
		if err := do(); err != nil {
			t.Fatal(err)
		}
	}
	for want, ask := range map[string]AuditAsk{
		"sign-in refused,exported,policy in use,policy in use,policy set,person added": {},
		"policy in use,policy in use,policy set":                                       {Kind: "policy"},
		"sign-in refused":                                                              {Kind: "sign_ins"},
		"sign-in refused,exported,person added":                                        {Words: "ada"},
		"policy set,person added":                                                      {Before: 3},
		"exported":                                                                     {Words: "KITS", From: "2020", Till: "9"},
		"":                                                                             {From: "9"},
	} {
		ask.Most = 10
		all, err := s.Audit(ctx, ask)
		var got []string
		for _, h := range all {
			got = append(got, h.What)
		}
		if err != nil || strings.Join(got, ",") != want {
			t.Errorf("%+v: %v, %v", ask, got, err)
		}
	}
	if all, err := s.Audit(ctx, AuditAsk{Most: 2}); err != nil || len(all) != 2 {
		t.Errorf("%v, %v", all, err)
	}
}
