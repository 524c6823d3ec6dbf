package exchange

import (
	"fmt"
	"strings"
	"testing"
)

// TestHostileDocuments: what is only large is refused early, with an answer that
// a person can read, however large it is.
func TestHostileDocuments(t *testing.T) {
	in := func(display string) string {
		return `{"format":"nexufix/1","displays":[{"id":"a",` + display + `}]}`
	}
	many := func(n int, of func(int) string) string {
		var b strings.Builder
		for i := range n {
			if i > 0 {
				b.WriteByte(',')
			}
			b.WriteString(of(i))
		}
		return b.String()
	}
	nought := func(int) string { return "0" }
	for name, c := range map[string]struct{ raw, says string }{
		"noughts":        {"[" + many(10_000_000, nought) + "]", "more than 100000 entries"},
		"noughts inside": {`{"format":"nexufix/1","displays":[` + many(200_000, nought) + `]}`, "more than 100000 entries"},
		"lists in lists": {"[" + many(50_000, func(int) string { return "[" + strings.Repeat("0,", 60) + "0]" }) + "]",
			"more than 2000000 values"},
		"unknown fields": {in(many(800_000, func(i int) string { return fmt.Sprintf(`"u%d":0`, i) })), "more than 10000 names"},
		"some unknown":   {in(many(9_000, func(i int) string { return fmt.Sprintf(`"u%d":0`, i) })), "there are more"},
		"a long name":    {in(`"` + strings.Repeat("x", 8_000_000) + `":1`), "is not a field"},
		"a long number":  {in(`"width_mm":` + strings.Repeat("9", 8_000_000)), "width_mm"},
		"origins": {in(`"origins":{` + many(28_000, func(i int) string {
			return fmt.Sprintf(`"patterns[%d].width_mm":"bench"`, i)
		}) + `}`), "more than 10000 names"},
		"the same again":   {in(many(9_000, func(int) string { return `"width_mm":1` })), "stands twice"},
		"nested":           {strings.Repeat("[", 500_000) + strings.Repeat("]", 500_000), "nested more than 32 deep"},
		"displays of none": {`{"format":"nexufix/1","displays":[` + many(90_000, func(int) string { return "{}" }) + `]}`, "there are more"},
	} {
		said := problemsOf(t, c.raw).Error()
		if !strings.Contains(said, c.says) {
			t.Errorf("%s: %.300s", name, said)
		}
		if len(said) > 150_000 {
			t.Errorf("%s: the answer has %d letters", name, len(said))
		}
	}
}
