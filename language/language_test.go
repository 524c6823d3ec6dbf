package language

import (
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"sort"
	"strconv"
	"strings"
	"testing"

	"nexufix/core/quantity"
)

var update = flag.Bool("update", false,
	"bring the catalogues up to date: sentences that are new have no translation yet, what nobody says is left out")

var placeholder = regexp.MustCompile(`%(?:\[(\d)\])?[vq]`)

// figures are the numbers of the figures that a sentence has.
func figures(text string) []int {
	var out []int
	for i, m := range placeholder.FindAllStringSubmatch(text, -1) {
		n := i + 1
		if m[1] != "" {
			n, _ = strconv.Atoi(m[1])
		}
		out = append(out, n)
	}
	sort.Ints(out)
	return out
}

// TestCatalogues: each language has every sentence that steps and sheets say, with the same figures, and
// none that nobody says.
func TestCatalogues(t *testing.T) {
	sentences, constants := spoken(t)
	for _, l := range all() {
		texts := map[string]string{}
		for english := range sentences {
			texts[english] = l.Texts[english]
			if l.Texts[english] == "" {
				t.Errorf("%s lacks %q, which %s says", l.Code, english, sentences[english])
			}
		}
		for english, text := range l.Texts {
			if _, said := sentences[english]; !said && !composed(english, constants) {
				t.Errorf("%s has %q, which nobody says", l.Code, english)
				continue
			}
			texts[english] = text
			if want, have := figures(english), figures(text); !slices.Equal(want, have) {
				t.Errorf("%s: %q has the figures %v, %q has %v", l.Code, english, want, text, have)
			}
			if strings.Count(english, "%%") != strings.Count(text, "%%") {
				t.Errorf("%s: %q and %q differ in percent signs", l.Code, english, text)
			}
		}
		if *update {
			write(t, l, texts)
		}
	}
	if len(sentences) < 900 {
		t.Errorf("only %d sentences were found in the sources", len(sentences))
	}
}

// pieces are what names and words are composed of that no single constant has: kinds of parts and of walls
// with their sizes, the rows and sides of holes, numbers of turns.
var pieces = regexp.MustCompile(`^(%v × )?(bolt|washer|washer for lag screw|shoulder washer|spacer|lag screw|wall plug|` +
	`sleeve anchor|wood screw|spring toggle|toggle|anchor|frame fixing|hex key|plug)[M%v× ]*( mm)?$|` +
	`^(at the )?(top|middle|bottom) (left|right|centre)$|^about .* full turns$|^fastener for |^%v studs?( for each of its plates)?$|` +
	`^plug and (lag|screw)$|^touches the wall at %v°$|^too (big|small)$|` +
	`^(more than|at least|at most) %v( characters)?$|^%v characters$|^a number( of (mm|kg|°))?$|` +
	`^ratchet with a socket of |^hand screwdriver|^Bolt the (arms|plate) on$|` +
	`^%v × (spacer|shoulder washer M|washer M)%v$|` +
	`^(washer|shoulder washer) M%v$|^%v wide$|^reached from the (side|front)$|^Port, a plug stands out %v from it$`)

// composed reports whether words are a constant of the sources, or composed of some.
func composed(english string, constants map[string]string) bool {
	if _, ok := constants[english]; ok || pieces.MatchString(english) {
		return true
	}
	for c := range constants { // one of a list in one string
		if slices.Contains(strings.Split(c, ", "), english) || number.ReplaceAllString(c, "%v") == english || english == c+" %v" ||
			english == c+", %v" {
			return true
		}
	}
	return false
}

var number = regexp.MustCompile(`\d+(\.\d+)?`)

// write writes a catalogue, its entries in the order of their English texts.
func write(t *testing.T, l *quantity.Language, texts map[string]string) {
	t.Helper()
	var b strings.Builder
	sign := "point"
	if l.Comma {
		sign = "comma"
	}
	fmt.Fprintf(&b, "msgid \"\"\nmsgstr \"\"\n\"Content-Type: text/plain; charset=UTF-8\\n\"\n\"Language: %s\\n\"\n\"Language-Team: %s\\n\"\n"+
		"\"X-Decimal: %s\\n\"\n\"Plural-Forms: nplurals=1; plural=0;\\n\"\n", l.Code, l.Name, sign)
	keys := make([]string, 0, len(texts))
	for k := range texts {
		keys = append(keys, k)
	}
	sort.Strings(keys)
	for _, k := range keys {
		fmt.Fprintf(&b, "\nmsgid %s\nmsgstr %s\n", quoted(k), quoted(texts[k]))
	}
	if err := os.WriteFile(filepath.Join(".", l.Code+".po"), []byte(b.String()), 0o600); err != nil {
		t.Fatal(err)
	}
}

// quoted is a text as gettext files have it.
func quoted(s string) string {
	return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`, "\n", `\n`).Replace(s) + `"`
}

// TestOf: a language that is not there is refused with those that are; every catalogue says what it is called.
func TestOf(t *testing.T) {
	if _, err := Of("xx"); err == nil || !strings.Contains(err.Error(), "en, de") {
		t.Error(err)
	}
	if l, err := Of("en"); l != nil || err != nil {
		t.Error("English is written, not translated", l, err)
	}
	for i, code := range Codes() {
		l, err := Of(code)
		if err != nil || Names()[i] == "" {
			t.Error(code, Names()[i], err)
		}
		if l != nil && len(l.Texts) < 900 {
			t.Errorf("%s has %d texts", code, len(l.Texts))
		}
	}
}
