package review

import (
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"hash/crc32"
	"maps"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"nexufix/app/bench"
	"nexufix/core/quantity"
	"nexufix/demo/demotest"
	"nexufix/render/svg"
)

// everyDocument is all that can be issued from a judgement, or read on a telephone, without date and fingerprint of the input: pack,
// template and card, in both systems of units and in German.
func everyDocument(t *testing.T, f *source) map[string][32]byte {
	t.Helper()
	out := map[string][32]byte{}
	german, err := bench.Language("de")
	if err != nil {
		t.Fatal(err)
	}
	w := f.open(t.Context())
	for name, o := range map[string]bench.InstallOptions{"pack": {}, "pack in inches, in German": {Units: quantity.Imperial,
		Language: german}} {
		o.Now = time.Date(2026, 11, 27, 0, 0, 0, 0, time.UTC)
		i, err := w.Install(o)
		if err != nil {
			t.Fatal(err)
		}
		i.Fingerprint = ""
		pack := i.Pack()
		var all []byte
		if pack.Template != nil {
			all = append(all, svg.Write(pack.Template, svg.Options{Both: true})...)
		}
		if pack.Card != nil {
			all = append(all, svg.Write(pack.Card, svg.Options{Both: true})...)
		}
		for _, name := range slices.Sorted(maps.Keys(pack.Figures)) {
			all = append(all, svg.Write(pack.Figures[name], svg.Options{Both: true})...)
		}
		pack.Template, pack.Card, pack.Figures = nil, nil, nil
		raw, err := pack.Write()
		if err != nil {
			t.Fatal(err)
		}
		page, err := i.Page(false)
		if err != nil {
			t.Fatal(err)
		}
		out[name] = sha256.Sum256(slices.Concat(all, raw))
		out["telephone: "+name] = sha256.Sum256(unseen.ReplaceAll(page, nil))
	}
	return out
}

// unseen are names of things on a page that nobody sees.
var unseen = regexp.MustCompile(` (id|for|name|value|href|data-[a-z-]+)="[^"]*"`)

// changesOf are the changes of each value of a document, one at a time, by path: another number, word or answer; and without it.
func changesOf(v any, path string, out *[]change) {
	add := func(path string, to any) { *out = append(*out, change{path, to}) }
	switch x := v.(type) {
	case map[string]any:
		for _, k := range slices.Sorted(maps.Keys(x)) {
			p := path + "\x00" + k
			changesOf(x[k], p, out)
			add(p, gone)
		}
	case []any:
		for i := range x {
			p := path + "\x00" + fmt.Sprint(i)
			changesOf(x[i], p, out)
			add(p, gone)
		}
	case json.Number:
		n, _ := x.Float64()
		add(path, n+1)
		add(path, n*1.25)
	case string:
		add(path, x+"x")
	case bool:
		add(path, !x)
	}
}

type change struct {
	path string
	to   any
}

var gone = new(int)

// with is a document with one change.
func (c change) with(document string) (string, error) {
	var doc any
	if err := json.Unmarshal([]byte(document), &doc); err != nil {
		return "", err
	}
	doc = changed(doc, strings.Split(c.path, "\x00")[1:], c.to)
	raw, err := json.Marshal(doc)
	return string(raw), err
}

func changed(v any, path []string, to any) any {
	if len(path) == 0 {
		return to
	}
	switch x := v.(type) {
	case map[string]any:
		if len(path) == 1 && to == any(gone) {
			delete(x, path[0])
			return x
		}
		x[path[0]] = changed(x[path[0]], path[1:], to)
	case []any:
		n := 0
		fmt.Sscan(path[0], &n)
		if len(path) == 1 && to == any(gone) {
			return slices.Delete(x, n, n+1)
		}
		x[n] = changed(x[n], path[1:], to)
	}
	return v
}

func (c change) String() string {
	to := fmt.Sprint(c.to)
	if c.to == any(gone) {
		to = "gone"
	}
	return strings.ReplaceAll(strings.Trim(c.path, "\x00"), "\x00", ".") + " = " + to
}

// TestWhatIsApprovedIsWhatIsPrinted: every value of what is frozen is changed, one at a time. Where a document of it prints otherwise
// the approval is stale, and where all print the same it holds.
func TestWhatIsApprovedIsWhatIsPrinted(t *testing.T) {
	all := demotest.Contents(t)
	part := uint32(30) // of all changes one is tried; all of them with NEXUFIX_ALL=1
	if os.Getenv("NEXUFIX_ALL") != "" {
		part = 1
	}
	only := os.Getenv("NEXUFIX_ONLY")
	for _, s := range []Subject{counter, onConcrete} {
		f, err := new(documents).source(all, s)
		if err != nil {
			t.Fatal(err)
		}
		document, _, err := new(documents).of(f)
		if err != nil {
			t.Fatal(err)
		}
		was, err := f.Judge(t.Context())
		if err != nil {
			t.Fatal(err)
		}
		printed := everyDocument(t, f)
		in := json.NewDecoder(strings.NewReader(document))
		in.UseNumber()
		var doc any
		if err := in.Decode(&doc); err != nil {
			t.Fatal(err)
		}
		var list []change
		changesOf(doc, "", &list)
		tried, stale, same := 0, 0, 0
		for _, c := range list {
			if crc32.ChecksumIEEE([]byte(c.String()))%part != 0 || only != "" && !strings.Contains(c.String(), only) {
				continue
			}
			raw, err := c.with(document)
			if err != nil {
				t.Fatal(err)
			}
			now, err := readFrozen(raw)
			if err != nil {
				continue // it cannot be saved
			}
			differ, err := now.differs(t.Context(), document, string(was.Result), raw)
			if err != nil {
				continue // it cannot be judged
			}
			tried++
			otherwise := ""
			for name, sum := range everyDocument(t, now) {
				if sum != printed[name] && (otherwise == "" || name < otherwise) {
					otherwise = name
				}
			}
			switch {
			case len(differ) == 0 && otherwise != "":
				t.Errorf("%+v: %s: %s prints otherwise, and the approval holds", s, c, otherwise)
			case len(differ) > 0 && otherwise == "":
				t.Errorf("%+v: %s: all print the same, and the approval is stale: %v", s, c, differ[0])
			case otherwise != "":
				stale++
			default:
				same++
			}
		}
		t.Logf("%+v: %d changes, %d print otherwise, %d the same", s, tried, stale, same)
	}
}
