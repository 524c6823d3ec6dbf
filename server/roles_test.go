package server

import (
	"encoding/json"
	"fmt"
	"maps"
	"net/http"
	"net/http/httptest"
	"os"
	"reflect"
	"strconv"
	"strings"
	"testing"

	"nexufix/app/imports"
	"nexufix/app/people"
	"nexufix/core/rights"
	peopleroutes "nexufix/server/people"
	"nexufix/store"
)

// with is a desk whose people are those of all roles; their logins are their roles.
func withPeople(t *testing.T) *desk {
	t.Helper()
	d := newDesk(t)
	for _, role := range rights.Roles {
		n := people.NewPerson{Identity: people.Identity{Login: string(role) + "1", Name: "Somebody",
			Password: "seven loaves on a rail"}, Role: role}
		if _, err := n.Add(t.Context(), d.srv.store, people.Person{Name: "test", Role: people.Administrator}, false); err != nil {
			t.Fatal(err)
		}
	}
	return d
}

func (d *desk) as(cookie *http.Cookie, method, path, body string) answer {
	r := httptest.NewRequest(method, "http://127.0.0.1:8460"+path, strings.NewReader(body))
	r.Header.Set("Content-Type", "application/json")
	if cookie != nil {
		r.AddCookie(cookie)
	}
	return d.send(r)
}

func (d *desk) signIn(login, password string) (*http.Cookie, answer) {
	a := d.as(nil, http.MethodPost, "/api/sign-in", `{"login": "`+login+`", "password": "`+password+`"}`)
	for _, c := range a.Cookies() {
		if c.Name == "nexufix" {
			return c, a
		}
	}
	return nil, a
}

// TestEveryOperationByRole walks all operations with each role and with none: who lacks the role is refused
// before anything is read, who has it is not.
func TestEveryOperationByRole(t *testing.T) {
	d := withPeople(t)
	cookies := map[people.Role]*http.Cookie{people.Nobody: nil}
	for _, role := range rights.Roles {
		cookie, a := d.signIn(string(role)+"1", "seven loaves on a rail")
		if cookie == nil {
			t.Fatalf("%s is not signed in: %d %s", role, a.StatusCode, a.body)
		}
		if !cookie.HttpOnly || cookie.SameSite != http.SameSiteLaxMode {
			t.Errorf("the cookie is %v", cookie)
		}
		cookies[role] = cookie
	}
	routes := d.srv.features()
	for _, r := range routes {
		if r.Path == "/api/sign-out" {
			continue // it ends the session
		}
		path := strings.NewReplacer("{id}", "0", "{kind}", "job").Replace(r.Path)
		for role, cookie := range cookies {
			if r.Kind == "text/event-stream" && role.May(r.Needs()) {
				continue // it has no end
			}
			a := d.as(cookie, r.Method, path, "{")
			refused := a.StatusCode == http.StatusUnauthorized || a.StatusCode == http.StatusForbidden || a.StatusCode == http.StatusSeeOther
			if refused == role.May(r.Needs()) {
				t.Errorf("%s %s as %q, which takes %q: %d %s", r.Method, r.Path, role, r.Needs(), a.StatusCode, a.body)
			}
		}
	}
	if len(routes) < 55 {
		t.Errorf("only %d operations", len(routes))
	}
}

// filled gives every number and text of a struct a value.
func filled(v reflect.Value) {
	switch v.Kind() {
	case reflect.Struct:
		for i := range v.NumField() {
			if v.Field(i).CanSet() {
				filled(v.Field(i))
			}
		}
	case reflect.Int, reflect.Int64:
		v.SetInt(1)
	case reflect.String:
		v.SetString("x")
	}
}

// TestEveryRequestCanBeRead: what each operation takes, with a value for everything that it has to have, is read, and never
// a failure of the server.
func TestEveryRequestCanBeRead(t *testing.T) {
	d := withPeople(t)
	asked := 0
	for _, r := range d.srv.features() {
		if r.Request == nil || r.Method == http.MethodGet || r.Path == "/api/sign-out" {
			continue
		}
		var all map[string]any
		sample := reflect.New(reflect.TypeOf(r.Request)).Elem()
		filled(sample)
		body, err := json.Marshal(sample.Interface())
		if err == nil {
			err = json.Unmarshal(body, &all)
		}
		if err != nil {
			t.Fatal(r.Path, err)
		}
		maps.DeleteFunc(all, func(name string, _ any) bool { return name != strings.ToLower(name) }) // of the path or the query
		if body, err = json.Marshal(all); err != nil {
			t.Fatal(r.Path, err)
		}
		cookie, _ := d.signIn("administrator1", "seven loaves on a rail")
		path := strings.NewReplacer("{id}", "99", "{kind}", "job").Replace(r.Path)
		if a := d.as(cookie, r.Method, path, string(body)); a.StatusCode >= 500 {
			t.Errorf("%s %s with %s: %d %s", r.Method, path, body, a.StatusCode, a.body)
		}
		asked++
	}
	if asked < 20 {
		t.Errorf("only %d operations", asked)
	}
}

// TestSessions: a session ends with its sign-out, when its person is shut out, is given another password or
// role, and is another after signing in again; what is no session is nobody.
func TestSessions(t *testing.T) {
	d := withPeople(t)
	me := func(c *http.Cookie) string { return string(d.as(c, http.MethodGet, "/api/me", "").body) }
	admin, _ := d.signIn("Administrator1", "seven loaves on a rail")
	first, _ := d.signIn("engineer1", "seven loaves on a rail")
	again := d.as(first, http.MethodPost, "/api/sign-in", `{"login": "engineer1", "password": "seven loaves on a rail"}`)
	if got := me(first); strings.Contains(got, "engineer1") {
		t.Error("the session before is still good: " + got)
	}
	second := again.Cookies()[0]
	if got := me(second); !strings.Contains(got, `"login":"engineer1"`) {
		t.Error(got)
	}
	for name, forged := range map[string]string{"none": "", "made up": strings.Repeat("A", 43), "long": strings.Repeat("x", 3000)} {
		if got := me(&http.Cookie{Name: "nexufix", Value: forged}); strings.Contains(got, "login") {
			t.Errorf("%s: %s", name, got)
		}
	}
	id := "2" // the engineer
	if a := d.as(admin, http.MethodPost, "/api/people/"+id, `{"role": "reader"}`); a.StatusCode != 200 {
		t.Fatalf("%d %s", a.StatusCode, a.body)
	}
	if got := me(second); strings.Contains(got, "login") {
		t.Error("a role was changed, and the session goes on: " + got)
	}
	third, _ := d.signIn("engineer1", "seven loaves on a rail")
	d.as(third, http.MethodPost, "/api/sign-out", "")
	if got := me(third); strings.Contains(got, "login") {
		t.Error("signed out, and still there: " + got)
	}
	fourth, _ := d.signIn("engineer1", "seven loaves on a rail")
	d.as(admin, http.MethodPost, "/api/people/"+id, `{"disabled": true}`)
	if got := me(fourth); strings.Contains(got, "login") {
		t.Error("shut out, and still there: " + got)
	}
	if c, a := d.signIn("engineer1", "seven loaves on a rail"); c != nil || a.StatusCode != http.StatusUnauthorized {
		t.Errorf("shut out, and signed in: %d", a.StatusCode)
	}
	for body, want := range map[string]int{`{"role": "reader"}`: 400, `{"disabled": true}`: 400, `{"role": "king"}`: 400,
		`{"password": "short"}`: 400} {
		if a := d.as(admin, http.MethodPost, "/api/people/4", body); a.StatusCode != want { // the last administrator's
			t.Errorf("%s: %d %s", body, a.StatusCode, a.body)
		}
	}
	for _, c := range []struct {
		body string
		want int
	}{{`{"password": "eight loaves on a rail"}`, 400}, {`{"password": "eight loaves on a rail", "current": "nine loaves on a rail"}`, 400},
		{`{"password": "eight loaves on a rail", "current": "seven loaves on a rail"}`, 200}} {
		if a := d.as(admin, http.MethodPost, "/api/people/4", c.body); a.StatusCode != c.want {
			t.Errorf("one's own password by %s: %d %s", c.body, a.StatusCode, a.body)
		}
	}
	fifth, _ := d.signIn("administrator1", "eight loaves on a rail")
	if a := d.as(fifth, http.MethodPost, "/api/people/4", `{}`); len(a.Cookies()) > 0 || !strings.Contains(me(fifth), `"login"`) {
		t.Errorf("nothing was said, and the session begins anew, or ends: %d, %v", a.StatusCode, a.Cookies())
	}
	two := string(d.as(fifth, http.MethodPost, "/api/people/4", `{"password": "short", "current": "not this one, no"}`).body)
	if !strings.Contains(two, `"current"`) || !strings.Contains(two, `"password"`) {
		t.Error("of two mistakes one is told: " + two)
	}
	held := false
	for range 20 { // somebody at a computer that was left open
		held = held || d.as(fifth, http.MethodPost, "/api/people/4", `{"password": "nine loaves on a rail", "current": "not this one, no"}`).
			StatusCode == http.StatusTooManyRequests
	}
	if !held {
		t.Error("one's password can be tried for ever")
	}
}

// TestExportsAreNoted: who takes the catalogue away stands in the audit, with what.
func TestExportsAreNoted(t *testing.T) {
	d := withPeople(t)
	reader, _ := d.signIn("reader1", "seven loaves on a rail")
	for _, path := range []string{"/api/export", "/api/export.xlsx", "/api/export/displays", "/api/export/none"} {
		d.as(reader, http.MethodGet, path, "")
	}
	all, err := d.srv.store.Audit(t.Context(), store.AuditAsk{Most: 100})
	if err != nil {
		t.Fatal(err)
	}
	var said []string
	for _, h := range all {
		if h.What == "exported" {
			said = append(said, h.Who+": "+h.About)
		}
	}
	want := "Somebody: displays, as a table; Somebody: the whole catalogue, as a workbook; Somebody: the whole catalogue, as a document"
	if strings.Join(said, "; ") != want {
		t.Errorf("the audit has %q", said)
	}
}

// TestTokens: a token asks as its person does, or with less, and holds no longer than it should; another is nobody's, and is told.
func TestTokens(t *testing.T) {
	d := withPeople(t)
	by := people.Person{Name: "test", Role: people.Administrator}
	give := func(of people.Token) string {
		t.Helper()
		text, err := of.Add(t.Context(), d.srv.store, by)
		if err != nil {
			t.Fatal(err)
		}
		return text
	}
	ask := func(token, path string) int {
		r := httptest.NewRequest(http.MethodGet, "http://127.0.0.1:8460"+path, nil)
		r.Header.Set("Authorization", "Bearer "+token)
		return d.send(r).StatusCode
	}
	post := func(token, path, body string) answer {
		r := httptest.NewRequest(http.MethodPost, "http://127.0.0.1:8460"+path, strings.NewReader(body))
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set("Authorization", "Bearer "+token)
		return d.send(r)
	}
	good := give(people.Token{Login: "engineer1", Role: people.Administrator, Days: 1})
	old := give(people.Token{Login: "engineer1", Text: "a-token-of-last-year", Role: people.Engineer, Days: -1})
	all := give(people.Token{Login: "administrator1", Role: people.Administrator, Days: 1})
	less := give(people.Token{Login: "administrator1", Role: people.Reader, Days: 1})
	for _, of := range []struct {
		token, path string
		want        int
	}{
		{good, "/api/catalogue", 200}, {old, "/api/catalogue", 401}, {"made up", "/api/catalogue", 401}, {"", "/api/catalogue", 401},
		{good, "/api/people", 403}, {all, "/api/people", 200}, {less, "/api/people", 403}, {less, "/api/catalogue", 200},
	} {
		if got := ask(of.token, of.path); got != of.want {
			t.Errorf("%s with %q: %d, wanted %d", of.path, of.token, got, of.want)
		}
	}
	for _, text := range []string{"short", "a token of last year", good} {
		if _, err := (&people.Token{Login: "reader1", Text: text, Role: people.Reader, Days: 1}).Add(t.Context(), d.srv.store, by); err == nil {
			t.Errorf("the token %q is taken", text)
		}
	}
	// A token gives no session, and with less than its person's role nothing is done to the account itself.
	const another = `{"password": "eight loaves on a rail", "current": "seven loaves on a rail"}`
	for _, of := range []struct {
		token, path, body string
		want              int
	}{{less, "/api/people/4", another, 403}, {less, "/api/sign-out", "", 200}, {all, "/api/people/4", another, 200}} {
		if a := post(of.token, of.path, of.body); a.StatusCode != of.want || len(a.Cookies()) > 0 {
			t.Errorf("%s with %q: %d %s, cookies %v", of.path, of.token, a.StatusCode, a.body, a.Cookies())
		}
	}
	p, err := d.srv.store.PersonByLogin(t.Context(), "engineer1")
	if err != nil {
		t.Fatal(err)
	}
	role := people.Reader
	if _, err := (&people.PersonChange{Role: &role}).Change(t.Context(), d.srv.store, by, p.ID); err != nil {
		t.Fatal(err)
	}
	if got := ask(good, "/api/catalogue"); got != 401 {
		t.Errorf("after the account was changed its token is answered with %d", got)
	}
}

// TestOnePress: a demo signs in with one press who has no password, and nobody else, whosever database it is.
func TestOnePress(t *testing.T) {
	d := withPeople(t)
	var err error
	if d.srv, err = New(d.srv.store, d.srv.log, Hosts{Loopback: true}, d.plots, peopleroutes.Options{Demo: true}); err != nil {
		t.Fatal(err)
	}
	n := people.NewPerson{Identity: people.Identity{Login: "ada", Name: "Ada Quillmark"}, Role: people.Engineer, Demo: true}
	if _, err := n.Add(t.Context(), d.srv.store, people.Person{Name: "test", Role: people.Administrator}, false); err != nil {
		t.Fatal(err)
	}
	if c, a := d.signIn("ada", ""); c == nil {
		t.Errorf("no press signs in: %d %s", a.StatusCode, a.body)
	}
	for _, c := range [][2]string{{"administrator1", ""}, {"ada", "nobody has this one"}, {"ada", " "}, {"ghost", ""}} {
		if cookie, a := d.signIn(c[0], c[1]); cookie != nil || a.StatusCode != http.StatusUnauthorized {
			t.Errorf("%q signs in with %q: %d", c[0], c[1], a.StatusCode)
		}
	}
	got := string(d.as(nil, http.MethodGet, "/api/me", "").body)
	if !strings.Contains(got, "Quillmark") || strings.Contains(got, "administrator1") {
		t.Error(got)
	}
}

// TestHeavyWorkOfAPerson: who asks for too much at once is told so, wherever they ask from; others are not held up.
func TestHeavyWorkOfAPerson(t *testing.T) {
	d := withPeople(t)
	engineer, _ := d.signIn("engineer1", "seven loaves on a rail")
	approver, _ := d.signIn("approver1", "seven loaves on a rail")
	p, err := d.srv.store.PersonByLogin(t.Context(), "engineer1")
	if err != nil {
		t.Fatal(err)
	}
	for range maxOfOne { // that wait or are worked on
		d.srv.heavies.byClient["person "+strconv.FormatInt(p.ID, 10)]++
	}
	if a := d.as(engineer, http.MethodGet, "/api/export.xlsx", ""); a.StatusCode != http.StatusTooManyRequests {
		t.Errorf("one too many: %d", a.StatusCode)
	}
	if a := d.as(approver, http.MethodGet, "/api/export.xlsx", ""); a.StatusCode != http.StatusOK {
		t.Errorf("somebody else: %d %s", a.StatusCode, a.body)
	}
}

// TestPolicyIsAnApprovers: an engineer sets no policy, in whichever way: by the policy's page, by a document or a file with another one, by
// undoing an import that had one, or by putting an earlier one in place. What they export comes back all the same.
func TestPolicyIsAnApprovers(t *testing.T) {
	d := withPeople(t)
	engineer, _ := d.signIn("engineer1", "seven loaves on a rail")
	approver, _ := d.signIn("approver1", "seven loaves on a rail")
	inUse := func() string { return string(d.as(engineer, http.MethodGet, "/api/policies", "").body) }
	refused := func(what string, a answer, path string) {
		t.Helper()
		no := a.StatusCode == http.StatusBadRequest || a.StatusCode == http.StatusForbidden
		if !no || !strings.Contains(string(a.body), path) {
			t.Errorf("%s: %d %.300s", what, a.StatusCode, a.body)
		}
	}
	raw, err := os.ReadFile("testdata/another-policy.json")
	if err != nil {
		t.Fatal(err)
	}
	another := string(raw)
	before := inUse()
	refused("the page", d.as(engineer, http.MethodPut, "/api/policies", `{"name":"Mine","policy":{"bolt_school":"deep"}}`), "")
	refused("a document", d.as(engineer, http.MethodPost, "/api/import", another), `"path":"policy"`)
	if a := d.as(engineer, http.MethodGet, "/api/items/displays/fresh", ""); a.StatusCode != http.StatusNotFound || inUse() != before {
		t.Errorf("a part of the document is saved, or the policy is another: %d", a.StatusCode)
	}
	r := httptest.NewRequest(http.MethodPost, "http://127.0.0.1:8460/api/files?name=x.json", strings.NewReader(another))
	r.Header.Set("Content-Type", "application/octet-stream")
	r.AddCookie(engineer)
	file := read[imports.File](t, d.send(r), http.StatusOK)
	if said := string(d.as(engineer, http.MethodPost, "/api/files/"+file.ID+"/commit", "").body); !strings.Contains(said, "approver") {
		t.Errorf("a file: %s", said)
	}
	whole := string(d.as(engineer, http.MethodGet, "/api/export", "").body)
	if a := d.as(engineer, http.MethodPost, "/api/import", whole); a.StatusCode != http.StatusOK {
		t.Errorf("what was exported: %d %s", a.StatusCode, a.body)
	}

	taken := read[store.Imported](t, d.as(approver, http.MethodPost, "/api/import", another), http.StatusOK)
	deep := inUse()
	if deep == before {
		t.Fatal("an approver sets no policy")
	}
	refused("an undo", d.as(engineer, http.MethodPost, fmt.Sprintf("/api/batches/%d/undo", taken.Batch), ""), `"path":"policy"`)
	all, err := d.srv.store.History(t.Context(), "policy", "Imported", 10, 0)
	if err != nil || len(all) == 0 {
		t.Fatal(all, err)
	}
	back := d.as(approver, http.MethodPut, "/api/policies", `{"name":"Imported","policy":{"bolt_school":"balanced"}}`)
	if back.StatusCode != http.StatusOK {
		t.Fatalf("%d %s", back.StatusCode, back.body)
	}
	refused("an earlier one", d.as(engineer, http.MethodPost, fmt.Sprintf("/api/history/%d/restore", all[0].Seq), ""), `"path":"policy"`)
	a := d.as(approver, http.MethodPost, fmt.Sprintf("/api/history/%d/restore", all[0].Seq), "")
	if a.StatusCode != http.StatusOK || inUse() != deep {
		t.Errorf("an approver does: %d %s", a.StatusCode, a.body)
	}
}

// TestFirstPassword: who was given a password does nothing before they have chosen another, which is another, and then everything of their
// role; when somebody gives them one again, the same. A token goes on.
func TestFirstPassword(t *testing.T) {
	d := withPeople(t)
	admin, _ := d.signIn("administrator1", "seven loaves on a rail")
	const given, own = "twelve ovens by the river", "forty sleepers under the line"
	nora := `{"login": "nora", "name": "Nora", "role": "administrator", "password": "` + given + `"}`
	if a := d.as(admin, http.MethodPost, "/api/people", nora); a.StatusCode != 201 {
		t.Fatalf("%d %s", a.StatusCode, a.body)
	}
	token, err := (&people.Token{Login: "nora", Role: people.Reader, Days: 1}).Add(t.Context(), d.srv.store,
		people.Person{Role: people.Administrator})
	if err != nil {
		t.Fatal(err)
	}
	change := func(c *http.Cookie, id int, body string) int {
		return d.as(c, http.MethodPost, fmt.Sprintf("/api/people/%d", id), body).StatusCode
	}
	for _, password := range []string{given, "seven ladders at a wall"} {
		nora, _ := d.signIn("nora", password)
		if nora == nil {
			t.Fatal("she does not sign in")
		}
		if me := string(d.as(nora, http.MethodGet, "/api/me", "").body); !strings.Contains(me, `"given":true`) {
			t.Error(me)
		}
		for _, path := range []string{"/api/displays", "/api/people", "/api/live", "/api/desk"} {
			a := d.as(nora, http.MethodGet, path, "")
			if a.StatusCode != http.StatusForbidden || !strings.Contains(string(a.body), "of your own first") {
				t.Errorf("%s: %d %s", path, a.StatusCode, a.body)
			}
		}
		if got := change(nora, 1, `{"role": "engineer"}`); got != http.StatusForbidden {
			t.Errorf("she changes another: %d", got)
		}
		if got := change(nora, 5, `{"password": "`+password+`", "current": "`+password+`"}`); got != 400 {
			t.Errorf("the same again: %d", got)
		}
		if got := change(nora, 5, `{"password": "`+own+`", "current": "`+password+`"}`); got != 200 {
			t.Errorf("her own: %d", got)
		}
		nora, _ = d.signIn("nora", own)
		a, me := d.as(nora, http.MethodGet, "/api/people", ""), d.as(nora, http.MethodGet, "/api/me", "")
		if a.StatusCode != 200 || strings.Contains(string(me.body), "given") {
			t.Errorf("with her own: %d", a.StatusCode)
		}
		if got := change(admin, 5, `{"password": "seven ladders at a wall"}`); got != 200 {
			t.Fatal(got)
		}
	}
	again := people.Token{Login: "nora", Role: people.Reader, Days: 1, Text: token + "2"}
	token, err = again.Add(t.Context(), d.srv.store, people.Person{Role: people.Administrator})
	r := httptest.NewRequest(http.MethodGet, deskAt+"/api/displays", nil)
	r.Header.Set("Authorization", "Bearer "+token)
	if a := d.send(r); err != nil || a.StatusCode != 200 {
		t.Errorf("her script: %d, %v", a.StatusCode, err)
	}
}
