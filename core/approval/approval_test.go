package approval

import (
	"errors"
	"os/exec"
	"slices"
	"strings"
	"testing"
)

// TestLife: what may be done in each state, and nothing else; nothing comes back from the last two.
func TestLife(t *testing.T) {
	states := []State{Draft, InReview, Approved, Superseded, Withdrawn}
	acts := []Act{Submit, SendBack, Approve, Withdraw, Supersede}
	want := map[string]State{"draft submit": InReview, "draft withdraw": Withdrawn,
		"in_review send_back": Draft, "in_review approve": Approved,
		"in_review withdraw": Withdrawn, "approved withdraw": Withdrawn, "approved supersede": Superseded}
	for _, s := range states {
		for _, a := range acts {
			next, err := s.After(a)
			to, may := want[string(s)+" "+string(a)]
			var no *NotNow
			if may != (err == nil) || may && next != to || !may && (next != s || !errors.As(err, &no)) {
				t.Errorf("%s, then %s: %s, %v", s, a, next, err)
			}
		}
	}
}

// vectors are documents with their canonical forms and fingerprints; the first two are held against RFC 8785, section 3.2.2 and
// 3.2.3, from memory, without what is no plain decimal in them; the sums are by sha256sum.
var vectors = []struct{ document, canonical, sum string }{
	{`{"literals": [null, true, false], "string": "\u20ac$\u000F\u000aA'\u0042\u0022\u005c\\\"\/"}`,
		`{"literals":[null,true,false],"string":"€$\u000f\nA'B\"\\\\\"/"}`, ""},
	{`{"b": 1, "a": {"d": [2.50, -0.0, 10], "c": 0.000001}}`, `{"a":{"c":0.000001,"d":[2.5,0,10]},"b":1}`, ""},
	{`{}`, `{}`, "44136fa355b3678a1146ad16f7e8649e94fb4fc21fe77e8310c060f61caaff8a"},
}

func TestCanonical(t *testing.T) {
	for _, v := range vectors {
		got, err := Canonical([]byte(v.document))
		if err != nil || string(got) != v.canonical {
			t.Errorf("%s: %s, %v", v.document, got, err)
		}
		if again, err := Canonical(got); err != nil || string(again) != v.canonical {
			t.Errorf("and again %s, %v", again, err)
		}
		if sum, err := Fingerprint([]byte(v.document)); err != nil || v.sum != "" && sum != v.sum {
			t.Errorf("%s: %s, %v", v.document, sum, err)
		}
	}
	for _, bad := range []string{``, `{`, `{} {}`, `1e3`, `{"a": 1E2}`} {
		if sum, err := Fingerprint([]byte(bad)); err == nil {
			t.Errorf("%q has the fingerprint %s", bad, sum)
		}
	}
	if Short(strings.Repeat("0123456789abcdef", 4)) != "0123-4567-89ab" {
		t.Error(Short(strings.Repeat("0123456789abcdef", 4)))
	}
}

// script computes a fingerprint from docs/approval.md alone, in another language.
const script = `
import hashlib, json, sys

class Plain(float):
    "A number keeps its digits."
    def __new__(cls, s):
        n = float.__new__(cls, s)
        n.s = s
        return n

def number(s):
    if "." in s:
        s = s.rstrip("0").rstrip(".")
    return "0" if s == "-0" else s

def canonical(v):
    if isinstance(v, dict):
        return "{" + ",".join(json.dumps(k, ensure_ascii=False) + ":" + canonical(v[k]) for k in sorted(v)) + "}"
    if isinstance(v, list):
        return "[" + ",".join(map(canonical, v)) + "]"
    if isinstance(v, Plain):
        return number(v.s)
    return json.dumps(v, ensure_ascii=False)

v = json.load(sys.stdin, parse_float=Plain, parse_int=Plain)
print(hashlib.sha256(canonical(v).encode()).hexdigest())
`

// TestAnotherProgramAgrees: Python computes the same fingerprints.
func TestAnotherProgramAgrees(t *testing.T) {
	for _, v := range vectors {
		c := exec.Command("python3", "-c", script)
		c.Stdin = strings.NewReader(v.document)
		out, err := c.Output()
		want, err2 := Fingerprint([]byte(v.document))
		if err != nil || err2 != nil || strings.TrimSpace(string(out)) != want {
			t.Errorf("%s: %s, not %s; %v, %v", v.document, out, want, err, err2)
		}
	}
}

func TestDifferences(t *testing.T) {
	was := `{"verdict":"fits","checks":[{"rule":"size","status":"pass"},{"rule":"load","value":3}],"bolts":["a","b"],"gone":null}`
	for now, want := range map[string][]Difference{
		was: {},
		`{"verdict":"fits","checks":[{"rule":"load","value":3},{"rule":"size","status":"pass"}],"bolts":["a","b"],"gone":null}`: {},
		`{"verdict":"does_not_fit","checks":[{"rule":"size","status":"fail"},{"rule":"load","value":3}],"bolts":["a"],"new":true}`: {
			{"bolts[1]", "b", ""}, {"checks[size].status", "pass", "fail"}, {"gone", "none", ""}, {"new", "", "true"},
			{"verdict", "fits", "does_not_fit"}},
	} {
		got, err := Differences([]byte(was), []byte(now))
		if err != nil || !slices.Equal(got, want) {
			t.Errorf("%s: %v, %v", now, got, err)
		}
	}
	old := `{"points":[{"hole":"T1","use":0.5,"across_n":3}],
		"strength":{"holds_pull_n":1,"holds_across_n":2,"load_aside_mm":4},"use":"lock"}`
	now := `{"points":[{"hole":"T1","utilisation":0.6,"shear_n":3}],"strength":{"capacity_pull_n":1,
		"capacity_shear_n":2,"eccentricity_mm":4},"use":"lock"}`
	if got, err := Differences([]byte(old), []byte(now)); err != nil || !slices.Equal(got, []Difference{{"points[T1].utilisation",
		"0.5", "0.6"}}) {
		t.Errorf("a result stored under the names of before: %v, %v", got, err)
	}
	if _, err := Differences([]byte(was), []byte("{")); err == nil {
		t.Error("what is no document is compared")
	}
}
