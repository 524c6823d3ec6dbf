package tabular

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"reflect"
	"regexp"
	"strconv"
	"strings"

	"nexufix/core/quantity"
)

var (
	plainNumber = regexp.MustCompile(`^[-+]?[0-9]*[.,]?[0-9]+$`)
	thousands   = regexp.MustCompile(`^[-+]?[0-9]{1,3}(,[0-9]{3})+$`)
	inThousands = regexp.MustCompile(`^[-+]?[0-9]{1,3}(\.[0-9]{3})+(,[0-9]+)?$`)
	trailing    = regexp.MustCompile(`(?i)([0-9½¼¾⅛⅜⅝⅞])\s*([a-z"″”°]+)\.?$`)
	sides       = regexp.MustCompile(`(?i)^([0-9]+(?:[.,][0-9]+)?)\s*(?:mm)?\s*[x×*/]\s*([0-9]+(?:[.,][0-9]+)?)\s*(?:mm)?` +
		`(?:\s*,?\s*(m[4568])(?:\s*[x×].*)?)?$`)
	inSpaces   = regexp.MustCompile(`^[-+]?[0-9]{1,3}(?:[ '’\x{202f}][0-9]{3})+(?:[.,][0-9]+)?$`)
	several    = regexp.MustCompile(`^[0-9]+\s*[x×]$|^[x×]\s*[0-9]+$|^[0-9]+\s*(?:pcs?|pieces?|off|stk|stück)\.?$`)
	ofSeveral  = regexp.MustCompile(`(?i)^[0-9]+\s*[x×]\s*(m\s*[4568])$`) // 4 x M6
	threadName = regexp.MustCompile(`(?i)^m?\s*([4568])(?:[.,]0)?\s*(?:mm)?(?:\s*[x×-].*)?$`)
)

// unknown are what people write for a figure they do not have.
func unknown(text string) bool {
	switch strings.ToLower(strings.Trim(text, " .")) {
	case "", "-", "–", "—", "?", "n/a", "na", "n.a", "unknown", "tbc", "tbd", "none", "not known", "#n/a", "#value!", "#ref!", "#div/0!":
		return true
	}
	return false
}

// origins by what people say (practice).
var origins = map[string]string{"phone": "caller", "telephone": "caller", "call": "caller", "by phone": "caller", "customer": "caller",
	"telefon": "caller", "kunde": "caller", "measured": "bench", "measurement": "bench", "gauge": "bench", "gemessen": "bench",
	"data sheet": "sheet", "datasheet": "sheet", "spec": "sheet", "spec sheet": "sheet", "manual": "sheet", "datenblatt": "sheet"}

// value makes the JSON of a cell: its name in the document, which is without
// the unit where the cell is read as a text, and its value.
func (c *Column) value(t target, text string, d Decimals) (name func(string) string, value any, err error) {
	plain := func(s string) string { return s }
	text = Unsafe(text) // as it was written, so that no spreadsheet takes it for a formula
	if t.suffix != "" {
		return c.quantity(t, text, d)
	}
	switch t.typ.Kind() {
	case reflect.String, reflect.Uint8:
		if c.Field == "pattern1.thread" || strings.HasSuffix(c.Field, ".thread") || c.Field == "thread" {
			if m := threadName.FindStringSubmatch(ofSeveral.ReplaceAllString(text, "$1")); m != nil {
				return plain, "M" + m[1], nil
			}
		}
		if c.Field == "origin" {
			if o := origins[strings.ToLower(text)]; o != "" {
				text = o
			}
		}
		return plain, text, nil
	case reflect.Int, reflect.Int64: // a count, or a number without unit
		if several.MatchString(strings.ToLower(text)) { // 4x
			text = digits.FindString(text)
		}
		n, err := number(text, d)
		if err != nil {
			return plain, nil, err
		}
		return plain, n, nil
	case reflect.Bool:
		switch strings.ToLower(text) {
		case "true", "yes", "y", "1", "x":
			return plain, true, nil
		case "false", "no", "n", "0":
			return plain, false, nil
		}
		return plain, nil, errors.New("yes or no")
	case reflect.Slice:
		if !strings.HasPrefix(text, "[") {
			var list []any
			for _, w := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' || r == '/' }) {
				w = strings.TrimSpace(w)
				if m := threadName.FindStringSubmatch(w); m != nil && c.Field == "threads" {
					w = "M" + m[1]
				}
				if k := t.typ.Elem().Kind(); k == reflect.String || k == reflect.Uint8 {
					list = append(list, w)
				} else {
					list = append(list, json.Number(w))
				}
			}
			return plain, list, nil
		}
	case reflect.Map:
	default:
		// The limits of a setting, a number or a text: as they are.
	}
	in := json.NewDecoder(strings.NewReader(text))
	in.UseNumber()
	var v any
	if err := in.Decode(&v); err != nil || in.More() {
		return plain, nil, errors.New("a list in square brackets, or a table in curly ones")
	}
	return plain, v, nil
}

// quantity reads a length, mass or angle: a number in the column's unit, or a
// text with its own.
func (c *Column) quantity(t target, text string, d Decimals) (func(string) string, any, error) {
	named := func(s string) string { return s }
	alone := func(s string) string { return strings.TrimSuffix(s, t.suffix) }
	if c.Unit == UnknownUnit && !ownUnit(text) {
		return named, nil, errors.New("a figure with its unit: that of the column's head is not known")
	}
	if inSpaces.MatchString(text) { // 1 095, as in French, and 1'095, as in Switzerland
		text = strings.NewReplacer(" ", "", "'", "", "’", "", "\u202f", "").Replace(text)
	}
	if first, ok, err := inTwoUnits(t, text, d); err != nil {
		return named, nil, err
	} else if ok {
		text = first
	}
	if plainNumber.MatchString(text) || thousands.MatchString(text) || inThousands.MatchString(text) {
		n, err := number(text, d)
		switch {
		case err != nil:
			return named, nil, err
		case c.Unit == "" || c.Unit == strings.TrimPrefix(t.suffix, "_"):
			return named, n, nil
		}
		return alone, n.String() + " " + c.Unit, nil
	}
	if trailing.MatchString(text) {
		return alone, text, nil
	}
	if c.Unit != "" { // "48 3/8" under inches
		return alone, text + " " + c.Unit, nil
	}
	return alone, text, nil
}

// twoUnits is a cell that says a figure in two units: "12.4 kg / 27.3 lb", "12.4 kg (27.3 lb)".
var twoUnits = regexp.MustCompile(`^([0-9.,]+\s*\pL+\.?)\s*(?:[/=|]\s*|\()([0-9.,]+\s*\pL+\.?)\)?$`)

// inTwoUnits is the first of the figures of a cell in two units, where both are the same.
func inTwoUnits(t target, text string, d Decimals) (first string, ok bool, err error) {
	m := twoUnits.FindStringSubmatch(text)
	if m == nil {
		return "", false, nil
	}
	a, near, ok := (&Column{}).amount(t, m[1], d)
	b, nearly, also := (&Column{}).amount(t, m[2], d)
	switch {
	case !ok || !also:
		return "", false, nil
	case math.Abs(a-b) > near+nearly+1e-9:
		return "", false, errors.New("one figure: these two are not the same")
	}
	return m[1], true, nil
}

// amount is a cell's figure in millimetres or kilograms, and by how much it may be off as it is rounded; not of what is neither.
func (c *Column) amount(t target, text string, d Decimals) (n, near float64, ok bool) {
	unit := c.Unit
	if unit == "" {
		unit = strings.TrimPrefix(t.suffix, "_")
	}
	figure := text
	if m := trailing.FindStringSubmatch(text); m != nil {
		own, known := units[strings.ToLower(m[2])]
		if !known {
			return 0, 0, false
		}
		unit, figure = own, strings.TrimSpace(text[:strings.LastIndex(text, m[1])+len(m[1])])
	}
	if inSpaces.MatchString(figure) {
		figure = strings.NewReplacer(" ", "", "'", "", "’", "", "\u202f", "").Replace(figure)
	}
	if perUnit[unit] == 0 || (t.suffix == "_kg") != masses[unit] {
		return 0, 0, false
	}
	plain, err := number(figure, d)
	if err != nil && !masses[unit] { // 48 3/8
		l, err := quantity.ParseLength(figure+" "+unit, 0)
		return l.MM(), 25.4 / 32, err == nil // said to a sixteenth of an inch, mostly
	}
	value, err := plain.Float64()
	_, decimals, _ := strings.Cut(strings.Replace(figure, ",", ".", 1), ".")
	return value * perUnit[unit], perUnit[unit] * math.Pow10(-len(decimals)) / 2, err == nil
}

// ownUnit reports whether a cell says its unit.
func ownUnit(text string) bool {
	m := trailing.FindStringSubmatch(text)
	return m != nil && units[strings.ToLower(m[2])] != ""
}

// note says where a cell's own unit is not the column's: it counts, but
// somebody should look.
func (c *Column) note(text string) string {
	if c.Field == "pattern1.thread" || strings.HasSuffix(c.Field, ".thread") || c.Field == "thread" {
		m := threadName.FindStringSubmatch(ofSeveral.ReplaceAllString(text, "$1"))
		if m != nil && !strings.EqualFold(strings.ReplaceAll(text, " ", ""), "M"+m[1]) {
			return "read as M" + m[1] + " alone"
		}
		return ""
	}
	if m := trailing.FindStringSubmatch(text); m != nil && c.Unit != "" && c.Unit != UnknownUnit {
		if own, known := units[strings.ToLower(m[2])]; known && own != c.Unit && !related(own, c.Unit) {
			return fmt.Sprintf("read as %s, in a column of %s", own, c.Unit)
		}
	}
	return ""
}

var masses = map[string]bool{"kg": true, "g": true, "lb": true, "oz": true}

// perUnit is how many millimetres or kilograms a unit has.
var perUnit = map[string]float64{"mm": 1, "cm": 10, "m": 1000, "in": 25.4, "ft": 304.8, "kg": 1, "g": 0.001, "lb": 0.45359237,
	"oz": 0.45359237 / 16}

// rounds reports whether a plain number in another unit than the format's is what
// the catalogue has already, rounded to its two or more decimals: 23.81 lb for
// 10.8 kg changes nothing, 24 lb does.
func (c *Column) rounds(text string, have any) bool {
	n, ok := have.(json.Number)
	if !ok || c.Unit == "" || c.Unit == "mm" || c.Unit == "kg" || !plainNumber.MatchString(text) {
		return false
	}
	was, err := n.Float64()
	if err != nil {
		return false
	}
	_, decimals, _ := strings.Cut(strings.Replace(text, ",", ".", 1), ".")
	if len(decimals) < 2 {
		return false
	}
	said, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
	return err == nil && strconv.FormatFloat(was/perUnit[c.Unit], 'f', len(decimals), 64) == strconv.FormatFloat(said, 'f', len(decimals), 64)
}

// related units may stand in one cell: 35 lb 4 oz, 3 ft 6 in.
func related(a, b string) bool {
	for _, pair := range [][2]string{{"lb", "oz"}, {"ft", "in"}} {
		if a == pair[0] && b == pair[1] || a == pair[1] && b == pair[0] {
			return true
		}
	}
	return false
}

// Decimals are what the numbers of a table have before their decimals.
type Decimals uint8

// The decimals; [Either] where no number of the file tells.
const (
	Points Decimals = iota
	Commas
	Either
)

var (
	withPoint = regexp.MustCompile(`^[-+]?[0-9]+\.(?:[0-9]{1,2}|[0-9]{4,})(?:\s*\pL+|["″])?$`)
	withComma = regexp.MustCompile(`^[-+]?(?:[0-9]+|[0-9]{1,3}(?:\.[0-9]{3})+),(?:[0-9]{1,2}|[0-9]{4,})(?:\s*\pL+|["″])?$`)
	belowOne  = regexp.MustCompile(`^[-+]?0[.,]`)
)

// decimalsOf tells from the numbers that could be nothing else.
func decimalsOf(rows [][]string) Decimals {
	points, commas := false, false
	for _, r := range rows {
		for _, c := range r {
			points, commas = points || withPoint.MatchString(c), commas || withComma.MatchString(c)
		}
	}
	switch {
	case points == commas:
		return Either
	case commas:
		return Commas
	}
	return Points
}

// number reads a plain number with a decimal point or comma. A comma or a point before
// three digits could be either, unless the file's decimals tell.
func number(text string, d Decimals) (json.Number, error) {
	switch {
	case belowOne.MatchString(text): // no thousands begin with nought
	case thousands.MatchString(text) && d != Commas:
		return "", fmt.Errorf("%s or %s: the table does not tell which", strings.Replace(text, ",", ".", 1), strings.ReplaceAll(text, ",", ""))
	case inThousands.MatchString(text) && d == Either && strings.Count(text, ".") == 1 && !strings.Contains(text, ","):
		return "", fmt.Errorf("%s or %s: the table does not tell which", text, strings.ReplaceAll(text, ".", ""))
	case inThousands.MatchString(text) && d != Points:
		text = strings.ReplaceAll(text, ".", "")
	case inThousands.MatchString(text) && strings.Count(text, ".") > 1:
		return "", errors.New("a number")
	}
	text = strings.Replace(strings.TrimPrefix(text, "+"), ",", ".", 1)
	if strings.HasPrefix(text, ".") {
		text = "0" + text
	}
	if strings.HasPrefix(text, "-.") {
		text = "-0" + text[1:]
	}
	f, err := strconv.ParseFloat(text, 64)
	if err != nil || strings.ContainsAny(text, "xXpP_") || f > 1e15 || f < -1e15 {
		return "", errors.New("a number")
	}
	// Spreadsheets keep 12.7 as 12.699999999999999: what they show is meant.
	if digits := strings.TrimLeft(strings.ReplaceAll(text, ".", ""), "-0"); len(digits) > 15 || strings.ContainsAny(text, "eE") {
		text = strconv.FormatFloat(f, 'f', 6, 64)
	}
	if whole, fraction, ok := strings.Cut(text, "."); ok {
		if fraction = strings.TrimRight(fraction, "0"); fraction == "" {
			text = whole
		} else {
			text = whole + "." + fraction
		}
	}
	sign := ""
	if strings.HasPrefix(text, "-") {
		sign, text = "-", text[1:]
	}
	for len(text) > 1 && text[0] == '0' && text[1] != '.' {
		text = text[1:]
	}
	return json.Number(sign + text), nil
}

var (
	andAnother = regexp.MustCompile(`(?i)\s+(?:and|or|und|oder|et|ou|y|o|e|en|of)\s+`)
	between    = regexp.MustCompile(`(?i)[0-9]\s*(?:mm)?\s*[x×*]\s*[0-9]`)
	// classOf is what stands before a size: the standard's name, or that of the size's class in it.
	classOf = regexp.MustCompile(`^(?:vesa[\s:]*)?(?:mis-?[a-f][\s:,]*)?`)
	// acrossUp is a size whose sides are named: H and V are across and up, W and H too, in either order.
	acrossUp = regexp.MustCompile(`^([0-9]+(?:[.,][0-9]+)?)\s*(?:mm)?\s*([hvw])\s*[x×*/]\s*([0-9]+(?:[.,][0-9]+)?)\s*(?:mm)?\s*([hvw])$`)
)

// holePatterns reads a whole pattern, or several: "400x300", "75x75, 100x100
// M4".
func holePatterns(text string) ([]map[string]any, error) {
	var out []map[string]any
	text = andAnother.ReplaceAllString(text, ";")
	if len(between.FindAllString(text, 3)) > 1 { // 400x400 / 300x300
		text = strings.ReplaceAll(text, "/", ";")
	}
	for _, one := range strings.FieldsFunc(text, func(r rune) bool { return r == ';' || r == '|' || r == '&' || r == '+' || r == '\n' }) {
		list := []string{one}
		if !sides.MatchString(strings.TrimSpace(one)) {
			list = strings.Split(one, ",")
		}
		for _, x := range list {
			x = classOf.ReplaceAllString(strings.ToLower(strings.TrimSpace(x)), "")
			if a := acrossUp.FindStringSubmatch(x); a != nil {
				if x = a[1] + "x" + a[3]; a[2] == "v" || a[4] == "w" { // what is up is said first
					x = a[3] + "x" + a[1]
				}
			}
			m := sides.FindStringSubmatch(x)
			if m == nil {
				return nil, errors.New("a hole pattern as 400x300, or several with commas between")
			}
			w, err1 := number(m[1], Commas)
			h, err2 := number(m[2], Commas)
			if err := errors.Join(err1, err2); err != nil {
				return nil, err
			}
			p := map[string]any{"width_mm": w, "height_mm": h}
			if m[3] != "" {
				p["thread"] = strings.ToUpper(m[3])
			}
			out = append(out, p)
		}
	}
	return out, nil
}
