package main

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"nexufix/app/people"
	"nexufix/app/review"
	"nexufix/core/approval"
	"nexufix/demo"
	"nexufix/seal"
	"nexufix/store"
	"nexufix/version"
)

// TestUser: somebody is added with a password from standard input, changed and shut out; what is wrong is said with
// its path, and the last administrator stays one.
func TestUser(t *testing.T) {
	dir := t.TempDir()
	good := "seven loaves on a rail\n"
	for _, c := range []struct {
		stdin string
		args  string
		code  int
		says  string
	}{
		{good, "user add ada --name Ada --role administrator", 0, "ada may sign in, as administrator"},
		{good, "user add ADA --name Other", exitBadInput, "login: is taken"},
		{"short\n", "user add mira --name Mira", exitBadInput, "password: has 5 letters"},
		{"", "user add mira --name Mira", exitBadInput, "a password is expected"},
		{good, "user add m!ra --name Mira", exitBadInput, "login: \"m!ra\"; allowed"},
		{good, "user add mira --name Mira", 0, "as engineer"},
		{"", "user role mira king", exitBadInput, "king"},
		{"", "user role mira approver", 0, ""},
		{"", "user disable mira", 0, ""},
		{"", "user list", 0, `"role": "approver",` + "\n      " + `"disabled": true`},
		{"", "user enable mira", 0, ""},
		{"eight loaves on a rail\n", "user password mira", 0, ""},
		{"", "user disable ada", exitBadInput, "last administrator"},
		{"", "user role ghost reader", exitBadInput, "ghost"},
		{"", "user add otto --name Otto --sso", 0, "as engineer"},
		{"", "user list", 0, `"single_sign_on": true`},
		{"", "user sso otto --off", 0, ""},
		{"", "user list", 0, `"login": "otto"`},
		{"", "user sso ghost", exitBadInput, "ghost"},
	} {
		code, out, errs := callWith(c.stdin, append(strings.Fields(c.args), "--data", dir)...)
		if code != c.code || !strings.Contains(out+errs, c.says) {
			t.Errorf("%s: %d %s%s", c.args, code, out, errs)
		}
	}
}

// TestNobodyIsLetInFromElsewhere: where others can reach it, the server does not start without an administrator.
func TestNobodyIsLetInFromElsewhere(t *testing.T) {
	for args, says := range map[string]string{
		"serve --addr 0.0.0.0:0":                       "nexufix user add",
		"serve --addr 127.0.0.1:0 --host desk.example": "nexufix user add", // a proxy hands on what others ask
		"demo --alone --addr 0.0.0.0:0":                "nexufix user add",
		"demo --addr 0.0.0.0:0":                        "one press",
		"demo --addr 127.0.0.1:0 --host desk.example":  "one press",
	} {
		code, _, errs := call(append(strings.Fields(args), "--data", t.TempDir())...)
		if code != exitBadInput || !strings.Contains(errs, says) {
			t.Errorf("%s: %d %s", args, code, errs)
		}
	}
}

// TestSSOSettings: an identity provider that would get its secret in the clear, or is half set up, is refused before anything listens.
func TestSSOSettings(t *testing.T) {
	secret := filepath.Join(t.TempDir(), "secret")
	if err := os.WriteFile(secret, []byte("between two\n"), 0o600); err != nil {
		t.Fatal(err)
	}
	whole := "--sso-issuer https://idp.example --sso-client x --sso-secret-file " + secret
	for args, says := range map[string]string{
		"--sso-issuer http://idp.example --sso-client x --sso-secret-file " + secret: "does not begin with https",
		"--sso-client x":                   "need --sso-issuer",
		"--sso-issuer https://idp.example": "needs --sso-secret-file",
		"--sso-issuer https://idp.example --sso-client x --sso-secret-file /none": "no such file",
		"--sso-issuer https://idp.example --sso-secret-file " + secret:            "client id and a secret",
		whole + " --sso-claim nickname":                                           "not \"nickname\"",
		whole + " --with-simulated-idp":                                           "not both",
		"--with-simulated-idp --host desk.example":                                "no administrator",
		"--idle=-5m":        "from 1m to 12h",
		"--base-path desk":  "a path as /nexufix",
		"--base-path /a//b": "a path as /nexufix",
		"--base-path /<b>":  "a path as /nexufix",
		"--idle 13h":        "from 1m to 12h",
	} {
		code, _, errs := call(append(strings.Fields("serve --addr 127.0.0.1:0 "+args), "--data", t.TempDir())...)
		if code != exitBadInput || !strings.Contains(errs, says) {
			t.Errorf("%s: %d %s", args, code, errs)
		}
	}
}

// issuedDemo is the demo with its people, its approvals and what was issued of them, and the key that signed it.
func issuedDemo(t *testing.T) (*store.Store, *seal.Key) {
	t.Helper()
	st, err := store.Open(t.Context(), filepath.Join(demoFolder(t), "nexufix.db"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { st.Close() })
	for _, p := range demoPeople() {
		if _, err := p.Add(t.Context(), st, people.Person{Name: "demo", Role: people.Administrator}, false); err != nil {
			t.Fatal(err)
		}
	}
	key, err := seal.Load(t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	if err := demoApprovals(t.Context(), st, review.Issuer{Base: "http://127.0.0.1:8460", Key: key}); err != nil {
		t.Fatal(err)
	}
	return st, key
}

// TestDemoShowsEachState: the demo has an approval in each state, one that is stale, and documents that were issued.
func TestDemoShowsEachState(t *testing.T) {
	st, _ := issuedDemo(t)
	all, err := st.Approvals(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	seen := map[approval.State]int{}
	stale := 0
	for _, a := range all {
		seen[a.State]++
		if a.Stale != "" {
			stale++
		}
	}
	if len(seen) != 5 || stale != 1 {
		t.Errorf("the states are %v, %d are stale", seen, stale)
	}
	if issued, err := st.IssuedOf(t.Context(), 0, 10); err != nil || len(issued) != 3 {
		t.Errorf("%d documents are issued, %v", len(issued), err)
	}
}

// TestVerifyByItsVersion: the version that made a document is found by its commit among those that are kept, and says what it finds; where
// it is not kept, that is said.
func TestVerifyByItsVersion(t *testing.T) {
	st, key := issuedDemo(t)
	issued, err := st.IssuedOf(t.Context(), 0, 1)
	if err != nil {
		t.Fatal(err)
	}
	whole, err := st.IssuedFile(t.Context(), issued[0].ID)
	if err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	pdf, keys := filepath.Join(dir, "issued.pdf"), filepath.Join(dir, "keys.pem")
	words := strings.Fields(version.Of())
	kept := filepath.Join(dir, "nexufix-"+words[len(words)-1])
	for file, text := range map[string]string{pdf: string(whole.File), keys: key.Public().PEM()} {
		if err := os.WriteFile(file, []byte(text), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	verify := []string{"verify", pdf, "--key", keys, "--dist", dir}
	if code, _, said := call(verify...); code != 2 || !strings.Contains(said, "is not kept there") {
		t.Errorf("%d %s", code, said)
	}
	const script = `#!/bin/sh
echo "{\"verdict_now\": \"as it was, of $2 by $4\", \"differs\": []}"
`
	if err := os.WriteFile(kept, []byte(script), 0o700); err != nil {
		t.Fatal(err)
	}
	if out := must(t, verify...); !strings.Contains(out, `"verdict_now": "as it was, of `+pdf+` by `+keys+`"`) {
		t.Error(out)
	}
}

// TestOneWriter: a second server that would write in the same folder is refused with words, one that reads is not; a command beside it
// writes all the same, and what it says of the demo's data is kept when the demo starts again.
func TestOneWriter(t *testing.T) {
	dir := t.TempDir()
	first, _ := serving(t, dir, 0)
	code, _, errs := call("serve", "--addr", "127.0.0.1:0", "--data", dir)
	if code != exitBadInput || !strings.Contains(errs, "another server writes") {
		t.Errorf("%d %s", code, errs)
	}
	if code, _, errs := call("import", "--data", dir, example); code != 0 {
		t.Errorf("a command beside it: %d %s", code, errs)
	}
	if err := first.Process.Kill(); err != nil {
		t.Fatal(err)
	}
	_ = first.Wait() // it was killed
	st, err := store.Open(t.Context(), filepath.Join(dir, "nexufix.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	contents, err := demo.Contents()
	if err != nil {
		t.Fatal(err)
	}
	before, at, err := st.CatalogueAt(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	if err := (&opening{first: contents}).fill(t.Context(), st, dir, review.Issuer{}, false); err != nil {
		t.Fatal(err)
	}
	if now, then, err := st.CatalogueAt(t.Context()); err != nil || now != before || then != at {
		t.Errorf("the demo's data were put over it: %v", err)
	}
}
