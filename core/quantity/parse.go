package quantity

import (
	"errors"
	"fmt"
	"math/big"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Largest figures the product takes; anything above is a slip of the hand.
const (
	maxLength = 10_000 * Metre
	maxMass   = 100_000 * Kilogram
	maxText   = 64
)

// unit is a unit's name as people write it, and its size in the base unit
// (nanometres, or micrograms) as a fraction.
type unit struct {
	size     *big.Rat
	imperial bool
	name     string
}

func whole(n int64) *big.Rat { return new(big.Rat).SetInt64(n) }

var (
	millimetre = unit{whole(int64(Millimetre)), false, "mm"}
	centimetre = unit{whole(int64(Centimetre)), false, "cm"}
	metre      = unit{whole(int64(Metre)), false, "m"}
	inch       = unit{whole(int64(Inch)), true, "in"}
	foot       = unit{whole(int64(Foot)), true, "ft"}
	kilogram   = unit{whole(int64(Kilogram)), false, "kg"}
	gram       = unit{whole(int64(Gram)), false, "g"}
	pound      = unit{whole(int64(Pound)), true, "lb"}
	ounce      = unit{big.NewRat(int64(Pound), 16), true, "oz"}
	degree     = unit{whole(int64(Degree)), false, "°"}

	lengthUnits = map[string]unit{
		"mm": millimetre, "millimetre": millimetre, "millimetres": millimetre, "millimeter": millimetre, "millimeters": millimetre,
		"cm": centimetre, "centimetre": centimetre, "centimetres": centimetre, "centimeter": centimetre, "centimeters": centimetre,
		"m": metre, "metre": metre, "metres": metre, "meter": metre, "meters": metre,
		"in": inch, "inch": inch, "inches": inch, `"`: inch, "″": inch, "”": inch, "“": inch, "''": inch, "′′": inch, "’’": inch,
		"ft": foot, "foot": foot, "feet": foot, "'": foot, "′": foot, "’": foot,
	}
	massUnits = map[string]unit{
		"kg": kilogram, "kilo": kilogram, "kilos": kilogram, "kilogram": kilogram, "kilograms": kilogram,
		"g": gram, "gram": gram, "grams": gram,
		"lb": pound, "lbs": pound, "pound": pound, "pounds": pound,
		"oz": ounce, "ounce": ounce, "ounces": ounce,
	}
	angleUnits = map[string]unit{"°": degree, "deg": degree, "degree": degree, "degrees": degree}

	vulgar = map[rune]*big.Rat{
		'½': big.NewRat(1, 2), '⅓': big.NewRat(1, 3), '⅔': big.NewRat(2, 3), '¼': big.NewRat(1, 4), '¾': big.NewRat(3, 4),
		'⅕': big.NewRat(1, 5), '⅖': big.NewRat(2, 5), '⅗': big.NewRat(3, 5), '⅘': big.NewRat(4, 5),
		'⅙': big.NewRat(1, 6), '⅚': big.NewRat(5, 6),
		'⅛': big.NewRat(1, 8), '⅜': big.NewRat(3, 8), '⅝': big.NewRat(5, 8), '⅞': big.NewRat(7, 8),
	}
)

// ParseLength reads a length as people write it: "1.12 m", "39 3/4\"",
// "6-1/8 in", "3' 6 1/2\"", "½", "5⅝″", "12,5". A number without a unit
// takes bare, the unit shown beside the field. The error says what was wrong.
func ParseLength(s string, bare Length) (Length, error) {
	n, err := parse(s, lengthUnits, unit{size: whole(int64(bare)), imperial: bare%Inch == 0, name: "a length"}, "mm, cm, m, in or ft",
		int64(maxLength))
	return Length(n), err
}

// ParseMass reads a mass: "14.2 kg", "12,5 kg", "35 lb 4 oz", "900 g".
// A number without a unit takes bare.
func ParseMass(s string, bare Mass) (Mass, error) {
	n, err := parse(s, massUnits, unit{size: whole(int64(bare)), imperial: bare%Pound == 0, name: "a mass"}, "kg, g, lb or oz", int64(maxMass))
	return Mass(n), err
}

// ParseAngle reads an angle in degrees: "12", "-4.5°", "12 deg".
func ParseAngle(s string) (Angle, error) {
	n, err := parse(s, angleUnits, unit{size: whole(int64(Degree)), name: "an angle"}, "degrees", int64(360_000*Degree))
	return Angle(n), err
}

// ParseNumber reads a number without a unit: "0.42", "0,42", "1/2".
func ParseNumber(s string) (Ratio, error) {
	n, err := parse(s, nil, unit{size: whole(int64(One)), name: "a number"}, "none", int64(1_000_000_000*One))
	return Ratio(n), err
}

// parse reads: sign? (number unit)+, units falling in size and of one system,
// or sign? number alone. The sum is exact and rounded once.
func parse(s string, units map[string]unit, bare unit, allowed string, limit int64) (int64, error) {
	if len(s) > maxText {
		return 0, fmt.Errorf("%d characters is too long for a figure", len(s))
	}
	if !utf8.ValidString(s) {
		return 0, errors.New("not readable text")
	}
	p := &scanner{rest: strings.TrimSpace(s)}
	if p.rest == "" {
		return 0, errors.New("empty")
	}
	negative := p.sign()
	sum := new(big.Rat)
	var last *unit
	for first := true; ; first = false {
		p.space()
		if p.rest == "" {
			break
		}
		value, err := p.number()
		if err != nil {
			return 0, err
		}
		name := p.unitName()
		u, known := units[strings.ToLower(name)]
		switch {
		case name == "" && first && p.rest == "":
			u = bare
		case name == "" && last != nil && last.name == "ft" && p.rest == "":
			u = inch // 3' 6 is three feet six
		case name == "":
			return 0, fmt.Errorf("%q: a unit is missing or unknown; allowed: %s", s, allowed)
		case !known:
			return 0, fmt.Errorf("unit %q is not known; allowed: %s", name, allowed)
		}
		if last != nil && (u.imperial != last.imperial || u.size.Cmp(last.size) >= 0) {
			return 0, fmt.Errorf("%q: %s after %s does not add up to one figure", s, u.name, last.name)
		}
		last = &u
		sum.Add(sum, value.Mul(value, u.size))
	}
	if last == nil {
		return 0, fmt.Errorf("%q: no number", s)
	}
	n := roundRat(sum)
	if !n.IsInt64() || n.Int64() > limit {
		return 0, fmt.Errorf("%q is larger than anything here can be", s)
	}
	if negative {
		return -n.Int64(), nil
	}
	return n.Int64(), nil
}

// roundRat is the integer nearest to r, which is not negative; ties go up.
func roundRat(r *big.Rat) *big.Int {
	twice := new(big.Int).Mul(r.Num(), big.NewInt(2))
	twice.Add(twice, r.Denom())
	return twice.Div(twice, new(big.Int).Mul(r.Denom(), big.NewInt(2)))
}

type scanner struct{ rest string }

func (p *scanner) space() { p.rest = strings.TrimLeftFunc(p.rest, unicode.IsSpace) }

func (p *scanner) sign() bool {
	for _, minus := range []string{"-", "−"} {
		if after, ok := strings.CutPrefix(p.rest, minus); ok {
			p.rest = after
			return true
		}
	}
	p.rest = strings.TrimPrefix(p.rest, "+")
	return false
}

func (p *scanner) digits() string {
	n := 0
	for n < len(p.rest) && p.rest[n] >= '0' && p.rest[n] <= '9' {
		n++
	}
	d := p.rest[:n]
	p.rest = p.rest[n:]
	return d
}

// number reads a decimal, a fraction, or a whole number with a fraction.
func (p *scanner) number() (*big.Rat, error) {
	at := p.rest
	d := p.digits()
	if f, ok := p.vulgar(); ok {
		if d == "" {
			return f, nil
		}
		return f.Add(f, ratOf(d)), nil
	}
	if d == "" && !strings.HasPrefix(p.rest, ".") && !strings.HasPrefix(p.rest, ",") {
		return nil, fmt.Errorf("a number is expected at %q", clip(at))
	}
	if p.rest != "" && (p.rest[0] == '.' || p.rest[0] == ',') {
		return p.decimal(d, at)
	}
	if bar(p.rest) {
		return p.fraction(ratOf("0"), d, at)
	}
	// A whole number may be followed by a fraction: "39 3/4", "6-1/8", "5 ⅝".
	mark := *p
	joined := strings.HasPrefix(p.rest, "-") || strings.HasPrefix(p.rest, "‑") || strings.HasPrefix(p.rest, "–")
	if joined {
		_, size := utf8.DecodeRuneInString(p.rest)
		p.rest = p.rest[size:]
	}
	p.space()
	if f, ok := p.vulgar(); ok {
		return f.Add(f, ratOf(d)), nil
	}
	if n := p.digits(); n != "" && bar(p.rest) {
		return p.fraction(ratOf(d), n, at)
	}
	if joined {
		return nil, fmt.Errorf("a fraction is expected after the dash in %q", clip(at))
	}
	*p = mark
	return ratOf(d), nil
}

func (p *scanner) decimal(d, at string) (*big.Rat, error) {
	comma := p.rest[0] == ','
	p.rest = p.rest[1:]
	f := p.digits()
	if f == "" {
		return nil, fmt.Errorf("digits are missing after the decimal sign in %q", clip(at))
	}
	if comma && len(f) == 3 && d != "" && d != "0" {
		return nil, fmt.Errorf("%q could mean %s%s or %s.%s; write one of these", clip(at), d, f, d, f)
	}
	if strings.HasPrefix(p.rest, ".") || strings.HasPrefix(p.rest, ",") || bar(p.rest) {
		return nil, fmt.Errorf("%q is not one number", clip(at))
	}
	r := ratOf("0" + d + f)
	ten := new(big.Int).Exp(big.NewInt(10), big.NewInt(int64(len(f))), nil)
	return r.Quo(r, new(big.Rat).SetInt(ten)), nil
}

func (p *scanner) fraction(add *big.Rat, numerator, at string) (*big.Rat, error) {
	_, size := utf8.DecodeRuneInString(p.rest)
	p.rest = p.rest[size:]
	den := p.digits()
	if den == "" {
		return nil, fmt.Errorf("the lower figure of the fraction is missing in %q", clip(at))
	}
	if strings.Trim(den, "0") == "" {
		return nil, fmt.Errorf("%q divides by zero", clip(at))
	}
	if bar(p.rest) || strings.HasPrefix(p.rest, ".") || strings.HasPrefix(p.rest, ",") {
		return nil, fmt.Errorf("%q is not one fraction", clip(at))
	}
	f := ratOf(numerator)
	return f.Add(f.Quo(f, ratOf(den)), add), nil
}

func (p *scanner) vulgar() (*big.Rat, bool) {
	r, size := utf8.DecodeRuneInString(p.rest)
	f, ok := vulgar[r]
	if !ok {
		return nil, false
	}
	p.rest = p.rest[size:]
	return new(big.Rat).Set(f), true
}

// unitName reads a run of letters, or of unit marks such as ' and ".
func (p *scanner) unitName() string {
	p.space()
	end := len(p.rest)
	letters := false
	for i, r := range p.rest {
		isLetter := unicode.IsLetter(r)
		if unicode.IsSpace(r) || unicode.IsDigit(r) || (i > 0 && isLetter != letters) || vulgar[r] != nil {
			end = i
			break
		}
		letters = isLetter
	}
	name := p.rest[:end]
	p.rest = strings.TrimPrefix(p.rest[end:], ".") // "in.", "lbs."
	return strings.TrimSuffix(name, ".")
}

func bar(s string) bool { return strings.HasPrefix(s, "/") || strings.HasPrefix(s, "⁄") }

func ratOf(digits string) *big.Rat {
	n, ok := new(big.Int).SetString(digits, 10)
	if !ok {
		n = new(big.Int)
	}
	return new(big.Rat).SetInt(n)
}

func clip(s string) string {
	if r := []rune(s); len(r) > 24 {
		return string(r[:24]) + "…"
	}
	return s
}

// Decimal reads a JSON number, "12.5" or "1.25e1", as an integer number of
// 1/perOne: with perOne 1 000 000 the result of "12.5" mm is nanometres.
// Digits below that are rounded to nearest.
func Decimal(text string, perOne int64) (int64, error) {
	if n, ok := short(text, perOne); ok {
		return n, nil
	}
	tooBig := fmt.Errorf("%s is larger than anything here can be", clip(text))
	if len(text) > maxText {
		return 0, fmt.Errorf("%s has more digits than a figure has", clip(text))
	}
	if _, exponent, ok := strings.Cut(strings.ToLower(text), "e"); ok {
		if len(strings.TrimLeft(exponent, "+-0")) > 2 {
			return 0, tooBig
		}
	}
	r, ok := new(big.Rat).SetString(text)
	if !ok {
		return 0, fmt.Errorf("%q is not a number", clip(text))
	}
	negative := r.Sign() < 0
	n := roundRat(r.Mul(r.Abs(r), whole(perOne)))
	if n.BitLen() > 62 {
		return 0, tooBig
	}
	if negative {
		return -n.Int64(), nil
	}
	return n.Int64(), nil
}

// short reads the numbers that most files are full of: a few digits, and no
// more decimals than perOne, a power of ten, has noughts. Others are left to
// the exact arithmetic of any size.
func short(text string, perOne int64) (int64, bool) {
	digits := strings.TrimPrefix(text, "-")
	if digits == "" || len(digits) > 9 || digits[0] == '.' || digits[len(digits)-1] == '.' {
		return 0, false
	}
	n, left, seen := int64(0), perOne, false
	for _, c := range []byte(digits) {
		switch {
		case c == '.' && !seen:
			seen = true
		case c < '0' || c > '9', seen && left%10 != 0:
			return 0, false
		default:
			n = n*10 + int64(c-'0')
			if seen {
				left /= 10
			}
		}
	}
	if n > (1<<62)/max(1, left) {
		return 0, false
	}
	if n *= left; len(digits) < len(text) {
		n = -n
	}
	return n, true
}
