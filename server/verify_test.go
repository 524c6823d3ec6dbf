package server

import (
	"encoding/json"
	"net/http"
	"strings"
	"testing"

	"nexufix/app/review"
	"nexufix/seal"
)

// TestStatusOfPaper: the page of a code says so where what else the printed code says is not of that document; everybody gets the public
// keys, and whoever may read, the release, which is checked by them.
func TestStatusOfPaper(t *testing.T) {
	d := withPeople(t)
	engineer, _ := d.signIn("engineer1", "seven loaves on a rail")
	approver, _ := d.signIn("approver1", "seven loaves on a rail")
	reader, _ := d.signIn("reader1", "seven loaves on a rail")
	d.as(engineer, http.MethodPost, "/api/approvals", `{"subject": {"job": "mill-lane-counter"}}`)
	d.as(approver, http.MethodPost, "/api/approvals/1/decide", `{"version": 1, "act": "approve"}`)
	i := read[review.IssuedLine](t, d.as(engineer, http.MethodPost, "/api/approvals/1/issue", `{"what": "card", "receiver": "us"}`), 201)
	raw := d.as(reader, http.MethodGet, "/api/issued/1/release", "").body
	keys, err := seal.ParsePublic(string(d.as(nil, http.MethodGet, "/v/keys", "").body))
	if err != nil || len(keys) != 1 {
		t.Fatal(keys, err)
	}
	if v, err := review.Verify(t.Context(), raw, keys); err != nil || !v.Signed || v.Statement.Number != i.Number {
		t.Errorf("%+v, %v", v, err)
	}
	var r review.Release
	if err := json.Unmarshal(raw, &r); err != nil {
		t.Fatal(err)
	}
	for said, want := range map[string]string{"": "Current", "?r=x": "Not as it was issued",
		"?r=" + r.Statement.Key + ".AAAA." + r.Paper: "Not as it was issued"} {
		if a := d.as(nil, http.MethodGet, "/v/"+i.Code+said, ""); a.StatusCode != 200 || !strings.Contains(string(a.body), want) {
			t.Errorf("%s: %d %s", said, a.StatusCode, a.body)
		}
	}
	if a := d.as(nil, http.MethodGet, "/api/issued/1/release", ""); a.StatusCode != http.StatusUnauthorized {
		t.Errorf("nobody gets the figures: %d", a.StatusCode)
	}
}
