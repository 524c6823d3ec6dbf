package tabular

import (
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"regexp"
	"strconv"
	"strings"
)

var (
	plainNumber = regexp.MustCompile(`^[-+]?[0-9]*[.,]?[0-9]+$`)
	thousands   = regexp.MustCompile(`^[-+]?[0-9]{1,3}(,[0-9]{3})+$`)
	inThousands = regexp.MustCompile(`^[-+]?[0-9]{1,3}(\.[0-9]{3})+(,[0-9]+)?$`)
	trailing    = regexp.MustCompile(`(?i)([0-9½¼¾⅛⅜⅝⅞])\s*([a-z"″”°]+)\.?$`)
	sides       = regexp.MustCompile(`(?i)^([0-9]+(?:[.,][0-9]+)?)\s*(?:mm)?\s*[x×*/]\s*([0-9]+(?:[.,][0-9]+)?)\s*(?:mm)?` +
		`(?:\s*,?\s*(m[4568])(?:\s*[x×].*)?)?$`)
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

// value makes the JSON of a cell: its name in the document, which is without
// the unit where the cell is read as a text, and its value.
func (c *Column) value(t target, text string, comma bool) (name func(string) string, value any, err error) {
	plain := func(s string) string { return s }
	text = Unsafe(text) // as it was written, so that no spreadsheet takes it for a formula
	if t.suffix != "" {
		return c.quantity(t, text, comma)
	}
	switch t.typ.Kind() {
	case reflect.String, reflect.Uint8:
		if c.Field == "pattern1.thread" || strings.HasSuffix(c.Field, ".thread") || c.Field == "thread" {
			if m := threadName.FindStringSubmatch(text); m != nil {
				return plain, "M" + m[1], nil
			}
		}
		return plain, text, nil
	case reflect.Int, reflect.Int64: // a count, or a number without unit
		n, err := number(text, comma)
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
	d := json.NewDecoder(strings.NewReader(text))
	d.UseNumber()
	var v any
	if err := d.Decode(&v); err != nil || d.More() {
		return plain, nil, errors.New("a list in square brackets, or a table in curly ones")
	}
	return plain, v, nil
}

// quantity reads a length, mass or angle: a number in the column's unit, or a
// text with its own.
func (c *Column) quantity(t target, text string, comma bool) (func(string) string, any, error) {
	named := func(s string) string { return s }
	alone := func(s string) string { return strings.TrimSuffix(s, t.suffix) }
	if c.Unit == UnknownUnit && !ownUnit(text) {
		return named, nil, errors.New("a figure with its unit: that of the column's head is not known")
	}
	if plainNumber.MatchString(text) || thousands.MatchString(text) || inThousands.MatchString(text) {
		n, err := number(text, comma)
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

// ownUnit reports whether a cell says its unit.
func ownUnit(text string) bool {
	m := trailing.FindStringSubmatch(text)
	return m != nil && units[strings.ToLower(m[2])] != ""
}

// note says where a cell's own unit is not the column's: it counts, but
// somebody should look.
func (c *Column) note(text string) string {
	if m := trailing.FindStringSubmatch(text); m != nil && c.Unit != "" && c.Unit != UnknownUnit {
		if own, known := units[strings.ToLower(m[2])]; known && own != c.Unit && !related(own, c.Unit) {
			return fmt.Sprintf("read as %s, in a column of %s", own, c.Unit)
		}
	}
	return ""
}

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

// number reads a plain number with a decimal point or comma. A comma before
// three digits could be either, unless the file's decimals have commas.
func number(text string, comma bool) (json.Number, error) {
	switch {
	case thousands.MatchString(text) && !comma:
		return "", fmt.Errorf("%s could be %s or %s", text, strings.Replace(text, ",", ".", 1), strings.ReplaceAll(text, ",", ""))
	case inThousands.MatchString(text) && comma:
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

// holePatterns reads a whole pattern, or several: "400x300", "75x75, 100x100
// M4".
func holePatterns(text string) ([]map[string]any, error) {
	var out []map[string]any
	for _, one := range strings.FieldsFunc(text, func(r rune) bool { return r == ';' || r == '|' || r == '&' || r == '+' || r == '\n' }) {
		list := []string{one}
		if !sides.MatchString(strings.TrimSpace(one)) {
			list = strings.Split(one, ",")
		}
		for _, x := range list {
			x = strings.TrimSpace(strings.TrimPrefix(strings.ToLower(strings.TrimSpace(x)), "vesa"))
			m := sides.FindStringSubmatch(x)
			if m == nil {
				return nil, errors.New("a hole pattern as 400x300, or several with commas between")
			}
			w, err1 := number(m[1], true)
			h, err2 := number(m[2], true)
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
