package tabular

import (
	"regexp"
	"slices"
	"strings"
)

var (
	inBrackets  = regexp.MustCompile(`[(\[]([^)\]]*)[)\]]`)
	punctuation = regexp.MustCompile(`[^\pL\pN"″”]+`)
)

// units by what people write for them, and the unit that the quantity parser
// reads.
var units = map[string]string{
	"mm": "mm", "millimetres": "mm", "millimeters": "mm", "cm": "cm", "m": "m", "in": "in", "inch": "in", "inches": "in", `"`: "in",
	"″": "in", "”": "in", "ins": "in",
	"ft": "ft", "kg": "kg", "kgs": "kg", "kilograms": "kg", "g": "g", "lb": "lb", "lbs": "lb", "pounds": "lb", "oz": "oz", "deg": "°",
	"degrees": "°", "°": "°",
}

// UnknownUnit is the unit of a column whose head has one that is not known, or two: what its bare numbers are, nobody knows until somebody
// says so.
const UnknownUnit = "?"

// foreignUnits are units that people write and the quantity parser does not read.
var foreignUnits = setOf("st stone stones t ton tons tonne tonnes cwt hundredweight pfund livre livres kn n newton newtons gr grain " +
	"grains dm dam km yd yard yards px pixel pixels pt points µm um micron microns mil mils thou fuß fuss pied pieds pie pies piede " +
	"piedi voet voeten libra libras libbra libbre pond rad")

// qualifiers stand in brackets beside a figure and are no units (practice).
var qualifiers = setOf("net gross max maximum min minimum approx approximate approximately nominal typical typ average avg overall total " +
	"outer inner external internal outside inside product panel screen display set body bezel stand base only incl excl including " +
	"excluding with without wo w o each per unit units pc pcs optional top bottom upper lower left right row rows hole holes thread insert " +
	"recess cup wall bracket mount vesa ca circa est estimated measured sheet bench phone caller spec datasheet landscape portrait " +
	"horizontal vertical wxh hxw wxhxd diagonal diag visible active closed extended rated load capacity packed shipping new old all class ø " +
	"rear front back bare head tv monitor frame cabinet housing chassis module thickest thinnest deepest widest note notes * † ‡ # " +
	"a b c d e f h i j k l p q r s u v x y z")

func setOf(words string) map[string]bool {
	out := map[string]bool{}
	for w := range strings.FieldsSeq(words) {
		out[w] = true
	}
	return out
}

// glyphs stand for a unit at a head's end, "Depth″"; the longer ones first.
var glyphs = []struct{ is, unit string }{{"''", "in"}, {"′′", "in"}, {"’’", "in"}, {"″", "in"}, {`"`, "in"}, {"”", "in"}, {"'", "ft"},
	{"′", "ft"}, {"’", "ft"}}

const quotes = `'"“”‘’″′`

var wholeNumber = regexp.MustCompile(`^[0-9]+$`)

// words takes a head apart: what it says, and the unit in it.
func words(head string) (text, unit string) {
	head = inEnglish(strings.ToLower(strings.TrimSpace(head)))
	for _, g := range glyphs {
		if short, glued := strings.CutSuffix(head, g.is); glued && !strings.ContainsAny(short, quotes) { // Depth "max" is a word in quotes
			head, unit = strings.TrimSpace(short), g.unit
			break
		}
	}
	if m := inBrackets.FindStringSubmatch(head); m != nil && unit == "" {
		var alone bool
		if unit, alone = bracketed(m[1]); alone {
			head = strings.Replace(head, m[0], " ", 1)
		}
	}
	list := strings.Fields(punctuation.ReplaceAllString(strings.NewReplacer("⌀", "ø", "w/o", "w o", "°", " deg ").Replace(head), " "))
	if n := len(list); unit == "" && n > 1 {
		last, named := list[n-1], n > 2 && list[n-2] == "in" // "width in dm"
		switch u, ok := units[last]; {
		case ok && wholeNumber.MatchString(list[n-2]): // tenths of a kilogram, hundreds of grams
			unit = UnknownUnit
		case ok:
			unit, list = u, list[:n-1]
			if named {
				list = list[:n-2]
			}
		case foreignUnits[last], named && !qualifiers[last]:
			unit = UnknownUnit
		}
	}
	return strings.Join(list, " "), unit
}

// bracketed is the unit that brackets in a head have, and whether they have nothing else: one that is known, with what is no unit beside
// it; [UnknownUnit] for another one, for two, and for one word of which nobody knows what it is.
func bracketed(text string) (unit string, alone bool) {
	list := strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune(" ./,;:-–", r) })
	if len(list) > 1 && list[0] == "in" {
		list = list[1:]
	}
	rest, counted := 0, slices.ContainsFunc(list, wholeNumber.MatchString)
	for _, w := range list {
		u, known := units[w]
		switch {
		case known && !counted && (unit == "" || unit == u):
			unit = u
		case known, foreignUnits[w]:
			return UnknownUnit, false
		default:
			rest++
		}
	}
	if unit == "" && len(list) == 1 && !qualifiers[list[0]] && !strings.ContainsAny(list[0], "0123456789") {
		return UnknownUnit, false
	}
	return unit, unit != "" && rest == 0
}
