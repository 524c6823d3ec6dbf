package bench

import (
	"context"
	"encoding/json"
	"math/rand/v2"
	"regexp"
	"slices"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/drawing"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
	"nexufix/core/sheet"
	"nexufix/core/steps/stepstest"
	"nexufix/demo/demotest"
	"nexufix/e2e/lots"
	"nexufix/exchange"
	"nexufix/language"
)

// heard is a language that notes what it has no words for.
func heard(t *testing.T, code string) (l quantity.Language, sentences, words map[string]bool) {
	t.Helper()
	of, err := language.Of(code)
	if err != nil {
		t.Fatal(err)
	}
	l, sentences, words = *of, map[string]bool{}, map[string]bool{}
	l.Missing = func(english string, sentence bool) {
		if sentence {
			sentences[english] = true
		} else {
			words[english] = true
		}
	}
	return l, sentences, words
}

// everything are all texts that leave for one installation.
func everything(t *testing.T, i *Installation) string {
	t.Helper()
	var out strings.Builder
	for _, format := range []string{"md", "html", "json"} {
		raw, err := i.File(format)
		if err != nil {
			t.Fatal(err)
		}
		out.Write(raw)
	}
	for _, d := range []*drawing.Drawing{sheet.MeasureCard(&i.Pairing, i.sheet(false)), sheet.DrillTemplate(&i.Pairing, i.sheet(true))} {
		if d == nil {
			continue
		}
		for n := range d.Items {
			if s, ok := d.Items[n].Shape.(drawing.Text); ok {
				out.WriteString(s.Text.In(quantity.Metric) + "\n" + s.Text.In(quantity.Imperial) + "\n")
			}
		}
	}
	return out.String()
}

// metricName are names of sizes, which are alike in all languages.
var metricName = regexp.MustCompile(`^([\d.]+ × )?M\d+(×[\d.]+)?$|^[A-Z]{1,2}\d?( [A-Z]{1,2}\d?)*$|^\{(nb|\d)\}$|` +
	`^M\d or M\d$|^[0-9a-f]{4}(-[0-9a-f]{4})+$|…$|^\d+ [A-Z]\d$`)

// TestOtherLanguagesAreWhole: of all jobs of the demo, and of random displays on random brackets and walls,
// nothing that leaves the company has words that a language lacks; what is left in English is a name, which
// the data has.
func TestOtherLanguagesAreWhole(t *testing.T) {
	all := demotest.Contents(t)
	for _, code := range language.Codes()[1:] {
		l, sentences, words := heard(t, code)
		for _, j := range all.Jobs {
			i := installation(t, all, j.ID, InstallOptions{Now: friday, Language: &l})
			everything(t, i)
			if _, err := i.File("pdf"); err != nil {
				t.Fatal(err)
			}
		}
		r := rand.New(rand.NewPCG(20, 26))
		for range lots.Times(1500) {
			d, b := all.Displays[r.IntN(len(all.Displays))], all.Brackets[r.IntN(len(all.Brackets))]
			j := randomSite(r, d, b)
			w, err := Open(context.Background(), all, Request{DisplayID: d.ID, BracketID: b.ID, Turn: int(j.Turn), Site: j})
			if err != nil {
				t.Fatal(err)
			}
			i, err := w.Install(InstallOptions{Now: friday, Language: &l})
			if err != nil {
				t.Fatal(err)
			}
			everything(t, i)
		}
		whole(t, code, all, sentences, words)
	}
}

// TestScreensAreWholeInOtherLanguages: what the bench, the wall, the editors, the grid and a call say of the demo, and of random
// displays on random brackets and walls, is in the language too.
func TestScreensAreWholeInOtherLanguages(t *testing.T) {
	all := demotest.Contents(t)
	for _, code := range language.Codes()[1:] {
		l, sentences, words := heard(t, code)
		to := quantity.Reader{Language: &l}
		look := func(q Request) {
			q.Language = &l
			w, err := Open(t.Context(), all, q)
			if err != nil {
				t.Fatal(err)
			}
			w.Bench()
			if w.job != nil && w.job.Wall.Type != "" {
				if _, err := w.OnWall(WallRequest{}); err != nil {
					t.Fatal(err)
				}
			}
		}
		for _, j := range all.Jobs {
			look(Request{JobID: j.ID})
		}
		for _, d := range all.Displays {
			for _, b := range all.Brackets {
				for _, turn := range []int{0, 90} {
					look(Request{DisplayID: d.ID, BracketID: b.ID, Turn: turn, Center: quantity.Some(1500 * quantity.Millimetre)})
				}
			}
			edited := *d
			edited.Mass = quantity.Optional[quantity.Mass]{}
			if _, err := Draw(t.Context(), all, Drawing{Display: &edited}, to); err != nil {
				t.Fatal(err)
			}
		}
		for _, b := range all.Brackets {
			if _, err := Draw(t.Context(), all, Drawing{Bracket: b}, to); err != nil {
				t.Fatal(err)
			}
		}
		r := rand.New(rand.NewPCG(20, 27))
		for range lots.Times(500) {
			d, b := all.Displays[r.IntN(len(all.Displays))], all.Brackets[r.IntN(len(all.Brackets))]
			look(Request{DisplayID: d.ID, BracketID: b.ID, Site: randomSite(r, d, b)})
		}
		Grid(all, to)
		if _, err := MeasurementPriorities(t.Context(), all, to); err != nil {
			t.Fatal(err)
		}
		for _, trials := range [][]catalog.Trial{nil, {{Thread: fastener.M6, Length: 12 * quantity.Millimetre, Outcome: catalog.Stopped}},
			{{Thread: fastener.M6, Length: 12 * quantity.Millimetre, Outcome: catalog.TooBig}, {Thread: fastener.M8,
				Length: 12 * quantity.Millimetre, Outcome: catalog.TooSmall}}} {
			if _, err := Probe(all, Trials{Trials: trials}, to); err != nil {
				t.Fatal(err)
			}
		}
		whole(t, code, all, sentences, words)
	}
}

// whole fails for what a language was found to lack.
func whole(t *testing.T, code string, all *exchange.Contents, sentences, words map[string]bool) {
	t.Helper()
	for s := range sentences {
		t.Errorf("%s lacks the sentence %q", code, s)
	}
	data := names(t, all)
	for s := range words {
		if !metricName.MatchString(s) && !strings.Contains(data, s) {
			t.Errorf("%s lacks the words %q", code, s)
		}
	}
}

// names are all texts of the catalogue.
func names(t *testing.T, all *exchange.Contents) string {
	t.Helper()
	raw, err := json.Marshal([]any{all.Displays, all.Brackets, all.Jobs})
	if err != nil {
		t.Fatal(err)
	}
	var doc any
	if err := json.Unmarshal(raw, &doc); err != nil {
		t.Fatal(err)
	}
	out := "random"
	var walk func(any)
	walk = func(v any) {
		switch v := v.(type) {
		case string:
			out += "\n" + v
		case []any:
			for _, x := range v {
				walk(x)
			}
		case map[string]any: // its names are the format's, and no data
			for _, x := range v {
				walk(x)
			}
		}
	}
	walk(doc)
	for _, d := range all.Displays {
		out += "\n" + d.Name()
	}
	return out
}

// TestSheetLetteringApart: on no template and no card of the demo's jobs does lettering lie on other lettering
// or go over the edge, whatever the language.
func TestSheetLetteringApart(t *testing.T) {
	all := demotest.Contents(t)
	for _, code := range language.Codes() {
		l, err := Language(code)
		if err != nil {
			t.Fatal(err)
		}
		for _, j := range all.Jobs {
			i := installation(t, all, j.ID, InstallOptions{Now: friday, Language: l})
			for name, d := range map[string]*drawing.Drawing{"card": sheet.MeasureCard(&i.Pairing, i.sheet(false)),
				"template": sheet.DrillTemplate(&i.Pairing, i.sheet(false)), "joined template": sheet.DrillTemplate(&i.Pairing, i.sheet(true))} {
				if d == nil {
					continue
				}
				apart(t, code+" "+j.ID+" "+name, d)
				if name != "card" {
					for _, s := range stepstest.OnTheMarks(d) {
						t.Errorf("%s %s %s: %s", code, j.ID, name, s)
					}
				}
				for n := range d.Items {
					if s, ok := d.Items[n].Shape.(drawing.Text); ok && (s.Box().Max.X > d.Max.X || s.Box().Min.X < d.Min.X) {
						t.Errorf("%s %s %s: %q goes over the edge", code, j.ID, name, s.Text.In(quantity.Metric))
					}
				}
			}
		}
	}
}

// TestNamesAreNotTranslated: what a display, a bracket and a part are called stays as it is in German, whatever words are in it.
func TestNamesAreNotTranslated(t *testing.T) {
	of, err := language.Of("de")
	if err != nil {
		t.Fatal(err)
	}
	const displayName, bracketName, partName = "concrete and bolt", "bolt, concrete", "Salt with concrete and bolt"
	for _, name := range []string{displayName, bracketName} {
		if of.Words(name) == name {
			t.Fatalf("%q has nothing that could be translated", name)
		}
	}
	if got := of.Words(partName); got != partName {
		t.Errorf("a name of words and others has become %q", got)
	}
	all := *demotest.Contents(t)
	for i, d := range all.Displays {
		other := *d
		other.Maker, other.Model = "", displayName
		all.Displays[i] = &other
	}
	for i, b := range all.Brackets {
		other := *b
		other.Name = bracketName
		other.Kit = slices.Clone(b.Kit)
		for k := range other.Kit {
			if other.Kit[k].Name != "" {
				other.Kit[k].Name = partName
			}
		}
		all.Brackets[i] = &other
	}
	told := map[string]int{}
	for _, j := range all.Jobs {
		text := everything(t, installation(t, &all, j.ID, InstallOptions{Now: friday, Language: of}))
		for _, name := range []string{displayName, bracketName, partName} {
			told[name] += strings.Count(text, name)
			for line := range strings.Lines(text) {
				if name != partName && strings.Contains(line, of.Words(name)) {
					t.Fatalf("%s: %q has become %.300s", j.ID, name, line)
				}
			}
		}
	}
	for name, n := range told {
		if n == 0 {
			t.Errorf("%q is nowhere", name)
		}
	}
}

// TestNamesAreNoWords: what somebody has called a display, a bracket or furniture is printed and shown as it is in every language, also
// where it is a word of that: with another name in its place, everything else is the same.
func TestNamesAreNoWords(t *testing.T) {
	l, err := language.Of("de")
	if err != nil {
		t.Fatal(err)
	}
	said := func(name, job string) string {
		all := demotest.Contents(t)
		for _, d := range all.Displays {
			d.Maker, d.Model = "", name
		}
		for _, b := range all.Brackets {
			b.Name = name
		}
		for _, j := range all.Jobs {
			for n := range j.Wall.Furniture {
				j.Wall.Furniture[n].Name = name
			}
		}
		w, err := Open(t.Context(), all, Request{JobID: job, Language: l})
		if err != nil {
			t.Fatal(err)
		}
		view, err := w.OnWall(WallRequest{})
		if err != nil {
			t.Fatal(err)
		}
		raw, err := json.Marshal([]any{view, w.Bench().Title, w.Bench().Others, w.Bench().Back})
		if err != nil {
			t.Fatal(err)
		}
		sums := regexp.MustCompile(`[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}|"marks":\{[^}]*\}`)
		for _, format := range []string{"md", "html", "json"} {
			file, err := installation(t, all, job, InstallOptions{Now: friday, Language: l}).File(format)
			if err != nil {
				t.Fatal(err)
			}
			raw = append(raw, file...)
		}
		return sums.ReplaceAllString(string(raw), "")
	}
	for _, j := range demotest.Contents(t).Jobs {
		as, is := strings.ReplaceAll(said("Zqxwv", j.ID), "Zqxwv", "Plate"), said("Plate", j.ID)
		if as != is {
			n := 0
			for n < len(as) && n < len(is) && as[n] == is[n] {
				n++
			}
			t.Errorf("%s: …%q, not …%q", j.ID, is[max(0, n-60):min(len(is), n+40)], as[max(0, n-60):min(len(as), n+40)])
		}
	}
}
