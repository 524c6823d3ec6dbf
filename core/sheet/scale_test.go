package sheet

import (
	"strings"
	"testing"

	"nexufix/core/quantity"
)

// TestCheckPrint: half a hundredth is the limit, to the nanometre (practice).
func TestCheckPrint(t *testing.T) {
	mm := quantity.Millimetre
	for _, c := range []struct {
		bar, measured quantity.Length
		ok            bool
		says          string
	}{
		{100 * mm, 100 * mm, true, "Accepted"},
		{100 * mm, 100*mm + mm/2, true, "Accepted"},
		{100 * mm, 100*mm + mm/2 + 1, false, "100 %"},
		{100 * mm, 100*mm - mm/2, true, "Accepted"},
		{100 * mm, 100*mm - mm/2 - 1, false, "fit to page"},
		{100 * mm, 97 * mm, false, "printed at 97 %, and holes would be up to 30 mm out on a metre"},
		{100 * mm, 4 * quantity.Inch, false, "the other bar"},
		{4 * quantity.Inch, 100 * mm, false, "the other bar"},
		{4 * quantity.Inch, 4 * quantity.Inch, true, "Accepted"},
		{100 * mm, 10 * mm, false, "measure again"},
		{100 * mm, 400 * mm, false, "measure again"},
	} {
		ok, said := CheckPrint(c.bar, c.measured)
		if text := said.In(quantity.Metric); ok != c.ok || !strings.Contains(text, c.says) {
			t.Errorf("%s of %s: %v %q", c.measured, c.bar, ok, text)
		}
	}
}
