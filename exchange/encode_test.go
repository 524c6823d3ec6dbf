package exchange

import (
	"bytes"
	"encoding/json"
	"strings"
	"sync"
	"testing"

	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// TestEncoderIsMadeOnce: of those who ask for an encoder that is not made yet, none meets one that is
// half made.
func TestEncoderIsMadeOnce(t *testing.T) {
	var all sync.WaitGroup
	for range 200 {
		encoders.Lock()
		clear(encoders.of)
		encoders.Unlock()
		for range 4 {
			all.Go(func() {
				if got := string(appendIndented(nil, &Stack{Alternative: &Stack{}}, 0)); strings.Count(got, "arm_plane_mm") != 2 {
					t.Error(got)
				}
			})
		}
		all.Wait()
	}
}

// TestEncoderAgreesWithLibrary: pairings of all verdicts, and texts that have to be escaped or do not,
// are written as encoding/json writes them.
func TestEncoderAgreesWithLibrary(t *testing.T) {
	library := func(v any) string {
		var out bytes.Buffer
		e := json.NewEncoder(&out)
		e.SetEscapeHTML(false)
		e.SetIndent("", "  ")
		if err := e.Encode(v); err != nil {
			t.Fatal(err)
		}
		return string(bytes.TrimSuffix(out.Bytes(), []byte("\n")))
	}
	same := func(v any) {
		t.Helper()
		if got, want := string(appendIndented(nil, v, 0)), library(v); got != want {
			t.Errorf("got\n%s\nwant\n%s", got, want)
		}
	}
	var c Contents
	c.Displays, c.Brackets = catalogtest.Many(40, 20)
	c.Displays[3].Patterns = nil
	good, on := catalogtest.Pair()
	c.Displays, c.Brackets = append(c.Displays, good), append(c.Brackets, on)
	verdicts := map[fit.Verdict]bool{}
	for _, d := range c.Displays {
		for _, b := range c.Brackets {
			p := fit.Judge(d, b, 0, fit.Extra{}, c.PolicyOrDefault())
			verdicts[p.Verdict] = true
			same(PairingOf(&p, quantity.Metric, false))
		}
	}
	if len(verdicts) != len(fit.Verdicts) {
		t.Errorf("only %v came about", verdicts)
	}
	for _, text := range []string{"", "plain", `"quoted" \ back`, "a\tb\nc\x01\x7f", "<&>", "48 3/8 in × 5 °, 3″", "\u2028 and \u2029", "\xff no UTF-8", "😀"} {
		same(Check{Text: text, Marks: []string{text}, Origins: map[string]string{"b": text, "a": ""}})
	}
	same(Check{Value: quantity.Some(Num(-1_500_000)), Limit: quantity.Some(Num(0)), Marks: []string{}})
	same(Stack{Supplied: []SuppliedItem{}, Groups: []StackGroup{{Holes: []string{}, Spacers: []MM{1, -20_000_000}}}, Alternative: &Stack{}})
}
