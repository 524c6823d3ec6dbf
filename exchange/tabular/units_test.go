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

// inUnits are ways to write a length of 64ths of an inch, or a mass of tenths of a pound: each is exact.
var inUnits = map[string]func(n int64, mass bool) string{
	"millimetres, kilograms": func(n int64, mass bool) string {
		if mass {
			return exactly(n, 45_359_237, 9) // a tenth of a pound, in micrograms
		}
		return exactly(n, 396_875, 6) // a 64th of an inch, in nanometres
	},
	"centimetres, grams": func(n int64, mass bool) string {
		if mass {
			return exactly(n, 45_359_237, 6) + " g"
		}
		return exactly(n, 396_875, 7) + " cm"
	},
	"metres": func(n int64, mass bool) string {
		if mass {
			return exactly(n, 45_359_237, 9) + " kg"
		}
		return exactly(n, 396_875, 9) + " m"
	},
	"decimal inches, pounds": func(n int64, mass bool) string {
		if mass {
			return exactly(n, 1, 1) + " lb"
		}
		return exactly(n, 15_625, 6) + " in"
	},
	"inches and 64ths": func(n int64, mass bool) string {
		if mass {
			return exactly(n, 1, 1) + " lbs"
		}
		sign := ""
		if n < 0 {
			sign, n = "-", -n
		}
		return fmt.Sprintf(`%s%d %d/64"`, sign, n/64, n%64)
	},
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
		for _, name := range []string{"millimetres, kilograms", "centimetres, grams", "metres", "decimal inches, pounds", "inches and 64ths"} {
			said, cells := inUnit(rows, inUnits[name])
			_, got := take(t, kind+".csv", said, &exchange.Contents{})
			if got.Contents == nil {
				t.Fatalf("%s in %s: %s", kind, name, complaints(got))
			}
			switch is := written(t, got.Contents); {
			case cells < 300:
				t.Errorf("%s: only %d cells have a unit", kind, cells)
			case want == nil:
				want = is
			case !bytes.Equal(want, is):
				t.Errorf("%s in %s: %v", kind, name, exchange.Compare(want, is))
			}
		}
	}
}

// inUnit writes a table with each length and mass in another unit, and how many there were.
func inUnit(rows [][]string, unit func(n int64, mass bool) string) (out []byte, cells int) {
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	for i, row := range rows {
		row = append([]string(nil), row...)
		for c := range row {
			length, mass := strings.HasSuffix(rows[0][c], "_mm"), strings.HasSuffix(rows[0][c], "_kg")
			v, err := strconv.ParseFloat(row[c], 64)
			if i == 0 || err != nil || !length && !mass {
				continue
			}
			cells++
			switch name := rows[0][c]; {
			case mass:
				row[c] = unit(int64(math.Round(v/0.045359237)), true)
			case strings.HasSuffix(name, "x_mm") || strings.HasSuffix(name, "y_mm"):
				row[c] = unit(int64(math.Round(v/25.4*64)), false)
			default: // twice as coarse, that holes are as far apart as their pattern is wide
				row[c] = unit(2*int64(math.Round(v/25.4*32)), false)
			}
		}
		_ = w.Write(row)
	}
	w.Flush()
	return b.Bytes(), cells
}
