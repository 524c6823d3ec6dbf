package quantity

import (
	"math/rand/v2"
	"strings"
	"testing"
	"unicode/utf8"
)

func TestFraction(t *testing.T) {
	for _, c := range []struct {
		l    Length
		den  int64
		b    Bound
		want string
	}{
		{39*Inch + 3*Inch/4, 16, Nearest, "39 3/4"},
		{Inch / 2, 64, Nearest, "1/2"},
		{0, 64, Nearest, "0"},
		{-Inch / 4, 64, Nearest, "-1/4"},
		{3 * Inch, 16, Nearest, "3"},
		{MM(10), 64, Nearest, "25/64"}, // 0.3937 in
		{MM(10), 64, Up, "13/32"},
		{MM(10), 64, Down, "25/64"},
		{MM(10), 7, Nearest, "25/64"}, // no such denominator: 64ths
	} {
		if got := Fraction(c.l, c.den, c.b); got != c.want {
			t.Errorf("%v in 1/%d: %q, want %q", c.l, c.den, got, c.want)
		}
	}
}

// TestFactsOfPractice checks sums that installers know by heart (common
// practice).
func TestFactsOfPractice(t *testing.T) {
	if got := (44 * Inch).Round(Centimetre); got != MM(1120) {
		t.Errorf("44 in is 1.12 m to the centimetre, not %v", got)
	}
	sum := 39*Inch + 3*Inch/4 + 6*Inch + Inch/8
	if got := Imperial.Wall(sum, Nearest); got != "45 7/8 in" {
		t.Errorf("39 3/4 + 6 1/8 = %s", got)
	}
	if got := Imperial.Wall(27*Inch/2, Nearest); got != "13 1/2 in" {
		t.Errorf("27 in apart is 13 1/2 each side, not %s", got)
	}
	if got := Imperial.Wall(MM(16), Down); got != "5/8 in" {
		t.Errorf("16 mm is 5/8 in, not %s", got)
	}
}

func TestShow(t *testing.T) {
	for _, c := range []struct{ got, want string }{
		{Metric.Stack(12_340_000, Nearest), "12.3 mm"},
		{Metric.Stack(12_340_000, Up), "12.4 mm"},
		{Metric.Stack(-12_340_000, Down), "-12.4 mm"},
		{Metric.Wall(12_340_000, Nearest), "12.5 mm"},
		{Metric.Wall(12_240_000, Nearest), "12 mm"},
		{Metric.Mass(14_200*Gram, Nearest), "14.2 kg"},
		{Metric.Mass(14_201*Gram, Up), "14.21 kg"},
		{Metric.Mass(14_209*Gram, Down), "14.2 kg"},
		{Imperial.Mass(45*Kilogram, Up), "99.3 lb"},
		{Imperial.Mass(45*Kilogram, Down), "99.2 lb"},
		{Metric.Angle(0.286), "0.29°"},
		{MM(12).String(), "12 mm"},
		{Length(12_500_001).String(), "12.500001 mm"},
		{(14_200 * Gram).String(), "14.2 kg"},
		{(3 * Degree / 10).String(), "0.3°"},
		{(8 * One / 10).String(), "0.8"},
	} {
		if c.got != c.want {
			t.Errorf("%q, want %q", c.got, c.want)
		}
	}
}

func TestPhraseSpeaksBothSystems(t *testing.T) {
	p := Say("%v of %v, at least %v: %v", Say("room"), MM(10), AtLeast(MM(10)), Capacity(45*Kilogram))
	if got := p.In(Metric); got != "room of 10 mm, at least 10 mm: 45 kg" {
		t.Error(got)
	}
	if got := p.In(Imperial); got != "room of 25/64 in, at least 25/64 in: 99.2 lb" {
		t.Error(got)
	}
	if Say("%").In(Metric) != "%" || !(Phrase{}).Empty() {
		t.Error("a sentence without figures is not a format")
	}
}

// TestRoundingNeverCrosses: what is shown for a lower bound never exceeds the
// figure, what is shown for an upper bound never falls short of it.
func TestRoundingNeverCrosses(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	for range 20000 {
		l := Length(r.Int64N(int64(4*Metre))) - 2*Metre
		step := []Length{Millimetre / 10, Millimetre / 2, Inch / 64, Inch / 16}[r.IntN(4)]
		down, up, near := roundTo(l, step, Down), roundTo(l, step, Up), roundTo(l, step, Nearest)
		if down > l || up < l || l-down >= step || up-l >= step || (near-l).Abs() > step/2 || near%step != 0 {
			t.Fatalf("%v by %v: %v %v %v", l, step, down, near, up)
		}
	}
}

func TestJSONRoundTrip(t *testing.T) {
	var l Length
	raw, _ := Length(1_228_725_000).MarshalJSON()
	if err := l.UnmarshalJSON(raw); err != nil || l != 1_228_725_000 {
		t.Error(l, err)
	}
	var m Mass
	raw, _ = Mass(14_200_001_000).MarshalJSON()
	if err := m.UnmarshalJSON(raw); err != nil || m != 14_200_001_000 {
		t.Error(m, err)
	}
}

func TestRatio(t *testing.T) {
	if got := (One * 8 / 10).Of(MM(6)); got != 4_800_000 {
		t.Error(got)
	}
	if got := (One * 9 / 10).OfMass(36 * Kilogram); got != 32_400*Gram {
		t.Error(got)
	}
}

// TestWrap: lines end between words, nothing is lost, in both systems.
func TestWrap(t *testing.T) {
	p := Say("The display's top comes %v above the level line, and its bottom %v below it.", Wall(MM(229)), Wall(MM(405)))
	for _, letters := range []int{1, 10, 30, 200} {
		lines := p.Wrap(func(line string) bool { return utf8.RuneCountInString(line) <= letters })
		for _, u := range []Units{Metric, Imperial} {
			var all []string
			for _, l := range lines {
				text := l.In(u)
				if text == "" {
					continue
				}
				if len(text) > letters && strings.Contains(text, " ") {
					t.Errorf("%d letters: %q", letters, text)
				}
				all = append(all, text)
			}
			if got := strings.Join(all, " "); got != p.In(u) {
				t.Errorf("%d letters: %q", letters, got)
			}
		}
	}
	if got := p.Wrap(func(string) bool { return true }); len(got) != 1 || len(Say("").Wrap(func(string) bool { return false })) != 1 {
		t.Error(got)
	}
}

// TestPercentSigns: a format has %% for a percent sign, whether figures stand in it or not.
func TestPercentSigns(t *testing.T) {
	for want, p := range map[string]Phrase{
		"print at 100 %":          Say("print at 100 %%"),
		"print at 100 %, not 97":  Say("print at 100 %%, not %v", 97),
		"40 to 70 % of the lag's": Say("40 to 70 % of the lag's"),
	} {
		if got := p.In(Metric); got != want {
			t.Errorf("%q, want %q", got, want)
		}
		n := 0
		if got, _ := p.Numbered(&n); strings.Contains(got, "%%") {
			t.Errorf("%q is edited as %q", want, got)
		}
	}
}

// size is a number that has a name of its own, as a thread has.
type size uint8

func (s size) String() string { return "size " + string('0'+rune(s)) }

// TestWhatASentenceTakes: names of any length and letters, numbers and texts of other types, sentences and
// figures of another sentence; of anything else the name of its type is seen, and nothing ends the program.
func TestWhatASentenceTakes(t *testing.T) {
	long := strings.Repeat("a long name, ", 30) + "\x00\xff ½ %v {1}"
	n := 0
	_, again := Say("%v %v %v", "a name", MM(3), Say("of %v", Wall(MM(4)))).Numbered(&n)
	for _, c := range []struct {
		said any
		want string
	}{
		{long, long}, {"", ""}, {7, "7"}, {-12_345, "-12345"}, {size(3), "size 3"}, {2.5, "2.5"}, {int64(-9), "-9"}, {Nearest, "0"},
		{Say("in %v", Say("%v", 5)), "in 5"}, {Either{"mm", "in"}, "mm"}, {again[0], "a name"}, {again[1], "3 mm"}, {again[2], "of 4 mm"},
		{nil, "nil"}, {true, "bool"}, {[]int{1}, "[]int"}, {struct{ X int }{1}, "struct { X int }"},
	} {
		p := Say("%v of %v", c.said, "all")
		if got := p.In(Metric); got != c.want+" of all" {
			t.Errorf("%#v is said %q, want %q", c.said, got, c.want+" of all")
		}
		if !p.Same(Say("%v of %v", c.said, "all")) || p.Same(Say("%v of %v", c.said, "some")) || p.Same(Say("%v of %v", 8, "all")) {
			t.Errorf("%#v is not told from another", c.said)
		}
	}
}
