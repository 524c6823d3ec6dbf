package quantity

import (
	"math/big"
	"math/rand/v2"
	"os/exec"
	"strings"
	"testing"
)

func TestParseLength(t *testing.T) {
	for _, c := range []struct {
		text string
		want Length
	}{
		{"112 cm", MM(1120)},
		{"1070", MM(1070)},
		{"1070mm", MM(1070)},
		{"1.07 m", MM(1070)},
		{`39 3/4"`, 39*Inch + 3*Inch/4},
		{"6-1/8 in", 6*Inch + Inch/8},
		{`9/32"`, 9 * Inch / 32},
		{`3' 6 1/2"`, 42*Inch + Inch/2},
		{"3' 6", 42 * Inch},
		{"3 ft 6 in", 42 * Inch},
		{"½ in", Inch / 2},
		{"5⅝″", 5*Inch + 5*Inch/8},
		{"5 ⅝ inches", 5*Inch + 5*Inch/8},
		{"0.5in", Inch / 2},
		{".5 in.", Inch / 2},
		{"12,5", 12*Millimetre + 500*Micrometre},
		{"0,125 m", MM(125)},
		{"-4 mm", -MM(4)},
		{"−4 mm", -MM(4)},
		{"+4", MM(4)},
		{"  16  ", MM(16)},
		{"1/64 in", 396_875},
		{"48 3/8 in", 1_228_725_000},
		{"0", 0},
	} {
		got, err := ParseLength(c.text, Millimetre)
		if err != nil || got != c.want {
			t.Errorf("%q: got %v, %v; want %v", c.text, got, err, c.want)
		}
	}
	if got, err := ParseLength("½", Inch); err != nil || got != Inch/2 {
		t.Errorf("a bare ½ in a field of inches: %v, %v", got, err)
	}
}

func TestParseRefusesNonsense(t *testing.T) {
	for _, c := range []struct{ text, says string }{
		{"", "empty"},
		{"   ", "empty"},
		{"5//8", "lower figure"},
		{"7/0", "divides by zero"},
		{"7/", "lower figure"},
		{"1e400", "unit"},
		{"abc", "number is expected"},
		{"12 parsec", "parsec"},
		{"12 kg", "kg"},
		{"3 in 2 ft", "does not add up"},
		{"3 cm 2 in", "does not add up"},
		{"3 mm 4 mm", "does not add up"},
		{"12 34", "unit is missing"},
		{"1.2.3", "not one number"},
		{"1/2/3", "not one fraction"},
		{"5-", "fraction is expected"},
		{"1,250", "could mean"},
		{"99999 m", "larger"},
		{"--5", "number is expected"},
		{strings.Repeat("9", 65), "too long"},
		{"\xff", "not readable"},
		{"NaN", "number is expected"},
		{"∞", "number is expected"},
	} {
		got, err := ParseLength(c.text, Millimetre)
		if err == nil {
			t.Errorf("%q was taken as %v", c.text, got)
		} else if !strings.Contains(err.Error(), c.says) {
			t.Errorf("%q: %q does not say %q", c.text, err, c.says)
		}
	}
}

func TestParseMass(t *testing.T) {
	for _, c := range []struct {
		text string
		want Mass
	}{
		{"12,5 kg", 12_500 * Gram},
		{"12.5", 12_500 * Gram},
		{"900 g", 900 * Gram},
		{"35 lb", 35 * Pound},
		{"35 lb 4 oz", 35*Pound + Pound/4}, // 4 oz is a whole number of half micrograms, rounded up
		{"1 oz", 28_349_523},
	} {
		got, err := ParseMass(c.text, Kilogram)
		if err != nil || (got-c.want) > 1 || (got-c.want) < 0 {
			t.Errorf("%q: got %v, %v; want %v", c.text, got, err, c.want)
		}
	}
}

func TestParseAngle(t *testing.T) {
	if a, err := ParseAngle("-4.5°"); err != nil || a != -4_500_000 {
		t.Error(a, err)
	}
	if _, err := ParseAngle("4 mm"); err == nil {
		t.Error("millimetres were taken for an angle")
	}
}

// TestParseTorqueAndForce: moments and forces as they stand on labels and wrenches. lbf and lbf·ft by NIST SP 811, B.8, to its
// seven figures: 4.448222 N, 1.355818 N·m, 0.1129848 N·m.
func TestParseTorqueAndForce(t *testing.T) {
	for text, want := range map[string]Torque{"12": 12_000_000, "1,5 N·m": 1_500_000, "2 Nm": 2_000_000, "150 N cm": 1_500_000,
		"1 ft-lb": 1_355_818, "1 lbf·ft": 1_355_818, "10 in.lb.": 1_129_848, "1 in lbs": 112_985, "½ N-m": 500_000} {
		if got, err := ParseTorque(text); err != nil || got != want {
			t.Errorf("%s: %v, %v", text, got, err)
		}
	}
	for text, want := range map[string]Force{"100": 100_000_000, "1,2 kN": 1_200_000_000, "1 lbf": 4_448_222, "0.5 N": 500_000} {
		if got, err := ParseForce(text); err != nil || got != want {
			t.Errorf("%s: %v, %v", text, got, err)
		}
	}
	for _, text := range []string{"12 N", "12 kg", "3 lb", "ft-lb", "1 ft 2 lb", "1,200 N·m", ""} {
		if got, err := ParseTorque(text); err == nil {
			t.Errorf("%q was taken as %v", text, got)
		}
	}
	for _, text := range []string{"12 kg", "3 lb", "5 N·m", "9999999999"} {
		if got, err := ParseForce(text); err == nil {
			t.Errorf("%q was taken as %v", text, got)
		}
	}
}

// TestUnitsAgainstGNUUnits checks conversions against the program units of
// the Debian package units, which has its own tables.
func TestUnitsAgainstGNUUnits(t *testing.T) {
	for _, c := range []struct {
		ours, from, to string
		mass           bool
	}{
		{"1 in", "1 inch", "nm", false},
		{`3' 6 1/2"`, "3 feet + 6.5 inch", "nm", false},
		{"39 3/4 in", "39.75 inch", "nm", false},
		{"1.12 m", "1.12 m", "nm", false},
		{"9/32 in", "9|32 inch", "nm", false},
		{"27 in", "27 inch", "nm", false},
		{"1 lb", "1 lb", "microgram", true},
		{"35 lb 4 oz", "35 lb + 4 oz", "microgram", true},
		{"300 lb", "300 lb", "microgram", true},
	} {
		out, err := exec.Command("units", "--terse", "--output-format", "%.0f", c.from, c.to).CombinedOutput()
		if err != nil {
			t.Fatalf("units (Debian package units, see make browser-tools): %v %s", err, out)
		}
		var got string
		if c.mass {
			m, err := ParseMass(c.ours, Kilogram)
			if err != nil {
				t.Fatal(err)
			}
			got = FormatDecimal(int64(m), 0)
		} else {
			l, err := ParseLength(c.ours, Millimetre)
			if err != nil {
				t.Fatal(err)
			}
			got = FormatDecimal(int64(l), 0)
		}
		if want := strings.TrimSpace(string(out)); got != want {
			t.Errorf("%s: %s, GNU units says %s %s", c.ours, got, want, c.to)
		}
	}
}

func TestDecimal(t *testing.T) {
	for text, want := range map[string]int64{
		"12.5": 12_500_000, "1.25e1": 12_500_000, "-0.1": -100_000, "0.0000004": 0, "0.0000005": 1, "1E2": 100_000_000,
	} {
		if got, err := Decimal(text, 1_000_000); err != nil || got != want {
			t.Errorf("%s: %d, %v; want %d", text, got, err, want)
		}
	}
	for _, text := range []string{"1e400", "1e999999999", "99999999999999999999", "x", strings.Repeat("1", 100)} {
		if got, err := Decimal(text, 1_000_000); err == nil {
			t.Errorf("%s was taken as %d", text, got)
		}
	}
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{`39 3/4"`, "5⅝″", "35 lb 4 oz", "1e400", "5//8", "-", "1,250", "½½"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		if l, err := ParseLength(s, Millimetre); err == nil {
			again, err := ParseLength(l.String(), Millimetre)
			// String may write three digits after a point, never a comma.
			if err != nil || again != l {
				t.Errorf("%q is %v, but that reads as %v, %v", s, l, again, err)
			}
		}
		_, _ = ParseMass(s, Kilogram)
		_, _ = ParseAngle(s)
		_, _ = Decimal(s, 1_000_000)
	})
}

// TestDecimalsAsBigRat: a number and its places, as math/big writes them, without trailing zeros.
func TestDecimalsAsBigRat(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	for range 20_000 {
		n, places := int64(random.Uint64())>>random.IntN(63), random.IntN(10)
		if random.IntN(3) == 0 {
			n -= n % 1000
		}
		want := new(big.Rat).SetFrac(big.NewInt(n), new(big.Int).Exp(big.NewInt(10), big.NewInt(int64(places)), nil)).FloatString(places)
		if strings.Contains(want, ".") {
			want = strings.TrimRight(strings.TrimRight(want, "0"), ".")
		}
		if got := FormatDecimal(n, places); got != want {
			t.Fatalf("%d / 10^%d is written %s, want %s", n, places, got, want)
		}
	}
}
