package server

import (
	"net/http"
	"net/http/httptest"
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
