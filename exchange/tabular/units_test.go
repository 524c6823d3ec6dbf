package tabular

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"math"
	"strconv"
	"strings"
	"testing"

	"nexufix/exchange"
)

// writing is how a figure is written: so many units of 10^-digits for each 64th of an inch, or each tenth of a pound, and the unit's name.
type writing struct {
	of     int64
	digits int
	unit   string
}

// inUnits are ways to write lengths and masses; each is exact.
var inUnits = []struct{ length, mass writing }{
	{writing{396_875, 6, ""}, writing{45_359_237, 9, ""}}, // millimetres and kilograms, as the columns are
	{writing{396_875, 7, " cm"}, writing{45_359_237, 6, " g"}},
	{writing{396_875, 9, " m"}, writing{45_359_237, 9, " kg"}},
	{writing{15_625, 6, " in"}, writing{1, 1, " lb"}},
	{writing{0, 0, `"`}, writing{1, 1, " lbs"}}, // inches and 64ths
}

// figure writes n of them.
func (w writing) figure(n int64) string {
	if w.of > 0 {
		return exactly(n, w.of, w.digits) + w.unit
	}
	sign := ""
	if n < 0 {
		sign, n = "-", -n
	}
	return fmt.Sprintf(`%s%d %d/64"`, sign, n/64, n%64)
}

// exactly writes n times a number of units of 10^-digits.
func exactly(n, of int64, digits int) string {
	sign, n := "", n*of
	if n < 0 {
		sign, n = "-", -n
	}
	s := fmt.Sprintf("%0*d", digits+1, n)
	return strings.TrimRight(strings.TrimRight(sign+s[:len(s)-digits]+"."+s[len(s)-digits:], "0"), ".")
}

// TestUnitsChangeNothing: a table of the demo's displays, and of its brackets, whose cells say their unit is the same catalogue in
// every unit, and so has every answer the same.
func TestUnitsChangeNothing(t *testing.T) {
	for _, kind := range []string{Displays, Brackets} {
		var text bytes.Buffer
		if err := WriteCSV(&text, kind, full(t)); err != nil {
			t.Fatal(err)
		}
		rows, err := csv.NewReader(bytes.NewReader(text.Bytes())).ReadAll()
		if err != nil {
			t.Fatal(err)
		}
		var want []byte
		for _, in := range inUnits {
			said, cells := inUnit(rows, in.length, in.mass)
			_, got := take(t, kind+".csv", said, &exchange.Contents{})
			if got.Contents == nil {
				t.Fatalf("%s in%s: %s", kind, in.length.unit, complaints(got))
			}
			switch is := written(t, got.Contents); {
			case cells < 300:
				t.Errorf("%s: only %d cells have a unit", kind, cells)
			case want == nil:
				want = is
			case !bytes.Equal(want, is):
				t.Errorf("%s in%s: %v", kind, in.length.unit, exchange.Compare(want, is))
			}
		}
	}
}

// inUnit writes a table with each length and mass in another unit, and how many there were.
func inUnit(rows [][]string, length, mass writing) (out []byte, cells int) {
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	for i, row := range rows {
		row = append([]string(nil), row...)
		for c := range row {
			v, err := strconv.ParseFloat(row[c], 64)
			if i == 0 || err != nil {
				continue
			}
			switch name := rows[0][c]; {
			case strings.HasSuffix(name, "_kg"):
				row[c] = mass.figure(int64(math.Round(v / 0.045359237)))
			case strings.HasSuffix(name, "x_mm") || strings.HasSuffix(name, "y_mm"):
				row[c] = length.figure(int64(math.Round(v / 25.4 * 64)))
			case strings.HasSuffix(name, "_mm"): // twice as coarse, that holes are as far apart as their pattern is wide
				row[c] = length.figure(2 * int64(math.Round(v/25.4*32)))
			default:
				continue
			}
			cells++
		}
		_ = w.Write(row)
	}
	w.Flush()
	return b.Bytes(), cells
}
