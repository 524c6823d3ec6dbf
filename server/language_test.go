package server

import (
	"net/http"
	"net/http/httptest"
	peopleroutes "nexufix/server/people"
	"strings"
	"testing"
)

// in asks in a language.
func (d *desk) in(language, method, path, body string) (*http.Response, string) {
	d.t.Helper()
	r := httptest.NewRequest(method, "http://127.0.0.1:8460"+path, strings.NewReader(body))
	r.Header.Set("Accept-Language", language)
	if body != "" {
		r.Header.Set("Content-Type", "application/json")
	}
	w := httptest.NewRecorder()
	d.srv.ServeHTTP(w, r)
	return w.Result(), w.Body.String()
}

// TestAcceptLanguage: what is said is in the language that is asked for, as RFC 9110 (12.5.4) has it; what nobody here speaks is answered
// in English, and the answer says its language.
func TestAcceptLanguage(t *testing.T) {
	d := newDesk(t)
	const english, german = "Every hole is safe", "Jedes Loch ist sicher"
	for asked, want := range map[string]string{"": "en", "de": "de", "de-AT,en;q=0.5": "de", "en, de;q=0.9": "en", "fr": "en",
		"fr, de;q=0.1": "de", "*": "en", ";;;=": "en", "xx-invalid-tag-xxxxxxxxxxx": "en", "de;q=0.4, en;q=0.6": "en"} {
		a, body := d.in(asked, http.MethodPost, "/api/bench", `{`+pane+`}`)
		vary := strings.Join(a.Header.Values("Vary"), ",")
		if a.StatusCode != 200 || a.Header.Get("Content-Language") != want || !strings.Contains(vary, "Accept-Language") {
			t.Errorf("%q: %d %v", asked, a.StatusCode, a.Header)
		}
		if strings.Contains(body, german) != (want == "de") || strings.Contains(body, english) != (want == "en") {
			t.Errorf("%q: %.400s", asked, body)
		}
	}
	for _, c := range []struct{ method, path, body, german string }{
		{http.MethodPost, "/api/bench", `{"job_id":"mill-lane-counter","changes":[{"path":"display.mass_kg","to":"16"}]}`, german},
		{http.MethodPost, "/api/wall", `{"request":{"job_id":"mill-lane-counter"}}`, "Bekleidung"},
		{http.MethodPost, "/api/draw", `{"bracket_id":"sill-40","revision":1,"changes":[{"path":"bracket.rated_load_kg","to":"1"}]}`, "Masse"},
		{http.MethodPost, "/api/probe", `{"trials":[]}`, "Sie verrät das Gewinde"},
		{http.MethodGet, "/api/catalogue", "", "voll beweglich"},
		{http.MethodGet, "/api/jobs?q=mill-lane-counter", "", "Holzständer"},
		{http.MethodGet, "/api/displays?q=skerry+lantern+found", "", "Lochbild nicht bekannt"},
		{http.MethodGet, "/api/measurement-priorities", "", "ist nicht bekannt"},
		{http.MethodPost, "/api/bench", `{"display_id":"none"}`, "Die Eingabe stimmt nicht."},
		{http.MethodGet, "/api/items/jobs/none", "", "Nicht gefunden."},
	} {
		for range 2 { // kept answers, too
			if a, body := d.in("de", c.method, c.path, c.body); !strings.Contains(body, c.german) {
				t.Errorf("%s %s: %d %.300s", c.path, c.body, a.StatusCode, body)
			}
			if _, body := d.in("en", c.method, c.path, c.body); strings.Contains(body, c.german) {
				t.Errorf("%s %s in English: %.300s", c.path, c.body, body)
			}
		}
	}
}

// TestNamesAreNotTranslated: what somebody has called a display, and what the format allows, is no word of a language, though it may read
// like one.
func TestNamesAreNotTranslated(t *testing.T) {
	d := newDesk(t)
	const job = `"job_id":"mill-lane-counter","changes":[`
	for _, c := range []struct{ path, body, want string }{
		{"/api/bench", `{"display":{"id":"p","model":"Bolt 40","patterns":[]},"bracket_id":"sill-40"}`, `"title":"Bolt 40 an Sill 40"`},
		{"/api/bench", `{` + job + `{"path":"display.patterns[0].thread","to":"oben"}]}`, `"allowed":"M4, M5, M6, M8"`},
		{"/api/wall", `{"request":{` + job + `{"path":"site.wall.outlets[0].stud","to":"x"}]}}`, `"allowed":"left, right"`},
		{"/api/draw", `{"bracket_id":"sill-40","revision":1,"changes":[{"path":"bracket.rows_used","to":["x"]}]}`, `"allowed":"top, bottom"`},
		{"/api/bench", `{` + job + `{"path":"display.mass_kg","to":"-1.5"}]}`, "eine Zahl in kg, mehr als 0, höchstens 1000"},
	} {
		if _, body := d.in("de", http.MethodPost, c.path, c.body); !strings.Contains(body, c.want) {
			t.Errorf("%s lacks %s: %.500s", c.body, c.want, body)
		}
	}
}

// TestLanguageIsOnesOwn: the language that somebody has chosen goes with their account, to another session too; one that is not there is
// refused, and nobody else's is touched.
func TestLanguageIsOnesOwn(t *testing.T) {
	d := withPeople(t)
	who, _ := d.signIn("engineer1", "seven loaves on a rail")
	other, _ := d.signIn("reader1", "seven loaves on a rail")
	me := func(c *http.Cookie) string {
		return read[peopleroutes.Me](t, d.as(c, http.MethodGet, "/api/me", ""), 200).Language
	}
	if a := d.as(who, http.MethodPost, "/api/own/language", `{"language":"xx"}`); a.StatusCode != 400 || !strings.Contains(string(a.body), "en, de") {
		t.Errorf("%d %s", a.StatusCode, a.body)
	}
	if a := d.as(nil, http.MethodPost, "/api/own/language", `{"language":"de"}`); a.StatusCode != 401 {
		t.Errorf("nobody: %d", a.StatusCode)
	}
	if a := d.as(who, http.MethodPost, "/api/own/language", `{"language":"de"}`); a.StatusCode != 204 || me(who) != "de" || me(other) != "" {
		t.Errorf("%d, %q and %q", a.StatusCode, me(who), me(other))
	}
	if again, a := d.signIn("engineer1", "seven loaves on a rail"); me(again) != "de" || me(who) != "de" {
		t.Errorf("in another session: %s", a.body)
	}
}
