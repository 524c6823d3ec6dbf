package sheet

import (
	"strings"
	"testing"

	"nexufix/core/quantity"
)

// TestCheckPrint: 0.5 % is the limit, to the nanometre (practice).
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
		{100 * mm, 90 * mm, false, "fit to page"},
		{100 * mm, 90*mm - 1, false, "measure again"},
		{100 * mm, 110 * mm, false, "Set the printer to 100"},
		{100 * mm, 110*mm + 1, false, "measure again"},
		{100 * mm, 102_108_000, false, "the other bar"}, // 101.6 and five thousandths
		{100 * mm, 102_108_001, false, "printed at 102.1 %, and holes would be up to 21 mm out on a metre"},
		{100 * mm, 98_800_000, false, "up to 12 mm out"},
	} {
		ok, said := CheckPrint(c.bar, c.measured)
		if text := said.In(quantity.Metric); ok != c.ok || !strings.Contains(text, c.says) {
			t.Errorf("%s of %s: %v %q", c.measured, c.bar, ok, text)
		}
	}
}
