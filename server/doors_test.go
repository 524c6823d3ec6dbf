package server

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/pquerna/otp/totp"

	"nexufix/app/people"
	"nexufix/app/review"
	peopleroutes "nexufix/server/people"
	"nexufix/store"
)

const withPassword = `{"current": "seven loaves on a rail"}`

// codeOf is the code that an authenticator shows so long from now.
func codeOf(t *testing.T, secret string, off time.Duration) string {
	t.Helper()
	code, err := totp.GenerateCode(secret, time.Now().Add(off))
	if err != nil {
		t.Fatal(err)
	}
	return code
}

// authenticate gives an account an authenticator, whose session goes on.
func (d *desk) authenticate(t *testing.T, who *http.Cookie) string {
	t.Helper()
	secret := read[people.Authenticator](t, d.as(who, http.MethodPost, "/api/own/authenticator", withPassword), 200).Secret
	code := `{"code": "` + codeOf(t, secret, 0) + `"}`
	if own := read[peopleroutes.Own](t, d.as(who, http.MethodPost, "/api/own/authenticator/keep", code), 200); !own.Authenticator {
		t.Fatalf("%+v", own)
	}
	return secret
}

// TestSecondFactor: an authenticator is added by the password and a code of it, is asked for after the right password alone, takes each
// code once, and goes by the password again, or by an administrator.
func TestSecondFactor(t *testing.T) {
	d := withPeople(t)
	who, _ := d.signIn("engineer1", "seven loaves on a rail")
	admin, _ := d.signIn("administrator1", "seven loaves on a rail")
	for _, wrong := range []string{`{}`, `{"current": "eight loaves on a rail"}`} {
		if a := d.as(who, http.MethodPost, "/api/own/authenticator", wrong); a.StatusCode != 400 {
			t.Errorf("%s: %d %s", wrong, a.StatusCode, a.body)
		}
	}
	if a := d.as(who, http.MethodPost, "/api/own/authenticator/keep", `{"code": "123456"}`); a.StatusCode != http.StatusConflict {
		t.Errorf("a code before there is a secret: %d", a.StatusCode)
	}
	read[people.Authenticator](t, d.as(who, http.MethodPost, "/api/own/authenticator", withPassword), 200)
	if a := d.as(who, http.MethodPost, "/api/own/authenticator/keep", `{"code": "12345x"}`); a.StatusCode != 400 {
		t.Errorf("a wrong code: %d %s", a.StatusCode, a.body)
	}
	if _, a := d.signIn("engineer1", "seven loaves on a rail"); a.StatusCode != 200 {
		t.Errorf("what was not kept is asked for: %d", a.StatusCode)
	}
	secret := d.authenticate(t, who)

	if a := d.as(who, http.MethodPost, "/api/own/authenticator/keep", `{"code": "`+codeOf(t, secret,
		0)+`"}`); a.StatusCode != http.StatusConflict {
		t.Errorf("the same secret once more: %d %s", a.StatusCode, a.body)
	}

	sign := func(password, code string) answer {
		return d.as(nil, http.MethodPost, "/api/sign-in", fmt.Sprintf(`{"login": "engineer1", "password": %q, "code": %q}`, password, code))
	}
	before, now, after := codeOf(t, secret, -30*time.Second), codeOf(t, secret, 0), codeOf(t, secret, 30*time.Second)
	for _, of := range []struct {
		password, code string
		want           int
		asks           bool
	}{
		{"seven loaves on a rail", "", 401, true}, {"eight loaves on a rail", "", 401, false}, {"eight loaves on a rail", now, 401, false},
		{"seven loaves on a rail", "12345x", 401, false}, {"seven loaves on a rail", now, 200, false},
		{"seven loaves on a rail", now, 401, false}, {"seven loaves on a rail", now[:3] + " " + now[3:], 401, false},
		{"seven loaves on a rail", after, 200, false}, {"seven loaves on a rail", before, 200, false},
	} {
		a := sign(of.password, of.code)
		if a.StatusCode != of.want || strings.Contains(string(a.body), `"code"`) != of.asks || a.StatusCode != 200 && len(a.Cookies()) > 0 {
			t.Errorf("%q with %q: %d %s", of.password, of.code, a.StatusCode, a.body)
		}
	}
	if a := d.as(who, http.MethodPost, "/api/own/authenticator/remove", `{}`); a.StatusCode != 400 {
		t.Errorf("removed without the password: %d", a.StatusCode)
	}
	own := read[peopleroutes.Own](t, d.as(who, http.MethodPost, "/api/own/authenticator/remove", withPassword), 200)
	if own.Authenticator || len(own.Sessions) != 1 { // the other sessions have ended
		t.Errorf("%+v", own)
	}
	if a := sign("seven loaves on a rail", ""); a.StatusCode != 200 {
		t.Errorf("without it: %d %s", a.StatusCode, a.body)
	}
	d.authenticate(t, who)
	if a := d.as(admin, http.MethodPost, "/api/people/2", `{"noSecond": true}`); a.StatusCode != 200 {
		t.Fatalf("%d %s", a.StatusCode, a.body)
	}
	if a := sign("seven loaves on a rail", ""); a.StatusCode != 200 || d.as(who, http.MethodGet, "/api/own", "").StatusCode != 401 {
		t.Errorf("after a lost telephone: %d %s", a.StatusCode, a.body)
	}
	if a := d.as(who, http.MethodPost, "/api/people/4", `{"noSecond": true}`); a.StatusCode != 401 {
		t.Errorf("%d", a.StatusCode)
	}
}

// TestSecondIsNeeded: where a role needs a second factor, nothing is done before there is one; a lower role, and who comes by the identity
// provider, is not asked.
func TestSecondIsNeeded(t *testing.T) {
	d := withPeople(t)
	d.srv.door.Second = people.Approver
	for login, needs := range map[string]bool{"reader1": false, "engineer1": false, "approver1": true, "administrator1": true} {
		who, _ := d.signIn(login, "seven loaves on a rail")
		a := d.as(who, http.MethodGet, "/api/displays", "")
		if said := strings.Contains(string(a.body), "second factor first"); said != needs || needs == (a.StatusCode == 200) {
			t.Errorf("%s: %d %s", login, a.StatusCode, a.body)
		}
		if me := read[peopleroutes.Me](t, d.as(who, http.MethodGet, "/api/me", ""), 200); me.NoSecond != needs {
			t.Errorf("%s: %+v", login, me)
		}
		if login != "administrator1" {
			continue
		}
		if a := d.as(who, http.MethodPost, "/api/people/1", `{"role": "engineer"}`); a.StatusCode != 403 {
			t.Errorf("changes another: %d", a.StatusCode)
		}
		d.authenticate(t, who)
		if a := d.as(who, http.MethodGet, "/api/people", ""); a.StatusCode != 200 {
			t.Errorf("with one: %d %s", a.StatusCode, a.body)
		}
		if a := d.as(who, http.MethodPost, "/api/own/authenticator/remove", withPassword); a.StatusCode != 200 {
			t.Errorf("%d %s", a.StatusCode, a.body)
		}
		if a := d.as(who, http.MethodGet, "/api/people", ""); a.StatusCode != 403 {
			t.Errorf("without it again: %d %s", a.StatusCode, a.body)
		}
		// A passkey is no second factor of who shows the password alone.
		if _, err := d.srv.store.ChangePerson(t.Context(), 4, store.AuditEntry{Who: "test", What: "person changed"}, "", func(p *store.Person) {
			p.Keys = store.Passkeys{{ID: "x", Name: "a key", Data: []byte("{}")}}
		}); err != nil {
			t.Fatal(err)
		}
		if _, a := d.signIn(login, "seven loaves on a rail"); a.StatusCode != 401 || !strings.Contains(string(a.body), "with your passkey") {
			t.Errorf("by the password alone: %d %s", a.StatusCode, a.body)
		}
	}
}

// TestOwnSessions: people see where they are signed in, by browser and address, and end one, or all the others; nobody else's.
func TestOwnSessions(t *testing.T) {
	d := withPeople(t)
	from := func(agent string) *http.Cookie {
		r := httptest.NewRequest(http.MethodPost, deskAt+"/api/sign-in",
			strings.NewReader(`{"login": "engineer1", "password": "seven loaves on a rail"}`))
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set("User-Agent", agent)
		for _, c := range d.send(r).Cookies() {
			if c.Name == "nexufix" {
				return c
			}
		}
		t.Fatal("no session")
		return nil
	}
	desk := from("Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0")
	phone := from("Mozilla/5.0 (Linux; Android 15) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Mobile Safari/537.36")
	script := from("curl/8.0\x00" + strings.Repeat("<", 5000))
	other, _ := d.signIn("reader1", "seven loaves on a rail")
	own := read[peopleroutes.Own](t, d.as(desk, http.MethodGet, "/api/own", ""), 200)
	names, these := []string{}, 0
	for _, s := range own.Sessions {
		names = append(names, s.By)
		if s.This {
			these++
			if s.By != "Firefox on Linux" || s.From != "127.0.0.1" || s.Began == "" {
				t.Errorf("%+v", s)
			}
		}
	}
	if slices.Sort(names); these != 1 || strings.Join(names, ", ") != "Chrome on Android, Firefox on Linux, a program" {
		t.Errorf("%d of %v", these, names)
	}
	theirs := read[peopleroutes.Own](t, d.as(other, http.MethodGet, "/api/own", ""), 200).Sessions
	if len(theirs) != 1 {
		t.Fatalf("%+v", theirs)
	}
	if a := d.as(desk, http.MethodPost, "/api/own/sessions/end", `{"id": "`+theirs[0].ID+`"}`); a.StatusCode != 404 {
		t.Errorf("another's: %d", a.StatusCode)
	}
	id := own.Sessions[slices.IndexFunc(own.Sessions, func(s peopleroutes.Session) bool { return s.By == "Chrome on Android" })].ID
	if left := read[peopleroutes.Own](t, d.as(desk, http.MethodPost, "/api/own/sessions/end", `{"id": "`+id+`"}`), 200).Sessions; len(left) != 2 {
		t.Errorf("%+v", left)
	}
	look := func(c *http.Cookie) int { return d.as(c, http.MethodGet, "/api/displays", "").StatusCode }
	if look(phone) != 401 || look(script) != 200 {
		t.Error("the wrong session ended")
	}
	read[peopleroutes.Own](t, d.as(desk, http.MethodPost, "/api/own/sessions/end", `{}`), 200)
	if look(desk) != 200 || look(script) != 401 || look(other) != 200 {
		t.Error("all but this one are to end, and nobody else's")
	}
	for range 60 { // and there is an end to them
		from("Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0")
	}
	last := from("Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0")
	n := len(read[peopleroutes.Own](t, d.as(last, http.MethodGet, "/api/own", ""), 200).Sessions)
	if n != 50 || look(desk) != 401 || look(other) != 200 {
		t.Errorf("%d sessions of one person; the first is answered %d", n, look(desk))
	}
	audit, err := d.srv.store.Audit(t.Context(), store.AuditAsk{Kind: "sign_ins", Words: "of engineer1", Most: 10})
	if err != nil || len(audit) != 2 {
		t.Errorf("%+v, %v", audit, err)
	}
}

// TestTokensAreSeen: a token does what it is for; its last use is seen; its person ends it, or an administrator, and nobody else.
func TestTokensAreSeen(t *testing.T) {
	d := withPeople(t)
	admin, _ := d.signIn("administrator1", "seven loaves on a rail")
	who, _ := d.signIn("engineer1", "seven loaves on a rail")
	other, _ := d.signIn("reader1", "seven loaves on a rail")
	give := func(by *http.Cookie, body string) answer { return d.as(by, http.MethodPost, "/api/tokens", body) }
	const stock = `{"login": "engineer1", "name": "stock list", "role": "engineer", "acts": ["look"], "days": 30}`
	if a := give(who, stock); a.StatusCode != 403 {
		t.Errorf("an engineer gives one: %d", a.StatusCode)
	}
	for wrong, path := range map[string]string{
		strings.Replace(stock, `"look"`, `"approve"`, 1):     "acts[0]",
		strings.Replace(stock, `"look"`, `"password"`, 1):    "acts[0]",
		strings.Replace(stock, `30`, `367`, 1):               "days",
		strings.Replace(stock, `30`, `0`, 1):                 "days",
		strings.Replace(stock, `stock list`, "a\\nb", 1):     "name",
		strings.Replace(stock, `"engineer"`, `"manager"`, 1): "role",
	} {
		if a := give(admin, wrong); a.StatusCode != 400 || !strings.Contains(string(a.body), `"`+path+`"`) {
			t.Errorf("%s: %d %s", wrong, a.StatusCode, a.body)
		}
	}
	text := read[peopleroutes.Text](t, give(admin, stock), 200).Text
	seen := func(c *http.Cookie) []people.GivenToken {
		return read[peopleroutes.Own](t, d.as(c, http.MethodGet, "/api/own", ""), 200).Tokens
	}
	if all := seen(who); len(all) != 1 || all[0].Used != "" || all[0].Name != "stock list" || len(seen(admin)) != 0 {
		t.Fatalf("%+v", all)
	}
	by := func(method, path, body string) answer {
		r := httptest.NewRequest(method, deskAt+path, strings.NewReader(body))
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set("Authorization", "Bearer "+text)
		return d.send(r)
	}
	if a := by(http.MethodGet, "/api/catalogue", ""); a.StatusCode != 200 {
		t.Errorf("%d", a.StatusCode)
	}
	for _, path := range []string{"/api/merge", "/api/own/sessions/end", "/api/own/authenticator"} {
		if a := by(http.MethodPost, path, `{}`); a.StatusCode != 403 {
			t.Errorf("%s by a token for looking: %d %s", path, a.StatusCode, a.body)
		}
	}
	all := seen(who)
	used, err := time.Parse(time.RFC3339Nano, all[0].Used)
	if err != nil || time.Since(used) > time.Minute {
		t.Errorf("used %q: %v", all[0].Used, err)
	}
	by(http.MethodGet, "/api/catalogue", "")
	if again := seen(who)[0].Used; again != all[0].Used {
		t.Errorf("each use is written: %s, %s", all[0].Used, again)
	}
	end := func(c *http.Cookie) int {
		return d.as(c, http.MethodPost, fmt.Sprintf("/api/tokens/%d/end", all[0].ID), "").StatusCode
	}
	if got := end(other); got != 404 {
		t.Errorf("another ends it: %d", got)
	}
	if got := end(who); got != 200 || by(http.MethodGet, "/api/catalogue", "").StatusCode != 401 {
		t.Errorf("its person ends it: %d", got)
	}
	text = read[peopleroutes.Text](t, give(admin, `{"login": "administrator1", "role": "administrator", "acts": ["people"], "days": 1}`), 200).Text
	if a := by(http.MethodPost, "/api/tokens", stock); a.StatusCode != 403 {
		t.Errorf("a token gives a token: %d %s", a.StatusCode, a.body)
	}
	if a := d.as(admin, http.MethodPost, "/api/tokens/2/end", ""); a.StatusCode != 200 {
		t.Errorf("%d %s", a.StatusCode, a.body)
	}
	text = read[peopleroutes.Text](t, give(admin, stock), 200).Text
	all = read[[]people.GivenToken](t, d.as(admin, http.MethodGet, "/api/tokens", ""), 200)
	if len(all) != 1 || end(admin) != 200 || by(http.MethodGet, "/api/catalogue", "").StatusCode != 401 {
		t.Errorf("an administrator ends it: %+v", all)
	}
}

// TestAccountsAreMailed: what is changed of an account is written to its mail address with the change, to the old one as well where that is
// what changes, and sent once; what cannot be sent waits.
func TestAccountsAreMailed(t *testing.T) {
	d := withPeople(t)
	admin, _ := d.signIn("administrator1", "seven loaves on a rail")
	folder := filepath.Join(t.TempDir(), "mail")
	sent := func() (out []string) {
		t.Helper()
		if err := review.SendOut(t.Context(), d.srv.store, folder); err != nil {
			t.Fatal(err)
		}
		files, err := filepath.Glob(folder + "/*.eml")
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range files {
			raw, err := os.ReadFile(f)
			if err != nil {
				t.Fatal(err)
			}
			out = append(out, string(raw))
			if err := os.Remove(f); err != nil {
				t.Fatal(err)
			}
		}
		return out
	}
	change := func(by *http.Cookie, body string, want int) {
		t.Helper()
		if a := d.as(by, http.MethodPost, "/api/people/2", body); a.StatusCode != want {
			t.Errorf("%s: %d %s", body, a.StatusCode, a.body)
		}
	}
	change(admin, `{"role": "reader"}`, 200)
	if got := sent(); got != nil {
		t.Errorf("without an address: %v", got)
	}
	who, _ := d.signIn("engineer1", "seven loaves on a rail")
	for _, wrong := range []string{`"mail": "engineer@desk.example"`, `"mail": "no address", "current": "seven loaves on a rail"`,
		`"mail": "a@b.example\r\nBcc: c@d.example", "current": "seven loaves on a rail"`} {
		change(who, `{`+wrong+`}`, 400)
	}
	change(who, `{"mail": "Somebody <engineer@desk.example>", "current": "seven loaves on a rail"}`, 200)
	if a := d.as(who, http.MethodGet, "/api/own", ""); a.StatusCode != 200 || !strings.Contains(string(a.body),
		`"mail":"engineer@desk.example"`) {
		t.Errorf("the session, and the address without its name: %d %s", a.StatusCode, a.body)
	}
	sent()
	read[peopleroutes.Text](t, d.as(admin, http.MethodPost, "/api/tokens", `{"login": "engineer1", "role": "reader", "days": 1}`), 200)
	change(admin, `{"role": "engineer"}`, 200)
	change(admin, `{"sso": true}`, 200)
	change(admin, `{"sso": false}`, 200)
	change(admin, `{"password": "eight ladders at a wall"}`, 200)
	change(admin, `{"mail": "other@desk.example"}`, 200)
	got := sent()
	for i, words := range []string{"token given", "role engineer", "single sign-on", "no single sign-on", "password", "mail address",
		"mail address"} {
		if i >= len(got) || !strings.Contains(got[i], words) || !strings.Contains(got[i], "engineer1") {
			t.Fatalf("%d of %d mails: %q, wanted %q", i, len(got), got[min(i, len(got)-1)], words)
		}
	}
	if len(got) != 7 || !strings.Contains(got[5], "To: <engineer@") || !strings.Contains(got[6], "To: <other@") {
		t.Errorf("%d mails, %q", len(got), got)
	}
	if strings.Contains(strings.Join(got, ""), "ladders") {
		t.Error("the password is in a mail")
	}
	who, _ = d.signIn("engineer1", "eight ladders at a wall")
	change(who, `{"password": "nine sleepers in a shed", "current": "eight ladders at a wall"}`, 200) // which was given
	who, _ = d.signIn("engineer1", "nine sleepers in a shed")
	for n := range 12 { // nobody mails the world through it
		want := 200
		if n > 6 { // three were before
			want = 429
		}
		change(who, fmt.Sprintf(`{"mail": "somebody%d@elsewhere.example", "current": "nine sleepers in a shed"}`, n), want)
	}
	sent()
	change(admin, `{"disabled": true}`, 200)
	if err := os.WriteFile(folder+"2", nil, 0o600); err != nil {
		t.Fatal(err)
	}
	if err := review.SendOut(t.Context(), d.srv.store, folder+"2"); err == nil {
		t.Error("it is sent into no folder")
	}
	if again := sent(); len(again) != 1 || !strings.Contains(again[0], "disabled") {
		t.Errorf("what could not be sent: %q", again)
	}
}

// TestPasskeysRefused: what is no passkey, comes too late, or was asked for by a number for a name; whom the identity provider knows gets
// no way round it. That they sign in with one is seen in the browser (e2e).
func TestPasskeysRefused(t *testing.T) {
	d := withPeople(t)
	who, _ := d.signIn("engineer1", "seven loaves on a rail")
	named := func(c *http.Cookie, path, body string) answer {
		r := httptest.NewRequest(http.MethodPost, "http://localhost:8460"+path, strings.NewReader(body))
		r.Header.Set("Content-Type", "application/json")
		if c != nil {
			r.AddCookie(c)
		}
		return d.send(r)
	}
	if a := d.as(who, http.MethodPost, "/api/own/passkey", withPassword); a.StatusCode != http.StatusConflict {
		t.Errorf("by a number: %d %s", a.StatusCode, a.body)
	}
	if a := named(who, "/api/own/passkey", `{}`); a.StatusCode != 400 {
		t.Errorf("without the password: %d %s", a.StatusCode, a.body)
	}
	const shown = `{"name": "a key", "credential": "{\"id\": \"x\"}"}`
	if a := named(who, "/api/own/passkey/keep", shown); a.StatusCode != http.StatusConflict {
		t.Errorf("before it was begun: %d %s", a.StatusCode, a.body)
	}
	if a := named(who, "/api/own/passkey", withPassword); a.StatusCode != 200 || !strings.Contains(string(a.body), `"challenge"`) {
		t.Errorf("%d %s", a.StatusCode, a.body)
	}
	if a := named(who, "/api/own/passkey/keep", shown); a.StatusCode != 401 {
		t.Errorf("no passkey: %d %s", a.StatusCode, a.body)
	}
	if a := named(nil, "/api/sign-in/passkey/shown", shown); a.StatusCode != http.StatusConflict {
		t.Errorf("a sign-in that was not begun: %d %s", a.StatusCode, a.body)
	}
	begun := named(nil, "/api/sign-in/passkey", "")
	if begun.StatusCode != 200 || len(begun.Cookies()) != 1 {
		t.Fatalf("%d %s", begun.StatusCode, begun.body)
	}
	for _, want := range []int{401, 409} { // and once
		if a := named(begun.Cookies()[0], "/api/sign-in/passkey/shown", shown); a.StatusCode != want {
			t.Errorf("no passkey: %d %s", a.StatusCode, a.body)
		}
	}
	n := people.NewPerson{Identity: people.Identity{Login: "sso1", Name: "Somebody"}, Role: people.Engineer, SSO: true}
	p, err := n.Add(t.Context(), d.srv.store, people.Person{Name: "test", Role: people.Administrator}, false)
	if err != nil {
		t.Fatal(err)
	}
	by, none := people.PersonOf(&p), "-"
	password := "seven loaves on a rail"
	if err := people.MayOwn(t.Context(), d.srv.store, by, &none); err == nil {
		t.Error("a way round the identity provider")
	}
	if _, err := (&people.PersonChange{Password: &password, Current: &none}).Change(t.Context(), d.srv.store, by, p.ID); err == nil {
		t.Error("a password beside the identity provider")
	}
}
